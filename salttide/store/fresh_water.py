"""The household's RO/DI unit."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict

from salttide.core.planning.fresh_water import NO_UNIT, RoUnit, Supply

from .database import dump


def ro_unit(connection: sqlite3.Connection) -> RoUnit:
    """The unit as it was entered; a usual one where it was not."""
    row = connection.execute("SELECT setup FROM ro_unit WHERE id = 1").fetchone()
    if row is None:
        return NO_UNIT
    setup = json.loads(row["setup"])
    return RoUnit(**{**setup, "supply": Supply(setup["supply"])})


def save_ro_unit(connection: sqlite3.Connection, unit: RoUnit) -> None:
    """Store it."""
    connection.execute(
        "INSERT INTO ro_unit VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET setup = excluded.setup", (dump(asdict(unit)),)
    )
