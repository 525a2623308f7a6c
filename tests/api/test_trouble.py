"""Troubles through the API: what the record answers, what a tap changes, and what is refused."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from tests.api.base import BEACON, EELGRASS, SLIPWAY, ApiTest


class Recognised(ApiTest):
    def key(self, system: int, **asked: list[str]) -> Any:
        return self.get(f"/systems/{system}/troubles?{urlencode(asked, doseq=True)}")

    def test_the_visual_check_is_not_asked_again_and_dinoflagellates_are_no_algae(self) -> None:
        # Eelgrass has slimy brown strands and nitrate at nothing in the record.
        found = self.key(EELGRASS)
        self.assertIn(
            ("look", "strands", True), {(o["question"], o["answer"], o["by_record"]) for o in found["answered"]}
        )
        first = found["likely"][0]
        self.assertEqual(first["key"], "dinoflagellates")
        self.assertLessEqual(first["share"], 95)
        self.assertIn("nitrate is at nothing", first["speaks_for"])
        self.assertIn("toxins", first["caution"]["text"])
        self.assertNotEqual(found["ask"]["key"], "look")

    def test_a_young_tanks_brown_dust_is_diatoms(self) -> None:
        self.assertEqual(self.key(SLIPWAY)["likely"][0]["key"], "diatoms")

    def test_what_the_record_says_can_be_set_aside(self) -> None:
        found = self.key(EELGRASS, unlike=["look", "colour"])
        self.assertEqual((found["ask"]["key"], found["likely"], found["apart"]), ("look", [], None))
        said = self.key(EELGRASS, unlike=["look", "colour"], answers=["look:salt"])
        self.assertEqual(said["likely"][0]["key"], "salt_creep")

    def test_a_tap_counts_before_the_record(self) -> None:
        found = self.key(EELGRASS, answers=["look:surface"])
        mine = next(one for one in found["answered"] if one["question"] == "look")
        self.assertEqual((mine["answer"], mine["by_record"]), ("surface", False))

    def test_questions_left_out_are_not_asked_again(self) -> None:
        asked: list[str] = []
        while (ask := self.key(BEACON, answers=["look:film"], skipped=asked)["ask"]) is not None:
            self.assertNotIn(ask["key"], asked)
            asked.append(ask["key"])
        self.assertTrue(asked)

    def test_what_is_no_answer_is_refused(self) -> None:
        for pair in ("look:moon", "moon:look", "nonsense"):
            answer = self.api.get(f"/api/systems/{BEACON}/troubles", params={"answers": pair})
            self.assertEqual(answer.status_code, 422, pair)
            self.assertEqual(answer.json()["fields"][0]["field"], "answers")
