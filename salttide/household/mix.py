"""Batches across the household: what new water is wanted, a batch as requested, and what is left of a salt."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from salttide.core.basics.dates import minutes_of_hours
from salttide.core.basics.quantities import scoop_words
from salttide.core.basics.working import Working
from salttide.core.ledger.stock import SaltLeft, salt_a_week_g, salt_left
from salttide.core.planning.batch import BatchWorkOrder
from salttide.core.planning.batch_plan import MATCHED_IONS, Portion, container_for, plan_batch, share_batch
from salttide.core.planning.batch_request import (
    AHEAD_DAYS,
    BatchRequest,
    Matched,
    PortionRequest,
    WantedWater,
    batch_targets,
    batch_temperature,
    check_request,
    wanted_by_routine,
    wanted_by_step,
)
from salttide.core.planning.work_order import ChangeWorkOrder, routine_change
from salttide.core.science.mix import SaltMix
from salttide.core.science.parameters import Parameter
from salttide.core.science.salts import Ranked, rank_salts
from salttide.core.system.system import System
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import shelf

from .household import Household


@dataclass(frozen=True)
class PlannedBatch:
    """A batch as planned, how it is shared, the working of its numbers, and its targets."""

    job: BatchWorkOrder
    portions: tuple[Portion, ...]
    working: Mapping[str, Working]
    targets: Mapping[Parameter, float]


def wanted_water(household: Household) -> list[tuple[date, WantedWater]]:
    """The next change of each system that needs new water, the nearest first."""
    until, found = household.today + timedelta(days=AHEAD_DAYS), []
    for view in household.each(household.outlook).values():
        changes = (item for item in view.occurrences if item.task == WATER_CHANGE and item.day <= until)
        if (item := next(changes, None)) and (wanted := _wanted(household, view.system, item)):
            found.append((item.day, wanted))
    return sorted(found, key=lambda pair: pair[0])


def _wanted(household: Household, system: System, item: Occurrence) -> WantedWater | None:
    if item.step_id:
        return wanted_by_step(system, item.step_id, change_store.step(household.stored.reading(), item.step_id).job)
    return wanted_by_routine(system, household.waters(system).present)


def first_request(household: Household, wanted: list[tuple[date, WantedWater]]) -> BatchRequest:
    """The request offered first: the next change that needs salt, in the container and with the heater used last."""
    chosen = [one for _, one in wanted if one.takes_salt][:1]
    last = next((one.job for one in batch_store.batches(household.stored.reading(), ended=True)), None)
    return BatchRequest(
        salt_id=(household.stored.usual_salt or household.stored.salts[0]).id,
        container_l=container_for(sum(one.litres for one in chosen), last.container_l if last else None),
        portions=[PortionRequest(one.system, one.litres, one.salinity, one.step_id) for one in chosen],
        source=household.keeper.additive,
        match=(Parameter.ALKALINITY,),
        heater_w=last.heater_w if last else 0.0,
    )


def plan_requested(household: Household, request: BatchRequest) -> PlannedBatch:
    """The batch of a request. Raises DomainError, InputError or NotFoundError at its field."""
    connection, keeper = household.stored.reading(), household.keeper
    salinity, portions = share_batch(check_request(request))
    salt, label = shelf.salt_at_hand(connection, request.salt_id), shelf.label(connection, request.salt_id)
    first = request.portions[0].system
    targets = batch_targets(request.match, [_matched(household, one) for one in request.portions])
    job, working = plan_batch(
        salt, sum(portion.batch_l for portion in portions), request.container_l, salinity, targets, request.source,
        batch_temperature(first, household.waters(first).water), keeper.units,
    )  # fmt: skip
    job = replace(
        job,
        heater_w=request.heater_w,
        heated=request.heater_w > 0,
        mixing_min=minutes_of_hours(request.mixing_h),
        by_l=first.bucket_l,
        spoons=scoop_words(job.mass_g, label.bulk_density_g_ml) if label.bulk_density_g_ml else "",
        source_water=first.source_water.value,
    )
    return PlannedBatch(job, portions, dict(working), targets)


def salts_for(household: Household, first: System, salinity: float) -> Sequence[Ranked]:
    """The salts on the shelf, ranked for a system; none where it has no bands that a batch is matched in."""
    bands = {p: span for p, span in first.bands.items() if p in MATCHED_IONS}
    return rank_salts(household.stored.salts, bands, salinity) if bands else ()


def _matched(household: Household, one: PortionRequest) -> Matched:
    step = change_store.step(household.stored.reading(), one.step_id).work if one.step_id else None
    job = step if isinstance(step, ChangeWorkOrder) else None
    return one.system, household.waters(one.system).present, job


def bucket_left(household: Household, salt: SaltMix) -> SaltLeft | None:
    """What is left of the bucket in use of a salt; None where none was opened."""
    opened = shelf.buckets(household.stored.reading(), salt.id)
    if not opened:
        return None
    routine = household.each(lambda system: (routine_change(system, salt, household.now), system.methods))
    changes = [
        (change, methods.change_every_days) for change, methods in routine.values() if not methods.natural_seawater
    ]
    usual = household.stored.usual_salt
    week_g = salt_a_week_g(salt, changes) if usual is not None and salt.id == usual.id else 0.0
    used_g = batch_store.salt_used_g(household.stored.reading(), salt.id, opened[0].opened_on)
    return salt_left(opened[0].mass_g, used_g, week_g, household.today)
