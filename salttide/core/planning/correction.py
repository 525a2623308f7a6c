"""A correction as a plan by day: what to dose when, within the daily limits and the pH one dose may move, in the right
order, with expected values and tests to check them; and whether a test agrees."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from itertools import chain
from math import ceil, sqrt

from ..basics.errors import InputError, PlanError, check_range
from ..basics.number_text import show_number
from ..estimate.supplementation import day_amount
from ..ledger.entries import Ledger
from ..science.additives import brought_per_mole
from ..science.carbonate import carbonate_from_dic, carbonate_from_ph_nbs
from ..science.dosing import (
    DAILY_LIMITS,
    ORDER,
    PH_LIMIT_OF_A_DOSE,
    SEPARATION_MINUTES,
    DosingDay,
    correct_in_order,
    correction_days,
)
from ..science.parameters import FACTS, Parameter, spoken
from ..science.ph_effect import largest_dose_by_ph, ph_effect_of_dose
from ..science.sizing import DayLimit
from ..system.shelf import Additive
from .work_order import DoseWorkOrder

ALKALINITY, CALCIUM = Parameter.ALKALINITY, Parameter.CALCIUM
SATURATION_LIMIT = 8.0
"""Saturation of aragonite from which a dose is expected to precipitate at once, well mixed (judgement)."""
ROW_MINUTES = 4 * SEPARATION_MINUTES
"""The period of doses, in minutes, within which each of the four in ORDER has its own half hour."""
USUAL_PH = 8.1
"""The pH assumed where not known."""
MAX_BUSY = 60
HIGH_PH, LOW_PH = 8.35, 7.95
"""Above the first pH a dose that raises pH is unwelcome, below the second it is welcome (judgement)."""


@dataclass(frozen=True)
class WaterNow:
    """The water to correct, for the immediate effects of a dose: pH (NBS), salinity, temperature, alkalinity (meq/L)
    and calcium (mg/L)."""

    ph_nbs: float = USUAL_PH
    salinity: float = 35.0
    temperature_c: float = 25.0
    alkalinity_meq_l: float = 2.8
    calcium_mg_l: float = 420.0


def water_now(water: Mapping[Parameter, float]) -> WaterNow:
    """The water to correct from present values; unknown ones are assumed as usual."""
    usual = WaterNow()
    return WaterNow(
        water.get(Parameter.PH, usual.ph_nbs),
        water.get(Parameter.SALINITY, usual.salinity),
        water.get(Parameter.TEMPERATURE, usual.temperature_c),
        water.get(ALKALINITY, usual.alkalinity_meq_l),
        water.get(CALCIUM, usual.calcium_mg_l),
    )


@dataclass(frozen=True)
class Aim:
    """A parameter to correct: present value, target, the additive, and the uptake beyond the daily dose, below 0 where
    more is dosed than used (canonical)."""

    parameter: Parameter
    value: float
    target: float
    additive: Additive
    net_use: float = 0.0
    limit: DayLimit | None = None


@dataclass(frozen=True)
class DoseShare:
    """A dose of a day: minutes after the day's first, what it raises and by how much, grams, mL of a solution, and its
    immediate pH effect (None where it adds no alkalinity)."""

    minute: int
    parameter: Parameter
    additive: Additive
    rise: float
    mass_g: float
    ml: float | None
    ph_jump: float | None


@dataclass(frozen=True)
class CorrectionStep:
    """A day of the plan: its doses in order, the values expected that evening, and what to test then."""

    day: int
    portions: tuple[DoseShare, ...]
    expected: Mapping[Parameter, float]
    tests: tuple[Parameter, ...]


@dataclass(frozen=True)
class Correction:
    """The whole plan; `side`: what else it leaves in the water, mg/L in all."""

    steps: tuple[CorrectionStep, ...]
    side: Mapping[Parameter, float]

    @property
    def days(self) -> int:
        return len(self.steps)


def plan_correction(
    aims: Sequence[Aim], water: WaterNow, volume_l: float, hours: int = 12, busy: Collection[int] = ()
) -> Correction:
    """Bring every aim to its target, on top of uptake, over as many days as the daily limits require.

    Magnesium goes before calcium and alkalinity; doses of one day stand half an hour apart; an alkalinity dose is split
    until no part moves pH or saturation by more than one may, over `hours` of the day. On `busy` days (counted from 1)
    something else moves the water and uses the allowance: only uptake is replaced. Raises PlanError, InputError.

    >>> soda = Additive(1, "baking soda", "NaHCO3")
    >>> plan = plan_correction([Aim(Parameter.ALKALINITY, 2.5, 3.0, soda)], WaterNow(), 100.0)
    >>> [round(step.portions[0].mass_g, 2) for step in plan.steps]
    [2.1, 2.1]
    """
    _check(aims, volume_l)
    by = {aim.parameter: aim for aim in aims}
    days = _in_order(by)
    level = {p: aim.value for p, aim in by.items()}
    steps, side, waiting = [], dict[Parameter, float](), list(days)
    for number in range(1, len(days) + MAX_BUSY + 1):
        if not waiting:
            break
        if number in busy:
            steps.append(CorrectionStep(number, (), dict(level), ()))
            continue
        day = waiting.pop(0)
        parts = [_portions(by[dose.parameter], dose.rise, water, volume_l, hours) for dose in day.doses]
        given = {dose.parameter: dose.rise for dose in day.doses}
        for p, aim in by.items():
            level[p] += given.get(p, 0.0) - aim.net_use
            _add(side, _side(aim, given.get(p, 0.0)))
        ordered = tuple(sorted(chain.from_iterable(parts), key=lambda portion: portion.minute))
        steps.append(CorrectionStep(number, ordered, dict(level), day.tests))
    return Correction(tuple(steps), side)


def _in_order(by: Mapping[Parameter, Aim]) -> tuple[DosingDay, ...]:
    return correct_in_order(
        {p: aim.value for p, aim in by.items()},
        {p: aim.target for p, aim in by.items()},
        {p: aim.net_use for p, aim in by.items()},
        {p: aim.limit or DAILY_LIMITS[p] for p, aim in by.items()},
    )


def _add(whole: dict[Parameter, float], part: Mapping[Parameter, float]) -> None:
    for parameter, amount in part.items():
        whole[parameter] = whole.get(parameter, 0.0) + amount


def _check(aims: Sequence[Aim], volume_l: float) -> None:
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    if not aims:
        raise PlanError("Nothing is out of its target: there is nothing to correct.")
    for aim in aims:
        name = spoken(aim.parameter)
        if aim.parameter not in DAILY_LIMITS or aim.parameter in (Parameter.SALINITY, Parameter.TEMPERATURE):
            raise PlanError(
                f"{FACTS[aim.parameter].name} is not brought up by doses here: "
                + ("salinity is moved by water." if aim.parameter == Parameter.SALINITY else "only against a "
                   "laboratory's result and its own limit."),
                field=aim.parameter.value,
            )  # fmt: skip
        if aim.target < aim.value:
            _refuse_down(aim)
        check_range(f"target of {name}", aim.target, "", 0, FACTS[aim.parameter].likely.high)
        if not brought_per_mole(aim.additive.formula).get(aim.parameter, 0) > 0:
            raise InputError(
                f"{aim.additive.name} does not raise {name}",
                field=aim.parameter.value,
                accepted="an additive that does",
            )


def _refuse_down(aim: Aim) -> None:
    """Refuse a target below the present value: the error says what lowers it."""
    try:
        correction_days(aim.parameter, aim.value, aim.target, aim.net_use, aim.limit)
    except PlanError as error:
        error.field = aim.parameter.value
        raise


def _side(aim: Aim, rise: float) -> dict[Parameter, float]:
    """Its side effects, mg/L or meq/L."""
    brought = brought_per_mole(aim.additive.formula)
    moles = rise / brought[aim.parameter]
    return {ion: amount * moles for ion, amount in brought.items() if ion != aim.parameter}


def _portions(aim: Aim, rise: float, water: WaterNow, volume_l: float, hours: int) -> list[DoseShare]:
    """A day's dose of one additive, split where one dose would be too much, and kept apart from the others."""
    most = largest_safe_rise(aim.additive.formula, aim.parameter, water, aim.limit)
    count = max(1, ceil(rise / most - 1e-9))
    if count > hours * 60 // ROW_MINUTES:
        raise PlanError(
            f"{aim.additive.name} cannot bring that in a day within the pH that one dose may move: take a gentler one.",
            field=aim.parameter.value,
        )
    apart = hours * 60 // count
    offset = ORDER.index(aim.parameter) if aim.parameter in ORDER else len(ORDER)
    found = []
    for number in range(count):
        amount = day_amount(aim.additive, aim.parameter, rise / count, volume_l)
        jump = _jump(aim.additive.formula, rise / count if aim.parameter == ALKALINITY else 0.0, water)
        minute = number * max(apart, ROW_MINUTES) + offset * SEPARATION_MINUTES
        found.append(DoseShare(minute, aim.parameter, aim.additive, rise / count, amount.mass_g, amount.ml, jump))
    return found


@lru_cache(maxsize=512)
def _jump(formula: str, rise_meq_l: float, water: WaterNow) -> float | None:
    if not rise_meq_l:
        return None
    at = (water.ph_nbs, water.alkalinity_meq_l, water.salinity, water.temperature_c)
    return ph_effect_of_dose(formula, min(rise_meq_l, 3.0), *at).jump


@lru_cache(maxsize=256)
def largest_safe_rise(formula: str, parameter: Parameter, water: WaterNow, limit: DayLimit | None = None) -> float:
    """The largest rise by one dose, well mixed: the least of what pH, precipitation and the daily limit allow.

    Alkalinity in meq/L, others in mg/L; `limit` is the system's own, the usual one where None. Source: the carbonate
    system; the bounds are judgements.

    >>> round(largest_safe_rise("Na2CO3", Parameter.ALKALINITY, WaterNow(8.1, 35.0, 25.0, 2.5, 420.0)), 2)
    0.24
    """
    allowed = limit or DAILY_LIMITS.get(parameter)
    return min(_drops_out_or_moves_ph(formula, parameter, water), allowed.up if allowed else float("inf"))


def _drops_out_or_moves_ph(formula: str, parameter: Parameter, water: WaterNow) -> float:
    if parameter == CALCIUM:
        return max(1e-6, water.calcium_mg_l * (SATURATION_LIMIT / max(_saturation(formula, 0.0, water), 1e-6) - 1))
    if parameter != ALKALINITY:
        return float("inf")
    at = (water.ph_nbs, water.alkalinity_meq_l, water.salinity, water.temperature_c)
    low, high = 0.0, largest_dose_by_ph(formula, *at, PH_LIMIT_OF_A_DOSE)
    if _saturation(formula, high, water) <= SATURATION_LIMIT:
        return high
    while high - low > 1e-5:
        middle = (low + high) / 2
        low, high = (middle, high) if _saturation(formula, middle, water) <= SATURATION_LIMIT else (low, middle)
    return max(low, 1e-6)


def _saturation(formula: str, rise_meq_l: float, water: WaterNow) -> float:
    """Aragonite's, right after a dose."""
    from ..estimate.gas_exchange import carbon_per_meq

    at = (water.salinity, water.temperature_c, water.calcium_mg_l)
    now = carbonate_from_ph_nbs(water.ph_nbs, water.alkalinity_meq_l, *at)
    if not rise_meq_l:
        return float(now.aragonite_saturation)
    carbon = now.dic_mmol_l + rise_meq_l * carbon_per_meq(formula)
    return float(carbonate_from_dic(carbon, water.alkalinity_meq_l + rise_meq_l, *at).aragonite_saturation)


@dataclass(frozen=True)
class Gentler:
    """The immediate pH effect of one dose of an alkalinity compound, whether it is the gentler choice here, and why."""

    formula: str
    jump: float
    chosen: bool
    why: str


def gentler_choice(rise_meq_l: float, water: WaterNow, formulas: Sequence[str]) -> tuple[Gentler, ...]:
    """Compounds for one rise (meq/L, 0 to 3) side by side: the one that is gentlest at this pH is chosen.

    At high pH bicarbonate is gentler, at low pH carbonate; hydroxide never is.

    >>> [one.formula for one in gentler_choice(0.2, WaterNow(8.4), ["Na2CO3", "NaHCO3"]) if one.chosen]
    ['NaHCO3']
    """
    check_range("rise", rise_meq_l, "meq/L", 1e-6, 3)
    jumps = {formula: _jump(formula, rise_meq_l, water) or 0.0 for formula in formulas}
    if not jumps:
        return ()
    best = _gentlest(jumps, water.ph_nbs)
    ph = show_number(water.ph_nbs, 2)
    why = f"pH is {ph}: it moves it least"
    if water.ph_nbs < LOW_PH and jumps[best] > 0:
        why = f"pH is low ({ph}): it lifts it a little, within what one dose may"
    if water.ph_nbs > HIGH_PH:
        why = f"pH is high ({ph}): it does not lift it further"
    return tuple(
        Gentler(formula, jump, formula == best, why if formula == best else "") for formula, jump in jumps.items()
    )


def _gentlest(jumps: Mapping[str, float], ph_nbs: float) -> str:
    mild = {formula: jump for formula, jump in jumps.items() if 0 < jump <= PH_LIMIT_OF_A_DOSE}
    if ph_nbs < LOW_PH and mild:
        return max(mild, key=mild.__getitem__)
    return min(jumps, key=lambda formula: abs(jumps[formula]))


@dataclass(frozen=True)
class Agreement:
    """A test against the expected value: how far off, how much of that may be scatter, and whether to go on."""

    expected: float
    measured: float
    most: float

    @property
    def agrees(self) -> bool:
        """Whether it agrees, within the scatter of both."""
        return abs(self.measured - self.expected) <= self.most


def agreement(expected: float, measured: float, sd_before: float, sd_after: float, step: float) -> Agreement:
    """Whether a test agrees with the plan: within twice the joint scatter of the readings and half a day's step.

    All in one unit; deviations above 0.

    >>> agreement(2.9, 2.6, 0.05, 0.05, 0.1).agrees
    False
    """
    for name, sd in (("scatter before", sd_before), ("scatter after", sd_after)):
        check_range(name, sd, "", 0, 1e4)
    check_range("step", step, "", 0, 1e5)
    return Agreement(expected, measured, 2 * sqrt(sd_before**2 + sd_after**2) + step / 2)


@dataclass(frozen=True)
class OffCourse:
    """A parameter whose latest test disagrees with the correction that is under way (canonical)."""

    parameter: Parameter
    measured: float
    expected: float


def off_course(doses: Sequence[DoseWorkOrder], ledger: Ledger) -> OffCourse | None:
    """Whether a test since a correction was planned disagrees with what its next open dose expects to find."""
    seen = set[Parameter]()
    for dose in doses:
        for parameter, expected in dose.before.items():
            last = ledger.last(parameter)
            if parameter in seen or last is None or not dose.made_at or last.at < datetime.fromisoformat(dose.made_at):
                continue
            seen.add(parameter)
            if not agreement(expected, last.value, last.sd, last.sd, dose.step).agrees:
                return OffCourse(parameter, last.value, expected)
    return None
