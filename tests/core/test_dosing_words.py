"""What is said of a daily routine of doses: catching up, stepping up, by hand, changes alone, limewater; by hand."""

import unittest
from dataclasses import replace

from salttide.core.estimate.rate import Rate, rate_of
from salttide.core.estimate.supplementation import Changes, DailySupplements, Means, Need, need_of_rates, plan_routine
from salttide.core.planning import dosing_words as said
from salttide.core.planning.correction import WaterNow
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.sizing import DayLimit
from salttide.core.system.shelf import Additive
from tests.core.cases import BEACON, NOW, ledger, reading

ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM
SODA = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
SYSTEM = replace(BEACON, bands={ALKALINITY: Span(2.6, 3.0)})


def falling(level: float, a_day: float = 0.05) -> Rate:
    found = rate_of(
        ledger(*(reading(ALKALINITY, level + a_day * day, day) for day in range(14, -1, -1))), ALKALINITY, NOW
    )
    assert found
    return found


def routine(uptake: float = 0.2) -> DailySupplements:
    water = {ALKALINITY: 2.8, CALCIUM: 420.0, MAGNESIUM: 1300.0}
    return plan_routine(Need(uptake, 0.0, 0.0), water, SYSTEM.volume_l, Means(((SODA, 1.0),)))


def dosed(level: float = 2.8) -> said.DosedSystem:
    rates = {ALKALINITY: falling(level), CALCIUM: None, MAGNESIUM: None}
    return said.DosedSystem(SYSTEM, {ALKALINITY: 2.8}, rates, WaterNow(), lambda _: DayLimit(0.36, 0.36), {})


def speed(_: Parameter, per_day: float) -> str:
    return f"{per_day:.3f} meq/L"


class Said(unittest.TestCase):
    def test_a_level_that_is_off_is_caught_up_with_within_a_week(self) -> None:
        # 0.28 below the target: 0.28 / 7 = 0.04 more than the 0.2 that hold it. 0.24 meq/L in 334.05 L are 80.17 meq,
        # 4.249 g of soda, 42.5 mL.
        (words,) = said.catch_up_words(dosed(2.52), routine())
        self.assertIn("42.5 mL soda stock a day for 7 days", words)
        self.assertEqual(said.catch_up_words(dosed(2.8), routine()), [])

    def test_a_dose_that_grows_past_a_days_limit_is_stepped_up(self) -> None:
        limit = SYSTEM.limits.alkalinity_meq_l
        self.assertEqual(said.step_up_words(dosed(), routine(0.2), 0.2 - limit + 1e-9, speed), [])
        (words,) = said.step_up_words(dosed(), routine(2 * limit + 0.1), 0.0, speed)
        self.assertIn("over 3 days", words)

    def test_by_hand_a_large_dose_is_split_and_a_pump_is_left_alone(self) -> None:
        (words,) = said.by_hand_words(dosed(), routine(1.0), ())
        self.assertRegex(words, r"By hand, split soda stock into [2-9] doses")
        self.assertEqual(said.by_hand_words(dosed(), routine(1.0), {"soda stock"}), [])
        self.assertEqual(said.by_hand_words(dosed(), routine(0.05), ()), [])

    def test_what_is_not_replaced_leaves_magnesium_out(self) -> None:
        left = replace(routine(), left={CALCIUM: 4.0, MAGNESIUM: 0.5})
        self.assertEqual(list(said.uncovered(left)), [(CALCIUM, 4.0)])

    def test_the_day_in_one_sentence(self) -> None:
        # 0.2 meq/L in 334.05 L: 66.8 meq, 3.54 g, 35.4 mL.
        self.assertEqual(said.summary_of_routine(routine()), "Every day 35.4 mL soda stock.")
        nothing = replace(routine(), amounts=())
        self.assertEqual(
            said.summary_of_routine(replace(nothing, left={})),
            "What comes in covers what is used: nothing needs dosing.",
        )
        self.assertEqual(said.summary_of_routine(replace(nothing, left={CALCIUM: 1.0})), "Nothing is dosed.")

    def test_whether_changes_alone_would_do(self) -> None:
        # 10 % a week of 3.5 against a floor of 2.6: 0.1 * 0.9 / 7 = 0.01286 meq/L a day.
        weekly = Changes(0.1, 7, {ALKALINITY: 3.5})
        for uptake, verdict in ((0.0128, "enough here"), (0.0130, "not enough for 0.013 meq/L")):
            with self.subTest(uptake=uptake):
                words = said.changes_alone_words(SYSTEM, weekly, uptake, {}, speed)
                self.assertIn("(10 % every 7 days with new water of 9.8 dKH)", words)
                self.assertTrue(words.endswith(f"within the band: {verdict}."), words)
        self.assertEqual(said.changes_alone_words(SYSTEM, None, 0.1, {}, speed), "")
        self.assertEqual(said.changes_alone_words(replace(SYSTEM, bands={}), weekly, 0.1, {}, speed), "")
        self.assertEqual(said.changes_alone_words(SYSTEM, Changes(0.1, 7, {}), 0.1, {}, speed), "")

    def test_a_reservoir_of_limewater_is_bounded_by_a_days_limit(self) -> None:
        _, bad = said.lime_flood_words(dosed(), 500.0)
        small, good = said.lime_flood_words(dosed(), 0.5)
        self.assertEqual((bad, good), (True, False))
        self.assertIn("All 0.5 L at once would give", small)

    def test_what_is_used_is_as_typed_or_as_it_falls(self) -> None:
        rates = {ALKALINITY: falling(2.8), MAGNESIUM: None}
        self.assertAlmostEqual(need_of_rates(rates).alkalinity, 0.05, places=2)
        self.assertEqual(need_of_rates(rates, 0.3).alkalinity, 0.3)
        self.assertEqual(need_of_rates({ALKALINITY: falling(2.8, -0.05)}).alkalinity, 0.0)


if __name__ == "__main__":
    unittest.main()
