"""Catching up: what was missed, in order of the harm it does when it is left undone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from ..basics.number_text import show_number
from ..basics.phrasing import counted, day_words
from .rota import Occurrence
from .task import Missed

MANY = 5
"""From so many late tasks on, they are gone through together (judgement)."""


@dataclass(frozen=True)
class MissedGroup:
    """Missed work of one kind: the number of the system and the work, by day."""

    missed: Missed
    work: tuple[tuple[int, Occurrence], ...]

    @property
    def minutes(self) -> float:
        """Minutes of all of it."""
        return sum(item.minutes for _, item in self.work)

    def words(self, today: date) -> str:
        """When it is done, or why it need not be."""
        last = max(item.day for _, item in self.work)
        count, minutes = counted(len(self.work), "task"), show_number(self.minutes, 0)
        when = "today" if last <= today else f"by {day_words(last)}"
        if self.missed == Missed.WAIT:
            return f"{count}, {minutes} min: nothing is lost if they wait until their next time"
        return f"{count}, {minutes} min, {when}"


def catch_up(work: Mapping[int, Sequence[Occurrence]]) -> list[MissedGroup]:
    """What was missed in each system, by its number: what is a danger first. None where little was missed.

    >>> catch_up({1: []})
    []
    """
    late = [(system_id, item) for system_id, items in work.items() for item in items if item.late_days]
    if len(late) < MANY:
        return []
    groups = []
    for missed in Missed:
        mine = [(i, item) for i, item in late if (item.kind.missed if item.kind else Missed.OWED) == missed]
        if mine:
            groups.append(MissedGroup(missed, tuple(sorted(mine, key=lambda pair: (pair[1].day, pair[0])))))
    return groups
