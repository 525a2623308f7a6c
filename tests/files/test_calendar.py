"""iCalendar out, checked by the rules of RFC 5545 and read by two other readers; and absences in."""

import re
import unittest
from datetime import UTC, date, datetime, time, timedelta
from io import StringIO
from zoneinfo import ZoneInfo

import vobject
from dateutil.tz import tzical

from salttide.core.basics.errors import InputError
from salttide.core.upkeep.calendar import CalendarSettings, Entry, EntryState, EntryType, Issued
from salttide.files.calendar import absences_in, calendar_file

ZONE = ZoneInfo("Europe/Copenhagen")
CHANGED = datetime(2026, 3, 20, 9, 30, tzinfo=UTC)
TODAY = date(2026, 11, 24)


def issued(day, at=time(18, 0), minutes=30, zone=ZONE, number=0, **more):
    starts = datetime.combine(day, at, zone)
    entry = Entry(f"{day}-{at:%H%M}@salt-tide", "Beacon", "Beacon: scrape, left; end", "Why: due.\nMind: glass.",
                  starts, minutes, **more)  # fmt: skip
    return Issued(entry, number, CHANGED)


def lines_of(content):
    """The content lines, unfolded, as RFC 5545, 3.1 has them."""
    return re.sub(rb"\r\n[ \t]", b"", content).decode().split("\r\n")


def parts_of(content, name):
    """The own lines of each component of a name: property with its parameters, and value."""
    found, open_ones = [], []
    for line in lines_of(content):
        if line.startswith("BEGIN:"):
            open_ones.append((line[6:], []))
        elif line.startswith("END:"):
            closed, lines = open_ones.pop()
            assert closed == line[4:]
            if closed == name:
                found.append(lines)
        elif line:
            open_ones[-1][1].append(tuple(line.split(":", 1)))
    assert not open_ones
    return found


def values(part):
    return {re.split("[;:]", key)[0]: value for key, value in part}


class Rules(unittest.TestCase):
    """RFC 5545, by section."""

    def check(self, content, settings):
        self.assertTrue(content.endswith(b"END:VCALENDAR\r\n"))
        self.assertNotIn(b"\n", content.replace(b"\r\n", b""))
        for line in content.split(b"\r\n"):
            # 3.1: lines of at most 75 octets, and no character torn apart.
            self.assertLessEqual(len(line), 75)
            line.decode()
        (calendar,) = parts_of(content, "VCALENDAR")
        # 3.6: PRODID and VERSION once each.
        names = [re.split("[;:]", key)[0] for key, _ in calendar]
        self.assertEqual((names.count("PRODID"), names.count("VERSION")), (1, 1))
        zones = {values(part)["TZID"] for part in parts_of(content, "VTIMEZONE")}
        parts = parts_of(content, "VEVENT" if settings.entry_type == EntryType.EVENT else "VTODO")
        self.assertEqual(len({values(part)["UID"] for part in parts}), len(parts))
        for part in parts:
            self.check_part(part, settings, zones)
        for alarm in parts_of(content, "VALARM"):
            # 3.6.6: a display alarm has an action, a description and a trigger.
            self.assertLessEqual({"ACTION", "DESCRIPTION", "TRIGGER"}, values(alarm).keys())

    def check_part(self, part, settings, zones):
        names = [re.split("[;:]", key)[0] for key, _ in part]
        end = "DTEND" if settings.entry_type == EntryType.EVENT else "DUE"
        for name in ("UID", "DTSTAMP", "DTSTART", end, "SEQUENCE", "SUMMARY", "STATUS"):
            # 3.6.1, 3.6.2: never more than once; UID and DTSTAMP always.
            self.assertEqual(names.count(name), 1, name)
        told = values(part)
        self.assertRegex(told["DTSTAMP"], r"^\d{8}T\d{6}Z$")
        allowed = {
            EntryType.EVENT: {"TENTATIVE", "CONFIRMED", "CANCELLED"},
            EntryType.TO_DO: {"NEEDS-ACTION", "COMPLETED", "IN-PROCESS", "CANCELLED"},
        }
        self.assertIn(told["STATUS"], allowed[settings.entry_type])
        for key, value in part:
            zone = re.search(r"TZID=([^;:]+)", key)
            if zone:
                # 3.2.19: every zone that is named is defined in the same file, and its times are not in UTC.
                self.assertIn(zone[1], zones)
                self.assertFalse(value.endswith("Z"))

    def test_events_and_to_dos_in_every_state(self):
        days = [date(2026, 3, 20) + timedelta(days=offset) for offset in range(14)]
        made = [issued(day, state=list(EntryState)[n % 4], alarm=n % 3 == 0) for n, day in enumerate(days)]
        for entry_type in EntryType:
            for published in (False, True):
                settings = CalendarSettings(entry_type)
                with self.subTest(entry_type=entry_type, published=published):
                    content = calendar_file(made, settings, ZONE, "http://127.0.0.1:8737", published)
                    self.check(content, settings)
                    self.assertEqual(b"METHOD:PUBLISH" in content, published)

    def test_nothing_to_tell_and_a_keeper_in_utc(self):
        self.check(calendar_file([], CalendarSettings(), ZONE), CalendarSettings())
        utc = ZoneInfo("UTC")
        content = calendar_file([issued(date(2026, 3, 29), zone=utc)], CalendarSettings(), utc)
        self.check(content, CalendarSettings())
        self.assertIn("DTSTART:20260329T180000Z", lines_of(content))

    def test_names_of_any_kind_are_folded_and_come_back_whole(self):
        name = "Lagune æøå, 海水; “høj” \\ " * 6
        one = issued(date(2026, 3, 29))
        entry = Entry(**{**vars(one.entry), "title": name.strip(), "text": "a\nb, c; d\\n"})
        content = calendar_file([Issued(entry, 0, CHANGED)], CalendarSettings(), ZONE)
        self.check(content, CalendarSettings())
        read = vobject.readOne(content.decode()).vevent
        self.assertEqual((read.summary.value, read.description.value), (name.strip(), "a\nb, c; d\\n"))

    def test_states_of_events_and_to_dos(self):
        for entry_type, states in (
            (EntryType.EVENT, ["CONFIRMED", "CONFIRMED", "CANCELLED", "CANCELLED"]),
            (EntryType.TO_DO, ["NEEDS-ACTION", "COMPLETED", "CANCELLED", "CANCELLED"]),
        ):
            made = [issued(date(2026, 3, 20 + n), state=state) for n, state in enumerate(EntryState)]
            content = calendar_file(made, CalendarSettings(entry_type), ZONE)
            name = "VEVENT" if entry_type == EntryType.EVENT else "VTODO"
            self.assertEqual([values(part)["STATUS"] for part in parts_of(content, name)], states)
        done = values(parts_of(content, "VTODO")[1])
        # Half past six there is half past five in UTC.
        self.assertEqual(done["COMPLETED"], "20260321T173000Z")

    def test_an_alarm_only_where_it_is_wanted_and_still_to_do(self):
        one = issued(date(2026, 3, 20), alarm=True)
        self.assertIn(b"TRIGGER:-PT15M", calendar_file([one], CalendarSettings(), ZONE))
        self.assertNotIn(b"VALARM", calendar_file([one], CalendarSettings(alarm_minutes=None), ZONE))
        gone = issued(date(2026, 3, 20), alarm=True, state=EntryState.WITHDRAWN)
        self.assertNotIn(b"VALARM", calendar_file([gone], CalendarSettings(), ZONE))


class OverAChangeOfTheClock(unittest.TestCase):
    """In the European Union clocks go forward on the last Sunday of March and back on that of October, at 01:00 UTC."""

    def test_six_in_the_evening_stays_six_in_the_evening(self):
        days = [date(2026, 3, 28), date(2026, 3, 29), date(2026, 10, 24), date(2026, 10, 25)]
        content = calendar_file([issued(day) for day in days], CalendarSettings(), ZONE)
        read = vobject.readOne(content.decode())
        starts = [event.dtstart.value.astimezone(UTC).strftime("%d %H:%M") for event in read.vevent_list]
        # CET is an hour ahead of UTC, CEST two.
        self.assertEqual(starts, ["28 17:00", "29 16:00", "24 16:00", "25 17:00"])

    def test_the_zone_changes_at_the_moments_of_the_law(self):
        content = calendar_file([issued(date(2026, 3, 20))], CalendarSettings(), ZONE)
        (summer,) = [values(part) for part in parts_of(content, "DAYLIGHT")]
        self.assertEqual((summer["DTSTART"], summer["TZOFFSETFROM"], summer["TZOFFSETTO"]),
                         ("20260329T020000", "+0100", "+0200"))  # fmt: skip
        winter = [values(part) for part in parts_of(content, "STANDARD")][-1]
        self.assertEqual((winter["DTSTART"], winter["TZOFFSETFROM"], winter["TZOFFSETTO"]),
                         ("20261025T030000", "+0200", "+0100"))  # fmt: skip

    def test_another_reader_finds_the_same_offset_every_hour_of_a_year_in_many_zones(self):
        for key in (
            "Europe/Copenhagen",
            "America/St_Johns",
            "Australia/Lord_Howe",
            "Asia/Kolkata",
            "Africa/Casablanca",
        ):
            zone = ZoneInfo(key)
            content = calendar_file([issued(date(2026, 1, 10), zone=zone)], CalendarSettings(), zone)
            text = "\r\n".join(lines_of(content))
            block = text[text.index("BEGIN:VTIMEZONE") : text.index("END:VTIMEZONE") + 13]
            read = tzical(StringIO(block.replace("\r\n", "\n") + "\n")).get()
            for hours in range(0, 360 * 24, 7):
                at = datetime(2026, 1, 10, tzinfo=UTC) + timedelta(hours=hours)
                local = at.astimezone(zone)
                if not _twice(local):
                    self.assertEqual(local.replace(tzinfo=read).utcoffset(), local.utcoffset(), f"{key} {at}")

    def test_work_in_the_hour_that_is_left_out_lasts_as_long_as_it_takes(self):
        content = calendar_file([issued(date(2026, 3, 29), time(1, 30), 60)], CalendarSettings(), ZONE)
        told = values(parts_of(content, "VEVENT")[0])
        self.assertEqual((told["DTSTART"], told["DTEND"]), ("20260329T013000", "20260329T033000"))


def _twice(local):
    """Whether a local time comes twice, as in the night when clocks go back: it does not say which is meant."""
    return local.replace(fold=0).utcoffset() != local.replace(fold=1).utcoffset()


def calendar_text(*events):
    inside = "".join(f"BEGIN:VEVENT\r\nDTSTAMP:20261101T000000Z\r\n{event}END:VEVENT\r\n" for event in events)
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//made up//EN\r\n{inside}END:VCALENDAR\r\n"


def event(uid="u1", start="DTSTART;VALUE=DATE:20261204", end="DTEND;VALUE=DATE:20261208", more="SUMMARY:Skagen\r\n"):
    lines = [f"UID:{uid}", start, *([end] if end else [])]
    return "".join(f"{line}\r\n" for line in lines) + more


def read(*events):
    return absences_in(calendar_text(*events), ZONE, TODAY)


def spans(found):
    return [(f"{each.first:%d.%m}", f"{each.last:%d.%m}") for each in found]


class Absences(unittest.TestCase):
    CASES = (
        ("whole days, whose end is the day after", event(), [("04.12", "07.12")]),
        ("one day without an end", event(end=""), [("04.12", "04.12")]),
        ("a length in days", event(end="DURATION:P3D"), [("04.12", "06.12")]),
        ("times in UTC, read in the keeper's zone: 23:30 there is half past midnight here",
         event(start="DTSTART:20261204T233000Z", end="DTEND:20261206T120000Z"), [("05.12", "06.12")]),
        ("times without a zone are the keeper's", event(start="DTSTART:20261204T080000", end="DTEND:20261205T220000"),
         [("04.12", "05.12")]),
        ("an end at midnight is the day before", event(start="DTSTART:20261204T080000", end="DTEND:20261206T000000"),
         [("04.12", "05.12")]),
        ("past", event(start="DTSTART;VALUE=DATE:20261101", end="DTEND;VALUE=DATE:20261105"), []),
        ("begun before today", event(start="DTSTART;VALUE=DATE:20261120", end="DTEND;VALUE=DATE:20261127"),
         [("20.11", "26.11")]),
        ("every week three times, one left out",
         event(start="DTSTART;VALUE=DATE:20261205", end="DTEND;VALUE=DATE:20261207",
               more="RRULE:FREQ=WEEKLY;COUNT=3\r\nEXDATE;VALUE=DATE:20261212\r\n"),
         [("05.12", "06.12"), ("19.12", "20.12")]),
    )  # fmt: skip

    def test_the_days_by_what_stands_there(self):
        for name, text, expected in self.CASES:
            with self.subTest(name):
                self.assertEqual(spans(read(text)), expected)

    def test_a_turn_that_was_moved_stands_where_it_was_moved_to(self):
        weekly = event(start="DTSTART;VALUE=DATE:20261205", end="", more="RRULE:FREQ=WEEKLY;COUNT=2\r\n")
        moved = event(start="DTSTART;VALUE=DATE:20261214", end="", more="RECURRENCE-ID;VALUE=DATE:20261212\r\n")
        found = read(weekly, moved)
        self.assertEqual(spans(found), [("05.12", "05.12"), ("14.12", "14.12")])
        self.assertEqual([each.uid for each in found], ["u1/2026-12-05", "u1/2026-12-12"])

    def test_each_has_its_identity_note_and_state(self):
        (found,) = read(event(more="SUMMARY:Uge 49\\, ude\r\nSTATUS:CANCELLED\r\n"))
        self.assertEqual((found.uid, found.note, found.cancelled, found.remark), ("u1", "Uge 49, ude", True, ""))

    def test_an_appointment_is_no_absence(self):
        (found,) = read(event(start="DTSTART:20261204T090000", end="DTEND:20261204T103000"))
        self.assertEqual(found.remark, "shorter than 12 hours")

    def test_what_is_no_calendar_is_refused_and_says_what_would_be_one(self):
        for text in ("", "hello", "BEGIN:VCALENDAR\r\n", "\0\1", "BEGIN:VEVENT\r\nEND:VEVENT\r\n",
                     calendar_text("UID:x\r\nDTSTART:never\r\n"), calendar_text("UID:x\r\n")):  # fmt: skip
            with self.subTest(text=text[:30]), self.assertRaises(InputError) as refused:
                absences_in(text, ZONE, TODAY)
            self.assertIn(".ics", refused.exception.accepted)

    def test_what_we_write_is_read_back(self):
        made = [issued(date(2026, 12, 4), minutes=13 * 60)]
        text = calendar_file(made, CalendarSettings(), ZONE).decode()
        self.assertEqual(spans(absences_in(text, ZONE, TODAY)), [("04.12", "05.12")])
