"""Runbook: the work at the tank, one step at a time. Every answer is stored before it is confirmed."""

import sqlite3

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import InputError
from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.refused import refused
from salttide.core.runbook.answer import read_litres
from salttide.core.runbook.context import setting_of
from salttide.core.runbook.file import runbook
from salttide.core.runbook.steps import (
    Answer,
    AnswerKind,
)
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import UnitChoice, parse_measurement, unit_of
from salttide.core.system.observations import read_found
from salttide.household.runbook import abandon as end_run
from salttide.household.runbook import give_answer, start_batch, start_runbook, start_step, system_runbooks
from salttide.store import runbook as run_store

from .context import Context, In, Key
from .models import Id, Model, RequestModel
from .run_shown import RunAnswer, run_shown

router = APIRouter(prefix="/api", tags=["runbook"])


class StartBody(RequestModel):
    """What to start: a planned step, a batch, or one of a system's runbooks."""

    step_id: Id | None = None
    batch_id: Id | None = None
    system_id: Id | None = None
    runbook: str = Field(default="", max_length=40)
    task: str = Field(default="", max_length=40)


class AnswerBody(RequestModel):
    """An answer at a step; a value is typed text in the keeper's unit. seen: how many answers the screen knew."""

    step: str = Field(default="", max_length=40)
    kind: AnswerKind
    item: str = Field(default="", max_length=40)
    text: str = Field(default="", max_length=300)
    seen: int | None = Field(default=None, ge=0)


class AbandonBody(RequestModel):
    """Why the work is abandoned."""

    reason: str = Field(max_length=300)


class RunbookOffer(Model):
    """A runbook that can be started on a system. run_id: of the run under way, if any."""

    key: str
    name: str
    about: str
    run_id: int | None


@router.get("/systems/{system_id}/runbooks")
def offers(system_id: Id, ctx: In) -> list[RunbookOffer]:
    """The runbooks of a system: drills and emergencies, and those no care task starts from the rota."""
    ctx.household.system(system_id)
    open_runs = [run for run in run_store.open_runs(ctx.connection) if run.system_id == system_id and not run.step_id]
    under_way = {run.runbook: run.id for run in open_runs}
    return [
        RunbookOffer(key=book.key, name=book.name, about=book.about, run_id=under_way.get(book.key))
        for book in system_runbooks()
    ]


@router.post("/runs", status_code=201)
def start(body: StartBody, ctx: In, key: Key) -> RunAnswer:
    """Start work, or resume it where it was started."""

    def act(connection: sqlite3.Connection) -> int:
        if body.step_id:
            return start_step(ctx.household, connection, body.step_id)
        if body.batch_id:
            return start_batch(ctx.household, connection, body.batch_id)
        if body.system_id is None:
            raise refused("runbook.say_what_to_work_on", "step_id", "runbook.a_step_a_batch_or_a")
        return start_runbook(ctx.household, connection, body.system_id, body.runbook, body.task)

    return run_shown(ctx, ctx.command(key, act))


@router.get("/runs/{run_id}")
def get_run(run_id: Id, ctx: In) -> RunAnswer:
    """Where the work stands, the same on every device."""
    return run_shown(ctx, run_id)


@router.post("/runs/{run_id}/answers", status_code=201)
def submit_answer(run_id: Id, body: AnswerBody, ctx: In, key: Key) -> RunAnswer:
    """Give one answer. The last one finishes the work and writes the record in the same transaction."""

    def act(connection: sqlite3.Connection) -> bool:
        run = run_store.open_run(connection, run_id)
        return give_answer(ctx.household, connection, run, _read(ctx, run, body), body.seen, key)

    ctx.command(key, act)
    return run_shown(ctx, run_id)


@router.post("/runs/{run_id}/abandon")
def abandon(run_id: Id, body: AbandonBody, ctx: In, key: Key) -> RunAnswer:
    """Abandon the work with a reason. What was done so far is written to the record."""
    if len(body.reason.strip()) < 3:
        raise refused("common.say_why_in_a_few_words", "reason", "common.a_reason")

    reason = body.reason.strip()
    ctx.command(key, lambda connection: end_run(ctx.household, connection, run_id, reason, key))
    return run_shown(ctx, run_id)


def _read(ctx: Context, run: run_store.Run, body: AnswerBody) -> Answer:
    """The answer with its typed value in canonical units; errors name the field."""
    value, sign, book = None, ctx.keeper.habits.sign, runbook(run.runbook)
    step = next((one for one in book.steps if one.id == body.step), None)
    try:
        counts = setting_of(book, run.work).counts
        if body.kind == AnswerKind.LITRES and step and step.count and step.count in counts:
            value = read_litres(body.text, counts[step.count], sign)
        elif body.kind == AnswerKind.MEASURED:
            value = _measured(run.work.units, body, sign)
        elif body.kind == AnswerKind.FOUND and body.text.strip():
            observed = read_found(body.item, body.text, sign)
            value = observed if isinstance(observed, float) else None
    except InputError as error:
        error.field = error.field or body.item or "litres"
        raise
    return Answer(body.step, body.kind, body.item, value, body.text, ctx.ticks)


def _measured(units: UnitChoice, body: AnswerBody, sign: DecimalSign) -> float:
    if body.item not in set(Parameter):
        raise refused("runbook.say_what_was_measured", "item", "runbook.such_as_temperature")
    parameter = Parameter(body.item)
    return parse_measurement(parameter, body.text, unit_of(parameter, units).key, sign)
