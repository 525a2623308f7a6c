"""How amounts are written: no dose vanishes in its rounding, and what no scale weighs is given as mL of a stock."""

import unittest

from salttide.core.basics.errors import DomainError
from salttide.core.basics.locale import DecimalSign, Writing, written_as
from salttide.core.science.additives import dose_mass_g
from salttide.core.science.amount import dose_text, mass_text, small_dose
from salttide.core.science.parameters import Parameter
from salttide.core.science.solutions import largest_strength_g_l

# +0.03 mg/L PO4 in 273 L: 8.19 mg PO4, times 136.086/94.971 = 11.736 mg KH2PO4; over two days 5.868 mg each.
PHOSPHATE_G = float(dose_mass_g("KH2PO4", Parameter.PHOSPHATE, 0.03, 273.0))


class Amounts(unittest.TestCase):
    def test_three_significant_digits_at_least(self):
        self.assertAlmostEqual(PHOSPHATE_G, 0.011736, places=6)
        for mass, words in ((PHOSPHATE_G, "0.0117 g"), (0.0023642, "0.00236 g"), (0.8347, "0.835 g"), (5.268, "5.27 g"),
                            (148.16, "148.2 g"), (0.0, "0.0 g"), (1500.0, "1.500 kg")):  # fmt: skip
            self.assertEqual(mass_text(mass), words)

    def test_what_no_scale_weighs_is_given_as_millilitres_of_a_stock(self):
        # 5.868 mg of 1 g/L are 5.87 mL; 2 g/L would be 2.9 mL, less than a syringe tells well.
        found = small_dose("KH2PO4", PHOSPHATE_G / 2, 0.05)
        self.assertEqual((found.stock_g_l, round(found.ml, 2)), (1.0, 5.87))
        self.assertEqual(
            dose_text(PHOSPHATE_G / 2, formula="KH2PO4"),
            "5.87 mL of a stock (1.00 g KH2PO4 dissolved and filled up to 1 L with RO/DI water)",
        )
        # 0.049 g: 4.9 mL of 10 g/L are too few, 9.8 mL of 5 g/L are not.
        self.assertEqual(small_dose("KNO3", 0.049, 0.05).stock_g_l, 5.0)

    def test_the_keepers_scale_decides(self):
        with written_as(Writing(scale_g=0.01)):
            self.assertEqual(dose_text(0.0117, formula="KH2PO4"), "0.0117 g")
        with written_as(Writing(DecimalSign.COMMA, scale_g=0.5)):
            self.assertIn("40,0 mL of a stock (10,0 g KNO3", dose_text(0.4, formula="KNO3"))
        for least in (0.0, -1.0, float("nan")):
            with self.assertRaises(DomainError):
                small_dose("KNO3", 0.01, least)

    def test_a_stock_that_is_proposed_dissolves(self):
        for formula in ("Ca(OH)2", "KH2PO4", "Na2CO3", "KI"):
            for mass in (1e-5, 1e-3, 0.02, 0.0499):
                with self.subTest(formula=formula, mass=mass):
                    found = small_dose(formula, mass, 0.05)
                    self.assertLessEqual(found.stock_g_l, largest_strength_g_l(formula))
                    self.assertAlmostEqual(found.ml * found.stock_g_l / 1000, mass)
        self.assertLessEqual(small_dose("LiCl", 0.04, 0.05).stock_g_l, 1.0)
