"""Hand-over: the sheet, the carer's page and its limits, reports, and what of them comes into the record."""

import json
from datetime import timedelta
from io import BytesIO

from fastapi.testclient import TestClient
from PIL import Image

from salttide.app import for_visitors, make_app
from salttide.clock import PinnedClock
from tests.api.base import EELGRASS, NOW, SKIFF, ApiTest
from tests.api.test_calendar import WEEK_AWAY


class HandOver(ApiTest):
    def setUp(self):
        super().setUp()
        self.post("/rota/away", {"first": "2026-11-24", "last": "2026-11-30", "note": ""})
        self.away = self.get("/rota/minutes")["away"][0]["id"]

    def told(self, **more):
        body = {"every_days": 1, "carer": "the neighbour", "phone": "+45 00 00 00 01", **more}
        return self.send(f"/rota/away/{self.away}/hand-over", body, method="PUT")

    def shown(self):
        return self.get(f"/rota/away/{self.away}/hand-over")

    def token(self):
        self.assertLess(self.told().status_code, 300)
        self.post(f"/rota/away/{self.away}/hand-over/link", None)
        return self.shown()["link"].rsplit("/", 1)[1]

    def report(self, token, **more):
        return self.send(f"/visits/{token}/reports", {"system_id": SKIFF, **more})


class Sheet(HandOver):
    def test_it_can_be_seen_before_anything_is_told(self):
        shown = self.shown()
        self.assertEqual((shown["kept"], shown["link"], shown["sheet"]["visits"]), (False, "", "7 visits, every day"))
        names = [one["name"] for one in shown["sheet"]["systems"]]
        self.assertEqual(names, ["Beacon", "Eelgrass", "Skiff", "Slipway"])

    def test_further_ahead_than_the_rota_reaches_it_says_so(self):
        self.assertEqual(self.shown()["early"], "")
        self.post("/rota/away", {"first": "2027-02-01", "last": "2027-02-08", "note": ""})
        number = self.get("/rota/minutes")["away"][1]["id"]
        self.assertIn("six weeks ahead", self.get(f"/rota/away/{number}/hand-over")["early"])

    def test_what_is_told_stands_on_it(self):
        self.told(every_days=2, note="key", notes=[{"system_id": EELGRASS, "text": "two bags"}])
        shown = self.shown()
        self.assertEqual(shown["sheet"]["visits"], "3 visits, every 2 days")
        self.assertEqual((shown["sheet"]["note"], shown["sheet"]["phone"]), ("key", "+45 00 00 00 01"))
        self.assertEqual([one["note"] for one in shown["sheet"]["systems"]], ["", "two bags", "", ""])

    def test_what_cannot_be_is_refused_at_its_field(self):
        path = f"/rota/away/{self.away}/hand-over"
        self.refused(path, {"every_days": 1, "phone": ""}, "phone", method="PUT")
        self.refused(path, {"every_days": 9, "phone": "+45 00"}, "every_days", method="PUT")
        self.assertFalse(self.shown()["kept"])
        self.assertEqual(self.send(f"{path}/link", None).status_code, 404)
        self.assertEqual(self.api.get("/api/rota/away/999/hand-over").status_code, 404)


class Imported(ApiTest):
    """An absence out of a calendar keeps its hand-over when it is read again with other days."""

    def test_the_carers_page_goes_on_with_the_new_days_and_back_with_the_old(self):
        def bring(end):
            text = WEEK_AWAY.format(end=end, more="")
            return self.post("/rota/away/import", {"text": text, "uids": ["away-1"]})

        bring("20261208")
        number = self.get("/rota/minutes")["away"][0]["id"]
        path = f"/rota/away/{number}/hand-over"
        self.send(path, {"every_days": 1, "phone": "+45 00 00 00 01"}, method="PUT")
        self.post(f"{path}/link", None)
        token = self.get(path)["link"].rsplit("/", 1)[1]
        kept = bring("20261210")
        self.assertEqual(self.get(f"/visits/{token}")["sheet"]["days"], "Fri 4 Dec to Wed 9 Dec")
        self.post(f"/rota/away/import/{kept['command']}/undo", None)
        self.assertEqual(self.get(f"/visits/{token}")["sheet"]["days"], "Fri 4 Dec to Mon 7 Dec")


class Page(HandOver):
    def test_it_opens_with_its_secret_alone_and_not_after_it_was_taken_away(self):
        token = self.token()
        page = self.get(f"/visits/{token}")
        self.assertEqual((page["today"], page["sheet"]), ("2026-11-24", self.shown()["sheet"]))
        self.assertEqual(self.api.get("/api/visits/guessed").status_code, 404)
        self.send(f"/rota/away/{self.away}/hand-over/link", None, method="DELETE")
        self.assertEqual(self.api.get(f"/api/visits/{token}").status_code, 404)

    def test_a_new_address_ends_the_old_one(self):
        first = self.token()
        self.post(f"/rota/away/{self.away}/hand-over/link", None)
        self.assertEqual(self.api.get(f"/api/visits/{first}").status_code, 404)

    def test_it_ends_some_days_after_the_absence_and_with_it(self):
        token = self.token()
        for days, status in ((9, 200), (10, 404)):
            later = make_app(self.path, PinnedClock(NOW + timedelta(days=days)), build=None)
            with TestClient(later) as api:
                self.assertEqual(api.get(f"/api/visits/{token}").status_code, status)
        self.send(f"/rota/away/{self.away}", None, method="DELETE")
        self.assertEqual(self.api.get(f"/api/visits/{token}").status_code, 404)

    def test_on_the_port_for_visitors_there_is_nothing_else(self):
        token = self.token()
        self.post("/rota/calendar/link", None)
        feed = self.get("/rota/calendar")["address"].removeprefix("http://testserver")
        api = TestClient(for_visitors(self.app))
        self.assertEqual(api.get(f"/api/visits/{token}").status_code, 200)
        self.assertEqual(api.get(feed).status_code, 200)
        for path in ("/", "/rota", "/api/harbour", "/api/rota", "/api/visits", "/api/visits/../harbour",
                     "/api/visits/%2e%2e/harbour", "//api/harbour", "/api/rota/calendar"):  # fmt: skip
            self.assertEqual(api.get(path).status_code, 404, path)
        headers = {"Idempotency-Key": "visitor-key-1"}
        for path in (f"/api/rota/away/{self.away}/hand-over/link", "/api/rota/rebalance"):
            self.assertEqual(api.post(path, headers=headers).status_code, 404, path)


class Reports(HandOver):
    WORK = ("top_off", "task:skimmer_cup")

    def test_a_report_waits_for_the_keeper_and_comes_into_the_record_at_the_time_of_the_visit(self):
        token = self.token()
        before = len(self.rows("SELECT 1 FROM entry"))
        told = {"found": "all fine", "used": "the last bag", "advised": "a new lid"}
        answer = self.report(token, done=list(self.WORK), measured={"temperature": "25.3"}, **told)
        self.assertEqual(answer.status_code, 201, answer.text)
        self.assertEqual(len(self.rows("SELECT 1 FROM entry")), before)
        (report,) = self.shown()["reports"]
        self.assertEqual((report["system"], report["measured"]), ("Skiff", ["Temperature: 25.3 °C"]))
        self.assertEqual({key: report[key] for key in told}, told)
        kept = self.post(f"/rota/reports/{report['id']}/accept", None)
        kinds = [kind for (kind,) in self.rows("SELECT kind FROM entry WHERE command = ?", kept["command"])]
        self.assertEqual(sorted(kinds), ["care", "reading", "top_off"])
        self.assertEqual(self.rows("SELECT DISTINCT at FROM entry WHERE command = ?", kept["command"]),
                         [("2026-11-24T17:40:00Z",)])  # fmt: skip
        self.assertTrue(self.shown()["reports"][0]["taken"])
        self.assertEqual(self.send(f"/rota/reports/{report['id']}/accept", None).status_code, 409)
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertFalse(self.shown()["reports"][0]["taken"])

    def test_sent_twice_it_is_there_once(self):
        token = self.token()
        body = {"system_id": SKIFF, "done": [], "found": "fine"}
        for _ in range(2):
            self.send(f"/visits/{token}/reports", body, "the-same-key")
        self.assertEqual(len(self.shown()["reports"]), 1)

    def test_set_aside_nothing_of_it_is_recorded(self):
        self.report(self.token(), found="fine")
        number = self.shown()["reports"][0]["id"]
        self.post(f"/rota/reports/{number}/dismiss", None)
        self.assertTrue(self.shown()["reports"][0]["aside"])
        self.post(f"/rota/reports/{number}/restore", None)
        self.assertFalse(self.shown()["reports"][0]["aside"])

    def test_what_cannot_be_is_refused_at_its_field_and_nothing_is_kept(self):
        token = self.token()
        path = f"/visits/{token}/reports"
        for body, field in (
            ({"measured": {"temperature": "warm"}}, "measured.temperature"),
            ({"measured": {"temperature": "95"}}, "measured.temperature"),
            ({"measured": {"nitrate": "5"}}, "measured.nitrate"),
            ({"done": ["task:steriliser_lamp"]}, "done"),
            ({}, "done"),
        ):
            with self.subTest(body=json.dumps(body)):
                self.refused(path, {"system_id": SKIFF, **body}, field)
        self.refused(path, {"system_id": 99, "found": "x"}, "system_id")
        self.assertEqual(self.shown()["reports"], [])

    def test_pictures_come_with_it(self):
        token = self.token()
        out = BytesIO()
        Image.new("RGB", (64, 48), (30, 120, 150)).save(out, "PNG")
        headers = {"Content-Type": "image/png", "Idempotency-Key": "visit-picture-1"}
        path = f"/api/visits/{token}/systems/{SKIFF}/pictures"
        kept = self.api.post(path, content=out.getvalue(), headers=headers)
        self.assertEqual(kept.status_code, 201, kept.text)
        self.report(token, pictures=[kept.json()["id"]])
        (url,) = self.shown()["reports"][0]["pictures"]
        self.assertEqual(self.api.get(url).status_code, 200)
        wrong = path.replace(token, "guessed")
        self.assertEqual(self.api.post(wrong, content=out.getvalue(), headers=headers).status_code, 404)
