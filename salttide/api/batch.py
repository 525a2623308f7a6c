"""Batches: their state, their events, what they are short of, and their labels."""

import sqlite3

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import later
from salttide.core.basics.errors import at_field
from salttide.core.basics.number_text import parse_number, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words, moment_words
from salttide.core.planning.batch import (
    MEASURED,
    BatchEvent,
    BatchKind,
    Phase,
    age_words,
    check_event,
    keeps_of,
)
from salttide.core.planning.batch_match import batch_gate, correction
from salttide.core.science.amount import mass_text
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.salts import strength_from_batches
from salttide.core.science.units import show, unit_of
from salttide.store import batch as batch_store
from salttide.store import runbook as run_store
from salttide.store.batch import StoredBatch

from .context import Context, In, Key
from .models import Caution, Id, Model, Recorded, RequestModel, caution_shown, shown
from .refused import refused

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


class LabelLine(Model):
    """A line of the label."""

    name: str
    value: str


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
        words=_card_words(ctx, found),
        age=age,
        stale=stale,
        filled=found.job.filled(found.state.litres),
        run_id=open_runs.get(found.id),
    )


def _card_words(ctx: Context, found: StoredBatch) -> str:
    state, job = found.state, found.job
    if state.phase == Phase.PLANNED:
        aim = show(Parameter.SALINITY, job.salinity, ctx.keeper.units)
        return phrase("batch.l_of_to", litres=show_number(job.litres, 1), salt=job.salt.name, aim=aim)
    salinity = state.holds.get(Parameter.SALINITY)
    known = "measured" if Parameter.SALINITY in state.told else "expected"
    held = f", {show(Parameter.SALINITY, salinity, ctx.keeper.units)} {known}" if salinity is not None else ""
    return f"{show_number(state.litres, 1)} L{held}"


@router.get("/{batch_id}")
def get_batch(batch_id: Id, ctx: In) -> BatchAnswer:
    """One batch."""
    found = batch_store.batch(ctx.connection, batch_id)
    state, job, zone = found.state, found.job, ctx.keeper.zone
    lacks = correction(job, state)
    card = batch_card(ctx, found)
    stored = ["stored"] if card.stale else []
    return BatchAnswer(
        **card.model_dump(),
        life=list(LIFE),
        litres=f"{show_number(state.litres if state.usable else job.litres, 1)} L",
        container=f"{show_number(job.container_l, 0)} L",
        rows=[row for p in MEASURED if (row := _row(ctx, found, p))],
        correction=list(lacks.words),
        can_correct=bool(lacks.events),
        events=[EventShown(when=moment_words(e.at, zone), words=_event_words(ctx, found, e)) for e in found.events],
        for_system=found.portions[0].system_id if found.portions else 1,
        portions=[_portion(one.name, one.batch_l, one.fresh_l) for one in found.portions],
        strength=_strength(found),
        cautions=[caution_shown(key) for key in (*stored, "weight")],
        systems=[Choices(id=system.id, name=system.name) for system in ctx.stored.systems],
        label=_label(ctx, found),
        label_note=phrase("batch.not_measured_yet_do_not_use") if not state.told else "",
    )


def _portion(name: str, batch_l: float, fresh_l: float) -> str:
    more = phrase("batch.and_l_fresh_water", fresh_l=show_number(fresh_l, 1)) if fresh_l else ""
    return f"{name}: {show_number(batch_l, 1)} L{more}"


def _row(ctx: Context, found: StoredBatch, parameter: Parameter) -> ValueRow | None:
    job, state, units = found.job, found.state, ctx.keeper.units
    planned = job.temperature_c if parameter == Parameter.TEMPERATURE else job.incoming.get(parameter)
    now = state.holds.get(parameter)
    if planned is None and now is None and parameter != Parameter.PH:
        return None
    lines = {line.parameter: line for line in batch_gate(job, state.holds, state.dosed)} if state.usable else {}
    measured = parameter in state.told
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


def _event_words(ctx: Context, found: StoredBatch, event: BatchEvent) -> str:
    units, litres = ctx.keeper.units, f"{show_number(event.amount, 1)} L"
    names = {system.id: system.name for system in ctx.stored.every_system.values()}
    return {
        BatchKind.SALTED: phrase(
            "batch.g_in", amount=show_number(event.amount, 0), salt=found.job.salt.name, water=litres_of(found)
        ),
        BatchKind.RESTING: phrase("batch.all_dissolved_resting"),
        BatchKind.MEASURED: ", ".join(f"{FACTS[p].name.lower()} {show(p, v, units)}" for p, v in event.values.items()),
        BatchKind.SALT: phrase("batch.g_salt_added", amount=show_number(event.amount, 0)),
        BatchKind.FRESH: phrase("batch.fresh_water_added", litres=litres),
        BatchKind.DOSED: phrase("batch.stirred_in", amount=mass_text(event.amount), item=event.item),
        BatchKind.OUT: phrase("batch.removed", litres=litres),
        BatchKind.MATCHED: phrase("batch.matched_and_covered"),
        BatchKind.USED: phrase(
            "batch.used_for", litres=litres, system=names.get(event.system_id, phrase("batch.something_else"))
        ),
        BatchKind.THROWN: phrase("batch.poured_away", litres=litres),
    }[event.kind]


def litres_of(found: StoredBatch) -> str:
    """The finished volume as planned."""
    return f"{show_number(found.job.litres, 1)} L"


def _strength(found: StoredBatch) -> str:
    """The bucket's strength as this batch's first measurement shows it."""
    mass, salinity = 0.0, None
    for event in found.events:
        if event.kind == BatchKind.SALTED:
            mass = event.amount
        elif event.kind == BatchKind.MEASURED:
            salinity = salinity or event.values.get(Parameter.SALINITY)
        elif event.kind not in (BatchKind.RESTING, BatchKind.MATCHED) and salinity is None:
            return ""
    if not mass or salinity is None or not 10 <= salinity <= 45:
        return ""
    learned = strength_from_batches([(mass, found.job.litres, salinity)])
    label = found.job.salt
    measured = phrase(
        "batch.g_l_for_ppt", strength_g_l=show_number(learned.strength_g_l, 1), sd=show_number(learned.sd, 1)
    )
    return phrase(
        "batch.came_out_at_it_was_planned",
        salt=label.name,
        measured=measured,
        planned=show_number(label.strength_g_l, 1),
    )


def _label(ctx: Context, found: StoredBatch) -> list[LabelLine]:
    """What is written on the container."""
    state, job, units, zone = found.state, found.job, ctx.keeper.units, ctx.keeper.zone
    lines = [LabelLine(name="Salt", value=job.salt.name)]
    if state.mixed_at:
        mixed = state.mixed_at.astimezone(zone).date()
        keeps = keeps_of(state.holds)
        lines.append(LabelLine(name="Mixed", value=date_words(mixed)))
        lines.append(LabelLine(name=phrase("batch.measure_again_from"), value=date_words(later(mixed, keeps))))
    lines.append(LabelLine(name="Volume", value=f"{show_number(state.litres or job.litres, 1)} L"))
    for parameter in MEASURED:
        value = state.holds.get(parameter)
        if value is not None and parameter in state.told:
            lines.append(LabelLine(name=FACTS[parameter].name, value=show(parameter, value, units)))
    lines += [LabelLine(name="For", value=_portion(p.name, p.batch_l, p.fresh_l)) for p in found.portions]
    return lines


@router.post("/{batch_id}/events", status_code=201)
def add_event(batch_id: Id, body: EventBody, ctx: In, key: Key) -> Recorded:
    """Record what happened to a batch."""
    if body.system_id is not None:
        ctx.stored.system(body.system_id)
    event = _read(ctx, body)

    def act(connection: sqlite3.Connection) -> str:
        found = batch_store.batch(connection, batch_id)
        check_event(found.job, found.state, event.kind, event.amount, event.item)
        batch_store.record(connection, found, [event], ctx.today, key)
        return f"{found.name}: {_event_words(ctx, found, event)}"

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
        return f"{found.name}: {'; '.join(_event_words(ctx, found, e) for e in events)}"

    return ctx.record(key, act)


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
        amount = at_field("amount", lambda: parse_number(body.amount, ctx.keeper.habits.sign))
    if body.kind == BatchKind.USED and body.system_id is None:
        raise refused("batch.which_system_did_it_go_into", "system_id", "common.a_system")
    return BatchEvent(ctx.now, body.kind, amount, item=body.item, system_id=body.system_id or 0)
