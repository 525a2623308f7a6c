"""The board that work is placed on without a solver: what a day costs, by hand."""

import unittest

from salttide.core.upkeep.scheduling import bundle_up
from salttide.core.upkeep.scheduling_model import Bundle
from salttide.core.upkeep.scheduling_search import Board, level, peak, settled
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

    def test_a_little_more_of_a_cost_weighs_less_than_ten_minutes_that_stand_there(self):
        # Off the third day: a day that costs 1.5 with 5 minutes on it (2.0), or one that costs 0.5 with 10 (1.5).
        def bundle(task, minutes, days, system=1):
            return Bundle((work(task, 3, minutes, system=system),), {on(day): cost for day, cost in days.items()})

        bundles = [
            bundle("scrape", 10, {3: 0.0, 4: 1.5, 5: 0.5}), bundle("feed", 30, {3: 0.0}, 2),
            bundle("wipe", 5, {4: 0.0}, 2), bundle("sock", 10, {5: 0.0}, 2),
        ]  # fmt: skip
        board = Board(bundles, days(60, 60, 60, 60, 60, 60))
        for i, day in enumerate((3, 3, 4, 5)):
            board.put(i, on(day))
        level(board)
        self.assertEqual(board.stands[0], on(5))


if __name__ == "__main__":
    unittest.main()
