"""The verdict on a result: in band or not, moved or only scattered, and why, in words."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, tzinfo
from enum import StrEnum
from math import sqrt

from ..basics.number_text import show_number
from ..basics.phrasing import moment_words
from ..science.parameters import FACTS, Parameter, Span
from ..science.units import UnitChoice, show, show_difference, unit_of
from .entries import Reading

REAL_SDS = 2.0
"""A difference is real when it exceeds twice the joint standard deviation."""
JUMP_SDS = 6.0
"""A result further than this from the last one within `JUMP_DAYS` is questioned: repeat the test."""
JUMP_DAYS = 3.0
SURPRISE_SDS = 5.0
"""Where a result was expected, one further off than this many joint deviations is questioned (judgement: in trials
hardly any sound result is, and four of five typing errors are)."""
OTHER_SDS = 3.0
"""How far instruments differ, in their scatters (judgement)."""
EXPECTED_SDS = 1.2816
"""Deviations to either side of what is expected that hold 80 % of a normal distribution."""


@dataclass(frozen=True)
class Expected:
    """What a test by an instrument is expected to read (canonical), with its standard deviation before the test's own
    scatter."""

    value: float
    sd: float
    instrument: str


class Position(StrEnum):
    """Position of a value against its target band."""

    NO_BAND = "no_band"
    BELOW = "below"
    NEAR_LOW = "near_low"
    IN_BAND = "in_band"
    NEAR_HIGH = "near_high"
    ABOVE = "above"

    @property
    def out(self) -> bool:
        """Below or above."""
        return self in (Position.BELOW, Position.ABOVE)


class Movement(StrEnum):
    """Movement of a value since the last reading."""

    FIRST = "first"
    STEADY = "steady"
    ROSE = "rose"
    FELL = "fell"
    NOT_COMPARABLE = "not_comparable"
    EXPECTED = "expected"


@dataclass(frozen=True)
class Verdict:
    """Position and movement, the verdict in a few words, and its reasons as sentences."""

    parameter: Parameter
    position: Position
    movement: Movement
    words: str
    reasons: tuple[str, ...]


_POSITION_WORDS = {
    Position.NO_BAND: "no band set",
    Position.BELOW: "below band",
    Position.NEAR_LOW: "at the lower edge",
    Position.IN_BAND: "in band",
    Position.NEAR_HIGH: "at the upper edge",
    Position.ABOVE: "above band",
}
_MOVEMENT_WORDS = {
    Movement.FIRST: "first reading",
    Movement.STEADY: "steady",
    Movement.ROSE: "rising",
    Movement.FELL: "falling",
    Movement.NOT_COMPARABLE: "other instrument",
}


def position(value: float, sd: float, band: Span | None) -> Position:
    """Where `value` stands; within one `sd` inside an edge it is "near": the instrument cannot tell.

    Where the band is narrower than four sd, the edge zone is a quarter of the band.
    """
    if band is None:
        return Position.NO_BAND
    edge = min(sd, band.width / 4)
    if value < band.low:
        return Position.BELOW
    if value > band.high:
        return Position.ABOVE
    if value < band.low + edge:
        return Position.NEAR_LOW
    return Position.NEAR_HIGH if value > band.high - edge else Position.IN_BAND


def movement(reading: Reading, before: Reading | None) -> Movement:
    """Real or noise: a difference counts beyond twice the joint scatter, and only on the same instrument."""
    if before is None:
        return Movement.FIRST
    if reading.instrument != before.instrument:
        return Movement.NOT_COMPARABLE
    difference = reading.value - before.value
    if abs(difference) <= REAL_SDS * joint_sd(reading, before):
        return Movement.STEADY
    return Movement.ROSE if difference > 0 else Movement.FELL


def joint_sd(one: Reading, other: Reading) -> float:
    """Standard deviation of the difference of two readings."""
    return sqrt(one.sd**2 + other.sd**2)


def mean(values: Iterable[float]) -> float:
    """The mean of one value or more."""
    known = tuple(values)
    return sum(known) / len(known)


def judge(reading: Reading, before: Reading | None, band: Span | None, units: UnitChoice, zone: tzinfo) -> Verdict:
    """The verdict on `reading`, against its band and the reading before it."""
    place, moved = position(reading.value, reading.sd, band), movement(reading, before)
    reasons = [*_band_reasons(reading, place, band, units), *_movement_reasons(reading, before, moved, units, zone)]
    words = _POSITION_WORDS[place]
    if moved in (Movement.ROSE, Movement.FELL, Movement.NOT_COMPARABLE):
        words += f", {_MOVEMENT_WORDS[moved]}"
    return Verdict(reading.parameter, place, moved, words, tuple(reasons))


def judge_expected(reading: Reading, value: float, band: Span | None, units: UnitChoice, zone: tzinfo) -> Verdict:
    """The verdict on a value that was carried from `reading` through later changes or doses, and not measured since."""
    carried = replace(reading, value=value)
    place = position(value, reading.sd, band)
    measured = show(reading.parameter, reading.value, units)
    since = (
        f"Expected, not measured: {measured} on {moment_words(reading.at, zone)}, carried through what was done since."
    )
    reasons = (*_band_reasons(carried, place, band, units), since)
    return Verdict(reading.parameter, place, Movement.EXPECTED, f"{_POSITION_WORDS[place]}, expected", reasons)


def band_words(parameter: Parameter, band: Span, units: UnitChoice) -> str:
    """A band in the keeper's unit, such as "7.5–9.5 dKH"."""
    unit = unit_of(parameter, units)
    low = show_number(unit.from_canonical(band.low), unit.decimals)
    return f"{low}–{show(parameter, band.high, units)}"


def _band_reasons(reading: Reading, place: Position, band: Span | None, units: UnitChoice) -> list[str]:
    if band is None:
        return ["No target band is set for this system."]
    words = band_words(reading.parameter, band, units)
    value = show(reading.parameter, reading.value, units)
    if not place.out:
        certain = "" if place == Position.IN_BAND else " Too close to the limit for this instrument to say which side."
        return [f"{value} is inside {words}.{certain}"]
    gap = abs(reading.value - band.nearest(reading.value))
    shown = show_difference(reading.parameter, gap, band.nearest(reading.value), units)
    doubt = " That is within the instrument's error: repeat the test first." if gap < reading.sd else ""
    side = "below" if place == Position.BELOW else "above"
    return [f"{value} is {shown} {side} the band of {words}.{doubt}"]


def _movement_reasons(
    reading: Reading, before: Reading | None, moved: Movement, units: UnitChoice, zone: tzinfo
) -> list[str]:
    if before is None:
        return ["There is no earlier reading to compare with."]
    when = moment_words(before.at, zone)
    if moved == Movement.NOT_COMPARABLE:
        return [
            f"Measured with {reading.instrument}, on {when} with {before.instrument}: "
            "two instruments are not one series, so the difference says nothing yet."
        ]
    difference = reading.value - before.value
    shown = show_difference(reading.parameter, abs(difference), before.value, units)
    bound = show_difference(reading.parameter, REAL_SDS * joint_sd(reading, before), before.value, units)
    if moved == Movement.STEADY:
        return [
            f"It differs by {shown} from {when}: within twice the combined test error ({bound}), so it may be noise."
        ]
    way = "up" if difference > 0 else "down"
    return [f"{shown} {way} since {when}: more than twice the combined test error ({bound}), so it is real."]


def expected_range(expected: Expected, apart: float) -> Span:
    """What a test should read in eight of ten cases; apart: the deviation of what it may read, its own scatter
    counted. Nothing is below zero."""
    return Span(max(0.0, expected.value - EXPECTED_SDS * apart), expected.value + EXPECTED_SDS * apart)


def doubts(
    reading: Reading, before: Reading | None, expected: Expected | None, units: UnitChoice, zone: tzinfo
) -> list[str]:
    """Doubts to settle before a result is believed: unlikely for any reef, or else not what was expected; and where
    nothing is expected, a jump since the last reading."""
    found = list[str]()
    facts, shown = FACTS[reading.parameter], show(reading.parameter, reading.value, units)
    if not facts.likely.holds(reading.value):
        usual = band_words(reading.parameter, facts.likely, units)
        found.append(f"{shown} is unusual (commonly {usual}). Is it right?")
    if expected is not None:
        apart = _apart(reading, expected)
        if not found and abs(reading.value - expected.value) > SURPRISE_SDS * apart:
            around = expected_range(expected, apart)
            value = show(reading.parameter, expected.value, units)
            found.append(
                f"Expected {value} ({band_words(reading.parameter, around, units)}) by the readings and what was "
                f"recorded since. Is {shown} right?"
            )
    elif before is not None and reading.instrument == before.instrument:
        days = abs((reading.at - before.at).total_seconds()) / 86400
        if days <= JUMP_DAYS and abs(reading.value - before.value) > JUMP_SDS * joint_sd(reading, before):
            last = show(reading.parameter, before.value, units)
            found.append(f"A jump from {last} on {moment_words(before.at, zone)}: repeat the test before acting on it.")
    return found


def _apart(reading: Reading, expected: Expected) -> float:
    """How far a result may lie from what is expected, one standard deviation; another instrument has its own zero."""
    other = OTHER_SDS if reading.instrument != expected.instrument else 0.0
    return sqrt(expected.sd**2 + (1 + other**2) * reading.sd**2)


def series(readings: Sequence[Reading], now: datetime) -> tuple[Reading, Reading | None] | None:
    """The latest reading and the one before it by the same instrument (else the one before it), up to `now`."""
    known = [reading for reading in readings if reading.at <= now]
    if not known:
        return None
    last, earlier = known[-1], known[:-1]
    same = [reading for reading in earlier if reading.instrument == last.instrument]
    fitting = same or earlier
    return last, fitting[-1] if fitting else None
