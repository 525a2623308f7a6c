"""Livestock and light through the API: entered, counted, undone, and what plans and the record make of it."""

from tests.api.base import EELGRASS, SKIFF, ApiTest

PIPEFISH = {
    "name": "pipefish", "demand": "demanding", "count": 6, "portions": 2, "air_min": 1,
    "tolerances": {"temperature": {"low": 22, "high": 25.5}}, "limits": {"salinity": 0.3, "alkalinity": 0.4},
}  # fmt: skip


class Livestock(ApiTest):
    def animals(self, system: int = SKIFF):
        return {one["name"]: one for one in self.get(f"/systems/{system}/livestock")["animals"]}

    def test_comes_back_as_it_was_entered(self):
        self.post(f"/systems/{SKIFF}/livestock", PIPEFISH)
        stored = self.animals()["pipefish"]
        self.assertEqual({key: stored[key] for key in PIPEFISH}, PIPEFISH)

    def test_births_losses_and_counts_with_their_place_in_the_record(self):
        self.post(f"/systems/{SKIFF}/livestock", PIPEFISH)
        place = f"/systems/{SKIFF}/livestock/{self.animals()['pipefish']['id']}"
        self.post(f"{place}/changes", {"turn": "born", "number": 12})
        lost = self.post(f"{place}/changes", {"turn": "lost", "number": 3, "cause": "jumped"})
        self.assertEqual((lost["words"], self.animals()["pipefish"]["count"]), ("pipefish: 3 lost, 15 now", 15))
        self.assertIn("3 pipefish, jumped", str(self.get(f"/systems/{SKIFF}/inspection")["events"]))
        self.post(f"{place}/changes", {"turn": "counted", "number": 11})
        self.post(f"{place}/changes", {"turn": "given away", "number": 1})
        self.assertEqual(self.animals()["pipefish"]["count"], 10)
        self.refused(f"{place}/changes", {"turn": "lost", "number": 11}, "number")
        # The loss was a mistake: taken back, and the later count still says 11 - 1.
        self.post(f"/record/{lost['command']}/undo", None)
        self.assertEqual(self.animals()["pipefish"]["count"], 10)
        self.assertNotIn("jumped", str(self.get(f"/systems/{SKIFF}/inspection")["events"]))

    def test_an_entry_can_be_taken_back(self):
        kept = self.post(f"/systems/{SKIFF}/livestock", PIPEFISH)
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertNotIn("pipefish", self.animals())

    def test_off_the_list_and_back(self):
        self.post(f"/systems/{SKIFF}/livestock", PIPEFISH)
        animal = self.animals()["pipefish"]["id"]
        self.post(f"/systems/{SKIFF}/livestock/{animal}/archive", None)
        self.assertNotIn("pipefish", self.animals())
        self.post(f"/systems/{SKIFF}/livestock/{animal}/restore", None)
        self.assertIn("pipefish", self.animals())

    def test_bad_animals_are_refused_at_their_field(self):
        for changes, field in (
            ({"name": " "}, "name"), ({"count": -2}, "count"), ({"portions": 80}, "portions"),
            ({"tolerances": {"temperature": {"low": 22, "high": 222}}}, "tolerances.temperature.high"),
            ({"limits": {"salinity": 30}}, "limits.salinity"), ({"demand": "divine"}, "demand"),
        ):  # fmt: skip
            with self.subTest(field=field):
                self.refused(f"/systems/{SKIFF}/livestock", {**PIPEFISH, **changes}, field)

    def test_a_plan_names_the_animal_that_sets_its_slowest_step(self):
        request = self.get(f"/systems/{SKIFF}/change")["request"]
        plain = self.api.post(f"/api/systems/{SKIFF}/change/preview", json=request).json()
        self.post(f"/systems/{SKIFF}/livestock", PIPEFISH)
        slow = self.api.post(f"/api/systems/{SKIFF}/change/preview", json=request).json()
        self.assertGreater(len(slow["steps"]), len(plain["steps"]))
        self.assertIn("Salinity may move by at most 0.3 ppt a day for the pipefish", slow["summary"])

    def test_another_system_does_not_know_it(self):
        self.post(f"/systems/{SKIFF}/livestock", PIPEFISH)
        animal = self.animals()["pipefish"]["id"]
        self.assertEqual(self.send(f"/systems/{EELGRASS}/livestock/{animal}", PIPEFISH, method="PUT").status_code, 404)


class Light(ApiTest):
    def test_a_setting_counts_from_its_day_and_explains_later_turns(self):
        self.post(f"/systems/{SKIFF}/light", {"on": "12:00", "off": "22:00", "since": "2026-09-01"})
        kept = self.post(f"/systems/{SKIFF}/light", {"on": "12:00", "off": "20:00", "ramp_minutes": 30,
                                                     "since": "2026-11-10", "spectrum": "more blue"})  # fmt: skip
        light = self.get(f"/systems/{SKIFF}/light")
        self.assertEqual(light["words"], "8.0 h, 12:00 to 20:00, ramp 30 min, more blue")
        self.assertEqual([one["day"] for one in light["settings"]][:2], ["10 Nov 2026", "1 Sep 2026"])
        happened = self.get(f"/systems/{SKIFF}/inspection")["events"]
        self.assertIn("10.0 h before, now 8.0 h", str(happened))
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.get(f"/systems/{SKIFF}/light")["words"], "10.0 h, 12:00 to 22:00")

    def test_par_at_named_points(self):
        for umol in (140, 155):
            self.post(f"/systems/{SKIFF}/light/par", {"point": "anemone's rock", "umol": umol})
        (point,) = self.get(f"/systems/{SKIFF}/light")["points"]
        self.assertEqual([one["words"] for one in point["readings"]], ["140 µmol/m²/s", "155 µmol/m²/s"])

    def test_refused(self):
        for body, field in (
            ({"on": "noon", "off": "22:00"}, "on"), ({"on": "12:00", "off": "12:00"}, "off"),
            ({"on": "12:00", "off": "13:00", "ramp_minutes": 50}, "ramp_minutes"),
            ({"on": "12:00", "off": "22:00", "since": "2027-01-01"}, "since"),
        ):  # fmt: skip
            with self.subTest(field=field):
                self.refused(f"/systems/{SKIFF}/light", body, field)
        self.refused(f"/systems/{SKIFF}/light/par", {"point": "", "umol": 100}, "point")
        self.refused(f"/systems/{SKIFF}/light/par", {"point": "sand", "umol": 5000}, "umol")
