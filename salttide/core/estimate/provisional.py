"""A first figure of a rate, from two tests: for the days before there are enough for an estimate."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from math import sqrt

from ..ledger.entries import Ledger
from ..science.parameters import Parameter
from .gaps import gaps_of
from .rate import MIN_READINGS, MIN_SPAN, WINDOW

LEAST_DAYS = 1.0
"""Two tests closer than a day say more of their scatter than of the water (judgement)."""
NORMAL_80 = 1.2816
"""Standard deviations from the mean that hold eight in ten of a normal distribution."""


@dataclass(frozen=True)
class ProvisionalRate:
    """A rate (canonical a day) between two readings so many days apart, with its 80 % range, and the day from which
    enough tests make it an estimate."""

    per_day: float
    low: float
    high: float
    days: float
    known_from: datetime
    tests_more: int

    @property
    def clear(self) -> bool:
        """Whether the range lies on one side of zero."""
        return self.low > 0 or self.high < 0


def provisional_rate(ledger: Ledger, parameter: Parameter, now: datetime) -> ProvisionalRate | None:
    """The rate between the first and the last reading by the instrument used last, doses and changes taken off, with
    what the two tests' scatter leaves open; None with fewer than two, or less than a day between them.

    >>> from ..ledger.entries import Reading
    >>> noon = datetime(2026, 11, 24, 12)
    >>> two = [Reading(noon - timedelta(days=d), Parameter.ALKALINITY, v, 0.04, "kit") for d, v in ((4, 3.0), (0, 2.7))]
    >>> found = provisional_rate(Ledger(100.0, two), Parameter.ALKALINITY, noon)
    >>> round(found.per_day, 3), round(found.low, 3), round(found.high, 3)
    (-0.075, -0.093, -0.057)
    """
    within = [one for one in ledger.of(parameter) if now - WINDOW <= one.at <= now]
    same = [one for one in within if one.instrument == within[-1].instrument]
    if len(same) < 2 or (same[-1].at - same[0].at) / timedelta(days=1) < LEAST_DAYS:
        return None
    first, last = same[0], same[-1]
    (gap,) = gaps_of((first, last), ledger, parameter)
    per_day = (last.value - gap.kept * first.value - gap.brought) / gap.by_rate
    spread = NORMAL_80 * sqrt(last.sd**2 + (gap.kept * first.sd) ** 2) / gap.by_rate
    return ProvisionalRate(
        per_day,
        per_day - spread,
        per_day + spread,
        gap.days,
        max(first.at + MIN_SPAN, now),
        max(0, MIN_READINGS - len(same)),
    )
