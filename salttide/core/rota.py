"""The rota: which care tasks fall on which days. For now each task has one plain rule: every N days."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta, tzinfo

from .catalogue import TaskKind
from .ledger import Care
from .words import counted, day_words

WATER_CHANGE = "water_change"


@dataclass(frozen=True)
class Rule:
    """One system's rule for a task: every `every_days` days after it was last done or skipped; minutes it takes."""

    kind: TaskKind
    every_days: int
    minutes: float


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


@dataclass(frozen=True)
class Occurrence:
    """A task on a day. `due` is the rule's day, `day` where it is placed; late counts days past `due` at today."""

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


Moves = Mapping[tuple[str, date], date]
"""Where the keeper moved an occurrence: (task, due day) → day."""


def occurrences(
    rules: Sequence[Rule],
    care: Sequence[Care],
    moves: Moves,
    planned: Sequence[Planned],
    today: date,
    until: date,
    zone: tzinfo,
) -> list[Occurrence]:
    """All occurrences from today to `until`, by day and then in the order of a round.

    What is overdue stands on today. Planned changes come in place of the routine ones: the next routine change counts
    from the last planned one. A task that goes with the change joins it where its window reaches.
    """
    changes = [_from_plan(step, today) for step in planned]
    anchor = max((step.day for step in planned if step.is_change), default=None)
    found = [step for step in changes if step.day <= until]
    change_days = {step.day for step in changes if step.task == WATER_CHANGE}
    for rule in sorted(rules, key=lambda rule: bool(rule.kind.goes_with)):
        series = _series(rule, _last_day(care, rule.kind.key, zone), moves, today, until, anchor)
        if rule.kind.goes_with == WATER_CHANGE:
            series = _join(series, change_days, {step.day for step in planned if step.siphon}, moves)
        if rule.kind.key == WATER_CHANGE:
            change_days |= {occurrence.day for occurrence in series}
        found += series
    order = {rule.kind.key: place for place, rule in enumerate(rules)}
    return sorted(found, key=lambda occurrence: (occurrence.day, order.get(occurrence.task, -1)))


def _from_plan(step: Planned, today: date) -> Occurrence:
    late = max(0, (today - step.day).days)
    why = f"planned for {day_words(step.day)}, {counted(late, 'day')} ago" if late else "planned"
    why += f": {step.note}" if step.note else ""
    day = max(step.day, today)
    return Occurrence(step.task, step.name, day, step.day, step.day, step.day, step.minutes, why, late, step.step_id)


def _last_day(care: Sequence[Care], task: str, zone: tzinfo) -> date | None:
    return max((entry.at.astimezone(zone).date() for entry in care if entry.task == task), default=None)


def _series(
    rule: Rule, last: date | None, moves: Moves, today: date, until: date, planned_until: date | None
) -> list[Occurrence]:
    kind, step = rule.kind, timedelta(days=rule.every_days)
    if kind.key == WATER_CHANGE and planned_until is not None:
        last = max(planned_until, last or planned_until)
    due = last + step if last else today
    found: list[Occurrence] = []
    while (day := max(moves.get((kind.key, due), due), today)) <= until:
        late = max(0, (today - moves.get((kind.key, due), due)).days) if not found else 0
        why = f"every {counted(rule.every_days, 'day')}" + (
            f", last on {day_words(last)}" if last and not found else ""
        )
        if (kind.key, due) in moves:
            why = f"moved from {day_words(due)}"
        found.append(
            Occurrence(
                kind.key, kind.name, day, due, due - timedelta(days=kind.early_days),
                due + timedelta(days=kind.late_days), rule.minutes, why, late,
            )
        )  # fmt: skip
        due = day + step
    return found


def _join(series: list[Occurrence], change_days: set[date], chosen: set[date], moves: Moves) -> list[Occurrence]:
    """Put each occurrence on the day of a water change inside its window, unless the keeper moved it.

    Days that the keeper chose for it in a plan come before the others.
    """
    joined, taken = [], set()
    for occurrence in series:
        near = [day for day in change_days if occurrence.earliest <= day <= occurrence.latest and day not in taken]
        near = [day for day in near if day in chosen] or near
        if near and (occurrence.task, occurrence.due) not in moves:
            day = min(near, key=lambda day: abs((day - occurrence.due).days))
            occurrence = replace(occurrence, day=day, why=f"goes with the water change, {occurrence.why}", late_days=0)
        if occurrence.day in taken:
            continue
        taken.add(occurrence.day)
        joined.append(occurrence)
    return joined


def minutes_by_day(found: Sequence[Occurrence]) -> dict[date, float]:
    """Minutes of work per day."""
    days: dict[date, float] = {}
    for occurrence in found:
        days[occurrence.day] = days.get(occurrence.day, 0.0) + occurrence.minutes
    return days
