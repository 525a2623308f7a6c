"""API tests: the real application on a real SQLite file, a copy of the demo data or an empty one."""

from __future__ import annotations

import shutil
import tempfile
import unittest
from datetime import UTC, datetime
from functools import cache
from itertools import count
from pathlib import Path
from typing import Any, ClassVar

from fastapi.testclient import TestClient

from salttide.app import make_app
from salttide.clock import PinnedClock
from salttide.household.memo import Memo
from tests.api.described import DescribedClient
from tests.stage import app_on, begin_as, demo_database

NOW = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)
BEACON, EELGRASS, SKIFF, SLIPWAY = 1, 2, 3, 4
_keys = count(1)


@cache
def warmed() -> Memo:
    """What the program keeps in memory of the demo data: worked out once for a run, not by every test."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "warm.db"
        shutil.copyfile(demo_database(), path)
        app = make_app(path, PinnedClock(NOW), build=None)
        TestClient(app).get("/api/harbour").raise_for_status()
        app.state.database.close()
    memo: Memo = app.state.memo
    return memo


class ApiTest(unittest.TestCase):
    """`self.api` talks to the app; `post` sends a command under a fresh key."""

    empty: ClassVar[bool] = False

    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-api-"))
        self.addCleanup(shutil.rmtree, folder)
        self.path = folder / "test.db"
        if not self.empty:
            shutil.copyfile(demo_database(), self.path)
        self.app = app_on(self.path, PinnedClock(NOW))
        self.api = DescribedClient(self.app, raise_server_exceptions=False)
        self.addCleanup(self.app.state.database.close)
        if not self.empty:
            begin_as(warmed(), self.app.state.memo)

    def get(self, path: str) -> Any:
        answer = self.api.get(f"/api{path}")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def send(self, path: str, body: Any, key: str | None = None, method: str = "POST") -> Any:
        """The raw answer of a command."""
        headers = {"Idempotency-Key": key or f"test-{next(_keys):08d}"}
        return self.api.request(method, f"/api{path}", json=body, headers=headers)

    def post(self, path: str, body: Any, key: str | None = None) -> Any:
        """A command that must succeed."""
        answer = self.send(path, body, key)
        self.assertLess(answer.status_code, 300, answer.text)
        return answer.json()

    def refused(self, path: str, body: Any, field: str, status: int = 422, method: str = "POST") -> dict[str, Any]:
        """A command that must be refused at a field; returns what is said there."""
        answer = self.send(path, body, method=method)
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        fields = {item["field"]: item for item in answer.json()["fields"]}
        self.assertIn(field, fields, answer.text)
        return fields[field]

    def rows(self, sql: str, *values: Any) -> list[tuple[Any, ...]]:
        """What stands in the database."""
        return [tuple(row) for row in self.app.state.database.connection.execute(sql, values)]


def session(**values: str) -> dict[str, Any]:
    """A test session as the Bench sends it."""
    return {"rows": [{"parameter": name, "text": text} for name, text in values.items()]}


def confirmed(**values: str) -> dict[str, Any]:
    """A test session of results that are not what was expected, and are said to be right."""
    return {"rows": [{**row, "confirmed": True} for row in session(**values)["rows"]]}
