"""The shelf through the API: labels, buckets and batches, additives, foods, reagents."""

from tests.api.base import BEACON, ApiTest

KITTIWAKE, GANNET, PLAINMARK = 1, 2, 3
TERN = {"name": "Tern Reef", "strength_g_l": 38, "basis": "finished_water", "printed_at": "1.0264",
        "printed": {"alkalinity": "3.0 ± 0.1 meq/L", "calcium": "at least 400"}}  # fmt: skip


class Shelf(ApiTest):
    def salt(self, salt_id: int):
        return next(one for one in self.get("/shelf")["salts"] if one["id"] == salt_id)

    def test_the_households_labels_in_all_their_forms(self):
        self.assertEqual(self.salt(KITTIWAKE)["holds"],
                         ["Alkalinity 8.3 dKH ± 0.4 dKH", "Calcium 428 mg/L ± 12 mg/L",
                          "Magnesium 1315 mg/L ± 35 mg/L"])  # fmt: skip
        self.assertEqual(self.salt(GANNET)["printed"]["alkalinity"], "9.6–10.4 dKH")
        self.assertEqual(self.salt(PLAINMARK)["printed"], {"calcium": "at least 360 mg/L"})
        self.assertEqual(self.salt(PLAINMARK)["holds_from"], "2 own batches")
        self.assertIn("20.0 kg bucket opened 12 Sep 2026, lot K-0912", self.salt(KITTIWAKE)["bucket"])

    def test_a_label_goes_on_the_shelf_is_edited_and_taken_off(self):
        made = self.post("/salts", TERN)
        self.assertEqual(self.salt(made["id"])["holds"][1], "Calcium at least 400 mg/L")
        self.send(f"/salts/{made['id']}", {**TERN, "printed": {"calcium": "410–430"}}, method="PUT")
        self.assertEqual(self.salt(made["id"])["holds"], ["Calcium 420 mg/L ± 10 mg/L"])
        self.post(f"/shelf/salt/{made['id']}/archive", None)
        self.assertNotIn("Tern Reef", str(self.get("/shelf")["salts"]))
        self.post(f"/shelf/salt/{made['id']}/restore", None)
        self.assertIn("Tern Reef", str(self.get("/shelf")["salts"]))

    def test_a_label_that_is_kept_again_as_it_is_stays_as_it_is(self):
        # Values stated at 33 ppt are brought to 35; the strength is for 35 ppt and is not touched by that.
        made = self.post("/salts", {**TERN, "printed_at": "33", "printed": {"calcium": "396"}})
        first = self.salt(made["id"])
        self.assertEqual((first["strength_g_l"], first["holds"]), (38, ["Calcium 420 mg/L"]))
        known = ("name", "strength_g_l", "basis", "printed", "printed_at", "bulk_density_g_ml")
        for _ in range(2):
            self.send(f"/salts/{made['id']}", {key: first[key] for key in known}, method="PUT")
            self.assertEqual(self.salt(made["id"]), first)

    def test_a_label_kept_again_in_another_unit_says_the_same(self):
        made = self.post("/salts", {**TERN, "printed": {"alkalinity": "8.4"}})
        first = self.salt(made["id"])
        self.assertEqual(first["printed"], {"alkalinity": "8.4 dKH"}, "the unit it was typed in stays with it")
        self.send("/keeper", {"zone": "Europe/Copenhagen", "units": {"alkalinity": "meq/L"}}, method="PUT")
        known = ("name", "strength_g_l", "basis", "printed", "printed_at", "bulk_density_g_ml")
        self.send(f"/salts/{made['id']}", {key: first[key] for key in known}, method="PUT")
        # 8.4 dKH / 2.80385 = 3.00 meq/L.
        self.assertEqual(self.salt(made["id"])["holds"], ["Alkalinity 3.00 meq/L"])

    def test_a_plan_with_a_lower_bound_makes_no_value_of_it(self):
        made = self.post("/salts", TERN)
        request = {**self.get(f"/systems/{BEACON}/change")["request"], "salt_id": made["id"]}
        plan = self.api.post(f"/api/systems/{BEACON}/change/preview", json=request)
        self.assertEqual(plan.status_code, 200, plan.text)
        rows = {row["parameter"]: row for row in plan.json()["steps"][0]["rows"]}
        self.assertIsNone(rows["calcium"]["after"])

    def test_batches_teach_strength_and_values_and_can_be_taken_back(self):
        # 3710 g in 100 L should give 35 ppt; 33.4 twice says the salt has drawn water.
        batch = {"salinity": "33.4", "mass_g": 3710, "volume_l": 100, "holds": {"calcium": "400"}}
        self.post(f"/salts/{KITTIWAKE}/batches", batch)
        kept = self.post(f"/salts/{KITTIWAKE}/batches", batch)
        salt = self.salt(KITTIWAKE)
        # 37.1 * 35/33.4 = 38.9 g/L, a little less by density.
        self.assertRegex(salt["strength"], r"^38\.\d ± 0\.\d g/L from 2 batches: used in plans$")
        # 400 * 35/33.4 = 419.2.
        self.assertIn("Calcium 419 mg/L", str(salt["holds"]))
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.salt(KITTIWAKE)["batches"], 1)

    def test_a_new_bucket_is_learned_anew(self):
        batch = {"salinity": "33.4", "mass_g": 3710, "volume_l": 100}
        self.post(f"/salts/{KITTIWAKE}/batches", batch)
        self.post(f"/salts/{KITTIWAKE}/buckets", {"mass_kg": 25, "lot": "K-1124"})
        self.post(f"/salts/{KITTIWAKE}/batches", {**batch, "salinity": "35.0"})
        salt = self.salt(KITTIWAKE)
        self.assertIn("from 1 batch: as the label says", salt["strength"])
        self.assertIn("25.0 kg bucket opened 24 Nov 2026, lot K-1124", salt["bucket"])
        self.assertIn("25.0 kg left", salt["bucket"])

    def test_a_bucket_that_is_taken_back_leaves_the_one_before_in_use(self):
        opened = self.post(f"/salts/{KITTIWAKE}/buckets", {"mass_kg": 25, "lot": "K-1124"})
        self.post(f"/record/{opened['command']}/undo", None)
        self.assertIn("20.0 kg bucket opened 12 Sep 2026, lot K-0912", self.salt(KITTIWAKE)["bucket"])

    def test_the_usual_salt(self):
        self.post(f"/salts/{GANNET}/usual", None)
        self.assertTrue(self.salt(GANNET)["usual"])
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["request"]["salt_id"], GANNET)

    def test_bad_labels_and_batches_are_refused_at_their_field(self):
        for changes, field in (
            ({"name": " "}, "name"), ({"name": "kittiwake standard"}, "name"), ({"strength_g_l": 371}, "strength_g_l"),
            ({"printed": {"alkalinity": "plenty"}}, "printed.alkalinity"),
            ({"printed": {"calcium": "42000"}}, "printed.calcium"), ({"printed_at": "1.2"}, "printed_at"),
            ({"bulk_density_g_ml": 9}, "bulk_density_g_ml"),
        ):  # fmt: skip
            with self.subTest(field=field, changes=changes):
                self.refused("/salts", {**TERN, **changes}, field)
        self.refused(f"/salts/{KITTIWAKE}/batches", {"salinity": "salty"}, "salinity")
        self.refused(f"/salts/{KITTIWAKE}/batches", {"salinity": "35", "mass_g": 100}, "volume_l")
        self.refused(f"/salts/{KITTIWAKE}/buckets", {"mass_kg": 0}, "mass_kg")

    def test_additives_say_what_they_raise(self):
        shown = {one["name"]: one["words"] for one in self.get("/shelf")["additives"]}
        # 10 g Na2CO3 in 100 L: 10/105.99*2/100 = 1.887 meq/L = 5.29 dKH; 10 mL of 100 g/L a tenth of that.
        self.assertEqual(shown["soda ash"], "10 g in 100 L: Alkalinity +5.3 dKH")
        self.assertEqual(shown["soda stock"], "10 mL in 100 L: Alkalinity +0.5 dKH")
        self.post("/additives", {"name": "nitrate drops", "formula": "KNO3", "strength_g_l": 50})
        self.refused("/additives", {"name": "nitrate drops", "formula": "KNO3"}, "name", 409)
        self.refused("/additives", {"name": "magic", "formula": "Magic"}, "formula")
        # At most 93 g/L of baking soda dissolve.
        said = self.refused("/additives", {"name": "strong", "formula": "NaHCO3", "strength_g_l": 200}, "strength_g_l")
        self.assertIn("93", said["message"])
        self.refused("/additives", {"name": "odd", "formula": "KNO3", "purity_percent": 120}, "purity_percent")

    def test_foods_take_what_is_left_out_from_their_kind(self):
        self.post("/foods", {"name": "red granules", "kind": "granules", "portion_g": 0.2})
        food = next(one for one in self.get("/shelf")["foods"] if one["name"] == "red granules")
        self.assertEqual((food["dry_percent"], food["portion_g"]), (93, 0.2))
        # 0.2 g, 93 % dry, 7.8 % N, 1.2 % P: 14.5 mg N = 64.2 mg NO3; 2.232 mg P = 6.8 mg PO4.
        self.assertEqual(food["words"], "a portion of 0.2 g brings 64.2 mg nitrate and 6.8 mg phosphate")
        self.assertTrue(next(one for one in self.get("/shelf")["foods"] if one["name"] == "dry granules")["expired"])
        self.refused("/foods", {"name": "manna", "kind": "celestial"}, "kind")
        self.refused("/foods", {"name": "rock", "kind": "frozen", "dry_percent": 140}, "dry_percent")

    def test_a_reagent_past_its_day_throws_doubt_on_its_results(self):
        kit = {"name": "titration kit T1", "parameter": "alkalinity"}
        self.post("/instruments/reagents", {**kit, "expires_on": "2026-11-20", "lot": "old"})
        self.post(f"/systems/{BEACON}/bench",
                  {"rows": [{"parameter": "alkalinity", "text": "7.3", "instrument": "titration kit T1"}]})  # fmt: skip
        self.assertIn("The reagent for alkalinity is past its day", str(self.get(f"/systems/{BEACON}/judgement")))
        self.post("/instruments/reagents", {**kit, "expires_on": "2027-11-20"})
        self.assertNotIn("past its day", str(self.get(f"/systems/{BEACON}/judgement")))
        self.refused("/instruments/reagents", {**kit, "expires_on": "soon"}, "expires_on")
