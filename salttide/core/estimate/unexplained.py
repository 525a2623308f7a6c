"""What came between two tests and is not in the record: what the keeper is asked, and what an answer adds to the
record."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum

from ..basics.errors import check_choice
from ..ledger.entries import Dose, Ledger, Reading, Unexplained
from ..ledger.verdict import REAL_SDS
from ..science.parameters import Parameter
from ..system.shelf import Additive
from .rate import SURE_UNRECORDED, rate_of
from .supplementation import DayAmount, day_amount

ASK_DAYS = 42.0
"""What is longer ago is not asked about (judgement): nobody remembers."""


class Answer(StrEnum):
    """What the keeper says of it: a dose of something on the shelf, something that nobody can name, or nothing: then it
    was the test, another hand or another bottle of reagent, and the readings on either side stay apart."""

    DOSE = "dose"
    UNKNOWN = "unknown"
    NOTHING = "nothing"


@dataclass(frozen=True)
class Question:
    """What is asked: something moved `parameter` by `size` (canonical, with its standard deviation) between two
    readings, and with which probability anything did."""

    parameter: Parameter
    since: Reading
    until: Reading
    size: float
    sd: float
    share: float

    @property
    def at(self) -> datetime:
        """The moment at which it counts: halfway."""
        return self.since.at + (self.until.at - self.since.at) / 2


def question(ledger: Ledger, parameter: Parameter, now: datetime) -> Question | None:
    """What is to be asked about a parameter; None where the record explains its readings, where the keeper has answered
    for that time, where it is long ago, or where no later test confirms what was read after it."""
    rate = rate_of(ledger, parameter, now)
    found = rate.account.unrecorded if rate and rate.account else None
    if rate is None or found is None or found.share < SURE_UNRECORDED or abs(found.size) < REAL_SDS * found.sd:
        return None
    if found.until.at >= rate.until or now - found.until.at > timedelta(days=ASK_DAYS):
        return None
    said = (one for one in ledger.unexplained if one.parameter == parameter)
    if any(one.since <= found.until.at and found.since.at <= one.until for one in said):
        return None
    return Question(parameter, found.since, found.until, found.size, found.sd, found.share)


def answered(asked: Question, answer: Answer, volume_l: float, dose: Dose | None = None) -> list[Dose | Unexplained]:
    """What an answer adds to the record, so that the same is not asked again; `dose`: what it was, for Answer.DOSE.
    Raises InputError for an unknown answer, ValueError for a dose that is not there.

    >>> noon = datetime(2026, 11, 24, 12)
    >>> before, after = (Reading(noon + timedelta(days=d), Parameter.ALKALINITY, 3.0, 0.05, "kit") for d in (0, 4))
    >>> asked = Question(Parameter.ALKALINITY, before, after, 0.25, 0.05, 0.9)
    >>> answered(asked, Answer.UNKNOWN, 200.0)[0].amount
    50.0
    """
    amount = asked.size * volume_l if check_choice(Answer, answer) == Answer.UNKNOWN else 0.0
    said = Unexplained(asked.at, asked.parameter, asked.since.at, asked.until.at, amount)
    if answer != Answer.DOSE:
        return [said]
    if dose is None:
        raise ValueError("a dose is what moved it, but none is named")
    return [dose, said]


def dose_of(asked: Question, additives: Sequence[Additive], volume_l: float) -> DayAmount | None:
    """What it may have been of what is on the shelf, solutions before powders; None where nothing raises the parameter,
    or where it fell."""
    known = [one for one in additives if asked.parameter in one.raises]
    if asked.size <= 0 or not known:
        return None
    return day_amount(min(known, key=lambda one: one.strength_g_l is None), asked.parameter, asked.size, volume_l)
