"""Upkeep: a task in full, with its history and the keeper's choices; the keeper's own tasks; the year."""

from datetime import date, timedelta
from functools import partial

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import typed_day
from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import DAYS, counted, day_words, moment_words
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Care
from salttide.core.runbook.file import runbook_keys
from salttide.core.system.catalogue import cautions, kit_items
from salttide.core.system.observations import found_words
from salttide.core.system.system import System
from salttide.core.upkeep.care import AS_USUAL, CareChoice, check_choice_of_care, moved_to
from salttide.core.upkeep.due import ONCE_DAYS, Rule
from salttide.core.upkeep.history import History, history_of
from salttide.core.upkeep.rota import Occurrence, window_days
from salttide.core.upkeep.task import OWN, Measure, RoundPart, TaskKind, own_kind, tasks
from salttide.household import acts
from salttide.store import rota as rota_store

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, named
from .rota_shown import FoundAsked, found_asked, rota_command

router = APIRouter(prefix="/api", tags=["upkeep"])


class ChoiceBody(RequestModel):
    """The keeper's choices for a task; null: as usual."""

    off: bool = False
    every_days: int | None = None
    minutes: float | None = None
    weekdays: list[int] = Field(default_factory=list, max_length=7)
    zones: list[str] | None = Field(None, max_length=8)
    limit: float | None = None


class LastBody(RequestModel):
    """The day on which a task was last done."""

    day: str = Field(max_length=40)


class Time(Model):
    """One time a task was done or skipped."""

    entry_id: int
    at: str
    words: str
    minutes: float | None
    skipped: str
    zone: str
    found: list[str]


class TaskFull(Model):
    """A task of a system in full."""

    task: str
    name: str
    system: str
    about: str
    every_words: str
    window: str
    minutes_words: str
    gaps_words: str
    tool: str
    kit: list[str]
    off: list[str]
    cautions: list[str]
    goes_with: list[str]
    never_with: list[str]
    follows: list[str]
    runbook: str
    own: bool
    usual_days: int
    usual_minutes: float
    usual_zones: list[str]
    usual_limit: float | None
    limit_words: str
    choice: ChoiceBody
    found: list[FoundAsked]
    trend: str
    times: list[Time]


class OwnBody(RequestModel):
    """A task of the keeper's own."""

    name: str = Field(max_length=60)
    every_days: int
    minutes: float
    note: str = Field("", max_length=300)
    phase: RoundPart = RoundPart.TOOLS


class CareRow(Model):
    """A task a system can have: on the rota or not, and how often."""

    task: str
    name: str
    phase: str
    on: bool
    suits: bool
    own: bool
    every_words: str
    minutes: int
    last: str


class Upkept(Model):
    """All tasks of a system."""

    system: str
    rows: list[CareRow]
    phases: list[Choice]


class YearMark(Model):
    """A rare task in a month: done, or due on a day."""

    day: str
    words: str
    done: bool
    late: bool


class YearRow(Model):
    """A rare task of a system through the year."""

    system_id: int
    system: str
    task: str
    name: str
    every_words: str
    last: str
    marks: list[YearMark]


class Year(Model):
    """The rare tasks, from some months back to a year ahead."""

    first: str
    last: str
    today: str
    rows: list[YearRow]


@router.get("/systems/{system_id}/care")
def care(system_id: Id, ctx: In) -> Upkept:
    """All tasks of a system, including those off the rota."""
    system = ctx.household.system(system_id)
    done = _last_days(ctx, system)
    rules = {rule.kind.key: rule for rule in ctx.household.rules(system)}
    held = {task: why for one in ctx.household.wants(system) for task, why in one.holds.items()}
    own = ctx.stored.own_tasks[system_id]
    choices = ctx.stored.care_choices[system_id]
    rows = [
        CareRow(
            task=kind.key,
            name=kind.name,
            phase=kind.phase,
            on=kind.key in rules or kind.key in held,
            suits=kind.key.startswith(OWN) or kind.suits(system),
            own=kind.key.startswith(OWN),
            every_words=phrase("upkeep.held", why=held[kind.key])
            if kind.key in held
            else _every(rules.get(kind.key), kind),
            minutes=round(rules[kind.key].minutes if kind.key in rules else kind.minutes),
            last=day_words(done[kind.key]) if kind.key in done else "",
        )
        for kind in [*tasks().values(), *own]
        if not kind.by and (kind.key in rules or kind.key in choices or (kind.suits(system) and not kind.asked))
    ]
    return Upkept(system=system.name, rows=rows, phases=named("upkeep.part_of_round"))


def _last_days(ctx: Context, system: System) -> dict[str, date]:
    return {
        entry.task: ctx.household.day_of(entry.at) for entry in ctx.household.ledger(system).care if not entry.skipped
    }


def _every(rule: Rule | None, kind: TaskKind) -> str:
    days = rule.every_days if rule else kind.every_days
    if rule and days == ONCE_DAYS:
        return phrase("upkeep.once", why=rule.asked)
    words = phrase("upkeep.every", words=counted(days, "day")) if days > 1 else phrase("upkeep.every_day")
    if rule and rule.weekdays:
        words += " on " + ", ".join(DAYS[day] for day in rule.weekdays)
    if kind.uses:
        words += phrase("upkeep.or_after", uses=counted(kind.uses.most, "use"))
    if kind.measured:
        words += phrase("upkeep.or_by_what_you_observe")
    return words + phrase("upkeep.for_now", why=rule.asked) if rule and rule.asked and not rule.once else words


@router.get("/systems/{system_id}/care/{task}")
def task_full(system_id: Id, task: str, ctx: In) -> TaskFull:
    """One task with its history."""
    system = ctx.household.system(system_id)
    kind = _kind(ctx, system, task)
    choice = ctx.stored.care_choices[system_id].get(task, AS_USUAL)
    rule = next((rule for rule in ctx.household.rules(system) if rule.kind.key == task), None)
    past = [entry for entry in ctx.household.ledger(system).care if entry.task == task]
    history = history_of(kind, past, ctx.keeper.zone)
    early, late = window_days(kind, rule.every_days if rule else kind.every_days)
    names = {key: one.name for key, one in tasks().items()}
    limit = choice.limit if choice.limit is not None else (kind.measured.limit if kind.measured else None)
    return TaskFull(
        task=task,
        name=kind.name,
        system=system.name,
        about=kind.why,
        every_words=_every(rule, kind),
        window=phrase("upkeep.up_to_earlier_later", early=counted(early, "day"), late=counted(late, "day")),
        minutes_words=_minutes_words(rule, kind, history),
        gaps_words=history.gaps,
        tool=kind.tool(system.panel),
        kit=[kit_items()[key].name for key in kind.kit_for(system.panel)],
        off=list(kind.off),
        cautions=[f"{cautions()[key].title}. {cautions()[key].text}" for key in kind.cautions],
        goes_with=[names[key] for key in kind.goes_with],
        never_with=[names[key] for key in kind.never_with],
        follows=[names[key] for key in kind.follows],
        runbook=kind.runbook if kind.runbook in runbook_keys() else "",
        own=task.startswith(OWN),
        usual_days=kind.every_days,
        usual_minutes=kind.minutes,
        usual_zones=list(kind.zones_for(system)),
        usual_limit=kind.measured.limit if kind.measured else None,
        limit_words=_limit_words(kind, limit),
        choice=choice_body(choice),
        found=found_asked(kind.records),
        trend=history.trend,
        times=[_time(ctx, entry) for entry in reversed(past)],
    )


def choice_body(choice: CareChoice) -> ChoiceBody:
    """A choice as the form sends it."""
    return ChoiceBody(**{**vars(choice), "weekdays": list(choice.weekdays)})


def _kind(ctx: Context, system: System, task: str) -> TaskKind:
    own = {kind.key: kind for kind in ctx.stored.own_tasks[system.id]}
    found = tasks().get(task) or own.get(task)
    if found is None:
        raise NotFoundError(phrase("upkeep.this_system_has_no_task", task=task), field="task")
    return found


def _limit_words(kind: TaskKind, limit: float | None) -> str:
    if kind.measured is None:
        return ""
    asked = next(one for one in found_asked((kind.measured.finding,)))
    fall = kind.measured.how == Measure.FALLS
    name, unit = (phrase("upkeep.flow_lost"), "%") if fall else (asked.name, asked.unit)
    limit_words = phrase("upkeep.no_limit_set") if limit is None else f"{show_number(limit, 1)} {unit}"
    return f"{name}: {limit_words}"


def _minutes_words(rule: Rule | None, kind: TaskKind, history: History) -> str:
    usual = rule.minutes if rule else kind.minutes
    learned = (
        phrase("upkeep.from_it_was_timed", times=counted(history.timed, "time"))
        if history.timed
        else phrase("upkeep.never_timed_yet")
    )
    waits = phrase("upkeep.and_min_waiting", minutes=show_number(kind.waits, 0)) if kind.waits else ""
    return phrase("upkeep.min", usual=show_number(usual, 0), learned=learned, waits=waits)


def _time(ctx: Context, entry: Care) -> Time:
    return Time(
        entry_id=entry.id,
        at=entry.at.astimezone(ctx.keeper.zone).isoformat(),
        words=moment_words(entry.at, ctx.keeper.zone),
        minutes=entry.minutes if entry.timed else None,
        skipped=entry.reason if entry.skipped else "",
        zone=entry.zone,
        found=found_words(entry.found),
    )


@router.put("/systems/{system_id}/care/{task}")
def choose(system_id: Id, task: str, body: ChoiceBody, ctx: In, key: Key) -> Recorded:
    """Choose how a task is done in this system; what is left as usual follows the task's defaults."""
    system = ctx.household.system(system_id)
    kind = _kind(ctx, system, task)
    zones = None if body.zones is None else tuple(each.strip() for each in body.zones if each.strip())
    weekdays = tuple(sorted(set(body.weekdays)))
    choice = CareChoice(body.off, body.every_days, body.minutes, weekdays, zones, body.limit)
    check_choice_of_care(choice)

    words = (
        phrase("upkeep.off_the_rota")
        if choice.off
        else (phrase("upkeep.as_usual") if choice == AS_USUAL else phrase("upkeep.as_you_chose"))
    )
    act = partial(rota_store.choose_care, system_id=system_id, task=task, choice=choice)
    return rota_command(ctx, key, f"{kind.name}: {words}", act)


@router.post("/systems/{system_id}/care/{task}/last", status_code=201)
def last_done(system_id: Id, task: str, body: LastBody, ctx: In, key: Key) -> Recorded:
    """Record when a task was last done, as remembered, on any day since the system was started."""
    system = ctx.household.system(system_id)
    kind = _kind(ctx, system, task)
    day = typed_day(body.day, "day", last=ctx.today)
    words = phrase("upkeep.last_done_on", name=kind.name, day=day_words(day))
    last = [(kind.key, kind.minutes, day)]
    return rota_command(ctx, key, words, lambda c: acts.record_last(ctx.household, c, system_id, last, key))


@router.post("/systems/{system_id}/care", status_code=201)
def add_own(system_id: Id, body: OwnBody, ctx: In, key: Key) -> Recorded:
    """A task of the keeper's own."""
    ctx.household.system(system_id)
    kind = own_kind(0, body.name, body.every_days, body.minutes, body.note, body.phase)
    if kind.name.casefold() in {one.name.casefold() for one in ctx.stored.own_tasks[system_id]}:
        raise refused("upkeep.there_is_already_a_task", "name", "common.another_name", name=kind.name)

    words = phrase("upkeep.on_the_rota_every", name=kind.name, days=counted(kind.every_days, "day"))
    act = partial(rota_store.add_own_task, system_id=system_id, kind=kind, note=body.note.strip(), command=key)
    return rota_command(ctx, key, words, act)


@router.delete("/systems/{system_id}/care/{task}")
def delete_own(system_id: Id, task: str, ctx: In, key: Key) -> Recorded:
    """Delete a task of the keeper's own; it can be restored."""
    return _own_dropped(ctx, system_id, task, key, dropped=True)


@router.post("/systems/{system_id}/care/{task}/restore")
def restore_own(system_id: Id, task: str, ctx: In, key: Key) -> Recorded:
    """Restore a task of the keeper's own that was deleted."""
    return _own_dropped(ctx, system_id, task, key, dropped=False)


def _own_dropped(ctx: Context, system_id: int, task: str, key: str, dropped: bool) -> Recorded:
    if not task.startswith(OWN):
        raise refused("upkeep.only_your_own_tasks_can_be", "task")
    act = partial(rota_store.delete_own_task, system_id=system_id, task=task, dropped=dropped)
    words = phrase("upkeep.removed_from_the_rota") if dropped else phrase("upkeep.back_on_the_rota")
    return rota_command(ctx, key, words, act)


BACK_DAYS, AHEAD_DAYS = 120, 366


@router.get("/rota/year")
def year(ctx: In) -> Year:
    """The rare tasks of all systems through the year."""
    first, last = ctx.today - timedelta(days=BACK_DAYS), ctx.today + timedelta(days=AHEAD_DAYS)
    placing = ctx.household.schedule[0]
    rows = []
    for found, system in ctx.household.each(lambda system: (ctx.household.work(system, last), system)).values():
        work = moved_to(system.id, found, placing.days)
        for rule in (rule for rule in ctx.household.rules(system) if rule.kind.rare):
            rows.append(_year_row(ctx, system, rule, [item for item in work if item.task == rule.kind.key], first))
    return Year(first=first.isoformat(), last=last.isoformat(), today=ctx.today.isoformat(), rows=rows)


def _year_row(ctx: Context, system: System, rule: Rule, ahead: list[Occurrence], first: date) -> YearRow:
    past = [entry for entry in ctx.household.ledger(system).care if entry.task == rule.kind.key and not entry.skipped]
    done = [(ctx.household.day_of(entry.at), entry) for entry in past]
    marks = [
        YearMark(day=day.isoformat(), words=phrase("upkeep.done", day=day_words(day)), done=True, late=False)
        for day, _ in done
        if day >= first
    ]
    marks += [
        YearMark(
            day=item.day.isoformat(), words=f"{day_words(item.day)}, {item.why}", done=False, late=bool(item.late_days)
        )
        for item in ahead
    ]
    return YearRow(
        system_id=system.id, system=system.name, task=rule.kind.key, name=rule.kind.name,
        every_words=_every(rule, rule.kind),
        last=day_words(done[-1][0]) if done else phrase('upkeep.not_recorded'), marks=marks,
    )  # fmt: skip
