"""Setting the pumps of a system: mL a day, spread over the hours, with incompatible doses kept apart."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from ..estimate.dose_times import Slot, nearest_minutes, slots_of
from ..estimate.gas_exchange import HOURS, DayDoses
from ..estimate.supplementation import ALKALINITY, CALCIUM, MAGNESIUM, USED
from ..ledger.plan import DailyDose
from ..science.additives import amount_per_gram, brought_per_mole
from ..science.dosing import SEPARATION_MINUTES
from ..science.parameters import Parameter
from .container import MIN_SETTING_ML, Container, ContainerEvent, ContainerKind

PRECIPITATING = (CALCIUM, MAGNESIUM, Parameter.STRONTIUM)
"""Ions that precipitate with carbonate and phosphate."""


def settings_for(
    containers: Sequence[Container], daily: Sequence[DailyDose], now: datetime
) -> tuple[list[tuple[Container, ContainerEvent]], list[DailyDose]]:
    """Settings of a system's containers for its daily doses (zero for those without one), and the doses left to give by
    other means. A dose belongs to a container by the name of its additive, or by its formula."""
    rest, found = list(daily), list[tuple[Container, ContainerEvent]]()
    for one in containers:
        if not _replaces(one):
            continue
        mine = next((dose for dose in rest if dose.additive in (one.additive.name, one.additive.formula)), None)
        ml = _ml_of(mine, one) if mine else 0.0
        if mine and ml >= MIN_SETTING_ML:
            rest.remove(mine)
        else:
            ml = 0.0
        found.append((one, set_event(one, ml, now)))
    return found, rest


def adjusted_settings(
    containers: Sequence[Container], before: Sequence[DailyDose], after: Sequence[DailyDose], now: datetime
) -> tuple[list[tuple[Container, ContainerEvent]], list[DailyDose]]:
    """Settings of the pumps whose daily dose changes, and the doses after it that no pump gives. A pump is set higher
    or lower by as much as its dose, whatever part of its setting it delivers."""
    old = {dose.additive: dose for dose in before}
    new = {dose.additive: dose for dose in after}
    found, pumped = list[tuple[Container, ContainerEvent]](), set[str]()
    for one in (each for each in containers if each.pump):
        name = one.additive.name
        pumped.add(name)
        was, now_given = old.get(name), new.get(name)
        if was and was.mass_g:
            share = now_given.mass_g / was.mass_g if now_given else 0.0
            if abs(share - 1) > 1e-9:
                found.append((one, set_event(one, one.set_at(now) * share, now)))
        elif now_given:
            found.append((one, set_event(one, _ml_of(now_given, one), now)))
    return found, [dose for dose in after if dose.additive not in pumped]


def _replaces(container: Container) -> bool:
    """Whether it holds what corals use."""
    brought = brought_per_mole(container.additive.formula)
    return any(brought.get(parameter, 0) > 0 for parameter in USED)


def _ml_of(dose: DailyDose, container: Container) -> float:
    """A daily dose in mL of a container. One known by its formula is of the pure compound."""
    additive = container.additive
    mass_g = dose.mass_g if dose.additive == additive.name else dose.mass_g / additive.purity
    return mass_g / (additive.strength_g_l or 1.0) * 1000


def minute_of(container: Container) -> int:
    """The minute of the hour at which a container is dosed: calcium, magnesium and strontium at half past, all else on
    the hour, so that what would precipitate together stays half an hour apart."""
    brought = brought_per_mole(container.additive.formula)
    return SEPARATION_MINUTES if any(one in brought for one in PRECIPITATING) else 0


def set_event(container: Container, ml: float, now: datetime) -> ContainerEvent:
    """A container's pump set to mL a day, spread over the day as now, or evenly."""
    hours = ml_by_hour(container, now)
    if not sum(hours):
        hours = [1.0] * HOURS
    slots = slots_of(hours, ml, minute_of(container), container.step_ml) if container.pump else ()
    return ContainerEvent(now, ContainerKind.SET, sum(slot.ml for slot in slots) if slots else ml, slots=slots)


def spread_event(slots: tuple[Slot, ...], now: datetime) -> ContainerEvent:
    """A pump set to doses at given minutes."""
    return ContainerEvent(now, ContainerKind.SET, sum(slot.ml for slot in slots), slots=slots)


def ml_by_hour(container: Container, now: datetime) -> list[float]:
    """mL its pump is set to dose in each hour of the day; zeros where it has no times."""
    hours, setting = [0.0] * HOURS, container.setting_at(now)
    for slot in setting.slots if setting else ():
        hours[slot.minute // 60] += slot.ml
    return hours


def holds_alkalinity(container: Container) -> bool:
    """Whether it raises alkalinity."""
    return brought_per_mole(container.additive.formula).get(ALKALINITY, 0) > 0


def meq_l_per_ml(container: Container, volume_l: float) -> float:
    """What a mL of it raises the alkalinity of a volume (L) by, meq/L."""
    additive = container.additive
    per_gram = amount_per_gram(additive.formula, ALKALINITY, additive.purity)
    return per_gram * (additive.strength_g_l or 0.0) / 1000 / volume_l


def least_dose_meq_l(containers: Sequence[Container], volume_l: float) -> float:
    """The least dose that every pump can give, meq/L."""
    return max(one.least_ml * meq_l_per_ml(one, volume_l) for one in containers)


def alkalinity_by_hour(
    held: Sequence[Container], volume_l: float, now: datetime, by_hand_at: int, total_meq_l: float
) -> list[DayDoses]:
    """How alkalinity is dosed over the day: by the pumps' times, or the day's total at one hour by hand."""
    found = []
    for one in held:
        per_ml = meq_l_per_ml(one, volume_l)
        hours = tuple(ml * per_ml for ml in ml_by_hour(one, now))
        if sum(hours):
            found.append(DayDoses(one.additive.formula, hours))
    if found or not held:
        return found
    once = tuple(total_meq_l if each == by_hand_at else 0.0 for each in range(HOURS))
    return [DayDoses(held[0].additive.formula, once)]


def slots_for(container: Container, doses: DayDoses, volume_l: float) -> tuple[Slot, ...]:
    """A spread of alkalinity over the day in a pump's own steps."""
    ml = doses.total / meq_l_per_ml(container, volume_l)
    return slots_of(doses.meq_l, ml, minute_of(container), container.step_ml)


def minutes_to_calcium(
    containers: Sequence[Container], spread: Sequence[tuple[Container, tuple[Slot, ...]]], now: datetime
) -> int | None:
    """How close a dose of calcium comes to one of a spread, in minutes; None where none has times."""
    mine = {one.id for one, _ in spread}
    gaps = [
        nearest_minutes(slots, setting.slots)
        for one in containers
        if one.id not in mine and CALCIUM in brought_per_mole(one.additive.formula)
        if (setting := one.setting_at(now)) and setting.slots
        for _, slots in spread
    ]
    return min(gaps, default=None)
