"""The fish room's dosing: the stand-in pump errs as pumps do, and the advice holds against the hidden truth."""

from __future__ import annotations

import unittest

from salttide.core.estimate.dose_times import slots_of
from salttide.files.schedule import PumpSchedule, clock, schedule_csv, schedule_json
from salttide.fishroom.breathing import every_spread
from salttide.fishroom.pump import DosingPump
from tests.dosing_trial import kept, run
from tests.spread_trial import SODA, flattened

SODA_SLOTS = slots_of([1.0] * 24, 24.0, 0, 0.1)
SCHEDULES = [PumpSchedule("soda stock", "head 1", "Na2CO3", 25.0, SODA_SLOTS)]


def pump(content_ml: float = 1000.0) -> DosingPump:
    return DosingPump.from_json(schedule_json("Beacon", "UTC", SCHEDULES), {"soda stock": content_ml}, 7)


class StandIn(unittest.TestCase):
    def test_it_gives_what_the_file_says(self):
        found = pump()
        self.assertAlmostEqual(found.run_day()["soda stock"], 24.0, delta=0.3)
        self.assertAlmostEqual(found.heads["soda stock"].content_ml, 976.0, delta=0.3)
        self.assertEqual(len(found.log), 24)

    def test_json_and_csv_are_the_same_schedule(self):
        other = DosingPump.from_csv(schedule_csv(SCHEDULES), {"soda stock": 1000.0}, 7)
        self.assertEqual(other.heads["soda stock"].doses, pump().heads["soda stock"].doses)
        self.assertEqual(clock(1439), "23:59")

    def test_it_drifts_clogs_and_is_right_again_once_calibrated(self):
        found = pump()
        found.heads["soda stock"].drift = 0.01
        for _ in range(10):
            found.run_day()
        # A hundredth a day: 0.99 to the tenth.
        self.assertAlmostEqual(found.heads["soda stock"].flow, 0.99**10, places=9)
        found.clog("soda stock", 0.2)
        self.assertAlmostEqual(found.caught_ml("soda stock", 50.0), 50 * 0.99**10 * 0.8, delta=1.5)
        found.calibrate("soda stock")
        self.assertAlmostEqual(found.caught_ml("soda stock", 50.0), 50.0, delta=3.0)

    def test_it_runs_dry_and_no_further(self):
        found = pump(30.0)
        came = [found.run_day()["soda stock"] for _ in range(3)]
        self.assertAlmostEqual(sum(came), 30.0)
        self.assertIsNotNone(found.heads["soda stock"].dry_since)
        found.refill("soda stock", 500.0)
        self.assertAlmostEqual(found.run_day()["soda stock"], 24.0, delta=0.3)


class Advice(unittest.TestCase):
    def test_followed_it_holds_the_water_and_names_the_loss(self):
        followed, alone = run(2), run(2, advised=False)
        self.assertGreaterEqual(followed.within[0], 0.9)
        self.assertEqual(followed.within[1], 1.0)
        self.assertLess(alone.within[0], followed.within[0])
        self.assertLessEqual(followed.named_on - followed.lost_on, 14)

    def test_growth_is_not_taken_for_a_failing_pump(self):
        found = kept(3, loss=False, advised=True)
        self.assertEqual((found.accused, found.named), (0, 0))
        self.assertGreaterEqual(found.alkalinity, 0.9)


class Flattened(unittest.TestCase):
    def test_the_proposed_spread_reaches_most_of_what_a_search_finds(self):
        for seed in (0, 7):
            with self.subTest(seed=seed):
                found = flattened(seed, (SODA,))
                self.assertLess(found.proposed, found.before)
                self.assertGreaterEqual(found.reached, 0.8)

    def test_the_search_is_of_every_way(self):
        # Six sixths into eight stretches: 13 over 7.
        ways = every_spread(0.6, 1)
        self.assertEqual(len(ways), 1716)
        self.assertTrue(all(abs(way.sum() - 0.6) < 1e-9 for way in ways[::100]))
