"""What every router needs: the database, the clock, and the keeper's settings of this request."""

import sqlite3
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cached_property
from typing import Annotated, Any

from fastapi import Depends, Header, Request

from salttide.clock import Clock
from salttide.core.ahead import Ahead
from salttide.core.container import Container
from salttide.core.delivery import daily_dose, with_pumps
from salttide.core.ledger import Ledger
from salttide.core.outlook import MEMORY, Outlook, Waters, outlook, waters
from salttide.core.plan import DailyDose, daily_as_recorded
from salttide.core.system import System
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import container as container_store
from salttide.store import instrument as instrument_store
from salttide.store import judgement as judgement_store
from salttide.store import ledger as ledger_store
from salttide.store import shelf
from salttide.store import system as system_store
from salttide.store.database import Database, command_done, remember_command


@dataclass
class Context:
    """One request's view of the world."""

    database: Database
    clock: Clock
    ledgers: ledger_store.Ledgers

    @cached_property
    def connection(self) -> sqlite3.Connection:
        """For reading."""
        return self.database.connection

    @cached_property
    def now(self) -> datetime:
        """The moment of this request."""
        return self.clock.now()

    @cached_property
    def ticks(self) -> datetime:
        """The moment of this request by the clock that timers go by."""
        return self.clock.ticks()

    @property
    def today(self) -> date:
        """The keeper's date."""
        return self.day_of(self.now)

    def day_of(self, at: datetime | str) -> date:
        """The keeper's date of a moment."""
        moment = datetime.fromisoformat(at) if isinstance(at, str) else at
        return moment.astimezone(self.keeper.zone).date()

    @cached_property
    def keeper(self) -> shelf.Keeper:
        """The keeper's settings."""
        return shelf.keeper(self.connection)

    def outlook(self, system: System, ahead_days: int | None = None) -> Outlook:
        """The outlook of a system, from the readings that still say something."""
        zone = self.keeper.zone
        until = self.today + timedelta(days=ahead_days) if ahead_days else None
        return outlook(
            system,
            self.ledger(system),
            system_store.care_rules(self.connection, system.id),
            system_store.care_moves(self.connection, system.id),
            self.ahead(system),
            self.now,
            zone,
            self.keeper.units,
            until,
            judgement_store.rules_off(self.connection, system.id),
            instrument_store.expired(self.connection, self.today),
        )

    def ahead(self, system: System) -> Ahead:
        """What is ahead of a system: its open steps, its usual salt, and what is dosed daily by pump or by plan."""
        steps = change_store.open_steps(self.connection, system.id)
        daily = change_store.daily_plans(self.connection, system.id)
        salts = shelf.salts(self.connection)
        found = container_store.containers(self.connection, system.id)
        usual = next((salt for salt in salts if salt.id == self.keeper.salt_id), salts[0]) if salts else None
        return Ahead(
            [(step.planned, step.work) for step in steps],
            usual,
            self.keeper.additive,
            self._daily(system, found, daily[-1].doses if daily else None),
            batch_store.mixed_for(self.connection) if steps else (),
            found,
        )

    def _daily(
        self, system: System, containers: Sequence[Container], planned: tuple[DailyDose, ...] | None
    ) -> tuple[DailyDose, ...] | None:
        """The daily doses that go on: of pumps what they really give, else as planned; None: as recorded."""
        pumped = [dose for one in containers if (dose := daily_dose(one, self.now))]
        if not pumped:
            return planned
        others = daily_as_recorded(self.ledger(system), self.now) if planned is None else planned
        return with_pumps(pumped, others)

    def waters(self, system: System) -> Waters:
        """The water of a system alone: quicker than its outlook."""
        return waters(system, self.ledger(system), self.now)

    def ledger(self, system: System) -> Ledger:
        """The entries of a system that still say what its water is."""
        return self.ledgers.recent(self.connection, system, self.now, MEMORY.days)

    def command(self, key: str, act: Callable[[sqlite3.Connection], Any]) -> Any:
        """Run `act` in one transaction under a key; a repeated key gets the first answer and records nothing."""
        with self.database.write() as connection:
            earlier = command_done(connection, key)
            if earlier is not None:
                return earlier
            answer = act(connection)
            remember_command(connection, key, answer, self.now)
            return answer


def context(request: Request) -> Context:
    """The context of a request."""
    state = request.app.state
    return Context(state.database, state.clock, state.ledgers)


In = Annotated[Context, Depends(context)]
Key = Annotated[
    str, Header(alias="Idempotency-Key", min_length=8, max_length=80, description="Made by the client, new per command")
]
