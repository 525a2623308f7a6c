"""Runs of a runbook. Each answer is one committed row, so that a killed server loses nothing that was confirmed."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import datetime

from salttide.core.errors import ConflictError, NotFoundError
from salttide.core.job import Job
from salttide.core.runbook import Answer, AnswerKind

from .change import StoredStep, job_of, job_text
from .database import to_moment, to_text


@dataclass(frozen=True)
class Run:
    """A runbook being worked through, or ended."""

    id: int
    system_id: int
    step_id: int
    runbook: str
    job: Job
    started_at: datetime
    ended_at: datetime | None
    abandoned_because: str


def start(connection: sqlite3.Connection, step: StoredStep, runbook: str, at: datetime) -> int:
    """Start the work of a step, or find it where it was started already, on this device or another."""
    row = connection.execute("SELECT id FROM run WHERE step_id = ? AND ended_at IS NULL", (step.id,)).fetchone()
    if row:
        return int(row["id"])
    cursor = connection.execute(
        "INSERT INTO run (system_id, step_id, runbook, job, started_at) VALUES (?, ?, ?, ?, ?)",
        (step.system_id, step.id, runbook, job_text(step.job), to_text(at)),
    )
    return int(cursor.lastrowid or 0)


def run(connection: sqlite3.Connection, run_id: int) -> Run:
    """One run. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM run WHERE id = ?", (run_id,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no work {run_id}")
    return _run(row)


def open_run(connection: sqlite3.Connection, run_id: int) -> Run:
    """A run that has not ended. Raises ConflictError."""
    found = run(connection, run_id)
    if found.ended_at:
        raise ConflictError("this work was abandoned" if found.abandoned_because else "this work is finished already")
    return found


def open_runs(connection: sqlite3.Connection) -> list[Run]:
    """Work that was started and not ended."""
    return [_run(row) for row in connection.execute("SELECT * FROM run WHERE ended_at IS NULL ORDER BY id")]


def _run(row: sqlite3.Row) -> Run:
    return Run(
        row["id"], row["system_id"], row["step_id"], row["runbook"], job_of(row["job"]), to_moment(row["started_at"]),
        to_moment(row["ended_at"]) if row["ended_at"] else None, row["abandoned_because"],
    )  # fmt: skip


def answers(connection: sqlite3.Connection, run_id: int) -> list[Answer]:
    """What was said, in order."""
    rows = connection.execute("SELECT * FROM run_answer WHERE run_id = ? ORDER BY id", (run_id,))
    return [Answer(row["step"], AnswerKind(row["kind"]), row["item"], row["value"], row["text"]) for row in rows]


def add_answer(connection: sqlite3.Connection, run_id: int, answer: Answer, at: datetime) -> None:
    """Keep one answer."""
    connection.execute(
        "INSERT INTO run_answer (run_id, step, kind, item, value, text, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (run_id, answer.step, answer.kind.value, answer.item, answer.value, answer.text, to_text(at)),
    )


def end(connection: sqlite3.Connection, run_id: int, at: datetime, because: str = "") -> None:
    """End a run; `because` where it was abandoned."""
    connection.execute(
        "UPDATE run SET ended_at = ?, abandoned_because = ? WHERE id = ?", (to_text(at), because, run_id)
    )
