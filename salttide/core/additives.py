"""Additives by chemical formula: what a gram of a compound brings into the water."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from .errors import check_range
from .working import Formula, Given, Step


class AlkalinitySource(StrEnum):
    """Compounds that raise alkalinity."""

    SODA_ASH = "soda_ash"
    BAKING_SODA = "baking_soda"


@dataclass(frozen=True)
class Compound:
    """A compound: field name, formula, equivalents of alkalinity per mole, solubility in water at 20 °C in g/L."""

    name: str
    formula: str
    equivalents: int
    solubility_g_l: float


COMPOUNDS: dict[AlkalinitySource, Compound] = {
    AlkalinitySource.SODA_ASH: Compound("soda ash", "Na2CO3", 2, 215.0),
    AlkalinitySource.BAKING_SODA: Compound("baking soda", "NaHCO3", 1, 96.0),
}
"""Solubilities: CRC Handbook of Chemistry and Physics, aqueous solubility of inorganic compounds, 20 °C."""


@lru_cache
def molar_mass_g_mol(formula: str) -> float:
    """Molar mass in g/mol of a formula; hydrates with "." or "·".

    >>> round(molar_mass_g_mol("Na2CO3"), 2)
    105.99
    """
    from molmass import Formula as MolarFormula

    return float(MolarFormula(formula.replace("·", ".").replace("*", ".")).mass)


DOSE_MASS = Formula(
    "m", "mass of the alkalinity additive", "dA * V * M / z / 1000", "g", "equivalents: M/z grams bring one equivalent"
)


def dose_mass(source: AlkalinitySource, rise_meq_l: float, volume_l: float) -> Step:
    """Grams that raise `volume_l` (L, above 0) by `rise_meq_l` (meq/L, 0 to 10), with the working.

    >>> round(dose_mass(AlkalinitySource.SODA_ASH, 1 / 2.80385, 100.0).value, 2)
    1.89
    """
    check_range("alkalinity rise", rise_meq_l, "meq/L", 0, 10)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    compound = COMPOUNDS[source]
    return DOSE_MASS.compute(
        dA=Given(rise_meq_l, "meq/L", "rise wanted"),
        V=Given(volume_l, "L", "water to be raised"),
        M=Given(molar_mass_g_mol(compound.formula), "g/mol", f"molar mass of {compound.formula}"),
        z=Given(compound.equivalents, "eq/mol", f"equivalents of {compound.name}"),
    )


def alkalinity_meq(source: AlkalinitySource, mass_g: float) -> float:
    """Equivalents of alkalinity (meq) in a mass of the compound (g, 0 or more).

    >>> round(alkalinity_meq(AlkalinitySource.BAKING_SODA, 84.007), 0)
    1000.0
    """
    check_range("mass", mass_g, "g", 0, 1e6)
    compound = COMPOUNDS[source]
    return mass_g / molar_mass_g_mol(compound.formula) * compound.equivalents * 1000


def dissolving_water_l(source: AlkalinitySource, mass_g: float) -> float:
    """Litres of fresh water that dissolve `mass_g` easily: twice the least, by solubility at 20 °C."""
    return 2 * mass_g / COMPOUNDS[source].solubility_g_l
