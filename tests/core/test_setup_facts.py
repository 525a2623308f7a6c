"""A set-up in words: each fact in the keeper's units, and what an edit changed."""

import unittest
from dataclasses import replace

from salttide.core.basics.locale import DecimalSign, Writing, written_as
from salttide.core.science.draining import exposed_gear
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.catalogue import gear_kinds, method_questions
from salttide.core.system.livestock import DEMAND_REMARKS, DEMANDING_LIMITS, LIMITED, Animal, Demand, check_animal
from salttide.core.system.setup_facts import setup_changes, setup_facts
from salttide.core.system.system import GearPlace, Limits, Panel, Placed, SandMethod, SourceWater
from salttide.core.system.volume import Shape
from tests.core.cases import BEACON, EELGRASS, SKIFF, SLIPWAY


class Facts(unittest.TestCase):
    def test_in_the_keepers_units_and_writing(self):
        facts = setup_facts(BEACON, {Parameter.SALINITY: "SG 25/25", Parameter.TEMPERATURE: "°F"})
        # 1 °C is 1.8 °F; 24.5 and 26.5 °C are 76.1 and 79.7 °F.
        self.assertEqual(facts["Temperature, most in a day"], "1.8 °F")
        self.assertEqual(facts["Band of temperature"], "76.1 °F to 79.7 °F")
        self.assertTrue(facts["Band of salinity"].startswith("1.02"))
        self.assertEqual(facts["Top-off"], "pump from a reservoir")
        with written_as(Writing(DecimalSign.COMMA)):
            self.assertEqual(setup_facts(BEACON, {})["Net volume"], "334,0 L")

    def test_every_system_of_the_household_can_be_told(self):
        for system in (BEACON, EELGRASS, SKIFF, SLIPWAY):
            with self.subTest(system=system.name):
                for name, text in setup_facts(system, {}).items():
                    self.assertTrue(name)
                    self.assertNotRegex(text, r"None|nan|_")

    def test_each_kind_of_edit_is_named_with_before_and_after(self):
        methods = BEACON.methods
        cases = [
            ({"name": "Beacon II"}, "Name: Beacon → Beacon II"),
            ({"clean_panels": (Panel.FRONT, Panel.LEFT)}, "Panels kept clean: front → front and left"),
            ({"clean_panels": ()}, "Panels kept clean: front → none"),
            ({"source_water": SourceWater.TAP}, "Source water: purified → tap"),
            ({"methods": replace(methods, sand=SandMethod.BARE)}, "Sand: siphoned → bare"),
            ({"methods": replace(methods, change_fraction=0.2, change_every_days=14)},
             "Routine change: 12 % every 7 days → 20 % every 14 days"),
            ({"methods": replace(methods, answers={**methods.answers, "top_off": "plumbed"})},
             "Top-off: pump from a reservoir → plumbed to the RO/DI unit"),
            ({"own_limits": Limits(temperature_c=0.5)}, "Temperature, most in a day: 1.0 °C → 0.5 °C"),
            ({"bands": {**BEACON.bands, Parameter.NITRATE: Span(1, 8)}},
             "Band of nitrate: 2.0 mg/L to 15.0 mg/L → 1.0 mg/L to 8.0 mg/L"),
            ({"gear": ("heater",)},
             "Gear: dosing pump, heater, pH probe, powerheads, RO/DI unit, refugium, return pump, skimmer, "
             "filter socks, UV steriliser and top-off → heater"),
        ]  # fmt: skip
        for changes, said in cases:
            with self.subTest(said):
                self.assertEqual(setup_changes(BEACON, replace(BEACON, **changes), {}), [said])


class Offered(unittest.TestCase):
    def test_what_schools_start_with_is_itself_allowed(self):
        for question in method_questions().values():
            for choice in question.choices.values():
                with self.subTest(question.key, choice=choice.key):
                    for band in choice.bands.values():
                        self.assertLess(band.low, band.high)
                        self.assertGreater(band.low, 0)  # every method has a floor above zero
                    if choice.sets:
                        self.assertLessEqual(choice.sets["change_percent"], choice.sets["largest_percent"])
                        self.assertLessEqual(choice.sets["change_every_days"], 90)

    def test_the_limits_of_demanding_animals_are_half_of_the_usual_ones(self):
        usual = Limits()
        for parameter, own in zip(LIMITED, (usual.salinity, usual.alkalinity_meq_l, usual.temperature_c), strict=True):
            with self.subTest(parameter=parameter):
                self.assertAlmostEqual(DEMANDING_LIMITS[parameter], own / 2)
        check_animal(Animal(1, "seahorse", Demand.DEMANDING, limits=DEMANDING_LIMITS))
        self.assertEqual(set(DEMAND_REMARKS), set(Demand))

    def test_gear_that_is_placed_is_known_and_the_level_bares_the_highest_first(self):
        for system in (BEACON, EELGRASS, SKIFF, SLIPWAY):
            with self.subTest(system=system.name):
                self.assertEqual(set(system.placed), set(system.gear))
                self.assertLessEqual(set(system.gear), set(gear_kinds()))
        depths = {key: one.cover_cm for key, one in EELGRASS.placed.items() if one.where == GearPlace.DISPLAY}
        # 15 % of 125.46 L from 88.4 x 43.4 cm lower it by 4.9 cm: the heater at 4 cm stands bare, the powerhead not.
        bare = exposed_gear(depths, 0.15 * EELGRASS.volume_l, EELGRASS.geometry.footprint_cm2)
        self.assertEqual([item.name for item in bare], ["heater"])
        self.assertEqual(Placed().where, GearPlace.DISPLAY)
        self.assertEqual(EELGRASS.geometry.shape, Shape.BOX)
