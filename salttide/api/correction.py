"""Correction: what is out of its target brought there by doses, day by day; put on the rota, and stopped by a test."""

import sqlite3
from collections.abc import Mapping, Sequence
from datetime import date, time, timedelta
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import InputError, SaltTideError
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import capital, clock_words, counted, day_words, listed, moment_words
from salttide.core.estimate.supplementation import day_amount
from salttide.core.judgement.situation import Situation
from salttide.core.planning.correction import (
    Aim,
    Correction,
    CorrectionStep,
    DoseShare,
    gentler_choice,
    largest_safe_rise,
    off_course,
    plan_correction,
)
from salttide.core.planning.ramp import refuse_zero
from salttide.core.planning.work_order import DoseWorkOrder, VisualCheckOrder
from salttide.core.science.additives import brought_per_mole
from salttide.core.science.amount import dose_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.recipe import cautions_of, name_of_formula, never_meet
from salttide.core.science.units import parse_measurement, show, show_difference, unit_of
from salttide.core.system.shelf import Additive
from salttide.store import change as change_store
from salttide.store import shelf
from salttide.store.database import to_text

from .context import Context, In, Key
from .dosing_told import Told, told_of, water_of
from .models import Caution, Id, Model, Recorded, RequestModel, caution_shown
from .plan import DOSE_MINUTES

router = APIRouter(prefix="/api/systems/{system_id}/dosing/correction", tags=["correction"])
CORRECTED = (
    Parameter.ALKALINITY,
    Parameter.CALCIUM,
    Parameter.MAGNESIUM,
    Parameter.POTASSIUM,
    Parameter.NITRATE,
    Parameter.PHOSPHATE,
)
NUTRIENTS = (Parameter.NITRATE, Parameter.PHOSPHATE)
FIRST_HOUR = 9
OF_ALKALINITY = ("Na2CO3", "NaHCO3", "NaOH")


class AimBody(RequestModel):
    """What is brought where: the target as typed, and the additive."""

    parameter: Parameter
    target: str = Field(max_length=30)
    additive_id: Id


class DoseCorrectionBody(RequestModel):
    """What is corrected together. hours: over how much of the day the doses may lie, 24 with a pump."""

    aims: list[AimBody] = Field(default_factory=list, max_length=6)
    hours: int = Field(12, ge=4, le=24)


class AimOffer(Model):
    """A parameter that could be corrected: where it stands, its band and limit, and by what."""

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
    """What can be corrected, what is out first, and whether a plan under way was disproved by a test."""

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
    gentler: list[GentlerShown]
    cautions: list[Caution]


def _situation(told: Told) -> Situation:
    ctx = told.ctx
    return Situation(told.system, told.view.ledger, ctx.now, ctx.keeper.zone, ctx.keeper.units)


@router.get("")
def offer(system_id: Id, ctx: In) -> CorrectionOffer:
    """What stands where, and what raises it."""
    told = told_of(ctx, system_id)
    additives = sorted(ctx.stored.additives, key=lambda item: item.strength_g_l is None)
    aims = [found for p in CORRECTED if (found := _aim_offer(told, p, additives))]
    wanted = [one for one in aims if one.low and one.additive_ids]
    body = DoseCorrectionBody(
        aims=[AimBody(parameter=p.parameter, target=p.target, additive_id=p.additive_ids[0]) for p in wanted], hours=12
    )
    doses = ctx.household.ahead(told.system).doses
    off = off_course(doses, told.view.ledger)
    under = f"A correction is under way: {counted(len(doses), 'dose')} on the rota." if doses else ""
    return CorrectionOffer(aims=aims, body=body, off_course=_off_words(ctx, off), under_way=under)


def _off_words(ctx: Context, off: Any) -> str:
    if off is None:
        return ""
    measured, expected = (show(off.parameter, value, ctx.keeper.units) for value in (off.measured, off.expected))
    return (
        f"{FACTS[off.parameter].name} measured {measured}, the plan expected {expected}, more apart than the tests "
        "scatter. Stop, test again; then plan anew from what is there."
    )


def _aim_offer(told: Told, parameter: Parameter, additives: Sequence[Additive]) -> AimOffer | None:
    known = told.view.present.get(parameter)
    if known is None:
        return None
    units, band = told.ctx.keeper.units, told.system.bands.get(parameter)
    unit, limit = unit_of(parameter, units), _situation(told).limit(parameter)
    target = max(band.middle if band else known.value, known.value)
    raising = [
        one for one in additives if brought_per_mole(one.formula).get(parameter, 0) > 0 and _mainly(one, parameter)
    ]

    return AimOffer(
        parameter=parameter,
        name=FACTS[parameter].name,
        unit=unit.label,
        now=show_number(unit.from_canonical(known.value), unit.decimals),
        known=moment_words(known.reading.at, told.ctx.keeper.zone),
        band=_band(told, parameter),
        limit=show_difference(parameter, limit.up, known.value, units),
        low=bool(band and known.value < band.low),
        target=show_number(unit.from_canonical(target), unit.decimals),
        additive_ids=[one.id for one in raising],
    )


def _band(told: Told, parameter: Parameter) -> str:
    """The ends of a band in the keeper's unit, which stands beside the value already."""
    band, unit = told.system.bands.get(parameter), unit_of(parameter, told.ctx.keeper.units)
    if band is None:
        return ""
    return " to ".join(show_number(unit.from_canonical(end), unit.decimals) for end in (band.low, band.high))


def _mainly(additive: Additive, parameter: Parameter) -> bool:
    """Whether an additive is for this: potassium nitrate is for nitrate, not for its potassium."""
    brought = brought_per_mole(additive.formula)
    if brought.get(parameter, 0) <= 0:
        return False
    if parameter == Parameter.POTASSIUM:
        return not any(p in brought for p in NUTRIENTS)
    if parameter == Parameter.ALKALINITY:
        return Parameter.PHOSPHATE not in brought
    return True


def aims_of(told: Told, body: DoseCorrectionBody) -> list[Aim]:
    """The body as the core takes it. Raises InputError at its field."""
    shelved = {item.id: item for item in shelf.additives(told.ctx.connection)}
    situation, aims = _situation(told), []
    for place, one in enumerate(body.aims):
        known = told.view.present.get(one.parameter)
        if known is None:
            raise InputError("measure it first", field=f"aims.{place}.target", accepted="a reading on the Bench")
        if one.additive_id not in shelved:
            raise InputError("this additive is not on the shelf", field=f"aims.{place}.additive_id", accepted="another")
        try:
            unit = unit_of(one.parameter, told.ctx.keeper.units)
            target = parse_measurement(one.parameter, one.target, unit.key, told.ctx.keeper.habits.sign)
            _check_likely(told, one.parameter, target)
            if one.parameter in NUTRIENTS:
                eaten = listed([sight.kind.name for sight in situation.seen("eats") + situation.seen("unsure")])
                refuse_zero(known.value, eaten, FACTS[one.parameter].name)
        except SaltTideError as error:
            error.field = f"aims.{place}.target"
            raise
        net = -told.view.net([one.parameter]).get(one.parameter, 0.0)
        aims.append(
            Aim(one.parameter, known.value, target, shelved[one.additive_id], net, situation.limit(one.parameter))
        )
    return aims


def _check_likely(told: Told, parameter: Parameter, target: float) -> None:
    """A target beyond what any reef is kept at would drop out or harm: refused with the most that is taken."""
    most = FACTS[parameter].likely.high
    if target > most:
        shown, units = show(parameter, target, told.ctx.keeper.units), told.ctx.keeper.units
        raise InputError(
            f"{shown} of {spoken(parameter)} is more than any system is kept at: it would drop out, or harm",
            accepted=f"at most {show(parameter, most, units)}",
        )


def planned(told: Told, body: DoseCorrectionBody) -> tuple[list[Aim], Correction]:
    """The plan of a body. Errors name the field of their aim."""
    aims = aims_of(told, body)
    changes = [
        (planned.day - told.ctx.today).days
        for planned, _ in told.ctx.household.ahead(told.system).steps
        if planned.is_change
    ]
    busy = [day for day in changes if day >= 1]
    try:
        return aims, plan_correction(aims, water_of(told), told.system.volume_l, body.hours, busy)
    except SaltTideError as error:
        place = [aim.parameter.value for aim in aims].index(error.field) if error.field in list(Parameter) else -1
        error.field = f"aims.{place}.target" if place >= 0 else "aims"
        raise


@router.post("/preview")
def preview(system_id: Id, body: DoseCorrectionBody, ctx: In) -> CorrectionAnswer:
    """The correction by days, without effect."""
    told = told_of(ctx, system_id)
    aims, plan = planned(told, body)
    used = [aim.additive.formula for aim in aims]
    keys = [key for formula in used for key in cautions_of(formula)]
    if any(never_meet(one, other) for one in used for other in used):
        keys.append("two_concentrates")
    return CorrectionAnswer(
        summary=_summary(ctx, aims, plan),
        days=[_day_shown(told, step) for step in plan.steps],
        largest=_largest(told, aims),
        side=_side(plan),
        gentler=_gentler(told, aims, plan),
        cautions=[caution_shown(key) for key in dict.fromkeys(keys)],
    )


def _summary(ctx: Context, aims: Sequence[Aim], plan: Correction) -> str:
    goals = [f"{spoken(aim.parameter)} to {show(aim.parameter, aim.target, ctx.keeper.units)}" for aim in aims]
    last = day_words(_day(ctx, plan.days))
    return f"{capital(listed(goals))} by {last}, within the daily limits."


def _largest(told: Told, aims: Sequence[Aim]) -> str:
    """The safe single dose: more of it at once would move pH too far, drop out, or pass the daily limit."""
    parts = []
    for aim in aims:
        most = largest_safe_rise(aim.additive.formula, aim.parameter, water_of(told), aim.limit)
        if most < FACTS[aim.parameter].possible.high:
            rise = show_difference(aim.parameter, most, 0.0, told.ctx.keeper.units)
            amount = day_amount(aim.additive, aim.parameter, most, told.system.volume_l)
            size = dose_text(amount.mass_g, amount.ml, aim.additive.formula)
            parts.append(f"{size} {aim.additive.name} ({spoken(aim.parameter)} +{rise})")
    return f"At once never more than {listed(parts)}: pH, precipitation or the daily limit bounds it." if parts else ""


def _day(ctx: Context, number: int) -> date:
    return ctx.today + timedelta(days=number)


def _day_shown(told: Told, step: CorrectionStep) -> DayShown:
    units, day = told.ctx.keeper.units, _day(told.ctx, step.day)
    first = min((one.minute for one in step.portions), default=0)
    return DayShown(
        day=day.isoformat(),
        words=day_words(day),
        portions=[_portion(told, one, first) for one in step.portions],
        expected=[f"{spoken(p)} {show(p, value, units)}" for p, value in step.expected.items()],
        tests=[spoken(p) for p in step.tests],
    )


def _portion(told: Told, one: DoseShare, first: int) -> DosePortion:
    minute = FIRST_HOUR * 60 + one.minute - first
    return DosePortion(
        time=clock_words(time(minute // 60 % 24, minute % 60)),
        amount=dose_text(one.mass_g, one.ml, one.additive.formula),
        name=one.additive.name,
        raises=f"{spoken(one.parameter)} +{show_difference(one.parameter, one.rise, 0.0, told.ctx.keeper.units)}",
        ph="" if one.ph_jump is None else f"pH {signed_ph(one.ph_jump)}",
    )


def signed_ph(jump: float) -> str:
    """A change of pH with its sign."""
    text = show_number(jump, 2)
    return text if text.startswith("−") else f"+{text}"


def _side(plan: Correction) -> str:
    parts = [
        f"{FACTS[p].name.lower()} +{show_number(amount, 1)} mg/L" for p, amount in plan.side.items() if amount >= 0.05
    ]
    return f"It leaves behind: {', '.join(parts)}." if parts else ""


def _gentler(told: Told, aims: Sequence[Aim], plan: Correction) -> list[GentlerShown]:
    by_day = [sum(one.rise for one in step.portions if one.parameter == Parameter.ALKALINITY) for step in plan.steps]
    if not max(by_day, default=0.0):
        return []
    return [
        GentlerShown(name=name_of_formula(one.formula), ph=signed_ph(one.jump), chosen=one.chosen, why=one.why)
        for one in gentler_choice(min(3.0, max(by_day)), water_of(told), OF_ALKALINITY)
    ]


@router.post("", status_code=201)
def begin(system_id: Id, body: DoseCorrectionBody, ctx: In, key: Key) -> Recorded:
    """Put the doses and their tests on the rota, in place of a correction that is under way."""
    told = told_of(ctx, system_id)
    aims, plan = planned(told, body)
    level = {aim.parameter: aim.value for aim in aims}
    work: list[tuple[date, str, str, DoseWorkOrder | VisualCheckOrder]] = []
    for step in plan.steps:
        work += _step_work(told, step, level)
        level = dict(step.expected)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        change_store.withdraw_doses(connection, system_id, key)
        for day, kind, name, job in work:
            change_store.add_step(connection, system_id, key, day, kind, name, DOSE_MINUTES, job)
        return {"command": key, "words": f"the correction is on the rota, {plan.days} days"}

    return Recorded(**ctx.command(key, act))


def _step_work(
    told: Told, step: CorrectionStep, level: Mapping[Parameter, float]
) -> list[tuple[date, str, str, DoseWorkOrder | VisualCheckOrder]]:
    """A day's doses, one entry for each additive, and its tests."""
    ctx, day = told.ctx, _day(told.ctx, step.day)
    found: list[tuple[date, str, str, DoseWorkOrder | VisualCheckOrder]] = []
    for additive in dict.fromkeys(portion.additive for portion in step.portions):
        mine = [portion for portion in step.portions if portion.additive == additive]
        mass, parts = sum(portion.mass_g for portion in mine), len(mine)
        ml = None if mine[0].ml is None else sum(portion.ml or 0.0 for portion in mine)
        brought = brought_per_mole(additive.formula)
        rise = sum(portion.rise for portion in mine) * told.system.volume_l
        amounts: dict[Parameter, float] = {
            p: rise * amount / brought[mine[0].parameter]
            for p, amount in brought.items()
            if p not in (Parameter.SODIUM, Parameter.CHLORIDE)
        }
        name = f"Dose {dose_text(mass, ml, additive.formula)} {additive.name}" + (
            f" in {parts} parts" if parts > 1 else ""
        )
        job = DoseWorkOrder(
            additive.name, mass, amounts, before={mine[0].parameter: level[mine[0].parameter]},
            made_at=to_text(ctx.now), step=sum(portion.rise for portion in mine), ml=ml or 0.0,
            formula=additive.formula,
        )  # fmt: skip
        found.append((day, "dose", name, job))
    for parameter in step.tests:
        expected = show(parameter, step.expected[parameter], ctx.keeper.units)
        why = f"the correction expects {expected}; if it is not, stop and plan anew"
        found.append((day, "look", f"Test {spoken(parameter)}", VisualCheckOrder(f"{day.isoformat()}T20:00:00Z", why)))
    return found
