"""A system that cannot be computed: what is shown in place of its figures, and what led there."""

import sqlite3
from datetime import date

from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.store import change as change_store
from salttide.store import log as log_store

from .context import Context
from .models import Model
from .record import RecordRow, record_row

ENTRIES = 3


class BrokenSystem(Model):
    """A system whose figures cannot be computed. reference: the fault in the log; entries: what was planned and entered
    last, any of which may be undone."""

    system_id: int
    name: str
    words: str
    reference: str
    entries: list[RecordRow]


def broken_shown(ctx: Context) -> list[BrokenSystem]:
    """Every system that this request does not know to be broken yet."""
    return [
        BrokenSystem(
            system_id=one.system.id,
            name=one.system.name,
            words=phrase("broken.something_in_its_record_cannot_be"),
            reference=one.reference,
            entries=_entries(ctx, one.system.id),
        )
        for one in ctx.household.broken.values()
    ]


def untold(ctx: Context) -> list[str]:
    """The same as a sentence each, for what is printed or handed over."""
    return [
        phrase("broken.is_missing_here_its_work_cannot", system=one.system.name, reference=one.reference)
        for one in ctx.household.broken.values()
    ]


def _entries(ctx: Context, system_id: int) -> list[RecordRow]:
    """Open planned steps, then the latest entries: each is undone by its command."""
    planned = [
        _record_row(
            -number,
            "plan",
            phrase("broken.planned", row=row["name"]),
            row["plan"],
            day=day_words(date.fromisoformat(row["day"])),
        )
        for number, row in enumerate(change_store.last_planned(ctx.connection, system_id, ENTRIES), 1)
    ]
    return [*planned, *(_row(ctx, row) for row in log_store.last_entered(ctx.connection, system_id, ENTRIES))]


def _row(ctx: Context, row: sqlite3.Row) -> RecordRow:
    try:
        return record_row(ctx, row)
    except Exception:  # this may be the very entry that cannot be read
        words = str(row["kind"]).replace("_", "-")
        return _record_row(row["id"], row["kind"], words, row["command"], detail=phrase("broken.cannot_be_shown"))


def _record_row(number: int, kind: str, words: str, command: str, day: str = "", detail: str = "") -> RecordRow:
    return RecordRow(
        id=number,
        kind=kind,
        day=day,
        time="",
        words=words,
        detail=detail,
        command=command,
        gone=False,
        pictures=[],
        remarks=[],
    )
