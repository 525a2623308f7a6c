"""The rota: which care tasks fall due on which days, before scheduling (see `scheduling`)."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, timedelta, tzinfo
from enum import StrEnum

from ..basics.dates import later
from ..basics.phrasing import counted, day_words
from ..ledger.entries import Care
from ..ledger.plan import DailyDose
from .due import ONCE_DAYS, Done, Due, GoingOn, Rule, done_of, first_due
from .task import TaskKind

WATER_CHANGE = "water_change"
_NEVER = datetime.min.replace(tzinfo=UTC)


@dataclass(frozen=True)
class Planned:
    """A step of a plan that is not done yet."""

    step_id: int
    day: date
    name: str
    minutes: float
    task: str
    siphon: bool = False
    note: str = ""

    @property
    def is_change(self) -> bool:
        """Whether it is a water change."""
        return self.task == WATER_CHANGE


class Piece(StrEnum):
    """A part of work that the keeper split over two days."""

    FIRST = "first part"
    REST = "the rest"


@dataclass(frozen=True)
class Split:
    """Work split over two days: minutes of the first part, and the day of the rest."""

    first_minutes: float
    rest_day: date
    first_done: bool = False


@dataclass(frozen=True)
class Occurrence:
    """A task on a day. `due` is the rule's day, `day` where it is; late counts days past `due` at today.

    kind: None for work without a kind of task · zone: the part whose turn it is · pinned: the keeper chose the day ·
    siphon: a planned change with siphoning of sand · piece: which part, where split over two days · gives: the daily
    doses by hand of that day.
    """

    task: str
    name: str
    day: date
    due: date
    earliest: date
    latest: date
    minutes: float
    why: str
    late_days: int = 0
    step_id: int | None = None
    kind: TaskKind | None = None
    zone: str = ""
    pinned: bool = False
    every_days: int = 0
    siphon: bool = False
    piece: Piece | None = None
    gives: tuple[DailyDose, ...] = ()

    @property
    def title(self) -> str:
        """Its name, with the part whose turn it is."""
        return ", ".join(part for part in (self.name, self.zone, self.piece) if part)


Moves = Mapping[tuple[str, date], date]
"""Where the keeper moved an occurrence: (task, due day) → day."""


@dataclass(frozen=True)
class Book:
    """What the rota rests on: the rules, the record of tasks, moves and splits by the keeper (both by task and due
    day), the planned steps, and triggers in force."""

    rules: Sequence[Rule] = ()
    care: Sequence[Care] = ()
    moves: Moves = field(default_factory=dict)
    planned: Sequence[Planned] = ()
    going_on: GoingOn = field(default_factory=dict)
    splits: Mapping[tuple[str, date], Split] = field(default_factory=dict)


def occurrences(book: Book, today: date, until: date, zone: tzinfo, early: bool = False) -> list[Occurrence]:
    """All occurrences from today to `until`, by day and then in the order of a round.

    Overdue work stands on today. Planned changes replace routine ones: the next routine change counts from the last
    planned one. early: includes work that may be done by then though due later.
    """
    steps = [_from_plan(step, today) for step in book.planned]
    anchor = max((step.day for step in book.planned if step.is_change), default=None)
    found = [step for step in steps if step.day <= until]
    done = done_of(book.care, zone)
    for rule in book.rules:
        if not rule.kind.by:
            last = until + timedelta(days=rule.kind.early_days if early else 0)
            known = _with_planned(done, anchor) if rule.kind.key == WATER_CHANGE and anchor else done
            found += _series(rule, book, known, today, last)
    order = {rule.kind.key: place for place, rule in enumerate(book.rules)}
    return sorted(found, key=lambda occurrence: (occurrence.day, order.get(occurrence.task, -1)))


def _from_plan(step: Planned, today: date) -> Occurrence:
    late = max(0, (today - step.day).days)
    why = f"planned for {day_words(step.day)}, {counted(late, 'day')} ago" if late else "planned"
    why += f": {step.note}" if step.note else ""
    day = max(step.day, today)
    return Occurrence(
        step.task,
        step.name,
        day,
        step.day,
        step.day,
        step.day,
        step.minutes,
        why,
        late,
        step.step_id,
        pinned=True,
        siphon=step.siphon,
    )


def _with_planned(done: Done, last: date) -> Done:
    """The record of tasks, with the last planned change counted as done."""
    changes = [*done.get(WATER_CHANGE, ()), (last, Care(_NEVER, WATER_CHANGE, 0.0))]
    return {**done, WATER_CHANGE: sorted(changes, key=lambda pair: pair[0])}


def _series(rule: Rule, book: Book, done: Done, today: date, until: date) -> list[Occurrence]:
    """The occurrences of one rule, each counted from the one before."""
    first = first_due(rule, done, book.going_on, today)
    pins = {due: day for (task, due), day in book.moves.items() if task == rule.kind.key}
    splits = {due: split for (task, due), split in book.splits.items() if task == rule.kind.key}
    turn, count = _turn(rule, done), 0
    found: list[Occurrence] = []
    due = _on_weekday(rule, first.day)
    while True:
        pin = _pin(pins, due, first.every // 2)
        day = max(pins[pin] if pin else due, today)
        if day > until:
            return found
        part = rule.zones[(turn + 1 + count) % len(rule.zones)] if rule.zones else ""
        made = replace(_occurrence(rule, first, pin or due, not count, today), zone=part)
        pieces = [_moved(made, pins.pop(pin), today) if pin else made]
        if split := _pin(splits, made.due, first.every // 2):
            pieces = _pieces(pieces[0], splits.pop(split), today)
        found += pieces
        count += 1
        due = _on_weekday(rule, later(max(day, pieces[-1].day), first.every))


def _pieces(whole: Occurrence, split: Split, today: date) -> list[Occurrence]:
    """Its first part on its day, unless done, and the rest on its own day."""
    first = replace(whole, minutes=min(split.first_minutes, whole.minutes), piece=Piece.FIRST)
    day = split.rest_day
    rest = replace(
        whole,
        day=max(day, today),
        due=day,
        earliest=day,
        latest=day,
        minutes=max(1.0, whole.minutes - split.first_minutes),
        why=f"the rest of what is split, due {day_words(whole.due)}",
        late_days=max(0, (today - day).days),
        pinned=True,
        piece=Piece.REST,
    )
    return [rest] if split.first_done else [first, rest]


def _pin(pins: Collection[date], due: date, reach: int) -> date | None:
    """The due day of the keeper's move that refers to this occurrence: the nearest, within half an interval."""
    near = [day for day in pins if abs((day - due).days) <= reach]
    return min(near, key=lambda day: abs((day - due).days), default=None)


def _occurrence(rule: Rule, first: Due, due: date, first_one: bool, today: date) -> Occurrence:
    """An occurrence due on a day, with its window."""
    kind = rule.kind
    every = kind.every_days if first.every == ONCE_DAYS else first.every
    early, late = window_days(kind, every)
    late += first.every // 2 if first_one and first.never else 0
    latest = due if rule.weekdays else later(due, late)
    earliest = due if rule.weekdays else later(due, -early)
    return Occurrence(
        kind.key, kind.name, max(due, today), due, earliest, latest, rule.minutes,
        first.why if first_one else first.why_every, (today - due).days if today > latest else 0, kind=kind,
        every_days=every,
    )  # fmt: skip


def window_days(kind: TaskKind, every: int) -> tuple[int, int]:
    """How many days earlier and later a task may be done where its interval is `every` days: as much of the interval
    as of the kind's own.

    >>> from .task import tasks
    >>> kind = tasks()["water_change"]
    >>> (kind.every_days, kind.early_days, kind.late_days), window_days(kind, 14), window_days(kind, 2)
    ((7, 2, 3), (4, 6), (1, 1))
    """
    share = every / kind.every_days
    return min(round(kind.early_days * share), every - 1), min(round(kind.late_days * share), every)


def _moved(made: Occurrence, day: date, today: date) -> Occurrence:
    """An occurrence on the day the keeper chose."""
    late, why = max(0, (today - day).days), f"moved from {day_words(made.due)}"
    return replace(made, day=max(day, today), late_days=late, pinned=True, why=why)


def _turn(rule: Rule, done: Done) -> int:
    """The index of the zone done last, -1 for none."""
    for _, entry in reversed(done.get(rule.kind.key, ())):
        if entry.zone in rule.zones and not entry.skipped:
            return rule.zones.index(entry.zone)
    return -1


def _on_weekday(rule: Rule, due: date) -> date:
    """The first of the rule's weekdays from its earliest day on."""
    if not rule.weekdays:
        return due
    first = later(due, -window_days(rule.kind, rule.every_days)[0])
    return next(day for offset in range(7) if (day := first + timedelta(days=offset)).weekday() in rule.weekdays)


def minutes_by_day(found: Sequence[Occurrence]) -> dict[date, float]:
    """Minutes of work per day."""
    days: dict[date, float] = {}
    for occurrence in found:
        days[occurrence.day] = days.get(occurrence.day, 0.0) + occurrence.minutes
    return days
