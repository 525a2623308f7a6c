"""Livestock: the animals of a system, how demanding they are, what they tolerate, and how their number changes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from ..basics.errors import InputError, check_range
from ..basics.phrasing import listed
from ..science.parameters import FACTS, Parameter, Span, spoken
from ..science.units import DKH_PER_MEQ_L

LIMITED = (Parameter.SALINITY, Parameter.ALKALINITY, Parameter.TEMPERATURE)
"""Parameters an animal may have its own daily limit for."""


BORNE = (Parameter.TEMPERATURE, Parameter.SALINITY, Parameter.ALKALINITY, Parameter.NITRATE, Parameter.PHOSPHATE)
"""Parameters an animal may have its own tolerance for."""


class Demand(StrEnum):
    """How demanding an animal is."""

    HARDY = "hardy"
    MODERATE = "moderate"
    DEMANDING = "demanding"


DEMAND_REMARKS: Mapping[Demand, str] = {
    Demand.HARDY: "tolerates the usual swings of a well-kept system",
    Demand.MODERATE: "needs its band; a day outside it does no lasting harm",
    Demand.DEMANDING: "moves no faster than its own limits; they start at half of the usual ones",
}
DEMANDING_LIMITS: Mapping[Parameter, float] = {
    Parameter.SALINITY: 0.5,
    Parameter.ALKALINITY: 0.5 / DKH_PER_MEQ_L,
    Parameter.TEMPERATURE: 0.5,
}
"""Daily limits offered for demanding animals, canonical units (judgement)."""


class StockChange(StrEnum):
    """Why the number of an animal changed."""

    ADDED = "added"
    BORN = "born"
    LOST = "lost"
    GIVEN = "given away"
    COUNTED = "counted"


@dataclass(frozen=True)
class Animal:
    """One kind of animal in a system.

    tolerances: canonical; empty where the system's band applies · limits: most a day · portions: the fewest a day any
    plan may feed · air_min: minutes it tolerates out of the water, None for the default of its demand.
    """

    id: int
    name: str
    demand: Demand = Demand.MODERATE
    count: int = 1
    tolerances: Mapping[Parameter, Span] = field(default_factory=dict)
    limits: Mapping[Parameter, float] = field(default_factory=dict)
    portions: float = 0.0
    air_min: float | None = None


AIR_MIN: Mapping[Demand, float] = {Demand.HARDY: 30.0, Demand.MODERATE: 20.0, Demand.DEMANDING: 10.0}
"""Minutes corals and anemones tolerate damp air at room temperature, by default (judgement)."""


def air_bound(animals: Iterable[Animal]) -> tuple[float, str]:
    """The least minutes that anything living there tolerates in air, and for which animals.

    Stated minutes count; without any, the default of the most demanding animal stands for the corals.

    >>> air_bound([Animal(1, "mushrooms", air_min=40.0), Animal(2, "anemone", air_min=5.0)])
    (5.0, 'anemone')
    >>> air_bound([Animal(1, "mushrooms", Demand.HARDY), Animal(2, "anemone", Demand.DEMANDING)])
    (10.0, 'corals')
    """
    there = [animal for animal in animals if animal.count]
    said = [(animal.air_min, animal.name) for animal in there if animal.air_min is not None]
    if not said:
        return min((AIR_MIN[animal.demand] for animal in there), default=AIR_MIN[Demand.MODERATE]), "corals"
    least = min(minutes for minutes, _ in said)
    return least, listed([name for minutes, name in said if minutes == least])


def check_animal(animal: Animal) -> None:
    """Refuse an impossible animal at its field: name, count 0 to 10000, portions 0 to 50 a day, tolerances, limits."""
    if not animal.name.strip():
        raise InputError("name the animal", field="name", accepted="1 to 60 characters")
    check_range("count", animal.count, "", 0, 10_000, field="count")
    check_range("portions a day", animal.portions, "", 0, 50, field="portions")
    if animal.air_min is not None:
        check_range("minutes in the air", animal.air_min, "min", 0.5, 240, field="air_min")
    for parameter, span in animal.tolerances.items():
        if parameter not in BORNE:
            raise InputError(f"there is no tolerance for {spoken(parameter)} of one animal", field="tolerances")
        facts = FACTS[parameter].possible
        for end in ("low", "high"):
            name, where = f"tolerance of {spoken(parameter)}", f"tolerances.{parameter.value}.{end}"
            check_range(name, getattr(span, end), "", facts.low, facts.high, field=where)
        if span.low >= span.high:
            raise InputError("the lower limit must be below the upper one", field=f"tolerances.{parameter.value}.low")
    for parameter, limit in animal.limits.items():
        if parameter not in LIMITED:
            raise InputError(f"there is no daily limit for {spoken(parameter)} of one animal", field="limits")
        most = {Parameter.SALINITY: 2.0, Parameter.ALKALINITY: 0.72, Parameter.TEMPERATURE: 3.0}[parameter]
        check_range("daily limit", limit, "", 0.02, most, field=f"limits.{parameter.value}")


def turned(count: int, turn: StockChange, number: int) -> int:
    """The count after `number` animals (1 to 10000; for a count 0 to 10000) were added, born, lost, given or counted.

    Raises DomainError where more would be lost than there are.

    >>> turned(6, StockChange.LOST, 1), turned(6, StockChange.COUNTED, 4)
    (5, 4)
    """
    if turn == StockChange.COUNTED:
        return int(check_range("count", number, "", 0, 10_000, field="number"))
    gone = turn in (StockChange.LOST, StockChange.GIVEN)
    check_range("number", number, "", 1, count if gone else 10_000, field="number")
    return count - number if gone else count + number
