"""Correction: bring what is off target back by doses, day by day; put on the rota, and stopped by a test that
disagrees."""

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, clock_words, counted, day_words, listed, moment_words
from salttide.core.planning.correction import (
    Aim,
    Correction,
    CorrectionStep,
    DoseShare,
    gentler_choice,
    off_course,
)
from salttide.core.planning.correction_work import (
    ALKALINITY_FORMULAS,
    CORRECTABLE,
    MAX_COMPARED_MEQ_L,
    additives_for,
    clock_of,
    correction_work,
    largest_daily_rise,
    side_words,
)
from salttide.core.planning.daily_fit import DailyFit
from salttide.core.remedy.ions import dosed_remedy
from salttide.core.science.amount import dose_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.recipe import cautions_together, name_of_formula
from salttide.core.science.units import show, show_difference, unit_of
from salttide.core.system.shelf import Additive
from salttide.household.correction import AimRequest, aims_of, largest_dose_words, planned_correction
from salttide.household.household import Household
from salttide.household.remedy import follow_correction
from salttide.household.uptake import UptakeContext
from salttide.store import change as change_store

from .context import Context, In, Key
from .models import Caution, Id, Model, Recorded, RequestModel, caution_shown
from .uptake import uptake_of

router = APIRouter(prefix="/api/systems/{system_id}/dosing/correction", tags=["correction"])


class AimBody(RequestModel):
    """A parameter to correct: the target as typed, and the additive."""

    parameter: Parameter
    target: str = Field(max_length=30)
    additive_id: Id


class DoseCorrectionBody(RequestModel):
    """Parameters to correct together. hours: the part of the day the doses may be spread over, 24 with a pump ·
    adjust: fit the daily doses to what is used as well."""

    aims: list[AimBody] = Field(default_factory=list, max_length=6)
    hours: int = Field(12, ge=4, le=24)
    adjust: bool = False


class AimOffer(Model):
    """A parameter that could be corrected: its value, band and limit, and what raises it."""

    parameter: Parameter
    name: str
    unit: str
    now: str
    known: str
    band: str
    limit: str
    low: bool
    target: str
    additive_ids: list[int]


class CorrectionOffer(Model):
    """What can be corrected, most out of band first, and whether a test disagrees with the plan under way."""

    aims: list[AimOffer]
    body: DoseCorrectionBody
    off_course: str
    under_way: str


class DosePortion(Model):
    """A dose of the day."""

    time: str
    amount: str
    name: str
    raises: str
    ph: str


class DayShown(Model):
    """A day of the plan."""

    day: str
    words: str
    portions: list[DosePortion]
    expected: list[str]
    tests: list[str]


class GentlerShown(Model):
    """An alkalinity compound and what one dose of it does to pH at once."""

    name: str
    ph: str
    chosen: bool
    why: str


class CorrectionAnswer(Model):
    """The plan, without effect."""

    summary: str
    days: list[DayShown]
    largest: str
    side: str
    daily: list[str]
    gentler: list[GentlerShown]
    cautions: list[Caution]


@router.get("")
def options(system_id: Id, ctx: In) -> CorrectionOffer:
    """The value of each parameter, and what raises it."""
    uptake = uptake_of(ctx, system_id)
    aims = [found for p in CORRECTABLE if (found := _aim_offer(uptake, p, ctx.stored.additives))]
    view = ctx.household.outlook(uptake.system)
    followed = {one.case.parameter for one in view.cases if one.standing.live}
    wanted = [one for one in aims if one.low and one.additive_ids and one.parameter not in followed]
    body = DoseCorrectionBody(
        aims=[AimBody(parameter=p.parameter, target=p.target, additive_id=p.additive_ids[0]) for p in wanted],
        hours=12,
        adjust=True,
    )
    doses = ctx.household.ahead(uptake.system).doses
    off = off_course(doses, uptake.view.ledger)
    under = phrase("correction.a_correction_is_under_way_on", doses=counted(len(doses), "dose")) if doses else ""
    return CorrectionOffer(aims=aims, body=body, off_course=_off_words(ctx, off), under_way=under)


def _off_words(ctx: Context, off: Any) -> str:
    if off is None:
        return ""
    measured, expected = (show(off.parameter, value, ctx.keeper.units) for value in (off.measured, off.expected))
    return phrase(
        "correction.measured_but_the_plan_expected",
        name=FACTS[off.parameter].name,
        measured=measured,
        expected=expected,
    )


def _aim_offer(uptake: UptakeContext, parameter: Parameter, additives: Sequence[Additive]) -> AimOffer | None:
    known = uptake.view.present.get(parameter)
    if known is None:
        return None
    units, band = uptake.household.keeper.units, uptake.system.bands.get(parameter)
    unit, limit = unit_of(parameter, units), uptake.situation.limit(parameter)
    goal = uptake.system.aim(parameter)
    target = known.value if goal is None else max(goal, known.value)
    return AimOffer(
        parameter=parameter,
        name=FACTS[parameter].name,
        unit=unit.label,
        now=show_number(unit.from_canonical(known.value), unit.decimals),
        known=moment_words(known.reading.at, uptake.household.keeper.zone),
        band=_band(uptake, parameter),
        limit=show_difference(parameter, limit.up, known.value, units),
        low=bool(band and known.value < band.low),
        target=show_number(unit.from_canonical(target), unit.decimals),
        additive_ids=[one.id for one in additives_for(parameter, additives, uptake.household.keeper.additive)],
    )


def _band(uptake: UptakeContext, parameter: Parameter) -> str:
    """The ends of a band in the keeper's unit, without the unit."""
    band, unit = uptake.system.bands.get(parameter), unit_of(parameter, uptake.household.keeper.units)
    if band is None:
        return ""
    return " to ".join(show_number(unit.from_canonical(end), unit.decimals) for end in (band.low, band.high))


@dataclass(frozen=True)
class _Planned:
    """A body as planned: its aims, the plan, and the daily doses that fit, by parameter."""

    aims: list[Aim]
    plan: Correction
    fits: Mapping[Parameter, DailyFit | None]


def _planned(ctx: Context, uptake: UptakeContext, body: DoseCorrectionBody) -> _Planned:
    """The plan of a body. Errors name their field."""
    requests = [
        AimRequest(one.parameter, _target(ctx, one, place), one.additive_id, body.adjust)
        for place, one in enumerate(body.aims)
    ]
    found = aims_of(uptake, requests)
    aims = [one.aim for one in found]
    fits = {one.aim.parameter: one.fit for one in found}
    return _Planned(aims, planned_correction(uptake, aims, body.hours), fits)


def _target(ctx: Context, one: AimBody, place: int) -> float:
    return ctx.typed(one.parameter, one.target, f"aims.{place}.target")


@router.post("/preview")
def preview(system_id: Id, body: DoseCorrectionBody, ctx: In) -> CorrectionAnswer:
    """The correction by days, without effect."""
    uptake = uptake_of(ctx, system_id)
    planned = _planned(ctx, uptake, body)
    aims, plan = planned.aims, planned.plan
    keys = cautions_together([aim.additive.formula for aim in aims])
    return CorrectionAnswer(
        summary=_summary(ctx, aims, plan),
        days=[_day_shown(uptake, step) for step in plan.steps],
        largest=largest_dose_words(uptake, aims),
        side=side_words(plan),
        daily=[fit.words for fit in planned.fits.values() if fit],
        gentler=_gentler(uptake, aims, plan),
        cautions=[caution_shown(key) for key in keys],
    )


def _summary(ctx: Context, aims: Sequence[Aim], plan: Correction) -> str:
    goals = [f"{spoken(aim.parameter)} to {show(aim.parameter, aim.target, ctx.keeper.units)}" for aim in aims]
    last = day_words(_day(ctx.household, plan.days))
    return phrase("correction.by_within_the_daily_limits", goals=capital(listed(goals)), last=last)


def _day(household: Household, number: int) -> date:
    return household.today + timedelta(days=number)


def _day_shown(uptake: UptakeContext, step: CorrectionStep) -> DayShown:
    units, day = uptake.household.keeper.units, _day(uptake.household, step.day)
    return DayShown(
        day=day.isoformat(),
        words=day_words(day),
        portions=[_portion(uptake, step, one) for one in step.portions],
        expected=[f"{spoken(p)} {show(p, value, units)}" for p, value in step.expected.items()],
        tests=[spoken(p) for p in step.tests],
    )


def _portion(uptake: UptakeContext, step: CorrectionStep, one: DoseShare) -> DosePortion:
    rise = show_difference(one.parameter, one.rise, 0.0, uptake.household.keeper.units)
    return DosePortion(
        time=clock_words(clock_of(step, one.minute)),
        amount=dose_text(one.mass_g, one.ml, one.additive.formula),
        name=one.additive.name,
        raises=f"{spoken(one.parameter)} +{rise}",
        ph="" if one.ph_jump is None else f"pH {signed_ph(one.ph_jump)}",
    )


def signed_ph(jump: float) -> str:
    """A change of pH with its sign."""
    text = show_number(jump, 2)
    return text if text.startswith("−") else f"+{text}"


def _gentler(uptake: UptakeContext, aims: Sequence[Aim], plan: Correction) -> list[GentlerShown]:
    most = min(MAX_COMPARED_MEQ_L, largest_daily_rise(plan, Parameter.ALKALINITY))
    if not most:
        return []
    return [
        GentlerShown(name=name_of_formula(one.formula), ph=signed_ph(one.jump), chosen=one.chosen, why=one.why)
        for one in gentler_choice(most, uptake.water_now, ALKALINITY_FORMULAS)
    ]


@router.post("", status_code=201)
def begin(system_id: Id, body: DoseCorrectionBody, ctx: In, key: Key) -> Recorded:
    """Put the doses and their tests on the rota, in place of a correction that is under way."""
    uptake = uptake_of(ctx, system_id)
    planned = _planned(ctx, uptake, body)
    aims, plan = planned.aims, planned.plan
    work = correction_work(uptake.system, aims, plan, ctx.now, ctx.keeper.zone, ctx.keeper.units)
    remedies = [dosed_remedy(uptake.situation, aim, plan, work, planned.fits[aim.parameter]) for aim in aims]

    def act(connection: sqlite3.Connection) -> str:
        follow_correction(ctx.household, connection, uptake.system, remedies, key)
        change_store.withdraw_doses(connection, system_id, key)
        change_store.add_work(connection, system_id, key, work)
        return phrase("correction.the_correction_is_on_the_rota", days=plan.days)

    return ctx.record(key, act)
