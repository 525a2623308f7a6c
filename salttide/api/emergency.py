"""Emergencies: their sheets, filled in for one system by its latest measurements."""

from fastapi import APIRouter

from salttide.core.runbook.context import entry_of, filled
from salttide.core.runbook.emergency import sign_words
from salttide.core.runbook.steps import Emergency, Runbook, RunbookContext, RunbookStep
from salttide.core.system.catalogue import kit_items
from salttide.core.system.system import System
from salttide.household.emergency import EmergencyState, emergencies, emergency_of, held_words

from .context import Context, In
from .models import Caution, Id, Model, caution_shown, name_of

router = APIRouter(prefix="/api/systems/{system_id}/emergencies", tags=["emergency"])


class EmergencyLine(Model):
    """An emergency in the list. seen: whether the record shows it now · run_id: of the work under way, if any."""

    key: str
    name: str
    about: str
    signs: list[str]
    seen: bool
    run_id: int | None


class SheetStep(Model):
    """A step of a sheet: what to do with this system's amounts. entry: the quick entry that records it, if any."""

    number: int
    title: str
    text: str
    gear: list[str]
    needs: list[str]
    measures: list[str]
    minutes: int
    optional: bool
    caution: Caution | None
    entry: str


class EmergencySheet(EmergencyLine):
    """A sheet to work from, or to hang by the tank."""

    system: str
    steps: list[SheetStep]
    never: list[str]
    bears: str
    stop: str
    call: str
    held: str
    afterwards: str


@router.get("")
def listing(system_id: Id, ctx: In) -> list[EmergencyLine]:
    """The emergencies of a system: under way, then shown by the record, then the gravest first."""
    system = ctx.household.system(system_id)
    return [_line(ctx, system, one) for one in emergencies(ctx.household, system)]


@router.get("/{key}")
def sheet(system_id: Id, key: str, ctx: In) -> EmergencySheet:
    """One sheet with this system's amounts."""
    system = ctx.household.system(system_id)
    state, setting = emergency_of(ctx.household, system, key)
    told = _emergency(state.book)
    steps = [step for step in state.book.steps if setting.holds(step.when) and (not step.gear or setting.items(step))]
    return EmergencySheet(
        **_line(ctx, system, state).model_dump(),
        system=system.name,
        steps=[_step(ctx, setting, step, number) for number, step in enumerate(steps, 1)],
        never=[filled(one, setting.slots) for one in told.never],
        bears=filled(told.bears, setting.slots),
        stop=filled(told.stop, setting.slots),
        call=filled(told.call, setting.slots),
        held=held_words(state.book),
        afterwards=filled(told.afterwards, setting.slots),
    )


def _emergency(book: Runbook) -> Emergency:
    assert book.emergency
    return book.emergency


def _line(ctx: Context, system: System, state: EmergencyState) -> EmergencyLine:
    book = state.book
    signs = sign_words(system, _emergency(book).signs, ctx.keeper.units)
    return EmergencyLine(
        key=book.key, name=book.name, about=book.about, signs=signs, seen=state.seen,
        run_id=state.run_id or None,
    )  # fmt: skip


def _step(ctx: Context, setting: RunbookContext, step: RunbookStep, number: int) -> SheetStep:
    return SheetStep(
        number=number,
        title=step.title,
        text=filled(step.text, setting.slots),
        gear=[item.name for item in setting.items(step).values()],
        needs=[kit_items()[key].name for key in step.needs],
        measures=[name_of(parameter) for parameter in step.measure],
        minutes=round(setting.timer_min(step)),
        optional=step.optional,
        caution=caution_shown(step.caution) if step.caution else None,
        entry=entry_of(setting, step),
    )
