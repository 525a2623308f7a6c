"""Plans frozen for the rota: changes, doses, corrections, ways of keeping the water, pumps that are set; by hand."""

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from salttide.core.basics.errors import DomainError, InputError, PlanError
from salttide.core.estimate.dose_times import Slot
from salttide.core.estimate.gas_exchange import DayDoses
from salttide.core.ledger.plan import DailyDose, Plan
from salttide.core.planning import correction_work as by_dose
from salttide.core.planning.batch import BatchState, Phase
from salttide.core.planning.change import plan_change
from salttide.core.planning.change_order import TankWork, slow_exchange, work_of_plan
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind, above_last, calibration_late_days
from salttide.core.planning.correction import Aim, WaterNow, plan_correction
from salttide.core.planning.dose_order import dose_order
from salttide.core.planning.new_water import natural_water, stored_water, water_of_system
from salttide.core.planning.plumbing import Drain
from salttide.core.planning.pump_setting import (
    alkalinity_by_hour,
    meq_l_per_ml,
    minute_of,
    minutes_to_calcium,
    set_event,
    settings_for,
)
from salttide.core.planning.variant import Dosing, Variant, WhatIfContext, WhatIfOutcome
from salttide.core.planning.variant_choice import (
    StartCorrection,
    adopted_methods,
    adopted_words,
    correction_order,
    month_cost,
    prices_of,
    start_doses,
    start_work,
    starting_variants,
)
from salttide.core.planning.work_order import DoseWorkOrder, VisualCheckOrder, Water
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.shelf import Additive
from salttide.core.upkeep.task import tasks
from tests.core.cases import BEACON, KITTIWAKE, NOW, TODAY, WATER, ledger, request

ALKALINITY, CALCIUM, SALINITY = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.SALINITY
SODA = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
CHLORIDE = Additive(2, "calcium stock", "CaCl2·2H2O", strength_g_l=100.0)
MOLAR_SODA = 105.99
"""Na2CO3, g/mol (atomic weights of 2021): 2 eq a mole."""


class Changes(unittest.TestCase):
    def work(self, **changes: object):
        plan = plan_change(BEACON, WATER, request(**changes), {}, TODAY)
        tank = TankWork(Plumbing(heater_w=300.0), Drain(zones=("left", "right"), keep_l=5.0), siphon=True)
        return plan, work_of_plan(BEACON, request(**changes), plan, tank, [], {})

    def test_sand_is_siphoned_and_water_kept_back_with_the_first_step_only(self) -> None:
        # From 34.8 to 36.6 ppt by no more than 1 ppt a day: at least two changes.
        _, work = self.work(salinity=36.6, fraction=0.2)
        self.assertGreater(len(work), 1)
        self.assertEqual([(w.order.siphon, w.order.keep_l) for w in work[:2]], [(True, 5.0), (False, 0.0)])

    def test_new_water_is_free_of_nutrients_and_a_dose_alone_brings_no_water(self) -> None:
        low, wanted = {**WATER, ALKALINITY: 6.0 / DKH_PER_MEQ_L}, request(alkalinity_meq_l=8.5 / DKH_PER_MEQ_L)
        plan = plan_change(BEACON, low, wanted)
        tank = TankWork(Plumbing(), Drain(), siphon=False)
        orders = [one.order for one in work_of_plan(BEACON, wanted, plan, tank, [], {})]
        self.assertEqual({bool(order.litres) for order in orders}, {True, False})
        for order in orders:
            self.assertEqual(order.incoming.get(Parameter.NITRATE), 0.0 if order.litres else None)

    def test_a_step_holds_what_the_tank_needs(self) -> None:
        # 12 % of 334.05 L: 40.1 L; both zones take half.
        plan, (step,) = self.work(salinity=35.0)
        order = step.order
        self.assertEqual((step.name, step.kind, step.day), ("Change 40.1 L", "change", TODAY))
        self.assertEqual(step.minutes, tasks()["water_change"].minutes)
        self.assertAlmostEqual(order.litres, 0.12 * BEACON.volume_l)
        self.assertEqual([name for name, _ in order.zones], ["left", "right"])
        self.assertEqual((order.heater_w, order.water, order.salt), (300.0, Water.MIX, KITTIWAKE))
        self.assertEqual((order.incoming[Parameter.NITRATE], order.incoming[Parameter.PHOSPHATE]), (0.0, 0.0))
        self.assertEqual(order.incoming[SALINITY], plan.steps[0].batch.salinity)
        self.assertGreater(order.mark_cm, 0)

    def test_the_same_water_by_a_pair_of_pumps(self) -> None:
        plan, _ = self.work(salinity=35.0)
        slow = slow_exchange(BEACON, plan, 10)
        # 40.086 L in ten days: 4.0086 a day, 0.167 an hour, 2.784 mL a minute; exp(-0.12) of the old water is left.
        self.assertAlmostEqual(slow.l_day, 4.0086, places=3)
        self.assertAlmostEqual(slow.l_h, 0.16703, places=4)
        self.assertAlmostEqual(slow.ml_min, 2.7838, places=3)
        self.assertAlmostEqual(float(slow.left), 88.692, places=2)


class NewWaterThatIsThere(unittest.TestCase):
    def test_the_sea_has_what_was_not_measured_in_proportion(self) -> None:
        sea = natural_water(35.0, 2.5)
        self.assertEqual(sea.holds[ALKALINITY].middle, 2.5)
        self.assertNotIn(Parameter.NITRATE, sea.holds)
        for salinity, alkalinity, field in ((None, None, "water_salinity"), (19.9, None, "water_salinity"),
                                            (35.0, 6.1, "water_alkalinity")):  # fmt: skip
            with self.subTest(field=field), self.assertRaises((InputError, DomainError)) as caught:
                natural_water(salinity, alkalinity)
            self.assertEqual(caught.exception.field, field)

    def test_a_stored_batch_brings_no_nutrients_and_only_what_is_left(self) -> None:
        state = BatchState(Phase.LEFT_OVER, 18.0, {SALINITY: 35.0, Parameter.TEMPERATURE: 20.0})
        water = stored_water(7, "Batch 7", state)
        self.assertEqual((water.litres, water.batch_id), (18.0, 7))
        self.assertEqual({p: span.middle for p, span in water.holds.items()},
                         {SALINITY: 35.0, Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0})  # fmt: skip
        with self.assertRaisesRegex(InputError, "Batch 8 is planned"):
            stored_water(8, "Batch 8", BatchState(Phase.PLANNED))

    def test_another_system_gives_water_once_its_salinity_is_known(self) -> None:
        with self.assertRaisesRegex(PlanError, "Test the salinity of Beacon first"):
            water_of_system(BEACON, {})


class Doses(unittest.TestCase):
    def test_a_dose_brings_what_its_formula_says(self) -> None:
        # 5.2995 g are 0.05 mol: 100 meq, whatever the volume.
        order = dose_order(BEACON, SODA, MOLAR_SODA / 20, 53.0)
        self.assertAlmostEqual(order.amounts[ALKALINITY], 100.0, places=1)
        self.assertEqual((set(order.amounts), order.ml, order.formula), ({ALKALINITY}, 53.0, "Na2CO3"))

    def test_what_an_additive_is_meant_for(self) -> None:
        for formula, parameter, meant in (
            ("KNO3", Parameter.NITRATE, True), ("KNO3", Parameter.POTASSIUM, False), ("KCl", Parameter.POTASSIUM, True),
            ("Na2CO3", ALKALINITY, True), ("Na2CO3", CALCIUM, False), ("CaCl2·2H2O", CALCIUM, True),
        ):  # fmt: skip
            with self.subTest(formula=formula, parameter=parameter):
                self.assertEqual(by_dose.meant_for(Additive(1, "x", formula), parameter), meant)

    def test_a_target_beyond_any_reef_is_refused_with_the_most(self) -> None:
        by_dose.check_target(CALCIUM, 450.0, {})
        with self.assertRaisesRegex(InputError, "would drop out, or harm") as caught:
            by_dose.check_target(CALCIUM, 900.0, {})
        self.assertIn("at most", caught.exception.accepted)


class Corrections(unittest.TestCase):
    AIMS = (Aim(ALKALINITY, 2.5, 3.0, SODA),)

    def setUp(self) -> None:
        self.plan = plan_correction(self.AIMS, WaterNow(), BEACON.volume_l)
        self.zone = ZoneInfo("Pacific/Auckland")

    def test_each_day_has_its_dose_and_the_next_expects_what_it_left(self) -> None:
        work = by_dose.correction_work(BEACON, self.AIMS, self.plan, NOW, UTC, {})
        doses = [one for one in work if isinstance(one.order, DoseWorkOrder)]
        self.assertEqual([one.day for one in doses], [TODAY + timedelta(days=d + 1) for d in range(len(doses))])
        self.assertEqual(doses[0].order.before, {ALKALINITY: 2.5})
        self.assertEqual(doses[1].order.before[ALKALINITY], self.plan.steps[0].expected[ALKALINITY])
        # The rise of 0.5 meq/L over all the days, in 334.05 L.
        self.assertAlmostEqual(sum(one.order.step for one in doses), 0.5, places=6)
        meq = sum(one.order.amounts[ALKALINITY] for one in doses)
        self.assertAlmostEqual(meq, 0.5 * BEACON.volume_l, places=3)
        self.assertEqual({one.minutes for one in doses}, {5.0})
        parts = len(self.plan.steps[0].portions)
        self.assertEqual(doses[0].name.endswith(f" in {parts} parts"), parts > 1)

    def test_the_evening_test_is_on_the_keepers_own_evening(self) -> None:
        work = by_dose.correction_work(BEACON, self.AIMS, self.plan, NOW, self.zone, {})
        tests = [one for one in work if isinstance(one.order, VisualCheckOrder)]
        for one in tests:
            at = datetime.fromisoformat(one.order.due_at).astimezone(self.zone)
            self.assertEqual((at.date(), at.time()), (one.day, time(20)))
        # 17:40 in UTC is the next morning there: the first dose is a day later still.
        self.assertEqual(work[0].day, TODAY + timedelta(days=2))

    def test_clock_largest_rise_and_what_is_left_behind(self) -> None:
        step = self.plan.steps[0]
        self.assertEqual(by_dose.clock_of(step, step.portions[0].minute), time(9))
        self.assertAlmostEqual(
            by_dose.largest_daily_rise(self.plan, ALKALINITY),
            max(sum(p.rise for p in s.portions) for s in self.plan.steps),
        )
        self.assertEqual(by_dose.largest_daily_rise(self.plan, CALCIUM), 0.0)
        # 0.5 meq/L of soda leave 0.5 mmol/L of sodium: 11.5 mg/L.
        self.assertEqual(by_dose.side_words(self.plan), "It leaves behind: sodium +11.5 mg/L.")
        self.assertEqual(by_dose.side_words(replace(self.plan, side={Parameter.SODIUM: 0.04})), "")


class Variants(unittest.TestCase):
    def test_where_a_comparison_starts(self) -> None:
        # 12 % every 7 days; twice as much is held by the largest, 25 %, no: 24 % every 14; a seventh every day.
        found = {
            name: (round(v.fraction, 4), v.every_days, v.continuous) for name, v in starting_variants(BEACON, KITTIWAKE)
        }
        self.assertEqual(found, {
            "as it stands": (0.12, 7, False), "larger and rarer": (0.24, 14, False),
            "a little every day": (0.0171, 1, True),
        })  # fmt: skip

    def test_what_is_adopted_is_the_routine(self) -> None:
        weekly = adopted_methods(BEACON.methods, Variant(0.2, 14, KITTIWAKE))
        self.assertEqual((weekly.change_fraction, weekly.change_every_days), (0.2, 14))
        pumped = adopted_methods(BEACON.methods, Variant(0.03, 1, KITTIWAKE, True))
        # 3 % a day are 21 % a week; 5 % would be 35, more than the largest change of 25.
        self.assertAlmostEqual(pumped.change_fraction, 0.21)
        self.assertEqual((pumped.change_every_days, pumped.answers["water_changes"]), (7, "continuous"))
        self.assertEqual(adopted_methods(BEACON.methods, Variant(0.05, 1, KITTIWAKE, True)).change_fraction, 0.25)
        back = adopted_methods(pumped, Variant(0.1, 7, KITTIWAKE))
        self.assertNotIn("water_changes", back.answers)
        with self.assertRaises(InputError):
            adopted_methods(BEACON.methods, Variant(0.0, 7, KITTIWAKE))
        self.assertEqual(adopted_words(Variant(0.2, 14, KITTIWAKE)), "20 % every 14 days from now on")

    def test_a_month_costs_what_is_used_at_its_price(self) -> None:
        salt = replace(KITTIWAKE, id=4)
        outcome = WhatIfOutcome({}, {}, 6000.0, {"soda stock": 500.0, "CaCl2·2H2O": 0.0}, 0.0, ())
        prices = prices_of([SODA, CHLORIDE], {4: 5.0}, {1: 8.0})
        # 6 kg of 5 and half a kilogram of 8: 34; calcium of which nothing is used needs no price.
        self.assertEqual(month_cost(Variant(0.1, 7, salt), outcome, prices), "34.00")
        dear = replace(outcome, compounds_g={"calcium stock": 10.0})
        self.assertEqual(month_cost(Variant(0.1, 7, salt), dear, prices), "no price for calcium stock")

    def test_a_correction_at_the_start_is_one_dose_a_day_from_tomorrow(self) -> None:
        starts = [StartCorrection("Na2CO3", 4.0, 3)]
        setting = WhatIfContext(BEACON, ledger(), {}, Plan(), NOW, 56, 60.0, 1.0)
        days = [dose.at - NOW for dose in start_doses(setting, starts)]
        self.assertEqual(days, [timedelta(days=d) for d in (1, 2, 3)])
        self.assertEqual(
            [one.day for one in start_work(BEACON, TODAY, starts)], [date(2026, 11, d) for d in (25, 26, 27)]
        )
        # 0.5 meq/L a day are 167 meq here, 8.85 g: ten times as much is refused, and so is what corrects nothing.
        for one in (StartCorrection("Na2CO3", 90.0, 1), StartCorrection("NaCl", 4.0, 1)):
            with self.subTest(one=one), self.assertRaises(InputError) as caught:
                correction_order(BEACON, one)
            self.assertEqual(caught.exception.field, "correction")
        self.assertEqual(Dosing.AS_NOW, Variant(0.1, 7, KITTIWAKE).dosing)


def pumped(additive: Additive, number: int = 1, *events: ContainerEvent) -> Container:
    return Container(number, additive.name, additive, 2000.0, 20.0, "pump", events=events)


class Pumps(unittest.TestCase):
    def test_a_daily_dose_finds_its_container_and_the_rest_is_left(self) -> None:
        daily = [DailyDose("soda stock", 4.0, {ALKALINITY: 75.0}), DailyDose("by hand", 1.0, {})]
        settings, rest = settings_for([pumped(SODA), pumped(CHLORIDE, 2)], daily, NOW)
        # 4 g of 100 g/L are 40 mL; of calcium nothing is dosed, so its pump is set to nothing.
        self.assertEqual([(c.id, round(e.ml, 6)) for c, e in settings], [(1, 40.0), (2, 0.0)])
        self.assertEqual([dose.additive for dose in rest], ["by hand"])

    def test_by_formula_the_pure_compound_is_meant(self) -> None:
        weak = replace(SODA, purity=0.8)
        ((_, event),), rest = settings_for([pumped(weak)], [DailyDose("Na2CO3", 4.0, {})], NOW)
        # 4 g of pure soda are 5 g of one that is 80 % pure: 50 mL of 100 g/L.
        self.assertAlmostEqual(event.ml, 50.0)
        self.assertEqual(rest, [])

    def test_less_than_a_drop_is_left_to_be_given_otherwise(self) -> None:
        daily = [DailyDose("soda stock", 0.004, {})]
        settings, rest = settings_for([pumped(SODA)], daily, NOW)
        self.assertEqual((settings[0][1].ml, rest), (0.0, daily))

    def test_calcium_keeps_half_an_hour_from_alkalinity(self) -> None:
        self.assertEqual((minute_of(pumped(SODA)), minute_of(pumped(CHLORIDE))), (0, 30))
        soda, chloride = set_event(pumped(SODA), 24.0, NOW), set_event(pumped(CHLORIDE), 24.0, NOW)
        self.assertEqual([(s.minute, s.ml) for s in soda.slots[:2]], [(0, 1.0), (60, 1.0)])
        held = [pumped(SODA, 1, soda), pumped(CHLORIDE, 2, chloride)]
        self.assertEqual(minutes_to_calcium(held, [(held[0], soda.slots)], NOW), 30)
        self.assertIsNone(minutes_to_calcium(held[:1], [(held[0], soda.slots)], NOW))

    def test_a_pump_keeps_the_hours_it_was_set_to(self) -> None:
        night = ContainerEvent(NOW, ContainerKind.SET, 10.0, slots=(Slot(120, 10.0),))
        again = set_event(pumped(SODA, 1, night), 5.0, NOW)
        self.assertEqual([(slot.minute, slot.ml) for slot in again.slots], [(120, 5.0)])

    def test_how_alkalinity_is_dosed_by_the_hour(self) -> None:
        # 1 mL of 100 g/L: 0.1 g, 0.1 / 105.99 * 2000 = 1.887 meq; in 100 L 0.01887 meq/L.
        self.assertAlmostEqual(meq_l_per_ml(pumped(SODA), 100.0), 0.01887, places=5)
        night = ContainerEvent(NOW, ContainerKind.SET, 10.0, slots=(Slot(125, 10.0),))
        (doses,) = alkalinity_by_hour([pumped(SODA, 1, night)], 100.0, NOW, 18, 0.3)
        self.assertAlmostEqual(doses.meq_l[2], 0.1887, places=4)
        by_hand = alkalinity_by_hour([pumped(SODA)], 100.0, NOW, 18, 0.3)
        self.assertEqual(by_hand, [DayDoses("Na2CO3", tuple(0.3 if hour == 18 else 0.0 for hour in range(24)))])
        self.assertEqual(alkalinity_by_hour([], 100.0, NOW, 18, 0.3), [])

    def test_a_level_above_the_last_is_a_slip_or_a_refill(self) -> None:
        full = ContainerEvent(NOW, ContainerKind.LEVEL, 1000.0)
        held = pumped(SODA, 1, full)
        # Its level is read to 20 mL: four times that is still taken.
        self.assertIsNone(above_last(held, 1080.0))
        self.assertEqual(above_last(held, 1080.5), full)
        self.assertIsNone(above_last(pumped(SODA), 1500.0))

    def test_a_calibration_is_due_every_ninety_days(self) -> None:
        held = pumped(SODA, 1, ContainerEvent(NOW - timedelta(days=100), ContainerKind.CALIBRATED, 50.0))
        self.assertEqual(calibration_late_days(held, NOW), 10)
        self.assertEqual(calibration_late_days(held, NOW - timedelta(days=10)), 0)
        self.assertEqual(calibration_late_days(pumped(SODA), NOW), 0)


if __name__ == "__main__":
    unittest.main()
