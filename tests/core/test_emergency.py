"""What an emergency takes on two of the systems, by sums done by hand, and the sheets that name it.

Beacon: 334.05 L, 0.6774 m2 and 0.44 m of water, largest change a quarter. Skiff: 71.226 L, 0.18836 m2, 0.41 m.
Kittiwake Standard: 37.1 g for a litre of 35 ppt, 2.95 meq/L.
"""

import re
import unittest

from salttide.core.judgement.rules.animals import toxic_in
from salttide.core.runbook.context import filled
from salttide.core.runbook.emergency import AMOUNTS, EmergencyMeans, Tank, emergency_slots
from salttide.core.runbook.file import runbook, runbook_keys
from salttide.core.runbook.outage import tank_job
from salttide.core.science.parameters import Parameter
from tests.core.cases import BEACON, EELGRASS, KITTIWAKE, SKIFF, SLIPWAY, dkh

S, T, A = Parameter.SALINITY, Parameter.TEMPERATURE, Parameter.ALKALINITY
BOOKS = [book for book in map(runbook, runbook_keys()) if book.emergency]


def slots(system, water=None, **means):
    return emergency_slots(Tank(system, water or {}, EmergencyMeans(KITTIWAKE, **means)))


class ByHand(unittest.TestCase):
    def check(self, name, water, beacon, skiff):
        for system, words in ((BEACON, beacon), (SKIFF, skiff)):
            with self.subTest(name=name, system=system.name):
                self.assertIn(words, slots(system, water)[name])

    def test_the_largest_change_and_its_salt(self):
        # A quarter: 83.51 L x 37.1 = 3098 g; 17.81 L x 37.1 = 661 g.
        self.check("largest", {}, "83.5 L with 3.10 kg of Kittiwake Standard", "17.8 L with 661 g")

    def test_what_is_lost_is_replaced_litre_by_litre(self):
        self.check("lost", {}, "10.0 L with 371 g of Kittiwake Standard", "10.0 L with 371 g of Kittiwake Standard")
        # 6773.76 and 1883.56 cm2 by a centimetre.
        self.check("per_cm", {}, "6.8 L", "1.9 L")
        self.check("carbon", {}, "334 g", "71 g")

    def test_fresh_water_that_ran_in(self):
        # 35 x 10 / 344.05 = 1.02 and 35 x 10 / 81.226 = 4.31 ppt.
        self.check("flood", {}, "by 1.0 ppt", "by 4.3 ppt")
        # From 32 ppt: V x (35 / 32 - 1) = 31.3 and 6.7 L.
        self.check("surplus", {S: 32.0}, "about 31 L ran in", "about 7 L ran in")

    def test_salt_is_brought_back_half_way(self):
        # 32 to 33.5 ppt with water of 42: V x 1.5 / 10 = 50.1 and 10.7 L. A litre of 42 ppt takes 37.1 x 42 / 35 and
        # the half per cent that it is denser: 44.75 g. 2.24 kg and 478 g.
        self.check("salt_back", {S: 32.0}, "to 33.5 ppt: take out 50.1 L, and pour in 50.1 L with 2.24 kg",
                   "to 33.5 ppt: take out 10.7 L, and pour in 10.7 L with 478 g")  # fmt: skip
        # 38 to 36.5 ppt by fresh water: V x 1.5 / 38 = 13.2 and 2.8 L.
        self.check("fresh_back", {S: 38.0}, "to 36.5 ppt: take out 13.2 L", "to 36.5 ppt: take out 2.8 L")

    def test_inside_its_band_nothing_is_poured(self):
        for system in (BEACON, SKIFF):
            found = slots(system, {S: 34.3})
            self.assertIn("nothing has to be raised", found["salt_back"])
            self.assertIn("no fresh water is too much", found["surplus"])
            self.assertEqual((found["swap_l"], found["fresh_l"]), ("", ""))

    def test_ice_hot_bottles_and_watts(self):
        # (18 x 2.1 + 334 + 27 x 4.18) / (V x 4.09) = 484.7 / 1366 and / 291.3.
        self.check("ice", {T: 27.0}, "by 0.4 °C", "by 1.7 °C")
        # Ten times 4.18 x 24 / (V x 4.09 + 4.18) = 100.3 / 1370 and / 295.5.
        self.check("bottle", {T: 21.0}, "by about 0.7 °C", "by about 3.4 °C")
        # At 18 °C: 14.74 W/K x 7.5 = 110.6; 2.672 L a day, 75.5 W at 25.5 over 21 °C, x (3261 - 1032) / (3261 - 1243):
        # 83.4; less pumps and lamps, 45 + 160 x 0.4 x 9 / 24 = 69. Skiff: 5.80 x 7.2 = 41.8; 0.570 L, 16.1 W x (3204 -
        # 1032) / (3204 - 1243) = 17.8; less 8 + 45 x 0.4 x 9 / 24 = 14.8.
        self.check("watts", {}, "about 125 W to hold 25.5 °C", "about 45 W to hold 25.2 °C")
        self.check("heat_now", {T: 29.0}, "29.0 °C, 2.5 °C over the band", "29.0 °C, 2.5 °C over the band")

    def test_ammonia_is_thinned_out_to_where_it_is_safe(self):
        water = {Parameter.AMMONIA: 2.0, Parameter.PH: 8.2, S: 35.0, T: 25.0}
        # 6.17 % (Clegg & Whitfield 1995) of 2 mg/L is 0.1234; 0.02 / 0.1234 = 0.162 is less than two halves leave:
        # three of 1 - 0.162^(1/3) = 45.5 %: 151.9 and 32.4 L.
        self.assertAlmostEqual(toxic_in(water), 0.1234, delta=0.0005)
        self.check("ammonia_now", water, "mg/L is toxic NH3: an emergency", "an emergency")
        for system, litres in ((BEACON, 151.9), (SKIFF, 32.4)):
            words = slots(system, water)["ammonia_change"]
            found = re.search(r"Change 45 % 3 times, an hour apart: ([\d.]+) L with", words)
            self.assertAlmostEqual(float(found[1]), litres, delta=0.01 * litres)
        self.check("ammonia_retest", water, "2 hours", "2 hours")
        self.check("ammonia_now", {}, "Not known yet", "Not known yet")

    def test_alkalinity_is_brought_down_by_changes_no_larger_than_usual(self):
        # Beacon, 12 to 9.5 dKH: (3.388 - 2.95) / (4.280 - 2.95) = 0.329 left: four of 1 - 0.329^(1/4) = 24.2 %.
        # Skiff, to 10 dKH: (3.567 - 2.95) / 1.330 = 0.464: three of 22.6 %.
        self.check("alkalinity_back", {A: dkh(12.0)}, "Change 24 % (81.0 L", "Change 23 % (16.1 L")
        self.check("alkalinity_back", {A: dkh(12.0)}, "4 times, hours apart", "3 times, hours apart")
        self.check("alkalinity_back", {A: dkh(9.0)}, "no change is needed", "no change is needed")

    def test_limewater_that_ran_in(self):
        # 1.5 g/L of Ca(OH)2 are 40.5 meq/L: (2.8 V + 202) / (V + 5) - 2.8 = 0.556 and 2.47 meq/L.
        for system, rise in ((BEACON, 1.56), (SKIFF, 6.9)):
            words = slots(system)["lime"]
            self.assertAlmostEqual(float(re.search(r"by ([\d.]+) dKH", words)[1]), rise, delta=0.05 * rise + 0.05)

    def test_water_that_stands_ready_is_named(self):
        found = slots(BEACON, ready_l=54.3, ready="Batch 1")
        self.assertEqual(found["ready"], "54.3 L of new water stand mixed (Batch 1): measure it first.")
        self.assertIn("start 83.5 L with 3.10 kg of Kittiwake Standard now", slots(BEACON)["ready"])

    def test_without_a_salt_the_litres_stand_alone(self):
        self.assertEqual(emergency_slots(Tank(SKIFF, {}, EmergencyMeans()))["largest"], "17.8 L of new salt water")

    def test_values_beyond_a_formula_do_not_stop_the_sheet(self):
        found = slots(BEACON, {Parameter.AMMONIA: 400.0, S: 60.0, T: 60.0, A: 40.0, Parameter.PH: 13.0})
        self.assertEqual({*found}, {*AMOUNTS})
        self.assertIn("Cannot be worked out", found["ammonia_now"])


ASKED = frozenset({
        "ammonia_danger", "too_hot", "too_cold", "salinity_fell", "salinity_jumped", "top_off_stuck",
        "limewater_overdose", "alkalinity_overdose", "oxygen", "power_failure", "leak", "skimmer_overflow",
        "contamination", "dead_not_found", "siphon_ran_on", "out_of_water", "stung",
    })  # fmt: skip


class Sheets(unittest.TestCase):
    def test_there_is_one_for_each_danger(self):
        self.assertEqual({book.key for book in BOOKS}, ASKED)
        self.assertEqual(sorted(book.emergency.order for book in BOOKS), [*range(1, len(BOOKS) + 1)])

    def test_every_text_is_filled_on_every_system_with_and_without_tests(self):
        waters = ({}, {S: 32.0, T: 29.0, A: dkh(12), Parameter.PH: 8.2, Parameter.AMMONIA: 2.0}, {S: 38.0, T: 20.0})
        for book in BOOKS:
            told = book.emergency
            texts = [
                *(step.text for step in book.steps),
                *told.never,
                told.bears,
                told.stop,
                told.call,
                told.afterwards,
            ]
            titles = [step.title for step in book.steps]
            self.assertFalse([title for title in titles if "{" in title], book.key)
            for system in (BEACON, EELGRASS, SKIFF, SLIPWAY):
                for water in waters:
                    job = tank_job(system, book, water, {}, means=EmergencyMeans(KITTIWAKE))
                    for text in texts:
                        with self.subTest(book=book.key, system=system.name):
                            self.assertNotRegex(filled(text, job.slots), r"[{}]|  |None|nan|never measured")

    def test_ordinary_work_carries_no_amounts_of_emergencies(self):
        self.assertNotIn("ammonia_change", tank_job(BEACON, runbook("rock_scrub"), {}, {}).slots)

    def test_people_come_first_where_they_are_in_danger(self):
        for key, first in (("stung", "out"), ("contamination", "people"), ("leak", "fuse")):
            self.assertEqual(runbook(key).steps[0].id, first)
        self.assertIn("palytoxin", runbook("stung").emergency.call)

    def test_nothing_raises_ph_where_there_is_ammonia(self):
        book = runbook("ammonia_danger")
        self.assertTrue(any("Raise pH" in one for one in book.emergency.never))
        for step in book.steps:
            self.assertNotRegex(step.text, r"buffer|limewater")

    def test_every_one_is_followed_by_a_look(self):
        for book in BOOKS:
            with self.subTest(book=book.key):
                self.assertTrue(book.follow_ups)
