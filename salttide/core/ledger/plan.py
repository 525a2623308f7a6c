"""The plan of a system: what will be done to its water."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from ..science.parameters import Parameter
from .entries import Ledger, Moving

RECORDED_DAYS = 7
"""Days within which recorded daily doses still count as the daily dose."""


@dataclass(frozen=True)
class DailyDose:
    """A daily dose: the additive, its mass in g, and the amount (meq or mg) per parameter. by_hand: it counts as given
    only where that is recorded · ml: where it is a solution."""

    additive: str
    mass_g: float
    amounts: Mapping[Parameter, float]
    by_hand: bool = False
    ml: float = 0.0


@dataclass(frozen=True)
class DailyPlan:
    """The daily doses planned from a day on."""

    since: date
    doses: tuple[DailyDose, ...]


@dataclass(frozen=True)
class Plan:
    """Single events, and the daily doses from now on."""

    events: Sequence[Moving] = ()
    daily: Sequence[DailyDose] = ()

    def per_day(self, parameter: Parameter) -> float:
        """What the daily doses add of a parameter, as an amount a day."""
        return sum(dose.amounts.get(parameter, 0.0) for dose in self.daily)


def per_day_of(doses: Iterable[DailyDose], parameter: Parameter, volume_l: float) -> float:
    """What daily doses raise a volume (L) by in a day, canonical.

    >>> per_day_of([DailyDose("soda", 2.0, {Parameter.ALKALINITY: 37.7})], Parameter.ALKALINITY, 100.0)
    0.377
    """
    return sum(dose.amounts.get(parameter, 0.0) for dose in doses) / volume_l


def daily_as_recorded(ledger: Ledger, now: datetime) -> tuple[DailyDose, ...]:
    """The daily doses as recently recorded: the mean of the last seven days, or of the days since the first.

    >>> from salttide.core.ledger.entries import Dose
    >>> noon = datetime(2026, 11, 24, 12)
    >>> doses = [Dose(noon - timedelta(days=d), "soda", 2.0, {Parameter.ALKALINITY: 7.0}, True) for d in (3, 2, 1, 0)]
    >>> daily_as_recorded(Ledger(100.0, doses=doses), noon)[0].mass_g
    2.0
    """
    routine = [dose for dose in ledger.doses if dose.routine and dose.at <= now]
    lately = [dose for dose in routine if dose.at > now - timedelta(days=RECORDED_DAYS)]
    found = []
    for name in dict.fromkeys(dose.additive for dose in lately):
        mine = [dose for dose in lately if dose.additive == name]
        first = next(dose.at for dose in routine if dose.additive == name)
        days = min(RECORDED_DAYS, int((now - first) / timedelta(days=1)) + 1)
        held = {parameter for dose in mine for parameter in dose.amounts}
        amounts = {p: sum(dose.amounts.get(p, 0.0) for dose in mine) / days for p in held}
        found.append(DailyDose(name, sum(dose.mass_g for dose in mine) / days, amounts))
    return tuple(found)
