"""Care of a system: its rules from the kinds of tasks and the keeper's choices, triggers in force, and its work placed
on days."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta, tzinfo

from ..basics.dates import later
from ..basics.errors import InputError
from ..ledger.entries import Care
from ..system.finding import Finding
from ..system.inspection import VisualCheck
from ..system.system import System
from .due import ONCE_DAYS, GoingOn, Rule
from .gear import PartKept, installed_on, life_days
from .rota import WATER_CHANGE, Moves, Occurrence, Split
from .scheduling import place
from .scheduling_model import OVERDUE_COST, Days, Demand, Ref, Schedule
from .scheduling_search import search
from .task import Missed, RoundPart, TaskKind, tasks

PLACED_DAYS = 42
"""Days ahead for which work is placed; beyond, work stands on its due day."""
AGAIN_DAYS = 6
"""Days after which a trigger still in force makes a task due again."""
USUAL_MINUTES = (40.0, 40.0, 40.0, 40.0, 40.0, 120.0, 120.0)
"""Minutes a day from Monday on, until the keeper says otherwise (judgement)."""
USUAL_WEIGHT, REMEMBERED = 2.0, 6


@dataclass(frozen=True)
class CareChoice:
    """The keeper's choices for a task of a system; None and empty: as usual."""

    off: bool = False
    every_days: int | None = None
    minutes: float | None = None
    weekdays: tuple[int, ...] = ()
    zones: tuple[str, ...] | None = None
    limit: float | None = None


def check_choice_of_care(choice: CareChoice) -> CareChoice:
    """Refuse impossible choices, at their field: every 1 to 730 days, 1 to 600 minutes, weekdays 0 to 6, up to 8 parts
    of 1 to 40 characters, a limit above 0."""
    if choice.every_days is not None and not 1 <= choice.every_days <= 730:
        raise InputError("how often it comes round: 1 to 730 days", field="every_days", accepted="1 to 730 days")
    if choice.minutes is not None and not 1 <= choice.minutes <= 600:
        raise InputError("how long it takes: 1 to 600 min", field="minutes", accepted="1 to 600 min")
    if any(not 0 <= day <= 6 for day in choice.weekdays):
        raise InputError("a weekday", field="weekdays", accepted="0 (Monday) to 6 (Sunday)")
    if choice.zones is not None and (
        len(choice.zones) > 8 or any(not 1 <= len(one.strip()) <= 40 for one in choice.zones)
    ):
        raise InputError(
            "up to 8 parts, each with a name of 1 to 40 characters",
            field="zones",
            accepted="up to 8 names of 1 to 40 characters",
        )
    if choice.limit is not None and not 0 < choice.limit <= 1e6:
        raise InputError("the limit: above 0", field="limit", accepted="above 0")
    return choice


AS_USUAL = CareChoice()


def rules_of(
    system: System,
    choices: Mapping[str, CareChoice],
    own: Sequence[TaskKind] = (),
    care: Sequence[Care] = (),
    home: bool = True,
    parts: Mapping[str, PartKept] | None = None,
    entered_on: date | None = None,
    asked: Collection[str] = (),
) -> list[Rule]:
    """The rules of a system in the order of a round: the kinds that suit it and the keeper's own, as chosen; minutes
    as they really were. home: whether tasks done once for the household are done here · parts: the keeper's data on
    parts of gear, whose hours may set the interval · asked: tasks that programmes ask for ·
    entered_on: the day from which on the system is recorded here: of what was never recorded, nothing before it is
    missed."""
    wanted = {*asked, *(key for key, choice in choices.items() if choice.every_days)}
    usual = [kind for kind in tasks().values() if (not kind.asked or kind.key in wanted) and kind.suits(system)]
    kinds = [kind for kind in usual if home or not kind.household] + list(own)
    started = max(date.fromisoformat(system.started_on), entered_on or date.min)
    done: dict[str, list[Care]] = {}
    for entry in care:
        done.setdefault(entry.task, []).append(entry)
    rules = []
    for kind in kinds:
        choice = choices.get(kind.key, AS_USUAL)
        if choice.off:
            continue
        expected = kind.minutes if choice.minutes is None else choice.minutes
        zones = kind.zones_for(system) if choice.zones is None else choice.zones
        minutes = max(1.0, round(learned_minutes(expected, done.get(kind.key, ()))))
        every = choice.every_days or life_days(kind.key, parts or {}) or _usual_days(kind, system)
        put_in = installed_on(kind.key, parts or {})
        rules.append(Rule(kind, every, minutes, choice.weekdays, zones, choice.limit, started, put_in))
    return rules


def _usual_days(kind: TaskKind, system: System) -> int:
    """The kind's own interval; of the water change and what is done with each, the system's routine; of what only a
    programme asks for, none."""
    if kind.asked:
        return ONCE_DAYS
    with_each_change = kind.key == WATER_CHANGE or kind.each == WATER_CHANGE
    return system.methods.change_every_days if with_each_change else kind.every_days


def learned_minutes(usual: float, done: Sequence[Care]) -> float:
    """Minutes a task takes, from the last times it was timed, with the usual minutes counting as two more.

    >>> learned_minutes(12.0, [])
    12.0
    """
    real = [entry.minutes for entry in done if entry.timed and not entry.skipped][-REMEMBERED:]
    return (USUAL_WEIGHT * usual + sum(real)) / (USUAL_WEIGHT + len(real))


def going_on(
    looks: Sequence[VisualCheck],
    findings: Sequence[Finding],
    now: datetime,
    zone: tzinfo,
    answered: Collection[str] = (),
) -> GoingOn:
    """Triggers in force and since when: signs of the last visual check, and findings, but for those that a programme
    answers. A sign stays in force until somebody looks again: that nobody looked does not mean that it is gone."""
    today = now.astimezone(zone).date()
    found = {finding.rule: today - timedelta(days=AGAIN_DAYS) for finding in findings}
    last = max((look for look in looks if look.at <= now), key=lambda look: look.at, default=None)
    if last is not None:
        found |= {sign.kind.key: last.at.astimezone(zone).date() for sign in last.signs}
    return {key: since for key, since in found.items() if key not in answered}


@dataclass(frozen=True)
class Availability:
    """The keeper's availability: minutes by weekday and on single days, absences, and work already placed for this
    system. stood: where work stood before, in case of undo · others: minutes of the other systems' work by day."""

    week: Sequence[float] = USUAL_MINUTES
    single: Mapping[date, float] = field(default_factory=dict)
    away: frozenset[date] = frozenset()
    placed: Mapping[tuple[str, date], date] = field(default_factory=dict)
    stood: Mapping[tuple[str, date], date] = field(default_factory=dict)
    others: Mapping[date, float] = field(default_factory=dict)

    def days(self, today: date, ahead: int = PLACED_DAYS) -> Days:
        """The days from today on with the minutes that are left for this system."""
        span = [today + timedelta(days=offset) for offset in range(ahead)]
        minutes = [max(0.0, self.single.get(day, self.week[day.weekday()]) - self.others.get(day, 0.0)) for day in span]
        return Days(today, minutes, self.away)


def demands_of(system_id: int, found: Sequence[Occurrence], keeping: Availability, last: date) -> list[Demand]:
    """The work to place, as far as due by `last`; a refill has its day from the contents."""
    return [
        _demand(system_id, item, keeping)
        for item in found
        if item.due <= last and (item.kind is None or not item.kind.by)
    ]


def _demand(system_id: int, item: Occurrence, keeping: Availability) -> Demand:
    kind = item.kind
    ref = (system_id, item.task, item.due, item.step_id)
    if kind is None or item.pinned:
        joined = frozenset({"siphon"}) if item.siphon else frozenset()
        apart = frozenset(tasks()[item.task].never_with) if item.task in tasks() else frozenset()
        return Demand(ref, item.due, item.earliest, item.latest, item.minutes, item.day, calls=joined, apart=apart)
    apart = frozenset(kind.never_with)
    gap = max(1, item.every_days - (item.due - item.earliest).days)
    reach = later(item.due, -max(0, item.every_days - 1)) if kind.follows else None
    return Demand(
        ref, item.due, item.earliest, item.latest, item.minutes, None, _before(item, keeping), kind.joins, reach,
        apart=apart, gap=gap, overdue_cost=OVERDUE_COSTS[kind.missed],
    )  # fmt: skip


OVERDUE_COSTS = {Missed.DANGER: 3000.0, Missed.OWED: OVERDUE_COST, Missed.WAIT: 10.0}
"""The cost, in minutes of work, of a further day of overdue work (judgement): what is a danger is done today, what is
owed within days, what can wait as there is room."""


def _before(item: Occurrence, keeping: Availability) -> date | None:
    """Where it stood: under its due day, or under a near one where the due day has shifted."""
    placed = keeping.placed
    exact = placed.get((item.task, item.due)) or keeping.stood.get((item.task, item.due))
    if exact is not None:
        return exact
    reach = max(1, item.every_days // 2)
    near = [due for task, due in placed if task == item.task and abs((due - item.due).days) <= reach]
    return placed[item.task, min(near, key=lambda due: abs((due - item.due).days))] if near else None


def on_their_days(system_id: int, found: Sequence[Occurrence], keeping: Availability, today: date) -> list[Occurrence]:
    """The occurrences on the days where they are placed; unplaced ones are fitted in beside the rest."""
    days = keeping.days(today)
    demands = demands_of(system_id, found, keeping, days.last)
    standing = {each.ref: each.fixed or keeping.placed.get((each.task, each.due), date.min) for each in demands}
    if any(day < today for day in standing.values()):
        standing = dict(place(demands, days, search, relieve=False).days)
    return moved_to(system_id, found, standing)


def moved_to(system_id: int, found: Sequence[Occurrence], where: Mapping[Ref, date]) -> list[Occurrence]:
    """The occurrences on other days, by day and then in the working order of a round."""
    moved = [replace(item, day=where.get((system_id, item.task, item.due, item.step_id), item.day)) for item in found]
    return sorted(moved, key=lambda item: (item.day, place_in_round(item)))


def place_in_round(item: Occurrence) -> tuple[int, bool]:
    """The position in the working order; planned steps by their kind, else first. Work that drains comes before a water
    change of the same day: what it takes out is part of the change, and nothing is drained again once the system is
    full.
    """
    kind = item.kind or tasks().get(item.task)
    return (list(RoundPart).index(kind.phase) if kind else -1, item.task == WATER_CHANGE)


def placing_of(
    works: Mapping[int, Sequence[Occurrence]],
    keepings: Mapping[int, Availability],
    today: date,
    from_scratch: bool,
    relieve: bool,
) -> tuple[Schedule, Days]:
    """All systems placed together under the keeper's minutes. What was missed and stood on days gone by is spread over
    the coming days, whatever stands there."""
    shared = next(iter(keepings.values()), Availability())
    days = replace(shared, others={}).days(today)
    demands = [
        demand
        for system_id, found in works.items()
        for demand in demands_of(system_id, found, keepings[system_id], days.last)
    ]
    missed = any(each.fixed is None and each.latest < today and (each.before or date.min) < today for each in demands)
    return place(demands, days, from_scratch=from_scratch, relieve=relieve or missed), days


@dataclass(frozen=True)
class Upkeep:
    """What the rota of a system rests on besides its record. answered: the signs and rules that programmes answer."""

    rules: Sequence[Rule] = ()
    moves: Moves = field(default_factory=dict)
    keeping: Availability = field(default_factory=Availability)
    splits: Mapping[tuple[str, date], Split] = field(default_factory=dict)
    answered: frozenset[str] = frozenset()
