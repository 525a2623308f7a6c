"""A power failure hour by hour: what goes when, what to do then, and what a battery keeps running in which order."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..basics.working import Formula, FormulaInput, Result, Working
from ..science.heat_balance import falls_to_h, holding_w
from ..science.parameters import Parameter
from ..system.endurance import BATTERY_SHARE, air_after_h, battery_h, held_c
from .installation import Installation
from .outcome import hours_words
from .usual import CHILL_C, HARMS

TEMPERATURE = Parameter.TEMPERATURE
CLOSED_H, LIVE_ROCK_H = 2.0, 24.0
"""Hours until a closed filter spoils, and until the bacteria in rock and sand lack oxygen (judgement)."""
BRIDGE_H = 12.0
"""Hours that a battery is sized for (judgement: a night)."""
AIR_PUMP_W = 5.0
"""A battery's air pump, where none was entered."""
LOOK_AHEAD_H = 96.0

LASTS = Formula("t", "hours the battery lasts", "E * s / P", "h", "energy over power")
SIZE = Formula("E", "energy for the night", "P * t / s", "Wh", "power over time")


@dataclass(frozen=True)
class PowerMark:
    """Something that happens without power. after_h: hours since it went off · what: in words · do: what to do then."""

    after_h: float
    what: str
    do: str
    working: Working = ()

    @property
    def when(self) -> str:
        """The time in words."""
        return f"after {hours_words(self.after_h)}" if self.after_h else "at once"


def power_marks(at: Installation) -> list[PowerMark]:
    """What happens without power, in the order of time, for four days."""
    found = [*_at_once(at), *_air(at), *_warmth(at), *_filters(at)]
    return sorted((one for one in found if one.after_h <= LOOK_AHEAD_H), key=lambda one: one.after_h)


def _at_once(at: Installation) -> Iterator[PowerMark]:
    bridged = battery_h(at.system)
    start = "the battery pump, if it did not start by itself" if bridged else "by a jug from a height"
    yield PowerMark(0.0, "No flow", f"Plugs out, the sump looked at; then move the water: {start}.")
    if bridged:
        yield PowerMark(bridged, "The battery is empty", "Charge it from a car, or go on with a jug from a height.")


def _air(at: Installation) -> Iterator[PowerMark]:
    if not at.alive:
        return
    stirred = bool(battery_h(at.system))
    hours = air_after_h(at.system, at.now(Parameter.SALINITY), at.now(TEMPERATURE), stirred)
    if hours is not None:
        way = "although the surface is moved" if stirred else "in still water"
        do = "Fifty jugs from a height every quarter of an hour, and before this hour. Large fish suffer first."
        yield PowerMark(float(hours), f"Oxygen is low {way}", do, hours.working)


def _warmth(at: Installation) -> Iterator[PowerMark]:
    now = at.now(TEMPERATURE)
    for to_c, do in (
        (now - 1.0, "Blankets round the panels, the lid nearly shut, a gap for air."),
        (CHILL_C, "Closed bottles of warm water in the sump, changed as they cool; no hot water poured in."),
        (HARMS["cold_c"][1], "A neighbour with power: the animals in a tub with a heater and an air stone."),
    ):
        hours = falls_to_h(at.balance, at.heating.cold_c, 0.0, now, to_c) if to_c < now else None
        if hours is not None and hours > 0:
            yield PowerMark(float(hours), f"{at.shown(TEMPERATURE, to_c)} in a cold room", do, hours.working)


def _filters(at: Installation) -> Iterator[PowerMark]:
    if at.has("canister", "hang_on"):
        yield PowerMark(CLOSED_H, "A closed filter spoils", "Open it and rinse it before it runs again.")
    do = "When the power is back, ammonia is tested at once and a day later."
    yield PowerMark(LIVE_ROCK_H, "Bacteria in rock and sand lack oxygen", do)


@dataclass(frozen=True)
class BatteryLoad:
    """What hangs on a battery, everything before it too. key: what was added · lasts: hours of the battery that was
    entered, None without one · size: Wh for a night."""

    key: str
    power_w: float
    lasts: Result | None
    size: Result


def battery_order(at: Installation) -> list[BatteryLoad]:
    """What a battery runs, in the order in which it is worth it: air, then all pumps, then heat to hold the temperature
    in the coldest room."""
    heating = at.heating
    air = heating.battery_w or AIR_PUMP_W
    loads = [("air", air)]
    pumps = max(air, heating.pumps_w)
    if pumps > air:
        loads.append(("pumps", pumps))
    heat = float(holding_w(at.balance, held_c(at.system), heating.cold_c, pumps))
    if heat > 0:
        loads.append(("heat", pumps + heat))
    return [_load(at, key, watts) for key, watts in loads]


def _load(at: Installation, key: str, watts: float) -> BatteryLoad:
    power, share = (
        FormulaInput(watts, "W", "all that hangs on it"),
        FormulaInput(BATTERY_SHARE, "", "of what is printed"),
    )
    energy = at.heating.battery_wh
    lasts = LASTS.result(E=FormulaInput(energy, "Wh", "battery"), s=share, P=power) if energy else None
    return BatteryLoad(key, watts, lasts, SIZE.result(P=power, t=FormulaInput(BRIDGE_H, "h", "a night"), s=share))
