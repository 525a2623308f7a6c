"""Next: the short ordered list of what to do now on one system, each with its number, reason, minutes and way."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta, tzinfo
from enum import StrEnum

from .judge import Position, Verdict
from .ledger import Ledger
from .parameters import FACTS, Parameter, spoken
from .rota import WATER_CHANGE, Occurrence
from .system import Stage, System
from .words import counted, day_words, listed, moment_words

TEST_EVERY_DAYS: Mapping[Parameter, int] = {
    Parameter.TEMPERATURE: 3,
    Parameter.SALINITY: 3,
    Parameter.ALKALINITY: 3,
    Parameter.CALCIUM: 14,
    Parameter.MAGNESIUM: 14,
    Parameter.NITRATE: 7,
    Parameter.PHOSPHATE: 7,
    Parameter.PH: 7,
}
TEST_EVERY_DAYS_BREAKING_IN: Mapping[Parameter, int] = {
    Parameter.AMMONIA: 2,
    Parameter.NITRITE: 2,
    Parameter.ALKALINITY: 3,
    Parameter.SALINITY: 3,
}
"""Default test intervals, a judgement."""

CORRECTED_BY_CHANGE = (Parameter.SALINITY, Parameter.ALKALINITY)


class Way(StrEnum):
    """What the entry's first button does."""

    PLAN_CHANGE = "plan_change"
    TEST = "test"
    RUN = "run"
    RECORD = "record"
    SEE = "see"


@dataclass(frozen=True)
class NextItem:
    """One entry: title with its number, reason, minutes, the way to do it, and what it refers to."""

    way: Way
    title: str
    reason: str
    minutes: float
    pressing: bool
    task: str = ""
    due: str = ""
    step_id: int | None = None


def next_up(
    system: System,
    ledger: Ledger,
    verdicts: Sequence[Verdict],
    occurrences: Sequence[Occurrence],
    now: datetime,
    zone: tzinfo,
) -> list[NextItem]:
    """What is out of band first, then what is late or due today, then tests that are overdue, then the next change."""
    today = now.astimezone(zone).date()
    due = [_task(item, today) for item in occurrences if item.day <= today]
    ahead = [item for item in occurrences if item.day > today and item.step_id is not None]
    planned = any(item.step_id is not None for item in occurrences)
    items = [] if planned else _corrections(system, verdicts)
    items += sorted(due, key=lambda item: not item.pressing)
    items += _tests(system, ledger, now, zone)
    return items + [_task(item, today) for item in ahead[:1]]


def _corrections(system: System, verdicts: Sequence[Verdict]) -> list[NextItem]:
    if system.stage == Stage.BREAKING_IN:
        return []
    out = [verdict for verdict in verdicts if verdict.position.out and verdict.parameter in CORRECTED_BY_CHANGE]
    if not out:
        return []
    names = listed([spoken(verdict.parameter) for verdict in out])
    reason = " ".join(_named(verdict) for verdict in out)
    return [NextItem(Way.PLAN_CHANGE, f"Plan a water change for {names}", reason, 2, True)]


def _named(verdict: Verdict) -> str:
    """The first reason, with the parameter's name before its value."""
    return f"{FACTS[verdict.parameter].name} {verdict.reasons[0]}"


def _task(item: Occurrence, today: date) -> NextItem:
    late = f", {counted(item.late_days, 'day')} late" if item.late_days else ""
    planned = item.step_id is not None
    ahead = f"{day_words(item.day)}: " if item.day > today else ""
    way = Way.RUN if planned and item.task == WATER_CHANGE else Way.PLAN_CHANGE
    if item.task != WATER_CHANGE:
        way = Way.RECORD
    if ahead:
        way = Way.SEE
    return NextItem(
        way, f"{ahead}{item.name}{late}", _sentence(item.why), item.minutes, item.late_days > 0, item.task,
        item.due.isoformat(), item.step_id,
    )  # fmt: skip


def _sentence(words: str) -> str:
    return words[:1].upper() + words[1:] + "."


def _tests(system: System, ledger: Ledger, now: datetime, zone: tzinfo) -> list[NextItem]:
    every = TEST_EVERY_DAYS_BREAKING_IN if system.stage == Stage.BREAKING_IN else TEST_EVERY_DAYS
    overdue, oldest = [], None
    for parameter, days in every.items():
        last = ledger.last(parameter)
        if last is None:
            overdue.append(parameter)
        elif now - last.at > timedelta(days=days):
            overdue.append(parameter)
            oldest = min(oldest, last.at) if oldest else last.at
    if not overdue:
        return []
    names = listed([spoken(parameter) for parameter in overdue])
    since = f"The oldest result is from {moment_words(oldest, zone)}." if oldest else "Never measured so far."
    return [NextItem(Way.TEST, f"Test {names}", since, 3.0 * len(overdue), False)]


class Standing(StrEnum):
    """A system's verdict in words, as its tide staff shows it."""

    ACT = "act today"
    WATCH = "act this week"
    WAIT = "breaking in, wait"
    UNKNOWN = "test first"
    NO_BANDS = "no bands set"
    WELL = "all in band"

    @property
    def urgent(self) -> bool:
        """Whether something is to be done today."""
        return self == Standing.ACT


@dataclass(frozen=True)
class Summary:
    """How a system stands, and why in one sentence."""

    standing: Standing
    reason: str


def summary(system: System, verdicts: Sequence[Verdict], occurrences: Sequence[Occurrence]) -> Summary:
    """Salinity or alkalinity out of band: act today. Another out, or late work: this week. Nothing measured: test."""
    out = [verdict for verdict in verdicts if verdict.position.out]
    if system.stage == Stage.BREAKING_IN:
        return Summary(Standing.WAIT, "No water change until ammonia and nitrite are gone.")
    if not verdicts:
        return Summary(Standing.UNKNOWN, "Nothing has been measured yet.")
    if all(verdict.position == Position.NO_BAND for verdict in verdicts):
        return Summary(Standing.NO_BANDS, "Nothing says what is right for it: set target bands in Set-up.")
    urgent = [verdict for verdict in out if verdict.parameter in CORRECTED_BY_CHANGE]
    if urgent:
        return Summary(Standing.ACT, _named(urgent[0]))
    if out:
        return Summary(Standing.WATCH, _named(out[0]))
    late = [item for item in occurrences if item.late_days]
    if late:
        return Summary(Standing.WATCH, f"{late[0].name} is {counted(late[0].late_days, 'day')} late.")
    near = [verdict for verdict in verdicts if verdict.position in (Position.NEAR_LOW, Position.NEAR_HIGH)]
    return Summary(Standing.WELL, _named(near[0]) if near else "Every result is inside its band.")
