"""How sure the estimates are: tests beside what was expected, what instruments do, and what another test tells."""

import unittest
from datetime import timedelta

import numpy as np

from salttide.core.estimate.confidence import (
    above_words,
    beliefs,
    check_due,
    instrument_record,
    instruments_seen,
    narrowed_percent,
    sd_after,
    sure_words,
    test_expected,
    tests_seen,
)
from salttide.core.estimate.forecast import foreseen
from salttide.core.estimate.rate import Rate, rate_of
from salttide.core.estimate.rate_history import rate_history
from salttide.core.science.parameters import FACTS, Parameter
from tests.core.cases import NOW, ZONE, ledger, reading

ALK = Parameter.ALKALINITY
SD = FACTS[ALK].sd
DKH = {ALK: "dKH"}


def line(days, off=lambda ago: 0.0, kit=lambda ago: "kit"):
    """Readings on a line that falls by 0.02 meq/L a day, each off by so much."""
    return [reading(ALK, 3.4 - 0.02 * (40 - ago) + off(ago), ago, kit(ago), 100 - ago) for ago in days]


def told(*readings):
    return rate_of(ledger(*readings), ALK, NOW)


class Seen(unittest.TestCase):
    def test_each_test_but_the_first_has_what_was_expected_of_it(self):
        found = tests_seen(told(*line(range(40, -1, -4))))
        self.assertEqual([test.reading.at for test in found], [NOW - timedelta(days=d) for d in range(36, -1, -4)])
        # On a line itself: the last tests are foretold to a fifth of the scatter, by less than scatter and a half.
        for test in found[-3:]:
            self.assertAlmostEqual(test.expected, test.reading.value, delta=SD / 5)
            self.assertLess(test.sd, 1.5 * SD)
            self.assertLess(test.wrong, 0.1)
            low, high = test.between
            self.assertAlmostEqual(high - low, 2 * 1.2816 * test.sd)

    def test_one_that_went_wrong_is_said_so_and_does_not_tell_of_its_instrument(self):
        rate = told(*line(range(40, -1, -4), off=lambda ago: -0.5 if ago == 16 else 0.0))
        wrong = [test for test in tests_seen(rate) if test.wrong > 0.5]
        self.assertEqual([test.reading.at for test in wrong], [NOW - timedelta(days=16)])
        said = " ".join(beliefs(ALK, rate, ZONE, DKH))
        # 3.4 - 0.48 - 0.5 = 2.42 meq/L are 6.8 dKH.
        self.assertRegex(said, r"The test of Sun 8 Nov, 6\.8 dKH, went wrong: (9\d|more than 99) % likely")
        self.assertEqual(instruments_seen(rate)[0].count, 9)

    def test_scatter_is_what_was_seen_against_what_was_expected(self):
        # Alternately one scatter above and below the line: more than is stated, for each is foretold by the others.
        for times, low, high in ((0.0, 0.0, 0.5), (1.0, 0.8, 1.6)):
            rate = told(*line(range(40, -1, -2), off=lambda ago, t=times: t * SD * (1 if ago % 4 else -1)))
            (one,) = instruments_seen(rate)
            self.assertEqual((one.name, one.count, one.above), ("kit", 20, None))
            self.assertAlmostEqual(one.stated, SD)
            self.assertGreaterEqual(one.scatter / SD, low)
            self.assertLessEqual(one.scatter / SD, high)

    def test_another_instrument_stands_beside_the_last_one(self):
        both = [
            *line(range(40, -1, -4), kit=lambda ago: "T1"),
            *line(range(39, 0, -4), off=lambda ago: 0.2, kit=lambda ago: "T2"),
        ]
        rate = told(*both)
        first, other = instruments_seen(rate)
        self.assertEqual((first.name, first.above, other.name), ("T1", None, "T2"))
        # Ten of each, a day apart, on lines 0.2 apart: to SD · sqrt(1/10 + 1/11) = 0.022 at the best.
        above, sd = other.above
        self.assertAlmostEqual(above, 0.2, delta=0.03)
        self.assertTrue(0.015 < sd < 0.04)
        self.assertRegex(" ".join(beliefs(ALK, rate, ZONE, DKH)), r"T2 reads 0\.6 dKH \(± 0\.\d+ dKH\) above T1\.")

    def test_what_came_unrecorded_does_not_count_as_scatter(self):
        plain = instruments_seen(told(*line(range(40, -1, -4))))[0]
        shifted = instruments_seen(told(*line(range(40, -1, -4), off=lambda ago: 0.4 if ago <= 16 else 0.0)))[0]
        self.assertEqual(shifted.count, plain.count - 1)
        self.assertLess(shifted.scatter, SD)


class InstrumentRecords(unittest.TestCase):
    """Two systems, in one of them two kits."""

    def setUp(self):
        both = [
            *line(range(40, -1, -4), kit=lambda ago: "T1"),
            *line(range(39, 0, -4), off=lambda ago: 0.2, kit=lambda ago: "T2"),
        ]
        self.rates = [told(*both), told(*line(range(40, -1, -4), kit=lambda ago: "T1"))]

    def test_all_systems_count(self):
        record = instrument_record("T1", self.rates)
        # Eleven tests in each system, less the first, of which nothing was expected.
        self.assertEqual((record.count, record.since), (20, NOW - timedelta(days=36)))
        self.assertAlmostEqual(record.stated, SD)
        self.assertLess(record.scatter, SD)

    def test_one_beside_the_other_is_told_from_either_side(self):
        first, other = (instrument_record(name, self.rates).beside for name in ("T1", "T2"))
        self.assertEqual((first[0], other[0]), ("T2", "T1"))
        self.assertAlmostEqual(first[1], -other[1])
        self.assertAlmostEqual(other[1], 0.2, delta=0.03)
        self.assertIsNone(instrument_record("T1", self.rates[1:]).beside)

    def test_one_that_was_not_used(self):
        self.assertIsNone(instrument_record("T3", self.rates))

    def test_when_it_is_to_be_checked(self):
        apart, alone = instrument_record("T2", self.rates), instrument_record("T1", self.rates[1:])
        last_week, long_ago, before = (NOW - timedelta(days=days) for days in (7, 91, 60))
        for record, checked, due in (
            (None, None, False),
            (alone, None, True),
            (alone, NOW - timedelta(days=89), False),
            (alone, long_ago, True),
            (apart, last_week, False),
            (apart, before, True),
        ):
            with self.subTest(checked=checked):
                self.assertEqual(check_due(record, checked, NOW), due)


class Ahead(unittest.TestCase):
    rate = Rate(-0.1, 0.02, -0.126, -0.074, 3.0, 0.03, -0.0003, 0.0, None, 8, NOW, NOW)

    def test_another_test_narrows_as_bayes_has_it(self):
        # Level and rate ahead by five days: seen through (1, 5), with a scatter of 0.05.
        prior = np.array([[0.03**2, -0.0003], [-0.0003, 0.02**2]])
        sees = np.array([1.0, 5.0])
        after = prior - np.outer(prior @ sees, prior @ sees) / (sees @ prior @ sees + 0.05**2)
        self.assertAlmostEqual(sd_after(self.rate, 5.0, 0.05), after[1, 1] ** 0.5)
        self.assertAlmostEqual(narrowed_percent(self.rate, 5.0, 0.05), 100 * (1 - after[1, 1] ** 0.5 / 0.02))

    def test_what_a_test_now_should_read(self):
        book = ledger(*line(range(40, 1, -4)))
        expected = foreseen(book, ALK, NOW)
        around = test_expected(book, ALK, NOW)
        self.assertAlmostEqual(around.middle, expected.value)
        # Eight of ten of a normal distribution lie within 1.2816 deviations.
        self.assertAlmostEqual(around.width, 2 * 1.2816 * (expected.sd**2 + SD**2) ** 0.5)
        self.assertIsNone(test_expected(ledger(*line((4, 0))), ALK, NOW))

    def test_words(self):
        self.assertEqual(sure_words(ALK, self.rate, DKH), "falls 0.28 dKH a day (0.21 to 0.35)")
        rising = Rate(0.1, 0.02, 0.074, 0.126, 3.0, 0.03, 0.0, 0.0, None, 8, NOW, NOW)
        self.assertEqual(sure_words(ALK, rising, DKH), "rises 0.28 dKH a day (0.21 to 0.35)")
        self.assertEqual(above_words(Parameter.CALCIUM, (12.0, 0.0), {}), "12 mg/L (± 0.0 mg/L) above")

    def test_how_the_rate_goes_on_adds_up(self):
        rate = told(*line(range(40, -1, -4)))
        self.assertAlmostEqual(sum(rate.account.ways.values()), 1.0)
        self.assertRegex(beliefs(ALK, rate, ZONE, DKH)[0], r"^The rate is steady \(\d\d %\)")


class History(unittest.TestCase):
    def test_each_fortnight_from_what_was_known_by_then(self):
        book = ledger(*line(range(196, -1, -7)))
        found = rate_history(book, ALK, NOW)
        self.assertEqual([point.at for point in found], [NOW - timedelta(weeks=w) for w in range(24, -1, -2)])
        for point in found:
            self.assertTrue(point.low <= -0.02 <= point.high)
            self.assertEqual(point.per_day, rate_of(book, ALK, point.at).per_day)

    def test_nothing_is_told_long_after_the_last_test(self):
        found = rate_history(ledger(*line(range(100, 35, -7))), ALK, NOW)
        # The last test was 37 days ago: three weeks later, 16 days ago, no more.
        self.assertEqual(found[-1].at, NOW - timedelta(weeks=4))
