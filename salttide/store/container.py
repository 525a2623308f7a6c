"""Dosing containers with their pumps and events; the dosing routine; amounts stepped up slowly."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.estimate.dose_times import Slot
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind
from salttide.core.planning.ramp_state import RampEntry
from salttide.core.system.shelf import Additive

from .by_system import BySystem
from .database import dump, to_moment, to_text


@dataclass(frozen=True)
class StoredContainer:
    """A container with its events; away_at: when it was archived, None while in use."""

    container: Container
    away_at: datetime | None


def all_containers(connection: sqlite3.Connection) -> BySystem[list[StoredContainer]]:
    """The containers of each system in the order they were set up; archived ones too."""
    events: dict[int, list[sqlite3.Row]] = defaultdict(list)
    for row in connection.execute("SELECT * FROM container_event WHERE void = 0 ORDER BY at, id"):
        events[row["container_id"]].append(row)
    return BySystem(
        connection.execute("SELECT * FROM container WHERE void = 0 ORDER BY id"),
        lambda rows: [
            StoredContainer(_container(row, events[row["id"]]), to_moment(row["away_at"]) if row["away_by"] else None)
            for row in rows
        ],
    )


def containers(connection: sqlite3.Connection, system_id: int) -> list[Container]:
    """The containers in use of a system."""
    return [one.container for one in all_containers(connection)[system_id] if one.away_at is None]


def container(connection: sqlite3.Connection, system_id: int, container_id: int) -> Container:
    """One container. Raises NotFoundError."""
    row = connection.execute(
        "SELECT * FROM container WHERE id = ? AND system_id = ? AND void = 0 AND away_by IS NULL",
        (container_id, system_id),
    ).fetchone()
    if row is None:
        raise NotFoundError("there is no such container")
    events = connection.execute(
        "SELECT * FROM container_event WHERE container_id = ? AND void = 0 ORDER BY at, id", (row["id"],)
    )
    return _container(row, events)


def _container(row: sqlite3.Row, events: Iterable[sqlite3.Row]) -> Container:
    return Container(
        row["id"], row["name"], Additive(**json.loads(row["additive"])), row["capacity_ml"], row["level_sd_ml"],
        row["pump"], row["set_name"], row["step_ml"], row["least_ml"], tuple(_event(each) for each in events),
    )  # fmt: skip


def _event(row: sqlite3.Row) -> ContainerEvent:
    slots = tuple(Slot(int(minute), ml) for minute, ml in json.loads(row["slots"]))
    return ContainerEvent(
        to_moment(row["at"]), ContainerKind(row["kind"]), row["ml"], row["before_ml"], slots, row["id"], row["note"]
    )


def add_container(connection: sqlite3.Connection, system_id: int, item: Container, command: str) -> int:
    """Set a container up. Raises ConflictError where the system has one of that name."""
    if any(one.name.casefold() == item.name.casefold() for one in containers(connection, system_id)):
        raise ConflictError(f"{item.name} is there already", field="name")
    cursor = connection.execute(
        "INSERT INTO container (system_id, name, additive, capacity_ml, level_sd_ml, pump, set_name, step_ml, least_ml,"
        " command) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            system_id, item.name, dump(asdict(item.additive)), item.capacity_ml, item.level_sd_ml, item.pump,
            item.set_name, item.step_ml, item.least_ml, command,
        ),
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def change_container(connection: sqlite3.Connection, system_id: int, item: Container) -> None:
    """Store an edited container; its contents stay. Raises ConflictError for another's name."""
    others = [one for one in containers(connection, system_id) if one.id != item.id]
    if any(one.name.casefold() == item.name.casefold() for one in others):
        raise ConflictError(f"{item.name} is there already", field="name")
    connection.execute(
        "UPDATE container SET name = ?, capacity_ml = ?, level_sd_ml = ?, pump = ?, set_name = ?, step_ml = ?,"
        " least_ml = ? WHERE id = ?",
        (
            item.name, item.capacity_ml, item.level_sd_ml, item.pump, item.set_name, item.step_ml, item.least_ml,
            item.id,
        ),
    )  # fmt: skip


def mark_event(connection: sqlite3.Connection, container_id: int, event_id: int, void: bool) -> None:
    """Undo one event of a container, or restore it. Raises NotFoundError."""
    changed = connection.execute(
        "UPDATE container_event SET void = ? WHERE id = ? AND container_id = ?", (int(void), event_id, container_id)
    )
    if not changed.rowcount:
        raise NotFoundError("there is no such event")


def archive_container(connection: sqlite3.Connection, container_id: int, at: datetime, command: str) -> None:
    """Take a container out of use; what it dosed stays in the record."""
    connection.execute(
        "UPDATE container SET away_by = ?, away_at = ? WHERE id = ?", (command, to_text(at), container_id)
    )


def restore_containers(connection: sqlite3.Connection, command: str) -> int:
    """Restore the containers a command archived. Returns how many."""
    return connection.execute("UPDATE container SET away_by = NULL WHERE away_by = ?", (command,)).rowcount


def add_container_events(
    connection: sqlite3.Connection, container_id: int, events: Sequence[ContainerEvent], command: str
) -> None:
    """Record events of a container. Must run inside a transaction."""
    connection.executemany(
        "INSERT INTO container_event (container_id, at, kind, ml, before_ml, slots, note, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        [
            (
                container_id, to_text(e.at), e.kind.value, e.ml, e.before_ml,
                json.dumps([[slot.minute, slot.ml] for slot in e.slots]), e.note, command,
            )
            for e in events
        ],
    )  # fmt: skip


def dosing_routine(connection: sqlite3.Connection, system_id: int) -> dict[str, Any]:
    """The dosing routine of a system as chosen; empty where none was."""
    row = connection.execute(
        "SELECT routine FROM dosing_routine WHERE system_id = ? AND void = 0 ORDER BY id DESC LIMIT 1", (system_id,)
    ).fetchone()
    found: dict[str, Any] = json.loads(row["routine"]) if row else {}
    return found


def save_dosing_routine(connection: sqlite3.Connection, system_id: int, chosen: dict[str, Any], command: str) -> None:
    """Store the dosing routine."""
    connection.execute(
        "INSERT INTO dosing_routine (system_id, routine, command) VALUES (?, ?, ?)",
        (system_id, json.dumps(chosen), command),
    )


def ramp(connection: sqlite3.Connection, system_id: int, kind: str) -> list[RampEntry]:
    """The amounts of one kind, oldest first; the last is in force."""
    rows = connection.execute(
        "SELECT * FROM ramp WHERE system_id = ? AND kind = ? AND void = 0 ORDER BY at, id", (system_id, kind)
    )
    return [RampEntry(to_moment(row["at"]), kind, row["amount"], row["full_g"], row["source"]) for row in rows]


def add_ramp(connection: sqlite3.Connection, system_id: int, item: RampEntry, command: str) -> None:
    """Store the amount in force from now on."""
    connection.execute(
        "INSERT INTO ramp (system_id, at, kind, amount, full_g, source, command) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (system_id, to_text(item.at), item.kind, item.amount, item.full_g, item.source, command),
    )
