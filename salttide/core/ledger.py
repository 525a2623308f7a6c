"""The ledger of water: its entries, and what they do to the water.

Entries are facts that happened. A correction supersedes an entry and keeps it; only effective entries reach
these functions.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property

from .looking import Happening, Look
from .parameters import FACTS, Parameter

UNNAMED = "unnamed instrument"
"""Stands for the instrument where the keeper named none."""


@dataclass(frozen=True)
class Reading:
    """A measured value (canonical), with the scatter (standard deviation) of its instrument.

    raw: what was shown before the instrument's checks corrected it, None where nothing did · how: in words, where it
    was counted, diluted, averaged or corrected.
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
    """Water out, then in; `incoming` is the composition of the new water in canonical units, as far as known."""

    at: datetime
    out_l: float
    in_l: float
    incoming: Mapping[Parameter, float]
    id: int = 0


@dataclass(frozen=True)
class Dose:
    """An additive given to the system: its effect in amount (meq or mg) per parameter.

    `routine` marks the daily dose, whose effect counts as part of the system's own drift.
    """

    at: datetime
    additive: str
    mass_g: float
    amounts: Mapping[Parameter, float]
    routine: bool = False
    id: int = 0


@dataclass(frozen=True)
class Care:
    """A care task done, or skipped with a reason."""

    at: datetime
    task: str
    minutes: float
    skipped: bool = False
    reason: str = ""
    id: int = 0


@dataclass(frozen=True)
class TopOff:
    """Fresh water that replaced what evaporated, L. It moves nothing that is dissolved."""

    at: datetime
    litres: float
    id: int = 0


@dataclass(frozen=True)
class Feed:
    """Food given: portions, grams, and the mg of nitrate and phosphate it brings once broken down."""

    at: datetime
    food: str
    portions: float
    grams: float
    brought: Mapping[Parameter, float]
    id: int = 0


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
    looks: Sequence[Look] = field(default_factory=tuple)
    happenings: Sequence[Happening] = field(default_factory=tuple)
    top_offs: Sequence[TopOff] = field(default_factory=tuple)
    feeds: Sequence[Feed] = field(default_factory=tuple)
    earlier: Sequence[tuple[datetime, float]] = field(default_factory=tuple)

    def volume_at(self, at: datetime) -> float:
        """The net volume that the system had then, L: a later change of it does not rewrite the past."""
        return next((volume for until, volume in self.earlier if at < until), self.volume_l)

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

    def events(self, parameter: Parameter) -> list[Change | Dose]:
        """What moved `parameter` apart from its drift, in order of time: changes and doses that are not routine."""
        doses = [dose for dose in self.doses if not dose.routine and parameter in dose.amounts]
        return sorted([*self.changes, *doses], key=lambda event: event.at)


def apply(parameter: Parameter, value: float, event: Change | Dose, volume_l: float) -> float:
    """The value after `event` in a system of `volume_l`.

    Water that is put in beyond what was taken out, or short of it, shifts the level and is evened out by the
    top-off; the dissolved amounts count as they were moved. New water of unknown content is taken to be like the old.
    """
    if isinstance(event, Dose):
        return value + event.amounts.get(parameter, 0.0) / volume_l
    left = value * (volume_l - event.out_l)
    return (left + event.incoming.get(parameter, value) * event.in_l) / (volume_l - event.out_l + event.in_l)


@dataclass(frozen=True)
class Present:
    """What a parameter is taken to be now: the last reading carried through later events, and how it is known."""

    value: float
    sd: float
    reading: Reading
    carried: int

    @property
    def measured(self) -> bool:
        """True where nothing has moved it since it was measured."""
        return self.carried == 0


def present(ledger: Ledger, parameter: Parameter) -> Present | None:
    """The present value of `parameter`, or None where it was never measured.

    An event at the same moment as the reading counts as later when it was entered later.
    """
    reading = ledger.last(parameter)
    if reading is None:
        return None
    later = events_after(ledger.events(parameter), reading)
    value = reading.value
    for event in later:
        value = apply(parameter, value, event, ledger.volume_at(event.at))
    carried = len(later) if FACTS[parameter].dissolved else 0
    return Present(value if carried else reading.value, reading.sd, reading, carried)


def present_water(ledger: Ledger) -> dict[Parameter, Present]:
    """The present value of every parameter that was measured, in the order of testing."""
    measured = {reading.parameter for reading in ledger.readings}
    found = {parameter: present(ledger, parameter) for parameter in Parameter if parameter in measured}
    return {parameter: value for parameter, value in found.items() if value}


def events_after(events: Iterable[Change | Dose], reading: Reading) -> list[Change | Dose]:
    """The events later than a reading, by time and then by order of entry."""
    return [event for event in events if (event.at, event.id) > (reading.at, reading.id)]
