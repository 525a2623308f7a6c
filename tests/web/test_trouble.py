"""A trouble recognised by taps in the browser: drawings, reasons, a closer look; and on a phone."""

from __future__ import annotations

import re

from tests.stage import PHONE
from tests.web.base import WebTest, expect


class Recognise(WebTest):
    def tap(self, name: str) -> None:
        self.button(name).click()

    def test_from_a_drawing_to_the_likely_cause_and_back(self) -> None:
        self.open("/systems/1/trouble", "What is it?")
        expect(self.page.locator("main svg[viewBox='0 0 64 48']")).to_have_count(17)
        self.assert_accessible()
        self.tap("a slimy film that lies on things")
        self.tap("red, purple or black")
        first = self.page.get_by_role("list", name="Likely troubles").get_by_role("listitem").first
        expect(first).to_contain_text("Cyanobacteria (red film)")
        expect(first).to_contain_text(re.compile(r"about \d+\s%"))
        expect(first).to_contain_text("Lift it out by hand")
        self.assert_accessible()
        self.button("Take back: red, purple or black").click()
        self.sees(self.page.get_by_role("heading", name="Which colour?"))
        self.button("start again").click()
        self.sees(self.page.get_by_role("heading", name="What does it look like?"))

    def test_what_the_record_knows_is_used_and_can_be_set_aside(self) -> None:
        self.open("/systems/2/trouble", "What is it?")
        self.sees(self.page.get_by_text("by your record").first)
        first = self.page.get_by_role("list", name="Likely troubles").get_by_role("listitem").first
        expect(first).to_contain_text("Dinoflagellates")
        self.sees(self.page.get_by_role("heading", name="Look at a drop under a microscope"))
        self.tap("oval cells that swim or spin")
        expect(first).to_contain_text("oval cells that swim or spin")
        self.button("Take back: slimy strings or strands").click()
        self.sees(self.page.get_by_role("heading", name="What does it look like?"))

    def test_on_a_phone_every_answer_is_large_enough_and_nothing_is_cut_off(self) -> None:
        self.page.set_viewport_size(PHONE)
        self.open("/systems/1/trouble", "What is it?")
        for one in self.page.locator("button.answer").all():
            box = one.bounding_box()
            assert box
            self.assertGreaterEqual(box["height"], 44)
            self.assertLessEqual(box["x"] + box["width"], PHONE["width"])
