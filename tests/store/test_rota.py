"""The keeper's side of the rota as it is stored: choices, own tasks, time, absences, moves, placings, care so far."""

from datetime import date, timedelta

from salttide.core.basics.errors import NotFoundError
from salttide.core.ledger.entries import Care
from salttide.core.upkeep.care import USUAL_MINUTES, CareChoice
from salttide.core.upkeep.task import RoundPart, own_kind
from salttide.store import ledger as ledger_store
from salttide.store import rota as rota_store
from salttide.store import shelf
from salttide.store.care import care_entries
from salttide.store.database import to_text
from salttide.store.rota import Away, Placed
from tests.store.test_database import AT, StoreTest

DAY = date(2026, 11, 24)


class RotaTest(StoreTest):
    def setUp(self) -> None:
        super().setUp()
        self.read = self.database.connection

    def write(self, act):
        with self.database.write() as connection:
            return act(connection)


class Kept(RotaTest):
    def test_a_choice_comes_back_whole_and_as_usual_is_forgotten(self):
        choice = CareChoice(True, 9, 12.5, (1, 4), ("left", "right"), 40.0)
        self.write(lambda c: rota_store.choose_care(c, self.system_id, "siphon", choice))
        self.assertEqual(rota_store.care_choices(self.read)[self.system_id], {"siphon": choice})
        none = CareChoice(zones=())
        self.write(lambda c: rota_store.choose_care(c, self.system_id, "siphon", none))
        self.assertEqual(rota_store.care_choices(self.read)[self.system_id], {"siphon": none})
        self.write(lambda c: rota_store.choose_care(c, self.system_id, "siphon", CareChoice()))
        self.assertEqual(rota_store.care_choices(self.read), {})

    def test_an_own_task_is_taken_away_and_put_back(self):
        kind = own_kind(0, "Polish the lid", 14, 5, phase=RoundPart.CREEP)
        number = self.write(lambda c: rota_store.add_own_task(c, self.system_id, kind, "softly", "key-1"))
        stored = rota_store.own_tasks(self.read)[self.system_id][0]
        self.assertEqual((stored.key, stored.why, stored.phase), (f"own_{number}", "softly", RoundPart.CREEP))
        self.write(lambda c: rota_store.delete_own_task(c, self.system_id, stored.key))
        self.assertEqual(rota_store.own_tasks(self.read)[self.system_id], [])
        self.write(lambda c: rota_store.delete_own_task(c, self.system_id, stored.key, False))
        self.assertEqual(len(rota_store.own_tasks(self.read)[self.system_id]), 1)
        with self.assertRaises(NotFoundError):
            self.write(lambda c: rota_store.delete_own_task(c, self.system_id, "own_99"))

    def test_time_by_weekday_and_on_single_days(self):
        self.assertEqual(rota_store.week_minutes(self.read), USUAL_MINUTES)
        self.write(lambda c: shelf.save_keeper(c, shelf.keeper(c)))
        self.write(lambda c: rota_store.save_week_minutes(c, [1, 2, 3, 4, 5, 6, 7]))
        self.assertEqual(rota_store.week_minutes(self.read), (1, 2, 3, 4, 5, 6, 7))
        self.write(lambda c: shelf.save_keeper(c, shelf.keeper(c)))
        self.assertEqual(rota_store.week_minutes(self.read), (1, 2, 3, 4, 5, 6, 7))
        self.write(lambda c: rota_store.save_day_minutes(c, DAY, 0))
        self.assertEqual(rota_store.day_minutes(self.read), {DAY: 0})
        self.write(lambda c: rota_store.save_day_minutes(c, DAY, None))
        self.assertEqual(rota_store.day_minutes(self.read), {})

    def test_the_minutes_are_kept_where_no_settings_were_stored_yet(self):
        self.write(lambda c: rota_store.save_week_minutes(c, [5] * 7))
        self.assertEqual(rota_store.week_minutes(self.read), (5,) * 7)

    def test_absences_day_by_day_and_one_imported_again_takes_the_place_of_the_first(self):
        first = Away(0, DAY, DAY + timedelta(days=2), "by the sea", "uid-1")
        self.write(lambda c: rota_store.add_away(c, first, "key-1"))
        self.assertEqual(len(rota_store.away_days(self.read, DAY)), 3)
        moved = Away(0, DAY + timedelta(days=5), DAY + timedelta(days=5), "by the sea", "uid-1")
        number = self.write(lambda c: rota_store.add_away(c, moved, "key-2"))
        self.assertEqual(rota_store.away_days(self.read, DAY), {DAY + timedelta(days=5)})
        self.write(lambda c: rota_store.delete_away(c, number))
        self.assertEqual(rota_store.absences(self.read), [])


class Placings(RotaTest):
    def test_what_is_placed_anew_leaves_what_stood_before_remembered_for_a_while(self):
        one = Placed(self.system_id, "siphon", DAY, DAY + timedelta(days=1), 12)
        other = Placed(self.system_id, "siphon", DAY + timedelta(days=3), DAY + timedelta(days=4), 12)
        self.write(lambda c: rota_store.save_placings(c, [one], DAY))
        self.write(lambda c: rota_store.save_placings(c, [other], DAY))
        self.assertEqual(rota_store.placings(self.read)[0], [other])
        self.assertEqual(rota_store.placings(self.read)[1], [one])
        self.write(lambda c: rota_store.save_placings(c, [other], DAY + timedelta(days=61)))
        self.assertEqual(rota_store.placings(self.read)[1], [])

    def test_a_move_is_used_up_by_a_command_and_comes_back_when_that_is_taken_back(self):
        self.write(lambda c: rota_store.move_care(c, self.system_id, "siphon", DAY, DAY + timedelta(days=2)))
        done = Care(AT, "siphon", 14.0, timed=True, zone="left third", found={"spots": "low on the left"})
        self.write(lambda c: ledger_store.record(c, self.system_id, [done], "key-done", AT))
        self.write(lambda c: rota_store.use_move(c, self.system_id, "siphon", DAY, "key-done"))
        self.assertEqual(rota_store.care_moves(self.read)[self.system_id], {})
        self.write(lambda c: ledger_store.void(c, "key-done", "key-void", AT))
        self.assertEqual(rota_store.care_moves(self.read)[self.system_id], {("siphon", DAY): DAY + timedelta(days=2)})


class CareSoFar(RotaTest):
    def test_the_last_time_is_known_however_long_ago_and_findings_come_back(self):
        lamp = [
            Care(AT - timedelta(days=days), "steriliser_lamp", 60, found={"lamp_hours": 8700.0}) for days in (1500, 900)
        ]
        cup = Care(AT - timedelta(days=3), "skimmer_cup", 5, timed=True, found={"cup_level": 70.0})
        for number, entry in enumerate([*lamp, cup]):
            self.write(lambda c, e=entry, n=number: ledger_store.record(c, self.system_id, [e], f"key-{n}", AT))
        known = care_entries(self.read, self.system_id, to_text(AT - timedelta(days=90)))
        self.assertEqual([(e.task, (AT - e.at).days) for e in known], [("steriliser_lamp", 900), ("skimmer_cup", 3)])
        self.assertEqual((known[1].found, known[1].timed), ({"cup_level": 70.0}, True))
        self.assertEqual(len(care_entries(self.read, self.system_id, "")), 3)
