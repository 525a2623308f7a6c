"""Systems, with their bands, gear and care rules."""

from __future__ import annotations

import sqlite3
from datetime import date

from salttide.core.catalogue import tasks
from salttide.core.errors import ConflictError, NotFoundError
from salttide.core.parameters import Parameter, Span
from salttide.core.rota import Rule
from salttide.core.system import Geometry, Limits, PanelMaterial, SandMethod, Schools, Stage, System


def all_systems(connection: sqlite3.Connection) -> list[System]:
    """Every system, in the order in which they were set up."""
    return [_system(connection, row) for row in connection.execute("SELECT * FROM system ORDER BY id")]


def system(connection: sqlite3.Connection, system_id: int) -> System:
    """One system. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM system WHERE id = ?", (system_id,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no system {system_id}")
    return _system(connection, row)


def _system(connection: sqlite3.Connection, row: sqlite3.Row) -> System:
    bands = connection.execute("SELECT parameter, low, high FROM band WHERE system_id = ?", (row["id"],))
    gear = connection.execute("SELECT kind FROM gear WHERE system_id = ? ORDER BY kind", (row["id"],))
    return System(
        row["id"],
        row["name"],
        row["stock"],
        Stage(row["stage"]),
        PanelMaterial(row["panel"]),
        Geometry(*(row[name] for name in ("length_cm", "width_cm", "depth_cm", "displaced_l", "sump_l"))),
        Schools(
            SandMethod(row["sand"]),
            row["change_fraction"],
            row["change_every_days"],
            row["largest_fraction"],
            row["method_note"],
        ),
        {Parameter(band["parameter"]): Span(band["low"], band["high"]) for band in bands},
        Limits(row["limit_salinity"], row["limit_alkalinity_meq_l"], row["limit_temperature_c"]),
        tuple(item["kind"] for item in gear),
        row["bucket_l"],
        row["started_on"],
    )


_COLUMNS = (
    "name", "stock", "stage", "panel", "length_cm", "width_cm", "depth_cm", "displaced_l", "sump_l", "sand",
    "change_fraction", "change_every_days", "largest_fraction", "method_note", "limit_salinity",
    "limit_alkalinity_meq_l", "limit_temperature_c", "bucket_l", "started_on",
)  # fmt: skip


def _values(item: System) -> tuple[object, ...]:
    geometry, schools, limits = item.geometry, item.schools, item.limits
    return (
        item.name.strip(), item.stock, item.stage.value, item.panel.value,
        geometry.length_cm, geometry.width_cm, geometry.depth_cm, geometry.displaced_l, geometry.sump_l,
        schools.sand.value, schools.change_fraction, schools.change_every_days, schools.largest_fraction, schools.note,
        limits.salinity, limits.alkalinity_meq_l, limits.temperature_c, item.bucket_l, item.started_on,
    )  # fmt: skip


def add_system(connection: sqlite3.Connection, item: System) -> int:
    """Store a new system (its id is given by the database) with default care rules. Raises ConflictError by name."""
    marks = ", ".join("?" for _ in _COLUMNS)
    with _unique_name(item):
        cursor = connection.execute(f"INSERT INTO system ({', '.join(_COLUMNS)}) VALUES ({marks})", _values(item))
    system_id = int(cursor.lastrowid or 0)
    _replace_parts(connection, system_id, item)
    return system_id


def change_system(connection: sqlite3.Connection, item: System) -> None:
    """Store an edited system; care rules the keeper has set stay. Raises NotFoundError, ConflictError."""
    sets = ", ".join(f"{column} = ?" for column in _COLUMNS)
    with _unique_name(item):
        cursor = connection.execute(f"UPDATE system SET {sets} WHERE id = ?", (*_values(item), item.id))
    if not cursor.rowcount:
        raise NotFoundError(f"there is no system {item.id}")
    connection.execute("DELETE FROM band WHERE system_id = ?", (item.id,))
    connection.execute("DELETE FROM gear WHERE system_id = ?", (item.id,))
    _replace_parts(connection, item.id, item)


class _unique_name:  # noqa: N801 - reads as a phrase at its uses
    def __init__(self, item: System) -> None:
        self.item = item

    def __enter__(self) -> None: ...

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: object) -> None:
        if isinstance(error, sqlite3.IntegrityError) and "system.name" in str(error):
            raise ConflictError(f"there is a system named {self.item.name} already", field="name") from error


def _replace_parts(connection: sqlite3.Connection, system_id: int, item: System) -> None:
    connection.executemany(
        "INSERT INTO band VALUES (?, ?, ?, ?)",
        [(system_id, parameter.value, band.low, band.high) for parameter, band in item.bands.items()],
    )
    connection.executemany("INSERT INTO gear VALUES (?, ?)", [(system_id, kind) for kind in item.gear])
    for kind in tasks().values():
        suits = kind.suits(item.schools.sand, item.gear) and not (
            item.stage == Stage.BREAKING_IN and kind.key in ("water_change", "siphon")
        )
        if not suits:
            connection.execute("DELETE FROM care_rule WHERE system_id = ? AND task = ?", (system_id, kind.key))
            continue
        with_change = kind.key == "water_change" or kind.goes_with == "water_change"
        every = item.schools.change_every_days if with_change else kind.every_days
        keep = "every_days = excluded.every_days" if with_change else "every_days = every_days"
        connection.execute(
            f"INSERT INTO care_rule VALUES (?, ?, ?, ?) ON CONFLICT (system_id, task) DO UPDATE SET {keep}",
            (system_id, kind.key, every, kind.minutes),
        )


def care_rules(connection: sqlite3.Connection, system_id: int) -> list[Rule]:
    """The care rules of a system, in the order of a round."""
    rows = {
        row["task"]: row
        for row in connection.execute(
            "SELECT task, every_days, minutes FROM care_rule WHERE system_id = ?", (system_id,)
        )
    }
    return [
        Rule(kind, rows[kind.key]["every_days"], rows[kind.key]["minutes"])
        for kind in tasks().values()
        if kind.key in rows
    ]


def care_moves(connection: sqlite3.Connection, system_id: int) -> dict[tuple[str, date], date]:
    """Where the keeper moved occurrences to."""
    rows = connection.execute("SELECT task, due, day FROM care_move WHERE system_id = ?", (system_id,))
    return {(row["task"], date.fromisoformat(row["due"])): date.fromisoformat(row["day"]) for row in rows}


def move_care(connection: sqlite3.Connection, system_id: int, task: str, due: date, day: date) -> None:
    """Move one occurrence; moving it back to its due day forgets the move."""
    if due == day:
        connection.execute(
            "DELETE FROM care_move WHERE system_id = ? AND task = ? AND due = ?", (system_id, task, due.isoformat())
        )
        return
    connection.execute(
        "INSERT INTO care_move VALUES (?, ?, ?, ?) ON CONFLICT (system_id, task, due) DO UPDATE SET day = excluded.day",
        (system_id, task, due.isoformat(), day.isoformat()),
    )
