"""A change from its plan to the ledger, through the API."""

from typing import Any

from tests.api.base import BEACON, SKIFF, SLIPWAY, ApiTest, session


class PlanTest(ApiTest):
    def wish(self, system: int = BEACON, **changes: Any) -> dict[str, Any]:
        return {**self.get(f"/systems/{system}/change")["wish"], **changes}

    def preview(self, wish: dict[str, Any], system: int = BEACON) -> Any:
        answer = self.api.post(f"/api/systems/{system}/change/preview", json=wish)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def put(self, **changes: Any) -> dict[str, Any]:
        self.post(f"/systems/{BEACON}/change/plans", {**self.wish(**changes), "replace": True})
        lane = self.get("/rota")["lanes"][0]["tasks"]
        return next(task for task in lane if task["step_id"])


class Plan(PlanTest):
    def test_the_first_wish_aims_at_what_is_out_and_holds_what_is_in(self):
        skiff = self.get(f"/systems/{SKIFF}/change")
        self.assertEqual(skiff["wish"]["salinity"], 34.25)  # the middle of 33-35.5
        self.assertTrue(skiff["can_siphon"])
        self.assertEqual(skiff["wish"]["start"], "2026-11-24")

    def test_a_preview_has_every_number_with_its_working_and_records_nothing(self):
        before = self.rows("SELECT count(*) FROM plan_step")
        step = self.preview(self.wish())["steps"][0]
        figures = {figure["key"]: figure for figure in step["figures"]}
        for key in ("volume", "mass", "fresh_water", "salinity", "least_temperature", "buckets", "mark"):
            self.assertTrue(figures[key]["working"], key)
        # 12 % of 334.05 L.
        self.assertEqual((figures["volume"]["value"]["text"], figures["volume"]["value"]["unit"]), ("40.1", "L"))
        self.assertEqual(len(step["rows"]), 8)
        self.assertEqual(self.rows("SELECT count(*) FROM plan_step"), before)

    def test_in_the_keepers_units(self):
        self.send(
            "/keeper",
            {"zone": "Europe/Copenhagen", "units": {"alkalinity": "meq/L", "temperature": "°F"}},
            method="PUT",
        )
        wish = self.wish()
        self.assertLess(wish["alkalinity"], 4)
        rows = {row["parameter"]: row for row in self.preview(wish)["steps"][0]["rows"]}
        self.assertEqual(rows["alkalinity"]["unit"], "meq/L")
        self.assertGreater(rows["temperature"]["before"]["value"], 70)

    def test_bad_wishes_are_refused_at_their_field(self):
        path = f"/systems/{BEACON}/change/preview"
        wish = self.wish()
        for field, value in (("salinity", 350), ("alkalinity", 99), ("fraction_percent", 0), ("fraction_percent", 90),
                             ("every_days", 0), ("start", "2026-11-01"), ("salt_id", 77), ("start", "soon"),
                             ("fraction_percent", "much")):  # fmt: skip
            with self.subTest(field=field, value=value):
                answer = self.api.post(f"/api{path}", json={**wish, field: value})
                self.assertIn(answer.status_code, (404, 422), answer.text)
                self.assertEqual(answer.json()["fields"][0]["field"], field)

    def test_an_empty_day_and_an_empty_size_say_what_is_wanted(self):
        for field, said in (
            ("start", "a date is wanted, such as 2026-11-24"),
            ("fraction_percent", "a number is wanted"),
        ):
            answer = self.api.post(f"/api/systems/{BEACON}/change/preview", json={**self.wish(), field: ""})
            with self.subTest(field=field):
                self.assertIn(said, answer.json()["fields"][0]["message"])

    def test_breaking_in_asks_for_the_danger(self):
        wish = {**self.wish(), "siphon": False}
        answer = self.api.post(f"/api/systems/{SLIPWAY}/change/preview", json=wish)
        self.assertEqual(answer.json()["fields"][0]["field"], "emergency")
        self.assertEqual(self.preview({**wish, "emergency": "ammonia"}, SLIPWAY)["cautions"][-1]["key"], "breaking_in")


class OnTheRota(PlanTest):
    def test_every_step_appears_and_the_next_item_is_to_start_it(self):
        task = self.put()
        self.assertEqual(task["day"], "2026-11-24")
        sheet = self.get(f"/systems/{BEACON}/sheet")
        self.assertEqual((sheet["next"][0]["way"], sheet["next"][0]["step_id"]), ("run", task["step_id"]))
        planned = [mark for lane in sheet["lanes"] for mark in lane["marks"] if mark["state"] == "planned"]
        self.assertTrue(planned)

    def test_the_siphon_joins_it(self):
        self.put()
        lane = self.get("/rota")["lanes"][0]["tasks"]
        siphon = next(task for task in lane if task["task"] == "siphon")
        self.assertEqual(siphon["day"], "2026-11-24")
        self.assertIn("goes with the water change", siphon["why"])

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
        kept = self.post(f"/systems/{BEACON}/change/plans", {**self.wish(fraction_percent=10), "replace": True})
        self.assertNotEqual(steps(), before)
        self.post(f"/record/{kept['command']}/void", None)
        self.assertEqual(steps(), before)
        self.assertEqual(self.send(f"/record/{kept['command']}/void", None).status_code, 404)

    def test_moved_and_skipped_with_a_reason(self):
        task = self.put()
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
        self.post(f"/record/{kept['command']}/void", None)
        self.assertIn(task["step_id"], [one["step_id"] for one in self.get("/rota")["lanes"][0]["tasks"]])


class Run(PlanTest):
    def start(self) -> tuple[int, Any]:
        task = self.put()
        run = self.post("/runs", {"step_id": task["step_id"]})
        return run["id"], run

    def say(self, run: int, step: str, kind: str, item: str = "", text: str = "") -> Any:
        return self.post(f"/runs/{run}/answers", {"step": step, "kind": kind, "item": item, "text": text})

    def gate(self, run: int) -> None:
        self.say(run, "look", "done")
        for item, text in (("temperature", "25.2"), ("salinity", "36.1"), ("alkalinity", "8.5")):
            self.say(run, "batch", "measured", item, text)
        self.say(run, "batch", "done")

    def tick_all(self, run: int, step: str) -> None:
        for item in self.get(f"/runs/{run}")["current"]["items"]:
            self.say(run, step, "tick", item["key"])
        self.say(run, step, "done")

    def finish(self, run: int) -> Any:
        self.gate(run)
        self.tick_all(run, "off")
        for text in ("15", "15", "9"):
            self.say(run, "drain", "litres", text=text)
        self.say(run, "drain", "tick", "siphon")
        self.say(run, "drain", "done")
        self.say(run, "refill", "litres", text="39")
        self.say(run, "refill", "done")
        self.tick_all(run, "on")
        self.say(run, "dose", "done")
        return self.say(run, "again", "done")

    def test_the_whole_work_writes_what_was_really_done(self):
        run, _ = self.start()
        done = self.finish(run)
        self.assertTrue(done["ended"])
        self.assertIn("39.0 L out and 39.0 L in; planned were 40.1 L.", done["result"])
        self.assertEqual(self.rows("SELECT out_l, in_l FROM change ORDER BY entry_id DESC LIMIT 1"), [(39.0, 39.0)])
        kinds = [row[0] for row in self.rows("SELECT kind FROM entry WHERE command = ?", done["command"])]
        self.assertEqual(sorted(kinds), ["care", "care", "change", "dose"])
        strip = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}["alkalinity"]
        self.assertIn("expected", strip["verdict"]["words"])
        self.assertGreater(float(strip["present"]["text"]), 8.0)

    def test_the_finished_work_can_be_taken_back_as_one(self):
        run, _ = self.start()
        done = self.finish(run)
        self.post(f"/record/{done['command']}/void", None)
        strip = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}["alkalinity"]
        self.assertNotIn("expected", strip["verdict"]["words"])

    def test_a_gate_that_is_not_met_computes_the_correction(self):
        run, _ = self.start()
        self.say(run, "look", "done")
        answer = self.say(run, "batch", "measured", "salinity", "33.0")
        line = next(one for one in answer["current"]["gate"] if one["parameter"] == "salinity")
        self.assertFalse(line["met"])
        refused = self.send(f"/runs/{run}/answers", {"step": "batch", "kind": "done"})
        self.assertEqual(refused.status_code, 409)
        self.assertTrue(refused.json()["missing"])

    def test_values_are_read_like_on_the_bench(self):
        run, _ = self.start()
        self.say(run, "look", "done")
        path = f"/runs/{run}/answers"
        self.refused(path, {"step": "batch", "kind": "measured", "item": "salinity", "text": "350"}, "salinity")
        self.refused(path, {"step": "batch", "kind": "measured", "item": "alkalinity", "text": "8,2"}, "alkalinity")
        self.refused(path, {"step": "batch", "kind": "measured", "item": "hope", "text": "8"}, "item")
        self.refused(path, {"step": "nowhere", "kind": "done"}, "step")

    def test_power_cannot_be_left_unconfirmed(self):
        run, _ = self.start()
        self.gate(run)
        refused = self.send(f"/runs/{run}/answers", {"step": "off", "kind": "done"})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("heater", refused.json()["missing"])

    def test_starting_again_goes_on_with_the_same_work(self):
        run, _ = self.start()
        self.gate(run)
        step = self.rows("SELECT step_id FROM run WHERE id = ?", run)[0][0]
        again = self.post("/runs", {"step_id": step})
        self.assertEqual((again["id"], again["current"]["id"]), (run, "off"))
        self.assertEqual(self.get("/harbour")["open_work"][0]["run_id"], run)

    def test_a_repeated_answer_counts_once(self):
        run, _ = self.start()
        self.gate(run)
        self.tick_all(run, "off")
        body = {"step": "drain", "kind": "litres", "text": "15"}
        for _ in range(2):
            answer = self.post(f"/runs/{run}/answers", body, key="bucket-no-1")
        self.assertEqual(answer["current"]["litres"]["total"], 15)

    def test_abandoned_with_a_reason_keeps_what_was_drained(self):
        run, _ = self.start()
        self.gate(run)
        self.tick_all(run, "off")
        self.say(run, "drain", "litres", text="15")
        self.refused(f"/runs/{run}/abandon", {"reason": ""}, "reason")
        ended = self.post(f"/runs/{run}/abandon", {"reason": "hose split"})
        self.assertEqual((ended["ended"], ended["abandoned"]), (True, "hose split"))
        self.assertEqual(self.rows("SELECT out_l, in_l FROM change ORDER BY entry_id DESC LIMIT 1"), [(15.0, 0.0)])
        self.assertEqual(self.send(f"/runs/{run}/answers", {"step": "drain", "kind": "done"}).status_code, 409)

    def test_a_dose_step_is_recorded_from_the_rota(self):
        self.post(f"/systems/{BEACON}/bench", session(alkalinity="6.4", salinity="34.9"))
        self.put(alkalinity=8.5)
        dose = next(task for task in self.get("/rota")["lanes"][0]["tasks"] if task["task"] == "dose")
        body = {"task": "dose", "due": dose["due"], "step_id": dose["step_id"]}
        self.assertEqual(self.send("/runs", {"step_id": dose["step_id"]}).status_code, 422)
        self.post(f"/systems/{BEACON}/care/done", body)
        self.assertEqual(self.rows("SELECT additive FROM dose ORDER BY entry_id DESC LIMIT 1"), [("soda ash",)])
