"""Change: a water change planned while typing, and put on the rota."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable
from datetime import date, timedelta
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel

from salttide.core import catalogue
from salttide.core.additives import COMPOUNDS, AlkalinitySource
from salttide.core.change import Emergency, Plan, PlanStep, StepKind, Wish, plan_change
from salttide.core.errors import InputError, SaltTideError
from salttide.core.job import Job
from salttide.core.judge import Position, position
from salttide.core.outlook import Outlook
from salttide.core.parameters import FACTS, Parameter, Span
from salttide.core.system import SandMethod, System
from salttide.core.units import to_canonical, unit_of
from salttide.core.words import day_words, moment_words
from salttide.store import change as change_store
from salttide.store import shelf
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import (
    BandShown,
    Caution,
    Recorded,
    Shown,
    Strict,
    WorkingStep,
    band_shown,
    name_of,
    plain,
    shown,
    working_shown,
)
from .system import Choice

router = APIRouter(prefix="/api/systems/{system_id}/change", tags=["change"])


class WishBody(Strict):
    """What the keeper wants; targets in the keeper's units, null leaves the parameter alone."""

    fraction_percent: float
    salt_id: int
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


class Figure(BaseModel):
    """One line of what it takes, with its working."""

    key: str
    value: Shown
    words: str
    working: list[WorkingStep]


class BeforeAfter(BaseModel):
    """A parameter before and after a step. `known_from` says where the first step's value comes from."""

    parameter: str
    name: str
    unit: str
    band: BandShown | None
    before: Shown
    after: Shown | None
    after_low: Shown | None
    after_high: Shown | None
    known_from: str
    remark: str
    working: list[WorkingStep]


class StepAnswer(BaseModel):
    """One day's work."""

    kind: StepKind
    day: str
    day_words: str
    percent: Shown
    figures: list[Figure]
    rows: list[BeforeAfter]
    remarks: list[str]


class OffItem(BaseModel):
    """Gear to switch off, and why."""

    kind: str
    name: str
    why: str


class PlanAnswer(BaseModel):
    """A plan: its steps, the power-off list and the cautions."""

    summary: str
    steps: list[StepAnswer]
    off: list[OffItem]
    cautions: list[Caution]
    reached: bool


@router.get("")
def offer(system_id: int, ctx: In) -> Offer:
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
        today=ctx.now.astimezone(ctx.keeper.zone).date().isoformat(),
        largest_percent=system.schools.largest_fraction * 100,
        salts=[SaltChoice(id=salt.id, name=salt.name, remark=f"{salt.strength_g_l:g} g/L") for salt in salts],
        sources=[Choice(key=key, name=compound.name) for key, compound in COMPOUNDS.items()],
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
    today = ctx.now.astimezone(ctx.keeper.zone).date()
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
    """Hold what is well inside its band; otherwise go for the middle of the band. In the keeper's unit."""
    band, known = view.system.bands.get(parameter), view.present[parameter]
    if band is None:
        return None
    unit = unit_of(parameter, ctx.keeper.units)
    inside = position(known.value, known.sd, band) == Position.IN_BAND
    aim = unit.from_canonical(known.value if inside else band.middle)
    return round(aim, unit.decimals + (0 if unit.key.startswith("SG") else 1))


@router.post("/preview")
def preview(system_id: int, body: WishBody, ctx: In) -> PlanAnswer:
    """The plan for a wish, without effect."""
    system, view, plan = _plan(ctx, system_id, body)
    return _answer(ctx, system, view, plan)


@router.post("/plans", status_code=201)
def put_on_rota(system_id: int, body: PlanBody, ctx: In, key: Key) -> Recorded:
    """Put every step of the plan on the rota."""
    system, _, plan = _plan(ctx, system_id, body)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        if body.replace:
            change_store.withdraw_open(connection, system_id)
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
        return f"Change {step.volume_l:.1f} L"
    return f"Dose {step.system_dose_g:.1f} g"


DOSE_MINUTES = 5.0


def _minutes(connection: sqlite3.Connection, system_id: int, step: PlanStep) -> float:
    if step.kind == StepKind.DOSE:
        return DOSE_MINUTES
    rules = system_store.care_rules(connection, system_id)
    own = [rule.minutes for rule in rules if rule.kind.key == "water_change"]
    return own[0] if own else catalogue.tasks()["water_change"].minutes


def _plan(ctx: Context, system_id: int, body: WishBody) -> tuple[System, Outlook, Plan]:
    system = system_store.system(ctx.connection, system_id)
    view = ctx.outlook(system)
    today = ctx.now.astimezone(ctx.keeper.zone).date()
    if not today <= body.start <= today + timedelta(days=365):
        raise InputError("choose a day from today on", field="start", accepted=f"{today.isoformat()} or later")
    wish = Wish(
        body.fraction_percent / 100, shelf.salt(ctx.connection, body.salt_id), body.source, body.start, body.every_days,
        _target(ctx, Parameter.SALINITY, body.salinity), _target(ctx, Parameter.ALKALINITY, body.alkalinity),
        body.emergency,
    )  # fmt: skip
    drifts = {p: d.per_day for p, d in view.drifts().items() if d.real and p in TARGETED}
    try:
        return system, view, plan_change(system, view.water, wish, drifts, today)
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
    )  # fmt: skip


def _answer(ctx: Context, system: System, view: Outlook, plan: Plan) -> PlanAnswer:
    gear = sorted((catalogue.gear_kinds()[key] for key in system.gear), key=lambda kind: kind.order)
    cautions = [catalogue.cautions()[key] for key in plan.cautions]
    return PlanAnswer(
        summary=_summary(plan),
        steps=[_step(ctx, system, view, step, number) for number, step in enumerate(plan.steps)],
        off=[OffItem(kind=kind.key, name=kind.name, why=kind.off_why) for kind in gear if kind.off_why],
        cautions=[Caution(key=item.key, title=item.title, text=item.text) for item in cautions],
        reached=plan.reached,
    )


def _summary(plan: Plan) -> str:
    changes = [step for step in plan.steps if step.kind == StepKind.CHANGE]
    last = plan.steps[-1]
    if not plan.reached:
        return f"Not at target after {len(plan.steps)} steps: a larger size or fewer days between them would help."
    if len(plan.steps) == 1:
        return "One change is enough."
    doses = len(plan.steps) - len(changes)
    parts = f"{len(changes)} changes" if len(changes) > 1 else "one change"
    more = f" and {doses} more {'day' if doses == 1 else 'days'} of dosing" if doses else ""
    return f"The daily limits ask for {parts}{more}: at target on {day_words(last.day)}. Test before each step."


def _step(ctx: Context, system: System, view: Outlook, step: PlanStep, number: int) -> StepAnswer:
    return StepAnswer(
        kind=step.kind,
        day=step.day.isoformat(),
        day_words=day_words(step.day),
        percent=plain(step.fraction * 100, 1, "%"),
        figures=list(_figures(ctx, step)),
        rows=[_row(ctx, system, view, step, parameter, number) for parameter in Parameter if parameter in step.before],
        remarks=list(step.remarks),
    )


def _figures(ctx: Context, step: PlanStep) -> Iterable[Figure]:
    """The bill: what to measure out and what to prepare."""
    units, work = ctx.keeper.units, step.working
    if step.batch:
        salinity = shown(Parameter.SALINITY, step.batch.salinity, units)
        yield _figure("volume", plain(step.volume_l, 1, "L"), "out, and as much new water in", work)
        yield _figure("mass", _mass(step.batch.mass_g), "salt, weighed", work)
        yield _figure("fresh_water", plain(step.batch.fresh_water_l, 1, "L"), "fresh water to dissolve it in", work)
        yield _figure("salinity", salinity, "the batch's salinity", work)
        if not step.batch_dose_g and step.batch_alkalinity_meq_l is not None:
            alkalinity = shown(Parameter.ALKALINITY, step.batch_alkalinity_meq_l, units)
            yield _figure("alkalinity", alkalinity, "the batch's alkalinity, no dose needed", work)
    if step.batch_dose_g:
        alkalinity = shown(Parameter.ALKALINITY, step.batch_alkalinity_meq_l or 0.0, units)
        words = f"into the batch, dissolved first: brings it to {alkalinity.text} {alkalinity.unit}"
        yield _figure("batch_dose", plain(step.batch_dose_g, 1, "g"), words, work)
    if step.system_dose_g:
        yield _figure(
            "system_dose", plain(step.system_dose_g, 1, "g"), "into the system, dissolved, over an hour", work
        )
    if step.temperature_c is not None and step.least_temperature_c is not None:
        least = shown(Parameter.TEMPERATURE, step.least_temperature_c, units)
        aim = shown(Parameter.TEMPERATURE, step.temperature_c, units)
        yield _figure(
            "least_temperature", aim, f"to reach before pouring ({least.text} {least.unit} is the least)", work
        )
        yield _figure("buckets", plain(step.buckets, 0, "buckets"), "out, and as many in", work)
        yield _figure("mark", plain(step.mark_cm, 1, "cm"), "under the level with pumps off: the mark", work)


def _mass(grams: float) -> Shown:
    return plain(grams / 1000, 3, "kg") if grams >= 1000 else plain(grams, 0, "g")


def _figure(key: str, value: Shown, words: str, working: Any) -> Figure:
    return Figure(key=key, value=value, words=words, working=working_shown(working.get(key, ())))


def _row(ctx: Context, system: System, view: Outlook, step: PlanStep, parameter: Parameter, number: int) -> BeforeAfter:
    units, after = ctx.keeper.units, step.after.get(parameter)
    unit = unit_of(parameter, units)
    wide = after is not None and after.width > 10**-unit.decimals
    return BeforeAfter(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit.label,
        band=band_shown(parameter, system.bands.get(parameter), units),
        before=shown(parameter, step.before[parameter], units),
        after=shown(parameter, after.middle, units) if after else None,
        after_low=shown(parameter, after.low, units) if after and wide else None,
        after_high=shown(parameter, after.high, units) if after and wide else None,
        known_from=_known_from(ctx, view, parameter) if number == 0 else "expected",
        remark=_remark(step, parameter, after),
        working=working_shown(step.working.get(f"after_{parameter.value}", ())),
    )


def _known_from(ctx: Context, view: Outlook, parameter: Parameter) -> str:
    known = view.present[parameter]
    when = moment_words(known.reading.at, ctx.keeper.zone)
    return f"{known.reading.instrument}, {when}" if known.measured else f"carried on from {when}"


def _remark(step: PlanStep, parameter: Parameter, after: Span | None) -> str:
    if parameter == Parameter.PH:
        return "follows the room's air: measure an hour later"
    if parameter == Parameter.TEMPERATURE:
        return "held by the heater"
    if step.kind == StepKind.CHANGE and after is None and FACTS[parameter].dissolved:
        return "the salt's label does not say"
    return ""
