"""Stock solutions: strength, what dissolves, millilitres to dose, two-part sets and what they leave behind."""

from __future__ import annotations

from dataclasses import dataclass

from ..basics.errors import InputError, check_range
from ..basics.working import Formula, FormulaInput, Result
from .additives import COMPOUNDS, TYPICAL_DENSITY_KG_L, amount_per_gram, dose_mass_g, molar_mass_g_mol
from .parameters import Parameter

DOSE_ML = Formula("v", "millilitres of the solution", "m / g * 1000", "mL", "mass over strength")
LABEL_DOSE_ML = Formula(
    "v", "millilitres of the solution", "Δ * V / (Δ_1 * V_1 / v_1)", "mL", "in proportion to the label"
)
STOCK = Formula("m", "mass for the stock", "g * V", "g", "strength · volume")
DOSED = Formula("Δ", "rise", "v / 1000 * g * a / V", "", "mass balance")
LEFT_SALT = Formula(
    "ΔS", "salinity that is left behind", "35 / 35.16504 * u * t * M / 1000 / ρ", "ppt",
    "each equivalent used leaves one sodium and one chloride",
)  # fmt: skip


def largest_strength_g_l(formula: str) -> float:
    """The most grams that a litre of stock solution holds at 20 °C, for the compounds that are known.

    Raises InputError where nothing is known of it. Source: COMPOUNDS.

    >>> largest_strength_g_l("NaHCO3")
    93
    """
    for compound in COMPOUNDS.values():
        if compound.formula == formula.strip().replace(".", "·").replace("*", "·"):
            return compound.solubility_g_l
    known = ", ".join(compound.formula for compound in COMPOUNDS.values())
    raise InputError(f"how much {formula} dissolves is not known here", field="formula", accepted=known)


def check_stock(formula: str, strength_g_l: float) -> float:
    """The strength itself if it dissolves at room temperature, else DomainError with the largest that does.

    For a compound of unknown solubility, up to 1000 g/L is accepted as its label says.

    >>> check_stock("Na2CO3", 150.0)
    150.0
    """
    try:
        most = largest_strength_g_l(formula)
    except InputError:
        most = UNKNOWN_MOST_G_L
    return check_range(f"strength of a {formula} solution", strength_g_l, "g/L", 0.001, most, field="strength_g_l")


UNKNOWN_MOST_G_L = 1000.0
"""The most grams of salt accepted in a litre."""


def stock_mass_g(formula: str, strength_g_l: float, volume_l: float) -> Result:
    """Grams of the compound for `volume_l` (0 to 1000 L) of stock of a strength in g/L of finished solution.

    >>> float(stock_mass_g("NaHCO3", 80.0, 2.0))
    160.0
    """
    check_range("volume", volume_l, "L", 0, 1000)
    return STOCK.result(
        g=FormulaInput(check_stock(formula, strength_g_l), "g/L", "strength"), V=FormulaInput(volume_l, "L", "stock")
    )


def solution_dose_ml(
    formula: str, parameter: Parameter, rise: float, volume_l: float, strength_g_l: float, purity: float = 1.0
) -> Result:
    """Millilitres of a solution (g/L) that raise `volume_l` of water by `rise` (mg/L; alkalinity in meq/L).

    Raises DomainError for a strength that does not dissolve.

    >>> round(solution_dose_ml("Na2CO3", Parameter.ALKALINITY, 0.35665, 100.0, 100.0), 1)
    18.9
    """
    check_stock(formula, strength_g_l)
    mass = dose_mass_g(formula, parameter, rise, volume_l, purity)
    return DOSE_ML.result(mass, m=mass.given(), g=FormulaInput(strength_g_l, "g/L", "strength"))


def solution_rise(
    formula: str, parameter: Parameter, dose_ml: float, volume_l: float, strength_g_l: float, purity: float = 1.0
) -> Result:
    """What `dose_ml` of a solution (g/L) does to `volume_l` of water, in mg/L; alkalinity in meq/L.

    >>> round(solution_rise("Na2CO3", Parameter.ALKALINITY, 18.9, 100.0, 100.0), 3)
    0.357
    """
    check_stock(formula, strength_g_l)
    check_range("dose", dose_ml, "mL", 0, 1e6)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    per_gram = amount_per_gram(formula, parameter, purity)
    return DOSED.result(
        per_gram,
        v=FormulaInput(dose_ml, "mL", "dose"),
        g=FormulaInput(strength_g_l, "g/L", "strength"),
        a=per_gram.given(),
        V=FormulaInput(volume_l, "L", "water"),
    )


def label_dose_ml(rise: float, volume_l: float, label_ml: float, label_volume_l: float, label_rise: float) -> Result:
    """Millilitres by a label that says "`label_ml` mL raises `label_volume_l` L by `label_rise`", in one unit.

    >>> round(label_dose_ml(0.5, 334.0, 1.0, 100.0, 0.1), 1)
    16.7
    """
    check_range("rise", rise, "", 0, 3000)
    check_range("label's rise", label_rise, "", 1e-9, 3000)
    for name, value in (("volume", volume_l), ("label's volume", label_volume_l)):
        check_range(name, value, "L", 1e-9, 1e6)
    check_range("label's dose", label_ml, "mL", 1e-9, 1e6)
    return LABEL_DOSE_ML.result(
        Δ=FormulaInput(rise, "", "rise wanted"),
        V=FormulaInput(volume_l, "L", "water to be raised"),
        Δ_1=FormulaInput(label_rise, "", "rise on the label"),
        V_1=FormulaInput(label_volume_l, "L", "volume on the label"),
        v_1=FormulaInput(label_ml, "mL", "dose on the label"),
    )


@dataclass(frozen=True)
class TwoPart:
    """Daily millilitres of a two-part set, and what it leaves behind in ppt of salinity per year."""

    alkalinity_ml: Result
    calcium_ml: Result
    salinity_per_year: Result


def two_part_doses(
    uptake_meq_l: float,
    volume_l: float,
    alkalinity_g_l: float,
    calcium_g_l: float,
    alkalinity_formula: str = "NaHCO3",
    calcium_formula: str = "CaCl2·2H2O",
) -> TwoPart:
    """A two-part set for an uptake of alkalinity (meq/L a day, 0 to 3): calcium goes with it as in CaCO3, 20.04 mg/meq.

    Strengths in g/L of finished solution. Never pour the two together: half an hour and strong flow between.

    >>> set_ = two_part_doses(0.2, 100.0, 80.0, 70.0)
    >>> round(set_.alkalinity_ml, 1), round(set_.calcium_ml, 1)
    (21.0, 21.0)
    """
    check_range("uptake", uptake_meq_l, "meq/L a day", 0, 3)
    calcium_mg_l = uptake_meq_l * calcium_per_meq_mg()
    return TwoPart(
        solution_dose_ml(alkalinity_formula, Parameter.ALKALINITY, uptake_meq_l, volume_l, alkalinity_g_l),
        solution_dose_ml(calcium_formula, Parameter.CALCIUM, calcium_mg_l, volume_l, calcium_g_l),
        two_part_salinity_drift(uptake_meq_l, 365.0),
    )


def calcium_per_meq_mg() -> float:
    """Calcium (mg) that calcification takes with one meq of alkalinity: half a mole of Ca per equivalent.

    >>> round(calcium_per_meq_mg(), 2)
    20.04
    """
    return molar_mass_g_mol("Ca") / 2


def two_part_salinity_drift(uptake_meq_l: float, days: float) -> Result:
    """Salinity (ppt) that two-part dosing of an uptake (meq/L a day, 0 to 3) leaves behind in `days` (0 to 3660).

    Without water changes: each equivalent that becomes coral leaves one Na and one Cl, 58.44 mg.

    >>> round(two_part_salinity_drift(0.35665, 365.0), 1)
    7.4
    """
    check_range("uptake", uptake_meq_l, "meq/L a day", 0, 3)
    check_range("days", days, "days", 0, 3660)
    return LEFT_SALT.result(
        u=FormulaInput(uptake_meq_l, "meq/L a day", "uptake"),
        t=FormulaInput(days, "days"),
        M=FormulaInput(molar_mass_g_mol("NaCl"), "g/mol", "sodium chloride"),
        ρ=FormulaInput(TYPICAL_DENSITY_KG_L, "kg/L", "seawater"),
    )


@dataclass(frozen=True)
class MagnesiumBlend:
    """Grams of the two magnesium salts that together raise magnesium and keep sulfate to chloride as in the sea."""

    chloride_g: float
    sulfate_g: float


SULFATE_G_KG, CHLORIDE_G_KG = 2.712, 19.35
"""In natural seawater of 35 ppt (Millero et al. 2008)."""


def magnesium_blend(rise_mg_l: float, volume_l: float) -> MagnesiumBlend:
    """MgCl2·6H2O and MgSO4·7H2O (g) that raise `volume_l` by `rise_mg_l` of Mg (0 to 2500) with the sea's own SO4:Cl.

    Per mole of sulfate the sea holds r = (19.35/35.45)/(2.712/96.06) moles of chloride; n moles of magnesium are
    split so that 2·(chloride salt) = r · (sulfate salt).

    >>> blend = magnesium_blend(10.0, 100.0)
    >>> round(blend.chloride_g, 2), round(blend.sulfate_g, 2)
    (7.58, 0.95)
    """
    check_range("magnesium rise", rise_mg_l, "mg/L", 0, 2500)
    ratio = (CHLORIDE_G_KG / molar_mass_g_mol("Cl")) / (SULFATE_G_KG / molar_mass_g_mol("SO4"))
    of_sulfate = 2 / (ratio + 2)
    return MagnesiumBlend(
        float(dose_mass_g("MgCl2·6H2O", Parameter.MAGNESIUM, rise_mg_l * (1 - of_sulfate), volume_l)),
        float(dose_mass_g("MgSO4·7H2O", Parameter.MAGNESIUM, rise_mg_l * of_sulfate, volume_l)),
    )


def sulfate_to_chloride(chloride_g: float, sulfate_g: float) -> float:
    """Mass of SO4 over mass of Cl brought by MgCl2·6H2O and MgSO4·7H2O (g, 0 to 1e6); the sea has 0.140.

    >>> round(sulfate_to_chloride(7.58, 0.95), 2)
    0.14
    """
    check_range("mass", chloride_g, "g", 1e-9, 1e6)
    check_range("mass", sulfate_g, "g", 0, 1e6)
    sulfate = sulfate_g * amount_per_gram("MgSO4·7H2O", Parameter.SULFATE)
    return sulfate / (chloride_g * amount_per_gram("MgCl2·6H2O", Parameter.CHLORIDE))
