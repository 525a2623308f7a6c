"""What a command changed in several places is taken back in all of them."""

from __future__ import annotations

import json
from typing import Any

from tests.api.base import BEACON, EELGRASS, SLIPWAY, ApiTest, session
from tests.api.test_poison import BODIES


def body_of(path: str) -> Any:
    return next(body for _, known, body in json.loads(BODIES.read_text("utf-8")) if known == path)


class LedBack(ApiTest):
    def void(self, command: str) -> None:
        self.post(f"/record/{command}/undo", {})

    def set_up(self, system: int) -> Any:
        return self.get(f"/systems/{system}")

    def test_the_end_of_breaking_in(self) -> None:
        before = self.set_up(SLIPWAY)
        self.assertEqual(before["stage"], "breaking_in")
        path = f"/systems/{SLIPWAY}/cycling/end"
        done = self.post(path, body_of(path))
        self.assertEqual(self.set_up(SLIPWAY)["stage"], "running")
        self.void(done["command"])
        self.assertEqual(self.set_up(SLIPWAY), before)

    def test_a_routine_that_was_adopted_with_its_salt(self) -> None:
        before, salt = self.set_up(BEACON), self.rows("SELECT salt_id FROM keeper")
        path = f"/systems/{BEACON}/whatif/adopt"
        done = self.post(path, {**body_of(path), "salt_id": 2, "percent": 15.0, "every_days": 5})
        self.assertNotEqual(self.set_up(BEACON), before)
        self.void(done["command"])
        self.assertEqual(self.set_up(BEACON), before)
        self.assertEqual(self.rows("SELECT salt_id FROM keeper"), salt)

    def test_what_is_out_of_bounds_is_refused_at_its_field(self) -> None:
        path = f"/systems/{BEACON}/whatif/adopt"
        self.refused(path, {**body_of(path), "alkalinity": 1e9}, "alkalinity")
        set_up = body_of("/systems/1")
        geometry = {**set_up["geometry"], "bow_cm": 1e9}
        self.refused("/systems/1", {**set_up, "geometry": geometry}, "geometry.bow_cm", method="PUT")

    def test_a_set_up_that_was_edited_since_is_left_alone(self) -> None:
        path = f"/systems/{SLIPWAY}/cycling/end"
        done = self.post(path, body_of(path))
        again = f"/systems/{BEACON}/whatif/adopt"
        adopted = self.post(again, body_of(again))
        self.post(again, {**body_of(again), "percent": 10.0})
        answer = self.send(f"/record/{adopted['command']}/undo", {})
        self.assertEqual(answer.status_code, 409, answer.text)
        self.assertIn("edited since", answer.json()["detail"])
        self.void(done["command"])

    def test_a_correction_corrects_nothing_any_more_and_can_be_made_again(self) -> None:
        self.post(f"/systems/{BEACON}/bench", session(calcium="431"))
        ((entry,),) = self.rows("SELECT max(id) FROM entry WHERE kind = 'reading'")

        def value() -> str:
            rows = self.get(f"/systems/{BEACON}/record?limit=3")
            return str(next(row["words"] for row in rows if row["words"].startswith("Calcium") and not row["gone"]))

        done = self.post(f"/record/readings/{entry}/correct", {"text": "413"})
        self.assertEqual(value(), "Calcium 413 mg/L")
        self.void(done["command"])
        self.assertEqual(value(), "Calcium 431 mg/L")
        ((entry,),) = self.rows("SELECT max(id) FROM entry WHERE kind = 'reading'")
        self.post(f"/record/readings/{entry}/correct", {"text": "421"})
        self.assertEqual(value(), "Calcium 421 mg/L")

    def test_what_a_correction_gave_back_can_be_taken_back_for_good(self) -> None:
        self.post(f"/systems/{BEACON}/bench", session(calcium="431"))
        ((entry,),) = self.rows("SELECT max(id) FROM entry WHERE kind = 'reading'")
        done = self.post(f"/record/readings/{entry}/correct", {"text": "413"})
        self.void(done["command"])
        ((command,),) = self.rows("SELECT command FROM entry WHERE kind = 'reading' ORDER BY id DESC LIMIT 1")
        self.void(command)
        rows = self.get(f"/systems/{BEACON}/record?limit=4")
        self.assertEqual(
            [row["words"] for row in rows[:3]], ["Calcium 431 mg/L", "Calcium 413 mg/L", "Calcium 431 mg/L"]
        )
        self.assertTrue(all(row["gone"] for row in rows[:3]))

    def lanes(self) -> Any:
        return self.get("/rota?days=28")["lanes"]

    def test_a_change_plan_gives_every_task_its_day_back_whatever_was_looked_at_or_done_and_undone_since(self) -> None:
        before = self.lanes()
        plan = body_of(f"/systems/{BEACON}/change/plans")
        for system in (BEACON, EELGRASS, 3):
            with self.subTest(system=system):
                planned = self.post(f"/systems/{system}/change/plans", plan)
                self.assertNotEqual(self.lanes(), before)
                done = self.post(f"/systems/{BEACON}/care/done", body_of(f"/systems/{BEACON}/care/done"))
                self.lanes()
                self.void(done["command"])
                self.void(planned["command"])
                self.assertEqual(self.lanes(), before)

    def test_what_moves_no_work_does_not_stand_between_a_task_and_its_way_back(self) -> None:
        before = self.lanes()
        done = self.post(f"/systems/{BEACON}/care/done", body_of(f"/systems/{BEACON}/care/done"))
        self.assertNotEqual(self.lanes(), before)
        self.post("/rota/calendar/link", None)
        self.void(done["command"])
        self.assertEqual(self.lanes(), before)
