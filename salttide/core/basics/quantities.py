"""Ordinary quantities: volume, mass, temperature, length, time, flow. Converted by a unit library, built when needed.

Canonical: L, g, °C, cm, minutes, L/h. Units of the water's parameters are in `units`.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import TYPE_CHECKING

from .contract import Held
from .errors import AmbiguousError, DomainError, UnitError, check_range
from .locale import Gallon as Gallon
from .number_text import DecimalSign, parse_number
from .phrasing import either, listed
from .working import Formula, FormulaInput, Result

if TYPE_CHECKING:
    from pint import UnitRegistry


class Kind(StrEnum):
    """What is measured."""

    VOLUME = "volume"
    MASS = "mass"
    TEMPERATURE = "temperature"
    LENGTH = "length"
    TIME = "time"
    FLOW = "flow"


CANONICAL: dict[Kind, str] = {
    Kind.VOLUME: "L",
    Kind.MASS: "g",
    Kind.TEMPERATURE: "°C",
    Kind.LENGTH: "cm",
    Kind.TIME: "min",
    Kind.FLOW: "L/h",
}
LEAST: dict[Kind, float] = {Kind.TEMPERATURE: -273.15}
"""The least that is possible; 0 for kinds not listed: there is no negative litre."""

_UNITS: dict[Kind, dict[str, str]] = {
    Kind.VOLUME: {
        "L": "liter", "mL": "milliliter", "m³": "meter**3", "US gal": "gallon", "imp gal": "imperial_gallon",
        "US qt": "quart", "imp qt": "imperial_quart", "US pt": "pint", "imp pt": "imperial_pint",
        "US fl oz": "fluid_ounce", "imp fl oz": "imperial_fluid_ounce",
        "cup": "cup", "tbsp": "tablespoon", "tsp": "teaspoon",
    },
    Kind.MASS: {"g": "gram", "mg": "milligram", "kg": "kilogram", "oz": "ounce", "lb": "pound"},
    Kind.TEMPERATURE: {"°C": "degC", "°F": "degF", "K": "kelvin"},
    Kind.LENGTH: {"cm": "centimeter", "mm": "millimeter", "m": "meter", "in": "inch", "ft": "foot"},
    Kind.TIME: {"min": "minute", "s": "second", "h": "hour", "day": "day", "week": "week"},
    Kind.FLOW: {
        "L/h": "liter/hour", "L/min": "liter/minute", "mL/min": "milliliter/minute", "L/day": "liter/day",
        "US gal/h": "gallon/hour", "imp gal/h": "imperial_gallon/hour",
    },
}  # fmt: skip
"""Key of a unit, as it is written, and its name in the library. Cups and spoons are the US customary ones."""

_SPELLINGS = {
    "L": "l liter liters litre litres ltr", "mL": "ml milliliter milliliters millilitre millilitres cc cm³ cm3",
    "m³": "m3", "US gal": "us-gallon us-gallons us-gal gal(us) usgal", "imp gal": "imperial-gallon imperial-gallons "
    "imp-gal uk-gal uk-gallon uk-gallons gal(imp)", "US qt": "us-quart us-quarts us-qt", "imp qt": "imp-qt uk-quart",
    "US pt": "us-pint us-pints us-pt", "imp pt": "imp-pt uk-pint uk-pints imperial-pint imperial-pints",
    "US fl oz": "us-fl-oz us-floz", "imp fl oz": "imp-fl-oz uk-fl-oz imp-floz",
    "cup": "cups us-cup", "tbsp": "tablespoon tablespoons", "tsp": "teaspoon teaspoons",
    "g": "gram grams gr", "mg": "milligram milligrams", "kg": "kilogram kilograms kilo kilos",
    "oz": "ounce ounces", "lb": "lbs pound pounds",
    "°C": "c degc deg-c celsius °c ºc", "°F": "f degf deg-f fahrenheit °f ºf", "K": "k kelvin",
    "cm": "centimeter centimeters centimetre centimetres", "mm": "millimeter millimetre millimeters millimetres",
    "m": "meter meters metre metres", "in": "inch inches \"", "ft": "foot feet '",
    "min": "mins minute minutes", "s": "sec secs second seconds", "h": "hr hrs hour hours",
    "day": "days d", "week": "weeks wk", "L/h": "l/hr lph l-per-hour", "L/min": "lpm", "mL/min": "ml/minute",
    "L/day": "l/d", "US gal/h": "us-gph", "imp gal/h": "imp-gph",
}  # fmt: skip

_BY_GALLON = {
    "gal": ("US gal", "imp gal"), "gallon": ("US gal", "imp gal"), "gallons": ("US gal", "imp gal"),
    "qt": ("US qt", "imp qt"), "quart": ("US qt", "imp qt"), "quarts": ("US qt", "imp qt"),
    "pt": ("US pt", "imp pt"), "pint": ("US pt", "imp pt"), "pints": ("US pt", "imp pt"),
    "fl oz": ("US fl oz", "imp fl oz"), "floz": ("US fl oz", "imp fl oz"), "fluid ounce": ("US fl oz", "imp fl oz"),
    "fluid ounces": ("US fl oz", "imp fl oz"), "gph": ("US gal/h", "imp gal/h"), "gal/h": ("US gal/h", "imp gal/h"),
}  # fmt: skip
"""Units that depend on the keeper's gallon."""


@dataclass(frozen=True)
class Habits(Held):
    """How this keeper writes: decimal sign, and which gallon a bare "gal" is (None: ask)."""

    sign: DecimalSign = DecimalSign.POINT
    gallon: Gallon | None = None


PLAIN_HABITS = Habits()


@dataclass(frozen=True)
class Quantity:
    """A value in the canonical unit of its kind, and the key of the unit that it was typed in."""

    value: float
    kind: Kind
    unit: str


@cache
def spelled_units() -> dict[str, tuple[Kind, str]]:
    """Every spelling, lower case, with the kind and key of its unit."""
    found = {}
    for kind, units in _UNITS.items():
        for key in units:
            for spelling in (key.lower(), *(word.replace("-", " ") for word in _SPELLINGS[key].split())):
                found[spelling] = (kind, key)
    return found


def find_unit(text: str, kind: Kind | None = None, habits: Habits = PLAIN_HABITS) -> tuple[Kind, str]:
    """The kind and key of a typed unit. A bare gallon follows the keeper's setting, and is ambiguous without one.
    Raises AmbiguousError (also for an "oz" where a volume is needed), or UnitError that lists the units accepted.

    >>> find_unit("litres"), find_unit("gal", habits=Habits(gallon=Gallon.US))
    ((<Kind.VOLUME: 'volume'>, 'L'), (<Kind.VOLUME: 'volume'>, 'US gal'))
    """
    if not isinstance(text, str):
        raise UnitError(f"a unit is a word, not {text!r}", accepted=either([*_UNITS[kind or Kind.VOLUME]]))
    folded = " ".join(text.lower().replace(".", "").split())
    if folded in _BY_GALLON:
        us, imperial = _BY_GALLON[folded]
        if habits.gallon is None:
            raise AmbiguousError(f"which “{text.strip()}” is meant: {us} or {imperial}?", (us, imperial))
        folded = (us if habits.gallon == Gallon.US else imperial).lower()
    found = spelled_units().get(folded)
    if found and found[1] == "oz" and kind == Kind.VOLUME:
        raise AmbiguousError("“oz” is a weight; for a volume write fl oz", ("US fl oz", "imp fl oz"))
    if found is None or (kind is not None and found[0] != kind):
        kinds = [kind] if kind else list(Kind)
        accepted = either([unit for each in kinds for unit in _UNITS[each]])
        of = f" of {kind.value}" if kind else " known here"
        raise UnitError(f"“{text.strip()}” is not a unit{of}: {accepted}", accepted=accepted)
    return found


_QUANTITY = re.compile(r"\s*((?:\d+\s+)?\d+/\d+|[+\-−]?[\d.,][\d.,\s]*)\s*([^\d\s.,/][^\n]*)?")


def split_quantity(text: str) -> tuple[str, str]:
    """The number and the unit of a typed quantity, both as text.

    >>> split_quantity("1.5 tsp"), split_quantity("78F")
    (('1.5', 'tsp'), ('78', 'F'))
    """
    match = _QUANTITY.fullmatch(text)
    if not match:
        parse_number(text)
        raise UnitError(f"“{text.strip()}” cannot be read", accepted="a number with a unit, such as 5 L")
    return match.group(1).strip(), (match.group(2) or "").strip()


def parse_quantity(text: str, kind: Kind | None = None, habits: Habits = PLAIN_HABITS, unit: str = "") -> Quantity:
    """What was typed, in the canonical unit of its kind: "5 gal", "1.5 tsp", "78 F".

    `unit` is taken where none is typed; without either, UnitError. Raises NumberError, AmbiguousError, UnitError, or
    DomainError below what is possible.

    >>> round(parse_quantity("5 US gal").value, 5), round(parse_quantity("78 F").value, 4)
    (18.92706, 25.5556)
    """
    number, typed = split_quantity(text)
    if not (typed or unit):
        accepted = either(list(_UNITS[kind])) if kind else "a unit such as L, g or °C"
        raise UnitError(f"“{text.strip()}” needs a unit: {accepted}", accepted=accepted)
    found, key = find_unit(typed or unit, kind, habits)
    return Quantity(to_canonical(parse_number(number, habits.sign), found, key), found, key)


def to_canonical(value: float, kind: Kind, key: str) -> float:
    """A value in the unit `key` as litres, grams, °C, cm, minutes or L/h. DomainError below what is possible."""
    converted = unchecked_to_canonical(value, kind, key)
    least = LEAST.get(kind, 0.0)
    if not least - 1e-9 <= converted < float("inf"):
        low = _converted(least, _UNITS[kind][CANONICAL[kind]], _UNITS[kind][key])
        raise DomainError(kind.value, value, key, low, float("inf"))
    return converted


def unchecked_to_canonical(value: float, kind: Kind, key: str) -> float:
    """As `to_canonical`, without a check of what is possible."""
    return _converted(value, _UNITS[kind][key], _UNITS[kind][CANONICAL[kind]])


def from_canonical(value: float, kind: Kind, key: str) -> float:
    """A canonical value in the unit `key`.

    >>> round(from_canonical(3.785411784, Kind.VOLUME, "US gal"), 9)
    1.0
    """
    return _converted(value, _UNITS[kind][CANONICAL[kind]], _UNITS[kind][key])


def _converted(value: float, source: str, target: str) -> float:
    return value if source == target else float(_registry().Quantity(value, source).to(target).magnitude)


@cache
def _registry() -> UnitRegistry[float]:
    """The library's unit registry: it takes most of a second to build, so only on first conversion."""
    import pint

    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True, cache_folder=None)


SCOOPED = Formula("m", "mass of the dry goods", "v * 1000 * d", "g", "bulk density, loosely filled")


TEASPOON_ML, SPOON_ML, CUP_ML = 4.92892, 14.7868, 236.588
"""US customary, as a typed spoon or cup is read."""


def scoop_words(mass_g: float, bulk_density_g_ml: float) -> str:
    """A mass of a dry product in quarter cups and spoons, for beside the grams. Mass 0 to 1e6 g, density 0.2 to 3 g/mL.

    In as few sizes as come within 5 %; empty for less than a spoon can measure.

    >>> scoop_words(196.0, 1.1), scoop_words(1670.0, 1.15), scoop_words(30.0, 1.0)
    ('about ¾ cup', 'about 6¼ cups', 'about 2 tablespoons')
    """
    millilitres = check_range("mass", mass_g, "g", 0, 1e6) / check_range(
        "bulk density", bulk_density_g_ml, "g/mL", 0.2, 3
    )
    for depth in range(1, len(_SCOOPS) + 1):
        parts, left = [], millilitres
        for noun, piece_ml, in_one in _SCOOPS[:depth]:
            last = noun == _SCOOPS[depth - 1][0]
            pieces = round(left / piece_ml) if last else int((left + 1e-9) // piece_ml)
            left -= pieces * piece_ml
            parts += [_pieces(pieces, in_one, noun)] if pieces else []
        if abs(left) <= GUESS * millilitres:
            return f"about {listed(parts)}"
    return ""


GUESS = 0.05
"""How far off, as a share, a measure by spoon may be."""
_SCOOPS = (("cup", CUP_ML / 4, 4), ("tablespoon", SPOON_ML, 1), ("teaspoon", TEASPOON_ML / 4, 4))
"""Name, mL of its smallest fraction, fractions in a whole; later ones are used where the ones before are too coarse."""
_QUARTERS = ("", "¼", "½", "¾")


def _pieces(pieces: int, in_one: int, noun: str) -> str:
    whole, rest = divmod(pieces, in_one)
    text = f"{whole or ''}{_QUARTERS[rest * 4 // in_one]}"
    return f"{text} {noun}{'s' if pieces > in_one else ''}"


def mass_of_scoops(volume_l: float, bulk_density_g_ml: float) -> Result:
    """Grams of a dry product in a measured volume (L, 0 to 1000) by its bulk density (g/mL, 0.2 to 3).

    Weighing beats scooping: a bulk density holds for one product, loosely filled and dry.

    >>> round(mass_of_scoops(0.2365882, 1.1), 1)
    260.2
    """
    check_range("volume", volume_l, "L", 0, 1000)
    check_range("bulk density", bulk_density_g_ml, "g/mL", 0.2, 3)
    return SCOOPED.result(
        v=FormulaInput(volume_l, "L", "measured"), d=FormulaInput(bulk_density_g_ml, "g/mL", "bulk density")
    )
