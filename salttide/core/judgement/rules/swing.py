"""Swings within a day, of any parameter."""

from __future__ import annotations

from collections.abc import Iterator

from salttide.core.judgement.situation import Situation
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.system.finding import Certainty, Finding

SWING_DAYS = 7.0


def swings(
    s: Situation, parameter: Parameter, most: float, words: str, reason: str, advice: str, unless: str
) -> Iterator[Finding]:
    """More than `most` (canonical) between two readings within a day; `reason` names them {low}, {high} and {day}."""
    widest = s.widest_swing(parameter, SWING_DAYS)
    if widest is None or abs(widest[1].value - widest[0].value) <= most:
        return
    low, high = sorted(reading.value for reading in widest)
    yield Finding(
        words,
        reason.format(low=s.show(parameter, low), high=s.show(parameter, high), day=s.when(widest[0].at)),
        advice,
        unless,
        tuple(f"{spoken(parameter)} {s.show(parameter, reading.value)}, {s.when(reading.at)}" for reading in widest),
        Certainty.LIKELY,
        (parameter,),
    )
