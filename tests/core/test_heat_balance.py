"""The heat balance by sums done by hand, and against a minute-by-minute sum of its own; oxygen in still water.

The tank: 1 m2 of surface, 0.5 m deep: panels 4 x 1 x 0.5 x 5.5 = 11, surface 10: 21 W/K. 500 L hold 2.045 MJ/K. 4 L a
day at 25 over 20 °C take 4 x 2 440 000 / 86 400 = 112.96 W. Vapour pressures by the formula of 1996, worked out by
hand: 3161.7 Pa at 25, 2333.4 at 20, 4236.7 at 30 °C; the steam tables have 3169, 2339 and 4246.
"""

import unittest
from dataclasses import replace
from math import exp, log

from salttide.core.basics.errors import DomainError
from salttide.core.science.heat_balance import (
    HeatBalance,
    dry_by_cooling_w_k,
    dry_by_duty_w_k,
    dry_loss_w_k,
    falls_to_h,
    fastest_k_h,
    holding_w,
    removing_w,
    rises_to_h,
    settles_at_c,
    vapour_pressure_pa,
)
from salttide.core.science.oxygen import oxygen_h, oxygen_saturation_mg_l, oxygen_use_mg_l_h
from salttide.core.science.parameters import Parameter
from salttide.core.system.endurance import air_after_h, battery_h, cold_after_h, fish_g, heat_balance
from salttide.core.system.heating import Heating, Lid, check_heating
from salttide.core.system.livestock import Animal
from tests.core.cases import BEACON
from tests.core.tables import TableTest

TANK = HeatBalance(500.0, dry_loss_w_k(1.0, 0.5), 4.0, 25.0, 20.0)


def minute_by_minute(gains_w, room_c, start_c, end_c):
    """Hours by the plainest sum: each minute's watts, written out anew."""

    def vapour(t):
        return 610.94 * exp(17.625 * t / (t + 243.04))

    now, minutes = start_c, 0
    while (now > end_c) if end_c < start_c else (now < end_c):
        wet = max(0.0, (vapour(now) - 0.5 * vapour(room_c)) / (vapour(25.0) - 0.5 * vapour(20.0)))
        out = 21.0 * (now - room_c) + 4.0 * wet * 2_440_000 / 86_400
        now += (gains_w - out) * 60 / (500.0 * 4090.0)
        minutes += 1
    return minutes / 60


class Balance(TableTest):
    def test_published_and_hand_derived(self):
        self.check([
            (vapour_pressure_pa, (25,), 3169, 10),  # steam tables
            (vapour_pressure_pa, (10,), 1228, 4),
            (dry_loss_w_k, (1.0, 0.5), 21.0, 1e-9),
            (holding_w, (TANK, 25, 20, 60), 21 * 5 + 112.96 - 60, 0.05),
            (holding_w, (TANK, 25, 20, 500), 0, 0),
            (settles_at_c, (TANK, 20, 21 * 5 + 112.963), 25.0, 1e-3),
            # 4 x (3161.7 - 2118.35) / 1995.0 = 2.0919 L a day take 59.08 W; 21 x -5 + 59.08 = -45.92.
            (removing_w, (TANK, 25, 30, 60), 105.92, 0.1),
            (removing_w, (TANK, 25, 20, 60), 0, 0),
            (fastest_k_h, (TANK, 25, 20, 317.963), 100 * 3600 / 2_045_000, 1e-4),
            # (0.5 x 300 + 60 - 112.96) / 5
            (dry_by_duty_w_k, (TANK, 300, 0.5, 60), 19.41, 0.01),
        ])  # fmt: skip

    def test_hours_are_those_of_a_sum_minute_by_minute(self):
        for gains, room, start, end in ((0.0, 18.0, 25.0, 22.0), (60.0, 15.0, 26.0, 20.0)):
            self.assertAlmostEqual(
                float(falls_to_h(TANK, room, gains, start, end)), minute_by_minute(gains, room, start, end), delta=0.03
            )
        self.assertAlmostEqual(
            float(rises_to_h(TANK, 21.0, 600.0, 25.0, 29.0)), minute_by_minute(600.0, 21.0, 25.0, 29.0), delta=0.03
        )

    def test_what_never_comes_and_what_is_there_already(self):
        self.assertIsNone(rises_to_h(TANK, 20.0, 60.0, 25.0, 28.0), "it cools")
        self.assertIsNone(falls_to_h(TANK, 20.0, 218.0, 25.0, 22.0), "it is held")
        self.assertEqual(float(rises_to_h(TANK, 20.0, 60.0, 29.0, 28.0)), 0.0)
        self.assertEqual(float(falls_to_h(TANK, 18.0, 0.0, 21.0, 22.0)), 0.0)

    def test_a_logged_cooling_gives_the_loss_that_cools_so(self):
        hours = minute_by_minute(0.0, 16.0, 25.0, 22.5)
        self.assertAlmostEqual(float(dry_by_cooling_w_k(TANK, 25.0, 22.5, hours, 16.0)), 21.0, delta=0.3)

    def test_the_working_is_that_of_the_number(self):
        settles = settles_at_c(TANK, 32.0, 60.0)
        self.assertEqual([step.symbol for step in settles.working], ["UA", "E", "P_e", "t_e"])
        self.assertAlmostEqual(TANK.out_w(float(settles), 32.0), 60.0, places=6)

    def test_out_of_range(self):
        self.refused([
            (dry_loss_w_k, (0, 0.5), DomainError),
            (holding_w, (TANK, 60, 20), DomainError),
            (settles_at_c, (TANK, 80, 0), DomainError),
            (dry_by_cooling_w_k, (TANK, 25, 17, 5, 18), DomainError),
            (dry_by_duty_w_k, (TANK, 300, 1.5, 0), DomainError),
        ])  # fmt: skip


class Oxygen(TableTest):
    def test_published_and_hand_derived(self):
        self.check([
            # Garcia & Gordon 1992, check value: 6.315 mL/L at 10 °C and 35, of 1.429 mg/mL.
            (oxygen_saturation_mg_l, (35, 10), 9.024, 0.02),
            (oxygen_use_mg_l_h, (200, 100, 25), 0.4 + 100 * 0.3 / 200, 1e-9),
            (oxygen_use_mg_l_h, (200, 0, 35), 0.8, 1e-9),  # doubled by ten degrees
        ])  # fmt: skip

    def test_hours_in_still_water(self):
        # k = 2 cm/h x 0.5 m2 x 10 / 200 L = 0.05 an hour; the use of 0.55 would balance a drop of 11 mg/L.
        held = float(oxygen_saturation_mg_l(35.0, 25.0))
        hours = log((0.9 * held - held + 11) / (4 - held + 11)) / 0.05
        self.assertAlmostEqual(float(oxygen_h(200.0, 0.5, 100.0, 35.0, 25.0)), hours, places=6)
        self.assertAlmostEqual(hours, 4.53, delta=0.02)

    def test_more_fish_less_surface_and_warmer_water_are_sooner(self):
        usual = float(oxygen_h(200.0, 0.5, 100.0))
        for sooner in (
            oxygen_h(200.0, 0.5, 300.0),
            oxygen_h(200.0, 0.3, 100.0),
            oxygen_h(200.0, 0.5, 100.0, 35.0, 29.0),
        ):
            self.assertLess(float(sooner), usual)
        self.assertIsNone(oxygen_h(200.0, 1.0, 0.0, exchange_cm_h=60.0))


class OfASystem(unittest.TestCase):
    def tank(self, **heating):
        return replace(BEACON, heating=Heating(**heating))

    def test_beacon_holds_out_as_long_as_its_own_heat(self):
        # 117.6 x 57.6 cm, 0.44 m: 4 x 0.82303 x 0.44 x 5.5 + 0.67738 x 10 = 14.74 W/K; 0.8 % of 334.05 L evaporate.
        balance = heat_balance(self.tank())
        self.assertAlmostEqual(float(balance.dry), 14.74, delta=0.01)
        self.assertAlmostEqual(balance.evaporates_l_day, 2.672, delta=0.001)
        known = heat_balance(self.tank(evaporates_l_day=3.1))
        self.assertEqual(known.evaporates_l_day, 3.1)
        # A lid keeps half of the dry surface's loss in.
        self.assertAlmostEqual(float(heat_balance(self.tank(lid=Lid.CLOSED)).dry), 14.74 - 0.67738 * 5, delta=0.01)

    def test_the_coldest_room_counts_when_the_power_fails(self):
        warm, cold = (float(cold_after_h(self.tank(cold_c=room), 25.3)) for room in (20.0, 12.0))
        self.assertLess(cold, warm)
        self.assertIsNone(cold_after_h(self.tank(cold_c=24.0, room_c=24.0, evaporates_l_day=0.0), 25.3))

    def test_a_log_counts_before_the_duty_and_that_before_the_measures(self):
        duty = self.tank(heaters_w=(200.0,), duty=0.6, evaporates_l_day=3.0)
        # 25.5 (the aim) over 21 °C: (0.6 x 200 - 3 x 28.24) / 4.5
        self.assertAlmostEqual(float(heat_balance(duty).dry), (120 - 3 * 28.2407) / 4.5, delta=0.02)
        logged = replace(duty.heating, cooled_from_c=25.3, cooled_to_c=22.0, cooled_h=6.0, cooled_room_c=18.0)
        self.assertAlmostEqual(float(cold_after_h(replace(duty, heating=logged), 25.3)), 6.0, delta=0.02)

    def test_fish_are_weighed_or_taken_as_usual(self):
        animals = (Animal(1, "clownfish", count=2, portions=2.0), Animal(2, "anemone", count=1))
        self.assertEqual(fish_g(replace(self.tank(), animals=animals)), 30.0)
        self.assertEqual(fish_g(replace(self.tank(fish_g=220.0), animals=animals)), 220.0)
        still = air_after_h(replace(self.tank(), animals=animals), 35.0, 25.0)
        stirred = air_after_h(replace(self.tank(), animals=animals), 35.0, 25.0, stirred=True)
        assert still is not None
        self.assertTrue(stirred is None or stirred > still)

    def test_a_battery_lasts_by_what_hangs_on_it(self):
        self.assertAlmostEqual(battery_h(self.tank(battery_wh=120.0, battery_w=6.0)), 17.0)  # 120 x 0.85 / 6
        self.assertEqual(battery_h(self.tank()), 0.0)

    def test_impossible_heating_is_refused_at_its_field(self):
        wrong = {
            "cold_c": Heating(room_c=18.0, cold_c=20.0),
            "hot_c": Heating(hot_c=19.0),
            "heaters_w": Heating(heaters_w=(0.0,)),
            "lamp_h": Heating(lamp_h=25.0),
            "cooled_h": Heating(cooled_from_c=25.0, cooled_to_c=22.0, cooled_room_c=18.0),
            "cooled_to_c": Heating(cooled_from_c=25.0, cooled_to_c=17.0, cooled_h=4.0, cooled_room_c=18.0),
        }
        for field, heating in wrong.items():
            with self.subTest(field), self.assertRaises(Exception) as raised:
                check_heating(heating)
            self.assertEqual(raised.exception.field, field)
        self.assertEqual(Parameter.TEMPERATURE.value, "temperature")


if __name__ == "__main__":
    unittest.main()
