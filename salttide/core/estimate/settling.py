"""Where a level settles between what a system makes of something a day and what water changes take out."""

from __future__ import annotations

from dataclasses import dataclass
from math import log

from ..basics.errors import check_range
from ..science.parameters import Parameter
from .supplementation import Changes

NEARLY = 0.9
"""This share of the way there is called settled (judgement): the rest takes for ever."""


@dataclass(frozen=True)
class Settling:
    """The level (canonical, the mean between two changes) and the weeks until it is nearly there."""

    level: float
    weeks: float


def settling(per_day: float, changes: Changes, parameter: Parameter) -> Settling | None:
    """Where it settles by a rate (canonical a day) and a routine of changes; None where the new water's content is not
    known, or all or nothing is changed. Never below nothing.

    Just before a change it comes to C = C0 + r·n / f: what n days bring, f takes out. Half of n days' worth less is the
    mean. Each change leaves 1 - f of the way.

    >>> settling(0.2, Changes(0.1, 7, {Parameter.NITRATE: 0.0}), Parameter.NITRATE).level
    13.3
    """
    check_range("rate", per_day, "a day", -1e5, 1e5)
    share, days = changes.fraction, changes.every_days
    if parameter not in changes.incoming or not 0 < share < 1:
        return None
    level = changes.incoming[parameter] + per_day * days * (1 / share - 0.5)
    return Settling(max(0.0, round(level, 9)), log(1 - NEARLY) / log(1 - share) * days / 7)
