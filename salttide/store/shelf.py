"""The keeper's settings and the shelf: salts and instruments."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from salttide.core.additives import AlkalinitySource
from salttide.core.errors import NotFoundError
from salttide.core.mix import SaltMix, StrengthBasis
from salttide.core.parameters import Parameter, Span
from salttide.core.quantities import PLAIN_HABITS, Gallon, Habits
from salttide.core.typed import DecimalSign

from .database import dump


@dataclass(frozen=True)
class Keeper:
    """Time zone, unit per parameter, what is taken first from the shelf, and how numbers are written."""

    zone: ZoneInfo
    units: Mapping[Parameter, str]
    salt_id: int | None
    additive: AlkalinitySource
    habits: Habits = PLAIN_HABITS


def keeper(connection: sqlite3.Connection) -> Keeper:
    """The keeper's settings; those of a new database where none are stored."""
    row = connection.execute("SELECT * FROM keeper").fetchone()
    if row is None:
        return Keeper(ZoneInfo("UTC"), {}, None, AlkalinitySource.SODA_ASH)
    units = {Parameter(name): key for name, key in json.loads(row["units"]).items()}
    habits = Habits(DecimalSign(row["decimal_sign"]), Gallon(row["gallon"]) if row["gallon"] else None)
    return Keeper(ZoneInfo(row["zone"]), units, row["salt_id"], AlkalinitySource(row["additive"]), habits)


def keep_keeper(connection: sqlite3.Connection, settings: Keeper) -> None:
    """Store the keeper's settings."""
    connection.execute(
        "INSERT INTO keeper (id, zone, units, salt_id, additive, decimal_sign, gallon) VALUES (1, ?, ?, ?, ?, ?, ?)"
        " ON CONFLICT (id) DO UPDATE SET zone = excluded.zone, units = excluded.units, salt_id = excluded.salt_id,"
        " additive = excluded.additive, decimal_sign = excluded.decimal_sign, gallon = excluded.gallon",
        (
            settings.zone.key,
            dump(settings.units),
            settings.salt_id,
            settings.additive.value,
            settings.habits.sign.value,
            settings.habits.gallon and settings.habits.gallon.value,
        ),
    )


def salts(connection: sqlite3.Connection) -> list[SaltMix]:
    """The salts on the shelf."""
    return [_salt(row) for row in connection.execute("SELECT * FROM salt ORDER BY id")]


def salt(connection: sqlite3.Connection, salt_id: int) -> SaltMix:
    """One salt. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM salt WHERE id = ?", (salt_id,)).fetchone()
    if row is None:
        raise NotFoundError("this salt is not on the shelf", field="salt_id")
    return _salt(row)


def _salt(row: sqlite3.Row) -> SaltMix:
    return SaltMix(
        row["id"],
        row["name"],
        row["strength_g_l"],
        StrengthBasis(row["basis"]),
        holds_of(row["holds"]),
        row["holds_from"],
    )


def holds_of(text: str) -> dict[Parameter, Span]:
    """Stored values of a salt: {parameter: [low, high]}."""
    return {Parameter(name): Span(low, high) for name, (low, high) in json.loads(text).items()}


def holds_text(values: Mapping[Parameter, Span]) -> str:
    """The values of a salt as stored."""
    return dump({parameter.value: [span.low, span.high] for parameter, span in values.items()})


def add_salt(connection: sqlite3.Connection, item: SaltMix) -> int:
    """Put a salt on the shelf."""
    cursor = connection.execute(
        "INSERT INTO salt (name, strength_g_l, basis, holds, holds_from) VALUES (?, ?, ?, ?, ?)",
        (item.name, item.strength_g_l, item.basis.value, holds_text(item.values), item.values_from),
    )
    return int(cursor.lastrowid or 0)
