"""The application itself: faults, headers, the front end, and random input."""

from __future__ import annotations

import logging
import shutil
import sqlite3
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from fastapi.testclient import TestClient

from salttide.api.errors import STATUS, status_of
from salttide.app import make_app
from salttide.clock import PinnedClock
from salttide.core.basics import errors
from tests.api.base import BEACON, NOW, ApiTest


class Faults(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        logging.disable(logging.CRITICAL)
        self.addCleanup(logging.disable, logging.NOTSET)

    def test_an_unforeseen_error_gives_its_reference_and_never_its_text(self):
        self.app.state.database.connection.execute("DROP TABLE band")
        answer = self.api.get("/api/harbour")
        self.assertEqual(answer.status_code, 500)
        self.assertRegex(answer.json()["detail"], r"Reference [0-9a-f]{8}")
        self.assertNotIn("band", answer.text)

    def test_every_error_of_the_core_has_a_status(self):
        def leaves(kind: type[errors.SaltTideError]) -> set[type[errors.SaltTideError]]:
            return {kind}.union(*(leaves(child) for child in kind.__subclasses__()))

        for kind in leaves(errors.SaltTideError) - {errors.SaltTideError}:
            with self.subTest(kind=kind.__name__):
                self.assertTrue(any(parent in STATUS for parent in kind.__mro__))
        self.assertEqual(status_of(errors.GateError("x", ())), 409)
        self.assertEqual(status_of(errors.NumberError("x")), 422)


class Words(ApiTest):
    """What used to be a fault is said in words, at its status."""

    def test_signs_that_are_no_letters_are_refused(self):
        keys = {"Content-Type": "application/json", "Idempotency-Key": "letters-1"}
        for sign in ("\\u0000", "\\ud800"):
            with self.subTest(sign=sign):
                body = f'{{"text": "alk 7.9 note {sign}", "system_id": 1}}'
                answer = self.api.post("/api/jot/record", content=body, headers=keys)
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertIn("cannot be stored", answer.text)

    def test_what_the_database_refuses_is_said_in_words(self):
        for error, status in (
            (sqlite3.OperationalError("database is locked"), 503),
            (sqlite3.OperationalError("database or disk is full"), 507),
            (sqlite3.IntegrityError("FOREIGN KEY constraint failed"), 422),
            (sqlite3.DatabaseError("database disk image is malformed"), 503),
        ):  # fmt: skip
            with self.subTest(error=str(error)), patch("salttide.api.harbour.Harbour", side_effect=error):
                answer = self.api.get("/api/harbour")
                self.assertEqual(answer.status_code, status, answer.text)
                self.assertNotIn(str(error), answer.text)

    def test_a_key_that_was_used_for_something_else_is_refused(self):
        line = {"text": "alk 7.9", "system_id": BEACON}
        first = self.send("/jot/record", line, key="one-key-1")
        self.assertEqual(first.status_code, 201)
        self.assertEqual(self.send("/jot/record", line, key="one-key-1").json(), first.json())
        count = self.rows("SELECT count(*) FROM entry")
        bench = {"rows": [{"parameter": "calcium", "text": "420"}]}
        for path, body in (("/jot/record", {**line, "text": "alk 8.1"}), (f"/systems/{BEACON}/bench", bench)):
            with self.subTest(path=path):
                answer = self.send(path, body, key="one-key-1")
                self.assertEqual(answer.status_code, 409, answer.text)
                self.assertIn("another request", answer.text)
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), count)


class Headers(ApiTest):
    def test_nothing_may_be_loaded_from_elsewhere(self):
        answer = self.api.get("/api/health")
        self.assertIn("default-src 'self'", answer.headers["content-security-policy"])
        self.assertEqual(answer.headers["x-content-type-options"], "nosniff")
        self.assertEqual(answer.headers["cache-control"], "no-cache")

    def test_long_answers_are_packed(self):
        answer = self.api.get(f"/api/systems/{BEACON}/sheet", headers={"Accept-Encoding": "gzip"})
        self.assertEqual(answer.headers["content-encoding"], "gzip")


class FrontEnd(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-app-"))
        self.addCleanup(shutil.rmtree, folder)
        build = folder / "dist"
        (build / "assets").mkdir(parents=True)
        (build / "index.html").write_text("<title>Salt Tide</title>")
        (build / "assets" / "index-abc123.js").write_text("1")
        app = make_app(folder / "test.db", PinnedClock(NOW), build=build)
        self.addCleanup(app.state.database.close)
        self.api = TestClient(app)

    def test_every_page_is_the_front_end_and_hashed_files_are_kept(self):
        for path in ("/", "/rota", "/systems/1/sheet"):
            with self.subTest(path=path):
                answer = self.api.get(path, headers={"Accept": "text/html"})
                self.assertEqual((answer.status_code, answer.headers["cache-control"]), (200, "no-cache"))
                self.assertIn("Salt Tide", answer.text)
        asset = self.api.get("/assets/index-abc123.js")
        self.assertIn("immutable", asset.headers["cache-control"])

    def test_unknown_api_paths_and_files_are_not_the_front_end(self):
        answer = self.api.get("/api/nowhere", headers={"Accept": "text/html"})
        self.assertEqual((answer.status_code, answer.json()["title"]), (404, "Not found"))
        self.assertEqual(self.api.get("/assets/missing.js").status_code, 404)
