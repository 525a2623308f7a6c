"""The board that work is placed on without a solver: what a day costs, by hand."""

import unittest

from salttide.core.upkeep.scheduling import bundle_up
from salttide.core.upkeep.scheduling_search import Board, peak, settled
from tests.core.test_scheduling import days, on, work


class Prices(unittest.TestCase):
    def setUp(self):
        known = days(60, 60, 60, 60, 0)
        wanted = [
            work("scrape", 3, 20, early=1, late=1), work("feed", 3, 30, early=1, late=1, system=2),
            work("wipe", 3, 10, early=1, late=1),
        ]  # fmt: skip
        self.bundles = bundle_up(wanted, known)
        self.at = {task: i for i, bundle in enumerate(self.bundles) for task in bundle.tasks}
        self.board = Board(self.bundles, known)

    def test_what_stands_on_a_day(self):
        self.board.put(self.at["scrape"], on(3))
        self.assertEqual(self.board.load[on(3)], 20)
        self.assertEqual((self.board.over(on(3), 40), self.board.over(on(3), 45)), (0, 5))
        self.assertAlmostEqual(self.board.fullness(on(3)), 20 / 60)
        self.assertAlmostEqual(self.board.fullness(on(3), 10), 30 / 60)
        self.assertEqual(self.board.fullness(on(4), 10), 0, "a day without minutes")
        self.assertEqual(self.board.take(self.at["scrape"]), on(3))
        self.assertEqual(self.board.load[on(3)], 0)

    def test_what_a_day_costs(self):
        # On its due day: 30 of 60 minutes, 30² / 2 / 60 = 7.5, and 4 for a round of its own.
        feed = self.at["feed"]
        self.assertAlmostEqual(self.board.price(feed, on(3)), 7.5 + 4)
        # Beside 20 minutes of another system: (50² - 20²) / 2 / 60 = 17.5.
        self.board.put(self.at["scrape"], on(3))
        self.assertAlmostEqual(self.board.price(feed, on(3)), 17.5 + 4)
        # Of the same system no second round; 10 more of 60: (30² - 20²) / 2 / 60 = 4.1667.
        self.assertAlmostEqual(self.board.price(self.at["wipe"], on(3)), 500 / 120)
        # A day without minutes: 10 over at 60, and what a day after the due day costs.
        late = self.bundles[self.at["wipe"]].days[on(4)]
        self.assertAlmostEqual(self.board.price(self.at["wipe"], on(4)), 600 + 4 + late)

    def test_the_fullest_day_is_eased(self):
        for i in range(3):
            self.board.put(i, on(3))
        self.assertEqual(peak(self.bundles, self.board.stands), 60)
        # 30 apart from 20 and 10: no day can hold less than 30.
        self.assertEqual(peak(self.bundles, settled(self.board)), 30)


if __name__ == "__main__":
    unittest.main()
