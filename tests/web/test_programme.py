"""A programme in the browser: begun, looked at week by week with a picture, and where it leads."""

from __future__ import annotations

import re
from io import BytesIO

from PIL import Image

from tests.stage import PHONE
from tests.web.base import WebTest, expect

FILM = "/systems/3/programmes/cyanobacteria"


def picture() -> dict[str, object]:
    out = BytesIO()
    Image.new("RGB", (800, 600), (120, 40, 50)).save(out, "JPEG")
    return {"name": "corner.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}


class Programme(WebTest):
    def test_a_look_with_its_picture_joins_the_strip_and_is_taken_back(self) -> None:
        self.open(FILM, "Cyanobacteria (red film)")
        self.assert_accessible()
        looks = self.page.get_by_role("region", name="Week by week").get_by_role("listitem")
        expect(looks).to_have_count(3)
        expect(self.button("Record this look")).to_be_disabled()
        self.page.get_by_role("radio", name=re.compile("a little")).click()
        self.page.get_by_label("choose a picture").set_input_files(picture())
        self.sees(self.page.get_by_alt_text(re.compile("same place")))
        self.button("Record this look").click()
        expect(looks).to_have_count(4)
        expect(looks.last).to_contain_text("a little")
        expect(self.page.get_by_role("region", name="How it stands")).to_contain_text("a little now, after 4 looks")
        # Two are set side by side.
        looks.nth(0).get_by_role("button").click()
        looks.nth(3).get_by_role("button").click()
        expect(self.page.locator("figure")).to_have_count(2)
        self.button("Undo").click()
        expect(looks).to_have_count(3)

    def test_begun_from_what_was_recognised_it_stands_on_the_rota(self) -> None:
        self.open("/systems/1/trouble", "What is it?")
        self.button("tufts or a lawn").click()
        self.button("I don’t know").click()
        self.page.get_by_role("link", name="Programme: Green hair algae, by hand and grazers").click()
        self.sees(self.page.get_by_role("heading", name="Green hair algae", level=1))
        expect(self.button("Begin")).to_be_disabled()
        self.page.get_by_role("radio", name=re.compile("patches")).click()
        self.button("Begin").click()
        expect(self.page.get_by_role("region", name="How it stands")).to_contain_text("Find what feeds it, week 1")
        self.open("/rota", "Rota")
        self.sees(self.page.get_by_text("Test the fresh water").first)

    def test_a_phase_is_chosen_and_the_review_leads_from_next_to_its_page(self) -> None:
        self.open("/systems/3/sheet", "Skiff")
        card = self.page.get_by_role("article").filter(has_text="Review the red film")
        if card.count():
            card.get_by_role("button", name="Open it").click()
        else:
            self.page.get_by_role("link", name=re.compile("Programme against cyanobacteria")).click()
        self.sees(self.page.get_by_role("heading", name="Cyanobacteria (red film)", level=1))
        self.page.get_by_text("4. Shorter light").click()
        self.page.locator("details[open]").get_by_role("button", name="go to this phase").last.click()
        expect(self.page.get_by_role("region", name="How it stands")).to_contain_text("Shorter light, week 1")

    def test_on_a_phone_everything_fits(self) -> None:
        self.page.set_viewport_size(PHONE)
        self.open(FILM, "Cyanobacteria (red film)")
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, PHONE["width"])
        for one in self.page.get_by_role("radio").all():
            box = one.bounding_box()
            assert box
            self.assertGreaterEqual(box["height"], 44)
            self.assertLessEqual(box["x"] + box["width"], PHONE["width"])

    def test_all_programmes_stand_in_a_list(self) -> None:
        self.open("/systems/2/programmes", "Programmes")
        self.assert_accessible()
        expect(self.page.get_by_role("region", name="Under way").get_by_role("listitem")).to_have_count(1)
