"""What happens to a level between two readings: doses, changes, and time that passes at some rate."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..ledger.balance import effect_in
from ..ledger.entries import Ledger, Moving, Reading
from ..science.parameters import Parameter


@dataclass(frozen=True)
class Gap:
    """The time from one reading to the next, in days.

    The later level is kept · level + by_rate · rate + by_trend · trend + brought, where rate (canonical unit a day) and
    trend (unit a day, each day) are those at its beginning; a rate that steps halfway moves it by by_half for each unit
    of the step. wander: what a rate whose variance grows by one a day adds to the variance of the later level, to its
    covariance with the rate, and to the variance of the rate.
    """

    days: float
    kept: float
    brought: float
    by_rate: float
    by_trend: float
    by_half: float
    wander: tuple[float, float, float]


def gaps_of(readings: Sequence[Reading], ledger: Ledger, parameter: Parameter) -> tuple[Gap, ...]:
    """The gaps between readings in order, with the recorded doses and changes in them, daily doses included."""
    key = ("gaps", parameter, tuple(readings))
    if key not in ledger.cache:
        ledger.cache[key] = tuple(_walked(readings, ledger, parameter))
    found: tuple[Gap, ...] = ledger.cache[key]
    return found


def _walked(readings: Sequence[Reading], ledger: Ledger, parameter: Parameter) -> list[Gap]:
    first, last = readings[0], readings[-1]
    events = [event for event in ledger.events(parameter, routine=True) if first.at <= event.at <= last.at]
    moments = sorted([*readings, *events], key=lambda moment: (moment.at, moment.id))
    found, walk = list[Gap](), _Walk(first.at)
    for moment in moments[moments.index(first) + 1 :]:
        walk.to(moment.at)
        if isinstance(moment, Reading):
            found.append(walk.gap())
            walk = _Walk(moment.at)
        else:
            walk.meet(ledger, parameter, moment)
    return found


class _Walk:
    """A gap as it is walked through."""

    def __init__(self, at: datetime) -> None:
        self.at, self.days = at, 0.0
        self.kept, self.brought, self.by_rate, self.by_trend = 1.0, 0.0, 0.0, 0.0
        self.level, self.both, self.rate = 0.0, 0.0, 0.0
        self.parts: list[tuple[float, float]] = []

    def to(self, at: datetime) -> None:
        """Let time pass."""
        days = (at - self.at) / timedelta(days=1)
        self.at = at
        self.by_rate += days
        self.by_trend += self.days * days + days**2 / 2
        self.level += 2 * days * self.both + days**2 * self.rate + days**3 / 3
        self.both += days * self.rate + days**2 / 2
        self.rate += days
        self.days += days
        self.parts.append((days, 1.0))

    def meet(self, ledger: Ledger, parameter: Parameter, event: Moving) -> None:
        """Let something recorded happen."""
        found = effect_in(ledger, parameter, event)
        self.kept, self.brought = self.kept * found.kept, found.on(self.brought)
        self.by_rate, self.by_trend = self.by_rate * found.kept, self.by_trend * found.kept
        self.level, self.both = self.level * found.kept**2, self.both * found.kept
        self.parts.append((0.0, found.kept))

    def gap(self) -> Gap:
        """All of it."""
        wander = (self.level, self.both, self.rate)
        return Gap(self.days, self.kept, self.brought, self.by_rate, self.by_trend, self._by_half(), wander)

    def _by_half(self) -> float:
        """The days since its middle, less what changes took of what came meanwhile."""
        moved, passed = 0.0, 0.0
        for days, kept in self.parts:
            moved = (moved + max(0.0, passed + days - max(passed, self.days / 2))) * kept
            passed += days
        return moved
