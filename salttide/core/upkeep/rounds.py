"""A round: one visit's work on one system in its working order, with what is off meanwhile, and when each piece starts.

Hands do one thing after the other; what is left alone (a soak, an hour of watching for leaks) runs beside it.
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
    """A piece of work in a round, minutes from its begin: when hands start and end, and when it is over; and a note."""

    item: Occurrence
    starts: float
    hands_free: float
    over: float
    note: str = ""


DRAINED_ALONG = "What the siphon drew counts towards its litres."
"""Said of a water change behind work that drains."""


@dataclass(frozen=True)
class Round:
    """A round of one system. hands: minutes of work · elapsed: until the last soak is over · off, cautions: by key, in
    the order in which they are switched off and come up."""

    tasks: tuple[RoundTask, ...]
    hands: float
    elapsed: float
    off: tuple[str, ...]
    cautions: tuple[str, ...]

    def beside(self, one: RoundTask) -> list[RoundTask]:
        """What hands do while a piece of work is left alone."""
        return [each for each in self.tasks if one.hands_free <= each.starts < one.over]


def round_of(system: System, items: Sequence[Occurrence]) -> Round:
    """The work of a day on one system as a round: in its working order, and of equals what soaks longest first."""
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
    """What each piece took of a round that took so many minutes in all, by what was expected of it.

    >>> shared_minutes([10.0, 30.0], 60.0)
    [15.0, 45.0]
    """
    whole = sum(expected)
    return [took * each / whole if whole else took / len(expected) for each in expected]
