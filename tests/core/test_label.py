"""Salt labels of every form, what measured batches teach, and food as an input."""

import unittest
from math import inf

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.basics.number_text import DecimalSign
from salttide.core.science.food import NO3_PER_N, PO4_PER_P, Food, brought, check_food
from salttide.core.science.label import read_label, read_printed_at
from salttide.core.science.mix import SaltMix, StrengthBasis
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salt_calibration import MeasuredBatch, bounded, check_batch, learned_salt, strength_learned
from salttide.core.science.units import unit_named
from salttide.core.system.catalogue import food_kinds
from tests.core.cases import dkh

ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM
DKH, MG = unit_named(ALKALINITY, "dKH"), unit_named(CALCIUM, "mg/L")
LABEL = SaltMix(3, "basic", 35.4, StrengthBasis.FINISHED_WATER, {CALCIUM: Span(360, inf)})


class Forms(unittest.TestCase):
    def test_every_form_that_labels_print(self):
        cases = [
            (ALKALINITY, "2.95 ± 0.15 meq/L", 35, 2.80, 3.10),
            (ALKALINITY, "2.95+/-0.15 meq/L", 35, 2.80, 3.10),
            (ALKALINITY, "9.6–10.4 dKH", 35, dkh(9.6), dkh(10.4)),
            (ALKALINITY, "9.6 to 10.4", 35, dkh(9.6), dkh(10.4)),  # the keeper's unit where none is printed
            (ALKALINITY, "8.2-8.8", 35, dkh(8.2), dkh(8.8)),
            (ALKALINITY, "150 mg/L CaCO3", 35, 150 / 50.043, 150 / 50.043),
            (CALCIUM, "428 ± 12", 35, 416, 440),
            (CALCIUM, "405–425 mg/L", 35, 405, 425),
            (CALCIUM, "420 ppm", 35, 420, 420),
            (CALCIUM, "at least 360", 35, 360, inf),
            (CALCIUM, "≥ 360 mg/L", 35, 360, inf),
            (CALCIUM, "min. 360", 35, 360, inf),
            # Printed at 33 ppt: 35/33 of it at 35.
            (CALCIUM, "396", 33, 420, 420),
        ]
        for parameter, text, at, low, high in cases:
            with self.subTest(text=text):
                span = read_label(parameter, text, DKH if parameter == ALKALINITY else MG, at)
                self.assertAlmostEqual(span.low, low, places=3)
                self.assertAlmostEqual(span.high, high, places=3)

    def test_with_a_decimal_comma(self):
        span = read_label(ALKALINITY, "2,95 ± 0,15 meq/L", DKH, sign=DecimalSign.COMMA)
        self.assertAlmostEqual(span.low, 2.8)

    def test_what_is_no_label_is_refused_with_what_is(self):
        for text in ("lots", "425–405", "0.1 ± 3", "8 furlongs", "2,950 ± 0,15", ""):
            with self.subTest(text=text), self.assertRaises(InputError):
                read_label(ALKALINITY, text, DKH)

    def test_the_salinity_it_is_stated_at(self):
        # 1.0264 at 25/25 °C is 35 ppt (TEOS-10: 1.02637), and its last digit half of 0.13 ppt.
        for text, ppt in (("35", 35), ("35 ppt", 35), ("33", 33), ("1.0264", 35.0), ("SG 1.0264", 35.0), ("", 35)):
            with self.subTest(text=text):
                self.assertAlmostEqual(read_printed_at(text), ppt, delta=0.07)
        for text in ("3.5", "1.2", "350", "brine"):
            with self.subTest(text=text), self.assertRaises(InputError):
                read_printed_at(text)


class OwnBatches(unittest.TestCase):
    def test_values_are_brought_to_35_and_go_before_the_label(self):
        # 372 and 369 * 35 / 34.6 = 373.27: mean 372.63; a test's 8 mg/L over the root of two is 5.66.
        batches = [MeasuredBatch(35.0, {CALCIUM: 372.0}), MeasuredBatch(34.6, {CALCIUM: 369.0, MAGNESIUM: 1175.0})]
        salt = learned_salt(LABEL, batches)
        self.assertAlmostEqual(salt.values[CALCIUM].middle, 372.63, delta=0.01)
        self.assertAlmostEqual(salt.values[CALCIUM].width / 2, 5.66, delta=0.01)
        self.assertAlmostEqual(salt.values[MAGNESIUM].middle, 1188.6, delta=0.1)
        self.assertEqual(salt.values_from, "2 own batches")

    def test_strength_is_taken_once_it_is_surely_another(self):
        # 35.4 g/L that gave 33.0 instead of 35 ppt: 35.4 * 35/33 of the dissolved salt, 37.6 g/L (density aside).
        weak = [MeasuredBatch(33.0, {}, 3540.0, 100.0), MeasuredBatch(33.1, {}, 3540.0, 100.0)]
        self.assertAlmostEqual(learned_salt(LABEL, weak).strength_g_l, 37.6, delta=0.2)
        as_printed = [MeasuredBatch(34.9, {}, 3540.0, 100.0), MeasuredBatch(35.1, {}, 3540.0, 100.0)]
        self.assertEqual(learned_salt(LABEL, as_printed).strength_g_l, 35.4)
        self.assertEqual(strength_learned(as_printed).count, 2)
        self.assertIsNone(strength_learned([MeasuredBatch(35.0, {CALCIUM: 372.0})]))

    def test_nothing_measured_leaves_the_label(self):
        self.assertIs(learned_salt(LABEL, []), LABEL)

    def test_no_single_value_is_made_of_a_lower_bound(self):
        self.assertEqual(bounded(LABEL).values, {})

    def test_impossible_batches_are_refused_at_their_field(self):
        for batch, field in (
            (MeasuredBatch(3.5), "salinity"), (MeasuredBatch(35.0, {}, 3500.0), "volume_l"),
            (MeasuredBatch(35.0, {}, 35.0, 100.0), "mass_g"),
            (MeasuredBatch(35.0, {CALCIUM: 42000.0}), "holds.calcium"),
        ):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InputError) as raised:
                check_batch(batch)
            self.assertEqual(raised.exception.field, field)


class Foods(unittest.TestCase):
    def test_what_a_portion_brings(self):
        # 3 portions of 1.2 g, 12 % dry, 10 % N and 1.2 % P of it: 43.2 mg N and 5.184 mg P.
        food = Food(1, "mysids", "frozen", 0.12, 0.10, 0.012, 1.2)
        self.assertAlmostEqual(brought(food, 3)[Parameter.NITRATE], 43.2 * 4.4268, delta=0.01)
        self.assertAlmostEqual(brought(food, 3)[Parameter.PHOSPHATE], 5.184 * 3.0662, delta=0.01)
        self.assertAlmostEqual(NO3_PER_N, 4.4268, places=4)
        self.assertAlmostEqual(PO4_PER_P, 3.0662, places=4)

    def test_dry_food_is_many_times_denser(self):
        kinds = food_kinds()
        self.assertGreater(kinds["granules"].dry_share / kinds["frozen"].dry_share, 5)
        for kind in kinds.values():
            with self.subTest(kind.key):
                check_food(Food(0, kind.name, kind.key, kind.dry_share, kind.nitrogen_share, kind.phosphorus_share,
                                kind.portion_g))  # fmt: skip

    def test_impossible_foods_are_refused_at_their_field(self):
        for food, field in (
            (Food(0, " ", "frozen", 0.1, 0.1, 0.01, 1), "name"),
            (Food(0, "x", "frozen", 1.2, 0.1, 0.01, 1), "dry_percent"),
            (Food(0, "x", "frozen", 0.1, 0.4, 0.01, 1), "nitrogen_percent"),
            (Food(0, "x", "frozen", 0.1, 0.1, 0.2, 1), "phosphorus_percent"),
            (Food(0, "x", "frozen", 0.1, 0.1, 0.01, 0), "portion_g"),
        ):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InputError) as raised:
                check_food(food)
            self.assertEqual(raised.exception.field, field)
        with self.assertRaises(DomainError):
            brought(Food(1, "mysids", "frozen", 0.12, 0.10, 0.012, 1.2), -1)
