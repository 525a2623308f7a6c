"""Recording by the jot line: what was measured and done, in plain words, understood before it is saved."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Generic, TypeVar

from ..basics.errors import InputError
from ..basics.phrasing import clock_words, either, moment_words
from ..system.catalogue import event_kinds
from ..system.inspection import NOTE, Event
from ..system.system import System
from .answer import system_named
from .past import past_moment
from .reader import JotError, Reader
from .recording import Build, Item, RecordContext
from .statement import statement
from .sums import answer

EXAMPLES = (
    "alk 7.9",
    "beacon sal 34.6 temp 25.3",
    "alk 7.9 at 21:00 yesterday",
    "no3 <5",
    "dosed 40 ml soda stock",
    "change 45 l",
    "did a 15 % water change",
    "emptied cup 3/4 dark",
    "topped off 3 l",
    "fed 2 frozen mysids",
    "scraped front",
    "lost 1 goby",
    "windows shut yesterday",
    "note: the wrasse hides since the new lamp",
)
"""One example of each kind, as the app shows them."""


@dataclass(frozen=True)
class Part:
    """One part of a line, its system, and its moment."""

    item: Item
    system: System
    at: datetime


@dataclass(frozen=True)
class Understood:
    """A line as understood: its parts, each with its system and moment."""

    parts: tuple[Part, ...]

    @property
    def items(self) -> tuple[Item, ...]:
        """The items to record."""
        return tuple(part.item for part in self.parts)

    @property
    def systems(self) -> tuple[System, ...]:
        """The systems it is recorded for, each once."""
        return tuple({part.system.id: part.system for part in self.parts}.values())


def record_line(text: str, context: RecordContext) -> Understood:
    """What a line records: readings, doses, changes, top-offs, feeds, tasks, events, animals, one after another.

    A system or a time that stands before a part counts from there on; behind a part, for what came since the last one.
    Without any, the system that is looked at and now are meant. "yesterday 9pm", "on 25 Nov at 21:00" and "2 h ago" say
    when; "note" takes the rest as a note, by itself as an entry of its own. Raises JotError at the word that is not
    understood: nothing typed is dropped.
    """
    reader = Reader(text, context.jot.habits)
    where, when, note = Said[System](), Said[datetime](), ""
    builds: list[Build] = []
    while not reader.done:
        start = reader.at
        if reader.may("and"):
            continue
        if reader.may("note"):
            note = text[reader.tokens[reader.at].start :].strip() if not reader.done else reader.fail()
            break
        if reader.may("in", "into", "for"):
            where.say(system_named(reader, context.jot) or reader.fail(), len(builds))
        elif (moment := past_moment(reader, context)) is not None:
            when.say(moment, len(builds))
        elif (system := _bare_system(reader, context)) is not None:
            if where.pending(len(builds)) and not reader.done:
                raise _between(reader, start, system)
            where.say(system, len(builds))
        else:
            reader.at = start
            builds.append(statement(reader)(reader, context))
    if not builds and note:
        builds.append(lambda _, at: Item("Note", Event(at, event_kinds()[NOTE])))
    if not builds:
        statement(reader)
    for said, word in ((where, "system"), (when, "time")):
        if said.dangles(len(builds)):
            raise JotError(f"two {word}s for one thing: leave one out", 0, len(text), f"one {word} for each thing")
    return Understood(tuple(_part(build, where.of(n), when.of(n), note, context) for n, build in enumerate(builds)))


def _part(build: Build, said: System | None, moment: datetime | None, note: str, context: RecordContext) -> Part:
    system = said or context.jot.current
    if system is None:
        names = either([each.name for each in context.jot.systems])
        raise JotError("say for which system", 0, 0, names or "a system that is set up")
    at = moment or context.now
    return Part(_noted(build(system, at), note), system, at)


T = TypeVar("T")


class Said(Generic[T]):
    """Systems or times stated for the parts of a line, by where they stood."""

    def __init__(self) -> None:
        self._of: dict[int, T] = {}
        self._from = 0
        self._leading: T | None = None

    def pending(self, place: int) -> bool:
        """Whether parts before a place still wait for a system or time behind them."""
        return self._leading is None and self._from < place

    def dangles(self, place: int) -> bool:
        """Whether what was said last is of no part at all, where `place` parts were read."""
        return self._leading is not None and self._from >= place > 0

    def say(self, what: T, place: int) -> None:
        """Stated before part number `place`: for the parts since the last such statement, or for those to come."""
        if self.pending(place):
            self._of.update(dict.fromkeys(range(self._from, place), what))
        else:
            if self._leading is not None:
                self._of.update(dict.fromkeys(range(self._from, place), self._leading))
            self._leading = what
        self._from = place

    def of(self, place: int) -> T | None:
        """What was said of a part, None where nothing was."""
        return self._of.get(place, self._leading if place >= self._from else None)


def _between(reader: Reader, at: int, system: System) -> JotError:
    """A system's name between two parts may belong to either."""
    token = reader.tokens[at]
    word = f"does {system.name} belong to what stands before it or behind it? write “in {system.name}” behind the part"
    return JotError(word, token.start, token.end, f"in {system.name}, or {system.name} first")


def _bare_system(reader: Reader, context: RecordContext) -> System | None:
    """A system's name by itself; a word that could also begin a record is not taken for one."""
    start = reader.at
    system = reader.quietly(lambda: system_named(reader, context.jot))
    if system is None:
        reader.at = start
    return system


def complete(text: str, context: RecordContext) -> list[tuple[int, str]]:
    """How the last word of a line could go on: phrases, each with the place in the text from which it replaces what is
    typed; after a blank what could come next. What is typed furthest first, then the shortest."""
    if not text.strip() or _is_whole(text, context):
        return []
    reader = Reader(text, context.jot.habits)
    reader.offers = {}
    _try(reader, text, context)
    ended = not text or text[-1].isspace()
    found: dict[str, int] = {}
    for at, phrases in sorted(reader.offers.items()):
        start = reader.tokens[at].start if at < len(reader.tokens) else len(text)
        typed = " ".join(text[start:].lower().split())
        if (ended and at != len(reader.tokens)) or len(reader.tokens) - at > 3 or (not ended and not typed):
            continue
        for phrase in phrases:
            if phrase.startswith(typed) and phrase != typed:
                found.setdefault(phrase, start)
    return sorted(
        ((start, phrase) for phrase, start in found.items()), key=lambda pair: (pair[0], len(pair[1]), pair[1])
    )


def _is_whole(text: str, context: RecordContext) -> bool:
    """Whether a line can be recorded as it stands."""
    try:
        return bool(record_line(text, context).parts)
    except JotError:
        return False


def _try(reader: Reader, text: str, context: RecordContext) -> None:
    """Read as far as possible, collecting completions on the way."""
    try:
        system_named(reader, context.jot)
        while not reader.done:
            reader.may("and")
            if past_moment(reader, context) is None:
                statement(reader)(reader, context)
        statement(reader)
    except InputError:
        return


SHOWN = 3


def examples_near(text: str, context: RecordContext) -> list[str]:
    """Lines that are like one that cannot be read: the same as a sum where it is one; those that share the most
    beginnings of words, then the first."""
    typed = {word[:3] for word in text.lower().split()}
    ranked = sorted(EXAMPLES, key=lambda line: -len(typed & {word[:3] for word in line.split()}))
    try:
        answer(text, context.jot)
    except JotError:
        return ranked[:SHOWN]
    return [f"= {text.strip()}", *ranked[: SHOWN - 1]]


def _noted(item: Item, note: str) -> Item:
    """The note on an entry; a mere count of animals cannot carry one."""
    if not note:
        return item
    if item.event is None:
        raise JotError("a count of animals takes no note", 0, 0, "the count alone, or a note with what happened")
    if isinstance(item.event, Event) and item.event.kind.key == NOTE:
        return replace(item, words=f"Note: {note}", event=replace(item.event, note=note))
    said = f"{item.event.note}; {note}" if item.event.note else note
    return replace(item, words=f"{item.words} ({note})", event=replace(item.event, note=said))


def when_words(at: datetime, context: RecordContext) -> str:
    """When something was, unless it is now."""
    if context.now - at < timedelta(minutes=1):
        return ""
    return f"{moment_words(at, context.zone)} {clock_words(at.astimezone(context.zone))}"
