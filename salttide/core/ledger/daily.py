"""The doses of a day: a pump's many as one, what pumps delivered, and daily doses planned but not written down. Days
are the keeper's own: a dose at half past midnight counts for the day just begun.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date, datetime, time, timedelta, tzinfo

from .entries import Dose, Ledger, in_order
from .plan import DailyPlan

DOSED_AT = time(12)
"""The hour at which a day's dose counts as given, in the keeper's time zone."""


def by_day(ledger: Ledger, zone: tzinfo) -> Ledger:
    """The daily doses of one additive on one day as one entry, at the time of the last."""
    given: dict[tuple[str, date], Dose] = {}
    for dose in ledger.doses:
        if dose.routine:
            key = (dose.additive, dose.at.astimezone(zone).date())
            given[key] = _together(given[key], dose) if key in given else dose
    single = (dose for dose in ledger.doses if not dose.routine)
    return replace(ledger, doses=tuple(in_order([*single, *given.values()])))


def _together(one: Dose, other: Dose) -> Dose:
    held = {*one.amounts, *other.amounts}
    amounts = {p: one.amounts.get(p, 0.0) + other.amounts.get(p, 0.0) for p in held}
    return replace(other, mass_g=one.mass_g + other.mass_g, amounts=amounts)


def with_delivered(ledger: Ledger, given: Iterable[Dose]) -> Ledger:
    """The ledger with what pumps really delivered."""
    added = [*given]
    return replace(ledger, doses=tuple(in_order([*ledger.doses, *added]))) if added else ledger


def with_planned(ledger: Ledger, plans: Sequence[DailyPlan], now: datetime, zone: tzinfo) -> Ledger:
    """The ledger with planned daily doses that give themselves (a reactor, limewater, a pump without a container), on
    days without a recorded dose that raises the same. A dose by hand counts only where it was recorded."""
    if not plans:
        return ledger
    given = {(p, dose.at.astimezone(zone).date()) for dose in ledger.doses if dose.routine for p in dose.amounts}
    given |= {(p, top_off.at.astimezone(zone).date()) for top_off in ledger.top_offs for p in top_off.holds}
    ends = [plan.since for plan in plans[1:]] + [now.astimezone(zone).date() + timedelta(days=1)]
    added = [
        Dose(at, dose.additive, dose.mass_g, dose.amounts, True)
        for plan, end in zip(plans, ends, strict=True)
        for day in (plan.since + timedelta(days=days) for days in range((end - plan.since).days))
        if (at := datetime.combine(day, DOSED_AT, zone)) <= now
        for dose in plan.doses
        if not dose.by_hand and not any((parameter, day) in given for parameter in dose.amounts)
    ]
    return replace(ledger, doses=tuple(in_order([*ledger.doses, *added])))
