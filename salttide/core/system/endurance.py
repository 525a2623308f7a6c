"""How long a system holds out: its heat balance, hours until it is cold, hours until oxygen is low."""

from __future__ import annotations

from ..basics.working import Result
from ..science.heat import COLD_C
from ..science.heat_balance import (
    HeatBalance,
    dry_by_cooling_w_k,
    dry_by_duty_w_k,
    dry_loss_w_k,
    falls_to_h,
)
from ..science.oxygen import STILL_CM_H, STIRRED_CM_H, oxygen_h
from ..science.parameters import Parameter
from .heating import SURFACES
from .system import System

USUAL_SHARE = 0.008
"""The usual evaporation, a share of the net volume a day, where no top-off is recorded (judgement)."""
FISH_G = 15.0
"""The weight of a fish, where the keeper gave none: every animal that is fed counts as one (judgement)."""
BATTERY_SHARE = 0.85
"""What a battery gives of what is printed on it (judgement)."""
USUAL_C = 25.0


def held_c(system: System) -> float:
    """The temperature that a system is held at."""
    return system.aim(Parameter.TEMPERATURE) or USUAL_C


def heat_balance(system: System) -> HeatBalance:
    """The heat balance of a system: what evaporates, as its record shows; what else it loses, as a logged cooling
    measured it, else by its heaters' duty, else estimated from its measures and its lid."""
    heating, geometry = system.heating, system.geometry
    wet = heating.evaporates_l_day
    wet = USUAL_SHARE * system.volume_l if wet is None else wet
    water = max(held_c(system), heating.room_c + 0.5)
    dry = dry_loss_w_k(geometry.footprint_cm2 / 1e4, geometry.depth_cm / 100, SURFACES[heating.lid])
    found = HeatBalance(system.volume_l, dry, wet, water, heating.room_c)
    learned = _learned(system, found)
    return found if learned is None else HeatBalance(system.volume_l, learned, wet, water, heating.room_c)


def _learned(system: System, estimated: HeatBalance) -> Result | None:
    heating = system.heating
    log = (heating.cooled_from_c, heating.cooled_to_c, heating.cooled_h, heating.cooled_room_c)
    if heating.logged:
        return dry_by_cooling_w_k(estimated, *(float(value or 0.0) for value in log))
    if heating.duty and heating.heaters_w:
        return dry_by_duty_w_k(estimated, heating.heat_w, heating.duty, heating.gains_w)
    return None


def cold_after_h(system: System, water_c: float) -> Result | None:
    """Hours until a system without power is cold, in its coldest room, for the house has no heating then either; None
    where the room keeps it warm enough."""
    return falls_to_h(heat_balance(system), system.heating.cold_c, 0.0, water_c, COLD_C)


def fish_g(system: System) -> float:
    """The weight (g) of the fish: the keeper's, or a usual one for each animal that is fed."""
    if system.heating.fish_g is not None:
        return system.heating.fish_g
    return sum(FISH_G * animal.count for animal in system.animals if animal.portions)


def air_after_h(system: System, salinity: float, water_c: float, stirred: bool = False) -> Result | None:
    """Hours until oxygen is low once the flow has stopped, in still water or with a surface that a battery's pump
    breaks; None where enough comes in through the surface."""
    surface = system.geometry.footprint_cm2 / 1e4
    exchange = STIRRED_CM_H if stirred else STILL_CM_H
    return oxygen_h(system.volume_l, surface, fish_g(system), salinity, water_c, exchange)


def battery_h(system: System) -> float:
    """Hours that the battery runs what hangs on it; 0 without one."""
    heating = system.heating
    return heating.battery_wh * BATTERY_SHARE / heating.battery_w if heating.battery_w else 0.0
