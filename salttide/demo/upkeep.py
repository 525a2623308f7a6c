"""What the household did besides water, sand and panels: its habits, with what was found, as the keeper noted it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from random import Random
from zoneinfo import ZoneInfo

from salttide.core.ledger.entries import Care
from salttide.core.upkeep.care import CareChoice
from salttide.core.upkeep.gear import PartKept

Found = dict[str, float | str]
Finding = Callable[[Random, date], Found]


def _nothing(chance: Random, day: date) -> Found:
    return {}


@dataclass(frozen=True)
class Habit:
    """A task done every so many days, last on `last`; about how many minutes, and what was found."""

    task: str
    every: int
    last: date
    minutes: float
    found: Finding = _nothing
    zones: tuple[str, ...] = ()


def day(month: int, number: int, year: int = 2026) -> date:
    """A day of the record."""
    return date(year, month, number)


def _filled(chance: Random, on: date) -> Found:
    return {"litres_added": round(chance.uniform(34, 41), 1)}


def _purifier(chance: Random, on: date) -> Found:
    used = max(0.0, (on - day(6, 20)).days / 157)
    made = float(chance.randrange(48, 72))
    return {
        "litres_made": made, "litres_wasted": made * 3, "solids_in": float(chance.randrange(310, 345)),
        "solids_membrane": round(chance.uniform(7, 9), 1), "solids_out": round(0.6 * used**3, 1),
        "solids_first": round(14 + 2 * used, 1), "pressure_in": 3.6,
        "pressure_prefilters": round(3.4 - 0.3 * max(0.0, (on - day(8, 15)).days / 180), 1),
    }  # fmt: skip


def _harvest(chance: Random, on: date) -> Found:
    return {"weight": float(chance.randrange(120, 260)), "growth_colour": "strong", "went_to": "freezer, then bin"}


def _flow(before: float, after: float) -> Finding:
    def found(chance: Random, on: date) -> Found:
        return {
            "flow_before": round(before + chance.uniform(-40, 40)),
            "flow_after": round(after + chance.uniform(-30, 30)),
        }

    return found


STRIPPED, STRIP_EVERY = day(9, 13), 90


def _flow_now(chance: Random, on: date) -> Found:
    """What the return gives: 2450 L/h after a strip, a quarter less ten weeks on."""
    since = (on - STRIPPED).days % STRIP_EVERY
    return {"flow_now": float(round(2450 * (1 - 0.25 * min(1.0, since / 68)) + chance.uniform(-8, 8)))}


def _count(fish: int) -> Finding:
    return lambda chance, on: {"fish_seen": float(fish)}


def _slope(chance: Random, on: date) -> Found:
    return {"slope": round(97.5 - (on - day(1, 1, 2025)).days / 400 + chance.uniform(-0.3, 0.3), 1), "offset": 4.0}


def _deviation(chance: Random, on: date) -> Found:
    return {"deviation": round(chance.uniform(-0.2, 0.2), 1)}


def _given(chance: Random, on: date) -> Found:
    return {"volume_given": round(chance.uniform(9.7, 10.1), 1), "volume_meant": 10.0}


SIDES = ("front side", "back side")
HABITS: dict[str, tuple[Habit, ...]] = {
    "Beacon": (
        Habit("livestock_check", 7, day(11, 22), 5, _count(6)),
        Habit("night_count", 92, day(9, 18), 22, lambda c, d: {"fish_seen": 6.0, "coral_heads": 41.0}),
        Habit("heater_check", 30, day(11, 8), 3, _deviation),
        Habit("rock_check", 7, day(11, 18), 3),
        Habit("dead_spots", 60, day(10, 30), 14, lambda c, d: {"spots": "behind the arch, low on the left"}),
        Habit("lab_sample", 90, day(10, 5), 15),
        Habit("probe_ph", 30, day(11, 4), 13, _slope),
        Habit("leak_alarm", 30, day(11, 12), 4, lambda c, d: {"alarm_came": "at once"}),
        Habit("reservoir", 12, day(11, 21), 7, _filled),
        Habit("salt_creep", 10, day(11, 18), 5),
        Habit("blade", 80, day(10, 4), 2),
        Habit("weirs", 30, day(11, 11), 9),
        Habit("blow_rock", 3, day(11, 23), 4, zones=SIDES),
        Habit("skimmer_neck", 7, day(11, 20), 4),
        Habit("skimmer_body", 95, day(9, 27), 42),
        Habit("powerheads", 91, day(9, 6), 38, _flow(5200, 5900)),
        Habit("return_pump", 90, day(9, 13), 36, _flow(1900, 2450)),
        Habit("steriliser_lamp", 360, day(12, 9, 2025), 66, lambda c, d: {"lamp_hours": 8650.0, "leaks": "none"}),
        Habit("dosing_pump", 90, day(10, 18), 15, _given),
        Habit("dosing_tube", 365, day(3, 2), 20),
        Habit("top_off_sensor", 14, day(11, 18), 3),
        Habit("top_off_test", 90, day(10, 10), 12, lambda c, d: {"safeguards": "all of them"}),
        Habit("macroalgae", 30, day(11, 5), 16, _harvest),
        Habit("filter_sock", 4, day(11, 22), 5),
        Habit("sock_retire", 170, day(7, 4), 4),
        Habit("tools", 7, day(11, 18), 4),
        Habit("reagents", 60, day(10, 12), 8),
        Habit("purifier_reading", 7, day(11, 21), 4, _purifier),
        Habit("purifier_prefilter", 180, day(8, 15), 22),
        Habit("purifier_leak", 90, day(10, 24), 8, lambda c, d: {"safeguards": "all of them"}),
        Habit("purifier_membrane", 400, day(2, 7), 26),
        Habit("purifier_resin", 180, day(6, 20), 15),
        Habit("flow_check", 30, day(11, 20), 3, _flow_now),
        Habit("flood_drill", 180, day(8, 22), 16),
        Habit("power_drill", 365, day(3, 8), 14),
    ),
    "Eelgrass": (
        Habit("livestock_check", 7, day(11, 21), 5, _count(4)),
        Habit("night_count", 90, day(10, 2), 18, _count(4)),
        Habit("heater_check", 30, day(11, 15), 3, _deviation),
        Habit("rock_check", 14, day(11, 15), 3),
        Habit("dead_spots", 60, day(10, 17), 12),
        Habit("lab_sample", 90, day(9, 21), 15),
        Habit("reservoir", 10, day(11, 19), 6, lambda c, d: {"litres_added": round(c.uniform(8, 9.5), 1)}),
        Habit("salt_creep", 10, day(11, 17), 5),
        Habit("scrape_back", 21, day(11, 8), 14),
        Habit("blow_rock", 14, day(11, 16), 4, zones=SIDES),
        Habit("powerheads", 90, day(9, 20), 34, _flow(2600, 3100)),
        Habit("top_off_sensor", 14, day(11, 15), 3),
        Habit("top_off_test", 90, day(10, 11), 11, lambda c, d: {"safeguards": "all of them"}),
        Habit("macroalgae_display", 30, day(11, 1), 17, _harvest),
        Habit("tools", 7, day(11, 20), 4),
        Habit("power_drill", 365, day(3, 8), 10),
    ),
    "Skiff": (
        Habit("leak_alarm", 30, day(11, 14), 4, lambda c, d: {"alarm_came": "at once"}),
        Habit("livestock_check", 7, day(11, 20), 4, _count(2)),
        Habit("night_count", 90, day(9, 30), 10, _count(2)),
        Habit("heater_check", 30, day(11, 1), 3, _deviation),
        Habit("rock_check", 14, day(11, 17), 3),
        Habit("dead_spots", 60, day(10, 25), 10),
        Habit("lab_sample", 90, day(10, 26), 15),
        Habit("salt_creep", 10, day(11, 19), 4),
        Habit("scrape_back", 21, day(11, 10), 9),
        Habit("blade", 85, day(10, 1), 2),
        Habit("blow_rock", 3, day(11, 22), 3, zones=SIDES),
        Habit("skimmer_neck", 7, day(11, 19), 3),
        Habit("skimmer_body", 90, day(10, 3), 35),
        Habit("powerheads", 90, day(10, 17), 28, _flow(1300, 1500)),
        Habit("tools", 7, day(11, 19), 3),
        Habit("power_drill", 365, day(3, 8), 9),
    ),
    "Slipway": (
        Habit("salt_creep", 10, day(11, 18), 5),
        Habit("top_off_sensor", 14, day(11, 19), 3),
        Habit("tools", 7, day(11, 22), 3),
    ),
}
"""By system: every habit with the last day it was done, from which it is told backwards."""

CHOICES: dict[str, dict[str, CareChoice]] = {
    "Skiff": {
        "water_change": CareChoice(minutes=20.0),
        "siphon": CareChoice(minutes=5.0),
        "lift_film": CareChoice(minutes=6.0),
    }
}
"""What the keeper chose for single tasks: a small tank's change is quick."""
COUNTED = datetime(2026, 11, 8, 10, 0, tzinfo=UTC)
PARTS: dict[str, dict[str, PartKept]] = {
    "Beacon": {
        "lamp": PartKept(spares=0, counted_at=COUNTED),
        "sleeve": PartKept(since=day(12, 9, 2024), note="seals with the lip inwards, the thin one first"),
        "impeller": PartKept(since=day(3, 15), spares=1, counted_at=COUNTED),
        "return_pump": PartKept(since=day(4, 2, 2024)),
        "heater": PartKept(since=day(5, 1, 2025)),
        "powerhead": PartKept(since=day(4, 2, 2024)),
        "skimmer_pump": PartKept(since=day(4, 2, 2024)),
        "ph_probe": PartKept(since=day(8, 20, 2025), spares=0, counted_at=COUNTED),
        "sock": PartKept(spares=4, counted_at=COUNTED),
        "blade": PartKept(spares=6, counted_at=COUNTED),
        "tubing": PartKept(spares=1, counted_at=COUNTED),
        "resin": PartKept(spares=0, counted_at=COUNTED),
        "prefilters": PartKept(spares=1, counted_at=COUNTED),
    },
    "Eelgrass": {"heater": PartKept(since=day(2, 10, 2025)), "powerhead": PartKept(since=day(2, 10, 2025))},
    "Skiff": {"heater": PartKept(since=day(12, 12, 2023)), "blade": PartKept(spares=2, counted_at=COUNTED)},
}
"""What the household told of the parts of its gear."""


def upkeep(system: str, first: date, seed: int, zone: ZoneInfo) -> Iterator[Care]:
    """What was done in a system since the first day of its record."""
    for number, habit in enumerate(HABITS[system]):
        chance, on, turn = Random(seed * 1000 + number), habit.last, 0
        while on >= first:
            at = datetime.combine(on, time(18, 30), zone) - timedelta(minutes=chance.randrange(0, 50))
            minutes = max(1.0, round(habit.minutes * chance.uniform(0.85, 1.2)))
            part = habit.zones[turn % len(habit.zones)] if habit.zones else ""
            yield Care(at, habit.task, minutes, timed=True, zone=part, found=habit.found(chance, on))
            on, turn = on - timedelta(days=habit.every + chance.choice((-1, 0, 0, 1))), turn + 1
