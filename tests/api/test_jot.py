"""Sums over the API and on the command line."""

import subprocess
import sys
import tempfile
from pathlib import Path

from tests.api.base import BEACON, ApiTest
from tests.stage import ROOT, demo_database


class Sums(ApiTest):
    def ask(self, text: str, system_id: int | None = None) -> dict:
        answer = self.api.post("/api/jot", json={"text": text, "system_id": system_id})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_every_example_is_answered_with_its_working(self):
        for text in self.get("/jot")["sums"]:
            with self.subTest(text=text):
                found = self.ask(text, BEACON)
                self.assertTrue(found["text"])
                self.assertTrue(found["working"] or found["unit"] == "")

    def test_the_systems_present_water_is_known(self):
        found = self.ask("= soda for +0.8 dkh", BEACON)
        self.assertIn("in Beacon (334.0 L), from", found["understood"])
        self.assertEqual(found["cautions"][0]["key"], "caustic")
        self.assertTrue(any(note.startswith("pH +") for note in found["notes"]))

    def test_a_word_that_is_not_understood_comes_with_its_place(self):
        answer = self.api.post("/api/jot", json={"text": "= salt for sixty l to 35"})
        self.assertEqual(answer.status_code, 422)
        field = answer.json()["fields"][0]
        self.assertEqual((field["field"], field["start"], field["end"]), ("text", 11, 16))
        self.assertIn("a volume", field["accepted"])

    def test_it_records_nothing(self):
        before = self.get(f"/systems/{BEACON}/record")
        self.ask("= soda for +0.8 dkh", BEACON)
        self.assertEqual(self.get(f"/systems/{BEACON}/record"), before)


class Writing(ApiTest):
    def test_a_decimal_comma_and_a_gallon_once_they_are_set(self):
        body = {"zone": "Europe/Copenhagen", "units": {}, "decimal_sign": ",", "gallon": "us"}
        answer = self.send("/keeper", body, method="PUT").json()
        self.assertEqual((answer["decimal_sign"], answer["gallon"]), (",", "us"))
        self.assertEqual(self.get("/harbour")["decimal_sign"], ",")
        found = self.api.post("/api/jot", json={"text": "= 5 gal in l"}).json()
        self.assertEqual(found["text"], "18,93 L")
        rows = [{"parameter": "alkalinity", "text": "7,9", "unit": "dKH"}]
        understood = self.api.post(f"/api/systems/{BEACON}/bench/preview", json={"rows": rows}).json()["rows"][0]
        self.assertAlmostEqual(understood["understood"]["value"], 7.9)

    def test_a_doubtful_number_is_asked_back_and_left_out_settings_stay(self):
        self.send("/keeper", {"zone": "UTC", "units": {}, "decimal_sign": ",", "gallon": "imperial"}, method="PUT")
        kept = self.send("/keeper", {"zone": "UTC", "units": {}}, method="PUT").json()
        self.assertEqual((kept["decimal_sign"], kept["gallon"]), (",", "imperial"))
        asked = self.send("/keeper", {"zone": "UTC", "units": {}, "gallon": "ask"}, method="PUT").json()
        self.assertEqual(asked["gallon"], "ask")
        answer = self.api.post("/api/jot", json={"text": "= 1.025 l in ml"})
        self.assertIn("1,025 or 1025", answer.json()["detail"])


class CommandLine(ApiTest):
    def run_it(self, *arguments: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "salttide", *arguments], cwd=ROOT, capture_output=True, text=True, check=False
        )

    def test_a_sum_with_the_households_systems_and_its_working(self):
        said = self.run_it("= soda for +0.8 dkh in beacon", "--working", "--database", str(demo_database()))
        self.assertEqual(said.returncode, 0, said.stderr)
        self.assertEqual(said.stdout.splitlines()[0], "5.05 g")
        self.assertIn("Caution: Soda ash is caustic", said.stdout)
        self.assertIn("m = Δ · V / a = 5.05", said.stdout)

    def test_without_a_database_of_ones_own_and_pointing_at_a_word(self):
        with tempfile.TemporaryDirectory() as folder:
            nowhere = str(Path(folder) / "none.db")
            self.assertEqual(
                self.run_it("= 8 dkh in meq/l", "--database", nowhere).stdout.split("\n")[0], "2.853 meq/L"
            )
            said = self.run_it("= 8 dkh in meq/l now", "--database", nowhere)
            self.assertEqual(said.returncode, 2)
            self.assertEqual(said.stderr.splitlines()[1].index("^"), len("= 8 dkh in meq/l "))
            self.assertFalse(Path(nowhere).exists())
