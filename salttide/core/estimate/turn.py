"""A turn: the moment from which on a system uses or makes more, or less, of something than before."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache
from math import sqrt
from typing import Any

from ..basics.lazy import LazyModule
from ..ledger.entries import Ledger, Reading
from ..science.parameters import Parameter
from .gaps import Gap, gaps_of
from .rate import KEPT, MIN_READINGS, MIN_SPAN, spread_out

np: Any = LazyModule("numpy")

TURN_WINDOW = timedelta(days=84)
"""Readings that a turn is looked for in (judgement)."""
LATEST, EARLIEST = timedelta(days=4), timedelta(days=28)
"""So long ago a turn may be at the latest and at the earliest (judgement): two tests have to follow it, and what was
long ago is no news."""
AFTER = 2
TURN_SDS = 3.0
"""The rates before and after differ by more than this many deviations; strict, for many moments are tried
(judgement: in trials of a tank in which nothing moves, a turn is seen once in three years)."""
WITHOUT_SDS = 0.5
"""And still by so many whichever one reading is left out since then: one bad result is no turn (judgement)."""


@dataclass(frozen=True)
class Turn:
    """When, the rates before and after (canonical a day), and how many readings each rests on."""

    at: datetime
    before: float
    after: float
    counts: tuple[int, int]


def turn_of(ledger: Ledger, parameter: Parameter, now: datetime) -> Turn | None:
    """The clearest turn of the last four weeks; None where the rate is as it was, or only scatters.

    A line that bends at one of the readings is laid through the mass balance by least squares, with all doses and
    changes taken off; it does not break: what comes all at once is something else. Readings of the instrument used last
    count. Source: weighted least squares; the test of one more unknown is that of its estimate against its deviation.
    """
    readings = _series(ledger, parameter, now)
    if len(readings) < MIN_READINGS + AFTER:
        return None
    return _turn(tuple(readings), gaps_of(readings, ledger, parameter))


@lru_cache(maxsize=KEPT)
def _turn(readings: tuple[Reading, ...], gaps: tuple[Gap, ...]) -> Turn | None:
    """What was looked at before is remembered."""
    bends = [_bend(readings, gaps, cut) for cut in _cuts(readings)]
    best = max(bends, key=lambda bend: bend.strength, default=None)
    if best is None or best.strength <= TURN_SDS or best.weakest <= WITHOUT_SDS:
        return None
    before, by = best.rates
    return Turn(readings[best.cut].at, before, before + by, (best.cut + 1, len(readings) - best.cut - 1))


def _series(ledger: Ledger, parameter: Parameter, now: datetime) -> list[Reading]:
    within = [reading for reading in ledger.of(parameter) if now - TURN_WINDOW <= reading.at <= now]
    return spread_out([reading for reading in within if reading.instrument == within[-1].instrument])


def _cuts(readings: Sequence[Reading]) -> list[int]:
    """The readings at which it may have turned: with enough before and after them."""
    first, last = readings[0].at, readings[-1].at
    return [
        cut
        for cut in range(MIN_READINGS - 1, len(readings) - AFTER)
        if readings[cut].at - first >= MIN_SPAN and LATEST <= last - readings[cut].at <= EARLIEST
    ]


@dataclass(frozen=True)
class _Bend:
    """A line that bends at a reading: the rate before, and how much is added after; by how many deviations that is more
    than nothing, and at least by how many without one of the readings since."""

    cut: int
    rates: tuple[float, float]
    strength: float
    weakest: float


def _bend(readings: Sequence[Reading], gaps: Sequence[Gap], cut: int) -> _Bend:
    known, start, rate, after, rows = 0.0, 1.0, 0.0, 0.0, [(0.0, 1.0, 0.0, 0.0)]
    for number, gap in enumerate(gaps):
        known, start = gap.kept * known + gap.brought, gap.kept * start
        rate = gap.kept * rate + gap.by_rate
        after = gap.kept * after + (gap.by_rate if number >= cut else 0.0)
        rows.append((known, start, rate, after))
    table, sds = np.array(rows), np.array([reading.sd for reading in readings])
    wanted = (np.array([reading.value for reading in readings]) - table[:, 0]) / sds
    design = table[:, 1:] / sds[:, None]
    fit, deviation = _fitted(design, wanted)
    left = wanted - design @ fit
    # Scatter is the larger of what is stated and what is seen.
    deviation *= max(1.0, sqrt(float(left @ left) / max(1, len(readings) - 3)))
    strength = float(fit[2]) / deviation
    sign = 1.0 if strength > 0 else -1.0
    return _Bend(cut, (float(fit[1]), float(fit[2])), abs(strength), _weakest(design, wanted, cut, sign))


def _weakest(design: Any, wanted: Any, cut: int, sign: float) -> float:
    """The least of the strengths without one of the readings since the cut, in its direction."""
    found = []
    for number in range(cut + 1, len(wanted)):
        rest = np.arange(len(wanted)) != number
        fit, deviation = _fitted(design[rest], wanted[rest])
        found.append(sign * float(fit[2]) / deviation)
    return min(found)


def _fitted(design: Any, wanted: Any) -> tuple[Any, float]:
    """The unknowns, and the deviation of the last one."""
    covariance = np.linalg.inv(design.T @ design)
    return covariance @ (design.T @ wanted), sqrt(float(covariance[-1, -1]))
