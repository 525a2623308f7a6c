"""The calendar: its file and private address follow the rota; absences come in and go; what a browser rings for."""

import re

from tests.api.base import ApiTest
from tests.api.test_rota import RotaTest

WEEK_AWAY = (
    "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//made up//EN\r\nBEGIN:VEVENT\r\nUID:away-1\r\n"
    "DTSTAMP:20261101T000000Z\r\nDTSTART;VALUE=DATE:20261204\r\nDTEND;VALUE=DATE:{end}\r\nSUMMARY:Skagen\r\n{more}END:VEVENT\r\nEND:VCALENDAR\r\n"
)


def entries(text):
    """Each event by its identity: properties by name."""
    unfolded = re.sub(r"\r\n[ \t]", "", text)
    found = {}
    for block in re.findall(r"BEGIN:VEVENT\r\n(.*?)END:VEVENT", unfolded, re.S):
        told = {re.split("[;:]", line)[0]: line.split(":", 1)[1] for line in block.split("\r\n") if ":" in line}
        found[told["UID"]] = told
    return found


class Feed(RotaTest):
    def address(self):
        self.post("/rota/calendar/link", None)
        return self.get("/rota/calendar")["address"].removeprefix("http://testserver")

    def told(self, address):
        answer = self.api.get(address)
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "text/calendar; charset=utf-8"))
        return entries(answer.text)

    def named(self, found, task, day):
        return next(v for k, v in found.items() if f"-1-{task}-" in k and v["DTSTART"].startswith(day.replace("-", "")))

    def test_there_is_none_until_it_is_made_and_none_after_it_is_taken_away(self):
        self.assertEqual(self.get("/rota/calendar")["address"], "")
        first = self.address()
        self.assertEqual(self.api.get(first).status_code, 200)
        second = self.address()
        self.assertNotEqual(first, second)
        self.assertEqual((self.api.get(first).status_code, self.api.get(second).status_code), (404, 200))
        self.assertIn("last fetched", self.get("/rota/calendar")["asked_words"])
        self.assertLess(self.send("/rota/calendar/link", None, method="DELETE").status_code, 300)
        self.assertEqual(self.api.get(second).status_code, 404)
        self.assertEqual(self.api.get("/calendar/.ics").status_code, 404)

    def test_what_has_not_changed_is_not_sent_again(self):
        address = self.address()
        tag = self.api.get(address).headers["etag"]
        self.assertEqual(self.api.get(address, headers={"If-None-Match": tag}).status_code, 304)
        self.post("/systems/1/care/done", self.body(self.first("skimmer_cup")))
        self.assertEqual(self.api.get(address, headers={"If-None-Match": tag}).status_code, 200)

    def test_it_holds_the_rota_day_by_day(self):
        found = self.told(self.address())
        ahead = {(v["SUMMARY"], v["DTSTART"][:8]) for v in found.values() if v["STATUS"] == "CONFIRMED"}
        for task in self.lane():
            name = f"Beacon: {task['name']}" + (f", {task['zone']}" if task["zone"] else "")
            self.assertIn((name.replace(",", "\\,"), task["day"].replace("-", "")), ahead)

    def test_moved_done_and_switched_off_it_follows_under_the_same_identity(self):
        address = self.address()
        task = self.first("livestock_check")
        before = self.named(self.told(address), "livestock_check", task["day"])
        self.assertEqual(before["SEQUENCE"], "0")
        self.post("/systems/1/care/move", self.body(task, day="2026-12-02"))
        moved = self.told(address)[before["UID"]]
        self.assertEqual((moved["DTSTART"][:8], moved["SEQUENCE"]), ("20261202", "1"))
        kept = self.post("/systems/1/care/done", self.body(task))
        done = self.told(address)[before["UID"]]
        self.assertEqual((done["DTSTART"][:8], done["SEQUENCE"], done["STATUS"]), ("20261124", "2", "CONFIRMED"))
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.told(address)[before["UID"]]["DTSTART"][:8], "20261202")
        self.send("/systems/1/care/livestock_check", {"off": True}, method="PUT")
        gone = self.told(address)[before["UID"]]
        self.assertEqual((gone["STATUS"], gone["SEQUENCE"]), ("CANCELLED", "4"))

    def test_as_to_dos_from_another_hour_without_an_alarm(self):
        request = {"entry_type": "to_do", "begins": "07:15", "alarm_minutes": None}
        self.assertLess(self.send("/rota/calendar", request, method="PUT").status_code, 300)
        text = self.api.get("/api/rota/calendar.ics").text
        self.assertIn("BEGIN:VTODO", text)
        self.assertNotIn("BEGIN:VEVENT", text)
        self.assertNotIn("VALARM", text)
        self.assertIn("T071500", text)
        self.assertIn("METHOD:PUBLISH", text)
        said = self.refused("/rota/calendar", {**request, "alarm_minutes": 2000}, "alarm_minutes", method="PUT")
        self.assertEqual(said["accepted"], "0 to 1440 min, or none")
        self.refused("/rota/calendar", {**request, "begins": "25:00"}, "begins", method="PUT")

    def test_what_rings_is_the_days_work_as_long_before_as_the_alarm(self):
        (ring,) = self.get("/rota/reminders")["reminders"]
        self.assertEqual((ring["key"], ring["at"]), ("day 2026-11-24", "2026-11-24T17:45:00+01:00"))
        today = [task for lane in self.get("/rota?days=1")["lanes"] for task in lane["tasks"]]
        self.assertTrue(ring["words"].startswith(f"{len(today)} task"), ring["words"])
        self.assertIn(f"{sum(task['minutes'] for task in today)} min, from 18:00", ring["words"])


class Nothing(ApiTest):
    empty = True

    def test_an_empty_household_has_an_empty_calendar_and_nothing_rings(self):
        answer = self.api.get("/api/rota/calendar.ics")
        self.assertEqual((answer.status_code, answer.text.count("BEGIN:")), (200, 1))
        self.assertEqual(self.get("/rota/reminders")["reminders"], [])


class Absences(ApiTest):
    def text(self, end="20261208", more=""):
        return WEEK_AWAY.format(end=end, more=more)

    def away(self):
        return [(one["words"], one["note"], one["imported"]) for one in self.get("/rota/minutes")["away"]]

    def bring(self, text):
        return self.post("/rota/away/import", {"text": text, "uids": ["away-1"]})

    def test_seen_first_then_kept_then_known(self):
        (seen,) = self.post("/rota/away/preview", {"text": self.text()})["absences"]
        self.assertEqual((seen["words"], seen["known"]), ("Fri 4 Dec to Mon 7 Dec", False))
        self.assertEqual(self.away(), [])
        self.bring(self.text())
        self.assertEqual(self.away(), [("Fri 4 Dec to Mon 7 Dec", "Skagen", True)])
        (seen,) = self.post("/rota/away/preview", {"text": self.text()})["absences"]
        self.assertTrue(seen["known"])

    def test_changed_there_it_changes_here_and_taken_back_it_is_as_before(self):
        self.bring(self.text())
        kept = self.bring(self.text("20261210"))
        self.assertEqual(self.away(), [("Fri 4 Dec to Wed 9 Dec", "Skagen", True)])
        self.post(f"/rota/away/import/{kept['command']}/undo", None)
        self.assertEqual(self.away(), [("Fri 4 Dec to Mon 7 Dec", "Skagen", True)])

    def test_cancelled_there_it_is_taken_back_here(self):
        cancelled = self.text(more="STATUS:CANCELLED\r\n")
        self.assertEqual(self.post("/rota/away/preview", {"text": cancelled})["absences"], [])
        self.bring(self.text())
        (seen,) = self.post("/rota/away/preview", {"text": cancelled})["absences"]
        self.assertTrue(seen["cancelled"])
        self.bring(cancelled)
        self.assertEqual(self.away(), [])

    def test_what_cannot_be_read_is_refused_and_nothing_is_kept(self):
        self.refused("/rota/away/preview", {"text": "hello"}, "text")
        said = self.refused("/rota/away/import", {"text": self.text(), "uids": ["other"]}, "uids")
        self.assertIn("not in the file", said["message"])
        self.assertEqual(self.away(), [])
