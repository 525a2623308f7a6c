"""The failure board against the fish room's own water and heat: litres, salinity, degrees and hours within 15 %."""

import unittest
from dataclasses import replace
from random import Random

from salttide.core.science.oxygen import oxygen_h, oxygen_saturation_mg_l, oxygen_use_mg_l_h
from salttide.fishroom.basins import Flooding, by_lot, heat_out_w, oxygen_after, temperature_after
from tests.failure_trial import heat_pairs, water_pairs

TANKS = 3


class Trial(unittest.TestCase):
    def test_what_is_told_comes_within_15_percent_and_in_the_order_told(self):
        for seed in range(TANKS):
            pairs = water_pairs(by_lot(Random(seed)))
            for pair in pairs:
                with self.subTest(seed=seed, pair=pair):
                    self.assertTrue(pair.near)
            floors = [pair for pair in pairs if pair.what == "floor_l"]
            for one in floors:
                for other in floors:
                    if one.came > 1.3 * other.came + 2:
                        self.assertGreater(one.told, other.told, (seed, one, other))

    def test_degrees_and_hours_follow_from_one_logged_cooling(self):
        for seed in range(12):
            for pair in heat_pairs(by_lot(Random(seed))):
                with self.subTest(seed=seed, pair=pair):
                    self.assertTrue(pair.near)

    def test_oxygen_falls_when_it_is_told(self):
        for fish_g in (30.0, 200.0):
            hours = oxygen_h(200.0, 0.5, fish_g, 35.0, 25.0)
            assert hours is not None
            held, use = oxygen_saturation_mg_l(35.0, 25.0), oxygen_use_mg_l_h(200.0, fish_g, 25.0)
            self.assertAlmostEqual(
                oxygen_after(200.0, 0.5, float(held), float(use), 2.0, float(hours)), 4.0, delta=0.01
            )


class Model(unittest.TestCase):
    """The model keeps its water and its salt, and each part moves it the right way."""

    def setUp(self):
        self.built = replace(by_lot(Random(3)), reservoir_l=30.0, top_off_l_h=120.0, limit_min=0.0)

    def test_running_on_nothing_moves(self):
        tank = Flooding(self.built)
        tank.live(600)
        self.assertAlmostEqual(tank.y, 0.0, places=6)
        self.assertEqual((tank.floor_l, tank.left_l), (0.0, 30.0))

    def test_water_and_salt_are_kept(self):
        for how in ({"pump": False}, {"weir": False}, {"top_off": "open"}, {"hose": False}, {"skims_l_h": 3.0}):
            tank = Flooding(self.built)
            litres, grams = tank.up_l + tank.down_l + tank.left_l, tank.up_g + tank.down_g
            tank.live(1200, **how)
            with self.subTest(how):
                self.assertAlmostEqual(tank.up_l + tank.down_l + tank.left_l + tank.floor_l, litres, places=6)
                self.assertAlmostEqual(tank.up_g + tank.down_g + tank.floor_g, grams, places=6)

    def test_each_cause_moves_it_its_own_way(self):
        blocked, stopped = Flooding(self.built), Flooding(self.built)
        blocked.live(1200, weir=False)
        stopped.live(1200, pump=False)
        self.assertGreater(blocked.y, 1.0)
        self.assertLess(stopped.y, -0.5)
        self.assertIsNotNone(blocked.dry_s)
        self.assertGreater(heat_out_w(self.built, 27.0, 21.0), heat_out_w(self.built, 25.0, 21.0))
        self.assertGreater(temperature_after(self.built, 10, 500.0, 21.0, 25.0)[-1], 25.0)


if __name__ == "__main__":
    unittest.main()
