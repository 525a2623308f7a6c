"""One system that cannot be told: the others stand, and the way back is on its card."""

from __future__ import annotations

from datetime import date
from typing import Any
from unittest.mock import patch

from salttide.core.overview.state import outlook
from salttide.core.science.parameters import Parameter
from tests.api.base import BEACON, EELGRASS, ApiTest, session

POISON = 431.0
"""A calcium that is made to be unbearable here."""


def unbearable(system: Any, book: Any, *rest: Any) -> Any:
    if any(one.parameter == Parameter.CALCIUM and one.value == POISON for one in book.readings):
        raise OverflowError("date value out of range")
    return outlook(system, book, *rest)


class Broken(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        self.before = self.get("/rota?days=28")
        broken = patch("salttide.household.household.outlook", unbearable)
        broken.start()
        self.addCleanup(broken.stop)
        with self.assertLogs("salttide", "ERROR") as self.written:
            self.done = self.post(f"/systems/{BEACON}/bench", session(calcium="431"))
            self.harbour = self.get("/harbour")

    def placed(self) -> list[tuple[Any, ...]]:
        sql = "SELECT task, due, day FROM care_placing WHERE system_id = ? AND live = 1 ORDER BY task, due"
        return self.rows(sql, BEACON)

    def test_harbour_shows_the_others_and_what_is_wrong_with_this_one(self) -> None:
        self.assertNotIn(BEACON, [one["id"] for one in self.harbour["systems"]])
        self.assertEqual(len(self.harbour["systems"]), 3)
        (broken,) = self.harbour["broken"]
        self.assertEqual((broken["system_id"], broken["name"]), (BEACON, "Beacon"))
        self.assertRegex(broken["reference"], "^[0-9a-f]{8}$")
        self.assertTrue(any(broken["reference"] in line for line in self.written.output))
        self.assertEqual(broken["entries"][0]["words"], "Calcium 431 mg/L")

    def test_every_other_page_answers_too(self) -> None:
        with self.assertLogs("salttide", "ERROR"):
            for path in ("/next", "/mix", "/gear", "/rota/year", "/rota/reminders", "/rota/calendar.ics", "/log"):
                with self.subTest(path=path):
                    self.assertEqual(self.api.get(f"/api{path}").status_code, 200)
            for path in ("/rota?days=14", "/rota/round"):
                self.assertEqual([one["name"] for one in self.get(path)["broken"]], ["Beacon"])
            away = self.post("/rota/away", {"first": "2026-12-05", "last": "2026-12-09"})
            number = self.rows("SELECT max(id) FROM away")[0][0]
            sheet = self.get(f"/rota/away/{number}/hand-over")["sheet"]
            self.assertTrue(away["command"])
            self.assertNotIn("Beacon", [one["name"] for one in sheet["systems"]])
            self.assertRegex(sheet["untold"][0], r"^Beacon is missing here: .*\(error [0-9a-f]{8}\)\.$")

    def test_taking_the_entry_back_brings_the_system_back_as_it_was(self) -> None:
        with self.assertLogs("salttide", "ERROR"):
            # Work goes on meanwhile in another system, and places the rota anew without this one.
            lane = next(lane for lane in self.get("/rota?days=28")["lanes"] if lane["system_id"] == EELGRASS)
            task = next(task for task in lane["tasks"] if task["task"] == "livestock_check")
            done = {"task": task["task"], "due": task["due"], "step_id": None}
            held = self.placed()
            self.post(f"/systems/{EELGRASS}/care/done", done)
            self.assertEqual(self.placed(), held, "where its own work stands is left as it was")
        self.post(f"/record/{self.harbour['broken'][0]['entries'][0]['command']}/undo", {})
        self.assertEqual(self.get("/harbour")["broken"], [])
        days = {
            (lane["system_id"], task["task"], task["due"]): date.fromisoformat(task["day"])
            for lane in self.get("/rota?days=28")["lanes"]
            for task in lane["tasks"]
        }
        lane = next(lane for lane in self.before["lanes"] if lane["system_id"] == BEACON)
        for task in lane["tasks"]:
            self.assertEqual(days[BEACON, task["task"], task["due"]].isoformat(), task["day"], task)


class BrokenPlan(ApiTest):
    def test_a_plan_that_cannot_be_read_is_offered_to_be_taken_back(self) -> None:
        dose = {"kind": "dose", "day": "2026-11-26", "additive_id": 1, "amount": "3 g", "although": True}
        self.post(f"/systems/{BEACON}/plan/doses", dose)
        with self.app.state.database.write() as connection:
            connection.execute(
                "UPDATE plan_step SET job = json_set(job, '$.kind', 'alien') WHERE system_id = ?", (BEACON,)
            )
        with self.assertLogs("salttide", "ERROR"):
            (broken,) = self.get("/harbour")["broken"]
            first = broken["entries"][0]
            self.assertEqual((first["words"].partition(":")[0], first["day"]), ("planned", "Thu 26 Nov"))
            self.post(f"/record/{first['command']}/undo", {})
        self.assertEqual(self.get("/harbour")["broken"], [])


class FarDays(ApiTest):
    def test_the_ends_of_the_calendar_are_asked_for_and_answered(self) -> None:
        for day in ("0001-01-01", "9999-12-31"):
            for path in (f"/log?first={day}", f"/log?last={day}", f"/readings.csv?first={day}"):
                with self.subTest(path=path):
                    self.assertEqual(self.api.get(f"/api{path}").status_code, 200)

    def test_a_probe_of_the_year_one_is_refused(self) -> None:
        readings = [{"at": "0001-01-01T00:00:00+00:00", "value": 8.1}]
        body = {"parameter": "ph", "instrument": "probe P9", "readings": readings}
        said = self.refused(f"/systems/{BEACON}/probes", body, "readings.0.at")
        self.assertEqual(said["accepted"], "from 2000 on")
