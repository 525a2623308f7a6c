"""Programmes of a system: begun, reviewed, taken to another phase, and ended with the one change of routine they
leave."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from datetime import datetime

from salttide.core.basics.errors import ConflictError, NotFoundError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.ledger.entries import Care
from salttide.core.ledger.sightings import COVER
from salttide.core.programme.course import Coverage
from salttide.core.programme.file import Programme, programmes
from salttide.core.programme.underway import Underway
from salttide.core.programme.wants import not_for
from salttide.core.remedy.case import PROGRAMME, CaseTurn, Chosen, TurnKind
from salttide.core.remedy.remedy import RemedyKind
from salttide.core.system.system import Stage, System
from salttide.core.upkeep.task import tasks
from salttide.store import picture as picture_store
from salttide.store import remedy as remedy_store

from . import acts
from .household import Household


def programme_named(key: str) -> Programme:
    """A programme by its key. Raises NotFoundError."""
    if key not in programmes():
        raise NotFoundError(phrase("programme.no_such"), field="key")
    return programmes()[key]


def underway(household: Household, system: System, key: str) -> Underway | None:
    """The programme under way in a system by that key; None where it is not."""
    found = [one for one in household.programmes(system) if one.programme.key == key]
    return next((one for one in reversed(found) if one.case.closed is None), None)


def needed(household: Household, system: System, key: str) -> Underway:
    """The programme under way by that key. Raises NotFoundError."""
    found = underway(household, system, key)
    if found is None:
        raise NotFoundError(phrase("programme.not_under_way"), field="key")
    return found


def begin(
    household: Household, connection: sqlite3.Connection, system: System, key: str, before: Coverage,
    wishes: Sequence[str], by: str,
) -> str:  # fmt: skip
    """Begin a programme, in place of another against the same trouble. Returns it in words. Raises ConflictError."""
    programme = programme_named(key)
    if system.stage == Stage.BREAKING_IN:
        raise ConflictError(phrase("programme.cycling"))
    for one in household.programmes(system):
        if one.case.closed is None and one.programme.key == key:
            raise ConflictError(phrase("programme.under_way_already"))
        if one.case.closed is None and one.programme.trouble == programme.trouble:
            remedy_store.turn_case(connection, one.case.id, CaseTurn(household.now, TurnKind.REPLACED), by)
    title = phrase("programme.title", name=programme.name.lower(), school=programme.school)
    chosen = Chosen(key, RemedyKind.ACT, title, programme.about, before=before.value, wishes=tuple(sorted({*wishes})))
    remedy_store.open_case(connection, system.id, PROGRAMME + programme.trouble, None, chosen, household.now, by)
    return phrase("programme.begun", title=title, phase=programme.phases[0].name.lower())


def review(
    household: Household, connection: sqlite3.Connection, system: System, key: str, coverage: Coverage,
    at: datetime, picture: int | None, by: str,
) -> str:  # fmt: skip
    """Record a review: how much there is, and the picture that shows it. It is the task of the rota as well. Returns
    what follows in words. Raises NotFoundError."""
    one = needed(household, system, key)
    if at < one.case.opened_at:
        raise refused("programme.before_it_began", "when")
    task = tasks()[one.programme.review]
    care = Care(at, task.key, task.minutes, found={COVER + one.programme.sign: coverage.value})
    entry = acts.record(household, connection, system.id, [care], by)[0]
    if picture is not None:
        picture_store.attach(connection, picture, system.id, entry)
    return phrase("programme.reviewed", name=one.programme.name, coverage=coverage.value)


def go_to(
    household: Household, connection: sqlite3.Connection, system: System, key: str, phase: str, by: str
) -> str:  # fmt: skip
    """Take a programme to another phase by the keeper's choice. Raises NotFoundError, ConflictError."""
    one = needed(household, system, key)
    chosen = next((each for each in one.programme.phases if each.key == phase), None)
    if chosen is None:
        raise NotFoundError(phrase("programme.no_such_phase"), field="phase")
    harmed = not_for(chosen, system.animals)
    if harmed:
        raise ConflictError(phrase("programme.not_borne", phase=chosen.name, animal=harmed[0]))
    remedy_store.turn_case(connection, one.case.id, CaseTurn(household.now, TurnKind.PHASE, phase), by)
    return phrase("programme.phase_begun", name=one.programme.name, phase=chosen.name.lower())


def lasting_kept(household: Household, system: System, programme: Programme) -> bool:
    """Whether the lasting change of routine that a programme leaves is the keeper's routine already."""
    lasting = programme.lasting
    rules = [rule for rule in household.own_rules(system) if rule.kind.key == lasting.task]
    return any(rule.every_days <= lasting.every_days for rule in rules)
