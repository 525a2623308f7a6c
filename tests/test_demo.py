"""The demo data: the same on every day and machine, made whole or not at all."""

from __future__ import annotations

import hashlib
import json
import os
import re
import shutil
import socket
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from contextlib import closing
from datetime import timedelta
from pathlib import Path

from salttide.clock import MachineClock, PinnedClock
from salttide.demo.household import NOW, make_household
from tests.stage import ROOT, demo_database


def digest(path: Path) -> str:
    """A digest of everything that is stored."""
    with closing(sqlite3.connect(path)) as connection:
        return hashlib.sha256("\n".join(connection.iterdump()).encode()).hexdigest()


class Household(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp(prefix="salttide-demo-"))
        self.addCleanup(shutil.rmtree, self.folder)

    def test_made_twice_it_is_the_same_to_the_last_row(self):
        make_household(self.folder / "again.db")
        self.assertEqual(digest(self.folder / "again.db"), digest(demo_database()))

    def test_what_is_there_is_left_as_it_is_unless_made_anew(self):
        path = self.folder / "mine.db"
        self.assertTrue(make_household(path))
        with closing(sqlite3.connect(path)) as connection:
            connection.execute("UPDATE system SET stock = 'my own words' WHERE id = 1")
            connection.commit()
        before = digest(path)
        self.assertFalse(make_household(path))
        self.assertEqual(digest(path), before)
        self.assertTrue(make_household(path, fresh=True))
        self.assertNotEqual(digest(path), before)

    def test_a_run_that_was_killed_leaves_nothing_half_made(self):
        growing = self.folder / "new.db.growing"
        growing.write_bytes(b"half of a database")
        self.assertTrue(make_household(self.folder / "new.db"))
        self.assertFalse(growing.exists())
        self.assertEqual(digest(self.folder / "new.db"), digest(demo_database()))

    def test_nothing_is_dated_after_the_pinned_clock(self):
        with closing(sqlite3.connect(demo_database())) as connection:
            (last,) = connection.execute("SELECT max(at) FROM entry").fetchone()
        self.assertLessEqual(last, "2026-11-24T17:40:00Z")


class Clocks(unittest.TestCase):
    def test_the_pinned_clock_stands_unless_told_to_run(self):
        clock = PinnedClock(NOW)
        self.assertEqual(clock.now(), clock.now())
        self.assertEqual(clock.now().isoformat(), "2026-11-24T17:40:00+00:00")
        self.assertGreaterEqual(PinnedClock(NOW, runs=True).now(), NOW)

    def test_the_machines_clock_runs_in_utc(self):
        self.assertEqual(MachineClock().now().utcoffset(), timedelta(0))


class CommandLine(unittest.TestCase):
    def run_tool(self, *words: str, **environment: str) -> subprocess.CompletedProcess[str]:
        env = {**os.environ, **environment}
        return subprocess.run([sys.executable, "-m", "salttide", *words], cwd=ROOT, env=env, text=True,
                              capture_output=True, timeout=60, check=False)  # fmt: skip

    def test_openapi_describes_every_path(self):
        paths = json.loads(self.run_tool("openapi").stdout)["paths"]
        self.assertIn("/api/systems/{system_id}/change/preview", paths)
        self.assertTrue(all(path.startswith("/api/") for path in paths))

    def test_without_a_word_it_says_what_can_be_done(self):
        said = self.run_tool()
        self.assertIn("serve", said.stdout + said.stderr)

    def test_a_port_that_is_taken_is_passed_over_and_the_address_is_loopback(self):
        with socket.socket() as taken, tempfile.TemporaryDirectory() as folder:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            env = {**os.environ, "SALTTIDE_PORT": str(port), "SALTTIDE_DATABASE": f"{folder}/own.db"}
            process = subprocess.Popen([sys.executable, "-m", "salttide", "serve"], cwd=ROOT, env=env, text=True,
                                       stdout=subprocess.PIPE)  # fmt: skip
            self.addCleanup(process.wait)
            self.addCleanup(process.kill)
            assert process.stdout
            line = process.stdout.readline()
            process.stdout.close()
        found = re.search(r"http://127\.0\.0\.1:(\d+)/", line)
        self.assertTrue(found, line)
        self.assertGreater(int(found.group(1)), port)

    def test_a_database_newer_than_the_program_is_refused_in_words(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "newer.db"
            with closing(sqlite3.connect(path)) as connection:
                connection.execute("PRAGMA user_version = 999")
            said = self.run_tool("serve", SALTTIDE_DATABASE=str(path))
        self.assertNotEqual(said.returncode, 0)
        self.assertIn("newer than this program", said.stderr)
        self.assertNotIn("Traceback", said.stderr)
