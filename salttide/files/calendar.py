"""iCalendar (RFC 5545), out and in: the rota as a file that calendar programs read, and absences from one of theirs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from itertools import islice, takewhile
from zoneinfo import ZoneInfo

from dateutil.rrule import rrulestr
from icalendar import Alarm, Calendar, Component, Event, Timezone, TimezoneDaylight, TimezoneStandard, Todo

from salttide.core.basics.errors import InputError
from salttide.core.upkeep.calendar import CalendarSettings, Entry, EntryState, EntryType, Issued

ASKED_AGAIN = timedelta(hours=1)
SHORTEST_ABSENCE = timedelta(hours=12)
"""What takes less is an appointment: the keeper is back the same day (judgement)."""
SEEN_AHEAD = timedelta(days=366)
"""How far ahead repeated absences are read."""
MAX_TEXT, MAX_EVENTS = 4_000_000, 400
MAX_TURNS = 100
"""So often one entry is read at the most; an appointment, which is no absence, once."""
LONGEST = timedelta(days=731)
FINER_THAN_A_DAY = ("HOURLY", "MINUTELY", "SECONDLY")


def calendar_file(
    issued: Sequence[Issued], settings: CalendarSettings, zone: ZoneInfo, address: str = "", published: bool = False
) -> bytes:
    """The rota in iCalendar. address: of the app, for a link in each entry · published: as a file to be brought into a
    calendar once, and not as a feed that is asked for again and again."""
    calendar = Calendar()
    calendar.add("prodid", "-//Salt Tide//Rota//EN")
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    if published:
        calendar.add("method", "PUBLISH")
    calendar.add("name", "Salt Tide: rota")
    calendar.add("x-wr-calname", "Salt Tide: rota")
    calendar.add("x-wr-timezone", zone.key)
    calendar.add("refresh-interval", ASKED_AGAIN, parameters={"VALUE": "DURATION"})
    calendar.add("x-published-ttl", "PT1H")
    if issued and zone.key != "UTC":
        starts = [each.entry.starts for each in issued]
        calendar.add_component(_timezone(zone, min(starts), max(starts) + timedelta(days=366)))
    for each in sorted(issued, key=lambda one: (one.entry.starts, one.entry.uid)):
        calendar.add_component(_component(each, settings, zone, address))
    return bytes(calendar.to_ical())


def _component(issued: Issued, settings: CalendarSettings, zone: ZoneInfo, address: str) -> Component:
    entry = issued.entry
    component: Component = Event() if settings.entry_type == EntryType.EVENT else Todo()
    component.add("uid", entry.uid)
    component.add("dtstamp", issued.changed.astimezone(UTC))
    component.add("last-modified", issued.changed.astimezone(UTC))
    component.add("sequence", issued.sequence)
    component.add("summary", entry.title)
    if entry.text:
        component.add("description", entry.text)
    component.add("categories", [entry.system])
    starts, ends = (_local(at, zone) for at in (entry.starts, entry.ends))
    component.add("dtstart", starts)
    if settings.entry_type == EntryType.EVENT:
        component.add("dtend", ends)
        component.add("status", _EVENT_STATUS[entry.state])
        # Other people see the keeper as free: care is no appointment.
        component.add("transp", "TRANSPARENT")
    else:
        component.add("due", ends)
        component.add("status", _TO_DO_STATUS[entry.state])
        if entry.state == EntryState.DONE:
            component.add("completed", entry.ends.astimezone(UTC))
            component.add("percent-complete", 100)
    if address and entry.state == EntryState.OPEN:
        component.add("url", f"{address}/rota/round?day={entry.starts.astimezone(zone).date().isoformat()}")
    if entry.alarm and entry.state == EntryState.OPEN and settings.alarm_minutes is not None:
        component.add_component(_alarm(entry, settings.alarm_minutes))
    return component


_EVENT_STATUS = {
    EntryState.OPEN: "CONFIRMED", EntryState.DONE: "CONFIRMED",
    EntryState.SKIPPED: "CANCELLED", EntryState.WITHDRAWN: "CANCELLED",
}  # fmt: skip
_TO_DO_STATUS = {
    EntryState.OPEN: "NEEDS-ACTION", EntryState.DONE: "COMPLETED",
    EntryState.SKIPPED: "CANCELLED", EntryState.WITHDRAWN: "CANCELLED",
}  # fmt: skip


def _local(at: datetime, zone: ZoneInfo) -> datetime:
    """In the keeper's zone; in UTC with its own form where the zone is UTC."""
    return at.astimezone(UTC if zone.key == "UTC" else zone)


def _alarm(entry: Entry, minutes: int) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", entry.title)
    alarm.add("trigger", -timedelta(minutes=minutes))
    return alarm


def _timezone(zone: ZoneInfo, first: datetime, last: datetime) -> Timezone:
    """The offsets of a zone between two moments. Onsets are given in the local time that was valid before them, as RFC
    5545, 3.6.5 asks for."""
    found = Timezone()
    found.add("tzid", zone.key)
    begin = first.astimezone(UTC) - timedelta(days=1)
    found.add_component(_observance(zone, begin, _offset(zone, begin)))
    at = begin
    while at < last.astimezone(UTC):
        later = at + timedelta(days=1)
        if _offset(zone, at) != _offset(zone, later):
            found.add_component(_observance(zone, _onset(zone, at, later), _offset(zone, at)))
        at = later
    return found


def _onset(zone: ZoneInfo, before: datetime, after: datetime) -> datetime:
    """The moment of UTC within a day from which the other offset is valid, to the minute."""
    minutes = range(1, round((after - before).total_seconds() / 60) + 1)
    moments = (before + timedelta(minutes=minute) for minute in minutes)
    return next(at for at in moments if _offset(zone, at) == _offset(zone, after))


def _offset(zone: ZoneInfo, at: datetime) -> timedelta:
    return at.astimezone(zone).utcoffset() or timedelta()


def _observance(zone: ZoneInfo, onset: datetime, before: timedelta) -> Component:
    local = onset.astimezone(zone)
    part: Component = TimezoneDaylight() if local.dst() else TimezoneStandard()
    part.add("dtstart", (onset + before).replace(tzinfo=None, second=0, microsecond=0))
    part.add("tzoffsetfrom", before)
    part.add("tzoffsetto", local.utcoffset())
    part.add("tzname", local.tzname())
    return part


@dataclass(frozen=True)
class AbsenceFound:
    """Days away in somebody's calendar. uid: of the entry, and of its turn where it repeats · cancelled: undone
    there · remark: why it is not taken for an absence; empty where it is."""

    uid: str
    first: date
    last: date
    note: str
    cancelled: bool = False
    remark: str = ""


def absences_in(text: str, zone: ZoneInfo, today: date) -> list[AbsenceFound]:
    """The days away in an iCalendar file, from today to a year ahead, by day. Raises InputError where it is none."""
    if len(text) > MAX_TEXT:
        raise InputError("a calendar of up to 4 MB", field="text", accepted="up to 4 MB")
    try:
        calendars = [part for part in Calendar.from_ical(text, multiple=True) if part.name == "VCALENDAR"]
        events = [event for one in calendars for event in one.walk("VEVENT")]
        found = [each for event in events for each in _absences(event, events, zone, today)]
    except (ValueError, KeyError, TypeError, IndexError, OverflowError, AttributeError) as error:
        raise InputError(
            "this is not an iCalendar file that can be read", field="text", accepted="a file that ends with .ics"
        ) from error
    if not calendars:
        raise InputError("there is no calendar in this file", field="text", accepted="a file that ends with .ics")
    return sorted(found, key=lambda each: (each.first, each.last, each.uid))[:MAX_EVENTS]


def _absences(event: Component, events: Sequence[Component], zone: ZoneInfo, today: date) -> Iterator[AbsenceFound]:
    begin, uid = event.decoded("dtstart"), str(event.get("uid", ""))
    length = _length(event, begin)
    if length > LONGEST:
        raise InputError("an absence of more than two years", field="text", accepted="shorter absences")
    cancelled = str(event.get("status", "")).upper() == "CANCELLED"
    note = str(event.get("summary", "")).strip()[:80]
    appointment = isinstance(begin, datetime) and length < SHORTEST_ABSENCE
    for turn in islice(_turns(event, events, begin, today), 1 if appointment else MAX_TURNS):
        first, last = _days(turn, length, zone)
        if last < today:
            continue
        repeated = "rrule" in event or "recurrence-id" in event
        which = event.decoded("recurrence-id") if "recurrence-id" in event else turn
        identity = f"{uid}/{_day(which, zone).isoformat()}" if repeated else uid
        short = isinstance(turn, datetime) and length < SHORTEST_ABSENCE
        yield AbsenceFound(identity, first, last, note, cancelled, "shorter than 12 hours" if short else "")


def _turns(event: Component, events: Sequence[Component], begin: date, today: date) -> Iterable[date]:
    """When it begins: once, or each time that it repeats, without those that were left out or moved."""
    if "rrule" not in event:
        return [begin]
    timed = isinstance(begin, datetime)
    left_out = {_moment(each.dt) for part in _each(event.get("exdate")) for each in part.dts}
    left_out |= {
        _moment(other.decoded("recurrence-id"))
        for other in events
        if "recurrence-id" in other and str(other.get("uid")) == str(event.get("uid"))
    }
    start = begin if isinstance(begin, datetime) else datetime.combine(begin, time())
    for part in _each(event["rrule"]):
        _check_rule(part)
    rules = "\n".join(f"RRULE:{part.to_ical().decode()}" for part in _each(event["rrule"]))
    last = datetime.combine(today + SEEN_AHEAD, time(), start.tzinfo)
    # What is over by today says nothing any more; an absence is as long as it is.
    since = datetime.combine(today, time(), start.tzinfo) - _length(event, begin) - timedelta(days=1)
    ahead = takewhile(lambda turn: turn <= last, rrulestr(rules, dtstart=start).xafter(since, inc=True))
    turns = (turn if timed else turn.date() for turn in ahead)
    return (turn for turn in turns if _moment(turn) not in left_out)


def _check_rule(rule: Mapping[str, Sequence[object]]) -> None:
    """Refuse a repetition that is finer than daily, or never moves on."""
    finer = [name for name in rule.get("FREQ", []) if str(name).upper() in FINER_THAN_A_DAY]
    stands = [number for number in rule.get("INTERVAL", []) if int(str(number)) < 1]
    parts = [name for name in ("BYHOUR", "BYMINUTE", "BYSECOND") if len(rule.get(name, [])) > 1]
    if finer or stands or parts:
        raise InputError(
            "an entry repeats more often than daily, or never moves on", field="text", accepted="daily, weekly, yearly"
        )


def _each(value: object) -> list:  # type: ignore[type-arg]
    return [] if value is None else value if isinstance(value, list) else [value]


def _moment(at: date) -> str:
    """The same moment the same text, whatever its zone."""
    if not isinstance(at, datetime):
        return at.isoformat()
    return (at.astimezone(UTC) if at.tzinfo else at).isoformat()


def _length(event: Component, begin: date) -> timedelta:
    if "dtend" in event:
        end: date = event.decoded("dtend")
        return end - begin
    if "duration" in event:
        length: timedelta = event.decoded("duration")
        return length
    return timedelta(0) if isinstance(begin, datetime) else timedelta(days=1)


def _days(begin: date, length: timedelta, zone: tzinfo) -> tuple[date, date]:
    """The first and last day; a moment at midnight ends the day before."""
    if not isinstance(begin, datetime):
        return begin, begin + max(timedelta(0), length - timedelta(days=1))
    first = _day(begin, zone)
    return first, max(first, _day(begin + length - timedelta(seconds=1), zone))


def _day(at: date, zone: tzinfo) -> date:
    if not isinstance(at, datetime):
        return at
    return (at if at.tzinfo else at.replace(tzinfo=zone)).astimezone(zone).date()
