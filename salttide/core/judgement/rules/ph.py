"""pH: the room's air, the swing of day and night, and why buffer is not the answer."""

from __future__ import annotations

from collections.abc import Iterator
from math import sqrt

from salttide.core.basics.errors import InputError
from salttide.core.basics.number_text import show_number
from salttide.core.judgement.situation import Situation
from salttide.core.ledger.verdict import REAL_SDS, mean
from salttide.core.science.carbonate import pco2_uatm_from_ph_nbs
from salttide.core.science.parameters import Parameter
from salttide.core.system.finding import Certainty, Finding

from ...science.air import OUTDOOR_PPM, pco2_uatm_of_air
from ...science.mix import LABEL_SALINITY, MIXING_C
from .swing import swings

PH, ALKALINITY, SALINITY, TEMPERATURE = Parameter.PH, Parameter.ALKALINITY, Parameter.SALINITY, Parameter.TEMPERATURE
MEAN_DAYS = 14.0
WINDOWS_DAYS = 90.0
SWING_PH = 0.4
LATE_DAYS, GAP_DAYS, EARLIER_DAYS = 21.0, 14.0, 90.0
MIN_FALL = 0.08
MORE_AIR = 1.2
"""pH fell because of the air when it fell by more than this and the water holds this many times the carbon dioxide."""


def room_air(s: Situation) -> Iterator[Finding]:
    """pH low on average with normal alkalinity: carbon dioxide of the room, not alkalinity."""
    found, band = s.readings(PH, MEAN_DAYS), s.band(PH)
    if len(found) < 2 or band is None or s.value(ALKALINITY) is None or s.gap(ALKALINITY) < 0:
        return
    average = mean(reading.value for reading in found)
    if average >= band.low:
        return
    pressure = _pressure(s, average)
    shut = s.happened("windows_shut", WINDOWS_DAYS)
    opened = s.happened("windows_open", WINDOWS_DAYS)
    season = shut and not (opened and opened.at > shut.at)
    yield Finding(
        "pH is low by the room's air, not by alkalinity",
        f"The last {len(found)} readings average {s.show(PH, average)} with alkalinity in order "
        f"({s.show(ALKALINITY, s.present[ALKALINITY].value)})."
        + (
            f" So the CO₂ dissolved in this water corresponds to {show_number(pressure, 0)} µatm, "
            f"{show_number(pressure / _outdoors(s), 1)} times outdoor air ({show_number(_outdoors(s), 0)})."
            if pressure
            else ""
        )
        + (f" The windows have been shut since {s.when(shut.at)}." if shut and season else ""),
        "Let outdoor air in: an open window, or the skimmer's air drawn from outside. Do not chase pH with buffer: "
        "it raises alkalinity and the air takes the pH back.",
        "A sample stirred by the open window for an hour whose pH stays as low.",
        (
            *(f"pH {s.show(PH, reading.value)}, {s.when(reading.at)}" for reading in found),
            s.evidence(ALKALINITY),
            *([f"{shut.words}, {s.when(shut.at)}"] if shut else []),
        ),
        Certainty.LIKELY if season or (pressure and pressure > 1.5 * _outdoors(s)) else Certainty.POSSIBLE,
        (PH,),
    )


def _pressure(s: Situation, ph: float, alkalinity: float | None = None) -> float:
    """pCO2 in µatm of the water at a pH, at its present alkalinity or another; 0 where it cannot be computed."""
    if any(p not in s.present for p in (ALKALINITY, SALINITY, TEMPERATURE)):
        return 0.0
    try:
        now, salinity, warm = (s.present[p].value for p in (ALKALINITY, SALINITY, TEMPERATURE))
        return float(pco2_uatm_from_ph_nbs(ph, alkalinity or now, salinity, warm))
    except InputError:
        return 0.0


def _outdoors(s: Situation) -> float:
    """pCO2 in µatm of outdoor air above this water."""
    salinity, warm = (s.value(p) for p in (SALINITY, TEMPERATURE))
    return float(pco2_uatm_of_air(OUTDOOR_PPM, salinity or LABEL_SALINITY, warm or MIXING_C))


def air_closed(s: Situation) -> Iterator[Finding]:
    """pH lower than some weeks ago by more than alkalinity explains: the room's air holds more carbon dioxide."""
    found = s.readings(PH, EARLIER_DAYS)
    late = [r for r in found if s.days_ago(r.at) <= LATE_DAYS]
    shut = s.happened("windows_shut", EARLIER_DAYS)
    until = max(LATE_DAYS, s.days_ago(shut.at)) if shut else LATE_DAYS + GAP_DAYS
    early = [r for r in found if s.days_ago(r.at) > until]
    then = [r.value for r in s.readings(ALKALINITY, EARLIER_DAYS) if s.days_ago(r.at) > until]
    if len(late) < 3 or len(early) < 3 or not then:
        return
    before, now = mean(r.value for r in early), mean(r.value for r in late)
    sd = late[-1].sd * sqrt(1 / len(late) + 1 / len(early))
    held, holds = _pressure(s, before, mean(then)), _pressure(s, now)
    if not held or before - now <= max(MIN_FALL, REAL_SDS * sd) or holds < MORE_AIR * held:
        return
    yield Finding(
        "pH has been lower "
        + (f"since the windows were shut ({s.when(shut.at)})" if shut else "for some weeks: the room's air"),
        f"From {s.show(PH, before)} on average to {s.show(PH, now)} in the last three weeks: dissolved CO₂ "
        f"now corresponds to {show_number(holds, 0)} µatm, {show_number(held, 0)} before. Alkalinity is "
        "allowed for, so it is the air.",
        "Let outdoor air in, or draw the skimmer's air from outside. No buffer: it raises alkalinity, and the air "
        "takes the pH back.",
        "A sample stirred by the open window for an hour whose pH stays as low.",
        (
            f"pH, {len(early)} readings before and {len(late)} since",
            s.evidence(ALKALINITY),
            *([f"{shut.words}, {s.when(shut.at)}"] if shut else []),
        ),
        Certainty.LIKELY if shut else Certainty.POSSIBLE,
        (PH,),
    )


def ph_low_with_alkalinity(s: Situation) -> Iterator[Finding]:
    """pH and alkalinity both low: alkalinity comes first, pH follows."""
    if not (s.low(PH) and s.low(ALKALINITY)):
        return
    yield Finding(
        "pH is low because alkalinity is",
        f"pH {s.show(PH, s.present[PH].value)} and alkalinity {s.show(ALKALINITY, s.present[ALKALINITY].value)} are "
        "both under their bands: with less alkalinity the same air gives a lower pH.",
        "Correct alkalinity at its own rate and measure pH at the same hour again.",
        "A pH that stays low once alkalinity is back: then it is the room's air.",
        (s.evidence(PH), s.evidence(ALKALINITY)),
        Certainty.LIKELY,
        (PH,),
    )


def ph_high(s: Situation) -> Iterator[Finding]:
    """pH over its band: something that raises it is dosed too fast, or plants take up the carbon dioxide."""
    if not s.high(PH):
        return
    yield Finding(
        "pH is high",
        f"{s.show(PH, s.present[PH].value)} is {s.difference(PH, s.gap(PH))} over its band: limewater or carbonate "
        "given fast, or plants in full light. Carbonate drops out of such water, and ammonia is more toxic in it.",
        "Give alkalinity in smaller portions, and none before the lights go out; measure again at dusk.",
        "A meter set with fresh buffer that reads lower.",
        (s.evidence(PH),),
        Certainty.LIKELY,
        (PH,),
    )


def ph_swings(s: Situation) -> Iterator[Finding]:
    """pH swings far between day and night."""
    return swings(
        s,
        PH,
        SWING_PH,
        "pH swings far between day and night",
        "From {low} to {high} within a day: plants and corals take carbon dioxide by day and give it back at night.",
        "Light the refugium at night, give alkalinity at night in small portions, let more air in.",
        "Readings at dawn and dusk that lie closer together.",
    )
