"""Twelve weeks of upkeep of twenty systems: how even the days become, against what no placing can beat, and how little
moves when the keeper moves something. Seeded."""

from __future__ import annotations

import time
from dataclasses import dataclass, replace
from datetime import date, timedelta
from random import Random

from salttide.core.upkeep.scheduling import bundle_up, place
from salttide.core.upkeep.scheduling_model import Days, Demand
from salttide.core.upkeep.scheduling_search import search
from salttide.core.upkeep.scheduling_solver import least_peak
from salttide.core.upkeep.task import tasks

FIRST, WEEKS, SYSTEMS, TASKS = date(2026, 11, 24), 12, 20, 30
ROOM = 1.15
"""The keeper has so many times the minutes that the work takes on the mean day."""


@dataclass(frozen=True)
class Placed:
    """What came of it: the bound and the fullest days in minutes, seconds, days late, and the share that moved."""

    pieces: int
    bound: float
    relaxed_s: float
    peak: float
    placed_s: float
    fallback: float
    later: int
    moved: float


def work(seed: int, systems: int = SYSTEMS, weeks: int = WEEKS) -> list[Demand]:
    """Every occurrence of thirty of the packaged tasks, drawn for each system, with lengths that scatter by a third."""
    chance, last = Random(seed), FIRST + timedelta(days=7 * weeks - 1)
    demands = []
    kinds = [kind for kind in tasks().values() if not kind.by]
    for system in range(systems):
        always = [kind for kind in kinds if kind.key == "water_change"]
        drawn = always + chance.sample([kind for kind in kinds if kind not in always], TASKS - 1)
        for kind in drawn:
            due = FIRST + timedelta(days=chance.randrange(kind.every_days))
            while due <= last:
                early, late = timedelta(days=kind.early_days), timedelta(days=kind.late_days)
                minutes = kind.minutes * chance.uniform(0.67, 1.33)
                ref = (system, kind.key, due, None)
                apart = frozenset(kind.never_with)
                demands.append(Demand(ref, due, due - early, due + late, minutes, joins=kind.joins, apart=apart))
                due += timedelta(days=kind.every_days)
    return demands


def trial(seed: int = 20261124, systems: int = SYSTEMS, weeks: int = WEEKS) -> Placed:
    """Place it all, then move one water change by two days and place again."""
    demands = work(seed, systems, weeks)
    mean = sum(each.minutes for each in demands) / (7 * weeks)
    days = Days(FIRST, [ROOM * mean] * (7 * weeks))
    begun = time.perf_counter()
    bound = least_peak(bundle_up(demands, days), days)
    relaxed_s = time.perf_counter() - begun
    begun = time.perf_counter()
    placing = place(demands, days, from_scratch=True)
    placed_s = time.perf_counter() - begun
    plain = place(demands, days, search, from_scratch=True)
    later = sum(
        max(0, (placing.days[each.ref] - each.latest).days) > max(0, (plain.days[each.ref] - each.latest).days)
        for each in demands
    )
    stood = placing.days
    change = [each for each in demands if each.task == "water_change" and each.system == systems - 1][1]
    there = stood[change.ref] + timedelta(days=2)
    again = [replace(each, before=stood[each.ref], fixed=there if each is change else None) for each in demands]
    after = place(again, days).days
    moved = sum(after[ref] != day for ref, day in stood.items()) / len(stood)
    return Placed(
        len(demands), bound, relaxed_s, max(placing.minutes().values()), placed_s, max(plain.minutes().values()),
        later, moved,
    )  # fmt: skip
