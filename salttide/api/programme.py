"""Programmes against troubles: what one would ask of a system, and how one that is under way stands."""

import sqlite3
from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from salttide.core.programme.course import Coverage
from salttide.core.programme.file import programmes
from salttide.household import programme as acts
from salttide.household.acts import when_done

from .context import In, Key
from .models import Id, Recorded, RequestModel
from .programme_shown import ProgrammeLine, ProgrammeSheet, line_of, sheet_of

router = APIRouter(prefix="/api/systems/{system_id}/programmes", tags=["programme"])
Wish = Annotated[str, Field(max_length=40)]


class BeginBody(RequestModel):
    """How much there is at the start, and which tasks the keeper wishes for."""

    coverage: Coverage
    wishes: list[Wish] = Field(default_factory=list, max_length=10)


class ReviewBody(RequestModel):
    """How much there is; when, in plain words (empty: now); the number of its picture, if one was taken."""

    coverage: Coverage
    when: str = Field("", max_length=60)
    picture_id: int | None = Field(None, ge=1, le=2**53)


class PhaseBody(RequestModel):
    """The phase to go to."""

    phase: str = Field(max_length=40)


@router.get("")
def listing(system_id: Id, ctx: In) -> list[ProgrammeLine]:
    """The programmes: under way first, then what was seen growing, then the rest."""
    view = ctx.household.outlook(ctx.household.system(system_id))
    lines = [line_of(ctx, view, one) for one in programmes().values()]
    return sorted(lines, key=lambda one: (not one.live, not one.seen, one.trouble, one.name))


@router.get("/{programme}")
def sheet(system_id: Id, programme: str, ctx: In) -> ProgrammeSheet:
    """One programme with this system's numbers, and how it stands where it is under way."""
    return sheet_of(ctx, ctx.household.system(system_id), acts.programme_named(programme))


@router.post("/{programme}", status_code=201)
def begin(system_id: Id, programme: str, body: BeginBody, ctx: In, key: Key) -> Recorded:
    """Begin a programme: its tasks go on the rota, and a case follows it."""
    system = ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        return acts.begin(ctx.household, connection, system, programme, body.coverage, body.wishes, key)

    return ctx.record(key, act)


@router.post("/{programme}/reviews", status_code=201)
def review(system_id: Id, programme: str, body: ReviewBody, ctx: In, key: Key) -> Recorded:
    """Record a review, which is the task of the rota as well."""
    system, at = ctx.household.system(system_id), when_done(ctx.household, body.when)

    def act(connection: sqlite3.Connection) -> str:
        return acts.review(ctx.household, connection, system, programme, body.coverage, at, body.picture_id, key)

    return ctx.record(key, act)


@router.post("/{programme}/phase", status_code=201)
def go_to(system_id: Id, programme: str, body: PhaseBody, ctx: In, key: Key) -> Recorded:
    """Take a programme to another phase."""
    system = ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        return acts.go_to(ctx.household, connection, system, programme, body.phase, key)

    return ctx.record(key, act)
