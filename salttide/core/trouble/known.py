"""What the record of a system says about a trouble already: it is not asked again."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta

from ..judgement.situation import Situation
from ..science.parameters import Parameter
from ..system.system import SourceWater
from .table import questions

ALKALINITY, CALCIUM = Parameter.ALKALINITY, Parameter.CALCIUM
NITRATE, PHOSPHATE = Parameter.NITRATE, Parameter.PHOSPHATE
YOUNG_DAYS = 120
"""A tank is new for four months (judgement)."""
NOTHING_SDS = 1.5
"""A nutrient within so many of a test's deviations of zero is at nothing."""
DOSED_DAYS = 1.0
PH_SWING = 0.4
FRESH_DAYS = 30.0
"""A test older than this says nothing of today's trouble (judgement)."""


def known_answers(s: Situation) -> dict[str, str]:
    """The answers that the record gives, by question: the latest visual check, and what closer looks found."""
    seen = [sign.kind.key for sign in s.look.signs] if s.look else []
    found = {}
    for key, question in questions().items():
        answer = next((question.signs[sign] for sign in _ORDER if sign in seen and sign in question.signs), None)
        if answer:
            found[key] = answer
    return {**found, **_learned(s)}


LEARNED: Mapping[str, str] = {"under_microscope": "microscope", "at_night": "night", "source_phosphate": "source"}
"""What a task of care finds, and the question of the key that it answers in the same words."""
SOURCE_TRACE = 0.02
"""mg/L of phosphate in fresh water that a test can tell from nothing (judgement)."""


def _learned(s: Situation) -> dict[str, str]:
    """What was found by closer looks within a month, the latest of each."""
    found: dict[str, str] = {}
    for care in s.ledger.care:
        for key, question in LEARNED.items():
            value = care.found.get(key)
            if value is None or not 0 <= s.days_ago(care.at) <= FRESH_DAYS:
                continue
            words = {text: name for name, text in questions()[question].answers.items()}
            answer = words.get(value) if isinstance(value, str) else "some" if value > SOURCE_TRACE else "none"
            if answer:
                found[question] = answer
    return found


_ORDER = (
    "brown_strands", "red_film", "hair_algae", "turf_algae", "bubble_algae", "snow", "scale", "green_water", "tissue",
    "brown_film", "pests", "closed", "pale", "yellow", "surface", "creep", "gasping", "open",
)  # fmt: skip
"""Which finding answers where there are several: the gravest first."""


def known_facts(s: Situation) -> dict[str, bool]:
    """What the record shows, and what it shows not to be; what it does not know is left out."""
    found: dict[str, bool] = {}
    _nutrients(s, found)
    for parameter, low, high in (
        (Parameter.TEMPERATURE, "cold", "hot"), (Parameter.PH, "ph_low", ""), (Parameter.SALINITY, "", ""),
    ):  # fmt: skip
        if not _fresh(s, parameter) or s.band(parameter) is None:
            continue
        if parameter == Parameter.SALINITY:
            found["salinity_off"] = s.low(parameter) or s.high(parameter)
        if low:
            found[low] = s.low(parameter)
        if high:
            found[high] = s.high(parameter)
    if _fresh(s, Parameter.AMMONIA):
        found["ammonia"] = s.present[Parameter.AMMONIA].value > NOTHING_SDS * s.sd(Parameter.AMMONIA)
    swing = s.widest_swing(Parameter.PH, FRESH_DAYS)
    if swing is not None:
        found["ph_swings"] = abs(swing[1].value - swing[0].value) >= PH_SWING
    _look_and_record(s, found)
    return found


def _fresh(s: Situation, parameter: Parameter) -> bool:
    known = s.present.get(parameter)
    return known is not None and s.days_ago(known.reading.at) <= FRESH_DAYS


def _nutrients(s: Situation, found: dict[str, bool]) -> None:
    zero = {}
    for parameter, name in ((NITRATE, "no3"), (PHOSPHATE, "po4")):
        if not _fresh(s, parameter):
            continue
        value = s.present[parameter].value
        zero[name] = value <= NOTHING_SDS * s.sd(parameter)
        found[f"{name}_zero"] = zero[name]
        found[f"{name}_high"] = s.high(parameter)
    if len(zero) == 2:
        found["one_zero"] = zero["no3"] != zero["po4"]


def _look_and_record(s: Situation, found: dict[str, bool]) -> None:
    started = date.fromisoformat(s.system.started_on) if s.system.started_on else None
    if started is not None:
        found["young"] = (s.now.date() - started) < timedelta(days=YOUNG_DAYS)
    found["source_unpurified"] = s.system.source_water in (SourceWater.TAP, SourceWater.MEMBRANE)
    found["carbon_dosed"] = any("carbon" in dose.additive.lower() for dose in s.plan.daily)
    since = s.now - timedelta(days=DOSED_DAYS)
    given = [dose for p in (ALKALINITY, CALCIUM) for dose in s.ledger.events(p) if since <= dose.at <= s.now]
    found["dosed"] = any(getattr(one, "amounts", None) for one in given)
    if s.look is None:
        return
    found["algae_beaten"] = bool(s.faded("growth"))
    found["growth_now"] = bool(s.seen("eats"))
    found["still_spots"] = bool(s.seen("still"))
    found["snow_seen"] = bool(s.seen("precipitation"))
