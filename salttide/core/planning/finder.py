"""The plan finder: the cheapest way of keeping the water that holds every parameter in its band for eight weeks.

Every routine that the shelf, the method and the keeper's minutes allow (share, days between, salt, dosed or not) is one
choice; under each of them the expected levels are linear in the daily doses and in the correction at the start. That is
a mixed-integer linear programme, solved as a whole by HiGHS through SciPy. What cannot be held is relaxed by a slack
that costs more than anything else: where one is needed, it names the limit in the way, and the plan is the nearest.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import timedelta
from math import ceil, inf
from typing import Any

from ..basics.errors import PlanError
from ..basics.lazy import LazyModule
from ..estimate.forecast import expect
from ..ledger.balance import effect
from ..ledger.entries import Change
from ..ledger.plan import DailyDose, Plan
from ..science.additives import dose_mass_g
from ..science.limewater import limewater_most_meq_l
from ..science.mix import SaltMix
from ..science.parameters import FACTS, Parameter, Span
from ..science.solutions import calcium_per_meq_mg, two_part_salinity_drift
from .variant import (
    CORRECTED,
    Dosing,
    Variant,
    WhatIfContext,
    changes_of,
    daily_of,
    limewater,
    minutes_a_month,
    salt_mass_of,
    two_part,
)

np: Any = LazyModule("numpy")
optimize: Any = LazyModule("scipy.optimize")
sparse: Any = LazyModule("scipy.sparse")

DAYS = 56
CORRECTION_DAYS = 7
"""Days of a correction at the start, unless the daily limit needs more; from then on the band is held."""
SETTLING_DAYS = 28
"""Days after which a parameter that only water changes move must be in its band, where it starts outside."""
EVERY = (3, 5, 7, 10, 14, 21, 28)
SHARES = (0.05, 0.10, 0.15, 0.20, 0.25, 0.35, 0.50)
SPARE_SHARE, MAX_SPARE_SHARE = 0.1, 0.3
"""A plan keeps clear of the edges by this share of the band, or a reading's scatter where that is less; and by what a
wrong rate would make, up to the second share (judgement)."""
RATE_DOUBT = 0.1
"""A rate is taken to be wrong by this share of itself (judgement)."""
AIM_COST = 2.0
"""What it costs to settle a band's width away from the aim, in the money of the prices (judgement): doses go to the
aim, and no water is changed for it."""
FIRST_TEST_DAYS, LAST_TEST_DAYS = 7, 28
"""A plan is tested again no sooner and no later than this (judgement)."""
LIMITED = (Parameter.SALINITY, Parameter.ALKALINITY)
SLACK_COST, MINUTE_COST, MAX_DOSED = 1e4, 10.0, 3.0
USUAL_SALT_PRICE, USUAL_COMPOUND_PRICE = 4.0, 6.0
"""The nominal price of a kilogram where none is known, so that less is still better."""
MIN_SLACK = 0.02
"""Slack under this share of a band's width is rounding."""


@dataclass(frozen=True)
class Asked:
    """The limits of a search: salts, ways of dosing, minutes a month, prices of a kilogram by salt and formula."""

    salts: Sequence[SaltMix]
    dosings: Sequence[Dosing] = (Dosing.NONE, Dosing.TWO_PART)
    continuous: bool = False
    minutes: float = 400.0
    salt_price: Mapping[int, float] = field(default_factory=dict)
    compound_price: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class BindingLimit:
    """A limit that cannot be held: its parameter (None: the minutes), side, and by how much it is exceeded."""

    parameter: Parameter | None
    above: bool
    missed: float


@dataclass(frozen=True)
class FoundPlan:
    """The cheapest plan, or the nearest: its variant, daily doses, the correction at the start (compound, g a day,
    days), its minutes a month, the limits in the way (empty where everything holds), and after how many days to test
    again."""

    variant: Variant
    daily: Sequence[DailyDose]
    correction: Sequence[tuple[str, float, int]]
    minutes: float
    in_the_way: Sequence[BindingLimit]
    test_after: int = LAST_TEST_DAYS


@dataclass(frozen=True)
class _Choice:
    """A routine. levels, steps: arrays (slot, unknown, parameter); unknown 0 is the level without any dose, then the
    daily dose, then the corrections. A slot is a moment at which a level may be at its extreme."""

    variant: Variant
    levels: Any
    steps: Any
    cost: float
    minutes: float


def find_plan(setting: WhatIfContext, asked: Asked) -> FoundPlan:
    """The cheapest plan for eight weeks. Raises PlanError where nothing with a band is measured or no salt is there.

    The rate of each parameter is taken as it is expected; the plan keeps a tenth of each band to spare.
    """
    if not asked.salts:
        raise PlanError("Put a salt on the Shelf first.", field="salts")
    setting = replace(setting, days=DAYS)
    known = [p for p in setting.system.bands if FACTS[p].dissolved and setting.ledger.last(p)]
    if not known:
        raise PlanError("Nothing with a band has been measured yet: test first.", field="bands")
    task = _Task(setting, asked, known)
    return task.solved([task.choice(variant) for variant in task.variants()])


class _Task:
    """The programme of one system: its parameters, their start, and what is allowed."""

    def __init__(self, setting: WhatIfContext, asked: Asked, known: Sequence[Parameter]) -> None:
        self.setting, self.asked, self.known = setting, asked, list(known)
        self.volume = setting.system.volume_l
        now = setting.now
        courses = expect(setting.ledger, {p: setting.rates.get(p) for p in known}, Plan(), now, now + _DAY)
        points = [course.at(now) or course.points[-1] for course in (courses[p] for p in known)]
        self.start = np.array([point.value for point in points])
        rates = [setting.rates.get(p) for p in known]
        self.rate = np.array([rate.per_day if rate else 0.0 for rate in rates])
        bands = [setting.system.bands[p] for p in known]
        spare = [self._spare(p, band, rate) for p, band, rate in zip(known, bands, self.rate.tolist(), strict=True)]
        self.low = np.array([band.low for band in bands]) + spare
        self.high = np.array([band.high for band in bands]) - spare
        self.width = np.array([band.width for band in bands])
        self.spare = np.array(spare)
        self.corrected = [p for p in known if p in CORRECTED and self.start[known.index(p)] < bands[known.index(p)].low]
        self.correction_days = [self._correction_days(p) for p in self.corrected]

    def _spare(self, parameter: Parameter, band: Span, rate: float) -> float:
        """How far a plan keeps from the edges of a band: by a test's scatter, and by what a rate that is wrong makes in
        all the days."""
        least = min(SPARE_SHARE * band.width, FACTS[parameter].sd)
        return max(least, min(MAX_SPARE_SHARE * band.width, RATE_DOUBT * abs(rate) * DAYS))

    @property
    def test_after(self) -> int:
        """Days after which a rate that is wrong may have used up what was kept clear of an edge."""
        drift = RATE_DOUBT * np.abs(self.rate)
        days = min((room / off for room, off in zip(self.spare, drift, strict=True) if off > 0), default=inf)
        return int(min(LAST_TEST_DAYS, max(FIRST_TEST_DAYS, days)))

    def _correction_days(self, parameter: Parameter) -> int:
        place = self.known.index(parameter)
        short = max(0.0, float(self.low[place] - self.start[place]))
        return min(DAYS // 2, max(CORRECTION_DAYS, ceil(short / self._limit(parameter))))

    def _limit(self, parameter: Parameter) -> float:
        return float(self.setting.system.limit(parameter).up)

    def variants(self) -> list[Variant]:
        """Every routine the method allows: none, each share at each interval, or a little every day."""
        methods, salts = self.setting.system.methods, self.asked.salts
        shares = sorted({s for s in (*SHARES, methods.change_fraction) if s <= methods.largest_fraction})
        every = sorted({*EVERY, methods.change_every_days})
        routines = [(0.0, 28, salts[0], False)]
        routines += [(share, days, salt, False) for salt in salts for share in shares for days in every]
        if self.asked.continuous:
            routines += [(share / 7, 1, salt, True) for salt in salts for share in shares]
        return [Variant(*routine, dosing) for routine in routines for dosing in self.asked.dosings]

    def choice(self, variant: Variant) -> _Choice:
        """One routine with everything that is linear about it."""
        changes = changes_of(self.setting, variant)
        levels, steps = self._courses(variant, changes)
        salt_kg = sum(salt_mass_of(variant.salt, change) for change in changes) / 1000
        cost = salt_kg * self.asked.salt_price.get(variant.salt.id, USUAL_SALT_PRICE)
        return _Choice(variant, levels, steps, cost, minutes_a_month(self.setting, variant, len(changes)))

    def _courses(self, variant: Variant, changes: Sequence[Change]) -> tuple[Any, Any]:
        """Levels and steps at the slots, as linear effects of each unknown."""
        count = len(self.known)
        state = np.zeros((2 + len(self.corrected), count))
        state[0] = self.start
        rate = np.zeros_like(state)
        rate[0] = self.rate
        rate[1] = self._dosed(variant)
        met = [effect(p, changes[0], self.volume) for p in self.known] if changes else []
        kept, brought = np.array([e.kept for e in met]), np.array([e.brought for e in met])
        days = {round((change.at - self.setting.now) / _DAY) for change in changes}
        levels, steps = [], []
        for day in range(1, DAYS + 1):
            for place, (parameter, length) in enumerate(zip(self.corrected, self.correction_days, strict=True), 2):
                rate[place, self.known.index(parameter)] = 1 / length if day <= length else 0.0
            state = state + rate
            before = state
            if day in days:
                state = state * kept
                state[0] += brought
            levels += [before, state]
            steps.append(state - before)
        return self._slots(np.array(levels), days), np.array(steps)[self._step_days(days)]

    def _dosed(self, variant: Variant) -> Any:
        """What comes with a meq/L of alkalinity a day, by the way it is dosed."""
        calcium = calcium_per_meq_mg()
        brings = {Parameter.ALKALINITY: 1.0, Parameter.CALCIUM: calcium}
        if variant.dosing == Dosing.TWO_PART:
            brings[Parameter.SALINITY] = float(two_part_salinity_drift(1.0, 1.0))
        if variant.dosing == Dosing.NONE:
            brings = {}
        return np.array([brings.get(p, 0.0) for p in self.known])

    def _slots(self, levels: Any, days: set[int]) -> Any:
        """The moments of extremes: in each phase of a routine a level moves steadily towards where it settles, so that
        its extremes are at the ends."""
        chosen = sorted(days) or [DAYS]
        first = [day for day in chosen if day >= CORRECTION_DAYS][:1] or chosen[-1:]
        settled = [day for day in chosen if day >= SETTLING_DAYS][:1] or chosen[-1:]
        ends = [first[0], settled[0], chosen[-1]]
        picked = [2 * (day - 1) + side for day in ends for side in (0, 1)]
        return levels[[*picked, 2 * (CORRECTION_DAYS - 1), 2 * (SETTLING_DAYS - 1), len(levels) - 1]]

    def _step_days(self, days: set[int]) -> list[int]:
        chosen = sorted(days) or [DAYS]
        return [chosen[0] - 1, chosen[-1] - 1]

    def solved(self, choices: Sequence[_Choice]) -> FoundPlan:
        """One programme over all routines; exactly one of them is taken."""
        each = 2 + len(self.corrected)
        count, parameters = len(choices), len(self.known)
        slack_at = count * each
        aims_at = slack_at + 2 * parameters
        size = aims_at + len(self.aimed) + 1
        cost = np.zeros(size)
        top = np.full(size, np.inf)
        rows = _Rows(size)
        months = DAYS / 30.4
        for index, choice in enumerate(choices):
            at = index * each
            top[at] = 1.0
            cost[at] = choice.cost + choice.minutes * 1e-3
            cost[at + 1] = DAYS / 1000 * self._price_of_dose(choice.variant)
            rows.at_most([(at + 1, 1.0), (at, -self._most(choice.variant))], 0.0)
            for place, (parameter, length) in enumerate(zip(self.corrected, self.correction_days, strict=True), 2):
                grams = float(dose_mass_g(CORRECTED[parameter], parameter, 1.0, self.volume))
                cost[at + place] = grams / 1000 * self._price(CORRECTED[parameter])
                rows.at_most([(at + place, 1.0), (at, -length * self._limit(parameter))], 0.0)
        cost[slack_at : slack_at + 2 * parameters] = SLACK_COST / np.concatenate([self.width, self.width])
        cost[aims_at:-1] = [AIM_COST / self.width[place] for place, _ in self.aimed]
        cost[-1] = MINUTE_COST * months
        rows.equal([(index * each, 1.0) for index in range(count)], 1.0)
        rows.at_most(
            [(i * each, one.minutes) for i, one in enumerate(choices)] + [(size - 1, -1.0)], self.asked.minutes
        )
        self._hold(rows, np.stack([one.levels for one in choices]), slack_at)
        self._lead_to_aim(rows, np.stack([one.levels for one in choices]), aims_at)
        self._step_gently(rows, np.stack([one.steps for one in choices]))
        whole = np.zeros(size)
        whole[:slack_at:each] = 1
        answer = optimize.milp(
            cost, constraints=rows.constraints(), integrality=whole, bounds=optimize.Bounds(0, top),
            options={"time_limit": 20.0, "mip_rel_gap": 1e-3},
        )  # fmt: skip
        if answer.x is None:
            raise PlanError("No plan was found in the time there is: allow fewer salts, or fewer ways of dosing.")
        return self._found(choices, answer.x, each, slack_at)

    def _hold(self, rows: _Rows, levels: Any, slack_at: int) -> None:
        """Rows that hold every parameter inside its band, up to its slack, from when it has to be inside."""
        parameters = len(self.known)
        for slot, since in enumerate(_SLOT_SINCE):
            for place in range(parameters):
                if since < self._inside_since(place):
                    continue
                row = levels[:, slot, :, place].ravel()
                cells = list(enumerate(row.tolist()))
                above, below = slack_at + place, slack_at + parameters + place
                rows.at_most([*cells, (above, -1.0)], float(self.high[place]))
                rows.at_least([*cells, (below, 1.0)], float(self.low[place]))

    @property
    def aimed(self) -> list[tuple[int, float]]:
        """What doses lead to an aim: its place and its level."""
        aims = self.setting.system.aims
        return [(place, aims[p]) for place, p in enumerate(self.known) if p == Parameter.ALKALINITY and p in aims]

    def _lead_to_aim(self, rows: _Rows, levels: Any, aims_at: int) -> None:
        """Rows that measure how far from its aim a level ends."""
        for number, (place, aim) in enumerate(self.aimed):
            cells = list(enumerate(levels[:, -1, :, place].ravel().tolist()))
            rows.at_most([*cells, (aims_at + number, -1.0)], aim)
            rows.at_least([*cells, (aims_at + number, 1.0)], aim)

    def _inside_since(self, place: int) -> int:
        parameter, level = self.known[place], self.start[place]
        if self.low[place] <= level <= self.high[place]:
            return 0
        if parameter in self.corrected and level < self.low[place]:
            return self.correction_days[self.corrected.index(parameter)]
        return SETTLING_DAYS

    def _step_gently(self, rows: _Rows, steps: Any) -> None:
        """Rows that keep changes from moving salinity or alkalinity by more than a day's limit."""
        for parameter in (p for p in LIMITED if p in self.known):
            place, limit = self.known.index(parameter), self._limit(parameter)
            for slot in range(steps.shape[1]):
                cells = list(enumerate(steps[:, slot, :, place].ravel().tolist()))
                rows.at_most(cells, limit)
                rows.at_least(cells, -limit)

    def _most(self, variant: Variant) -> float:
        """The most alkalinity (meq/L a day) that can be dosed this way."""
        if variant.dosing == Dosing.LIMEWATER:
            return float(limewater_most_meq_l(self.setting.evaporation_l, self.volume))
        return MAX_DOSED if variant.dosing == Dosing.TWO_PART else 0.0

    def _price(self, formula: str) -> float:
        return self.asked.compound_price.get(formula, USUAL_COMPOUND_PRICE)

    def _price_of_dose(self, variant: Variant) -> float:
        """The price of a meq/L a day, for a thousand days."""
        if variant.dosing == Dosing.NONE:
            return 0.0
        daily = [limewater(1.0, self.volume)] if variant.dosing == Dosing.LIMEWATER else two_part(1.0, self.volume)
        return sum(dose.mass_g * self._price(dose.additive) for dose in daily)

    def _found(self, choices: Sequence[_Choice], x: Any, each: int, slack_at: int) -> FoundPlan:
        """The answer in the keeper's terms."""
        index = max(range(len(choices)), key=lambda place: x[place * each])
        taken, dosed = choices[index], float(x[index * each + 1])
        variant = replace(taken.variant, alkalinity_meq_l=dosed if taken.variant.dosing != Dosing.NONE else None)
        given = x[index * each + 2 : (index + 1) * each]
        correction = [
            (CORRECTED[p], float(dose_mass_g(CORRECTED[p], p, float(raise_) / days, self.volume)), days)
            for p, days, raise_ in zip(self.corrected, self.correction_days, given, strict=True)
            if raise_ > MIN_SLACK * self.width[self.known.index(p)]
        ]
        parameters = len(self.known)
        slack = [*x[slack_at : slack_at + 2 * parameters], x[-1]]
        missed = [
            BindingLimit(p, above, float(slack[place + side * parameters] - self.spare[place]))
            for side, above in ((0, True), (1, False))
            for place, p in enumerate(self.known)
            if slack[place + side * parameters] > self.spare[place] + MIN_SLACK * self.width[place]
        ]
        if slack[-1] > 1.0:
            missed.append(BindingLimit(None, True, float(slack[-1])))
        daily, _ = daily_of(self.setting, variant)
        return FoundPlan(variant, daily, correction, taken.minutes, missed, self.test_after)


_DAY = timedelta(days=1)
_SLOT_SINCE = (CORRECTION_DAYS, CORRECTION_DAYS, *[SETTLING_DAYS] * 4, CORRECTION_DAYS, SETTLING_DAYS, DAYS)
"""The first day of each slot; see `_Task._slots`."""


class _Rows:
    """Constraints, row by row, as a sparse matrix."""

    def __init__(self, size: int) -> None:
        self.size = size
        self.values: list[float] = []
        self.columns: list[int] = []
        self.ends = [0]
        self.low: list[float] = []
        self.high: list[float] = []

    def _add(self, cells: Sequence[tuple[int, float]], low: float, high: float) -> None:
        self.columns += [column for column, value in cells if value]
        self.values += [value for _, value in cells if value]
        self.ends.append(len(self.columns))
        self.low.append(low)
        self.high.append(high)

    def at_most(self, cells: Sequence[tuple[int, float]], bound: float) -> None:
        """The sum of the cells is no more than the bound."""
        self._add(cells, -inf, bound)

    def at_least(self, cells: Sequence[tuple[int, float]], bound: float) -> None:
        """The sum of the cells is no less than the bound."""
        self._add(cells, bound, inf)

    def equal(self, cells: Sequence[tuple[int, float]], bound: float) -> None:
        """The sum of the cells is the bound."""
        self._add(cells, bound, bound)

    def constraints(self) -> Any:
        """As the solver takes them."""
        shape = (len(self.low), self.size)
        matrix = sparse.csr_matrix((self.values, self.columns, self.ends), shape=shape)
        return optimize.LinearConstraint(matrix, self.low, self.high)
