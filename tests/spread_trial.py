"""How well a proposed spread of doses flattens pH: systems of the fish room, against an exhaustive search in their own
physics."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from salttide.core.estimate.dose_timing import flattest
from salttide.core.estimate.gas_exchange import DayDoses, MeanWater, gas_exchange_of
from salttide.fishroom.breathing import least_swing, probe_hours, settled_swing, some_tank

SODA, BICARBONATE = "Na2CO3", "NaHCO3"
CARBON = {SODA: 0.5, BICARBONATE: 1.0}
SWING_LIMIT_MEQ_L = 0.357


@dataclass(frozen=True)
class Flattened:
    """Swing of pH as it was dosed, as proposed, and the least of the search; how many parts were free."""

    seed: int
    parts: int
    before: float
    proposed: float
    least: float

    @property
    def reached(self) -> float:
        """Share of the search's reduction that the proposal reaches."""
        return (self.before - self.proposed) / (self.before - self.least)


def dosed_now(total: float, seed: int) -> list[float]:
    """As keepers do it: once of an evening, twice a day, by day alone, or evenly."""
    hours = [0.0] * 24
    for hour in ([19], [8, 20], list(range(10, 18)), list(range(24)))[seed % 4]:
        hours[hour] = 1.0
    return [hour * total / sum(hours) for hour in hours]


def flattened(seed: int, formulas: tuple[str, ...]) -> Flattened:
    """One system: the program sees two weeks of its probe, its doses and its tests, and proposes."""
    tank = some_tank(seed)
    now = dosed_now(tank.uptake, seed)
    seen = probe_hours(tank, [(CARBON[SODA], np.array(now))], seed)
    tested = tank.alkalinity + (seed % 5 - 2) * 0.03
    water = MeanWater(tested, 35.0, 25.0, tank.uptake)
    gas_exchange = gas_exchange_of(dict(enumerate(seen)), water, [DayDoses(SODA, tuple(now))])
    proposed = flattest(gas_exchange, formulas, tank.uptake, SWING_LIMIT_MEQ_L).doses
    truly: list[tuple[float, Any]] = [(CARBON[one.formula], np.array(one.meq_l)) for one in proposed]
    before = float(settled_swing(tank, [(CARBON[SODA], np.array(now))]))
    least = least_swing(tank, tank.uptake, [CARBON[formula] for formula in formulas])
    return Flattened(seed, len(formulas), before, float(settled_swing(tank, truly)), least)


def spreads(count: int) -> Iterator[Flattened]:
    """So many systems with one part, and a few with two (their search is thirty times larger)."""
    for seed in range(count):
        yield flattened(seed, (SODA,))
    for seed in range(max(1, count // 4)):
        yield flattened(seed, (SODA, BICARBONATE))


if __name__ == "__main__":
    for one in spreads(16):
        print(
            f"{one.seed:3} parts {one.parts}  swing {one.before:.3f}  to {one.proposed:.3f}  least {one.least:.3f}"
            f"  reached {100 * one.reached:.0f} %"
        )
