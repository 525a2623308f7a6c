"""Beacon's two-part set: its containers, what its pumps were set to, and the levels that the keeper read."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, date, datetime, time, timedelta
from random import Random
from zoneinfo import ZoneInfo

from salttide.core.estimate.dose_times import slots_of
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind
from salttide.core.system.shelf import Additive

ZONE = ZoneInfo("Europe/Copenhagen")
SINCE, WORN_SINCE, LAST = date(2026, 9, 27), date(2026, 11, 1), date(2026, 11, 22)
"""Dosed by pump since, the calcium head loses a fifth since, last level read."""
LOST = 0.2
SODA_ML, CALCIUM_ML = 8.8, 8.7
"""A day: 0.88 g of soda ash in 100 g/L, and the calcium that goes with it in 140 g/L."""
BY_DAY = [0.0] * 10 + [1.0] * 8 + [0.0] * 6
LEVEL_SD_ML = 3.0


def _at(day: date, hour: int) -> datetime:
    return datetime.combine(day, time(hour), ZONE).astimezone(UTC)


def _life(ml: float, minute: int, flow: float, worn: bool, chance: Random) -> tuple[ContainerEvent, ...]:
    """What happened to one container: filled, set, its level read every Sunday."""
    slots = slots_of(BY_DAY, ml, minute, 0.1)
    given = sum(slot.ml for slot in slots)
    events = [
        ContainerEvent(_at(date(2025, 10, 5), 18), ContainerKind.TUBE),
        ContainerEvent(_at(date(2026, 6, 28), 18), ContainerKind.CALIBRATED, flow * 1.03),
        ContainerEvent(_at(SINCE, 1), ContainerKind.CALIBRATED, flow),
        ContainerEvent(_at(SINCE, 1), ContainerKind.FILLED, 1000.0),
        ContainerEvent(_at(SINCE, 2), ContainerKind.SET, given, slots=slots),
    ]
    left, day = 1000.0, SINCE
    while day < LAST:
        left -= given * (1 - LOST * (worn and day >= WORN_SINCE))
        day += timedelta(days=1)
        if day.weekday() == 6:
            read = round(left + chance.gauss(0, 1.0))
            events.append(ContainerEvent(_at(day, 2), ContainerKind.LEVEL, float(read)))
    return tuple(events)


def beacon_containers(shelved: Sequence[Additive], seed: int) -> list[Container]:
    """The set, by the additives as they are on the shelf."""
    by = {item.name: item for item in shelved}
    chance = Random(seed)
    return [
        Container(
            0, item.name, item, 1000.0, LEVEL_SD_ML, f"pump D1, head {number}", "two-part", 0.1, 0.2,
            _life(ml, minute, flow, worn, chance),
        )
        for number, (item, ml, minute, flow, worn) in enumerate(
            ((by["soda stock"], SODA_ML, 0, 24.6, False), (by["calcium stock"], CALCIUM_ML, 30, 25.1, True)), 1
        )
    ]  # fmt: skip
