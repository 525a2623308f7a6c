"""The breaking-in story: where it stands, why no change, and the end with its proof."""

from playwright.sync_api import expect

from tests.web.base import WebTest


class BreakingIn(WebTest):
    def enter(self, **results: str) -> None:
        """A test session on the bench of Slipway, its jumps confirmed."""
        self.page.goto(f"{self.server.url}/systems/4/bench")
        for name, text in results.items():
            self.page.get_by_label(name, exact=True).fill(text)
        self.sees(self.page.get_by_label("it is right, save it").nth(1))
        for sure in self.page.get_by_label("it is right, save it").all():
            sure.check()
        self.button("Save").click()
        self.sees(self.page.get_by_text("saved for Slipway"))

    def test_from_the_nitrite_peak_to_the_end(self) -> None:
        self.open("/systems/4/sheet", "Slipway")
        self.sees(self.page.get_by_role("heading", name="Ammonia is gone, nitrite is near its peak"))
        expect(self.page.locator(".phases .now")).to_have_text("nitrite")
        self.sees(self.page.get_by_text("Test ammonia, nitrite and alkalinity on Thu 26 Nov."))
        self.button("why no water change now").click()
        self.sees(self.page.get_by_text("heat or circulation failed"))
        self.assert_accessible()
        self.assert_fits()
        self.enter(Ammonia="0.00", Nitrite="0.02", Nitrate="28")
        self.sees(self.page.get_by_role("heading", name="Both are gone: now prove it"))
        self.button("end cycling anyway").click()
        self.button("It has finished cycling").click()
        self.sees(self.page.get_by_role("alert"))
        self.page.get_by_label("Why finish without proof").fill("mature rock moved over")
        self.page.get_by_label("Target bands from now on").select_option("soft_corals")
        self.button("It has finished cycling").click()
        self.sees(self.page.get_by_text("Slipway has finished cycling"))
        self.sees(self.page.get_by_role("heading", name="Repeat the nitrate test").first)
        expect(self.page.locator(".phases")).to_have_count(0)
