"""The rate over half a year, each time as it was estimated from what was known by then."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from ..ledger.entries import Ledger
from ..science.parameters import Parameter
from .rate import WINDOW, rate_of

WEEK = timedelta(days=7)
WEEKS, EVERY_WEEKS, OLD_WEEKS = 26, 2, 3


@dataclass(frozen=True)
class RatePoint:
    """A rate (canonical a day) with its 80 % interval, as estimated at one moment."""

    at: datetime
    per_day: float
    low: float
    high: float


def rate_history(ledger: Ledger, parameter: Parameter, now: datetime) -> tuple[RatePoint, ...]:
    """The rate at every fortnight of half a year, oldest first, each from what was known by then; those with too few
    readings, or none in three weeks, are left out."""
    found = []
    for week in range(WEEKS, -1, -EVERY_WEEKS):
        at = now - week * WEEK
        rate = rate_of(ledger, parameter, at)
        if rate and at - rate.until <= OLD_WEEKS * WEEK:
            found.append(RatePoint(at, rate.per_day, rate.low, rate.high))
    return tuple(found)


def history_needs(now: datetime) -> datetime:
    """The start of the record that the whole history needs."""
    return now - WEEKS * WEEK - WINDOW
