"""How soon the sheet is drawn anew while work is dragged over it."""

from __future__ import annotations

import statistics

from tests.web.test_sheet import Sheet

REPAINT_MS = 100.0

WATCH = """() => {
  window.repaints = []
  let moved = 0
  window.addEventListener('pointermove', () => { moved = performance.now() }, true)
  new MutationObserver((changes) => {
    if (moved && changes.some((one) => one.target.classList?.contains('ahead'))) {
      const from = moved
      moved = 0
      requestAnimationFrame(() => window.repaints.push(performance.now() - from))
    }
  }).observe(document.querySelector('.box'), { subtree: true, attributes: true, attributeFilter: ['d'] })
}"""


class Repaint(Sheet):
    def test_the_future_is_repainted_within_a_tenth_of_a_second(self) -> None:
        self.page.get_by_role("checkbox", name="Nitrate").check()
        x, y = self.take()
        self.page.mouse.move(x + 20, y)
        self.page.wait_for_timeout(500)
        self.page.evaluate(WATCH)
        for turn in range(12):
            self.page.mouse.move(x + (60 if turn % 2 else 25), y)
            self.page.wait_for_timeout(300)
        self.page.keyboard.press("Escape")
        taken = self.page.evaluate("window.repaints")
        self.assertGreaterEqual(len(taken), 8)
        self.assertLessEqual(statistics.median(taken), REPAINT_MS, taken)
