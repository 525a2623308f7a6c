"""Runbook: the work at the tank, one step at a time. Every answer is stored before it is confirmed."""

import sqlite3
from dataclasses import replace

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import minutes_between
from salttide.core.basics.errors import ConflictError, InputError, NotFoundError, RuleError
from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.refused import refused
from salttide.core.planning.batch import BatchEvent, BatchKind, BatchWorkOrder, Phase
from salttide.core.planning.work_order import ChangeWorkOrder
from salttide.core.runbook.answer import check_answer, outcome, read_litres
from salttide.core.runbook.context import RunWork, setting_of
from salttide.core.runbook.file import runbook, runbook_keys
from salttide.core.runbook.finish import batch_events_of, entries_of, follow_ups_of, rehearsed
from salttide.core.runbook.outage import tank_job
from salttide.core.runbook.steps import (
    Answer,
    AnswerKind,
    Counted,
    Progress,
    RunbookContext,
    StepState,
    Subject,
    progress,
)
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import UnitChoice, parse_measurement, unit_of
from salttide.core.system.observations import read_found
from salttide.core.upkeep.task import tasks
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import runbook as run_store
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import Id, Model, RequestModel
from .rota import check_not_too_soon
from .run_shown import RunAnswer, answers_since, run_shown

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
    ctx.stored.system(system_id)
    under_way = {
        run.runbook: run.id
        for run in run_store.open_runs(ctx.connection)
        if run.system_id == system_id and not run.step_id
    }
    of_tasks = {kind.runbook for kind in tasks().values()}
    known = [runbook(key) for key in runbook_keys()]
    books = [
        book
        for book in known
        if book.subject == Subject.SYSTEM and (book.key not in of_tasks or book.task or book.happening)
    ]
    return [RunbookOffer(key=b.key, name=b.name, about=b.about, run_id=under_way.get(b.key)) for b in books]


@router.post("/runs", status_code=201)
def start(body: StartBody, ctx: In, key: Key) -> RunAnswer:
    """Start work, or resume it where it was started."""

    def act(connection: sqlite3.Connection) -> int:
        if body.step_id:
            return _start_step(ctx, connection, body.step_id)
        if body.batch_id:
            return _start_batch(ctx, connection, body.batch_id)
        if body.system_id is None:
            raise refused("runbook.say_what_to_work_on", "step_id", "runbook.a_step_a_batch_or_a")
        if body.runbook not in runbook_keys() or runbook(body.runbook).subject != Subject.SYSTEM:
            raise refused("runbook.this_runbook_needs_planned_work", "runbook")
        system = system_store.system(connection, body.system_id)
        if body.task and (body.task not in tasks() or tasks()[body.task].runbook != body.runbook):
            raise refused("runbook.this_runbook_belongs_to_another", "task")
        service = system_store.service(connection, body.system_id)
        water = ctx.household.waters(system).water
        job = tank_job(system, runbook(body.runbook), water, ctx.keeper.units, service, body.task)
        return run_store.start(connection, body.runbook, job, ctx.now)

    return run_shown(ctx, ctx.command(key, act))


def _start_batch(ctx: Context, connection: sqlite3.Connection, batch_id: int) -> int:
    """Start mixing, once only: a batch with its salt in goes on from its own page."""
    batch = batch_store.batch(connection, batch_id)
    under_way = any(run.batch_id == batch_id for run in run_store.open_runs(connection))
    if not under_way and batch.state.phase != Phase.PLANNED:
        raise RuleError(
            phrase("runbook.is_it_cannot_be_mixed_again", batch=batch.name, phase=batch.state.phase.value),
            field="batch_id",
        )
    return run_store.start(connection, "mix_batch", batch.job, ctx.now)


def _start_step(ctx: Context, connection: sqlite3.Connection, step_id: int) -> int:
    step = change_store.open_step(connection, step_id)
    if step.kind != "change":
        raise refused("runbook.this_step_is_a_dose_tick", "step_id")
    if step.day > ctx.today:
        raise RuleError(
            phrase("runbook.this_change_is_planned_for_move", day=day_words(step.day)),
            field="step_id",
        )
    book = "near_total" if step.job.near_total else "water_change"
    check_not_too_soon(ctx, step)
    return run_store.start(connection, book, _from_its_batch(connection, step), ctx.now, step.id)


def _from_its_batch(connection: sqlite3.Connection, step: change_store.StoredStep) -> ChangeWorkOrder:
    """The job with the batch mixed for it, if any: pouring uses that batch up."""
    found = [
        (batch, portion)
        for batch in batch_store.batches(connection)
        for portion in batch.portions
        if portion.step_id == step.id and batch.state.usable
    ]
    if step.job.batch_id or not found:
        return step.job
    batch, portion = found[0]
    return replace(step.job, batch_id=batch.id, batch_share=portion.batch_share, water_name=batch.name)


@router.get("/runs/{run_id}")
def get_run(run_id: Id, ctx: In) -> RunAnswer:
    """Where the work stands, the same on every device."""
    return run_shown(ctx, run_id)


@router.post("/runs/{run_id}/answers", status_code=201)
def submit_answer(run_id: Id, body: AnswerBody, ctx: In, key: Key) -> RunAnswer:
    """Give one answer. The last one finishes the work and writes the record in the same transaction."""

    def act(connection: sqlite3.Connection) -> bool:
        run = run_store.open_run(connection, run_id)
        book, said = runbook(run.runbook), run_store.answers(connection, run_id)
        setting = setting_of(book, run.work)
        before = progress(book, setting, said)
        state = before.of(body.step)
        answer = _read(run.work.units, setting, state, body, ctx)
        if _said_already(before, state, said, answer, body.seen):
            return False
        check_answer(book, run.work, setting, said, answer, ctx.ticks)
        run_store.add_answer(connection, run_id, answer, ctx.now)
        if state is not None:
            _tell_batch(ctx, connection, run, state, answer, key)
        now = progress(book, setting, [*said, answer])
        if now.finished and answer.kind == AnswerKind.DONE:
            _finish(ctx, connection, run, setting, now, key)
        return True

    ctx.command(key, act)
    return run_shown(ctx, run_id)


_ONCE = frozenset({AnswerKind.LITRES, AnswerKind.UNDO})
"""Answers that count anew each time they are given."""


def _said_already(now: Progress, state: StepState | None, said: list[Answer], answer: Answer, seen: int | None) -> bool:
    """Whether somebody else has already given it. Raises ConflictError where both may count: a bucket each."""
    if state is None:
        return False
    if answer.kind == AnswerKind.DONE and state.done:
        return True
    if answer.kind == AnswerKind.TIMER and state.ends is not None and not state.done and not _rung(state, answer):
        return True
    if answer.kind in _ONCE:
        theirs = [one for one in answers_since(said, seen).get(answer.step, []) if one.kind in _ONCE]
        if theirs:
            raise ConflictError(
                phrase("runbook.somebody_else_counted_in_the", total=state.total_l),
                field="value",
            )
    return False


def _rung(state: StepState, answer: Answer) -> bool:
    return state.ends is not None and answer.at is not None and answer.at >= state.ends


def _tell_batch(
    ctx: Context, connection: sqlite3.Connection, run: run_store.Run, state: StepState, answer: Answer, key: str
) -> None:
    """Record what an answer means for the batch being mixed or poured."""
    batch = _batch_of(connection, run.work)
    if batch is None:
        return
    events = batch_events_of(run.work, state, answer, batch.state, ctx.now)
    known = {event.item for event in batch.events if event.kind == BatchKind.DOSED}
    events = [event for event in events if event.kind != BatchKind.DOSED or event.item not in known]
    batch_store.record(connection, batch, events, ctx.today, key)


def _batch_of(connection: sqlite3.Connection, work: RunWork) -> batch_store.StoredBatch | None:
    """The batch being mixed or poured; None without one, or where it was undone meanwhile: the work goes on."""
    batch_id = work.batch_id if isinstance(work, ChangeWorkOrder | BatchWorkOrder) else 0
    try:
        return batch_store.batch(connection, batch_id) if batch_id else None
    except NotFoundError:
        return None


@router.post("/runs/{run_id}/abandon")
def abandon(run_id: Id, body: AbandonBody, ctx: In, key: Key) -> RunAnswer:
    """Abandon the work with a reason. What was done so far is written to the record."""
    if len(body.reason.strip()) < 3:
        raise refused("common.say_why_in_a_few_words", "reason", "common.a_reason")

    def act(connection: sqlite3.Connection) -> bool:
        run = run_store.open_run(connection, run_id)
        book = runbook(run.runbook)
        setting = setting_of(book, run.work)
        now = progress(book, setting, run_store.answers(connection, run_id))
        _write(ctx, connection, run, now, key)
        run_store.end(connection, run_id, ctx.now, body.reason.strip())
        return True

    ctx.command(key, act)
    return run_shown(ctx, run_id)


def _write(ctx: Context, connection: sqlite3.Connection, run: run_store.Run, now: Progress, key: str) -> None:
    """Write the ledger entries of what was really done, and to the batch it was taken from."""
    minutes = round(minutes_between(run.started_at, ctx.now))
    if run.step_id and not minutes:
        minutes = round(change_store.step(connection, run.step_id).minutes)
    if run.system_id:
        system = system_store.system(connection, run.system_id)
        last = {p: found[-1].instrument for p in Parameter if (found := ctx.household.ledger(system).of(p))}
        events = entries_of(runbook(run.runbook), run.work, now, ctx.now, minutes, last)
        ledger_store.record(connection, run.system_id, events, key, ctx.now)
    if isinstance(run.work, ChangeWorkOrder):
        _use_batch(ctx, connection, run.work, outcome(now).litres[Counted.IN], key)


def _use_batch(ctx: Context, connection: sqlite3.Connection, job: ChangeWorkOrder, litres: float, key: str) -> None:
    batch = _batch_of(connection, job)
    if batch and litres and batch.state.litres:
        poured = job.from_batch_l(litres, batch.state.litres)
        used = BatchEvent(ctx.now, BatchKind.USED, poured, system_id=job.system_id)
        batch_store.record(connection, batch, [used], ctx.today, key)


def _finish(
    ctx: Context, connection: sqlite3.Connection, run: run_store.Run, setting: RunbookContext, now: Progress, key: str
) -> None:
    """Write what really happened, take the step off the rota, and put its follow-ups on."""
    _write(ctx, connection, run, now, key)
    if run.step_id:
        change_store.open_step(connection, run.step_id)
        change_store.finish_step(connection, run.step_id, key)
    if run.system_id and not rehearsed(runbook(run.runbook), run.work):
        follow_ups = follow_ups_of(runbook(run.runbook), setting, ctx.now, ctx.keeper.zone)
        change_store.add_work(connection, run.system_id, key, follow_ups)
    run_store.end(connection, run.id, ctx.now)


def _read(
    units: UnitChoice, setting: RunbookContext, state: StepState | None, body: AnswerBody, ctx: Context
) -> Answer:
    """The answer with its typed value in canonical units; errors name the field."""
    value, sign = None, ctx.keeper.habits.sign
    try:
        if body.kind == AnswerKind.LITRES and state is not None and state.step.count:
            value = read_litres(body.text, setting.counts[state.step.count], sign)
        elif body.kind == AnswerKind.MEASURED:
            value = _measured(units, body, sign)
        elif body.kind == AnswerKind.FOUND and body.text.strip():
            told = read_found(body.item, body.text, sign)
            value = told if isinstance(told, float) else None
    except InputError as error:
        error.field = error.field or body.item or "litres"
        raise
    return Answer(body.step, body.kind, body.item, value, body.text, ctx.ticks)


def _measured(units: UnitChoice, body: AnswerBody, sign: DecimalSign) -> float:
    if body.item not in set(Parameter):
        raise refused("runbook.say_what_was_measured", "item", "runbook.such_as_temperature")
    parameter = Parameter(body.item)
    return parse_measurement(parameter, body.text, unit_of(parameter, units).key, sign)
