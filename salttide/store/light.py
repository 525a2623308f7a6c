"""Light: settings from a day on, and PAR at named points. Undone rows stay, marked."""

from __future__ import annotations

import sqlite3
from datetime import date, time

from salttide.core.system.light import Light, Par

from .by_system import BySystem


def lights(connection: sqlite3.Connection, system_id: int) -> list[Light]:
    """The settings of a system, oldest first."""
    rows = connection.execute("SELECT * FROM light WHERE system_id = ? AND void = 0 ORDER BY since, id", (system_id,))
    return [_light(row) for row in rows]


def all_lights(connection: sqlite3.Connection) -> BySystem[list[Light]]:
    """The settings of every system, oldest first."""
    rows = connection.execute("SELECT * FROM light WHERE void = 0 ORDER BY since, id")
    return BySystem(rows, lambda rows: [_light(row) for row in rows])


def _light(row: sqlite3.Row) -> Light:
    on, off = time.fromisoformat(row["on_at"]), time.fromisoformat(row["off_at"])
    return Light(date.fromisoformat(row["since"]), on, off, row["ramp_minutes"], row["spectrum"], row["id"])


def add_light(connection: sqlite3.Connection, system_id: int, item: Light, command: str) -> None:
    """Store a setting."""
    connection.execute(
        "INSERT INTO light (system_id, since, on_at, off_at, ramp_minutes, spectrum, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)",
        (
            system_id, item.since.isoformat(), f"{item.on:%H:%M}", f"{item.off:%H:%M}", item.ramp_minutes,
            item.spectrum, command,
        ),
    )  # fmt: skip


def pars(connection: sqlite3.Connection, system_id: int) -> list[Par]:
    """PAR at named points, latest first."""
    rows = connection.execute("SELECT * FROM par WHERE system_id = ? AND void = 0 ORDER BY day DESC, id", (system_id,))
    return [Par(date.fromisoformat(row["day"]), row["point"], row["umol"], row["id"]) for row in rows]


def add_par(connection: sqlite3.Connection, system_id: int, item: Par, command: str) -> None:
    """Store a reading of PAR."""
    connection.execute(
        "INSERT INTO par (system_id, day, point, umol, command) VALUES (?, ?, ?, ?, ?)",
        (system_id, item.day.isoformat(), item.point.strip(), item.umol, command),
    )
