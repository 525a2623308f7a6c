"""What is expected: by the rate, through what was done since and what is planned."""

import unittest
from dataclasses import replace
from datetime import timedelta

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from salttide.core.estimate.forecast import crossing, expect, matters, value_at
from salttide.core.estimate.rate import Rate
from salttide.core.ledger.entries import Change, Dose
from salttide.core.ledger.plan import DailyDose, Plan, daily_as_recorded
from salttide.core.ledger.verdict import EXPECTED_SDS
from salttide.core.science.parameters import FACTS, Parameter, Span
from tests.core.cases import NOW, change, ledger, reading

NO3, ALK, CA = Parameter.NITRATE, Parameter.ALKALINITY, Parameter.CALCIUM


def known(per_day, sd=0.004, level=2.9, level_sd=0.05, at=NOW):
    """A rate that is known, told until a moment."""
    low, high = per_day - 1.2816 * sd, per_day + 1.2816 * sd
    return Rate(per_day, sd, low, high, level, level_sd, 0.0, 0.0, None, 9, at - timedelta(days=40), at)


def ahead(days):
    return NOW + timedelta(days=days)


class Expected(unittest.TestCase):
    def setUp(self):
        self.book = ledger(reading(ALK, 2.9, 0, entry=1))

    def course(self, rate, plan=None, days=10, book=None, parameter=ALK):
        return expect(book or self.book, {parameter: rate}, plan or Plan(), NOW, ahead(days))[parameter]

    def test_the_very_moment_of_now_is_among_its_points(self):
        measured = ledger(reading(ALK, 2.9, 2.3, entry=1), change(1.7, 10, 2, alkalinity=2.9))
        course = self.course(known(-0.02, at=NOW - timedelta(days=2.3)), book=measured)
        self.assertEqual([p.at for p in course.points].count(NOW), 1)
        self.assertEqual([p.at for p in course.points].count(NOW - timedelta(days=1.7)), 2, "before it and after it")

    def test_as_far_as_a_moment_it_ends_at_that_moment(self):
        # 0.02 a day from 2.9: 2.85 after two and a half days, 2.86 after two.
        course = self.course(known(-0.02))
        for days, value in ((2.5, 2.85), (2.0, 2.86), (10.0, 2.7)):
            found = course.until(ahead(days))
            self.assertEqual([p.at for p in found].count(ahead(days)), 1)
            self.assertEqual(found[-1].at, ahead(days))
            self.assertAlmostEqual(found[-1].value, value)
        self.assertEqual(course.until(ahead(11)), course.points, "it ends where it ends")

    def test_falls_by_its_rate_and_steps_at_a_planned_change(self):
        # Day 5: 2.9 - 0.1 = 2.8; 20 of 100 L at 3.4: 2.92; day 10: 2.82.
        course = self.course(known(-0.02), Plan([Change(ahead(5), 20, 20, {ALK: 3.4})]))
        around = [p.value for p in course.points if p.at == ahead(5)]
        self.assertAlmostEqual(around[-2], 2.8)
        self.assertAlmostEqual(around[-1], 2.92)
        self.assertAlmostEqual(course.points[-1].value, 2.82)

    def test_the_daily_dose_goes_on_from_now(self):
        # 100 L: 3 meq a day are 0.03 meq/L, 0.01 more than is used: 3.0 after ten days.
        plan = Plan(daily=[DailyDose("soda", 1.0, {ALK: 3.0})])
        self.assertAlmostEqual(self.course(known(-0.02), plan).points[-1].value, 3.0)

    def test_what_was_done_since_the_last_reading_counts(self):
        # Read four days ago at 2.9, falling 0.02 a day; 5 meq in 100 L two days ago: 2.9 - 0.08 + 0.05 = 2.87 now.
        since = Dose(NOW - timedelta(days=2), "soda", 1.0, {ALK: 5.0}, True, id=2)
        book = ledger(reading(ALK, 2.9, 4, entry=1), since)
        course = self.course(known(-0.02, at=NOW - timedelta(days=4)), book=book)
        self.assertAlmostEqual(course.at(NOW).value, 2.87)

    def test_parameters_read_on_different_days_start_on_their_own(self):
        # Calcium was read before the change of six days ago, alkalinity after it: only calcium is moved by it.
        book = ledger(
            reading(CA, 400, 9, entry=1), change(6, 25, 2, calcium=440, alkalinity=9), reading(ALK, 2.9, 3, entry=3)
        )
        courses = expect(book, {ALK: None, CA: None}, Plan(), NOW, ahead(1))
        self.assertAlmostEqual(courses[CA].points[-1].value, 410)
        self.assertAlmostEqual(courses[ALK].points[-1].value, 2.9)
        self.assertEqual(courses[ALK].points[0].at, NOW - timedelta(days=3))

    def test_the_interval_holds_80_percent_and_widens(self):
        # Day 10: sd of level and rate sqrt(0.05^2 + (10 x 0.004)^2); the rate wanders by 0.02 x 0.02 a day and root of
        # days: (0.0004 x 10)^2 x 10/3 more.
        points = self.course(known(-0.02)).points
        sd = (0.05**2 + 0.04**2 + 0.004**2 * 10 / 3) ** 0.5
        self.assertAlmostEqual(points[-1].high - points[-1].low, 2 * 1.2816 * sd, places=6)
        widths = [point.high - point.low for point in points]
        self.assertEqual(widths, sorted(widths))

    def test_an_unlikely_story_far_off_does_not_widen_it(self):
        # The same interval of 80 %, with twice the deviation: what lies outside lies further outside.
        plain = known(-0.02)
        far = replace(plain, sd=0.008)
        self.assertAlmostEqual(self.course(far).points[-1].high, self.course(plain).points[-1].high)

    def test_without_a_rate_it_stays_and_the_interval_widens_all_the_same(self):
        points = self.course(None).points
        self.assertAlmostEqual(points[-1].value, 2.9)
        self.assertGreater(points[-1].high - points[-1].low, points[0].high - points[0].low)

    def test_nothing_is_expected_below_zero_and_what_is_added_then_counts_in_full(self):
        # Gone by day 2; 100 mg into 100 L on day 6 are 1 mg/L, and gone again by day 8.
        book = ledger(reading(NO3, 1.0, 0, entry=1))
        plan = Plan([Dose(ahead(6), "nitrate", 1.0, {NO3: 100.0})])
        course = self.course(known(-0.5, 0.05, 1.0, 0.1), plan, book=book, parameter=NO3)
        self.assertEqual((course.points[-1].value, course.points[-1].low), (0.0, 0.0))
        self.assertAlmostEqual(max(p.value for p in course.points if p.at == ahead(6)), 1.0)

    def test_what_each_planned_event_contributes(self):
        # +0.12 at once at the first change (2.8 to 2.92); four fifths of it are left after the second of 20 %.
        plan = Plan([Change(ahead(5), 20, 20, {ALK: 3.4}), Change(ahead(8), 20, 20, {ALK: 3.4})])
        first, second = self.course(known(-0.02), plan).parts
        self.assertAlmostEqual(first.at_once, 0.12)
        self.assertAlmostEqual(first.at_end, 0.096)
        # Before the second: 2.92 - 0.06 = 2.86; a fifth of the way to 3.4 is 0.108.
        self.assertAlmostEqual(second.at_once, 0.108)

    def test_temperature_and_what_was_never_measured_are_not_foretold(self):
        self.assertEqual(expect(self.book, {Parameter.TEMPERATURE: None, CA: None}, Plan(), NOW, ahead(3)), {})

    @given(
        st.floats(-0.1, 0.1), st.lists(st.tuples(st.floats(0.1, 300), st.floats(0.5, 40), st.floats(0, 6)), max_size=9)
    )
    def test_a_year_is_the_same_as_the_recursion_written_out(self, per_day, changes):
        plan = Plan([Change(ahead(day), litres, litres, {ALK: held}) for day, litres, held in changes])
        value, at = 2.9, 0.0
        for day, litres, held in sorted(changes, key=lambda row: ahead(row[0])):
            value = max(0.0, value + (day - at) * per_day)
            value, at = value * (1 - litres / 100) + held * litres / 100, day
        value = max(0.0, value + (300 - at) * per_day)
        self.assertAlmostEqual(self.course(known(per_day), plan, 300).points[-1].value, value, places=6)


class Crosses(unittest.TestCase):
    def setUp(self):
        book = ledger(reading(ALK, 2.9, 0, entry=1))
        self.points = expect(book, {ALK: known(-0.02)}, Plan(), NOW, ahead(10))[ALK].points

    def test_the_crossing_is_where_the_line_meets_the_edge(self):
        # 2.9 to 2.8 at 0.02 a day: five days.
        found = crossing(self.points, Span(2.8, 3.4), NOW)
        self.assertAlmostEqual((found.at - NOW) / timedelta(days=1), 5, places=6)
        self.assertIsNone(crossing(self.points, Span(2.0, 3.4), NOW))
        self.assertIsNone(crossing(self.points, Span(3.0, 3.4), NOW))

    def test_its_interval_says_from_when_to_when(self):
        # The lower edge starts at 2.9 - 1.2816 x 0.05 = 2.8359; the upper one stays above 2.8 for ten days:
        # 2.7 + 1.2816 x 0.0645 = 2.7827 at day ten, so it meets 2.8 shortly before.
        found = crossing(self.points, Span(2.8, 3.4), NOW)
        self.assertLess(found.earliest, found.at)
        self.assertTrue(ahead(8) < found.latest < ahead(10))

    def test_between_points_it_is_straight(self):
        self.assertAlmostEqual(value_at(self.points, ahead(2.5)).value, 2.85)
        self.assertIsNone(value_at(self.points, ahead(11)))

    def test_the_constant_is_that_of_80_percent(self):
        self.assertAlmostEqual(EXPECTED_SDS, 1.2815516, places=4)


class Daily(unittest.TestCase):
    def doses(self, *days, meq=7.0):
        return [Dose(NOW - timedelta(days=day), "soda", 2.0, {ALK: meq}, True, id=i) for i, day in enumerate(days, 1)]

    def test_the_mean_of_the_last_week_goes_on(self):
        # Six doses of 7 meq in seven days: 6 meq a day.
        book = ledger(*self.doses(20, 6.5, 5.5, 4.5, 2.5, 1.5, 0.5))
        (found,) = daily_as_recorded(book, NOW)
        self.assertAlmostEqual(found.amounts[ALK], 6.0)
        self.assertAlmostEqual(found.mass_g, 12 / 7)

    def test_one_that_began_three_days_ago_is_a_mean_of_three(self):
        (found,) = daily_as_recorded(ledger(*self.doses(2.5, 1.5, 0.5)), NOW)
        self.assertAlmostEqual(found.amounts[ALK], 7.0)

    def test_single_doses_and_what_ended_do_not_go_on(self):
        single = Dose(NOW - timedelta(days=1), "soda", 2.0, {ALK: 7.0}, id=9)
        self.assertEqual(daily_as_recorded(ledger(single, *self.doses(9, 8)), NOW), ())


class Quick(unittest.TestCase):
    def test_arrays_and_points_are_the_same(self):
        book = ledger(reading(ALK, 2.9, 0, entry=1))
        course = expect(book, {ALK: known(-0.02)}, Plan(), NOW, ahead(3))[ALK]
        self.assertTrue(np.allclose([point.value for point in course.points], course.value))


class Told(unittest.TestCase):
    def test_a_movement_is_told_from_a_hundredth_of_a_tests_error_on(self):
        sd = FACTS[Parameter.NITRATE].sd
        for share, told in ((0.0099, False), (0.0101, True), (-0.0101, True), (0.0, False)):
            with self.subTest(share=share):
                self.assertEqual(matters(Parameter.NITRATE, share * sd), told)
