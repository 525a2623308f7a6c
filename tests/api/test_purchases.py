"""What there is to buy: worn parts, salt that runs out, reagents past their day, and what the plans need."""

from __future__ import annotations

from typing import Any

from tests.api.base import BEACON, ApiTest
from tests.api.test_remedy import LOW
from tests.api.test_shelf import KITTIWAKE


class ToBuy(ApiTest):
    def list_of(self, kind: str) -> list[Any]:
        return [one for one in self.get("/shelf/purchases") if one["kind"] == kind]

    def test_salt_that_lasts_less_than_a_month_and_none_of_a_new_bucket(self) -> None:
        self.post(f"/salts/{KITTIWAKE}/buckets", {"mass_kg": 2, "lot": "small"})
        (salt,) = self.list_of("salt")
        self.assertEqual(salt["by"], "now")
        self.assertRegex(salt["reason"], r"^2\.0 kg left, enough for \d days: buy now$")
        # 200 kg last longer than a month at any of the demo's routines: 40 L a week of 3.7 % are 1.5 kg.
        self.post(f"/salts/{KITTIWAKE}/buckets", {"mass_kg": 200, "lot": "large"})
        self.assertEqual(self.list_of("salt"), [])

    def test_a_reagent_past_its_day_until_a_new_one_is_there(self) -> None:
        before = self.list_of("reagent")
        kit = {"name": "titration kit T1", "parameter": "alkalinity"}
        self.post("/instruments/reagents", {**kit, "expires_on": "2026-11-20", "lot": "old"})
        (new,) = [one for one in self.list_of("reagent") if one not in before]
        self.assertIn("titration kit T1", new["words"])
        self.post("/instruments/reagents", {**kit, "expires_on": "2027-11-20"})
        self.assertEqual(self.list_of("reagent"), before)

    def test_what_a_plan_needs_that_is_not_on_the_shelf_once_it_is_followed(self) -> None:
        for additive in self.get("/shelf")["additives"]:
            if additive["formula"] in ("Na2CO3", "NaHCO3", "NaOH", "Ca(OH)2"):
                self.post(f"/shelf/additive/{additive['id']}/archive", None)
        ways = self.get(f"/systems/{BEACON}/remedies/{LOW}")["remedies"]
        way = next(one for one in ways if one["fits"] and any(not each["on_shelf"] for each in one["supplies"]))
        self.assertEqual(self.list_of("plan"), [])
        done = self.post(f"/systems/{BEACON}/remedies/{LOW}", {"remedy": way["key"]})
        (bought,) = self.list_of("plan")
        missing = next(each for each in way["supplies"] if not each["on_shelf"])
        self.assertEqual(bought["words"].casefold(), f"{missing['name']}, {missing['amount']}".casefold())
        self.assertEqual((bought["system_id"], bought["key"], bought["by"]), (BEACON, LOW, "now"))
        self.post(f"/record/{done['command']}/undo", None)
        self.assertEqual(self.list_of("plan"), [])


class Empty(ApiTest):
    empty = True

    def test_nothing_to_buy_without_a_system(self) -> None:
        self.assertEqual(self.get("/shelf/purchases"), [])
