"""An alarm as it is kept, and in words: what it is, since when, and what to open."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, tzinfo
from enum import StrEnum

from ..basics.phrasing import capital, clock_words, moment_words
from ..science.parameters import spoken
from ..science.units import UnitChoice, show, show_difference
from .follow import Side
from .sensor_faults import SensorFault
from .signals import Signal, signal_of

LIMIT = "limit"
"""The kind of an alarm for a value beyond its limit; all others are faults of a sensor."""
BY_HAND = "tests by hand"
"""The sensor of results that a keeper typed."""


class Ended(StrEnum):
    """Why an alarm is over."""

    BACK = "back"
    LIMIT_CHANGED = "limit_changed"
    CORRECTED = "corrected"


@dataclass(frozen=True)
class Alarm:
    """kind: "limit", or the fault of a sensor · limit: the value that was passed, as it was then · began: when it was
    passed, raised: when that counted · worst: furthest beyond, or how far a sensor drifted."""

    system_id: int
    signal: str
    sensor: str
    kind: str
    began: datetime
    raised: datetime
    side: Side = Side.HIGH
    limit: float = 0.0
    value: float = 0.0
    worst: float = 0.0
    wakes: bool = True
    id: int = 0
    over: datetime | None = None
    ended: Ended | None = None
    seen: datetime | None = None
    seen_by: str = ""

    @property
    def about(self) -> Signal:
        """What it watches."""
        return signal_of(self.signal)

    @property
    def sheet(self) -> str:
        """The emergency to open, empty where there is none."""
        if self.kind != LIMIT:
            return ""
        return self.about.low_sheet if self.side == Side.LOW else self.about.high_sheet


_FAULTS: Mapping[str, str] = {
    SensorFault.SILENT: "{sensor} is silent",
    SensorFault.STUCK: "{sensor} stands still",
    SensorFault.OUT_OF_WATER: "{sensor} may be out of the water",
    SensorFault.DRIFTING: "{sensor} disagrees with tests by hand",
}


def when_words(at: datetime, zone: tzinfo) -> str:
    """A moment with its clock time.

    >>> from datetime import UTC
    >>> when_words(datetime(2026, 11, 24, 2, 10, tzinfo=UTC), UTC)
    '02:10 on Tue 24 Nov'
    """
    return f"{clock_words(at.astimezone(zone))} on {moment_words(at, zone)}"


def title_of(alarm: Alarm, units: UnitChoice) -> str:
    """An alarm in a few words."""
    signal = alarm.about
    if alarm.kind != LIMIT:
        return capital(_FAULTS[alarm.kind].format(sensor=alarm.sensor))
    name = signal.low if alarm.side == Side.LOW else signal.high
    if signal.parameter is None:
        return capital(name)
    return f"{capital(name)}: {show(signal.parameter, alarm.worst, units)}"


def words_of(alarm: Alarm, units: UnitChoice, zone: tzinfo) -> str:
    """What happened, in one or two sentences."""
    since, signal = when_words(alarm.began, zone), alarm.about
    if alarm.kind != LIMIT:
        return _fault_words(alarm, since, units)
    if signal.parameter is None:
        if alarm.over is not None:
            return f"The {signal.name} ({alarm.sensor}) was on {_lasted(alarm.began, alarm.over, zone)}."
        return f"The {signal.name} ({alarm.sensor}) has been on since {since}."
    way = "below" if alarm.side == Side.LOW else "above"
    limit = show(signal.parameter, alarm.limit, units)
    if alarm.sensor == BY_HAND:
        return f"The {signal.name} test of {since} is {way} {limit}."
    if alarm.ended == Ended.BACK and alarm.over is not None:
        return f"{capital(signal.name)} by {alarm.sensor} was {way} {limit} {_lasted(alarm.began, alarm.over, zone)}."
    return f"{capital(signal.name)} by {alarm.sensor} has been {way} {limit} since {since}."


def _lasted(began: datetime, over: datetime, zone: tzinfo) -> str:
    """From when until when; the day once where it is the same."""
    same = began.astimezone(zone).date() == over.astimezone(zone).date()
    first = clock_words(began.astimezone(zone)) if same else when_words(began, zone)
    return f"from {first} until {when_words(over, zone)}"


def _fault_words(alarm: Alarm, since: str, units: UnitChoice) -> str:
    name, parameter = alarm.about.name, alarm.about.parameter
    if alarm.kind == SensorFault.SILENT:
        return f"Nothing has come from it for {name} since {since}: {name} is not watched meanwhile."
    if alarm.kind == SensorFault.STUCK:
        return f"It has shown the same {name} to the last digit since {since}, which it never did before."
    if alarm.kind == SensorFault.OUT_OF_WATER:
        return f"At {since} {name} moved faster than this water can. Look whether the probe hangs in the water."
    gap = show_difference(parameter, abs(alarm.worst), alarm.value, units) if parameter else ""
    way = "above" if alarm.worst > 0 else "below"
    return (
        f"It reads {gap} {way} the last tests of {spoken(parameter) if parameter else name}. "
        "Check both against a standard before you act on either."
    )


def over_words(alarm: Alarm, zone: tzinfo) -> str:
    """That it is over, and why; empty while it is not, and where its own words say so."""
    told = alarm.kind == LIMIT and alarm.ended == Ended.BACK and alarm.sensor != BY_HAND
    if alarm.over is None or told:
        return ""
    when = when_words(alarm.over, zone)
    if alarm.ended == Ended.LIMIT_CHANGED:
        return f"Ended at {when}: its limit was changed, or its sensor removed."
    if alarm.ended == Ended.CORRECTED:
        return f"Ended at {when}: the result was corrected."
    return f"Over since {when}."
