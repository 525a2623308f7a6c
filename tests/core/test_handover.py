"""The hand-over: visits and their work, amounts laid out, limits, what is done before; and what comes back."""

import unittest
from dataclasses import replace
from datetime import UTC, datetime, time, timedelta

from salttide.core.basics.errors import InputError
from salttide.core.ledger.entries import Care, Dose, Feed, Ledger, TopOff
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.handover import (
    HandOverRequest,
    Household,
    check_hand_over,
    entries_done,
    guards,
    guards_everywhere,
    hand_over,
    never,
    visit_days,
    visits_words,
)
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.catalogue import gear_kinds
from salttide.core.system.livestock import Animal
from salttide.core.upkeep.care import rules_of
from salttide.core.upkeep.rota import Occurrence
from salttide.core.upkeep.task import tasks
from tests.core.cases import BEACON, NOW, SKIFF, TODAY, ZONE

FIRST, LAST = TODAY + timedelta(days=10), TODAY + timedelta(days=17)
SYSTEM = replace(BEACON, gear=("skimmer", "sock", "top_off"), animals=(Animal(1, "tang"),))
BY_HAND = replace(SKIFF, methods=replace(SKIFF.methods, answers={**SKIFF.methods.answers, "top_off": "by_hand"}))


def ago(days):
    return datetime.combine(TODAY - timedelta(days=days), time(17), UTC)


def given_over(system=SYSTEM, ledger=None, request=None, work=(), rules=None, by_hand=(), last=LAST):
    book = ledger or Ledger(300.0)
    known = Household(rules_of(system, {}, care=book.care) if rules is None else rules, work, (), by_hand)
    return hand_over(system, book, known, request or HandOverRequest(), FIRST, last, NOW, ZONE, {})


def days_of(sheet, key):
    return [(visit.day - FIRST).days for visit in sheet.visits for work in visit.work if work.key == key]


class Visits(unittest.TestCase):
    def test_every_so_many_days_from_the_day_on_which_the_keeper_has_left(self):
        for every, expected in ((1, [0, 1, 2, 3, 4]), (2, [1, 3]), (3, [2]), (5, [4]), (6, [])):
            days = visit_days(FIRST, FIRST + timedelta(days=4), every)
            self.assertEqual([(day - FIRST).days for day in days], expected, every)

    def test_in_words(self):
        self.assertEqual(visits_words(1, 1), "1 visit, every day")
        self.assertEqual(visits_words(0, 7), "no visit: you are back before one is due")


class WorkOfTheCarer(unittest.TestCase):
    def test_from_the_day_before_leaving_each_at_its_pace_and_never_later_than_due(self):
        # Socks every 4 days, done the day before: due 3 and 7 days on. Every second day: visits 1, 3, 5, 7.
        sheet = given_over(request=HandOverRequest(every_days=2))
        self.assertEqual(days_of(sheet, "task:filter_sock"), [3, 7])
        # Every third day: visits 2 and 5; the last one by which it is due.
        self.assertEqual(days_of(given_over(request=HandOverRequest(every_days=3)), "task:filter_sock"), [2, 5])

    def test_only_what_is_meant_for_a_carer(self):
        keys = {work.key for visit in given_over().visits for work in visit.work}
        meant = {f"task:{key}" for key, kind in tasks().items() if kind.carer}
        self.assertLessEqual({key for key in keys if key.startswith("task:")}, meant)
        for key in ("water_change", "scrape_front", "steriliser_lamp", "container_refill", "dosing_pump"):
            self.assertEqual(tasks()[key].carer, "", key)

    def test_a_reservoir_as_fast_as_it_emptied_and_with_the_litres_of_the_last_time(self):
        fills = tuple(Care(ago(days), "reservoir", 5.0, found={"litres_added": 30.0}) for days in (9, 6, 3))
        sheet = given_over(ledger=Ledger(300.0, care=fills))
        # Every third day from the day before leaving: on the third, sixth and ninth day, of which eight are away.
        self.assertEqual(days_of(sheet, "task:reservoir"), [2, 5])
        work = next(w for visit in sheet.visits for w in visit.work if w.key == "task:reservoir")
        self.assertEqual(work.laid_out, "about 30 L")


class LaidOut(unittest.TestCase):
    FEEDS = tuple(Feed(ago(days), "mysids", 1.5, 3.0, {Parameter.NITRATE: 20.0}) for days in range(1, 15))

    def test_food_as_on_a_usual_day_and_not_more_for_days_without_a_visit(self):
        sheet = given_over(ledger=Ledger(300.0, feeds=self.FEEDS), request=HandOverRequest(every_days=3))
        work = [w for visit in sheet.visits for w in visit.work if w.key == "feed:mysids"]
        self.assertEqual([(w.laid_out, w.amount) for w in work], [("1.5 portions", 1.5)] * 2)
        self.assertIn("Lay out for “Feed mysids”: 2 times 1.5 portions, each with its day", sheet.before)

    def test_where_no_food_is_recorded_the_note_says_what_they_get(self):
        sheet = given_over()
        self.assertIn("feed", {w.key for w in sheet.visits[0].work})
        self.assertIn("No food is recorded: say in the note what they get, and how much", sheet.before)
        noted = given_over(request=HandOverRequest(notes={SYSTEM.id: "one pinch"}))
        self.assertEqual(noted.note, "one pinch")
        self.assertFalse([line for line in noted.before if line.startswith("No food")])
        empty = given_over(replace(SYSTEM, animals=()))
        self.assertNotIn("feed", {w.key for w in empty.visits[0].work})

    def test_water_for_what_evaporated_since_the_last_visit_where_it_is_topped_off_by_hand(self):
        # 0.6 L every day for weeks.
        book = Ledger(71.0, top_offs=tuple(TopOff(ago(days), 0.6) for days in range(30, 0, -1)))
        sheet = given_over(BY_HAND, book, HandOverRequest(every_days=3))
        water = [w.amount for visit in sheet.visits for w in visit.work if w.key == "top_off"]
        self.assertEqual(water, [1.8, 1.8])
        self.assertFalse(days_of(given_over(), "top_off"))

    def test_a_cup_of_each_dose_that_is_given_by_hand(self):
        soda = DailyDose("soda ash", 4.3, {Parameter.ALKALINITY: 80.0})
        sheet = given_over(by_hand=[soda])
        self.assertEqual(len(days_of(sheet, "dose:soda ash")), 8)
        self.assertIn("Lay out for “Dose soda ash”: 8 times 4.30 g, dissolved, each with its day", sheet.before)


class Before(unittest.TestCase):
    def item(self, task, earliest, latest):
        kind, day = tasks()[task], FIRST + timedelta(days=latest)
        return Occurrence(task, kind.name, day, day, FIRST + timedelta(days=earliest), day, 10, "", kind=kind)

    def test_what_may_be_done_before_and_what_waits(self):
        work = [self.item("powerheads", -3, 4), self.item("scrape_front", 1, 5), self.item("salt_creep", 3, 12)]
        sheet = given_over(work=[*work, self.item("skimmer_cup", 1, 3)])
        late = next(line for line in sheet.before if line.startswith("Late"))
        self.assertEqual(late, "Late when you are back, so better before: Strip the powerheads")
        self.assertEqual(len(sheet.waits), 1)
        self.assertTrue(sheet.waits[0].startswith("Scrape the front (until "))

    def test_animals_that_must_eat_every_day_ask_for_a_visit_every_day(self):
        hungry = replace(SYSTEM, animals=(Animal(1, "pipefish", portions=2),))
        asked = "pipefish must eat every day: ask for a visit every day"
        self.assertIn(asked, given_over(hungry, request=HandOverRequest(every_days=2)).before)
        self.assertNotIn(asked, given_over(hungry).before)


class Limits(unittest.TestCase):
    def test_what_to_do_first_with_this_systems_own_limits_and_gear(self):
        system = replace(SYSTEM, bands={Parameter.TEMPERATURE: Span(24.0, 26.5)})
        found = {one.key: one for one in given_over(system).guards}
        self.assertIn("26.5 °C", found["hot"].when)
        self.assertIn("24.0 °C", found["cold"].when)
        self.assertRegex(found["power"].do, r"about \d+ h")
        self.assertIn("foam", found)
        self.assertNotIn("doser", found)
        self.assertNotIn("hot", {one.key for one in given_over(replace(SYSTEM, bands={})).guards})

    def test_every_rule_says_what_first_and_the_dangerous_ones_to_call(self):
        self.assertGreaterEqual(len(guards()), 10)
        for one in guards():
            self.assertTrue(one.when and one.do, one.key)
            self.assertLessEqual(set(one.gear), set(gear_kinds()))
        self.assertTrue(all(one.call for one in guards_everywhere()))
        self.assertTrue(any("feed more" in line for line in never()))

    def test_a_hand_over_without_a_number_to_call_is_refused(self):
        with self.assertRaises(InputError) as refused:
            check_hand_over(HandOverRequest(phone=" "))
        self.assertEqual(refused.exception.field, "phone")
        with self.assertRaises(InputError) as refused:
            check_hand_over(HandOverRequest(every_days=8, phone="+45 00"))
        self.assertEqual(refused.exception.field, "every_days")


class ComesBack(unittest.TestCase):
    def test_what_was_done_becomes_entries_at_the_time_of_the_visit(self):
        feed = Feed(ago(1), "mysids", 2.0, 4.0, {Parameter.NITRATE: 30.0})
        book = Ledger(71.0, feeds=(feed,), top_offs=tuple(TopOff(ago(days), 0.6) for days in range(9, 0, -1)))
        soda = DailyDose(AlkalinitySource.SODA_ASH.value, 4.0, {Parameter.ALKALINITY: 80.0})
        sheet = given_over(BY_HAND, book, by_hand=[soda])
        visit = next(v for v in sheet.visits if any(w.key.startswith("task:skimmer") for w in v.work))
        at = datetime(2026, 12, 7, 9, tzinfo=UTC)
        found = entries_done(visit.work, book, [soda], at, {"skimmer_cup": 5.0})
        self.assertTrue(all(entry.at == at for entry in found))
        by_kind = {type(entry): entry for entry in found}
        # 2 portions in 14 days are a seventh a day, laid out as a half: a quarter of what 2 portions brought.
        self.assertEqual((by_kind[Feed].portions, by_kind[Feed].grams), (0.5, 1.0))
        self.assertEqual(by_kind[Feed].brought, {Parameter.NITRATE: 7.5})
        self.assertEqual(by_kind[TopOff].litres, 0.6)
        self.assertEqual((by_kind[Dose].mass_g, by_kind[Dose].routine), (4.0, True))
        self.assertEqual((by_kind[Care].task, by_kind[Care].minutes), ("skimmer_cup", 5.0))

    def test_food_after_a_note_leaves_no_entry(self):
        work = given_over().visits[0].work
        found = entries_done([w for w in work if w.key == "feed"], Ledger(300.0), [], NOW, {})
        self.assertEqual(found, [])
