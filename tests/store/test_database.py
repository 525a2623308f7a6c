"""The database: append-only ledger, migrations, one transaction or nothing."""

import json
import shutil
import sqlite3
import tempfile
import threading
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from salttide.core.basics.errors import ConflictError, DataError
from salttide.core.ledger.dense import thinned
from salttide.core.ledger.entries import Care, Change, Dose, Reading
from salttide.core.science.parameters import Parameter
from salttide.core.system.catalogue import event_kind, sign
from salttide.core.system.inspection import Event, VisualCheck
from salttide.store import ledger as store
from salttide.store import system as system_store
from salttide.store.database import Database, migrations
from salttide.store.ledger_rows import entries_of
from tests.core.cases import BEACON

LAMP = "new lamp, or the light changed"
AT = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)


class StoreTest(unittest.TestCase):
    def setUp(self):
        folder = Path(tempfile.mkdtemp(prefix="salttide-store-"))
        self.addCleanup(shutil.rmtree, folder)
        self.path = folder / "test.db"
        self.database = Database(self.path)
        self.addCleanup(lambda: self.database.close())
        with self.database.write() as connection:
            self.system_id = system_store.add_system(connection, BEACON, AT)

    def record(self, *events, command="c1", supersedes=None):
        with self.database.write() as connection:
            return store.record(connection, self.system_id, events, command, AT, supersedes)

    def book(self):
        connection = self.database.connection
        return entries_of(connection, system_store.system(connection, self.system_id), None)


class AppendOnly(StoreTest):
    EVENTS = (
        Reading(AT, Parameter.ALKALINITY, 2.9, 0.05, "kit"),
        Change(AT, 40, 40, {Parameter.SALINITY: 35.0}),
        Dose(AT, "soda ash", 5.3, {Parameter.ALKALINITY: 100.0}),
        Care(AT, "siphon", 12),
        VisualCheck(AT, (sign("hair_algae", "much", "rock"), sign("open")), "after the scrape"),
        VisualCheck(AT, ()),
        Event(AT, event_kind("lamp"), "brighter"),
    )

    def test_no_entry_can_be_changed_or_removed(self):
        self.record(*self.EVENTS)
        for table in ("entry", "reading", "change", "dose", "care", "sign", "happening"):
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
        self.assertEqual([look.signs for look in book.looks], [self.EVENTS[4].signs, ()])
        self.assertEqual((book.looks[0].note, book.happenings[0].words), ("after the scrape", f"{LAMP} (brighter)"))

    def test_a_probes_thousands_are_told_by_the_last_of_every_three_hours(self):
        def probe(count: int, first: datetime) -> list[Reading]:
            return [
                Reading(first + timedelta(minutes=10 * i), Parameter.PH, 8 + i / 1e5, 0.03, "probe")
                for i in range(count)
            ]

        few = [Reading(AT, Parameter.CALCIUM, 420, 8, "kit"), Reading(AT, Parameter.CALCIUM, 424, 8, "kit 2")]
        start = datetime(2026, 1, 1, tzinfo=UTC)
        early, late = probe(1000, start), probe(4000, start + timedelta(minutes=10_000))
        self.record(*early, *few)
        self.assertEqual(len(self.book().readings), 1002)
        self.record(*late, command="c2")
        found = self.book()
        # The store thins in SQL as the core does.
        thin = thinned([*early, *late, *few])
        self.assertEqual([(r.at, r.value) for r in found.readings], [(r.at, r.value) for r in thin])
        # 5000 readings of ten minutes are 278 spans of three hours, each told by its last: 18 readings on from 17.
        probed = found.of(Parameter.PH)
        self.assertEqual(len(probed), 278)
        self.assertEqual([round((r.value - 8) * 1e5) for r in probed[:3]], [17, 35, 53])
        self.assertEqual([r.value for r in found.of(Parameter.CALCIUM)], [420, 424])

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

    def test_daily_doses_from_before_stay_given_and_are_by_hand_from_now_on(self):
        path = self.path.with_name("before.db")
        old = sqlite3.connect(path)
        for number, script in migrations()[:23]:
            old.executescript(f"{script} PRAGMA user_version = {number};")
        old.execute("PRAGMA foreign_keys = OFF")
        doses = '[{"additive":"soda","mass_g":2.0,"amounts":{}},{"additive":"limewater","mass_g":0.0,"amounts":{}}]'
        plans = [(1, "2026-01-01", doses, 0), (2, "2026-01-01", doses, 0), (3, "2026-01-01", "[]", 0)]
        put = "INSERT INTO daily_plan (system_id, since, doses, command, void) VALUES (?, ?, ?, 'c', ?)"
        old.executemany(put, plans)
        old.execute("INSERT INTO gear (system_id, kind) VALUES (2, 'dosing_pump')")
        old.execute(migrations()[23][1])
        rows = old.execute("SELECT system_id, since = date('now'), doses FROM daily_plan WHERE id > 3").fetchall()
        self.assertEqual([row[:2] for row in rows], [(1, 1)])
        self.assertEqual([dose["by_hand"] for dose in json.loads(rows[0][2])], [True, False])
        self.assertEqual(old.execute("SELECT count(*) FROM daily_plan").fetchone(), (4,))
        old.close()

    def test_a_database_of_the_second_version_keeps_every_row_through_the_rebuilt_ledger(self):
        path = self.path.with_name("old.db")
        old = sqlite3.connect(path)
        for number, script in migrations()[:2]:
            old.executescript(f"{script} PRAGMA user_version = {number};")
        filled = [
            "INSERT INTO system SELECT 1, 'Old', '', 'running', 'glass', 100, 50, 40, 0, 0, 'bare', 0.1, 7, 0.25, "
            "'', 1, 0.3,"
            " 1, 15, '2025-01-01'",
            "INSERT INTO entry VALUES (1, 1, 'reading', '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z', 'c1', "
            "NULL, 'n')",
            "INSERT INTO reading VALUES (1, 'calcium', 420, 8, 'kit')",
            "INSERT INTO entry VALUES (2, 1, 'reading', '2026-01-01T00:00:00Z', '2026-01-02T00:00:00Z', 'c2', 1, '')",
            "INSERT INTO reading VALUES (2, 'calcium', 410, 8, 'kit')",
            "INSERT INTO entry VALUES (3, 1, 'void', '2026-01-01T00:00:00Z', '2026-01-03T00:00:00Z', 'c3', 2, '')",
        ]
        for sql in filled:
            old.execute(sql)
        old.commit()
        before = old.execute("SELECT * FROM entry ORDER BY id").fetchall()
        old.close()
        new = Database(path)
        self.addCleanup(new.close)
        rows = [tuple(row) for row in new.connection.execute("SELECT * FROM entry ORDER BY id")]
        self.assertEqual(rows, before)
        self.assertEqual(new.connection.execute("PRAGMA foreign_keys").fetchone()[0], 1)
        self.assertTrue(path.with_name(f"old.db.before-{migrations()[-1][0]}").exists())
        for sql in ("DELETE FROM entry", "UPDATE entry SET note = 'x'"):
            with self.assertRaisesRegex(sqlite3.IntegrityError, "append-only"):
                new.connection.execute(sql)
        with self.assertRaises(sqlite3.IntegrityError):
            new.connection.execute("INSERT INTO entry VALUES (9, 1, 'request', '', '', 'c', NULL, '')")

    def test_names_as_the_field_has_them_keep_what_was_stored_under_the_old_ones(self):
        path = self.path.with_name("old.db")
        old = sqlite3.connect(path)
        for number, script in migrations()[:18]:
            old.executescript(f"{script} PRAGMA user_version = {number};")
        answers = json.dumps({"schools": json.dumps({"top_off": "by_hand"}), "name": "Old"})
        for sql, values in (
            ("INSERT INTO system (id, name, stock, stage, panel, length_cm, width_cm, depth_cm, displaced_l, sump_l, "
             "sand, change_fraction, change_every_days, largest_fraction, method_note, limit_salinity, "
             "limit_alkalinity_meq_l, limit_temperature_c, bucket_l, started_on, schools) VALUES (1, 'Old', '', "
             "'running', 'glass', 100, 50, 40, 0, 0, 'bare', 0.1, 7, 0.25, '', 1, 0.3, 1, 15, '2025-01-01', ?)",
             ('{"top_off": "by_hand"}',)),
            ("INSERT INTO system_version (system_id, at, setup) VALUES (1, '2026-01-01T00:00:00Z', ?)", (answers,)),
            ("INSERT INTO system_version (system_id, at, setup) VALUES (1, '2026-01-02T00:00:00Z', '{}')", ()),
            ("INSERT INTO setup_before VALUES ('c1', 1, 1, ?, NULL)", (answers,)),
            ("INSERT INTO dosing_wish (system_id, wish, command) VALUES (1, '{\"lime_l\": 2}', 'c2')", ()),
            ("INSERT INTO stepped (system_id, at, kind, amount, command) VALUES (1, '2026-01-01T00:00:00Z', 'media', "
             "9, 'c3')", ()),
        ):  # fmt: skip
            old.execute(sql, values)
        old.execute("DROP INDEX entry_latest")  # the first of that version had none
        old.commit()
        old.close()
        new = Database(path)
        self.addCleanup(new.close)
        self.assertEqual(store.stamps(new.connection), {1: (None, 0, 0)})

        def one(sql: str) -> object:
            return new.connection.execute(sql).fetchone()[0]

        self.assertEqual(json.loads(one("SELECT methods FROM system")), {"top_off": "by_hand"})
        for table in ("system_version", "setup_before"):
            setup = json.loads(one(f"SELECT setup FROM {table} LIMIT 1"))
            self.assertEqual(setup, {"methods": json.dumps({"top_off": "by_hand"}), "name": "Old"})
        self.assertEqual(one("SELECT setup FROM system_version WHERE at > '2026-01-01T12'"), "{}")
        self.assertEqual(json.loads(one("SELECT routine FROM dosing_routine")), {"lime_l": 2})
        self.assertEqual(one("SELECT amount FROM ramp"), 9)

    def test_a_dosing_routine_typed_in_the_keepers_unit_becomes_canonical(self):
        # 0.5 dKH is 0.5 / 2.80385 = 0.178326 meq/L, 8.9241 mg/L CaCO3; an effluent of 10 meq/L is 28.0385 dKH.
        for unit, used, effluent in (
            ("dKH", 0.5, 28.0385),
            ("meq/L", 0.178326, 10.0),
            ("mg/L CaCO3", 8.9241, 500.435),
        ):
            with self.subTest(unit=unit):
                typed = {"uptake": used, "effluent": effluent, "lime_l": 2}
                estimated = {"uptake": None, "effluent": None}
                found = self.migrated(unit, typed, estimated, {"ppm": 700})
                self.assertAlmostEqual(found[0]["uptake_meq_l"], 0.178326, 5)
                self.assertAlmostEqual(found[0]["effluent_meq_l"], 10.0, 5)
                self.assertEqual({*found[0]}, {"uptake_meq_l", "effluent_meq_l", "lime_l"})
                self.assertEqual(found[1:], [{"uptake_meq_l": None, "effluent_meq_l": None}, {"ppm": 700}])

    def migrated(self, unit: str, *routines: dict[str, object]) -> list[dict[str, object]]:
        """Dosing routines of version 19, of a keeper with that unit of alkalinity, as they are now."""
        path = self.path.with_name(f"routine-{unit[:2]}.db")
        old = sqlite3.connect(path)
        for number, script in migrations()[:19]:
            old.executescript(f"{script} PRAGMA user_version = {number};")
        units = json.dumps({"alkalinity": unit})
        old.execute("INSERT INTO keeper (id, zone, units) VALUES (1, 'Europe/Copenhagen', ?)", (units,))
        old.execute(
            "INSERT INTO system (id, name, stock, stage, panel, length_cm, width_cm, depth_cm, displaced_l, sump_l,"
            " sand, change_fraction, change_every_days, largest_fraction, method_note, limit_salinity,"
            " limit_alkalinity_meq_l, limit_temperature_c, bucket_l, started_on) VALUES (1, 'Old', '', 'running',"
            " 'glass', 100, 50, 40, 0, 0, 'bare', 0.1, 7, 0.25, '', 1, 0.3, 1, 15, '2025-01-01')"
        )
        old.executemany(
            "INSERT INTO dosing_routine (system_id, routine, command) VALUES (1, ?, 'c')",
            [(json.dumps(routine),) for routine in routines],
        )
        old.commit()
        old.close()
        new = Database(path)
        self.addCleanup(new.close)
        return [json.loads(row[0]) for row in new.connection.execute("SELECT routine FROM dosing_routine ORDER BY id")]

    def test_one_that_would_orphan_rows_changes_nothing(self):
        last = migrations()[-1][0]
        bad = [*migrations(), (last + 1, "DROP TRIGGER entry_is_kept; DELETE FROM entry;")]
        self.record(AppendOnly.EVENTS[0])
        with (
            mock.patch("salttide.store.database.migrations", return_value=bad),
            self.assertRaisesRegex(DataError, "belong"),
        ):
            Database(self.path)
        again = sqlite3.connect(self.path)
        self.assertEqual(again.execute("SELECT count(*) FROM entry").fetchone()[0], 1)
        self.assertEqual(again.execute("PRAGMA user_version").fetchone()[0], last)
        again.close()


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
