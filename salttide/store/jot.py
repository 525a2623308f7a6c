"""What a jot line is read with: the keeper's systems, shelf, units and present water."""

from __future__ import annotations

import sqlite3
from datetime import datetime

from salttide.core.jot.answer import JotContext
from salttide.core.jot.statement import RecordContext
from salttide.core.overview.state import MEMORY, waters
from salttide.core.planning.done_change import usual_salt

from . import instrument, shelf
from . import system as system_store
from .ledger import Ledgers


def jot_context(
    connection: sqlite3.Connection, ledgers: Ledgers, now: datetime, system_id: int | None = None
) -> JotContext:
    """The context of a line; the salt that is used first stands first, `system_id` is the system that is looked at."""
    keeper, systems = shelf.keeper(connection), system_store.all_systems(connection)
    salts = shelf.salts(connection)
    usual = usual_salt(salts, keeper.salt_id)
    water = {
        system.id: waters(system, ledgers.recent(connection, system, now, MEMORY.days), now).water for system in systems
    }
    return JotContext(
        keeper.habits,
        keeper.units,
        tuple(systems),
        tuple(sorted(salts, key=lambda salt: salt != usual)),
        water,
        next((system for system in systems if system.id == system_id), None),
    )


def record_context(
    connection: sqlite3.Connection, ledgers: Ledgers, now: datetime, system_id: int | None = None
) -> RecordContext:
    """The context of a line that records."""
    jot = jot_context(connection, ledgers, now, system_id)
    return RecordContext(
        jot,
        now,
        shelf.keeper(connection).zone,
        {system.id: ledgers.recent(connection, system, now, MEMORY.days) for system in jot.systems},
        tuple(instrument.instruments(connection)),
        tuple(shelf.additives(connection)),
        tuple(shelf.foods(connection)),
    )
