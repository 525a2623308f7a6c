"""The first ten minutes: a system, a salt, additives, results and when work was last done, all stored or nothing."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

from salttide.core.basics.errors import ConflictError
from salttide.core.basics.phrases import phrase
from salttide.core.ledger.entries import Reading
from salttide.core.science.mix import SaltMix
from salttide.core.system.starter import STARTER_ADDITIVES
from salttide.core.system.system import System
from salttide.core.upkeep.task import tasks
from salttide.store import ledger as ledger_store
from salttide.store import shelf
from salttide.store import system as system_store

from .acts import record_last
from .household import Household


@dataclass(frozen=True)
class Start:
    """What is known at the start. last: the day on which each task was last done."""

    system: System
    salt: SaltMix | None
    additives: bool
    readings: Sequence[Reading]
    last: Mapping[str, date]


def begin(household: Household, connection: sqlite3.Connection, start: Start, command: str) -> int:
    """Store all of it. Returns the number of the system. Raises ConflictError for a name that is taken."""
    system_id = system_store.add_system(connection, start.system, household.now)
    if start.salt:
        salt_id = _add_salt(connection, start.salt)
        if household.keeper.salt_id is None:
            shelf.save_keeper(connection, replace(household.keeper, salt_id=salt_id))
    if start.additives:
        add_starters(household, connection)
    ledger_store.record(connection, system_id, start.readings, command, household.now)
    last = [(task, tasks()[task].minutes, day) for task, day in start.last.items()]
    record_last(household, connection, system_id, last, command)
    return system_id


def _add_salt(connection: sqlite3.Connection, salt: SaltMix) -> int:
    try:
        return shelf.add_salt(connection, salt)
    except sqlite3.IntegrityError as error:
        raise ConflictError(phrase("start.there_is_such_a_salt", name=salt.name), field="salt") from error


def add_starters(household: Household, connection: sqlite3.Connection) -> None:
    """Put the common additives on the Shelf, those whose formula is not there yet."""
    known = {one.formula for one in household.stored.additives}
    for item in STARTER_ADDITIVES:
        if item.formula not in known:
            shelf.save_item(connection, item)
