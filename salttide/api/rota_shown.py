"""The rota as shown: days with their minutes, lanes with their tasks, and what could not be fitted in."""

import sqlite3
from collections.abc import Callable, Iterable, Mapping
from datetime import date, timedelta

from salttide.core.basics.number_text import significant
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, day_words
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.next_up import review_pages
from salttide.core.overview.state import SystemState
from salttide.core.runbook.file import runbook_keys
from salttide.core.system.observations import asked_in, found_kinds
from salttide.core.upkeep.care import moved_to
from salttide.core.upkeep.catch_up import MissedGroup, catch_up
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence
from salttide.core.upkeep.scheduling_model import Days, Ref, Schedule
from salttide.core.upkeep.scheduling_phrasing import Shortfall, shorts, why

from .broken import BrokenSystem, broken_shown
from .context import Context
from .models import Model, Recorded


class FoundAsked(Model):
    """A finding that a task may record: how it is entered."""

    key: str
    name: str
    input_type: str
    unit: str
    choices: list[str]


class GivenAsked(Model):
    """A daily dose by hand, as planned: its name, amount and unit."""

    name: str
    amount: str
    unit: str


class Task(Model):
    """A task on a day of the rota. why: what makes it due · placed: why it stands on this day · fixed: by keeper."""

    task: str
    name: str
    piece: str
    zone: str
    phase: str
    day: str
    due: str
    due_words: str
    window: str
    earliest: str
    latest: str
    minutes: int
    waits: int
    why: str
    placed: str
    fixed: bool
    about: str
    tool: str
    cautions: list[str]
    late_days: int
    step_id: int | None
    rare: bool
    runbook: str
    found: list[FoundAsked]
    gives: list[GivenAsked]
    programme: str
    told: bool


class RotaDay(Model):
    """A day of the rota: the minutes its work takes and those the keeper has."""

    day: str
    words: str
    minutes: int
    room: int
    away: bool


class Lane(Model):
    """The tasks of one system."""

    system_id: int
    name: str
    tasks: list[Task]


class ShortShown(Model):
    """What does not fit on a day, and what would help."""

    day: str
    words: str
    helps: str


class MissedTask(Model):
    """A task that was missed, and the day it is caught up on."""

    system_id: int
    system: str
    task: str
    due: str
    step_id: int | None
    name: str
    words: str


class MissedShown(Model):
    """Missed tasks that mean the same when they are left undone."""

    key: str
    name: str
    words: str
    tasks: list[MissedTask]


class Rota(Model):
    """Weeks of upkeep, from today. catch_up: what was missed, where it is much."""

    days: list[RotaDay]
    lanes: list[Lane]
    shorts: list[ShortShown]
    catch_up: list[MissedShown]
    broken: list[BrokenSystem]


def rota_shown(ctx: Context, days: int) -> Rota:
    """The rota of the next days."""
    views, (placing, room) = ctx.household.views, ctx.household.schedule
    today = ctx.today
    span = [today + timedelta(days=offset) for offset in range(days)]
    name, with_system = names_of(views), names_of(views, len(views) > 1)
    work = {i: moved_to(i, view.occurrences, placing.days) for i, view in views.items()}
    minutes, missed = dict.fromkeys(span, 0.0), catch_up(work)
    for item in (item for items in work.values() for item in items if item.day in minutes):
        minutes[item.day] += item.minutes
    return Rota(
        days=[
            RotaDay(
                day=day.isoformat(), words=day_words(day), minutes=round(minutes[day]),
                room=round(room.minutes[room.index(day)]), away=day in room.away,
            )
            for day in span
        ],
        lanes=[
            Lane(
                system_id=i,
                name=views[i].system.name,
                tasks=[
                    task_shown(views[i], item, _placed(i, item, placing, room, name))
                    for item in items
                    if item.day <= span[-1]
                ],
            )
            for i, items in work.items()
        ],
        shorts=[
            _short(each)
            for each in shorts(placing, room, with_system)
            if each.day <= span[-1] and not (missed and each.late)
        ],
        catch_up=[_missed(views, one, today) for one in missed],
        broken=broken_shown(ctx),
    )  # fmt: skip


def _missed(views: Mapping[int, SystemState], group: MissedGroup, today: date) -> MissedShown:
    return MissedShown(
        key=group.missed,
        name=phrase(f"rota_shown.{group.missed}"),
        words=group.words(today),
        tasks=[
            MissedTask(
                system_id=i,
                system=views[i].system.name,
                task=item.task,
                due=item.due.isoformat(),
                step_id=item.step_id,
                name=item.title,
                words=phrase("rota_shown.late_today", count=item.late_days)
                if item.day <= today
                else phrase("rota_shown.late", count=item.late_days, day=day_words(item.day)),
            )
            for i, item in group.work
        ],
    )


def names_of(views: Mapping[int, SystemState], with_system: bool = False) -> Callable[[Ref], str]:
    """The name of each piece of work, with its system where needed."""
    known = {
        (i, item.task, item.due, item.step_id): f"{item.title} ({view.system.name})" if with_system else item.title
        for i, view in views.items()
        for item in view.occurrences
    }
    return lambda ref: known.get(ref, ref[1])


def _placed(system_id: int, item: Occurrence, placing: Schedule, days: Days, name: Callable[[Ref], str]) -> str:
    ref = (system_id, item.task, item.due, item.step_id)
    return why(ref, placing, days, name) if ref in placing.days else ""


def _short(each: Shortfall) -> ShortShown:
    return ShortShown(
        day=each.day.isoformat(), words=f"{day_words(each.day)}: {each.words}", helps=capital(each.helps) + "."
    )


def task_shown(view: SystemState, item: Occurrence, placed: str = "") -> Task:
    """An occurrence with everything that is shown of it."""
    kind, system = item.kind, view.system
    window = (
        f"{day_words(item.earliest)} to {day_words(item.latest)}"
        if item.earliest < item.latest
        else phrase("rota_shown.that_day_only")
    )
    return Task(
        task=item.task,
        name=f"{item.name}, {item.piece}" if item.piece else item.name,
        piece=item.piece or "",
        zone=item.zone,
        phase=kind.phase if kind else "",
        day=item.day.isoformat(),
        due=item.due.isoformat(),
        due_words=day_words(item.due),
        window=window,
        earliest=item.earliest.isoformat(),
        latest=item.latest.isoformat(),
        minutes=round(item.minutes),
        waits=round(kind.waits) if kind else 0,
        why=item.why,
        placed="" if item.gives else placed,
        fixed=item.pinned and not item.gives,
        about=kind.why if kind else "",
        tool=kind.tool(system.panel) if kind else "",
        cautions=list(kind.cautions) if kind else [],
        late_days=item.late_days,
        step_id=item.step_id,
        rare=bool(kind and kind.rare),
        runbook=kind.runbook if kind and kind.runbook in runbook_keys() and item.task != WATER_CHANGE else "",
        found=found_asked(kind.records) if kind else [],
        gives=[_gives(one) for one in item.gives],
        programme=review_pages(view.cases).get(item.task, ""),
        told=bool(kind and kind.needs),
    )


def _gives(one: DailyDose) -> GivenAsked:
    amount, unit = (one.ml, "mL") if one.ml else (one.mass_g, "g")
    return GivenAsked(name=one.additive, amount=significant(amount, 3), unit=unit)


def found_asked(keys: Iterable[str]) -> list[FoundAsked]:
    """How each finding is entered."""
    asked = [found_kinds()[key] for key in keys]
    return [
        FoundAsked(key=one.key, name=one.name, input_type=one.input_type, unit=asked_in(one), choices=list(one.choices))
        for one in asked
    ]


def rota_command(
    ctx: Context, key: str, words: str, act: Callable[[sqlite3.Connection], object], relieve: bool = False
) -> Recorded:
    """Run a command that changes the rota, and place what it brings; everything else stays where it is. relieve: with
    other minutes, what stands on overfull days is placed again too."""

    def run(connection: sqlite3.Connection) -> None:
        act(connection)
        # Read everything anew: what was read before the command is out of date.
        ctx.memo.anew(ctx.now).replan(connection, relieve=relieve)

    return ctx.record_as(key, words, run)
