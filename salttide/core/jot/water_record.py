"""Water of a recording line: changes, refills, top-offs, and what evaporated."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from ..basics.number_text import show_number
from ..basics.quantities import Kind
from ..ledger.entries import Change, Evaporation, TopOff
from ..planning.done_change import change_entries
from ..planning.work_order import routine_change
from ..science.limewater import limewater_strength_meq_l
from ..science.mix import MAX_SALINITY, MIN_SALINITY, SaltMix
from ..science.parameters import FRESH_WATER, Parameter
from ..science.salt_calibration import mixed_water
from ..science.solutions import calcium_per_meq_mg
from ..science.units import show
from ..system.system import System
from ..upkeep.rota import WATER_CHANGE
from ..upkeep.task import tasks
from .answer import litres
from .implausible import MUCH_TOP_OFF, much_water
from .reader import JotError, Reader, spelled
from .recording import Build, Item, RecordContext, above_nothing

Volume = Callable[[System], float]


def amount_of_water(reader: Reader) -> Volume:
    """Litres, or a share of the system; checked once the system is known."""
    reader.may("of")
    start = reader.at
    percent = reader.number("a volume, such as 40 l or 15 %")
    if percent is None:
        reader.fail()
    if reader.may("%", "percent"):
        share = above_nothing(reader, start, percent) / 100
        if share > 1:
            token = reader.tokens[start]
            raise JotError("that is more than all the water", token.start, token.end, "up to 100 %")
        return lambda system: share * system.volume_l
    reader.at = start
    size = above_nothing(reader, start, reader.quantity(Kind.VOLUME))
    return lambda _: size


def record_change(reader: Reader, context: RecordContext, amount: Volume | None = None) -> Build:
    """A water change: litres or a share, with what water. Raises JotError."""
    start = reader.at
    of_system = amount or amount_of_water(reader)
    reader.may("of water", "water")
    if reader.may(*FRESH_WORDS):
        return _fresh(reader, context, start, of_system)
    salt, source = _new_water(reader, context)
    salinity = _mixed_to(reader)

    def build(system: System, at: datetime) -> Item:
        volume = of_system(system)
        _holds(reader, context, start, volume, system)
        words, incoming = _water_words(context, system, salt, source, at, salinity)
        largest = system.methods.largest_fraction * system.volume_l
        large = f"More than your method's largest change, {litres(largest)}. Is it right?"
        minutes = tasks()[WATER_CHANGE].minutes
        change, care = change_entries(at, volume, incoming, minutes, source=source.id if source else 0)
        doubts = (large,) if volume > largest * 1.001 else ()
        return Item(f"Water change of {litres(volume)}{words}", change, doubts, also=(care,))

    return build


FRESH_WORDS = tuple(
    f"{word} {water}" for word in ("with", "for") for water in ("fresh water", "freshwater", "ro water")
)


def _fresh(reader: Reader, context: RecordContext, start: int, of_system: Volume) -> Build:
    """Tank water swapped for fresh water, to lower salinity: no water change by the rota."""

    def build(system: System, at: datetime) -> Item:
        volume = of_system(system)
        _holds(reader, context, start, volume, system)
        return Item(f"Swapped {litres(volume)} for fresh water", Change(at, volume, volume, FRESH_WATER))

    return build


def record_refill(reader: Reader, context: RecordContext) -> Build:
    """A refill with new water after an earlier drain: nothing goes out with it."""
    start = reader.at
    of_system = amount_of_water(reader)
    salt, source = _new_water(reader, context)

    def build(system: System, at: datetime) -> Item:
        volume = of_system(system)
        _holds(reader, context, start, volume, system)
        words, incoming = _water_words(context, system, salt, source, at)
        missing = context.ledgers[system.id].missing_at(at) if system.id in context.ledgers else 0.0
        more = f"Only {litres(missing)} are missing there. Is it right?"
        change = Change(at, 0.0, volume, incoming, source=source.id if source else 0)
        doubts = (more,) if volume > missing * 1.1 + 1 else ()
        return Item(f"Refilled with {litres(volume)}{words}", change, doubts)

    return build


def _new_water(reader: Reader, context: RecordContext) -> tuple[SaltMix | None, System | None]:
    """What the new water was: "with" a salt or "from" another system, not both; else the usual salt."""
    salt, source = None, None
    while True:
        at = reader.at
        if reader.may("with"):
            salt = reader.choose(spelled((each.name, each) for each in context.jot.salts), "a salt on the Shelf")
            if salt is None:
                reader.fail()
        elif reader.may("from", "of"):
            source = _other_system(reader, context)
        else:
            break
        if salt and source:
            token = reader.tokens[at]
            parts_said = "new water is either mixed or another system's: name one"
            raise JotError(parts_said, token.start, token.end, "with a salt, or from a system")
    return salt or next(iter(context.jot.salts), None), source


def _mixed_to(reader: Reader) -> float | None:
    """The salinity (ppt) that the new water was mixed to; None where it is not told. Raises JotError."""
    if not reader.may("mixed to"):
        return None
    start, value = reader.at, reader.number("a salinity, such as 42 ppt")
    if value is None:
        reader.fail()
    reader.may("ppt", "psu")
    if not MIN_SALINITY <= value <= MAX_SALINITY:
        token, range_ = reader.tokens[start], f"{show_number(MIN_SALINITY, 0)} to {show_number(MAX_SALINITY, 0)} ppt"
        raise JotError("new salt water is not mixed to this", token.start, token.end, range_)
    return value


def _holds(reader: Reader, context: RecordContext, start: int, volume: float, system: System) -> None:
    if volume > system.volume_l:
        token = reader.tokens[min(start, len(reader.tokens) - 1)]
        most = litres(system.volume_l)
        raise JotError(f"{system.name} holds {most}", token.start, token.end, f"up to {most}")


def _water_words(
    context: RecordContext, system: System, salt: SaltMix | None, source: System | None, at: datetime,
    salinity: float | None = None,
) -> tuple[str, dict[Parameter, float]]:  # fmt: skip
    """The new water in words, and what it holds; salinity: that it was mixed to, where it was told."""
    if source:
        return f" with water of {source.name}", {}
    if salt is None:
        told = f" with water of {show(Parameter.SALINITY, salinity, context.jot.units)}" if salinity else ""
        return told, {Parameter.SALINITY: salinity} if salinity else {}
    usual = routine_change(system, salt, at).incoming
    incoming = dict(usual) if salinity is None else mixed_water(salt, salinity)
    return f" with {salt.name} at {show(Parameter.SALINITY, incoming[Parameter.SALINITY], context.jot.units)}", incoming


def _other_system(reader: Reader, context: RecordContext) -> System:
    """The system whose water is taken."""
    found = reader.choose({each.name.lower(): each for each in context.jot.systems}, "a system that is set up")
    return found if found is not None else reader.fail()


LIME_TEMPERATURE_C = 22.0
"""Limewater is made and kept at about room temperature."""


def record_top_off(reader: Reader, context: RecordContext, amount: Volume | None = None) -> Build:
    """A top-off with fresh water, limewater or salt water. Raises JotError."""
    volume = amount or _part_of_a_system(reader, context, "a top-off")
    reader.may("of", "with")
    lime = bool(reader.may("limewater", "kalkwasser", "kalk"))
    if not lime:
        reader.may("fresh water", "freshwater", "ro/di water", "ro/di", "rodi", "ro water", "ro", "water")
    salt = next(iter(context.jot.salts), None) if not lime and reader.may("salt water", "saltwater") else None

    def build(system: System, at: datetime) -> Item:
        litres_ = volume(system)
        what, holds = "fresh water", dict[Parameter, float]()
        if lime:
            strength = float(limewater_strength_meq_l(LIME_TEMPERATURE_C))
            what = "limewater"
            holds = {Parameter.ALKALINITY: strength, Parameter.CALCIUM: strength * float(calcium_per_meq_mg())}
        elif salt:
            holds = dict(routine_change(system, salt, at).incoming)
            what = (
                f"salt water, {salt.name} at {show(Parameter.SALINITY, holds[Parameter.SALINITY], context.jot.units)}"
            )
        words = f"Top-off: {litres(litres_)} of {what}"
        return Item(words, TopOff(at, litres_, holds=holds), much_water(system, litres_, MUCH_TOP_OFF, context.jot))

    return build


def record_evaporation(reader: Reader, context: RecordContext) -> Build:
    """Water that evaporated and was not topped off. Raises JotError."""
    volume = _part_of_a_system(reader, context, "what evaporates")

    def build(system: System, at: datetime) -> Item:
        gone = volume(system)
        words = f"Evaporated and not topped off: {litres(gone)}"
        return Item(words, Evaporation(at, gone), much_water(system, gone, MUCH_TOP_OFF, context.jot))

    return build


def _part_of_a_system(reader: Reader, context: RecordContext, what: str) -> Callable[[System], float]:
    """A volume of up to half a system, checked once the system is known."""
    start = reader.at
    volume = reader.quantity(Kind.VOLUME)
    if volume is None:
        reader.fail()

    def of(system: System) -> float:
        if not 0 < volume <= system.volume_l / 2:
            token = reader.tokens[start]
            most = litres(system.volume_l / 2)
            raise JotError(f"that is not {what} of {system.name}", token.start, token.end, f"up to {most}")
        return volume

    return of
