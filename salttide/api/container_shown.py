"""A container as shown: what is left, what its pump delivers, its events, and what it must never be mixed with."""

from collections.abc import Sequence

from salttide.core.basics.dates import later
from salttide.core.basics.number_text import percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, counted, day_words, moment_words
from salttide.core.estimate.dose_times import nearest_minutes
from salttide.core.planning.container import (
    TUBE_DAYS,
    Container,
    ContainerEvent,
    ContainerKind,
    calibration_late_days,
    flow_drift_percent,
    tube_days,
)
from salttide.core.planning.delivery import Delivery, contents, delivery_of, diagnosis, refill_days
from salttide.core.science.amount import contents_text
from salttide.core.science.dosing import SEPARATION_MINUTES
from salttide.core.science.recipe import cautions_of, never_meet

from .context import Context
from .models import Model


class DiagnosisShown(Model):
    """The likely fault, and what to do first."""

    title: str
    reason: str
    steps: list[str]


class ContainerEventShown(Model):
    """Something that happened to a container."""

    id: int
    words: str


class ContainerShown(Model):
    """A container as it is. filled, expected: shares of its capacity."""

    id: int
    name: str
    holds: str
    pump: str
    set_name: str
    capacity: str
    left: str
    filled: float
    expected: float
    days: str
    refill: str
    urgent: bool
    set_words: str
    delivered: str
    wrong: DiagnosisShown | None
    pump_words: list[str]
    capacity_ml: float
    set_ml: float
    cautions: list[str]
    history: list[ContainerEventShown]
    level_sd_ml: float
    step_ml: float
    additive_id: int


def pairs_at_odds(held: Sequence[Container]) -> list[tuple[Container, Container, str]]:
    """Containers whose contents must never be mixed, with the reason."""
    return [
        (one, other, why)
        for place, one in enumerate(held)
        for other in held[place + 1 :]
        if (why := never_meet(one.additive.formula, other.additive.formula))
    ]


def pair_words(ctx: Context, one: Container, other: Container, why: str) -> str:
    """That two must never be mixed, and how far apart their doses are."""
    slots = [setting.slots if (setting := each.setting_at(ctx.now)) else () for each in (one, other)]
    near = nearest_minutes(*slots) if all(slots) else None
    gap = ""
    if near is not None:
        gap = phrase("container.their_doses_are_apart", minutes=counted(near, "minute")) + (
            "." if near >= SEPARATION_MINUTES else phrase("container.at_least_are_needed", least=SEPARATION_MINUTES)
        )
    return phrase("container.and_must_never_meet", one=capital(one.name), other=other.name, why=why, gap=gap)


def container_shown(ctx: Context, one: Container, held: Sequence[Container]) -> ContainerShown:
    """A container as it is."""
    found, delivery = contents(one, ctx.now), delivery_of(one, ctx.now)
    wrong = diagnosis(one, held, ctx.now, ctx.keeper.zone)
    refill = refill_days(one, ctx.now)
    left = found.ml if found else 0.0
    return ContainerShown(
        id=one.id, name=one.name, pump=one.pump, set_name=one.set_name,
        holds=f"{one.additive.formula}, {show_number(one.additive.strength_g_l or 0, 0)} g/L",
        capacity=contents_text(one.capacity_ml),
        left=f"{contents_text(left)} ± {contents_text(found.sd_ml)}" if found else phrase('container.never_filled'),
        filled=one.filled(left),
        expected=one.filled(found.expected_ml) if found else 0.0,
        days=_days_words(found.days if found else None),
        refill=_refill_words(ctx, refill),
        urgent=refill is not None and refill <= 3,
        set_words=_set_words(one, one.set_at(ctx.now)),
        delivered=_delivered(ctx, delivery),
        wrong=DiagnosisShown(title=wrong.title, reason=wrong.reason, steps=list(wrong.steps)) if wrong else None,
        pump_words=_pump_words(ctx, one),
        capacity_ml=one.capacity_ml,
        set_ml=one.set_at(ctx.now),
        cautions=list(cautions_of(one.additive.formula)),
        history=_history(ctx, one),
        level_sd_ml=one.level_sd_ml,
        step_ml=one.step_ml,
        additive_id=one.additive.id,
    )  # fmt: skip


def _history(ctx: Context, one: Container) -> list[ContainerEventShown]:
    """The last dozen events, latest first."""
    return [ContainerEventShown(id=event.id, words=event_words(ctx, event)) for event in reversed(one.events[-12:])]


def _days_words(days: float | None) -> str:
    return (
        phrase("container.nothing_is_drawn")
        if days is None
        else phrase("container.days_left", days=show_number(days, 0))
    )


def _refill_words(ctx: Context, days: float | None) -> str:
    if days is None:
        return ""
    day = later(ctx.today, days)
    return (
        phrase("container.refill_by", day=day_words(day))
        if days > 0
        else phrase("container.refill_today_only_the_reserve_is")
    )


def _set_words(one: Container, ml: float) -> str:
    if not ml:
        return phrase("container.not_set")
    how = f"by {one.pump}" if one.pump else phrase("container.by_hand")
    return phrase("container.ml_a_day", ml=show_number(ml, 1), how=how)


def _delivered(ctx: Context, delivery: Delivery | None) -> str:
    if delivery is None:
        return phrase("container.read_its_level_in_a_week")
    since = moment_words(delivery.since, ctx.keeper.zone)
    share, sd = (show_number(percent(each), 0) for each in (delivery.share, delivery.sd))
    return phrase("container.of_the_set_amount_delivered_since", share=share, sd=sd, since=since)


def _pump_words(ctx: Context, one: Container) -> list[str]:
    """Calibration, drift and tube, as far as they are known."""
    if not one.pump:
        return []
    words = []
    known = one.of(ContainerKind.CALIBRATED)
    if known:
        days = calibration_late_days(one, ctx.now)
        late = phrase("container.overdue", days=counted(days, "day")) if days else ""
        flow = show_number(known[-1].ml, 1)
        words.append(
            phrase("container.calibrated_ml_min", day=moment_words(known[-1].at, ctx.keeper.zone), flow=flow, late=late)
        )
    else:
        words.append(phrase("container.never_calibrated_catch_a_minute"))
    drift = flow_drift_percent(one)
    if drift is not None:
        words.append(phrase("container.flow_in_days", drift=show_number(drift, 1)))
    age_days = tube_days(one, ctx.now)
    if age_days is not None:
        old = phrase("container.replace_it") if age_days > TUBE_DAYS else ""
        words.append(phrase("container.tube_months_old", months=show_number(age_days / 30.4, 0), old=old))
    return words


def event_words(ctx: Context, event: ContainerEvent) -> str:
    """What happened to it, in a few words."""
    said = {
        ContainerKind.FILLED: phrase("container.filled_to", ml=contents_text(event.ml)),
        ContainerKind.LEVEL: phrase("container_shown.level", ml=contents_text(event.ml)),
        ContainerKind.SET: phrase("container.set_to_ml_a_day", ml=show_number(event.ml, 1)),
        ContainerKind.CALIBRATED: phrase("container.calibrated_ml_min_2", ml=show_number(event.ml, 1)),
        ContainerKind.TUBE: phrase("container.new_tube"),
    }[event.kind]
    return f"{moment_words(event.at, ctx.keeper.zone)}: {said}"
