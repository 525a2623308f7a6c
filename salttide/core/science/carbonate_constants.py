"""The equilibrium constants of carbon dioxide in seawater, each as the text that is computed and shown.

T is in kelvin, S on the practical scale; equilibria per kg of seawater on the total pH scale unless said.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from ..basics.errors import check_ranges
from ..basics.lazy import LazyModule
from ..basics.working import Formula
from .seawater import density_array_kg_l

if TYPE_CHECKING:
    import numpy as np
else:
    np = LazyModule("numpy")

MATHS: dict[str, Callable[..., Any]] = {
    "ln": lambda x: np.log(x),
    "log10": lambda x: np.log10(x),
    "exp": lambda x: np.exp(x),
    "sqrt": lambda x: np.sqrt(x),
}
ZERO_C_K = 273.15
PRESSURE_BAR = 1.01325
GAS_CONSTANT = 83.14462618
"""cm³·bar/(mol·K), CODATA 2018."""

PK1 = Formula(
    "pK1", "carbonic acid, first", "3633.86 / T - 61.2172 + 9.6777 * ln(T) - 0.011555 * S + 0.0001152 * S**2", "",
    "Lueker et al. 2000", MATHS,
)  # fmt: skip
PK2 = Formula(
    "pK2", "carbonic acid, second", "471.78 / T + 25.929 - 3.16967 * ln(T) - 0.01781 * S + 0.0001122 * S**2", "",
    "Lueker et al. 2000", MATHS,
)  # fmt: skip
LN_K0 = Formula(
    "ln K0", "solubility of carbon dioxide",
    "9345.17 / T - 60.2409 + 23.3585 * ln(T / 100) + S * (0.023517 - 0.00023656 * T + 0.0047036 * (T / 100)**2)",
    "mol/(kg·atm)", "Weiss 1974", MATHS,
)  # fmt: skip
LN_KB = Formula(
    "ln KB", "boric acid",
    "(-8966.9 - 2890.53 * sqrt(S) - 77.942 * S + 1.728 * S**1.5 - 0.0996 * S**2) / T + 148.0248"
    " + 137.1942 * sqrt(S) + 1.62142 * S - (24.4344 + 25.085 * sqrt(S) + 0.2474 * S) * ln(T) + 0.053105 * sqrt(S) * T",
    "", "Dickson 1990", MATHS,
)  # fmt: skip
LN_KW = Formula(
    "ln KW", "water, on the seawater scale",
    "148.9802 - 13847.26 / T - 23.6521 * ln(T) + (118.67 / T - 5.977 + 1.0495 * ln(T)) * sqrt(S) - 0.01615 * S",
    "", "Millero 1995", MATHS,
)  # fmt: skip
IONIC_STRENGTH = Formula("I", "ionic strength", "19.924 * S / (1000 - 1.005 * S)", "mol/kg", "DOE 1994")
LN_KS = Formula(
    "ln KS", "bisulfate, on the free scale",
    "141.328 - 4276.1 / T - 23.093 * ln(T) + (324.57 - 13856 / T - 47.986 * ln(T)) * sqrt(I)"
    " + (35474 / T - 771.54 + 114.723 * ln(T)) * I - 2698 / T * I**1.5 + 1776 / T * I**2 + ln(1 - 0.001005 * S)",
    "", "Dickson 1990", MATHS,
)  # fmt: skip
LN_KF = Formula(
    "ln KF", "hydrogen fluoride, on the free scale",
    "1590.2 / T - 12.641 + 1.525 * sqrt(I) + ln(1 - 0.001005 * S)", "", "Dickson & Riley 1979", MATHS,
)  # fmt: skip
BORATE = Formula("TB", "total borate", "0.0004157 * S / 35", "mol/kg", "Uppström 1974")
SULFATE = Formula("TS", "total sulfate", "0.14 / 96.062 * S / 1.80655", "mol/kg", "Morris & Riley 1966")
FLUORIDE = Formula("TF", "total fluoride", "0.000067 / 18.998 * S / 1.80655", "mol/kg", "Riley 1965")
CALCIUM = Formula(
    "Ca", "calcium of natural seawater", "0.02128 / 40.087 * S / 1.80655", "mol/kg", "Riley & Tongudai 1967"
)
LOG_ARAGONITE = Formula(
    "log Ka", "solubility product of aragonite",
    "-171.945 - 0.077993 * T + 2903.293 / T + 71.595 * log10(T) + (0.0017276 * T - 0.068393 + 88.135 / T) * sqrt(S)"
    " - 0.10018 * S + 0.0059415 * S**1.5", "", "Mucci 1983", MATHS,
)  # fmt: skip
LOG_CALCITE = Formula(
    "log Kc", "solubility product of calcite",
    "-171.9065 - 0.077993 * T + 2839.319 / T + 71.595 * log10(T) + (0.0028426 * T - 0.77712 + 178.34 / T) * sqrt(S)"
    " - 0.07711 * S + 0.0041249 * S**1.5", "", "Mucci 1983", MATHS,
)  # fmt: skip
HYDROGEN_ACTIVITY = Formula(
    "fH", "activity factor of hydrogen, seawater scale to NBS",
    "1.2948 - 0.002036 * T + (0.0004607 - 0.000001475 * T) * S**2", "", "Takahashi et al. 1982",
)  # fmt: skip
LN_FUGACITY = Formula(
    "ln φ", "fugacity of carbon dioxide over its pressure",
    "P * (-1636.75 + 12.0408 * T - 0.0327957 * T**2 + 0.0000316528 * T**3 + 2 * (57.7 - 0.118 * T)) / (R * T)",
    "", "Weiss 1974", MATHS,
)  # fmt: skip


@dataclass(frozen=True)
class Constants:
    """Equilibrium constants and totals of one water (numbers or arrays), per kg of seawater, total pH scale."""

    k0: Any
    k1: Any
    k2: Any
    kb: Any
    kw: Any
    borate: Any
    sulfate: Any
    fluoride: Any
    ks: Any
    kf: Any
    aragonite: Any
    calcite: Any
    fugacity: Any
    nbs: Any
    """NBS pH minus total pH."""
    density_kg_l: Any


def constants(salinity: Any, temperature_c: Any) -> Constants:
    """The constants at a salinity (5 to 45) and temperature (0 to 45 °C). Raises DomainError outside.

    Lueker's carbonic acid was measured from 19 to 43 and 2 to 35 °C; nearer to the ends it is an extrapolation.

    >>> water = constants(35.0, 25.0)
    >>> round(-float(np.log10(water.k1)), 4), round(-float(np.log10(water.k2)), 4), round(float(water.nbs), 3)
    (5.8472, 8.966, 0.137)
    """
    check_ranges("salinity", salinity, "ppt", 5, 45)
    check_ranges("temperature", temperature_c, "°C", 0, 45)
    at = {"S": salinity, "T": temperature_c + ZERO_C_K}
    strength = IONIC_STRENGTH.array(S=salinity)
    ks, kf = np.exp(LN_KS.array(I=strength, **at)), np.exp(LN_KF.array(I=strength, **at))
    sulfate, fluoride = SULFATE.array(S=salinity), FLUORIDE.array(S=salinity)
    total = 1 + sulfate / ks
    seawater = total + fluoride / kf
    return Constants(
        k0=np.exp(LN_K0.array(**at)),
        k1=10 ** -PK1.array(**at),
        k2=10 ** -PK2.array(**at),
        kb=np.exp(LN_KB.array(**at)),
        kw=np.exp(LN_KW.array(**at)) * total / seawater,
        borate=BORATE.array(S=salinity),
        sulfate=sulfate,
        fluoride=fluoride,
        ks=ks,
        kf=kf,
        aragonite=10 ** LOG_ARAGONITE.array(**at),
        calcite=10 ** LOG_CALCITE.array(**at),
        fugacity=np.exp(LN_FUGACITY.array(P=PRESSURE_BAR, R=GAS_CONSTANT, T=at["T"])),
        nbs=-np.log10(HYDROGEN_ACTIVITY.array(**at) * seawater / total),
        density_kg_l=density_array_kg_l(salinity, temperature_c),
    )
