"""What is said of a container: how long it lasts, what its pump delivers, its events, and what must never meet."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime
from zoneinfo import ZoneInfo

from ..basics.dates import later
from ..basics.number_text import percent, show_number
from ..basics.phrases import phrase
from ..basics.phrasing import capital, counted, day_words, moment_words
from ..estimate.dose_times import nearest_minutes
from ..science.amount import contents_text
from ..science.dosing import SEPARATION_MINUTES
from ..science.recipe import never_meet
from .container import (
    TUBE_DAYS,
    Container,
    ContainerEvent,
    ContainerKind,
    calibration_late_days,
    flow_drift_percent,
    tube_days,
)
from .delivery import Delivery

URGENT_DAYS = 3
"""A refill due within so many days is urgent (judgement)."""


def pairs_at_odds(held: Sequence[Container]) -> list[tuple[Container, Container, str]]:
    """Containers whose contents must never be mixed, with the reason."""
    return [
        (one, other, why)
        for place, one in enumerate(held)
        for other in held[place + 1 :]
        if (why := never_meet(one.additive.formula, other.additive.formula))
    ]


def pair_words(one: Container, other: Container, why: str, now: datetime) -> str:
    """That two must never be mixed, and how far apart their doses are."""
    slots = [setting.slots if (setting := each.setting_at(now)) else () for each in (one, other)]
    near = nearest_minutes(*slots) if all(slots) else None
    gap = ""
    if near is not None:
        gap = phrase("container.their_doses_are_apart", minutes=counted(near, "minute")) + (
            "." if near >= SEPARATION_MINUTES else phrase("container.at_least_are_needed", least=SEPARATION_MINUTES)
        )
    return phrase("container.and_must_never_meet", one=capital(one.name), other=other.name, why=why, gap=gap)


def days_words(days: float | None) -> str:
    """How long the contents last; None where nothing is drawn."""
    return (
        phrase("container.nothing_is_drawn")
        if days is None
        else phrase("container.days_left", days=show_number(days, 0))
    )


def refill_words(days: float | None, today: date) -> str:
    """When to refill; empty where nothing is drawn."""
    if days is None:
        return ""
    day = later(today, days)
    return (
        phrase("container.refill_by", day=day_words(day))
        if days > 0
        else phrase("container.refill_today_only_the_reserve_is")
    )


def set_words(one: Container, ml: float) -> str:
    """What is set a day, by pump or by hand."""
    if not ml:
        return phrase("container.not_set")
    how = f"by {one.pump}" if one.pump else phrase("container.by_hand")
    return phrase("container.ml_a_day", ml=show_number(ml, 1), how=how)


def delivered_words(delivery: Delivery | None, zone: ZoneInfo) -> str:
    """The share of the set amount that came; what to do where it is not known."""
    if delivery is None:
        return phrase("container.read_its_level_in_a_week")
    since = moment_words(delivery.since, zone)
    share, sd = (show_number(percent(each), 0) for each in (delivery.share, delivery.sd))
    return phrase("container.of_the_set_amount_delivered_since", share=share, sd=sd, since=since)


def pump_words(one: Container, now: datetime, zone: ZoneInfo) -> list[str]:
    """Calibration, drift and tube, as far as they are known."""
    if not one.pump:
        return []
    words = []
    known = one.of(ContainerKind.CALIBRATED)
    if known:
        days = calibration_late_days(one, now)
        late = phrase("container.overdue", days=counted(days, "day")) if days else ""
        flow = show_number(known[-1].ml, 1)
        words.append(phrase("container.calibrated_ml_min", day=moment_words(known[-1].at, zone), flow=flow, late=late))
    else:
        words.append(phrase("container.never_calibrated_catch_a_minute"))
    drift = flow_drift_percent(one)
    if drift is not None:
        words.append(phrase("container.flow_in_days", drift=show_number(drift, 1)))
    age_days = tube_days(one, now)
    if age_days is not None:
        old = phrase("container.replace_it") if age_days > TUBE_DAYS else ""
        words.append(phrase("container.tube_months_old", months=show_number(age_days / 30.4, 0), old=old))
    return words


def container_event_words(event: ContainerEvent) -> str:
    """What happened to it, in a few words."""
    match event.kind:
        case ContainerKind.FILLED:
            return phrase("container.filled_to", ml=contents_text(event.ml))
        case ContainerKind.LEVEL:
            return phrase("container_shown.level", ml=contents_text(event.ml))
        case ContainerKind.SET:
            return phrase("container.set_to_ml_a_day", ml=show_number(event.ml, 1))
        case ContainerKind.CALIBRATED:
            return phrase("container.calibrated_ml_min_2", ml=show_number(event.ml, 1))
    return phrase("container.new_tube")
