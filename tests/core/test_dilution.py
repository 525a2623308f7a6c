"""One, many and continuous changes, production between, moving salinity, sizing, and routines compared."""

from math import exp, log

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, NumberError, PlanError
from salttide.core.science.dilution import (
    Routine,
    after_change,
    after_changes,
    after_continuous_change,
    changes_to_reach,
    compare_routines,
    continuous_volume_to_reach,
    fraction_to_reach,
    level_with_production,
    salinity_exchange_l,
    salinity_steps_l,
    settled_level,
)
from salttide.core.science.dosing import DAILY_LIMITS
from salttide.core.science.parameters import Parameter
from salttide.core.science.sizing import DayLimit, size_changes
from tests.core.tables import TableTest

NITRATE, PHOSPHATE, CALCIUM = Parameter.NITRATE, Parameter.PHOSPHATE, Parameter.CALCIUM
levels = st.floats(0, 100)
fractions = st.floats(0.01, 0.99)


class Dilution(TableTest):
    def test_by_hand(self):
        self.check([
            (after_change, (20, 0, 0.25), 15, 1e-12),  # 3/4 of it is left
            (after_change, (10, 40, 0.1), 13, 1e-12),  # 9 + 4: new water may raise
            (after_changes, (100, 0, 0.10, 2), 81, 1e-9),  # 0.9 squared
            (after_changes, (100, 0, 0.20, 1), 80, 1e-9),
            (after_changes, (30, 2, 0.25, 3), 2 + 28 * 27 / 64, 1e-9),
            (after_changes, (30, 2, 0.25, 0), 30, 1e-12),
            (after_continuous_change, (100, 0, 100, 100), 100 / exp(1), 1e-9),
            (after_continuous_change, (30, 2, 50, 200), 2 + 28 * exp(-0.25), 1e-9),
            (fraction_to_reach, (30, 10), 2 / 3, 1e-12),
            (fraction_to_reach, (30, 10, 5), 0.8, 1e-12),  # (30-10)/(30-5)
            (fraction_to_reach, (380, 400, 430), 0.4, 1e-12),  # upwards: 20/50
            (fraction_to_reach, (10, 10), 0, 0),
            (changes_to_reach, (30, 10, 0.25), 4, 0),  # 0.75^3 = 0.42, ^4 = 0.32; a third is wanted
            (changes_to_reach, (80, 10, 0.5), 3, 0),  # exactly an eighth
            # 30 to 10 with 5: what is above 5 falls from 25 to 5, a fifth; 0.75^5 = 0.237, ^6 = 0.178.
            (changes_to_reach, (30, 10, 0.25, 5), 6, 0),
            (changes_to_reach, (10, 10, 0.5), 0, 0),
            (changes_to_reach, (30, 10, 1), 1, 0),  # all of it at once
            (continuous_volume_to_reach, (30, 10, 100), 100 * log(3), 1e-9),
            (continuous_volume_to_reach, (30, 10, 100, 5), 100 * log(5), 1e-9),
            (continuous_volume_to_reach, (10, 10, 100), 0, 0),
        ])  # fmt: skip

    def test_with_production_between(self):
        # 0.5 a day, weekly 10 %: 10 + 3.5 = 13.5; 0.9 x 13.5 + 3.5 = 15.65; settles at 3.5/0.1 = 35.
        self.check([
            (level_with_production, (10, 0, 0.1, 0.5, 7, 0), 13.5, 1e-9),
            (level_with_production, (10, 0, 0.1, 0.5, 7, 1), 15.65, 1e-9),
            (level_with_production, (10, 0, 0.1, 0.5, 7, 2), 0.9 * 15.65 + 3.5, 1e-9),
            (level_with_production, (10, 0, 0.1, 0.5, 7, 500), 35, 1e-9),
            (settled_level, (0, 0.1, 0.5, 7), 35, 1e-9),
            (settled_level, (2, 0.2, 0.3, 14), 23, 1e-9),
            (level_with_production, (1, 0, 0.1, -0.5, 7, 3), 0, 0),  # used up, never below zero
        ])  # fmt: skip

    def test_weekly_ten_and_fortnightly_twenty_percent_are_nearly_the_same(self):
        weekly, fortnightly = compare_routines([Routine(0.1, 7), Routine(0.2, 14)], 1.0, 0.0, 0.0, 14)
        self.assertAlmostEqual(weekly.levels[-1], 0.81)
        self.assertAlmostEqual(fortnightly.levels[-1], 0.80)
        self.assertAlmostEqual(weekly.water, fortnightly.water)
        # With 0.5 a day they settle, just before a change, at 0.5*7/0.1 = 35 and 0.5*14/0.2 = 35.
        pair = compare_routines([Routine(0.1, 7), Routine(0.2, 14)], 10.0, 0.0, 0.5, 700)
        self.assertEqual([round(outcome.settled, 6) for outcome in pair], [35, 35])
        self.assertAlmostEqual(pair[0].worst, 35, delta=0.1)
        self.assertEqual(len(pair[0].levels), 700)

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (after_change, (20, 0, 25), DomainError),  # percent for a fraction
            (after_change, (20, 0, -0.1), DomainError),
            (after_change, (-1, 0, 0.1), DomainError),
            (after_change, ("20", 0, 0.1), NumberError),
            (after_continuous_change, (20, 0, 10, 0), DomainError),
            (fraction_to_reach, (30, 10, 15), PlanError),  # the new water holds more than the target
            (fraction_to_reach, (30, 40, 0), PlanError),
            (changes_to_reach, (30, 0, 0.25), PlanError),  # never quite
            (changes_to_reach, (30, 10, 1.25), DomainError),
            (continuous_volume_to_reach, (30, 0, 100), PlanError),
            (settled_level, (0, 0, 0.5, 7), DomainError),
            (compare_routines, ([Routine(10, 7)], 1.0, 0.0, 0.0, 14), DomainError),
        ])  # fmt: skip

    @given(levels, levels, fractions, st.integers(2, 6))
    def test_several_changes_never_remove_more_than_one_of_the_same_total(self, value, incoming, total, count):
        several = after_changes(value, incoming, total / count, count)
        one, endless = after_change(value, incoming, total), after_continuous_change(value, incoming, total, 1.0)
        self.assertLessEqual(abs(several - value), abs(one - value) + 1e-9)
        self.assertLessEqual(abs(endless - value), abs(several - value) + 1e-9)

    @given(levels, levels, fractions)
    def test_stays_between_the_two_waters_and_the_size_comes_back(self, value, incoming, fraction):
        after = float(after_change(value, incoming, fraction))
        self.assertTrue(min(value, incoming) - 1e-9 <= after <= max(value, incoming) + 1e-9)
        if abs(value - incoming) > 1e-3:
            self.assertAlmostEqual(fraction_to_reach(value, after, incoming), fraction, places=6)

    @given(st.floats(1, 100), st.floats(0.02, 0.9), st.floats(0.01, 0.99))
    def test_the_number_of_changes_is_the_least_that_gets_there(self, value, fraction, share):
        target = value * share
        count = changes_to_reach(value, target, fraction)
        self.assertLessEqual(after_changes(value, 0, fraction, count), target * (1 + 1e-6))
        self.assertGreater(after_changes(value, 0, fraction, count - 1), target * (1 - 1e-6))


class MovingSalinity(TableTest):
    def test_by_hand(self):
        self.check([
            (salinity_exchange_l, (71, 36.4, 35, 0), 71 * 1.4 / 36.4, 1e-9),  # fresh water in place of tank water
            (salinity_exchange_l, (100, 33, 35, 40), 100 * 2 / 7, 1e-9),
            (salinity_exchange_l, (334, 34, 34.5, 36), 83.5, 1e-9),
            (salinity_exchange_l, (334, 35, 35, 36), 0, 0),
        ])  # fmt: skip
        self.refused([
            (salinity_exchange_l, (100, 33, 35, 34), PlanError),  # too weak to bring it there
            (salinity_exchange_l, (100, 35, 33, 36), PlanError),
            (salinity_exchange_l, (100, 33, 1025, 40), DomainError),
            (salinity_steps_l, (100, 33, 35, 40, 0), DomainError),
        ])  # fmt: skip

    def test_four_steps_need_more_water_than_one(self):
        # 33 to 35 by halves with water of 40: 100 x 0.5 x (1/7 + 1/6.5 + 1/6 + 1/5.5).
        steps = salinity_steps_l(100, 33, 35, 40, 0.5)
        self.assertAlmostEqual(sum(step.litres for step in steps), 50 * (1 / 7 + 1 / 6.5 + 1 / 6 + 1 / 5.5))
        self.assertGreater(sum(step.litres for step in steps), salinity_exchange_l(100, 33, 35, 40))

    @given(st.floats(28, 40), st.floats(28, 40), st.floats(0.2, 2))
    def test_every_step_keeps_the_daily_limit_and_the_salt(self, start, target, limit):
        incoming = 45.0 if target > start else 0.0
        steps = salinity_steps_l(100, start, target, incoming, limit)
        for step in steps:
            self.assertLessEqual(abs(step.after - step.before), limit + 1e-9)
            salt = (100 - step.litres) * step.before + step.litres * incoming
            self.assertAlmostEqual(salt, 100 * step.after, places=6)
        self.assertAlmostEqual(steps[-1].after if steps else start, target)


class Sizing(TableTest):
    def test_bring_nitrate_from_30_to_10(self):
        # 25 % each: 30, 22.5, 16.875, 12.65625; the last needs 1 - 10/12.65625 = 20.99 %.
        sizing = size_changes(NITRATE, {NITRATE: 30, CALCIUM: 400}, 10, {CALCIUM: 440}, 100)
        self.assertEqual([round(change.litres, 2) for change in sizing.changes], [25, 25, 25, 20.99])
        self.assertEqual([change.after_days for change in sizing.changes], [0, 2, 4, 6])
        self.assertAlmostEqual(sizing.after[CALCIUM], 440 - 40 * 10 / 30)  # diluted in the same proportion
        self.assertAlmostEqual(sizing.litres, 95.99, places=2)

    def test_one_is_enough_where_it_fits(self):
        sizing = size_changes(NITRATE, {NITRATE: 12}, 10, {}, 100)
        self.assertEqual([round(change.fraction, 4) for change in sizing.changes], [0.1667])

    def test_with_production_between_it_takes_more(self):
        without = size_changes(NITRATE, {NITRATE: 30}, 10, {}, 100)
        with_it = size_changes(NITRATE, {NITRATE: 30}, 10, {}, 100, every_days=7, production_per_day=0.3)
        self.assertGreater(len(with_it.changes), len(without.changes))
        self.assertAlmostEqual(with_it.changes[1].before, 22.5 + 2.1)

    def test_phosphate_falls_by_the_smaller_of_a_third_and_five_hundredths(self):
        limit = DAILY_LIMITS[PHOSPHATE]
        sizing = size_changes(PHOSPHATE, {PHOSPHATE: 0.3}, 0.05, {}, 100, 0.9, limit=limit)
        for change in sizing.changes:
            self.assertLessEqual(change.before - change.after, min(0.05, change.before / 3) + 1e-12)
        self.assertAlmostEqual(sizing.changes[-1].after, 0.05)

    def test_a_contamination_is_diluted_by_a_factor(self):
        # To a tenth by quarters: 0.75^8 = 0.1001, so nine.
        self.assertEqual(len(size_changes(NITRATE, {NITRATE: 100}, 10, {}, 100, every_days=1).changes), 9)

    def test_what_cannot_be_done_says_why(self):
        self.refused([
            (size_changes, (NITRATE, {NITRATE: 30}, 10, {NITRATE: 15}, 100), PlanError),
            (size_changes, (NITRATE, {NITRATE: 30}, 10, {}, 100, 0.25, 7, 3.0), PlanError),  # made faster than removed
            (size_changes, (NITRATE, {}, 10, {}, 100), PlanError),
            (size_changes, (NITRATE, {NITRATE: 30}, 10, {}, 100, 25), DomainError),
            (size_changes, (NITRATE, {NITRATE: 30}, -1, {}, 100), DomainError),
        ])  # fmt: skip

    @given(st.floats(5, 100), st.floats(0.05, 0.9), st.floats(0.02, 0.5), st.floats(0.5, 20))
    def test_no_change_exceeds_its_limits_and_the_target_is_met_exactly(self, value, share, largest, limit):
        try:
            sizing = size_changes(
                NITRATE, {NITRATE: value}, value * share, {}, 100, largest, limit=DayLimit(limit, limit)
            )
        except PlanError:
            return
        for change in sizing.changes:
            self.assertLessEqual(change.fraction, largest + 1e-9)
            self.assertLessEqual(change.before - change.after, limit + 1e-9)
        self.assertAlmostEqual(sizing.changes[-1].after, value * share)
