"""One voice: what the judgement, Next, plans and corrections say of one parameter, in 300 made-up situations."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC
from functools import cache
from random import Random

from salttide.core.judgement.scenario import NOON, situation_described
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.next_up import Action
from salttide.core.overview.state import SystemState, outlook
from salttide.core.overview.upcoming import Ahead
from salttide.core.planning.correction import plan_correction, water_now
from salttide.core.planning.daily_fit import fitting_daily
from salttide.core.planning.work_order import DoseWorkOrder, WaterWorkOrder
from salttide.core.remedy.cause import PLAIN, cause_key
from salttide.core.remedy.effect import effects
from salttide.core.remedy.ions import aim_of, supply
from salttide.core.remedy.remedy import Remedy, RemedyKind
from salttide.core.science.parameters import Parameter
from salttide.core.system.aim import OwnAim
from salttide.core.upkeep.care import Upkeep
from tests.core.cases import KITTIWAKE, PLAINMARK
from tests.core.test_remedies import SHELF, SODA

PRESETS = ("fish_only", "soft_corals", "large_polyp", "small_polyp", "macroalgae_lagoon")
SPREAD = {"temperature": (23.5, 27.5), "salinity": (32.5, 37.0), "alkalinity": (2.2, 3.8), "calcium": (360, 480),
          "magnesium": (1120, 1460), "nitrate": (0.0, 30.0), "phosphate": (0.0, 0.25), "ph": (7.7, 8.6)}  # fmt: skip
SIGNS = (["open"], ["hair_algae patches rock"], ["brown_strands patches sand"], ["red_film patches sand"], [])
EVENTS = ((), (("lamp", 15),), (("windows_shut", 30),), (("spill", 1.5),), (("stock_lost", 1),))
COUNT = 300


def readings(rng: Random) -> list[tuple[str, float, float]]:
    """A record of each parameter: well inside or anywhere, one test or a straight line of several."""
    found = []
    for name, (low, high) in SPREAD.items():
        middle = (low + high) / 2
        value = rng.uniform(low, high) if rng.random() < 0.35 else rng.uniform(0.8 * middle + 0.2 * low, middle)
        slope = rng.choice((0.0, 0.0, rng.uniform(-0.01, 0.01) * (high - low)))
        tests = rng.choice((1, 1, 6, 9))
        if rng.random() < 0.9:
            found += [(name, max(0.0, value - slope * 3.5 * n), 1 + 3.5 * n) for n in range(tests)]
    return found


def situation(number: int) -> SystemState:
    """One of the situations, as the app would hold it."""
    rng = Random(number)
    looks = {1: rng.choice(SIGNS)} if rng.random() < 0.85 else {}
    s = situation_described(
        readings(rng), looks, rng.choice(EVENTS), bands=rng.choice(PRESETS), volume_l=rng.choice((40.0, 200.0, 900.0)),
        stage="breaking_in" if rng.random() < 0.1 else "running",
    )  # fmt: skip
    aims = {Parameter.ALKALINITY: OwnAim(2.85)} if rng.random() < 0.2 else {}
    system = replace(s.system, own_aims=aims)
    daily: tuple[DailyDose, ...] = (SODA,) if rng.random() < 0.4 else ()
    shelf = rng.choice((SHELF, SHELF[1:], SHELF[:2], ()))
    salt = rng.choice((KITTIWAKE, PLAINMARK, None))
    ahead = Ahead(salt=salt, daily=daily, additives=shelf)
    return outlook(system, s.ledger, Upkeep(()), ahead, NOON, UTC, {})


@cache
def situations() -> tuple[SystemState, ...]:
    return tuple(situation(number) for number in range(COUNT))


def firsts(state: SystemState) -> Iterator[Remedy]:
    """The remedy proposed for each cause."""
    for cause in state.causes:
        if cause.first is not None and cause.first.key != PLAIN:
            yield cause.first


class OneVoice(unittest.TestCase):
    def test_there_is_something_to_compare(self):
        kinds = [one.kind for state in situations() for one in firsts(state)]
        for kind in (RemedyKind.DOSE, RemedyKind.DAILY, RemedyKind.FRESH, RemedyKind.TOP_OFF):
            self.assertGreater(kinds.count(kind), 5, kind)

    def test_next_and_the_judgement_name_the_same_plan(self):
        for number, state in enumerate(situations()):
            for cause in state.causes:
                first = cause.first
                if first is None or first.key == PLAIN:
                    continue
                with self.subTest(number=number, cause=cause.key):
                    told = [one for one in state.judgement.findings if cause_key(one) == cause.key]
                    self.assertEqual([one.to_do for one in told], [first.title])
            for item in state.next:
                if item.way == Action.REMEDY:
                    mine = next(one for one in state.causes if one.key == item.cause)
                    with self.subTest(number=number, next=item.title):
                        self.assertEqual(item.title, mine.first.title)

    def test_a_correction_of_the_same_parameter_doses_the_same(self):
        for number, state in enumerate(situations()):
            s, means = state.basis.situation, state.basis.means
            for one in firsts(state):
                if one.kind != RemedyKind.DOSE or not one.additive_id:
                    continue
                additive = next(each for each in means.additives if each.id == one.additive_id)
                fit = fitting_daily(supply(s, means), one.parameter, additive)
                aim = aim_of(s, one.parameter, s.system.aim(one.parameter), additive, fit)
                plan = plan_correction([aim], water_now(state.water), s.system.volume_l, 12, means.busy)
                grams = sum(dose.mass_g for step in plan.steps for dose in step.portions)
                given = sum(work.order.mass_g for work in one.work if isinstance(work.order, DoseWorkOrder))
                with self.subTest(number=number, remedy=one.title):
                    self.assertAlmostEqual(grams, given)

    def test_one_parameter_has_one_aim_and_is_not_raised_and_lowered_at_once(self):
        for number, state in enumerate(situations()):
            ways: dict[Parameter, set[bool]] = {}
            for one in firsts(state):
                if one.parameter is None or one.aim is None:
                    continue
                with self.subTest(number=number, remedy=one.title):
                    # Where the aim would take too many changes it says that it stops inside the band.
                    if "into its band, to" in one.title:
                        self.assertIn("Its aim of", one.why)
                    else:
                        self.assertAlmostEqual(one.aim, state.system.aim(one.parameter))
                    ways.setdefault(one.parameter, set()).add(one.aim > state.present[one.parameter].value)
            with self.subTest(number=number):
                self.assertTrue(all(len(each) == 1 for each in ways.values()), ways)

    def test_what_waits_is_not_dosed(self):
        for number, state in enumerate(situations()):
            held = {one.finding.about[0] for one in state.judgement.waiting if one.finding.about}
            standing = {one.parameter for one in firsts(state) if one.kind == RemedyKind.DOSE}
            stands = {cause.parameter for cause in state.causes}
            with self.subTest(number=number):
                self.assertFalse(standing & held - stands)

    def test_no_plan_breaks_a_daily_limit_and_all_have_a_test(self):
        for number, state in enumerate(situations()):
            for one in firsts(state):
                doses = [work for work in one.work if isinstance(work.order, DoseWorkOrder | WaterWorkOrder)]
                if not doses or one.parameter is None:
                    continue
                limit = state.system.limit(one.parameter)
                used = max(0.0, state.basis.situation.net_use(one.parameter)) if one.daily is None else 0.0
                # A changed daily dose leaves what the water changes bring to the doses meanwhile.
                by_changes = abs((state.basis.means.changes and 0.01 * limit.up) or 0.0)
                with self.subTest(number=number, remedy=one.title):
                    for work in doses:
                        self.assertLessEqual(work.order.step, max(limit.up, limit.down) + used + by_changes + 1e-6)
                    self.assertEqual(len({work.day for work in doses}), len(doses))
                    last = max(work.day for work in doses)
                    self.assertIn(last, {work.day for work in one.work if work.kind == "look"})

    def test_a_plan_ends_nearer_to_its_aim_than_nothing_does(self):
        for number, state in enumerate(situations()):
            s = state.basis.situation
            for one in firsts(state):
                if one.kind not in (RemedyKind.DOSE, RemedyKind.FRESH, RemedyKind.TOP_OFF) or not one.work:
                    continue
                own = next(each for each in effects(one, s) if each.parameter == one.parameter)
                with self.subTest(number=number, remedy=one.title):
                    self.assertLess(abs(own.after - one.aim), abs(own.without - one.aim) + 1e-9)
                    self.assertLess(abs(own.after - one.aim), 0.35 * abs(own.now - one.aim) + 1e-6)
