"""Work done, skipped and moved: which occurrence is meant, what may be done with it, and what it leaves behind."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping
from datetime import date, datetime

from salttide.core.basics.dates import check_ahead
from salttide.core.basics.errors import InputError, NotFoundError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Care, Change, Entry
from salttide.core.planning.correction import off_course
from salttide.core.planning.delivery import REFILL
from salttide.core.planning.hand_dose import DAILY_DOSE, given
from salttide.core.planning.work_order import DoseWorkOrder, VisualCheckOrder, WaterWorkOrder, dose_event, water_event
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence, Piece
from salttide.core.upkeep.task import tasks
from salttide.store import change as change_store
from salttide.store import rota as rota_store
from salttide.store.change import StoredStep

from . import acts
from .household import Household


def occurrence_of(household: Household, system_id: int, task: str, due: date, step_id: int | None = None) -> Occurrence:
    """The occurrence meant. Raises NotFoundError."""
    system = household.system(system_id)
    for item in household.outlook(system, acts.OPEN_DAYS).occurrences:
        if item.task == task and item.step_id == step_id and (step_id or item.due == due):
            return item
    raise NotFoundError(phrase("rota.this_task_is_no_longer_on"), field="task")


def no_refill(item: Occurrence, field: str = "task") -> None:
    """Refuse a refill with InputError: it is recorded at its container, with its label confirmed."""
    if item.task == REFILL:
        raise refused("rota.a_refill_is_due_by_what", field)


def do(
    household: Household,
    connection: sqlite3.Connection,
    system_id: int,
    item: Occurrence,
    care: Care,
    moved: Change | None,
    key: str,
    shares: Mapping[str, float] | None = None,
) -> None:
    """Record an occurrence as done: a planned dose or visual check as its plan says, a task as `care` with the water it
    moved, daily doses as given. shares: of each daily dose as given, where it was not as planned."""
    entries: list[Entry] = [*([moved] if moved else []), care]
    if item.gives:
        entries = [*given(item.gives, care.at, shares)] or [skipped_dose(care.at)]
    elif item.step_id is not None:
        step = change_store.open_step(connection, item.step_id)
        check_not_too_soon(household, step)
        _on_course(household, system_id, step)
        entries = [_done_step(step, care.at)]
    acts.record(household, connection, system_id, entries, key, item)


def skipped_dose(at: datetime) -> Care:
    """The record of a day on which none of the daily doses was given."""
    return Care(at, DAILY_DOSE, 0.0, True, phrase("rota.not_given"))


def stays(item: Occurrence, field: str = "task") -> None:
    """Refuse to move daily doses with InputError: each belongs to its day."""
    if item.task == DAILY_DOSE:
        raise refused("rota.a_daily_dose_belongs_to_its_day", field, "rota.done_or_skip")


def no_planned_change(item: Occurrence) -> None:
    """Refuse a planned change: it is done at the tank, through its runbook."""
    if item.task == WATER_CHANGE and item.step_id is not None:
        raise refused("rota.finish_a_planned_water_change_at", "step_id")


def skip(
    household: Household, connection: sqlite3.Connection, system_id: int, item: Occurrence, reason: str, key: str
) -> None:
    """Record an occurrence as skipped."""
    care = Care(household.now, item.task, 0.0, True, reason, zone=item.zone)
    acts.record(household, connection, system_id, [care], key, item)


def _done_step(step: StoredStep, at: datetime) -> Entry:
    """What a planned dose, water poured in or a visual check leaves in the record."""
    if isinstance(step.work, VisualCheckOrder):
        return Care(at, step.work.task, step.minutes)
    if isinstance(step.work, WaterWorkOrder):
        return water_event(step.work, at)
    return dose_event(step.work, at)


def put(connection: sqlite3.Connection, system_id: int, item: Occurrence, day: date | None) -> None:
    """Move an occurrence to a day; None: leave it to the rota again."""
    if item.step_id is not None and day is not None:
        _check_day(connection, change_store.open_step(connection, item.step_id), day)
        change_store.move_step(connection, item.step_id, day)
    elif item.piece == Piece.REST:
        rota_store.move_rest(connection, system_id, item.task, item.due, day)
    else:
        rota_store.move_care(connection, system_id, item.task, item.due, day)


def check_move(household: Household, system_id: int, item: Occurrence, day: date, field: str) -> None:
    """Refuse a past day, one too far ahead, and one whose work must not share a day with it."""
    check_ahead(day, household.today, field)
    apart = set(tasks()[item.task].never_with) if item.task in tasks() else set()
    view = household.outlook(household.system(system_id), max(1, (day - household.today).days))
    for other in view.occurrences:
        theirs = set(other.kind.never_with) if other.kind else set()
        if other.day == day and (other.task in apart or item.task in theirs):
            words = phrase("rota.is_on_and_the_two_must", name=other.name, day=day_words(day))
            raise InputError(words, field=field, accepted=phrase("rota.another_day_or_move_that_one"))


def _check_day(connection: sqlite3.Connection, step: StoredStep, day: date) -> None:
    """Two steps of one plan on one day would move the water further than its daily limit."""
    others = change_store.steps_of_plan(connection, step.plan)
    if any(other.id != step.id and other.day == day for other in others):
        raise refused(
            "rota.another_step_of_this_plan_is", "day", "rota.a_day_without_another_step_of", day=day_words(day)
        )


def check_not_too_soon(household: Household, step: StoredStep) -> None:
    """Two steps of one plan within a day would move the water further than its daily limit."""
    day = next((one.day for one, _ in household.open_steps(step.system_id) if one.step_id == step.id), step.day)
    given = household.stored.given_of_plans.get(step.plan)
    if given is None or isinstance(step.work, VisualCheckOrder) or day <= household.today:
        return
    if household.day_of(given.at) != household.today:
        return
    words = phrase("rota.a_step_of_this_plan_was", day=day_words(day))
    raise InputError(words, field="step_id", accepted=phrase("rota.or_later", day=day_words(day)))


def _on_course(household: Household, system_id: int, step: StoredStep) -> None:
    """Stop the doses of a correction that a test disagrees with."""
    system = household.system(system_id)
    stopped = isinstance(step.work, DoseWorkOrder) and off_course(
        household.ahead(system).doses, household.ledger(system)
    )
    if stopped:
        raise refused("rota.a_test_disagrees_with_this", "step_id")
