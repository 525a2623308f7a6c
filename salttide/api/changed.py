"""Changed: the water of a change that was done, asked for and read in one way wherever a change is ticked off."""

import sqlite3
from collections.abc import Mapping
from typing import Literal

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import InputError, NotFoundError
from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.basics.quantities import Kind, parse_quantity
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Care, Change
from salttide.core.overview.state import MEMORY
from salttide.core.planning.done_change import check_changed, new_water, without_litres
from salttide.core.planning.work_order import usual_salinity
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import parse_measurement, unit_of
from salttide.core.system.system import System
from salttide.household import acts
from salttide.store import rota as rota_store
from salttide.store import shelf

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel

router = APIRouter(prefix="/api/systems/{system_id}/changed", tags=["changed"])


class ChangedBody(RequestModel):
    """The water of a change as typed: litres out and in, and what came in; no salinity is the middle of the band."""

    litres: str = Field(max_length=20)
    water: Literal["mix", "natural"] = "mix"
    salt_id: Id | None = None
    salinity: str = Field("", max_length=20)


class Incomplete(Model):
    """A water change that was ticked off without its water."""

    entry_id: int
    words: str


class ChangeAsked(Model):
    """The questions about a change that was done, prefilled from the plan or the routine."""

    litres: str
    water: str
    salinity: str
    salinity_unit: str
    salt_id: int | None
    salts: list[Choice]
    incomplete: list[Incomplete]


@router.get("")
def asked(system_id: Id, ctx: In) -> ChangeAsked:
    """The routine change of a system, and done changes whose water was never recorded."""
    system = ctx.household.system(system_id)
    unit = unit_of(Parameter.SALINITY, ctx.keeper.units)
    return ChangeAsked(
        litres=show_number(system.change_l, 1),
        water="natural" if system.methods.natural_seawater else "mix",
        salinity=show_number(unit.from_canonical(usual_salinity(system)), unit.decimals),
        salinity_unit=unit.label,
        salt_id=ctx.stored.usual_salt.id if ctx.stored.usual_salt else None,
        salts=[Choice(key=str(salt.id), name=salt.name) for salt in ctx.stored.salts],
        incomplete=[
            Incomplete(entry_id=care.id, words=moment_words(care.at, ctx.keeper.zone))
            for care in _incomplete(ctx, system)
        ],
    )


def _incomplete(ctx: Context, system: System) -> list[Care]:
    ledger, left = ctx.household.ledger(system), ctx.stored.changes_left
    return without_litres(ledger, ctx.now - MEMORY, ctx.keeper.zone, left)


def read_changed(
    ctx: Context, system: System, body: ChangedBody | None, field: str = "changed"
) -> tuple[float, Mapping[Parameter, float]]:
    """Litres and what the new water held. Raises InputError at its field: a change without litres is none."""
    if body is None or not body.litres.strip():
        raise refused("changed.how_many_litres_were_changed", f"{field}.litres".strip("."), "changed.litres_such_as")
    try:
        litres = parse_quantity(body.litres, Kind.VOLUME, ctx.keeper.habits, "L").value
        check_changed(system, litres, "litres")
    except InputError as error:
        error.field = f"{field}.litres".strip(".")
        raise
    try:
        salinity = _salinity(ctx, system, body.salinity)
        salt = shelf.salt_at_hand(ctx.connection, body.salt_id) if body.salt_id else ctx.stored.usual_salt
        return litres, new_water(salt, salinity, body.water == "natural")
    except (InputError, NotFoundError) as error:
        error.field = f"{field}.{error.field or 'salinity'}".strip(".")
        raise


def _salinity(ctx: Context, system: System, text: str) -> float:
    if not text.strip():
        return usual_salinity(system)
    unit = unit_of(Parameter.SALINITY, ctx.keeper.units)
    return parse_measurement(Parameter.SALINITY, text, unit.key, ctx.keeper.habits.sign)


@router.post("/leave", status_code=201)
def leave(system_id: Id, ctx: In, key: Key) -> Recorded:
    """Leave those without litres as they are, and stop asking."""
    entries = [care.id for care in _incomplete(ctx, ctx.household.system(system_id))]
    return ctx.record_as(key, phrase("changed.left_as_they_are"), lambda c: rota_store.leave_changes(c, entries, key))


@router.post("/{entry_id}", status_code=201)
def complete(system_id: Id, entry_id: Id, body: ChangedBody, ctx: In, key: Key) -> Recorded:
    """Record the water of a change that was ticked off without it, at the time that it was done."""
    system = ctx.household.system(system_id)
    care = next((one for one in _incomplete(ctx, system) if one.id == entry_id), None)
    if care is None:
        raise NotFoundError(phrase("changed.this_change_already_has_its"), field="entry_id")
    litres, incoming = read_changed(ctx, system, body, "")
    change = Change(care.at, litres, litres, incoming)

    def act(connection: sqlite3.Connection) -> None:
        acts.record(ctx.household, connection, system_id, [change], key)

    words = phrase("changed.water_change_of_l", day=moment_words(care.at, ctx.keeper.zone), litres=litres_words(litres))
    return ctx.record_as(key, words, act)
