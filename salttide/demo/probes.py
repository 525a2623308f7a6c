"""What Beacon's probe wrote: pH and temperature every five minutes for ten weeks, every hour for a year before."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import UTC, date, datetime, timedelta
from random import Random
from zoneinfo import ZoneInfo

from salttide.core.science.parameters import Parameter
from salttide.fishroom.probes import Probe
from salttide.fishroom.tank import Habits, Tank

PROBE_NAME = "probe P1"
ZONE = ZoneInfo("Europe/Copenhagen")
LAST = datetime(2026, 11, 24, 18, 40, tzinfo=ZONE).astimezone(UTC)
SHUT = datetime(2026, 10, 5, 17, 30, tzinfo=ZONE).astimezone(UTC)
"""When the windows were shut."""
DENSE_DAYS, SPARSE_DAYS, DENSE_S, SPARSE_S = 70, 420, 300, 3600
Rows = list[tuple[int, float]]
Levels = Mapping[date, float]


def _moments() -> list[datetime]:
    dense = [LAST - timedelta(seconds=DENSE_S * i) for i in range(DENSE_DAYS * 86400 // DENSE_S)]
    sparse = [dense[-1] - timedelta(seconds=SPARSE_S * i) for i in range(1, (SPARSE_DAYS - DENSE_DAYS) * 24)]
    return sorted([*dense, *sparse])


def _written(name: str, probe: Probe, chance: Random, alkalinity: Levels) -> Rows:
    """Every reading: the tank's own rhythm over the day at the alkalinity of that day, and the probe's scatter."""
    rows, last = [], next(iter(alkalinity.values()))
    for at in _moments():
        local = at.astimezone(ZONE)
        last = alkalinity.get(at.date(), last)
        tank = Tank(334.0, 34.6, last, 420, 1310, 8.0, 0.05, habits=Habits(room_air_ph=0.16 if at >= SHUT else 0.02))
        truth = getattr(tank, name)(local.hour + local.minute / 60)
        rows.append((int(at.timestamp()), round(probe.read(truth, chance), 3)))
    return rows


def _ph(chance: Random, alkalinity: Levels) -> Rows:
    return _written("ph", Probe(PROBE_NAME, "ph", 0.006, 0.01), chance, alkalinity)


def _temperature(chance: Random, alkalinity: Levels) -> Rows:
    return _written("temperature", Probe(PROBE_NAME, "temperature", 0.03, 0.01), chance, alkalinity)


PROBED: Mapping[str, Mapping[Parameter, Callable[[Random, Levels], Rows]]] = {
    "Beacon": {Parameter.TEMPERATURE: _temperature, Parameter.PH: _ph}
}
"""By system and parameter."""
