"""Batches: their state, their events, what they are short of, and their labels."""

import sqlite3

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import at_field
from salttide.core.basics.measures import litres_words
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.basics.quantities import Habits, Kind, parse_quantity
from salttide.core.basics.refused import refused
from salttide.core.planning.batch import (
    MEASURED,
    BatchEvent,
    BatchKind,
    Phase,
    age_words,
    check_event,
)
from salttide.core.planning.batch_match import batch_gate, correction
from salttide.core.planning.batch_words import batch_label, batch_words, event_words, portion_words, strength_words
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import unit_of
from salttide.store import batch as batch_store
from salttide.store import runbook as run_store
from salttide.store.batch import StoredBatch

from .context import Context, In, Key
from .models import Caution, Id, LabelLine, Model, Recorded, RequestModel, caution_shown, shown

router = APIRouter(prefix="/api/batches", tags=["mix"])
LIFE = (Phase.PLANNED, Phase.MIXING, Phase.RESTING, Phase.MATCHED, Phase.LEFT_OVER, Phase.USED)


class BatchCard(Model):
    """A batch in a list."""

    id: int
    name: str
    phase: Phase
    words: str
    age: str
    stale: bool
    filled: float
    run_id: int | None


class ValueRow(Model):
    """One parameter of a batch: planned and actual value, and whether it was measured since anything was last added."""

    parameter: str
    name: str
    unit: str
    planned: str
    now: str
    measured: bool
    met: bool
    remark: str


class EventShown(Model):
    """Something that happened to a batch."""

    when: str
    words: str


class Choices(Model):
    """A system that a batch can be used for."""

    id: int
    name: str


class BatchAnswer(BatchCard):
    """A batch with its record, what it is short of, and its label."""

    life: list[Phase]
    litres: str
    container: str
    rows: list[ValueRow]
    correction: list[str]
    can_correct: bool
    events: list[EventShown]
    portions: list[str]
    for_system: int
    strength: str
    cautions: list[Caution]
    systems: list[Choices]
    label: list[LabelLine]
    label_note: str


class EventBody(RequestModel):
    """What happened: litres or grams as typed, a compound by its formula, values by parameter, or a system."""

    kind: BatchKind
    amount: str = Field(default="", max_length=20)
    item: str = Field(default="", max_length=20)
    values: dict[Parameter, str] = Field(default_factory=dict)
    system_id: Id | None = None


def batch_card(ctx: Context, found: StoredBatch) -> BatchCard:
    """A batch for a list."""
    age, stale = age_words(found.state, ctx.now)
    open_runs = {run.batch_id: run.id for run in run_store.open_runs(ctx.connection) if run.batch_id}
    return BatchCard(
        id=found.id,
        name=found.name,
        phase=found.state.phase,
        words=batch_words(found.job, found.state, ctx.keeper.units),
        age=age,
        stale=stale,
        filled=found.job.filled(found.state.litres),
        run_id=open_runs.get(found.id),
    )


@router.get("/{batch_id}")
def get_batch(batch_id: Id, ctx: In) -> BatchAnswer:
    """One batch."""
    found = batch_store.batch(ctx.connection, batch_id)
    state, job = found.state, found.job
    label = batch_label(job, state, found.portions, ctx.keeper.units, ctx.keeper.zone)
    lacks = correction(job, state)
    card = batch_card(ctx, found)
    stored = ["stored"] if card.stale else []
    return BatchAnswer(
        **card.model_dump(),
        life=list(LIFE),
        litres=litres_words(state.litres if state.usable else job.litres),
        container=litres_words(job.container_l, 0),
        rows=[row for p in MEASURED if (row := _row(ctx, found, p))],
        correction=list(lacks.words),
        can_correct=bool(lacks.events),
        events=[EventShown(when=moment_words(e.at, ctx.keeper.zone), words=_said(ctx, found, e)) for e in found.events],
        for_system=found.portions[0].system_id if found.portions else 1,
        portions=[portion_words(one) for one in found.portions],
        strength=strength_words(job, found.events),
        cautions=[caution_shown(key) for key in (*stored, "weight")],
        systems=[Choices(id=system.id, name=system.name) for system in ctx.household.systems],
        label=[LabelLine(name=name, value=value) for name, value in label],
        label_note=phrase("batch.not_measured_yet_do_not_use") if not state.measured else "",
    )


def _row(ctx: Context, found: StoredBatch, parameter: Parameter) -> ValueRow | None:
    job, state, units = found.job, found.state, ctx.keeper.units
    planned = job.temperature_c if parameter == Parameter.TEMPERATURE else job.incoming.get(parameter)
    now = state.holds.get(parameter)
    if planned is None and now is None and parameter != Parameter.PH:
        return None
    lines = {line.parameter: line for line in batch_gate(job, state.holds, state.dosed)} if state.usable else {}
    measured = parameter in state.measured
    line = lines.get(parameter) if measured else None
    return ValueRow(
        parameter=parameter,
        name=FACTS[parameter].name,
        unit=unit_of(parameter, units).label,
        planned=shown(parameter, planned, units).text if planned is not None else "",
        now=shown(parameter, now, units).text if now is not None else "",
        measured=measured,
        met=line.met if line else True,
        remark="measured" if measured else "expected" if now is not None else phrase("batch.not_measured"),
    )


def _said(ctx: Context, found: StoredBatch, event: BatchEvent) -> str:
    names = {system.id: system.name for system in ctx.stored.every_system.values()}
    return event_words(found.job, event, names, ctx.keeper.units)


@router.post("/{batch_id}/events", status_code=201)
def add_event(batch_id: Id, body: EventBody, ctx: In, key: Key) -> Recorded:
    """Record what happened to a batch."""
    if body.system_id is not None:
        ctx.household.system(body.system_id)
    event = _read(ctx, body)

    def act(connection: sqlite3.Connection) -> str:
        found = batch_store.batch(connection, batch_id)
        check_event(found.job, found.state, event.kind, event.amount, event.item)
        batch_store.record(connection, found, [event], ctx.today, key)
        return f"{found.name}: {_said(ctx, found, event)}"

    return ctx.record(key, act)


@router.post("/{batch_id}/correct", status_code=201)
def correct(batch_id: Id, ctx: In, key: Key) -> Recorded:
    """Record that the correction was made as proposed."""

    def act(connection: sqlite3.Connection) -> str:
        found = batch_store.batch(connection, batch_id)
        lacks = correction(found.job, found.state)
        if not lacks.events:
            raise refused("batch.nothing_to_correct_yet_measure", "kind")
        events = [BatchEvent(ctx.now, kind, amount, item=item) for kind, amount, item in lacks.events]
        batch_store.record(connection, found, events, ctx.today, key)
        return f"{found.name}: {'; '.join(_said(ctx, found, e) for e in events)}"

    return ctx.record(key, act)


def _amount(text: str, kind: BatchKind, habits: Habits) -> float:
    """Grams or litres, with the unit that was typed."""
    measure, unit = (Kind.MASS, "g") if kind.weighed else (Kind.VOLUME, "L")
    return parse_quantity(text, measure, habits, unit).value


def _read(ctx: Context, body: EventBody) -> BatchEvent:
    """What was typed, in canonical units; errors name the field."""
    amount = 0.0
    if body.kind == BatchKind.MEASURED:
        values = {}
        for parameter, text in body.values.items():
            if text.strip():
                values[parameter] = ctx.typed(parameter, text, f"values.{parameter.value}")
        if not values:
            raise refused("batch.enter_at_least_one_measurement", "values", "batch.salinity_at_least")
        return BatchEvent(ctx.now, body.kind, values=values)
    if body.kind not in (BatchKind.RESTING, BatchKind.MATCHED):
        amount = at_field("amount", lambda: _amount(body.amount, body.kind, ctx.keeper.habits))
    if body.kind == BatchKind.USED and body.system_id is None:
        raise refused("batch.which_system_did_it_go_into", "system_id", "common.a_system")
    return BatchEvent(ctx.now, body.kind, amount, item=body.item, system_id=body.system_id or 0)
