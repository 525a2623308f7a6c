"""The example household: beside the keeper's own, never mixed with it, left with one press."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.base import WebTest


class Example(WebTest):
    empty = True

    def enter(self) -> None:
        self.open("/", "Harbour")
        self.button("Look round an example household").click()
        self.sees(self.page.get_by_role("link", name="Beacon", exact=True))

    def test_looked_round_in_and_left_with_one_press(self):
        self.enter()
        self.assert_accessible()
        self.page.get_by_role("link", name="Beacon", exact=True).click()
        self.sees(self.page.get_by_role("heading", name="Beacon").first)
        self.page.reload()
        self.sees(self.page.get_by_text("none of it is yours"))
        self.page.get_by_role("link", name="Back to my tanks").click()
        self.sees(self.page.get_by_role("link", name="Start with your tank"))
        expect(self.page.get_by_text("Beacon")).to_have_count(0)

    def test_what_is_tried_there_stays_there(self):
        self.enter()
        url = f"{self.server.url}/example/api"
        answer = self.page.request.post(
            f"{url}/jot/record",
            data={"text": "alk 7.9", "system_id": 1},
            headers={"Idempotency-Key": "example-key-1"},
        )
        self.assertEqual(answer.status, 201, answer.text())
        self.page.goto(f"{self.server.url}/example/systems/1/bench")
        self.page.locator("#value-calcium").fill("415")
        self.page.keyboard.press("Tab")
        self.page.goto(f"{self.server.url}/log")
        self.sees(self.page.get_by_text("No entries match"))
        own = self.page.evaluate("Object.keys(localStorage).filter((key) => !key.startsWith('example.'))")
        self.assertEqual([key for key in own if "bench" in key], [])
        self.page.goto(f"{self.server.url}/example/systems/1/bench")
        expect(self.page.locator("#value-calcium")).to_have_value("415")
