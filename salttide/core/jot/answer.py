"""What a jot line is read with, and its answer."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..basics.measures import litres_words
from ..basics.number_text import show_number, significant
from ..basics.phrasing import either
from ..basics.quantities import PLAIN_HABITS, Habits, Kind
from ..basics.working import Working
from ..science.additives import AlkalinitySource
from ..science.mix import SaltMix
from ..science.parameters import Parameter
from ..science.units import UNITS, Unit, UnitChoice, to_canonical, unit_of
from ..system.system import System
from .reader import JotError, Reader, spelled

PARAMETER_WORDS: dict[str, Parameter] = {
    **{parameter.value: parameter for parameter in Parameter},
    "alk": Parameter.ALKALINITY, "kh": Parameter.ALKALINITY, "ca": Parameter.CALCIUM, "mg": Parameter.MAGNESIUM,
    "no3": Parameter.NITRATE, "po4": Parameter.PHOSPHATE, "nh3": Parameter.AMMONIA, "no2": Parameter.NITRITE,
    "sal": Parameter.SALINITY, "temp": Parameter.TEMPERATURE, "k": Parameter.POTASSIUM, "sr": Parameter.STRONTIUM,
    "so4": Parameter.SULFATE, "si": Parameter.SILICATE,
}  # fmt: skip


ADDITIVE_WORDS: dict[str, str] = {
    "soda": "Na2CO3", "soda ash": "Na2CO3", "bicarbonate": "NaHCO3", "bicarb": "NaHCO3", "lime": "Ca(OH)2",
    "kalk": "Ca(OH)2", "kalkwasser": "Ca(OH)2", "calcium": "CaCl2·2H2O", "magnesium": "MgCl2·6H2O", "mag": "MgCl2·6H2O",
    "magnesium sulfate": "MgSO4·7H2O", "magnesium chloride": "MgCl2·6H2O", "strontium": "SrCl2·6H2O",
    "potassium": "KCl", "nitrate": "KNO3", "phosphate": "KH2PO4",
}  # fmt: skip
"""What keepers call an additive, by its formula."""


@dataclass(frozen=True)
class JotContext:
    """The keeper's systems, salts and way of writing; `water` is each system's present water by its id, `source` what
    alkalinity is raised with."""

    habits: Habits = PLAIN_HABITS
    units: UnitChoice = field(default_factory=dict)
    systems: tuple[System, ...] = ()
    salts: tuple[SaltMix, ...] = ()
    water: Mapping[int, Mapping[Parameter, float]] = field(default_factory=dict)
    current: System | None = None
    source: AlkalinitySource = AlkalinitySource.SODA_ASH

    def number(self, value: float, decimals: int) -> str:
        """A number with fixed digits as this keeper reads it."""
        return show_number(value, decimals, self.habits.sign)

    def digits(self, value: float, count: int) -> str:
        """A number with so many significant digits."""
        return significant(value, count, self.habits.sign)


@dataclass(frozen=True)
class Answer:
    """The answer to a sum. `understood`: how it was read; `cautions`: keys of the cautions file."""

    understood: str
    value: float
    unit: str
    text: str
    notes: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    working: Working = ()


def system_named(reader: Reader, context: JotContext) -> System | None:
    """The system that the next words name, by its name or the first word of it."""
    names = spelled((system.name, system) for system in context.systems)
    listed = either([system.name for system in context.systems])
    return reader.choose(names, f"a system ({listed})" if listed else "a system")


def volume_in(reader: Reader, context: JotContext) -> tuple[float, System | None]:
    """The water that "in" names, a system or a volume; by default the system on the screen. In L."""
    if not reader.take("in", "of", "for"):
        if context.current is None:
            reader.fail()
        return context.current.volume_l, context.current
    system = system_named(reader, context)
    if system:
        return system.volume_l, system
    volume = reader.quantity(Kind.VOLUME)
    if volume is None:
        reader.fail()
    return volume, None


def volume_units(reader: Reader, context: JotContext) -> list[str]:
    """The unit that an answer is wanted in; both gallons where the keeper has not said which."""
    if context.habits.gallon is None and reader.may("gal", "gallon", "gallons"):
        return ["US gal", "imp gal"]
    found = reader.ordinary_unit(Kind.VOLUME)
    return [found[1]] if found else reader.fail()


def measured(reader: Reader, context: JotContext, parameter: Parameter) -> tuple[float, Unit]:
    """The next number as a level of a parameter, canonical, in the unit typed or the keeper's; and that unit."""
    start = reader.at
    value = reader.number(f"a number of {parameter.value}")
    if value is None:
        reader.fail()
    typed = reader.unit_of(parameter) if UNITS[parameter][0].label else None
    unit = typed or unit_of(parameter, context.units)
    if parameter == Parameter.SALINITY and typed is None and unit.key == "ppt" and 0.99 < value < 1.05:
        token = reader.tokens[start]
        raise JotError(
            f"is {token.text} a specific gravity? write {token.text} sg, or the salinity in ppt",
            token.start, token.end, f"{token.text} sg",
        )  # fmt: skip
    return reader.placed(lambda: to_canonical(parameter, value, unit), start), unit


def present(context: JotContext, system: System | None, parameter: Parameter) -> float | None:
    """The present level of a parameter in a system, where it is known."""
    return context.water.get(system.id, {}).get(parameter) if system else None


def in_unit(value: float, unit: Unit, context: JotContext, more: int = 0) -> str:
    """A canonical level as text in a unit, with `more` digits beyond an instrument's."""
    return f"{context.number(unit.from_canonical(value), unit.decimals + more)} {unit.label}".rstrip()


def litres(value: float) -> str:
    """Litres as text, with a tenth for small volumes."""
    return litres_words(value, 2 if value < 10 else 1)


def where(volume_l: float, system: System | None, context: JotContext) -> str:
    """The water meant, in words."""
    return f"{system.name} ({litres(volume_l)})" if system else litres(volume_l)
