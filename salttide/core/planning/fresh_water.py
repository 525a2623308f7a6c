"""Fresh water of the household: the RO/DI unit's flow, the life of its stages, what is wrong with it, and when to start
it for what is coming.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta, tzinfo
from enum import StrEnum
from math import ceil

from ..basics.errors import check_range
from ..basics.working import Result
from ..ledger.entries import Care
from ..science.membrane import (
    carbon_litres,
    membrane_flow_l_h,
    rejection_percent,
    resin_litres,
    resin_load_meq_l,
)
from ..system.observations import number_found

READING = "purifier_reading"
MADE, WASTED, IN, AFTER, OUT = "litres_made", "litres_wasted", "solids_in", "solids_membrane", "solids_out"
FIRST, PRESSURE, BEHIND = "solids_first", "pressure_in", "pressure_prefilters"
RESIN_EQ_L, ANION_EQ_L = 0.55, 0.9
"""What a litre of mixed resin, and of an anion bed by itself, takes up, eq (judgement, from usual data sheets)."""
WORN_REJECTION = 90.0
"""Percent kept back below which a membrane is replaced (judgement)."""
LOW_FLOW_SHARE = 0.8
"""A flow below this share of what is expected has a cause (judgement)."""
EARLY_SHARE = 0.6
"""Resin that is used up before this share of its litres went early (judgement)."""
CREEP_TIMES, CREEP_MG_L = 3.0, 10.0
"""A first litre with so many times the solids of the running membrane, and so much more, has crept (judgement)."""
CLOGGED_BAR = 0.7
"""Pressure that prefilters may take away before they are replaced (judgement, from usual data sheets: 10 psi)."""
CATION_EQ_L = 1.8
"""What a litre of a cation bed takes up, eq (judgement, from usual data sheets)."""
USUAL_WASTE = 3.0
"""Litres wasted for each litre made, where it was not measured (judgement)."""
MIN_TREND = 3


class Supply(StrEnum):
    """What the water works disinfect with."""

    UNKNOWN = "unknown"
    CHLORINE = "chlorine"
    CHLORAMINE = "chloramine"


@dataclass(frozen=True)
class RoUnit:
    """The RO/DI unit as it is.

    rated_l_day: at rated_bar and 25 °C · pressure_bar, feed_c: of now · measured_l_h: flow as timed, None where it was
    not · sediment_l, carbon_l: litres of feed water they are rated for, carbon for chlorine and each block · resin_l:
    litres of resin, in each bed where they are separate: cation, anion, then mixed · carbon_dioxide_mg_l: of the feed
    water · store_l, stored_l: what the store holds, and what is in it · prices of each stage, and of 1000 L of tap
    water.
    """

    rated_l_day: float = 284.0
    rated_bar: float = 4.1
    pressure_bar: float = 3.5
    feed_c: float = 12.0
    measured_l_h: float | None = None
    supply: Supply = Supply.UNKNOWN
    sediment_l: float = 10_000.0
    carbon_l: float = 20_000.0
    carbon_blocks: int = 1
    resin_l: float = 0.75
    separate: bool = False
    carbon_dioxide_mg_l: float = 10.0
    store_l: float = 0.0
    stored_l: float = 0.0
    sediment_price: float = 0.0
    carbon_price: float = 0.0
    membrane_price: float = 0.0
    resin_price: float = 0.0
    water_price: float = 0.0


NO_UNIT = RoUnit()
_RANGES = {
    "rated_l_day": ("rated flow", "L a day", 10, 5000),
    "rated_bar": ("rated pressure", "bar", 1, 20),
    "pressure_bar": ("pressure", "bar", 0.5, 20),
    "sediment_l": ("rated litres", "L", 100, 1e6),
    "carbon_l": ("rated litres", "L", 100, 1e6),
    "carbon_blocks": ("carbon blocks", "", 1, 4),
    "resin_l": ("resin", "L", 0.1, 50),
    "carbon_dioxide_mg_l": ("carbon dioxide", "mg/L", 0, 100),
    "store_l": ("store", "L", 0, 5000),
    "sediment_price": ("price", "", 0, 1e5),
    "carbon_price": ("price", "", 0, 1e5),
    "membrane_price": ("price", "", 0, 1e5),
    "resin_price": ("price", "", 0, 1e5),
    "water_price": ("price", "", 0, 1e4),
}


def check_unit(unit: RoUnit) -> RoUnit:
    """Refuse impossible values at their field: feed water 1 to 45 °C, flow 0.1 to 200 L/h, no more in the store than it
    holds."""
    for name, (said, dimension, low, high) in _RANGES.items():
        check_range(said, getattr(unit, name), dimension, low, high, field=name)
    check_range("temperature", unit.feed_c, "°C", 1, 45, field="feed")
    check_range("in the store", unit.stored_l, "L", 0, unit.store_l, field="stored_l")
    if unit.measured_l_h is not None:
        check_range("measured flow", unit.measured_l_h, "L/h", 0.1, 200, field="measured_l_h")
    return unit


@dataclass(frozen=True)
class UnitReading:
    """A reading of the unit: litres since the last one, dissolved solids in mg/L, first: of the first litre after it
    stood, pressure before and behind the prefilters; None where it was not read."""

    day: date
    made_l: float = 0.0
    wasted_l: float | None = None
    solids_in: float | None = None
    solids_after: float | None = None
    solids_out: float | None = None
    solids_first: float | None = None
    pressure_bar: float | None = None
    behind_bar: float | None = None

    @property
    def drop_bar(self) -> float | None:
        """What the prefilters take of the pressure."""
        if self.pressure_bar is None or self.behind_bar is None or self.behind_bar > self.pressure_bar:
            return None
        return self.pressure_bar - self.behind_bar

    @property
    def crept(self) -> bool:
        """Whether solids crept through the membrane while it stood."""
        first, after = self.solids_first, self.solids_after
        return first is not None and after is not None and first > max(CREEP_TIMES * after, after + CREEP_MG_L)

    @property
    def rejection(self) -> float | None:
        """Percent kept back by the membrane."""
        if not self.solids_in or self.solids_after is None or self.solids_after > self.solids_in:
            return None
        return float(rejection_percent(self.solids_in, self.solids_after))


def readings_of(care: Sequence[Care], zone: tzinfo) -> list[UnitReading]:
    """The readings of the unit, oldest first."""
    return [
        UnitReading(
            entry.at.astimezone(zone).date(),
            number_found(entry.found, MADE) or 0.0,
            *(number_found(entry.found, key) for key in (WASTED, IN, AFTER, OUT, FIRST, PRESSURE, BEHIND)),
        )
        for entry in care
        if entry.task == READING and not entry.skipped
    ]


@dataclass(frozen=True)
class StageLife:
    """A stage: what it has treated of what it lasts, in L of its own water, and when it is due, between two days.
    worn: percent kept back now, of a membrane · steady: whether its readings do not fall."""

    key: str
    used_l: float
    lasts: Result | None
    due: date | None
    early: date | None
    late: date | None
    worn: Result | None = None
    steady: bool = False

    @property
    def left(self) -> float:
        """The share that is left, 0 to 1."""
        return max(0.0, 1 - self.used_l / self.lasts) if self.lasts else 1.0


@dataclass(frozen=True)
class BedLife:
    """A separate bed of resin, and the litres it lasts."""

    key: str
    lasts: Result


def bed_lives(unit: RoUnit, solids_after: float | None, load: Result) -> tuple[BedLife, ...]:
    """The separate beds of a unit, the one that is used up first in front: the cation bed takes the salts, the anion
    bed the carbon dioxide too; the mixed bed behind them only what these let pass. Nothing for one mixed resin."""
    if not unit.separate or load <= 0:
        return ()
    found = [BedLife("anion", resin_litres(unit.resin_l, ANION_EQ_L, load))]
    if solids_after:
        found.append(BedLife("cation", resin_litres(unit.resin_l, CATION_EQ_L, resin_load_meq_l(solids_after, 0.0))))
    return tuple(sorted(found, key=lambda one: float(one.lasts)))


@dataclass(frozen=True)
class UnitState:
    """The unit now. flow: expected, with its working · waste: L wasted for each L made · l_day: made a day, by the
    record of the last weeks · load: on the resin · beds: separate ones, the first to go first ·
    diagnoses: keys of what is wrong."""

    unit: RoUnit
    flow: Result
    waste: float
    l_day: float
    load: Result | None
    beds: tuple[BedLife, ...]
    stages: tuple[StageLife, ...]
    diagnoses: tuple[str, ...]

    @property
    def real_l_h(self) -> float:
        """The flow to plan with: as timed, else as expected."""
        return self.unit.measured_l_h or float(self.flow)


CHANGED = {"sediment": "purifier_prefilter", "carbon": "purifier_prefilter", "membrane": "purifier_membrane",
           "resin": "purifier_resin"}  # fmt: skip
"""The task that replaces each stage."""


def unit_state(
    unit: RoUnit, readings: Sequence[UnitReading], changed: dict[str, date], today: date, planned_l_day: float = 0.0
) -> UnitState:
    """The unit by its readings. changed: the day on which each stage was last replaced, by the task that does it ·
    planned_l_day: what is coming, which counts where it is more than the record's."""
    latest = next((one for one in reversed(readings) if one.solids_in), None)
    solids = latest.solids_in or 0.0 if latest else 0.0
    flow = membrane_flow_l_h(unit.rated_l_day, unit.rated_bar, unit.pressure_bar, unit.feed_c, min(solids, 3000.0))
    waste, l_day = _waste(readings), max(_made_a_day(readings, today), planned_l_day)
    after = next((one.solids_after for one in reversed(readings) if one.solids_after is not None), None)
    load = resin_load_meq_l(after, unit.carbon_dioxide_mg_l) if after is not None else None
    stages = tuple(
        _stage(key, unit, readings, changed.get(task), waste, l_day, load, today) for key, task in CHANGED.items()
    )
    beds = bed_lives(unit, after, load) if load is not None else ()
    state = UnitState(unit, flow, waste, l_day, load, beds, stages, ())
    return replace(state, diagnoses=tuple(_diagnoses(state, readings, changed)))


def _waste(readings: Sequence[UnitReading]) -> float:
    known = [one for one in readings[-8:] if one.made_l and one.wasted_l is not None]
    made = sum(one.made_l for one in known)
    return sum(one.wasted_l or 0.0 for one in known) / made if made else USUAL_WASTE


def _made_a_day(readings: Sequence[UnitReading], today: date) -> float:
    """Litres made a day over the last eight readings."""
    known = readings[-9:]
    days = (known[-1].day - known[0].day).days if len(known) > 1 else 0
    return sum(one.made_l for one in known[1:]) / days if days else 0.0


def _stage(
    key: str, unit: RoUnit, readings: Sequence[UnitReading], since: date | None, waste: float, l_day: float,
    load: Result | None, today: date,
) -> StageLife:  # fmt: skip
    made = sum(one.made_l for one in readings if since is None or one.day > since)
    feeds = key in ("sediment", "carbon")
    used, a_day = (made * (1 + waste), l_day * (1 + waste)) if feeds else (made, l_day)
    if key == "membrane":
        return _membrane(readings, since, made, today)
    lasts = _lasts(key, unit, load)
    if lasts is None or not a_day:
        return StageLife(key, used, lasts, None, None, None)
    days = max(0.0, float(lasts) - used) / a_day
    # What a litre brings and how many are made are each known to about a fifth.
    early, due, late = (today + timedelta(days=round(days * share)) for share in (0.75, 1.0, 1.3))
    return StageLife(key, used, lasts, due, early, late)


def _lasts(key: str, unit: RoUnit, load: Result | None) -> Result | None:
    if key == "sediment":
        return carbon_litres(unit.sediment_l, 1, False)
    if key == "carbon":
        return carbon_litres(unit.carbon_l, unit.carbon_blocks, unit.supply == Supply.CHLORAMINE)
    if load is None or load <= 0:
        return None
    return resin_litres(unit.resin_l, ANION_EQ_L if unit.separate else RESIN_EQ_L, load)


def _membrane(readings: Sequence[UnitReading], since: date | None, made: float, today: date) -> StageLife:
    """A membrane by what it keeps back: the line through its readings, to where it is worn."""
    known = [(one, one.rejection) for one in readings if one.rejection is not None and (not since or one.day > since)]
    if not known:
        return StageLife("membrane", made, None, None, None, None)
    last = known[-1][0]
    worn = rejection_percent(last.solids_in or 1.0, last.solids_after or 0.0)
    points = [((one.day - today).days, float(kept or 0.0)) for one, kept in known]
    day = _worn_on(points, today)
    return StageLife("membrane", made, None, *day, worn, day[0] is None and len(points) >= MIN_TREND)


def _worn_on(points: Sequence[tuple[float, float]], today: date) -> tuple[date | None, date | None, date | None]:
    """The day on which a falling line meets the worn rejection, between two; none where it does not surely fall."""
    if len(points) < MIN_TREND:
        return None, None, None
    count = len(points)
    mean_x, mean_y = sum(x for x, _ in points) / count, sum(y for _, y in points) / count
    spread = sum((x - mean_x) ** 2 for x, _ in points)
    if not spread:
        return None, None, None
    slope = sum((x - mean_x) * (y - mean_y) for x, y in points) / spread
    level = mean_y - slope * mean_x
    if level <= WORN_REJECTION:
        return today, today, today
    scatter = sum((y - level - slope * x) ** 2 for x, y in points) / max(1, count - 2)
    sd = (scatter / spread) ** 0.5
    if slope + 2 * sd >= 0:
        return None, None, None
    days = [(WORN_REJECTION - level) / each for each in (slope, slope - 1.28 * sd, min(slope + 1.28 * sd, slope / 4))]
    due, early, late = (today + timedelta(days=min(3650, ceil(each))) for each in days)
    return due, early, late


def _diagnoses(state: UnitState, readings: Sequence[UnitReading], changed: dict[str, date]) -> list[str]:
    """What the readings and the timed flow say is wrong, by key."""
    found, unit = [], state.unit
    stages = {one.key: one for one in state.stages}
    worn = stages["membrane"].worn
    if worn is not None and worn < WORN_REJECTION:
        found.append("rejection_low")
    last = readings[-1] if readings else None
    if last and last.solids_out is not None and last.solids_out >= 1:
        resin = stages["resin"]
        early = resin.lasts is not None and resin.used_l < EARLY_SHARE * resin.lasts
        found.append("resin_early" if early else "resin_used_up")
    elif stages["resin"].lasts is not None and not stages["resin"].left:
        found.append("resin_past")
    drop = next((one.drop_bar for one in reversed(readings) if one.drop_bar is not None), None)
    if drop is not None and drop >= CLOGGED_BAR:
        found.append("prefilters_clogged")
    if last and last.crept:
        found.append("solids_creep")
    if unit.measured_l_h is not None and unit.measured_l_h < LOW_FLOW_SHARE * state.flow:
        found.append("flow_low")
    if unit.measured_l_h is not None and state.waste < 1.5:
        found.append("waste_low")
    if unit.supply == Supply.UNKNOWN:
        found.append("supply_unknown")
    elif unit.supply == Supply.CHLORAMINE and unit.carbon_blocks < 2:
        found.append("chloramine_one_block")
    return found


@dataclass(frozen=True)
class Cost:
    """Money for 100 L of purified water, by stage and for the water; missing: prices that are not entered."""

    parts: tuple[tuple[str, float], ...]
    missing: tuple[str, ...]

    @property
    def whole(self) -> float:
        """All of it."""
        return sum(money for _, money in self.parts)


MEMBRANE_L = 15_000.0
"""Litres that a membrane makes in its life, to share its price by (judgement)."""


def cost_of_100_l(state: UnitState) -> Cost:
    """What 100 L cost: each stage by the litres it lasts, the water with what is wasted."""
    unit, feed = state.unit, 1 + state.waste
    stages = {one.key: one for one in state.stages}
    prices = {"sediment": unit.sediment_price, "carbon": unit.carbon_price, "membrane": unit.membrane_price,
              "resin": unit.resin_price, "water": unit.water_price}  # fmt: skip
    lasts = {
        "sediment": unit.sediment_l / feed,
        "carbon": float(stages["carbon"].lasts or unit.carbon_l) / feed / unit.carbon_blocks,
        "membrane": MEMBRANE_L,
        "resin": float(stages["resin"].lasts or 0.0),
        "water": 1000 / feed,
    }
    parts = tuple((key, 100 * price / lasts[key]) for key, price in prices.items() if price and lasts[key])
    return Cost(parts, tuple(key for key, price in prices.items() if not price))


@dataclass(frozen=True)
class Better:
    """What one better stage would change: litres the resin lasts now and then."""

    key: str
    now_l: float
    then_l: float


BEST_REJECTION = 98.0


def better_stages(state: UnitState) -> list[Better]:
    """A fresh membrane, and carbon dioxide driven out before the resin: what each does to the resin's life."""
    unit, load = state.unit, state.load
    membrane = next(one for one in state.stages if one.key == "membrane")
    if load is None or load <= 0 or membrane.worn is None:
        return []
    per_l = ANION_EQ_L if unit.separate else RESIN_EQ_L
    now = resin_litres(unit.resin_l, per_l, load)
    given = membrane.worn.working[-1].inputs
    solids = next(each.value for symbol, each in given if symbol == "s")
    found = []
    if membrane.worn < BEST_REJECTION - 0.5:
        kept = resin_load_meq_l(solids * (1 - BEST_REJECTION / 100), unit.carbon_dioxide_mg_l)
        found.append(Better("membrane", float(now), float(resin_litres(unit.resin_l, per_l, kept))))
    if unit.carbon_dioxide_mg_l > 2:
        after = next(each.value for symbol, each in given if symbol == "s_m")
        aired = resin_load_meq_l(after, 1.0)
        found.append(Better("carbon_dioxide", float(now), float(resin_litres(unit.resin_l, per_l, aired))))
    return found
