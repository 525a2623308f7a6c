"""Cycling through the API: the phase of Slipway, its proof, and the end."""

from datetime import timedelta

from salttide.core.ledger.entries import Dose, Reading
from salttide.core.science.parameters import Parameter
from salttide.store.ledger import record
from tests.api.base import BEACON, NOW, SLIPWAY, ApiTest, confirmed

PATH = f"/systems/{SLIPWAY}/cycling"


class BreakingIn(ApiTest):
    def test_slipway_is_past_its_ammonia_peak_with_its_reasons(self):
        state = self.get(PATH)
        self.assertEqual(state["day"], 17)
        self.assertEqual([p["state"] for p in state["phases"]], ["done", "done", "now", "ahead", "ahead"])
        self.assertEqual(state["words"], "Ammonia is gone, nitrite is near its peak")
        self.assertIn("Nitrate tests read too high", state["reason"])
        self.assertEqual(state["test"], "Test ammonia, nitrite and alkalinity on Thu 26 Nov.")
        self.assertIn("0.7 dKH for the 2.00 mg/L dosed so far", state["alkalinity"])
        self.assertIn("heat or circulation failed", state["why_no_change"])
        self.assertFalse(state["finished"])
        self.assertEqual((state["stages"], state["first_change"]), ([], ""))

    def test_a_system_that_runs_is_not_breaking_in(self):
        self.assertEqual(self.api.get(f"/api/systems/{BEACON}/cycling").status_code, 409)

    def test_it_does_not_end_without_its_proof_unless_the_keeper_says_why(self):
        said = self.refused(f"{PATH}/end", {"preset": "soft_corals"}, "although")
        self.assertIn("Not proved yet", said["message"])
        self.refused(f"{PATH}/end", {"preset": "breaking_in", "although": "x"}, "preset")
        kept = self.post(f"{PATH}/end", {"preset": "soft_corals", "although": "mature rock moved over"})
        self.assertEqual(kept["words"], "Slipway has finished cycling")
        system = self.get(f"/systems/{SLIPWAY}")
        self.assertEqual((system["stage"], system["bands"]["nitrate"]["low"]), ("running", 2.0))
        first = self.get(f"/systems/{SLIPWAY}/record")[0]
        self.assertEqual(first["detail"], "cycling ended: mature rock moved over")
        self.assertEqual(self.send(f"{PATH}/end", {"preset": "soft_corals"}).status_code, 409)

    def test_tests_move_the_phase(self):
        self.post(f"/systems/{SLIPWAY}/bench", confirmed(ammonia="0.0", nitrite="0.0", nitrate="25"))
        state = self.get(PATH)
        self.assertEqual(state["words"], "Both are gone: now prove it")
        self.assertIn("0 of 2 measured doses", state["proof"])

    def prove(self, nitrate: float) -> None:
        """Two measured doses of 2 mg/L, each gone a day later with nitrite; nitrate found."""
        litres = self.get(f"/systems/{SLIPWAY}/change")["volume"]["value"]
        found = [(Parameter.AMMONIA, 0.0, 0.1), (Parameter.NITRITE, 0.0, 0.1), (Parameter.NITRATE, nitrate, 1.0)]
        entries = []
        for hours in (74, 26):
            dosed = NOW - timedelta(hours=hours)
            entries.append(Dose(dosed, "ammonium chloride", 1.7, {Parameter.AMMONIA: 2.0 * litres}))
            entries += [Reading(dosed + timedelta(hours=26), p, value, sd, "kit") for p, value, sd in found]
        with self.app.state.database.write() as connection:
            record(connection, SLIPWAY, entries, "proved-00001", NOW)

    def test_once_proved_sheet_rail_and_planner_say_the_same(self):
        self.prove(30.0)
        self.assertTrue(self.get(PATH)["finished"])
        # 30 to 10 mg/L with clean water: two thirds of 280 L, 187 L.
        words = "First change 187 L (67 % of the water), before anything moves in."
        self.assertEqual(self.get(PATH)["first_change"], words)
        self.assertIn(words, [item["reason"] for item in self.get(f"/systems/{SLIPWAY}/sheet")["next"]])
        offer = self.get(f"/systems/{SLIPWAY}/change")
        request = offer["request"]
        self.assertEqual((offer["needs_emergency"], request["purpose"], request["target"]), (False, "first", 10.0))
        plan = self.post(f"/systems/{SLIPWAY}/change/preview", {**request, "salinity": None, "alkalinity": None})
        self.assertAlmostEqual(plan["steps"][0]["figures"][0]["value"]["value"], 186.7, delta=0.3)

    def test_a_first_change_whose_target_stands_already_is_refused_in_words(self):
        self.prove(10.0)
        self.assertEqual(self.get(PATH)["first_change"], "Nitrate is low enough: no first change is needed.")
        request = {
            **self.get(f"/systems/{SLIPWAY}/change")["request"],
            "purpose": "first",
            "parameter": "nitrate",
            "target": 10.0,
        }
        said = self.refused(f"/systems/{SLIPWAY}/change/preview", request, "target")
        self.assertIn("there already", said["message"])
