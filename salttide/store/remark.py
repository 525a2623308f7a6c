"""Remarks on entries of the ledger, and entries found by what was written in them."""

from __future__ import annotations

import sqlite3
from datetime import datetime

from salttide.core.basics.errors import NotFoundError

from .database import to_text
from .log import rows_of


def add_remark(connection: sqlite3.Connection, entry_id: int, text: str, command: str, at: datetime) -> None:
    """Store a remark. Raises NotFoundError where there is no such entry."""
    if connection.execute("SELECT 1 FROM entry WHERE id = ? AND kind <> 'void'", (entry_id,)).fetchone() is None:
        raise NotFoundError(f"there is no entry {entry_id}")
    connection.execute(
        "INSERT INTO remark (entry_id, text, at, command) VALUES (?, ?, ?, ?)", (entry_id, text, to_text(at), command)
    )


_SAID = (
    "SELECT entry.id, entry.at, entry.note AS said FROM entry WHERE entry.note <> ''"
    " UNION ALL SELECT entry.id, entry.at, care.reason FROM care JOIN entry ON entry.id = care.entry_id"
    " WHERE care.reason <> ''"
    " UNION ALL SELECT entry.id, entry.at, remark.text FROM remark JOIN entry ON entry.id = remark.entry_id"
    " WHERE remark.void = 0"
)


def entries_saying(connection: sqlite3.Connection, words: list[str], limit: int) -> list[sqlite3.Row]:
    """Entries in whose note, reason or remark every word stands, newest first, as rows of the log; undone ones not."""
    if not words:
        return []
    like = ["%" + word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%" for word in words]
    where = " AND ".join(["said LIKE ? ESCAPE '\\'"] * len(like))
    ids = connection.execute(
        f"SELECT DISTINCT id FROM ({_SAID}) AS written WHERE {where} AND NOT EXISTS"
        " (SELECT 1 FROM entry AS later WHERE later.supersedes = written.id) ORDER BY at DESC, id DESC LIMIT ?",
        (*like, limit),
    ).fetchall()
    return rows_of(connection, [row[0] for row in ids])
