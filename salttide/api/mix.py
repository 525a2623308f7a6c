"""Mix: a batch of new water planned while typing, for one system or several, then followed until it is used up."""

import sqlite3
from datetime import date
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.planning.batch_request import BatchRequest, PortionRequest, WantedWater
from salttide.core.science.additives import COMPOUNDS, AlkalinitySource
from salttide.core.science.mix import SaltMix
from salttide.core.science.parameters import Parameter
from salttide.household.mix import first_request, plan_requested, wanted_water
from salttide.store import batch as batch_store

from .batch import BatchCard, batch_card
from .context import Context, In, Key
from .mix_answer import MixAnswer, mix_answer, stock_words
from .models import Choice, Id, Model, RequestModel, shown

router = APIRouter(prefix="/api", tags=["mix"])


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
    salts, wanted = ctx.stored.salts, wanted_water(ctx.household)
    missing = [] if salts else [phrase("common.a_salt_on_the_shelf")]
    missing += [] if ctx.household.systems else [phrase("common.a_system")]
    return MixOffer(
        batches=[batch_card(ctx, one) for one in batch_store.batches(ctx.connection)],
        wanted=[_wanted(ctx, day, one) for day, one in wanted],
        salts=[_salt(ctx, salt) for salt in salts],
        sources=[Choice(key=key, name=COMPOUNDS[key].name) for key in AlkalinitySource],
        missing=missing,
        body=None if missing else _body(ctx, first_request(ctx.household, wanted)),
    )


def _wanted(ctx: Context, day: date, one: WantedWater) -> Wanted:
    salinity = shown(Parameter.SALINITY, one.salinity, ctx.keeper.units)
    return Wanted(
        **_body_of(ctx, one), name=one.system.name, when=day_words(day), salinity_unit=salinity.unit,
        takes_salt=one.takes_salt,
    )  # fmt: skip


def _body_of(ctx: Context, one: WantedWater | PortionRequest) -> dict[str, Any]:
    """What a portion asks for, as typed."""
    return {
        "system_id": one.system.id,
        "step_id": one.step_id or None,
        "litres": round(one.litres, 1),
        "salinity": shown(Parameter.SALINITY, one.salinity, ctx.keeper.units).text,
    }


def _salt(ctx: Context, salt: SaltMix) -> SaltAtHand:
    strength = f"{show_number(salt.strength_g_l, 1)} g/L"
    return SaltAtHand(id=salt.id, name=salt.name, remark=strength, left=stock_words(ctx, salt))


def _body(ctx: Context, request: BatchRequest) -> MixBody:
    """A request as typed."""
    portions = [PortionBody(**_body_of(ctx, one)) for one in request.portions]
    return MixBody.model_validate({**vars(request), "portions": portions})


def _request(ctx: Context, body: MixBody) -> BatchRequest:
    """What was typed, in canonical units; errors name the field."""
    portions = [_portion(ctx, one, number) for number, one in enumerate(body.portions)]
    return BatchRequest(**{**dict(body), "portions": portions})


def _portion(ctx: Context, one: PortionBody, number: int) -> PortionRequest:
    salinity = ctx.typed(Parameter.SALINITY, one.salinity, f"portions.{number}.salinity")
    return PortionRequest(ctx.household.system(one.system_id), one.litres, salinity, one.step_id or 0)


@router.post("/mix/preview")
def preview(body: MixBody, ctx: In) -> MixAnswer:
    """The batch for a request, without effect."""
    request = _request(ctx, body)
    return mix_answer(ctx, plan_requested(ctx.household, request), request.portions[0].system)


@router.post("/batches", status_code=201)
def make(body: MixBody, ctx: In, key: Key) -> MadeBatch:
    """Save the planned batch."""
    planned = plan_requested(ctx.household, _request(ctx, body))

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        batch_id = batch_store.add_batch(connection, planned.job, planned.portions, ctx.now, key)
        return {"command": key, "words": phrase("mix.batch_planned", batch_id=batch_id), "id": batch_id}

    return MadeBatch(**ctx.command(key, act))
