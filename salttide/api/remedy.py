"""Remedies: the causes that stand in a system, what can be done about each, and the cases that follow the choice."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Literal

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.number_text import percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, day_words, moment_words
from salttide.core.estimate.forecast import Point, expect
from salttide.core.overview.state import SystemState
from salttide.core.programme.underway import is_programme
from salttide.core.remedy.case import ExpectedValue, FollowedCase, TurnKind, tried_before
from salttide.core.remedy.cause import Cause
from salttide.core.remedy.effect import RemedyEffect, courses_with, effects, end_of
from salttide.core.remedy.remedy import Remedy, cost_of
from salttide.core.remedy.review import CauseReview, review
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import show, unit_of
from salttide.core.system.finding import Finding
from salttide.household import remedy as remedies
from salttide.household.emergency import sheets_for
from salttide.store import remedy as remedy_store

from .context import Context, In, Key
from .models import BandShown, Choice, Id, Model, Recorded, RequestModel, band_shown, name_of
from .whatif import prices

router = APIRouter(prefix="/api", tags=["remedy"])
REVIEW_DAYS = 365
Points = Sequence[Point] | Sequence[ExpectedValue]


class EffectShown(Model):
    """What a remedy does to a parameter, in the keeper's unit; chance: in words, that it then lies in its band."""

    parameter: Parameter
    name: str
    now: str
    after: str
    without: str
    chance: str


class SupplyShown(Model):
    """What a remedy uses up."""

    name: str
    amount: str
    on_shelf: bool


class StepShown(Model):
    """A step of a remedy on its day."""

    day: str
    words: str


class RemedyShown(Model):
    """One way to deal with a cause. chosen: whether it is the one proposed first."""

    key: str
    kind: str
    title: str
    how: str
    why: str
    fits: bool
    steps: list[StepShown]
    minutes: int
    supplies: list[SupplyShown]
    cost: str
    risk: str
    effects: list[EffectShown]
    until: str


class RemedyCoursePoint(Model):
    """An expected value with its interval, in the keeper's unit."""

    at: datetime
    value: float
    low: float
    high: float


class CourseShown(Model):
    """The expected course of the cause's parameter with the proposed remedy and without it."""

    parameter: Parameter
    name: str
    unit: str
    decimals: int
    band: BandShown | None
    aim: float | None
    withit: list[RemedyCoursePoint]
    without: list[RemedyCoursePoint]


class ExplainedShown(Model):
    """A finding that the cause explains."""

    words: str
    reason: str


class CaseShown(Model):
    """A case: the remedy chosen, how it stands, and whether it is still worked on."""

    id: int
    cause: str
    title: str
    opened: str
    state: str
    words: str
    to_do: str
    live: bool
    paused: bool
    closed: bool
    steps: str
    carer: str
    worked: bool
    programme: str


class ReviewedPlan(CaseShown):
    """A plan of one of the systems."""

    system_id: int
    system: str


class CauseReviewed(Model):
    """What was tried against one cause over the last year, in all systems."""

    name: str
    words: str
    plans: list[ReviewedPlan]


class CauseShown(Model):
    """A cause with its evidence, the remedies for it, the case that follows one, what was tried before, and the
    emergencies that it may be."""

    key: str
    words: str
    reason: str
    certainty: str
    unless: str
    evidence: list[str]
    explained: list[ExplainedShown]
    urgent: bool
    preferred: bool
    remedies: list[RemedyShown]
    course: CourseShown | None
    case: CaseShown | None
    tried: list[CaseShown]
    emergencies: list[Choice]


class ChooseBody(RequestModel):
    """The remedy chosen, by its key."""

    remedy: str = Field(max_length=40)


class CaseTurnBody(RequestModel):
    """What becomes of a case, and why; of one that is handed on, to whom (empty: the keeper again)."""

    kind: Literal["paused", "resumed", "ended", "abandoned", "handed"]
    because: str = Field(default="", max_length=500)


@router.get("/systems/{system_id}/remedies/{cause}")
def cause(system_id: Id, cause: str, ctx: In) -> CauseShown:
    """A cause with every remedy for it, and what each does; of one that is gone, the plans that were made for it."""
    view = ctx.household.outlook(ctx.household.system(system_id))
    followed = [one for one in view.cases if one.case.key == cause]
    if followed and all(one.key != cause for one in view.causes):
        return _past_shown(ctx, view, followed)
    return _cause_shown(ctx, view, remedies.cause_of(view, cause))


@router.post("/systems/{system_id}/remedies/{cause}", status_code=201)
def choose(system_id: Id, cause: str, body: ChooseBody, ctx: In, key: Key) -> Recorded:
    """Choose a remedy: its steps go on the rota, and a case follows it."""
    system = ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        return remedies.choose(ctx.household, connection, system, cause, body.remedy, key)

    return ctx.record(key, act)


@router.delete("/systems/{system_id}/remedies/{cause}/preference")
def forget(system_id: Id, cause: str, ctx: In, key: Key) -> Recorded:
    """Propose remedies for this cause in their own order again."""
    ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        remedy_store.prefer(connection, system_id, cause.partition(".")[0], "", key)
        return phrase("remedy.in_their_own_order")

    return ctx.record(key, act)


@router.get("/cases")
def reviewed(ctx: In) -> list[CauseReviewed]:
    """What was tried in all systems over the last year, by cause."""
    views = ctx.household.each(ctx.household.outlook)
    told = [(view.system.name, one) for view in views.values() for one in view.cases]
    return [_reviewed(ctx, one) for one in review(told, ctx.now - timedelta(days=REVIEW_DAYS))]


def _reviewed(ctx: Context, one: CauseReview) -> CauseReviewed:
    plans = [
        ReviewedPlan(**case_shown(ctx, each).model_dump(), system_id=each.case.system_id, system=system)
        for system, each in one.plans
    ]
    return CauseReviewed(name=one.name, words=one.words, plans=plans)


@router.get("/systems/{system_id}/cases")
def cases(system_id: Id, ctx: In) -> list[CaseShown]:
    """The cases of a system, the latest first."""
    view = ctx.household.outlook(ctx.household.system(system_id))
    return [case_shown(ctx, one) for one in reversed(view.cases)]


@router.post("/systems/{system_id}/cases/{case_id}/turns", status_code=201)
def turn(system_id: Id, case_id: int, body: CaseTurnBody, ctx: In, key: Key) -> Recorded:
    """Pause, resume, end, give up or hand on a case."""
    system = ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        kind = TurnKind(body.kind)
        return remedies.turn(ctx.household, connection, system, case_id, kind, body.because, key)

    return ctx.record(key, act)


def _cause_shown(ctx: Context, view: SystemState, found: Cause) -> CauseShown:
    finding, followed = found.finding, [one for one in view.cases if one.case.key == found.key]
    live = next((one for one in followed if one.standing.live), None)
    before = tried_before([one.case for one in followed], found.key)
    by_id = {one.case.id: one for one in followed}
    return CauseShown(
        key=found.key,
        words=finding.words,
        reason=finding.reason,
        certainty=finding.certainty,
        unless=finding.unless,
        evidence=list(finding.looked_at),
        explained=[_explained(one) for one in found.explained],
        urgent=view.is_urgent(finding),
        preferred=finding.rule in view.basis.means.preferred,
        remedies=[_remedy_shown(ctx, view, one, live is None) for one in _others(found, live)],
        course=_course_of_case(ctx, view, live) if live else _course(ctx, view, found),
        case=case_shown(ctx, live) if live else None,
        tried=[case_shown(ctx, by_id[one.id]) for one in before if live is None or one.id != live.case.id],
        emergencies=[Choice(key=book.key, name=book.name) for book in sheets_for(finding.rule)],
    )


def _past_shown(ctx: Context, view: SystemState, followed: Sequence[FollowedCase]) -> CauseShown:
    """A cause that is no longer found, by the plans that were made for it."""
    live = next((one for one in followed if one.standing.live), None)
    last = live or followed[-1]
    return CauseShown(
        key=last.case.key,
        words=capital(last.case.purpose),
        reason=phrase("remedy.cause_is_gone"),
        certainty="",
        unless="",
        evidence=[],
        explained=[],
        urgent=False,
        preferred=False,
        remedies=[],
        course=_course_of_case(ctx, view, last),
        case=case_shown(ctx, live) if live else None,
        tried=[case_shown(ctx, one) for one in reversed(followed) if one is not live],
        emergencies=[],
    )


def _others(found: Cause, live: FollowedCase | None) -> list[Remedy]:
    """The remedies that can be chosen: not the one that is followed already."""
    return [one for one in found.remedies if live is None or one.key != live.case.chosen.key]


def _explained(finding: Finding) -> ExplainedShown:
    return ExplainedShown(words=finding.words, reason=finding.reason)


def _remedy_shown(ctx: Context, view: SystemState, one: Remedy, alone: bool) -> RemedyShown:
    # Beside a plan that is followed the forecast holds its steps: what another one would do is not added to them.
    known = effects(one, view.basis.situation) if one.fits and alone else []
    cost = cost_of(one, prices(ctx))
    return RemedyShown(
        key=one.key,
        kind=one.kind,
        title=one.title,
        how=one.how,
        why=one.why,
        fits=one.fits,
        steps=[StepShown(day=day_words(each.day), words=each.name) for each in one.work],
        minutes=round(one.minutes),
        supplies=[SupplyShown(name=each.name, amount=each.amount, on_shelf=each.on_shelf) for each in one.supplies],
        cost=phrase("remedy.cost", amount=show_number(cost, 2)) if cost else "",
        risk=one.risk,
        effects=[_effect_shown(ctx, each) for each in known],
        until=moment_words(end_of(one, view.basis.situation), ctx.keeper.zone) if known else "",
    )


def _effect_shown(ctx: Context, one: RemedyEffect) -> EffectShown:
    units = ctx.keeper.units
    now, after, without = (show(one.parameter, value, units) for value in (one.now, one.after, one.without))
    chance = "" if one.chance is None else phrase("remedy.chance", share=show_number(percent(one.chance), 0))
    return EffectShown(
        parameter=one.parameter, name=name_of(one.parameter), now=now, after=after, without=without, chance=chance
    )


def _course(ctx: Context, view: SystemState, found: Cause) -> CourseShown | None:
    """The course with the first remedy and without it; None where it moves nothing that is forecast."""
    parameter, first, situation = found.parameter, found.first, view.basis.situation
    if parameter is None or first is None or not first.steps or parameter not in situation.rates:
        return None
    end = end_of(first, situation)
    without = expect(situation.ledger, situation.rates, situation.plan, situation.now, end)[parameter]
    withit = courses_with(first, situation, end)[parameter]
    return _course_shown(ctx, view, parameter, withit.points, without.points)


def _course_of_case(ctx: Context, view: SystemState, live: FollowedCase) -> CourseShown | None:
    """What the plan that is followed expected when it was chosen."""
    parameter, course = live.case.parameter, live.case.chosen.course
    return _course_shown(ctx, view, parameter, course, []) if parameter and course else None


def _course_shown(
    ctx: Context, view: SystemState, parameter: Parameter, withit: Points, without: Points
) -> CourseShown:
    unit, level = unit_of(parameter, ctx.keeper.units), view.system.aim(parameter)
    since = min(view.now, withit[-1].at)

    def shown(points: Points) -> list[RemedyCoursePoint]:
        to, known = unit.from_canonical, [point for point in points if point.at >= since or not without]
        return [RemedyCoursePoint(at=p.at, value=to(p.value), low=to(p.low), high=to(p.high)) for p in known]

    return CourseShown(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit.label,
        decimals=unit.decimals,
        band=band_shown(parameter, view.system.bands.get(parameter), ctx.keeper.units),
        aim=None if level is None else unit.from_canonical(level),
        withit=shown(withit),
        without=shown(without),
    )


def case_shown(ctx: Context, one: FollowedCase) -> CaseShown:
    """A case for the screen."""
    case, how = one.case, one.standing
    return CaseShown(
        id=case.id,
        cause=case.key,
        title=case.chosen.title,
        opened=moment_words(case.opened_at, ctx.keeper.zone),
        state=how.state,
        words=how.words,
        to_do=how.to_do,
        live=how.live,
        paused=case.paused,
        closed=case.closed is not None,
        steps=case.chosen.how,
        carer=case.carer,
        worked=how.worked,
        programme=case.chosen.key if is_programme(case) else "",
    )
