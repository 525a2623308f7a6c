"""How sure the estimates are, as the page asks for it."""

from tests.api.base import BEACON, SKIFF, ApiTest


class Confidence(ApiTest):
    def rows(self, system):
        return {row["parameter"]: row for row in self.get(f"/systems/{system}/confidence")["rows"]}

    def full(self, system, parameter):
        return self.get(f"/systems/{system}/confidence/{parameter}")

    def test_the_rate_is_the_one_of_dosing_and_of_the_sheet(self):
        row = self.rows(BEACON)["alkalinity"]
        uptake = self.get(f"/systems/{BEACON}/dosing")["uptake"][0]
        self.assertIn(f"{uptake['amount']} dKH a day ({uptake['interval']})", row["rate"])
        budget = self.get(f"/systems/{BEACON}/sheet")["budget"][0]
        self.assertIn(f"{uptake['amount']} dKH a day ({uptake['interval']})", budget["amount"])

    def test_the_next_test_is_the_one_of_the_bench(self):
        row = self.rows(BEACON)["alkalinity"]
        self.assertRegex(row["next_test"], r"^\w{3} \d+ \w{3}, then every (\d+ days|day): ")
        self.assertRegex(self.get(f"/systems/{BEACON}/confidence")["month"], r"^\d+ tests of this system .* minutes")
        self.assertRegex(row["tells"], r"^\d+ % narrower$")
        self.assertIn(row["tells"], " ".join(self.full(BEACON, "alkalinity")["minds"]))

    def test_each_test_lies_beside_what_was_expected(self):
        row = self.full(BEACON, "alkalinity")
        self.assertGreater(len(row["tests"]), 15)
        self.assertGreater(len(row["history"]), 8)
        inside = [test["low"] <= test["value"] <= test["high"] for test in row["tests"]]
        # Eight of ten at the least would be right; the first ones hardly know what to expect.
        self.assertGreaterEqual(sum(inside) / len(inside), 0.7)
        self.assertRegex(row["tests"][-1]["words"], r"by titration kit T1, expected \d\.\d to \d\.\d dKH$")

    def test_what_is_believed_names_instruments_and_what_is_not_recorded(self):
        beliefs = " ".join(self.full(SKIFF, "alkalinity")["beliefs"])
        self.assertRegex(beliefs, r"Something of \+1\.\d dKH came between")
        salinity = self.full(SKIFF, "salinity")
        self.assertRegex(" ".join(salinity["beliefs"]), r"hydrometer H1 reads 1\.\d ppt .* below refractometer")
        self.assertEqual(len(salinity["instruments"]), 2)

    def test_too_little_says_so(self):
        row = self.rows(SKIFF)["calcium"]
        self.assertIn("too few readings", row["rate"])
        self.assertFalse(row["estimated"])
        for parameter in ("calcium", "ph", "temperature"):
            full = self.full(SKIFF, parameter)
            self.assertEqual([full[part] for part in ("history", "tests", "beliefs", "minds", "instruments")], [[]] * 5)


class Empty(ApiTest):
    empty = True

    def test_a_system_that_does_not_exist(self):
        self.assertEqual(self.api.get("/api/systems/1/confidence").status_code, 404)
        self.assertEqual(self.api.get("/api/systems/1/confidence/alkalinity").status_code, 404)
