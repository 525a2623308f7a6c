"""Changes by purpose and with other water through the API; hoses, routines, the kit list."""

from __future__ import annotations

from typing import Any, ClassVar

from tests.api.base import BEACON, EELGRASS, SKIFF, SLIPWAY, confirmed, session
from tests.api.test_change import PlanTest
from tests.api.test_mix import MixTest


class Purposes(PlanTest):
    def plan(self, system: int = BEACON, **changes: Any) -> Any:
        request = {**self.get(f"/systems/{system}/change")["request"], "salinity": None, "alkalinity": None, **changes}
        return self.post(f"/systems/{system}/change/preview", request)

    def refused_wish(self, field: str, system: int = BEACON, **changes: Any) -> dict[str, Any]:
        request = {**self.get(f"/systems/{system}/change")["request"], **changes}
        return self.refused(f"/systems/{system}/change/preview", request, field)

    def test_the_purposes_that_a_system_can_have(self) -> None:
        keys = [one["key"] for one in self.get(f"/systems/{BEACON}/change")["purposes"]]
        self.assertEqual(keys, ["routine", "bring", "salinity", "restore", "dilute"])
        self.assertIn("first", [one["key"] for one in self.get(f"/systems/{SLIPWAY}/change")["purposes"]])

    def test_nitrate_is_brought_down_in_as_many_changes_as_it_takes(self) -> None:
        self.post(f"/systems/{BEACON}/bench", session(nitrate="20", salinity="34.8"))
        answer = self.plan(purpose="bring", parameter="nitrate", target=8, fraction_percent=25)
        last = [step for step in answer["steps"] if step["kind"] == "change"][-1]
        row = next(row for row in last["rows"] if row["parameter"] == "nitrate")
        self.assertAlmostEqual(row["after"]["value"], 8.0, places=1)
        self.assertIn("% of the old water is left", answer["summary"])

    def test_a_contamination_is_diluted_to_its_share(self) -> None:
        answer = self.plan(purpose="dilute", left_percent=25, fraction_percent=25)
        # 0.75^5 = 0.237 is the first below a quarter.
        self.assertEqual(len(answer["steps"]), 5)
        self.assertIn("24 % of the old water is left", answer["summary"])
        self.assertIn("contamination", [one["key"] for one in answer["cautions"]])

    def test_natural_seawater_needs_no_salt(self) -> None:
        request = self.get(f"/systems/{EELGRASS}/change")["request"]
        self.assertEqual((request["water"], request["salt_id"] is not None), ("natural", True))
        answer = self.plan(EELGRASS, water="natural", water_salinity=34.5)
        keys = {figure["key"] for figure in answer["steps"][0]["figures"]}
        self.assertNotIn("mass", keys)
        self.assertIn("stored", [one["key"] for one in answer["cautions"]])

    def test_water_of_another_system_is_what_that_one_holds(self) -> None:
        self.post(f"/systems/{EELGRASS}/bench", session(salinity="34.9", nitrate="0.4"))
        answer = self.plan(SKIFF, water="system", source_id=EELGRASS, fraction_percent=10)
        self.assertNotIn("mass", {figure["key"] for figure in answer["steps"][0]["figures"]})
        request = {**self.get(f"/systems/{SKIFF}/change")["request"], "water": "system", "source_id": EELGRASS}
        self.post(f"/systems/{SKIFF}/change/plans", {**request, "salinity": None, "replace": True})
        job = self.rows("SELECT job FROM plan_step ORDER BY id DESC LIMIT 1")[0][0]
        self.assertIn(f'"source_id":{EELGRASS}', job)

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        for field, changes in (
            ("parameter", {"purpose": "bring"}), ("target", {"purpose": "bring", "parameter": "nitrate"}),
            ("target", {"purpose": "bring", "parameter": "nitrate", "target": -2}),
            ("parameter", {"purpose": "bring", "parameter": "ph", "target": 8}),
            ("left_percent", {"purpose": "dilute", "left_percent": 0}),
            ("purpose", {"purpose": "near_total", "fraction_percent": 90}), ("purpose", {"purpose": "first"}),
            ("water_salinity", {"water": "natural"}), ("water_salinity", {"water": "natural", "water_salinity": 5}),
            ("batch_id", {"water": "stored"}), ("source_id", {"water": "system"}),
            ("source_id", {"water": "system", "source_id": BEACON}), ("keep_l", {"keep_l": 500}),
            ("salt_id", {"salt_id": None}), ("drain", {"sump_falls": True}), ("zones", {"zones": 9}),
        ):  # fmt: skip
            with self.subTest(field=field, changes=changes):
                self.refused_wish(field, **changes)

    def test_the_first_change_waits_for_its_proof(self) -> None:
        self.post(f"/systems/{SLIPWAY}/bench", confirmed(nitrate="30", salinity="34.8", alkalinity="7.5"))
        said = self.refused_wish("purpose", SLIPWAY, purpose="first", parameter="nitrate", target=10)
        self.assertIn("Not yet", said["message"])

    def test_the_animals_limits_are_marked(self) -> None:
        rows = {row["parameter"]: row for row in self.plan(EELGRASS)["steps"][0]["rows"]}
        marks = [mark for row in rows.values() for mark in row["limits"]]
        self.assertTrue(marks)
        self.assertTrue(all(mark["words"].startswith(("lowest for the", "highest for the")) for mark in marks))

    def test_a_pump_pair_is_told_as_a_rate(self) -> None:
        figures = {one["key"]: one for one in self.plan(slow_days=10)["slow"]}
        # 40.09 L over 10 days: 4.01 L a day, 2.78 mL/min; exp(-0.12) = 88.7 % is left.
        self.assertEqual(figures["slow_rate"]["value"]["text"], "4.01")
        self.assertEqual(figures["slow_ml"]["value"]["text"], "2.8")
        self.assertEqual(figures["slow_left"]["value"]["text"], "88.7")

    def test_zones_and_what_is_kept_go_to_the_tank(self) -> None:
        tank = [one["words"] for one in self.plan(zones=2)["steps"][0]["tank"]]
        self.assertIn("at the left", tank)
        request = self.get(f"/systems/{BEACON}/change")["request"]
        self.post(f"/systems/{BEACON}/change/plans", {**request, "zones": 2, "keep_l": 12, "start": "2026-11-24",
                                                      "replace": True})  # fmt: skip
        task = next(one for one in self.get("/rota")["lanes"][0]["tasks"] if one["step_id"])
        run = self.post("/runs", {"step_id": task["step_id"]})
        self.assertIn("keep", [step["id"] for step in run["steps"]])


class Hoses(PlanTest):
    GOOD: ClassVar = {"bore_mm": 12, "hose_m": 4, "head_cm": 90, "pump_l_h": 500, "heater_w": 200, "fall_cm": 1.5,
            "outlet_cm": 5, "rim_cm": None}  # fmt: skip

    def test_they_are_kept_with_the_system_and_move_the_plan(self) -> None:
        before = {one["key"] for one in self.preview(self.request())["steps"][0]["tank"]}
        self.assertNotIn("fill", before)
        self.send(f"/systems/{BEACON}/service", self.GOOD, method="PUT")
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["service"], self.GOOD)
        tank = {one["key"]: one for one in self.preview(self.request())["steps"][0]["tank"]}
        # 40.09 L at 500 L/h: 4.8 min; 117.6 x 57.6 cm x 1.5 cm = 10.2 L.
        self.assertEqual((tank["fill"]["value"]["text"], tank["back"]["value"]["text"]), ("4.8", "10.2"))

    def test_wrong_ones_are_refused_at_their_field(self) -> None:
        for field, value in (("bore_mm", 1), ("hose_m", "long"), ("pump_l_h", -5), ("fall_cm", 300)):
            with self.subTest(field=field):
                self.refused(f"/systems/{BEACON}/service", {**self.GOOD, field: value}, field, method="PUT")


class Routines(PlanTest):
    def test_little_and_often_against_more_and_seldom(self) -> None:
        body = {"first": {"percent": 10, "every_days": 7}, "second": {"percent": 20, "every_days": 14}}
        answer = self.post(f"/systems/{BEACON}/change/routines", body)
        rows = {row["parameter"]: row for row in answer["rows"]}
        self.assertEqual(len(rows["nitrate"]["first"]["levels"]), answer["days"])
        # The same water in the long run, so they settle alike: C_in + p·T/f has T/f the same.
        self.assertEqual(rows["nitrate"]["first"]["settled"], rows["nitrate"]["second"]["settled"])
        self.assertIn("143 L and", answer["takes"][0])

    def test_wrong_ones_are_refused_at_their_field(self) -> None:
        path = f"/systems/{BEACON}/change/routines"
        good = {"percent": 10, "every_days": 7}
        self.refused(path, {"first": {**good, "percent": 0}, "second": good}, "first.percent")
        self.refused(path, {"first": good, "second": {**good, "every_days": 0}}, "second.every_days")


class KitList(PlanTest):
    def test_it_follows_the_plan_of_the_day_and_is_ticked(self) -> None:
        self.put()
        kit = self.get(f"/systems/{BEACON}/kit?day=2026-11-24")
        lines = {line["key"]: line for line in kit["lines"]}
        self.assertEqual(lines["bucket"]["amount"], "3 of 15 L")
        self.assertIn("salt", lines)
        now = self.post(f"/systems/{BEACON}/kit/bucket", {"day": "2026-11-24", "packed": True})
        self.assertTrue(next(line for line in now["lines"] if line["key"] == "bucket")["packed"])
        self.assertIn(f"{len(lines) - 1} things to pack", now["words"])
        now = self.post(f"/systems/{BEACON}/kit/bucket", {"day": "2026-11-24", "packed": False})
        self.assertFalse(next(line for line in now["lines"] if line["key"] == "bucket")["packed"])
        self.refused(f"/systems/{BEACON}/kit/kettle", {"day": "2026-11-24", "packed": True}, "item")

    def test_a_day_that_is_over_is_refused(self) -> None:
        answer = self.api.get(f"/api/systems/{BEACON}/kit?day=2026-11-01")
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.json()["fields"][0]["field"], "day")


class FromABatch(MixTest):
    def pour(self, run: int, litres: str) -> None:
        """The work from its first step to its last, with so many litres out and in."""
        while not (now := self.get(f"/runs/{run}"))["ended"]:
            step = next(one for one in now["open"] if one["id"] == now["current"])
            if step["gate"] or (step["timer"] and step["timer"]["waits"]):
                self.say(run, step["id"], "override", text="for the test")
            for item in step["items"]:
                self.say(run, step["id"], "tick", item["key"])
            if step["litres"]:
                self.say(run, step["id"], "litres", text=litres)
            self.say(run, step["id"], "done")

    def test_the_batch_that_was_mixed_for_a_planned_change_is_used_up_by_it(self) -> None:
        task = self.put()
        wanted = next(one for one in self.get("/mix")["wanted"] if one["step_id"] == task["step_id"])
        own = {key: wanted[key] for key in ("system_id", "step_id", "salinity")} | {"litres": 40.0}
        # Twelve percent of 1 ppt less would move it by 0.12 ppt: as it is; 3 ppt less is thinned: 40 x (S - 3) / S.
        other = {"system_id": SKIFF, "litres": 14.0, "salinity": str(float(wanted["salinity"]) + 3)}
        made = self.post("/batches", self.mix_wish(portions=[own, other], container_l=100.0))
        salt = self.rows("SELECT json_extract(job, '$.work.mass_g') FROM batch WHERE id = ?", made["id"])[0][0]
        self.event(made["id"], "salted", str(round(salt)))
        run = self.post("/runs", {"step_id": task["step_id"]})
        self.assertIn(f"of Batch {made['id']}", run["open"][0]["text"])
        self.pour(run["id"], "40")
        low = float(wanted["salinity"])
        used = self.rows("SELECT amount FROM batch_event WHERE kind = 'used'")[0][0]
        self.assertAlmostEqual(used, 40.0 * low / (low + 3), places=3)

    def test_a_change_with_a_stored_batch_uses_it_up_and_measures_it(self) -> None:
        batch = self.make()
        self.event(batch, "salted", "1484")
        self.measure(batch, salinity="34.8", temperature="25.2", alkalinity="8.2")
        self.event(batch, "matched")
        request = self.get(f"/systems/{BEACON}/change")["request"]
        self.post(f"/systems/{BEACON}/bench", session(salinity="34.8"))
        request |= {"water": "stored", "batch_id": batch, "fraction_percent": 10, "start": "2026-11-24"}
        self.post(f"/systems/{BEACON}/change/plans", {**request, "alkalinity": None, "replace": True})
        task = next(one for one in self.get("/rota")["lanes"][0]["tasks"] if one["step_id"])
        run = int(self.post("/runs", {"step_id": task["step_id"]})["id"])
        self.say(run, "set_out", "done")
        self.say(run, "look", "done")
        for item, text in (("temperature", "25.2"), ("salinity", "34.9"), ("alkalinity", "8.1")):
            self.say(run, "batch", "measured", item, text)
        rows = {row["parameter"]: row["now"] for row in self.get(f"/batches/{batch}")["rows"]}
        self.assertEqual((rows["salinity"], rows["alkalinity"]), ("34.9", "8.1"))
        self.say(run, "batch", "done")
        self.tick_all(run, "off")
        for step in ("creep", "panels"):
            self.say(run, step, "done")
        self.say(run, "cool", "override", text="cold already")
        self.say(run, "cool", "done")
        self.say(run, "drain", "litres", text="33")
        self.say(run, "drain", "done")
        self.say(run, "sand", "done")
        self.say(run, "search", "done")
        self.say(run, "refill", "litres", text="33")
        self.say(run, "refill", "done")
        self.tick_all(run, "on")
        while not (now := self.get(f"/runs/{run}"))["ended"]:
            self.say(run, now["open"][0]["id"], "done")
        # 40 L less 33 L.
        left = self.get(f"/batches/{batch}")
        self.assertEqual((left["phase"], left["litres"]), ("left over", "7.0 L"))
        self.assertIn("33.0 L used for Beacon", [event["words"] for event in left["events"]])
