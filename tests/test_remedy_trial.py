"""The first remedy, followed literally in the fish room: it holds the water, breaks no limit, and beats the usual way.

The whole trial of twelve tanks is in the bench; here one of them for ten weeks."""

from __future__ import annotations

import unittest

from tests.remedy_trial import WATCHED, Outcome, run

SEED, DAYS = 6, 70


class FollowedLiterally(unittest.TestCase):
    advised: Outcome
    usual: Outcome

    @classmethod
    def setUpClass(cls) -> None:
        cls.advised, cls.usual = run(SEED, True, DAYS), run(SEED, False, DAYS)

    def test_it_holds_the_water_and_breaks_no_daily_limit(self) -> None:
        self.assertEqual(self.advised.broken, [])
        self.assertGreaterEqual(self.advised.within, 0.95)

    def test_it_is_better_than_correcting_each_symptom_and_takes_no_more_time(self) -> None:
        self.assertLessEqual(self.advised.out_days, 0.6 * self.usual.out_days)
        self.assertLessEqual(self.advised.minutes, 1.05 * self.usual.minutes)

    def test_both_are_judged_by_the_same_truth(self) -> None:
        # Days 28 to 69, five parameters each.
        self.assertEqual((self.advised.days, self.usual.days), (42, 42))
        self.assertEqual({*self.advised.out}, {*WATCHED})
        self.assertGreater(self.usual.out_days, 0, "a tank on which nothing happens proves nothing")
