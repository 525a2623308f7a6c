"""Wearing parts of gear: the life used of each, when it is replaced, spares, and what the last service found."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta, tzinfo
from enum import StrEnum
from functools import cache
from math import floor
from typing import Any

from ..basics.dates import check_day, later
from ..basics.errors import InputError
from ..basics.measures import part_words
from ..basics.number_text import show_number
from ..ledger.entries import Care
from ..system.catalogue import data_file, gear_kinds, reading_data
from ..system.observations import found_kinds, found_words, number_found
from ..system.system import Panel, PanelMaterial, System
from .due import Dated, Done, FlowFall, GoingOn, Rule, done_of, first_due, flow_fall
from .task import Measure, tasks

BUY_DAYS = 30
"""Days before it is needed that a part not on the Shelf should be bought (judgement)."""
MIN_KEPT_BACK = 90.0
"""Percent of the solids kept back below which a membrane is replaced (judgement)."""


@dataclass(frozen=True)
class PartKind:
    """A kind of wearing part. task: the task that services it · changed: the one that replaces it · flow: the task that
    measures its flow between services · kept_back: judged by the solids it keeps back."""

    key: str
    name: str
    task: str
    gear: tuple[str, ...] = ()
    panels: tuple[Panel, ...] = ()
    material: tuple[PanelMaterial, ...] = ()
    changed: bool = False
    most_hours: float = 0.0
    hours_per_day: float = 0.0
    most_days: int = 0
    flow: str = ""
    kept_back: bool = False

    def suits(self, system: System) -> bool:
        """Whether the system has it."""
        return (
            (not self.gear or not set(self.gear).isdisjoint(system.gear))
            and (not self.panels or not set(self.panels).isdisjoint(system.clean_panels))
            and (not self.material or system.panel in self.material)
        )


@cache
def part_kinds() -> dict[str, PartKind]:
    """All kinds of parts by key."""
    with reading_data("parts"):
        return {key: _kind(key, row) for key, row in data_file("parts").items()}


def _kind(key: str, row: Mapping[str, Any]) -> PartKind:
    for task in (row["task"], *([row["flow"]] if "flow" in row else [])):
        if task not in tasks():
            raise ValueError(f"“{task}” is not a task")
    for gear in row.get("gear", ()):
        if gear not in gear_kinds():
            raise ValueError(f"“{gear}” is not a kind of gear")
    lists = {
        "gear": tuple(row.get("gear", ())),
        "panels": tuple(Panel(name) for name in row.get("panels", ())),
        "material": tuple(PanelMaterial(name) for name in row.get("material", ())),
    }
    return PartKind(**{"key": key, **row, **lists})


@dataclass(frozen=True)
class PartKept:
    """The keeper's data on a part; None: as usual, or not given. since: when it was put in · spares: on the Shelf at
    `counted_at`."""

    since: date | None = None
    hours_per_day: float | None = None
    most_hours: float | None = None
    most_days: int | None = None
    spares: int | None = None
    counted_at: datetime | None = None
    note: str = ""


NO_DATA = PartKept()


def check_part(kept: PartKept, today: date) -> PartKept:
    """Refuse impossible data, at their field: put in today or before, 0.1 to 24 h a day, 1 to 200 000 h, 1 to 7300
    days, 0 to 99 spares."""
    if kept.since is not None:
        check_day(kept.since, "since", last=today)
    _check("hours_per_day", kept.hours_per_day, 0.1, 24, "h a day")
    _check("most_hours", kept.most_hours, 1, 200_000, "h")
    _check("most_days", kept.most_days, 1, 7300, "days")
    _check("spares", kept.spares, 0, 99, "on the Shelf")
    return kept


def _check(field: str, value: float | None, low: float, high: float, unit: str) -> None:
    if value is not None and not low <= value <= high:
        accepted = f"{show_number(low, 1 if low % 1 else 0)} to {show_number(high, 0)} {unit}"
        raise InputError(accepted, field=field, accepted=accepted)


def life_days(task: str, kept: Mapping[str, PartKept]) -> int | None:
    """The interval in days after which a part's hours are used up; None where the keeper gave no hours.

    >>> life_days("steriliser_lamp", {"lamp": PartKept(hours_per_day=12.0)})
    730
    """
    for key, kind in part_kinds().items():
        data = kept.get(key, NO_DATA)
        if kind.task == task and kind.changed and kind.most_hours and (data.hours_per_day or data.most_hours):
            most, per_day = data.most_hours or kind.most_hours, data.hours_per_day or kind.hours_per_day
            return min(730, max(1, floor(most / per_day)))
    return None


def installed_on(task: str, kept: Mapping[str, PartKept]) -> date | None:
    """The day on which the part that a task replaces was put in, as far as the keeper said."""
    days = [kept[key].since for key, kind in part_kinds().items() if kind.task == task and kind.changed and key in kept]
    return max((day for day in days if day), default=None)


class LifeBy(StrEnum):
    """What a life is counted in."""

    HOURS = "hours"
    LITRES = "litres"
    USES = "uses"
    DAYS = "days"
    READING = "reading"


@dataclass(frozen=True)
class Life:
    """The life of a part: used, of the most, in a unit."""

    by: LifeBy
    used: float
    most: float
    unit: str
    digits: int = 0

    @property
    def left(self) -> float:
        """The share that is left, 0 to 1."""
        return max(0.0, 1 - self.used / self.most)

    @property
    def words(self) -> str:
        """Used of the most, with the unit.

        >>> Life(LifeBy.USES, 7, 12, "cleans").words
        '7 of 12 cleans'
        """
        return part_words(self.used, self.most, self.unit, self.digits)


FLOW_LOST_PERCENT = 15.0
"""Percent of lost flow worth a caution (judgement)."""


@dataclass(frozen=True)
class Part:
    """A part of a system now. since: when it was put in, if known · lives: by everything that wears it, the most used
    first · next_on: when its task is due, `changes`: and replaces it · fall: of its flow · spares: left on the Shelf ·
    buy: it will be needed soon and is not there."""

    kind: PartKind
    since: date | None
    lives: tuple[Life, ...]
    next_on: date | None
    next_why: str
    serviced: date | None
    found: tuple[str, ...]
    fall: FlowFall | None
    spares: int | None
    kept: PartKept

    @property
    def changes_on(self) -> date | None:
        """When a new one is needed: at its task, or at the end of its days."""
        if self.kind.changed:
            return self.next_on
        ends = next((life for life in self.lives if life.by == LifeBy.DAYS), None)
        return later(self.since, ends.most) if self.since and ends else None

    @property
    def flow_low(self) -> bool:
        """Whether it has lost enough flow since its last service for a caution."""
        return bool(self.fall and self.fall.percent >= FLOW_LOST_PERCENT and self.kind.flow != self.kind.task)

    def to_buy(self, today: date) -> bool:
        """Whether a new one is needed soon and none is on the Shelf."""
        wanted = self.changes_on
        return wanted is not None and wanted <= today + timedelta(days=BUY_DAYS) and not self.spares


def parts_of(
    system: System,
    rules: Sequence[Rule],
    care: Sequence[Care],
    kept: Mapping[str, PartKept],
    placed: Mapping[str, date],
    going_on: GoingOn,
    today: date,
    zone: tzinfo,
) -> list[Part]:
    """The parts of a system. placed: the day of each task's next time, where the rota reaches that far."""
    done = done_of(care, zone)
    by_task = {rule.kind.key: rule for rule in rules}
    found = []
    for kind in part_kinds().values():
        if kind.suits(system):
            data, rule = kept.get(kind.key, NO_DATA), by_task.get(kind.task)
            found.append(_part(kind, data, rule, done, placed.get(kind.task), going_on, today))
    return found


def _part(
    kind: PartKind,
    kept: PartKept,
    rule: Rule | None,
    done: Done,
    placed: date | None,
    going_on: GoingOn,
    today: date,
) -> Part:
    services = [(day, entry) for day, entry in done.get(kind.task, ()) if not entry.skipped]
    changes = [day for day, _ in services] if kind.changed else []
    since = max([*changes[-1:], *([kept.since] if kept.since else [])], default=None)
    due = first_due(rule, done, going_on, today) if rule else None
    lives = tuple(sorted(_lives(kind, kept, rule, done, since, today), key=lambda life: life.left))
    # The spares counted, less those used since.
    counted = kept.counted_at
    used = sum(entry.at > counted for _, entry in services) if counted and kind.changed else 0
    return Part(
        kind,
        since,
        lives,
        placed or (max(due.day, today) if due else None),
        due.why if due else "off the rota",
        services[-1][0] if services else None,
        tuple(found_words(services[-1][1].found)) if services else (),
        _fall(kind, services, done),
        None if kept.spares is None else max(0, kept.spares - used),
        kept,
    )


def _fall(kind: PartKind, services: Dated, done: Done) -> FlowFall | None:
    """The loss of flow: at present where measured between services, else as the last service began."""
    if not kind.flow:
        return None
    entries = [entry for _, entry in services]
    if kind.flow != kind.task:
        last = next((day for day, entry in reversed(services) if "flow_after" in entry.found), date.max)
        return flow_fall(entries, _measurements(done, kind.flow, "flow_now", last))
    before = [(day, value) for day, e in services[1:] if (value := number_found(e.found, "flow_before")) is not None]
    return flow_fall(entries[:-1], before[-1:])


def _measurements(done: Done, task: str, key: str, since: date | None) -> list[tuple[date, float]]:
    return [
        (day, value)
        for day, entry in done.get(task, ())
        if (since is None or day > since) and (value := number_found(entry.found, key)) is not None
    ]


def _lives(
    kind: PartKind,
    kept: PartKept,
    rule: Rule | None,
    done: Done,
    since: date | None,
    today: date,
) -> list[Life]:
    found = _by_task(rule, done, since) if kind.changed and rule else []
    if kind.kept_back:
        found += _kept_back(done)
    if since is None:
        return found
    days = (today - since).days
    if kind.most_hours:
        per_day = kept.hours_per_day or kind.hours_per_day
        found.append(Life(LifeBy.HOURS, days * per_day, kept.most_hours or kind.most_hours, "h"))
    most_days = kept.most_days or kind.most_days or (rule.every_days if rule and kind.changed else 0)
    if most_days and not kind.most_hours:
        found.append(Life(LifeBy.DAYS, days, most_days, "days"))
    return found


def _by_task(rule: Rule, done: Done, since: date | None) -> list[Life]:
    """Lives by uses, litres and readings, as its task is due by."""
    found = []
    uses, measured = rule.kind.uses, rule.kind.measured
    if uses and since:
        used = sum(not entry.skipped and day > since for day, entry in done.get(uses.task, ()))
        found.append(Life(LifeBy.USES, used, uses.most, "uses"))
    if not measured:
        return found
    limit = rule.limit if rule.limit is not None else measured.limit
    finding = found_kinds()[measured.finding]
    measurements = _measurements(done, measured.task, measured.finding, since)
    if limit and measurements and measured.how == Measure.ADDS_UP:
        found.append(Life(LifeBy.LITRES, sum(value for _, value in measurements), limit, finding.unit))
    if limit and measurements and measured.how == Measure.REACHES:
        found.append(Life(LifeBy.READING, measurements[-1][1], limit, finding.unit, finding.digits))
    return found


def _kept_back(done: Done) -> list[Life]:
    """The life by the solids that pass a membrane, of the most that may."""
    everything = sorted((pair for own in done.values() for pair in own), key=lambda pair: pair[1].at)
    for _, entry in reversed(everything):
        before, after = (number_found(entry.found, key) for key in ("solids_in", "solids_membrane"))
        if before and after is not None:
            return [Life(LifeBy.READING, 100 * after / before, 100 - MIN_KEPT_BACK, "% come through", 1)]
    return []


def with_spares(kept: PartKept, spares: int | None, now: datetime) -> PartKept:
    """The part with its spares counted now.

    >>> with_spares(PartKept(), None, datetime(2026, 11, 24)).counted_at is None
    True
    """
    return replace(kept, spares=spares, counted_at=None if spares is None else now)
