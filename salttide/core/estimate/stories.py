"""Stories that may explain a series of readings, each followed from reading to reading, weighted by how well it does.

A story says whether the rate is steady, has a trend or wanders, how much the instrument scatters, and what happened
between readings: nothing, a step of the rate, or something that is not in the record; and whether a reading is an
outlier. Within a story everything is linear and Gaussian, so that what is known of level and rate follows exactly.
After every reading the likeliest stories go on.

Source: a Kalman filter for each story, and a Gaussian sum of them: Kalman 1960; Alspach and Sorenson 1972, Nonlinear
Bayesian estimation using Gaussian sum approximations.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import log
from typing import Any

from ..basics.lazy import LazyModule
from ..ledger.entries import Reading
from ..ledger.verdict import OTHER_SDS
from .gaps import Gap

np: Any = LazyModule("numpy")

STEADY, TREND, WANDERING = 0.55, 0.3, 0.15
"""Prior probabilities of how a rate goes on (judgement)."""
TREND_MEAN, TREND_WIDTH = 0.006, 0.004
"""Mean and width of a trend a day, in shares of the rate (judgement): what grows uses about a fifth more each month."""
WANDER = 0.04
"""How far a rate wanders in a day, in shares of itself (judgement); in n days the root of n times as far."""
STEP_DAYS, STEP_WIDTH = 200.0, 0.5
"""A rate takes a step once in so many days, of about this share of itself (judgement)."""
UNRECORDED_DAYS, UNRECORDED_SDS = 150.0, 6.0
"""Something happens that is not in the record once in so many days, of about so many scatters (judgement)."""
MOST_OF_A_GAP = 0.1
"""The most that either of them is expected in one gap, however long."""
P_OUTLIER, OUTLIER_SDS = 0.03, 6.0
"""One reading in so many is an outlier, with so many times the scatter (judgement)."""
SCATTERS = ((0.85, 0.5), (1.0, 0.45), (1.5, 0.05))
"""Factors by which an instrument's scatter may differ from the stated one, with their probabilities (judgement: stated
scatter is rounded up)."""
START_SDS = 30.0
"""How little is known of the level before the first reading, in scatters."""
STORIES, FORGOTTEN = 60, 12.0
"""So many stories go on, and none that is less likely than the best by this logarithm."""
LEVEL, RATE, GROWS, SHIFT, OTHERS = 0, 1, 2, 3, 4
"""Places of the unknowns: level by the instrument used last, rate, trend, what came last that is not in the record, and
from there on others' offsets."""


@dataclass(frozen=True)
class Stories:
    """Every story at one moment, along the first axis of each array.

    weights: their logarithms · means, spreads: of the unknowns · scatter, wander: factor of the instrument's scatter,
    and how fast the variance of the rate grows a day · cut: the latest step, as twice the number of the gap, and one
    more where it was halfway; -1 where there was none · shift: the gap in which last something came that is not in the
    record, -1 where none · outliers: the readings that are outliers, a bit for each.
    """

    weights: Any
    means: Any
    spreads: Any
    scatter: Any
    wander: Any
    cut: Any
    shift: Any
    outliers: Any

    def chosen(self, places: Any) -> Stories:
        """Some of them, repeated where a place is."""
        return Stories(*(each[places] for each in vars(self).values()))

    @property
    def shares(self) -> Any:
        """Their probabilities."""
        shifted = np.exp(self.weights - self.weights.max())
        return shifted / shifted.sum()


@dataclass(frozen=True)
class Priors:
    """What is thought before the readings: the level, the rate by least squares (canonical a day), the scale of what
    may happen to it little by little, that of a step, and how far it may be from nothing."""

    level: float
    straight: float
    scale: float
    step_scale: float
    rate_width: float


@dataclass(frozen=True)
class Foretold:
    """What a reading was expected to be by all readings before it, with the standard deviation of what it might read,
    its instrument's own scatter counted."""

    value: float
    sd: float


def followed(readings: Sequence[Reading], gaps: Sequence[Gap], priors: Priors) -> tuple[Stories, list[Foretold]]:
    """The stories after the last reading, and what each reading was expected to be. Readings of other instruments than
    the last one's have an offset of their own that is estimated with the rest."""
    names = list(dict.fromkeys(reading.instrument for reading in reversed(readings)))
    sd = float(np.mean([reading.sd for reading in readings]))
    stories, expected = _first(priors, sd, len(names) - 1), list[Foretold]()
    for number, reading in enumerate(readings):
        sees = np.zeros(OTHERS + len(names) - 1)
        sees[LEVEL] = 1.0
        if other := names.index(reading.instrument):
            sees[OTHERS + other - 1] = 1.0
        happens = [_Happening(0.0)]
        if number:
            gap = gaps[number - 1]
            stories = _passed(stories, gap)
            happens = _happenings(gap, number - 1, STEP_WIDTH * priors.step_scale, sd, len(sees))
        expected.append(_foretold(stories, reading, sees))
        stories = _read(stories, number, reading, sees, happens)
    return stories, expected


def _foretold(stories: Stories, reading: Reading, sees: Any) -> Foretold:
    """What a sound reading is expected to be where nothing happens but what is recorded."""
    shares, values = stories.shares, stories.means @ sees
    value = float(shares @ values)
    spreads = (stories.spreads @ sees) @ sees + (reading.sd * stories.scatter) ** 2
    return Foretold(value, float(np.sqrt(shares @ (spreads + (values - value) ** 2))))


def _first(priors: Priors, sd: float, others: int) -> Stories:
    """Every way a rate may go on, with every scatter."""
    means, widths, rest = [], [], []
    for kind, likely in enumerate((STEADY, TREND, WANDERING)):
        for scatter, share in SCATTERS:
            trend = (TREND_MEAN * priors.straight, TREND_WIDTH * priors.scale) if kind == 1 else (0.0, 0.0)
            means.append([priors.level, 0.0, trend[0], 0.0, *[0.0] * others])
            widths.append([START_SDS * sd, priors.rate_width, trend[1], 0.0, *[OTHER_SDS * sd] * others])
            rest.append((log(likely * share), scatter, (WANDER * priors.scale) ** 2 if kind == 2 else 0.0))
    weights, scatters, wander = (np.array(column) for column in zip(*rest, strict=True))
    spreads = np.array([np.diag(np.square(row)) for row in widths])
    none, outliers = np.full(len(rest), -1), np.zeros(len(rest), dtype=np.int64)
    return Stories(weights, np.array(means), spreads, scatters, wander, none, none, outliers)


def _passed(stories: Stories, gap: Gap) -> Stories:
    """After the time to the next reading, with what was recorded in it."""
    size = stories.means.shape[1]
    turns = np.eye(size)
    turns[LEVEL, : GROWS + 1] = gap.kept, gap.by_rate, gap.by_trend
    turns[RATE, GROWS] = gap.days
    means = stories.means @ turns.T
    means[:, LEVEL] += gap.brought
    level, both, rate = gap.wander
    grows = np.zeros((size, size))
    grows[: RATE + 1, : RATE + 1] = (level, both), (both, rate)
    spreads = turns @ stories.spreads @ turns.T + stories.wander[:, None, None] * grows
    return replace(stories, means=means, spreads=spreads)


@dataclass(frozen=True)
class _Happening:
    """What may have happened in a gap: the logarithm of its probability, the unknowns that it moves, by one standard
    deviation of it; and the mark of its cut, or the gap of its shift."""

    likely: float
    moves: Any = None
    cut: int = -1
    shift: int = -1


def _happenings(gap: Gap, number: int, width: float, sd: float, size: int) -> list[_Happening]:
    """Nothing; a step of the rate at the beginning or halfway; something that is not in the record."""
    step = min(MOST_OF_A_GAP, gap.days / STEP_DAYS)
    unrecorded = min(MOST_OF_A_GAP, gap.days / UNRECORDED_DAYS)
    found = [_Happening(log(1 - step - unrecorded))]
    for half, moved in enumerate((gap.by_rate, gap.by_half)):
        moves = np.zeros(size)
        moves[LEVEL], moves[RATE] = moved * width, width
        found.append(_Happening(log(max(step, 1e-9) / 2), moves, 2 * number + half))
    moves = np.zeros(size)
    moves[LEVEL] = moves[SHIFT] = UNRECORDED_SDS * sd
    return [*found, _Happening(log(max(unrecorded, 1e-9)), moves, shift=number)]


def _read(stories: Stories, number: int, reading: Reading, sees: Any, happens: Sequence[_Happening]) -> Stories:
    """After a reading: every story goes on with each happening, and with the reading sound or an outlier."""
    leans = stories.spreads @ sees
    expected, off = leans @ sees, reading.value - stories.means @ sees
    rows, spreads = [], []
    for happening in happens:
        moved = 0.0 if happening.moves is None else float(happening.moves @ sees)
        for times, likely in ((1.0, 1 - P_OUTLIER), (OUTLIER_SDS, P_OUTLIER)):
            spread = expected + moved**2 + (reading.sd * stories.scatter * times) ** 2
            spreads.append(spread)
            rows.append(stories.weights + happening.likely + log(likely) - (np.log(spread) + off**2 / spread) / 2)
    weights = np.array(rows).ravel()
    best = np.argsort(-weights, kind="stable")[:STORIES]
    best = best[weights[best] > weights[best[0]] - FORGOTTEN]
    way, place = np.divmod(best, len(off))
    going = replace(stories.chosen(place), weights=weights[best] - weights[best[0]])
    going, leans = _moved(going, leans[place], sees, [happens[each] for each in way // 2])
    gain = leans / np.array(spreads)[way, place][:, None]
    means = going.means + gain * off[place][:, None]
    spread = going.spreads - gain[:, :, None] * leans[:, None, :]
    outliers = going.outliers | ((way % 2).astype(np.int64) << number)
    return replace(going, means=means, spreads=spread, outliers=outliers)


def _moved(stories: Stories, leans: Any, sees: Any, happened: Sequence[_Happening]) -> tuple[Stories, Any]:
    """With what happened in each of them; and how the unknowns then lean on what is seen."""
    nothing = np.zeros_like(sees)
    moves = np.array([nothing if each.moves is None else each.moves for each in happened])
    cut, shift = (np.array([getattr(each, part) for each in happened]) for part in ("cut", "shift"))
    means, spreads, leans = stories.means.copy(), stories.spreads.copy(), leans.copy()
    # What is new that came is not what came before it.
    new = shift >= 0
    means[new, SHIFT] = spreads[new, SHIFT] = leans[new, SHIFT] = 0.0
    spreads[new, :, SHIFT] = 0.0
    spreads = spreads + moves[:, :, None] * moves[:, None, :]
    going = replace(
        stories, means=means, spreads=spreads, cut=np.where(cut >= 0, cut, stories.cut),
        shift=np.where(new, shift, stories.shift),
    )  # fmt: skip
    return going, leans + moves * (moves @ sees)[:, None]
