"""Programmes as remedies: proposed for what the rules of judgement find growing, and followed from one place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..judgement.situation import Situation
from ..ledger.sightings import COVERED
from ..remedy.cause import PLAIN, Cause, headed
from ..remedy.remedy import Remedy, RemedyKind
from ..system.finding import Advice
from ..system.inspection import Sign
from .course import Coverage
from .file import Programme, programmes
from .underway import Underway

PREFIX = "programme-"
"""What the key of a programme begins with among the remedies."""
_COVERAGE = {amount: Coverage(how) for how, amount in COVERED.items()}


def coverage_seen(sign: Sign) -> Coverage:
    """How much of a growth a visual check saw, as a review would say it; patches where it did not say."""
    return _COVERAGE[sign.amount] if sign.amount else Coverage.PATCHES


def seen_of(programme: Programme, s: Situation) -> Sign | None:
    """The sign of a programme, where the latest visual check saw it."""
    signs = s.look.signs if s.look else ()
    return next((sign for sign in signs if sign.kind.key == programme.sign), None)


def answering(rule: str, s: Situation) -> list[Programme]:
    """The programmes that answer a rule's finding by what was seen: more than a trace of it."""
    found = [(one, seen_of(one, s)) for one in programmes().values() if rule in one.rules]
    return [one for one, sign in found if sign and coverage_seen(sign) != Coverage.LITTLE]


def with_programmes(causes: Sequence[Cause], s: Situation, underway: Sequence[Underway]) -> tuple[Cause, ...]:
    """The causes with the programmes against them: those that are under way see to their findings alone; where none
    is, each school is one remedy."""
    return tuple(_with(cause, s, [one for one in underway if one.case.closed is None]) for cause in causes)


def _with(cause: Cause, s: Situation, underway: Sequence[Underway]) -> Cause:
    rule = cause.finding.rule
    follows = next((one for one in underway if rule in one.programme.rules and seen_of(one.programme, s)), None)
    if follows is not None:
        return _followed(cause, follows)
    offered = [_remedy(one, place) for place, one in enumerate(answering(rule, s))]
    if not offered or not s.animals_inside:
        return cause
    return headed(cause, (*offered, *cause.remedies))


def _followed(cause: Cause, one: Underway) -> Cause:
    phase = one.course.stage.phase
    advice = f"The programme against {one.programme.name.lower()} sees to it: {phase.name.lower()}. {phase.words}"
    finding = replace(cause.finding, advice=advice, to_do="", move=Advice.LEAVE)
    return replace(cause, finding=finding, remedies=(Remedy(PLAIN, RemedyKind.WAIT, finding.words, advice, ""),))


def _remedy(one: Programme, place: int) -> Remedy:
    weeks = f"about {one.weeks} weeks"
    title = f"Start the programme against {one.name.lower()}, {one.school}: {weeks}"
    why = "It goes from finding out what feeds it to putting the routine back." if not place else one.about
    return Remedy(PREFIX + one.key, RemedyKind.ACT, title, f"{one.about} {one.phases[0].words}", why)
