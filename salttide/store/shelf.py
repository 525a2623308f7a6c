"""The keeper's settings and the shelf: salts and instruments."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from math import inf
from zoneinfo import ZoneInfo

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.basics.locale import USUAL, ClockHours, DayOrder, FirstDay, LengthUnit, MassUnit, VolumeUnit, Writing
from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.quantities import Gallon, Habits
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.food import Food
from salttide.core.science.mix import SaltMix, StrengthBasis
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salt_calibration import MeasuredBatch, learned_salt
from salttide.core.system.shelf import Additive

from .database import dump


@dataclass(frozen=True)
class Keeper:
    """The keeper's settings: time zone, unit per parameter, defaults from the shelf, and how numbers are written."""

    zone: ZoneInfo
    units: Mapping[Parameter, str]
    salt_id: int | None
    additive: AlkalinitySource
    writing: Writing = USUAL

    @property
    def habits(self) -> Habits:
        """How typed numbers and gallons are read."""
        return Habits(self.writing.sign, self.writing.gallon)


def keeper(connection: sqlite3.Connection) -> Keeper:
    """The keeper's settings; those of a new database where none are stored."""
    row = connection.execute("SELECT * FROM keeper").fetchone()
    if row is None:
        return Keeper(ZoneInfo("UTC"), {}, None, AlkalinitySource.SODA_ASH)
    units = {Parameter(name): key for name, key in json.loads(row["units"]).items()}
    how = Writing(
        DecimalSign(row["decimal_sign"]),
        DayOrder(row["day_order"]),
        ClockHours(row["clock"]),
        row["scale_g"],
        Gallon(row["gallon"]) if row["gallon"] else None,
        VolumeUnit(row["volume"]),
        LengthUnit(row["length"]),
        MassUnit(row["mass"]),
        FirstDay(row["week"]),
        {parameter.value: key for parameter, key in units.items()},
    )
    return Keeper(ZoneInfo(row["zone"]), units, row["salt_id"], AlkalinitySource(row["additive"]), how)


def save_keeper(connection: sqlite3.Connection, settings: Keeper) -> None:
    """Store the keeper's settings."""
    how = settings.writing
    connection.execute(
        "INSERT INTO keeper (id, zone, units, salt_id, additive, decimal_sign, gallon, day_order, clock, scale_g,"
        " volume, length, mass, week) VALUES (1, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
        " ON CONFLICT (id) DO UPDATE SET zone = excluded.zone,"
        " units = excluded.units, salt_id = excluded.salt_id, additive = excluded.additive,"
        " decimal_sign = excluded.decimal_sign, gallon = excluded.gallon, day_order = excluded.day_order,"
        " clock = excluded.clock, scale_g = excluded.scale_g, volume = excluded.volume, length = excluded.length,"
        " mass = excluded.mass, week = excluded.week",
        (
            settings.zone.key,
            dump(settings.units),
            settings.salt_id,
            settings.additive.value,
            how.sign.value,
            how.gallon and how.gallon.value,
            how.days.value,
            how.clock.value,
            how.scale_g,
            how.volume.value,
            how.length.value,
            how.mass.value,
            how.week.value,
        ),
    )


@dataclass(frozen=True)
class Label:
    """A salt on the shelf by its label: printed values, the salinity they are stated at, and its bulk density."""

    salt: SaltMix
    printed: Mapping[Parameter, str]
    printed_at: float
    bulk_density_g_ml: float | None


@dataclass(frozen=True)
class Bucket:
    """A bucket of a salt since it was opened; the one opened last is in use."""

    id: int
    opened_on: str
    mass_g: float
    lot: str


def salts(connection: sqlite3.Connection) -> list[SaltMix]:
    """The salts on the shelf as plans take them: by their labels, and by what their own batches taught."""
    known = _batches_by_salt(connection)
    return [learned_salt(label.salt, known[label.salt.id]) for label in labels(connection)]


def salt(connection: sqlite3.Connection, salt_id: int) -> SaltMix:
    """One salt as plans take it. Raises NotFoundError."""
    return learned_salt(label(connection, salt_id).salt, batches(connection, salt_id))


def salt_at_hand(connection: sqlite3.Connection, salt_id: int) -> SaltMix:
    """A salt that plans may take. Raises NotFoundError for one that was archived, as for one that never was."""
    found = next((salt for salt in salts(connection) if salt.id == salt_id), None)
    if found is None:
        raise NotFoundError("this salt is no longer on the Shelf: choose another", field="salt_id")
    return found


def labels(connection: sqlite3.Connection) -> list[Label]:
    """The salts on the shelf as their labels have them."""
    return [_label(row) for row in connection.execute("SELECT * FROM salt WHERE away = 0 ORDER BY id")]


def label(connection: sqlite3.Connection, salt_id: int) -> Label:
    """One salt as its label has it, also one that was archived. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM salt WHERE id = ?", (salt_id,)).fetchone()
    if row is None:
        raise NotFoundError("this salt is not on the Shelf", field="salt_id")
    return _label(row)


def _label(row: sqlite3.Row) -> Label:
    salt = SaltMix(
        row["id"],
        row["name"],
        row["strength_g_l"],
        StrengthBasis(row["basis"]),
        holds_of(row["holds"]),
        row["holds_from"],
    )
    printed = {Parameter(name): text for name, text in json.loads(row["printed"]).items()}
    return Label(salt, printed, row["printed_at"], row["bulk_density_g_ml"])


def holds_of(text: str) -> dict[Parameter, Span]:
    """Stored values of a salt: {parameter: [low, high]}; a lower bound has null for its upper end."""
    return {Parameter(name): Span(low, inf if high is None else high) for name, (low, high) in json.loads(text).items()}


def holds_text(values: Mapping[Parameter, Span]) -> str:
    """The values of a salt as stored."""
    return dump({p.value: [span.low, None if span.high == inf else span.high] for p, span in values.items()})


def _label_columns(item: Label) -> tuple[object, ...]:
    salt = item.salt
    return (
        salt.name, salt.strength_g_l, salt.basis.value, holds_text(salt.values), salt.values_from,
        dump({p.value: text for p, text in item.printed.items()}), item.printed_at, item.bulk_density_g_ml,
    )  # fmt: skip


def add_salt(connection: sqlite3.Connection, item: SaltMix) -> int:
    """Put a salt on the shelf by its values alone."""
    return add_label(connection, Label(item, {}, 35.0, None))


def add_label(connection: sqlite3.Connection, item: Label) -> int:
    """Put a salt on the shelf."""
    cursor = connection.execute(
        "INSERT INTO salt (name, strength_g_l, basis, holds, holds_from, printed, printed_at, bulk_density_g_ml)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        _label_columns(item),
    )
    return int(cursor.lastrowid or 0)


def change_label(connection: sqlite3.Connection, item: Label) -> None:
    """Store an edited label. Water already mixed keeps the values it was mixed by."""
    connection.execute(
        "UPDATE salt SET name = ?, strength_g_l = ?, basis = ?, holds = ?, holds_from = ?, printed = ?, printed_at = ?,"
        " bulk_density_g_ml = ? WHERE id = ?",
        (*_label_columns(item), item.salt.id),
    )


def open_bucket(connection: sqlite3.Connection, salt_id: int, day: date, mass_g: float, lot: str, command: str) -> None:
    """Open a bucket: it is the one in use from now on."""
    connection.execute(
        "INSERT INTO bucket (salt_id, opened_on, mass_g, lot, command) VALUES (?, ?, ?, ?, ?)",
        (salt_id, day.isoformat(), mass_g, lot, command),
    )


def buckets(connection: sqlite3.Connection, salt_id: int) -> list[Bucket]:
    """The buckets of a salt, latest first."""
    rows = connection.execute(
        "SELECT * FROM bucket WHERE salt_id = ? AND void = 0 ORDER BY opened_on DESC, id DESC", (salt_id,)
    )
    return [Bucket(row["id"], row["opened_on"], row["mass_g"], row["lot"]) for row in rows]


def add_batch(connection: sqlite3.Connection, salt_id: int, day: date, item: MeasuredBatch, command: str) -> None:
    """Store a measured batch, for the bucket in use."""
    opened = buckets(connection, salt_id)
    connection.execute(
        "INSERT INTO measured_batch (salt_id, bucket_id, day, mass_g, volume_l, salinity, holds, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (
            salt_id, opened[0].id if opened else None, day.isoformat(), item.mass_g, item.volume_l, item.salinity,
            dump({p.value: value for p, value in item.holds.items()}), command,
        ),
    )  # fmt: skip


def batches(connection: sqlite3.Connection, salt_id: int) -> list[MeasuredBatch]:
    """The batches that count: those of the bucket opened last, or all where none of it was measured yet."""
    return _batches_by_salt(connection)[salt_id]


def _batches_by_salt(connection: sqlite3.Connection) -> dict[int, list[MeasuredBatch]]:
    rows: dict[int, list[sqlite3.Row]] = defaultdict(list)
    for row in connection.execute(
        "SELECT measured_batch.*, bucket_id IS (SELECT id FROM bucket WHERE salt_id = measured_batch.salt_id"
        " AND void = 0 ORDER BY opened_on DESC, id DESC LIMIT 1) AS latest FROM measured_batch WHERE void = 0"
        " ORDER BY day DESC, id DESC"
    ):
        rows[row["salt_id"]].append(row)
    found: dict[int, list[MeasuredBatch]] = defaultdict(list)
    for salt_id, own in rows.items():
        found[salt_id] = [_batch(row) for row in [row for row in own if row["latest"]] or own]
    return found


def _batch(row: sqlite3.Row) -> MeasuredBatch:
    holds = {Parameter(name): value for name, value in json.loads(row["holds"]).items()}
    return MeasuredBatch(row["salinity"], holds, row["mass_g"], row["volume_l"], row["id"])


_ADDITIVE = ("name", "formula", "purity", "strength_g_l", "bulk_density_g_ml", "expires_on")
_FOOD = ("name", "kind", "dry_share", "nitrogen_share", "phosphorus_share", "portion_g", "expires_on")


def additives(connection: sqlite3.Connection) -> list[Additive]:
    """The additives on the shelf."""
    rows = connection.execute(f"SELECT id, {', '.join(_ADDITIVE)} FROM additive WHERE away = 0 ORDER BY id")
    return [Additive(*row) for row in rows]


def foods(connection: sqlite3.Connection) -> list[Food]:
    """The foods on the shelf."""
    rows = connection.execute(f"SELECT id, {', '.join(_FOOD)} FROM food WHERE away = 0 ORDER BY id")
    return [Food(*row) for row in rows]


def save_item(connection: sqlite3.Connection, item: Additive | Food) -> int:
    """Put an additive or a food on the shelf, or with an id change it. Raises ConflictError."""
    table, columns = ("additive", _ADDITIVE) if isinstance(item, Additive) else ("food", _FOOD)
    values = tuple(getattr(item, column) for column in columns)
    taken = connection.execute(f"SELECT id, away FROM {table} WHERE name = ?", (item.name,)).fetchone()
    if taken and taken["id"] != item.id and not taken["away"]:
        raise ConflictError(f"{item.name} is already on the Shelf", field="name")
    known = item.id or (taken["id"] if taken else 0)
    if not known:
        marks = ", ".join("?" for _ in columns)
        cursor = connection.execute(f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks})", values)
        return int(cursor.lastrowid or 0)
    sets = ", ".join(f"{column} = ?" for column in columns)
    connection.execute(f"UPDATE {table} SET {sets}, away = 0 WHERE id = ?", (*values, known))
    return known


def set_archived(connection: sqlite3.Connection, table: Shelved, item_id: int, away: bool) -> None:
    """Take a salt, an additive or a food off the shelf, or back. What it was used for stays. Raises NotFoundError."""
    changed = connection.execute(f"UPDATE {table.value} SET away = ? WHERE id = ?", (int(away), item_id))
    if not changed.rowcount:
        raise NotFoundError("this is not on the Shelf")


def prices(connection: sqlite3.Connection, table: Shelved) -> dict[int, float]:
    """Prices per kilogram of salts and additives, where known."""
    rows = connection.execute(f"SELECT id, price_kg FROM {table.value} WHERE price_kg IS NOT NULL")
    return {row["id"]: row["price_kg"] for row in rows}


def set_price(connection: sqlite3.Connection, table: Shelved, item_id: int, price_kg: float | None) -> None:
    """Save the price of a kilogram. Raises NotFoundError."""
    changed = connection.execute(f"UPDATE {table.value} SET price_kg = ? WHERE id = ?", (price_kg, item_id))
    if not changed.rowcount:
        raise NotFoundError("this is not on the Shelf")


class Shelved(StrEnum):
    """What is on the shelf apart from instruments."""

    SALT = "salt"
    ADDITIVE = "additive"
    FOOD = "food"
