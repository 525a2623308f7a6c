"""A round: its working order, what is off, what runs beside a soak, and how a measured time is shared."""

import unittest
from dataclasses import replace
from datetime import timedelta

from salttide.core.upkeep.rota import Occurrence
from salttide.core.upkeep.rounds import round_of, shared_minutes
from salttide.core.upkeep.task import RoundPart, own_kind, tasks
from tests.core.cases import BEACON, SKIFF, TODAY


def due(key, minutes=None, kind=None):
    kind = kind or tasks()[key]
    minutes = kind.minutes if minutes is None else minutes
    return Occurrence(kind.key, kind.name, TODAY, TODAY, TODAY, TODAY + timedelta(days=1), minutes, "due", kind=kind)


def order(*keys, system=BEACON):
    return [each.item.task for each in round_of(system, [due(key) for key in keys]).tasks]


class Order(unittest.TestCase):
    def test_what_is_siphoned_comes_out_before_the_change_and_counts_towards_it(self):
        self.assertEqual(order("water_change", "siphon", "scrape_front"), ["scrape_front", "siphon", "water_change"])
        change = round_of(BEACON, [due("water_change"), due("siphon")]).tasks[-1]
        self.assertIn("counts towards its litres", change.note)
        self.assertEqual(round_of(BEACON, [due("water_change")]).tasks[0].note, "")

    def test_creep_panels_sand_skimmer_filter_tools(self):
        # Look first; a crust before the panels, panels before the sand, the filter after the cloud, tools last.
        self.assertEqual(
            order("tools", "filter_sock", "skimmer_cup", "siphon", "scrape_front", "salt_creep", "rock_check"),
            ["rock_check", "salt_creep", "scrape_front", "siphon", "skimmer_cup", "filter_sock", "tools"],
        )

    def test_tests_come_before_the_water_is_stirred(self):
        self.assertEqual(order("stir_sand", "probe_ph"), ["probe_ph", "stir_sand"])

    def test_a_task_of_ones_own_stands_where_it_belongs(self):
        own = due("", kind=own_kind(1, "Polish the lid", 14, 5, phase=RoundPart.CREEP))
        found = round_of(BEACON, [due("siphon"), own, due("rock_check")])
        self.assertEqual([each.item.task for each in found.tasks], ["rock_check", "own_1", "siphon"])

    def test_a_planned_dose_comes_first(self):
        dose = Occurrence(
            "dose", "Dose 10 g soda ash", TODAY, TODAY, TODAY, TODAY, 5, "planned", step_id=3, pinned=True
        )
        self.assertEqual(round_of(BEACON, [due("rock_check"), dose]).tasks[0].item, dose)


class Time(unittest.TestCase):
    def test_hands_do_one_thing_after_the_other_and_a_soak_runs_beside_it(self):
        # Skimmer body 40 min and 45 left alone, powerheads 35 and 40: of one part, the longer soak begins. Hands are
        # free at 40 and 75; the soaks are over at 85 and 115.
        found = round_of(BEACON, [due("powerheads"), due("skimmer_body")])
        body, heads = found.tasks
        self.assertEqual((body.item.task, body.starts, body.hands_free, body.over), ("skimmer_body", 0, 40, 85))
        self.assertEqual((heads.starts, heads.hands_free, heads.over), (40, 75, 115))
        self.assertEqual((found.hands, found.elapsed), (75, 115))
        self.assertEqual([each.item.task for each in found.beside(body)], ["powerheads"])
        self.assertEqual(found.beside(heads), [])

    def test_without_a_soak_it_is_over_with_the_hands(self):
        found = round_of(BEACON, [due("siphon", 12), due("tools", 4)])
        self.assertEqual((found.hands, found.elapsed), (16, 16))

    def test_nothing_to_do(self):
        found = round_of(BEACON, [])
        self.assertEqual((found.tasks, found.hands, found.elapsed, found.off), ((), 0, 0, ()))

    def test_a_measured_time_is_shared_by_what_was_expected(self):
        # 80 minutes for pieces of 12, 4 and 24: twice as long as expected, each of them.
        self.assertEqual(shared_minutes([12, 4, 24], 80), [24, 8, 48])
        self.assertEqual(shared_minutes([0, 0], 10), [5, 5])


class Off(unittest.TestCase):
    def test_the_heater_first_and_only_what_this_system_has(self):
        self.assertEqual(
            round_of(BEACON, [due("scrape_front"), due("skimmer_cup")]).off,
            ("heater", "skimmer", "return_pump", "powerhead"),
        )
        self.assertEqual(round_of(SKIFF, [due("scrape_front")]).off, ("heater", "powerhead"))
        self.assertEqual(round_of(replace(SKIFF, gear=()), [due("scrape_front")]).off, ())

    def test_each_caution_once(self):
        found = round_of(BEACON, [due("scrape_front"), due("scrape_back"), due("siphon")])
        self.assertEqual(found.cautions, ("electricity", "blades", "siphon", "slippery"))
