"""After missed days: what is a danger first, the rest spread within the minutes, and skipped in one press."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from salttide.clock import PinnedClock
from tests.api.base import NOW
from tests.api.test_acts import Acts

DANGERS = {"reservoir", "top_off_sensor", "heater_check", "filter_sock", "leak_alarm", "weirs", "livestock_check"}
"""What of the demo is a danger when it is left: water on the floor, salinity that runs away, a dead animal unseen."""


class NineDaysAway(Acts):
    def setUp(self) -> None:
        super().setUp()
        self.app.state.clock = PinnedClock(NOW + timedelta(days=9))
        self.rota_now = self.get("/rota?days=14")

    def groups(self) -> dict[str, list[dict[str, Any]]]:
        return {group["key"]: group["tasks"] for group in self.get("/rota?days=14")["catch_up"]}

    def test_no_day_is_much_too_full(self) -> None:
        # Thursday and Friday have 40 minutes, and a change of 50 that ends its window on Friday is nearly all there is.
        for day in self.rota_now["days"]:
            with self.subTest(day=day["words"]):
                self.assertLessEqual(day["minutes"], 1.8 * day["room"])
        over = [day for day in self.rota_now["days"] if day["minutes"] > 1.5 * day["room"]]
        self.assertLessEqual(len(over), 2)

    def test_what_is_a_danger_is_done_today_and_the_rest_is_spread(self) -> None:
        groups = self.groups()
        self.assertEqual([*groups], ["danger", "owed", "wait"])
        self.assertLessEqual({one["task"] for one in groups["danger"]}, DANGERS)
        today = {one["task"] for lane in self.rota_now["lanes"] for one in lane["tasks"] if one["day"] == "2026-12-03"}
        self.assertLessEqual({one["task"] for one in groups["danger"]}, today)
        self.assertTrue(all(one["words"].endswith("d late") for one in groups["danger"]))
        self.assertIn("water_change", {one["task"] for one in groups["owed"]})
        self.assertIn("tools", {one["task"] for one in groups["wait"]})
        # Said once: not again for each task among what does not fit.
        self.assertFalse([one for one in self.rota_now["shorts"] if "after its latest day" in one["words"]])

    def test_a_group_is_skipped_in_one_press_and_comes_back_with_one(self) -> None:
        # Any command stores the days on which the pages have shown the work.
        self.post("/rota/calendar/link", None)
        before, rota = self.groups(), self.get("/rota?days=42")
        items = [{key: one[key] for key in ("system_id", "task", "due", "step_id")} for one in before["wait"]]
        kept = self.post("/rota/skip", {"items": items, "reason": "missed; left until its next time"})
        self.assertNotIn("wait", self.groups())
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.get("/rota?days=42"), rota)

    def test_a_reason_is_needed_and_one_that_is_gone_leaves_all(self) -> None:
        one = self.groups()["wait"][0]
        item = {key: one[key] for key in ("system_id", "task", "due", "step_id")}
        self.refused("/rota/skip", {"items": [item], "reason": " "}, "reason")
        gone = {**item, "due": "2026-01-01"}
        self.assertEqual(self.send("/rota/skip", {"items": [item, gone], "reason": "no time"}).status_code, 404)
        self.assertIn(one, self.groups()["wait"])


class NothingMissed(Acts):
    def test_there_is_nothing_to_catch_up_on(self) -> None:
        self.assertEqual(self.get("/rota?days=14")["catch_up"], [])
