"""Litres, centimetres and grams as this keeper reads them: metric, or gallons, inches, ounces and pounds."""

from __future__ import annotations

from dataclasses import dataclass

from .locale import LengthUnit, MassUnit, VolumeUnit, signed, writing

OUNCE_G, POUND_G, INCH_CM = 28.349523125, 453.59237, 2.54
GALLON_L = {VolumeUnit.US_GALLON: 3.785411784, VolumeUnit.IMPERIAL_GALLON: 4.54609}
"""Exact by definition (NIST SP 811, appendix B; UK Weights and Measures Act 1985)."""


@dataclass(frozen=True)
class Measure:
    """How a quantity that is kept in one unit is read: its unit, how much of the kept one that is, and how many more
    decimals it takes to say as much."""

    unit: str
    per: float
    finer: int = 0


def measure_of(unit: str) -> Measure:
    """How this keeper reads what is kept in L, L/h, cm, mm, m, g or kg; every other unit is read as it is.

    Millilitres stay: syringes and dosing pumps are marked in them everywhere.

    >>> from .locale import Writing, written_as
    >>> with written_as(Writing(volume=VolumeUnit.US_GALLON)):
    ...     measure_of("L"), measure_of("mL")
    (Measure(unit='gal', per=3.785411784, finer=1), Measure(unit='mL', per=1.0, finer=0))
    """
    how = writing()
    if unit in ("L", "L/h", "L a day") and how.volume != VolumeUnit.LITRE:
        return Measure(unit.replace("L", "gal"), GALLON_L[how.volume], 1)
    if unit in _CM and how.length == LengthUnit.INCH:
        return Measure("in", INCH_CM / _CM[unit], 1 if unit == "cm" else 2 if unit == "mm" else 0)
    if unit in _G and how.mass == MassUnit.OUNCE:
        return Measure("oz", OUNCE_G, 1) if unit == "g" else Measure("lb", POUND_G / 1000)
    return Measure(unit, 1.0)


KEPT_IN = ("L", "L/h", "cm", "mm", "m", "g", "kg")
"""Units of fields that may be read in others."""
_CM = {"cm": 1.0, "mm": 0.1, "m": 100.0}
_G = {"g": 1.0, "kg": 1000.0}


def measured(value: float, unit: str, decimals: int) -> tuple[float, int, str]:
    """A value in the unit this keeper reads it in: the number, its decimals, the unit. Less than an ounce is read in
    grams, which is what a scale for powders shows.

    >>> from .locale import Writing, written_as
    >>> with written_as(Writing(mass=MassUnit.OUNCE)):
    ...     measured(20.0, "g", 1), measured(56.69904625, "g", 0), measured(907.18474, "g", 0)
    ((20.0, 1, 'g'), (2.0, 1, 'oz'), (2.0, 2, 'lb'))
    """
    how = measure_of(unit)
    if how.unit == "oz" and value < OUNCE_G:
        return value, decimals, "g"
    if how.unit == "oz" and value >= POUND_G:
        return value / POUND_G, 2, "lb"
    return value / how.per, decimals + how.finer, how.unit


def measure_words(value: float, unit: str, decimals: int) -> str:
    """A value with its unit, as this keeper reads it.

    >>> measure_words(40.0, "L", 1), measure_words(5.94, "cm", 1)
    ('40.0 L', '5.9 cm')
    """
    number, digits, read = measured(value, unit, decimals)
    return f"{signed(f'{round(number, digits) + 0.0:.{digits}f}'.replace('-', '−'))} {read}"


def litres_words(litres: float, decimals: int = 1) -> str:
    """A volume of water.

    >>> from .locale import Writing, written_as
    >>> with written_as(Writing(volume=VolumeUnit.US_GALLON)):
    ...     litres_words(37.85411784)
    '10.00 gal'
    """
    return measure_words(litres, "L", decimals)


def length_words(cm: float, decimals: int = 1) -> str:
    """A length in cm.

    >>> from .locale import Writing, written_as
    >>> with written_as(Writing(length=LengthUnit.INCH)):
    ...     length_words(5.94)
    '2.34 in'
    """
    return measure_words(cm, "cm", decimals)


def grams_words(grams: float, decimals: int = 0) -> str:
    """A mass in grams; in pounds from one on where this keeper weighs in ounces."""
    return measure_words(grams, "g", decimals)


def part_words(part: float, whole: float, unit: str, decimals: int) -> str:
    """A part of a whole, with the unit once.

    >>> part_words(4100.0, 5900.0, "L/h", 0)
    '4100 of 5900 L/h'
    """
    how = measure_of(unit)
    number = signed(f"{part / how.per:.{decimals + how.finer}f}")
    return f"{number} of {signed(f'{whole / how.per:.{decimals + how.finer}f}')} {how.unit}".strip()


def kilograms_words(grams: float, decimals: int = 2) -> str:
    """A mass given in grams, read in kilograms or pounds.

    >>> kilograms_words(1669.5), kilograms_words(19_500.0, 1)
    ('1.67 kg', '19.5 kg')
    """
    return measure_words(grams / 1000, "kg", decimals)


def weight_measured(grams: float) -> tuple[float, int, str]:
    """A mass as it is weighed out, as `measured`: grams, kilograms from one on.

    >>> weight_measured(1670.0), weight_measured(420.0)
    ((1.67, 3, 'kg'), (420.0, 0, 'g'))
    """
    return measured(grams / 1000, "kg", 3) if grams >= 1000 else measured(grams, "g", 0)


def weight_words(grams: float, decimals: int = 2) -> str:
    """A mass as it is weighed out: grams, kilograms from one on.

    >>> weight_words(420.0), weight_words(1669.5)
    ('420 g', '1.67 kg')
    """
    return kilograms_words(grams, decimals) if grams >= 1000 else grams_words(grams)
