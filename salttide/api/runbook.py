"""Runbook: the work at the tank, one step at a time. Every answer is stored before it is confirmed."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence

from fastapi import APIRouter
from pydantic import BaseModel, Field

from salttide.core import catalogue
from salttide.core.additives import COMPOUNDS, dissolving_water_l
from salttide.core.errors import InputError, RuleError
from salttide.core.job import Job, dose_event
from salttide.core.ledger import Care, Change, Dose
from salttide.core.match import match_gate
from salttide.core.parameters import Parameter
from salttide.core.runbook import (
    Answer,
    AnswerKind,
    Outcome,
    Progress,
    StepKind,
    StepState,
    check_answer,
    outcome,
    progress,
)
from salttide.core.typed import DecimalSign, parse_number, show_number
from salttide.core.units import parse_measurement, show, unit_of
from salttide.core.words import day_words
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import runbook as run_store
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import Caution, Id, Strict, name_of, shown

router = APIRouter(prefix="/api/runs", tags=["runbook"])
BOOK = "water_change"


class StartBody(Strict):
    """The planned step to work through."""

    step_id: Id


class AnswerBody(Strict):
    """What is said at a step; a value is typed text in the keeper's unit."""

    step: str = Field(max_length=40)
    kind: AnswerKind
    item: str = Field(default="", max_length=40)
    text: str = Field(default="", max_length=300)


class AbandonBody(Strict):
    """Why the work ends here."""

    reason: str = Field(max_length=300)


class StepLine(BaseModel):
    """A step in the list of all."""

    id: str
    title: str
    done: bool


class Item(BaseModel):
    """Something to tick."""

    key: str
    name: str
    words: str
    ticked: bool


class Measure(BaseModel):
    """A value to measure at the gate, and how the gate stands on it."""

    parameter: str
    name: str
    unit: str
    text: str
    met: bool
    words: str
    correction: str


class Litres(BaseModel):
    """Litres counted so far in this step."""

    total: float
    total_text: str
    target: float
    target_text: str
    bucket: float
    bucket_text: str
    buckets: int
    count: int
    mark: str


class CurrentStep(BaseModel):
    """The step that fills the screen."""

    id: str
    kind: StepKind
    title: str
    text: str
    caution: Caution | None
    items: list[Item]
    gate: list[Measure]
    litres: Litres | None


class RunAnswer(BaseModel):
    """Where the work stands."""

    id: int
    system_id: int
    name: str
    number: int
    count: int
    steps: list[StepLine]
    current: CurrentStep | None
    still_off: list[str]
    ended: bool
    abandoned: str
    command: str
    result: list[str]


@router.post("", status_code=201)
def start(body: StartBody, ctx: In, key: Key) -> RunAnswer:
    """Start the work of a planned step, or go on with it where it was started."""

    def act(connection: sqlite3.Connection) -> int:
        step = change_store.open_step(connection, body.step_id)
        if step.kind != "change":
            raise InputError("this step is a dose: record it as done on the rota", field="step_id")
        if step.day > ctx.today:
            day = day_words(step.day)
            raise RuleError(
                f"This change is planned for {day}: move it to today first, if today is right.", field="step_id"
            )
        return run_store.start(connection, step, BOOK, ctx.now)

    return _answer(ctx, ctx.command(key, act))


@router.get("/{run_id}")
def get_run(run_id: Id, ctx: In) -> RunAnswer:
    """Where the work stands; the same on every device."""
    return _answer(ctx, run_id)


@router.post("/{run_id}/answers", status_code=201)
def say(run_id: Id, body: AnswerBody, ctx: In, key: Key) -> RunAnswer:
    """Give one answer. The last one finishes the work and writes the ledger in the same transaction."""

    def act(connection: sqlite3.Connection) -> bool:
        run = run_store.open_run(connection, run_id)
        book, said = catalogue.runbook(run.runbook), run_store.answers(connection, run_id)
        answer = _read(run.job, body, ctx.keeper.habits.sign)
        check_answer(book, run.job, said, answer)
        run_store.add_answer(connection, run_id, answer, ctx.now)
        if progress(book, run.job, [*said, answer]).current is None:
            _finish(ctx, connection, run, [*said, answer], key)
        return True

    ctx.command(key, act)
    return _answer(ctx, run_id)


@router.post("/{run_id}/abandon")
def abandon(run_id: Id, body: AbandonBody, ctx: In, key: Key) -> RunAnswer:
    """End the work before its end, with a reason. What was drained and filled so far is written to the ledger."""
    if len(body.reason.strip()) < 3:
        raise InputError("say why, in a few words: it is kept in the record", field="reason", accepted="a reason")

    def act(connection: sqlite3.Connection) -> bool:
        run = run_store.open_run(connection, run_id)
        now = progress(catalogue.runbook(run.runbook), run.job, run_store.answers(connection, run_id))
        drain, refill = now.of(StepKind.DRAIN), now.of(StepKind.REFILL)
        out_l, in_l = (state.total_l if state else 0.0 for state in (drain, refill))
        if out_l or in_l:
            change = Change(ctx.now, out_l, in_l, run.job.incoming)
            ledger_store.record(connection, run.system_id, [change], key, ctx.now)
        run_store.end(connection, run_id, ctx.now, body.reason.strip())
        return True

    ctx.command(key, act)
    return _answer(ctx, run_id)


def _finish(ctx: Context, connection: sqlite3.Connection, run: run_store.Run, said: Sequence[Answer], key: str) -> None:
    """Write what really happened: the change, the dose, the care tasks; and take the step off the rota."""
    result = outcome(catalogue.runbook(run.runbook), run.job, said)
    minutes = (ctx.now - run.started_at).total_seconds() / 60
    step = change_store.open_step(connection, run.step_id)
    events: list[Change | Dose | Care] = [Change(ctx.now, result.out_l, result.in_l, result.incoming)]
    if run.job.system_dose_g:
        events.append(dose_event(run.job, ctx.now))
    events.append(Care(ctx.now, "water_change", round(minutes) or step.minutes))
    if result.siphoned:
        events.append(Care(ctx.now, "siphon", 0.0))
    ledger_store.record(connection, run.system_id, events, key, ctx.now)
    change_store.finish_step(connection, run.step_id, key)
    run_store.end(connection, run.id, ctx.now)


def _read(job: Job, body: AnswerBody, sign: DecimalSign) -> Answer:
    """The answer with its typed value in canonical units; errors name the field."""
    value = None
    try:
        if body.kind == AnswerKind.LITRES:
            value = parse_number(body.text, sign)
        elif body.kind == AnswerKind.MEASURED:
            if body.item not in set(Parameter):
                raise InputError("temperature, salinity or alkalinity of the batch is wanted", field="item")
            parameter = Parameter(body.item)
            value = parse_measurement(parameter, body.text, unit_of(parameter, job.units).key, sign)
    except InputError as error:
        error.field = error.field or body.item or "litres"
        raise
    return Answer(body.step, body.kind, body.item, value, body.text)


def _answer(ctx: Context, run_id: int) -> RunAnswer:
    run = run_store.run(ctx.connection, run_id)
    book, said = catalogue.runbook(run.runbook), run_store.answers(ctx.connection, run_id)
    now = progress(book, run.job, said)
    system = system_store.system(ctx.connection, run.system_id)
    step = change_store.step(ctx.connection, run.step_id)
    finished = run.ended_at is not None and not run.abandoned_because
    return RunAnswer(
        id=run.id,
        system_id=run.system_id,
        name=f"{book.name}, {system.name}",
        number=min(now.number, len(now.states)),
        count=len(now.states),
        steps=[StepLine(id=state.step.id, title=state.step.title, done=state.done) for state in now.states],
        current=None if run.ended_at or not now.current else _current(run.job, now.current, now),
        still_off=[name for kind, name in run.job.gear.items() if kind in now.still_off()],
        ended=run.ended_at is not None,
        abandoned=run.abandoned_because,
        command=step.done_command or "",
        result=_result(run.job, outcome(book, run.job, said)) if finished else [],
    )


def _result(job: Job, result: Outcome) -> list[str]:
    lines = [
        f"{show_number(result.out_l, 1)} L out and {show_number(result.in_l, 1)} L in; "
        f"planned were {show_number(job.litres, 1)} L."
    ]
    gap = result.in_l - result.out_l
    if abs(gap) >= 0.5:
        more = "more" if gap > 0 else "less"
        lines.append(
            f"{show_number(abs(gap), 1)} L {more} went in than came out: look at the level before the top-off is on."
        )
    if job.system_dose_g:
        lines.append(f"{show_number(job.system_dose_g, 1)} g {COMPOUNDS[job.source].name} dosed to the system.")
    if result.siphoned:
        lines.append("The sand was siphoned.")
    if result.override:
        lines.append(f"The match gate was overridden: {result.override}")
    return lines


def _current(job: Job, state: StepState, now: Progress) -> CurrentStep:
    step = state.step
    caution = catalogue.cautions().get(step.caution)
    return CurrentStep(
        id=step.id,
        kind=step.kind,
        title=step.title,
        text=step.text.format(**_numbers(job)),
        caution=Caution(key=caution.key, title=caution.title, text=caution.text) if caution else None,
        items=_items(job, state, now),
        gate=_gate(job, state) if step.kind == StepKind.GATE else [],
        litres=_litres(job, state, now) if step.kind in (StepKind.DRAIN, StepKind.REFILL) else None,
    )


def _numbers(job: Job) -> dict[str, str]:
    """What the texts of the runbook may name."""
    planned = {p: show(p, job.incoming[p], job.units) for p in _GATED if p in job.incoming}
    millilitres = dissolving_water_l(job.source, job.system_dose_g) * 1000
    return {
        "litres": show_number(job.litres, 1),
        "mark": f"{show_number(job.mark_cm, 1)} cm",
        "temperature": show(Parameter.TEMPERATURE, job.temperature_c, job.units),
        "salinity": planned.get(Parameter.SALINITY, "not known"),
        "alkalinity": planned.get(Parameter.ALKALINITY, "not known"),
        "dose": f"{show_number(job.system_dose_g, 1)} g",
        "source": COMPOUNDS[job.source].name,
        "dissolve": f"{show_number(max(50, round(millilitres / 10) * 10), 0)} mL",
    }


_GATED = (Parameter.SALINITY, Parameter.ALKALINITY)


def _items(job: Job, state: StepState, now: Progress) -> list[Item]:
    if state.step.kind == StepKind.DRAIN and job.siphon:
        ticked = "siphon" in state.ticked
        words = "by zones, while the water runs; pinch the hose when sand rises past half the tube"
        return [Item(key="siphon", name="sand siphoned", words=words, ticked=ticked)]
    if state.step.kind not in (StepKind.OFF, StepKind.ON):
        return []
    kinds, on = catalogue.gear_kinds(), state.step.kind == StepKind.ON
    keys = list(job.gear)[:: -1 if on else 1]
    return [
        Item(
            key=key,
            name=job.gear[key],
            words=kinds[key].on_check if on else kinds[key].off_why,
            ticked=key in state.ticked,
        )
        for key in keys
    ]


def _gate(job: Job, state: StepState) -> list[Measure]:
    lines = {line.parameter: line for line in match_gate(job, state.measured)}
    parameters = [*lines, *(p for p in (Parameter.ALKALINITY,) if p not in lines)]
    measures = []
    for parameter in parameters:
        line, value = lines.get(parameter), state.measured.get(parameter)
        measures.append(
            Measure(
                parameter=parameter,
                name=name_of(parameter),
                unit=unit_of(parameter, job.units).label,
                text=shown(parameter, value, job.units).text if value is not None else "",
                met=line.met if line else True,
                words=line.words if line else "not asked for: the batch was not dosed",
                correction=line.correction if line else "",
            )
        )
    return measures


def _litres(job: Job, state: StepState, now: Progress) -> Litres:
    drain = now.of(StepKind.DRAIN)
    refilling = state.step.kind == StepKind.REFILL and drain is not None and drain.total_l > 0
    target = drain.total_l if refilling and drain else job.litres
    left = max(0.0, target - state.total_l)
    bucket = min(job.bucket_l, left) if left > 0.05 else job.bucket_l
    return Litres(
        total=state.total_l,
        total_text=show_number(state.total_l, 1),
        target=target,
        target_text=show_number(target, 1),
        bucket=round(bucket, 1),
        bucket_text=show_number(bucket, 1),
        buckets=job.buckets,
        count=len(state.litres),
        mark=f"{show_number(job.mark_cm, 1)} cm",
    )
