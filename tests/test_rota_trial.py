"""The trial of the rota at a size that a run of the tests bears: the same bars as the measuring script."""

import unittest

from tests.rota_trial import trial


class Trial(unittest.TestCase):
    def test_twelve_systems_for_five_weeks_are_nearly_as_even_as_can_be(self):
        found = trial(seed=7, systems=12, weeks=5)
        self.assertGreater(found.pieces, 600)
        self.assertLessEqual(found.peak, 1.10 * found.bound)
        self.assertEqual(found.later, 0)
        self.assertLessEqual(found.moved, 0.05)
