"""Occurrences of care tasks, and what comes next."""

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from salttide.core.ledger.entries import Care, Ledger
from salttide.core.overview.next_up import Action, DosingState, Standing, next_up, summary
from salttide.core.overview.state import outlook
from salttide.core.overview.upcoming import Ahead
from salttide.core.planning.delivery import Diagnosis
from salttide.core.planning.work_order import DoseWorkOrder
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import PanelMaterial, SandMethod
from salttide.core.upkeep.care import Availability, Upkeep, on_their_days
from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.rota import Book, Piece, Planned, Split, minutes_by_day, occurrences
from salttide.core.upkeep.task import part_of, tasks
from tests.core.cases import BEACON, NOW, SLIPWAY, TODAY, ZONE, dkh, ledger, reading

UNTIL = TODAY + timedelta(days=14)
CHANGE = Rule(tasks()["water_change"], 7, 50)
SIPHON = Rule(tasks()["siphon"], 7, 12)
WORK = DoseWorkOrder("soda ash", 1.0, {})
SCRAPE = Rule(tasks()["scrape_front"], 6, 10)


def done(task: str, day: int, skipped: bool = False) -> Care:
    return Care(datetime(2026, 11, day, 18, tzinfo=UTC), task, 10, skipped, "no time" if skipped else "")


def days(found, task):
    return [item.day.day for item in found if item.task == task]


class PlainRule(unittest.TestCase):
    def find(self, rules, care=(), moves=None, planned=()):
        return occurrences(Book(rules, care, moves or {}, planned), TODAY, UNTIL, ZONE)

    def test_every_six_days_from_the_last_time(self):
        # Last on the 20th: 26 Nov, 2 Dec, 8 Dec.
        self.assertEqual(days(self.find([SCRAPE], [done("scrape_front", 20)]), "scrape_front"), [26, 2, 8])

    def test_never_done_is_due_today(self):
        self.assertEqual(days(self.find([SCRAPE]), "scrape_front")[0], 24)

    def test_late_stands_on_today_and_says_how_late(self):
        first = self.find([SCRAPE], [done("scrape_front", 15)])[0]
        self.assertEqual((first.day, first.due, first.late_days), (TODAY, date(2026, 11, 21), 3))

    def test_a_skip_counts_like_a_time_done(self):
        care = [done("scrape_front", 10), done("scrape_front", 22, skipped=True)]
        self.assertEqual(days(self.find([SCRAPE], care), "scrape_front"), [28, 4])

    def test_a_move_shifts_what_follows(self):
        moves = {("scrape_front", date(2026, 11, 26)): date(2026, 11, 28)}
        found = self.find([SCRAPE], [done("scrape_front", 20)], moves)
        self.assertEqual(days(found, "scrape_front"), [28, 4])
        self.assertIn("moved from Thu 26 Nov", found[0].why)

    def test_a_done_evening_counts_by_the_keepers_own_date(self):
        # 23:30 UTC on the 20th is already the 21st in Copenhagen.
        care = [Care(datetime(2026, 11, 20, 23, 30, tzinfo=UTC), "scrape_front", 10)]
        self.assertEqual(days(self.find([SCRAPE], care), "scrape_front")[0], 27)


class SplitOverTwoDays(unittest.TestCase):
    """Scraped last on the 20th, every six days: due on the 26th, 10 min."""

    DUE = date(2026, 11, 26)

    def find(self, split, care=None, moves=None):
        book = Book([SCRAPE], [done("scrape_front", 20)] if care is None else care, moves or {}, splits=split)
        return occurrences(book, TODAY, UNTIL, ZONE)

    def split(self, minutes=4.0, day=28, first_done=False):
        return {("scrape_front", self.DUE): Split(minutes, date(2026, 11, day), first_done)}

    def test_the_first_part_stands_where_it_was_and_the_rest_on_its_day(self):
        first, rest, after = self.find(self.split())
        self.assertEqual((first.piece, first.day.day, first.due, first.minutes), (Piece.FIRST, 26, self.DUE, 4))
        self.assertEqual((rest.piece, rest.day.day, rest.minutes, rest.pinned), (Piece.REST, 28, 6, True))
        self.assertEqual((first.title, rest.title), ("Scrape the front, first part", "Scrape the front, the rest"))
        # Six days after the rest.
        self.assertEqual((after.piece, after.day), (None, date(2026, 12, 4)))

    def test_the_first_part_done_leaves_the_rest_and_is_not_the_task_done(self):
        part = done(part_of("scrape_front"), 24)
        rest, after = self.find(self.split(first_done=True), [done("scrape_front", 20), part])
        self.assertEqual((rest.piece, rest.day.day), (Piece.REST, 28))
        self.assertEqual(after.day, date(2026, 12, 4))

    def test_a_rest_whose_day_is_past_is_late_today(self):
        rest = self.find(self.split(day=22, first_done=True))[0]
        self.assertEqual((rest.day, rest.late_days), (TODAY, 2))

    def test_moved_the_first_part_goes_along(self):
        first, rest, _ = self.find(self.split(day=30), moves={("scrape_front", self.DUE): date(2026, 11, 27)})
        self.assertEqual((first.day.day, rest.day.day), (27, 30))

    def test_a_due_day_that_shifts_a_little_keeps_its_split(self):
        found = self.find(self.split(), [done("scrape_front", 21)])
        self.assertEqual([one.piece for one in found[:2]], [Piece.FIRST, Piece.REST])

    def test_the_next_part_in_turn_is_the_same_for_both(self):
        rule = replace(SCRAPE, zones=("left", "right"))
        book = Book([rule], [done("scrape_front", 20)], splits=self.split())
        self.assertEqual([one.zone for one in occurrences(book, TODAY, UNTIL, ZONE)], ["left", "left", "right"])


class WithChanges(unittest.TestCase):
    def test_the_siphon_joins_the_change_within_its_window(self):
        care = [done("water_change", 21), done("siphon", 19)]
        found = occurrences(Book([CHANGE, SIPHON], care), TODAY, UNTIL, ZONE)
        found = on_their_days(1, found, Availability(), TODAY)
        self.assertEqual(days(found, "siphon"), days(found, "water_change"))

    def test_a_planned_change_takes_the_place_of_the_routine_one(self):
        planned = [Planned(9, date(2026, 11, 25), "Change 40.1 L", 50, "water_change")]
        found = occurrences(Book([CHANGE, SIPHON], [done("water_change", 21)], planned=planned), TODAY, UNTIL, ZONE)
        self.assertEqual(days(found, "water_change"), [25, 2])
        self.assertEqual([item.step_id for item in found if item.task == "water_change"], [9, None])

    def test_minutes_add_up_by_day(self):
        found = occurrences(Book([CHANGE, SIPHON], [done("water_change", 21), done("siphon", 21)]), TODAY, UNTIL, ZONE)
        self.assertEqual(minutes_by_day(found)[date(2026, 11, 28)], 62)


class Kinds(unittest.TestCase):
    def test_a_deep_bed_is_never_siphoned_and_acrylic_never_meets_a_blade(self):
        for sand, suits in ((SandMethod.DEEP, False), (SandMethod.STIRRED, False), (SandMethod.BARE, True)):
            kept = replace(BEACON, methods=replace(BEACON.methods, sand=sand))
            self.assertEqual(tasks()["siphon"].suits(kept), suits)
        self.assertIn("Only an acrylic-safe pad", tasks()["scrape_front"].tool(PanelMaterial.ACRYLIC))

    def test_no_skimmer_no_cup(self):
        self.assertFalse(tasks()["skimmer_cup"].suits(replace(BEACON, gear=("heater",))))


class Next(unittest.TestCase):
    def view(self, system, book: Ledger, rules=(), planned=()):
        return outlook(system, book, Upkeep(rules), Ahead([(step, WORK) for step in planned]), NOW, ZONE, {})

    def low(self) -> Ledger:
        return ledger(reading(Parameter.ALKALINITY, dkh(7.0)), reading(Parameter.SALINITY, 34.8))

    def test_out_of_band_comes_first_and_leads_to_a_plan(self):
        first = self.view(BEACON, self.low(), [SCRAPE]).next[0]
        # 1.5 dKH in 334.047 L: 1.5 / 2.80385 x 334.047 x 52.994 mg = 9.47 g, in two days of at most 1 dKH.
        self.assertEqual(first.way, Action.REMEDY)
        self.assertEqual(first.title, "Raise alkalinity to 8.5 dKH: 4.74 g soda ash a day for 2 days")
        self.assertIn("Alkalinity is low", first.reason)

    def test_a_plan_that_exists_is_not_asked_for_again(self):
        planned = [Planned(3, TODAY, "Change 40.1 L", 50, "water_change")]
        ways = [item.way for item in self.view(BEACON, self.low(), planned=planned).next]
        self.assertEqual(ways[0], Action.RUN)
        self.assertNotIn(Action.PLAN_CHANGE, ways)

    def test_what_is_planned_comes_before_other_work_of_the_day(self):
        view = self.view(BEACON, ledger())
        book = Book([SCRAPE], planned=[Planned(3, TODAY, "1 g soda ash", 5, "dose")])
        dose, scrape = occurrences(book, TODAY, TODAY, ZONE)
        for order in ([dose, scrape], [scrape, dose]):
            items = next_up(BEACON, view.ledger, view.tests, view.causes, order, NOW, ZONE)
            self.assertEqual([item.step_id for item in items if item.way == Action.RECORD], [3, None])

    def test_what_is_said_of_dosing_comes_with_its_minutes(self):
        view = self.view(BEACON, ledger())
        dosing = DosingState(
            (Diagnosis("The pump loses 18 %", "By its levels.", ()),), unfit="More is used than added."
        )
        items = next_up(BEACON, view.ledger, view.tests, view.causes, [], NOW, ZONE, dosing=dosing)
        minutes = {item.way: item.minutes for item in items}
        self.assertEqual((minutes[Action.CONTAINER], minutes[Action.DOSING], minutes[Action.LOOK]), (10, 5, 2))

    def test_a_test_takes_three_minutes(self):
        (tests,) = [item for item in self.view(BEACON, ledger()).next if item.way == Action.TEST]
        self.assertEqual(tests.minutes, 8 * 3)

    def test_animals_in_danger_come_before_a_plan_that_exists(self):
        planned = [Planned(3, TODAY, "Change 40.1 L", 50, "water_change")]
        # 2 mg/L of ammonia at pH 8.2 hold more than 0.1 mg/L of the toxic part.
        book = ledger(
            reading(Parameter.AMMONIA, 2.0), reading(Parameter.PH, 8.2), reading(Parameter.SALINITY, 34.8),
            reading(Parameter.TEMPERATURE, 25.4),
        )  # fmt: skip
        first = self.view(BEACON, book, planned=planned).next[0]
        self.assertEqual((first.title[:16], first.urgent), ("Ammonia: change ", True))
        self.assertIn("Take out what is dead", first.reason)

    def test_overdue_tests_are_named(self):
        titles = [item.title for item in self.view(BEACON, self.low()).next]
        self.assertIn("Test temperature, calcium, magnesium, nitrate, phosphate and pH", titles)

    def test_standing_in_words(self):
        self.assertEqual(self.view(BEACON, self.low()).summary.standing, Standing.ACT)
        self.assertEqual(self.view(BEACON, ledger()).summary.standing, Standing.UNKNOWN)
        self.assertEqual(self.view(SLIPWAY, self.low()).summary.standing, Standing.WAIT)
        nitrate = ledger(reading(Parameter.NITRATE, 40))
        self.assertEqual(self.view(BEACON, nitrate).summary.standing, Standing.WATCH)

    def test_after_a_change_the_verdict_is_on_the_expected_value(self):
        from salttide.core.ledger.entries import Dose

        dosed = Dose(NOW, "soda ash", 1, {Parameter.ALKALINITY: dkh(1.0) * 100}, id=9)
        book = ledger(reading(Parameter.ALKALINITY, dkh(7.0), 1), dosed)
        verdict = self.view(BEACON, book).verdicts[0]
        self.assertEqual(verdict.words, "in band, expected")
        self.assertIn("Expected, not measured: 7.0 dKH on Mon 23 Nov", verdict.reasons[1])

    def test_used_directly_they_agree_with_the_outlook(self):
        view = self.view(BEACON, self.low(), [SCRAPE])
        self.assertEqual(view.summary, summary(view.verdicts, view.judgement, view.occurrences))
        again = next_up(BEACON, view.ledger, view.tests, view.causes, view.occurrences, NOW, ZONE)
        self.assertEqual(list(view.next), again)
