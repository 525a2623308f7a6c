"""Find anything by its words, to go there."""

from fastapi import APIRouter, Query

from salttide.core.overview.search import Found, found_among
from salttide.household.search import everything
from salttide.store.remark import entries_saying

from .context import In
from .models import Id, Model
from .record import record_row

router = APIRouter(prefix="/api", tags=["search"])
MOST, ENTRIES = 24, 12


class HitShown(Model):
    """Something found. key: its number or key within its kind; system_id: null for what is the household's · day: of an
    entry."""

    kind: Found
    title: str
    detail: str
    key: str
    system_id: Id | None
    day: str = ""


@router.get("/search")
def search(ctx: In, text: str = Query("", max_length=100), system_id: Id = 1) -> list[HitShown]:
    """What the household has by these words, the nearest first; then entries in which they were written."""
    named = found_among(text, everything(ctx.household, system_id), system_id)[:MOST]
    names = {system.id: system.name for system in ctx.stored.every_system.values()}
    shown = [
        HitShown(kind=one.kind, title=one.title, detail=one.detail, key=one.key, system_id=one.system_id or None)
        for one in named
    ]
    for row in entries_saying(ctx.connection, text.split(), ENTRIES):
        entry = record_row(ctx, row)
        detail = "; ".join(part for part in (entry.detail, *entry.remarks) if part)
        title = f"{entry.words}, {names.get(row['system_id'], '')}, {entry.day}"
        shown.append(
            HitShown(
                kind=Found.ENTRY,
                title=title,
                detail=detail,
                key=str(row["id"]),
                system_id=row["system_id"],
                day=ctx.household.day_of(row["at"]).isoformat(),
            )
        )
    return shown
