"""Units and typed measurements."""

import unittest

from hypothesis import assume, given
from hypothesis import strategies as st

from salttide.core.basics.errors import GRAVITY_HIGH, GRAVITY_LOW, AmbiguousError, DomainError, NumberError, UnitError
from salttide.core.basics.number_text import show_number
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import (
    CACO3_MG_PER_MEQ,
    DKH_PER_MEQ_L,
    UNITS,
    in_keepers_units,
    parse_measurement,
    show,
    show_difference,
    unit_named,
)


class Conversions(unittest.TestCase):
    def test_alkalinity_units_follow_from_molar_masses(self):
        # CaO 56.077 g/mol, 2 eq: 28.0385 mg per meq; 1 dKH is 10 mg/L CaO. CaCO3 100.087 g/mol, 2 eq: 50.0435.
        self.assertAlmostEqual(DKH_PER_MEQ_L, 2.80385, places=5)
        self.assertAlmostEqual(CACO3_MG_PER_MEQ, 50.0435, places=4)

    def test_typed_values_become_canonical(self):
        cases = [
            (Parameter.ALKALINITY, "8.2", "dKH", 2.9246),  # 8.2 / 2.80385
            (Parameter.ALKALINITY, "150", "mg/L CaCO3", 2.9974),  # 150 / 50.0435
            (Parameter.ALKALINITY, "150 mg/L CaCO3", "dKH", 2.9974),  # the typed unit wins
            (Parameter.ALKALINITY, "2.9 meq/L", "dKH", 2.9),
            (Parameter.TEMPERATURE, "78 F", "°C", 25.5556),  # (78 - 32) / 1.8
            (Parameter.SALINITY, "1.0264", "SG 25/25", 35.04),  # table value 1.0264 at 35, slope 0.00076 per ppt
            (Parameter.NITRATE, "5 ppm", "mg/L", 5.0),
            (Parameter.PH, "8.1", "", 8.1),
        ]
        for parameter, text, unit, expected in cases:
            with self.subTest(text=text, unit=unit):
                self.assertAlmostEqual(
                    parse_measurement(parameter, text, unit), expected, delta=0.02 if "SG" in unit else 1e-4
                )

    @given(st.data())
    def test_every_unit_goes_there_and_back(self, data):
        parameter = data.draw(st.sampled_from(list(Parameter)))
        unit = data.draw(st.sampled_from(UNITS[parameter]))
        possible = FACTS[parameter].possible
        value = data.draw(st.floats(possible.low, possible.high))
        # A salinity about 1 is taken for a specific gravity, and asked about.
        assume(parameter != Parameter.SALINITY or not GRAVITY_LOW <= value <= GRAVITY_HIGH)
        self.assertAlmostEqual(unit.to_canonical(unit.from_canonical(value)), value, delta=1e-6 * max(1, value))


class BadInput(unittest.TestCase):
    def test_each_says_what_would_be_accepted(self):
        cases = [
            ("1,025", AmbiguousError, "1.025 or 1025"),
            ("eight", NumberError, "not a number"),
            ("8.2.1", NumberError, "not a number"),
            ("8.2 kg", UnitError, "dKH, meq/L, mg/L CaCO3"),
            ("350", DomainError, "0 to 28 dKH"),
            ("-1", DomainError, "0 to 28 dKH"),
        ]
        for text, error, words in cases:
            with self.subTest(text=text), self.assertRaises(error) as raised:
                parse_measurement(Parameter.ALKALINITY, text, "dKH")
            self.assertIn(words, raised.exception.message)

    def test_salinity_of_350_names_the_range_in_the_unit_typed(self):
        with self.assertRaises(DomainError) as raised:
            parse_measurement(Parameter.SALINITY, "350", "ppt")
        self.assertEqual(raised.exception.accepted, "0 to 45 ppt")
        with self.assertRaises(DomainError) as raised:
            parse_measurement(Parameter.SALINITY, "35", "SG 25/25")
        self.assertIn("SG 25/25 °C", raised.exception.accepted)

    def test_a_unit_of_another_parameter_is_refused(self):
        with self.assertRaises(UnitError):
            unit_named(Parameter.CALCIUM, "dKH")


class Showing(unittest.TestCase):
    def test_as_many_digits_as_the_instrument_resolves(self):
        self.assertEqual(show(Parameter.ALKALINITY, 2.5, {}), "7.0 dKH")
        self.assertEqual(show(Parameter.ALKALINITY, 2.5, {Parameter.ALKALINITY: "meq/L"}), "2.50 meq/L")
        self.assertEqual(show(Parameter.PHOSPHATE, 0.0314, {}), "0.031 mg/L")
        self.assertEqual(show(Parameter.PH, 8.123, {}), "8.12")

    def test_a_true_minus_and_no_negative_zero(self):
        self.assertEqual(show_number(-2.0, 1), "−2.0")
        self.assertEqual(show_number(-0.001, 2), "0.00")

    def test_a_difference_in_fahrenheit_has_no_offset(self):
        shown = show_difference(Parameter.TEMPERATURE, 1.0, 25.0, {Parameter.TEMPERATURE: "°F"})
        self.assertEqual(shown, "1.8 °F")


class Refusals(unittest.TestCase):
    """A refusal is told in the units that the keeper reads, and with digits that can be read."""

    def test_in_the_keepers_units(self):
        # 1 meq/L is 2.804 dKH: 6.0 is 16.8, and of 1.5 to 5.0 what is told lies inside 4.206 to 14.02.
        for error, choice, words in (
            (DomainError("target alkalinity", 6.0, "meq/L", 1.5, 5.0), {Parameter.ALKALINITY: "dKH"},
             "target alkalinity of 16.8 dKH is not possible here: 4.3 to 14 dKH is accepted"),
            # A difference has no nought of its own: 50 °C more is 90 °F more, not 122.
            (DomainError("limit of temperature", 50.0, "°C", 0.5, 5.0), {Parameter.TEMPERATURE: "°F"},
             "limit of temperature of 90 °F is not possible here: 0.9 to 9 °F is accepted"),
            (DomainError("temperature", 50.0, "°C", 0.0, 40.0), {Parameter.TEMPERATURE: "°F"},
             "temperature of 122 °F is not possible here: 32 to 104 °F is accepted"),
            # What an instrument shows is on its own scale.
            (DomainError("refractometer reading", 60.0, "ppt", 0.0, 45.0), {Parameter.SALINITY: "SG 25/25"},
             "refractometer reading of 60 ppt is not possible here: 0 to 45 ppt is accepted"),
        ):  # fmt: skip
            with self.subTest(words=words):
                self.assertEqual(in_keepers_units(error, choice).message, words)
        refused = in_keepers_units(
            DomainError("target salinity", 50.0, "ppt", 20.0, 42.0), {Parameter.SALINITY: "SG 25/25"}
        )
        self.assertRegex(refused.message, r"^target salinity is too high: 1\.0\d+ to 1\.0\d+ SG 25/25 °C is accepted$")

    def test_four_digits_and_more_only_to_tell_them_apart(self):
        for value, low, high, words in (
            # The end of the range is rounded into it: 38.77 would be refused.
            (40_000.0, 0.0, 38.7693, "40000 g/L is not possible here: 0 to 38.76 g/L"),
            (5.00003, 1.5, 5.0, "5.00003 g/L is not possible here: 1.5 to 5 g/L"),
            (0.2, 0.33333, 9.0, "0.2 g/L is not possible here: 0.3334 to 9 g/L"),
            (-1.0, 1e-9, 1e6, "-1 g/L is not possible here: more than 0, up to 1000000 g/L"),
        ):
            with self.subTest(value=value):
                self.assertIn(words, DomainError("strength", value, "g/L", low, high).message)
