"""Mix in the browser: a batch planned while typing, lived through, corrected and labelled; wide and on a phone."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class Mix(WebTest):
    def plan(self, litres: str = "40", salinity: str = "35") -> None:
        self.open("/mix", "Mix")
        # Skiff's change comes first: it is taken off, and Beacon's put in its place.
        self.page.get_by_role("checkbox", name="Beacon").check()
        self.page.get_by_role("checkbox", name="Skiff").uncheck()
        self.page.get_by_label("Volume for Beacon").fill(litres)
        self.page.get_by_label("Salinity for Beacon").fill(salinity)

    def make(self) -> None:
        self.plan()
        self.sees(self.page.get_by_text("40.0 L at 35.0 ppt for Beacon"))
        self.button("Plan this batch").click()
        self.sees(self.page.get_by_role("button", name="Mix it, step by step"))

    def happened(self, words: str) -> Any:
        return self.page.locator("section > p", has_text=words)

    def record(self, what: str, amount: str) -> None:
        self.page.get_by_label("What happened", exact=True).select_option(what)
        self.page.get_by_label("How much").fill(amount)
        self.button("Save").click()
        expect(self.page.get_by_label("How much")).to_have_count(0)

    def test_the_bill_follows_the_wish_and_opens_its_working(self) -> None:
        self.plan()
        # 40 x 37.1 g.
        self.sees(self.page.get_by_role("button", name="1.484 kg, Kittiwake Standard, weighed"))
        self.page.get_by_role("button", name="1.484 kg").click()
        self.sees(self.page.get_by_text("salt mass").first)
        self.page.get_by_label("Volume of the container").fill("30")
        self.sees(self.page.get_by_text("0.5 to 28.5 L is accepted"))
        expect(self.button("Plan this batch")).to_have_count(0)
        self.page.get_by_label("Volume of the container").fill("60")
        self.page.get_by_role("checkbox", name="Skiff").check()
        self.sees(self.page.get_by_text("for Beacon and Skiff").first)
        self.assert_accessible()

    def test_a_batch_from_plan_to_label(self) -> None:
        self.make()
        self.record("salted", "1484")
        self.sees(self.page.get_by_text("mixed 0 h ago"))
        self.page.get_by_label("Measured Salinity").fill("36.4")
        self.button("Save results").click()
        self.sees(self.page.get_by_text("add 1.6 L of fresh water"))
        self.button("Record as done").click()
        self.sees(self.happened("1.6 L fresh water added"))
        self.page.get_by_label("Measured Salinity").fill("350")
        self.button("Save results").click()
        self.sees(self.page.get_by_text("0 to 45 ppt is accepted"))
        expect(self.page.get_by_label("Measured Salinity")).to_have_value("350")
        self.page.get_by_label("Measured Salinity").fill("35.0")
        self.button("Save results").click()
        self.sees(self.happened("salinity 35.0 ppt"))
        self.button("It matches: cover it").click()
        self.sees(self.page.locator("li[aria-current=step]", has_text="matched"))
        self.assert_accessible()
        self.page.get_by_role("link", name="Label to print").click()
        self.sees(self.page.get_by_text("New seawater"))
        self.sees(self.page.get_by_text("35.0 ppt"))
        self.page.emulate_media(media="print")
        expect(self.page.get_by_role("button", name="Print")).to_be_hidden()
        expect(self.page.get_by_role("navigation", name="Places").first).to_be_hidden()

    def test_what_was_recorded_is_taken_back(self) -> None:
        self.make()
        self.record("salted", "1484")
        self.record("thrown", "40")
        self.sees(self.happened("40.0 L poured away"))
        self.button("Undo").click()
        expect(self.happened("40.0 L poured away")).to_have_count(0)

    def test_an_amount_that_cannot_be_stays_typed_and_says_why(self) -> None:
        self.make()
        self.page.get_by_label("What happened", exact=True).select_option("salted")
        self.page.get_by_label("How much").fill("lots")
        self.button("Save").click()
        self.sees(self.page.get_by_text("“lots” is not a number"))
        expect(self.page.get_by_label("How much")).to_have_value("lots")


class OnAPhone(WebTest):
    size = PHONE

    def test_it_is_mixed_step_by_step(self) -> None:
        self.open("/mix", "Mix")
        self.assert_fits()
        self.button("Plan this batch").click()
        self.button("Mix it, step by step").click()
        self.sees(self.page.get_by_role("heading", name="A clean container"))
        self.button("All at hand").click()
        self.sees(self.page.get_by_role("heading", name="Fresh water, measured"))
        self.button("another amount").click()
        self.page.get_by_label("Volume").fill("39.6")
        self.button("count").click()
        self.sees(self.page.get_by_text("39.6", exact=True))
        self.button("Water is in").click()
        self.sees(self.page.get_by_role("heading", name="Pump running"))
        self.button("Done").click()
        self.sees(self.page.get_by_text("weighed (about"))
        self.button("All the salt is in").click()
        self.sees(self.page.get_by_role("heading", name="Let it mix and warm"))
        self.button("Start 120 min").click()
        self.sees(self.page.get_by_role("timer"))
        self.assert_fits()
        self.button("close").click()
        self.sees(self.page.get_by_text("mixing", exact=True).first)

    def test_a_batch_fits_the_screen(self) -> None:
        self.open("/batches/1", "Batch 1")
        self.sees(self.page.get_by_label("Measured Salinity"))
        self.assert_fits()
        self.assert_accessible()


class Empty(WebTest):
    empty = True

    def test_it_says_what_is_missing(self) -> None:
        self.open("/mix", "Mix")
        self.sees(self.page.get_by_text("this is still needed: a salt on the Shelf, a system."))
