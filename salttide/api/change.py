"""Change: a water change planned while typing, and put on the rota."""

from __future__ import annotations

import sqlite3
from datetime import date, timedelta
from typing import Any

from fastapi import APIRouter, Response
from pydantic import BaseModel

from salttide.core import catalogue
from salttide.core.additives import COMPOUNDS, AlkalinitySource
from salttide.core.change import Plan, aim, plan_change
from salttide.core.change_step import Emergency, PlanStep, StepKind, Wish
from salttide.core.errors import InputError, SaltTideError
from salttide.core.job import Job
from salttide.core.outlook import Outlook, Waters
from salttide.core.parameters import Parameter
from salttide.core.system import SandMethod, System
from salttide.core.typed import short, show_number
from salttide.core.units import to_canonical, unit_of
from salttide.core.words import day_words
from salttide.store import change as change_store
from salttide.store import shelf
from salttide.store import system as system_store

from .change_answer import PlanAnswer, plan_answer
from .context import Context, In, Key
from .models import Choice, Id, Recorded, Shown, Strict, name_of, plain

router = APIRouter(prefix="/api/systems/{system_id}/change", tags=["change"])


class WishBody(Strict):
    """What the keeper wants; targets in the keeper's units, null leaves the parameter alone."""

    fraction_percent: float
    salt_id: Id
    source: AlkalinitySource
    start: date
    every_days: int = 2
    salinity: float | None = None
    alkalinity: float | None = None
    emergency: Emergency | None = None
    siphon: bool = False


class PlanBody(WishBody):
    """A wish to put on the rota. `replace`: take the place of what is planned for the system already."""

    replace: bool = False


class SaltChoice(BaseModel):
    """A salt on the shelf."""

    id: int
    name: str
    remark: str


class Offer(BaseModel):
    """What a change can be planned with, and a first wish to start from."""

    system_id: int
    name: str
    volume: Shown
    today: str
    largest_percent: float
    salts: list[SaltChoice]
    sources: list[Choice]
    emergencies: list[Choice]
    needs_emergency: bool
    can_siphon: bool
    alkalinity_unit: str
    salinity_unit: str
    wish: WishBody | None
    missing: list[str]
    planned: list[str]


@router.get("")
def offer(system_id: Id, ctx: In) -> Offer:
    """What a change of this system can be planned with."""
    system = system_store.system(ctx.connection, system_id)
    view = ctx.outlook(system)
    salts = shelf.salts(ctx.connection)
    units = ctx.keeper.units
    missing = [name_of(p) for p in (Parameter.SALINITY, Parameter.ALKALINITY) if p not in view.present]
    if not salts:
        missing.append("a salt on the shelf")
    return Offer(
        system_id=system.id,
        name=system.name,
        volume=plain(system.volume_l, 0, "L"),
        today=ctx.today.isoformat(),
        largest_percent=system.schools.largest_fraction * 100,
        salts=[SaltChoice(id=salt.id, name=salt.name, remark=f"{short(salt.strength_g_l)} g/L") for salt in salts],
        sources=[Choice(key=key, name=COMPOUNDS[key].name) for key in AlkalinitySource],
        emergencies=[Choice(key=key, name=name) for key, name in EMERGENCY_WORDS.items()],
        needs_emergency=system.stage == "breaking_in",
        can_siphon=_siphons(system),
        alkalinity_unit=unit_of(Parameter.ALKALINITY, units).label,
        salinity_unit=unit_of(Parameter.SALINITY, units).label,
        wish=None if missing else _first_wish(ctx, system, view, salts[0].id),
        missing=missing,
        planned=[f"{step.name}, {day_words(step.day)}" for step in change_store.open_steps(ctx.connection, system_id)],
    )


EMERGENCY_WORDS = {
    Emergency.AMMONIA: "ammonia endangers animals inside",
    Emergency.FAILED_GEAR: "heat or circulation has failed",
    Emergency.POISON: "something poisonous got in",
}


def _siphons(system: System) -> bool:
    return system.schools.sand in (SandMethod.BARE, SandMethod.SIPHONED)


def _first_wish(ctx: Context, system: System, view: Outlook, first_salt: int) -> WishBody:
    """The routine size, aimed at the middle of the bands; today where something is out, else on the next due day."""
    today = ctx.today
    due = [item.day for item in view.occurrences if item.task == "water_change"]
    out = [v for v in view.verdicts if v.position.out and v.parameter in (Parameter.SALINITY, Parameter.ALKALINITY)]
    return WishBody(
        fraction_percent=round(system.schools.change_fraction * 100, 2),
        salt_id=ctx.keeper.salt_id or first_salt,
        source=ctx.keeper.additive,
        start=today if out or not due else due[0],
        every_days=2,
        salinity=_aim(ctx, view, Parameter.SALINITY),
        alkalinity=_aim(ctx, view, Parameter.ALKALINITY),
        siphon=_siphons(system),
    )


def _aim(ctx: Context, view: Outlook, parameter: Parameter) -> float | None:
    """The first target of a parameter, in the keeper's unit."""
    target = aim(view.present[parameter], view.system.bands.get(parameter))
    if target is None:
        return None
    unit = unit_of(parameter, ctx.keeper.units)
    return round(unit.from_canonical(target), unit.decimals + (0 if unit.key.startswith("SG") else 1))


@router.post("/preview", response_model=PlanAnswer)
def preview(system_id: Id, body: WishBody, ctx: In) -> Response:
    """The plan for a wish, without effect. Asked for at every key, so it is written out once, not validated again."""
    system, view, plan = _plan(ctx, system_id, body)
    return Response(plan_answer(ctx, system, view, plan).model_dump_json(), media_type="application/json")


@router.post("/plans", status_code=201)
def put_on_rota(system_id: Id, body: PlanBody, ctx: In, key: Key) -> Recorded:
    """Put every step of the plan on the rota."""
    system, _, plan = _plan(ctx, system_id, body)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        if body.replace:
            change_store.withdraw_open(connection, system_id, key)
        for number, step in enumerate(plan.steps, 1):
            siphon = body.siphon and number == 1
            job = _job(ctx, system, body, plan, step, shelf.salt(connection, body.salt_id), siphon)
            minutes = _minutes(connection, system_id, step)
            change_store.add_step(connection, system_id, key, step.day, step.kind, _name(step), minutes, job)
        days = [day_words(step.day) for step in plan.steps]
        return {
            "command": key,
            "words": f"{len(days)} on the rota, {days[0]}" + (f" to {days[-1]}" if days[1:] else ""),
        }

    return Recorded(**ctx.command(key, act))


def _name(step: PlanStep) -> str:
    if step.kind == StepKind.CHANGE:
        return f"Change {show_number(step.volume_l, 1)} L"
    return f"Dose {show_number(step.system_dose_g, 1)} g"


DOSE_MINUTES = 5.0


def _minutes(connection: sqlite3.Connection, system_id: int, step: PlanStep) -> float:
    if step.kind == StepKind.DOSE:
        return DOSE_MINUTES
    rules = system_store.care_rules(connection, system_id)
    own = [rule.minutes for rule in rules if rule.kind.key == "water_change"]
    return own[0] if own else catalogue.tasks()["water_change"].minutes


def _plan(ctx: Context, system_id: int, body: WishBody) -> tuple[System, Waters, Plan]:
    system = system_store.system(ctx.connection, system_id)
    view = ctx.waters(system)
    today = ctx.today
    if not today <= body.start <= today + timedelta(days=365):
        raise InputError("choose a day from today on", field="start", accepted=f"{today.isoformat()} or later")
    wish = Wish(
        body.fraction_percent / 100, shelf.salt(ctx.connection, body.salt_id), body.source, body.start, body.every_days,
        _target(ctx, Parameter.SALINITY, body.salinity), _target(ctx, Parameter.ALKALINITY, body.alkalinity),
        body.emergency,
    )  # fmt: skip
    try:
        return system, view, plan_change(system, view.water, wish, view.net(TARGETED), today)
    except SaltTideError as error:
        error.field = _FIELDS.get(error.field, error.field)
        raise


TARGETED = (Parameter.SALINITY, Parameter.ALKALINITY)
_FIELDS = {"fraction": "fraction_percent", "alkalinity_meq_l": "alkalinity"}


def _target(ctx: Context, parameter: Parameter, value: float | None) -> float | None:
    if value is None:
        return None
    try:
        return to_canonical(parameter, value, unit_of(parameter, ctx.keeper.units))
    except InputError as error:
        error.field = parameter.value
        raise


def _job(ctx: Context, system: System, body: WishBody, plan: Plan, step: PlanStep, salt: Any, siphon: bool) -> Job:
    """The step frozen for the tank."""
    incoming = {} if step.batch is None else {p: span.middle for p, span in step.batch.holds.items()}
    if step.batch:
        incoming |= {Parameter.SALINITY: step.batch.salinity, Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0}
    if step.batch_alkalinity_meq_l is not None:
        incoming[Parameter.ALKALINITY] = step.batch_alkalinity_meq_l
    kinds = catalogue.gear_kinds()
    gear = sorted((kinds[key] for key in system.gear), key=lambda kind: kind.order)
    return Job(
        system.id, system.volume_l, step.volume_l, step.buckets, system.bucket_l, step.mark_cm,
        step.temperature_c or 25.0, step.least_temperature_c or 22.0, salt, step.batch.mass_g if step.batch else 0.0,
        body.source, step.batch_dose_g, step.system_dose_g, step.before, incoming, system.limits,
        {kind.key: kind.name for kind in gear}, siphon, plan.close_match, ctx.keeper.units,
        litres_per_cm=system.geometry.footprint_cm2 / 1000,
    )  # fmt: skip
