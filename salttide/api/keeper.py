"""The keeper's settings: units, time zone, and what is taken first from the shelf."""

from __future__ import annotations

from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fastapi import APIRouter
from pydantic import BaseModel, Field

from salttide.core.errors import InputError
from salttide.core.parameters import FACTS, Parameter
from salttide.core.units import UNITS, unit_named, unit_of
from salttide.store import shelf

from .context import Context, In
from .models import Strict, name_of

router = APIRouter(prefix="/api", tags=["keeper"])


class UnitRow(BaseModel):
    """A parameter that has more than one unit."""

    parameter: str
    name: str
    units: list[dict[str, str]]
    chosen: str


class KeeperBody(Strict):
    """Settings to store."""

    zone: str = Field(max_length=60)
    units: dict[Parameter, str]


class KeeperAnswer(BaseModel):
    """Settings as they are."""

    zone: str
    units: list[UnitRow]


@router.get("/keeper")
def keeper(ctx: In) -> KeeperAnswer:
    """The settings."""
    return _answer(ctx.keeper)


@router.put("/keeper")
def change_keeper(body: KeeperBody, ctx: In) -> KeeperAnswer:
    """Store the settings."""
    try:
        zone = ZoneInfo(body.zone)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise InputError(
            f"“{body.zone}” is not a time zone", field="zone", accepted="a name such as Europe/Copenhagen"
        ) from error
    chosen = {}
    for parameter, key in body.units.items():
        try:
            chosen[parameter] = unit_named(parameter, key).key
        except InputError as error:
            error.field = f"units.{parameter.value}"
            raise
    settings = shelf.Keeper(zone, {**_stored(ctx), **chosen}, ctx.keeper.salt_id, ctx.keeper.additive)
    with ctx.database.write() as connection:
        shelf.keep_keeper(connection, settings)
    return _answer(settings)


def _stored(ctx: Context) -> dict[Parameter, str]:
    return dict(ctx.keeper.units)


def _answer(settings: shelf.Keeper) -> KeeperAnswer:
    return KeeperAnswer(
        zone=settings.zone.key,
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
