"""The ledger: the kinds of entries, and the ledger of one system.

Entries are facts that happened. A correction supersedes an entry and keeps it; only effective entries reach
these functions.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import cached_property
from typing import Any, TypeVar

from ..science.parameters import Parameter
from ..system.inspection import Event, VisualCheck
from .sightings import covers, reviewed

UNNAMED = "unnamed instrument"
"""The instrument's name where the keeper gave none."""


@dataclass(frozen=True)
class Reading:
    """A measured value (canonical), with the scatter (standard deviation) of its instrument.

    raw: as shown before the instrument's checks corrected it, None where uncorrected · how: in words, where it was
    counted, diluted, averaged or corrected.
    """

    at: datetime
    parameter: Parameter
    value: float
    sd: float
    instrument: str
    id: int = 0
    note: str = ""
    raw: float | None = None
    how: str = ""


@dataclass(frozen=True)
class Change:
    """Water out, then in; `incoming` is the composition of the new water in canonical units, as far as known.

    source: the number of the system whose water it is, 0 where it is none's; its composition is then that water as it
    was at the moment of the change (see `linked`).
    """

    at: datetime
    out_l: float
    in_l: float
    incoming: Mapping[Parameter, float]
    id: int = 0
    source: int = 0
    note: str = ""


@dataclass(frozen=True)
class Dose:
    """An additive dosed to the system: the amount (meq or mg) per parameter. `routine` marks the daily dose: it is
    taken off when the system's own rate is estimated, and continues under the current plan.
    """

    at: datetime
    additive: str
    mass_g: float
    amounts: Mapping[Parameter, float]
    routine: bool = False
    id: int = 0
    note: str = ""

    def raises(self, volume_l: float) -> dict[Parameter, float]:
        """What it raises a volume (L) by, canonical."""
        return {parameter: amount / volume_l for parameter, amount in self.amounts.items()}


@dataclass(frozen=True)
class Care:
    """A care task done, or skipped with a reason. timed: the minutes were measured, not assumed · zone: the part that
    was done · found: observations, by key.
    """

    at: datetime
    task: str
    minutes: float
    skipped: bool = False
    reason: str = ""
    id: int = 0
    timed: bool = False
    zone: str = ""
    found: Mapping[str, float | str] = field(default_factory=dict)
    note: str = ""


@dataclass(frozen=True)
class TopOff:
    """Water that replaced what evaporated, L: fresh, or with what it `holds` per litre (limewater, salt water)."""

    at: datetime
    litres: float
    id: int = 0
    holds: Mapping[Parameter, float] = field(default_factory=dict)
    note: str = ""


@dataclass(frozen=True)
class Evaporation:
    """Water that evaporated and has not been replaced yet, L: the level is down by it until the next top-off."""

    at: datetime
    litres: float
    id: int = 0
    note: str = ""


@dataclass(frozen=True)
class Harvest:
    """Growth taken out of the system: grams, and the mg of nitrate and phosphate bound in it."""

    at: datetime
    what: str
    grams: float
    bound: Mapping[Parameter, float]
    id: int = 0
    note: str = ""


@dataclass(frozen=True)
class Feed:
    """Food given: portions, grams, and the mg of nitrate and phosphate it brings once broken down."""

    at: datetime
    food: str
    portions: float
    grams: float
    brought: Mapping[Parameter, float]
    id: int = 0
    note: str = ""


@dataclass(frozen=True)
class Unexplained:
    """The keeper's word on what the record does not explain: between two tests, `since` and `until`, something that
    nobody can name moved a parameter by an amount (meq or mg), counted at `at`. 0: nothing did, or what did is
    recorded.
    """

    at: datetime
    parameter: Parameter
    since: datetime
    until: datetime
    amount: float = 0.0
    id: int = 0
    note: str = ""


Moving = Change | Dose | TopOff | Evaporation | Unexplained
"""Entries that move dissolved substances, or the level."""
Entry = Reading | Moving | Care | VisualCheck | Event | Feed | Harvest


One = TypeVar("One", bound=Entry)


@dataclass(frozen=True)
class Ledger:
    """The effective entries of one system, each list in order of time.

    volume_l: the net volume now · earlier: (until, volume in L) of the times before it was changed, oldest first.
    """

    volume_l: float
    readings: Sequence[Reading] = field(default_factory=tuple)
    changes: Sequence[Change] = field(default_factory=tuple)
    doses: Sequence[Dose] = field(default_factory=tuple)
    care: Sequence[Care] = field(default_factory=tuple)
    looks: Sequence[VisualCheck] = field(default_factory=tuple)
    happenings: Sequence[Event] = field(default_factory=tuple)
    top_offs: Sequence[TopOff] = field(default_factory=tuple)
    feeds: Sequence[Feed] = field(default_factory=tuple)
    evaporations: Sequence[Evaporation] = field(default_factory=tuple)
    harvests: Sequence[Harvest] = field(default_factory=tuple)
    unexplained: Sequence[Unexplained] = field(default_factory=tuple)
    earlier: Sequence[tuple[datetime, float]] = field(default_factory=tuple)

    def volume_at(self, at: datetime, entry: int = 0) -> float:
        """The water that the system had just before a moment, or an entry at it, L: its net volume less what had
        evaporated or been taken out. A later change of the net volume does not rewrite the past.
        """
        known = bisect_left(self._missing, (at, entry), key=lambda pair: pair[0])
        return self.full_at(at) - (self._missing[known - 1][1] if known else 0.0)

    def full_at(self, at: datetime) -> float:
        """The net volume at the mark that the system had then, L."""
        return next((volume for until, volume in self.earlier if at < until), self.volume_l)

    def since(self, moment: datetime) -> Ledger:
        """The same ledger without what was before a moment; care stays, since it counts for longer."""
        return self._with(lambda entry: entry.at >= moment or isinstance(entry, Care))

    def until(self, moment: datetime) -> Ledger:
        """The same ledger as it was at a moment, for what is entered later; itself where nothing is later."""
        ends = [entries[-1].at for name in LISTS.values() if (entries := getattr(self, name))]
        return self._with(lambda entry: entry.at <= moment) if max(ends, default=moment) > moment else self

    def _with(self, counts: Callable[[Entry], bool]) -> Ledger:
        lists: dict[str, Any] = {name: tuple(filter(counts, getattr(self, name))) for name in LISTS.values()}
        return replace(self, **lists)

    @cached_property
    def sightings(self) -> Sequence[VisualCheck]:
        """What was seen, oldest first: the visual checks, and what a review of one growth says of it since the last."""
        reviews = [care for care in self.care if covers(care.found)]
        if not reviews:
            return self.looks
        found: list[VisualCheck] = []
        entries: list[VisualCheck | Care] = [*self.looks, *reviews]
        for entry in sorted(entries, key=lambda one: (one.at, one.id)):
            if isinstance(entry, VisualCheck):
                found.append(entry)
            elif found:
                found.append(reviewed(found[-1], entry.found))
        return found

    @cached_property
    def cache(self) -> dict[object, Any]:
        """A cache of what was estimated from these entries."""
        return {}

    @cached_property
    def _missing(self) -> list[tuple[tuple[datetime, int], float]]:
        """How much the level is short of the mark after each entry that moves it: evaporation, a change that takes out
        more than goes in, and what fills it up again."""
        uneven = [change for change in self.changes if change.out_l != change.in_l]
        if not self.evaporations and not any(change.out_l > change.in_l for change in uneven):
            return []
        missing, found = 0.0, []
        level: list[Evaporation | TopOff | Change] = [*self.evaporations, *self.top_offs, *uneven]
        for entry in in_order(level):
            missing = min(max(0.0, missing + _lowers(entry)), DRY_SHARE * self.full_at(entry.at))
            found.append(((entry.at, entry.id), missing))
        return found

    def missing_at(self, at: datetime) -> float:
        """Litres that the level is short of the mark at a moment, its own entries counted."""
        known = bisect_right(self._missing, at, key=lambda pair: pair[0][0])
        return self._missing[known - 1][1] if known else 0.0

    @cached_property
    def _by_parameter(self) -> Mapping[Parameter, list[Reading]]:
        found: dict[Parameter, list[Reading]] = {}
        for reading in self.readings:
            found.setdefault(reading.parameter, []).append(reading)
        return found

    def of(self, parameter: Parameter) -> list[Reading]:
        """Readings of one parameter, oldest first."""
        return list(self._by_parameter.get(parameter, ()))

    def last(self, parameter: Parameter) -> Reading | None:
        """The latest reading of a parameter, if any."""
        readings = self.of(parameter)
        return readings[-1] if readings else None

    def events(self, parameter: Parameter, routine: bool = False) -> list[Moving]:
        """Entries that moved `parameter`, in order of time; `routine` includes the daily doses."""
        key = ("events", parameter, routine)
        if key not in self.cache:
            self.cache[key] = [event for event in self.moving if self._moves(event, parameter, routine)]
        found: list[Moving] = self.cache[key]
        return found

    @cached_property
    def moving(self) -> list[Moving]:
        """Every entry that moves dissolved substances or the level, daily doses included, in order of time."""
        return in_order([*self.changes, *self.doses, *self.top_offs, *self.evaporations, *self.unexplained])

    def _moves(self, event: Moving, parameter: Parameter, routine: bool) -> bool:
        if isinstance(event, Dose):
            return parameter in event.amounts and (routine or not event.routine)
        if isinstance(event, Unexplained):
            return parameter == event.parameter and event.amount != 0
        return not isinstance(event, TopOff) or parameter in event.holds or bool(self._missing)


DRY_SHARE = 0.95
"""The largest share of a system's water that can be missing: entries that imply more are a mistake."""


def _lowers(entry: Evaporation | TopOff | Change) -> float:
    """Litres by which an entry lowers the level."""
    if isinstance(entry, Change):
        return entry.out_l - entry.in_l
    return entry.litres if isinstance(entry, Evaporation) else -entry.litres


def in_order(entries: Iterable[One]) -> list[One]:
    """By time, and at one moment by order of entry."""
    return sorted(entries, key=lambda entry: (entry.at, entry.id))


LISTS: Mapping[type, str] = {
    Reading: "readings",
    Change: "changes",
    Dose: "doses",
    Care: "care",
    VisualCheck: "looks",
    Event: "happenings",
    TopOff: "top_offs",
    Feed: "feeds",
    Evaporation: "evaporations",
    Harvest: "harvests",
    Unexplained: "unexplained",
}


def ledger_of(volume_l: float, entries: Iterable[Entry], earlier: Sequence[tuple[datetime, float]] = ()) -> Ledger:
    """The ledger of entries in whatever order they come."""
    lists: dict[str, list[Entry]] = {name: [] for name in LISTS.values()}
    for entry in in_order(entries):
        lists[LISTS[type(entry)]].append(entry)
    return Ledger(volume_l, **lists, earlier=tuple(earlier))  # type: ignore[arg-type]
