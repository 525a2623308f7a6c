"""Gear: wearing parts of every system with the life left in them, when each is due for replacement, spares, and
findings."""

import sqlite3
from datetime import date

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.measures import part_words
from salttide.core.basics.number_text import percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words, day_words
from salttide.core.system.system import System
from salttide.core.upkeep.gear import Part, PartKept, check_part, part_kinds, with_spares
from salttide.core.upkeep.task import tasks
from salttide.household.purchases import worn_parts
from salttide.store import gear as gear_store
from salttide.store import picture as picture_store

from .context import Context, In, Key
from .models import Id, Model, Recorded, RequestModel
from .rota_shown import rota_command

router = APIRouter(prefix="/api", tags=["gear"])


class LifeShown(Model):
    """How much of a part's life is used, in words, and the percentage left."""

    words: str
    left: int


class GearPartBody(RequestModel):
    """What the keeper says of a part; null: the usual value, or not known."""

    since: date | None = None
    hours_per_day: float | None = None
    most_hours: float | None = None
    most_days: int | None = None
    spares: int | None = None
    note: str = Field("", max_length=300)


class PartTold(Model):
    """What the keeper has said of a part so far."""

    since: date | None
    hours_per_day: float | None
    most_hours: float | None
    most_days: int | None
    spares: int | None
    note: str


class PartShown(Model):
    """A part as it is. photo: the latest picture of how it comes apart."""

    part: str
    name: str
    task: str
    task_name: str
    hours: bool
    days: bool
    changed: bool
    lives: list[LifeShown]
    since_words: str
    next_words: str
    next_why: str
    new_words: str
    spare_words: str
    buy: bool
    serviced_words: str
    found: list[str]
    flow_words: str
    flow_low: bool
    kept: PartTold
    usual_hours_per_day: float
    usual_most_hours: float
    usual_most_days: int
    subject: str
    photo: str
    photo_words: str


class SystemGear(Model):
    """The parts of one system, the most worn first."""

    system_id: int
    name: str
    parts: list[PartShown]


class Gear(Model):
    """All wearing parts."""

    systems: list[SystemGear]


NEAR_DAYS = 300


@router.get("/gear")
def gear(ctx: In) -> Gear:
    """The parts of all systems."""
    systems = []
    for parts, system in ctx.household.each(lambda system: (_parts(ctx, system), system)).values():
        photos = _photos(ctx, system.id)
        systems.append(
            SystemGear(system_id=system.id, name=system.name, parts=[_shown(ctx, part, photos) for part in parts])
        )
    return Gear(systems=systems)


def _parts(ctx: Context, system: System) -> list[Part]:
    """The parts of a system: first those to buy or with lost flow, then the most worn."""
    found = worn_parts(ctx.household, system)
    return sorted(found, key=lambda part: (_calm(part, ctx.today), part.lives[0].left if part.lives else 1.0))


def _calm(part: Part, today: date) -> bool:
    return not (part.to_buy(today) or part.flow_low)


def _photos(ctx: Context, system_id: int) -> dict[str, picture_store.KeptPicture]:
    """The latest picture by subject."""
    found: dict[str, picture_store.KeptPicture] = {}
    for one in picture_store.pictures(ctx.connection, system_id):
        found.setdefault(one.subject, one)
    return found


def _shown(ctx: Context, part: Part, photos: dict[str, picture_store.KeptPicture]) -> PartShown:
    kind, kept = part.kind, part.kept
    subject = phrase("gear.parts", kind=kind.name)
    photo = photos.get(subject)
    rule_days = any(life.by == "days" for life in part.lives)
    return PartShown(
        part=kind.key,
        name=kind.name,
        task=kind.task,
        task_name=tasks()[kind.task].name,
        hours=bool(kind.most_hours),
        days=bool(kind.most_days) and not kind.changed,
        changed=kind.changed,
        lives=[LifeShown(words=life.words, left=round(percent(life.left))) for life in part.lives],
        since_words=_since_words(part.since, ctx.today),
        next_words=_far_words(part.next_on, ctx.today) if part.next_on else "",
        next_why=part.next_why,
        new_words=_new_words(part, rule_days),
        spare_words=_spare_words(part, ctx.today),
        buy=part.to_buy(ctx.today),
        serviced_words=_serviced_words(part.serviced, ctx.today),
        found=list(part.found),
        flow_words=_flow_words(part),
        flow_low=part.flow_low,
        kept=PartTold(
            since=kept.since, hours_per_day=kept.hours_per_day, most_hours=kept.most_hours, most_days=kept.most_days,
            spares=part.spares, note=kept.note,
        ),
        usual_hours_per_day=kind.hours_per_day,
        usual_most_hours=kind.most_hours,
        usual_most_days=kind.most_days,
        subject=subject,
        photo=f"/api/pictures/{photo.id}/thumb" if photo else "",
        photo_words=date_words(ctx.household.day_of(photo.at)) if photo else "",
    )  # fmt: skip


def _new_words(part: Part, known: bool) -> str:
    """When a part that its task only services has to be replaced."""
    if part.kind.changed:
        return ""
    return phrase("gear.a_new_one_about", day=date_words(part.changes_on)) if part.changes_on and known else ""


def _since_words(day: date | None, today: date) -> str:
    return phrase("gear.since", day=_far_words(day, today)) if day else phrase("gear.since_when_is_not_known")


def _serviced_words(day: date | None, today: date) -> str:
    return phrase("gear.last", day=_far_words(day, today)) if day else phrase("gear.not_recorded_yet")


def _far_words(day: date, today: date) -> str:
    """A date; with its year where the weekday alone would mislead."""
    return day_words(day) if abs((day - today).days) < NEAR_DAYS else date_words(day)


def _spare_words(part: Part, today: date) -> str:
    if part.spares:
        return phrase("gear.on_the_shelf", count=part.spares)
    if part.to_buy(today):
        return phrase("gear.to_buy") if part.spares is None else phrase("gear.none_left_buy_one")
    return phrase("gear.none_on_the_shelf") if part.spares == 0 else phrase("gear.not_counted")


def _flow_words(part: Part) -> str:
    if part.fall is None:
        return ""
    flow = part_words(part.fall.now, part.fall.after, "L/h", 0)
    lost = part.fall.percent
    if part.kind.flow == part.kind.task:
        return phrase("gear.had_lost_by_the_last_service", lost=show_number(lost, 0), flow=flow)
    change = phrase("gear.less_flow_than", lost=show_number(lost, 0)) if lost >= 0.5 else phrase("gear.as_much_flow_as")
    return phrase("gear.after_the_service_of_l_h", change=change, flow=flow, day=day_words(part.fall.day))


@router.put("/systems/{system_id}/gear/{part}")
def save_part(system_id: Id, part: str, body: GearPartBody, ctx: In, key: Key) -> Recorded:
    """Save what the keeper says of a part."""
    system = ctx.household.system(system_id)
    kind = part_kinds().get(part)
    if kind is None or not kind.suits(system):
        raise NotFoundError(phrase("gear.this_system_has_no", part=part), field="part")
    before = next(one for one in _parts(ctx, system) if one.kind.key == part)
    data = PartKept(
        body.since, body.hours_per_day, body.most_hours, body.most_days, before.kept.spares, before.kept.counted_at,
        body.note.strip(),
    )  # fmt: skip
    if body.spares != before.spares:
        data = with_spares(data, body.spares, ctx.now)
    check_part(data, ctx.today)

    def act(connection: sqlite3.Connection) -> None:
        gear_store.save_part(connection, system_id, part, data)

    return rota_command(ctx, key, phrase("common.what_saved", what=kind.name), act)
