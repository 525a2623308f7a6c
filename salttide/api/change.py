"""Change: a water change by its purpose, planned while typing, compared with another routine, and put on the rota."""

import sqlite3
from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Response

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.number_text import short, show_number
from salttide.core.basics.phrasing import day_words
from salttide.core.judgement.cycling import BreakingIn, Phase
from salttide.core.overview.state import SystemState, Waters
from salttide.core.planning.change import ChangePlan, aim, plan_change
from salttide.core.planning.change_request import ChangeRequest, Emergency, Purpose
from salttide.core.planning.change_step import ChangeStepKind, PlanStep
from salttide.core.planning.plumbing import Drain, Plumbing, check_service, tank_side
from salttide.core.planning.work_order import ChangeWorkOrder, VisualCheckOrder, Water
from salttide.core.science.additives import COMPOUNDS, AlkalinitySource
from salttide.core.science.amount import mass_text
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.sizing import FIRST_NITRATE_MG_L, LARGEST_FIRST_CHANGE
from salttide.core.science.units import show, unit_of
from salttide.core.system import catalogue
from salttide.core.system.livestock import air_bound
from salttide.core.system.system import System
from salttide.core.upkeep.task import tasks
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import system as system_store

from .change_answer import PlanAnswer, plan_answer, siphons
from .change_wish import AIMED, WishBody, at_body_field, cycle_of, drain_of, read_wish
from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, Shown, name_of, plain

router = APIRouter(prefix="/api/systems/{system_id}", tags=["change"])


class PlanBody(WishBody):
    """A wish to put on the rota. `replace`: take the place of what is planned for the system already."""

    replace: bool = False


class SaltChoice(Model):
    """A salt on the shelf."""

    id: int
    name: str
    remark: str


class AimChoice(Model):
    """A parameter that a change can bring somewhere: where it stands, and where its band has its middle."""

    parameter: Parameter
    name: str
    unit: str
    now: str
    target: float


class ServiceBody(RequestModel):
    """Hoses, pumps and levels of a system; null where it was not measured."""

    bore_mm: float = 16
    hose_m: float = 3
    head_cm: float = 80
    pump_l_h: float = 0
    heater_w: float = 0
    fall_cm: float | None = None
    outlet_cm: float | None = None
    rim_cm: float | None = None


class Offer(Model):
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
    purposes: list[Choice]
    aims: list[AimChoice]
    waters: list[Choice]
    batches: list[Choice]
    systems: list[Choice]
    has_sump: bool
    service: ServiceBody
    wish: WishBody | None
    first_target: float
    missing: list[str]
    planned: list[str]


PURPOSES = {
    Purpose.ROUTINE: ("keep the routine", "the usual size, aimed at the middle of the bands"),
    Purpose.BRING: ("bring a parameter down", "size and number follow from where it stands"),
    Purpose.SALINITY: ("move salinity", "by the daily limit, step by step"),
    Purpose.RESTORE: ("restore what is depleted", "by new water that holds more of it"),
    Purpose.DILUTE: ("dilute a contamination", "to the share of it that may be left"),
    Purpose.FIRST: ("the first change after breaking in", "sized to the nitrate that was found"),
    Purpose.NEAR_TOTAL: ("change nearly all of it", "for systems that are kept so; matched in everything"),
}
WATERS = {
    Water.MIX: "a fresh mix",
    Water.NATURAL: "natural seawater",
    Water.STORED: "a stored batch",
    Water.SYSTEM: "water of another system",
}
EMERGENCY_WORDS = {
    Emergency.AMMONIA: "ammonia endangers animals inside",
    Emergency.FAILED_GEAR: "heat or circulation has failed",
    Emergency.POISON: "something poisonous got in",
}


@router.get("/change")
def offer(system_id: Id, ctx: In) -> Offer:
    """What a change of this system can be planned with."""
    system = ctx.stored.system(system_id)
    view = ctx.household.outlook(system)
    salts = ctx.stored.salts
    units = ctx.keeper.units
    natural = system.schools.answers.get("new_water", "").startswith("natural")
    cycle = cycle_of(ctx, system)
    missing = _missing(view, bool(salts) or natural)
    others = [one for one in ctx.stored.systems if one.id != system_id]
    return Offer(
        system_id=system.id,
        name=system.name,
        volume=plain(system.volume_l, 0, "L"),
        today=ctx.today.isoformat(),
        largest_percent=system.schools.largest_fraction * 100,
        salts=[SaltChoice(id=salt.id, name=salt.name, remark=f"{short(salt.strength_g_l)} g/L") for salt in salts],
        sources=[Choice(key=key, name=COMPOUNDS[key].name) for key in AlkalinitySource],
        emergencies=[Choice(key=key, name=name) for key, name in EMERGENCY_WORDS.items()],
        needs_emergency=cycle is not None and cycle.phase != Phase.FINISHED,
        can_siphon=siphons(system),
        alkalinity_unit=unit_of(Parameter.ALKALINITY, units).label,
        salinity_unit=unit_of(Parameter.SALINITY, units).label,
        purposes=_purposes(system),
        aims=[_aim_choice(ctx, view, p) for p in view.present if FACTS[p].dissolved and p in _AIMABLE],
        waters=[Choice(key=key, name=name) for key, name in WATERS.items()],
        batches=_usable(ctx),
        systems=[Choice(key=str(one.id), name=one.name) for one in others],
        has_sump=system.geometry.sump is not None or system.geometry.sump_l > 0,
        service=ServiceBody(**vars(system_store.service(ctx.connection, system_id))),
        wish=None if missing else _first_wish(ctx, system, view, natural, cycle),
        first_target=_first_target(ctx),
        missing=missing,
        planned=[
            f"{step.name}, {day_words(step.day)}"
            for step, work in ctx.household.open_steps(system_id)
            if not isinstance(work, VisualCheckOrder)
        ],
    )


def _missing(view: SystemState, water: bool) -> list[str]:
    """What has to be known first."""
    missing = [name_of(p) for p in (Parameter.SALINITY, Parameter.ALKALINITY) if p not in view.present]
    return missing if water else [*missing, "a salt on the shelf"]


_AIMABLE = (
    Parameter.NITRATE, Parameter.PHOSPHATE, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM,
    Parameter.STRONTIUM, Parameter.ALKALINITY, Parameter.SILICATE,
)  # fmt: skip


def _purposes(system: System) -> list[Choice]:
    """Those that this system can have; the first change and the near-total one only where they are meant."""
    hidden = {Purpose.NEAR_TOTAL} if system.schools.largest_fraction <= 0.5 else set()
    if system.stage != "breaking_in" and (system.animals or system.schools.answers):
        hidden.add(Purpose.FIRST)
    return [Choice(key=key, name=name, remark=remark) for key, (name, remark) in PURPOSES.items() if key not in hidden]


def _aim_choice(ctx: Context, view: SystemState, parameter: Parameter) -> AimChoice:
    unit, value = unit_of(parameter, ctx.keeper.units), view.present[parameter].value
    band = view.system.bands.get(parameter)
    target = unit.from_canonical(band.middle if band else value)
    return AimChoice(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit.label,
        now=show(parameter, value, ctx.keeper.units),
        target=round(target, unit.decimals),
    )


def _usable(ctx: Context) -> list[Choice]:
    """The batches that there is water in."""
    return [
        Choice(key=str(one.id), name=one.name, remark=f"{show_number(one.state.litres, 1)} L, {one.state.phase.value}")
        for one in batch_store.batches(ctx.connection)
        if one.state.usable
    ]


def _first_target(ctx: Context) -> float:
    """The nitrate that a first change after breaking in aims at, in the keeper's unit."""
    unit = unit_of(Parameter.NITRATE, ctx.keeper.units)
    return round(unit.from_canonical(FIRST_NITRATE_MG_L), unit.decimals)


def _first_wish(
    ctx: Context, system: System, view: SystemState, natural: bool, cycle: BreakingIn | None = None
) -> WishBody:
    """The routine size, aimed at the middle of the bands; today where something is out, else on the next due day. A
    system that has broken in has its first change, as its own page says."""
    usual = _routine_wish(ctx, system, view, natural)
    if cycle is None or not cycle.change_fraction:
        return usual
    first = {"purpose": Purpose.FIRST, "parameter": Parameter.NITRATE, "target": _first_target(ctx)}
    return usual.model_copy(update={**first, "fraction_percent": LARGEST_FIRST_CHANGE * 100, "start": ctx.today})


def _routine_wish(ctx: Context, system: System, view: SystemState, natural: bool) -> WishBody:
    today = ctx.today
    due = [item.day for item in view.occurrences if item.task == "water_change"]
    out = [v for v in view.verdicts if v.position.out and v.parameter in (Parameter.SALINITY, Parameter.ALKALINITY)]
    salinity = _aim(ctx, view, Parameter.SALINITY)
    return WishBody(
        fraction_percent=round(system.schools.change_fraction * 100, 2),
        salt_id=ctx.stored.usual_salt.id if ctx.stored.usual_salt else None,
        source=ctx.keeper.additive,
        start=today if out or not due else due[0],
        every_days=2,
        salinity=salinity,
        alkalinity=_aim(ctx, view, Parameter.ALKALINITY),
        siphon=siphons(system),
        water=Water.NATURAL if natural else Water.MIX,
        water_salinity=salinity if natural else None,
    )


def _aim(ctx: Context, view: SystemState, parameter: Parameter) -> float | None:
    """The first target of a parameter, in the keeper's unit."""
    target = aim(view.present[parameter], view.system.bands.get(parameter))
    if target is None:
        return None
    unit = unit_of(parameter, ctx.keeper.units)
    return round(unit.from_canonical(target), unit.decimals + (0 if unit.key.startswith("SG") else 1))


@router.put("/service")
def keep_service(system_id: Id, body: ServiceBody, ctx: In) -> ServiceBody:
    """Keep the hoses, pumps and levels of a system."""
    service = check_service(Plumbing(**body.model_dump()))
    system = ctx.stored.system(system_id)
    tank_side(system, service, 1.0, Drain())
    with ctx.write() as connection:
        system_store.keep_service(connection, system_id, service)
    return body


@router.post("/change/preview", response_model=PlanAnswer)
def preview(system_id: Id, body: WishBody, ctx: In) -> Response:
    """The plan for a wish, without effect. Asked for at every key, so it is written out once, not validated again."""
    system, view, _, plan = _plan(ctx, system_id, body)
    service = system_store.service(ctx.connection, system_id)
    answer = plan_answer(ctx, system, view, plan, service, drain_of(body), body.slow_days)
    return Response(answer.model_dump_json(), media_type="application/json")


@router.post("/change/plans", status_code=201)
def put_on_rota(system_id: Id, body: PlanBody, ctx: In, key: Key) -> Recorded:
    """Put every step of the plan on the rota."""
    system, _, wish, plan = _plan(ctx, system_id, body)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        if body.replace:
            change_store.withdraw_open(connection, system_id, key)
        for number, step in enumerate(plan.steps, 1):
            job = _job(ctx, system, body, wish, plan, step)
            if number > 1:
                job = replace(job, siphon=False, keep_l=0.0)
            minutes = _minutes(ctx, system, step)
            change_store.add_step(connection, system_id, key, step.day, step.kind, _name(step), minutes, job)
        days = [day_words(step.day) for step in plan.steps]
        return {
            "command": key,
            "words": f"{len(days)} on the rota, {days[0]}" + (f" to {days[-1]}" if days[1:] else ""),
        }

    return Recorded(**ctx.command(key, act))


def _name(step: PlanStep) -> str:
    if step.kind == ChangeStepKind.CHANGE:
        return f"Change {show_number(step.volume_l, 1)} L"
    return f"Dose {mass_text(step.system_dose_g)}"


DOSE_MINUTES = 5.0


def _minutes(ctx: Context, system: System, step: PlanStep) -> float:
    if step.kind == ChangeStepKind.DOSE:
        return DOSE_MINUTES
    own = [rule.minutes for rule in ctx.household.rules(system) if rule.kind.key == "water_change"]
    return own[0] if own else tasks()["water_change"].minutes


TARGETED = (Parameter.SALINITY, Parameter.ALKALINITY)


def _plan(ctx: Context, system_id: int, body: WishBody) -> tuple[System, Waters, ChangeRequest, ChangePlan]:
    system = ctx.stored.system(system_id)
    view = ctx.household.waters(system)
    wish = read_wish(ctx, system, body)
    aimed = (body.parameter,) if body.parameter and body.purpose in AIMED else ()
    try:
        return system, view, wish, plan_change(system, view.water, wish, view.net((*TARGETED, *aimed)), ctx.today)
    except SaltTideError as error:
        raise at_body_field(error) from None


def _job(
    ctx: Context, system: System, body: WishBody, wish: ChangeRequest, plan: ChangePlan, step: PlanStep
) -> ChangeWorkOrder:
    """The step frozen for the tank."""
    incoming = {p: span.middle for p, span in step.incoming.items()}
    if step.batch:
        incoming |= {p: span.middle for p, span in step.batch.holds.items() if p not in incoming}
        incoming[Parameter.SALINITY] = step.batch.salinity
    if step.batch_alkalinity_meq_l is not None:
        incoming[Parameter.ALKALINITY] = step.batch_alkalinity_meq_l
    if body.water == Water.MIX and step.batch:
        incoming = {Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0} | incoming
    kinds = catalogue.gear_kinds()
    gear = sorted((kinds[key] for key in system.gear), key=lambda kind: kind.order)
    air_min, air_for = air_bound(system.animals)
    job = ChangeWorkOrder(
        system.id, system.volume_l, step.volume_l, step.buckets, system.bucket_l, 0.0,
        step.temperature_c or 25.0, step.least_temperature_c or 22.0, wish.salt if body.water == Water.MIX else None,
        step.batch.mass_g if step.batch else 0.0, body.source, step.batch_dose_g, step.system_dose_g, step.before,
        incoming, system.limits, {kind.key: kind.name for kind in gear}, body.siphon, plan.close_match,
        ctx.keeper.units, body.water, wish.water.name if wish.water else "",
        wish.water.batch_id if wish.water else 0, wish.water.source_id if wish.water else 0,
        body.purpose == Purpose.NEAR_TOTAL, air_min=air_min, air_for=air_for,
        tool=tasks()["scrape_front"].tool(system.panel),
    )  # fmt: skip
    return _with_tank_side(ctx, system, body, job) if job.litres else job


def _with_tank_side(ctx: Context, system: System, body: WishBody, job: ChangeWorkOrder) -> ChangeWorkOrder:
    service, drain = system_store.service(ctx.connection, system.id), drain_of(body)
    side = tank_side(system, service, job.litres, drain)
    return replace(
        job,
        mark_cm=float(side.mark),
        litres_per_cm=side.litres_per_cm,
        straight=body.straight,
        sump_falls=body.sump_falls,
        keep_l=body.keep_l,
        zones=side.zones,
        heater_w=service.heater_w,
        drain_min=float(side.minutes or 0.0),
        fill_min=float(side.fill or 0.0),
    )
