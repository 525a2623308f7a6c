"""The hand-over to a visiting carer: tasks by visit, portions laid out beforehand, limits, and what to do when
something is wrong."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta, tzinfo
from functools import cache
from itertools import pairwise
from statistics import median
from typing import Any

from ..basics.dates import later
from ..basics.errors import InputError
from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import counted, day_words, listed
from ..estimate.evaporation import evaporation_l
from ..ledger.entries import Care, Dose, Entry, Feed, Ledger, TopOff
from ..ledger.plan import DailyDose
from ..planning.container import Container
from ..planning.delivery import refill_days
from ..runbook.outage import outage
from ..science.amount import mass_text
from ..science.parameters import Parameter
from ..science.units import UnitChoice, show
from ..system.catalogue import data_file, gear_kinds, reading_data
from ..system.system import System
from ..upkeep.due import Done, Rule, done_of, first_due
from ..upkeep.rota import Occurrence

FEEDS_REMEMBERED = timedelta(days=14)
GAPS_REMEMBERED = 7
HALVES = 2
"""Portions are laid out in halves."""
WATCHED = (Parameter.TEMPERATURE, Parameter.SALINITY)
"""What a carer may be asked to read off (judgement)."""


@dataclass(frozen=True)
class HandOverRequest:
    """The settings of a hand-over: the carer comes every 1 to 7 days; who it is, whom to call, and notes for all and
    for single systems by number."""

    every_days: int = 1
    carer: str = ""
    phone: str = ""
    other_phone: str = ""
    note: str = ""
    notes: Mapping[int, str] = field(default_factory=dict)


def check_hand_over(request: HandOverRequest) -> HandOverRequest:
    """Refuse impossible settings at their field. A number to call is required: without one no stop rule helps."""
    if not 1 <= request.every_days <= 7:
        raise InputError("every 1 to 7 days", field="every_days", accepted="1 to 7 days")
    if not 3 <= len(request.phone.strip()) <= 40:
        raise InputError("a number that reaches you, or who can decide", field="phone", accepted="3 to 40 characters")
    return request


@dataclass(frozen=True)
class VisitWork:
    """One thing to do on a visit: how, and how much of what was laid out. key: `task:…`, `feed:…`, `top_off`, `dose:…`
    · amount: litres, portions or g, by what it is."""

    key: str
    name: str
    how: str
    laid_out: str = ""
    amount: float = 0.0


@dataclass(frozen=True)
class Visit:
    """A day on which the carer comes, and what is done then."""

    day: date
    work: tuple[VisitWork, ...]


@dataclass(frozen=True)
class Guard:
    """A rule for when something is wrong: what to do first, and whether to call at once. everywhere: the same for all
    systems."""

    key: str
    when: str
    do: str
    call: bool
    gear: tuple[str, ...] = ()
    sump: bool = False
    everywhere: bool = False


@dataclass(frozen=True)
class HandOver:
    """The sheet of one system. bands: what is watched, and between what · before: what the keeper does before leaving ·
    waits: what waits until they are back."""

    system: System
    visits: tuple[Visit, ...]
    bands: tuple[tuple[Parameter, str], ...]
    guards: tuple[Guard, ...]
    before: tuple[str, ...]
    waits: tuple[str, ...]
    note: str = ""


@cache
def guards() -> tuple[Guard, ...]:
    """All rules for when something is wrong."""
    with reading_data("handover"):
        return tuple(_guard(row) for row in data_file("handover")["guard"])


def _guard(row: Mapping[str, Any]) -> Guard:
    for key in row.get("gear", ()):
        if key not in gear_kinds():
            raise ValueError(f"“{key}” is not a kind of gear")
    return Guard(**{**row, "gear": tuple(row.get("gear", ()))})


def guards_everywhere() -> list[Guard]:
    """The rules that are the same for all systems."""
    return [one for one in guards() if one.everywhere]


@cache
def never() -> tuple[str, ...]:
    """What a carer must never do."""
    with reading_data("handover"):
        return tuple(data_file("handover")["never"])


def visit_days(first: date, last: date, every_days: int) -> list[date]:
    """The days of the visits: the keeper looks after everything until the first day.

    >>> [day.day for day in visit_days(date(2026, 12, 4), date(2026, 12, 8), 2)]
    [5, 7]
    """
    days = (last - first).days + 1
    return [first + timedelta(days=offset) for offset in range(every_days - 1, days, every_days)]


@dataclass(frozen=True)
class Household:
    """What a hand-over needs besides the system: its rules, the rota's work by day, containers, and daily hand
    doses."""

    rules: Sequence[Rule]
    work: Sequence[Occurrence] = ()
    containers: Sequence[Container] = ()
    by_hand: Sequence[DailyDose] = ()


def hand_over(
    system: System,
    ledger: Ledger,
    known: Household,
    request: HandOverRequest,
    first: date,
    last: date,
    now: datetime,
    zone: tzinfo,
    units: UnitChoice,
) -> HandOver:
    """The sheet of a system for the days from `first` to `last`."""
    days = visit_days(first, last, request.every_days)
    tasks = _carer_tasks(known.rules, ledger.care, days, first, last, zone)
    daily = [*(_feeding(ledger, now) or _as_noted(system)), *_dosing(known.by_hand)]
    visits = []
    for place, day in enumerate(days):
        since = (day - (days[place - 1] if place else first - timedelta(days=1))).days
        visits.append(Visit(day, (*daily, *_topping(system, ledger, now, since), *tasks.get(day, ()))))
    bands = tuple(
        (p, f"{show(p, band.low, units)} to {show(p, band.high, units)}")
        for p in WATCHED
        if (band := system.bands.get(p))
    )
    return HandOver(
        system,
        tuple(visits),
        bands,
        _guards_of(system, ledger, units),
        tuple(_before(system, known, visits, request, first, last, now, zone)),
        tuple(_waits(known.work, first, last)),
        request.notes.get(system.id, ""),
    )


def _carer_tasks(
    rules: Sequence[Rule], care: Sequence[Care], days: Sequence[date], first: date, last: date, zone: tzinfo
) -> dict[date, list[VisitWork]]:
    """Tasks a carer can do, on the last visit by which each is due; before the first visit the keeper does it."""
    done = done_of(care, zone)
    found: dict[date, list[VisitWork]] = {}
    for rule in (rule for rule in rules if rule.kind.carer):
        every = _rate(rule, done, first)
        due = first - timedelta(days=1) + timedelta(days=every)
        work = VisitWork(f"task:{rule.kind.key}", rule.kind.name, rule.kind.carer, _laid_out(rule, care))
        while due <= last and days:
            day = max((each for each in days if each <= due), default=days[0])
            if work not in found.setdefault(day, []):
                found[day].append(work)
            due = later(due, every)
    return found


def _rate(rule: Rule, done: Done, today: date) -> int:
    """The interval in days: by its rule, and for what fills up no longer than it took so far."""
    own = [day for day, entry in done.get(rule.kind.key, ()) if not entry.skipped]
    if not own:
        return rule.every_days
    every = max(1, (first_due(rule, done, {}, today).day - own[-1]).days)
    gaps = [(later - earlier).days for earlier, later in pairwise(own[-GAPS_REMEMBERED:]) if later > earlier]
    return min(every, int(median(gaps))) if gaps and "litres_added" in rule.kind.records else every


def _laid_out(rule: Rule, care: Sequence[Care]) -> str:
    """The usual amount, from the last times; empty where not measured."""
    if "litres_added" not in rule.kind.records:
        return ""
    litres = [float(e.found["litres_added"]) for e in care if e.task == rule.kind.key and "litres_added" in e.found]
    return f"about {litres_words(litres[-1], 0)}" if litres else ""


def _feeding(ledger: Ledger, now: datetime) -> list[VisitWork]:
    """Each food as on a usual day, in half portions, and never more for days without a visit."""
    lately = [feed for feed in ledger.feeds if now - FEEDS_REMEMBERED <= feed.at <= now]
    found = []
    for food in dict.fromkeys(feed.food for feed in lately):
        a_day = sum(feed.portions for feed in lately if feed.food == food) / FEEDS_REMEMBERED.days
        portions = max(1, round(a_day * HALVES)) / HALVES
        size = f"{show_number(portions, 1 if portions % 1 else 0)} {'portion' if portions == 1 else 'portions'}"
        how = "One laid-out bag, thawed or as it is, over some minutes; what they leave is too much."
        found.append(VisitWork(f"feed:{food}", f"Feed {food}", how, size, portions))
    return found


def _as_noted(system: System) -> list[VisitWork]:
    """For animals without recorded food, the keeper's note says what they get."""
    how = "What the note says, and no more: what they leave is too much."
    return [VisitWork("feed", "Feed", how, "as the note says")] if system.animals else []


def _dosing(by_hand: Sequence[DailyDose]) -> list[VisitWork]:
    return [
        VisitWork(
            f"dose:{dose.additive}",
            f"Dose {dose.additive}",
            "One prepared cup, slowly into strong flow; where one was missed, not two.",
            f"{mass_text(dose.mass_g)}, dissolved",
            dose.mass_g,
        )
        for dose in by_hand
    ]


def _topping(system: System, ledger: Ledger, now: datetime, days: int) -> list[VisitWork]:
    """Fresh water for what evaporated since the last visit, where that is done by hand."""
    if system.methods.answers.get("top_off") != "by_hand":
        return []
    litres = round(evaporation_l(ledger, now) * days, 1)
    how = "Purified fresh water, slowly, up to the mark and not over it."
    return [VisitWork("top_off", "Top off", how, f"about {litres_words(litres)}", litres)] if litres else []


def _guards_of(system: System, ledger: Ledger, units: UnitChoice) -> tuple[Guard, ...]:
    last = max((r for r in ledger.readings if r.parameter == Parameter.TEMPERATURE), key=lambda r: r.at, default=None)
    band = system.bands.get(Parameter.TEMPERATURE)
    slots = {"cool": outage(system, last.value if last else None, units).words}
    if band:
        slots |= {
            key: show(Parameter.TEMPERATURE, value, units) for key, value in (("high", band.high), ("low", band.low))
        }
    sump = bool(system.geometry.sump_l or system.geometry.sump)
    return tuple(
        Guard(one.key, one.when.format(**slots), one.do.format(**slots), one.call)
        for one in guards()
        if not one.everywhere
        and (not one.gear or not set(one.gear).isdisjoint(system.gear))
        and (sump or not one.sump)
        and (band or one.key not in ("hot", "cold"))
    )


def _before(
    system: System,
    known: Household,
    visits: Sequence[Visit],
    request: HandOverRequest,
    first: date,
    last: date,
    now: datetime,
    zone: tzinfo,
) -> list[str]:
    """What to do before leaving."""
    lines = _portions(visits)
    own = [rule.kind.name for rule in known.rules if rule.kind.carer]
    lines += [f"On {day_words(first - timedelta(days=1))}: {listed(own)}"] if own else []
    for container in known.containers:
        left = refill_days(container, now)
        ends = None if left is None else later(now, left).astimezone(zone).date()
        if ends is not None and ends <= last:
            lines.append(
                f"Fill {container.name}: it lasts until {day_words(ends)}, you are back after {day_words(last)}"
            )
    if system.animals and not request.notes.get(system.id) and any(w.key == "feed" for v in visits for w in v.work):
        lines.append("No food is recorded: say in the note what they get, and how much")
    early = [item.title for item in known.work if _before_leaving(item, first, last)]
    if early:
        lines.append(f"Late when you are back, so better before: {listed(early)}")
    hungry = [animal.name for animal in system.animals if animal.portions > 0]
    if hungry and request.every_days > 1:
        lines.append(f"{', '.join(hungry)} must eat every day: ask for a visit every day")
    return lines


def _portions(visits: Sequence[Visit]) -> list[str]:
    """What to measure and lay out, counted over all visits."""
    lines = []
    for key in dict.fromkeys(work.key for visit in visits for work in visit.work if work.amount):
        works = [work for visit in visits for work in visit.work if work.key == key]
        amounts = dict.fromkeys(work.laid_out for work in works)
        amounts_text = " and ".join(f"{sum(w.laid_out == one for w in works)} times {one}" for one in amounts)
        lines.append(f"Lay out for “{works[0].name}”: {amounts_text}, each with its day")
    return lines


def _waits(work: Sequence[Occurrence], first: date, last: date) -> list[str]:
    """Work due in these days that a carer cannot do."""
    return [
        f"{item.title} (until {day_words(item.latest)})"
        for item in work
        if not _of_carer(item) and first <= item.earliest and item.latest <= last
    ]


def _before_leaving(item: Occurrence, first: date, last: date) -> bool:
    return not _of_carer(item) and first <= item.latest <= last and item.earliest < first


def _of_carer(item: Occurrence) -> bool:
    return item.kind is not None and bool(item.kind.carer)


def entries_done(
    done: Sequence[VisitWork], ledger: Ledger, by_hand: Sequence[DailyDose], at: datetime, minutes: Mapping[str, float]
) -> list[Entry]:
    """What was done on a visit, as entries of the ledger. minutes: the usual ones by task."""
    found: list[Entry] = []
    for work in done:
        what, _, key = work.key.partition(":")
        if what == "task":
            found.append(Care(at, key, minutes.get(key, 1.0)))
        elif what == "top_off":
            found.append(TopOff(at, work.amount))
        elif what == "feed":
            found += _fed(ledger, key, work.amount, at)
        elif what == "dose":
            dose = next((one for one in by_hand if one.additive == key), None)
            if dose:
                found.append(Dose(at, key, dose.mass_g, dose.amounts, True))
    return found


def _fed(ledger: Ledger, food: str, portions: float, at: datetime) -> list[Feed]:
    """A feed of some portions, with what the last feed of the same food added per portion; nothing where none is
    known."""
    last = next((feed for feed in reversed(ledger.feeds) if feed.food == food and feed.portions), None)
    if last is None:
        return []
    share = portions / last.portions
    brought = {parameter: mg * share for parameter, mg in last.brought.items()}
    return [Feed(at, food, portions, last.grams * share, brought)]


def visits_words(count: int, every_days: int) -> str:
    """How often the carer comes.

    >>> visits_words(4, 2)
    '4 visits, every 2 days'
    """
    often = "every day" if every_days == 1 else f"every {every_days} days"
    return f"{counted(count, 'visit')}, {often}" if count else "no visit: you are back before one is due"
