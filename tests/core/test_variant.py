"""What if: ways of keeping the water, with hand-derived levels, salt, minutes and doses; and the plan finder."""

import unittest
from dataclasses import replace
from datetime import timedelta

from salttide.core.basics.errors import DomainError, InputError, PlanError
from salttide.core.estimate.evaporation import evaporation_estimate, evaporation_l
from salttide.core.ledger.entries import TopOff
from salttide.core.ledger.plan import DailyDose, Plan
from salttide.core.planning.finder import DAYS, Asked, find_plan
from salttide.core.planning.variant import Dosing, Variant, WhatIfContext, check_variant, daily_of, try_variant
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.livestock import Animal
from salttide.core.system.volume import Geometry
from tests.core.cases import BEACON, GANNET, KITTIWAKE, NOW, PLAINMARK, ledger, reading
from tests.core.test_forecast import known

NO3, ALK, CA, SALINITY = Parameter.NITRATE, Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.SALINITY
# 100 L, so that the sums can be done in the head; nitrate rises by 0.5 a day.
SYSTEM = replace(
    BEACON, geometry=Geometry(100, 50, 20), bands={NO3: Span(2, 15), ALK: Span(2.5, 3.2), SALINITY: Span(34, 36)}
)
STEADY = Variant(0.1, 7, KITTIWAKE)


def setting(days=28, nitrate=0.5, uptake=0.05, level=2.9, daily=(), system=SYSTEM, **more):
    book = ledger(reading(NO3, 10, 0, entry=1), reading(ALK, level, 0, entry=2), reading(SALINITY, 35, 0, entry=3))
    rates = {
        NO3: known(nitrate, 0.02, 10, 0.3), ALK: known(-uptake, 0.003, level), SALINITY: known(0.0, 0.001, 35, 0.1),
    }  # fmt: skip
    return WhatIfContext(system, book, rates, Plan(daily=daily), NOW, days, 50.0, 2.0, **more)


class Compared(unittest.TestCase):
    def test_weekly_and_fortnightly_settle_where_the_recursion_says(self):
        # Weekly 10 % with clean water: each week + 3.5, then x 0.9; written out as the recursion.
        level = 10.0
        highest = 0.0
        for _ in range(4):
            level += 3.5
            highest = max(highest, level)
            level *= 0.9
        found = try_variant(setting(), STEADY)
        self.assertAlmostEqual(found.worst[NO3].high, highest)
        self.assertAlmostEqual(found.courses[NO3].points[-1].value, level)
        # Fortnightly 20 %: (10 + 7) x 0.8 = 13.6; + 7 = 20.6; x 0.8 = 16.48; out of the band (15) at day 10.
        rarer = try_variant(setting(), replace(STEADY, fraction=0.2, every_days=14))
        self.assertAlmostEqual(rarer.worst[NO3].high, 20.6)
        self.assertAlmostEqual((rarer.worst[NO3].leaves.at - NOW) / timedelta(days=1), 10)

    def test_a_little_every_day_moves_least(self):
        daily = try_variant(setting(), Variant(0.1 / 7, 1, KITTIWAKE, continuous=True))
        weekly = try_variant(setting(), STEADY)
        swing = lambda outcome: outcome.worst[NO3].high - outcome.worst[NO3].low  # noqa: E731
        self.assertLess(swing(daily), swing(weekly))

    def test_salt_and_minutes_a_month(self):
        # Four changes of 10 L at 35 ppt with 37.1 g/L: 1484 g in 28 days, x 30.4/28; 4 x 50 min as much.
        found = try_variant(setting(), STEADY)
        self.assertAlmostEqual(found.salt_g, 1484 * 30.4 / 28, delta=3)
        self.assertAlmostEqual(found.minutes, 200 * 30.4 / 28)

    def test_half_the_food_makes_half_the_nitrate(self):
        none = Variant(0.0, 7, KITTIWAKE)
        whole, half = try_variant(setting(), none), try_variant(setting(), replace(none, food=0.5))
        self.assertAlmostEqual(whole.courses[NO3].points[-1].value, 24)
        self.assertAlmostEqual(half.courses[NO3].points[-1].value, 17)

    def test_a_salt_with_another_alkalinity_pulls_towards_it(self):
        # Gannet's 10 dKH are 3.566 meq/L, Kittiwake's 2.95: after one change of a tenth 0.0616 apart.
        one, other = (try_variant(setting(8), replace(STEADY, salt=salt)) for salt in (KITTIWAKE, GANNET))
        apart = other.courses[ALK].points[-1].value - one.courses[ALK].points[-1].value
        self.assertAlmostEqual(apart, 0.0616, delta=0.001)

    def test_two_part_replaces_what_is_used_and_leaves_salt(self):
        # 0.05 meq/L a day in 100 L: 5 meq, 0.265 g Na2CO3; calcium 1.002 mg/L; 58.44 mg NaCl per meq: 2.85 ppm a day.
        found = try_variant(setting(), Variant(0.0, 7, KITTIWAKE, dosing=Dosing.TWO_PART))
        self.assertAlmostEqual(found.courses[ALK].points[-1].value, 2.9)
        self.assertAlmostEqual(found.compounds_g["Na2CO3"], 5 * 52.994 / 1000 * 30.4, delta=0.01)
        self.assertAlmostEqual(found.courses[SALINITY].points[-1].value, 35 + 28 * 0.05 * 0.05844 / 1.023, delta=0.005)

    def test_limewater_is_bounded_by_evaporation(self):
        # 2 L a day of 40.5 meq/L into 100 L: 0.81 meq/L; a use of 1.0 is not met.
        tight = setting(uptake=1.0)
        (dose,), notes = daily_of(tight, Variant(0.0, 7, KITTIWAKE, dosing=Dosing.LIMEWATER))
        self.assertAlmostEqual(dose.amounts[ALK] / 100, 0.81, delta=0.01)
        self.assertIn("evaporation bounds it", notes[0])

    def test_as_now_goes_on_with_the_daily_dose(self):
        now = setting(daily=(DailyDose("soda", 1.0, {ALK: 5.0}),))
        found = try_variant(now, Variant(0.0, 7, KITTIWAKE))
        self.assertAlmostEqual(found.courses[ALK].points[-1].value, 2.9)

    def test_the_most_and_the_least_that_a_variant_may_be(self):
        # SYSTEM's method changes a quarter at most; what is changed all the time may be as much as all of it a day.
        most = SYSTEM.methods.largest_fraction
        for good, bad in (
            (Variant(most, 7, KITTIWAKE), Variant(most * 1.01, 7, KITTIWAKE)),
            (Variant(1.0, 1, KITTIWAKE, continuous=True), Variant(1.01, 1, KITTIWAKE, continuous=True)),
            (Variant(0.1, 1, KITTIWAKE), Variant(0.1, 0, KITTIWAKE)),
            (Variant(0.1, 90, KITTIWAKE), Variant(0.1, 91, KITTIWAKE)),
            (Variant(0.1, 7, KITTIWAKE, food=3.0), Variant(0.1, 7, KITTIWAKE, food=3.01)),
            (Variant(0.1, 7, KITTIWAKE, alkalinity_meq_l=3.0), Variant(0.1, 7, KITTIWAKE, alkalinity_meq_l=3.01)),
        ):
            check_variant(good, SYSTEM)
            with self.subTest(bad=bad), self.assertRaises(DomainError):
                check_variant(bad, SYSTEM)

    def test_what_the_method_or_the_animals_forbid_is_refused_at_its_field(self):
        fed = replace(SYSTEM, animals=(Animal(1, "goby", count=2, portions=0.5),))
        for case, variant, field in (
            (setting(), replace(STEADY, fraction=0.4), "percent"),
            (setting(), replace(STEADY, every_days=0), "every_days"),
            (setting(), replace(STEADY, food=9.0), "food_percent"),
            (setting(), replace(STEADY, alkalinity_meq_l=-1.0), "alkalinity"),
            (setting(system=fed), replace(STEADY, food=0.0), "food_percent"),
        ):
            with self.subTest(field=field), self.assertRaises((DomainError, InputError)) as caught:
                try_variant(case, variant)
            self.assertEqual(caught.exception.field, field)


class Finder(unittest.TestCase):
    def find(self, case, **more):
        return find_plan(case, Asked([KITTIWAKE, PLAINMARK], **more))

    def holds(self, case, found, since=0):
        """Whether the plan holds every band by the forecast itself, from a day on."""
        outcome = try_variant(replace(case, days=DAYS), found.variant)
        for parameter, course in outcome.courses.items():
            band = case.system.bands[parameter]
            for point in course.points:
                if point.at >= NOW + timedelta(days=since):
                    self.assertTrue(band.holds(point.value), (parameter, point))

    def test_what_it_finds_holds_every_band_by_the_forecast(self):
        for nitrate, uptake in ((0.2, 0.01), (0.5, 0.05), (0.9, 0.1)):
            with self.subTest(nitrate=nitrate, uptake=uptake):
                case = setting(nitrate=nitrate, uptake=uptake)
                found = self.find(case, minutes=2000.0)
                self.assertEqual(found.in_the_way, [])
                self.holds(case, found)

    def test_no_change_is_planned_where_none_is_needed(self):
        found = self.find(setting(nitrate=0.02, uptake=0.0))
        self.assertEqual((found.variant.fraction, list(found.daily)), (0.0, []))

    def test_the_cheapest_is_taken(self):
        # Both would do: the price decides.
        salts = [replace(KITTIWAKE, id=1), replace(PLAINMARK, id=2)]
        case = setting(nitrate=0.5)
        found = find_plan(case, Asked(salts, salt_price={1: 20.0, 2: 2.0}))
        self.assertEqual(found.variant.salt.id, 2)
        self.assertEqual(find_plan(case, Asked(salts, salt_price={1: 2.0, 2: 20.0})).variant.salt.id, 1)

    def test_a_low_level_is_corrected_at_the_start_within_the_daily_limit(self):
        # 2.0 to 2.5 and a little: half a meq/L over 7 days is under 0.357 a day.
        found = self.find(setting(level=2.0))
        formula, grams, days = found.correction[0]
        self.assertEqual((formula, days), ("Na2CO3", 7))
        raised = grams / 52.994 * 1000 / 100
        self.assertLessEqual(raised, SYSTEM.limits.alkalinity_meq_l)
        self.assertGreaterEqual(raised * days, 0.5)

    def test_the_limit_in_the_way_is_named_with_the_nearest_plan(self):
        # 4 mg/L of nitrate a day cannot be held by changes of a quarter.
        found = self.find(setting(nitrate=4.0), minutes=2000.0)
        self.assertEqual([(one.parameter, one.above) for one in found.in_the_way], [(NO3, True)])
        self.assertGreater(found.in_the_way[0].missed, 1)
        self.assertEqual(found.variant.fraction, 0.25)

    def test_too_few_minutes_are_named(self):
        found = self.find(setting(nitrate=0.9), minutes=10.0)
        self.assertIn(None, [one.parameter for one in found.in_the_way])

    def test_nothing_to_go_by_says_so(self):
        with self.assertRaises(PlanError):
            find_plan(setting(), Asked([]))
        with self.assertRaises(PlanError):
            self.find(setting(system=replace(SYSTEM, bands={})))


class Evaporates(unittest.TestCase):
    def top_offs(self, *litres):
        return ledger(*(TopOff(NOW - timedelta(days=2 * n), each, n + 1) for n, each in enumerate(litres)))

    def test_the_mean_of_what_was_replaced_with_its_interval(self):
        # Every two days 3, 5, 4, 4, 4 (the oldest begins the count): 17 L in 8 days -> (3+5+4+4)/8 = 2.0 L a day.
        told = evaporation_estimate(self.top_offs(3, 5, 4, 4, 4), NOW)
        self.assertAlmostEqual(told.per_day_l, 2.0)
        # Deviations from 4: -1, 1, 0, 0: sum of squares 2, x 4/3; t of 3 degrees 1.638: 1.638 x 1.633 / 8.
        self.assertAlmostEqual(told.high_l - told.per_day_l, 1.638 * (8 / 3) ** 0.5 / 8, places=3)

    def test_too_few_say_nothing_and_the_usual_share_is_taken(self):
        book = self.top_offs(3, 5)
        self.assertIsNone(evaporation_estimate(book, NOW))
        self.assertAlmostEqual(evaporation_l(book, NOW), 0.8)
