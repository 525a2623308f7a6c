"""Scheduling: which day each piece of work gets, within the minutes of the days and the rules on what may share a day.
Work that goes together is tied into bundles first; then the bundles are placed, by the solver or the search. Both keep
fixed days and what must be kept apart, and both leave placed work where it is unless there is cause to move it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date, timedelta

from .scheduling_model import (
    LATE_COST,
    Bundle,
    Days,
    Demand,
    Method,
    Schedule,
)
from .scheduling_solver import solve

LEFT_DAYS = 3
"""Days of freedom a bundle keeps whatever joins it, where it had them: heavy work stays movable (judgement)."""
AFTER_COST, EARLY_COST, JOINED_SHARE = 1.2, 0.8, 0.25
"""The cost of a day after or before the due day; for work that joins other work, a share of it (judgement)."""
MOVED_COST, MOVED_DAY_COST = 6.0, 0.5
"""The cost of moving work from where it stood (judgement)."""


BEHIND = 10.0
"""While missed work is caught up on, a day past the latest costs so many times a further day of what is overdue
(judgement): a change whose window ends on a full Friday waits for Saturday too."""
LATE_SPAN = 7
"""Days past its latest that work may be put where nothing else is left."""


def place(
    demands: Sequence[Demand],
    days: Days,
    method: Method | None = None,
    from_scratch: bool = False,
    relieve: bool = True,
) -> Schedule:
    """Place all work. What stands where it may is left there, unless its day is overfull and `relieve` is set, or with
    `from_scratch`. Work beyond the last day is left out. By the solver if it answers in time, else by the search (see
    `scheduling_search`, `scheduling_solver`).
    """
    method = method or solve
    wanted = [replace(each, before=None) if from_scratch else each for each in demands if _in_reach(each, days)]
    bundles = bundle_up(wanted, days)
    held, free = ({}, dict(enumerate(bundles))) if from_scratch else _held(bundles, days, relieve)
    rest = [replace(bundles[i], days={day: 0.0}) for i, day in held.items()] + list(free.values())
    found, solved = method(rest, days)
    order = [*held, *free]
    chosen = {order[i]: day for i, day in found.items()}
    return Schedule(
        {each.ref: chosen[i] for i, bundle in enumerate(bundles) for each in bundle.work},
        {each.ref: bundle for bundle in bundles for each in bundle.work},
        solved,
    )


def _in_reach(demand: Demand, days: Days) -> bool:
    return (demand.fixed or demand.earliest) <= days.last and (demand.fixed is None or demand.fixed >= days.first)


def _held(bundles: Sequence[Bundle], days: Days, relieve: bool) -> tuple[dict[int, date], dict[int, Bundle]]:
    """What stays where it stood, and what is placed again: new work, work that may no longer stand there, and with
    `relieve` work on overfull days."""
    stood = {i: day for i, bundle in enumerate(bundles) if (day := _stood(bundle)) is not None}
    load: dict[date, float] = {}
    for i, day in stood.items():
        load[day] = load.get(day, 0.0) + bundles[i].minutes
    full = {day for day, minutes in load.items() if relieve and days.has(day) and minutes > days.room(day)}
    held: dict[int, date] = {}
    for i, day in sorted(stood.items(), key=lambda pair: (len(bundles[pair[0]].days), pair)):
        fixed = len(bundles[i].days) == 1
        clash = any(abs((there - day).days) < bundles[i].gap_to(bundles[other]) for other, there in held.items())
        if fixed or (day not in full and not clash):
            held[i] = day
    if relieve and any(_is_overdue(each, days) for bundle in bundles for each in bundle.work):
        loose = [bundle for i, bundle in enumerate(bundles) if i not in held]
        held = {i: day for i, day in held.items() if len(bundles[i].days) == 1 or not _follows(bundles[i], loose)}
    return held, {i: bundle for i, bundle in enumerate(bundles) if i not in held}


def _is_overdue(demand: Demand, days: Days) -> bool:
    return demand.fixed is None and demand.latest < days.first


def _follows(bundle: Bundle, loose: Sequence[Bundle]) -> bool:
    """Whether a bundle would keep one of others, placed again, from coming near it: after missed days a series moves
    as a whole."""
    return any(other.first < bundle.first and bundle.gap_to(other) > 1 for other in loose)


def _stood(bundle: Bundle) -> date | None:
    """The day on which the bundle stood, as far as it did, if it still may; or its only day. What is new in it goes
    along."""
    if len(bundle.days) == 1:
        return next(iter(bundle.days))
    before = {each.before for each in bundle.work if each.before is not None}
    day = before.pop() if before else None
    return day if not before and day is not None and bundle.days.get(day, LATE_COST) < LATE_COST else None


def bundle_up(demands: Sequence[Demand], days: Days) -> list[Bundle]:
    """Bundle work that goes together, nearest due day first, as long as one day suits all of it."""
    demands = _both_ways(demands)
    anchors = [each for each in demands if not each.joins]
    groups: list[list[Demand]] = [[each] for each in anchors]
    by_task: dict[tuple[int, str], list[list[Demand]]] = {}
    for group in groups:
        by_task.setdefault((group[0].system, group[0].task), []).append(group)
    depth = _depths(demands)
    joining = sorted(
        (each for each in demands if each.joins), key=lambda each: (depth[each.task], each.due, each.ref[:2])
    )
    for each in joining:
        group = _joined(each, by_task, days) or []
        if not group:
            groups.append(group)
        group.append(each)
        by_task.setdefault((each.system, each.task), []).append(group)
    catching_up = any(_is_overdue(each, days) for each in demands)
    return [Bundle(tuple(group), _candidates(group, days, catching_up)) for group in groups]


def _both_ways(demands: Sequence[Demand]) -> list[Demand]:
    """Exclusions made mutual."""
    kept: dict[tuple[int, str], set[str]] = {}
    for each in demands:
        for task in each.apart:
            kept.setdefault((each.system, task), set()).add(each.task)
    return [
        replace(each, apart=each.apart | kept[each.system, each.task]) if (each.system, each.task) in kept else each
        for each in demands
    ]


def _depths(demands: Sequence[Demand]) -> dict[str, int]:
    """How many joins lead from each task to one that joins none: what is joined is bundled before what joins it."""
    joins = {each.task: each.joins for each in demands}
    depth = dict.fromkeys(joins, 0)
    for _ in joins:
        depth = {
            task: min(len(joins), max((depth.get(one, 0) + 1 for one in own), default=0)) for task, own in joins.items()
        }
    return depth


def _joined(demand: Demand, by_task: Mapping[tuple[int, str], list[list[Demand]]], days: Days) -> list[Demand] | None:
    """The group it joins: the nearest in reach, of the first task it goes with that has one, as long as it is not too
    soon after the time before."""
    aim, mine = _aim(demand), by_task.get((demand.system, demand.task), ())
    for task in demand.joins:
        near = sorted(
            by_task.get((demand.system, task), ()),
            key=lambda group: (demand.task not in group[0].calls, abs((_aim(group[0]) - aim).days)),
        )
        far = [group for group in near if all(_days_between(group, other) >= demand.gap for other in mine)]
        if found := next((group for group in far if _may_join(demand, group, days)), None):
            return found
    return None


def _days_between(one: Sequence[Demand], other: Sequence[Demand]) -> int:
    return abs((_aim(one[0]) - _aim(other[0])).days)


def _may_join(demand: Demand, group: Sequence[Demand], days: Days) -> bool:
    """Whether it may share a day with a group, and leaves it enough of them."""
    if any(demand.task == each.task or each.task in demand.apart or demand.task in each.apart for each in group):
        return False
    if any(_hurry(demand, days) != _hurry(each, days) for each in group):
        return False
    if None not in (demand.before, group[0].before) and demand.before != group[0].before:
        return False  # both stand already: neither is moved for the other
    shared, alone = _common([*group, demand], days), _common(group, days)
    if len(shared) < min(LEFT_DAYS, len(_common(group[:1], days))):
        return False
    minutes = sum(each.minutes for each in group)
    if _roomy(alone, minutes, days) and not _roomy(shared, minutes, days):
        return False
    return not days.away.issuperset(shared) or (_all_away(group, days) and _all_away([demand], days))


def _hurry(demand: Demand, days: Days) -> float:
    """What a further day of overdue work costs, 0 where it is not overdue: what cannot wait is not tied to what can."""
    return demand.overdue_cost if demand.latest < days.first else 0.0


def _roomy(some: Sequence[date], minutes: float, days: Days) -> bool:
    """Whether one of some days has room for so many minutes."""
    return any(days.has(day) and days.room(day) >= minutes for day in some)


def _all_away(group: Sequence[Demand], days: Days) -> bool:
    return days.away.issuperset(_common(group, days))


def _aim(demand: Demand) -> date:
    return demand.fixed or demand.before or demand.due


def _common(group: Sequence[Demand], days: Days) -> list[date]:
    """The days that suit the whole group: those the keeper is there, or any where there is none."""
    spans = [_span(each, days, each is not group[0]) for each in group]
    first, last = max(span[0] for span in spans), min(span[1] for span in spans)
    found = [first + timedelta(days=offset) for offset in range((last - first).days + 1)]
    fixed = any(each.fixed for each in group)
    return found if fixed else [day for day in found if day not in days.away] or found


def _span(demand: Demand, days: Days, joining: bool) -> tuple[date, date]:
    """Its first and last day within the planned days; for overdue work, the first day."""
    if demand.fixed is not None:
        return demand.fixed, demand.fixed
    first = max(demand.reach if joining and demand.reach else demand.earliest, days.first)
    return first, min(max(demand.latest, first), days.last)


def _candidates(group: Sequence[Demand], days: Days, catching_up: bool) -> dict[date, float]:
    """The days a group may go on, and the cost of each; with a few days past the latest where something keeps it
    away, or where missed work is caught up on."""
    found = _common(group, days)
    overdue = max(each.latest for each in group) < days.first
    if not any(each.fixed for each in group) and (overdue or catching_up or any(each.apart for each in group)):
        beyond = [found[-1] + timedelta(days=offset) for offset in range(1, LATE_SPAN + 1)]
        found += [day for day in beyond if days.has(day) and day not in days.away]
    return {day: sum(_cost(each, day, days, each is group[0], catching_up) for each in group) for day in found}


def _cost(demand: Demand, day: date, days: Days, first: bool, catching_up: bool) -> float:
    """The cost of a day, in minutes: for being late, off the due day, and off where it stood."""
    off, late = (day - demand.due).days, max(0, (day - demand.latest).days)
    cost = (AFTER_COST * off if off > 0 else -EARLY_COST * off) * (1.0 if first else JOINED_SHARE)
    if demand.latest < days.first:
        cost += demand.overdue_cost * (day - days.first).days
    else:
        cost += (min(LATE_COST, BEHIND * demand.overdue_cost) if catching_up else LATE_COST) * late
    if demand.before is not None and demand.before != day:
        cost += MOVED_COST + MOVED_DAY_COST * abs((day - demand.before).days)
    return cost
