"""One day's work of a plan: the batch, the doses, and their effect on the water."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from enum import StrEnum

from ..basics.errors import PlanError
from ..basics.number_text import short
from ..basics.working import Formula, FormulaInput, Result, Step, Working
from ..science.additives import COMPOUNDS, AlkalinitySource, dose_mass_g
from ..science.dilution import ONE, dilute, fraction_to_reach
from ..science.draining import BUCKETS
from ..science.mix import MIXING_C, NOT_IN_SALT, Batch
from ..science.parameters import Parameter, Span, spoken
from ..science.seawater import SALINITY_MAX
from ..science.sizing import Bound, BoundKind, bound_of, fraction_within
from ..science.units import DKH_PER_MEQ_L
from ..system.system import System
from .change_request import ChangeRequest, cut_words, level_of_new, of_what_is_there, water_for

MATCH_SALINITY = 0.3
MATCH_ALKALINITY_MEQ_L = 0.3 / DKH_PER_MEQ_L
PLUME_SALINITY = 2.0
PLUME_SALINITY_ON_PURPOSE = 5.0
PLUME_TEMPERATURE_C = 3.0
TOO_LITTLE_MEQ_L = 0.01
MIN_DOSE_G = 0.05
MIN_FRACTION = 1e-6
"""Judgement, all of them: match and plume as the match gate has them; the batch may be further from the system only
where salinity itself is out of band, and then by no more than 5 ppt."""


class ChangeStepKind(StrEnum):
    """What a step of a plan is."""

    CHANGE = "change"
    DOSE = "dose"


@dataclass(frozen=True)
class PlanStep:
    """One day's work: the change and its batch (None for a dose alone), doses in g, and before and after.

    incoming: composition of the new water, where known for both waters · bounds: what kept it from doing more.
    """

    kind: ChangeStepKind
    day: date
    fraction: float
    volume_l: float
    batch: Batch | None
    batch_alkalinity_meq_l: float | None
    batch_dose_g: float
    system_dose_g: float
    temperature_c: float | None
    least_temperature_c: float | None
    buckets: int
    before: Mapping[Parameter, float]
    after: Mapping[Parameter, Span]
    working: Mapping[str, Working]
    remarks: tuple[str, ...]
    bounds: tuple[Bound, ...] = ()
    incoming: Mapping[Parameter, Span] = field(default_factory=dict)

    def after_best(self) -> dict[Parameter, float]:
        """The expected values afterwards: the middle of each interval."""
        return {parameter: span.middle for parameter, span in self.after.items()}


VOLUME = Formula("v", "volume out, and in again", "f * V", "L", "a fraction is of the net volume")
BATCH_SALINITY = Formula(
    "S_in", "batch salinity", "S + dS / f", "ppt", "dilution: S' = S·(1−f) + S_in·f, solved for S_in"
)
DOSED = Formula("C''", "after the dose to the system", "C + dA", "meq/L", "mass balance of a dose")
MIN_TEMPERATURE = Formula(
    "t_min",
    "least temperature of the batch",
    "max(t - p, t - dt / f)",
    "°C",
    "judgement: plume limit p, and the daily limit dt on the whole system",
)


def change_step(
    system: System, state: Mapping[Parameter, float], request: ChangeRequest, day: date, purpose: bool
) -> PlanStep:
    """A day with a water change, and a dose to the system where the change leaves some of the day's allowance."""
    request, sized, bounds = _sized(system, state, request)
    salinity_step = _salinity_of_new(system, state[Parameter.SALINITY], request, purpose)
    fraction, remarks, cut = _fraction_within_limit(system, state, request, salinity_step.value)
    bounds += cut or _salinity_bounds(system, state[Parameter.SALINITY], request, salinity_step.value)
    volume = VOLUME.compute(
        f=FormulaInput(fraction, "", "share changed"), V=FormulaInput(system.volume_l, "L", "net volume")
    )
    if fraction != request.fraction:
        salinity_step = _same_batch(state[Parameter.SALINITY], salinity_step.value, fraction)
    batch = water_for(request, volume.value, salinity_step.value)
    alkalinity, batch_dose = _batch_alkalinity(system, state, request, batch, fraction)
    incoming = _incoming(request, batch, alkalinity, state)
    diluted = {parameter: _diluted(state[parameter], span, fraction) for parameter, span in incoming.items()}
    after = {parameter: span for parameter, (span, _) in diluted.items()}
    working: dict[str, Working] = {f"after_{parameter.value}": steps for parameter, (_, steps) in diluted.items()}
    system_dose, rise = _system_dose(system, state, request, after)
    if system_dose:
        after[Parameter.ALKALINITY], working["after_alkalinity"] = _dosed(after, rise, working["after_alkalinity"])
        working["system_dose"] = system_dose.working
    if batch_dose:
        working["batch_dose"] = batch_dose.working
    if alkalinity is None and request.alkalinity_meq_l is not None:
        remarks += (f"{request.water_name} names no alkalinity: measure the batch before it goes in.",)
    temperature = _temperature_to_reach(system, state)
    if Parameter.TEMPERATURE not in state:
        remarks += ("The system's temperature was not measured: the middle of its band is taken. Measure it first.",)
    least = _least_temperature(system, state, fraction, temperature)
    buckets = BUCKETS.compute(v=volume.given(), b=FormulaInput(system.bucket_l, "L", "one bucket"))
    working |= {"volume": (*sized, volume), "salinity": (salinity_step,), "mass": batch.working[:-2]}
    working |= {"fresh_water": batch.working[-3:], "least_temperature": (least,), "buckets": (buckets,)}
    return PlanStep(
        ChangeStepKind.CHANGE, day, fraction, volume.value, batch, alkalinity,
        float(batch_dose or 0.0), float(system_dose or 0.0),
        temperature, least.value, int(buckets.value), dict(state), after, working, remarks,
        bounds + _alkalinity_bounds(system, request, after), incoming,
    )  # fmt: skip


def dose_step(
    system: System, state: Mapping[Parameter, float], request: ChangeRequest, day: date, purpose: bool
) -> PlanStep:
    """A day on which only alkalinity is dosed: salinity has arrived already."""
    now = state[Parameter.ALKALINITY]
    after = {Parameter.ALKALINITY: Span(now, now)}
    dose, rise = _system_dose(system, state, request, after)
    working: dict[str, Working] = {}
    if dose:
        after[Parameter.ALKALINITY], working["after_alkalinity"] = _dosed(after, rise, ())
        working["system_dose"] = dose.working
    return PlanStep(
        ChangeStepKind.DOSE, day, 0.0, 0.0, None, None, 0.0, float(dose or 0.0),
        None, None, 0, dict(state), after, working, (), _alkalinity_bounds(system, request, after),
    )  # fmt: skip


def _sized(
    system: System, state: Mapping[Parameter, float], request: ChangeRequest
) -> tuple[ChangeRequest, Working, tuple[Bound, ...]]:
    """The request with this step's fraction: what the aim of its purpose needs, within the limits."""
    if request.aim is None:
        return request, (), (Bound(BoundKind.SIZE, request.fraction),) if request.left is not None else ()
    parameter, target = request.aim
    if parameter not in state:
        raise PlanError(f"Test {spoken(parameter)} first.", field="parameter")
    level = level_of_new(request, parameter, request.salinity or state[Parameter.SALINITY])
    fraction_to_reach(state[parameter], target, level)
    limit = system.limit(parameter)
    found = fraction_within(state[parameter], target, level, request.fraction, limit)
    bound = bound_of(parameter, state[parameter], target, level, request.fraction, limit)
    if found < MIN_FRACTION:
        why = "its daily limit lets nothing move" if bound else "it is there already"
        raise PlanError(f"No change is needed or allowed for {spoken(parameter)}: {why}.", field="target")
    return replace(request, fraction=float(found)), found.working, (bound,) if bound else ()


def _salinity_of_new(system: System, now: float, request: ChangeRequest, purpose: bool) -> Step:
    """The salinity of the new water: its own, or for a batch the one that moves the system to target."""
    if request.water is None:
        return _salinity_of_batch(system, now, request, purpose)
    known = request.water.holds.get(Parameter.SALINITY)
    if known is None:
        raise PlanError(f"Measure the salinity of {request.water.name} first.", field="water")
    return BATCH_SALINITY.compute(
        S=FormulaInput(now, "ppt", "system before"),
        dS=FormulaInput((known.middle - now) * request.fraction, "ppt", "movement by water as it is"),
        f=FormulaInput(request.fraction, "", "share changed"),
    )


def _salinity_of_batch(system: System, now: float, request: ChangeRequest, purpose: bool) -> Step:
    """Batch salinity that moves the system to target in one change, within the daily limit and the plume's bound."""
    limit = system.limits.salinity
    wanted = 0.0 if request.salinity is None else max(-limit, min(limit, request.salinity - now))
    reach = PLUME_SALINITY_ON_PURPOSE if purpose else PLUME_SALINITY
    moved = max(-reach * request.fraction, min(reach * request.fraction, wanted))
    moved = max((1 - now) * request.fraction, min((SALINITY_MAX - 3 - now) * request.fraction, moved))
    return BATCH_SALINITY.compute(
        S=FormulaInput(now, "ppt", "system before"),
        dS=FormulaInput(
            moved, "ppt", f"movement, at most {short(limit)} a day and {short(reach)} between batch and system"
        ),
        f=FormulaInput(request.fraction, "", "share changed"),
    )


def _salinity_bounds(system: System, now: float, request: ChangeRequest, new: float) -> tuple[Bound, ...]:
    """What keeps a batch from bringing salinity to its target at once."""
    if request.salinity is None or request.water is not None:
        return ()
    moved, wanted = (new - now) * request.fraction, request.salinity - now
    if abs(wanted - moved) <= MATCH_SALINITY:
        return ()
    if abs(moved) >= system.limits.salinity - 1e-6:
        return (Bound(BoundKind.LIMIT, system.limits.salinity, Parameter.SALINITY),)
    return (Bound(BoundKind.PLUME, abs(new - now)),)


def _alkalinity_bounds(system: System, request: ChangeRequest, after: Mapping[Parameter, Span]) -> tuple[Bound, ...]:
    """Alkalinity that its daily limit keeps from its target."""
    reached = after.get(Parameter.ALKALINITY)
    if request.alkalinity_meq_l is None or reached is None:
        return ()
    if request.alkalinity_meq_l - reached.middle <= MATCH_ALKALINITY_MEQ_L:
        return ()
    return (Bound(BoundKind.LIMIT, system.limits.alkalinity_meq_l, Parameter.ALKALINITY),)


def _same_batch(now: float, batch: float, fraction: float) -> Step:
    """The batch's salinity recomputed for a smaller change, which moves the system less."""
    return BATCH_SALINITY.compute(
        S=FormulaInput(now, "ppt", "system before"),
        dS=FormulaInput((batch - now) * fraction, "ppt", "movement that the smaller size leaves"),
        f=FormulaInput(fraction, "", "share changed"),
    )


def _fraction_within_limit(
    system: System, state: Mapping[Parameter, float], request: ChangeRequest, salinity: float
) -> tuple[float, tuple[str, ...], tuple[Bound, ...]]:
    """The requested fraction, or the largest with enough water at which nothing exceeds its daily limit; with what cut
    it."""
    remarks: tuple[str, ...] = ()
    bounds: tuple[Bound, ...] = ()
    if request.water is not None:
        fraction, remarks, bounds = of_what_is_there(system, state, request.water, request.fraction)
        request = replace(request, fraction=fraction)
    try:
        level = level_of_new(request, Parameter.ALKALINITY, salinity)
    except PlanError:
        return request.fraction, remarks, bounds
    now = state.get(Parameter.ALKALINITY)
    if now is None:
        return request.fraction, remarks, bounds
    gap, limit = level - now, system.limits.alkalinity_meq_l
    # A dose into the batch keeps a fall within the limit, unless alkalinity is to be left alone.
    moved = abs(gap) if gap > 0 or request.alkalinity_meq_l is None else 0.0
    if moved * request.fraction <= limit:
        return request.fraction, remarks, bounds
    share = limit / moved
    words = f"{cut_words(share)}: {request.water_name} at this size would move alkalinity past the daily limit."
    return share, (*remarks, words), (Bound(BoundKind.LIMIT, limit, Parameter.ALKALINITY),)


def _batch_alkalinity(
    system: System, state: Mapping[Parameter, float], request: ChangeRequest, batch: Batch, fraction: float
) -> tuple[float | None, Result | None]:
    """The batch's target alkalinity, and the dose for it; dosing never goes above target."""
    span = batch.holds.get(Parameter.ALKALINITY)
    if span is None:
        return None, None
    if request.alkalinity_meq_l is None:
        return span.middle, None
    now, limit = state[Parameter.ALKALINITY], system.limits.alkalinity_meq_l
    wanted = max(-limit, min(limit, request.alkalinity_meq_l - now))
    aim = min(request.alkalinity_meq_l, now + wanted / fraction) if wanted >= 0 else now + wanted / fraction
    lacking = aim - span.middle
    within = abs(span.middle - now) * fraction <= limit
    if lacking <= 0 or (lacking <= TOO_LITTLE_MEQ_L and within):
        return span.middle, None
    dose = _dose_mass(request.source, lacking, batch.volume_l)
    if dose < MIN_DOSE_G and within:
        return span.middle, None
    return aim, dose


def _dose_mass(source: AlkalinitySource, rise_meq_l: float, volume_l: float) -> Result:
    return dose_mass_g(COMPOUNDS[source].formula, Parameter.ALKALINITY, rise_meq_l, volume_l)


def _incoming(
    request: ChangeRequest, batch: Batch, alkalinity: float | None, state: Mapping[Parameter, float]
) -> dict[Parameter, Span]:
    """The composition of the new water, for every parameter known for both waters."""
    holds = {Parameter.SALINITY: Span(batch.salinity, batch.salinity), **batch.holds}
    if request.water is None:
        holds |= {nutrient: Span(0.0, 0.0) for nutrient in NOT_IN_SALT}
    if alkalinity is not None:
        shift = alkalinity - batch.holds[Parameter.ALKALINITY].middle
        span = batch.holds[Parameter.ALKALINITY]
        holds[Parameter.ALKALINITY] = Span(span.low + shift, span.high + shift)
    return {parameter: span for parameter, span in holds.items() if parameter in state}


def _diluted(before: float, incoming: Span, fraction: float) -> tuple[Span, Working]:
    step = ONE.compute(
        C_0=FormulaInput(before, "", "before"),
        f=FormulaInput(fraction, "", "share changed"),
        C_in=FormulaInput(incoming.middle, "", "batch"),
    )
    return Span(dilute(before, incoming.low, fraction), dilute(before, incoming.high, fraction)), (step,)


def _system_dose(
    system: System, state: Mapping[Parameter, float], request: ChangeRequest, after: Mapping[Parameter, Span]
) -> tuple[Result | None, float]:
    """The dose to the system that uses what the change leaves of the day's allowance, if worthwhile."""
    if request.alkalinity_meq_l is None or Parameter.ALKALINITY not in after:
        return None, 0.0
    now, reached = state[Parameter.ALKALINITY], after[Parameter.ALKALINITY].middle
    if request.alkalinity_meq_l - reached <= MATCH_ALKALINITY_MEQ_L:
        return None, 0.0
    rise = min(request.alkalinity_meq_l, now + system.limits.alkalinity_meq_l) - reached
    if rise <= TOO_LITTLE_MEQ_L:
        return None, 0.0
    return _dose_mass(request.source, rise, system.volume_l), rise


def _dosed(after: Mapping[Parameter, Span], rise: float, earlier: Working) -> tuple[Span, Working]:
    span = after[Parameter.ALKALINITY]
    step = DOSED.compute(
        C=FormulaInput(span.middle, "meq/L", "before the dose"), dA=FormulaInput(rise, "meq/L", "dose to the system")
    )
    return Span(span.low + rise, span.high + rise), (*earlier, step)


def _temperature_to_reach(system: System, state: Mapping[Parameter, float]) -> float:
    """The system's own temperature, or the nearest inside its band; where nothing is known, the mixing temperature."""
    known, band = state.get(Parameter.TEMPERATURE), system.bands.get(Parameter.TEMPERATURE)
    if known is None:
        return band.middle if band else MIXING_C
    return band.nearest(known) if band else known


def _least_temperature(system: System, state: Mapping[Parameter, float], fraction: float, aim: float) -> Step:
    return MIN_TEMPERATURE.compute(
        t=FormulaInput(state.get(Parameter.TEMPERATURE, aim), "°C", "system"),
        p=FormulaInput(PLUME_TEMPERATURE_C, "°C", "most between batch and system"),
        dt=FormulaInput(system.limits.temperature_c, "°C", "daily limit"),
        f=FormulaInput(fraction, "", "share changed"),
    )
