"""Gallons, inches and ounces in texts and errors."""

import unittest

from salttide.core.basics.errors import DomainError, check_range
from salttide.core.basics.locale import LengthUnit, MassUnit, VolumeUnit, Writing, written_as
from salttide.core.basics.measures import (
    grams_words,
    kilograms_words,
    length_words,
    litres_words,
    measure_words,
    part_words,
    weight_words,
)
from salttide.core.basics.number_text import DecimalSign
from salttide.core.runbook.answer import read_litres
from salttide.core.runbook.steps import CountAim
from salttide.core.science.amount import contents_text, mass_text
from salttide.core.system.observations import found_words, read_found

US = Writing(
    volume=VolumeUnit.US_GALLON, length=LengthUnit.INCH, mass=MassUnit.OUNCE, gallon=VolumeUnit.US_GALLON.gallon
)


class Words(unittest.TestCase):
    def test_each_quantity_in_us_units(self):
        # 1 US gal = 231 in³ = 3.785411784 L; 1 in = 2.54 cm; 1 lb = 453.59237 g = 16 oz.
        with written_as(US):
            for said, expected in (
                (litres_words(40.0), "10.57 gal"),  # 40 / 3.7854
                (litres_words(200.0, 0), "52.8 gal"),
                (length_words(119.38), "47.00 in"),
                (measure_words(16.0, "mm", 0), "0.63 in"),
                (grams_words(1000.0), "2.20 lb"),  # 1000 / 453.592
                (grams_words(100.0), "3.5 oz"),  # 100 / 28.3495
                (kilograms_words(1669.5), "3.68 lb"),
                (weight_words(420.0), "14.8 oz"),
                (mass_text(5.27), "5.27 g"),  # below an ounce: what a scale for powders shows
                (contents_text(1500.0), "1500 mL"),  # less than a gallon
                (contents_text(5000.0), "1.321 gal"),
                (measure_words(25.0, "mL", 1), "25.0 mL"),
                (part_words(4100.0, 5900.0, "L/h", 0), "1083.1 of 1558.6 gal/h"),
            ):
                with self.subTest(expected=expected):
                    self.assertEqual(said, expected)

    def test_imperial_gallons_and_a_decimal_comma(self):
        # 1 imp gal = 4.54609 L: 40 / 4.54609 = 8.799
        with written_as(Writing(DecimalSign.COMMA, volume=VolumeUnit.IMPERIAL_GALLON)):
            self.assertEqual(litres_words(40.0), "8,80 gal")

    def test_metric_is_as_it_was(self):
        for said, expected in (
            (litres_words(40.0), "40.0 L"), (length_words(-0.01), "0.0 cm"), (grams_words(1000.0), "1000 g"),
            (weight_words(1669.5, 3), "1.669 kg"), (part_words(825, 4000, "L", 0), "825 of 4000 L"),
        ):  # fmt: skip
            self.assertEqual(said, expected)


class Refusals(unittest.TestCase):
    def test_the_range_is_in_the_keepers_unit_and_lies_inside(self):
        # 10 to 20 L are 2.6417 to 5.2834 gal, rounded inwards: what is said to be accepted is.
        with written_as(US), self.assertRaises(DomainError) as caught:
            check_range("volume", 7.5708, "L", 10, 20)
        self.assertEqual(
            caught.exception.message, "volume of 2 gal is not possible here: 2.642 to 5.283 gal is accepted"
        )
        self.assertEqual((caught.exception.low, caught.exception.unit), (10, "L"))


class Typed(unittest.TestCase):
    AIM = CountAim(40.0, 15.0, 5.9, 6.774, 334.0)

    def test_a_bare_bucket_is_in_what_the_keeper_reads(self):
        with written_as(US):
            self.assertAlmostEqual(read_litres("4", self.AIM), 4 * 3.785411784, places=9)
            self.assertAlmostEqual(read_litres("15 l", self.AIM), 15.0)
            # 2 in are 5.08 cm, of 6.774 L each.
            self.assertAlmostEqual(read_litres("2 in", self.AIM), 5.08 * 6.774, places=9)
        self.assertEqual(read_litres("15", self.AIM), 15.0)

    def test_a_finding_takes_gallons_and_says_them(self):
        with written_as(US):
            made = read_found("litres_made", "10 gal")
            self.assertAlmostEqual(float(made), 37.85411784)
            self.assertEqual(found_words({"litres_made": made}), ["Purified water made: 10.0 gal"])
            self.assertAlmostEqual(float(read_found("flow_after", "500 gal/h")), 1892.705892)
