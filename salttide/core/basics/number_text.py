"""Numbers as a keeper types and reads them: decimal point or decimal comma."""

from __future__ import annotations

import re
from math import isinf

from .errors import AmbiguousError, NumberError, check_choice
from .locale import DecimalSign as DecimalSign
from .locale import signed

_FRACTION = re.compile(r"(?:(\d+) )?(\d+)/(\d+)")
_PLAIN = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)")
_DOUBTFUL = re.compile(r"[+-]?[1-9]\d{0,2}\.\d{3}")
_GROUPED = re.compile(r"[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d*)?")


def parse_number(text: str, sign: DecimalSign = DecimalSign.POINT) -> float:
    """A number as this keeper writes numbers, and in any other way that can mean one number only.

    The other sign groups thousands where nothing else can be meant ("1,234.5", "1,025,000"), and is a decimal sign
    where it cannot group ("8,2"). Where it can be read two ways ("1,025" of a keeper who writes a decimal point: 1.025
    or 1025) AmbiguousError asks back with both; anything that is not a number raises NumberError. Spaces between
    thousands and fractions ("1 1/2") are accepted.

    >>> parse_number(" 8.2 "), parse_number("8,2"), parse_number("1,234.5"), parse_number("1 1/2")
    (8.2, 8.2, 1234.5, 1.5)
    """
    if not isinstance(text, str):
        raise NumberError(f"Enter a number, not {text!r}", accepted="a number such as 8.2")
    sign = check_choice(DecimalSign, sign, "decimal sign")
    written = " ".join(text.split()).replace("−", "-")
    if (parts := _FRACTION.fullmatch(written)) and int(parts[3]):
        return int(parts[1] or 0) + int(parts[2]) / int(parts[3])
    plain = re.sub(r"(?<=\d) (?=\d{3}(\D|$))", "", written)
    if sign == DecimalSign.COMMA:
        plain = plain.translate(_SWAPPED)
    if _PLAIN.fullmatch(plain):
        return _finite(plain)
    if _DOUBTFUL.fullmatch(plain.replace(",", ".")) and "," in plain:
        raise _doubt(plain, sign)
    if _GROUPED.fullmatch(plain):
        return _finite(plain.replace(",", ""))
    if _PLAIN.fullmatch(plain.replace(",", ".")):
        return _finite(plain.replace(",", "."))
    raise NumberError(f"“{written}” is not a number", accepted=f"a number such as 8{sign.value}2")


def _finite(plain: str) -> float:
    value = float(plain)
    if isinf(value):
        raise NumberError(f"a number of {len(plain)} digits is out of this world", accepted="a number such as 8.2")
    return value


_SWAPPED = {ord(","): ".", ord("."): ","}


def _doubt(plain: str, sign: DecimalSign) -> AmbiguousError:
    """`plain` has the other sign as a comma: "1,025"."""
    decimal, whole = plain.replace(",", sign.value), plain.replace(",", "")
    written = plain.replace(",", sign.other.value)
    return AmbiguousError(f"“{written}” can be read two ways: write {decimal} or {whole}", (decimal, whole))


def show_number(value: float, decimals: int, sign: DecimalSign | None = None) -> str:
    """A number as an instrument shows it: fixed digits, a true minus sign, never "-0"; by default in this keeper's
    writing.

    >>> show_number(-0.04, 1)
    '0.0'
    >>> show_number(-1.25, 2, DecimalSign.COMMA)
    '−1,25'
    """
    text = f"{value:.{decimals}f}"
    if float(text) == 0:
        text = f"{0:.{decimals}f}"
    return signed(text.replace("-", "−"), sign)


def short(value: float) -> str:
    """A number without trailing zeros, in this keeper's writing.

    >>> short(2.50), short(300.0)
    ('2.5', '300')
    """
    return signed(f"{value:g}".replace("-", "−"))


def significant(value: float, digits: int = 5, sign: DecimalSign | None = None) -> str:
    """A number with some significant digits, without an exponent for everyday sizes.

    >>> significant(1669.5049), significant(0.0028), significant(-0.5), significant(1234567.0)
    ('1669.5', '0.0028', '−0.5', '1234567')
    """
    text = f"{value:.{digits}g}"
    if "e" in text and abs(value) >= 1:
        text = f"{value:.0f}"
    return signed(text.replace("-", "−"), sign)


def rounded_to(value: float, digits: int = 5) -> float:
    """A number rounded to some significant digits, for a field: without the noise of a conversion.

    >>> rounded_to(0.30000000000000004), rounded_to(1234.5678)
    (0.3, 1234.6)
    """
    return float(f"{value:.{digits}g}")


def percent(fraction: float) -> float:
    """A share (0..1) in percent to the hundredth, as a keeper would type it.

    >>> percent(0.12), percent(1 / 3)
    (12.0, 33.33)
    """
    return round(fraction * 100, 2)


def fraction(percent_typed: float) -> float:
    """A percentage as a share (0..1).

    >>> fraction(12.0)
    0.12
    """
    return percent_typed / 100
