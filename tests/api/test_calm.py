"""Calm: what is ticked, skipped or moved changes as little else as possible."""

from __future__ import annotations

from datetime import date, timedelta
from random import Random
from statistics import median
from typing import Any

from salttide.clock import PinnedClock
from tests.api.base import NOW
from tests.api.test_acts import Acts

ACTS, AHEAD = 16, 5
Ref = tuple[int, str, str, Any]


class Calm(Acts):
    """Half a day an act, and much is left undone: a week of a busy keeper on the demo. Seeded."""

    def days(self) -> dict[Ref, str]:
        lanes = self.get("/rota?days=28")["lanes"]
        return {(one["system_id"], t["task"], t["due"], t["step_id"]): t["day"] for one in lanes for t in one["tasks"]}

    def act(self, chance: Random, ref: Ref, day: str) -> None:
        body = {"task": ref[1], "due": ref[2], "step_id": ref[3]}
        path = f"/systems/{ref[0]}/care"
        kind = chance.random()
        if kind < 0.6:
            self.post(f"{path}/done", body)
        elif kind < 0.8:
            self.post(f"{path}/skip", {**body, "reason": "no time"})
        else:
            there = (date.fromisoformat(day) + timedelta(days=2)).isoformat()
            self.assertIn(self.send(f"{path}/move", {**body, "day": there}).status_code, (200, 422))

    def test_a_week_of_random_acts(self) -> None:
        chance, moved, gained = Random(5), list[int](), 0
        for number in range(ACTS):
            now = NOW + timedelta(days=number // 2)
            self.app.state.clock = PinnedClock(now)
            before, today = self.days(), now.date()
            soon = (today + timedelta(days=AHEAD)).isoformat()
            ref = chance.choice([one for one, day in before.items() if day <= soon and one[1] != "water_change"])
            self.act(chance, ref, before[ref])
            after = self.days()
            others = [one for one in before if one in after and one[:2] != ref[:2]]
            moved.append(sum(before[one] != after[one] for one in others))
            gained += sum(after[one] == today.isoformat() != before[one] for one in others)
        self.assertEqual(median(moved), 0)
        self.assertLessEqual(sorted(moved)[round(0.95 * ACTS) - 1], 2)
        # Today's list never gains a task because something was finished early.
        self.assertEqual(gained, 0)
