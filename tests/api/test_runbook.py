"""Runbooks through the API: at the tank, with timers, two people, troubles, and what is left in the record."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from salttide.clock import PinnedClock
from tests.api.base import BEACON, NOW, session
from tests.api.test_change import PlanTest

START = datetime(2026, 12, 1, 9, 0, tzinfo=UTC)


class TickingClock(PinnedClock):
    """The keeper's clock stands; the one that timers go by is turned by the test."""

    at = START

    def ticks(self) -> datetime:
        return self.at


class RunTest(PlanTest):
    def setUp(self) -> None:
        super().setUp()
        self.clock = TickingClock(NOW)
        self.app.state.clock = self.clock

    def wait(self, minutes: float) -> None:
        self.clock.at += timedelta(minutes=minutes)

    def start(self) -> int:
        return int(self.post("/runs", {"step_id": self.put()["step_id"]})["id"])

    def say(self, run: int, step: str, kind: str, item: str = "", text: str = "", seen: int | None = None) -> Any:
        body = {"step": step, "kind": kind, "item": item, "text": text, "seen": seen}
        return self.post(f"/runs/{run}/answers", body)

    def open(self, run: int, step: str) -> Any:
        return next(one for one in self.get(f"/runs/{run}")["open"] if one["id"] == step)

    def gate(self, run: int) -> None:
        self.say(run, "set_out", "done")
        self.say(run, "look", "done")
        for item, text in (("temperature", "25.2"), ("salinity", "36.1"), ("alkalinity", "8.5")):
            self.say(run, "batch", "measured", item, text)
        self.say(run, "batch", "done")

    def tick_all(self, run: int, step: str) -> None:
        for item in self.open(run, step)["items"]:
            self.say(run, step, "tick", item["key"])
        self.say(run, step, "done")

    def to_drain(self, run: int) -> None:
        self.gate(run)
        self.tick_all(run, "off")
        self.say(run, "cool", "timer")
        self.say(run, "creep", "done")
        self.say(run, "panels", "done")
        self.wait(15)
        self.say(run, "cool", "done")

    def finish(self, run: int) -> Any:
        self.to_drain(run)
        for text in ("15", "15", "9"):
            self.say(run, "drain", "litres", text=text)
        self.say(run, "drain", "done")
        self.say(run, "sand", "tick", "siphon")
        self.say(run, "sand", "done")
        self.say(run, "search", "done")
        self.say(run, "refill", "litres", text="39")
        self.say(run, "refill", "done")
        self.tick_all(run, "on")
        self.say(run, "dose", "done")
        self.say(run, "skimmer", "done")
        return self.say(run, "again", "done")


class WaterChange(RunTest):
    def test_the_whole_work_writes_what_was_really_done(self) -> None:
        done = self.finish(self.start())
        self.assertTrue(done["ended"])
        self.assertIn("39.0 L out and 39.0 L in; planned were 40.1 L.", done["result"])
        self.assertEqual(self.rows("SELECT out_l, in_l FROM change ORDER BY entry_id DESC LIMIT 1"), [(39.0, 39.0)])
        kinds = [row[0] for row in self.rows("SELECT kind FROM entry WHERE command = ?", done["command"])]
        self.assertEqual(sorted(kinds), ["care", "care", "change", "dose"])
        strip = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}["alkalinity"]
        self.assertIn("expected", strip["verdict"]["words"])
        self.assertGreater(float(strip["present"]["text"]), 8.0)

    def test_a_look_again_stands_on_the_rota_and_is_ticked_off_there(self) -> None:
        self.finish(self.start())
        look = next(task for task in self.get("/rota")["lanes"][0]["tasks"] if task["task"] == "look")
        self.assertEqual((look["name"], look["day"]), ("Look again after the change", "2026-11-24"))
        titles = [item["title"] for item in self.get(f"/systems/{BEACON}/sheet")["next"]]
        self.assertIn("Look again after the change", titles)
        body = {"task": "look", "due": look["due"], "step_id": look["step_id"]}
        self.post(f"/systems/{BEACON}/care/done", body)
        self.assertNotIn("look", [task["task"] for task in self.get("/rota")["lanes"][0]["tasks"]])

    def test_the_finished_work_can_be_taken_back_as_one(self) -> None:
        done = self.finish(self.start())
        self.post(f"/record/{done['command']}/undo", None)
        strip = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}["alkalinity"]
        self.assertNotIn("expected", strip["verdict"]["words"])
        self.assertNotIn("look", [task["task"] for task in self.get("/rota")["lanes"][0]["tasks"]])

    def test_a_gate_that_is_not_met_computes_the_correction(self) -> None:
        run = self.start()
        self.say(run, "set_out", "done")
        self.say(run, "look", "done")
        answer = self.say(run, "batch", "measured", "salinity", "33.0")
        line = next(one for one in answer["open"][0]["gate"] if one["parameter"] == "salinity")
        self.assertFalse(line["met"])
        self.assertEqual([part["part"] for part in line["parts"]], ["system", "plume"])
        refused = self.send(f"/runs/{run}/answers", {"step": "batch", "kind": "done"})
        self.assertEqual(refused.status_code, 409)
        self.assertTrue(refused.json()["missing"])

    def test_values_are_read_like_on_the_bench(self) -> None:
        run = self.start()
        self.say(run, "set_out", "done")
        self.say(run, "look", "done")
        path = f"/runs/{run}/answers"
        self.refused(path, {"step": "batch", "kind": "measured", "item": "salinity", "text": "350"}, "salinity")
        self.refused(path, {"step": "batch", "kind": "measured", "item": "alkalinity", "text": "8,2,1"}, "alkalinity")
        self.refused(path, {"step": "batch", "kind": "measured", "item": "hope", "text": "8"}, "item")
        self.refused(path, {"step": "nowhere", "kind": "done"}, "step")

    def test_power_cannot_be_left_unconfirmed(self) -> None:
        run = self.start()
        self.gate(run)
        refused = self.send(f"/runs/{run}/answers", {"step": "off", "kind": "done"})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("heater", refused.json()["missing"])

    def test_starting_again_goes_on_with_the_same_work(self) -> None:
        run = self.start()
        self.gate(run)
        step = self.rows("SELECT step_id FROM run WHERE id = ?", run)[0][0]
        again = self.post("/runs", {"step_id": step})
        self.assertEqual((again["id"], again["current"]), (run, "off"))
        self.assertEqual(self.get("/harbour")["open_work"][0]["run_id"], run)

    def test_abandoned_with_a_reason_keeps_what_was_drained(self) -> None:
        run = self.start()
        self.to_drain(run)
        self.say(run, "drain", "litres", text="2 cm")
        self.refused(f"/runs/{run}/abandon", {"reason": ""}, "reason")
        ended = self.post(f"/runs/{run}/abandon", {"reason": "hose split"})
        self.assertEqual((ended["ended"], ended["abandoned"]), (True, "hose split"))
        # 6550.87 cm2 beside the rock (6773.76 - 9807/44), 2 cm: 13.10 L.
        ((out_l, in_l),) = self.rows("SELECT out_l, in_l FROM change ORDER BY entry_id DESC LIMIT 1")
        self.assertAlmostEqual(out_l, 13.1017, places=3)
        self.assertEqual(in_l, 0)
        self.assertEqual(self.send(f"/runs/{run}/answers", {"step": "drain", "kind": "done"}).status_code, 409)

    def test_a_dose_step_is_recorded_from_the_rota(self) -> None:
        self.post(f"/systems/{BEACON}/bench", session(alkalinity="6.4", salinity="34.9"))
        self.put(alkalinity=8.5)
        dose = next(task for task in self.get("/rota")["lanes"][0]["tasks"] if task["task"] == "dose")
        body = {"task": "dose", "due": dose["due"], "step_id": dose["step_id"]}
        self.assertEqual(self.send("/runs", {"step_id": dose["step_id"]}).status_code, 422)
        self.post(f"/systems/{BEACON}/care/done", body)
        self.assertEqual(self.rows("SELECT additive FROM dose ORDER BY entry_id DESC LIMIT 1"), [("soda ash",)])


class Timers(RunTest):
    def test_they_run_by_the_machines_clock_several_at_once(self) -> None:
        run = self.start()
        self.gate(run)
        self.tick_all(run, "off")
        now = self.say(run, "cool", "timer")
        self.assertEqual(now["timers"][0]["ends_at"], (START + timedelta(minutes=15)).isoformat())
        self.assertEqual((now["current"], [one["id"] for one in now["open"]]), ("creep", ["cool", "creep", "panels"]))
        self.wait(14)
        self.assertEqual(self.send(f"/runs/{run}/answers", {"step": "cool", "kind": "done"}).status_code, 409)
        self.wait(1)
        self.assertEqual(self.get(f"/runs/{run}")["current"], "cool")
        self.say(run, "cool", "done")
        self.assertEqual(self.get(f"/runs/{run}")["timers"], [])

    def test_two_timers_of_one_group_run_side_by_side_each_to_its_own_ring(self) -> None:
        run = self.post("/runs", {"system_id": BEACON, "runbook": "power_failure"})["id"]
        self.say(run, "safe", "done")
        self.tick_all(run, "still")
        self.say(run, "circulate", "timer")
        self.wait(5)
        timers = self.say(run, "warmth", "timer")["timers"]
        ends = {timer["step"]: timer["ends_at"] for timer in timers}
        quarter, hour = START + timedelta(minutes=15), START + timedelta(minutes=65)
        self.assertEqual(ends, {"circulate": quarter.isoformat(), "warmth": hour.isoformat()})
        # Once it has rung it may be started again, for the next fifty jugs.
        self.wait(11)
        again = {timer["step"]: timer["ends_at"] for timer in self.say(run, "circulate", "timer")["timers"]}
        self.assertEqual(again["circulate"], (START + timedelta(minutes=31)).isoformat())

    def test_a_timer_that_runs_is_not_started_again_by_another_hand(self) -> None:
        run = self.start()
        self.gate(run)
        self.tick_all(run, "off")
        first = self.say(run, "cool", "timer")["timers"][0]["ends_at"]
        self.wait(5)
        self.assertEqual(self.say(run, "cool", "timer")["timers"][0]["ends_at"], first)

    def test_the_clock_of_the_air_knows_its_bound_and_for_whom(self) -> None:
        run = self.start()
        self.to_drain(run)
        now = self.say(run, "drain", "clock_on", "air")
        self.assertEqual(now["clocks"][0]["since"], self.clock.at.isoformat())
        self.assertGreater(now["clocks"][0]["bound_min"], 0)
        self.wait(4)
        now = self.say(run, "drain", "clock_off", "air")
        self.assertEqual((now["clocks"][0]["since"], now["clocks"][0]["minutes"]), (None, 4.0))


class TwoPeople(RunTest):
    def test_a_bucket_that_both_count_is_asked_about(self) -> None:
        run = self.start()
        self.to_drain(run)
        seen = self.get(f"/runs/{run}")["seen"]
        self.say(run, "drain", "litres", text="15", seen=seen)
        body = {"step": "drain", "kind": "litres", "text": "15", "seen": seen}
        refused = self.send(f"/runs/{run}/answers", body)
        self.assertEqual(refused.status_code, 409)
        self.assertIn("15.0 L in all", refused.json()["detail"])
        now = self.say(run, "drain", "litres", text="15", seen=seen + 1)
        self.assertEqual(next(one for one in now["open"] if one["id"] == "drain")["litres"]["total"], 30)

    def test_what_both_finish_is_finished_once(self) -> None:
        run = self.start()
        seen = self.get(f"/runs/{run}")["seen"]
        for _ in range(2):
            now = self.say(run, "set_out", "done", seen=seen)
        self.assertEqual((now["current"], now["seen"]), ("look", seen + 1))

    def test_a_repeated_answer_counts_once(self) -> None:
        run = self.start()
        self.to_drain(run)
        for _ in range(2):
            answer = self.post(
                f"/runs/{run}/answers", {"step": "drain", "kind": "litres", "text": "15"}, key="bucket-no-1"
            )
        self.assertEqual(answer["open"][0]["litres"]["total"], 15)

    def test_a_pause_is_seen_and_ended_on_another_device(self) -> None:
        run = self.start()
        self.say(run, "", "pause")
        self.assertTrue(self.get(f"/runs/{run}")["paused"])
        refused = self.send(f"/runs/{run}/answers", {"step": "set_out", "kind": "done"})
        self.assertIn("paused", refused.json()["detail"])
        self.say(run, "", "resume")
        self.say(run, "set_out", "done")

    def test_a_trouble_is_seen_by_both(self) -> None:
        run = self.start()
        self.to_drain(run)
        now = self.say(run, "", "trouble", "hose")
        self.assertEqual(now["troubles_on"], ["hose"])
        sheet = next(one for one in now["troubles"] if one["key"] == "hose")
        self.assertTrue(sheet["first"] and sheet["time_left"])
        self.assertEqual(self.say(run, "", "settled", "hose")["troubles_on"], [])


class OnASystem(RunTest):
    def test_the_books_for_a_system_as_it_is(self) -> None:
        offers = self.get(f"/systems/{BEACON}/runbooks")
        self.assertEqual([one["key"] for one in offers], ["flood_drill", "power_failure", "rock_scrub"])
        run = self.post("/runs", {"system_id": BEACON, "runbook": "power_failure"})
        offers = self.get(f"/systems/{BEACON}/runbooks")
        self.assertEqual(offers[1]["run_id"], run["id"])
        self.assertEqual(run["name"], "Power failure, Beacon")

    def test_a_power_failure_leaves_readings_a_happening_and_two_looks(self) -> None:
        run = self.post("/runs", {"system_id": BEACON, "runbook": "power_failure"})["id"]
        self.say(run, "safe", "done")
        self.tick_all(run, "still")
        for step in ("circulate", "quiet"):
            self.say(run, step, "done")
        self.say(run, "warmth", "measured", "temperature", "24.8")
        self.say(run, "warmth", "done")
        self.say(run, "back", "done")
        self.tick_all(run, "on")
        self.say(run, "values", "measured", "temperature", "24.7")
        self.say(run, "values", "measured", "salinity", "34.9")
        self.say(run, "values", "done")
        done = self.say(run, "count", "done")
        self.assertTrue(done["ended"])
        kinds = [row[0] for row in self.rows("SELECT kind FROM entry WHERE at >= '2026-11-24T17:40' ORDER BY id")]
        self.assertEqual(kinds, ["reading", "reading", "happening"])
        looks = [task["day"] for task in self.get("/rota")["lanes"][0]["tasks"] if task["task"] == "look"]
        self.assertEqual(looks, ["2026-11-24", "2026-11-25"])

    def test_a_care_task_worked_through_its_book_is_done_on_the_rota_with_its_minutes(self) -> None:
        task = next(one for one in self.get("/rota")["lanes"][0]["tasks"] if one["task"] == "skimmer_neck")
        run = self.post("/runs", {"system_id": BEACON, "runbook": task["runbook"], "task": "skimmer_neck"})["id"]
        self.app.state.clock._at += timedelta(minutes=9)
        self.tick_all(run, "off")
        for step in ("read", "empty", "neck"):
            self.say(run, step, "done")
        self.tick_all(run, "on")
        kept = self.rows("SELECT task, minutes, timed FROM care ORDER BY entry_id DESC LIMIT 1")
        self.assertEqual(kept, [("skimmer_neck", 9.0, 1)])
        after = next(one for one in self.get("/rota")["lanes"][0]["tasks"] if one["task"] == "skimmer_neck")
        self.assertGreater(after["due"], task["due"])

    def test_what_was_found_is_told_at_its_step_and_kept_with_the_task(self) -> None:
        run = self.post("/runs", {"system_id": BEACON, "runbook": "skimmer_cup", "task": "skimmer_cup"})["id"]
        self.tick_all(run, "off")
        step = self.open(run, "read")
        self.assertEqual([one["key"] for one in step["finds"]], ["cup_level", "cup_colour"])
        wrong = {"step": "read", "kind": "found", "item": "cup_level", "text": "170"}
        self.assertEqual(self.refused(f"/runs/{run}/answers", wrong, "found.cup_level")["accepted"], "0 to 100 %")
        self.say(run, "read", "found", "cup_level", "80 %")
        self.say(run, "read", "found", "cup_colour", "dark and dry")
        self.say(run, "read", "found", "cup_level", "75")
        self.assertEqual(self.open(run, "read")["found"], {"cup_colour": "dark and dry", "cup_level": "75"})
        for step in ("read", "empty", "neck"):
            self.say(run, step, "done")
        self.tick_all(run, "on")
        told = self.get(f"/systems/{BEACON}/care/skimmer_cup")["times"][0]
        self.assertEqual(sorted(told["found"]), ["Cup filled: 75 %", "In the cup: dark and dry"])

    def test_a_rehearsal_is_dated_and_nothing_happened(self) -> None:
        run = self.post("/runs", {"system_id": BEACON, "runbook": "power_failure", "task": "power_drill"})["id"]
        self.say(run, "safe", "done")
        self.tick_all(run, "still")
        for step in ("circulate", "quiet"):
            self.say(run, step, "done")
        self.say(run, "warmth", "measured", "temperature", "24.8")
        for step in ("warmth", "back"):
            self.say(run, step, "done")
        self.tick_all(run, "on")
        self.say(run, "values", "measured", "temperature", "24.7")
        self.say(run, "values", "measured", "salinity", "34.9")
        self.say(run, "values", "done")
        self.assertTrue(self.say(run, "count", "done")["ended"])
        kinds = [row[0] for row in self.rows("SELECT kind FROM entry WHERE at >= '2026-11-24T17:40' ORDER BY id")]
        self.assertEqual(sorted(kinds), ["care", "reading", "reading"])
        row = next(one for one in self.get("/rota/year")["rows"] if one["task"] == "power_drill")
        self.assertEqual(row["last"], "Tue 24 Nov")
        self.assertFalse([t for t in self.get("/rota")["lanes"][0]["tasks"] if t["task"] == "look"])

    def test_a_drill_tells_this_systems_own_litres_once_they_are_measured(self) -> None:
        service = {
            "bore_mm": 16, "hose_m": 3, "head_cm": 80, "pump_l_h": 0, "heater_w": 0, "fall_cm": 1.5, "outlet_cm": 6,
            "rim_cm": None,
        }  # fmt: skip
        self.send(f"/systems/{BEACON}/service", {**service, "fall_cm": None, "outlet_cm": None}, method="PUT")
        run = self.post("/runs", {"system_id": BEACON, "runbook": "flood_drill"})
        self.assertIn("never measured", run["open"][0]["text"])
        self.post(f"/runs/{run['id']}/abandon", {"reason": "measure first"})
        self.send(f"/systems/{BEACON}/service", service, method="PUT")
        run = self.post("/runs", {"system_id": BEACON, "runbook": "flood_drill"})
        # 117.6 x 57.6 cm falling by 1.5 cm: 10.16 L.
        self.assertIn("About 10.2 L run back", run["open"][0]["text"])

    def test_a_book_is_only_worked_for_its_own_task(self) -> None:
        self.refused("/runs", {"system_id": BEACON, "runbook": "skimmer_cup", "task": "siphon"}, "task")
        self.refused("/runs", {"system_id": BEACON, "runbook": "skimmer_cup", "task": "tea"}, "task")

    def test_what_cannot_be_worked_on_is_refused_at_its_field(self) -> None:
        self.refused("/runs", {}, "step_id")
        self.refused("/runs", {"system_id": BEACON, "runbook": "water_change"}, "runbook")
        self.refused("/runs", {"system_id": BEACON, "runbook": "tea"}, "runbook")
