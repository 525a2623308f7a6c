"""Mix: a batch of new water planned while typing, for one system or several, then followed until it is used up."""

import sqlite3
from collections.abc import Sequence
from dataclasses import replace
from datetime import timedelta
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import minutes_of_hours
from salttide.core.basics.errors import check_range
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.quantities import scoop_words
from salttide.core.basics.working import Working
from salttide.core.planning.batch import BatchWorkOrder
from salttide.core.planning.batch_plan import MATCHED_IONS, Portion, container_for, plan_batch, share_batch
from salttide.core.planning.change import aim
from salttide.core.planning.work_order import ChangeWorkOrder, Water
from salttide.core.science.additives import COMPOUNDS, AlkalinitySource
from salttide.core.science.mix import LABEL_SALINITY, SaltMix
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import unit_of
from salttide.core.system.system import System
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import shelf

from .batch import BatchCard, batch_card
from .context import Context, In, Key
from .mix_answer import MixAnswer, mix_answer, stock_words
from .models import Choice, Id, Model, RequestModel, shown
from .refused import refused

router = APIRouter(prefix="/api", tags=["mix"])
AHEAD_DAYS = 14


class PortionBody(RequestModel):
    """What one system takes: litres and salinity in the keeper's unit; step_id where it is planned."""

    system_id: Id
    step_id: Id | None = None
    litres: float
    salinity: str = Field(max_length=20)


class MixBody(RequestModel):
    """A requested batch. match: the parameters that doses bring to the systems' own values."""

    salt_id: Id
    container_l: float
    heater_w: float = 0.0
    mixing_h: float = 2.0
    source: AlkalinitySource
    match: list[Parameter] = Field(default_factory=list, max_length=5)
    portions: list[PortionBody] = Field(max_length=9)


class Wanted(Model):
    """A change that needs new water."""

    system_id: int
    step_id: int | None
    name: str
    when: str
    litres: float
    salinity: str
    salinity_unit: str
    takes_salt: bool


class SaltAtHand(Model):
    """A salt on the shelf, and what is left of its bucket."""

    id: int
    name: str
    remark: str
    left: str


class MixOffer(Model):
    """What can be mixed and for which changes, and the batches at hand."""

    batches: list[BatchCard]
    wanted: list[Wanted]
    salts: list[SaltAtHand]
    sources: list[Choice]
    missing: list[str]
    body: MixBody | None


class MadeBatch(Model):
    """The planned batch: its number, and the command that undoes it."""

    id: int
    command: str
    words: str


@router.get("/mix")
def options(ctx: In) -> MixOffer:
    """What can be mixed now."""
    salts, wanted = ctx.stored.salts, _wanted(ctx)
    missing = [] if salts else [phrase("common.a_salt_on_the_shelf")]
    missing += [] if ctx.stored.systems else [phrase("common.a_system")]
    return MixOffer(
        batches=[batch_card(ctx, one) for one in batch_store.batches(ctx.connection)],
        wanted=wanted,
        salts=[
            SaltAtHand(
                id=s.id, name=s.name, remark=f"{show_number(s.strength_g_l, 1)} g/L", left=stock_words(ctx, s.id)
            )
            for s in salts
        ],
        sources=[Choice(key=key, name=COMPOUNDS[key].name) for key in AlkalinitySource],
        missing=missing,
        body=None if missing else _first(ctx, salts, wanted),
    )


def _first(ctx: Context, salts: Sequence[SaltMix], wanted: list[Wanted]) -> MixBody:
    """The first request: the next change that needs salt, in the container and with the heater used last."""
    usual = ctx.stored.usual_salt.id if ctx.stored.usual_salt else salts[0].id
    chosen = [one for one in wanted if one.takes_salt][:1]
    litres = sum(one.litres for one in chosen)
    last = batch_store.batches(ctx.connection, ended=True)[:1]
    return MixBody(
        salt_id=usual,
        heater_w=last[0].job.heater_w if last else 0.0,
        container_l=_container(ctx, litres),
        source=ctx.keeper.additive,
        match=[Parameter.ALKALINITY],
        portions=[
            PortionBody(system_id=one.system_id, step_id=one.step_id, litres=one.litres, salinity=one.salinity)
            for one in chosen
        ],
    )


def _container(ctx: Context, litres: float) -> float:
    """The container used last, or the next larger of the usual sizes."""
    last = batch_store.batches(ctx.connection, ended=True)
    return container_for(litres, last[0].job.container_l if last else None)


def _wanted(ctx: Context) -> list[Wanted]:
    """Planned changes and routine ones of the next two weeks, the nearest first."""
    found: list[tuple[Any, Wanted]] = []
    until = ctx.today + timedelta(days=AHEAD_DAYS)
    for view in ctx.household.each(ctx.household.outlook).values():
        system = view.system
        for item in view.occurrences:
            if item.task == WATER_CHANGE and item.day <= until:
                wanted = _step_wanted(ctx, system, item.step_id) if item.step_id else _routine_wanted(ctx, system)
                if wanted:
                    found.append((item.day, wanted.model_copy(update={"when": day_words(item.day)})))
                break
    return [wanted for _, wanted in sorted(found, key=lambda pair: pair[0])]


def _step_wanted(ctx: Context, system: System, step_id: int) -> Wanted | None:
    job = change_store.step(ctx.connection, step_id).job
    if job.water in (Water.STORED, Water.SYSTEM) or not job.litres:
        return None
    return _as_wanted(ctx, system, step_id, job.litres, job.incoming[Parameter.SALINITY], job.water == Water.MIX)


def _routine_wanted(ctx: Context, system: System) -> Wanted | None:
    """Routine changes that need new water, at the salinity each would aim at."""
    if system.methods.natural_seawater:
        return None
    present = ctx.household.waters(system).present.get(Parameter.SALINITY)
    target = aim(present, system.bands.get(Parameter.SALINITY)) if present else None
    return _as_wanted(ctx, system, None, system.change_l, target or LABEL_SALINITY, True)


def _as_wanted(
    ctx: Context, system: System, step_id: int | None, litres: float, salinity: float, takes_salt: bool
) -> Wanted:
    unit = unit_of(Parameter.SALINITY, ctx.keeper.units)
    return Wanted(
        system_id=system.id,
        step_id=step_id,
        name=system.name,
        when="",
        litres=round(litres, 1),
        salinity=shown(Parameter.SALINITY, salinity, ctx.keeper.units).text,
        salinity_unit=unit.label,
        takes_salt=takes_salt,
    )


@router.post("/mix/preview")
def preview(body: MixBody, ctx: In) -> MixAnswer:
    """The batch for a request, without effect."""
    job, portions, working, targets = _plan(ctx, body)
    bands = {p: span for p, span in _bands(ctx, body).items() if p in MATCHED_IONS}
    return mix_answer(ctx, job, portions, working, targets, bands)


@router.post("/batches", status_code=201)
def make(body: MixBody, ctx: In, key: Key) -> MadeBatch:
    """Save the planned batch."""
    job, portions, _, _ = _plan(ctx, body)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        batch_id = batch_store.add_batch(connection, job, portions, ctx.now, key)
        return {"command": key, "words": phrase("mix.batch_planned", batch_id=batch_id), "id": batch_id}

    return MadeBatch(**ctx.command(key, act))


def _plan(
    ctx: Context, body: MixBody
) -> tuple[BatchWorkOrder, tuple[Portion, ...], dict[str, Working], dict[Parameter, float]]:
    """The batch, its portions, the working, and its targets."""
    check_range("heater", body.heater_w, "W", 0, 2000, field="heater_w")
    check_range(phrase("mix.mixing_time"), body.mixing_h, "h", 0.1, 48, field="mixing_h")
    if not body.portions:
        raise refused("mix.choose_what_the_batch_is_for", "portions", "mix.one_system_or_more")
    requested = [_portion(ctx, one, number) for number, one in enumerate(body.portions)]
    salinity, portions = share_batch(requested)
    litres = sum(portion.batch_l for portion in portions)
    salt = shelf.salt_at_hand(ctx.connection, body.salt_id)
    label = shelf.label(ctx.connection, body.salt_id)
    warm = _temperature(ctx, body)
    targets = _targets(ctx, body)
    job, working = plan_batch(salt, litres, body.container_l, salinity, targets, body.source, warm, ctx.keeper.units)
    spoons = scoop_words(job.mass_g, label.bulk_density_g_ml) if label.bulk_density_g_ml else ""
    first = ctx.stored.system(body.portions[0].system_id)
    job = replace(
        job,
        heater_w=body.heater_w,
        heated=body.heater_w > 0,
        mixing_min=minutes_of_hours(body.mixing_h),
        by_l=first.bucket_l,
        spoons=spoons,
        source_water=first.source_water.value,
    )
    return job, portions, dict(working), targets


def _portion(ctx: Context, one: PortionBody, number: int) -> Portion:
    system = ctx.stored.system(one.system_id)
    check_range("litres", one.litres, "L", 0.5, system.volume_l, field=f"portions.{number}.litres")
    field = f"portions.{number}.salinity"
    salinity = ctx.typed(Parameter.SALINITY, one.salinity, field)
    check_range("salinity", salinity, "ppt", 15, 42, field=field)
    return Portion(system.id, system.name, one.litres, salinity, system.share_of(one.litres), step_id=one.step_id or 0)


def _temperature(ctx: Context, body: MixBody) -> float:
    """The first system's temperature, measured or targeted."""
    system = ctx.stored.system(body.portions[0].system_id)
    band, now = system.bands.get(Parameter.TEMPERATURE), ctx.household.waters(system).water.get(Parameter.TEMPERATURE)
    if now is None:
        return band.middle if band else 25.0
    return band.nearest(now) if band else now


def _targets(ctx: Context, body: MixBody) -> dict[Parameter, float]:
    """The batch's targets: the lowest aim of any of its systems, as nothing takes an ion out again."""
    targets: dict[Parameter, float] = {}
    for one in body.portions:
        system = ctx.stored.system(one.system_id)
        step = change_store.step(ctx.connection, one.step_id) if one.step_id else None
        planned = dict(step.work.incoming) if step and isinstance(step.work, ChangeWorkOrder) else {}
        present = ctx.household.waters(system).present
        for parameter in body.match:
            known = present.get(parameter)
            target = planned.get(parameter) if parameter == Parameter.ALKALINITY else None
            if target is None and known is not None:
                target = aim(known, system.bands.get(parameter))
            if target is not None:
                targets[parameter] = min(target, targets.get(parameter, target))
    return targets


def _bands(ctx: Context, body: MixBody) -> dict[Parameter, Any]:
    return dict(ctx.stored.system(body.portions[0].system_id).bands)
