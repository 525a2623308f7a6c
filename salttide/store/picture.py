"""Pictures: what each shows, when it was taken, and the entry it belongs to."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from salttide.core.basics.errors import NotFoundError

from .database import to_moment, to_text


@dataclass(frozen=True)
class KeptPicture:
    """A picture as it is kept. `entry_id`: the ledger's entry it was taken for, if any."""

    id: int
    system_id: int
    at: datetime
    subject: str
    note: str
    digest: str
    width: int
    height: int
    entry_id: int | None = None


_COLUMNS = "id, system_id, at, subject, note, digest, width, height, entry_id"


def pictures(connection: sqlite3.Connection, system_id: int, limit: int = 200) -> list[KeptPicture]:
    """The pictures of a system that were not undone, latest first."""
    rows = connection.execute(
        f"SELECT {_COLUMNS} FROM picture WHERE system_id = ? AND void = 0 ORDER BY at DESC, id DESC LIMIT ?",
        (system_id, limit),
    )
    return [_picture(row) for row in rows]


def picture(connection: sqlite3.Connection, picture_id: int) -> KeptPicture:
    """One picture, also one that was undone. Raises NotFoundError."""
    row = connection.execute(f"SELECT {_COLUMNS} FROM picture WHERE id = ?", (picture_id,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no picture {picture_id}")
    return _picture(row)


def _picture(row: sqlite3.Row) -> KeptPicture:
    return KeptPicture(row["id"], row["system_id"], to_moment(row["at"]), *tuple(row)[3:])


def add_picture(connection: sqlite3.Connection, item: KeptPicture, command: str) -> int:
    """Store a picture whose files are on the disk."""
    cursor = connection.execute(
        "INSERT INTO picture (system_id, at, subject, note, digest, width, height, entry_id, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            item.system_id, to_text(item.at), item.subject, item.note, item.digest, item.width, item.height,
            item.entry_id, command,
        ),
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def picture_of(connection: sqlite3.Connection, entries: Iterable[int]) -> dict[int, int]:
    """The picture that was taken for each of some entries, by the entry's number."""
    asked = sorted(entries)
    marks = ", ".join("?" for _ in asked)
    rows = connection.execute(
        f"SELECT entry_id, id FROM picture WHERE void = 0 AND entry_id IN ({marks}) ORDER BY id", asked
    )
    return {row["entry_id"]: row["id"] for row in rows}


def attach(connection: sqlite3.Connection, picture_id: int, system_id: int, entry_id: int) -> None:
    """Attach a picture to an entry of the same system. Raises NotFoundError."""
    changed = connection.execute(
        "UPDATE picture SET entry_id = ? WHERE id = ? AND system_id = ? AND void = 0", (entry_id, picture_id, system_id)
    )
    if not changed.rowcount:
        raise NotFoundError(f"there is no picture {picture_id} of this system")
