"""The keeper's side of the rota: choices for tasks, tasks of their own, minutes, absences, moves and placings."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from salttide.core.basics.errors import NotFoundError
from salttide.core.upkeep.care import USUAL_MINUTES, CareChoice
from salttide.core.upkeep.rota import Occurrence, Piece, Split
from salttide.core.upkeep.task import OWN, RoundPart, TaskKind, own_kind

from .by_system import BySystem
from .database import dump
from .shelf import keeper, save_keeper


def care_choices(connection: sqlite3.Connection) -> BySystem[dict[str, CareChoice]]:
    """The keeper's choices, by system and task."""
    return BySystem(
        connection.execute("SELECT * FROM care_choice"), lambda rows: {row["task"]: _choice(row) for row in rows}
    )


def _choice(row: sqlite3.Row) -> CareChoice:
    zones = tuple(json.loads(row["zones"])) if row["zones"] is not None else None
    weekdays = tuple(json.loads(row["weekdays"]))
    return CareChoice(bool(row["off"]), row["every_days"], row["minutes"], weekdays, zones, row["most"])


def choose_care(connection: sqlite3.Connection, system_id: int, task: str, choice: CareChoice) -> None:
    """Store a choice; one that is all as usual is removed."""
    connection.execute("DELETE FROM care_choice WHERE system_id = ? AND task = ?", (system_id, task))
    if choice == CareChoice():
        return
    zones = None if choice.zones is None else dump(choice.zones)
    connection.execute(
        "INSERT INTO care_choice (system_id, task, off, every_days, minutes, weekdays, zones, most)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (
            system_id, task, int(choice.off), choice.every_days, choice.minutes, dump(choice.weekdays), zones,
            choice.limit,
        ),
    )  # fmt: skip


def own_tasks(connection: sqlite3.Connection) -> BySystem[list[TaskKind]]:
    """The keeper's own tasks, by system."""
    return BySystem(
        connection.execute("SELECT * FROM own_task WHERE void = 0 ORDER BY id"),
        lambda rows: [
            own_kind(row["id"], row["name"], row["every_days"], row["minutes"], row["note"], RoundPart(row["phase"]))
            for row in rows
        ],
    )


def add_own_task(connection: sqlite3.Connection, system_id: int, kind: TaskKind, note: str, command: str) -> int:
    """Keep a task of the keeper's own; its number is given by the database."""
    cursor = connection.execute(
        "INSERT INTO own_task (system_id, name, every_days, minutes, note, phase, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)",
        (system_id, kind.name, kind.every_days, kind.minutes, note, kind.phase.value, command),
    )
    return int(cursor.lastrowid or 0)


def delete_own_task(connection: sqlite3.Connection, system_id: int, task: str, dropped: bool = True) -> None:
    """Delete an own task, or restore it; its record stays. Raises NotFoundError."""
    number = task.removeprefix(OWN)
    cursor = connection.execute(
        "UPDATE own_task SET void = ? WHERE system_id = ? AND id = ?", (int(dropped), system_id, number)
    )
    if not cursor.rowcount:
        raise NotFoundError(f"there is no task of your own {task} here")


def week_minutes(connection: sqlite3.Connection) -> tuple[float, ...]:
    """Minutes by weekday, from Monday on."""
    row = connection.execute("SELECT week_minutes FROM keeper").fetchone()
    return tuple(json.loads(row["week_minutes"])) if row and row["week_minutes"] else USUAL_MINUTES


def save_week_minutes(connection: sqlite3.Connection, minutes: Iterable[float]) -> None:
    """Store the minutes by weekday, with default settings where none were stored yet."""
    save_keeper(connection, keeper(connection))
    connection.execute("UPDATE keeper SET week_minutes = ?", (dump(list(minutes)),))


def day_minutes(connection: sqlite3.Connection) -> dict[date, float]:
    """Single days with minutes of their own."""
    return {date.fromisoformat(row["day"]): row["minutes"] for row in connection.execute("SELECT * FROM day_minutes")}


def save_day_minutes(connection: sqlite3.Connection, day: date, minutes: float | None) -> None:
    """Other minutes for one day, or with None those of its weekday again."""
    connection.execute("DELETE FROM day_minutes WHERE day = ?", (day.isoformat(),))
    if minutes is not None:
        connection.execute("INSERT INTO day_minutes VALUES (?, ?)", (day.isoformat(), minutes))


@dataclass(frozen=True)
class Away:
    """An absence: days on which nobody is there."""

    id: int
    first: date
    last: date
    note: str = ""
    uid: str = ""


def absences(connection: sqlite3.Connection, since: date | None = None) -> list[Away]:
    """When nobody is there, in order; those that end before `since` left out."""
    rows = connection.execute(
        "SELECT * FROM away WHERE void = 0 AND last >= ? ORDER BY first, id", (since.isoformat() if since else "",)
    )
    return [
        Away(row["id"], date.fromisoformat(row["first"]), date.fromisoformat(row["last"]), row["note"], row["uid"])
        for row in rows
    ]


def add_away(connection: sqlite3.Connection, item: Away, command: str) -> int:
    """Keep an absence; one that was imported before under the same identity gives way to it."""
    if item.uid:
        delete_imported(connection, item.uid, command)
    cursor = connection.execute(
        "INSERT INTO away (first, last, note, uid, command) VALUES (?, ?, ?, ?, ?)",
        (item.first.isoformat(), item.last.isoformat(), item.note, item.uid, command),
    )
    number = int(cursor.lastrowid or 0)
    if item.uid:
        _hand_on(connection, item.uid, command, number)
    return number


def _hand_on(connection: sqlite3.Connection, uid: str, command: str, number: int) -> None:
    """A replaced absence passes its hand-over and reports to the new one."""
    old = connection.execute("SELECT id FROM away WHERE uid = ? AND void_by = ?", (uid, command)).fetchone()
    if old:
        _hand_to(connection, old["id"], number)


def _hand_to(connection: sqlite3.Connection, giving: int, taking: int) -> None:
    for table in ("hand_over", "visit_report"):
        connection.execute(f"UPDATE {table} SET away_id = ? WHERE away_id = ?", (taking, giving))


def delete_imported(connection: sqlite3.Connection, uid: str, command: str) -> None:
    """Undo what was imported under an identity."""
    connection.execute("UPDATE away SET void = 1, void_by = ? WHERE uid = ? AND void = 0", (command, uid))


def undo_import(connection: sqlite3.Connection, command: str) -> None:
    """Undo an import by its command, and restore what it replaced. Raises NotFoundError."""
    pairs = connection.execute(
        "SELECT old.id AS old, new.id AS new FROM away AS old JOIN away AS new ON new.uid = old.uid"
        " WHERE old.void_by = ? AND new.command = ?",
        (command, command),
    ).fetchall()
    for pair in pairs:
        _hand_to(connection, pair["new"], pair["old"])
    brought = connection.execute("UPDATE away SET void = 1 WHERE command = ? AND uid <> ''", (command,)).rowcount
    back = connection.execute("UPDATE away SET void = 0, void_by = NULL WHERE void_by = ?", (command,)).rowcount
    if not brought + back:
        raise NotFoundError("there is nothing that this brought in")


def delete_away(connection: sqlite3.Connection, number: int, dropped: bool = True) -> None:
    """Delete an absence, or restore it. Raises NotFoundError."""
    if not connection.execute("UPDATE away SET void = ? WHERE id = ?", (int(dropped), number)).rowcount:
        raise NotFoundError(f"there is no absence {number}")


def away_days(connection: sqlite3.Connection, since: date) -> frozenset[date]:
    """Every day on which nobody is there, from `since` on."""
    return frozenset(
        one.first + timedelta(days=offset)
        for one in absences(connection, since)
        for offset in range((one.last - one.first).days + 1)
    )


def care_moves(connection: sqlite3.Connection) -> BySystem[dict[tuple[str, date], date]]:
    """The keeper's moves of occurrences, by system."""
    return BySystem(
        connection.execute("SELECT * FROM care_move WHERE used_by IS NULL"),
        lambda rows: {(row["task"], date.fromisoformat(row["due"])): date.fromisoformat(row["day"]) for row in rows},
    )


def move_care(connection: sqlite3.Connection, system_id: int, task: str, due: date, day: date | None) -> None:
    """Move one occurrence; with None, leave it to the rota again."""
    connection.execute(
        "DELETE FROM care_move WHERE system_id = ? AND task = ? AND due = ?", (system_id, task, due.isoformat())
    )
    if day is not None:
        connection.execute(
            "INSERT INTO care_move VALUES (?, ?, ?, ?, NULL)", (system_id, task, due.isoformat(), day.isoformat())
        )


def use_move(connection: sqlite3.Connection, system_id: int, task: str, due: date, command: str) -> None:
    """Mark a move as used once its occurrence is done or skipped; undoing that restores it."""
    connection.execute(
        "UPDATE care_move SET used_by = ? WHERE system_id = ? AND task = ? AND due = ?",
        (command, system_id, task, due.isoformat()),
    )


def care_splits(connection: sqlite3.Connection) -> BySystem[dict[tuple[str, date], Split]]:
    """Work that the keeper split over two days, by system, then by task and due day."""
    return BySystem(
        connection.execute("SELECT * FROM care_split WHERE used_by IS NULL"),
        lambda rows: {(row["task"], date.fromisoformat(row["due"])): _split(row) for row in rows},
    )


def _split(row: sqlite3.Row) -> Split:
    return Split(row["first_minutes"], date.fromisoformat(row["rest_day"]), row["first_by"] is not None)


def split_care(connection: sqlite3.Connection, system_id: int, task: str, due: date, split: Split) -> None:
    """Split an occurrence over two days."""
    connection.execute(
        "INSERT OR REPLACE INTO care_split (system_id, task, due, first_minutes, rest_day) VALUES (?, ?, ?, ?, ?)",
        (system_id, task, due.isoformat(), split.first_minutes, split.rest_day.isoformat()),
    )


def move_rest(connection: sqlite3.Connection, system_id: int, task: str, rest_day: date, day: date | None) -> None:
    """Move the rest of what was split to another day, or with None put both parts together again."""
    where = (system_id, task, rest_day.isoformat())
    if day is None:
        sql = "DELETE FROM care_split WHERE system_id = ? AND task = ? AND rest_day = ? AND used_by IS NULL"
        connection.execute(sql, where)
        return
    connection.execute(
        "UPDATE care_split SET rest_day = ? WHERE system_id = ? AND task = ? AND rest_day = ? AND used_by IS NULL",
        (day.isoformat(), *where),
    )


def do_piece(connection: sqlite3.Connection, system_id: int, item: Occurrence, command: str) -> None:
    """Mark a part of a split as done or skipped; undoing that restores it."""
    column, day = ("first_by", "due") if item.piece == Piece.FIRST else ("used_by", "rest_day")
    connection.execute(
        f"UPDATE care_split SET {column} = ? WHERE system_id = ? AND task = ? AND {day} = ? AND used_by IS NULL",
        (command, system_id, item.task, item.due.isoformat()),
    )


def end_split(connection: sqlite3.Connection, system_id: int, task: str, due: date, command: str) -> None:
    """Mark a split as done as a whole: the one that is due, or whose rest is, on a day; undoing that restores it."""
    connection.execute(
        "UPDATE care_split SET used_by = ? WHERE system_id = ? AND task = ? AND ? IN (due, rest_day)"
        " AND used_by IS NULL",
        (command, system_id, task, due.isoformat()),
    )


def own_names(connection: sqlite3.Connection) -> dict[str, str]:
    """The names of all tasks of the keeper's own, those taken off the rota too."""
    return {f"{OWN}{row['id']}": row["name"] for row in connection.execute("SELECT id, name FROM own_task")}


@dataclass(frozen=True)
class Placed:
    """Where one piece of work of a system is placed."""

    system_id: int
    task: str
    due: date
    day: date
    minutes: float


REMEMBERED = timedelta(days=60)
"""Days for which former placings are remembered."""


def placings(connection: sqlite3.Connection) -> tuple[list[Placed], list[Placed]]:
    """All placings, and former ones from before something was done, skipped or moved."""
    found: tuple[list[Placed], list[Placed]] = ([], [])
    for row in connection.execute("SELECT * FROM care_placing"):
        due, day = date.fromisoformat(row["due"]), date.fromisoformat(row["day"])
        found[not row["live"]].append(Placed(row["system_id"], row["task"], due, day, row["minutes"]))
    return found


def save_placings(connection: sqlite3.Connection, placed: Iterable[Placed], today: date) -> None:
    """Store all placings; former ones are remembered for a while. Only differences are written."""
    connection.execute("DELETE FROM care_placing WHERE due < ?", ((today - REMEMBERED).isoformat(),))
    before, wanted = {*placings(connection)[0]}, {*placed}
    gone = [[one.system_id, one.task, one.due.isoformat()] for one in before - wanted]
    connection.execute(
        "UPDATE care_placing SET live = 0 WHERE (system_id, task, due) IN (SELECT json_extract(value, '$[0]'),"
        " json_extract(value, '$[1]'), json_extract(value, '$[2]') FROM json_each(?))",
        (dump(gone),),
    )
    _put(
        connection,
        [(p.system_id, p.task, p.due.isoformat(), p.day.isoformat(), p.minutes, 1) for p in wanted - before],
    )


def _put(connection: sqlite3.Connection, rows: Iterable[Iterable[object]]) -> None:
    """All rows by one statement: there are hundreds of them."""
    columns = ", ".join(f"json_extract(value, '$[{number}]')" for number in range(6))
    connection.execute(
        f"INSERT OR REPLACE INTO care_placing SELECT {columns} FROM json_each(?)", (dump([[*row] for row in rows]),)
    )


KEPT_SNAPSHOTS = 60
"""The number of commands before which the rota's placings are remembered."""


def remember_placings(connection: sqlite3.Connection, command: str) -> None:
    """Remember the placings before a command, for its undo."""
    connection.execute(
        "INSERT OR REPLACE INTO placing_before (command, placings) VALUES (?, ?)", (command, _placings_kept(connection))
    )
    connection.execute(
        "DELETE FROM placing_before WHERE id <= (SELECT max(id) FROM placing_before) - ?", (KEPT_SNAPSHOTS,)
    )


def _placings_kept(connection: sqlite3.Connection) -> str:
    return dump([tuple(row) for row in connection.execute("SELECT * FROM care_placing")])


def restore_placings(connection: sqlite3.Connection, command: str, taking_back: str) -> None:
    """Restore the placings from before a command; where others moved them since, only what that command removed."""
    row = connection.execute("SELECT id, placings FROM placing_before WHERE command = ?", (command,)).fetchone()
    if row is None:
        return
    after = connection.execute(
        "SELECT placings FROM placing_before WHERE id > ? ORDER BY id LIMIT 1", (row["id"],)
    ).fetchone()
    if after is None or after["placings"] == _placings_kept(connection):
        connection.execute("DELETE FROM care_placing")
    live = {(each.system_id, each.task, each.due.isoformat()) for each in placings(connection)[0]}
    _put(connection, [each for each in json.loads(row["placings"]) if tuple(each[:3]) not in live])
    connection.execute("DELETE FROM placing_before WHERE command IN (?, ?)", (command, taking_back))


def by_day(placed: Iterable[Placed]) -> Mapping[date, float]:
    """Minutes by day."""
    found: dict[date, float] = {}
    for each in placed:
        found[each.day] = found.get(each.day, 0.0) + each.minutes
    return found


def changes_left(connection: sqlite3.Connection) -> frozenset[int]:
    """Water changes without litres that the keeper left as they are, by the number of their entry."""
    return frozenset(row[0] for row in connection.execute("SELECT entry_id FROM change_left WHERE void = 0"))


def leave_changes(connection: sqlite3.Connection, entry_ids: Iterable[int], command: str) -> None:
    """Stop asking for the litres of these entries."""
    connection.executemany(
        "INSERT INTO change_left (entry_id, command) VALUES (?, ?) ON CONFLICT (entry_id) DO UPDATE SET void = 0,"
        " command = excluded.command",
        [(entry_id, command) for entry_id in entry_ids],
    )
