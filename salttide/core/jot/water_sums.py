"""Sums about water: conversions, salt for a batch, weakening a batch, ammonia, carbon dioxide."""

from __future__ import annotations

from ..basics.errors import GRAVITY_HIGH, GRAVITY_LOW
from ..basics.number_text import show_number
from ..basics.quantities import Kind, find_unit, mass_of_scoops, to_canonical
from ..basics.working import Result
from ..science.air import OUTDOOR_PPM, pco2_uatm_of_air
from ..science.ammonia import Danger, ammonia_danger, unionised_ammonia_mg_l
from ..science.amount import mass_text
from ..science.carbonate import pco2_uatm_from_ph_nbs
from ..science.conversion import convert
from ..science.instruments import hydrometer_reading, salinity_from_hydrometer
from ..science.mix import LABEL_SALINITY, SaltMix, salt_mass_g, salt_to_strengthen_g, sea_salt_share, water_to_weaken_l
from ..science.parameters import Parameter
from ..science.seawater import GravityReference, conductivity_ms_cm_from_salinity, practical_salinity
from ..science.units import DOUBTFUL, SUBSTANCES, UNITS, Unit, unit_of
from ..system.system import System
from .answer import (
    Answer,
    JotContext,
    in_unit,
    litres,
    measured,
    present,
    system_named,
)
from .reader import JotError, Reader, spelled

USUAL_C = 25.0


def conversion(reader: Reader, context: JotContext) -> Answer:
    """ "1.024 sg 25/25 at 21 C in ppt", "8 dkh in meq/l", "1 cup at 1.1 g/ml in g"; a quantity alone in its other
    unit."""
    start = reader.at
    value = reader.number()
    source = _any_unit(reader) if value is None or not _bare_gravity(reader, value) else GRAVITY
    if value is None or source is None:
        reader.fail()
    if reader.done and source in _OTHER_UNIT:
        return _in_other(value, source, start, reader, context)
    temperature = density = None
    if reader.take("at"):
        temperature = reader.quantity(Kind.TEMPERATURE)
        if temperature is None:
            density = reader.number("a bulk density, such as 1.1 g/ml")
            reader.need("g/ml", "g/cm3", "kg/l")
    reader.need("in", "to", "as")
    if context.habits.gallon is None and reader.may("gal", "gallon", "gallons"):
        return _in_gallons(value, source, start, reader, context)
    target = _any_unit(reader)
    if target is None:
        reader.fail()
    shown = f"{context.digits(value, 6)} {source}"
    if density is not None:
        return reader.placed(lambda: _scooped(value, source, density, shown, context), start)
    if temperature is not None:
        return reader.placed(lambda: _at_temperature(value, source, target, temperature, shown, context), start)
    found = reader.placed(lambda: convert(value, source, target, None, context.habits), start)
    words = f"{shown} in {target}"
    return Answer(words, float(found), target, _converted(found, target, context), (), (), found.working)


GRAVITY = "SG 25/25 °C"
_OTHER_UNIT = {
    "°F": "°C", "°C": "°F", "L": "US gal", "US gal": "L", "imp gal": "L", "mL": "US fl oz", "US fl oz": "mL",
    "tsp": "mL", "tbsp": "mL", "cup": "mL", "g": "oz", "oz": "g", "kg": "lb", "lb": "kg", "cm": "in", "in": "cm",
    "dKH": "meq/L", "meq/L": "dKH", "ppt": GRAVITY, GRAVITY: "ppt", "SG 20/20 °C": "ppt", "SG 60/60 °F": "ppt",
}  # fmt: skip
"""What a quantity alone is turned into."""


def _bare_gravity(reader: Reader, value: float) -> bool:
    """Whether a number without a unit is a specific gravity: it looks like one, and a salinity is wanted."""
    at, wanted = reader.at, False
    if GRAVITY_LOW <= value <= GRAVITY_HIGH and reader.may("in", "to", "as"):
        wanted = reader.quietly(lambda: _any_unit(reader)) in [unit.label for unit in UNITS[Parameter.SALINITY]]
    reader.at = at
    return wanted


def _in_other(value: float, source: str, start: int, reader: Reader, context: JotContext) -> Answer:
    target = _OTHER_UNIT[source]
    found = reader.placed(lambda: convert(value, source, target, None, context.habits), start)
    shown = f"{context.digits(value, 6)} {source}"
    return Answer(
        f"{shown} in {target}", float(found), target, _converted(found, target, context), (), (), found.working
    )


def _in_gallons(value: float, source: str, start: int, reader: Reader, context: JotContext) -> Answer:
    """Gallons of both kinds, where the keeper has not said which."""
    us = reader.placed(lambda: convert(value, source, "US gal"), start)
    imperial = reader.placed(lambda: convert(value, source, "imp gal"), start)
    words = f"{context.digits(value, 6)} {source} in gallons"
    note = f"That is {_converted(imperial, 'imp gal', context)}."
    return Answer(words, float(us), "US gal", _converted(us, "US gal", context), (note,), (), us.working)


def _any_unit(reader: Reader) -> str | None:
    """The next words as any unit, ordinary or of the water, by its label."""
    found = reader.quietly(lambda: reader.choose(_LABELS, "a unit"))
    if found:
        return found
    ordinary = reader.quietly(reader.ordinary_unit)
    if ordinary is None:
        reader.expect("a unit such as ppt, SG 25/25, dKH, meq/L, L, g or °C")
    return ordinary[1] if ordinary else None


def _unit_words(parameter: Parameter, unit: Unit, spelling: str) -> str:
    """A unit's label; a spelling that names its substance keeps it."""
    substance = SUBSTANCES.get(parameter, "")
    return (
        f"{unit.label} {substance}"
        if unit.label == "mg/L" and spelling.endswith(substance.lower() or " ")
        else unit.label
    )


_LABELS = {
    **{
        spelling: _unit_words(p, unit, spelling)
        for p, units in UNITS.items()
        for unit in units
        for spelling in unit.spellings
    },
    **{spelling: spelling for doubtful in DOUBTFUL.values() for spelling in doubtful},
    **dict.fromkeys(("mg/l n", "ppm n"), "mg/L N"),
    **{f"{sg}{each.value.lower()}": f"SG {each.value}" for each in GravityReference for sg in ("", "sg ")},
}


def _converted(value: float, unit: str, context: JotContext) -> str:
    return f"{context.number(value, 4) if unit.startswith('SG') else context.digits(value, 4)} {unit}"


def _scooped(value: float, source: str, density: float, shown: str, context: JotContext) -> Answer:
    kind, key = find_unit(source, Kind.VOLUME)
    mass = mass_of_scoops(to_canonical(value, kind, key), density)
    words = f"{shown} of dry goods at {context.digits(density, 3)} g/mL, weighed"
    return Answer(words, float(mass), "g", mass_text(mass), (), ("weigh",), mass.working)


def _at_temperature(
    value: float, source: str, target: str, temperature: float, shown: str, context: JotContext
) -> Answer:
    """A reading in water of a temperature: a hydrometer's, or an uncompensated conductivity."""
    at = f"{context.number(temperature, 1)} °C"
    if source.startswith("SG"):
        salinity: float = salinity_from_hydrometer(value, temperature, _reference(source))
    elif source.startswith("mS/cm"):
        salinity = practical_salinity(value, temperature)
    else:
        salinity = float(convert(value, source, "ppt"))
    working = salinity.working if isinstance(salinity, Result) else ()
    if target.startswith("SG"):
        shows = hydrometer_reading(salinity, temperature, _reference(target))
        found, working = float(shows), (*working, *shows.working)
    elif target.startswith("mS/cm"):
        found = conductivity_ms_cm_from_salinity(salinity, temperature)
    else:
        found = float(convert(float(salinity), "ppt", target))
    notes = []
    if source.startswith("SG"):
        notes.append(
            "Read as a floating glass hydrometer; a swing arm does not follow this, check it against a standard."
        )
    return Answer(f"{shown} in water of {at}, in {target}", found, target, _converted(found, target, context),
                  tuple(notes), (), working)  # fmt: skip


def _reference(label: str) -> GravityReference:
    """The reference that a unit's label names: "SG 60/60 °F" is 60/60F."""
    name = label.removeprefix("SG").replace("°C", "").replace("°", "").replace(" ", "")
    return GravityReference(name or GravityReference.R25_25.value)


def salt(reader: Reader, context: JotContext) -> Answer:
    """ "salt for 60 l to 35 of kittiwake", "salt for 60 l from 33 to 35"."""
    volume = reader.quantity(Kind.VOLUME)
    if volume is None:
        reader.fail()
    before = measured(reader, context, Parameter.SALINITY)[0] if reader.take("from") else None
    target, unit, start = LABEL_SALINITY, unit_of(Parameter.SALINITY, context.units), reader.at
    if reader.take("to", "at"):
        start = reader.at
        target, unit = measured(reader, context, Parameter.SALINITY)
    elif context.current and (aim := context.current.aim(Parameter.SALINITY)) is not None:
        target = aim
    mix = _salt_named(reader, context)
    strength, name = (mix.strength_g_l, mix.name) if mix else (_strength(reader), "this salt")
    share = mix.sea_salt if mix else float(reader.placed(lambda: sea_salt_share(strength), start))
    amount, goal = litres(volume), in_unit(target, unit, context)
    if before is None:
        mass = reader.placed(lambda: _mass(volume, target, strength, mix), start)
        words = f"{name} for {amount} of finished water of {goal}"
    else:
        mass = reader.placed(lambda: salt_to_strengthen_g(volume, before, target, share), start)
        words = f"{name} to bring {amount} from {in_unit(before, unit, context)} to {goal}"
    note = f"By {name}'s {context.digits(strength, 4)} g/L; a bucket's own batches may teach otherwise."
    return Answer(words, float(mass), "g", mass_text(mass), (note,), ("salt_in_system",), mass.working)


def _mass(volume: float, target: float, strength: float, mix: SaltMix | None) -> Result:
    return salt_mass_g(volume, target, strength, mix.basis) if mix else salt_mass_g(volume, target, strength)


def _salt_named(reader: Reader, context: JotContext) -> SaltMix | None:
    """The salt that "of" or "with" names, else the first on the shelf; None where a strength follows or is needed."""
    if not reader.take("of", "with"):
        if not context.salts:
            end = len(reader.text.rstrip())
            ways = "with a strength, such as with 37 g/l"
            raise JotError(f"there is no salt on the Shelf: add {ways}", end, end, ways)
        return context.salts[0]
    return reader.choose(spelled((item.name, item) for item in context.salts), "a salt on the Shelf")


def _strength(reader: Reader) -> float:
    strength = reader.number("a strength, such as 37 g/l")
    if strength is None:
        reader.fail()
    reader.need("g/l")
    return strength


def weaken(reader: Reader, context: JotContext) -> Answer:
    """ "weaken 45 l from 36.2 to 35": litres to take out and replace with fresh water."""
    volume = reader.quantity(Kind.VOLUME)
    if volume is None:
        reader.fail()
    reader.need("from")
    before, unit = measured(reader, context, Parameter.SALINITY)
    reader.need("to")
    start = reader.at
    target, _ = measured(reader, context, Parameter.SALINITY)
    found = reader.placed(lambda: water_to_weaken_l(volume, before, target), start)
    levels = " to ".join(in_unit(level, unit, context) for level in (before, target))
    words = f"batch of {litres(volume)} from {levels}"
    note = f"Take {litres(found)} out, then fill up with as much fresh water; stir, measure again."
    return Answer(words, float(found), "L", litres(found), (note,), (), found.working)


def ammonia(reader: Reader, context: JotContext) -> Answer:
    """ "ammonia 0.5 at ph 8.2 25 C 35 ppt": the toxic share of a test's result."""
    start = reader.at
    total, unit = measured(reader, context, Parameter.AMMONIA)
    ph, water, words = _water_at(reader, context)
    salinity, temperature = water
    found = reader.placed(lambda: unionised_ammonia_mg_l(total, ph, salinity, temperature), start)
    danger = ammonia_danger(found)
    said = {
        Danger.NONE: "Below 0.02 mg/L.",
        Danger.CAUTION: "From 0.02 mg/L: caution where animals are inside; test again tomorrow.",
        Danger.ACT: "From 0.05 mg/L: act where animals are inside.",
        Danger.EMERGENCY: "From 0.1 mg/L: an emergency where animals are inside.",
    }[danger]
    return Answer(
        f"toxic NH3 of {in_unit(total, unit, context)} total ammonia {words}",
        float(found),
        "mg/L NH3",
        f"{context.number(found, 3)} mg/L NH3",
        (said,),
        ("ammonia",) if danger in (Danger.ACT, Danger.EMERGENCY) else (),
        found.working,
    )


def carbon_dioxide(reader: Reader, context: JotContext) -> Answer:
    """ "co2 at ph 8.0 alk 7.5 dkh in beacon": what the water holds, against the air outdoors."""
    start = reader.at
    reader.take("ph")
    ph, _ = measured(reader, context, Parameter.PH)
    reader.need("alk", "kh", "alkalinity")
    alkalinity, unit = measured(reader, context, Parameter.ALKALINITY)
    (salinity, temperature), words = _conditions(reader, context)
    found = reader.placed(lambda: pco2_uatm_from_ph_nbs(ph, alkalinity, salinity, temperature), start)
    outdoor = pco2_uatm_of_air(OUTDOOR_PPM, salinity, temperature)
    times = context.digits(found / outdoor, 2)
    outdoors = f"{times} times outdoor air (about {show_number(outdoor, 0)} µatm over this water)"
    return Answer(
        f"carbon dioxide at pH {context.number(ph, 2)} (NBS), {in_unit(alkalinity, unit, context)}{words}",
        float(found),
        "µatm",
        f"{context.number(found, 0)} µatm",
        (f"{outdoors}: what is above it comes from the room and the animals.",),
        (),
        found.working,
    )


def _water_at(reader: Reader, context: JotContext) -> tuple[float, tuple[float, float], str]:
    """ "at ph 8.2 25 C 35 ppt": pH, then salinity and temperature."""
    reader.need("at")
    reader.take("ph")
    ph, _ = measured(reader, context, Parameter.PH)
    water, words = _conditions(reader, context)
    return ph, water, f"at pH {context.number(ph, 2)} (NBS){words}"


def _conditions(reader: Reader, context: JotContext) -> tuple[tuple[float, float], str]:
    """Salinity and temperature: typed in any order, of a system that is named, else 35 ppt and 25 °C; in words."""
    typed: dict[Parameter, float] = {}
    system: System | None = None
    while not reader.done:
        if reader.take("at", "and", "sal", "salinity", "temp"):
            continue
        if reader.take("in"):
            system = system_named(reader, context)
            if system is None:
                reader.fail()
            continue
        parameter = _condition(reader)
        if parameter is None:
            break
        typed[parameter] = measured(reader, context, parameter)[0]
    found = []
    for parameter, usual in ((Parameter.SALINITY, LABEL_SALINITY), (Parameter.TEMPERATURE, USUAL_C)):
        known = typed.get(parameter, present(context, system, parameter))
        found.append(usual if known is None else known)
    pairs = zip(_CONDITIONS, found, strict=True)
    shown = [in_unit(value, unit_of(each, context.units), context) for each, value in pairs]
    return (found[0], found[1]), f", {', '.join(shown)}" + (f" ({system.name})" if system else "")


_CONDITIONS = (Parameter.SALINITY, Parameter.TEMPERATURE)


def _condition(reader: Reader) -> Parameter | None:
    """Which of the two the next number is, by its unit."""
    start = reader.at
    if reader.number("a salinity or a temperature") is None:
        return None
    found = next((parameter for parameter in _CONDITIONS if reader.unit_of(parameter)), None)
    if found is None:
        reader.fail()
    reader.at = start
    return found
