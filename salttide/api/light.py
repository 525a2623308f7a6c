"""Light: lamp settings with their dates, and PAR at named points."""

import sqlite3
from datetime import date, time

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import typed_day
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words
from salttide.core.basics.refused import refused
from salttide.core.system.light import Light, Par, check_light, check_par
from salttide.household import light as lamps
from salttide.store import light as light_store

from .context import Context, In, Key
from .models import Id, Model, Recorded, RequestModel

router = APIRouter(prefix="/api/systems/{system_id}/light", tags=["light"])


class LightBody(RequestModel):
    """A setting of the lamps: local times HH:MM, from a day on (today where it is left out)."""

    on: str
    off: str
    ramp_minutes: float = 0
    spectrum: str = Field(default="", max_length=120)
    since: str = ""


class ParBody(RequestModel):
    """PAR at a named point, µmol/m²/s."""

    point: str = Field(max_length=60)
    umol: float
    day: str = ""


class DatedWords(Model):
    """A day, and what applies from it on or was measured on it."""

    day: str
    words: str


class PointShown(Model):
    """A named point with its readings, latest first."""

    point: str
    readings: list[DatedWords]


class LightAnswer(Model):
    """How a system is lit, now and before."""

    now: LightBody | None
    words: str
    settings: list[DatedWords]
    points: list[PointShown]


@router.get("")
def light(system_id: Id, ctx: In) -> LightAnswer:
    """The present setting, the earlier ones, and PAR by point."""
    ctx.household.system(system_id)
    found = light_store.lights(ctx.connection, system_id)
    now = next((one for one in reversed(found) if one.since <= ctx.today), None)
    pars = light_store.pars(ctx.connection, system_id)
    return LightAnswer(
        now=_body(now) if now else None,
        words=now.words if now else "",
        settings=[DatedWords(day=date_words(one.since), words=one.words) for one in reversed(found)],
        points=[
            PointShown(
                point=point,
                readings=[
                    DatedWords(day=date_words(par.day), words=f"{show_number(par.umol, 0)} µmol/m²/s")
                    for par in pars
                    if par.point == point
                ],
            )
            for point in dict.fromkeys(par.point for par in pars)
        ],
    )


@router.post("", status_code=201)
def set_light(system_id: Id, body: LightBody, ctx: In, key: Key) -> Recorded:
    """Set the light from a day on. It enters the record too, as it explains later changes."""
    system = ctx.household.system(system_id)
    new = check_light(
        Light(_day(ctx, body.since, "since"), _time(body.on, "on"), _time(body.off, "off"), body.ramp_minutes,
              body.spectrum.strip())
    )  # fmt: skip

    def act(connection: sqlite3.Connection) -> str:
        lamps.set_light(ctx.household, connection, system.id, new, key)
        return f"{system.name}: {new.words}"

    return ctx.record(key, act)


@router.post("/par", status_code=201)
def save_par(system_id: Id, body: ParBody, ctx: In, key: Key) -> Recorded:
    """Keep a reading of PAR at a named point."""
    system = ctx.household.system(system_id)
    par = check_par(Par(_day(ctx, body.day, "day"), body.point.strip(), body.umol))

    return ctx.record_as(
        key,
        phrase("light.mol_m_s", point=par.point, umol=show_number(par.umol, 0)),
        lambda c: light_store.add_par(c, system.id, par, key),
    )


def _body(item: Light) -> LightBody:
    return LightBody(
        on=f"{item.on:%H:%M}",
        off=f"{item.off:%H:%M}",
        ramp_minutes=item.ramp_minutes,
        spectrum=item.spectrum,
        since=item.since.isoformat(),
    )


def _day(ctx: Context, text: str, field: str) -> date:
    return typed_day(text, field, date(1990, 1, 1), ctx.today) if text else ctx.today


def _time(text: str, field: str) -> time:
    try:
        return time.fromisoformat(text)
    except ValueError as error:
        raise refused("light.enter_a_time_of_day", field, "light.hh_mm_such_as") from error
