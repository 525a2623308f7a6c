"""What-if: the water kept in another way from today on, compared with how it is kept now."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import pairwise
from math import ceil

from ..basics.errors import InputError, check_range
from ..estimate.forecast import Course, Crossing, crossing, expect
from ..estimate.rate import Rate
from ..ledger.entries import Change, Ledger, Moving
from ..ledger.plan import DailyDose, Plan
from ..science.additives import dose_mass_g
from ..science.limewater import limewater_most_meq_l
from ..science.mix import SaltMix, salt_mass_g
from ..science.parameters import Parameter, Span
from ..science.solutions import calcium_per_meq_mg, two_part_salinity_drift
from ..system.system import System
from .work_order import routine_change

ALKALINITY, CALCIUM, SALINITY = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.SALINITY
FED = (Parameter.NITRATE, Parameter.PHOSPHATE)
HAND_DOSE_MINUTES, LIME_MINUTES_A_WEEK, PUMP_PAIR_MINUTES_A_WEEK = 3.0, 10.0, 15.0
"""A day's doses by hand; stirring and filling limewater; filling and checking a pair of change pumps (judgement)."""
SODA, CHLORIDE, LIME = "Na2CO3", "CaCl2·2H2O", "Ca(OH)2"
CORRECTED = {Parameter.ALKALINITY: SODA, Parameter.CALCIUM: CHLORIDE, Parameter.MAGNESIUM: "MgCl2·6H2O"}
"""The compound that raises each parameter in a correction at the start."""
MONTH_DAYS = 30.4


class Dosing(StrEnum):
    """How the uptake is replaced."""

    AS_NOW = "as_now"
    NONE = "none"
    TWO_PART = "two_part"
    LIMEWATER = "limewater"


@dataclass(frozen=True)
class Variant:
    """A way of keeping the water. fraction: of the net volume at each change, or a day with `continuous` (0: no
    changes) · alkalinity_meq_l: dosed a day, None for as much as is used · food: relative to now, 1 for the same."""

    fraction: float
    every_days: int
    salt: SaltMix
    continuous: bool = False
    dosing: Dosing = Dosing.AS_NOW
    alkalinity_meq_l: float | None = None
    food: float = 1.0


@dataclass(frozen=True)
class WhatIfContext:
    """What all variants start from: the system with its record and rates, the current plan, and the work."""

    system: System
    ledger: Ledger
    rates: Mapping[Parameter, Rate | None]
    plan: Plan
    now: datetime
    days: int
    change_minutes: float
    evaporation_l: float


@dataclass(frozen=True)
class Worst:
    """The range of a parameter: lowest and highest expected value, days outside its band, and when it first leaves."""

    low: float
    high: float
    days_out: float
    leaves: Crossing | None


@dataclass(frozen=True)
class WhatIfOutcome:
    """The outcome of a variant: courses, worst values, and per month salt in g, compounds in g and minutes."""

    courses: Mapping[Parameter, Course]
    worst: Mapping[Parameter, Worst]
    salt_g: float
    compounds_g: Mapping[str, float]
    minutes: float
    notes: Sequence[str]


def check_variant(variant: Variant, system: System) -> None:
    """Refuse an impossible variant, or one the method does not allow, at its field. Raises InputError, DomainError."""
    largest = 100.0 if variant.continuous else system.methods.largest_fraction * 100
    check_range("share changed", variant.fraction * 100, "%", 0, largest, field="percent")
    check_range("days between changes", variant.every_days, "days", 1, 90, field="every_days")
    check_range("food", variant.food * 100, "% of now", 0, 300, field="food_percent")
    if variant.alkalinity_meq_l is not None:
        check_range("alkalinity dosed a day", variant.alkalinity_meq_l, "meq/L", 0, 3, field="alkalinity")
    least = sum(animal.portions * animal.count for animal in system.animals)
    if variant.food == 0 and least:
        raise InputError(
            "the animals here are fed: each has its least portion",
            field="food_percent",
            accepted="above 0 %",
        )


def try_variant(setting: WhatIfContext, variant: Variant, started: Sequence[Moving] = ()) -> WhatIfOutcome:
    """The forecast for some days if the water is kept this way from now on, with what is planned at the start.

    Source: the ledger's balance.
    """
    check_variant(variant, setting.system)
    until = setting.now + timedelta(days=setting.days)
    changes = changes_of(setting, variant)
    daily, notes = daily_of(setting, variant)
    rates = {p: fed(rate, variant.food) if p in FED else rate for p, rate in setting.rates.items()}
    courses = expect(setting.ledger, rates, Plan([*changes, *started], daily), setting.now, until)
    bands = setting.system.bands
    worst = {p: worst_of(course, bands.get(p), setting.now) for p, course in courses.items()}
    a_month = MONTH_DAYS / setting.days
    salt_g = sum(salt_mass_of(variant.salt, change) for change in changes) * a_month
    compounds = {dose.additive: dose.mass_g * MONTH_DAYS for dose in daily}
    return WhatIfOutcome(courses, worst, salt_g, compounds, minutes_a_month(setting, variant, len(changes)), notes)


def changes_of(setting: WhatIfContext, variant: Variant) -> list[Change]:
    """The changes of a variant from now on: every so many days, or a little every day."""
    if not variant.fraction:
        return []
    step = 1 if variant.continuous else variant.every_days
    days = range(step, setting.days + 1, step)
    first = routine_change(setting.system, variant.salt, setting.now, variant.fraction)
    return [replace(first, at=setting.now + timedelta(days=day)) for day in days]


def salt_mass_of(salt: SaltMix, change: Change) -> float:
    """Grams of salt in the new water of a change."""
    return float(salt_mass_g(change.in_l, change.incoming[SALINITY], salt.strength_g_l, salt.basis))


def daily_of(setting: WhatIfContext, variant: Variant) -> tuple[list[DailyDose], list[str]]:
    """The daily doses of a variant, and remarks on them."""
    if variant.dosing == Dosing.AS_NOW:
        return list(setting.plan.daily), []
    if variant.dosing == Dosing.NONE:
        return [], []
    rate, volume = setting.rates.get(ALKALINITY), setting.system.volume_l
    wanted, notes = variant.alkalinity_meq_l, list[str]()
    if wanted is None:
        wanted = max(0.0, -rate.per_day) if rate else 0.0
        if rate is None:
            notes.append("Too few readings of alkalinity to know what is used: nothing is dosed.")
    if variant.dosing == Dosing.LIMEWATER:
        most = float(limewater_most_meq_l(setting.evaporation_l, volume))
        if wanted > most:
            notes.append("Limewater in the top-off cannot bring as much: evaporation bounds it.")
            wanted = most
        return [limewater(wanted, volume)], notes
    return two_part(wanted, volume, _calcium_given(setting)), notes


def _calcium_given(setting: WhatIfContext) -> float:
    """Alkalinity (meq/L a day) whose calcium is dosed unrecorded: today's dose where no calcium is recorded."""
    given = setting.plan.per_day(ALKALINITY) / setting.system.volume_l
    return 0.0 if setting.plan.per_day(CALCIUM) else given


def two_part(meq_l: float, volume_l: float, unrecorded_meq_l: float = 0.0) -> list[DailyDose]:
    """A day's two-part doses for some alkalinity (meq/L): soda ash, calcium chloride, and the salt they leave.
    unrecorded_meq_l: alkalinity whose calcium is already dosed without being recorded.
    """
    if not meq_l:
        return []
    calcium = meq_l * calcium_per_meq_mg()
    salt = float(two_part_salinity_drift(meq_l, 1.0)) * volume_l
    moved = (meq_l - unrecorded_meq_l) * calcium_per_meq_mg() * volume_l
    soda_g = float(dose_mass_g(SODA, ALKALINITY, meq_l, volume_l))
    chloride_g = float(dose_mass_g(CHLORIDE, CALCIUM, calcium, volume_l))
    return [
        DailyDose(SODA, soda_g, {ALKALINITY: meq_l * volume_l}),
        DailyDose(CHLORIDE, chloride_g, {CALCIUM: moved, SALINITY: salt}),
    ]


def limewater(meq_l: float, volume_l: float) -> DailyDose:
    """A day's limewater for some alkalinity (meq/L), as dry Ca(OH)2."""
    mass = float(dose_mass_g(LIME, ALKALINITY, meq_l, volume_l)) if meq_l else 0.0
    return DailyDose(LIME, mass, {ALKALINITY: meq_l * volume_l, CALCIUM: meq_l * calcium_per_meq_mg() * volume_l})


def fed(rate: Rate | None, food: float) -> Rate | None:
    """The rate of a nutrient with more or less food: what rises comes of food, in proportion (judgement)."""
    if rate is None or rate.per_day <= 0:
        return rate
    return replace(rate, per_day=rate.per_day * food, sd=rate.sd * max(1.0, food), parts=None)


def worst_of(course: Course, band: Span | None, now: datetime) -> Worst:
    """Lowest and highest from now on, days outside the band, and the first crossing."""
    ahead = [point for point in course.points if point.at >= now]
    values = [point.value for point in ahead]
    out = 0.0
    if band:
        for before, after in pairwise(ahead):
            if not band.holds((before.value + after.value) / 2):
                out += (after.at - before.at) / timedelta(days=1)
    return Worst(min(values), max(values), out, crossing(course.points, band, now) if band else None)


def minutes_a_month(setting: WhatIfContext, variant: Variant, changes: int) -> float:
    """Minutes of work a month: changes, hand doses where there is no pump, limewater and pump pairs."""
    months = setting.days / MONTH_DAYS
    weeks = ceil(MONTH_DAYS / 7 * 10) / 10
    work = PUMP_PAIR_MINUTES_A_WEEK * weeks if variant.continuous else changes / months * setting.change_minutes
    if variant.dosing == Dosing.LIMEWATER:
        return work + LIME_MINUTES_A_WEEK * weeks
    by_hand = variant.dosing != Dosing.NONE and "dosing_pump" not in setting.system.gear
    doses = variant.dosing == Dosing.TWO_PART or (variant.dosing == Dosing.AS_NOW and setting.plan.daily)
    return work + (HAND_DOSE_MINUTES * MONTH_DAYS if by_hand and doses else 0.0)
