"""What replaces the uptake: changes, limewater, reactor, doses and what they leave; a week's review. By hand."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError, PlanError, SaltTideError
from salttide.core.estimate.dose_review import Fit, dose_words, ease_back, is_off, review_dose
from salttide.core.estimate.rate import Rate
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    MAGNESIUM,
    Changes,
    Means,
    Reactor,
    changes_bring,
    changes_carry,
    day_amount,
    left_behind,
    magnesium_plausible,
    need_from_uptake,
    plan_routine,
    reactor_brings,
    reactor_flow_ml_min,
)
from salttide.core.science.parameters import Parameter
from salttide.core.science.sizing import DayLimit
from salttide.core.system.shelf import Additive
from tests.core.cases import NOW
from tests.core.tables import TableTest

SODA = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
POWDER = Additive(2, "soda ash", "Na2CO3")
DAMP = Additive(3, "damp calcium chloride", "CaCl2·2H2O", purity=0.5)
CHLORIDE = Additive(4, "calcium stock", "CaCl2·2H2O", strength_g_l=140.0)
BICARBONATE = Additive(5, "baking soda stock", "NaHCO3", strength_g_l=80.0)
EPSOM = Additive(6, "magnesium sulfate", "MgSO4·7H2O")
POTASH = Additive(7, "potassium nitrate", "KNO3")
WEEKLY = Changes(0.1, 7, {ALKALINITY: 3.2, CALCIUM: 440.0, MAGNESIUM: 1350.0})
FORTNIGHTLY = Changes(0.2, 14, {ALKALINITY: 2.6})
WATER = {ALKALINITY: 2.8, CALCIUM: 420.0, MAGNESIUM: 1320.0}


def of_day(additive, parameter, rise, volume):
    return day_amount(additive, parameter, rise, volume).mass_g


def ml_of_day(additive, parameter, rise, volume):
    return day_amount(additive, parameter, rise, volume).ml


class ByHand(TableTest):
    """Molar masses: Na2CO3 105.99, NaHCO3 84.007, CaCl2·2H2O 147.01, MgSO4·7H2O 246.47, Ca 40.078, Mg 24.305."""

    def test_what_each_means_brings(self):
        self.check([
            (changes_bring, (WEEKLY, ALKALINITY, 2.8), 0.1 * 0.4 / 7, 1e-12),  # a tenth of 0.4 a week
            (changes_bring, (WEEKLY, CALCIUM, 420.0), 2.0 / 7, 1e-12),
            (changes_bring, (FORTNIGHTLY, ALKALINITY, 2.8), -0.2 * 0.2 / 14, 1e-12),  # poorer water takes
            # Down to 2.5 just before a change that brings it back by a tenth of the gap to 3.2: 0.07 a week.
            (changes_carry, (WEEKLY, ALKALINITY, 2.5), 0.07 / 7, 1e-12),
            (changes_carry, (FORTNIGHTLY, ALKALINITY, 2.5), 0.02 / 14, 1e-12),
            (changes_carry, (FORTNIGHTLY, ALKALINITY, 2.7), -0.02 / 14, 1e-12),  # it cannot hold that level at all
            # 20 mL/min are 28.8 L a day with 7.2 meq more in each: 207.36 meq in 334 L.
            (reactor_brings, (Reactor(10.0, 20.0), 2.8, 334.0), 207.36 / 334, 1e-9),
            (reactor_brings, (Reactor(10.0, 0.0), 2.8, 334.0), 0.0, 1e-12),
            (reactor_flow_ml_min, (207.36 / 334, 10.0, 2.8, 334.0), 20.0, 1e-9),
            (reactor_flow_ml_min, (0.0, 10.0, 2.8, 334.0), 0.0, 1e-12),
        ])  # fmt: skip

    def test_what_is_weighed_and_measured(self):
        self.check([
            (of_day, (POWDER, ALKALINITY, 0.2, 334.0), 66.8 / 2 * 0.10599, 0.005),  # 66.8 meq, half as many mmol
            (of_day, (SODA, ALKALINITY, 0.2, 334.0), 66.8 / 2 * 0.10599, 0.005),
            (ml_of_day, (SODA, ALKALINITY, 0.2, 334.0), 66.8 / 2 * 1.0599, 0.05),  # 0.1 g in each mL
            (ml_of_day, (BICARBONATE, ALKALINITY, 0.2, 334.0), 66.8 * 84.007 / 80, 0.05),
            (of_day, (CHLORIDE, CALCIUM, 4.0, 334.0), 1336 / 40.078 * 0.14701, 0.01),
            (ml_of_day, (CHLORIDE, CALCIUM, 4.0, 334.0), 1336 / 40.078 * 147.01 / 140, 0.05),
            (of_day, (DAMP, CALCIUM, 4.0, 334.0), 2 * 1336 / 40.078 * 0.14701, 0.02),  # half of it is water
            (of_day, (EPSOM, MAGNESIUM, 1.0, 100.0), 100 / 24.305 * 0.24647, 0.002),
        ])  # fmt: skip

    def test_what_stays_behind(self):
        def stays(ion, *grams):
            return left_behind(list(grams), 100.0).get(ion, 0.0)

        self.check([
            (stays, (Parameter.SODIUM, (POWDER, 10.599)), 2 * 22.98977, 0.01),  # 0.1 mol in 100 L: 1 mmol/L, two Na
            (stays, (Parameter.CHLORIDE, (CHLORIDE, 14.701)), 2 * 35.453, 0.02),
            (stays, (Parameter.SULFATE, (EPSOM, 24.647)), 96.06, 0.02),
            (stays, (Parameter.POTASSIUM, (POTASH, 10.1103)), 39.0983, 0.01),
            (stays, (Parameter.POTASSIUM, (POWDER, 10.0)), 0.0, 0),
            # Half the substance, half the chloride.
            (stays, (Parameter.CHLORIDE, (DAMP, 14.701)), 35.453, 0.02),
        ])  # fmt: skip

    def test_calcium_and_magnesium_that_go_with_it(self):
        self.assertAlmostEqual(need_from_uptake(0.2).calcium, 0.2 * 20.039, delta=1e-4)
        self.assertEqual(need_from_uptake(0.2, 0.3).magnesium, 0.3)
        for magnesium, calcium, plausible in (
            (0.01, 4.0, True),  # 0.05 mg with 20 mg
            (0.009, 4.0, False),
            (0.4, 4.0, True),  # 2 mg with 20 mg
            (0.41, 4.0, False),
        ):
            with self.subTest(magnesium=magnesium):
                self.assertEqual(magnesium_plausible(magnesium, calcium), plausible)

    def test_refusals(self):
        self.refused([
            (need_from_uptake, (-0.1,), DomainError),
            (reactor_brings, (Reactor(2.5, 20.0), 2.8, 334.0), PlanError),  # poorer than the system
            (reactor_brings, (Reactor(80.0, 20.0), 2.8, 334.0), DomainError),  # dKH taken for meq/L, and more
            (reactor_brings, (Reactor(10.0, -1.0), 2.8, 334.0), DomainError),
            (reactor_flow_ml_min, (0.2, 2.5, 2.8, 334.0), PlanError),
            (day_amount, (Additive(9, "nothing", "Na2CO3", strength_g_l=0.0), ALKALINITY, 0.2, 334.0), DomainError),
            (day_amount, (Additive(9, "too much", "NaHCO3", strength_g_l=200.0), ALKALINITY, 0.2, 334.0), DomainError),
            (day_amount, (Additive(9, "no formula", "Xy2Zz", strength_g_l=20.0), ALKALINITY, 0.2, 334.0), InputError),
            (day_amount, (CHLORIDE, ALKALINITY, 0.2, 334.0), InputError),
            (changes_bring, (Changes(1.2, 7, {ALKALINITY: 3.0}), ALKALINITY, 2.8), DomainError),
        ])  # fmt: skip


class Routines(unittest.TestCase):
    need = need_from_uptake(0.2)

    def plan(self, means, changes=None, evaporation=0.0, need=None):
        return plan_routine(need or self.need, WATER, 334.0, means, changes, evaporation)

    def test_changes_come_first_and_doses_bring_the_rest(self):
        found = self.plan(Means(((SODA, 1.0),), CHLORIDE), WEEKLY)
        soda, chloride = found.amounts
        self.assertAlmostEqual(soda.rise, 0.2 - 0.04 / 7, places=12)
        self.assertAlmostEqual(chloride.rise, 0.2 * 20.039 - 2 / 7, delta=1e-4)
        self.assertEqual(found.left, {})
        self.assertEqual(found.notes, (), "nothing comes in beyond what is used")

    def test_changes_alone_leave_the_rest_and_say_so(self):
        found = self.plan(Means(), WEEKLY)
        self.assertEqual(found.amounts, ())
        self.assertAlmostEqual(found.left[ALKALINITY], 0.2 - 0.04 / 7, places=12)

    def test_poorer_new_water_asks_for_more_dose(self):
        found = self.plan(Means(((SODA, 1.0),)), FORTNIGHTLY)
        self.assertAlmostEqual(found.amounts[0].rise, 0.2 + 0.04 / 14, places=12)

    def test_limewater_is_bounded_by_evaporation_and_what_dissolves(self):
        # 2 L of the 5 asked for evaporate; at 25 °C 1.50 g/L dissolve, 37.046 g hold an equivalent.
        found = self.plan(Means(lime_l=5.0), evaporation=2.0, need=need_from_uptake(0.5))
        brought = found.brought[0].amounts
        self.assertAlmostEqual(brought[ALKALINITY], 2 * 1.50 / 0.0370463 / 334, delta=1e-4)
        self.assertAlmostEqual(brought[CALCIUM], brought[ALKALINITY] * 20.039, delta=1e-3)
        self.assertIn("evaporate", found.notes[0])
        self.assertGreater(found.left[ALKALINITY], 0.2)

    def test_limewater_brings_no_more_than_is_used(self):
        found = self.plan(Means(lime_l=5.0), evaporation=5.0)
        self.assertAlmostEqual(found.brought[0].amounts[ALKALINITY], 0.2, places=12)
        self.assertIn("weaker", found.notes[0])

    def test_limewater_then_two_part(self):
        found = self.plan(Means(((SODA, 1.0),), CHLORIDE, lime_l=1.0), evaporation=1.0, need=need_from_uptake(0.3))
        by_lime = 1.50 / 0.0370463 / 334
        self.assertAlmostEqual(found.amounts[0].rise, 0.3 - by_lime, delta=1e-4)
        self.assertEqual(found.left, {})

    def test_two_parts_of_alkalinity_share_it(self):
        found = self.plan(Means(((SODA, 0.75), (BICARBONATE, 0.25))))
        self.assertAlmostEqual(found.amounts[0].rise, 0.15)
        self.assertAlmostEqual(found.amounts[1].rise, 0.05)

    def test_a_reactor_that_brings_too_much_is_told(self):
        found = self.plan(Means(reactor=Reactor(10.0, 20.0)))
        self.assertEqual(found.amounts, ())
        self.assertIn("rises", found.notes[0])

    def test_salt_settles_where_changes_take_out_what_comes_in(self):
        found = self.plan(Means(((SODA, 1.0),), CHLORIDE), Changes(0.1, 7, {}))
        salt = found.behind[0]
        # 0.2 mmol/L of NaCl a day, 11.69 mg/L; a tenth a week takes out a seventieth of what is there each day.
        a_day = 11.688e-3 / 1.0233 * 35 / 35.16504
        self.assertEqual(salt.parameter, Parameter.SALINITY)
        self.assertAlmostEqual(salt.a_year, 365 * a_day, delta=0.001)
        self.assertAlmostEqual(salt.settles, 70 * a_day, delta=0.001)

    def test_sulfate_and_magnesium(self):
        found = self.plan(Means(magnesium=EPSOM), need=need_from_uptake(0.0, 0.5))
        self.assertAlmostEqual(found.amounts[0].mass_g, 167 / 24.305 * 0.24647, delta=0.002)
        sulfate = next(row for row in found.behind if row.parameter == Parameter.SULFATE)
        self.assertAlmostEqual(sulfate.per_day, 0.5 / 24.305 * 96.06, delta=0.002)

    def test_a_missing_part_leaves_calcium_uncovered(self):
        found = self.plan(Means(((SODA, 1.0),)))
        self.assertAlmostEqual(found.left[CALCIUM], 0.2 * 20.039, delta=1e-4)

    def test_parts_that_do_not_add_up_are_refused(self):
        with self.assertRaises(InputError):
            self.plan(Means(((SODA, 0.5), (BICARBONATE, 0.2))))

    @given(
        st.floats(0, 1), st.floats(0, 0.5), st.integers(1, 30), st.floats(2, 4), st.floats(0, 5), st.floats(0, 5),
        st.floats(20, 2000),
    )  # fmt: skip
    def test_what_comes_in_and_what_is_left_is_what_is_used(self, uptake, fraction, every, new, lime, gone, volume):
        need = need_from_uptake(uptake)
        changes = Changes(fraction, every, {ALKALINITY: new, CALCIUM: 430.0})
        means = Means(((SODA, 1.0),), CHLORIDE, lime_l=lime)
        try:
            found = plan_routine(need, WATER, volume, means, changes, gone)
        except SaltTideError:
            return
        for parameter in (ALKALINITY, CALCIUM):
            came = sum(one.amounts.get(parameter, 0.0) for one in found.brought)
            came += sum(one.rise for one in found.amounts if one.parameter == parameter)
            rest = need.of(parameter) - came
            self.assertLessEqual(rest, found.left.get(parameter, 0.0) + 1e-9)
        for one in found.amounts:
            self.assertGreater(one.mass_g, 0)


def rate(per_day, sd=0.01):
    return Rate(per_day, sd, per_day - 1.28 * sd, per_day + 1.28 * sd, 2.8, 0.03, 0.0, 0.0, None, 12, NOW, NOW)


class Reviews(unittest.TestCase):
    def test_inside_the_interval_nothing_is_proposed(self):
        found = review_dose(rate(-0.2), 0.19)
        self.assertEqual((found.fit, found.proposed), (Fit.FITS, 0.19))

    def test_short_and_over_propose_what_is_used_less_what_changes_bring(self):
        short = review_dose(rate(-0.2, 0.015), 0.15, 0.01)
        self.assertEqual(short.fit, Fit.SHORT)
        self.assertAlmostEqual(short.proposed, 0.19)
        over = review_dose(rate(-0.2), 0.24)
        self.assertEqual(over.fit, Fit.OVER)
        self.assertAlmostEqual(over.proposed, 0.2)

    def test_a_dose_is_unfit_where_it_surely_is_and_matters(self):
        # Two standard deviations to one side hold 0.97725 of a normal distribution, and 1.9 of them 0.9713.
        self.assertEqual(review_dose(rate(-0.2, 0.02), 0.16).fit, Fit.SHORT)
        self.assertEqual(review_dose(rate(-0.2, 0.02), 0.162).fit, Fit.FITS)
        self.assertEqual(review_dose(rate(-0.2, 0.02), 0.24).fit, Fit.OVER)
        self.assertEqual(review_dose(rate(-0.2, 0.02), 0.238).fit, Fit.FITS)
        # 0.3 dKH a week are 0.3 / 2.80385 / 7 = 0.015285 meq/L a day.
        self.assertEqual(review_dose(rate(-0.2, 0.001), 0.2 - 0.01529).fit, Fit.SHORT)
        self.assertEqual(review_dose(rate(-0.2, 0.001), 0.2 - 0.01528).fit, Fit.FITS)

    def test_what_fits_is_said_as_it_is(self):
        words = [dose_words(review_dose(rate(-0.2, sd), 0.19), "{:.2f}".format) for sd in (0.01, 0.006)]
        self.assertIn("within the range", words[0])
        self.assertIn("0.19 a day comes in and about 0.20 is used up: too little between them", words[1])

    def test_nothing_is_told_without_readings(self):
        self.assertEqual(review_dose(None, 0.2).fit, Fit.UNKNOWN)

    def test_nothing_below_zero_is_proposed(self):
        self.assertEqual(review_dose(rate(0.05), 0.1).proposed, 0.0)

    def test_a_level_is_off_by_more_than_twice_its_scatter(self):
        self.assertFalse(is_off(2.87, 0.04, 2.94))
        self.assertTrue(is_off(2.85, 0.04, 2.94))

    def test_ease_back_by_hand(self):
        limit = DayLimit(0.357, 0.357)
        up = ease_back(2.8, 2.94, 0.1, limit)  # 0.14 in a week
        self.assertAlmostEqual(up.dose, 0.12)
        self.assertEqual(up.days, 7)
        far = ease_back(2.0, 5.57, 0.1, limit)  # ten days of the limit
        self.assertEqual(far.days, 10)
        self.assertAlmostEqual(far.dose, 0.1 + 0.357)
        down = ease_back(3.5, 2.94, 0.05, limit)  # 0.08 a day wanted off, 0.05 a day is all that uptake takes
        self.assertEqual((down.dose, down.days), (0.0, 12))

    @given(st.floats(1, 5), st.floats(1, 5), st.floats(0, 1))
    def test_ease_back_stays_within_the_limit(self, level, target, dose):
        found = ease_back(level, target, dose, DayLimit(0.357, 0.357))
        self.assertLessEqual(abs(found.dose - dose), 0.357 + 1e-9)
        self.assertGreaterEqual(found.dose, 0)
