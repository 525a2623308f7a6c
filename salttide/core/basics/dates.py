"""Typed days, and days that come out of a division or a setting, kept within bounds."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from typing import TypeVar

from .errors import InputError

FAR_DAYS = 36_525
"""A century: nothing is planned, or looked back on, over a longer time."""

FIRST_DAY, LAST_DAY = date(1970, 1, 1), date(2199, 12, 31)
"""Stored days lie between these."""

Day = TypeVar("Day", bound=date)


def later(at: Day, days: float) -> Day:
    """A day or moment some days on (negative: back), a century at most either way; a date moves by whole days.

    >>> later(date(2026, 11, 24), 2.9), later(date(2026, 11, 24), float("inf"))
    (datetime.date(2026, 11, 26), datetime.date(2126, 11, 25))
    """
    if days != days:
        days = FAR_DAYS
    try:
        return at + timedelta(days=max(-FAR_DAYS, min(days, FAR_DAYS)))
    except OverflowError:
        return at


def check_day(day: date, field: str, first: date = FIRST_DAY, last: date = LAST_DAY) -> date:
    """A day from `first` to `last`. Raises InputError at `field` for any other."""
    if not first <= day <= last:
        raise InputError(
            f"{day.isoformat()} is too {'early' if day < first else 'late'} here",
            field=field,
            accepted=f"{first.isoformat()} to {last.isoformat()}",
        )
    return day


YEAR_DAYS = 366
"""How many days ahead a day may be chosen by default."""


def check_ahead(day: date, today: date, field: str, days: int = YEAR_DAYS) -> date:
    """A day from today on, at most `days` ahead. Raises InputError at `field` for any other.

    >>> check_ahead(date(2026, 11, 26), date(2026, 11, 24), "day", 2)
    datetime.date(2026, 11, 26)
    """
    if day < today:
        raise InputError("choose today or a later day", field=field, accepted=f"{today.isoformat()} or later")
    last = later(today, days)
    if day > last:
        accepted = f"{today.isoformat()} to {last.isoformat()}"
        raise InputError(f"choose a day up to {last.isoformat()}", field=field, accepted=accepted)
    return day


def typed_day(text: str, field: str, first: date = FIRST_DAY, last: date = LAST_DAY) -> date:
    """A day as a form sends it, YYYY-MM-DD. Raises InputError at `field` for anything else, or a day outside the range.

    >>> typed_day("2026-11-24", "since")
    datetime.date(2026, 11, 24)
    """
    try:
        day = date.fromisoformat(text)
    except ValueError as error:
        raise InputError("Enter a date such as 2026-11-24", field=field, accepted="YYYY-MM-DD") from error
    return check_day(day, field, first, last)


def time_of(minute: int) -> time:
    """The time of day of a minute counted from midnight, wrapping past midnight.

    >>> time_of(1475)
    datetime.time(0, 35)
    """
    return time(minute // 60 % 24, minute % 60)


def minutes_of_hours(hours: float) -> float:
    """Hours as minutes."""
    return hours * 60


def minutes_between(start: datetime, end: datetime) -> float:
    """Minutes from a moment to another."""
    return (end - start) / timedelta(minutes=1)
