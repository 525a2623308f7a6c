"""What a recording line is read with, and what it is understood as."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta, tzinfo

from ..ledger.bench_row import Instrument
from ..ledger.entries import Care, Change, Dose, Entry, Evaporation, Feed, Harvest, Ledger, Reading, TopOff
from ..science.food import Food
from ..system.inspection import Event
from ..system.livestock import StockChange
from ..system.shelf import Additive
from ..system.system import System
from .answer import JotContext
from .reader import JotError, Reader

OLDEST = timedelta(days=60)
"""How long ago something may be entered, unless more is said (judgement: further back a date is more likely a slip)."""
Recordable = Reading | Change | Dose | Care | TopOff | Evaporation | Feed | Harvest | Event


@dataclass(frozen=True)
class RecordContext:
    """What a recording line is read with: the keeper's writing, the systems with their ledgers, the shelf, the moment,
    and how long ago something may be entered."""

    jot: JotContext = field(default_factory=JotContext)
    now: datetime = datetime(2000, 1, 1, tzinfo=UTC)
    zone: tzinfo = UTC
    ledgers: Mapping[int, Ledger] = field(default_factory=dict)
    instruments: tuple[Instrument, ...] = ()
    additives: tuple[Additive, ...] = ()
    foods: tuple[Food, ...] = ()
    oldest: timedelta = OLDEST


@dataclass(frozen=True)
class Item:
    """One part understood: in words, as a ledger entry (a count of animals has none), with doubts. turn: changes an
    animal's number · also: other entries of the same act, as a water change is a care task too.
    """

    words: str
    event: Recordable | None
    doubts: tuple[str, ...] = ()
    turn: tuple[int, StockChange, int] | None = None
    also: tuple[Entry, ...] = ()


Build = Callable[[System, datetime], Item]
Statement = Callable[[Reader, RecordContext], Build]


def above_nothing(reader: Reader, at: int, size: float | None) -> float:
    """A size above zero, or an error at the word."""
    if size is None:
        reader.fail()
    if size <= 0:
        token = reader.tokens[at]
        raise JotError("enter an amount above 0", token.start, token.end, "a number above 0")
    return size
