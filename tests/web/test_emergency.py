"""Emergencies in the browser: one press from every page, a sheet that is worked off, recorded and printed; a phone."""

from __future__ import annotations

import re

from tests.stage import PHONE
from tests.web.base import WebTest, expect


class Emergency(WebTest):
    def test_one_press_or_one_key_from_every_page_to_the_sheet_and_back(self) -> None:
        self.open("/systems/3/bench", "Bench")
        self.page.locator("h1").click()
        self.page.keyboard.press("!")
        self.sees(self.page.get_by_role("heading", name="Emergency"))
        self.assert_accessible()
        self.page.get_by_role("link", name="Water too hot").click()
        self.sees(self.page.get_by_role("heading", name="Water too hot"))
        self.sees(self.page.get_by_text("Each closed litre bottle of ice lowers it by 1.6 °C."))
        self.assert_accessible()
        self.page.get_by_role("link", name="All emergencies").click()
        self.sees(self.page.get_by_role("heading", name="Emergency"))
        self.open("/log", "Log")
        self.page.get_by_role("link", name="Emergency", exact=True).first.click()
        self.sees(self.page.get_by_role("link", name="Ammonia with animals inside"))

    def test_it_is_worked_through_step_by_step_and_holds_the_routine_back(self) -> None:
        self.open("/systems/1/emergency/oxygen", "Fish gasping")
        self.button("Work through it step by step").click()
        self.sees(self.page.get_by_role("heading", name="Break the surface"))
        self.open("/systems/1/emergency", "Emergency")
        self.sees(self.page.get_by_text("under way"))
        self.page.get_by_role("link", name="Fish gasping").click()
        self.button("Go on step by step").click()
        self.sees(self.page.get_by_role("heading", name="Break the surface"))

    def test_what_was_done_is_offered_to_the_quick_entry(self) -> None:
        self.open("/systems/1/emergency/contamination", "Contamination")
        self.button("Record “changed 83.5 L”").click()
        line = self.page.get_by_role("textbox", name="What you measured or did")
        expect(line).to_have_value("changed 83.5 L")
        self.sees(self.page.get_by_text(re.compile("83.5 L")).first)

    def test_it_prints_without_buttons(self) -> None:
        self.open("/systems/1/emergency/salinity_fell", "Salinity has fallen")
        self.page.emulate_media(media="print")
        expect(self.button("Print")).to_be_hidden()
        self.sees(self.page.get_by_text("Switch off the top-off"))
        self.sees(self.page.get_by_text("Do not"))

    def test_on_a_phone_it_is_one_press_away_and_nothing_is_cut_off(self) -> None:
        self.page.set_viewport_size(PHONE)
        self.open("/", "Harbour")
        self.page.get_by_role("link", name="Emergency", exact=True).first.click()
        self.page.get_by_role("link", name="Sting, cut or coral poison").click()
        self.sees(self.page.get_by_text("Emergency number at once for trouble breathing"))
        wide = self.page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        self.assertEqual(wide, 0)
