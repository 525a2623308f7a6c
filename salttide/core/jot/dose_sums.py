"""Sums about additives: how much for a rise, over how many days, and its side effects."""

from __future__ import annotations

from math import ceil

from ..basics.errors import SaltTideError
from ..basics.number_text import show_number
from ..basics.phrasing import counted, either
from ..science.additives import COMPOUNDS, brought_per_mole, dose_mass_g, effects
from ..science.amount import dose_text, mass_text
from ..science.carbonate import carbonate_from_ph_nbs
from ..science.dosing import DAILY_LIMITS, PH_LIMIT_OF_A_DOSE
from ..science.mix import LABEL_SALINITY, MIXING_C
from ..science.parameters import FACTS, Parameter, spoken
from ..science.ph_effect import ph_effect_of_dose
from ..science.sizing import NO_LIMIT
from ..science.units import UNITS, Unit, unit_of
from ..system.system import System
from .answer import ADDITIVE_WORDS, PARAMETER_WORDS, Answer, JotContext, in_unit, measured, present, volume_in, where
from .reader import JotError, Reader

_ADDITIVES: dict[str, str] = {
    **{compound.name: compound.formula for compound in COMPOUNDS.values()},
    **{compound.formula.lower(): compound.formula for compound in COMPOUNDS.values()},
    **{compound.formula.lower().replace("·", "."): compound.formula for compound in COMPOUNDS.values()},
    **ADDITIVE_WORDS,
}
_RAISED_FIRST = (
    Parameter.ALKALINITY, Parameter.NITRATE, Parameter.PHOSPHATE, Parameter.CALCIUM, Parameter.MAGNESIUM,
    Parameter.STRONTIUM, Parameter.POTASSIUM, Parameter.IODINE,
)  # fmt: skip
"""What a compound is mainly dosed for, where the line does not say."""
_CAUTIONS = {
    "Na2CO3": "caustic", "NaOH": "hydroxide", "Ca(OH)2": "hydroxide", "NaHCO3": "alkalinity_dose",
    "CaCl2": "heats", "CaCl2·2H2O": "heats", "MgCl2·6H2O": "heats",
}  # fmt: skip


def dose(reader: Reader, context: JotContext) -> Answer:
    """ "soda for +0.8 dkh in beacon", "KNO3 for +2 no3 in 334 l", "calcium for 400 to 420 in beacon"."""
    start = reader.at
    formula = _additive(reader)
    reader.need("for")
    before, rise, unit, parameter = _rise(reader, context, formula, _raised(formula))
    return _dosed(reader, context, start, formula, parameter, before, rise, unit)


def raise_level(reader: Reader, context: JotContext) -> Answer:
    """ "raise alk 7 to 8 in beacon", "raise ca by 20 with CaCl2": by the additive named, else the usual one."""
    start = reader.at
    parameter = reader.choose(PARAMETER_WORDS, "a parameter, such as alk or ca")
    if parameter is None:
        reader.fail()
    if parameter == Parameter.SALINITY:
        token = reader.tokens[start]
        raise JotError("salt raises it", token.start, token.end, "salt for 40 l from 33 to 35")
    formula = COMPOUNDS[context.source].formula if parameter == Parameter.ALKALINITY else _USUAL.get(parameter)
    if formula is None:
        token = reader.tokens[start]
        dosed = either([spoken(each) for each in (Parameter.ALKALINITY, *_USUAL)])
        raise JotError(f"{spoken(parameter)} is not raised by a dose", token.start, token.end, dosed)
    reader.may("from", "by")
    before, rise, unit, parameter = _rise(reader, context, formula, parameter)
    if reader.take("with", "by"):
        formula = _additive(reader)
    return _dosed(reader, context, start, formula, parameter, before, rise, unit)


_USUAL: dict[Parameter, str] = {
    Parameter.CALCIUM: "CaCl2·2H2O", Parameter.MAGNESIUM: "MgCl2·6H2O", Parameter.POTASSIUM: "KCl",
    Parameter.STRONTIUM: "SrCl2·6H2O", Parameter.NITRATE: "KNO3", Parameter.PHOSPHATE: "KH2PO4",
}  # fmt: skip
"""What each is usually raised with."""


def _dosed(
    reader: Reader,
    context: JotContext,
    start: int,
    formula: str,
    parameter: Parameter,
    before: float | None,
    rise: float,
    unit: Unit,
) -> Answer:
    volume, system = volume_in(reader, context)
    mass = reader.placed(lambda: dose_mass_g(formula, parameter, rise, volume), start)
    days = _days(parameter, rise, system)
    notes = [_spread(days, dose_text(mass / days, formula=formula))] if days > 1 else []
    notes += _ph_notes(formula, rise / days, float(mass) / days, system, context)
    notes.append(_others(formula, float(mass), volume, parameter, context))
    level = before if before is not None else present(context, system, parameter)
    water = where(volume, system, context)
    words = f"{_named(formula)} for +{_difference(rise, unit, context)} {spoken(parameter)} in {water}"
    if level is not None:
        words += f", from {in_unit(level, unit, context)} to {in_unit(level + rise, unit, context)}"
    text = dose_text(mass, formula=formula) + (f" over {counted(days, 'day')}" if days > 1 else "")
    caution = _CAUTIONS.get(formula, "nutrient_dose" if parameter in _NUTRIENTS else "")
    keys = (caution,) if caution else ()
    return Answer(words, float(mass), "g", text, tuple(filter(None, notes)), keys, mass.working)


def _named(formula: str) -> str:
    name = next((compound.name for compound in COMPOUNDS.values() if compound.formula == formula), "")
    return f"{name} ({formula})" if name else formula


_NUTRIENTS = (Parameter.NITRATE, Parameter.PHOSPHATE)


def _additive(reader: Reader) -> str:
    """A known additive by name or formula, or any other formula."""
    found = reader.choose(_ADDITIVES, "an additive or its formula, such as soda, calcium or KNO3")
    if found:
        return found
    text = reader.tokens[reader.at].text
    if not any(letter.isupper() for letter in text):
        reader.fail()
    reader.placed(lambda: brought_per_mole(text), reader.at)
    reader.at += 1
    return text


def _raised(formula: str) -> Parameter:
    brought = brought_per_mole(formula)
    return next((each for each in _RAISED_FIRST if brought.get(each, 0) > 0), Parameter.SODIUM)


def _rise(
    reader: Reader, context: JotContext, formula: str, parameter: Parameter
) -> tuple[float | None, float, Unit, Parameter]:
    """ "+0.8 dkh", "+10 ca" or "400 to 420": the level before if said, the canonical rise, its unit and parameter."""
    start = reader.at
    number = reader.number("a rise, such as +0.8 dkh")
    if number is None:
        reader.fail()
    behind = reader.at
    reader.quietly(lambda: reader.unit_of(parameter))
    to = reader.take("to")
    reader.at = behind
    if to:
        reader.at = start
        before, unit = measured(reader, context, parameter)
        reader.need("to")
        after, _ = measured(reader, context, parameter)
        if after <= before:
            reader.placed(lambda: dose_mass_g(formula, parameter, after - before, 1.0), start)
        return before, after - before, unit, parameter
    if number <= 0:
        token = reader.tokens[start]
        raise JotError("a dose only raises: a number above 0", token.start, token.end, "a number above 0")
    named = reader.choose(PARAMETER_WORDS, "a parameter")
    unit = (reader.unit_of(parameter) if not named else None) or unit_of(named or parameter, context.units)
    named = named or reader.choose(PARAMETER_WORDS, spoken(parameter)) or parameter
    zero = unit.to_canonical(0.0) if not unit.key.startswith(("SG", "mS")) else 0.0
    return None, unit.to_canonical(number) - zero, unit, named


def _difference(rise: float, unit: Unit, context: JotContext) -> str:
    shown = unit.from_canonical(rise) - unit.from_canonical(0.0)
    return f"{show_number(shown, unit.decimals + 1, context.habits.sign)} {unit.label}".rstrip()


def _days(parameter: Parameter, rise: float, system: System | None) -> int:
    """Days needed under the daily limit; the system's own limit where it has one."""
    limit = system.limit(parameter) if system else DAILY_LIMITS.get(parameter, NO_LIMIT)
    return max(1, ceil(rise / limit.up - 1e-9))


def _spread(days: int, share: str) -> str:
    return f"More than a day's limit: over {counted(days, 'day')}, {share} each, and a test before the last."


def _ph_notes(formula: str, rise: float, mass: float, system: System | None, context: JotContext) -> list[str]:
    """The immediate pH effect where pH and alkalinity are known, and what to do where it is too much at once."""
    ph, alkalinity = (present(context, system, each) for each in (Parameter.PH, Parameter.ALKALINITY))
    if brought_per_mole(formula).get(Parameter.ALKALINITY, 0) <= 0 or ph is None or alkalinity is None:
        return []
    salinity = present(context, system, Parameter.SALINITY) or LABEL_SALINITY
    temperature = present(context, system, Parameter.TEMPERATURE) or MIXING_C
    try:
        carbonate_from_ph_nbs(ph, alkalinity, salinity, temperature)
        effect = ph_effect_of_dose(formula, rise, ph, alkalinity, salinity, temperature)
    except SaltTideError:
        return []
    sign = "+" if effect.jump >= 0 else ""
    said = f"pH {sign}{context.number(effect.jump, 2)} at once if {mass_text(mass)} go in together"
    if abs(effect.jump) > PH_LIMIT_OF_A_DOSE:
        gentler = "" if formula == "NaHCO3" else ", or take bicarbonate"
        parts = ceil(abs(effect.jump) / PH_LIMIT_OF_A_DOSE)
        return [f"{said}: give it in {parts} or more parts over the day{gentler}."]
    return [said + "."]


def _others(formula: str, mass: float, volume: float, parameter: Parameter, context: JotContext) -> str:
    """What else it adds, where a test would notice."""
    shown = []
    for other, rise in effects(formula, mass, volume).items():
        unit = unit_of(other, context.units)
        if other in (parameter, Parameter.SALINITY) or unit.key.startswith("SG"):
            continue
        if abs(rise) >= 0.005 * FACTS[other].likely.high:
            shown.append(f"{spoken(other)} +{_difference(rise, UNITS[other][0], context)}")
    return f"With it: {', '.join(shown)}." if shown else ""
