"""The lanes of the sheet: work done and due, on the same axis as the water."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, time, timedelta

from pydantic import Field

from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import short
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.basics.phrasing import day_words, moment_words, span_words
from salttide.core.ledger.entries import Care, Ledger
from salttide.core.overview.state import SystemState
from salttide.core.planning.work_order import WORKING_HOUR
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence
from salttide.core.upkeep.task import PART, RoundPart, task_words, tasks

from .context import Context
from .models import Model


class CareMark(Model):
    """A task on its lane: done, skipped, due, late or planned."""

    at: datetime
    state: str
    words: str
    label: str
    task: str = ""
    due: str = ""
    step_id: int | None = None


class CareSpan(Model):
    """A time on a lane, with its name and what it was."""

    start: datetime
    end: datetime
    label: str
    words: str
    now: bool


class CareLane(Model):
    """One task through time, or the phases of a programme."""

    task: str
    name: str
    marks: list[CareMark]
    spans: list[CareSpan] = Field(default_factory=list)


LANES: Mapping[str, frozenset[RoundPart]] = {
    "sand": frozenset({RoundPart.DRAIN, RoundPart.STIR, RoundPart.ROCK}),
    "panels": frozenset({RoundPart.CREEP, RoundPart.SCRAPE}),
    "skimmer": frozenset({RoundPart.SKIMMER, RoundPart.FILTER}),
    "gear": frozenset({RoundPart.GEAR, RoundPart.PREPARE, RoundPart.REFILL}),
    "rest": frozenset({RoundPart.LOOK, RoundPart.TEST, RoundPart.TOOLS, RoundPart.DESK}),
}
"""Many tasks share a lane: the sheet is about the water first."""
ONE_BY_ONE = (WATER_CHANGE, "dose")


def care_lanes(ctx: Context, view: SystemState, past: Ledger, start: datetime) -> list[CareLane]:
    """The lanes of this system's tasks, done and due; those without a mark are left out, except the water change."""
    done = [entry for entry in past.care if entry.at >= start]
    lanes = _programmes(ctx, view, start)
    for key, name in phrases("sheet_lanes.lane").items():
        marks = _past(ctx, [entry for entry in done if _lane_of(entry.task, view) == key])
        marks += _ahead(ctx, [item for item in view.occurrences if _lane_of(item.task, view) == key])
        if marks:
            lanes.append(CareLane(task=key, name=name, marks=marks))
    return [*lanes, *_seen_lanes(ctx, past, start)]


def _programmes(ctx: Context, view: SystemState, start: datetime) -> list[CareLane]:
    """The phases of each programme, with its looks."""
    lanes, zone = [], ctx.keeper.zone
    for one in view.basis.programmes:
        closed = one.case.closed
        end = closed.at if closed else ctx.now
        if end < start:
            continue
        stages, reviews = one.course.stages, one.course.record.reviews
        starts = [datetime.combine(stage.since, time(), zone) for stage in stages]
        spans = [
            CareSpan(
                start=begins,
                end=ends.astimezone(zone),
                label=stage.phase.name,
                words=f"{stage.phase.name}: {span_words(begins.date(), ends.astimezone(zone).date())}",
                now=stage is stages[-1] and closed is None,
            )
            for stage, begins, ends in zip(stages, starts, [*starts[1:], end], strict=True)
        ]
        looks = [
            CareMark(
                at=datetime.combine(look.day, WORKING_HOUR, zone),
                state="done",
                words=f"{day_words(look.day)}: {look.coverage}",
                label=look.coverage,
            )
            for look in reviews
        ]
        lanes.append(CareLane(task=f"programme-{one.case.id}", name=one.programme.name, marks=looks, spans=spans))
    return lanes


def _lane_of(task: str, view: SystemState) -> str:
    """The lane of a task; for the keeper's own tasks, by their place in a round."""
    if task in ONE_BY_ONE:
        return task
    task = task.removesuffix(PART)
    kind = tasks().get(task) or next((item.kind for item in view.occurrences if item.task == task), None)
    return next((key for key, parts in LANES.items() if kind and kind.phase in parts), "rest")


def _past(ctx: Context, done: Sequence[Care]) -> list[CareMark]:
    """What was done, one mark a day; skipped tasks have their own."""
    by_day: dict[tuple[date, bool], list[Care]] = {}
    for entry in done:
        by_day.setdefault((ctx.household.day_of(entry.at), entry.skipped), []).append(entry)
    return [
        CareMark(
            at=entries[-1].at.astimezone(ctx.keeper.zone),
            state="skipped" if skipped else "done",
            words=f"{moment_words(entries[-1].at, ctx.keeper.zone)}: "
            + "; ".join(_care_words(entry) for entry in entries),
            label="",
        )
        for (_, skipped), entries in by_day.items()
    ]


def _care_words(entry: Care) -> str:
    name = phrase(f"sheet_lanes.lane.{entry.task}") if entry.task in ONE_BY_ONE else task_words(entry.task)
    return (
        phrase("sheet_lanes.skipped", name=name, reason=entry.reason)
        if entry.skipped
        else phrase("common.name_done", name=name)
    )


STAGGER = timedelta(hours=2)
"""Work of one day is drawn side by side, this far apart."""


def _ahead(ctx: Context, items: Sequence[Occurrence]) -> list[CareMark]:
    marks, days, local = [], [item.day for item in items], ctx.now.astimezone(ctx.keeper.zone)
    for place, item in enumerate(items):
        beside = STAGGER * days[:place].count(item.day)
        marks.append(
            CareMark(
                at=max(local, datetime.combine(item.day, WORKING_HOUR, ctx.keeper.zone)) + min(beside, 2 * STAGGER),
                state="late" if item.late_days else ("planned" if item.step_id else "due"),
                words=f"{item.title}: {day_words(item.day)}, {item.why}",
                label=_label(item.late_days, item.name if item.step_id else ""),
                task=item.task,
                due=item.due.isoformat(),
                step_id=item.step_id,
            )
        )
    return marks


def _seen_lanes(ctx: Context, past: Ledger, start: datetime) -> list[CareLane]:
    """Top-offs, feeds, visual checks and events on the same axis, if any."""
    looks = [
        ("; ".join(s.words for s in look.signs) or phrase("common.nothing_to_note"), look.at) for look in past.looks
    ]
    happened = [(item.words, item.at) for item in past.happenings]
    topped = [
        (phrase("sheet_lanes.l_of_fresh_water", litres=litres_words(item.litres)), item.at) for item in past.top_offs
    ]
    fed = [
        (phrase("sheet_lanes.portions_of", portions=short(item.portions), food=item.food), item.at)
        for item in past.feeds
    ]
    lanes = []
    for task, name, state, entries in (
        ("top_off", phrase("sheet_lanes.topped_off"), "done", topped),
        ("feed", "Fed", "done", fed),
        ("look", "Looked", "done", looks),
        ("happened", "Happened", "happened", happened),
    ):
        marks = [
            CareMark(
                at=at.astimezone(ctx.keeper.zone),
                state=state,
                words=f"{moment_words(at, ctx.keeper.zone)}: {words}",
                label="",
            )
            for words, at in entries
            if at >= start
        ]
        if marks:
            lanes.append(CareLane(task=task, name=name, marks=marks))
    return lanes


def _label(late_days: int, planned: str) -> str:
    if late_days:
        return phrase("sheet_lanes.d_late", late_days=late_days)
    return planned.removeprefix("Change ").removeprefix("Dose ")
