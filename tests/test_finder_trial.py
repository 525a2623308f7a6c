"""Found plans hold when the rates are a tenth off, or the day to test again shows it."""

import unittest

from tests.finder_trial import trial


class WrongRates(unittest.TestCase):
    def test_no_plan_leaves_a_band_before_a_test_would_show_it(self) -> None:
        found = trial(8)
        self.assertGreaterEqual(found.plans, 6)
        self.assertLessEqual(found.unnoticed / found.plans, 0.1)
