"""When something was, in plain words: "yesterday 9pm", "on 25 Nov at 21:00", "sat", "2 h ago", "2026-11-25 21:00"."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta, tzinfo

from ..basics.errors import InputError
from ..basics.phrasing import day_words
from ..basics.quantities import Habits, Kind
from .answer import JotContext
from .reader import JotError, Reader
from .recording import OLDEST, RecordContext

PAST_EXAMPLES = "such as yesterday 21:00, Sat 9pm or 25 Nov"
_WEEKDAYS = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
_MONTHS = (
    "january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november",
    "december",
)  # fmt: skip
_PARTS = {"this morning": (0, time(8)), "last night": (1, time(21))}
"""Parts of a day by how many days ago they were, and the time that they are taken at (judgement)."""
_SPANS = {"day": 1, "week": 7, "fortnight": 14, "month": 30}


def _spelled(names: tuple[str, ...]) -> dict[str, int]:
    """Names and their first three letters, each with its place."""
    return {word: place for place, name in enumerate(names) for word in (name, name[:3])}


def read_past(
    text: str, now: datetime, zone: tzinfo, habits: Habits, field: str, oldest: timedelta = OLDEST
) -> datetime:
    """When something was, as typed in a field of its own. Raises InputError at `field`.

    >>> from datetime import UTC
    >>> from ..basics.quantities import PLAIN_HABITS
    >>> read_past("yesterday 21:00", datetime(2026, 11, 24, 17, 40, tzinfo=UTC), UTC, PLAIN_HABITS, "when")
    datetime.datetime(2026, 11, 23, 21, 0, tzinfo=datetime.timezone.utc)
    """
    try:
        reader = Reader(text, habits)
        moment = past_moment(reader, RecordContext(JotContext(habits), now, zone, oldest=oldest))
    except JotError as error:
        raise InputError(error.message, field=field, accepted=error.accepted) from error
    if moment is None or not reader.done:
        raise InputError(f"I can't read “{text}” as a time in the past", field=field, accepted=PAST_EXAMPLES)
    return moment


def past_moment(reader: Reader, context: RecordContext) -> datetime | None:
    """When something was, if the next words say so; the day alone is taken at the present time of day, the time alone
    as the last time it was that late. Raises JotError for what is still to come, or too long ago."""
    start = reader.at
    if (ago := reader.quietly(lambda: _ago(reader))) is not None:
        return _not_older(reader, start, context.now - ago, context)
    local = context.now.astimezone(context.zone)
    clock = reader.quietly(lambda: _clock(reader))
    part = reader.quietly(lambda: reader.choose(_PARTS, "a part of the day"))
    day = local.date() - timedelta(days=part[0]) if part else reader.quietly(lambda: _day(reader, context))
    clock = clock or (reader.quietly(lambda: _clock(reader)) if day else None) or (part[1] if part else None)
    if day is None and clock is None:
        reader.at = start
        return None
    moment = datetime.combine(day or local.date(), clock or local.timetz().replace(tzinfo=None), context.zone)
    if moment > context.now and day is None:
        moment -= timedelta(days=1)
    if part:
        moment = min(moment, context.now)
    if moment > context.now:
        raise _refused(reader, start, f"{day_words(moment.date())} is still to come", "a time up to now")
    return _not_older(reader, start, context.now if moment == local else moment, context)


def _not_older(reader: Reader, start: int, moment: datetime, context: RecordContext) -> datetime:
    if context.now - moment > context.oldest:
        most = context.oldest.days
        raise _refused(reader, start, f"at most {most} days ago", f"0 to {most} days ago")
    return moment


def _refused(reader: Reader, start: int, message: str, accepted: str) -> JotError:
    return JotError(message, reader.tokens[start].start, reader.tokens[reader.at - 1].end, accepted)


def _ago(reader: Reader) -> timedelta | None:
    """ "2 h ago", "a week ago"."""
    start = reader.at
    if (days := reader.choose(_SPANS, "a time")) is not None and reader.take("ago"):
        return timedelta(days=days)
    reader.at = start
    if reader.done or not reader.tokens[start].text[:1].isalnum():
        return None
    minutes = reader.quantity(Kind.TIME)
    if minutes is None or not reader.take("ago"):
        reader.at = start
        return None
    return timedelta(minutes=minutes)


def _day(reader: Reader, context: RecordContext) -> date | None:
    start, today = reader.at, context.now.astimezone(context.zone).date()
    named = reader.choose({"today": 0, "yesterday": 1}, "a day")
    if named is not None:
        return today - timedelta(days=named)
    reader.take("on", "last")
    if (weekday := reader.choose(_spelled(_WEEKDAYS), "a weekday")) is not None:
        dated = reader.quietly(lambda: _date(reader, today, context.oldest))
        if dated is not None and dated.weekday() != weekday:
            raise _refused(reader, start, f"{day_words(dated)} is another day of the week", "a day such as 20 Nov")
        return dated or today - timedelta(days=(today.weekday() - weekday) % 7)
    found = _date(reader, today, context.oldest)
    if found is None:
        reader.at = start
    return found


def _date(reader: Reader, today: date, oldest: timedelta) -> date | None:
    """ "25 Nov", "Nov 25", with or without the year, or 2026-11-25: without the year the last one, where it is not too
    long ago, else the next, which is then refused as still to come."""
    start = reader.at
    if not reader.done and len(reader.tokens[start].text) == len("2026-11-25") and reader.tokens[start].text[4] == "-":
        reader.at += 1
        return reader.placed(lambda: _iso(reader.tokens[start].text), start)
    months = _spelled(_MONTHS)
    month = reader.choose(months, "a month")
    number = _whole(reader)
    reader.take("st", "nd", "rd", "th")
    month = reader.choose(months, "a month") if month is None else month
    if number is None or month is None:
        return None
    year = _whole(reader) if not reader.done and len(reader.tokens[reader.at].text) == len("2026") else None
    if year is not None:
        return _dated(reader, start, year, month + 1, number)
    found = _dated(reader, start, today.year, month + 1, number)
    before = _dated(reader, start, today.year - 1, month + 1, number) if found > today else found
    return before if today - before <= oldest else found


def _dated(reader: Reader, start: int, year: int, month: int, day: int) -> date:
    try:
        return date(year, month, day)
    except ValueError:
        raise _refused(reader, start, f"there is no day {day} in that month", "a day such as 20 Nov") from None


def _iso(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise JotError(f"“{text}” is not a date", 0, 0, "a day such as 2026-11-20") from None


def _whole(reader: Reader) -> int | None:
    """The next token as a whole number."""
    if reader.done or not reader.tokens[reader.at].text.isdecimal():
        return None
    reader.at += 1
    return int(reader.tokens[reader.at - 1].text)


def _clock(reader: Reader) -> time | None:
    """ "21:00", "at 9:30 pm", "9pm", "noon"."""
    start = reader.at
    said = reader.take("at")
    if reader.take("noon"):
        return time(12)
    hour = minute = None
    if not reader.done and ":" in reader.tokens[reader.at].text:
        hours, _, minutes = reader.tokens[reader.at].text.partition(":")
        hour, minute = (int(hours), int(minutes)) if (hours + minutes).isdecimal() else (None, None)
        reader.at += hour is not None
    elif (hour := _whole(reader)) is not None:
        minute = 0
    half = reader.choose({"am": 0, "pm": 12, "a.m": 0, "p.m": 12}, "am or pm") if hour is not None else None
    if hour is None or minute is None or (half is None and ":" not in reader.tokens[reader.at - 1].text):
        return _hour_alone(reader, start, hour, said)
    hour = hour % 12 + half if half is not None and 1 <= hour <= 12 else hour
    if hour > 23 or minute > 59:
        raise _refused(reader, start, "that is not a time of day", "a time such as 21:00 or 9pm")
    return time(hour, minute)


def _hour_alone(reader: Reader, start: int, hour: int | None, said: bool) -> time | None:
    """ "at 21" is a time, "at 9" could be two, and a number alone is none."""
    if said and hour is not None and 12 < hour < 24:
        return time(hour)
    if said and hour is not None and hour <= 12:
        raise _refused(
            reader, start, f"in the morning or the evening? write {hour}am or {hour}pm", f"{hour}am or {hour}pm"
        )
    reader.at = start
    return None
