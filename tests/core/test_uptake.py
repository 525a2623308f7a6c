"""Uptake over time and its causes; what goes with it; a correction off its course; what Next says of dosing."""

import unittest
from datetime import UTC, datetime, timedelta

from salttide.core.estimate.rate import Rate, rate_of
from salttide.core.estimate.uptake import UptakePoint, companions, turns, uptake_history
from salttide.core.ledger.entries import Dose, Reading, ledger_of
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.next_up import Action
from salttide.core.overview.upcoming import Ahead
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind
from salttide.core.planning.correction import off_course
from salttide.core.planning.delivery import REFILL, refills, with_pumps
from salttide.core.planning.work_order import DoseWorkOrder
from salttide.core.science.parameters import Parameter
from salttide.core.system.catalogue import event_kind
from salttide.core.system.inspection import Event
from salttide.core.system.shelf import Additive
from salttide.core.upkeep.care import Upkeep
from salttide.core.upkeep.rota import Planned
from tests.core.cases import NOW, reading

ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM


def days_ago(days: float) -> datetime:
    return NOW - timedelta(days=days)


def book(uptake_on, warm=lambda day: 25.0, happened=()):
    """A year of weekly tests of a tank that is brought back to 3 meq/L after each: the dose is what was used."""
    entries = []
    for week in range(40, -1, -1):
        day = 7.0 * week
        used = 7 * uptake_on(day)
        entries.append(Dose(days_ago(day + 6.9), "soda", 1.0, {ALKALINITY: used * 100.0}, True, 1000 + week))
        entries.append(Reading(days_ago(day), ALKALINITY, 3.0, 0.02, "kit", 2000 + week))
        entries.append(Reading(days_ago(day), Parameter.TEMPERATURE, warm(day), 0.1, "thermometer", 3000 + week))
    return ledger_of(100.0, [*entries, *happened])


def told(ledger, zone=UTC):
    history = uptake_history(ledger, ALKALINITY, NOW)
    return history, turns(ledger, history, rate_of(ledger, ALKALINITY, NOW), ALKALINITY, zone, {})


class History(unittest.TestCase):
    def test_three_weeks_without_a_test_are_told_of_and_more_are_not(self):
        for last, known in ((21, True), (21.5, False)):
            kept = [Reading(days_ago(last + 7 * week), ALKALINITY, 3.0, 0.02, "kit", week) for week in range(9)]
            history = uptake_history(ledger_of(100.0, kept), ALKALINITY, NOW)
            self.assertEqual(bool(history) and history[-1].at == NOW, known)

    def test_a_steady_uptake_is_told_so_all_along(self):
        history, causes = told(book(lambda day: 0.1))
        self.assertGreater(len(history), 10)
        for point in history:
            self.assertAlmostEqual(point.per_day, 0.1, delta=0.01)
            self.assertLess(point.low, point.high)
        self.assertEqual(causes, [])

    def test_growth_is_told_with_how_much_and_since_when(self):
        # From 0.05 half a year ago to 0.1: twice as much.
        history, causes = told(book(lambda day: 0.1 - 0.05 * min(day, 182) / 182))
        self.assertAlmostEqual(history[-1].per_day, 0.1, delta=0.012)
        self.assertIn("growth", causes[0])
        self.assertIn("weeks ago", causes[0])

    def test_a_step_is_told_with_what_happened_shortly_before(self):
        lost = Event(days_ago(30), event_kind("stock_lost"), "the large colony")
        _, causes = told(book(lambda day: 0.15 if day > 28 else 0.06, happened=[lost]))
        self.assertIn("took a step", causes[0])
        self.assertIn("the large colony", " ".join(causes))

    def test_a_step_without_a_known_cause_asks(self):
        _, causes = told(book(lambda day: 0.15 if day > 28 else 0.06))
        self.assertIn("Nothing is written down", causes[1])

    def test_a_season_is_told_by_the_water_s_warmth(self):
        _, causes = told(book(lambda day: 0.1, warm=lambda day: 24.0 if day > 90 else 26.0))
        self.assertIn("2.0 °C warmer", causes[-1])


def rate(per_day, sd):
    return Rate(per_day, sd, per_day - 1.28 * sd, per_day + 1.28 * sd, 400.0, 3.0, 0.0, 0.0, None, 9, NOW, NOW)


class Companions(unittest.TestCase):
    def test_by_hand(self):
        # 0.2 meq/L take 4.008 mg/L of calcium; with it go 0.01 to 0.4 mg/L of magnesium.
        for calcium, magnesium, fits in (
            (rate(-4.0, 0.3), rate(-0.3, 0.05), (True, True)),
            (rate(-6.0, 0.3), rate(-1.5, 0.1), (False, False)),
            (rate(-2.0, 0.3), rate(0.5, 0.1), (False, False)),
        ):
            with self.subTest(calcium=calcium.per_day):
                found = companions(0.2, calcium, magnesium)
                self.assertEqual(tuple(one.fits for one in found), fits)
        calcium, magnesium = companions(0.2, None, None)
        self.assertAlmostEqual(calcium.expected_high, 4.008, delta=0.001)
        self.assertAlmostEqual(magnesium.expected_high, 0.4008, delta=0.001)
        self.assertIsNone(calcium.fits)

    def test_where_tests_cannot_tell_the_alkalinity_says_what_goes(self):
        # 0.2 meq/L a day: 4.008 mg/L of calcium and up to 0.4008 of magnesium. Untold is what spreads over more than
        # half of the uptake or of what is expected: 1.28 sd > 0.5 · 4.008 for calcium.
        for calcium, untold in ((rate(-4.0, 1.56), False), (rate(-4.0, 1.57), True), (rate(-6.0, 2.0), False)):
            self.assertEqual(companions(0.2, calcium, None)[0].untold, untold)
        _, magnesium = companions(0.2, None, rate(-0.9, 1.2))
        self.assertEqual((magnesium.untold, magnesium.words), (True, "magnesium tests cannot tell so little"))
        self.assertFalse(companions(0.2, None, rate(-9.0, 1.2))[1].untold)

    def test_points_are_plain(self):
        self.assertEqual(UptakePoint(NOW, 0.1, 0.09, 0.11).per_day, 0.1)


class OffCourse(unittest.TestCase):
    job = DoseWorkOrder(
        "soda", 2.0, {ALKALINITY: 10.0}, before={ALKALINITY: 2.8}, made_at=days_ago(2).isoformat(), step=0.3
    )

    def test_a_test_that_agrees_lets_it_go_on(self):
        # Twice the joint scatter of 0.05 and 0.05 is 0.141, half a step 0.15: 0.29 off is still agreed.
        self.assertIsNone(off_course([self.job], ledger_of(100.0, [reading(ALKALINITY, 2.52, 1)])))

    def test_one_that_does_not_stops_it(self):
        found = off_course([self.job], ledger_of(100.0, [reading(ALKALINITY, 2.49, 1)]))
        self.assertEqual((found.parameter, found.expected), (ALKALINITY, 2.8))

    def test_a_test_from_before_the_plan_says_nothing(self):
        self.assertIsNone(off_course([self.job], ledger_of(100.0, [reading(ALKALINITY, 2.0, 3)])))
        self.assertIsNone(off_course([DoseWorkOrder("soda", 1.0, {})], ledger_of(100.0, [reading(ALKALINITY, 2.0, 0)])))


class Pumped(unittest.TestCase):
    def test_what_pumps_raise_is_not_dosed_twice(self):
        soda = DailyDose("soda stock", 1.0, {ALKALINITY: 10.0})
        lime, food = DailyDose("limewater", 0.0, {ALKALINITY: 5.0, CALCIUM: 100.0}), DailyDose("k", 1.0, {})
        self.assertEqual(with_pumps([soda], [lime, food]), (soda, food))
        self.assertEqual(with_pumps([], [lime]), (lime,))

    def test_refills_stand_on_the_rota_when_the_reserve_is_near(self):
        additive = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
        events = (
            ContainerEvent(days_ago(10), ContainerKind.FILLED, 1000.0),
            ContainerEvent(days_ago(10), ContainerKind.SET, 40.0),
        )
        one = Container(1, "soda stock", additive, 1000.0, 3.0, "head", events=events)
        # 600 mL left, 100 of them reserve: 12.5 days.
        today = NOW.astimezone(UTC).date()
        found = refills([one], NOW, today + timedelta(days=14), UTC)
        self.assertEqual([(item.task, item.day) for item in found], [(REFILL, today + timedelta(days=12))])
        self.assertIn("600 mL left", found[0].why)
        self.assertEqual(refills([one], NOW, today + timedelta(days=11), UTC), [])


class InNext(unittest.TestCase):
    """What Next says of dosing, from the whole outlook of a system."""

    def items(self, ahead, *entries):
        from salttide.core.overview.state import outlook
        from tests.core.cases import BEACON, ZONE

        seen = outlook(BEACON, ledger_of(BEACON.volume_l, entries), Upkeep(), ahead, NOW, ZONE, {})
        return [(item.way, item.title) for item in seen.next]

    def falling_by(self, fall):
        """Seven weekly tests that fall so much a week, with a daily dose of nothing much."""
        return [reading(ALKALINITY, 3.0 - fall * (6 - week), 7 * week, entry=100 + week) for week in range(7)]

    def test_a_daily_dose_that_does_not_fit_is_said(self):
        # 0.12 meq/L (0.34 dKH) a week are lost on top of what is dosed: 0.017 a day more than comes in.
        ahead = Ahead(daily=(DailyDose("soda", 1.0, {ALKALINITY: 20.0}),))
        doses = [
            Dose(days_ago(day + 0.5), "soda", 1.0, {ALKALINITY: 20.0}, True, 500 + day) for day in range(43)
        ]  # fmt: skip
        found = self.items(ahead, *self.falling_by(0.12), *doses)
        # One plan: the remedy for the low level adjusts the daily dose, so that it is not asked for beside it.
        self.assertEqual([way for way, _ in found if way in (Action.REMEDY, Action.DOSING)], [Action.REMEDY])

    def test_one_that_fits_is_left_alone_and_nothing_dosed_says_nothing(self):
        ahead = Ahead(daily=(DailyDose("soda", 1.0, {ALKALINITY: 20.0}),))
        doses = [Dose(days_ago(day + 0.5), "soda", 1.0, {ALKALINITY: 20.0}, True, 500 + day) for day in range(43)]
        self.assertNotIn(Action.DOSING, [way for way, _ in self.items(ahead, *self.falling_by(0.0), *doses)])
        self.assertNotIn(Action.DOSING, [way for way, _ in self.items(Ahead(), *self.falling_by(0.1))])

    def test_a_disproved_correction_stops_its_doses(self):
        job = DoseWorkOrder("soda", 2.0, {ALKALINITY: 10.0}, before={ALKALINITY: 2.4}, made_at=days_ago(2).isoformat())
        step = Planned(7, NOW.date(), "Dose 2 g soda", 5, "dose")
        ways = [way for way, _ in self.items(Ahead([(step, job)]), *self.falling_by(0.0))]
        self.assertIn(Action.CORRECTION, ways)
        self.assertNotIn(Action.RECORD, ways)

    def test_one_on_its_course_is_due(self):
        job = DoseWorkOrder("soda", 2.0, {ALKALINITY: 10.0}, before={ALKALINITY: 3.0}, made_at=days_ago(2).isoformat())
        step = Planned(7, NOW.date(), "Dose 2 g soda", 5, "dose")
        found = self.items(Ahead([(step, job)]), *self.falling_by(0.0))
        self.assertIn((Action.RECORD, "Dose 2 g soda"), found)

    def test_a_pump_that_loses_is_told(self):
        additive = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
        events = (
            ContainerEvent(days_ago(14), ContainerKind.FILLED, 1000.0),
            ContainerEvent(days_ago(14), ContainerKind.SET, 20.0),
            ContainerEvent(days_ago(0), ContainerKind.LEVEL, 776.0),
        )
        one = Container(1, "soda stock", additive, 1000.0, 3.0, "head", events=events)
        found = self.items(Ahead(containers=[one]), *self.falling_by(0.0))
        self.assertIn((Action.CONTAINER, "The pump of soda stock loses 20 %"), found)
