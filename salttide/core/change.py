"""Planning a water change that moves salinity and alkalinity towards target, and what comes with it.

Each step aims straight at the target, bounded by the daily limits and by what the batch may be; where one step is
not enough, the next starts from what the last one is expected to leave. Dry salt and undissolved additive never go
into a system with animals: the batch is corrected, and only what the batch cannot carry is dosed to the system.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from .additives import AlkalinitySource
from .balance import Present
from .change_step import (
    MATCH_ALKALINITY_MEQ_L,
    MATCH_SALINITY,
    PLUME_SALINITY,
    PlanStep,
    StepKind,
    Wish,
    change_step,
    dose_step,
)
from .errors import PlanError, RuleError, check_range
from .judge import Position, position
from .parameters import Parameter, Span
from .system import Stage, System
from .units import DKH_PER_MEQ_L
from .words import counted, day_words

LARGEST_FRACTION_EVER = 0.5
MOST_STEPS = 30
ELEVATED_ALKALINITY_MEQ_L = 10.0 / DKH_PER_MEQ_L
"""Judgement: above this alkalinity a stored batch tends to precipitate."""


@dataclass(frozen=True)
class Plan:
    """The steps in order of date, the keys of the cautions that apply, and whether the targets are reached."""

    steps: tuple[PlanStep, ...]
    cautions: tuple[str, ...]
    reached: bool
    close_match: bool


def plan_change(
    system: System,
    water: Mapping[Parameter, float],
    wish: Wish,
    drift_per_day: Mapping[Parameter, float] | None = None,
    today: date | None = None,
) -> Plan:
    """The plan for `wish`, from the present `water` (canonical units, by parameter).

    Salinity must be known, alkalinity where it has a target. `drift_per_day` (canonical/day) carries the water from
    `today` to the first day and from step to step. Raises DomainError at a field out of range, RuleError for a
    system that is breaking in without an emergency, PlanError where something needed was never measured.
    """
    _check(system, water, wish)
    drifts = dict(drift_per_day or {})
    day, state = wish.start, _drifted(dict(water), drifts, (wish.start - (today or wish.start)).days)
    purpose = _salinity_is_purpose(system, state)
    steps: list[PlanStep] = []
    while len(steps) < MOST_STEPS:
        needs_water = not steps or not _near(state.get(Parameter.SALINITY), wish.salinity, MATCH_SALINITY)
        step = (change_step if needs_water else dose_step)(system, state, wish, day, purpose)
        steps.append(step)
        state.update(step.after_best())
        if _reached(state, wish):
            break
        days = wish.every_days if not _near(state.get(Parameter.SALINITY), wish.salinity, MATCH_SALINITY) else 1
        day, state = day + timedelta(days=days), _drifted(state, drifts, days)
        if _stuck(step):
            break
    return Plan(
        tuple(steps),
        _cautions(system, steps, wish),
        _reached(state, wish),
        wish.fraction > system.schools.largest_fraction,
    )


def _check(system: System, water: Mapping[Parameter, float], wish: Wish) -> None:
    check_range("size", wish.fraction * 100, "%", 1, LARGEST_FRACTION_EVER * 100, field="fraction")
    check_range("days between changes", wish.every_days, "days", 1, 30, field="every_days")
    if wish.salinity is not None:
        check_range("target salinity", wish.salinity, "ppt", 20, 42, field="salinity")
    if wish.alkalinity_meq_l is not None:
        check_range("target alkalinity", wish.alkalinity_meq_l, "meq/L", 1.5, 5, field="alkalinity_meq_l")
    if system.stage == Stage.BREAKING_IN and wish.emergency is None:
        raise RuleError(
            f"{system.name} is breaking in: no water change meanwhile, unless animals inside are in danger. Say which "
            "danger it is, or wait until ammonia and nitrite are gone.",
            field="emergency",
        )
    for parameter, target in ((Parameter.SALINITY, 0.0), (Parameter.ALKALINITY, wish.alkalinity_meq_l)):
        if target is not None and parameter not in water:
            raise PlanError(f"Test {parameter.value} first: without it no batch can be matched.", field=parameter.value)


def _salinity_is_purpose(system: System, water: Mapping[Parameter, float]) -> bool:
    band = system.bands.get(Parameter.SALINITY)
    return band is not None and not band.holds(water[Parameter.SALINITY])


def _cautions(system: System, steps: list[PlanStep], wish: Wish) -> tuple[str, ...]:
    keys = ["electricity", "siphon", "weight"]
    batches = [step for step in steps if step.batch]
    if any(step.batch_dose_g or step.system_dose_g for step in steps):
        keys.append("caustic" if wish.source == AlkalinitySource.SODA_ASH else "alkalinity_dose")
    gap = max(abs(step.batch.salinity - step.before[Parameter.SALINITY]) for step in batches if step.batch)
    if gap > PLUME_SALINITY:
        keys.append("plume")
    if any((step.batch_alkalinity_meq_l or 0) > ELEVATED_ALKALINITY_MEQ_L for step in steps):
        keys.append("precipitation")
    if wish.fraction > system.schools.largest_fraction:
        keys.append("beyond_method")
    if system.stage == Stage.BREAKING_IN:
        keys.append("breaking_in")
    return tuple(keys)


def _drifted(state: dict[Parameter, float], drifts: Mapping[Parameter, float], days: int) -> dict[Parameter, float]:
    return {parameter: max(0.0, value + drifts.get(parameter, 0.0) * days) for parameter, value in state.items()}


def _near(value: float | None, target: float | None, tolerance: float) -> bool:
    return target is None or value is None or abs(value - target) <= tolerance


def _reached(state: Mapping[Parameter, float], wish: Wish) -> bool:
    return _near(state.get(Parameter.SALINITY), wish.salinity, MATCH_SALINITY) and not (
        wish.alkalinity_meq_l is not None
        and state[Parameter.ALKALINITY] < wish.alkalinity_meq_l - MATCH_ALKALINITY_MEQ_L
    )


def _stuck(step: PlanStep) -> bool:
    """A dose step that dosed nothing will not get any further."""
    return step.kind == StepKind.DOSE and not step.system_dose_g


def aim(known: Present, band: Span | None) -> float | None:
    """Where a change should bring a parameter: hold what is well inside its band, else go for the band's middle.

    None without a band: nothing says where to go.
    """
    if band is None:
        return None
    inside = position(known.value, known.sd, band) == Position.IN_BAND
    return known.value if inside else band.middle


def summary_words(plan: Plan) -> str:
    """What the plan comes to, in one or two sentences."""
    changes = [step for step in plan.steps if step.kind == StepKind.CHANGE]
    if not plan.reached:
        return f"Not at target after {len(plan.steps)} steps: a larger size or fewer days between them would help."
    if len(plan.steps) == 1:
        return "One change is enough."
    doses = len(plan.steps) - len(changes)
    more = f" and {counted(doses, 'day')} of dosing" if doses else ""
    parts = counted(len(changes), "change")
    return (
        f"The daily limits ask for {parts}{more}: at target on {day_words(plan.steps[-1].day)}. Test before each step."
    )
