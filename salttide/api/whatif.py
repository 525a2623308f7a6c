"""What-if: up to three ways of keeping the water side by side, and one of them adopted."""

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cache
from typing import Any

from fastapi import APIRouter, Response
from pydantic import Field, TypeAdapter

from salttide.core.basics.errors import InputError, SaltTideError
from salttide.core.basics.number_text import short, show_number
from salttide.core.basics.phrasing import moment_words
from salttide.core.estimate.evaporation import evaporation_l
from salttide.core.estimate.forecast import Course
from salttide.core.ledger.entries import Dose
from salttide.core.ledger.plan import Plan, daily_as_recorded
from salttide.core.planning.variant import (
    CORRECTED,
    Dosing,
    Variant,
    WhatIfContext,
    WhatIfOutcome,
    Worst,
    daily_of,
    try_variant,
)
from salttide.core.planning.work_order import DoseWorkOrder, dose_event, job_words
from salttide.core.science.additives import COMPOUNDS
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import show, unit_of
from salttide.core.system.additive_amount import rises, too_much
from salttide.core.system.shelf import Additive
from salttide.core.system.system import Methods, System
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.core.upkeep.task import tasks
from salttide.store import change as change_store
from salttide.store import shelf
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import BandShown, Choice, Id, Model, Recorded, RequestModel, band_shown, name_of
from .plan import DOSE_MINUTES
from .pumps import set_pumps

router = APIRouter(prefix="/api/systems/{system_id}/whatif", tags=["whatif"])
MOST = 3


class CorrectionBody(RequestModel):
    """A correction at the start: so much of a compound on each of so many days."""

    formula: str = Field(max_length=30)
    grams: float = Field(gt=0, le=1e5)
    days: int = Field(ge=1, le=28)


class VariantBody(RequestModel):
    """A way of keeping the water, in the keeper's units. alkalinity: dosed a day, null for as much as is used."""

    name: str = Field("", max_length=60)
    percent: float
    every_days: int
    continuous: bool = False
    salt_id: Id
    dosing: Dosing = Dosing.AS_NOW
    alkalinity: float | None = None
    food_percent: float = 100.0
    correction: list[CorrectionBody] = Field(default_factory=list, max_length=5)


class WhatIfBody(RequestModel):
    """What is compared, and over how many days."""

    variants: list[VariantBody] = Field(min_length=1, max_length=MOST)
    days: int = Field(56, ge=7, le=366)


class Priced(Choice):
    """Something on the shelf with what a kilogram costs, where it is known."""

    price_kg: float | None


class WhatIfOffer(Model):
    """What can be compared, and where to start: as it stands, and two others."""

    name: str
    alkalinity_unit: str
    salts: list[Priced]
    additives: list[Priced]
    dosings: list[Choice]
    largest_percent: float
    variants: list[VariantBody]
    missing: list[str]


@dataclass(frozen=True, slots=True)
class CoursePoint:
    """An expected value."""

    at: datetime
    value: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class VariantCourse:
    """One parameter under one variant."""

    points: list[CoursePoint]
    lowest: str
    highest: str
    days_out: int
    leaves: str


@dataclass(frozen=True, slots=True)
class ComparedStrip:
    """One parameter under every variant, in the keeper's unit."""

    parameter: str
    name: str
    unit: str
    decimals: int
    band: BandShown | None
    courses: list[VariantCourse]


@dataclass(frozen=True, slots=True)
class Asked:
    """What a variant takes a month."""

    salt_kg: str
    compounds: str
    minutes: int
    cost: str
    notes: list[str]


@dataclass(frozen=True, slots=True)
class Compared:
    """Variants side by side."""

    now: datetime
    strips: list[ComparedStrip]
    asked: list[Asked]


DOSINGS = {
    Dosing.AS_NOW: "as now",
    Dosing.TWO_PART: "two-part",
    Dosing.LIMEWATER: "limewater in the top-off",
    Dosing.NONE: "nothing",
}


@router.get("")
def offer(system_id: Id, ctx: In) -> WhatIfOffer:
    """Where to start: as it stands, larger and rarer, and a little every day."""
    system, salts = ctx.stored.system(system_id), ctx.stored.salts
    missing = [] if salts else ["a salt on the shelf"]
    if not any(FACTS[p].dissolved for p in ctx.household.waters(system).present):
        missing.append("a first test session on the Bench")
    usual = ctx.stored.usual_salt.id if ctx.stored.usual_salt else 1
    every, percent = system.schools.change_every_days, system.schools.change_fraction * 100
    continuous = system.schools.answers.get("water_changes") == CONTINUOUS
    now = VariantBody(
        name="as it stands",
        percent=round(percent / every if continuous else percent, 2),
        every_days=1 if continuous else every,
        continuous=continuous,
        salt_id=usual,
    )
    largest = system.schools.largest_fraction * 100
    rarer = {"name": "larger and rarer", "percent": min(2 * percent, largest), "every_days": min(90, 2 * every)}
    daily = {"name": "a little every day", "percent": round(percent / every, 2), "every_days": 1}
    return WhatIfOffer(
        name=system.name,
        alkalinity_unit=unit_of(Parameter.ALKALINITY, ctx.keeper.units).label,
        salts=_priced(ctx, shelf.Shelved.SALT, [(salt.id, salt.name) for salt in salts]),
        additives=_priced(ctx, shelf.Shelved.ADDITIVE, [(one.id, one.name) for one in ctx.stored.additives]),
        dosings=[Choice(key=key, name=name) for key, name in DOSINGS.items()],
        largest_percent=largest,
        variants=[
            now,
            now.model_copy(update={**rarer, "continuous": False}),
            now.model_copy(update={**daily, "continuous": True}),
        ],
        missing=missing,
    )


def _priced(ctx: Context, table: shelf.Shelved, items: Sequence[tuple[int, str]]) -> list[Priced]:
    prices = shelf.prices(ctx.connection, table)
    return [Priced(key=str(number), name=name, price_kg=prices.get(number)) for number, name in items]


@cache
def _written_out() -> TypeAdapter[Compared]:
    return TypeAdapter(Compared)


@router.post("", response_model=Compared)
def compare(system_id: Id, body: WhatIfBody, ctx: In) -> Response:
    """Variants side by side, without effect; asked for while they are typed, so written out once."""
    setting = setting_of(ctx, system_id, body.days)
    variants, outcomes = [], []
    for place, wanted in enumerate(body.variants):
        try:
            variant = variant_of(ctx, wanted)
            outcomes.append(try_variant(setting, variant, corrected(setting, wanted)))
        except SaltTideError as error:
            error.field = f"variants.{place}.{error.field}"
            raise
        variants.append(variant)
    strips = [_strip(ctx, setting, parameter, outcomes) for parameter in outcomes[0].courses]
    asked = [_asked(ctx, variant, outcome) for variant, outcome in zip(variants, outcomes, strict=True)]
    answer = Compared(ctx.now.astimezone(ctx.keeper.zone), strips, asked)
    return Response(_written_out().dump_json(answer), media_type="application/json")


def setting_of(ctx: Context, system_id: int, days: int) -> WhatIfContext:
    """What every variant of a system is tried in."""
    system = ctx.stored.system(system_id)
    view, daily = ctx.household.waters(system), ctx.household.ahead(system).daily
    plan = Plan(daily=daily_as_recorded(view.ledger, ctx.now) if daily is None else daily)
    own = [rule.minutes for rule in ctx.household.rules(system) if rule.kind.key == WATER_CHANGE]
    minutes = own[0] if own else tasks()[WATER_CHANGE].minutes
    return WhatIfContext(
        system, view.ledger, view.paces(), plan, ctx.now, days, minutes, evaporation_l(view.ledger, ctx.now)
    )


def variant_of(ctx: Context, body: VariantBody) -> Variant:
    """A variant as the core takes it."""
    dosed = None
    if body.alkalinity is not None:
        if body.alkalinity < 0:
            raise InputError("0 or more is dosed", field="alkalinity", accepted="0 or more")
        dosed = ctx.canonical(Parameter.ALKALINITY, body.alkalinity, "alkalinity")
    salt = shelf.salt_at_hand(ctx.connection, body.salt_id)
    return Variant(
        body.percent / 100, body.every_days, salt, body.continuous, body.dosing,
        dosed, body.food_percent / 100,
    )  # fmt: skip


def _strip(
    ctx: Context, setting: WhatIfContext, parameter: Parameter, outcomes: Sequence[WhatIfOutcome]
) -> ComparedStrip:
    unit, band = unit_of(parameter, ctx.keeper.units), setting.system.bands.get(parameter)
    courses = [_course(ctx, parameter, one.courses[parameter], one.worst[parameter]) for one in outcomes]
    shown = band_shown(parameter, band, ctx.keeper.units)
    return ComparedStrip(parameter, name_of(parameter), unit.label, unit.decimals, shown, courses)


def _course(ctx: Context, parameter: Parameter, course: Course, worst: Worst) -> VariantCourse:
    to_unit, zone = unit_of(parameter, ctx.keeper.units).from_canonical, ctx.keeper.zone
    points = [
        CoursePoint(p.at.astimezone(zone), to_unit(p.value), to_unit(p.low), to_unit(p.high))
        for p in course.points
        if p.at >= ctx.now
    ]
    low, high = (show(parameter, value, ctx.keeper.units) for value in (worst.low, worst.high))
    leaves = moment_words(worst.leaves.at, zone) if worst.leaves else ""
    return VariantCourse(points, low, high, round(worst.days_out), leaves)


def _asked(ctx: Context, variant: Variant, outcome: WhatIfOutcome) -> Asked:
    compounds = [f"{show_number(g, 0)} g {compound_name(name)}" for name, g in outcome.compounds_g.items() if g]
    return Asked(
        f"{show_number(outcome.salt_g / 1000, 2)} kg {variant.salt.name}" if outcome.salt_g else "none",
        ", ".join(compounds) or "none",
        round(outcome.minutes),
        _cost(ctx, variant, outcome),
        list(outcome.notes),
    )


def compound_name(formula: str) -> str:
    """The name of a compound by its formula, or what it is called already."""
    return next((compound.name for compound in COMPOUNDS.values() if compound.formula == formula), formula)


def _cost(ctx: Context, variant: Variant, outcome: WhatIfOutcome) -> str:
    """What a month costs in the keeper's money; what has no price is named."""
    salt = shelf.prices(ctx.connection, shelf.Shelved.SALT).get(variant.salt.id)
    prices = shelf.prices(ctx.connection, shelf.Shelved.ADDITIVE)
    known = {one.formula: prices[one.id] for one in ctx.stored.additives if one.id in prices}
    names = {compound.name: compound.formula for compound in COMPOUNDS.values()}
    names |= {one.name: one.formula for one in ctx.stored.additives}
    parts = {name: (g, known.get(names.get(name, name))) for name, g in outcome.compounds_g.items() if g}
    if outcome.salt_g:
        parts[variant.salt.name] = (outcome.salt_g, salt)
    missing = [compound_name(name) for name, (_, price) in parts.items() if price is None]
    total = sum(g / 1000 * price for g, price in parts.values() if price is not None)
    if missing:
        return f"no price for {', '.join(missing)}"
    return show_number(total, 2)


@router.post("/adopt", status_code=201)
def adopt(system_id: Id, body: VariantBody, ctx: In, key: Key) -> Recorded:
    """Go on in this way: the routine of changes, the salt used first, and the daily doses from today."""
    setting, variant = setting_of(ctx, system_id, 7), variant_of(ctx, body)
    try_variant(setting, variant)
    daily, _ = daily_of(setting, variant)
    if not variant.fraction:
        raise InputError(
            "the routine is a change of some size: skip it on the Rota instead", field="percent", accepted="above 0 %"
        )
    schools = _schools(setting.system.schools, variant)
    corrections = [(_correction_job(setting.system, one), one.days) for one in body.correction]

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        system_store.remember_setup(connection, system_id, key, ctx.keeper.salt_id)
        system_store.change_system(connection, replace(setting.system, schools=schools), ctx.now)
        shelf.keep_keeper(connection, replace(ctx.keeper, salt_id=variant.salt.id))
        if variant.dosing != Dosing.AS_NOW:
            rest = set_pumps(connection, system_id, daily, ctx.now, key)
            change_store.set_daily(connection, system_id, ctx.today + timedelta(days=1), rest, key)
        for job, days in corrections:
            for day in range(1, days + 1):
                name = f"Dose {job_words(job)}"
                change_store.add_step(
                    connection, system_id, key, ctx.today + timedelta(days=day), "dose", name, DOSE_MINUTES, job
                )
        often = "a day, by a pump pair" if variant.continuous else f"every {variant.every_days} days"
        return {"command": key, "words": f"{short(variant.fraction * 100)} % {often} from now on"}

    return Recorded(**ctx.command(key, act))


CONTINUOUS, WEEK = "continuous", 7


def _schools(schools: Methods, variant: Variant) -> Methods:
    """The method with the routine of a variant; a pump pair is kept as its share of a week."""
    answers = dict(schools.answers)
    if not variant.continuous:
        if answers.get("water_changes") == CONTINUOUS:
            del answers["water_changes"]
        return replace(schools, change_fraction=variant.fraction, change_every_days=variant.every_days, answers=answers)
    share = min(variant.fraction * WEEK, schools.largest_fraction)
    answers["water_changes"] = CONTINUOUS
    return replace(schools, change_fraction=share, change_every_days=WEEK, answers=answers)


def corrected(setting: WhatIfContext, body: VariantBody) -> list[Dose]:
    """The correction at the start as doses, one a day from tomorrow on."""
    return [
        dose_event(_correction_job(setting.system, one), setting.now + timedelta(days=day))
        for one in body.correction
        for day in range(1, one.days + 1)
    ]


def _correction_job(system: System, one: CorrectionBody) -> DoseWorkOrder:
    """A day's part of a correction, within the daily limit. Raises InputError."""
    if one.formula not in CORRECTED.values():
        raise InputError("no correction is made with this", field="correction", accepted=", ".join(CORRECTED.values()))
    additive = Additive(0, compound_name(one.formula), one.formula)
    raised = rises(additive, one.grams, system.volume_l)
    if doubts := too_much(system, raised, {}):
        raise InputError(doubts[0], field="correction", accepted="less a day, on more days")
    return DoseWorkOrder(additive.name, one.grams, {p: rise * system.volume_l for p, rise in raised.items()})


class PriceBody(RequestModel):
    """What a kilogram costs, in the keeper's money; null where it is not known."""

    kind: shelf.Shelved
    id: Id
    price_kg: float | None = Field(None, ge=0, le=1e6)


@router.post("/prices")
def price(system_id: Id, body: PriceBody, ctx: In, key: Key) -> Recorded:
    """Keep what a kilogram costs."""
    ctx.stored.system(system_id)
    if body.kind == shelf.Shelved.FOOD:
        raise InputError("food is not counted by the kilogram", field="kind", accepted="salt or additive")

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        shelf.set_price(connection, body.kind, body.id, body.price_kg)
        return {"command": key, "words": "price kept"}

    return Recorded(**ctx.command(key, act))
