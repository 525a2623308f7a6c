"""Livestock: the animals of a system, what they tolerate, and births, losses and counts."""

import sqlite3
from collections.abc import Mapping
from datetime import date

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.number_text import short, significant
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.science.parameters import FACTS, Parameter, Span
from salttide.core.science.units import difference_canonical, difference_shown, unit_of
from salttide.core.system.catalogue import event_kind
from salttide.core.system.inspection import Event
from salttide.core.system.livestock import (
    BORNE,
    DEMAND_REMARKS,
    DEMANDING_LIMITS,
    LIMITED,
    Animal,
    Demand,
    StockChange,
    check_animal,
)
from salttide.store import ledger as ledger_store
from salttide.store import livestock as livestock_store

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, name_of

router = APIRouter(prefix="/api/systems/{system_id}/livestock", tags=["livestock"])


class SpanBody(RequestModel):
    """From and to, in the keeper's unit."""

    low: float
    high: float


class AnimalBody(RequestModel):
    """An animal as the keeper enters it; tolerances and limits in the keeper's units."""

    name: str = Field(min_length=1, max_length=60)
    demand: Demand = Demand.MODERATE
    count: int = 1
    portions: float = 0
    air_min: float | None = None
    tolerances: dict[Parameter, SpanBody] = Field(default_factory=dict)
    limits: dict[Parameter, float] = Field(default_factory=dict)


class AnimalShown(AnimalBody):
    """An animal as it is stored, with what it means in words."""

    id: int
    words: str


class LimitShown(Model):
    """A parameter an animal may set a daily limit for, and the limit suggested for a demanding one."""

    parameter: str
    name: str
    unit: str
    demanding: float


class TurnShown(Model):
    """A change of a number, in words."""

    day: str
    words: str
    void: bool


class LivestockAnswer(Model):
    """The animals of a system, and how their numbers changed."""

    animals: list[AnimalShown]
    demands: list[Choice]
    turns: list[str]
    limits: list[LimitShown]
    tolerated: list[Choice]
    history: list[TurnShown]


class TurnBody(RequestModel):
    """A birth, loss, addition, gift or count. cause: why it was lost, if it is known."""

    turn: StockChange
    number: int
    cause: str = Field(default="", max_length=200)


_HAPPENS: Mapping[StockChange, str] = {
    StockChange.ADDED: "stock_added",
    StockChange.BORN: "stock_born",
    StockChange.LOST: "stock_lost",
}


@router.get("")
def livestock(system_id: Id, ctx: In) -> LivestockAnswer:
    """The animals of a system."""
    system = ctx.household.system(system_id)
    units = ctx.keeper.units
    return LivestockAnswer(
        animals=[_shown(ctx, animal) for animal in system.animals],
        demands=[Choice(key=demand, name=demand, remark=DEMAND_REMARKS[demand]) for demand in Demand],
        turns=list(StockChange),
        limits=[
            LimitShown(
                parameter=parameter,
                name=name_of(parameter),
                unit=unit_of(parameter, units).label,
                demanding=_limit(ctx, parameter, DEMANDING_LIMITS[parameter]),
            )
            for parameter in LIMITED
        ],
        tolerated=[
            Choice(key=parameter, name=FACTS[parameter].name, remark=unit_of(parameter, units).label)
            for parameter in BORNE
        ],
        history=[
            TurnShown(
                day=day_words(date.fromisoformat(one.day)),
                words=f"{one.animal}: {one.number} {one.turn}" + (f", {one.cause}" if one.cause else ""),
                void=one.void,
            )
            for one in livestock_store.turns(ctx.connection, system_id)
        ],
    )


@router.post("", status_code=201)
def add_animal(system_id: Id, body: AnimalBody, ctx: In, key: Key) -> Recorded:
    """Enter an animal."""
    system = ctx.household.system(system_id)
    item = _read(ctx, body, 0)

    def act(connection: sqlite3.Connection) -> str:
        livestock_store.add_animal(connection, system.id, item, ctx.today, key)
        _happened(ctx, connection, system.id, item, StockChange.ADDED, item.count, "", key)
        return f"{item.count} {item.name} in {system.name}"

    return ctx.record(key, act)


@router.put("/{animal_id}")
def change_animal(system_id: Id, animal_id: Id, body: AnimalBody, ctx: In) -> AnimalShown:
    """Store what is known of an animal; its number changes by births, losses and counts alone."""
    livestock_store.animal(ctx.connection, system_id, animal_id)
    item = _read(ctx, body, animal_id)
    with ctx.write() as connection:
        livestock_store.change_animal(connection, item)
    return _shown(ctx, livestock_store.animal(ctx.connection, system_id, animal_id))


@router.post("/{animal_id}/changes", status_code=201)
def change_count(system_id: Id, animal_id: Id, body: TurnBody, ctx: In, key: Key) -> Recorded:
    """Record a birth, a loss, an addition, a gift or a count."""

    def act(connection: sqlite3.Connection) -> str:
        item = livestock_store.animal(connection, system_id, animal_id)
        cause = body.cause.strip()
        after = livestock_store.turn(connection, item, ctx.today, body.turn, body.number, cause, key)
        _happened(ctx, connection, system_id, item, body.turn, body.number, cause, key)
        return phrase("livestock.now", animal=item.name, number=body.number, turn=body.turn, after=after)

    return ctx.record(key, act)


@router.post("/{animal_id}/archive")
def archive(system_id: Id, animal_id: Id, ctx: In, key: Key) -> Recorded:
    """Take an animal off the list; what was recorded of it stays."""
    return _away(ctx, system_id, animal_id, key, True)


@router.post("/{animal_id}/restore")
def restore(system_id: Id, animal_id: Id, ctx: In, key: Key) -> Recorded:
    """Put an animal back on the list."""
    return _away(ctx, system_id, animal_id, key, False)


def _away(ctx: Context, system_id: int, animal_id: int, key: str, away: bool) -> Recorded:
    name = livestock_store.animal(ctx.connection, system_id, animal_id).name
    ctx.command(key, lambda connection: livestock_store.set_archived(connection, animal_id, away))
    return Recorded(
        command=key,
        words=phrase("livestock.is_the_list", name=name, whether="off" if away else phrase("livestock.back_on")),
    )


def _happened(
    ctx: Context,
    connection: sqlite3.Connection,
    system_id: int,
    item: Animal,
    turn: StockChange,
    number: int,
    cause: str,
    key: str,
) -> None:
    """A change of stock as an event in the ledger: it explains later changes."""
    kind = _HAPPENS.get(turn)
    if kind and number:
        note = f"{number} {item.name}" + (f", {cause}" if cause else "")
        ledger_store.record(connection, system_id, [Event(ctx.now, event_kind(kind), note)], key, ctx.now)


def _read(ctx: Context, body: AnimalBody, animal_id: int) -> Animal:
    """The body in canonical units; every number is checked at its field."""
    tolerances = {
        parameter: Span(*(ctx.canonical(parameter, getattr(span, end), f"tolerances.{parameter.value}.{end}")
                          for end in ("low", "high")))
        for parameter, span in body.tolerances.items()
    }  # fmt: skip
    limits = {
        parameter: difference_canonical(parameter, limit, ctx.keeper.units) for parameter, limit in body.limits.items()
    }
    item = Animal(
        animal_id, body.name.strip(), body.demand, body.count, tolerances, limits, body.portions, body.air_min
    )
    check_animal(item)
    return item


def _shown(ctx: Context, item: Animal) -> AnimalShown:
    return AnimalShown(
        id=item.id,
        name=item.name,
        demand=item.demand,
        count=item.count,
        portions=item.portions,
        air_min=item.air_min,
        tolerances={
            parameter: SpanBody(low=_end(ctx, parameter, span.low), high=_end(ctx, parameter, span.high))
            for parameter, span in item.tolerances.items()
        },
        limits={
            parameter: round(difference_shown(parameter, limit, ctx.keeper.units), 4)
            for parameter, limit in item.limits.items()
        },
        words=_words(ctx, item),
    )


def _limit(ctx: Context, parameter: Parameter, canonical: float) -> float:
    """A daily limit for an input field."""
    return float(f"{difference_shown(parameter, canonical, ctx.keeper.units):.4g}")


def _end(ctx: Context, parameter: Parameter, value: float) -> float:
    unit = unit_of(parameter, ctx.keeper.units)
    return round(unit.from_canonical(value), unit.decimals + 1)


def _words(ctx: Context, item: Animal) -> str:
    units = ctx.keeper.units
    parts = [
        f"{name_of(parameter)} {short(_end(ctx, parameter, span.low))} to {short(_end(ctx, parameter, span.high))} "
        f"{unit_of(parameter, units).label}".rstrip()
        for parameter, span in item.tolerances.items()
    ]
    parts += [
        phrase(
            "livestock.at_most_a_day",
            parameter=name_of(parameter).lower(),
            limit=significant(difference_shown(parameter, limit, units), 2),
            unit=unit_of(parameter, units).label,
        )
        for parameter, limit in item.limits.items()
    ]
    if item.air_min is not None:
        parts.append(phrase("livestock.at_most_min_out_of_water", minutes=short(item.air_min)))
    if item.portions:
        parts.append(
            phrase(
                "livestock.at_least_portion_a_day",
                portions=short(item.portions),
                plural="" if item.portions == 1 else "s",
            )
        )
    return " · ".join(parts)
