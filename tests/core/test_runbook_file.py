"""The data files of runbooks: what is wrong in one is told with file and line."""

import unittest
from importlib import resources

from salttide.core.basics.errors import DataError
from salttide.core.runbook.file import line_of, read_runbook, runbook, runbook_keys
from salttide.core.runbook.steps import RunbookStepKind
from salttide.core.science.parameters import Parameter
from salttide.core.upkeep.task import tasks

GOOD = """name = "Trial book"
subject = "change"
about = "A book to be broken."

[[step]]
id = "look"
kind = "confirm"
title = "Look"
text = "Look at it: {litres}."

[[step]]
id = "measure"
kind = "measure"
title = "Measure"
text = "Measure it now."
measure = { temperature = "75 to 80 °F" }
timer = "1.5 h"
reminder = "It is time"

[[trouble]]
key = "spill"
title = "A spill"
during = ["measure"]
first = "Stop it."
meanwhile = "Wipe it."
time_left = "An hour."
then = "Go on."
"""


REMINDERS = {
    ("blow_rock", "clear"), ("dead_spots", "watch"), ("mix_batch", "salt"), ("power_failure", "circulate"),
    ("power_failure", "warmth"), ("probe_calibration", "back"), ("rock_scrub", "scrub"), ("water_change", "skimmer"),
    # In an emergency nothing waits for a clock.
    ("ammonia_danger", "again"), ("oxygen", "surface"), ("too_hot", "measure"), ("too_cold", "measure"),
    ("salinity_fell", "again"), ("salinity_jumped", "again"), ("limewater_overdose", "test"),
    ("alkalinity_overdose", "again"), ("siphon_ran_on", "wet"), ("out_of_water", "air"), ("stung", "wash"),
}  # fmt: skip
"""Steps whose ring is a reminder: to look, or that it is enough. Nothing has to act for so long."""


class Packaged(unittest.TestCase):
    def test_what_needs_its_time_cannot_be_confirmed_without_it(self):
        timed = {(key, step.id, step.waits) for key in runbook_keys() for step in runbook(key).steps if step.timer}
        self.assertEqual({(key, step) for key, step, waits in timed if not waits}, REMINDERS)
        self.assertIn(("steriliser_lamp", "scale", True), timed)

    def test_the_five_first_books_are_there(self):
        own = {"mix_batch", "near_total", "power_failure", "rock_scrub", "water_change", "flood_drill"}
        of_tasks = {kind.runbook for kind in tasks().values() if kind.runbook}
        emergencies = {key for key in runbook_keys() if runbook(key).emergency}
        self.assertEqual({*runbook_keys()} - emergencies, (own | of_tasks) - emergencies)
        self.assertLess({"power_failure", "ammonia_danger"}, emergencies)
        with self.assertRaises(DataError):
            runbook("tea")

    def test_a_book_as_it_is_read(self):
        book = read_runbook("trial", GOOD)
        self.assertEqual([step.kind for step in book.steps], [RunbookStepKind.CONFIRM, RunbookStepKind.MEASURE])
        self.assertEqual(book.steps[1].timer, 90.0)
        low, high = book.steps[1].measure[Parameter.TEMPERATURE]
        # 75 °F = 23.889 °C, 80 °F = 26.667 °C.
        self.assertAlmostEqual(low, 23.889, places=3)
        self.assertAlmostEqual(high, 26.667, places=3)

    def test_the_gates_lists_and_litres_of_a_change_stand_in_their_order(self):
        order = ["look", "batch", "off", "drain", "search", "refill", "on", "again"]
        self.assertEqual([step.id for step in runbook("water_change").steps if step.id in order], order)

    def test_every_book_says_what_can_go_wrong(self):
        for key in runbook_keys():
            with self.subTest(book=key):
                self.assertGreaterEqual(len(runbook(key).troubles), 2)


class Wrong(unittest.TestCase):
    CASES = (
        # what stands in the file, what is put in its place, the line it is on (the file above counted by hand), words
        ('name = "Trial book"', 'name = "Trial book', 1, "line 1"),
        ('subject = "change"', 'subject = "weather"', 2, "must be one of"),
        ('kind = "confirm"', 'kind = "guess"', 7, "must be one of"),
        ('title = "Look"', 'titel = "Look"', 5, "title"),
        ("{litres}", "{litters}", 9, "nothing fills {litters}"),
        ('id = "measure"', 'id = "look"', 12, "two steps “look”"),
        ("75 to 80 °F", "75 to 80 °X", 16, "°X"),
        ("75 to 80 °F", "warm", 16, "no interval"),
        ("temperature =", "warmth =", 16, "warmth"),
        ('timer = "1.5 h"', 'timer = "1.5 hours"', 17, "“hours” is not a unit of time"),
        ('timer = "1.5 h"', 'timer = "{tea}"', 17, "no time {tea}"),
        ('reminder = "It is time"', 'gear = ["kettle"]\nreminder = "It is time"', 18, "“kettle” is not a kind of gear"),
        ('reminder = "It is time"', 'needs = ["spade"]\nreminder = "It is time"', 18, "“spade” is not in the kit"),
        ('reminder = "It is time"', 'when = "sunny"\nreminder = "It is time"', 18, "“sunny” is nothing that can hold"),
        ('reminder = "It is time"', 'caution = "none"\nreminder = "It is time"', 18, "no caution “none”"),
        ('reminder = "It is time"', 'clock = "sun"\nreminder = "It is time"', 18, "no clock “sun”"),
        ('reminder = "It is time"', 'list = "tea"\nreminder = "It is time"', 18, "no list “tea”"),
        ('reminder = "It is time"', "", 11, "reminder"),
        ('during = ["measure"]', 'during = ["dance"]', 23, "no step “dance”"),
        ('time_left = "An hour."', "", 20, "time_left"),
        ('about = "A book to be broken."', 'about = "A book to be broken."\ntask = "dance"', 4, "not a care task"),
        ('about = "A book to be broken."', 'about = "A book to be broken."\nhappening = "x"', 4, "not an event"),
    )

    def test_each_fault_is_told_with_file_and_line(self):
        for there, instead, line, words in self.CASES:
            with self.subTest(instead=instead):
                self.assertEqual(GOOD.count(there), 1)
                with self.assertRaises(DataError) as raised:
                    read_runbook("trial", GOOD.replace(there, instead))
                self.assertIn("runbooks/trial.toml", raised.exception.message)
                self.assertIn(f"line {line}", raised.exception.message)
                self.assertIn(words, raised.exception.message)

    def test_lines_of_what_is_not_written_are_those_of_its_table(self):
        text = resources.files("salttide.core").joinpath("data/runbooks/water_change.toml").read_text("utf-8")
        lines = text.splitlines()
        self.assertEqual(lines[line_of(text, ["step", "3", "caution"]) - 1], 'caution = "electricity"')
        self.assertEqual(lines[line_of(text, ["step", "1", "timer"]) - 1], "[[step]]")
