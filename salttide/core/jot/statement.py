"""The statements of a recording line: readings, doses, changes, top-offs, feeds, tasks, events, animals."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from ..basics.errors import InputError
from ..basics.phrasing import capital, either
from ..basics.quantities import Kind
from ..estimate.forecast import foreseen
from ..ledger.bench import Row, examine, usual_instruments
from ..ledger.entries import Care, Feed, Harvest, Ledger
from ..science.amount import mass_text
from ..science.food import Food, bound, brought
from ..science.parameters import FACTS, Parameter
from ..science.units import in_keepers_units, show, unit_named, unit_of
from ..system.catalogue import event_kinds
from ..system.inspection import Event
from ..system.livestock import StockChange, turned
from ..system.observations import found_words
from ..system.system import System
from ..upkeep.rota import WATER_CHANGE
from ..upkeep.task import TaskKind, tasks
from .answer import PARAMETER_WORDS
from .dose_record import record_dose
from .implausible import MUCH_ANIMALS, MUCH_HARVEST_G_L, much_food
from .observations import read_observations
from .reader import JotError, Reader, spelled
from .recording import Build, Item, RecordContext, Statement, above_nothing
from .water_record import amount_of_water, record_change, record_evaporation, record_refill, record_top_off

LEADS = (
    "i", "we", "just", "have", "did", "made", "took", "done", "tested", "measured", "checked", "read", "got", "today's",
)  # fmt: skip
"""Words that may come before what was done and say nothing of their own."""


WANTED = ("a result such as alk 7.9", "what was done, such as change 40 l, or a task")


def statement(reader: Reader) -> Statement:
    """The next statement, by its first words; where they are none, what would be is remembered as expected."""
    found = reader.quietly(lambda: _begun(reader))
    if found is None and (reader.may(*LEADS) or reader.may("a", "an", "the")):
        return statement(reader)
    if found is None:
        reader.expect(*WANTED)
        reader.fail()
    return found


def _begun(reader: Reader) -> Statement | None:
    """What begins with the next words; an amount of water may come first."""
    if reader.take("sg"):
        return lambda r, c: _reading(r, c, Parameter.SALINITY, "sg")
    parameter = reader.choose(PARAMETER_WORDS, "a parameter")
    if parameter is not None:
        return lambda r, c: _reading(r, c, parameter)
    if _of_litres(reader):
        return _amount_first
    task = reader.choose({phrase: kind for kind in tasks().values() for phrase in _names(kind)}, "a task")
    if task is not None:
        return lambda r, c: _task(r, task)
    verb = reader.choose(_VERBS, "dosed, change, topped off, fed")
    if verb is not None:
        return verb
    turn = reader.choose(_TURNS, "lost, added, born or counted")
    if turn is not None:
        return lambda r, c: _animal(r, c, turn)
    known = {phrase: kind for kind in event_kinds().values() for phrase in kind.aliases}
    happened = reader.choose(known, "something that happened")
    if happened is None:
        return None
    return lambda _, __: lambda _system, at: Item(capital(happened.name), Event(at, happened))


def _names(kind: TaskKind) -> tuple[str, ...]:
    """What a task is called; a water change needs its litres and is no task by itself."""
    return () if kind.key == WATER_CHANGE else (*kind.aliases, kind.name.lower())


def _of_litres(reader: Reader) -> bool:
    """Whether an amount of water comes first: "40 l water change", "15 % change"."""
    start = reader.at
    amount = reader.quietly(lambda: reader.number())
    water = amount is not None and (
        reader.may("%", "percent") or reader.quietly(lambda: reader.ordinary_unit(Kind.VOLUME))
    )
    reader.at = start
    return bool(water)


def _amount_first(reader: Reader, context: RecordContext) -> Build:
    """ "40 l water change", "3 l top-off"."""
    volume = amount_of_water(reader)
    if reader.take("water change", "change", "wc", "waterchange"):
        return record_change(reader, context, volume)
    reader.need("top-off", "top off", "topoff", "top-up", "top up")
    return record_top_off(reader, context, volume)


def _reading(reader: Reader, context: RecordContext, parameter: Parameter, unit_first: str = "") -> Build:
    reader.may("is", "was", "=", "at", "reads")
    below = "<" if reader.may("<", "≤", "below", "under", "less than") else ""
    at_number = reader.at
    if reader.number(f"a number of {parameter.value}") is None:
        reader.fail()
    text = below + " ".join(token.text for token in reader.tokens[at_number : reader.at])
    typed = unit_named(parameter, unit_first) if unit_first else reader.unit_of(parameter)
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


def _harvest(reader: Reader, context: RecordContext) -> Build:
    start = reader.at
    mass = above_nothing(reader, start, reader.quantity(Kind.MASS))
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
    reader.may("the fish", "fish")
    number = reader.number("how many portions")
    typed = None if number is None else above_nothing(reader, start, number)
    reader.may("portions of", "portion of", "portions", "portion")
    named = reader.choose(spelled(((food.name, food) for food in context.foods), any_word=True), "a food on the Shelf")
    if named is None and not reader.done and reader.tokens[reader.at].text.lower() not in _AFTER_A_PART:
        reader.fail()

    def build(system: System, at: datetime) -> Item:
        food, portions = _fed(reader, context, system, named, typed)
        held = reader.placed(lambda: brought(food, portions), start)
        weight = portions * food.portion_g
        count = f"{context.jot.digits(portions, 3)} portion{'' if portions == 1 else 's'}"
        words = f"Fed {count} of {food.name}, {mass_text(weight)}"
        feed = Feed(at, food.name, portions, weight, {p: float(mg) for p, mg in held.items()})
        feeds = context.ledgers[system.id].feeds if system.id in context.ledgers else ()
        return Item(words, feed, much_food(feeds, food.name, portions, context.jot))

    return build


_AFTER_A_PART = ("and", "in", "into", "for", "note", "at", "on", "last", "today", "yesterday", "this")
"""What may follow a part that names nothing."""


def _fed(
    reader: Reader, context: RecordContext, system: System, named: Food | None, typed: float | None
) -> tuple[Food, float]:
    """The food and the portions: as typed, else as last given there, else the only food on the Shelf."""
    last = next(iter(reversed(context.ledgers[system.id].feeds)), None) if system.id in context.ledgers else None
    usual = next((food for food in context.foods if last and food.name == last.food), None)
    food = named or usual or (context.foods[0] if len(context.foods) == 1 else None)
    if food is None:
        end = len(reader.text.rstrip())
        foods = either([each.name for each in context.foods]) or "a food on the Shelf"
        raise JotError("fed what?", end, end, foods)
    as_usual = last.portions if last and last.food == food.name and named is None else 1.0
    return food, as_usual if typed is None else typed


def _task(reader: Reader, kind: TaskKind) -> Build:
    start, key, usual = reader.at, kind.key, kind.minutes
    minutes = reader.quantity(Kind.TIME) if not reader.done and reader.tokens[start].text[:1].isdigit() else None
    if minutes is not None and reader.may("ago"):
        reader.at, minutes = start, None
    found = read_observations(reader, kind)
    long = "More than five hours of work. Is it right?"
    doubts = (long,) if minutes is not None and minutes > 300 else ()
    words = ", ".join([f"Done: {kind.name.lower()}", *found_words(found)])
    return lambda _, at: Item(words, Care(at, key, usual if minutes is None else minutes, found=found), doubts)


def _animal(reader: Reader, context: RecordContext, turn: StockChange) -> Build:
    start = reader.at
    number = reader.number("how many")
    if turn == StockChange.ADDED and number is not None and reader.quietly(reader.ordinary_unit):
        reader.at = start
        return record_dose(reader, context)
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
            lives = either([each.name for each in context.jot.systems if named in [one.name for one in each.animals]])
            said = f"no {named} lives in {system.name}, but one does in {lives}: name the system first"
            raise JotError(said, token.start, token.end, names)
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


_SPOKEN: Mapping[Statement, str] = {
    record_dose: "dosed, dose, gave",
    record_change: "change, changed, water change, wc, waterchange, water changed, swapped",
    record_refill: "refilled, refill",
    record_top_off: "topped off, topped up, top-off, top off, topoff, top-up, top up",
    _feed: "fed, feed",
    record_evaporation: "evaporated",
    _harvest: "harvested, harvest",
}
_VERBS: Mapping[str, Statement] = {verb: act for act, verbs in _SPOKEN.items() for verb in verbs.split(", ")}
_TURNS: Mapping[str, StockChange] = {
    "lost": StockChange.LOST, "died": StockChange.LOST, "added": StockChange.ADDED, "born": StockChange.BORN,
    "counted": StockChange.COUNTED, "gave away": StockChange.GIVEN,
}  # fmt: skip
_TURN_HAPPENS: Mapping[StockChange, str] = {
    StockChange.ADDED: "stock_added",
    StockChange.BORN: "stock_born",
    StockChange.LOST: "stock_lost",
}
