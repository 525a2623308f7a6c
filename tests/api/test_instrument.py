"""Instruments through the API: scatter, counted drops, checks, and readings corrected by them."""

from tests.api.base import BEACON, ApiTest


class Instruments(ApiTest):
    def one(self, name: str, parameter: str) -> dict:
        found = self.get("/instruments")["instruments"]
        return next(item for item in found if item["name"] == name and item["parameter"] == parameter)

    def check(self, standard: str, reading: str, name: str = "refractometer R1") -> dict:
        body = {"name": name, "parameter": "salinity", "standard": standard, "reading": reading}
        return self.post("/instruments/checks", body)

    def bench(self, text: str, instrument: str, parameter: str = "salinity", unit: str = "") -> dict:
        row = {"parameter": parameter, "text": text, "instrument": instrument, "unit": unit}
        return self.post(f"/systems/{BEACON}/bench/preview", {"rows": [row]})["rows"][0]

    def test_what_is_on_the_shelf_in_the_keepers_unit(self):
        kit = self.one("titration kit T1", "alkalinity")
        self.assertEqual((kit["scatter"], kit["line"]), ("± 0.1 dKH", "never checked: readings taken as shown"))

    def test_a_check_corrects_what_comes_after_and_keeps_the_raw_value(self):
        self.check("35 ppt", "34.4")
        self.assertEqual(
            self.one("refractometer R1", "salinity")["line"],
            "reads 0.6 ppt low by 1 standard: readings are corrected for it",
        )
        row = self.bench("34.0", "refractometer R1")
        self.assertEqual(row["understood"]["text"], "34.6")
        self.assertIn("34.0 ppt as shown", row["how"])
        rows = [{"parameter": "salinity", "text": "34.0", "instrument": "refractometer R1"}]
        self.post(f"/systems/{BEACON}/bench", {"rows": rows})
        kept = self.rows("SELECT value, raw FROM reading ORDER BY entry_id DESC LIMIT 1")[0]
        self.assertAlmostEqual(kept[0], 34.6)
        self.assertEqual(kept[1], 34.0)
        self.assertIn("34.0 ppt as shown", self.get(f"/systems/{BEACON}/record")[0]["detail"])

    def test_the_latest_check_of_each_standard_counts_and_one_can_be_taken_back(self):
        self.check("35 ppt", "34.4")
        self.check("35 ppt", "35.2")
        self.assertIn("0.2 ppt high", self.one("refractometer R1", "salinity")["line"])
        newest = self.one("refractometer R1", "salinity")["checks"][0]
        self.assertEqual((newest["standard"], newest["reading"]), ("35.0 ppt", "35.2 ppt"))
        self.post(f"/instruments/checks/{newest['id']}/undo", {})
        self.assertIn("0.6 ppt low", self.one("refractometer R1", "salinity")["line"])

    def test_checks_that_do_not_belong_to_one_instrument_are_refused(self):
        alone = {"name": "refractometer R1", "parameter": "salinity", "standard": "35", "reading": "3.4"}
        self.assertIn("mistyped", self.refused("/instruments/checks", alone, "reading")["message"])
        self.check("0 ppt", "0")
        body = {"name": "refractometer R1", "parameter": "salinity", "standard": "35", "reading": "10"}
        self.refused("/instruments/checks", body, "reading")
        self.refused("/instruments/checks", {**body, "reading": "abc"}, "reading")
        self.refused("/instruments/checks", {**body, "name": "R9"}, "name", status=404)

    def test_a_kit_that_counts_drops(self):
        self.post("/instruments", {"name": "kit K", "parameter": "alkalinity", "scatter": 0.2, "per_count": 0.5})
        self.assertEqual(self.one("kit K", "alkalinity")["counts"], "1 drop = 0.5 dKH")
        self.assertEqual(self.bench("17", "kit K", "alkalinity", "drops")["understood"]["text"], "8.5")
        self.assertEqual(self.bench("17 drops", "kit K", "alkalinity", "dKH")["how"], "17 drops")
        row = next(row for row in self.get(f"/systems/{BEACON}/bench")["rows"] if row["parameter"] == "alkalinity")
        self.assertEqual(row["counting"], ["kit K"])

    def test_what_is_wrong_is_said_at_its_place(self):
        body = {"name": "kit K", "parameter": "alkalinity", "scatter": 0.2}
        self.refused("/instruments", {**body, "name": " "}, "name")
        self.refused("/instruments", {**body, "scatter": 0}, "scatter")
        self.refused("/instruments", {**body, "scatter": 50}, "scatter")
        self.refused("/instruments", {**body, "per_count": -1}, "per_count")
        self.post("/instruments", body)
        self.refused("/instruments", body, "name", status=409)

    def test_put_away_it_leaves_the_bench_and_comes_back(self):
        self.post("/instruments/archive", {"name": "swing-arm hydrometer H1", "parameter": "salinity"})
        row = next(row for row in self.get(f"/systems/{BEACON}/bench")["rows"] if row["parameter"] == "salinity")
        self.assertNotIn("swing-arm hydrometer H1", row["instruments"])
        self.post("/instruments", {"name": "swing-arm hydrometer H1", "parameter": "salinity", "scatter": 0.5})
        self.assertEqual(self.one("swing-arm hydrometer H1", "salinity")["scatter"], "± 0.5 ppt")


class Seen(ApiTest):
    """What instruments did, by the tests of all systems of the demo."""

    def rows(self):
        return {(one["name"], one["parameter"]): one for one in self.get("/instruments")["instruments"]}

    def test_two_of_a_kind_stand_beside_each_other(self):
        rows = self.rows()
        pen, arm = rows["refractometer R1", "salinity"], rows["swing-arm hydrometer H1", "salinity"]
        self.assertRegex(
            pen["seen"], r"^scattered by ± 0\.\d ppt in \d+ tests since .*; reads 1\.\d ppt .* above swing"
        )
        self.assertRegex(arm["seen"], r"reads 1\.\d ppt .* below refractometer R1$")

    def test_one_that_was_never_checked_is_due_and_a_check_settles_it(self):
        kit = self.rows()["titration kit T1", "alkalinity"]
        self.assertEqual((kit["check"], kit["check_due"]), ("check it against a standard", True))
        body = {"name": "titration kit T1", "parameter": "alkalinity", "standard": "8", "reading": "8.1"}
        self.post("/instruments/checks", body)
        kit = self.rows()["titration kit T1", "alkalinity"]
        self.assertEqual((kit["check"], kit["check_due"]), ("last checked Tue 24 Nov", False))

    def test_one_that_was_not_used_says_nothing(self):
        self.assertEqual(self.rows()["conductivity pen C1", "salinity"]["seen"], "")
