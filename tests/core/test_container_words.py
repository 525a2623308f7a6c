"""What is said of a container: how long it lasts, what it delivers, its pump, its events, and what must never meet."""

import unittest
from dataclasses import replace
from datetime import date, timedelta

from salttide.core.estimate.dose_times import Slot
from salttide.core.planning.container import ContainerKind
from salttide.core.planning.container_words import (
    container_event_words,
    days_words,
    delivered_words,
    pair_words,
    pairs_at_odds,
    pump_words,
    refill_words,
    set_words,
)
from salttide.core.planning.delivery import Delivery, Fault
from salttide.core.system.shelf import Additive
from tests.core.cases import ZONE
from tests.core.test_container import BEGUN, CALIBRATED, FILLED, LEVEL, NOON, SET, TUBE, now, on, soda

CALCIUM = replace(
    soda(*BEGUN, name="calcium stock", number=2), additive=Additive(2, "calcium", "CaCl2·2H2O", 1.0, 100.0)
)


class Words(unittest.TestCase):
    def test_how_long_it_lasts(self):
        self.assertEqual((days_words(None), days_words(12.4)), ("nothing is drawn", "12 days left"))
        today = date(2026, 11, 24)
        self.assertEqual(refill_words(None, today), "")
        self.assertEqual(refill_words(3.0, today), "refill by Fri 27 Nov")
        self.assertEqual(refill_words(0.0, today), "refill today: only the reserve is left")

    def test_what_is_set(self):
        self.assertEqual(set_words(soda(*BEGUN), 20.0), "20.0 mL a day by head A")
        self.assertEqual(set_words(replace(soda(*BEGUN), pump=""), 20.0), "20.0 mL a day by hand")
        self.assertEqual(set_words(soda(*BEGUN), 0.0), "not set")

    def test_what_is_delivered(self):
        self.assertIn("read its level in a week", delivered_words(None, ZONE))
        found = Delivery(0.83, 0.04, NOON, Fault.SHORT)
        self.assertEqual(delivered_words(found, ZONE), "83 ± 4 % of the set amount delivered since Sun 1 Nov")

    def test_what_happened(self):
        for event, expected in (
            (on(0, FILLED, 1000.0), "filled to 1.00 L"), (on(0, LEVEL, 640.0), "level 640 mL"),
            (on(0, SET, 20.0), "set to 20.0 mL a day"), (on(0, CALIBRATED, 1.25), "calibrated: 1.2 mL/min"),
            (on(0, TUBE), "new tube"),
        ):  # fmt: skip
            self.assertEqual(container_event_words(event), expected)
        self.assertEqual({*ContainerKind}, {FILLED, LEVEL, SET, CALIBRATED, TUBE})


class Pump(unittest.TestCase):
    def test_by_hand_there_is_nothing_to_say(self):
        self.assertEqual(pump_words(replace(soda(*BEGUN), pump=""), now(1), ZONE), [])

    def test_calibration_and_when_it_is_overdue(self):
        self.assertIn("never calibrated", pump_words(soda(*BEGUN), now(1), ZONE)[0])
        one = soda(*BEGUN, on(1, CALIBRATED, 1.5))
        self.assertEqual(pump_words(one, now(91), ZONE), ["calibrated Mon 2 Nov: 1.5 mL/min"])
        self.assertIn(", 1 day overdue", pump_words(one, now(92), ZONE)[0])

    def test_drift_and_the_age_of_the_tube(self):
        one = soda(on(0, TUBE), *BEGUN, on(1, CALIBRATED, 2.0), on(91, CALIBRATED, 1.9))
        words = pump_words(one, now(92), ZONE)
        # From 2.0 to 1.9 mL/min in ninety days: -5 %.
        self.assertIn("flow −5.0 % in 90 days", words)
        # 92 days are three months of 30.4.
        self.assertIn("tube 3 months old", words)
        self.assertEqual(pump_words(one, now(365), ZONE)[-1], "tube 12 months old")
        self.assertEqual(pump_words(one, now(366), ZONE)[-1], "tube 12 months old: replace it")


class Apart(unittest.TestCase):
    def test_only_what_precipitates_together(self):
        one, other = soda(*BEGUN), CALCIUM
        self.assertEqual([(a.id, b.id) for a, b, _ in pairs_at_odds([one, other])], [(1, 2)])
        self.assertEqual(pairs_at_odds([one, soda(*BEGUN, number=3)]), [])

    def test_how_far_apart_their_doses_are(self):
        def timed(container, minute):
            return replace(container, events=(replace(BEGUN[1], slots=(Slot(minute, 20.0),)),))

        why, late = "carbonate precipitates", NOON + timedelta(days=1)
        self.assertEqual(
            pair_words(soda(*BEGUN), CALCIUM, why, late),
            "Soda stock and calcium stock must never meet: carbonate precipitates.",
        )
        near = pair_words(timed(soda(), 600), timed(CALCIUM, 629), why, late)
        self.assertTrue(near.endswith("Their doses are 29 minutes apart: at least 30 are needed."), near)
        far = pair_words(timed(soda(), 600), timed(CALCIUM, 630), why, late)
        self.assertTrue(far.endswith("Their doses are 30 minutes apart."), far)


if __name__ == "__main__":
    unittest.main()
