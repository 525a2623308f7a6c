"""Rota: the upkeep of all systems by day; tasks done, skipped, moved, swapped, and the weeks evened out."""

import sqlite3
from dataclasses import replace
from datetime import date, datetime

from fastapi import APIRouter, Query
from pydantic import Field

from salttide.core.basics.dates import check_ahead
from salttide.core.basics.errors import InputError, NotFoundError, at_field
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.quantities import Kind, parse_quantity
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Care, Change, Dose
from salttide.core.planning.correction import off_course
from salttide.core.planning.delivery import REFILL
from salttide.core.planning.done_change import change_entries
from salttide.core.planning.work_order import DoseWorkOrder, VisualCheckOrder, dose_event
from salttide.core.system.observations import read_found
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence, Piece, Split
from salttide.core.upkeep.task import part_of, tasks
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import rota as rota_store

from .changed import ChangedBody, read_changed
from .context import Context, In, Key
from .models import Id, Recorded, RequestModel
from .rota_shown import Rota, rota_command, rota_shown

router = APIRouter(prefix="/api", tags=["rota"])


class TaskBody(RequestModel):
    """An occurrence: by its task and due day, or by the step of a plan."""

    task: str = Field(max_length=40)
    due: date
    step_id: Id | None = None


class DoneBody(TaskBody):
    """Done now: minutes taken (empty: as expected), which part, and findings as typed; for a water change also its
    water."""

    minutes: str = Field("", max_length=20)
    zone: str = Field("", max_length=40)
    found: dict[str, str] = Field(default_factory=dict, max_length=12)
    changed: ChangedBody | None = None


class SkipBody(TaskBody):
    """Skip with a reason, which is recorded."""

    reason: str = Field(max_length=300)


class MoveBody(TaskBody):
    """Move to another day; null: leave it to the rota again."""

    day: date | None


class SplitBody(TaskBody):
    """Split over two days: minutes of the first part as typed, and the day of the rest."""

    minutes: str = Field(max_length=20)
    day: date


class SwapBody(RequestModel):
    """Two occurrences that swap days; `system_id`: of the other, where it belongs to another system."""

    one: TaskBody
    other: TaskBody
    other_system_id: Id


@router.get("/rota")
def rota(ctx: In, days: int = Query(14, ge=1, le=42)) -> Rota:
    """The rota from today on."""
    return rota_shown(ctx, days)


@router.post("/rota/rebalance", status_code=201)
def rebalance(ctx: In, key: Key) -> Recorded:
    """Place again everything the keeper has not fixed, for the most even weeks."""

    def act(connection: sqlite3.Connection) -> str:
        moved, count = ctx.household.replan(connection, from_scratch=True)
        return phrase("rota.workload_balanced_of_tasks_moved", moved=moved, count=count)

    return ctx.record(key, act)


@router.post("/systems/{system_id}/care/done", status_code=201)
def done(system_id: Id, body: DoneBody, ctx: In, key: Key) -> Recorded:
    """Record a task as done now. A planned change is done at the tank, through its runbook."""
    item = _occurrence(ctx, system_id, body)
    no_refill(item)
    if item.task == WATER_CHANGE and item.step_id is not None:
        raise refused("rota.finish_a_planned_water_change_at", "step_id")
    care = _care(ctx, item, body)
    moved = moved_by(ctx, system_id, item, body.changed)

    def act(connection: sqlite3.Connection) -> None:
        if item.step_id is not None:
            step = change_store.open_step(connection, item.step_id)
            check_not_too_soon(ctx, step)
            _on_course(ctx, system_id, step)
            ledger_store.record(connection, system_id, [_done_step(step, ctx.now)], key, ctx.now)
            change_store.finish_step(connection, step.id, key)
        else:
            save_care(ctx, connection, system_id, item, care, key, moved)

    return rota_command(ctx, key, phrase("common.name_done", name=_said(item)), act)


def moved_by(
    ctx: Context, system_id: int, item: Occurrence, body: ChangedBody | None, field: str = "changed"
) -> Change | None:
    """The water moved by a water change; None for any other task."""
    if item.task != WATER_CHANGE:
        return None
    litres, incoming = read_changed(ctx, ctx.stored.system(system_id), body, field)
    return change_entries(ctx.now, litres, incoming, item.minutes)[0]


def save_care(
    ctx: Context,
    connection: sqlite3.Connection,
    system_id: int,
    item: Occurrence,
    care: Care,
    key: str,
    moved: Change | None = None,
) -> None:
    """Record an occurrence as done or skipped, with the water it moved. A first part does not count as the task done,
    and its minutes do not count for the whole."""
    if item.piece == Piece.FIRST:
        care = replace(care, task=part_of(care.task))
    if item.piece:
        care = replace(care, timed=False)
        rota_store.do_piece(connection, system_id, item, key)
    ledger_store.record(connection, system_id, [*([moved] if moved else []), care], key, ctx.now)
    if item.piece != Piece.FIRST:
        rota_store.use_move(connection, system_id, item.task, item.due, key)


def _said(item: Occurrence) -> str:
    return f"{item.name}, {item.piece}" if item.piece else item.name


def _care(ctx: Context, item: Occurrence, body: DoneBody) -> Care:
    """What was done, as the entry to record. Raises InputError at its field."""
    sign = ctx.keeper.habits.sign
    minutes = took_minutes(ctx, body.minutes)
    known = item.kind.records if item.kind else ()
    unknown = [name for name in body.found if name not in known]
    if unknown:
        raise refused("rota.this_task_has_no_such_observation", f"found.{unknown[0]}", takes=", ".join(known))
    found = {name: read_found(name, text, sign) for name, text in body.found.items() if text.strip()}
    took = item.minutes if minutes is None else minutes
    return Care(ctx.now, item.task, took, timed=minutes is not None, zone=body.zone or item.zone, found=found)


def took_minutes(ctx: Context, text: str) -> float | None:
    """Minutes as typed; None where the field is empty. Raises InputError at `minutes`."""
    if not text.strip():
        return None
    minutes = at_field("minutes", lambda: parse_quantity(text, Kind.TIME, ctx.keeper.habits, "min").value)
    if not 0 < minutes <= 600:
        raise refused("rota.how_long_did_it_take_to", "minutes", "rota.to_min")
    return minutes


def _done_step(step: change_store.StoredStep, at: datetime) -> Dose | Care:
    """What a planned dose or visual check leaves in the record."""
    if isinstance(step.work, VisualCheckOrder):
        return Care(at, step.work.task, step.minutes)
    return dose_event(step.work, at)


@router.post("/systems/{system_id}/care/skip", status_code=201)
def skip(system_id: Id, body: SkipBody, ctx: In, key: Key) -> Recorded:
    """Skip an occurrence; the next one counts from today."""
    reason = body.reason.strip()
    if len(reason) < 3:
        raise refused("common.say_why_in_a_few_words", "reason", "common.a_reason")
    item = _occurrence(ctx, system_id, body)
    no_refill(item)

    def act(connection: sqlite3.Connection) -> None:
        care = Care(ctx.now, item.task, 0.0, True, reason, zone=item.zone)
        save_care(ctx, connection, system_id, item, care, key)
        if item.step_id is not None:
            change_store.open_step(connection, item.step_id)
            change_store.finish_step(connection, item.step_id, key)

    return rota_command(ctx, key, phrase("rota.skipped", name=_said(item)), act)


@router.post("/systems/{system_id}/care/move")
def move(system_id: Id, body: MoveBody, ctx: In, key: Key) -> Recorded:
    """Move an occurrence to another day, today or later. It stays there whatever else moves."""
    item = _occurrence(ctx, system_id, body)
    no_refill(item)
    if body.day is None and item.step_id is not None:
        raise refused(
            "rota.a_planned_step_needs_a_day", "day", takes=phrase("common.today_or_later", today=ctx.today.isoformat())
        )
    if body.day is not None:
        _check_move(ctx, system_id, item, body.day, "day")
    left = phrase("rota.in_one_piece_again") if item.piece == Piece.REST else phrase("rota.the_rota_chooses_the_day")
    words = phrase("rota.moved_to", day=day_words(body.day)) if body.day else left
    return rota_command(ctx, key, f"{_said(item)}: {words}", lambda c: _put(c, system_id, item, body.day))


def _put(connection: sqlite3.Connection, system_id: int, item: Occurrence, day: date | None) -> None:
    if item.step_id is not None and day is not None:
        _check_day(connection, change_store.open_step(connection, item.step_id), day)
        change_store.move_step(connection, item.step_id, day)
    elif item.piece == Piece.REST:
        rota_store.move_rest(connection, system_id, item.task, item.due, day)
    else:
        rota_store.move_care(connection, system_id, item.task, item.due, day)


def _check_move(
    ctx: Context, system_id: int, item: Occurrence, day: date, field: str, leaves: Occurrence | None = None
) -> None:
    """Refuse a past day, one too far ahead, and one whose work must not share a day with it."""
    today = ctx.today
    check_ahead(day, today, field)
    system = ctx.stored.system(system_id)
    apart = set(tasks()[item.task].never_with) if item.task in tasks() else set()
    for other in ctx.household.outlook(system, max(1, (day - today).days)).occurrences:
        theirs = set(other.kind.never_with) if other.kind else set()
        if other.day == day and (other.task in apart or item.task in theirs):
            words = phrase("rota.is_on_and_the_two_must", name=other.name, day=day_words(day))
            raise InputError(words, field=field, accepted=phrase("rota.another_day_or_move_that_one"))


@router.post("/systems/{system_id}/care/split")
def split(system_id: Id, body: SplitBody, ctx: In, key: Key) -> Recorded:
    """Split an occurrence: part of its minutes where it is, the rest on another day."""
    item = _occurrence(ctx, system_id, body)
    no_refill(item)
    if item.step_id is not None or item.piece is not None:
        raise refused("rota.this_cannot_be_split_further", "task", "rota.a_task_of_the_rota_that")
    first = took_minutes(ctx, body.minutes) or 0.0
    if not 1 <= first <= item.minutes - 1:
        accepted = phrase("rota.to_min_2", minutes=show_number(item.minutes - 1, 0))
        raise InputError(
            phrase("rota.how_long_the_first_part_takes", accepted=accepted), field="minutes", accepted=accepted
        )
    if body.day == item.day:
        raise refused("rota.choose_another_day_for_the_rest", "day", takes=phrase("rota.not", day=day_words(item.day)))
    _check_move(ctx, system_id, item, body.day, "day")
    parts = Split(first, body.day)
    words = phrase(
        "rota.min_on_the_rest_on",
        name=item.name,
        first=show_number(first, 0),
        day=day_words(item.day),
        later=day_words(body.day),
    )
    return rota_command(ctx, key, words, lambda c: rota_store.split_care(c, system_id, item.task, item.due, parts))


@router.post("/systems/{system_id}/care/swap")
def swap(system_id: Id, body: SwapBody, ctx: In, key: Key) -> Recorded:
    """Let two occurrences swap days."""
    one, other = _occurrence(ctx, system_id, body.one), _occurrence(ctx, body.other_system_id, body.other)
    no_refill(one)
    no_refill(other)
    if one.day == other.day:
        raise refused("rota.both_are_on_the_same_day", "other", "rota.one_on_another_day")
    _check_move(ctx, system_id, one, other.day, "one")
    _check_move(ctx, body.other_system_id, other, one.day, "other")

    def act(connection: sqlite3.Connection) -> None:
        _put(connection, system_id, one, other.day)
        _put(connection, body.other_system_id, other, one.day)

    words = phrase("rota.to_to", one=one.name, day=day_words(other.day), other=other.name, other_day=day_words(one.day))
    return rota_command(ctx, key, words, act)


def _check_day(connection: sqlite3.Connection, step: change_store.StoredStep, day: date) -> None:
    """Two steps of one plan on one day would move the water further than its daily limit."""
    others = change_store.steps_of_plan(connection, step.plan)
    if any(other.id != step.id and other.day == day for other in others):
        words = phrase("rota.another_step_of_this_plan_is", day=day_words(day))
        raise InputError(words, field="day", accepted=phrase("rota.a_day_without_another_step_of"))


def check_not_too_soon(ctx: Context, step: change_store.StoredStep) -> None:
    """Two steps of one plan within a day would move the water further than its daily limit."""
    day = next((one.day for one, _ in ctx.household.open_steps(step.system_id) if one.step_id == step.id), step.day)
    given = ctx.stored.given_of_plans.get(step.plan)
    if (
        given is None
        or isinstance(step.work, VisualCheckOrder)
        or day <= ctx.today
        or ctx.household.day_of(given.at) != ctx.today
    ):
        return
    words = phrase("rota.a_step_of_this_plan_was", day=day_words(day))
    raise InputError(words, field="step_id", accepted=phrase("rota.or_later", day=day_words(day)))


def _on_course(ctx: Context, system_id: int, step: change_store.StoredStep) -> None:
    """Stop the doses of a correction that a test disagrees with."""
    if not isinstance(step.work, DoseWorkOrder):
        return
    system = ctx.stored.system(system_id)
    if off_course(ctx.household.ahead(system).doses, ctx.household.ledger(system)):
        raise refused("rota.a_test_disagrees_with_this", "step_id")


def no_refill(item: Occurrence, field: str = "task") -> None:
    """Refuse a refill: it is recorded at its container, with its label confirmed."""
    if item.task == REFILL:
        raise refused("rota.a_refill_is_due_by_what", field)


def _occurrence(ctx: Context, system_id: int, body: TaskBody) -> Occurrence:
    return occurrence_of(ctx, system_id, body.task, body.due, body.step_id)


def occurrence_of(ctx: Context, system_id: int, task: str, due: date, step_id: int | None = None) -> Occurrence:
    """The occurrence meant. Raises NotFoundError."""
    system = ctx.stored.system(system_id)
    for item in ctx.household.outlook(system, 60).occurrences:
        if item.task == task and item.step_id == step_id and (step_id or item.due == due):
            return item
    raise NotFoundError(phrase("rota.this_task_is_no_longer_on"), field="task")
