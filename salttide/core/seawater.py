"""Density, specific gravity and salinity of seawater, by TEOS-10 through its own library.

Practical salinity (PSS-78) is shown as ppt. All at sea pressure 0.
"""

from __future__ import annotations

from enum import StrEnum
from functools import lru_cache

import gsw

from .errors import DomainError, check_range

SALINITY_MAX = 45.0
TEMPERATURE_MAX_C = 45.0


class GravityReference(StrEnum):
    """Which temperatures a specific gravity refers to: the sample's / the pure water's."""

    R25_25 = "25/25"
    R20_20 = "20/20"
    R60_60F = "60/60F"
    R25_4 = "25/4"


REFERENCE_TEMPERATURES_C: dict[GravityReference, tuple[float, float]] = {
    GravityReference.R25_25: (25.0, 25.0),
    GravityReference.R20_20: (20.0, 20.0),
    GravityReference.R60_60F: ((60 - 32) / 1.8, (60 - 32) / 1.8),
    GravityReference.R25_4: (25.0, 4.0),
}


def absolute_salinity(salinity: float) -> float:
    """Reference-composition salinity in g/kg from practical salinity (0 to 45).

    Source: Millero et al. 2008, S_R = 35.16504/35 · S_P.

    >>> round(absolute_salinity(35.0), 5)
    35.16504
    """
    return float(gsw.SR_from_SP(check_range("salinity", salinity, "ppt", 0, SALINITY_MAX)))


def density_kg_l(salinity: float, temperature_c: float) -> float:
    """Density in kg/L from practical salinity (0 to 45) and temperature (0 to 45 °C).

    Source: TEOS-10 (IOC, SCOR and IAPSO 2010), 75-term expression of Roquet et al. 2015.

    >>> round(density_kg_l(35.0, 25.0), 4)
    1.0233
    """
    check_range("temperature", temperature_c, "°C", 0, TEMPERATURE_MAX_C)
    salinity_g_kg = absolute_salinity(salinity)
    return float(gsw.rho(salinity_g_kg, gsw.CT_from_t(salinity_g_kg, temperature_c, 0.0), 0.0)) / 1000


def specific_gravity(salinity: float, reference: GravityReference) -> float:
    """Density of the sample over density of pure water, at the reference's temperatures; no unit.

    >>> round(specific_gravity(35.0, GravityReference.R25_25), 4)
    1.0264
    """
    sample_c, water_c = REFERENCE_TEMPERATURES_C[reference]
    return density_kg_l(salinity, sample_c) / _pure_water(water_c)


def salinity_from_specific_gravity(gravity: float, reference: GravityReference) -> float:
    """Practical salinity from a specific gravity (1.000 to about 1.034) of the reference named.

    Inverts `specific_gravity` by the secant rule to 1e-9; density is nearly a straight line in salinity, so
    that a few steps do. Raises DomainError outside the gravities of salinity 0 to 45.

    >>> round(salinity_from_specific_gravity(1.0264, GravityReference.R25_25), 1)
    35.0
    """
    low, high = _gravity_range(reference)
    if not low <= gravity <= high:
        raise DomainError("specific gravity", gravity, "", round(low, 4), round(high, 4))
    before, after = 0.0, SALINITY_MAX
    error_before, error_after = low - gravity, high - gravity
    while abs(after - before) > 1e-9 and error_after != error_before:
        guess = after - error_after * (after - before) / (error_after - error_before)
        guess = min(max(guess, 0.0), SALINITY_MAX)
        before, error_before = after, error_after
        after, error_after = guess, specific_gravity(guess, reference) - gravity
    return after


@lru_cache
def _gravity_range(reference: GravityReference) -> tuple[float, float]:
    return specific_gravity(0.0, reference), specific_gravity(SALINITY_MAX, reference)


@lru_cache
def _pure_water(temperature_c: float) -> float:
    return density_kg_l(0.0, temperature_c)
