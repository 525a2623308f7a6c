"""The rows of the ledger as entries of the core."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable
from datetime import datetime
from itertools import groupby
from typing import TypeVar

from salttide.core.ledger.dense import DENSE, STRETCH_S
from salttide.core.ledger.entries import (
    Change,
    Dose,
    Evaporation,
    Feed,
    Harvest,
    Ledger,
    Reading,
    TopOff,
    Unexplained,
    in_order,
)
from salttide.core.science.parameters import Parameter
from salttide.core.system.catalogue import event_kinds, signs
from salttide.core.system.inspection import Amount, Event, Sign, VisualCheck, Where
from salttide.core.system.system import System

from .care import care_entries
from .database import to_moment, to_text
from .probe import probe_readings

Earlier = tuple[tuple[datetime, float], ...]
"""Until when which volume held, before the present one."""


def entries_of(connection: sqlite3.Connection, system: System, since: datetime | None, earlier: Earlier = ()) -> Ledger:
    """The effective entries of a system, from a moment on or all, with its probes' readings."""
    values = (system.id, to_text(since) if since else "")
    top_offs, evaporations = _levels(connection, values)
    return Ledger(
        system.volume_l,
        _all_readings(connection, system.id, since),
        _all(connection, "change", _change, values),
        _all(connection, "dose", _dose, values),
        care_entries(connection, *values),
        _looks(connection, values),
        _all(connection, "happening", _happening, values),
        top_offs,
        _all(connection, "feed", _feed, values),
        evaporations,
        _all(connection, "harvest", _harvest, values),
        _all(connection, "unexplained", _unexplained, values),
        earlier=earlier,
    )


Row = TypeVar("Row")


def _all(
    connection: sqlite3.Connection, kind: str, of: Callable[[sqlite3.Row], Row], values: tuple[int, str], only: str = ""
) -> tuple[Row, ...]:
    """The effective entries of one kind."""
    return tuple(of(row) for row in connection.execute(_select(kind, only), values))


def _all_readings(connection: sqlite3.Connection, system_id: int, since: datetime | None) -> tuple[Reading, ...]:
    """Readings by hand or import, and for probes the mean of every third hour and of the latest."""
    values = (system_id, to_text(since) if since else "")
    by_hand = [reading_of(row) for row in connection.execute(_readings(connection, system_id, since), values)]
    written = probe_readings(connection, system_id, since)
    return tuple(in_order([*by_hand, *written]) if written else by_hand)


def _select(kind: str, only: str = "") -> str:
    return (
        f"SELECT effective.id, effective.at, effective.note, {kind}.* FROM effective"
        f" JOIN {kind} ON {kind}.entry_id = effective.id"
        f" WHERE effective.system_id = ? AND effective.kind = '{kind}' AND effective.at >= ?{only}"
        " ORDER BY effective.at, effective.id"
    )


def is_dense(connection: sqlite3.Connection, system_id: int, since: datetime | None) -> bool:
    """Whether there are so many readings since a moment that not each of them is read."""
    count = connection.execute(
        "SELECT count(*) FROM (SELECT 1 FROM entry WHERE system_id = ? AND kind = 'reading' AND at >= ?"
        f" LIMIT {DENSE})",
        (system_id, to_text(since) if since else ""),
    ).fetchone()[0]
    return bool(count >= DENSE)


def _readings(connection: sqlite3.Connection, system_id: int, since: datetime | None) -> str:
    """All readings, or where there are very many those that `thinned` keeps."""
    if not is_dense(connection, system_id, since):
        return _select("reading")
    # With max() in the list, SQLite takes the other columns from the row that holds it.
    return (
        "SELECT effective.id, max(effective.at) AS at, effective.note, reading.* FROM effective"
        " JOIN reading ON reading.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.kind = 'reading' AND effective.at >= ?"
        f" GROUP BY reading.parameter, reading.instrument, unixepoch(effective.at) / {STRETCH_S}"
        " ORDER BY 2, 1"
    )


def reading_of(row: sqlite3.Row) -> Reading:
    """A reading."""
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
    return Change(
        to_moment(row["at"]),
        row["out_l"],
        row["in_l"],
        _amounts(row["incoming"]),
        row["id"],
        row["source_id"] or 0,
        row["note"],
    )


def _dose(row: sqlite3.Row) -> Dose:
    return Dose(
        to_moment(row["at"]), row["additive"], row["mass_g"], _amounts(row["amounts"]), bool(row["routine"]), row["id"]
    )


def _unexplained(row: sqlite3.Row) -> Unexplained:
    since, until = to_moment(row["since"]), to_moment(row["until"])
    return Unexplained(
        to_moment(row["at"]), Parameter(row["parameter"]), since, until, row["amount"], row["id"], row["note"]
    )


def _looks(connection: sqlite3.Connection, values: tuple[int, str]) -> tuple[VisualCheck, ...]:
    """Visual checks with their signs; one may have found nothing."""
    rows = connection.execute(
        "SELECT effective.id, effective.at, effective.note, sign.kind, sign.amount, sign.place FROM effective"
        " LEFT JOIN sign ON sign.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.kind = 'look' AND effective.at >= ?"
        " ORDER BY effective.at, effective.id",
        values,
    )
    return tuple(
        VisualCheck(
            to_moment(found[0]["at"]), tuple(_sight(row) for row in found if row["kind"]), found[0]["note"], entry_id
        )
        for entry_id, found in ((key, list(group)) for key, group in groupby(rows, key=lambda row: row["id"]))
    )


def _sight(row: sqlite3.Row) -> Sign:
    amount, place = row["amount"], row["place"]
    return Sign(signs()[row["kind"]], Amount(amount) if amount else None, Where(place) if place else None)


def _happening(row: sqlite3.Row) -> Event:
    return Event(to_moment(row["at"]), event_kinds()[row["kind"]], row["note"], row["id"])


def _levels(
    connection: sqlite3.Connection, values: tuple[int, str]
) -> tuple[tuple[TopOff, ...], tuple[Evaporation, ...]]:
    """Top-offs and what evaporated, in one go."""
    rows = connection.execute(
        "SELECT effective.id, effective.at, top_off.litres, top_off.holds, evaporation.litres AS gone FROM effective"
        " LEFT JOIN top_off ON top_off.entry_id = effective.id"
        " LEFT JOIN evaporation ON evaporation.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.kind IN ('top_off', 'evaporation') AND effective.at >= ?"
        " ORDER BY effective.at, effective.id",
        values,
    ).fetchall()
    return (
        tuple(
            TopOff(to_moment(row["at"]), row["litres"], row["id"], _amounts(row["holds"]))
            for row in rows
            if row["gone"] is None
        ),
        tuple(Evaporation(to_moment(row["at"]), row["gone"], row["id"]) for row in rows if row["gone"] is not None),
    )


def _harvest(row: sqlite3.Row) -> Harvest:
    return Harvest(to_moment(row["at"]), row["what"], row["grams"], _amounts(row["bound"]), row["id"])


def _feed(row: sqlite3.Row) -> Feed:
    return Feed(to_moment(row["at"]), row["food"], row["portions"], row["grams"], _amounts(row["brought"]), row["id"])


def _amounts(text: str) -> dict[Parameter, float]:
    return {Parameter(name): value for name, value in json.loads(text).items()}
