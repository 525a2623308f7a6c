"""A pump's day: doses at minutes after midnight, in whole steps of the pump, with incompatible ones kept apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..basics.errors import check_range
from ..science.dosing import SEPARATION_MINUTES

CALCIUM_MINUTE = SEPARATION_MINUTES
"""Alkalinity is dosed on the hour and calcium at half past, never closer than their separation."""


@dataclass(frozen=True)
class Slot:
    """A dose of the day: minute after midnight, and mL."""

    minute: int
    ml: float


def slots_of(hours: Sequence[float], total_ml: float, minute: int, step_ml: float) -> tuple[Slot, ...]:
    """A day's millilitres spread over hours in proportion, in whole steps of the pump that add up to the total.

    >>> [(slot.minute, slot.ml) for slot in slots_of([0, 1, 2] + [0] * 21, 10.0, 30, 0.5)]
    [(90, 3.5), (150, 6.5)]
    """
    check_range("millilitres a day", total_ml, "mL", 0, 1e5)
    check_range("step of the pump", step_ml, "mL", 0.001, 100)
    if not sum(hours):
        return ()
    wanted = [hour / sum(hours) * total_ml / step_ml for hour in hours]
    whole = [int(each + 1e-9) for each in wanted]
    left = round(total_ml / step_ml) - sum(whole)
    for place in sorted(range(len(hours)), key=lambda i: (whole[i] - wanted[i], i))[: max(0, left)]:
        whole[place] += 1
    return tuple(Slot(60 * hour + minute, round(steps * step_ml, 6)) for hour, steps in enumerate(whole) if steps)


def nearest_minutes(one: Sequence[Slot], other: Sequence[Slot]) -> int:
    """The least minutes between a dose of one and a dose of the other, across midnight too; a day where one is empty.

    >>> nearest_minutes([Slot(0, 1.0)], [Slot(1410, 1.0), Slot(300, 1.0)])
    30
    """
    gaps = [abs(a.minute - b.minute) for a in one for b in other]
    return min((min(gap, 1440 - gap) for gap in gaps), default=1440)
