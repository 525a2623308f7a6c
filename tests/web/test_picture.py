"""Pictures in the browser: brought, set side by side, on a visual check and on a row of the bench."""

from playwright.sync_api import expect

from tests.files.test_picture import picture
from tests.web.base import WebTest


def file(name: str, data: bytes | None = None):
    return {"name": name, "mimeType": "image/jpeg", "buffer": data or picture(size=(700, 500))}


class Pictures(WebTest):
    def test_two_dates_are_set_side_by_side(self) -> None:
        self.open("/systems/2/pictures", "Pictures, Eelgrass")
        self.page.get_by_role("button", name="21 Nov 2026").click()
        self.page.get_by_role("button", name="3 Oct 2026").click()
        pair = self.page.get_by_role("region", name="Side by side").locator("figcaption b")
        expect(pair).to_have_text(["3 Oct 2026", "21 Nov 2026"])
        broken = self.page.evaluate("[...document.images].filter(one => one.complete && !one.naturalWidth).length")
        self.assertEqual(broken, 0)
        self.assert_accessible()
        self.assert_fits()

    def test_brought_refused_and_taken_back(self) -> None:
        self.open("/systems/4/pictures", "Pictures, Slipway")
        self.sees(self.page.get_by_text("No picture yet"))
        self.page.get_by_label("What it shows").fill("anemone")
        self.page.get_by_label("add pictures").set_input_files([file("one.jpg"), file("two.jpg", b"not a picture")])
        self.sees(self.page.get_by_role("alert").filter(has_text="two.jpg: this is not a picture that can be read"))
        self.sees(self.page.get_by_role("button", name="anemone"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("No picture yet"))

    def test_on_a_look_round_and_on_a_row(self) -> None:
        self.open("/systems/1/bench", "Bench, Beacon")
        self.button("visual check").click()
        self.page.get_by_label("add a picture").set_input_files(file("look.jpg"))
        self.sees(self.page.locator(".pictures img"))
        self.button("Save: nothing to note").click()
        self.sees(self.page.get_by_text("a visual check with nothing to note saved"))
        self.page.locator("#value-alkalinity").fill("7.4")
        self.page.get_by_label("Picture for Alkalinity").set_input_files(file("kit.jpg"))
        self.sees(self.page.get_by_text("picture attached"))
        self.page.reload()
        self.sees(self.page.get_by_text("picture attached"))
        self.button("Save 1 result").click()
        self.open("/log", "Log")
        self.sees(self.page.get_by_role("img", name="Picture: Alkalinity 7.4 dKH"))
        self.sees(self.page.get_by_role("img", name="Picture: Visual check"))
