"""The review of a time: what was tried against each cause, what helped, and where it came back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ..basics.phrasing import capital, counted
from ..science.parameters import spoken
from ..system.catalogue import rule_kinds
from ..trouble.table import troubles
from .case import PROGRAMME, Case, CaseState, FollowedCase, TurnKind


@dataclass(frozen=True)
class CauseReview:
    """The plans that were made for one cause, the latest first, each with its system's name."""

    name: str
    plans: tuple[tuple[str, FollowedCase], ...]

    @property
    def words(self) -> str:
        """How many worked, are followed, and were given up."""
        cases = [one for _, one in self.plans]
        given_up = [one for one in cases if one.case.closed and one.case.closed.kind == TurnKind.ABANDONED]
        parts = [
            (len([one for one in cases if one.standing.worked]), "worked"),
            (len([one for one in cases if one.standing.live]), "followed now"),
            (len(given_up), "given up"),
        ]
        told = ", ".join(f"{number} {what}" for number, what in parts if number)
        return f"{counted(len(cases), 'plan')}" + (f": {told}" if told else "")


def cause_name(case: Case) -> str:
    """The name of what a case is about."""
    trouble = troubles().get(case.cause.removeprefix(PROGRAMME))
    if trouble is not None:
        return trouble.name
    kind = rule_kinds().get(case.cause)
    name = kind.name if kind else "Plans of your own"
    return f"{name}: {spoken(case.parameter)}" if case.parameter else name


def review(cases: Sequence[tuple[str, FollowedCase]], since: datetime) -> list[CauseReview]:
    """The plans opened since a moment, or still followed, by cause; what was tried most often first. cases: with the
    name of their system."""
    by_cause: dict[str, list[tuple[str, FollowedCase]]] = {}
    for system, one in cases:
        replaced = one.case.closed is not None and one.case.closed.kind == TurnKind.REPLACED
        if (one.case.opened_at >= since or one.standing.state != CaseState.CLOSED) and not replaced:
            by_cause.setdefault(cause_name(one.case), []).append((system, one))
    found = [
        CauseReview(capital(name), tuple(sorted(plans, key=lambda pair: pair[1].case.opened_at, reverse=True)))
        for name, plans in by_cause.items()
    ]
    return sorted(found, key=lambda one: (-len(one.plans), one.name))
