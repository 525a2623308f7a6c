"""Dosing: what is used up a day, and the routine that replaces it."""

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import InputError, check_range
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import moment_words
from salttide.core.estimate.dose_review import Fit, Review, dose_words, review_dose
from salttide.core.estimate.evaporation import evaporation_told
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    MAGNESIUM,
    USED,
    DailySupplements,
    DayAmount,
    Means,
    Need,
    Reactor,
    brought_by_changes,
    need_from_uptake,
    plan_routine,
)
from salttide.core.estimate.uptake import Companion, UptakePoint, companions, history_needs, turns, uptake_history
from salttide.core.ledger.plan import DailyDose
from salttide.core.planning.delivery import delivery_of, diagnosis
from salttide.core.science.additives import brought_per_mole
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import difference_canonical, difference_shown, unit_of
from salttide.core.system.shelf import Additive
from salttide.store import change as change_store
from salttide.store import container as container_store
from salttide.store import shelf

from .context import Context, In, Key
from .dosing_told import Told, told_of
from .models import Choice, Id, Model, Recorded, RequestModel
from .pumps import set_pumps

router = APIRouter(prefix="/api/systems/{system_id}/dosing", tags=["dosing"])


class PartBody(RequestModel):
    """An additive for alkalinity, and its share of the doses in percent."""

    additive_id: Id
    percent: float = 100.0


class DoseRoutineBody(RequestModel):
    """How the uptake is replaced, in the keeper's units. uptake: of alkalinity a day, null for as told."""

    uptake: float | None = None
    changes: bool = True
    lime_l: float = 0.0
    reactor: bool = False
    effluent: float | None = None
    flow_ml_min: float | None = None
    alkalinity: list[PartBody] = Field(default_factory=list, max_length=2)
    calcium_id: Id | None = None
    magnesium_id: Id | None = None
    reservoir_l: float | None = None


class UptakeRow(Model):
    """What is used a day of one parameter: as told, its interval, and what is to be said of it."""

    parameter: Parameter
    name: str
    amount: str
    unit: str
    interval: str
    words: str


@dataclass(frozen=True, slots=True)
class HistoryPoint:
    """Uptake as it was told at a moment, in the keeper's unit a day."""

    at: datetime
    value: float
    low: float
    high: float


class ReviewShown(Model):
    """Whether what comes in a day still replaces what is used."""

    fit: Fit
    words: str


class DoseAdditive(Choice):
    """An additive of the shelf and what it raises."""

    id: int
    raises: list[Parameter]
    solution: bool


class DosingOffer(Model):
    """What is told of the uptake, how it is replaced now, and what could be chosen."""

    name: str
    unit: str
    missing: list[str]
    uptake: list[UptakeRow]
    history: list[HistoryPoint]
    causes: list[str]
    review: ReviewShown
    additives: list[DoseAdditive]
    evaporation: str
    body: DoseRoutineBody
    adopted: bool


@router.get("")
def offer(system_id: Id, ctx: In) -> DosingOffer:
    """What is used up, since when, and how it is replaced."""
    told = told_of(ctx, system_id)
    unit = unit_of(ALKALINITY, ctx.keeper.units)
    record = ctx.household.history(told.system, history_needs(ctx.now))
    history, pace = uptake_history(record, ALKALINITY, ctx.now), told.paces[ALKALINITY]
    causes = turns(record, history, pace, ALKALINITY, ctx.keeper.zone, ctx.keeper.units) if pace else []
    additives = [_choice(item) for item in ctx.stored.additives]
    measured = told.view.present
    missing = [f"a reading of {spoken(p)}" for p in (ALKALINITY, CALCIUM) if p not in measured]
    return DosingOffer(
        name=told.system.name,
        unit=unit.label,
        missing=missing,
        uptake=_uptake(told),
        history=[_point(ctx, point) for point in history],
        causes=[*causes, *(_pumps_said(ctx, system_id) if causes else [])],
        review=_review(told, review_of(told)),
        additives=additives,
        evaporation=_evaporation(told),
        body=_first_body(told, additives),
        adopted=bool(container_store.wish(ctx.connection, system_id)),
    )


def _pumps_said(ctx: Context, system_id: int) -> list[str]:
    """Growth and a failing pump look alike in tests: the containers tell them apart."""
    held = ctx.stored.containers(system_id)
    known = [(one, told) for one in held if one.pump and (told := delivery_of(one, ctx.now))]
    wrong = [diagnosis(one, held, ctx.now, ctx.keeper.zone) for one, told in known if told.fault]
    if wrong:
        return [f"Mind the pumps: {each.title}; what really came is counted already." for each in wrong if each]
    return ["The containers fall as they are set: it is no pump."] if known else []


def _point(ctx: Context, point: UptakePoint) -> HistoryPoint:
    low, value, high = (
        difference_shown(ALKALINITY, each, ctx.keeper.units) for each in (point.low, point.per_day, point.high)
    )
    return HistoryPoint(point.at.astimezone(ctx.keeper.zone), value, low, high)


def _choice(item: Additive) -> DoseAdditive:
    raised = [p for p, amount in brought_per_mole(item.formula).items() if amount > 0 and FACTS[p].dissolved]
    solution = item.strength_g_l is not None
    strength = f"{show_number(item.strength_g_l or 0, 0)} g/L" if solution else "dry"
    return DoseAdditive(
        key=str(item.id), name=item.name, remark=f"{item.formula}, {strength}", id=item.id, raises=raised,
        solution=solution,
    )  # fmt: skip


def _uptake(told: Told) -> list[UptakeRow]:
    """Alkalinity with its interval, and the two that should go with it."""
    pace = told.paces[ALKALINITY]
    if pace is None:
        words = "too few readings to tell: four over six days by one instrument"
        return [UptakeRow(parameter=ALKALINITY, name="Alkalinity", amount="–", unit="", interval="", words=words)]
    since = moment_words(pace.since, told.ctx.keeper.zone)
    rows = [
        UptakeRow(
            parameter=ALKALINITY, name="Alkalinity", amount=told.speed(ALKALINITY, -pace.per_day, False),
            unit=f"{unit_of(ALKALINITY, told.ctx.keeper.units).label} a day",
            interval=_between(told, ALKALINITY, -pace.high, -pace.low),
            words=f"from {pace.count} readings since {since}",
        )
    ]  # fmt: skip
    return rows + [
        _companion(told, one) for one in companions(-pace.per_day, told.paces[CALCIUM], told.paces[MAGNESIUM])
    ]


def _between(told: Told, parameter: Parameter, low: float, high: float) -> str:
    return f"{told.speed(parameter, low, False)} to {told.speed(parameter, high, False)}"


def _companion(told: Told, one: Companion) -> UptakeRow:
    goes = told.speed(one.parameter, one.expected_high, False)
    if one.expected_low != one.expected_high:
        goes = _between(told, one.parameter, one.expected_low, one.expected_high)
    return UptakeRow(
        parameter=one.parameter,
        name=FACTS[one.parameter].name,
        amount=told.speed(one.parameter, one.told.per_day, False) if one.told else "–",
        unit=f"{unit_of(one.parameter, told.ctx.keeper.units).label} a day",
        interval=_between(told, one.parameter, one.told.low, one.told.high) if one.told else "",
        words=f"{goes} go with that alkalinity: {one.words}",
    )


def review_of(told: Told) -> Review:
    """Whether what comes in a day still replaces what is used."""
    by_changes = brought_by_changes(told.changes, ALKALINITY, told.targets.get(ALKALINITY))
    return review_dose(told.paces[ALKALINITY], told.dosed, by_changes)


def _review(told: Told, found: Review) -> ReviewShown:
    words = dose_words(found, lambda amount: told.speed(ALKALINITY, amount))
    off = found.fit in (Fit.SHORT, Fit.OVER)
    return ReviewShown(fit=found.fit, words=f"{words} The dose below would hold it." if off else words)


def _evaporation(told: Told) -> str:
    found = evaporation_told(told.view.ledger, told.ctx.now)
    how = f"from {found.count} top-offs" if found else "as usual for its size: no top-offs are written down"
    return f"{show_number(told.evaporation_l, 1)} L evaporate a day, {how}"


def _first_body(told: Told, additives: Sequence[DoseAdditive]) -> DoseRoutineBody:
    """What was adopted last, or two additives of the shelf: solutions before powders."""
    kept = container_store.wish(told.ctx.connection, told.system.id)
    if kept:
        return DoseRoutineBody(**{name: kept[name] for name in DoseRoutineBody.model_fields if name in kept})

    def first(parameter: Parameter) -> int | None:
        known = sorted((one for one in additives if parameter in one.raises), key=lambda one: not one.solution)
        return known[0].id if known else None

    if told.system.schools.answers.get("replacing") == "changes_alone":
        return DoseRoutineBody()
    soda, calcium = first(ALKALINITY), first(CALCIUM)
    parts = [PartBody(additive_id=soda)] if soda else []
    return DoseRoutineBody(alkalinity=parts, calcium_id=calcium)


def means_of(told: Told, body: DoseRoutineBody) -> Means:
    """The body as the core takes it. Raises InputError at its field."""
    shelved = {item.id: item for item in shelf.additives(told.ctx.connection)}

    def additive(number: int | None, field: str) -> Additive | None:
        if number is None:
            return None
        if number not in shelved:
            raise InputError("this additive is not on the shelf", field=field, accepted="one of the shelf")
        return shelved[number]

    parts = []
    for place, part in enumerate(body.alkalinity):
        share = check_range("share", part.percent, "%", 0, 100, field=f"alkalinity.{place}.percent")
        found = additive(part.additive_id, f"alkalinity.{place}.additive_id")
        assert found
        parts.append((found, share / 100))
    check_range("limewater", body.lime_l, "L a day", 0, 1000, field="lime_l")
    return Means(
        tuple(parts),
        additive(body.calcium_id, "calcium_id"),
        additive(body.magnesium_id, "magnesium_id"),
        body.lime_l,
        told.view.water.get(Parameter.TEMPERATURE, 25.0),
        _reactor(told, body),
    )


def _reactor(told: Told, body: DoseRoutineBody) -> Reactor | None:
    if not body.reactor:
        return None
    if body.effluent is None:
        raise InputError("test the effluent of the reactor", field="effluent", accepted="its alkalinity")
    if body.flow_ml_min is None:
        raise InputError("time the flow of the reactor", field="flow_ml_min", accepted="0 to 500 mL/min")
    unit = unit_of(ALKALINITY, told.ctx.keeper.units)
    return Reactor(unit.to_canonical(body.effluent), body.flow_ml_min)


def need_of(told: Told, body: DoseRoutineBody) -> Need:
    """What is to be replaced a day: as typed, or as told. Raises InputError where neither is known."""
    pace, magnesium = told.paces[ALKALINITY], told.paces[MAGNESIUM]
    if body.uptake is None:
        if pace is None:
            raise InputError(
                "the uptake cannot be told yet: type it, or test alkalinity four times over a week",
                field="uptake",
                accepted=f"0 to 8 {unit_of(ALKALINITY, told.ctx.keeper.units).label} a day",
            )
        uptake = max(0.0, -pace.per_day)
    else:
        uptake = difference_canonical(ALKALINITY, body.uptake, told.ctx.keeper.units)
    goes = max(0.0, -magnesium.per_day) if magnesium and magnesium.real and magnesium.per_day < 0 else 0.0
    return need_from_uptake(uptake, goes)


def routine_of(told: Told, body: DoseRoutineBody) -> DailySupplements:
    """The routine that a body asks for."""
    changes = told.changes if body.changes else None
    return plan_routine(
        need_of(told, body), told.targets, told.system.volume_l, means_of(told, body), changes, told.evaporation_l
    )


@router.post("", status_code=201)
def adopt(system_id: Id, body: DoseRoutineBody, ctx: In, key: Key) -> Recorded:
    """Dose so from now on: pumps are set, the rest is planned for every day."""
    told = told_of(ctx, system_id)
    routine = routine_of(told, body)
    daily = [_daily(told, one) for one in routine.amounts]
    daily += [
        DailyDose(one.name, 0.0, {p: meq * told.system.volume_l for p, meq in one.amounts.items()})
        for one in routine.brought
        if one.name != "water changes"
    ]
    kept = container_store.wish(ctx.connection, system_id)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        rest = set_pumps(connection, system_id, daily, ctx.now, key)
        change_store.set_daily(connection, system_id, ctx.today, rest, key)
        container_store.keep_wish(connection, system_id, {**kept, **body.model_dump()}, key)
        return {"command": key, "words": f"the daily dose of {told.system.name} is set"}

    return Recorded(**ctx.command(key, act))


def _daily(told: Told, one: DayAmount) -> DailyDose:
    volume = told.system.volume_l
    raised = {p: amount for p, amount in brought_per_mole(one.additive.formula).items() if amount > 0}
    per_rise = {p: amount / raised[one.parameter] for p, amount in raised.items()}
    kept = {p: one.rise * volume * share for p, share in per_rise.items() if p in USED}
    return DailyDose(one.additive.name, one.mass_g, kept)
