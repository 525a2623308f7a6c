"""The top-off of a system: what evaporates, how long the reservoir lasts, how it is refilled, and what salt leaves."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta, tzinfo
from itertools import pairwise
from math import erf, sqrt

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result
from ..estimate.evaporation import RESERVOIR, Evaporated
from ..estimate.rate import Rate
from ..ledger.entries import Ledger
from ..science.heat import evaporating_w
from ..science.topoff import salinity_after_evaporation
from ..system.heating import Lid
from ..system.system import System
from .plumbing import sump_of

Z_80 = 1.2816
"""Half of what lies between the ends of an 80 % interval, in standard deviations (standard normal table)."""
HELD_CM = 0.5
"""How far the level falls before a pump that holds it starts (judgement)."""
DOUBT_TIMES = 3.0
"""A top-off this many times what should have evaporated since the last is doubted (judgement)."""
SURE = 0.95
"""The chance with which a reservoir should outlast an absence (judgement)."""
Z_SURE = 1.6449
LID_SHARES = {Lid.OPEN: 1.0, Lid.HALF: 0.6, Lid.CLOSED: 0.25}
"""Evaporation under a lid, as a share of that without (judgement)."""

NEEDED = Formula("v", "litres for the days away", "n * (E + z * s)", "L", "mean use and its uncertainty")
RUNS = Formula("r", "runs of the pump in a week", "7 * E / v", "", "what evaporates over what one run brings")
RUN_HELD = Formula("v", "what one run brings", "A * h / 1000", "L", "surface that falls · how far it falls")
SALT_LOST = Formula("m", "salt that leaves a day", "-s * V", "g", "fall of salinity beyond what changes explain")


@dataclass(frozen=True)
class Doubt:
    """A recorded top-off that is not plausible: what it was and what should have evaporated since the one before."""

    at: datetime
    litres: float
    expected_l: float


def implausible(ledger: Ledger, evaporated: Evaporated, now: datetime, days: int = 60) -> list[Doubt]:
    """Top-offs of the last days that are far more than can have evaporated since the one before; newest first."""
    known = [one for one in ledger.top_offs if one.at <= now]
    found = []
    for before, after in pairwise(known):
        if after.at < now - timedelta(days=days):
            continue
        expected = evaporated.high_l * ((after.at - before.at) / timedelta(days=1))
        if after.litres > DOUBT_TIMES * max(expected, evaporated.per_day_l):
            found.append(Doubt(after.at, after.litres, expected))
    return found[::-1]


@dataclass(frozen=True)
class Reservoir:
    """The reservoir now. filled: on which day it was last filled whole, None where that was not recorded: it is taken
    as full then · left_l, left_days: what is in it · fill_on: the day before it is empty."""

    holds_l: float
    filled: date | None
    left_l: float
    left_days: float
    fill_on: date


def reservoir_now(
    system: System, ledger: Ledger, evaporated: Evaporated, now: datetime, zone: tzinfo
) -> Reservoir | None:
    """What is left in the reservoir by what evaporated since it was filled; None without one."""
    holds = system.top_off.reservoir_l
    if not holds or evaporated.per_day_l <= 0:
        return None
    fills = [entry.at for entry in ledger.care if entry.task == RESERVOIR and not entry.skipped and entry.at <= now]
    gone = evaporated.per_day_l * ((now - fills[-1]) / timedelta(days=1)) if fills else 0.0
    left = max(0.0, holds - gone)
    days = left / evaporated.per_day_l
    today = now.astimezone(zone).date()
    day = fills[-1].astimezone(zone).date() if fills else None
    return Reservoir(holds, day, left, days, today + timedelta(days=max(0, int(days) - 1)))


@dataclass(frozen=True)
class Refill:
    """A way to top off: litres of one run, runs a week, and what salinity climbs to in between, by how far (ppt)."""

    run_l: Result
    runs_week: Result
    swing: Result
    climbs: float


def refills(system: System, evaporated: Evaporated, salinity: float) -> tuple[Refill, Refill | None]:
    """The level held all day, and the reservoir run in at a low point as it is set up; None without such a setting."""
    sump, chamber_cm = sump_of(system, system.plumbing), system.plumbing.chamber_cm
    surface = (chamber_cm or sump.length_cm) * sump.width_cm if sump else system.geometry.footprint_cm2
    held = RUN_HELD.result(
        A=FormulaInput(surface, "cm²", "surface that falls"), h=FormulaInput(HELD_CM, "cm", "before it starts")
    )
    low = system.top_off.refill_l
    return _refill(system, evaporated, salinity, held), _by_low_point(system, evaporated, salinity) if low else None


def _by_low_point(system: System, evaporated: Evaporated, salinity: float) -> Refill:
    whole = Formula("v", "what one run brings", "v_l", "L", "as set up")
    run = whole.result(v_l=FormulaInput(system.top_off.refill_l, "L", "run in at a low point"))
    return _refill(system, evaporated, salinity, run)


def _refill(system: System, evaporated: Evaporated, salinity: float, run: Result) -> Refill:
    runs = RUNS.result(run, E=FormulaInput(evaporated.per_day_l, "L a day", "evaporates"), v=run.given())
    after = salinity_after_evaporation(salinity, system.volume_l, min(float(run), system.volume_l / 2))
    return Refill(run, runs, after, float(after) - salinity)


@dataclass(frozen=True)
class Absence:
    """days away: litres that last with SURE chance, the chance that a full reservoir lasts (None without one)."""

    days: int
    needed_l: Result
    chance: float | None


def absence(system: System, evaporated: Evaporated, days: int) -> Absence:
    """What an absence of so many days (1 to 90) takes. The days of an absence are hot or dry together: the rate's own
    uncertainty counts for all of them."""
    check_range("days away", days, "days", 1, 90, field="days")
    sd = (evaporated.high_l - evaporated.low_l) / 2 / Z_80
    needed = NEEDED.result(
        n=FormulaInput(days, "days", "away"),
        E=FormulaInput(evaporated.per_day_l, "L a day", "evaporates"),
        z=FormulaInput(Z_SURE, "", "for 95 % of all cases"),
        s=FormulaInput(sd, "L a day", "uncertainty of it"),
    )
    holds = system.top_off.reservoir_l
    return Absence(days, needed, _chance(holds / days, evaporated.per_day_l, sd) if holds else None)


def _chance(bears_l_day: float, per_day_l: float, sd: float) -> float:
    """The chance that no more than so much evaporates a day."""
    if sd <= 0:
        return 1.0 if bears_l_day >= per_day_l else 0.0
    return (1 + erf((bears_l_day - per_day_l) / sd / sqrt(2))) / 2


@dataclass(frozen=True)
class UnderLid:
    """A lid: what would evaporate a day (L), and the watts that this no longer takes away."""

    lid: Lid
    per_day_l: float
    spared_w: float


def lids(system: System, evaporated: Evaporated) -> list[UnderLid]:
    """The other lids than the one there is."""
    now = LID_SHARES[system.heating.lid]
    found = []
    for lid, share in LID_SHARES.items():
        if lid != system.heating.lid:
            litres = evaporated.per_day_l * share / now
            found.append(UnderLid(lid, litres, evaporating_w(evaporated.per_day_l - litres)))
    return found


@dataclass(frozen=True)
class SaltLost:
    """Salt that leaves a day (g) with skimmate, creep and splashes; sure: whether its interval excludes none · per_l: g
    of salt in a litre of top-off that would repay it."""

    grams: Result
    sure: bool
    per_l: float

    @property
    def week_g(self) -> float:
        """In a week."""
        return 7 * float(self.grams)


def salt_lost(system: System, rate: Rate | None, evaporated: Evaporated) -> SaltLost | None:
    """Salt that leaves, by how salinity falls beyond what changes and top-offs explain; None where it does not fall."""
    if rate is None or rate.per_day >= 0:
        return None
    grams = SALT_LOST.result(
        s=FormulaInput(rate.per_day, "ppt a day", "salinity, beyond what is recorded"),
        V=FormulaInput(system.volume_l, "L", "water"),
    )
    per_l = float(grams) / evaporated.per_day_l if evaporated.per_day_l else 0.0
    return SaltLost(grams, rate.high < 0, per_l)
