"""Doses of a recording line: "dosed 40 ml soda stock", "dosed soda 3 g", "dosed 2 tsp kalk"."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from ..basics.quantities import Kind
from ..ledger.entries import Dose
from ..science.additives import COMPOUNDS
from ..science.amount import mass_text
from ..system.additive_amount import grams_in, rises, too_much
from ..system.shelf import Additive
from ..system.system import System
from .answer import ADDITIVE_WORDS
from .reader import JotError, Reader, spelled
from .recording import Build, Item, RecordContext, above_nothing


def record_dose(reader: Reader, context: RecordContext) -> Build:
    """A dose by volume or weight, the additive before or after it. Raises JotError."""
    named, start = reader.at, _behind_a_name(reader, context)
    amount = reader.number("how much, such as 40 ml or 3 g")
    if amount is None:
        reader.fail()
    unit = reader.ordinary_unit(Kind.VOLUME) or reader.ordinary_unit(Kind.MASS)
    if unit is None:
        reader.fail()
    reader.at = start
    size = above_nothing(reader, start, reader.quantity(unit[0]))
    by_volume = unit[0] == Kind.VOLUME
    additive = _additive(reader, context, by_volume, named, start)
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


def _behind_a_name(reader: Reader, context: RecordContext) -> int:
    """The place of the amount: behind the additive, where that comes first."""
    if not reader.done and not reader.tokens[reader.at].text[:1].isdecimal():
        known = {**_additives(context.additives, True), **_additives(context.additives, False)}
        reader.quietly(lambda: reader.choose(known, "an additive from the Shelf"))
    return reader.at


def _additive(reader: Reader, context: RecordContext, by_volume: bool, named: int, start: int) -> Additive:
    """The additive of an amount: before it, from place `named` to `start`, or behind it. What is measured by volume and
    what is weighed are not the same."""
    behind = reader.at
    if named == start:
        reader.may("of")
    else:
        reader.at = named
    additive = reader.choose(_additives(context.additives, by_volume), "an additive from the Shelf")
    if named != start and (additive is None or reader.at != start):
        first, last = reader.tokens[named], reader.tokens[start - 1]
        way = "weighed" if by_volume else "a solution"
        name = reader.text[first.start : last.end]
        accepted = "grams, such as 4 g" if by_volume else "a volume, such as 40 ml"
        raise JotError(f"{name} is {way}: enter {accepted}", first.start, last.end, accepted)
    if named != start:
        reader.at = behind
    return additive if additive is not None else reader.fail()


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


LIME = Additive(0, "calcium hydroxide", "Ca(OH)2", bulk_density_g_ml=0.55)
"""Dry limewater powder (kalkwasser), where the Shelf has none. Source: loose hydrated lime weighs 0.48 to 0.64 g/mL."""
