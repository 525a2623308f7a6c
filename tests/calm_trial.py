"""How much an act on the rota moves besides its own task: random acts of a busy keeper on the demo; and how full the
days are after nine days in which nobody came. Seeded."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date, timedelta
from pathlib import Path
from random import Random
from shutil import copyfile
from typing import Any

from fastapi.testclient import TestClient

from salttide.clock import PinnedClock
from salttide.demo.household import NOW
from tests.stage import app_on, demo_database

AHEAD = timedelta(days=5)
Ref = tuple[int, str, str, Any]


@dataclass(frozen=True)
class Moved:
    """How many others each act moved to another day, and how many of them came to stand on today."""

    others: tuple[int, ...]
    gained: int

    def percentile(self, percent: int) -> int:
        """So many percent of the acts moved no more."""
        return sorted(self.others)[max(0, -(-percent * len(self.others) // 100) - 1)]


@contextmanager
def household() -> Iterator[TestClient]:
    """The demo, on a copy of its own."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "calm.db"
        copyfile(demo_database(), path)
        app = app_on(path, PinnedClock(NOW))
        yield TestClient(app)
        app.state.database.close()


def random_acts(count: int, seed: int = 5) -> Moved:
    """Two acts a day: done, skipped or moved, of what is due within five days; everything else is left undone."""
    chance, others, gained = Random(seed), list[int](), 0
    with household() as client:
        for number in range(count):
            now = NOW + timedelta(days=number // 2)
            client.app.state.clock = PinnedClock(now)  # type: ignore[attr-defined]
            before, today = _days(client), now.date()
            soon = (today + AHEAD).isoformat()
            ref = chance.choice([one for one, day in before.items() if day <= soon and one[1] != "water_change"])
            _act(client, chance, ref, before[ref], f"calm-act-{number:04d}")
            after = _days(client)
            rest = [one for one in before if one in after and one[:2] != ref[:2]]
            others.append(sum(before[one] != after[one] for one in rest))
            gained += sum(after[one] == today.isoformat() != before[one] for one in rest)
    return Moved(tuple(others), gained)


def _days(client: TestClient) -> dict[Ref, str]:
    lanes = client.get("/api/rota?days=28").json()["lanes"]
    return {(one["system_id"], t["task"], t["due"], t["step_id"]): t["day"] for one in lanes for t in one["tasks"]}


def _act(client: TestClient, chance: Random, ref: Ref, day: str, key: str) -> None:
    body = {"task": ref[1], "due": ref[2], "step_id": ref[3]}
    kind = chance.random()
    door, more = ("done", {}) if kind < 0.6 else ("skip", {"reason": "no time"})
    if kind >= 0.8:
        door, more = "move", {"day": (date.fromisoformat(day) + timedelta(days=2)).isoformat()}
    path = f"/api/systems/{ref[0]}/care/{door}"
    answer = client.post(path, json={**body, **more}, headers={"Idempotency-Key": key})
    if answer.status_code not in (200, 201, 422):
        raise RuntimeError(answer.text)


def left_alone(days: int = 9) -> list[tuple[int, int]]:
    """The minutes of the next fortnight's days, and those the keeper has, after so many days in which nobody came."""
    with household() as client:
        client.get("/api/rota?days=42")
        client.app.state.clock = PinnedClock(NOW + timedelta(days=days))  # type: ignore[attr-defined]
        return [(day["minutes"], day["room"]) for day in client.get("/api/rota?days=14").json()["days"]]
