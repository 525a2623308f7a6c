"""The schedule in words: why a piece of work stands where it does, and what does not fit, with what would help."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta

from ..basics.number_text import show_number
from ..basics.phrasing import counted, day_words, listed
from .scheduling_model import OVERDUE_COST, Days, Demand, Ref, Schedule

Name = Callable[[Ref], str]
"""The name of a piece of work."""


@dataclass(frozen=True)
class Shortfall:
    """What does not fit on a day, in words, and what would help. late: it is after its latest day."""

    day: date
    words: str
    helps: str
    refs: tuple[Ref, ...] = ()
    late: bool = False


def why(ref: Ref, placing: Schedule, days: Days, name: Name) -> str:
    """Why work stands on its day and not on its due day."""
    own, day = placing.of(ref), placing.days[ref]
    if own.fixed is not None:
        return "planned for this day" if ref[3] is not None else "you put it on this day"
    if partner := _partner(own, day, placing):
        return f"goes with “{name(partner.ref)}”"
    if day == own.due:
        return "on the day it is due"
    due = day_words(own.due)
    if own.due < days.first:
        return f"it was due on {due}"
    if own.due in days.away and day not in days.away:
        return f"you are away on {due}"
    kept = [each for each in placing.on(own.due) if _apart(own, each)]
    if kept:
        return f"on {due} is “{name(kept[0].ref)}”, which must not share its day"
    return _for_room(own, day, placing, days)


def _partner(own: Demand, day: date, placing: Schedule) -> Demand | None:
    """The work of its system on its day that it goes with, whether it was tied to it or came to stand there."""
    there = {each.task: each for each in placing.on(day) if each.system == own.system and each.ref != own.ref}
    return next((there[task] for task in own.joins if task in there), None)


def _apart(one: Demand, other: Demand) -> bool:
    return one.system == other.system and (other.task in one.apart or one.task in other.apart)


def _for_room(own: Demand, day: date, placing: Schedule, days: Days) -> str:
    """Because of the minutes of the due day, or to share a round."""
    due, there = day_words(own.due), placing.minutes().get(own.due, 0.0)
    room = days.room(own.due) if days.has(own.due) else 0.0
    if there + own.minutes > room:
        return f"{due} has {_minutes(there)} of work already and you have {_minutes(room)}"
    if any(each.system == own.system and each.ref not in _refs(placing, own.ref) for each in placing.on(day)):
        return f"in one round with the other work of this day; due on {due}"
    if there + own.minutes > placing.minutes().get(day, 0.0):
        return f"evens out the week: {due} would have {_minutes(there + own.minutes)}"
    return "left where it was" if own.before == day else f"to keep the days even; due on {due}"


def _refs(placing: Schedule, ref: Ref) -> set[Ref]:
    return {each.ref for each in placing.bundles[ref].work}


def shorts(placing: Schedule, days: Days, name: Name) -> list[Shortfall]:
    """What does not fit, by day: work after its latest day, more work than minutes, work during an absence, and work
    the keeper put together that must be kept apart."""
    found = [_late(ref, day, placing, name) for ref, day in placing.days.items() if day > placing.of(ref).latest]
    for day, minutes in placing.minutes().items():
        work = placing.on(day)
        if day in days.away:
            found.append(_away(day, work, name))
        elif days.has(day) and minutes > days.room(day) + 0.5:
            found.append(_overfull(day, placing, days, name))
        found += _together(day, work, name)
    return sorted((each for each in found if each), key=lambda each: (each.day, each.words))


def _late(ref: Ref, day: date, placing: Schedule, name: Name) -> Shortfall:
    own = placing.of(ref)
    late = counted((day - own.latest).days, "day")
    return Shortfall(
        day, f"{name(ref)}: {late} after its latest day, {day_words(own.latest)}",
        "do it today, or skip it with a reason: the next one counts from then", (ref,), True,
    )  # fmt: skip


def _overfull(day: date, placing: Schedule, days: Days, name: Name) -> Shortfall:
    work = placing.on(day)
    minutes, room = placing.minutes()[day], days.room(day)
    helps = f"give this day {_minutes(minutes - room)} more"
    fixed = [each for each in work if each.fixed is not None]
    if fixed and len(fixed) == len(work):
        helps += f", or move “{name(fixed[0].ref)}”"
    elif found := _movable(day, placing, days):
        each, there = found
        after = counted((there - each.latest).days, "day")
        late = f", {after} after its latest day" if there > each.latest else ""
        helps += f", or move “{name(each.ref)}” ({_minutes(each.minutes)}) to {day_words(there)}{late}"
    words = f"{_minutes(minutes)} of work, and you have {_minutes(room)}"
    return Shortfall(day, words, helps, tuple(each.ref for each in work))


def _movable(day: date, placing: Schedule, days: Days) -> tuple[Demand, date] | None:
    """The work of an overfull day that does least harm later, and the first day after that has room for it; what eases
    the day whole before what does in part. None where nothing that is no danger has such a day."""
    over = placing.minutes()[day] - days.room(day)
    loose = [each for each in placing.on(day) if each.fixed is None and each.overdue_cost <= OVERDUE_COST]
    for each in sorted(loose, key=lambda one: (one.minutes < over, one.overdue_cost, -one.minutes)):
        for there in (day + timedelta(days=offset) for offset in range(1, REACH_DAYS + 1)):
            if _has_room(each, there, placing, days):
                return each, there
    return None


def _has_room(demand: Demand, day: date, placing: Schedule, days: Days) -> bool:
    """Whether work could stand on another day: within its minutes, and apart from what it must be apart from."""
    if not days.has(day) or placing.minutes().get(day, 0.0) + demand.minutes > days.room(day):
        return False
    series = [there for ref, there in placing.days.items() if ref[:2] == demand.ref[:2] and ref != demand.ref]
    near = any(abs((there - day).days) < demand.gap for there in series)
    return not near and not any(_apart(demand, other) for other in placing.on(day))


REACH_DAYS = 14
"""So many days ahead another day is looked for (judgement)."""


def _away(day: date, work: list[Demand], name: Name) -> Shortfall:
    names = listed([f"“{name(each.ref)}”" for each in work[:3]]) + (" and more" if len(work) > 3 else "")
    return Shortfall(
        day, f"you are away, and {names} cannot wait", "leave it to your carer, or do it before you go",
        tuple(each.ref for each in work),
    )  # fmt: skip


def _together(day: date, work: list[Demand], name: Name) -> list[Shortfall]:
    return [
        Shortfall(
            day, f"“{name(one.ref)}” and “{name(other.ref)}” must not share a day", "move one of them",
            (one.ref, other.ref),
        )
        for place, one in enumerate(work)
        for other in work[place + 1 :]
        if _apart(one, other)
    ]  # fmt: skip


def _minutes(minutes: float) -> str:
    return f"{show_number(minutes, 0)} min"
