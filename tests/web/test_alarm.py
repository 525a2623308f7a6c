"""Alarms in the browser: said on every page, seen by somebody, limits and people edited, tested and undone."""

from __future__ import annotations

import re
from typing import Any

from tests.stage import PHONE
from tests.web.base import WebTest, expect

ALARMS, LIMITS = "/alarms", "/systems/1/alarms"


class Alarms(WebTest):
    def call(self, method: str, path: str, body: Any = None) -> Any:
        headers = {"Idempotency-Key": f"alarm-test-{len(self.requests):05d}-{abs(hash(path + str(body)))}"}
        answer = self.context.request.fetch(f"{self.server.url}{path}", method=method, data=body, headers=headers)
        self.assertTrue(answer.ok, answer.text())
        return answer.json()

    def leaks(self) -> None:
        """A leak sensor says that the floor is wet."""
        limits = {one["signal"]: one["limit"] for one in self.call("GET", f"/api{LIMITS}")["signals"]}
        self.call("PUT", f"/api{LIMITS}", {"limits": [limits["leak"]], "url": ""})
        self.call("POST", f"/api{LIMITS}/address", {})
        push = self.call("GET", f"/api{LIMITS}")["push"].partition("/api/")[2]
        contacts = [{"sensor": "floor", "signal": "leak", "on": True}]
        self.call("POST", f"/api/{push}", {"contacts": contacts})

    def test_it_is_said_on_every_page_and_leads_to_what_to_do_first(self) -> None:
        self.leaks()
        self.open("/", "Harbour")
        bar = self.page.get_by_role("alert", name="Alarms")
        expect(bar).to_contain_text("Beacon: Water on the floor")
        expect(bar).to_contain_text("since 18:40 on Tue 24 Nov")
        self.assert_accessible()
        self.sees(self.page.get_by_role("heading", name=re.compile("Alarm: Water on the floor")))
        bar.get_by_role("link", name="What to do first").click()
        self.sees(self.page.get_by_role("heading", name=re.compile("Leak|burst", re.I), level=1))
        self.sees(bar)

    def test_who_is_on_it_signs_it_and_undo_takes_it_back(self) -> None:
        self.leaks()
        self.open(ALARMS, "Alarms")
        self.page.get_by_label("Your name on this device").fill("Kit")
        bar = self.page.get_by_role("alert", name="Alarms")
        bar.get_by_role("button", name=re.compile("I’m on it")).click()
        self.sees(self.page.get_by_text("Seen by Kit at 18:40 on Tue 24 Nov."))
        expect(bar).to_have_count(0)
        self.button("Undo").click()
        self.sees(bar)

    def test_a_browser_that_is_open_hears_of_it_by_itself(self) -> None:
        self.open(ALARMS, "Alarms")
        self.sees(self.page.get_by_text("No alarm: nothing that is watched"))
        self.leaks()
        # Coming back to the page asks at once.
        self.page.evaluate("document.dispatchEvent(new Event('visibilitychange'))")
        self.sees(self.page.get_by_role("alert", name="Alarms"))

    def test_limits_are_typed_refused_at_their_field_saved_and_undone(self) -> None:
        self.open(LIMITS, "Alarm limits")
        self.assert_accessible()
        self.sees(self.page.get_by_text("25.4 °C by probe P1, at 18:40 on Tue 24 Nov"))
        limits = self.page.get_by_role("group", name="Limits of Temperature")
        limits.get_by_label("Below").fill("28")
        self.button("Save").click()
        self.sees(limits.get_by_text(re.compile("a value below the high limit")))
        limits.get_by_label("Below").fill("25.5")
        self.button("Leak sensors, floats").click()
        self.page.get_by_role("checkbox", name="Leak sensor").check()
        self.button("Save").click()
        self.sees(self.page.get_by_text("Alarms of Beacon saved"))
        expect(self.page.get_by_role("checkbox", name="Leak sensor")).to_be_checked()
        expect(self.page.get_by_role("group", name="Limits of Temperature").get_by_label("Below")).to_have_value("25.5")
        self.button("Undo").click()
        expect(self.page.get_by_role("group", name="Limits of Temperature").get_by_label("Below")).to_have_value("24")
        self.button("Make an address").click()
        self.sees(self.page.get_by_text(re.compile(r"It sends to http.*/api/push/")))

    def test_people_are_added_refused_at_their_field_and_tested(self) -> None:
        self.open(ALARMS, "Alarms")
        self.assert_accessible()
        self.button("Add a person").click()
        new = self.page.get_by_role("group", name="New")
        new.get_by_label("Web address").fill("bell")
        new.get_by_label("Name").fill("Bell")
        self.button("Save").click()
        bell = self.page.get_by_role("group", name="Bell", exact=True)
        self.sees(bell.get_by_text("http:// or https:// and a server"))
        # Nothing listens there: a test says so.
        bell.get_by_label("Web address").fill("http://127.0.0.1:9/bell")
        self.button("Save").click()
        self.sees(self.page.get_by_text("Saved: who is told, and how"))
        self.button("Send a test to Bell").click()
        self.sees(self.page.get_by_text(re.compile("web address: not delivered: it did not answer")))

    def test_what_it_cannot_guard_is_said(self) -> None:
        self.open(ALARMS, "Alarms")
        cannot = self.page.get_by_role("region", name="What this cannot guard")
        expect(cannot).to_contain_text("An alarm stops nothing")
        expect(self.page.get_by_role("region", name="Over")).to_contain_text("pH by probe P1 was below 7.90")


class OnAPhone(WebTest):
    size = PHONE

    def test_pages_and_the_bar_fit(self) -> None:
        Alarms.leaks(self)  # type: ignore[arg-type]
        for path, heading in ((ALARMS, "Alarms"), (LIMITS, "Alarm limits")):
            self.open(path, heading)
            self.sees(self.page.get_by_role("alert", name="Alarms"))
            self.assert_accessible()
            self.assert_fits()

    call = Alarms.call
