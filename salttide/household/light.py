"""The light of a system, set from a day on."""

from __future__ import annotations

import sqlite3
from datetime import datetime, time

from salttide.core.system.catalogue import event_kind
from salttide.core.system.inspection import Event
from salttide.core.system.light import Light, light_turned
from salttide.store import ledger as ledger_store
from salttide.store import light as light_store

from .household import Household


def set_light(household: Household, connection: sqlite3.Connection, system_id: int, new: Light, by: str) -> None:
    """Set the lamps from a day on. It enters the record too, as it explains later changes."""
    before = [one for one in light_store.lights(connection, system_id) if one.since <= new.since]
    light_store.add_light(connection, system_id, new, by)
    if before:
        at = min(datetime.combine(new.since, time(12), household.keeper.zone), household.now)
        event = Event(at, event_kind("lamp"), light_turned(before[-1], new))
        ledger_store.record(connection, system_id, [event], by, household.now)
