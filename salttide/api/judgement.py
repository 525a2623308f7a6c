"""Judgement: what the rules find in one system, in the order to act on it; rules on and off."""

from collections.abc import Mapping
from datetime import datetime

from fastapi import APIRouter

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.phrases import phrase
from salttide.core.estimate.unexplained import Answer, Question
from salttide.core.remedy.cause import PLAIN, Cause
from salttide.core.science.parameters import Parameter
from salttide.core.system.catalogue import cautions, rule_kinds
from salttide.core.system.system import System
from salttide.household.unexplained import offered
from salttide.store import judgement as judgement_store

from .context import Context, In
from .models import Caution, Id, Model, RequestModel
from .remedy import CaseShown, case_shown

router = APIRouter(prefix="/api/systems/{system_id}", tags=["judgement"])


class AnswerOffered(Model):
    """An answer that can be given with one press."""

    answer: Answer
    words: str


class UnrecordedShown(Model):
    """What is asked about a parameter between two readings, and the answers to it."""

    parameter: Parameter
    since: datetime
    until: datetime
    answers: list[AnswerOffered]


class FindingShown(Model):
    """One finding: words, reason, the step advised, how sure it is, what would change its mind, its evidence, and what
    it asks."""

    rule: str
    rule_name: str
    words: str
    reason: str
    move: str
    advice: str
    unless: str
    certainty: str
    looked_at: list[str]
    cautions: list[Caution]
    question: UnrecordedShown | None
    cause: str
    remedy: str
    explained: list[str]
    case: CaseShown | None


class WaitingShown(Model):
    """A finding held back, and the one it waits for."""

    rule: str
    words: str
    reason: str
    first: str


class JudgementShown(Model):
    """All findings, the first to be acted on first; cases: plans that are followed though their finding is gone."""

    findings: list[FindingShown]
    cases: list[CaseShown]
    waiting: list[WaitingShown]
    rules_off: int


class RuleShown(Model):
    """A rule as the keeper switches it."""

    key: str
    name: str
    about: str
    on: bool


class RuleBody(RequestModel):
    """On or off."""

    on: bool


@router.get("/judgement")
def judgement(system_id: Id, ctx: In) -> JudgementShown:
    """Run all rules on the system as it is."""
    system = ctx.household.system(system_id)
    view = ctx.household.outlook(system)
    judged, questions = view.judgement, view.basis.situation.questions
    asked = {parameter: _question(ctx, system, one) for parameter, one in questions.items()}
    live = {one.case.key: case_shown(ctx, one) for one in view.cases if one.standing.live}
    standing = {cause.key for cause in view.causes}
    return JudgementShown(
        findings=[
            _shown(cause, asked[cause.finding.about[0]] if cause.finding.rule == "unrecorded" else None, live)
            for cause in view.causes
        ],
        cases=[one for key, one in live.items() if key not in standing],
        waiting=[
            WaitingShown(
                rule=waiting.finding.rule,
                words=waiting.finding.words,
                reason=waiting.finding.reason,
                first=waiting.first.words,
            )
            for waiting in judged.waiting
        ],
        rules_off=len(ctx.stored.rules_off[system_id]),
    )


def _question(ctx: Context, system: System, asked: Question) -> UnrecordedShown:
    answers = [AnswerOffered(answer=one.answer, words=one.words) for one in offered(ctx.household, system, asked)]
    return UnrecordedShown(parameter=asked.parameter, since=asked.since.at, until=asked.until.at, answers=answers)


def _shown(cause: Cause, question: UnrecordedShown | None, live: Mapping[str, CaseShown]) -> FindingShown:
    finding, first = cause.finding, cause.first
    kind = rule_kinds()[finding.rule]
    known = [cautions()[key] for key in finding.cautions]
    return FindingShown(
        rule=kind.key,
        rule_name=kind.name,
        words=finding.words,
        reason=finding.reason,
        move=finding.step,
        advice=finding.advice,
        unless=finding.unless,
        certainty=finding.certainty,
        looked_at=list(finding.looked_at),
        cautions=[Caution(key=item.key, title=item.title, text=item.text) for item in known],
        question=question,
        cause=cause.key,
        remedy=first.kind if first and first.key != PLAIN else "",
        explained=[each.words for each in cause.explained],
        case=live.get(cause.key),
    )


@router.get("/rules")
def rules(system_id: Id, ctx: In) -> list[RuleShown]:
    """All rules, in the order they run."""
    ctx.household.system(system_id)
    return _rules(ctx, system_id)


def _rules(ctx: Context, system_id: int) -> list[RuleShown]:
    off = ctx.stored.rules_off[system_id]
    return [
        RuleShown(key=kind.key, name=kind.name, about=kind.about, on=kind.key not in off)
        for kind in rule_kinds().values()
    ]


@router.put("/rules/{rule}")
def switch_rule(system_id: Id, rule: str, body: RuleBody, ctx: In) -> list[RuleShown]:
    """Switch one rule on or off."""
    ctx.household.system(system_id)
    if rule not in rule_kinds():
        raise NotFoundError(phrase("judgement.there_is_no_rule", rule=rule))
    with ctx.write() as connection:
        judgement_store.switch_rule(connection, system_id, rule, body.on)
    return _rules(ctx, system_id)
