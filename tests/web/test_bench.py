"""The bench: twelve results by keyboard, second readings, counted drops, and instruments with their checks."""

import time

from playwright.sync_api import expect

from tests.web.base import WebTest

TWELVE = ("25.4", "34.4", "7.3", "415", "1310", "10.8", "0.05", "8.15", "398", "7.9", "0.05", "0.1")
"""Temperature to pH, then potassium, strontium, iodine and silicate."""
LABORATORY = ("potassium", "strontium", "iodine", "silicate")


class Keyboard(WebTest):
    def test_twelve_results_in_under_a_minute_with_two_keystrokes_a_row_beyond_the_digits(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.button("more tests").click()
        self.page.locator("#value-temperature").focus()
        begun, beyond = time.monotonic(), 0
        for text in TWELVE[:8]:
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
            beyond += 1
        for name, text in zip(LABORATORY, TWELVE[8:], strict=True):
            while self.page.evaluate("document.activeElement.id") != f"value-{name}":
                self.page.keyboard.press("Enter")
                beyond += 1
            self.page.keyboard.type(text)
        self.page.keyboard.press("Control+Enter")
        beyond += 1
        self.sees(self.page.get_by_text("12 results saved for Beacon"))
        self.assertLess(time.monotonic() - begun, 60)
        self.assertLessEqual(beyond, 2 * len(TWELVE))

    def test_rows_out_of_sight_are_passed_over(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        expect(self.page.locator("#value-potassium")).to_be_hidden()
        self.page.locator("#value-ph").focus()
        self.page.keyboard.press("Enter")
        expect(self.button("Save")).to_be_focused()


class Entries(WebTest):
    def test_a_second_reading_and_a_diluted_sample_say_how_they_came_about(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.locator("#value-alkalinity").fill("7.3 / 7.5")
        self.sees(self.page.get_by_text("= 7.4 dKH"))
        self.sees(self.page.get_by_text("mean of 7.3 dKH and 7.5 dKH"))
        self.page.locator("#value-nitrate").fill("6.1 1:1")
        self.sees(self.page.get_by_text("= 12.2 mg/L"))
        self.assert_accessible()
        self.button("Save").click()
        self.sees(self.page.get_by_text("2 results saved"))

    def test_a_kit_that_counts_is_put_on_the_shelf_and_its_drops_are_a_unit(self) -> None:
        self.open("/shelf", "Shelf")
        self.button("Instruments and reagents").click()
        self.page.get_by_label("Another instrument").fill("kit K")
        self.page.get_by_label("One drop is worth").fill("0.5")
        self.button("Add to the Shelf").click()
        self.sees(self.page.get_by_text("1 drop = 0.5 dKH"))
        self.assert_accessible()
        self.assert_fits()
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.get_by_label("Instrument for Alkalinity").select_option("kit K")
        self.page.get_by_label("Unit of Alkalinity").select_option("drops")
        self.page.locator("#value-alkalinity").fill("17")
        self.sees(self.page.get_by_text("= 8.5 dKH"))

    def test_a_check_corrects_what_is_measured_after_it(self) -> None:
        self.open("/shelf", "Shelf")
        self.button("Instruments and reagents").click()
        row = self.page.locator("li", has=self.page.locator("b", has_text="refractometer R1"))
        row.get_by_role("button", name="checks").click()
        row.get_by_label("Standard").fill("35")
        row.get_by_label("It read").fill("3.4")
        row.get_by_role("button", name="Save the check").click()
        self.sees(row.get_by_text("it is broken or one of the two was mistyped"))
        row.get_by_label("It read").fill("34.4")
        row.get_by_role("button", name="Save the check").click()
        self.sees(row.get_by_text("35.0 ppt read as 34.4 ppt"))
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.locator("#value-salinity").fill("34.0")
        self.sees(self.page.get_by_text("34.0 ppt as shown, corrected by the checks of refractometer R1"))
