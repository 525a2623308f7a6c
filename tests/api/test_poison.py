"""One value at a time made hostile in a valid body of every operation: refused in words, or borne by every page.

`bodies.json` holds a body of each operation that the staged demo data take. The long run is `python -m
tests.api.test_poison`, which leaves no variant out.
"""

from __future__ import annotations

import json
import shutil
import sys
import tempfile
import unittest
import warnings
from collections.abc import Iterator
from datetime import timedelta
from functools import cache
from itertools import count
from pathlib import Path
from typing import Any, ClassVar

from fastapi.testclient import TestClient

from salttide.app import make_app
from salttide.clock import PinnedClock
from salttide.core.ledger.entries import Care
from salttide.household.memo import Memo
from salttide.store.ledger import record
from tests.api.base import NOW
from tests.stage import app_on, begin_as, demo_database

BODIES = Path(__file__).with_name("bodies.json")
NUMBERS = (0, -1, 1e-9, -1e9, 1e9, 1e300, 10**400, float("nan"), float("inf"))
NUMBERS_TYPED = ("0", "-1", "0.0000001", "-1000000000", "1000000000", "9" * 400, "NaN", "inf", "1e9")
TEXTS = (
    "",
    " ",
    "\0",
    "\ud800",
    "x" * 100_000,
    "٣½ مرحبا 🐠",
    "<script>alert(1)</script>",
    "../../etc/passwd",
    "'; --",
)
DAYS = ("0001-01-01", "9999-12-31", "2026-02-30", "1999-01-01T00:00:00Z")
OTHERS = (None, True, [], {}, [[]], {"x": 1})
EVERY = 40
"""Of the variants one in so many in the short run: under two minutes."""
LOOKED_AT = "/api/rota?days=28"
_keys = count(1)


def leaves(body: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[tuple[Any, ...], Any]]:
    """Every value in a body with the way to it."""
    if isinstance(body, dict | list) and body:
        for key, value in body.items() if isinstance(body, dict) else enumerate(body):
            yield from leaves(value, (*path, key))
    else:
        yield path, body


def hostile(value: Any) -> tuple[Any, ...]:
    """What one value is made."""
    if isinstance(value, bool) or value is None:
        return (*NUMBERS[:3], *TEXTS[:3], *OTHERS)
    if isinstance(value, int | float):
        return (*NUMBERS, "x", *OTHERS)
    return (*TEXTS, *NUMBERS_TYPED, *DAYS, 0, *OTHERS)


def spoilt(body: Any) -> Iterator[Any]:
    """A body with one value in it made hostile, each in turn."""
    for path, value in leaves(body):
        for bad in hostile(value):
            if not path:
                yield bad
                continue
            copy = json.loads(json.dumps(body))
            place = copy
            for key in path[:-1]:
                place = place[key]
            place[path[-1]] = bad
            yield copy


@cache
def _described() -> list[str]:
    paths = make_app(demo_database(), PinnedClock(NOW), build=None).openapi()["paths"]
    return [path for path, ways in paths.items() if "get" in ways]


class Stage:
    """The app on a copy of the staged data; `names` are the numbers that the paths of the bodies name."""

    folder: Path
    names: dict[str, Any]

    def __init__(self, source: Path, names: dict[str, Any], warm: Memo | None = None) -> None:
        self.folder, self.names = Path(tempfile.mkdtemp(prefix="salttide-poison-")), names
        path = self.folder / "test.db"
        shutil.copyfile(source, path)
        self.app = app_on(path, PinnedClock(NOW))
        self.api = TestClient(self.app, raise_server_exceptions=False)
        if warm:
            begin_as(warm, self.app.state.memo)
        self.pages = [page for page in map(self._filled, _described()) if page]

    def close(self) -> None:
        self.app.state.database.close()
        shutil.rmtree(self.folder)

    def _filled(self, path: str) -> str:
        ids = {"system_id": 1, "salt_id": 1, "item_id": 1, "number": self.names["away"], "task": "skimmer_cup",
               "parameter": "alkalinity", "cause": "ion_low.alkalinity", "key": "too_hot", "programme": "cyanobacteria",
               "run_id": self.names["run"], "batch_id": self.names["batch"], "token": self.names["token"]}  # fmt: skip
        for name, value in ids.items():
            path = path.replace(f"{{{name}}}", str(value))
        return "" if "{" in path else path

    def send(self, method: str, path: str, body: Any) -> tuple[int, str, str]:
        """Status, text and key of a command."""
        key = f"poison-{next(_keys):08d}"
        headers = {"Idempotency-Key": key, "Content-Type": "application/json"}
        path = "/api" + path.format(**self.names)
        answer = self.api.request(method, path, content=json.dumps(body), headers=headers)
        return answer.status_code, answer.text, key

    def faults(self) -> list[str]:
        """Pages that do not bear what was accepted."""
        found = []
        for page in self.pages:
            answer = self.api.get(page)
            if answer.status_code >= 500:
                found.append(f"GET {page}: {answer.status_code} {answer.text[:200]}")
            elif page == "/api/harbour" and answer.json()["broken"]:
                found.append(f"GET {page}: {answer.json()['broken'][0]['name']} is broken")
        return found

    def seen(self) -> dict[str, Any]:
        """What undo must lead back to: how every system stands, and all its work."""
        rota = self.api.get(LOOKED_AT).json()
        harbour = self.api.get("/api/harbour").json()
        return {"systems": harbour["systems"], "lanes": rota["lanes"]}


def staged(path: Path) -> dict[str, Any]:
    """The demo with one of everything in it that a path names; returns their numbers."""
    shutil.copyfile(demo_database(), path)
    app = make_app(path, PinnedClock(NOW), build=None)
    api = TestClient(app)
    connection = app.state.database.connection
    known = {(method, path): body for method, path, body in json.loads(BODIES.read_text("utf-8"))}

    def post(path: str, body: Any, method: str = "POST") -> Any:
        answer = api.request(method, f"/api{path}", json=body, headers={"Idempotency-Key": f"stage-{next(_keys):08d}"})
        assert answer.status_code < 300, f"{path}: {answer.text}"
        return answer.json()

    def last(table: str, where: str = "1") -> int:
        return int(connection.execute(f"SELECT max(id) FROM {table} WHERE {where}").fetchone()[0])

    names: dict[str, Any] = {}
    post("/rota/away", {"first": "2026-11-24", "last": "2026-11-30", "note": ""})
    names["away"] = last("away")
    hand_over = "/rota/away/{away}/hand-over"
    post(hand_over.format(**names), known["PUT", hand_over], "PUT")
    post(f"{hand_over.format(**names)}/link", None)
    link = api.get(f"/api{hand_over.format(**names)}").json()["link"]
    names["token"] = link.rsplit("/", 1)[1]
    post(f"/visits/{names['token']}/reports", {**known["POST", "/visits/{token}/reports"]})
    names["report"] = last("visit_report")
    post("/rota/calendar/link", None)
    post("/systems/3/care", {**known["POST", "/systems/3/care"], "name": "Polish the lid"})
    names["own"] = connection.execute("SELECT 'own_' || max(id) FROM own_task").fetchone()[0]
    post("/instruments/checks", known["POST", "/instruments/checks"])
    names["check"] = last("instrument_check")
    names["batch"] = post("/batches", known["POST", "/batches"])["id"]
    names["run"] = post("/runs", {"batch_id": names["batch"]})["id"]
    post("/systems/1/plan/doses", known["POST", "/systems/1/plan/doses"])
    names["step"] = last("plan_step")
    names["reading"] = last("entry", "kind = 'reading' AND system_id = 1")
    names["animal"] = last("animal", "system_id = 3")
    with app.state.database.write() as writing:
        record(writing, 1, [Care(NOW - timedelta(days=2), "water_change", 40.0)], "ticked-00000001", NOW)
    names["ticked"] = last("entry", "kind = 'care' AND system_id = 1")
    app.state.database.close()
    return names


class Poison(unittest.TestCase):
    every = EVERY

    source: ClassVar[Path]
    names: ClassVar[dict[str, Any]]
    warm: ClassVar[Memo]

    @classmethod
    def setUpClass(cls) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-poison-"))
        cls.addClassCleanup(shutil.rmtree, folder)
        cls.source = folder / "staged.db"
        cls.names = staged(cls.source)
        first = Stage(cls.source, cls.names)
        first.seen()
        cls.warm = first.app.state.memo
        first.close()

    def setUp(self) -> None:
        warnings.simplefilter("ignore")
        self.cases = json.loads(BODIES.read_text("utf-8"))

    def stage(self) -> Stage:
        return Stage(self.source, self.names, self.warm)

    def test_every_body_of_the_list_is_taken_as_it_stands_and_what_can_be_taken_back_leads_back(self) -> None:
        led_back = 0
        stage = self.stage()
        before = stage.seen()
        for number, (method, path, body) in enumerate(self.cases):
            with self.subTest(method=method, path=path):
                status, text, key = stage.send(method, path, body)
                self.assertLess(status, 300, text[:300])
                if path.endswith("preview"):
                    continue
                if self.every == 1 or number % 4 == 0 or "plan" in path:
                    stage.api.get(LOOKED_AT)  # InspectionShown places the work anew.
                if stage.send("POST", f"/record/{key}/undo", {})[0] < 300:
                    led_back += 1
                    self.assertEqual(stage.seen(), before, "taken back, it led elsewhere")
                    continue
            stage.close()
            stage = self.stage()
        stage.close()
        self.assertGreater(led_back, 30)

    def test_a_hostile_value_is_refused_in_words_or_borne_by_every_page(self) -> None:
        tried = accepted = 0
        for group in (self.cases[at : at + 12] for at in range(0, len(self.cases), 12)):
            stage = self.stage()
            taken: list[tuple[str, str, Any, str]] = []
            for method, path, body in group:
                for number, bad in enumerate(spoilt(body) if body else ()):
                    if number % self.every != len(path) % self.every:
                        continue
                    tried += 1
                    status, text, key = stage.send(method, path, bad)
                    self.assertLess(status, 500, f"{method} {path} {str(bad)[:300]}: {text[:300]}")
                    if status < 300 and not path.endswith("preview"):
                        taken.append((method, path, bad, key))
            accepted += len(taken)
            if faults := stage.faults():
                self.fail(f"{faults[0]} after one of {self._culprits(taken) or taken}")
            for one in reversed(taken):
                self.assertLess(stage.send("POST", f"/record/{one[3]}/undo", {})[0], 500, one[:2])
            stage.close()
        self.assertGreater(tried, 8_000 // self.every)
        self.assertGreater(accepted, 10)

    def _culprits(self, taken: list[tuple[str, str, Any, str]]) -> list[str]:
        """Which of what was accepted is not borne when it is alone."""
        found = []
        for method, path, bad, _ in taken:
            stage = self.stage()
            stage.send(method, path, bad)
            if stage.faults():
                found.append(f"{method} {path} {json.dumps(bad)[:300]}")
            stage.close()
            if len(found) == 3:
                break
        return found


if __name__ == "__main__":
    Poison.every = 1
    unittest.main(argv=sys.argv[:1])
