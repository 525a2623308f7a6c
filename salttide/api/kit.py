"""The kit list of a day's visit, ticked before leaving home."""

import sqlite3
from datetime import date

from fastapi import APIRouter

from salttide.core.basics.dates import check_ahead
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words, listed
from salttide.core.basics.refused import refused
from salttide.core.planning.work_order import ChangeWorkOrder
from salttide.core.runbook.kit import KitLine, kit_list, kit_words
from salttide.core.upkeep.task import tasks
from salttide.store import change as change_store
from salttide.store import runbook as run_store

from .context import Context, In, Key
from .models import Id, Model, RequestModel

router = APIRouter(prefix="/api/systems/{system_id}/kit", tags=["kit"])


class KitShown(Model):
    """Something to pack."""

    key: str
    name: str
    amount: str
    why: str
    asked_by: str
    packed: bool


class KitAnswer(Model):
    """The kit list of a day."""

    system: str
    day: str
    day_words: str
    today: str
    words: str
    work: list[str]
    lines: list[KitShown]


class PackBody(RequestModel):
    """Something packed, or taken out again."""

    day: date
    packed: bool


@router.get("")
def kit(system_id: Id, ctx: In, day: date | None = None) -> KitAnswer:
    """What to pack for a day's visit; today where none is named."""
    return _answer(ctx, system_id, day or ctx.today)


def _lines(ctx: Context, system_id: int, day: date) -> tuple[list[str], tuple[KitLine, ...]]:
    """The work of the day by name, and what it asks for."""
    system = ctx.household.system(system_id)
    ahead = (check_ahead(day, ctx.today, "day") - ctx.today).days
    view = ctx.household.outlook(system, max(ahead, 1))
    due = [item for item in view.occurrences if item.day == day]
    steps = [(item.name, change_store.step(ctx.connection, item.step_id).work) for item in due if item.step_id]
    kinds = [tasks()[item.task] for item in due if item.step_id is None and item.task in tasks()]
    tests = any(test.due <= day for test in view.tests)
    names = [item.name for item in due] + (["Tests"] if tests else [])
    if any(kind.key == "water_change" for kind in kinds) and not any(
        isinstance(job, ChangeWorkOrder) for _, job in steps
    ):
        names.append(phrase("kit.plan_the_water_change_to_see"))
    return names, kit_list(system, steps, kinds, tests)


def _answer(ctx: Context, system_id: int, day: date) -> KitAnswer:
    work, lines = _lines(ctx, system_id, day)
    packed = run_store.kit_ticks(ctx.connection, system_id, day)
    return KitAnswer(
        system=ctx.household.system(system_id).name,
        day=day.isoformat(),
        day_words=day_words(day),
        today=ctx.today.isoformat(),
        words=kit_words(lines, packed),
        work=work,
        lines=[
            KitShown(
                key=line.key,
                name=line.name,
                amount=line.amount,
                why=line.why,
                asked_by=listed([name[:1].lower() + name[1:] for name in line.asked_by]),
                packed=line.key in packed,
            )
            for line in lines
        ],
    )


@router.post("/{item}")
def pack(system_id: Id, item: str, body: PackBody, ctx: In, key: Key) -> KitAnswer:
    """Pack something for a day, or take it out again."""
    _, lines = _lines(ctx, system_id, body.day)
    if item not in {line.key for line in lines}:
        raise refused("kit.this_is_not_on_the_list", "item")

    def act(connection: sqlite3.Connection) -> bool:
        run_store.tick_kit(connection, system_id, body.day, item, body.packed)
        return True

    ctx.command(key, act)
    return _answer(ctx, system_id, body.day)
