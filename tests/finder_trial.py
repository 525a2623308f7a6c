"""Found plans when the rates are wrong: whether a level leaves its band within eight weeks before the day to test again
would have shown it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import timedelta
from random import Random

from salttide.core.estimate.rate import Rate
from salttide.core.planning.finder import DAYS, LAST_TEST_DAYS, Asked, FoundPlan, find_plan
from salttide.core.planning.variant import Dosing, WhatIfContext, try_variant
from salttide.core.planning.variant_choice import StartCorrection, start_doses
from salttide.core.science.parameters import FACTS, Parameter
from tests.core.cases import GANNET, KITTIWAKE, NOW
from tests.core.test_variant import setting

SURPRISED = 2.0
"""A test shows that a plan is off where it lies this many deviations of its instrument from what was expected."""


@dataclass(frozen=True)
class Judged:
    """Plans found with everything held, and how many of them left a band unnoticed with the rates off either way."""

    plans: int
    unnoticed: int


def described(number: int) -> WhatIfContext:
    """A system with rates of its own, well known, somewhere in its bands."""
    rng = Random(f"finder {number}")
    return setting(nitrate=rng.uniform(0.05, 0.9), uptake=rng.uniform(0.0, 0.12), level=rng.uniform(2.6, 3.1))


def unnoticed(case: WhatIfContext, found: FoundPlan, off: float) -> bool:
    """Whether with every rate off by a share the plan leaves a band before a test on the named days would show it."""
    case = replace(case, days=DAYS)
    doses = start_doses(case, [StartCorrection(*one) for one in found.correction])
    wrong = {p: replace(r, per_day=r.per_day * (1 + off)) if isinstance(r, Rate) else r for p, r in case.rates.items()}
    expected = try_variant(case, found.variant, doses).courses
    true = try_variant(replace(case, rates=wrong), found.variant, doses).courses
    tests = [
        NOW + timedelta(days=day) for day in range(found.test_after, DAYS + 1, min(found.test_after, LAST_TEST_DAYS))
    ]
    for parameter, course in true.items():
        band = case.system.bands[parameter]
        leaves = next((point.at for point in course.points if point.at > NOW and not band.holds(point.value)), None)
        if leaves is None:
            continue
        seen = [at for at in tests if at <= leaves and shows(parameter, course.at(at), expected[parameter].at(at))]
        if not seen:
            return True
    return False


def shows(parameter: Parameter, true: object, expected: object) -> bool:
    """Whether a test would show that a level is not the expected one."""
    gap = abs(true.value - expected.value)  # type: ignore[attr-defined]
    return gap >= SURPRISED * FACTS[parameter].sd


def trial(count: int, off: float = 0.1) -> Judged:
    """So many systems, each plan with rates too high and too low."""
    plans = missed = 0
    for number in range(count):
        case = described(number)
        found = find_plan(case, Asked([KITTIWAKE, GANNET], (Dosing.NONE, Dosing.TWO_PART), minutes=1500.0))
        if found.in_the_way:
            continue
        plans += 1
        missed += any(unnoticed(case, found, way * off) for way in (1, -1))
    return Judged(plans, missed)
