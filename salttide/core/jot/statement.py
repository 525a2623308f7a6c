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
from ..science.units import in_keepers_units, show, unit_named, unit_of
from ..system.additive_amount import grams_in, rises, too_much
from ..system.catalogue import event_kinds
from ..system.inspection import Event
from ..system.livestock import StockChange, turned
from ..system.observations import found_words
from ..system.shelf import Additive
from ..system.system import System
from ..upkeep.rota import WATER_CHANGE
from ..upkeep.task import TaskKind, tasks
from .answer import ADDITIVE_WORDS, PARAMETER_WORDS, JotContext, litres
from .implausible import MUCH_ANIMALS, MUCH_HARVEST_G_L, MUCH_TOP_OFF, much_food, much_water
from .observations import read_observations
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
    volume = _amount_of_water(reader)
    if reader.take("water change", "change", "wc", "waterchange"):
        return _change(reader, context, volume)
    reader.need("top-off", "top off", "topoff", "top-up", "top up")
    return _top_off(reader, context, volume)


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


def _dose(reader: Reader, context: RecordContext) -> Build:
    start, first = reader.at, None
    if not reader.done and not reader.tokens[start].text[:1].isdecimal():
        first = reader.quietly(lambda: reader.choose(_every_additive(context.additives), "an additive from the Shelf"))
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
    reader.may("of")
    additive = first or reader.choose(_additives(context.additives, by_volume), "an additive from the Shelf")
    if additive is None:
        reader.fail()
    if by_volume and additive.strength_g_l is None and not additive.bulk_density_g_ml:
        token = reader.tokens[start]
        raise JotError(
            f"weigh {additive.name}: how many grams?", token.start, token.end, f"such as 4 g {additive.name}"
        )
    mass = reader.placed(lambda: grams_in(additive, size, by_volume), start)

    def build(system: System, at: datetime) -> Item:
        raised = rises(additive, mass, system.volume_l)
        amounts = {p: rise * system.volume_l for p, rise in raised.items()}
        measure = f"{context.jot.number(size * 1000, 0)} mL of" if by_volume else mass_text(mass)
        given = f", {mass_text(mass)} {additive.formula}" if by_volume else ""
        event = Dose(at, additive.name, mass, amounts)
        scooped = (f"A scoop is only a rough measure: {mass_text(mass)} of {additive.name}. Is it right?",)
        loose = scooped if by_volume and not additive.id else ()
        doubts = (*loose, *too_much(system, raised, context.jot.units))
        return Item(f"Dose: {measure} {additive.name}{given}", event, doubts)

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
    dry = [one for one in known if one.strength_g_l is None]
    if by_volume:
        solutions = [one for one in known if one.strength_g_l is not None]
        by_name = spelled((one.name, one) for one in dry) | spelled((one.name, one) for one in solutions)
        return {**_by_formula([LIME, *dry, *solutions]), **by_name}
    compounds = {
        word: Additive(0, compound.name, compound.formula)
        for compound in COMPOUNDS.values()
        for word in (compound.name, compound.formula.lower())
    }
    return {**compounds, **_by_formula([LIME, *dry]), **spelled((one.name, one) for one in dry)}


def _by_formula(known: Sequence[Additive]) -> dict[str, Additive]:
    """Additives by what keepers call their compound, later ones before earlier ones."""
    by_formula = {one.formula: one for one in known}
    return {word: by_formula[formula] for word, formula in ADDITIVE_WORDS.items() if formula in by_formula}


def _every_additive(known: Sequence[Additive]) -> dict[str, Additive]:
    return {**_by_formula([LIME, *known]), **spelled((one.name, one) for one in known)}


LIME = Additive(0, "calcium hydroxide", "Ca(OH)2", bulk_density_g_ml=0.55)
"""Dry limewater powder (kalkwasser), where the Shelf has none. Source: loose hydrated lime weighs 0.48 to 0.64 g/mL."""


Volume = Callable[[System], float]


def _amount_of_water(reader: Reader) -> Volume:
    """Litres, or a share of the system; checked once the system is known."""
    reader.may("of")
    start = reader.at
    percent = reader.number("a volume, such as 40 l or 15 %")
    if percent is None:
        reader.fail()
    if reader.may("%", "percent"):
        share = _above_nothing(reader, start, percent) / 100
        if share > 1:
            token = reader.tokens[start]
            raise JotError("that is more than all the water", token.start, token.end, "up to 100 %")
        return lambda system: share * system.volume_l
    reader.at = start
    size = _above_nothing(reader, start, reader.quantity(Kind.VOLUME))
    return lambda _: size


def _change(reader: Reader, context: RecordContext, amount: Volume | None = None) -> Build:
    start = reader.at
    of_system = amount or _amount_of_water(reader)
    reader.may("of water", "water")
    salt, source = _new_water(reader, context)

    def build(system: System, at: datetime) -> Item:
        volume = of_system(system)
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
    of_system = _amount_of_water(reader)
    salt, source = _new_water(reader, context)

    def build(system: System, at: datetime) -> Item:
        volume = of_system(system)
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
        token = reader.tokens[min(start, len(reader.tokens) - 1)]
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


def _top_off(reader: Reader, context: RecordContext, amount: Volume | None = None) -> Build:
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
    reader.may("the fish", "fish")
    number = reader.number("how many portions")
    typed = None if number is None else _above_nothing(reader, start, number)
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
        return _dose(reader, context)
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


_VERBS: Mapping[str, Statement] = {
    "dosed": _dose, "dose": _dose, "gave": _dose, "change": _change, "changed": _change, "water change": _change,
    "wc": _change, "waterchange": _change, "water changed": _change, "swapped": _change,
    "refilled": _refill, "refill": _refill, "top-up": _top_off, "top up": _top_off,
    "topped off": _top_off, "topped up": _top_off, "top-off": _top_off, "top off": _top_off, "topoff": _top_off,
    "fed": _feed, "feed": _feed, "evaporated": _evaporation, "harvested": _harvest, "harvest": _harvest,
}  # fmt: skip
_TURNS: Mapping[str, StockChange] = {
    "lost": StockChange.LOST, "died": StockChange.LOST, "added": StockChange.ADDED, "born": StockChange.BORN,
    "counted": StockChange.COUNTED, "gave away": StockChange.GIVEN,
}  # fmt: skip
_TURN_HAPPENS: Mapping[StockChange, str] = {
    StockChange.ADDED: "stock_added",
    StockChange.BORN: "stock_born",
    StockChange.LOST: "stock_lost",
}
