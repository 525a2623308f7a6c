"""Without a mouse: how many keys an evening takes, each counted and printed."""

from __future__ import annotations

from tests.web.base import WebTest


class Keys(WebTest):
    def setUp(self) -> None:
        super().setUp()
        self.count = 0

    def type(self, text: str) -> None:
        self.page.keyboard.type(text)
        self.count += len(text)

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.count += 1

    def assert_at_most(self, most: int, what: str) -> None:
        print(f"keys: {what} {self.count} of {most}")
        self.assertLessEqual(self.count, most)

    def test_six_results(self):
        self.open("/", "Harbour")
        self.press("b")
        self.sees(self.page.get_by_role("heading", name="Bench, Beacon"))
        self.page.locator("#value-temperature:focus").wait_for()
        for text in ("25.3", "34.4", "7.4", "415", "1320"):
            self.type(text)
            self.press("Enter")
        self.type("10")
        self.press("Control+Enter")
        self.sees(self.page.get_by_text("6 results saved for Beacon"))
        self.assert_at_most(30, "six results")

    def test_a_change(self):
        self.open("/systems/1/sheet", "Beacon")
        self.press("j")
        self.page.get_by_label("What you measured or did").wait_for()
        self.type("change 40 l")
        self.sees(self.page.get_by_text("Water change of 40.0 L"))
        self.press("Enter")
        self.sees(self.page.get_by_text("Saved").first)
        self.assert_at_most(14, "a change")

    def test_todays_tasks(self):
        self.open("/", "Harbour")
        due = self.page.request.get(f"{self.server.url}/api/rota/round").json()
        open_ = sum(not task["planned"] and not task["told"] for one in due["systems"] for task in one["tasks"])
        self.assertGreater(open_, 0)
        self.press("o")
        self.sees(self.button("Finish: 0 of"))
        self.press("t")
        self.sees(self.button(f"Finish: {open_} of {open_} done"))
        self.press("Enter")
        self.sees(self.button("Finish: 0 of 0 done").or_(self.page.get_by_text("Nothing is due on this day")))
        after = self.page.request.get(f"{self.server.url}/api/rota/round").json()
        left = [task for one in after["systems"] for task in one["tasks"]]
        self.assertEqual([task for task in left if not task["planned"] and not task["told"]], [])
        self.assert_at_most(4, "today's tasks")

    def test_a_sum(self):
        self.open("/", "Harbour")
        self.press("=")
        self.page.get_by_label("A sum in plain words").wait_for()
        self.type("salt for 60 l to 35")
        # 60 L at 35 ppt of a salt of 37.1 g/L.
        self.sees(self.page.get_by_text("2.226 kg").first)
        self.assert_at_most(20, "a sum")
