"""Following a sensor: when it passes a limit, when that counts, and when it is over."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum

from .signals import AlarmLimit


class Side(StrEnum):
    """The limit that was passed."""

    LOW = "low"
    HIGH = "high"


@dataclass(frozen=True)
class Sample:
    """A value of a sensor at a moment, canonical; a contact's is 0 or 1."""

    at: datetime
    value: float


@dataclass(frozen=True)
class Followed:
    """How one sensor stands against its limit. since: when it passed it, None inside · worst: furthest beyond ·
    counts: whether it has lasted long enough · last: the latest sample followed."""

    since: datetime | None = None
    side: Side = Side.HIGH
    worst: float = 0.0
    counts: bool = False
    last: Sample | None = None


@dataclass(frozen=True)
class Turn:
    """Something that happened: it began to count, or was over. began: when the limit was passed."""

    at: datetime
    over: bool
    side: Side
    began: datetime
    value: float
    worst: float


INSIDE = Followed()


def follow(limit: AlarmLimit, stands: Followed, samples: Iterable[Sample]) -> tuple[Followed, list[Turn]]:
    """Follow samples, oldest first, from where it stood; what is not later than the latest one is left out. What comes
    out does not depend on how the samples were divided.

    A value beyond its limit counts once it is still beyond when `hold_min` have passed, and is over when it has come
    back inside by `back`.
    """
    turns: list[Turn] = []
    for sample in samples:
        if stands.last is None or sample.at > stands.last.at:
            stands = _step(limit, stands, sample, turns)
    return stands, turns


def _step(limit: AlarmLimit, stands: Followed, sample: Sample, turns: list[Turn]) -> Followed:
    if limit.kind.contact:
        # A contact stays as it is until it says otherwise.
        stands = lasted(limit, stands, sample.at, turns)
    if stands.since is not None and _back(limit, stands.side, sample.value):
        if stands.counts:
            turns.append(_turn(stands, sample, over=True))
        stands = replace(INSIDE, last=stands.last)
    if stands.since is None:
        side = beyond(limit, sample.value)
        if side is None:
            return replace(stands, last=sample)
        stands = Followed(sample.at, side, sample.value)
    worst = min(stands.worst, sample.value) if stands.side == Side.LOW else max(stands.worst, sample.value)
    stands = replace(stands, worst=worst, last=sample)
    return lasted(limit, stands, sample.at, turns)


def lasted(limit: AlarmLimit, stands: Followed, until: datetime, turns: list[Turn]) -> Followed:
    """Let it count where it has lasted long enough by a moment."""
    if stands.since is None or stands.counts or stands.last is None:
        return stands
    due = stands.since + timedelta(minutes=limit.hold_min)
    if until < due:
        return stands
    at = due if limit.kind.contact else until
    turns.append(_turn(stands, replace(stands.last, at=at), over=False))
    return replace(stands, counts=True)


def beyond(limit: AlarmLimit, value: float) -> Side | None:
    """The limit that a value is beyond."""
    if limit.low is not None and value < limit.low:
        return Side.LOW
    return Side.HIGH if limit.high is not None and value > limit.high else None


def _back(limit: AlarmLimit, side: Side, value: float) -> bool:
    """Whether a value is back inside the limit, by as much as was asked."""
    if side == Side.LOW:
        return limit.low is None or value >= limit.low + limit.back
    return limit.high is None or value <= limit.high - limit.back


def _turn(stands: Followed, sample: Sample, over: bool) -> Turn:
    assert stands.since is not None
    return Turn(sample.at, over, stands.side, stands.since, sample.value, stands.worst)
