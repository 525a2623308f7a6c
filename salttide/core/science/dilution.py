"""Dilution: what one, many or a continuous change does to a concentration, with or without production between.

Values in any one unit of concentration; fractions of the net volume, 0..1: a percentage in its place is refused.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil, exp, log

from ..basics.errors import PlanError, check_range
from ..basics.number_text import short
from ..basics.working import Formula, FormulaInput, Result

CONCENTRATION_MAX = 1e5
ONE = Formula("C", "after one change", "C_0 * (1 - f) + C_in * f", "", "mass balance")
MANY = Formula("C", "after n changes", "C_in + (C_0 - C_in) * (1 - f)**n", "", "mass balance, n times")
CONTINUOUS = Formula(
    "C", "after a continuous change", "C_in + (C_0 - C_in) * exp(-v / V)", "", "well mixed all the while", {"exp": exp}
)
CONTINUOUS_VOLUME = Formula(
    "v", "water to exchange", "-V * ln((C_1 - C_in) / (C_0 - C_in))", "L", "continuous change solved", {"ln": log}
)
FRACTION = Formula("f", "fraction to change", "(C_0 - C_1) / (C_0 - C_in)", "", "one change solved for its size")
SETTLED = Formula(
    "C", "just before a change, settled", "max(0, C_in + p * T / f)", "", "production between = removal by a change"
)
EXCHANGE = Formula("x", "water to exchange", "V * (S_2 - S_1) / (S_n - S_1)", "L", "mass balance of salt")


def dilute(value: float, incoming: float, fraction: float) -> float:
    """Concentration after a change of `fraction` (0..1) with water of `incoming`: C = C0(1−f) + Cin·f.

    >>> dilute(20.0, 0.0, 0.25)
    15.0
    """
    return value * (1 - fraction) + incoming * fraction


def _level(name: str, value: float) -> FormulaInput:
    return FormulaInput(check_range(name, value, "", 0, CONCENTRATION_MAX), "", name)


def _fraction(value: float) -> FormulaInput:
    return FormulaInput(check_range("fraction changed", value, "(0 to 1 of the volume)", 0, 1), "", "fraction changed")


def after_change(value: float, incoming: float, fraction: float) -> Result:
    """Concentration after one change, with its working; refuses levels below 0 and a fraction outside 0..1.

    >>> float(after_change(20.0, 0.0, 0.25))
    15.0
    """
    return ONE.result(
        C_0=_level("level before", value), f=_fraction(fraction), C_in=_level("level of the new water", incoming)
    )


def after_changes(value: float, incoming: float, fraction: float, count: int) -> Result:
    """Concentration after `count` (0 to 10 000) equal changes: C = Cin + (C0−Cin)(1−f)^n.

    >>> round(after_changes(1.0, 0.0, 0.10, 2), 2)
    0.81
    """
    check_range("number of changes", count, "", 0, 10_000)
    return MANY.result(
        C_in=_level("level of the new water", incoming),
        C_0=_level("level before", value),
        f=_fraction(fraction),
        n=FormulaInput(count, "", "changes"),
    )


def after_continuous_change(value: float, incoming: float, changed_l: float, volume_l: float) -> Result:
    """Concentration after `changed_l` was exchanged slowly through `volume_l`: C = Cin + (C0−Cin)·exp(−v/V).

    >>> round(after_continuous_change(20.0, 0.0, 100.0, 100.0), 3)
    7.358
    """
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    return CONTINUOUS.result(
        C_in=_level("level of the new water", incoming),
        C_0=_level("level before", value),
        v=FormulaInput(check_range("water exchanged", changed_l, "L", 0, 1e7), "L", "exchanged in all"),
        V=FormulaInput(volume_l, "L", "net volume"),
    )


def fraction_to_reach(value: float, target: float, incoming: float = 0.0) -> Result:
    """The fraction that one change must exchange to bring a concentration from `value` to `target`.

    Raises PlanError where the new water cannot bring it there.

    >>> round(fraction_to_reach(30.0, 10.0), 4)
    0.6667
    """
    levels = _level("level before", value), _level("target", target), _level("level of the new water", incoming)
    _reachable(value, target, incoming)
    if value == target:
        return FRACTION.result(C_0=levels[0], C_1=levels[1], C_in=FormulaInput(value - 1, "", "any"))
    return FRACTION.result(C_0=levels[0], C_1=levels[1], C_in=levels[2])


def changes_to_reach(value: float, target: float, fraction: float, incoming: float = 0.0) -> int:
    """How many equal changes of `fraction` (above 0 to 1) bring a concentration to `target` or beyond it.

    Raises PlanError where the new water cannot bring it there.

    >>> changes_to_reach(30.0, 10.0, 0.25)
    4
    """
    for name, level in (("level before", value), ("target", target), ("level of the new water", incoming)):
        _level(name, level)
    check_range("fraction changed", fraction, "(0 to 1 of the volume)", 1e-6, 1)
    _reachable(value, target, incoming)
    if value == target:
        return 0
    if fraction == 1:
        return 1
    if target == incoming:
        raise PlanError("equal changes come ever nearer to the new water's own level, but never reach it")
    return ceil(log((target - incoming) / (value - incoming)) / log(1 - fraction) - 1e-9)


def continuous_volume_to_reach(value: float, target: float, volume_l: float, incoming: float = 0.0) -> Result:
    """Litres to exchange continuously through `volume_l` to bring a concentration to `target`.

    >>> round(continuous_volume_to_reach(30.0, 10.0, 100.0), 1)
    109.9
    """
    levels = _level("level before", value), _level("target", target), _level("level of the new water", incoming)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    _reachable(value, target, incoming)
    if target == incoming != value:
        raise PlanError("a continuous change comes ever nearer to the new water's own level, but never reaches it")
    if target == value:
        levels = levels[0], levels[1], FormulaInput(value - 1, "", "any")
    return CONTINUOUS_VOLUME.result(
        V=FormulaInput(volume_l, "L", "net volume"), C_1=levels[1], C_in=levels[2], C_0=levels[0]
    )


def _reachable(value: float, target: float, incoming: float) -> None:
    if not min(value, incoming) <= target <= max(value, incoming):
        raise PlanError(
            f"new water of {short(incoming)} brings {short(value)} only towards {short(incoming)}, "
            f"never to {short(target)}",
            field="target",
        )


def level_with_production(
    value: float, incoming: float, fraction: float, production_per_day: float, every_days: float, changes: int
) -> float:
    """The level just before the next change, after so many changes (0 to 10 000) with steady production between.

    Starts at `value` right after a change, so that the first level is value + p·T, T being `every_days`. Production
    may be negative (uptake), a level never falls below 0.

    >>> round(level_with_production(10.0, 0.0, 0.1, 0.5, 7.0, 0), 2)
    13.5
    >>> round(level_with_production(10.0, 0.0, 0.1, 0.5, 7.0, 500), 2)
    35.0
    """
    _level("level", value), _level("level of the new water", incoming), _fraction(fraction)
    check_range("production", production_per_day, "a day", -1e4, 1e4)
    check_range("days between changes", every_days, "days", 1e-3, 3660)
    check_range("number of changes", changes, "", 0, 10_000)
    level = max(0.0, value + production_per_day * every_days)
    for _ in range(changes):
        level = max(0.0, dilute(level, incoming, fraction) + production_per_day * every_days)
    return level


def settled_level(incoming: float, fraction: float, production_per_day: float, every_days: float) -> Result:
    """Where the level just before a change settles in the long run: Cin + p·T/f, never below 0.

    >>> round(settled_level(0.0, 0.1, 0.5, 7.0), 2)
    35.0
    """
    check_range("fraction changed", fraction, "(0 to 1 of the volume)", 1e-6, 1)
    return SETTLED.result(
        C_in=_level("level of the new water", incoming),
        p=FormulaInput(check_range("production", production_per_day, "a day", -1e4, 1e4), "a day", "production"),
        T=FormulaInput(check_range("days between changes", every_days, "days", 1e-3, 3660), "days", "between changes"),
        f=_fraction(fraction),
    )


def salinity_exchange_l(volume_l: float, salinity: float, target: float, incoming: float) -> Result:
    """Litres to exchange for water of salinity `incoming` to move `volume_l` from `salinity` to `target`, at once.

    Salinities 0 to 45. To lower it, fresh water (0) in place of tank water. Raises PlanError where the new water cannot
    bring it there. The daily limit splits it: `salinity_steps_l`.

    >>> round(salinity_exchange_l(71.0, 36.4, 35.0, 0.0), 2)
    2.73
    """
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    for name, level in (("salinity", salinity), ("target salinity", target), ("salinity of the new water", incoming)):
        check_range(name, level, "ppt", 0, 45)
    _reachable(salinity, target, incoming)
    return EXCHANGE.result(
        V=FormulaInput(volume_l, "L", "net volume"),
        S_2=FormulaInput(target, "ppt", "target"),
        S_1=FormulaInput(salinity, "ppt", "now"),
        S_n=FormulaInput(incoming if salinity != target else target + 1, "ppt", "new water"),
    )


@dataclass(frozen=True)
class SalinityStep:
    """One day of moving salinity: litres to exchange, and salinity before and after."""

    litres: float
    before: float
    after: float


def salinity_steps_l(
    volume_l: float, salinity: float, target: float, incoming: float, limit_per_day: float = 1.0
) -> tuple[SalinityStep, ...]:
    """Salinity moved to `target` by equal daily steps of at most `limit_per_day` (0.1 to 5 ppt).

    Each starts from the last one's end: the k-th exchanges x_k = V·dS/(Sn−S_k): several steps need more water in all
    than one.

    >>> [round(step.litres, 2) for step in salinity_steps_l(100.0, 33.0, 35.0, 40.0)]
    [14.29, 16.67]
    """
    check_range("daily limit", limit_per_day, "ppt", 0.1, 5)
    salinity_exchange_l(volume_l, salinity, target, incoming)
    count = ceil(abs(target - salinity) / limit_per_day - 1e-9)
    ends = [salinity + (target - salinity) * k / count for k in range(count)] + [target]
    return tuple(
        SalinityStep(float(salinity_exchange_l(volume_l, before, after, incoming)), before, after)
        for before, after in pairwise(ends)
    )


@dataclass(frozen=True)
class Routine:
    """A change of a fraction (0..1) every so many days; the first after `every_days`."""

    fraction: float
    every_days: float


@dataclass(frozen=True)
class RoutineOutcome:
    """What a routine does over a time: the level at each day's end, the worst, where it settles, and water used.

    `settled` is the level just before a change in the long run; `water` is in net volumes.
    """

    levels: tuple[float, ...]
    worst: float
    settled: float
    water: float


def compare_routines(
    routines: Sequence[Routine], value: float, incoming: float, production_per_day: float, days: int
) -> tuple[RoutineOutcome, ...]:
    """Each routine's outcome over `days` (1 to 3660) from the same start, in the order given; a 0 level is the floor.

    >>> weekly, fortnightly = compare_routines([Routine(0.1, 7), Routine(0.2, 14)], 1.0, 0.0, 0.0, 14)
    >>> round(weekly.levels[-1], 2), round(fortnightly.levels[-1], 2)
    (0.81, 0.8)
    """
    check_range("days", days, "days", 1, 3660)
    return tuple(_outcome(routine, value, incoming, production_per_day, days) for routine in routines)


def _outcome(routine: Routine, value: float, incoming: float, production_per_day: float, days: int) -> RoutineOutcome:
    settled = settled_level(incoming, routine.fraction, production_per_day, routine.every_days)
    level, levels, worst, done = float(_level("level", value).value), [], value, 0
    for day in range(1, days + 1):
        level = max(0.0, level + production_per_day)
        worst = max(worst, level)
        while day >= (done + 1) * routine.every_days:
            level, done = dilute(level, incoming, routine.fraction), done + 1
        levels.append(level)
    return RoutineOutcome(tuple(levels), worst, max(0.0, settled), done * routine.fraction)


def even_changes(left: float, at_most: float) -> tuple[int, float]:
    """The fewest changes of one size, each of at most a share (0..1) of the water, that leave a share `left` (above 0,
    up to 1) of what is thinned out: how many, and the share of each. After n changes of f, (1 - f)^n is left.

    >>> times, share = even_changes(0.25, 0.6)
    >>> times, round(share, 3)
    (2, 0.5)
    """
    check_range("what is left", left, "(a fraction)", 1e-9, 1)
    check_range("largest change", at_most, "(a fraction)", 0.01, 1)
    times, share = 1, 1 - left
    while share > at_most + 1e-9:
        times += 1
        share = 1 - left ** (1 / times)
    return times, share
