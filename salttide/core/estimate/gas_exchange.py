"""The system's gas exchange: the carbon dioxide it gives off and takes up over the day, estimated from its own pH.

Dissolved carbon follows dC/dt = s(h) - K · CO2 + what doses bring, for each hour h of the day: s holds respiration
less photosynthesis and calcification, and what comes in from the room's air; K is how fast dissolved carbon dioxide
goes out.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import exp, log, pi, sqrt
from typing import Any

from ..basics.errors import PlanError, check_range, check_ranges
from ..basics.lazy import LazyModule
from ..science.additives import brought_per_mole, carbon_per_mole
from ..science.air import OUTDOOR_PPM, pco2_uatm_of_air, ppm_of_pco2
from ..science.carbonate import carbonate_from_dic, carbonate_from_pco2, carbonate_from_ph_nbs
from ..science.parameters import Parameter

np: Any = LazyModule("numpy")

HOURS, PARTS, HOUR_S = 24, 4, 3600
STEPS = HOURS * PARTS
"""The day in quarters of an hour."""
MIN_DAYS = 5
MEAN_OF_DAYS = 14
"""The days the mean day is taken over."""
NEEDED = (Parameter.ALKALINITY, Parameter.SALINITY, Parameter.TEMPERATURE)
"""The parameters that the pH day needs."""
EXCHANGE, EXCHANGE_TIMES = 0.8, 2.0
"""The prior of the exchange rate K, 1/h, and the factor it may be off by (judgement)."""
HARMONICS = 3
"""The system's own rhythm changes no faster than a third of a day; anything faster comes from doses."""
NOISE_MMOL_L, ALIKE_TIMES = 0.002, 4.0
"""The least scatter of an hour's gain of carbon, and the factor by which errors are inflated because hours of one day
err together (judgement, from trials of the fish room)."""


@dataclass(frozen=True)
class DayDoses:
    """The doses of one compound by hour of the day, in meq/L of alkalinity; 24 numbers."""

    formula: str
    meq_l: tuple[float, ...]

    @property
    def total(self) -> float:
        """A day's."""
        return sum(self.meq_l)

    @property
    def carbon_share(self) -> float:
        """Carbon (mmol) that comes with one meq."""
        return carbon_per_meq(self.formula)


def carbon_per_meq(formula: str) -> float:
    """Dissolved carbon (mmol) that comes with one meq of alkalinity of a compound.

    >>> carbon_per_meq("Na2CO3"), carbon_per_meq("NaHCO3"), carbon_per_meq("Ca(OH)2")
    (0.5, 1.0, 0.0)
    """
    meq = brought_per_mole(formula).get(Parameter.ALKALINITY, 0.0)
    if meq <= 0:
        raise PlanError(f"{formula} brings no alkalinity: pH is not evened out by it.", field="formula")
    return carbon_per_mole(formula) / meq


def even_doses(formula: str, total_meq_l: float) -> DayDoses:
    """The same in every hour.

    >>> even_doses("Na2CO3", 0.24).meq_l[7]
    0.01
    """
    check_range("alkalinity a day", total_meq_l, "meq/L", 0, 3)
    return DayDoses(formula, (total_meq_l / HOURS,) * HOURS)


@dataclass(frozen=True)
class MeanWater:
    """The water besides its carbon: mean alkalinity (meq/L), salinity, temperature (°C), uptake (meq/L a day)."""

    alkalinity_meq_l: float
    salinity: float
    temperature_c: float
    uptake_meq_l: float


@dataclass(frozen=True)
class PhDay:
    """pH (NBS) over the day in quarters of an hour, with its ends."""

    ph: tuple[float, ...]
    alkalinity: tuple[float, ...]

    @property
    def lowest(self) -> float:
        return min(self.ph)

    @property
    def highest(self) -> float:
        return max(self.ph)

    @property
    def swing(self) -> float:
        """Highest less lowest."""
        return self.highest - self.lowest

    @property
    def mean(self) -> float:
        return sum(self.ph) / len(self.ph)

    def hour_of(self, ph: float) -> float:
        """The first hour of the day at which this pH occurs."""
        return self.ph.index(ph) / PARTS


@dataclass(frozen=True)
class GasExchange:
    """source: carbon that comes in from the middle of each hour to that of the next (mmol/L), 24 numbers · exchange: K,
    1/h, low and high: within a standard deviation · days: of probe data it was estimated from."""

    water: MeanWater
    source: tuple[float, ...]
    exchange: float
    exchange_low: float
    exchange_high: float
    days: int

    @property
    def surely(self) -> bool:
        """Whether the data determine the exchange, rather than the prior."""
        return bool(self.exchange_high < EXCHANGE_TIMES**1.2 * self.exchange_low)

    def day(self, doses: Sequence[DayDoses]) -> PhDay:
        """The pH of a day that repeats itself under these doses."""
        return predict(self, doses)

    def in_air(self, room_ppm: float, other_ppm: float) -> GasExchange:
        """The same system in air with a different carbon dioxide (ppm)."""
        moved = self.exchange * (self._held(other_ppm) - self._held(room_ppm))
        return replace(self, source=tuple(hour + moved for hour in self.source))

    def _held(self, ppm: float) -> float:
        water = self.water
        check_range("carbon dioxide of the air", ppm, "ppm", 150, 10_000)
        over_water = float(pco2_uatm_of_air(ppm, water.salinity, water.temperature_c))
        state = carbonate_from_pco2(over_water, water.alkalinity_meq_l, water.salinity, water.temperature_c)
        return float(state.carbon_dioxide_mmol_l)

    @cached_property
    def _inside(self) -> Any:
        return np.roll(np.repeat(np.array(self.source) / PARTS, PARTS), PARTS // 2)


def hourly_means(at: Sequence[int], values: Sequence[float], midnight: int) -> dict[int, float]:
    """Means of a probe's values by whole hours since a local midnight; moments in seconds since 1970.

    >>> hourly_means([3600, 5400, 7200], [8.0, 8.2, 8.3], 0)
    {1: 8.1, 2: 8.3}
    """
    sums: dict[int, list[float]] = {}
    for moment, value in zip(at, values, strict=True):
        sums.setdefault((moment - midnight) // HOUR_S, []).append(value)
    return {hour: sum(each) / len(each) for hour, each in sums.items() if hour >= 0}


def mean_day(hours: Mapping[int, float]) -> list[float]:
    """The mean of each hour of the day. Raises PlanError where an hour of the day has no data."""
    by_hour = [[value for hour, value in hours.items() if hour % HOURS == each] for each in range(HOURS)]
    if not all(by_hour):
        raise PlanError("The probe has not written through whole days yet.", field="body")
    return [sum(each) / len(each) for each in by_hour]


def gas_exchange_of(hours: Mapping[int, float], water: MeanWater, doses: Sequence[DayDoses]) -> GasExchange:
    """The gas exchange from hourly means of pH (NBS): by hours counted from a midnight, at least five days of them.

    `doses`: what was dosed meanwhile, the same every day. Source: mass balance of dissolved carbon; least squares with
    a Gaussian prior on the exchange.
    """
    check_ranges("pH (NBS)", np.array(list(hours.values())), "", 6, 10)
    pairs = [(hour, ph, hours[hour + 1]) for hour, ph in sorted(hours.items()) if hour + 1 in hours]
    if len(pairs) < MIN_DAYS * HOURS:
        raise PlanError(f"pH of at least {MIN_DAYS} days, hour by hour, is needed: let the probe write on.")
    at = np.array([hour % HOURS for hour, _, _ in pairs])
    gain, held = _gained(pairs, water, doses, at)
    exchange, sd = _exchange(gain, held, at)
    supplied = gain + exchange * held
    source = [float(np.mean(supplied[at == hour])) for hour in range(HOURS)]
    low, high = max(0.02, exchange - sd), exchange + sd
    return GasExchange(water, tuple(source), exchange, low, high, len(pairs) // HOURS)


def _gained(
    pairs: Sequence[tuple[int, float, float]], water: MeanWater, doses: Sequence[DayDoses], at: Any
) -> tuple[Any, Any]:
    """Carbon gained in each hour less what doses added, and the carbon dioxide held meanwhile, mmol/L."""
    alkalinity = alkalinity_over_day(water, doses).reshape(HOURS, PARTS).mean(axis=1)
    first, second = (np.array([pair[side] for pair in pairs]) for side in (1, 2))
    before = carbonate_from_ph_nbs(first, alkalinity[at], water.salinity, water.temperature_c)
    after = carbonate_from_ph_nbs(second, alkalinity[(at + 1) % HOURS], water.salinity, water.temperature_c)
    # From the middle of one hour to the middle of the next: half of each hour's dose lies between.
    brought = sum((np.array(one.meq_l) * one.carbon_share for one in doses), np.zeros(HOURS))
    between = (brought[at] + brought[(at + 1) % HOURS]) / 2
    gain = after.dic_mmol_l - before.dic_mmol_l - between
    return gain, (before.carbon_dioxide_mmol_l + after.carbon_dioxide_mmol_l) / 2


def _exchange(gain: Any, held: Any, at: Any) -> tuple[float, float]:
    """K and its standard deviation: gain = a smooth day - K · held, with the usual K as prior."""
    turn = 2 * pi * (at + 0.5) / HOURS
    waves = [f(n * turn) for n in range(1, HARMONICS + 1) for f in (np.cos, np.sin)]
    table = np.column_stack([np.ones_like(turn), *waves, -held])
    usual_sd = EXCHANGE * log(EXCHANGE_TIMES)
    plain, *_ = np.linalg.lstsq(table, gain, rcond=None)
    noise = ALIKE_TIMES * max(NOISE_MMOL_L, float(np.std(gain - table @ plain)))
    normal, right = table.T @ table / noise**2, table.T @ gain / noise**2
    normal[-1, -1] += 1 / usual_sd**2
    right[-1] += EXCHANGE / usual_sd**2
    cover = np.linalg.inv(normal)
    found = float((cover @ right)[-1])
    return min(max(found, 0.05), 5.0), sqrt(float(cover[-1, -1]))


def alkalinity_over_day(water: MeanWater, doses: Sequence[DayDoses]) -> Any:
    """Alkalinity in each quarter of an hour, around its mean: up by doses, down by a steady uptake of as much."""
    dosed = sum((np.array(one.meq_l) for one in doses), np.zeros(HOURS))
    each = np.repeat(dosed / PARTS, PARTS) - dosed.sum() / STEPS
    risen = np.cumsum(each) - each / 2
    return water.alkalinity_meq_l + risen - risen.mean()


def predict(gas_exchange: GasExchange, doses: Sequence[DayDoses]) -> PhDay:
    """The pH of a day that repeats itself under other doses; Newton's method on the whole day at once."""
    alkalinity = alkalinity_over_day(gas_exchange.water, doses)
    carbon = carbon_over_day(gas_exchange, doses, alkalinity)
    return PhDay(tuple(ph_over_day(gas_exchange.water, carbon, alkalinity).tolist()), tuple(alkalinity.tolist()))


def ph_over_day(water: MeanWater, carbon: Any, alkalinity: Any) -> Any:
    """pH (NBS) at every moment, from dissolved carbon (mmol/L) and alkalinity (meq/L)."""
    return carbonate_from_dic(carbon, alkalinity, water.salinity, water.temperature_c).ph_nbs


def held_over_day(water: MeanWater, carbon: Any, alkalinity: Any) -> Any:
    """Dissolved carbon dioxide (mmol/L) at every moment, from the same."""
    return carbonate_from_dic(carbon, alkalinity, water.salinity, water.temperature_c).carbon_dioxide_mmol_l


NUDGE = 1e-4


def carbon_over_day(gas_exchange: GasExchange, doses: Sequence[DayDoses], alkalinity: Any) -> Any:
    """Dissolved carbon in each quarter of an hour, where a day ends as it began."""
    brought = sum((np.repeat(np.array(one.meq_l) * one.carbon_share / PARTS, PARTS) for one in doses), np.zeros(STEPS))
    into = gas_exchange._inside + brought
    carbon = np.full(STEPS, 0.88 * gas_exchange.water.alkalinity_meq_l)
    for _ in range(12):
        held = held_over_day(gas_exchange.water, carbon, alkalinity)
        slope = (held_over_day(gas_exchange.water, carbon + NUDGE, alkalinity) - held) / NUDGE
        out = gas_exchange.exchange / PARTS
        miss = np.roll(carbon, -1) - carbon - into + out * (held + np.roll(held, -1)) / 2
        step = np.linalg.solve(day_matrix(slope * out / 2), miss)
        carbon = np.clip(carbon - step, 0.3, None)
        if float(np.max(np.abs(step))) < 1e-9:
            break
    return carbon


def day_matrix(half_out: Any) -> Any:
    """How the miss of each step depends on carbon at its begin and its end."""
    found = np.diag(half_out - 1)
    rows = np.arange(STEPS)
    found[rows, (rows + 1) % STEPS] += 1 + np.roll(half_out, -1)
    return found


def outdoor_gain(
    gas_exchange: GasExchange, doses: Sequence[DayDoses], room_ppm: float | None = None
) -> tuple[PhDay, PhDay, float]:
    """The day as it is, the day in outdoor air, and the room's carbon dioxide (ppm) this rests on. An unmeasured room
    is taken to hold what the water holds on average: the most that air can improve.
    """
    now = gas_exchange.day(doses)
    water = gas_exchange.water
    if room_ppm is None:
        state = carbonate_from_ph_nbs(np.array(now.ph), np.array(now.alkalinity), water.salinity, water.temperature_c)
        held = exp(float(np.mean(np.log(state.pco2_uatm))))
        room_ppm = float(ppm_of_pco2(held, water.salinity, water.temperature_c))
    return now, gas_exchange.in_air(room_ppm, OUTDOOR_PPM).day(doses), room_ppm
