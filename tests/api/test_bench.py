"""A test session through the API."""

from tests.api.base import BEACON, SKIFF, SLIPWAY, ApiTest, confirmed, session


class Bench(ApiTest):
    def test_rows_come_in_the_order_of_testing_with_the_last_value(self):
        rows = self.get(f"/systems/{BEACON}/bench")["rows"]
        names = [row["parameter"] for row in rows]
        self.assertEqual(names[:3], ["temperature", "salinity", "alkalinity"])
        self.assertEqual(rows[1]["instrument"], "refractometer R1")
        self.assertIn("Nov", rows[2]["last"]["day"])
        tested = ["temperature", "salinity", "alkalinity", "calcium", "magnesium", "nitrate", "phosphate", "ph"]
        self.assertEqual(sorted(row["parameter"] for row in rows if row["usual"]), sorted(tested))
        cycling = [row["parameter"] for row in self.get(f"/systems/{SLIPWAY}/bench")["rows"] if row["usual"]]
        self.assertEqual(sorted(cycling), sorted([*tested, "ammonia", "nitrite"]))

    def test_the_preview_judges_and_records_nothing(self):
        before = self.rows("SELECT count(*) FROM entry")
        answer = self.api.post(
            f"/api/systems/{BEACON}/bench/preview", json=session(alkalinity="6.9", calcium="x")
        ).json()
        self.assertIn("below band", answer["rows"][0]["verdict"]["words"])
        self.assertIn("not a number", answer["rows"][1]["problem"]["message"])
        self.assertFalse(answer["ready"])
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), before)

    def test_a_session_is_kept_whole_and_moves_the_verdict(self):
        kept = self.post(f"/systems/{BEACON}/bench", session(alkalinity="8.6", salinity="35.0", nitrate="9"))
        self.assertEqual(kept["words"], "3 results saved for Beacon")
        glance = next(one for one in self.get("/harbour")["systems"] if one["id"] == BEACON)
        alkalinity = next(one for one in glance["parameters"] if one["parameter"] == "alkalinity")
        self.assertEqual((alkalinity["text"], alkalinity["verdict"]["position"]), ("8.6", "in_band"))
        self.assertEqual(glance["standing"], "all in band")

    def test_each_unit_is_converted_at_the_edge(self):
        # 2.9 meq/L; SG 1.0264 at 25/25 is 35.0 ppt.
        body = {"rows": [{"parameter": "alkalinity", "text": "2.9", "unit": "meq/L"},
                         {"parameter": "salinity", "text": "1.0264", "unit": "SG 25/25"}]}  # fmt: skip
        self.post(f"/systems/{BEACON}/bench", body)
        stored = dict(self.rows("SELECT parameter, value FROM reading ORDER BY entry_id DESC LIMIT 2"))
        self.assertAlmostEqual(stored["alkalinity"], 2.9)
        self.assertAlmostEqual(stored["salinity"], 35.04, delta=0.02)

    def test_a_repeated_request_records_once(self):
        before = self.rows("SELECT count(*) FROM entry")[0][0]
        for _ in range(3):
            self.post(f"/systems/{BEACON}/bench", session(ph="8.1"), key="same-key-123")
        self.assertEqual(self.rows("SELECT count(*) FROM entry")[0][0], before + 1)

    def test_taking_a_session_back_restores_the_present_and_keeps_the_ledger(self):
        before = self.get(f"/systems/{BEACON}/sheet")["strips"]
        count = self.rows("SELECT count(*) FROM entry")[0][0]
        kept = self.post(f"/systems/{BEACON}/bench", confirmed(alkalinity="9.4"))
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.get(f"/systems/{BEACON}/sheet")["strips"], before)
        self.assertEqual(self.rows("SELECT count(*) FROM entry")[0][0], count + 2)
        self.assertTrue(
            next(row for row in self.get(f"/systems/{BEACON}/record") if row["command"] == kept["command"])["gone"]
        )
        again = self.send(f"/record/{kept['command']}/undo", None)
        self.assertEqual(again.status_code, 404)

    def test_a_corrected_reading_supersedes_and_keeps_the_old_one(self):
        self.post(f"/systems/{BEACON}/bench", confirmed(alkalinity="9.2"))
        row = next(row for row in self.get(f"/systems/{BEACON}/record") if row["kind"] == "reading")
        self.assertEqual(
            self.refused(f"/record/readings/{row['id']}/correct", {"text": "350"}, "text")["accepted"], "0 to 28 dKH"
        )
        self.post(f"/record/readings/{row['id']}/correct", {"text": "8.2"})
        strip = next(one for one in self.get(f"/systems/{BEACON}/sheet")["strips"] if one["parameter"] == "alkalinity")
        self.assertEqual(strip["present"]["text"], "8.2")
        self.assertEqual(self.rows("SELECT count(*) FROM reading WHERE entry_id = ?", row["id"]), [(1,)])
        self.assertEqual(self.send(f"/record/readings/{row['id']}/correct", {"text": "8.1"}).status_code, 409)


class BadInput(ApiTest):
    def test_each_is_refused_at_its_row_with_what_would_be_accepted(self):
        cases = [
            ("salinity", "350", "0 to 45 ppt"),
            ("alkalinity", "1,025", "two ways"),
            ("alkalinity", "8.2 kg", "dKH"),
            ("calcium", "four hundred", "a number"),
            ("ph", "-1", "5 to 10.5"),
        ]
        for parameter, text, accepted in cases:
            with self.subTest(text=text):
                said = self.refused(f"/systems/{BEACON}/bench", session(**{parameter: text}), parameter)
                self.assertIn(accepted, said["accepted"] + said["message"])

    def test_an_empty_form(self):
        self.refused(f"/systems/{BEACON}/bench", session(calcium=" "), "rows")
        self.refused(f"/systems/{BEACON}/bench", {}, "rows")

    def test_one_wrong_row_keeps_none(self):
        before = self.rows("SELECT count(*) FROM entry")
        self.refused(f"/systems/{BEACON}/bench", session(alkalinity="8.2", salinity="350"), "salinity")
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), before)

    def test_an_unlikely_value_is_asked_about_before_it_is_kept(self):
        self.refused(f"/systems/{SKIFF}/bench", session(calcium="700"), "calcium")
        body = session(calcium="700")
        body["rows"][0]["confirmed"] = True
        self.post(f"/systems/{SKIFF}/bench", body)

    def test_a_body_that_is_not_json(self):
        headers = {"Idempotency-Key": "key-12345678", "Content-Type": "application/json"}
        answer = self.api.post(f"/api/systems/{BEACON}/bench", content="{rows:", headers=headers)
        self.assertEqual((answer.status_code, answer.json()["detail"]), (422, "the body is not JSON"))

    def test_unknown_fields_systems_and_paths(self):
        self.refused(f"/systems/{BEACON}/bench", {"rows": [], "extra": 1}, "extra")
        self.assertEqual(self.send("/systems/99/bench", session(ph="8.1")).status_code, 404)
        self.assertEqual(self.api.get("/api/nowhere").status_code, 404)

    def test_a_command_without_a_key(self):
        answer = self.api.post(f"/api/systems/{BEACON}/bench", json=session(ph="8.1"))
        self.assertEqual(answer.json()["fields"][0]["field"], "Idempotency-Key")

    def test_a_correction_that_cannot_be_read_is_refused_at_its_field(self) -> None:
        ((entry,),) = self.rows("SELECT max(id) FROM entry WHERE kind = 'reading'")
        for text in ("1e9", "8.2 furlongs", "-5"):
            with self.subTest(text=text):
                self.refused(f"/record/readings/{entry}/correct", {"text": text}, "text")
