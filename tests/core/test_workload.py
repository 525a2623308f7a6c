"""Minutes needed against minutes given, by hand."""

import unittest
from typing import ClassVar

from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.task import Missed, tasks
from salttide.core.upkeep.workload import workload


def rule(task: str, every: int, minutes: float) -> Rule:
    return Rule(tasks()[task], every, minutes)


class Needed(unittest.TestCase):
    """A reservoir (a danger when left), a change and a siphon (owed), and tools (can wait), all once a week."""

    rules: ClassVar = {
        1: [rule("tools", 7, 4.0), rule("water_change", 7, 50.0), rule("reservoir", 7, 6.0)],
        2: [rule("siphon", 14, 24.0)],
    }

    def test_the_minutes_of_a_week(self) -> None:
        found = workload(self.rules, [40.0] * 5 + [120.0] * 2)
        # 4 + 50 + 6, and 24 every second week: 72 of 440.
        self.assertEqual((found.needed, found.given, found.fits), (72.0, 440.0, True))
        self.assertEqual((found.undone, found.savings), ([], []))

    def test_half_an_hour_goes_to_what_does_most_harm_when_it_is_left(self) -> None:
        found = workload(self.rules, [30.0, *[0.0] * 6])
        self.assertFalse(found.fits)
        # 6 of 30 for the reservoir, 12 for the siphon; the change does not fit into the 12 that are left, the tools do.
        self.assertEqual([load.rule.kind.key for load in found.undone], ["water_change"])

    def test_ways_to_save_begin_with_what_can_wait_and_never_touch_a_danger(self) -> None:
        found = workload(self.rules, [30.0, *[0.0] * 6])
        told = [(one.load.rule.kind.key, one.every_days) for one in found.savings]
        # Tools half as often. A change may be 3 of 7 days late; a siphon, made for every week, 4 of 7, so 8 of 14.
        self.assertEqual(told, [("tools", 14), ("water_change", 10), ("siphon", 22)])
        # 50 a week is 35 every ten days: 15 saved; 24 in two weeks are 12 a week, and 7.64 every 22 days.
        self.assertEqual([round(one.minutes, 2) for one in found.savings], [2.0, 15.0, 4.36])
        self.assertNotIn(Missed.DANGER, {one.load.rule.kind.missed for one in found.savings})
