"""The rota as a calendar: entries with stable identities, which of them are new, and which withdrawn."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, time, timedelta, tzinfo
from enum import StrEnum

from ..basics.errors import InputError
from ..basics.phrasing import counted, day_words, listed
from ..ledger.entries import Care
from ..system.catalogue import cautions
from .rota import Occurrence, Piece
from .task import part_of, task_words

PAST_DAYS = 30
"""Days that done work stays in the calendar."""
WITHDRAWN_DAYS = 60
"""Days a withdrawn entry is announced: longer than any calendar program waits between polls."""
LONGEST_ALARM = 1440


class EntryType(StrEnum):
    """The type of a task in the calendar."""

    EVENT = "event"
    TO_DO = "to_do"


class EntryState(StrEnum):
    """The state of an entry."""

    OPEN = "open"
    DONE = "done"
    SKIPPED = "skipped"
    WITHDRAWN = "withdrawn"


@dataclass(frozen=True)
class CalendarSettings:
    """Calendar settings: tasks as events or to-dos, when a day's work begins, and minutes before that an alarm rings (0
    to 1440; None: no alarm)."""

    entry_type: EntryType = EntryType.EVENT
    begins: time = time(18, 0)
    alarm_minutes: int | None = 15


def check_calendar_settings(settings: CalendarSettings) -> CalendarSettings:
    """Refuse an alarm more than a day before, at its field."""
    if settings.alarm_minutes is not None and not 0 <= settings.alarm_minutes <= LONGEST_ALARM:
        accepted = f"0 to {LONGEST_ALARM} min, or none"
        raise InputError(f"how long before the alarm rings: {accepted}", field="alarm_minutes", accepted=accepted)
    return settings


@dataclass(frozen=True)
class Entry:
    """One piece of work in the calendar. uid: its identity, the same for as long as it is the same work · starts: with
    its zone · alarm: it is the first of its day."""

    uid: str
    system: str
    title: str
    text: str
    starts: datetime
    minutes: int
    state: EntryState = EntryState.OPEN
    alarm: bool = False

    @property
    def ends(self) -> datetime:
        """When it ends, by the clock of its zone."""
        return (self.starts.astimezone(UTC) + timedelta(minutes=self.minutes)).astimezone(self.starts.tzinfo)


@dataclass(frozen=True)
class Work:
    """The work of one system: what is ahead, what was done or skipped, how often each task was done in all, and the
    names of the keeper's own tasks."""

    system_id: int
    name: str
    ahead: Sequence[Occurrence]
    past: Sequence[Care]
    counts: Mapping[str, int]
    own_names: Mapping[str, str] = field(default_factory=dict)


def entries_of(
    home: str, works: Sequence[Work], settings: CalendarSettings, zone: tzinfo, now: datetime
) -> list[Entry]:
    """Every entry of the calendar. home: the unique part of this household's identities.

    A day's work begins at the hour asked for, one task after the other. The n-th time of a task is the same entry
    whether ahead, moved, or done.
    """
    found = [entry for work in works for entry in _past(home, work, zone, now)]
    ends: dict[object, datetime] = {}
    for work, item, uid in sorted(_ahead(home, works), key=lambda each: each[1].day):
        first = item.day not in ends
        starts = ends.get(item.day, datetime.combine(item.day, settings.begins, zone))
        entry = Entry(
            uid, work.name, f"{work.name}: {item.title}", _text(item), starts, max(1, round(item.minutes)), alarm=first
        )
        ends[item.day] = entry.ends
        found.append(entry)
    return found


def _ahead(home: str, works: Sequence[Work]) -> Iterable[tuple[Work, Occurrence, str]]:
    for work in works:
        counts = dict(work.counts)
        for item in sorted(work.ahead, key=lambda each: (each.due, each.day)):
            # A refill has no count of its own: the next of a container is one entry until it is filled.
            by_itself = item.kind is not None and item.kind.by
            name = f"{item.task}-{'-'.join(item.name.casefold().split())}" if by_itself else item.task
            name = part_of(item.task) if item.piece == Piece.FIRST else name
            counts[name] = counts.get(name, 0) + 1
            number = f"step-{item.step_id}" if item.step_id is not None else f"{name}-{counts[name]}"
            if item.step_id is not None:
                counts[name] -= 1
            yield work, item, f"{home}-{work.system_id}-{number}@salt-tide"


def _past(home: str, work: Work, zone: tzinfo, now: datetime) -> Iterable[Entry]:
    left = dict(work.counts)
    for care in reversed(work.past):
        number = left.get(care.task, 0)
        left[care.task] = number - 1
        if care.at < now - timedelta(days=PAST_DAYS) or number < 1:
            continue
        state = EntryState.SKIPPED if care.skipped else EntryState.DONE
        minutes = max(1, round(care.minutes))
        starts = (care.at - timedelta(minutes=minutes)).astimezone(zone).replace(second=0, microsecond=0)
        name = task_words(care.task, work.own_names)
        title = f"{work.name}: {name}, {care.zone}" if care.zone else f"{work.name}: {name}"
        uid = f"{home}-{work.system_id}-{care.task}-{number}@salt-tide"
        yield Entry(uid, work.name, title, care.reason, starts, minutes, state)


def _text(item: Occurrence) -> str:
    lines = [f"Why: {item.why}.", f"{round(item.minutes)} min of work."]
    if item.late_days:
        lines.append(f"{counted(item.late_days, 'day')} late.")
    elif item.earliest < item.latest:
        lines.append(f"It may stand from {day_words(item.earliest)} to {day_words(item.latest)}.")
    if item.kind and item.kind.cautions:
        lines.append(f"Caution: {listed([cautions()[key].title.lower() for key in item.kind.cautions])}.")
    return "\n".join(lines)


@dataclass(frozen=True)
class Issued:
    """An entry as last issued: how often it has changed, and when."""

    entry: Entry
    sequence: int
    changed: datetime


def brought_up(before: Mapping[str, Issued], entries: Iterable[Entry], now: datetime) -> list[Issued]:
    """The entries to issue now: changed ones get the next number in their sequence, missing ones are withdrawn, and
    those withdrawn or done long ago are forgotten."""
    issued = []
    there = set()
    for entry in entries:
        there.add(entry.uid)
        old = before.get(entry.uid)
        same = old is not None and old.entry == entry
        issued.append(old if old and same else Issued(entry, old.sequence + 1 if old else 0, now))
    for uid, old in before.items():
        if uid in there:
            continue
        if old.entry.state == EntryState.WITHDRAWN:
            if old.changed >= now - timedelta(days=WITHDRAWN_DAYS):
                issued.append(old)
        elif old.entry.state == EntryState.OPEN or old.entry.starts >= now - timedelta(days=PAST_DAYS):
            gone = replace(old.entry, state=EntryState.WITHDRAWN, alarm=False)
            issued.append(Issued(gone, old.sequence + 1, now))
    return issued
