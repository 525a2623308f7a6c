"""The drift over a window: a straight line through the mass balance."""

import unittest
from random import Random

from salttide.core.ledger.drift import drift
from salttide.core.science.parameters import FACTS, Parameter
from tests.core.cases import NOW, change, ledger, reading

NO3, ALK = Parameter.NITRATE, Parameter.ALKALINITY


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

    def test_it_is_that_of_the_residuals_where_they_scatter_by_more_than_is_stated(self):
        # Days 0, 2, 4, 6 with 10, 14, 10, 14: slope 8/20 = 0.4, residuals -0.8, 2.4, -2.4, 0.8, their squares 12.8;
        # two unknowns leave two degrees of freedom: sqrt(12.8 / 2) / sqrt(20).
        values = {6: 10.0, 4: 14.0, 2: 10.0, 0: 14.0}
        found = drift(ledger(*(reading(NO3, value, day) for day, value in values.items())), NO3, NOW)
        self.assertAlmostEqual(found.per_day, 0.4, places=9)
        self.assertAlmostEqual(found.sd, (6.4 / 20) ** 0.5, places=9)

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
