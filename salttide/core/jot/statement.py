"""The statements of a recording line: readings, doses, changes, top-offs, feeds, tasks, events, animals."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, tzinfo

from ..basics.errors import InputError
from ..basics.phrasing import capital, either
from ..basics.quantities import Kind
from ..estimate.forecast import foreseen
from ..ledger.bench import Row, examine, usual_instruments
from ..ledger.bench_row import Instrument
from ..ledger.entries import Care, Change, Dose, Entry, Evaporation, Feed, Harvest, Ledger, Reading, TopOff
from ..planning.done_change import change_entries
from ..planning.work_order import routine_change
from ..science.additives import COMPOUNDS
from ..science.amount import mass_text
from ..science.food import Food, bound, brought
from ..science.limewater import limewater_strength_meq_l
from ..science.mix import SaltMix
from ..science.parameters import FACTS, Parameter
from ..science.solutions import calcium_per_meq_mg
from ..science.units import in_keepers_units, show, unit_of
from ..system.additive_amount import grams_in, rises, too_much
from ..system.catalogue import event_kinds
from ..system.inspection import Event
from ..system.livestock import StockChange, turned
from ..system.shelf import Additive
from ..system.system import System
from ..upkeep.rota import WATER_CHANGE
from ..upkeep.task import tasks
from .answer import PARAMETER_WORDS, JotContext, litres
from .implausible import MUCH_ANIMALS, MUCH_HARVEST_G_L, MUCH_TOP_OFF, much_food, much_water
from .reader import JotError, Reader, spelled

Recordable = Reading | Change | Dose | Care | TopOff | Evaporation | Feed | Harvest | Event


@dataclass(frozen=True)
class RecordContext:
    """What a recording line is read with: the keeper's writing, the systems with their ledgers, the shelf, the
    moment."""

    jot: JotContext = field(default_factory=JotContext)
    now: datetime = datetime(2000, 1, 1, tzinfo=UTC)
    zone: tzinfo = UTC
    ledgers: Mapping[int, Ledger] = field(default_factory=dict)
    instruments: tuple[Instrument, ...] = ()
    additives: tuple[Additive, ...] = ()
    foods: tuple[Food, ...] = ()


@dataclass(frozen=True)
class Item:
    """One part understood: in words, as a ledger entry (a count of animals has none), with doubts. turn: changes an
    animal's number · also: other entries of the same act, as a water change is a care task too.
    """

    words: str
    event: Recordable | None
    doubts: tuple[str, ...] = ()
    turn: tuple[int, StockChange, int] | None = None
    also: tuple[Entry, ...] = ()


Build = Callable[[System, datetime], Item]
Statement = Callable[[Reader, RecordContext], Build]


def statement(reader: Reader) -> Statement:
    """The next statement, by its first words."""
    parameter = reader.choose(PARAMETER_WORDS, "a parameter and its value, such as alk 7.9")
    if parameter is not None:
        return lambda r, c: _reading(r, c, parameter)
    said = {phrase: kind for kind in tasks().values() for phrase in kind.aliases}
    task = reader.choose(said, "a task that was done")
    if task is not None:
        return lambda r, _: _task(r, task.key, task.name, task.minutes)
    verb = reader.choose(_VERBS, "dosed, change, topped off, fed")
    if verb is not None:
        return verb
    turn = reader.choose(_TURNS, "lost, added, born or counted")
    if turn is not None:
        return lambda r, c: _animal(r, c, turn)
    known = {phrase: kind for kind in event_kinds().values() for phrase in kind.aliases}
    happened = reader.choose(known, "something that happened")
    if happened is not None:
        return lambda _, __: lambda _system, at: Item(capital(happened.name), Event(at, happened))
    return reader.fail()


def _reading(reader: Reader, context: RecordContext, parameter: Parameter) -> Build:
    at_number = reader.at
    if reader.number(f"a number of {parameter.value}") is None:
        reader.fail()
    text = reader.tokens[at_number].text
    typed = reader.unit_of(parameter)
    unit = typed or unit_of(parameter, context.jot.units)

    def build(system: System, at: datetime) -> Item:
        ledger = context.ledgers.get(system.id, Ledger(system.volume_l))
        instrument = usual_instruments(ledger, context.instruments, [parameter])[parameter]
        row = Row(parameter, text, unit.key, instrument)
        units, zone, sign = context.jot.units, context.zone, context.jot.habits.sign
        (seen,) = examine([row], system, ledger, context.instruments, foreseen, at, units, zone, sign)
        if seen.error or seen.reading is None:
            token = reader.tokens[at_number]
            error = in_keepers_units(seen.error or InputError("expected a number"), context.jot.units)
            raise JotError(error.message, token.start, token.end, error.accepted)
        shown = show(parameter, seen.reading.value, context.jot.units)
        parts_said = [
            f"{FACTS[parameter].name} {shown}",
            seen.reading.how or instrument,
            seen.verdict.words if seen.verdict else "",
        ]
        return Item(", ".join(part for part in parts_said if part), seen.reading, seen.doubts)

    return build


def _dose(reader: Reader, context: RecordContext) -> Build:
    start = reader.at
    amount = reader.number("how much, such as 40 ml or 3 g")
    if amount is None:
        reader.fail()
    unit = reader.ordinary_unit(Kind.VOLUME) or reader.ordinary_unit(Kind.MASS)
    if unit is None:
        reader.fail()
    reader.at = start
    size = _above_nothing(reader, start, reader.quantity(unit[0]))
    by_volume = unit[0] == Kind.VOLUME
    additive = reader.choose(_additives(context.additives, by_volume), "an additive from the Shelf")
    if additive is None:
        reader.fail()
    mass = reader.placed(lambda: grams_in(additive, size, by_volume), start)

    def build(system: System, at: datetime) -> Item:
        raised = rises(additive, mass, system.volume_l)
        amounts = {p: rise * system.volume_l for p, rise in raised.items()}
        measure = f"{context.jot.number(size * 1000, 0)} mL of" if by_volume else mass_text(mass)
        given = f", {mass_text(mass)} {additive.formula}" if by_volume else ""
        event = Dose(at, additive.name, mass, amounts)
        return Item(f"Dose: {measure} {additive.name}{given}", event, too_much(system, raised, context.jot.units))

    return build


def _above_nothing(reader: Reader, at: int, size: float | None) -> float:
    """A size above zero, or an error at the word."""
    if size is None:
        reader.fail()
    if size <= 0:
        token = reader.tokens[at]
        raise JotError("enter an amount above 0", token.start, token.end, "a number above 0")
    return size


def _additives(known: Sequence[Additive], by_volume: bool) -> dict[str, Additive]:
    """The additives that may be meant: solutions by volume; by weight dry ones, and any compound by name or formula."""
    if by_volume:
        scooped = [one for one in known if one.bulk_density_g_ml]
        solutions = [one for one in known if one.strength_g_l is not None]
        return spelled((one.name, one) for one in scooped) | spelled((one.name, one) for one in solutions)
    dry = [one for one in known if one.strength_g_l is None]
    compounds = {
        word: Additive(0, compound.name, compound.formula)
        for compound in COMPOUNDS.values()
        for word in (compound.name, compound.formula.lower())
    }
    return {**compounds, **spelled((one.name, one) for one in dry)}


def _change(reader: Reader, context: RecordContext) -> Build:
    start = reader.at
    volume = _above_nothing(reader, start, reader.quantity(Kind.VOLUME))
    salt, source = _new_water(reader, context)

    def build(system: System, at: datetime) -> Item:
        _holds(reader, context, start, volume, system)
        words, incoming = _water_words(context, system, salt, source, at)
        largest = system.methods.largest_fraction * system.volume_l
        large = f"More than your method's largest change, {litres(largest, context.jot)}. Is it right?"
        minutes = tasks()[WATER_CHANGE].minutes
        change, care = change_entries(at, volume, incoming, minutes, source=source.id if source else 0)
        doubts = (large,) if volume > largest * 1.001 else ()
        return Item(f"Water change of {litres(volume, context.jot)}{words}", change, doubts, also=(care,))

    return build


def _refill(reader: Reader, context: RecordContext) -> Build:
    """A refill with new water after an earlier drain: nothing goes out with it."""
    start = reader.at
    volume = _above_nothing(reader, start, reader.quantity(Kind.VOLUME))
    salt, source = _new_water(reader, context)

    def build(system: System, at: datetime) -> Item:
        _holds(reader, context, start, volume, system)
        words, incoming = _water_words(context, system, salt, source, at)
        missing = context.ledgers[system.id].missing_at(at) if system.id in context.ledgers else 0.0
        more = f"Only {litres(missing, context.jot)} are missing there. Is it right?"
        change = Change(at, 0.0, volume, incoming, source=source.id if source else 0)
        doubts = (more,) if volume > missing * 1.1 + 1 else ()
        return Item(f"Refilled with {litres(volume, context.jot)}{words}", change, doubts)

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


def _holds(reader: Reader, context: RecordContext, start: int, volume: float, system: System) -> None:
    if volume > system.volume_l:
        token = reader.tokens[start]
        most = litres(system.volume_l, context.jot)
        raise JotError(f"{system.name} holds {most}", token.start, token.end, f"up to {most}")


def _water_words(
    context: RecordContext, system: System, salt: SaltMix | None, source: System | None, at: datetime
) -> tuple[str, dict[Parameter, float]]:
    """The new water in words, and what it holds."""
    if source:
        return f" with water of {source.name}", {}
    if salt is None:
        return "", {}
    incoming = dict(routine_change(system, salt, at).incoming)
    return f" with {salt.name} at {show(Parameter.SALINITY, incoming[Parameter.SALINITY], context.jot.units)}", incoming


def _other_system(reader: Reader, context: RecordContext) -> System:
    """The system whose water is taken."""
    found = reader.choose({each.name.lower(): each for each in context.jot.systems}, "a system that is set up")
    return found if found is not None else reader.fail()


LIME_TEMPERATURE_C = 22.0
"""Limewater is made and kept at about room temperature."""


def _top_off(reader: Reader, context: RecordContext) -> Build:
    volume = _part_of_a_system(reader, context, "a top-off")
    reader.may("of")
    lime = bool(reader.may("limewater", "kalkwasser"))
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
        words = f"Top-off: {litres(litres_, context.jot)} of {what}"
        return Item(words, TopOff(at, litres_, holds=holds), much_water(system, litres_, MUCH_TOP_OFF, context.jot))

    return build


def _evaporation(reader: Reader, context: RecordContext) -> Build:
    volume = _part_of_a_system(reader, context, "what evaporates")

    def build(system: System, at: datetime) -> Item:
        gone = volume(system)
        words = f"Evaporated and not topped off: {litres(gone, context.jot)}"
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
            most = litres(system.volume_l / 2, context.jot)
            raise JotError(f"that is not {what} of {system.name}", token.start, token.end, f"up to {most}")
        return volume

    return of


def _harvest(reader: Reader, context: RecordContext) -> Build:
    start = reader.at
    mass = _above_nothing(reader, start, reader.quantity(Kind.MASS))
    reader.may("of")
    reader.may("macroalgae", "algae")
    held = reader.placed(lambda: bound(mass), start)
    words = f"Harvested {mass_text(mass)} of macroalgae"

    def build(system: System, at: datetime) -> Item:
        much = f"That is more than {system.name} grows between harvests. Is it right?"
        doubts = (much,) if mass > MUCH_HARVEST_G_L * system.volume_l else ()
        return Item(words, Harvest(at, "macroalgae", mass, {p: float(mg) for p, mg in held.items()}), doubts)

    return build


def _feed(reader: Reader, context: RecordContext) -> Build:
    start = reader.at
    number = reader.number("how many portions")
    portions = 1.0 if number is None else _above_nothing(reader, start, number)
    reader.may("portions of", "portion of", "portions", "portion")
    food = reader.choose(spelled(((food.name, food) for food in context.foods), any_word=True), "a food on the Shelf")
    if food is None:
        reader.fail()
    held = reader.placed(lambda: brought(food, portions), start)

    def build(system: System, at: datetime) -> Item:
        weight = portions * food.portion_g
        count = f"{context.jot.digits(portions, 3)} portion{'' if portions == 1 else 's'}"
        words = f"Fed {count} of {food.name}, {mass_text(weight)}"
        feed = Feed(at, food.name, portions, weight, {p: float(mg) for p, mg in held.items()})
        feeds = context.ledgers[system.id].feeds if system.id in context.ledgers else ()
        return Item(words, feed, much_food(feeds, food.name, portions, context.jot))

    return build


def _task(reader: Reader, key: str, name: str, usual: float) -> Build:
    start = reader.at
    minutes = reader.quantity(Kind.TIME) if not reader.done and reader.tokens[start].text[:1].isdigit() else None
    if minutes is not None and reader.may("ago"):
        reader.at, minutes = start, None
    if key == WATER_CHANGE:
        token = reader.tokens[reader.at - 1]
        raise JotError("how many litres were changed?", token.end, token.end, "such as change 40 l")
    long = "More than five hours of work. Is it right?"
    doubts = (long,) if minutes is not None and minutes > 300 else ()
    return lambda _, at: Item(f"Done: {name.lower()}", Care(at, key, usual if minutes is None else minutes), doubts)


def _animal(reader: Reader, context: RecordContext, turn: StockChange) -> Build:
    start = reader.at
    number = reader.number("how many")
    choices = {
        name: animal.name
        for system in context.jot.systems
        for name, animal in spelled(((one.name, one) for one in system.animals), any_word=True).items()
    }
    at_name = reader.at
    named = reader.choose(choices, "an animal that lives in a system")
    if named is None:
        reader.fail()

    def build(system: System, at: datetime) -> Item:
        animal = next((one for one in system.animals if one.name == named), None)
        if animal is None:
            token = reader.tokens[at_name]
            names = either([one.name for one in system.animals])
            raise JotError(f"no {named} lives in {system.name}", token.start, token.end, names)
        count = 1 if number is None else int(number)
        if number is not None and count != number:
            token = reader.tokens[start]
            raise JotError("animals are counted whole", token.start, token.end, "a whole number")
        after = reader.placed(lambda: turned(animal.count, turn, count), min(start, at_name))
        kind = _TURN_HAPPENS.get(turn)
        event = Event(at, event_kinds()[kind], f"{count} {animal.name}") if kind else None
        many = f"{count} at once, where there were {animal.count}. Is it right?"
        doubts = (many,) if count > max(MUCH_ANIMALS, 2 * animal.count) else ()
        return Item(f"{count} {animal.name} {turn}, {after} now", event, doubts, turn=(animal.id, turn, count))

    return build


_VERBS: Mapping[str, Statement] = {
    "dosed": _dose, "dose": _dose, "gave": _dose, "change": _change, "changed": _change, "water change": _change,
    "refilled": _refill, "refill": _refill,
    "topped off": _top_off, "topped up": _top_off, "top-off": _top_off, "top off": _top_off, "topoff": _top_off,
    "fed": _feed, "feed": _feed, "evaporated": _evaporation, "harvested": _harvest, "harvest": _harvest,
}  # fmt: skip
_TURNS: Mapping[str, StockChange] = {
    "lost": StockChange.LOST, "added": StockChange.ADDED, "born": StockChange.BORN,
    "counted": StockChange.COUNTED, "gave away": StockChange.GIVEN,
}  # fmt: skip
_TURN_HAPPENS: Mapping[StockChange, str] = {
    StockChange.ADDED: "stock_added",
    StockChange.BORN: "stock_born",
    StockChange.LOST: "stock_lost",
}
