"""The whole story: test, judge, plan, put on the rota, work at the tank, see the record and the expected values."""

from typing import Any

from playwright.sync_api import expect

from tests.web.base import WebTest


class ByKeyboard(WebTest):
    def type_results(self, *texts: str) -> None:
        """From the first row on; an empty text skips a row."""
        expect(self.page.get_by_label("Temperature", exact=False).first).to_be_focused()
        for text in texts:
            if text:
                self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")

    def test_a_session_is_typed_kept_and_judged_without_a_mouse(self) -> None:
        self.open("/", "Harbour")
        self.page.keyboard.press("b")
        self.type_results("25.3", "34.4", "7.0", "", "", "12.5")
        self.sees(self.page.get_by_text("below band").first)
        self.sees(self.page.get_by_text("7.0 dKH is 0.5 dKH below the band of 7.5–9.5 dKH."))
        self.page.keyboard.press("Control+Enter")
        self.sees(self.page.get_by_text("4 results saved for Beacon"))
        self.sees(self.page.get_by_role("heading", name="Alkalinity is low").first)
        self.sees(self.page.locator("figure", has_text="Alkalinity").get_by_text("7.0").first)

    def test_keys_lead_to_every_place_and_system(self) -> None:
        self.open("/", "Harbour")
        for key, heading in (("s", "Beacon"), ("3", "Skiff"), ("c", "Water change, Skiff"), ("r", "Rota"),
                             ("u", "Set-up, Skiff"), ("h", "Harbour")):  # fmt: skip
            self.page.keyboard.press(key)
            self.sees(self.page.get_by_role("heading", name=heading, level=1))
        self.page.keyboard.press("?")
        self.sees(self.page.get_by_role("dialog").get_by_text("on the Bench: save the session"))


class AtTheTank(WebTest):
    def plan(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.page.keyboard.press("c")
        self.sees(self.page.get_by_role("heading", name="What it takes"))

    def expected_end(self) -> float:
        """The last expected value of alkalinity, read from the table view as the keeper reads it."""
        self.button("as a table").click()
        row = self.page.locator(".block", has_text="Alkalinity").get_by_role("row").filter(has_text="expected").last
        text = row.inner_text().split("\t")[1]
        self.button("as strips").click()
        return float(text.split(" to ")[0])

    def gate(self, **values: str) -> None:
        for name, text in values.items():
            self.page.get_by_label(name, exact=True).fill(text)
            self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("good", exact=True)).to_have_count(len(values))

    def tick_all(self) -> None:
        for box in self.page.get_by_role("checkbox").all():
            box.check()
            expect(box).to_be_checked()

    def test_from_the_plan_to_the_record(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        before = self.expected_end()
        self.plan()
        self.sees(self.page.get_by_text("40.1 L · 12 %"))
        self.button("Add to the rota").click()
        self.sees(self.page.get_by_text("on the rota, Tue 24 Nov"))
        self.until(lambda: self.expected_end() > before + 0.5)
        self.open("/rota", "Rota")
        self.sees(self.page.get_by_role("button", name="Beacon: Change 40.1 L").first)
        self.sees(self.page.get_by_role("button", name="Beacon: Siphon the sand").first)
        self.open("/systems/1/sheet", "Beacon")
        self.button("Start at the tank").click()
        self.work()
        self.page.get_by_role("link", name="To the Sheet").click()
        self.sees(self.page.get_by_text("in band, expected").first)
        self.page.get_by_text("Record", exact=True).click()
        self.sees(self.page.get_by_text("39.0 L out, 39.0 L in"))
        self.sees(self.page.get_by_role("cell", name="Siphon the sand").first)

    def look(self) -> None:
        self.button("All at hand").click()
        self.sees(self.page.get_by_role("heading", name="Look first"))
        self.button("Done").click()

    def cool(self) -> None:
        self.button("continue before it rings").click()
        self.page.get_by_label("Why it need not wait").fill("cold already")
        self.button("Save the reason").click()
        for name, heading in (("Cooled", "Wipe the salt creep"), ("Done", "Scrape the panels"), ("Done", "Drain to")):
            self.button(name).click()
            self.sees(self.page.get_by_role("heading", name=heading))

    def work(self) -> None:
        self.look()
        self.sees(self.page.get_by_role("heading", name="Does the batch match?"))
        self.gate(Temperature="25.2", Salinity="36.1", Alkalinity="8.5")
        self.button("It matches: next").click()
        self.sees(self.page.get_by_role("heading", name="Power off"))
        self.button("All off: next").click()
        self.sees(self.page.get_by_text("7 items not confirmed"))
        self.tick_all()
        self.button("All off: next").click()
        self.sees(self.page.get_by_text("confirm each is back on before you finish"))
        self.cool()
        self.drain()
        self.sees(self.page.get_by_role("heading", name="Power on"))
        self.tick_all()
        self.button("All on: next").click()
        self.sees(self.page.get_by_role("heading", name="Dose the system"))
        self.button("Done").click()
        self.sees(self.page.get_by_role("heading", name="Skimmer settled?"))
        self.button("It works").click()
        self.sees(self.page.get_by_role("heading", name="Rinse, and look again"))
        self.button("Done").click()
        self.sees(self.page.get_by_text("39.0 L out and 39.0 L in; planned were 40.1 L."))

    def drain(self) -> None:
        self.button("Bucket emptied, 15.0 L").click()
        self.sees(self.page.get_by_text("1 bucket so far"))
        self.button("Bucket emptied, 15.0 L").click()
        self.sees(self.page.get_by_text("2 buckets so far"))
        self.button("another amount").click()
        self.page.get_by_label("Volume").fill("9")
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("3 buckets so far"))
        self.button("Drained: next").click()
        self.sees(self.page.get_by_role("heading", name="Was sand siphoned?"))
        self.page.get_by_label("sand siphoned").check()
        self.button("Next").click()
        self.sees(self.page.get_by_role("heading", name="Search the drained water"))
        self.button("Nothing alive in it").click()
        self.sees(self.page.get_by_role("heading", name="Refill slowly"))
        for count in ("1 bucket so far", "2 buckets so far", "3 buckets so far"):
            self.button("Bucket poured").click()
            self.sees(self.page.get_by_text(count))
        self.button("Refilled: next").click()

    def test_a_batch_that_does_not_match_stops_the_work_and_says_what_to_add(self) -> None:
        self.plan()
        self.button("Start at the tank").click()
        self.look()
        salinity = self.page.get_by_label("Salinity", exact=True)
        salinity.fill("33")
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("g Kittiwake Standard, let it dissolve"))
        salinity.fill("350")
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("0 to 45 ppt is accepted"))
        expect(salinity).to_have_value("350")
        self.button("It matches: next").click()
        self.sees(self.page.get_by_text("The batch does not match yet."))
        self.sees(self.page.get_by_role("heading", name="Does the batch match?"))

    def test_paused_and_gone_on_with_on_another_device(self) -> None:
        self.plan()
        self.button("Start at the tank").click()
        self.look()
        self.sees(self.page.get_by_role("heading", name="Does the batch match?"))
        self.button("pause").click()
        other: Any = self.new_page()
        other.goto(self.server.url)
        other.get_by_role("link", name="Resume").click()
        other.get_by_role("button", name="Resume").click()
        self.sees(other.get_by_role("heading", name="Does the batch match?"))
