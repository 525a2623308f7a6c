"""Total ammonia and its toxic part, un-ionised NH3."""

from __future__ import annotations

from enum import StrEnum

from ..basics.errors import ScaleError, check_range
from ..basics.number_text import short
from ..basics.working import Formula, FormulaInput, Result
from .carbonate import PhTotal, ph_total_from_nbs
from .carbonate_constants import MATHS, ZERO_C_K

CAUTION_MG_L, ACT_MG_L, EMERGENCY_MG_L = 0.02, 0.05, 0.1
"""Un-ionised NH3, mg/L (judgement): from here caution, act, emergency where animals are inside."""

PK_AMMONIUM = Formula(
    "pK", "ammonium, on the total scale",
    "9.244605 - 2729.33 * (1 / 298.15 - 1 / T) + (0.04203362 - 11.24742 / T) * S**0.25"
    " + (-13.6416 + 1.176949 * sqrt(T) - 0.02860785 * T + 545.4834 / T) * sqrt(S)"
    " + (-0.1462507 + 0.0090226468 * sqrt(T) - 0.0001471361 * T + 10.5425 / T) * S**1.5"
    " + (0.004669309 - 0.0001691742 * sqrt(T) - 0.5677934 / T) * S**2"
    " + (-0.00002354039 + 0.009698623 / T) * S**2.5 - log10(1 - 0.001005 * S)",
    "", "Clegg & Whitfield 1995, per kg of seawater", MATHS,
)  # fmt: skip
SHARE = Formula("f", "un-ionised share", "1 / (1 + 10**(pK - pH))", "", "definition of pK")
UNIONISED = Formula("NH3", "un-ionised ammonia", "f * TA", "mg/L", "share of total ammonia")


MIN_SALINITY = 5.0
"""From here on the difference of the pH scales is known; in fresher water it is taken as here."""


class Danger(StrEnum):
    """What un-ionised ammonia asks for where animals are inside."""

    NONE = "none"
    CAUTION = "caution"
    ACT = "act"
    EMERGENCY = "emergency"


def pk_ammonium(salinity: float, temperature_c: float) -> float:
    """pK of ammonium on the total scale at a salinity (0 to 45) and temperature (0 to 40 °C).

    >>> round(pk_ammonium(35.0, 25.0), 2)
    9.25
    """
    check_range("salinity", salinity, "ppt", 0, 45)
    check_range("temperature", temperature_c, "°C", 0, 40)
    return PK_AMMONIUM.value(S=salinity, T=temperature_c + ZERO_C_K)


def unionised_share(ph_nbs: float, salinity: float, temperature_c: float) -> Result:
    """Share (0..1) of total ammonia that is toxic NH3, from a meter's pH (NBS).

    pH 5 to 10.5, salinity 0 to 45, temperature 0 to 40 °C; below 5 ppt the scales are taken to differ as they do at 5.
    Raises ScaleError for a PhTotal, DomainError outside the ranges.

    >>> round(unionised_share(8.2, 35.0, 25.0), 3)
    0.062
    """
    if isinstance(ph_nbs, PhTotal):
        raise ScaleError("enter the pH of a meter (NBS)", field="ph_nbs", accepted="NBS pH")
    check_range("pH (NBS)", ph_nbs, "", 5, 10.5)
    pk_ammonium(salinity, temperature_c)
    pk = PK_AMMONIUM.compute(S=FormulaInput(salinity, "ppt"), T=FormulaInput(temperature_c + ZERO_C_K, "K"))
    total = ph_total_from_nbs(ph_nbs, max(salinity, MIN_SALINITY), temperature_c)
    return SHARE.result(
        pk, pK=pk.given(), pH=FormulaInput(float(total), "", f"total scale; the meter shows {short(ph_nbs)} NBS")
    )


def unionised_ammonia_mg_l(total_mg_l: float, ph_nbs: float, salinity: float, temperature_c: float) -> Result:
    """Toxic NH3 in mg/L from total ammonia (mg/L as NH3, 0 to 20) and a meter's pH (NBS), with the working.

    A kit that reports as N or NH4 is converted first (`convert`).

    >>> round(unionised_ammonia_mg_l(1.0, 8.2, 35.0, 25.0), 3)
    0.062
    """
    check_range("total ammonia", total_mg_l, "mg/L", 0, 20)
    share = unionised_share(ph_nbs, salinity, temperature_c)
    return UNIONISED.result(share, f=share.given(), TA=FormulaInput(total_mg_l, "mg/L", "total ammonia as NH3"))


def ammonia_danger(unionised_mg_l: float) -> Danger:
    """What a level of un-ionised NH3 (mg/L, 0 to 20) asks for.

    Nothing below 0.02, caution from there, act from 0.05, emergency from 0.1 where animals are inside (judgement).

    >>> ammonia_danger(0.06)
    <Danger.ACT: 'act'>
    """
    check_range("un-ionised ammonia", unionised_mg_l, "mg/L", 0, 20)
    steps = ((EMERGENCY_MG_L, Danger.EMERGENCY), (ACT_MG_L, Danger.ACT), (CAUTION_MG_L, Danger.CAUTION))
    return next((danger for least, danger in steps if unionised_mg_l >= least), Danger.NONE)
