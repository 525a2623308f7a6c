"""A container as shown: what is left, what its pump delivers, its events, and what it must never be mixed with."""

from collections.abc import Sequence

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.planning.container import Container, ContainerEvent
from salttide.core.planning.container_words import (
    URGENT_DAYS,
    container_event_words,
    days_words,
    delivered_words,
    pump_words,
    refill_words,
    set_words,
)
from salttide.core.planning.delivery import contents, delivery_of, diagnosis, refill_days
from salttide.core.science.amount import contents_text
from salttide.core.science.recipe import cautions_of

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


def container_shown(ctx: Context, one: Container, held: Sequence[Container]) -> ContainerShown:
    """A container as it is."""
    zone, found, delivery = ctx.keeper.zone, contents(one, ctx.now), delivery_of(one, ctx.now)
    wrong = diagnosis(one, held, ctx.now, zone)
    refill = refill_days(one, ctx.now)
    left = found.ml if found else 0.0
    return ContainerShown(
        id=one.id, name=one.name, pump=one.pump, set_name=one.set_name,
        holds=f"{one.additive.formula}, {show_number(one.additive.strength_g_l or 0, 0)} g/L",
        capacity=contents_text(one.capacity_ml),
        left=f"{contents_text(left)} ± {contents_text(found.sd_ml)}" if found else phrase('container.never_filled'),
        filled=one.filled(left),
        expected=one.filled(found.expected_ml) if found else 0.0,
        days=days_words(found.days if found else None),
        refill=refill_words(refill, ctx.today),
        urgent=refill is not None and refill <= URGENT_DAYS,
        set_words=set_words(one, one.set_at(ctx.now)),
        delivered=delivered_words(delivery, zone),
        wrong=DiagnosisShown(title=wrong.title, reason=wrong.reason, steps=list(wrong.steps)) if wrong else None,
        pump_words=pump_words(one, ctx.now, zone),
        capacity_ml=one.capacity_ml,
        set_ml=one.set_at(ctx.now),
        cautions=list(cautions_of(one.additive.formula)),
        history=[_event(ctx, event) for event in one.events[:-13:-1]],
        level_sd_ml=one.level_sd_ml,
        step_ml=one.step_ml,
        additive_id=one.additive.id,
    )  # fmt: skip


def _event(ctx: Context, event: ContainerEvent) -> ContainerEventShown:
    words = f"{moment_words(event.at, ctx.keeper.zone)}: {container_event_words(event)}"
    return ContainerEventShown(id=event.id, words=words)
