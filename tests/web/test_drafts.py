"""What is typed stays: over a reload, in an open list, and beside an error that leaves no plan."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.web.base import WebTest
from tests.web.test_runbook import AtTheTank


class NewSystem(WebTest):
    def setUp(self) -> None:
        super().setUp()
        self.open("/setup", "A new system")
        self.page.get_by_label("Name").fill("Dinghy")
        self.button("Next").click()
        self.page.get_by_label("Inside length").fill("61")

    def test_the_whole_form_outlives_a_reload_and_can_start_afresh(self) -> None:
        self.page.reload()
        self.sees(self.page.get_by_text("This is what you typed before"))
        expect(self.page.get_by_label("Name")).to_have_value("Dinghy")
        self.button("Next").click()
        expect(self.page.get_by_label("Inside length")).to_have_value("61")
        self.assert_accessible()
        self.button("start over").click()
        expect(self.page.get_by_label("Inside length")).to_have_value("")
        self.page.reload()
        expect(self.page.get_by_label("Name")).to_have_value("")

    def test_leaving_asks_and_does_what_is_said(self) -> None:
        harbour = self.page.get_by_role("link", name="Salt Tide")
        harbour.click()
        self.sees(self.page.get_by_text("Leave without saving?"))
        self.button("Stay here").click()
        expect(self.page.get_by_label("Inside length")).to_have_value("61")
        harbour.click()
        self.button("Keep for later").click()
        self.sees(self.page.get_by_role("heading", name="Harbour"))
        self.open("/setup", "A new system")
        expect(self.page.get_by_label("Name")).to_have_value("Dinghy")
        self.page.get_by_role("link", name="Salt Tide").click()
        self.button("Discard").click()
        self.sees(self.page.get_by_role("heading", name="Harbour"))
        self.open("/setup", "A new system")
        expect(self.page.get_by_label("Name")).to_have_value("")
        # Nothing is typed: nothing is asked.
        self.page.get_by_role("link", name="Salt Tide").click()
        self.sees(self.page.get_by_role("heading", name="Harbour"))

    def test_a_letter_in_an_open_list_does_not_leave_the_page(self) -> None:
        self.page.locator(".v-select", has_text="Shape of the display").click()
        self.sees(self.page.get_by_role("option", name="cylinder"))
        self.page.keyboard.press("c")
        self.page.keyboard.press("r")
        self.page.keyboard.press("Escape")
        self.sees(self.page.get_by_role("heading", name="A new system"))
        self.assertIn("/setup", self.page.url)


class Change(WebTest):
    def setUp(self) -> None:
        super().setUp()
        self.open("/systems/1/change", "Water change, Beacon")
        self.size_field = self.page.get_by_label("Size in percent")

    def test_the_size_outlives_a_reload_until_the_plan_is_on_the_rota(self) -> None:
        self.size_field.fill("17")
        self.sees(self.page.get_by_text("17 %").first)
        self.page.reload()
        expect(self.page.get_by_label("Size in percent")).to_have_value("17")
        self.button("Add to the rota").click()
        self.sees(self.page.get_by_text(re.compile(r"^\d+ on the rota")).first)
        self.open("/systems/1/change", "Water change, Beacon")
        expect(self.page.get_by_label("Size in percent")).not_to_have_value("17")

    def test_no_plan_below_an_error_and_it_comes_back(self) -> None:
        plan = self.page.get_by_role("button", name="Add to the rota")
        self.sees(plan)
        self.size_field.fill("400")
        self.sees(self.page.get_by_text("No plan yet"))
        expect(plan).to_have_count(0)
        expect(self.page.get_by_role("button", name="Start at the tank")).to_have_count(0)
        self.size_field.fill("15")
        self.sees(plan)
        expect(self.page.get_by_text("No plan yet")).to_have_count(0)

    def test_a_target_is_refused_in_the_unit_it_is_typed_in(self) -> None:
        self.page.get_by_label("Target alkalinity").fill("40")
        said = self.page.get_by_text("is not possible here").first
        self.sees(said)
        self.assertIn("dKH", said.inner_text())
        self.assertNotIn("meq/L", said.inner_text())


class Gate(AtTheTank):
    def test_a_value_that_was_typed_and_not_said_outlives_a_reload(self) -> None:
        self.start()
        self.press("All at hand")
        self.heading("Look first")
        self.press("Done")
        self.heading("Does the batch match?")
        field = self.page.get_by_label("Salinity")
        # Typed, and the page reloads before the field is left.
        field.press_sequentially("34.6")
        self.page.reload()
        self.heading("Does the batch match?")
        expect(self.page.get_by_label("Salinity")).to_have_value("34.6")
        self.page.get_by_label("Salinity").press("Enter")
        self.sees(self.page.get_by_text("good").first)
