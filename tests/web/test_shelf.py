"""The shelf in the browser: labels as printed, batches, additives, foods, reagents."""

from playwright.sync_api import expect

from tests.web.base import WebTest


class Shelf(WebTest):
    def test_a_label_as_it_is_printed(self) -> None:
        self.open("/shelf", "Shelf")
        self.button("Another salt").click()
        self.page.get_by_label("Name", exact=True).fill("Tern Reef")
        self.page.get_by_label("For 35 ppt").fill("38")
        self.page.get_by_label("Values stated at").fill("1.0264")
        self.page.get_by_label("Alkalinity, as printed").fill("plenty")
        self.page.get_by_label("Calcium, as printed").fill("at least 400")
        self.button("Add to the Shelf").click()
        self.sees(self.page.get_by_text("“plenty” is not a number"))
        expect(self.page.get_by_label("Calcium, as printed")).to_have_value("at least 400")
        self.page.get_by_label("Alkalinity, as printed").fill("3.0 ± 0.1 meq/L")
        self.button("Add to the Shelf").click()
        self.sees(self.page.get_by_text("Calcium at least 400 mg/L"))
        self.assert_accessible()
        self.assert_fits()

    def test_a_batch_teaches_and_is_taken_back(self) -> None:
        self.open("/shelf", "Shelf")
        row = self.page.locator("li", has_text="Kittiwake Standard")
        row.get_by_role("button", name="Enter a measured batch").click()
        row.get_by_label("Salinity, measured").fill("33.4")
        row.get_by_label("Salt weighed in").fill("3710")
        row.get_by_label("Finished water").fill("100")
        row.get_by_role("button", name="Save the batch").click()
        self.sees(row.get_by_text("from 1 batch: used in plans"))
        self.button("Undo").click()
        expect(row.get_by_text("by 1 batch")).to_have_count(0)

    def test_additives_foods_and_reagents(self) -> None:
        self.open("/shelf", "Shelf")
        for part in ("Salts", "Additives", "Foods", "Instruments and reagents"):
            self.button(part).click()
        self.page.get_by_label("Another additive").fill("nitrate drops")
        self.page.get_by_label("Formula", exact=True).fill("KNO3")
        self.page.get_by_label("If a solution: strength").fill("900")
        self.page.get_by_label("If a solution: strength").press("Enter")
        self.sees(self.page.get_by_text("0.001 to 275 g/L is accepted"))
        self.page.get_by_label("If a solution: strength").fill("50")
        self.page.get_by_label("If a solution: strength").press("Enter")
        self.sees(self.page.locator("li", has_text="nitrate drops").get_by_text("10 mL in 100 L"))
        food = self.page.locator("li", has_text="dry granules")
        self.sees(food.get_by_text("expired"))
        food.get_by_role("button", name="remove").click()
        expect(food).to_have_count(0)
        self.button("Undo").click()
        self.sees(food)
        kit = self.page.locator("li", has_text="titration kit T2")
        kit.get_by_role("button", name="checks").click()
        kit.get_by_label("New reagent, good until").fill("2027-11-01")
        kit.get_by_role("button", name="Save the reagent").click()
        self.sees(kit.get_by_text("reagent opened 24 Nov 2026, good until 1 Nov 2027"))
        self.assert_accessible()
