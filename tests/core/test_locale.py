"""Numbers, dates and times as each keeper writes them, and nothing of it left over for the next."""

import unittest
from datetime import date, time

from salttide.core.basics.errors import DomainError, check_range
from salttide.core.basics.locale import ClockHours, DayOrder, Writing, writing, written_as
from salttide.core.basics.number_text import DecimalSign, short, show_number, significant
from salttide.core.basics.phrasing import clock_words, date_words, day_words
from salttide.core.judgement.findings import judge_situation
from tests.core.test_findings import SITUATIONS, described

DAY = date(2026, 11, 24)
COMMA = Writing(DecimalSign.COMMA)


class Written(unittest.TestCase):
    def test_numbers(self):
        with written_as(COMMA):
            self.assertEqual((show_number(-8.25, 2), short(2.50), significant(1669.5049)), ("−8,25", "2,5", "1669,5"))
        self.assertEqual(show_number(8.25, 2), "8.25")

    def test_dates_and_times(self):
        cases = [
            (Writing(), "Tue 24 Nov", "24 Nov 2026", "17:05"),
            (Writing(days=DayOrder.MONTH_FIRST), "Tue Nov 24", "Nov 24, 2026", "17:05"),
            (Writing(days=DayOrder.ISO), "Tue 2026-11-24", "2026-11-24", "17:05"),
            (Writing(clock=ClockHours.HALF), "Tue 24 Nov", "24 Nov 2026", "5:05 pm"),
        ]
        for how, day, dated, clock in cases:
            with self.subTest(how=how), written_as(how):
                self.assertEqual((day_words(DAY), date_words(DAY), clock_words(time(17, 5))), (day, dated, clock))
        self.assertEqual((clock_words(time(0, 5)), writing()), ("00:05", Writing()))

    def test_ranges_in_errors(self):
        with written_as(COMMA), self.assertRaises(DomainError) as raised:
            check_range("salinity", 99.5, "ppt", 0.5, 45)
        self.assertIn("salinity of 99,5 ppt is not possible here: 0,5 to 45 ppt", raised.exception.message)

    def test_no_point_is_left_between_digits_in_anything_that_is_judged(self):
        for told in SITUATIONS:
            with written_as(COMMA):
                judged = judge_situation(described(told))
            for finding in (*judged.findings, *(waiting.finding for waiting in judged.waiting)):
                with self.subTest(told.sentence, rule=finding.rule):
                    text = " ".join((finding.words, finding.reason, finding.advice, finding.unless, *finding.looked_at))
                    self.assertNotRegex(text, r"\d\.\d")
