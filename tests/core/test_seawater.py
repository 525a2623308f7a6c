"""Density and specific gravity against published values."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.errors import DomainError
from salttide.core.seawater import (
    GravityReference,
    absolute_salinity,
    density_kg_l,
    salinity_from_specific_gravity,
    specific_gravity,
)


class Density(unittest.TestCase):
    def test_agrees_with_the_international_equation_of_state_1980(self):
        # UNESCO technical papers in marine science 44 (1983), check values of EOS-80 at sea pressure, kg/m3.
        for salinity, temperature, published in (
            (0, 5, 999.96675),
            (0, 25, 997.04796),
            (35, 5, 1027.67547),
            (35, 25, 1023.34306),
        ):
            with self.subTest(salinity=salinity, temperature=temperature):
                self.assertAlmostEqual(density_kg_l(salinity, temperature) * 1000, published, delta=0.02)

    def test_reference_salinity_of_standard_seawater(self):
        # Millero et al. 2008: 35 on the practical scale is 35.16504 g/kg.
        self.assertAlmostEqual(absolute_salinity(35), 35.16504, places=5)

    def test_refuses_what_is_outside_its_range_and_names_it(self):
        with self.assertRaises(DomainError) as raised:
            density_kg_l(350, 25)
        self.assertEqual((raised.exception.value, raised.exception.unit, raised.exception.high), (350, "ppt", 45))
        with self.assertRaises(DomainError):
            density_kg_l(float("nan"), 25)


class SpecificGravity(unittest.TestCase):
    def test_of_35_on_each_reference(self):
        # From EOS-80 densities: rho(35,25)/rho(0,25) = 1023.343/997.048; rho(35,20)/rho(0,20) = 1024.763/998.206;
        # rho(35,15.56)/rho(0,15.56) = 1025.850/999.014; rho(35,25)/rho(0,4) = 1023.343/999.975.
        for reference, expected in (("25/25", 1.0264), ("20/20", 1.0266), ("60/60F", 1.0269), ("25/4", 1.0234)):
            with self.subTest(reference=reference):
                self.assertAlmostEqual(specific_gravity(35, GravityReference(reference)), expected, delta=0.00005)

    def test_one_number_on_two_scales_is_up_to_four_ppt_apart(self):
        low = salinity_from_specific_gravity(1.0264, GravityReference.R25_25)
        high = salinity_from_specific_gravity(1.0264, GravityReference.R25_4)
        self.assertAlmostEqual(high - low, 4.0, delta=0.2)

    @given(st.floats(0, 45), st.sampled_from(list(GravityReference)))
    def test_goes_there_and_back(self, salinity, reference):
        gravity = specific_gravity(salinity, reference)
        self.assertAlmostEqual(salinity_from_specific_gravity(gravity, reference), salinity, places=6)

    def test_refuses_a_gravity_below_fresh_water(self):
        with self.assertRaises(DomainError):
            salinity_from_specific_gravity(0.99, GravityReference.R25_25)
