"""Cycling: phases estimated from the tests, the proof, the first change, the stages of stock.

Scatter of the tests: ammonia and nitrite 0.1 mg/L, so that up to 0.2 counts as below detection; nitrate 1, so up to 2.
"""

import unittest
from dataclasses import dataclass, field
from datetime import date
from itertools import pairwise

from salttide.core.judgement.cycling import Phase, alkalinity_used_meq_l, breaking_in, missing_for_the_end
from salttide.core.judgement.scenario import situation_described
from salttide.core.science.parameters import Parameter


def evenings(*rows: tuple[float, float, float], nitrate: float | None = None) -> list[tuple]:
    """(days ago, ammonia, nitrite) of some evenings; nitrate at the last."""
    names = ("ammonia", "nitrite")
    found = [(name, row[place], row[0]) for row in rows for place, name in enumerate(names, 1)]
    return found + ([("nitrate", nitrate, rows[-1][0])] if nitrate is not None else [])


@dataclass
class Told:
    """A sentence, what is known, and the phase; words that must be said."""

    sentence: str
    readings: list[tuple]
    phase: Phase
    doses: list[tuple] = field(default_factory=list)
    says: tuple[str, ...] = ()
    proof: int = 0


AMMONIA_DOSED = [(17, {"ammonia": 2.0})]
TWICE = [(20, {"ammonia": 2.0}), (3, {"ammonia": 1.5}), (1, {"ammonia": 1.5})]
SITUATIONS = [
    Told("Nothing was tested.", [], Phase.START, says=("source of ammonia",)),
    Told("Tested once, nothing found, nothing dosed.", evenings((1, 0.0, 0.0)), Phase.PROVING, says=("weaker "
                                                                                                  "proof",), proof=1),
    Told("Dosed and measured: 2 mg/L.", evenings((1, 2.0, 0.0)), Phase.AMMONIA, [(2, {"ammonia": 2.0})]),
    Told("Ammonia from dying rock still rises.", evenings((5, 0.4, 0.0), (3, 0.9, 0.1), (1, 1.4, 0.1)), Phase.AMMONIA),
    Told("Ammonia past its peak, nitrite still rising.", evenings((9, 2.0, 0.0), (5, 1.6, 0.4), (1, 0.8, 1.2)),
         Phase.NITRITE,
         AMMONIA_DOSED, says=("Ammonia is past its peak, nitrite near its peak", "nitrate tests read too high")),
    # 2.0 and 1.8 differ by less than twice the joint scatter of 0.14: not yet past the peak.
    Told("Ammonia a little lower, within the scatter.", evenings((3, 2.0, 0.0), (1, 1.8, 0.2)),
         Phase.AMMONIA, AMMONIA_DOSED),
    Told("Ammonia gone, nitrite at its highest.", evenings((9, 2.0, 0.1), (5, 0.9, 1.4), (1, 0.1, 2.4)), Phase.NITRITE,
         AMMONIA_DOSED, says=("Ammonia is gone, nitrite is near its peak",)),
    Told("Ammonia gone, nitrite falling.", evenings((9, 0.9, 1.4), (5, 0.1, 2.4), (1, 0.0, 1.2)), Phase.NITRITE,
         AMMONIA_DOSED, says=("nitrite falls",)),
    Told("Both gone after one dose, none repeated.", evenings((5, 0.1, 1.5), (1, 0.0, 0.1), nitrate=12), Phase.PROVING,
         AMMONIA_DOSED, says=("0 of 2 measured doses", "test ammonia and nitrite a day later")),
    Told("The second dose was gone a day later.", evenings((4, 0.0, 0.1), (2, 0.1, 0.1), nitrate=15), Phase.PROVING,
         [(20, {"ammonia": 2.0}), (3, {"ammonia": 1.5})], says=("1 of 2",), proof=1),
    Told("Two doses gone a day later, and nitrate is there.",
         evenings((4, 0, 0), (2, 0.1, 0.1), (0, 0.1, 0.0), nitrate=30),
         Phase.FINISHED, TWICE, says=("Finished",), proof=2),
    Told("Two doses gone, but no nitrate was found.", evenings((4, 0, 0), (2, 0.1, 0.1), (0, 0.1, 0.0), nitrate=0),
         Phase.PROVING, TWICE, says=("Nitrate has to be found too",), proof=2),
    Told("The second was tested two days later: that proves nothing.",
         evenings((4, 0, 0), (2, 0.1, 0.1), (0, 0, 0), nitrate=30),
         Phase.PROVING, [(20, {"ammonia": 2.0}), (3, {"ammonia": 1.5}), (2, {"ammonia": 1.5})], proof=1),
    Told("The second left nitrite behind.", evenings((4, 0, 0), (2, 0.1, 0.1), (0, 0.1, 0.6), nitrate=30),
         Phase.NITRITE,
         TWICE, proof=1),
    Told("A pinch of 0.2 mg/L is no measured dose.", evenings((4, 0.5, 0.3), (1, 0.0, 0.0), nitrate=5), Phase.PROVING,
         [(2, {"ammonia": 0.2})], says=("weaker proof",), proof=1),
    Told("No dose; three clean tests over eight days after a peak.",
         evenings((20, 0.6, 0.1), (14, 0.1, 0.5), (9, 0.0, 0.1), (5, 0.1, 0.0), (1, 0.0, 0.0), nitrate=8),
         Phase.FINISHED,
         says=("weaker proof",), proof=3),
    Told("No dose; three clean tests within four days.",
         evenings((20, 0.6, 0.1), (5, 0.0, 0.1), (3, 0.1, 0.0), (1, 0.0, 0.0), nitrate=8), Phase.PROVING, proof=2),
    Told("A clean row broken by a trace counts from anew.",
         evenings((20, 0.6, 0.1), (9, 0.0, 0.1), (5, 0.3, 0.0), (1, 0.0, 0.0), nitrate=8), Phase.PROVING, proof=1),
]  # fmt: skip


def state_of(told: Told, **more):
    return breaking_in(situation_described(told.readings, doses=told.doses, stage="breaking_in", age_days=20, **more))


class Phases(unittest.TestCase):
    def test_each_is_told_from_its_tests(self):
        for told in SITUATIONS:
            with self.subTest(told.sentence):
                state = state_of(told)
                self.assertEqual(state.phase, told.phase)
                self.assertEqual(state.proof.done, told.proof)
                text = f"{state.words} {state.reason}"
                for words in told.says:
                    self.assertIn(words, text)
                self.assertEqual(state.day, 20)
                self.assertEqual(missing_for_the_end(state) == "", told.phase == Phase.FINISHED)

    def test_what_to_test_next_and_when(self):
        # Noon of 24 November; every second day, daily while proving.
        rising = state_of(SITUATIONS[3])
        self.assertEqual((rising.tests, rising.test_on), ((Parameter.AMMONIA, Parameter.NITRITE), date(2026, 11, 25)))
        proving = state_of(SITUATIONS[8])
        self.assertIn(Parameter.NITRATE, proving.tests)
        self.assertEqual(proving.test_on, date(2026, 11, 24))


class Finished(unittest.TestCase):
    def test_the_first_change_is_sized_to_the_nitrate_found(self):
        # 30 to 10 mg/L with clean water: two thirds; 5 asks for none; 300 for at most eight tenths.
        for nitrate, fraction in ((30, 2 / 3), (5, 0.0), (300, 0.8)):
            readings = evenings((4, 0, 0), (2, 0.1, 0.1), (0, 0.1, 0.0), nitrate=nitrate)
            state = breaking_in(situation_described(readings, doses=TWICE, stage="breaking_in"))
            with self.subTest(nitrate=nitrate):
                self.assertEqual(state.phase, Phase.FINISHED)
                self.assertAlmostEqual(state.change_fraction, fraction)

    def test_stock_comes_in_stages_each_with_its_watch(self):
        stages = state_of(SITUATIONS[10]).stages
        self.assertEqual(stages[0].from_day, date(2026, 11, 25))
        self.assertEqual([day.isoformat() for day in stages[0].watch], ["2026-11-26", "2026-11-28", "2026-12-02"])
        gaps = [(later.from_day - earlier.from_day).days for earlier, later in pairwise(stages)]
        self.assertEqual(gaps, [14, 14, 32], "after the first change, two weeks, four weeks and two months")
        self.assertEqual(state_of(SITUATIONS[3]).stages, ())


class Bounds(unittest.TestCase):
    """Where a proof begins to count."""

    def proof(self, *readings, doses=()):
        return breaking_in(situation_described(list(readings), doses=list(doses), stage="breaking_in")).proof

    def test_nitrite_that_is_found_says_that_it_has_begun_though_no_ammonia_was(self):
        readings = evenings((5, 0.0, 0.5), (1, 0.0, 1.0))
        self.assertEqual(breaking_in(situation_described(readings, stage="breaking_in")).phase, Phase.NITRITE)

    def test_a_dose_is_proved_by_tests_from_16_to_36_hours_later(self):
        for hours, done in ((15.9, 0), (16, 1), (36, 1), (36.1, 0)):
            ago = 3 - hours / 24
            found = self.proof(("ammonia", 0.0, ago), ("nitrite", 0.0, ago), doses=[(3, {"ammonia": 1.0})])
            self.assertEqual(found.done, done, hours)

    def test_a_dose_is_measured_from_half_a_milligram_on(self):
        for dose, by_dose in ((0.5, True), (0.49, False)):
            found = self.proof(("ammonia", 0.0, 1), ("nitrite", 0.0, 1), doses=[(3, {"ammonia": dose})])
            self.assertEqual(found.by_dose, by_dose)

    def test_three_clean_tests_have_to_span_a_week(self):
        for first, done in ((8, 3), (7.9, 2)):
            clean = [(name, 0.0, day) for day in (first, 4, 1) for name in ("ammonia", "nitrite")]
            self.assertEqual(self.proof(*clean).done, done)

    def test_two_deviations_of_the_kit_are_below_detection(self):
        for value, done in ((0.2, 1), (0.21, 0)):
            found = self.proof(("ammonia", value, 1, "kit", 0.1), ("nitrite", 0.0, 1, "kit", 0.1))
            self.assertEqual(found.done, done)

    def test_three_quarters_of_the_highest_is_near_the_peak(self):
        for last, words in ((3.0, "is near its peak"), (2.95, "falls")):
            readings = [*evenings((9, 2.0, 1.0), (5, 0.5, 4.0)), *evenings((1, 0.0, last))]
            state = breaking_in(situation_described(readings, stage="breaking_in"))
            self.assertIn(words, state.words)


class Water(unittest.TestCase):
    def test_nitrification_takes_two_equivalents_a_mole(self):
        # 17.0305 g/mol: 2 mg/L of NH3 are 0.11744 mmol/L, 0.23488 meq/L, 0.6586 dKH.
        self.assertAlmostEqual(alkalinity_used_meq_l(2.0), 0.23487, places=4)
        told = Told("", evenings((1, 1.0, 0.2)), Phase.AMMONIA, AMMONIA_DOSED)
        self.assertIn("0.7 dKH", state_of(told).alkalinity_words)

    def test_low_alkalinity_is_raised_without_raising_ph(self):
        readings = [*evenings((1, 1.0, 0.2)), ("alkalinity", "6.0 dKH", 1)]
        state = breaking_in(situation_described(readings, stage="breaking_in", bands="breaking_in"))
        self.assertIn("baking soda, which leaves pH alone", state.alkalinity_words)

    def test_the_toxic_part_is_told_where_it_can_be(self):
        full = [*evenings((1, 1.0, 0.2)), ("ph", 8.2, 1), ("salinity", 35.0, 1), ("temperature", 25.0, 1)]
        self.assertAlmostEqual(
            breaking_in(situation_described(full, stage="breaking_in")).toxic_mg_l, 0.0618, delta=0.001
        )  # 6.18 % at pH 8.2, 35 ppt and 25 °C
        self.assertIsNone(state_of(SITUATIONS[3]).toxic_mg_l)
