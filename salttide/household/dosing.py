"""The dosing routine of a system: as asked for, as adopted last, and what it does when it is used from now on."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import asdict, dataclass, fields, replace
from datetime import datetime

from salttide.core.basics.errors import check_range
from salttide.core.basics.number_text import fraction
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    DailySupplements,
    Means,
    Need,
    Reactor,
    daily_doses,
    need_of_rates,
    plan_routine,
)
from salttide.core.ledger.plan import DailyDose
from salttide.core.planning.delivery import delivery_of, diagnosis
from salttide.core.planning.pump_setting import settings_for
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import unit_of
from salttide.core.system.shelf import Additive
from salttide.core.system.system import System
from salttide.store import change as change_store
from salttide.store import container as container_store

from .uptake import UptakeContext


@dataclass(frozen=True)
class PartRequest:
    """An additive for alkalinity, and its share of the doses in percent."""

    additive_id: int
    percent: float = 100.0


@dataclass(frozen=True)
class RoutineRequest:
    """How the uptake is to be replaced, canonical: this is what is stored of an adopted routine, so that it stays the
    same in any unit. uptake_meq_l: alkalinity used a day; None for the estimate · by_hand: what no container gives is
    given by hand; None: unless there is a dosing pump."""

    uptake_meq_l: float | None = None
    changes: bool = True
    lime_l: float = 0.0
    reactor: bool = False
    effluent_meq_l: float | None = None
    flow_ml_min: float | None = None
    alkalinity: tuple[PartRequest, ...] = ()
    calcium_id: int | None = None
    magnesium_id: int | None = None
    reservoir_l: float | None = None
    by_hand: bool | None = None


def adopted(uptake: UptakeContext) -> RoutineRequest | None:
    """The routine adopted last; None where none was."""
    stored = container_store.dosing_routine(uptake.household.stored.reading(), uptake.system.id)
    known = {one.name: stored[one.name] for one in fields(RoutineRequest) if one.name in stored}
    if not known:
        return None
    parts = tuple(PartRequest(**part) for part in known.pop("alkalinity", ()))
    return RoutineRequest(**known, alkalinity=parts)


def first_request(uptake: UptakeContext) -> RoutineRequest:
    """The routine adopted last, or else two additives from the shelf, solutions before powders."""
    if stored := adopted(uptake):
        return stored
    if uptake.system.methods.answers.get("replacing") == "changes_alone":
        return RoutineRequest()
    soda = _first(uptake, ALKALINITY)
    return RoutineRequest(alkalinity=(PartRequest(soda),) if soda else (), calcium_id=_first(uptake, CALCIUM))


def _first(uptake: UptakeContext, parameter: Parameter) -> int | None:
    known = [one for one in uptake.household.stored.additives if parameter in one.raises]
    return min(known, key=lambda one: one.strength_g_l is None).id if known else None


def routine_of(uptake: UptakeContext, request: RoutineRequest) -> DailySupplements:
    """The routine that is asked for. Raises InputError at its field."""
    return plan_routine(
        need_of(uptake, request),
        uptake.targets,
        uptake.system.volume_l,
        _means(uptake, request),
        uptake.changes if request.changes else None,
        uptake.evaporation_l,
    )


def need_of(uptake: UptakeContext, request: RoutineRequest) -> Need:
    """The uptake to replace a day: as typed, or as estimated. Raises InputError where neither is known."""
    if request.uptake_meq_l is None and uptake.rates[ALKALINITY] is None:
        unit = unit_of(ALKALINITY, uptake.household.keeper.units).label
        raise refused("dosing.the_uptake_is_not_known_yet", "uptake", takes=phrase("dosing.to_a_day", unit=unit))
    return need_of_rates(uptake.rates, request.uptake_meq_l)


def _means(uptake: UptakeContext, request: RoutineRequest) -> Means:
    check_range("limewater", request.lime_l, phrase("common.l_a_day"), 0, 1000, field="lime_l")
    return Means(
        tuple(_part(uptake, part, f"alkalinity.{place}") for place, part in enumerate(request.alkalinity)),
        _additive(uptake, request.calcium_id, "calcium_id") if request.calcium_id else None,
        _additive(uptake, request.magnesium_id, "magnesium_id") if request.magnesium_id else None,
        request.lime_l,
        uptake.view.water.get(Parameter.TEMPERATURE, 25.0),
        _reactor(request) if request.reactor else None,
    )


def _part(uptake: UptakeContext, part: PartRequest, place: str) -> tuple[Additive, float]:
    share = check_range("share", part.percent, "%", 0, 100, field=f"{place}.percent")
    return _additive(uptake, part.additive_id, f"{place}.additive_id"), fraction(share)


def _additive(uptake: UptakeContext, number: int, field: str) -> Additive:
    found = next((item for item in uptake.household.stored.additives if item.id == number), None)
    if found is None:
        raise refused("common.this_additive_is_not_on_the", field, "common.one_from_the_shelf")
    return found


def _reactor(request: RoutineRequest) -> Reactor:
    if request.effluent_meq_l is None:
        raise refused("dosing.enter_the_effluent_alkalinity", "effluent", "dosing.a_number_such_as")
    if request.flow_ml_min is None:
        raise refused("dosing.enter_the_reactor_flow", "flow_ml_min", "dosing.to_ml_min")
    return Reactor(request.effluent_meq_l, request.flow_ml_min)


def adopt(uptake: UptakeContext, connection: sqlite3.Connection, request: RoutineRequest, key: str) -> None:
    """Dose by a routine from now on: pumps are set, hand doses are planned for every day."""
    household, system_id = uptake.household, uptake.system.id
    daily = daily_doses(routine_of(uptake, request), uptake.system.volume_l)
    rest = set_pumps(connection, system_id, daily, household.now, key)
    doses = as_given(uptake.system, rest, request.by_hand)
    change_store.set_daily(connection, system_id, household.today, doses, key)
    stored = container_store.dosing_routine(connection, system_id)
    container_store.save_dosing_routine(connection, system_id, {**stored, **asdict(request)}, key)


def as_given(system: System, rest: Sequence[DailyDose], hand: bool | None) -> list[DailyDose]:
    """Doses without a container, marked where they are given by hand; hand: as the keeper said, if at all. What has no
    mass of its own, such as a reactor's, gives itself."""
    hand = usually_by_hand(system) if hand is None else hand
    return [replace(dose, by_hand=hand and dose.mass_g > 0) for dose in rest]


def usually_by_hand(system: System) -> bool:
    """Whether doses without a container are given by hand, unless the keeper says otherwise: without a dosing pump."""
    return "dosing_pump" not in system.gear


def set_pumps(
    connection: sqlite3.Connection, system_id: int, daily: Sequence[DailyDose], now: datetime, key: str
) -> list[DailyDose]:
    """Set the containers of a system to its daily doses. Returns what is left to dose by other means."""
    settings, rest = settings_for(container_store.containers(connection, system_id), daily, now)
    for container, event in settings:
        container_store.add_container_events(connection, container.id, [event], key)
    return rest


def pump_remarks(uptake: UptakeContext) -> list[str]:
    """What the containers say of the pumps: growth and a failing pump look alike in tests."""
    household = uptake.household
    held = household.stored.containers(uptake.system.id)
    known = [(one, found) for one in held if one.pump and (found := delivery_of(one, household.now))]
    wrong = [diagnosis(one, held, household.now, household.keeper.zone) for one, found in known if found.fault]
    if wrong:
        return [phrase("dosing.check_the_pumps_what_they_really", title=each.title) for each in wrong if each]
    return [phrase("dosing.the_containers_fall_as_set_so")] if known else []
