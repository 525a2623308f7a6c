"""Starting: who may ask, bad settings, damaged and foreign databases, several starts at once."""

from __future__ import annotations

import http.client
import os
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import unittest
import urllib.error
import urllib.request
from contextlib import closing
from pathlib import Path

from fastapi.testclient import TestClient

from salttide.app import for_visitors, make_app
from salttide.clock import PinnedClock
from salttide.core.basics.errors import DataError
from salttide.store.database import Database, migrations
from tests.api.base import NOW
from tests.stage import ROOT, Server, demo_database


def run(*words: str, **environment: str) -> subprocess.CompletedProcess[str]:
    """The program in a process of its own, which has to end by itself."""
    return subprocess.run(
        [sys.executable, "-m", "salttide", *words], cwd=ROOT, env={**os.environ, **environment}, text=True,
        capture_output=True, timeout=60, check=False,
    )  # fmt: skip


class InAFolder(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="salttide-start-"))
        self.addCleanup(shutil.rmtree, self.folder)
        self.path = self.folder / "own.db"

    def assert_refused(self, done: subprocess.CompletedProcess[str], words: str) -> None:
        """One sentence and an exit code, no traceback."""
        self.assertEqual(done.returncode, 1, done.stderr)
        self.assertNotIn("Traceback", done.stderr)
        self.assertIn(words, done.stderr)


class Broken(unittest.TestCase):
    def test_a_file_that_breaks_off_does_not_look_complete(self) -> None:
        server = Server()
        self.addCleanup(server.stop)
        with closing(sqlite3.connect(server.database)) as connection:
            for trigger in ("entry_bounds_update", "entry_stays"):
                connection.execute(f"DROP TRIGGER {trigger}")
            connection.execute("UPDATE entry SET at = 'no date' WHERE id = (SELECT max(entry_id) FROM reading)")
            connection.commit()
        with self.assertRaises((http.client.IncompleteRead, ConnectionError, urllib.error.URLError)):
            urllib.request.urlopen(f"{server.url}/api/readings.csv", timeout=60).read()

    def test_how_many_rows_a_file_holds_is_told_before_it(self) -> None:
        server = Server()
        self.addCleanup(server.stop)
        with urllib.request.urlopen(f"{server.url}/api/readings.csv", timeout=60) as answer:
            lines = answer.read().decode("utf-8").splitlines()
            self.assertEqual(int(answer.headers["X-Row-Count"]), len(lines) - 1)


class Hosts(InAFolder):
    def client(self, hosts: tuple[str, ...] = (), visitors: bool = False, base: str = "http://localhost") -> TestClient:
        app = make_app(self.path, PinnedClock(NOW), build=None, hosts=hosts)
        self.addCleanup(app.state.database.close)
        return TestClient(for_visitors(app) if visitors else app, base_url=base)

    def test_a_name_that_is_not_this_servers_is_refused_on_both_ports(self) -> None:
        for visitors in (False, True):
            client = self.client(visitors=visitors)
            for host in ("evil.example", "evil.example:8737", "127.0.0.1.evil.example", ""):
                with self.subTest(visitors=visitors, host=host):
                    path = "/api/visits/x" if visitors else "/api/harbour"
                    answer = client.get(path, headers={"Host": host})
                    self.assertEqual(answer.status_code, 421)
                    self.assertNotIn("systems", answer.text)
        self.assertEqual(self.client().post("/api/keeper", headers={"Host": "evil.example"}).status_code, 421)

    def test_loopback_and_configured_names_are_answered(self) -> None:
        client = self.client(("reef.home",))
        for host in ("localhost:8737", "127.0.0.1:8737", "[::1]:8737", "REEF.home"):
            with self.subTest(host=host):
                self.assertEqual(client.get("/api/health", headers={"Host": host}).status_code, 200)

    def test_links_that_are_given_away_never_follow_the_host_of_the_asker(self) -> None:
        app = make_app(self.path, PinnedClock(NOW), build=None, hosts=("other.home",), links="https://reef.home/open")
        self.addCleanup(app.state.database.close)
        client = TestClient(app, base_url="http://other.home")
        key = {"Idempotency-Key": "address-1"}
        self.assertEqual(client.post("/api/rota/calendar/link", headers=key).status_code, 201)
        self.assertTrue(
            client.get("/api/rota/calendar").json()["address"].startswith("https://reef.home/open/calendar/")
        )

    def test_the_keepers_port_does_not_open_to_a_network_unless_it_is_trusted(self) -> None:
        done = run("serve", SALTTIDE_HOST="0.0.0.0", SALTTIDE_DATABASE=str(self.path))
        self.assert_refused(done, "SALTTIDE_TRUST_NETWORK=yes")
        self.assertFalse(self.path.exists())


class Settings(InAFolder):
    def test_a_port_that_is_none_is_one_sentence(self) -> None:
        for port in ("many", "0", "70000", "-1"):
            with self.subTest(port=port):
                self.assert_refused(run("serve", SALTTIDE_PORT=port, SALTTIDE_DATABASE=str(self.path)), "SALTTIDE_PORT")

    def test_the_demo_says_that_it_leaves_the_keepers_database_alone(self) -> None:
        done = run(
            "demo", "--database", str(self.folder / "demo.db"), SALTTIDE_DATABASE=str(self.path), SALTTIDE_PORT="x"
        )
        self.assert_refused(done, "SALTTIDE_DATABASE is yours and is left alone")
        self.assertFalse(self.path.exists())


class Databases(InAFolder):
    def test_what_is_no_database_of_ours_is_one_sentence(self) -> None:
        garbage, foreign, directory = (self.folder / name for name in ("garbage.db", "foreign.db", "folder.db"))
        garbage.write_bytes(b"this is not a database at all" * 400)
        with closing(sqlite3.connect(foreign)) as other:
            other.execute("CREATE TABLE recipes (name TEXT)")
            other.commit()
        directory.mkdir()
        for path, words in ((garbage, "is not a database"), (foreign, "of another program"), (directory, "folder.db")):
            with self.subTest(path=path.name):
                before = path.read_bytes() if path.is_file() else b""
                self.assert_refused(run("serve", SALTTIDE_DATABASE=str(path)), words)
                self.assertEqual(path.read_bytes() if path.is_file() else b"", before)

    def damaged(self) -> Path:
        """The demo database with a page of its table of readings overwritten."""
        shutil.copyfile(demo_database(), self.path)
        with closing(sqlite3.connect(self.path)) as connection:
            connection.execute("PRAGMA journal_mode = DELETE")
            size = connection.execute("PRAGMA page_size").fetchone()[0]
            page = connection.execute("SELECT rootpage FROM sqlite_master WHERE name = 'reading'").fetchone()[0]
            leaf = f"SELECT min(pageno) FROM dbstat WHERE name = 'reading' AND pageno > {page} + 3"
            page = connection.execute(leaf).fetchone()[0]
        with self.path.open("r+b") as file:
            file.seek((page - 1) * size)
            file.write(b"\xff" * size)
        return self.path

    def test_a_damaged_database_is_read_from_and_never_written_to(self) -> None:
        path = self.damaged()
        before = path.read_bytes()
        app = make_app(path, PinnedClock(NOW), build=None)
        self.addCleanup(app.state.database.close)
        self.assertTrue(app.state.database.damaged)
        client = TestClient(app, base_url="http://localhost", raise_server_exceptions=False)
        answer = client.post(
            "/api/jot/record", json={"text": "alk 7.9", "system_id": 1}, headers={"Idempotency-Key": "damaged-1"}
        )
        self.assertEqual(answer.status_code, 503, answer.text)
        self.assertIn("reading only", answer.text)
        self.assertEqual(path.read_bytes(), before)

    def test_what_can_be_read_of_it_is_taken_out(self) -> None:
        path = self.damaged()
        with closing(sqlite3.connect(demo_database())) as sound:
            systems, readings = (
                sound.execute(f"SELECT count(*) FROM {name}").fetchone()[0] for name in ("system", "reading")
            )
        done = run("rescue", str(path), str(self.folder / "out"))
        self.assertEqual(done.returncode, 0, done.stderr)
        rows = {name: len((self.folder / "out" / f"{name}.csv").read_text("utf-8").splitlines()) - 1
                for name in ("system", "reading")}  # fmt: skip
        self.assertEqual(rows["system"], systems)
        self.assertGreater(rows["reading"], readings // 2)
        self.assertIn("and then", done.stdout)
        self.assertEqual(run("rescue", str(self.folder / "none.db"), str(self.folder / "out")).returncode, 1)

    def test_three_starts_at_once_on_an_old_database_all_come_up(self) -> None:
        with closing(sqlite3.connect(self.path)) as connection:
            for number, script in migrations()[:3]:
                connection.executescript(f"{script} PRAGMA user_version = {number};")
        code = (
            "from salttide.store.database import Database; from pathlib import Path; "
            f"Database(Path({str(self.path)!r}))"
        )
        starts = [subprocess.Popen([sys.executable, "-c", code], cwd=ROOT, stderr=subprocess.PIPE) for _ in range(3)]
        for start in starts:
            self.assertEqual((start.wait(60), start.communicate()[1]), (0, b""))
        with closing(sqlite3.connect(self.path)) as connection:
            self.assertEqual(connection.execute("PRAGMA user_version").fetchone()[0], migrations()[-1][0])

    def test_after_waiting_in_vain_a_connection_waits_again(self) -> None:
        database = Database(self.path)
        self.addCleanup(database.close)
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:
            other.execute("BEGIN IMMEDIATE")
            with self.assertRaises(sqlite3.OperationalError), database.write():
                pass
        self.assertGreater(database.connection.execute("PRAGMA busy_timeout").fetchone()[0], 0)

    def test_a_newer_one_is_refused_untouched(self) -> None:
        with closing(sqlite3.connect(self.path)) as connection:
            connection.execute("PRAGMA user_version = 999")
        with self.assertRaises(DataError):
            Database(self.path)
