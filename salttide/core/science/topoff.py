"""Top-off: what evaporation does to salinity, how long a reservoir lasts, and what happens if it empties at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..basics.errors import InputError, check_range
from ..basics.working import Formula, FormulaInput, Result
from .limewater import limewater_strength_meq_l

EVAPORATED = Formula("S", "salinity after evaporation", "S_0 * V_0 / (V_0 - E)", "ppt", "water leaves, salt stays")
FLOODED = Formula("S", "salinity after the flood", "S_0 * V_0 / (V_0 + F)", "ppt", "salt stays, fresh water is added")
MISSING = Formula("E", "water that evaporated", "V * (1 - S_0 / S_1)", "L", "water leaves, salt stays")
DRIFT = Formula("ΔS", "rise of salinity on the first day", "S_0 * V / (V - E) - S_0", "ppt", "water leaves, salt stays")
LASTS = Formula("t", "days the reservoir lasts", "R / E", "days", "supply over use")
LIME_MIXED = Formula(
    "A", "alkalinity after the flood", "(A_0 * V + F * A_L) / (V + F)", "meq/L", "mass balance of both waters"
)
SAFE = Formula("R", "largest safe reservoir", "V * d / (S - d)", "L", "flood solved for the volume")
SAFE_LIME = Formula(
    "R", "largest safe limewater reservoir", "V * d / (A - A_0 - d)", "L", "flood of both waters solved for the volume"
)


def salinity_after_evaporation(salinity: float, volume_l: float, evaporated_l: float) -> Result:
    """Salinity (ppt) once `evaporated_l` of `volume_l` is gone and nothing was topped off: S = S0·V0/(V0−E).

    Salinity 0 to 45; less than half of the volume may evaporate. Raises DomainError.

    >>> round(salinity_after_evaporation(35.0, 100.0, 2.0), 3)
    35.714
    """
    check_range("salinity", salinity, "ppt", 0, 45)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("evaporated water", evaporated_l, "L", 0, volume_l / 2)
    return EVAPORATED.result(
        S_0=FormulaInput(salinity, "ppt", "before"),
        V_0=FormulaInput(volume_l, "L", "full"),
        E=FormulaInput(evaporated_l, "L", "evaporated"),
    )


def evaporation_l_from_salinity(salinity_before: float, salinity_after: float, volume_l: float) -> Result:
    """Litres that evaporated (or top-off that is missing) when salinity rose: E = V0·(1 − S0/S1).

    >>> round(evaporation_l_from_salinity(35.0, 36.0, 71.0), 2)
    1.97
    """
    check_range("salinity before", salinity_before, "ppt", 1, 45)
    check_range("salinity after", salinity_after, "ppt", salinity_before, 60)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    return MISSING.result(
        V=FormulaInput(volume_l, "L"),
        S_0=FormulaInput(salinity_before, "ppt", "before"),
        S_1=FormulaInput(salinity_after, "ppt", "after"),
    )


def salinity_drift_per_day(salinity: float, volume_l: float, evaporation_l_day: float) -> Result:
    """Rise of salinity (ppt) on the first day without top-off, at an evaporation in L a day.

    >>> round(salinity_drift_per_day(35.0, 100.0, 2.0), 3)
    0.714
    """
    salinity_after_evaporation(salinity, volume_l, evaporation_l_day)
    return DRIFT.result(
        S_0=FormulaInput(salinity, "ppt"),
        V=FormulaInput(volume_l, "L"),
        E=FormulaInput(evaporation_l_day, "L", "evaporated in a day"),
    )


def reservoir_days(reservoir_l: float, evaporation_l_day: float) -> Result:
    """Days that a reservoir (L, 0 to 10 000) lasts at an evaporation above 0 to 1000 L a day.

    >>> float(reservoir_days(45.0, 3.0))
    15.0
    """
    check_range("reservoir", reservoir_l, "L", 0, 10_000)
    check_range("evaporation", evaporation_l_day, "L a day", 1e-6, 1000)
    return LASTS.result(
        R=FormulaInput(reservoir_l, "L", "reservoir"), E=FormulaInput(evaporation_l_day, "L a day", "evaporation")
    )


def salinity_after_flood(salinity: float, volume_l: float, flood_l: float) -> Result:
    """Salinity (ppt) after `flood_l` of fresh water ran into `volume_l` and all stayed inside.

    >>> round(salinity_after_flood(35.0, 334.0, 45.0), 2)
    30.84
    """
    check_range("salinity", salinity, "ppt", 0, 45)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("flood", flood_l, "L", 0, 10 * volume_l)
    return FLOODED.result(
        S_0=FormulaInput(salinity, "ppt", "before"),
        V_0=FormulaInput(volume_l, "L"),
        F=FormulaInput(flood_l, "L", "fresh water"),
    )


def largest_safe_reservoir_l(salinity: float, volume_l: float, most_drop: float = 1.0) -> Result:
    """The largest reservoir (L) that lowers salinity by no more than `most_drop` ppt (0.1 to 5) if it empties at once.

    >>> round(largest_safe_reservoir_l(35.0, 334.0), 1)
    9.8
    """
    check_range("salinity", salinity, "ppt", 10, 45)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("drop", most_drop, "ppt", 0.1, 5)
    return SAFE.result(
        V=FormulaInput(volume_l, "L"),
        d=FormulaInput(most_drop, "ppt", "most it may fall"),
        S=FormulaInput(salinity, "ppt"),
    )


def alkalinity_after_lime_flood(
    alkalinity_meq_l: float, volume_l: float, flood_l: float, temperature_c: float = 25.0
) -> Result:
    """Alkalinity (meq/L) after a reservoir of saturated limewater ran into the system: it goes first, before salinity.

    >>> round(alkalinity_after_lime_flood(2.8, 334.0, 10.0), 2)
    3.9
    """
    check_range("alkalinity", alkalinity_meq_l, "meq/L", 0, 10)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("flood", flood_l, "L", 0, 10 * volume_l)
    strength = limewater_strength_meq_l(temperature_c)
    return LIME_MIXED.result(
        strength,
        A_0=FormulaInput(alkalinity_meq_l, "meq/L", "before"),
        V=FormulaInput(volume_l, "L"),
        F=FormulaInput(flood_l, "L", "flood"),
        A_L=strength.given(),
    )


@dataclass(frozen=True)
class LimeFlood:
    """The water after a flood of limewater: alkalinity (meq/L), salinity, and pH (NBS) and saturation of aragonite at
    once, before it drops out or takes up air; these None beyond what can be computed, where pH is above 9.5."""

    alkalinity_meq_l: Result
    salinity: Result
    ph_nbs: float | None
    aragonite: float | None = None

    @property
    def runs_away(self) -> bool:
        """Whether calcium carbonate falls out by itself, and takes more alkalinity than the limewater brought."""
        return self.aragonite is None or self.aragonite > RUNAWAY_ARAGONITE


RUNAWAY_ARAGONITE = 7.0
"""Saturation of aragonite above which hydrated lime in seawater sets off runaway precipitation (Moras et al. 2022,
Biogeosciences 19, 3537)."""
CALCIUM_G_EQ = 20.04
"""Calcium for each equivalent of its hydroxide."""


def lime_flood(
    alkalinity_meq_l: float,
    volume_l: float,
    flood_l: float,
    ph_nbs: float = 8.1,
    salinity: float = 35.0,
    temperature_c: float = 25.0,
    calcium_mg_l: float = 420.0,
) -> LimeFlood:
    """What a whole reservoir of saturated limewater does at once: judged by alkalinity and pH, which go first.

    Hydroxide brings no carbon, so that pH jumps. Source: mass balance and the carbonate system.

    >>> flood = lime_flood(2.8, 334.0, 10.0)
    >>> round(flood.alkalinity_meq_l, 2), round(flood.ph_nbs, 2), round(flood.salinity, 1)
    (3.9, 9.06, 34.0)
    """
    from .carbonate import carbonate_from_dic, carbonate_from_ph_nbs

    alkalinity = alkalinity_after_lime_flood(alkalinity_meq_l, volume_l, flood_l, temperature_c)
    diluted = salinity_after_flood(salinity, volume_l, flood_l)
    before = carbonate_from_ph_nbs(ph_nbs, alkalinity_meq_l, salinity, temperature_c)
    brought = CALCIUM_G_EQ * float(limewater_strength_meq_l(temperature_c))
    calcium = (calcium_mg_l * volume_l + brought * flood_l) / (volume_l + flood_l)
    carbon = before.dic_mmol_l * volume_l / (volume_l + flood_l)
    try:
        after = carbonate_from_dic(carbon, float(alkalinity), max(5.0, float(diluted)), temperature_c, calcium)
    except InputError:
        return LimeFlood(alkalinity, diluted, None)
    return LimeFlood(alkalinity, diluted, float(after.ph_nbs), float(after.aragonite_saturation))


def largest_safe_lime_reservoir_l(
    volume_l: float, most_rise_meq_l: float, temperature_c: float = 25.0, alkalinity_meq_l: float = 2.8
) -> Result:
    """The largest reservoir (L) of saturated limewater that brings no more than `most_rise_meq_l` (0.05 to 3) at once.

    The flood also thins out what the system itself holds, `alkalinity_meq_l` (0 to 10): (A0·V + R·A)/(V + R) = A0 + d.

    >>> round(largest_safe_lime_reservoir_l(334.0, 0.357), 2)
    3.19
    """
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("rise", most_rise_meq_l, "meq/L", 0.05, 3)
    strength = limewater_strength_meq_l(temperature_c)
    return SAFE_LIME.result(
        strength,
        V=FormulaInput(volume_l, "L"),
        d=FormulaInput(most_rise_meq_l, "meq/L", "most it may rise"),
        A=strength.given(),
        A_0=FormulaInput(check_range("alkalinity", alkalinity_meq_l, "meq/L", 0, 10), "meq/L", "of the system"),
    )


def independent_safeguards(chains: Sequence[tuple[str, str]]) -> int:
    """How many safeguards against a flood share nothing: each is (what senses, what stops the water).

    Two floats that cut one relay are one safeguard, for a stuck relay beats both. The largest set of chains without a
    common part is counted; two or more are advised. At most 8 chains.

    >>> independent_safeguards([("float", "relay"), ("optical", "relay")])
    1
    >>> independent_safeguards([("float", "relay"), ("optical", "valve"), ("time limit", "relay")])
    2
    """
    check_range("safeguards", len(chains), "", 0, 8)

    def most(left: Sequence[tuple[str, str]], used: frozenset[str]) -> int:
        if not left:
            return 0
        without = most(left[1:], used)
        sensor, stop = left[0]
        parts = frozenset({f"sense {sensor}", f"stop {stop}"})
        return without if parts & used else max(without, 1 + most(left[1:], used | parts))

    return most(list(chains), frozenset())
