"""What to know of a daily dosing routine besides its amounts, in sentences: catching up, stepping up, changes alone."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass
from math import ceil

from ..basics.measures import litres_words
from ..basics.number_text import percent, show_number
from ..basics.phrasing import counted, listed
from ..estimate.dose_review import ease_back, is_off
from ..estimate.rate import Rate
from ..estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    Changes,
    DailySupplements,
    DayAmount,
    changes_carry,
    day_amount,
)
from ..science.amount import dose_text
from ..science.parameters import FACTS, Parameter
from ..science.sizing import DayLimit
from ..science.topoff import largest_safe_lime_reservoir_l, lime_flood
from ..science.units import UnitChoice, show
from ..system.system import System
from .correction import WaterNow, largest_safe_rise

Speed = Callable[[Parameter, float], str]
"""Formats a rate in the keeper's unit."""


@dataclass(frozen=True)
class DosedSystem:
    """The system a routine is for: the levels to hold, their rates, the water now, and the daily limits."""

    system: System
    targets: Mapping[Parameter, float]
    rates: Mapping[Parameter, Rate | None]
    water: WaterNow
    limit: Callable[[Parameter], DayLimit]
    units: UnitChoice


def size_words(one: DayAmount) -> str:
    """A day's amount as it is measured out."""
    return dose_text(one.mass_g, one.ml, one.additive.formula)


def catch_up_words(at: DosedSystem, routine: DailySupplements) -> list[str]:
    """For a level off its target by more than its scatter: the daily dose that brings it back."""
    words = []
    for parameter in (ALKALINITY, CALCIUM):
        rate, target = at.rates[parameter], at.targets.get(parameter)
        doses = [one for one in routine.amounts if one.parameter == parameter]
        if rate is None or target is None or not doses or not is_off(rate.level, rate.level_sd, target):
            continue
        whole = sum(one.rise for one in doses)
        ease = ease_back(rate.level, target, whole, at.limit(parameter))
        sizes = [_scaled(one, ease.dose / whole, at.system.volume_l) for one in doses]
        level, goal = (show(parameter, value, at.units) for value in (rate.level, target))
        words.append(
            f"{FACTS[parameter].name} is near {level}: {listed(sizes)} a day for {counted(ease.days, 'day')} bring it "
            f"to {goal}; after that, dose as above."
        )
    return words


def _scaled(one: DayAmount, share: float, volume_l: float) -> str:
    amount = day_amount(one.additive, one.parameter, one.rise * share, volume_l)
    return f"{size_words(amount)} {one.additive.name}"


def step_up_words(at: DosedSystem, routine: DailySupplements, dosed_now: float, speed: Speed) -> list[str]:
    """A warning where the daily dose of alkalinity would grow by more than a day's limit at once. dosed_now: meq/L a
    day."""
    limit = at.system.limits.alkalinity_meq_l
    more = sum(one.rise for one in routine.amounts if one.parameter == ALKALINITY) - dosed_now
    if more <= limit:
        return []
    return [f"That is {speed(ALKALINITY, more)} a day more than now: step up to it over {ceil(more / limit)} days."]


def by_hand_words(at: DosedSystem, routine: DailySupplements, pumped: Collection[str]) -> list[str]:
    """Hand doses that have to be split because of pH. pumped: additives dosed by pump."""
    words = []
    for one in routine.amounts:
        most = largest_safe_rise(one.additive.formula, one.parameter, at.water, at.system.limit(one.parameter))
        if one.additive.name not in pumped and one.rise > most:
            parts = ceil(one.rise / most)
            words.append(f"By hand, split {one.additive.name} into {parts} doses, hours apart: pH limits a single one.")
    return words


def uncovered(routine: DailySupplements) -> Iterable[tuple[Parameter, float]]:
    """The uncovered uptake that matters: magnesium that nobody doses is tested monthly instead."""
    return ((p, rest) for p, rest in routine.left.items() if p != Parameter.MAGNESIUM)


def summary_of_routine(routine: DailySupplements) -> str:
    """A day's doses in one sentence."""
    if routine.amounts:
        return f"Every day {listed([f'{size_words(one)} {one.additive.name}' for one in routine.amounts])}."
    return "Nothing is dosed." if routine.left else "What comes in covers what is used: nothing needs dosing."


def changes_alone_words(
    system: System, changes: Changes | None, uptake_meq_l: float, units: UnitChoice, speed: Speed
) -> str:
    """Whether the routine of changes alone would be enough, and up to what uptake; empty where not known."""
    band = system.bands.get(ALKALINITY)
    if changes is None or band is None or ALKALINITY not in changes.incoming:
        return ""
    most = max(0.0, float(changes_carry(changes, ALKALINITY, band.low)))
    new = show(ALKALINITY, changes.incoming[ALKALINITY], units)
    how = f"{show_number(percent(changes.fraction), 0)} % every {changes.every_days} days with new water of {new}"
    verdict = "enough here" if most >= uptake_meq_l else f"not enough for {speed(ALKALINITY, uptake_meq_l)}"
    return f"Water changes alone ({how}) can replace up to {speed(ALKALINITY, most)} a day within the band: {verdict}."


def lime_flood_words(at: DosedSystem, reservoir_l: float) -> tuple[str, bool]:
    """The effect of the whole reservoir of limewater running in at once, and whether it exceeds a day's limit."""
    volume_l = at.system.volume_l
    found = lime_flood(at.targets[ALKALINITY], volume_l, reservoir_l, at.water.ph_nbs, at.water.salinity)
    most = largest_safe_lime_reservoir_l(volume_l, at.system.limits.alkalinity_meq_l)
    ph = "pH over 9.5" if found.ph_nbs is None else f"pH {show_number(found.ph_nbs, 2)}"
    words = (
        f"All {litres_words(reservoir_l)} at once would give {show(ALKALINITY, found.alkalinity_meq_l, at.units)} "
        f"and {ph} before salinity moves to {show(Parameter.SALINITY, found.salinity, at.units)}. A reservoir of "
        f"{litres_words(most)} or less stays within a day's limit."
    )
    return words, reservoir_l > most
