"""Top-off: what evaporates, how long the reservoir lasts, what stops it, and what happens when it sticks."""

from typing import Annotated

from fastapi import APIRouter, Query

from salttide.core.basics.measures import grams_words, litres_words
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.basics.phrasing import date_words, day_words
from salttide.core.basics.working import Working
from salttide.core.estimate.evaporation import RESERVOIR
from salttide.core.failure.board import board, safe_reservoir_l
from salttide.core.failure.installation import Installation
from salttide.core.failure.outcome import percent_words
from salttide.core.planning.topoff import (
    Refill,
    UnderLid,
    absence,
    implausible,
    lids,
    refills,
    reservoir_now,
    salt_lost,
)
from salttide.core.science.parameters import Parameter
from salttide.core.system.topoff import independent, shared
from salttide.household.installation import installation_of, year_ago

from .context import Context, In
from .failure_shown import FailureShown, failure_shown
from .models import Id, Model, WorkingStep, working_shown

router = APIRouter(prefix="/api/systems/{system_id}/top-off", tags=["topoff"])
FAILURES = ("top_off_open", "line_open", "runs_dry", "reservoir_empty")
TEST = "top_off_test"


class TopOffFact(Model):
    """A line: what it is, in words, with its working."""

    name: str
    words: str
    working: list[WorkingStep]


class TopOffStopShown(Model):
    """A chain that stops the top-off."""

    words: str


class TopOffAnswer(Model):
    """The top-off of a system. doubts: recorded top-offs that are not plausible · guards: how many of the stops share
    nothing, in words · tested: when they were last tested, empty for never."""

    system_id: int
    name: str
    automatic: bool
    evaporation: TopOffFact
    doubts: list[str]
    reservoir: list[TopOffFact]
    days: int
    away: list[TopOffFact]
    refills: list[TopOffFact]
    lids: list[TopOffFact]
    stops: list[TopOffStopShown]
    guards: str
    guarded: bool
    shared: str
    tested: str
    failures: list[FailureShown]
    salt: list[TopOffFact]


@router.get("")
def top_off(system_id: Id, ctx: In, days: Annotated[int, Query(ge=1, le=90)] = 14) -> TopOffAnswer:
    """The top-off with its numbers; days: of the absence it is asked for."""
    system = ctx.household.system(system_id)
    at = installation_of(ctx.household, system)
    stops = system.top_off.stops
    tested = at.tested.get(TEST)
    return TopOffAnswer(
        system_id=system.id,
        name=system.name,
        automatic=at.tops_off,
        evaporation=_evaporation(ctx, at),
        doubts=_doubts(ctx, at),
        reservoir=_reservoir(ctx, at),
        days=days,
        away=_away(at, days),
        refills=[_refill(at, key, one) for key, one in _ways(at) if one],
        lids=[_lid(one) for one in lids(system, at.evaporated)],
        stops=[TopOffStopShown(words=one.words) for one in stops],
        guards=phrases("topoff.guards")[str(min(independent(stops), 2))],
        guarded=independent(stops) >= 2,
        shared=phrase("topoff.shared", parts=", ".join(shared(stops))) if shared(stops) else "",
        tested=date_words(tested) if tested else "",
        failures=[failure_shown(one) for one in board(at) if one.kind.key in FAILURES],
        salt=_salt(ctx, at),
    )


def _fact(key: str, words: str, working: Working = ()) -> TopOffFact:
    return TopOffFact(name=phrases("topoff.fact")[key], words=words, working=working_shown(working))


def _evaporation(ctx: Context, at: Installation) -> TopOffFact:
    found = at.evaporated
    low, high, a_day = (litres_words(each, 1) for each in (found.low_l, found.high_l, found.per_day_l))
    words = phrase("topoff.usual", a_day=a_day)
    if found.count:
        words = phrase("topoff.learned", a_day=a_day, low=low, high=high, count=found.count)
    before = year_ago(ctx.household, at.system)
    if before is not None:
        words = f"{words}. {phrase('topoff.year_ago', a_day=litres_words(before.per_day_l, 1))}"
    return _fact("evaporation", words)


def _doubts(ctx: Context, at: Installation) -> list[str]:
    ledger = ctx.household.ledger(at.system)
    return [
        phrase(
            "topoff.doubt",
            day=day_words(ctx.household.day_of(one.at)),
            litres=litres_words(one.litres),
            expected=litres_words(one.expected_l),
        )
        for one in implausible(ledger, at.evaporated, ctx.now)
    ]


def _reservoir(ctx: Context, at: Installation) -> list[TopOffFact]:
    ledger = ctx.household.ledger(at.system)
    now = reservoir_now(at.system, ledger, at.evaporated, ctx.now, ctx.keeper.zone)
    if now is None:
        return []
    holds, days = litres_words(now.holds_l, 0), show_number(now.left_days, 0)
    if now.filled:
        left, filled, fill_on = litres_words(now.left_l, 0), day_words(now.filled), day_words(now.fill_on)
        words = phrase("topoff.left", left=left, holds=holds, days=days, filled=filled, fill_on=fill_on)
    else:
        words = phrase("topoff.full", holds=holds, days=days)
    planned = next((one for one in ctx.household.outlook(at.system).occurrences if one.task == RESERVOIR), None)
    if planned is not None:
        words = phrase("topoff.on_the_rota", words=words, day=day_words(planned.day))
    safe = litres_words(safe_reservoir_l(at))
    return [_fact("left", words), _fact("safe", phrase("topoff.safe", safe=safe))]


def _away(at: Installation, days: int) -> list[TopOffFact]:
    found = absence(at.system, at.evaporated, days)
    words = phrase("topoff.needed", litres=litres_words(float(found.needed_l), 0))
    if found.chance is not None:
        words += " " + phrase("topoff.chance", chance=percent_words(found.chance))
    return [_fact("away", words, found.needed_l.working)]


def _ways(at: Installation) -> list[tuple[str, Refill | None]]:
    held, low = refills(at.system, at.evaporated, at.now(Parameter.SALINITY))
    return [("held", held), ("low_point", low)] if at.tops_off else []


def _refill(at: Installation, key: str, one: Refill) -> TopOffFact:
    swing = at.differs(Parameter.SALINITY, one.climbs)
    runs, run_l = show_number(float(one.runs_week), 0 if one.runs_week >= 10 else 1), litres_words(float(one.run_l))
    words = phrase("topoff.refill", runs=runs, run_l=run_l, swing=swing)
    return _fact(key, words, (*one.runs_week.working, *one.swing.working))


def _lid(one: UnderLid) -> TopOffFact:
    watts = show_number(abs(one.spared_w), 0)
    a_day = litres_words(one.per_day_l, 1)
    words = phrase("topoff.lid_more", a_day=a_day, watts=watts)
    if one.spared_w > 0:
        words = phrase("topoff.lid_less", a_day=a_day, watts=watts)
    return _fact(f"lid_{one.lid.value}", words)


def _salt(ctx: Context, at: Installation) -> list[TopOffFact]:
    rate = ctx.household.waters(at.system).rates([Parameter.SALINITY]).get(Parameter.SALINITY)
    lost = salt_lost(at.system, rate, at.evaporated)
    if lost is None:
        return []
    grams = grams_words(float(lost.grams), 1)
    words = phrase("topoff.salt_unsure", grams=grams)
    if lost.sure:
        words = phrase("topoff.salt", grams=grams, week=grams_words(lost.week_g), per_l=grams_words(lost.per_l, 1))
    return [_fact("salt", words, lost.grams.working)]
