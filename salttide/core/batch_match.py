"""What a measured batch lacks of its plan, what brings it there, and the gate that it passes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from .additives import COMPOUNDS, dose_mass_g
from .batch import ORDER, TIDE_MARK_L, BatchJob, BatchKind, BatchState, Phase, raising
from .batch_plan import headroom_l
from .change_step import MATCH_ALKALINITY_MEQ_L, MATCH_SALINITY
from .match import GateLine, GatePart, heating_min, unmeasured
from .mix import correct_batch
from .parameters import Parameter
from .typed import show_number
from .units import show, show_difference

GATE_TEMPERATURE_C = 1.0


@dataclass(frozen=True)
class Correction:
    """What brings a batch to what was planned, as it would be said and as it would be recorded, in order."""

    words: tuple[str, ...]
    events: tuple[tuple[BatchKind, float, str], ...]


def correction(job: BatchJob, state: BatchState) -> Correction:
    """Salinity first, within the container; then doses for what is short of the plan by more than the gate's tolerance.

    Nothing to do is an empty correction. Alkalinity above the plan cannot be taken out: that is for the gate to say.
    """
    salinity = state.holds.get(Parameter.SALINITY)
    if not state.usable or salinity is None or Parameter.SALINITY not in state.told:
        return Correction((), ())
    if abs(salinity - job.salinity) > MATCH_SALINITY:
        return _to_salinity(job, state, salinity)
    words, events = [], []
    for parameter in ORDER:
        lacking = job.incoming.get(parameter, 0.0) - state.holds.get(parameter, 0.0)
        if parameter in state.told and lacking > _GATE.get(parameter, 1e9):
            formula = raising(parameter, job.source)
            mass = float(dose_mass_g(formula, parameter, lacking, state.litres))
            words.append(f"add {show_number(mass, 1)} g {formula}, dissolved on its own first")
            events.append((BatchKind.DOSED, mass, formula))
    return Correction(tuple(words), tuple(events))


_GATE = {Parameter.ALKALINITY: MATCH_ALKALINITY_MEQ_L, Parameter.CALCIUM: 15.0, Parameter.MAGNESIUM: 40.0}


def _to_salinity(job: BatchJob, state: BatchState, salinity: float) -> Correction:
    room = max(job.container_l - headroom_l(job.container_l) / 2, state.litres)
    found = correct_batch(state.litres, room, salinity, job.salinity, job.salt.sea_salt)
    words, events = [], []
    if found.take_out_l > TIDE_MARK_L:
        words.append(f"take {show_number(found.take_out_l, 1)} L out of the batch first: the container is full")
        events.append((BatchKind.OUT, found.take_out_l, ""))
    if found.fresh_l:
        words.append(f"add {show_number(found.fresh_l, 1)} L of fresh water")
        events.append((BatchKind.FRESH, found.fresh_l, ""))
    if found.salt_g:
        words.append(f"add {show_number(found.salt_g, 0)} g {job.salt.name}, let it dissolve")
        events.append((BatchKind.SALT, found.salt_g, ""))
    return Correction((*words, "then measure again"), tuple(events))


def batch_gate(job: BatchJob, measured: Mapping[Parameter, float]) -> tuple[GateLine, ...]:
    """Whether a batch is as planned: salinity and temperature, and alkalinity where it is dosed or was measured."""
    asked = [Parameter.SALINITY, Parameter.TEMPERATURE]
    if Parameter.ALKALINITY in measured or COMPOUNDS[job.source].formula in job.doses:
        asked.append(Parameter.ALKALINITY)
    return tuple(_line(job, parameter, measured.get(parameter)) for parameter in asked)


def _line(job: BatchJob, parameter: Parameter, value: float | None) -> GateLine:
    planned = job.temperature_c if parameter == Parameter.TEMPERATURE else job.incoming.get(parameter)
    if value is None:
        return unmeasured(parameter, GatePart.BATCH)
    if planned is None:
        return GateLine(GatePart.BATCH, parameter, True, f"{show(parameter, value, job.units)}, nothing planned")
    words = f"{show(parameter, value, job.units)}, planned {show(parameter, planned, job.units)}"
    slack = {Parameter.TEMPERATURE: GATE_TEMPERATURE_C, Parameter.SALINITY: MATCH_SALINITY}.get(
        parameter, MATCH_ALKALINITY_MEQ_L
    )
    met = abs(value - planned) <= slack + 1e-9
    return GateLine(GatePart.BATCH, parameter, met, words, "" if met else _mended(job, parameter, value, planned))


def _mended(job: BatchJob, parameter: Parameter, value: float, planned: float) -> str:
    gap = show_difference(parameter, abs(value - planned), planned, job.units)
    if parameter == Parameter.TEMPERATURE:
        if value > planned:
            return f"let it cool: {gap} too warm"
        heat = (
            f", about {show_number(heating_min(job.litres, planned - value, job.heater_w), 0)} min"
            if job.heater_w
            else ""
        )
        return f"heat on: {gap} to go{heat}"
    if parameter == Parameter.ALKALINITY and value > planned:
        return f"{gap} above the plan: nothing takes it out; plan the change with what was measured"
    state = BatchState(
        Phase.RESTING, job.litres, {**job.incoming, parameter: value}, frozenset({parameter, Parameter.SALINITY})
    )
    return ", ".join(correction(job, state).words)
