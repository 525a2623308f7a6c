"""Calendar: the rota as an iCalendar file and at a private address, absences imported from one, and browser
reminders."""

import hashlib
import secrets
import sqlite3
from collections.abc import Callable
from datetime import datetime, time, timedelta
from typing import Annotated

from fastapi import APIRouter, Path, Request, Response
from pydantic import Field

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.lazy import LazyModule
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import clock_words, counted, moment_words, span_words
from salttide.core.basics.refused import refused
from salttide.core.upkeep.calendar import (
    PAST_DAYS,
    CalendarSettings,
    Entry,
    EntryType,
    Issued,
    Work,
    brought_up,
    check_calendar_settings,
    entries_of,
)
from salttide.core.upkeep.care import moved_to
from salttide.files.apart import absences_apart
from salttide.store import calendar as calendar_store
from salttide.store import rota as rota_store

from .context import Context, In, Key, context
from .models import Model, Recorded, RequestModel
from .rota_shown import rota_command

router = APIRouter(tags=["calendar"])
KIND = "text/calendar; charset=utf-8"
_files = LazyModule("salttide.files.calendar")


class CalendarBody(RequestModel):
    """Calendar settings: events or to-dos, when a day's work begins, and how long before it the alarm rings (null: no
    alarm)."""

    entry_type: EntryType
    begins: time
    alarm_minutes: int | None


class CalendarShown(Model):
    """The calendar settings as stored. address: what to give a calendar program; empty while there is none."""

    entry_type: str
    begins: str
    alarm_minutes: int | None
    address: str
    asked_words: str


class FileBody(RequestModel):
    """An iCalendar file as it was read."""

    text: str = Field(max_length=4_000_000)


class AbsencesBody(FileBody):
    """The file, with the identities of the absences to take from it."""

    uids: list[str] = Field(min_length=1, max_length=400)


class AbsenceShown(Model):
    """Days away in a calendar. known: already stored unchanged · remark: why it is not suggested."""

    uid: str
    words: str
    note: str
    cancelled: bool
    known: bool
    remark: str


class AbsencesShown(Model):
    """All that was found in the file."""

    absences: list[AbsenceShown]


class Reminder(Model):
    """A browser notification: when, and in what words."""

    key: str
    at: str
    title: str
    words: str


class Reminders(Model):
    """Today's reminders, and the present moment."""

    now: str
    reminders: list[Reminder]


@router.get("/api/rota/calendar")
def calendar(ctx: In) -> CalendarShown:
    """The calendar settings, and the address it is served at."""
    ctx.of_this_moment()
    kept = calendar_store.calendar(ctx.connection)
    settings = kept.settings if kept else CalendarSettings()
    asked = ctx.memo.issued[1] if ctx.memo.issued else kept.asked_at if kept else None
    return CalendarShown(
        entry_type=settings.entry_type,
        begins=settings.begins.isoformat("minutes"),
        alarm_minutes=settings.alarm_minutes,
        address=f"{ctx.links}/calendar/{kept.token}.ics" if kept and kept.token else "",
        asked_words=phrase("calendar.last_fetched", day=moment_words(asked, ctx.keeper.zone))
        if asked
        else phrase("calendar.not_fetched_yet"),
    )


@router.put("/api/rota/calendar")
def save_calendar(body: CalendarBody, ctx: In, key: Key) -> Recorded:
    """Save the calendar settings."""
    begins = body.begins.replace(second=0, microsecond=0, tzinfo=None)
    settings = check_calendar_settings(CalendarSettings(body.entry_type, begins, body.alarm_minutes))
    return ctx.record_as(key, phrase("calendar.calendar_saved"), lambda c: calendar_store.save_settings(c, settings))


@router.post("/api/rota/calendar/link", status_code=201)
def new_link(ctx: In, key: Key) -> Recorded:
    """Make a private address; an earlier one stops working."""

    def act(connection: sqlite3.Connection) -> None:
        _kept(connection)
        calendar_store.new_address(connection)

    return ctx.record_as(key, phrase("calendar.link_created"), act)


@router.delete("/api/rota/calendar/link")
def delete_link(ctx: In, key: Key) -> Recorded:
    """Remove the address: programs that ask for it get nothing from now on."""
    return ctx.record_as(key, phrase("calendar.link_removed"), calendar_store.no_address)


def _kept(connection: sqlite3.Connection) -> calendar_store.CalendarKept:
    """What is kept; every database has the identity of its household."""
    kept = calendar_store.calendar(connection)
    assert kept is not None
    return kept


@router.get("/api/rota/calendar.ics")
def as_file(ctx: In) -> Response:
    """The rota as a file to import into a calendar."""
    name = f"rota-{ctx.today}.ics"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(_file_of(ctx, _brought_up(ctx)[0], published=True), media_type=KIND, headers=headers)


@router.get("/calendar/{token}.ics", include_in_schema=False)
def feed(token: str, request: Request) -> Response:
    """The rota for a calendar program that polls. What has not changed is not sent again."""
    ctx = context(request)
    kept = calendar_store.calendar(ctx.connection)
    if kept is None or kept.token is None or not secrets.compare_digest(kept.token.encode(), token.encode()):
        raise NotFoundError(phrase("calendar.no_calendar_has_this_link"))
    issued, before = _brought_up(ctx)
    content = _file_of(ctx, issued, published=False)
    _remember(ctx, kept, issued, before)
    tag = f'"{hashlib.sha256(content).hexdigest()[:32]}"'
    if request.headers.get("If-None-Match") == tag:
        return Response(status_code=304, headers={"ETag": tag})
    return Response(content, media_type=KIND, headers={"ETag": tag})


ASKED_EVERY = timedelta(hours=1)
"""How precisely the last time a program asked is remembered."""


def _remember(ctx: Context, kept: calendar_store.CalendarKept, issued: list[Issued], before: list[Issued]) -> None:
    """What was given out is stored with the next command, where it differs."""
    asked = ctx.memo.issued[1] if ctx.memo.issued else kept.asked_at
    if issued != before or asked is None or ctx.now - asked >= ASKED_EVERY:
        ctx.memo.issued = (issued, ctx.now)


def _brought_up(ctx: Context) -> tuple[list[Issued], list[Issued]]:
    """The entries as given out now and last time; while a system cannot be computed, its entries stay as they were."""
    kept = _kept(ctx.connection)
    given = ctx.memo.issued
    last = [*given[0]] if given else [*calendar_store.issued_entries(ctx.connection, ctx.keeper.zone).values()]
    before = {one.entry.uid: one for one in last}
    entries = _entries(ctx)(kept)
    return (last if ctx.household.broken and last else [*brought_up(before, entries, ctx.now)]), last


def _file_of(ctx: Context, issued: list[Issued], published: bool) -> bytes:
    settings = _kept(ctx.connection).settings
    return bytes(_files.calendar_file(issued, settings, ctx.keeper.zone, ctx.links, published))


def _entries(ctx: Context) -> Callable[[calendar_store.CalendarKept], list[Entry]]:
    """The entries, once the identity of the household is known."""
    views, placing = ctx.household.views, ctx.household.schedule[0]
    since = ctx.now - timedelta(days=PAST_DAYS)
    works = [
        Work(
            i,
            view.system.name,
            moved_to(i, view.occurrences, placing.days),
            [care for care in ctx.household.ledger(view.system).care if care.at >= since],
            calendar_store.care_counts(ctx.connection, i),
            rota_store.own_names(ctx.connection),
        )
        for i, view in views.items()
    ]
    return lambda kept: entries_of(kept.home, works, kept.settings, ctx.keeper.zone, ctx.now)


@router.get("/api/rota/reminders")
def reminders(ctx: In) -> Reminders:
    """Today's browser reminders: the day's work, as long before it begins as the calendar's alarm."""
    kept = calendar_store.calendar(ctx.connection)
    settings = kept.settings if kept else CalendarSettings()
    begins = datetime.combine(ctx.today, settings.begins, ctx.keeper.zone)
    at = begins - timedelta(minutes=settings.alarm_minutes or 0)
    views, placing = ctx.household.views, ctx.household.schedule[0]
    work = [
        item for i, v in views.items() for item in moved_to(i, v.occurrences, placing.days) if item.day == ctx.today
    ]
    found = []
    if work:
        minutes = round(sum(item.minutes for item in work))
        words = phrase(
            "calendar.min_from", tasks=counted(len(work), "task"), minutes=minutes, begins=clock_words(begins)
        )
        late = sum(item.late_days > 0 for item in work)
        words += phrase("calendar.late", late=late) if late else ""
        found.append(
            Reminder(
                key=phrase("calendar.day", today=ctx.today),
                at=at.isoformat(),
                title=phrase("calendar.today_round"),
                words=words,
            )
        )
    return Reminders(now=ctx.now.isoformat(), reminders=found)


@router.post("/api/rota/away/preview")
def preview_absences(body: FileBody, ctx: In) -> AbsencesShown:
    """The absences in an iCalendar file. Nothing is stored."""
    known = {one.uid: one for one in rota_store.absences(ctx.connection) if one.uid}
    found = []
    for one in absences_apart(body.text, ctx.keeper.zone, ctx.today):
        kept = known.get(one.uid)
        same = kept is not None and (kept.first, kept.last, kept.note) == (one.first, one.last, one.note)
        if one.cancelled and kept is None:
            continue
        found.append(
            AbsenceShown(
                uid=one.uid, words=span_words(one.first, one.last), note=one.note, cancelled=one.cancelled,
                known=same and not one.cancelled, remark=one.remark,
            )
        )  # fmt: skip
    return AbsencesShown(absences=found)


@router.post("/api/rota/away/import", status_code=201)
def import_absences(body: AbsencesBody, ctx: In, key: Key) -> Recorded:
    """Store the chosen absences. An earlier one of the same identity is replaced; a cancelled one is undone."""
    found = {one.uid: one for one in absences_apart(body.text, ctx.keeper.zone, ctx.today)}
    unknown = [uid for uid in body.uids if uid not in found]
    if unknown:
        raise refused("calendar.this_absence_is_not_in_the", "uids", "calendar.one_read_from_it")
    chosen = [found[uid] for uid in body.uids]

    def act(connection: sqlite3.Connection) -> None:
        for one in chosen:
            away = rota_store.Away(0, one.first, one.last, one.note, one.uid)
            if one.cancelled:
                rota_store.delete_imported(connection, one.uid, key)
            else:
                rota_store.add_away(connection, away, key)

    return rota_command(ctx, key, phrase("calendar.imported", absences=counted(len(chosen), "absence")), act)


@router.post("/api/rota/away/import/{command}/undo")
def undo_import(command: Annotated[str, Path(min_length=8, max_length=80)], ctx: In, key: Key) -> Recorded:
    """Undo an import: what it brought is removed, what it replaced is restored."""
    return rota_command(
        ctx, key, phrase("calendar.absences_as_before"), lambda c: rota_store.undo_import(c, command), relieve=True
    )
