"""Day and night: gas exchange estimated from pH, the predicted day, the spread that flattens it, what air can mend."""

import unittest
from math import pi, sin

from hypothesis import given, settings
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, PlanError
from salttide.core.estimate.dose_timing import flattest, responses
from salttide.core.estimate.gas_exchange import (
    HOURS,
    STEPS,
    DayDoses,
    GasExchange,
    MeanWater,
    alkalinity_over_day,
    carbon_per_meq,
    even_doses,
    gas_exchange_of,
    hourly_means,
    outdoor_gain,
)
from salttide.core.science.carbonate import carbonate_from_pco2, carbonate_from_ph_nbs
from salttide.core.science.dosing import PH_LIMIT_OF_A_DOSE
from salttide.core.science.ph_effect import ph_effect_of_dose
from salttide.fishroom.breathing import hydrogen, live, meter_ph, settled_swing, some_tank

WATER = MeanWater(2.9, 35.0, 25.0, 0.25)
SODA, BICARBONATE = "Na2CO3", "NaHCO3"
EXCHANGE = 0.8


def breathing(amplitude=0.03, exchange=EXCHANGE, pco2=500.0):
    """A day that takes carbon by day and gives it by night, around what is in balance with this air."""
    held = carbonate_from_pco2(pco2, 2.9, 35.0, 25.0).carbon_dioxide_mmol_l
    source = tuple(exchange * held - amplitude * sin((hour - 9) / 12 * pi) for hour in range(HOURS))
    return GasExchange(WATER, source, exchange, 0.6, 1.0, 14)


def once(total, hour):
    return DayDoses(SODA, tuple(total if each == hour else 0.0 for each in range(HOURS)))


class Hours(unittest.TestCase):
    def test_means_by_hours_since_a_midnight(self):
        # Midnight a day after 1970 began; half past one, a quarter to two, and ten to midnight the day before.
        midnight = 86_400
        at = [midnight + 5_400, midnight + 6_300, midnight - 600]
        self.assertEqual(hourly_means(at, [8.0, 8.2, 7.0], midnight), {1: 8.1})


class Answer(unittest.TestCase):
    def test_ph_answers_to_a_moved_dose_as_the_prediction_itself_does(self):
        # The slope of the prediction, by moving a thousandth of a meq/L from six in the morning to six in the evening.
        for exchange in (0.05, 0.8, 3.0):
            around, small = breathing(exchange=exchange), 1e-3
            doses = even_doses(SODA, 0.24)
            slopes, alkalinity = responses(around, [doses])
            moved = list(doses.meq_l)
            moved[6], moved[18] = moved[6] - small, moved[18] + small
            other = DayDoses(SODA, tuple(moved))
            by_ph = [(b - a) / small for a, b in zip(around.day([doses]).ph, around.day([other]).ph, strict=True)]
            by_line = (alkalinity_over_day(WATER, [other]) - alkalinity_over_day(WATER, [doses])) / small
            for quarter in range(STEPS):
                with self.subTest(exchange=exchange, quarter=quarter):
                    self.assertAlmostEqual(slopes[quarter, 18] - slopes[quarter, 6], by_ph[quarter], delta=2e-3)
                    self.assertAlmostEqual(alkalinity[quarter, 18] - alkalinity[quarter, 6], by_line[quarter], places=6)


class Prediction(unittest.TestCase):
    def test_without_a_rhythm_the_water_stands_in_balance_with_the_air(self):
        flat = breathing(0.0)
        day = flat.day([])
        expected = carbonate_from_pco2(500.0, 2.9, 35.0, 25.0).ph_nbs
        self.assertAlmostEqual(day.lowest, expected, places=5)
        self.assertLess(day.swing, 1e-6)

    def test_bicarbonate_gassed_out_ends_in_the_same_balance_on_average(self):
        # Carbon that comes with it has to go out: pCO2 stands higher by dose/K.
        dosed = breathing(0.0).day([even_doses(BICARBONATE, 0.24)])
        state = carbonate_from_ph_nbs(dosed.mean, 2.9, 35.0, 25.0)
        held = carbonate_from_pco2(500.0, 2.9, 35.0, 25.0).carbon_dioxide_mmol_l
        self.assertAlmostEqual(state.carbon_dioxide_mmol_l, held + 0.01 / EXCHANGE, delta=1e-4)

    def test_alkalinity_goes_up_with_the_dose_and_down_by_a_steady_uptake(self):
        line = alkalinity_over_day(WATER, [once(0.24, 6)])
        self.assertAlmostEqual(float(line.mean()), 2.9)
        # Uptake of 0.01 an hour; within the hour of the dose 0.23 up.
        self.assertAlmostEqual(float(line[23] - line[0]), -0.01 * 23 / 4, places=6)
        # From the middle of the quarter before the dose to the middle of the one after it: a quarter's uptake less.
        self.assertAlmostEqual(float(line.max() - line.min()), 0.23 - 0.01 / 4, places=6)
        self.assertEqual(len(line), STEPS)

    def test_a_dose_jumps_by_what_the_carbonate_system_says_less_what_goes_out_meanwhile(self):
        day = breathing(0.0, 0.05).day([once(0.2, 12)])
        jump = day.ph[52] - day.ph[47]
        whole = ph_effect_of_dose(SODA, 0.2, day.ph[47], day.alkalinity[47]).jump
        self.assertAlmostEqual(jump, whole, delta=0.015)

    def test_carbon_with_a_meq(self):
        self.assertEqual([carbon_per_meq(f) for f in (SODA, BICARBONATE, "NaOH", "Ca(OH)2")], [0.5, 1.0, 0.0, 0.0])
        with self.assertRaises(PlanError):
            carbon_per_meq("CaCl2")

    def test_the_fish_room_s_own_chemistry_agrees(self):
        for carbon, alkalinity in ((2.2, 2.5), (2.6, 3.2)):
            from salttide.core.science.carbonate import carbonate_from_dic

            own = carbonate_from_dic(carbon, alkalinity, 35.0, 25.0).ph_nbs
            self.assertAlmostEqual(float(meter_ph(hydrogen(carbon, alkalinity))), own, delta=0.02)


class Estimation(unittest.TestCase):
    def told(self, seed):
        import numpy as np

        tank = some_tank(seed)
        doses = [0.0] * HOURS
        doses[19] = tank.uptake
        shown = live(tank, [(0.5, np.array(doses))], 12, 4)[4 * HOURS * 4 :].reshape(-1, 4).mean(axis=1)
        water = MeanWater(tank.alkalinity, 35.0, 25.0, tank.uptake)
        return tank, gas_exchange_of(dict(enumerate(shown.tolist())), water, [DayDoses(SODA, tuple(doses))]), doses

    def test_the_day_it_was_told_from_comes_out_again(self):
        import numpy as np

        tank, gas_exchange, doses = self.told(3)
        truth = float(settled_swing(tank, [(0.5, np.array(doses))]))
        self.assertAlmostEqual(gas_exchange.day([DayDoses(SODA, tuple(doses))]).swing, truth, delta=0.05)

    def test_exchange_is_told_within_two_of_its_deviations(self):
        for seed in range(6):
            tank, gas_exchange, _ = self.told(seed)
            self.assertLess(
                abs(gas_exchange.exchange - tank.out), 2 * (gas_exchange.exchange_high - gas_exchange.exchange)
            )
            self.assertLess(gas_exchange.exchange_low, gas_exchange.exchange_high)

    def test_too_few_hours_are_refused(self):
        with self.assertRaises(PlanError):
            gas_exchange_of(dict.fromkeys(range(60), 8.1), WATER, [])
        with self.assertRaises(DomainError):
            gas_exchange_of(dict.fromkeys(range(200), 81.0), WATER, [])


class Spreading(unittest.TestCase):
    def test_soda_goes_where_ph_is_low(self):
        found = flattest(breathing(), [SODA], 0.25, 0.357)
        by_day = sum(found.doses[0].meq_l[10:20])
        self.assertLess(by_day, 0.05)
        self.assertAlmostEqual(found.doses[0].total, 0.25, places=9)
        self.assertLess(found.day.swing, breathing().day([even_doses(SODA, 0.25)]).swing)

    def test_hours_that_a_pump_cannot_give_are_left_out(self):
        found = flattest(breathing(), [SODA], 0.25, 0.357, least_meq_l=0.02)
        self.assertTrue(all(meq == 0 or meq >= 0.02 for meq in found.doses[0].meq_l))
        self.assertAlmostEqual(found.doses[0].total, 0.25, places=9)

    def test_what_single_doses_cannot_bring_is_refused(self):
        with self.assertRaises(DomainError):
            flattest(breathing(), [SODA], 4.0, 0.357)

    @settings(max_examples=12, deadline=None)
    @given(st.floats(0.01, 0.06), st.floats(0.2, 2.0), st.floats(0.05, 0.5), st.booleans())
    def test_limits_hold_and_it_is_never_worse_than_even(self, amplitude, exchange, total, two):
        gas_exchange = breathing(amplitude, exchange)
        formulas = [SODA, BICARBONATE] if two else [SODA]
        found = flattest(gas_exchange, formulas, total, 0.357)
        even = gas_exchange.day([even_doses(formula, total / len(formulas)) for formula in formulas])
        self.assertLessEqual(found.day.swing, even.swing + 1e-9)
        self.assertAlmostEqual(sum(one.total for one in found.doses), total, places=6)
        for one, most in zip(found.doses, found.most, strict=True):
            self.assertLessEqual(max(one.meq_l), most + 1e-6)
        line = found.day.alkalinity
        self.assertLessEqual(max(line) - min(line), max(0.357, max(even.alkalinity) - min(even.alkalinity)) + 0.02)
        for one in found.doses:
            largest = max(one.meq_l)
            if largest > 1e-6:
                jump = ph_effect_of_dose(one.formula, largest, found.day.mean, 2.9).jump
                self.assertLessEqual(abs(jump), PH_LIMIT_OF_A_DOSE * 1.15)


class Air(unittest.TestCase):
    def test_outdoor_air_lifts_ph_to_its_own_balance(self):
        now, outdoor, room = outdoor_gain(breathing(0.0, pco2=900.0), [])
        # Of an atmosphere 0.0307 are water vapour: 900 µatm are 928.4 ppm of dry air, 425 ppm are 412.0 µatm.
        self.assertAlmostEqual(room, 900.0 / (1 - 0.0307), delta=1.0)
        self.assertAlmostEqual(outdoor.mean, carbonate_from_pco2(412.0, 2.9, 35.0, 25.0).ph_nbs, delta=1e-4)
        self.assertGreater(outdoor.mean, now.mean)

    def test_a_measured_room_is_taken(self):
        _, better, room = outdoor_gain(breathing(0.0, pco2=900.0), [], 700.0)
        _, best, _ = outdoor_gain(breathing(0.0, pco2=900.0), [])
        self.assertEqual(room, 700.0)
        self.assertLess(better.mean, best.mean)
