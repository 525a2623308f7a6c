"""Imports of readings: their state, their rows in chunks, and which rows are there already."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.science.parameters import Parameter

from . import probe
from .database import dump, to_moment, to_text

Key = tuple[int, str, str, float, str]
"""The identity of a reading: system, moment, parameter, value (rounded), instrument."""
KEY_DIGITS = 6
_WIDE = 20_000


@dataclass(frozen=True)
class Dense:
    """A series of a file that is a probe's: system, parameter, instrument, first and last moment (s since 1970)."""

    system_id: int
    parameter: str
    instrument: str
    first: int
    last: int


@dataclass(frozen=True)
class Import:
    """One import. share: how much of the file has been read, 0..1."""

    command: str
    name: str
    path: str
    bytes: int
    header: tuple[str, ...]
    mapping: dict[str, Any]
    state: str
    share: float
    good: int
    twice: int
    bad: int
    bad_rows: list[tuple[int, str]]
    first_rows: list[dict[str, Any]]
    said: str
    number: int = 0
    dense: tuple[Dense, ...] = ()


def add_import(
    connection: sqlite3.Connection, command: str, name: str, path: str, size: int, header: Sequence[str], at: str
) -> bool:
    """Store an uploaded file before anything enters the ledger. Returns whether it is new under this command."""
    added = connection.execute(
        "INSERT OR IGNORE INTO import (command, name, path, started_at, bytes, header, mapping, state, number)"
        " VALUES (?, ?, ?, ?, ?, ?, '{}', 'new', (SELECT coalesce(max(number), 0) + 1 FROM import))",
        (command, name, path, at, size, dump(list(header))),
    )
    return bool(added.rowcount)


def waiting(connection: sqlite3.Connection, since: datetime) -> list[Import]:
    """Imports since a moment that may still go on."""
    rows = connection.execute(
        "SELECT * FROM import WHERE state NOT IN ('done', 'taken_back') AND started_at >= ?",
        (to_text(since),),
    )
    return [_import(row) for row in rows]


def one_import(connection: sqlite3.Connection, command: str) -> Import:
    """An import. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM import WHERE command = ?", (command,)).fetchone()
    if row is None:
        raise NotFoundError("there is no such import")
    return _import(row)


def all_imports(connection: sqlite3.Connection, limit: int = 20) -> list[Import]:
    """The latest imports, newest first."""
    rows = connection.execute("SELECT * FROM import ORDER BY started_at DESC, command LIMIT ?", (limit,))
    return [_import(row) for row in rows]


def _import(row: sqlite3.Row) -> Import:
    return Import(
        row["command"],
        row["name"],
        row["path"],
        row["bytes"],
        tuple(json.loads(row["header"])),
        json.loads(row["mapping"]),
        row["state"],
        row["share"],
        row["good"],
        row["twice"],
        row["bad"],
        [(line, reason) for line, reason in json.loads(row["bad_rows"])],
        json.loads(row["first_rows"]),
        row["said"],
        row["number"],
        tuple(Dense(*one) for one in json.loads(row["dense"])),
    )


def turn(connection: sqlite3.Connection, command: str, state: str, *, only_from: Sequence[str], said: str = "") -> None:
    """Move an import on to another state. Raises ConflictError where it is elsewhere."""
    marks = ", ".join("?" for _ in only_from)
    changed = connection.execute(
        f"UPDATE import SET state = ?, said = ? WHERE command = ? AND state IN ({marks})",
        (state, said, command, *only_from),
    )
    if not changed.rowcount:
        raise ConflictError(f"this import is {one_import(connection, command).state.replace('_', ' ')}")


def settle(connection: sqlite3.Connection, command: str) -> None:
    """Roll up again what an import brought of probes, after it began or ceased to count."""
    for one in one_import(connection, command).dense:
        for series in probe.probe_series(connection, one.system_id):
            if series.named(Parameter(one.parameter), one.instrument):
                probe.roll_up(connection, series.id, one.first, one.last)


def stop_left_over(connection: sqlite3.Connection) -> None:
    """Stop imports that were being read when the program ended."""
    connection.execute(
        "UPDATE import SET state = 'stopped', said = 'the program ended meanwhile; nothing of it counts'"
        " WHERE state IN ('checking', 'keeping')"
    )


def set_mapping(connection: sqlite3.Connection, command: str, mapping: dict[str, Any]) -> None:
    """Keep how this import is to be read."""
    connection.execute("UPDATE import SET mapping = ? WHERE command = ?", (dump(mapping), command))


def update_progress(
    connection: sqlite3.Connection, command: str, share: float, counts: tuple[int, int, int], **rows: Any
) -> bool:
    """Keep the progress (good, twice, bad); `bad_rows` and `first_rows` where they are given. Whether it goes on."""
    connection.execute(
        "UPDATE import SET share = ?, good = ?, twice = ?, bad = ? WHERE command = ?", (share, *counts, command)
    )
    for name, value in rows.items():
        connection.execute(f"UPDATE import SET {name} = ? WHERE command = ?", (dump(value), command))
    state = connection.execute("SELECT state FROM import WHERE command = ?", (command,)).fetchone()
    return bool(state and state["state"] in ("checking", "keeping"))


def there_already(connection: sqlite3.Connection, keys: Sequence[Key]) -> set[Key]:
    """Which of these readings are in the ledger, superseded or not; those of imports undone or stopped are not."""
    if not keys:
        return set()
    found: set[Key] = set()
    for system_id in {key[0] for key in keys}:
        moments = sorted({key[1] for key in keys if key[0] == system_id})
        span = (system_id, moments[0], moments[-1])
        count = connection.execute(
            "SELECT count(*) FROM (SELECT 1 FROM entry WHERE system_id = ? AND kind = 'reading' AND at BETWEEN ? AND ?"
            f" LIMIT {_WIDE + 1})",
            span,
        ).fetchone()[0]
        if not count:
            continue
        if count <= _WIDE:
            found |= _keys(connection.execute(_THERE.format("entry.at BETWEEN ? AND ?"), span))
            continue
        for start in range(0, len(moments), 500):
            some = moments[start : start + 500]
            marks = ", ".join("?" for _ in some)
            found |= _keys(connection.execute(_THERE.format(f"entry.at IN ({marks})"), (system_id, *some)))
    return found


_THERE = (
    "SELECT entry.system_id, entry.at, reading.parameter, reading.value, reading.instrument FROM entry"
    " JOIN reading ON reading.entry_id = entry.id LEFT JOIN import ON import.command = entry.command"
    " WHERE entry.system_id = ? AND entry.kind = 'reading' AND {}"
    " AND coalesce(import.state, 'done') NOT IN ('taken_back', 'stopped', 'failed')"
)


def _keys(rows: sqlite3.Cursor) -> set[Key]:
    return {(row[0], row[1], row[2], round(row[3], KEY_DIGITS), row[4]) for row in rows}


def append_probe(connection: sqlite3.Connection, number: int, rows: Sequence[Any]) -> None:
    """Append rows of probes; they count once the import is done. Must run inside a transaction."""
    series: dict[tuple[int, str, str], list[tuple[int, float]]] = {}
    for row in rows:
        series.setdefault((row.system_id, row.parameter, row.instrument), []).append((unix(row.at), row.value))
    for (system_id, parameter, instrument), found in series.items():
        probe.write_rows(connection, system_id, Parameter(parameter), instrument, found, number)


def probes_there(connection: sqlite3.Connection, keys: Sequence[Key]) -> set[Key]:
    """Which of these readings of probes count already."""
    found: set[Key] = set()
    for system_id, parameter, instrument in {(key[0], key[2], key[4]) for key in keys}:
        mine = [key for key in keys if (key[0], key[2], key[4]) == (system_id, parameter, instrument)]
        moments = [unix(key[1]) for key in mine]
        kept = probe.there_already(connection, system_id, Parameter(parameter), instrument, min(moments), max(moments))
        rounded = {(at, round(value, KEY_DIGITS)) for at, value in kept}
        found |= {key for key, at in zip(mine, moments, strict=True) if (at, key[3]) in rounded}
    return found


def unix(text: str) -> int:
    """A stored moment in seconds since 1970."""
    return int(to_moment(text).timestamp())


def append_readings(connection: sqlite3.Connection, command: str, recorded_at: str, rows: Sequence[Any]) -> None:
    """Append rows of an import to the ledger; they count once the import is done. Must run inside a transaction."""
    first = int(connection.execute("SELECT coalesce(max(id), 0) + 1 FROM entry").fetchone()[0])
    connection.executemany(
        "INSERT INTO entry (id, system_id, kind, at, recorded_at, command, note) VALUES (?, ?, 'reading', ?, ?, ?, ?)",
        [(first + i, row.system_id, row.at, recorded_at, command, row.note) for i, row in enumerate(rows)],
    )
    connection.executemany(
        "INSERT INTO reading (entry_id, parameter, value, sd, instrument) VALUES (?, ?, ?, ?, ?)",
        [(first + i, row.parameter, row.value, row.sd, row.instrument) for i, row in enumerate(rows)],
    )


def mappings(connection: sqlite3.Connection) -> dict[str, dict[str, Any]]:
    """Kept mappings by name."""
    rows = connection.execute("SELECT name, mapping FROM import_mapping ORDER BY name")
    return {row["name"]: json.loads(row["mapping"]) for row in rows}


def save_mapping(connection: sqlite3.Connection, name: str, mapping: dict[str, Any]) -> None:
    """Keep a mapping under a name; one of that name is replaced."""
    connection.execute(
        "INSERT INTO import_mapping VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET mapping = excluded.mapping",
        (name.strip(), dump(mapping)),
    )
