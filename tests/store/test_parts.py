"""Systems, plans and runs as they are kept."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import UTC, date, datetime

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.ledger.entries import Care, Evaporation, Harvest, TopOff
from salttide.core.planning.work_order import PlannedWork
from salttide.core.runbook.steps import Answer, AnswerKind
from salttide.core.science.parameters import Parameter
from salttide.core.upkeep.care import CareChoice, rules_of
from salttide.household.memo import Memo
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import rota as rota_store
from salttide.store import runbook as run_store
from salttide.store import shelf
from salttide.store import system as system_store
from tests.core.cases import BEACON, KITTIWAKE, PLAINMARK
from tests.core.test_runbook import job
from tests.store.test_database import AT, StoreTest

DAY = date(2026, 11, 28)


class Systems(StoreTest):
    def test_comes_back_as_it_was_stored(self):
        stored = system_store.system(self.database.connection, self.system_id)
        self.assertEqual(stored, replace(BEACON, id=self.system_id, entered_at=AT))

    def test_an_edit_keeps_what_the_keeper_set_for_tasks_but_follows_the_method(self):
        with self.database.write() as connection:
            rota_store.choose_care(connection, self.system_id, "scrape_front", CareChoice(every_days=9))
            weekly = replace(BEACON, id=self.system_id, methods=replace(BEACON.methods, change_every_days=10))
            system_store.change_system(connection, weekly, AT)
        choices = rota_store.care_choices(self.database.connection)[self.system_id]
        rules = {rule.kind.key: rule.every_days for rule in rules_of(weekly, choices)}
        kept = {key: rules[key] for key in ("water_change", "scrape_front", "siphon", "skimmer_cup")}
        self.assertEqual(kept, {"water_change": 10, "scrape_front": 9, "siphon": 10, "skimmer_cup": 4})

    def test_names_are_unique_whatever_their_case(self):
        with self.assertRaises(ConflictError), self.database.write() as connection:
            system_store.add_system(connection, replace(BEACON, name="BEACON"), AT)

    def test_what_does_not_exist(self):
        with self.assertRaises(NotFoundError):
            system_store.system(self.database.connection, 99)
        with self.assertRaises(NotFoundError), self.database.write() as connection:
            system_store.change_system(connection, replace(BEACON, id=99, name="Nobody"), AT)

    def test_the_database_itself_refuses_what_must_never_be(self):
        for column, value in (("length_cm", 0), ("sand", "lava"), ("change_fraction", 0.9), ("name", "  ")):
            with self.subTest(column=column), self.assertRaises(sqlite3.IntegrityError):
                self.database.connection.execute(f"UPDATE system SET {column} = ?", (value,))

    def test_moves_are_kept_and_forgotten_when_left_to_the_rota(self):
        due = date(2026, 11, 26)
        with self.database.write() as connection:
            rota_store.move_care(connection, self.system_id, "scrape_front", due, DAY)
        moves = rota_store.care_moves(self.database.connection)[self.system_id]
        self.assertEqual(moves, {("scrape_front", due): DAY})
        with self.database.write() as connection:
            rota_store.move_care(connection, self.system_id, "scrape_front", due, None)
        self.assertEqual(rota_store.care_moves(self.database.connection)[self.system_id], {})


class PlanCase(StoreTest):
    def put(self, plan: str = "p1", day: date = DAY) -> int:
        with self.database.write() as connection:
            work = PlannedWork(day, "change", "Change 40 L", 50, job())
            return change_store.add_work(connection, self.system_id, plan, [work])[0]


class Plans(PlanCase):
    def test_the_job_is_frozen_whole(self):
        step = change_store.step(self.database.connection, self.put())
        self.assertEqual(step.job, job())
        self.assertIn("mix 1.48 kg Kittiwake Standard to 35.0 ppt", step.planned.note)

    def test_a_plan_taken_back_puts_back_what_it_replaced(self):
        first, connection = self.put("p1"), self.database.connection
        change_store.move_step(connection, first, date(2026, 11, 30))
        self.assertEqual(change_store.step(connection, first).day, date(2026, 11, 30))
        self.assertEqual(change_store.withdraw_open(connection, self.system_id, by="p2"), 1)
        second = self.put("p2")
        with self.assertRaises(ConflictError):
            change_store.open_step(connection, first)
        self.assertEqual(change_store.undo_plan(connection, "p2", by="undo"), 1)
        self.assertEqual([step.id for step in change_store.open_steps(connection)[self.system_id]], [first])
        self.assertTrue(change_store.step(connection, second).withdrawn)
        self.assertEqual(change_store.undo_plan(connection, "p2", by="again"), 0)

    def test_done_by_a_command_and_open_again_when_that_is_taken_back(self):
        step_id = self.put()
        self.record(Care(AT, "water_change", 50), command="c-done")
        with self.database.write() as connection:
            change_store.finish_step(connection, step_id, "c-done")
        with self.assertRaises(ConflictError):
            change_store.open_step(self.database.connection, step_id)
        with self.database.write() as connection:
            ledger_store.void(connection, "c-done", "c-undo", AT)
        self.assertEqual(change_store.open_step(self.database.connection, step_id).id, step_id)

    def test_a_new_plan_takes_the_place_of_the_open_steps_only(self):
        first, second = self.put(), self.put("p1", date(2026, 11, 30))
        connection = self.database.connection
        change_store.finish_step(connection, first, "c-done")
        self.assertEqual(change_store.withdraw_open(connection, self.system_id, by="p2"), 1)
        self.assertTrue(change_store.step(connection, second).withdrawn)
        self.assertEqual([step.id for step in change_store.steps_of_plan(connection, "p1")], [first])


class Runs(PlanCase):
    def test_answers_come_back_in_order(self):
        step = change_store.step(self.database.connection, self.put())
        said = [Answer("look", AnswerKind.DONE, at=AT), Answer("batch", AnswerKind.MEASURED, "salinity", 35.1, at=AT),
                Answer("batch", AnswerKind.OVERRIDE, "", None, "in a hurry", AT)]  # fmt: skip
        with self.database.write() as connection:
            run_id = run_store.start(connection, "water_change", step.job, AT, step.id)
            for answer in said:
                run_store.add_answer(connection, run_id, answer, AT)
        self.assertEqual(run_store.answers(self.database.connection, run_id), said)

    def test_one_open_run_for_a_step(self):
        step, connection = change_store.step(self.database.connection, self.put()), self.database.connection
        run_id = run_store.start(connection, "water_change", step.job, AT, step.id)
        self.assertEqual(run_store.start(connection, "water_change", step.job, AT, step.id), run_id)
        run_store.end(connection, run_id, AT, "hose split")
        with self.assertRaisesRegex(ConflictError, "abandoned"):
            run_store.open_run(connection, run_id)
        again = run_store.start(connection, "water_change", step.job, AT, step.id)
        self.assertNotEqual(again, run_id)
        self.assertEqual([run.id for run in run_store.open_runs(connection)], [again])


class Shelf(StoreTest):
    def test_salts_keep_their_ranges(self):
        connection = self.database.connection
        for salt in (KITTIWAKE, PLAINMARK):
            stored = shelf.salt(connection, shelf.add_salt(connection, salt))
            self.assertEqual(replace(stored, id=0), salt)
        with self.assertRaises(NotFoundError):
            shelf.salt(connection, 77)

    def test_a_new_database_has_a_keeper_without_choices(self):
        settings = shelf.keeper(self.database.connection)
        self.assertEqual((settings.zone.key, dict(settings.units), settings.salt_id), ("UTC", {}, None))


class Balance(StoreTest):
    """Every kind of entry of the balance comes back as it was."""

    def test_all_kinds_come_back(self):
        at = datetime(2026, 11, 1, 12, tzinfo=UTC)
        entries = [
            TopOff(at, 5.0, holds={Parameter.ALKALINITY: 40.0}),
            Evaporation(at, 3.0),
            Harvest(at, "macroalgae", 120.0, {Parameter.NITRATE: 1593.0}),
        ]
        with self.database.write() as connection:
            system_id = system_store.add_system(connection, replace(BEACON, name="Own"), at)
            ledger_store.record(connection, system_id, entries, "key-balance", at)
        found = Memo(self.database).household(at).recorded(system_store.system(self.database.connection, system_id))
        for kept, told in zip([*found.top_offs, *found.evaporations, *found.harvests], entries, strict=True):
            self.assertEqual(replace(kept, id=0), told)
