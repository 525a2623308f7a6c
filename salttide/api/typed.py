"""Numbers of a request as they are typed: in this keeper's writing, and with a unit of their own where the field's name
says what it is in."""

from collections.abc import Mapping

from salttide.core.basics.errors import NumberError
from salttide.core.basics.locale import writing
from salttide.core.basics.number_text import parse_number, rounded_to
from salttide.core.basics.quantities import Habits, Kind, from_canonical, parse_quantity
from salttide.core.science.units import UNITS, named_level, parse_measurement, unit_named

UNITS_OF: Mapping[str, tuple[Kind, str] | None] = {
    # What is counted on something else has no unit that could be exchanged by itself.
    "_g_l": None, "_meq_l": None, "_g_ml": None, "_g_kg": None, "price_kg": None,
    "_ml_min": (Kind.FLOW, "mL/min"), "_l_h": (Kind.FLOW, "L/h"),
    "_cm": (Kind.LENGTH, "cm"), "_mm": (Kind.LENGTH, "mm"), "_m": (Kind.LENGTH, "m"),
    "_ml": (Kind.VOLUME, "mL"), "_l": (Kind.VOLUME, "L"),
    "_kg": (Kind.MASS, "kg"), "_g": (Kind.MASS, "g"),
    "_min": (Kind.TIME, "min"), "_h": (Kind.TIME, "h"),
    "_c": (Kind.TEMPERATURE, "°C"),
}  # fmt: skip
"""What a field is in, by the end of its name; the first that fits."""


DIGITS = 12
"""Significant digits of what was typed in another unit: without the noise of the conversion."""


def unit_of_field(field: str) -> tuple[Kind, str] | None:
    """The kind and the unit of a field; None where it has none that could be exchanged.

    >>> unit_of_field("depth_cm"), unit_of_field("strength_g_l")
    ((<Kind.LENGTH: 'length'>, 'cm'), None)
    """
    return next((unit for end, unit in UNITS_OF.items() if field.endswith(end)), None)


def number_typed(text: str, field: str) -> float:
    """The number that was typed into a field, in the field's unit. Raises NumberError, UnitError or AmbiguousError.

    >>> number_typed("47 in", "length_cm"), number_typed("12 %", "change_percent"), number_typed("9,5", "bow_cm")
    (119.38, 12.0, 9.5)
    >>> round(number_typed("2.9 meq/L", "alkalinity"), 3), number_typed("1.0264 SG 25/25", "water_salinity") > 34
    (8.131, True)
    """
    sign = writing().sign
    plain = text.strip().removesuffix("%") if "percent" in field else text
    unit, level = unit_of_field(field), named_level(field)
    try:
        return parse_number(plain, sign)
    except NumberError:
        if (unit is None and level is None) or not any(letter.isdigit() for letter in text):
            raise
    if unit is None:
        assert level
        own = unit_named(level, writing().units.get(level, UNITS[level][0].key))
        return rounded_to(own.from_canonical(parse_measurement(level, text, own.key, sign)), DIGITS)
    kind, key = unit
    found = parse_quantity(text, kind, Habits(sign, writing().gallon), key)
    return rounded_to(from_canonical(found.value, kind, key), DIGITS)
