"""A water change is one act from whichever door: the balance and the rota follow, and undo takes both back."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from salttide.core.ledger.entries import Care
from salttide.store.ledger import record
from tests.api.base import BEACON, NOW, SKIFF, ApiTest, session

LITRES = {"litres": "40", "salinity": "35.0"}


class ChangedTest(ApiTest):
    def due(self, system: int = BEACON) -> dict[str, Any]:
        lanes = {lane["system_id"]: lane["tasks"] for lane in self.get("/rota?days=42")["lanes"]}
        return next(task for task in lanes[system] if task["task"] == "water_change")

    def body(self, task: dict[str, Any], **more: Any) -> dict[str, Any]:
        return {"task": task["task"], "due": task["due"], "step_id": task["step_id"], **more}

    def nitrate(self) -> float:
        strips = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}
        return float(strips["nitrate"]["present"]["value"])


class Doors(ChangedTest):
    def test_every_door_records_the_water_and_the_task_and_undo_takes_back_both(self) -> None:
        self.post(f"/systems/{BEACON}/bench", session(nitrate="20"))
        before = self.due()
        task = self.body(before)
        doors = {
            "rota": (f"/systems/{BEACON}/care/done", {**task, "changed": LITRES}),
            "round": ("/rota/round/finish", {"done": [{"system_id": BEACON, "task": "water_change",
                                                       "due": before["due"], "changed": LITRES}]}),
            "quick entry": ("/jot/record", {"text": "changed 40 l", "system_id": BEACON}),
        }  # fmt: skip
        # Clean water: 20 x (1 - 40/334.05) = 17.605.
        for door, (path, body) in doors.items():
            with self.subTest(door=door):
                kept = self.post(path, body)
                self.assertAlmostEqual(self.nitrate(), 20 * (1 - 40 / 334.05), delta=0.01)
                self.assertGreater(self.due()["due"], before["due"])
                self.post(f"/record/{kept['command']}/undo", None)
                self.assertAlmostEqual(self.nitrate(), 20.0, delta=0.01)
                self.assertEqual(self.due(), before)

    def test_without_its_litres_it_is_asked_for_at_the_field_and_nothing_is_recorded(self) -> None:
        task, count = self.body(self.due()), self.rows("SELECT count(*) FROM entry")
        path = f"/systems/{BEACON}/care/done"
        self.refused(path, task, "changed.litres")
        self.refused(path, {**task, "changed": {"litres": "400"}}, "changed.litres")
        self.refused(path, {**task, "changed": {"litres": "40", "salinity": "1.025"}}, "changed.salinity")
        self.refused(path, {**task, "changed": {"litres": "40", "salt_id": 99}}, "changed.salt_id", 404)
        done = {"system_id": BEACON, "task": "water_change", "due": task["due"]}
        self.refused("/rota/round/finish", {"done": [done]}, "done.0.changed.litres")
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), count)

    def test_what_came_in_is_what_was_said(self) -> None:
        body = {"litres": "40", "water": "natural", "salinity": "33.0"}
        kept = self.post(f"/systems/{BEACON}/care/done", self.body(self.due(), changed=body))
        ((incoming,),) = self.rows(
            "SELECT incoming FROM change JOIN entry ON entry.id = entry_id WHERE command = ?", kept["command"]
        )
        self.assertIn('"salinity":33.0', incoming)
        offered = self.get(f"/systems/{BEACON}/changed")
        # 12 % of 334.05 L.
        self.assertEqual((offered["litres"], offered["water"]), ("40.1", "mix"))


class Old(ChangedTest):
    def tick(self, days: int) -> None:
        care = Care(NOW - timedelta(days=days), "water_change", 40.0)
        with self.app.state.database.write() as connection:
            record(connection, BEACON, [care], f"old-{days:08d}", NOW)

    def ways(self) -> list[str]:
        return [item["way"] for item in self.get(f"/systems/{BEACON}/sheet")["next"]]

    def test_ticked_changes_without_litres_are_offered_once_and_never_invented(self) -> None:
        self.assertNotIn("complete", self.ways())
        self.tick(2)
        self.tick(1)
        self.assertIn("complete", self.ways())
        first, second = self.get(f"/systems/{BEACON}/changed")["incomplete"]
        kept = self.post(f"/systems/{BEACON}/changed/{first['entry_id']}", LITRES)
        ((at, out_l),) = self.rows(
            "SELECT at, out_l FROM change JOIN entry ON entry.id = entry_id WHERE command = ?", kept["command"]
        )
        self.assertEqual((at[:10], out_l), ("2026-11-22", 40.0))
        self.assertEqual(self.get(f"/systems/{BEACON}/changed")["incomplete"], [second])
        self.refused(f"/systems/{BEACON}/changed/{second['entry_id']}", {"litres": "none"}, "litres")
        left = self.post(f"/systems/{BEACON}/changed/leave", None)
        self.assertNotIn("complete", self.ways())
        self.post(f"/record/{left['command']}/undo", None)
        self.assertIn("complete", self.ways())


class Linked(ChangedTest):
    def missing(self, system: int) -> list[str]:
        return [item["title"] for item in self.get(f"/systems/{system}/sheet")["next"] if "missing" in item["title"]]

    def test_water_taken_for_another_system_is_missing_in_its_own_until_it_is_refilled(self) -> None:
        kept = self.post("/jot/record", {"text": "change 14 l from beacon", "system_id": SKIFF})
        booked = self.rows(
            "SELECT system_id, out_l, in_l FROM change JOIN entry ON entry.id = entry_id WHERE command = ?",
            kept["command"],
        )
        self.assertEqual(sorted(booked), [(BEACON, 14.0, 0.0), (SKIFF, 14.0, 14.0)])
        self.assertEqual(self.missing(BEACON), ["14.0 L are missing"])
        self.assertEqual(self.missing(SKIFF), [])
        self.post("/jot/record", {"text": "refilled 14 l", "system_id": BEACON})
        self.assertEqual(self.missing(BEACON), [])

    def test_undone_it_is_back_in_both(self) -> None:
        kept = self.post("/jot/record", {"text": "change 14 l from beacon", "system_id": SKIFF})
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.missing(BEACON), [])


class UsualSalt(ChangedTest):
    def test_a_salt_that_was_put_away_is_planned_with_nowhere(self) -> None:
        usual = self.get(f"/systems/{BEACON}/change")["request"]["salt_id"]
        request = self.get(f"/systems/{BEACON}/change")["request"]
        with self.app.state.database.write() as connection:
            connection.execute("UPDATE salt SET away = 1 WHERE id = ?", (usual,))
        self.refused(f"/systems/{BEACON}/change/preview", request, "salt_id", 404)
        offered = [
            self.get(f"/systems/{BEACON}/change")["request"]["salt_id"],
            self.get(f"/systems/{BEACON}/changed")["salt_id"],
            self.get("/mix")["body"]["salt_id"],
        ]
        self.assertNotIn(usual, offered)
        self.assertEqual(len({one for one in offered if one is not None}), 1)
