"""Batches of new water, and their events."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any

from salttide.core.basics.errors import DataError, NotFoundError
from salttide.core.planning.batch import BatchEvent, BatchKind, BatchState, BatchWorkOrder, Phase, batch_state, lesson
from salttide.core.planning.batch_plan import Portion
from salttide.core.science.parameters import Parameter

from . import shelf
from .database import dump, to_moment, to_text
from .work import work_of, work_text


@dataclass(frozen=True)
class StoredBatch:
    """A batch with its record and state. portions: what it was mixed for."""

    id: int
    name: str
    job: BatchWorkOrder
    portions: tuple[Portion, ...]
    made_at: datetime
    events: tuple[BatchEvent, ...]
    state: BatchState


def add_batch(
    connection: sqlite3.Connection, job: BatchWorkOrder, portions: Sequence[Portion], at: datetime, command: str
) -> int:
    """Store a planned batch, named by its number."""
    held = [[p.system_id, p.name, p.litres, p.salinity, p.fraction, p.batch_l, p.fresh_l, p.step_id] for p in portions]
    cursor = connection.execute(
        "INSERT INTO batch (name, salt_id, job, portions, made_at, command) VALUES ('', ?, ?, ?, ?, ?)",
        (job.salt.id, work_text(job), dump(held), to_text(at), command),
    )
    batch_id = int(cursor.lastrowid or 0)
    name = job.name or f"Batch {batch_id}"
    frozen = work_text(replace(job, batch_id=batch_id, name=name))
    connection.execute("UPDATE batch SET name = ?, job = ? WHERE id = ?", (name, frozen, batch_id))
    return batch_id


def batch(connection: sqlite3.Connection, batch_id: int) -> StoredBatch:
    """One batch. Raises NotFoundError, also where it was undone."""
    row = connection.execute("SELECT * FROM batch WHERE id = ? AND void = 0", (batch_id,)).fetchone()
    if row is None:
        raise NotFoundError("there is no such batch")
    events = connection.execute(
        "SELECT * FROM batch_event WHERE batch_id = ? AND void = 0 ORDER BY at, id", (batch_id,)
    )
    return _batch(row, events)


def batches(connection: sqlite3.Connection, ended: bool = False) -> list[StoredBatch]:
    """The batches that are not used up, newest first; with `ended` the last twenty of all."""
    last = "SELECT * FROM batch WHERE void = 0 ORDER BY id DESC LIMIT 20"
    events: dict[int, list[sqlite3.Row]] = defaultdict(list)
    for row in connection.execute(
        f"SELECT * FROM batch_event WHERE batch_id IN (SELECT id FROM ({last})) AND void = 0 ORDER BY at, id"
    ):
        events[row["batch_id"]].append(row)
    found = [_batch(row, events[row["id"]]) for row in connection.execute(last)]
    return [one for one in found if ended or one.state.phase not in (Phase.USED, Phase.THROWN)]


def _batch(row: sqlite3.Row, rows: Iterable[sqlite3.Row]) -> StoredBatch:
    job = work_of(row["job"])
    if not isinstance(job, BatchWorkOrder):
        raise DataError(f"batch {row['id']} holds other work")
    events = tuple(
        BatchEvent(
            to_moment(one["at"]), BatchKind(one["kind"]), one["amount"], _held(one["held"]), one["item"],
            one["system_id"] or 0, one["id"],
        )
        for one in rows
    )  # fmt: skip
    portions = tuple(Portion(*one) for one in json.loads(row["portions"]))
    return StoredBatch(
        row["id"], row["name"], job, portions, to_moment(row["made_at"]), events, batch_state(job, events)
    )


def _held(text: str) -> dict[Parameter, float]:
    table: dict[str, Any] = json.loads(text)
    return {Parameter(key): value for key, value in table.items()}


def record(
    connection: sqlite3.Connection, found: StoredBatch, events: Sequence[BatchEvent], day: date, command: str
) -> None:
    """Record an event of a batch, and what it shows of its salt. Must run inside a transaction."""
    state = found.state
    for event in events:
        learned = lesson(state, event)
        if learned and learned.mass_g:
            shelf.add_batch(connection, found.job.salt.id, day, learned, command)
        state = batch_state(found.job, [*found.events, *events[: events.index(event) + 1]])
    add_events(connection, found.id, events, command)


def add_events(connection: sqlite3.Connection, batch_id: int, events: Sequence[BatchEvent], command: str) -> None:
    """Record events of a batch. Must run inside a transaction."""
    connection.executemany(
        "INSERT INTO batch_event (batch_id, at, kind, amount, held, item, system_id, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        [
            (batch_id, to_text(e.at), e.kind.value, e.amount, dump(e.values), e.item, e.system_id or None, command)
            for e in events
        ],
    )


def mixed_for(connection: sqlite3.Connection) -> frozenset[int]:
    """The planned steps that a batch not yet used up was mixed for."""
    return frozenset(portion.step_id for one in batches(connection) for portion in one.portions if portion.step_id)


def salt_used_g(connection: sqlite3.Connection, salt_id: int, since: str) -> float:
    """Grams of a salt that went into batches since a day (ISO)."""
    row = connection.execute(
        "SELECT total(amount) FROM batch_event JOIN batch ON batch.id = batch_id"
        " WHERE salt_id = ? AND kind IN ('salted', 'salt') AND at >= ? AND batch.void = 0 AND batch_event.void = 0",
        (salt_id, since),
    ).fetchone()
    return float(row[0])
