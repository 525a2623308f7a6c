"""What was missed of a plan moves on: no two of its steps share a day's limit."""

import unittest
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.planning.missed_steps import PlanPart, replanned
from salttide.core.planning.work_order import DoseWorkOrder, VisualCheckOrder
from salttide.core.science.parameters import Parameter
from salttide.core.upkeep.rota import Planned

MON = date(2026, 11, 23)
DOSE = DoseWorkOrder("soda ash", 3.0, {Parameter.ALKALINITY: 56.6}, made_at="2026-11-22T18:00:00+00:00")


def day(number):
    return MON + timedelta(days=number)


def part(number, plan="one", work=DOSE, task="dose", step_id=None):
    return PlanPart(plan, Planned(number if step_id is None else step_id, day(number), "Dose", 5.0, task), work)


def days(parts, late=None, today=MON):
    return [(step.step_id, (step.day - MON).days) for step, _ in replanned(parts, late or {}, today)]


class Missed(unittest.TestCase):
    def test_what_is_not_missed_stays(self):
        self.assertEqual(days([part(0), part(1), part(3)]), [(0, 0), (1, 1), (3, 3)])

    def test_a_missed_dose_takes_the_rest_with_it(self):
        # Monday's was missed, today is Wednesday: Wednesday, Thursday, and the gap to the last stays two days.
        self.assertEqual(days([part(0), part(1), part(3)], today=day(2)), [(0, 2), (1, 3), (3, 5)])

    def test_a_dose_that_was_given_late_leaves_the_next_a_day_of_its_own(self):
        self.assertEqual(days([part(1), part(2)], {"one": 1}, day(1)), [(1, 2), (2, 3)])

    def test_its_tests_move_with_it_and_other_plans_do_not(self):
        look = part(1, work=VisualCheckOrder("2026-11-24T20:00:00Z", "check"), task="look", step_id=9)
        other = part(0, "two", step_id=7)
        self.assertEqual(days([part(0), look, other], {"one": 1}), [(7, 0), (0, 1), (9, 2)])
        # A look by itself waits where it is.
        self.assertEqual(days([look], today=day(5)), [(9, 1)])

    def test_a_dose_of_another_plan_keeps_no_day_clear(self):
        other = part(2, "two", step_id=8)
        self.assertEqual(days([part(0), part(1), other], today=day(1)), [(0, 1), (1, 2), (8, 2)])

    def test_what_was_planned_for_the_day_of_another_plans_change_stays_there(self):
        change = part(1, "change", task="water_change", step_id=5)
        self.assertEqual(days([part(0), part(1), change]), [(0, 0), (1, 1), (5, 1)])

    def test_a_day_on_which_another_plan_changes_water_is_kept_clear(self):
        change = part(2, "change", task="water_change", step_id=5)
        self.assertEqual(days([part(0), part(1), change], today=day(1)), [(0, 1), (5, 2), (1, 3)])

    @given(st.sets(st.integers(0, 30), min_size=1, max_size=10), st.integers(0, 40), st.integers(-3, 10))
    def test_no_two_doses_of_a_plan_share_a_day_and_none_lies_behind(self, numbers, today, late):
        found = [number for _, number in days([part(number) for number in numbers], {"one": late}, day(today))]
        self.assertEqual(len(found), len(set(found)))
        self.assertGreaterEqual(min(found), min(max(today, min(numbers)), max(numbers) + 40))
