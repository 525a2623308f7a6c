"""The forecast: every dissolved parameter from its last reading on, by its rate, through entries since and the plan
ahead, with an interval that widens."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property
from itertools import pairwise
from typing import Any

from ..basics.dates import later
from ..basics.lazy import LazyModule
from ..ledger.balance import Effect, effect, effect_in
from ..ledger.entries import Dose, Ledger, Moving, Reading, in_order
from ..ledger.plan import Plan
from ..ledger.verdict import EXPECTED_SDS, Expected
from ..science.parameters import FACTS, Parameter, Span
from .rate import BUSY, Rate, normal_share, rate_of

np: Any = LazyModule("numpy")

UNKNOWN_SHARE = 0.25
"""Without a rate, the level may wander by this share of the instrument's scatter per day."""
WANDER_SHARE = 0.02
"""A rate keeps changing, by this share of itself times the square root of the days (judgement): 10 % in a month."""
MIN_WANDER_SHARE = 0.005
"""But by no less than this share of the instrument's scatter."""


@dataclass(frozen=True)
class Point:
    """An expected value with its 80 % interval."""

    at: datetime
    value: float
    low: float
    high: float

    def chance(self, band: Span) -> float:
        """The probability that the truth then lies in a band.

        >>> round(Point(datetime(2026, 11, 24), 3.0, 2.9, 3.1).chance(Span(2.9, 3.1)), 2)
        0.8
        """
        sd = (self.high - self.low) / 2 / EXPECTED_SDS
        if not sd:
            return float(band.holds(self.value))
        return float(normal_share((band.high - self.value) / sd) - normal_share((band.low - self.value) / sd))


@dataclass(frozen=True)
class Crossing:
    """When the expected line leaves its target band; and when the edges of its interval do, None where they stay
    inside."""

    at: datetime
    value: float
    earliest: datetime | None = None
    latest: datetime | None = None


@dataclass(frozen=True)
class Part:
    """What one planned event contributes: how far it moves a parameter at once, and what remains of that at the end."""

    event: Moving
    at_once: float
    at_end: float


@dataclass(frozen=True)
class Course:
    """The expected course of one parameter, from its last reading on.

    days: moments in days since `origin`, two at each event (before and after it) · value, low, high: arrays over them ·
    steps: each planned event and the place in the arrays just after it · shares: what is left of anything that was
    there at first.
    """

    origin: datetime
    days: Any
    value: Any
    low: Any
    high: Any
    steps: Sequence[tuple[Moving, int]] = ()
    shares: Any = None

    @cached_property
    def points(self) -> list[Point]:
        """All of it, point by point."""
        times = [later(self.origin, days) for days in self.days.tolist()]
        columns = (self.value.tolist(), self.low.tolist(), self.high.tolist())
        return [Point(*row) for row in zip(times, *columns, strict=True)]

    def at(self, moment: datetime) -> Point | None:
        """The expected point at a moment, None outside the course."""
        return value_at(self.points, moment)

    def until(self, end: datetime) -> list[Point]:
        """Its points up to a moment, and that at the moment itself."""
        before = [point for point in self.points if point.at <= end]
        last = self.at(end) if not before or before[-1].at < end else None
        return [*before, last] if last else before

    @property
    def parts(self) -> list[Part]:
        """What each planned event contributes, in order of time."""
        ends = self.shares[-1] / self.shares
        moved = [(event, i, float(self.value[i] - self.value[i - 1])) for event, i in self.steps]
        return [Part(event, once, once * float(ends[i])) for event, i, once in moved]


def expect(
    ledger: Ledger, rates: Mapping[Parameter, Rate | None], plan: Plan, now: datetime, until: datetime
) -> dict[Parameter, Course]:
    """The expected course of each parameter named in `rates` that was measured, to `until` (a year ahead at most).

    Nothing falls below zero. Without a rate (None) a parameter is expected to stay, and the interval still widens.
    Temperature, pH and ORP follow other laws and are not forecast.

    >>> from salttide.core.ledger.entries import Change
    >>> noon = datetime(2026, 11, 24, 12)
    >>> ledger = Ledger(100.0, [Reading(noon, Parameter.NITRATE, 20.0, 1.0, "kit")])
    >>> plan = Plan([Change(noon + timedelta(days=1), 25, 25, {Parameter.NITRATE: 0.0})])
    >>> courses = expect(ledger, {Parameter.NITRATE: None}, plan, noon, noon + timedelta(days=2))
    >>> courses[Parameter.NITRATE].points[-1].value
    15.0
    """
    known = {p: last for p in rates if FACTS[p].dissolved and (last := ledger.last(p))}
    starts = [_start(rates[p], last, FACTS[p].sd) for p, last in known.items()]
    return _run(ledger, list(known), starts, plan, now, until) if starts else {}


def foreseen(ledger: Ledger, parameter: Parameter, at: datetime) -> Expected | None:
    """What a test at a moment is expected to read, by its rate and what was recorded since the last one; None where
    there is no rate, and for what does not go by one (ammonia comes and goes within a day).

    >>> noon = datetime(2026, 11, 24, 12)
    >>> weeks = [noon - timedelta(weeks=week) for week in range(6, 0, -1)]
    >>> readings = [Reading(at, Parameter.ALKALINITY, 3.0 - 0.1 * i, 0.05, "kit") for i, at in enumerate(weeks)]
    >>> round(foreseen(Ledger(100.0, readings), Parameter.ALKALINITY, noon).value, 1)
    2.4
    """
    rate = rate_of(ledger, parameter, at) if parameter in BUSY else None
    last = ledger.last(parameter)
    if rate is None or last is None or last.at > at:
        return None
    point = expect(ledger, {parameter: rate}, Plan(), at, at)[parameter].points[-1]
    return Expected(point.value, (point.high - point.value) / EXPECTED_SDS, last.instrument)


@dataclass(frozen=True)
class _Start:
    """Where a parameter starts from, its rate, and the uncertainties of both."""

    at: datetime
    value: float
    sd: float
    per_day: float = 0.0
    per_day_sd: float = 0.0
    together: float = 0.0
    wander: float = 0.0
    id: int = 0

    def before(self, event: Moving) -> bool:
        """Whether an event came after it, by time and then by order of entry."""
        return (self.at, self.id) < (event.at, event.id)


def _start(rate: Rate | None, last: Reading, unit: float) -> _Start:
    """From the level and the rate, as wide as the interval of the rate is."""
    if rate is None:
        return _Start(last.at, last.value, last.sd, 0.0, last.sd * UNKNOWN_SHARE, id=last.id)
    wander = max(WANDER_SHARE * abs(rate.per_day), MIN_WANDER_SHARE * unit)
    together = rate.together * (rate.wide / rate.sd if rate.sd else 1.0)
    return _Start(rate.until, rate.level, rate.level_sd, rate.per_day, rate.wide, together, wander, last.id)


@dataclass
class _Pass:
    """One pass through time for all parameters at once, as vectors: a station after each event, straight between."""

    parameters: Sequence[Parameter]
    starts: Sequence[_Start]
    begins: Any
    at: float
    value: Any
    share: Any
    days: Any
    rate: Any

    def to(self, at: float) -> None:
        """Advance to a moment, in days since the first start."""
        waited = np.maximum(at - np.maximum(self.at, self.begins), 0.0)
        self.value = np.maximum(0.0, self.value + waited * self.rate)
        self.days = self.days + waited
        self.at = at

    def station(self) -> tuple[Any, ...]:
        """Note the present state as a station."""
        return np.full_like(self.begins, self.at), self.value, self.share, self.days, self.rate

    def meet(self, effects: Sequence[Effect], done: Moving | None) -> None:
        """Apply an event that affects every parameter; one already `done` does not affect those measured later."""
        kept = np.array([each.kept for each in effects])
        brought = np.array([each.brought for each in effects])
        if done is not None:
            touched = np.array([start.before(done) for start in self.starts])
            kept, brought = np.where(touched, kept, 1.0), np.where(touched, brought, 0.0)
        self.value = self.value * kept + brought
        self.share, self.days = self.share * kept, self.days * kept

    def take(self, dose: Dose, volume_l: float, planned: bool) -> None:
        """Apply a dose: it moves only what it contains."""
        self.value = self.value.copy()
        for place, parameter in enumerate(self.parameters):
            amount = dose.amounts.get(parameter)
            if amount and (planned or self.starts[place].before(dose)):
                self.value[place] += effect(parameter, dose, volume_l).brought


def _run(
    ledger: Ledger, parameters: list[Parameter], starts: list[_Start], plan: Plan, now: datetime, until: datetime
) -> dict[Parameter, Course]:
    """Run through all events, with every day between them."""
    origin = min(start.at for start in starts)
    begins = np.array([_days(origin, start.at) for start in starts])
    value, own = (np.array(column) for column in zip(*((s.value, s.per_day) for s in starts), strict=True))
    going = _Pass(parameters, starts, begins, 0.0, value, np.ones_like(value), np.zeros_like(value), own)
    dosed = np.array([plan.per_day(p) for p in parameters]) / ledger.volume_l
    stations, met = [going.station()], list[tuple[datetime, Moving | None, bool]]()
    for at, event, planned in _events(ledger, plan, origin, now, until):
        going.to(_days(origin, at))
        if event is None:
            going.rate = own + dosed
        elif isinstance(event, Dose):
            going.take(event, ledger.volume_l if planned else ledger.volume_at(event.at, event.id), planned)
        elif planned:
            going.meet([effect(p, event, ledger.volume_l) for p in parameters], None)
        else:
            going.meet([effect_in(ledger, p, event) for p in parameters], event)
        stations.append(going.station())
        met.append((at, event, planned))
    return _courses(parameters, starts, stations, met, until)


def _days(a: datetime, b: datetime) -> float:
    return (b - a) / timedelta(days=1)


def _events(
    ledger: Ledger, plan: Plan, origin: datetime, now: datetime, until: datetime
) -> list[tuple[datetime, Moving | None, bool]]:
    """Events since the first start, now (None), and planned ones (True), in order of time."""
    done = [(event.at, event, False) for event in ledger.moving if origin <= event.at <= now]
    ahead = [(event.at, event, True) for event in in_order(plan.events) if now <= event.at <= until]
    return [*done, (now, None, False), *ahead]


def _courses(
    parameters: Sequence[Parameter],
    starts: Sequence[_Start],
    stations: Sequence[tuple[Any, ...]],
    met: Sequence[tuple[datetime, Moving | None, bool]],
    until: datetime,
) -> dict[Parameter, Course]:
    """Every moment of each parameter by the station before it, with the interval."""
    origin = min(start.at for start in starts)
    begins = np.array([_days(origin, start.at) for start in starts])
    moments, places, after = _rows(begins, [_days(origin, at) for at, _, _ in met], met, _days(origin, until))
    at, value, share, waited, rate = np.array(stations).transpose(1, 0, 2)[:, places]
    gone = np.maximum(moments[:, None] - np.maximum(at, begins), 0.0)
    value, waited = np.maximum(0.0, value + gone * rate), waited + gone
    wide = EXPECTED_SDS * _spread(starts, share, waited, np.maximum(moments[:, None] - begins, 0.0))
    low, high = np.maximum(0.0, value - wide), value + wide
    steps = [(event, after[place]) for place, (_, event, planned) in enumerate(met, 1) if planned and event]
    found = {}
    for index, (parameter, first) in enumerate(zip(parameters, np.searchsorted(moments, begins).tolist(), strict=True)):
        own = [(event, place - first) for event, place in steps if place > first]
        part = slice(first, None), index
        found[parameter] = Course(origin, moments[first:], value[part], low[part], high[part], own, share[part])
    return found


def _spread(starts: Sequence[_Start], share: Any, waited: Any, elapsed: Any) -> Any:
    """Standard deviation, from that of level and rate and from a rate that keeps changing."""
    sd, rate_sd, together, wander = np.array([[s.sd, s.per_day_sd, s.together, s.wander] for s in starts]).T
    variance = (share * sd) ** 2 + (waited * rate_sd) ** 2 + 2 * share * waited * together
    return np.sqrt(np.maximum(variance, 0.0) + (wander * waited) ** 2 * elapsed / 3)


def _rows(
    begins: Any, reached: Sequence[float], met: Sequence[tuple[datetime, Moving | None, bool]], until: float
) -> tuple[Any, Any, dict[int, int]]:
    """Every moment in days since the first start and the station that it goes on from: every day, each start, now, the
    end, and twice each event but the daily doses; and where the second of these lies, by the place of the event."""
    seen = [
        place
        for place, (_, event, _) in enumerate(met, 1)
        if event is not None and not (isinstance(event, Dose) and event.routine)
    ]
    now = [reached[place] for place, (_, event, _) in enumerate(met) if event is None]
    plain = np.unique(np.concatenate([np.arange(int(until) + 1.0), begins, now, [until]]))
    events = np.array([reached[place - 1] for place in seen])
    number = np.array(seen, dtype=int)
    plain_place = np.searchsorted(np.array(reached), plain)
    moments = np.concatenate([events, events, plain])
    places = np.concatenate([number - 1, number, plain_place])
    turns = np.concatenate([3 * number - 1, 3 * number, 3 * plain_place + 1])
    order = np.lexsort((turns, moments))
    after = {
        int(place): row
        for row, (place, turn) in enumerate(zip(places[order], turns[order], strict=True))
        if turn == 3 * place
    }
    return moments[order], places[order], after


def value_at(points: Sequence[Point], at: datetime) -> Point | None:
    """The expected point at a moment, straight between its neighbours; None outside the points."""
    for before, after in pairwise(points):
        if before.at <= at <= after.at and after.at > before.at:
            share = (at - before.at) / (after.at - before.at)
            return Point(
                at,
                *(getattr(before, part) + share * (getattr(after, part) - getattr(before, part)) for part in _PARTS),
            )
    return points[-1] if points and points[-1].at == at else None


_PARTS = ("value", "low", "high")


def crossing(points: Sequence[Point], band: Span, now: datetime) -> Crossing | None:
    """The first moment after `now` at which the expected line leaves `band`; None if it starts outside or stays.

    >>> noon = datetime(2026, 11, 24, 12)
    >>> points = [Point(noon, 3.0, 2.9, 3.1), Point(noon + timedelta(days=10), 2.0, 1.5, 2.5)]
    >>> crossing(points, Span(2.5, 3.5), noon).at == noon + timedelta(days=5)
    True
    """
    ahead = [point for point in points if point.at >= now]
    if not ahead or not band.holds(ahead[0].value):
        return None
    outside = next((point.value for point in ahead if not band.holds(point.value)), None)
    if outside is None:
        return None
    edge = band.nearest(outside)
    near, far = ("low", "high") if edge == band.low else ("high", "low")
    meets = {part: _first_beyond(ahead, part, edge, near == "low") for part in _PARTS}
    at = meets["value"]
    assert at is not None
    return Crossing(at, edge, meets[near], meets[far])


def _first_beyond(points: Sequence[Point], part: str, edge: float, below: bool) -> datetime | None:
    """When a line first crosses an edge."""

    lines: list[float] = [getattr(point, part) for point in points]
    beyond = [value < edge if below else value > edge for value in lines]
    if beyond[0]:
        return points[0].at
    for i, (before, after) in enumerate(pairwise(points)):
        one, other = lines[i], lines[i + 1]
        if beyond[i + 1]:
            return before.at + (edge - one) / (other - one) * (after.at - before.at)
    return None


MIN_TOLD = 0.01


def matters(parameter: Parameter, moved: float) -> bool:
    """Whether a movement (canonical) is worth mentioning: a hundredth of an instrument's scatter or more
    (judgement)."""
    return abs(moved) > MIN_TOLD * FACTS[parameter].sd
