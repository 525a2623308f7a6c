"""The ledger's entries. Only ever added to: a correction supersedes an entry, a void takes one back."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, time, timedelta
from itertools import groupby

from salttide.core.catalogue import happenings, sights
from salttide.core.errors import ConflictError, NotFoundError
from salttide.core.ledger import Care, Change, Dose, Feed, Ledger, Reading, TopOff
from salttide.core.looking import Amount, Happening, Look, Sight, Where
from salttide.core.parameters import Parameter
from salttide.core.system import System

from .database import dump, to_moment, to_text
from .system import earlier_volumes

BESIDE = ("animal_turn", "light", "par", "bucket", "measured_batch", "reagent", "picture")
"""Tables beside the ledger whose rows are taken back with the command that made them."""

Event = Reading | Change | Dose | Care | Look | Happening | TopOff | Feed


def ledger(connection: sqlite3.Connection, system: System, since: datetime | None = None) -> Ledger:
    """The effective entries of a system, oldest first; `since` leaves out what is older.

    Routine doses are left out: their effect is part of the system's own drift. Where a probe wrote thousands of
    readings, the last of every three hours stands for them.
    """
    values = (system.id, to_text(since) if since else "")
    return Ledger(
        system.volume_l,
        tuple(_reading(row) for row in connection.execute(_readings(connection, values), values)),
        tuple(_change(row) for row in connection.execute(_select("change"), values)),
        tuple(_dose(row) for row in connection.execute(_select("dose", " AND dose.routine = 0"), values)),
        tuple(_care(row) for row in connection.execute(_select("care"), values)),
        _looks(connection, values),
        tuple(_happening(row) for row in connection.execute(_select("happening"), values)),
        tuple(_top_off(row) for row in connection.execute(_select("top_off"), values)),
        tuple(_feed(row) for row in connection.execute(_select("feed"), values)),
        earlier_volumes(connection, system.id),
    )


DENSE, THINNED_S = 4000, 3 * 3600
"""From so many readings on, one in so many seconds stands for a probe's."""


class Ledgers:
    """Ledgers as last read. Entries are only added, so the last one's number, and that of the imports that count, say
    whether a ledger is current."""

    def __init__(self) -> None:
        self._kept: dict[int, tuple[tuple[object, ...], Ledger]] = {}

    def recent(self, connection: sqlite3.Connection, system: System, now: datetime, days: int) -> Ledger:
        """The ledger of the last `days`, read again only when an entry, the volume or the date is new."""
        last = int(connection.execute("SELECT coalesce(max(id), 0) FROM entry").fetchone()[0])
        done = int(connection.execute("SELECT count(*) FROM import WHERE state = 'done'").fetchone()[0])
        stamp = (last, done, system.volume_l, earlier_volumes(connection, system.id), now.date())
        kept = self._kept.get(system.id)
        if kept is None or kept[0] != stamp:
            since = datetime.combine(now.date() - timedelta(days=days), time(), UTC)
            kept = self._kept[system.id] = (stamp, ledger(connection, system, since))
        return kept[1]


def _select(kind: str, only: str = "") -> str:
    return (
        f"SELECT effective.id, effective.at, effective.note, {kind}.* FROM effective"
        f" JOIN {kind} ON {kind}.entry_id = effective.id"
        f" WHERE effective.system_id = ? AND effective.kind = '{kind}' AND effective.at >= ?{only}"
        " ORDER BY effective.at, effective.id"
    )


def _readings(connection: sqlite3.Connection, values: tuple[int, str]) -> str:
    """All readings, or one in three hours of each parameter and instrument where there are very many."""
    count = connection.execute(
        "SELECT count(*) FROM (SELECT 1 FROM entry WHERE system_id = ? AND kind = 'reading' AND at >= ?"
        f" LIMIT {DENSE})",
        values,
    ).fetchone()[0]
    if count < DENSE:
        return _select("reading")
    # With max() in the list, SQLite takes the other columns from the row that holds it.
    return (
        "SELECT effective.id, max(effective.at) AS at, effective.note, reading.* FROM effective"
        " JOIN reading ON reading.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.kind = 'reading' AND effective.at >= ?"
        f" GROUP BY reading.parameter, reading.instrument, unixepoch(effective.at) / {THINNED_S}"
        " ORDER BY 2, 1"
    )


def _reading(row: sqlite3.Row) -> Reading:
    return Reading(
        to_moment(row["at"]),
        Parameter(row["parameter"]),
        row["value"],
        row["sd"],
        row["instrument"],
        row["id"],
        row["note"],
        row["raw"],
        row["how"],
    )


def _change(row: sqlite3.Row) -> Change:
    return Change(to_moment(row["at"]), row["out_l"], row["in_l"], _amounts(row["incoming"]), row["id"])


def _dose(row: sqlite3.Row) -> Dose:
    return Dose(
        to_moment(row["at"]), row["additive"], row["mass_g"], _amounts(row["amounts"]), bool(row["routine"]), row["id"]
    )


def _care(row: sqlite3.Row) -> Care:
    return Care(to_moment(row["at"]), row["task"], row["minutes"], bool(row["skipped"]), row["reason"], row["id"])


def _looks(connection: sqlite3.Connection, values: tuple[int, str]) -> tuple[Look, ...]:
    """Looks with what they found; a look may have found nothing."""
    rows = connection.execute(
        "SELECT effective.id, effective.at, effective.note, sight.kind, sight.amount, sight.place FROM effective"
        " LEFT JOIN sight ON sight.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.kind = 'look' AND effective.at >= ?"
        " ORDER BY effective.at, effective.id",
        values,
    )
    return tuple(
        Look(to_moment(found[0]["at"]), tuple(_sight(row) for row in found if row["kind"]), found[0]["note"], entry_id)
        for entry_id, found in ((key, list(group)) for key, group in groupby(rows, key=lambda row: row["id"]))
    )


def _sight(row: sqlite3.Row) -> Sight:
    amount, place = row["amount"], row["place"]
    return Sight(sights()[row["kind"]], Amount(amount) if amount else None, Where(place) if place else None)


def _happening(row: sqlite3.Row) -> Happening:
    return Happening(to_moment(row["at"]), happenings()[row["kind"]], row["note"], row["id"])


def _top_off(row: sqlite3.Row) -> TopOff:
    return TopOff(to_moment(row["at"]), row["litres"], row["id"])


def _feed(row: sqlite3.Row) -> Feed:
    return Feed(to_moment(row["at"]), row["food"], row["portions"], row["grams"], _amounts(row["brought"]), row["id"])


def _amounts(text: str) -> dict[Parameter, float]:
    return {Parameter(name): value for name, value in json.loads(text).items()}


def record(
    connection: sqlite3.Connection,
    system_id: int,
    events: Sequence[Event],
    command: str,
    recorded_at: datetime,
    supersedes: int | None = None,
) -> list[int]:
    """Append events under one command. Returns their ids. Must run inside a transaction."""
    return [_append(connection, system_id, event, command, recorded_at, supersedes) for event in events]


def _append(
    connection: sqlite3.Connection,
    system_id: int,
    event: Event,
    command: str,
    recorded_at: datetime,
    supersedes: int | None,
) -> int:
    kind, columns = _columns(event)
    note = event.note if isinstance(event, Reading | Look | Happening) else ""
    cursor = connection.execute(
        "INSERT INTO entry (system_id, kind, at, recorded_at, command, supersedes, note) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (system_id, kind, to_text(event.at), to_text(recorded_at), command, supersedes, note),
    )
    entry_id = int(cursor.lastrowid or 0)
    if isinstance(event, Look):
        found = [(entry_id, sight.kind.key, sight.amount, sight.where) for sight in event.sights]
        connection.executemany("INSERT INTO sight VALUES (?, ?, ?, ?)", found)
        return entry_id
    marks = ", ".join("?" for _ in range(len(columns) + 1))
    connection.execute(f"INSERT INTO {kind} VALUES ({marks})", (entry_id, *columns))
    return entry_id


def _columns(event: Event) -> tuple[str, tuple[object, ...]]:
    if isinstance(event, Reading):
        return "reading", (event.parameter.value, event.value, event.sd, event.instrument, event.raw, event.how)
    if isinstance(event, Change):
        return "change", (event.out_l, event.in_l, dump(event.incoming))
    if isinstance(event, Dose):
        return "dose", (event.additive, event.mass_g, dump(event.amounts), int(event.routine))
    if isinstance(event, TopOff):
        return "top_off", (event.litres,)
    if isinstance(event, Feed):
        return "feed", (event.food, event.portions, event.grams, dump(event.brought))
    if isinstance(event, Look):
        return "look", ()
    if isinstance(event, Happening):
        return "happening", (event.kind.key,)
    return "care", (event.task, event.minutes, int(event.skipped), event.reason)


def void(connection: sqlite3.Connection, command: str, by: str, at: datetime) -> int:
    """Take back the effective entries recorded under `command`, and open again what it finished. Returns how many."""
    rows = connection.execute(
        "SELECT id, system_id, at FROM effective WHERE command = ? AND command NOT LIKE 'import-%'", (command,)
    ).fetchall()
    _void(connection, rows, by, at)
    connection.execute("UPDATE plan_step SET done_command = NULL WHERE done_command = ?", (command,))
    beside = sum(
        connection.execute(f"UPDATE {table} SET void = 1 WHERE command = ? AND void = 0", (command,)).rowcount
        for table in BESIDE
    )
    return len(rows) + beside


def void_one(connection: sqlite3.Connection, entry_id: int, by: str, at: datetime) -> int:
    """Take back one entry alone, such as one row of an import. Returns how many: 1, or 0 where it does not count."""
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
    return _reading(row)


def correct(connection: sqlite3.Connection, entry_id: int, corrected: Reading, command: str, at: datetime) -> int:
    """Supersede a reading by a corrected one. Raises NotFoundError, or ConflictError when it was corrected already."""
    row = connection.execute("SELECT system_id, kind FROM entry WHERE id = ?", (entry_id,)).fetchone()
    if row is None or row["kind"] != "reading":
        raise NotFoundError(f"there is no reading {entry_id}")
    if connection.execute("SELECT 1 FROM entry WHERE supersedes = ?", (entry_id,)).fetchone():
        raise ConflictError("this reading was corrected already")
    return record(connection, row["system_id"], [corrected], command, at, entry_id)[0]


@dataclass(frozen=True)
class LogFilter:
    """What of the log is wanted; empty fields leave all in. `before` is (moment, id) of the last row seen."""

    system_id: int | None = None
    kind: str = ""
    parameter: str = ""
    first: str = ""
    last: str = ""
    before: tuple[str, int] | None = None


KINDS = ("reading", "change", "dose", "care", "look", "happening", "top_off", "feed")


def log_rows(connection: sqlite3.Connection, wanted: LogFilter, limit: int) -> list[sqlite3.Row]:
    """The latest entries with what they hold, newest first, also those taken back: `gone` is 1 for these."""
    ids = _latest_ids(connection, wanted, limit)
    return connection.execute(
        "SELECT entry.id, entry.system_id, entry.kind, entry.at, entry.command, entry.note, reading.parameter,"
        " reading.value, reading.instrument, reading.how, happening.kind AS happened, change.out_l, change.in_l,"
        " dose.additive, dose.mass_g, top_off.litres, feed.food, feed.portions, feed.grams,"
        " (SELECT group_concat(kind || '/' || coalesce(amount, '') || '/' || coalesce(place, ''), ' ') FROM sight"
        " WHERE sight.entry_id = entry.id) AS sights, (SELECT group_concat(picture.id) FROM picture"
        " WHERE picture.entry_id = entry.id AND picture.void = 0) AS pictures, care.task, care.skipped, care.reason,"
        " later.kind IS NOT NULL AS gone FROM entry"
        " LEFT JOIN reading ON reading.entry_id = entry.id LEFT JOIN change ON change.entry_id = entry.id"
        " LEFT JOIN dose ON dose.entry_id = entry.id LEFT JOIN care ON care.entry_id = entry.id"
        " LEFT JOIN happening ON happening.entry_id = entry.id LEFT JOIN top_off ON top_off.entry_id = entry.id"
        " LEFT JOIN feed ON feed.entry_id = entry.id"
        " LEFT JOIN entry AS later ON later.supersedes = entry.id"
        f" WHERE entry.id IN ({', '.join('?' for _ in ids)}) ORDER BY entry.at DESC, entry.id DESC",
        ids,
    ).fetchall()


def _latest_ids(connection: sqlite3.Connection, wanted: LogFilter, limit: int) -> list[int]:
    """The latest entries of a filter, each system and kind from its own index: a million more cost nothing."""
    systems = [wanted.system_id] if wanted.system_id else [r[0] for r in connection.execute("SELECT id FROM system")]
    kinds = [kind for kind in KINDS if wanted.kind in ("", kind) and (kind == "reading" or not wanted.parameter)]
    found: list[tuple[str, int]] = []
    for system_id in systems:
        for kind in kinds:
            where, values = _log_where(replace(wanted, system_id=system_id, kind=kind))
            routine = " JOIN dose ON dose.entry_id = entry.id AND dose.routine = 0" if kind == "dose" else ""
            reading = " JOIN reading ON reading.entry_id = entry.id" if wanted.parameter else ""
            found += connection.execute(
                f"SELECT entry.at, entry.id FROM entry{routine}{reading} WHERE 1{where}"
                " ORDER BY entry.at DESC, entry.id DESC LIMIT ?",
                (*values, limit),
            ).fetchall()
    return [entry_id for _, entry_id in sorted(((row[0], row[1]) for row in found), reverse=True)[:limit]]


def _log_where(wanted: LogFilter) -> tuple[str, tuple[object, ...]]:
    parts = [
        (" AND entry.system_id = ?", wanted.system_id),
        (" AND entry.kind = ?", wanted.kind),
        (" AND reading.parameter = ?", wanted.parameter),
        (" AND entry.at >= ?", wanted.first),
        (" AND entry.at <= ?", wanted.last),
    ]
    chosen = [(sql, value) for sql, value in parts if value not in (None, "")]
    where = "".join(sql for sql, _ in chosen) + (
        " AND NOT EXISTS (SELECT 1 FROM import WHERE import.command = entry.command AND import.state <> 'done')"
    )
    values = tuple(value for _, value in chosen)
    if wanted.before:
        return f"{where} AND (entry.at, entry.id) < (?, ?)", (*values, *wanted.before)
    return where, values


def readings_out(connection: sqlite3.Connection, wanted: LogFilter) -> sqlite3.Cursor:
    """Effective readings of a filter, oldest first, one at a time."""
    where, values = _log_where(wanted)
    return connection.execute(
        "SELECT system.name, entry.at, entry.note, reading.* FROM effective AS entry"
        " JOIN reading ON reading.entry_id = entry.id JOIN system ON system.id = entry.system_id"
        f" WHERE entry.kind = 'reading'{where} ORDER BY entry.at, entry.id",
        values,
    )
