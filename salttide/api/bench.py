"""Bench: a test session, judged while typing."""

import sqlite3
from datetime import datetime

from fastapi import APIRouter
from pydantic import BaseModel, Field

from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, day_words, moment_words
from salttide.core.estimate.forecast import foreseen
from salttide.core.judgement.retest import Retest
from salttide.core.ledger.bench import Examined, Row, accept, examine, usual_instruments
from salttide.core.ledger.entries import Ledger
from salttide.core.overview.state import SystemState
from salttide.core.science.parameters import FACTS, Parameter, Tested
from salttide.core.science.units import UNITS, in_keepers_units, show, unit_of
from salttide.core.system.system import Stage, System
from salttide.household import acts
from salttide.store import picture as picture_store

from .context import Context, In, Key
from .errors import FieldProblem
from .models import (
    BandShown,
    Id,
    Model,
    Recorded,
    RequestModel,
    Shown,
    VerdictShown,
    band_shown,
    name_of,
    shown,
    verdict_shown,
)

router = APIRouter(prefix="/api/systems/{system_id}/bench", tags=["bench"])


class LastReading(Model):
    """The last reading of a parameter."""

    value: Shown
    day: str
    instrument: str


class UnitChoice(Model):
    """A unit a row can be typed in."""

    key: str
    label: str


class BenchRow(Model):
    """One row of the bench, in the order of testing."""

    parameter: str
    name: str
    unit: str
    units: list[UnitChoice]
    instrument: str
    instruments: list[str]
    counting: list[str]
    usual: bool
    last: LastReading | None
    band: BandShown | None
    again: str
    plan: str


class Bench(Model):
    """The bench of one system."""

    system_id: int
    name: str
    now: datetime
    rows: list[BenchRow]


class RowBody(RequestModel):
    """A row as typed; the text is read by the core."""

    parameter: Parameter
    text: str = Field(default="", max_length=40)
    unit: str = Field(default="", max_length=20)
    instrument: str = Field(default="", max_length=60)
    note: str = Field(default="", max_length=500)
    confirmed: bool = False
    picture_id: Id | None = None


class SessionBody(RequestModel):
    """A test session; when: as typed, empty for now."""

    when: str = Field("", max_length=40)
    rows: list[RowBody] = Field(max_length=40)


class RowAnswer(BaseModel):
    """How a row was understood."""

    parameter: str
    understood: Shown | None = None
    how: str = ""
    verdict: VerdictShown | None = None
    doubts: list[str] = []
    problem: FieldProblem | None = None


class SessionAnswer(Model):
    """How a session was understood; `ready` when it can be kept."""

    rows: list[RowAnswer]
    ready: bool


@router.get("")
def bench(system_id: Id, ctx: In) -> Bench:
    """The rows to fill in, each with its last value."""
    system = ctx.household.system(system_id)
    view = ctx.household.outlook(system)
    ledger, tests = view.ledger, {test.parameter: test for test in view.tests}
    instruments = ctx.stored.instruments
    parameters, home = list(Parameter), _tested_at_home(system)
    usual = usual_instruments(ledger, instruments, parameters)
    return Bench(
        system_id=system.id,
        name=system.name,
        now=ctx.now.astimezone(ctx.keeper.zone),
        rows=[
            BenchRow(
                parameter=parameter,
                name=name_of(parameter),
                unit=unit_of(parameter, ctx.keeper.units).key,
                units=[UnitChoice(key=unit.key, label=unit.label) for unit in UNITS[parameter]],
                instrument=usual[parameter],
                instruments=[item.name for item in instruments if item.parameter == parameter],
                usual=parameter in home or (parameter in system.bands),
                counting=[item.name for item in instruments if item.parameter == parameter and item.per_count],
                last=_last(ctx, ledger, parameter),
                band=band_shown(parameter, system.bands.get(parameter), ctx.keeper.units),
                again=_again(ctx, tests.get(parameter)),
                plan=_planned(ctx, view, parameter),
            )
            for parameter in parameters
        ],
    )


def _again(ctx: Context, test: Retest | None) -> str:
    """When to test it next and why; empty where it is not tested."""
    if test is None or test.why == phrase("bench.never_measured"):
        return ""
    when = "due" if test.due <= ctx.today else phrase("bench.next", due=day_words(test.due))
    return f"{when}: {test.why}" if test.why else when


def _planned(ctx: Context, view: SystemState, parameter: Parameter) -> str:
    """What the plan that is followed expects of a test now; empty without one."""
    expected = next((one.expected(view.now) for one in view.followed(parameter)), None)
    return "" if expected is None else phrase("bench.plan_expects", value=show(parameter, expected, ctx.keeper.units))


def _tested_at_home(system: System) -> set[Parameter]:
    """What is offered straight away; the rest is one tap further."""
    breaking_in = system.stage == Stage.BREAKING_IN
    return {p for p in Parameter if FACTS[p].routine or (breaking_in and FACTS[p].tested == Tested.BREAKING_IN)}


def _last(ctx: Context, ledger: Ledger, parameter: Parameter) -> LastReading | None:
    reading = ledger.last(parameter)
    if reading is None:
        return None
    return LastReading(
        value=shown(parameter, reading.value, ctx.keeper.units),
        day=moment_words(reading.at, ctx.keeper.zone),
        instrument=reading.instrument,
    )


@router.post("/preview")
def preview(system_id: Id, body: SessionBody, ctx: In) -> SessionAnswer:
    """Judge what is typed so far, without effect."""
    examined = _examine(ctx, ctx.household.system(system_id), body)
    ready = any(row.reading for row in examined) and not any(
        row.error or (row.doubts and not row.row.confirmed) for row in examined
    )
    return SessionAnswer(rows=[_answer(ctx, row) for row in examined], ready=ready)


@router.post("", status_code=201)
def save(system_id: Id, body: SessionBody, ctx: In, key: Key) -> Recorded:
    """Save a session: one ledger entry per reading, all or none."""
    system = ctx.household.system(system_id)
    readings = accept(_examine(ctx, system, body))
    words = phrase("bench.saved_for", results=counted(len(readings), "result"), system=system.name)
    pictures = {row.parameter: row.picture_id for row in body.rows if row.picture_id}

    def act(connection: sqlite3.Connection) -> str:
        ids = acts.record(ctx.household, connection, system.id, readings, key)
        for reading, entry_id in zip(readings, ids, strict=True):
            if reading.parameter in pictures:
                picture_store.attach(connection, pictures[reading.parameter], system.id, entry_id)
        return words

    return ctx.record(key, act)


def _examine(ctx: Context, system: System, body: SessionBody) -> list[Examined]:
    rows = [Row(row.parameter, row.text, row.unit, row.instrument, row.note, row.confirmed) for row in body.rows]
    ledger = ctx.household.ledger(system)
    instruments = ctx.stored.instruments
    keeper = ctx.keeper
    at = ctx.when(body.when)
    return examine(rows, system, ledger, instruments, foreseen, at, keeper.units, keeper.zone, keeper.habits.sign)


def _answer(ctx: Context, row: Examined) -> RowAnswer:
    parameter = row.row.parameter
    answer = RowAnswer(parameter=parameter, doubts=list(row.doubts))
    if row.error:
        said = in_keepers_units(row.error, ctx.keeper.units)
        answer.problem = FieldProblem(field=parameter, message=said.message, accepted=said.accepted)
    if row.reading and row.verdict:
        answer.understood = shown(parameter, row.reading.value, ctx.keeper.units)
        answer.how = row.reading.how
        answer.verdict = verdict_shown(row.verdict)
    return answer
