"""Sheet: one system through time: readings, the line through them, expected values, and care on one axis."""

from collections.abc import Callable, Sequence
from datetime import datetime, timedelta

from fastapi import APIRouter, Query

from salttide.core.basics.measures import litres_words
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import clock_words, day_words, moment_words
from salttide.core.estimate.budget import budget, rate_words
from salttide.core.estimate.forecast import Crossing, Point, crossing
from salttide.core.ledger.balance import joined
from salttide.core.ledger.entries import Ledger, Reading
from salttide.core.ledger.plan import per_day_of
from salttide.core.overview.state import SystemState
from salttide.core.planning.change_options import TARGETED
from salttide.core.remedy.case import ExpectedValue
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import show_difference, unit_of
from salttide.core.system.system import Stage, System
from salttide.store import ledger as ledger_store
from salttide.store.probe import HOURLY

from .context import Context, In
from .models import (
    BandShown,
    Id,
    Model,
    NextShown,
    Shown,
    VerdictShown,
    band_shown,
    name_of,
    next_shown,
    shown,
    verdict_shown,
)
from .probe import ProbeStretch, crowd
from .sheet_lanes import CareLane, care_lanes

router = APIRouter(prefix="/api/systems/{system_id}/sheet", tags=["sheet"])


class Mark(Model):
    """A reading; the shape says which instrument. text: with its unit and its scatter, one standard deviation."""

    at: datetime
    value: float
    text: str
    day: str
    instrument: str
    when: str


class Corner(Model):
    """A corner of the line through the readings."""

    at: datetime
    value: float


class ExpectedPoint(Model):
    """An expected value and its interval."""

    at: datetime
    value: float
    low: float
    high: float


class CrossingShown(Model):
    """When the expected line leaves the band."""

    at: datetime
    value: float
    words: str
    between: str


class Strip(Model):
    """One parameter through time, in the keeper's unit. planned: what a plan that is followed expected when it was
    chosen."""

    parameter: str
    name: str
    unit: str
    decimals: int
    present: Shown
    verdict: VerdictShown
    band: BandShown | None
    low: float
    high: float
    shown_first: bool
    instruments: list[str]
    marks: list[Mark]
    crowds: list[ProbeStretch]
    line: list[Corner]
    expected: list[ExpectedPoint]
    planned: list[ExpectedPoint]
    crossing: CrossingShown | None
    drift: str


class BudgetShown(Model):
    """A part of what the system uses, makes and loses."""

    name: str
    amount: str
    remarks: list[str]


class Sheet(Model):
    """A system's sheet."""

    system_id: int
    name: str
    about: str
    now: datetime
    start: datetime
    end: datetime
    first: datetime
    standing: str
    breaking_in: bool
    strips: list[Strip]
    lanes: list[CareLane]
    next: list[NextShown]
    budget: list[BudgetShown]
    minutes_today: int


@router.get("")
def sheet(system_id: Id, ctx: In, back: int = Query(21, ge=2, le=5000), ahead: int = Query(14, ge=2, le=366)) -> Sheet:
    """The sheet of a system, `back` days into the past and `ahead` days into the future."""
    system = ctx.household.system(system_id)
    view = ctx.household.outlook(system, ahead)
    start, end = ctx.now - timedelta(days=back), ctx.now + timedelta(days=ahead)
    rates = view.rates()
    courses = {p: course.until(end) for p, course in view.courses(end).items()}
    past = ctx.household.recorded(system, start - timedelta(days=15))
    today, changes = ctx.today, ctx.household.ahead(system).changes(system, ctx.now)
    strips = [_strip(ctx, view, past, p, courses.get(p, []), start) for p in Parameter if p in view.present]
    return Sheet(
        system_id=system.id,
        name=system.name,
        about=" · ".join(
            part
            for part in (
                phrase("common.litres_l_net", litres=litres_words(system.volume_l, 0)),
                system.stock,
                system.methods.note,
            )
            if part
        ),
        now=_local(ctx, ctx.now),
        start=_local(ctx, start),
        end=_local(ctx, end),
        first=_local(ctx, ledger_store.first_entry(ctx.connection, system_id) or start),
        standing=view.summary.standing,
        breaking_in=system.stage == Stage.BREAKING_IN,
        strips=strips,
        lanes=care_lanes(ctx, view, past, start),
        next=[next_shown(item) for item in view.next],
        budget=[
            BudgetShown(name=line.name, amount=line.amount, remarks=list(line.remarks))
            for line in budget(view.ledger, rates, view.plan, ctx.now, ctx.keeper.zone, ctx.keeper.units, changes)
        ],
        minutes_today=round(sum(item.minutes for item in view.occurrences if item.day == today)),
    )


def _local(ctx: Context, at: datetime) -> datetime:
    return at.astimezone(ctx.keeper.zone)


def _strip(
    ctx: Context,
    view: SystemState,
    past: Ledger,
    parameter: Parameter,
    points: Sequence[Point],
    start: datetime,
) -> Strip:
    unit, band = unit_of(parameter, ctx.keeper.units), view.system.bands.get(parameter)
    to_unit = unit.from_canonical
    verdict = next(verdict for verdict in view.verdicts if verdict.parameter == parameter)
    leaves = crossing(points, band, ctx.now) if band else None
    by_hand = [reading for reading in past.of(parameter) if reading.how != HOURLY]
    seen = [reading for reading in by_hand if reading.at >= start]
    values = [r.value for r in seen] + [p.value for p in points] + ([band.low, band.high] if band else [])
    low, high = _range(parameter, values or [view.present[parameter].value])
    by_name = {name: [r for r in seen if r.instrument == name] for name in sorted({r.instrument for r in seen})}
    crowded = {name: readings for name, readings in by_name.items() if len(readings) > MAX_MARKS}
    names = [name for name in by_name if name not in crowded]
    return Strip(
        parameter=parameter,
        name=name_of(parameter) + (" (NBS)" if parameter == Parameter.PH else ""),
        unit=unit.label,
        decimals=unit.decimals,
        present=shown(parameter, view.present[parameter].value, ctx.keeper.units),
        verdict=verdict_shown(verdict),
        band=band_shown(parameter, band, ctx.keeper.units),
        low=to_unit(low),
        high=to_unit(high),
        shown_first=parameter in _first_shown(view.system) or verdict.position.out,
        instruments=names,
        marks=[_mark(ctx, reading) for reading in seen if reading.instrument not in crowded],
        crowds=[crowd(ctx.keeper.zone, unit, readings, CROWD_POINTS) for readings in crowded.values()],
        line=_line(ctx, past, parameter, by_hand, start),
        expected=[_point(ctx, parameter, point) for point in points],
        planned=[_point(ctx, parameter, point) for point in view.course_of_case(parameter)],
        crossing=_crossing(ctx, leaves, to_unit) if leaves else None,
        drift=_rate_words(ctx, parameter, view),
    )


def _line(
    ctx: Context, past: Ledger, parameter: Parameter, by_hand: Sequence[Reading], start: datetime
) -> list[Corner]:
    """The line through the readings of the instrument used last; none where they are too many."""
    mine = [reading for reading in by_hand if reading.instrument == by_hand[-1].instrument]
    line = joined(past, parameter, mine if len(mine) <= MAX_MARKS else [])
    to_unit = unit_of(parameter, ctx.keeper.units).from_canonical
    return [Corner(at=_local(ctx, at), value=to_unit(value)) for at, value in line if at >= start - LEAD_IN]


def _first_shown(system: System) -> tuple[Parameter, ...]:
    """The strips shown by default."""
    breaking_in = system.stage == Stage.BREAKING_IN
    return (Parameter.AMMONIA, Parameter.NITRITE) if breaking_in else TARGETED


MAX_MARKS, CROWD_POINTS = 600, 360
"""From this many readings of one instrument, they are drawn as a probe's."""
LEAD_IN = timedelta(days=15)
"""The line begins before the sheet does, so that it enters from the edge."""


def _crossing(ctx: Context, leaves: Crossing, to_unit: Callable[[float], float]) -> CrossingShown:
    zone = ctx.keeper.zone
    first = phrase("sheet.as_early_as", earliest=moment_words(leaves.earliest, zone)) if leaves.earliest else ""
    last = (
        phrase("sheet.as_late_as", latest=moment_words(leaves.latest, zone))
        if leaves.latest
        else phrase("sheet.or_not_at_all_within_this")
    )
    return CrossingShown(
        at=_local(ctx, leaves.at),
        value=to_unit(leaves.value),
        words=phrase("common.leaves_its_band_on_day", day=moment_words(leaves.at, zone)),
        between=", ".join(part for part in (first, last) if part),
    )


def _range(parameter: Parameter, values: Sequence[float]) -> tuple[float, float]:
    """The strip's scale: everything on it with a little margin, never wider than what is possible."""
    low, high = min(values), max(values)
    air = 0.12 * (high - low) or max(abs(high), 1.0) * 0.05
    return max(0.0, low - air), high + air


def _point(ctx: Context, parameter: Parameter, point: Point | ExpectedValue) -> ExpectedPoint:
    to_unit = unit_of(parameter, ctx.keeper.units).from_canonical
    return ExpectedPoint(
        at=_local(ctx, point.at), value=to_unit(point.value), low=to_unit(point.low), high=to_unit(point.high)
    )


def _mark(ctx: Context, reading: Reading) -> Mark:
    value = shown(reading.parameter, reading.value, ctx.keeper.units)
    local = reading.at.astimezone(ctx.keeper.zone)
    return Mark(
        at=_local(ctx, reading.at),
        value=value.value,
        text=f"{value.text} ± {show_difference(reading.parameter, reading.sd, reading.value, ctx.keeper.units)}",
        day=local.date().isoformat(),
        instrument=reading.instrument,
        when=f"{day_words(local.date())} {clock_words(local)}",
    )


def _rate_words(ctx: Context, parameter: Parameter, view: SystemState) -> str:
    """Its own rate, and the rate with the daily doses."""
    if not FACTS[parameter].dissolved:
        return ""
    dosed = per_day_of(view.plan.daily, parameter, view.system.volume_l)
    return rate_words(parameter, view.rates((parameter,))[parameter], dosed, ctx.keeper.units)
