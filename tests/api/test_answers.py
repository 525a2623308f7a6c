"""What an answer costs, that it writes nothing, and that one from memory is what a fresh process would answer."""

from __future__ import annotations

import json
import re
import shutil
import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path
from random import Random
from typing import Any
from unittest.mock import patch

from fastapi.testclient import TestClient

from salttide.app import make_app
from salttide.clock import PinnedClock
from salttide.store import database as database_module
from tests.api.base import BEACON, NOW, ApiTest, session
from tests.api.test_poison import BODIES, Stage, staged
from tests.stage import demo_database

PAGES = (
    "/harbour", "/next", "/mix", "/rota?days=14", "/rota/round", "/rota/year", "/rota/calendar.ics", "/shelf",
    *(f"/systems/1/{page}" for page in ("bench", "sheet", "judgement", "change", "dosing", "whatif", "care")),
    "/systems/2/sheet", "/log", "/gear",
)  # fmt: skip


class Counted:
    """The app on a copy of the demo, with a count of every statement that it runs."""

    def __init__(self, folder: Path) -> None:
        self.count = 0
        path = folder / "test.db"
        shutil.copyfile(demo_database(), path)
        plain = database_module.connect

        def connect(where: Path) -> sqlite3.Connection:
            connection = plain(where)
            connection.set_trace_callback(self._ran)
            return connection

        with patch.object(database_module, "connect", connect):
            self.app = make_app(path, PinnedClock(NOW), build=None)
        self.connect = connect
        self.api = TestClient(self.app)

    def _ran(self, statement: str) -> None:
        self.count += 1

    def cost(self, method: str, path: str, body: Any = None) -> int:
        """Statements that a request runs, which must succeed."""
        with patch.object(database_module, "connect", self.connect):
            self.count = 0
            headers = {"Idempotency-Key": f"key-{Random().random()}"} if method != "GET" else {}
            answer = self.api.request(method, f"/api{path}", json=body, headers=headers)
        assert answer.status_code < 300, answer.text
        return self.count


class Costs(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-cost-"))
        self.addCleanup(shutil.rmtree, folder)
        self.counted = Counted(folder)
        self.addCleanup(lambda: self.counted.app.state.database.close())

    def after_a_reading(self, path: str) -> int:
        """What a page costs once something was written that it shows."""
        self.counted.cost("GET", path)
        self.counted.cost("POST", f"/systems/{BEACON}/bench", session(calcium="431"))
        return self.counted.cost("GET", path)

    def test_a_page_loads_each_table_once(self) -> None:
        for path, most in (("/harbour", 50), ("/rota/year", 65), ("/rota?days=14", 65), ("/mix", 65)):
            with self.subTest(path=path):
                self.assertLessEqual(self.after_a_reading(path), most)

    def test_a_moved_task_places_all_work_anew_and_yet_loads_each_table_once(self) -> None:
        body = {"task": "skimmer_cup", "due": "2026-11-27", "step_id": None, "day": "2026-11-28"}
        self.counted.cost("GET", "/rota?days=14")
        self.assertLessEqual(self.counted.cost("POST", f"/systems/{BEACON}/care/move", body), 120)

    def test_what_is_asked_again_costs_one_statement(self) -> None:
        for path in PAGES:
            self.counted.cost("GET", path)
        for path in PAGES:
            with self.subTest(path=path):
                self.assertLessEqual(self.counted.cost("GET", path), 1)

    def test_statements_grow_no_faster_than_the_systems(self) -> None:
        few = {path: self.after_a_reading(path) for path in ("/harbour", "/rota/year", "/mix")}
        body = next(body for _, path, body in json.loads(BODIES.read_text("utf-8")) if path == "/systems")
        for number in range(4):
            self.counted.cost("POST", "/systems", {**body, "name": f"Copy {number}"})
        for path, cost in few.items():
            with self.subTest(path=path):
                # Eight systems instead of four.
                self.assertLessEqual(self.after_a_reading(path), 2 * cost)


class GetsWriteNothing(unittest.TestCase):
    def test_no_get_writes_anything(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-read-"))
        self.addCleanup(shutil.rmtree, folder)
        stage = Stage(folder / "staged.db", staged(folder / "staged.db"))
        plain = database_module.connect

        def connect(where: Path) -> sqlite3.Connection:
            connection = plain(where)
            connection.execute("PRAGMA query_only = ON")
            return connection

        with patch.object(database_module, "connect", connect):
            for page in stage.pages:
                with self.subTest(page=page):
                    self.assertLess(stage.api.get(page).status_code, 500)
        self.assertGreater(len(stage.pages), 50)
        stage.close()


class Again(ApiTest):
    def test_an_answer_that_is_known_is_not_sent_again(self) -> None:
        first = self.api.get("/api/harbour")
        tag = first.headers["etag"]
        again = self.api.get("/api/harbour", headers={"If-None-Match": tag})
        self.assertEqual((again.status_code, again.content, again.headers["etag"]), (304, b"", tag))
        self.post(f"/systems/{BEACON}/bench", session(calcium="431"))
        other = self.api.get("/api/harbour", headers={"If-None-Match": tag})
        self.assertEqual(other.status_code, 200)
        self.assertNotEqual(other.headers["etag"], tag)

    def test_it_is_compressed_for_those_who_take_that_alone(self) -> None:
        plain = self.api.get("/api/harbour", headers={"Accept-Encoding": "identity"})
        self.assertNotIn("content-encoding", plain.headers)
        small = self.api.get("/api/harbour", headers={"Accept-Encoding": "gzip"})
        self.assertEqual((small.headers["content-encoding"], small.json()), ("gzip", plain.json()))
        self.assertEqual(self.api.get("/api/systems/99/sheet").status_code, 404)

    def test_a_minute_later_it_is_computed_anew(self) -> None:
        first = self.get("/harbour")["now"]
        self.app.state.clock._at = self.app.state.clock.now().replace(minute=58)
        self.assertNotEqual(self.get("/harbour")["now"], first)

    def test_a_write_by_another_program_counts(self) -> None:
        self.get("/harbour")
        with closing(sqlite3.connect(self.app.state.database.path)) as other, other:
            other.execute("UPDATE system SET name = 'Renamed elsewhere' WHERE id = 1")
        self.assertIn("Renamed elsewhere", json.dumps(self.get("/harbour")))

    def test_timers_of_a_run_are_of_the_moment(self) -> None:
        run = self.post("/runs", {"system_id": BEACON, "runbook": "skimmer_cup", "task": ""})["id"]
        before = self.api.get(f"/api/runs/{run}")
        self.assertEqual(before.status_code, 200)
        self.assertEqual([key for key in self._kept() if key[0] == f"/api/runs/{run}"], [])

    def _kept(self) -> list[tuple[Any, ...]]:
        found, layer = [], self.app.middleware_stack
        while layer is not None:
            found += list(getattr(layer, "_kept", ()))
            layer = getattr(layer, "app", None)
        return found


class AsFresh(unittest.TestCase):
    """Random acts on an app whose every page was asked for before: each page is that of a process just started."""

    def test_pages_after_any_acts_are_those_of_a_fresh_process(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-fresh-"))
        self.addCleanup(shutil.rmtree, folder)
        names = staged(folder / "staged.db")
        chance = Random(20261124)
        acts = [one for one in json.loads(BODIES.read_text("utf-8")) if not one[1].endswith("preview")]
        stage = Stage(folder / "staged.db", names)
        done = 0
        for method, path, body in chance.sample(acts, 24):
            done += stage.send(method, path, body)[0] < 300
            if done % 3:
                stage.api.get("/api/harbour")
                continue
            copy = folder / f"fresh-{done}.db"
            with closing(sqlite3.connect(copy)) as target:
                stage.app.state.database.connection.backup(target)
            fresh = TestClient(make_app(copy, PinnedClock(NOW), build=None))
            for page in ("/rota?days=14", *chance.sample(PAGES, 5)):
                mine, theirs = (_plain(api.get(f"/api{page}").text) for api in (stage.api, fresh))
                self.assertEqual(mine, theirs, f"{page} after {method} {path}")
            fresh.app.state.database.close()
        self.assertGreater(done, 12)
        stage.close()


def _plain(text: str) -> str:
    """Without the moment at which a calendar's entries were last changed, which a fresh process cannot know."""
    return re.sub(r"(DTSTAMP|LAST-MODIFIED):\w+", r"\1", text)
