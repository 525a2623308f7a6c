"""Minutes: the keeper's time by weekday and on single days, and absences."""

from datetime import date

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import FAR_DAYS, check_ahead
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words, span_words
from salttide.core.basics.refused import refused
from salttide.store import rota as rota_store

from .context import In, Key
from .models import Id, Model, Recorded, RequestModel
from .rota_shown import rota_command

router = APIRouter(prefix="/api/rota", tags=["minutes"])
LONGEST_DAYS = 365


class AwayShown(Model):
    """An absence: days on which nobody is there."""

    id: int
    first: str
    last: str
    words: str
    note: str
    imported: bool


class SingleDay(Model):
    """A day with other minutes than its weekday."""

    day: str
    words: str
    minutes: float


class Minutes(Model):
    """The keeper's time: by weekday from Monday on, single days, and absences."""

    week: list[float]
    single: list[SingleDay]
    away: list[AwayShown]


class WeekBody(RequestModel):
    """Minutes by weekday, from Monday on."""

    week: list[float] = Field(min_length=7, max_length=7)


class DayMinutesBody(RequestModel):
    """Minutes of one day; null: those of its weekday again."""

    day: date
    minutes: float | None


class AwayBody(RequestModel):
    """From when to when nobody is there, both days included."""

    first: date
    last: date
    note: str = Field("", max_length=80)


@router.get("/minutes")
def minutes(ctx: In) -> Minutes:
    """The keeper's time from today on."""
    single = rota_store.day_minutes(ctx.connection)
    return Minutes(
        week=list(rota_store.week_minutes(ctx.connection)),
        single=[
            SingleDay(day=day.isoformat(), words=day_words(day), minutes=each)
            for day, each in sorted(single.items())
            if day >= ctx.today
        ],
        away=[
            AwayShown(
                id=one.id, first=one.first.isoformat(), last=one.last.isoformat(), note=one.note,
                words=span_words(one.first, one.last),
                imported=bool(one.uid),
            )
            for one in rota_store.absences(ctx.connection, ctx.today)
        ],
    )  # fmt: skip


def _check(minutes: float, field: str) -> None:
    if not 0 <= minutes <= 1440:
        raise refused("minutes.minutes_in_a_day_to", field, "minutes.to_min")


@router.put("/minutes")
def save_week(body: WeekBody, ctx: In, key: Key) -> Recorded:
    """Keep the minutes by weekday."""
    for number, each in enumerate(body.week):
        _check(each, f"week.{number}")
    return rota_command(
        ctx, key, phrase("minutes.minutes_saved"), lambda c: rota_store.save_week_minutes(c, body.week), relieve=True
    )


@router.put("/minutes/day")
def save_day(body: DayMinutesBody, ctx: In, key: Key) -> Recorded:
    """Other minutes for one day."""
    check_ahead(body.day, ctx.today, "day", FAR_DAYS)
    if body.minutes is not None:
        _check(body.minutes, "minutes")
    words = f"{day_words(body.day)}: " + (
        phrase("minutes.as_on_other_weeks") if body.minutes is None else phrase("minutes.min", minutes=body.minutes)
    )
    return rota_command(ctx, key, words, lambda c: rota_store.save_day_minutes(c, body.day, body.minutes), relieve=True)


@router.post("/away", status_code=201)
def add_away(body: AwayBody, ctx: In, key: Key) -> Recorded:
    """Nobody is there."""
    check_ahead(body.last, ctx.today, "last", FAR_DAYS)
    if not 0 <= (body.last - body.first).days <= LONGEST_DAYS:
        raise refused("minutes.the_last_day_must_not_come", "last", "minutes.the_first_day_up_to_a")
    item = rota_store.Away(0, body.first, body.last, body.note.strip())
    words = phrase("minutes.away_to", first=day_words(body.first), last=day_words(body.last))
    return rota_command(ctx, key, words, lambda c: rota_store.add_away(c, item, key), relieve=True)


@router.delete("/away/{number}")
def delete_away(number: Id, ctx: In, key: Key) -> Recorded:
    """Delete an absence; it can be restored."""
    return rota_command(
        ctx, key, phrase("minutes.absence_undone"), lambda c: rota_store.delete_away(c, number, True), relieve=True
    )


@router.post("/away/{number}/restore")
def restore_away(number: Id, ctx: In, key: Key) -> Recorded:
    """Restore an absence that was deleted."""
    return rota_command(
        ctx, key, phrase("minutes.absence_restored"), lambda c: rota_store.delete_away(c, number, False), relieve=True
    )
