"""Stock solutions by recipe: what to weigh, in how much water, how strong it may be, what must never be mixed with
it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..basics.errors import InputError, check_range
from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrases import phrase
from ..basics.working import Formula, FormulaInput, Result
from .additives import COMPOUNDS, amount_per_gram, brought_per_mole, molar_mass_g_mol
from .parameters import FACTS, Parameter
from .solutions import calcium_per_meq_mg, check_stock, largest_strength_g_l, stock_mass_g

BY_PURITY = Formula("m", "mass to weigh", "m_0 / p", "g", "what is not the compound does not count")
LABEL_STRENGTH = Formula(
    "g", "strength of the solution", "Δ * V / v * 1000 / a", "g/L", "the label's own rise, turned into grams"
)
EASY_SHARE = 0.6
"""The share of the solubility up to which it dissolves readily at room temperature (judgement)."""
_CAUTIONS: Mapping[str, tuple[str, ...]] = {
    "Na2CO3": ("caustic",),
    "NaOH": ("hydroxide",),
    "Ca(OH)2": ("hydroxide",),
    "CaCl2": ("heats",),
    "CaCl2·2H2O": ("heats",),
    "MgCl2·6H2O": ("heats",),
    "NaNO3": ("nutrient_dose",),
    "KNO3": ("nutrient_dose",),
    "KH2PO4": ("nutrient_dose",),
    "Na2HPO4": ("nutrient_dose",),
    "Na3PO4·12H2O": ("caustic", "nutrient_dose"),
    "KI": ("traces",),
    "SrCl2·6H2O": ("traces",),
}


SHOWN_ML = 10.0
"""Volumes, L, that a label states the effect on."""
KEEPS_DAYS = 182
"""Shelf life of a stock solution, half a year, in days (judgement)."""


@dataclass(frozen=True)
class Recipe:
    """A stock solution: grams to weigh, share of the solubility, what 1 mL raises 100 L by, steps."""

    formula: str
    strength_g_l: float
    volume_l: float
    mass_g: Result
    of_saturation: float
    raises: Mapping[Parameter, float]
    steps: tuple[str, ...]
    cautions: tuple[str, ...]

    def raises_by(self, ml: float) -> dict[Parameter, float]:
        """What a volume (mL) raises 100 L by, canonical."""
        return {parameter: rise * ml for parameter, rise in self.raises.items()}


def stock_recipe(formula: str, strength_g_l: float, volume_l: float, purity: float = 1.0) -> Recipe:
    """A stock solution of a strength (g/L of finished solution), 0.05 to 60 L of it, from a compound of a purity.

    Raises InputError for what is no formula, DomainError for a strength of nothing or beyond what dissolves, with the
    largest that does.

    >>> recipe = stock_recipe("Na2CO3", 100.0, 2.0)
    >>> float(recipe.mass_g), round(recipe.raises[Parameter.ALKALINITY], 4)
    (200.0, 0.0189)
    """
    written = _written(formula)
    molar_mass_g_mol(written)
    check_range("volume", volume_l, "L", 0.05, 60, field="volume_l")
    check_range("purity", purity, "(a fraction)", 0.01, 1, field="purity")
    brought = brought_per_mole(written)
    if written not in {compound.formula for compound in COMPOUNDS.values()}:
        known = ", ".join(compound.formula for compound in COMPOUNDS.values())
        raise InputError(f"how much {written} dissolves is not known here", field="formula", accepted=known)
    check_stock(written, strength_g_l)
    pure = stock_mass_g(written, strength_g_l, volume_l)
    mass = BY_PURITY.result(pure, m_0=pure.given(), p=FormulaInput(purity, "", "purity"))
    share = strength_g_l / largest_strength_g_l(written)
    raises = {p: strength_g_l / 1000 * amount_per_gram(written, p) / 100 for p in brought}
    return Recipe(
        written, strength_g_l, volume_l, mass, share, raises, _steps(written, volume_l, share), cautions_of(written)
    )


def _written(formula: str) -> str:
    if not isinstance(formula, str) or not formula.strip():
        raise InputError("enter a formula", field="formula", accepted="a formula such as CaCl2·2H2O")
    return formula.strip().replace(".", "·").replace("*", "·")


def _steps(formula: str, volume_l: float, share: float) -> tuple[str, ...]:
    most = litres_words(volume_l * 0.8)
    fill = f"Fill purified water to about {most}; stir while the powder goes in, a little at a time."
    wait = "It dissolves within minutes." if share <= EASY_SHARE else "It is near what dissolves: lukewarm water helps."
    if formula == "Ca(OH)2":
        wait = "Let the white settle; only the clear water above is used. Closed: air spoils it."
    if formula == "NaHCO3":
        wait += " Do not boil it: it would turn into carbonate."
    cool = "Let it cool to room temperature." if "heats" in cautions_of(formula) else ""
    last = f"Fill up to {litres_words(volume_l)}, close it, and put the label on before anything else."
    return tuple(step for step in (fill, wait, cool, last) if step)


def cautions_of(formula: str) -> tuple[str, ...]:
    """Keys of the cautions for a compound.

    >>> cautions_of("Na2CO3")
    ('caustic',)
    """
    return _CAUTIONS.get(_written(formula), ())


def strength_from_label_g_l(
    formula: str, parameter: Parameter, label_ml: float, label_volume_l: float, label_rise: float
) -> Result:
    """Strength (g/L) of a solution whose label says "so many mL raise so many litres by so much" (mg/L or meq/L).

    Raises DomainError for a label that would ask for more than dissolves: a misplaced point, or another compound.

    >>> round(strength_from_label_g_l("Na2CO3", Parameter.ALKALINITY, 1.0, 100.0, 0.0188696), 1)
    100.0
    """
    check_range("label's dose", label_ml, "mL", 1e-6, 1e6, field="label_ml")
    check_range("label's volume", label_volume_l, "L", 1e-6, 1e6, field="label_volume_l")
    check_range("label's rise", label_rise, "", 1e-9, 3000, field="label_rise")
    per_gram = amount_per_gram(_written(formula), parameter)
    found = LABEL_STRENGTH.result(
        per_gram,
        Δ=FormulaInput(label_rise, "", f"rise of {FACTS[Parameter(parameter)].name.lower()}"),
        V=FormulaInput(label_volume_l, "L", "volume on the label"),
        v=FormulaInput(label_ml, "mL", "dose on the label"),
        a=per_gram.given(),
    )
    check_stock(_written(formula), float(found))
    return found


def matched_calcium_g_l(alkalinity_formula: str, alkalinity_g_l: float, calcium_formula: str) -> float:
    """Strength (g/L) of a calcium stock of which as many mL are used as of the alkalinity stock.

    >>> round(matched_calcium_g_l("Na2CO3", 100.0, "CaCl2·2H2O"), 1)
    138.7
    """
    check_stock(_written(alkalinity_formula), alkalinity_g_l)
    meq_l = alkalinity_g_l * amount_per_gram(_written(alkalinity_formula), Parameter.ALKALINITY)
    calcium = amount_per_gram(_written(calcium_formula), Parameter.CALCIUM)
    return check_stock(_written(calcium_formula), meq_l * calcium_per_meq_mg() / calcium)


_CARBONATES = ("CO3", "OH", "PO4")
_HARD = (Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.STRONTIUM)


def never_meet(one: str, other: str) -> str:
    """Why two concentrates must never be mixed, in a bottle, a tube or the same corner of the sump; empty where they
    may.

    >>> never_meet("Na2CO3", "CaCl2·2H2O")
    'carbonate and calcium drop out as chalk'
    >>> never_meet("Na2CO3", "NaHCO3")
    ''
    """
    for a, b in ((_written(one), _written(other)), (_written(other), _written(one))):
        hard = [p for p in _HARD if p in brought_per_mole(b)]
        if hard and not any(p in brought_per_mole(a) for p in hard):
            name = FACTS[hard[0]].name.lower()
            if "PO4" in a:
                return f"phosphate and {name} drop out"
            if "CO3" in a:
                return f"carbonate and {name} drop out as chalk"
            if "OH" in a and "CH3COO" not in a:
                return f"hydroxide and {name} drop out"
            if "SO4" in a and hard[0] != Parameter.MAGNESIUM:
                return f"sulfate and {name} drop out as gypsum"
    return ""


def name_of_formula(formula: str) -> str:
    """The field's name of a compound, or the formula itself.

    >>> name_of_formula("NaHCO3")
    'baking soda'
    """
    written = _written(formula)
    return next((compound.name for compound in COMPOUNDS.values() if compound.formula == written), written)


def cautions_together(formulas: Sequence[str], limewater: bool = False) -> list[str]:
    """Keys of the cautions for additives used together, each once: of each compound, of incompatible ones, of
    limewater.

    >>> cautions_together(["Na2CO3", "CaCl2·2H2O"])[-1]
    'two_concentrates'
    """
    keys = [key for formula in formulas for key in cautions_of(formula)]
    if any(never_meet(one, other) for one in formulas for other in formulas):
        keys.append("two_concentrates")
    return list(dict.fromkeys([*keys, "limewater"] if limewater else keys))


def matched_words(recipe: Recipe) -> str:
    """The calcium stock that goes with an alkalinity stock, mL for mL; empty for any other.

    >>> matched_words(stock_recipe("Na2CO3", 100.0, 2.0))
    'Calcium chloride dihydrate of 139 g/L goes with it, mL for mL.'
    """
    brought = brought_per_mole(recipe.formula)
    if not brought.get(Parameter.ALKALINITY) or Parameter.CALCIUM in brought:
        return ""
    try:
        strength = matched_calcium_g_l(recipe.formula, recipe.strength_g_l, "CaCl2·2H2O")
    except InputError:
        return phrase("stock.no_calcium_chloride_is_strong")
    return phrase("stock.calcium_chloride_dihydrate_of_g_l", strength=show_number(strength, 0))
