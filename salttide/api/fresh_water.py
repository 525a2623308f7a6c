"""Fresh water: the household's RO/DI unit, the life of its stages, and when to start it."""

import sqlite3
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query

from salttide.core.basics.measures import litres_words, part_words
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.basics.phrasing import clock_words, date_words, day_words, listed
from salttide.core.planning.fresh_water import (
    RoUnit,
    StageLife,
    Supply,
    UnitState,
    better_stages,
    check_unit,
    cost_of_100_l,
)
from salttide.core.planning.fresh_water_need import WaterNeed, start_for, weekly_need_l
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import unit_of
from salttide.household.fresh_water import AHEAD_DAYS, needs_of, state_of
from salttide.household.fresh_water import unit_of as stored_unit
from salttide.store import fresh_water as fresh_water_store

from .context import Context, In, Key
from .models import Model, Recorded, RequestModel, WorkingStep, working_shown

router = APIRouter(prefix="/api/fresh-water", tags=["freshwater"])
Days = Annotated[int, Query(ge=7, le=42)]


class RoUnitBody(RequestModel):
    """The RO/DI unit as it is; the feed water's temperature in the keeper's unit."""

    rated_l_day: float = 284
    rated_bar: float = 4.1
    pressure_bar: float = 3.5
    feed: float
    measured_l_h: float | None = None
    supply: Supply = Supply.UNKNOWN
    sediment_l: float = 10000
    carbon_l: float = 20000
    carbon_blocks: int = 1
    resin_l: float = 0.75
    separate: bool = False
    carbon_dioxide_mg_l: float = 10
    store_l: float = 0
    stored_l: float = 0
    sediment_price: float = 0
    carbon_price: float = 0
    membrane_price: float = 0
    resin_price: float = 0
    water_price: float = 0


class WaterFact(Model):
    """A line in words with its working."""

    words: str
    working: list[WorkingStep]


class RoStageShown(Model):
    """A stage of the unit: what it has done, when it is due. task: the one that replaces it."""

    key: str
    name: str
    words: str
    due: str
    left_percent: int
    working: list[WorkingStep]


class WaterNeedShown(Model):
    """Fresh water needed on a day."""

    day: date
    day_words: str
    litres: str
    what: str


class FreshWater(Model):
    """The household's fresh water. start: when to start the unit, in words, with what for."""

    unit: RoUnitBody
    temperature_unit: str
    flow: WaterFact
    waste: str
    stages: list[RoStageShown]
    beds: str
    diagnoses: list[str]
    start: str
    start_why: str
    needs: list[WaterNeedShown]
    cost: str
    cost_missing: str
    better: list[str]


@router.get("")
def fresh_water(ctx: In, days: Days = AHEAD_DAYS) -> FreshWater:
    """The unit with what its readings and the weeks ahead say of it."""
    return _shown(ctx, stored_unit(ctx.household), days)


@router.post("/preview")
def preview(body: RoUnitBody, ctx: In, days: Days = AHEAD_DAYS) -> FreshWater:
    """The same with another unit; nothing is stored."""
    return _shown(ctx, _read(ctx, body), days)


@router.put("")
def save(body: RoUnitBody, ctx: In, key: Key) -> Recorded:
    """Store the unit as it is."""
    unit = _read(ctx, body)

    def act(connection: sqlite3.Connection) -> None:
        fresh_water_store.save_ro_unit(connection, unit)

    ctx.command(key, act)
    return Recorded(command=key, words=phrase("fresh_water.saved"))


def _read(ctx: Context, body: RoUnitBody) -> RoUnit:
    row = body.model_dump()
    feed_c = ctx.canonical(Parameter.TEMPERATURE, row.pop("feed"), "feed")
    return check_unit(RoUnit(**row, feed_c=feed_c))


def _body(ctx: Context, unit: RoUnit) -> RoUnitBody:
    row = {name: getattr(unit, name) for name in RoUnitBody.model_fields if name != "feed"}
    return RoUnitBody(**row, feed=ctx.shown(Parameter.TEMPERATURE, unit.feed_c, finer=True))


def _shown(ctx: Context, unit: RoUnit, days: int) -> FreshWater:
    needs = needs_of(ctx.household, days)
    state = state_of(ctx.household, unit, needs, days)
    start, why = _start(ctx, state, needs, days)
    cost, missing = _cost(state)
    week = litres_words(weekly_need_l(state, needs, days), 0)
    return FreshWater(
        unit=_body(ctx, unit),
        temperature_unit=unit_of(Parameter.TEMPERATURE, ctx.keeper.units).label,
        flow=_flow(state),
        waste=phrase("fresh_water.waste", waste=show_number(state.waste, 1), litres=week),
        stages=[_stage(one) for one in state.stages],
        beds=_beds(state),
        diagnoses=[phrases("fresh_water.diagnosis")[key] for key in state.diagnoses],
        start=start,
        start_why=why,
        needs=[
            WaterNeedShown(day=one.day, day_words=day_words(one.day), litres=litres_words(one.litres), what=one.what)
            for one in needs
        ],
        cost=cost,
        cost_missing=missing,
        better=_better(state),
    )


def _flow(state: UnitState) -> WaterFact:
    expected = litres_words(float(state.flow), 2)
    words = phrase("fresh_water.flow", l_h=expected)
    if state.unit.measured_l_h:
        timed = litres_words(state.unit.measured_l_h, 2)
        words = phrase("fresh_water.flow_measured", l_h=timed, expected=expected)
    return WaterFact(words=words, working=working_shown(state.flow.working))


def _stage(one: StageLife) -> RoStageShown:
    words = phrase("fresh_water.used", used=litres_words(one.used_l, 0))
    if one.lasts is not None:
        words = phrase("fresh_water.lasts", part=part_words(one.used_l, float(one.lasts), "L", 0))
    if one.worn is not None:
        words = phrase("fresh_water.kept_back", percent=show_number(float(one.worn), 1))
    working = one.worn.working if one.worn is not None else one.lasts.working if one.lasts is not None else ()
    return RoStageShown(
        key=one.key,
        name=phrases("fresh_water.part")[one.key],
        words=words,
        due=_due(one),
        left_percent=round(one.left * 100),
        working=working_shown(working),
    )


def _beds(state: UnitState) -> str:
    """Which of separate beds goes first; empty for one mixed resin."""
    names = phrases("fresh_water.bed")
    lives = [f"{names[one.key]} {litres_words(float(one.lasts), 0)}" for one in state.beds]
    return phrase("fresh_water.beds", lives=listed(lives)) if lives else ""


def _due(one: StageLife) -> str:
    if one.steady:
        return phrase("fresh_water.steady")
    if one.due is None or one.early is None or one.late is None:
        return phrase("fresh_water.no_due")
    if one.due == one.late:
        return phrase("fresh_water.due_now")
    early, late, due = (date_words(day) for day in (one.early, one.late, one.due))
    return phrase("fresh_water.due", due=due, early=early, late=late)


def _start(ctx: Context, state: UnitState, needs: list[WaterNeed], days: int) -> tuple[str, str]:
    found = start_for(state, needs, ctx.now, ctx.keeper.zone)
    if found is None:
        return phrase("fresh_water.no_start", days=days), ""
    local = found.at.astimezone(ctx.keeper.zone)
    words = phrase("fresh_water.start", day=day_words(local.date()), time=clock_words(local.time()))
    if found.late:
        words = phrase("fresh_water.start_now")
    hours, litres = show_number(found.hours, 1), litres_words(found.litres, 0)
    why = phrase("fresh_water.ready", hours=hours, litres=litres, day=day_words(found.for_day))
    return words, why if found.fits else f"{why}. {phrase('fresh_water.too_small')}"


def _cost(state: UnitState) -> tuple[str, str]:
    cost, names = cost_of_100_l(state), phrases("fresh_water.part")
    whole, litres = show_number(cost.whole, 2), litres_words(100.0, 0)
    words = phrase("fresh_water.cost", whole=whole, litres=litres) if cost.parts else ""
    missing = ", ".join(names[key] for key in cost.missing)
    return words, phrase("fresh_water.cost_missing", parts=missing) if missing else ""


def _better(state: UnitState) -> list[str]:
    names = phrases("fresh_water.better")
    return [
        phrase(
            "fresh_water.resin_then",
            what=names[one.key], now=litres_words(one.now_l, 0), then=litres_words(one.then_l, 0),
        )
        for one in better_stages(state)
    ]  # fmt: skip
