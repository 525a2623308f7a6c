"""When a care task is due next: by the days since, by weekday, by uses, by what was found, by what is going on."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta, tzinfo

from ..basics.dates import later
from ..basics.number_text import show_number
from ..basics.phrasing import counted, day_words
from ..ledger.entries import Care
from ..system.observations import found_kinds, number_found
from .task import Measure, Measured, TaskKind, Trigger, Uses, tasks

GoingOn = Mapping[str, date]
"""Triggers in force, by key of rule or sign, and since when."""
Dated = Sequence[tuple[date, Care]]
"""Care, each with the keeper's own date, oldest first."""
Done = Mapping[str, Dated]
"""Tasks done and skipped, by task."""


def done_of(care: Iterable[Care], zone: tzinfo) -> Done:
    """The record of tasks, by task."""
    found: dict[str, list[tuple[date, Care]]] = {}
    for entry in care:
        found.setdefault(entry.task, []).append((entry.at.astimezone(zone).date(), entry))
    return {task: sorted(own, key=lambda pair: pair[0]) for task, own in found.items()}


@dataclass(frozen=True)
class Rule:
    """One system's rule for a task: every `every_days` days after it was last done or skipped; minutes it takes.
    weekdays: if any, only on these (0 is Monday) · zones: parts done in turn · limit: of its observation, in place of
    the kind's own · since: the day the system was started · installed: the day its part was put in · asked: why a
    programme asks for it · once: the day on which it is asked for a single time, beside its interval.
    """

    kind: TaskKind
    every_days: int
    minutes: float
    weekdays: tuple[int, ...] = ()
    zones: tuple[str, ...] = ()
    limit: float | None = None
    since: date | None = None
    installed: date | None = None
    asked: str = ""
    once: date | None = None


def minutes_of(rules: Sequence[Rule], task: str) -> float:
    """Minutes of a task in a system: by its own rule, else by the task's data file."""
    return next((rule.minutes for rule in rules if rule.kind.key == task), tasks()[task].minutes)


SKIPPED_DAYS = 7
"""A task that is asked for a single time and was skipped is asked for again after so many days (judgement)."""
ONCE_DAYS = 3650
"""The interval of a task that is asked for once and does not come round again."""


@dataclass(frozen=True)
class Due:
    """When a task is due, and its interval in days from then on. why, why_every: reasons for the first and for the
    following; never: it was never done since the system was started."""

    day: date
    every: int
    why: str
    why_every: str
    never: bool = False


def first_due(rule: Rule, done: Done, going_on: GoingOn, today: date) -> Due:
    """When a task is due next: the earliest by anything its kind counts. `done` holds all tasks of the system."""
    own = done.get(rule.kind.key, ())
    if rule.once is not None:
        put_off = [later(day, SKIPPED_DAYS) for day, care in own if care.skipped and day >= rule.once]
        return Due(max([rule.once, *put_off]), *_asked_once(rule, going_on))
    every, why_every = _rate(rule, going_on)
    last, since = _counted_from(rule, own)
    if last is None:
        return _never(rule, every, why_every, going_on, today)
    found = [(later(last, every), f"{why_every}, {since} {day_words(last)}")]
    if rule.kind.uses:
        found += _by_uses(rule.kind.uses, last, done, today)
    if rule.kind.measured:
        found += _by_finding(rule.kind.measured, rule, own, last, done)
    found += [(max(day, last + timedelta(days=1)), why) for day, why in _seen(rule.kind, last, going_on)]
    day, why = min(found, key=lambda pair: pair[0])
    return Due(day, every, why, why_every)


def _asked_once(rule: Rule, going_on: GoingOn) -> tuple[int, str, str]:
    """The interval after a single time that is asked for, and why this one and the following are."""
    every, why = _rate(replace(rule, asked=""), going_on)
    return every, rule.asked, why


def _counted_from(rule: Rule, own: Dated) -> tuple[date | None, str]:
    """The day an interval counts from, and what happened then: the task was last done, or its part was put in since;
    None without either."""
    last = own[-1][0] if own else None
    if rule.installed is not None and (last is None or rule.installed > last):
        return rule.installed, "installed on"
    return last, "last on"


def _never(rule: Rule, every: int, why_every: str, going_on: GoingOn, today: date) -> Due:
    """Due without any record: an interval after the system was started, and late from then on like everything else;
    today where nobody knows when that was, or by what was seen."""
    seen = _seen(rule.kind, date.min, going_on)
    if seen:
        return Due(today, every, min(seen)[1], why_every, True)
    if rule.since is None:
        return Due(today, every, f"{why_every}, never recorded so far", why_every, True)
    first = later(rule.since, every)
    if rule.asked:
        return Due(first, every, why_every, why_every, True)
    how = "not recorded since" if first <= today else "counted from"
    return Due(first, every, f"{why_every}, {how} set-up on {day_words(rule.since)}", why_every, first <= today)


def _rate(rule: Rule, going_on: GoingOn) -> tuple[int, str]:
    """The interval in days, and why: triggers may make it more frequent, or hold it back."""
    for one in rule.kind.stirred:
        if one.every_days and one.on & going_on.keys() and _changes(one, rule):
            return one.every_days, f"every {counted(one.every_days, 'day')}, because {one.why}"
    days = counted(rule.every_days, "day") if rule.every_days > 1 else "day"
    why = f", because {rule.asked}" if rule.asked else ""
    return rule.every_days, f"every {days}{why}"


def _changes(one: Trigger, rule: Rule) -> bool:
    """Whether a trigger changes the interval: for more only beyond what the keeper does already; one that holds back
    always does."""
    assert one.every_days
    return one.every_days < rule.every_days or one.every_days > rule.kind.every_days


def _seen(kind: TaskKind, last: date, going_on: GoingOn) -> list[tuple[date, str]]:
    """Due at once by a sign seen since it was last done."""
    return [
        (going_on[key], f"{one.why}, {day_words(going_on[key])}")
        for one in kind.stirred
        if one.every_days is None
        for key in sorted(one.on & going_on.keys())
        if going_on[key] > last
    ]


def _by_uses(uses: Uses, last: date, done: Done, today: date) -> list[tuple[date, str]]:
    """Due after a number of uses: on the day of the last, at the rate so far."""
    used = [day for day, entry in done.get(uses.task, ()) if not entry.skipped and day > last]
    words = f"after {uses.most} uses, {len(used)} so far"
    if len(used) >= uses.most:
        return [(max(used[uses.most - 1], last + timedelta(days=1)), words)]
    if len(used) < 2:
        return []
    rate = (used[-1] - last).days / len(used)
    return [(later(used[-1], rate * (uses.most - len(used))), words)]


def _by_finding(measured: Measured, rule: Rule, own: Dated, last: date, done: Done) -> list[tuple[date, str]]:
    """Due by observations: full again, at the limit, or adding up to it."""
    limit = rule.limit if rule.limit is not None else measured.limit
    unit = found_kinds()[measured.finding].unit
    measurements = [
        (day, value)
        for day, entry in done.get(measured.task, ())
        if (value := number_found(entry.found, measured.finding)) is not None
    ]
    if limit is None or not measurements:
        return []
    most = f"{show_number(limit, found_kinds()[measured.finding].digits)} {unit}"
    match measured.how:
        case Measure.FILLS:
            return _fills(measurements, own, limit, most) if own else []
        case Measure.REACHES:
            day, value = measurements[-1]
            name = found_kinds()[measured.finding].name
            return [(day, f"{name}: {show_number(value, 1)} {unit}")] if value >= limit and day > last else []
        case Measure.ADDS_UP:
            return _adds_up([pair for pair in measurements if pair[0] > last], last, limit, most)
        case Measure.FALLS:
            fall = flow_fall([entry for _, entry in own], [pair for pair in measurements if pair[0] > last])
            lost = f"the flow has fallen by {show_number(fall.percent, 0)} % since it was last done" if fall else ""
            return [(fall.day, lost)] if fall and fall.percent >= limit else []


@dataclass(frozen=True)
class FlowFall:
    """The loss of a flow since the last service: L/h after it and now, and the day it was measured."""

    after: float
    now: float
    day: date

    @property
    def percent(self) -> float:
        """The loss in percent of the flow after the service."""
        return 100 * (self.after - self.now) / self.after


def flow_fall(services: Sequence[Care], measured: Sequence[tuple[date, float]]) -> FlowFall | None:
    """The loss of flow since the last service with a measurement; None where either was not measured."""
    after_service = [value for entry in services if (value := number_found(entry.found, "flow_after"))]
    return FlowFall(after_service[-1], measured[-1][1], measured[-1][0]) if after_service and measured else None


FILLS_REMEMBERED = 4


def _fills(measurements: Sequence[tuple[date, float]], own: Dated, limit: float, most: str) -> list[tuple[date, str]]:
    """Due at the rate it filled the last few times: each observation over the days since the time before."""
    days = [day for day, entry in own if not entry.skipped]
    spans = [(value, (day - max((d for d in days if d < day), default=day)).days) for day, value in measurements]
    known = [(value, span) for value, span in spans[-FILLS_REMEMBERED:] if span > 0 and value > 0]
    if not known:
        return []
    rate = sum(value for value, _ in known) / sum(span for _, span in known)
    return [(later(own[-1][0], max(1.0, limit / rate)), f"it fills to {most} by then")]


def _adds_up(measurements: Sequence[tuple[date, float]], last: date, limit: float, most: str) -> list[tuple[date, str]]:
    """Due when it adds up to the limit, at the rate since it was last done."""
    total = 0.0
    for day, value in measurements:
        total += value
        if total >= limit:
            return [(day, f"{most} are reached")]
    span = (measurements[-1][0] - last).days if measurements else 0
    if not total or not span:
        return []
    return [(later(last, limit / (total / span)), f"{most} by then, as it goes")]
