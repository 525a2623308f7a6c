"""Additives by chemical formula: what a gram of any salt adds to the water.

Everything follows from the formula. Alkalinity is the charge of the conservative ions, cations less anions
(Wolf-Gladrow et al. 2007): carbonate brings two equivalents, bicarbonate one, a phosphate as many as it lacks protons
to H2PO4.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache
from typing import Any

from ..basics.errors import InputError, check_choice, check_range
from ..basics.working import Formula, FormulaInput, Result
from .parameters import FACTS, Parameter


class AlkalinitySource(StrEnum):
    """Compounds that a change plan takes to raise alkalinity; each a key of COMPOUNDS."""

    SODA_ASH = "soda_ash"
    BAKING_SODA = "baking_soda"


@dataclass(frozen=True)
class Compound:
    """A compound: field name, formula, and what a litre of solution saturated at 20 °C holds, in g (rounded down)."""

    name: str
    formula: str
    solubility_g_l: float


COMPOUNDS: dict[str, Compound] = {
    AlkalinitySource.SODA_ASH: Compound("soda ash", "Na2CO3", 210),
    AlkalinitySource.BAKING_SODA: Compound("baking soda", "NaHCO3", 93),
    "sodium_hydroxide": Compound("sodium hydroxide", "NaOH", 790),
    "limewater": Compound("limewater", "Ca(OH)2", 1.57),
    "calcium_chloride": Compound("calcium chloride", "CaCl2", 600),
    "calcium_chloride_dihydrate": Compound("calcium chloride dihydrate", "CaCl2·2H2O", 800),
    "magnesium_chloride_hexahydrate": Compound("magnesium chloride hexahydrate", "MgCl2·6H2O", 1000),
    "magnesium_sulfate_heptahydrate": Compound("magnesium sulfate heptahydrate", "MgSO4·7H2O", 660),
    "potassium_chloride": Compound("potassium chloride", "KCl", 295),
    "strontium_chloride_hexahydrate": Compound("strontium chloride hexahydrate", "SrCl2·6H2O", 800),
    "sodium_nitrate": Compound("sodium nitrate", "NaNO3", 640),
    "potassium_nitrate": Compound("potassium nitrate", "KNO3", 275),
    "monopotassium_phosphate": Compound("monopotassium phosphate", "KH2PO4", 205),
    "disodium_phosphate": Compound("disodium phosphate", "Na2HPO4", 76),
    "trisodium_phosphate_dodecahydrate": Compound("trisodium phosphate dodecahydrate", "Na3PO4·12H2O", 275),
    "potassium_iodide": Compound("potassium iodide", "KI", 1000),
    "potassium_carbonate": Compound("potassium carbonate", "K2CO3", 820),
    "potassium_bicarbonate": Compound("potassium bicarbonate", "KHCO3", 295),
    "calcium_chloride_hexahydrate": Compound("calcium chloride hexahydrate", "CaCl2·6H2O", 1180),
    "sodium_chloride": Compound("sodium chloride", "NaCl", 315),
}
"""Solubilities: aqueous solubility of inorganic compounds at 20 °C (CRC Handbook of Chemistry and Physics), with the
density of the saturated solution."""

_CONSERVATIVE: dict[str, tuple[Parameter | None, int]] = {
    "Na": (Parameter.SODIUM, 1),
    "K": (Parameter.POTASSIUM, 1),
    "Ca": (Parameter.CALCIUM, 2),
    "Mg": (Parameter.MAGNESIUM, 2),
    "Sr": (Parameter.STRONTIUM, 2),
    "Li": (None, 1),
    "Cl": (Parameter.CHLORIDE, -1),
    "Br": (None, -1),
    "F": (None, -1),
    "I": (Parameter.IODINE, -1),
}
"""Element, the parameter it is counted as, and the charge of its ion."""

_GROUPS: dict[str, tuple[str, Parameter, str, int]] = {
    "NO3": ("N", Parameter.NITRATE, "NO3", -1),
    "NO2": ("N", Parameter.NITRITE, "NO2", -1),
    "NH4": ("N", Parameter.AMMONIA, "NH3", 1),
    "SO4": ("S", Parameter.SULFATE, "SO4", -2),
    "PO4": ("P", Parameter.PHOSPHATE, "PO4", -1),
}
"""Written group, its element, the parameter, the formula it is weighed as, and its charge at zero alkalinity."""

_ORGANIC = ("CH3COO", "C2H3O2", "HCOO", "CHO2")


@lru_cache
def molar_mass_g_mol(formula: str) -> float:
    """Molar mass in g/mol of a formula; hydrates with ".", "·" or "*". Raises InputError if it cannot be read.

    >>> round(molar_mass_g_mol("Na2CO3"), 2), round(molar_mass_g_mol("CaCl2·2H2O"), 2)
    (105.99, 147.01)
    """
    return float(_parsed(formula).mass)


def _parsed(formula: str) -> Any:
    from molmass import Formula as MolarFormula
    from molmass import FormulaError

    text = str(formula).strip().replace("·", ".").replace("*", ".")
    try:
        if not re.fullmatch(r"[A-Za-z0-9().]+", text):
            raise ValueError(text)
        parsed = MolarFormula(text)
        assert parsed.mass
    except (FormulaError, ValueError, AssertionError) as error:
        raise InputError(
            f"“{formula}” is not a chemical formula", field="formula", accepted="a formula such as CaCl2·2H2O"
        ) from error
    return parsed


@lru_cache
def brought_per_mole(formula: str) -> Mapping[Parameter, float]:
    """What one mole of a salt adds, in grams per parameter; alkalinity in equivalents (below zero for an acid). Raises
    InputError for anything that is not a formula, or holds something not counted here.

    >>> brought = brought_per_mole("KH2PO4")
    >>> round(brought[Parameter.PHOSPHATE], 2), round(brought[Parameter.POTASSIUM], 2), Parameter.ALKALINITY in brought
    (94.97, 39.1, False)
    """
    atoms = {key: item.count for key, item in _parsed(formula).composition().items()}
    found: dict[Parameter, float] = {}
    charge = 0
    for element, (parameter, ion_charge) in _CONSERVATIVE.items():
        count = atoms.pop(element, 0)
        charge += count * ion_charge
        if parameter and count:
            found[parameter] = count * molar_mass_g_mol(element)
    for group, (element, parameter, weighed, ion_charge) in _GROUPS.items():
        alone = sum(other in formula for other, (of, *_) in _GROUPS.items() if of == element) == 1
        if group in formula and element in atoms and alone:
            count = atoms.pop(element)
            charge += count * ion_charge
            found[parameter] = count * molar_mass_g_mol(weighed)
    for element, parameter, weighed in (("B", Parameter.BORON, "B"), ("Si", Parameter.SILICATE, "SiO2")):
        if element in atoms:
            found[parameter] = atoms.pop(element) * molar_mass_g_mol(weighed)
    if "CO3" in formula or any(group in formula for group in _ORGANIC):
        atoms.pop("C", None)
    unknown = sorted(set(atoms) - {"H", "O"})
    if unknown:
        raise InputError(
            f"{formula} holds {', '.join(unknown)}, which is not counted here",
            field="formula",
            accepted="salts of Na, K, Ca, Mg, Sr with Cl, SO4, NO3, PO4, CO3, OH, I, B or Si",
        )
    return found | ({Parameter.ALKALINITY: float(charge)} if charge else {})


def carbon_per_mole(formula: str) -> float:
    """Moles of dissolved inorganic carbon in one mole: those of carbonate and bicarbonate.

    >>> carbon_per_mole("NaHCO3"), carbon_per_mole("NaOH")
    (1.0, 0.0)
    """
    atoms = dict(_parsed(formula).composition().items())
    return float(atoms["C"].count) if "CO3" in formula else 0.0


PER_GRAM = Formula("a", "what a gram brings", "n * 1000 / M * p", "per g", "molar masses, IUPAC")
MASS = Formula("m", "mass of the additive", "Δ * V / a", "g", "mass balance")
RISE = Formula("Δ", "rise", "m * a / V", "", "mass balance")
SALT_RISE = Formula(
    "ΔS", "rise of salinity", "35 / 35.16504 * m * s / (V * ρ)", "ppt", "dissolved mass; Millero et al. 2008"
)
TYPICAL_DENSITY_KG_L = 1.0233
"""Seawater of 35 ppt at 25 °C."""


def amount_per_gram(formula: str, parameter: Parameter, purity: float = 1.0) -> Result:
    """What one gram of a salt adds: mg per gram, for alkalinity meq per gram. Purity as a fraction (0.01 to 1).

    Raises InputError where the salt does not hold the parameter.

    >>> round(amount_per_gram("CaCl2·2H2O", Parameter.CALCIUM), 1)
    272.6
    """
    check_range("purity", purity, "(a fraction)", 0.01, 1)
    parameter = check_choice(Parameter, parameter)
    brought = brought_per_mole(formula).get(parameter, 0.0)
    if not brought:
        raise InputError(f"{formula} does not change {FACTS[parameter].name.lower()}", field="formula")
    unit, per_gram = ("eq/mol", "meq/g") if parameter == Parameter.ALKALINITY else ("g/mol", "mg/g")
    step = PER_GRAM.compute(
        n=FormulaInput(brought, unit, f"{FACTS[parameter].name.lower()} in {formula}"),
        M=FormulaInput(molar_mass_g_mol(formula), "g/mol", f"molar mass of {formula}"),
        p=FormulaInput(purity, "", "purity"),
    )
    return Result((replace(step, unit=per_gram),))


def dose_mass_g(formula: str, parameter: Parameter, rise: float, volume_l: float, purity: float = 1.0) -> Result:
    """Grams of a salt that raise `volume_l` (L, above 0 to 1e6) by `rise` (mg/L; alkalinity in meq/L).

    The rise may not be more than what the water can hold at all. Raises DomainError outside the ranges, InputError
    where the salt does not raise that parameter.

    >>> round(dose_mass_g("Na2CO3", Parameter.ALKALINITY, 1 / 2.80385, 100.0), 2)
    1.89
    >>> round(dose_mass_g("MgCl2·6H2O", Parameter.MAGNESIUM, 10.0, 100.0), 2)
    8.36
    """
    per_gram = amount_per_gram(formula, parameter, purity)
    parameter = check_choice(Parameter, parameter)
    if per_gram < 0:
        raise InputError(f"{formula} lowers {FACTS[parameter].name.lower()}", field="formula")
    unit = "meq/L" if parameter == Parameter.ALKALINITY else "mg/L"
    check_range(f"{FACTS[parameter].name.lower()} rise", rise, unit, 0, FACTS[parameter].possible.high)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    return MASS.result(
        per_gram,
        Δ=FormulaInput(rise, unit, "rise wanted"),
        V=FormulaInput(volume_l, "L", "water to be raised"),
        a=per_gram.given(),
    )


def rise_from_mass(formula: str, parameter: Parameter, mass_g: float, volume_l: float, purity: float = 1.0) -> Result:
    """What a mass (g, 0 to 1e6) does to `volume_l` of water, in mg/L; alkalinity in meq/L.

    The inverse of `dose_mass_g`.

    >>> round(rise_from_mass("KNO3", Parameter.NITRATE, 0.163, 100.0), 2)
    1.0
    """
    check_range("mass", mass_g, "g", 0, 1e6)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    per_gram = amount_per_gram(formula, parameter, purity)
    return RISE.result(
        per_gram,
        m=FormulaInput(mass_g, "g"),
        a=per_gram.given(),
        V=FormulaInput(volume_l, "L"),
    )


def salinity_rise(formula: str, mass_g: float, volume_l: float, purity: float = 1.0) -> Result:
    """What a mass of a salt (g) adds to the salinity of `volume_l` of seawater, in ppt.

    Water of crystallisation is not salt. Mass g 0 to 1e6, volume L, purity a fraction.

    >>> round(salinity_rise("CaCl2·2H2O", 100.0, 100.0), 2)
    0.73
    """
    check_range("mass", mass_g, "g", 0, 1e6)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("purity", purity, "(a fraction)", 0.01, 1)
    dry = dry_share(formula) * purity
    return SALT_RISE.result(
        m=FormulaInput(mass_g, "g"),
        s=FormulaInput(dry, "", "salt in it, without water"),
        V=FormulaInput(volume_l, "L"),
        ρ=FormulaInput(TYPICAL_DENSITY_KG_L, "kg/L", "seawater"),
    )


def dry_share(formula: str) -> float:
    """Share of a compound's mass that is not water of crystallisation.

    >>> round(dry_share("MgSO4·7H2O"), 3)
    0.488
    """
    water = re.search(r"[.·*](\d*)H2O$", formula.strip())
    moles = float(water.group(1) or 1) if water else 0.0
    return 1 - moles * molar_mass_g_mol("H2O") / molar_mass_g_mol(formula)


def effects(formula: str, mass_g: float, volume_l: float, purity: float = 1.0) -> dict[Parameter, float]:
    """What a mass (g) of a salt does to every parameter of `volume_l` of water: mg/L, meq/L, ppt.

    >>> {p.value: round(rise, 3) for p, rise in effects("KNO3", 0.163, 100.0).items()}
    {'salinity': 0.002, 'nitrate': 1.0, 'potassium': 0.63}
    """
    found = {Parameter.SALINITY: float(salinity_rise(formula, mass_g, volume_l, purity))}
    for parameter in brought_per_mole(formula):
        found[parameter] = float(rise_from_mass(formula, parameter, mass_g, volume_l, purity))
    return {parameter: found[parameter] for parameter in Parameter if parameter in found}


def alkalinity_meq(source: AlkalinitySource, mass_g: float) -> float:
    """Equivalents of alkalinity (meq) in a mass (g, 0 to 1e6) of the compound.

    >>> round(alkalinity_meq(AlkalinitySource.BAKING_SODA, 84.007), 0)
    1000.0
    """
    check_range("mass", mass_g, "g", 0, 1e6)
    return mass_g * amount_per_gram(COMPOUNDS[source].formula, Parameter.ALKALINITY)


def dissolving_water_l(source: AlkalinitySource, mass_g: float) -> float:
    """Litres of fresh water that dissolve `mass_g` easily: twice the least, by solubility at 20 °C."""
    return 2 * mass_g / COMPOUNDS[source].solubility_g_l
