"""Instruments and their checks against standards."""

from __future__ import annotations

import sqlite3
from collections import defaultdict
from dataclasses import dataclass
from datetime import date, datetime

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.ledger.bench_row import Instrument
from salttide.core.remedy.remedy import InstrumentCheck
from salttide.core.science.parameters import Parameter

from .database import to_moment, to_text


@dataclass(frozen=True)
class KeptCheck:
    """A check against a standard as kept, canonical values."""

    id: int
    at: datetime
    standard: float
    reading: float


def instruments(connection: sqlite3.Connection) -> list[Instrument]:
    """What measures what, in the order of testing, with scatter and the checks that count: the latest per standard."""
    order = [parameter.value for parameter in Parameter]
    rows = connection.execute("SELECT name, parameter, sd, per_count FROM instrument WHERE NOT away ORDER BY name")
    latest: dict[tuple[str, str], dict[float, float]] = defaultdict(dict)
    for row in connection.execute("SELECT * FROM instrument_check WHERE NOT void ORDER BY at, id"):
        latest[row["instrument"], row["parameter"]][row["standard"]] = row["reading"]
    return [
        Instrument(
            row["name"],
            Parameter(row["parameter"]),
            row["sd"],
            row["per_count"],
            tuple(sorted(latest[row["name"], row["parameter"]].items())),
        )
        for row in sorted(rows, key=lambda row: order.index(row["parameter"]))
    ]


def checks(connection: sqlite3.Connection, name: str, parameter: Parameter) -> list[KeptCheck]:
    """All checks of an instrument that were not undone, oldest first."""
    rows = connection.execute(
        "SELECT id, at, standard, reading FROM instrument_check WHERE instrument = ? AND parameter = ? AND NOT void"
        " ORDER BY at, id",
        (name, parameter.value),
    )
    return [KeptCheck(row["id"], to_moment(row["at"]), row["standard"], row["reading"]) for row in rows]


def add_instrument(connection: sqlite3.Connection, item: Instrument) -> None:
    """Put an instrument on the shelf, for one parameter; one that was archived comes back. Raises ConflictError."""
    row = connection.execute(
        "SELECT away FROM instrument WHERE name = ? AND parameter = ?", (item.name, item.parameter.value)
    ).fetchone()
    if row and not row["away"]:
        raise ConflictError(f"{item.name} is on the Shelf already", field="name")
    connection.execute(
        "INSERT INTO instrument (name, parameter, sd, per_count) VALUES (?, ?, ?, ?)"
        " ON CONFLICT (name, parameter) DO UPDATE SET sd = excluded.sd, per_count = excluded.per_count, away = 0",
        (item.name, item.parameter.value, item.sd, item.per_count),
    )


def set_archived(connection: sqlite3.Connection, name: str, parameter: Parameter, away: bool = True) -> None:
    """Take an instrument off the bench, or back. What it measured stays. Raises NotFoundError."""
    changed = connection.execute(
        "UPDATE instrument SET away = ? WHERE name = ? AND parameter = ?", (int(away), name, parameter.value)
    )
    if not changed.rowcount:
        raise NotFoundError(f"there is no {name} for this on the Shelf")


def add_check(connection: sqlite3.Connection, item: Instrument, at: datetime, standard: float, reading: float) -> int:
    """Keep a check against a standard."""
    cursor = connection.execute(
        "INSERT INTO instrument_check (instrument, parameter, at, standard, reading) VALUES (?, ?, ?, ?, ?)",
        (item.name, item.parameter.value, to_text(at), standard, reading),
    )
    return int(cursor.lastrowid or 0)


@dataclass(frozen=True)
class Reagent:
    """A reagent or buffer of an instrument, opened and to be used up by a day."""

    opened_on: str
    expires_on: str
    lot: str


def reagents(connection: sqlite3.Connection, name: str, parameter: Parameter) -> list[Reagent]:
    """The reagents of an instrument, latest first: the first is the one in use."""
    rows = connection.execute(
        "SELECT opened_on, expires_on, lot FROM reagent WHERE instrument = ? AND parameter = ? AND void = 0"
        " ORDER BY opened_on DESC, id DESC",
        (name, parameter.value),
    )
    return [Reagent(*row) for row in rows]


def expired(connection: sqlite3.Connection, today: date) -> dict[tuple[str, Parameter], date]:
    """The instruments whose reagent in use is past its day, and that day."""
    rows = connection.execute(
        "SELECT instrument, parameter, expires_on, max(opened_on || printf('%09d', id)) FROM reagent WHERE void = 0"
        " GROUP BY instrument, parameter HAVING expires_on < ?",
        (today.isoformat(),),
    )
    return {(row["instrument"], Parameter(row["parameter"])): date.fromisoformat(row["expires_on"]) for row in rows}


def last_checks(connection: sqlite3.Connection) -> dict[str, InstrumentCheck]:
    """The last check of each instrument against a standard, by its name."""
    rows = connection.execute(
        "SELECT instrument, max(at) AS at, reading - standard AS off FROM instrument_check WHERE void = 0"
        " GROUP BY instrument"
    )
    return {row["instrument"]: InstrumentCheck(to_moment(row["at"]).date(), row["off"]) for row in rows}


def add_reagent(connection: sqlite3.Connection, item: Instrument, reagent: Reagent, command: str) -> None:
    """Keep a newly opened reagent of an instrument."""
    connection.execute(
        "INSERT INTO reagent (instrument, parameter, opened_on, expires_on, lot, command) VALUES (?, ?, ?, ?, ?, ?)",
        (item.name, item.parameter.value, reagent.opened_on, reagent.expires_on, reagent.lot, command),
    )


def void_check(connection: sqlite3.Connection, check_id: int, void: bool = True) -> None:
    """Take a check back, or take that back. Raises NotFoundError."""
    if not connection.execute("UPDATE instrument_check SET void = ? WHERE id = ?", (int(void), check_id)).rowcount:
        raise NotFoundError("there is no such check")
