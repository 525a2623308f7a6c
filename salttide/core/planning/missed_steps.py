"""Missed steps of a plan move on with all that follow: no two steps share a day's limit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from ..upkeep.rota import Planned
from .work_order import DoseWorkOrder, VisualCheckOrder, Work

MAX_DAYS = 366


@dataclass(frozen=True)
class PlanPart:
    """An open step of a plan, with its work."""

    plan: str
    step: Planned
    work: Work

    @property
    def moves_water(self) -> bool:
        """Whether it uses some of the day's limit: a visual check does not."""
        return not isinstance(self.work, VisualCheckOrder)


def replanned(parts: Sequence[PlanPart], late_by: Mapping[str, int], today: date) -> list[tuple[Planned, Work]]:
    """The open steps on their new days, by day.

    A plan whose next dose or change was missed moves on with its tests, as a whole: to `today` at the earliest, and by
    as many days (`late_by`, by plan) as the step before it was done late. A dose that moves keeps clear of days on
    which another plan changes water.
    """
    found: list[tuple[Planned, Work]] = []
    for plan in dict.fromkeys(part.plan for part in parts):
        own = sorted((part for part in parts if part.plan == plan), key=lambda part: part.step.day)
        busy = {part.step.day for part in parts if part.plan != plan and part.step.is_change}
        found += _moved_on(own, late_by.get(plan, 0), today, busy)
    return sorted(found, key=lambda pair: (pair[0].day, pair[0].step_id))


def _moved_on(own: Sequence[PlanPart], late_by: int, today: date, busy: set[date]) -> list[tuple[Planned, Work]]:
    first = next((part.step.day for part in own if part.moves_water), None)
    if first is None:
        return [(part.step, part.work) for part in own]
    shift = timedelta(days=max(late_by, (today - first).days, 0))
    found, day = list[tuple[Planned, Work]](), first
    for part in own:
        if part.step.day < first:
            found.append((part.step, part.work))
            continue
        if shift and part.step.day != day and part.moves_water:
            day = part.step.day
            while isinstance(part.work, DoseWorkOrder) and day + shift in busy and shift.days < MAX_DAYS:
                shift += timedelta(days=1)
        found.append((replace(part.step, day=part.step.day + shift), part.work))
    return found
