"""Harbour and the rota across systems: what is due, how long it takes, what waits."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any

from tests.api.base import BEACON, SKIFF, SLIPWAY, ApiTest, confirmed


class Harbour(ApiTest):
    def glance(self, system: int) -> Any:
        return next(one for one in self.get("/harbour")["systems"] if one["id"] == system)

    def later(self, **span: float) -> None:
        """Let the pinned clock stand later."""
        self.app.state.clock._at += timedelta(**span)

    def test_the_local_time_and_date_are_the_keepers(self):
        harbour = self.get("/harbour")
        self.assertEqual((harbour["now"], harbour["today"]), ("2026-11-24T18:40:00+01:00", "2026-11-24"))
        self.later(hours=5, minutes=30)  # half past midnight in Copenhagen, still the 24th in UTC
        self.assertEqual(self.get("/harbour")["today"], "2026-11-25")

    def test_staff_marks_are_the_days_with_work_by_the_longest_of_each(self):
        marks = {mark["days"]: mark for mark in self.glance(BEACON)["marks"] if not mark["leaves"]}
        by_day: dict[int, list[dict[str, Any]]] = {}
        for task in self.get("/rota?days=15")["lanes"][0]["tasks"]:
            by_day.setdefault((date.fromisoformat(task["day"]) - date(2026, 11, 24)).days, []).append(task)
        self.assertEqual(marks.keys(), by_day.keys())
        for day, tasks in by_day.items():
            with self.subTest(day=day):
                self.assertEqual((marks[day]["more"], marks[day]["day"]), (len(tasks) - 1, tasks[0]["day"]))
                longest = max(task["minutes"] for task in tasks)
                self.assertIn(marks[day]["task"], {task["task"] for task in tasks if task["minutes"] == longest})

    def test_what_is_not_done_becomes_late_and_what_is_a_danger_is_todays(self):
        # The cup was due on the 27th and may wait until the 29th, the change on the 28th until 1 December, the front on
        # the 30th until 2 December. On the 2nd the first two are 5 and 4 days late, the third is due and not late.
        self.later(days=8)
        glance = self.glance(BEACON)
        late = {task["task"]: task["late_days"] for task in reversed(self.get("/rota")["lanes"][0]["tasks"])}
        self.assertEqual((late["skimmer_cup"], late["water_change"], late["scrape_front"]), (5, 4, 0))
        # Sock and count cannot wait, 5 and 6 minutes; the change can, until a day has the time for it.
        lane = {task["task"]: task["day"] for task in reversed(self.get("/rota")["lanes"][0]["tasks"])}
        self.assertEqual((lane["filter_sock"], lane["livestock_check"]), ("2026-12-02", "2026-12-02"))
        self.assertGreater(lane["water_change"], "2026-12-02")
        self.assertGreaterEqual(glance["minutes_today"], 5 + 6)
        total = sum(one["minutes_today"] for one in self.get("/harbour")["systems"])
        self.assertEqual(self.get("/harbour")["minutes_today"], total)

    def test_the_rota_and_harbour_agree_on_the_minutes(self):
        self.later(days=4)
        rota, harbour = self.get("/rota"), self.get("/harbour")
        self.assertEqual(rota["days"][0]["minutes"], harbour["minutes_today"])
        for lane in rota["lanes"]:
            today = sum(task["minutes"] for task in lane["tasks"] if task["day"] == rota["days"][0]["day"])
            self.assertEqual(today, self.glance(lane["system_id"])["minutes_today"])

    def test_old_readings_no_longer_say_what_the_water_is(self):
        self.later(days=91)
        glance = self.glance(BEACON)
        self.assertEqual((glance["standing"], glance["parameters"]), ("test first", []))
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["missing"], ["Salinity", "Alkalinity"])

    def test_standing_follows_the_water(self):
        self.assertEqual(self.glance(SKIFF)["standing"], "act today")
        self.assertTrue(self.glance(SKIFF)["act"])
        self.post(f"/systems/{SKIFF}/bench", confirmed(salinity="34.5", nitrate="30"))
        self.assertEqual(self.glance(SKIFF)["standing"], "act this week")
        self.assertIn("Nitrate 30.0 mg/L, over the band of 20.0 mg/L", self.glance(SKIFF)["reason"])
        self.assertEqual(self.glance(SLIPWAY)["standing"], "cycling, wait")

    def test_the_rota_can_be_asked_for_more_weeks_within_bounds(self):
        self.assertEqual(len(self.get("/rota?days=28")["days"]), 28)
        for days in (0, 61, "many"):
            with self.subTest(days=days):
                self.assertEqual(self.api.get(f"/api/rota?days={days}").status_code, 422)

    def test_every_task_says_why_and_with_what(self):
        for lane in self.get("/rota")["lanes"]:
            for task in lane["tasks"]:
                with self.subTest(lane=lane["name"], task=task["task"]):
                    self.assertTrue(task["why"])
                    self.assertLessEqual(task["earliest"], task["due"])
                    self.assertLessEqual(task["due"], task["latest"])
        acrylic = next(task for task in self.get("/rota")["lanes"][1]["tasks"] if task["task"] == "scrape_front")
        self.assertIn("acrylic-safe", acrylic["tool"])


class OverAll(ApiTest):
    def first_plan(self, system: int) -> str:
        """The title of the remedy that its first finding proposes."""
        cause = self.get(f"/systems/{system}/judgement")["findings"][0]["cause"]
        return str(self.get(f"/systems/{system}/remedies/{cause}")["remedies"][0]["title"])

    def test_next_over_all_systems_presses_first_and_names_the_system(self):
        items = self.get("/next?most=100")
        urgent = [item["urgent"] for item in items]
        self.assertEqual(urgent, sorted(urgent, reverse=True))
        self.assertEqual((items[0]["system"], items[0]["title"]), ("Beacon", self.first_plan(1)))
        for item in items:
            own = [each["title"] for each in self.get(f"/systems/{item['system_id']}/sheet")["next"]]
            self.assertIn(item["title"], own)
            self.assertTrue(item["reason"])
            self.assertGreater(item["minutes"], 0)

    def test_a_staff_says_what_leaves_its_band_as_the_sheet_does(self):
        found = 0
        for system in self.get("/harbour")["systems"]:
            sheet = self.get(f"/systems/{system['id']}/sheet?ahead=14")
            said = {strip["name"].lower(): strip["crossing"] for strip in sheet["strips"]}
            for mark in (mark for mark in system["marks"] if mark["leaves"]):
                day = (datetime.fromisoformat(sheet["now"]) + timedelta(days=mark["days"])).date().isoformat()
                self.assertEqual(said[mark["name"]]["at"][:10], day)
                found += 1
        self.assertGreater(found, 0)
