"""At the tank, in the browser: timers over reloads, two people at once, troubles, pausing; wide and on a phone."""

from __future__ import annotations

import re
from datetime import datetime, timedelta
from typing import Any

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class AtTheTank(WebTest):
    def press(self, name: str, page: Any | None = None) -> None:
        (page or self.page).get_by_role("button", name=name).first.click()

    def heading(self, name: str, page: Any | None = None) -> None:
        self.sees((page or self.page).get_by_role("heading", name=name))

    def start(self) -> None:
        self.open("/systems/1/change", "Water change, Beacon")
        self.press("Start at the tank")
        self.heading("Set out what you need")

    def to_power(self) -> None:
        self.start()
        self.press("All at hand")
        self.heading("Look first")
        self.press("Done")
        self.heading("Does the batch match?")
        self.press("continue without a match")
        self.page.get_by_label("Why continue anyway").fill("measured beside it")
        self.press("Save the reason")
        self.press("It matches: next")
        self.heading("Power off")

    def tick_all(self) -> None:
        for box in self.page.get_by_role("checkbox").all():
            box.check()
            expect(box).to_be_checked()

    def to_cooling(self) -> None:
        self.to_power()
        self.tick_all()
        self.press("All off: next")
        self.heading("Let the heater cool")

    def to_drain(self) -> None:
        self.to_cooling()
        self.press("continue before it rings")
        self.page.get_by_label("Why it need not wait").fill("it is cold")
        self.press("Save the reason")
        for name, heading in (("Cooled", "Wipe the salt creep"), ("Done", "Scrape the panels"), ("Done", "Drain to")):
            self.press(name)
            self.heading(heading)


class Wide(AtTheTank):
    def test_what_waits_runs_beside_what_can_be_done_meanwhile_also_after_a_reload(self) -> None:
        self.to_cooling()
        self.press("Start 15 min")
        self.heading("Wipe the salt creep")
        chip = self.page.get_by_role("button", name="Let the heater cool").first
        expect(chip).to_contain_text("14:")
        before = chip.inner_text()
        self.page.reload()
        self.heading("Wipe the salt creep")
        after = self.page.get_by_role("button", name="Let the heater cool").first.inner_text()
        self.assertLessEqual(after[-5:], before[-5:])
        self.assertGreater(after[-5:], "14:00")
        self.press("Scrape the panels")
        self.heading("Scrape the panels")
        self.assert_accessible()

    def later_by(self, minutes: float) -> None:
        """From now on the server's clock, by which timers run, is told later than it is."""

        def told(route: Any) -> None:
            answer = route.fetch()
            run = answer.json()
            run["now"] = (datetime.fromisoformat(run["now"]) + timedelta(minutes=minutes)).isoformat()
            route.fulfill(response=answer, json=run)

        self.page.route(re.compile(r"/api/runs/\d+$"), told)

    def test_a_timer_that_is_over_rings_until_it_is_heard(self) -> None:
        self.to_cooling()
        self.press("Start 15 min")
        self.heading("Wipe the salt creep")
        self.later_by(15.1)
        self.sees(self.page.get_by_role("alert").get_by_text("The heater has cooled"))
        self.until(lambda: "Ring!" in self.page.title())
        self.press("OK")
        expect(self.page.get_by_text("Ring!")).to_have_count(0)

    def test_two_people_see_the_same_and_nothing_is_counted_twice(self) -> None:
        self.to_drain()
        other = self.new_page()
        other.goto(self.page.url)
        self.heading("Drain to the mark", other)
        self.press("Bucket emptied")
        self.sees(self.page.get_by_text("1 bucket so far"))
        self.sees(other.get_by_text("1 bucket so far"))
        self.press("Bucket emptied", other)
        self.sees(other.get_by_text("2 buckets so far"))
        self.sees(self.page.get_by_text("2 buckets so far"))

    def test_another_amount_and_the_fall_of_the_level(self) -> None:
        self.to_drain()
        self.press("another amount")
        field = self.page.get_by_label("Volume, or how far the level fell")
        field.fill("much")
        self.press("count")
        self.sees(self.page.get_by_text("“much” is not a number").first)
        expect(field).to_have_value("much")
        field.fill("2 cm")
        self.press("count")
        # 117.6 x 57.6 cm, less 9.8 L of rock over 44 cm of depth: (6773.8 - 222.9) cm2 x 2 cm = 13.1 L.
        self.sees(self.page.get_by_text("13.1", exact=True))


class OnAPhone(AtTheTank):
    size = PHONE

    def test_every_step_survives_a_reload_to_the_end(self) -> None:
        self.start()
        steps = 0
        while not self.page.get_by_role("heading", name="Done", exact=True).is_visible():
            title = self.page.get_by_role("heading", level=1).inner_text()
            self.page.reload()
            self.heading(title)
            self.assert_fits()
            steps += 1
            self.do_step()
            expect(self.page.get_by_role("heading", name=title, exact=True)).to_have_count(0)
        self.assertGreaterEqual(steps, 15)
        self.sees(self.page.get_by_text("40.1 L out and 40.1 L in; planned were 40.1 L."))
        self.sees(self.page.get_by_text("“Does the batch match?” was passed without being met: for the test"))

    def do_step(self) -> None:
        """Do what the step that fills the screen asks for."""
        for asked, label in (("continue without a match", "Why continue anyway"), ("continue before it rings", "Why it need")):
            way = self.page.get_by_role("button", name=asked)
            if way.count():
                way.click()
                self.page.get_by_label(label).fill("for the test")
                self.press("Save the reason")
                expect(self.page.get_by_label(label)).to_be_visible()
        self.tick_all()
        for word in ("Bucket emptied", "Bucket poured"):
            while (bucket := self.page.get_by_role("button", name=word)).count():
                told = self.page.locator(".sum").inner_text()
                bucket.click()
                expect(self.page.locator(".sum")).not_to_have_text(told)
                self.page.wait_for_load_state("networkidle")
        self.page.locator("button.go").click()

    def test_a_trouble_fills_the_screen_and_leads_back(self) -> None:
        self.to_drain()
        self.press("In the air now")
        self.sees(self.page.get_by_role("timer").first)
        self.press("something goes wrong")
        self.press("A hose splits")
        self.sees(self.page.get_by_text("Lift its end above the water"))
        self.sees(self.page.get_by_text("How long they have"))
        self.assert_accessible()
        self.press("Under control")
        self.heading("Drain to the mark")
        self.press("Covered again")
        self.sees(self.page.get_by_role("button", name="In the air now"))

    def test_paused_here_taken_up_there_and_abandoned_with_a_reason(self) -> None:
        self.to_drain()
        self.press("pause")
        self.heading("Paused")
        other = self.new_page()
        other.goto(self.page.url)
        self.press("Resume", other)
        self.heading("Drain to the mark")
        self.press("abandon")
        self.page.get_by_role("dialog").get_by_role("button", name="Abandon").click()
        self.sees(self.page.get_by_text("say why in a few words").first)
        self.page.get_by_label("Why", exact=True).fill("guests at the door")
        self.page.get_by_role("dialog").get_by_role("button", name="Abandon").click()
        self.heading("Abandoned")

    def test_a_power_failure_is_worked_from_the_sheet(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.press("Power failure")
        self.heading("Floor dry, strip off")
        self.sees(self.page.get_by_text("Electricity and water"))
        self.press("Safe")
        self.heading("Plugs out")
        self.tick_all()
        self.press("All out")
        self.heading("Move the water first")
        self.sees(self.page.get_by_role("button", name="Hold the warmth"))
        self.assert_fits()
        self.assert_accessible()
