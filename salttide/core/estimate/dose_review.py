"""Review of the daily dose: whether it still replaces the uptake, what would, and how to ease a level back to
target."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from math import ceil

from ..basics.errors import check_range
from ..ledger.verdict import REAL_SDS
from ..science.sizing import DayLimit
from ..science.units import DKH_PER_MEQ_L
from .rate import Rate

UNFIT = 0.975
"""From this probability of giving too much, or too little, a dose is called unfit (judgement): outside of the interval
that holds the uptake in 95 %."""
LEAST_A_WEEK = 0.3 / DKH_PER_MEQ_L
"""And from this effect on (meq/L a week, judgement): 0.3 dKH, what a kit can just tell."""
EASE_DAYS = 7
"""Days in which a level that is a little off is brought back by the daily dose itself (judgement)."""


class Fit(StrEnum):
    """How the daily supply compares with the interval of the uptake."""

    FITS = "fits"
    SHORT = "short"
    OVER = "over"
    UNKNOWN = "unknown"


@dataclass(frozen=True)
class Review:
    """uptake, low, high: estimated from the record · comes: supplied by doses and changes · proposed: the dose that
    would replace the uptake. All canonical a day; uptake 0 and Fit.UNKNOWN where it cannot be estimated."""

    fit: Fit
    uptake: float
    low: float
    high: float
    comes: float
    proposed: float


def review_dose(rate: Rate | None, dosed: float, changes_bring: float = 0.0) -> Review:
    """Whether a daily dose of alkalinity, with what changes supply (canonical a day), replaces the uptake. Where it may
    be right, or where a week of it hardly matters, nothing is proposed; else the uptake itself is.
    """
    check_range("dosed a day", dosed, "", 0, 1e5)
    check_range("what changes bring a day", changes_bring, "", -1e5, 1e5)
    comes = dosed + changes_bring
    if rate is None:
        return Review(Fit.UNKNOWN, 0.0, 0.0, 0.0, comes, dosed)
    uptake, low, high = -rate.per_day, -rate.high, -rate.low
    over = 1 - rate.share_below(-comes)
    if max(over, 1 - over) < UNFIT or 7 * abs(uptake - comes) < LEAST_A_WEEK:
        return Review(Fit.FITS, uptake, low, high, comes, dosed)
    fit = Fit.OVER if over > 0.5 else Fit.SHORT
    return Review(fit, uptake, low, high, comes, max(0.0, uptake - changes_bring))


def dose_words(found: Review, speed: Callable[[float], str]) -> str:
    """A review in one sentence; `speed` writes an amount a day."""
    comes, uptake = speed(found.comes), speed(found.uptake)
    within = found.low <= found.comes <= found.high
    return {
        Fit.UNKNOWN: "Test alkalinity four times over a week or more, with one kit, to know the uptake.",
        Fit.FITS: f"{comes} a day comes in, within the range of what is used: leave it."
        if within
        else f"{comes} a day comes in and about {uptake} is used up: too little between them to change anything yet.",
        Fit.SHORT: f"You add {comes} a day but {uptake} is used up, so it is falling.",
        Fit.OVER: f"You add {comes} a day but only {uptake} is used up, so it is rising.",
    }[found.fit]


MAX_EASE_DAYS = 60


@dataclass(frozen=True)
class CatchUpDose:
    """A daily dose for some days that brings the level back to target, canonical a day; after that, the routine."""

    dose: float
    days: int
    moves: float


def is_off(level: float, sd: float, target: float) -> bool:
    """Whether a level is off its target by more than its own scatter explains.

    >>> is_off(2.9, 0.03, 3.0), is_off(2.97, 0.03, 3.0)
    (True, False)
    """
    check_range("level", level, "", -1e5, 1e5)
    check_range("scatter", sd, "", 0, 1e5)
    return abs(level - check_range("target", target, "", -1e5, 1e5)) > REAL_SDS * sd


def ease_back(level: float, target: float, dose: float, limit: DayLimit) -> CatchUpDose:
    """The daily dose that brings a level to its target within a week, or as many days as the limit asks.

    dose: what holds the level (canonical a day); never below 0: then it takes as long as the uptake takes.

    >>> ease = ease_back(2.8, 2.94, 0.1, DayLimit(0.36, 0.36))
    >>> round(ease.dose, 2), ease.days
    (0.12, 7)
    """
    for name, value in (("level", level), ("target", target)):
        check_range(name, value, "", -1e5, 1e5)
    check_range("dose", dose, "a day", 0, 1e5)
    off = target - level
    days = max(EASE_DAYS, ceil(abs(off) / (limit.up if off > 0 else limit.down) - 1e-9))
    wanted = dose + off / days
    if wanted >= 0:
        return CatchUpDose(wanted, days, off)
    rest = min(MAX_EASE_DAYS, ceil(min(-off / dose, MAX_EASE_DAYS) - 1e-9)) if dose else MAX_EASE_DAYS
    return CatchUpDose(0.0, rest, -dose * rest)
