"""A dose of an additive on the shelf: grams of the compound in a measure, what it raises, and whether it is too
much."""

from __future__ import annotations

from collections.abc import Mapping

from ..basics.errors import InputError, UnitError
from ..basics.quantities import PLAIN_HABITS, Habits, Kind, mass_of_scoops, parse_quantity
from ..science.additives import effects
from ..science.dosing import DAILY_LIMITS
from ..science.parameters import FACTS, Parameter
from ..science.units import UnitChoice, show_difference
from .shelf import Additive
from .system import System

LEFT_OUT = (Parameter.SALINITY, Parameter.SODIUM, Parameter.CHLORIDE)
"""Parameters every dose adds to as residual salt: counted over a year, not in a single dose."""


def read_mass_g(text: str, additive: Additive, habits: Habits = PLAIN_HABITS) -> float:
    """Grams of the compound in what was typed: "40 ml" of a solution, "4 g" or a scoop of what is dry.

    Raises InputError at `amount` for anything not a measure, or not one of this additive.

    >>> read_mass_g("40 ml", Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0))
    4.0
    """
    try:
        try:
            found = parse_quantity(text, Kind.MASS, habits)
        except UnitError:
            found = parse_quantity(text, Kind.VOLUME, habits)
    except InputError as error:
        error.field = "amount"
        raise
    if found.value <= 0:
        raise InputError("enter an amount above 0", field="amount", accepted="such as 40 ml or 4 g")
    by_volume = found.kind == Kind.VOLUME
    if by_volume and additive.strength_g_l is None and not additive.bulk_density_g_ml:
        raise InputError(f"{additive.name} is dry: weigh it", field="amount", accepted="grams, such as 4 g")
    if not by_volume and additive.strength_g_l is not None:
        raise InputError(f"{additive.name} is a solution: measure it", field="amount", accepted="millilitres")
    return grams_in(additive, found.value, by_volume)


def grams_in(additive: Additive, size: float, by_volume: bool) -> float:
    """Grams of the compound in a volume (L) or mass (g).

    >>> grams_in(Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0), 0.04, True)
    4.0
    """
    if not by_volume:
        return size
    if additive.strength_g_l is not None:
        return size * additive.strength_g_l
    return float(mass_of_scoops(size, additive.bulk_density_g_ml or 1.0))


def rises(additive: Additive, mass_g: float, volume_l: float) -> dict[Parameter, float]:
    """What a mass (g) of the compound raises in a system, canonical."""
    found = effects(additive.formula, mass_g, volume_l, additive.purity)
    return {p: float(rise) for p, rise in found.items() if p not in LEFT_OUT and rise}


SAMPLE, SAMPLE_VOLUME_L = 10.0, 100.0
"""The sample by which an additive is shown: grams or millilitres, and litres of water."""
NEXT_TO_NOTHING = 1e-6


def sample_size(additive: Additive) -> str:
    """The size of an additive's sample."""
    return f"{SAMPLE:g} {'g' if additive.strength_g_l is None else 'mL'}"


def sample_rises(additive: Additive) -> dict[Parameter, float]:
    """What the sample raises or lowers its litres by (canonical).

    >>> {p.value: round(rise, 2) for p, rise in sample_rises(Additive(1, "soda", "Na2CO3")).items()}
    {'alkalinity': 1.89}
    """
    mass_g = SAMPLE if additive.strength_g_l is None else SAMPLE * additive.strength_g_l / 1000
    found = rises(additive, mass_g, SAMPLE_VOLUME_L)
    return {p: rise for p, rise in found.items() if abs(rise) > NEXT_TO_NOTHING}


def too_much(system: System, raised: Mapping[Parameter, float], units: UnitChoice) -> tuple[str, ...]:
    """Parameters a dose raises at once beyond a whole day's limit: a slip of the decimal sign, or an emergency."""
    most = {parameter: system.limit(parameter).up for parameter in DAILY_LIMITS}
    return tuple(
        f"{FACTS[p].name} rises by {show_difference(p, rise, FACTS[p].likely.middle, units)} at once, more than the "
        f"{show_difference(p, most[p], FACTS[p].likely.middle, units)} of a whole day. Is it right?"
        for p, rise in raised.items()
        if p in most and p != Parameter.SALINITY and rise > most[p]
    )
