"""Setting the pumps of a system to its daily doses."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime

from salttide.core.ledger.plan import DailyDose
from salttide.core.planning.pump_setting import settings_for
from salttide.store import container as container_store


def set_pumps(
    connection: sqlite3.Connection, system_id: int, daily: Sequence[DailyDose], now: datetime, key: str
) -> list[DailyDose]:
    """Set the containers of a system to its daily doses. Returns what is left to dose by other means."""
    settings, rest = settings_for(container_store.containers(connection, system_id), daily, now)
    for container, event in settings:
        container_store.add_container_events(connection, container.id, [event], key)
    return rest
