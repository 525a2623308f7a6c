"""Gallons, inches and ounces on the screen: chosen once, held everywhere, typed as they stand there."""

from __future__ import annotations

from tests.web.base import WebTest


class UsMeasures(WebTest):
    def prefer_us(self) -> None:
        """Choose the US preset in Settings."""
        self.open("/settings", "Settings")
        self.button("US").click()
        self.button("Save").click()
        self.sees(self.page.get_by_text("Settings saved."))

    def test_from_settings_to_a_change_and_a_size(self):
        self.prefer_us()
        self.open("/systems/1/change", "Water change, Beacon")
        self.sees(self.page.get_by_text("gal net").first)
        kept = self.page.get_by_label("Water kept back")
        kept.fill("2")
        # 2 gal are 7.57 L, too much only of more than is drained: accepted, and the field still says 2.
        self.sees(self.page.get_by_text("gal back for scrubbing rock"))
        self.assertEqual(kept.input_value(), "2")
        kept.fill("900")
        self.sees(self.page.get_by_text("gal is accepted"))
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.page.get_by_text("Size", exact=False).first.click()
        sand = self.page.get_by_label("Sand bed")
        self.sees(sand)
        inches = float(sand.input_value())
        self.assertAlmostEqual(inches * 2.54, float(self.sand_cm()), delta=0.01)
        self.assert_accessible()

    def sand_cm(self) -> float:
        """The depth of the sand as it is kept."""
        answer = self.page.request.get(f"{self.server.url}/api/systems/1").json()
        return float(answer["geometry"]["sand_bed_cm"])
