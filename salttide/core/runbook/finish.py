"""What finished or abandoned work writes: ledger entries and batch events, as it really happened."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime, timedelta, tzinfo

from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import listed
from ..ledger.entries import Care, Change, Dose, Reading
from ..planning.batch import BatchEvent, BatchKind, BatchState, BatchWorkOrder, Phase
from ..planning.work_order import (
    VISUAL_CHECK,
    VISUAL_CHECK_MINUTES,
    ChangeWorkOrder,
    PlannedWork,
    VisualCheckOrder,
    dose_event,
)
from ..science.additives import COMPOUNDS
from ..science.amount import mass_text
from ..science.parameters import FACTS, Parameter
from ..system.catalogue import event_kinds
from ..system.inspection import Event
from ..upkeep.task import tasks
from .answer import RunOutcome, outcome
from .context import RunWork, TankWorkOrder
from .steps import Answer, AnswerKind, Counted, FollowUp, Progress, Runbook, RunbookContext, RunbookStep, StepState

Written = Change | Dose | Care | Reading | Event
UNEVEN_L = 0.5
"""The least difference between out and in, in L, that shows on the level."""


def entries_of(
    book: Runbook, work: RunWork, now: Progress, at: datetime, minutes: float, instruments: Mapping[Parameter, str]
) -> list[Written]:
    """The ledger entries of work on a system: litres as counted, the water as measured, the dose, care tasks, readings.

    Abandoned work records what was drained, filled and measured; the task counts only once all is done.
    """
    result = outcome(now)
    if isinstance(work, BatchWorkOrder):
        return []
    written: list[Written] = _moved(work, result, at) if isinstance(work, ChangeWorkOrder) else []
    if isinstance(work, ChangeWorkOrder) and work.system_dose_g and _done(now, "dose"):
        written.append(dose_event(work, at))
    if isinstance(work, TankWorkOrder):
        written += [Reading(at, p, value, FACTS[p].sd, instruments.get(p, "")) for p, value in result.measured.items()]
    if now.finished and book.happening and not rehearsed(book, work):
        written.append(Event(at, event_kinds()[book.happening], ""))
    task = task_of(book, work)
    if now.finished and task:
        records = tasks()[task].records if task in tasks() else ()
        found = {key: line for key, line in result.found.items() if key in records}
        written.append(Care(at, task, minutes, timed=True, found=found))
    if "siphon" in result.ticked and (now.finished or _done(now, "sand")):
        written.append(Care(at, "siphon", 0.0))
    return written


def rehearsed(book: Runbook, work: RunWork) -> bool:
    """Whether the runbook's emergency was only rehearsed, as a task: no event is recorded and nothing follows."""
    return bool(book.happening) and isinstance(work, TankWorkOrder) and bool(work.task)


def task_of(book: Runbook, work: RunWork) -> str:
    """The care task it completes; empty for none."""
    return work.task if isinstance(work, TankWorkOrder) and work.task else book.task


def finds_of(book: Runbook, work: RunWork, step: RunbookStep) -> tuple[str, ...]:
    """The observations a step offers: those of its own that this work's task records."""
    task = task_of(book, work)
    records = tasks()[task].records if task in tasks() else ()
    return tuple(key for key in step.finds if key in records)


def _moved(job: ChangeWorkOrder, result: RunOutcome, at: datetime) -> list[Written]:
    out_l, in_l = result.litres[Counted.OUT], result.litres[Counted.IN]
    if not out_l and not in_l:
        return []
    return [Change(at, out_l, in_l, incoming_as_measured(job, result), source=job.source_id)]


def incoming_as_measured(job: ChangeWorkOrder, result: RunOutcome) -> dict[Parameter, float]:
    """The new water: as planned, or as measured at the gate."""
    return {**job.incoming, **{p: value for p, value in result.measured.items() if FACTS[p].dissolved}}


def _done(now: Progress, step_id: str) -> bool:
    state = now.of(step_id)
    return state is not None and state.done


def batch_events_of(
    work: RunWork, state: StepState, answer: Answer, batch: BatchState | None, at: datetime
) -> list[BatchEvent]:
    """The events of the batch that an answer causes; none twice when a step is reopened and done again."""
    as_it_is = not isinstance(work, ChangeWorkOrder) or work.batch_share == 1.0
    if answer.kind == AnswerKind.MEASURED and answer.value is not None and batch and batch.usable and as_it_is:
        return [BatchEvent(at, BatchKind.MEASURED, values={Parameter(answer.item): answer.value})]
    if not isinstance(work, BatchWorkOrder) or answer.kind != AnswerKind.DONE or batch is None:
        return []
    if state.step.tick_list == "doses":
        return [BatchEvent(at, BatchKind.DOSED, mass, item=formula) for formula, mass in work.doses.items()]
    marks = state.step.marks
    if marks == "mixing" and batch.phase == Phase.PLANNED:
        return [BatchEvent(at, BatchKind.SALTED, work.mass_g)]
    if marks == "resting" and batch.phase == Phase.MIXING:
        return [BatchEvent(at, BatchKind.RESTING)]
    if marks == "matched" and batch.phase in (Phase.MIXING, Phase.RESTING):
        return [BatchEvent(at, BatchKind.MATCHED)]
    return []


def follow_ups_of(book: Runbook, setting: RunbookContext, at: datetime, zone: tzinfo) -> list[PlannedWork]:
    """Follow-ups of finished work for the rota, each on the keeper's day of its moment."""
    return [
        _follow_up(each, at + timedelta(minutes=each.after_min), zone)
        for each in book.follow_ups
        if setting.holds(each.when)
    ]


def _follow_up(one: FollowUp, at: datetime, zone: tzinfo) -> PlannedWork:
    order = VisualCheckOrder(at.isoformat(), one.why)
    return PlannedWork(at.astimezone(zone).date(), VISUAL_CHECK, one.name, VISUAL_CHECK_MINUTES, order)


def difference_words(work: RunWork, book: Runbook, result: RunOutcome) -> list[str]:
    """The result of the work compared with the plan, in sentences."""
    lines = _litres_words(work, result) if isinstance(work, ChangeWorkOrder) else []
    for key, (minutes, longest) in result.clocks.items():
        clock = next(clock for clock in book.clocks if clock.key == key)
        line = f"{clock.title}: {show_number(minutes, 0)} min in all"
        lines.append(line + (f", {show_number(longest, 0)} at a stretch." if longest < minutes - 0.5 else "."))
    lines += [f"“{title}” was passed without being met: {reason}" for title, reason in result.overrides.items()]
    if result.troubles:
        names = [trouble.title.lower() for trouble in book.troubles if trouble.key in result.troubles]
        lines.append(f"On the way: {listed(names)}.")
    return lines


def _litres_words(job: ChangeWorkOrder, result: RunOutcome) -> list[str]:
    out_l, in_l = result.litres[Counted.OUT], result.litres[Counted.IN]
    lines = [f"{litres_words(out_l)} out and {litres_words(in_l)} in; planned were {litres_words(job.litres)}."]
    gap = in_l - out_l
    if abs(gap) >= UNEVEN_L:
        more = "more" if gap > 0 else "less"
        lines.append(
            f"{litres_words(abs(gap))} {more} went in than came out: look at the level before the top-off is on."
        )
    if job.system_dose_g:
        lines.append(f"{mass_text(job.system_dose_g)} {COMPOUNDS[job.source].name} dosed to the system.")
    if "siphon" in result.ticked:
        lines.append("The sand was siphoned.")
    return lines
