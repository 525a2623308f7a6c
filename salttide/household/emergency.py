"""Emergencies of a system: their sheets with this system's amounts, the work on one, and what follows it."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import listed
from salttide.core.remedy.case import Chosen
from salttide.core.remedy.remedy import RemedyKind
from salttide.core.runbook.context import RunWork, TankWorkOrder, filled, setting_of
from salttide.core.runbook.emergency import EmergencyMeans, Tank, emergency_slots
from salttide.core.runbook.file import runbook, runbook_keys
from salttide.core.runbook.outage import tank_job
from salttide.core.runbook.steps import Answer, AnswerKind, Runbook, RunbookContext
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System
from salttide.core.upkeep.task import tasks
from salttide.store import batch as batch_store
from salttide.store import remedy as remedy_store
from salttide.store import runbook as run_store

from .household import Household

CAUSE = "emergency"
"""The cause of the case that follows an emergency."""


@dataclass(frozen=True)
class EmergencyState:
    """An emergency's runbook on a system: whether the record or an alarm shows it now, and the
    run under way (0: none)."""

    book: Runbook
    seen: bool
    run_id: int


def emergencies(household: Household, system: System) -> list[EmergencyState]:
    """All of them, those that the record or an alarm shows first, then the gravest."""
    found = {one.rule for one in household.outlook(system).judgement.findings}
    alarmed = {one.sheet for one in household.stored.open_alarms if one.system_id == system.id}
    runs = {run.runbook: run.id for run in household.emergency_runs(system.id)}
    states = [
        EmergencyState(book, book.key in alarmed or _seen(book, found), runs.get(book.key, 0))
        for book in emergency_books()
    ]
    return sorted(states, key=lambda one: (not one.run_id, not one.seen, _order(one.book)))


def emergency_books() -> list[Runbook]:
    """The runbooks of emergencies."""
    return sorted((book for book in map(runbook, runbook_keys()) if book.emergency), key=_order)


def sheets_for(rule: str) -> list[Runbook]:
    """The emergencies that a rule of judgement sees."""
    return [book for book in emergency_books() if book.emergency and rule in book.emergency.rules]


def _order(book: Runbook) -> int:
    return book.emergency.order if book.emergency else 0


def _seen(book: Runbook, found: set[str]) -> bool:
    return book.emergency is not None and bool(found & {*book.emergency.rules})


def emergency_of(household: Household, system: System, key: str) -> tuple[EmergencyState, RunbookContext]:
    """One emergency with what fills its texts from the latest measurements. Raises NotFoundError."""
    state = next((one for one in emergencies(household, system) if one.book.key == key), None)
    if state is None:
        raise NotFoundError(phrase("emergency.there_is_no_such"), field="key")
    service = system.plumbing
    water, units = household.waters(system).water, household.keeper.units
    job = tank_job(system, state.book, water, units, service, means=means_at_hand(household))
    return state, setting_of(state.book, job)


def means_at_hand(household: Household) -> EmergencyMeans:
    """The usual salt, and new water that stands mixed."""
    ready = [one for one in batch_store.batches(household.stored.reading()) if one.state.usable and one.state.litres]
    names = listed([one.name for one in ready])
    return EmergencyMeans(household.stored.usual_salt, sum(one.state.litres for one in ready), names)


def work_now(household: Household, run: run_store.Run, answers: Sequence[Answer]) -> RunWork:
    """The work of a run; an emergency's amounts anew after each measurement."""
    book, work = runbook(run.runbook), run.work
    if book.emergency is None or not isinstance(work, TankWorkOrder) or run.ended_at is not None:
        return work
    system = household.system(run.system_id)
    water = {**household.waters(system).water, **_measured(answers)}
    slots = emergency_slots(Tank(system, water, means_at_hand(household), work.units))
    return replace(work, slots={**work.slots, **slots})


def _measured(answers: Sequence[Answer]) -> Mapping[Parameter, float]:
    """The latest value of each parameter measured in the run."""
    return {
        Parameter(one.item): one.value
        for one in answers
        if one.kind == AnswerKind.MEASURED and one.value is not None and one.item in {*Parameter}
    }


def held_words(book: Runbook) -> str:
    """The tasks that an emergency holds back, by name."""
    holds = book.emergency.holds if book.emergency else ()
    return listed([tasks()[key].name.lower() for key in holds])


def open_aftermath(household: Household, connection: sqlite3.Connection, run: run_store.Run, by: str) -> None:
    """Open the case that follows an emergency: what to watch, what failed, which safeguard was missing."""
    book = runbook(run.runbook)
    if book.emergency is None or not isinstance(run.work, TankWorkOrder):
        return
    title = phrase("emergency.after", name=book.name.lower())
    chosen = Chosen(book.key, RemedyKind.ACT, title, filled(book.emergency.afterwards, run.work.slots))
    remedy_store.open_case(connection, run.system_id, CAUSE, None, chosen, household.now, by)
