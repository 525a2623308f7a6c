"""What is not in the record: the answers that a keeper can give with one press, and what each leaves in the record."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import datetime

from salttide.core.basics.errors import ConflictError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.estimate.unexplained import Answer, Question, answered, dose_of
from salttide.core.ledger.entries import Dose
from salttide.core.planning.dose_order import dose_order
from salttide.core.planning.work_order import DoseWorkOrder, dose_event, job_words
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.science.units import signed_difference
from salttide.core.system.system import System

from . import acts
from .household import Household


@dataclass(frozen=True)
class Offered:
    """An answer that can be given, in words."""

    answer: Answer
    words: str


def offered(household: Household, system: System, asked: Question) -> list[Offered]:
    """The answers to a question: a dose of what is on the shelf, where that may be it; unknown; nothing."""
    order = _order(household, system, asked)
    dose = [Offered(Answer.DOSE, phrase("unexplained.a_dose_of", dose=job_words(order)))] if order else []
    unknown = Offered(Answer.UNKNOWN, phrase("unexplained.count_it", size=_size(household, asked)))
    return [*dose, unknown, Offered(Answer.NOTHING, phrase("unexplained.nothing_happened"))]


def settle(
    household: Household, connection: sqlite3.Connection, system: System, about: tuple[Parameter, datetime, datetime],
    answer: Answer, command: str,
) -> str:  # fmt: skip
    """Record the answer to the question about a parameter between the moments of two readings. Returns it in words.
    Raises ConflictError where that is not asked any more."""
    parameter, since, until = about
    asked = household.outlook(system).basis.situation.questions.get(parameter)
    if asked is None or (asked.since.at, asked.until.at) != (since, until):
        raise ConflictError(phrase("unexplained.not_asked_any_more", parameter=spoken(parameter)))
    order = _order(household, system, asked)
    if answer == Answer.DOSE and order is None:
        raise ConflictError(phrase("unexplained.nothing_on_the_shelf", parameter=spoken(parameter)))
    dose = dose_event(order, asked.at) if order and answer == Answer.DOSE else None
    entries = answered(asked, answer, household.ledger(system).volume_at(asked.at), dose)
    acts.record(household, connection, system.id, entries, command)
    return _recorded(household, asked, dose)


def _order(household: Household, system: System, asked: Question) -> DoseWorkOrder | None:
    found = dose_of(asked, household.stored.additives, household.ledger(system).volume_at(asked.at))
    return dose_order(system, found.additive, found.mass_g, found.ml) if found else None


def _size(household: Household, asked: Question) -> str:
    return signed_difference(asked.parameter, asked.size, asked.since.value, household.keeper.units)


def _recorded(household: Household, asked: Question, dose: Dose | None) -> str:
    day = moment_words(asked.at, household.keeper.zone)
    if dose:
        return phrase("unexplained.dose_recorded", additive=dose.additive, day=day)
    return phrase("unexplained.settled", parameter=spoken(asked.parameter), day=day)
