"""The packaged data files: complete, and refused with their name when something in them is wrong."""

import unittest
from unittest import mock

from salttide.core.basics.errors import DataError
from salttide.core.runbook.file import runbook, runbook_keys
from salttide.core.science.parameters import Parameter
from salttide.core.system import catalogue
from salttide.core.upkeep import task


class Complete(unittest.TestCase):
    def test_every_caution_that_a_step_or_a_plan_names_exists(self):
        named = {step.caution for key in runbook_keys() for step in runbook(key).steps if step.caution}
        named |= {"electricity", "siphon", "weight", "caustic", "alkalinity_dose", "plume", "precipitation"}
        self.assertLessEqual(named, set(catalogue.cautions()))

    def test_the_heater_goes_off_first(self):
        self.assertEqual(next(iter(catalogue.gear_kinds())), "heater")

    def test_windows_and_minutes_make_sense(self):
        for kind in task.tasks().values():
            with self.subTest(kind=kind.key):
                self.assertGreater(kind.minutes, 0)
                self.assertLess(kind.early_days, kind.every_days)
                self.assertTrue(kind.why.endswith("."))

    def test_preset_bands_are_possible_and_those_of_a_reef_hold_natural_seawater(self):
        # Natural seawater at 35 ppt: Ca 412, Mg 1284 mg/kg (Millero et al. 2008), 1.0233 kg/L: 422, 1314 mg/L.
        for preset in catalogue.presets().values():
            for parameter, value in ((Parameter.SALINITY, 35), (Parameter.CALCIUM, 422), (Parameter.MAGNESIUM, 1314)):
                with self.subTest(preset=preset.key, parameter=parameter):
                    if parameter in preset.bands:
                        self.assertTrue(preset.bands[parameter].holds(value))


class Wrong(unittest.TestCase):
    def refused(self, table, load, name):
        for cached in (task.tasks, catalogue.gear_kinds, catalogue.cautions, catalogue.presets):
            cached.cache_clear()
            self.addCleanup(cached.cache_clear)
        folder = mock.Mock(return_value=[("made_up", table)])
        patched = mock.patch.multiple(catalogue, data_folder=folder), mock.patch.object(task, "data_folder", folder)
        with patched[0], patched[1], self.assertRaises(DataError) as raised:
            load()
        self.assertIn(name, raised.exception.message)

    def test_a_missing_key(self):
        self.refused({"name": "no interval"}, task.tasks, "tasks/")

    def test_a_sand_method_that_does_not_exist(self):
        table = {"name": "x", "short": "x", "every_days": 1, "phase": "look",
                 "early_days": 0, "late_days": 0, "minutes": 1, "why": "x.",
                 "sand": ["lava"]}  # fmt: skip
        self.refused(table, task.tasks, "tasks/")

    def test_a_band_of_an_unknown_parameter(self):
        self.refused({"name": "x", "bands": {"sparkle": [1, 2]}}, catalogue.presets, "presets/")
