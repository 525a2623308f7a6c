"""Probes: what a controller sends, and the stretch of it that a sheet shows."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime, timedelta
from typing import Any

from fastapi import APIRouter, Query, Response
from pydantic import AwareDatetime, BaseModel, Field

from salttide.core.errors import DomainError, InputError
from salttide.core.parameters import FACTS, Parameter, spoken
from salttide.core.units import unit_of
from salttide.store import probe as probe_store
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import Id, Recorded, Strict

router = APIRouter(prefix="/api/systems/{system_id}/probes", tags=["probe"])
MOST_ROWS = 20_000
EPOCH = datetime(1970, 1, 1, tzinfo=UTC)


class ProbeReading(Strict):
    """A reading of a probe: its moment with its offset, and the value in canonical units."""

    at: AwareDatetime
    value: float


class ProbeBody(Strict):
    """What a probe wrote since it was last heard."""

    parameter: Parameter
    instrument: str = Field(min_length=1, max_length=60)
    readings: list[ProbeReading] = Field(min_length=1, max_length=MOST_ROWS)


class ProbeStretch(BaseModel):
    """A series in columns, in the keeper's unit; `at` in milliseconds of the keeper's wall clock."""

    parameter: str
    instrument: str
    span_s: int
    at: list[int]
    low: list[float]
    mean: list[float]
    high: list[float]


@router.post("", status_code=201)
def send(system_id: Id, body: ProbeBody, ctx: In, key: Key) -> Recorded:
    """Keep what a probe wrote; sent again, nothing is kept twice."""
    system_store.system(ctx.connection, system_id)
    possible, name = FACTS[body.parameter].possible, body.instrument.strip()
    if not name:
        raise InputError("name the probe", field="instrument", accepted="1 to 60 characters")
    for place, reading in enumerate(body.readings):
        if not possible.holds(reading.value):
            raise DomainError(
                spoken(body.parameter), reading.value, "", possible.low, possible.high, field=f"readings.{place}.value"
            )
        if reading.at > ctx.now + timedelta(minutes=5):
            raise InputError("this moment is still to come", field=f"readings.{place}.at", accepted="up to now")
    rows = [(int((reading.at - EPOCH).total_seconds()), reading.value) for reading in body.readings]

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        count = probe_store.add_probe_rows(connection, system_id, body.parameter, name, rows)
        return {"command": key, "words": f"{count} readings of {name} kept"}

    return Recorded(**ctx.command(key, act))


@router.get("", response_model=list[ProbeStretch])
def stretches(
    system_id: Id,
    ctx: In,
    start: AwareDatetime,
    end: AwareDatetime,
    points: int = Query(360, ge=10, le=2000),
) -> Response:
    """Every series of a system between two moments, each in about so many points."""
    if not start < end:
        raise InputError("the end lies before the start", field="end", accepted="a later moment")
    system_store.system(ctx.connection, system_id)
    span = int((start - EPOCH).total_seconds()), int((end - EPOCH).total_seconds())
    found = [
        _shown(ctx, series, probe_store.stretch(ctx.connection, series, *span, points))
        for series in probe_store.probe_series(ctx.connection, system_id)
    ]
    return Response("[" + ",".join(one.model_dump_json() for one in found) + "]", media_type="application/json")


def _shown(ctx: Context, series: probe_store.ProbeSeries, part: probe_store.Stretch) -> ProbeStretch:
    unit = unit_of(series.parameter, ctx.keeper.units)
    low, mean, high = ([unit.from_canonical(value) for value in column] for column in (part.low, part.mean, part.high))
    return ProbeStretch(
        parameter=series.parameter,
        instrument=series.instrument,
        span_s=part.span_s,
        at=_wall(ctx, part),
        low=low,
        mean=mean,
        high=high,
    )


def _wall(ctx: Context, part: probe_store.Stretch) -> list[int]:
    """Milliseconds of the wall clock; a rolled-up row stands in the middle of its span."""
    if not part.at:
        return []
    zone, middle = ctx.keeper.zone, part.span_s // 2

    def offset(at: int) -> int:
        shift = datetime.fromtimestamp(at, zone).utcoffset()
        return int(shift.total_seconds()) if shift else 0

    first, last = offset(part.at[0]), offset(part.at[-1])
    same = first == last and part.at[-1] - part.at[0] < 90 * 86400
    return [(at + middle + (first if same else offset(at))) * 1000 for at in part.at]
