"""The programmes of a household, under way and ended, by what is stored."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime, tzinfo

from salttide.core.ledger.entries import Care, Ledger
from salttide.core.ledger.sightings import COVER
from salttide.core.programme.course import Coverage, ProgrammeRecord, Review, course_of
from salttide.core.programme.underway import Underway, programme_of
from salttide.core.programme.wants import NUTRIENTS, ProgrammeFacts, counted_tasks
from salttide.core.remedy.case import Case, TurnKind
from salttide.core.science.parameters import Parameter
from salttide.core.system.light import Light
from salttide.core.system.system import System


def underway_in(
    system: System, cases: Sequence[Case], ledger: Ledger, lights: Sequence[Light], zone: tzinfo
) -> list[Underway]:
    """The programmes of a system, oldest first, each with its course; several at once follow the first of them."""
    nutrients = nutrients_of(ledger)
    found: list[Underway] = []
    for case in cases:
        first = next((one.programme.name.lower() for one in found if one.live), "")
        facts = _facts(case, lights, zone)
        facts = replace(facts, nutrients=nutrients, first=f"the programme against {first}" if first else "")
        record = record_of(case, system, facts, ledger.care, zone)
        found.append(Underway(case, course_of(programme_of(case), record), facts))
    return found


def nutrients_of(ledger: Ledger) -> dict[Parameter, float]:
    """The latest tests of nitrate and phosphate (canonical)."""
    known = {parameter: ledger.last(parameter) for parameter in NUTRIENTS}
    return {parameter: last.value for parameter, last in known.items() if last}


def _facts(case: Case, lights: Sequence[Light], zone: tzinfo) -> ProgrammeFacts:
    """The lamps before a programme was opened and now, and what the keeper wished for."""
    opened = case.opened_at.astimezone(zone).date()
    before = [one for one in lights if one.since < opened] or lights[:1]
    return ProgrammeFacts(
        before[-1] if before else None, lights[-1] if lights else None, wishes=frozenset(case.chosen.wishes)
    )


def record_of(case: Case, system: System, facts: ProgrammeFacts, done: Sequence[Care], zone: tzinfo) -> ProgrammeRecord:
    """What the record holds of a programme, from its opening to its end."""
    programme, closed = programme_of(case), case.closed
    lived = [one for one in done if one.at >= case.opened_at and (closed is None or one.at <= closed.at)]
    mine = [one for one in lived if not one.skipped]

    def day(at: datetime) -> date:
        return at.astimezone(zone).date()

    asked = counted_tasks(programme, system, facts)
    by_task: dict[str, list[date]] = {task: [] for task in asked}
    for one in mine:
        if one.task in asked:
            by_task[one.task].append(day(one.at))
    looks = [(one, str(one.found.get(COVER + programme.sign, ""))) for one in mine if one.task == programme.review]
    reviews = [Review(day(one.at), Coverage(how), one.id) for one, how in looks if how in {*Coverage}]
    turns = [(day(one.at), one.because) for one in case.turns if one.kind == TurnKind.PHASE]
    before = Coverage(case.chosen.before) if case.chosen.before in {*Coverage} else Coverage.MUCH
    return ProgrammeRecord(day(case.opened_at), before, reviews, by_task, turns)
