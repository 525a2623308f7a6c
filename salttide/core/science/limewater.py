"""Limewater: what dissolves, how strong it is, and what a day's top-off can carry."""

from __future__ import annotations

from dataclasses import dataclass

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result
from .additives import amount_per_gram
from .parameters import Parameter

SOLUBILITY = Formula("s", "lime that dissolves", "1.57 - 0.014 * (t - 20)", "g/L", "1.57 g/L at 20 °C, 1.50 at 25 °C")
STRENGTH = Formula("A", "alkalinity of saturated limewater", "s * a", "meq/L", "two equivalents per mole")
MOST = Formula("u", "most alkalinity a day", "E * A / V", "meq/L a day", "limewater replaces evaporated water")


def limewater_solubility_g_l(temperature_c: float) -> Result:
    """Grams of Ca(OH)2 in a litre of saturated limewater at 5 to 35 °C. It dissolves less when warm.

    >>> round(limewater_solubility_g_l(25.0), 2)
    1.5
    """
    check_range("temperature", temperature_c, "°C", 5, 35)
    return SOLUBILITY.result(t=FormulaInput(temperature_c, "°C"))


def limewater_strength_meq_l(temperature_c: float) -> Result:
    """Alkalinity of saturated limewater in meq/L at 5 to 35 °C.

    >>> round(limewater_strength_meq_l(25.0), 1)
    40.5
    """
    solubility = limewater_solubility_g_l(temperature_c)
    per_gram = amount_per_gram("Ca(OH)2", Parameter.ALKALINITY)
    return STRENGTH.result(solubility, per_gram, s=solubility.given(), a=per_gram.given())


def limewater_most_meq_l(evaporation_l: float, volume_l: float, temperature_c: float = 25.0) -> Result:
    """The most alkalinity (meq/L a day) that saturated limewater brings when it replaces all evaporation (L a day).

    Evaporation 0 to 1000 L a day, volume above 0 to 1e6 L.

    >>> round(limewater_most_meq_l(3.0, 334.0), 3)
    0.364
    """
    check_range("evaporation", evaporation_l, "L a day", 0, 1000)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    strength = limewater_strength_meq_l(temperature_c)
    return MOST.result(
        strength,
        E=FormulaInput(evaporation_l, "L a day"),
        A=strength.given(),
        V=FormulaInput(volume_l, "L", "net volume"),
    )


@dataclass(frozen=True)
class LimewaterDay:
    """A day's limewater: litres of top-off, grams of Ca(OH)2 to stir in, and the uptake it leaves to other means."""

    litres: float
    mass_g: float
    left_meq_l: float
    calcium_mg_l: float


def limewater_day(
    uptake_meq_l: float, evaporation_l: float, volume_l: float, temperature_c: float = 25.0
) -> LimewaterDay:
    """Limewater for an uptake of alkalinity (meq/L a day, 0 to 3): as much as it takes, at most saturated.

    More powder than dissolves adds nothing; what is beyond it is `left_meq_l`.

    >>> day = limewater_day(0.2, 3.0, 334.0)
    >>> round(day.mass_g, 2), day.left_meq_l
    (2.47, 0.0)
    """
    check_range("uptake", uptake_meq_l, "meq/L a day", 0, 3)
    covered = min(uptake_meq_l, float(limewater_most_meq_l(evaporation_l, volume_l, temperature_c)))
    mass = covered * volume_l / amount_per_gram("Ca(OH)2", Parameter.ALKALINITY)
    calcium = mass * amount_per_gram("Ca(OH)2", Parameter.CALCIUM) / volume_l
    return LimewaterDay(evaporation_l, mass, uptake_meq_l - covered, calcium)
