"""The rota in the browser: reasons, notes, places changed by hand and by dragging, the year, tasks, time; and a phone."""

from __future__ import annotations

import re
from typing import Any

from tests.stage import PHONE
from tests.web.base import WebTest, expect


class Weeks(WebTest):
    def task(self, name: str):
        return self.page.get_by_role("button", name=name).first

    def test_a_task_says_why_it_is_due_and_why_it_stands_there(self) -> None:
        self.open("/rota", "Rota")
        self.task("Skiff: Siphon the sand").click()
        card = self.page.get_by_role("dialog", name="Siphon the sand")
        self.sees(card.get_by_text("every 14 days, last on Tue 17 Nov"))
        self.sees(card.get_by_text("goes with “Water change”"))
        self.sees(card.get_by_text("Lifts the detritus out"))

    def test_done_with_notes_and_what_is_wrong_in_them_stays_typed(self) -> None:
        self.open("/rota", "Rota")
        self.task("Beacon: Empty the skimmer cup").click()
        self.button("Done, with notes").click()
        # The first field takes the focus when it is drawn: what is typed before goes astray.
        expect(self.page.get_by_label("It took")).to_be_focused()
        self.page.get_by_label("Cup filled").fill("170")
        self.page.get_by_label("It took").fill("7")
        self.button("Save").click()
        self.sees(self.page.get_by_text("0 to 100 %").first)
        expect(self.page.get_by_label("It took")).to_have_value("7")
        self.page.get_by_label("Cup filled").fill("70")
        self.assert_accessible()
        self.button("Save").click()
        self.sees(self.page.get_by_text("Empty the skimmer cup: done"))
        self.open("/systems/1/tasks/skimmer_cup", "Rota")
        self.sees(self.page.get_by_text("Cup filled: 70 %").first)

    def test_done_yesterday_at_nine(self) -> None:
        self.open("/rota", "Rota")
        self.task("Skiff: Empty the skimmer cup").click()
        self.button("Done, with notes").click()
        expect(self.page.get_by_label("It took")).to_be_focused()
        self.button("Done earlier?").click()
        self.page.get_by_label("On", exact=True).fill("someday")
        self.button("Save").click()
        self.sees(self.page.get_by_text("I can't read “someday”"))
        self.page.get_by_label("On", exact=True).fill("yesterday")
        self.page.get_by_label("At", exact=True).fill("9pm")
        self.assert_accessible()
        self.button("Save").click()
        self.sees(self.page.get_by_text("Empty the skimmer cup: done (Mon 23 Nov)"))

    def test_a_daily_dose_by_hand_is_ticked_as_it_was_given(self) -> None:
        self.open("/systems/3/dosing", "Dosing")
        self.page.get_by_label("Alkalinity used a day").fill("0.3")
        self.page.get_by_label("Additive for alkalinity").select_option(label="soda stock")
        self.button("Use this dose from now on").click()
        self.sees(self.page.get_by_text("Daily dose of Skiff set"))
        self.open("/rota", "Rota")
        self.task("Skiff: Dose ").click()
        card = self.page.get_by_role("dialog", name="Dose ")
        self.sees(card.get_by_text("your daily dose by hand"))
        expect(self.page.get_by_role("button", name="Move", exact=True)).to_have_count(0)
        self.button("Done, with notes").click()
        card.get_by_role("textbox", name="soda stock").fill("2")
        self.button("Save").click()
        self.sees(self.page.get_by_text("soda stock: done"))
        # Today's is given: the next one is tomorrow's.
        expect(self.page.locator("tbody tr").nth(2).locator("td").first.get_by_text("soda stock")).to_have_count(0)

    def test_dragged_to_another_day_it_stays_there_and_comes_back(self) -> None:
        self.open("/rota", "Rota")
        item = self.page.locator("button.task", has_text="Find dead spots").first
        self.sees(item)
        item.drag_to(self.page.locator("tbody tr").first.locator("td").nth(3))
        self.sees(self.page.get_by_text("Find dead spots: moved to Fri 27 Nov"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("Undone."))

    def test_two_change_places_and_what_must_not_meet_is_refused_with_its_reason(self) -> None:
        self.open("/rota", "Rota")
        self.page.get_by_label("Weeks shown").select_option("4")
        self.task("Eelgrass: Fill the top-off reservoir").click()
        self.page.get_by_role("button", name="Move", exact=True).click()
        other = self.page.get_by_label("Change places with")
        label = other.locator("option").nth(8).text_content()
        other.select_option(label=label)
        self.page.get_by_role("button", name="swap", exact=True).click()
        self.sees(self.page.get_by_text("Fill the top-off reservoir to " + label.split(":")[0]).first)

    def test_a_task_is_split_over_two_days_and_put_together_again(self) -> None:
        self.open("/rota", "Rota")
        self.page.get_by_label("Weeks shown").select_option("4")
        self.task("Beacon: Strip the powerheads").click()
        self.button("Split").click()
        self.page.get_by_label("Minutes of the first part").fill("500")
        self.page.get_by_label("Day of the rest").fill("2026-12-08")
        self.button("Split in two").click()
        self.sees(self.page.get_by_text("how long the first part takes"))
        self.page.get_by_label("Minutes of the first part").fill("15")
        self.assert_accessible()
        self.button("Split in two").click()
        self.sees(self.page.get_by_text("the rest on Tue 8 Dec"))
        self.sees(self.task("Beacon: Strip the powerheads, the rest"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("Undone."))
        expect(self.page.locator("table").get_by_text("Strip the powerheads, the rest")).to_have_count(0)

    def test_what_does_not_fit_is_said_and_more_time_mends_it(self) -> None:
        self.time("20")
        self.open("/rota", "Rota")
        self.sees(self.page.get_by_text("min of work, and you have 20 min").first)
        self.time("400")
        self.open("/rota", "Rota")
        self.button("balance the workload").click()
        self.sees(self.page.get_by_text("workload balanced"))
        expect(self.page.get_by_text("min of work, and you have")).to_have_count(0)

    def test_a_card_stays_open_when_what_was_done_before_moves_its_task(self) -> None:
        self.open("/rota", "Rota")
        self.sees(self.task("Beacon: Empty the skimmer cup"))
        held: list = []
        self.page.route("**/api/rota?*", lambda route: held.append(route))
        self.task("Beacon: Empty the skimmer cup").click()
        self.page.get_by_role("button", name="Done", exact=True).click()
        self.sees(self.page.get_by_text("Empty the skimmer cup: done"))
        dead_spots = self.page.locator("button.task", has_text="Find dead spots").first
        dead_spots.click()
        self.sees(self.page.get_by_role("dialog", name="Find dead spots"))
        moved = held[0].fetch().json()
        task = next(t for lane in moved["lanes"] for t in lane["tasks"] if t["name"] == "Find dead spots")
        task["day"] = moved["days"][3]["day"]
        held[0].fulfill(json=moved)
        expect(dead_spots.locator("xpath=ancestor::td[1]/preceding-sibling::td")).to_have_count(3)
        self.sees(self.page.get_by_role("dialog", name="Find dead spots"))

    def time(self, minutes: str) -> None:
        self.open("/rota/time", "Rota")
        for day in ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"):
            self.page.get_by_label(day).fill(minutes)
        self.button("Save").click()
        self.sees(self.page.get_by_text("minutes saved"))


class OtherParts(WebTest):
    def test_the_year_leads_to_a_task_and_its_history(self) -> None:
        self.open("/rota/year", "Rota")
        self.sees(self.page.get_by_text("now", exact=True))
        self.assert_accessible()
        self.page.get_by_role("link", name="Strip the powerheads").first.click()
        self.sees(self.page.get_by_text("of its best flow at the last service"))
        self.assert_accessible()

    def test_a_choice_is_kept_and_taken_back(self) -> None:
        self.open("/systems/1/tasks/salt_creep", "Rota")
        self.page.get_by_label("Every").fill("0")
        self.button("Save").click()
        self.sees(self.page.get_by_text("1 to 730 days").first)
        self.page.get_by_label("Every").fill("21")
        self.page.get_by_label("Sat").check()
        self.button("Save").click()
        self.sees(self.page.get_by_text("every 21 days on Sat").first)
        self.button("Undo").click()
        self.sees(self.page.get_by_text("every 10 days;").first)

    def test_a_task_of_ones_own_and_one_taken_off(self) -> None:
        self.open("/systems/3/tasks", "Rota")
        self.button("Add a task of your own").click()
        self.page.get_by_label("Name").fill("Polish the lid")
        self.assert_accessible()
        self.button("Add to the rota").click()
        self.sees(self.page.get_by_role("link", name="Polish the lid"))
        self.page.get_by_label("Rinse and dry the tools on the rota").uncheck()
        self.sees(self.page.get_by_text("Rinse and dry the tools: off the rota"))
        self.button("Undo").click()
        expect(self.page.get_by_label("Rinse and dry the tools on the rota")).to_be_checked()

    def test_too_little_time_says_what_is_left_undone_and_what_would_help(self) -> None:
        self.open("/rota/time", "Rota")
        self.sees(self.page.get_by_text(re.compile("min a week are needed and you give 600: it fits")))
        for day in ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"):
            self.page.get_by_label(day).fill("30" if day == "Sunday" else "0")
        self.button("Save").click()
        self.sees(self.page.get_by_text(re.compile(r"min a week are needed and you give 30: \d+ min too little")))
        self.sees(self.page.get_by_text("In the time you give, the most important is done. Left undone:"))
        self.assert_accessible()
        first = self.page.locator("section", has_text="What would help").locator("li").first
        words = str(first.locator("span").first.text_content()).split(",")[0].strip()
        first.get_by_role("button", name="Do it").click()
        self.sees(self.page.get_by_text(f"{words}: as you chose"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text(re.compile("Undone")))

    def test_a_day_typed_before_the_app_has_said_what_day_it_is_is_read_then(self) -> None:
        held: list[Any] = []
        self.page.route("**/api/harbour", lambda route: held.append(route))
        self.open("/systems/3/tasks/heater_check", "Rota")
        self.page.get_by_label("Last done on").fill("yesterday")
        self.until(lambda: bool(held))
        for route in held:
            route.continue_()
        self.page.unroute("**/api/harbour")
        # The demo's today is Tue 24 Nov.
        self.sees(self.page.get_by_text("24 Nov").first)
        self.page.get_by_label("Last done on").blur()
        expect(self.page.get_by_label("Last done on")).to_have_value("Mon 23 Nov")

    def test_when_a_task_was_last_done_is_remembered(self) -> None:
        self.open("/systems/3/tasks/heater_check", "Rota")
        self.page.get_by_label("Last done on").fill("20 Nov")
        self.button("Record it").click()
        self.sees(self.page.get_by_text("Check the heater: last done on Fri 20 Nov"))

    def test_away_days_show_in_the_weeks_and_can_be_taken_back(self) -> None:
        self.open("/rota/time", "Rota")
        self.page.get_by_label("First day").fill("2026-11-27")
        self.page.get_by_label("Last day").fill("2026-11-25")
        self.button("Add absence").click()
        self.sees(self.page.get_by_text("the last day must not come before the first"))
        self.page.get_by_label("Last day").fill("2026-12-02")
        self.button("Add absence").click()
        self.sees(self.page.get_by_text("Fri 27 Nov to Wed 2 Dec").first)
        self.assert_accessible()
        self.page.keyboard.press("r")
        self.sees(self.page.locator("td.away").first)
        self.sees(self.page.get_by_text("you are away").first)


class Round(WebTest):
    size = PHONE

    def test_ticked_at_the_tank_kept_over_a_reload_and_finished_in_one_go(self) -> None:
        self.open("/rota/round?day=2026-11-28", "Rota")
        self.sees(self.page.get_by_text("To bring:"))
        self.assert_accessible()
        boxes = self.page.get_by_role("checkbox")
        count = boxes.count()
        boxes.nth(0).check()
        boxes.nth(1).check()
        self.page.reload()
        self.sees(self.page.get_by_role("button", name=f"Finish: 2 of {count} done"))
        self.page.get_by_label("It took in all").fill("ages")
        self.page.get_by_role("button", name="Finish: 2").click()
        self.sees(self.page.get_by_text("ages").first)
        self.page.get_by_label("It took in all").fill("25")
        self.page.get_by_role("button", name="Finish: 2").click()
        self.sees(self.page.get_by_text("2 tasks done"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("Undone."))

    def test_a_task_is_worked_through_step_by_step(self) -> None:
        self.open("/rota/round?day=2026-11-28", "Rota")
        self.page.get_by_role("button", name="Step by step").first.click()
        self.sees(self.page.get_by_text("1 of "))

    def test_what_is_found_is_told_at_its_step(self) -> None:
        self.open("/rota", "Rota")
        self.page.get_by_role("button", name="Empty the skimmer cup").locator("visible=true").first.click()
        self.button("Step by step").click()
        self.sees(self.page.get_by_role("heading", name="Skimmer off"))
        self.page.get_by_role("checkbox").first.check()
        self.button("Off: next").click()
        level = self.page.get_by_label("Cup filled")
        self.sees(level)
        level.fill("170")
        level.blur()
        self.sees(self.page.get_by_text("0 to 100 %").first)
        expect(level).to_have_value("170")
        level.fill("70")
        level.blur()
        self.assert_accessible()
        self.page.reload()
        expect(self.page.get_by_label("Cup filled")).to_have_value("70")

    def test_printed_it_holds_the_list_and_no_buttons(self) -> None:
        self.open("/rota/round?day=2026-11-28", "Rota")
        self.sees(self.page.get_by_text("To bring:"))
        self.page.emulate_media(media="print")
        expect(self.page.get_by_role("button", name="Finish")).to_have_count(0)
        self.sees(self.page.get_by_role("checkbox").first)


class OnAPhone(WebTest):
    size = PHONE

    def test_every_part_fits(self) -> None:
        for path in ("/rota", "/rota/round", "/rota/year", "/rota/time", "/systems/1/tasks", "/systems/1/tasks/filter_sock"):
            with self.subTest(path):
                self.open(path, "Rota")
                self.page.wait_for_load_state("networkidle")
                wide = self.page.evaluate("document.documentElement.scrollWidth")
                self.assertLessEqual(wide, PHONE["width"])
                self.assert_accessible()


class OnPaper(WebTest):
    """Prints: the rota on two sheets, a change and a round on one, without anything to press."""

    def test_they_fit_and_hold_no_controls(self) -> None:
        for path, most, seen in (
            ("/rota", 2, "Water change"),
            ("/systems/1/change", 1, "What it takes"),
            ("/rota/round", 1, "Put in fresh carbon"),
        ):
            with self.subTest(path=path):
                self.page.goto(f"{self.server.url}{path}")
                self.page.wait_for_load_state("networkidle")
                self.page.emulate_media(media="print")
                self.sees(self.page.get_by_text(seen).first)
                for name in ("Print", "show working", "Add to the rota", "Tick all", "Quick entry"):
                    expect(self.page.get_by_role("button", name=name, exact=True)).to_have_count(0)
                sheets = re.findall(rb"/Type\s*/Page[^s]", self.page.pdf(format="A4"))
                self.assertLessEqual(len(sheets), most)
                self.page.emulate_media(media="screen")
