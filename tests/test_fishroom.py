"""The fish room: tanks obey their own physics, probes scatter as stated, and the core finds the hidden truth."""

from __future__ import annotations

import math
import unittest
from datetime import timedelta
from random import Random
from statistics import fmean, stdev

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from salttide.core.estimate.rate import rate_of
from salttide.core.ledger.entries import Change, Ledger, Reading
from salttide.core.science.parameters import Parameter
from salttide.fishroom.breathing import Breathing, Room, live
from salttide.fishroom.probes import Probe
from salttide.fishroom.tank import Habits, NewWater, Tank
from tests.core.cases import NOW


def tank(**habits: float) -> Tank:
    """100 L at 35 ppt, 3 meq/L, 420 Ca, 1300 Mg, 10 NO3, 0.1 PO4."""
    return Tank(100, 35, 3.0, 420, 1300, 10, 0.1, habits=Habits(**{"evaporation_share": 0.0, **habits}))


class Physics(unittest.TestCase):
    def test_evaporation_takes_water_and_leaves_salt(self):
        # 2 % of 100 L gone: S = 35 x 100 / 98 = 35.714. Topped off it is 35 again.
        room = tank(evaporation_share=0.01)
        room.live(2)
        self.assertAlmostEqual(room.level("salinity"), 35 * 100 / 98)
        room.top_off()
        self.assertAlmostEqual(room.level("salinity"), 35)

    def test_topped_off_short_of_the_mark_salinity_creeps_up(self):
        room = tank(evaporation_share=0.01)
        room.live(5)
        room.top_off_to(96)
        self.assertAlmostEqual(room.level("salinity"), 35 * 100 / 96)

    def test_calcification_takes_calcium_with_alkalinity(self):
        # 0.1 meq/L a day for 10 days: 1 meq/L, and 20.04 mg/L calcium with it.
        room = tank(alkalinity_use_meq=0.1)
        room.live(10)
        self.assertAlmostEqual(room.level("alkalinity"), 2.0)
        self.assertAlmostEqual(room.level("calcium"), 420 - 20.04)

    def test_a_change_mixes_by_amounts(self):
        room = tank()
        room.change(25, NewWater(31, 2.0, 400, 1200))
        self.assertAlmostEqual(room.level("salinity"), 35 * 0.75 + 31 * 0.25)
        self.assertAlmostEqual(room.level("nitrate"), 7.5)

    @given(st.floats(0.5, 4), st.floats(0.05, 0.5), st.floats(0.01, 0.5))
    def test_breaking_in_loses_no_nitrogen(self, ammonia, eaters, oxidisers):
        room = Tank(100, 35, 3, 420, 1300, 0, 0, ammonia_mg=ammonia, ammonia_eaters=eaters, nitrite_eaters=oxidisers)
        # Nitrogen by molar mass: NH3 17, NO2 46, NO3 62 g/mol.
        before = room.level("ammonia") / 17
        for _ in range(12):
            room.break_in(1)
        after = room.level("ammonia") / 17 + room.level("nitrite") / 46 + room.level("nitrate") / 62
        self.assertAlmostEqual(after, before, places=9)

    def test_breaking_in_uses_two_equivalents_for_each_ammonia(self):
        room = Tank(100, 35, 3.0, 420, 1300, 0, 0, ammonia_mg=1.7, ammonia_eaters=50, nitrite_eaters=50)
        for _ in range(10):
            room.break_in(1)
        # 1.7 mg/L are 0.1 mmol/L: 0.2 meq/L.
        self.assertAlmostEqual(room.level("alkalinity"), 2.8, places=3)

    def test_magnesium_goes_with_alkalinity_and_algae_eat_a_share(self):
        # 1 meq/L takes 1.6 mg/L of magnesium; a tenth a day eaten for ten days leaves 1/e.
        room = tank(alkalinity_use_meq=0.1, nutrient_eaten_share=0.1)
        room.live(10)
        self.assertAlmostEqual(room.level("magnesium"), 1300 - 1.6)
        self.assertAlmostEqual(room.level("nitrate"), 10 / math.e)
        self.assertAlmostEqual(room.level("phosphate"), 0.1 / math.e)

    def test_waste_is_made_by_the_litre_and_the_day(self):
        room = tank(nitrate_made_mg=0.5, phosphate_made_mg=0.01)
        room.live(4)
        self.assertAlmostEqual(room.level("nitrate"), 12.0)
        self.assertAlmostEqual(room.level("phosphate"), 0.14)

    def test_a_day_on_which_they_are_twice_as_busy(self):
        # Nothing goes out and nothing is used for skeletons: carbon rises by what is respired, twice as fast.
        quiet = Breathing(3.0, 0.0, 0.24, 0.0, (10, 10), (), 0.0, Room(500))
        busy = Breathing(3.0, 0.0, 0.48, 0.0, (10, 10), (), 0.0, Room(500))
        none = [(1.0, np.zeros(24))]
        for one, other in ((live(quiet, none, 1, waver=[2.0]), live(busy, none, 1)),):
            self.assertTrue(np.allclose(one, other))
        self.assertLess(live(busy, none, 1)[-1], live(quiet, none, 1)[-1])

    def test_ph_is_highest_in_the_evening_of_the_light(self):
        # Sines over the day with their zeros at eleven and at ten: highest six hours later, lowest as long before.
        hours, room = [hour / 4 for hour in range(96)], tank()
        self.assertEqual((max(hours, key=room.ph), min(hours, key=room.ph)), (17, 5))
        self.assertEqual((max(hours, key=room.temperature), min(hours, key=room.temperature)), (16, 4))

    def test_salt_that_is_lost_stays_lost(self):
        room = tank(salt_lost_share=0.001)
        room.live(10)
        self.assertAlmostEqual(room.level("salinity"), 35 * 0.99)

    def test_bacteria_that_are_fed_grow_by_the_hour(self):
        # So much ammonia and nitrite that they are fed to 99.97 %: 2 and 1.4 % an hour for a day.
        room = Tank(100, 35, 3, 420, 1300, 0, 0, ammonia_mg=1000, nitrite_mg=1000, ammonia_eaters=1e-9,
                    nitrite_eaters=1e-9)  # fmt: skip
        room.break_in(1)
        self.assertAlmostEqual(room.ammonia_eaters / 1e-9, 1.02**24, places=3)
        self.assertAlmostEqual(room.nitrite_eaters / 1e-9, 1.014**24, places=3)

    def test_carbon_by_the_hour(self):
        # 0.48 mmol/L a day respired, 0.24 fixed in ten hours of light from 10 on, 0.24 meq/L a day used for skeletons.
        breathing = Breathing(3.0, 0.24, 0.48, 0.24, (10, 10), (6.0,), 1.0, Room(500, 100))
        self.assertAlmostEqual(breathing.made(3), 0.02 - 0.005)
        self.assertAlmostEqual(breathing.made(7), 0.03 - 0.005, places=9)
        # At noon of the light the sine is 1: 0.24 pi / 20.
        self.assertAlmostEqual(breathing.made(15), 0.02 - 0.005 - 0.24 * math.pi / 20)
        hours = [step / 100 for step in range(2400)]
        self.assertAlmostEqual(sum(breathing.made(hour) for hour in hours) / 100, 0.48 + 0.03 - 0.24 - 0.12, places=4)
        self.assertEqual([breathing.room.at(hour) for hour in (16.9, 17, 22.9, 23, 41)], [500, 600, 600, 500, 600])

    def test_stale_room_air_lowers_ph_all_day(self):
        fresh, stale = tank(), tank(room_air_ph=0.15)
        for hour in (3, 9, 15, 21):
            self.assertAlmostEqual(fresh.ph(hour) - stale.ph(hour), 0.15)
        self.assertGreater(fresh.ph(17), fresh.ph(5))


class Probes(unittest.TestCase):
    def test_scatter_and_offset_are_as_stated(self):
        # 4000 readings: the mean is within 4 sd/sqrt(n) of truth + offset, the scatter within 5 % of what is stated.
        probe, chance = Probe("H1", "salinity", 0.45, 0.1, offset=-1.3), Random(3)
        readings = [probe.read(35, chance) for _ in range(4000)]
        self.assertAlmostEqual(fmean(readings), 33.7, delta=4 * 0.45 / 4000**0.5)
        self.assertAlmostEqual(stdev(readings), (0.45**2 + 0.1**2 / 12) ** 0.5, delta=0.05 * 0.45)

    def test_readings_stand_on_the_scale_and_never_below_zero(self):
        probe, chance = Probe("F1", "nitrate", 0.5, 0.1), Random(4)
        for _ in range(200):
            value = probe.read(0.1, chance)
            self.assertGreaterEqual(value, 0)
            self.assertAlmostEqual(value * 10, round(value * 10), places=6)


class BackTest(unittest.TestCase):
    """The core's drift against the truth of tanks it knows nothing of."""

    def record(self, seed: int, use: float) -> Ledger:
        """Four weeks: a test every two or three days, a 12 % change a week, alkalinity used up steadily."""
        room, chance = tank(alkalinity_use_meq=use), Random(seed)
        probe = Probe("kit", "alkalinity", 0.045, 0.0357)
        readings, changes = [], []
        for day in range(28):
            room.live(1)
            at = NOW - timedelta(days=27 - day)
            if day % 7 == 5:
                room.change(12, NewWater(35, 3.0, 420, 1300))
                changes.append(Change(at, 12, 12, {Parameter.ALKALINITY: 3.0}, day + 1))
            elif chance.random() < 0.4:
                readings.append(
                    Reading(at, Parameter.ALKALINITY, probe.read(room.level("alkalinity"), chance), 0.046, "kit")
                )
        return Ledger(100.0, readings, changes)

    def test_the_interval_of_80_percent_holds_the_truth(self):
        for use in (0.0, 0.02, 0.06):
            held = found = 0
            for seed in range(60):
                estimate = rate_of(self.record(seed, use), Parameter.ALKALINITY, NOW)
                if estimate:
                    found += 1
                    held += estimate.low <= -use <= estimate.high
            with self.subTest(use=use):
                self.assertGreaterEqual(found, 55)
                # Of sixty at 80 % there are 42 and more in 97 of 100 such trials (binomial).
                self.assertGreaterEqual(held, 0.7 * found)

    def test_a_real_use_is_called_real_and_none_is_not(self):
        real = [rate_of(self.record(seed, 0.06), Parameter.ALKALINITY, NOW).real for seed in range(20)]
        self.assertTrue(all(real))
        # Two sd: about one in twenty may be called real by chance.
        false = [rate_of(self.record(seed, 0.0), Parameter.ALKALINITY, NOW).real for seed in range(60)]
        self.assertLessEqual(sum(false), 8)
