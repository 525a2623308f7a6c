"""Work on a system apart from changes: how long it stays warm without power, and the slots of its runbooks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..basics.errors import DomainError, InputError, PlanError
from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..failure.power_plan import CLOSED_H
from ..planning.plumbing import Drain, tank_side
from ..science.heat import COLD_C
from ..science.parameters import Parameter
from ..science.units import UnitChoice, show
from ..system.catalogue import gear_kinds
from ..system.endurance import air_after_h, cold_after_h
from ..system.heating import Lid
from ..system.livestock import air_bound
from ..system.plumbing import Plumbing
from ..system.system import System
from ..upkeep.task import tasks
from .context import TankWorkOrder
from .emergency import EmergencyMeans, Tank, emergency_slots
from .steps import Runbook

TEMPERATURE = Parameter.TEMPERATURE
TUB_SHARE, TUB_L = 0.05, (5.0, 20.0)


@dataclass(frozen=True)
class Outage:
    """How long a system holds its heat without power: hours until it is too cold, None where it is so already or where
    its room keeps it warm."""

    cool_h: float | None
    words: str


def outage(system: System, water_c: float | None, units: UnitChoice) -> Outage:
    """The hours this system has, from its own measures and its temperature (25 °C where it was not measured)."""
    now = 25.0 if water_c is None else water_c
    cold_words, room_words = (show(TEMPERATURE, each, units) for each in (COLD_C, system.heating.cold_c))
    temperature = show(TEMPERATURE, now, units)
    if now <= COLD_C:
        return Outage(None, f"It is at {temperature} already: warm it first.")
    hours = cold_after_h(system, now)
    if hours is None:
        return Outage(None, f"At {temperature} in a room of {room_words} it stays above {cold_words}.")
    takes = f"about {show_number(float(hours), 0)} h to {cold_words}"
    lid = ", uncovered" if system.heating.lid == Lid.OPEN and not system.heating.logged else ""
    return Outage(float(hours), f"From {temperature} it takes {takes} in a room of {room_words}{lid}.")


def air_words(system: System, water: Mapping[Parameter, float]) -> str:
    """How long its animals have to breathe in still water."""
    if not system.animals:
        return "nothing lives in it yet, but the bacteria need flow within a day"
    salinity, now = water.get(Parameter.SALINITY, 35.0), water.get(TEMPERATURE, 25.0)
    hours = air_after_h(system, salinity, now)
    if hours is None:
        return "its surface lets in enough oxygen for its animals, but look for gasping every hour"
    return (
        f"in still water oxygen is low after about {show_number(max(float(hours), 0.5), 0 if hours >= 1.5 else 1)} h, "
        "an estimate: move the water well before"
    )


def tank_job(
    system: System, book: Runbook, water: Mapping[Parameter, float], units: UnitChoice,
    service: Plumbing | None = None, task: str = "", means: EmergencyMeans | None = None,
) -> TankWorkOrder:  # fmt: skip
    """The order of other work on a system, frozen at the start; task: the care task it is done for · means: what there
    is at hand, for an emergency."""
    back, broken = _drained_words(system, service or Plumbing())
    kinds = gear_kinds()
    gear = {kind.key: kind.name for kind in sorted((kinds[key] for key in system.gear), key=lambda kind: kind.order)}
    minutes, whose = air_bound(system.animals)
    temperature = water.get(Parameter.TEMPERATURE)
    tub = min(max(system.volume_l * TUB_SHARE, TUB_L[0]), TUB_L[1])
    slots = {
        "cool": outage(system, temperature, units).words,
        "air": air_words(system, water),
        "tub": litres_words(tub, 0),
        "volume": litres_words(system.volume_l, 0),
        "outage": book.name,
        "temperature": show(Parameter.TEMPERATURE, temperature, units) if temperature is not None else "not measured",
        "still": f"{CLOSED_H:.0f} hours",
        "tool": tasks()["scrape_front"].tool(system.panel),
        "back": back,
        "broken": broken,
    }
    if book.emergency:
        # In an emergency nobody is asked to measure what was never measured.
        slots["back"] = "" if back == _UNKNOWN[0] else back
        slots |= emergency_slots(Tank(system, water, means or EmergencyMeans(), units))
    flags = {*system.gear, *(["sump"] if system.geometry.sump_l or system.geometry.sump else [])}
    bands = {parameter: (band.low, band.high) for parameter, band in system.bands.items()}
    return TankWorkOrder(system.id, gear, bands, slots, frozenset(flags), minutes, whose, units, task)


def _drained_words(system: System, service: Plumbing) -> tuple[str, str]:
    """What runs back when the return stops, and through a failed siphon break, against the room in the sump; unmeasured
    values are asked for."""
    try:
        side = tank_side(system, service, 1.0, Drain())
    except (DomainError, InputError, PlanError):
        return _UNKNOWN
    room = "" if side.room is None else f"; the sump has room for {litres_words(float(side.room))}"
    back, broken = _UNKNOWN
    if side.back is not None:
        back = f"About {litres_words(float(side.back))} run back when the return stops{room}."
    if side.broken is not None:
        broken = f"If the break fails, {litres_words(float(side.broken))} run down{room}."
    return back, broken


_UNKNOWN = (
    "How much runs back was never measured: mark both levels today, and enter the fall under What can fail, Levels.",
    "How deep the outlet hangs was never measured: measure it today.",
)
