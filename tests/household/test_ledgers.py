"""A system's ledger as it is read: the keeper's days, other systems' water, and when it is read again."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any
from unittest import mock
from zoneinfo import ZoneInfo

from salttide.core.ledger.daily import by_day, with_planned
from salttide.core.ledger.entries import Care, Change, Dose, Entry, Ledger, Reading
from salttide.core.ledger.plan import DailyDose, DailyPlan
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System
from salttide.household import ledgers
from salttide.household.memo import Memo
from salttide.store import ledger as ledger_store
from salttide.store import system as system_store
from salttide.store.database import Database
from tests.core.cases import BEACON, NOW, SKIFF, change, ledger, reading
from tests.stage import demo_database
from tests.store.test_database import AT, StoreTest

COPENHAGEN = ZoneInfo("Europe/Copenhagen")


def soda(at: datetime, amount: float = 5.0, routine: bool = True) -> Dose:
    return Dose(at, "soda", 1.0, {Parameter.ALKALINITY: amount}, routine)


class HouseholdTest(StoreTest):
    def setUp(self) -> None:
        super().setUp()
        self.memo = Memo(self.database)

    def recorded(self, system_id: int) -> Ledger:
        household = self.memo.household(AT)
        return household.recorded(household.stored.system(system_id))

    def add(self, system: System, name: str, at: datetime, *entries: Entry) -> tuple[int, list[int]]:
        with self.database.write() as connection:
            system_id = system_store.add_system(connection, replace(system, name=name), at)
            return system_id, ledger_store.record(connection, system_id, entries, f"key-{name}", at)


class Days(HouseholdTest):
    def test_daily_doses_of_one_day_are_one(self) -> None:
        at = datetime(2026, 11, 1, 6, tzinfo=UTC)
        system_id, _ = self.add(BEACON, "Own", at, *[soda(at + timedelta(hours=h)) for h in range(0, 48, 4)])
        # A new database's keeper lives by UTC: from 06:00 on the first day five times, then six times, then once.
        self.assertEqual([dose.amounts[Parameter.ALKALINITY] for dose in self.recorded(system_id).doses], [25, 30, 5])

    def test_a_day_is_the_keepers(self) -> None:
        # 00:30 of 25 November in Copenhagen is 23:30 of the 24th by UTC: it belongs with the dose of that noon.
        late = datetime(2026, 11, 24, 23, 30, tzinfo=UTC)
        noon = datetime(2026, 11, 25, 11, tzinfo=UTC)
        book = Ledger(100.0, doses=(soda(late, 2.0), soda(noon, 3.0)))
        self.assertEqual([dose.amounts[Parameter.ALKALINITY] for dose in by_day(book, UTC).doses], [2.0, 3.0])
        self.assertEqual([dose.amounts[Parameter.ALKALINITY] for dose in by_day(book, COPENHAGEN).doses], [5.0])

    def test_what_was_given_after_midnight_stands_for_the_plan_of_the_day_that_has_begun(self) -> None:
        plan = DailyPlan(date(2026, 11, 24), (DailyDose("soda", 1.0, {Parameter.ALKALINITY: 4.0}),))
        given = soda(datetime(2026, 11, 25, 0, 30, tzinfo=COPENHAGEN), 4.0)
        now = datetime(2026, 11, 26, 9, tzinfo=COPENHAGEN)
        found = with_planned(Ledger(100.0, doses=(given,)), [plan], now, COPENHAGEN)
        # Of the 24th nothing is known, so the plan stands; the 25th was given by hand; the 26th is not noon yet.
        self.assertEqual([dose.at.astimezone(COPENHAGEN).date().day for dose in found.doses], [24, 25])
        self.assertEqual(found.doses[1], given)

    def test_single_doses_stand_alone(self) -> None:
        at = datetime(2026, 11, 1, 6, tzinfo=UTC)
        book = Ledger(100.0, doses=(soda(at, routine=False), soda(at + timedelta(hours=1), routine=False)))
        self.assertEqual(len(by_day(book, UTC).doses), 2)


class Linked(HouseholdTest):
    def test_water_of_another_system_follows_that_systems_corrected_readings(self) -> None:
        at = datetime(2026, 11, 1, 12, tzinfo=UTC)
        old = Reading(at, Parameter.NITRATE, 12.0, 1.0, "kit")
        first, (entry,) = self.add(BEACON, "Own", at, old)
        change = Change(at + timedelta(days=1), 14.0, 14.0, {}, source=first)
        second, _ = self.add(SKIFF, "Other", at, change)
        self.assertEqual(self.recorded(second).changes[0].incoming, {Parameter.NITRATE: 12.0})
        recent = self.recent(second)
        self.assertEqual(recent.changes[0].incoming, {Parameter.NITRATE: 12.0})
        with self.database.write() as connection:
            ledger_store.correct(connection, entry, replace(old, value=8.0), "key-corrected", at)
        self.assertEqual(self.recorded(second).changes[0].incoming, {Parameter.NITRATE: 8.0})
        self.assertEqual(self.recent(second).changes[0].incoming, {Parameter.NITRATE: 8.0})

    def recent(self, system_id: int) -> Ledger:
        household = self.memo.household(AT)
        return household.ledger(household.stored.system(system_id))


class Since(unittest.TestCase):
    def test_what_is_taken_from_the_kept_ledger_is_what_would_be_read(self) -> None:
        database = Database(demo_database())
        self.addCleanup(database.close)
        household = Memo(database).household(NOW)
        for system in household.stored.systems:
            for days in (0, 5, 36, 89, 200):
                with self.subTest(system=system.name, days=days):
                    moment = NOW - timedelta(days=days)
                    read = ledgers.recorded(household.stored, system, moment)
                    found = household.recorded(system, moment)
                    self.assertEqual(replace(found, care=()), replace(read, care=()))
                    self.assertEqual([each for each in found.care if each.at >= moment],
                                     [each for each in read.care if each.at >= moment])  # fmt: skip

    def test_where_not_every_reading_is_kept_they_are_read(self) -> None:
        database = Database(demo_database())
        self.addCleanup(database.close)
        household = Memo(database).household(NOW)
        system = household.stored.systems[0]
        household.ledger(system)
        with (
            mock.patch("salttide.household.ledgers.is_dense", return_value=True),
            mock.patch("salttide.household.ledgers.recorded", return_value="read") as read,
        ):
            self.assertEqual(household.recorded(system, NOW - timedelta(days=5)), "read")
        read.assert_called_once()

    def test_nothing_of_before_the_moment_stays(self) -> None:
        book = ledger(
            reading(Parameter.CALCIUM, 400, 3), reading(Parameter.CALCIUM, 410, 1), change(3, 10), change(1, 10)
        )
        found = book.since(NOW - timedelta(days=1))
        self.assertEqual(([r.value for r in found.readings], len(found.changes)), ([410], 1))
        self.assertEqual(len(book.since(NOW - timedelta(hours=23)).readings), 0)
        self.assertEqual(found.volume_l, book.volume_l)


class Kept(HouseholdTest):
    def recent(self, **edited: Any) -> Ledger:
        household = self.memo.household(AT)
        system = household.stored.system(self.system_id)
        return household.ledger(replace(system, **edited) if edited else system)

    def test_a_ledger_is_read_again_when_an_entry_or_the_volume_is_new(self) -> None:
        first = self.recent()
        self.assertIs(self.recent(), first)
        self.record(Care(AT, "siphon", 12))
        second = self.recent()
        self.assertEqual(len(second.care), 1)
        bigger = self.recent(geometry=replace(BEACON.geometry, sump_l=BEACON.geometry.sump_l + 10))
        self.assertAlmostEqual(bigger.volume_l, first.volume_l + 10)

    def test_another_systems_entry_leaves_it_as_it_is(self) -> None:
        first = self.recent()
        self.add(SKIFF, "Other", AT, Care(AT, "siphon", 12))
        self.assertIs(self.recent(), first)

    def test_what_is_stored_is_read_once_until_something_is_written(self) -> None:
        first = self.memo.household(AT).stored
        self.assertIs(self.memo.household(AT).stored, first)
        self.record(Care(AT, "siphon", 12))
        second = self.memo.household(AT).stored
        self.assertIsNot(second, first)
        self.database.connection.execute("UPDATE system SET name = 'Renamed' WHERE id = ?", (self.system_id,))
        self.assertEqual(self.memo.household(AT).stored.system(self.system_id).name, "Renamed")
