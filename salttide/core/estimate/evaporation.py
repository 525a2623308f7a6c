"""Evaporation, estimated from the top-offs or the fillings of the reservoir that replaced it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from math import sqrt

from ..ledger.entries import Ledger
from ..system.endurance import USUAL_SHARE
from ..system.observations import number_found

WINDOW = timedelta(days=70)
YEAR = timedelta(days=365)
RESERVOIR, FILLED = "reservoir", "litres_added"
"""The task that fills the reservoir, and what it finds."""
MIN_TOP_OFFS = 4
T_80 = {3: 1.638, 4: 1.533, 5: 1.476, 6: 1.440, 8: 1.397, 10: 1.372, 15: 1.341, 20: 1.325, 30: 1.310}
"""Student's t with which 80 % lie between, by degrees of freedom (standard table); the next lower entry is taken."""


@dataclass(frozen=True)
class Evaporated:
    """Litres that evaporate a day, with their 80 % interval; `count`: top-offs it rests on, 0 for the usual share."""

    per_day_l: float
    low_l: float
    high_l: float
    count: int


def evaporation_estimate(ledger: Ledger, now: datetime) -> Evaporated | None:
    """Daily evaporation: each top-off replaced what evaporated since the one before, each filling of a reservoir what
    ran in since the last; None from fewer than four.

    A ratio of sums, with its standard error (Cochran 1977, Sampling Techniques, equation 6.13 without its correction).

    >>> from salttide.core.ledger.entries import TopOff
    >>> noon = datetime(2026, 11, 24, 12)
    >>> book = Ledger(100.0, top_offs=[TopOff(noon - timedelta(days=2 * n), 3.0) for n in range(5, -1, -1)])
    >>> evaporation_estimate(book, noon).per_day_l
    1.5
    """
    by_hand = [(one.at, one.litres) for one in ledger.top_offs]
    for series in (by_hand, _fillings(ledger)):
        known = [(at, litres) for at, litres in series if now - WINDOW <= at <= now]
        if len(known) > MIN_TOP_OFFS:
            return _of(known)
    return None


def _fillings(ledger: Ledger) -> list[tuple[datetime, float]]:
    """Fillings of the reservoir, with what each took."""
    done = [entry for entry in ledger.care if entry.task == RESERVOIR and not entry.skipped]
    return [(one.at, litres) for one in done if (litres := number_found(one.found, FILLED)) is not None]


def _of(known: Sequence[tuple[datetime, float]]) -> Evaporated | None:
    pairs = [((at - before) / timedelta(days=1), litres) for (before, _), (at, litres) in pairwise(known)]
    days, count = sum(length for length, _ in pairs), len(pairs)
    if not days:
        return None
    rate = sum(litres for _, litres in pairs) / days
    scatter = sum((litres - rate * length) ** 2 for length, litres in pairs) * count / (count - 1)
    t = T_80[max(degrees for degrees in T_80 if degrees <= count - 1)]
    wide = t * sqrt(scatter) / days
    return Evaporated(rate, max(0.0, rate - wide), rate + wide, count)


def evaporated(ledger: Ledger, now: datetime) -> Evaporated:
    """The estimate, or the usual share of the net volume, give or take half of it.

    >>> evaporated(Ledger(100.0), datetime(2026, 11, 24))
    Evaporated(per_day_l=0.8, low_l=0.4, high_l=1.2000000000000002, count=0)
    """
    usual = USUAL_SHARE * ledger.volume_l
    return evaporation_estimate(ledger, now) or Evaporated(usual, usual / 2, usual * 3 / 2, 0)


def evaporated_a_year_ago(ledger: Ledger, now: datetime) -> Evaporated | None:
    """The estimate of the same weeks a year before: rooms are dry when they are heated, and warm in summer."""
    return evaporation_estimate(ledger, now - YEAR)


def evaporation_l(ledger: Ledger, now: datetime) -> float:
    """Litres that evaporate a day: as estimated, or the usual share of the net volume.

    >>> evaporation_l(Ledger(100.0), datetime(2026, 11, 24))
    0.8
    """
    return evaporated(ledger, now).per_day_l
