"""Dosing in the browser: the routine while typing, a correction onto the rota, day and night, containers; and a phone."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class Dosing(WebTest):
    def figure(self, words: str) -> Any:
        return self.page.get_by_role("button", name=words)

    def test_the_routine_follows_the_sentence_and_is_adopted(self) -> None:
        self.open("/systems/1/dosing", "Dosing")
        self.sees(self.page.get_by_text("so it is falling"))
        self.sees(self.page.get_by_role("img", name="Uptake of alkalinity"))
        self.page.get_by_label("Alkalinity used a day").fill("0.5")
        self.page.get_by_label("water changes").uncheck()
        # 0.5 dKH in 334 L: 31.6 mL of a stock of 100 g/L of soda ash.
        self.sees(self.figure("31.6 mL, soda stock a day"))
        self.figure("31.6 mL").click()
        self.sees(self.page.get_by_text("mass of the additive").first)
        self.page.get_by_label("Alkalinity used a day").fill("lots")
        self.sees(self.page.locator(".sentence [role=alert]").first)
        expect(self.button("Use this dose from now on")).to_have_count(0)
        expect(self.page.get_by_label("Alkalinity used a day")).to_have_value("lots")
        self.page.get_by_label("Alkalinity used a day").fill("")
        self.page.get_by_label("water changes").check()
        self.button("Use this dose from now on").click()
        self.sees(self.page.get_by_text("within the range of what is used"))
        self.sees(self.button("In use"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("so it is falling"))
        self.assert_accessible()

    def test_limewater_and_a_reactor_in_the_sentence(self) -> None:
        self.open("/systems/1/dosing", "Dosing")
        self.page.get_by_label("Limewater a day").fill("1.5")
        self.page.get_by_label("Reservoir", exact=True).fill("20")
        self.sees(self.page.get_by_text("All 20.0 L at once would give"))
        self.sees(self.page.get_by_text("Limewater burns, and kills by pH"))
        self.page.get_by_label("a calcium reactor").check()
        self.sees(self.page.get_by_text("enter the effluent's alkalinity"))

    def test_a_correction_goes_onto_the_rota(self) -> None:
        self.open("/systems/1/dosing/correction", "Dosing")
        days = self.page.get_by_role("list", name="The days of the correction")
        self.sees(days.get_by_text("soda stock").first)
        self.page.get_by_label("Target of Alkalinity").fill("5")
        self.sees(self.page.get_by_text("No dose lowers alkalinity"))
        expect(self.button("Add to the rota")).to_have_count(0)
        self.page.get_by_label("Target of Alkalinity").fill("8.5")
        expect(self.page.get_by_text("No dose lowers alkalinity")).to_have_count(0)
        self.page.get_by_role("checkbox", name="Magnesium").check()
        self.page.get_by_label("Target of Magnesium").fill("1390")
        self.sees(days.get_by_text("magnesium chloride").first)
        self.sees(self.page.get_by_text("gentler:"))
        self.assert_accessible()
        self.button("Add to the rota").click()
        self.sees(self.page.get_by_text("A correction is under way"))
        self.page.get_by_role("link", name="See the rota").click()
        self.sees(self.page.get_by_role("button", name="soda stock").first)

    def test_day_and_night(self) -> None:
        self.open("/systems/1/dosing/day-night", "Dosing")
        self.sees(self.page.get_by_text("off a swing of"))
        self.sees(self.page.get_by_role("img", name="pH from midnight to midnight"))
        self.sees(self.page.get_by_text("the room's air sets it"))
        self.page.get_by_role("checkbox", name="as now, in outdoor air").check()
        expect(self.page.locator("path.curve")).to_have_count(4)
        self.page.get_by_label("Carbon dioxide of the room").fill("40")
        self.sees(self.page.get_by_text("250 to 5000 ppm is accepted"))
        self.page.get_by_label("Carbon dioxide of the room").fill("650")
        self.sees(self.page.get_by_text("650 ppm of CO₂ (measured)"))
        self.assert_accessible()
        self.button("Apply to the pumps").click()
        self.sees(self.page.get_by_text("new pump times from"))

    def test_a_refill_needs_the_right_label(self) -> None:
        self.open("/systems/1/dosing/containers", "Dosing")
        card = self.page.get_by_role("article", name="soda stock")
        card.get_by_role("button", name="Refill").click()
        card.get_by_role("button", name="Filled").click()
        self.sees(card.get_by_role("alert").get_by_text("read the label of what you are pouring"))
        card.get_by_label("What the bottle says").select_option(label="calcium stock (CaCl2·2H2O, 140 g/L)")
        card.get_by_role("button", name="Filled").click()
        self.sees(card.get_by_text("These must never meet"))
        expect(card.get_by_label("Filled up to, mL")).to_have_value("1000")
        card.get_by_label("What the bottle says").select_option(label="soda stock (Na2CO3, 100 g/L)")
        card.get_by_role("button", name="Filled").click()
        self.sees(card.get_by_text("1.00 L ±"))
        self.sees(self.page.get_by_text("The pump of calcium stock loses"))
        self.assert_accessible()

    def test_a_level_a_calibration_and_a_new_container(self) -> None:
        self.open("/systems/1/dosing/containers", "Dosing")
        card = self.page.get_by_role("article", name="calcium stock")
        card.get_by_role("button", name="Read its level").click()
        card.get_by_label("Level, mL").fill("950")
        card.get_by_role("button", name="Save the level").click()
        self.sees(card.get_by_text("nothing was poured in"))
        expect(card.get_by_label("Level, mL")).to_have_value("950")
        card.get_by_role("button", name="Calibrate").click()
        card.get_by_label("Caught, mL").fill("20")
        card.get_by_role("button", name="Save the flow").click()
        self.sees(card.get_by_text("20.0 mL/min").first)
        expect(self.page.get_by_text("The pump of calcium stock loses")).to_have_count(0)
        self.button("Set up a container").click()
        self.page.get_by_label("What it holds").select_option(label="bicarbonate stock (NaHCO3, 80 g/L)")
        self.page.get_by_label("Holds, mL", exact=True).fill("9000000")
        self.button("Set up").click()
        self.sees(self.page.get_by_text("50 to 60000 mL is accepted"))
        self.page.get_by_label("Holds, mL", exact=True).fill("500")
        self.button("Set up").click()
        self.sees(self.page.get_by_role("article", name="bicarbonate stock"))

    def test_edited_and_an_event_taken_back(self) -> None:
        self.open("/systems/1/dosing/containers", "Dosing")
        card = self.page.get_by_role("article", name="soda stock")
        card.get_by_role("button", name="what happened").click()
        card.get_by_role("button", name="Undo: Sun 22 Nov: level 506 mL").click()
        expect(card.get_by_text("level 506 mL")).to_have_count(0)
        self.page.get_by_role("button", name="Undo", exact=True).click()
        self.sees(card.get_by_text("level 506 mL"))
        card.get_by_role("button", name="edit").click()
        card.get_by_label("Pump (empty: by hand)").fill("")
        card.get_by_role("button", name="Save").click()
        self.sees(card.get_by_text("8.8 mL a day by hand"))
        card.get_by_role("button", name="retire").click()
        expect(card).to_have_count(0)
        self.button("Undo").click()
        self.sees(card)

    def test_a_stock_solution_and_its_label(self) -> None:
        self.open("/systems/1/dosing/stock", "Dosing")
        self.sees(self.page.get_by_text("200.0 g"))
        self.page.get_by_label("Strength in grams a litre").fill("400")
        self.sees(self.page.get_by_text("0.001 to 210 g/L is accepted"))
        self.page.get_by_label("Strength in grams a litre").fill("150")
        self.sees(self.page.get_by_text("300.0 g"))
        self.sees(self.page.locator("article.label").get_by_text("150 g/L"))
        self.page.get_by_label("Amount by the product sheet").fill("200")
        self.sees(self.page.get_by_text("phosphate is where it should be"))
        self.assert_accessible()

    def test_next_and_the_rota_lead_to_the_containers(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.button("See the container").click()
        self.sees(self.page.get_by_role("heading", name="The pump of calcium stock loses"))
        self.page.keyboard.press("d")
        self.sees(self.page.get_by_text("The dose below would hold it"))

    def test_a_refill_on_the_rota_leads_to_its_container(self) -> None:
        self.open("/systems/1/dosing/containers", "Dosing")
        card = self.page.get_by_role("article", name="soda stock")
        card.get_by_role("button", name="Set the amount").click()
        card.get_by_label("A day, mL").fill("40")
        card.get_by_role("button", name="Set it").click()
        self.sees(card.get_by_text("40.0 mL a day"))
        self.page.keyboard.press("r")
        self.page.wait_for_load_state("networkidle")
        self.page.get_by_role("button", name="Refill soda stock").first.click()
        self.sees(self.page.get_by_text("mL left"))
        self.button("To the container").click()
        self.sees(card)


class OnAPhone(WebTest):
    size = PHONE

    def test_every_part_fits(self) -> None:
        for path, text in (
            ("dosing", "so it is falling"),
            ("dosing/correction", "within the daily limits"),
            ("dosing/day-night", "off a swing of"),
            ("dosing/containers", "The pump of calcium stock loses"),
            ("dosing/stock", "Phosphate media and carbon dosing"),
        ):
            with self.subTest(path=path):
                self.open(f"/systems/1/{path}", "Dosing")
                self.sees(self.page.get_by_text(text).first)
                self.assert_fits()


class Elsewhere(WebTest):
    def test_what_is_missing_is_said_with_the_way_to_it(self) -> None:
        self.open("/systems/4/dosing", "Dosing")
        self.sees(self.page.get_by_text("a reading of calcium"))
        self.open("/systems/3/dosing/day-night", "Dosing")
        self.sees(self.page.get_by_text("a pH probe that records day and night"))
        self.open("/systems/3/dosing/containers", "Dosing")
        self.sees(self.page.get_by_text("No containers yet"))


class ByNight(WebTest):
    night = True

    def test_day_and_night_at_night(self) -> None:
        self.open("/systems/1/dosing/day-night", "Dosing")
        self.sees(self.page.get_by_text("off a swing of"))
        self.assert_accessible()
