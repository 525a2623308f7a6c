"""Matching a measured batch to its plan: the correction it needs, and the gate it has to pass."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..basics.measures import grams_words, litres_words
from ..basics.number_text import show_number
from ..science.additives import COMPOUNDS, dose_mass_g
from ..science.amount import dose_text
from ..science.mix import correct_batch, scaled_with_salt
from ..science.parameters import Parameter
from ..science.units import show, show_difference
from .batch import ORDER, TIDE_MARK_L, BatchKind, BatchState, BatchWorkOrder, Phase, raising, undosed
from .batch_plan import headroom_l
from .change_step import MATCH_ALKALINITY_MEQ_L, MATCH_SALINITY
from .match_gate import GateLine, GatePart, heating_min, unmeasured

GATE_TEMPERATURE_C = 1.0


@dataclass(frozen=True)
class Correction:
    """What brings a batch to its plan: in words and as events to record, in order."""

    words: tuple[str, ...]
    events: tuple[tuple[BatchKind, float, str], ...]


def correction(job: BatchWorkOrder, state: BatchState) -> Correction:
    """Salinity first, within the container; then doses for what is short of the plan by more than the gate's tolerance.
    Empty where nothing is needed. Alkalinity above the plan cannot be taken out: the gate reports it.
    """
    salinity = state.holds.get(Parameter.SALINITY)
    if not state.usable or salinity is None or Parameter.SALINITY not in state.measured:
        return Correction((), ())
    if abs(salinity - job.salinity) > MATCH_SALINITY:
        return _to_salinity(job, state, salinity)
    words, events = [], []
    for parameter in ORDER:
        lacking = job.incoming.get(parameter, 0.0) - state.holds.get(parameter, 0.0)
        if parameter in state.measured and lacking > _GATE.get(parameter, 1e9):
            formula = raising(parameter, job.source)
            mass = float(dose_mass_g(formula, parameter, lacking, state.litres))
            words.append(_dose_words(mass, formula))
            events.append((BatchKind.DOSED, mass, formula))
    return Correction(tuple(words), tuple(events))


def _dose_words(mass_g: float, formula: str) -> str:
    return f"add {dose_text(mass_g, formula=formula)} {formula}, dissolved on its own first"


_GATE = {Parameter.ALKALINITY: MATCH_ALKALINITY_MEQ_L, Parameter.CALCIUM: 15.0, Parameter.MAGNESIUM: 40.0}


def _to_salinity(job: BatchWorkOrder, state: BatchState, salinity: float) -> Correction:
    room = max(job.container_l - headroom_l(job.container_l) / 2, state.litres)
    found = correct_batch(state.litres, room, salinity, job.salinity, job.salt.sea_salt)
    words, events = [], []
    if found.take_out_l > TIDE_MARK_L:
        words.append(f"take {litres_words(found.take_out_l)} out of the batch first: the container is full")
        events.append((BatchKind.OUT, found.take_out_l, ""))
    if found.fresh_l:
        words.append(f"add {litres_words(found.fresh_l)} of fresh water")
        events.append((BatchKind.FRESH, found.fresh_l, ""))
    if found.salt_g:
        words.append(f"add {grams_words(found.salt_g)} {job.salt.name}, let it dissolve")
        events.append((BatchKind.SALT, found.salt_g, ""))
    return Correction((*words, "then measure again"), tuple(events))


def batch_gate(
    job: BatchWorkOrder, measured: Mapping[Parameter, float], dosed: Mapping[Parameter, float] | None = None
) -> tuple[GateLine, ...]:
    """Whether a batch is as planned: salinity and temperature, and alkalinity where it is dosed or was measured.

    dosed: the part of the values that came with doses; without them a batch is compared with what its salt alone gives.
    """
    asked = [Parameter.SALINITY, Parameter.TEMPERATURE]
    if Parameter.ALKALINITY in measured or COMPOUNDS[job.source].formula in job.doses:
        asked.append(Parameter.ALKALINITY)
    return tuple(_line(job, parameter, measured, dosed or {}) for parameter in asked)


def _planned(job: BatchWorkOrder, parameter: Parameter, dosed: Mapping[Parameter, float]) -> float | None:
    """What it should hold by now: before its doses, what came with the salt alone."""
    if parameter == Parameter.TEMPERATURE:
        return job.temperature_c
    still_to_come = raising(parameter, job.source) in job.doses if parameter in ORDER else False
    if still_to_come and not dosed.get(parameter):
        return undosed(job).get(parameter)
    return job.incoming.get(parameter)


def _line(
    job: BatchWorkOrder, parameter: Parameter, measured: Mapping[Parameter, float], dosed: Mapping[Parameter, float]
) -> GateLine:
    value, planned = measured.get(parameter), _planned(job, parameter, dosed)
    if value is None:
        return unmeasured(parameter, GatePart.BATCH)
    if planned is None:
        return GateLine(GatePart.BATCH, parameter, True, f"{show(parameter, value, job.units)}, nothing planned")
    words = f"{show(parameter, value, job.units)}, planned {show(parameter, planned, job.units)}"
    met = abs(value - planned) <= _SLACK[parameter] + 1e-9
    mended = "" if met else _MENDED[parameter](job, measured, planned, dosed)
    return GateLine(GatePart.BATCH, parameter, met, words, mended)


_SLACK = {
    Parameter.TEMPERATURE: GATE_TEMPERATURE_C,
    Parameter.SALINITY: MATCH_SALINITY,
    Parameter.ALKALINITY: MATCH_ALKALINITY_MEQ_L,
}

Values = Mapping[Parameter, float]


def _mended_temperature(job: BatchWorkOrder, measured: Values, planned: float, dosed: Values) -> str:
    value = measured[Parameter.TEMPERATURE]
    gap = show_difference(Parameter.TEMPERATURE, abs(value - planned), planned, job.units)
    if value > planned:
        return f"let it cool: {gap} too warm"
    minutes = show_number(heating_min(job.litres, planned - value, job.heater_w), 0) if job.heater_w else ""
    return f"heat on: {gap} to go{f', about {minutes} min' if minutes else ''}"


def _mended_salinity(job: BatchWorkOrder, measured: Values, planned: float, dosed: Values) -> str:
    held = {**job.incoming, Parameter.SALINITY: measured[Parameter.SALINITY]}
    state = BatchState(Phase.RESTING, job.litres, held, frozenset({Parameter.SALINITY}))
    return ", ".join(correction(job, state).words)


def _mended_alkalinity(job: BatchWorkOrder, measured: Values, planned: float, dosed: Values) -> str:
    """The alkalinity correction left once salinity is corrected: salt and fresh water move alkalinity too."""
    value, said = measured[Parameter.ALKALINITY], ""
    salinity = measured.get(Parameter.SALINITY, job.salinity)
    if salinity and abs(salinity - job.salinity) > MATCH_SALINITY:
        value = scaled_with_salt(value, job.salinity / salinity, dosed.get(Parameter.ALKALINITY, 0.0))
        said = f"correct salinity first, which brings it to about {show(Parameter.ALKALINITY, value, job.units)}"
        if abs(value - planned) <= MATCH_ALKALINITY_MEQ_L:
            return f"{said}; then measure again"
        said += "; then "
    if value > planned:
        gap = show_difference(Parameter.ALKALINITY, value - planned, planned, job.units)
        return f"{said}{gap} above the plan: nothing takes it out; plan the change with what was measured"
    formula = COMPOUNDS[job.source].formula
    mass = dose_mass_g(formula, Parameter.ALKALINITY, planned - value, job.litres)
    return f"{said}{_dose_words(mass, formula)}"


_MENDED = {
    Parameter.TEMPERATURE: _mended_temperature,
    Parameter.SALINITY: _mended_salinity,
    Parameter.ALKALINITY: _mended_alkalinity,
}
