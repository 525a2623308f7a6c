"""One aim and one amount: what the sheet, Next, the plan and the correction say of the same low parameter."""

from __future__ import annotations

import re
from typing import Any

from tests.api.base import BEACON, ApiTest

SAID = re.compile(r"Raise (\w+) to ([\d.]+) \S+: ([\d.]+) (mL|g) ([^:]+?)(?: a day for (\d+) days| once)\.")
DAILY = re.compile(r"From now on ([\d.]+) (mL|g) (.+?) a day instead of ([\d.]+)")


class OneAim(ApiTest):
    url = f"/systems/{BEACON}/dosing/correction"

    def said(self) -> dict[str, Any]:
        """The level, the amount a day and the days, as the judgement says them."""
        found = next(one for one in self.get(f"/systems/{BEACON}/judgement")["findings"] if SAID.search(one["advice"]))
        said, daily = SAID.search(found["advice"]), DAILY.search(found["advice"])
        assert said
        return {
            "cause": found["cause"], "level": said[2], "amount": float(said[3]), "unit": said[4], "name": said[5],
            "days": int(said[6] or 1), "daily": daily[1] if daily else "",
        }  # fmt: skip

    def assert_one(self) -> dict[str, Any]:
        said = self.said()
        # The correction opens with the same plan.
        offer = self.get(self.url)
        plan = self.post(f"{self.url}/preview", offer["body"])
        doses = [day for day in plan["days"] if day["portions"]]
        self.assertEqual((offer["body"]["aims"][0]["target"], len(doses)), (said["level"], said["days"]))
        for day in doses:
            given = sum(float(one["amount"].split()[0]) for one in day["portions"] if one["name"] == said["name"])
            self.assertAlmostEqual(given, said["amount"], delta=0.11)  # the parts of a day are rounded each
        if said["daily"]:
            self.assertIn(said["daily"], " ".join(plan["daily"]))
        # The plan's page and Next.
        first = self.get(f"/systems/{BEACON}/remedies/{said['cause']}")["remedies"][0]
        shown = next(item for item in self.get(f"/systems/{BEACON}/sheet")["next"] if item["way"] == "remedy")
        self.assertEqual(shown["title"], first["title"])
        self.assertIn(f"{said['amount']:g}", first["title"])
        self.assertEqual(self.get("/harbour")["systems"][0]["next_title"], first["title"])
        # Choosing it puts just these doses on the rota.
        done = self.post(f"/systems/{BEACON}/remedies/{said['cause']}", {"remedy": first["key"]})
        lanes = [lane for lane in self.get("/rota")["lanes"] if lane["system_id"] == BEACON]
        tasks = [task["name"] for lane in lanes for task in lane["tasks"] if task["task"] == "dose"]
        self.assertEqual(len(tasks), said["days"])
        for name in tasks:
            self.assertIn(f"{said['amount']:g}", name)
        self.post(f"/record/{done['command']}/undo", None)
        return said

    def test_alkalinity_that_sags(self):
        said = self.assert_one()
        self.assertEqual((said["level"], said["name"]), ("8.5", "soda stock"))
        # The routine under Dosing gives the same daily dose.
        routine = self.post(f"/systems/{BEACON}/dosing/preview", self.get(f"/systems/{BEACON}/dosing")["body"])
        self.assertIn(f"{said['daily']} mL soda stock", routine["summary"])
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["request"]["alkalinity"], 8.5)

    def test_after_a_lower_test(self):
        for text in ("6.9", "7.3"):
            with self.subTest(text=text):
                self.post(f"/systems/{BEACON}/bench", {"rows": [{"parameter": "alkalinity", "text": text}]})
                self.assert_one()

    def test_a_pump_that_was_just_set_counts_in_both(self):
        # Recorded doses are those of the last week; the pump says what is given from now on.
        for ml in (4.0, 20.0):
            with self.subTest(ml=ml):
                self.post(f"/systems/{BEACON}/containers/1/events", {"kind": "set", "ml": ml})
                self.assert_one()

    def test_magnesium_too(self):
        rows = [{"parameter": "alkalinity", "text": "8.5"}, {"parameter": "magnesium", "text": "1200"}]
        self.post(f"/systems/{BEACON}/bench", {"rows": rows})
        self.assert_one()

    def test_a_pump_that_loses_a_fifth_comes_before_its_dose(self):
        # The demo's calcium pump delivers 82 % of what it is set to.
        rows = [{"parameter": "alkalinity", "text": "8.5"}, {"parameter": "calcium", "text": "385"}]
        self.post(f"/systems/{BEACON}/bench", {"rows": rows})
        first = self.get(f"/systems/{BEACON}/judgement")["findings"][0]
        self.assertIn("See to the pump first: the pump of calcium stock loses 18 %", first["advice"])
        items = self.get(f"/systems/{BEACON}/sheet")["next"]
        self.assertEqual([item["title"] for item in items if "calcium stock" in item["title"]], [items[0]["title"]])
        # The correction does not set that pump higher either.
        offer = self.get(self.url)
        self.assertTrue(offer["body"]["adjust"])
        self.assertEqual(self.post(f"{self.url}/preview", offer["body"])["daily"], [])
