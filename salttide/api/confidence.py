"""How sure the estimates are, by parameter."""

from collections.abc import Sequence
from datetime import datetime

from fastapi import APIRouter

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, day_words, moment_words
from salttide.core.estimate.confidence import (
    OUTLIER_SHARE,
    InstrumentSeen,
    TestSeen,
    above_words,
    beliefs,
    instruments_seen,
    narrowed_percent,
    sure_words,
    test_expected,
    tests_seen,
)
from salttide.core.estimate.rate import BUSY, Rate
from salttide.core.estimate.rate_history import RatePoint, history_needs, rate_history
from salttide.core.judgement.retest import TEST_MINUTES, Retest
from salttide.core.overview.state import SystemState
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import difference_shown, show, show_difference, unit_of
from salttide.core.system.system import System

from .context import Context, In
from .models import Id, Model, name_of

router = APIRouter(prefix="/api/systems/{system_id}/confidence", tags=["confidence"])


class RateMoment(Model):
    """A rate a day with its 80 % interval, in the keeper's unit."""

    at: datetime
    value: float
    low: float
    high: float


class TestShown(Model):
    """A test, and between what it was expected in eight of ten cases, in the keeper's unit."""

    at: datetime
    value: float
    low: float
    high: float
    wrong: bool
    words: str


class InstrumentRow(Model):
    """What an instrument did, in words."""

    name: str
    tests: str
    scatter: str
    above: str


class ConfidenceRow(Model):
    """A parameter: its rate, what a test now should read, the next test and what that tells. `estimated`: there are
    readings enough for more."""

    parameter: Parameter
    name: str
    estimated: bool
    rate: str
    rests_on: str
    expected: str
    next_test: str
    tells: str


class Confidence(Model):
    """Every parameter with a rate of its own."""

    name: str
    rows: list[ConfidenceRow]
    month: str


class ConfidenceFull(Model):
    """All that the rate of one parameter rests on; empty where there are too few readings."""

    parameter: Parameter
    name: str
    unit: str
    history: list[RateMoment]
    tests: list[TestShown]
    beliefs: list[str]
    minds: list[str]
    instruments: list[InstrumentRow]


@router.get("")
def confidence(system_id: Id, ctx: In) -> Confidence:
    """How sure the estimates of a system are."""
    system = ctx.household.system(system_id)
    view = ctx.household.outlook(system)
    return Confidence(
        name=system.name,
        rows=[_row(ctx, view, p, rate) for p, rate in view.rates(BUSY).items()],
        month=_month(ctx, view.tests),
    )


@router.get("/{parameter}")
def confidence_of(system_id: Id, parameter: Parameter, ctx: In) -> ConfidenceFull:
    """What the rate of one parameter rests on."""
    system = ctx.household.system(system_id)
    view, zone, units = ctx.household.outlook(system), ctx.keeper.zone, ctx.keeper.units
    rate = view.rates([parameter]).get(parameter) if parameter in BUSY else None
    return ConfidenceFull(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit_of(parameter, units).label,
        history=_history(ctx, system, parameter) if rate else [],
        tests=[_test(ctx, parameter, test) for test in tests_seen(rate)] if rate else [],
        beliefs=beliefs(parameter, rate, zone, units) if rate else [],
        minds=_minds(ctx, view, parameter, rate) if rate else [],
        instruments=[_instrument(ctx, parameter, one) for one in instruments_seen(rate)] if rate else [],
    )


def _row(ctx: Context, view: SystemState, parameter: Parameter, rate: Rate | None) -> ConfidenceRow:
    due = _due(view, parameter)
    return ConfidenceRow(
        parameter=parameter,
        name=name_of(parameter),
        estimated=rate is not None,
        rate=sure_words(parameter, rate, ctx.keeper.units) if rate else phrase("confidence.too_few_readings"),
        rests_on=_rests_on(ctx, rate) if rate else "",
        expected=_expected(ctx, view, parameter),
        next_test=_next_test(due) if due else "",
        tells=_tells(ctx, view, parameter, rate),
    )


def _due(view: SystemState, parameter: Parameter) -> Retest | None:
    return next((test for test in view.tests if test.parameter == parameter), None)


def _expected(ctx: Context, view: SystemState, parameter: Parameter) -> str:
    around = test_expected(view.ledger, parameter, ctx.now)
    return _between(ctx, parameter, around.low, around.high) if around else ""


def _between(ctx: Context, parameter: Parameter, low: float, high: float) -> str:
    """A range with its unit said once."""
    label = unit_of(parameter, ctx.keeper.units).label
    first, last = (show(parameter, end, ctx.keeper.units) for end in (low, high))
    return phrase("confidence.between", low=first.removesuffix(f" {label}"), high=last)


def _rests_on(ctx: Context, rate: Rate) -> str:
    day = moment_words(rate.since, ctx.keeper.zone)
    return phrase("confidence.rests_on", tests=counted(rate.count, "test"), day=day)


def _next_test(due: Retest) -> str:
    why = due.why or phrase("confidence.usual")
    every = "day" if due.every_days == 1 else counted(due.every_days, "day")
    return phrase("confidence.next_test", day=day_words(due.due), every=every, why=why)


def _month(ctx: Context, tests: Sequence[Retest]) -> str:
    """What all tests of the coming month come to."""
    count = sum(len(test.days_within(ctx.today)) for test in tests)
    return phrase(
        "confidence.month", tests=counted(count, "test"), minutes=counted(round(count * TEST_MINUTES), "minute")
    )


def _tells(ctx: Context, view: SystemState, parameter: Parameter, rate: Rate | None) -> str:
    """By how much the next test narrows the rate."""
    last, due = view.ledger.last(parameter), _due(view, parameter)
    if rate is None or last is None or due is None:
        return ""
    days = max(0, (due.due - ctx.household.day_of(rate.until)).days)
    return phrase("confidence.narrows", percent=show_number(narrowed_percent(rate, days, last.sd), 0))


def _minds(ctx: Context, view: SystemState, parameter: Parameter, rate: Rate) -> list[str]:
    """What would change what is believed."""
    between, tells = _expected(ctx, view, parameter), _tells(ctx, view, parameter, rate)
    beyond = [phrase("confidence.a_test_outside", between=between)] if between else []
    another = [phrase("confidence.the_next_test", tells=tells)] if tells else []
    return [*beyond, *another, phrase("confidence.anything_unrecorded")]


def _history(ctx: Context, system: System, parameter: Parameter) -> list[RateMoment]:
    record = ctx.household.history(system, history_needs(ctx.now))
    return [_moment(ctx, parameter, point) for point in rate_history(record, parameter, ctx.now)]


def _moment(ctx: Context, parameter: Parameter, point: RatePoint) -> RateMoment:
    value, low, high = (
        difference_shown(parameter, each, ctx.keeper.units) for each in (point.per_day, point.low, point.high)
    )
    return RateMoment(at=point.at.astimezone(ctx.keeper.zone), value=value, low=low, high=high)


def _test(ctx: Context, parameter: Parameter, test: TestSeen) -> TestShown:
    to_unit, reading = unit_of(parameter, ctx.keeper.units).from_canonical, test.reading
    low, high = test.between
    return TestShown(
        at=reading.at.astimezone(ctx.keeper.zone),
        value=to_unit(reading.value),
        low=to_unit(low),
        high=to_unit(high),
        wrong=test.wrong >= OUTLIER_SHARE,
        words=phrase(
            "confidence.read",
            day=moment_words(reading.at, ctx.keeper.zone),
            value=show(parameter, reading.value, ctx.keeper.units),
            instrument=reading.instrument,
            between=_between(ctx, parameter, low, high),
        ),
    )


def _instrument(ctx: Context, parameter: Parameter, one: InstrumentSeen) -> InstrumentRow:
    units, around = ctx.keeper.units, FACTS[parameter].likely.middle
    stated, seen = (show_difference(parameter, sd, around, units) for sd in (one.stated, one.scatter))
    return InstrumentRow(
        name=one.name,
        tests=counted(one.count, "test"),
        scatter=phrase("confidence.scatter", stated=stated, seen=seen),
        above=above_words(parameter, one.above, units) if one.above else "",
    )
