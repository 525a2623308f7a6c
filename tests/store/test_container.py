"""Containers in the database: kept with their events, taken back, out of use; what they gave stands in the ledger."""

from __future__ import annotations

import shutil
import sqlite3
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.estimate.dose_times import Slot
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind
from salttide.core.science.parameters import Parameter
from salttide.core.system.shelf import Additive
from salttide.demo.systems import SKIFF
from salttide.household.memo import Memo
from salttide.store import container as store
from salttide.store import ledger as ledger_store
from salttide.store import system as system_store
from salttide.store.database import Database

NOW = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)
SODA = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)


class Containers(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-store-"))
        self.addCleanup(shutil.rmtree, folder)
        self.database = Database(folder / "test.db")
        self.addCleanup(self.database.close)
        with self.database.write() as connection:
            self.system_id = system_store.add_system(connection, SKIFF, NOW - timedelta(days=90))

    @property
    def connection(self) -> sqlite3.Connection:
        return self.database.connection

    def add(self, name: str = "soda stock") -> int:
        events = [
            ContainerEvent(NOW - timedelta(days=10), ContainerKind.FILLED, 1000.0, note="soda stock"),
            ContainerEvent(NOW - timedelta(days=10), ContainerKind.SET, 20.0, slots=(Slot(60, 8.0), Slot(600, 12.0))),
        ]
        with self.database.write() as connection:
            item = Container(0, name, SODA, 1000.0, 3.0, "head 1", "two-part", 0.1, 0.5)
            number = store.add_container(connection, self.system_id, item, "key-add")
            store.add_container_events(connection, number, events, "key-events")
        return number

    def doses(self) -> list[float]:
        household = Memo(self.database).household(NOW)
        book = household.history(household.stored.system(self.system_id), NOW - timedelta(days=90))
        return [dose.mass_g for dose in book.doses if Parameter.ALKALINITY in dose.amounts]

    def test_what_is_kept_comes_back_as_it_was(self) -> None:
        number = self.add()
        found = store.container(self.connection, self.system_id, number)
        self.assertEqual(
            (found.name, found.additive, found.pump, found.set_name), ("soda stock", SODA, "head 1", "two-part")
        )
        self.assertEqual([event.kind for event in found.events], [ContainerKind.FILLED, ContainerKind.SET])
        self.assertEqual(found.events[1].slots, (Slot(60, 8.0), Slot(600, 12.0)))
        with self.assertRaises(NotFoundError):
            store.container(self.connection, self.system_id, 99)
        with self.assertRaises(ConflictError):
            self.add("SODA stock")

    def test_what_a_pump_gave_is_in_the_ledger_until_it_is_taken_back(self) -> None:
        self.add()
        # Ten days of 20 mL of 100 g/L, the first only from the evening on.
        self.assertEqual(len(self.doses()), 11)
        self.assertAlmostEqual(self.doses()[3], 2.0)
        with self.database.write() as connection:
            ledger_store.void(connection, "key-events", "key-void", NOW)
        self.assertEqual(self.doses(), [])

    def test_out_of_use_it_gives_no_more_and_what_it_gave_stays(self) -> None:
        number = self.add()
        with self.database.write() as connection:
            store.archive_container(connection, number, NOW - timedelta(days=4), "key-away")
        self.assertEqual(store.containers(self.connection, self.system_id), [])
        # The noons from the 14th, when it was set, to the 20th, when it went.
        self.assertEqual(len(self.doses()), 7)
        with self.database.write() as connection:
            self.assertEqual(ledger_store.void(connection, "key-away", "key-back", NOW), 1)
        self.assertEqual(len(self.doses()), 11)

    def test_the_latest_wish_that_is_not_void_counts(self) -> None:
        self.assertEqual(store.dosing_routine(self.connection, self.system_id), {})
        for key, litres in (("key-one", 1.0), ("key-two", 2.0)):
            with self.database.write() as connection:
                store.save_dosing_routine(connection, self.system_id, {"lime_l": litres}, key)
        self.assertEqual(store.dosing_routine(self.connection, self.system_id), {"lime_l": 2.0})
        with self.database.write() as connection:
            ledger_store.void(connection, "key-two", "key-void", NOW)
        self.assertEqual(store.dosing_routine(self.connection, self.system_id), {"lime_l": 1.0})

    def test_impossible_rows_are_refused_by_the_database(self) -> None:
        number = self.add()
        for sql, values in (
            ("UPDATE container SET capacity_ml = ?", (-1,)),
            ("UPDATE container_event SET kind = ?", ("drunk",)),
            (
                "INSERT INTO container_event (container_id, at, kind, ml, command) VALUES (?, 'x', 'level', 1, 'k')",
                (99,),
            ),
            ("UPDATE container_event SET ml = ? WHERE container_id = ?", (-3, number)),
        ):
            with self.subTest(sql=sql), self.assertRaises(sqlite3.IntegrityError):
                self.connection.execute(sql, values)
