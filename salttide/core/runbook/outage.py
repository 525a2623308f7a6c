"""Work on a system apart from changes: how long it stays warm without power, and the slots of its runbooks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import log, sqrt

from ..basics.errors import DomainError, InputError, PlanError, check_range
from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.working import Formula, FormulaInput, Result
from ..planning.match_gate import HEAT_KJ_L_K
from ..planning.plumbing import Drain, Plumbing, tank_side
from ..science.parameters import Parameter
from ..science.units import UnitChoice, show
from ..system.catalogue import gear_kinds
from ..system.livestock import air_bound
from ..system.system import System
from ..upkeep.task import tasks
from .context import TankWorkOrder
from .steps import Runbook

PANEL_W_M2_K = 5.5
SURFACE_W_M2_K = 20.0
"""Heat lost through a panel between still water and still air, and from an open surface with its evaporation
(judgement, from usual values of building physics)."""
ROOM_C = 18.0
"""A room whose heating has failed too (judgement)."""
COLD_C = 22.0
TUB_SHARE, TUB_L = 0.05, (5.0, 20.0)
STILL_MIN = 120

LOSS = Formula(
    "UA", "heat lost per degree", "U_p * (4 * sqrt(A) * d) + U_s * A", "W/K", "panels and surface", {"sqrt": sqrt}
)
COOLING = Formula(
    "t", "hours until it is cold", "V * c / UA * ln((t_0 - t_r) / (t_1 - t_r)) / 3600", "h", "Newton's law of cooling",
    {"ln": log},
)  # fmt: skip


def cooling_h(
    volume_l: float, footprint_m2: float, depth_m: float, water_c: float, room_c: float = ROOM_C, cold_c: float = COLD_C
) -> Result:
    """Hours in which a system without heat cools to `cold_c` (below the water, above the room). An estimate.

    Volume 1 to 10 000 L, footprint 0.01 to 20 m², depth 0.05 to 3 m, temperatures in °C. The display is assumed to be
    square. Raises DomainError.

    >>> round(cooling_h(334.0, 0.677, 0.44, 25.3), 1)
    10.6
    """
    check_range("volume", volume_l, "L", 1, 10_000)
    check_range("footprint", footprint_m2, "m²", 0.01, 20)
    check_range("depth", depth_m, "m", 0.05, 3)
    check_range("temperature of the water", water_c, "°C", cold_c + 0.1, 40)
    check_range("temperature of the room", room_c, "°C", -20, cold_c - 0.1)
    loss = LOSS.compute(
        U_p=FormulaInput(PANEL_W_M2_K, "W/m²K", "panel"),
        A=FormulaInput(footprint_m2, "m²", "footprint"),
        d=FormulaInput(depth_m, "m", "water depth"),
        U_s=FormulaInput(SURFACE_W_M2_K, "W/m²K", "open surface"),
    )
    return COOLING.result(
        loss,
        V=FormulaInput(volume_l, "L", "water"),
        c=FormulaInput(HEAT_KJ_L_K * 1000, "J/LK", "heat of seawater"),
        UA=loss.given(),
        t_0=FormulaInput(water_c, "°C", "now"),
        t_r=FormulaInput(room_c, "°C", "room"),
        t_1=FormulaInput(cold_c, "°C", "cold"),
    )


@dataclass(frozen=True)
class Outage:
    """How long a system holds its heat without power: hours until it is too cold, None where it is so already."""

    cool_h: float | None
    words: str


def outage(system: System, water_c: float | None, units: UnitChoice) -> Outage:
    """The hours this system has, from its own measures and its temperature (25 °C where it was not measured)."""
    now = 25.0 if water_c is None else water_c
    geometry = system.geometry
    cold_words, room_words = (show(Parameter.TEMPERATURE, each, units) for each in (COLD_C, ROOM_C))
    if now <= COLD_C:
        return Outage(None, f"It is at {show(Parameter.TEMPERATURE, now, units)} already: warm it first.")
    hours = float(cooling_h(system.volume_l, geometry.footprint_cm2 / 1e4, geometry.depth_cm / 100, now))
    temperature = show(Parameter.TEMPERATURE, now, units)
    takes = f"about {show_number(hours, 0)} h to {cold_words}"
    words = f"From {temperature} it takes {takes} in a room of {room_words}, uncovered."
    return Outage(hours, words)


def tank_job(
    system: System, book: Runbook, water: Mapping[Parameter, float], units: UnitChoice,
    service: Plumbing | None = None, task: str = "",
) -> TankWorkOrder:  # fmt: skip
    """The order of other work on a system, frozen at the start; `task`: the care task it is done for."""
    back, broken = _drained_words(system, service or Plumbing())
    kinds = gear_kinds()
    gear = {kind.key: kind.name for kind in sorted((kinds[key] for key in system.gear), key=lambda kind: kind.order)}
    minutes, whose = air_bound(system.animals)
    temperature = water.get(Parameter.TEMPERATURE)
    tub = min(max(system.volume_l * TUB_SHARE, TUB_L[0]), TUB_L[1])
    slots = {
        "cool": outage(system, temperature, units).words,
        "air": "with fish inside, still water lasts half an hour to two hours, by how crowded it is"
        if system.animals
        else "nothing lives in it yet, but the bacteria need flow within a day",
        "tub": litres_words(tub, 0),
        "volume": litres_words(system.volume_l, 0),
        "outage": book.name,
        "temperature": show(Parameter.TEMPERATURE, temperature, units) if temperature is not None else "not measured",
        "still": f"{STILL_MIN // 60} hours",
        "tool": tasks()["scrape_front"].tool(system.panel),
        "back": back,
        "broken": broken,
    }
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
    "How much runs back was never measured: mark both levels today, and put the fall under Change, The tank.",
    "How deep the outlet hangs was never measured: measure it today.",
)
