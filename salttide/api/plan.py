"""Planning in place on the sheet: what a move would lead to before it is made, and work added or withdrawn."""

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cache
from typing import Literal

from fastapi import APIRouter, Response
from pydantic import Field, TypeAdapter

from salttide.core.basics.dates import YEAR_DAYS, check_ahead
from salttide.core.basics.errors import InputError, NotFoundError, at_field
from salttide.core.basics.number_text import fraction, percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words, moment_words
from salttide.core.basics.refused import refused
from salttide.core.estimate.forecast import Course, crossing, expect, matters
from salttide.core.ledger.entries import Change, Dose
from salttide.core.ledger.plan import Plan
from salttide.core.overview.upcoming import Edit, Ref
from salttide.core.planning.dose_order import dose_order, dose_work
from salttide.core.planning.work_order import WORKING_HOUR, DoseWorkOrder, dose_event, routine_change
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import signed_difference, unit_of
from salttide.core.system.additive_amount import read_mass_g, too_much
from salttide.core.system.shelf import Additive
from salttide.core.system.system import System
from salttide.core.upkeep.rota import WATER_CHANGE, Book, Planned
from salttide.store import change as change_store

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, name_of

router = APIRouter(prefix="/api/systems/{system_id}/plan", tags=["plan"])


class RefBody(RequestModel):
    """An occurrence: by its task and due day, or by the step of a plan."""

    task: str = Field(max_length=40)
    due: date
    step_id: Id | None = None

    @property
    def ref(self) -> Ref:
        """As the plan refers to it."""
        return self.task, self.due, self.step_id


class MovedBody(RefBody):
    """An occurrence on another day."""

    day: date


class NewWork(RequestModel):
    """Work on a day: a change of a share of the volume with the usual salt, or a dose of something on the shelf."""

    kind: Literal["change", "dose"]
    day: date
    percent: float = 10.0
    additive_id: Id | None = None
    amount: str = Field("", max_length=40)


class TryBody(RequestModel):
    """A plan with something moved, left out or added, without effect."""

    moved: list[MovedBody] = Field(default_factory=list, max_length=20)
    gone: list[RefBody] = Field(default_factory=list, max_length=20)
    added: list[NewWork] = Field(default_factory=list, max_length=20)
    ahead: int = Field(14, ge=2, le=YEAR_DAYS)
    parameters: list[Parameter] = Field(default_factory=list, max_length=len(Parameter))


class WorkBody(NewWork):
    """Work to plan; `although`: the keeper confirms what is doubtful."""

    although: bool = False


@dataclass(frozen=True, slots=True)
class TriedPoint:
    """An expected value and its interval."""

    at: datetime
    value: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class TriedCrossing:
    """When the expected line leaves the band."""

    at: datetime
    words: str


@dataclass(frozen=True, slots=True)
class TriedPart:
    """What one planned event contributes: its name, and how far it moves the parameter."""

    at: datetime
    words: str


@dataclass(frozen=True, slots=True)
class TriedStrip:
    """The expected course of a parameter under the trial plan."""

    parameter: str
    expected: list[TriedPoint]
    crossing: TriedCrossing | None
    parts: list[TriedPart]


@dataclass(frozen=True, slots=True)
class Tried:
    """The outcome of a trial plan: the courses, and any doubt to confirm."""

    strips: list[TriedStrip]
    doubts: list[str]


class AdditiveChoice(Model):
    """What can be dosed."""

    id: int
    name: str
    measure: str


class PlanOffer(Model):
    """What can be planned in place."""

    today: str
    percent: float
    salt: str
    additives: list[AdditiveChoice]
    parameters: list[Choice]


@router.get("/offer")
def options(system_id: Id, ctx: In) -> PlanOffer:
    """What can be planned in place."""
    system = ctx.household.system(system_id)
    salt = ctx.household.ahead(system).salt
    return PlanOffer(
        today=ctx.today.isoformat(),
        percent=percent(system.routine.fraction),
        salt=salt.name if salt else "",
        additives=[
            AdditiveChoice(
                id=one.id, name=one.name, measure=phrase("plan.ml") if one.strength_g_l is not None else "4 g"
            )
            for one in ctx.stored.additives
        ],
        parameters=[
            Choice(key=p, name=name_of(p))
            for p in Parameter
            if FACTS[p].routine or ctx.household.ledger(system).last(p)
        ],
    )


@cache
def _written_out() -> TypeAdapter[Tried]:
    return TypeAdapter(Tried)


@router.post("/preview", response_model=Tried)
def preview(system_id: Id, body: TryBody, ctx: In) -> Response:
    """The outcome of a trial plan, without effect. Called while something is dragged, so serialised once."""
    system = ctx.household.system(system_id)
    view, today = ctx.household.waters(system), ctx.today
    until = ctx.now + timedelta(days=body.ahead)
    added = [_added(ctx, system, work, place) for place, work in enumerate(body.added)]
    edit = Edit({m.ref: max(m.day, today) for m in body.moved}, {g.ref for g in body.gone}, added)
    upkeep = ctx.household.upkeep(system)
    changes = [rule for rule in upkeep.rules if rule.kind.key == WATER_CHANGE]
    book = Book(changes, view.ledger.care, upkeep.moves)
    until_day = today + timedelta(days=body.ahead)
    ahead, found = edit.of(
        ctx.household.ahead(system), book, system_id, upkeep.keeping, today, until_day, ctx.keeper.zone
    )
    plan = ahead.plan(system, view.ledger, found, ctx.now, ctx.keeper.zone)
    plan = Plan([*plan.events, *(event for _, event in added)], plan.daily)
    wanted = body.parameters or [p for p in view.present if FACTS[p].dissolved]
    courses = expect(view.ledger, view.rates(wanted), plan, ctx.now, until)
    doubts = [words for _, event in added if isinstance(event, Dose) for words in _doubts(ctx, system, event)]
    tried = Tried([_strip(ctx, system, p, course) for p, course in courses.items()], doubts)
    return Response(_written_out().dump_json(tried), media_type="application/json")


def _added(ctx: Context, system: System, work: NewWork, place: int) -> tuple[Planned, Change | Dose]:
    """New work as a planned step with a number of its own, so that routine changes make room for it."""
    event = _event(ctx, system, work, f"added.{place}.")
    return Planned(-1 - place, work.day, "", 0.0, WATER_CHANGE if isinstance(event, Change) else "dose"), event


def _evening(ctx: Context, day: date) -> datetime:
    return max(ctx.now, datetime.combine(day, WORKING_HOUR, ctx.keeper.zone))


def _event(ctx: Context, system: System, work: NewWork, field: str = "") -> Change | Dose:
    """The event that the new work stands for. Raises InputError at its field."""
    check_ahead(work.day, ctx.today, f"{field}day")
    at = _evening(ctx, work.day)
    if work.kind == "dose":
        return dose_event(_dose(ctx, system, work, field), at)
    largest = percent(system.methods.largest_fraction)
    if not 0 < work.percent <= largest:
        raise refused(
            "plan.your_largest_usual_change_is",
            f"{field}percent",
            takes=phrase("plan.above_and_up_to_change_plans", largest=show_number(largest, 0)),
            largest=show_number(largest, 0),
        )
    salt = ctx.household.ahead(system).salt
    if salt is None:
        raise refused("plan.put_a_salt_on_the_shelf", f"{field}kind")
    return routine_change(system, salt, at, fraction(work.percent))


def _additive(ctx: Context, number: int | None, field: str) -> Additive:
    for one in ctx.stored.additives:
        if one.id == number:
            return one
    raise refused("plan.choose_what_to_dose", f"{field}additive_id", "plan.an_additive_from_the_shelf")


def _dose(ctx: Context, system: System, work: NewWork, field: str) -> DoseWorkOrder:
    additive = _additive(ctx, work.additive_id, field)
    mass = at_field(f"{field}amount", lambda: read_mass_g(work.amount, additive, ctx.keeper.habits))
    return dose_order(system, additive, mass)


def _doubts(ctx: Context, system: System, dose: Dose) -> Sequence[str]:
    return too_much(system, dose.raises(system.volume_l), ctx.keeper.units)


def _strip(ctx: Context, system: System, parameter: Parameter, course: Course) -> TriedStrip:
    to_unit, band = unit_of(parameter, ctx.keeper.units).from_canonical, system.bands.get(parameter)
    zone = ctx.keeper.zone
    leaves = crossing(course.points, band, ctx.now) if band else None
    said = (
        TriedCrossing(
            leaves.at.astimezone(zone), phrase("common.leaves_its_band_on_day", day=moment_words(leaves.at, zone))
        )
        if leaves
        else None
    )
    return TriedStrip(
        parameter,
        [TriedPoint(p.at.astimezone(zone), to_unit(p.value), to_unit(p.low), to_unit(p.high)) for p in course.points],
        said,
        [
            TriedPart(part.event.at.astimezone(zone), _part_words(ctx, parameter, course, part.at_once))
            for part in course.parts
            if matters(parameter, part.at_once)
        ],
    )


def _part_words(ctx: Context, parameter: Parameter, course: Course, moved: float) -> str:
    return f"{name_of(parameter)} {signed_difference(parameter, moved, float(course.value[0]), ctx.keeper.units)}"


@router.post("/doses", status_code=201)
def plan_dose(system_id: Id, body: WorkBody, ctx: In, key: Key) -> Recorded:
    """Put a dose on the rota. A change is planned on its own page, or by that page's defaults."""
    system = ctx.household.system(system_id)
    if body.kind != "dose":
        raise refused("plan.plan_a_water_change_under_change", "kind", takes="dose")
    check_ahead(body.day, ctx.today, "day")
    job = _dose(ctx, system, body, "")
    doubts = _doubts(ctx, system, dose_event(job, ctx.now))
    if doubts and not body.although:
        raise InputError(doubts[0], field="amount", accepted=phrase("plan.a_smaller_dose_or_confirm_that"))
    work = dose_work(body.day, job)

    return ctx.record_as(
        key, f"{work.name}: {day_words(body.day)}", lambda c: change_store.add_work(c, system_id, key, [work])
    )


@router.post("/steps/{step_id}/withdraw")
def withdraw(system_id: Id, step_id: Id, ctx: In, key: Key) -> Recorded:
    """Take a planned step off the rota."""

    def act(connection: sqlite3.Connection) -> str:
        step = change_store.open_step(connection, step_id)
        if step.system_id != system_id:
            raise NotFoundError(phrase("plan.this_system_has_no_planned_step", number=step_id))
        change_store.withdraw_step(connection, step_id, key)
        return phrase("plan.removed_from_the_rota", name=step.name)

    return ctx.record(key, act)
