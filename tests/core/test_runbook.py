"""The match gate, and the steps at the tank."""

import unittest
from typing import ClassVar

from salttide.core.additives import AlkalinitySource
from salttide.core.catalogue import runbook
from salttide.core.errors import DomainError, GateError, InputError
from salttide.core.job import Job, planned_events
from salttide.core.match import match_gate
from salttide.core.parameters import Parameter
from salttide.core.runbook import Answer, AnswerKind, check_answer, outcome, progress
from salttide.core.system import Limits
from tests.core.cases import KITTIWAKE, NOW, dkh

T, S, A = Parameter.TEMPERATURE, Parameter.SALINITY, Parameter.ALKALINITY
BOOK = runbook("water_change")


def job(**changes) -> Job:
    """40 of 400 L: 10 %. System 25.4 °C, 34.8 ppt, 8.0 dKH; batch planned at 25.4 °C, 35.0 ppt, 8.5 dKH, dosed."""
    base = {
        "system_id": 1, "volume_l": 400.0, "litres": 40.0, "buckets": 3, "bucket_l": 15.0, "mark_cm": 5.9,
        "temperature_c": 25.4, "least_temperature_c": 22.4, "salt": KITTIWAKE, "mass_g": 1484.0,
        "source": AlkalinitySource.SODA_ASH, "batch_dose_g": 0.5, "system_dose_g": 0.0,
        "before": {T: 25.4, S: 34.8, A: dkh(8.0)}, "incoming": {S: 35.0, A: dkh(8.5), Parameter.NITRATE: 0.0},
        "limits": Limits(), "gear": {"heater": "heater", "return_pump": "return pump"}, "siphon": True,
        "close": False, "units": {},
    }  # fmt: skip
    return Job(**{**base, **changes})


def gate(measured, **changes):
    return {line.parameter: line for line in match_gate(job(**changes), measured)}


class MatchGate(unittest.TestCase):
    GOOD: ClassVar = {T: 25.0, S: 35.1, A: dkh(8.4)}

    def test_a_batch_as_planned_is_met(self):
        self.assertTrue(all(line.met for line in gate(self.GOOD).values()))

    def test_what_is_not_measured_is_asked_for(self):
        lines = gate({T: 25.0})
        self.assertEqual((lines[S].met, lines[S].correction), (False, "measure the batch's salinity"))
        self.assertNotIn(A, gate({T: 25.0, S: 35.0}, batch_dose_g=0.0))

    def test_too_cold_says_how_far_to_go(self):
        # Least 22.4 °C: 1.8 to go from 20.6.
        self.assertEqual(gate(self.GOOD | {T: 20.6})[T].correction, "heat on: 1.8 °C to go")
        self.assertTrue(gate(self.GOOD | {T: 22.5})[T].met)

    def test_too_warm_is_the_plume_not_only_the_system(self):
        # 28.5 is 3.1 above the system: 0.1 too warm, though 10 % of it moves the system only 0.31 °C.
        self.assertEqual(gate(self.GOOD | {T: 28.5})[T].correction, "wait: 0.1 °C too warm")

    def test_the_plume_bounds_salinity_at_2_ppt(self):
        # 36.7 moves the system by 0.19 at 10 %, as planned; it is 1.9 away: met. 36.9 is 2.1 away: not met.
        self.assertTrue(gate(self.GOOD | {S: 36.7})[S].met)
        self.assertFalse(gate(self.GOOD | {S: 36.9})[S].met)

    def test_a_weak_batch_gets_its_grams(self):
        # 32.0 to 35.0 in 40 L: 40 x 1.02107 x 1000 x 3.01414 / (969.95 - 35.165) = 131.7 g.
        self.assertIn("add 132 g Kittiwake Standard", gate(self.GOOD | {S: 32.0})[S].correction)

    def test_a_strong_batch_gets_its_litres(self):
        # 38.5 to 35.0 in 40 L: 40 x 3.5 / 38.5 = 3.6 L.
        self.assertIn("take 3.6 L out", gate(self.GOOD | {S: 38.5})[S].correction)

    def test_alkalinity_too_low_gets_its_dose_too_high_its_bound(self):
        # 10 % of a batch at 5.0 instead of 8.5 leaves the system 0.35 dKH short: over 0.3. 3.5 x 40 / 2.80385 x
        # 52.994 / 1000 = 2.6 g.
        self.assertIn("add 2.6 g soda ash", gate(self.GOOD | {A: dkh(5.0)})[A].correction)
        # At 12.0: planned +0.05, tolerance 0.3, so 0.35 of a gap of 4.0: 400 x 0.35 / 4.0 = 35.0 L.
        self.assertIn("use at most 35.0 L", gate(self.GOOD | {A: dkh(12.0)})[A].correction)

    def test_a_change_beyond_the_method_asks_for_half_the_tolerance(self):
        low = self.GOOD | {A: dkh(6.5)}  # leaves the system 0.2 dKH short
        self.assertTrue(gate(low)[A].met)
        self.assertFalse(gate(low, close=True)[A].met)


def say(step, kind, item="", value=None, text=""):
    return Answer(step, AnswerKind(kind), item, value, text)


class AtTheTank(unittest.TestCase):
    def setUp(self):
        self.job, self.said = job(), []

    def tell(self, *answers):
        for answer in answers:
            check_answer(BOOK, self.job, self.said, answer)
            self.said.append(answer)

    def to_drain(self):
        self.tell(say("look", "done"))
        self.tell(*(say("batch", "measured", p, v) for p, v in ((T, 25.0), (S, 35.1), (A, dkh(8.4)))))
        self.tell(
            say("batch", "done"), say("off", "tick", "heater"), say("off", "tick", "return_pump"), say("off", "done")
        )

    def to_end(self):
        self.to_drain()
        self.tell(say("drain", "litres", value=15), say("drain", "litres", value=23), say("drain", "tick", "siphon"))
        self.tell(say("drain", "done"), say("refill", "litres", value=38), say("refill", "done"))
        self.tell(
            say("on", "tick", "heater"), say("on", "tick", "return_pump"), say("on", "done"), say("again", "done")
        )

    def test_the_steps_that_apply(self):
        names = [state.step.id for state in progress(BOOK, self.job, []).states]
        self.assertEqual(names, ["look", "batch", "off", "drain", "refill", "on", "again"])
        dosed = [state.step.id for state in progress(BOOK, job(system_dose_g=5.0), []).states]
        self.assertIn("dose", dosed)

    def test_a_gate_that_is_not_met_stops_and_says_what_is_missing(self):
        self.tell(say("look", "done"), say("batch", "measured", T, 25.0), say("batch", "measured", S, 32.0))
        with self.assertRaises(GateError) as raised:
            self.tell(say("batch", "done"))
        self.assertIn("add 132 g", raised.exception.missing[0])

    def test_an_override_needs_a_reason_and_falls_with_a_new_measurement(self):
        self.tell(say("look", "done"), say("batch", "measured", S, 32.0))
        with self.assertRaises(InputError):
            self.tell(say("batch", "override", text=" "))
        self.tell(say("batch", "override", text="heater failed, animals in danger"), say("batch", "measured", S, 31.0))
        with self.assertRaises(GateError):
            self.tell(say("batch", "done"))
        self.tell(say("batch", "override", text="still the same"), say("batch", "done"))

    def test_the_lists_cannot_be_skipped_silently(self):
        self.tell(say("look", "done"), say("batch", "override", text="measured by hand"), say("batch", "done"))
        self.tell(say("off", "tick", "heater"))
        with self.assertRaises(GateError) as raised:
            self.tell(say("off", "done"))
        self.assertEqual(raised.exception.missing, ("return pump",))

    def test_still_off_until_ticked_on(self):
        self.to_drain()
        self.assertEqual(progress(BOOK, self.job, self.said).still_off(), {"heater", "return_pump"})

    def test_litres_are_counted_and_undone(self):
        self.to_drain()
        self.tell(say("drain", "litres", value=15), say("drain", "litres", value=5.5), say("drain", "undo"))
        self.assertEqual(progress(BOOK, self.job, self.said).current.total_l, 15)
        with self.assertRaises(DomainError):
            self.tell(say("drain", "litres", value=-3))
        with self.assertRaises(DomainError):
            self.tell(say("drain", "litres", value=390))

    def test_nothing_drained_is_not_done(self):
        self.to_drain()
        with self.assertRaises(GateError):
            self.tell(say("drain", "done"))

    def test_steps_go_in_order_and_can_be_opened_again(self):
        with self.assertRaises(GateError):
            self.tell(say("drain", "done"))
        self.to_drain()
        self.tell(say("batch", "reopen"))
        now = progress(BOOK, self.job, self.said)
        self.assertEqual(now.current.step.id, "batch")
        self.assertEqual(now.current.measured[S], 35.1)

    def test_the_outcome_is_what_was_really_done(self):
        self.to_end()
        result = outcome(BOOK, self.job, self.said)
        self.assertEqual((result.out_l, result.in_l, result.siphoned), (38, 38, True))
        self.assertEqual(result.incoming[S], 35.1)
        self.assertAlmostEqual(result.incoming[A], dkh(8.4))
        self.assertNotIn(T, result.incoming)

    def test_unfinished_work_has_no_outcome(self):
        self.to_drain()
        with self.assertRaises(GateError):
            outcome(BOOK, self.job, self.said)

    def test_a_planned_job_is_what_the_forecast_counts(self):
        # 5.2994 g soda ash are 0.05 mol x 2 eq = 100 meq.
        change, dose = planned_events(job(system_dose_g=5.2994), NOW)
        self.assertEqual((change.out_l, change.incoming[S]), (40.0, 35.0))
        self.assertAlmostEqual(dose.amounts[A], 100, delta=0.01)
