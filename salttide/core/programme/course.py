"""The course of a programme: which phase it is in, by the reviews, the single tasks done and the keeper's own turns."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from enum import StrEnum

from .file import LightCut, Phase, PhaseKind, Programme

REVIEW_DAYS = 7
"""A programme is reviewed once a week."""
APART_DAYS = 4
"""Two looks within fewer days than this count as one (judgement)."""
FORGOTTEN_DAYS = 10
"""A review that is this old is asked for in Next (judgement)."""
STUCK_LOOKS = 2
"""So many reviews without any change ask for another idea."""


class Coverage(StrEnum):
    """How much of a growth there is, of the surface it lives on: none · less than a twentieth · up to a quarter ·
    more."""

    NONE = "none"
    LITTLE = "a little"
    PATCHES = "patches"
    MUCH = "much"

    @property
    def level(self) -> int:
        """0 for none to 3."""
        return list(Coverage).index(self)


LITTLE_SHARE, PATCHES_SHARE = 0.05, 0.25


def coverage_of(share: float) -> Coverage:
    """The step of a share of the surface (0..1); what is under half a hundredth is none.

    >>> [coverage_of(share).value for share in (0.0, 0.03, 0.2, 0.6)]
    ['none', 'a little', 'patches', 'much']
    """
    if share < 0.005:
        return Coverage.NONE
    if share < LITTLE_SHARE:
        return Coverage.LITTLE
    return Coverage.PATCHES if share <= PATCHES_SHARE else Coverage.MUCH


@dataclass(frozen=True)
class Review:
    """One review: its day, how much there was, and the number of its entry."""

    day: date
    coverage: Coverage
    entry: int = 0


@dataclass(frozen=True)
class ProgrammeRecord:
    """What the record holds of a programme: the day it was opened and how much there was, its reviews, the days each
    task was done on, and the keeper's own turns (day, key of the phase)."""

    opened: date
    before: Coverage
    reviews: Sequence[Review] = ()
    done: Mapping[str, Sequence[date]] = field(default_factory=dict)
    turns: Sequence[tuple[date, str]] = ()


class Turn(StrEnum):
    """Why a phase began."""

    OPENED = "opened"
    FOUND = "what feeds it was looked for"
    CLEAN = "clean for as many weeks as it takes"
    OVER = "its weeks are over"
    SETBACK = "it came back"
    CHOSEN = "the keeper's choice"


@dataclass(frozen=True)
class Stage:
    """A phase as it was lived through: from a day on, why it began; cut: hours of light that were already taken off
    when it began."""

    phase: Phase
    since: date
    why: Turn
    cut: float = 0.0


@dataclass(frozen=True)
class ProgrammeCourse:
    """The phases so far, the latest last; clean: looks in a row without it · stuck: it did not change for two reviews ·
    over: every phase is done."""

    programme: Programme
    record: ProgrammeRecord
    stages: tuple[Stage, ...]
    clean: int = 0
    stuck: bool = False
    over: bool = False

    @property
    def stage(self) -> Stage:
        """The present phase."""
        return self.stages[-1]

    @property
    def last(self) -> Review | None:
        """The latest review."""
        return self.record.reviews[-1] if self.record.reviews else None

    @property
    def coverage(self) -> Coverage:
        """How much there was at the latest look."""
        return self.last.coverage if self.last else self.record.before

    def cut(self, today: date) -> float:
        """Hours of light that are taken off on a day: more, step by step, while it is fought; given back step by step
        after."""
        return cut_of(self.stage, today)

    def review_due(self) -> date:
        """The day of the next review."""
        return (self.last.day if self.last else self.record.opened) + timedelta(days=REVIEW_DAYS)

    def waiting(self, today: date) -> int:
        """Days since anybody looked, where that is too long; 0 where it is not."""
        since = (today - (self.last.day if self.last else self.record.opened)).days
        return since if since >= FORGOTTEN_DAYS else 0


EASE_STEP = LightCut(0.0, 0.5, 4)
"""How the hours of light are given back (judgement)."""


def cut_of(stage: Stage, today: date) -> float:
    """Hours of light taken off in a phase on a day.

    >>> from datetime import date
    >>> phase = Phase("f", "", PhaseKind.FIGHT, "", light=LightCut(2.0, 0.5, 3))
    >>> [cut_of(Stage(phase, date(2026, 11, 1), Turn.OPENED), date(2026, 11, day)) for day in (1, 3, 4, 30)]
    [0.5, 0.5, 1.0, 2.0]
    """
    light, steps = stage.phase.light, (today - stage.since).days
    if light is not None:
        return max(stage.cut, min(light.hours, light.step_hours * (1 + steps // light.step_days)))
    if stage.phase.kind in (PhaseKind.EASE, PhaseKind.WATCH):
        return max(0.0, stage.cut - EASE_STEP.step_hours * (1 + steps // EASE_STEP.step_days))
    return stage.cut


def course_of(programme: Programme, record: ProgrammeRecord) -> ProgrammeCourse:
    """The course of a programme by its record, event by event. It is never moved on by time alone: easing and watching
    end with a look after their weeks are over."""
    first = Stage(programme.phases[0], record.opened, Turn.OPENED)
    course = ProgrammeCourse(programme, replace(record, reviews=()), (first,))
    for day, what in _events(record):
        course = _reviewed(course, what) if isinstance(what, Review) else _turned(course, day, what)
        course = _found(course, record, day)
    return replace(course, record=record)


def _events(record: ProgrammeRecord) -> list[tuple[date, Review | str]]:
    """Reviews, single tasks done and the keeper's turns, by day; looks too close together count once, the later one.
    A task that was done is an empty turn: it may end a phase of finding."""
    looks: list[Review] = []
    for review in sorted(record.reviews, key=lambda one: (one.day, one.entry)):
        if looks and (review.day - looks[-1].day).days < APART_DAYS:
            looks.pop()
        looks.append(review)
    events: list[tuple[date, Review | str]] = [(one.day, one) for one in looks]
    events += [(day, "") for days in record.done.values() for day in days if day >= record.opened]
    events += [(day, key) for day, key in record.turns]
    return sorted(events, key=lambda pair: (pair[0], isinstance(pair[1], Review)))


def _entered(course: ProgrammeCourse, phase: Phase, day: date, why: Turn) -> ProgrammeCourse:
    stage = Stage(phase, day, why, course.cut(day))
    return replace(course, stages=(*course.stages, stage), stuck=False)


def _turned(course: ProgrammeCourse, day: date, key: str) -> ProgrammeCourse:
    if not key:
        return course
    return replace(_entered(course, course.programme.phase(key), day, Turn.CHOSEN), over=False)


def _found(course: ProgrammeCourse, record: ProgrammeRecord, day: date) -> ProgrammeCourse:
    """A phase of finding is over once each of its single tasks was done since it began."""
    stage = course.stage
    if stage.phase.kind != PhaseKind.FIND:
        return course
    once = [ask.task for ask in stage.phase.asks if ask.every_days is None and not ask.wish]
    known = [task for task in once if task in record.done]
    if any(not [d for d in record.done[task] if stage.since <= d <= day] for task in known):
        return course
    following = course.programme.after_phase(stage.phase)
    return _entered(course, following, day, Turn.FOUND) if following else course


def _reviewed(course: ProgrammeCourse, review: Review) -> ProgrammeCourse:
    """What a review changes."""
    stage = course.stage
    clean = course.clean + 1 if review.coverage == Coverage.NONE else 0
    course = replace(
        course, record=replace(course.record, reviews=(*course.record.reviews, review)), clean=clean, over=False
    )
    kind = stage.phase.kind
    if kind in (PhaseKind.FIGHT, PhaseKind.STRONGER) and clean >= course.programme.clean:
        following = next(one for one in course.programme.phases if one.kind == PhaseKind.EASE)
        return _entered(course, following, review.day, Turn.CLEAN)
    if kind in (PhaseKind.EASE, PhaseKind.WATCH):
        return _eased(course, review)
    return replace(course, stuck=_stuck(course))


def _eased(course: ProgrammeCourse, review: Review) -> ProgrammeCourse:
    """While the routine goes back: a growth that is back is fought again; else on with it once its weeks are over."""
    if review.coverage.level > Coverage.LITTLE.level or (review.coverage == Coverage.LITTLE and _twice(course)):
        return _entered(course, course.programme.fight, review.day, Turn.SETBACK)
    phase, since = course.stage.phase, course.stage.since
    if review.coverage != Coverage.NONE or review.day < since + timedelta(weeks=phase.weeks):
        return course
    following = course.programme.after_phase(phase)
    return _entered(course, following, review.day, Turn.OVER) if following else replace(course, over=True)


def _twice(course: ProgrammeCourse) -> bool:
    """Whether something was seen at the last two looks."""
    last = course.record.reviews[-2:]
    return len(last) == 2 and all(one.coverage != Coverage.NONE for one in last)


def _stuck(course: ProgrammeCourse) -> bool:
    """Whether the last two reviews of this phase show no less than what was there before them."""
    mine = [one for one in course.record.reviews if one.day >= course.stage.since]
    if len(mine) < STUCK_LOOKS or course.coverage == Coverage.NONE:
        return False
    earlier = [one for one in course.record.reviews if one.day < mine[-STUCK_LOOKS].day]
    then = earlier[-1].coverage if earlier else course.record.before
    return all(one.coverage.level >= then.level for one in mine[-STUCK_LOOKS:])
