"""A case: a remedy that was chosen, followed from test to test until it has worked or is given up."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from math import sqrt

from ..basics.phrasing import capital, counted, moment_words
from ..estimate.forecast import Course
from ..judgement.situation import Situation
from ..ledger.balance import Present
from ..ledger.entries import Reading
from ..ledger.verdict import REAL_SDS
from ..planning.work_order import WORKING_HOUR
from ..science.parameters import Parameter, spoken
from .cause import Cause
from .effect import courses_with, end_of
from .remedy import Remedy, Supply, purpose_of


class TurnKind(StrEnum):
    """What a keeper does with a case besides its steps."""

    PAUSED = "paused"
    RESUMED = "resumed"
    ENDED = "ended"
    ABANDONED = "abandoned"
    REPLACED = "replaced"
    HANDED = "handed"
    PHASE = "phase"


PROGRAMME = "programme."
"""What the cause of a programme's case begins with; the trouble follows."""
CLOSING = (TurnKind.ENDED, TurnKind.ABANDONED, TurnKind.REPLACED)


@dataclass(frozen=True)
class CaseTurn:
    """A turn of a case: what, when, and why; of one that was handed on, to whom (empty: taken back); of another phase
    of a programme, its key."""

    at: datetime
    kind: TurnKind
    because: str = ""


@dataclass(frozen=True)
class ExpectedValue:
    """An expected value (canonical) with its 80 % interval."""

    at: datetime
    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Chosen:
    """A remedy as it was chosen, frozen: its words, where it starts from and leads to (canonical, None where it moves
    no parameter), the size of one step, the reading it starts from, and its expected course; of a programme, how much
    of the growth there was, and which tasks the keeper wished for."""

    key: str
    kind: str
    title: str
    how: str
    start: float | None = None
    sd: float = 0.0
    aim: float | None = None
    step: float = 0.0
    entry: int = 0
    course: tuple[ExpectedValue, ...] = ()
    to_buy: tuple[Supply, ...] = ()
    before: str = ""
    wishes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Case:
    """A case of a system: its cause (rule and parameter), the plan its steps belong to, the remedy chosen, its
    turns."""

    id: int
    system_id: int
    cause: str
    parameter: Parameter | None
    plan: str
    opened_at: datetime
    chosen: Chosen
    turns: tuple[CaseTurn, ...] = ()

    @property
    def key(self) -> str:
        """The name of its cause."""
        return f"{self.cause}.{self.parameter.value}" if self.parameter else self.cause

    @property
    def purpose(self) -> str:
        """What it is for, in a few words.

        >>> moment = datetime(2026, 11, 24)
        >>> Case(1, 1, "ion_low", None, "", moment, Chosen("", "", "Raise calcium to 425 mg/L: 3 g", "")).purpose
        'raise calcium to 425 mg/L'
        """
        return purpose_of(self.chosen.title)

    @property
    def last_turn(self) -> CaseTurn | None:
        """The latest turn, whoever does its steps and whichever phase it is in."""
        return next((one for one in reversed(self.turns) if one.kind not in (TurnKind.HANDED, TurnKind.PHASE)), None)

    @property
    def carer(self) -> str:
        """Who does its steps, where that is not the keeper."""
        return next((one.because for one in reversed(self.turns) if one.kind == TurnKind.HANDED), "")

    @property
    def step_note(self) -> str:
        """What its steps are for, and who does them."""
        return f"{self.purpose}; {self.carer} does it" if self.carer else self.purpose

    @property
    def closed(self) -> CaseTurn | None:
        """The turn that closed it; None while it is open."""
        last = self.last_turn
        return last if last and last.kind in CLOSING else None

    @property
    def paused(self) -> bool:
        """Whether it is paused."""
        return self.last_turn is not None and self.last_turn.kind == TurnKind.PAUSED


def chosen_from(remedy: Remedy, s: Situation) -> Chosen:
    """A remedy as it is frozen when it is chosen."""
    parameter = remedy.parameter
    known = s.present.get(parameter) if parameter and remedy.steps else None
    to_buy = tuple(one for one in remedy.supplies if not one.on_shelf)
    if parameter is None or known is None:
        return Chosen(remedy.key, remedy.kind, remedy.title, remedy.how, to_buy=to_buy)
    end = end_of(remedy, s)
    course = courses_with(remedy, s, end).get(parameter)
    step = max((abs(_rise(one.order, parameter, s)) for one in remedy.work), default=0.0)
    points = _kept(course, s.now, end) if course else _line(remedy, known, s)
    return Chosen(
        remedy.key, remedy.kind, remedy.title, remedy.how, known.value, known.sd, remedy.aim, step,
        known.reading.id, points, to_buy
    )  # fmt: skip


def _rise(order: object, parameter: Parameter, s: Situation) -> float:
    step = getattr(order, "step", 0.0)
    return float(step) if parameter in getattr(order, "before", {}) else 0.0


def _kept(course: Course, now: datetime, end: datetime) -> tuple[ExpectedValue, ...]:
    """The course from now to its end, with both sides of each step."""
    first = course.at(now)
    points = [*([first] if first else []), *(point for point in course.until(end) if point.at > now)]
    return tuple(ExpectedValue(p.at, p.value, p.low, p.high) for p in points)


def _line(remedy: Remedy, known: Present, s: Situation) -> tuple[ExpectedValue, ...]:
    """The course of what is not forecast, such as temperature: evenly to its aim by the last step."""
    if remedy.aim is None or remedy.last_day is None:
        return ()
    end = datetime.combine(remedy.last_day, WORKING_HOUR, s.zone)
    spread = REAL_SDS * known.sd
    points = [(s.now, known.value), (max(end, s.now), remedy.aim)]
    return tuple(ExpectedValue(at, value, value - spread, value + spread) for at, value in points)


class CaseState(StrEnum):
    """How a case stands."""

    WAITING = "no test yet"
    ON_COURSE = "on course"
    AHEAD = "ahead"
    BEHIND = "behind"
    CONTRADICTS = "the wrong way"
    REACHED = "done"
    PAUSED = "paused"
    CLOSED = "closed"


NEEDS_KEEPER = (CaseState.AHEAD, CaseState.BEHIND, CaseState.CONTRADICTS)
"""States in which the plan is not simply to be followed."""


@dataclass(frozen=True)
class CaseStanding:
    """How a case stands: the state, in words with its numbers, what to do about it, the test it rests on, and whether
    it has brought its parameter into its band."""

    state: CaseState
    words: str
    to_do: str = ""
    reading: Reading | None = None
    worked: bool = False

    @property
    def live(self) -> bool:
        """Whether it is still being worked on."""
        return self.state not in (CaseState.REACHED, CaseState.CLOSED)


@dataclass(frozen=True)
class FollowedCase:
    """A case with how it stands; urgent: whether its cause is · late_days: how late its steps run."""

    case: Case
    standing: CaseStanding
    urgent: bool = False
    late_days: int = 0

    def expected(self, at: datetime) -> float | None:
        """What its plan expects at a moment (canonical), as late as its steps run; None where it expects no value."""
        known = self.case.chosen.start is not None and self.case.parameter is not None
        return expected_at(self.case.chosen, at - timedelta(days=self.late_days)) if known else None


@dataclass(frozen=True)
class CaseProgress:
    """The steps of a case: how many were done and are open, and how many days late the plan runs."""

    done: int = 0
    open: int = 0
    late_days: int = 0


def standing(case: Case, s: Situation, progress: CaseProgress, cause: Cause | None) -> CaseStanding:
    """How a case stands by the latest test since it was opened. cause: the same cause, where it still stands."""
    turn = case.closed
    if turn:
        return _closed(case, turn, s)
    if case.paused and case.last_turn:
        return CaseStanding(CaseState.PAUSED, f"Paused {s.when(case.last_turn.at)}.")
    if case.chosen.start is None or case.parameter is None:
        gone = cause is None and not progress.open and s.now - case.opened_at > timedelta(hours=12)
        words = (
            "What it was opened for is no longer found."
            if gone
            else "It goes on until a test or a visual check says otherwise."
        )
        return CaseStanding(CaseState.REACHED if gone else CaseState.WAITING, words)
    last = s.ledger.last(case.parameter)
    if last is None or last.at < case.opened_at or last.id == case.chosen.entry:
        return CaseStanding(CaseState.WAITING, _waiting_words(progress))
    return _by_test(case, s, progress, last)


def _waiting_words(progress: CaseProgress) -> str:
    late = f" The plan runs {counted(progress.late_days, 'day')} late." if progress.late_days else ""
    if not progress.open and not progress.done:
        return "Waiting for the next test." + late
    return f"{progress.done} of {counted(progress.done + progress.open, 'step')} done, not tested yet.{late}"


def _by_test(case: Case, s: Situation, progress: CaseProgress, last: Reading) -> CaseStanding:
    parameter, chosen = last.parameter, case.chosen
    assert chosen.start is not None
    aim = chosen.aim if chosen.aim is not None else chosen.start
    expected = expected_at(chosen, last.at - timedelta(days=progress.late_days))
    measured, wanted = s.show(parameter, last.value), s.show(parameter, expected)
    most = REAL_SDS * sqrt(chosen.sd**2 + last.sd**2) + chosen.step / 2
    way = 1.0 if aim >= chosen.start else -1.0
    off, moved = (last.value - expected) * way, (last.value - chosen.start) * way
    band = s.band(parameter)
    near = abs(last.value - aim) <= REAL_SDS * last.sd
    inside = band is None or band.holds(last.value)
    beyond = (last.value - aim) * way > 0 and not progress.open
    if inside and (near or beyond) and off > -most:
        return _reached(case, s, progress, last)
    on = s.when(last.at)
    if abs(off) <= most:
        return CaseStanding(
            CaseState.ON_COURSE, f"{capital(spoken(parameter))} {measured} on {on}, {wanted} expected.", "", last
        )
    if off > 0:
        words = f"{capital(spoken(parameter))} is {measured} on {on}, further than the {wanted} expected."
        return CaseStanding(CaseState.AHEAD, words, "Stop the doses and test again before going on.", last)
    if moved < -REAL_SDS * sqrt(chosen.sd**2 + last.sd**2):
        words = f"{capital(spoken(parameter))} went the other way: {measured} on {on}, {wanted} expected."
        return CaseStanding(CaseState.CONTRADICTS, words, "Stop, test again, and look for another cause.", last)
    words = f"{capital(spoken(parameter))} is {measured} on {on}, behind the {wanted} expected."
    return CaseStanding(CaseState.BEHIND, words, _why_behind(progress), last)


def _why_behind(progress: CaseProgress) -> str:
    if progress.late_days:
        return f"Steps were missed: the plan runs {counted(progress.late_days, 'day')} late. Go on with it."
    return (
        "Test again. If it stays behind, check the pump and the strength of the solution: or more is used than the "
        "estimate says."
    )


def expected_at(chosen: Chosen, at: datetime) -> float:
    """The expected value of a chosen remedy at a moment, its first or last outside of its course (canonical)."""
    course = chosen.course
    if not course:
        return chosen.aim if chosen.aim is not None else chosen.start or 0.0
    place = bisect_right([point.at for point in course], at)
    if place == 0:
        return course[0].value
    if place == len(course):
        return course[-1].value
    before, after = course[place - 1], course[place]
    if after.at == before.at:
        return after.value
    share = (at - before.at) / (after.at - before.at)
    return before.value + share * (after.value - before.value)


def _reached(case: Case, s: Situation, progress: CaseProgress, last: Reading) -> CaseStanding:
    """What a case did, in one sentence."""
    chosen, parameter = case.chosen, last.parameter
    assert chosen.start is not None
    days = max(1, round((last.at - case.opened_at) / timedelta(days=1)))
    moved = f"{s.show(parameter, chosen.start)} to {s.show(parameter, last.value)} in {counted(days, 'day')}"
    steps = f", {counted(progress.done, 'step')} done" if progress.done else ""
    expected = expected_at(chosen, last.at - timedelta(days=progress.late_days))
    off = last.value - expected
    as_expected = f", {s.difference(parameter, off)} {'over' if off > 0 else 'under'} what was expected"
    if abs(off) <= REAL_SDS * last.sd:
        as_expected = f", as expected within {s.difference(parameter, REAL_SDS * last.sd)}"
    left = f"Stop here: {counted(progress.open, 'step')} are left and not needed." if progress.open else ""
    return CaseStanding(
        CaseState.REACHED, f"{capital(spoken(parameter))} from {moved}{steps}{as_expected}.", left, last, True
    )


def _closed(case: Case, turn: CaseTurn, s: Situation) -> CaseStanding:
    """A case that was closed, with what it did by the last test before."""
    names = {TurnKind.ENDED: "Ended", TurnKind.ABANDONED: "Given up", TurnKind.REPLACED: "Replaced by another plan"}
    because = f": {turn.because}" if turn.because else ""
    words = f"{names[turn.kind]} {moment_words(turn.at, s.zone)}{because}."
    start, parameter = case.chosen.start, case.parameter
    if start is None or parameter is None:
        return CaseStanding(CaseState.CLOSED, words)
    tests = [one for one in s.ledger.of(parameter) if case.opened_at <= one.at <= turn.at]
    tests = [one for one in tests if one.id != case.chosen.entry]
    if not tests:
        return CaseStanding(CaseState.CLOSED, f"{words} Not tested meanwhile.")
    last, band = tests[-1], s.band(parameter)
    days = max(1, round((last.at - case.opened_at) / timedelta(days=1)))
    did = f"{s.show(parameter, start)} to {s.show(parameter, last.value)} in {counted(days, 'day')}"
    inside = band is not None and band.holds(last.value)
    return CaseStanding(
        CaseState.CLOSED, f"{words} {capital(spoken(parameter))} went from {did}.", "", last, inside
    )  # fmt: skip


def tried_before(cases: Sequence[Case], key: str) -> list[Case]:
    """Earlier cases of the same cause, the latest first."""
    return [one for one in reversed(cases) if one.key == key]
