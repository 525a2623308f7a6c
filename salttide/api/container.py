"""Containers: what is in them, how long it lasts, whether their pumps deliver, and the schedule as a file."""

import sqlite3
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import later
from salttide.core.basics.errors import GateError, InputError, check_range
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import capital, counted, day_words, moment_words
from salttide.core.estimate.dose_times import nearest_minutes
from salttide.core.planning.container import (
    TUBE_DAYS,
    Container,
    ContainerEvent,
    ContainerKind,
    check_container,
    check_setting,
    flow_drift_percent,
    flow_ml_min,
    tube_days,
)
from salttide.core.planning.delivery import Delivery, contents, delivery_of, diagnosis, refill_days
from salttide.core.science.dosing import SEPARATION_MINUTES
from salttide.core.science.recipe import cautions_of, never_meet
from salttide.core.system.shelf import Additive
from salttide.store import container as container_store

from .context import Context, In, Key
from .models import Caution, Choice, Id, Model, Recorded, RequestModel, caution_shown
from .pumps import set_event

router = APIRouter(prefix="/api/systems/{system_id}/containers", tags=["container"])
CALIBRATION_DAYS = 90


class ContainerBody(RequestModel):
    """A container: what it holds, how much, how well its level is read, and the pump that draws from it."""

    name: str = Field(max_length=60)
    additive_id: Id
    capacity_ml: float
    level_sd_ml: float | None = None
    pump: str = Field("", max_length=60)
    set_name: str = Field("", max_length=60)
    step_ml: float = 0.1
    least_ml: float = 0.5
    filled_ml: float | None = None


class ContainerEventBody(RequestModel):
    """What happened. ml: contents after it, mL a day, or mL caught · before_ml: the level before a refill · label_id:
    what stands on the bottle that is poured from · seconds: how long a calibration ran."""

    kind: ContainerKind
    ml: float = 0.0
    before_ml: float | None = None
    label_id: Id | None = None
    seconds: float | None = None


class DiagnosisShown(Model):
    """What is likely wrong, and what to do first."""

    title: str
    reason: str
    steps: list[str]


class ContainerEventShown(Model):
    """Something that happened to a container."""

    id: int
    words: str


class ContainerShown(Model):
    """A container as it stands. filled, expected: shares of its capacity."""

    id: int
    name: str
    holds: str
    pump: str
    set_name: str
    capacity: str
    left: str
    filled: float
    expected: float
    days: str
    refill: str
    urgent: bool
    set_words: str
    delivered: str
    wrong: DiagnosisShown | None
    pump_words: list[str]
    capacity_ml: float
    set_ml: float
    cautions: list[str]
    history: list[ContainerEventShown]
    level_sd_ml: float
    step_ml: float
    additive_id: int


class ContainerAnswer(Model):
    """The containers of a system, what they could hold, and what must be kept apart."""

    name: str
    containers: list[ContainerShown]
    additives: list[Choice]
    labels: list[Choice]
    apart: list[str]
    cautions: list[Caution]


@router.get("")
def answer(system_id: Id, ctx: In) -> ContainerAnswer:
    """What stands beside a system."""
    system = ctx.stored.system(system_id)
    held = ctx.stored.containers(system_id)
    additives = ctx.stored.additives
    keys = dict.fromkeys(key for one in held for key in cautions_of(one.additive.formula))
    pairs = _pairs(held)
    return ContainerAnswer(
        name=system.name,
        containers=[_shown(ctx, one, held) for one in held],
        additives=[_choice(item) for item in additives if item.strength_g_l is not None],
        labels=[_choice(item) for item in additives],
        apart=[_pair_words(ctx, one, other, why) for one, other, why in pairs],
        cautions=[caution_shown(key) for key in (*(["two_concentrates"] if pairs else []), *keys)],
    )


def _choice(item: Additive) -> Choice:
    strength = f", {show_number(item.strength_g_l, 0)} g/L" if item.strength_g_l is not None else ", dry"
    return Choice(key=str(item.id), name=item.name, remark=f"{item.formula}{strength}")


def _pairs(held: Sequence[Container]) -> list[tuple[Container, Container, str]]:
    return [
        (one, other, why)
        for place, one in enumerate(held)
        for other in held[place + 1 :]
        if (why := never_meet(one.additive.formula, other.additive.formula))
    ]


def _pair_words(ctx: Context, one: Container, other: Container, why: str) -> str:
    slots = [setting.slots if (setting := each.setting_at(ctx.now)) else () for each in (one, other)]
    near = nearest_minutes(*slots) if all(slots) else None
    gap = ""
    if near is not None:
        gap = f" Their doses are {counted(near, 'minute')} apart" + (
            "." if near >= SEPARATION_MINUTES else f": at least {SEPARATION_MINUTES} are wanted."
        )
    return f"{capital(one.name)} and {other.name} never meet: {why}.{gap}"


def _shown(ctx: Context, one: Container, held: Sequence[Container]) -> ContainerShown:
    found, told = contents(one, ctx.now), delivery_of(one, ctx.now)
    wrong = diagnosis(one, held, ctx.now, ctx.keeper.zone)
    refill = refill_days(one, ctx.now)
    left = found.ml if found else 0.0
    return ContainerShown(
        id=one.id, name=one.name, pump=one.pump, set_name=one.set_name,
        holds=f"{one.additive.formula}, {show_number(one.additive.strength_g_l or 0, 0)} g/L",
        capacity=_ml(one.capacity_ml),
        left=f"{_ml(left)} ± {_ml(found.sd_ml)}" if found else "never filled",
        filled=min(1.0, left / one.capacity_ml),
        expected=min(1.0, found.expected_ml / one.capacity_ml) if found else 0.0,
        days=f"{show_number(found.days, 0)} days left" if found and found.days is not None else "nothing is drawn",
        refill=_refill_words(ctx, refill),
        urgent=refill is not None and refill <= 3,
        set_words=_set_words(one, one.set_at(ctx.now)),
        delivered=_delivered(ctx, told),
        wrong=DiagnosisShown(title=wrong.title, reason=wrong.reason, steps=list(wrong.steps)) if wrong else None,
        pump_words=_pump_words(ctx, one),
        capacity_ml=one.capacity_ml,
        set_ml=one.set_at(ctx.now),
        cautions=list(cautions_of(one.additive.formula)),
        history=_history(ctx, one),
        level_sd_ml=one.level_sd_ml,
        step_ml=one.step_ml,
        additive_id=one.additive.id,
    )  # fmt: skip


def _history(ctx: Context, one: Container) -> list[ContainerEventShown]:
    """The last dozen of what happened, latest first."""
    return [ContainerEventShown(id=event.id, words=_event_words(ctx, event)) for event in reversed(one.events[-12:])]


def _ml(ml: float) -> str:
    return f"{show_number(ml / 1000, 2)} L" if ml >= 1000 else f"{show_number(ml, 0)} mL"


def _refill_words(ctx: Context, days: float | None) -> str:
    if days is None:
        return ""
    day = later(ctx.today, days)
    return f"refill by {day_words(day)}" if days > 0 else "refill today: only the reserve is left"


def _set_words(one: Container, ml: float) -> str:
    if not ml:
        return "not set"
    how = f"by {one.pump}" if one.pump else "by hand"
    return f"{show_number(ml, 1)} mL a day {how}"


def _delivered(ctx: Context, told: Delivery | None) -> str:
    if told is None:
        return "read its level in a week: then it can be told what really comes"
    since = moment_words(told.since, ctx.keeper.zone)
    share, sd = show_number(100 * told.share, 0), show_number(100 * told.sd, 0)
    return f"{share} ± {sd} % of what was set came, since {since}"


def _pump_words(ctx: Context, one: Container) -> list[str]:
    """Calibration, drift and tube, as far as they are known."""
    if not one.pump:
        return []
    words = []
    known = one.of(ContainerKind.CALIBRATED)
    if known:
        age = (ctx.now - known[-1].at).days
        late = f", due since {age - CALIBRATION_DAYS} days" if age > CALIBRATION_DAYS else ""
        flow = show_number(known[-1].ml, 1)
        words.append(f"calibrated {moment_words(known[-1].at, ctx.keeper.zone)}: {flow} mL/min{late}")
    else:
        words.append("never calibrated: catch what it gives in a minute")
    drift = flow_drift_percent(one)
    if drift is not None:
        words.append(f"flow {show_number(drift, 1)} % in 90 days")
    age_days = tube_days(one, ctx.now)
    if age_days is not None:
        old = ": renew it" if age_days > TUBE_DAYS else ""
        words.append(f"tube {show_number(age_days / 30.4, 0)} months old{old}")
    return words


def _event_words(ctx: Context, event: ContainerEvent) -> str:
    said = {
        ContainerKind.FILLED: f"filled to {_ml(event.ml)}",
        ContainerKind.LEVEL: f"level {_ml(event.ml)}",
        ContainerKind.SET: f"set to {show_number(event.ml, 1)} mL a day",
        ContainerKind.CALIBRATED: f"calibrated: {show_number(event.ml, 1)} mL/min",
        ContainerKind.TUBE: "new tube",
    }[event.kind]
    return f"{moment_words(event.at, ctx.keeper.zone)}: {said}"


@router.post("", status_code=201)
def add(system_id: Id, body: ContainerBody, ctx: In, key: Key) -> Recorded:
    """Set a container up, filled or empty."""
    ctx.stored.system(system_id)
    additive = next((item for item in ctx.stored.additives if item.id == body.additive_id), None)
    if additive is None:
        raise InputError("this additive is not on the shelf", field="additive_id", accepted="a solution of the shelf")
    item = _read(body, 0, additive)
    if body.filled_ml is not None:
        check_range("contents", body.filled_ml, "mL", 0, item.capacity_ml, field="filled_ml")

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        number = container_store.add_container(connection, system_id, item, key)
        if body.filled_ml is not None:
            event = ContainerEvent(ctx.now, ContainerKind.FILLED, body.filled_ml)
            container_store.add_container_events(connection, number, [event], key)
        return {"command": key, "words": f"{item.name} stands beside the system"}

    return Recorded(**ctx.command(key, act))


def _read(body: ContainerBody, number: int, additive: Additive) -> Container:
    sd = body.level_sd_ml if body.level_sd_ml is not None else max(0.1, body.capacity_ml / 100)
    return check_container(
        Container(
            number, body.name.strip(), additive, body.capacity_ml, sd, body.pump.strip(), body.set_name.strip(),
            body.step_ml, body.least_ml,
        )
    )  # fmt: skip


@router.put("/{container_id}")
def change(system_id: Id, container_id: Id, body: ContainerBody, ctx: In, key: Key) -> Recorded:
    """Store what is known anew of a container. What it holds stays: another solution is another container."""
    one = container_store.container(ctx.connection, system_id, container_id)
    if body.additive_id != one.additive.id:
        raise InputError(
            "another solution is another container: take this one out of use",
            field="additive_id",
            accepted=one.additive.name,
        )
    item = _read(body, container_id, one.additive)
    ctx.command(key, lambda connection: container_store.change_container(connection, system_id, item))
    return Recorded(command=key, words=f"{item.name} is kept")


@router.post("/{container_id}/events/{event_id}/void")
def take_back(system_id: Id, container_id: Id, event_id: Id, ctx: In, key: Key) -> Recorded:
    """Take one event back; it can be put back."""
    one = container_store.container(ctx.connection, system_id, container_id)
    ctx.command(key, lambda connection: container_store.mark_event(connection, container_id, event_id, True))
    return Recorded(command=key, words=f"{one.name}: taken back")


@router.post("/{container_id}/events/{event_id}/restore")
def put_back(system_id: Id, container_id: Id, event_id: Id, ctx: In, key: Key) -> Recorded:
    """Let an event that was taken back count again."""
    one = container_store.container(ctx.connection, system_id, container_id)
    ctx.command(key, lambda connection: container_store.mark_event(connection, container_id, event_id, False))
    return Recorded(command=key, words=f"{one.name}: it counts again")


@router.post("/{container_id}/events", status_code=201)
def happened(system_id: Id, container_id: Id, body: ContainerEventBody, ctx: In, key: Key) -> Recorded:
    """Record a refill with its label confirmed, a level, a setting, a calibration or a new tube."""
    one = container_store.container(ctx.connection, system_id, container_id)
    event = _event(ctx, one, body)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        container_store.add_container_events(connection, container_id, [event], key)
        after = replace(one, events=(*one.events, event))
        return {"command": key, "words": _outcome(ctx, after, event)}

    return Recorded(**ctx.command(key, act))


def _event(ctx: Context, one: Container, body: ContainerEventBody) -> ContainerEvent:
    if body.kind == ContainerKind.FILLED:
        return _refilled(ctx, one, body)
    if body.kind == ContainerKind.LEVEL:
        check_range("level", body.ml, "mL", 0, one.capacity_ml, field="ml")
        return _possible(ctx, one, ContainerEvent(ctx.now, body.kind, body.ml))
    if body.kind == ContainerKind.SET:
        check_setting(one, body.ml)
        return set_event(one, body.ml, ctx.now)
    if body.kind == ContainerKind.CALIBRATED:
        if body.seconds is None:
            raise InputError("say how long it ran", field="seconds", accepted="5 to 3600 s")
        return ContainerEvent(ctx.now, body.kind, float(flow_ml_min(body.ml, body.seconds)))
    return ContainerEvent(ctx.now, body.kind)


def _possible(ctx: Context, one: Container, event: ContainerEvent) -> ContainerEvent:
    """A level above the last one, with nothing poured in between, is a slip or a refill."""
    known = one.of(ContainerKind.FILLED, ContainerKind.LEVEL)
    if known and event.ml > known[-1].ml + 4 * one.level_sd_ml:
        raise InputError(
            f"it held {_ml(known[-1].ml)} on {moment_words(known[-1].at, ctx.keeper.zone)} and nothing was poured in",
            field="ml",
            accepted=f"at most {_ml(known[-1].ml)}; or record the refill",
        )
    return event


def _refilled(ctx: Context, one: Container, body: ContainerEventBody) -> ContainerEvent:
    """The label of what is poured in is confirmed first: the wrong bottle turns to chalk, or doses the wrong thing."""
    check_range("contents", body.ml, "mL", 1, one.capacity_ml, field="ml")
    if body.before_ml is not None:
        check_range("level before", body.before_ml, "mL", 0, body.ml, field="before_ml")
    label = next((item for item in ctx.stored.additives if item.id == body.label_id), None)
    if label is None:
        raise InputError(
            "read the label of what you pour, and choose it", field="label_id", accepted="what stands on the bottle"
        )
    mine = one.additive
    if (label.formula, label.strength_g_l) != (mine.formula, mine.strength_g_l):
        why = never_meet(label.formula, mine.formula)
        stop = f"These must never meet: {why}." if why else "It would dose another amount than is planned."
        raise GateError(
            f"Stop: this container holds {mine.name}, your bottle is {label.name}. {stop}",
            (f"{mine.name}, {mine.formula}, {show_number(mine.strength_g_l or 0, 0)} g/L",),
            field="label_id",
        )
    return ContainerEvent(ctx.now, ContainerKind.FILLED, body.ml, body.before_ml, note=label.name)


def _outcome(ctx: Context, one: Container, event: ContainerEvent) -> str:
    """What was recorded, and what it says at once."""
    words = _event_words(ctx, event).split(": ", 1)[1]
    wrong = diagnosis(one, [one], ctx.now, ctx.keeper.zone)
    if event.kind == ContainerKind.LEVEL and wrong:
        return f"{one.name}, {words}. {wrong.title}"
    return f"{one.name}, {words}"


@router.post("/{container_id}/away")
def put_away(system_id: Id, container_id: Id, ctx: In, key: Key) -> Recorded:
    """Take a container out of use; what it gave stays in the record."""
    one = container_store.container(ctx.connection, system_id, container_id)
    ctx.command(key, lambda connection: container_store.put_container_away(connection, container_id, ctx.now, key))
    return Recorded(command=key, words=f"{one.name} is out of use")
