"""What can be corrected and with what, and the work of a correction for the rota: its doses and tests."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, date, datetime, time, timedelta, tzinfo

from ..basics.dates import time_of
from ..basics.errors import InputError
from ..basics.number_text import show_number
from ..science.additives import COMPOUNDS, AlkalinitySource, brought_per_mole
from ..science.parameters import FACTS, Parameter, spoken
from ..science.units import UnitChoice, show
from ..system.shelf import Additive
from ..system.system import System
from .correction import Aim, Correction, CorrectionStep
from .dose_order import dose_order, dose_work
from .work_order import PlannedWork, planned_test

CORRECTABLE = (
    Parameter.ALKALINITY,
    Parameter.CALCIUM,
    Parameter.MAGNESIUM,
    Parameter.POTASSIUM,
    Parameter.NITRATE,
    Parameter.PHOSPHATE,
)
NUTRIENTS = (Parameter.NITRATE, Parameter.PHOSPHATE)
ALKALINITY_FORMULAS = ("Na2CO3", "NaHCO3", "NaOH")
"""Compounds compared for their effect on pH."""
MAX_COMPARED_MEQ_L = 3.0
FIRST_HOUR, TEST_HOUR = 9, 20
"""The default time of a day's first dose, and of its evening test."""
MIN_TOLD_MG_L = 0.05


def meant_for(additive: Additive, parameter: Parameter) -> bool:
    """Whether an additive is meant for this parameter: potassium nitrate is for nitrate, not for its potassium.

    >>> meant_for(Additive(1, "KNO3", "KNO3"), Parameter.POTASSIUM), meant_for(Additive(1, "soda", "Na2CO3"),
    ...     Parameter.ALKALINITY)
    (False, True)
    """
    brought = brought_per_mole(additive.formula)
    if brought.get(parameter, 0) <= 0:
        return False
    if parameter == Parameter.POTASSIUM:
        return not any(nutrient in brought for nutrient in NUTRIENTS)
    return parameter != Parameter.ALKALINITY or Parameter.PHOSPHATE not in brought


def additives_for(
    parameter: Parameter, additives: Iterable[Additive], source: AlkalinitySource = AlkalinitySource.SODA_ASH
) -> list[Additive]:
    """The additives meant for a parameter: solutions before powders, as what is measured in mL is ready to use, and of
    these the keeper's own compound first (`source`, for alkalinity)."""
    usual = COMPOUNDS[source].formula if parameter == Parameter.ALKALINITY else ""

    def order(one: Additive) -> tuple[bool, bool]:
        return one.strength_g_l is None, one.formula != usual

    return sorted((one for one in additives if meant_for(one, parameter)), key=order)


def check_target(parameter: Parameter, target: float, units: UnitChoice) -> None:
    """Refuse a target beyond what any reef is kept at: it would precipitate or harm. Raises InputError with the highest
    accepted."""
    most = FACTS[parameter].likely.high
    if target > most:
        words = f"{show(parameter, target, units)} of {spoken(parameter)} is more than any system is kept at: it would "
        raise InputError(f"{words}drop out, or harm", accepted=f"at most {show(parameter, most, units)}")


def largest_daily_rise(plan: Correction, parameter: Parameter) -> float:
    """The most that a day of the plan raises it (canonical), 0 where it does not."""
    by_day = [sum(one.rise for one in step.portions if one.parameter == parameter) for step in plan.steps]
    return max(by_day, default=0.0)


def side_words(plan: Correction) -> str:
    """What else a correction leaves in the water, in a sentence; empty where next to nothing."""
    words = [
        f"{spoken(p)} +{show_number(amount, 1)} mg/L" for p, amount in plan.side.items() if amount >= MIN_TOLD_MG_L
    ]
    return f"It leaves behind: {', '.join(words)}." if words else ""


def clock_of(step: CorrectionStep, minute: int) -> time:
    """The time of day of a dose `minute` minutes after the day's first."""
    first = min((one.minute for one in step.portions), default=0)
    return time_of(FIRST_HOUR * 60 + minute - first)


def correction_work(
    system: System, aims: Sequence[Aim], plan: Correction, made_at: datetime, zone: tzinfo, units: UnitChoice
) -> list[PlannedWork]:
    """Each day's doses, one entry per additive, and its tests, as work for the rota from the day after planning."""
    today = made_at.astimezone(zone).date()
    level: Mapping[Parameter, float] = {aim.parameter: aim.value for aim in aims}
    work: list[PlannedWork] = []
    for step in plan.steps:
        day = today + timedelta(days=step.day)
        work += [_dose(system, day, step, additive, level, made_at) for additive in _additives(step)]
        work += [
            _test(datetime.combine(day, time(TEST_HOUR), zone), step, parameter, units) for parameter in step.tests
        ]
        level = step.expected
    return work


def _additives(step: CorrectionStep) -> list[Additive]:
    return list(dict.fromkeys(portion.additive for portion in step.portions))


def _dose(
    system: System,
    day: date,
    step: CorrectionStep,
    additive: Additive,
    level: Mapping[Parameter, float],
    made_at: datetime,
) -> PlannedWork:
    mine = [portion for portion in step.portions if portion.additive == additive]
    parameter, rise = mine[0].parameter, sum(portion.rise for portion in mine)
    ml = None if mine[0].ml is None else sum(portion.ml or 0.0 for portion in mine)
    grams, before = sum(portion.mass_g for portion in mine), {parameter: level[parameter]}
    order = dose_order(system, additive, grams, ml, before, _utc(made_at), rise)
    return dose_work(day, order, len(mine))


def _test(at: datetime, step: CorrectionStep, parameter: Parameter, units: UnitChoice) -> PlannedWork:
    expected = show(parameter, step.expected[parameter], units)
    return planned_test(parameter, at, f"the correction expects {expected}; if not, stop and make a new plan")


def _utc(at: datetime) -> str:
    return at.astimezone(UTC).isoformat(timespec="seconds")
