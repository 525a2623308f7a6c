"""The match gate before pouring: does the batch do what was planned, and is it bearable where it meets the animals?"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from .additives import COMPOUNDS, dose_mass_g
from .change_step import MATCH_ALKALINITY_MEQ_L, MATCH_SALINITY, PLUME_SALINITY, PLUME_TEMPERATURE_C
from .dilution import dilute
from .job import Job
from .mix import salt_to_strengthen_g, water_to_weaken_l
from .parameters import Parameter, spoken
from .typed import show_number
from .units import show

MATCH_TEMPERATURE_C = 0.5
CLOSE_SHARE = 0.5
"""A change beyond the method's largest asks for half the tolerance (judgement)."""


@dataclass(frozen=True)
class GateLine:
    """One question of the gate: whether it is met, what was found, and the correction if it is not."""

    parameter: Parameter
    met: bool
    words: str
    correction: str = ""


def match_gate(job: Job, measured: Mapping[Parameter, float]) -> tuple[GateLine, ...]:
    """The gate's lines for the batch as measured (temperature °C, salinity ppt, alkalinity meq/L).

    Two questions each: would the system move as planned, within the tolerance and the daily limit; and is the batch
    itself near enough for the animals that meet it undiluted. Alkalinity is asked for where the batch was dosed.
    """
    asked = [Parameter.TEMPERATURE, Parameter.SALINITY]
    if job.batch_dose_g or Parameter.ALKALINITY in measured:
        asked.append(Parameter.ALKALINITY)
    return tuple(_line(job, parameter, measured.get(parameter)) for parameter in asked)


def _line(job: Job, parameter: Parameter, value: float | None) -> GateLine:
    name = spoken(parameter)
    if value is None:
        return GateLine(parameter, False, f"{name} not measured yet", f"measure the batch's {name}")
    check = {
        Parameter.TEMPERATURE: _temperature,
        Parameter.SALINITY: _salinity,
        Parameter.ALKALINITY: _alkalinity,
    }[parameter]
    return check(job, value)


def _temperature(job: Job, value: float) -> GateLine:
    system = job.before.get(Parameter.TEMPERATURE, job.temperature_c)
    # The system may end up anywhere between the least and as much above the aim as the tolerance lets it.
    warmest = min(
        system + PLUME_TEMPERATURE_C, job.temperature_c + MATCH_TEMPERATURE_C * _tolerance(job) / job.fraction
    )
    coldest = max(job.least_temperature_c, job.temperature_c - MATCH_TEMPERATURE_C * _tolerance(job) / job.fraction)
    words = _against(job, Parameter.TEMPERATURE, value, job.temperature_c)
    if value < coldest:
        return GateLine(Parameter.TEMPERATURE, False, words, f"heat on: {_degrees(job, coldest - value)} to go")
    if value > warmest:
        return GateLine(Parameter.TEMPERATURE, False, words, f"wait: {_degrees(job, value - warmest)} too warm")
    return GateLine(Parameter.TEMPERATURE, True, words)


def _against(job: Job, parameter: Parameter, value: float, planned: float) -> str:
    return f"{show(parameter, value, job.units)}, planned {show(parameter, planned, job.units)}"


def _degrees(job: Job, difference: float) -> str:
    unit = job.units.get(Parameter.TEMPERATURE, "°C")
    return f"{show_number(difference * (1.8 if unit == '°F' else 1.0), 1)} {unit}"


def _salinity(job: Job, value: float) -> GateLine:
    planned, now = job.incoming[Parameter.SALINITY], job.before[Parameter.SALINITY]
    words = _against(job, Parameter.SALINITY, value, planned)
    reach = max(PLUME_SALINITY, abs(planned - now) + MATCH_SALINITY)
    moved = _moves_as_planned(job, now, planned, value, MATCH_SALINITY, job.limits.salinity)
    if moved and abs(value - now) <= reach:
        return GateLine(Parameter.SALINITY, True, words)
    if value < planned:
        mass = salt_to_strengthen_g(job.litres, value, planned, job.salt.sea_salt)
        correction = f"add {show_number(mass, 0)} g {job.salt.name}, let it dissolve, measure again"
    else:
        litres = water_to_weaken_l(job.litres, value, planned)
        correction = f"take {show_number(litres, 1)} L out of the batch and fill up with fresh water"
    return GateLine(Parameter.SALINITY, False, words, correction)


def _alkalinity(job: Job, value: float) -> GateLine:
    planned = job.incoming.get(Parameter.ALKALINITY)
    now = job.before.get(Parameter.ALKALINITY)
    if planned is None or now is None:
        return GateLine(
            Parameter.ALKALINITY,
            True,
            f"{show(Parameter.ALKALINITY, value, job.units)}, nothing planned to compare with",
        )
    words = _against(job, Parameter.ALKALINITY, value, planned)
    if _moves_as_planned(job, now, planned, value, MATCH_ALKALINITY_MEQ_L, job.limits.alkalinity_meq_l):
        return GateLine(Parameter.ALKALINITY, True, words)
    if value < planned:
        mass = dose_mass_g(COMPOUNDS[job.source].formula, Parameter.ALKALINITY, planned - value, job.litres)
        correction = f"add {show_number(mass, 1)} g {COMPOUNDS[job.source].name}, dissolved first, measure again"
    else:
        correction = f"use at most {show_number(_most_litres(job, now, planned, value), 1)} L of it"
    return GateLine(Parameter.ALKALINITY, False, words, correction)


def _moves_as_planned(job: Job, now: float, planned: float, value: float, tolerance: float, limit: float) -> bool:
    """Within the tolerance of the planned result, and within the daily limit unless the plan itself uses it up."""
    after, wanted = dilute(now, value, job.fraction), dilute(now, planned, job.fraction)
    slack = tolerance * _tolerance(job)
    return abs(after - wanted) <= slack and abs(after - now) <= max(limit, abs(wanted - now)) + 1e-9


def _most_litres(job: Job, now: float, planned: float, value: float) -> float:
    """Litres of the batch as it is that move the system no further than planned plus the tolerance."""
    allowed = dilute(now, planned, job.fraction) - now + MATCH_ALKALINITY_MEQ_L * _tolerance(job)
    if value <= now:
        return 0.0
    return max(0.0, job.volume_l * min(allowed, job.limits.alkalinity_meq_l) / (value - now))


def _tolerance(job: Job) -> float:
    return CLOSE_SHARE if job.close else 1.0
