"""Round: a day's work as one list across systems, in working order, with kit and switch-off list; finished in one
go."""

import sqlite3
from collections.abc import Mapping, Sequence
from datetime import date

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import check_ahead
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, day_words, listed
from salttide.core.ledger.entries import Care
from salttide.core.overview.state import SystemState
from salttide.core.runbook.context import power_on_words
from salttide.core.runbook.kit import KitLine, kit_list
from salttide.core.system.catalogue import cautions, gear_kinds
from salttide.core.upkeep.care import PLACED_DAYS, moved_to
from salttide.core.upkeep.rota import Occurrence
from salttide.core.upkeep.rounds import Round, RoundTask, round_of, shared_minutes
from salttide.core.upkeep.scheduling_model import Days, Schedule
from salttide.core.upkeep.scheduling_phrasing import why
from salttide.household.rota import do, no_planned_change, no_refill, occurrence_of
from salttide.store import change as change_store

from .broken import BrokenSystem, broken_shown
from .changed import ChangedBody
from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel
from .rota import moved_by, took_minutes
from .rota_shown import Task, names_of, rota_command, task_shown

router = APIRouter(prefix="/api/rota", tags=["round"])


class RoundTaskShown(Task):
    """A task of a round: its minutes from the start, and what to do while it is left alone."""

    starts: int
    beside: str
    note: str
    planned: bool


class SystemRound(Model):
    """The round of one system."""

    system_id: int
    name: str
    minutes: int
    elapsed: int
    off: list[Choice]
    on: str
    cautions: list[Choice]
    tasks: list[RoundTaskShown]


class DayRound(Model):
    """A day's work across systems, with one kit list for all of it."""

    day: str
    words: str
    today: str
    minutes: int
    room: int
    kit: list[Choice]
    systems: list[SystemRound]
    broken: list[BrokenSystem]


class FinishedTask(RequestModel):
    """A done task, by its due day or by the step of a plan; for a water change also its water."""

    system_id: Id
    task: str = Field(max_length=40)
    due: date
    step_id: Id | None = None
    changed: ChangedBody | None = None


class FinishBody(RequestModel):
    """What was done in the round; minutes in all, empty where not timed; when, as typed, empty for now."""

    done: list[FinishedTask] = Field(min_length=1, max_length=200)
    minutes: str = Field("", max_length=20)
    when: str = Field("", max_length=40)


@router.get("/round")
def day_round(ctx: In, day: date | None = None) -> DayRound:
    """The round of a day; today's by default."""
    chosen = check_ahead(day or ctx.today, ctx.today, "day", PLACED_DAYS - 1)
    views, (placing, room) = ctx.household.views, ctx.household.schedule
    work = {
        i: [item for item in moved_to(i, v.occurrences, placing.days) if item.day == chosen] for i, v in views.items()
    }
    rounds = {i: round_of(views[i].system, items) for i, items in work.items() if items}
    return DayRound(
        day=chosen.isoformat(),
        words=day_words(chosen),
        today=ctx.today.isoformat(),
        minutes=round(sum(one.hands for one in rounds.values())),
        room=round(room.room(chosen)),
        kit=_kit(ctx, views, rounds),
        systems=[_system_round(views, i, one, placing, room) for i, one in rounds.items()],
        broken=broken_shown(ctx),
    )


def _kit(ctx: Context, views: Mapping[int, SystemState], rounds: dict[int, Round]) -> list[Choice]:
    """What to pack for all systems together: each item once, with amounts by system where they differ."""
    lines: dict[str, list[tuple[str, KitLine]]] = {}
    for i, one in rounds.items():
        items = [each.item for each in one.tasks]
        steps = [(item.name, change_store.step(ctx.connection, item.step_id).work) for item in items if item.step_id]
        for line in kit_list(views[i].system, steps, [item.kind for item in items if item.kind]):
            lines.setdefault(line.name, []).append((views[i].system.name, line))
    return [Choice(key=name, name=name, remark=_remark(asked)) for name, asked in lines.items()]


def _remark(asked: Sequence[tuple[str, KitLine]]) -> str:
    amounts = {name: line.amount for name, line in asked if line.amount}
    pairs = listed([phrase("rounds.for", amount=amount, name=name) for name, amount in amounts.items()])
    return "; ".join(part for part in (pairs, asked[0][1].why) if part)


def _system_round(
    views: Mapping[int, SystemState], system_id: int, one: Round, placing: Schedule, days: Days
) -> SystemRound:
    system, name = views[system_id].system, names_of(views)
    gear, texts = gear_kinds(), cautions()

    def placed(item: Occurrence) -> str:
        ref = (system_id, item.task, item.due, item.step_id)
        return why(ref, placing, days, name) if ref in placing.days else ""

    return SystemRound(
        system_id=system_id,
        name=system.name,
        minutes=round(one.hands),
        elapsed=round(one.elapsed),
        off=[Choice(key=key, name=gear[key].name, remark=gear[key].off_why) for key in one.off],
        on=power_on_words({key: gear[key].name for key in one.off}),
        cautions=[Choice(key=key, name=texts[key].title, remark=texts[key].text) for key in one.cautions],
        tasks=[_task(views[system_id], one, each, placed(each.item)) for each in one.tasks],
    )


def _task(view: SystemState, one: Round, each: RoundTask, placed: str) -> RoundTaskShown:
    others = [other.item.name.lower() for other in one.beside(each)]
    return RoundTaskShown(
        **task_shown(view, each.item, placed).model_dump(),
        starts=round(each.starts),
        note=each.note,
        beside=phrase("rounds.meanwhile", others=listed(others)) if others else "",
        planned=each.item.step_id is not None,
    )


@router.post("/round/finish", status_code=201)
def finish(body: FinishBody, ctx: In, key: Key) -> Recorded:
    """Record everything that was done, all or nothing."""
    took, at = took_minutes(ctx, body.minutes), ctx.when(body.when)
    items = [(one.system_id, _item(ctx, one, number)) for number, one in enumerate(body.done)]
    moved = [
        moved_by(ctx, system_id, item, body.done[number].changed, at, f"done.{number}.changed")
        for number, (system_id, item) in enumerate(items)
    ]
    minutes = [item.minutes for _, item in items]
    shares = minutes if took is None else shared_minutes(minutes, took)

    def act(connection: sqlite3.Connection) -> None:
        for (system_id, item), share, change in zip(items, shares, moved, strict=True):
            care = Care(at, item.task, share, timed=took is not None, zone=item.zone)
            do(ctx.household, connection, system_id, item, care, change, key)

    return rota_command(ctx, key, phrase("rounds.done", words=counted(len(items), "task")), act)


def _item(ctx: Context, one: FinishedTask, number: int) -> Occurrence:
    """The occurrence that was done. Raises NotFoundError or InputError at its place in the list."""
    item = occurrence_of(ctx.household, one.system_id, one.task, one.due, one.step_id)
    no_refill(item, f"done.{number}.task")
    no_planned_change(item)
    return item
