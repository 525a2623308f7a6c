"""Hand-over: an absence told to a visiting carer, as a sheet to print and as a page of its own; reports come back."""

import sqlite3
from datetime import date, timedelta

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import ConflictError
from salttide.core.basics.measures import litres_words
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import clock_words, day_words, span_words
from salttide.core.ledger.entries import UNNAMED, Entry, Reading
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.handover import (
    Guard,
    HandOver,
    HandOverRequest,
    Household,
    check_hand_over,
    entries_done,
    guards_everywhere,
    hand_over,
    never,
    visits_words,
)
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import show
from salttide.core.system.system import System
from salttide.core.upkeep.care import PLACED_DAYS, moved_to
from salttide.core.upkeep.task import tasks
from salttide.household import acts
from salttide.store import handover as store
from salttide.store.rota import Away

from .broken import untold
from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel, name_of
from .rota_shown import rota_command

router = APIRouter(prefix="/api/rota", tags=["hand-over"])
LINGERS = timedelta(days=3)
"""How long the carer's page stays after the absence, for the last report."""


class NoteBody(RequestModel):
    """A note on one system."""

    system_id: Id
    text: str = Field(max_length=600)


class HandOverBody(RequestModel):
    """How an absence is handed over."""

    every_days: int
    carer: str = Field("", max_length=60)
    phone: str = Field("", max_length=60)
    other_phone: str = Field("", max_length=60)
    note: str = Field("", max_length=600)
    notes: list[NoteBody] = Field(default_factory=list, max_length=60)


class WorkShown(Model):
    """One thing to do on a visit."""

    key: str
    name: str
    how: str
    laid_out: str


class VisitShown(Model):
    """A visit: its day and what is done then."""

    day: str
    words: str
    work: list[WorkShown]


class GuardShown(Model):
    """What to do first when something is wrong, and whether to call."""

    key: str
    when: str
    do: str
    call: bool


class SystemSheet(Model):
    """The sheet of one system."""

    system_id: int
    name: str
    stock: str
    volume: str
    visits: list[VisitShown]
    watched: list[Choice]
    guards: list[GuardShown]
    note: str


class CarerSheet(Model):
    """What the carer gets: the sheets of all systems, whom to call, and what never to do."""

    days: str
    visits: str
    carer: str
    phone: str
    other_phone: str
    note: str
    never: list[str]
    guards: list[GuardShown]
    systems: list[SystemSheet]
    untold: list[str]


class SystemBefore(Model):
    """What the keeper does before leaving, and what waits until they are back."""

    name: str
    before: list[str]
    waits: list[str]


class ReportShown(Model):
    """A carer's report of a visit to one system."""

    id: int
    words: str
    system: str
    done: list[str]
    measured: list[str]
    found: str
    used: str
    advised: str
    pictures: list[str]
    taken: bool
    aside: bool


class HandOverShown(Model):
    """An absence with its hand-over. link: of the carer's page; empty while there is none."""

    away_id: int
    kept: bool
    every_days: int
    carer: str
    phone: str
    other_phone: str
    note: str
    notes: dict[int, str]
    link: str
    sheet: CarerSheet
    before: list[SystemBefore]
    early: str
    reports: list[ReportShown]


@router.get("/away/{number}/hand-over")
def shown(number: Id, ctx: In) -> HandOverShown:
    """The hand-over of an absence as it stands today."""
    kept = store.hand_over_kept(ctx.connection, number)
    away = kept.away if kept else store.absence(ctx.connection, number)
    request = kept.request if kept else HandOverRequest()
    sheets = sheets_of(ctx, away.first, away.last, request)
    return HandOverShown(
        away_id=number,
        kept=kept is not None,
        every_days=request.every_days,
        carer=request.carer,
        phone=request.phone,
        other_phone=request.other_phone,
        note=request.note,
        notes=dict(request.notes),
        link=f"{ctx.links}/visit/{kept.token}" if kept and kept.token else "",
        sheet=carer_sheet(ctx, away, request, sheets),
        before=[
            SystemBefore(name=one.system.name, before=list(one.before), waits=list(one.waits))
            for one in sheets
            if one.before or one.waits
        ],
        early=phrase("handover.too_early") if away.last > ctx.today + timedelta(days=PLACED_DAYS) else "",
        reports=[_report(ctx, one) for one in store.reports(ctx.connection, number)],
    )


def sheets_of(ctx: Context, first: date, last: date, request: HandOverRequest) -> list[HandOver]:
    """The sheet of each system, by the rota as it is."""
    views, placing = ctx.household.views, ctx.household.schedule[0]

    def sheet(system: System) -> HandOver:
        household = Household(
            ctx.household.rules(system),
            moved_to(system.id, views[system.id].occurrences, placing.days),
            ctx.stored.containers(system.id),
            dosed_by_hand(ctx, system),
        )
        units, zone = ctx.keeper.units, ctx.keeper.zone
        return hand_over(system, ctx.household.ledger(system), household, request, first, last, ctx.now, zone, units)

    return [*ctx.household.each(sheet).values()]


def dosed_by_hand(ctx: Context, system: System) -> list[DailyDose]:
    """Daily doses that are given by hand."""
    hand = ctx.household.by_hand(system)
    return [*hand.doses] if hand else []


def carer_sheet(ctx: Context, away: Away, request: HandOverRequest, sheets: list[HandOver]) -> CarerSheet:
    """The carer's sheet."""
    count = max((len(one.visits) for one in sheets), default=0)
    return CarerSheet(
        days=span_words(away.first, away.last),
        visits=visits_words(count, request.every_days),
        carer=request.carer,
        phone=request.phone,
        other_phone=request.other_phone,
        note=request.note,
        never=list(never()),
        guards=[_guard(one) for one in guards_everywhere()],
        systems=[_sheet(one) for one in sheets],
        untold=untold(ctx),
    )


def _sheet(one: HandOver) -> SystemSheet:
    return SystemSheet(
        system_id=one.system.id,
        name=one.system.name,
        stock=one.system.stock,
        volume=litres_words(one.system.volume_l, 0),
        visits=[
            VisitShown(
                day=visit.day.isoformat(),
                words=day_words(visit.day),
                work=[WorkShown(key=w.key, name=w.name, how=w.how, laid_out=w.laid_out) for w in visit.work],
            )
            for visit in one.visits
        ],
        watched=[Choice(key=parameter, name=name_of(parameter), remark=words) for parameter, words in one.bands],
        guards=[_guard(each) for each in one.guards],
        note=one.note,
    )


def _guard(one: Guard) -> GuardShown:
    return GuardShown(key=one.key, when=one.when, do=one.do, call=one.call)


def _report(ctx: Context, one: store.Report) -> ReportShown:
    local = one.at.astimezone(ctx.keeper.zone)
    units = ctx.keeper.units
    return ReportShown(
        id=one.id,
        words=f"{day_words(local.date())}, {clock_words(local)}",
        system=ctx.household.system(one.system_id).name,
        done=[f"{work.name}: {work.laid_out}" if work.laid_out else work.name for work in one.done],
        measured=[
            f"{name_of(Parameter(key))}: {show(Parameter(key), value, units)}" for key, value in one.measured.items()
        ],
        found=one.found,
        used=one.used,
        advised=one.advised,
        pictures=[f"/api/pictures/{each}/thumb" for each in one.pictures],
        taken=one.taken,
        aside=one.aside,
    )


@router.put("/away/{number}/hand-over")
def save(number: Id, body: HandOverBody, ctx: In, key: Key) -> Recorded:
    """Save the hand-over of an absence."""
    notes = {note.system_id: note.text.strip() for note in body.notes if note.text.strip()}
    request = HandOverRequest(
        body.every_days, body.carer.strip(), body.phone.strip(), body.other_phone.strip(), body.note.strip(), notes
    )
    check_hand_over(request)
    return ctx.record_as(key, phrase("handover.hand_over_saved"), lambda c: store.save_hand_over(c, number, request))


@router.post("/away/{number}/hand-over/link", status_code=201)
def new_link(number: Id, ctx: In, key: Key) -> Recorded:
    """Make a page for the carer; an earlier one stops working."""
    return ctx.record_as(key, phrase("handover.page_created"), lambda c: store.new_link(c, number))


@router.delete("/away/{number}/hand-over/link")
def delete_link(number: Id, ctx: In, key: Key) -> Recorded:
    """Remove the carer's page."""
    return ctx.record_as(key, phrase("handover.page_removed"), lambda c: store.no_link(c, number))


@router.post("/reports/{number}/accept", status_code=201)
def accept(number: Id, ctx: In, key: Key) -> Recorded:
    """Accept a report: what was done and measured enters the record at the time of the visit."""
    report = store.report(ctx.connection, number)
    if report.taken:
        raise ConflictError(phrase("handover.this_report_is_already_in_the"), field="number")
    entries = _entries(ctx, report)

    def act(connection: sqlite3.Connection) -> None:
        acts.record(ctx.household, connection, report.system_id, entries, key)
        store.accept_report(connection, number, key)

    return rota_command(ctx, key, phrase("handover.added_to_the_record", entries=len(entries)), act)


def _entries(ctx: Context, report: store.Report) -> list[Entry]:
    system = ctx.household.system(report.system_id)
    minutes = {rule.kind.key: rule.minutes for rule in ctx.household.rules(system)}
    note = phrase("handover.by_the_carer")
    read: list[Entry] = [
        Reading(report.at, Parameter(key), value, FACTS[Parameter(key)].sd, UNNAMED, note=note)
        for key, value in report.measured.items()
    ]
    known = {name: minutes.get(name, kind.minutes) for name, kind in tasks().items()}
    return [
        *entries_done(report.done, ctx.household.ledger(system), dosed_by_hand(ctx, system), report.at, known),
        *read,
    ]


@router.post("/reports/{number}/dismiss")
def dismiss(number: Id, ctx: In, key: Key) -> Recorded:
    """Set a report aside: nothing of it is recorded."""
    store.report(ctx.connection, number)
    return ctx.record_as(key, phrase("handover.set_aside"), lambda c: store.dismiss_report(c, number, True))


@router.post("/reports/{number}/restore")
def restore(number: Id, ctx: In, key: Key) -> Recorded:
    """Bring back a report that was set aside."""
    store.report(ctx.connection, number)
    words = phrase("handover.waiting_for_you_again")
    return ctx.record_as(key, words, lambda c: store.dismiss_report(c, number, False))
