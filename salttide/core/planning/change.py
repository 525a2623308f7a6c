"""Planning a water change that moves salinity and alkalinity towards target, with all its side effects.

Each step aims straight at the target, bounded by the daily limits and by what the batch may be; where one step is
not enough, the next starts from what the last one is expected to leave. Dry salt and undissolved additive never go
into a system with animals: the batch is corrected, and only what the batch cannot carry is dosed to the system.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta

from ..basics.errors import PlanError, RuleError, check_range
from ..basics.measures import kilograms_words, litres_words
from ..basics.number_text import short, show_number
from ..basics.phrasing import counted, day_words, listed
from ..ledger.balance import Present
from ..ledger.verdict import Position, position
from ..science.additives import AlkalinitySource
from ..science.mix import LABEL_SALINITY
from ..science.parameters import FACTS, Parameter, spoken
from ..science.sizing import LARGEST_FIRST_CHANGE, Bound, BoundKind, check_mixes, is_there
from ..science.units import DKH_PER_MEQ_L, UnitChoice, show_difference
from ..system.system import Stage, System
from .change_request import ChangeRequest, Purpose
from .change_step import (
    MATCH_ALKALINITY_MEQ_L,
    MATCH_SALINITY,
    PLUME_SALINITY,
    ChangeStepKind,
    PlanStep,
    change_step,
    dose_step,
)
from .work_order import Water

LARGEST_FRACTION_EVER = 0.5
NEAR_TOTAL_FRACTION = 0.95
"""The most of a display that can be drained: the rest stays on its floor."""
MAX_STEPS = 30
ELEVATED_ALKALINITY_MEQ_L = 10.0 / DKH_PER_MEQ_L
"""Judgement: above this alkalinity a stored batch tends to precipitate."""


@dataclass(frozen=True)
class ChangePlan:
    """The steps in order of date, the keys of the cautions that apply, and whether the targets are reached.

    left: the share of a contamination that remains · salt_g: salt for all of it; short_g: what the bucket lacks ·
    asked: the size requested of each change.
    """

    steps: tuple[PlanStep, ...]
    cautions: tuple[str, ...]
    reached: bool
    close_match: bool
    left: float = 1.0
    salt_g: float = 0.0
    short_g: float = 0.0
    asked: float = 0.0

    @property
    def bounds(self) -> tuple[Bound, ...]:
        """The bounds that kept its steps from doing more at once, each once; a daily limit by its largest step."""
        found: dict[tuple[BoundKind, Parameter | None], Bound] = {}
        for bound in (bound for step in self.steps for bound in step.bounds):
            known = found.get((bound.kind, bound.parameter))
            if known is None or bound.amount > known.amount:
                found[(bound.kind, bound.parameter)] = bound
        return tuple(found.values())


def plan_change(
    system: System,
    water: Mapping[Parameter, float],
    request: ChangeRequest,
    drift_per_day: Mapping[Parameter, float] | None = None,
    today: date | None = None,
) -> ChangePlan:
    """The plan for `request`, from the present `water` (canonical units, by parameter).

    Salinity must be known, alkalinity where it has a target. `drift_per_day` (canonical/day) carries the water from
    `today` to the first day and from step to step. Raises DomainError at a field out of range, RuleError for a
    system that is cycling without an emergency and for a size that the method has not, PlanError where something
    needed was never measured, or where the new water cannot bring a parameter where it is needed.
    """
    _check(system, water, request)
    asked = request.fraction
    request = _held(system, water, request)
    _check_aim(water, request)
    drifts = dict(drift_per_day or {})
    day, state = request.start, _drifted(dict(water), drifts, (request.start - (today or request.start)).days)
    purpose = request.purpose == Purpose.SALINITY or _salinity_is_out(system, state)
    steps: list[PlanStep] = []
    start, left = dict(state), 1.0
    while len(steps) < MAX_STEPS:
        needs_water = not steps or _wants_water(state, request, start, left)
        step = (change_step if needs_water else dose_step)(system, state, request, day, purpose)
        steps.append(step)
        state.update(step.after_best())
        left, request = left * (1 - step.fraction), _used(request, step)
        if _reached(state, request, start, left):
            break
        days = request.every_days if _wants_water(state, request, start, left) else 1
        day, state = day + timedelta(days=days), _drifted(state, drifts, days)
        if _stuck(steps, request, state):
            break
    salt_g = sum(step.batch.mass_g for step in steps if step.batch)
    short_g = max(0.0, salt_g - request.salt_left_g) if request.salt_left_g is not None else 0.0
    reached = _reached(state, request, start, left)
    large = any(step.fraction > system.methods.largest_fraction + 1e-9 for step in steps)
    return ChangePlan(tuple(steps), _cautions(system, steps, request), reached, large, left, salt_g, short_g, asked)


def largest_fraction(system: System, request: ChangeRequest) -> float:
    """The largest single change that may be requested: half, or more where the method or an emergency allows it."""
    if request.purpose == Purpose.FIRST:
        return LARGEST_FIRST_CHANGE
    if request.purpose == Purpose.NEAR_TOTAL or system.methods.largest_fraction > LARGEST_FRACTION_EVER:
        return min(NEAR_TOTAL_FRACTION, max(LARGEST_FRACTION_EVER, system.methods.largest_fraction))
    return LARGEST_FIRST_CHANGE if request.emergency else LARGEST_FRACTION_EVER


def _held(system: System, water: Mapping[Parameter, float], request: ChangeRequest) -> ChangeRequest:
    """New water at hand fixes salinity by itself: no other target can be requested."""
    if request.water is None or Parameter.SALINITY not in water:
        return request
    return replace(request, salinity=None)


def _check(system: System, water: Mapping[Parameter, float], request: ChangeRequest) -> None:
    _check_size(system, request)
    check_range("days between changes", request.every_days, "days", 1, 30, field="every_days")
    if request.salinity is not None:
        check_range("target salinity", request.salinity, "ppt", 20, 42, field="salinity")
    if request.alkalinity_meq_l is not None:
        check_range("target alkalinity", request.alkalinity_meq_l, "meq/L", 1.5, 5, field="alkalinity_meq_l")
    if system.stage == Stage.BREAKING_IN and request.emergency is None and request.purpose != Purpose.FIRST:
        raise RuleError(
            f"{system.name} is cycling: no water change until it is done, unless animals are in danger. Say which "
            "danger it is, or wait until ammonia and nitrite are gone.",
            field="emergency",
        )
    for parameter, target in ((Parameter.SALINITY, 0.0), (Parameter.ALKALINITY, request.alkalinity_meq_l)):
        if target is not None and parameter not in water:
            raise PlanError(f"Test {parameter.value} first: without it no batch can be matched.", field=parameter.value)


def _check_aim(water: Mapping[Parameter, float], request: ChangeRequest) -> None:
    """Refuse an aim that is already met: there is nothing to change."""
    if request.aim is None or request.aim[0] not in water:
        return
    parameter, target = request.aim
    check_mixes(parameter)
    possible = FACTS[parameter].possible
    check_range(f"target {spoken(parameter)}", target, "", possible.low, possible.high, field="target")
    if abs(water[parameter] - target) <= 1e-6 * max(1.0, abs(target)):
        raise PlanError(f"{FACTS[parameter].name} is there already: it needs no change.", field="target")


def _check_size(system: System, request: ChangeRequest) -> None:
    """A size from 1 % to the method's largest; a near-total change only where the method is for those."""
    allowed = system.methods.largest_fraction
    if request.purpose == Purpose.NEAR_TOTAL and allowed <= LARGEST_FRACTION_EVER:
        raise RuleError(
            f"{system.name}'s method changes {short(allowed * 100)} % at most. A near-total change is for systems that "
            "are kept so: choose that method in Set-up first, if it is meant.",
            field="purpose",
        )
    check_range(
        "size", request.fraction * 100, "%", 1, round(largest_fraction(system, request) * 100, 1), field="fraction"
    )
    if request.left is not None:
        check_range("share that may be left", request.left * 100, "%", 1, 95, field="left")


def _salinity_is_out(system: System, water: Mapping[Parameter, float]) -> bool:
    band = system.bands.get(Parameter.SALINITY)
    return band is not None and not band.holds(water[Parameter.SALINITY])


def _cautions(system: System, steps: list[PlanStep], request: ChangeRequest) -> tuple[str, ...]:
    keys = ["electricity", "siphon", "weight"]
    batches = [step for step in steps if step.batch and step.kind == ChangeStepKind.CHANGE]
    if any(step.batch_dose_g or step.system_dose_g for step in steps):
        keys.append("caustic" if request.source == AlkalinitySource.SODA_ASH else "alkalinity_dose")
    gaps = [abs(step.batch.salinity - step.before[Parameter.SALINITY]) for step in batches if step.batch]
    if max(gaps, default=0.0) > PLUME_SALINITY:
        keys.append("plume")
    if any((step.batch_alkalinity_meq_l or 0) > ELEVATED_ALKALINITY_MEQ_L for step in steps):
        keys.append("precipitation")
    if any(step.fraction > system.methods.largest_fraction + 1e-9 for step in steps):
        keys.append("near_total" if request.purpose == Purpose.NEAR_TOTAL else "beyond_method")
    if request.purpose == Purpose.DILUTE:
        keys.append("contamination")
    if request.water is not None and request.water.kind in (Water.STORED, Water.NATURAL):
        keys.append("stored")
    if system.stage == Stage.BREAKING_IN and request.purpose != Purpose.FIRST:
        keys.append("breaking_in")
    return tuple(keys)


def _drifted(state: dict[Parameter, float], drifts: Mapping[Parameter, float], days: int) -> dict[Parameter, float]:
    return {parameter: max(0.0, value + drifts.get(parameter, 0.0) * days) for parameter, value in state.items()}


def _near(value: float | None, target: float | None, tolerance: float) -> bool:
    return target is None or value is None or abs(value - target) <= tolerance


def _wants_water(
    state: Mapping[Parameter, float], request: ChangeRequest, start: Mapping[Parameter, float], left: float
) -> bool:
    """Whether another change is needed: for salinity, for the aim of its purpose, or for dilution."""
    if not _near(state.get(Parameter.SALINITY), request.salinity, MATCH_SALINITY):
        return True
    if request.left is not None and left > request.left + 1e-9:
        return True
    return request.aim is not None and not is_there(state[request.aim[0]], request.aim[1], start[request.aim[0]])


def _reached(
    state: Mapping[Parameter, float], request: ChangeRequest, start: Mapping[Parameter, float], left: float
) -> bool:
    return not _wants_water(state, request, start, left) and not (
        request.alkalinity_meq_l is not None
        and state[Parameter.ALKALINITY] < request.alkalinity_meq_l - MATCH_ALKALINITY_MEQ_L
    )


def _used(request: ChangeRequest, step: PlanStep) -> ChangeRequest:
    """The request with what remains of the water at hand."""
    if request.water is None or request.water.litres is None:
        return request
    return replace(request, water=replace(request.water, litres=request.water.litres - step.volume_l))


def _stuck(steps: list[PlanStep], request: ChangeRequest, state: Mapping[Parameter, float]) -> bool:
    """Whether a further step would achieve nothing: a dose of nothing, a change that production between steps undoes,
    or water at hand used up by the first."""
    last = steps[-1]
    if last.kind == ChangeStepKind.DOSE:
        return not last.system_dose_g
    if request.water is not None and request.water.litres is not None and request.water.litres <= MAX_LEFT_L:
        return True
    if request.aim is None:
        return False
    parameter, target = request.aim
    return abs(state[parameter] - target) >= abs(last.before[parameter] - target) - 1e-9


MAX_LEFT_L = 1.0
"""Less water than this, in L, makes no change."""


def level_after(system: System, known: Present, parameter: Parameter) -> float | None:
    """The level that a routine change leaves a parameter at: what is well inside its band is held, else it goes to its
    aim; salinity that is near an edge only as far as one change of the usual size brings it.

    None without a band: nothing says where to go.
    """
    band, goal = system.bands.get(parameter), system.aim(parameter)
    if band is None or goal is None:
        return None
    if position(known.value, known.sd, band) == Position.IN_BAND:
        return known.value
    if parameter != Parameter.SALINITY or not band.holds(known.value):
        return goal
    reach = system.routine.fraction * PLUME_SALINITY
    return known.value + max(-reach, min(reach, goal - known.value))


def summary_words(plan: ChangePlan, units: UnitChoice | None = None) -> str:
    """The plan in one or two sentences in the keeper's units, with what bound it."""
    if plan.short_g:
        return (
            f"The bucket is too small: {kilograms_words(plan.salt_g)} of salt are needed, "
            f"{kilograms_words(plan.short_g)} are missing."
        )
    held = listed([bound_words(bound, units or {}) for bound in plan.bounds])
    if not plan.reached:
        steps = counted(len(plan.steps), "step") + (f", held by {held}" if held else "")
        return f"Not at target after {steps}: a larger size or fewer days between them would help."
    first = plan.steps[0]
    cut = first.kind == ChangeStepKind.CHANGE and bool(first.bounds) and first.fraction < plan.asked - 1e-6
    if len(plan.steps) == 1:
        if not cut:
            return "One change is enough."
        sizes = " instead of ".join(f"{show_number(share * 100, 1)} %" for share in (first.fraction, plan.asked))
        return f"One change of {sizes}, held by {held}."
    changes = sum(step.kind == ChangeStepKind.CHANGE for step in plan.steps)
    doses = len(plan.steps) - changes
    more = f" and {counted(doses, 'day')} of dosing" if doses else ""
    by = f", held by {held}" if held else ""
    return (
        f"{counted(changes, 'change')}{more}{by}: at target on {day_words(plan.steps[-1].day)}. Test before each step."
    )


def bound_words(bound: Bound, units: UnitChoice) -> str:
    """What bound a change, as a keeper would say it."""
    match bound.kind:
        case BoundKind.SIZE:
            return f"changes of at most {show_number(bound.amount * 100, 1)} %"
        case BoundKind.SUPPLY:
            return f"the {litres_words(bound.amount)} of it that there are"
        case BoundKind.PLUME:
            gap = show_difference(Parameter.SALINITY, bound.amount, LABEL_SALINITY, units)
            return f"new water at most {gap} from the system's"
    parameter = bound.parameter or Parameter.SALINITY
    around = FACTS[parameter].likely.middle
    return f"the daily limit of {spoken(parameter)}, {show_difference(parameter, bound.amount, around, units)}"
