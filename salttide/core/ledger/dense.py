"""Very long records: one reading in three hours stands for those beside it."""

from __future__ import annotations

from collections.abc import Sequence

from salttide.core.ledger.entries import Reading

DENSE = 4000
"""From so many readings of a system on, its record is thinned."""

STRETCH_S = 3 * 3600
"""The stretch, s, of which one reading stands for all: short beside a day, the least that a verdict looks at."""


def thinned(readings: Sequence[Reading]) -> list[Reading]:
    """Readings in order of time; of DENSE or more, the last of each stretch of each parameter and instrument.

    The store does the same while it reads, so that a hundred thousand rows are not brought to memory to keep a few.
    """
    if len(readings) < DENSE:
        return list(readings)
    last = {(each.parameter, each.instrument, int(each.at.timestamp()) // STRETCH_S): each for each in readings}
    return sorted(last.values(), key=lambda each: (each.at, each.id))
