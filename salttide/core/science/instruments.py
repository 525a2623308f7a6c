"""What an instrument shows, and the value behind it: hydrometers, refractometers, checks against standards."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from ..basics.errors import InputError, check_choice, check_range
from ..basics.working import Formula, FormulaInput, Result
from .seawater import (
    REFERENCE_TEMPERATURES_C,
    SALINITY_MAX,
    GravityReference,
    density_kg_l,
    gravity_reference,
    pure_water_density_kg_l,
    salinity_from_density,
)

GLASS_EXPANSION_PER_K = 25e-6
"""Cubic expansion of soda-lime hydrometer glass, 1/K; a refinement of about 0.0001 at 5 K."""


class RefractometerScale(StrEnum):
    """For which solution a refractometer's scale was drawn."""

    SEAWATER = "seawater"
    SODIUM_CHLORIDE = "sodium_chloride"


NACL_SCALE_SHOWS = 36.5 / 35
"""A sodium-chloride scale shows about 36.5 in seawater of 35 ppt, even when zeroed rightly in pure water."""

HYDROMETER_DENSITY = Formula(
    "ρ",
    "density of the water",
    "R * ρ_w / (1 + γ * (t - a))",
    "kg/L",
    "floating: what is displaced weighs as much",
)
HYDROMETER_READING = Formula(
    "R", "what the hydrometer shows", "ρ * (1 + γ * (t - a)) / ρ_w", "", "floating: what is displaced weighs as much"
)
DENSITY_OF_SALINITY = Formula(
    "ρ", "density of the water", "density(S, t)", "kg/L", "TEOS-10 (2010)", {"density": density_kg_l}
)
SALINITY_OF_DENSITY = Formula(
    "S", "salinity", "salinity(ρ, t)", "ppt", "TEOS-10 (2010)", {"salinity": salinity_from_density}
)


def salinity_from_hydrometer(
    reading: float,
    water_c: float,
    reference: GravityReference = GravityReference.R25_25,
    glass_expansion_per_k: float = 0.0,
) -> Result:
    """Practical salinity from a floating glass hydrometer's reading (0.99 to 1.05) in water of `water_c` (0 to 45 °C).

    The scale is right only at its own temperature: it shows rho(S, t) over the density of pure water at the second
    temperature of `reference`. `glass_expansion_per_k` (0 to 1e-4) counts the glass too, GLASS_EXPANSION_PER_K for
    common glass. Not for swing arms. Raises DomainError outside the ranges.

    >>> round(salinity_from_hydrometer(1.0278, 20.0), 1)
    35.0
    """
    check_range("hydrometer reading", reading, "", 0.99, 1.05)
    check_range("water temperature", water_c, "°C", 0, 45)
    check_range("glass expansion", glass_expansion_per_k, "1/K", 0, 1e-4)
    made_c, pure_c = REFERENCE_TEMPERATURES_C[gravity_reference(reference)]
    water = FormulaInput(water_c, "°C", "the water's temperature")
    density = HYDROMETER_DENSITY.result(
        R=FormulaInput(reading, "", f"reading on the {gravity_reference(reference).value} scale"),
        ρ_w=FormulaInput(pure_water_density_kg_l(pure_c), "kg/L", f"pure water at {pure_c:.4g} °C"),
        γ=FormulaInput(glass_expansion_per_k, "1/K", "expansion of the glass"),
        t=water,
        a=FormulaInput(made_c, "°C", "the scale's own temperature"),
    )
    return SALINITY_OF_DENSITY.result(density, ρ=density.given(), t=water)


def hydrometer_reading(
    salinity: float,
    water_c: float,
    reference: GravityReference = GravityReference.R25_25,
    glass_expansion_per_k: float = 0.0,
) -> Result:
    """What a floating glass hydrometer shows in water of a salinity (0 to 45) and temperature (0 to 45 °C).

    >>> round(hydrometer_reading(35.0, 20.0), 4)
    1.0278
    """
    check_range("glass expansion", glass_expansion_per_k, "1/K", 0, 1e-4)
    made_c, pure_c = REFERENCE_TEMPERATURES_C[gravity_reference(reference)]
    water = FormulaInput(water_c, "°C", "the water's temperature")
    density = DENSITY_OF_SALINITY.result(S=FormulaInput(salinity, "ppt"), t=water)
    return HYDROMETER_READING.result(
        density,
        ρ=density.given(),
        γ=FormulaInput(glass_expansion_per_k, "1/K", "expansion of the glass"),
        t=water,
        a=FormulaInput(made_c, "°C", "the scale's own temperature"),
        ρ_w=FormulaInput(pure_water_density_kg_l(pure_c), "kg/L", f"pure water at {pure_c:.4g} °C"),
    )


def salinity_from_refractometer(reading: float, scale: RefractometerScale = RefractometerScale.SEAWATER) -> float:
    """Practical salinity from a refractometer's reading in ppt (0 to 47) on its scale, zeroed in pure water.

    >>> round(salinity_from_refractometer(36.5, RefractometerScale.SODIUM_CHLORIDE), 6)
    35.0
    """
    shows = NACL_SCALE_SHOWS if check_choice(RefractometerScale, scale) == RefractometerScale.SODIUM_CHLORIDE else 1.0
    return check_range("refractometer reading", reading, "ppt", 0, SALINITY_MAX * shows) / shows


@dataclass(frozen=True)
class Check:
    """A check against a standard: its true value and what the instrument showed, in one unit."""

    standard: float
    reading: float


CORRECTED = Formula("x", "corrected reading", "a + b * r", "", "line through the instrument's checks")


def correct_reading(reading: float, checks: Sequence[Check | tuple[float, float]], unit: str = "") -> Result:
    """The value behind a reading, by the line through the checks: none as shown, one an offset, more offset and slope.

    Checks are (standard, reading). Three or more are joined by least squares. The slope must be 0.5 to 2, or the
    instrument is not usable: InputError; also where two checks show the same for different standards.

    >>> float(correct_reading(36.0, [(35.0, 36.5)]))
    34.5
    >>> round(correct_reading(36.0, [(0.0, 0.0), (35.0, 36.5)]), 3)
    34.521
    """
    check_range("reading", reading, unit, -1e6, 1e6)
    line = instrument_line(checks)
    return CORRECTED.result(
        a=FormulaInput(line[0], unit, "offset"),
        b=FormulaInput(line[1], "", "slope"),
        r=FormulaInput(reading, unit, "as shown"),
    )


def instrument_line(checks: Sequence[Check | tuple[float, float]]) -> tuple[float, float]:
    """Offset and slope of true value against reading: standard = offset + slope · reading.

    >>> instrument_line([(35.0, 36.5)])
    (-1.5, 1.0)
    """
    pairs = [(check.standard, check.reading) if isinstance(check, Check) else check for check in checks]
    for number in (number for pair in pairs for number in pair):
        check_range("check", number, "", -1e6, 1e6)
    if not pairs:
        return 0.0, 1.0
    mean_true = sum(true for true, _ in pairs) / len(pairs)
    mean_shown = sum(shown for _, shown in pairs) / len(pairs)
    spread = sum((shown - mean_shown) ** 2 for _, shown in pairs)
    if len(pairs) == 1 or len({true for true, _ in pairs}) == 1:
        return mean_true - mean_shown, 1.0
    slope = sum((true - mean_true) * (shown - mean_shown) for true, shown in pairs) / spread if spread else 0.0
    if not 0.5 <= slope <= 2:
        raise InputError(
            "these checks do not belong to one instrument: it would have to be off by more than half",
            field="checks",
            accepted="standards and readings that rise together",
        )
    return mean_true - slope * mean_shown, slope
