"""What is cached between requests, and what waits to be stored with the next command: a GET writes nothing."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from datetime import datetime

from salttide.core.upkeep.calendar import Issued
from salttide.store import calendar as calendar_store
from salttide.store import rota as rota_store
from salttide.store.database import Database

from .household import Household
from .ledgers import Ledgers
from .states import States, minute_of
from .stored import Stored


class Memo:
    """The household at the database's present version, within the minute. issued: the calendar's entries as last given
    out, and when. These and the placings shown are stored with the next command, so that what was shown stays true.
    """

    def __init__(self, database: Database) -> None:
        self.database = database
        self.ledgers, self.states = Ledgers(), States()
        self.issued: tuple[Sequence[Issued], datetime] | None = None
        self._kept: tuple[int, Household] | None = None

    def household(self, now: datetime) -> Household:
        """The household now."""
        version, kept = self.database.version(), self._kept
        if kept is None or kept[0] != version:
            return self._keep(version, Household(Stored(self._reading), self.ledgers, self.states, now))
        if minute_of(kept[1].now) != minute_of(now):
            shown = kept[1].as_shown() or kept[1].shown
            return self._keep(version, Household(kept[1].stored, self.ledgers, self.states, now, shown))
        return kept[1]

    def anew(self, now: datetime) -> Household:
        """The household with this thread's uncommitted writes."""
        return Household(Stored(self._reading), self.ledgers, self.states, now)

    def settle(self, connection: sqlite3.Connection, now: datetime) -> None:
        """Store what was shown and given out. Must run inside a transaction."""
        kept, self._kept = self._kept, None
        if kept is not None and kept[0] == self.database.version():
            shown = kept[1].as_shown() or kept[1].shown
            if shown is not None:
                rota_store.save_placings(connection, shown, kept[1].day_of(now))
        issued, self.issued = self.issued, None
        if issued is not None:
            calendar_store.save_issued(connection, issued[0])
            calendar_store.asked(connection, issued[1])

    def _reading(self) -> sqlite3.Connection:
        return self.database.connection

    def _keep(self, version: int, household: Household) -> Household:
        self._kept = (version, household)
        return household
