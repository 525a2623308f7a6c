"""Cases: remedies that were chosen, their turns, and which kind of remedy a keeper prefers."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict, fields
from datetime import datetime
from typing import Any

from salttide.core.basics.errors import NotFoundError
from salttide.core.remedy.case import Case, CaseTurn, Chosen, ExpectedValue, TurnKind
from salttide.core.remedy.remedy import Supply
from salttide.core.science.parameters import Parameter

from .by_system import BySystem
from .database import dump, to_moment, to_text


def cases(connection: sqlite3.Connection) -> BySystem[list[tuple[Case, int]]]:
    """All cases by system, oldest first, with their turns, and how many of each one's steps that move the water were
    done."""
    rows = connection.execute(
        "SELECT *, (SELECT count(*) FROM plan_step WHERE plan_step.plan = remedy_case.plan AND kind <> 'look'"
        " AND done_command IS NOT NULL) AS done,"
        " (SELECT json_group_array(json_array(at, kind, because)) FROM"
        "  (SELECT at, kind, because FROM case_turn WHERE case_id = remedy_case.id AND void = 0 ORDER BY id)) AS turns"
        " FROM remedy_case WHERE void = 0 ORDER BY id"
    )
    return BySystem(rows, lambda rows: [(_case(row), row["done"]) for row in rows])


def _case(row: sqlite3.Row) -> Case:
    return Case(
        row["id"],
        row["system_id"],
        row["cause"],
        Parameter(row["parameter"]) if row["parameter"] else None,
        row["plan"],
        to_moment(row["opened_at"]),
        _chosen(json.loads(row["chosen"])),
        tuple(CaseTurn(to_moment(at), TurnKind(kind), because) for at, kind, because in json.loads(row["turns"])),
    )


def _chosen(table: dict[str, Any]) -> Chosen:
    """A remedy as it was frozen: what a version did not have yet gets its default, what is not known is ignored."""
    known = {one.name: table[one.name] for one in fields(Chosen) if one.name in table}
    course = tuple(ExpectedValue(to_moment(at), *values) for at, *values in table.get("course", []))
    bought = tuple(Supply(**one) for one in table.get("to_buy", []))
    wishes = tuple(table.get("wishes", []))
    return Chosen(**{**known, "course": course, "to_buy": bought, "wishes": wishes})


def open_case(
    connection: sqlite3.Connection, system_id: int, cause: str, parameter: Parameter | None, chosen: Chosen,
    at: datetime, command: str,
) -> int:  # fmt: skip
    """Open a case whose steps belong to the plan of the same command. Returns its number."""
    table = asdict(chosen)
    table["course"] = [[to_text(point.at), point.value, point.low, point.high] for point in chosen.course]
    cursor = connection.execute(
        "INSERT INTO remedy_case (system_id, cause, parameter, plan, opened_at, chosen, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)",
        (system_id, cause, parameter.value if parameter else "", command, to_text(at), dump(table), command),
    )
    return int(cursor.lastrowid or 0)


def turn_case(connection: sqlite3.Connection, case_id: int, turn: CaseTurn, command: str) -> None:
    """Record a turn of a case. Raises NotFoundError."""
    if connection.execute("SELECT 1 FROM remedy_case WHERE id = ? AND void = 0", (case_id,)).fetchone() is None:
        raise NotFoundError(f"there is no case {case_id}")
    connection.execute(
        "INSERT INTO case_turn (case_id, at, kind, because, command) VALUES (?, ?, ?, ?, ?)",
        (case_id, to_text(turn.at), turn.kind.value, turn.because, command),
    )


def preferred(connection: sqlite3.Connection) -> BySystem[dict[str, str]]:
    """The kind of remedy that is preferred for a cause's rule, by system; the latest choice counts."""
    rows = connection.execute("SELECT system_id, cause, remedy FROM remedy_preference WHERE void = 0 ORDER BY id")
    return BySystem(rows, lambda rows: {row["cause"]: row["remedy"] for row in rows if row["remedy"]})


def prefer(connection: sqlite3.Connection, system_id: int, cause: str, remedy: str, command: str) -> None:
    """Prefer a kind of remedy for a cause's rule; empty: none any more."""
    connection.execute(
        "INSERT INTO remedy_preference (system_id, cause, remedy, command) VALUES (?, ?, ?, ?)",
        (system_id, cause, remedy, command),
    )
