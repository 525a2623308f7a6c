"""Doses by formula."""

import unittest

from salttide.core.additives import AlkalinitySource, alkalinity_meq, dissolving_water_l, dose_mass, molar_mass_g_mol
from salttide.core.errors import DomainError
from tests.core.cases import dkh


class Doses(unittest.TestCase):
    def test_100_litres_up_by_1_dkh(self):
        # 100 L x 0.35665 meq/L = 35.665 meq. Na2CO3 105.988/2 g/eq: 1.89 g. NaHCO3 84.007 g/eq: 3.00 g.
        self.assertAlmostEqual(dose_mass(AlkalinitySource.SODA_ASH, dkh(1), 100).value, 1.89, delta=0.005)
        self.assertAlmostEqual(dose_mass(AlkalinitySource.BAKING_SODA, dkh(1), 100).value, 3.00, delta=0.005)

    def test_what_a_mass_brings_is_the_inverse(self):
        for source in AlkalinitySource:
            mass = dose_mass(source, 0.3, 334).value
            self.assertAlmostEqual(alkalinity_meq(source, mass), 0.3 * 334, places=6)

    def test_molar_masses(self):
        # Sums of standard atomic weights (IUPAC 2021): Na 22.990, C 12.011, O 15.999, H 1.008.
        self.assertAlmostEqual(molar_mass_g_mol("Na2CO3"), 2 * 22.990 + 12.011 + 3 * 15.999, delta=0.01)
        self.assertAlmostEqual(molar_mass_g_mol("NaHCO3"), 22.990 + 1.008 + 12.011 + 3 * 15.999, delta=0.01)

    def test_water_to_dissolve_it_is_twice_what_solubility_asks(self):
        # Na2CO3 215 g/L at 20 °C: 21.5 g need 0.1 L at least, 0.2 L easily.
        self.assertAlmostEqual(dissolving_water_l(AlkalinitySource.SODA_ASH, 21.5), 0.2)

    def test_refuses_nonsense(self):
        for rise, volume in ((-1, 100), (0.3, 0), (50, 100)):
            with self.subTest(rise=rise, volume=volume), self.assertRaises(DomainError):
                dose_mass(AlkalinitySource.SODA_ASH, rise, volume)
