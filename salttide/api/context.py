"""What every router needs: the household at the moment of the request, the database, the clock, and commands."""

import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, datetime, timedelta
from functools import cached_property
from typing import Annotated, Any

from fastapi import Depends, Header, Request
from starlette.types import Scope

from salttide.clock import Clock
from salttide.core.basics.errors import at_field
from salttide.core.jot.recording import OLDEST
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import field_number, parse_measurement, to_canonical, unit_of
from salttide.guard import asked_of
from salttide.household import acts
from salttide.household.household import Household
from salttide.household.memo import Memo
from salttide.household.stored import Stored
from salttide.store.database import Database, command_done, remember_command
from salttide.store.rota import remember_placings
from salttide.store.shelf import Keeper

from .models import Recorded


class Context:
    """What one request works with."""

    def __init__(
        self, memo: Memo, clock: Clock, scope: Scope | None = None, links: str = "", mail_password: str = ""
    ) -> None:
        self.memo, self.clock, self.links, self.mail_password = memo, clock, links, mail_password
        self.scope = {} if scope is None else scope

    @cached_property
    def household(self) -> Household:
        """Every system as it is at the moment of this request."""
        return self.memo.household(self.now)

    @property
    def stored(self) -> Stored:
        """What is stored of the household."""
        return self.household.stored

    @property
    def database(self) -> Database:
        """The database."""
        return self.memo.database

    @cached_property
    def connection(self) -> sqlite3.Connection:
        """For reading, on the thread that asks first."""
        return self.database.connection

    @cached_property
    def now(self) -> datetime:
        """The moment of this request."""
        return self.clock.now()

    @property
    def today(self) -> date:
        """The keeper's date."""
        return self.household.day_of(self.now)

    @property
    def keeper(self) -> Keeper:
        """The keeper's settings."""
        return self.household.keeper

    @cached_property
    def ticks(self) -> datetime:
        """The moment of this request by the clock of timers: an answer that uses it is never cached."""
        self.of_this_moment()
        return self.clock.ticks()

    def of_this_moment(self) -> None:
        """Marks this answer as depending on more than what is stored: it is not cached."""
        self.scope["salttide.moving"] = True

    def canonical(self, parameter: Parameter, shown: float, field: str) -> float:
        """A number in the keeper's unit, made canonical."""
        return at_field(field, lambda: to_canonical(parameter, shown, unit_of(parameter, self.keeper.units)))

    def when(self, text: str, oldest: timedelta = OLDEST) -> datetime:
        """The moment that something was done, as typed in plain words; empty: now."""
        return acts.when_done(self.household, text, "when", oldest)

    def typed(self, parameter: Parameter, text: str, field: str) -> float:
        """A measurement as typed, made canonical."""
        unit = unit_of(parameter, self.keeper.units).key
        return at_field(field, lambda: parse_measurement(parameter, text, unit, self.keeper.habits.sign))

    def shown(self, parameter: Parameter, value: float, finer: bool = False) -> float:
        """A canonical value as a number for an input field, in the keeper's unit; finer: one more digit than a result
        has."""
        return field_number(parameter, value, self.keeper.units, finer)

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """A transaction for writing. Inside and after it, the household is as it then stands."""
        try:
            with self.database.write() as connection:
                self.__dict__["household"] = self.memo.anew(self.now)
                yield connection
        finally:
            self.__dict__.pop("household", None)

    def command(self, key: str, act: Callable[[sqlite3.Connection], Any]) -> Any:
        """Run `act` in one transaction under a key. A repeated key gets the first answer and records nothing; a key
        used for something else is refused."""
        asked = asked_of(self.scope)
        with self.write() as connection:
            earlier = command_done(connection, key, asked)
            if earlier is not None:
                return earlier
            self.memo.settle(connection, self.now)
            remember_placings(connection, key)
            answer = act(connection)
            remember_command(connection, key, answer, self.now, asked)
            return answer

    def record(self, key: str, act: Callable[[sqlite3.Connection], str]) -> Recorded:
        """Run a command that says in words what it recorded."""
        return Recorded(**self.command(key, lambda connection: {"command": key, "words": act(connection)}))

    def record_as(self, key: str, words: str, act: Callable[[sqlite3.Connection], object]) -> Recorded:
        """Run a command whose words are known beforehand."""

        def run(connection: sqlite3.Connection) -> str:
            act(connection)
            return words

        return self.record(key, run)


def context(request: Request) -> Context:
    """The context of a request."""
    state = request.app.state
    links = state.links or str(request.base_url).rstrip("/")
    return Context(state.memo, state.clock, request.scope, links, state.mail_password)


In = Annotated[Context, Depends(context)]
Key = Annotated[
    str, Header(alias="Idempotency-Key", min_length=8, max_length=80, description="Made by the client, new per command")
]
