"""The RO/DI unit by published temperature corrections and by sums done by hand; its stages, faults, costs and start.

Expected flows: a membrane of 284 L a day is 11.83 L/h. At 10 °C its makers' tables divide by 1.711, at 30 °C by 0.863.
"""

import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.ledger.entries import Care
from salttide.core.planning.fresh_water import (
    RoUnit,
    Supply,
    UnitReading,
    UnitState,
    better_stages,
    check_unit,
    cost_of_100_l,
    readings_of,
    unit_state,
)
from salttide.core.planning.fresh_water_need import Start, WaterNeed, needed_a_day, start_for, weekly_need_l
from salttide.core.science.membrane import (
    carbon_litres,
    membrane_flow_l_h,
    rejection_percent,
    resin_litres,
    resin_load_meq_l,
    temperature_factor,
)
from tests.core.cases import NOW, ZONE
from tests.core.tables import TableTest

TODAY = date(2026, 11, 24)
UNIT = RoUnit(supply=Supply.CHLORINE)


def weeks(count, after=8.0, out=0.0, made=60.0, fall=0.0):
    """Weekly readings up to today: 320 mg/L in; `fall` more passes the membrane each week."""
    return [
        UnitReading(TODAY - timedelta(days=7 * back), made, 3 * made, 320.0, after + fall * (count - 1 - back), out)
        for back in range(count - 1, -1, -1)
    ]


def state(readings=None, unit=UNIT, planned=0.0, **changed) -> UnitState:
    days = {f"purifier_{key}": day for key, day in changed.items()}
    return unit_state(unit, weeks(12) if readings is None else readings, days, TODAY, planned)


def stage(found, key):
    return next(one for one in found.stages if one.key == key)


class Membrane(TableTest):
    def test_published_and_hand_derived(self):
        self.check([
            (temperature_factor, (10,), 1 / 1.711, 0.002),
            (temperature_factor, (15,), 1 / 1.422, 0.002),
            (temperature_factor, (20,), 1 / 1.189, 0.002),
            (temperature_factor, (25,), 1, 1e-12),
            (temperature_factor, (30,), 1 / 0.863, 0.003),
            (membrane_flow_l_h, (284, 4.1, 4.1, 25), 284 / 24, 1e-9),
            (membrane_flow_l_h, (284, 4.1, 2.05, 25), 142 / 24, 1e-9),  # without osmosis flow goes with pressure
            # 1000 mg/L are 0.7 bar: (3 - 0.7) / (4 - 0.7)
            (membrane_flow_l_h, (240, 4, 3, 25, 1000), 10 * 2.3 / 3.3, 1e-9),
            (rejection_percent, (320, 8), 97.5, 1e-9),
            (resin_load_meq_l, (5.844, 0), 0.1, 1e-9),
            (resin_load_meq_l, (0, 4.401), 0.1, 1e-9),
            (resin_litres, (0.75, 0.55, resin_load_meq_l(5.844, 0)), 0.75 * 0.55 * 1000 / 0.1, 1e-6),
            (carbon_litres, (20_000, 2, True), 10_000, 0),
        ])  # fmt: skip

    def test_out_of_range(self):
        self.refused([
            (temperature_factor, (0,), DomainError),
            (membrane_flow_l_h, (284, 4.1, 0.1, 25), DomainError),
            (membrane_flow_l_h, (284, 4.1, 1.0, 25, 2000), DomainError),  # no more than the osmosis of 1.4 bar
            (rejection_percent, (320, 400), DomainError),
        ])  # fmt: skip


class Stages(unittest.TestCase):
    def test_readings_come_from_the_record(self):
        found = {
            "litres_made": 60.0,
            "litres_wasted": 180.0,
            "solids_in": 320.0,
            "solids_membrane": 8.0,
            "solids_out": 0.1,
        }
        care = [Care(NOW, "purifier_reading", 4, found=found), Care(NOW, "purifier_reading", 4, found={}, skipped=True)]
        (reading,) = readings_of(care, ZONE)
        self.assertEqual((reading.made_l, reading.rejection), (60.0, 97.5))

    def test_each_stage_wears_by_its_own_water(self):
        # Changed four weeks ago: four readings of 60 L since; feed water is four times that.
        found = state(resin=TODAY - timedelta(days=28), prefilter=TODAY - timedelta(days=28))
        self.assertEqual((stage(found, "resin").used_l, stage(found, "sediment").used_l), (240.0, 960.0))
        # 60 L a week: 8/58.44 + 10/44.01 = 0.3641 meq/L; 0.75 x 0.55 / 0.3641 = 1133 L, 893 left at 8.571 a day:
        # 104 days.
        self.assertAlmostEqual(float(stage(found, "resin").lasts), 1133, delta=1)
        self.assertEqual(stage(found, "resin").due, TODAY + timedelta(days=104))
        self.assertLess(stage(found, "resin").early, stage(found, "resin").due)
        # Chloramine wears the carbon four times as fast; separate beds: the anion bed takes the carbon dioxide first.
        lime = state(unit=replace(UNIT, supply=Supply.CHLORAMINE))
        self.assertEqual(float(stage(lime, "carbon").lasts), 5000.0)
        separate = state(unit=replace(UNIT, separate=True))
        self.assertAlmostEqual(float(stage(separate, "resin").lasts), 1133 * 0.9 / 0.55, delta=2)

    def test_separate_beds_go_one_after_the_other(self):
        # 8 mg/L after the membrane: 8 / 58.44 = 0.1369; with 10 mg/L CO2 / 44.01 = 0.2272: 0.3641 meq/L.
        # Anion 0.75 x 0.9 x 1000 / 0.3641 = 1854 L, cation 0.75 x 1.8 x 1000 / 0.1369 = 9861 L.
        beds = state(unit=replace(UNIT, separate=True)).beds
        self.assertEqual([one.key for one in beds], ["anion", "cation"])
        self.assertAlmostEqual(float(beds[0].lasts), 1854, delta=3)
        self.assertAlmostEqual(float(beds[1].lasts), 9861, delta=8)
        # Without carbon dioxide the anion bed of half the capacity goes first all the same; both by the salts.
        aired = state(unit=replace(UNIT, separate=True, carbon_dioxide_mg_l=0.0)).beds
        self.assertAlmostEqual(float(aired[1].lasts) / float(aired[0].lasts), 2.0)
        self.assertEqual(state().beds, ())

    def test_pressure_that_the_prefilters_take_and_a_first_litre_that_crept(self):
        last = weeks(12)[-1]
        for change, key, told in (
            ({"pressure_bar": 3.5, "behind_bar": 2.8}, "prefilters_clogged", True),
            ({"pressure_bar": 3.5, "behind_bar": 2.9}, "prefilters_clogged", False),
            ({"pressure_bar": 3.5, "behind_bar": 3.9}, "prefilters_clogged", False),
            # Three times 8 is 24, and 10 more is 18: from 24 on.
            ({"solids_first": 24.1}, "solids_creep", True),
            ({"solids_first": 23.9}, "solids_creep", False),
            ({"solids_first": 40.0, "solids_after": None}, "solids_creep", False),
        ):
            with self.subTest(**change):
                readings = [*weeks(12)[:-1], replace(last, **change)]
                self.assertEqual(key in state(readings).diagnoses, told)
        # Three times 2 is 6, but ten more than 2 is 12.
        readings = [*weeks(12)[:-1], replace(last, solids_after=2.0, solids_first=11.0)]
        self.assertNotIn("solids_creep", state(readings).diagnoses)

    def test_what_is_coming_counts_where_it_is_more(self):
        busy = state(planned=20.0, resin=TODAY - timedelta(days=28))
        self.assertEqual(busy.l_day, 20.0)
        self.assertAlmostEqual(state().l_day, 60 / 7)

    def test_a_membrane_is_due_where_its_line_meets_ninety_percent(self):
        # 2 mg/L more each week: 0.625 % of 320; 12 weeks from 8: at 30 now, 90.6 %; 2 mg/L more is one week.
        found = stage(state(weeks(12, fall=2.0)), "membrane")
        self.assertAlmostEqual((found.due - TODAY).days, 7, delta=1)
        self.assertEqual((stage(state(), "membrane").due, stage(state(), "membrane").steady), (None, True))
        worn = state(weeks(12, after=40.0))
        self.assertEqual(stage(worn, "membrane").due, TODAY)
        self.assertIn("rejection_low", worn.diagnoses)

    def test_nothing_read_yet_is_no_date(self):
        found = state([])
        self.assertEqual({one.due for one in found.stages if one.key in ("membrane", "resin")}, {None})
        self.assertEqual(found.waste, 3.0)


class Faults(unittest.TestCase):
    def test_each_has_its_cause(self):
        self.assertEqual(state().diagnoses, ())
        slow = replace(UNIT, measured_l_h=3.0)
        for expected, found in (
            ("flow_low", state(unit=slow)),
            ("resin_early", state(weeks(4, out=2.0))),
            ("resin_used_up", state(weeks(40, out=2.0))),
            ("resin_past", state(weeks(40))),
            ("supply_unknown", state(unit=RoUnit())),
            ("chloramine_one_block", state(unit=replace(UNIT, supply=Supply.CHLORAMINE))),
        ):
            with self.subTest(expected):
                self.assertIn(expected, found.diagnoses)

    def test_impossible_units_are_refused_at_their_field(self):
        wrong = {
            "rated_l_day": RoUnit(rated_l_day=1), "feed": RoUnit(feed_c=60),
            "stored_l": RoUnit(store_l=10, stored_l=20), "carbon_blocks": RoUnit(carbon_blocks=9),
            "measured_l_h": RoUnit(measured_l_h=0.0),
        }  # fmt: skip
        for field, unit in wrong.items():
            with self.subTest(field), self.assertRaises(InputError) as raised:
                check_unit(unit)
            self.assertEqual(raised.exception.field, field)


class Money(unittest.TestCase):
    def test_a_hundred_litres_by_the_life_of_each_stage(self):
        # 10 for 10 000 L of feed water, a quarter of it made: 0.40; 20 for 1133 L: 1.77; 400 L of water at 4 the
        # 1000: 1.60.
        unit = replace(UNIT, sediment_price=10.0, resin_price=20.0, water_price=4.0)
        cost = cost_of_100_l(state(unit=unit))
        self.assertAlmostEqual(dict(cost.parts)["sediment"], 0.40)
        self.assertAlmostEqual(dict(cost.parts)["resin"], 2000 / 1133, delta=0.01)
        self.assertAlmostEqual(dict(cost.parts)["water"], 1.60)
        self.assertEqual(cost.missing, ("carbon", "membrane"))

    def test_what_a_better_stage_would_change(self):
        # At 97.5 % a membrane of 98 changes little; at 95 % 6.4 in place of 16 mg/L: 0.501 against 0.337 meq/L.
        self.assertEqual([one.key for one in better_stages(state())], ["carbon_dioxide"])
        worn = better_stages(state(weeks(12, after=16.0)))
        self.assertAlmostEqual(
            worn[0].then_l / worn[0].now_l, (16 / 58.44 + 10 / 44.01) / (6.4 / 58.44 + 10 / 44.01), places=3
        )


class Starting(unittest.TestCase):
    def need(self, day, litres):
        return WaterNeed(TODAY + timedelta(days=day), litres, "a change")

    def start(self, *needs, **unit) -> Start | None:
        found = state(unit=replace(UNIT, measured_l_h=10.0, **unit))
        return start_for(found, needs, NOW, ZONE)

    def test_it_is_ready_on_the_evening_before(self):
        # 90 L at 10 L/h: nine hours before 18:00 of the day before.
        found = self.start(self.need(4, 90.0))
        assert found is not None
        self.assertEqual(found.at, datetime(2026, 11, 27, 9, tzinfo=ZONE))
        self.assertEqual((found.hours, found.litres, found.fits, found.late), (9.0, 90.0, True, False))

    def test_the_store_is_used_first_and_may_be_too_small(self):
        found = self.start(self.need(3, 30.0), self.need(5, 30.0), store_l=50.0, stored_l=40.0)
        assert found is not None
        self.assertEqual((found.litres, found.for_day, found.fits), (20.0, TODAY + timedelta(days=5), True))
        self.assertIsNone(self.start(self.need(3, 30.0), store_l=50.0, stored_l=40.0))
        small = self.start(self.need(3, 80.0), store_l=50.0, stored_l=10.0)
        assert small is not None
        self.assertFalse(small.fits)

    def test_what_is_late_starts_now(self):
        found = self.start(self.need(1, 90.0))
        assert found is not None
        self.assertEqual((found.at, found.late), (NOW, True))

    def test_litres_of_the_weeks(self):
        needs = [self.need(3, 30.0), self.need(5, 40.0)]
        self.assertEqual(needed_a_day(needs, 14), 5.0)
        self.assertAlmostEqual(weekly_need_l(state(), needs, 14), 140.0)  # 35 L, and three times that wasted


if __name__ == "__main__":
    unittest.main()
