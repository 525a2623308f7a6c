"""What every router needs: the database, the clock, and every system as it stands at the moment of the request."""

import sqlite3
from collections.abc import Callable
from datetime import datetime
from functools import cached_property
from typing import Annotated, Any

from fastapi import Depends, Header, Request

from salttide.clock import Clock
from salttide.core.basics.errors import at_field
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import parse_measurement, to_canonical, unit_of
from salttide.guard import asked_of
from salttide.store.database import Database, command_done, remember_command
from salttide.store.ledger import Ledgers
from salttide.store.outlook import Outlooks
from salttide.store.rota import remember_placings


class Context(Outlooks):
    """One request's view of the world."""

    def __init__(
        self, database: Database, clock: Clock, ledgers: Ledgers, asked: Callable[[], str] = str, links: str = ""
    ) -> None:
        super().__init__(database, clock.now, ledgers)
        self.clock, self.asked, self.links = clock, asked, links

    @cached_property
    def ticks(self) -> datetime:
        """The moment of this request by the clock that timers go by."""
        return self.clock.ticks()

    def canonical(self, parameter: Parameter, shown: float, field: str) -> float:
        """A number in the keeper's unit as the core has it."""
        return at_field(field, lambda: to_canonical(parameter, shown, unit_of(parameter, self.keeper.units)))

    def typed(self, parameter: Parameter, text: str, field: str) -> float:
        """A measurement as the keeper typed it as the core has it."""
        unit = unit_of(parameter, self.keeper.units).key
        return at_field(field, lambda: parse_measurement(parameter, text, unit, self.keeper.habits.sign))

    def command(self, key: str, act: Callable[[sqlite3.Connection], Any]) -> Any:
        """Run `act` in one transaction under a key; a repeated key gets the first answer and records nothing, and one
        that was used for something else is refused."""
        asked = self.asked()
        with self.database.write() as connection:
            earlier = command_done(connection, key, asked)
            if earlier is not None:
                return earlier
            remember_placings(connection, key)
            answer = act(connection)
            remember_command(connection, key, answer, self.now, asked)
            return answer


def context(request: Request) -> Context:
    """The context of a request."""
    state = request.app.state
    links = state.links or str(request.base_url).rstrip("/")
    return Context(state.database, state.clock, state.ledgers, lambda: asked_of(request.scope), links)


In = Annotated[Context, Depends(context)]
Key = Annotated[
    str, Header(alias="Idempotency-Key", min_length=8, max_length=80, description="Made by the client, new per command")
]
