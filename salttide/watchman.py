"""The watchman: while the program runs, it asks controllers, looks at every alarm, and delivers what has to be told."""

from __future__ import annotations

import threading
from dataclasses import replace
from datetime import datetime, timedelta

from salttide.clock import Clock
from salttide.core.alarm.letter import letter_of
from salttide.core.alarm.report import heard_of
from salttide.core.alarm.telling import AlarmSetup, Contact, next_try
from salttide.core.basics.errors import DataError, SaltTideError
from salttide.core.basics.locale import write_as
from salttide.core.basics.phrases import phrase
from salttide.delivery import PATIENCE_S, ask, deliver
from salttide.faults import fault_number
from salttide.household.alarm import look, take_in
from salttide.household.memo import Memo
from salttide.store import alarm as alarm_store
from salttide.store.alarm import Controller, Waiting

ROUND_S = 15.0
ASK_EVERY = timedelta(seconds=60)
DEEP_EVERY = timedelta(minutes=5)


class Watchman:
    """One round after another. password: of the mail server · links: what addresses in messages begin with."""

    def __init__(self, memo: Memo, clock: Clock, password: str = "", links: str = "") -> None:
        self.memo, self.clock, self.password, self.links = memo, clock, password, links
        self._deep: datetime | None = None
        self._ended = threading.Event()
        self._thread: threading.Thread | None = None

    def begin(self) -> None:
        """Go round in a thread of its own."""
        self._thread = threading.Thread(target=self._rounds, name="watchman", daemon=True)
        self._thread.start()

    def end(self) -> None:
        """End after the round that is under way."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(timeout=2 * PATIENCE_S)

    def _rounds(self) -> None:
        while not self._ended.wait(ROUND_S):
            try:
                self.round()
            except Exception as error:
                # One bad round must not be the last: the next one is told of by its number in the log.
                fault_number(error, "the watchman's round")

    def round(self) -> None:
        """Ask controllers, look at the alarms, deliver."""
        if self.memo.database.damaged:
            return
        write_as(self.memo.household(self.clock.now()).keeper.writing)
        used = {system.id for system in self.memo.household(self.clock.now()).stored.systems}
        for one in alarm_store.controllers(self.memo.database.connection):
            if one.url and one.system_id in used and self._is_due(one) and not self._ended.is_set():
                self.ask_one(one)
        self._look()
        self._deliver()

    def _is_due(self, one: Controller) -> bool:
        return one.asked is None or self.clock.now() - one.asked >= ASK_EVERY

    def ask_one(self, one: Controller) -> str:
        """Ask a controller, and take in what it says. Returns why it did not work, empty where it did."""
        now, fault = self.clock.now(), ""
        report: object = {}
        try:
            report = ask(one.url)
        except DataError as error:
            fault = error.message
        heard, wrong = heard_of(report, now)
        if wrong:
            fault = f"{wrong[0].field} {wrong[0].message}".strip()
        with self.memo.database.write() as connection:
            if alarm_store.controller(connection, one.system_id).url != one.url:
                return fault
            if heard:
                take_in(self.memo.anew(now), connection, one.system_id, heard)
            asked = replace(one, asked=now, heard=now if heard else one.heard, fault=fault)
            alarm_store.save_controller(connection, asked)
        return fault

    def _look(self) -> None:
        now = self.clock.now()
        deep = self._deep is None or now - self._deep >= DEEP_EVERY
        with self.memo.database.write() as connection:
            look(self.memo.anew(now), connection, deep)
        self._deep = now if deep else self._deep

    def _deliver(self) -> None:
        connection, now = self.memo.database.connection, self.clock.now()
        setup = alarm_store.setup(connection)
        for one in alarm_store.waiting(connection, now):
            if self._ended.is_set():
                return
            contact = _contact(one, setup)
            fault = self._send(one, contact, setup) if contact else phrase("alarm.no_longer_told")
            again = next_try(one.tries + 1, one.message.due, now) if fault and contact else None
            with self.memo.database.write() as writing:
                alarm_store.tried(writing, one, now, fault, again)

    def _send(self, one: Waiting, contact: Contact, setup: AlarmSetup) -> str:
        """Deliver one message. Returns why it did not arrive."""
        alarm = alarm_store.alarm(self.memo.database.connection, one.alarm_id)
        if alarm is None:
            return phrase("alarm.no_longer_told")
        household = self.memo.household(self.clock.now())
        system, keeper = household.stored.system(alarm.system_id), household.keeper
        letter = letter_of(alarm, one.message, system.name, link_to(self.links), keeper.units, keeper.zone)
        try:
            deliver(letter, one.message.channel, contact, setup, self.password)
        except SaltTideError as error:
            return error.message
        return ""


def _contact(one: Waiting, setup: AlarmSetup) -> Contact | None:
    """Who a message is for; None where nobody of that name is told this way any more."""
    named = (each for each in setup.contacts if each.name == one.message.contact)
    return next((each for each in named if one.message.channel in each.channels), None)


def link_to(links: str) -> str:
    """Where alarms are looked at."""
    return f"{links}/alarms" if links else ""
