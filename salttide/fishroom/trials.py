"""Trials of estimation: tanks with a known uptake of alkalinity, tested by a keeper with a kit. Values in dKH, as such
a keeper reads them. Nothing here is shared with the program under trial.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from random import Random

MEQ_PER_DKH = 1 / 2.8039
LITRES = 200.0
KIT_SD = 0.15
DAYS_AHEAD = 7


@dataclass
class Trial:
    """What the keeper knows: readings (day, dKH), doses (day, meq), changes (day, litres, dKH of the new water), and
    the doses planned for the week ahead.

    And what is hidden: uptake on the last day (dKH/day), the level then, and the level a week later.
    """

    readings: list[tuple[float, float]] = field(default_factory=list)
    doses: list[tuple[float, float]] = field(default_factory=list)
    changes: list[tuple[float, float, float]] = field(default_factory=list)
    planned: list[tuple[float, float]] = field(default_factory=list)
    uptake: float = 0.0
    level: float = 0.0
    week_later: float = 0.0


@dataclass(frozen=True)
class TrialPlan:
    """The plan of a trial: uptake by day, test days, missed doses, errors, and the resolution of the kit (0:
    continuous)."""

    uptake_on: Callable[[float, float], float]
    test_days: Callable[[Random], list[float]]
    missed: float = 0.0
    outlier: bool = False
    step: float = 0.0


def _weekly(_: Random) -> list[float]:
    return [7.0 * week for week in range(6)]


def _irregular(chance: Random) -> list[float]:
    days = [0.0]
    while len(days) < 6:
        days.append(days[-1] + chance.choice((3, 4, 5, 7, 9, 11)) + chance.uniform(-0.3, 0.3))
    return days


def _longer(_: Random) -> list[float]:
    return [7.0 * week for week in range(9)]


SCENARIOS: Mapping[str, TrialPlan] = {
    "steady": TrialPlan(lambda base, day: base, _weekly),
    "growing": TrialPlan(lambda base, day: base * (1 + 0.008 * day), _weekly),
    "step": TrialPlan(lambda base, day: base * (1.0 if day < 35 else 1.6), _longer),
    "kit scatter": TrialPlan(lambda base, day: base, _weekly, step=0.2),
    "missed doses": TrialPlan(lambda base, day: base, _weekly, missed=0.25),
    "one outlier": TrialPlan(lambda base, day: base, _weekly, outlier=True),
    "irregular days": TrialPlan(lambda base, day: base, _irregular),
}
UPTAKES = (0.05, 0.2, 0.5)


DOSED_AT, CHANGED_AT = 0.4, 0.75
"""Hours of the day for doses and changes: apart from each other and from the tests, so that the order is clear."""


def _comes(share: float, day: float, step: float) -> bool:
    """Whether this share of a day is reached within the step."""
    return int(day + step - share) > int(day - share) if day >= share else day + step >= share


def run(name: str, base: float, seed: int) -> Trial:
    """One trial of a scenario: daily doses near the uptake, a tenth changed weekly, a kit that scatters."""
    plan, chance = SCENARIOS[name], Random(f"{name} {base} {seed}")
    trial, days = Trial(), plan.test_days(chance)
    level, new_water = chance.uniform(7.8, 8.6), chance.uniform(7.5, 9.0)
    dose = base * chance.uniform(0.1, 0.95)
    wrong = chance.randrange(1, len(days) - 1) if plan.outlier else None
    day, hour = 0.0, 1 / 24
    pending = list(days)
    while pending or day < days[-1] + DAYS_AHEAD:
        if pending and day >= pending[0] - 1e-9:
            error = chance.gauss(0, KIT_SD)
            if wrong is not None and len(trial.readings) == wrong:
                error += chance.choice((-1, 1)) * chance.uniform(0.8, 1.6)
            shown = level + error
            if plan.step:
                shown = round(shown / plan.step) * plan.step
            trial.readings.append((pending.pop(0), shown))
            if not pending:
                trial.level, trial.uptake = level, plan.uptake_on(base, day)
        step = min(hour, pending[0] - day) if pending and pending[0] > day else hour
        known = bool(pending)
        level -= plan.uptake_on(base, day) * step
        if _comes(DOSED_AT, day, step):
            given = (day + step, dose * MEQ_PER_DKH * LITRES)
            if not known:
                level += dose
                trial.planned.append(given)
            elif chance.random() >= plan.missed:
                level += dose
                trial.doses.append(given)
        if known and _comes(CHANGED_AT, day, step) and int(day) % 7 == 3:
            level = level * 0.9 + new_water * 0.1
            trial.changes.append((day + step, 0.1 * LITRES, new_water))
        day += step
    trial.week_later = level
    return trial
