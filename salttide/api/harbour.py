"""Harbour: all systems at a glance."""

from datetime import date, datetime

from fastapi import APIRouter, Query, Request

from salttide.core.basics.locale import ClockHours, DayOrder, FirstDay
from salttide.core.basics.measures import KEPT_IN, litres_words, measure_of
from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.phrases import phrase
from salttide.core.failure.board import board, worst_of
from salttide.core.overview.next_up import together
from salttide.core.overview.state import AHEAD_DAYS, SystemState
from salttide.core.planning.hand_dose import DAILY_DOSE
from salttide.core.science.parameters import spoken
from salttide.core.upkeep.rota import Occurrence
from salttide.core.upkeep.task import tasks
from salttide.household.installation import installation_of

from .broken import BrokenSystem, broken_shown
from .context import In
from .models import Model, NextShown, VerdictShown, name_of, next_shown, shown, verdict_shown
from .run_shown import open_work

router = APIRouter(prefix="/api", tags=["harbour"])


class StaffMark(Model):
    """A task on a tide staff, so many days ahead of today. more: tasks of that day beside it."""

    task: str
    name: str
    day: str
    days: int
    late_days: int
    more: int = 0
    leaves: bool = False


class SystemParameter(Model):
    """A parameter's present value and verdict."""

    parameter: str
    name: str
    text: str
    unit: str
    verdict: VerdictShown


class SystemGlance(Model):
    """One system in Harbour."""

    id: int
    name: str
    stock: str
    volume: str
    method: str
    standing: str
    act: bool
    reason: str
    marks: list[StaffMark]
    minutes_today: int
    next_title: str
    next_reason: str
    can_fail: list[str]
    parameters: list[SystemParameter]


class ArchivedSystem(Model):
    """A system that was taken out of use."""

    id: int
    name: str


class OpenWork(Model):
    """A runbook that was started and has not ended."""

    run_id: int
    system_id: int | None
    name: str


class MeasureShown(Model):
    """A unit that fields are kept in, the one this keeper reads and types, and how much of the first one of it is."""

    kept: str
    unit: str
    per: float


class Harbour(Model):
    """All systems, the local time, and unfinished work at the tank."""

    now: datetime
    decimal_sign: DecimalSign
    days: DayOrder
    clock: ClockHours
    week: FirstDay
    measures: list[MeasureShown]
    zone: str
    today: str
    pinned: bool
    ahead_days: int
    systems: list[SystemGlance]
    broken: list[BrokenSystem]
    archived: list[ArchivedSystem]
    minutes_today: int
    open_work: list[OpenWork]
    example: bool


@router.get("/harbour")
def harbour(ctx: In, request: Request) -> Harbour:
    """All systems at a glance."""
    known = ctx.stored.every_system.values()
    systems = [system for system in known if not system.archived]
    glances = [*ctx.household.each(lambda system: _glance(ctx, ctx.household.outlook(system))).values()]
    local = ctx.now.astimezone(ctx.keeper.zone)
    names = {system.id for system in systems}
    return Harbour(
        now=local,
        decimal_sign=ctx.keeper.writing.sign,
        days=ctx.keeper.writing.days,
        clock=ctx.keeper.writing.clock,
        week=ctx.keeper.writing.week,
        measures=[
            MeasureShown(kept=unit, unit=read.unit, per=read.per) for unit in KEPT_IN if (read := measure_of(unit))
        ],
        zone=ctx.keeper.zone.key,
        today=local.date().isoformat(),
        pinned=type(ctx.clock).__name__ == "PinnedClock",
        ahead_days=AHEAD_DAYS,
        systems=glances,
        example=request.app.state.example,
        broken=broken_shown(ctx),
        archived=[ArchivedSystem(id=system.id, name=system.name) for system in known if system.archived],
        minutes_today=sum(glance.minutes_today for glance in glances),
        open_work=[
            OpenWork(run_id=run.id, system_id=run.system_id or None, name=name)
            for run, name in open_work(ctx)
            if run.batch_id or run.system_id in names
        ],
    )


def _glance(ctx: In, view: SystemState) -> SystemGlance:
    today = ctx.today
    units, first = ctx.keeper.units, view.next[0] if view.next else None
    return SystemGlance(
        id=view.system.id,
        name=view.system.name,
        stock=view.system.stock,
        volume=phrase("common.litres_l_net", litres=litres_words(view.system.volume_l, 0)),
        method=view.system.methods.note,
        standing=view.summary.standing,
        act=view.summary.standing.urgent,
        reason=view.summary.reason,
        marks=[*_marks(view, today), *_leaving(ctx, view)],
        minutes_today=round(sum(item.minutes for item in view.occurrences if item.day == today)),
        next_title=first.title if first else phrase("harbour.nothing_to_do"),
        next_reason=first.reason if first else "",
        can_fail=_can_fail(ctx, view),
        parameters=[
            SystemParameter(
                parameter=verdict.parameter,
                name=name_of(verdict.parameter),
                text=(value := shown(verdict.parameter, view.present[verdict.parameter].value, units)).text,
                unit=value.unit,
                verdict=verdict_shown(verdict),
            )
            for verdict in view.verdicts
        ],
    )


def _can_fail(ctx: In, view: SystemState) -> list[str]:
    """The worst three that can fail and that nothing keeps away, by name."""
    worst = worst_of(board(installation_of(ctx.household, view.system)))
    return [*dict.fromkeys(one.kind.short for one in worst)]


def _marks(view: SystemState, today: date) -> list[StaffMark]:
    """Each day's work on the tide staff: the longest task by name, and how many more."""
    days: dict[date, list[Occurrence]] = {}
    for item in view.occurrences:
        # A daily dose stands on every day: the staff shows what is not the same each day.
        if item.task != DAILY_DOSE or item.day == today:
            days.setdefault(item.day, []).append(item)
    marks = []
    for day, items in sorted(days.items()):
        longest = max(items, key=lambda item: item.minutes)
        marks.append(
            StaffMark(
                task=longest.task,
                name=_short(longest),
                more=len(items) - 1,
                day=day.isoformat(),
                days=(day - today).days,
                late_days=max(item.late_days for item in items),
            )
        )
    return marks


def _leaving(ctx: In, view: SystemState) -> list[StaffMark]:
    """What leaves its band within the tide staff's days, by the same forecast as the sheet."""
    zone = ctx.keeper.zone
    ahead = {p: (leaves.at.astimezone(zone).date() - ctx.today).days for p, leaves in view.leaving.items()}
    return [
        StaffMark(task=f"leaves_{p.value}", name=spoken(p), day="", days=days, late_days=0, leaves=True)
        for p, days in ahead.items()
        if days <= AHEAD_DAYS
    ]


class NextOfAll(NextShown):
    """An entry of Next with its system."""

    system_id: int
    system: str


@router.get("/next")
def next_of_all(ctx: In, most: int = Query(8, ge=1, le=100)) -> list[NextOfAll]:
    """What to do now over all systems, in order."""
    views = ctx.household.each(ctx.household.outlook)
    found = together([(view.system, view.next) for view in views.values()])
    return [
        NextOfAll(system_id=system.id, system=system.name, **next_shown(item).model_dump())
        for system, item in found[:most]
    ]


def _short(item: Occurrence) -> str:
    """One word for the tide staff."""
    kind = tasks().get(item.task)
    return kind.short if kind else item.task
