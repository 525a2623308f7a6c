"""Find anything by its words; remarks on entries, found again and undone."""

from __future__ import annotations

from typing import Any

from tests.api.base import BEACON, EELGRASS, ApiTest


class Search(ApiTest):
    def titles(self, text: str, system: int = BEACON) -> list[str]:
        return [hit["title"] for hit in self.find(text, system)]

    def find(self, text: str, system: int = BEACON) -> list[dict[str, Any]]:
        return list(self.get(f"/search?text={text}&system_id={system}"))

    def test_by_the_beginning_of_any_word_the_nearest_first(self):
        self.assertEqual(self.titles("eelg")[0], "Eelgrass")
        self.assertIn("Empty the skimmer cup", self.titles("skimmer"))
        self.assertIn("Kittiwake Standard", self.titles("standard"))
        self.assertIn("Alkalinity", self.titles("alk"))
        self.assertEqual(self.titles("kimmer"), [])

    def test_what_belongs_to_the_system_at_hand_comes_first(self):
        for system, name in ((BEACON, "Beacon"), (EELGRASS, "Eelgrass")):
            scrapes = [hit for hit in self.find("scrape the front", system) if hit["kind"] == "task"]
            self.assertEqual((scrapes[0]["detail"], scrapes[0]["system_id"]), (name, system))

    def test_every_word_must_be_there(self):
        self.assertEqual({hit["detail"] for hit in self.find("cup beacon") if hit["kind"] == "task"}, {"Beacon"})
        self.assertEqual(self.titles("cup nowhere"), [])

    def test_nothing_typed_and_odd_signs_find_nothing(self):
        for text in ("", "   ", "%25", "_", "%5C", "'%3B--"):
            with self.subTest(text=text):
                self.assertEqual(self.find(text), [])

    def test_a_remark_is_kept_found_and_undone(self):
        row = self.get(f"/systems/{BEACON}/record")[0]
        self.post(f"/record/entries/{row['id']}/remarks", {"text": "  limpets on  the left corner "}, "remark-key-0001")
        self.assertEqual(self.get(f"/systems/{BEACON}/record")[0]["remarks"], ["limpets on the left corner"])
        hit = next(one for one in self.find("limpets") if one["kind"] == "entry")
        self.assertEqual((hit["key"], hit["system_id"], hit["day"]), (str(row["id"]), BEACON, "2026-11-24"))
        self.assertIn("limpets on the left corner", hit["detail"])
        self.post("/record/remark-key-0001/undo", {})
        self.assertEqual(self.get(f"/systems/{BEACON}/record")[0]["remarks"], [])
        self.assertEqual(self.find("limpets"), [])

    def test_a_note_and_the_reason_of_a_skip_are_found(self):
        self.post("/jot/record", {"text": "note: bryozoans under the overhang", "system_id": BEACON})
        self.assertEqual([hit["kind"] for hit in self.find("bryozoans overhang")], ["entry"])

    def test_what_was_undone_is_not_found(self):
        self.post("/jot/record", {"text": "note: bryozoans here", "system_id": BEACON}, "note-key-00001")
        self.post("/record/note-key-00001/undo", {})
        self.assertEqual(self.find("bryozoans"), [])

    def test_refusals_of_remarks(self):
        row = self.get(f"/systems/{BEACON}/record")[0]
        self.refused(f"/record/entries/{row['id']}/remarks", {"text": "  "}, "text")
        self.refused(f"/record/entries/{row['id']}/remarks", {"text": "x" * 501}, "text")
        self.assertEqual(self.send("/record/entries/987654321/remarks", {"text": "lost"}).status_code, 404)
