"""Emergencies through the API: the list, a sheet, work whose amounts follow what is measured, and what comes after."""

from __future__ import annotations

from typing import Any

from tests.api.base import BEACON, SKIFF, SLIPWAY
from tests.api.test_runbook import RunTest

URL = f"/systems/{BEACON}/emergencies"


class Emergencies(RunTest):
    def begin(self, key: str, system: int = BEACON) -> int:
        return int(self.post("/runs", {"system_id": system, "runbook": key})["id"])

    def work_off(self, run: int) -> Any:
        """Do every step as it comes, measuring what is asked for."""
        values = {"ammonia": "0.0", "ph": "8.2", "salinity": "34.8", "temperature": "25.2", "alkalinity": "8.5"}
        for _ in range(20):
            answer = self.get(f"/runs/{run}")
            if answer["ended"]:
                return answer
            step = next(one for one in answer["open"] if one["id"] == answer["current"])
            for item in step["items"]:
                self.say(run, step["id"], "tick", item["key"])
            for line in step["gate"]:
                self.say(run, step["id"], "measured", line["parameter"], values[line["parameter"]])
            if step["timer"]:
                self.say(run, step["id"], "timer")
                self.wait(step["timer"]["minutes"] + 1)
            self.say(run, step["id"], "done")
        raise AssertionError("the work does not end")

    def tasks(self, system: int = BEACON) -> set[str]:
        lanes = [lane for lane in self.get("/rota")["lanes"] if lane["system_id"] == system]
        return {task["task"] for lane in lanes for task in lane["tasks"]}

    def test_the_gravest_stand_first_and_what_the_record_shows_before_them(self) -> None:
        names = [one["key"] for one in self.get(URL)]
        self.assertEqual((names[0], len(names)), ("ammonia_danger", 17))
        row = {"parameter": "temperature", "text": "29.4", "confirmed": True}
        self.post(f"/systems/{BEACON}/bench", {"rows": [row]})
        found = self.get(URL)
        self.assertEqual([one["key"] for one in found if one["seen"]], ["too_hot", "too_cold"])
        self.assertTrue(found[0]["seen"])
        # The plan's page leads there too.
        plan = self.get(f"/systems/{BEACON}/remedies/temperature_off.temperature")
        self.assertEqual([one["key"] for one in plan["emergencies"]], ["too_hot", "too_cold"])
        self.assertEqual(self.get(f"/systems/{BEACON}/remedies/ion_low.alkalinity")["emergencies"], [])

    def test_a_sheet_tells_this_tanks_amounts_from_the_last_test(self) -> None:
        row = {"parameter": "salinity", "text": "32", "confirmed": True}
        self.post(f"/systems/{BEACON}/bench", {"rows": [row]})
        sheet = self.get(f"{URL}/salinity_fell")
        salt = next(one for one in sheet["steps"] if "half-way" in one["title"])
        self.assertIn("50.1 L with 2.24 kg of Kittiwake Standard", salt["text"])
        self.assertEqual(salt["entry"], "changed 50.1 L mixed to 42 ppt")
        self.assertTrue(sheet["never"] and sheet["bears"] and sheet["stop"] and sheet["call"] and sheet["afterwards"])
        self.assertEqual([one["number"] for one in sheet["steps"]], [*range(1, len(sheet["steps"]) + 1)])
        # The line that it offers is understood.
        read = self.post("/jot/reading", {"text": salt["entry"], "system_id": BEACON})
        self.assertEqual(read["wrong"], None)
        # Recorded as it was: 32 ppt with 15 % of 42 ppt is the 33.5 ppt that the sheet spoke of.
        self.post("/jot/record", {"text": salt["entry"], "system_id": BEACON, "confirmed": True})
        after = next(
            one for one in self.get(f"/systems/{BEACON}/emergencies/salinity_fell")["steps"] if one["measures"]
        )
        self.assertIn("33.5 ppt", after["text"])

    def test_every_sheet_of_every_system_opens(self) -> None:
        for system in (BEACON, SKIFF, SLIPWAY):
            for one in self.get(f"/systems/{system}/emergencies"):
                sheet = self.get(f"/systems/{system}/emergencies/{one['key']}")
                self.assertNotIn("{", str(sheet["steps"]).replace("{'", ""))
        self.assertEqual(self.api.get(f"/api{URL}/nothing").status_code, 404)

    def test_what_is_measured_at_the_tank_gives_the_amount_of_the_next_step(self) -> None:
        run = self.begin("ammonia_danger")
        self.say(run, "stop", "done")
        self.say(run, "air", "done")
        self.assertIn("Not known yet", self.open(run, "test")["text"])
        for item, text in (("ammonia", "2.0"), ("ph", "8.2"), ("salinity", "35"), ("temperature", "25")):
            self.say(run, "test", "measured", item, text)
        self.say(run, "test", "done")
        change = self.open(run, "change")
        self.assertIn("Change 45 % 3 times, an hour apart: 151.", change["text"])
        self.assertRegex(change["entry"], r"^changed 15\d\.\d L$")
        # After the changes it is measured again, and less is wanted.
        self.say(run, "change", "done")
        self.say(run, "bind", "done")
        self.say(run, "again", "measured", "ammonia", "0.5")
        self.assertIn("watch it closely", self.open(run, "again")["text"])

    def test_what_would_harm_is_held_back_until_it_is_over(self) -> None:
        before = self.tasks()
        self.assertIn("water_change", before)
        run = self.begin("ammonia_danger")
        held = self.get(f"{URL}/ammonia_danger")["held"]
        self.assertIn("water change", held)
        self.assertFalse(self.tasks() & {"water_change", "filter_sock", "siphon", "media_carbon"})
        first = self.get(f"/systems/{BEACON}/sheet")["next"][0]
        self.assertEqual((first["title"], first["cause"]), ("Emergency: Ammonia with animals inside", "ammonia_danger"))
        # Another system goes on.
        self.assertIn("water_change", self.tasks(SKIFF))
        self.assertEqual(self.get(URL)[0]["run_id"], run)
        self.work_off(run)
        self.assertIn("water_change", self.tasks())

    def test_the_doses_of_a_plan_wait_too(self) -> None:
        low = "ion_low.alkalinity"
        way = self.get(f"/systems/{BEACON}/remedies/{low}")["remedies"][0]
        self.post(f"/systems/{BEACON}/remedies/{low}", {"remedy": way["key"]})
        self.assertIn("dose", self.tasks())
        run = self.begin("ammonia_danger")
        self.assertNotIn("dose", self.tasks())
        self.assertIn("look", self.tasks())
        self.post(f"/runs/{run}/abandon", {"reason": "it was the test"})
        self.assertIn("dose", self.tasks())
        self.assertTrue(self.get(f"/systems/{BEACON}/cases")[0]["live"])

    def test_a_drill_is_no_emergency(self) -> None:
        before = self.tasks()
        self.post("/runs", {"system_id": BEACON, "runbook": "power_failure", "task": "power_drill"})
        self.assertEqual(self.tasks(), before)
        self.assertNotIn("Emergency", self.get(f"/systems/{BEACON}/sheet")["next"][0]["title"])
        self.assertEqual([one["key"] for one in self.get(URL) if one["run_id"]], [])

    def test_given_up_the_rota_is_as_before(self) -> None:
        before = self.tasks()
        run = self.begin("too_hot")
        self.post(f"/runs/{run}/abandon", {"reason": "only tried it out"})
        self.assertEqual(self.tasks(), before)
        self.assertEqual(self.get(f"/systems/{BEACON}/cases"), [])

    def test_after_it_a_case_watches_and_asks_what_failed(self) -> None:
        self.work_off(self.begin("salinity_fell"))
        (case,) = self.get(f"/systems/{BEACON}/cases")
        self.assertEqual(case["title"], "After the emergency: salinity has fallen")
        self.assertTrue(case["live"])
        self.assertIn("what should have stopped it", case["steps"])
        lanes = [lane for lane in self.get("/rota")["lanes"] if lane["system_id"] == BEACON]
        looks = [task for lane in lanes for task in lane["tasks"] if task["task"] == "look"]
        self.assertEqual(len(looks), 3)
        # It was measured in the work: that stands in the record.
        self.assertIn("34.8", str(self.get(f"/systems/{BEACON}/bench")["rows"]))
        for step in looks:
            body = {key: step[key] for key in ("task", "due", "step_id")}
            self.post(f"/systems/{BEACON}/care/done", body)
