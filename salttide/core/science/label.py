"""Salt labels as they are printed: single values, tolerances, ranges, lower bounds, at any stated salinity."""

from __future__ import annotations

import re

from ..basics.errors import InputError
from ..basics.number_text import DecimalSign, parse_number
from .parameters import Parameter, Span
from .salts import label_range
from .seawater import salinity_from_specific_gravity
from .units import UNITS, Unit

PRINTED: tuple[Parameter, ...] = (
    Parameter.ALKALINITY,
    Parameter.CALCIUM,
    Parameter.MAGNESIUM,
    Parameter.POTASSIUM,
    Parameter.STRONTIUM,
)
"""What labels print."""
_AT_LEAST = re.compile(r"(?:at least|min(?:imum)?\.?|from|≥|>=?)\s*(.+)", re.IGNORECASE)
_TOLERANCE = re.compile(r"(.+?)\s*(?:±|\+/[-−]|\+[-−])\s*(.+)")
_RANGE = re.compile(r"(.+?)\s*(?:–|—|\bto\b|(?<=\d)\s*-\s*(?=\d)|\.\.)\s*(.+)")
ACCEPTED = "such as 8.3, 2.95 ± 0.15 meq/L, 405–425 or at least 360"


def read_label(
    parameter: Parameter, text: str, unit: Unit, printed_at: float = 35.0, sign: DecimalSign = DecimalSign.POINT
) -> Span:
    """What a printed value says of a batch at 35 ppt, canonical; a lower bound has no upper end.

    `unit` is taken where none is printed; `printed_at` is the salinity (25 to 42) that the label states. Raises
    NumberError, UnitError or InputError with the forms that are read.

    >>> from .units import unit_named
    >>> unit = unit_named(Parameter.ALKALINITY, "dKH")
    >>> [round(end, 2) for end in vars(read_label(Parameter.ALKALINITY, "2.95 ± 0.15 meq/L", unit)).values()]
    [2.8, 3.1]
    >>> read_label(Parameter.CALCIUM, "at least 360", unit_named(Parameter.CALCIUM, "mg/L")).high
    inf
    """
    bare, found = _without_unit(parameter, text.strip(), unit)
    if match := _AT_LEAST.fullmatch(bare):
        return label_range(found.to_canonical(parse_number(match[1], sign)), stated_salinity=printed_at)
    if match := _TOLERANCE.fullmatch(bare):
        value, tolerance = (found.to_canonical(parse_number(part, sign)) for part in match.groups())
        if tolerance > value:
            raise InputError("the tolerance is larger than the value", accepted=ACCEPTED)
        return label_range(value - tolerance, value + tolerance, printed_at)
    if match := _RANGE.fullmatch(bare):
        low, high = (found.to_canonical(parse_number(part, sign)) for part in match.groups())
        if low > high:
            raise InputError("the lower value comes first", accepted=ACCEPTED)
        return label_range(low, high, printed_at)
    value = found.to_canonical(parse_number(bare, sign))
    return label_range(value, value, printed_at)


def with_unit(parameter: Parameter, text: str, unit: Unit) -> str:
    """A printed value with its unit: that behind it, or the one it was taken in. So it reads the same later, whatever
    unit the keeper then uses.

    >>> from .units import unit_named
    >>> dkh = unit_named(Parameter.ALKALINITY, "dKH")
    >>> with_unit(Parameter.ALKALINITY, "9.6–10.4", dkh), with_unit(Parameter.ALKALINITY, "2.95 ± 0.15 meq/L", dkh)
    ('9.6–10.4 dKH', '2.95 ± 0.15 meq/L')
    """
    bare, found = _without_unit(parameter, text.strip(), unit)
    return f"{bare} {found.label}" if bare == text.strip() else text.strip()


def _without_unit(parameter: Parameter, text: str, unit: Unit) -> tuple[str, Unit]:
    """The numbers, and the unit that is printed behind them or the one to be taken."""
    spellings = {spelling: known for known in UNITS[parameter] for spelling in known.spellings}
    for spelling in sorted(spellings, key=len, reverse=True):
        bare = text[: len(text) - len(spelling)]
        if text.lower().endswith(spelling) and not bare[-1:].isalpha():
            return bare.strip(), spellings[spelling]
    return text, unit


def read_printed_at(text: str, sign: DecimalSign = DecimalSign.POINT) -> float:
    """The salinity a label is stated at: ppt, or a specific gravity (25/25 °C) such as 1.0264. 25 to 42 ppt.

    >>> read_printed_at("35"), round(read_printed_at("1.0264"), 1)
    (35.0, 35.0)
    """
    bare = re.sub(r"(?i)\b(sg|ppt|psu)\b|‰", "", text).strip()
    value = parse_number(bare or "35", sign)
    salinity = float(salinity_from_specific_gravity(value)) if 1.0 < value < 1.1 else value
    if not 25 <= salinity <= 42:
        raise InputError(
            "a label is stated at 25 to 42 ppt, or a specific gravity of 1.019 to 1.032", accepted="35 ppt"
        )
    return salinity
