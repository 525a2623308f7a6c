"""Setting the pumps of a system: so many mL a day, spread over its hours."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime

from salttide.core.estimate.dose_times import slots_of
from salttide.core.estimate.supplementation import CALCIUM, MAGNESIUM, USED
from salttide.core.ledger.plan import DailyDose
from salttide.core.planning.container import MIN_SETTING_ML, Container, ContainerEvent, ContainerKind
from salttide.core.science.additives import brought_per_mole
from salttide.core.science.dosing import SEPARATION_MINUTES
from salttide.core.science.parameters import Parameter
from salttide.store import container as container_store


def set_pumps(
    connection: sqlite3.Connection, system_id: int, daily: Sequence[DailyDose], now: datetime, key: str
) -> list[DailyDose]:
    """Set the containers of a system to what is dosed daily, those of none of it to nothing. Returns what is left to be
    given otherwise. A dose is a container's by the name of its additive, or by its formula."""
    rest = list(daily)
    for one in container_store.containers(connection, system_id):
        if not _replaces(one):
            continue
        mine = next((dose for dose in rest if dose.additive in (one.additive.name, one.additive.formula)), None)
        mass_g = 0.0
        if mine:
            rest.remove(mine)
            # A dose by formula is of the pure compound.
            mass_g = mine.mass_g / (1.0 if mine.additive == one.additive.name else one.additive.purity)
        ml = mass_g / (one.additive.strength_g_l or 1.0) * 1000
        if mine and ml < MIN_SETTING_ML:
            rest.append(mine)
            ml = 0.0
        container_store.add_container_events(connection, one.id, [set_event(one, ml, now)], key)
    return rest


def _replaces(container: Container) -> bool:
    """Whether it holds what corals use."""
    brought = brought_per_mole(container.additive.formula)
    return any(brought.get(parameter, 0) > 0 for parameter in USED)


HARD = (CALCIUM, MAGNESIUM, Parameter.STRONTIUM)
"""What drops out with carbonate and phosphate."""


def minute_of(container: Container) -> int:
    """When in the hour a container is dosed: calcium, magnesium and strontium at the half, all else at the full hour,
    so that what would drop out together stays half an hour apart."""
    brought = brought_per_mole(container.additive.formula)
    return SEPARATION_MINUTES if any(hard in brought for hard in HARD) else 0


def set_event(container: Container, ml: float, now: datetime) -> ContainerEvent:
    """Set a container's pump to so many mL a day, spread over the day as it is now, or evenly."""
    setting = container.setting_at(now)
    hours = [0.0] * 24
    for slot in setting.slots if setting else ():
        hours[slot.minute // 60] += slot.ml
    if not sum(hours):
        hours = [1.0] * 24
    slots = slots_of(hours, ml, minute_of(container), container.step_ml) if container.pump else ()
    return ContainerEvent(now, ContainerKind.SET, sum(slot.ml for slot in slots) if slots else ml, slots=slots)
