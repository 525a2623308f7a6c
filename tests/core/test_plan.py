"""The plan as it stands and as it would be: moved, left out, added; doses of what stands on the shelf."""

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import InputError
from salttide.core.ledger.entries import Care, Change, Dose, ledger_of
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.next_up import Action, NextItem, together
from salttide.core.overview.upcoming import Ahead, Edit
from salttide.core.planning.work_order import (
    WORKING_HOUR,
    DoseWorkOrder,
    dose_event,
    job_words,
    planned_events,
    routine_change,
)
from salttide.core.science.parameters import Parameter
from salttide.core.system.additive_amount import grams_in, read_mass_g, rises, too_much
from salttide.core.system.shelf import Additive
from salttide.core.upkeep.care import Availability
from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.rota import WATER_CHANGE, Book, Planned
from salttide.core.upkeep.task import tasks
from tests.core.cases import BEACON, KITTIWAKE, NOW, SKIFF, TODAY, ZONE

ALK = Parameter.ALKALINITY
RULES = [Rule(tasks()[WATER_CHANGE], 7, 50)]
DONE = [Care(NOW - timedelta(days=3), WATER_CHANGE, 50)]
AMPLE = Availability(week=(240.0,) * 7)
SODA = DoseWorkOrder("soda ash", 3.0, {ALK: 56.6})


def day(ahead):
    return TODAY + timedelta(days=ahead)


class Edited(unittest.TestCase):
    def tried(self, ahead=None, **edit):
        """The days of changes and doses of a plan that is tried over three weeks."""
        ahead = ahead or Ahead(salt=KITTIWAKE)
        edited, found = Edit(**edit).of(ahead, Book(RULES, DONE), 1, AMPLE, TODAY, day(21), ZONE)
        plan = edited.plan(BEACON, ledger_of(100, []), found, NOW, ZONE)
        return sorted((event.at.astimezone(ZONE).date() - TODAY).days for event in plan.events)

    def test_the_routine_goes_on_every_week_from_the_last_change(self):
        self.assertEqual(self.tried(), [4, 11, 18])

    def test_one_that_is_moved_takes_those_after_it_along(self):
        self.assertEqual(self.tried(moved={(WATER_CHANGE, day(4), None): day(6)}), [6, 13, 20])

    def test_one_that_is_left_out_leaves_the_others(self):
        self.assertEqual(self.tried(gone={(WATER_CHANGE, day(4), None)}), [11, 18])

    def test_a_planned_step_is_moved_and_taken_off_by_its_number(self):
        step = Planned(5, day(2), "Dose", 5, "dose")
        ahead = Ahead([(step, SODA)], KITTIWAKE)
        self.assertEqual(self.tried(ahead), [2, 4, 11, 18])
        self.assertEqual(self.tried(ahead, moved={("dose", day(2), 5): day(9)}), [4, 9, 11, 18])
        self.assertEqual(self.tried(ahead, gone={("dose", day(2), 5)}), [4, 11, 18])

    def test_a_change_that_is_added_makes_the_routine_count_from_it(self):
        change = routine_change(BEACON, KITTIWAKE, NOW, 0.2)
        added = [(Planned(-1, day(1), "", 0, "water_change"), change)]
        self.assertEqual(self.tried(added=added), [8, 15])

    def test_daily_doses_can_be_tried_too(self):
        daily = (DailyDose("soda ash", 1.0, {ALK: 18.9}),)
        edited, found = Edit(daily=daily).of(Ahead(), Book(RULES, DONE), 1, AMPLE, TODAY, day(7), ZONE)
        plan = edited.plan(BEACON, ledger_of(100, []), found, NOW, ZONE)
        self.assertEqual(plan.per_day(ALK), 18.9)

    def test_work_of_a_day_is_expected_in_the_evening_and_never_before_now(self):
        late = NOW.replace(hour=20)
        ahead = Ahead([(Planned(5, TODAY, "Dose", 5, "dose"), SODA), (Planned(6, day(2), "Dose", 5, "dose"), SODA)])
        found = ahead.plan(BEACON, ledger_of(100, []), [], late, ZONE).events
        self.assertEqual(found[0].at, late)
        self.assertEqual(found[1].at, datetime.combine(day(2), WORKING_HOUR, ZONE))


class PlannedDose(unittest.TestCase):
    def test_it_is_one_dose_with_its_amounts(self):
        (event,) = planned_events(SODA, NOW)
        self.assertEqual(event, Dose(NOW, "soda ash", 3.0, {ALK: 56.6}))
        self.assertEqual(dose_event(SODA, NOW), event)
        self.assertEqual(job_words(SODA), "3.00 g soda ash")

    def test_a_change_of_another_share_holds_the_same_water(self):
        usual, twice = routine_change(BEACON, KITTIWAKE, NOW), routine_change(BEACON, KITTIWAKE, NOW, 0.24)
        self.assertIsInstance(twice, Change)
        self.assertAlmostEqual(twice.in_l, 2 * usual.in_l)
        self.assertEqual(twice.incoming, usual.incoming)


class Measured(unittest.TestCase):
    DRY = Additive(1, "soda ash", "Na2CO3")
    LOOSE = Additive(2, "soda ash", "Na2CO3", bulk_density_g_ml=1.05)
    STOCK = Additive(3, "soda stock", "Na2CO3", strength_g_l=100.0)

    def test_grams_and_millilitres(self):
        # 40 mL of 100 g/L are 4 g; 10 mL of a powder of 1.05 g/mL are 10.5 g; an ounce is 28.35 g.
        for text, additive, grams in (
            ("4 g", self.DRY, 4.0),
            ("1 oz", self.DRY, 28.3495),
            ("40 ml", self.STOCK, 4.0),
            ("0.04 l", self.STOCK, 4.0),
            ("10 ml", self.LOOSE, 10.5),
        ):
            with self.subTest(text=text):
                self.assertAlmostEqual(read_mass_g(text, additive), grams, places=3)

    def test_what_is_no_measure_of_it_is_refused_with_what_would_be(self):
        for text, additive, accepted in (
            ("40 ml", self.DRY, "grams"),
            ("4 g", self.STOCK, "millilitres"),
            ("4", self.DRY, ""),
            ("four g", self.DRY, ""),
            ("0 g", self.DRY, "such as"),
            ("-3 g", self.DRY, ""),
        ):
            with self.subTest(text=text), self.assertRaises(InputError) as caught:
                read_mass_g(text, additive)
            self.assertEqual(caught.exception.field, "amount")
            self.assertIn(accepted, caught.exception.accepted)

    @given(st.floats(0.1, 500), st.floats(20, 3000))
    def test_a_rise_times_the_volume_is_the_amount_of_the_mass(self, grams, volume):
        # 105.988 g of Na2CO3 are 2000 meq.
        self.assertAlmostEqual(rises(self.DRY, grams, volume)[ALK] * volume, grams / 105.988 * 2000, delta=0.01 * grams)
        self.assertEqual(grams_in(self.DRY, grams, False), grams)

    def test_more_than_a_days_limit_is_asked_about_by_the_systems_own(self):
        raised = {ALK: 0.3}
        self.assertEqual(too_much(BEACON, raised, {}), ())
        tight = replace(BEACON, own_limits=replace(BEACON.own_limits, alkalinity_meq_l=0.2))
        self.assertIn("Is it right?", too_much(tight, raised, {})[0])


class Together(unittest.TestCase):
    def item(self, way, urgent=False, title=""):
        return NextItem(way, title or way.value, "why", 5, urgent)

    def test_what_presses_first_then_work_then_tests_then_looks_each_by_system(self):
        beacon = [self.item(Action.TEST), self.item(Action.RECORD), self.item(Action.LOOK)]
        skiff = [self.item(Action.PLAN_CHANGE, True), self.item(Action.RECORD), self.item(Action.SEE)]
        found = [(system.name, item.way) for system, item in together([(BEACON, beacon), (SKIFF, skiff)])]
        self.assertEqual(
            found,
            [
                ("Skiff", Action.PLAN_CHANGE), ("Beacon", Action.RECORD), ("Skiff", Action.RECORD),
                ("Beacon", Action.TEST),
                ("Beacon", Action.LOOK),
            ],
        )  # fmt: skip

    def test_nothing_to_do_is_nothing(self):
        self.assertEqual(together([(BEACON, []), (SKIFF, [])]), [])
