"""Gear with life: hours, litres, uses, days and readings; spares, flow, when a new one is wanted. Sums by hand."""

import unittest
from dataclasses import replace
from datetime import UTC, datetime, time, timedelta

from salttide.core.basics.errors import InputError
from salttide.core.ledger.entries import Care
from salttide.core.upkeep.care import CareChoice, rules_of
from salttide.core.upkeep.due import Rule, done_of, first_due
from salttide.core.upkeep.gear import (
    NO_DATA,
    LifeBy,
    PartKept,
    check_part,
    life_days,
    part_kinds,
    parts_of,
    with_spares,
)
from salttide.core.upkeep.task import tasks
from tests.core.cases import BEACON, EELGRASS, SKIFF, TODAY, ZONE

GEAR = ("steriliser", "return_pump", "purifier", "sock", "ph_probe", "powerhead", "heater")
SYSTEM = replace(BEACON, gear=GEAR)


def ago(days):
    return TODAY - timedelta(days=days)


def moment(days):
    return datetime.combine(ago(days), time(17), UTC)


def done(task, days_ago, found=None, **more):
    return Care(moment(days_ago), task, 10.0, found=found or {}, **more)


def part(key, *care, kept=None, placed=None, system=SYSTEM, choices=None):
    entries = sorted(care, key=lambda entry: entry.at)
    told = {key: kept} if kept else {}
    rules = rules_of(system, choices or {}, care=entries, parts=told)
    found = parts_of(system, rules, entries, told, placed or {}, {}, TODAY, ZONE)
    return next(one for one in found if one.kind.key == key)


def lives(one):
    return {life.by: (life.used, life.most, life.unit) for life in one.lives}


class WhatIsUsedUp(unittest.TestCase):
    def test_hours_at_so_many_a_day(self):
        # 100 days at 24 h of 8760; at 10 h a day of 9000.
        lamp = part("lamp", done("steriliser_lamp", 100))
        self.assertEqual(lives(lamp), {LifeBy.HOURS: (2400, 8760, "h")})
        shorter = part("lamp", done("steriliser_lamp", 100), kept=PartKept(hours_per_day=10, most_hours=9000))
        self.assertEqual(lives(shorter), {LifeBy.HOURS: (1000, 9000, "h")})
        self.assertAlmostEqual(shorter.lives[0].left, 8 / 9)

    def test_uses_since_the_last_new_one(self):
        washes = [done("filter_sock", days) for days in (50, 46, 38, 34, 30)]
        socks = part("sock", done("sock_retire", 40), *washes, done("filter_sock", 26, skipped=True, reason="no"))
        # Three washes since, of 40; a skipped one is none. 40 days of its 180.
        self.assertEqual(lives(socks), {LifeBy.USES: (3, 40, "uses"), LifeBy.DAYS: (40, 180, "days")})

    def test_litres_since_the_last_new_one(self):
        readings = [
            done("purifier_reading", days, {"litres_made": litres}) for days, litres in ((70, 500), (30, 60), (9, 55))
        ]
        stage = part("prefilters", done("purifier_prefilter", 60), *readings)
        self.assertEqual(lives(stage)[LifeBy.LITRES], (115, 4000, "L"))

    def test_a_reading_against_its_limit_and_what_uses_it_up_most_first(self):
        reading = done("purifier_reading", 5, {"solids_out": 0.9})
        resin = part("resin", done("purifier_resin", 18), reading)
        self.assertEqual([life.by for life in resin.lives], [LifeBy.READING, LifeBy.DAYS])
        self.assertEqual(resin.lives[0].words, "0.9 of 1.0 mg/L")
        # A reading from before the new resin says nothing of it.
        self.assertNotIn(LifeBy.READING, lives(part("resin", done("purifier_resin", 3), reading)))

    def test_a_membrane_by_what_comes_through(self):
        reading = done("purifier_reading", 5, {"solids_in": 320.0, "solids_membrane": 16.0})
        # 16 of 320 are 5 %, of the 10 % that may come through: half is left.
        membrane = part("membrane", reading)
        self.assertEqual(lives(membrane)[LifeBy.READING], (5.0, 10.0, "% come through"))
        self.assertAlmostEqual(membrane.lives[0].left, 0.5)

    def test_days_since_it_was_put_in_where_it_is_only_serviced(self):
        probe = part("ph_probe", done("probe_ph", 20), kept=PartKept(since=ago(109)))
        self.assertEqual(lives(probe), {LifeBy.DAYS: (109, 545, "days")})
        self.assertEqual(probe.changes_on, ago(109) + timedelta(days=545))
        self.assertEqual(part("ph_probe", done("probe_ph", 20)).lives, ())

    def test_never_less_than_nothing_is_left(self):
        self.assertEqual(part("lamp", done("steriliser_lamp", 900)).lives[0].left, 0.0)


class WhatComesNext(unittest.TestCase):
    def test_hours_that_the_keeper_told_set_the_pace_of_the_rota(self):
        self.assertIsNone(life_days("steriliser_lamp", {}))
        # 9000 h at 12 h a day are 750 days, more than a rule can have; at 16 h 562.5.
        self.assertEqual(life_days("steriliser_lamp", {"lamp": PartKept(hours_per_day=12, most_hours=9000)}), 730)
        lamp = part("lamp", done("steriliser_lamp", 100), kept=PartKept(hours_per_day=16, most_hours=9000))
        self.assertEqual(lamp.next_on, ago(100) + timedelta(days=562))

    def test_what_the_keeper_chose_for_the_task_goes_before(self):
        kept = PartKept(hours_per_day=16)
        lamp = part(
            "lamp", done("steriliser_lamp", 100), kept=kept, choices={"steriliser_lamp": CareChoice(every_days=200)}
        )
        self.assertEqual(lamp.next_on, ago(100) + timedelta(days=200))

    def test_where_the_rota_placed_it_else_when_it_is_due_and_never_in_the_past(self):
        there = TODAY + timedelta(days=4)
        self.assertEqual(part("lamp", done("steriliser_lamp", 363), placed={"steriliser_lamp": there}).next_on, there)
        self.assertEqual(part("lamp", done("steriliser_lamp", 400)).next_on, TODAY)
        off = part("lamp", choices={"steriliser_lamp": CareChoice(off=True)})
        self.assertEqual((off.next_on, off.next_why), (None, "off the rota"))

    def test_what_will_be_wanted_within_a_month_and_is_not_there_is_to_be_bought(self):
        soon, later = done("steriliser_lamp", 340), done("steriliser_lamp", 300)
        self.assertTrue(part("lamp", soon).to_buy(TODAY))
        self.assertFalse(part("lamp", later).to_buy(TODAY))
        self.assertFalse(part("lamp", soon, kept=PartKept(spares=1, counted_at=moment(5))).to_buy(TODAY))
        # A part that is only serviced is wanted at the end of its days.
        heater = PartKept(since=ago(1080))
        self.assertTrue(part("heater", done("heater_check", 3), kept=heater).to_buy(TODAY))


class Spares(unittest.TestCase):
    def test_each_change_since_they_were_counted_takes_one(self):
        kept = PartKept(spares=3, counted_at=moment(200))
        used = part("lamp", done("steriliser_lamp", 220), done("steriliser_lamp", 150), kept=kept)
        self.assertEqual(used.spares, 2)
        gone = part("lamp", *(done("steriliser_lamp", days) for days in (10, 20, 30, 40)), kept=kept)
        self.assertEqual(gone.spares, 0)
        self.assertIsNone(part("lamp").spares)

    def test_a_service_takes_none(self):
        kept = PartKept(spares=1, counted_at=moment(100))
        self.assertEqual(part("ph_probe", done("probe_ph", 3), kept=kept).spares, 1)

    def test_counted_and_changed_on_one_day_goes_by_the_hour(self):
        before, after = (PartKept(spares=3, counted_at=moment(10) + timedelta(hours=by)) for by in (-1, 1))
        self.assertEqual(part("lamp", done("steriliser_lamp", 10), kept=before).spares, 2)
        self.assertEqual(part("lamp", done("steriliser_lamp", 10), kept=after).spares, 3)

    def test_counted_anew_from_now_or_not_counted_any_more(self):
        before = PartKept(spares=2, counted_at=moment(50))
        self.assertEqual(with_spares(before, 5, moment(0)).counted_at, moment(0))
        self.assertEqual(with_spares(before, None, moment(0)), NO_DATA)


class Flow(unittest.TestCase):
    STRIPPED = done("return_pump", 70, {"flow_before": 1900.0, "flow_after": 2400.0})

    def test_what_is_lost_since_the_last_service(self):
        now = done("flow_check", 4, {"flow_now": 1800.0})
        fall = part("return_pump", self.STRIPPED, done("flow_check", 80, {"flow_now": 900.0}), now).fall
        # 1800 of 2400 are three quarters.
        self.assertAlmostEqual(fall.percent, 25.0)
        self.assertEqual((fall.after, fall.now, fall.day), (2400, 1800, ago(4)))
        self.assertIsNone(part("return_pump", self.STRIPPED).fall)
        self.assertIsNone(part("return_pump", now).fall)

    def test_powerheads_tell_it_when_they_are_stripped(self):
        first = done("powerheads", 180, {"flow_before": 5000.0, "flow_after": 6000.0})
        second = done("powerheads", 90, {"flow_before": 5100.0, "flow_after": 5900.0})
        fall = part("powerhead", first, second).fall
        # 5100 of the 6000 after the service before.
        self.assertAlmostEqual(fall.percent, 15.0)
        self.assertIsNone(part("powerhead", first).fall)

    def test_a_fifth_lost_asks_for_the_strip_at_once(self):
        rule = Rule(tasks()["return_pump"], 90, 35)

        def due(now):
            care = [self.STRIPPED, done("flow_check", 4, {"flow_now": now})]
            return first_due(rule, done_of(care, UTC), {}, TODAY)

        # 20 % of 2400 are 480.
        self.assertEqual(due(1925.0).day, ago(70) + timedelta(days=90))
        self.assertEqual(due(1920.0).day, ago(4))
        self.assertEqual(due(1920.0).why, "the flow has fallen by 20 % since it was last done")


class Kinds(unittest.TestCase):
    def test_every_kind_names_a_task_that_suits_the_same_systems_and_has_a_way_to_end(self):
        for kind in part_kinds().values():
            with self.subTest(kind.key):
                task = tasks()[kind.task]
                self.assertLessEqual(set(kind.gear), set(task.gear))
                self.assertTrue(kind.changed or kind.most_days)

    def test_a_system_has_the_parts_of_its_gear_and_panels(self):
        self.assertNotIn("blade", {one.kind.key for one in parts_of(EELGRASS, [], [], {}, {}, {}, TODAY, ZONE)})
        self.assertIn("blade", {one.kind.key for one in parts_of(SKIFF, [], [], {}, {}, {}, TODAY, ZONE)})
        bare = replace(SYSTEM, gear=(), clean_panels=())
        self.assertEqual(parts_of(bare, [], [], {}, {}, {}, TODAY, ZONE), [])

    def test_what_cannot_be_is_refused_at_its_field(self):
        wrong = {
            "since": TODAY + timedelta(days=1), "hours_per_day": 25, "most_hours": 0, "most_days": 8000, "spares": -1,
        }  # fmt: skip
        for field, value in wrong.items():
            with self.subTest(field), self.assertRaises(InputError) as refused:
                check_part(PartKept(**{field: value}), TODAY)
            self.assertEqual(refused.exception.field, field)
        self.assertEqual(check_part(NO_DATA, TODAY), NO_DATA)
