"""The round of a day: its list across systems, and all of it recorded in one go."""

from typing import Any

from tests.api.base import BEACON, ApiTest


class Rounds(ApiTest):
    def busiest(self) -> str:
        days = self.get("/rota?days=14")["days"]
        return str(max(days, key=lambda day: day["minutes"])["day"])

    def round(self, day: str) -> dict[str, Any]:
        answer: dict[str, Any] = self.get(f"/rota/round?day={day}")
        return answer

    def done(self, found: dict[str, Any]) -> list[dict[str, Any]]:
        return [
            {
                "system_id": one["system_id"],
                "task": task["task"],
                "due": task["due"],
                "changed": {"litres": "10"} if task["task"] == "water_change" else None,
            }
            for one in found["systems"]
            for task in one["tasks"]
            # A programme's review is told on its own page.
            if not task["programme"]
        ]

    def test_it_holds_what_the_rota_has_on_that_day(self):
        day = self.busiest()
        found = self.round(day)
        lanes = self.get("/rota?days=14")["lanes"]
        for one in found["systems"]:
            lane = next(lane for lane in lanes if lane["system_id"] == one["system_id"])
            expected = sorted(task["task"] for task in lane["tasks"] if task["day"] == day)
            self.assertEqual(sorted(task["task"] for task in one["tasks"]), expected)
            self.assertEqual(one["tasks"][0]["starts"], 0)
        rota = {each["day"]: each["minutes"] for each in self.get("/rota?days=14")["days"]}
        self.assertEqual(found["minutes"], rota[day])

    def test_each_thing_is_packed_once_with_the_amounts_of_each_system(self):
        found = self.round(self.busiest())
        names = [item["name"] for item in found["kit"]]
        self.assertEqual(len(names), len(set(names)))
        self.assertIn("towels", names)

    def test_finished_in_one_go_with_the_time_shared_and_taken_back_in_one_go(self):
        found = self.round(self.busiest())
        done = self.done(found)
        count = len(self.rows("SELECT 1 FROM care"))
        took = 2 * found["minutes"]
        kept = self.post("/rota/round/finish", {"done": done, "minutes": str(took)})
        new = self.rows("SELECT minutes, timed FROM care ORDER BY entry_id DESC LIMIT ?", len(done))
        self.assertEqual(len(self.rows("SELECT 1 FROM care")), count + len(done))
        self.assertAlmostEqual(sum(minutes for minutes, _ in new), took)
        self.assertEqual({timed for _, timed in new}, {1})
        self.post(f"/record/{kept['command']}/undo", None)
        back = {
            (one["system_id"], task["task"]) for one in self.round(found["day"])["systems"] for task in one["tasks"]
        }
        self.assertLessEqual({(one["system_id"], one["task"]) for one in done}, back)

    def test_all_of_it_or_nothing(self):
        done = self.done(self.round(self.busiest()))
        count = len(self.rows("SELECT 1 FROM care"))
        self.refused("/rota/round/finish", {"done": [*done, {**done[0], "due": "2020-01-01"}]}, "task", 404)
        self.refused("/rota/round/finish", {"done": done, "minutes": "ages"}, "minutes")
        self.assertEqual(self.send("/rota/round/finish", {"done": []}).status_code, 422)
        self.assertEqual(len(self.rows("SELECT 1 FROM care")), count)

    def test_a_planned_change_is_in_it_and_is_done_at_the_tank(self):
        request = self.get(f"/systems/{BEACON}/change")["request"]
        self.post(f"/systems/{BEACON}/change/plans", request)
        found = self.round("2026-11-24")
        change = next(task for one in found["systems"] for task in one["tasks"] if task["planned"])
        self.assertEqual(change["task"], "water_change")
        self.assertTrue(any("buckets" in item["name"] for item in found["kit"]))

    def test_other_days_are_refused(self):
        # Six weeks are planned: the last day of them is the 41st after today.
        for day, said in (("2026-11-23", "choose today or a later day"), ("2027-01-05", "2026-11-24 to 2027-01-04")):
            with self.subTest(day):
                answer = self.api.get(f"/api/rota/round?day={day}")
                self.assertEqual(answer.status_code, 422)
                self.assertIn(said, answer.text)
        self.assertEqual(self.api.get("/api/rota/round?day=2027-01-04").status_code, 200)
