"""The sheet: scroll and zoom, work tried while it is dragged, planned and taken off in place, by hand and by key."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from playwright.sync_api import expect

from tests.web.base import WebTest


class Sheet(WebTest):
    def setUp(self) -> None:
        super().setUp()
        self.open("/systems/1/sheet", "Beacon")
        self.sees(self.strip("Alkalinity"))
        self.page.wait_for_load_state("networkidle")

    def strip(self, name: str) -> Any:
        return self.page.locator("figure", has=self.page.locator("figcaption b", has_text=name))

    def path(self, kind: str, name: str = "Alkalinity") -> str:
        return str(self.strip(name).locator(f"path.{kind}").first.get_attribute("d"))

    def span(self) -> str:
        return str(self.page.locator("svg.axis text").first.text_content())

    def day_px(self) -> float:
        """How wide a day is drawn: two changes a week apart."""
        places = [self.grip(f"Water change: {day}").bounding_box()["x"] for day in ("Sat 28 Nov", "Sat 5 Dec")]
        return (places[1] - places[0]) / 7

    def take(self) -> tuple[float, float]:
        """Take the next change in the hand; where that is."""
        grip = self.grip()
        grip.scroll_into_view_if_needed()
        place = grip.bounding_box()
        x, y = place["x"] + 13, place["y"] + 12
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        return x, y

    def grip(self, words: str = "Water change: Sat 28 Nov") -> Any:
        return self.page.get_by_role("button", name=words).first


class Time(Sheet):
    def test_strips_and_lanes_are_scrolled_and_zoomed_together_by_key_and_by_touch(self) -> None:
        self.assertEqual(self.span(), "21 d back, 14 d ahead")
        marks = self.page.locator("figure rect").count()
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.locator("svg.axis text").first).to_have_text("28 d back, 7 d ahead")
        self.page.keyboard.press("0")
        self.page.keyboard.press("-")
        self.until(lambda: self.page.locator("figure rect").count() > marks)
        self.button("week").click()
        expect(self.page.locator("svg.axis text").first).to_have_text("5 d back, 2 d ahead")

    def test_from_two_hours_of_a_probe_to_all_there_is(self) -> None:
        self.page.get_by_role("checkbox", name="pH (NBS)").check()
        self.page.get_by_role("button", name="2 h", exact=True).click()
        expect(self.page.locator("svg.axis text").first).to_have_text("2 h back, 1 h ahead")
        self.sees(self.page.get_by_text("18:00"))
        # A reading of the probe every five minutes.
        self.until(lambda: self.path("written", "pH").count("L") > 20)
        self.sees(self.strip("pH").get_by_text("probe P1"))
        self.page.get_by_role("button", name="all", exact=True).click()
        self.until(lambda: int(self.span().split()[0]) > 400)
        self.until(lambda: len(self.path("between", "pH")) > 2000)
        self.sees(self.page.locator("svg.axis").get_by_text("2026").first)
        self.sees(self.strip("Alkalinity").locator("text", has_text="titration kit T1"))

    def test_a_year_ahead_with_its_crossing(self) -> None:
        self.open("/systems/4/sheet", "Slipway")
        self.page.get_by_role("checkbox", name="Alkalinity").check()
        self.page.get_by_role("button", name="year", exact=True).click()
        self.sees(self.strip("Alkalinity").get_by_text(re.compile("leaves its band on")))
        self.assertIn("as early as", self.page.content())


class Work(Sheet):
    def test_what_is_dragged_is_tried_at_once_and_kept_when_it_is_dropped(self) -> None:
        self.page.get_by_role("checkbox", name="Nitrate").check()
        self.sees(self.strip("Nitrate"))
        before = self.path("ahead", "Nitrate")
        wide = self.day_px()
        x, y = self.take()
        self.page.mouse.move(x + 2.3 * wide, y, steps=4)
        self.until(lambda: self.path("ahead", "Nitrate") != before)
        self.assertEqual(self.strip("Nitrate").locator("path.stands").count(), 1)
        self.page.mouse.up()
        self.sees(self.page.get_by_text("Water change: moved to Mon 30 Nov"))
        self.sees(self.grip("Water change: Mon 30 Nov"))
        self.button("undo").click()
        self.sees(self.grip())

    def test_by_key_it_is_moved_kept_left_and_taken_off(self) -> None:
        grip = self.grip()
        grip.focus()
        for _ in range(3):
            self.page.keyboard.press("ArrowRight")
        self.sees(self.page.get_by_role("button", name="tried on Tue 1 Dec: Enter saves it"))
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("button", name="tried on")).to_have_count(0)
        self.grip().focus()
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("Water change: moved to Sun 29 Nov"))
        self.grip("Water change: Sun 29 Nov").focus()
        self.page.keyboard.press("Delete")
        self.sees(self.page.get_by_role("dialog"))

    def test_what_it_does_is_told_where_it_is_touched(self) -> None:
        self.grip().click()
        card = self.page.get_by_label("The work that was touched")
        self.sees(card.get_by_text("Alkalinity +0.1 dKH"))
        card.get_by_label("Day of Water change").fill("2026-11-26")
        self.sees(card.get_by_role("button", name="Move"))
        card.get_by_role("button", name="Move").click()
        self.sees(self.page.get_by_text("Water change: moved to Thu 26 Nov"))
        expect(card).to_have_count(0)
        self.assert_accessible()

    def test_a_dose_is_planned_in_place_asked_about_and_taken_off(self) -> None:
        self.page.keyboard.press("a")
        form = self.page.get_by_label("Add to the sheet")
        form.get_by_label("Add").select_option("a dose")
        form.get_by_label("of").select_option(label="soda ash")
        form.get_by_label("Amount").fill("four")
        self.sees(form.get_by_role("alert"))
        form.get_by_label("Amount").fill("30 g")
        self.sees(form.get_by_text("more than the 1.0 dKH of a whole day"))
        form.get_by_label("Amount").fill("3 g")
        expect(form.get_by_text("of a whole day")).to_have_count(0)
        form.get_by_label("on", exact=True).fill("2026-11-27")
        self.until(lambda: self.strip("Alkalinity").locator("path.stands").count() == 1)
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("Dose 3.00 g soda ash: Fri 27 Nov").first)
        self.grip("Dose 3.00 g soda ash: Fri 27 Nov").click()
        self.button("remove").click()
        self.sees(self.page.get_by_text("removed from the rota"))
        expect(self.grip("Dose 3.00 g soda ash: Fri 27 Nov")).to_have_count(0)

    def test_a_change_and_a_reading_are_added_in_place(self) -> None:
        self.button("add or plan").click()
        form = self.page.get_by_label("Add to the sheet")
        form.get_by_label("Add").select_option("a water change")
        form.get_by_label("of, %").fill("60")
        self.sees(form.get_by_role("alert"))
        form.get_by_label("of, %").fill("15")
        form.get_by_label("on", exact=True).fill("2026-11-26")
        form.get_by_role("button", name="Plan it").click()
        self.sees(self.page.get_by_text("1 on the rota, Thu 26 Nov"))
        self.button("add or plan").click()
        form.get_by_label("Value").fill("74")
        form.get_by_label("of").select_option("Alkalinity")
        form.get_by_role("button", name="Save").click()
        self.sees(form.get_by_role("alert"))
        form.get_by_label("Value").fill("7.4")
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("1 result saved for Beacon"))
        self.sees(self.strip("Alkalinity").locator(".value", has_text="7.4"))


class OnPaper(Sheet):
    def test_printed_it_is_the_strips_and_next_without_what_is_pressed(self) -> None:
        self.page.emulate_media(media="print")
        self.sees(self.strip("Alkalinity"))
        self.sees(self.page.get_by_text("Water change").first)
        for name in ("add or plan", "SVG", "print"):
            expect(self.page.get_by_role("button", name=name, exact=True)).to_be_hidden()
        expect(self.page.locator(".grip").first).to_be_hidden()
        self.assert_fits()


class TakenAlong(Sheet):
    def test_the_same_as_a_table(self) -> None:
        self.button("as a table").click()
        self.sees(self.page.get_by_role("cell", name="Sat 28 Nov").first)
        self.sees(self.page.get_by_role("cell", name="Water change: Sat 28 Nov, every 7 days, last on Sat 21 Nov"))
        self.sees(self.page.get_by_text("expected").first)
        self.assert_accessible()

    def test_as_svg_and_png_files(self) -> None:
        with self.page.expect_download() as svg:
            self.button("SVG").click()
        text = Path(svg.value.path()).read_text("utf-8")
        self.assertEqual(svg.value.suggested_filename, "beacon-2026-11-24.svg")
        self.assertIn("Beacon, 2026-11-24", text)
        self.assertIn("below band", text)
        self.assertNotIn("var(--", text.replace("style", ""))
        with self.page.expect_download() as png:
            self.button("PNG").click()
        head = Path(png.value.path()).read_bytes()[:24]
        self.assertTrue(head.startswith(b"\x89PNG"))
        self.assertGreater(int.from_bytes(head[16:20], "big"), 1200)


class Unrecorded(WebTest):
    def test_what_is_not_in_the_record_is_answered_with_one_press_and_taken_back(self) -> None:
        self.open("/systems/3/sheet", "Skiff")
        self.page.get_by_role("button", name="more findings").click()
        words = self.page.get_by_text(re.compile(r"^Something raised alkalinity by 1\.\d dKH about .* not recorded"))
        self.sees(words)
        self.sees(self.page.get_by_role("button", name="It was a dose: "))
        self.page.get_by_role("button", name="It happened, cause unknown").click()
        self.sees(self.page.get_by_text("alkalinity about Sat 31 Oct settled"))
        expect(words).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        self.sees(words)


class HowSure(WebTest):
    def test_from_the_budget_to_what_an_estimate_rests_on(self) -> None:
        self.open("/systems/3/sheet", "Skiff")
        self.page.get_by_text("What it uses, makes and loses").click()
        self.page.get_by_role("link", name="How sure is this?").click()
        self.sees(self.page.get_by_role("heading", name="How sure"))
        self.page.get_by_role("button", name="Alkalinity", exact=True).click()
        self.sees(self.page.get_by_text("that is not recorded: 9"))
        self.sees(self.page.get_by_role("img", name="9 tests of Alkalinity"))
        self.page.get_by_text("test by test").click()
        self.sees(self.page.get_by_role("listitem").filter(has_text="by titration kit T1, expected").first)
        self.sees(self.page.get_by_role("row", name="Calcium too few readings"))


class Values(WebTest):
    """A value can be read off a strip: under the pointer, by the arrow keys; it opens its entry."""

    def test_by_pointer_by_keys_and_into_the_log(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        strip = self.page.locator("figure", has_text="Alkalinity").locator("svg").first
        strip.scroll_into_view_if_needed()
        strip.focus()
        # From the right end: the last reading, 7.2 dKH tonight by the kit of ± 0.1 dKH, then the one before it.
        self.page.keyboard.press("ArrowLeft")
        self.sees(strip.locator("text.said", has_text="7.2 ± 0.1 dKH, Tue 24 Nov 18:02, titration kit T1"))
        self.page.keyboard.press("ArrowLeft")
        self.sees(strip.locator("text.said", has_text="7.5 ± 0.1 dKH, Fri 20 Nov"))
        self.assert_accessible()
        self.page.keyboard.press("Enter")
        self.page.wait_for_url("**/log?system=1&first=2026-11-20&last=2026-11-20")
        self.sees(self.page.get_by_text("Alkalinity 7.5 dKH").first)

    def test_what_is_expected_says_its_range(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        strip = self.page.locator("figure", has_text="Alkalinity").locator("svg").first
        box = strip.bounding_box()
        self.page.mouse.move(box["x"] + 0.9 * box["width"], box["y"] + 60)
        self.sees(strip.locator("text.said", has_text=re.compile(r"^about \d\.\d dKH \(\d\.\d to \d\.\d\), ")))

    def test_the_span_that_is_looked_at_is_marked(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        spans = self.page.get_by_role("group", name="How much time")
        expect(spans.get_by_role("button", name="month")).to_have_attribute("aria-pressed", "true")
        spans.get_by_role("button", name="year").click()
        expect(spans.get_by_role("button", name="year")).to_have_attribute("aria-pressed", "true")
        self.button("Closer").click()
        expect(spans.locator("[aria-pressed=true]")).to_have_count(0)
