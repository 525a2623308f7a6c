"""Batches of new water: planned, mixed, corrected, shared, stored and used up, against sums done by hand.

Kittiwake Standard: 37.1 g/L of finished water at 35 ppt; 2.95 meq/L, Ca 428, Mg 1315. Density at 25 °C (TEOS-10):
1.02107 at 32, 1.02334 at 35, 1.02409 at 36; dissolved salt 35.16504/35 g/kg a ppt.
"""

import re
import unittest
from dataclasses import dataclass, replace
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError, PlanError, RuleError
from salttide.core.basics.quantities import scoop_words
from salttide.core.ledger.stock import salt_a_week_g, salt_left
from salttide.core.planning.batch import (
    BatchEvent,
    BatchKind,
    Phase,
    age_words,
    batch_state,
    check_event,
    keeps_days,
    keeps_of,
    lesson,
)
from salttide.core.planning.batch_match import batch_gate, correction
from salttide.core.planning.batch_plan import Portion, headroom_l, plan_batch, share_batch
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import Parameter, Span
from tests.core.cases import KITTIWAKE, NOW, PLAINMARK, change, dkh

T, S, A = Parameter.TEMPERATURE, Parameter.SALINITY, Parameter.ALKALINITY
CA, MG = Parameter.CALCIUM, Parameter.MAGNESIUM
SODA, BAKING = AlkalinitySource.SODA_ASH, AlkalinitySource.BAKING_SODA


def batch(litres=45.0, container=60.0, salinity=35.0, targets=None, source=SODA, salt=KITTIWAKE):
    return plan_batch(salt, litres, container, salinity, targets, source)[0]


def event(kind, amount=0.0, minutes=0.0, item="", **values):
    held = {Parameter(name): value for name, value in values.items()}
    return BatchEvent(NOW + timedelta(minutes=minutes), BatchKind(kind), amount, held, item, id=int(minutes))


MIXED = (event("salted", 1669.5), event("resting", minutes=10))


@dataclass
class Came:
    """A batch as it came out, and what brings it to its plan: words that must be said, and what is then recorded."""

    name: str
    measured: dict
    words: tuple
    kinds: tuple = ()
    amounts: tuple = ()
    container: float = 60.0
    targets: dict | None = None
    source: AlkalinitySource = SODA


CAME = [
    Came("as planned", {"salinity": 35.1}, ()),
    Came("not measured", {"temperature": 25.0}, ()),
    # 45 L at 36 in a container of 60: 45 x 36/35 = 46.286, so 1.286 L of fresh water.
    Came("too salty, with room", {"salinity": 36.0}, ("add 1.3 L of fresh water",), ("fresh",), (1.2857,)),
    # In 47.4 L, half of its 2.37 L of headroom may be used: 46.215 L. Kept 46.215 x 35/38 = 42.566: 2.434 out, then
    # 42.566 x 3/35 = 3.649 in.
    Came("too salty, and the container is full", {"salinity": 38.0}, ("take 2.4 L out", "add 3.6 L of fresh water"),
         ("out", "fresh"), (2.4336, 3.6486), container=47.4),
    # 32 to 35: 45 x 1.02107 x 1000 x 3.01414 / (969.95 - 35.165) = 148.2 g.
    Came("too weak", {"salinity": 32.0}, ("add 148 g Kittiwake Standard",), ("salt",), (148.16,)),
    # 0.25 ppt is within the gate's 0.3: nothing.
    Came("a little weak", {"salinity": 34.75}, ()),
    # 2.6 against 2.95 meq/L, 0.35 x 45 L x 52.994 / 1000 = 0.835 g of soda ash.
    Came("alkalinity short", {"salinity": 35.0, "alkalinity": 2.6}, ("add 0.835 g Na2CO3",), ("dosed",), (0.8347,)),
    # The same with baking soda: 0.35 x 45 x 84.007 / 1000 = 1.323 g.
    Came("alkalinity short, baking soda", {"salinity": 35.0, "alkalinity": 2.6}, ("add 1.32 g NaHCO3",), ("dosed",),
         (1.3231,), source=BAKING),
    # Above the plan nothing takes it out.
    Came("alkalinity high", {"salinity": 35.0, "alkalinity": 3.5}, ()),
    # Calcium 400 against 428: 28 mg/L x 45 L = 1.26 g Ca, / 40.078 x 147.01 = 4.622 g of the dihydrate.
    Came("calcium short", {"salinity": 35.0, "calcium": 400.0}, ("add 4.62 g CaCl2·2H2O",), ("dosed",), (4.622,)),
    # Both short: calcium before alkalinity.
    Came("both short", {"salinity": 35.0, "calcium": 400.0, "alkalinity": 2.6},
         ("add 4.62 g CaCl2·2H2O", "add 0.835 g Na2CO3"), ("dosed", "dosed"), (4.622, 0.8347)),
    # Salinity off: that comes first, whatever else is short.
    Came("weak and short", {"salinity": 32.0, "alkalinity": 2.4}, ("add 148 g Kittiwake Standard",), ("salt",),
         (148.16,)),
]  # fmt: skip


class AsItCame(unittest.TestCase):
    def test_each_is_brought_to_its_plan(self):
        for case in CAME:
            job = batch(container=case.container, targets=case.targets, source=case.source)
            state = batch_state(job, (*MIXED, event("measured", minutes=120, **case.measured)))
            found = correction(job, state)
            with self.subTest(case=case.name):
                for words in case.words:
                    self.assertTrue(any(words in line for line in found.words), found.words)
                self.assertEqual(tuple(kind.value for kind, _, _ in found.events), case.kinds)
                for (_, amount, _), expected in zip(found.events, case.amounts, strict=True):
                    self.assertAlmostEqual(amount, expected, delta=expected * 0.003)

    def test_a_correction_that_was_made_brings_it_there(self):
        for measured in (36.4, 35.6, 33.1, 31.0):
            for container in (60.0, 47.4):
                job = batch(container=container)
                happened = [*MIXED, event("measured", minutes=120, salinity=measured)]
                lacks = correction(job, batch_state(job, happened))
                happened += [event(kind, amount, 121 + n, item) for n, (kind, amount, item) in enumerate(lacks.events)]
                after = batch_state(job, happened)
                with self.subTest(measured=measured, container=container):
                    self.assertAlmostEqual(after.holds[S], 35.0, places=2)
                    self.assertLessEqual(after.litres, container)
                    self.assertNotIn(S, after.measured)


class Planned(unittest.TestCase):
    def test_the_salt_and_the_fresh_water_of_a_batch(self):
        # 45 x 37.1 = 1669.5 g; 45 L weigh 46.0503 kg, less 1.6695: 44.3808 kg of water at 0.99705: 44.512 L.
        job = batch()
        self.assertAlmostEqual(job.mass_g, 1669.5, delta=0.5)
        self.assertAlmostEqual(job.fresh_l, 44.512, delta=0.01)

    def test_doses_bring_it_to_what_the_systems_want_in_their_order(self):
        # Alkalinity 3.2 - 2.95 = 0.25 x 45 x 52.994/1000 = 0.596 g; Ca 440 - 428 = 12 x 45 = 0.54 g Ca = 1.981 g;
        # Mg 1330 - 1315 = 15 x 45 = 0.675 g Mg / 24.305 x 203.3 = 5.646 g.
        job = batch(targets={A: 3.2, CA: 440.0, MG: 1330.0})
        self.assertEqual(list(job.doses), ["MgCl2·6H2O", "CaCl2·2H2O", "Na2CO3"])
        for formula, grams in (("Na2CO3", 0.596), ("CaCl2·2H2O", 1.981), ("MgCl2·6H2O", 5.646)):
            self.assertAlmostEqual(job.doses[formula], grams, delta=0.004)
        self.assertEqual((job.incoming[A], job.incoming[CA], job.incoming[MG]), (3.2, 440.0, 1330.0))

    def test_what_the_salt_brings_above_the_target_stays_and_what_it_does_not_say_is_not_dosed(self):
        self.assertEqual(batch(targets={A: 2.5}).doses, {})
        self.assertAlmostEqual(batch(targets={A: 2.5}).incoming[A], 2.95)
        bare = replace(KITTIWAKE, values={})
        self.assertEqual(batch(targets={CA: 440.0}, salt=bare).doses, {})

    def test_a_weaker_batch_holds_less_of_everything(self):
        # 2.95 x 33/35 = 2.7814; 428 x 33/35 = 403.5.
        job = batch(salinity=33.0)
        self.assertAlmostEqual(job.incoming[A], 2.7814, places=3)
        self.assertAlmostEqual(job.incoming[CA], 403.54, delta=0.01)

    def test_the_container_keeps_its_headroom(self):
        self.assertEqual([headroom_l(size) for size in (15.0, 20.0, 60.0, 200.0)], [1.0, 1.0, 3.0, 10.0])
        with self.assertRaises(DomainError) as raised:
            batch(litres=58.0)
        self.assertEqual((raised.exception.field, raised.exception.high), ("litres", 57.0))

    def test_spoons_stand_only_beside_the_grams(self):
        # 1669.5 g at 1.15 g/mL: 1451.7 mL, 6.136 cups of 236.588 mL: 6 1/4 is 1.9 % off.
        # 196 g at 1.1: 178.2 mL, 0.753 cups.
        # 20 mL: a tablespoon (14.787) and a teaspoon (4.929) are 19.72; 45.5 mL: three tablespoons are 44.36.
        for mass, density, words in ((1669.5, 1.15, "about 6¼ cups"), (196.0, 1.1, "about ¾ cup"),
                                     (50.0, 1.1, "about 3 tablespoons"),
                                     (20.0, 1.0, "about 1 tablespoon and 1 teaspoon"), (0.5, 1.1, "")):  # fmt: skip
            self.assertEqual(scoop_words(mass, density), words)

    @given(st.floats(1.5, 5000))
    def test_a_guess_by_the_spoon_is_at_most_5_percent_off(self, millilitres):
        sizes, quarters = {"cup": 236.588, "tablespoon": 14.7868, "teaspoon": 4.92892}, {"¼": 0.25, "½": 0.5, "¾": 0.75}
        told = scoop_words(millilitres, 1.0)
        said = 0.0
        for whole, quarter, noun in re.findall(r"(\d*)([¼½¾]?) (cup|tablespoon|teaspoon)", told):
            said += (int(whole or 0) + quarters.get(quarter, 0.0)) * sizes[noun]
        if told:
            self.assertAlmostEqual(said, millilitres, delta=0.0501 * millilitres)
        else:
            self.assertLess(millilitres, 12)


class Life(unittest.TestCase):
    def state(self, *events, job=None):
        return batch_state(job or batch(), events)

    def test_from_planned_to_used_up(self):
        steps = [
            ((), Phase.PLANNED), ((event("salted", 1669.5),), Phase.MIXING), (MIXED, Phase.RESTING),
            ((*MIXED, event("matched", minutes=130)), Phase.MATCHED),
            ((*MIXED, event("matched", minutes=130), event("used", 40.0, 200)), Phase.LEFT_OVER),
            ((*MIXED, event("used", 40.0, 200), event("used", 5.0, 300)), Phase.USED),
            ((*MIXED, event("used", 40.0, 200), event("thrown", 5.0, 300)), Phase.THROWN),
        ]  # fmt: skip
        for happened, phase in steps:
            with self.subTest(phase=phase):
                self.assertEqual(self.state(*happened).phase, phase)

    def test_what_went_in_after_it_matched_asks_for_another_measurement(self):
        state = self.state(*MIXED, event("measured", minutes=120, salinity=35.0), event("matched", minutes=130),
                           event("fresh", 2.0, 140))  # fmt: skip
        self.assertEqual((state.phase, state.measured), (Phase.RESTING, frozenset()))
        # 35 x 45/47 = 33.51.
        self.assertAlmostEqual(state.holds[S], 33.5106, places=3)
        self.assertEqual(state.litres, 47.0)

    def test_a_batch_that_had_matched_and_is_measured_off_its_plan_no_longer_does(self):
        matched = (*MIXED, event("measured", minutes=120, salinity=35.0), event("matched", minutes=130))
        # The gate's tolerance is 0.3 ppt.
        self.assertEqual(self.state(*matched, event("measured", minutes=140, salinity=35.2)).phase, Phase.MATCHED)
        self.assertEqual(self.state(*matched, event("measured", minutes=140, salinity=36.4)).phase, Phase.RESTING)
        self.assertEqual(self.state(*matched, event("measured", minutes=140, alkalinity=2.0)).phase, Phase.MATCHED)

    def test_less_salt_than_planned_is_a_weaker_batch_until_it_is_measured(self):
        # The salt ran out at 1500 g: 35 x 1500/1669.5 = 31.45.
        state = self.state(event("salted", 1500.0))
        self.assertAlmostEqual(state.holds[S], 31.447, places=2)

    def test_a_dose_raises_what_it_brings(self):
        # 1 g Na2CO3 is 18.870 meq in 45 L: 0.41933 meq/L.
        state = self.state(*MIXED, event("dosed", 1.0, 20, "Na2CO3"))
        self.assertAlmostEqual(state.holds[A], 2.95 + 0.41933, places=4)

    def test_a_weak_batch_is_weak_in_everything_and_its_correction_brings_back_what_was_planned(self):
        # Mixed to 35.0: Ca 430, Mg 1281, 2.71 meq/L (7.6 dKH). Measured 32.0, all of it is 32/35: Ca 393.1, Mg 1171.2,
        # 2.4777. Stirred in and measured 35.0 again it is 430, 1281 and 2.71.
        salt = replace(KITTIWAKE, values={CA: Span(430, 430), MG: Span(1281, 1281), A: Span(2.71, 2.71)})
        job = batch(litres=30.0, salt=salt)
        weak = (event("salted", 1113.0), event("resting", minutes=10), event("measured", minutes=120, salinity=32.0))
        for parameter, expected in ((CA, 393.14), (MG, 1171.2), (A, 2.4777)):
            self.assertAlmostEqual(self.state(*weak, job=job).holds[parameter], expected, delta=expected * 1e-4)
        done = self.state(*weak, event("salt", 105.0, 130), event("measured", minutes=160, salinity=35.0), job=job)
        for parameter, expected in ((CA, 430.0), (MG, 1281.0), (A, 2.71)):
            self.assertAlmostEqual(done.holds[parameter], expected, delta=expected * 1e-6)

    def test_what_was_measured_itself_does_not_follow_the_salinity_and_a_dose_neither(self):
        # Calcium 420 as measured stays. Alkalinity: 2.95 from the salt, 0.41933 from 1 g of soda ash in 45 L; at 32 of
        # 35 ppt: 2.95 x 32/35 + 0.41933 = 3.1165.
        state = self.state(*MIXED, event("dosed", 1.0, 20, "Na2CO3"), event("measured", minutes=30, calcium=420.0),
                           event("measured", minutes=120, salinity=32.0, nitrate=2.0))  # fmt: skip
        self.assertEqual((state.holds[CA], state.holds[Parameter.NITRATE]), (420.0, 2.0))
        self.assertAlmostEqual(state.holds[A], 3.11647, places=4)

    @given(st.floats(0.2, 12), st.floats(350, 480), st.floats(6.5, 11))
    def test_diluting_and_correcting_to_the_first_salinity_gives_the_first_composition(
        self, litres, calcium, alkalinity
    ):
        first = {"salinity": 35.0, "calcium": calcium, "alkalinity": dkh(alkalinity), "magnesium": 1290.0}
        happened = [*MIXED, event("measured", minutes=120, **first), event("fresh", litres, 130)]
        weak = self.state(*happened)
        salt = correction(batch(), replace(weak, measured=frozenset({S})))
        self.assertTrue(salt.events or weak.holds[S] >= 34.7)
        happened += [event(kind, amount, 140 + n, item) for n, (kind, amount, item) in enumerate(salt.events)]
        after = self.state(*happened, event("measured", minutes=150, salinity=35.0))
        for parameter, value in first.items():
            self.assertAlmostEqual(after.holds[Parameter(parameter)], value, delta=value * 1e-6)

    def test_what_cannot_happen_is_refused(self):
        job, planned, mixed = batch(), self.state(), self.state(*MIXED)
        for state, kind, amount, error in (
            (planned, BatchKind.USED, 5.0, RuleError), (planned, BatchKind.MATCHED, 0.0, RuleError),
            (mixed, BatchKind.SALTED, 1669.0, RuleError), (planned, BatchKind.SALTED, 100.0, DomainError),
            (mixed, BatchKind.USED, 60.0, DomainError), (mixed, BatchKind.FRESH, 20.0, DomainError),
            (mixed, BatchKind.SALT, 5000.0, DomainError), (mixed, BatchKind.DOSED, 1.0, InputError),
        ):  # fmt: skip
            with self.subTest(kind=kind, amount=amount), self.assertRaises(error):
                check_event(job, state, kind, amount, "NaOH")
        check_event(job, mixed, BatchKind.DOSED, 1.0, "NaHCO3")
        used = self.state(*MIXED, event("used", 45.0, 30))
        with self.assertRaises(RuleError):
            check_event(job, used, BatchKind.USED, 1.0)

    def test_a_batch_teaches_its_salt_once_before_it_is_corrected(self):
        measured = self.state(*MIXED, event("measured", minutes=120, salinity=34.4, alkalinity=2.9, temperature=25.0))
        found = lesson(measured, event("fresh", 1.0, 130))
        self.assertEqual((found.salinity, dict(found.holds)), (34.4, {A: 2.9}))
        self.assertEqual((found.mass_g, found.volume_l), (1669.5, 45.0))
        self.assertIsNone(lesson(measured, event("measured", minutes=130, alkalinity=2.9)))
        self.assertIsNone(lesson(self.state(*MIXED), event("matched", minutes=130)))
        corrected = self.state(*MIXED, event("measured", minutes=120, salinity=34.4), event("salt", 30.0, 130),
                               event("measured", minutes=150, salinity=35.0))  # fmt: skip
        self.assertIsNone(lesson(corrected, event("matched", minutes=160)))

    @given(st.lists(st.tuples(st.sampled_from(["fresh", "salt", "out", "used"]), st.floats(0.1, 5)), max_size=8))
    def test_no_water_and_no_salt_comes_from_nowhere(self, moves):
        job, happened = batch(), list(MIXED)
        fresh = salt = gone = 0.0
        for number, (kind, amount) in enumerate(moves):
            happened.append(event(kind, amount, 20 + number))
            fresh, salt = fresh + amount * (kind == "fresh"), salt + amount * (kind == "salt")
            gone += amount * (kind in ("out", "used"))
        state = batch_state(job, happened)
        # A litre is taken up by about 2.4 kg of salt at most: 5 g change less than 5 mL.
        self.assertAlmostEqual(state.litres, 45.0 + fresh - gone, delta=0.005 * max(1.0, salt))
        self.assertGreaterEqual(state.holds[S], 0)

    def test_it_keeps_the_shorter_the_more_alkaline_and_the_warmer(self):
        for alkalinity, warm, days in ((7.5, 25, 28), (8.5, 25, 14), (9.5, 25, 7), (10.5, 25, 3), (12.0, 25, 1),
                                       (8.5, 28, 7), (12.0, 28, 1)):  # fmt: skip
            with self.subTest(dkh=alkalinity, warm=warm):
                self.assertEqual(keeps_days(dkh(alkalinity), warm), days)
        self.assertEqual(keeps_of({}), 14)

    def test_its_age_is_told_and_when_it_has_stood_too_long(self):
        # 2.95 meq/L are 8.27 dKH: 14 days.
        state = self.state(*MIXED)
        self.assertEqual(
            age_words(state, NOW + timedelta(hours=5)), ("mixed 5 h ago, keeps about 14 d covered and moving", False)
        )
        words, stale = age_words(state, NOW + timedelta(days=15))
        self.assertTrue(stale)
        self.assertIn("past the 14 d it keeps", words)
        self.assertEqual(age_words(self.state(), NOW), ("", False))


class Gate(unittest.TestCase):
    def lines(self, measured, job=None):
        return {line.parameter: line for line in batch_gate(job or batch(), measured)}

    def test_salinity_and_temperature_are_asked_for(self):
        lines = self.lines({})
        self.assertEqual([line.met for line in lines.values()], [False, False])
        self.assertNotIn(A, lines)
        self.assertIn(A, self.lines({}, batch(targets={A: 3.2})))

    def test_within_its_tolerance_it_is_met(self):
        self.assertTrue(all(line.met for line in self.lines({S: 35.3, T: 24.1}).values()))

    def test_not_met_it_says_what_to_do(self):
        cold = replace(batch(), heater_w=200.0)
        # 5 °C x 45 L x 4.09 kJ / 200 W = 4601 s = 76.7 min.
        self.assertEqual(self.lines({S: 35.0, T: 20.0}, cold)[T].correction, "heat on: 5.0 °C to go, about 77 min")
        self.assertEqual(self.lines({S: 35.0, T: 27.0})[T].correction, "let it cool: 2.0 °C too warm")
        self.assertIn("add 1.3 L of fresh water", self.lines({S: 36.0, T: 25.0})[S].correction)
        self.assertIn("nothing takes it out", self.lines({S: 35.0, T: 25.0, A: 3.6})[A].correction)

    def test_corrections_follow_one_another_each_counting_the_ones_before(self):
        # 33.0 ppt and 2.7 meq/L, planned 35.0 and 2.95: the salt brings 2.7 x 35/33 = 2.8636 (8.0 dKH), within 0.3 dKH.
        line = self.lines({S: 33.0, T: 25.0, A: 2.7})[A]
        self.assertEqual(
            (line.met, line.correction),
            (False, "correct salinity first, which brings it to about 8.0 dKH; then measure again"),
        )
        # 2.5: 2.6515 (7.4 dKH), so 0.2985 x 45 x 52.994/1000 = 0.712 g of soda ash are left; alone it would be 1.07 g.
        line = self.lines({S: 33.0, T: 25.0, A: 2.5})[A]
        self.assertIn("about 7.4 dKH; then add 0.712 g Na2CO3", line.correction)
        # 37.0 and 3.15: fresh water brings 3.15 x 35/37 = 2.98, as planned: nothing is too high.
        self.assertIn("about 8.4 dKH; then measure again", self.lines({S: 37.0, T: 25.0, A: 3.15})[A].correction)

    def test_before_its_doses_a_batch_is_held_against_what_its_salt_brings(self):
        # Planned 3.4 meq/L by 0.45 of soda ash on 2.95: nothing is missing before it; after it, 0.45 are.
        job = batch(targets={A: 3.4})
        self.assertTrue(self.lines({S: 35.0, T: 25.0, A: 2.95}, job)[A].met)
        after = {line.parameter: line for line in batch_gate(job, {S: 35.0, T: 25.0, A: 2.95}, {A: 0.45})}
        # 0.45 x 45 x 52.994 / 1000 = 1.073 g.
        self.assertIn("add 1.07 g Na2CO3", after[A].correction)


class Shared(unittest.TestCase):
    def test_one_batch_for_several_systems_is_thinned_for_those_that_need_it(self):
        # For A at 35.0 as it is; B wants 33.6 and 25 % of it would move it by 0.35: 20 x 33.6/35 = 19.2 and 0.8 L;
        # C wants 34.5, 10 % moves it by 0.05: as it is.
        salinity, made = share_batch([
            Portion(1, "A", 40, 35.0, 0.1), Portion(2, "B", 20, 33.6, 0.25), Portion(3, "C", 10, 34.5, 0.1),
        ])  # fmt: skip
        self.assertEqual(salinity, 35.0)
        self.assertEqual([(round(p.batch_l, 3), round(p.fresh_l, 3)) for p in made], [(40, 0), (19.2, 0.8), (10, 0)])

    def test_without_a_system_there_is_no_batch(self):
        with self.assertRaises(PlanError):
            share_batch([])


class Stock(unittest.TestCase):
    TODAY = date(2026, 11, 24)

    def test_what_is_left_and_when_to_buy(self):
        # 10 - 4 = 6 kg at 1.5 a week: 4 weeks = 28 days, less 10: 12 Dec would be 18 days on.
        left = salt_left(10_000, 4_000, 1_500, self.TODAY)
        self.assertEqual((left.left_g, left.days, left.buy_on), (6_000, 28.0, date(2026, 12, 12)))

    def test_almost_empty_empty_and_unused(self):
        self.assertIn("buy now", salt_left(10_000, 9_000, 1_500, self.TODAY).words)
        self.assertIn("weigh it", salt_left(10_000, 11_000, 1_500, self.TODAY).words)
        self.assertEqual(salt_left(10_000, 0, 0, self.TODAY).words, "10.0 kg left")

    def test_the_salt_of_a_week(self):
        # 40 L at 35 ppt every 7 days: 40 x 37.1 = 1484 g; 14 L of the same every 14: 259.7 g a week.
        week = salt_a_week_g(KITTIWAKE, [(change(0, 40, salinity=35.0), 7), (change(0, 14, salinity=35.0), 14)])
        self.assertAlmostEqual(week, 1484 + 259.7, delta=1)
        self.assertAlmostEqual(salt_a_week_g(PLAINMARK, [(change(0, 40, salinity=35.0), 7)]), 1416, delta=1)
