"""A change from its plan to the ledger, through the API."""

from typing import Any

from tests.api.base import BEACON, SKIFF, SLIPWAY, ApiTest


class PlanTest(ApiTest):
    def request(self, system: int = BEACON, **changes: Any) -> dict[str, Any]:
        return {**self.get(f"/systems/{system}/change")["request"], **changes}

    def preview(self, request: dict[str, Any], system: int = BEACON) -> Any:
        answer = self.api.post(f"/api/systems/{system}/change/preview", json=request)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def put(self, **changes: Any) -> dict[str, Any]:
        self.post(f"/systems/{BEACON}/change/plans", {**self.request(**changes), "replace": True})
        lane = self.get("/rota")["lanes"][0]["tasks"]
        return next(task for task in lane if task["step_id"])


class Plan(PlanTest):
    def test_the_first_wish_aims_at_what_is_out_and_holds_what_is_in(self):
        skiff = self.get(f"/systems/{SKIFF}/change")
        self.assertEqual(skiff["request"]["salinity"], 35.0)  # the aim in 33-35.5
        self.assertTrue(skiff["can_siphon"])
        self.assertEqual(skiff["request"]["start"], "2026-11-24")

    def test_a_preview_has_every_number_with_its_working_and_records_nothing(self):
        before = self.rows("SELECT count(*) FROM plan_step")
        step = self.preview(self.request())["steps"][0]
        figures = {figure["key"]: figure for figure in step["figures"]}
        for key in ("volume", "mass", "fresh_water", "salinity", "least_temperature"):
            self.assertTrue(figures[key]["working"], key)
        tank = {figure["key"]: figure for figure in step["tank"]}
        self.assertEqual((tank["mark"]["value"]["text"], tank["buckets"]["value"]["text"]), ("6.1", "3"))
        self.assertTrue(tank["mark"]["working"])
        # 12 % of 334.05 L.
        self.assertEqual((figures["volume"]["value"]["text"], figures["volume"]["value"]["unit"]), ("40.1", "L"))
        # 40.0857 L at 36.2 ppt, 2 above the system's, weigh 41.06 kg (1.0243 kg/L); less 1.539 kg of salt there are
        # 39.52 kg of water at 0.99705 kg/L: 39.64 L.
        self.assertEqual(figures["fresh_water"]["value"]["text"], "39.6")
        self.assertEqual(len(step["rows"]), 8)
        self.assertEqual(self.rows("SELECT count(*) FROM plan_step"), before)

    def test_in_the_keepers_units(self):
        self.send(
            "/keeper",
            {"zone": "Europe/Copenhagen", "units": {"alkalinity": "meq/L", "temperature": "°F"}},
            method="PUT",
        )
        request = self.request()
        self.assertLess(request["alkalinity"], 4)
        rows = {row["parameter"]: row for row in self.preview(request)["steps"][0]["rows"]}
        self.assertEqual(rows["alkalinity"]["unit"], "meq/L")
        self.assertGreater(rows["temperature"]["before"]["value"], 70)

    def test_bad_wishes_are_refused_at_their_field(self):
        path = f"/systems/{BEACON}/change/preview"
        request = self.request()
        for field, value in (("salinity", 350), ("alkalinity", 99), ("fraction_percent", 0), ("fraction_percent", 90),
                             ("every_days", 0), ("start", "2026-11-01"), ("salt_id", 77), ("start", "soon"),
                             ("fraction_percent", "much")):  # fmt: skip
            with self.subTest(field=field, value=value):
                answer = self.api.post(f"/api{path}", json={**request, field: value})
                self.assertIn(answer.status_code, (404, 422), answer.text)
                self.assertEqual(answer.json()["fields"][0]["field"], field)

    def test_an_empty_day_and_an_empty_size_say_what_is_wanted(self):
        for field, said in (
            ("start", "enter a date such as 2026-11-24"),
            ("fraction_percent", "enter a number"),
        ):
            answer = self.api.post(f"/api/systems/{BEACON}/change/preview", json={**self.request(), field: ""})
            with self.subTest(field=field):
                self.assertIn(said, answer.json()["fields"][0]["message"])

    def test_breaking_in_asks_for_the_danger(self):
        request = {**self.request(), "siphon": False}
        answer = self.api.post(f"/api/systems/{SLIPWAY}/change/preview", json=request)
        self.assertEqual(answer.json()["fields"][0]["field"], "emergency")
        self.assertEqual(
            self.preview({**request, "emergency": "ammonia"}, SLIPWAY)["cautions"][-1]["key"], "breaking_in"
        )


class OnTheRota(PlanTest):
    def test_every_step_appears_and_the_next_item_is_to_start_it(self):
        task = self.put()
        self.assertEqual(task["day"], "2026-11-24")
        sheet = self.get(f"/systems/{BEACON}/sheet")
        ways = [(item["way"], item["step_id"]) for item in sheet["next"][:2]]
        self.assertEqual(ways, [("mix", task["step_id"]), ("run", task["step_id"])])
        planned = [mark for lane in sheet["lanes"] for mark in lane["marks"] if mark["state"] == "planned"]
        self.assertTrue(planned)

    def test_the_siphon_joins_it(self):
        self.put()
        lane = self.get("/rota")["lanes"][0]["tasks"]
        siphon = next(task for task in lane if task["task"] == "siphon")
        self.assertEqual(siphon["day"], "2026-11-24")
        self.assertIn("goes with", siphon["placed"])

    def test_the_expected_values_rise_at_the_planned_change(self):
        def end(sheet: Any) -> float:
            strip = next(one for one in sheet["strips"] if one["parameter"] == "alkalinity")
            return float(strip["expected"][-1]["value"])

        before = end(self.get(f"/systems/{BEACON}/sheet"))
        self.put()
        self.assertGreater(end(self.get(f"/systems/{BEACON}/sheet")), before + 0.5)

    def test_replacing_withdraws_what_was_planned(self):
        self.put()
        count = len([task for task in self.get("/rota")["lanes"][0]["tasks"] if task["step_id"]])
        self.put()
        self.assertEqual(len([task for task in self.get("/rota")["lanes"][0]["tasks"] if task["step_id"]]), count)

    def test_taking_the_plan_back_puts_back_what_it_replaced(self):
        def steps() -> list[int]:
            return [task["step_id"] for task in self.get("/rota")["lanes"][0]["tasks"] if task["step_id"]]

        self.put()
        before = steps()
        kept = self.post(f"/systems/{BEACON}/change/plans", {**self.request(fraction_percent=10), "replace": True})
        self.assertNotEqual(steps(), before)
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(steps(), before)
        self.assertEqual(self.send(f"/record/{kept['command']}/undo", None).status_code, 404)

    def test_moved_and_skipped_with_a_reason(self):
        task = self.put(salinity=35.0)
        body = {"task": task["task"], "due": task["due"], "step_id": task["step_id"]}
        self.post(f"/systems/{BEACON}/care/move", {**body, "day": "2026-11-25"})
        moved = next(one for one in self.get("/rota")["lanes"][0]["tasks"] if one["step_id"] == task["step_id"])
        self.assertEqual(moved["day"], "2026-11-25")
        self.refused(f"/systems/{BEACON}/care/move", {**body, "day": "2026-11-01"}, "day")
        said = self.refused(f"/systems/{BEACON}/care/move", {**body, "day": "2026-11-26"}, "day")
        self.assertIn("daily limit", said["message"])
        early = self.send("/runs", {"step_id": task["step_id"]})
        self.assertEqual(early.status_code, 422)
        self.assertIn("planned for Wed 25 Nov", early.json()["detail"])
        self.refused(f"/systems/{BEACON}/care/skip", {**body, "reason": " "}, "reason")
        self.refused(f"/systems/{BEACON}/care/done", body, "step_id")
        kept = self.post(f"/systems/{BEACON}/care/skip", {**body, "reason": "no salt in the house"})
        self.assertNotIn(task["step_id"], [one["step_id"] for one in self.get("/rota")["lanes"][0]["tasks"]])
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertIn(task["step_id"], [one["step_id"] for one in self.get("/rota")["lanes"][0]["tasks"]])
