"""Units of the parameters, and typed measurements: text to canonical values and back.

Canonical units: volume L, mass g, temperature °C, practical salinity (ppt), alkalinity meq/L, ions mg/L,
pH on the NBS scale. Converted only at the edge.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial

from .errors import DomainError, NumberError, UnitError
from .parameters import FACTS, Parameter, spoken
from .seawater import GravityReference, salinity_from_specific_gravity, specific_gravity

CAO_G_MOL = 56.077
CACO3_G_MOL = 100.087
DKH_PER_MEQ_L = CAO_G_MOL / 2 / 10
"""1 dKH is the alkalinity of 10 mg/L CaO; one mole of CaO has two equivalents. 2.80385 dKH = 1 meq/L."""
CACO3_MG_PER_MEQ = CACO3_G_MOL / 2
US_GALLON_L = 3.785411784


@dataclass(frozen=True)
class Unit:
    """A unit of one parameter. `spellings` are what a keeper may type, lower case; `decimals` what is shown."""

    key: str
    label: str
    decimals: int
    spellings: tuple[str, ...]
    to_canonical: Callable[[float], float]
    from_canonical: Callable[[float], float]


def _linear(key: str, decimals: int, per_canonical: float, *spellings: str, offset: float = 0.0) -> Unit:
    return Unit(
        key,
        key,
        decimals,
        (key.lower(), *spellings),
        lambda shown: (shown - offset) / per_canonical,
        lambda canonical: canonical * per_canonical + offset,
    )


def _gravity(reference: GravityReference, label: str, *spellings: str) -> Unit:
    return Unit(
        f"SG {reference.value}",
        label,
        4,
        (f"sg {reference.value.lower()}", label.lower(), *spellings),
        partial(salinity_from_specific_gravity, reference=reference),
        lambda salinity: specific_gravity(salinity, reference),
    )


def _milligrams(decimals: int) -> tuple[Unit, ...]:
    return (_linear("mg/L", decimals, 1.0, "ppm"),)


UNITS: dict[Parameter, tuple[Unit, ...]] = {
    Parameter.TEMPERATURE: (
        _linear("°C", 1, 1.0, "c", "celsius"),
        _linear("°F", 1, 1.8, "f", "fahrenheit", offset=32.0),
    ),
    Parameter.SALINITY: (
        _linear("ppt", 1, 1.0, "psu"),
        _gravity(GravityReference.R25_25, "SG 25/25 °C", "sg"),
        _gravity(GravityReference.R20_20, "SG 20/20 °C"),
        _gravity(GravityReference.R60_60F, "SG 60/60 °F"),
        _gravity(GravityReference.R25_4, "SG 25/4 °C"),
    ),
    Parameter.ALKALINITY: (
        _linear("dKH", 1, DKH_PER_MEQ_L, "kh", "°dkh"),
        _linear("meq/L", 2, 1.0, "meq"),
        _linear("mg/L CaCO3", 0, CACO3_MG_PER_MEQ, "ppm caco3", "mg/l caco₃", "mg/l"),
    ),
    Parameter.CALCIUM: _milligrams(0),
    Parameter.MAGNESIUM: _milligrams(0),
    Parameter.NITRATE: _milligrams(1),
    Parameter.PHOSPHATE: _milligrams(3),
    Parameter.PH: (_linear("", 2, 1.0, "nbs"),),
    Parameter.AMMONIA: _milligrams(2),
    Parameter.NITRITE: _milligrams(2),
}

_BY_KEY = {(parameter, unit.key): unit for parameter, units in UNITS.items() for unit in units}

UnitChoice = Mapping[Parameter, str]
"""The keeper's unit key per parameter; a parameter left out is shown in its first unit."""


def unit_of(parameter: Parameter, choice: UnitChoice) -> Unit:
    """The unit the keeper chose for `parameter`. Raises UnitError for a key that it does not have."""
    key = choice.get(parameter)
    return UNITS[parameter][0] if key is None else _BY_KEY.get((parameter, key)) or unit_named(parameter, key)


def unit_named(parameter: Parameter, key: str) -> Unit:
    """The unit of `parameter` with this key or spelling. Raises UnitError that lists those it has."""
    folded = " ".join(key.lower().split())
    for unit in UNITS[parameter]:
        if key == unit.key or folded in unit.spellings:
            return unit
    labels = ", ".join(unit.label for unit in UNITS[parameter] if unit.label)
    accepted = labels or "a number without a unit"
    raise UnitError(f"“{key}” is not a unit of {spoken(parameter)}: {accepted}", accepted=accepted)


_TYPED = re.compile(r"^\s*([+-]?[0-9][0-9.,'\s]*|[+-]?[.,][0-9]+)\s*([^\d\s.,][^\n]*)?$")
_PLAIN = re.compile(r"^[+-]?(\d+(\.\d*)?|\.\d+)$")


def parse_number(text: str) -> float:
    """A number with a decimal point. A comma is refused, not guessed: "1,025" could be 1.025 or 1025.

    >>> parse_number(" 8.2 ")
    8.2
    """
    plain = text.strip()
    if "," in plain:
        raise NumberError(
            f"write {plain.replace(',', '.')} with a decimal point: a comma can be read two ways",
            accepted="a number with a decimal point",
        )
    if not _PLAIN.match(plain):
        raise NumberError(f"“{plain}” is not a number", accepted="a number such as 8.2")
    return float(plain)


def parse_measurement(parameter: Parameter, text: str, unit_key: str) -> float:
    """The canonical value of what was typed: "8.2", or with a unit of its own, "2.9 meq/L".

    A typed unit wins over `unit_key`. Raises NumberError, UnitError or, outside what is possible,
    DomainError with the range in the unit that was typed.

    >>> round(parse_measurement(Parameter.ALKALINITY, "8.2", "dKH"), 4)
    2.9246
    >>> parse_measurement(Parameter.ALKALINITY, "2.9 meq/L", "dKH")
    2.9
    """
    match = _TYPED.match(text)
    if not match:
        raise NumberError(f"“{text.strip()}” is not a number", accepted="a number such as 8.2")
    shown = parse_number(match.group(1))
    unit = (
        unit_named(parameter, (match.group(2) or unit_key).strip()) if match.group(2) else _keyed(parameter, unit_key)
    )
    return to_canonical(parameter, shown, unit)


def _keyed(parameter: Parameter, key: str) -> Unit:
    return unit_named(parameter, key) if key else UNITS[parameter][0]


def to_canonical(parameter: Parameter, shown: float, unit: Unit) -> float:
    """`shown` in `unit` to canonical; refuses what is not possible with the range in that unit."""
    facts = FACTS[parameter]
    low, high = (round(unit.from_canonical(end), unit.decimals) for end in (facts.possible.low, facts.possible.high))
    if not low <= shown <= high:
        raise DomainError(facts.name, shown, unit.label, low, high)
    return unit.to_canonical(min(max(shown, low), high)) if unit.key.startswith("SG") else unit.to_canonical(shown)


def show_number(value: float, decimals: int) -> str:
    """A number as read on an instrument: fixed digits, a true minus sign, never "-0".

    >>> show_number(-0.04, 1)
    '0.0'
    >>> show_number(-1.25, 2)
    '−1.25'
    """
    text = f"{value:.{decimals}f}"
    if float(text) == 0:
        text = f"{0:.{decimals}f}"
    return text.replace("-", "−")


def show(parameter: Parameter, value: float, choice: UnitChoice) -> str:
    """A canonical value in the keeper's unit with its label.

    >>> show(Parameter.ALKALINITY, 2.9, {})
    '8.1 dKH'
    """
    unit = unit_of(parameter, choice)
    return f"{show_number(unit.from_canonical(value), unit.decimals)} {unit.label}".rstrip()


def show_difference(parameter: Parameter, difference: float, around: float, choice: UnitChoice) -> str:
    """A canonical difference in the keeper's unit; one digit more than a value has where it is small."""
    unit = unit_of(parameter, choice)
    shown = unit.from_canonical(around + difference) - unit.from_canonical(around)
    small = abs(shown) < 0.95 * 10**-unit.decimals and not unit.key.startswith("SG")
    return f"{show_number(shown, unit.decimals + small)} {unit.label}".rstrip()
