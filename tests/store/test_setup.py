"""What surrounds the ledger as it is stored: versions, volumes, livestock, light, shelf, reagents, pictures."""

import sqlite3
from dataclasses import replace
from datetime import date, time, timedelta

from salttide.core.basics.errors import ConflictError, DomainError, NotFoundError
from salttide.core.ledger.bench_row import Instrument
from salttide.core.ledger.entries import Dose, Feed, TopOff
from salttide.core.science.food import Food
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salt_calibration import MeasuredBatch
from salttide.core.system.light import Light, Par
from salttide.core.system.livestock import Animal, Demand, StockChange
from salttide.core.system.shelf import Additive
from salttide.core.system.system import Limits, Panel, SourceWater
from salttide.core.system.volume import Geometry, SaltTest, Shape, Sump
from salttide.household.memo import Memo
from salttide.store import instrument as instrument_store
from salttide.store import ledger as store
from salttide.store import light as light_store
from salttide.store import livestock as livestock_store
from salttide.store import picture as picture_store
from salttide.store import shelf
from salttide.store import system as system_store
from salttide.store.database import Database, migrations
from salttide.store.picture import KeptPicture
from tests.core.cases import BEACON, KITTIWAKE, SKIFF
from tests.store.test_database import AT, StoreTest

DAY = date(2026, 11, 24)


class Systems(StoreTest):
    def stored(self):
        return system_store.system(self.database.connection, self.system_id)

    def edit(self, at=AT, always=False, **changes):
        with self.database.write() as connection:
            system_store.change_system(connection, replace(self.stored(), **changes), at, always)

    def test_every_kind_of_geometry_and_all_else_comes_back(self):
        cases = [
            Geometry(60, 60, 50, 3, 10, Shape.CYLINDER),
            Geometry(96, 40, 45, None, 0, Shape.BOW_FRONT, 14, 3, 22.5),
            Geometry(100, 50, 40, 0, 5, sump=Sump(60, 40, 25), salt_test=SaltTest(330, 34, 35, 0.97)),
        ]
        for geometry in cases:
            with self.subTest(geometry=geometry):
                self.edit(geometry=geometry, clean_panels=(Panel.FRONT, Panel.BACK), source_water=SourceWater.TAP,
                          own_limits=Limits(0.5, 0.2, 0.8),
                          methods=replace(BEACON.methods, answers={"top_off": "plumbed"}))  # fmt: skip
                found = self.stored()
                self.assertEqual((found.geometry, found.source_water, found.own_limits.temperature_c),
                                 (geometry, SourceWater.TAP, 0.8))  # fmt: skip
                self.assertEqual(found.methods.answers, {"top_off": "plumbed"})
                self.assertEqual(found.clean_panels, (Panel.FRONT, Panel.BACK))

    def test_each_edit_is_a_version_and_volumes_follow_each_other(self):
        for days, sump_l in ((10, 68), (5, 78), (3, 78)):
            self.edit(AT - timedelta(days=days), geometry=replace(BEACON.geometry, sump_l=sump_l))
        connection = self.database.connection
        self.assertEqual(len(system_store.versions(connection, self.system_id)), 4)
        volumes = [round(volume) for _, volume in system_store.earlier_volumes(connection)[self.system_id]]
        self.assertEqual(volumes, [334, 344])
        book = Memo(self.database).household(AT).recorded(self.stored())
        for days, litres in ((20, 334), (7, 344), (1, 354)):
            self.assertEqual(round(book.volume_at(AT - timedelta(days=days))), litres)

    def test_a_volume_that_was_wrong_is_corrected_for_its_own_time_only(self):
        self.edit(AT - timedelta(days=10), geometry=replace(BEACON.geometry, sump_l=68))
        self.edit(AT, always=True, geometry=replace(BEACON.geometry, sump_l=70))
        (earlier,) = system_store.earlier_volumes(self.database.connection)[self.system_id]
        self.assertEqual((earlier[0], round(earlier[1])), (AT - timedelta(days=10), 334))

    def test_versions_cannot_be_removed(self):
        with self.assertRaisesRegex(sqlite3.IntegrityError, "is kept"):
            self.database.connection.execute("DELETE FROM system_version")

    def test_archived_ones_are_asked_for_by_name(self):
        with self.database.write() as connection:
            system_store.add_system(connection, SKIFF, AT)
            system_store.archive(connection, self.system_id, AT)
        connection = self.database.connection
        self.assertEqual([one.name for one in system_store.all_systems(connection)], ["Skiff"])
        self.assertEqual(len(system_store.all_systems(connection, archived=True)), 2)
        self.assertTrue(self.stored().archived)
        with self.assertRaises(NotFoundError):
            system_store.archive(connection, 99, AT)

    def test_a_database_from_before_gets_its_volume_from_its_measures(self):
        path = self.path.with_name("old.db")
        old = sqlite3.connect(path)
        for number, script in migrations()[:5]:
            old.executescript(f"BEGIN; {script} PRAGMA user_version = {number}; COMMIT;")
        old.execute(
            "INSERT INTO system (name, stock, stage, panel, length_cm, width_cm, depth_cm, displaced_l, sump_l, sand,"
            " change_fraction, change_every_days, largest_fraction, limit_salinity, limit_alkalinity_meq_l,"
            " limit_temperature_c, bucket_l, started_on) VALUES ('Old', '', 'running', 'glass', 100, 50, 40, 12, 30,"
            " 'bare', 0.1, 7, 0.25, 1, 0.35, 1, 15, '2024-01-01')"
        )
        old.execute("INSERT INTO gear VALUES (1, 'heater')")
        old.commit()
        old.close()
        new = Database(path)
        self.addCleanup(new.close)
        found = system_store.system(new.connection, 1)
        # 100 x 50 x 40 cm are 200 L; 12 displaced, 30 in the sump.
        self.assertAlmostEqual(found.volume_l, 218)
        rows = [tuple(row) for row in new.connection.execute("SELECT since, volume_l FROM system_volume")]
        self.assertEqual(rows, [("", 218.0)])
        self.assertEqual((found.gear, found.clean_panels), (("heater",), (Panel.FRONT,)))


class Kept(StoreTest):
    def test_an_animal_with_its_numbers(self):
        item = Animal(0, "pipefish", Demand.DEMANDING, 6, {Parameter.TEMPERATURE: Span(21, 25.5)},
                      {Parameter.SALINITY: 0.4}, 2)  # fmt: skip
        with self.database.write() as connection:
            number = livestock_store.add_animal(connection, self.system_id, item, DAY, "a")
            found = livestock_store.animal(connection, self.system_id, number)
            self.assertEqual(found, replace(item, id=number))
            livestock_store.turn(connection, found, DAY, StockChange.BORN, 10, "", "b")
            with self.assertRaises(DomainError):
                livestock_store.turn(connection, found, DAY, StockChange.LOST, 7, "", "c")
            found = livestock_store.animal(connection, self.system_id, number)
            livestock_store.turn(connection, found, DAY, StockChange.COUNTED, 15, "", "d")
            found = livestock_store.animal(connection, self.system_id, number)
            livestock_store.turn(connection, found, DAY, StockChange.LOST, 1, "jumped", "e")
        connection = self.database.connection
        self.assertEqual(livestock_store.animals(connection, self.system_id)[0].count, 14)
        self.assertEqual(livestock_store.turns(connection, self.system_id)[0].cause, "jumped")
        with self.database.write() as connection:
            store.void(connection, "d", "undo", AT)
        # Without the count: 6 + 10 - 1.
        self.assertEqual(livestock_store.animals(self.database.connection, self.system_id)[0].count, 15)

    def test_light_and_par(self):
        with self.database.write() as connection:
            for day, off in ((date(2026, 9, 1), time(22)), (date(2026, 11, 1), time(21))):
                light_store.add_light(connection, self.system_id, Light(day, time(12), off, 30, "blue"), f"l{day}")
            light_store.add_par(connection, self.system_id, Par(DAY, " ledge ", 165), "p")
        connection = self.database.connection
        self.assertEqual([one.hours for one in light_store.lights(connection, self.system_id)], [10, 9])
        self.assertEqual(light_store.pars(connection, self.system_id)[0].point, "ledge")

    def test_the_bucket_opened_last_is_in_use_and_its_own_batches_count(self):
        with self.database.write() as connection:
            salt_id = shelf.add_salt(connection, KITTIWAKE)
            shelf.open_bucket(connection, salt_id, date(2026, 8, 1), 20_000, "", "b1")
            shelf.add_batch(connection, salt_id, date(2026, 8, 2), MeasuredBatch(33.0, {}, 3710, 100), "m1")
            shelf.open_bucket(connection, salt_id, date(2026, 11, 1), 25_000, "L2", "b2")
            self.assertEqual([one.lot for one in shelf.buckets(connection, salt_id)], ["L2", ""])
            self.assertEqual(len(shelf.batches(connection, salt_id)), 1)  # nothing better is known yet
            shelf.add_batch(connection, salt_id, date(2026, 11, 2), MeasuredBatch(35.0, {}, 3710, 100), "m2")
            self.assertEqual([one.salinity for one in shelf.batches(connection, salt_id)], [35.0])
            self.assertAlmostEqual(shelf.salt(connection, salt_id).strength_g_l, 37.1)

    def test_additives_and_foods_by_name(self):
        food = Food(0, "mysids", "frozen", 0.12, 0.1, 0.012, 1.2, "2027-01-01")
        additive = Additive(0, "soda", "Na2CO3", 0.99, 100.0, None, "2028-01-01")
        with self.database.write() as connection:
            for item, known in ((food, shelf.foods), (additive, shelf.additives)):
                number = shelf.save_item(connection, item)
                self.assertEqual(known(connection), [replace(item, id=number)])
                with self.assertRaises(ConflictError):
                    shelf.save_item(connection, replace(item, name=item.name.upper()))
                table = shelf.Shelved.FOOD if item is food else shelf.Shelved.ADDITIVE
                shelf.set_archived(connection, table, number, True)
                self.assertEqual(known(connection), [])
                self.assertEqual(shelf.save_item(connection, item), number)  # what was put away comes back
        with self.assertRaises(NotFoundError):
            shelf.set_archived(self.database.connection, shelf.Shelved.SALT, 99, True)

    def test_the_reagent_in_use_says_whether_it_is_past_its_day(self):
        kit = Instrument("kit", Parameter.ALKALINITY, 0.05)
        with self.database.write() as connection:
            instrument_store.add_instrument(connection, kit)
            for opened, until in (("2026-01-01", "2026-06-01"), ("2026-06-02", "2026-11-23")):
                reagent = instrument_store.Reagent(opened, until, "")
                instrument_store.add_reagent(connection, kit, reagent, f"r{opened}")
        connection = self.database.connection
        self.assertEqual(instrument_store.expired(connection, date(2026, 11, 23)), {})
        self.assertEqual(instrument_store.expired(connection, DAY),
                         {("kit", Parameter.ALKALINITY): date(2026, 11, 23)})  # fmt: skip

    def test_top_offs_and_feeds_come_back_and_move_nothing_dissolved(self):
        top_off, feed = TopOff(AT, 2.5), Feed(AT, "mysids", 2, 2.4, {Parameter.NITRATE: 127.5})
        (first, second, _) = self.record(top_off, feed, Dose(AT, "soda", 1.0, {Parameter.ALKALINITY: 18.9}))
        book = self.book()
        self.assertEqual(book.top_offs, (replace(top_off, id=first),))
        self.assertEqual(book.feeds, (replace(feed, id=second),))
        self.assertEqual(book.events(Parameter.NITRATE), [])
        for table in ("top_off", "feed"):
            with self.assertRaisesRegex(sqlite3.IntegrityError, "append-only"):
                self.database.connection.execute(f"DELETE FROM {table}")

    def test_a_picture_belongs_to_an_entry_of_its_own_system(self):
        (entry,) = self.record(TopOff(AT, 1.0))
        item = KeptPicture(0, self.system_id, AT, "ledge", "wider", "0" * 64, 640, 480)
        with self.database.write() as connection:
            number = picture_store.add_picture(connection, item, "p")
            picture_store.attach(connection, number, self.system_id, entry)
            with self.assertRaises(NotFoundError):
                picture_store.attach(connection, number, 99, entry)
        connection = self.database.connection
        self.assertEqual(picture_store.picture(connection, number), replace(item, id=number, entry_id=entry))
        with self.database.write() as connection:
            store.void(connection, "p", "undo", AT)
        self.assertEqual(picture_store.pictures(connection, self.system_id), [])
