"""What-if: up to three ways of keeping the water side by side, and one of them adopted."""

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cache

from fastapi import APIRouter, Response
from pydantic import Field, TypeAdapter

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.measures import grams_words, kilograms_words
from salttide.core.basics.number_text import fraction, percent
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.basics.refused import refused
from salttide.core.estimate.forecast import Course
from salttide.core.planning.variant import (
    Dosing,
    Variant,
    WhatIfContext,
    WhatIfOutcome,
    Worst,
    daily_of,
    try_variant,
)
from salttide.core.planning.variant_choice import (
    Prices,
    StartCorrection,
    adopted_methods,
    adopted_words,
    month_cost,
    prices_of,
    start_work,
    starting_variants,
)
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.recipe import name_of_formula
from salttide.core.science.units import show, unit_of
from salttide.core.system.system import System
from salttide.household import what_if
from salttide.household.dosing import as_given, set_pumps
from salttide.store import change as change_store
from salttide.store import shelf
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import BandShown, Choice, Id, Model, Recorded, RequestModel, band_shown, name_of, named

router = APIRouter(prefix="/api/systems/{system_id}/whatif", tags=["whatif"])
MOST = 3


class CorrectionBody(RequestModel):
    """A correction at the start: grams of a compound on each of several days."""

    formula: str = Field(max_length=30)
    grams: float = Field(gt=0, le=1e5)
    days: int = Field(ge=1, le=28)

    @property
    def as_planned(self) -> StartCorrection:
        """The correction as the core takes it."""
        return StartCorrection(self.formula, self.grams, self.days)


class VariantBody(RequestModel):
    """A way of keeping the water, in the keeper's units. alkalinity: dosed a day; null for as much as is used ·
    plan: the cause whose proposed plan is followed besides."""

    name: str = Field("", max_length=60)
    percent: float
    every_days: int
    continuous: bool = False
    salt_id: Id
    dosing: Dosing = Dosing.AS_NOW
    alkalinity: float | None = None
    food_percent: float = 100.0
    correction: list[CorrectionBody] = Field(default_factory=list, max_length=5)
    plan: str = Field(default="", max_length=60)


class WhatIfBody(RequestModel):
    """The ways to compare, and over how many days."""

    variants: list[VariantBody] = Field(min_length=1, max_length=MOST)
    days: int = Field(56, ge=7, le=366)


class Priced(Choice):
    """Something on the shelf, with the price of a kilogram where known."""

    price_kg: float | None


class WhatIfOffer(Model):
    """What can be compared, three ways to start from (as now, and two others), and the plans that are proposed."""

    name: str
    alkalinity_unit: str
    salts: list[Priced]
    additives: list[Priced]
    dosings: list[Choice]
    largest_percent: float
    variants: list[VariantBody]
    plans: list[VariantBody]
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


@router.get("")
def options(system_id: Id, ctx: In) -> WhatIfOffer:
    """Three ways to start from: as now, larger and rarer changes, and a little every day."""
    system, salts = ctx.household.system(system_id), ctx.stored.salts
    missing = [] if salts else [phrase("common.a_salt_on_the_shelf")]
    if not any(FACTS[p].dissolved for p in ctx.household.waters(system).present):
        missing.append(phrase("whatif.a_first_test_session_on_the"))
    started = starting_variants(system, ctx.stored.usual_salt) if ctx.stored.usual_salt else ()
    return WhatIfOffer(
        name=system.name,
        alkalinity_unit=unit_of(Parameter.ALKALINITY, ctx.keeper.units).label,
        salts=_priced(ctx, shelf.Shelved.SALT, [(salt.id, salt.name) for salt in salts]),
        additives=_priced(ctx, shelf.Shelved.ADDITIVE, [(one.id, one.name) for one in ctx.stored.additives]),
        dosings=named("whatif.dosing"),
        largest_percent=percent(system.methods.largest_fraction),
        variants=[variant_shown(ctx, name, variant) for name, variant in started],
        plans=_plans(ctx, system, started),
        missing=missing,
    )


def _plans(ctx: Context, system: System, started: Sequence[tuple[str, Variant]]) -> list[VariantBody]:
    """The routine as it is, with each plan that is proposed."""
    if not started:
        return []
    now = variant_shown(ctx, *started[0])
    found = what_if.proposals(ctx.household.outlook(system))
    return [now.model_copy(update={"name": one.purpose, "plan": cause.key}) for cause, one in found]


def variant_shown(ctx: Context, name: str, variant: Variant) -> VariantBody:
    """A variant in the keeper's units."""
    unit, dosed = unit_of(Parameter.ALKALINITY, ctx.keeper.units), variant.alkalinity_meq_l
    return VariantBody(
        name=name,
        percent=percent(variant.fraction),
        every_days=variant.every_days,
        continuous=variant.continuous,
        salt_id=variant.salt.id,
        dosing=variant.dosing,
        alkalinity=None if dosed is None else round(unit.from_canonical(dosed), unit.decimals + 2),
    )


def _priced(ctx: Context, table: shelf.Shelved, items: Sequence[tuple[int, str]]) -> list[Priced]:
    prices = shelf.prices(ctx.connection, table)
    return [Priced(key=str(number), name=name, price_kg=prices.get(number)) for number, name in items]


def prices(ctx: Context) -> Prices:
    """Prices per kilogram of what is on the shelf."""
    salts, additives = (shelf.prices(ctx.connection, table) for table in (shelf.Shelved.SALT, shelf.Shelved.ADDITIVE))
    return prices_of(ctx.stored.additives, salts, additives)


@cache
def _written_out() -> TypeAdapter[Compared]:
    return TypeAdapter(Compared)


@router.post("", response_model=Compared)
def compare(system_id: Id, body: WhatIfBody, ctx: In) -> Response:
    """Variants side by side, without effect; called while typing, so serialised once."""
    setting = what_if.setting_of(ctx.household, ctx.household.system(system_id), body.days)
    variants, outcomes = [], []
    for place, wanted in enumerate(body.variants):
        try:
            start = _started(ctx, setting, wanted)
            outcomes.append(try_variant(start.setting, start.variant, start.events))
        except SaltTideError as error:
            error.field = f"variants.{place}.{error.field}"
            raise
        variants.append(start.variant)
    strips = [_strip(ctx, setting, parameter, outcomes) for parameter in outcomes[0].courses]
    asked = [_asked(ctx, variant, outcome) for variant, outcome in zip(variants, outcomes, strict=True)]
    answer = Compared(ctx.now.astimezone(ctx.keeper.zone), strips, asked)
    return Response(_written_out().dump_json(answer), media_type="application/json")


def _started(ctx: Context, setting: WhatIfContext, body: VariantBody) -> what_if.Start:
    corrections = [one.as_planned for one in body.correction]
    return what_if.started(ctx.household, setting, variant_of(ctx, body), corrections, body.plan)


def variant_of(ctx: Context, body: VariantBody) -> Variant:
    """A variant as the core takes it."""
    dosed = None
    if body.alkalinity is not None:
        if body.alkalinity < 0:
            raise refused("whatif.enter_or_more", "alkalinity", "whatif.or_more")
        dosed = ctx.canonical(Parameter.ALKALINITY, body.alkalinity, "alkalinity")
    salt = shelf.salt_at_hand(ctx.connection, body.salt_id)
    return Variant(
        fraction(body.percent), body.every_days, salt, body.continuous, body.dosing,
        dosed, fraction(body.food_percent),
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
    compounds = [f"{grams_words(g)} {name_of_formula(name)}" for name, g in outcome.compounds_g.items() if g]
    return Asked(
        f"{kilograms_words(outcome.salt_g)} {variant.salt.name}" if outcome.salt_g else "none",
        ", ".join(compounds) or "none",
        round(outcome.minutes),
        month_cost(variant, outcome, prices(ctx)),
        list(outcome.notes),
    )


@router.post("/adopt", status_code=201)
def adopt(system_id: Id, body: VariantBody, ctx: In, key: Key) -> Recorded:
    """Adopt a variant: its routine of changes, its salt as the default, and its daily doses from today."""
    variant = variant_of(ctx, body)
    setting = what_if.setting_of(ctx.household, ctx.household.system(system_id), 7)
    try_variant(setting, variant)
    daily, _ = daily_of(setting, variant)
    system = replace(setting.system, methods=adopted_methods(setting.system.methods, variant))
    work = start_work(system, ctx.today, [one.as_planned for one in body.correction])

    def act(connection: sqlite3.Connection) -> str:
        system_store.remember_setup(connection, system_id, key, ctx.keeper.salt_id)
        system_store.change_system(connection, system, ctx.now)
        shelf.save_keeper(connection, replace(ctx.keeper, salt_id=variant.salt.id))
        if variant.dosing != Dosing.AS_NOW:
            rest = set_pumps(connection, system_id, daily, ctx.now, key)
            doses = as_given(system, rest, None)
            change_store.set_daily(connection, system_id, ctx.today + timedelta(days=1), doses, key)
        change_store.add_work(connection, system_id, key, work)
        if not body.plan:
            return adopted_words(variant)
        words = what_if.follow(ctx.household, connection, system, body.plan, variant, key)
        return phrase("whatif.with_the_plan", routine=adopted_words(variant), plan=words)

    return ctx.record(key, act)


class PriceBody(RequestModel):
    """The price of a kilogram, in the keeper's money; null where not known."""

    kind: shelf.Shelved
    id: Id
    price_kg: float | None = Field(None, ge=0, le=1e6)


@router.post("/prices")
def price(system_id: Id, body: PriceBody, ctx: In, key: Key) -> Recorded:
    """Save the price of a kilogram."""
    ctx.household.system(system_id)
    if body.kind == shelf.Shelved.FOOD:
        raise refused("whatif.food_is_not_priced_by_the", "kind", "whatif.salt_or_additive")

    return ctx.record_as(
        key, phrase("whatif.price_saved"), lambda c: shelf.set_price(c, body.kind, body.id, body.price_kg)
    )
