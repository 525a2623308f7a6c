"""Dosing: daily uptake, and the routine that replaces it."""

from dataclasses import asdict, dataclass
from datetime import datetime

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import rounded_to, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.estimate.budget import expected_words
from salttide.core.estimate.dose_review import Fit, Review, dose_words
from salttide.core.estimate.evaporation import evaporation_estimate
from salttide.core.estimate.provisional import ProvisionalRate
from salttide.core.estimate.rate_history import history_needs
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    MAGNESIUM,
)
from salttide.core.estimate.uptake import Companion, UptakePoint, companions, turns, uptake_history
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import difference_canonical, difference_shown, unit_of
from salttide.core.system.shelf import Additive
from salttide.core.system.system import System
from salttide.household.dosing import PartRequest, RoutineRequest, adopted, first_request, pump_remarks, usually_by_hand
from salttide.household.dosing import adopt as adopt_routine
from salttide.household.uptake import UptakeContext

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel
from .uptake import uptake_of

router = APIRouter(prefix="/api/systems/{system_id}/dosing", tags=["dosing"])


class PartBody(RequestModel):
    """An additive for alkalinity, and its share of the doses in percent."""

    additive_id: Id
    percent: float = 100.0


class DoseRoutineBody(RequestModel):
    """How the uptake is replaced, in the keeper's units. uptake: alkalinity used a day; null for the estimate ·
    by_hand: what no container gives is given by hand."""

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
    by_hand: bool | None = None


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
    history, rate = uptake_history(record, ALKALINITY, ctx.now), uptake.rates[ALKALINITY]
    causes = turns(record, history, rate, ALKALINITY, ctx.keeper.zone, ctx.keeper.units) if rate else []
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
        causes=[*causes, *(pump_remarks(uptake) if causes else [])],
        review=_review(uptake, uptake.review),
        additives=[_choice(item) for item in ctx.stored.additives],
        evaporation=_evaporation(uptake),
        body=_body(ctx, uptake.system, first_request(uptake)),
        adopted=adopted(uptake) is not None,
    )


def _point(ctx: Context, point: UptakePoint) -> HistoryPoint:
    low, value, high = (
        difference_shown(ALKALINITY, each, ctx.keeper.units) for each in (point.low, point.per_day, point.high)
    )
    return HistoryPoint(point.at.astimezone(ctx.keeper.zone), value, low, high)


def _choice(item: Additive) -> DoseAdditive:
    solution = item.strength_g_l is not None
    strength = f"{show_number(item.strength_g_l or 0, 0)} g/L" if solution else "dry"
    return DoseAdditive(
        key=str(item.id), name=item.name, remark=f"{item.formula}, {strength}", id=item.id, raises=list(item.raises),
        solution=solution,
    )  # fmt: skip


def _uptake(uptake: UptakeContext) -> list[UptakeRow]:
    """Alkalinity with its interval, and the two that should go with it."""
    rate = uptake.rates[ALKALINITY]
    if rate is None:
        return [_first_figure(uptake, uptake.provisional(ALKALINITY))]
    since = moment_words(rate.since, uptake.household.keeper.zone)
    rows = [
        UptakeRow(
            parameter=ALKALINITY, name="Alkalinity", amount=uptake.speed(ALKALINITY, -rate.per_day, False),
            unit=phrase('dosing.a_day', unit=unit_of(ALKALINITY, uptake.household.keeper.units).label),
            interval=_between(uptake, ALKALINITY, -rate.high, -rate.low),
            words=phrase('dosing.from_readings_since', count=rate.count, since=since),
        )
    ]  # fmt: skip
    return rows + [
        _companion(uptake, one) for one in companions(-rate.per_day, uptake.rates[CALCIUM], uptake.rates[MAGNESIUM])
    ]


def _first_figure(uptake: UptakeContext, found: ProvisionalRate | None) -> UptakeRow:
    """What two tests tell, with the range they leave open, and when more will be known."""
    if found is None:
        words = phrase("dosing.too_few_readings_it_takes_four")
        return UptakeRow(parameter=ALKALINITY, name="Alkalinity", amount="–", unit="", interval="", words=words)
    when = moment_words(found.known_from, uptake.household.keeper.zone)
    tests = phrase("dosing.so_many_tests", count=found.tests_more) if found.tests_more > 1 else phrase("dosing.a_test")
    clear = "" if found.clear else phrase("dosing.provisional_unclear")
    return UptakeRow(
        parameter=ALKALINITY,
        name="Alkalinity",
        amount=uptake.speed(ALKALINITY, -found.per_day, False),
        unit=phrase("dosing.a_day", unit=unit_of(ALKALINITY, uptake.household.keeper.units).label),
        interval=_between(uptake, ALKALINITY, -found.high, -found.low),
        words=phrase("dosing.provisional", clear=clear, tests=tests, when=when),
    )


def _between(uptake: UptakeContext, parameter: Parameter, low: float, high: float) -> str:
    return f"{uptake.speed(parameter, low, False)} to {uptake.speed(parameter, high, False)}"


def _companion(uptake: UptakeContext, one: Companion) -> UptakeRow:
    """What goes of it by its own tests; or, where these cannot tell, by the alkalinity."""
    goes, estimate = expected_words(one, uptake.household.keeper.units), None if one.untold else one.estimate
    unit = unit_of(one.parameter, uptake.household.keeper.units).label
    words = (
        phrase("dosing.by_the_alkalinity_used", verdict=one.words)
        if one.untold
        else phrase("dosing.expected_from_the_alkalinity_used", expected=goes, verdict=one.words)
    )
    own = uptake.speed(one.parameter, estimate.per_day, False) if estimate else "–"
    return UptakeRow(
        parameter=one.parameter,
        name=FACTS[one.parameter].name,
        amount=goes.removesuffix(f" {unit}") if one.untold else own,
        unit=phrase("dosing.a_day", unit=unit),
        interval=_between(uptake, one.parameter, estimate.low, estimate.high) if estimate else "",
        words=words,
    )


def _review(uptake: UptakeContext, found: Review) -> ReviewShown:
    words = dose_words(found, lambda amount: uptake.speed(ALKALINITY, amount))
    off = found.fit in (Fit.SHORT, Fit.OVER)
    return ReviewShown(
        fit=found.fit, words=phrase("dosing.the_dose_below_would_hold_it", review=words) if off else words
    )


def _evaporation(uptake: UptakeContext) -> str:
    found = evaporation_estimate(uptake.view.ledger, uptake.household.now)
    how = phrase("dosing.from_top_offs", count=found.count) if found else phrase("dosing.typical_for_its_size_no_top")
    return phrase("dosing.l_evaporate_a_day", litres=litres_words(uptake.evaporation_l), how=how)


def _body(ctx: Context, system: System, request: RoutineRequest) -> DoseRoutineBody:
    """A routine as typed."""
    unit, used = unit_of(ALKALINITY, ctx.keeper.units), request.uptake_meq_l
    effluent = request.effluent_meq_l
    return DoseRoutineBody(
        **{
            **{name: value for name, value in asdict(request).items() if name in DoseRoutineBody.model_fields},
            "by_hand": usually_by_hand(system) if request.by_hand is None else request.by_hand,
        },
        uptake=None if used is None else rounded_to(difference_shown(ALKALINITY, used, ctx.keeper.units)),
        effluent=None if effluent is None else rounded_to(unit.from_canonical(effluent)),
    )


def request_of(ctx: Context, body: DoseRoutineBody) -> RoutineRequest:
    """What was typed, in canonical units."""
    typed = body.model_dump(exclude={"uptake", "effluent", "alkalinity"})
    units = ctx.keeper.units
    return RoutineRequest(
        **typed,
        alkalinity=tuple(PartRequest(part.additive_id, part.percent) for part in body.alkalinity),
        uptake_meq_l=None if body.uptake is None else difference_canonical(ALKALINITY, body.uptake, units),
        effluent_meq_l=None if body.effluent is None else unit_of(ALKALINITY, units).to_canonical(body.effluent),
    )


@router.post("", status_code=201)
def adopt(system_id: Id, body: DoseRoutineBody, ctx: In, key: Key) -> Recorded:
    """Dose by this routine from now on: pumps are set, hand doses are planned for every day."""
    uptake, request = uptake_of(ctx, system_id), request_of(ctx, body)
    words = phrase("dosing.daily_dose_of_set", system=uptake.system.name)
    return ctx.record_as(key, words, lambda connection: adopt_routine(uptake, connection, request, key))
