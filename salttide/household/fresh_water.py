"""Fresh water of the household: the unit by its readings, and what all systems need of it in the days ahead."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from salttide.core.basics.phrases import phrase
from salttide.core.estimate.evaporation import evaporated
from salttide.core.planning.fresh_water import CHANGED, RoUnit, UnitState, readings_of, unit_state
from salttide.core.planning.fresh_water_need import WaterNeed, less_ready, needed_a_day, weekly_l
from salttide.core.planning.work_order import ChangeWorkOrder
from salttide.core.system.system import System
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.store import fresh_water as fresh_water_store

from .emergency import means_at_hand
from .household import Household

AHEAD_DAYS = 14


def needs_of(household: Household, days: int = AHEAD_DAYS) -> list[WaterNeed]:
    """The fresh water of all systems in the days ahead: to mix for changes, beside the salt water that stands ready,
    and for reservoirs once a week."""
    changes = [one for needs in household.each(lambda one: _changes(household, one, days)).values() for one in needs]
    top_offs = [one for needs in household.each(lambda one: _top_offs(household, one, days)).values() for one in needs]
    found = [*less_ready(changes, means_at_hand(household).ready_l), *top_offs]
    return sorted(found, key=lambda one: (one.day, one.what))


def _changes(household: Household, system: System, days: int) -> list[WaterNeed]:
    if system.methods.natural_seawater:
        return []
    until = household.today + timedelta(days=days)
    orders = {step.step_id: work for step, work in household.open_steps(system.id)}
    found = []
    for item in household.work(system, until):
        if item.task == WATER_CHANGE and household.today <= item.day <= until:
            order = orders.get(item.step_id or 0)
            litres = order.litres if isinstance(order, ChangeWorkOrder) else system.change_l
            found.append(WaterNeed(item.day, litres, phrase("fresh_water.change", system=system.name)))
    return found


def _top_offs(household: Household, system: System, days: int) -> list[WaterNeed]:
    a_week = weekly_l(evaporated(household.ledger(system), household.now))
    what = phrase("fresh_water.top_off", system=system.name)
    weeks = range(max(1, days // 7))
    return [WaterNeed(household.today + timedelta(days=7 * week + 1), a_week, what) for week in weeks]


def state_of(household: Household, unit: RoUnit, needs: Sequence[WaterNeed], days: int = AHEAD_DAYS) -> UnitState:
    """The unit by its readings and by what is coming."""
    care = [entry for system in household.systems for entry in household.ledger(system).care]
    care.sort(key=lambda entry: entry.at)
    changed: dict[str, date] = {}
    for entry in care:
        if entry.task in CHANGED.values() and not entry.skipped:
            changed[entry.task] = household.day_of(entry.at)
    readings = readings_of(care, household.keeper.zone)
    return unit_state(unit, readings, changed, household.today, needed_a_day(needs, days))


def unit_of(household: Household) -> RoUnit:
    """The unit as it was entered."""
    return fresh_water_store.ro_unit(household.stored.reading())
