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
        request = self.call(f"/systems/{BEACON}/change")["request"]
        self.call(f"/systems/{BEACON}/change/plans", {**request, "replace": True})
        tasks = self.call("/rota")["lanes"][0]["tasks"]
        return int(self.call("/runs", {"step_id": next(task["step_id"] for task in tasks if task["step_id"])})["id"])

    def say(self, run: int, step: str, kind: str, item: str = "", text: str = "", key: str | None = None) -> Any:
        return self.call(f"/runs/{run}/answers", {"step": step, "kind": kind, "item": item, "text": text}, key)

    def do(self, run: int, step: dict[str, Any], last: str | None = None) -> Any:
        """Everything that a step asks for, and that it is done; a step that waits is passed with a reason."""
        if step["kind"] in ("gate", "measure"):
            self.say(run, step["id"], "measured", "temperature", "25.3")
        if step["timer"]:
            self.say(run, step["id"], "timer")
        if step["kind"] in ("gate", "measure") or (step["timer"] and step["timer"]["waits"]):
            self.say(run, step["id"], "override", text="for the test of the kill")
        for item in step["items"]:
            self.say(run, step["id"], "tick", item["key"])
        if step["litres"]:
            self.say(run, step["id"], "litres", text="40")
        return self.say(run, step["id"], "done", key=last)

    def now_at(self, run: int) -> dict[str, Any]:
        """Where the work stands, without the clock."""
        return {key: value for key, value in self.call(f"/runs/{run}").items() if key != "now"}

    def test_at_every_step_of_a_runbook_it_goes_on_where_it_was_with_its_timers(self) -> None:
        run, steps, timed = self.start_run(), 0, 0
        while (here := self.call(f"/runs/{run}"))["current"]:
            step = next(one for one in here["open"] if one["id"] == here["current"])
            if step["timer"]:
                self.say(run, step["id"], "timer")
            before = self.now_at(run)
            timed += len(before["timers"])
            self.server.kill()
            self.server.start()
            self.assertEqual(self.now_at(run), before, f"killed at {step['id']}")
            self.assertEqual(self.rows("SELECT count(*) FROM entry WHERE command = 'the-last-word'"), [(0,)])
            again = next(one for one in self.call(f"/runs/{run}")["open"] if one["id"] == step["id"])
            steps += 1
            self.do(run, again, "the-last-word" if steps == here["count"] else None)
        self.assertEqual(steps, here["count"])
        self.assertGreaterEqual(timed, 2)
        self.server.kill()
        self.server.start()
        kinds = sorted(row[0] for row in self.rows("SELECT kind FROM entry WHERE command = 'the-last-word'"))
        self.assertEqual(kinds, ["care", "care", "change", "dose"])
        self.assertEqual(self.rows("SELECT count(*) FROM plan_step WHERE plan = 'the-last-word'"), [(1,)])

    def test_in_the_moment_of_finishing_it_is_all_there_or_not_at_all(self) -> None:
        run = self.start_run()
        while (here := self.call(f"/runs/{run}"))["number"] < here["count"]:
            self.do(run, here["open"][0])
        last = threading.Thread(target=self.say_last, args=(run, here["current"]))
        last.start()
        sleep(0.004)
        self.server.kill()
        last.join()
        ((ended,),) = self.rows("SELECT ended_at IS NOT NULL FROM run WHERE id = ?", run)
        kinds = sorted(row[0] for row in self.rows("SELECT kind FROM entry WHERE command = 'the-last-word'"))
        self.assertEqual(kinds, ["care", "care", "change", "dose"] if ended else [])
        self.server.start()
        self.say_last(run, here["current"])
        self.assertTrue(self.call(f"/runs/{run}")["ended"])
        self.assertEqual(len(self.rows("SELECT id FROM entry WHERE command = 'the-last-word'")), 4)

    def say_last(self, run: int, step: str) -> None:
        try:
            self.say(run, step, "done", key="the-last-word")
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
