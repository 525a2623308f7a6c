"""Probes: what a controller sends, and the part of it that a sheet shows."""

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, tzinfo
from functools import cache, lru_cache

from fastapi import APIRouter, Query, Response
from pydantic import AwareDatetime, Field, TypeAdapter

from salttide.core.basics.errors import DomainError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Reading
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import Unit, unit_of
from salttide.household.alarm import follow_rows
from salttide.store import probe as probe_store

from .context import Context, In, Key
from .models import Id, Recorded, RequestModel

router = APIRouter(prefix="/api/systems/{system_id}/probes", tags=["probe"])
MAX_ROWS = 20_000
EPOCH = datetime(1970, 1, 1, tzinfo=UTC)
EARLIEST = datetime(2000, 1, 1, tzinfo=UTC)


class ProbeReading(RequestModel):
    """A reading of a probe: its moment with its offset, and the value in canonical units."""

    at: AwareDatetime
    value: float


class ProbeBody(RequestModel):
    """What a probe wrote since it last sent anything."""

    parameter: Parameter
    instrument: str = Field(min_length=1, max_length=60)
    readings: list[ProbeReading] = Field(min_length=1, max_length=MAX_ROWS)


@dataclass(frozen=True, slots=True)
class ProbeStretch:
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
    """Store what a probe wrote; sent again, nothing is stored twice."""
    ctx.household.system(system_id)
    possible, name = FACTS[body.parameter].possible, body.instrument.strip()
    if not name:
        raise refused("probe.name_the_probe", "instrument", "common.to_characters")
    for place, reading in enumerate(body.readings):
        if not possible.holds(reading.value):
            raise DomainError(
                spoken(body.parameter), reading.value, "", possible.low, possible.high, field=f"readings.{place}.value"
            )
        if reading.at > ctx.now + timedelta(minutes=5):
            raise refused("probe.this_time_is_in_the_future", f"readings.{place}.at", "probe.up_to_now")
        if reading.at < EARLIEST:
            raise refused("probe.too_early_for_a_probe", f"readings.{place}.at", "probe.from_on")
    rows = [(int((reading.at - EPOCH).total_seconds()), reading.value) for reading in body.readings]

    def act(connection: sqlite3.Connection) -> str:
        count = probe_store.add_probe_rows(connection, system_id, body.parameter, name, rows)
        follow_rows(ctx.household, connection, system_id, body.parameter, name, rows)
        return phrase("probe.readings_of_saved", count=count, name=name)

    return ctx.record(key, act)


@router.get("", response_model=list[ProbeStretch])
def stretches(
    system_id: Id,
    ctx: In,
    start: AwareDatetime,
    end: AwareDatetime,
    points: int = Query(360, ge=10, le=2000),
) -> Response:
    """Every series of a system between two moments, each in about the number of points asked for."""
    if not start < end:
        raise refused("probe.the_end_is_before_the_start", "end", "probe.a_later_moment")
    span = int((start - EPOCH).total_seconds()), int((end - EPOCH).total_seconds())
    known = probe_store.probe_series(ctx.connection, system_id)
    if not known:
        ctx.household.system(system_id)
    found = [_shown(ctx, series, probe_store.stretch(ctx.connection, series, *span, points)) for series in known]
    return Response(_written_out().dump_json(found), media_type="application/json")


@cache
def _written_out() -> TypeAdapter[list[ProbeStretch]]:
    return TypeAdapter(list[ProbeStretch])


def _shown(ctx: Context, series: probe_store.ProbeSeries, part: probe_store.Stretch) -> ProbeStretch:
    unit = unit_of(series.parameter, ctx.keeper.units)
    low, mean, high = (_converted(unit, column) for column in (part.low, part.mean, part.high))
    at = _wall(ctx.keeper.zone, part.at, part.span_s // 2) if part.at else []
    return ProbeStretch(series.parameter, series.instrument, part.span_s, at, low, mean, high)


def crowd(zone: tzinfo, unit: Unit, readings: Sequence[Reading], points: int) -> ProbeStretch:
    """Very many readings of one instrument, shown as a probe's are: lowest, mean and highest of equal stretches."""
    first, last = (int((reading.at - EPOCH).total_seconds()) for reading in (readings[0], readings[-1]))
    span = max(1, (last - first) // points)
    parts: dict[int, list[float]] = {}
    for reading in readings:
        at = int((reading.at - EPOCH).total_seconds())
        parts.setdefault(at - at % span, []).append(unit.from_canonical(reading.value))
    low, high = [min(values) for values in parts.values()], [max(values) for values in parts.values()]
    mean = [sum(values) / len(values) for values in parts.values()]
    one = readings[0]
    return ProbeStretch(one.parameter, one.instrument, span, _wall(zone, list(parts), span // 2), low, mean, high)


def _converted(unit: Unit, column: Sequence[float]) -> list[float]:
    """A column in a unit; most units are a straight line of the canonical one."""
    start, slope = unit.from_canonical(0.0), unit.from_canonical(1.0) - unit.from_canonical(0.0)
    if unit.source:
        return [unit.from_canonical(value) for value in column]
    return list(column) if (start, slope) == (0.0, 1.0) else [value * slope + start for value in column]


QUARTER_S = 900
"""Time zones shift their clocks on a quarter of an hour."""


def _wall(zone: tzinfo, at: Sequence[int], middle: int) -> list[int]:
    """Milliseconds of the wall clock; a rolled-up row stands in the middle of its span."""
    return [(moment + middle + _offset_s(zone, moment // QUARTER_S)) * 1000 for moment in at]


@lru_cache(maxsize=50_000)
def _offset_s(zone: tzinfo, quarter: int) -> int:
    shift = datetime.fromtimestamp(quarter * QUARTER_S, zone).utcoffset()
    return int(shift.total_seconds()) if shift else 0
