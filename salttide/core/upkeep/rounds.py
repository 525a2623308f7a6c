"""A round: one visit's work on one system in working order, with gear to switch off, and when each task starts. Hands
do one thing at a time; what is left alone (a soak, an hour of watching for leaks) runs in parallel.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..system.catalogue import gear_kinds
from ..system.system import System
from .care import place_in_round
from .rota import WATER_CHANGE, Occurrence
from .task import RoundPart


@dataclass(frozen=True)
class RoundTask:
    """A task of a round, in minutes from the start: when hands begin and end, and when it is over; and a note."""

    item: Occurrence
    starts: float
    hands_free: float
    over: float
    note: str = ""


DRAINED_ALONG = "What the siphon drew counts towards its litres."
"""The note on a water change after work that drains."""


@dataclass(frozen=True)
class Round:
    """A round of one system. hands: minutes of work · elapsed: until the last soak is over · off, cautions: keys, in
    the order of switching off and of the tasks."""

    tasks: tuple[RoundTask, ...]
    hands: float
    elapsed: float
    off: tuple[str, ...]
    cautions: tuple[str, ...]

    def beside(self, one: RoundTask) -> list[RoundTask]:
        """What to do while a task is left alone."""
        return [each for each in self.tasks if one.hands_free <= each.starts < one.over]


def round_of(system: System, items: Sequence[Occurrence]) -> Round:
    """A day's work on one system as a round: in working order, and among equals the longest soak first."""
    ordered = sorted(items, key=lambda item: (place_in_round(item), -_waits(item)))
    tasks: list[RoundTask] = []
    at = 0.0
    for item in ordered:
        along = item.task == WATER_CHANGE and any(_drains(each.item) for each in tasks)
        note = DRAINED_ALONG if along else ""
        tasks.append(RoundTask(item, at, at + item.minutes, at + item.minutes + _waits(item), note))
        at += item.minutes
    kinds = [item.kind for item in ordered if item.kind]
    wanted = {key for kind in kinds for key in kind.off}
    known = gear_kinds()
    off = [key for key in known if key in wanted and key in system.gear and known[key].off_why]
    cautions = dict.fromkeys(key for kind in kinds for key in kind.cautions)
    return Round(tuple(tasks), at, max((each.over for each in tasks), default=0.0), tuple(off), tuple(cautions))


def _waits(item: Occurrence) -> float:
    return item.kind.waits if item.kind else 0.0


def _drains(item: Occurrence) -> bool:
    return item.kind is not None and item.kind.phase == RoundPart.DRAIN


def shared_minutes(expected: Sequence[float], took: float) -> list[float]:
    """The minutes of each task of a round, sharing the total in proportion to what was expected.

    >>> shared_minutes([10.0, 30.0], 60.0)
    [15.0, 45.0]
    """
    whole = sum(expected)
    return [took * each / whole if whole else took / len(expected) for each in expected]
