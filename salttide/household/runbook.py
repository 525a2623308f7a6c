"""Work at the tank as it is recorded: a run begun, an answer given, and what it leaves when it ends."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime

from salttide.core.basics.dates import minutes_between
from salttide.core.basics.errors import ConflictError, NotFoundError, RuleError
from salttide.core.basics.measures import litres_words
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.refused import refused
from salttide.core.planning.batch import BatchEvent, BatchKind, BatchWorkOrder, Phase
from salttide.core.planning.work_order import ChangeWorkOrder
from salttide.core.runbook.answer import check_answer, outcome
from salttide.core.runbook.context import RunWork, setting_of
from salttide.core.runbook.file import runbook, runbook_keys
from salttide.core.runbook.finish import batch_events_of, entries_of, follow_ups_of, rehearsed
from salttide.core.runbook.outage import tank_job
from salttide.core.runbook.steps import (
    Answer,
    AnswerKind,
    Counted,
    Progress,
    Runbook,
    RunbookContext,
    StepState,
    Subject,
    progress,
)
from salttide.core.science.parameters import Parameter
from salttide.core.upkeep.task import tasks
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import runbook as run_store
from salttide.store import system as system_store
from salttide.store.batch import StoredBatch
from salttide.store.change import StoredStep
from salttide.store.runbook import Run

from . import acts
from .emergency import means_at_hand, open_aftermath
from .household import Household
from .rota import check_not_too_soon

_COUNTED = frozenset({AnswerKind.LITRES, AnswerKind.UNDO})
"""Answers that count anew each time they are given."""


def system_runbooks() -> list[Runbook]:
    """Runbooks that are started by themselves: drills, and those no task starts from the rota. Emergencies have a place
    of their own."""
    of_tasks = {kind.runbook for kind in tasks().values() if not kind.asked}
    books = [book for book in map(runbook, runbook_keys()) if book.subject == Subject.SYSTEM]
    named = [book for book in books if book.key not in of_tasks or book.task or book.happening]
    return [book for book in named if book.emergency is None or book.key in of_tasks]


def start_runbook(household: Household, connection: sqlite3.Connection, system_id: int, key: str, task: str) -> int:
    """Start one of a system's runbooks, for a task or by itself; the run's number."""
    if key not in runbook_keys() or runbook(key).subject != Subject.SYSTEM:
        raise refused("runbook.this_runbook_needs_planned_work", "runbook")
    system = household.system(system_id)
    if task and (task not in tasks() or tasks()[task].runbook != key):
        raise refused("runbook.this_runbook_belongs_to_another", "task")
    service, water = system.plumbing, household.waters(system).water
    means = means_at_hand(household)
    job = tank_job(system, runbook(key), water, household.keeper.units, service, task, means)
    return run_store.start(connection, key, job, household.now)


def start_batch(household: Household, connection: sqlite3.Connection, batch_id: int) -> int:
    """Start mixing, once only: a batch with its salt in goes on from its own page."""
    batch = batch_store.batch(connection, batch_id)
    under_way = any(run.batch_id == batch_id for run in run_store.open_runs(connection))
    if not under_way and batch.state.phase != Phase.PLANNED:
        said = phrase("runbook.is_it_cannot_be_mixed_again", batch=batch.name, phase=batch.state.phase.value)
        raise RuleError(said, field="batch_id")
    return run_store.start(connection, "mix_batch", batch.job, household.now)


def start_step(household: Household, connection: sqlite3.Connection, step_id: int) -> int:
    """Start a planned water change, on its day or later."""
    step = change_store.open_step(connection, step_id)
    if step.kind != "change":
        raise refused("runbook.this_step_is_a_dose_tick", "step_id")
    if step.day > household.today:
        raise RuleError(phrase("runbook.this_change_is_planned_for_move", day=day_words(step.day)), field="step_id")
    check_not_too_soon(household, step)
    book = "near_total" if step.job.near_total else "water_change"
    return run_store.start(connection, book, _from_its_batch(connection, step), household.now, step.id)


def _from_its_batch(connection: sqlite3.Connection, step: StoredStep) -> ChangeWorkOrder:
    """The work order with the batch mixed for it, if any: pouring uses that batch up."""
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


def give_answer(
    household: Household, connection: sqlite3.Connection, run: Run, answer: Answer, seen: int | None, key: str
) -> bool:
    """Record an answer; the last one finishes the work. seen: how many answers the screen knew. False where somebody
    else had given it already."""
    book, answers = runbook(run.runbook), run_store.answers(connection, run.id)
    setting = setting_of(book, run.work)
    before = progress(book, setting, answers)
    state = before.of(answer.step)
    if _given_already(state, answers, answer, seen):
        return False
    check_answer(book, run.work, setting, answers, answer, answer.at or household.now)
    run_store.add_answer(connection, run.id, answer, household.now)
    if state is not None:
        _tell_batch(household, connection, run, state, answer, key)
    now = progress(book, setting, [*answers, answer])
    if now.finished and answer.kind == AnswerKind.DONE:
        _finish(household, connection, run, setting, now, key)
    return True


def _given_already(state: StepState | None, answers: Sequence[Answer], answer: Answer, seen: int | None) -> bool:
    """Whether somebody else has already given it. Raises ConflictError where both may count: a bucket each."""
    if state is None:
        return False
    if answer.kind == AnswerKind.DONE and state.done:
        return True
    if answer.kind == AnswerKind.TIMER and state.ends is not None and not state.done and not _rung(state, answer):
        return True
    if answer.kind in _COUNTED:
        theirs = answers_since(answers, seen).get(answer.step, [])
        if any(one.kind in _COUNTED for one in theirs):
            raise ConflictError(
                phrase("runbook.somebody_else_counted_in_the", total=litres_words(state.total_l)), field="value"
            )
    return False


def _rung(state: StepState, answer: Answer) -> bool:
    return state.ends is not None and answer.at is not None and answer.at >= state.ends


def answers_since(answers: Sequence[Answer], seen: int | None) -> Mapping[str, list[Answer]]:
    """Answers given since a screen was last updated, by step."""
    found: dict[str, list[Answer]] = {}
    for answer in answers[seen:] if seen is not None else []:
        found.setdefault(answer.step, []).append(answer)
    return found


def _tell_batch(
    household: Household, connection: sqlite3.Connection, run: Run, state: StepState, answer: Answer, key: str
) -> None:
    """Record what an answer means for the batch being mixed or poured; a dose counts once."""
    batch = _batch_of(connection, run.work)
    if batch is None:
        return
    events = batch_events_of(run.work, state, answer, batch.state, household.now)
    known = {event.item for event in batch.events if event.kind == BatchKind.DOSED}
    events = [event for event in events if event.kind != BatchKind.DOSED or event.item not in known]
    batch_store.record(connection, batch, events, household.today, key)


def _batch_of(connection: sqlite3.Connection, work: RunWork) -> StoredBatch | None:
    """The batch being mixed or poured; None without one, or where it was undone meanwhile: the work goes on."""
    batch_id = work.batch_id if isinstance(work, ChangeWorkOrder | BatchWorkOrder) else 0
    try:
        return batch_store.batch(connection, batch_id) if batch_id else None
    except NotFoundError:
        return None


def abandon(household: Household, connection: sqlite3.Connection, run_id: int, reason: str, key: str) -> bool:
    """End the work with a reason; what was done so far is recorded."""
    run = run_store.open_run(connection, run_id)
    book = runbook(run.runbook)
    now = progress(book, setting_of(book, run.work), run_store.answers(connection, run_id))
    _record(household, connection, run, now, key)
    run_store.end(connection, run_id, household.now, reason)
    return True


def _finish(
    household: Household, connection: sqlite3.Connection, run: Run, setting: RunbookContext, now: Progress, key: str
) -> None:
    """Record what really happened, take the step off the rota, and put its follow-ups on."""
    if run.step_id:
        change_store.open_step(connection, run.step_id)
        change_store.finish_step(connection, run.step_id, key)
    _record(household, connection, run, now, key)
    if run.system_id and not rehearsed(runbook(run.runbook), run.work):
        follow_ups = follow_ups_of(runbook(run.runbook), setting, household.now, household.keeper.zone)
        change_store.add_work(connection, run.system_id, key, follow_ups)
        open_aftermath(household, connection, run, key)
    run_store.end(connection, run.id, household.now)


def _record(household: Household, connection: sqlite3.Connection, run: Run, now: Progress, key: str) -> None:
    """The ledger entries of what was really done, and the water taken from its batch."""
    if run.system_id:
        system, minutes = system_store.system(connection, run.system_id), _minutes(connection, run, household.now)
        last = {p: found[-1].instrument for p in Parameter if (found := household.ledger(system).of(p))}
        events = entries_of(runbook(run.runbook), run.work, now, household.now, minutes, last)
        if now.finished:
            acts.record(household, connection, run.system_id, events, key)
        else:
            ledger_store.record(connection, run.system_id, events, key, household.now)
    if isinstance(run.work, ChangeWorkOrder):
        _use_batch(household, connection, run.work, outcome(now).litres[Counted.IN], key)


def _minutes(connection: sqlite3.Connection, run: Run, now: datetime) -> int:
    """Minutes it took; those planned where it was ended at once."""
    minutes = round(minutes_between(run.started_at, now))
    return minutes or (round(change_store.step(connection, run.step_id).minutes) if run.step_id else 0)


def _use_batch(
    household: Household, connection: sqlite3.Connection, job: ChangeWorkOrder, litres: float, key: str
) -> None:
    batch = _batch_of(connection, job)
    if batch and litres and batch.state.litres:
        poured = job.from_batch_l(litres, batch.state.litres)
        used = BatchEvent(household.now, BatchKind.USED, poured, system_id=job.system_id)
        batch_store.record(connection, batch, [used], household.today, key)
