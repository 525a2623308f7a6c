"""The rate of a parameter: what the system does to it a day, estimated from scattered readings with events between.

Several stories may explain the same readings (`stories`): a steady rate, one with a trend, one that wanders; steps, and
doses or changes that nobody wrote down; outliers, and an instrument that scatters more than was stated. The answer is
their mean, weighted by how well each explains the readings: no story has to be chosen.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from functools import lru_cache
from math import pi, sqrt
from typing import Any

from ..basics.lazy import LazyModule
from ..ledger.entries import Ledger, Reading
from ..ledger.verdict import EXPECTED_SDS, OTHER_SDS
from ..science.parameters import FACTS, Parameter
from .gaps import Gap, gaps_of
from .stories import GROWS, LEVEL, OTHERS, RATE, SHIFT, Foretold, Priors, Stories, followed

np: Any = LazyModule("numpy")

WINDOW = timedelta(days=70)
MIN_READINGS = 4
MIN_SPAN = timedelta(days=6)
MAX_READINGS = 24
"""The most readings used; where there are more, evenly spaced ones stand for them."""

KEPT = 1024
"""So many estimates are remembered: those of some fifty systems."""

INSTRUMENTS = 4
"""The most instruments whose readings are used: the last one's, and of the others those with the most readings."""
BUSY: Mapping[Parameter, float] = {
    Parameter.SALINITY: 0.2,
    Parameter.ALKALINITY: 0.2,
    Parameter.CALCIUM: 5.0,
    Parameter.MAGNESIUM: 3.0,
    Parameter.NITRATE: 1.5,
    Parameter.PHOSPHATE: 0.015,
}
"""Typical own rates of a busy system, canonical unit a day; others: half a scatter (judgement)."""
MIN_SHARE, MIN_STEP_SHARE = 0.05, 0.2
"""The least shares of a busy system's rate that trend and wandering, and that steps are scaled by (judgement): where
little goes, a step can still be large."""
TOO_FAR, LOOKS = 1.5, 3
"""A reading further off a straight line than so many scatters pulls it less; looked at so many times."""
MARGIN = 0.8
"""The probability that the interval holds."""
SURE_UNRECORDED = 0.8
"""From this probability the keeper is asked what came that is not in the record (judgement)."""
SURE_OF_A_STEP = 0.85
"""From this probability, a step in the rate is mentioned."""
SURE = 0.97725
"""From this probability a direction is taken for real: what lies below two standard deviations of a normal
distribution."""


@dataclass(frozen=True)
class Unrecorded:
    """Something that moved the level between two readings, `since` and `until`, and is not in the record: by how much
    (canonical), its standard deviation, and how likely it is that anything did."""

    since: Reading
    until: Reading
    size: float
    sd: float
    share: float


@dataclass(frozen=True)
class Account:
    """What the readings say of themselves: each with what was expected of it and the probability that it is an outlier;
    what came unrecorded, if anything; the factor of the stated scatter, with its standard deviation; and by how much
    other instruments read above the last one (canonical), each with its standard deviation; and how the rate goes on,
    each way with its probability."""

    readings: Sequence[Reading]
    foretold: Sequence[Foretold]
    outliers: Sequence[float]
    unrecorded: Unrecorded | None
    scatter: float
    scatter_sd: float
    offsets: Mapping[str, tuple[float, float]]
    ways: Mapping[str, float]


@dataclass(frozen=True)
class Rate:
    """A parameter's own rate (canonical unit/day), with its 80 % interval.

    level: what it was at the last reading, smoothed, with its standard deviation · together: covariance of level and
    rate · step: the probability that the rate took a step within the readings, and the likeliest moment of it · count:
    readings it was estimated from · parts: share, rate and deviation of every story · account: what the readings say
    of themselves.
    """

    per_day: float
    sd: float
    low: float
    high: float
    level: float
    level_sd: float
    together: float
    step: float
    stepped_at: datetime | None
    count: int
    since: datetime
    until: datetime
    parts: tuple[Any, Any, Any] | None = field(default=None, compare=False, repr=False)
    account: Account | None = field(default=None, compare=False, repr=False)

    @property
    def real(self) -> bool:
        """Whether it is surely not zero."""
        return self.moves_with(0.0)

    @property
    def wide(self) -> float:
        """The standard deviation of the normal distribution whose 80 % lie within the same interval: that of the rate
        itself is larger where some unlikely story lies far off."""
        return (self.high - self.low) / (2 * EXPECTED_SDS)

    def moves_with(self, added: float) -> bool:
        """Whether the level surely rises or surely falls with so much a day added by doses: as surely as two standard
        deviations make it where a normal distribution holds."""
        below = self.share_below(-added)
        return max(below, 1 - below) > SURE

    def share_below(self, rate: float) -> float:
        """The probability that it is below a rate, by all stories; by its deviation where they are not kept."""
        if self.parts is None:
            return float(normal_share((rate - self.per_day) / self.sd)) if self.sd else float(rate > self.per_day)
        shares, rates, sds = self.parts
        return float(shares @ normal_share((rate - rates) / sds))

    def ahead(self, days: float) -> tuple[float, float]:
        """The level some days after the last reading if nothing is done, and its standard deviation."""
        variance = self.level_sd**2 + (days * self.sd) ** 2 + 2 * days * self.together
        return self.level + days * self.per_day, sqrt(max(variance, 0.0))


def rate_of(ledger: Ledger, parameter: Parameter, now: datetime) -> Rate | None:
    """The rate up to `now`, at the level by the instrument used last; None where four readings over six days are not
    there yet. Readings of other instruments count, with an offset that is estimated.

    Doses, the daily dose included, and changes are taken off: for alkalinity it is the uptake, below zero. Source: the
    mass balance between readings is exact (see `balance.effect`); for the rest see `stories`.

    >>> noon = datetime(2026, 11, 24, 12)
    >>> made = [(42 - 7 * week, 3.0 - 0.35 * week) for week in range(7)]
    >>> readings = [Reading(noon - timedelta(days=d), Parameter.ALKALINITY, v, 0.02, "kit") for d, v in made]
    >>> round(rate_of(Ledger(100.0, readings), Parameter.ALKALINITY, noon).per_day, 2)
    -0.05
    """
    readings = _series(ledger.of(parameter), now)
    if len(readings) < MIN_READINGS or readings[-1].at - readings[0].at < MIN_SPAN:
        return None
    return _estimate(parameter, tuple(readings), gaps_of(readings, ledger, parameter))


def _series(readings: list[Reading], now: datetime) -> list[Reading]:
    within = [reading for reading in readings if now - WINDOW <= reading.at <= now]
    counts = Counter(reading.instrument for reading in within)
    others = [name for name, _ in counts.most_common() if name != within[-1].instrument]
    used = [*others[: INSTRUMENTS - 1], *(reading.instrument for reading in within[-1:])]
    return spread_out([reading for reading in within if reading.instrument in used])


def spread_out(readings: list[Reading]) -> list[Reading]:
    """The readings, or where there are very many, as many evenly spaced ones as are used."""
    if len(readings) <= MAX_READINGS:
        return readings
    step = (len(readings) - 1) / (MAX_READINGS - 1)
    return [readings[round(index * step)] for index in range(MAX_READINGS)]


@lru_cache(maxsize=KEPT)
def _estimate(parameter: Parameter, readings: tuple[Reading, ...], gaps: tuple[Gap, ...]) -> Rate:
    """Follow every story and mix them; what was estimated from the same is remembered."""
    busy = BUSY.get(parameter, FACTS[parameter].sd / 2)
    straight = _straight(readings, gaps)
    scale = max(MIN_SHARE * busy, abs(straight))
    step_scale = max(MIN_STEP_SHARE * busy, abs(straight))
    priors = Priors(readings[0].value, straight, scale, step_scale, max(busy, 2 * abs(straight)))
    return _answer(readings, *followed(readings, gaps, priors))


def _straight(readings: Sequence[Reading], gaps: Sequence[Gap]) -> float:
    """The rate by least squares, the scale of all that may happen to it. Readings that are far off pull less.

    Source: Huber 1964, Robust estimation of a location parameter.
    """
    names = list(dict.fromkeys(reading.instrument for reading in reversed(readings)))
    sds = np.array([reading.sd for reading in readings])
    start, rate, known, rows = 1.0, 0.0, 0.0, [(1.0, 0.0)]
    left = [readings[0].value]
    for gap, reading in zip(gaps, readings[1:], strict=True):
        start, rate = gap.kept * start, gap.kept * rate + gap.by_rate
        known = gap.kept * known + gap.brought
        rows.append((start, rate))
        left.append(reading.value - known)
    offsets = np.array([[name == reading.instrument for name in names[1:]] for reading in readings], dtype=float)
    design = np.hstack([np.array(rows), offsets.reshape(len(readings), -1)]) / sds[:, None]
    # What is thought of the offsets stands beside the readings.
    held = np.hstack([np.zeros((len(names) - 1, 2)), np.eye(len(names) - 1) / (OTHER_SDS * float(sds.mean()))])
    design = np.vstack([design, held])
    wanted = np.concatenate([np.array(left) / sds, np.zeros(len(names) - 1)])
    pulls = np.ones(len(wanted))
    for _ in range(LOOKS):
        fit = np.linalg.lstsq(design * pulls[:, None], wanted * pulls, rcond=None)[0]
        far = np.abs(wanted - design @ fit) / TOO_FAR
        pulls = np.sqrt(1 / np.maximum(far, 1.0))
    return float(fit[1])


def _answer(readings: Sequence[Reading], stories: Stories, foretold: Sequence[Foretold]) -> Rate:
    """One answer from all stories: means, spreads and the interval of their mixture."""
    shares, rates, levels = stories.shares, stories.means[:, RATE], stories.means[:, LEVEL]
    per_day, level = float(shares @ rates), float(shares @ levels)
    spreads = stories.spreads[:, RATE, RATE]
    spread = float(shares @ (spreads + (rates - per_day) ** 2))
    level_spread = float(shares @ (stories.spreads[:, LEVEL, LEVEL] + (levels - level) ** 2))
    together = float(shares @ (stories.spreads[:, RATE, LEVEL] + (rates - per_day) * (levels - level)))
    low, high = _quantiles(shares, rates, np.sqrt(spreads), ((1 - MARGIN) / 2, (1 + MARGIN) / 2))
    cuts = {int(cut): float(shares[stories.cut == cut].sum()) for cut in np.unique(stories.cut) if cut >= 0}
    at = _moment(readings, max(cuts, key=lambda cut: cuts[cut])) if cuts else None
    return Rate(
        per_day, sqrt(spread), low, high, level, sqrt(level_spread), together,
        sum(cuts.values()), at, len(readings), readings[0].at, readings[-1].at,
        (shares, rates, np.sqrt(spreads)), _account(readings, stories, foretold),
    )  # fmt: skip


def _account(readings: Sequence[Reading], stories: Stories, foretold: Sequence[Foretold]) -> Account:
    """What all stories say of the readings themselves."""
    shares = stories.shares
    outliers = [float(shares[(stories.outliers >> number) & 1 == 1].sum()) for number in range(len(readings))]
    scatter = float(shares @ stories.scatter)
    others = list(dict.fromkeys(reading.instrument for reading in reversed(readings)))[1:]
    offsets = {name: _mixed(shares, stories, OTHERS + place) for place, name in enumerate(others)}
    wanders = stories.wander > 0
    grows = ~wanders & (stories.spreads[:, GROWS, GROWS] > 0)
    ways = {"wanders": wanders, "changes little by little": grows, "is steady": ~wanders & ~grows}
    return Account(
        readings, foretold, outliers, _unrecorded(readings, stories),
        scatter, sqrt(float(shares @ (stories.scatter - scatter) ** 2)), offsets,
        {way: float(shares[those].sum()) for way, those in ways.items()},
    )  # fmt: skip


def _unrecorded(readings: Sequence[Reading], stories: Stories) -> Unrecorded | None:
    """What came last that is not in the record: in the likeliest gap, or the likeliest two in a row where one alone is
    not sure enough."""
    known, shares = stories.shift >= 0, stories.shares
    if not known.any():
        return None
    by_gap = np.bincount(stories.shift[known], shares[known], len(readings))
    first = last = int(by_gap.argmax())
    if by_gap[first] < SURE_UNRECORDED:
        first = int((by_gap[:-1] + by_gap[1:]).argmax())
        last = first + 1
    within = (stories.shift >= first) & (stories.shift <= last)
    share = float(shares[within].sum())
    size, sd = _mixed(np.where(within, shares, 0.0) / share, stories, SHIFT)
    return Unrecorded(readings[first], readings[min(last + 1, len(readings) - 1)], size, sd, share)


def _mixed(shares: Any, stories: Stories, place: int) -> tuple[float, float]:
    """Mean and standard deviation of one unknown over stories."""
    means = stories.means[:, place]
    mean = float(shares @ means)
    return mean, sqrt(max(0.0, float(shares @ (stories.spreads[:, place, place] + (means - mean) ** 2))))


def _moment(readings: Sequence[Reading], cut: int) -> datetime:
    """When a step was: at a reading, or halfway to the next."""
    number, half = divmod(cut, 2)
    before, after = readings[number].at, readings[number + 1].at
    return before + (after - before) / 2 if half else before


def _quantiles(shares: Any, centres: Any, sds: Any, wanted: Sequence[float]) -> list[float]:
    """Quantiles of a mixture of normal distributions, by bisection."""
    telling = shares > 1e-3 * shares.max()
    shares, centres, sds = shares[telling] / shares[telling].sum(), centres[telling], sds[telling]
    found = []
    for share in wanted:
        low, high = float((centres - 6 * sds).min()), float((centres + 6 * sds).max())
        for _ in range(36):
            middle = (low + high) / 2
            left = float((shares * normal_share((middle - centres) / sds)).sum())
            low, high = (middle, high) if left < share else (low, middle)
        found.append((low + high) / 2)
    return found


def normal_share(deviations: Any) -> Any:
    """The share of a normal distribution below `z` standard deviations, to 1e-7.

    Source: Abramowitz and Stegun 1964, 26.2.17.
    """
    size = np.abs(deviations)
    t = 1 / (1 + 0.2316419 * size)
    series = t * (0.319381530 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
    above = np.exp(-(size**2) / 2) / sqrt(2 * pi) * series
    return np.where(np.asarray(deviations) > 0, 1 - above, above)
