"""Rota: the upkeep of all systems by day; tasks done, skipped, moved, swapped, and the weeks evened out."""

import sqlite3
from collections.abc import Mapping
from datetime import date, datetime

from fastapi import APIRouter, Query
from pydantic import Field

from salttide.core.basics.errors import InputError, at_field
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, day_words, moment_words
from salttide.core.basics.quantities import Kind, parse_quantity
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Care, Change
from salttide.core.planning.done_change import change_entries
from salttide.core.planning.hand_dose import read_share
from salttide.core.system.observations import read_found
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence, Piece, Split
from salttide.household.rota import check_move, do, no_planned_change, no_refill, occurrence_of, put, stays
from salttide.household.rota import skip as skip_item
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
    """Done: when, as typed (empty: now), minutes taken (empty: as expected), which part, and findings as typed; for a
    water change also its water; for daily doses what was given of each, as typed, where it was not as planned."""

    when: str = Field("", max_length=40)
    minutes: str = Field("", max_length=20)
    zone: str = Field("", max_length=40)
    found: dict[str, str] = Field(default_factory=dict, max_length=12)
    changed: ChangedBody | None = None
    given: dict[str, str] = Field(default_factory=dict, max_length=12)


class SkipBody(TaskBody):
    """Skip with a reason, which is recorded."""

    reason: str = Field(max_length=300)


class SkippedTask(TaskBody):
    """An occurrence of a system that is skipped with others."""

    system_id: Id


class SkipAllBody(RequestModel):
    """Occurrences to skip with one reason, which is recorded."""

    items: list[SkippedTask] = Field(min_length=1, max_length=200)
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
    """Record a task as done. A planned change is done at the tank, through its runbook."""
    item = _occurrence(ctx, system_id, body)
    no_planned_change(item)
    at = ctx.when(body.when)
    care = _care(ctx, item, body, at)
    moved = moved_by(ctx, system_id, item, body.changed, at)
    shares = _shares(ctx, item, body.given)

    def act(connection: sqlite3.Connection) -> None:
        do(ctx.household, connection, system_id, item, care, moved, key, shares)

    words = phrase("common.name_done", name=_said(item))
    words += f" ({moment_words(at, ctx.keeper.zone)})" if body.when.strip() else ""
    return rota_command(ctx, key, words, act)


def _shares(ctx: Context, item: Occurrence, given: Mapping[str, str]) -> dict[str, float]:
    """What was given of each daily dose, as a share of what was planned. Raises InputError at its field."""
    known = {one.additive: one for one in item.gives}
    found = {}
    for name, text in given.items():
        if name not in known:
            raise refused("rota.this_is_not_one_of_the_daily", f"given.{name}", takes=", ".join(known))
        found[name] = read_share(known[name], text, ctx.keeper.habits, f"given.{name}")
    return found


def moved_by(
    ctx: Context, system_id: int, item: Occurrence, body: ChangedBody | None, at: datetime, field: str = "changed"
) -> Change | None:
    """The water moved by a water change; None for any other task."""
    if item.task != WATER_CHANGE:
        return None
    litres, incoming = read_changed(ctx, ctx.household.system(system_id), body, field)
    return change_entries(at, litres, incoming, item.minutes)[0]


def _said(item: Occurrence) -> str:
    return f"{item.name}, {item.piece}" if item.piece else item.name


def _care(ctx: Context, item: Occurrence, body: DoneBody, at: datetime) -> Care:
    """What was done, as the entry to record. Raises InputError at its field."""
    sign = ctx.keeper.habits.sign
    minutes = took_minutes(ctx, body.minutes)
    known = item.kind.records if item.kind else ()
    unknown = [name for name in body.found if name not in known]
    if unknown:
        raise refused("rota.this_task_has_no_such_observation", f"found.{unknown[0]}", takes=", ".join(known))
    found = {name: read_found(name, text, sign) for name, text in body.found.items() if text.strip()}
    took = item.minutes if minutes is None else minutes
    return Care(at, item.task, took, timed=minutes is not None, zone=body.zone or item.zone, found=found)


def took_minutes(ctx: Context, text: str) -> float | None:
    """Minutes as typed; None where the field is empty. Raises InputError at `minutes`."""
    if not text.strip():
        return None
    minutes = at_field("minutes", lambda: parse_quantity(text, Kind.TIME, ctx.keeper.habits, "min").value)
    if not 0 < minutes <= 600:
        raise refused("rota.how_long_did_it_take_to", "minutes", "rota.to_min")
    return minutes


@router.post("/systems/{system_id}/care/skip", status_code=201)
def skip(system_id: Id, body: SkipBody, ctx: In, key: Key) -> Recorded:
    """Skip an occurrence; the next one counts from today."""
    reason = body.reason.strip()
    if len(reason) < 3:
        raise refused("common.say_why_in_a_few_words", "reason", "common.a_reason")
    item = _occurrence(ctx, system_id, body)

    def act(connection: sqlite3.Connection) -> None:
        skip_item(ctx.household, connection, system_id, item, reason, key)

    return rota_command(ctx, key, phrase("rota.skipped", name=_said(item)), act)


@router.post("/rota/skip", status_code=201)
def skip_all(body: SkipAllBody, ctx: In, key: Key) -> Recorded:
    """Skip several occurrences with one reason, all or none; the next of each counts from today."""
    reason = body.reason.strip()
    if len(reason) < 3:
        raise refused("common.say_why_in_a_few_words", "reason", "common.a_reason")
    items = [(one.system_id, _occurrence(ctx, one.system_id, one)) for one in body.items]

    def act(connection: sqlite3.Connection) -> None:
        for system_id, item in items:
            skip_item(ctx.household, connection, system_id, item, reason, key)

    return rota_command(ctx, key, phrase("rota.skipped", name=counted(len(items), "task")), act)


@router.post("/systems/{system_id}/care/move")
def move(system_id: Id, body: MoveBody, ctx: In, key: Key) -> Recorded:
    """Move an occurrence to another day, today or later. It stays there whatever else moves."""
    item = _occurrence(ctx, system_id, body)
    stays(item)
    if body.day is None and item.step_id is not None:
        raise refused(
            "rota.a_planned_step_needs_a_day", "day", takes=phrase("common.today_or_later", today=ctx.today.isoformat())
        )
    if body.day is not None:
        check_move(ctx.household, system_id, item, body.day, "day")
    left = phrase("rota.in_one_piece_again") if item.piece == Piece.REST else phrase("rota.the_rota_chooses_the_day")
    words = phrase("rota.moved_to", day=day_words(body.day)) if body.day else left
    return rota_command(ctx, key, f"{_said(item)}: {words}", lambda c: put(c, system_id, item, body.day))


@router.post("/systems/{system_id}/care/split")
def split(system_id: Id, body: SplitBody, ctx: In, key: Key) -> Recorded:
    """Split an occurrence: part of its minutes where it is, the rest on another day."""
    item = _occurrence(ctx, system_id, body)
    stays(item)
    if item.step_id is not None or item.piece is not None:
        raise refused("rota.this_cannot_be_split_further", "task", "rota.a_task_of_the_rota_that")
    first = took_minutes(ctx, body.minutes) or 0.0
    if not 1 <= first <= item.minutes - 1:
        accepted = phrase("rota.to_min_2", minutes=show_number(item.minutes - 1, 0))
        raise InputError(
            phrase("rota.how_long_the_first_part_takes", accepted=accepted), field="minutes", accepted=accepted
        )
    if body.day <= item.day:
        later = phrase("rota.after_day", day=day_words(item.day))
        raise refused("rota.choose_a_later_day_for_the_rest", "day", takes=later)
    check_move(ctx.household, system_id, item, body.day, "day")
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
    stays(one, "one")
    stays(other, "other")
    if one.day == other.day:
        raise refused("rota.both_are_on_the_same_day", "other", "rota.one_on_another_day")
    check_move(ctx.household, system_id, one, other.day, "one")
    check_move(ctx.household, body.other_system_id, other, one.day, "other")

    def act(connection: sqlite3.Connection) -> None:
        put(connection, system_id, one, other.day)
        put(connection, body.other_system_id, other, one.day)

    words = phrase("rota.to_to", one=one.name, day=day_words(other.day), other=other.name, other_day=day_words(one.day))
    return rota_command(ctx, key, words, act)


def _occurrence(ctx: Context, system_id: int, body: TaskBody) -> Occurrence:
    """The occurrence meant, which is no refill."""
    item = occurrence_of(ctx.household, system_id, body.task, body.due, body.step_id)
    no_refill(item)
    return item
