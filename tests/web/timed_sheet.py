"""How soon the sheet is drawn anew while work is dragged over it."""

from __future__ import annotations

import statistics

from tests.web.test_sheet import Sheet

REPAINT_MS = 100.0
ROUNDS = 4
"""A slow program is slow in every round; a machine that is busy with something else for half a minute is not."""

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
        rounds: list[float] = []
        while len(rounds) < ROUNDS and min(rounds, default=REPAINT_MS + 1) > REPAINT_MS:
            rounds.append(self.round(x, y))
        self.page.keyboard.press("Escape")
        self.assertLessEqual(min(rounds), REPAINT_MS, rounds)

    def round(self, x: float, y: float) -> float:
        """Move the work to and fro a dozen times; the median of what the drawing took, in ms."""
        self.page.evaluate("window.repaints = []")
        for turn in range(12):
            self.page.mouse.move(x + (60 if turn % 2 else 25), y)
            self.page.wait_for_timeout(300)
        taken = self.page.evaluate("window.repaints")
        self.assertGreaterEqual(len(taken), 8)
        return statistics.median(taken)
