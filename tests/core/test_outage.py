"""How long a system bears a failure of power, by sums done by hand."""

import unittest
from dataclasses import replace

from salttide.core.basics.errors import DomainError
from salttide.core.planning.match_gate import heating_min
from salttide.core.runbook.file import runbook
from salttide.core.runbook.outage import outage, tank_job
from salttide.core.science.heat import cooling_h
from salttide.core.science.parameters import Parameter
from salttide.core.system.livestock import Animal, Demand, air_bound, check_animal
from tests.core.cases import BEACON, SLIPWAY

T = Parameter.TEMPERATURE


class Cooling(unittest.TestCase):
    def test_by_newtons_law(self):
        # 1 m2 and 0.5 m: panels 4 x 1 x 0.5 = 2 m2 x 5.5 = 11, surface 20: 31 W/K. 500 L x 4090 / 31 = 65 968 s;
        # ln((26 - 18)/(22 - 18)) = 0.69315: 45 725 s = 12.70 h.
        self.assertAlmostEqual(float(cooling_h(500.0, 1.0, 0.5, 26.0)), 12.70, delta=0.01)

    def test_a_warmer_room_and_more_water_last_longer(self):
        plain = float(cooling_h(500.0, 1.0, 0.5, 26.0))
        self.assertGreater(float(cooling_h(500.0, 1.0, 0.5, 26.0, room_c=21.0)), plain)
        self.assertAlmostEqual(float(cooling_h(1000.0, 1.0, 0.5, 26.0)), 2 * plain)

    def test_its_working_is_shown(self):
        self.assertEqual([step.symbol for step in cooling_h(500.0, 1.0, 0.5, 26.0).working], ["UA", "t"])

    def test_what_cannot_be_is_refused(self):
        for wrong in ((0.0, 1.0, 0.5, 26.0), (500.0, 0.0, 0.5, 26.0), (500.0, 1.0, 9.0, 26.0), (500.0, 1.0, 0.5, 21.0),
                      (500.0, 1.0, 0.5, 26.0, 23.0)):  # fmt: skip
            with self.subTest(wrong=wrong), self.assertRaises(DomainError):
                cooling_h(*wrong)

    def test_a_system_tells_its_own_hours(self):
        # Beacon: 334.05 L, 0.6774 m2, 0.44 m: (4 x 0.82303 x 0.44) x 5.5 + 0.6774 x 10 = 14.74 W/K without evaporation.
        # 2.672 L a day evaporate at 25.5 over 21 °C, 75.5 W, in proportion to 3261 - 1243 Pa (half of 2487). At 18 °C
        # half of 2063 Pa counts: over water of 25.3, 24.2, 23.1 and 22.0 °C 3223, 3018, 2825 and 2642 Pa less 1032 are
        # 2191, 1986, 1793 and 1610 Pa: 82.0, 74.3, 67.1 and 60.2 W; in all 189.6, 165.7, 142.3 and 119.2 W. Of 334.05 x
        # 4090 J/K by Simpson's three eighths of 3.3 K: (1/189.6 + 3/165.7 + 3/142.3 + 1/119.2) / 8: 29 800 s.
        told = outage(BEACON, 25.3, {})
        self.assertAlmostEqual(told.cool_h, 8.28, delta=0.05)
        self.assertIn("about 8 h to 22.0 °C in a room of 18.0 °C", told.words)
        cold = outage(BEACON, 21.0, {})
        self.assertIsNone(cold.cool_h)
        self.assertIn("warm it first", cold.words)
        self.assertIn("°F", outage(BEACON, 25.3, {T: "°F"}).words)

    def test_a_heater_warms_a_batch_in_so_many_minutes(self):
        # 40 L x 2 K x 4.09 kJ = 327.2 kJ at 200 W: 1636 s.
        self.assertAlmostEqual(heating_min(40.0, 2.0, 200.0), 27.27, delta=0.01)


class AtTheTank(unittest.TestCase):
    def test_what_work_on_a_system_is_filled_with(self):
        job = tank_job(BEACON, runbook("rock_scrub"), {T: 25.3}, {})
        # A twentieth of 334 L is 16.7 L.
        self.assertEqual((job.slots["tub"], job.slots["temperature"]), ("17 L", "25.3 °C"))
        self.assertEqual(next(iter(job.gear)), "heater")
        self.assertIn("sump", job.flags)
        empty = tank_job(replace(SLIPWAY, animals=()), runbook("power_failure"), {}, {})
        self.assertIn("bacteria", empty.slots["air"])
        self.assertEqual(empty.slots["temperature"], "not measured")


class InTheAir(unittest.TestCase):
    def test_what_was_said_of_an_animal_counts_before_what_its_demand_says(self):
        hardy, demanding = Animal(1, "mushrooms", Demand.HARDY), Animal(2, "anemone", Demand.DEMANDING)
        self.assertEqual(air_bound([]), (20.0, "corals"))
        self.assertEqual(air_bound([hardy]), (30.0, "corals"))
        self.assertEqual(air_bound([hardy, demanding]), (10.0, "corals"))
        self.assertEqual(air_bound([replace(hardy, air_min=45.0), demanding]), (45.0, "mushrooms"))
        both = [replace(hardy, air_min=5.0), replace(demanding, air_min=5.0)]
        self.assertEqual(air_bound(both), (5.0, "mushrooms and anemone"))
        self.assertEqual(air_bound([replace(demanding, count=0)]), (20.0, "corals"))

    def test_an_impossible_bound_is_refused_at_its_field(self):
        with self.assertRaises(DomainError) as raised:
            check_animal(Animal(1, "anemone", air_min=0.0))
        self.assertEqual(raised.exception.field, "air_min")
