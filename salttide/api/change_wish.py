"""What is wished of a change, as it is typed, and as the core takes it: purpose, new water, tank side."""

from datetime import date, timedelta

from pydantic import Field

from salttide.core.basics.errors import InputError, PlanError, RuleError, SaltTideError, check_range
from salttide.core.judgement.cycling import BreakingIn, breaking_in, missing_for_the_end
from salttide.core.judgement.situation import Situation
from salttide.core.planning.change_request import ChangeRequest, Emergency, NewWater, Purpose
from salttide.core.planning.plumbing import Drain
from salttide.core.planning.work_order import Water
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import FACTS, Parameter, Span
from salttide.core.science.salts import natural_seawater
from salttide.core.system.system import Stage, System
from salttide.store import batch as batch_store
from salttide.store import shelf

from .context import Context
from .models import Id, RequestModel

FIELDS = {"fraction": "fraction_percent", "alkalinity_meq_l": "alkalinity", "left": "left_percent"}
"""Fields of the core as the body has them."""
MAX_ZONES = 6


class WishBody(RequestModel):
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


AIMED = frozenset({Purpose.BRING, Purpose.RESTORE, Purpose.FIRST})


def read_wish(ctx: Context, system: System, body: WishBody) -> ChangeRequest:
    """The wish in canonical units; errors name the field of the body."""
    today = ctx.today
    if not today <= body.start <= today + timedelta(days=365):
        raise InputError("choose a day from today on", field="start", accepted=f"{today.isoformat()} or later")
    if body.purpose == Purpose.FIRST:
        _check_first(ctx, system)
    water = _new_water(ctx, system, body)
    salt = shelf.salt_at_hand(ctx.connection, body.salt_id) if body.salt_id else None
    if water is None and salt is None:
        raise InputError("choose a salt", field="salt_id", accepted="one of the shelf")
    return ChangeRequest(
        body.fraction_percent / 100,
        salt,
        body.source,
        body.start,
        body.every_days,
        _value(ctx, Parameter.SALINITY, body.salinity, "salinity"),
        _value(ctx, Parameter.ALKALINITY, body.alkalinity, "alkalinity"),
        body.emergency,
        body.purpose,
        _aim(ctx, body),
        body.left_percent / 100 if body.purpose == Purpose.DILUTE and body.left_percent is not None else None,
        water,
        _salt_left(ctx, body) if water is None else None,
    )


def cycle_of(ctx: Context, system: System) -> BreakingIn | None:
    """How far a system that is breaking in has come; None for any other."""
    if system.stage != Stage.BREAKING_IN:
        return None
    return breaking_in(Situation(system, ctx.household.ledger(system), ctx.now, ctx.keeper.zone, ctx.keeper.units))


def _check_first(ctx: Context, system: System) -> None:
    """The first change of a new system waits for the proof that it is ready, and for nothing to live in it yet."""
    ledger = ctx.household.ledger(system)
    if any(animal.count for animal in system.animals):
        raise RuleError(f"Animals live in {system.name}: choose another purpose.", field="purpose")
    cycle = cycle_of(ctx, system)
    if cycle is not None:
        missing = missing_for_the_end(cycle)
        if missing:
            raise RuleError(f"Not yet: {missing}", field="purpose")
    elif ledger.changes:
        raise RuleError(f"{system.name} had its first change already.", field="purpose")


def _aim(ctx: Context, body: WishBody) -> tuple[Parameter, float] | None:
    if body.purpose not in AIMED:
        return None
    if body.parameter is None or not FACTS[body.parameter].dissolved:
        raise InputError("choose what is to be brought there", field="parameter", accepted="such as nitrate")
    target = _value(ctx, body.parameter, body.target, "target")
    if target is None:
        raise InputError("say where it is to be brought", field="target", accepted="a number")
    return body.parameter, target


def _value(ctx: Context, parameter: Parameter, value: float | None, field: str) -> float | None:
    return None if value is None else ctx.canonical(parameter, value, field)


def _new_water(ctx: Context, system: System, body: WishBody) -> NewWater | None:
    """Water that is there already, None for a mix."""
    if body.water == Water.NATURAL:
        return _natural(ctx, body)
    if body.water == Water.STORED:
        return _stored(ctx, body)
    return _of_system(ctx, system, body) if body.water == Water.SYSTEM else None


def _natural(ctx: Context, body: WishBody) -> NewWater:
    """As measured; what was not measured as natural seawater of that salinity has it."""
    salinity = _value(ctx, Parameter.SALINITY, body.water_salinity, "water_salinity")
    if salinity is None:
        raise InputError("measure its salinity", field="water_salinity", accepted="a number such as 34.5")
    check_range("salinity", salinity, "ppt", 20, 42, field="water_salinity")
    known = {p: v for p, v in natural_seawater(salinity).items() if p in _NATURAL}
    alkalinity = _value(ctx, Parameter.ALKALINITY, body.water_alkalinity, "water_alkalinity")
    if alkalinity is not None:
        known[Parameter.ALKALINITY] = check_range("alkalinity", alkalinity, "meq/L", 1, 6, field="water_alkalinity")
    return NewWater(Water.NATURAL, "natural seawater", {p: Span(v, v) for p, v in known.items()})


_NATURAL = (Parameter.SALINITY, Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM,
            Parameter.STRONTIUM)  # fmt: skip


def _stored(ctx: Context, body: WishBody) -> NewWater:
    if body.batch_id is None:
        raise InputError("choose the batch", field="batch_id", accepted="one that was mixed")
    found = batch_store.batch(ctx.connection, body.batch_id)
    if not found.state.usable:
        raise InputError(f"{found.name} is {found.state.phase.value}", field="batch_id", accepted="one that was mixed")
    holds = {p: Span(v, v) for p, v in found.state.holds.items() if FACTS[p].dissolved}
    holds |= {nutrient: Span(0.0, 0.0) for nutrient in (Parameter.NITRATE, Parameter.PHOSPHATE)}
    return NewWater(Water.STORED, found.name, holds, found.state.litres, batch_id=found.id)


def _of_system(ctx: Context, system: System, body: WishBody) -> NewWater:
    if body.source_id is None or body.source_id == system.id:
        raise InputError("choose the other system", field="source_id", accepted="a system")
    other = ctx.stored.system(body.source_id)
    present = ctx.household.waters(other).present
    if Parameter.SALINITY not in present:
        raise PlanError(f"Test the salinity of {other.name} first.", field="source_id")
    holds = {p: Span(known.value, known.value) for p, known in present.items() if FACTS[p].dissolved}
    return NewWater(Water.SYSTEM, f"water of {other.name}", holds, source_id=other.id)


def _salt_left(ctx: Context, body: WishBody) -> float | None:
    """Grams left of the bucket in use, None where none was opened."""
    if body.salt_id is None:
        return None
    opened = shelf.buckets(ctx.connection, body.salt_id)
    if not opened:
        return None
    return max(0.0, opened[0].mass_g - batch_store.salt_used_g(ctx.connection, body.salt_id, opened[0].opened_on))


def drain_of(body: WishBody) -> Drain:
    """How it is drained."""
    names: tuple[str, ...] = ()
    if body.zones == 2:
        names = ("left", "right")
    elif body.zones > 2:
        names = tuple(f"zone {number}" for number in range(1, body.zones + 1))
    return Drain(body.sump_falls, body.straight, names, body.keep_l)


def at_body_field(error: SaltTideError) -> SaltTideError:
    """An error of the core with the field that the body has for it."""
    error.field = FIELDS.get(error.field, error.field)
    return error
