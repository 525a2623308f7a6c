"""Carbon dioxide of the air over water, against the published vapour pressure of seawater."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError
from salttide.core.science.air import pco2_uatm_of_air, ppm_of_pco2, water_vapour_atm


class OverWater(unittest.TestCase):
    def test_water_vapour_as_published(self):
        # Pure water, saturated (CRC, within 0.2 %): 2.3388 kPa at 20 °C, 3.1690 kPa at 25 °C; over seawater of 35 about
        # 1.9 % less (Raoult, 0.544e-3 x 35). 101.325 kPa to the atmosphere.
        for salinity, celsius, kpa in ((0, 20, 2.3388), (0, 25, 3.1690), (35, 25, 3.1690 * 0.98114)):
            with self.subTest(salinity=salinity, celsius=celsius):
                self.assertAlmostEqual(water_vapour_atm(salinity, celsius), kpa / 101.325, delta=5e-5)

    def test_a_meters_ppm_are_about_three_percent_more_than_the_water_meets(self):
        # 800 ppm over seawater at 25 °C: 800 x (1 - 0.03066) = 775.5 µatm; at 20 °C, 0.95 atm: 800 x (0.95 - 0.02263).
        self.assertAlmostEqual(pco2_uatm_of_air(800.0, 35.0, 25.0), 775.5, delta=0.1)
        self.assertAlmostEqual(pco2_uatm_of_air(800.0, 35.0, 20.0, 0.95), 741.9, delta=0.1)
        self.assertEqual([step.symbol for step in pco2_uatm_of_air(800.0).working], ["pH2O", "pCO2"])

    @given(st.floats(100, 18_000), st.floats(1.1, 45), st.floats(0, 45))
    def test_back_and_forth(self, ppm, salinity, celsius):
        there = float(pco2_uatm_of_air(ppm, salinity, celsius))
        self.assertAlmostEqual(ppm_of_pco2(there, salinity, celsius), ppm, delta=1e-9 * ppm)

    def test_refusals(self):
        for ppm in (0.0, -5.0, float("nan"), 1e6):
            with self.assertRaises(DomainError):
                pco2_uatm_of_air(ppm)
