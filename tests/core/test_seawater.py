"""Density and specific gravity against published values."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError, NumberError
from salttide.core.science.instruments import (
    GLASS_EXPANSION_PER_K,
    Check,
    RefractometerScale,
    correct_reading,
    hydrometer_reading,
    instrument_line,
    salinity_from_hydrometer,
    salinity_from_refractometer,
)
from salttide.core.science.seawater import (
    GravityReference,
    absolute_salinity,
    conductivity_ms_cm_from_salinity,
    density_array_kg_l,
    density_kg_l,
    practical_salinity,
    pure_water_density_kg_l,
    salinity_from_density,
    salinity_from_specific_gravity,
    specific_gravity,
)
from tests.core.tables import TableTest

R25_25, R20_20, R60_60F, R25_4 = GravityReference


def pss78_conductivity_of_35(temperature_c: float) -> float:
    """C(35, t, 0) of PSS-78 (UNESCO 1981): 42.914 mS/cm times r(t), t on the scale of 1968 (1.00024 times today's)."""
    t = temperature_c * 1.00024
    return 42.914 * (0.6766097 + 2.00564e-2 * t + 1.104259e-4 * t**2 - 6.9698e-7 * t**3 + 1.0031e-9 * t**4)


def salinities(high=45.0):
    """All but what looks like a specific gravity, and a step above it: that is asked back."""
    return st.floats(0, high).filter(lambda value: not 0.9 <= value <= 1.05)


class Density(TableTest):
    def test_of_pure_water(self):
        # IAPWS / CIPM table of the density of air-free water, kg/m3.
        self.check([
            (pure_water_density_kg_l, (4,), 0.9999749, 3e-7),
            (pure_water_density_kg_l, (15,), 0.9991026, 1e-6),
            (pure_water_density_kg_l, (20,), 0.9982067, 1e-6),
            (pure_water_density_kg_l, (30,), 0.9956488, 1e-6),
        ])  # fmt: skip

    @given(salinities(), st.floats(0, 45))
    def test_goes_there_and_back(self, salinity, temperature):
        found = salinity_from_density(density_kg_l(salinity, temperature), temperature)
        self.assertAlmostEqual(found, salinity, delta=2e-6)

    def test_of_an_array_as_of_each(self):
        salinities, temperatures = np.array([0.0, 12.0, 33.5, 45.0]), np.array([5.0, 18.0, 25.0, 32.0])
        densities = np.array([density_kg_l(s, t) for s, t in zip(salinities, temperatures, strict=True)])
        np.testing.assert_allclose(salinity_from_density(densities, temperatures), salinities, atol=2e-6)
        np.testing.assert_allclose(density_array_kg_l(salinities, temperatures), densities, rtol=1e-12)
        with self.assertRaises(DomainError) as raised:
            salinity_from_density(np.array([1.02, 0.99]), 25.0)
        self.assertEqual(raised.exception.value, 0.99)

    @given(salinities(44.9), st.floats(0, 45))
    def test_rises_with_salinity(self, salinity, temperature):
        self.assertGreater(density_kg_l(salinity + 0.1, temperature), density_kg_l(salinity, temperature))

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


class SpecificGravity(TableTest):
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

    @given(salinities(), st.sampled_from(list(GravityReference)))
    def test_goes_there_and_back(self, salinity, reference):
        gravity = specific_gravity(salinity, reference)
        self.assertAlmostEqual(salinity_from_specific_gravity(gravity, reference), salinity, places=6)

    def test_refuses_a_gravity_below_fresh_water(self):
        with self.assertRaises(DomainError):
            salinity_from_specific_gravity(0.99, GravityReference.R25_25)

    def test_to_salinity(self):
        # The gravities that EOS-80 gives for 30, 33 and 38 at 25 °C: 1019.569, 1021.831, 1025.618 over 997.048.
        self.check([
            (salinity_from_specific_gravity, (1019.569 / 997.048, R25_25), 30, 0.02),
            (salinity_from_specific_gravity, (1021.831 / 997.048, R25_25), 33, 0.02),
            (salinity_from_specific_gravity, (1025.618 / 997.048, R25_25), 38, 0.02),
        ])  # fmt: skip


class Conductivity(TableTest):
    def test_of_the_practical_scale(self):
        self.check([
            (practical_salinity, (42.914, 15 / 1.00024), 35, 1e-6),  # its definition
            *[(practical_salinity, (pss78_conductivity_of_35(t), t), 35, 1e-4) for t in (5, 18, 25, 32)],
            (conductivity_ms_cm_from_salinity, (35, 25), pss78_conductivity_of_35(25), 1e-3),
            (practical_salinity, (pss78_conductivity_of_35(25),), 35, 1e-4),  # a pen's, at 25 °C
            (conductivity_ms_cm_from_salinity, (35,), pss78_conductivity_of_35(25), 1e-3),
            (conductivity_ms_cm_from_salinity, (0, 25), 0, 0.01),
        ])  # fmt: skip

    @given(st.floats(1.1, 44), st.floats(5, 40))
    def test_goes_there_and_back_and_rises(self, salinity, temperature):
        found = conductivity_ms_cm_from_salinity(salinity, temperature)
        self.assertAlmostEqual(practical_salinity(found, temperature), salinity, delta=1e-4)
        self.assertLess(found, conductivity_ms_cm_from_salinity(salinity + 0.5, temperature))

    def test_what_conducts_next_to_nothing_is_fresh_water(self):
        for conductivity in (0.0, 1e-6, 1e-4):
            self.assertEqual(practical_salinity(conductivity), 0.0)

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (practical_salinity, (95, 25), DomainError),  # no seawater conducts so well
            (practical_salinity, (53, 77), DomainError),  # °F for °C
            (practical_salinity, (53_000, 25), DomainError),  # µS/cm for mS/cm
            (conductivity_ms_cm_from_salinity, (-1, 25), DomainError),
            (density_kg_l, ("35", 25), NumberError),
            (density_kg_l, (35, 78), DomainError),
            (salinity_from_density, (1023.3, 25), DomainError),  # kg/m3 for kg/L
            (salinity_from_specific_gravity, (35, R25_25), DomainError),
        ])  # fmt: skip


class Hydrometers(TableTest):
    def test_at_any_temperature(self):
        # EOS-80: rho(35, 20) = 1024.763, rho(35, 30) = 1021.729; water 997.048 at 25, 998.206 at 20, 999.975 at 4 °C.
        glass = 1 + GLASS_EXPANSION_PER_K * (20 - 25)
        self.check([
            (hydrometer_reading, (35, 20, R25_25), 1024.763 / 997.048, 2e-5),
            (hydrometer_reading, (35, 30, R25_25), 1021.729 / 997.048, 3e-5),
            (hydrometer_reading, (35, 25, R25_4), 1023.343 / 999.975, 2e-5),
            (hydrometer_reading, (35, 20, R25_25, GLASS_EXPANSION_PER_K), 1024.763 / 997.048 * glass, 2e-5),
            (salinity_from_hydrometer, (1024.763 / 997.048, 20, R25_25), 35, 0.03),
            (salinity_from_hydrometer, (1024.763 / 998.206, 20, R20_20), 35, 0.03),
            (salinity_from_hydrometer, (1021.729 / 997.048, 30, R25_25), 35, 0.04),
        ])  # fmt: skip

    def test_cold_water_read_as_if_it_were_warm_is_two_ppt_off(self):
        # 1.0278 shown at 20 °C means 35; taken at face value 1.0278 at 25/25 would be (0.0278 - 0.0264)/0.00076 more.
        self.assertAlmostEqual(salinity_from_specific_gravity(1.0278, R25_25) - 35, 0.0014 / 0.00076, delta=0.1)

    @given(st.floats(20, 42), st.floats(10, 35), st.sampled_from(list(GravityReference)), st.floats(0, 5e-5))
    def test_goes_there_and_back(self, salinity, temperature, reference, glass):
        shown = hydrometer_reading(salinity, temperature, reference, glass)
        found = salinity_from_hydrometer(shown, temperature, reference, glass)
        self.assertAlmostEqual(found, salinity, places=5)
        self.assertEqual(found.working[-1].value, found)

    def test_refuses_nonsense(self):
        self.refused([
            (salinity_from_hydrometer, (35, 25), DomainError),
            (salinity_from_hydrometer, (1.0264, 78), DomainError),
            (hydrometer_reading, (35, 25, R25_25, 25), DomainError),
        ])  # fmt: skip


class Instruments(TableTest):
    def test_refractometer_scales(self):
        salty = RefractometerScale.SODIUM_CHLORIDE
        self.check([
            (salinity_from_refractometer, (35.0,), 35.0, 1e-12),
            (salinity_from_refractometer, (36.5, salty), 35.0, 1e-9),
            (salinity_from_refractometer, (0.0, salty), 0.0, 1e-12),
        ])  # fmt: skip

    def test_checks(self):
        self.check([
            (correct_reading, (34.2, []), 34.2, 1e-12),
            (correct_reading, (36.0, [(35, 36.5)]), 34.5, 1e-9),  # one check: offset of -1.5
            (correct_reading, (36.5, [(0, 0), (35, 36.5)]), 35, 1e-9),  # two: through both
            (correct_reading, (18.25, [(0, 0), (35, 36.5)]), 17.5, 1e-9),
            (correct_reading, (8.0, [Check(7.0, 7.1), Check(10.0, 9.9)]), 7 + 0.9 * 3 / 2.8, 1e-9),
            (correct_reading, (36.0, [(35, 36), (35, 37)]), 34.5, 1e-9),  # one standard twice: mean offset
            # Least squares through (0,1), (1,2), (2,4): slope of truth 0,1,2 on shown 1,2,4 is 4.5/7 + ... by hand:
            # mean shown 7/3, sum (s-7/3)(t-1) = 3, sum (s-7/3)^2 = 14/3, slope 9/14, offset 1 - 9/14*7/3 = -1/2.
            (correct_reading, (3.0, [(0, 1), (1, 2), (2, 4)]), -0.5 + 27 / 14, 1e-9),
        ])  # fmt: skip
        self.assertEqual(instrument_line([(35, 36.5)]), (-1.5, 1.0))

    def test_checks_that_no_instrument_makes_are_refused(self):
        self.refused([
            (correct_reading, (35, [(35, 36), (0, 36)]), InputError),  # shows the same for two standards
            (correct_reading, (35, [(35, 0), (0, 35)]), InputError),  # standards and readings swapped
            (correct_reading, (35, [(0, 0), (25, 10)]), InputError),  # a slope of 2.5
            (correct_reading, (35, [(0, 0), (4.5, 10)]), InputError),  # and of 0.45
            (correct_reading, (35, [(35, float("nan"))]), DomainError),
        ])  # fmt: skip
