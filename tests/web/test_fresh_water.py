"""Fresh water in the browser: the unit's stages, its working, and what follows from a field; on a phone."""

from __future__ import annotations

import re

from tests.stage import PHONE
from tests.web.base import WebTest, expect


class FreshWater(WebTest):
    def test_what_follows_follows_the_field_and_undo_brings_it_back(self) -> None:
        self.open("/fresh-water", "Fresh water")
        self.assert_accessible()
        self.button("Working: flow").click()
        self.sees(self.page.get_by_text("temperature correction of membrane makers"))
        self.page.get_by_label("Flow as timed").fill("2")
        self.sees(self.page.get_by_text("The flow is low for this pressure"))
        self.page.get_by_label("Pressure now").fill("90")
        self.sees(self.page.get_by_text(re.compile("20 bar is accepted")))
        self.page.get_by_label("Pressure now").fill("3.6")
        self.button("Save").click()
        self.sees(self.page.get_by_text("RO/DI unit saved"))
        self.button("Undo").click()
        expect(self.page.get_by_label("Flow as timed")).to_have_value("")

    def test_on_a_phone_everything_fits(self) -> None:
        self.page.set_viewport_size(PHONE)
        self.open("/fresh-water", "Fresh water")
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
