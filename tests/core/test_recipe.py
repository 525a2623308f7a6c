"""Stock solutions, what must never meet, media and carbon step by step, a flood of limewater. By hand."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.planning.ramp import (
    MAX_CARBON,
    CarbonSource,
    Trend,
    Turn,
    carbon_gate,
    carbon_ml,
    next_carbon,
    next_media_g,
    refuse_zero,
)
from salttide.core.science.additives import COMPOUNDS
from salttide.core.science.carbonate import carbonate_from_dic, carbonate_from_ph_nbs
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.recipe import (
    cautions_of,
    matched_calcium_g_l,
    name_of_formula,
    never_meet,
    stock_recipe,
    strength_from_label_g_l,
)
from salttide.core.science.topoff import lime_flood
from salttide.core.system.catalogue import cautions
from tests.core.tables import TableTest

ALKALINITY, CALCIUM = Parameter.ALKALINITY, Parameter.CALCIUM


def weighed(*arguments):
    return stock_recipe(*arguments).mass_g


def raised(parameter, *arguments):
    return stock_recipe(*arguments).raises[parameter]


class Recipes(TableTest):
    def test_by_hand(self):
        self.check([
            (weighed, ("Na2CO3", 100.0, 2.0), 200.0, 1e-9),
            (weighed, ("CaCl2.2H2O", 140.0, 1.5, 0.98), 210 / 0.98, 1e-9),
            (weighed, ("NaHCO3", 80.0, 5.0), 400.0, 1e-9),
            # A mL holds 0.1 g: 1.887 meq, in 100 L 0.01887 meq/L.
            (raised, (ALKALINITY, "Na2CO3", 100.0, 2.0), 0.1 / 105.988 * 2000 / 100, 1e-6),
            (raised, (CALCIUM, "CaCl2·2H2O", 140.0, 1.0), 0.14 / 147.01 * 40078 / 100, 1e-3),
            (raised, (Parameter.NITRATE, "KNO3", 16.3, 1.0), 0.1, 0.001),  # from the published check value
            # The alkalinity stock holds 1886.97 meq in a litre; calcium for them 20.039 mg each.
            (matched_calcium_g_l, ("Na2CO3", 100.0, "CaCl2·2H2O"), 1886.97 * 20.039 / 40078 * 147.01, 0.05),
            (matched_calcium_g_l, ("NaHCO3", 80.0, "CaCl2·2H2O"), 80 / 84.007 * 0.5 * 147.01, 0.05),
            (strength_from_label_g_l, ("Na2CO3", ALKALINITY, 1.0, 100.0, 0.01887), 100.0, 0.02),
            (strength_from_label_g_l, ("CaCl2·2H2O", CALCIUM, 10.0, 100.0, 3.8167), 140.0, 0.05),
        ])  # fmt: skip

    def test_refusals_name_what_would_be_taken(self):
        self.refused([
            (stock_recipe, ("Na2CO3", 0.0, 1.0), DomainError),  # a strength of nothing
            (stock_recipe, ("NaHCO3", 200.0, 1.0), DomainError),
            (stock_recipe, ("Xy2", 50.0, 1.0), InputError),
            (stock_recipe, ("", 50.0, 1.0), InputError),
            (stock_recipe, ("Na2CO3", 100.0, 5000.0), DomainError),
            (stock_recipe, ("Na2CO3", 100.0, 1.0, 98.0), DomainError),  # percent
            (matched_calcium_g_l, ("Na2CO3", 900.0, "CaCl2·2H2O"), DomainError),
            (strength_from_label_g_l, ("Na2CO3", ALKALINITY, 0.0, 100.0, 0.1), DomainError),
            (strength_from_label_g_l, ("Na2CO3", CALCIUM, 1.0, 100.0, 0.1), InputError),
        ])  # fmt: skip
        with self.assertRaises(DomainError) as raised_error:
            stock_recipe("NaHCO3", 200.0, 1.0)
        self.assertIn("93", raised_error.exception.accepted)

    def test_every_caution_that_a_compound_asks_for_exists_and_the_dangerous_have_one(self):
        for compound in COMPOUNDS.values():
            for key in cautions_of(compound.formula):
                self.assertIn(key, cautions())
        for formula in ("Na2CO3", "NaOH", "Ca(OH)2", "CaCl2", "MgCl2·6H2O", "KNO3"):
            self.assertTrue(cautions_of(formula), formula)

    def test_steps_cool_what_heats_and_end_with_the_label(self):
        steps = stock_recipe("CaCl2·2H2O", 140.0, 2.0).steps
        self.assertIn("cool", " ".join(steps))
        self.assertIn("label", steps[-1])
        self.assertEqual(name_of_formula("CaCl2*2H2O"), "calcium chloride dihydrate")

    def test_what_must_never_meet(self):
        for one, other, meets in (
            ("Na2CO3", "CaCl2·2H2O", False),
            ("CaCl2·2H2O", "NaHCO3", False),
            ("NaOH", "MgCl2·6H2O", False),
            ("Na2CO3", "MgSO4·7H2O", False),
            ("MgSO4·7H2O", "CaCl2·2H2O", False),  # gypsum
            ("Na2HPO4", "CaCl2", False),
            ("MgSO4·7H2O", "MgCl2·6H2O", True),
            ("CaCl2·2H2O", "MgCl2·6H2O", True),
            ("Na2CO3", "NaHCO3", True),
            ("KNO3", "Na2CO3", True),
            ("KNO3", "CaCl2", True),
        ):
            with self.subTest(one=one, other=other):
                self.assertEqual(never_meet(one, other) == "", meets)
                self.assertEqual(never_meet(other, one) == "", meets)


BAND = Span(0.02, 0.10)


class Media(unittest.TestCase):
    def test_by_hand(self):
        for now, trend, amount, turn in (
            (0.0, Trend(0.30, 0.30, 7, 0.01), 25.0, Turn.BEGIN),
            (25.0, Trend(0.30, 0.29, 4, 0.01), 50.0, Turn.MORE),  # within the scatter of both
            # Twice 0.01 times the root of two is 0.0283.
            (25.0, Trend(0.30, 0.272, 4, 0.01), 50.0, Turn.MORE),
            (25.0, Trend(0.30, 0.271, 4, 0.01), 25.0, Turn.HOLD),
            (25.0, Trend(0.30, 0.25, 4, 0.01), 25.0, Turn.HOLD),
            (50.0, Trend(0.30, 0.05, 2, 0.01), 25.0, Turn.LESS),  # 0.125 a day, 0.05 is allowed
            (50.0, Trend(0.09, 0.03, 1, 0.01), 25.0, Turn.LESS),  # 0.06 a day, a third of 0.09 is allowed
            (50.0, Trend(0.10, 0.06, 7, 0.01), 50.0, Turn.HOLD),  # the middle of the band
            (50.0, Trend(0.03, 0.01, 7, 0.01), 0.0, Turn.STOP),  # under the floor
            (100.0, Trend(0.30, 0.30, 7, 0.01), 100.0, Turn.HOLD),  # never above the sheet
        ):
            with self.subTest(now=now, trend=trend):
                found = next_media_g(100.0, now, trend, BAND)
                self.assertEqual((found.amount, found.turn), (amount, turn))
                self.assertTrue(found.why)

    @given(st.floats(0, 100), st.floats(0, 2), st.floats(0, 2), st.floats(0.5, 30))
    def test_never_above_the_sheet_and_never_a_step_of_more_than_a_quarter(self, now, before, after, days):
        found = next_media_g(100.0, now, Trend(before, after, days, 0.01), BAND)
        self.assertLessEqual(found.amount, min(100.0, now + 25.0) + 1e-9)
        self.assertGreaterEqual(found.amount, 0.0)


class Carbon(TableTest):
    def test_what_a_millilitre_holds(self):
        self.check([
            # 0.4 · 0.7893 g in a mL of 46.069 g/mol with two carbons: 13.71 mmol.
            (carbon_ml, (CarbonSource.ETHANOL, 0.01, 100.0), 1 / 13.706, 1e-4),
            (carbon_ml, (CarbonSource.ACETIC_ACID, 0.01, 100.0), 1 / 1.6652, 1e-3),
            (carbon_ml, (CarbonSource.ETHANOL, 0.0, 100.0), 0.0, 0),
        ])  # fmt: skip
        self.refused([(carbon_ml, (CarbonSource.ETHANOL, 1.0, 100.0), DomainError)])

    def test_steps_by_hand(self):
        band, stays, falls = Span(2, 15), Trend(30, 30, 7, 1), Trend(30, 24, 7, 1)
        for now, nitrate, phosphate, cloudy, amount, turn in (
            (0.0, stays, 0.05, False, 0.01, Turn.BEGIN),
            (0.01, stays, 0.05, False, 0.02, Turn.MORE),
            (0.02, falls, 0.05, False, 0.02, Turn.HOLD),
            (0.10, Trend(12, 8, 7, 1), 0.05, False, 0.05, Turn.LESS),
            (0.10, Trend(3, 1, 7, 1), 0.05, False, 0.0, Turn.STOP),
            (0.10, stays, 0.01, False, 0.0, Turn.STOP),
            (0.10, stays, 0.05, True, 0.05, Turn.LESS),
            (0.15, stays, 0.05, False, 0.15, Turn.HOLD),
        ):
            with self.subTest(now=now, nitrate=nitrate):
                found = next_carbon(now, nitrate, band, phosphate, 0.02, cloudy)
                self.assertAlmostEqual(found.amount, amount)
                self.assertEqual(found.turn, turn)
                self.assertLessEqual(found.amount, MAX_CARBON)

    def test_the_gate(self):
        self.assertEqual(carbon_gate(400, True, True), ())
        self.assertEqual(len(carbon_gate(30, False, False)), 3)
        self.assertIn("150 days", carbon_gate(30, True, True)[0])

    def test_never_from_a_zero_that_growth_explains(self):
        refuse_zero(0.0, "", "nitrate")
        with self.assertRaises(InputError) as raised_error:
            refuse_zero(0.0, "green hair algae", "nitrate")
        self.assertIn("growth", raised_error.exception.accepted)


class LimeFlood(unittest.TestCase):
    def test_a_reservoir_at_once_is_judged_by_alkalinity_and_ph(self):
        flood = lime_flood(2.8, 334.0, 10.0)
        # 40.49 meq/L at 25 °C: (2.8 · 334 + 404.9)/344.
        self.assertAlmostEqual(flood.alkalinity_meq_l, (2.8 * 334 + 404.9) / 344, delta=0.002)
        before = carbonate_from_ph_nbs(8.1, 2.8, 35.0, 25.0)
        after = carbonate_from_dic(before.dic_mmol_l * 334 / 344, float(flood.alkalinity_meq_l), 35 * 334 / 344, 25.0)
        self.assertAlmostEqual(flood.ph_nbs, after.ph_nbs, places=6)
        self.assertAlmostEqual(flood.salinity, 35 * 334 / 344)

    def test_calcium_comes_with_it_and_past_seven_it_runs_away(self):
        flood = lime_flood(2.8, 334.0, 10.0)
        # 20.04 mg of calcium for each of 40.49 meq/L: (420 x 334 + 20.04 x 40.49 x 10) / 344 = 431.4 mg/L.
        state = carbonate_from_ph_nbs(flood.ph_nbs, float(flood.alkalinity_meq_l), 35 * 334 / 344, 25.0, 431.4)
        self.assertAlmostEqual(flood.aragonite, state.aragonite_saturation, places=2)
        self.assertTrue(flood.runs_away)
        self.assertFalse(lime_flood(2.8, 334.0, 1.0).runs_away)

    def test_far_beyond_no_ph_is_made_up(self):
        self.assertIsNone(lime_flood(2.8, 334.0, 45.0).ph_nbs)
        self.assertTrue(lime_flood(2.8, 334.0, 45.0).runs_away)
