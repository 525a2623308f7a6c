"""Change in the browser: the request as a sentence, by purpose and with other water; hoses, routines and the kit list."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class Change(WebTest):
    def setUp(self) -> None:
        super().setUp()
        self.open("/systems/1/change", "Water change, Beacon")
        self.sees(self.page.get_by_role("heading", name="What it takes"))

    def purpose(self, key: str) -> None:
        self.page.get_by_label("Purpose").select_option(key)

    def test_nitrate_is_brought_down_and_its_steps_are_shown(self) -> None:
        self.purpose("bring")
        self.page.get_by_label("Target", exact=True).fill("4")
        self.sees(self.page.get_by_role("group", name="Steps of the plan"))
        self.sees(self.page.get_by_text("% of the old water is left"))
        self.page.get_by_label("Target", exact=True).fill("-3")
        self.sees(self.page.get_by_text("0 to 1000 mg/L is accepted").or_(self.page.get_by_text("is not possible here")))
        expect(self.button("Add to the rota")).to_have_count(0)

    def test_another_water_takes_no_salt(self) -> None:
        self.sees(self.page.get_by_text("salt, weighed"))
        self.page.get_by_label("New water", exact=True).select_option("stored")
        self.sees(self.page.get_by_label("Batch", exact=True))
        expect(self.page.get_by_text("salt, weighed")).to_have_count(0)
        self.page.get_by_label("New water", exact=True).select_option("natural")
        self.page.get_by_label("Salinity of the new water").fill("3")
        self.sees(self.page.get_by_text("20 to 42 ppt is accepted"))
        self.page.get_by_label("New water", exact=True).select_option("system")
        self.page.get_by_label("Other system").select_option(label="Eelgrass")
        self.sees(self.page.get_by_text("One change is enough").or_(self.page.get_by_text("Test before each step")).first)

    def test_a_contamination_in_an_emergency(self) -> None:
        self.purpose("dilute")
        self.page.get_by_label("Danger").select_option("poison")
        self.page.get_by_label("Size in percent").fill("50")
        self.sees(self.page.get_by_text("Something poisonous got in", exact=True))
        self.sees(self.page.get_by_text("25 % of the old water is left"))

    def test_hoses_are_kept_and_the_tank_side_follows(self) -> None:
        self.button("Hoses and pumps").click()
        self.page.get_by_label("Filling pump").fill("much")
        self.button("Save").click()
        self.sees(self.page.get_by_text("“much” is not a number").or_(self.page.get_by_text("a number").first).first)
        self.page.get_by_label("Filling pump").fill("500")
        self.button("Save").click()
        self.sees(self.page.get_by_text("to fill by the pump"))

    def test_two_sides_and_water_kept_back(self) -> None:
        self.page.get_by_label("Zones").select_option("2")
        self.sees(self.page.get_by_text("at the left"))
        self.page.get_by_label("Water kept back").fill("900")
        self.sees(self.page.get_by_text("L is accepted"))
        self.page.get_by_label("How fast").select_option("7")
        self.page.get_by_label("Water kept back").fill("10")
        self.sees(self.page.get_by_text("set on both pumps"))

    def test_two_routines_side_by_side(self) -> None:
        self.button("Two routines compared").click()
        self.sees(self.page.get_by_role("img", name="Nitrate over three months"))
        self.page.get_by_label("Routine B, percent").fill("0")
        self.sees(self.page.get_by_text("1 to 95 % is accepted"))
        self.page.get_by_label("Routine B, percent").fill("40")
        self.sees(self.page.get_by_text("a month").nth(1))
        self.assert_accessible()

    def test_the_kit_list_of_the_visit(self) -> None:
        self.button("Add to the rota").click()
        self.sees(self.page.get_by_text("on the rota, Tue 24 Nov"))
        self.open("/systems/1/kit", "Kit list, Beacon")
        buckets = self.page.get_by_role("checkbox", name="buckets 3 of 15 L")
        buckets.check()
        self.page.reload()
        expect(self.page.get_by_role("checkbox", name="buckets 3 of 15 L")).to_be_checked()
        self.assert_accessible()
        self.page.get_by_label("Day of the visit").fill("2026-12-30")
        self.sees(self.page.get_by_text("Wed 30 Dec"))


class OnAPhone(WebTest):
    size = PHONE

    def test_it_fits_and_can_be_used_with_one_hand(self) -> None:
        self.open("/systems/2/change", "Water change, Eelgrass")
        self.sees(self.page.get_by_label("Salinity of the new water"))
        self.assert_fits()
        self.assert_accessible()
        self.open("/systems/2/kit", "Kit list, Eelgrass")
        self.assert_fits()
