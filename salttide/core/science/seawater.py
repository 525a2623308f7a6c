"""Density, specific gravity, conductivity and salinity of seawater, by TEOS-10 and PSS-78 through their own library.

Practical salinity (PSS-78) is shown as ppt. All at sea pressure 0.
"""

from __future__ import annotations

from enum import StrEnum
from functools import lru_cache
from math import ceil, floor
from typing import TYPE_CHECKING, Any

from ..basics.errors import DomainError, check_choice, check_range, check_ranges
from ..basics.lazy import LazyModule
from ..basics.number_text import short

if TYPE_CHECKING:
    import numpy as np
else:
    np = LazyModule("numpy")
gsw: Any = LazyModule("gsw")

SALINITY_MAX = 45.0
TEMPERATURE_MAX_C = 45.0
CONDUCTIVITY_REFERENCE_C = 25.0
"""Meters that compensate for temperature show the conductivity at 25 °C."""


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


def gravity_reference(reference: GravityReference | str) -> GravityReference:
    """The reference itself, also from its text: "25/25", "20/20", "60/60F", "25/4". Raises UnitError for any other."""
    return check_choice(GravityReference, reference, "reference of a specific gravity")


def absolute_salinity(salinity: float) -> float:
    """Reference-composition salinity in g/kg from practical salinity (0 to 45).

    Source: Millero et al. 2008, S_R = 35.16504/35 · S_P.

    >>> round(absolute_salinity(35.0), 5)
    35.16504
    """
    return float(gsw.SR_from_SP(check_range("salinity", salinity, "ppt", 0, SALINITY_MAX)))


def density_kg_l(salinity: float, temperature_c: float) -> float:
    """Density in kg/L from practical salinity (0 to 45) and temperature (0 to 45 °C).

    Source: TEOS-10 (IOC, SCOR and IAPSO 2010), its Gibbs function itself, at in-situ temperature.
    Raises DomainError outside the ranges.

    >>> round(density_kg_l(35.0, 25.0), 4)
    1.0233
    """
    check_range("temperature", temperature_c, "°C", 0, TEMPERATURE_MAX_C)
    return float(gsw.rho_t_exact(absolute_salinity(salinity), temperature_c, 0.0)) / 1000


def density_array_kg_l(salinity: Any, temperature_c: Any) -> Any:
    """`density_kg_l` of numbers or arrays, without a check of the ranges."""
    return gsw.rho_t_exact(salinity * _G_KG, temperature_c, 0.0) / 1000


def salinity_from_density(density_kg_l: Any, temperature_c: Any) -> Any:
    """Practical salinity (0 to 45) from density in kg/L at a temperature (0 to 45 °C); numbers or arrays of them.

    Inverts `density_kg_l`. Density is nearly a straight line in salinity: the chord from 32 to 38 comes within 0.05
    between 25 and 40, and each further step along it is a hundred times nearer; three reach 1e-8. Raises
    DomainError where no salinity from 0 to 45 has that density.

    >>> round(salinity_from_density(1.0233436, 25.0), 3)
    35.0
    """
    check_ranges("temperature", temperature_c, "°C", 0, TEMPERATURE_MAX_C)
    check_ranges("density", density_kg_l, "kg/L", 0.98, 1.05)
    wanted, (low, high) = density_kg_l * 1000.0, _CHORD
    at_low = gsw.rho_t_exact(low * _G_KG, temperature_c, 0.0)
    slope = (gsw.rho_t_exact(high * _G_KG, temperature_c, 0.0) - at_low) / (high - low)
    salinity = low + (wanted - at_low) / slope
    for _ in range(3):
        salinity = np.clip(salinity, 0.0, SALINITY_MAX)
        salinity = salinity + (wanted - gsw.rho_t_exact(salinity * _G_KG, temperature_c, 0.0)) / slope
    inside = np.clip(salinity, 0.0, SALINITY_MAX)
    if (abs(inside - salinity) > 1e-4).any():
        raise _density_error(density_kg_l, temperature_c, inside, salinity)
    return inside if np.ndim(inside) else float(inside)


_CHORD = (32.0, 38.0)
_G_KG = 35.16504 / 35
"""Absolute salinity in g/kg of one unit of practical salinity (Millero et al. 2008)."""


def _density_error(density: Any, temperature: Any, inside: Any, salinity: Any) -> DomainError:
    """Names the first density that no salinity has, and the range at its temperature."""
    at = np.flatnonzero(abs(inside - salinity) > 1e-4)[0]
    value, degrees = (float(np.broadcast_to(item, np.shape(salinity)).flat[at]) for item in (density, temperature))
    low, high = (round(density_kg_l(end, degrees), 5) for end in (0.0, SALINITY_MAX))
    return DomainError("density", value, f"kg/L at {short(degrees)} °C", low, high)


def specific_gravity(salinity: float, reference: GravityReference = GravityReference.R25_25) -> float:
    """Density of the sample over density of pure water, at the reference's temperatures; no unit. Salinity 0 to 45.

    >>> round(specific_gravity(35.0, GravityReference.R25_25), 4)
    1.0264
    """
    sample_c, water_c = REFERENCE_TEMPERATURES_C[gravity_reference(reference)]
    return density_kg_l(salinity, sample_c) / pure_water_density_kg_l(water_c)


def salinity_from_specific_gravity(gravity: float, reference: GravityReference = GravityReference.R25_25) -> float:
    """Practical salinity from a specific gravity (1.000 to about 1.034) of the reference named.

    The sample is at the reference's own temperature; a hydrometer in water of another temperature needs
    `salinity_from_hydrometer`. Raises DomainError outside the gravities of salinity 0 to 45.

    >>> round(salinity_from_specific_gravity(1.0264, GravityReference.R25_25), 1)
    35.0
    """
    named = gravity_reference(reference)
    low, high = _gravity_range(named)
    check_range("specific gravity", gravity, "", floor(low * 1e4) / 1e4, ceil(high * 1e4) / 1e4)
    sample_c, water_c = REFERENCE_TEMPERATURES_C[named]
    return float(salinity_from_density(min(max(gravity, low), high) * pure_water_density_kg_l(water_c), sample_c))


def practical_salinity(conductivity_ms_cm: float, temperature_c: float = CONDUCTIVITY_REFERENCE_C) -> float:
    """Practical salinity (0 to 45) from conductivity in mS/cm (0 to 100) at a temperature (0 to 45 °C).

    A pen that compensates shows the conductivity at 25 °C whatever the water's temperature: leave 25 for it.
    Source: PSS-78 (UNESCO 1981), low salinities after Hill et al. 1986. DomainError outside the ranges, also where the
    salinity would be above 45.

    >>> round(practical_salinity(53.065, 25.0), 2)
    35.0
    """
    check_range("conductivity", conductivity_ms_cm, "mS/cm", 0, 100)
    check_range("temperature", temperature_c, "°C", 0, TEMPERATURE_MAX_C)
    salinity = float(gsw.SP_from_C(conductivity_ms_cm, temperature_c, 0.0))
    if salinity != salinity and conductivity_ms_cm < 0.1:
        return 0.0  # the scale has no value for nearly pure water
    if not salinity <= SALINITY_MAX:
        most = round(conductivity_ms_cm_from_salinity(SALINITY_MAX, temperature_c), 1)
        raise DomainError("conductivity", conductivity_ms_cm, f"mS/cm at {short(temperature_c)} °C", 0, most)
    return salinity


def conductivity_ms_cm_from_salinity(salinity: float, temperature_c: float = CONDUCTIVITY_REFERENCE_C) -> float:
    """Conductivity in mS/cm from practical salinity (0 to 45) at a temperature (0 to 45 °C, 25 for a pen).

    Source: PSS-78 (UNESCO 1981), inverted by its library; 15 °C of its own temperature scale are 14.9964 of today's.

    >>> round(conductivity_ms_cm_from_salinity(35.0, 14.9964), 3)
    42.914
    """
    check_range("salinity", salinity, "ppt", 0, SALINITY_MAX)
    check_range("temperature", temperature_c, "°C", 0, TEMPERATURE_MAX_C)
    return float(gsw.C_from_SP(salinity, temperature_c, 0.0))


@lru_cache
def pure_water_density_kg_l(temperature_c: float) -> float:
    """Density of pure water in kg/L at a temperature (0 to 45 °C).

    >>> round(pure_water_density_kg_l(25.0), 5)
    0.99705
    """
    return density_kg_l(0.0, temperature_c)


@lru_cache
def _gravity_range(reference: GravityReference) -> tuple[float, float]:
    return specific_gravity(0.0, reference), specific_gravity(SALINITY_MAX, reference)
