"""A plan from the finding to its end, in the browser: chosen, followed, paused, given up; and the aim at Set-up."""

from __future__ import annotations

import re

from tests.web.base import WebTest

LOW, SALTY = "/systems/1/plan/ion_low.alkalinity", "/systems/3/plan/salinity_first.salinity"


class Plan(WebTest):
    def test_from_next_to_the_rota_and_back(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        first = self.page.get_by_role("article").filter(has=self.button("See the plan")).first
        title = str(first.get_by_role("heading").text_content()).strip()
        first.get_by_role("button", name="See the plan").click()
        self.sees(self.page.get_by_role("heading", name="Alkalinity is low"))
        # The same words with the same amounts, its steps, and what it does.
        card = self.page.get_by_role("article").first
        self.sees(card.get_by_role("heading", name=title))
        self.sees(card.get_by_role("list", name="Steps"))
        self.sees(card.get_by_role("row", name=re.compile("Alkalinity 7.2 dKH")))
        self.sees(self.page.get_by_role("img", name=re.compile("Alkalinity: with it")))
        self.sees(self.page.get_by_text("too much for alkalinity alone"))
        self.assert_accessible()
        card.get_by_role("button", name="Use this plan").click()
        self.sees(self.page.get_by_text(f"{title}: on the rota"))
        self.sees(self.page.get_by_role("heading", name="The plan you chose"))
        self.open("/systems/1/sheet", "Beacon")
        self.sees(self.page.get_by_text("0 of 2 steps done, not tested yet"))
        self.sees(self.page.get_by_role("link", name="the plan you chose"))
        self.open("/rota", "Rota")
        dose = title.partition(": ")[2].partition(" a day")[0]
        self.sees(self.page.get_by_text(f"Dose {dose}").first)

    def test_it_is_paused_resumed_and_given_up_with_a_reason(self) -> None:
        self.open(LOW, "Alkalinity is low")
        self.button("Use this plan").click()
        self.sees(self.page.get_by_role("heading", name="The plan you chose"))
        self.button("pause").click()
        self.sees(self.page.get_by_text(re.compile(": paused")))
        self.button("go on with it").click()
        self.sees(self.page.get_by_text(re.compile(": goes on")))
        self.button("give it up").click()
        self.page.get_by_label("Why it is given up").fill("corals closed")
        self.page.get_by_role("button", name="Give it up", exact=True).click()
        self.sees(self.page.get_by_role("heading", name="Tried before"))
        self.sees(self.page.get_by_text("corals closed").first)
        self.page.get_by_role("link", name="All plans of this system").click()
        self.sees(self.page.get_by_role("heading", name="Plans", exact=True))
        self.sees(self.page.get_by_role("heading", name="Done and ended"))
        self.assert_accessible()

    def test_no_plan_yet(self) -> None:
        self.open("/systems/4/cases", "Plans")
        self.sees(self.page.get_by_text("No plan yet"))

    def test_a_cause_that_is_gone_says_so(self) -> None:
        self.open_lost()

    def open_lost(self) -> None:
        self.page.goto(f"{self.server.url}/systems/1/plan/ion_low.calcium")
        self.sees(self.page.get_by_text("this is no longer found: look at the sheet again"))


class AtTheTank(WebTest):
    size = {"width": 390, "height": 844}

    def test_fresh_water_is_swapped_and_ticked_on_the_phone(self) -> None:
        self.open(SALTY, "Salinity is high")
        self.sees(self.page.get_by_role("heading", name=re.compile("swap 2.2 L for fresh water")))
        self.assert_fits()
        self.assert_accessible()
        self.button("Use this plan").click()
        self.sees(self.page.get_by_role("heading", name="The plan you chose"))
        self.open("/", "Harbour")
        swap = self.page.get_by_role("article").filter(has_text="Swap 1.1 L for fresh water")
        swap.filter(has=self.page.get_by_role("button", name="Done")).first.get_by_role("button", name="Done").click()
        self.sees(self.page.get_by_role("button", name="Undo"))
        # Half-way it is inside its band by what is expected: the plan goes on, and is still found.
        self.open(SALTY, "Lower salinity to 35.0 ppt")
        self.sees(self.page.get_by_text("1 of 2 steps done"))
        self.open("/systems/3/sheet", "Skiff")
        self.sees(self.page.get_by_role("link", name="Lower salinity to 35.0 ppt"))


class Night(WebTest):
    night = True

    def test_in_the_night_theme(self) -> None:
        self.open(LOW, "Alkalinity is low")
        self.sees(self.page.get_by_role("img", name=re.compile("Alkalinity: with it")))
        self.assert_accessible()


class Aim(WebTest):
    def test_an_aim_of_ones_own_with_its_reason(self) -> None:
        self.open("/systems/1/setup", "Set-up")
        self.button("Target bands").click()
        aim = self.page.get_by_label("Alkalinity, aim")
        self.assertEqual(aim.get_attribute("placeholder"), "8.5")
        aim.fill("11")
        self.page.get_by_label("Alkalinity, why this aim").fill("as the salt mixes")
        self.button("Save changes").click()
        self.sees(self.page.get_by_text("7.5 to 9.5 dKH").first)
        self.assertEqual(aim.input_value(), "11", "what was typed is still there")
        aim.fill("8.0")
        self.assert_accessible()
        self.button("Save changes").click()
        self.open("/systems/1/sheet", "Beacon")
        self.sees(self.page.get_by_text("Raise alkalinity to 8.0 dKH").first)
