"""A routine of doses as it is typed: what each means brings, what is given, what stays behind."""

from collections.abc import Iterable
from math import ceil

from fastapi import APIRouter

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import counted, listed
from salttide.core.estimate.dose_review import ease_back, is_off
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    USED,
    DailySupplements,
    DayAmount,
    ResidualSalt,
    changes_carry,
    day_amount,
)
from salttide.core.judgement.situation import Situation
from salttide.core.planning.change_step import day_limit
from salttide.core.planning.correction import largest_safe_rise
from salttide.core.science.amount import decimals_of, dose_text, mass_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.recipe import cautions_of, never_meet
from salttide.core.science.topoff import largest_safe_lime_reservoir_l, lime_flood
from salttide.core.science.units import show, unit_of

from .change_tank import Figure
from .context import In
from .dosing import DoseRoutineBody, need_of, routine_of
from .dosing_told import Told, told_of, water_of
from .models import Caution, Id, Model, WorkingStep, caution_shown, plain, working_shown

router = APIRouter(prefix="/api/systems/{system_id}/dosing", tags=["dosing"])


class MeansRow(Model):
    """What is used, or what one means brings a day: alkalinity, calcium, magnesium."""

    name: str
    amounts: list[str]


class BehindShown(Model):
    """What stays of one ion: in a year without changes, and where it settles with them."""

    name: str
    a_year: str
    settles: str


class DoseRoutineAnswer(Model):
    """The routine, without effect."""

    summary: str
    columns: list[str]
    rows: list[MeansRow]
    amounts: list[Figure]
    left: list[str]
    carry: str
    behind: list[BehindShown]
    flood: str
    flood_bad: bool
    notes: list[str]
    ease: list[str]
    cautions: list[Caution]
    working: list[WorkingStep]


@router.post("/preview")
def preview(system_id: Id, body: DoseRoutineBody, ctx: In) -> DoseRoutineAnswer:
    """What a routine asks for and leaves, without effect."""
    told = told_of(ctx, system_id)
    routine = routine_of(told, body)
    flood, bad = _flood(told, body)
    return DoseRoutineAnswer(
        summary=_summary(told, routine),
        columns=[f"{FACTS[p].name}, {unit_of(p, ctx.keeper.units).label}" for p in USED],
        rows=_rows(told, body, routine),
        amounts=[_amount(told, one) for one in routine.amounts],
        left=[f"{told.speed(p, rest)} a day of {spoken(p)} stay uncovered" for p, rest in _left(routine)],
        carry=_carry(told, body),
        behind=[_behind(told, one) for one in routine.behind],
        flood=flood,
        flood_bad=bad,
        notes=[*routine.notes, *_care(told, routine)],
        ease=_eased(told, routine),
        cautions=[caution_shown(key) for key in _cautions(routine, body)],
        working=[step for one in routine.brought for each in one.working for step in working_shown(each.working)],
    )


def _left(routine: DailySupplements) -> Iterable[tuple[Parameter, float]]:
    """What matters of what is left: magnesium that nobody doses is tested monthly, not counted daily."""
    return ((p, rest) for p, rest in routine.left.items() if p != Parameter.MAGNESIUM)


def _summary(told: Told, routine: DailySupplements) -> str:
    if not routine.amounts:
        return "Nothing is dosed." if routine.left else "What comes in covers what is used: nothing is dosed."
    return f"Every day {listed([f'{_size(one)} {one.additive.name}' for one in routine.amounts])}."


def _size(one: DayAmount) -> str:
    return dose_text(one.mass_g, one.ml, one.additive.formula)


def _rows(told: Told, body: DoseRoutineBody, routine: DailySupplements) -> list[MeansRow]:
    need = need_of(told, body)
    rows = [MeansRow(name="used up", amounts=[told.speed(p, need.of(p), False) for p in USED])]
    for one in routine.brought:
        rows.append(MeansRow(name=one.name, amounts=[_cell(told, p, one.amounts.get(p)) for p in USED]))
    for dose in routine.amounts:
        cells = [_cell(told, p, dose.rise if p == dose.parameter else None) for p in USED]
        rows.append(MeansRow(name=dose.additive.name, amounts=cells))
    return rows


def _cell(told: Told, parameter: Parameter, amount: float | None) -> str:
    if amount is None:
        return "–"
    text = told.speed(parameter, amount, False)
    return text if amount < 0 else f"+{text}"


def _amount(told: Told, one: DayAmount) -> Figure:
    raises = f"{one.additive.name} a day: {spoken(one.parameter)} +{told.speed(one.parameter, one.rise)}"
    working = working_shown(one.working.working)
    if one.ml is None:
        return Figure(
            key=one.additive.name, value=plain(one.mass_g, decimals_of(one.mass_g), "g"), words=raises, working=working
        )
    grams = f", {mass_text(one.mass_g)} of it dissolved"
    return Figure(key=one.additive.name, value=plain(one.ml, 1, "mL"), words=raises + grams, working=working)


def _eased(told: Told, routine: DailySupplements) -> list[str]:
    """Where a level is off its target by more than its scatter: the daily dose that brings it back on the way."""
    words, situation = [], Situation(told.system, told.view.ledger, told.ctx.now, told.ctx.keeper.zone)
    for parameter in (ALKALINITY, CALCIUM):
        pace, target = told.paces[parameter], told.targets.get(parameter)
        doses = [one for one in routine.amounts if one.parameter == parameter]
        if pace is None or target is None or not doses or not is_off(pace.level, pace.level_sd, target):
            continue
        whole = sum(one.rise for one in doses)
        ease = ease_back(pace.level, target, whole, situation.limit(parameter))
        sizes = [_size(day_amount(one.additive, parameter, one.rise / whole * ease.dose, told.system.volume_l))
                 + f" {one.additive.name}" for one in doses]  # fmt: skip
        level, goal = (show(parameter, value, told.ctx.keeper.units) for value in (pace.level, target))
        words.append(
            f"{FACTS[parameter].name} stands near {level}: {listed(sizes)} a day for {counted(ease.days, 'day')} bring "
            f"it to {goal} on the way; then as here."
        )
    return words


def _care(told: Told, routine: DailySupplements) -> list[str]:
    """What the step from today's dose, and single doses by hand, must not do."""
    notes, limit = [], told.system.limits.alkalinity_meq_l
    risen = sum(one.rise for one in routine.amounts if one.parameter == ALKALINITY) - told.dosed
    if risen > limit:
        days = ceil(risen / limit)
        notes.append(f"That is {told.speed(ALKALINITY, risen)} a day more than now: step up to it over {days} days.")
    pumped = {one.additive.name for one in told.ctx.stored.containers(told.system.id) if one.pump}
    for one in routine.amounts:
        most = largest_safe_rise(
            one.additive.formula, one.parameter, water_of(told), day_limit(told.system, one.parameter)
        )
        if one.additive.name not in pumped and one.rise > most:
            parts = ceil(one.rise / most)
            notes.append(f"By hand give {one.additive.name} in {parts} parts, hours apart: pH bounds a single dose.")
    return notes


def _carry(told: Told, body: DoseRoutineBody) -> str:
    """Whether the routine of changes alone would be enough, and until what uptake."""
    band = told.system.bands.get(ALKALINITY)
    if told.changes is None or band is None or ALKALINITY not in told.changes.incoming:
        return ""
    most = max(0.0, float(changes_carry(told.changes, ALKALINITY, band.low)))
    uptake = need_of(told, body).alkalinity
    new = show(ALKALINITY, told.changes.incoming[ALKALINITY], told.ctx.keeper.units)
    how = (
        f"{show_number(100 * told.changes.fraction, 0)} % every {told.changes.every_days} days with new water of {new}"
    )
    verdict = "enough here" if most >= uptake else f"not enough for {told.speed(ALKALINITY, uptake)}"
    return (
        f"Changes alone ({how}) carry up to {told.speed(ALKALINITY, most)} a day without leaving the band: {verdict}."
    )


def _behind(told: Told, one: ResidualSalt) -> BehindShown:
    unit = unit_of(one.parameter, {})
    decimals = 1 if one.parameter == Parameter.SALINITY else 0
    settles = "" if one.settles is None else f"+{show_number(one.settles, decimals + 1)} {unit.label}"
    year = f"+{show_number(one.a_year, decimals)} {unit.label}"
    return BehindShown(name=FACTS[one.parameter].name, a_year=year, settles=settles)


def _flood(told: Told, body: DoseRoutineBody) -> tuple[str, bool]:
    """What the whole reservoir of limewater does if it runs in at once."""
    if not body.lime_l or not body.reservoir_l:
        return "", False
    water, volume = told.view.water, told.system.volume_l
    found = lime_flood(
        told.targets[ALKALINITY],
        volume,
        body.reservoir_l,
        water.get(Parameter.PH, 8.1),
        water.get(Parameter.SALINITY, 35.0),
    )
    units = told.ctx.keeper.units
    most = largest_safe_lime_reservoir_l(volume, told.system.limits.alkalinity_meq_l)
    ph = "pH over 9.5" if found.ph_nbs is None else f"pH {show_number(found.ph_nbs, 2)}"
    words = (
        f"All {show_number(body.reservoir_l, 1)} L at once would give {show(ALKALINITY, found.alkalinity_meq_l, units)}"
        f" and {ph} before salinity moves to {show(Parameter.SALINITY, found.salinity, units)}. "
        f"A day's limit is kept by a reservoir of at most {show_number(most, 1)} L."
    )
    return words, body.reservoir_l > most


def _cautions(routine: DailySupplements, body: DoseRoutineBody) -> list[str]:
    used = [one.additive.formula for one in routine.amounts]
    keys = [key for formula in used for key in cautions_of(formula)]
    if any(never_meet(one, other) for one in used for other in used):
        keys.append("two_concentrates")
    if body.lime_l:
        keys.append("limewater")
    return list(dict.fromkeys(keys))
