"""Typed numbers and quantities, and conversion between units."""

import unittest

from hypothesis import assume, given
from hypothesis import strategies as st

from salttide.core.basics.errors import AmbiguousError, DomainError, InputError, NumberError, UnitError
from salttide.core.basics.number_text import DecimalSign, parse_number, show_number, significant
from salttide.core.basics.quantities import (
    CANONICAL,
    Gallon,
    Habits,
    Kind,
    find_unit,
    from_canonical,
    mass_of_scoops,
    parse_quantity,
    spelled_units,
    to_canonical,
)
from salttide.core.science.conversion import convert
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import UNITS, parse_measurement
from tests.core.tables import TableTest

COMMA, POINT = DecimalSign.COMMA, DecimalSign.POINT


class Numbers(unittest.TestCase):
    def test_as_the_keeper_writes_them(self):
        cases = [
            ("8.2", POINT, 8.2), ("8,2", COMMA, 8.2), ("1,025", COMMA, 1.025), ("1.025", POINT, 1.025),
            ("1,234.5", POINT, 1234.5), ("1.234,5", COMMA, 1234.5), ("1,025,000", POINT, 1_025_000),
            ("12 000", POINT, 12_000), ("-3", POINT, -3), ("−3.5", POINT, -3.5), (".5", POINT, 0.5),
            ("0.025", POINT, 0.025),
        ]  # fmt: skip
        for text, sign, expected in cases:
            with self.subTest(text=text, sign=sign):
                self.assertEqual(parse_number(text, sign), expected)

    def test_with_the_other_sign_where_only_one_number_can_be_meant(self):
        for text, value in (("8,2", 8.2), ("25,4", 25.4), ("0,025", 0.025), ("1,0256", 1.0256), ("1234,567", 1234.567),
                            ("-3,5", -3.5), (",5", 0.5)):  # fmt: skip
            with self.subTest(text=text):
                self.assertAlmostEqual(parse_number(text, POINT), value, places=12)
                self.assertAlmostEqual(parse_number(text.replace(",", "."), COMMA), value, places=12)

    def test_fractions(self):
        for text, value in (("1/2", 0.5), ("1 1/2", 1.5), ("2 3/4", 2.75)):
            with self.subTest(text=text):
                self.assertEqual(parse_number(text), value)

    def test_a_doubtful_one_is_asked_back_with_both_readings(self):
        for text, sign, readings in (("1,025", POINT, ("1.025", "1025")), ("1.025", COMMA, ("1,025", "1025"))):
            with self.subTest(text=text, sign=sign), self.assertRaises(AmbiguousError) as raised:
                parse_number(text, sign)
            self.assertEqual(raised.exception.readings, readings)

    def test_what_cannot_be_meant_is_refused_and_says_how_to_write_it(self):
        for text, sign, words in (
            ("eight", POINT, "not a number"), ("1/0", POINT, "not a number"), ("1 1/", POINT, "not a number"),
            ("8..2", POINT, "not a number"), ("1,2,3", POINT, "not a number"), ("", POINT, "not a number"),
        ):  # fmt: skip
            with self.subTest(text=text), self.assertRaises(NumberError) as raised:
                parse_number(text, sign)
            self.assertIn(words, raised.exception.message)

    @given(st.floats(-1e6, 1e6), st.integers(0, 4), st.sampled_from(list(DecimalSign)))
    def test_what_is_shown_can_be_typed(self, value, decimals, sign):
        text = show_number(value, decimals, sign)
        try:
            self.assertAlmostEqual(parse_number(text, sign), value, delta=0.51 * 10**-decimals)
        except AmbiguousError as doubt:
            self.fail(f"{text}: {doubt.message}")

    def test_significant_digits(self):
        self.assertEqual(significant(1234567.0), "1234567")
        self.assertEqual(significant(0.25, 5, COMMA), "0,25")


class Quantities(TableTest):
    def test_typed_with_a_unit(self):
        def typed(text: str, habits: Habits = Habits()) -> float:  # noqa: B008
            return parse_quantity(text, habits=habits).value

        us, imperial = Habits(gallon=Gallon.US), Habits(gallon=Gallon.IMPERIAL)
        self.check([
            (typed, ("5 gal", us), 5 * 3.785411784, 1e-9),  # 231 cubic inches of 2.54 cm
            (typed, ("5 gal", imperial), 5 * 4.54609, 1e-9),  # Weights and Measures Act 1985
            (typed, ("5 US gal",), 18.92706, 1e-5),
            (typed, ("1.5 tsp",), 1.5 * 3.785411784 / 768, 1e-9),  # 768 US teaspoons in a gallon
            (typed, ("2 cups",), 3.785411784 / 8, 1e-9),  # 16 US cups in a gallon
            (typed, ("16 fl oz", us), 3.785411784 / 8, 1e-9),  # 128 in a gallon
            (typed, ("20 fl oz", imperial), 4.54609 / 8, 1e-9),  # 160 in a gallon
            (typed, ("78 F",), (78 - 32) / 1.8, 1e-9),
            (typed, ("78.8°F",), 26.0, 1e-9),
            (typed, ("12 oz",), 12 * 28.349523125, 1e-6),  # a pound is 453.59237 g, 16 ounces
            (typed, ("3 lb",), 3 * 453.59237, 1e-6),
            (typed, ("850 ml",), 0.85, 1e-12),
            (typed, ("24 in",), 60.96, 1e-9),
            (typed, ("2 days",), 2880, 1e-9),
            (typed, ("600 l/h",), 600, 1e-9),
            (typed, ("0,5 kg", Habits(COMMA)), 500, 1e-9),
            (mass_of_scoops, (0.25, 1.1), 275, 1e-9),  # 250 mL of 1.1 g/mL
        ])  # fmt: skip

    def test_what_is_asked_back_or_refused(self):
        self.refused([
            (parse_quantity, ("5 gal",), AmbiguousError),
            (parse_quantity, ("1 pint",), AmbiguousError),
            (parse_quantity, ("5 oz", Kind.VOLUME), AmbiguousError),
            (parse_quantity, ("1,025 l",), AmbiguousError),
            (parse_quantity, ("5",), UnitError),
            (parse_quantity, ("5 kg", Kind.VOLUME), UnitError),
            (parse_quantity, ("5 ppt",), UnitError),
            (parse_quantity, ("-5 l",), DomainError),
            (parse_quantity, ("-500 C",), DomainError),
            (parse_quantity, ("five litres",), NumberError),
            (mass_of_scoops, (0.25, 11), DomainError),
        ])  # fmt: skip

    def test_a_bare_gallon_names_both(self):
        with self.assertRaises(AmbiguousError) as raised:
            find_unit("gal")
        self.assertEqual(raised.exception.readings, ("US gal", "imp gal"))

    @given(st.sampled_from(sorted(spelled_units())), st.floats(0, 1e5))
    def test_every_unit_goes_there_and_back(self, spelling, value):
        kind, key = spelled_units()[spelling]
        self.assertAlmostEqual(
            from_canonical(to_canonical(value, kind, key), kind, key), value, delta=1e-9 * max(1, value)
        )
        self.assertEqual(from_canonical(value, kind, CANONICAL[kind]), value)


class Conversion(TableTest):
    def test_of_the_waters_own_units(self):
        self.check([
            (convert, (8, "dKH", "meq/L"), 8 / 2.80385, 1e-4),  # CaO 56.077 / 2 / 10
            (convert, (2.5, "meq/L", "mg/L CaCO3"), 2.5 * 50.0435, 1e-3),  # CaCO3 100.087 / 2
            (convert, (7, "dKH", "ppm CaCO3"), 7 * 50.0435 / 2.80385, 1e-3),
            (convert, (1, "mg/L NO3-N", "mg/L NO3"), (14.0067 + 3 * 15.9994) / 14.0067, 1e-4),  # 4.4268
            (convert, (22.134, "NO3", "NO3-N"), 5.0, 1e-3),
            (convert, (1, "PO4-P", "PO4"), (30.9738 + 4 * 15.9994) / 30.9738, 1e-4),  # 3.0662
            (convert, (10, "µg/L P", "mg/L PO4"), 0.030662, 1e-6),
            (convert, (1, "mg/L NO2-N", "mg/L NO2"), (14.0067 + 2 * 15.9994) / 14.0067, 1e-4),
            (convert, (1, "NH4", "NH3"), (14.0067 + 3 * 1.00794) / (14.0067 + 4 * 1.00794), 1e-4),
            (convert, (1, "NH3-N", "NH3"), (14.0067 + 3 * 1.00794) / 14.0067, 1e-4),
            (convert, (1, "mg/L Si", "mg/L"), (28.0855 + 2 * 15.9994) / 28.0855, 1e-4),
            (convert, (35, "ppt", "SG 25/25"), 1.0264, 5e-5),  # EOS-80: 1023.343 / 997.048
            (convert, (1.0269, "SG 60/60F", "ppt"), 35.0, 0.1),
            (convert, (1.0234, "SG 25/4", "ppt"), 35.0, 0.1),
            (convert, (35, "ppt", "mS/cm"), 53.07, 0.01),  # PSS-78: 42.914 x r(25 °C), see test_seawater
            (convert, (77, "F", "°C"), 25, 1e-9),
            (convert, (10, "US gal", "imp gal"), 37.85411784 / 4.54609, 1e-9),
            (convert, (0.06, "mg/L", "µg/L", Parameter.IODINE), 60, 1e-9),
        ])  # fmt: skip

    def test_what_does_not_belong_together_is_refused(self):
        self.refused([
            (convert, (5, "L", "g"), UnitError),
            (convert, (8, "ppt", "dKH"), UnitError),  # ppt is for salinity only
            (convert, (5, "gal", "L"), AmbiguousError),
            (convert, (35, "SG 25/25", "ppt"), DomainError),
            (convert, (180, "dKH", "meq/L"), DomainError),  # mg/L CaCO3 taken for dKH
            (convert, (-1, "dKH", "meq/L"), DomainError),
            (convert, (float("nan"), "L", "mL"), DomainError),
            (convert, ("8", "dKH", "meq/L"), NumberError),
            (parse_measurement, (Parameter.NITRATE, "5 ppt", ""), UnitError),
            (parse_measurement, (Parameter.SALINITY, "1,025", "SG 25/25"), AmbiguousError),
        ])  # fmt: skip

    @given(st.data())
    def test_every_pair_of_units_goes_there_and_back(self, data):
        parameter = data.draw(st.sampled_from([p for p in Parameter if len(UNITS[p]) > 1]))
        first, second = data.draw(st.tuples(*[st.sampled_from(UNITS[parameter])] * 2))
        possible = FACTS[parameter].possible
        canonical = data.draw(st.floats(possible.low + 0.01 * possible.width, 0.9 * possible.high))
        # A salinity of 1.01 to 1.04 ppt is taken for a specific gravity, and asked back.
        assume(parameter != Parameter.SALINITY or not 1.009 <= canonical <= 1.041)
        value = first.from_canonical(canonical)
        there = convert(value, first.key, second.key, parameter)
        self.assertAlmostEqual(convert(there, second.key, first.key, parameter), value, delta=1e-6 * max(1, abs(value)))

    def test_a_refusal_is_never_a_crash(self):
        for text in ("", "mg", "dKH/L", "°", "\n", "SG", "x" * 200):
            with self.subTest(text=text):
                try:
                    convert(1.0, text, "ppt")
                except InputError:
                    continue
