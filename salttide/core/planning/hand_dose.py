"""Daily doses by hand: a tick on each day, what was missed, and what was really given."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta, tzinfo
from math import inf

from ..basics.errors import InputError, at_field
from ..basics.number_text import show_number
from ..basics.phrasing import listed
from ..basics.quantities import Habits, Kind, parse_quantity
from ..ledger.entries import Care, Dose, Ledger
from ..ledger.plan import DailyDose, DailyPlan
from ..science.amount import dose_text
from ..system.system import System
from ..upkeep.rota import Occurrence

DAILY_DOSE = "daily_dose"
"""The task that a day's doses by hand are on the rota as, and that a skipped one is recorded as."""
HAND_MINUTES = 2.0
"""Of a day's doses by hand, measured and poured (judgement)."""


def by_hand(plan: DailyPlan | None, pumped: Sequence[str] = ()) -> DailyPlan | None:
    """The part of a plan that is given by hand; None where there is none. pumped: additives that a pump gives."""
    doses = tuple(dose for dose in plan.doses if dose.by_hand and dose.additive not in pumped) if plan else ()
    return DailyPlan(plan.since, doses) if plan and doses else None


def amount_words(dose: DailyDose) -> str:
    """A dose as it is measured out, with its name."""
    return f"{dose_text(dose.mass_g, dose.ml or None)} {dose.additive}"


def is_settled(plan: DailyPlan, ledger: Ledger, day: date, zone: tzinfo) -> bool:
    """Whether a day's doses were given, or skipped, or any of them was."""
    names = {dose.additive for dose in plan.doses}
    given = any(one.routine and one.additive in names and _on(one, day, zone) for one in reversed(ledger.doses))
    return given or any(one.task == DAILY_DOSE and _on(one, day, zone) for one in reversed(ledger.care))


def _on(entry: Dose | Care, day: date, zone: tzinfo) -> bool:
    return entry.at.astimezone(zone).date() == day


def hand_doses(
    plan: DailyPlan | None,
    system: System,
    ledger: Ledger,
    now: datetime,
    until: date,
    zone: tzinfo,
    correcting: bool = False,
) -> list[Occurrence]:
    """A day's doses by hand as work on the rota, from today, or from the day they begin, to `until`. correcting: doses
    of a correction are planned, which uses up the daily limit."""
    if plan is None:
        return []
    today = now.astimezone(zone).date()
    first = max(plan.since, today + timedelta(days=is_settled(plan, ledger, today, zone)))
    name = f"Dose {listed([amount_words(dose) for dose in plan.doses])}"
    why = "your daily dose by hand"
    missed = missed_words(plan, system, ledger, today, zone, correcting)
    days = [first + timedelta(days=offset) for offset in range((until - first).days + 1)]
    return [
        Occurrence(
            DAILY_DOSE, name, day, day, day, day, HAND_MINUTES, why + (missed if day == today else ""), pinned=True,
            every_days=1, gives=plan.doses,
        )
        for day in days
    ]  # fmt: skip


def missed_words(
    plan: DailyPlan, system: System, ledger: Ledger, today: date, zone: tzinfo, correcting: bool = False
) -> str:
    """What may be done about yesterday's doses where they were neither given nor skipped; empty where they were. They
    are not made up for beside a correction, or beside another dose of the same day: together they may be too much."""
    yesterday = today - timedelta(days=1)
    if yesterday < plan.since or is_settled(plan, ledger, yesterday, zone):
        return ""
    words = "; yesterday's was not recorded: enter it for yesterday if it was given"
    if correcting or _also_raised(plan, ledger, today, zone):
        return f"{words}; if it was missed, leave it: other doses are raising the same"
    most = most_today(plan, system)
    if most >= 2:
        return f"{words}, or give both today, which stays within the daily limit"
    amounts = [dose_text(dose.mass_g * most, dose.ml * most or None) + f" {dose.additive}" for dose in plan.doses]
    return (
        f"{words}; if it was missed, give no more than {listed(amounts)} today: the daily limit"
        if most > 1
        else (f"{words}; if it was missed, leave it: today's alone reaches the daily limit")
    )


def _also_raised(plan: DailyPlan, ledger: Ledger, today: date, zone: tzinfo) -> bool:
    """Whether a single dose of today raised what the daily ones raise."""
    raised = {parameter for dose in plan.doses for parameter in dose.amounts}
    return any(not one.routine and raised & {*one.amounts} and _on(one, today, zone) for one in ledger.doses)


def most_today(plan: DailyPlan, system: System) -> float:
    """How many times the daily doses may be given in one day within the daily limits of the system."""
    rises: dict[object, tuple[float, float]] = {}
    for dose in plan.doses:
        for parameter, amount in dose.amounts.items():
            limit = float(system.limit(parameter).up)
            rises[parameter] = (rises.get(parameter, (0.0, limit))[0] + amount / system.volume_l, limit)
    return min((limit / rise for rise, limit in rises.values() if rise > 0), default=inf)


MOST_GIVEN = 10.0
"""More than so many times the daily dose is a slip (judgement)."""


def read_share(dose: DailyDose, text: str, habits: Habits, field: str) -> float:
    """What was given of a daily dose, as typed: mL of a solution, else g; as a share of what was planned, 1 where
    nothing was typed. Raises InputError at `field` for less than nothing, or more than ten times as much.

    >>> from ..basics.quantities import PLAIN_HABITS
    >>> soda = DailyDose("soda stock", 2.0, {}, True, 20.0)
    >>> [read_share(soda, text, PLAIN_HABITS, "given") for text in ("", "0", "10", "0.03 L")]
    [1.0, 0.0, 0.5, 1.5]
    """
    if not text.strip():
        return 1.0
    kind, unit, planned = (Kind.VOLUME, "mL", dose.ml / 1000) if dose.ml else (Kind.MASS, "g", dose.mass_g)
    typed = at_field(field, lambda: parse_quantity(text, kind, habits, unit).value)
    if not 0 <= typed <= MOST_GIVEN * planned:
        accepted = f"0 to {show_number(MOST_GIVEN * (dose.ml or dose.mass_g), 1)} {unit}"
        raise InputError(f"Enter what was given, {accepted}", field=field, accepted=accepted)
    return typed / planned


def given(doses: Sequence[DailyDose], at: datetime, shares: Mapping[str, float] | None = None) -> list[Dose]:
    """The doses of a day as given. shares: how much of each, as a share of what was planned; 1 where nothing is said,
    and none of what is 0."""
    parts = shares or {}
    return [
        Dose(at, one.additive, one.mass_g * share, {p: amount * share for p, amount in one.amounts.items()}, True)
        for one in doses
        if (share := parts.get(one.additive, 1.0)) > 0
    ]


def as_daily(plan: DailyPlan | None, ledger: Ledger, dose: Dose, zone: tzinfo) -> bool:
    """Whether a single dose that was entered is the day's dose by hand: of the same additive, on a day of the plan
    that has none yet, and no more than one and a half times as much."""
    day = dose.at.astimezone(zone).date()
    if plan is None or day < plan.since or is_settled(plan, ledger, day, zone):
        return False
    return any(one.additive == dose.additive and dose.mass_g <= MUCH_MORE * one.mass_g for one in plan.doses)


MUCH_MORE = 1.5
"""From so many times the daily dose on, a dose that is entered is more than the daily dose (judgement)."""
