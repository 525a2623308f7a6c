"""Containers and pumps: what fell, what was delivered, what is wrong with it, how long it lasts. By hand."""

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.estimate.dose_times import Slot, nearest_minutes, slots_of
from salttide.core.planning.container import (
    Container,
    ContainerEvent,
    ContainerKind,
    check_container,
    flow_drift_percent,
    flow_ml_min,
    tube_days,
)
from salttide.core.planning.delivery import (
    DeliveredShares,
    Fault,
    contents,
    daily_dose,
    delivered_doses,
    delivery_of,
    diagnosis,
    falls,
    refill_days,
)
from salttide.core.science.parameters import Parameter
from salttide.core.system.shelf import Additive
from tests.core.tables import TableTest

NOON = datetime(2026, 11, 1, 12, tzinfo=UTC)
SODA = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
FILLED, LEVEL, SET, CALIBRATED, TUBE = ContainerKind


def on(day, kind, ml=0.0, before=None):
    return ContainerEvent(NOON + timedelta(days=day), kind, ml, before)


def soda(*events, name="soda stock", number=1, sd=3.0, set_name="two-part"):
    return Container(number, name, SODA, 1000.0, sd, "head A", set_name, events=events)


def now(day):
    return NOON + timedelta(days=day)


BEGUN = (on(0, FILLED, 1000.0), on(0, SET, 20.0))
"""Filled to a litre, 20 mL a day."""


class Falls(TableTest):
    def test_by_hand(self):
        def fell(day, *events):
            return falls(soda(*BEGUN, *events))[day].fell_ml

        def was_set(day, *events):
            return falls(soda(*BEGUN, *events))[day].set_ml

        week = on(7, LEVEL, 862.0)
        self.check([
            (fell, (0, week), 138.0, 1e-9),
            (was_set, (0, week), 140.0, 1e-9),
            (fell, (1, week, on(14, LEVEL, 720.0)), 142.0, 1e-9),
            # Set anew on the third day: 3 · 20 and 4 · 30.
            (was_set, (0, on(3, SET, 30.0), week), 180.0, 1e-9),
            # Filled on the seventh day from 860: what was in it before counts, what was poured does not.
            (fell, (0, on(7, FILLED, 1000.0, 860.0)), 140.0, 1e-9),
            (fell, (1, on(7, FILLED, 1000.0, 860.0), on(9, LEVEL, 961.0)), 39.0, 1e-9),
        ])  # fmt: skip

    def test_filled_without_a_level_before_it_nothing_is_known_of_that_stretch(self):
        self.assertEqual(falls(soda(*BEGUN, on(7, FILLED, 1000.0))), [])

    def test_an_order_of_events_at_one_moment_is_kept(self):
        found = falls(soda(*BEGUN, on(7, LEVEL, 860.0), on(7, FILLED, 1000.0, 860.0)))
        self.assertEqual([fall.fell_ml for fall in found], [140.0])


class Deliveries(unittest.TestCase):
    def test_a_sound_pump_is_left_alone(self):
        told = delivery_of(soda(*BEGUN, on(7, LEVEL, 862.0), on(14, LEVEL, 724.0)), now(14))
        self.assertIsNone(told.fault)
        self.assertAlmostEqual(told.share, 276 / 280, delta=0.005)

    def test_a_fifth_that_is_missing_is_named_with_its_share_and_since_when(self):
        # A sound week, then two weeks of 112 mL in place of 140.
        told = delivery_of(soda(*BEGUN, on(7, LEVEL, 860.0), on(14, LEVEL, 748.0), on(21, LEVEL, 636.0)), now(21))
        self.assertEqual(told.fault, Fault.SHORT)
        self.assertAlmostEqual(told.share, 224 / 280, places=9)
        self.assertEqual(told.since, now(7))
        self.assertAlmostEqual(told.lost_percent, 20.0)

    def test_a_coarse_level_is_not_enough_to_accuse(self):
        told = delivery_of(soda(*BEGUN, on(7, LEVEL, 888.0), sd=30.0), now(7))
        self.assertIsNone(told.fault)

    def test_a_small_loss_is_told_but_not_called_a_fault(self):
        # 5 % of 1400 mL: surely real, and no reason to take a pump apart.
        big = Container(1, "soda", SODA, 5000.0, 3.0, events=(on(0, FILLED, 5000.0), on(0, SET, 100.0)))
        told = delivery_of(replace(big, events=(*big.events, on(14, LEVEL, 5000.0 - 1330.0))), now(14))
        self.assertIsNone(told.fault)
        self.assertAlmostEqual(told.share, 0.95, delta=0.002)

    def test_too_fast_is_named(self):
        told = delivery_of(soda(*BEGUN, on(7, LEVEL, 780.0)), now(7))
        self.assertEqual(told.fault, Fault.OVER)
        self.assertAlmostEqual(told.share, 220 / 140)

    def test_calibration_wipes_the_slate_but_what_was_lost_before_stays_lost(self):
        mended = soda(*BEGUN, on(7, LEVEL, 888.0), on(14, LEVEL, 776.0), on(14, CALIBRATED, 50.0), on(21, LEVEL, 636.0))
        self.assertIsNone(delivery_of(mended, now(21)).fault)
        self.assertAlmostEqual(DeliveredShares(mended, now(21)).at(now(5)), 0.8, delta=1e-9)
        self.assertAlmostEqual(DeliveredShares(mended, now(21)).at(now(20)), 1.0, delta=0.01)

    def test_never_filled_or_never_set_nothing_is_told(self):
        self.assertIsNone(delivery_of(soda(), now(3)))
        self.assertIsNone(delivery_of(soda(on(0, FILLED, 1000.0), on(7, LEVEL, 1000.0)), now(7)))
        self.assertIsNone(contents(soda(), now(3)))
        self.assertEqual(delivered_doses(soda(), NOON, now(9), UTC), [])
        self.assertIsNone(daily_dose(soda(on(0, FILLED, 1000.0)), now(1)))

    def test_the_ledger_gets_what_was_delivered(self):
        container = soda(*BEGUN, on(7, LEVEL, 888.0), on(14, LEVEL, 776.0))
        doses = delivered_doses(container, NOON, now(14), UTC)
        self.assertEqual(len(doses), 15)
        # A whole day: 16 mL of 20, 1.6 g, of which 105.99 g hold two equivalents.
        self.assertAlmostEqual(doses[5].mass_g, 1.6, places=9)
        self.assertAlmostEqual(doses[5].amounts[Parameter.ALKALINITY], 1.6 / 105.988 * 2000, delta=0.01)
        self.assertTrue(all(dose.routine for dose in doses))
        self.assertAlmostEqual(daily_dose(container, now(14)).mass_g, 1.6, places=9)

    def test_on_the_first_day_only_what_was_set_counts(self):
        first = delivered_doses(soda(*BEGUN), NOON, now(2), UTC)[0]
        self.assertAlmostEqual(first.mass_g, 1.0, places=9)  # from noon to midnight: 10 mL


class Contents(unittest.TestCase):
    def test_left_days_and_refill(self):
        container = soda(*BEGUN, on(7, LEVEL, 860.0))
        found = contents(container, now(10))
        self.assertAlmostEqual(found.ml, 800.0, delta=0.5)
        self.assertAlmostEqual(found.expected_ml, 800.0)
        self.assertAlmostEqual(found.days, 40.0, delta=0.1)
        self.assertEqual(found.empty_on(date(2026, 11, 11)), date(2026, 11, 11) + timedelta(days=int(found.days)))
        # A tenth of a litre stays as reserve: 700 mL at 20 a day.
        self.assertAlmostEqual(refill_days(container, now(10)), 35.0, delta=0.1)

    def test_it_never_holds_less_than_nothing(self):
        found = contents(soda(*BEGUN), now(80))
        self.assertEqual(found.ml, 0.0)
        self.assertEqual(refill_days(soda(*BEGUN), now(80)), 0.0)

    def test_once_dry_it_gives_no_more(self):
        # 100 mL at 20 a day: ten from the first noon to midnight, four whole days, and the last ten: 10 g in all.
        small = soda(on(0, FILLED, 100.0), on(0, SET, 20.0))
        given = [dose.mass_g for dose in delivered_doses(small, NOON, now(9), UTC)]
        self.assertAlmostEqual(sum(given), 10.0, places=9)
        self.assertEqual(len(given), 6)
        self.assertIsNone(daily_dose(small, now(9)))
        self.assertIsNotNone(daily_dose(small, now(2)))

    def test_what_stands_still_lasts(self):
        still = soda(on(0, FILLED, 500.0))
        self.assertIsNone(contents(still, now(3)).days)
        self.assertIsNone(refill_days(still, now(3)))


class Diagnoses(unittest.TestCase):
    short = (on(7, LEVEL, 888.0), on(14, LEVEL, 776.0))
    sound = (on(7, LEVEL, 860.0), on(14, LEVEL, 720.0))

    def told(self, mine, partner):
        one, other = soda(*BEGUN, *mine), soda(*BEGUN, *partner, name="calcium stock", number=2)
        return diagnosis(one, [one, other], now(14), UTC)

    def test_this_pump_alone(self):
        found = self.told(self.short, self.sound)
        self.assertIn("loses 20 %", found.title)
        self.assertIn("Calcium stock falls as set", found.reason)

    def test_both_alike_have_one_cause(self):
        self.assertIn("both fall too slowly", self.told(self.short, self.short).title)

    def test_too_fast_is_a_leak_until_shown_otherwise(self):
        found = self.told((on(7, LEVEL, 780.0), on(14, LEVEL, 560.0)), self.sound)
        self.assertIn("too fast", found.title)
        self.assertIn("leak", found.steps[0])

    def test_an_old_tube_is_named_first(self):
        aged = soda(on(-400, TUBE), *BEGUN, *self.short)
        self.assertIn("14 months old", diagnosis(aged, [], now(14), UTC).steps[0])

    def test_all_well(self):
        self.assertIsNone(self.told(self.sound, self.short))


class Pumps(TableTest):
    def test_by_hand(self):
        self.check([
            (flow_ml_min, (25.0, 30.0), 50.0, 1e-9),
            (flow_ml_min, (10.0, 60.0), 10.0, 1e-9),
            (flow_ml_min, (0.8, 12.0), 4.0, 1e-9),
        ])  # fmt: skip
        self.refused([
            (flow_ml_min, (0.0, 30.0), DomainError),
            (flow_ml_min, (25.0, 0.0), DomainError),
            (flow_ml_min, (25.0, 2.0), DomainError),  # too short to time by hand
        ])  # fmt: skip

    def test_drift_and_age(self):
        # 50 to 48 mL/min in 60 days: 4 % lost, 6 % in 90 days.
        pump = soda(on(-100, TUBE), on(-60, CALIBRATED, 50.0), on(0, CALIBRATED, 48.0))
        self.assertAlmostEqual(flow_drift_percent(pump), -6.0)
        self.assertAlmostEqual(tube_days(pump, now(0)), 100.0)
        self.assertIsNone(flow_drift_percent(soda(on(-60, CALIBRATED, 50.0), on(-30, TUBE), on(0, CALIBRATED, 48.0))))
        self.assertIsNone(tube_days(soda(), now(0)))

    def test_what_cannot_be_a_container(self):
        for wrong, field in (
            (soda(name="  "), "name"),
            (replace(soda(), capacity_ml=5_000_000.0), "capacity_ml"),  # larger than the room
            (replace(soda(), capacity_ml=0.0), "capacity_ml"),
            (replace(soda(), level_sd_ml=900.0), "level_sd_ml"),
            (replace(soda(), step_ml=0.0), "step_ml"),
            (replace(soda(), additive=Additive(2, "soda ash", "Na2CO3")), "additive_id"),
        ):
            with self.subTest(field=field), self.assertRaises(InputError) as raised:
                check_container(wrong)
            self.assertEqual(raised.exception.field, field)
            self.assertTrue(raised.exception.accepted)


class Slots(unittest.TestCase):
    def test_whole_steps_add_up_to_the_day(self):
        even = slots_of([1.0] * 24, 19.8, 0, 0.1)
        self.assertAlmostEqual(sum(slot.ml for slot in even), 19.8, places=6)
        self.assertEqual({slot.ml for slot in even}, {0.8, 0.9})
        self.assertEqual([slot.minute for slot in even][:2], [0, 60])
        self.assertEqual(slots_of([0.0] * 24, 10.0, 0, 0.1), ())

    def test_around_midnight_too(self):
        self.assertEqual(nearest_minutes([Slot(0, 1)], [Slot(1430, 1)]), 10)
        self.assertEqual(nearest_minutes([Slot(600, 1)], [Slot(30, 1), Slot(720, 1)]), 120)
        self.assertEqual(nearest_minutes([Slot(600, 1)], []), 1440)
