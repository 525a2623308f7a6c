"""The log: everything recorded, by filter, with readings exported as a table."""

from collections.abc import Iterator
from datetime import UTC, date, datetime, time, timedelta
from itertools import chain
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Query
from fastapi.responses import StreamingResponse

from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import unit_of
from salttide.files.readings import COLUMNS
from salttide.files.table import write_csv
from salttide.store import log as log_store
from salttide.store import probe as probe_store
from salttide.store.database import to_moment, to_text

from .context import Context, In
from .models import Choice, Model, named
from .record import RecordRow, record_row

router = APIRouter(prefix="/api", tags=["log"])


class LogRow(RecordRow):
    """An entry with its system."""

    system_id: int
    system: str


class Log(Model):
    """One page of the log; `more` asks for the next."""

    rows: list[LogRow]
    more: str
    systems: list[Choice]
    kinds: list[Choice]
    parameters: list[Choice]


def wanted(
    ctx: In,
    system_id: int | None = Query(None, ge=1, le=2**62),
    kind: str = Query("", max_length=20),
    parameter: str = Query("", max_length=20),
    first: date | None = None,
    last: date | None = None,
    before: str = Query("", max_length=60),
) -> log_store.LogFilter:
    """The filter of a request; days are the keeper's."""
    at, _, entry_id = before.partition("/")
    return log_store.LogFilter(
        system_id,
        kind,
        parameter,
        to_text(datetime.combine(first, time(), ctx.keeper.zone)) if first else "",
        _end_of(last, ctx),
        (at, int(entry_id)) if entry_id.isdigit() and len(entry_id) < 19 else None,
    )


def _end_of(day: date | None, ctx: Context) -> str:
    if day is None or day.year >= 9999:
        return ""
    return to_text(datetime.combine(day + timedelta(days=1), time(), ctx.keeper.zone) - timedelta(seconds=1))


Wanted = Annotated[log_store.LogFilter, Depends(wanted)]


@router.get("/log")
def log(ctx: In, chosen: Wanted, limit: int = Query(60, ge=1, le=500)) -> Log:
    """A page of the log, newest first."""
    systems = {system.id: system.name for system in ctx.stored.every_system.values()}
    rows = log_store.log_rows(ctx.connection, chosen, limit + 1)
    shown = [
        LogRow(
            **record_row(ctx, row).model_dump(), system_id=row["system_id"], system=systems.get(row["system_id"], "")
        )
        for row in rows[:limit]
    ]
    last = rows[limit - 1] if len(rows) > limit else None
    return Log(
        rows=shown,
        more=f"{last['at']}/{last['id']}" if last else "",
        systems=[Choice(key=str(key), name=name) for key, name in systems.items()],
        kinds=named("log.kind"),
        parameters=[Choice(key=parameter, name=FACTS[parameter].name) for parameter in Parameter],
    )


@router.get("/readings.csv", response_class=StreamingResponse)
def readings_csv(ctx: In, chosen: Wanted) -> StreamingResponse:
    """The readings of the filter as CSV in our own columns, values in the keeper's units."""
    name = f"readings-{ctx.today.isoformat()}.csv"
    return StreamingResponse(
        (piece.encode("utf-8") for piece in write_csv(COLUMNS, _rows(ctx, chosen))),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}"', "X-Row-Count": str(_count(ctx, chosen))},
    )


def _count(ctx: Context, chosen: log_store.LogFilter) -> int:
    """How many rows follow, so that a truncated file can be told from a whole one."""
    by_hand = log_store.readings_out_count(ctx.connection, chosen)
    if chosen.kind not in ("", "reading"):
        return by_hand
    return by_hand + probe_store.rows_out_count(
        ctx.connection, chosen.system_id, chosen.parameter, chosen.first, chosen.last
    )


def _rows(ctx: Context, chosen: log_store.LogFilter) -> Iterator[tuple[Any, ...]]:
    zone, units = ctx.keeper.zone, ctx.keeper.units
    # A connection belongs to its thread, and the pieces of an answer are made in another one.
    connection = ctx.database.connection
    written = probe_store.rows_out(connection, chosen.system_id, chosen.parameter, chosen.first, chosen.last)
    by_hand = log_store.readings_out(connection, chosen)
    for row in chain(by_hand, written if chosen.kind in ("", "reading") else ()):
        parameter = Parameter(row["parameter"])
        unit = unit_of(parameter, units)
        value, sd = unit.from_canonical(row["value"]), row["sd"]
        scatter = abs(unit.from_canonical(row["value"] + sd) - value)
        yield (
            to_moment(row["at"]).astimezone(UTC).astimezone(zone).isoformat(),
            row["name"],
            row["parameter"],
            round(value, 10),
            unit.key,
            row["instrument"],
            round(scatter, 8),
            row["note"],
        )
