"""How well the rate is told: trials of the fish room with hidden truth, by scenario and uptake."""

from __future__ import annotations

import sys
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from math import sqrt
from random import Random
from statistics import fmean, median

import numpy as np

from salttide.core.estimate.dose_review import Fit, review_dose
from salttide.core.estimate.forecast import expect, foreseen
from salttide.core.estimate.rate import Rate, rate_of
from salttide.core.judgement.findings import judge_situation
from salttide.core.judgement.situation import Situation
from salttide.core.ledger.entries import Change, Dose, Ledger, Reading
from salttide.core.ledger.plan import Plan
from salttide.core.ledger.verdict import doubts
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.demo.systems import BEACON
from salttide.fishroom import trials
from salttide.fishroom.trials import MIDDLING, MISHAPS, SCENARIOS, UPTAKES, Trial

START = datetime(2026, 1, 1, 12, tzinfo=UTC)


@dataclass(frozen=True)
class Figures:
    """Of one scenario at one uptake: errors in dKH a day and dKH, the share of intervals that held the truth.

    stays and line: the error of the forecast over that of "stays as last measured", where the level moves by 0.05 dKH a
    day or more, and over that of a line through the last two readings.
    """

    scenario: str
    uptake: float
    error: float
    held: float
    ahead: float
    stays: float | None
    line: float


def book(trial: Trial) -> Ledger:
    """What the keeper wrote down."""
    at = lambda day: START + timedelta(days=day)  # noqa: E731 - a unit, not a function of its own
    parameter, unit = Parameter(trial.water.parameter), trial.water.recorded
    return Ledger(
        trials.LITRES,
        [
            Reading(at(day), parameter, value * unit, kit.stated * unit, kit.name, number)
            for number, (day, value, kit) in enumerate(trial.readings, 1)
        ],
        [Change(at(day), out, out, {parameter: new * unit}, 1000) for day, out, new in trial.changes],
        [Dose(at(day), "dose", 1.0, {parameter: amount}, id=2000) for day, amount in trial.doses],
    )


def told(trial: Trial) -> Rate:
    """What the program makes of it."""
    found = rate_of(book(trial), Parameter(trial.water.parameter), START + timedelta(days=trial.readings[-1][0]))
    assert found is not None
    return found


def figures(runs: int, first: int = 0) -> Iterator[Figures]:
    """Each scenario at each uptake, over seeds from `first` on."""
    for name in SCENARIOS:
        for uptake in UPTAKES:
            yield _figures(name, uptake, [trials.run(name, uptake, seed) for seed in range(first, first + runs)])


def _figures(name: str, uptake: float, tried: list[Trial]) -> Figures:
    errors, held, ahead, stays, line, moving = [], 0, [], [], [], []
    for trial in tried:
        found = told(trial)
        errors.append(abs(-found.per_day * DKH_PER_MEQ_L - trial.uptake))
        held += found.low * DKH_PER_MEQ_L <= -trial.uptake <= found.high * DKH_PER_MEQ_L
        ahead.append(abs(_expected(trial, found) - trial.week_later))
        stays.append(abs(trial.readings[-1][1] - trial.week_later))
        line.append(abs(_line(trial, 2) - trial.week_later))
        moving.append(abs(trial.week_later - trial.level) >= 0.05 * trials.DAYS_AHEAD)
    moved = [(own, other) for own, other, moves in zip(ahead, stays, moving, strict=True) if moves]
    ratio = median(own for own, _ in moved) / median(other for _, other in moved) if len(moved) >= 30 else None
    return Figures(name, uptake, median(errors), held / len(tried), median(ahead), ratio, median(ahead) / median(line))


def _expected(trial: Trial, found: Rate) -> float:
    """The level a week later, with the doses planned for it."""
    brought = sum(amount for _, amount in trial.planned) / trials.LITRES
    return (found.ahead(trials.DAYS_AHEAD)[0] + brought) / trial.water.recorded


def _line(trial: Trial, over: int) -> float:
    """The level a week later by a line through the last readings."""
    days, values = zip(*((day, value) for day, value, _ in trial.readings[-over:]), strict=True)
    slope, level = np.polyfit(np.array(days) - days[-1], values, 1)
    return float(level + slope * trials.DAYS_AHEAD)


@dataclass(frozen=True)
class Everyday:
    """Of one everyday scenario: the root of the mean square error of the rate, and of the least that any estimate from
    the same readings can have (Cramér and Rao), as shares of the true rate; the share of intervals that held the truth;
    the error of the forecast over the better of staying and of a line through the last four, and the share of its
    intervals that held the truth."""

    scenario: str
    error: float
    least: float
    held: float
    ahead: float
    sure: float


def everyday(runs: int, first: int = 0, only: Sequence[str] = ()) -> Iterator[Everyday]:
    """Each mishap, over seeds from `first` on."""
    for name in only or MISHAPS:
        tried = [trials.run(name, MIDDLING, seed) for seed in range(first, first + runs)]
        errors, held, ahead, stays, line, sure = [], 0, [], [], [], 0
        for trial in tried:
            found, unit = told(trial), trial.water.recorded
            errors.append(-found.per_day / unit - trial.uptake)
            held += found.low / unit <= -trial.uptake <= found.high / unit
            ahead.append(abs(_expected(trial, found) - trial.week_later))
            stays.append(abs(trial.readings[-1][1] - trial.week_later))
            line.append(abs(_line(trial, 4) - trial.week_later))
            sure += _holds(trial, found)
        true = fmean(abs(trial.uptake) for trial in tried)
        root = sqrt(fmean(error**2 for error in errors)) / true
        least = sqrt(fmean(least_error(trial) ** 2 for trial in tried)) / true
        by = median(ahead) / min(median(stays), median(line))
        yield Everyday(name, root, least, held / runs, by, sure / runs)


def _holds(trial: Trial, found: Rate) -> bool:
    """Whether the interval of the forecast for a week later holds what the level then is."""
    parameter, now = Parameter(trial.water.parameter), START + timedelta(days=trial.readings[-1][0])
    doses = [Dose(START + timedelta(days=day), "dose", 1.0, {parameter: amount}) for day, amount in trial.planned]
    end = now + timedelta(days=trials.DAYS_AHEAD)
    point = expect(book(trial), {parameter: found}, Plan(doses), now, end)[parameter].points[-1]
    return point.low <= trial.week_later * trial.water.recorded <= point.high


def least_error(trial: Trial) -> float:
    """The standard deviation that no unbiased estimate of the last uptake can fall short of, with everything known but
    the numbers: which readings were blunders, when a step was, how the rate wanders.

    Source: Cramér 1946; for a linear model with Gaussian errors the inverse of the information X' C^-1 X, which least
    squares attain. A rate that wanders adds to C how its integral up to each reading varies, seen from the last day.
    """
    rows = [place for place, scatter in enumerate(trial.scatters) if scatter is not None]
    design = np.array([trial.answers[place] for place in rows])
    design = design[:, np.abs(design).max(axis=0) > 0]
    noise = np.diag([trial.scatters[place] ** 2 for place in rows])
    days = np.array([trial.readings[place][0] for place in rows])
    information = design.T @ np.linalg.inv(noise + _wandered(trial, days)) @ design
    return float(sqrt(np.linalg.inv(information)[1, 1]) * trial.last)


def _wandered(trial: Trial, days: Sequence[float]) -> np.ndarray:
    """How readings vary together because the rate was another before the last day, given that it is what it is then."""
    share, back = trial.wander
    grid = np.arange(0.5, max(days))
    apart = np.exp(-np.abs(grid[:, None] - grid) / back)
    since = np.exp(-(max(days) - grid) / back)
    spread = (share * trial.uptake) ** 2 * (apart - since[:, None] * since)
    until = (grid < np.array(days)[:, None]).astype(float)
    return until @ spread @ until.T


TYPED = ("steady", "growing", "irregular days", "wandering", "step by a third", "drops of 0.4", "calcium", "nitrate")
"""Scenarios in which a week later one more result is typed, rightly or wrongly."""


ELSEWHERE = {"alkalinity": (6.5, 11.0), "calcium": (360, 480), "nitrate": (0, 30)}
"""What another system of the same keeper may read."""


@dataclass(frozen=True)
class Asked:
    """Of results typed a week after the last: the share of sound ones that is asked about, and of wrong ones by how
    they are wrong."""

    sound: float
    wrong: dict[str, float]


def asked(runs: int, first: int = 0) -> Asked:
    """Sound results and typing errors, over tanks that go on as they did."""
    sound, wrong = [], defaultdict[str, list[bool]](list)
    for name in TYPED:
        for seed in range(first, first + runs):
            trial, chance = trials.run(name, MIDDLING, seed), Random(f"typed {name} {seed}")
            kit = trial.readings[-1][2]
            value = max(0.0, round(kit.shows(trial.week_later, chance), 1))
            if not FACTS[Parameter(trial.water.parameter)].likely.holds(value * trial.water.recorded):
                continue  # A tank left to itself for so long that every result is asked about.
            trial.doses += trial.planned
            sound.append(_asks(trial, value))
            for how, typed in _mistyped(trial, value, chance).items():
                if typed != value:
                    wrong[how].append(_asks(trial, typed))
    return Asked(fmean(sound), {how: fmean(each) for how, each in wrong.items()})


def _mistyped(trial: Trial, value: float, chance: Random) -> dict[str, float]:
    """The ways in which a result is commonly typed wrongly."""
    digits = f"{value:g}".replace(".", "")
    found = {"another system's": round(chance.uniform(*ELSEWHERE[trial.water.parameter]), 1)}
    if len(digits) > 1:
        swapped, point = digits[1] + digits[0] + digits[2:], f"{value:g}".find(".")
        found["digits swapped"] = float(f"{swapped[:point]}.{swapped[point:]}" if point > 0 else swapped)
    if "." in f"{value:g}":
        found["no point"] = float(digits)
    if trial.water.parameter == "alkalinity":
        found["in meq/L"] = round(value / DKH_PER_MEQ_L, 2)
    found["a key too far"] = float(_slipped(f"{value:g}", chance))
    return found


def _slipped(text: str, chance: Random) -> str:
    """The first digit one key beside the right one."""
    first = int(text[0])
    beside = first + chance.choice((-1, 1)) if 1 < first < 9 else first + 1 if first < 2 else 8
    return f"{beside}{text[1:]}"


def _asks(trial: Trial, typed: float) -> bool:
    """Whether a result a week after the last one is asked about, or refused."""
    ledger, parameter = book(trial), Parameter(trial.water.parameter)
    kit, at = trial.readings[-1][2], START + timedelta(days=trial.readings[-1][0] + trials.DAYS_AHEAD)
    found = Reading(at, parameter, typed * trial.water.recorded, kit.stated * trial.water.recorded, kit.name, 9000)
    if not FACTS[parameter].possible.holds(found.value):
        return True
    return bool(doubts(found, ledger.last(parameter), foreseen(ledger, parameter, at), {}, UTC))


@dataclass(frozen=True)
class Noticed:
    """Of tanks followed from test to test: the median of days from a step of a third to the first word of it, the share
    noticed within twelve days; and what is said a tank-year where nothing moves, by what says it."""

    median_days: float
    within_12: float
    false: dict[str, float]


WATCHED_FROM = 24.0
"""The day from which on there are enough readings."""


def noticed(runs: int, first: int = 0) -> Noticed:
    """What the rules say of a step, and of nothing."""
    late = []
    for seed in range(first, first + runs):
        trial = trials.run("watched, a step", MIDDLING, seed)
        spoken = [day for day, said in _followed(trial) if day > STEPS_ON and said - {"unrecorded"}]
        late.append(spoken[0] - STEPS_ON if spoken else 99.0)
    false, years = defaultdict[str, int](int), 0.0
    for seed in range(first, first + runs):
        trial = trials.run("watched, nothing moves", MIDDLING, seed)
        years += (trial.readings[-1][0] - WATCHED_FROM) / 365
        before = set[str]()
        for _, said in _followed(trial):
            for what in said - before:
                false[what] += 1
            before = said
    return Noticed(median(late), fmean(days < 12.5 for days in late), {what: n / years for what, n in false.items()})


STEPS_ON = 60.0
"""The day on which the rate takes its step."""


def _followed(trial: Trial) -> Iterator[tuple[float, set[str]]]:
    """What the rules say after each test: a turn, a dose that does not fit, something unrecorded."""
    whole, dose = book(trial), trial.doses[0][1] / trials.LITRES
    for number, (day, _, _) in enumerate(trial.readings, 1):
        if day < WATCHED_FROM:
            continue
        now = START + timedelta(days=day)
        ledger = replace(
            whole, readings=whole.readings[:number], doses=[given for given in whole.doses if given.at <= now]
        )
        judged = judge_situation(Situation(BEACON, ledger, now, UTC), {"not_looked"})
        rules = {found.rule for found in judged.findings} | {found.finding.rule for found in judged.waiting}
        fit = review_dose(rate_of(ledger, Parameter.ALKALINITY, now), dose).fit
        yield day, rules & {"turned", "unrecorded"} | ({"dose"} if fit in (Fit.SHORT, Fit.OVER) else set())


if __name__ == "__main__":
    runs = int(sys.argv[1]) if len(sys.argv) > 1 else 150
    for one in figures(runs):
        stays = f"{one.stays:.2f}" if one.stays is not None else "  - "
        print(
            f"{one.scenario:15} {one.uptake:4.2f}  error {one.error:.4f} dKH/day  held {one.held:.2f}  "
            f"week ahead {one.ahead:.3f} dKH, {stays} of staying, {one.line:.2f} of a line"
        )
    for each in everyday(runs):
        print(
            f"{each.scenario:17} error {100 * each.error:5.1f} %, at the least {100 * each.least:4.1f} %  "
            f"held {each.held:.2f}  week ahead {each.ahead:.2f} of the better of staying and a line, "
            f"held {each.sure:.2f}"
        )
    seen = noticed(max(10, runs // 3))
    false = ", ".join(f"{what} {times:.2f}" for what, times in seen.false.items()) or "nothing"
    print(
        f"a step of a third is noticed after {seen.median_days:.0f} days, within twelve in {100 * seen.within_12:.0f} %"
    )
    print(f"said for nothing in a tank-year: {false}")
    typed = asked(runs)
    print(f"asked about: {100 * typed.sound:.1f} % of sound results")
    for how, share in typed.wrong.items():
        print(f"  {how:17} {100 * share:.0f} %")
