"""What is said of a change beside its numbers: what is switched off, tolerances passed, what the sump holds."""

import unittest
from dataclasses import dataclass, replace

from salttide.core.ledger.balance import Present
from salttide.core.planning.change import plan_change
from salttide.core.planning.change_step import ChangeStepKind
from salttide.core.planning.change_words import (
    known_from,
    limits_passed,
    mark_words,
    plan_words,
    row_remark,
    sump_warnings,
    switched_off,
)
from salttide.core.planning.plumbing import Drain, tank_side
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.system import GearPlace, Placed
from salttide.core.system.volume import Sump as SumpBox
from tests.core.cases import BEACON, TODAY, WATER, ZONE, reading, request

S, CA = Parameter.SALINITY, Parameter.CALCIUM
SURFACE_CM2 = 117.6 * 57.6
"""Of Beacon's display."""


def plan(system=BEACON, **changes):
    return plan_change(system, WATER, request(**changes), {}, TODAY)


class Summary(unittest.TestCase):
    def test_one_step_says_nothing_of_what_is_left(self):
        self.assertNotIn("of the old water", plan_words(BEACON, plan(), {}))

    def test_several_steps_say_what_is_left_and_whose_limit_counts(self):
        found = plan(salinity=36.6, fraction=0.2)
        words = plan_words(BEACON, found, {})
        self.assertGreater(len(found.steps), 1)
        left = 1.0
        for step in found.steps:
            left *= 1 - step.fraction
        self.assertIn(f"{round(100 * left)} % of the old water is left", words)


class Off(unittest.TestCase):
    def gear(self, cover_cm, litres, where=GearPlace.DISPLAY):
        bare = replace(BEACON.geometry, displaced_l=0.0, sand_bed_cm=0.0)
        system = replace(BEACON, geometry=bare, placed={**BEACON.placed, "powerhead": Placed(where, cover_cm)})
        step = replace(plan().steps[0], volume_l=litres)
        found = {one.kind: one for one in switched_off(system, replace(plan(), steps=(step,)))}
        return found["powerhead"].why

    def test_what_the_falling_level_uncovers_is_said_with_its_depth(self):
        # 9 cm of 6773.8 cm2 are 60.96 L.
        self.assertIn("9 cm", self.gear(9.0, 9 * SURFACE_CM2 / 1000 + 0.1))
        self.assertNotIn("9 cm", self.gear(9.0, 9 * SURFACE_CM2 / 1000 - 0.1))

    def test_only_what_hangs_in_the_display_at_a_known_depth(self):
        self.assertNotIn("cm", self.gear(None, 100.0))
        self.assertNotIn("9 cm", self.gear(9.0, 100.0, GearPlace.SUMP))

    def test_gear_comes_in_the_order_of_switching_off(self):
        kinds = [one.kind for one in switched_off(BEACON, plan())]
        self.assertLess(kinds.index("heater"), kinds.index("return_pump"), "what burns when bare goes first")
        self.assertNotIn("sock", kinds, "nothing to switch off")


@dataclass(frozen=True)
class Fish:
    """An animal as far as its tolerances count."""

    name: str
    tolerances: dict
    count: int = 1


class Limits(unittest.TestCase):
    ANIMALS = (Fish("wrasse", {S: Span(30, 36)}), Fish("goby", {S: Span(32, 38)}), Fish("none", {S: Span(34, 35)}, 0))

    def passed(self, low, high):
        system = replace(BEACON, animals=self.ANIMALS)
        return [(one.value, one.words, one.passed) for one in limits_passed(system, S, Span(low, high))]

    def test_the_tightest_end_of_those_that_are_there(self):
        (low, said_low, _), (high, said_high, _) = self.passed(35, 35)
        self.assertEqual((low, high), (32, 36))
        self.assertIn("goby", said_low)
        self.assertIn("wrasse", said_high)

    def test_at_the_end_it_is_not_passed(self):
        self.assertEqual([each[2] for each in self.passed(32, 36)], [False, False])
        self.assertEqual([each[2] for each in self.passed(31.9, 36.1)], [True, True])

    def test_none_has_a_tolerance(self):
        self.assertEqual(limits_passed(BEACON, Parameter.ORP, Span(300, 300)), [])


class Remarks(unittest.TestCase):
    def test_where_a_value_comes_from(self):
        last = reading(CA, 410.0, 3, "drop kit")
        self.assertTrue(known_from(Present(410.0, 5.0, last, 0), ZONE).startswith("drop kit, "))
        self.assertTrue(known_from(Present(405.0, 5.0, last, 2), ZONE).startswith("estimated from "))

    def test_what_is_to_be_known_of_a_row(self):
        step = plan().steps[0]
        self.assertIn("room", row_remark(step, Parameter.PH))
        self.assertIn("heater", row_remark(step, Parameter.TEMPERATURE))
        unknown = replace(step, after={**step.after, CA: None})
        self.assertIn("label", row_remark(unknown, CA))
        self.assertEqual(row_remark(step, CA), "")
        self.assertEqual(row_remark(replace(unknown, kind=ChangeStepKind.DOSE), CA), "")


class Sump(unittest.TestCase):
    def warned(self, rim_cm):
        geometry = replace(BEACON.geometry, displaced_l=0.0, sand_bed_cm=0.0, sump=SumpBox(60, 40, 30))
        service = Plumbing(fall_cm=2.0, outlet_cm=10.0, rim_cm=rim_cm)
        return sump_warnings(tank_side(replace(BEACON, geometry=geometry), service, 40.0, Drain()))

    def test_it_is_said_by_how_much_it_overflows(self):
        # 2 cm of 6773.8 cm2 are 13.5 L, 10 cm 67.7 L; each cm between level and rim is 2.4 L.
        self.assertEqual(self.warned(60.0), [])
        (broken,) = self.warned(40.0)
        self.assertIn("siphon break", broken)
        self.assertIn("43.7 L", broken)
        back, broken = self.warned(32.0)
        self.assertIn("8.7 L", back)
        self.assertIn("62.9 L", broken)

    def test_without_measures_nothing_is_said(self):
        self.assertEqual(sump_warnings(tank_side(BEACON, Plumbing(), 40.0, Drain())), [])

    def test_rock_makes_the_mark_an_estimate(self):
        bare = replace(BEACON, geometry=replace(BEACON.geometry, displaced_l=0.0))
        marks = [mark_words(tank_side(system, Plumbing(), 40.0, Drain())) for system in (BEACON, bare)]
        self.assertIn("estimate", marks[0])
        self.assertNotIn("estimate", marks[1])


if __name__ == "__main__":
    unittest.main()
