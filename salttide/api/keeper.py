"""The keeper's settings: units, time zone, and defaults from the shelf."""

from functools import partial
from typing import Any, Literal
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fastapi import APIRouter, Request
from pydantic import Field

from salttide.core.basics.errors import at_field, check_range
from salttide.core.basics.locale import (
    ClockHours,
    DayOrder,
    FirstDay,
    Gallon,
    LengthUnit,
    MassUnit,
    VolumeUnit,
    Writing,
)
from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.presets import HABITS, Preset
from salttide.core.science.units import UNITS, UnitChoice, unit_named, unit_of
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
    """Settings to store; what is left out stays as it is."""

    zone: str = Field(max_length=60)
    units: dict[Parameter, str]
    decimal_sign: DecimalSign | None = None
    gallon: Gallon | Literal["ask"] | None = None
    additive: AlkalinitySource | None = None
    days: DayOrder | None = None
    clock: ClockHours | None = None
    scale_g: float | None = None
    volume: VolumeUnit | None = None
    length: LengthUnit | None = None
    mass: MassUnit | None = None
    week: FirstDay | None = None


class WritingShown(Model):
    """How everything is written."""

    decimal_sign: DecimalSign
    gallon: Gallon | Literal["ask"]
    days: DayOrder
    clock: ClockHours
    volume: VolumeUnit
    length: LengthUnit
    mass: MassUnit
    week: FirstDay


class PresetShown(WritingShown):
    """Settings that go together, to choose at once; units that it does not name stay."""

    key: Preset
    name: str
    units: dict[Parameter, str]


class KeeperAnswer(WritingShown):
    """Settings as they are."""

    zone: str
    units: list[UnitRow]
    additive: AlkalinitySource
    scale_g: float
    presets: list[PresetShown]


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
    kept = ctx.keeper
    units = {**kept.units, **chosen}
    how = _writing(body, kept.writing, units)
    settings = shelf.Keeper(zone, units, kept.salt_id, body.additive or kept.additive, how)
    with ctx.write() as connection:
        shelf.save_keeper(connection, settings)
    request.app.state.keeper = settings
    return _answer(settings)


def _writing(body: KeeperBody, kept: Writing, units: UnitChoice) -> Writing:
    """How everything is written; what the body leaves out stays as it is."""
    scale_g = kept.scale_g
    if body.scale_g is not None:
        scale_g = check_range(phrase("keeper.least_weight"), body.scale_g, "g", 0.001, 10, field="scale_g")
    volume = body.volume or kept.volume
    typed = kept.gallon if body.gallon is None else None if body.gallon == "ask" else body.gallon
    # Who reads gallons means these when typing "gal".
    gallon = volume.gallon or typed
    named = {parameter.value: key for parameter, key in units.items()}
    return Writing(
        body.decimal_sign or kept.sign, body.days or kept.days, body.clock or kept.clock, scale_g, gallon, volume,
        body.length or kept.length, body.mass or kept.mass, body.week or kept.week, named,
    )  # fmt: skip


def _shown(how: Writing) -> dict[str, Any]:
    return {
        "decimal_sign": how.sign, "gallon": how.gallon or "ask", "days": how.days, "clock": how.clock,
        "volume": how.volume, "length": how.length, "mass": how.mass, "week": how.week,
    }  # fmt: skip


def _answer(settings: shelf.Keeper) -> KeeperAnswer:
    return KeeperAnswer(
        **_shown(settings.writing),
        zone=settings.zone.key,
        additive=settings.additive,
        scale_g=settings.writing.scale_g,
        presets=[
            PresetShown(**_shown(habit.writing), key=key, name=habit.name, units=dict(habit.units))
            for key, habit in HABITS.items()
        ],
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
