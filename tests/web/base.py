"""Browser tests: the built app in headless Chromium, on a server of its own with a copy of the demo data."""

from __future__ import annotations

import unittest
from functools import cache
from collections.abc import Callable
from typing import Any, ClassVar

from playwright.sync_api import expect

from tests.stage import ROOT, WIDE, Server, forget, shared_context

expect.set_options(timeout=20_000)
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]


@cache
def axe() -> str:
    """The source of the accessibility engine."""
    return (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text("utf-8")


class WebTest(unittest.TestCase):
    """`self.page` on `self.server`; every test fails if the page logs an error or asks another machine for anything."""

    size: ClassVar[dict[str, int]] = WIDE
    empty: ClassVar[bool] = False
    night: ClassVar[bool] = False
    visitors: ClassVar[bool] = False

    def setUp(self) -> None:
        self.server = Server(empty=self.empty, visitors=self.visitors)
        self.addCleanup(self.server.stop)
        self.context = shared_context(self.night)
        self.addCleanup(lambda: forget(self.context, self.addresses()))
        self.requests: list[str] = []
        self.errors: list[str] = []
        self.context.on("request", self.asked)
        self.addCleanup(self.context.remove_listener, "request", self.asked)
        self.page = self.new_page()

    def asked(self, request: Any) -> None:
        self.requests.append(request.url)

    def new_page(self) -> Any:
        page = self.context.new_page()
        page.set_viewport_size(self.size)
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.on("console", lambda message: self.errors.append(message.text) if self.is_fault(message) else None)
        return page

    @staticmethod
    def is_fault(message: Any) -> bool:
        # Chromium logs every refused request as an error of the console: those are answers the tests ask for.
        return message.type in ("error", "warning") and "Failed to load resource" not in message.text

    def tearDown(self) -> None:
        self.assertEqual(self.errors, [])
        elsewhere = [url for url in self.requests if not url.startswith((*self.addresses(), "data:", "blob:"))]
        self.assertEqual(elsewhere, [], "something was asked for from elsewhere")

    def addresses(self) -> list[str]:
        """Where pages may ask."""
        return [url for url in (self.server.url, self.server.visitors_url) if url]

    def open(self, path: str, heading: str) -> None:
        self.page.goto(f"{self.server.url}{path}")
        self.sees(self.page.get_by_role("heading", name=heading).first)

    def sees(self, locator: Any) -> None:
        expect(locator).to_be_visible()

    def until(self, holds: Callable[[], bool]) -> None:
        """Wait until something holds that is read from the page."""
        for _ in range(160):
            if holds():
                return
            self.page.wait_for_timeout(125)
        self.assertTrue(holds())

    def button(self, name: str) -> Any:
        return self.page.get_by_role("button", name=name).first

    def assert_accessible(self, page: Any | None = None) -> None:
        page = page or self.page
        page.wait_for_load_state("networkidle")
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        # The whole page at once, so that nothing stands behind the bar at the foot.
        height = page.evaluate("document.documentElement.scrollHeight")
        page.set_viewport_size({"width": self.size["width"], "height": max(height, self.size["height"])})
        page.evaluate("Promise.allSettled(document.getAnimations().map((each) => each.finished))")
        page.evaluate(axe())
        found = page.evaluate(
            "rules => axe.run(document, {runOnly: {type: 'tag', values: rules}}).then(result => result.violations.map("
            "rule => [rule.id, rule.nodes.map(node => node.html.slice(0, 160) + ' | ' + node.failureSummary)]))",
            RULES,
        )
        self.assertEqual(found, [], f"accessibility of {page.url}")
        page.set_viewport_size(self.size)

    def assert_fits(self) -> None:
        """Nothing makes the page wider than the screen."""
        width = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(width, self.size["width"])
