"""What is typed in a row: counts, dilutions, second readings, and the correction by checks."""

import unittest
from math import sqrt

from salttide.core.basics.errors import AmbiguousError, DomainError, InputError, NumberError, UnitError
from salttide.core.basics.number_text import DecimalSign
from salttide.core.ledger.bench_row import COUNTED, Instrument, read_entry
from salttide.core.science.parameters import Parameter
from tests.core.cases import dkh

KIT = Instrument("kit", Parameter.ALKALINITY, 0.05, per_count=dkh(0.5))
NITRATE = Instrument("kit N", Parameter.NITRATE, 1.0)
R1 = Instrument("R1", Parameter.SALINITY, 0.3, checks=((35.0, 36.0),))
R2 = Instrument("R2", Parameter.SALINITY, 0.3, checks=((0.0, 0.0), (35.0, 36.0)))


class Entries(unittest.TestCase):
    def read(self, text, instrument=KIT, unit="", sign=DecimalSign.POINT):
        return read_entry(text, instrument, unit, {}, sign)

    def test_readings_of_one_sample_may_differ_by_their_scatter_times_the_dilution(self):
        # Twice the root of two times 1 mg/L is 2.83; of a sample diluted four times 11.3.
        for text, doubted in (
            ("20 / 22.8", False),
            ("20 / 22.9", True),
            ("5 x4 / 7.8 x4", False),
            ("5 x4 / 7.9 x4", True),
        ):
            self.assertEqual(bool(self.read(text, NITRATE, "mg/L").doubts), doubted, text)
        (doubt,) = self.read("5 x4 / 7.9 x4", NITRATE, "mg/L").doubts
        self.assertIn("differ by 11.6 mg/L, more than 11.3 mg/L", doubt)

    def test_what_is_typed_and_what_it_comes_to(self):
        for text, instrument, unit, value, sd, how in (
            ("8.2", KIT, "dKH", dkh(8.2), 0.05, ""),
            ("2.9 meq/L", KIT, "dKH", 2.9, 0.05, ""),
            # 17 drops of 0.5 dKH.
            ("17 drops", KIT, "dKH", dkh(8.5), 0.05, "17 drops"),
            ("17", KIT, COUNTED, dkh(8.5), 0.05, "17 drops"),
            # The mean of two has the scatter of one over the root of two.
            ("8.2 / 8.4", KIT, "dKH", dkh(8.3), 0.05 / sqrt(2), "mean of 8.2 dKH and 8.4 dKH"),
            ("8.2; 8.3; 8.4", KIT, "dKH", dkh(8.3), 0.05 / sqrt(3), "mean of 8.2 dKH and 8.3 dKH and 8.4 dKH"),
            # Diluted one to one: twice the value and twice the scatter.
            ("21 x2", NITRATE, "mg/L", 42.0, 2.0, "sample diluted 1:1"),
            ("21 1:1", NITRATE, "mg/L", 42.0, 2.0, "sample diluted 1:1"),
            ("12 1:3", NITRATE, "mg/L", 48.0, 4.0, "sample diluted 1:3"),
            ("9 drops ×2", KIT, "dKH", dkh(9.0), 0.1, "9 drops, sample diluted 1:1"),
            # One check: 36 where 35 is true, so 1 is taken off; two: the line through both, 35/36.
            ("36.5", R1, "ppt", 35.5, 0.3, "36.5 ppt as shown, corrected by the checks of R1"),
            ("18.0", R2, "ppt", 17.5, 0.3 * 35 / 36, "18.0 ppt as shown, corrected by the checks of R2"),
        ):
            with self.subTest(text=text, instrument=instrument.name):
                entry = self.read(text, instrument, unit)
                self.assertAlmostEqual(entry.value, value)
                self.assertAlmostEqual(entry.sd, sd)
                self.assertEqual(entry.how, how)
                self.assertEqual(entry.doubts, ())

    def test_the_raw_value_stays_beside_the_corrected_one(self):
        entry = self.read("36.4 / 36.6", R1, "ppt")
        self.assertAlmostEqual(entry.raw, 36.5)
        self.assertAlmostEqual(entry.value, 35.5)

    def test_readings_of_one_sample_that_lie_too_far_apart_are_asked_about(self):
        # Twice the joint scatter of 0.0707 meq/L is 0.397 dKH.
        self.assertEqual(self.read("8.2 / 8.5", unit="dKH").doubts, ())
        self.assertIn("a further one would decide", self.read("8.2 / 8.7", unit="dKH").doubts[0])

    def test_a_correction_does_not_take_nothing_below_nothing(self):
        blank = Instrument("photometer", Parameter.PHOSPHATE, 0.01, checks=((0.0, 0.015),))
        self.assertEqual(self.read("0.00", blank, "mg/L").value, 0.0)
        off = Instrument("photometer", Parameter.PHOSPHATE, 0.01, checks=((0.0, 0.4),))
        with self.assertRaises(DomainError):
            self.read("0.00", off, "mg/L")

    def test_the_keepers_decimal_comma(self):
        self.assertAlmostEqual(self.read("8,2 / 8,4", unit="dKH", sign=DecimalSign.COMMA).value, dkh(8.3))

    def test_what_is_refused_with_what_would_be_taken(self):
        for text, instrument, unit, error in (
            ("", KIT, "dKH", NumberError),
            ("8.2 / 8.3 / 8.4 / 8.5 / 8.6", KIT, "dKH", NumberError),
            ("8.2 / abc", KIT, "dKH", NumberError),
            ("19 drops", NITRATE, "mg/L", UnitError),  # this kit does not count
            ("-2 drops", KIT, "dKH", NumberError),
            ("35 x2", R1, "ppt", UnitError),  # salinity of a diluted sample
            ("21 x1", NITRATE, "mg/L", UnitError),
            ("21 x99", NITRATE, "mg/L", UnitError),
            ("400 x2", NITRATE, "mg/L", DomainError),
            ("8,200", KIT, "dKH", AmbiguousError),
        ):
            with self.subTest(text=text), self.assertRaises(error) as raised:
                self.read(text, instrument, unit)
            self.assertIsInstance(raised.exception, InputError)
            self.assertTrue(raised.exception.accepted or isinstance(raised.exception, AmbiguousError))
