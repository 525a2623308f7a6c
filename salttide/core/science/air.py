"""Carbon dioxide of the air over water: what a meter shows of dry air, as the pressure that the water meets."""

from __future__ import annotations

from math import exp, log

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result
from .carbonate_constants import ZERO_C_K

OUTDOOR_PPM = 425.0
"""Carbon dioxide of outdoor air in 2025, mole fraction in dry air."""
SEA_LEVEL_ATM = 1.0

VAPOUR = Formula(
    "pH2O", "water vapour over seawater", "exp(24.4543 - 67.4509 * 100 / T - 4.8489 * ln(T / 100) - 0.000544 * S)",
    "atm", "Weiss & Price 1980, equation 10", {"exp": exp, "ln": log},
)  # fmt: skip
OVER_WATER = Formula("pCO2", "carbon dioxide over the water", "x * (P - pH2O)", "µatm", "Dalton's law, moist air")
IN_DRY_AIR = Formula("x", "carbon dioxide in dry air", "pCO2 / (P - pH2O)", "ppm", "Dalton's law, moist air")


def water_vapour_atm(salinity: float = 35.0, temperature_c: float = 25.0) -> Result:
    """Pressure of water vapour (atm) in air that is saturated over water of a salinity (0 to 45) at 0 to 45 °C.

    >>> round(water_vapour_atm(35.0, 25.0), 4)
    0.0307
    """
    return VAPOUR.result(
        T=FormulaInput(check_range("temperature", temperature_c, "°C", 0, 45) + ZERO_C_K, "K", "water"),
        S=FormulaInput(check_range("salinity", salinity, "ppt", 0, 45), "ppt", "water"),
    )


def pco2_uatm_of_air(
    ppm: float, salinity: float = 35.0, temperature_c: float = 25.0, pressure_atm: float = SEA_LEVEL_ATM
) -> Result:
    """pCO2 (µatm) that water meets under air of so many ppm of carbon dioxide (dry mole fraction, 100 to 20 000).

    The air at the surface is saturated with water vapour, which takes its share of the pressure (0.5 to 1.1 atm).

    >>> round(pco2_uatm_of_air(425.0), 1)
    412.0
    """
    vapour = water_vapour_atm(salinity, temperature_c)
    return OVER_WATER.result(
        vapour,
        x=FormulaInput(check_range("carbon dioxide of the air", ppm, "ppm", 100, 20_000), "ppm", "in dry air"),
        P=FormulaInput(check_range("air pressure", pressure_atm, "atm", 0.5, 1.1), "atm", "air pressure"),
        pH2O=vapour.given(),
    )


def ppm_of_pco2(
    pco2_uatm: float, salinity: float = 35.0, temperature_c: float = 25.0, pressure_atm: float = SEA_LEVEL_ATM
) -> Result:
    """The ppm that a meter shows in air in balance with water of a pCO2 (20 to 20 000 µatm); the inverse of the above.

    >>> round(ppm_of_pco2(412.0))
    425
    """
    vapour = water_vapour_atm(salinity, temperature_c)
    return IN_DRY_AIR.result(
        vapour,
        pCO2=FormulaInput(check_range("pCO2", pco2_uatm, "µatm", 20, 20_000), "µatm", "of the water"),
        P=FormulaInput(check_range("air pressure", pressure_atm, "atm", 0.5, 1.1), "atm", "air pressure"),
        pH2O=vapour.given(),
    )
