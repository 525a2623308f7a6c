"""The database: append-only ledger, migrations, one transaction or nothing."""

import shutil
import sqlite3
import tempfile
import threading
import unittest
from datetime import UTC, datetime
from pathlib import Path

from salttide.core.errors import ConflictError, DataError
from salttide.core.ledger import Care, Change, Dose, Reading
from salttide.core.parameters import Parameter
from salttide.store import ledger as store
from salttide.store import system as system_store
from salttide.store.database import Database, migrations
from tests.core.cases import BEACON

AT = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)


class StoreTest(unittest.TestCase):
    def setUp(self):
        folder = Path(tempfile.mkdtemp(prefix="salttide-store-"))
        self.addCleanup(shutil.rmtree, folder)
        self.path = folder / "test.db"
        self.database = Database(self.path)
        self.addCleanup(lambda: self.database.close())
        with self.database.write() as connection:
            self.system_id = system_store.add_system(connection, BEACON)

    def record(self, *events, command="c1", supersedes=None):
        with self.database.write() as connection:
            return store.record(connection, self.system_id, events, command, AT, supersedes)

    def book(self):
        connection = self.database.connection
        return store.ledger(connection, system_store.system(connection, self.system_id))


class AppendOnly(StoreTest):
    EVENTS = (
        Reading(AT, Parameter.ALKALINITY, 2.9, 0.05, "kit"),
        Change(AT, 40, 40, {Parameter.SALINITY: 35.0}),
        Dose(AT, "soda ash", 5.3, {Parameter.ALKALINITY: 100.0}),
        Care(AT, "siphon", 12),
    )

    def test_no_entry_can_be_changed_or_removed(self):
        self.record(*self.EVENTS)
        for table in ("entry", "reading", "change", "dose", "care"):
            key = "id" if table == "entry" else "entry_id"
            for sql in (f"DELETE FROM {table}", f"UPDATE {table} SET {key} = {key} + 100"):
                with self.subTest(sql=sql), self.assertRaisesRegex(sqlite3.IntegrityError, "append-only"):
                    self.database.connection.execute(sql)

    def test_what_goes_in_comes_out(self):
        self.record(*self.EVENTS)
        book = self.book()
        self.assertEqual(book.readings[0].value, 2.9)
        self.assertEqual(book.changes[0].incoming, {Parameter.SALINITY: 35.0})
        self.assertEqual(book.doses[0].amounts, {Parameter.ALKALINITY: 100.0})
        self.assertEqual(book.care[0].task, "siphon")

    def test_a_correction_supersedes_once(self):
        (first, *_) = self.record(self.EVENTS[0])
        better = Reading(AT, Parameter.ALKALINITY, 2.7, 0.05, "kit")
        with self.database.write() as connection:
            store.correct(connection, first, better, "c2", AT)
        self.assertEqual([reading.value for reading in self.book().readings], [2.7])
        with self.assertRaises(ConflictError), self.database.write() as connection:
            store.correct(connection, first, better, "c3", AT)

    def test_a_skip_without_a_reason_is_refused_by_the_database_itself(self):
        with self.assertRaises(sqlite3.IntegrityError):
            self.record(Care(AT, "siphon", 0, skipped=True))


class Transactions(StoreTest):
    def test_all_or_nothing(self):
        def fail() -> None:
            with self.database.write() as connection:
                store.record(connection, self.system_id, AppendOnly.EVENTS, "c1", AT)
                raise RuntimeError("half-way")

        self.assertRaises(RuntimeError, fail)
        self.assertEqual(self.book().readings, ())
        self.record(AppendOnly.EVENTS[0])
        self.assertEqual(len(self.book().readings), 1)

    def test_references_are_real(self):
        with self.assertRaises(sqlite3.IntegrityError), self.database.write() as connection:
            store.record(connection, 999, AppendOnly.EVENTS, "c1", AT)


class Migrations(StoreTest):
    def test_they_are_numbered_without_gaps_and_recorded(self):
        numbers = [number for number, _ in migrations()]
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
        self.assertEqual(self.database.connection.execute("PRAGMA user_version").fetchone()[0], numbers[-1])

    def test_a_newer_database_is_refused_untouched(self):
        self.database.connection.execute("PRAGMA user_version = 999")
        self.database.close()
        before = self.path.read_bytes()
        with self.assertRaisesRegex(DataError, "newer than this program"):
            Database(self.path)
        self.assertEqual(self.path.read_bytes(), before)


class Together(StoreTest):
    """Several threads, each with its own connection, on one file."""

    def test_two_writers_wait_for_each_other_and_both_are_kept(self):
        faults = []

        def write(number: int) -> None:
            try:
                for turn in range(15):
                    self.record(Care(AT, "siphon", turn), command=f"writer-{number}-{turn}")
            except sqlite3.Error as error:
                faults.append(error)

        threads = [threading.Thread(target=write, args=(number,)) for number in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(faults, [])
        self.assertEqual(len(self.book().care), 60)

    def test_a_reader_sees_only_what_is_committed(self):
        seen = []
        with self.database.write() as connection:
            store.record(connection, self.system_id, [Care(AT, "siphon", 1)], "c1", AT)
            reader = threading.Thread(target=lambda: seen.append(len(self.book().care)))
            reader.start()
            reader.join()
        self.assertEqual(seen, [0])
        self.assertEqual(len(self.book().care), 1)

    def test_every_commit_reaches_the_disk_before_it_is_confirmed(self):
        pragmas = {name: self.database.connection.execute(f"PRAGMA {name}").fetchone()[0]
                   for name in ("journal_mode", "synchronous", "foreign_keys")}  # fmt: skip
        self.assertEqual(pragmas, {"journal_mode": "wal", "synchronous": 2, "foreign_keys": 1})
