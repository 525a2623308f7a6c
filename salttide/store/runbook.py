"""Runs of a runbook. Each answer is one committed row, so that a killed server loses nothing that was confirmed."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import date, datetime

from salttide.core.basics.errors import ConflictError, DataError, NotFoundError
from salttide.core.planning.batch import BatchWorkOrder
from salttide.core.planning.work_order import ChangeWorkOrder, DoseWorkOrder, VisualCheckOrder, WaterWorkOrder
from salttide.core.runbook.context import RunWork, TankWorkOrder
from salttide.core.runbook.steps import Answer, AnswerKind

from .database import to_moment, to_text
from .work import work_of, work_text


@dataclass(frozen=True)
class Run:
    """A runbook being worked through, or ended: on a planned step, a batch, or a system as it is (ids 0: none)."""

    id: int
    system_id: int
    step_id: int
    batch_id: int
    runbook: str
    work: RunWork
    started_at: datetime
    ended_at: datetime | None
    abandoned_because: str


def start(connection: sqlite3.Connection, runbook: str, work: RunWork, at: datetime, step_id: int = 0) -> int:
    """Start work, or find it already started, on this device or another."""
    system_id = work.system_id if isinstance(work, ChangeWorkOrder | TankWorkOrder) else 0
    batch_id = work.batch_id if isinstance(work, BatchWorkOrder) else 0
    if step_id:
        found = connection.execute("SELECT id FROM run WHERE step_id = ? AND ended_at IS NULL", (step_id,))
    elif batch_id:
        found = connection.execute("SELECT id FROM run WHERE batch_id = ? AND ended_at IS NULL", (batch_id,))
    else:
        found = connection.execute(
            "SELECT id FROM run WHERE system_id = ? AND runbook = ? AND step_id IS NULL AND ended_at IS NULL",
            (system_id, runbook),
        )
    row = found.fetchone()
    if row:
        return int(row["id"])
    cursor = connection.execute(
        "INSERT INTO run (system_id, step_id, batch_id, runbook, job, started_at) VALUES (?, ?, ?, ?, ?, ?)",
        (system_id or None, step_id or None, batch_id or None, runbook, work_text(work), to_text(at)),
    )
    return int(cursor.lastrowid or 0)


def run(connection: sqlite3.Connection, run_id: int) -> Run:
    """One run. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM run WHERE id = ?", (run_id,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no work {run_id} at the tank")
    return _run(row)


def open_run(connection: sqlite3.Connection, run_id: int) -> Run:
    """A run that is not ended. Raises ConflictError."""
    found = run(connection, run_id)
    if found.ended_at:
        raise ConflictError("this work was abandoned" if found.abandoned_because else "this work is finished already")
    return found


def open_runs(connection: sqlite3.Connection) -> list[Run]:
    """Work that was started and not ended."""
    return [_run(row) for row in connection.execute("SELECT * FROM run WHERE ended_at IS NULL ORDER BY id")]


def _run(row: sqlite3.Row) -> Run:
    work = work_of(row["job"])
    if isinstance(work, DoseWorkOrder | WaterWorkOrder | VisualCheckOrder):
        raise DataError(f"work {row['id']} has no runbook")
    return Run(
        row["id"], row["system_id"] or 0, row["step_id"] or 0, row["batch_id"] or 0, row["runbook"], work,
        to_moment(row["started_at"]), to_moment(row["ended_at"]) if row["ended_at"] else None, row["abandoned_because"],
    )  # fmt: skip


def answers(connection: sqlite3.Connection, run_id: int) -> list[Answer]:
    """The answers of a run in order, each with its moment by the clock of the timers."""
    rows = connection.execute("SELECT * FROM run_answer WHERE run_id = ? ORDER BY id", (run_id,))
    return [
        Answer(
            row["step"], AnswerKind(row["kind"]), row["item"], row["value"], row["text"], to_moment(row["ticked_at"])
        )
        for row in rows
    ]


def add_answer(connection: sqlite3.Connection, run_id: int, answer: Answer, at: datetime) -> None:
    """Keep one answer; `at` by the keeper's clock."""
    connection.execute(
        "INSERT INTO run_answer (run_id, step, kind, item, value, text, at, ticked_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (
            run_id, answer.step, answer.kind.value, answer.item, answer.value, answer.text, to_text(at),
            to_text(answer.at or at),
        ),
    )  # fmt: skip


def end(connection: sqlite3.Connection, run_id: int, at: datetime, because: str = "") -> None:
    """End a run; `because` where it was abandoned."""
    connection.execute(
        "UPDATE run SET ended_at = ?, abandoned_because = ? WHERE id = ?", (to_text(at), because, run_id)
    )


def kit_ticks(connection: sqlite3.Connection, system_id: int, day: date) -> frozenset[str]:
    """The kit packed for a day's visit."""
    rows = connection.execute("SELECT item FROM kit_tick WHERE system_id = ? AND day = ?", (system_id, day.isoformat()))
    return frozenset(row["item"] for row in rows)


def tick_kit(connection: sqlite3.Connection, system_id: int, day: date, item: str, packed: bool) -> None:
    """Mark kit as packed for a day's visit, or not."""
    if packed:
        connection.execute("INSERT OR IGNORE INTO kit_tick VALUES (?, ?, ?)", (system_id, day.isoformat(), item))
    else:
        connection.execute(
            "DELETE FROM kit_tick WHERE system_id = ? AND day = ? AND item = ?", (system_id, day.isoformat(), item)
        )
