"""The plan in place: what comes of a move, of work added or taken off, and the same once it is done."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from salttide.core.science.units import DKH_PER_MEQ_L
from tests.api.base import BEACON, SKIFF, ApiTest

TODAY = date(2026, 11, 24)


def day(ahead: int) -> str:
    return (TODAY + timedelta(days=ahead)).isoformat()


class Preview(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        # Enough time on every day: work stands on the day it is due.
        self.send("/rota/minutes", {"week": [300] * 7}, method="PUT")
        self.post("/rota/rebalance", None)

    def tried(self, system: int = BEACON, **body: Any) -> dict[str, Any]:
        strips = self.post(f"/systems/{system}/plan/preview", {"ahead": 14, **body})["strips"]
        return {strip["parameter"]: strip for strip in strips}

    def expected(self, system: int = BEACON) -> dict[str, Any]:
        strips = self.get(f"/systems/{system}/sheet?ahead=14")["strips"]
        return {strip["parameter"]: strip["expected"] for strip in strips if strip["expected"]}

    def change(self) -> dict[str, Any]:
        lanes = {lane["task"]: lane for lane in self.get(f"/systems/{BEACON}/sheet?ahead=14")["lanes"]}
        mark = next(mark for mark in lanes["water_change"]["marks"] if mark["state"] in ("due", "late"))
        return {key: mark[key] for key in ("task", "due", "step_id")}

    def test_nothing_tried_is_the_plan_as_it_stands(self):
        tried, stands = self.tried(), self.expected()
        self.assertEqual(set(tried), set(stands))
        for parameter, points in stands.items():
            self.assertAlmostEqual(tried[parameter]["expected"][-1]["value"], points[-1]["value"], places=9)

    def test_a_moved_change_moves_its_step_and_what_follows(self):
        moved = self.tried(moved=[{**self.change(), "day": day(2)}])
        steps = [part["at"][:10] for part in moved["nitrate"]["parts"]]
        # The next one counts from the moved one: due on day 9, fine from 7 to 12.
        self.assertEqual(steps[0], day(2))
        self.assertTrue(day(7) <= steps[1] <= day(12))
        # Moved far, it takes the next one along: due on day 15, fine from 13.
        later = self.tried(moved=[{**self.change(), "day": day(8)}], ahead=22)["nitrate"]["parts"]
        self.assertEqual(later[0]["at"][:10], day(8))
        self.assertGreaterEqual(later[1]["at"][:10], day(13))
        stands = self.tried()
        self.assertNotEqual(moved["nitrate"]["expected"][-1]["value"], stands["nitrate"]["expected"][-1]["value"])

    def test_a_move_that_is_made_gives_what_was_tried(self):
        item = self.change()
        tried = self.tried(moved=[{**item, "day": day(2)}])
        self.post(f"/systems/{BEACON}/care/move", {**item, "day": day(2)})
        for parameter, points in self.expected().items():
            self.assertAlmostEqual(points[-1]["value"], tried[parameter]["expected"][-1]["value"], places=9)

    def test_a_change_left_out_leaves_its_step_out(self):
        parts = self.tried(gone=[self.change()])["nitrate"]["parts"]
        self.assertEqual(len(parts), len(self.tried()["nitrate"]["parts"]) - 1)

    def test_a_dose_that_is_tried_raises_by_its_mass(self):
        # 10 g of Na2CO3 are 10/105.988*2000 = 188.7 meq, in 334 L 0.565 meq/L = 1.58 dKH; on the last day.
        dose = {"kind": "dose", "day": day(13), "additive_id": self.additive("soda ash"), "amount": "10 g"}
        answer = self.post(f"/systems/{BEACON}/plan/preview", {"ahead": 14, "added": [dose]})
        strip = next(one for one in answer["strips"] if one["parameter"] == "alkalinity")
        raised = strip["expected"][-1]["value"] - self.expected()["alkalinity"][-1]["value"]
        self.assertAlmostEqual(raised, 10 / 105.988 * 2000 / 334 * DKH_PER_MEQ_L, delta=0.01)
        self.assertIn("more than the 1.0 dKH of a whole day", answer["doubts"][0])

    def test_a_change_that_is_tried_takes_the_place_of_a_routine_one(self):
        parts = self.tried(added=[{"kind": "change", "day": day(1), "percent": 20}])["nitrate"]["parts"]
        # The routine one counts from it: due on day 8, fine from 6 to 11.
        self.assertEqual(parts[0]["at"][:10], day(1))
        self.assertTrue(day(6) <= parts[1]["at"][:10] <= day(11))

    def test_only_what_is_looked_at_is_reckoned(self):
        self.assertEqual(list(self.tried(parameters=["nitrate"])), ["nitrate"])

    def test_a_year_ahead(self):
        strip = self.tried(ahead=365)["alkalinity"]
        self.assertGreater(len(strip["expected"]), 365)
        widths = [point["high"] - point["low"] for point in strip["expected"]]
        self.assertGreater(widths[-1], widths[0])

    def test_what_is_impossible_is_refused_at_its_field(self):
        dose = {"kind": "dose", "day": day(1), "additive_id": self.additive("soda ash")}
        for work, field in (
            ({"kind": "change", "day": day(1), "percent": 60}, "added.0.percent"),
            ({"kind": "change", "day": day(-1)}, "added.0.day"),
            ({**dose, "additive_id": 999, "amount": "4 g"}, "added.0.additive_id"),
            ({**dose, "amount": "four"}, "added.0.amount"),
            ({**dose, "amount": "40"}, "added.0.amount"),
        ):
            with self.subTest(work=work):
                self.refused(f"/systems/{BEACON}/plan/preview", {"added": [work]}, field)

    def additive(self, name: str) -> int:
        offered = self.get(f"/systems/{BEACON}/plan/offer")["additives"]
        return next(one["id"] for one in offered if name in one["name"])


class Planned(Preview):
    def dose(self, amount: str = "3 g", **more: Any) -> dict[str, Any]:
        return {"kind": "dose", "day": day(2), "additive_id": self.additive("soda ash"), "amount": amount, **more}

    def test_a_planned_dose_stands_on_rota_and_sheet_and_is_recorded_when_done(self):
        self.post(f"/systems/{BEACON}/plan/doses", self.dose())
        lane = next(one for one in self.get(f"/systems/{BEACON}/sheet")["lanes"] if one["task"] == "dose")
        (mark,) = [mark for mark in lane["marks"] if mark["state"] == "planned"]
        self.assertEqual(mark["at"][:10], day(2))
        item = {key: mark[key] for key in ("task", "due", "step_id")}
        self.post(f"/systems/{BEACON}/care/done", item)
        row = self.get(f"/systems/{BEACON}/record?limit=1")[0]
        self.assertEqual((row["kind"], row["words"]), ("dose", "Dose"))
        self.assertTrue(row["detail"].startswith("3.00 g soda ash"), row["detail"])

    def test_one_that_is_too_much_is_asked_about_and_taken_where_it_is_right(self):
        said = self.refused(f"/systems/{BEACON}/plan/doses", self.dose("30 g"), "amount")
        self.assertIn("Is it right?", said["message"])
        self.post(f"/systems/{BEACON}/plan/doses", self.dose("30 g", although=True))

    def test_a_step_is_taken_off_and_put_back(self):
        self.post(f"/systems/{BEACON}/plan/doses", self.dose())
        step = self.rows("SELECT max(id) FROM plan_step")[0][0]
        gone = self.post(f"/systems/{BEACON}/plan/steps/{step}/withdraw", {})
        self.assertEqual(self.send(f"/systems/{BEACON}/plan/steps/{step}/withdraw", {}).status_code, 409)
        self.post(f"/record/{gone['command']}/undo", {})
        self.assertEqual(self.rows("SELECT withdrawn_by FROM plan_step WHERE id = ?", step), [(None,)])
        self.assertEqual(self.send(f"/systems/{SKIFF}/plan/steps/{step}/withdraw", {}).status_code, 404)
