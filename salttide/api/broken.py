"""A system that cannot be told: what is said of it in place of its figures, and what led there."""

import sqlite3

from salttide.store import log as log_store

from .context import Context
from .models import Model
from .record import RecordRow, record_row

ENTRIES = 3


class BrokenSystem(Model):
    """A system whose figures cannot be computed. reference: the fault in the log; entries: the last that were entered,
    any of which may be taken back."""

    system_id: int
    name: str
    words: str
    reference: str
    entries: list[RecordRow]


def broken_shown(ctx: Context) -> list[BrokenSystem]:
    """Every system that could not be told so far in this request."""
    return [
        BrokenSystem(
            system_id=one.system.id,
            name=one.system.name,
            words="Something recorded of it leads to figures that cannot be computed. If it came with one of the last"
            " entries, take that back; nothing else is lost.",
            reference=one.reference,
            entries=_entries(ctx, one.system.id),
        )
        for one in ctx.broken.values()
    ]


def untold(ctx: Context) -> list[str]:
    """The same in a sentence each, for what is printed or handed on."""
    return [
        f"{one.system.name} is missing here: its work cannot be told just now (error {one.reference})."
        for one in ctx.broken.values()
    ]


def _entries(ctx: Context, system_id: int) -> list[RecordRow]:
    rows = log_store.last_entered(ctx.connection, system_id, ENTRIES)
    return [_row(ctx, row) for row in rows]


def _row(ctx: Context, row: sqlite3.Row) -> RecordRow:
    try:
        return record_row(ctx, row)
    except Exception:  # this may be the very entry that nothing can be made of
        return RecordRow(
            id=row["id"], kind=row["kind"], day="", time="", words=str(row["kind"]).replace("_", "-"),
            detail="cannot be shown", command=row["command"], gone=False, pictures=[],
        )  # fmt: skip
