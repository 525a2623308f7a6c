"""Mass balance, drift and expected values."""

import unittest
from datetime import timedelta
from random import Random

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.dilution import dilute
from salttide.core.estimate import Drift, drift
from salttide.core.forecast import crossing, expected, joined, value_at
from salttide.core.ledger import Change, Dose, apply, present
from salttide.core.parameters import FACTS, Parameter, Span
from tests.core.cases import NOW, ledger, reading

NO3, ALK = Parameter.NITRATE, Parameter.ALKALINITY


def change(days_ago: float, litres: float, entry: int = 0, **incoming: float) -> Change:
    return Change(NOW - timedelta(days=days_ago), litres, litres, {Parameter(k): v for k, v in incoming.items()}, entry)


def dose(days_ago: float, meq: float, entry: int = 0) -> Dose:
    return Dose(NOW - timedelta(days=days_ago), "soda ash", 1.0, {ALK: meq}, id=entry)


class MassBalance(unittest.TestCase):
    def test_weekly_10_and_fortnightly_20_percent_are_not_quite_the_same(self):
        # (1 - 0.1)^2 = 0.81 against 1 - 0.2 = 0.80 left.
        self.assertAlmostEqual(dilute(dilute(1.0, 0, 0.1), 0, 0.1), 0.81)
        self.assertAlmostEqual(dilute(1.0, 0, 0.2), 0.80)

    def test_a_change_mixes_by_amounts(self):
        # 100 L at 20 mg/L, 25 L out and in without nitrate: 15. With 30 L in: 1500 mg / 105 L.
        self.assertAlmostEqual(apply(NO3, 20, change(0, 25, nitrate=0), 100), 15)
        uneven = Change(NOW, 25, 30, {NO3: 0.0})
        self.assertAlmostEqual(apply(NO3, 20, uneven, 100), 1500 / 105)

    def test_a_dose_adds_its_amount(self):
        self.assertAlmostEqual(apply(ALK, 2.5, dose(0, 30), 100), 2.8)

    def test_new_water_of_unknown_content_leaves_the_level(self):
        self.assertAlmostEqual(apply(Parameter.CALCIUM, 410, change(0, 25, nitrate=0), 100), 410)

    @given(st.floats(0, 100), st.floats(0, 100), st.floats(0.01, 0.5), st.integers(2, 6))
    def test_splitting_a_change_never_removes_more_than_one_at_once(self, before, excess, fraction, parts):
        incoming, value = before, before + excess
        split = value
        for _ in range(parts):
            split = dilute(split, incoming, fraction / parts)
        self.assertGreaterEqual(split, dilute(value, incoming, fraction) - 1e-9)


class Present(unittest.TestCase):
    def test_the_last_reading_carried_through_what_came_later(self):
        book = ledger(reading(NO3, 20, 2), change(1, 25, 5, nitrate=0), change(3, 50, 1, nitrate=0))
        known = present(book, NO3)
        self.assertAlmostEqual(known.value, 15)
        self.assertFalse(known.measured)

    def test_at_one_moment_the_order_of_entry_counts(self):
        book = ledger(reading(NO3, 20, 0, entry=7), change(0, 25, 3, nitrate=0))
        self.assertAlmostEqual(present(book, NO3).value, 20)
        book = ledger(reading(NO3, 20, 0, entry=3), change(0, 25, 7, nitrate=0))
        self.assertAlmostEqual(present(book, NO3).value, 15)

    def test_never_measured(self):
        self.assertIsNone(present(ledger(), NO3))


class DriftEstimate(unittest.TestCase):
    def test_exact_readings_give_the_exact_drift_through_changes_and_doses(self):
        # 100 L, nitrate rising 0.5 a day from 10; on day 6 a change of 20 % with clean water: (10 + 3) x 0.8 = 10.4.
        days = {0: 10.0, 3: 11.5, 6: 13.0, 9: 10.4 + 1.5, 12: 10.4 + 3.0}
        book = ledger(*(reading(NO3, v, 12 - d, entry=d) for d, v in days.items()), change(12 - 6, 20, 7, nitrate=0))
        found = drift(book, NO3, NOW)
        self.assertAlmostEqual(found.per_day, 0.5, places=9)
        self.assertEqual(found.count, 5)

    def test_its_standard_deviation_is_that_of_a_straight_line(self):
        # Five readings at days 0, 3, 6, 9, 12: sum of squares about the mean 90. sd of slope = sd / sqrt(90).
        book = ledger(*(reading(NO3, 10.0, day) for day in (12, 9, 6, 3, 0)))
        self.assertAlmostEqual(drift(book, NO3, NOW).sd, FACTS[NO3].sd / 90**0.5, places=9)

    def test_scattered_readings_give_the_truth_within_its_interval(self):
        # 200 made-up records of known drift: the interval of two sd holds the truth in about 95 of 100.
        chance, held = Random(7), 0
        for _ in range(200):
            readings = [reading(ALK, 2.9 - 0.02 * day + chance.gauss(0, 0.05), 24 - day) for day in range(0, 25, 3)]
            found = drift(ledger(*readings), ALK, NOW)
            held += abs(found.per_day + 0.02) <= 2 * found.sd
        self.assertGreaterEqual(held, 180)

    def test_too_little_says_so(self):
        self.assertIsNone(drift(ledger(*(reading(NO3, 10, d) for d in (9, 5, 0))), NO3, NOW))
        self.assertIsNone(drift(ledger(*(reading(NO3, 10, d) for d in (3, 2, 1, 0))), NO3, NOW))

    def test_readings_of_another_instrument_do_not_count(self):
        mixed = [reading(NO3, 10 + d, d, "old") for d in (20, 18, 16)] + [reading(NO3, 10, d) for d in (9, 6, 3, 0)]
        self.assertAlmostEqual(drift(ledger(*mixed), NO3, NOW).per_day, 0)


class Expected(unittest.TestCase):
    def setUp(self):
        self.book = ledger(reading(ALK, 2.9, 0, entry=1))
        self.falling = Drift(-0.02, 0.004, 9)
        self.until = NOW + timedelta(days=10)

    def test_falls_by_its_drift_and_steps_at_a_planned_change(self):
        # Day 5: 2.9 - 0.1 = 2.8; 20 of 100 L at 3.4: 2.92; day 10: 2.82.
        planned = [Change(NOW + timedelta(days=5), 20, 20, {ALK: 3.4})]
        points = expected(self.book, ALK, self.falling, planned, self.until)
        around = [p.value for p in points if p.at == NOW + timedelta(days=5)]
        self.assertAlmostEqual(around[0], 2.8)
        self.assertAlmostEqual(around[-1], 2.92)
        self.assertAlmostEqual(points[-1].value, 2.82)

    def test_the_interval_widens_with_time(self):
        # sd at day 10: sqrt(0.05^2 + (10 x 0.004)^2) = 0.06403; two of them either way.
        points = expected(self.book, ALK, self.falling, [], self.until)
        self.assertAlmostEqual(points[-1].high - points[-1].low, 4 * 0.06403, places=4)
        widths = [point.high - point.low for point in points]
        self.assertEqual(widths, sorted(widths))

    def test_a_drift_that_is_not_real_moves_nothing(self):
        points = expected(self.book, ALK, Drift(-0.02, 0.02, 9), [], self.until)
        self.assertAlmostEqual(points[-1].value, 2.9)

    def test_the_crossing_is_where_the_line_meets_the_edge(self):
        # 2.9 to 2.8 at 0.02 a day: five days.
        points = expected(self.book, ALK, self.falling, [], self.until)
        found = crossing(points, Span(2.8, 3.4), NOW)
        self.assertAlmostEqual((found.at - NOW).total_seconds() / 86400, 5, places=6)
        self.assertIsNone(crossing(points, Span(2.0, 3.4), NOW))
        self.assertIsNone(crossing(points, Span(3.0, 3.4), NOW))

    def test_nothing_is_expected_below_zero(self):
        book = ledger(reading(NO3, 1.0, 0, entry=1))
        points = expected(book, NO3, Drift(-0.5, 0.05, 9), [], self.until)
        self.assertEqual((points[-1].value, points[-1].low), (0.0, 0.0))

    def test_between_points_it_is_straight(self):
        points = expected(self.book, ALK, self.falling, [], self.until)
        self.assertAlmostEqual(value_at(points, NOW + timedelta(days=2.5)).value, 2.85)

    def test_the_joined_line_goes_through_the_readings_and_steps_at_the_change(self):
        readings = [reading(NO3, 10, 4, entry=1), reading(NO3, 10, 0, entry=3)]
        book = ledger(*readings, change(2, 20, 2, nitrate=0))
        # r from (10 + 2r) x 0.8 + 2r = 10: r = 2/3.6; before the change 11.111, after it 8.889.
        values = [value for _, value in joined(book, NO3, readings)]
        for found, wanted in zip(values, [10, 11.1111, 8.8889, 10], strict=True):
            self.assertAlmostEqual(found, wanted, places=4)
