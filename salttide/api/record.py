"""The record: what was entered, undone and corrected."""

import json
import sqlite3

from fastapi import APIRouter, Query
from pydantic import Field

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.measures import grams_words, litres_words
from salttide.core.basics.number_text import short
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import clock_words, moment_words
from salttide.core.basics.refused import refused
from salttide.core.ledger.balance import rise_of
from salttide.core.ledger.entries import Reading
from salttide.core.science.amount import mass_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import show, signed_difference
from salttide.core.system.catalogue import event_kind, sign
from salttide.core.system.inspection import NOTE
from salttide.core.upkeep.task import task_words
from salttide.store import change as change_store
from salttide.store import handover as handover_store
from salttide.store import ledger as ledger_store
from salttide.store import log as log_store
from salttide.store import remark as remark_store
from salttide.store import rota as rota_store
from salttide.store import system as system_store
from salttide.store.database import to_moment

from .context import Context, In, Key
from .models import Id, Model, Recorded, RequestModel, name_of

router = APIRouter(prefix="/api", tags=["record"])


class RecordRow(Model):
    """One entry of the ledger in words. `gone`: undone or corrected, but kept."""

    id: int
    kind: str
    day: str
    time: str
    words: str
    detail: str
    command: str
    gone: bool
    pictures: list[int]
    remarks: list[str]


class RemarkBody(RequestModel):
    """A remark in the keeper's words."""

    text: str = Field(max_length=500)


class CorrectBody(RequestModel):
    """The corrected value as typed, in the keeper's unit or with a unit of its own."""

    text: str = Field(max_length=40)


@router.get("/systems/{system_id}/record")
def record(system_id: Id, ctx: In, limit: int = Query(40, ge=1, le=500)) -> list[RecordRow]:
    """The latest entries of one system, newest first."""
    wanted = log_store.LogFilter(system_id)
    return [record_row(ctx, row) for row in log_store.log_rows(ctx.connection, wanted, limit)]


def record_row(ctx: Context, row: sqlite3.Row) -> RecordRow:
    """One entry in words."""
    at = to_moment(row["at"])
    words, detail = _WORDS[row["kind"]](ctx, row)
    return RecordRow(
        id=row["id"],
        kind=row["kind"],
        day=moment_words(at, ctx.keeper.zone),
        time=clock_words(at.astimezone(ctx.keeper.zone)),
        words=words,
        detail=detail,
        command=row["command"],
        gone=bool(row["gone"]),
        pictures=[int(number) for number in (row["pictures"] or "").split(",") if number],
        remarks=(row["remarks"] or "").splitlines(),
    )


def _reading(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    parameter = Parameter(row["parameter"])
    said = f"{name_of(parameter)} {show(parameter, row['value'], ctx.keeper.units)}"
    return said, "; ".join(part for part in (row["instrument"], row["how"], row["note"]) if part)


def _change(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    source = phrase("record.water_of", system=row["source"]) if row["source"] else ""
    return phrase("record.water_change"), phrase(
        "record.l_out_l_in", out=litres_words(row["out_l"]), back=litres_words(row["in_l"]), source=source
    )


def _dose(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    return "Dose", f"{mass_text(row['mass_g'])} {row['additive']}"


def _care(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    name = task_words(row["task"], rota_store.own_names(ctx.connection))
    return name, phrase("record.skipped", row=row["reason"]) if row["skipped"] else "done"


def _look(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    found = [sign(*text.split("/")).words for text in (row["signs"] or "").split()]
    return phrase("record.visual_check"), "; ".join([*found, row["note"]] if row["note"] else found) or phrase(
        "common.nothing_to_note"
    )


def _happening(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    kind = event_kind(row["happened"])
    words = phrase("record.note") if kind.key == NOTE else phrase("record.happened", name=kind.name)
    return words, row["note"]


def _top_off(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    held = json.loads(row["holds"])
    what = (
        phrase("record.fresh_water")
        if not held
        else phrase("record.salt_water")
        if Parameter.SALINITY in held
        else "limewater"
    )
    return "Top-off", phrase("record.l_of", litres=litres_words(row["litres"]), what=what)


def _feed(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    return phrase("record.fed", row=row["food"]), phrase(
        "record.portions_g", portions=short(row["portions"]), grams=grams_words(row["grams"], 1)
    )


def _evaporation(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    return "Evaporated", phrase("record.l_not_topped_off", litres=litres_words(row["evaporated_l"]))


def _harvest(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    return phrase("record.harvested", row=row["harvested"]), grams_words(row["harvested_g"])


def _unexplained(ctx: Context, row: sqlite3.Row) -> tuple[str, str]:
    parameter, amount = Parameter(row["moved"]), row["moved_by"]
    words = phrase("record.unexplained", parameter=spoken(parameter))
    if not amount:
        return words, phrase("record.nothing_happened")
    ledger = ctx.household.ledger(ctx.stored.every_system[row["system_id"]])
    rise = rise_of(ledger, amount, to_moment(row["at"]), row["id"])
    return words, signed_difference(parameter, rise, FACTS[parameter].likely.middle, ctx.keeper.units)


_WORDS = {
    "reading": _reading,
    "change": _change,
    "dose": _dose,
    "care": _care,
    "look": _look,
    "happening": _happening,
    "top_off": _top_off,
    "feed": _feed,
    "evaporation": _evaporation,
    "harvest": _harvest,
    "unexplained": _unexplained,
}


@router.post("/record/{command}/undo")
def undo(command: str, ctx: In, key: Key) -> Recorded:
    """Undo all that one command did: its entries, which stay in the ledger, and the steps it planned."""

    def act(connection: sqlite3.Connection) -> str:
        count = ledger_store.void(connection, command, key, ctx.now)
        count += change_store.undo_plan(connection, command, key)
        count += system_store.restore_setup(connection, command, ctx.now)
        handover_store.report_untaken(connection, command)
        rota_store.restore_placings(connection, command, key)
        if not count:
            raise NotFoundError(phrase("record.nothing_to_undo_it_was_undone"))
        return phrase("record.undone", count=count)

    return ctx.record(key, act)


@router.post("/record/entries/{entry_id}/undo")
def undo_entry(entry_id: Id, ctx: In, key: Key) -> Recorded:
    """Undo a single entry; it stays in the ledger."""

    def act(connection: sqlite3.Connection) -> str:
        if not ledger_store.void_one(connection, entry_id, key, ctx.now):
            raise NotFoundError(phrase("record.nothing_to_undo_it_was_undone"))
        return phrase("record.undone_2")

    return ctx.record(key, act)


@router.post("/record/readings/{entry_id}/correct")
def correct(entry_id: Id, body: CorrectBody, ctx: In, key: Key) -> Recorded:
    """Correct a reading; the old value is kept."""

    def act(connection: sqlite3.Connection) -> str:
        old = ledger_store.reading(connection, entry_id)
        value = ctx.typed(old.parameter, body.text, "text")
        new = Reading(old.at, old.parameter, value, old.sd, old.instrument, note=old.note)
        ledger_store.correct(connection, entry_id, new, key, ctx.now)
        return phrase("record.corrected", parameter=name_of(old.parameter))

    return ctx.record(key, act)


@router.post("/record/entries/{entry_id}/remarks", status_code=201)
def add_remark(entry_id: Id, body: RemarkBody, ctx: In, key: Key) -> Recorded:
    """Add a remark to an entry; the entry itself stays as it is."""
    text = " ".join(body.text.split())
    if not text:
        raise refused("record.write_something", "text", "record.a_remark_in_your_words")
    words = phrase("record.remark_saved")
    return ctx.record_as(
        key, words, lambda connection: remark_store.add_remark(connection, entry_id, text, key, ctx.now)
    )
