"""Systems, with their bands, gear and care rules."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, replace
from datetime import datetime
from itertools import pairwise
from typing import Any

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.aim import OwnAim
from salttide.core.system.system import (
    GearPlace,
    Limits,
    Methods,
    Panel,
    PanelMaterial,
    Placed,
    SandMethod,
    SourceWater,
    Stage,
    System,
)
from salttide.core.system.volume import Geometry, SaltTest, Shape, Sump, displacement

from . import installation, livestock
from .by_system import BySystem
from .database import dump, to_moment, to_text

_SELECT = "SELECT *, (SELECT min(at) FROM system_version WHERE system_id = system.id) AS entered_at FROM system"


def all_systems(connection: sqlite3.Connection, archived: bool = False) -> list[System]:
    """Every system in use, in the order in which they were set up; those that are archived only where asked for."""
    bands, gear = _parts_by_system(connection)
    kept = livestock.animals_by_system(connection)
    return [
        _system({**dict(row), "bands": bands[row["id"]], "gear": gear[row["id"]], "animals": kept[row["id"]]})
        for row in connection.execute(f"{_SELECT} ORDER BY id")
        if archived or row["archived_at"] is None
    ]


def _parts_by_system(connection: sqlite3.Connection) -> tuple[dict[int, list[Any]], dict[int, list[Any]]]:
    bands: dict[int, list[Any]] = defaultdict(list)
    gear: dict[int, list[Any]] = defaultdict(list)
    for found, sql in (
        (bands, "SELECT system_id, parameter, low, high, aim, aim_reason FROM band"),
        (gear, "SELECT system_id, kind, place, cover_cm FROM gear ORDER BY kind"),
    ):
        for row in connection.execute(sql):
            found[row["system_id"]].append(list(row)[1:])
    return bands, gear


def system(connection: sqlite3.Connection, system_id: int) -> System:
    """One system. Raises NotFoundError."""
    row = connection.execute(f"{_SELECT} WHERE id = ?", (system_id,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no system {system_id}")
    return _stored(connection, row)


def _stored(connection: sqlite3.Connection, row: sqlite3.Row) -> System:
    parts = _parts(connection, row["id"])
    return _system({**dict(row), **parts, "animals": livestock.animals(connection, row["id"])})


def _parts(connection: sqlite3.Connection, system_id: int) -> dict[str, Any]:
    bands = connection.execute(
        "SELECT parameter, low, high, aim, aim_reason FROM band WHERE system_id = ?", (system_id,)
    )
    gear = connection.execute("SELECT kind, place, cover_cm FROM gear WHERE system_id = ? ORDER BY kind", (system_id,))
    return {"bands": [list(row) for row in bands], "gear": [list(row) for row in gear]}


def _system(row: Mapping[str, Any]) -> System:
    """A system from a row of the table, or of a version, with its bands, gear and animals."""
    return System(
        row["id"],
        row["name"],
        row["stock"],
        Stage(row["stage"]),
        PanelMaterial(row["panel"]),
        _geometry(row),
        Methods(
            SandMethod(row["sand"]),
            row["change_fraction"],
            row["change_every_days"],
            row["largest_fraction"],
            row["method_note"],
            json.loads(row["methods"]),
        ),
        {Parameter(name): Span(low, high) for name, low, high, *_ in row["bands"]},
        Limits(row["limit_salinity"], row["limit_alkalinity_meq_l"], row["limit_temperature_c"]),
        tuple(kind for kind, _, _ in row["gear"]),
        row["bucket_l"],
        row["started_on"],
        tuple(Panel(name) for name in json.loads(row["clean_panels"])),
        SourceWater(row["source_water"]),
        {kind: Placed(GearPlace(place), cover) for kind, place, cover in row["gear"]},
        tuple(row.get("animals", ())),
        row["archived_at"] is not None,
        to_moment(row["entered_at"]) if row.get("entered_at") else None,
        _own_aims(row["bands"]),
        heating=installation.heating(row.get("heating")),
        top_off=installation.top_off(row.get("top_off")),
        plumbing=installation.plumbing(row.get("service")),
    )


def _own_aims(bands: Iterable[Sequence[Any]]) -> dict[Parameter, OwnAim]:
    """The aims that were chosen, from rows of bands; those of earlier versions have none."""
    chosen = [(name, aim[0]) for name, _, _, *aim in bands if aim and aim[0] is not None]
    reasons = {name: aim[1] for name, _, _, *aim in bands if aim}
    return {Parameter(name): OwnAim(level, reasons[name]) for name, level in chosen}


def _geometry(row: Mapping[str, Any]) -> Geometry:
    stated = row.get("stated_l")
    sump, test = row["sump"] and json.loads(row["sump"]), row["salt_test"] and json.loads(row["salt_test"])
    return Geometry(
        row["length_cm"],
        row["width_cm"],
        row["depth_cm"],
        None if row["reckoned"] else row["displaced_l"],
        row["sump_l"],
        Shape.LITRES if stated else Shape(row["shape"]),
        row["bow_cm"],
        row["sand_bed_cm"],
        row["rock_kg"],
        Sump(**sump) if sump else None,
        SaltTest(**test) if test else None,
        stated or 0.0,
    )


def _values(item: System) -> dict[str, object]:
    """The columns of a system, by name."""
    geometry, methods, limits = item.geometry, item.methods, item.own_limits
    return {
        "name": item.name.strip(), "stock": item.stock, "stage": item.stage.value, "panel": item.panel.value,
        "length_cm": geometry.length_cm, "width_cm": geometry.width_cm, "depth_cm": geometry.depth_cm,
        "displaced_l": displacement(geometry)[0], "reckoned": int(geometry.displaced_l is None),
        "sump_l": geometry.sump_l, "shape": (geometry.shape if geometry.measured else Shape.BOX).value,
        "stated_l": geometry.stated_l or None, "bow_cm": geometry.bow_cm,
        "sand_bed_cm": geometry.sand_bed_cm, "rock_kg": geometry.rock_kg,
        "sump": dump(asdict(geometry.sump)) if geometry.sump else None,
        "salt_test": dump(asdict(geometry.salt_test)) if geometry.salt_test else None,
        "sand": methods.sand.value, "change_fraction": methods.change_fraction,
        "change_every_days": methods.change_every_days, "largest_fraction": methods.largest_fraction,
        "method_note": methods.note, "methods": dump(dict(methods.answers)),
        "limit_salinity": limits.salinity, "limit_alkalinity_meq_l": limits.alkalinity_meq_l,
        "limit_temperature_c": limits.temperature_c, "bucket_l": item.bucket_l, "started_on": item.started_on,
        "clean_panels": dump([panel.value for panel in item.clean_panels]), "source_water": item.source_water.value,
    }  # fmt: skip


def add_system(connection: sqlite3.Connection, item: System, at: datetime) -> int:
    """Store a new system (its id is given by the database). Raises ConflictError by name."""
    values = _values(item)
    marks = ", ".join("?" for _ in values)
    with _unique_name(item):
        cursor = connection.execute(
            f"INSERT INTO system ({', '.join(values)}) VALUES ({marks})", tuple(values.values())
        )
    system_id = int(cursor.lastrowid or 0)
    _replace_parts(connection, system_id, item)
    installation.save(connection, replace(item, id=system_id))
    connection.execute("INSERT INTO system_volume VALUES (?, '', ?)", (system_id, item.volume_l))
    keep_version(connection, system_id, at)
    return system_id


def change_system(connection: sqlite3.Connection, item: System, at: datetime, always: bool = False) -> None:
    """Store an edited system; every earlier version stays.

    A new volume counts from `at` on: the past keeps its own. With `always` the old one was measured wrongly, and the
    new one counts from the last change of volume on. Raises NotFoundError, ConflictError.
    """
    values = _values(item)
    sets = ", ".join(f"{column} = ?" for column in values)
    with _unique_name(item):
        cursor = connection.execute(f"UPDATE system SET {sets} WHERE id = ?", (*values.values(), item.id))
    if not cursor.rowcount:
        raise NotFoundError(f"there is no system {item.id}")
    connection.execute("DELETE FROM band WHERE system_id = ?", (item.id,))
    connection.execute("DELETE FROM gear WHERE system_id = ?", (item.id,))
    _replace_parts(connection, item.id, item)
    _keep_volume(connection, item, at, always)
    keep_version(connection, item.id, at)


def _keep_volume(connection: sqlite3.Connection, item: System, at: datetime, always: bool) -> None:
    since, volume_l = connection.execute(
        "SELECT since, volume_l FROM system_volume WHERE system_id = ? ORDER BY since DESC LIMIT 1", (item.id,)
    ).fetchone()
    if abs(volume_l - item.volume_l) < 1e-6:
        return
    connection.execute(
        "INSERT INTO system_volume VALUES (?, ?, ?)"
        " ON CONFLICT (system_id, since) DO UPDATE SET volume_l = excluded.volume_l",
        (item.id, since if always else to_text(at), item.volume_l),
    )


def keep_version(connection: sqlite3.Connection, system_id: int, at: datetime) -> None:
    """Keep the set-up as it is now as a version."""
    row = connection.execute(f"{_SELECT} WHERE id = ?", (system_id,)).fetchone()
    setup = {**dict(row), **_parts(connection, system_id)}
    connection.execute(
        "INSERT INTO system_version (system_id, at, setup) VALUES (?, ?, ?)", (system_id, to_text(at), dump(setup))
    )


def remember_setup(connection: sqlite3.Connection, system_id: int, command: str, salt_id: int | None = None) -> None:
    """Remember a set-up before a command, for its undo; and the default salt, where that changes."""
    row = connection.execute(f"{_SELECT} WHERE id = ?", (system_id,)).fetchone()
    setup = {**dict(row), **_parts(connection, system_id)}
    connection.execute(
        "INSERT INTO setup_before VALUES (?, ?, ?, ?, ?)",
        (command, system_id, _last_version(connection, system_id), dump(setup), salt_id),
    )


def restore_setup(connection: sqlite3.Connection, command: str, at: datetime) -> int:
    """Restore the set-up from before a command. Returns 1, or 0 where it changed none. Raises ConflictError where the
    set-up was edited since.
    """
    row = connection.execute("SELECT * FROM setup_before WHERE command = ?", (command,)).fetchone()
    if row is None:
        return 0
    since = "SELECT count(*) FROM system_version WHERE system_id = ? AND id > ?"
    if connection.execute(since, (row["system_id"], row["version"])).fetchone()[0] != 1:
        raise ConflictError("the set-up was edited since then: put it back there, by hand")
    setup = json.loads(row["setup"])
    change_system(connection, _system(setup), at)
    installation.restore(connection, row["system_id"], setup)
    if row["salt_id"] is not None:
        connection.execute("UPDATE keeper SET salt_id = ?", (row["salt_id"],))
    connection.execute("DELETE FROM setup_before WHERE command = ?", (command,))
    return 1


def _last_version(connection: sqlite3.Connection, system_id: int) -> int:
    found = connection.execute("SELECT max(id) FROM system_version WHERE system_id = ?", (system_id,)).fetchone()[0]
    return int(found or 0)


def versions(connection: sqlite3.Connection, system_id: int) -> list[tuple[datetime, System]]:
    """Every set-up of a system as it was stored, oldest first, without the animals."""
    rows = connection.execute("SELECT at, setup FROM system_version WHERE system_id = ? ORDER BY id", (system_id,))
    return [(to_moment(row["at"]), _system(json.loads(row["setup"]))) for row in rows]


def earlier_volumes(connection: sqlite3.Connection) -> BySystem[tuple[tuple[datetime, float], ...]]:
    """Earlier volumes and until when each applied; by system, oldest first."""
    return BySystem(
        connection.execute("SELECT system_id, since, volume_l FROM system_volume ORDER BY since"),
        lambda rows: tuple((to_moment(later["since"]), row["volume_l"]) for row, later in pairwise(rows)),
    )


def archive(connection: sqlite3.Connection, system_id: int, at: datetime | None) -> None:
    """Archive a system, or with None restore it; its record stays. Raises NotFoundError."""
    cursor = connection.execute(
        "UPDATE system SET archived_at = ? WHERE id = ?", (to_text(at) if at else None, system_id)
    )
    if not cursor.rowcount:
        raise NotFoundError(f"there is no system {system_id}")


class _unique_name:  # noqa: N801 - reads as a phrase at its uses
    def __init__(self, item: System) -> None:
        self.item = item

    def __enter__(self) -> None: ...

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: object) -> None:
        if isinstance(error, sqlite3.IntegrityError) and "system.name" in str(error):
            raise ConflictError(f"there is a system named {self.item.name} already", field="name") from error


def _replace_parts(connection: sqlite3.Connection, system_id: int, item: System) -> None:
    connection.executemany(
        "INSERT INTO band (system_id, parameter, low, high, aim, aim_reason) VALUES (?, ?, ?, ?, ?, ?)",
        [
            (system_id, parameter.value, band.low, band.high, *_aim(item, parameter))
            for parameter, band in item.bands.items()
        ],
    )
    placed = {kind: item.placed.get(kind, Placed()) for kind in item.gear}
    connection.executemany(
        "INSERT INTO gear VALUES (?, ?, ?, ?)",
        [(system_id, kind, where.where.value, where.cover_cm) for kind, where in placed.items()],
    )


def _aim(item: System, parameter: Parameter) -> tuple[float | None, str]:
    own = item.own_aims.get(parameter)
    return (own.level, own.reason) if own and item.bands[parameter].holds(own.level) else (None, "")
