"""The rate of a parameter: what the system does to it a day, estimated from scattered readings with events between.

Several stories may explain the same readings: a steady rate, a growing one, a step between two readings; in each
of them one reading may be an outlier, and the instrument may scatter more than was stated. Each story is linear in its
few unknowns, so its best fit and its evidence are exact (Bayesian linear regression with Gaussian priors). The answer
is their mean, weighted by evidence: no story has to be chosen, and an outlier cannot carry it away.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from math import pi, sqrt
from typing import Any

from ..basics.lazy import LazyModule
from ..ledger.balance import effect_in
from ..ledger.entries import Ledger, Reading
from ..science.parameters import FACTS, Parameter

np: Any = LazyModule("numpy")

WINDOW = timedelta(days=70)
MIN_READINGS = 4
MIN_SPAN = timedelta(days=6)
MAX_READINGS = 24
"""The most readings used; where there are more, evenly spaced ones stand for them."""

P_STEP, P_GROWTH, P_OUTLIER = 0.5, 0.4, 0.03
"""Prior probabilities of a step, of growth and of an outlier (judgement)."""
OUTLIER_SDS = 6.0
SCATTERS = ((0.85, 0.5), (1.0, 0.45), (1.5, 0.05))
"""Factors by which an instrument's scatter may differ from the stated one, with their probabilities (judgement: stated
scatter is rounded up)."""
BUSY: Mapping[Parameter, float] = {
    Parameter.SALINITY: 0.2,
    Parameter.ALKALINITY: 0.2,
    Parameter.CALCIUM: 5.0,
    Parameter.MAGNESIUM: 3.0,
    Parameter.NITRATE: 1.5,
    Parameter.PHOSPHATE: 0.015,
}
"""Typical own rates of a busy system, canonical unit a day; others: half a scatter (judgement)."""
STEP_WIDTH, GROWTH_MEAN, GROWTH_WIDTH = 0.6, 0.006, 0.004
"""The width of a step, and mean and width of growth a day, in shares of the rate itself (judgement): what grows uses
more with time, about a fifth more in a month."""
MIN_SHARE = 0.05
"""The least share of a busy system's rate that steps and growth are scaled by."""
MARGIN = 0.8
"""The probability that the interval holds."""


@dataclass(frozen=True)
class Pace:
    """A parameter's own rate (canonical unit/day), with its 80 % interval.

    level: what it was at the last reading, smoothed, with its standard deviation · together: covariance of level and
    pace · step: the probability that the rate took a step within the readings, and the likeliest moment of it · count:
    readings it was estimated from.
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

    @property
    def real(self) -> bool:
        """Whether it exceeds twice its own standard deviation."""
        return abs(self.per_day) > 2 * self.sd

    def ahead(self, days: float) -> tuple[float, float]:
        """The level some days after the last reading if nothing is done, and its standard deviation."""
        variance = self.level_sd**2 + (days * self.sd) ** 2 + 2 * days * self.together
        return self.level + days * self.per_day, sqrt(max(variance, 0.0))


def pace_of(ledger: Ledger, parameter: Parameter, now: datetime) -> Pace | None:
    """The rate up to `now`, by the instrument used last; None where four readings over six days are not there yet.

    Doses, the daily dose included, and changes are taken off: for alkalinity it is the uptake, below zero. Source: the
    mass balance between readings is exact (see `balance.effect`); regression and evidence after Bishop 2006, Pattern
    Recognition and Machine Learning, equations 3.49 to 3.54 and 3.86.

    >>> noon = datetime(2026, 11, 24, 12)
    >>> made = [(42 - 7 * week, 3.0 - 0.35 * week) for week in range(7)]
    >>> readings = [Reading(noon - timedelta(days=d), Parameter.ALKALINITY, v, 0.02, "kit") for d, v in made]
    >>> round(pace_of(Ledger(100.0, readings), Parameter.ALKALINITY, noon).per_day, 2)
    -0.05
    """
    readings = _series(ledger.of(parameter), now)
    if len(readings) < MIN_READINGS or readings[-1].at - readings[0].at < MIN_SPAN:
        return None
    key = (parameter, readings[0].id, readings[-1].id, readings[0].at, readings[-1].at)
    if key not in ledger.cache:
        ledger.cache[key] = _estimate(readings, ledger, parameter)
    found: Pace = ledger.cache[key]
    return found


def _series(readings: list[Reading], now: datetime) -> list[Reading]:
    if not readings:
        return []
    instrument = readings[-1].instrument
    found = [r for r in readings if r.instrument == instrument and now - WINDOW <= r.at <= now]
    if len(found) <= MAX_READINGS:
        return found
    step = (len(found) - 1) / (MAX_READINGS - 1)
    return [found[round(index * step)] for index in range(MAX_READINGS)]


@dataclass(frozen=True)
class _Stories:
    """All stories: prior, width of the extra term, row of its shape, and moment of its step."""

    prior: Any
    width: Any
    shape: Any
    cuts: Sequence[datetime]


def _stories(readings: Sequence[Reading]) -> _Stories:
    """Steady (shape 0); growing towards today (1); a step at or halfway between any two inner readings (2 and on)."""
    inner = [reading.at for reading in readings[1:-1]]
    cuts = sorted({*inner, *(before + (after - before) / 2 for before, after in pairwise(inner))})
    rows = [(1 - P_STEP - P_GROWTH, 1e-9, 0), (P_GROWTH, GROWTH_WIDTH, 1)]
    rows += [(P_STEP / len(cuts), STEP_WIDTH, 2 + index) for index in range(len(cuts))]
    prior, width, shape = (np.array(column) for column in zip(*rows, strict=True))
    return _Stories(prior, width, shape, cuts)


def _days(a: datetime, b: datetime) -> float:
    return (b - a) / timedelta(days=1)


def _rows(
    readings: Sequence[Reading], ledger: Ledger, parameter: Parameter, cuts: Sequence[datetime]
) -> tuple[Any, Any]:
    """The known part of each reading, and its dependence on start, pace, and the earlier rate, by shape."""
    first, last = readings[0].at, _days(readings[0].at, readings[-1].at)
    events = [event for event in ledger.events(parameter, routine=True) if first <= event.at <= readings[-1].at]
    moments = sorted([*readings, *events], key=lambda moment: (moment.at, moment.id))
    ends = np.array([_days(first, cut) for cut in cuts])
    known, start, days, earlier, at = 0.0, 1.0, 0.0, np.zeros(2 + len(cuts)), 0.0
    knowns, rows = list[float](), []
    for moment in moments:
        to = _days(first, moment.at)
        days += to - at
        earlier[1] -= (to - at) * (last - to + last - at) / 2
        earlier[2:] += np.clip(np.minimum(to, ends) - at, 0.0, None)
        at = to
        if isinstance(moment, Reading):
            knowns.append(known)
            rows.append(np.stack([np.full_like(earlier, start), np.full_like(earlier, days), earlier], axis=1))
        elif rows:
            found = effect_in(ledger, parameter, moment)
            known, start, days = found.on(known), start * found.kept, days * found.kept
            earlier = earlier * found.kept
    return np.array(knowns), np.array(rows).transpose(1, 0, 2)


def _estimate(readings: Sequence[Reading], ledger: Ledger, parameter: Parameter) -> Pace:
    """Fit every story and mix them."""
    unit = FACTS[parameter].sd
    busy = BUSY.get(parameter, unit / 2)
    stories = _stories(readings)
    knowns, shapes = _rows(readings, ledger, parameter, stories.cuts)
    design = shapes[stories.shape]  # story, reading, unknown
    values = np.array([reading.value for reading in readings])
    middle = float(values.mean())
    measured = values - knowns - middle * design[0, :, 0]  # the prior of the start is centred on the readings
    inverse, prior = _noise(readings)
    straight = _straight(design[0], measured, inverse[0])
    scale = max(MIN_SHARE * busy, abs(straight))
    start = np.full_like(stories.width, max(20 * unit, 3 * middle))
    widths = np.stack([start, np.full_like(start, busy), stories.width * scale], axis=1)
    towards = np.zeros_like(widths)
    towards[stories.shape == 1, 2] = GROWTH_MEAN * straight
    means, covariances, evidence = _fits(design, measured, inverse, widths, towards)
    weights = _weights(evidence + np.log(stories.prior)[:, None] + np.log(prior))
    ends = design[:, -1, :]
    levels = np.einsum("ka,kja->kj", ends, means) + knowns[-1] + middle * ends[0, 0]
    towards = np.einsum("ka,kjab->kjb", ends, covariances)
    level_spreads = np.einsum("kjb,kb->kj", towards, ends)
    mixed = _Mixture(weights, means[..., 1], covariances[..., 1, 1], levels, level_spreads, towards[..., 1])
    return _answer(readings, stories, mixed)


def _straight(design: Any, measured: Any, inverse: Any) -> float:
    """The rate by least squares, the scale of steps and growth."""
    weight = np.sqrt(inverse)
    fit = np.linalg.lstsq(design[:, :2] * weight[:, None], measured * weight, rcond=None)
    return float(fit[0][1])


def _noise(readings: Sequence[Reading]) -> tuple[Any, Any]:
    """Inverse variances of the readings and how likely they are, by scatter and by which one is an outlier."""
    sds = np.array([reading.sd for reading in readings])
    count = len(readings)
    stretched = 1 + (OUTLIER_SDS - 1) * np.eye(count + 1, count, -1)  # no outlier first, then each reading in turn
    likely = np.array([1 - P_OUTLIER, *[P_OUTLIER / count] * count])
    inverse = [1 / (sds * stretch * stretched) ** 2 for stretch, _ in SCATTERS]
    return np.concatenate(inverse), np.concatenate([share * likely for _, share in SCATTERS])


def _fits(design: Any, measured: Any, inverse: Any, widths: Any, towards: Any) -> tuple[Any, Any, Any]:
    """Posterior mean, covariance and log evidence of every story (first axis) under every noise (second)."""
    count = design.shape[1]
    squared = (design[:, :, :, None] * design[:, :, None, :]).reshape(-1, count, 9)
    precision = np.matmul(inverse, squared).reshape(len(design), len(inverse), 3, 3)
    precision += (np.eye(3) / widths[:, None, :] ** 2)[:, None]
    pulled = np.matmul(inverse, design * measured[:, None]) + (towards / widths**2)[:, None]
    covariances = np.linalg.inv(precision)
    means = np.einsum("kjab,kjb->kja", covariances, pulled)
    held = ((towards / widths) ** 2).sum(axis=1)[:, None]
    squares = inverse @ measured**2 + held - (pulled * means).sum(axis=2)
    sizes = -np.log(np.linalg.det(covariances)) + 2 * np.log(widths).sum(axis=1)[:, None]
    return means, covariances, (np.log(inverse).sum(axis=1) - sizes - squares) / 2


def _weights(logs: Any) -> Any:
    shifted = np.exp(logs - logs.max())
    return shifted / shifted.sum()


@dataclass(frozen=True)
class _Mixture:
    """Every story under every noise: its weight, its rate and level with their variances, and their covariance."""

    weights: Any
    paces: Any
    spreads: Any
    levels: Any
    level_spreads: Any
    both: Any


def _answer(readings: Sequence[Reading], stories: _Stories, of: _Mixture) -> Pace:
    """One answer from all stories: means, spreads and the interval of their mixture."""
    per_day, level = float((of.weights * of.paces).sum()), float((of.weights * of.levels).sum())
    spread = float((of.weights * (of.spreads + (of.paces - per_day) ** 2)).sum())
    level_spread = float((of.weights * (of.level_spreads + (of.levels - level) ** 2)).sum())
    together = float((of.weights * (of.both + (of.paces - per_day) * (of.levels - level))).sum())
    low, high = _quantiles(of, ((1 - MARGIN) / 2, (1 + MARGIN) / 2))
    by_story = of.weights.sum(axis=1)
    by_cut = [float(by_story[stories.shape == 2 + index].sum()) for index in range(len(stories.cuts))]
    return Pace(
        per_day, sqrt(spread), low, high, level, sqrt(level_spread), together,
        sum(by_cut), stories.cuts[by_cut.index(max(by_cut))], len(readings), readings[0].at, readings[-1].at,
    )  # fmt: skip


def _quantiles(of: _Mixture, shares: Sequence[float]) -> list[float]:
    """A quantile of the mixture of rates, by bisection."""
    telling = of.weights > 1e-3 * of.weights.max()
    weights, centres, sds = of.weights[telling], of.paces[telling], np.sqrt(of.spreads[telling])
    weights = weights / weights.sum()
    found = []
    for share in shares:
        low, high = float((centres - 6 * sds).min()), float((centres + 6 * sds).max())
        for _ in range(36):
            middle = (low + high) / 2
            left = float((weights * normal_share((middle - centres) / sds)).sum())
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
