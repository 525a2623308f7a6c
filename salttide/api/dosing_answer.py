"""A dosing routine as typed: what each method supplies, the doses, and what stays behind in the water."""

from fastapi import APIRouter

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.estimate.supplementation import (
    USED,
    DailySupplements,
    DayAmount,
    Need,
    ResidualSalt,
)
from salttide.core.planning.dosing_words import (
    by_hand_words,
    catch_up_words,
    changes_alone_words,
    lime_flood_words,
    step_up_words,
    summary_of_routine,
    uncovered,
)
from salttide.core.science.amount import decimals_of, mass_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.recipe import cautions_together
from salttide.core.science.units import unit_of
from salttide.household.dosing import need_of, routine_of
from salttide.household.uptake import UptakeContext

from .change_tank import Figure
from .context import In
from .dosing import DoseRoutineBody, request_of
from .models import Caution, Id, Model, WorkingStep, caution_shown, plain, working_shown
from .uptake import uptake_of

router = APIRouter(prefix="/api/systems/{system_id}/dosing", tags=["dosing"])


class MeansRow(Model):
    """Uptake, or what one method supplies a day: alkalinity, calcium, magnesium."""

    name: str
    amounts: list[str]


class BehindShown(Model):
    """What builds up of one ion: in a year without changes, and where it settles with them."""

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
    """What a routine doses and leaves behind, without effect."""
    uptake = uptake_of(ctx, system_id)
    request, at, units = request_of(ctx, body), uptake.dosed_system, ctx.keeper.units
    routine, need = routine_of(uptake, request), need_of(uptake, request)
    flood, bad = lime_flood_words(at, body.reservoir_l) if body.lime_l and body.reservoir_l else ("", False)
    return DoseRoutineAnswer(
        summary=summary_of_routine(routine),
        columns=[f"{FACTS[p].name}, {unit_of(p, units).label}" for p in USED],
        rows=_rows(uptake, need, routine),
        amounts=[_amount(uptake, one) for one in routine.amounts],
        left=[
            phrase("dosing_answer.a_day_of_is_not_replaced", amount=uptake.speed(p, rest), parameter=spoken(p))
            for p, rest in uncovered(routine)
        ],
        carry=changes_alone_words(uptake.system, uptake.changes, need.alkalinity, units, uptake.speed),
        behind=[_behind(one) for one in routine.behind],
        flood=flood,
        flood_bad=bad,
        notes=[
            *routine.notes,
            *step_up_words(at, routine, uptake.dosed, uptake.speed),
            *by_hand_words(at, routine, uptake.pumped),
        ],
        ease=catch_up_words(at, routine),
        cautions=[caution_shown(key) for key in cautions_together(_formulas(routine), bool(body.lime_l))],
        working=[step for one in routine.brought for each in one.working for step in working_shown(each.working)],
    )


def _formulas(routine: DailySupplements) -> list[str]:
    return [one.additive.formula for one in routine.amounts]


def _rows(uptake: UptakeContext, need: Need, routine: DailySupplements) -> list[MeansRow]:
    rows = [MeansRow(name=phrase("dosing_answer.used_up"), amounts=[uptake.speed(p, need.of(p), False) for p in USED])]
    for one in routine.brought:
        rows.append(MeansRow(name=one.name, amounts=[_cell(uptake, p, one.amounts.get(p)) for p in USED]))
    for dose in routine.amounts:
        cells = [_cell(uptake, p, dose.rise if p == dose.parameter else None) for p in USED]
        rows.append(MeansRow(name=dose.additive.name, amounts=cells))
    return rows


def _cell(uptake: UptakeContext, parameter: Parameter, amount: float | None) -> str:
    if amount is None:
        return "–"
    text = uptake.speed(parameter, amount, False)
    return text if amount < 0 else f"+{text}"


def _amount(uptake: UptakeContext, one: DayAmount) -> Figure:
    raises = phrase(
        "dosing_answer.a_day",
        additive=one.additive.name,
        parameter=spoken(one.parameter),
        rise=uptake.speed(one.parameter, one.rise),
    )
    working = working_shown(one.working.working)
    if one.ml is None:
        return Figure(
            key=one.additive.name, value=plain(one.mass_g, decimals_of(one.mass_g), "g"), words=raises, working=working
        )
    dissolved = phrase("dosing_answer.of_it_dissolved", mass=mass_text(one.mass_g))
    return Figure(key=one.additive.name, value=plain(one.ml, 1, "mL"), words=raises + dissolved, working=working)


def _behind(one: ResidualSalt) -> BehindShown:
    unit = unit_of(one.parameter, {})
    decimals = 1 if one.parameter == Parameter.SALINITY else 0
    settles = "" if one.settles is None else f"+{show_number(one.settles, decimals + 1)} {unit.label}"
    year = f"+{show_number(one.a_year, decimals)} {unit.label}"
    return BehindShown(name=FACTS[one.parameter].name, a_year=year, settles=settles)
