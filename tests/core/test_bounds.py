"""At the bounds: where a rule begins to speak, and formulas that no table elsewhere tells apart. By hand."""

import unittest
from datetime import timedelta

from salttide.core.basics.errors import InputError, UnitError
from salttide.core.basics.quantities import PLAIN_HABITS
from salttide.core.estimate.dose_review import ease_back
from salttide.core.estimate.rate import Rate
from salttide.core.jot.implausible import much_food, much_water
from salttide.core.jot.sums import JotContext
from salttide.core.judgement.retest import retests
from salttide.core.judgement.scenario import situation_described
from salttide.core.ledger.entries import Feed
from salttide.core.runbook.file import runbook
from salttide.core.runbook.steps import StepState
from salttide.core.science.dosing import correction_days
from salttide.core.science.label import read_printed_at
from salttide.core.science.parameters import Parameter
from salttide.core.science.sizing import DayLimit
from salttide.core.science.units import show_difference, unit_of
from salttide.core.system.volume import Geometry, net_volume
from tests.core.cases import BEACON, NOW

JOT = JotContext(PLAIN_HABITS, {}, (BEACON,))


class Rates(unittest.TestCase):
    def test_level_and_rate_err_together(self) -> None:
        # 0.3² + (10 · 0.02)² + 2 · 10 · (−0.004) = 0.09 + 0.04 − 0.08 = 0.05.
        rate = Rate(0.1, 0.02, 0.06, 0.14, 5.0, 0.3, -0.004, 0.0, None, 8, NOW - timedelta(days=20), NOW)
        level, sd = rate.ahead(10)
        self.assertAlmostEqual(level, 6.0)
        self.assertAlmostEqual(sd, 0.05**0.5)

    def test_a_rate_is_real_beyond_twice_its_error(self) -> None:
        for per_day, real in ((0.04, False), (0.0401, True), (-0.0401, True)):
            with self.subTest(per_day=per_day):
                rate = Rate(per_day, 0.02, 0, 0, 5.0, 0.3, 0.0, 0.0, None, 8, NOW, NOW)
                self.assertEqual(rate.real, real)


class CatchUp(unittest.TestCase):
    def test_far_above_nothing_is_dosed_until_the_uptake_has_taken_it(self) -> None:
        # 1.7 above, 0.1 used a day: 17 days without a dose take all of it.
        found = ease_back(4.5, 2.8, 0.1, DayLimit(0.36, 0.36))
        self.assertEqual((found.dose, found.days), (0.0, 17))
        self.assertAlmostEqual(found.moves, -1.7)

    def test_no_longer_than_two_months(self) -> None:
        found = ease_back(4.5, 2.8, 0.02, DayLimit(0.36, 0.36))
        self.assertEqual((found.days, found.moves), (60, -0.02 * 60))


class OutOfProportion(unittest.TestCase):
    def test_a_twentieth_of_the_water_is_taken_and_more_is_asked_about(self) -> None:
        share = 0.05 * BEACON.volume_l
        self.assertEqual(much_water(BEACON, share, 0.05, JOT), ())
        self.assertEqual(len(much_water(BEACON, share + 0.01, 0.05, JOT)), 1)

    def test_three_times_the_usual_food_is_taken(self) -> None:
        fed = [Feed(NOW, "flakes", 2.0, 1.0, {})]
        self.assertEqual(much_food(fed, "flakes", 6.0, JOT), ())
        self.assertEqual(len(much_food(fed, "flakes", 6.01, JOT)), 1)


class Counting(unittest.TestCase):
    def test_a_bucket_is_read_to_a_twentieth_of_a_litre(self) -> None:
        for litres, enough in ((39.96, True), (39.94, False)):
            state = StepState(runbook("water_change").steps[0], litres=(30.0, litres - 30.0))
            self.assertEqual(state.counted_up(40.0), enough)


class Units(unittest.TestCase):
    def test_a_unit_that_a_parameter_does_not_have_is_refused(self) -> None:
        with self.assertRaises(UnitError):
            unit_of(Parameter.ALKALINITY, {Parameter.ALKALINITY: "ppt"})


class Differences(unittest.TestCase):
    def test_a_small_one_has_a_digit_more_than_a_value(self) -> None:
        # Calcium is shown without decimals, salinity with one: below one of its last digit one more is shown.
        for parameter, size, text in (
            (Parameter.CALCIUM, 0.4, "0.4 mg/L"), (Parameter.CALCIUM, 12.3, "12 mg/L"),
            (Parameter.SALINITY, 0.04, "0.04 ppt"), (Parameter.SALINITY, 1.24, "1.2 ppt"),
        ):  # fmt: skip
            self.assertEqual(show_difference(parameter, size, 35.0, {}), text)


class Volumes(unittest.TestCase):
    def test_a_sump_larger_than_the_display(self) -> None:
        # 60 x 40 x 35 cm are 84 L, less 9 of rock, and 100 L beside.
        self.assertAlmostEqual(net_volume(Geometry(60, 40, 35, 9, 100))[-1].value, 175)


class Labels(unittest.TestCase):
    def test_a_label_is_stated_at_25_to_42_ppt(self) -> None:
        self.assertEqual((read_printed_at("25"), read_printed_at("42")), (25, 42))
        for text in ("24.9", "42.1"):
            with self.assertRaises(InputError):
                read_printed_at(text)


class Corrections(unittest.TestCase):
    def test_a_correction_is_tested_on_its_last_day_and_of_three_days_on_half_way(self) -> None:
        # Calcium by 20 mg/L a day.
        for rise, tests in (
            (20, [True]),
            (40, [False, True]),
            (60, [False, True, True]),
            (80, [False, True, False, True]),
        ):
            days = correction_days(Parameter.CALCIUM, 380, 380 + rise)
            self.assertEqual([day.test for day in days], tests)


class Cycling(unittest.TestCase):
    def test_what_is_tested_how_often_while_cycling(self) -> None:
        s = situation_described([("ammonia", 2.0, 1)], stage="breaking_in")
        days = {one.parameter: one.every_days for one in retests(s)}
        self.assertEqual(days, {
            Parameter.AMMONIA: 2, Parameter.NITRITE: 2, Parameter.NITRATE: 2, Parameter.ALKALINITY: 3,
            Parameter.SALINITY: 3,
        })  # fmt: skip


if __name__ == "__main__":
    unittest.main()
