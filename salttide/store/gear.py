"""Parts of gear: the keeper's data on each."""

from __future__ import annotations

import sqlite3
from datetime import date

from salttide.core.upkeep.gear import NO_DATA, PartKept

from .by_system import BySystem
from .database import to_moment, to_text


def parts_kept(connection: sqlite3.Connection) -> BySystem[dict[str, PartKept]]:
    """The keeper's data on parts, by system and key."""
    return BySystem(connection.execute("SELECT * FROM part"), lambda rows: {row["part"]: _part(row) for row in rows})


def _part(row: sqlite3.Row) -> PartKept:
    return PartKept(
        _day(row["since"]), row["hours_per_day"], row["most_hours"], row["most_days"], row["spares"],
        to_moment(row["counted_at"]) if row["counted_at"] else None, row["note"],
    )  # fmt: skip


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None


def save_part(connection: sqlite3.Connection, system_id: int, part: str, kept: PartKept) -> None:
    """Store the data on a part; without any, its row is removed."""
    connection.execute("DELETE FROM part WHERE system_id = ? AND part = ?", (system_id, part))
    if kept == NO_DATA:
        return
    connection.execute(
        "INSERT INTO part (system_id, part, since, hours_per_day, most_hours, most_days, spares, counted_at, note)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            system_id, part, kept.since.isoformat() if kept.since else None, kept.hours_per_day, kept.most_hours,
            kept.most_days, kept.spares, to_text(kept.counted_at) if kept.counted_at else None, kept.note,
        ),
    )  # fmt: skip
