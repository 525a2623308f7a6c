"""The address that a controller sends its readings to."""

import sqlite3
from dataclasses import replace

from fastapi import APIRouter, Path
from pydantic import AwareDatetime, ConfigDict, Field

from salttide.core.alarm.report import MAX_ROWS, Heard, heard_of
from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.phrases import phrase
from salttide.household.alarm import take_in
from salttide.store import alarm as alarm_store

from .context import Context, In
from .models import Model, RequestModel

router = APIRouter(prefix="/api/push", tags=["push"])


class _Said(RequestModel):
    """What a controller says beside what is asked for is left out."""

    model_config = ConfigDict(extra="ignore", defer_build=True)


class PushedReading(_Said):
    """A measured value. signal: what it is of, such as `temperature` · unit: of the value, canonical where it is left
    out · at: when it was measured, now where it is left out."""

    sensor: str = Field(max_length=60)
    signal: str = Field(max_length=40)
    value: float
    unit: str = Field("", max_length=20)
    at: AwareDatetime | None = None


class PushedContact(_Said):
    """A contact that is on or off. signal: what it is of, such as `leak`; on is the alarm."""

    sensor: str = Field(max_length=60)
    signal: str = Field(max_length=40)
    on: bool
    at: AwareDatetime | None = None


class PushedReport(_Said):
    """What a controller says of one system."""

    readings: list[PushedReading] = Field(default_factory=list, max_length=MAX_ROWS)
    contacts: list[PushedContact] = Field(default_factory=list, max_length=MAX_ROWS)


class PushedRefusal(Model):
    """What could not be taken, and why; place: as `readings.3.value`."""

    place: str
    words: str
    accepted: str


class PushAnswer(Model):
    """kept: how many were new."""

    kept: int
    refused: list[PushedRefusal]


@router.post("/{token}")
def push(body: PushedReport, ctx: In, token: str = Path(max_length=80)) -> PushAnswer:
    """Take in what a controller says. What cannot be taken is told, the rest counts; sent again, nothing is kept
    twice."""
    heard, wrong = heard_of(body.model_dump(), ctx.now)
    with ctx.write() as connection:
        kept = _taken(ctx, connection, token, heard)
    refusals = [
        PushedRefusal(place=one.field, words=one.message, accepted=getattr(one, "accepted", "")) for one in wrong
    ]
    return PushAnswer(kept=kept, refused=refusals)


def _taken(ctx: Context, connection: sqlite3.Connection, token: str, heard: list[Heard]) -> int:
    one = alarm_store.controller_by(connection, token)
    if one is None:
        raise NotFoundError(phrase("controller.unknown_address"))
    kept = take_in(ctx.household, connection, one.system_id, heard)
    if heard:
        alarm_store.save_controller(connection, replace(one, heard=ctx.now))
    return kept
