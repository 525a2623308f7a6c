"""Corrections by day: amounts, order, separation, pH of single doses, expected values and tests. By hand."""

import unittest
from itertools import combinations

from hypothesis import given, settings
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError, PlanError
from salttide.core.estimate.supplementation import ALKALINITY, CALCIUM, MAGNESIUM
from salttide.core.planning.correction import (
    SATURATION_LIMIT,
    Aim,
    WaterNow,
    agreement,
    gentler_choice,
    largest_safe_rise,
    plan_correction,
)
from salttide.core.science.carbonate import carbonate_from_ph_nbs
from salttide.core.science.dosing import PH_LIMIT_OF_A_DOSE, SEPARATION_MINUTES
from salttide.core.science.parameters import Parameter
from salttide.core.science.ph_effect import ph_effect_of_dose
from salttide.core.science.sizing import DayLimit
from salttide.core.system.shelf import Additive
from tests.core.tables import TableTest

SODA = Additive(1, "soda ash", "Na2CO3")
STOCK = Additive(2, "soda stock", "Na2CO3", strength_g_l=100.0)
BICARBONATE = Additive(3, "baking soda", "NaHCO3")
HYDROXIDE = Additive(4, "sodium hydroxide", "NaOH")
CHLORIDE = Additive(5, "calcium chloride dihydrate", "CaCl2·2H2O")
MAGNESIUM_CHLORIDE = Additive(6, "magnesium chloride hexahydrate", "MgCl2·6H2O")
NITRATE = Additive(7, "potassium nitrate", "KNO3")
PHOSPHATE = Additive(8, "disodium phosphate", "Na2HPO4")
DKH = 1 / 2.80385
SEA = WaterNow(8.1, 35.0, 25.0, 2.5, 420.0)


class ByHand(unittest.TestCase):
    def test_a_dkh_of_bicarbonate_in_a_day(self):
        found = plan_correction([Aim(ALKALINITY, 2.5, 2.5 + DKH, BICARBONATE)], SEA, 100.0)
        portion = found.steps[0].portions[0]
        self.assertEqual((found.days, len(found.steps[0].portions)), (1, 1))
        self.assertAlmostEqual(portion.mass_g, 3.00, delta=0.005)  # published check value
        self.assertAlmostEqual(found.steps[0].expected[ALKALINITY], 2.5 + DKH)

    def test_two_and_a_half_dkh_take_three_equal_days_on_top_of_uptake(self):
        found = plan_correction([Aim(ALKALINITY, 2.0, 2.0 + 2.5 * DKH, BICARBONATE, 0.1)], SEA, 100.0)
        self.assertEqual(found.days, 3)
        # A third of 2.5 dKH and 0.1 meq/L each day; 8.4007 g of NaHCO3 hold 100 meq.
        grams = sum(portion.mass_g for portion in found.steps[0].portions)
        self.assertAlmostEqual(grams, (2.5 * DKH / 3 + 0.1) * 8.4007, delta=0.01)
        self.assertAlmostEqual(found.steps[1].expected[ALKALINITY], 2.0 + 5 / 3 * DKH)
        self.assertEqual([step.tests for step in found.steps], [(), (ALKALINITY,), (ALKALINITY,)])

    def test_what_rises_by_itself_takes_part_of_the_limit(self):
        # 0.05 more is dosed daily than used: of 0.3 a day only 0.25 is given.
        aim = Aim(ALKALINITY, 2.0, 2.6, BICARBONATE, -0.05, DayLimit(0.3, 0.3))
        found = plan_correction([aim], SEA, 100.0)
        self.assertEqual(found.days, 2)
        self.assertAlmostEqual(found.steps[0].portions[0].rise, 0.25)
        self.assertAlmostEqual(found.steps[1].expected[ALKALINITY], 2.6)

    def test_a_solution_is_given_in_millilitres(self):
        found = plan_correction([Aim(ALKALINITY, 2.5, 2.6, STOCK)], SEA, 334.0)
        # 33.4 meq are 16.7 mmol: 1.770 g, in 100 g/L 17.7 mL.
        self.assertAlmostEqual(sum(p.ml for p in found.steps[0].portions), 17.70, delta=0.01)

    def test_calcium(self):
        found = plan_correction([Aim(CALCIUM, 380.0, 410.0, CHLORIDE, 2.0)], SEA, 200.0)
        # Two days of 15 and 2 mg/L of uptake: 17 · 200 mg over 40.078 by 147.01.
        self.assertEqual(found.days, 2)
        self.assertAlmostEqual(found.steps[0].portions[0].mass_g, 3400 / 40.078 * 0.14701, delta=0.01)
        self.assertIsNone(found.steps[0].portions[0].ph_jump)

    def test_magnesium_first_then_both_half_an_hour_apart(self):
        aims = [
            Aim(ALKALINITY, 2.5, 2.6, BICARBONATE, 0.1),
            Aim(CALCIUM, 400.0, 415.0, CHLORIDE, 2.0),
            Aim(MAGNESIUM, 1200.0, 1290.0, MAGNESIUM_CHLORIDE),
        ]
        found = plan_correction(aims, SEA, 100.0)
        first, _, third = found.steps
        self.assertEqual(found.days, 3)
        # Two days of 45 mg/L of magnesium; meanwhile only the uptake of the others is met.
        self.assertAlmostEqual(next(p.rise for p in first.portions if p.parameter == MAGNESIUM), 45.0)
        self.assertAlmostEqual(first.expected[ALKALINITY], 2.5)
        self.assertAlmostEqual(third.expected[ALKALINITY], 2.6)
        self.assertAlmostEqual(third.expected[CALCIUM], 415.0)

    def test_nitrate_and_phosphate_up_slowly(self):
        aims = [
            Aim(Parameter.NITRATE, 0.5, 4.5, NITRATE), Aim(Parameter.PHOSPHATE, 0.01, 0.05, PHOSPHATE),
        ]  # fmt: skip
        found = plan_correction(aims, SEA, 100.0)
        self.assertEqual(found.days, 2)
        nitrate = next(p for p in found.steps[0].portions if p.parameter == Parameter.NITRATE)
        self.assertAlmostEqual(nitrate.mass_g, 2 * 0.163, delta=0.001)  # published check value
        # 4 mg/L of nitrate are 0.0645 mmol/L, with as much potassium: 2.52 mg/L.
        self.assertAlmostEqual(found.side[Parameter.POTASSIUM], 4 / 62.004 * 39.098, delta=0.001)

    def test_on_a_day_with_a_change_only_uptake_is_met(self):
        found = plan_correction([Aim(ALKALINITY, 2.0, 2.6, BICARBONATE)], SEA, 100.0, busy=[2])
        self.assertEqual([len(step.portions) > 0 for step in found.steps], [True, False, True])
        self.assertAlmostEqual(found.steps[-1].expected[ALKALINITY], 2.6)

    def test_soda_is_split_so_that_no_dose_moves_ph_by_more_than_one_may(self):
        found = plan_correction([Aim(ALKALINITY, 2.5, 2.5 + DKH, SODA)], SEA, 100.0)
        portions = found.steps[0].portions
        # The published jump of a whole dKH of soda at pH 8.1 is 0.21; one dose may make 0.15: two halves.
        self.assertEqual(len(portions), 2)
        for portion in portions:
            self.assertLessEqual(portion.ph_jump, PH_LIMIT_OF_A_DOSE)
        self.assertAlmostEqual(sum(p.mass_g for p in portions), 1.89, delta=0.005)

    def test_a_dose_that_would_drop_out_is_made_smaller(self):
        hot = WaterNow(8.45, 35.0, 28.0, 3.6, 480.0)
        most = largest_safe_rise("Na2CO3", ALKALINITY, hot)
        before = carbonate_from_ph_nbs(8.45, 3.6, 35.0, 28.0, 480.0)
        self.assertLess(before.aragonite_saturation, 12)
        self.assertLess(most, largest_safe_rise("Na2CO3", ALKALINITY, SEA))

    def test_calcium_is_bounded_by_saturation_in_proportion(self):
        state = carbonate_from_ph_nbs(8.1, 2.5, 35.0, 25.0, 420.0)
        expected = 420 * (SATURATION_LIMIT / float(state.aragonite_saturation) - 1)
        without = DayLimit(1e9, 1e9)
        self.assertAlmostEqual(largest_safe_rise("CaCl2·2H2O", CALCIUM, SEA, without), expected, places=6)

    def test_at_once_never_more_than_the_daily_limit(self):
        # Saturation would bear hundreds of mg/L of calcium, pH anything of magnesium: a day bears 20 and 50.
        self.assertEqual(largest_safe_rise("CaCl2·2H2O", CALCIUM, SEA), 20.0)
        self.assertEqual(largest_safe_rise("MgCl2·6H2O", Parameter.MAGNESIUM, SEA), 50.0)
        # A system of delicate corals: 0.05 meq/L, less than the 0.24 that pH bears of soda.
        self.assertEqual(largest_safe_rise("Na2CO3", ALKALINITY, SEA, DayLimit(0.05, 0.05)), 0.05)

    def test_refusals(self):
        for aims, error in (
            ([], PlanError),
            ([Aim(ALKALINITY, 3.0, 2.5, SODA)], PlanError),  # no dose lowers it
            ([Aim(Parameter.SALINITY, 33.0, 35.0, SODA)], PlanError),
            ([Aim(Parameter.IODINE, 0.03, 0.06, Additive(9, "potassium iodide", "KI"))], PlanError),
            ([Aim(CALCIUM, 380.0, 420.0, SODA)], InputError),  # soda raises no calcium
            ([Aim(CALCIUM, 380.0, 4200.0, CHLORIDE)], DomainError),
            ([Aim(ALKALINITY, 2.5, 8.5, SODA)], DomainError),  # dKH taken for meq/L
        ):
            with self.subTest(aims=aims), self.assertRaises(error):
                plan_correction(aims, SEA, 100.0)


class GentlerChoice(unittest.TestCase):
    def test_by_the_ph_that_is_there(self):
        formulas = ["Na2CO3", "NaHCO3", "NaOH"]
        for ph, wanted in ((8.45, "NaHCO3"), (8.1, "NaHCO3"), (7.8, "Na2CO3")):
            with self.subTest(ph=ph):
                water = WaterNow(ph, 35.0, 25.0, 2.5, 420.0)
                found = gentler_choice(0.1, water, formulas)
                self.assertEqual([one.formula for one in found if one.chosen], [wanted])

    def test_jumps_are_those_of_the_carbonate_system(self):
        found = {one.formula: one.jump for one in gentler_choice(0.2, SEA, ["Na2CO3", "NaHCO3", "NaOH"])}
        for formula, jump in found.items():
            self.assertAlmostEqual(jump, ph_effect_of_dose(formula, 0.2, 8.1, 2.5).jump)
        self.assertGreater(found["NaOH"], found["Na2CO3"])
        self.assertLess(found["NaHCO3"], 0)


class Agreements(TableTest):
    def test_by_hand(self):
        def off(*arguments):
            return agreement(*arguments).most

        self.check([
            (off, (2.9, 2.9, 0.03, 0.04, 0.0), 0.10, 1e-12),  # twice the root of 0.0009 + 0.0016
            (off, (2.9, 2.9, 0.03, 0.04, 0.1), 0.15, 1e-12),
        ])  # fmt: skip
        self.assertTrue(agreement(2.9, 2.801, 0.03, 0.04, 0.0).agrees)
        self.assertFalse(agreement(2.9, 2.79, 0.03, 0.04, 0.0).agrees)


LIMITS = {ALKALINITY: 0.357, CALCIUM: 20.0, MAGNESIUM: 50.0}


class Limits(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        st.floats(1.6, 3.2), st.floats(0, 1.0), st.floats(340, 440), st.floats(0, 60), st.floats(1150, 1350),
        st.floats(0, 120), st.floats(-0.1, 0.4), st.floats(7.9, 8.4), st.sampled_from([SODA, BICARBONATE]),
        st.floats(20, 2000),
    )  # fmt: skip
    def test_never_exceeded_in_any_day_and_never_too_near(
        self, alkalinity, up, calcium, calcium_up, magnesium, magnesium_up, net, ph, additive, volume
    ):
        aims = [
            Aim(ALKALINITY, alkalinity, alkalinity + up, additive, net, DayLimit(0.357, 0.357)),
            Aim(CALCIUM, calcium, calcium + calcium_up, CHLORIDE, 2.0, DayLimit(20.0, 20.0)),
            Aim(MAGNESIUM, magnesium, magnesium + magnesium_up, MAGNESIUM_CHLORIDE, 0.5, DayLimit(50.0, 50.0)),
        ]
        water = WaterNow(ph, 35.0, 25.0, alkalinity, calcium)
        try:
            found = plan_correction(aims, water, volume, 24)
        except PlanError:
            return
        level = {ALKALINITY: alkalinity, CALCIUM: calcium, MAGNESIUM: magnesium}
        for step in found.steps:
            for parameter, most in LIMITS.items():
                moved = step.expected[parameter] - level[parameter]
                self.assertLessEqual(moved, max(most, -net if parameter == ALKALINITY else 0) + 1e-9)
            level = dict(step.expected)
            for portion in step.portions:
                self.assertLessEqual(abs(portion.ph_jump or 0), PH_LIMIT_OF_A_DOSE + 1e-6)
                self.assertLess(portion.minute, 24 * 60)
            for one, other in combinations(step.portions, 2):
                if one.parameter != other.parameter:
                    self.assertGreaterEqual(abs(one.minute - other.minute), SEPARATION_MINUTES)
        days = [step.day for step in found.steps]
        self.assertEqual(days, list(range(1, len(days) + 1)))
