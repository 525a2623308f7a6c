"""The visual check on the bench, what happened, and what the sheet says they come to."""

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class LookRound(WebTest):
    def test_from_the_bench_to_the_look_and_from_the_look_to_the_judgement(self) -> None:
        self.open("/systems/2/sheet", "Eelgrass")
        self.sees(self.page.get_by_role("heading", name="Find out what grows").first)
        self.open("/systems/2/bench", "Bench, Eelgrass")
        self.button("visual check").click()
        self.sees(self.page.get_by_text("Anything not tapped counts as absent"))
        self.button("same as last time").click()
        strands = self.page.get_by_role("button", name="slimy brown strands")
        expect(strands).to_have_attribute("aria-pressed", "true")
        strands.click()  # from patches to much
        expect(strands).to_contain_text("much")
        strands.click()  # and off
        expect(strands).to_have_attribute("aria-pressed", "false")
        self.assert_accessible()
        self.button("Save the visual check").click()
        self.sees(self.page.get_by_text("2 signs saved for Eelgrass"))
        self.page.keyboard.press("s")
        self.sees(self.page.get_by_role("heading", name="Nitrate is under the floor").first)
        self.page.get_by_role("button", name="Evidence").click()
        self.sees(self.page.get_by_text("This would change with"))
        self.assert_accessible()
        self.assert_fits()

    def test_undo_takes_a_look_back(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.get_by_role("button", name="visual check").click()
        self.page.get_by_role("button", name="fish breathe fast").click()
        self.button("Save the visual check").click()
        self.sees(self.page.get_by_text("1 sign saved"))
        self.sees(self.page.get_by_text("Tue 24 Nov: fish breathe fast"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("Tue 24 Nov: coralline algae growing"))

    def test_a_draft_outlives_a_reload_and_a_dead_server(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.get_by_role("button", name="visual check").click()
        self.page.get_by_role("button", name="green hair algae").click()
        self.page.get_by_label("Note on the visual check").fill("behind the weir")
        self.server.kill()
        self.button("Save the visual check").click()
        self.sees(self.page.get_by_role("alert"))
        self.server.start()
        self.page.goto(f"{self.server.url}/systems/1/bench")
        expect(self.page.get_by_role("button", name="green hair algae")).to_have_attribute("aria-pressed", "true")
        expect(self.page.get_by_label("Note on the visual check")).to_have_value("behind the weir")

    def test_a_happening_takes_two_touches_and_stands_on_the_sheet(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.get_by_role("button", name="something happened").click()
        self.page.get_by_role("button", name="new lamp, or the light changed").click()
        self.button("Save").click()
        self.sees(self.page.get_by_text("Tue 24 Nov: new lamp, or the light changed"))
        self.page.keyboard.press("s")
        self.sees(self.page.locator("svg title", has_text="new lamp").locator("..").first)

    def test_a_rule_is_switched_off_in_set_up_and_says_nothing_more(self) -> None:
        self.open("/systems/3/setup", "Set-up, Skiff")
        self.page.get_by_role("button", name="Rules of judgement").click()
        self.page.get_by_label("Salinity first").uncheck()
        self.assert_accessible()
        self.page.keyboard.press("Escape")
        self.page.goto(f"{self.server.url}/systems/3/sheet")
        self.sees(self.page.get_by_text("1 rule is switched off"))
        expect(self.page.get_by_role("heading", name="Salinity is high")).to_have_count(0)


class OnThePhone(WebTest):
    size = PHONE

    def test_the_look_round_fits_a_thumb(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.page.get_by_role("button", name="visual check").click()
        self.page.get_by_role("button", name="green hair algae").click()
        self.page.get_by_label("Where: green hair algae").select_option("rock")
        self.assert_fits()
        self.assert_accessible()
