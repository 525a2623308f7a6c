"""Change: a water change by its purpose, planned while typing, compared with another routine, and put on the rota."""

import sqlite3
from dataclasses import replace
from datetime import date
from typing import Any

from fastapi import APIRouter, Response

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import percent, short
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words, span_words
from salttide.core.judgement.cycling import BreakingIn, Phase
from salttide.core.overview.state import SystemState, Waters
from salttide.core.planning.change import ChangePlan, plan_change
from salttide.core.planning.change_options import (
    AIMED,
    TARGETED,
    FirstRequest,
    PurposeDefaults,
    aimable,
    defaults_of,
    first_request,
    held_words,
    level_to_aim_at,
    missing_for_a_change,
    purposes_of,
)
from salttide.core.planning.change_order import TankWork, work_of_plan
from salttide.core.planning.change_request import ChangeRequest, Purpose
from salttide.core.planning.plumbing import check_levels
from salttide.core.planning.work_order import VisualCheckOrder
from salttide.core.science.additives import COMPOUNDS, AlkalinitySource
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import show, unit_of
from salttide.core.system.system import System
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.household.remedy import replace_plans
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import installation as installation_store

from .change_answer import PlanAnswer, plan_answer
from .change_request import ChangeRequestBody, at_body_field, cycle_of, drain_of, read_request
from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, Shown, name_of, named, plain

router = APIRouter(prefix="/api/systems/{system_id}", tags=["change"])


class PlanBody(ChangeRequestBody):
    """A request to put on the rota. `replace`: take the place of what is planned for the system already."""

    replace: bool = False


class SaltChoice(Model):
    """A salt on the shelf."""

    id: int
    name: str
    remark: str


class AimChoice(Model):
    """A parameter that a change can bring somewhere: where it is, and where its band has its middle."""

    parameter: Parameter
    name: str
    unit: str
    now: str
    target: float


class ServiceBody(RequestModel):
    """Hoses, pumps and levels of a system; null where not measured."""

    bore_mm: float = 16
    hose_m: float = 3
    head_cm: float = 80
    pump_l_h: float = 0
    heater_w: float = 0
    fall_cm: float | None = None
    outlet_cm: float | None = None
    rim_cm: float | None = None


class PurposeChoice(Choice):
    """A purpose of a change and the defaults its request starts from, in the keeper's units; null where it has none."""

    fraction_percent: float
    start: date
    left_percent: float | None
    parameter: Parameter | None
    target: float | None


class Offer(Model):
    """What a change can be planned with, and the first request."""

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
    purposes: list[PurposeChoice]
    aims: list[AimChoice]
    waters: list[Choice]
    batches: list[Choice]
    systems: list[Choice]
    has_sump: bool
    service: ServiceBody
    request: ChangeRequestBody | None
    missing: list[str]
    untested: bool
    held: list[str]
    planned: list[str]


@router.get("/change")
def options(system_id: Id, ctx: In) -> Offer:
    """What a change of this system can be planned with, and the first request."""
    system = ctx.household.system(system_id)
    view, cycle = ctx.household.outlook(system), cycle_of(ctx, system)
    missing = missing_for_a_change(system, view.present, bool(ctx.stored.salts))
    others = [one for one in ctx.household.systems if one.id != system_id]
    first = None if missing else _first(ctx, view, cycle)
    return Offer(
        system_id=system.id,
        name=system.name,
        volume=plain(system.volume_l, 0, "L"),
        today=ctx.today.isoformat(),
        largest_percent=percent(system.methods.largest_fraction),
        salts=[
            SaltChoice(id=one.id, name=one.name, remark=f"{short(one.strength_g_l)} g/L") for one in ctx.stored.salts
        ],
        sources=[Choice(key=key, name=COMPOUNDS[key].name) for key in AlkalinitySource],
        emergencies=named("change.emergency"),
        needs_emergency=cycle is not None and cycle.phase != Phase.FINISHED,
        can_siphon=system.methods.siphons,
        alkalinity_unit=unit_of(Parameter.ALKALINITY, ctx.keeper.units).label,
        salinity_unit=unit_of(Parameter.SALINITY, ctx.keeper.units).label,
        purposes=[_purpose(ctx, view, purpose, first) for purpose in purposes_of(system)],
        aims=[_aim_choice(ctx, view, parameter) for parameter in aimable(view.present)],
        waters=named("change.water"),
        batches=_usable(ctx),
        systems=[Choice(key=str(one.id), name=one.name) for one in others],
        has_sump=system.geometry.has_sump,
        service=_service(system),
        request=_wish(ctx, first) if first else None,
        missing=missing,
        held=held_words(system, view.present, ctx.keeper.units),
        untested=any(parameter not in view.present for parameter in TARGETED),
        planned=[
            f"{step.name}, {day_words(step.day)}"
            for step, work in ctx.household.open_steps(system_id)
            if not isinstance(work, VisualCheckOrder)
        ],
    )


def _first(ctx: Context, view: SystemState, cycle: BreakingIn | None) -> FirstRequest:
    due = next((item.day for item in view.occurrences if item.task == WATER_CHANGE), None)
    return first_request(view.system, view.present, view.verdicts, due, ctx.today, cycle)


def _purpose(ctx: Context, view: SystemState, purpose: Purpose, first: FirstRequest | None) -> PurposeChoice:
    usual = first.usual_start if first else ctx.today
    found = defaults_of(view.system, view.present, purpose, usual, ctx.today)
    return PurposeChoice(
        key=purpose,
        name=phrase(f"change.purpose.{purpose}"),
        remark=phrase(f"change.purpose_remark.{purpose}"),
        **_defaults(ctx, found),
    )


def _defaults(ctx: Context, found: PurposeDefaults) -> dict[str, Any]:
    """A purpose's defaults, in the shape of the request's body."""
    target = ctx.shown(found.parameter, found.target) if found.parameter and found.target is not None else None
    return {
        "fraction_percent": percent(found.fraction),
        "start": found.start,
        "left_percent": None if found.left is None else percent(found.left),
        "parameter": found.parameter,
        "target": target,
    }


def _aim_choice(ctx: Context, view: SystemState, parameter: Parameter) -> AimChoice:
    return AimChoice(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit_of(parameter, ctx.keeper.units).label,
        now=show(parameter, view.present[parameter].value, ctx.keeper.units),
        target=ctx.shown(parameter, level_to_aim_at(view.system, view.present, parameter)),
    )


def _usable(ctx: Context) -> list[Choice]:
    """The batches that there is water in."""
    return [
        Choice(key=str(one.id), name=one.name, remark=f"{litres_words(one.state.litres)}, {one.state.phase.value}")
        for one in batch_store.batches(ctx.connection)
        if one.state.usable
    ]


def _wish(ctx: Context, first: FirstRequest) -> ChangeRequestBody:
    """The first request, in the keeper's units."""
    return ChangeRequestBody(
        purpose=first.defaults.purpose,
        **_defaults(ctx, first.defaults),
        salt_id=ctx.stored.usual_salt.id if ctx.stored.usual_salt else None,
        source=ctx.keeper.additive,
        every_days=first.every_days,
        salinity=_target(ctx, Parameter.SALINITY, first.salinity),
        alkalinity=_target(ctx, Parameter.ALKALINITY, first.alkalinity_meq_l),
        siphon=first.siphon,
        water=first.water,
        water_salinity=_target(ctx, Parameter.SALINITY, first.water_salinity),
    )


def _target(ctx: Context, parameter: Parameter, target: float | None) -> float | None:
    """A target in the keeper's unit, a digit finer than results are shown."""
    return None if target is None else ctx.shown(parameter, target, finer=True)


@router.put("/service")
def save_service(system_id: Id, body: ServiceBody, ctx: In) -> ServiceBody:
    """Keep the hoses, pumps and levels of a system."""
    system = ctx.household.system(system_id)
    service = check_levels(system, replace(system.plumbing, **body.model_dump()))
    with ctx.write() as connection:
        installation_store.save(connection, replace(system, plumbing=service))
    return body


def _service(system: System) -> ServiceBody:
    return ServiceBody(**{name: getattr(system.plumbing, name) for name in ServiceBody.model_fields})


@router.post("/change/preview", response_model=PlanAnswer)
def preview(system_id: Id, body: ChangeRequestBody, ctx: In) -> Response:
    """The plan for a request, without effect. Called at every keystroke: serialised once, not validated again."""
    system, view, _, plan = _plan(ctx, system_id, body)
    service = system.plumbing
    answer = plan_answer(ctx, system, view, plan, service, drain_of(body), body.slow_days)
    return Response(answer.model_dump_json(), media_type="application/json")


@router.post("/change/plans", status_code=201)
def put_on_rota(system_id: Id, body: PlanBody, ctx: In, key: Key) -> Recorded:
    """Put every step of the plan on the rota."""
    system, _, request, plan = _plan(ctx, system_id, body)
    tank = TankWork(system.plumbing, drain_of(body), body.siphon)
    work = work_of_plan(system, request, plan, tank, ctx.household.rules(system), ctx.keeper.units)

    def act(connection: sqlite3.Connection) -> str:
        if body.replace:
            replace_plans(ctx.household, connection, system, key)
            change_store.withdraw_open(connection, system_id, key)
        change_store.add_work(connection, system_id, key, work)
        span = span_words(work[0].day, work[-1].day)
        return phrase("change.on_the_rota", count=len(work), span=span)

    return ctx.record(key, act)


def _plan(ctx: Context, system_id: int, body: ChangeRequestBody) -> tuple[System, Waters, ChangeRequest, ChangePlan]:
    system = ctx.household.system(system_id)
    view = ctx.household.waters(system)
    request = read_request(ctx, system, body)
    aimed = (body.parameter,) if body.parameter and body.purpose in AIMED else ()
    try:
        return system, view, request, plan_change(system, view.water, request, view.net((*TARGETED, *aimed)), ctx.today)
    except SaltTideError as error:
        raise at_body_field(error) from None
