"""Media and carbon in one system: what is missing, which two tests count, what is begun. By hand."""

import unittest
from dataclasses import replace
from datetime import timedelta

from salttide.core.basics.errors import GateError, InputError
from salttide.core.planning.ramp import CARBON_MMOL_ML, CarbonSource
from salttide.core.planning.ramp_state import (
    RampEntry,
    RampKind,
    RampRequest,
    first_request,
    latest_trend,
    ramp_state,
)
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.system import Stage
from tests.core.cases import BEACON, NOW, TODAY, ledger, reading

PO4, NO3 = Parameter.PHOSPHATE, Parameter.NITRATE
HIGH = ledger(reading(PO4, 0.30, 7), reading(PO4, 0.30), reading(NO3, 30, 7), reading(NO3, 30))
BANDS = {PO4: Span(0.03, 0.1), NO3: Span(2, 15)}
CARBON_METHODS = replace(BEACON.methods, answers={**BEACON.methods.answers, "nitrate_high": "carbon"})
SYSTEM = replace(BEACON, bands=BANDS, methods=CARBON_METHODS, started_on="2026-01-01")
MEDIA, CARBON = RampRequest(RampKind.MEDIA, 100.0), RampRequest(RampKind.CARBON)


def state(request=MEDIA, system=SYSTEM, book=HIGH, phosphate=0.30, last=None):
    return ramp_state(system, book, phosphate, last, request, TODAY)


def media(grams):
    return RampEntry(NOW, "media", grams, 100.0)


class Missing(unittest.TestCase):
    def test_nothing_is_missing(self):
        for request in (MEDIA, CARBON):
            self.assertEqual(state(request).missing, ())

    def test_each_condition_is_said_and_nothing_is_proposed(self):
        for request, words, changes in (
            (MEDIA, "finished cycling", {"system": replace(SYSTEM, stage=Stage.BREAKING_IN)}),
            (MEDIA, "target band for phosphate", {"system": replace(SYSTEM, bands={})}),
            (CARBON, "target band for nitrate", {"system": replace(SYSTEM, bands={})}),
            (MEDIA, "two tests of phosphate", {"book": ledger(reading(PO4, 0.3))}),
            (CARBON, "two tests of nitrate", {"book": ledger(reading(NO3, 30))}),
            (replace(MEDIA, full_g=None), "product's instructions", {}),
            (CARBON, "choose carbon dosing", {"system": replace(SYSTEM, methods=BEACON.methods)}),
            (CARBON, "half a year old: 1 days", {"system": replace(SYSTEM, started_on="2026-05-29")}),
            (CARBON, "skimmer", {"system": replace(SYSTEM, gear=("heater",))}),
        ):
            with self.subTest(words=words):
                found = state(request, **changes)
                self.assertIn(words, " ".join(found.missing))
                self.assertIsNone(found.next)
                with self.assertRaises(GateError):
                    found.begun(NOW)

    def test_carbon_needs_phosphate_known_and_keeps_off_its_floor(self):
        with self.assertRaises(InputError):
            state(CARBON, phosphate=None)
        self.assertEqual(state(CARBON, phosphate=0.03).next.amount, 0.01)
        self.assertEqual(state(CARBON, phosphate=0.029).next.amount, 0.0)
        bare = replace(SYSTEM, bands={NO3: BANDS[NO3]})
        self.assertEqual(state(CARBON, bare, phosphate=0.02).next.amount, 0.01, "without a band its floor is 0.02")
        self.assertEqual(state(CARBON, bare, phosphate=0.019).next.amount, 0.0)


class Tests(unittest.TestCase):
    def test_the_last_test_and_the_latest_half_a_day_before_it(self):
        for hours, expected in ((12.0, 0.2), (11.9, 0.3)):
            found = latest_trend([reading(PO4, 0.3, 7), reading(PO4, 0.2, hours / 24), reading(PO4, 0.1)])
            self.assertEqual((found.before, found.now), (expected, 0.1))
        self.assertAlmostEqual(latest_trend([reading(PO4, 0.3, 0.5), reading(PO4, 0.1)]).days, 0.5)

    def test_far_apart_counts_as_ninety_days(self):
        for days, expected in ((89, 89), (90, 90), (200, 90)):
            self.assertAlmostEqual(latest_trend([reading(PO4, 0.3, days), reading(PO4, 0.1)]).days, expected)

    def test_one_or_none_is_no_trend(self):
        self.assertIsNone(latest_trend([]))
        self.assertIsNone(latest_trend([reading(PO4, 0.3)]))

    def test_two_of_one_hour_propose_nothing(self):
        found = state(book=ledger(reading(PO4, 0.3, 1 / 24), reading(PO4, 0.3)))
        self.assertEqual((found.missing, found.next), ((), None))


class Amounts(unittest.TestCase):
    def test_media_begins_with_a_quarter_and_goes_on_from_what_is_in_use(self):
        self.assertEqual(state().next.amount, 25.0)
        self.assertEqual(state(last=media(25.0)).next.amount, 50.0)
        self.assertEqual(state(last=media(25.0)).amount, 25.0)
        # More in use than the sheet now allows counts as all that it allows.
        self.assertEqual(state(last=media(150.0)).next.amount, 100.0)

    def test_what_is_begun_is_recorded_with_its_sheet_or_its_source(self):
        self.assertEqual(state().begun(NOW), RampEntry(NOW, "media", 25.0, 100.0, "ethanol"))
        acid = replace(CARBON, source=CarbonSource.ACETIC_ACID, full_g=5.0)
        self.assertEqual(state(acid).begun(NOW), RampEntry(NOW, "carbon", 0.01, None, "acetic_acid"))

    def test_amounts_are_said_as_they_are_measured_out(self):
        self.assertEqual(MEDIA.amount_text(37.6, 300.0), "38 g")
        self.assertEqual(MEDIA.amount_text(0.0, 300.0), "none")
        # 0.01 mmol/L in 300 L are 3 mmol; 1 mL of 40 % ethanol holds 0.4 x 0.7893 / 46.069 x 2 = 13.71 mmol.
        self.assertAlmostEqual(CARBON_MMOL_ML[CarbonSource.ETHANOL], 13.706, 2)
        self.assertEqual(CARBON.amount_text(0.01, 300.0), "0.22 mL 40 % ethanol a day")
        # 50 g/L of acetic acid: 2 x 50 / 60.052 = 1.665 mmol/mL.
        acid = replace(CARBON, source=CarbonSource.ACETIC_ACID)
        self.assertEqual(acid.amount_text(0.01, 300.0), "1.80 mL 5 % acetic acid a day")

    def test_it_is_asked_for_as_last_time(self):
        self.assertEqual(first_request(RampKind.MEDIA, media(25.0)), replace(MEDIA, full_g=100.0))
        self.assertEqual(first_request(RampKind.MEDIA, None).full_g, None)
        acid = RampEntry(NOW - timedelta(days=9), "carbon", 0.02, None, "acetic_acid")
        self.assertEqual(first_request(RampKind.CARBON, acid).source, CarbonSource.ACETIC_ACID)
        self.assertEqual(first_request(RampKind.CARBON, replace(acid, source="")).source, CarbonSource.ETHANOL)


if __name__ == "__main__":
    unittest.main()
