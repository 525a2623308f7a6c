"""What is scheduled: work with its window, the keeper's days, bundles of work, and a schedule of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import cached_property

from ..basics.errors import InputError

Ref = tuple[int, str, date, int | None]
"""Which piece of work is meant: its system, its task, its due day, and its step where it is planned."""


LATE_COST, OVERDUE_COST = 10_000.0, 1000.0
"""The cost, in minutes of work, of a day past the latest, and of a further day of overdue work. The first is only ever
paid to keep apart what must be (judgement)."""


@dataclass(frozen=True)
class Demand:
    """Work to place on a day from `earliest` to `latest`, best on `due`. fixed: the day the keeper chose · before:
    where it stood · joins: tasks of its system whose day it shares where the windows allow, from `reach` on if that is
    earlier · calls: tasks it prefers to be joined by over others of its kind · apart: tasks of its system that never
    share its day.
    """

    ref: Ref
    due: date
    earliest: date
    latest: date
    minutes: float
    fixed: date | None = None
    before: date | None = None
    joins: tuple[str, ...] = ()
    reach: date | None = None
    calls: frozenset[str] = frozenset()
    apart: frozenset[str] = frozenset()

    @property
    def system(self) -> int:
        """Whose work it is."""
        return self.ref[0]

    @property
    def task(self) -> str:
        """What is done."""
        return self.ref[1]


@dataclass(frozen=True)
class Days:
    """The days that are planned: minutes the keeper has on each from `first` on, and when nobody is there."""

    first: date
    minutes: Sequence[float]
    away: frozenset[date] = frozenset()

    def __post_init__(self) -> None:
        if not self.minutes or any(not 0 <= each <= 1440 for each in self.minutes):
            raise InputError("minutes of a day", field="minutes", accepted="0 to 1440 min for each of one or more days")

    @property
    def last(self) -> date:
        """The last day that is planned."""
        return self.first + timedelta(days=len(self.minutes) - 1)

    def index(self, day: date) -> int:
        """The place of a day."""
        return (day - self.first).days

    def has(self, day: date) -> bool:
        """Whether a day is planned."""
        return self.first <= day <= self.last

    def room(self, day: date) -> float:
        """Minutes the keeper has on a day: none when away."""
        return 0.0 if day in self.away else self.minutes[self.index(day)]


@dataclass(frozen=True)
class Bundle:
    """Work of one system done on one day; the others join the first. days: those it may go on, with the cost of each
    besides its minutes."""

    work: tuple[Demand, ...]
    days: Mapping[date, float]

    @property
    def system(self) -> int:
        """Whose work it is."""
        return self.work[0].system

    @cached_property
    def minutes(self) -> float:
        """Minutes of all of it."""
        return sum(each.minutes for each in self.work)

    @cached_property
    def tasks(self) -> frozenset[str]:
        """What is done."""
        return frozenset(each.task for each in self.work)

    @cached_property
    def apart(self) -> frozenset[str]:
        """What must not share its day."""
        return frozenset().union(*(each.apart for each in self.work))

    def clashes(self, other: Bundle) -> bool:
        """Whether the two must not share a day."""
        return self.system == other.system and bool(self.apart & other.tasks or other.apart & self.tasks)


@dataclass(frozen=True)
class Schedule:
    """Where each piece of work stands, and which bundle of work it belongs to."""

    days: Mapping[Ref, date] = field(default_factory=dict)
    bundles: Mapping[Ref, Bundle] = field(default_factory=dict)
    solved: bool = False

    def of(self, ref: Ref) -> Demand:
        """The identity of the work."""
        return next(each for each in self.bundles[ref].work if each.ref == ref)

    def on(self, day: date) -> list[Demand]:
        """The work of a day."""
        return [self.of(ref) for ref, there in self.days.items() if there == day]

    def minutes(self) -> dict[date, float]:
        """Minutes of work per day."""
        found: dict[date, float] = {}
        for ref, day in self.days.items():
            found[day] = found.get(day, 0.0) + self.of(ref).minutes
        return found


Method = Callable[[Sequence[Bundle], Days], tuple[dict[int, date], bool]]
"""A placer of bundles: the day of each by its index, and whether the solver did it."""


def clashing(bundles: Iterable[Bundle]) -> list[tuple[int, int]]:
    """Which pairs must not share a day, by their places in the list."""
    by_system: dict[int, list[tuple[int, Bundle]]] = {}
    for i, bundle in enumerate(bundles):
        by_system.setdefault(bundle.system, []).append((i, bundle))
    return [
        (i, j)
        for own in by_system.values()
        for place, (i, one) in enumerate(own)
        if one.apart or any(other.apart for _, other in own)
        for j, other in own[place + 1 :]
        if one.clashes(other) and one.days.keys() & other.days.keys()
    ]
