"""Breaking in through the API: the phase of Slipway, its proof, and the end."""

from tests.api.base import BEACON, SLIPWAY, ApiTest, session

PATH = f"/systems/{SLIPWAY}/breaking-in"


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
        self.assertEqual(self.api.get(f"/api/systems/{BEACON}/breaking-in").status_code, 409)

    def test_it_does_not_end_without_its_proof_unless_the_keeper_says_why(self):
        said = self.refused(f"{PATH}/end", {"preset": "soft_corals"}, "although")
        self.assertIn("Not proved yet", said["message"])
        self.refused(f"{PATH}/end", {"preset": "breaking_in", "although": "x"}, "preset")
        kept = self.post(f"{PATH}/end", {"preset": "soft_corals", "although": "mature rock moved over"})
        self.assertEqual(kept["words"], "Slipway is broken in")
        system = self.get(f"/systems/{SLIPWAY}")
        self.assertEqual((system["stage"], system["bands"]["nitrate"]["low"]), ("running", 2.0))
        first = self.get(f"/systems/{SLIPWAY}/record")[0]
        self.assertEqual(first["detail"], "breaking in ended: mature rock moved over")
        self.assertEqual(self.send(f"{PATH}/end", {"preset": "soft_corals"}).status_code, 409)

    def test_tests_move_the_phase(self):
        self.post(f"/systems/{SLIPWAY}/bench", session(ammonia="0.0", nitrite="0.0", nitrate="25"))
        state = self.get(PATH)
        self.assertEqual(state["words"], "Both are gone: now prove it")
        self.assertIn("0 of 2 measured doses", state["proof"])
