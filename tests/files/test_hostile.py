"""Files that are made to harm: bounded in time and memory, accounted for line by line, refused in words."""

import time
import unittest
from datetime import UTC, date, datetime
from io import BytesIO
from unittest.mock import patch
from zoneinfo import ZoneInfo

from PIL import Image

from salttide.core.basics.errors import InputError
from salttide.core.science.parameters import Parameter
from salttide.files import apart
from salttide.files.apart import absences_apart, picture_apart
from salttide.files.picture import LARGEST_PIXELS
from salttide.files.readings import ColumnMap, Known, RejectedRow, Row, guess, rows_of
from tests.files.test_readings import FileTest

ZONE, TODAY = ZoneInfo("Europe/Copenhagen"), date(2026, 11, 24)
KNOWN = Known({"Beacon": 1}, {}, ZONE, datetime(2026, 11, 24, 17, tzinfo=UTC))


def event(*lines: str) -> str:
    told = ["BEGIN:VEVENT", "UID:a@b", "DTSTAMP:20261101T000000Z", *lines, "END:VEVENT"]
    return "\r\n".join(["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:x", *told, "END:VCALENDAR", ""])


class Calendars(unittest.TestCase):
    def test_what_is_finer_than_daily_or_never_moves_on_is_refused(self):
        for rule in ("FREQ=SECONDLY", "FREQ=MINUTELY;COUNT=5", "FREQ=HOURLY", "FREQ=DAILY;INTERVAL=0",
                     "FREQ=DAILY;INTERVAL=-1", "FREQ=DAILY;BYHOUR=1,2,3;BYMINUTE=1,2,3"):  # fmt: skip
            with self.subTest(rule=rule), self.assertRaises(InputError) as raised:
                absences_apart(event("DTSTART:20200101T000000Z", "DURATION:P2D", f"RRULE:{rule}"), ZONE, TODAY)
            self.assertEqual(raised.exception.field, "text")

    def test_huge_lengths_and_far_dates_are_refused(self):
        for lines in (("DTSTART;VALUE=DATE:20261201", "DURATION:P99999999D"),
                      ("DTSTART;VALUE=DATE:20261201", "DTEND;VALUE=DATE:99991231"),
                      ("DTSTART;VALUE=DATE:99991231", "DURATION:P9D")):  # fmt: skip
            with self.subTest(lines=lines):
                try:
                    self.assertEqual(absences_apart(event(*lines), ZONE, TODAY), [])
                except InputError as error:
                    self.assertTrue(error.message)

    def test_a_thousand_daily_appointments_do_not_hold_it_up(self):
        lines = event("DTSTART:20161101T080000Z", "DTEND:20161101T090000Z", "RRULE:FREQ=DAILY").splitlines()
        one = lines[3:-1]
        many = "\r\n".join([*lines[:3], *(line for _ in range(1000) for line in one), "END:VCALENDAR", ""])
        begun = time.monotonic()
        try:
            found = absences_apart(many, ZONE, TODAY)
            self.assertTrue(all(each.remark for each in found))
        except InputError as error:
            self.assertIn("more time", error.message)
        self.assertLess(time.monotonic() - begun, apart.SECONDS + 5)

    def test_what_takes_too_long_is_ended(self):
        with patch.object(apart, "SECONDS", 0.01), self.assertRaises(InputError) as raised:
            absences_apart(event("DTSTART;VALUE=DATE:20261201"), ZONE, TODAY)
        self.assertIn("more time or memory", raised.exception.message)

    def test_an_ordinary_absence_is_read_as_before(self):
        (found,) = absences_apart(event("DTSTART;VALUE=DATE:20261201", "DTEND;VALUE=DATE:20261205"), ZONE, TODAY)
        self.assertEqual((found.first, found.last), (date(2026, 12, 1), date(2026, 12, 4)))


class Pictures(unittest.TestCase):
    def test_png_and_webp_have_lower_bounds_than_jpeg(self):
        self.assertLess(LARGEST_PIXELS["PNG"], LARGEST_PIXELS["JPEG"])
        out = BytesIO()
        # 59 megapixels of one colour are a small file.
        Image.new("1", (7700, 7700)).save(out, "PNG")
        self.assertLess(len(out.getvalue()), 300_000)
        with self.assertRaises(InputError) as raised:
            picture_apart(out.getvalue())
        self.assertIn("pixels", raised.exception.message)

    def test_a_comment_stays_behind_in_picture_and_thumbnail(self):
        out = BytesIO()
        Image.new("RGB", (900, 600), "teal").save(out, "JPEG", comment=b"made at Slipway Lane 7")
        self.assertIn(b"Slipway", out.getvalue())
        made = picture_apart(out.getvalue())
        self.assertNotIn(b"Slipway", made.jpeg + made.thumb)
        self.assertEqual((made.width, made.height), (900, 600))


class Tables(FileTest):
    HEADER = ("at", "parameter", "value", "note")

    def read(self, content, columns=None):
        columns = columns or ColumnMap({name: name for name in self.HEADER}, system="Beacon")
        header = content.splitlines()[0].split(",")
        return list(rows_of(iter(self.lines(content.encode())), header, columns, KNOWN))

    def test_a_stray_quote_spoils_its_own_line_alone(self):
        # 22 rows, one with a quote that is never closed: 21 are taken, one is refused with its line.
        rows = [f"2026-10-{day:02d} 12:00,calcium,{400 + day},fine" for day in range(1, 23)]
        rows[6] = '2026-10-07 12:00,calcium,407,"not closed'
        found = self.read("\n".join([",".join(self.HEADER), *rows]) + "\n")
        self.assertEqual(sum(isinstance(one, Row) for one in found), 21)
        (bad,) = (one for one in found if isinstance(one, RejectedRow))
        self.assertEqual(bad.line, 8)
        self.assertIn("not closed", bad.reason)

    def test_two_stray_quotes_do_not_swallow_what_lies_between(self):
        rows = [f"2026-10-{day:02d} 12:00,calcium,{400 + day},fine" for day in range(1, 13)]
        rows[2], rows[8] = '2026-10-03 12:00,calcium,403,"a', '2026-10-09 12:00,calcium,409,b"'
        found = self.read("\n".join([",".join(self.HEADER), *rows]) + "\n")
        self.assertGreaterEqual(sum(isinstance(one, Row) for one in found), 10)
        self.assertEqual(len(found), 12)

    def test_a_note_over_several_lines_is_one_row(self):
        content = (
            f'{",".join(self.HEADER)}\n2026-10-01 12:00,calcium,400,"two\nlines"\n2026-10-02 12:00,calcium,401,x\n'
        )
        found = self.read(content)
        self.assertEqual([one.note for one in found], ["two\nlines", "x"])

    def test_a_line_without_a_value_is_accounted_for(self):
        columns = ColumnMap({"at": "at", "Ca": "calcium", "Mg": "magnesium"}, system="Beacon")
        (bad,) = self.read("at,Ca,Mg\n2026-10-01 12:00,,\n", columns)
        self.assertEqual((bad.line, bad.reason), (2, "there is no value on this line"))

    def test_hours_that_the_change_of_the_clock_skips_or_doubles_are_asked_about(self):
        # Denmark: on 25 Oct 2026 02:00 to 03:00 is there twice, on 29 Mar 2026 it is not there at all.
        for written, words in (("2026-10-25 02:30", "there twice"), ("2026-03-29 02:30", "not there at all")):
            with self.subTest(written=written):
                (bad,) = self.read(f"at,parameter,value,note\n{written},calcium,400,\n")
                self.assertIn(words, bad.reason)
        (row,) = self.read("at,parameter,value,note\n2026-10-25 02:30+01:00,calcium,400,\n")
        self.assertEqual(row.at, "2026-10-25T01:30:00Z")

    def test_a_specific_gravity_is_recognised_or_asked_about_never_taken_for_ppt(self):
        (bad,) = self.read("at,parameter,value,note\n2026-10-01 12:00,salinity,1.026,\n")
        self.assertIn("looks like a specific gravity", bad.reason)
        self.assertEqual(guess(["date", "SG"]).units, {"SG": "SG 25/25"})
        (row,) = self.read("at,parameter,value,note\n2026-10-01 12:00,SG,1.0264,\n")
        self.assertAlmostEqual(row.value, 35.0, delta=0.05)
        self.assertEqual(row.parameter, Parameter.SALINITY.value)

    def test_ammonia_as_ammonium_is_another_mass(self):
        # 1 mg/L NH4 is 17.0305/18.0385 mg/L NH3.
        (row,) = self.read("at,parameter,value,note\n2026-10-01 12:00,NH4,1.0,\n")
        self.assertAlmostEqual(row.value, 17.0305 / 18.0385, places=4)
