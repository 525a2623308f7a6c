"""What happens between readings, and stories that explain them: against hand calculation and closed forms."""

from __future__ import annotations

import unittest
from contextlib import ExitStack
from datetime import timedelta
from math import log, sqrt
from unittest.mock import patch

import numpy as np

from salttide.core.estimate import stories
from salttide.core.estimate.gaps import Gap, gaps_of
from salttide.core.estimate.rate import _moment
from salttide.core.estimate.stories import LEVEL, RATE, Priors, followed
from salttide.core.ledger.entries import Dose
from salttide.core.science.parameters import Parameter
from salttide.fishroom.trials import ALKALINITY, Trial, run
from tests.backtest import least_error
from tests.core.cases import NOW, change, ledger, reading

ALK = Parameter.ALKALINITY


class Gaps(unittest.TestCase):
    def test_four_days_with_a_dose_and_a_quarter_changed(self):
        # 100 L: at day 1 a dose of 20 meq (0.2 meq/L), at day 3 a quarter changed for 3.0.
        book = ledger(
            reading(ALK, 3.0, 4, entry=1),
            Dose(NOW - timedelta(days=3), "soda", 1.0, {ALK: 20.0}, id=2),
            change(1, 25, 3, alkalinity=3.0),
            reading(ALK, 3.0, 0, entry=4),
        )
        (gap,) = gaps_of(book.of(ALK), book, ALK)
        self.assertAlmostEqual(gap.days, 4)
        self.assertAlmostEqual(gap.kept, 0.75)
        # (0 + 0.2) · 0.75 + 0.25 · 3.0.
        self.assertAlmostEqual(gap.brought, 0.9)
        # Three days of rate, of which a quarter is lost, and one more; of a trend 3²/2 · 0.75 + 3 · 1 + 1/2.
        self.assertAlmostEqual(gap.by_rate, 3 * 0.75 + 1)
        self.assertAlmostEqual(gap.by_trend, 4.5 * 0.75 + 3.5)
        # From day 2 on: one day, of which a quarter is lost, and one more.
        self.assertAlmostEqual(gap.by_half, 0.75 + 1)
        # A random walk of the rate for t days: t³/3, t²/2, t; at day 3: 9, 4.5, 3, then 5.0625, 3.375, 3; a day later
        # 5.0625 + 2 · 3.375 + 3 + 1/3, 3.375 + 3 + 1/2, 4.
        for found, expected in zip(gap.wander, (15.145833333, 6.875, 4.0), strict=True):
            self.assertAlmostEqual(found, expected)

    def test_what_is_recorded_at_a_reading_s_own_moment_goes_by_the_order_of_entry(self):
        dose = Dose(NOW - timedelta(days=4), "soda", 1.0, {ALK: 20.0}, id=2)
        for first, brought in ((1, 0.2), (3, 0.0)):
            book = ledger(reading(ALK, 3.0, 4, entry=first), dose, reading(ALK, 3.0, 0, entry=4))
            (gap,) = gaps_of(book.of(ALK), book, ALK)
            self.assertAlmostEqual(gap.brought, brought)


class OneStory(unittest.TestCase):
    """With every other story ruled out, the answer is that of Bayesian linear regression."""

    def setUp(self):
        stack = ExitStack()
        self.addCleanup(stack.close)
        for name, value in {
            "STEADY": 1.0, "TREND": 1e-300, "WANDERING": 1e-300, "STEP_DAYS": 1e300, "UNRECORDED_DAYS": 1e300,
            "P_OUTLIER": 1e-300, "SCATTERS": ((1.0, 1.0),),
        }.items():  # fmt: skip
            stack.enter_context(patch.object(stories, name, value))

    def test_two_instruments_and_a_change(self):
        series = [
            reading(ALK, value, ago, kit, entry=number + 1)
            for number, (value, ago, kit) in enumerate(
                ((3.1, 20, "old"), (2.9, 14, "old"), (2.97, 9, "old"), (2.8, 5, "new"), (2.66, 0, "new"))
            )
        ]
        book = ledger(*series, change(7, 20, 9, alkalinity=3.4))
        found, foretold = followed(series, gaps_of(series, book, ALK), Priors(3.1, -0.03, 0.03, 0.03, 0.2))
        self.assertAlmostEqual(float(found.shares.max()), 1.0)
        best = int(found.shares.argmax())
        # Day by day since the first reading; the change on day 13 keeps 0.8 and brings 0.2 · 3.4.
        sd = series[0].sd
        days = [0, 6, 11, 15, 20]
        start = np.array([1, 1, 1, 0.8, 0.8])
        rate = np.array([0, 6, 11, 13 * 0.8 + 2, 13 * 0.8 + 7])
        known = np.array([0, 0, 0, 0.68, 0.68])
        old = np.array([1, 1, 1, 0, 0])
        self.assertEqual([(series[0].at + timedelta(days=day)) for day in days], [r.at for r in series])
        design = np.stack([start, rate, old], axis=1)
        prior = np.diag([1 / (30 * sd) ** 2, 1 / 0.2**2, 1 / (3 * sd) ** 2])
        measured = np.array([r.value for r in series]) - known
        covariance = np.linalg.inv(design.T @ design / sd**2 + prior)
        mean = covariance @ (design.T @ measured / sd**2 + prior @ np.array([3.1, 0, 0]))
        last = np.array([0.8, rate[-1], 0.0])
        self.assertAlmostEqual(found.means[best, RATE], mean[1])
        self.assertAlmostEqual(found.means[best, LEVEL], last @ mean + 0.68)
        self.assertAlmostEqual(found.spreads[best, RATE, RATE], covariance[1, 1])
        self.assertAlmostEqual(found.spreads[best, LEVEL, LEVEL], last @ covariance @ last)
        self.assertAlmostEqual(found.spreads[best, LEVEL, RATE], last @ covariance[:, 1])
        # What the last reading was expected to be: by the four before it.
        four = np.linalg.inv(design[:4].T @ design[:4] / sd**2 + prior)
        at_four = four @ (design[:4].T @ measured[:4] / sd**2 + prior @ np.array([3.1, 0, 0]))
        self.assertAlmostEqual(foretold[-1].value, last @ at_four + 0.68)
        self.assertAlmostEqual(foretold[-1].sd, (last @ four @ last + sd**2) ** 0.5)

    def test_something_unrecorded_is_one_more_unknown(self):
        values = (3.0, 2.95, 3.3, 3.24, 3.2)
        series = [reading(ALK, value, 20 - 5 * i, entry=i + 1) for i, value in enumerate(values)]
        with patch.object(stories, "UNRECORDED_DAYS", 100.0):
            found, _ = followed(series, gaps_of(series, ledger(*series), ALK), Priors(3.0, 0.0, 0.02, 0.02, 0.2))
        # It came between the second and the third reading, and nothing else did.
        one = int(np.flatnonzero(found.shift == 1)[found.weights[found.shift == 1].argmax()])
        sd = series[0].sd
        design = np.stack([np.ones(5), [0, 5, 10, 15, 20], [0, 0, 1, 1, 1]], axis=1)
        prior = np.diag([1 / (30 * sd) ** 2, 1 / 0.2**2, 1 / (6 * sd) ** 2])
        covariance = np.linalg.inv(design.T @ design / sd**2 + prior)
        mean = covariance @ (design.T @ np.array(values) / sd**2 + prior @ np.array([3.0, 0, 0]))
        self.assertAlmostEqual(found.means[one, stories.SHIFT], mean[2])
        self.assertAlmostEqual(found.spreads[one, stories.SHIFT, stories.SHIFT], covariance[2, 2])
        self.assertAlmostEqual(found.means[one, RATE], mean[1])
        self.assertAlmostEqual(found.spreads[one, RATE, stories.SHIFT], covariance[1, 2])


class Happenings(unittest.TestCase):
    def test_how_likely_they_are_and_what_they_move(self):
        gap = Gap(10.0, 0.8, 0.0, 8.5, 40.0, 4.5, (0, 0, 0))
        nothing, begun, halfway, unrecorded = stories._happenings(gap, 3, 0.02, 0.05, 4)
        # A step once in 200 days, at either of two moments; something unrecorded once in 150.
        self.assertAlmostEqual(nothing.likely, log(1 - 0.05 - 1 / 15))
        self.assertAlmostEqual(begun.likely, log(0.025))
        self.assertAlmostEqual(unrecorded.likely, log(1 / 15))
        self.assertEqual(
            [list(each.moves) for each in (begun, halfway)], [[8.5 * 0.02, 0.02, 0, 0], [4.5 * 0.02, 0.02, 0, 0]]
        )
        self.assertEqual([round(moved, 9) for moved in unrecorded.moves], [0.3, 0, 0, 0.3])
        self.assertEqual((nothing.cut, begun.cut, halfway.cut, unrecorded.cut), (-1, 6, 7, -1))
        self.assertEqual((nothing.shift, begun.shift, unrecorded.shift), (-1, -1, 3))

    def test_in_a_long_gap_no_more_than_a_tenth(self):
        found = stories._happenings(Gap(60.0, 1, 0, 60, 1800, 30, (0, 0, 0)), 0, 0.02, 0.05, 4)
        self.assertAlmostEqual(found[0].likely, log(0.8))

    def test_where_a_cut_is(self):
        series = [reading(ALK, 3.0, ago) for ago in (10, 6, 0)]
        self.assertEqual(_moment(series, 2), NOW - timedelta(days=6))
        self.assertEqual(_moment(series, 3), NOW - timedelta(days=3))


class Limit(unittest.TestCase):
    def test_of_a_straight_line_it_is_that_of_least_squares(self):
        days = [0.0, 4.0, 8.0, 12.0]
        trial = Trial(ALKALINITY, readings=[(day, 8.0, ALKALINITY.kit) for day in days])
        trial.answers = [(1.0, -day, 0.0, 0.0, 0.0) for day in days]
        trial.scatters = [0.15] * 4
        # The sum of squares of days about their mean, 6, is 36 + 4 + 4 + 36.
        self.assertAlmostEqual(least_error(trial), 0.15 / sqrt(80))
        trial.scatters[0] = None
        # Without the first: about 8, 16 + 16.
        self.assertAlmostEqual(least_error(trial), 0.15 / sqrt(32))

    def test_a_tank_answers_to_its_start_and_its_uptake_as_its_changes_let_it(self):
        # Eight weeks, a tenth changed on the fourth day of each, at 0.75: of the start 0.9^8 is left, and of the uptake
        # each stretch of days times what later changes leave of it.
        last = run("steady, often", 0.2, 3).answers[-1]
        self.assertAlmostEqual(last[0], 0.9**8, places=6)
        stretches = [3.75, *[7.0] * 7, 56 - 52.75]
        left = sum(days * 0.9 ** (8 - place) for place, days in enumerate(stretches))
        self.assertAlmostEqual(-last[1], left, delta=0.2)
        self.assertEqual(last[2:], (0.0, 0.0, 0.0))
