"""The tank side of a change: fall of the level, hoses, pumps, drain-back, zones, minutes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..basics.errors import DomainError, InputError, PlanError, check_range
from ..basics.working import Result
from ..science.draining import (
    Chamber,
    bucket_count,
    drain_back_l,
    drain_minutes,
    fall_cm,
    fill_minutes,
    siphon_tube_cm,
    sump_holds,
    sump_room_l,
    zone_volumes_l,
)
from ..system.system import System
from ..system.volume import display_chamber


@dataclass(frozen=True)
class Plumbing:
    """Hoses, pumps and levels of a system, as far as they are known (None: not measured).

    bore_mm, hose_m, head_cm: of the drain hose, head from the surface to its outlet · pump_l_h: real flow of the pump
    that fills, 0 by bucket · heater_w: of the new water's heater · fall_cm: how far the display falls when the return
    stops · outlet_cm: depth of the return's outlet below the running level · rim_cm: the sump's rim above its floor.
    """

    bore_mm: float = 16.0
    hose_m: float = 3.0
    head_cm: float = 80.0
    pump_l_h: float = 0.0
    heater_w: float = 0.0
    fall_cm: float | None = None
    outlet_cm: float | None = None
    rim_cm: float | None = None


def check_service(service: Plumbing) -> Plumbing:
    """Refuse impossible values at their field: bore 4 to 60 mm, hose 0.1 to 50 m, head 1 to 400 cm, pump to 20 000
    L/h."""
    check_range("bore", service.bore_mm, "mm", 4, 60, field="bore_mm")
    check_range("hose", service.hose_m, "m", 0.1, 50, field="hose_m")
    check_range("head", service.head_cm, "cm", 1, 400, field="head_cm")
    check_range("pump", service.pump_l_h, "L/h", 0, 20_000, field="pump_l_h")
    check_range("heater", service.heater_w, "W", 0, 2000, field="heater_w")
    for name in ("fall_cm", "outlet_cm"):
        value = getattr(service, name)
        if value is not None:
            check_range(name.removesuffix("_cm"), value, "cm", 0, 100, field=name)
    if service.rim_cm is not None:
        check_range("rim", service.rim_cm, "cm", 1, 200, field="rim_cm")
    return service


MAX_ZONES = 6


def zone_names(count: int) -> tuple[str, ...]:
    """The names of the places it is drained at; a single one needs no name.

    >>> zone_names(1), zone_names(2), zone_names(3)[-1]
    ((), ('left', 'right'), 'zone 3')
    """
    if count < 2:
        return ()
    return ("left", "right") if count == 2 else tuple(f"zone {number}" for number in range(1, count + 1))


@dataclass(frozen=True)
class Drain:
    """How a system is drained: from sump or display, straight to the drain or by buckets, shared over zones."""

    sump_falls: bool = False
    straight: bool = False
    zones: tuple[str, ...] = ()
    keep_l: float = 0.0


@dataclass(frozen=True)
class TankSide:
    """The work at the tank. back: what drains back when the return stops, broken: through a failed siphon break, and
    whether the sump's room holds each (None: not known) · rough: the mark goes by a typical tank, not by measures."""

    mark: Result
    litres_per_cm: float
    buckets: int
    minutes: Result | None
    fill: Result | None
    tube_cm: float
    zones: tuple[tuple[str, float], ...]
    back: Result | None
    broken: Result | None
    room: Result | None
    rough: bool = False

    def over_l(self, runs_down: Result) -> float:
        """Litres running down that the sump has no room for; all of it where its room is not known."""
        return float(runs_down) - float(self.room or 0.0)

    @property
    def holds_back(self) -> bool | None:
        """Whether the sump holds what runs back when the return stops."""
        return _holds(self.back, self.room)

    @property
    def holds_broken(self) -> bool | None:
        """Whether it would hold what a failed siphon break lets run."""
        return _holds(self.broken, self.room)


def _holds(back: Result | None, room: Result | None) -> bool | None:
    return None if back is None or room is None else sump_holds(float(back), float(room))


def tank_side(system: System, service: Plumbing, litres: float, drain: Drain) -> TankSide:
    """The tank side of draining so many litres. Raises PlanError where the sump that falls has no measures, and
    DomainError at `litres` where what falls does not hold them."""
    chamber = _what_falls(system, drain)
    mark, surface = fall_cm(chamber, litres), float(chamber.surface)
    if drain.keep_l:
        check_range("litres kept back", drain.keep_l, "L", 0, round(litres, 1), field="keep_l")
    sump = system.geometry.sump
    room = None
    if sump is not None and service.rim_cm is not None:
        if service.rim_cm < sump.depth_cm:
            accepted = f"{sump.depth_cm:g} cm or more"
            raise InputError("the rim is above the running level", field="rim_cm", accepted=accepted)
        room = sump_room_l(sump.length_cm * sump.width_cm, service.rim_cm, sump.depth_cm)
    display = system.geometry.footprint_cm2
    return TankSide(
        mark,
        surface / 1000,
        bucket_count(litres, system.bucket_l),
        _minutes(service, litres, surface),
        fill_minutes(litres, service.pump_l_h) if service.pump_l_h else None,
        siphon_tube_cm(system.geometry.depth_cm),
        _zones(litres, drain.zones),
        drain_back_l(display, service.fall_cm) if service.fall_cm else None,
        drain_back_l(display, service.outlet_cm) if service.outlet_cm else None,
        room,
        not (system.geometry.measured or drain.sump_falls),
    )


def _what_falls(system: System, drain: Drain) -> Chamber:
    """The chamber whose level falls: display or sump."""
    if not drain.sump_falls:
        return display_chamber(system.geometry)
    sump = system.geometry.sump
    if sump is None:
        raise PlanError("Give the sump's inside measures in Set-up: litres alone do not give the mark.", field="drain")
    return Chamber(sump.length_cm * sump.width_cm, sump.depth_cm)


def _minutes(service: Plumbing, litres: float, surface: float) -> Result | None:
    """Minutes by hose; None where the level would fall to the hose's outlet."""
    try:
        return drain_minutes(litres, service.bore_mm, service.head_cm, service.hose_m, surface)
    except DomainError:
        return None


def _zones(litres: float, names: Sequence[str]) -> tuple[tuple[str, float], ...]:
    if not names:
        return ()
    return tuple(zip(names, zone_volumes_l(litres, [1.0] * len(names)), strict=True))
