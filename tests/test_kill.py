"""SIGKILL in the middle of a save and of a runbook: what was confirmed is there, and nothing is half written."""

from __future__ import annotations

import json
import sqlite3
import threading
import unittest
import urllib.error
import urllib.request
from collections.abc import Callable
from contextlib import closing
from itertools import count
from time import sleep
from typing import Any

from tests.files.test_picture import picture
from tests.stage import Server

BEACON = 1
_keys = count(1)
SESSION = [("temperature", "25.3"), ("salinity", "34.5"), ("alkalinity", "8.1"), ("calcium", "420"),
           ("magnesium", "1320"), ("nitrate", "9"), ("phosphate", "0.05"), ("ph", "8.1")]  # fmt: skip


class Killed(unittest.TestCase):
    def setUp(self) -> None:
        self.server = Server()
        self.addCleanup(self.server.stop)

    def call(self, path: str, body: Any = None, key: str | None = None) -> Any:
        headers = {"Content-Type": "application/json", "Idempotency-Key": key or f"kill-{next(_keys):08d}"}
        data = json.dumps(body).encode() if body is not None else None
        request = urllib.request.Request(f"{self.server.url}/api{path}", data, headers)
        with urllib.request.urlopen(request, timeout=20) as answer:
            return json.load(answer)

    def rows(self, sql: str, *values: Any) -> list[tuple[Any, ...]]:
        with closing(sqlite3.connect(self.server.database)) as connection:
            self.assertEqual(connection.execute("PRAGMA integrity_check").fetchone()[0], "ok")
            return connection.execute(sql, values).fetchall()

    def save_until_killed(self, writers: int, wait: float) -> list[str]:
        """Writers save whole sessions as fast as they can until the server is killed; keys that were confirmed."""
        confirmed: list[str] = []

        def write(number: int) -> None:
            for turn in count():
                key = f"save-{number}-{turn:06d}"
                rows = [{"parameter": name, "text": text, "confirmed": True} for name, text in SESSION]
                try:
                    self.call(f"/systems/{BEACON}/bench", {"rows": rows}, key)
                except (OSError, ValueError):
                    return
                confirmed.append(key)

        threads = [threading.Thread(target=write, args=(number,)) for number in range(writers)]
        for thread in threads:
            thread.start()
        for _ in range(1000):
            if len(confirmed) >= writers:
                break
            sleep(0.01)
        sleep(wait)
        self.server.kill()
        for thread in threads:
            thread.join()
        return confirmed

    def test_in_the_middle_of_a_save(self) -> None:
        for number, wait in enumerate((0.05, 0.11, 0.23)):
            with self.subTest(round=number):
                confirmed = self.save_until_killed(writers=3, wait=wait)
                self.assertTrue(confirmed)
                kept = dict(
                    self.rows("SELECT command, count(*) FROM entry WHERE command LIKE 'save-%' GROUP BY command")
                )
                self.assertEqual([key for key in confirmed if key not in kept], [])
                self.assertEqual(set(kept.values()), {len(SESSION)})
                orphans = self.rows(
                    "SELECT id FROM entry WHERE kind = 'reading' AND id NOT IN (SELECT entry_id FROM reading)"
                )
                self.assertEqual(orphans, [])
                self.server.start()

    def test_a_save_that_was_not_answered_can_be_sent_again_without_doubling(self) -> None:
        body = {"rows": [{"parameter": "ph", "text": "8.11"}]}
        self.call(f"/systems/{BEACON}/bench", body, "repeat-after-kill")
        self.server.kill()
        self.server.start()
        self.call(f"/systems/{BEACON}/bench", body, "repeat-after-kill")
        self.assertEqual(self.rows("SELECT count(*) FROM entry WHERE command = 'repeat-after-kill'"), [(1,)])

    def start_run(self) -> int:
        wish = self.call(f"/systems/{BEACON}/change")["wish"]
        self.call(f"/systems/{BEACON}/change/plans", {**wish, "replace": True})
        tasks = self.call("/rota")["lanes"][0]["tasks"]
        return int(self.call("/runs", {"step_id": next(task["step_id"] for task in tasks if task["step_id"])})["id"])

    def test_in_the_middle_of_a_runbook(self) -> None:
        run = self.start_run()
        path = f"/runs/{run}/answers"
        self.call(path, {"step": "look", "kind": "done"})
        self.call(path, {"step": "batch", "kind": "measured", "item": "salinity", "text": "36.1"})
        self.server.kill()
        self.server.start()
        current = self.call(f"/runs/{run}")["current"]
        self.assertEqual(current["id"], "batch")
        self.assertEqual(next(line["text"] for line in current["gate"] if line["parameter"] == "salinity"), "36.1")
        self.call(path, {"step": "batch", "kind": "override", "text": "measured by another pen"})
        self.call(path, {"step": "batch", "kind": "done"})
        for item in [item["key"] for item in self.call(f"/runs/{run}")["current"]["items"]]:
            self.call(path, {"step": "off", "kind": "tick", "item": item})
        self.call(path, {"step": "off", "kind": "done"})
        self.call(path, {"step": "drain", "kind": "litres", "text": "15"})
        self.server.kill()
        self.server.start()
        now = self.call(f"/runs/{run}")
        self.assertEqual((now["current"]["id"], now["current"]["litres"]["total"]), ("drain", 15))
        self.assertEqual(len(now["still_off"]), 6)
        self.assertEqual(
            self.rows("SELECT count(*) FROM change JOIN entry ON id = entry_id WHERE at > '2026-11-24T17:39'"), [(0,)]
        )

    def test_in_the_moment_of_finishing_it_is_all_there_or_not_at_all(self) -> None:
        run = self.start_run()
        path = f"/runs/{run}/answers"
        self.call(path, {"step": "look", "kind": "done"})
        self.call(path, {"step": "batch", "kind": "override", "text": "for the test of the kill"})
        self.call(path, {"step": "batch", "kind": "done"})
        items = [item["key"] for item in self.call(f"/runs/{run}")["current"]["items"]]
        for step, litres in (("off", ""), ("drain", "40"), ("refill", "40"), ("on", "")):
            for item in items if not litres else []:
                self.call(path, {"step": step, "kind": "tick", "item": item})
            if litres:
                self.call(path, {"step": step, "kind": "litres", "text": litres})
            self.call(path, {"step": step, "kind": "done"})
        self.call(path, {"step": "dose", "kind": "done"})
        last = threading.Thread(target=self.say_last, args=(path,))
        last.start()
        sleep(0.004)
        self.server.kill()
        last.join()
        ((ended,),) = self.rows("SELECT ended_at IS NOT NULL FROM run WHERE id = ?", run)
        kinds = sorted(row[0] for row in self.rows("SELECT kind FROM entry WHERE command = 'the-last-word'"))
        self.assertEqual(kinds, ["care", "change", "dose"] if ended else [])
        self.server.start()
        if not ended:
            self.call(path, {"step": "again", "kind": "done"}, "the-last-word")
        self.assertTrue(self.call(f"/runs/{run}")["ended"])
        self.assertEqual(len(self.rows("SELECT id FROM entry WHERE command = 'the-last-word'")), 3)

    def say_last(self, path: str) -> None:
        try:
            self.call(path, {"step": "again", "kind": "done"}, "the-last-word")
        except (OSError, urllib.error.URLError, ValueError):
            return

    def kill_after(self, work: Callable[[], None], confirmed: list[str], enough: int) -> None:
        """Let work go on until so much of it is confirmed, then kill the server under it."""
        thread = threading.Thread(target=work)
        thread.start()
        for _ in range(1000):
            if len(confirmed) >= enough:
                break
            sleep(0.01)
        self.server.kill()
        thread.join()

    def test_pictures_that_were_confirmed_are_there_and_every_row_has_its_files(self) -> None:
        confirmed: list[str] = []
        data = picture(size=(1600, 1200))

        def bring() -> None:
            for number in count():
                key = f"kill-picture-{number:04d}"
                url = f"{self.server.url}/api/systems/{BEACON}/pictures?subject=corner{number}"
                request = urllib.request.Request(url, data + bytes([number % 251]), {"Idempotency-Key": key})
                try:
                    with urllib.request.urlopen(request, timeout=20) as answer:
                        json.load(answer)
                except (OSError, ValueError):
                    return
                confirmed.append(key)

        self.kill_after(bring, confirmed, 3)
        kept = self.rows("SELECT command, digest FROM picture WHERE command LIKE 'kill-picture-%'")
        self.assertLessEqual(set(confirmed), {command for command, _ in kept})
        folder = self.server.database.with_name("copy.pictures")
        for command, digest in kept:
            for ending in (".jpg", ".thumb.jpg"):
                with self.subTest(command=command, ending=ending):
                    self.assertGreater((folder / f"{digest}{ending}").stat().st_size, 500)
        self.server.start()
        self.call(f"/systems/{BEACON}/pictures")

    def test_a_jotted_line_is_kept_whole_or_not_at_all(self) -> None:
        confirmed: list[str] = []
        line = {"text": "topped off 2 l, fed 2 frozen mysids, alk 7.4, lost 1 mushroom", "system_id": BEACON}

        def jot() -> None:
            for number in count():
                key = f"kill-jot-{number:04d}"
                try:
                    self.call("/jot/record", {**line, "confirmed": True}, key)
                except (OSError, ValueError):
                    return
                confirmed.append(key)

        self.kill_after(jot, confirmed, 4)
        kept = dict(self.rows("SELECT command, count(*) FROM entry WHERE command LIKE 'kill-jot-%' GROUP BY 1"))
        self.assertLessEqual(set(confirmed), set(kept))
        self.assertEqual(set(kept.values()), {4})
        turns = self.rows("SELECT count(*) FROM animal_turn WHERE command LIKE 'kill-jot-%'")
        self.assertEqual(turns, [(len(kept),)])
