"""What is not in the record: asked in the judgement, answered with one press, and taken back."""

from tests.api.base import SKIFF, ApiTest

JUDGEMENT = f"/systems/{SKIFF}/judgement"
ANSWER = f"/systems/{SKIFF}/unexplained"


class Unexplained(ApiTest):
    """In the demo somebody dosed Skiff about the end of October and wrote nothing down."""

    def asked(self):
        return next((f["question"] for f in self.get(JUDGEMENT)["findings"] if f["question"]), None)

    def answer(self, how):
        asked = self.asked()
        about = {key: asked[key] for key in ("parameter", "since", "until")}
        return self.post(ANSWER, {**about, "answer": how})

    def test_only_the_rule_about_it_asks(self):
        for finding in self.get(JUDGEMENT)["findings"]:
            self.assertEqual(finding["question"] is not None, finding["rule"] == "unrecorded")

    def test_a_dose_is_recorded_as_it_may_have_been(self):
        words = self.asked()["answers"][0]["words"]
        self.assertRegex(words, r"^It was a dose: [\d.]+ (g|mL) ")
        done = self.answer("dose")
        (dose,) = self.rows(
            "SELECT mass_g, amounts ->> '$.alkalinity' FROM dose JOIN effective ON id = entry_id WHERE command = ?",
            done["command"],
        )
        # 1.1 dKH in Skiff came; what the tests make of it is within their error, 0.25 dKH.
        volume = self.rows("SELECT volume_l FROM system_volume WHERE system_id = ? ORDER BY since DESC", SKIFF)[0][0]
        self.assertAlmostEqual(dose[1] / volume * 2.80385, 1.1, delta=0.25)
        self.assertIsNone(self.asked())
        log = self.get(f"/log?system_id={SKIFF}&kind=dose")["rows"][0]
        self.assertIn(log["detail"].split(" ", 2)[-1], words)

    def test_what_nobody_can_name_counts_and_stands_in_the_log(self):
        self.answer("unknown")
        self.assertIsNone(self.asked())
        (row,) = self.get(f"/log?system_id={SKIFF}&kind=unexplained")["rows"]
        self.assertEqual(row["words"], "Not in the record: alkalinity")
        self.assertRegex(row["detail"], r"^\+1\.\d+ dKH$")

    def test_nothing_is_an_answer_too(self):
        self.answer("nothing")
        self.assertIsNone(self.asked())
        (row,) = self.get(f"/log?system_id={SKIFF}&kind=unexplained")["rows"]
        self.assertIn("nothing came", row["detail"])

    def test_taken_back_it_is_asked_again(self):
        before = self.asked()
        done = self.answer("dose")
        self.post(f"/record/{done['command']}/undo", None)
        self.assertEqual(self.asked(), before)

    def test_what_is_not_asked_any_more_cannot_be_answered(self):
        about = {key: self.asked()[key] for key in ("parameter", "since", "until")}
        self.answer("nothing")
        self.assertEqual(self.send(ANSWER, {**about, "answer": "unknown"}).status_code, 409)
        self.refused(ANSWER, {**about, "answer": "perhaps"}, "answer")

    def test_without_anything_on_the_shelf_no_dose_is_offered(self):
        with self.app.state.database.write() as connection:
            connection.execute("UPDATE additive SET away = 1")
        asked = self.asked()
        self.assertEqual([one["answer"] for one in asked["answers"]], ["unknown", "nothing"])
        about = {key: asked[key] for key in ("parameter", "since", "until")}
        self.assertEqual(self.send(ANSWER, {**about, "answer": "dose"}).status_code, 409)
