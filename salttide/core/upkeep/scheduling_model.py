"""What is scheduled: work with its window, the keeper's days, bundles of work, and a schedule of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import cached_property

from ..basics.errors import InputError

Ref = tuple[int, str, date, int | None]
"""Which piece of work is meant: its system, its task, its due day, and its step where it is planned."""


LATE_COST = 10_000.0
"""The cost, in minutes of work, of a day past the latest: only ever paid to keep apart what must be (judgement)."""
OVERDUE_COST = 60.0
"""The cost of a further day of overdue work, for what is owed (judgement)."""


@dataclass(frozen=True)
class Demand:
    """Work to place on a day from `earliest` to `latest`, best on `due`. fixed: the day the keeper chose · before:
    where it stood · joins: tasks of its system whose day it shares where the windows allow, from `reach` on if that is
    earlier · calls: tasks it prefers to be joined by over others of its kind · apart: tasks of its system that never
    share its day · gap: least days to other times of its own task · overdue_cost: of each further day where it is
    overdue.
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
    gap: int = 1
    overdue_cost: float = OVERDUE_COST

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

    @cached_property
    def usual(self) -> float:
        """The minutes of a usual day, of those that have any."""
        some = [minutes for minutes in self.minutes if minutes]
        return sum(some) / len(some) if some else 1.0

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
    def first(self) -> date:
        """The first day it may go on."""
        return min(self.days)

    @cached_property
    def last(self) -> date:
        """The last day it may go on."""
        return max(self.days)

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

    @cached_property
    def gaps(self) -> Mapping[str, int]:
        """The least days to other times of each task."""
        return {each.task: each.gap for each in self.work}

    def gap_to(self, other: Bundle) -> int:
        """The least days between the two: 0 where they may share a day."""
        if self.system != other.system:
            return 0
        apart = int(bool(self.apart & other.tasks or other.apart & self.tasks))
        return max([apart, *(min(gap, other.gaps[task]) for task, gap in self.gaps.items() if task in other.gaps)])


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


def clashing(bundles: Iterable[Bundle]) -> list[tuple[int, int, int]]:
    """Which pairs must be kept apart, by their places in the list, and the least days between them, as far as their
    days allow."""
    by_system: dict[int, list[tuple[int, Bundle]]] = {}
    for i, bundle in enumerate(bundles):
        by_system.setdefault(bundle.system, []).append((i, bundle))
    return [pair for own in by_system.values() for pair in _clashing(sorted(own, key=lambda one: one[1].first))]


def _clashing(own: Sequence[tuple[int, Bundle]]) -> list[tuple[int, int, int]]:
    """The pairs of one system, whose bundles are sorted by their first days."""
    found, widest = [], max(gap for _, bundle in own for gap in bundle.gaps.values())
    for place, (i, one) in enumerate(own):
        for j, other in own[place + 1 :]:
            nearest = (other.first - one.last).days
            if nearest >= widest:
                break
            gap = min(one.gap_to(other), _farthest(one, other))
            if gap > max(0, nearest):
                found.append((i, j, gap))
    return found


def _farthest(one: Bundle, other: Bundle) -> int:
    """The most days that can lie between two."""
    return max((one.last - other.first).days, (other.last - one.first).days)
