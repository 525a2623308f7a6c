"""What a system uses, makes and loses, in words with its interval."""

import unittest
from datetime import timedelta

from salttide.core.estimate.budget import TOO_FEW, budget
from salttide.core.estimate.evaporation import evaporated_a_year_ago, evaporation_estimate
from salttide.core.estimate.rate import rate_of
from salttide.core.estimate.supplementation import Changes
from salttide.core.ledger.entries import Dose, Feed, Harvest, TopOff
from salttide.core.ledger.plan import Plan, daily_as_recorded
from salttide.core.science.parameters import Parameter
from tests.core.cases import NOW, ZONE, dkh, ledger, reading

ALK, CA, MG, NO3 = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.NITRATE


def weekly(parameter, start, per_day, weeks=7):
    return [reading(parameter, start - per_day * day, day, entry=900 - day) for day in range(0, 7 * weeks, 7)]


def told(*entries):
    book = ledger(*entries)
    rates = {p: rate_of(book, p, NOW) for p in (ALK, CA, MG, NO3) if book.last(p)}
    plan = Plan(daily=daily_as_recorded(book, NOW))
    return {line.name: line for line in budget(book, rates, plan, NOW, ZONE, {ALK: "dKH"})}


class Evaporation(unittest.TestCase):
    def test_the_same_weeks_a_year_ago_are_told_by_their_own_top_offs(self):
        # Two litres every two days a year ago, three now: 1.0 and 1.5 L a day.
        before = [TopOff(NOW - timedelta(days=365 + 2 * n), 2.0) for n in range(6, -1, -1)]
        now = [TopOff(NOW - timedelta(days=2 * n), 3.0) for n in range(6, -1, -1)]
        book = ledger(*before, *now)
        self.assertAlmostEqual(evaporated_a_year_ago(book, NOW).per_day_l, 1.0)
        self.assertAlmostEqual(evaporation_estimate(book, NOW).per_day_l, 1.5)
        self.assertIsNone(evaporated_a_year_ago(ledger(*now), NOW))

    def test_a_ratio_of_sums_with_its_interval(self):
        # Every two days 3, 4, 2, 3 and 3 L: 15 L in 10 days. What is left over: 0, 1, -1, 0, 0, squares 2, times
        # 5/4 = 2.5. Student's t for 80 % at four degrees of freedom is 1.533: 1.533 sqrt(2.5) / 10 = 0.2424.
        top_offs = [TopOff(NOW - timedelta(days=10 - 2 * n), litres) for n, litres in enumerate((9, 3, 4, 2, 3, 3))]
        found = evaporation_estimate(ledger(*top_offs), NOW)
        for value, expected in ((found.per_day_l, 1.5), (found.low_l, 1.2576), (found.high_l, 1.7424)):
            self.assertAlmostEqual(value, expected, places=4)
        self.assertEqual(found.count, 5)
        self.assertIsNone(evaporation_estimate(ledger(*top_offs[2:]), NOW), "three between four")


class Budget(unittest.TestCase):
    def test_uptake_is_told_with_its_interval_and_the_daily_dose(self):
        # 100 L: level steady at 8 dKH while 5 meq (0.14 dKH) are dosed each day: that is the uptake.
        doses = [Dose(NOW - timedelta(days=d + 0.3), "soda", 0.26, {ALK: 5.0}, True, id=d + 1) for d in range(50)]
        line = told(*weekly(ALK, dkh(8.0), 0.0), *doses)["Uptake of alkalinity"]
        self.assertTrue(line.amount.startswith("0.14 dKH a day (0.1"), line.amount)
        self.assertIn("dosed 0.14 dKH a day", line.remarks)

    def test_calcium_that_goes_with_it_fits_or_does_not(self):
        # 0.05 meq/L a day take 1.0 mg/L of calcium with them.
        fits = told(*weekly(ALK, 2.9, -0.05), *weekly(CA, 420, -1.0))["Uptake of calcium"]
        self.assertIn("1.0 mg/L a day goes with the alkalinity: consistent", fits.remarks)
        off = told(*weekly(ALK, 2.9, -0.05), *weekly(CA, 420, -6.0))["Uptake of calcium"]
        self.assertIn("1.0 mg/L a day goes with the alkalinity: more calcium goes", " ".join(off.remarks))

    def test_what_its_own_tests_cannot_tell_is_told_by_the_alkalinity(self):
        # 0.05 meq/L a day take 1.002 mg/L of calcium, and 0.05 to 2 mg of magnesium for each 20 of it: 0.0025 to 0.1.
        # A magnesium kit of 20 mg/L, seven times in 42 days, tells a rate to 20 / sqrt(7 · 4 · 49) = 0.54 at best.
        line = told(*weekly(ALK, 2.9, -0.05), *weekly(MG, 1350, -0.1))["Uptake of magnesium"]
        self.assertEqual(line.amount, "0.0 to 0.1 mg/L a day")
        self.assertEqual(line.remarks[:2], ("what goes with the alkalinity", "magnesium tests cannot tell so little"))

    def test_production_stands_against_what_was_fed_and_what_was_harvested(self):
        # 0.5 mg/L a day of nitrate; 42 feeds of 100 mg into 100 L over 42 days: 1.0 mg/L a day, half of it turns up.
        feeds = [Feed(NOW - timedelta(days=d + 0.2), "mysids", 1, 1.0, {NO3: 100.0}, d + 1) for d in range(42)]
        cut = Harvest(NOW - timedelta(days=5), "macroalgae", 100, {NO3: 420.0}, 77)
        line = told(*weekly(NO3, 10, 0.5), *feeds, cut)["Production of nitrate"]
        self.assertIn("food brings 1.00 mg/L a day", line.remarks)
        self.assertRegex(" ".join(line.remarks), r"(49|50|51|52|53) % of it is found in the water")
        self.assertIn("harvests took 0.10 mg/L a day", line.remarks)

    def test_where_it_settles_with_the_changes_and_with_half_the_food(self):
        # 0.5 mg/L a day and a fifth a week with clean water: 0.5 · 7 · (5 - 0.5) = 15.75, half of it 7.9; each change
        # leaves 0.8 of the way: ln 0.1 / ln 0.8 = 10.3 weeks.
        book = ledger(
            *weekly(NO3, 10, 0.5),
            *(Feed(NOW - timedelta(days=d), "mysids", 1, 1.0, {NO3: 100.0}, d + 1) for d in range(42)),
        )
        rates = {NO3: rate_of(book, NO3, NOW)}
        changes = Changes(0.2, 7, {NO3: 0.0})
        (line,) = budget(book, rates, Plan(), NOW, ZONE, {}, changes)
        said = next(words for words in line.remarks if "settles" in words)
        self.assertRegex(
            said, r"^with these changes it settles near 1[567]\.\d mg/L in 10 weeks, with half the food near [78]\.\d"
        )
        (line,) = budget(book, rates, Plan(), NOW, ZONE, {})
        self.assertNotIn("settles", " ".join(line.remarks))

    def test_too_little_says_so(self):
        self.assertEqual(told(*weekly(ALK, 2.9, 0.05, weeks=3))["Uptake of alkalinity"].amount, TOO_FEW)
        few = told(*weekly(ALK, 2.9, 0.05), TopOff(NOW, 2.0, 999))
        self.assertIn("too few top-offs", few["Evaporation"].amount)

    def test_a_step_is_said(self):
        entries, level = [], 6.0
        for week in range(10):
            entries.append(reading(ALK, level, 63 - 7 * week, entry=week + 1))
            level -= 7 * (0.03 if week < 5 else 0.12)
        self.assertRegex(" ".join(told(*entries)["Uptake of alkalinity"].remarks), r"took a step about \w{3} \d+ \w{3}")
