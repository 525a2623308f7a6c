"""Days ahead that come from a division or from what a keeper set: they end somewhere."""

from __future__ import annotations

from datetime import date, timedelta
from typing import TypeVar

FAR_DAYS = 36_525
"""A century: nothing in the app is planned, or looked back on, over a longer time."""

Day = TypeVar("Day", bound=date)


def later(at: Day, days: float) -> Day:
    """A day or moment so many days on (negative: back), a century at most either way; a date moves by whole days.

    >>> later(date(2026, 11, 24), 2.9), later(date(2026, 11, 24), float("inf"))
    (datetime.date(2026, 11, 26), datetime.date(2126, 11, 25))
    """
    if days != days:
        days = FAR_DAYS
    try:
        return at + timedelta(days=max(-FAR_DAYS, min(days, FAR_DAYS)))
    except OverflowError:
        return at
