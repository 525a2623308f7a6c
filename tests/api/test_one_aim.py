"""One aim and one amount: what the sheet, Next, the correction and the change say of the same low parameter."""

from __future__ import annotations

import re
from typing import Any

from tests.api.base import BEACON, ApiTest

SAID = re.compile(r"Raise it to ([\d.]+) (\S+): ([\d.]+) g (\S+) a day for (\d+) days?")


class OneAim(ApiTest):
    def told(self, system: int) -> tuple[str, float, int]:
        """The level, the grams a day and the days, as the judgement says them."""
        found = next(one for one in self.get(f"/systems/{system}/judgement")["findings"] if SAID.search(one["advice"]))
        said = SAID.search(found["advice"])
        assert said
        return said[1], float(said[3]), int(said[5])

    def plan(self, parameter: str, formula: str) -> tuple[str, dict[str, Any]]:
        """The correction that is offered, with the dry compound the judgement names."""
        url = f"/systems/{BEACON}/dosing/correction"
        offer = self.get(url)
        target = next(one["target"] for one in offer["aims"] if one["parameter"] == parameter)
        additives = self.get("/shelf")["additives"]
        dry = next(one for one in additives if one["formula"] == formula and one["strength_g_l"] is None)
        aims = [{"parameter": parameter, "target": target, "additive_id": dry["id"]}]
        return target, self.post(f"{url}/preview", {"aims": aims, "hours": 12})

    def assert_one(self, parameter: str, formula: str, purity: float = 1.0) -> None:
        level, grams, days = self.told(BEACON)
        target, plan = self.plan(parameter, formula)
        self.assertEqual((target, len(plan["days"])), (level, days))
        for day in plan["days"]:
            given = sum(float(portion["amount"].removesuffix(" g")) for portion in day["portions"])
            # The plan says hundredths of each portion, the judgement tenths of the day.
            self.assertAlmostEqual(given * purity, grams, delta=0.1)
        shown = next(item for item in self.get(f"/systems/{BEACON}/sheet")["next"] if item["way"] == "correction")
        self.assertIn(f"Raise it to {level}", shown["reason"])

    def test_alkalinity_that_sags(self):
        self.assert_one("alkalinity", "Na2CO3")
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["request"]["alkalinity"], 8.5)

    def test_after_a_lower_test(self):
        for text in ("6.9", "7.3"):
            with self.subTest(text=text):
                self.post(f"/systems/{BEACON}/bench", {"rows": [{"parameter": "alkalinity", "text": text}]})
                self.assert_one("alkalinity", "Na2CO3")

    def test_a_pump_that_was_just_set_counts_in_both(self):
        # Recorded doses are those of the last week; the pump says what is given from now on.
        for ml in (4.0, 20.0):
            with self.subTest(ml=ml):
                self.post(f"/systems/{BEACON}/containers/1/events", {"kind": "set", "ml": ml})
                self.assert_one("alkalinity", "Na2CO3")

    def test_calcium_with_a_powder_that_is_not_pure(self):
        rows = [{"parameter": "alkalinity", "text": "8.5"}, {"parameter": "calcium", "text": "385"}]
        self.post(f"/systems/{BEACON}/bench", {"rows": rows})
        # The judgement names the pure compound; the powder on the Shelf is 98 % of it.
        self.assert_one("calcium", "CaCl2·2H2O", 0.98)
