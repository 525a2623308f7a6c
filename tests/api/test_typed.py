"""Numbers as they are typed into any field: with a unit of their own, in any writing that can mean one number only."""

import json
import re
import unittest
from pathlib import Path

from salttide.api.typed import UNITS_OF, number_typed, unit_of_field
from salttide.core.basics.errors import InputError
from salttide.core.basics.locale import Gallon, Writing, written_as
from salttide.core.basics.quantities import Kind
from tests.api.base import ApiTest
from tests.api.test_system import new_system

SCHEMA = Path(__file__).resolve().parents[2] / "web/src/api/schema.d.ts"
OTHER = {
    # A typed unit, and what one of it is in the field's own: by the definitions of the inch, the US gallon, the
    # teaspoon, the ounce and the pound.
    "cm": ("1 in", 2.54), "mm": ("1 in", 25.4), "m": ("1 ft", 0.3048), "L": ("1 US gal", 3.785411784),
    "mL": ("1 tsp", 4.92892159375), "g": ("1 oz", 28.349523125), "kg": ("1 lb", 0.45359237), "min": ("1 h", 60.0),
    "h": ("1 day", 24.0), "°C": ("77 F", 25.0), "L/h": ("1 L/min", 60.0), "mL/min": ("6 L/h", 100.0),
}  # fmt: skip


class EveryField(unittest.TestCase):
    def test_takes_a_typed_unit_where_its_name_says_what_it_is_in(self):
        names = set(re.findall(r"^\s+(\w+)\??: number", SCHEMA.read_text("utf-8"), re.MULTILINE))
        walked = 0
        for name in sorted(names):
            unit = unit_of_field(name)
            if unit is None:
                continue
            text, wanted = OTHER[unit[1]]
            with self.subTest(field=name):
                self.assertAlmostEqual(number_typed(text, name), wanted, places=9)
                self.assertEqual(number_typed(f"7 {unit[1]}", name), 7.0)
            walked += 1
        self.assertGreater(walked, 35)

    def test_each_unit_of_a_name_is_tried(self):
        for end, unit in UNITS_OF.items():
            with self.subTest(end=end):
                self.assertEqual(unit_of_field(f"x{end}"), unit)

    def test_what_is_counted_on_something_else_is_a_plain_number(self):
        with self.assertRaises(InputError):
            number_typed("37 oz", "strength_g_l")
        self.assertEqual(number_typed("37,1", "strength_g_l"), 37.1)

    def test_fractions_gallons_and_percent(self):
        self.assertAlmostEqual(number_typed("1 1/2 tsp", "dose_ml"), 1.5 * 4.92892159375)
        self.assertEqual(number_typed("12 %", "change_percent"), 12.0)
        with self.assertRaisesRegex(InputError, "US gal or imp gal"):
            number_typed("5 gal", "sump_l")
        with written_as(Writing(gallon=Gallon.IMPERIAL)):
            self.assertAlmostEqual(number_typed("5 gal", "sump_l"), 5 * 4.54609)


class ThroughTheApi(ApiTest):
    def test_a_tank_in_inches(self):
        size = {**new_system()["geometry"], "length_cm": "48 in", "width_cm": "24 in", "depth_cm": "20 in"}
        size |= {"displaced_l": "0", "sump_l": "10 US gal"}
        found = self.post("/systems/volume", size)
        # 48 x 24 x 20 cubic inches, and ten gallons of 231.
        self.assertAlmostEqual(found["volume"]["value"], (48 * 24 * 20 + 2310) * 2.54**3 / 1000, places=1)

    def test_a_wrong_unit_is_refused_at_its_field(self):
        size = {**new_system()["geometry"], "width_cm": "40 kg"}
        said = self.refused("/systems/volume", size, "width_cm")
        self.assertIn("length", said["message"] + json.dumps(said))
        self.assertEqual(unit_of_field("width_cm"), (Kind.LENGTH, "cm"))
