"""The failure board, the installation and the top-off through the API: one truth from every door, and back by undo."""

from __future__ import annotations

from typing import Any

from salttide.api.system import SystemBody
from tests.api.base import BEACON, EELGRASS, SKIFF, SLIPWAY, ApiTest
from tests.api.test_runbook import RunTest

URL = f"/systems/{BEACON}"


class Failures(RunTest):
    def line(self, key: str, system: int = BEACON) -> Any:
        return next(one for one in self.get(f"/systems/{system}/failures")["failures"] if one["key"] == key)

    def install(self, body: Any, system: int = BEACON) -> Any:
        answer = self.send(f"/systems/{system}/installation", body, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_every_system_has_its_board_and_beacons_is_as_its_tank_is_built(self) -> None:
        for system in (BEACON, EELGRASS, SKIFF, SLIPWAY):
            self.assertGreater(len(self.get(f"/systems/{system}/failures")["failures"]), 6)
        # One heater stuck on is survived, a blocked overflow is not: 72.5 x 40 x 20 cm of sump; 24 x 40 x 11 = 10.56 L
        # and ten minutes at 120 L/h, 20 L, into 117.6 x 57.6 x 2.5 = 16.93 L: 13.6 L on the floor.
        self.assertLessEqual(self.line("heater_on")["harm"], 1)
        blocked = self.line("overflow_blocked")
        self.assertEqual((blocked["open"], blocked["effects"][0]["text"]), (2, "13.6 L"))
        self.assertTrue(blocked["effects"][0]["working"])
        self.assertEqual(blocked["rehearsed"], "22 Aug 2026")
        self.assertEqual(self.line("siphon_holds")["stopped"], ["a siphon break, proven by a drill"])

    def test_a_preview_stores_nothing_and_saving_counts_everywhere_until_it_is_undone(self) -> None:
        body = self.get(f"{URL}/installation")
        body["top_off"]["reservoir_l"] = 8
        body["levels"]["fall_cm"] = 3
        shown = self.post(f"{URL}/failures/preview", body)
        top_off = next(one for one in shown["failures"] if one["key"] == "top_off_open")
        self.assertEqual((top_off["open"], top_off["stopped"]), (0, ["a smaller reservoir"]))
        self.assertGreater(self.line("top_off_open")["open"], 0)
        before = self.get(f"{URL}/installation")
        done = self.install(body)
        self.assertEqual(self.line("top_off_open")["open"], 0)
        # 6773.76 cm2 x 3 cm = 20.3 L, on the board and on the plan of a change alike.
        self.assertIn("20.3 L", self.line("return_stops")["words"])
        plan = self.post(f"{URL}/change/preview", self.get(f"{URL}/change")["request"])
        self.assertIn("20.3", [one["value"]["text"] for one in plan["steps"][0]["tank"] if one["key"] == "back"])
        self.post(f"/record/{done['command']}/undo", None)
        self.assertEqual(self.get(f"{URL}/installation"), before)
        self.assertGreater(self.line("top_off_open")["open"], 0)

    def test_a_drill_replaces_what_was_computed(self) -> None:
        self.assertIn("10.2 L", self.line("return_stops")["words"])
        run = int(self.post("/runs", {"system_id": BEACON, "runbook": "flood_drill"})["id"])
        self.say(run, "say", "done")
        for key in ("heater", "top_off", "skimmer", "return_pump"):
            self.say(run, "stop", "tick", key)
        self.say(run, "stop", "done")
        self.say(run, "rise", "found", "sump_rise", "5")
        self.say(run, "rise", "timer")
        self.wait(6)
        self.say(run, "rise", "done")
        self.say(run, "siphon", "done")
        for key in ("return_pump", "skimmer", "top_off", "heater"):
            self.say(run, "on", "tick", key)
        self.say(run, "on", "done")
        done = self.say(run, "note", "done")
        # 72.5 x 40 x 5 cm.
        self.assertIn("14.5 L", self.line("return_stops")["words"])
        self.assertTrue(done["ended"])
        self.assertEqual(self.line("return_stops")["rehearsed"], "24 Nov 2026")

    def test_heat_is_one_number_on_the_board_in_the_runbook_and_on_the_sheet(self) -> None:
        words = self.line("power")["words"]
        hours = next(part for part in words.split("; ") if "22.0 °C after" in part).split("after ")[1].split(" ")[0]
        sheet = self.get(f"{URL}/emergencies/power_failure")
        self.assertIn(f"about {hours} h to 22.0 °C", sheet["bears"])

    def test_wrong_values_are_refused_at_their_field_and_a_unit_may_be_typed(self) -> None:
        body = self.get(f"{URL}/installation")
        for part, field, value in (
            ("levels", "rim_cm", 12),
            ("levels", "outlet_cm", 60),
            ("top_off", "reservoir_l", 9000),
            ("heating", "lamp_h", 30),
            ("heating", "cold", 30),
            ("heating", "cooled_from", 25),
        ):
            wrong = {**body, part: {**body[part], field: value}}
            answer = self.send(f"{URL}/failures/preview", wrong)
            self.assertEqual(answer.status_code, 422, (part, field, answer.text))
            self.assertTrue(answer.json()["fields"][0]["field"].startswith(f"{part}."), answer.text)
        inches = {**body, "levels": {**body["levels"], "freeboard_cm": "1 in"}}
        drawn = self.post(f"{URL}/failures/preview", inches)["drawing"]
        self.assertAlmostEqual(drawn["levels"]["freeboard_cm"], 2.54)

    def test_what_is_not_known_yet_is_asked_for_in_words(self) -> None:
        body = self.get(f"{URL}/installation")
        body["levels"] |= {"chamber_cm": None, "freeboard_cm": None}
        found = self.post(f"{URL}/failures/preview", body)
        blocked = next(one for one in found["failures"] if one["key"] == "overflow_blocked")
        self.assertEqual(len(blocked["missing"]), 2)
        self.assertEqual(blocked["harm_words"], "not known yet")

    def test_the_set_up_leaves_it_alone(self) -> None:
        before = self.get(f"{URL}/installation")
        system = self.get(f"{URL}")
        edit = {**{key: system[key] for key in SystemBody.model_fields}, "name": "Beacon 2"}
        answer = self.send(f"{URL}", edit, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(self.get(f"{URL}/installation"), before)


class TopOff(ApiTest):
    def test_the_page_tells_what_evaporates_what_is_left_and_what_stops_it(self) -> None:
        found = self.get(f"{URL}/top-off")
        self.assertIn("from 5 refills", found["evaporation"]["words"])
        self.assertEqual(
            [one["name"] for one in found["reservoir"]], ["Reservoir", "Largest reservoir that does no harm"]
        )
        self.assertFalse(found["guarded"])
        self.assertIn("They share the pump's own switch", found["shared"])
        self.assertEqual({one["key"] for one in found["failures"]}, {"top_off_open", "runs_dry", "reservoir_empty"})
        board = {one["key"]: one["words"] for one in self.get(f"{URL}/failures")["failures"]}
        for one in found["failures"]:
            self.assertEqual(one["words"], board[one["key"]])

    def test_a_longer_absence_is_less_likely_to_be_outlasted(self) -> None:
        chances = [self.get(f"{URL}/top-off?days={days}")["away"][0]["words"] for days in (5, 60)]
        self.assertIn("100 %", chances[0])
        self.assertIn("0 %", chances[1])
        self.assertEqual(self.api.get(f"/api{URL}/top-off?days=0").status_code, 422)

    def test_an_implausible_top_off_is_doubted(self) -> None:
        self.assertEqual(self.get(f"/systems/{SKIFF}/top-off")["doubts"], [])
        for line in ("skiff topped off 1 l", "skiff topped off 20 l"):
            self.post("/jot/record", {"text": line, "system_id": SKIFF, "confirmed": True})
        self.assertIn("20.0 L topped off", self.get(f"/systems/{SKIFF}/top-off")["doubts"][0])

    def test_by_hand_there_is_no_reservoir_and_nothing_to_stop(self) -> None:
        found = self.get(f"/systems/{SKIFF}/top-off")
        self.assertEqual((found["automatic"], found["reservoir"], found["refills"]), (False, [], []))
