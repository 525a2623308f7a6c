"""A sensor that cannot be believed: silent, stuck, out of the water, or drifting away from tests by hand."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import pairwise

from ..judgement.rules.doubtful_results import SIDE_BY_SIDE
from ..judgement.situation import real
from ..ledger.entries import Reading
from ..ledger.verdict import mean
from ..science.heat_balance import fastest_k_h
from ..science.parameters import Parameter
from ..system.endurance import heat_balance
from ..system.system import System
from .follow import Sample


class SensorFault(StrEnum):
    """What is wrong with a sensor."""

    SILENT = "silent"
    STUCK = "stuck"
    OUT_OF_WATER = "out_of_water"
    DRIFTING = "drifting"


MISSED = 3
"""A sensor is silent after so many readings that did not come (judgement)."""
LEAST_SILENCE = timedelta(minutes=15)
"""And not before so long."""
STUCK_H, LOOK_BACK_H = 12, 168
"""Hours at one value that are suspect, and how far back its own habit is looked up (judgement)."""
AIR_SALINITY = 5.0
"""A conductivity probe in air reads near nothing (judgement)."""
FASTEST_PH_H, FASTEST_SALINITY_H = 1.2, 4.0
"""The most that pH and salinity move in an hour in a system that is alive (judgement)."""
USUAL_HEAT_W_L = 1.0
"""Heaters that were not entered, by the litre of water (judgement: more than most keep)."""
MARGIN_SDS = 6.0
"""How far beyond the fastest possible a step has to be, in scatters of the sensor (judgement)."""
STEP_TIME = timedelta(minutes=15)
"""Steps over a longer gap are not looked at: much can happen meanwhile."""
DRIFT_PAIRS, DRIFT_DAYS = 2, 45


@dataclass(frozen=True)
class Span:
    """An hour of a sensor: lowest and highest value, canonical."""

    at: datetime
    low: float
    high: float


def silent_since(last: datetime, every_s: float, now: datetime) -> datetime | None:
    """Since when a sensor is silent that sends every `every_s` seconds; None while it is not."""
    patience = max(MISSED * timedelta(seconds=every_s), LEAST_SILENCE)
    return last if now - last > patience else None


def stuck_since(hours: Sequence[Span]) -> datetime | None:
    """Since when a sensor has stood at one value, oldest hour first. A sensor that often stands still, as one that
    shows few digits does, is not called stuck."""
    longest = 0
    run: list[Span] = []
    for hour in hours:
        if run and hour.low == hour.high == run[-1].high:
            run.append(hour)
            continue
        longest = max(longest, len(run))
        run = [hour] if hour.low == hour.high else []
    known = len(hours) - len(run)
    if len(run) < STUCK_H or known < STUCK_H or 2 * longest >= STUCK_H:
        return None
    return run[0].at


def out_of_water_at(parameter: Parameter, samples: Sequence[Sample], sd: float, system: System) -> datetime | None:
    """When a sensor left the water, by what no water can do, oldest sample first; None where it reads as water does
    again, or never left. sd: its scatter."""
    left: Sample | None = None
    for before, after in pairwise(samples):
        if left is not None:
            left = left if _still_out(parameter, left, after, system) else None
        elif after.at - before.at <= STEP_TIME and _impossible(parameter, before, after, sd, system):
            left = before
    if left is None and parameter == Parameter.SALINITY and samples and samples[-1].value < AIR_SALINITY:
        return samples[-1].at
    return next((after.at for before, after in pairwise(samples) if before is left), None)


def _impossible(parameter: Parameter, before: Sample, after: Sample, sd: float, system: System) -> bool:
    hours = (after.at - before.at) / timedelta(hours=1)
    most = fastest_an_hour(parameter, before.value, system)
    return most is not None and abs(after.value - before.value) > most * hours + MARGIN_SDS * sd


def _still_out(parameter: Parameter, left: Sample, now: Sample, system: System) -> bool:
    """Whether it has not come back to where water could be since."""
    hours = (now.at - left.at) / timedelta(hours=1)
    most = fastest_an_hour(parameter, left.value, system) or 0.0
    return abs(now.value - left.value) > most * hours


def fastest_an_hour(parameter: Parameter, value: float, system: System) -> float | None:
    """The most a parameter can move in an hour: temperature by all heaters and lamps in the hottest room, or by none in
    the coldest one; None where nothing is known."""
    if parameter == Parameter.TEMPERATURE:
        heating, balance = system.heating, heat_balance(system)
        water = min(max(value, 1.0), 44.0)
        heat_w = heating.heat_w or USUAL_HEAT_W_L * system.volume_l
        warm = fastest_k_h(balance, water, heating.hot_c, heat_w + heating.gains_w)
        cold = fastest_k_h(balance, water, heating.cold_c, -heating.chiller_w)
        return max(abs(float(warm)), abs(float(cold)))
    return {Parameter.PH: FASTEST_PH_H, Parameter.SALINITY: FASTEST_SALINITY_H}.get(parameter)


def drift_of(sensor: Sequence[Reading], by_hand: Sequence[Reading], now: datetime) -> float | None:
    """How far a sensor reads above tests by hand of the same time, canonical, once the last two pairs agree on it and
    it is more than their errors; None otherwise. Both oldest first."""
    recent = [pair for pair in _pairs(sensor, by_hand) if now - pair[1].at <= timedelta(days=DRIFT_DAYS)]
    last = recent[-DRIFT_PAIRS:]
    if len(last) < DRIFT_PAIRS:
        return None
    gaps = [one.value - other.value for one, other in last]
    if not all(real(other, one, gap) for (one, other), gap in zip(last, gaps, strict=True)):
        return None
    return mean(gaps) if min(gaps) > 0 or max(gaps) < 0 else None


def _pairs(sensor: Sequence[Reading], by_hand: Sequence[Reading]) -> Iterator[tuple[Reading, Reading]]:
    """Each test by hand with the sensor's nearest reading, where one is near enough."""
    for test in by_hand:
        near = min(sensor, key=lambda one: abs(one.at - test.at), default=None)
        if near is not None and abs(near.at - test.at) <= SIDE_BY_SIDE:
            yield near, test
