"""The workload: minutes needed a week against the minutes given, what fits, and what could be made rarer or dropped."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .due import Rule
from .rota import window_days
from .task import Missed

WEEK_DAYS, MAX_EVERY_DAYS = 7, 730
MOST_OFFERED = 8
"""So many ways to save time are offered at once (judgement)."""


@dataclass(frozen=True)
class Load:
    """One task of a system, by the system's number, and the minutes it takes a week by its interval."""

    system_id: int
    rule: Rule

    @property
    def minutes(self) -> float:
        """Minutes a week."""
        return self.rule.minutes * WEEK_DAYS / self.rule.every_days


@dataclass(frozen=True)
class Saving:
    """A way to save time: every so many days instead, or None to take it off the rota; minutes saved a week."""

    load: Load
    every_days: int | None
    minutes: float


@dataclass(frozen=True)
class Workload:
    """All loads, what a danger is when left first; `given`: the keeper's minutes a week."""

    loads: tuple[Load, ...]
    given: float

    @property
    def needed(self) -> float:
        """Minutes needed a week."""
        return sum(load.minutes for load in self.loads)

    @property
    def fits(self) -> bool:
        """Whether the minutes given are enough."""
        return self.needed <= self.given

    @property
    def undone(self) -> list[Load]:
        """What is left undone where the time is too short, in order: the minutes given go to what does the most harm
        when it is left, and among equals to what takes least."""
        left, spare = [], self.given
        for load in self.loads:
            if load.minutes <= spare:
                spare -= load.minutes
            else:
                left.append(load)
        return left

    @property
    def savings(self) -> list[Saving]:
        """Ways to save time, none for what is a danger when left: what can wait half as often, then what is owed as
        seldom as its window allows, then what can wait dropped; each by what it saves, until it fits."""
        found = [saving for load in reversed(self.loads) for saving in savings_of(load)]
        found.sort(key=lambda one: (one.every_days is None, one.load.rule.kind.missed != Missed.WAIT, -one.minutes))
        short, chosen = self.needed - self.given, list[Saving]()
        for saving in found:
            if short <= 0 or len(chosen) == MOST_OFFERED:
                break
            if saving.load not in (one.load for one in chosen):
                chosen.append(saving)
                short -= saving.minutes
        return chosen


def workload(rules: Mapping[int, Sequence[Rule]], week: Sequence[float]) -> Workload:
    """The workload of all systems, by their numbers, against the minutes by weekday."""
    order = list(Missed)
    loads = [Load(system_id, rule) for system_id, own in rules.items() for rule in own if not rule.kind.by]
    loads.sort(key=lambda load: (order.index(load.rule.kind.missed), load.minutes))
    return Workload(tuple(loads), sum(week))


def savings_of(load: Load) -> list[Saving]:
    """How time could be saved with a task: as seldom as its window allows; where it can wait, half as often, or not at
    all. Nothing is saved with what a programme asks for: it ends with that.

    >>> from .task import tasks
    >>> kind = tasks()["tools"]
    >>> [(one.every_days, round(one.minutes, 2)) for one in savings_of(Load(1, Rule(kind, 7, 4.0)))]
    [(14, 2.0), (None, 4.0)]
    >>> kind = tasks()["reservoir"]
    >>> savings_of(Load(1, Rule(kind, 7, 6.0)))
    []
    """
    rule = load.rule
    if rule.kind.missed == Missed.DANGER or rule.asked:
        return []
    can_wait = rule.kind.missed == Missed.WAIT
    more = rule.every_days if can_wait else window_days(rule.kind, rule.every_days)[1]
    rarer = min(MAX_EVERY_DAYS, rule.every_days + more)
    saved = load.minutes - rule.minutes * WEEK_DAYS / rarer
    found = [Saving(load, rarer, saved)] if saved > 0 else []
    return [*found, Saving(load, None, load.minutes)] if can_wait else found
