"""Dosing arithmetic: uptake between two readings, corrections under daily limits, order and separation."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import ceil

from ..basics.errors import PlanError, check_choice, check_range
from ..basics.number_text import show_number
from ..basics.working import Formula, FormulaInput, Result
from .dilution import dilute
from .parameters import FACTS, Parameter, spoken
from .sizing import DayLimit
from .units import DKH_PER_MEQ_L

INF = float("inf")
DAILY_LIMITS: dict[Parameter, DayLimit] = {
    Parameter.SALINITY: DayLimit(1.0, 1.0),
    Parameter.TEMPERATURE: DayLimit(1.0, 1.0),
    Parameter.ALKALINITY: DayLimit(1.0 / DKH_PER_MEQ_L, 1.0 / DKH_PER_MEQ_L),
    Parameter.CALCIUM: DayLimit(20.0, 20.0),
    Parameter.MAGNESIUM: DayLimit(50.0, 50.0),
    Parameter.POTASSIUM: DayLimit(10.0, 10.0),
    Parameter.NITRATE: DayLimit(2.0, INF),
    Parameter.PHOSPHATE: DayLimit(0.02, 0.05, 1 / 3),
}
"""The most a parameter may move in any 24 hours, net of uptake (judgement; a system's own win)."""
PH_LIMIT_OF_A_DOSE = 0.15
SEPARATION_MINUTES = 30
"""Between concentrates of alkalinity and calcium, with strong flow (judgement)."""
ORDER = (Parameter.SALINITY, Parameter.MAGNESIUM, Parameter.CALCIUM, Parameter.ALKALINITY)
"""All ions scale with salinity; low magnesium lets the other two drop out."""
EARLY_TEST_SHARE = 0.5

UPTAKE = Formula(
    "u", "uptake", "((C_0 - C_1) * V + added - removed) / V / t", "a day", "mass balance between two readings"
)


def uptake_per_day(
    before: float, after: float, days: float, volume_l: float, added: float = 0.0, removed: float = 0.0
) -> Result:
    """Uptake a day between two readings of one parameter (mg/L or meq/L), as concentration a day.

    `added` and `removed` are amounts between them (mg or meq; removed: by water taken out, less what came in). Negative
    where more was made than used. Days 0.01 to 3660.

    >>> round(uptake_per_day(2.9, 2.7, 4.0, 100.0, added=40.0), 4)
    0.15
    """
    check_range("days", days, "days", 0.01, 3660)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    for name, value in (("reading before", before), ("reading after", after)):
        check_range(name, value, "", 0, 1e5)
    return UPTAKE.result(
        C_0=FormulaInput(before, "", "reading before"),
        C_1=FormulaInput(after, "", "reading after"),
        V=FormulaInput(volume_l, "L", "net volume"),
        added=FormulaInput(check_range("amount added", added, "", -1e9, 1e9), "", "amount added between"),
        removed=FormulaInput(check_range("amount removed", removed, "", -1e9, 1e9), "", "amount taken out between"),
        t=FormulaInput(days, "days", "between the readings"),
    )


@dataclass(frozen=True)
class Between:
    """Something between two readings, `day` days after the first: a dose (rise), or a change (fraction, incoming)."""

    day: float
    rise: float = 0.0
    fraction: float = 0.0
    incoming: float = 0.0


def uptake_between(before: float, after: float, days: float, events: Sequence[Between] = ()) -> float:
    """The steady uptake a day that leads exactly from one reading to the next through every dose and change between.

    Exact, not on average: what was used before a change is diluted by it. Concentrations in one unit; days 0.01 to
    3660. Raises DomainError for an event outside the time between.

    >>> round(uptake_between(10.0, 10.0, 10.0, [Between(5.0, fraction=0.5, incoming=10.0)]), 6)
    0.0
    >>> round(uptake_between(2.9, 2.7, 4.0, [Between(1.0, rise=0.2), Between(3.0, rise=0.2)]), 4)
    0.15
    """
    check_range("days", days, "days", 0.01, 3660)
    for name, value in (("reading before", before), ("reading after", after)):
        check_range(name, value, "", 0, 1e5)
    level, worn, at = before, 0.0, 0.0
    for event in sorted(events, key=lambda event: event.day):
        check_range("event", event.day, "days", 0, days)
        check_range("fraction changed", event.fraction, "(0 to 1 of the volume)", 0, 1)
        worn += event.day - at
        level, worn, at = (
            dilute(level, event.incoming, event.fraction) + event.rise,
            worn * (1 - event.fraction),
            event.day,
        )
    worn += days - at
    if worn <= 0:
        raise PlanError("the last change replaced all the water: readings before it say nothing")
    return (level - after) / worn


@dataclass(frozen=True)
class CorrectionDay:
    """One day of a correction: the level it starts and ends at, and what to bring: its rise and that day's uptake."""

    day: int
    before: float
    after: float
    rise: float
    test: bool


def correction_days(
    parameter: Parameter, value: float, target: float, uptake: float = 0.0, limit: DayLimit | None = None
) -> tuple[CorrectionDay, ...]:
    """A correction upwards spread over as many days as its limit asks, in equal steps, on top of the daily uptake.

    Canonical units; an uptake below 0 is a rise by itself, which takes part of the limit. `limit` defaults to
    DAILY_LIMITS. Downwards no dose helps: PlanError says what does. A test is
    planned half-way and on the last day; none is needed where nothing is to be done.

    >>> days = correction_days(Parameter.CALCIUM, 380.0, 425.0, uptake=2.0)
    >>> [(day.after, day.rise) for day in days]
    [(395.0, 17.0), (410.0, 17.0), (425.0, 17.0)]
    """
    parameter = check_choice(Parameter, parameter)
    facts = FACTS[parameter]
    for name, level in (("level", value), ("target", target)):
        check_range(f"{name} of {spoken(parameter)}", level, "", facts.possible.low, facts.possible.high)
    check_range("uptake", uptake, "a day", -facts.possible.high, facts.possible.high)
    limits = limit or DAILY_LIMITS.get(parameter)
    if limits is None:
        raise PlanError(f"{facts.name} is dosed only against a laboratory's result and its own limit.")
    if target < value:
        days = f" about {show_number((value - target) / uptake, 0)} days without a dose, or" if uptake > 0 else ""
        raise PlanError(f"No dose lowers {spoken(parameter)}:{days} water changes bring it down.", field="target")
    count = ceil((target - value) / limits.up - 1e-9)
    step = (target - value) / count if count else 0.0
    early = ceil(count * EARLY_TEST_SHARE)
    return tuple(
        CorrectionDay(
            day,
            value + step * (day - 1),
            value + step * day,
            max(0.0, step + uptake),
            day == count or (day == early and count > 2),
        )
        for day in range(1, count + 1)
    )


@dataclass(frozen=True)
class PlannedDose:
    """A dose in a day's plan: what it raises, by how much (canonical per litre), and how many minutes into the day."""

    parameter: Parameter
    rise: float
    minute: int


@dataclass(frozen=True)
class DosingDay:
    """A day of corrections in their order, and what is tested at its end."""

    day: int
    doses: tuple[PlannedDose, ...]
    tests: tuple[Parameter, ...]


def correct_in_order(
    water: Mapping[Parameter, float],
    targets: Mapping[Parameter, float],
    uptake: Mapping[Parameter, float] | None = None,
    limits: Mapping[Parameter, DayLimit] | None = None,
) -> tuple[DosingDay, ...]:
    """Corrections of several parameters in their order: magnesium before calcium and alkalinity.

    Salinity has to be right first, and is moved by water, not by doses: PlanError if it is more than 0.5 ppt off its
    target. Calcium and alkalinity then run together, half an hour apart on each day; meanwhile only their uptake is
    replaced.

    >>> days = correct_in_order({Parameter.MAGNESIUM: 1200.0, Parameter.CALCIUM: 400.0},
    ...                         {Parameter.MAGNESIUM: 1280.0, Parameter.CALCIUM: 420.0})
    >>> [(day.day, [dose.parameter.value for dose in day.doses]) for day in days]
    [(1, ['magnesium']), (2, ['magnesium']), (3, ['calcium'])]
    """
    used, allowed = uptake or {}, {**DAILY_LIMITS, **(limits or {})}
    salinity = targets.get(Parameter.SALINITY)
    if salinity is not None and abs(water.get(Parameter.SALINITY, INF) - salinity) > 0.5:
        raise PlanError(
            "Salinity first: all ions scale with it. Bring it to target by water, test again, then correct the rest.",
            field=Parameter.SALINITY.value,
        )
    runs: dict[Parameter, tuple[CorrectionDay, ...]] = {}
    start: dict[Parameter, int] = {}
    for p in sorted(targets, key=lambda each: each in _AFTER_MAGNESIUM):
        if p == Parameter.SALINITY or p not in water:
            continue
        wait = len(runs.get(Parameter.MAGNESIUM, ())) if p in _AFTER_MAGNESIUM else 0
        value = water[p] - wait * min(0.0, used.get(p, 0.0))  # what rises by itself has risen by then
        if targets[p] > value:
            runs[p], start[p] = correction_days(p, value, targets[p], used.get(p, 0.0), allowed.get(p)), wait
    last = max((start[p] + len(days) for p, days in runs.items()), default=0)
    return tuple(_dosing_day(day, runs, start, used) for day in range(1, last + 1))


_AFTER_MAGNESIUM = (Parameter.CALCIUM, Parameter.ALKALINITY)


def _dosing_day(
    day: int,
    runs: Mapping[Parameter, tuple[CorrectionDay, ...]],
    start: Mapping[Parameter, int],
    used: Mapping[Parameter, float],
) -> DosingDay:
    doses: list[PlannedDose] = []
    tests = []
    for parameter in sorted(runs, key=lambda p: (*ORDER, *Parameter).index(p)):
        mine, minute = runs[parameter], len(doses) * SEPARATION_MINUTES
        today = day - start[parameter]
        if 1 <= today <= len(mine):
            doses.append(PlannedDose(parameter, mine[today - 1].rise, minute))
            if mine[today - 1].test:
                tests.append(parameter)
        elif used.get(parameter, 0.0) > 0:
            doses.append(PlannedDose(parameter, used[parameter], minute))
    return DosingDay(day, tuple(doses), tuple(tests))
