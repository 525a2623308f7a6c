"""What can fail, in the browser: read, drawn, typed and dragged; and the top-off with its reservoir."""

from __future__ import annotations

import re
from typing import Any

from tests.stage import PHONE
from tests.web.base import WebTest, expect

BOARD, LEVELS = "/systems/1/failures", "/systems/1/installation"


class Failures(WebTest):
    def row(self, name: str) -> Any:
        return self.page.get_by_role("listitem").filter(has=self.page.get_by_role("button", name=name))

    def test_a_failure_opens_its_numbers_with_their_working_and_leads_to_its_sheet(self) -> None:
        self.open(BOARD, "What can fail")
        self.assert_accessible()
        first = self.page.get_by_role("region", name="Nothing prevents these").get_by_role("listitem").first
        expect(first).to_contain_text("grave")
        row = self.row("The overflow is blocked")
        row.get_by_role("button", name=re.compile("The overflow is blocked")).click()
        row.get_by_role("button", name="13.6 L").click()
        self.sees(row.get_by_text("what runs in less the room for it"))
        expect(row).to_contain_text("22 Aug 2026")
        row.get_by_role("link", name="When it happens").click()
        self.sees(self.page.get_by_role("heading", name=re.compile("Leak|burst", re.I), level=1))

    def test_a_level_is_typed_and_dragged_what_follows_follows_and_undo_brings_it_back(self) -> None:
        self.open(LEVELS, "Levels, top-off, heat")
        self.assert_accessible()
        follows = self.page.get_by_role("region", name="What follows")
        expect(follows).to_contain_text("10.2 L")
        expect(self.button("Save")).to_be_disabled()
        # 117.6 x 57.6 x 3 cm.
        self.page.get_by_label("Display falls when the return stops by").fill("3")
        expect(follows).to_contain_text("20.3 L")
        level = self.page.get_by_role("slider", name="falls to")
        level.focus()
        self.page.keyboard.press("ArrowUp")
        expect(self.page.get_by_label("Display falls when the return stops by")).to_have_value("2.5")
        box = level.bounding_box()
        assert box
        self.page.mouse.move(box["x"] + 150, box["y"] + box["height"] / 2)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 150, box["y"] + box["height"] / 2 + 30, steps=4)
        self.page.mouse.up()
        self.until(lambda: float(self.page.get_by_label("Display falls when the return stops by").input_value()) > 4)
        self.button("Save").click()
        self.sees(self.page.get_by_role("heading", name="What can fail", level=1))
        self.button("Undo").click()
        self.page.goto(f"{self.server.url}{LEVELS}")
        expect(self.page.get_by_label("Display falls when the return stops by")).to_have_value("1.5")

    def test_a_wrong_level_is_refused_at_its_field_and_what_was_typed_survives_a_reload(self) -> None:
        self.open(LEVELS, "Levels, top-off, heat")
        self.page.get_by_label("Sump’s rim above its floor").fill("12")
        self.sees(self.page.get_by_text(re.compile("20 to 200 cm is accepted")))
        self.page.get_by_label("Sump’s rim above its floor").fill("40")
        self.page.get_by_label("Heaters, each").fill("150 + a lot")
        expect(self.page.get_by_role("alert").filter(has_text="number").first).to_be_visible()
        self.page.get_by_label("Heaters, each").fill("150 + 150")
        self.page.reload()
        self.sees(self.page.get_by_text("This is what you typed before"))
        expect(self.page.get_by_label("Sump’s rim above its floor")).to_have_value("40")

    def test_the_top_off_tells_its_days_and_an_absence(self) -> None:
        self.open("/systems/1/top-off", "Top-off")
        self.assert_accessible()
        self.sees(self.page.get_by_text("from 5 refills"))
        away = self.page.get_by_role("region", name="Away for a while")
        self.page.get_by_label("Days away").fill("5")
        expect(away).to_contain_text("100 %")
        self.page.get_by_label("Days away").fill("400")
        self.sees(self.page.get_by_text("1 to 90 days"))
        self.button("Working: Level held all day").click()
        self.sees(self.page.get_by_text("what evaporates over what one run brings"))

    def test_from_the_card_in_the_harbour_and_on_a_phone(self) -> None:
        self.page.set_viewport_size(PHONE)
        self.open("/", "Harbour")
        self.page.get_by_role("link", name="Can fail").first.click()
        self.sees(self.page.get_by_role("heading", name="What can fail", level=1))
        for path in (BOARD, LEVELS, "/systems/2/top-off"):
            self.page.goto(f"{self.server.url}{path}")
            self.page.wait_for_load_state("networkidle")
            self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), PHONE["width"], path)
