"""Looking: a look-round beside the numbers, and what happened to a system."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime, timedelta
from functools import partial

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import DomainError, InputError, at_field
from salttide.core.basics.phrasing import counted, moment_words
from salttide.core.system.catalogue import happening, happenings, sight, sights
from salttide.core.system.inspection import Amount, Event, VisualCheck, Where, check_sights
from salttide.store import ledger as ledger_store
from salttide.store import picture as picture_store

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel

router = APIRouter(prefix="/api/systems/{system_id}/looking", tags=["inspection"])
OLDEST_DAYS = 366.0


class SightChoice(Model):
    """Something that can be seen; `graded`: it is said how much of it."""

    key: str
    name: str
    group: str
    graded: bool


class SightBody(RequestModel):
    """One thing seen."""

    kind: str = Field(max_length=40)
    amount: Amount | None = None
    where: Where | None = None


class LookBody(RequestModel):
    """A look-round; what it does not name was not there. `days_ago` for one that is written down later."""

    sights: list[SightBody] = Field(max_length=60)
    note: str = Field(default="", max_length=1000)
    days_ago: float = 0
    picture_ids: list[Id] = Field(default_factory=list, max_length=20)


class HappeningBody(RequestModel):
    """Something that happened."""

    kind: str = Field(max_length=40)
    note: str = Field(default="", max_length=1000)
    days_ago: float = 0


class LookShown(Model):
    """A look-round in words, with its sights to start the next one from."""

    when: str
    words: list[str]
    note: str
    sights: list[SightBody]


class HappeningShown(Model):
    """A happening in words."""

    when: str
    words: str


class Looking(Model):
    """What can be seen and happen, and what was."""

    system_id: int
    name: str
    now: datetime
    groups: list[Choice]
    sights: list[SightChoice]
    amounts: list[str]
    places: list[str]
    happenings: list[Choice]
    looks: list[LookShown]
    happened: list[HappeningShown]


GROUP_NAMES = {"animals": "Animals", "growth": "Films and algae", "water": "Water", "gear": "Gear"}


@router.get("")
def looking(system_id: Id, ctx: In) -> Looking:
    """What to choose from, and the latest looks and happenings."""
    system = ctx.stored.system(system_id)
    ledger = ctx.household.ledger(system)
    return Looking(
        system_id=system.id,
        name=system.name,
        now=ctx.now.astimezone(ctx.keeper.zone),
        groups=[Choice(key=key, name=name) for key, name in GROUP_NAMES.items()],
        sights=[
            SightChoice(key=kind.key, name=kind.name, group=kind.group, graded=kind.graded)
            for kind in sights().values()
        ],
        amounts=list(Amount),
        places=list(Where),
        happenings=[Choice(key=kind.key, name=kind.name) for kind in happenings().values()],
        looks=[_look(ctx, look) for look in reversed(ledger.looks[-8:])],
        happened=[
            HappeningShown(when=moment_words(item.at, ctx.keeper.zone), words=item.words)
            for item in reversed(ledger.happenings[-8:])
        ],
    )


def _look(ctx: Context, look: VisualCheck) -> LookShown:
    return LookShown(
        when=moment_words(look.at, ctx.keeper.zone),
        words=[found.words for found in look.sights] or ["nothing to note"],
        note=look.note,
        sights=[SightBody(kind=found.kind.key, amount=found.amount, where=found.where) for found in look.sights],
    )


@router.post("/looks", status_code=201)
def keep_look(system_id: Id, body: LookBody, ctx: In, key: Key) -> Recorded:
    """Keep a look-round."""
    found = [
        at_field(f"sights.{number}", partial(sight, item.kind, item.amount or "", item.where or ""))
        for number, item in enumerate(body.sights)
    ]
    look = VisualCheck(_at(ctx, body.days_ago), check_sights(found), body.note.strip())
    words = counted(len(found), "sight") if found else "a look-round with nothing to note"
    return _keep(ctx, key, system_id, look, f"{words} kept", body.picture_ids)


@router.post("/happenings", status_code=201)
def keep_happening(system_id: Id, body: HappeningBody, ctx: In, key: Key) -> Recorded:
    """Keep a happening."""
    kind = at_field("kind", lambda: happening(body.kind))
    if not kind.bears and not body.note.strip():
        raise InputError("say in your words what happened", field="note", accepted="a few words")
    event = Event(_at(ctx, body.days_ago), kind, body.note.strip())
    return _keep(ctx, key, system_id, event, f"{kind.name}: kept")


def _at(ctx: Context, days_ago: float) -> datetime:
    if not 0 <= days_ago <= OLDEST_DAYS:
        raise DomainError("days ago", days_ago, "days", 0, OLDEST_DAYS, field="days_ago")
    return ctx.now - timedelta(days=days_ago)


def _keep(
    ctx: Context, key: str, system_id: int, event: VisualCheck | Event, words: str, picture_ids: Sequence[int] = ()
) -> Recorded:
    system = ctx.stored.system(system_id)

    def act(connection: sqlite3.Connection) -> dict[str, str]:
        (entry_id,) = ledger_store.record(connection, system.id, [event], key, ctx.now)
        for picture_id in picture_ids:
            picture_store.attach(connection, picture_id, system.id, entry_id)
        return {"command": key, "words": f"{words} for {system.name}"}

    return Recorded(**ctx.command(key, act))
