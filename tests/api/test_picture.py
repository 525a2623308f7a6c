"""Pictures through the API: kept with their date, shown, attached to what they belong to, taken back."""

from tests.api.base import EELGRASS, SKIFF, ApiTest
from tests.files.test_picture import picture


class Pictures(ApiTest):
    def bring(self, data: bytes, system: int = SKIFF, key: str = "picture-0001", **said):
        return self.api.post(
            f"/api/systems/{system}/pictures", params=said, content=data,
            headers={"Idempotency-Key": key, "Content-Type": "image/jpeg"},
        )  # fmt: skip

    def kept(self, **more):
        answer = self.bring(picture(size=(900, 600)), **more)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def test_kept_with_its_date_shown_and_taken_back(self):
        made = self.kept(subject="torch ledge", day="2026-10-02", note="before the new lamp")
        shown = self.get(f"/systems/{SKIFF}/pictures")
        self.assertEqual(shown["subjects"], ["cyanobacteria (red film), same place", "torch ledge"])
        (one,) = [each for each in shown["pictures"] if each["subject"] == "torch ledge"]
        self.assertEqual((one["day"], one["note"], one["width"]), ("2 Oct 2026", "before the new lamp", 900))
        for url, most in ((one["url"], 900), (one["thumb"], 320)):
            answer = self.api.get(url)
            self.assertEqual(answer.headers["content-type"], "image/jpeg")
            self.assertEqual(answer.headers["x-content-type-options"], "nosniff")
            self.assertLess(len(answer.content), most * 400)
        self.post(f"/record/{made['command']}/undo", None)
        self.assertEqual(self.get(f"/systems/{SKIFF}/pictures")["subjects"], ["cyanobacteria (red film), same place"])

    def test_sent_again_under_its_key_it_is_kept_once(self):
        before = len(self.get(f"/systems/{SKIFF}/pictures")["pictures"])
        self.assertEqual(self.kept()["picture"]["id"], self.kept()["picture"]["id"])
        self.assertEqual(len(self.get(f"/systems/{SKIFF}/pictures")["pictures"]), before + 1)

    def test_on_a_row_of_the_bench_and_on_a_look_round(self):
        on_row = self.kept(subject="kit")["picture"]["id"]
        on_look = self.kept(key="picture-0002")["picture"]["id"]
        self.post(f"/systems/{SKIFF}/bench",
                  {"rows": [{"parameter": "alkalinity", "text": "7.4", "picture_id": on_row}]})  # fmt: skip
        self.post(f"/systems/{SKIFF}/inspection/checks", {"signs": [], "picture_ids": [on_look]})
        rows = self.get(f"/log?system_id={SKIFF}")["rows"]
        self.assertEqual({row["kind"]: row["pictures"] for row in rows[:2]},
                         {"look": [on_look], "reading": [on_row]})  # fmt: skip

    def test_a_picture_of_another_system_is_not_taken_and_nothing_is_recorded(self):
        other = self.kept(system=EELGRASS)["picture"]["id"]
        before = self.rows("SELECT count(*) FROM entry")
        answer = self.send(f"/systems/{SKIFF}/bench",
                           {"rows": [{"parameter": "alkalinity", "text": "7.4", "picture_id": other}]})  # fmt: skip
        self.assertEqual(answer.status_code, 404)
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), before)

    def test_bad_ones_are_refused_where_they_are_wrong(self):
        for data, said, field in ((b"no picture", {}, "file"), (picture(), {"day": "2027-01-01"}, "day"),
                                  (picture(), {"day": "soon"}, "day")):  # fmt: skip
            with self.subTest(field=field):
                answer = self.bring(data, **said)
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["fields"][0]["field"], field)
        self.assertEqual(self.api.get("/api/pictures/99/file").status_code, 404)
        self.assertEqual(self.bring(picture(), system=99).status_code, 404)
