"""The guided start: one command from an empty database to a first plan."""

from tests.api.base import ApiTest
from tests.api.test_system import new_system


def begun(**more):
    system = {**new_system(), "name": "Dinghy", "geometry": {"shape": "litres", "stated_l": 200}}
    return {"system": system, **more}


class Start(ApiTest):
    empty = True

    def test_all_of_it_in_one_command(self):
        found = self.post("/start", begun(
            salt="Plainmark Basic", additives=True,
            results=[{"parameter": "alkalinity", "text": "7.0"}, {"parameter": "salinity", "text": "35"}],
            last={"water_change": "2026-11-20", "scrape_front": "2026-11-24"},
        ), key="start-one-01")  # fmt: skip
        self.assertEqual(found["name"], "Dinghy")
        system = self.get(f"/systems/{found['id']}")
        # 0.85 of what it is sold by.
        self.assertEqual(system["volume"]["value"], 170.0)
        self.assertEqual((system["geometry"]["stated_l"], system["geometry"]["length_cm"]), (200.0, None))
        shelf = self.get("/shelf")
        self.assertEqual([one["name"] for one in shelf["salts"]], ["Plainmark Basic"])
        self.assertEqual(len(shelf["additives"]), 4)
        # 35 g in a kilogram of seawater of 1.0233 kg/L.
        self.assertAlmostEqual(shelf["salts"][0]["strength_g_l"], 35 * 1.02334, delta=0.01)
        plan = self.post(
            f"/systems/{found['id']}/change/preview", self.get(f"/systems/{found['id']}/change")["request"]
        )
        marks = [one for one in plan["steps"][0]["tank"] if one["key"] == "mark"]
        self.assertIn("roughly", marks[0]["words"])
        self.assertIn("Alkalinity", self.get(f"/systems/{found['id']}/judgement")["findings"][0]["words"])

    def test_the_common_additives_in_one_press_and_each_once(self):
        self.post("/additives", {"name": "my soda", "formula": "Na2CO3"})
        self.post("/additives/starters", None)
        self.post("/additives/starters", None)
        names = [one["name"] for one in self.get("/shelf")["additives"]]
        self.assertEqual(sorted(names), sorted([
            "my soda", "baking soda", "calcium chloride dihydrate", "magnesium chloride hexahydrate",
        ]))  # fmt: skip

    def test_nothing_before_the_first_day_is_missed(self):
        number = self.post("/start", begun(last={"water_change": "2026-11-18"}))["id"]
        (lane,) = [lane for lane in self.get("/rota?days=14")["lanes"] if lane["system_id"] == number]
        # Weekly from the 18th: due on the 25th. What was never recorded counts from today.
        due = [task["due"] for task in lane["tasks"] if task["task"] == "water_change"]
        self.assertEqual(min(due), "2026-11-25")
        self.assertEqual([task["name"] for task in lane["tasks"] if task["due"] <= "2026-11-24"], [])
        self.assertEqual([task["name"] for task in lane["tasks"] if task["late_days"]], [])
        # Its litres are not asked for.
        self.assertNotIn("complete", [item["way"] for item in self.get("/next")])

    def test_a_slip_is_refused_at_its_field_and_nothing_is_stored(self):
        for more, field in (
            ({"salt": "Plainmark Basic", "salt_g_l": 370}, "salt_g_l"),
            ({"results": [{"parameter": "alkalinity", "text": "lots"}]}, "alkalinity"),
            ({"last": {"water_change": "2027-01-01"}}, "last.water_change"),
        ):
            with self.subTest(field=field):
                self.refused("/start", begun(**more), field)
        self.post("/start", begun(salt="Plainmark Basic"))
        second = {**begun()["system"], "name": "Punt"}
        self.refused("/start", {"system": second, "salt": "Plainmark Basic", "salt_g_l": 36}, "salt", 409)
        self.refused("/start", begun(), "name", 409)
        self.assertEqual([one["name"] for one in self.get("/harbour")["systems"]], ["Dinghy"])
        # The same salt again is the one on the Shelf.
        self.post("/start", {"system": second, "salt": "Plainmark Basic"})
        self.assertEqual(len(self.get("/shelf")["salts"]), 1)

    def test_the_only_tank_there_is_need_not_be_named(self):
        self.post("/start", begun())
        read = self.api.post("/api/jot/reading", json={"text": "did a 30 L water change"}).json()
        self.assertEqual((read["system"], read["wrong"]), ("Dinghy", None))
        self.assertEqual(self.post("/jot", {"text": "15 % of dinghy"})["value"], 25.5)
        self.assertIn("in Dinghy", self.post("/jot", {"text": "raise alk 7 to 8"})["understood"])

    def test_rock_and_sand_are_in_the_share_that_is_water(self):
        geometry = {"shape": "litres", "stated_l": 200, "displaced_l": 30, "rock_kg": 40}
        self.assertEqual(self.post("/systems/volume", geometry)["volume"]["value"], 170.0)

    def test_without_its_litres_it_is_refused_at_their_field(self):
        self.refused("/start", {"system": {**begun()["system"], "geometry": {"shape": "litres"}}}, "geometry.stated_l")
        self.assertEqual(self.get("/harbour")["systems"], [])

    def test_two_tests_give_a_first_figure_of_the_uptake_with_its_range(self):
        found = self.post("/start", begun(additives=True), key="start-first-01")
        url = f"/systems/{found['id']}/dosing"
        (row,) = self.get(url)["uptake"]
        self.assertEqual((row["amount"], row["words"]), ("–", "too few readings: it takes four over six days"))
        for line in ("alk 8.4 4 days ago", "alk 8.0"):
            self.post("/jot/record", {"text": line, "system_id": found["id"]})
        (row,) = self.get(url)["uptake"]
        # 0.4 dKH in four days; the kit's scatter is what leaves the range open, so the figure lies in its middle.
        self.assertEqual((row["amount"], row["unit"]), ("0.10", "dKH a day"))
        low, high = (float(end) for end in row["interval"].split(" to "))
        self.assertAlmostEqual((low + high) / 2, 0.10, delta=0.006)
        self.assertRegex(row["words"], "^provisional, from two tests.*; 2 more tests by Thu 26 Nov or later make it")
