"""A programme under way in a system: its case, its course, and how it stands in words."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, tzinfo

from ..basics.phrasing import counted, day_words
from ..remedy.case import PROGRAMME, Case, CaseStanding, CaseState, TurnKind
from ..system.system import Routine, System
from ..upkeep.rota import WATER_CHANGE
from .course import Coverage, ProgrammeCourse, Turn
from .file import PhaseKind, Programme, programmes
from .wants import ProgrammeFacts, Wants, floors, routine_wanted, wants_of


def is_programme(case: Case) -> bool:
    """Whether a case is a programme."""
    return case.cause.startswith(PROGRAMME) and case.chosen.key in programmes()


def programme_of(case: Case) -> Programme:
    """The programme of a case. Raises KeyError."""
    return programmes()[case.chosen.key]


@dataclass(frozen=True)
class Underway:
    """A programme under way, or ended; facts: what it must know of its system."""

    case: Case
    course: ProgrammeCourse
    facts: ProgrammeFacts = field(default_factory=ProgrammeFacts)

    @property
    def programme(self) -> Programme:
        """The programme."""
        return self.course.programme

    @property
    def live(self) -> bool:
        """Whether it is followed now: neither ended nor paused."""
        return self.case.closed is None and not self.case.paused

    @property
    def answers(self) -> frozenset[str]:
        """The sign and the rules that it answers alone."""
        return frozenset({self.programme.sign, *self.programme.rules}) if self.live else frozenset()

    def wants(self, system: System, today: date) -> Wants:
        """What it asks of its system on a day; nothing once it is ended, or while it is paused."""
        return wants_of(self.course, system, self.facts, today) if self.live else Wants()

    @property
    def named(self) -> bool:
        """Whether it was found out what grows: the phase of finding is over."""
        return self.live and self.course.stage.phase.kind != PhaseKind.FIND

    @property
    def lets_go_on(self) -> tuple[str, ...]:
        """The rules whose findings no longer make others wait: nutrients are dealt with while a film is lifted out, but
        not while water changes are held back."""
        held = WATER_CHANGE in self.course.stage.phase.holds
        return self.programme.rules if self.live and not held else ()

    @property
    def left_to_try(self) -> list[str]:
        """The stronger phases that were not lived through yet, by name: chemicals come after all of them."""
        lived = {stage.phase.key for stage in self.course.stages}
        return [phase.name for phase in self.programme.stronger if phase.key not in lived]

    def routine(self, system: System) -> Routine | None:
        """The water changes it asks of its system; None where it leaves them as they are."""
        low = floors(system, self.facts.nutrients)
        return None if self.facts.first else routine_wanted(system, self.programme, self.course.stage.phase, low)

    def standing(self, today: date, zone: tzinfo) -> CaseStanding:
        """How it stands on a day."""
        closed = self.case.closed
        if closed is not None:
            how = "Given up" if closed.kind == TurnKind.ABANDONED else "Ended"
            how = "Replaced" if closed.kind == TurnKind.REPLACED else how
            because = f": {closed.because}" if closed.because else ""
            words = f"{how} {day_words(closed.at.astimezone(zone).date())}{because}. {self._went()}"
            return CaseStanding(CaseState.CLOSED, words, "", None, self.course.coverage == Coverage.NONE)
        if self.case.paused and self.case.last_turn:
            since = day_words(self.case.last_turn.at.astimezone(zone).date())
            return CaseStanding(CaseState.PAUSED, f"Paused {since}. {self._went()}")
        return self._live(today)

    def _live(self, today: date) -> CaseStanding:
        course, name = self.course, self.programme.name.lower()
        where = f"{course.stage.phase.name}, {week_words(course, today)}. {self._went()}"
        if course.over:
            return CaseStanding(CaseState.REACHED, where, f"End the programme against {name}, and keep one change of "
                                "routine.", None, True)  # fmt: skip
        if days := course.waiting(today):
            to_do = f"Nobody has looked at it for {counted(days, 'day')}: review it. It goes on until somebody does."
            return CaseStanding(CaseState.WAITING, where, to_do)
        if course.stuck:
            return CaseStanding(CaseState.BEHIND, f"{where} Nothing changed for two looks.", self._anew())
        if course.stage.why == Turn.SETBACK and course.coverage != Coverage.NONE:
            return CaseStanding(
                CaseState.CONTRADICTS, f"{where} It came back, as it often does: it is fought again from here."
            )
        return CaseStanding(CaseState.ON_COURSE if course.last else CaseState.WAITING, where)

    def _anew(self) -> str:
        course, stage = self.course, self.course.stage.phase
        left = [p for p in self.programme.stronger if stage.kind != PhaseKind.STRONGER or _after(course, p.key)]
        other = f", or take the stronger step “{left[0].name.lower()}”" if left else ""
        return f"Think anew with what was learned: ask again what it is{other}."

    def _went(self) -> str:
        """How much there was at the start, and is now."""
        before, now = self.course.record.before.value, self.course.coverage.value
        looks = len(self.course.record.reviews)
        if not looks:
            return f"{before.capitalize()} at the start, not looked at again yet."
        return f"{before.capitalize()} at the start, {now} now, after {counted(looks, 'look')}."


def _after(course: ProgrammeCourse, key: str) -> bool:
    phases = [one.key for one in course.programme.phases]
    return phases.index(key) > phases.index(course.stage.phase.key)


def week_words(course: ProgrammeCourse, today: date) -> str:
    """The week of the present phase.

    >>> from .course import ProgrammeRecord, course_of
    >>> course = course_of(programmes()["cyanobacteria"], ProgrammeRecord(date(2026, 11, 1), Coverage.MUCH))
    >>> week_words(course, date(2026, 11, 9))
    'week 2'
    """
    return f"week {max(0, (today - course.stage.since).days) // 7 + 1}"
