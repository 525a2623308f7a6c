"""A programme in this system's numbers: what its changes do to the water, its minutes, and what it needs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from ..estimate.forecast import expect
from ..judgement.situation import Situation
from ..ledger.entries import Moving
from ..ledger.plan import Plan
from ..planning.work_order import routine_change
from ..science.mix import SaltMix
from ..science.parameters import Parameter
from ..system.system import Routine
from ..upkeep.due import ONCE_DAYS, Rule
from .course import ProgrammeCourse, Stage, Turn
from .file import Phase

AHEAD_DAYS = 28
MOVED = (Parameter.SALINITY, Parameter.ALKALINITY, Parameter.NITRATE, Parameter.PHOSPHATE)


@dataclass(frozen=True)
class ProgrammeEffect:
    """A parameter (canonical): now, after four weeks of the usual water changes, and after four of the programme's."""

    parameter: Parameter
    now: float
    usual: float
    after: float


def effects_of(s: Situation, salt: SaltMix | None, routine: Routine | None) -> list[ProgrammeEffect]:
    """What four weeks of a programme's changes do, beside the usual ones: the same doses and the same use, and only the
    routine's changes. Nothing where it leaves the changes as they are, or there is no salt to mix with."""
    if routine is None or salt is None:
        return []
    end = s.now + timedelta(days=AHEAD_DAYS)
    own = Routine(s.system.methods.change_fraction, s.system.methods.change_every_days)
    usual, after = (
        expect(s.ledger, s.rates, Plan(_changes(s, salt, one), s.plan.daily), s.now, end) for one in (own, routine)
    )
    return [
        ProgrammeEffect(p, s.present[p].value, usual[p].points[-1].value, after[p].points[-1].value)
        for p in MOVED
        if p in s.present and p in usual and p in after
    ]


def _changes(s: Situation, salt: SaltMix, routine: Routine) -> list[Moving]:
    """The changes of a routine over the weeks ahead, the first after one interval."""
    if routine.held or not routine.fraction:
        return []
    days = range(routine.every_days, AHEAD_DAYS + 1, routine.every_days)
    return [routine_change(s.system, salt, s.now + timedelta(days=day), routine.fraction) for day in days]


def minutes_a_week(rules: Sequence[Rule]) -> float:
    """Minutes a week of some rules of care; what is asked for once is left out."""
    return sum(rule.minutes * 7 / rule.every_days for rule in rules if rule.every_days < ONCE_DAYS)


def minutes_once(rules: Sequence[Rule]) -> float:
    """Minutes of what is asked for a single time."""
    return sum(rule.minutes for rule in rules if rule.once is not None)


def in_phase(course: ProgrammeCourse, phase: Phase) -> ProgrammeCourse:
    """The course as it was when a phase was lived through last; as if it began on the first day where it was not."""
    lived = [place for place, stage in enumerate(course.stages, 1) if stage.phase == phase]
    if lived:
        return replace(course, stages=course.stages[: lived[-1]])
    return replace(course, stages=(*course.stages, Stage(phase, course.record.opened, Turn.CHOSEN)))
