"""Uptake between readings, corrections under limits, their order and separation; top-off."""

import unittest
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, NumberError, PlanError
from salttide.core.science.dilution import dilute
from salttide.core.science.dosing import (
    DAILY_LIMITS,
    Between,
    correct_in_order,
    correction_days,
    uptake_between,
    uptake_per_day,
)
from salttide.core.science.parameters import Parameter
from salttide.core.science.sizing import DayLimit
from salttide.core.science.topoff import (
    alkalinity_after_lime_flood,
    evaporation_l_from_salinity,
    independent_safeguards,
    largest_safe_lime_reservoir_l,
    largest_safe_reservoir_l,
    reservoir_days,
    salinity_after_evaporation,
    salinity_after_flood,
    salinity_drift_per_day,
)
from tests.core.tables import TableTest

SALINITY, MAGNESIUM, CALCIUM, ALKALINITY = (
    Parameter.SALINITY, Parameter.MAGNESIUM, Parameter.CALCIUM, Parameter.ALKALINITY,
)  # fmt: skip


class Uptake(TableTest):
    def test_by_hand(self):
        self.check([
            (uptake_per_day, (2.9, 2.7, 4, 100), 0.05, 1e-12),
            (uptake_per_day, (2.9, 2.7, 4, 100, 40), 0.15, 1e-12),  # (20 + 40) meq / 100 L / 4 days
            (uptake_per_day, (420, 410, 10, 334, 2004), 1.6, 1e-12),  # 10 mg/L and 6 mg/L dosed, over 10 days
            (uptake_per_day, (10, 14, 8, 100, 0, 0), -0.5, 1e-12),  # nitrate made
            (uptake_per_day, (2.9, 2.8, 5, 200, 100, 40), 0.08, 1e-12),  # (20 + 100 - 40)/200/5
            (uptake_between, (2.9, 2.7, 4), 0.05, 1e-12),
            (uptake_between, (2.9, 2.7, 4, [Between(1, 0.2), Between(3, 0.2)]), 0.15, 1e-12),
            # Half the water changed at mid-time for water like the start's: r*5 is halved, then r*5 more; 0.6 in all.
            (uptake_between, (3.0, 2.4, 10, [Between(5, fraction=0.5, incoming=3.0)]), 0.6 / 7.5, 1e-12),
            # 10 % of 3.2 on the last day: 3.0*0.9 + 0.32 - 0.9*r*7 = 2.5
            (uptake_between, (3.0, 2.5, 7, [Between(7, fraction=0.1, incoming=3.2)]), (3.02 - 2.5) / 6.3, 1e-12),
            (uptake_between, (2.0, 3.0, 2, [Between(1, 1.0)]), 0, 1e-12),
        ])  # fmt: skip

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (uptake_per_day, (2.9, 2.7, 0, 100), DomainError),  # two readings at one moment
            (uptake_per_day, (2.9, 2.7, -4, 100), DomainError),
            (uptake_per_day, (2.9, 2.7, 4, 0), DomainError),
            (uptake_per_day, (2.9, "2.7", 4, 100), NumberError),
            (uptake_between, (2.9, 2.7, 4, [Between(5, 0.2)]), DomainError),  # after the second reading
            (uptake_between, (2.9, 2.7, 4, [Between(1, fraction=12)]), DomainError),  # percent
            (uptake_between, (2.9, 2.7, 4, [Between(4, fraction=1.0, incoming=2.7)]), PlanError),
        ])  # fmt: skip

    @given(st.floats(2, 4), st.floats(0, 0.2), st.lists(st.tuples(st.floats(0, 10), st.floats(0, 0.3)), max_size=4))
    def test_a_simulated_record_gives_its_uptake_back(self, start, rate, events):
        level, at = start, 0.0
        for day, size in sorted(events):
            level, at = dilute(level - rate * (day - at), 3.0, size) + 0.1, day
        level -= rate * (10 - at)
        if level >= 0:
            found = uptake_between(start, level, 10, [Between(day, 0.1, size, 3.0) for day, size in sorted(events)])
            self.assertAlmostEqual(found, rate, places=6)


class Corrections(TableTest):
    def test_spread_by_the_limit_on_top_of_uptake(self):
        # 45 mg/L of calcium at 20 a day: 3 days of 15, and 2 mg/L of uptake each.
        days = correction_days(CALCIUM, 380, 425, 2)
        self.assertEqual([(day.before, day.after) for day in days], [(380, 395), (395, 410), (410, 425)])
        self.assertEqual([day.rise for day in days], [17, 17, 17])
        self.assertEqual([day.test for day in days], [False, True, True])

    def test_the_daily_limits_are_those_agreed_on(self):
        # dKH 1, Ca 20, Mg 50, K 10, NO3 up 2, PO4 up 0.02, down the smaller of a third and 0.05, 1 ppt, 1 °C.
        ends = {each.value: (round(limit.up, 6), round(limit.down, 6)) for each, limit in DAILY_LIMITS.items()}
        dkh, free = round(1 / 2.80385, 6), float("inf")
        expected = {
            "salinity": (1, 1), "temperature": (1, 1), "alkalinity": (dkh, dkh), "calcium": (20, 20),
            "magnesium": (50, 50), "potassium": (10, 10), "nitrate": (2, free), "phosphate": (0.02, 0.05),
        }  # fmt: skip
        self.assertEqual(ends, expected)
        self.assertAlmostEqual(DAILY_LIMITS[Parameter.PHOSPHATE].step(0.09, 0.0), 0.06)
        self.assertAlmostEqual(DAILY_LIMITS[Parameter.PHOSPHATE].step(0.3, 0.0), 0.25)

    def test_number_of_days(self):
        def count(*arguments: object) -> int:
            return len(correction_days(*arguments))

        self.check([
            (count, (MAGNESIUM, 1200, 1280), 2, 0),  # 80 at 50 a day
            (count, (CALCIUM, 400, 420), 1, 0),
            (count, (CALCIUM, 400, 420.5), 2, 0),
            (count, (ALKALINITY, 6.5 / 2.80385, 8.5 / 2.80385), 2, 0),  # 2 dKH at 1 a day
            (count, (ALKALINITY, 2.3, 3.0, 0, DayLimit(0.5 / 2.80385, 1)), 4, 0),  # delicate stock: 0.178 a day
            (count, (Parameter.NITRATE, 0, 5), 3, 0),
            (count, (Parameter.PHOSPHATE, 0, 0.05), 3, 0),
            (count, (CALCIUM, 420, 420), 0, 0),
        ])  # fmt: skip

    def test_what_no_dose_does_says_what_helps(self):
        with self.assertRaises(PlanError) as raised:
            correction_days(ALKALINITY, 3.4, 3.0, 0.1)
        self.assertIn("about 4 days without a dose", raised.exception.message)
        self.refused([
            (correction_days, (Parameter.IODINE, 0.01, 0.06), PlanError),  # only against a laboratory's result
            (correction_days, (CALCIUM, -5, 400), DomainError),
            (correction_days, (ALKALINITY, 7, 8.5 * 2, 0), DomainError),
        ])  # fmt: skip

    @given(st.sampled_from([CALCIUM, MAGNESIUM, ALKALINITY]), st.floats(0.1, 1), st.floats(0, 1), st.floats(0, 0.2))
    def test_no_day_exceeds_its_limit_net_of_uptake(self, parameter, low, rise, uptake):
        scale = {CALCIUM: 400, MAGNESIUM: 1200, ALKALINITY: 3}[parameter]
        value, target = low * scale, low * scale + rise * scale
        days = correction_days(parameter, value, target, uptake)
        for day in days:
            self.assertLessEqual(day.rise - uptake, DAILY_LIMITS[parameter].up + 1e-9)
        self.assertAlmostEqual(sum(day.rise - uptake for day in days), target - value, places=6)


class Order(unittest.TestCase):
    TARGETS = {SALINITY: 35.0, MAGNESIUM: 1300.0, CALCIUM: 420.0, ALKALINITY: 3.0}  # noqa: RUF012

    def test_salinity_first(self):
        with self.assertRaises(PlanError) as raised:
            correct_in_order({SALINITY: 33.0, CALCIUM: 380}, self.TARGETS)
        self.assertEqual(raised.exception.field, "salinity")

    def test_then_magnesium_then_the_two_half_an_hour_apart(self):
        water = {SALINITY: 35.0, MAGNESIUM: 1210.0, CALCIUM: 390.0, ALKALINITY: 2.5}
        days = correct_in_order(water, self.TARGETS, {ALKALINITY: 0.1, CALCIUM: 2.0})
        kinds = [[dose.parameter for dose in day.doses] for day in days]
        self.assertEqual(kinds[:2], [[MAGNESIUM, CALCIUM, ALKALINITY]] * 2)  # meanwhile only uptake is replaced
        self.assertEqual([dose.rise for dose in days[0].doses[1:]], [2.0, 0.1])
        self.assertEqual(kinds[2:], [[CALCIUM, ALKALINITY]] * 2)
        for day in days:
            minutes = [dose.minute for dose in day.doses]
            self.assertTrue(all(later - earlier == 30 for earlier, later in pairwise(minutes)))
        self.assertEqual(days[-1].tests, (CALCIUM, ALKALINITY))

    def test_nothing_to_do(self):
        self.assertEqual(correct_in_order(dict(self.TARGETS), self.TARGETS), ())


class TopOff(TableTest):
    def test_by_hand(self):
        self.check([
            (salinity_after_evaporation, (35, 100, 2), 3500 / 98, 1e-9),
            (salinity_after_evaporation, (35, 100, 0), 35, 0),
            (salinity_drift_per_day, (35, 71, 1.2), 35 * 71 / 69.8 - 35, 1e-9),
            (evaporation_l_from_salinity, (35, 36, 72), 2, 1e-9),  # 72 x 35 = 70 x 36
            (reservoir_days, (45, 3), 15, 1e-12),
            (salinity_after_flood, (35, 334, 45), 35 * 334 / 379, 1e-9),
            (largest_safe_reservoir_l, (35, 340), 10, 1e-9),  # 350 L at 34 hold what 340 hold at 35
            (largest_safe_reservoir_l, (36, 71, 2), 71 * 2 / 34, 1e-9),
            # Saturated limewater at 25 °C, 1.50 g/L: 40.490 meq/L. 10 L into 334: (2.8 x 334 + 404.9)/344.
            (alkalinity_after_lime_flood, (2.8, 334, 10), (2.8 * 334 + 404.9) / 344, 1e-3),
            # The flood thins out the system's own 2.8 as well: R (40.490 - 2.8 - 0.35665) = 334 x 0.35665.
            (largest_safe_lime_reservoir_l, (334, 0.35665, 25.0, 2.8), 334 * 0.35665 / (40.490 - 2.8 - 0.35665), 1e-3),
            # And a flood of just that brings just so much: (2.8 x 334 + 3.1907 x 40.490) / 337.1907 = 2.8 + 0.35665.
            (alkalinity_after_lime_flood, (2.8, 334, 3.190757), 2.8 + 0.35665, 1e-4),
        ])  # fmt: skip

    def test_limewater_is_the_narrower_bound(self):
        self.assertLess(largest_safe_lime_reservoir_l(334, 0.35665), largest_safe_reservoir_l(35, 334))

    def test_safeguards_that_share_a_part_are_one(self):
        self.check([
            (independent_safeguards, ([],), 0, 0),
            (independent_safeguards, ([("float", "relay")],), 1, 0),
            (independent_safeguards, ([("float", "relay"), ("optical", "relay")],), 1, 0),
            (independent_safeguards, ([("float", "relay"), ("float", "valve")],), 1, 0),
            (independent_safeguards, ([("float", "relay"), ("optical", "valve")],), 2, 0),
            # float-relay must be given up for the other two to be apart: 2, not 1
            (independent_safeguards, ([("float", "relay"), ("optical", "relay"), ("float", "valve")],), 2, 0),
        ])  # fmt: skip

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (salinity_after_evaporation, (35, 100, 100), DomainError),  # all the water
            (salinity_after_evaporation, (35, 100, -1), DomainError),
            (salinity_after_evaporation, (1025, 100, 2), DomainError),
            (evaporation_l_from_salinity, (36, 35, 71), DomainError),  # it fell: nothing evaporated
            (reservoir_days, (45, 0), DomainError),
            (salinity_after_flood, (35, 0, 45), DomainError),
            (largest_safe_reservoir_l, (35, 334, 0), DomainError),
        ])  # fmt: skip

    @given(st.floats(20, 40), st.floats(20, 1000), st.floats(0.001, 0.4))
    def test_salt_is_conserved_and_topping_off_puts_it_back(self, salinity, volume, share):
        gone = volume * share
        after = salinity_after_evaporation(salinity, volume, gone)
        self.assertAlmostEqual(after * (volume - gone), salinity * volume, delta=1e-6 * volume)
        if after <= 45:
            self.assertAlmostEqual(salinity_after_flood(after, volume - gone, gone), salinity, places=6)
            self.assertAlmostEqual(evaporation_l_from_salinity(salinity, after, volume), gone, places=6)

    @given(st.floats(25, 40), st.floats(20, 1000), st.floats(0.2, 3))
    def test_the_largest_safe_reservoir_just_keeps_its_drop(self, salinity, volume, drop):
        reservoir = largest_safe_reservoir_l(salinity, volume, drop)
        self.assertAlmostEqual(salinity - salinity_after_flood(salinity, volume, reservoir), drop, places=6)
