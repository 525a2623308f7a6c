"""The parameters of a system's water: names, order of testing, what is possible and what is likely."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Parameter(StrEnum):
    """A measured property of the water. Declared in the order of testing: salinity before the ions."""

    TEMPERATURE = "temperature"
    SALINITY = "salinity"
    ALKALINITY = "alkalinity"
    CALCIUM = "calcium"
    MAGNESIUM = "magnesium"
    NITRATE = "nitrate"
    PHOSPHATE = "phosphate"
    PH = "ph"
    AMMONIA = "ammonia"
    NITRITE = "nitrite"
    POTASSIUM = "potassium"
    STRONTIUM = "strontium"
    SODIUM = "sodium"
    CHLORIDE = "chloride"
    SULFATE = "sulfate"
    BORON = "boron"
    IODINE = "iodine"
    SILICATE = "silicate"
    ORP = "orp"
    TDS = "tds"


class Tested(StrEnum):
    """When a parameter is tested at home: always, only while cycling, or by a laboratory or a probe."""

    ALWAYS = "always"
    BREAKING_IN = "breaking_in"
    ELSEWHERE = "elsewhere"


@dataclass(frozen=True)
class Span:
    """A closed interval low..high in canonical units.

    >>> Span(7.5, 9.5).middle
    8.5
    """

    low: float
    high: float

    @property
    def middle(self) -> float:
        """Half-way between the ends."""
        return (self.low + self.high) / 2

    @property
    def width(self) -> float:
        """high - low."""
        return self.high - self.low

    @property
    def half(self) -> float:
        """Half its width: give and take around the middle."""
        return self.width / 2

    def holds(self, value: float) -> bool:
        """Whether low <= value <= high."""
        return self.low <= value <= self.high

    def nearest(self, value: float) -> float:
        """The value of the interval that is nearest to `value`."""
        return min(max(value, self.low), self.high)


@dataclass(frozen=True)
class Facts:
    """What is always true of a parameter, in canonical units.

    possible: outside it the entry is refused. likely: outside it the entry is questioned.
    sd: scatter of a common hobby instrument (one standard deviation), used where an instrument names none.
    """

    name: str
    possible: Span
    likely: Span
    sd: float
    dissolved: bool = True
    tested: Tested = Tested.ALWAYS

    @property
    def routine(self) -> bool:
        """Whether it is tested at home in a running system."""
        return self.tested == Tested.ALWAYS


def _elsewhere(name: str, possible: Span, likely: Span, sd: float) -> Facts:
    return Facts(name, possible, likely, sd, tested=Tested.ELSEWHERE)


FACTS: dict[Parameter, Facts] = {
    Parameter.TEMPERATURE: Facts("Temperature", Span(0, 45), Span(18, 32), 0.1, dissolved=False),
    Parameter.SALINITY: Facts("Salinity", Span(0, 45), Span(25, 40), 0.3),
    Parameter.ALKALINITY: Facts("Alkalinity", Span(0, 10), Span(1.4, 5.0), 0.05),
    Parameter.CALCIUM: Facts("Calcium", Span(0, 1000), Span(300, 550), 8),
    Parameter.MAGNESIUM: Facts("Magnesium", Span(0, 2500), Span(1000, 1600), 20),
    Parameter.NITRATE: Facts("Nitrate", Span(0, 500), Span(0, 80), 1.0),
    Parameter.PHOSPHATE: Facts("Phosphate", Span(0, 20), Span(0, 1), 0.01),
    Parameter.PH: Facts("pH", Span(5, 10.5), Span(7.5, 8.7), 0.03, dissolved=False),
    Parameter.AMMONIA: Facts("Ammonia", Span(0, 20), Span(0, 5), 0.1, tested=Tested.BREAKING_IN),
    Parameter.NITRITE: Facts("Nitrite", Span(0, 100), Span(0, 20), 0.1, tested=Tested.BREAKING_IN),
    Parameter.POTASSIUM: _elsewhere("Potassium", Span(0, 1000), Span(300, 500), 8),
    Parameter.STRONTIUM: _elsewhere("Strontium", Span(0, 50), Span(4, 15), 0.5),
    Parameter.SODIUM: _elsewhere("Sodium", Span(0, 16_000), Span(9_000, 12_500), 200),
    Parameter.CHLORIDE: _elsewhere("Chloride", Span(0, 28_000), Span(17_000, 22_000), 300),
    Parameter.SULFATE: _elsewhere("Sulfate", Span(0, 6_000), Span(2_000, 3_500), 60),
    Parameter.BORON: _elsewhere("Boron", Span(0, 30), Span(2, 8), 0.3),
    Parameter.IODINE: _elsewhere("Iodine", Span(0, 2), Span(0, 0.12), 0.01),
    Parameter.SILICATE: _elsewhere("Silicate", Span(0, 20), Span(0, 2), 0.05),
    Parameter.ORP: Facts("ORP", Span(-500, 1000), Span(150, 480), 10, dissolved=False, tested=Tested.ELSEWHERE),
    Parameter.TDS: _elsewhere("TDS", Span(0, 60_000), Span(0, 500), 2),
}
FRESH_WATER = {parameter: 0.0 for parameter, facts in FACTS.items() if facts.dissolved}
"""What fresh water holds: nothing of anything dissolved."""


def spoken(parameter: Parameter) -> str:
    """A parameter's name inside a sentence: "salinity", but "pH".

    >>> spoken(Parameter.PH), spoken(Parameter.SALINITY)
    ('pH', 'salinity')
    """
    name = FACTS[parameter].name
    return name if parameter in (Parameter.PH, Parameter.ORP, Parameter.TDS) else name.lower()
