"""The keeper's settings: units, time zone, and defaults from the shelf."""

from functools import partial
from typing import Literal
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fastapi import APIRouter, Request
from pydantic import Field

from salttide.core.basics.errors import at_field, check_range
from salttide.core.basics.locale import ClockHours, DayOrder
from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.phrases import phrase
from salttide.core.basics.quantities import Gallon, Habits
from salttide.core.basics.refused import refused
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import UNITS, unit_named, unit_of
from salttide.store import shelf

from .context import In
from .models import Model, RequestModel, name_of

router = APIRouter(prefix="/api", tags=["keeper"])


class UnitRow(Model):
    """A parameter that has more than one unit."""

    parameter: str
    name: str
    units: list[dict[str, str]]
    chosen: str


class KeeperBody(RequestModel):
    """Settings to store."""

    zone: str = Field(max_length=60)
    units: dict[Parameter, str]
    decimal_sign: DecimalSign | None = None
    gallon: Gallon | Literal["ask"] | None = None
    additive: AlkalinitySource | None = None
    days: DayOrder | None = None
    clock: ClockHours | None = None
    scale_g: float | None = None


class KeeperAnswer(Model):
    """Settings as they are."""

    zone: str
    units: list[UnitRow]
    decimal_sign: DecimalSign
    gallon: Gallon | Literal["ask"]
    additive: AlkalinitySource
    days: DayOrder
    clock: ClockHours
    scale_g: float


@router.get("/keeper")
def keeper(ctx: In) -> KeeperAnswer:
    """The settings."""
    return _answer(ctx.keeper)


@router.put("/keeper")
def change_keeper(body: KeeperBody, ctx: In, request: Request) -> KeeperAnswer:
    """Store the settings."""
    try:
        zone = ZoneInfo(body.zone)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise refused(
            "keeper.is_not_a_time_zone", "zone", "keeper.a_name_such_as_europe_copenhagen", zone=body.zone
        ) from error
    chosen = {
        parameter: at_field(f"units.{parameter.value}", partial(unit_named, parameter, key)).key
        for parameter, key in body.units.items()
    }
    units = {**ctx.keeper.units, **chosen}
    kept = ctx.keeper
    settings = shelf.Keeper(
        zone, units, kept.salt_id, body.additive or kept.additive, _habits(body, kept.habits),
        body.days or kept.days, body.clock or kept.clock, _scale(body.scale_g, kept.scale_g),
    )  # fmt: skip
    with ctx.write() as connection:
        shelf.save_keeper(connection, settings)
    request.app.state.keeper = settings
    return _answer(settings)


def _scale(least_g: float | None, kept: float) -> float:
    return (
        kept
        if least_g is None
        else check_range(phrase("keeper.least_weight"), least_g, "g", 0.001, 10, field="scale_g")
    )


def _habits(body: KeeperBody, kept: Habits) -> Habits:
    """How numbers and dates are written; what the body leaves out stays as it is."""
    gallon = kept.gallon if body.gallon is None else None if body.gallon == "ask" else body.gallon
    return Habits(body.decimal_sign or kept.sign, gallon)


def _answer(settings: shelf.Keeper) -> KeeperAnswer:
    return KeeperAnswer(
        zone=settings.zone.key,
        decimal_sign=settings.habits.sign,
        gallon=settings.habits.gallon or "ask",
        additive=settings.additive,
        days=settings.days,
        clock=settings.clock,
        scale_g=settings.scale_g,
        units=[
            UnitRow(
                parameter=parameter,
                name=name_of(parameter),
                units=[{"key": unit.key, "label": unit.label} for unit in UNITS[parameter]],
                chosen=unit_of(parameter, settings.units).key,
            )
            for parameter in Parameter
            if len(UNITS[parameter]) > 1 and FACTS[parameter].routine
        ],
    )
