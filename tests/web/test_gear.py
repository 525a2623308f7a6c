"""Gear in the browser: what is to be bought, what is told of a part, its picture; and on a phone."""

from __future__ import annotations

from io import BytesIO

from PIL import Image

from tests.stage import PHONE
from tests.web.base import WebTest, expect


class Gear(WebTest):
    def row(self, name: str):
        return self.page.locator("article", has=self.page.get_by_role("button", name=name)).first

    def test_what_is_to_be_bought_stands_first_and_a_spare_takes_it_off_the_list(self) -> None:
        self.open("/gear", "Gear")
        self.sees(self.page.get_by_text("UV steriliser lamp for Beacon, by"))
        row = self.row("UV steriliser lamp")
        self.sees(row.get_by_text("none left: buy one"))
        self.button("UV steriliser lamp").click()
        row.get_by_label("On the shelf").fill("many")
        row.get_by_role("button", name="Save").click()
        self.sees(row.locator(".v-messages__message").first)
        expect(row.get_by_label("On the shelf")).to_have_value("many")
        row.get_by_label("On the shelf").fill("1")
        row.get_by_label("It runs").fill("12")
        self.assert_accessible()
        row.get_by_role("button", name="Save").click()
        self.sees(self.page.get_by_text("UV steriliser lamp: saved"))
        self.sees(self.row("UV steriliser lamp").get_by_text("1 on the Shelf"))
        expect(self.page.get_by_text("UV steriliser lamp for Beacon, by")).to_have_count(0)
        self.button("Undo").click()
        self.sees(self.page.get_by_text("UV steriliser lamp for Beacon, by"))

    def test_the_order_of_its_pieces_is_kept_as_a_picture(self) -> None:
        self.open("/gear", "Gear")
        self.button("UV steriliser sleeve").click()
        self.sees(self.page.get_by_role("img", name="The pieces of UV steriliser sleeve"))
        self.button("pH probe").click()
        out = BytesIO()
        Image.new("RGB", (64, 48), (200, 190, 170)).save(out, "PNG")
        self.page.get_by_label("Picture of pH probe").set_input_files(
            {"name": "probe.png", "mimeType": "image/png", "buffer": out.getvalue()}
        )
        self.sees(self.page.get_by_role("img", name="The pieces of pH probe"))

    def test_its_task_is_one_step_away_and_the_shelf_beside_it(self) -> None:
        self.open("/gear", "Gear")
        self.row("return pump").get_by_role("link").first.click()
        self.sees(self.page.get_by_role("heading", name="Strip the return pump"))
        self.page.go_back()
        self.page.get_by_role("navigation", name="Parts of Gear").get_by_role("link", name="Shelf").click()
        self.sees(self.page.get_by_role("heading", name="Shelf"))


class OnAPhone(WebTest):
    size = PHONE

    def test_it_fits(self) -> None:
        self.open("/gear", "Gear")
        self.sees(self.button("UV steriliser lamp"))
        self.assert_fits()


class Nothing(WebTest):
    empty = True

    def test_it_says_what_to_do_first(self) -> None:
        self.open("/gear", "Gear")
        self.sees(self.page.get_by_text("No gear yet."))
