"""A plan as shown: what to measure out with the working, before and after of everything, and what to switch off."""

from collections.abc import Iterable, Mapping

from salttide.core.basics.number_text import percent
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.working import Working
from salttide.core.overview.state import Waters
from salttide.core.planning.change import ChangePlan
from salttide.core.planning.change_step import ChangeStepKind, PlanStep
from salttide.core.planning.change_words import (
    LimitPassed,
    known_from,
    limits_passed,
    plan_words,
    row_remark,
    sump_warnings,
    switched_off,
)
from salttide.core.planning.plumbing import Drain, TankSide, tank_side
from salttide.core.science.amount import decimals_of
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.units import UnitChoice, unit_of
from salttide.core.system import catalogue
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.system import System

from .change_tank import Figure, slow_figures, tank_figures
from .context import Context
from .models import (
    BandShown,
    Caution,
    Model,
    Shown,
    WorkingStep,
    band_shown,
    name_of,
    plain,
    shown,
    weighed,
    working_shown,
)


class LimitMark(Model):
    """The end of an animal's tolerance."""

    value: Shown
    words: str
    passed: bool


class BeforeAfter(Model):
    """A parameter before and after a step. `known_from` says where the first step's value comes from; limits: where
    tolerances of the animals end."""

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
    limits: list[LimitMark]


class StepAnswer(Model):
    """One day's work."""

    kind: ChangeStepKind
    day: str
    day_words: str
    percent: Shown
    figures: list[Figure]
    rows: list[BeforeAfter]
    remarks: list[str]
    tank: list[Figure]
    warnings: list[str]


class OffItem(Model):
    """Gear to switch off, and why."""

    kind: str
    name: str
    why: str


class PlanAnswer(Model):
    """A plan: its steps, the power-off list and the cautions."""

    summary: str
    steps: list[StepAnswer]
    off: list[OffItem]
    cautions: list[Caution]
    reached: bool
    slow: list[Figure]


def plan_answer(
    ctx: Context, system: System, view: Waters, plan: ChangePlan, service: Plumbing, drain: Drain, slow_days: int
) -> PlanAnswer:
    """A plan as shown. slow_days: the days a pump pair exchanges it over; 0 for all at once."""
    cautions = [catalogue.cautions()[key] for key in plan.cautions]
    sides = [tank_side(system, service, step.volume_l, drain) if step.volume_l else None for step in plan.steps]
    if any(side and (side.holds_back is False or side.holds_broken is False) for side in sides):
        cautions.append(catalogue.cautions()["sump_room"])
    return PlanAnswer(
        summary=plan_words(system, plan, ctx.keeper.units),
        steps=[
            _step(ctx, system, view, step, number, side)
            for number, (step, side) in enumerate(zip(plan.steps, sides, strict=True))
        ],
        off=[OffItem(kind=one.kind, name=one.name, why=one.why) for one in switched_off(system, plan)],
        cautions=[Caution(key=item.key, title=item.title, text=item.text) for item in cautions],
        reached=plan.reached,
        slow=slow_figures(system, plan, slow_days) if slow_days else [],
    )


def _step(ctx: Context, system: System, view: Waters, step: PlanStep, number: int, side: TankSide | None) -> StepAnswer:
    return StepAnswer(
        kind=step.kind,
        day=step.day.isoformat(),
        day_words=day_words(step.day),
        percent=plain(percent(step.fraction), 1, "%"),
        figures=list(_figures(ctx, step)),
        rows=[_row(ctx, system, view, step, parameter, number) for parameter in Parameter if parameter in step.before],
        remarks=list(step.remarks),
        tank=tank_figures(side, system.methods.siphons) if side else [],
        warnings=sump_warnings(side) if side else [],
    )


def _figures(ctx: Context, step: PlanStep) -> Iterable[Figure]:
    """What to measure out and what to prepare."""
    units, work = ctx.keeper.units, step.working
    if step.batch:
        salinity = shown(Parameter.SALINITY, step.batch.salinity, units)
        yield _figure(
            "volume", plain(step.volume_l, 1, "L"), phrase("change_answer.out_replaced_with_the_same_amount"), work
        )
        if step.batch.mass_g:
            yield _figure("mass", weighed(step.batch.mass_g), phrase("change_answer.salt_weighed"), work)
            yield _figure(
                "fresh_water",
                plain(step.batch.fresh_water_l, 1, "L"),
                phrase("change_answer.fresh_water_to_dissolve_it_in"),
                work,
            )
        yield _figure("salinity", salinity, phrase("change_answer.the_new_water_salinity"), work)
        if not step.batch_dose_g and step.batch_alkalinity_meq_l is not None:
            alkalinity = shown(Parameter.ALKALINITY, step.batch_alkalinity_meq_l, units)
            yield _figure("alkalinity", alkalinity, phrase("change_answer.the_batch_alkalinity_no_dose"), work)
    if step.batch_dose_g:
        alkalinity = shown(Parameter.ALKALINITY, step.batch_alkalinity_meq_l or 0.0, units)
        words = phrase("change_answer.into_the_batch_dissolved_first", number=alkalinity.text, unit=alkalinity.unit)
        yield _figure("batch_dose", plain(step.batch_dose_g, decimals_of(step.batch_dose_g), "g"), words, work)
    if step.system_dose_g:
        yield _figure(
            "system_dose",
            plain(step.system_dose_g, decimals_of(step.system_dose_g), "g"),
            phrase("change_answer.into_the_system_dissolved_over_an"),
            work,
        )
    if step.temperature_c is not None and step.least_temperature_c is not None:
        least = shown(Parameter.TEMPERATURE, step.least_temperature_c, units)
        aim = shown(Parameter.TEMPERATURE, step.temperature_c, units)
        yield _figure(
            "least_temperature",
            aim,
            phrase("change_answer.before_pouring_at_least", number=least.text, unit=least.unit),
            work,
        )


def _figure(key: str, value: Shown, words: str, working: Mapping[str, Working]) -> Figure:
    return Figure(key=key, value=value, words=words, working=working_shown(working.get(key, ())))


def _row(ctx: Context, system: System, view: Waters, step: PlanStep, parameter: Parameter, number: int) -> BeforeAfter:
    units, after = ctx.keeper.units, step.after.get(parameter)
    unit = unit_of(parameter, units)
    span = after or Span(step.before[parameter], step.before[parameter])
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
        known_from=known_from(view.present[parameter], ctx.keeper.zone) if number == 0 else "expected",
        remark=row_remark(step, parameter),
        working=working_shown(step.working.get(f"after_{parameter.value}", ())),
        limits=[_limit(one, parameter, units) for one in limits_passed(system, parameter, span)],
    )


def _limit(one: LimitPassed, parameter: Parameter, units: UnitChoice) -> LimitMark:
    return LimitMark(value=shown(parameter, one.value, units), words=one.words, passed=one.passed)
