"""What is said of a batch: its line, its events, its label, and what it shows of its salt."""

import unittest
from dataclasses import replace
from datetime import timedelta

from salttide.core.planning.batch import BatchKind, batch_state
from salttide.core.planning.batch_plan import Portion
from salttide.core.planning.batch_words import batch_label, batch_words, event_words, portion_words, strength_words
from tests.core.cases import NOW, ZONE
from tests.core.test_batch import MIXED, batch, event

UNITS = {}


class Line(unittest.TestCase):
    def test_planned_mixed_and_measured(self):
        job = batch()
        self.assertEqual(batch_words(job, batch_state(job, ()), UNITS), "45.0 L of Kittiwake Standard to 35.0 ppt")
        self.assertEqual(batch_words(job, batch_state(job, MIXED), UNITS), "45.0 L, 35.0 ppt expected")
        measured = (*MIXED, event("measured", minutes=130, salinity=34.6))
        self.assertEqual(batch_words(job, batch_state(job, measured), UNITS), "45.0 L, 34.6 ppt measured")
        weaker = (*measured, event("fresh", 1.0, 140))
        # 34.6 x 45/46 = 33.8, and no longer measured.
        self.assertEqual(batch_words(job, batch_state(job, weaker), UNITS), "46.0 L, 33.8 ppt expected")


class Events(unittest.TestCase):
    def test_every_kind_is_said(self):
        job, names = batch(), {1: "Beacon"}
        for kind, amount, expected in (
            ("salted", 1669.5, "1.669 kg Kittiwake Standard in 45.0 L"),
            ("resting", 0, "all dissolved, resting"),
            ("salt", 12.4, "12 g salt added"),
            ("fresh", 1.26, "1.3 L fresh water added"),
            ("out", 2.0, "2.0 L removed"),
            ("matched", 0, "matched and covered"),
            ("thrown", 45.0, "45.0 L poured away"),
        ):
            with self.subTest(kind=kind):
                self.assertEqual(event_words(job, event(kind, amount), names, UNITS), expected)
        self.assertEqual({each.value for each in BatchKind} - {"measured", "dosed", "used"}, {
            "salted", "resting", "salt", "fresh", "out", "matched", "thrown",
        })  # fmt: skip
        measured = event("measured", salinity=35.02, ph=8.21)
        self.assertEqual(event_words(job, measured, names, UNITS), "salinity 35.0 ppt, pH 8.21")
        self.assertEqual(event_words(job, event("dosed", 3.4, item="Na2CO3"), names, UNITS), "3.40 g Na2CO3 stirred in")
        used = replace(event("used", 40.0), system_id=1)
        self.assertEqual(event_words(job, used, names, UNITS), "40.0 L used for Beacon")
        self.assertEqual(event_words(job, replace(used, system_id=9), names, UNITS), "40.0 L used for something else")

    def test_a_portion_is_said_with_its_fresh_water(self):
        portion = Portion(1, "Beacon", 40.0, 35.0, 0.12, 40.0)
        self.assertEqual(portion_words(portion), "Beacon: 40.0 L")
        thinned = replace(portion, batch_l=38.4, fresh_l=1.6)
        self.assertEqual(portion_words(thinned), "Beacon: 38.4 L and 1.6 L fresh water")


class Strength(unittest.TestCase):
    def test_a_first_measurement_shows_the_salt(self):
        # 1669.5 g in 45 L are 37.1 g/L; at 34 ppt that is 37.1 x 35/34 = 38.2 g/L for 35 ppt, by density a bit less.
        events = (*MIXED, event("measured", minutes=130, salinity=34.0))
        self.assertRegex(
            strength_words(batch(), events), r"^Kittiwake Standard came out at 38\.\d ± \d\.\d g/L for 35 ppt"
        )
        self.assertIn("planned at 37.1 g/L", strength_words(batch(), events))

    def test_only_the_first_and_only_of_salt_and_water_alone(self):
        first = event("measured", minutes=130, salinity=34.0)
        corrected = (*MIXED, first, event("salt", 60.0, 140), event("measured", minutes=150, salinity=35.0))
        self.assertEqual(strength_words(batch(), corrected), strength_words(batch(), (*MIXED, first)))
        for events in (
            MIXED,
            (event("measured", minutes=130, salinity=34.0),),
            (*MIXED, event("fresh", 1.0, 120), first),
            (*MIXED, event("measured", minutes=130, ph=8.2)),
            (*MIXED, event("measured", minutes=130, salinity=9.9)),
            (*MIXED, event("measured", minutes=130, salinity=45.1)),
        ):
            self.assertEqual(strength_words(batch(), events), "")
        for salinity in (10.0, 45.0):
            self.assertTrue(strength_words(batch(), (*MIXED, event("measured", minutes=130, salinity=salinity))))


class Label(unittest.TestCase):
    def test_planned_it_says_what_it_will_be(self):
        job = batch()
        lines = dict(batch_label(job, batch_state(job, ()), (), UNITS, ZONE))
        self.assertEqual(lines, {"Salt": "Kittiwake Standard", "Volume": "45.0 L"})

    def test_mixed_and_measured_it_says_until_when_it_keeps(self):
        job = batch()
        events = (*MIXED, event("measured", minutes=130, salinity=35.0, alkalinity=2.95))
        portion = Portion(1, "Beacon", 40.0, 35.0, 0.12, 40.0)
        lines = dict(batch_label(job, batch_state(job, events), (portion,), UNITS, ZONE))
        self.assertEqual(lines["Mixed"], "24 Nov 2026")
        # 2.95 meq/L are 8.27 dKH, above 8: two weeks.
        self.assertEqual(lines["Measure again from"], "8 Dec 2026")
        self.assertEqual((lines["Salinity"], lines["Alkalinity"]), ("35.0 ppt", "8.3 dKH"))
        self.assertNotIn("Calcium", lines, "expected, not measured")
        self.assertEqual(lines["For"], "Beacon: 40.0 L")

    def test_the_day_is_the_keepers(self):
        job, late = batch(), replace(MIXED[0], at=NOW + timedelta(hours=6))
        self.assertEqual(dict(batch_label(job, batch_state(job, (late,)), (), UNITS, ZONE))["Mixed"], "25 Nov 2026")


if __name__ == "__main__":
    unittest.main()
