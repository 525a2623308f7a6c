"""How this keeper's numbers, dates and times are written. A context variable set once per request, since every text the
core writes needs it: passing it through each function would add nothing.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from enum import StrEnum


class DecimalSign(StrEnum):
    """How this keeper writes the decimal sign."""

    POINT = "."
    COMMA = ","

    @property
    def other(self) -> DecimalSign:
        """The sign this keeper does not use for decimals, but may use between thousands."""
        return DecimalSign.COMMA if self == DecimalSign.POINT else DecimalSign.POINT


class DayOrder(StrEnum):
    """How this keeper writes dates: 24 Nov, Nov 24, or 2026-11-24."""

    DAY_FIRST = "day_first"
    MONTH_FIRST = "month_first"
    ISO = "iso"


class ClockHours(StrEnum):
    """How this keeper writes times: 17:40 or 5:40 pm."""

    FULL = "24"
    HALF = "12"


class Gallon(StrEnum):
    """Which gallon, quart, pint and fluid ounce this keeper uses."""

    US = "us"
    IMPERIAL = "imperial"


class VolumeUnit(StrEnum):
    """What this keeper reads water in."""

    LITRE = "L"
    US_GALLON = "US gal"
    IMPERIAL_GALLON = "imp gal"

    @property
    def gallon(self) -> Gallon | None:
        """Which gallon that is; None for litres."""
        return {"US gal": Gallon.US, "imp gal": Gallon.IMPERIAL}.get(self.value)


class LengthUnit(StrEnum):
    """What this keeper measures a tank with."""

    CENTIMETRE = "cm"
    INCH = "in"


class MassUnit(StrEnum):
    """What this keeper's scale shows: grams and kilograms, or ounces and pounds."""

    GRAM = "g"
    OUNCE = "oz"


class FirstDay(StrEnum):
    """Where this keeper's week begins."""

    MONDAY = "monday"
    SUNDAY = "sunday"
    SATURDAY = "saturday"


@dataclass(frozen=True)
class Writing:
    """Decimal sign, order of dates, hours of the clock, the least mass (g) that this keeper's scale can weigh, which
    gallon a bare "gal" is (None: ask), what volumes, lengths and masses are read in, where a week begins, and the unit
    of each parameter of the water by its name, where it is another than the usual one."""

    sign: DecimalSign = DecimalSign.POINT
    days: DayOrder = DayOrder.DAY_FIRST
    clock: ClockHours = ClockHours.FULL
    scale_g: float = 0.05
    gallon: Gallon | None = None
    volume: VolumeUnit = VolumeUnit.LITRE
    length: LengthUnit = LengthUnit.CENTIMETRE
    mass: MassUnit = MassUnit.GRAM
    week: FirstDay = FirstDay.MONDAY
    units: Mapping[str, str] = field(default_factory=dict, hash=False)

    @property
    def fahrenheit(self) -> bool:
        """Whether temperatures, and differences of them, are in °F."""
        return self.units.get("temperature") == "°F"


USUAL = Writing()
"""The writing of a keeper who has chosen nothing."""
_CURRENT: ContextVar[Writing] = ContextVar("writing", default=USUAL)


def writing() -> Writing:
    """The writing in force."""
    return _CURRENT.get()


def write_as(how: Writing) -> None:
    """Write texts like this from now on, in this context only (a request, a command)."""
    _CURRENT.set(how)


@contextmanager
def written_as(how: Writing) -> Iterator[None]:
    """Write texts like this within a block.

    >>> with written_as(Writing(DecimalSign.COMMA)):
    ...     signed("2.5")
    '2,5'
    """
    before = _CURRENT.set(how)
    try:
        yield
    finally:
        _CURRENT.reset(before)


def signed(text: str, sign: DecimalSign | None = None) -> str:
    """A formatted number with this keeper's decimal sign, or a given one."""
    return text.replace(".", DecimalSign(sign or writing().sign).value)
