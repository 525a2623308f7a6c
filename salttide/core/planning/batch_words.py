"""What is said of a batch: its line in a list, its events, its label, and what it shows of its salt."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from zoneinfo import ZoneInfo

from ..basics.dates import later
from ..basics.measures import litres_words, weight_words
from ..basics.number_text import show_number
from ..basics.phrases import phrase
from ..basics.phrasing import date_words
from ..science.amount import mass_text
from ..science.parameters import FACTS, Parameter, spoken
from ..science.salts import strength_from_batches
from ..science.units import UnitChoice, show
from .batch import MEASURED, BatchEvent, BatchKind, BatchState, BatchWorkOrder, Phase, keeps_of
from .batch_plan import Portion


def batch_words(job: BatchWorkOrder, state: BatchState, units: UnitChoice) -> str:
    """A batch in a few words: what is planned, or how much there is and its salinity."""
    if state.phase == Phase.PLANNED:
        aim = show(Parameter.SALINITY, job.salinity, units)
        return phrase("batch.l_of_to", litres=litres_words(job.litres), salt=job.salt.name, aim=aim)
    salinity = state.holds.get(Parameter.SALINITY)
    known = "measured" if Parameter.SALINITY in state.measured else "expected"
    held = f", {show(Parameter.SALINITY, salinity, units)} {known}" if salinity is not None else ""
    return f"{litres_words(state.litres)}{held}"


def event_words(job: BatchWorkOrder, event: BatchEvent, systems: Mapping[int, str], units: UnitChoice) -> str:
    """What happened to a batch. systems: names by number."""
    litres, grams = litres_words(event.amount), weight_words(event.amount, 3)
    match event.kind:
        case BatchKind.SALTED:
            return phrase("batch.g_in", amount=grams, salt=job.salt.name, water=litres_words(job.litres))
        case BatchKind.RESTING:
            return phrase("batch.all_dissolved_resting")
        case BatchKind.MEASURED:
            return ", ".join(f"{spoken(p)} {show(p, value, units)}" for p, value in event.values.items())
        case BatchKind.SALT:
            return phrase("batch.g_salt_added", amount=grams)
        case BatchKind.FRESH:
            return phrase("batch.fresh_water_added", litres=litres)
        case BatchKind.DOSED:
            return phrase("batch.stirred_in", amount=mass_text(event.amount), item=event.item)
        case BatchKind.OUT:
            return phrase("batch.removed", litres=litres)
        case BatchKind.MATCHED:
            return phrase("batch.matched_and_covered")
        case BatchKind.USED:
            name = systems.get(event.system_id, phrase("batch.something_else"))
            return phrase("batch.used_for", litres=litres, system=name)
    return phrase("batch.poured_away", litres=litres)


def portion_words(portion: Portion) -> str:
    """What one system takes of a batch."""
    fresh = phrase("batch.and_l_fresh_water", fresh_l=litres_words(portion.fresh_l)) if portion.fresh_l else ""
    return f"{portion.name}: {litres_words(portion.batch_l)}{fresh}"


def strength_words(job: BatchWorkOrder, events: Sequence[BatchEvent]) -> str:
    """The salt's strength as this batch's first measurement shows it; empty where anything else went in before."""
    mass, salinity = 0.0, None
    for event in events:
        if event.kind == BatchKind.SALTED:
            mass = event.amount
        elif event.kind == BatchKind.MEASURED:
            salinity = salinity or event.values.get(Parameter.SALINITY)
        elif event.kind not in (BatchKind.RESTING, BatchKind.MATCHED) and salinity is None:
            return ""
    if not mass or salinity is None or not 10 <= salinity <= 45:
        return ""
    learned = strength_from_batches([(mass, job.litres, salinity)])
    strength, sd = show_number(learned.strength_g_l, 1), show_number(learned.sd, 1)
    return phrase(
        "batch.came_out_at_it_was_planned",
        salt=job.salt.name,
        measured=phrase("batch.g_l_for_ppt", strength_g_l=strength, sd=sd),
        planned=show_number(job.salt.strength_g_l, 1),
    )


def batch_label(
    job: BatchWorkOrder, state: BatchState, portions: Sequence[Portion], units: UnitChoice, zone: ZoneInfo
) -> list[tuple[str, str]]:
    """What is written on the container, line by line: its name, and its value."""
    lines = [("Salt", job.salt.name)]
    if state.mixed_at:
        mixed = state.mixed_at.astimezone(zone).date()
        again = date_words(later(mixed, keeps_of(state.holds)))
        lines += [("Mixed", date_words(mixed)), (phrase("batch.measure_again_from"), again)]
    lines.append(("Volume", litres_words(state.litres or job.litres)))
    measured = [(p, state.holds[p]) for p in MEASURED if p in state.measured and p in state.holds]
    lines += [(FACTS[p].name, show(p, value, units)) for p, value in measured]
    return lines + [("For", portion_words(portion)) for portion in portions]
