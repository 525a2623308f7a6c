"""Quick entry and calculator: sums answered while typing, and records understood before they are saved."""

import sqlite3

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import InputError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import listed
from salttide.core.jot.reader import JotError
from salttide.core.jot.record import EXAMPLES as RECORDS
from salttide.core.jot.record import Part, Understood, complete, examples_near, record_line, when_words
from salttide.core.jot.recording import RecordContext
from salttide.core.jot.sums import EXAMPLES, answer
from salttide.core.system import catalogue
from salttide.household import acts
from salttide.store import livestock as livestock_store

from .context import In, Key
from .models import Caution, Id, Model, Recorded, RequestModel, WorkingStep, working_shown
from .rota_shown import rota_command

router = APIRouter(prefix="/api/jot", tags=["jot"])


class JotBody(RequestModel):
    """A line as typed, and the system on the screen."""

    text: str = Field(max_length=200)
    system_id: Id | None = None


class JotAnswer(Model):
    """The answer: number, how it was understood, what else to know, and the working."""

    understood: str
    value: float
    unit: str
    text: str
    notes: list[str]
    cautions: list[Caution]
    working: list[WorkingStep]


class RecordBody(JotBody):
    """A line to record. confirmed: the keeper was asked about what is doubtful and says it is right."""

    confirmed: bool = False


class ItemShown(Model):
    """One understood part of a line, and any doubt about it."""

    words: str
    doubts: list[str]


class Completion(Model):
    """A suggested phrase, and the place in the text it starts at."""

    start: int
    phrase: str


class Place(Model):
    """The word that is not understood, where it stands, and lines that would be."""

    message: str
    start: int
    end: int
    examples: list[str]


class ReadAnswer(Model):
    """How a line is understood so far."""

    system: str
    when: str
    items: list[ItemShown]
    wrong: Place | None
    completions: list[Completion]


class Examples(Model):
    """One line of each kind."""

    sums: list[str]
    records: list[str]


@router.get("")
def examples() -> Examples:
    """One line of each kind."""
    return Examples(sums=list(EXAMPLES), records=list(RECORDS))


@router.post("/reading")
def reading(body: JotBody, ctx: In) -> ReadAnswer:
    """How a recording line is understood, without effect, and how its last word could be completed."""
    context = ctx.household.record_context(body.system_id)
    going_on = [Completion(start=start, phrase=phrase) for start, phrase in complete(body.text, context)[:8]]
    try:
        found = record_line(body.text, context)
    except JotError as error:
        nearest = examples_near(body.text, context)
        place = Place(message=error.message, start=error.start, end=error.end, examples=nearest)
        return ReadAnswer(system="", when="", items=[], wrong=place, completions=going_on)
    times = {when_words(part.at, context) for part in found.parts}
    return ReadAnswer(
        system=listed([system.name for system in found.systems]),
        when=times.pop() if len(times) == 1 else "",
        items=[_item_shown(found, part, context) for part in found.parts],
        wrong=None,
        completions=going_on,
    )


def _item_shown(found: Understood, part: Part, context: RecordContext) -> ItemShown:
    """One thing, with its system and its moment where those of the line differ."""
    several = len(found.systems) > 1
    moments = len({each.at for each in found.parts}) > 1
    before = [part.system.name if several else "", when_words(part.at, context) if moments else ""]
    place = ", ".join(filter(None, before))
    return ItemShown(words=f"{place}: {part.item.words}" if place else part.item.words, doubts=list(part.item.doubts))


@router.post("/record", status_code=201)
def record(body: RecordBody, ctx: In, key: Key) -> Recorded:
    """Record what a line says. What is doubtful has to be confirmed."""
    found = record_line(body.text, ctx.household.record_context(body.system_id))
    doubts = [doubt for item in found.items for doubt in item.doubts]
    if doubts and not body.confirmed:
        raise InputError(doubts[0], field="confirmed", accepted=phrase("jot.confirm_that_it_is_right"))

    def act(connection: sqlite3.Connection) -> None:
        for part in found.parts:
            if part.item.turn:
                _turn(connection, part, key)
            events = [*([part.item.event] if part.item.event else []), *part.item.also]
            acts.record(ctx.household, connection, part.system.id, events, key)

    words = found.items[0].words if len(found.items) == 1 else phrase("jot.entries", items=len(found.items))
    return rota_command(
        ctx, key, phrase("jot.saved", systems=listed([one.name for one in found.systems]), words=words), act
    )


def _turn(connection: sqlite3.Connection, part: Part, key: str) -> None:
    assert part.item.turn
    animal_id, turn, number = part.item.turn
    animal = livestock_store.animal(connection, part.system.id, animal_id)
    livestock_store.turn(connection, animal, part.at.date(), turn, number, "", key)


@router.post("")
def jot(body: JotBody, ctx: In) -> JotAnswer:
    """Answer a sum; records nothing. A line that is not understood is a problem with the place of the word."""
    found = answer(body.text, ctx.household.jot_context(body.system_id))
    words = catalogue.cautions()
    return JotAnswer(
        understood=found.understood,
        value=found.value,
        unit=found.unit,
        text=found.text,
        notes=list(found.notes),
        cautions=[Caution(key=key, title=words[key].title, text=words[key].text) for key in found.cautions],
        working=working_shown(found.working),
    )
