"""Pictures of a system: stored with their date, shown as thumbnails, compared side by side."""

import sqlite3
from datetime import date, datetime, time

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse

from salttide.core.basics.dates import typed_day
from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words
from salttide.core.basics.refused import refused
from salttide.files.apart import picture_apart
from salttide.files.picture import ACCEPTED, LARGEST_BYTES, folder_of, write_picture
from salttide.store import picture as picture_store
from salttide.store.picture import KeptPicture

from .context import Context, In, Key, context
from .models import Id, Model

router = APIRouter(prefix="/api", tags=["pictures"])


class PictureShown(Model):
    """A picture: its addresses, when it was taken, and what it shows."""

    id: int
    url: str
    thumb: str
    day: str
    subject: str
    note: str
    width: int
    height: int
    words: str


class Pictures(Model):
    """The pictures of a system, latest first, and what they show."""

    name: str
    subjects: list[str]
    pictures: list[PictureShown]


class PictureKept(Model):
    """A picture that was saved; its key undoes it."""

    command: str
    words: str
    picture: PictureShown


@router.get("/systems/{system_id}/pictures")
def pictures(system_id: Id, ctx: In) -> Pictures:
    """The pictures of a system."""
    system = ctx.household.system(system_id)
    found = picture_store.pictures(ctx.connection, system_id)
    return Pictures(
        name=system.name,
        subjects=sorted({item.subject for item in found if item.subject}),
        pictures=[_shown(ctx, item) for item in found],
    )


@router.post("/systems/{system_id}/pictures", status_code=201)
async def add_picture(
    system_id: Id,
    request: Request,
    key: Key,
    subject: str = Query("", max_length=60),
    note: str = Query("", max_length=500),
    day: str = Query("", max_length=10),
) -> PictureKept:
    """Save a picture, sent as the body of the request. It is decoded and written anew, without place or camera data."""
    data = bytearray()
    async for piece in request.stream():
        data += piece
        if len(data) > LARGEST_BYTES:
            raise refused("common.this_picture_is_too_large", "file", takes=ACCEPTED)
    return await run_in_threadpool(save_one, context(request), system_id, key, bytes(data), (subject, note, day))


def save_one(ctx: Context, system_id: int, key: str, data: bytes, said: tuple[str, str, str]) -> PictureKept:
    """Save one picture with its subject, a note, and the day it was taken on (empty: now)."""
    system = ctx.household.system(system_id)
    subject, note, day = (text.strip() for text in said)
    at = _taken(ctx, day)
    picture = picture_apart(data)
    # The files first: a row that is confirmed always has its picture.
    write_picture(folder_of(ctx.database.path), picture)
    item = KeptPicture(0, system.id, at, subject, note, picture.digest, picture.width, picture.height)

    def act(connection: sqlite3.Connection) -> int:
        return picture_store.add_picture(connection, item, key)

    kept = picture_store.picture(ctx.connection, ctx.command(key, act))
    words = phrase("picture.picture_of_saved", subject=subject or system.name)
    return PictureKept(command=key, words=words, picture=_shown(ctx, kept))


def _taken(ctx: Context, day: str) -> datetime:
    if not day:
        return ctx.now
    taken = typed_day(day, "day", date(1990, 1, 1), ctx.today)
    return min(ctx.now, datetime.combine(taken, time(12), ctx.keeper.zone))


@router.get("/pictures/{picture_id}/file", response_class=FileResponse)
def picture_file(picture_id: Id, ctx: In) -> FileResponse:
    """A picture itself."""
    return _file(ctx, picture_id, ".jpg")


@router.get("/pictures/{picture_id}/thumb", response_class=FileResponse)
def picture_thumb(picture_id: Id, ctx: In) -> FileResponse:
    """A picture's thumbnail."""
    return _file(ctx, picture_id, ".thumb.jpg")


def _file(ctx: Context, picture_id: int, ending: str) -> FileResponse:
    item = picture_store.picture(ctx.connection, picture_id)
    path = folder_of(ctx.database.path) / f"{item.digest}{ending}"
    if not path.exists():
        raise NotFoundError(phrase("picture.this_picture_file_no_longer"))
    return FileResponse(path, media_type="image/jpeg")


def _shown(ctx: Context, item: KeptPicture) -> PictureShown:
    day = date_words(item.at.astimezone(ctx.keeper.zone).date())
    return PictureShown(
        id=item.id,
        url=f"/api/pictures/{item.id}/file",
        thumb=f"/api/pictures/{item.id}/thumb",
        day=day,
        subject=item.subject,
        note=item.note,
        width=item.width,
        height=item.height,
        words=", ".join(part for part in (item.subject or "picture", day, item.note) if part),
    )
