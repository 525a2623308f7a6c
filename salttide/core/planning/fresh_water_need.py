"""Fresh water that is needed in the days ahead, and when the RO/DI unit is started for it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta, tzinfo
from math import ceil

from ..estimate.evaporation import Evaporated
from .fresh_water import UnitState

READY_HOUR = 18
"""Water for a batch is ready at this hour on the day before, so that the batch mixes overnight (judgement)."""


@dataclass(frozen=True)
class WaterNeed:
    """Fresh water that is needed on a day, and what for."""

    day: date
    litres: float
    what: str


def needed_a_day(needs: Sequence[WaterNeed], days: int) -> float:
    """Litres a day of what is needed within so many days."""
    return sum(one.litres for one in needs) / days


def weekly_need_l(state: UnitState, needs: Sequence[WaterNeed], days: int) -> float:
    """Litres of tap water a week for what is coming, with what is wasted."""
    return 7 * needed_a_day(needs, days) * (1 + state.waste)


def weekly_l(evaporates: Evaporated) -> float:
    """Litres that evaporate in a week."""
    return 7 * evaporates.per_day_l


def less_ready(needs: Sequence[WaterNeed], ready_l: float) -> list[WaterNeed]:
    """What is needed for changes beside the salt water that stands mixed, the first day's first.

    >>> first, second = (WaterNeed(date(2026, 12, day), 40.0, "a change") for day in (1, 8))
    >>> [one.litres for one in less_ready([second, first], 55.0)]
    [25.0]
    """
    found = []
    for one in sorted(needs, key=lambda each: each.day):
        used = min(ready_l, one.litres)
        ready_l -= used
        if one.litres - used > 0.05:
            found.append(replace(one, litres=one.litres - used))
    return found


@dataclass(frozen=True)
class Start:
    """When the unit is started for what is needed first: hours it runs, and whether the store holds it."""

    at: datetime
    hours: float
    litres: float
    for_day: date
    fits: bool
    late: bool


def start_for(state: UnitState, needs: Sequence[WaterNeed], now: datetime, zone: tzinfo) -> Start | None:
    """The start for the first day whose water is not in the store: ready at 18:00 on the day before, or now where that
    is past. None where the store covers everything."""
    left = state.unit.stored_l
    for day in sorted({one.day for one in needs}):
        litres = sum(one.litres for one in needs if one.day == day)
        if litres > left:
            missing = litres - left
            hours = missing / state.real_l_h
            ready = datetime.combine(day - timedelta(days=1), time(READY_HOUR), zone)
            begin = ready - timedelta(hours=ceil(hours))
            fits = not state.unit.store_l or litres <= state.unit.store_l
            return Start(max(begin, now), hours, missing, day, fits, begin < now)
        left -= litres
    return None
