"""Units of the parameters, and typed measurements: text to canonical values and back.

Canonical units: volume L, mass g, temperature °C, practical salinity (ppt), alkalinity meq/L, ions mg/L,
pH on the NBS scale. Converted only at the edge.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from math import inf, isfinite
from typing import TypeVar

from ..basics.errors import (
    GRAVITY_HIGH,
    GRAVITY_LOW,
    AmbiguousError,
    DomainError,
    SaltTideError,
    UnitError,
    gravity_doubt,
)
from ..basics.number_text import DecimalSign, parse_number, show_number
from ..basics.phrasing import either
from ..basics.quantities import split_quantity
from .parameters import FACTS, Parameter, spoken
from .seawater import (
    GravityReference,
    conductivity_ms_cm_from_salinity,
    practical_salinity,
    salinity_from_specific_gravity,
    specific_gravity,
)

H_G_MOL, N_G_MOL, O_G_MOL, P_G_MOL, SI_G_MOL = 1.007941, 14.006703, 15.999405, 30.973762, 28.085499
"""Standard atomic weights (IUPAC 2013, isotopic compositions of normal material)."""
CAO_G_MOL = 56.077
CACO3_G_MOL = 100.087
DKH_PER_MEQ_L = CAO_G_MOL / 2 / 10
"""1 dKH is the alkalinity of 10 mg/L CaO; one mole of CaO has two equivalents. 2.80385 dKH = 1 meq/L."""
CACO3_MG_PER_MEQ = CACO3_G_MOL / 2
NO3_PER_N = (N_G_MOL + 3 * O_G_MOL) / N_G_MOL
NO2_PER_N = (N_G_MOL + 2 * O_G_MOL) / N_G_MOL
NH3_PER_N = (N_G_MOL + 3 * H_G_MOL) / N_G_MOL
NH4_PER_N = (N_G_MOL + 4 * H_G_MOL) / N_G_MOL
PO4_PER_P = (P_G_MOL + 4 * O_G_MOL) / P_G_MOL
SIO2_PER_SI = (SI_G_MOL + 2 * O_G_MOL) / SI_G_MOL


@dataclass(frozen=True)
class Unit:
    """A unit of one parameter. `spellings` are what a keeper may type, lower case; `decimals` what is shown."""

    key: str
    label: str
    decimals: int
    spellings: tuple[str, ...]
    to_canonical: Callable[[float], float]
    from_canonical: Callable[[float], float]
    source: str = ""
    """The source of a conversion that is not linear; empty where it is."""


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
        "TEOS-10 (2010)",
    )


def _conductivity() -> Unit:
    return Unit(
        "mS/cm",
        "mS/cm at 25 °C",
        1,
        ("ms/cm", "ms", "ms/cm at 25 °c"),
        practical_salinity,
        conductivity_ms_cm_from_salinity,
        "PSS-78",
    )


def _milligrams(decimals: int, *more: Unit) -> tuple[Unit, ...]:
    return (_linear("mg/L", decimals, 1.0, "ppm"), *more)


def _atoms(key: str, decimals: int, per_atom: float, *spellings: str, scale: float = 1.0) -> Unit:
    """A compound stated as one of its atoms: mg/L of the atom times `scale`, against mg/L of the compound."""
    return _linear(key, decimals, scale / per_atom, *spellings)


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
        _conductivity(),
    ),
    Parameter.ALKALINITY: (
        _linear("dKH", 1, DKH_PER_MEQ_L, "kh", "°dkh"),
        _linear("meq/L", 2, 1.0, "meq"),
        _linear("mg/L CaCO3", 0, CACO3_MG_PER_MEQ, "ppm caco3", "mg/l caco₃", "mg/l", "ppm"),
    ),
    Parameter.CALCIUM: _milligrams(0),
    Parameter.MAGNESIUM: _milligrams(0),
    Parameter.NITRATE: (
        _linear("mg/L", 1, 1.0, "ppm", "mg/l no3", "ppm no3", "no3"),
        _atoms("mg/L NO3-N", 2, NO3_PER_N, "ppm no3-n", "no3-n", "mg/l n", "ppm n"),
    ),
    Parameter.PHOSPHATE: (
        _linear("mg/L", 3, 1.0, "ppm", "mg/l po4", "ppm po4", "po4"),
        _atoms("mg/L PO4-P", 3, PO4_PER_P, "ppm po4-p", "po4-p", "mg/l p"),
        _atoms("µg/L P", 0, PO4_PER_P, "ug/l p", "μg/l p", "ppb p", scale=1000.0),
        _linear("µg/L PO4", 0, 1000.0, "ug/l po4", "μg/l po4", "ppb po4"),
    ),
    Parameter.PH: (_linear("", 2, 1.0, "nbs"),),
    Parameter.AMMONIA: (
        _linear("mg/L", 2, 1.0, "ppm", "mg/l nh3", "ppm nh3", "nh3"),
        _linear("mg/L NH4", 2, NH4_PER_N / NH3_PER_N, "ppm nh4", "nh4"),
        _linear(
            "mg/L NH3-N", 2, 1 / NH3_PER_N, "ppm nh3-n", "nh3-n", "mg/l nh4-n", "nh4-n", "mg/l tan", "mg/l n", "ppm n"
        ),
    ),
    Parameter.NITRITE: (
        _linear("mg/L", 2, 1.0, "ppm", "mg/l no2", "ppm no2", "no2"),
        _atoms("mg/L NO2-N", 2, NO2_PER_N, "ppm no2-n", "no2-n", "mg/l n", "ppm n"),
    ),
    Parameter.POTASSIUM: _milligrams(0),
    Parameter.STRONTIUM: _milligrams(1),
    Parameter.SODIUM: _milligrams(0),
    Parameter.CHLORIDE: _milligrams(0),
    Parameter.SULFATE: _milligrams(0),
    Parameter.BORON: _milligrams(1),
    Parameter.IODINE: _milligrams(3, _linear("µg/L", 0, 1000.0, "ug/l", "μg/l", "ppb")),
    Parameter.SILICATE: _milligrams(2, _atoms("mg/L Si", 2, SIO2_PER_SI, "ppm si")),
    Parameter.ORP: (_linear("mV", 0, 1.0),),
    Parameter.TDS: _milligrams(0),
}
"""Total ammonia is kept as mg/L NH3: what a kit says as NH4 or as N is converted."""

DOUBTFUL: Mapping[Parameter, Mapping[str, tuple[str, ...]]] = {
    Parameter.PHOSPHATE: dict.fromkeys(("ppb", "ug/l", "μg/l", "µg/l"), ("µg/L P", "µg/L PO4")),
}
"""Units written without their substance where two are usual: ambiguous."""
SUBSTANCES: Mapping[Parameter, str] = {
    Parameter.NITRATE: "NO3", Parameter.PHOSPHATE: "PO4", Parameter.AMMONIA: "NH3", Parameter.NITRITE: "NO2",
}  # fmt: skip
"""The substance counted by a parameter's canonical mg/L, where it could be another."""

_BY_KEY = {(parameter, unit.key): unit for parameter, units in UNITS.items() for unit in units}

UnitChoice = Mapping[Parameter, str]
"""The keeper's unit key per parameter; a parameter left out is shown in its first unit."""


def unit_of(parameter: Parameter, choice: UnitChoice) -> Unit:
    """The unit the keeper chose for `parameter`. Raises UnitError for a key that it does not have."""
    key = choice.get(parameter)
    return UNITS[parameter][0] if key is None else _BY_KEY.get((parameter, key)) or unit_named(parameter, key)


def field_number(parameter: Parameter, value: float, choice: UnitChoice, finer: bool = False) -> float:
    """A canonical value as the number of a field in the keeper's unit, to its decimals. finer: one more, but for a
    specific gravity, which has four already.

    >>> field_number(Parameter.ALKALINITY, 2.856, {}), field_number(Parameter.ALKALINITY, 2.856, {}, finer=True)
    (8.0, 8.01)
    """
    unit = unit_of(parameter, choice)
    return round(unit.from_canonical(value), unit.decimals + (finer and not unit.key.startswith("SG")))


def unit_named(parameter: Parameter, key: str) -> Unit:
    """The unit of `parameter` with this key or spelling. Raises UnitError that lists those it has, and AmbiguousError
    for one that does not say what is counted."""
    folded = " ".join(str(key).lower().split())
    if folded in DOUBTFUL.get(parameter, {}):
        readings = DOUBTFUL[parameter][folded]
        raise AmbiguousError(f"“{key}” of what: {either(readings)}?", readings)
    for unit in UNITS[parameter]:
        if key == unit.key or folded in unit.spellings:
            return unit
    labels = ", ".join(unit.label for unit in UNITS[parameter] if unit.label)
    accepted = labels or "a number without a unit"
    raise UnitError(f"“{key}” is not a unit of {spoken(parameter)}: {accepted}", accepted=accepted)


NAMED_LEVELS = (Parameter.SALINITY, Parameter.ALKALINITY, Parameter.TEMPERATURE)


def named_level(field: str) -> Parameter | None:
    """The parameter that a field is named after and holds a level of, in the keeper's unit.

    >>> named_level("water_salinity"), named_level("heater_w")
    (<Parameter.SALINITY: 'salinity'>, None)
    """
    return next((one for one in NAMED_LEVELS if field.endswith(one.value)), None)


def parse_measurement(parameter: Parameter, text: str, unit_key: str, sign: DecimalSign = DecimalSign.POINT) -> float:
    """The canonical value of what was typed: "8.2", or with a unit of its own, "2.9 meq/L".

    A typed unit wins over `unit_key`. Raises NumberError, AmbiguousError, UnitError or, outside what is possible,
    DomainError with the range in the unit that was typed.

    >>> round(parse_measurement(Parameter.ALKALINITY, "8.2", "dKH"), 4)
    2.9246
    >>> parse_measurement(Parameter.ALKALINITY, "2.9 meq/L", "dKH")
    2.9
    """
    number, typed = split_quantity(text)
    unit = unit_named(parameter, typed) if typed else _keyed(parameter, unit_key)
    return to_canonical(parameter, parse_number(number, sign), unit)


def _keyed(parameter: Parameter, key: str) -> Unit:
    return unit_named(parameter, key) if key else UNITS[parameter][0]


def to_canonical(parameter: Parameter, shown: float, unit: Unit) -> float:
    """`shown` in `unit` to canonical; refuses what is not possible with the range in that unit."""
    facts = FACTS[parameter]
    low, high = (round(unit.from_canonical(end), unit.decimals) for end in (facts.possible.low, facts.possible.high))
    if parameter == Parameter.SALINITY and unit.key == "ppt" and GRAVITY_LOW <= shown <= GRAVITY_HIGH:
        raise gravity_doubt("salinity", shown)
    if not low <= shown <= high:
        raise DomainError(facts.name, shown, unit.label, low, high)
    return unit.to_canonical(min(max(shown, low), high)) if unit.key.startswith("SG") else unit.to_canonical(shown)


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


def signed_difference(parameter: Parameter, difference: float, around: float, choice: UnitChoice) -> str:
    """The same with its sign.

    >>> signed_difference(Parameter.CALCIUM, -12.0, 420.0, {})
    '−12 mg/L'
    """
    sign = "−" if difference < 0 else "+"
    return f"{sign}{show_difference(parameter, abs(difference), around, choice)}"


def difference_shown(parameter: Parameter, size: float, choice: UnitChoice) -> float:
    """A canonical difference as a number in the keeper's unit, around a usual value: not every scale starts at zero.

    >>> round(difference_shown(Parameter.TEMPERATURE, 1.0, {Parameter.TEMPERATURE: "°F"}), 6)
    1.8
    """
    unit, around = unit_of(parameter, choice), FACTS[parameter].likely.middle
    return unit.from_canonical(around + size) - unit.from_canonical(around)


Refusal = TypeVar("Refusal", bound=SaltTideError)
_CANONICAL = {"meq/L": Parameter.ALKALINITY, "ppt": Parameter.SALINITY, "°C": Parameter.TEMPERATURE}
_DIFFERENCES = ("a day", "rise", "drop", "limit", "scatter", "gap")


def in_keepers_units(error: Refusal, choice: UnitChoice) -> Refusal | DomainError:
    """A refusal in the keeper's units; what an instrument itself shows stays on its scale.

    >>> limit = DomainError("target alkalinity", 6.0, "meq/L", 1.5, 5.0)
    >>> in_keepers_units(limit, {Parameter.ALKALINITY: "dKH"}).message
    'target alkalinity of 16.8 dKH is not possible here: 4.3 to 14 dKH is accepted'
    """
    if not isinstance(error, DomainError):
        return error
    per_day = error.unit.endswith(" a day")
    parameter = _CANONICAL.get(error.unit.removesuffix(" a day")) or _named(error)
    if parameter is None or "reading" in error.name:
        return error
    unit = unit_of(parameter, choice)
    difference = per_day or any(word in error.name for word in _DIFFERENCES)

    def in_unit(value: float) -> float:
        if not isfinite(value):
            return value
        return difference_shown(parameter, value, choice) if difference else unit.from_canonical(value)

    try:
        ends = sorted((in_unit(error.low), in_unit(error.high)))
    except (SaltTideError, ArithmeticError, ValueError):
        return error
    try:
        value = in_unit(error.value)
    except (SaltTideError, ArithmeticError, ValueError):
        value = inf if error.value > error.high else -inf  # beyond the keeper's scale
    label = f"{unit.label} a day" if per_day else unit.label
    found = DomainError(error.name, value, label, ends[0], ends[1], field=error.field, decimals=unit.decimals)
    if not isfinite(value):
        found.message = f"{error.name} is too {'high' if value > 0 else 'low'}: {found.accepted} is accepted"
    return found


def _named(error: DomainError) -> Parameter | None:
    """The parameter that a refusal in mg/L is about, by its name."""
    if error.unit != "mg/L":
        return None
    return next((p for p in Parameter if unit_of(p, {}).label == "mg/L" and spoken(p) in error.name), None)


def difference_canonical(parameter: Parameter, shown: float, choice: UnitChoice) -> float:
    """A difference typed in the keeper's unit, canonical.

    >>> round(difference_canonical(Parameter.ALKALINITY, 1.0, {}), 4)
    0.3567
    """
    unit, around = unit_of(parameter, choice), FACTS[parameter].likely.middle
    return unit.to_canonical(unit.from_canonical(around) + shown) - around
