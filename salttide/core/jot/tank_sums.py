"""Sums at the tank: a change by purpose, the mark on the glass, minutes to drain, a share of a system, a box."""

from __future__ import annotations

from ..basics.errors import check_range
from ..basics.measures import length_words, litres_words, measure_words
from ..basics.phrasing import counted
from ..basics.quantities import Kind, to_canonical
from ..science.conversion import convert
from ..science.dosing import DAILY_LIMITS
from ..science.draining import bucket_count, drain_minutes, fall_cm
from ..science.geometry import box_volume_l
from ..science.parameters import spoken
from ..science.sizing import LARGEST_FRACTION, NO_LIMIT, SizedChange, Sizing, size_changes
from ..science.units import Unit
from ..system.system import System
from ..system.volume import display_chamber
from .answer import (
    PARAMETER_WORDS,
    Answer,
    JotContext,
    in_unit,
    litres,
    measured,
    system_named,
    volume_in,
    volume_units,
    where,
)
from .reader import Reader

SPACING_DAYS = 2


def change(reader: Reader, context: JotContext) -> Answer:
    """ "change to bring no3 from 30 to 10 with 2 in beacon": size, number and spacing under the limits."""
    reader.need("bring", "move")
    return _brought(reader, context)


def lower(reader: Reader, context: JotContext) -> Answer:
    """ "lower no3 30 to 10 in beacon": the same by water changes."""
    return _brought(reader, context)


def _brought(reader: Reader, context: JotContext) -> Answer:
    parameter = reader.choose(PARAMETER_WORDS, "a parameter, such as no3 or salinity")
    if parameter is None:
        reader.fail()
    reader.take("from")
    start = reader.at
    before, unit = measured(reader, context, parameter)
    reader.need("to")
    target, _ = measured(reader, context, parameter)
    new = measured(reader, context, parameter)[0] if reader.take("with") else 0.0
    volume, system = (None, None) if reader.done and context.current is None else volume_in(reader, context)
    largest = system.methods.largest_fraction if system else LARGEST_FRACTION
    limit = system.limit(parameter) if system else DAILY_LIMITS.get(parameter, NO_LIMIT)
    water, incoming = {parameter: before}, {parameter: new}
    sizing = reader.placed(
        lambda: size_changes(parameter, water, target, incoming, volume or 100.0, largest, SPACING_DAYS, limit=limit),
        start,
    )
    levels = " to ".join(in_unit(level, unit, context) for level in (before, target))
    words = f"{spoken(parameter)} from {levels} with new water of {in_unit(new, unit, context)}"
    words += ", as shares of the volume" if volume is None else f" in {where(volume, system, context)}"
    return _sized(sizing, unit, volume, words, context)


def _sized(sizing: Sizing, unit: Unit, volume: float | None, words: str, context: JotContext) -> Answer:
    sizes = [_size(each.fraction, None if volume is None else each.litres, context) for each in sizing.changes]
    steps = [_step(each, size, unit, context) for each, size in zip(sizing.changes, sizes, strict=True)]
    count = len(steps)
    text = counted(count, "change") + (f" of {sizes[0]}" if sizes else "")
    more = [f"and {counted(count - 8, 'more change')}"] if count > 8 else []
    working = tuple(step for each in sizing.changes for step in each.working)
    return Answer(words, float(count), "changes", text, (*steps[:8], *more, *_apart(count)), (), working)


def _step(change: SizedChange, size: str, unit: Unit, context: JotContext) -> str:
    before, after = (in_unit(level, unit, context) for level in (change.before, change.after))
    return f"day {change.after_days + 1}: {size}, {before} to {after}"


def _apart(count: int) -> list[str]:
    if count < 2:
        return []
    return [f"{SPACING_DAYS} days apart; test before each: what the system makes meanwhile comes on top."]


def _size(fraction: float, volume: float | None, context: JotContext) -> str:
    percent = f"{context.number(fraction * 100, 0)} %"
    return percent if volume is None else f"{litres(volume)} ({percent})"


def mark(reader: Reader, context: JotContext) -> Answer:
    """ "mark for 40 l in beacon": how far the level falls, and how many buckets."""
    start = reader.at
    volume = reader.quantity(Kind.VOLUME)
    if volume is None:
        reader.fail()
    return _marked(reader, context, volume, start, "")


def share(reader: Reader, context: JotContext) -> Answer:
    """ "12 % of beacon": litres, mark and buckets."""
    start = reader.at
    percent = reader.number()
    reader.need("%")
    whole, system = volume_in(reader, context)
    volume = whole * reader.placed(lambda: _percent(percent or 0.0), start) / 100
    shown = f"{context.number(percent or 0.0, 1)} % of {where(whole, system, context)}"
    if system is None:
        return Answer(shown, volume, "L", litres(volume))
    drop = reader.placed(lambda: fall_cm(display_chamber(system.geometry), volume), start)
    return Answer(shown, volume, "L", litres(volume), _mark_notes(volume, float(drop), system, context), (),
                  drop.working)  # fmt: skip


def _percent(value: float) -> float:
    return check_range("share", value, "%", 0, 100)


def _marked(reader: Reader, context: JotContext, volume: float, start: int, note: str) -> Answer:
    reader.take("in", "of")
    system = system_named(reader, context) if not reader.done else context.current
    if system is None:
        reader.fail()
    drop = reader.placed(lambda: fall_cm(display_chamber(system.geometry), volume), start)
    words = f"{litres(volume)} out of {system.name}, from the level with the pumps off"
    return Answer(words, float(drop), "cm", length_words(drop),
                  _mark_notes(volume, float(drop), system, context), (), drop.working)  # fmt: skip


def _mark_notes(volume: float, drop: float, system: System, context: JotContext) -> tuple[str, ...]:
    buckets, rock = bucket_count(volume, system.bucket_l), display_chamber(system.geometry).rock_l
    said = (
        f"{length_words(drop)} down on the glass, {counted(buckets, 'bucket')} of {litres_words(system.bucket_l, 0)}."
    )
    if not system.geometry.measured:
        return (said, "Rough: its dimensions are not entered, so this goes by a typical tank.")
    if not rock:
        return (said,)
    return (said, f"An estimate: the {litres(rock)} that rock displaces are spread evenly over the depth.")


def drain(reader: Reader, context: JotContext) -> Answer:
    """ "drain 40 l of beacon by 16 mm 3 m from 80 cm": minutes by siphon."""
    start = reader.at
    volume = reader.quantity(Kind.VOLUME)
    reader.need("of", "in", "from")
    system = system_named(reader, context)
    reader.need("by")
    bore, length = reader.quantity(Kind.LENGTH), reader.quantity(Kind.LENGTH)
    reader.need("from", "head")
    head = reader.quantity(Kind.LENGTH)
    if volume is None or system is None or bore is None or length is None or head is None:
        reader.fail()
    area = float(display_chamber(system.geometry).surface)
    minutes = reader.placed(lambda: drain_minutes(volume, bore * 10, head, length / 100, area), start)
    hose = (
        f"{measure_words(bore * 10, 'mm', 0)}, {measure_words(length / 100, 'm', 1)}, {length_words(head, 0)} of head"
    )
    words = f"{litres(volume)} of {system.name} through {hose}"
    text = f"about {context.number(minutes, 0)} min"
    return Answer(words, float(minutes), "min", text, (), ("estimate",), minutes.working)


def box(reader: Reader, context: JotContext) -> Answer:
    """ "100 x 50 x 45 cm", "48 x 24 x 20 in in gal": what a box holds."""
    start = reader.at
    sides = [reader.number()]
    for _ in range(2):
        reader.need("x", "×")
        sides.append(reader.number("a side"))
    unit = (reader.ordinary_unit(Kind.LENGTH) or (Kind.LENGTH, "cm"))[1]
    if None in sides:
        reader.fail()
    lengths = [to_canonical(side or 0.0, Kind.LENGTH, unit) for side in sides]
    targets = volume_units(reader, context) if reader.take("in", "to", "as") else ["L"]
    found = reader.placed(lambda: box_volume_l(*lengths), start)
    words = f"box of {' × '.join(length_words(side) for side in lengths)}, inside"
    if targets == ["L"]:
        return Answer(words, float(found), "L", litres(found), (), (), found.working)
    value, *others = (convert(found, "L", target) for target in targets)
    shown = [f"{context.digits(size, 4)} {unit}" for size, unit in zip(others, targets[1:], strict=True)]
    note = f"That is {' or '.join([*shown, litres(found)])}."
    text = f"{context.digits(value, 4)} {targets[0]}"
    return Answer(words, float(value), targets[0], text, (note,), (), (*found.working, *value.working))
