"""One act, one record: what is done leaves the same behind from every door, for whatever day, and is undone exactly."""

from __future__ import annotations

import re
import sqlite3
from collections import Counter
from collections.abc import Callable
from typing import Any

from salttide.core.planning.work_order import PlannedWork, VisualCheckOrder
from salttide.store import change as change_store
from tests.api.base import BEACON, NOW, SKIFF, ApiTest

BESIDE = {
    "command", "placing_before", "report", "page_token", "away", "hand_over", "memo", "sqlite_sequence", "sqlite_stat1",
}  # fmt: skip
"""Tables of the doors themselves, not of what was done."""
OF_THE_DOOR = {"id", "command", "recorded_at", "entry_id", "uid"}
"""Columns that say which door and when, not what."""
MARKS = {"used_by", "done_command", "withdrawn_by", "first_by"}
"""Columns that hold the command which closed something: that it is closed is compared, not by which."""


def plain(value: Any) -> Any:
    """A value to twelve digits: 66.2 mL of a stock are the same dose whether they were computed or typed."""
    if isinstance(value, str):
        return re.sub(r"\d+\.\d{6,}", lambda found: f"{float(found[0]):.12g}", value)
    return float(f"{value:.12g}") if isinstance(value, float) else value


def contents(connection: sqlite3.Connection) -> dict[str, list[tuple[Any, ...]]]:
    """Every table, but for what tells the door; of the append-only record what counts."""
    named = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'").fetchall()
    counts = {row[0] for row in connection.execute("SELECT id FROM effective")}
    found = {}
    for (name,) in ((row[0],) for row in named):
        if name in BESIDE or name.startswith("sqlite_"):
            continue
        rows = connection.execute(f"SELECT * FROM {name}").fetchall()
        columns = rows[0].keys() if rows else []
        entry = "id" if name == "entry" else "entry_id" if "entry_id" in columns else None
        live = [row for row in rows if entry is None or row[entry] in counts]
        kept = [column for column in columns if column not in OF_THE_DOOR]
        told = [tuple((row[c] is not None) if c in MARKS else plain(row[c]) for c in kept) for row in live]
        found[name] = sorted(told, key=repr)
    return found


class Acts(ApiTest):
    def first(self, task: str, system: int = BEACON, step: bool = False) -> dict[str, Any]:
        lanes = self.get("/rota?days=42")["lanes"]
        lane = next(lane["tasks"] for lane in lanes if lane["system_id"] == system)
        return next(one for one in lane if one["task"] == task and (one["step_id"] is not None) == step)

    def body(self, task: dict[str, Any], **more: Any) -> dict[str, Any]:
        return {"task": task["task"], "due": task["due"], "step_id": task["step_id"], **more}

    def rota(self, task: dict[str, Any], system: int = BEACON, **more: Any) -> Any:
        return self.post(f"/systems/{system}/care/done", self.body(task, **more))

    def round(self, task: dict[str, Any], system: int = BEACON, when: str = "", **more: Any) -> Any:
        body = {"done": [{"system_id": system, **self.body(task, **more)}], "when": when}
        return self.post("/rota/round/finish", body)

    def line(self, text: str, system: int = BEACON) -> Any:
        return self.post("/jot/record", {"text": text, "system_id": system, "confirmed": True})

    def contents(self) -> dict[str, list[tuple[Any, ...]]]:
        return contents(self.app.state.database.connection)

    def same(self, doors: dict[str, Callable[[], Any]]) -> None:
        """Every door leaves the same behind, and undone nothing."""
        before, first = self.contents(), None
        for name, act in doors.items():
            with self.subTest(door=name):
                self.get("/rota?days=42")  # the days it stands on are those that a page has shown
                kept = act()
                after = self.contents()
                self.assertNotEqual(after["entry"], before["entry"])
                self.assert_equal(after, first or after)
                first = first or after
                self.post(f"/record/{kept['command']}/undo", None)
                self.assert_equal(self.contents(), before)

    def assert_equal(self, found: dict[str, list[tuple[Any, ...]]], expected: dict[str, list[tuple[Any, ...]]]) -> None:
        for table in found.keys() | expected.keys():
            ours, theirs = Counter(found[table]), Counter(expected[table])
            self.assertEqual(([*(ours - theirs)], [*(theirs - ours)]), ([], []), table)

    def setUp(self) -> None:
        super().setUp()
        self.get("/rota?days=42")


class Doors(Acts):
    def test_a_task(self) -> None:
        cup = self.first("skimmer_cup")
        self.same(
            {
                "rota": lambda: self.rota(cup),
                "round": lambda: self.round(cup),
                "quick entry": lambda: self.line("emptied the cup"),
            }
        )

    def test_a_task_the_keeper_had_moved(self) -> None:
        task = self.first("siphon")
        self.post(f"/systems/{BEACON}/care/move", self.body(task, day=task["latest"]))
        self.same(
            {
                "rota": lambda: self.rota(task),
                "round": lambda: self.round(task),
                "quick entry": lambda: self.line("siphoned"),
            }
        )

    def test_a_task_that_was_split(self) -> None:
        task = self.first("siphon")
        self.post(f"/systems/{BEACON}/care/split", self.body(task, minutes="4", day=task["latest"]))
        line = self.line("siphoned")
        (used,) = self.rows("SELECT used_by FROM care_split")
        self.assertEqual(used, (line["command"],))

    def test_the_part_whose_turn_it_is_is_the_one_done(self) -> None:
        task = self.first("siphon")
        self.assertIn("third", task["zone"])
        self.same({"rota": lambda: self.rota(task), "quick entry": lambda: self.line("siphoned")})

    def test_a_water_change(self) -> None:
        task = self.first("water_change", SKIFF)
        changed = {"litres": "14"}
        self.same(
            {
                "rota": lambda: self.rota(task, SKIFF, changed=changed),
                "round": lambda: self.round(task, SKIFF, changed=changed),
                "quick entry": lambda: self.line("change 14 l", SKIFF),
            }
        )

    def test_a_planned_dose(self) -> None:
        self.correct()
        dose = self.first("dose", step=True)
        (work,) = self.rows("SELECT json_extract(job, '$.work.ml') FROM plan_step WHERE id = ?", dose["step_id"])
        self.same(
            {
                "rota": lambda: self.rota(dose),
                "round": lambda: self.round(dose),
                "quick entry": lambda: self.line(f"dosed {work[0]!r} ml soda stock"),
            }
        )

    def test_water_swapped_for_fresh(self) -> None:
        url = f"/systems/{SKIFF}/remedies/salinity_first.salinity"
        self.post(url, {"remedy": "fresh"})
        swap = self.first("water", SKIFF, step=True)
        (work,) = self.rows("SELECT json_extract(job, '$.work.in_l') FROM plan_step WHERE id = ?", swap["step_id"])
        self.same(
            {
                "rota": lambda: self.rota(swap, SKIFF),
                "round": lambda: self.round(swap, SKIFF),
                "quick entry": lambda: self.line(f"swapped {work[0]!r} l for fresh water", SKIFF),
            }
        )

    def correct(self) -> None:
        """Put a correction of alkalinity on the rota, its first dose today."""
        offer = self.get(f"/systems/{BEACON}/dosing/correction")
        aim = next(one for one in offer["aims"] if one["parameter"] == "alkalinity")
        one = {"parameter": "alkalinity", "target": "9.2", "additive_id": aim["additive_ids"][0]}
        self.post(f"/systems/{BEACON}/dosing/correction", {"aims": [one], "hours": 24})

    def test_a_planned_change_is_done_by_a_change_that_was_entered_and_not_by_a_splash(self) -> None:
        self.plan_change()
        step = self.first("water_change", step=True)
        self.line("change 3 l")
        self.assertEqual(self.first("water_change", step=True)["step_id"], step["step_id"])
        kept = self.line(step["name"])
        done = "SELECT done_command FROM plan_step WHERE id = ?"
        self.assertEqual(self.rows(done, step["step_id"]), [(kept["command"],)])
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.rows(done, step["step_id"]), [(None,)])

    def plan_change(self) -> None:
        request = self.get(f"/systems/{BEACON}/change")["request"]
        self.post(f"/systems/{BEACON}/change/plans", {**request, "replace": True})

    def test_a_check_to_come_back_for_is_done_by_a_visual_check(self) -> None:
        with self.app.state.database.write() as connection:
            order = VisualCheckOrder(NOW.isoformat(), "after the change")
            change_store.add_work(connection, BEACON, "p", [PlannedWork(NOW.date(), "look", "Look again", 5.0, order)])
        kept = self.post(f"/systems/{BEACON}/inspection/checks", {"signs": []})
        self.assertEqual(self.rows("SELECT done_command FROM plan_step"), [(kept["command"],)])


class AnyDay(Acts):
    """What was done yesterday counts as if it had been entered then."""

    def test_every_door_takes_the_day_and_the_time(self) -> None:
        task = self.first("siphon")
        self.same(
            {
                "rota": lambda: self.rota(task, when="yesterday 21:00"),
                "round": lambda: self.round(task, when="2026-11-23 21:00"),
                "quick entry": lambda: self.line("siphoned yesterday 9pm"),
            }
        )

    def test_a_change_of_last_week_moves_the_water_of_then(self) -> None:
        task = self.first("water_change", SKIFF)
        self.rota(task, SKIFF, changed={"litres": "14"}, when="Fri 20 Nov 18:30")
        found = self.rows("SELECT entry.kind, entry.at FROM entry ORDER BY id DESC LIMIT 2")
        self.assertEqual(found, [("care", "2026-11-20T17:30:00Z"), ("change", "2026-11-20T17:30:00Z")])
        # The interval counts from the day it was done.
        self.assertIn("every 7 days, because what is siphoned with the film goes out with the change", task["why"])
        self.assertEqual(self.first("water_change", SKIFF)["due"], "2026-11-27")

    def test_what_is_still_to_come_or_is_no_time_is_refused_at_its_field(self) -> None:
        task = self.first("siphon")
        path = f"/systems/{BEACON}/care/done"
        for text in ("tomorrow", "Sat 24 Oct and more", "someday", "Mon 24 Nov", "2026-08-01", "25:00"):
            with self.subTest(text=text):
                said = self.refused(path, self.body(task, when=text), "when")
                self.assertTrue(said["accepted"])

    def test_a_session_of_last_week_is_held_against_the_record_of_then(self) -> None:
        body = {"rows": [{"parameter": "alkalinity", "text": "7.4"}], "when": "Sun 15 Nov 20:00"}
        path = f"/systems/{BEACON}/bench"
        answer = self.api.post(f"/api{path}/preview", json=body).json()
        # The test of Sat 14 Nov is the last one before; those of the following week are not held against it.
        self.assertIn("on Sat 14 Nov with titration kit", answer["rows"][0]["verdict"]["reasons"][1])
        self.post(path, {**body, "rows": [{**body["rows"][0], "confirmed": True}]})
        self.assertEqual(
            self.rows("SELECT at FROM entry WHERE kind = 'reading' ORDER BY id DESC LIMIT 1"),
            [("2026-11-15T19:00:00Z",)],
        )

    def test_a_refill_of_yesterday(self) -> None:
        (one,) = [each for each in self.get(f"/systems/{BEACON}/containers")["containers"] if "soda" in each["name"]][
            :1
        ]
        label = str(one["additive_id"])
        body = {"kind": "filled", "ml": 500, "label_id": int(label), "when": "yesterday 20:00"}
        self.post(f"/systems/{BEACON}/containers/{one['id']}/events", body)
        self.assertEqual(
            self.rows("SELECT at FROM container_event ORDER BY id DESC LIMIT 1"), [("2026-11-23T19:00:00Z",)]
        )


class LastDone(Acts):
    def test_the_next_one_counts_from_the_day_remembered(self) -> None:
        kept = self.post(f"/systems/{SKIFF}/care/heater_check/last", {"day": "2026-11-20"})
        # Every thirty days.
        self.assertEqual(self.first("heater_check", SKIFF)["due"], "2026-12-20")
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.first("heater_check", SKIFF)["due"], "2026-12-01")

    def test_a_water_change_remembered_moves_no_water_and_asks_for_none(self) -> None:
        count = self.rows("SELECT count(*) FROM effective WHERE kind = 'change'")
        self.post(f"/systems/{SKIFF}/care/water_change/last", {"day": "2026-11-22"})
        self.assertEqual(self.rows("SELECT count(*) FROM effective WHERE kind = 'change'"), count)
        self.assertEqual(self.get(f"/systems/{SKIFF}/changed")["incomplete"], [])

    def test_a_day_to_come_and_no_day_are_refused(self) -> None:
        for day in ("2026-11-25", "someday", ""):
            self.refused(f"/systems/{SKIFF}/care/heater_check/last", {"day": day}, "day")
        self.assertEqual(self.send(f"/systems/{SKIFF}/care/nothing/last", {"day": "2026-11-20"}).status_code, 404)
