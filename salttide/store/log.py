"""The log: entries of all systems and kinds, newest first, with what they hold."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, replace


@dataclass(frozen=True)
class LogFilter:
    """A filter of the log; empty fields match all. `before`: (moment, id) of the last row seen."""

    system_id: int | None = None
    kind: str = ""
    parameter: str = ""
    first: str = ""
    last: str = ""
    before: tuple[str, int] | None = None


KINDS = (
    "reading", "change", "dose", "care", "look", "happening", "top_off", "feed", "evaporation", "harvest",
    "unexplained",
)  # fmt: skip


def log_rows(connection: sqlite3.Connection, wanted: LogFilter, limit: int) -> list[sqlite3.Row]:
    """The latest entries with what they hold, newest first, also those undone: `gone` is 1 for these."""
    return rows_of(connection, _latest_ids(connection, wanted, limit))


def rows_of(connection: sqlite3.Connection, ids: Sequence[int]) -> list[sqlite3.Row]:
    """Entries by their number with what they hold, newest first."""
    return _rows(connection, ids, "entry.at DESC, entry.id DESC")


def last_entered(connection: sqlite3.Connection, system_id: int, limit: int) -> list[sqlite3.Row]:
    """The latest entries of a system by time of entry, without undone ones."""
    ids = connection.execute(
        "SELECT id FROM entry WHERE system_id = ? AND kind != 'void' AND NOT EXISTS"
        " (SELECT 1 FROM entry AS later WHERE later.supersedes = entry.id) ORDER BY id DESC LIMIT ?",
        (system_id, limit),
    ).fetchall()
    return _rows(connection, [row[0] for row in ids], "entry.id DESC")


def _rows(connection: sqlite3.Connection, ids: Sequence[int], order: str) -> list[sqlite3.Row]:
    return connection.execute(
        "SELECT entry.id, entry.system_id, entry.kind, entry.at, entry.command, entry.note, reading.parameter,"
        " reading.value, reading.instrument, reading.how, happening.kind AS happened, change.out_l, change.in_l,"
        " dose.additive, dose.mass_g, top_off.litres, top_off.holds, feed.food, feed.portions, feed.grams,"
        " source.name AS source, evaporation.litres AS evaporated_l, harvest.what AS harvested,"
        " harvest.grams AS harvested_g, unexplained.parameter AS moved, unexplained.amount AS moved_by,"
        " (SELECT group_concat(kind || '/' || coalesce(amount, '') || '/' || coalesce(place, ''), ' ') FROM sign"
        " WHERE sign.entry_id = entry.id) AS signs, (SELECT group_concat(picture.id) FROM picture"
        " WHERE picture.entry_id = entry.id AND picture.void = 0) AS pictures,"
        " (SELECT group_concat(text, char(10)) FROM remark WHERE remark.entry_id = entry.id AND remark.void = 0)"
        " AS remarks, care.task, care.skipped, care.reason,"
        " later.kind IS NOT NULL AS gone FROM entry"
        " LEFT JOIN reading ON reading.entry_id = entry.id LEFT JOIN change ON change.entry_id = entry.id"
        " LEFT JOIN dose ON dose.entry_id = entry.id LEFT JOIN care ON care.entry_id = entry.id"
        " LEFT JOIN happening ON happening.entry_id = entry.id LEFT JOIN top_off ON top_off.entry_id = entry.id"
        " LEFT JOIN feed ON feed.entry_id = entry.id LEFT JOIN system AS source ON source.id = change.source_id"
        " LEFT JOIN evaporation ON evaporation.entry_id = entry.id LEFT JOIN harvest ON harvest.entry_id = entry.id"
        " LEFT JOIN unexplained ON unexplained.entry_id = entry.id"
        " LEFT JOIN entry AS later ON later.supersedes = entry.id"
        f" WHERE entry.id IN ({', '.join('?' for _ in ids)}) ORDER BY {order}",
        ids,
    ).fetchall()


_TOLD_DOSE = (
    "(dose.routine = 0 OR EXISTS (SELECT 1 FROM daily_plan AS plan, json_each(plan.doses) AS one"
    " WHERE plan.system_id = entry.system_id AND plan.since <= substr(entry.at, 1, 10)"
    " AND one.value ->> '$.by_hand' AND one.value ->> '$.additive' = dose.additive))"
)
"""Single doses and daily ones by hand; what a pump gives every day is told by its container."""


def _latest_ids(connection: sqlite3.Connection, wanted: LogFilter, limit: int) -> list[int]:
    """The latest entries of a filter, each system and kind from its own index: a million more cost nothing."""
    systems = [wanted.system_id] if wanted.system_id else [r[0] for r in connection.execute("SELECT id FROM system")]
    kinds = [kind for kind in KINDS if wanted.kind in ("", kind) and (kind == "reading" or not wanted.parameter)]
    found: list[tuple[str, int]] = []
    for system_id in systems:
        for kind in kinds:
            where, values = _log_where(replace(wanted, system_id=system_id, kind=kind))
            routine = f" JOIN dose ON dose.entry_id = entry.id AND {_TOLD_DOSE}" if kind == "dose" else ""
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


_READINGS = (
    " FROM effective AS entry JOIN reading ON reading.entry_id = entry.id JOIN system ON system.id = entry.system_id"
    " WHERE entry.kind = 'reading'"
)


def readings_out(connection: sqlite3.Connection, wanted: LogFilter) -> sqlite3.Cursor:
    """Effective readings of a filter, oldest first, one at a time."""
    where, values = _log_where(wanted)
    order = " ORDER BY entry.at, entry.id"
    return connection.execute(f"SELECT system.name, entry.at, entry.note, reading.*{_READINGS}{where}{order}", values)


def readings_out_count(connection: sqlite3.Connection, wanted: LogFilter) -> int:
    """Their number."""
    where, values = _log_where(wanted)
    return int(connection.execute(f"SELECT count(*){_READINGS}{where}", values).fetchone()[0])
