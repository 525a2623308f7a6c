"""The jot line's record: what was measured and done, in the keeper's plain words, understood before it is kept."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from .errors import InputError
from .jot_answer import system_named
from .jot_reader import JotError, Reader
from .jot_statement import Build, Item, RecordContext, statement
from .ledger import Reading
from .looking import Happening
from .quantities import Kind
from .system import System
from .words import clock_words, either, moment_words

OLDEST = timedelta(days=60)
EXAMPLES = (
    "alk 7.9",
    "beacon sal 34.6 temp 25.3",
    "dosed 40 ml soda stock",
    "change 45 l",
    "topped off 3 l",
    "fed 2 frozen mysids",
    "scraped front",
    "lost 1 goby",
    "windows shut yesterday",
)
"""One of each kind, as the app shows them."""


@dataclass(frozen=True)
class Understood:
    """A line as it was read: for which system, when, and what."""

    system: System
    at: datetime
    items: tuple[Item, ...]


def record_line(text: str, context: RecordContext) -> Understood:
    """What a line records: readings, doses, changes, top-offs, feeds, tasks, happenings, animals, one after another.

    The system is named first or by "in"; else it is the one that is looked at. "yesterday" and "2 h ago" say when,
    "note" takes the rest as a note. Raises JotError at the word that is not understood.
    """
    reader = Reader(text, context.jot.habits)
    system, back, note = system_named(reader, context.jot), timedelta(), ""
    builds: list[Build] = []
    while not reader.done:
        if reader.may("and"):
            continue
        if reader.may("note"):
            note = text[reader.tokens[reader.at].start :].strip() if not reader.done else reader.fail()
            break
        if reader.may("in", "into", "for"):
            system = system_named(reader, context.jot) or reader.fail()
        elif (past := _past(reader)) is not None:
            back = past
        else:
            builds.append(statement(reader)(reader, context))
    if not builds and note:
        raise JotError("a note alone records nothing", 0, len(text), "what was done or read first, then the note")
    if not builds:
        statement(reader)
    chosen = system or context.jot.current
    if chosen is None:
        names = either([each.name for each in context.jot.systems])
        raise JotError("say for which system", 0, 0, names or "a system that is set up")
    at = context.now - back
    return Understood(chosen, at, tuple(_noted(build(chosen, at), note) for build in builds))


def complete(text: str, context: RecordContext) -> list[tuple[int, str]]:
    """How the last word of a line could go on: phrases, each with the place in the text from which it replaces what is
    typed; after a blank what could come next. What is typed furthest first, then the shortest."""
    if not text.strip():
        return []
    reader = Reader(text, context.jot.habits)
    reader.offers = {}
    _try(reader, text, context)
    ended = not text or text[-1].isspace()
    found: dict[str, int] = {}
    for at, phrases in sorted(reader.offers.items()):
        typed = " ".join(token.text.lower() for token in reader.tokens[at:])
        if (ended and at != len(reader.tokens)) or len(reader.tokens) - at > 3 or (not ended and not typed):
            continue
        start = reader.tokens[at].start if at < len(reader.tokens) else len(text)
        for phrase in phrases:
            if phrase.startswith(typed) and phrase != typed:
                found.setdefault(phrase, start)
    return sorted(
        ((start, phrase) for phrase, start in found.items()), key=lambda pair: (pair[0], len(pair[1]), pair[1])
    )


def _try(reader: Reader, text: str, context: RecordContext) -> None:
    """Read as far as it goes, for what is offered on the way."""
    try:
        system_named(reader, context.jot)
        while not reader.done:
            reader.may("and")
            if _past(reader) is None:
                statement(reader)(reader, context)
        statement(reader)
    except InputError:
        return


def _past(reader: Reader) -> timedelta | None:
    """How long ago it was, where the next words say so."""
    if reader.may("yesterday"):
        return timedelta(days=1)
    start = reader.at
    minutes = reader.quantity(Kind.TIME) if not reader.done and reader.tokens[start].text[:1].isdigit() else None
    if minutes is None or not reader.may("ago"):
        reader.at = start
        return None
    back = timedelta(minutes=minutes)
    if back > OLDEST:
        token = reader.tokens[start]
        raise JotError(f"at most {OLDEST.days} days ago", token.start, token.end, f"0 to {OLDEST.days} days ago")
    return back


def _noted(item: Item, note: str) -> Item:
    """The note on what can bear one."""
    if not note or not isinstance(item.event, Reading | Happening):
        return item
    said = f"{item.event.note}; {note}" if item.event.note else note
    return replace(item, words=f"{item.words} ({note})", event=replace(item.event, note=said))


def when_words(understood: Understood, context: RecordContext) -> str:
    """When it was, where it was not now."""
    if context.now - understood.at < timedelta(minutes=1):
        return ""
    return f"{moment_words(understood.at, context.zone)} {clock_words(understood.at.astimezone(context.zone))}"
