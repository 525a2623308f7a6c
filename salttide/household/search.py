"""Everything of the household that can be found by its name."""

from __future__ import annotations

from collections.abc import Iterator

from salttide.core.overview.search import Found, Hit
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.system.system import System
from salttide.core.upkeep.task import tasks
from salttide.store import livestock, shelf

from .household import Household


def everything(household: Household, current: int) -> Iterator[Hit]:
    """Systems and what is in them, then the shelf; parameters of the current system, else of the first."""
    stored = household.stored
    for system in household.systems:
        yield Hit(Found.SYSTEM, system.name, system.stock, "", system.id)
    here = next((one for one in household.systems if one.id == current), None) or next(iter(household.systems), None)
    if here is not None:
        for parameter in Parameter:
            if FACTS[parameter].routine:
                yield Hit(Found.PARAMETER, FACTS[parameter].name, here.name, parameter.value, here.id)
    animals = livestock.animals_by_system(stored.reading())
    for system in household.systems:
        yield from _tasks(household, system)
        for animal in animals.get(system.id, ()):
            yield Hit(Found.ANIMAL, animal.name, system.name, str(animal.id), system.id)
    yield from _shelf(household)


def _tasks(household: Household, system: System) -> Iterator[Hit]:
    kinds = [kind for kind in tasks().values() if kind.suits(system)]
    for kind in (*kinds, *household.stored.own_tasks[system.id]):
        yield Hit(Found.TASK, kind.name, system.name, kind.key, system.id, " ".join((kind.short, *kind.aliases)))


def _shelf(household: Household) -> Iterator[Hit]:
    stored = household.stored
    for salt in stored.salts:
        yield Hit(Found.SALT, salt.name, key=str(salt.id))
    for additive in stored.additives:
        yield Hit(Found.ADDITIVE, additive.name, additive.formula, str(additive.id))
    for food in shelf.foods(stored.reading()):
        yield Hit(Found.FOOD, food.name, key=str(food.id))
    for instrument in stored.instruments:
        yield Hit(Found.INSTRUMENT, instrument.name, FACTS[instrument.parameter].name)
