"""Remedies and cases of a system: a remedy is chosen, which opens a case with its steps; a case is paused, resumed or
ended."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Sequence
from dataclasses import replace

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, span_words
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.state import SystemState
from salttide.core.planning.change_order import TankWork, at_the_tank
from salttide.core.planning.plumbing import Drain
from salttide.core.planning.pump_setting import adjusted_settings
from salttide.core.planning.work_order import DOSE, ChangeWorkOrder, PlannedWork
from salttide.core.programme.wants import NEAR_H, ProgrammeFacts
from salttide.core.remedy.case import CLOSING, CaseTurn, FollowedCase, TurnKind, chosen_from
from salttide.core.remedy.cause import Cause
from salttide.core.remedy.remedy import Remedy
from salttide.core.system.system import System
from salttide.store import change as change_store
from salttide.store import container as container_store
from salttide.store import remedy as remedy_store

from .dosing import as_given
from .household import Household


def cause_of(view: SystemState, key: str) -> Cause:
    """The cause of that name. Raises NotFoundError where it does not stand any more."""
    found = next((one for one in view.causes if one.key == key), None)
    if found is None:
        raise NotFoundError(phrase("remedy.not_found_any_more"), field="cause")
    return found


def choose(
    household: Household, connection: sqlite3.Connection, system: System, key: str, remedy: str, by: str,
    daily: bool = True,
) -> str:  # fmt: skip
    """Choose a remedy for a cause: its steps go on the rota, its daily dose counts from now on (unless not `daily`),
    and a case follows it. Returns what was done in words. Raises NotFoundError, ConflictError."""
    view = household.outlook(system)
    cause = cause_of(view, key)
    chosen = next((one for one in cause.remedies if one.key == remedy), None)
    if chosen is None or not chosen.fits:
        raise ConflictError(phrase("remedy.not_proposed_any_more"))
    if cause.first is not None and chosen.kind != cause.first.kind:
        remedy_store.prefer(connection, system.id, cause.finding.rule, chosen.kind, by)
    same = {one.case.plan for one in view.cases if one.case.key == key}
    _end_live(connection, view.cases, same, household, by)
    change_store.add_work(connection, system.id, by, _at_this_tank(system, chosen.work))
    if daily and chosen.daily is not None:
        give_daily(household, connection, system, view.basis.situation.plan.daily, chosen.daily, by)
    frozen = chosen_from(chosen, view.basis.situation)
    remedy_store.open_case(connection, system.id, cause.finding.rule, cause.parameter, frozen, household.now, by)
    return _words(chosen)


def _at_this_tank(system: System, work: Sequence[PlannedWork]) -> list[PlannedWork]:
    """The work with the hoses and pumps of this system."""
    tank = TankWork(system.plumbing, Drain(), system.methods.siphons)
    return [
        replace(one, order=at_the_tank(system, tank, one.order)) if isinstance(one.order, ChangeWorkOrder) else one
        for one in work
    ]


def _words(chosen: Remedy) -> str:
    if chosen.work:
        return phrase(
            "remedy.on_the_rota", title=chosen.title, span=span_words(chosen.work[0].day, chosen.work[-1].day)
        )
    return phrase("remedy.chosen", title=chosen.title)


def _end_live(
    connection: sqlite3.Connection, cases: Sequence[FollowedCase], plans: Collection[str], household: Household, by: str
) -> None:
    """Replace the cases of these plans that are still open: their steps leave the rota."""
    for one in cases:
        if one.case.closed is None and one.case.plan in plans:
            remedy_store.turn_case(connection, one.case.id, CaseTurn(household.now, TurnKind.REPLACED), by)


def replace_plans(household: Household, connection: sqlite3.Connection, system: System, by: str) -> None:
    """End the cases whose open steps another plan takes the place of."""
    plans = {one.plan for one in household.stored.open_steps[system.id]}
    _end_live(connection, household.outlook(system).cases, plans, household, by)


def give_daily(
    household: Household, connection: sqlite3.Connection, system: System, before: Sequence[DailyDose],
    after: Sequence[DailyDose], by: str,
) -> None:  # fmt: skip
    """Give other daily doses from now on: pumps are set, the rest is planned for every day."""
    containers = household.stored.containers(system.id)
    settings, rest = adjusted_settings(containers, before, after, household.now)
    for container, event in settings:
        container_store.add_container_events(connection, container.id, [event], by)
    if rest or household.stored.daily_plans[system.id]:
        change_store.set_daily(connection, system.id, household.today, as_given(system, rest, None), by)


def turn(
    household: Household, connection: sqlite3.Connection, system: System, case_id: int, kind: TurnKind, because: str,
    by: str,
) -> str:  # fmt: skip
    """Pause, resume, end, give up or hand on a case; its open steps leave the rota until it is resumed. because: of one
    that is handed on, to whom. Returns it in words. Raises NotFoundError, ConflictError."""
    found = next((one.case for one in household.outlook(system).cases if one.case.id == case_id), None)
    if found is None:
        raise NotFoundError(phrase("remedy.no_such_case"), field="case_id")
    handed = kind == TurnKind.HANDED
    if found.closed is not None or (not handed and (kind == TurnKind.RESUMED) != found.paused):
        raise ConflictError(phrase("remedy.it_stands_otherwise"))
    left = _lamps_left(household, system, case_id) if kind in CLOSING else ""
    remedy_store.turn_case(connection, case_id, CaseTurn(household.now, kind, because.strip()), by)
    if handed and because.strip():
        return phrase("remedy.handed_to", plan=capital(found.purpose), name=because.strip())
    return phrase(f"remedy.turn.{kind}", title=found.chosen.title) + left


def _lamps_left(household: Household, system: System, case_id: int) -> str:
    """That the lamps still burn for less than before a programme that ends; empty where they do not."""
    facts = next((one.facts for one in household.programmes(system) if one.case.id == case_id), ProgrammeFacts())
    before, now = facts.light_before, facts.light
    if before is None or now is None or now.hours > before.hours - NEAR_H:
        return ""
    return phrase("programme.lamps_left", now=show_number(now.hours, 1), before=show_number(before.hours, 1))


def follow_correction(
    household: Household, connection: sqlite3.Connection, system: System, remedies: Sequence[Remedy], by: str
) -> None:
    """Open a case for each parameter of a correction whose work is on the rota already, in place of the cases of the
    corrections before it."""
    view = household.outlook(system)
    steps = {one.plan for one in household.stored.open_steps[system.id] if one.kind == DOSE}
    _end_live(connection, view.cases, steps, household, by)
    daily = next((one.daily for one in reversed(remedies) if one.daily is not None), None)
    if daily is not None:
        give_daily(household, connection, system, view.basis.situation.plan.daily, daily, by)
    for one in remedies:
        cause = next((each for each in view.causes if each.parameter == one.parameter), None)
        rule = cause.finding.rule if cause and cause.first and cause.first.kind == one.kind else OWN
        frozen = chosen_from(one, view.basis.situation)
        remedy_store.open_case(connection, system.id, rule, one.parameter, frozen, household.now, by)


OWN = "own"
"""The cause of a plan that the keeper made without a finding."""
