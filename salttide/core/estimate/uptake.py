"""Uptake over time: its history, what may explain its changes, and whether calcium and magnesium are used in
proportion."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta, tzinfo
from statistics import fmean

from ..basics.number_text import show_number
from ..basics.phrasing import moment_words
from ..ledger.entries import Ledger
from ..science.parameters import Parameter, spoken
from ..science.solutions import calcium_per_meq_mg
from ..science.units import UnitChoice, show_difference
from .rate import SURE_OF_A_STEP, Rate
from .rate_history import rate_history
from .supplementation import MAGNESIUM_SHARE

WEEK = timedelta(days=7)
UNTOLD_SHARE = 0.5
"""Where the interval reaches further than this share of an uptake to either side, tests cannot tell it (judgement)."""
CAUSE_DAYS = 21
"""How long before a step its cause may lie (judgement)."""
WARMER_C = 1.0
GROWN, FALLEN = "growth, if nothing else changed", "fewer or weaker corals, less light, or low magnesium"
ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM


@dataclass(frozen=True)
class UptakePoint:
    """Daily uptake (canonical) with its 80 % interval, as estimated at one moment."""

    at: datetime
    per_day: float
    low: float
    high: float


def uptake_history(ledger: Ledger, parameter: Parameter, now: datetime) -> tuple[UptakePoint, ...]:
    """The uptake at every fortnight of half a year, oldest first, each from what was known by then; those with too few
    readings are left out."""
    history = rate_history(ledger, parameter, now)
    return tuple(UptakePoint(point.at, -point.per_day, -point.high, -point.low) for point in history)


def turns(
    ledger: Ledger, history: Sequence[UptakePoint], rate: Rate, parameter: Parameter, zone: tzinfo, units: UnitChoice
) -> list[str]:
    """What changed the uptake, in words: a step with the events shortly before it, or slow growth or decline."""
    words = []
    if rate.step >= SURE_OF_A_STEP and rate.stepped_at:
        at = rate.stepped_at
        before = [
            h for h in ledger.happenings
            if at - timedelta(days=CAUSE_DAYS) <= h.at <= at + WEEK and parameter in h.kind.affects
        ]  # fmt: skip
        words.append(f"It took a step about {moment_words(at, zone)}.")
        words += [f"Shortly before: {h.words}, {moment_words(h.at, zone)}." for h in before]
        if not before:
            words.append("Nothing is written down that explains it: a lost colony, a lamp, a new kit?")
    elif slow := _slow(history):
        first, last, change = slow
        days = round((last.at - first.at) / timedelta(days=1) / 7)
        more = "more" if change > 0 else "less"
        cause = (
            "growth, if nothing else changed" if change > 0 else "fewer or weaker corals, less light, or low magnesium"
        )
        words.append(f"It is {show_number(abs(change), 0)} % {more} than {days} weeks ago, little by little: {cause}.")
    return [*words, *_season(ledger, history, units)]


def _slow(history: Sequence[UptakePoint]) -> tuple[UptakePoint, UptakePoint, float] | None:
    """First and last uptake with the change in %, where their intervals do not overlap."""
    if len(history) < 4:
        return None
    first, last = history[0], history[-1]
    apart = last.low > first.high or last.high < first.low
    if not apart or first.per_day <= 0:
        return None
    return first, last, 100 * (last.per_day / first.per_day - 1)


def _season(ledger: Ledger, history: Sequence[UptakePoint], units: UnitChoice) -> list[str]:
    """Warmth speeds everything up: mentioned where the water is clearly warmer or colder than at first."""
    if len(history) < 4:
        return []
    warm = ledger.of(Parameter.TEMPERATURE)
    early = [r.value for r in warm if abs(r.at - history[0].at) <= 2 * WEEK]
    late = [r.value for r in warm if history[-1].at - 2 * WEEK <= r.at <= history[-1].at]
    if not early or not late or abs(fmean(late) - fmean(early)) < WARMER_C:
        return []
    off = fmean(late) - fmean(early)
    gap = show_difference(Parameter.TEMPERATURE, abs(off), fmean(early), units)
    return [f"The water is {gap} {'warmer' if off > 0 else 'colder'} than then: a season."]


@dataclass(frozen=True)
class Companion:
    """Calcium or magnesium beside the uptake of alkalinity: what should go with it (canonical a day), the estimate, and
    whether they agree; estimate: None where there are too few readings. untold: its own tests cannot tell so little,
    and what should go with the alkalinity is all that is known.
    """

    parameter: Parameter
    expected_low: float
    expected_high: float
    estimate: UptakePoint | None
    fits: bool | None
    words: str
    untold: bool = False


def companions(uptake_meq_l: float, calcium: Rate | None, magnesium: Rate | None) -> tuple[Companion, Companion]:
    """Whether calcium (20 mg with each meq) and magnesium (0.05 to 2 mg with 20 mg of calcium) are used in proportion
    to an uptake."""
    goes = max(0.0, uptake_meq_l) * calcium_per_meq_mg()
    low, high = (share * goes / 20 for share in MAGNESIUM_SHARE)
    return _companion(CALCIUM, goes, goes, calcium), _companion(MAGNESIUM, low, high, magnesium)


def _companion(parameter: Parameter, low: float, high: float, rate: Rate | None) -> Companion:
    if rate is None:
        return Companion(parameter, low, high, None, None, "too few readings")
    estimate = UptakePoint(rate.until, -rate.per_day, -rate.high, -rate.low)
    fits = estimate.low <= high and estimate.high >= low
    untold = fits and (estimate.high - estimate.low) / 2 > UNTOLD_SHARE * max(abs(estimate.per_day), high)
    name = spoken(parameter)
    if untold:
        words = f"{name} tests cannot tell so little"
    elif fits:
        words = "consistent"
    elif estimate.per_day > high:
        words = f"more {name} goes than skeletons take: a doubtful test, precipitation, a dose that failed"
    else:
        words = f"less {name} goes than skeletons take: a doubtful test, or a dose that is not written down"
    return Companion(parameter, low, high, estimate, fits, words, untold)
