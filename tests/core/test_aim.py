"""The one aim of a parameter, and the one daily limit."""

import unittest
from dataclasses import replace

from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.sizing import DayLimit
from salttide.core.system.aim import OwnAim, usual_aim
from salttide.core.system.livestock import Animal, Demand
from salttide.core.system.system import Limits
from tests.core.cases import BEACON

SALINITY, ALKALINITY, NITRATE = Parameter.SALINITY, Parameter.ALKALINITY, Parameter.NITRATE


class UsualAim(unittest.TestCase):
    def test_each_parameter(self):
        # Middle of 7.5 to 9.5 is 8.5 · sqrt(0.02 x 0.08) = 0.04 · natural seawater where the band holds it.
        cases = [
            (ALKALINITY, Span(7.5, 9.5), 8.5),
            (Parameter.PHOSPHATE, Span(0.02, 0.08), 0.04),
            (NITRATE, Span(0.0, 10.0), 5.0),
            (SALINITY, Span(34.5, 35.5), 35.0),
            (SALINITY, Span(30.0, 34.0), 32.0),
            (Parameter.TEMPERATURE, Span(24.0, 26.0), 25.0),
        ]
        for parameter, band, level in cases:
            with self.subTest(parameter=parameter, band=band):
                self.assertAlmostEqual(usual_aim(parameter, band), level)

    def test_the_keepers_own_wins_while_the_parameter_has_a_band(self):
        own = replace(BEACON, own_aims={ALKALINITY: OwnAim(2.9, "as the salt mixes")})
        self.assertEqual(own.aim(ALKALINITY), 2.9)
        self.assertEqual(own.aims[ALKALINITY], 2.9)
        self.assertIsNone(replace(own, bands={}).aim(ALKALINITY))


class DailyLimit(unittest.TestCase):
    def test_the_systems_own_then_the_slowest_animals_then_the_usual(self):
        system = replace(BEACON, own_limits=Limits(salinity=0.8), animals=())
        self.assertEqual(system.limit(SALINITY), DayLimit(0.8, 0.8))
        slow = Animal(1, "pipefish", Demand.DEMANDING, limits={SALINITY: 0.4})
        self.assertEqual(replace(system, animals=(slow,)).limit(SALINITY), DayLimit(0.4, 0.4))
        # The usual limits of the domain: calcium 20 mg/L, phosphate down by a third or 0.05 mg/L.
        self.assertEqual(system.limit(Parameter.CALCIUM), DayLimit(20.0, 20.0))
        self.assertEqual(system.limit(Parameter.PHOSPHATE), DayLimit(0.02, 0.05, 1 / 3))
