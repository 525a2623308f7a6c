"""Livestock: the animals of a system, and the changes of their number."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from dataclasses import dataclass
from datetime import date
from typing import Any

from salttide.core.basics.errors import NotFoundError
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.livestock import Animal, Demand, StockChange, turned

from .database import dump

# The last count, and what came and went since.
_SINCE = "coalesce((SELECT max(id) FROM animal_turn WHERE animal_id = animal.id AND void = 0 AND turn = 'counted'), 0)"
_COUNT = (
    "(SELECT coalesce(sum(CASE WHEN turn IN ('lost', 'given away') THEN -number ELSE number END), 0) FROM animal_turn"
    f" WHERE animal_id = animal.id AND void = 0 AND id >= {_SINCE})"
)


@dataclass(frozen=True)
class Turned:
    """One change of a number, as recorded."""

    id: int
    animal: str
    day: str
    turn: StockChange
    number: int
    cause: str
    void: bool


def animals(connection: sqlite3.Connection, system_id: int) -> list[Animal]:
    """The animals of a system in the order in which they were entered; those archived or undone are left out."""
    rows = connection.execute(
        f"SELECT animal.*, {_COUNT} AS count FROM animal WHERE system_id = ? AND away = 0"
        " AND EXISTS (SELECT 1 FROM animal_turn WHERE animal_id = animal.id AND void = 0) ORDER BY id",
        (system_id,),
    )
    return [_animal(row) for row in rows]


def animals_by_system(connection: sqlite3.Connection) -> dict[int, list[Animal]]:
    """The animals of every system."""
    found: dict[int, list[Animal]] = defaultdict(list)
    for row in connection.execute(
        f"SELECT animal.*, {_COUNT} AS count FROM animal WHERE away = 0"
        " AND EXISTS (SELECT 1 FROM animal_turn WHERE animal_id = animal.id AND void = 0) ORDER BY id"
    ):
        found[row["system_id"]].append(_animal(row))
    return found


def animal(connection: sqlite3.Connection, system_id: int, animal_id: int) -> Animal:
    """One animal of a system. Raises NotFoundError."""
    row = connection.execute(
        f"SELECT animal.*, {_COUNT} AS count FROM animal WHERE system_id = ? AND id = ?", (system_id, animal_id)
    ).fetchone()
    if row is None:
        raise NotFoundError(f"there is no animal {animal_id} in this system")
    return _animal(row)


def _animal(row: sqlite3.Row) -> Animal:
    return Animal(
        row["id"],
        row["name"],
        Demand(row["demand"]),
        row["count"],
        {Parameter(name): Span(low, high) for name, (low, high) in json.loads(row["tolerances"]).items()},
        {Parameter(name): limit for name, limit in json.loads(row["limits"]).items()},
        row["portions"],
        row["air_min"],
    )


def _columns(item: Animal) -> tuple[Any, ...]:
    tolerances = {parameter.value: [span.low, span.high] for parameter, span in item.tolerances.items()}
    return item.name.strip(), item.demand.value, dump(tolerances), dump(dict(item.limits)), item.portions, item.air_min


def add_animal(connection: sqlite3.Connection, system_id: int, item: Animal, day: date, command: str) -> int:
    """Enter an animal with its number."""
    cursor = connection.execute(
        "INSERT INTO animal (system_id, name, demand, tolerances, limits, portions, air_min)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)",
        (system_id, *_columns(item)),
    )
    animal_id = int(cursor.lastrowid or 0)
    _insert_turn(connection, animal_id, day, StockChange.ADDED, item.count, "", command)
    return animal_id


def change_animal(connection: sqlite3.Connection, item: Animal) -> None:
    """Store what is known of an animal; its number changes by `turn` alone."""
    connection.execute(
        "UPDATE animal SET name = ?, demand = ?, tolerances = ?, limits = ?, portions = ?, air_min = ? WHERE id = ?",
        (*_columns(item), item.id),
    )


def set_archived(connection: sqlite3.Connection, animal_id: int, away: bool) -> None:
    """Take an animal off the list, or put it back; what was recorded of it stays."""
    connection.execute("UPDATE animal SET away = ? WHERE id = ?", (int(away), animal_id))


def turn(
    connection: sqlite3.Connection, item: Animal, day: date, kind: StockChange, number: int, cause: str, command: str
) -> int:
    """Record a change of an animal's number. Returns the number after it. Raises DomainError at `number`."""
    after = turned(item.count, kind, number)
    _insert_turn(connection, item.id, day, kind, number, cause, command)
    return after


def _insert_turn(
    connection: sqlite3.Connection, animal_id: int, day: date, kind: StockChange, number: int, cause: str, command: str
) -> None:
    connection.execute(
        "INSERT INTO animal_turn (animal_id, day, turn, number, cause, command) VALUES (?, ?, ?, ?, ?, ?)",
        (animal_id, day.isoformat(), kind.value, number, cause, command),
    )


def turns(connection: sqlite3.Connection, system_id: int, limit: int = 50) -> list[Turned]:
    """The latest changes of numbers in a system, newest first."""
    rows = connection.execute(
        "SELECT animal_turn.*, animal.name AS animal FROM animal_turn JOIN animal ON animal.id = animal_id"
        " WHERE system_id = ? ORDER BY animal_turn.id DESC LIMIT ?",
        (system_id, limit),
    )
    return [
        Turned(
            row["id"],
            row["animal"],
            row["day"],
            StockChange(row["turn"]),
            row["number"],
            row["cause"],
            bool(row["void"]),
        )
        for row in rows
    ]
