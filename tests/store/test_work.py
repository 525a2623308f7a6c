"""Frozen work, batches, runs on anything and what is packed, as they are kept; and databases from before them."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

from salttide.core.basics.errors import ConflictError, DataError, NotFoundError
from salttide.core.planning.batch import BatchEvent, BatchKind, Phase
from salttide.core.planning.batch_plan import Portion, plan_batch
from salttide.core.planning.work_order import DoseWorkOrder, PlannedWork, VisualCheckOrder, Water
from salttide.core.runbook.file import runbook
from salttide.core.runbook.outage import tank_job
from salttide.core.science.parameters import Parameter
from salttide.core.system.plumbing import Plumbing
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import installation as installation_store
from salttide.store import ledger as ledger_store
from salttide.store import runbook as run_store
from salttide.store import shelf
from salttide.store import system as system_store
from salttide.store.database import Database, migrations
from salttide.store.work import work_of, work_text
from tests.core.cases import BEACON, KITTIWAKE
from tests.core.test_runbook import job
from tests.store.test_database import AT, StoreTest

S, A = Parameter.SALINITY, Parameter.ALKALINITY
DAY = date(2026, 11, 24)
GOLDEN = Path(__file__).parent / "golden"
"""One of each shape in which frozen work was ever written; what is written from now on adds its own."""


class Frozen(StoreTest):
    def test_every_kind_of_work_comes_back_as_it_was(self):
        batch = plan_batch(KITTIWAKE, 45.0, 60.0, 35.0, {A: 3.2})[0]
        for work in (
            job(), job(salt=None, water=Water.STORED, batch_id=3, zones=(("left", 20.0), ("right", 20.0))),
            DoseWorkOrder("soda ash", 4.0, {A: 75.0}), VisualCheckOrder("2026-11-24T18:40:00+00:00", "an hour after"),
            batch, replace(batch, batch_id=7, name="Batch 7", heater_w=200.0),
            tank_job(BEACON, runbook("rock_scrub"), {S: 35.0}, {A: "meq/L"}),
        ):  # fmt: skip
            with self.subTest(work=type(work).__name__):
                self.assertEqual(work_of(work_text(work)), work)

    def test_every_version_that_was_ever_written_is_read(self):
        soda = DoseWorkOrder("soda ash", 4.0, {A: 75.0}, True)
        correcting = DoseWorkOrder("soda ash", 4.0, {A: 75.0}, False, {A: 2.6}, "2026-11-24T17:40:00Z", 0.22, 40.0)
        stored = job(salt=None, water=Water.STORED, water_name="Batch 3", batch_id=3, air_min=25.0,
                     zones=(("left", 20.0), ("right", 20.0)))  # fmt: skip
        shared = job(batch_share=0.96, water_name="Batch 4", batch_id=4)
        look = VisualCheckOrder("2026-11-24T18:40:00+00:00", "an hour after", False, "skimmer_cup")
        batch = replace(
            plan_batch(KITTIWAKE, 45.0, 60.0, 35.0, {A: 3.2})[0], batch_id=7, name="Batch 7", heater_w=200.0
        )
        tank = tank_job(BEACON, runbook("rock_scrub"), {S: 35.0}, {A: "meq/L"})
        # Frozen work keeps the words of its day.
        then = {
            "air": "nothing lives in it yet, but the bacteria want flow within a day",
            "back": "How much runs back was never measured: mark both levels today, and put the fall under Change, The "
            "tank.",
            "cool": "From 25.0 °C it takes about 10 h to 22.0 °C in a room of 18.0 °C, uncovered.",
        }
        gear = {**tank.gear, "steriliser": "steriliser", "purifier": "purifier"}
        tank = replace(tank, gear=gear, slots={**tank.slots, **then})
        told = {
            "change_1": job(litres_per_cm=0.0), "change_2": stored, "change_3": shared, "change_4": shared,
            "dose_1": soda, "dose_2": correcting, "dose_3": replace(correcting, formula="Na2CO3"), "look_1": look,
            "look_2": look, "batch_1": batch, "batch_2": batch, "tank_1": tank,
            "tank_2": replace(tank, task="rock_check"), "tank_3": replace(tank, task="rock_check"),
        }  # fmt: skip
        self.assertEqual({path.stem for path in GOLDEN.iterdir()}, {*told})
        for name, work in told.items():
            with self.subTest(name=name):
                self.assertEqual(work_of((GOLDEN / f"{name}.json").read_text("utf-8")), work)

    def test_what_is_not_known_is_passed_over_and_what_is_no_work_is_said_to_be_none(self):
        text = (GOLDEN / "look_2.json").read_text("utf-8")
        self.assertEqual(work_of(text.replace('"why"', '"colour": "red", "why"')).why, "an hour after")
        first = (GOLDEN / "dose_1.json").read_text("utf-8")
        self.assertEqual(work_of(first.replace('"siphon"', '"colour": "red", "siphon"')).mass_g, 4.0)
        later = (GOLDEN / "look_2.json").read_text("utf-8").replace('"version": 2', '"version": 99')
        self.assertIn('"version": 99', later)
        for text in (
            '{"kind": "dance", "version": 2, "work": {}}',
            '{"kind": "dose", "version": 2, "work": {}}',
            later,
        ):
            with self.assertRaises(DataError):
                work_of(text)

    def test_a_dose_or_a_look_has_no_job_for_the_tank(self):
        with self.database.write() as connection:
            look = VisualCheckOrder("2026-11-24T18:40:00+00:00", "an hour after")
            [step] = change_store.add_work(
                connection, self.system_id, "c", [PlannedWork(DAY, "look", "Look again", 5, look)]
            )
        stored = change_store.step(self.database.connection, step)
        self.assertEqual((stored.planned.task, stored.planned.is_change, stored.work), ("look", False, look))
        with self.assertRaises(ConflictError):
            _ = stored.job

    def test_a_new_plan_leaves_what_is_come_back_to(self):
        with self.database.write() as connection:
            look = VisualCheckOrder("2026-11-24T18:40:00+00:00", "an hour after")
            work = [PlannedWork(DAY, "look", "Look again", 5, look), PlannedWork(DAY, "change", "Change", 50, job())]
            change_store.add_work(connection, self.system_id, "c", work)
            self.assertEqual(change_store.withdraw_open(connection, self.system_id, "d"), 1)
        kinds = [step.kind for step in change_store.open_steps(self.database.connection)[self.system_id]]
        self.assertEqual(kinds, ["look"])


class Batches(StoreTest):
    def setUp(self):
        super().setUp()
        with self.database.write() as connection:
            self.salt = shelf.salt(connection, shelf.add_salt(connection, KITTIWAKE))
            planned = plan_batch(self.salt, 40.0, 60.0, 35.0)[0]
            portions = [Portion(self.system_id, "Beacon", 40.0, 35.0, 0.12, 40.0, 0.0, 5)]
            self.batch_id = batch_store.add_batch(connection, planned, portions, AT, "make")

    @property
    def batch(self):
        return batch_store.batch(self.database.connection, self.batch_id)

    def happen(self, *events, command="e"):
        with self.database.write() as connection:
            batch_store.record(connection, self.batch, events, DAY, command)

    def test_it_is_named_by_its_number_and_keeps_what_it_is_for(self):
        self.assertEqual((self.batch.name, self.batch.job.batch_id), (f"Batch {self.batch_id}", self.batch_id))
        self.assertEqual(self.batch.portions[0].step_id, 5)
        self.assertEqual(self.batch.state.phase, Phase.PLANNED)

    def test_its_life_is_its_record(self):
        later = AT + timedelta(hours=2)
        self.happen(BatchEvent(AT, BatchKind.SALTED, 1484.0), BatchEvent(AT, BatchKind.RESTING))
        self.happen(BatchEvent(later, BatchKind.MEASURED, values={S: 34.8}), BatchEvent(later, BatchKind.MATCHED))
        self.happen(BatchEvent(later, BatchKind.USED, 30.0, system_id=self.system_id))
        state = self.batch.state
        self.assertEqual((state.phase, state.litres, state.holds[S]), (Phase.LEFT_OVER, 10.0, 34.8))

    def test_it_teaches_the_salt_once(self):
        self.happen(BatchEvent(AT, BatchKind.SALTED, 1484.0))
        self.happen(BatchEvent(AT, BatchKind.MEASURED, values={S: 34.4}))
        self.happen(BatchEvent(AT, BatchKind.FRESH, 0.5), BatchEvent(AT, BatchKind.MATCHED))
        learned = shelf.batches(self.database.connection, self.salt.id)
        self.assertEqual([(one.mass_g, one.volume_l, one.salinity) for one in learned], [(1484.0, 40.0, 34.4)])

    def test_what_is_taken_back_never_happened(self):
        self.happen(BatchEvent(AT, BatchKind.SALTED, 1484.0))
        self.happen(BatchEvent(AT, BatchKind.THROWN, 40.0), command="oops")
        with self.database.write() as connection:
            self.assertEqual(ledger_store.void(connection, "oops", "undo", AT), 1)
        self.assertEqual(self.batch.state.phase, Phase.MIXING)
        with self.database.write() as connection:
            ledger_store.void(connection, "make", "undo", AT)
        with self.assertRaises(NotFoundError):
            _ = self.batch

    def test_the_salt_that_went_in_is_counted_since_a_day(self):
        self.happen(BatchEvent(AT, BatchKind.SALTED, 1484.0), BatchEvent(AT, BatchKind.SALT, 30.0))
        connection = self.database.connection
        self.assertEqual(batch_store.salt_used_g(connection, self.salt.id, "2026-11-24"), 1514.0)
        self.assertEqual(batch_store.salt_used_g(connection, self.salt.id, "2026-11-25"), 0.0)

    def test_those_that_are_used_up_are_listed_only_where_asked_for(self):
        self.happen(BatchEvent(AT, BatchKind.SALTED, 1484.0), BatchEvent(AT, BatchKind.USED, 40.0))
        connection = self.database.connection
        self.assertEqual(batch_store.batches(connection), [])
        self.assertEqual([one.id for one in batch_store.batches(connection, ended=True)], [self.batch_id])

    def test_one_run_for_a_batch_and_one_of_each_book_for_a_system(self):
        tank = tank_job(replace(BEACON, id=self.system_id), runbook("rock_scrub"), {}, {})
        with self.database.write() as connection:
            first = run_store.start(connection, "mix_batch", self.batch.job, AT)
            self.assertEqual(run_store.start(connection, "mix_batch", self.batch.job, AT), first)
            scrub = run_store.start(connection, "rock_scrub", tank, AT)
            self.assertEqual(run_store.start(connection, "rock_scrub", tank, AT), scrub)
            self.assertNotEqual(run_store.start(connection, "power_failure", tank, AT), scrub)
        run = run_store.run(self.database.connection, first)
        self.assertEqual((run.system_id, run.batch_id, run.work), (0, self.batch_id, self.batch.job))


class Beside(StoreTest):
    def test_hoses_are_kept_with_the_system_and_the_usual_ones_stand_before(self):
        self.assertEqual(system_store.system(self.database.connection, self.system_id).plumbing, BEACON.plumbing)
        with self.database.write() as connection:
            kept = system_store.system(connection, self.system_id)
            installation_store.save(connection, replace(kept, plumbing=Plumbing(pump_l_h=500.0, fall_cm=1.5)))
        kept = system_store.system(self.database.connection, self.system_id).plumbing
        self.assertEqual(kept, Plumbing(pump_l_h=500.0, fall_cm=1.5))
        with self.assertRaises(NotFoundError):
            system_store.system(self.database.connection, 99)

    def test_what_is_packed_is_kept_by_day(self):
        with self.database.write() as connection:
            for _ in range(2):
                run_store.tick_kit(connection, self.system_id, DAY, "hose", True)
            run_store.tick_kit(connection, self.system_id, DAY, "towels", True)
            run_store.tick_kit(connection, self.system_id, DAY, "towels", False)
        self.assertEqual(run_store.kit_ticks(self.database.connection, self.system_id, DAY), {"hose"})
        tomorrow = DAY + timedelta(days=1)
        self.assertEqual(run_store.kit_ticks(self.database.connection, self.system_id, tomorrow), frozenset())


class FromBefore(StoreTest):
    def old(self) -> Path:
        """A database of the thirteenth version with a planned step, an open run and two answers."""
        path = self.path.with_name("old.db")
        with closing(sqlite3.connect(path, isolation_level=None)) as connection:
            for number, script in migrations()[:13]:
                connection.executescript(f"BEGIN; {script} PRAGMA user_version = {number}; COMMIT;")
            connection.execute(
                "INSERT INTO system (name, stock, stage, panel, length_cm, width_cm, depth_cm, displaced_l, sump_l,"
                " sand, change_fraction, change_every_days, largest_fraction, limit_salinity, limit_alkalinity_meq_l,"
                " limit_temperature_c, bucket_l, started_on) VALUES ('Old', '', 'running', 'glass', 100, 50, 40, 0, 0,"
                " 'bare', 0.1, 7, 0.25, 1, 0.36, 1, 15, '2026-01-01')"
            )
            text = work_text(job(system_id=1))
            connection.execute(
                "INSERT INTO plan_step (system_id, plan, day, kind, name, minutes, job) VALUES"
                " (1, 'p', '2026-11-24', 'change', 'Change 40.0 L', 50, ?)", (text,),
            )  # fmt: skip
            connection.execute(
                "INSERT INTO run (system_id, step_id, runbook, job, started_at) VALUES"
                " (1, 1, 'water_change', ?, '2026-11-24T17:40:00Z')", (text,),
            )  # fmt: skip
            connection.executemany(
                "INSERT INTO run_answer (run_id, step, kind, item, text, at) VALUES (1, ?, ?, '', '', ?)",
                [("look", "done", "2026-11-24T17:41:00Z"), ("batch", "done", "2026-11-24T17:45:00Z")],
            )
        return path

    def test_plans_and_answers_are_all_there_and_the_run_under_way_says_why_it_ended(self):
        database = Database(self.old())
        self.addCleanup(database.close)
        (step,) = change_store.open_steps(database.connection)[1]
        self.assertEqual((step.name, step.job), ("Change 40.0 L", job(system_id=1)))
        run = run_store.run(database.connection, 1)
        self.assertEqual((run.step_id, run.batch_id), (1, 0))
        self.assertIn("written anew", run.abandoned_because)
        self.assertEqual([answer.step for answer in run_store.answers(database.connection, 1)], ["look", "batch"])
        self.assertEqual(system_store.system(database.connection, 1).plumbing, Plumbing())
