"""Care done and skipped, read for the rota further back than the water."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from datetime import timedelta
from functools import lru_cache
from types import MappingProxyType

from salttide.core.ledger.entries import Care, in_order

from .database import to_moment, to_text

KNOWN = timedelta(days=400)
"""Care counts for longer than water: intervals of a year are estimated from it."""


def care_entries(connection: sqlite3.Connection, system_id: int, since: str) -> tuple[Care, ...]:
    """Care of a system in order of time: from more than a year before `since` (empty: all), and the last time of each
    task even if longer ago."""
    known = (system_id, to_text(to_moment(since) - KNOWN) if since else "")
    recent = connection.execute(f"{_SELECT} AND effective.at >= ? ORDER BY effective.at, effective.id", known)
    older = connection.execute(f"{_SELECT_LAST} AND effective.at < ? GROUP BY care.task", known)
    return tuple(in_order([*(_care(row) for row in older), *(_care(row) for row in recent)]))


_FROM = (
    " FROM effective JOIN care ON care.entry_id = effective.id"
    " WHERE effective.system_id = ? AND effective.kind = 'care'"
)
_SELECT = f"SELECT effective.id, effective.at, care.*{_FROM}"
# With max() in the list, SQLite takes the other columns from the row that holds it.
_SELECT_LAST = f"SELECT effective.id, max(effective.at) AS at, care.*{_FROM}"


@lru_cache(maxsize=4096)
def _found(text: str) -> Mapping[str, float | str]:
    return MappingProxyType(json.loads(text))


def _care(row: sqlite3.Row) -> Care:
    return Care(
        to_moment(row["at"]), row["task"], row["minutes"], bool(row["skipped"]), row["reason"], row["id"],
        bool(row["timed"]), row["zone"], _found(row["found"]),
    )  # fmt: skip
