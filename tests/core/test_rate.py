"""The rate: what a system does by itself, estimated from scattered readings."""

import unittest
from datetime import timedelta
from random import Random
from statistics import fmean

import numpy as np

from salttide.core.estimate.rate import Rate, normal_share, rate_of
from salttide.core.ledger.entries import Dose, ledger_of
from salttide.core.science.parameters import Parameter
from salttide.fishroom.trials import SCENARIOS, UPTAKES
from tests.backtest import asked, everyday, figures
from tests.core.cases import NOW, change, ledger, reading

NO3, ALK = Parameter.NITRATE, Parameter.ALKALINITY


def told(*entries, parameter=ALK):
    return rate_of(ledger(*entries), parameter, NOW)


def falling(per_day, days=range(0, 43, 7), level=3.0):
    """Exact readings that fall by so much a day until now."""
    return [reading(ALK, level + per_day * day, day, entry=100 - day) for day in days]


class Exact(unittest.TestCase):
    def test_exact_readings_through_changes_and_daily_doses_give_the_uptake(self):
        # 100 L: uptake 0.07 meq/L a day, 5 meq dosed each noon (0.05 meq/L), a fifth changed for 3.4 on day 21.
        entries, level = [], 3.0
        for day in range(43):
            ago = 42 - day
            if day % 7 == 0:
                entries.append(reading(ALK, level, ago, entry=1000 + day))
            if day < 42:
                level -= 0.035
                entries.append(Dose(NOW - timedelta(days=ago - 0.5), "soda", 1.0, {ALK: 5.0}, True, id=2000 + day))
                level += 0.05 - 0.035
            if day == 20:
                entries.append(change(ago - 1, 20, 500, alkalinity=3.4))
                level = level * 0.8 + 3.4 * 0.2
        found = told(*entries)
        self.assertAlmostEqual(found.per_day, -0.07, delta=0.003)
        self.assertLess(found.low, -0.07)
        self.assertGreater(found.high, -0.07)
        self.assertTrue(found.real)

    def test_its_interval_narrows_with_more_readings(self):
        few, many = told(*falling(0.05, range(0, 43, 14))), told(*falling(0.05, range(0, 43, 3)))
        self.assertLess(many.high - many.low, few.high - few.low)

    def test_nothing_moves_where_nothing_happens(self):
        found = told(*(reading(NO3, 10.0, day) for day in range(0, 43, 7)), parameter=NO3)
        self.assertAlmostEqual(found.per_day, 0, delta=0.005)
        self.assertFalse(found.real)


class Steps(unittest.TestCase):
    def test_a_step_is_found_where_it_was(self):
        # Every three days: 0.02 a day until three weeks ago, 0.10 a day since.
        days = range(0, 61, 3)
        for turned in (15, 21, 30):
            levels = {day: 4.0 + 0.10 * min(day, turned) + 0.02 * max(0, day - turned) for day in days}
            found = told(*(reading(ALK, level, day, entry=100 - day) for day, level in levels.items()))
            self.assertGreater(found.step, 0.9)
            self.assertEqual(found.stepped_at, NOW - timedelta(days=turned))


class Unrecorded(unittest.TestCase):
    def test_a_dose_that_nobody_wrote_down_is_not_taken_for_less_uptake(self):
        # 0.05 meq/L a day; 0.3 meq/L came on day 29, which is not in the record. A line through all would say 0.045.
        days = range(0, 61, 4)
        levels = {day: 5.0 - 0.05 * day + (0.3 if day > 29 else 0.0) for day in days}
        found = told(*(reading(ALK, level, 60 - day, entry=day + 1) for day, level in levels.items()))
        self.assertAlmostEqual(found.per_day, -0.05, delta=0.002)
        self.assertAlmostEqual(found.level, levels[60], delta=0.03)

    def test_three_blunders_of_fifteen_carry_nothing_away(self):
        clean = falling(0.05, range(0, 57, 4))
        wrong = {8: 0.5, 24: -0.4, 44: 0.6}
        series = [
            reading(ALK, r.value + wrong.get(4 * place, 0.0), 4 * place, entry=100 - 4 * place)
            for place, r in enumerate(clean)
        ]
        self.assertAlmostEqual(told(*series).per_day, -0.05, delta=0.002)


class Direction(unittest.TestCase):
    def test_it_is_sure_beyond_two_deviations_with_the_doses_counted(self):
        def rate(per_day):
            return Rate(per_day, 0.01, 0, 0, 3.0, 0.03, 0.0, 0.0, None, 8, NOW, NOW)

        self.assertTrue(rate(-0.0205).real)
        self.assertFalse(rate(-0.0195).real)
        self.assertFalse(rate(-0.05).moves_with(0.0305))
        self.assertTrue(rate(-0.05).moves_with(0.0295))
        self.assertTrue(rate(-0.05).moves_with(0.0705))
        # Standard normal table: 0.9331928 below 1.5 deviations.
        self.assertAlmostEqual(rate(0.0).share_below(0.015), 0.9331928, places=6)

    def test_every_story_has_its_say(self):
        half = np.array([0.5, 0.5])
        parts = (half, np.array([-0.1, 0.1]), np.array([0.01, 0.01]))
        found = Rate(0.0, 0.1, 0, 0, 3.0, 0.03, 0.0, 0.0, None, 8, NOW, NOW, parts)
        self.assertAlmostEqual(found.share_below(0.0), 0.5, places=6)
        self.assertAlmostEqual(found.share_below(-0.1), 0.25, places=6)


class TooLittle(unittest.TestCase):
    def test_three_readings_or_five_days_say_nothing(self):
        self.assertIsNone(told(*falling(0.05, (0, 7, 14))))
        self.assertIsNone(told(*falling(0.05, (0, 1, 3, 5))))
        self.assertIsNone(told())

    def test_readings_of_last_year_do_not_count(self):
        self.assertIsNone(told(*falling(0.05, (0, 100, 200, 300))))


class Instruments(unittest.TestCase):
    def test_a_new_kit_goes_on_with_the_history_and_its_own_zero(self):
        # 0.05 meq/L a day; the new kit reads 0.12 higher.
        days = range(0, 57, 4)
        series = [
            reading(
                ALK,
                5.0 - 0.05 * day + (0.12 if day > 40 else 0.0),
                56 - day,
                "new" if day > 40 else "old",
                entry=day + 1,
            )
            for day in days
        ]
        found = told(*series)
        self.assertEqual(found.count, 15)
        self.assertAlmostEqual(found.per_day, -0.05, delta=0.002)
        self.assertAlmostEqual(found.level, 5.0 - 0.05 * 56 + 0.12, delta=0.04)

    def test_of_many_those_with_the_most_readings_count(self):
        often = falling(0.05, range(0, 29, 7))
        once = [reading(ALK, 9.0, 3 + place, name, entry=200 + place) for place, name in enumerate("abcdef")]
        self.assertEqual(told(*often, *once).count, 5 + 3)


class Robust(unittest.TestCase):
    def test_one_outlier_carries_nothing_away(self):
        clean = falling(0.05)
        wrong = [*clean[:3], reading(ALK, clean[3].value + 0.5, 21, entry=79), *clean[4:]]
        self.assertAlmostEqual(told(*wrong).per_day, told(*clean).per_day, delta=0.006)

    def test_a_step_in_uptake_is_noticed_within_four_readings(self):
        # 0.05 meq/L a day for eight weeks, then 0.12; scatter as the kit's. Told after each further weekly reading.
        noticed = []
        for seed in range(20):
            chance = Random(seed)
            level, entries = 5.0, []
            for week in range(13):
                entries.append(reading(ALK, level + chance.gauss(0, 0.05), 84 - 7 * week, entry=week + 1))
                level -= 7 * (0.05 if week < 8 else 0.12)
            for after in range(1, 5):
                found = rate_of(ledger_of(100, entries[: 9 + after]), ALK, entries[8 + after].at)
                if found.per_day < -0.09:
                    noticed.append(after)
                    break
            self.assertIn(len(noticed), (seed + 1,), f"not noticed in run {seed}")
        self.assertLessEqual(sorted(noticed)[10], 2)

    def test_where_the_step_was(self):
        level, entries = 5.0, []
        for week in range(10):
            entries.append(reading(ALK, level, 63 - 7 * week, entry=week + 1))
            level -= 7 * (0.03 if week < 5 else 0.12)
        found = told(*entries)
        self.assertGreater(found.step, 0.9)
        self.assertLessEqual(abs(found.stepped_at - (NOW - timedelta(days=28))), timedelta(days=4))

    def test_very_many_readings_are_told_from_evenly_spaced_ones(self):
        found = told(
            *(reading(ALK, 3.0 + 0.05 * hour / 24, hour / 24, entry=5000 - hour) for hour in range(0, 1000, 2))
        )
        self.assertEqual(found.count, 24)
        self.assertAlmostEqual(found.per_day, -0.05, delta=0.005)


class BackTest(unittest.TestCase):
    def test_hidden_uptake_is_found_in_every_scenario(self):
        # Fewer runs than `make bench` has, so the share that holds the truth may be 0.12 lower or higher than its bar.
        for one in figures(40, first=900):
            with self.subTest(scenario=one.scenario, uptake=one.uptake):
                true = one.uptake * (1.6 if one.scenario == "step" else 1.0)
                self.assertLessEqual(one.error, max(0.1 * true, 0.02))
                self.assertGreaterEqual(one.held, 0.58)
                self.assertLessEqual(one.line, 0.8)
        self.assertEqual((len(SCENARIOS), UPTAKES), (7, (0.05, 0.2, 0.5)))

    def test_everyday_mishaps_leave_it_near_what_the_readings_can_tell(self):
        # Fewer runs than `make bench` has: 15 leave a root mean square a third wider at most, of forty tries.
        for one in everyday(15, first=900):
            with self.subTest(scenario=one.scenario):
                self.assertLessEqual(one.error, 4 / 3 * max(3 * one.least, 0.07))
                self.assertGreaterEqual(one.held, 0.3)

    def test_typing_errors_are_asked_about_and_sound_results_hardly_ever(self):
        # Some seventy results: two of them asked about would still be chance at one in a hundred.
        found = asked(12, first=900)
        self.assertLessEqual(found.sound, 0.04)
        self.assertGreaterEqual(fmean(found.wrong.values()), 0.7)


class Normal(unittest.TestCase):
    def test_the_share_below_so_many_deviations(self):
        # Standard normal table: 0 0.5, 1 0.8413447, -1.2815516 0.1, 1.9599640 0.975, -3 0.0013499.
        for deviations, share in ((0, 0.5), (1, 0.8413447), (-1.2815516, 0.1), (1.959964, 0.975), (-3, 0.0013499)):
            self.assertAlmostEqual(float(normal_share(np.array(deviations, float))), share, places=6)
