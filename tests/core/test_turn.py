"""A turn: a line that bends and does not break, laid through the mass balance."""

import unittest
from datetime import timedelta

import numpy as np

from salttide.core.estimate.turn import turn_of
from salttide.core.ledger.entries import Dose
from salttide.core.science.parameters import FACTS, Parameter
from tests.core.cases import NOW, change, ledger, reading

ALK = Parameter.ALKALINITY
SD = FACTS[ALK].sd


def bent(turn, by, days, instrument="kit", start=3.0, before=-0.01):
    """Readings on a line that falls by 0.01 a day and, from `turn` days ago, by so much more."""
    first = max(days)
    return [
        reading(ALK, start + before * (first - ago) + by * max(0, turn - ago), ago, instrument, 100 - ago)
        for ago in sorted(days, reverse=True)
    ]


def least(days, turn):
    """What a bend has to come to for three deviations: from the inverse of X'X for start, rate and bend."""
    rows = np.array([(1, max(days) - ago, max(0, turn - ago)) for ago in days]) / SD
    return 3 * np.linalg.inv(rows.T @ rows)[2, 2] ** 0.5


class Turns(unittest.TestCase):
    def test_exact_readings_give_the_moment_and_both_rates(self):
        for days in (4, 8, 14, 20, 28):
            with self.subTest(days=days):
                found = turn_of(ledger(*bent(days, -0.05, range(46, -1, -2))), ALK, NOW)
                self.assertEqual(found.at, NOW - timedelta(days=days))
                self.assertAlmostEqual(found.before, -0.01)
                self.assertAlmostEqual(found.after, -0.06)

    def test_a_reading_a_day_is_more_than_is_used(self):
        found = turn_of(ledger(*bent(14, -0.05, range(54))), ALK, NOW)
        self.assertLess(abs(found.at - (NOW - timedelta(days=14))), timedelta(days=2.5))
        self.assertEqual(sum(found.counts), 24)

    def test_doses_and_changes_are_taken_off(self):
        # 5 meq in 100 L each noon lift what falls by 0.05 a day; and a change of 20 L brings 2.5 on day 22 before now.
        days, level, series = range(40, -1, -4), 3.0, []
        doses = [Dose(NOW - timedelta(days=d - 0.5), "soda", 1.0, {ALK: 5.0}, True, 300 + d) for d in range(1, 41)]
        for ago in range(40, -1, -1):
            if ago in days:
                series.append(reading(ALK, level, ago, entry=100 - ago))
            if ago == 22:
                level = 0.8 * level + 0.2 * 2.5
            level += 0.05 - (0.05 if ago > 12 else 0.11)
        found = turn_of(ledger(*series, *doses, change(22 - 1e-6, 20, 90, alkalinity=2.5)), ALK, NOW)
        self.assertEqual(found.at, NOW - timedelta(days=12))
        self.assertAlmostEqual(found.before, -0.05, places=4)
        self.assertAlmostEqual(found.after, -0.11, places=4)
        self.assertEqual(found.counts, (8, 3))

    def test_it_takes_three_deviations(self):
        days, turn = range(36, -1, -4), 8
        bar = least(days, turn)
        found = turn_of(ledger(*bent(turn, -1.02 * bar, days)), ALK, NOW)
        self.assertEqual(found.at, NOW - timedelta(days=turn))
        self.assertIsNone(turn_of(ledger(*bent(turn, -0.98 * bar, days)), ALK, NOW))
        self.assertIsNotNone(turn_of(ledger(*bent(turn, 1.02 * bar, days)), ALK, NOW), "either way")

    def test_one_bad_result_is_none(self):
        days = range(36, -1, -4)
        for place in (-1, -2):
            line = bent(8, 0.0, days)
            off = reading(ALK, line[place].value - 8 * SD, 0 if place == -1 else 4, entry=line[place].id)
            self.assertIsNone(turn_of(ledger(*[one for one in line if one.id != off.id], off), ALK, NOW))

    def test_where_readings_scatter_by_more_than_is_stated_that_counts(self):
        # Every other reading is three scatters off: what is seen is three times what is stated.
        days, turn = range(36, -1, -4), 12
        line = bent(turn, -1.5 * least(days, turn), days)
        self.assertIsNotNone(turn_of(ledger(*line), ALK, NOW))
        shaken = [
            reading(ALK, one.value + (3 if number % 2 else -3) * SD, 36 - 4 * number, entry=one.id)
            for number, one in enumerate(line)
        ]
        self.assertIsNone(turn_of(ledger(*shaken), ALK, NOW))

    def test_two_tests_over_four_days_have_to_follow(self):
        self.assertIsNone(turn_of(ledger(*bent(4, -0.5, range(36, -1, -4))), ALK, NOW), "one test since")
        found = turn_of(ledger(*bent(2, -0.5, [*range(36, 3, -4), 3, 2, 1, 0])), ALK, NOW)
        self.assertEqual(found.at, NOW - timedelta(days=4), "what began two days ago is told from four on")

    def test_and_four_over_six_days_stand_before(self):
        self.assertIsNone(turn_of(ledger(*bent(8, -0.5, (16, 12, 8, 4, 0))), ALK, NOW))
        self.assertIsNotNone(turn_of(ledger(*bent(8, -0.5, (20, 16, 12, 8, 4, 0))), ALK, NOW))

    def test_what_is_long_ago_is_no_news(self):
        days = range(54, -1, -2)
        self.assertIsNotNone(turn_of(ledger(*bent(28, -0.1, days)), ALK, NOW))
        found = turn_of(ledger(*bent(40, -0.1, days)), ALK, NOW)
        self.assertTrue(found is None or found.at >= NOW - timedelta(days=28))

    def test_only_the_instrument_used_last(self):
        old = bent(20, 0.0, range(54, 20, -4), "old", start=3.4)
        new = bent(8, 0.0, range(20, -1, -4), "new", start=2.9)
        self.assertIsNone(turn_of(ledger(*old, *new), ALK, NOW))

    def test_nothing_measured(self):
        self.assertIsNone(turn_of(ledger(), ALK, NOW))
