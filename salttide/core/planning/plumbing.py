"""The tank side of a change: fall of the level, hoses, pumps, drain-back, zones, minutes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..basics.errors import DomainError, PlanError, check_range
from ..basics.measures import length_words, litres_words
from ..basics.working import Formula, FormulaInput, Result
from ..ledger.entries import Ledger
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
from ..system.observations import number_found
from ..system.plumbing import Plumbing, check_service
from ..system.system import System
from ..system.volume import Sump, display_chamber

RISEN = Formula("v", "what ran back, measured", "A * d / 1000", "L", "footprint · rise of the sump")


def sump_of(system: System, service: Plumbing) -> Sump | None:
    """The inside measures of the sump: of its set-up, else those entered with its levels; None where not known."""
    typed = (service.sump_length_cm, service.sump_width_cm, service.sump_depth_cm)
    if system.geometry.sump or None in typed or not system.geometry.has_sump:
        return system.geometry.sump
    return Sump(*(float(each or 0.0) for each in typed))


def check_levels(system: System, service: Plumbing) -> Plumbing:
    """Refuse levels that the system's own measures contradict, at their field: a sump's rim below its running level, a
    return chamber longer than the sump, a pump that draws air above the running level, an outlet under the floor."""
    check_service(service)
    sump, depth = sump_of(system, service), system.geometry.depth_cm
    if service.outlet_cm is not None:
        check_range("outlet", service.outlet_cm, "cm", 0, depth, field="outlet_cm")
    if sump is not None:
        sump_room(system, service)
        if service.chamber_cm is not None:
            check_range("return chamber", service.chamber_cm, "cm", 1, sump.length_cm, field="chamber_cm")
        if service.pump_cm is not None:
            check_range("level of the pump", service.pump_cm, "cm", 0, sump.depth_cm, field="pump_cm")
    return service


DRILL, RISE = "flood_drill", "sump_rise"
"""The task that measures what runs back, and what it finds."""


def as_drilled(service: Plumbing, ledger: Ledger) -> Plumbing:
    """The plumbing with the sump's rise as the last drill measured it."""
    for entry in reversed(ledger.care):
        rise = number_found(entry.found, RISE) if entry.task == DRILL and not entry.skipped else None
        if rise:
            return replace(service, rise_cm=rise)
    return service


def doubts(system: System, service: Plumbing) -> list[str]:
    """What does not fit together, as questions: each is possible, but more often a slip of the ruler."""
    found = []
    fall, outlet, hole = service.fall_cm, service.outlet_cm, service.break_cm
    if fall is not None and hole is not None and hole > fall + 0.5:
        found.append(
            f"The siphon break lies {length_words(hole)} below the running level, but the display fell only "
            f"{length_words(fall)}: it falls at least to the break. Measure both again."
        )
    if fall is not None and outlet is not None and hole is None and outlet > fall + 0.5:
        found.append(
            f"The outlet hangs {length_words(outlet)} deep and no siphon break is entered, but the display fell only "
            f"{length_words(fall)}. Is there a hole that breaks the siphon?"
        )
    if outlet is not None and hole is not None and hole > outlet:
        found.append(
            f"The siphon break ({length_words(hole)}) lies deeper than the outlet ({length_words(outlet)}): it does "
            "nothing there."
        )
    sump, stated = sump_of(system, service), system.geometry.sump_l
    if sump is not None and system.geometry.sump is None:
        held = sump.length_cm * sump.width_cm * sump.depth_cm / 1000
        if abs(held - stated) > 0.2 * stated:
            found.append(
                f"By these measures the sump holds {litres_words(held)}, by the set-up {litres_words(stated)} are in "
                "sump and pipes. Which is right?"
            )
    by_fall, by_rise = _by_fall(system, service), _by_rise(system, service)
    if by_fall is not None and by_rise is not None and abs(by_fall - by_rise) > max(2.0, 0.25 * by_rise):
        found.append(
            f"By the display's fall {litres_words(float(by_fall))} ran back, by the sump's rise "
            f"{litres_words(float(by_rise))}. The sump's is used: it was measured where it matters."
        )
    return found


def _by_fall(system: System, service: Plumbing) -> Result | None:
    return drain_back_l(system.geometry.footprint_cm2, service.fall_cm) if service.fall_cm else None


def _by_rise(system: System, service: Plumbing) -> Result | None:
    """What ran back as the sump's rise measured it."""
    sump = sump_of(system, service)
    if sump is None or not service.rise_cm:
        return None
    return RISEN.result(
        A=FormulaInput(sump.length_cm * sump.width_cm, "cm²", "footprint of the sump"),
        d=FormulaInput(service.rise_cm, "cm", "it rose by, measured"),
    )


def runs_back(system: System, service: Plumbing) -> Result | None:
    """Litres that run back when the return stops: as the sump's rise measured it, else by the display's fall."""
    return _by_rise(system, service) or _by_fall(system, service)


def runs_down(system: System, service: Plumbing) -> Result | None:
    """Litres that run down where the siphon does not break."""
    return drain_back_l(system.geometry.footprint_cm2, service.outlet_cm) if service.outlet_cm else None


def sump_room(system: System, service: Plumbing) -> Result | None:
    """Litres that the sump still holds above its running level; None where it is not known. Raises DomainError at
    `rim_cm` for a rim below that level."""
    sump = sump_of(system, service)
    if sump is None or service.rim_cm is None:
        return None
    check_range("rim of the sump", service.rim_cm, "cm", sump.depth_cm, 200, field="rim_cm")
    return sump_room_l(sump.length_cm * sump.width_cm, service.rim_cm, sump.depth_cm)


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
    return TankSide(
        mark,
        surface / 1000,
        bucket_count(litres, system.bucket_l),
        _minutes(service, litres, surface),
        fill_minutes(litres, service.pump_l_h) if service.pump_l_h else None,
        siphon_tube_cm(system.geometry.depth_cm),
        _zones(litres, drain.zones),
        runs_back(system, service),
        runs_down(system, service),
        sump_room(system, service),
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
