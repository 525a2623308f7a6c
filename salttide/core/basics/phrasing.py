"""Small pieces of English shared by the core's texts."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, time, tzinfo

from .locale import ClockHours, DayOrder, writing

DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def day_words(day: date) -> str:
    """A date as the app writes it, whatever the machine's language.

    >>> day_words(date(2026, 11, 24))
    'Tue 24 Nov'
    """
    return f"{DAYS[day.weekday()]} {_date(day)}"


def _date(day: date, year: bool = False) -> str:
    """A date in this keeper's order, with its year on request, and always in the numeric order."""
    month = MONTHS[day.month - 1]
    order = writing().days
    if order == DayOrder.ISO:
        return day.isoformat()
    if order == DayOrder.MONTH_FIRST:
        return f"{month} {day.day}, {day.year}" if year else f"{month} {day.day}"
    return f"{day.day} {month} {day.year}" if year else f"{day.day} {month}"


def moment_words(at: datetime, zone: tzinfo) -> str:
    """The local date of a moment."""
    return day_words(at.astimezone(zone).date())


def span_words(first: date, last: date) -> str:
    """A span of days, both included; one day by itself.

    >>> span_words(date(2026, 12, 4), date(2026, 12, 7)), span_words(date(2026, 12, 4), date(2026, 12, 4))
    ('Fri 4 Dec to Mon 7 Dec', 'Fri 4 Dec')
    """
    return day_words(first) + (f" to {day_words(last)}" if last > first else "")


def date_words(day: date) -> str:
    """A date with its year, for what may be long past.

    >>> date_words(date(2025, 11, 24))
    '24 Nov 2025'
    """
    return _date(day, year=True)


def clock_words(at: datetime | time) -> str:
    """A time of day as this keeper writes it.

    >>> clock_words(time(17, 5))
    '17:05'
    >>> from .locale import Writing, written_as
    >>> with written_as(Writing(clock=ClockHours.HALF)):
    ...     clock_words(time(17, 5)), clock_words(time(0, 30))
    ('5:05 pm', '12:30 am')
    """
    if writing().clock == ClockHours.FULL:
        return f"{at:%H:%M}"
    return f"{at.hour % 12 or 12}:{at.minute:02d} {'am' if at.hour < 12 else 'pm'}"


def listed(parts: Sequence[str]) -> str:
    """Join with commas and a last "and".

    >>> listed(["salinity", "alkalinity", "pH"])
    'salinity, alkalinity and pH'
    """
    return " and ".join(filter(None, [", ".join(parts[:-1]), *parts[-1:]]))


def either(parts: Sequence[str]) -> str:
    """Join with commas and a last "or".

    >>> either(["L", "mL", "US gal"])
    'L, mL or US gal'
    """
    return " or ".join(filter(None, [", ".join(parts[:-1]), *parts[-1:]]))


def capital(text: str) -> str:
    """The first letter a capital, the rest as it is: "pH" stays "pH".

    >>> capital("nitrate 0.0 mg/L"), capital("pH 8.20")
    ('Nitrate 0.0 mg/L', 'pH 8.20')
    """
    return text if text.startswith("pH") else text[:1].upper() + text[1:]


def counted(number: int, noun: str) -> str:
    """ "1 day", "2 days"."""
    return f"{number} {noun}{'' if number == 1 else 's'}"
