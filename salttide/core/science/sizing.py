"""Sizing water changes by their purpose: size, number and spacing, under the limits.

Bringing a parameter from a to b, moving salinity, restoring what is depleted and diluting a contamination are the same
sum with different new water; routines are compared in `dilution`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from math import inf

from ..basics.contract import Boundless
from ..basics.errors import InputError, PlanError, check_choice, check_range
from ..basics.working import Result, Working
from .dilution import after_change, dilute, fraction_to_reach
from .parameters import FACTS, Parameter, spoken

LARGEST_FRACTION = 0.25
"""Default of the most that a plan changes at once; the keeper may, with a caution (judgement)."""
MAX_CHANGES = 60
SMALLEST = 1e-4
LARGEST_FIRST_CHANGE = 0.8
"""A first change after cycling, with nothing living in it yet (judgement)."""
FIRST_NITRATE_MG_L = 10.0
"""The nitrate that it aims at (judgement)."""


@dataclass(frozen=True)
class SizedChange:
    """One change: after how many days, fraction and litres, and the level it is for, before and after."""

    after_days: int
    fraction: float
    litres: float
    before: float
    after: float
    working: Working = ()


@dataclass(frozen=True)
class Sizing:
    """The changes in order, and what the new water does meanwhile to everything else that is known (canonical)."""

    changes: tuple[SizedChange, ...]
    after: Mapping[Parameter, float]

    @property
    def litres(self) -> float:
        """New water in all."""
        return sum(change.litres for change in self.changes)


@dataclass(frozen=True)
class DayLimit:
    """The most a parameter may move in a day, in its unit; down also as a share of the level where one is given.

    A limit that lets nothing move at all is no limit to plan with: DomainError below 0.0001. Without one, infinity.
    """

    up: Boundless
    down: Boundless
    down_share: float | None = None

    def __post_init__(self) -> None:
        check_range("rise a day", self.up, "", SMALLEST, inf, field="up")
        check_range("fall a day", self.down, "", SMALLEST, inf, field="down")
        if self.down_share is not None:
            check_range("fall a day", self.down_share, "(0 to 1 of the level)", SMALLEST, 1, field="down_share")

    def step(self, level: float, target: float) -> float:
        """The furthest level towards `target` that a day allows."""
        if target >= level:
            return min(target, level + self.up)
        most = self.down if self.down_share is None else min(self.down, self.down_share * level)
        return max(target, level - most)


NO_LIMIT = DayLimit(float("inf"), float("inf"))


def size_changes(
    parameter: Parameter,
    water: Mapping[Parameter, float],
    target: float,
    incoming: Mapping[Parameter, float],
    volume_l: float,
    largest_fraction: float = LARGEST_FRACTION,
    every_days: int = 2,
    production_per_day: float = 0.0,
    limit: DayLimit = NO_LIMIT,
) -> Sizing:
    """The changes that bring `parameter` to `target`: one if it fits, else several `every_days` apart.

    `water` and `incoming` in canonical units; new water of which nothing is said is without the parameter itself, and
    like the old in all else. Each change is as large as `largest_fraction` (0.01 to 0.9) and the daily limit allow, the
    last as large as needed; it starts from what the one before and the production between left. Raises PlanError
    where the new water, or the production, stands in the way.

    >>> sizing = size_changes(Parameter.NITRATE, {Parameter.NITRATE: 30.0}, 10.0, {}, 100.0)
    >>> len(sizing.changes), round(sizing.changes[0].litres, 1)
    (4, 25.0)
    """
    parameter = check_choice(Parameter, parameter)
    _check(parameter, water, target, volume_l, largest_fraction, every_days)
    start, new, changes = water[parameter], incoming.get(parameter, 0.0), list[SizedChange]()
    fraction_to_reach(start, target, new)
    state = dict(water)
    while not is_there(state[parameter], target, start):
        level = state[parameter] if not changes else max(0.0, state[parameter] + production_per_day * every_days)
        if changes and (len(changes) >= MAX_CHANGES or _no_nearer(changes, level, target)):
            raise PlanError(_too_slow(parameter, changes[-1]), field="target")
        size = fraction_within(level, target, new, largest_fraction, limit)
        after, fraction = after_change(level, new, size), float(size)
        working = (*size.working, *after.working)
        litres, day = fraction * volume_l, len(changes) * every_days
        changes.append(SizedChange(day, fraction, litres, level, float(after), working))
        state = {each: dilute(now, incoming.get(each, now), fraction) for each, now in state.items()}
        state[parameter] = float(after)
    return Sizing(tuple(changes), state)


def _check(
    parameter: Parameter,
    water: Mapping[Parameter, float],
    target: float,
    volume_l: float,
    largest: float,
    every_days: int,
) -> None:
    check_mixes(parameter)
    possible = FACTS[parameter].possible
    check_range("largest fraction", largest, "(0 to 1 of the volume)", 0.01, 0.9)
    check_range("days between changes", every_days, "days", 1, 60)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range(f"target {spoken(parameter)}", target, "", possible.low, possible.high, field="target")
    if parameter not in water:
        raise PlanError(f"Test {spoken(parameter)} first.", field=parameter.value)
    check_range(spoken(parameter), water[parameter], "", possible.low, possible.high, field=parameter.value)


def check_mixes(parameter: Parameter, field: str = "parameter") -> None:
    """Raise where two waters' values do not make that of their mixture by their shares.

    pH is a logarithm that alkalinity and carbon dioxide set, redox a voltage, and a heater sets the temperature.
    """
    if not FACTS[parameter].dissolved:
        raise InputError(
            f"{FACTS[parameter].name} does not mix like a salt: no share of new water brings it to a target",
            field=field,
            accepted="something dissolved, such as nitrate or salinity",
        )


def is_there(level: float, target: float, start: float) -> bool:
    """Whether a level has reached or passed its target, coming from where it started."""
    slack = 1e-9 * max(1.0, abs(target))
    return level <= target + slack if start >= target else level >= target - slack


def fraction_within(level: float, target: float, new: float, largest: float, limit: DayLimit) -> Result:
    """The fraction that the target, the largest fraction (0..1) and the day's limit allow; PlanError where `new` cannot
    reach it."""
    reachable = dilute(level, new, largest)
    aim = max(target, reachable) if level >= target else min(target, reachable)
    return fraction_to_reach(level, limit.step(level, aim), new)


class BoundKind(StrEnum):
    """What keeps a change from doing more at once."""

    LIMIT = "daily limit"
    SIZE = "size"
    SUPPLY = "supply"
    PLUME = "plume"


@dataclass(frozen=True)
class Bound:
    """What bound a change, and its amount: a parameter's daily limit (canonical), the share of the volume that one
    change may be, litres of water that are there, or ppt between new water and the system."""

    kind: BoundKind
    amount: float
    parameter: Parameter | None = None


def bound_of(
    parameter: Parameter, level: float, target: float, new: float, largest: float, limit: DayLimit
) -> Bound | None:
    """What keeps one change from bringing a level to its target; None where it gets there."""
    reachable = dilute(level, new, largest)
    aim = max(target, reachable) if level >= target else min(target, reachable)
    step = limit.step(level, aim)
    if abs(step - aim) > 1e-9 * max(1.0, abs(aim)):
        return Bound(BoundKind.LIMIT, abs(step - level), parameter)
    if abs(aim - target) > 1e-9 * max(1.0, abs(target)):
        return Bound(BoundKind.SIZE, largest)
    return None


def _no_nearer(changes: list[SizedChange], level: float, target: float) -> bool:
    return abs(level - target) >= abs(changes[-1].before - target) - 1e-12


def _too_slow(parameter: Parameter, last: SizedChange) -> str:
    return (
        f"Changes of this size and spacing do not bring {spoken(parameter)} there: what is made between takes back "
        f"what each removes (at {last.before:.4g} to {last.after:.4g}). Larger, more often, or less food."
    )
