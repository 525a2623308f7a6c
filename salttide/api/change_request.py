"""A change request as typed, and as the core takes it: purpose, new water, tank side."""

from datetime import date

from pydantic import Field

from salttide.core.basics.dates import check_ahead
from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.number_text import fraction
from salttide.core.basics.refused import refused
from salttide.core.judgement.cycling import BreakingIn, breaking_in
from salttide.core.judgement.situation import Situation
from salttide.core.ledger.stock import salt_in_bucket_g
from salttide.core.planning.change_options import AIMED, check_first_change
from salttide.core.planning.change_request import ChangeRequest, Emergency, NewWater, Purpose
from salttide.core.planning.new_water import natural_water, stored_water, water_of_system
from salttide.core.planning.plumbing import MAX_ZONES, Drain, zone_names
from salttide.core.planning.work_order import Water
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.system.system import Stage, System
from salttide.store import batch as batch_store
from salttide.store import shelf

from .context import Context
from .models import Id, RequestModel

FIELDS = {"fraction": "fraction_percent", "alkalinity_meq_l": "alkalinity", "left": "left_percent"}
"""Fields of the core as the body has them."""


class ChangeRequestBody(RequestModel):
    """What the keeper wants; targets in the keeper's units, null leaves the parameter alone.

    parameter and target: what the purpose brings where · left_percent: of a contamination · water: where the new water
    comes from, with the batch or the system it is taken from, or what was measured of it · zones: how many it is
    drained at · keep_l: drained water kept back · slow_days: exchanged over so many days by a pump pair, 0 at once.
    """

    fraction_percent: float
    salt_id: Id | None = None
    source: AlkalinitySource
    start: date
    every_days: int = 2
    salinity: float | None = None
    alkalinity: float | None = None
    emergency: Emergency | None = None
    siphon: bool = False
    purpose: Purpose = Purpose.ROUTINE
    parameter: Parameter | None = None
    target: float | None = None
    left_percent: float | None = None
    water: Water = Water.MIX
    batch_id: Id | None = None
    source_id: Id | None = None
    water_salinity: float | None = None
    water_alkalinity: float | None = None
    straight: bool = False
    sump_falls: bool = False
    zones: int = Field(default=1, ge=1, le=MAX_ZONES)
    keep_l: float = Field(default=0, ge=0)
    slow_days: int = Field(default=0, ge=0, le=60)


def read_request(ctx: Context, system: System, body: ChangeRequestBody) -> ChangeRequest:
    """The request in canonical units; errors name the field of the body."""
    check_ahead(body.start, ctx.today, "start")
    if body.purpose == Purpose.FIRST:
        check_first_change(system, ctx.household.ledger(system), cycle_of(ctx, system))
    water = _new_water(ctx, system, body)
    salt = shelf.salt_at_hand(ctx.connection, body.salt_id) if body.salt_id else None
    if water is None and salt is None:
        raise refused("change_request.choose_a_salt", "salt_id", "common.one_from_the_shelf")
    return ChangeRequest(
        fraction(body.fraction_percent),
        salt,
        body.source,
        body.start,
        body.every_days,
        _value(ctx, Parameter.SALINITY, body.salinity, "salinity"),
        _value(ctx, Parameter.ALKALINITY, body.alkalinity, "alkalinity"),
        body.emergency,
        body.purpose,
        _aim(ctx, body),
        fraction(body.left_percent) if body.purpose == Purpose.DILUTE and body.left_percent is not None else None,
        water,
        _salt_left(ctx, body) if water is None else None,
    )


def cycle_of(ctx: Context, system: System) -> BreakingIn | None:
    """How far a system that is cycling has come; None for any other."""
    if system.stage != Stage.BREAKING_IN:
        return None
    return breaking_in(Situation(system, ctx.household.ledger(system), ctx.now, ctx.keeper.zone, ctx.keeper.units))


def _aim(ctx: Context, body: ChangeRequestBody) -> tuple[Parameter, float] | None:
    if body.purpose not in AIMED:
        return None
    if body.parameter is None or not FACTS[body.parameter].dissolved:
        raise refused("change_request.choose_a_parameter", "parameter", "change_request.such_as_nitrate")
    target = _value(ctx, body.parameter, body.target, "target")
    if target is None:
        raise refused("change_request.enter_a_target", "target", "change_request.a_number")
    return body.parameter, target


def _value(ctx: Context, parameter: Parameter, value: float | None, field: str) -> float | None:
    return None if value is None else ctx.canonical(parameter, value, field)


def _new_water(ctx: Context, system: System, body: ChangeRequestBody) -> NewWater | None:
    """New water that is already at hand; None for a fresh mix."""
    if body.water == Water.NATURAL:
        salinity = _value(ctx, Parameter.SALINITY, body.water_salinity, "water_salinity")
        return natural_water(salinity, _value(ctx, Parameter.ALKALINITY, body.water_alkalinity, "water_alkalinity"))
    if body.water == Water.STORED:
        return _stored(ctx, body)
    return _of_system(ctx, system, body) if body.water == Water.SYSTEM else None


def _stored(ctx: Context, body: ChangeRequestBody) -> NewWater:
    if body.batch_id is None:
        raise refused("change_request.choose_a_batch", "batch_id", "change_request.one_that_is_mixed")
    found = batch_store.batch(ctx.connection, body.batch_id)
    return stored_water(found.id, found.name, found.state)


def _of_system(ctx: Context, system: System, body: ChangeRequestBody) -> NewWater:
    if body.source_id is None or body.source_id == system.id:
        raise refused("change_request.choose_another_system", "source_id", "common.a_system")
    other = ctx.household.system(body.source_id)
    return water_of_system(other, ctx.household.waters(other).present)


def _salt_left(ctx: Context, body: ChangeRequestBody) -> float | None:
    """Grams left in the open bucket; None where none is open."""
    if body.salt_id is None:
        return None
    opened = shelf.buckets(ctx.connection, body.salt_id)
    if not opened:
        return None
    used = batch_store.salt_used_g(ctx.connection, body.salt_id, opened[0].opened_on)
    return salt_in_bucket_g(opened[0].mass_g, used)


def drain_of(body: ChangeRequestBody) -> Drain:
    """How it is drained."""
    return Drain(body.sump_falls, body.straight, zone_names(body.zones), body.keep_l)


def at_body_field(error: SaltTideError) -> SaltTideError:
    """An error of the core, moved to the body's own field."""
    error.field = FIELDS.get(error.field, error.field)
    return error
