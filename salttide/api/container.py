"""Containers: what is in them, how long it lasts, whether their pumps deliver, and the schedule as a file."""

import sqlite3
from datetime import datetime

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import GateError, check_range
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.basics.refused import refused
from salttide.core.planning.container import (
    Container,
    ContainerEvent,
    ContainerKind,
    above_last,
    check_container,
    check_setting,
    flow_ml_min,
    usual_level_sd_ml,
)
from salttide.core.planning.container_words import container_event_words, pair_words, pairs_at_odds
from salttide.core.planning.delivery import diagnosis
from salttide.core.planning.pump_setting import set_event
from salttide.core.science.amount import contents_text
from salttide.core.science.recipe import cautions_of, never_meet
from salttide.core.system.shelf import Additive
from salttide.store import container as container_store

from .container_shown import ContainerShown, container_shown
from .context import Context, In, Key
from .models import Caution, Choice, Id, Model, Recorded, RequestModel, caution_shown

router = APIRouter(prefix="/api/systems/{system_id}/containers", tags=["container"])


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
    what stands on the bottle that is poured from · seconds: how long a calibration ran ·
    when: as typed, empty for now."""

    kind: ContainerKind
    ml: float = 0.0
    before_ml: float | None = None
    label_id: Id | None = None
    seconds: float | None = None
    when: str = Field("", max_length=40)


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
    """The containers beside a system."""
    system = ctx.household.system(system_id)
    held = ctx.stored.containers(system_id)
    additives = ctx.stored.additives
    keys = dict.fromkeys(key for one in held for key in cautions_of(one.additive.formula))
    pairs = pairs_at_odds(held)
    return ContainerAnswer(
        name=system.name,
        containers=[container_shown(ctx, one, held) for one in held],
        additives=[_choice(item) for item in additives if item.strength_g_l is not None],
        labels=[_choice(item) for item in additives],
        apart=[pair_words(one, other, why, ctx.now) for one, other, why in pairs],
        cautions=[caution_shown(key) for key in (*(["two_concentrates"] if pairs else []), *keys)],
    )


def _choice(item: Additive) -> Choice:
    strength = (
        f", {show_number(item.strength_g_l, 0)} g/L" if item.strength_g_l is not None else phrase("container.dry")
    )
    return Choice(key=str(item.id), name=item.name, remark=f"{item.formula}{strength}")


@router.post("", status_code=201)
def add(system_id: Id, body: ContainerBody, ctx: In, key: Key) -> Recorded:
    """Set a container up, filled or empty."""
    ctx.household.system(system_id)
    additive = next((item for item in ctx.stored.additives if item.id == body.additive_id), None)
    if additive is None:
        raise refused("common.this_additive_is_not_on_the", "additive_id", "container.a_solution_of_the_shelf")
    item = _read(body, 0, additive)
    if body.filled_ml is not None:
        check_range("contents", body.filled_ml, "mL", 0, item.capacity_ml, field="filled_ml")

    def act(connection: sqlite3.Connection) -> str:
        number = container_store.add_container(connection, system_id, item, key)
        if body.filled_ml is not None:
            event = ContainerEvent(ctx.now, ContainerKind.FILLED, body.filled_ml)
            container_store.add_container_events(connection, number, [event], key)
        return phrase("container.added", name=item.name)

    return ctx.record(key, act)


def _read(body: ContainerBody, number: int, additive: Additive) -> Container:
    sd = body.level_sd_ml if body.level_sd_ml is not None else usual_level_sd_ml(body.capacity_ml)
    return check_container(
        Container(
            number, body.name.strip(), additive, body.capacity_ml, sd, body.pump.strip(), body.set_name.strip(),
            body.step_ml, body.least_ml,
        )
    )  # fmt: skip


@router.put("/{container_id}")
def change(system_id: Id, container_id: Id, body: ContainerBody, ctx: In, key: Key) -> Recorded:
    """Store an edited container. What it holds stays: another solution is another container."""
    one = container_store.container(ctx.connection, system_id, container_id)
    if body.additive_id != one.additive.id:
        raise refused("container.a_different_solution_needs_its", "additive_id", takes=one.additive.name)
    item = _read(body, container_id, one.additive)
    ctx.command(key, lambda connection: container_store.change_container(connection, system_id, item))
    return Recorded(command=key, words=phrase("container.saved", name=item.name))


@router.post("/{container_id}/events/{event_id}/undo")
def undo(system_id: Id, container_id: Id, event_id: Id, ctx: In, key: Key) -> Recorded:
    """Take one event back; it can be put back."""
    one = container_store.container(ctx.connection, system_id, container_id)
    ctx.command(key, lambda connection: container_store.mark_event(connection, container_id, event_id, True))
    return Recorded(command=key, words=phrase("container.undone", name=one.name))


@router.post("/{container_id}/events/{event_id}/restore")
def restore(system_id: Id, container_id: Id, event_id: Id, ctx: In, key: Key) -> Recorded:
    """Let an event that was undone count again."""
    one = container_store.container(ctx.connection, system_id, container_id)
    ctx.command(key, lambda connection: container_store.mark_event(connection, container_id, event_id, False))
    return Recorded(command=key, words=phrase("container.counts_again", name=one.name))


@router.post("/{container_id}/events", status_code=201)
def add_event(system_id: Id, container_id: Id, body: ContainerEventBody, ctx: In, key: Key) -> Recorded:
    """Record a refill with its label confirmed, a level, a setting, a calibration or a new tube."""
    one = container_store.container(ctx.connection, system_id, container_id)
    at = ctx.when(body.when)
    event = _event(ctx, one.until(at), body, at)

    def act(connection: sqlite3.Connection) -> str:
        container_store.add_container_events(connection, container_id, [event], key)
        return _outcome(ctx, one.after(event), event)

    return ctx.record(key, act)


def _event(ctx: Context, one: Container, body: ContainerEventBody, at: datetime) -> ContainerEvent:
    """An event at a moment, for a container as it was then."""
    if body.kind == ContainerKind.FILLED:
        return _refilled(ctx, one, body, at)
    if body.kind == ContainerKind.LEVEL:
        check_range("level", body.ml, "mL", 0, one.capacity_ml, field="ml")
        return _possible(ctx, one, ContainerEvent(at, body.kind, body.ml))
    if body.kind == ContainerKind.SET:
        check_setting(one, body.ml)
        return set_event(one, body.ml, at)
    if body.kind == ContainerKind.CALIBRATED:
        if body.seconds is None:
            raise refused("container.how_long_did_it_run", "seconds", "container.to_s")
        return ContainerEvent(at, body.kind, float(flow_ml_min(body.ml, body.seconds)))
    return ContainerEvent(at, body.kind)


def _possible(ctx: Context, one: Container, event: ContainerEvent) -> ContainerEvent:
    """A level above the last one with no refill between is a typing slip or an unrecorded refill."""
    last = above_last(one, event.ml)
    if last is not None:
        raise refused(
            "container.it_held_on_and_nothing_was",
            "ml",
            takes=phrase("container.at_most_or_record_the_refill", ml=contents_text(last.ml)),
            ml=contents_text(last.ml),
            day=moment_words(last.at, ctx.keeper.zone),
        )
    return event


def _refilled(ctx: Context, one: Container, body: ContainerEventBody, at: datetime) -> ContainerEvent:
    """The label of the bottle is confirmed first: the wrong one turns to chalk, or doses the wrong thing."""
    check_range("contents", body.ml, "mL", 1, one.capacity_ml, field="ml")
    if body.before_ml is not None:
        check_range(phrase("container.level_before"), body.before_ml, "mL", 0, body.ml, field="before_ml")
    label = next((item for item in ctx.stored.additives if item.id == body.label_id), None)
    if label is None:
        raise refused("container.read_the_label_of_what_you", "label_id", "container.what_the_bottle_says")
    mine = one.additive
    if (label.formula, label.strength_g_l) != (mine.formula, mine.strength_g_l):
        why = never_meet(label.formula, mine.formula)
        stop = (
            phrase("container.these_must_never_meet", why=why)
            if why
            else phrase("container.it_would_dose_a_different_amount")
        )
        raise GateError(
            phrase("container.stop_this_container_holds_your", mine=mine.name, bottle=label.name, why=stop),
            (f"{mine.name}, {mine.formula}, {show_number(mine.strength_g_l or 0, 0)} g/L",),
            field="label_id",
        )
    return ContainerEvent(at, ContainerKind.FILLED, body.ml, body.before_ml, note=label.name)


def _outcome(ctx: Context, one: Container, event: ContainerEvent) -> str:
    """What was recorded, and what it shows straight away."""
    words = container_event_words(event)
    wrong = diagnosis(one, [one], ctx.now, ctx.keeper.zone)
    if event.kind == ContainerKind.LEVEL and wrong:
        return f"{one.name}, {words}. {wrong.title}"
    return f"{one.name}, {words}"


@router.post("/{container_id}/archive")
def archive(system_id: Id, container_id: Id, ctx: In, key: Key) -> Recorded:
    """Take a container out of use; what it dosed stays in the record."""
    one = container_store.container(ctx.connection, system_id, container_id)
    ctx.command(key, lambda connection: container_store.archive_container(connection, container_id, ctx.now, key))
    return Recorded(command=key, words=phrase("container.is_retired", name=one.name))
