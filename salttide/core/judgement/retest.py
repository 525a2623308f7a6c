"""When to test again, by parameter and situation: less often when steady, sooner when something moves."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from math import ceil, inf

from ..basics.dates import later
from ..estimate.forecast import Point, crossing
from ..ledger.entries import Reading
from ..science.parameters import FACTS, Parameter, Tested
from ..system.finding import Finding
from ..system.inspection import Event
from ..system.system import Stage
from .situation import Situation

DAYS: Mapping[Parameter, int] = {
    Parameter.TEMPERATURE: 3,
    Parameter.SALINITY: 3,
    Parameter.ALKALINITY: 7,
    Parameter.CALCIUM: 14,
    Parameter.MAGNESIUM: 14,
    Parameter.NITRATE: 7,
    Parameter.PHOSPHATE: 7,
    Parameter.PH: 7,
}
DAYS_BREAKING_IN: Mapping[Parameter, int] = {
    Parameter.AMMONIA: 2,
    Parameter.NITRITE: 2,
    Parameter.NITRATE: 2,
    Parameter.ALKALINITY: 3,
    Parameter.SALINITY: 3,
}
LABORATORY_DAYS = 60
USED_UP, MAY_LEAVE = "it is used up", "may leave its band"
HAND_TOP_OFF_DAYS, USED_DAYS, RESTLESS_DAYS = 1, 3, 3
"""Salinity where top-off is by hand; alkalinity where it is used up; nutrients during a trouble or after new food."""
WIDER = 1.5
STEADY_READINGS = 4
TWICE = 2.0
"""A test is worth its while when the range of what is expected is so many times as wide as right after the last one
(judgement)."""
FOOD_DAYS = 14.0
DOUBTED = ("impossible_jump", "too_near_to_tell", "other_instrument")
NUTRIENTS = (Parameter.NITRATE, Parameter.PHOSPHATE)


TEST_MINUTES, MONTH_DAYS = 3.0, 30
"""What a test takes (judgement)."""


@dataclass(frozen=True)
class Retest:
    """When a parameter is to be tested next: every so many days, from when, and why in a few words."""

    parameter: Parameter
    every_days: int
    due: date
    why: str

    def days_within(self, today: date, days: int = MONTH_DAYS) -> list[date]:
        """The days on which it is tested from today on, if nothing else comes of it; what is overdue, today.

        >>> Retest(Parameter.NITRATE, 14, date(2026, 11, 30), "").days_within(date(2026, 11, 24))
        [datetime.date(2026, 11, 30), datetime.date(2026, 12, 14)]
        """
        first = max(self.due, today)
        return [later(first, n) for n in range(0, max(0, days - (first - today).days), self.every_days)]


def retests(s: Situation, findings: Sequence[Finding] = ()) -> list[Retest]:
    """Every parameter this system is tested for, in the order of testing. All intervals are judgement.

    >>> from salttide.core.judgement.scenario import situation_described
    >>> [test.every_days for test in retests(situation_described([("calcium", 420.0, 1)])) if test.why == ""]
    [14]
    """
    today = s.now.astimezone(s.zone).date()
    found = []
    for parameter in Parameter:
        usual = _usual(s, parameter)
        if usual is None:
            continue
        days, why = _interval(s, parameter, *usual, findings)
        last = s.ledger.last(parameter)
        due = later(last.at.astimezone(s.zone).date(), days) if last else today
        found.append(Retest(parameter, days, due, why))
    return found


def _usual(s: Situation, parameter: Parameter) -> tuple[int, str] | None:
    """The interval by method and stage, and its reason; None where it is not tested for."""
    if s.system.stage == Stage.BREAKING_IN:
        days = DAYS_BREAKING_IN.get(parameter)
        return (days, "cycling") if days else None
    if FACTS[parameter].tested == Tested.ELSEWHERE:
        return (LABORATORY_DAYS, "by a laboratory") if s.ledger.last(parameter) else None
    if parameter == Parameter.SALINITY and ("top_off" not in s.system.gear or s.method("top_off") == "by_hand"):
        return HAND_TOP_OFF_DAYS, "top-off is by hand"
    if parameter == Parameter.ALKALINITY and ("dosing_pump" in s.system.gear or _used(s)):
        return USED_DAYS, USED_UP
    if parameter in NUTRIENTS and (restless := _restless(s)):
        return RESTLESS_DAYS, restless
    days = DAYS.get(parameter)
    return (days, "") if days else None


def _used(s: Situation) -> bool:
    rate = s.rates.get(Parameter.ALKALINITY)
    return rate is not None and rate.real and rate.per_day < 0


def _restless(s: Situation) -> str:
    """Why to follow nutrients closely; empty where there is no reason."""
    food: Event | None = s.happened("food", FOOD_DAYS)
    if food:
        return f"other food since {s.when(food.at)}"
    trouble = s.seen("trouble")
    return f"{trouble[0].kind.name} in sight" if trouble else ""


def _interval(s: Situation, parameter: Parameter, days: int, why: str, findings: Sequence[Finding]) -> tuple[int, str]:
    """The interval as things stand: the first reason that makes it shorter, else one that makes it wider."""
    known = s.present.get(parameter)
    if known is None:
        return days, "never measured"
    about = [finding for finding in findings if parameter in finding.about]
    if any(finding.rule in DOUBTED and finding.about[0] == parameter for finding in about):
        return 1, "the last result is in doubt"
    if s.low(parameter) or s.high(parameter):
        return max(1, days // 2), "out of its band"
    if any(dose.at >= known.reading.at and parameter in dose.amounts and not dose.routine for dose in s.ledger.doses):
        return max(1, days // 2), "dosed since"
    leaves = _days_left(s, parameter)
    if leaves is not None and leaves / 2 < days:
        return max(1, round(leaves / 2)), "on its way out of its band"
    return _by_worth(s, parameter, days, why)


def _by_worth(s: Situation, parameter: Parameter, days: int, why: str) -> tuple[int, str]:
    """The interval by what a test would tell, where nothing asks for tests closer together than usual."""
    steady, worth = _steady(s, parameter, days), _worth(s, parameter)
    if worth is None or why not in ("", USED_UP):
        return (ceil(WIDER * days), "steady") if steady else (days, why)
    widest = ceil(WIDER * days)
    least, found = (1 if worth[1] == MAY_LEAVE else max(USED_DAYS, days // 2)), int(min(widest, worth[0]))
    if (sooner := max(least, found)) < days:
        return sooner, worth[1]
    wider = min(widest, found)
    return (wider, "steady" if steady else "well known") if wider > days else (days, why)


def _worth(s: Situation, parameter: Parameter) -> tuple[float, str] | None:
    """Days from the last test until another tells something, by the forecast, and why: it may then be out of its band
    (one chance in ten), or only half as well known as right after the test. None where there is no rate."""
    last, found = s.ledger.last(parameter), s.rates.get(parameter)
    if last is None or found is None or found.until != last.at or parameter not in s.courses:
        return None
    points = [point for point in s.courses[parameter].points if point.at >= last.at]
    band, first = s.band(parameter), points[0]
    sure = TWICE * (first.high - first.value)
    doubled = _first(points, last, lambda p: p.high - p.value - sure)
    reasons = [(inf if doubled is None else doubled, "less well known by then")]
    if band and band.holds(first.low) and band.holds(first.high):
        out = _first(points, last, lambda p: max(band.low - p.low, p.high - band.high))
        reasons.append((inf if out is None else out, MAY_LEAVE))
    return min(reasons)


def _first(points: Sequence[Point], last: Reading, over: Callable[[Point], float]) -> float | None:
    """Days from a test until something is over nothing along the forecast."""
    for before, after in pairwise(points):
        if over(after) > 0:
            begun, now = over(before), over(after)
            share = min(1.0, max(0.0, -begun / (now - begun))) if now > begun else 1.0
            return (before.at - last.at + share * (after.at - before.at)) / timedelta(days=1)
    return None


def _days_left(s: Situation, parameter: Parameter) -> float | None:
    """Days until it leaves its band by moving as it really does; None where it does not within two months."""
    band = s.band(parameter)
    if band is None or not s.moves(parameter):
        return None
    leaves = crossing(s.courses[parameter].points, band, s.now)
    return -s.days_ago(leaves.at) if leaves else None


def _steady(s: Situation, parameter: Parameter, days: int) -> bool:
    """Several results in a row inside the band, and nothing that really moves it."""
    band = s.band(parameter)
    latest = s.readings(parameter, 6.0 * days)[-STEADY_READINGS:]
    if band is None or len(latest) < STEADY_READINGS or s.moves(parameter):
        return False
    return all(band.holds(reading.value) for reading in latest)
