"""The first ten minutes: a system, a salt, additives, results and when work was last done, all stored or nothing."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time

from salttide.core.basics.errors import ConflictError
from salttide.core.basics.phrases import phrase
from salttide.core.ledger.entries import Care, Reading
from salttide.core.science.mix import SaltMix
from salttide.core.system.starter import STARTER_ADDITIVES
from salttide.core.system.system import System
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.core.upkeep.task import tasks
from salttide.store import ledger as ledger_store
from salttide.store import rota as rota_store
from salttide.store import shelf
from salttide.store import system as system_store

from .household import Household

NOON = time(12)


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
    done = [Care(_moment(household, day), task, tasks()[task].minutes) for task, day in start.last.items()]
    ids = ledger_store.record(connection, system_id, [*start.readings, *done], command, household.now)
    changes = [entry for entry, care in zip(ids[len(start.readings) :], done, strict=True) if care.task == WATER_CHANGE]
    # Nobody remembers the litres of a change before the app: it only says when the next one is due.
    rota_store.leave_changes(connection, changes, command)
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


def _moment(household: Household, day: date) -> datetime:
    """Noon of a day, or now where that is still to come."""
    return min(datetime.combine(day, NOON, household.keeper.zone), household.now)
