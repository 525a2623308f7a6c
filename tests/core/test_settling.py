"""Where a level settles between production and changes: against a day-by-day simulation, and by hand."""

import unittest

from salttide.core.estimate.settling import settling
from salttide.core.estimate.supplementation import Changes
from salttide.core.science.parameters import Parameter

NO3 = Parameter.NITRATE


class Settles(unittest.TestCase):
    def test_by_hand(self):
        # A tenth a week with clean water and 0.2 a day: 1.4 a week, so 14 before a change and 12.6 after: 13.3. Each
        # change leaves 0.9 of the way: ln 0.1 / ln 0.9 = 21.85 weeks.
        found = settling(0.2, Changes(0.1, 7, {NO3: 0.0}), NO3)
        self.assertAlmostEqual(found.level, 13.3)
        self.assertAlmostEqual(found.weeks, 21.854, places=3)
        # New water of 0.5, a quarter every fortnight, half of it a day: 0.5 + 0.1 · 14 · 3.5.
        self.assertAlmostEqual(settling(0.1, Changes(0.25, 14, {NO3: 0.5}), NO3).level, 5.4)

    def test_as_a_simulation_has_it(self):
        for per_day, share, days, new in ((0.3, 0.15, 10, 1.0), (-0.05, 0.2, 7, 3.0)):
            level, seen, weeks = 20.0, [], None
            found = settling(per_day, Changes(share, days, {NO3: new}), NO3)
            for day in range(1, 400 * days):
                level += per_day
                if day % days == 0:
                    level += share * (new - level)
                    far = abs(level + per_day * days / 2 - found.level)
                    weeks = weeks or (day / 7 if far <= 0.1 * abs(20.0 + per_day * days / 2 - found.level) else None)
                seen.append(level)
            mean = sum(seen[-days:]) / days
            with self.subTest(per_day=per_day):
                # The simulation notes the end of each day: its mean is up to half a day's rate off.
                self.assertAlmostEqual(mean, found.level, delta=abs(per_day) / 2 + 1e-6)
                self.assertAlmostEqual(weeks, found.weeks, delta=days / 7)

    def test_nothing_is_below_nothing_and_what_is_not_known_is_not_told(self):
        self.assertEqual(settling(-1.0, Changes(0.1, 7, {NO3: 0.0}), NO3).level, 0.0)
        self.assertIsNone(settling(0.1, Changes(0.1, 7, {}), NO3))
        self.assertIsNone(settling(0.1, Changes(1.0, 7, {NO3: 0.0}), NO3))
        self.assertIsNone(settling(0.1, Changes(0.0, 7, {NO3: 0.0}), NO3))
