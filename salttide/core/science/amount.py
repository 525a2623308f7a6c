"""Amounts as text: grams and millilitres with the digits that matter, and doses too small for a scale."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor, log10

from ..basics.errors import check_range
from ..basics.locale import writing
from ..basics.measures import grams_words, kilograms_words, litres_words, measure_of
from ..basics.number_text import show_number
from .additives import COMPOUNDS

DIGITS = 3
STOCK_STRENGTHS_G_L = (10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1)
MIN_STOCK_ML = 5.0
"""The least volume, mL, worth measuring: a syringe reads a tenth, 2 % of this."""
UNKNOWN_SOLUBILITY_G_L = 1.0
"""The strongest stock proposed of a compound whose solubility is not known, g/L."""


def decimals_of(value: float, least: int = 1) -> int:
    """Decimals that show three significant digits of an amount, and never fewer than `least`.

    >>> [decimals_of(value) for value in (118.0, 12.0, 5.27, 0.0117, 0.0)]
    [1, 1, 2, 4, 1]
    """
    return max(least, DIGITS - 1 - floor(log10(abs(value)))) if value else least


def mass_text(mass_g: float) -> str:
    """A mass in g with three significant digits at least, kilograms from one on.

    >>> mass_text(0.01171), mass_text(0.8347), mass_text(40.0), mass_text(1670.0)
    ('0.0117 g', '0.835 g', '40.0 g', '1.670 kg')
    """
    if mass_g >= 1000:
        return kilograms_words(mass_g, 3)
    return grams_words(mass_g, decimals_of(mass_g))


def grams(mass_kg: float) -> float:
    """A mass in kilograms as grams."""
    return mass_kg * 1000


def contents_text(ml: float) -> str:
    """The contents of a container: millilitres, litres or gallons from one on.

    >>> contents_text(420.0), contents_text(1500.0)
    ('420 mL', '1.50 L')
    """
    return litres_words(ml / 1000, 2) if ml >= 1000 * measure_of("L").per else f"{show_number(ml, 0)} mL"


def volume_text(ml: float) -> str:
    """Millilitres of a solution with three significant digits at least.

    >>> volume_text(5.854), volume_text(22.5)
    ('5.85 mL', '22.5 mL')
    """
    return f"{show_number(ml, decimals_of(ml))} mL"


@dataclass(frozen=True)
class SmallDose:
    """A dose that is too light for the scale, as mL of a stock solution: grams in a litre, and how much of it."""

    formula: str
    stock_g_l: float
    ml: float

    @property
    def recipe(self) -> str:
        """What to weigh and dissolve, once."""
        return f"{mass_text(self.stock_g_l)} {self.formula} dissolved and filled up to 1 L with RO/DI water"


def small_dose(formula: str, mass_g: float, least_g: float) -> SmallDose | None:
    """The stock solution that makes a dose measurable that is too light for the scale; None where it is not.

    The strongest of a row of round strengths that dissolves and gives at least 5 mL. Mass to 1e6 g, scale 0.001 to 10.

    >>> found = small_dose("KH2PO4", 0.00585, 0.05)
    >>> found.stock_g_l, round(found.ml, 2)
    (1.0, 5.85)
    >>> small_dose("KH2PO4", 0.2, 0.05) is None
    True
    """
    check_range("mass", mass_g, "g", 0, 1e6)
    if mass_g >= check_range("least that the scale weighs", least_g, "g", 0.001, 10) or not mass_g:
        return None
    known = [compound.solubility_g_l for compound in COMPOUNDS.values() if compound.formula == formula]
    most = known[0] if known else UNKNOWN_SOLUBILITY_G_L
    dissolve = [strength for strength in STOCK_STRENGTHS_G_L if strength <= most]
    strength = next((one for one in dissolve if mass_g / one * 1000 >= MIN_STOCK_ML), dissolve[-1])
    return SmallDose(formula, strength, mass_g / strength * 1000)


def dose_text(mass_g: float, ml: float | None = None, formula: str = "") -> str:
    """A dose as measured out: mL of a solution, grams, or mL of a stock where too light for the keeper's scale.

    >>> dose_text(4.0, 40.0), dose_text(5.27, formula="Na2CO3")
    ('40.0 mL', '5.27 g')
    >>> dose_text(0.00585, formula="KH2PO4")
    '5.85 mL of a stock (1.00 g KH2PO4 dissolved and filled up to 1 L with RO/DI water)'
    """
    if ml is not None:
        return volume_text(ml)
    small = small_dose(formula, mass_g, writing().scale_g) if formula else None
    return mass_text(mass_g) if small is None else f"{volume_text(small.ml)} of a stock ({small.recipe})"
