"""Food as an input of nitrogen and phosphorus: by portion and kind."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..basics.errors import InputError, check_range
from ..basics.working import Formula, FormulaInput, Result
from .parameters import Parameter

NO3_PER_N, PO4_PER_P = 62.0049 / 14.0067, 94.9714 / 30.9738
"""Mass of nitrate per nitrogen and of phosphate per phosphorus, from molar masses (IUPAC 2021)."""
BROUGHT = Formula("m", "brought by the food", "n * g * d * x * 1000", "mg", "portions · grams · dry share · content")


@dataclass(frozen=True)
class FoodKind:
    """A kind of food with its usual content: dry share 0..1, N and P as shares of the dry weight, g in a portion."""

    key: str
    name: str
    dry_share: float
    nitrogen_share: float
    phosphorus_share: float
    portion_g: float


@dataclass(frozen=True)
class Food:
    """A food on the shelf; shares as in its kind, or by its own analysis."""

    id: int
    name: str
    kind: str
    dry_share: float
    nitrogen_share: float
    phosphorus_share: float
    portion_g: float
    expires_on: str = ""


HARVEST_DRY_SHARE, HARVEST_NITROGEN_SHARE = 0.10, 0.03
"""Of macroalgae, well shaken off: dry share of the fresh weight, nitrogen of the dry weight (judgement)."""
ATOMS_N_PER_P = 16.0
"""Growth takes nitrogen and phosphorus about in this ratio, by atoms (Redfield 1958)."""
BOUND = Formula("m", "bound in the harvest", "g * d * x * 1000", "mg", "grams · dry share · content")


def bound(grams: float) -> Mapping[Parameter, Result]:
    """Nitrogen and phosphorus bound in so many grams of fresh macroalgae (0.1 to 100 000), as mg of nitrate and
    phosphate.

    >>> {p.value: round(mg, 1) for p, mg in bound(100).items()}
    {'nitrate': 1328.0, 'phosphate': 127.1}
    """
    check_range("harvest", grams, "g", 0.1, 1e5)
    phosphorus = HARVEST_NITROGEN_SHARE * 30.9738 / 14.0067 / ATOMS_N_PER_P
    content = {
        Parameter.NITRATE: HARVEST_NITROGEN_SHARE * NO3_PER_N,
        Parameter.PHOSPHATE: phosphorus * PO4_PER_P,
    }
    return {
        parameter: BOUND.result(
            g=FormulaInput(grams, "g", "fresh weight"),
            d=FormulaInput(HARVEST_DRY_SHARE, "", "dry share"),
            x=FormulaInput(share, "g/g", f"{parameter.value} from the dry weight"),
        )
        for parameter, share in content.items()
    }


def check_food(food: Food) -> Food:
    """Refuse an impossible food at its field: dry 0.5 to 100 %, N up to 20 %, P up to 5 %, portion 0.001 to 500 g."""
    if not food.name.strip():
        raise InputError("name the food", field="name", accepted="1 to 60 characters")
    check_range("dry share", food.dry_share * 100, "%", 0.5, 100, field="dry_percent")
    check_range("nitrogen", food.nitrogen_share * 100, "% of the dry weight", 0, 20, field="nitrogen_percent")
    check_range("phosphorus", food.phosphorus_share * 100, "% of the dry weight", 0, 5, field="phosphorus_percent")
    check_range("portion", food.portion_g, "g", 0.001, 500, field="portion_g")
    return food


def brought(food: Food, portions: float) -> Mapping[Parameter, Result]:
    """Nitrogen and phosphorus of so many portions (0 to 1000), as mg of nitrate and phosphate once all is broken down.

    What animals keep and the skimmer takes is not taken off: it is the input, not the rise that follows.

    >>> food = Food(1, "mysids", "frozen", 0.12, 0.10, 0.012, 1.0)
    >>> {p.value: round(mg, 1) for p, mg in brought(food, 2).items()}
    {'nitrate': 106.2, 'phosphate': 8.8}
    """
    check_range("portions", portions, "", 0, 1000, field="portions")
    content = {
        Parameter.NITRATE: food.nitrogen_share * NO3_PER_N,
        Parameter.PHOSPHATE: food.phosphorus_share * PO4_PER_P,
    }
    return {
        parameter: BROUGHT.result(
            n=FormulaInput(portions, "", "portions"),
            g=FormulaInput(food.portion_g, "g", "one portion"),
            d=FormulaInput(food.dry_share, "", "dry share"),
            x=FormulaInput(share, "g/g", f"{parameter.value} from the dry weight"),
        )
        for parameter, share in content.items()
    }
