"""What is expected: every dissolved parameter from its last reading on, by its pace, through what was done since and
what the plan will do, with an interval that widens."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property
from itertools import pairwise
from typing import Any

from .balance import Effect, effect, effect_in
from .lazily import Lazily
from .ledger import Dose, Ledger, Moving, Reading, in_order
from .pace import Pace
from .parameters import FACTS, Parameter, Span
from .plan import Plan

np: Any = Lazily("numpy")

INTERVAL_SDS = 1.2816
"""Either way of the expected value: a normal distribution has 80 % of its probability between."""
UNKNOWN_SHARE = 0.25
"""Without enough readings for a pace, the level may wander by this share of the instrument's scatter per day."""
WANDER_SHARE = 0.02
"""A pace goes on changing, by this share of itself times the square root of the days (judgement): 10 % in a month."""
LEAST_WANDER_SHARE = 0.005
"""And by no less than this share of the instrument's scatter."""


@dataclass(frozen=True)
class Point:
    """An expected value with the interval that holds it with 80 %."""

    at: datetime
    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Crossing:
    """Where the expected line leaves its target band; and when the edges of its interval do, None where they stay."""

    at: datetime
    value: float
    earliest: datetime | None = None
    latest: datetime | None = None


@dataclass(frozen=True)
class Part:
    """What one planned event contributes: how far it moves a parameter at once, and what is left of that at the end."""

    event: Moving
    at_once: float
    at_end: float


@dataclass(frozen=True)
class Course:
    """The expected course of one parameter, from its last reading on.

    times: moments, two at each event (before and after it) · value, low, high: arrays over them · steps: each planned
    event and the place in the arrays just after it · shares: what is left of anything that was there at first.
    """

    times: Sequence[datetime]
    value: Any
    low: Any
    high: Any
    steps: Sequence[tuple[Moving, int]] = ()
    shares: Any = None

    @cached_property
    def points(self) -> list[Point]:
        """All of it, point by point."""
        columns = (self.value.tolist(), self.low.tolist(), self.high.tolist())
        return [Point(*row) for row in zip(self.times, *columns, strict=True)]

    def at(self, moment: datetime) -> Point | None:
        """The expected point at a moment, None outside the course."""
        return value_at(self.points, moment)

    @property
    def parts(self) -> list[Part]:
        """What each planned event contributes, in order of time."""
        ends = self.shares[-1] / self.shares
        moved = [(event, i, float(self.value[i] - self.value[i - 1])) for event, i in self.steps]
        return [Part(event, once, once * float(ends[i])) for event, i, once in moved]


def expect(
    ledger: Ledger, paces: Mapping[Parameter, Pace | None], plan: Plan, now: datetime, until: datetime
) -> dict[Parameter, Course]:
    """The expected course of each parameter named in `paces` that was measured, to `until` (a year ahead at most).

    Nothing falls below zero. Without a pace (None) a parameter is expected to stay, and the interval still widens.
    Temperature, pH and ORP follow other laws and are not foretold.

    >>> from salttide.core.ledger import Change
    >>> noon = datetime(2026, 11, 24, 12)
    >>> ledger = Ledger(100.0, [Reading(noon, Parameter.NITRATE, 20.0, 1.0, "kit")])
    >>> plan = Plan([Change(noon + timedelta(days=1), 25, 25, {Parameter.NITRATE: 0.0})])
    >>> courses = expect(ledger, {Parameter.NITRATE: None}, plan, noon, noon + timedelta(days=2))
    >>> courses[Parameter.NITRATE].points[-1].value
    15.0
    """
    known = {p: last for p in paces if FACTS[p].dissolved and (last := ledger.last(p))}
    starts = [_start(paces[p], last, FACTS[p].sd) for p, last in known.items()]
    return _run(ledger, list(known), starts, plan, now, until) if starts else {}


@dataclass(frozen=True)
class _Start:
    """Where a parameter starts from, its pace, and the uncertainties of both."""

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


def _start(pace: Pace | None, last: Reading, unit: float) -> _Start:
    if pace is None:
        return _Start(last.at, last.value, last.sd, 0.0, last.sd * UNKNOWN_SHARE, id=last.id)
    wander = max(WANDER_SHARE * abs(pace.per_day), LEAST_WANDER_SHARE * unit)
    return _Start(pace.until, pace.level, pace.level_sd, pace.per_day, pace.sd, pace.together, wander, last.id)


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
        """Go on to a moment, in days since the first start."""
        waited = np.maximum(at - np.maximum(self.at, self.begins), 0.0)
        self.value = np.maximum(0.0, self.value + waited * self.rate)
        self.days = self.days + waited
        self.at = at

    def station(self) -> tuple[Any, ...]:
        """Where it stands."""
        return np.full_like(self.begins, self.at), self.value, self.share, self.days, self.rate

    def meet(self, effects: Sequence[Effect], event: Moving | None) -> None:
        """Go through an event; `event` is given where what was measured after it is not touched."""
        kept = np.array([each.kept for each in effects])
        brought = np.array([each.brought for each in effects])
        if event is not None:
            touched = np.array([start.before(event) for start in self.starts])
            kept, brought = np.where(touched, kept, 1.0), np.where(touched, brought, 0.0)
        self.value = self.value * kept + brought
        self.share, self.days = self.share * kept, self.days * kept


def _run(
    ledger: Ledger, parameters: list[Parameter], starts: list[_Start], plan: Plan, now: datetime, until: datetime
) -> dict[Parameter, Course]:
    """Through every event, then every day between them."""
    origin = min(start.at for start in starts)
    begins = np.array([_days(origin, start.at) for start in starts])
    value, pace = (np.array(column) for column in zip(*((s.value, s.per_day) for s in starts), strict=True))
    going = _Pass(parameters, starts, begins, 0.0, value, np.ones_like(value), np.zeros_like(value), pace)
    dosed = np.array([plan.per_day(p) for p in parameters]) / ledger.volume_l
    stations, met = [going.station()], list[tuple[datetime, Moving | None, bool]]()
    for at, event, planned in _events(ledger, plan, origin, now, until):
        going.to(_days(origin, at))
        if event is None:
            going.rate = pace + dosed
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
    """What was done since the first start, now (None), and what is planned (True), in order of time."""
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
    rows = _rows(starts, met, until)
    times = [at for at, _, _ in rows]
    moments = np.array([_days(origin, at) for at in times])[:, None]
    at, value, share, waited, rate = np.array(stations).transpose(1, 0, 2)[:, [place for _, _, place in rows]]
    begins = np.array([_days(origin, start.at) for start in starts])
    gone = np.maximum(moments - np.maximum(at, begins), 0.0)
    value, waited = np.maximum(0.0, value + gone * rate), waited + gone
    wide = INTERVAL_SDS * _spread(starts, share, waited, np.maximum(moments - begins, 0.0))
    low, high = np.maximum(0.0, value - wide), value + wide
    after = {order: index for index, (_, order, _) in enumerate(rows)}
    steps = [(event, after[3 * place]) for place, (_, event, planned) in enumerate(met, 1) if planned and event]
    found = {}
    for index, (parameter, start) in enumerate(zip(parameters, starts, strict=True)):
        first = bisect_left(times, start.at)
        own = [(event, place - first) for event, place in steps if place > first]
        part = slice(first, None), index
        found[parameter] = Course(times[first:], value[part], low[part], high[part], own, share[part])
    return found


def _spread(starts: Sequence[_Start], share: Any, waited: Any, elapsed: Any) -> Any:
    """Standard deviation: of the level and the pace as they were told, and of a pace that goes on changing."""
    sd, pace_sd, together, wander = np.array([[s.sd, s.per_day_sd, s.together, s.wander] for s in starts]).T
    told = (share * sd) ** 2 + (waited * pace_sd) ** 2 + 2 * share * waited * together
    return np.sqrt(np.maximum(told, 0.0) + (wander * waited) ** 2 * elapsed / 3)


def _rows(
    starts: Sequence[_Start], met: Sequence[tuple[datetime, Moving | None, bool]], until: datetime
) -> list[tuple[datetime, int, int]]:
    """Every moment with its order among those at the same time and the station it goes on from: every day, each
    start, the end, and twice each event but the daily doses."""
    origin = min(start.at for start in starts)
    days = [origin + timedelta(days=day) for day in range(int(_days(origin, until)) + 1)]
    seen = [
        (at, place)
        for place, (at, event, _) in enumerate(met, 1)
        if event is not None and not (isinstance(event, Dose) and event.routine)
    ]
    rows = [(at, 3 * place - 1, place - 1) for at, place in seen]  # just before each event
    rows += [(at, 3 * place, place) for at, place in seen]  # and just after it
    reached = [at for at, _, _ in met]
    for at in {*days, *(start.at for start in starts), *(at for at, event, _ in met if event is None), until}:
        place = bisect_left(reached, at)
        rows.append((at, 3 * place + 1, place))
    return sorted(rows)


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
    """When one of the lines first goes beyond an edge."""

    lines: list[float] = [getattr(point, part) for point in points]
    beyond = [value < edge if below else value > edge for value in lines]
    if beyond[0]:
        return points[0].at
    for i, (before, after) in enumerate(pairwise(points)):
        one, other = lines[i], lines[i + 1]
        if beyond[i + 1]:
            return before.at + (edge - one) / (other - one) * (after.at - before.at)
    return None
