"""How well the pace is told: trials of the fish room with hidden truth, by scenario and uptake."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from statistics import median

from salttide.core.estimate.rate import Pace, pace_of
from salttide.core.ledger.entries import Change, Dose, Ledger, Reading
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.fishroom import trials
from salttide.fishroom.trials import SCENARIOS, UPTAKES, Trial

ALKALINITY = Parameter.ALKALINITY
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
    return Ledger(
        trials.LITRES,
        [
            Reading(at(day), ALKALINITY, value / DKH_PER_MEQ_L, trials.KIT_SD / DKH_PER_MEQ_L, "kit", number)
            for number, (day, value) in enumerate(trial.readings, 1)
        ],
        [Change(at(day), out, out, {ALKALINITY: new / DKH_PER_MEQ_L}, 1000) for day, out, new in trial.changes],
        [Dose(at(day), "soda", 1.0, {ALKALINITY: meq}, id=2000) for day, meq in trial.doses],
    )


def told(trial: Trial) -> Pace:
    """What the program makes of it."""
    found = pace_of(book(trial), ALKALINITY, START + timedelta(days=trial.readings[-1][0]))
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
        brought = sum(meq for _, meq in trial.planned) / trials.LITRES
        expected = (found.ahead(trials.DAYS_AHEAD)[0] + brought) * DKH_PER_MEQ_L
        ahead.append(abs(expected - trial.week_later))
        (day_1, value_1), (day_2, value_2) = trial.readings[-2:]
        stays.append(abs(value_2 - trial.week_later))
        slope = (value_2 - value_1) / (day_2 - day_1)
        line.append(abs(value_2 + slope * trials.DAYS_AHEAD - trial.week_later))
        moving.append(abs(trial.week_later - trial.level) >= 0.05 * trials.DAYS_AHEAD)
    moved = [(own, other) for own, other, moves in zip(ahead, stays, moving, strict=True) if moves]
    ratio = median(own for own, _ in moved) / median(other for _, other in moved) if len(moved) >= 30 else None
    return Figures(name, uptake, median(errors), held / len(tried), median(ahead), ratio, median(ahead) / median(line))


if __name__ == "__main__":
    for one in figures(150):
        stays = f"{one.stays:.2f}" if one.stays is not None else "  - "
        print(
            f"{one.scenario:15} {one.uptake:4.2f}  error {one.error:.4f} dKH/day  held {one.held:.2f}  "
            f"week ahead {one.ahead:.3f} dKH, {stays} of staying, {one.line:.2f} of a line"
        )
