"""What a remedy does to every parameter: before and after, with it and without it, and how likely it ends in band."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from ..estimate.forecast import Course, expect, matters
from ..estimate.rate import Rate
from ..judgement.situation import Situation
from ..ledger.entries import Moving
from ..ledger.plan import Plan
from ..planning.variant import Variant
from ..planning.work_order import WORKING_HOUR, planned_events
from ..science.parameters import Parameter
from .remedy import Remedy, RemedyKind

SHOWN_DAYS = 14
"""How far ahead the effect of a remedy is shown that has no steps of its own, or fewer days of them."""
FED = (Parameter.NITRATE, Parameter.PHOSPHATE)


@dataclass(frozen=True)
class RemedyEffect:
    """A parameter now, at the end with the remedy, and at the same time without it (canonical); chance: the probability
    that it then lies in its band, None without a band."""

    parameter: Parameter
    now: float
    after: float
    without: float
    chance: float | None


def end_of(remedy: Remedy, s: Situation) -> datetime:
    """The moment by which a remedy has done its work: the day after its last step, or two weeks ahead."""
    last = remedy.last_day
    if last is None or remedy.kind in (RemedyKind.DAILY, RemedyKind.FOOD):
        return s.now + timedelta(days=SHOWN_DAYS)
    return datetime.combine(last + timedelta(days=1), WORKING_HOUR, s.zone)


def plan_with(remedy: Remedy, s: Situation) -> Plan:
    """The current plan with the steps and daily doses of a remedy."""
    daily = s.plan.daily if remedy.daily is None else remedy.daily
    ordered = sorted([*s.plan.events, *events_of(remedy, s)], key=lambda event: event.at)
    return Plan(ordered, daily)


def events_of(remedy: Remedy, s: Situation) -> list[Moving]:
    """What the steps of a remedy do to the water."""

    def at(day: date) -> datetime:
        return max(s.now, datetime.combine(day, WORKING_HOUR, s.zone))

    return [event for one in remedy.work for event in planned_events(one.order, at(one.day))]


def with_food(variant: Variant, remedy: Remedy) -> Variant:
    """A way of keeping the water that feeds as a remedy asks for."""
    return replace(variant, food=variant.food * remedy.food_share)


def rates_with(remedy: Remedy, s: Situation) -> dict[Parameter, Rate | None]:
    """The rates with a remedy: less food makes less nitrate and phosphate."""
    if remedy.food_share == 1.0:
        return dict(s.rates)
    return {
        p: replace(rate, per_day=rate.per_day * remedy.food_share) if rate and p in FED and rate.per_day > 0 else rate
        for p, rate in s.rates.items()
    }


def courses_with(remedy: Remedy, s: Situation, end: datetime) -> Mapping[Parameter, Course]:
    """The expected course of each parameter with a remedy, to `end`."""
    return expect(s.ledger, rates_with(remedy, s), plan_with(remedy, s), s.now, end)


def effects(remedy: Remedy, s: Situation) -> list[RemedyEffect]:
    """What a remedy does to every parameter that it moves, its own first."""
    if not remedy.steps:
        return []
    end = end_of(remedy, s)
    found, courses = [], courses_with(remedy, s, end)
    plain = expect(s.ledger, s.rates, s.plan, s.now, end)
    for parameter, course in courses.items():
        point, other = course.points[-1], plain[parameter].points[-1]
        if parameter != remedy.parameter and not matters(parameter, point.value - other.value):
            continue
        band = s.band(parameter)
        chance = point.chance(band) if band else None
        found.append(RemedyEffect(parameter, s.present[parameter].value, point.value, other.value, chance))
    own = remedy.parameter
    if own is not None and own not in courses and remedy.aim is not None and own in s.present:
        now = s.present[own].value
        found.append(RemedyEffect(own, now, remedy.aim, now, None))
    return sorted(found, key=lambda one: one.parameter != own)
