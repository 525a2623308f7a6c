"""Fresh water through the API: the unit by its readings, a preview, saving, and what is refused."""

from __future__ import annotations

from tests.api.base import BEACON, ApiTest


class FreshWater(ApiTest):
    def test_the_demo_unit_tells_its_stages_and_its_start(self) -> None:
        found = self.get("/fresh-water")
        self.assertEqual([one["key"] for one in found["stages"]], ["sediment", "carbon", "membrane", "resin"])
        self.assertIn("keeps back 97.", found["stages"][2]["words"])
        self.assertTrue(found["start"].startswith("Start the unit"))
        self.assertTrue(all(one["working"] for one in found["stages"]))
        self.assertEqual(found["diagnoses"], [])
        # Eelgrass changes with natural seawater: no fresh water for that.
        self.assertNotIn("Eelgrass: water change", [one["what"] for one in found["needs"]])
        self.assertIn("Beacon: top-off for a week", [one["what"] for one in found["needs"]])

    def test_a_preview_stores_nothing_and_saving_counts(self) -> None:
        unit = self.get("/fresh-water")["unit"]
        chloramine = {**unit, "supply": "chloramine", "measured_l_h": 2.0}
        shown = self.post("/fresh-water/preview", chloramine)
        self.assertEqual(len(shown["diagnoses"]), 2)
        self.assertEqual(self.get("/fresh-water")["unit"], unit)
        answer = self.send("/fresh-water", chloramine, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(self.get("/fresh-water")["unit"], chloramine)

    def test_a_change_put_on_the_rota_is_in_the_need(self) -> None:
        before = {(one["day"], one["what"]): one["litres"] for one in self.get("/fresh-water")["needs"]}
        request = {**self.get(f"/systems/{BEACON}/change")["request"], "fraction_percent": 25, "start": "2026-11-27"}
        self.post(f"/systems/{BEACON}/change/plans", {**request, "replace": True})
        after = {(one["day"], one["what"]): one["litres"] for one in self.get("/fresh-water")["needs"]}
        self.assertNotEqual(before, after)

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        unit = self.get("/fresh-water")["unit"]
        for field, value in (("feed", 70), ("rated_l_day", 2), ("stored_l", 900), ("carbon_blocks", 7)):
            self.refused("/fresh-water/preview", {**unit, field: value}, field)

    def test_without_a_reading_it_asks_for_some(self) -> None:
        self.assertEqual(self.api.get("/api/fresh-water?days=3").status_code, 422)


class Empty(ApiTest):
    empty = True

    def test_before_the_first_tank_nothing_is_needed(self) -> None:
        found = self.get("/fresh-water")
        self.assertEqual(found["needs"], [])
        self.assertIn("covers the next 14 days", found["start"])
