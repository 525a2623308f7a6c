"""The kit list of a visit: by the plan, the tasks of the day, and what the system is made of."""

import unittest
from dataclasses import replace

from salttide.core.planning.work_order import DoseWorkOrder, Water
from salttide.core.runbook.kit import kit_list, kit_words
from salttide.core.system.catalogue import kit_items
from salttide.core.system.system import PanelMaterial
from salttide.core.upkeep.task import tasks
from tests.core.cases import BEACON, EELGRASS
from tests.core.test_runbook import job

SCRAPE, SIPHON = tasks()["scrape_front"], tasks()["siphon"]


class Kit(unittest.TestCase):
    def lines(self, system=BEACON, work=(), kinds=(), tests=False):
        return {line.key: line for line in kit_list(system, work, kinds, tests)}

    def test_a_quiet_day_needs_nothing(self):
        self.assertEqual(self.lines(), {})

    def test_the_plan_says_how_many_buckets_how_much_salt_and_which_dose(self):
        lines = self.lines(work=[("Change 40 L", job(batch_dose_g=0.5, system_dose_g=5.3))])
        self.assertEqual(lines["bucket"].amount, "3 of 15 L")
        # Beacon's water is 44 cm deep.
        self.assertEqual(lines["siphon_tube"].amount, "44 cm")
        self.assertEqual((lines["salt"].name, lines["salt"].amount), ("Kittiwake Standard", "1.48 kg"))
        self.assertEqual(lines["additive"].amount, "0.500 g into the batch and 5.30 g into the system")
        self.assertLessEqual({"towels", "gloves", "torch", "salinity_meter", "net"}, set(lines))
        self.assertNotIn("tub", lines)

    def test_what_the_work_does_not_need_stays_at_home(self):
        drained = self.lines(work=[("Change", job(straight=True, siphon=False, keep_l=12.0, fill_min=4.0))])
        self.assertNotIn("bucket", drained)
        self.assertNotIn("siphon_tube", drained)
        self.assertEqual(drained["tub"].amount, "for 12 L")
        self.assertIn("pump", drained)

    def test_water_that_is_there_is_packed_instead_of_salt(self):
        lines = self.lines(work=[("Change", job(salt=None, water=Water.STORED, water_name="Batch 1"))])
        self.assertEqual((lines["new_water"].name, lines["new_water"].amount), ("Batch 1", "40.0 L"))
        self.assertNotIn("salt", lines)

    def test_a_near_total_change_takes_a_tub_for_the_animals_and_the_kits(self):
        self.assertLessEqual({"tub", "test_kits"}, set(self.lines(work=[("Change", job(near_total=True))])))

    def test_the_tool_is_by_the_panel(self):
        glass, acrylic = self.lines(kinds=[SCRAPE]), self.lines(EELGRASS, kinds=[SCRAPE])
        self.assertEqual(EELGRASS.panel, PanelMaterial.ACRYLIC)
        self.assertIn("blade", glass)
        self.assertNotIn("blade", acrylic)
        self.assertEqual((glass["pad"].amount, acrylic["pad"].amount), ("for glass", "safe on acrylic"))

    def test_each_thing_stands_once_with_all_that_ask_for_it(self):
        lines = self.lines(work=[("Change 40 L", job())], kinds=[SIPHON], tests=True)
        self.assertEqual(lines["hose"].asked_by, ("Change 40 L", "Siphon the sand"))
        self.assertEqual(lines["salinity_meter"].asked_by, ("Change 40 L", "tests"))

    def test_a_planned_dose_is_weighed_at_home(self):
        lines = self.lines(work=[("Dose 4.0 g", DoseWorkOrder("soda ash", 4.0, {}))])
        self.assertEqual((lines["dose"].name, lines["dose"].amount), ("soda ash", "4.00 g"))

    def test_how_far_the_packing_is(self):
        lines = kit_list(BEACON, (), [SCRAPE])
        self.assertEqual(kit_words(lines, frozenset()), f"{len(lines)} things to pack")
        self.assertEqual(kit_words(lines, frozenset(line.key for line in lines)), "all packed")

    def test_every_task_names_only_what_is_in_the_kit(self):
        for kind in tasks().values():
            for panel in PanelMaterial:
                self.assertLessEqual(set(kind.kit_for(panel)), set(kit_items()))
        self.assertNotIn("blade", replace(SCRAPE).kit_for(PanelMaterial.ACRYLIC))
