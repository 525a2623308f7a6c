"""Expected values: the last reading carried by its drift through what was done since and what is planned."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from math import sqrt

from .estimate import Carry, Drift
from .ledger import Change, Dose, Ledger, Reading, events_after
from .parameters import Parameter, Span

INTERVAL_SDS = 2.0
UNKNOWN_DRIFT_SHARE = 0.25
"""Without enough readings for a drift, the level may wander by this share of the instrument's scatter per day."""


@dataclass(frozen=True)
class Point:
    """An expected value with its interval of two standard deviations either way."""

    at: datetime
    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Crossing:
    """Where the expected line leaves its target band."""

    at: datetime
    value: float


def expected(
    ledger: Ledger, parameter: Parameter, drift: Drift | None, planned: Sequence[Change | Dose], until: datetime
) -> list[Point]:
    """Expected values from the last reading to `until`, a point at least each day and two at each event.

    Nothing falls below zero. A drift that is not real (within twice its own scatter) moves the line not at all, but
    still widens the interval.
    Empty where the parameter was never measured.
    """
    reading = ledger.last(parameter)
    if reading is None:
        return []
    rate = drift.per_day if drift and drift.real else 0.0
    rate_sd = drift.sd if drift else reading.sd * UNKNOWN_DRIFT_SHARE

    def point(at: datetime, carry: Carry) -> Point:
        value = carry.known + carry.start_share * reading.value + carry.days * rate
        sd = sqrt((carry.start_share * reading.sd) ** 2 + (carry.days * rate_sd) ** 2)
        low, high = value - INTERVAL_SDS * sd, value + INTERVAL_SDS * sd
        return Point(at, max(0.0, value), max(0.0, low), max(0.0, high))

    events = events_after(ledger.events(parameter), reading) + sorted(planned, key=lambda event: event.at)
    carry, at = Carry(0.0, 1.0, 0.0), reading.at
    points = [point(at, carry)]
    for event in events:
        if event.at > until:
            break
        carry, at = _walk(points, point, carry, at, max(event.at, at))
        carry = carry.through(parameter, event, ledger.volume_at(event.at))
        points.append(point(at, carry))
    _walk(points, point, carry, at, until)
    return points


def joined(ledger: Ledger, parameter: Parameter, readings: Sequence[Reading]) -> list[tuple[datetime, float]]:
    """The line through `readings` (oldest first) as the mass balance has it: straight by its own drift between two
    readings, with a step at every change and dose.
    """
    line: list[tuple[datetime, float]] = []
    for before, after in pairwise(readings):
        line += _between(ledger, parameter, before, after)
    return line + [(reading.at, reading.value) for reading in readings[-1:]]


def _between(ledger: Ledger, parameter: Parameter, before: Reading, after: Reading) -> list[tuple[datetime, float]]:
    """Solve the one drift that takes the water from `before` to `after`, and list the corners of its line."""
    events = [e for e in events_after(ledger.events(parameter), before) if (e.at, e.id) < (after.at, after.id)]
    carry, at, corners = Carry(0.0, 1.0, 0.0), before.at, [(before.at, Carry(0.0, 1.0, 0.0))]
    for event in events:
        carry, at = carry.wait((event.at - at) / timedelta(days=1)), event.at
        corners.append((at, carry))
        carry = carry.through(parameter, event, ledger.volume_at(event.at))
        corners.append((at, carry))
    end = carry.wait((after.at - at) / timedelta(days=1))
    rate = (after.value - end.known - end.start_share * before.value) / end.days if end.days else 0.0
    return [(at, c.known + c.start_share * before.value + c.days * rate) for at, c in corners]


def _walk(points: list[Point], point, carry: Carry, at: datetime, to: datetime) -> tuple[Carry, datetime]:  # type: ignore[no-untyped-def]
    """Append a point each day from `at` to `to`."""
    while at < to:
        step = min(timedelta(days=1), to - at)
        carry, at = carry.wait(step / timedelta(days=1)), at + step
        points.append(point(at, carry))
    return carry, at


def value_at(points: Sequence[Point], at: datetime) -> Point | None:
    """The expected point at a moment, straight between its neighbours; None outside the points."""
    for before, after in pairwise(points):
        if before.at <= at <= after.at and after.at > before.at:
            share = (at - before.at) / (after.at - before.at)
            return Point(
                at,
                *(getattr(before, part) + share * (getattr(after, part) - getattr(before, part)) for part in _PARTS),
            )
    return points[-1] if points and points[-1].at == at else None


_PARTS = ("value", "low", "high")


def crossing(points: Sequence[Point], band: Span, now: datetime) -> Crossing | None:
    """The first moment after `now` at which the expected line leaves `band`; None if it starts outside or stays."""
    ahead = [point for point in points if point.at >= now]
    if not ahead or not band.holds(ahead[0].value):
        return None
    for before, after in pairwise(ahead):
        if band.holds(after.value):
            continue
        edge = band.nearest(after.value)
        share = (edge - before.value) / (after.value - before.value)
        return Crossing(before.at + share * (after.at - before.at), edge)
    return None
