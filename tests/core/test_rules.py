"""Small rules that others lean on: ranges, errors, routine changes, settings."""

import os
import unittest
from pathlib import Path
from unittest import mock

from salttide.core.basics.errors import DomainError, GateError, InputError, SaltTideError, check_range
from salttide.core.ledger.balance import effect
from salttide.core.planning.work_order import dose_event, job_words, routine_change
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import FACTS, Parameter
from salttide.settings import settings
from tests.core.cases import BEACON, KITTIWAKE, NOW
from tests.core.test_runbook import job


class Ranges(unittest.TestCase):
    def test_the_ends_belong_to_it_and_nan_does_not(self):
        self.assertEqual([check_range("x", value, "L", 1, 2) for value in (1, 2)], [1, 2])
        for value in (0.999, 2.001, float("nan"), float("inf")):
            with self.subTest(value=value), self.assertRaises(DomainError):
                check_range("x", value, "L", 1, 2)

    def test_the_error_names_value_unit_range_and_field(self):
        with self.assertRaises(DomainError) as raised:
            check_range("bucket", 0, "L", 1, 200, field="bucket_l")
        error = raised.exception
        self.assertEqual(error.message, "bucket of 0 L is not possible here: 1 to 200 L is accepted")
        self.assertEqual((error.field, error.accepted, error.code), ("bucket_l", "1 to 200 L", "domain"))

    def test_one_tree(self):
        self.assertTrue(issubclass(DomainError, InputError))
        self.assertTrue(issubclass(GateError, SaltTideError))
        self.assertEqual(GateError("x", ("a", "b")).missing, ("a", "b"))


class Facts(unittest.TestCase):
    def test_what_is_likely_is_possible_and_scatter_is_small_against_it(self):
        for parameter, facts in FACTS.items():
            with self.subTest(parameter=parameter):
                self.assertGreaterEqual(facts.likely.low, facts.possible.low)
                self.assertLessEqual(facts.likely.high, facts.possible.high)
                self.assertLess(facts.sd, facts.likely.width / 10)

    def test_what_is_possible_what_is_likely_and_how_a_hobby_test_scatters(self):
        # Judgement, all of it: what a keeper may type at all, what is asked about, and one deviation of a usual kit.
        for name, possible, likely, sd in (
            ("temperature", (0, 45), (18, 32), 0.1), ("salinity", (0, 45), (25, 40), 0.3),
            ("alkalinity", (0, 10), (1.4, 5), 0.05), ("calcium", (0, 1000), (300, 550), 8),
            ("magnesium", (0, 2500), (1000, 1600), 20), ("nitrate", (0, 500), (0, 80), 1),
            ("phosphate", (0, 20), (0, 1), 0.01), ("ph", (5, 10.5), (7.5, 8.7), 0.03),
            ("ammonia", (0, 20), (0, 5), 0.1), ("nitrite", (0, 100), (0, 20), 0.1),
            ("potassium", (0, 1000), (300, 500), 8), ("strontium", (0, 50), (4, 15), 0.5),
            ("silicate", (0, 20), (0, 2), 0.05), ("orp", (-500, 1000), (150, 480), 10),
            ("sodium", (0, 16_000), (9_000, 12_500), 200), ("chloride", (0, 28_000), (17_000, 22_000), 300),
            ("sulfate", (0, 6_000), (2_000, 3_500), 60), ("boron", (0, 30), (2, 8), 0.3),
            ("iodine", (0, 2), (0, 0.12), 0.01), ("tds", (0, 60_000), (0, 500), 2),
        ):  # fmt: skip
            facts = FACTS[Parameter(name)]
            with self.subTest(name):
                self.assertEqual((facts.possible.low, facts.possible.high), possible)
                self.assertEqual((facts.likely.low, facts.likely.high), likely)
                self.assertEqual(facts.sd, sd)

    def test_salinity_is_tested_before_the_ions(self):
        order = list(Parameter)
        self.assertLess(order.index(Parameter.SALINITY), order.index(Parameter.ALKALINITY))


class Jobs(unittest.TestCase):
    def test_a_routine_change_is_the_usual_size_of_the_usual_salt(self):
        # Beacon: 12 % of 334.047 L; the band holds 35 ppt, so the label's 428 mg/L calcium.
        change = routine_change(BEACON, KITTIWAKE, NOW)
        self.assertAlmostEqual(change.out_l, 40.0857, places=3)
        self.assertAlmostEqual(change.incoming[Parameter.SALINITY], 35.0)
        self.assertAlmostEqual(change.incoming[Parameter.CALCIUM], 428)
        self.assertAlmostEqual(effect(Parameter.NITRATE, change, BEACON.volume_l).on(10.0), 8.8)

    def test_words_name_the_salt_the_doses_and_where_they_go(self):
        self.assertEqual(
            job_words(job(system_dose_g=5.31)),
            "mix 1.48 kg Kittiwake Standard to 35.0 ppt, 0.500 g soda ash into the batch, "
            "5.31 g soda ash into the system",
        )
        self.assertEqual(job_words(job(litres=0, batch_dose_g=0, system_dose_g=2)), "2.00 g soda ash into the system")

    def test_a_dose_counts_by_its_compound(self):
        # 8.4007 g baking soda are 0.1 mol x 1 eq: 100 meq.
        dose = dose_event(job(source=AlkalinitySource.BAKING_SODA, system_dose_g=8.4007), NOW)
        self.assertEqual(dose.additive, "baking soda")
        self.assertAlmostEqual(dose.amounts[Parameter.ALKALINITY], 100, delta=0.01)


class Settings(unittest.TestCase):
    def test_from_the_environment_with_loopback_as_default(self):
        with mock.patch.dict(os.environ, {"SALTTIDE_DATABASE": "/tmp/own.db", "SALTTIDE_PORT": "9000"}, clear=False):
            os.environ.pop("SALTTIDE_HOST", None)
            found = settings()
        self.assertEqual((found.database, found.host, found.port), (Path("/tmp/own.db"), "127.0.0.1", 9000))
