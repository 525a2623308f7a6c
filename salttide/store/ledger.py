"""The ledger's entries. Only ever added to: a correction supersedes an entry, a void takes one back."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from datetime import datetime

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.ledger.entries import (
    Change,
    Dose,
    Entry,
    Evaporation,
    Feed,
    Harvest,
    Reading,
    TopOff,
    Unexplained,
)
from salttide.core.system.inspection import Event, VisualCheck

from .container import restore_containers
from .database import dump, to_moment, to_text
from .ledger_rows import reading_of
from .probe import PROBE_COUNT

CONSUMED = (("care_move", "used_by"), ("care_split", "first_by"), ("care_split", "used_by"))
"""What doing a task uses up: it stands again when that is undone."""
COMMAND_TABLES = (
    "animal_turn",
    "away",
    "daily_plan",
    "light",
    "own_task",
    "par",
    "bucket",
    "measured_batch",
    "reagent",
    "picture",
    "batch",
    "batch_event",
    "container",
    "container_event",
    "dosing_routine",
    "ramp",
    "change_left",
    "remark",
    "remedy_case",
    "case_turn",
    "remedy_preference",
)
"""Tables beside the ledger whose rows are undone with the command that made them."""


def stamps(connection: sqlite3.Connection) -> dict[int, tuple[object, ...]]:
    """Stamps by system that change whenever an entry, import or probe reading is added or undone."""
    rows = connection.execute(
        "SELECT id, (SELECT max(entry.id) FROM entry INDEXED BY entry_latest WHERE system_id = system.id),"
        " (SELECT count(*) FROM import WHERE state = 'done'),"
        f" {PROBE_COUNT} FROM system"
    )
    return {system_id: (last, imports, probes or 0) for system_id, last, imports, probes in rows}


def first_entry(connection: sqlite3.Connection, system_id: int) -> datetime | None:
    """When the first reading of a system was taken, if there is one."""
    row = connection.execute("SELECT min(at) FROM entry WHERE system_id = ? AND kind = 'reading'", (system_id,))
    found = row.fetchone()[0]
    return to_moment(found) if found else None


def record(
    connection: sqlite3.Connection,
    system_id: int,
    events: Sequence[Entry],
    command: str,
    recorded_at: datetime,
    supersedes: int | None = None,
) -> list[int]:
    """Append events under one command. Returns their ids. Must run inside a transaction.

    Water from another system is taken out of that one by the same command; a change of its own fills it up later.
    """
    ids = [_append(connection, system_id, event, command, recorded_at, supersedes) for event in events]
    for event in events:
        if isinstance(event, Change) and event.source and not _swapped(connection, system_id, event):
            given = Change(event.at, event.in_l, 0.0, {}, note=event.note)
            _append(connection, event.source, given, command, recorded_at, None)
    return ids


def daily_given(connection: sqlite3.Connection, system_id: int, command: str, additive: str) -> bool:
    """Whether a command has recorded a daily dose of an additive already."""
    sql = (
        "SELECT 1 FROM entry JOIN dose ON dose.entry_id = entry.id"
        " WHERE entry.command = ? AND entry.system_id = ? AND dose.routine = 1 AND dose.additive = ?"
    )
    return connection.execute(sql, (command, system_id, additive)).fetchone() is not None


def _swapped(connection: sqlite3.Connection, system_id: int, event: Change) -> bool:
    """Whether the other system was filled with this one's water at that moment: each entry says what left its own."""
    row = connection.execute(
        "SELECT 1 FROM effective JOIN change ON change.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.at = ? AND change.source_id = ?",
        (event.source, to_text(event.at), system_id),
    )
    return row.fetchone() is not None


def _append(
    connection: sqlite3.Connection,
    system_id: int,
    event: Entry,
    command: str,
    recorded_at: datetime,
    supersedes: int | None,
) -> int:
    kind, columns = _columns(event)
    cursor = connection.execute(
        "INSERT INTO entry (system_id, kind, at, recorded_at, command, supersedes, note) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (system_id, kind, to_text(event.at), to_text(recorded_at), command, supersedes, event.note),
    )
    entry_id = int(cursor.lastrowid or 0)
    if isinstance(event, VisualCheck):
        found = [(entry_id, sign.kind.key, sign.amount, sign.where) for sign in event.signs]
        connection.executemany("INSERT INTO sign VALUES (?, ?, ?, ?)", found)
        return entry_id
    marks = ", ".join("?" for _ in range(len(columns) + 1))
    connection.execute(f"INSERT INTO {kind} VALUES ({marks})", (entry_id, *columns))
    return entry_id


def _columns(event: Entry) -> tuple[str, tuple[object, ...]]:
    if isinstance(event, Reading):
        return "reading", (event.parameter.value, event.value, event.sd, event.instrument, event.raw, event.how)
    if isinstance(event, Change):
        return "change", (event.out_l, event.in_l, dump(event.incoming), event.source or None)
    if isinstance(event, Dose):
        return "dose", (event.additive, event.mass_g, dump(event.amounts), int(event.routine))
    if isinstance(event, TopOff):
        return "top_off", (event.litres, dump(event.holds))
    if isinstance(event, Evaporation):
        return "evaporation", (event.litres,)
    if isinstance(event, Harvest):
        return "harvest", (event.what, event.grams, dump(event.bound))
    if isinstance(event, Feed):
        return "feed", (event.food, event.portions, event.grams, dump(event.brought))
    if isinstance(event, VisualCheck):
        return "look", ()
    if isinstance(event, Event):
        return "happening", (event.kind.key,)
    if isinstance(event, Unexplained):
        return "unexplained", (event.parameter.value, to_text(event.since), to_text(event.until), event.amount)
    return "care", (
        event.task, event.minutes, int(event.skipped), event.reason, int(event.timed), event.zone, dump(event.found),
    )  # fmt: skip


def void(connection: sqlite3.Connection, command: str, by: str, at: datetime) -> int:
    """Undo the effective entries recorded under `command`, and open again what it finished. Returns how many."""
    rows = connection.execute(
        "SELECT id, system_id, at FROM effective WHERE command = ? AND command NOT LIKE 'import-%'", (command,)
    ).fetchall()
    for row in rows:
        original = _corrected(connection, row["id"])
        if original is None:
            _void(connection, [row], by, at)
        else:
            record(connection, row["system_id"], [original], by, at, row["id"])
    connection.execute("UPDATE plan_step SET done_command = NULL WHERE done_command = ?", (command,))
    for table, column in CONSUMED:
        connection.execute(f"UPDATE {table} SET {column} = NULL WHERE {column} = ?", (command,))
    connection.execute("UPDATE plan_step SET withdrawn_by = ? WHERE plan = ? AND kind = 'look'", (by, command))
    beside = sum(
        connection.execute(f"UPDATE {table} SET void = 1 WHERE command = ? AND void = 0", (command,)).rowcount
        for table in COMMAND_TABLES
    )
    return len(rows) + beside + restore_containers(connection, command)


def _corrected(connection: sqlite3.Connection, entry_id: int) -> Reading | None:
    """The reading a correction superseded, which counts again when the correction is undone. None where the entry is
    not a correction, or itself restored such a reading."""
    row = connection.execute("SELECT supersedes FROM entry WHERE id = ?", (entry_id,)).fetchone()
    if row["supersedes"] is None:
        return None
    before = connection.execute("SELECT supersedes FROM entry WHERE id = ?", (row["supersedes"],)).fetchone()
    found, own = reading(connection, row["supersedes"]), reading(connection, entry_id)
    first = reading(connection, before["supersedes"]) if before["supersedes"] else None
    return None if first is not None and (first.at, first.value) == (own.at, own.value) else found


def void_one(connection: sqlite3.Connection, entry_id: int, by: str, at: datetime) -> int:
    """Undo one entry alone, such as one row of an import. Returns how many: 1, or 0 where it does not count."""
    rows = connection.execute("SELECT id, system_id, at FROM effective WHERE id = ?", (entry_id,)).fetchall()
    return _void(connection, rows, by, at)


def _void(connection: sqlite3.Connection, rows: Sequence[sqlite3.Row], by: str, at: datetime) -> int:
    connection.executemany(
        "INSERT INTO entry (system_id, kind, at, recorded_at, command, supersedes) VALUES (?, 'void', ?, ?, ?, ?)",
        [(row["system_id"], row["at"], to_text(at), by, row["id"]) for row in rows],
    )
    return len(rows)


def reading(connection: sqlite3.Connection, entry_id: int) -> Reading:
    """One reading, effective or not. Raises NotFoundError."""
    row = connection.execute(
        "SELECT entry.id, entry.at, entry.note, reading.* FROM entry JOIN reading ON reading.entry_id = entry.id"
        " WHERE entry.id = ?",
        (entry_id,),
    ).fetchone()
    if row is None:
        raise NotFoundError(f"there is no reading {entry_id}")
    return reading_of(row)


def correct(connection: sqlite3.Connection, entry_id: int, corrected: Reading, command: str, at: datetime) -> int:
    """Supersede a reading by a corrected one. Raises NotFoundError, or ConflictError when it was corrected already."""
    row = connection.execute("SELECT system_id, kind FROM entry WHERE id = ?", (entry_id,)).fetchone()
    if row is None or row["kind"] != "reading":
        raise NotFoundError(f"there is no reading {entry_id}")
    if connection.execute("SELECT 1 FROM entry WHERE supersedes = ?", (entry_id,)).fetchone():
        raise ConflictError("this reading was corrected already")
    return record(connection, row["system_id"], [corrected], command, at, entry_id)[0]
