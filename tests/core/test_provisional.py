"""A first rate from two tests: by hand from the mass balance and the two tests' scatter."""

import unittest
from datetime import timedelta
from math import sqrt

from salttide.core.estimate.provisional import provisional_rate
from salttide.core.ledger.entries import Dose, Ledger, Reading
from salttide.core.science.parameters import Parameter
from tests.core.cases import NOW

ALKALINITY = Parameter.ALKALINITY


def result(days: float, value: float, instrument: str = "kit", sd: float = 0.04) -> Reading:
    return Reading(NOW - timedelta(days=days), ALKALINITY, value, sd, instrument)


class FirstFigure(unittest.TestCase):
    def test_a_dose_between_the_tests_is_taken_off(self):
        # 100 L: 10 meq raise it by 0.1. (2.8 - 3.0 - 0.1) / 4 = -0.075 a day.
        dose = Dose(NOW - timedelta(days=2), "soda", 1.0, {ALKALINITY: 10.0})
        found = provisional_rate(Ledger(100.0, [result(4, 3.0), result(0, 2.8)], doses=[dose]), ALKALINITY, NOW)
        assert found
        self.assertAlmostEqual(found.per_day, -0.075, places=9)
        # Two tests of 0.04 each over four days, 80 % of a normal distribution: 1.2816 x 0.04 x sqrt(2) / 4 = 0.0181.
        self.assertAlmostEqual(found.high - found.per_day, 1.2816 * 0.04 * sqrt(2) / 4, places=9)
        self.assertTrue(found.clear)
        self.assertEqual((found.tests_more, found.known_from), (2, NOW + timedelta(days=2)))

    def test_close_tests_leave_it_open(self):
        found = provisional_rate(Ledger(100.0, [result(1, 3.0), result(0, 2.97)]), ALKALINITY, NOW)
        assert found
        # 0.03 down in a day, and 1.2816 x 0.04 x sqrt(2) = 0.0725 to either side.
        self.assertFalse(found.clear)
        self.assertAlmostEqual(found.low, -0.03 - 0.0725, places=4)

    def test_another_kit_or_less_than_a_day_is_no_figure(self):
        for readings in (
            [result(0, 2.8)],
            [result(0.9, 3.0), result(0, 2.8)],
            [result(4, 3.0, "other"), result(0, 2.8)],
            [],
        ):
            with self.subTest(readings=len(readings)):
                self.assertIsNone(provisional_rate(Ledger(100.0, readings), ALKALINITY, NOW))
