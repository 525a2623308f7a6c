"""Dosing: daily uptake, and the routine that replaces it."""

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import check_range
from salttide.core.basics.number_text import fraction, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.basics.refused import refused
from salttide.core.estimate.dose_review import Fit, Review, dose_words
from salttide.core.estimate.evaporation import evaporation_told
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    MAGNESIUM,
    DailySupplements,
    Means,
    Need,
    Reactor,
    daily_doses,
    need_of_rates,
    plan_routine,
)
from salttide.core.estimate.uptake import Companion, UptakePoint, companions, history_needs, turns, uptake_history
from salttide.core.planning.delivery import delivery_of, diagnosis
from salttide.core.science.additives import brought_per_mole
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import difference_canonical, difference_shown, unit_of
from salttide.core.system.shelf import Additive
from salttide.household.uptake import UptakeContext
from salttide.store import change as change_store
from salttide.store import container as container_store
from salttide.store import shelf

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel
from .pumps import set_pumps
from .uptake import uptake_of

router = APIRouter(prefix="/api/systems/{system_id}/dosing", tags=["dosing"])


class PartBody(RequestModel):
    """An additive for alkalinity, and its share of the doses in percent."""

    additive_id: Id
    percent: float = 100.0


class DoseRoutineBody(RequestModel):
    """How the uptake is replaced, in the keeper's units. uptake: alkalinity used a day; null for the estimate."""

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
    """Daily uptake of one parameter: the estimate, its interval, and a remark."""

    parameter: Parameter
    name: str
    amount: str
    unit: str
    interval: str
    words: str


@dataclass(frozen=True, slots=True)
class HistoryPoint:
    """Uptake as estimated at one moment, in the keeper's unit a day."""

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
    """The uptake, how it is replaced now, and the choices."""

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
def options(system_id: Id, ctx: In) -> DosingOffer:
    """The uptake, its history, and how it is replaced."""
    uptake = uptake_of(ctx, system_id)
    unit = unit_of(ALKALINITY, ctx.keeper.units)
    record = ctx.household.history(uptake.system, history_needs(ctx.now))
    history, pace = uptake_history(record, ALKALINITY, ctx.now), uptake.paces[ALKALINITY]
    causes = turns(record, history, pace, ALKALINITY, ctx.keeper.zone, ctx.keeper.units) if pace else []
    additives = [_choice(item) for item in ctx.stored.additives]
    measured = uptake.view.present
    missing = [
        phrase("common.a_reading_of_parameter", parameter=spoken(p)) for p in (ALKALINITY, CALCIUM) if p not in measured
    ]
    return DosingOffer(
        name=uptake.system.name,
        unit=unit.label,
        missing=missing,
        uptake=_uptake(uptake),
        history=[_point(ctx, point) for point in history],
        causes=[*causes, *(_pumps_said(ctx, system_id) if causes else [])],
        review=_review(uptake, uptake.review),
        additives=additives,
        evaporation=_evaporation(uptake),
        body=_first_body(uptake, additives),
        adopted=bool(container_store.dosing_routine(ctx.connection, system_id)),
    )


def _pumps_said(ctx: Context, system_id: int) -> list[str]:
    """What the containers say of the pumps: growth and a failing pump look alike in tests."""
    held = ctx.stored.containers(system_id)
    known = [(one, found) for one in held if one.pump and (found := delivery_of(one, ctx.now))]
    wrong = [diagnosis(one, held, ctx.now, ctx.keeper.zone) for one, found in known if found.fault]
    if wrong:
        return [phrase("dosing.check_the_pumps_what_they_really", title=each.title) for each in wrong if each]
    return [phrase("dosing.the_containers_fall_as_set_so")] if known else []


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


def _uptake(uptake: UptakeContext) -> list[UptakeRow]:
    """Alkalinity with its interval, and the two that should go with it."""
    pace = uptake.paces[ALKALINITY]
    if pace is None:
        words = phrase("dosing.too_few_readings_it_takes_four")
        return [UptakeRow(parameter=ALKALINITY, name="Alkalinity", amount="–", unit="", interval="", words=words)]
    since = moment_words(pace.since, uptake.household.keeper.zone)
    rows = [
        UptakeRow(
            parameter=ALKALINITY, name="Alkalinity", amount=uptake.speed(ALKALINITY, -pace.per_day, False),
            unit=phrase('dosing.a_day', unit=unit_of(ALKALINITY, uptake.household.keeper.units).label),
            interval=_between(uptake, ALKALINITY, -pace.high, -pace.low),
            words=phrase('dosing.from_readings_since', count=pace.count, since=since),
        )
    ]  # fmt: skip
    return rows + [
        _companion(uptake, one) for one in companions(-pace.per_day, uptake.paces[CALCIUM], uptake.paces[MAGNESIUM])
    ]


def _between(uptake: UptakeContext, parameter: Parameter, low: float, high: float) -> str:
    return f"{uptake.speed(parameter, low, False)} to {uptake.speed(parameter, high, False)}"


def _companion(uptake: UptakeContext, one: Companion) -> UptakeRow:
    goes = uptake.speed(one.parameter, one.expected_high, False)
    if one.expected_low != one.expected_high:
        goes = _between(uptake, one.parameter, one.expected_low, one.expected_high)
    return UptakeRow(
        parameter=one.parameter,
        name=FACTS[one.parameter].name,
        amount=uptake.speed(one.parameter, one.told.per_day, False) if one.told else "–",
        unit=phrase("dosing.a_day", unit=unit_of(one.parameter, uptake.household.keeper.units).label),
        interval=_between(uptake, one.parameter, one.told.low, one.told.high) if one.told else "",
        words=phrase("dosing.expected_from_the_alkalinity_used", expected=goes, verdict=one.words),
    )


def _review(uptake: UptakeContext, found: Review) -> ReviewShown:
    words = dose_words(found, lambda amount: uptake.speed(ALKALINITY, amount))
    off = found.fit in (Fit.SHORT, Fit.OVER)
    return ReviewShown(
        fit=found.fit, words=phrase("dosing.the_dose_below_would_hold_it", review=words) if off else words
    )


def _evaporation(uptake: UptakeContext) -> str:
    found = evaporation_told(uptake.view.ledger, uptake.household.now)
    how = phrase("dosing.from_top_offs", count=found.count) if found else phrase("dosing.typical_for_its_size_no_top")
    return phrase("dosing.l_evaporate_a_day", litres=show_number(uptake.evaporation_l, 1), how=how)


def _first_body(uptake: UptakeContext, additives: Sequence[DoseAdditive]) -> DoseRoutineBody:
    """The routine adopted last, or else two additives from the shelf, solutions before powders."""
    kept = container_store.dosing_routine(uptake.household.stored.reading(), uptake.system.id)
    if kept:
        return DoseRoutineBody(**{name: kept[name] for name in DoseRoutineBody.model_fields if name in kept})

    def first(parameter: Parameter) -> int | None:
        known = sorted((one for one in additives if parameter in one.raises), key=lambda one: not one.solution)
        return known[0].id if known else None

    if uptake.system.methods.answers.get("replacing") == "changes_alone":
        return DoseRoutineBody()
    soda, calcium = first(ALKALINITY), first(CALCIUM)
    parts = [PartBody(additive_id=soda)] if soda else []
    return DoseRoutineBody(alkalinity=parts, calcium_id=calcium)


def means_of(uptake: UptakeContext, body: DoseRoutineBody) -> Means:
    """The body as the core takes it. Raises InputError at its field."""
    shelved = {item.id: item for item in shelf.additives(uptake.household.stored.reading())}

    def additive(number: int | None, field: str) -> Additive | None:
        if number is None:
            return None
        if number not in shelved:
            raise refused("common.this_additive_is_not_on_the", field, "common.one_from_the_shelf")
        return shelved[number]

    parts = []
    for place, part in enumerate(body.alkalinity):
        share = check_range("share", part.percent, "%", 0, 100, field=f"alkalinity.{place}.percent")
        found = additive(part.additive_id, f"alkalinity.{place}.additive_id")
        assert found
        parts.append((found, fraction(share)))
    check_range("limewater", body.lime_l, phrase("common.l_a_day"), 0, 1000, field="lime_l")
    return Means(
        tuple(parts),
        additive(body.calcium_id, "calcium_id"),
        additive(body.magnesium_id, "magnesium_id"),
        body.lime_l,
        uptake.view.water.get(Parameter.TEMPERATURE, 25.0),
        _reactor(uptake, body),
    )


def _reactor(uptake: UptakeContext, body: DoseRoutineBody) -> Reactor | None:
    if not body.reactor:
        return None
    if body.effluent is None:
        raise refused("dosing.enter_the_effluent_alkalinity", "effluent", "dosing.a_number_such_as")
    if body.flow_ml_min is None:
        raise refused("dosing.enter_the_reactor_flow", "flow_ml_min", "dosing.to_ml_min")
    unit = unit_of(ALKALINITY, uptake.household.keeper.units)
    return Reactor(unit.to_canonical(body.effluent), body.flow_ml_min)


def need_of(uptake: UptakeContext, body: DoseRoutineBody) -> Need:
    """The uptake to replace a day: as typed, or as estimated. Raises InputError where neither is known."""
    typed = body.uptake
    if typed is not None:
        typed = difference_canonical(ALKALINITY, typed, uptake.household.keeper.units)
    elif uptake.paces[ALKALINITY] is None:
        raise refused(
            "dosing.the_uptake_is_not_known_yet",
            "uptake",
            takes=phrase("dosing.to_a_day", unit=unit_of(ALKALINITY, uptake.household.keeper.units).label),
        )
    return need_of_rates(uptake.paces, typed)


def routine_of(uptake: UptakeContext, body: DoseRoutineBody) -> DailySupplements:
    """The dosing routine a request asks for."""
    changes = uptake.changes if body.changes else None
    return plan_routine(
        need_of(uptake, body),
        uptake.targets,
        uptake.system.volume_l,
        means_of(uptake, body),
        changes,
        uptake.evaporation_l,
    )


@router.post("", status_code=201)
def adopt(system_id: Id, body: DoseRoutineBody, ctx: In, key: Key) -> Recorded:
    """Dose by this routine from now on: pumps are set, hand doses are planned for every day."""
    uptake = uptake_of(ctx, system_id)
    routine = routine_of(uptake, body)
    daily = daily_doses(routine, uptake.system.volume_l)
    kept = container_store.dosing_routine(ctx.connection, system_id)

    def act(connection: sqlite3.Connection) -> str:
        rest = set_pumps(connection, system_id, daily, ctx.now, key)
        change_store.set_daily(connection, system_id, ctx.today, rest, key)
        container_store.save_dosing_routine(connection, system_id, {**kept, **body.model_dump()}, key)
        return phrase("dosing.daily_dose_of_set", system=uptake.system.name)

    return ctx.record(key, act)
