"""Evaporation, estimated from the top-offs that replaced it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from math import sqrt

from ..ledger.entries import Ledger

WINDOW = timedelta(days=70)
MIN_TOP_OFFS = 4
T_80 = {3: 1.638, 4: 1.533, 5: 1.476, 6: 1.440, 8: 1.397, 10: 1.372, 15: 1.341, 20: 1.325, 30: 1.310}
"""Student's t with which 80 % lie between, by degrees of freedom (standard table); the next lower entry is taken."""
USUAL_SHARE = 0.008
"""The usual evaporation, a share of the net volume a day, where no top-off is recorded (judgement)."""


@dataclass(frozen=True)
class Evaporated:
    """Litres that evaporate a day, with their 80 % interval; `count`: top-offs it rests on, 0 for the usual share."""

    per_day_l: float
    low_l: float
    high_l: float
    count: int


def evaporation_estimate(ledger: Ledger, now: datetime) -> Evaporated | None:
    """Daily evaporation: each top-off replaced what evaporated since the one before; None from fewer than four.

    A ratio of sums, with its standard error (Cochran 1977, Sampling Techniques, equation 6.13 without its correction).

    >>> from salttide.core.ledger.entries import TopOff
    >>> noon = datetime(2026, 11, 24, 12)
    >>> book = Ledger(100.0, top_offs=[TopOff(noon - timedelta(days=2 * n), 3.0) for n in range(5, -1, -1)])
    >>> evaporation_estimate(book, noon).per_day_l
    1.5
    """
    known = [top_off for top_off in ledger.top_offs if now - WINDOW <= top_off.at <= now]
    if len(known) < MIN_TOP_OFFS + 1:
        return None
    pairs = [((after.at - before.at) / timedelta(days=1), after.litres) for before, after in pairwise(known)]
    days, count = sum(length for length, _ in pairs), len(pairs)
    if not days:
        return None
    rate = sum(litres for _, litres in pairs) / days
    scatter = sum((litres - rate * length) ** 2 for length, litres in pairs) * count / (count - 1)
    t = T_80[max(degrees for degrees in T_80 if degrees <= count - 1)]
    wide = t * sqrt(scatter) / days
    return Evaporated(rate, max(0.0, rate - wide), rate + wide, count)


def evaporation_l(ledger: Ledger, now: datetime) -> float:
    """Litres that evaporate a day: as estimated, or the usual share of the net volume.

    >>> evaporation_l(Ledger(100.0), datetime(2026, 11, 24))
    0.8
    """
    estimate = evaporation_estimate(ledger, now)
    return estimate.per_day_l if estimate else USUAL_SHARE * ledger.volume_l
