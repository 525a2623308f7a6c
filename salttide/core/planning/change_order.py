"""The work orders of a plan: each step frozen for the tank, with levels to drain to and gear to switch off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..basics.measures import litres_words
from ..basics.working import Result
from ..estimate.supplementation import L_DAY_PER_ML_MIN
from ..science.amount import mass_text
from ..science.dilution import after_continuous_change
from ..science.parameters import Parameter
from ..science.units import UnitChoice
from ..system import catalogue
from ..system.livestock import air_bound
from ..system.plumbing import Plumbing
from ..system.system import System
from ..upkeep.due import Rule, minutes_of
from ..upkeep.rota import WATER_CHANGE
from ..upkeep.task import tasks
from .change import ChangePlan
from .change_request import ChangeRequest, Purpose
from .change_step import ChangeStepKind, PlanStep
from .new_water import FREE_OF_NUTRIENTS
from .plumbing import Drain, tank_side
from .work_order import DOSE_MINUTES, ChangeWorkOrder, PlannedWork, Water

BATCH_C, MIN_BATCH_C = 25.0, 22.0
"""Placeholder temperatures of a dose without a batch: nothing is poured, so nothing is compared with them."""


@dataclass(frozen=True)
class TankWork:
    """How a change is done at the tank: the system's plumbing, how it is drained, and whether the sand is siphoned."""

    plumbing: Plumbing
    drain: Drain
    siphon: bool


def work_of_plan(
    system: System,
    request: ChangeRequest,
    plan: ChangePlan,
    work: TankWork,
    rules: Sequence[Rule],
    units: UnitChoice,
) -> list[PlannedWork]:
    """The steps of a plan as work for the rota. Sand is siphoned and water kept back once, with the first."""
    later, found = TankWork(work.plumbing, replace(work.drain, keep_l=0.0), False), []
    for number, step in enumerate(plan.steps):
        order = _work_order(system, request, plan, step, later if number else work, units)
        found.append(PlannedWork(step.day, step.kind, _name(step), _minutes(step, rules), order))
    return found


def _work_order(
    system: System, request: ChangeRequest, plan: ChangePlan, step: PlanStep, work: TankWork, units: UnitChoice
) -> ChangeWorkOrder:
    there, mixed = request.water, request.water is None
    kinds = catalogue.gear_kinds()
    gear = sorted((kinds[key] for key in system.gear), key=lambda kind: kind.order)
    air_min, air_for = air_bound(system.animals)
    order = ChangeWorkOrder(
        system_id=system.id,
        volume_l=system.volume_l,
        litres=step.volume_l,
        buckets=step.buckets,
        bucket_l=system.bucket_l,
        mark_cm=0.0,
        temperature_c=step.temperature_c or BATCH_C,
        least_temperature_c=step.least_temperature_c or MIN_BATCH_C,
        salt=request.salt if mixed else None,
        mass_g=step.batch.mass_g if step.batch else 0.0,
        source=request.source,
        batch_dose_g=step.batch_dose_g,
        system_dose_g=step.system_dose_g,
        before=step.before,
        incoming=_incoming(step, mixed),
        limits=system.limits,
        gear={kind.key: kind.name for kind in gear},
        siphon=work.siphon,
        close=plan.close_match,
        units=units,
        water=there.kind if there else Water.MIX,
        water_name=there.name if there else "",
        batch_id=there.batch_id if there else 0,
        source_id=there.source_id if there else 0,
        near_total=request.purpose == Purpose.NEAR_TOTAL,
        air_min=air_min,
        air_for=air_for,
        tool=tasks()["scrape_front"].tool(system.panel),
    )
    return at_the_tank(system, work, order)


def _incoming(step: PlanStep, mixed: bool) -> dict[Parameter, float]:
    """What the new water is planned to hold; a mix brings no nutrients."""
    incoming = {p: span.middle for p, span in step.incoming.items()}
    if step.batch:
        incoming = {p: span.middle for p, span in step.batch.holds.items()} | incoming
        incoming[Parameter.SALINITY] = step.batch.salinity
    if step.batch_alkalinity_meq_l is not None:
        incoming[Parameter.ALKALINITY] = step.batch_alkalinity_meq_l
    return FREE_OF_NUTRIENTS | incoming if mixed and step.batch else incoming


def at_the_tank(system: System, work: TankWork, order: ChangeWorkOrder) -> ChangeWorkOrder:
    """A change with its mark, its zones and the minutes that draining and filling take, by a system's plumbing."""
    if not order.litres:
        return order
    side = tank_side(system, work.plumbing, order.litres, work.drain)
    return replace(
        order,
        mark_cm=float(side.mark),
        litres_per_cm=side.litres_per_cm,
        rough_mark=side.rough,
        straight=work.drain.straight,
        sump_falls=work.drain.sump_falls,
        keep_l=work.drain.keep_l,
        zones=side.zones,
        heater_w=work.plumbing.heater_w,
        drain_min=float(side.minutes or 0.0),
        fill_min=float(side.fill or 0.0),
    )


def _name(step: PlanStep) -> str:
    if step.kind == ChangeStepKind.CHANGE:
        return f"Change {litres_words(step.volume_l)}"
    return f"Dose {mass_text(step.system_dose_g)}"


def _minutes(step: PlanStep, rules: Sequence[Rule]) -> float:
    return DOSE_MINUTES if step.kind == ChangeStepKind.DOSE else minutes_of(rules, WATER_CHANGE)


@dataclass(frozen=True)
class SlowExchange:
    """A plan's water exchanged by a pair of pumps instead: the rate of each, and the percentage of old water left."""

    l_day: float
    left: Result

    @property
    def l_h(self) -> float:
        """Litres an hour."""
        return self.l_day / 24

    @property
    def ml_min(self) -> float:
        """Millilitres a minute."""
        return self.l_day / L_DAY_PER_ML_MIN


def slow_exchange(system: System, plan: ChangePlan, days: int) -> SlowExchange | None:
    """The water of a plan exchanged over some days (1 or more); None for a plan without changes."""
    litres = sum(step.volume_l for step in plan.steps)
    if not litres:
        return None
    return SlowExchange(litres / days, after_continuous_change(100.0, 0.0, litres, system.volume_l))
