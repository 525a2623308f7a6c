"""A tank that breathes: carbon dioxide comes and goes by day and night, and pH follows. Its chemistry is its own.

Seawater of 35 ppt at 25 °C only, constants on the total scale as published for it: Lueker et al. 2000 (carbonic acid),
Dickson 1990 (borate), Millero 1995 (water), Weiss 1974 (solubility). A meter set with hobby buffers shows 0.137 more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from random import Random
from typing import Any

import numpy as np

K1, K2, KB, KW, K0 = 10**-5.8472, 10**-8.9660, 10**-8.5975, 10**-13.2173, 0.02839
BORON_MOL_KG = 0.000416
KG_L = 1.0233
DRY = 1 - 0.0307
"""Share of the pressure that water vapour leaves to dry air, over seawater of 35 at 25 °C (Weiss & Price 1980)."""
METER = 0.137
HOURS = 24


def hydrogen(carbon_mmol: Any, alkalinity_meq: Any) -> Any:
    """H+ (mol/kg, total scale) by bisection on its logarithm; any shape."""
    carbon, alkalinity = np.asarray(carbon_mmol) / 1000 / KG_L, np.asarray(alkalinity_meq) / 1000 / KG_L
    low, high = (
        np.full(np.broadcast(carbon, alkalinity).shape, -11.0),
        np.full(np.broadcast(carbon, alkalinity).shape, -5.0),
    )
    for _ in range(40):
        middle = (low + high) / 2
        h = 10**middle
        charge = (
            carbon * (K1 * h + 2 * K1 * K2) / (h * h + K1 * h + K1 * K2) + BORON_MOL_KG * KB / (KB + h) + KW / h - h
        )
        too_acid = charge < alkalinity
        low, high = np.where(too_acid, low, middle), np.where(too_acid, middle, high)
    return 10 ** ((low + high) / 2)


def meter_ph(h: Any) -> Any:
    """The pH a meter shows."""
    return -np.log10(h) + METER


def dissolved(carbon_mmol: Any, h: Any) -> Any:
    """Dissolved carbon dioxide, mmol/L."""
    return np.asarray(carbon_mmol) * h * h / (h * h + K1 * h + K1 * K2)


@dataclass(frozen=True)
class Room:
    """The room's air: carbon dioxide (ppm) by day, and the increase of an evening with people in it."""

    ppm: float
    evening: float = 0.0

    def at(self, hour: float) -> float:
        """ppm at an hour of the day."""
        return self.ppm + (self.evening if 17 <= hour % 24 < 23 else 0.0)


@dataclass(frozen=True)
class Breathing:
    """The truth. respiration, photosynthesis: carbon made and fixed, mmol/L a day · lights: first hour and how many ·
    fed_at: hours of feeding, each with half as much respiration again for three hours · out: 1/h · uptake: meq/L a day.
    """

    alkalinity: float
    uptake: float
    respiration: float
    photosynthesis: float
    lights: tuple[float, float]
    fed_at: tuple[float, ...]
    out: float
    room: Room

    def made(self, hour: float) -> float:
        """Carbon the inhabitants release (below zero: fix), mmol/L an hour."""
        first, long = self.lights
        since = (hour - first) % 24
        lit = np.pi / 2 / long * np.sin(np.pi * since / long) if since < long else 0.0
        busy = 1 + 0.5 * sum((hour - fed) % 24 < 3 for fed in self.fed_at)
        return self.respiration / 24 * busy - self.photosynthesis * lit - self.uptake / 2 / 24


def some_tank(seed: int) -> Breathing:
    """A random tank: of stony or soft corals, well or badly aerated, in an airy or a stale room."""
    chance = Random(f"breathing {seed}")
    respiration = chance.uniform(0.25, 0.5)
    return Breathing(
        chance.uniform(2.6, 3.4),
        chance.uniform(0.15, 0.5),
        respiration,
        respiration * chance.uniform(0.9, 1.3),
        (chance.uniform(8, 12), chance.uniform(8, 11)),
        (chance.uniform(12, 15), chance.uniform(18, 20)),
        chance.uniform(0.4, 1.5),
        Room(chance.uniform(450, 900), chance.uniform(0, 250)),
    )


Doses = Any
"""Doses in each hour of the day, meq/L; the last axis has 24 places."""


def live(tank: Breathing, doses: Sequence[tuple[float, Doses]], days: int, per_hour: int = 4, waver: Any = None) -> Any:
    """Meter's pH in each step of so many days, for any number of dosings at once (leading axes).

    doses: carbon (mmol) that comes with a meq, and the hours · waver: a factor on what the inhabitants make, by day.
    """
    total: Any = sum(np.asarray(hours) for _, hours in doses)
    shape = total.shape[:-1]
    alkalinity = np.full(shape, tank.alkalinity)
    carbon = np.full(shape, 0.89 * tank.alkalinity)
    shown = np.empty((*shape, days * HOURS * per_hour))
    for step in range(days * HOURS * per_hour):
        hour = (step / per_hour) % 24
        factor = 1.0 if waver is None else waver[step // (HOURS * per_hour)]
        h = hydrogen(carbon, alkalinity)
        held = dissolved(carbon, h)
        shown[..., step] = meter_ph(h)
        air = K0 * tank.room.at(hour) * DRY / 1000 * KG_L
        gained = (tank.made(hour) * factor + tank.out * (air - held)) / per_hour
        now = int(hour)
        carbon = carbon + gained + sum(share * np.asarray(hours)[..., now] for share, hours in doses) / per_hour
        alkalinity = alkalinity - tank.uptake / 24 / per_hour + total[..., now] / per_hour
    return shown


def settled_swing(tank: Breathing, doses: Sequence[tuple[float, Doses]], days: int = 4) -> Any:
    """Highest less lowest pH of the last day of several."""
    last = live(tank, doses, days)[..., -HOURS * 4 :]
    return last.max(axis=-1) - last.min(axis=-1)


def probe_hours(tank: Breathing, doses: Sequence[tuple[float, Doses]], seed: int, days: int = 14) -> list[float]:
    """Hourly means that a probe wrote: the tank wavers from day to day, the probe scatters, is a little off, and shows
    two digits. The first days, in which the tank settles, are left out."""
    chance = Random(f"probe {seed}")
    waver = [chance.gauss(1, 0.08) for _ in range(days + 4)]
    truth = live(tank, doses, days + 4, 12, waver)[4 * HOURS * 12 :]
    off = chance.gauss(0, 0.02)
    shown = [round(chance.gauss(ph + off, 0.006), 2) for ph in truth]
    return [sum(shown[i * 12 : i * 12 + 12]) / 12 for i in range(days * HOURS)]


SLOTS, SHARES = 8, 6
"""An exhaustive search puts every sixth of the day's alkalinity into any of eight stretches of three hours."""


def every_spread(total: float, parts: int) -> Any:
    """All ways to do so, as hours of each part: an array (ways, parts, 24)."""
    bins = SLOTS * parts
    ways = np.array(list(_placings(SHARES, bins)))
    hours = np.repeat(ways.reshape(-1, parts, SLOTS), HOURS // SLOTS, axis=2) / (HOURS // SLOTS)
    return hours * total / SHARES


def _placings(units: int, bins: int) -> Any:
    if bins == 1:
        yield (units,)
        return
    for first in range(units + 1):
        for rest in _placings(units - first, bins - 1):
            yield (first, *rest)


def least_swing(tank: Breathing, total: float, carbon: Sequence[float]) -> float:
    """The least swing of all those ways; `carbon`: of each part, mmol that comes with a meq."""
    ways = every_spread(total, len(carbon))
    return float(settled_swing(tank, [(share, ways[:, part]) for part, share in enumerate(carbon)]).min())
