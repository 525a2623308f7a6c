"""The mass balance: what each entry does to dissolved substances, and the water that follows from the entries."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise

from ..basics.errors import check_range
from ..science.parameters import FACTS, Parameter
from .entries import DRY_SHARE, Dose, Evaporation, Ledger, Moving, Reading, TopOff, Unexplained


@dataclass(frozen=True)
class Effect:
    """What an entry does to a concentration: value · kept + brought. Every entry of the balance is of this form."""

    kept: float
    brought: float

    def on(self, value: float) -> float:
        """The value afterwards."""
        return value * self.kept + self.brought


NOTHING = Effect(1.0, 0.0)


def effect(parameter: Parameter, event: Moving, volume_l: float, full_l: float | None = None) -> Effect:
    """What an event does in a system that holds `volume_l` before it and `full_l` at the mark (as much, if not said).

    A dose adds its amount, and so does what nobody can explain. A change takes water out and puts water in: less in
    lowers the level, more in fills up what was missing. Water of unknown content counts as like the old. Evaporation
    takes water and leaves what is dissolved. A top-off fills up to the mark and brings what it holds. What is poured
    beyond the mark counts as replacing water lost unnoticed. Water and every dissolved mass are conserved.

    >>> effect(Parameter.ALKALINITY, Dose(datetime(2026, 11, 24), "soda", 1.0, {Parameter.ALKALINITY: 30.0}), 100.0)
    Effect(kept=1.0, brought=0.3)
    """
    check_range("volume", volume_l, "L", 1e-6, 1e6, field="volume_l")
    if isinstance(event, Dose):
        return Effect(1.0, event.amounts.get(parameter, 0.0) / volume_l)
    if isinstance(event, Unexplained):
        return Effect(1.0, event.amount / volume_l if event.parameter == parameter else 0.0)
    full = volume_l if full_l is None else full_l
    if isinstance(event, Evaporation):
        return Effect(volume_l / max(volume_l - event.litres, (1 - DRY_SHARE) * full), 0.0)
    if isinstance(event, TopOff):
        after_l = max(volume_l, min(full, volume_l + event.litres))
        return Effect(volume_l / after_l, event.holds.get(parameter, 0.0) * event.litres / after_l)
    if parameter not in event.incoming:
        return NOTHING
    left_l = max(volume_l - event.out_l, 0.0)
    after_l = max(min(left_l + event.in_l, max(full, volume_l)), (1 - DRY_SHARE) * full)
    return Effect(left_l / after_l, event.incoming[parameter] * event.in_l / after_l)


def effect_in(ledger: Ledger, parameter: Parameter, event: Moving) -> Effect:
    """What an event did in the system of a ledger, at the volume that it had then."""
    return effect(parameter, event, ledger.volume_at(event.at, event.id), ledger.full_at(event.at))


def rise_of(ledger: Ledger, amount: float, at: datetime, entry: int = 0) -> float:
    """What an amount (meq or mg) raised the system by (canonical) at a moment, or by an entry at it."""
    return amount / ledger.volume_at(at, entry)


@dataclass(frozen=True)
class LinearValue:
    """A value that is linear in the unknown start and rate: value = known + start_share·C0 + days·r."""

    known: float = 0.0
    start_share: float = 1.0
    days: float = 0.0

    def wait(self, days: float) -> LinearValue:
        """Let `days` pass."""
        return LinearValue(self.known, self.start_share, self.days + days)

    def through(self, found: Effect) -> LinearValue:
        """Apply an event."""
        return LinearValue(found.on(self.known), self.start_share * found.kept, self.days * found.kept)

    def at(self, start: float, per_day: float) -> float:
        """The value for a start and a rate."""
        return self.known + self.start_share * start + self.days * per_day


@dataclass(frozen=True)
class Present:
    """A parameter's present value: the last reading carried through later events, and how it is known."""

    value: float
    sd: float
    reading: Reading
    carried: int

    @property
    def measured(self) -> bool:
        """True where nothing has moved it since it was measured."""
        return self.carried == 0


def present(ledger: Ledger, parameter: Parameter, at: datetime | None = None) -> Present | None:
    """What `parameter` is now, or was at a moment; None where it was not measured by then.

    An event at the same moment as the reading counts as later when it was entered later. Daily doses do not count: they
    replace the uptake meanwhile.
    """
    reading = next((r for r in reversed(ledger.of(parameter)) if at is None or r.at <= at), None)
    if reading is None:
        return None
    later = [e for e in events_after(ledger.events(parameter), reading) if at is None or e.at <= at]
    value = reading.value
    for event in later:
        value = effect_in(ledger, parameter, event).on(value)
    carried = len(later) if FACTS[parameter].dissolved else 0
    return Present(value if carried else reading.value, reading.sd, reading, carried)


def present_water(ledger: Ledger, at: datetime | None = None) -> dict[Parameter, Present]:
    """The value of every parameter that was measured, now or at a moment, in the order of testing.

    >>> reading = Reading(datetime(2026, 11, 24), Parameter.CALCIUM, 420.0, 8.0, "kit")
    >>> present_water(Ledger(100.0, [reading]))[Parameter.CALCIUM].value
    420.0
    """
    measured = {reading.parameter for reading in ledger.readings}
    found = {parameter: present(ledger, parameter, at) for parameter in Parameter if parameter in measured}
    return {parameter: value for parameter, value in found.items() if value}


def events_after(events: Iterable[Moving], reading: Reading) -> list[Moving]:
    """The events later than a reading, by time and then by order of entry."""
    return [event for event in events if (event.at, event.id) > (reading.at, reading.id)]


def joined(ledger: Ledger, parameter: Parameter, readings: Sequence[Reading]) -> list[tuple[datetime, float]]:
    """The line through `readings` (oldest first) as the mass balance has it: straight by its own drift between two
    readings, with a step at every change and dose.
    """
    events = ledger.events(parameter)
    line: list[tuple[datetime, float]] = []
    for before, after in pairwise(readings):
        line += _between(ledger, parameter, events, before, after)
    return line + [(reading.at, reading.value) for reading in readings[-1:]]


def _between(
    ledger: Ledger, parameter: Parameter, events: Sequence[Moving], before: Reading, after: Reading
) -> list[tuple[datetime, float]]:
    """Solve the one drift that takes the water from `before` to `after`, and list the corners of its line."""
    carry, at, corners = LinearValue(), before.at, [(before.at, LinearValue())]
    for event in (e for e in events if (before.at, before.id) < (e.at, e.id) < (after.at, after.id)):
        carry, at = carry.wait((event.at - at) / timedelta(days=1)), event.at
        corners.append((at, carry))
        carry = carry.through(effect_in(ledger, parameter, event))
        corners.append((at, carry))
    end = carry.wait((after.at - at) / timedelta(days=1))
    rate = (after.value - end.at(before.value, 0.0)) / end.days if end.days else 0.0
    return [(at, corner.at(before.value, rate)) for at, corner in corners]
