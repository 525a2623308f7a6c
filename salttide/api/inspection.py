"""Inspection: visual checks, and events in the life of a system."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime, timedelta
from functools import partial

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import at_field
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, moment_words
from salttide.core.basics.refused import refused
from salttide.core.system.catalogue import event_kind, event_kinds, sign, signs
from salttide.core.system.inspection import Amount, Event, VisualCheck, Where, check_signs
from salttide.household import acts
from salttide.store import picture as picture_store

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, named

router = APIRouter(prefix="/api/systems/{system_id}/inspection", tags=["inspection"])
LONG_AGO = timedelta(days=366)
"""How long ago an event may be entered: a new lamp is remembered for longer than a dose."""


class SignChoice(Model):
    """A sign that can be seen; `graded`: with how much of it."""

    key: str
    name: str
    group: str
    graded: bool


class SignBody(RequestModel):
    """One thing seen."""

    kind: str = Field(max_length=40)
    amount: Amount | None = None
    where: Where | None = None


class VisualCheckBody(RequestModel):
    """A visual check; what it does not name was not there. when: as typed, empty for now."""

    signs: list[SignBody] = Field(max_length=60)
    note: str = Field(default="", max_length=1000)
    when: str = Field("", max_length=40)
    picture_ids: list[Id] = Field(default_factory=list, max_length=20)


class SystemEventBody(RequestModel):
    """Something that happened; when: as typed, empty for now."""

    kind: str = Field(max_length=40)
    note: str = Field(default="", max_length=1000)
    when: str = Field("", max_length=40)


class VisualCheckShown(Model):
    """A visual check in words, with its signs as the next one's starting point."""

    when: str
    words: list[str]
    note: str
    signs: list[SignBody]


class SystemEventShown(Model):
    """An event in words."""

    when: str
    words: str


class InspectionShown(Model):
    """The signs and events to choose from, and the latest checks and events."""

    system_id: int
    name: str
    now: datetime
    groups: list[Choice]
    signs: list[SignChoice]
    amounts: list[str]
    places: list[str]
    kinds: list[Choice]
    checks: list[VisualCheckShown]
    events: list[SystemEventShown]


@router.get("")
def inspection(system_id: Id, ctx: In) -> InspectionShown:
    """What to choose from, and the latest checks and events."""
    system = ctx.household.system(system_id)
    ledger = ctx.household.ledger(system)
    return InspectionShown(
        system_id=system.id,
        name=system.name,
        now=ctx.now.astimezone(ctx.keeper.zone),
        groups=named("inspection.group"),
        signs=[
            SignChoice(key=kind.key, name=kind.name, group=kind.group, graded=kind.graded) for kind in signs().values()
        ],
        amounts=list(Amount),
        places=list(Where),
        kinds=[Choice(key=kind.key, name=kind.name) for kind in event_kinds().values()],
        checks=[_look(ctx, look) for look in reversed(ledger.looks[-8:])],
        events=[
            SystemEventShown(when=moment_words(item.at, ctx.keeper.zone), words=item.words)
            for item in reversed(ledger.happenings[-8:])
        ],
    )


def _look(ctx: Context, look: VisualCheck) -> VisualCheckShown:
    return VisualCheckShown(
        when=moment_words(look.at, ctx.keeper.zone),
        words=[found.words for found in look.signs] or [phrase("common.nothing_to_note")],
        note=look.note,
        signs=[SignBody(kind=found.kind.key, amount=found.amount, where=found.where) for found in look.signs],
    )


@router.post("/checks", status_code=201)
def save_check(system_id: Id, body: VisualCheckBody, ctx: In, key: Key) -> Recorded:
    """Save a visual check."""
    found = [
        at_field(f"signs.{number}", partial(sign, item.kind, item.amount or "", item.where or ""))
        for number, item in enumerate(body.signs)
    ]
    look = VisualCheck(ctx.when(body.when, LONG_AGO), check_signs(found), body.note.strip())
    words = counted(len(found), "sign") if found else phrase("inspection.a_visual_check_with_nothing_to")
    return _keep(ctx, key, system_id, look, phrase("inspection.saved", what=words), body.picture_ids)


@router.post("/events", status_code=201)
def save_event(system_id: Id, body: SystemEventBody, ctx: In, key: Key) -> Recorded:
    """Record an event."""
    kind = at_field("kind", lambda: event_kind(body.kind))
    if not kind.affects and not body.note.strip():
        raise refused("inspection.say_in_a_few_words_what", "note", "inspection.a_few_words")
    event = Event(ctx.when(body.when, LONG_AGO), kind, body.note.strip())
    return _keep(ctx, key, system_id, event, phrase("common.what_saved", what=kind.name))


def _keep(
    ctx: Context, key: str, system_id: int, event: VisualCheck | Event, words: str, picture_ids: Sequence[int] = ()
) -> Recorded:
    system = ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        (entry_id,) = acts.record(ctx.household, connection, system.id, [event], key)
        for picture_id in picture_ids:
            picture_store.attach(connection, picture_id, system.id, entry_id)
        return phrase("inspection.for", words=words, system=system.name)

    return ctx.record(key, act)
