"""Verdicts: in band or not, real or noise, with reasons."""

import unittest
from dataclasses import replace
from math import sqrt

from salttide.core.ledger.verdict import Expected, Movement, Position, doubts, judge, position, series
from salttide.core.science.parameters import Parameter, Span
from tests.core.cases import NOW, ZONE, dkh, reading

BAND = Span(dkh(7.5), dkh(9.5))
SD = 0.05  # meq/L, 0.14 dKH


class Positions(unittest.TestCase):
    def test_against_the_band(self):
        # The edge zone is one sd wide, 0.14 dKH, inside either edge.
        cases = [(7.4, Position.BELOW), (7.6, Position.NEAR_LOW), (7.7, Position.IN_BAND), (9.3, Position.IN_BAND),
                 (9.4, Position.NEAR_HIGH), (9.6, Position.ABOVE)]  # fmt: skip
        for value, expected in cases:
            with self.subTest(value=value):
                self.assertEqual(position(dkh(value), SD, BAND), expected)

    def test_at_the_very_edges_of_band_and_zone(self):
        for value, expected in (
            (34, Position.NEAR_LOW), (34.5, Position.IN_BAND), (35.5, Position.IN_BAND), (36, Position.NEAR_HIGH),
        ):  # fmt: skip
            self.assertEqual(position(value, 0.5, Span(34, 36)), expected)

    def test_a_band_narrower_than_the_scatter_still_has_an_inside(self):
        self.assertEqual(position(35.0, 2.0, Span(34.5, 35.5)), Position.IN_BAND)

    def test_without_a_band(self):
        self.assertEqual(position(5, 1, None), Position.NO_BAND)


class Movements(unittest.TestCase):
    def verdict(self, now, before, instrument="kit"):
        earlier = reading(Parameter.ALKALINITY, dkh(before), 3, instrument)
        return judge(reading(Parameter.ALKALINITY, dkh(now)), earlier, BAND, {}, ZONE)

    def test_real_only_beyond_twice_the_joint_scatter(self):
        # Joint sd sqrt(2) x 0.05 meq/L = 0.1983 dKH; twice: 0.397 dKH.
        self.assertAlmostEqual(2 * sqrt(2) * SD * 2.80385, 0.3965, places=4)
        self.assertEqual(self.verdict(8.0, 8.39).movement, Movement.STEADY)
        self.assertEqual(self.verdict(8.0, 8.41).movement, Movement.FELL)
        self.assertEqual(self.verdict(8.41, 8.0).movement, Movement.ROSE)

    def test_the_reasons_say_it_in_words_and_numbers(self):
        verdict = self.verdict(7.2, 8.0)
        self.assertEqual(verdict.words, "below band, falling")
        self.assertEqual(verdict.reasons[0], "7.2 dKH is 0.3 dKH below the band of 7.5–9.5 dKH.")
        self.assertIn("0.8 dKH down since Sat 21 Nov", verdict.reasons[1])
        self.assertIn("it is real", verdict.reasons[1])
        self.assertIn("may be noise", self.verdict(8.0, 8.2).reasons[1])

    def test_two_instruments_are_not_one_series(self):
        verdict = self.verdict(8.0, 9.0, "another kit")
        self.assertEqual(verdict.movement, Movement.NOT_COMPARABLE)
        self.assertIn("two instruments are not one series", verdict.reasons[1])

    def test_out_by_less_than_the_scatter_asks_for_the_test_again(self):
        self.assertIn("repeat the test first", self.verdict(7.4, 7.5).reasons[0])

    def test_in_the_keepers_unit(self):
        units = {Parameter.ALKALINITY: "meq/L"}
        verdict = judge(reading(Parameter.ALKALINITY, 2.5), None, BAND, units, ZONE)
        self.assertEqual(verdict.reasons[0], "2.50 meq/L is 0.17 meq/L below the band of 2.67–3.39 meq/L.")


class Doubts(unittest.TestCase):
    def test_unlikely_for_any_reef(self):
        self.assertIn("unusual", doubts(reading(Parameter.CALCIUM, 700), None, None, {}, ZONE)[0])
        self.assertEqual(doubts(reading(Parameter.CALCIUM, 420), None, None, {}, ZONE), [])

    def test_a_jump_asks_to_repeat_the_test_but_only_soon_and_on_one_instrument(self):
        # 6 x sqrt(2) x 8 mg/L = 67.9 mg/L.
        now = reading(Parameter.CALCIUM, 490)
        self.assertIn("repeat the test", doubts(now, reading(Parameter.CALCIUM, 420, 2), None, {}, ZONE)[0])
        self.assertEqual(doubts(now, reading(Parameter.CALCIUM, 424, 2), None, {}, ZONE), [])
        self.assertEqual(doubts(now, reading(Parameter.CALCIUM, 420, 9), None, {}, ZONE), [])
        self.assertEqual(doubts(now, reading(Parameter.CALCIUM, 420, 2, "other"), None, {}, ZONE), [])

    def test_what_is_not_expected_is_asked_about_with_what_was(self):
        # The kit scatters by 0.15 dKH; with 0.2 dKH of doubt in what is expected they are 0.25 together, and five times
        # that 1.25 dKH; 80 % of results lie within 1.28 times 0.25, 0.32 dKH.
        expected = Expected(dkh(8.1), dkh(0.2), "kit")
        typed = replace(reading(Parameter.ALKALINITY, dkh(9.36)), sd=dkh(0.15), instrument="kit")
        (words,) = doubts(typed, None, expected, {}, ZONE)
        self.assertEqual(
            words, "Expected 8.1 dKH (7.8–8.4 dKH) by the readings and what was recorded since. Is 9.4 dKH right?"
        )
        for value in (9.34, 6.86):
            self.assertEqual(doubts(replace(typed, value=dkh(value)), None, expected, {}, ZONE), [])
        # Another instrument may have its zero elsewhere: three scatters more.
        self.assertEqual(doubts(replace(typed, instrument="other"), None, expected, {}, ZONE), [])

    def test_what_is_unlikely_for_any_reef_is_asked_about_once(self):
        (words,) = doubts(reading(Parameter.CALCIUM, 700), None, Expected(415.0, 5.0, "kit"), {}, ZONE)
        self.assertIn("unusual", words)

    def test_a_jump_that_was_expected_is_none(self):
        # 490 after a dose that brings it there.
        now = reading(Parameter.CALCIUM, 490)
        expected = Expected(488.0, 5.0, now.instrument)
        self.assertEqual(doubts(now, reading(Parameter.CALCIUM, 420, 2), expected, {}, ZONE), [])


class Series(unittest.TestCase):
    def test_compares_with_the_last_of_the_same_instrument(self):
        readings = [
            reading(Parameter.SALINITY, 35, 6),
            reading(Parameter.SALINITY, 33.7, 3, "H1"),
            reading(Parameter.SALINITY, 35.2),
        ]
        last, before = series(readings, NOW)
        self.assertEqual((last.value, before.value), (35.2, 35))

    def test_nothing_measured(self):
        self.assertIsNone(series([], NOW))
