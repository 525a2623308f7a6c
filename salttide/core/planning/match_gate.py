"""The match gate before pouring, in two parts: does the system move as planned, and do the animals tolerate the new
water undiluted, where it reaches them? Also the gate of a batch that is being mixed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from ..basics.measures import grams_words, litres_words
from ..basics.number_text import show_number
from ..science.additives import COMPOUNDS, alkalinity_meq, dose_mass_g
from ..science.amount import mass_text
from ..science.dilution import dilute
from ..science.heat import HEAT_KJ_L_K
from ..science.mix import salt_to_strengthen_g, scaled_with_salt, water_to_weaken_l
from ..science.parameters import Parameter, spoken
from ..science.units import show, show_difference
from .change_step import MATCH_ALKALINITY_MEQ_L, MATCH_SALINITY, PLUME_SALINITY, PLUME_TEMPERATURE_C
from .work_order import ChangeWorkOrder

MATCH_TEMPERATURE_C = 0.5
MATCH_PH = 0.2
CLOSE_SHARE = 0.5
"""A change beyond the method's largest halves the tolerance (judgement)."""


class GateKind(StrEnum):
    """The kind of gate a step has."""

    MATCH = "match"
    NEAR_TOTAL = "near_total"
    BATCH = "batch"


class GatePart(StrEnum):
    """The question a line of a gate answers."""

    SYSTEM = "system"
    PLUME = "plume"
    BATCH = "batch"
    LIMIT = "limit"


@dataclass(frozen=True)
class GateLine:
    """One line of a gate: whether it is met, what was measured, and the correction if it is not."""

    part: GatePart
    parameter: Parameter
    met: bool
    words: str
    correction: str = ""


def unmeasured(parameter: Parameter, part: GatePart) -> GateLine:
    """The line of something a gate needs that was not measured."""
    name = spoken(parameter)
    return GateLine(part, parameter, False, f"{name} not measured yet", f"measure its {name}")


def match_gate(
    job: ChangeWorkOrder, measured: Mapping[Parameter, float], kind: GateKind = GateKind.MATCH
) -> tuple[GateLine, ...]:
    """The gate's lines for the new water as measured (temperature °C, salinity ppt, alkalinity meq/L, pH).

    Alkalinity is needed where the batch was dosed or the water is not freshly mixed; where nearly all water is changed
    everything is needed, pH too, as a mismatch reaches every animal at once.
    """
    asked = [Parameter.TEMPERATURE, Parameter.SALINITY]
    whole = kind == GateKind.NEAR_TOTAL
    if job.batch_dose_g or job.salt is None or whole or Parameter.ALKALINITY in measured:
        asked.append(Parameter.ALKALINITY)
    if whole or Parameter.PH in measured:
        asked.append(Parameter.PH)
    lines: list[GateLine] = []
    for parameter in asked:
        value = measured.get(parameter)
        lines += [unmeasured(parameter, GatePart.SYSTEM)] if value is None else _LINES[parameter](job, measured)
    return tuple(lines)


def _tolerance(job: ChangeWorkOrder) -> float:
    return CLOSE_SHARE if job.close else 1.0


def _against(job: ChangeWorkOrder, parameter: Parameter, value: float, planned: float) -> str:
    return f"{show(parameter, value, job.units)}, planned {show(parameter, planned, job.units)}"


def _apart(job: ChangeWorkOrder, parameter: Parameter, value: float, now: float, most: float) -> str:
    gap, bound = (show_difference(parameter, size, now, job.units) for size in (abs(value - now), most))
    return f"{gap} from the system's {show(parameter, now, job.units)}, {bound} at most"


def _temperature(job: ChangeWorkOrder, measured: Mapping[Parameter, float]) -> list[GateLine]:
    value = measured[Parameter.TEMPERATURE]
    now = job.before.get(Parameter.TEMPERATURE, job.temperature_c)
    # The system may end up anywhere from the lower bound to as far above the aim as the tolerance allows.
    slack = MATCH_TEMPERATURE_C * _tolerance(job) / job.fraction
    low, high = max(job.least_temperature_c, job.temperature_c - slack), job.temperature_c + slack
    words = _against(job, Parameter.TEMPERATURE, value, job.temperature_c)
    system = GateLine(
        GatePart.SYSTEM, Parameter.TEMPERATURE, low <= value <= high, words, _warmth(job, value, low, high)
    )
    low, high = now - PLUME_TEMPERATURE_C, now + PLUME_TEMPERATURE_C
    words = _apart(job, Parameter.TEMPERATURE, value, now, PLUME_TEMPERATURE_C)
    plume = GateLine(GatePart.PLUME, Parameter.TEMPERATURE, low <= value <= high, words, _warmth(job, value, low, high))
    return [system, plume]


def _warmth(job: ChangeWorkOrder, value: float, low: float, high: float) -> str:
    if low <= value <= high:
        return ""
    gap = low - value if value < low else value - high
    degrees = show_difference(Parameter.TEMPERATURE, gap, value, job.units)
    if value > high:
        return f"wait: {degrees} too warm"
    heat = f", about {show_number(heating_min(job.litres, gap, job.heater_w), 0)} min" if job.heater_w else ""
    return f"heat on: {degrees} to go{heat}"


def heating_min(litres: float, degrees_c: float, watts: float) -> float:
    """Minutes in which a heater warms so many litres by so many degrees, losses left out: an hour of 200 W is 720 kJ.

    >>> round(heating_min(40.0, 2.0, 200.0))
    27
    """
    return litres * degrees_c * HEAT_KJ_L_K * 1000 / watts / 60


def _salinity(job: ChangeWorkOrder, measured: Mapping[Parameter, float]) -> list[GateLine]:
    value = measured[Parameter.SALINITY]
    planned, now = job.incoming[Parameter.SALINITY], job.before[Parameter.SALINITY]
    moved = _moves_as_planned(job, now, planned, value, MATCH_SALINITY, job.limits.salinity)
    reach = max(PLUME_SALINITY, abs(planned - now) + MATCH_SALINITY)
    near = abs(value - now) <= reach + 1e-9
    mend = "" if moved and near else _mended_salinity(job, value, planned)
    words = _against(job, Parameter.SALINITY, value, planned)
    return [
        GateLine(GatePart.SYSTEM, Parameter.SALINITY, moved, words, "" if moved else mend),
        GateLine(
            GatePart.PLUME, Parameter.SALINITY, near, _apart(job, Parameter.SALINITY, value, now, reach),
            "" if near else mend,
        ),
    ]  # fmt: skip


def _mended_salinity(job: ChangeWorkOrder, value: float, planned: float) -> str:
    if value >= planned:
        litres = water_to_weaken_l(job.litres, value, planned)
        return f"take {litres_words(litres)} out of the batch and fill up with fresh water"
    if job.salt is None:
        aim = show(Parameter.SALINITY, planned, job.units)
        return f"it is too weak: stir in salt in another container until it is {aim}"
    mass = salt_to_strengthen_g(job.litres, value, planned, job.salt.sea_salt)
    return f"add {grams_words(mass)} {job.salt.name}, let it dissolve, measure again"


def _alkalinity(job: ChangeWorkOrder, measured: Mapping[Parameter, float]) -> list[GateLine]:
    value = measured[Parameter.ALKALINITY]
    planned, now = job.incoming.get(Parameter.ALKALINITY), job.before.get(Parameter.ALKALINITY)
    if planned is None or now is None:
        words = f"{show(Parameter.ALKALINITY, value, job.units)}, nothing planned to compare with"
        return [GateLine(GatePart.SYSTEM, Parameter.ALKALINITY, True, words)]
    words = _against(job, Parameter.ALKALINITY, value, planned)
    if _moves_as_planned(job, now, planned, value, MATCH_ALKALINITY_MEQ_L, job.limits.alkalinity_meq_l):
        return [GateLine(GatePart.SYSTEM, Parameter.ALKALINITY, True, words)]
    mended = _mended_alkalinity(job, measured, planned, now)
    return [GateLine(GatePart.SYSTEM, Parameter.ALKALINITY, False, words, mended)]


def _mended_alkalinity(job: ChangeWorkOrder, measured: Mapping[Parameter, float], planned: float, now: float) -> str:
    """The alkalinity correction left once salinity is corrected: salt and fresh water move alkalinity too."""
    value, said = measured[Parameter.ALKALINITY], ""
    if measured.get(Parameter.SALINITY) and not all(line.met for line in _salinity(job, measured)):
        dosed = alkalinity_meq(job.source, job.batch_dose_g) / job.litres if job.batch_dose_g else 0.0
        value = scaled_with_salt(value, job.incoming[Parameter.SALINITY] / measured[Parameter.SALINITY], dosed)
        said = f"correct salinity first, which brings it to about {show(Parameter.ALKALINITY, value, job.units)}"
        if _moves_as_planned(job, now, planned, value, MATCH_ALKALINITY_MEQ_L, job.limits.alkalinity_meq_l):
            return f"{said}; then measure again"
        said += "; then "
    if value < planned:
        mass = dose_mass_g(COMPOUNDS[job.source].formula, Parameter.ALKALINITY, planned - value, job.litres)
        return f"{said}add {mass_text(mass)} {COMPOUNDS[job.source].name}, dissolved first, measure again"
    return f"{said}use at most {litres_words(_most_litres(job, now, planned, value))} of it"


def _ph(job: ChangeWorkOrder, measured: Mapping[Parameter, float]) -> list[GateLine]:
    """The line of pH, needed where nearly all is changed; airing brings a batch to the system's pH."""
    value = measured[Parameter.PH]
    now = job.before.get(Parameter.PH)
    if now is None:
        return [GateLine(GatePart.PLUME, Parameter.PH, True, "the system's own pH was not measured")]
    most = MATCH_PH * _tolerance(job)
    met = abs(value - now) <= most + 1e-9
    words = _apart(job, Parameter.PH, value, now, most)
    correction = "" if met else "let the pump break its surface for a few hours more, then measure again"
    return [GateLine(GatePart.PLUME, Parameter.PH, met, words, correction)]


_LINES = {
    Parameter.TEMPERATURE: _temperature,
    Parameter.SALINITY: _salinity,
    Parameter.ALKALINITY: _alkalinity,
    Parameter.PH: _ph,
}


def _moves_as_planned(
    job: ChangeWorkOrder, now: float, planned: float, value: float, tolerance: float, limit: float
) -> bool:
    """Within the tolerance of the planned result, and within the daily limit unless the plan itself uses it up."""
    after, wanted = dilute(now, value, job.fraction), dilute(now, planned, job.fraction)
    slack = tolerance * _tolerance(job)
    return abs(after - wanted) <= slack and abs(after - now) <= max(limit, abs(wanted - now)) + 1e-9


def _most_litres(job: ChangeWorkOrder, now: float, planned: float, value: float) -> float:
    """Litres of the batch as it is that move the system no further than planned plus the tolerance."""
    allowed = dilute(now, planned, job.fraction) - now + MATCH_ALKALINITY_MEQ_L * _tolerance(job)
    if value <= now:
        return 0.0
    return max(0.0, job.volume_l * min(allowed, job.limits.alkalinity_meq_l) / (value - now))
