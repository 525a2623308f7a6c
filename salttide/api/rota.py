"""Rota: the upkeep of all systems by days; done, skipped with a reason, moved."""

import sqlite3
from collections.abc import Callable
from datetime import date, datetime, timedelta
from typing import Any

from fastapi import APIRouter, Query
from pydantic import Field

from salttide.core import catalogue
from salttide.core.correction import off_course
from salttide.core.delivery import REFILL
from salttide.core.errors import InputError, NotFoundError
from salttide.core.job import DoseJob, LookJob, dose_event
from salttide.core.ledger import Care, Dose
from salttide.core.rota import WATER_CHANGE, Occurrence, minutes_by_day
from salttide.core.system import System
from salttide.core.words import day_words
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import Id, Model, Recorded, Strict

router = APIRouter(prefix="/api", tags=["rota"])


class Task(Model):
    """A task on a day of the rota."""

    task: str
    name: str
    day: str
    due: str
    earliest: str
    latest: str
    minutes: int
    why: str
    about: str
    tool: str
    late_days: int
    step_id: int | None


class RotaDay(Model):
    """A day of the rota and the minutes it asks for."""

    day: str
    words: str
    minutes: int


class Lane(Model):
    """The tasks of one system."""

    system_id: int
    name: str
    tasks: list[Task]


class Rota(Model):
    """Weeks of upkeep, from today."""

    days: list[RotaDay]
    lanes: list[Lane]


class TaskBody(Strict):
    """Which occurrence is meant: its task and due day, or the step of a plan."""

    task: str = Field(max_length=40)
    due: date
    step_id: Id | None = None


class SkipBody(TaskBody):
    """Skip with a reason, which is kept."""

    reason: str = Field(max_length=300)


class MoveBody(TaskBody):
    """Move to another day."""

    day: date


@router.get("/rota")
def rota(ctx: In, days: int = Query(14, ge=1, le=60)) -> Rota:
    """The rota from today on."""
    today = ctx.today
    views = [ctx.outlook(system, days - 1) for system in system_store.all_systems(ctx.connection)]
    minutes = minutes_by_day([item for view in views for item in view.occurrences])
    span = [today + timedelta(days=offset) for offset in range(days)]
    return Rota(
        days=[RotaDay(day=day.isoformat(), words=day_words(day), minutes=round(minutes.get(day, 0))) for day in span],
        lanes=[
            Lane(
                system_id=view.system.id,
                name=view.system.name,
                tasks=[_task(view.system, item) for item in view.occurrences],
            )
            for view in views
        ],
    )


def _task(system: System, item: Occurrence) -> Task:
    kind = catalogue.tasks().get(item.task)
    return Task(
        task=item.task,
        name=item.name,
        day=item.day.isoformat(),
        due=item.due.isoformat(),
        earliest=item.earliest.isoformat(),
        latest=item.latest.isoformat(),
        minutes=round(item.minutes),
        why=item.why,
        about=kind.why if kind else "",
        tool=kind.tool(system.panel) if kind else "",
        late_days=item.late_days,
        step_id=item.step_id,
    )


@router.post("/systems/{system_id}/care/done", status_code=201)
def done(system_id: Id, body: TaskBody, ctx: In, key: Key) -> Recorded:
    """Record a task as done now. A planned change is done at the tank, through its runbook."""
    item = _occurrence(ctx, system_id, body)
    _no_refill(item)
    if item.task == WATER_CHANGE and item.step_id is not None:
        raise InputError("a planned change is finished at the tank, step by step", field="step_id")

    def act(connection: sqlite3.Connection) -> None:
        if item.step_id is not None:
            step = change_store.open_step(connection, item.step_id)
            _on_course(ctx, system_id, step)
            ledger_store.record(connection, system_id, [_done_step(step, ctx.now)], key, ctx.now)
            change_store.finish_step(connection, step.id, key)
        else:
            care = Care(ctx.now, item.task, item.minutes)
            ledger_store.record(connection, system_id, [care], key, ctx.now)

    return _command(ctx, key, f"{item.name}: done", act)


def _done_step(step: change_store.StoredStep, at: datetime) -> Dose | Care:
    """What a planned dose or a look leaves in the record."""
    if isinstance(step.work, LookJob):
        return Care(at, step.work.task, step.minutes)
    return dose_event(step.work, at)


@router.post("/systems/{system_id}/care/skip", status_code=201)
def skip(system_id: Id, body: SkipBody, ctx: In, key: Key) -> Recorded:
    """Skip an occurrence; the next one counts from today."""
    reason = body.reason.strip()
    if len(reason) < 3:
        raise InputError("say why, in a few words: it is kept in the record", field="reason", accepted="a reason")
    item = _occurrence(ctx, system_id, body)
    _no_refill(item)

    def act(connection: sqlite3.Connection) -> None:
        care = Care(ctx.now, item.task, 0.0, True, reason)
        ledger_store.record(connection, system_id, [care], key, ctx.now)
        if item.step_id is not None:
            change_store.open_step(connection, item.step_id)
            change_store.finish_step(connection, item.step_id, key)

    return _command(ctx, key, f"{item.name}: skipped", act)


@router.post("/systems/{system_id}/care/move")
def move(system_id: Id, body: MoveBody, ctx: In, key: Key) -> Recorded:
    """Move an occurrence to another day, today or later."""
    today = ctx.today
    if not today <= body.day <= today + timedelta(days=365):
        raise InputError("choose a day from today on", field="day", accepted=f"{today.isoformat()} or later")
    item = _occurrence(ctx, system_id, body)
    _no_refill(item)

    def act(connection: sqlite3.Connection) -> None:
        if item.step_id is not None:
            _check_day(connection, change_store.open_step(connection, item.step_id), body.day)
            change_store.move_step(connection, item.step_id, body.day)
        else:
            system_store.move_care(connection, system_id, item.task, item.due, body.day)

    return _command(ctx, key, f"{item.name}: moved to {day_words(body.day)}", act)


def _check_day(connection: sqlite3.Connection, step: change_store.StoredStep, day: date) -> None:
    """Two steps of one plan on one day would move the water further than its daily limit."""
    others = change_store.steps_of_plan(connection, step.plan)
    if any(other.id != step.id and other.day == day for other in others):
        words = f"another step of this plan stands on {day_words(day)}: both on one day would pass the daily limit"
        raise InputError(words, field="day", accepted="a day without another step of this plan")


def _on_course(ctx: Context, system_id: int, step: change_store.StoredStep) -> None:
    """A test that disagrees stops the doses of a correction."""
    if not isinstance(step.work, DoseJob):
        return
    system = system_store.system(ctx.connection, system_id)
    if off_course(ctx.ahead(system).doses, ctx.ledger(system)):
        raise InputError(
            "a test disagrees with this correction: test again and plan it anew under Dosing, or skip it with a reason",
            field="step_id",
        )


def _no_refill(item: Occurrence) -> None:
    """A refill follows from what is in its container; it is recorded there, with its label confirmed."""
    if item.task == REFILL:
        raise InputError(
            "a refill follows from what is left in the container: fill it whenever you like, under Dosing, Containers",
            field="task",
        )


def _occurrence(ctx: Context, system_id: int, body: TaskBody) -> Occurrence:
    """The occurrence that is meant; a task without one (done ahead of time) counts as due today."""
    system = system_store.system(ctx.connection, system_id)
    for item in ctx.outlook(system, 60).occurrences:
        if item.task == body.task and item.step_id == body.step_id and (body.step_id or item.due == body.due):
            return item
    raise NotFoundError("this task is not on the rota any more: it was done, skipped or moved meanwhile", field="task")


def _command(ctx: Context, key: str, words: str, act: Callable[[sqlite3.Connection], None]) -> Recorded:
    def run(connection: sqlite3.Connection) -> dict[str, Any]:
        act(connection)
        return {"command": key, "words": words}

    return Recorded(**ctx.command(key, run))
