"""What an emergency takes on this system: its litres, grams, degrees and minutes, from its latest measurements, by the
same functions that plan ordinary work."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from ..basics.errors import SaltTideError
from ..basics.measures import grams_words, litres_words, weight_words
from ..basics.number_text import show_number
from ..basics.phrasing import counted
from ..judgement.rules.animals import ASSUMED, toxic_in
from ..planning.work_order import usual_salinity
from ..remedy.ammonia import RETEST_H, ammonia_change
from ..science.ammonia import CAUTION_MG_L, Danger, ammonia_danger
from ..science.dilution import even_changes, salinity_exchange_l
from ..science.heat import cooled_by_ice_k, warmed_by_bottle_k
from ..science.heat_balance import holding_w
from ..science.mix import MAX_SALINITY, SaltMix, salt_mass_g
from ..science.parameters import Parameter, Span
from ..science.salt_calibration import mixed_water
from ..science.topoff import lime_flood, salinity_after_flood
from ..science.units import UnitChoice, show, show_difference
from ..system.endurance import heat_balance
from ..system.livestock import air_bound
from ..system.system import System

SALINITY, ALKALINITY, TEMPERATURE = Parameter.SALINITY, Parameter.ALKALINITY, Parameter.TEMPERATURE
FLOOD_L, LIME_L = 10.0, 5.0
"""The examples of what runs in: fresh water, and saturated limewater."""
CARBON_G_L = 1.0
"""Activated carbon against a poison, g for each litre of the system (judgement): twice what clears yellow water."""
BOTTLE_C = 45.0
"""Water as it comes from a hot tap, in a closed bottle."""


@dataclass(frozen=True)
class EmergencyMeans:
    """What there is at hand: the usual salt, litres of new water that stand mixed, with the names of their batches."""

    salt: SaltMix | None = None
    ready_l: float = 0.0
    ready: str = ""


@dataclass(frozen=True)
class Tank:
    """A system in an emergency: its latest values (canonical) and what there is at hand."""

    system: System
    water: Mapping[Parameter, float]
    means: EmergencyMeans
    units: UnitChoice = field(default_factory=dict)

    def show(self, parameter: Parameter, value: float) -> str:
        """A value in the keeper's unit."""
        return show(parameter, value, self.units)

    def differs(self, parameter: Parameter, size: float) -> str:
        """A difference in the keeper's unit."""
        return show_difference(parameter, abs(size), self.water.get(parameter, 0.0), self.units)

    def aim(self, parameter: Parameter) -> float | None:
        """The level it is brought back to."""
        return self.system.aim(parameter)

    def band(self, parameter: Parameter) -> Span | None:
        """The target band."""
        return self.system.bands.get(parameter)

    def mixed(self, litres: float, salinity: float | None = None) -> str:
        """New water with the salt it takes: "40 L with 1.48 kg of a salt"; of its salt nothing where none is known."""
        salt = self.means.salt
        if salt is None:
            return f"{litres_words(litres)} of new salt water"
        wanted = usual_salinity(self.system) if salinity is None else salinity
        grams = float(salt_mass_g(litres, wanted, salt.strength_g_l, salt.basis))
        return f"{litres_words(litres)} with {weight_words(grams)} of {salt.name}"


def emergency_slots(tank: Tank) -> dict[str, str]:
    """What fills the texts of emergencies on a system; what cannot be known yet says what to measure."""
    return {name: _said(amount, tank) for name, amount in AMOUNTS.items()}


def sign_words(system: System, signs: Sequence[str], units: UnitChoice) -> list[str]:
    """How an emergency shows, with its temperatures in the keeper's unit."""
    tank = Tank(system, {}, EmergencyMeans(), units)
    degrees = {name: words(tank) for name, words in TEMPERATURES.items()}
    return [one.format(**degrees) for one in signs]


def _said(amount: Callable[[Tank], str], tank: Tank) -> str:
    """An amount in words; values beyond what its formula covers say so instead of stopping the sheet."""
    try:
        return amount(tank)
    except SaltTideError as error:
        return f"Cannot be worked out: {error}."


def _ready(tank: Tank) -> str:
    if tank.means.ready_l:
        return f"{litres_words(tank.means.ready_l)} of new water stand mixed ({tank.means.ready}): measure it first."
    return f"No new water stands mixed: start {_largest(tank)} now."


def _largest(tank: Tank) -> str:
    return tank.mixed(tank.system.litres_of(tank.system.methods.largest_fraction))


_WORDS = {
    Danger.NONE: "below what harms",
    Danger.CAUTION: "watch it closely",
    Danger.ACT: "act now",
    Danger.EMERGENCY: "an emergency",
}


def _ammonia_now(tank: Tank) -> str:
    toxic = toxic_in(tank.water)
    if toxic is None:
        return "Not known yet: test total ammonia, pH, salinity and temperature."
    total = tank.show(Parameter.AMMONIA, tank.water[Parameter.AMMONIA])
    return f"Of {total} total, {show_number(toxic, 3)} mg/L is toxic NH3: {_WORDS[ammonia_danger(toxic)]}."


def _ammonia_change(tank: Tank) -> str:
    toxic = toxic_in(tank.water)
    if toxic is None:
        return f"Without a test, change what you have ready. {_ready(tank)}"
    change = ammonia_change(tank.system.volume_l, toxic)
    if change is None:
        return "No change is needed at this level."
    times = "once" if change.times == 1 else f"{counted(change.times, 'time')}, an hour apart"
    return (
        f"Change {show_number(change.share * 100, 0)} % {times}: {tank.mixed(change.litres)} each time. That brings "
        f"toxic NH3 to {show_number(CAUTION_MG_L, 2)} mg/L. {_ready(tank)}"
    )


def _ammonia_retest(tank: Tank) -> str:
    toxic = toxic_in(tank.water)
    danger = Danger.EMERGENCY if toxic is None else ammonia_danger(toxic)
    return counted(RETEST_H.get(danger, 24), "hour")


def _heat_now(tank: Tank) -> str:
    value, band = tank.water.get(TEMPERATURE), tank.band(TEMPERATURE)
    if value is None:
        return "Not measured yet."
    if band is None or band.holds(value):
        return f"{tank.show(TEMPERATURE, value)} at the last measurement."
    off = tank.differs(TEMPERATURE, value - band.nearest(value))
    return f"{tank.show(TEMPERATURE, value)}, {off} {'over' if value > band.high else 'under'} the band."


def _ice(tank: Tank) -> str:
    warm = tank.water.get(TEMPERATURE, ASSUMED[TEMPERATURE])
    each = tank.differs(TEMPERATURE, float(cooled_by_ice_k(tank.system.volume_l, warm)))
    return f"Each closed litre bottle of ice lowers it by {each}."


def _bottle(tank: Tank) -> str:
    warm = tank.water.get(TEMPERATURE, ASSUMED[TEMPERATURE])
    each = float(warmed_by_bottle_k(tank.system.volume_l, warm, BOTTLE_C))
    ten, hot = tank.differs(TEMPERATURE, 10 * each), tank.show(TEMPERATURE, BOTTLE_C)
    return f"Ten closed bottles of a litre of hot tap water ({hot}), one after the other, raise it by about {ten}."


def _watts(tank: Tank) -> str:
    heating, goal = tank.system.heating, tank.aim(TEMPERATURE) or ASSUMED[TEMPERATURE]
    watts = float(holding_w(heat_balance(tank.system), goal, heating.cold_c, heating.gains_w))
    room = tank.show(TEMPERATURE, heating.cold_c)
    return f"In a room of {room} it takes about {show_number(watts, 0)} W to hold {tank.show(TEMPERATURE, goal)}."


def _salinity_now(tank: Tank) -> str:
    value, goal = tank.water.get(SALINITY), tank.aim(SALINITY)
    if value is None:
        return "Not measured yet: measure before anything is poured in."
    wanted = f", {tank.show(SALINITY, goal)} is the aim" if goal is not None else ""
    return f"{tank.show(SALINITY, value)} at the last measurement{wanted}."


def _half_way(tank: Tank) -> float | None:
    """Half of the way back, which what came within hours may go within a day."""
    value, goal = tank.water.get(SALINITY), tank.aim(SALINITY)
    return None if value is None or goal is None else (value + goal) / 2


def _inside(tank: Tank) -> bool:
    """Whether salinity is in its band: then nothing of it is an emergency."""
    value, band = tank.water.get(SALINITY), tank.band(SALINITY)
    return value is not None and band is not None and band.holds(value)


def _salt_back(tank: Tank) -> str:
    value, half = tank.water.get(SALINITY), _half_way(tank)
    if value is None or half is None:
        return "Measure salinity first: the amount follows from it."
    if half <= value or _inside(tank):
        return "It is not below its band: nothing has to be raised."
    litres = float(salinity_exchange_l(tank.system.volume_l, value, half, MAX_SALINITY))
    return (
        f"Half-way back today, to {tank.show(SALINITY, half)}: take out {litres_words(litres)}, and pour in "
        f"{tank.mixed(litres, MAX_SALINITY)} ({tank.show(SALINITY, MAX_SALINITY)}) over the day."
    )


def _fresh_back(tank: Tank) -> str:
    value, half = tank.water.get(SALINITY), _half_way(tank)
    if value is None or half is None:
        return "Measure salinity first: the amount follows from it."
    if half >= value or _inside(tank):
        return "It is not above its band: nothing has to be lowered."
    litres = litres_words(float(salinity_exchange_l(tank.system.volume_l, value, half, 0.0)))
    return (
        f"Half-way back today, to {tank.show(SALINITY, half)}: take out {litres}, and pour in {litres} of RO/DI water, "
        "slowly."
    )


def _flood(tank: Tank) -> str:
    before = tank.aim(SALINITY) or ASSUMED[SALINITY]
    after = float(salinity_after_flood(before, tank.system.volume_l, FLOOD_L))
    return (
        f"Each {litres_words(FLOOD_L, 0)} of fresh water that ran in lower salinity by "
        f"{tank.differs(SALINITY, before - after)} here."
    )


def _surplus(tank: Tank) -> str:
    value, goal = tank.water.get(SALINITY), tank.aim(SALINITY)
    if value is None or goal is None or value <= 0:
        return "Measure salinity: from it follows how much ran in."
    if value >= goal or _inside(tank):
        return "By salinity, no fresh water is too much."
    litres = tank.system.volume_l * (goal / value - 1)
    return f"By salinity about {litres_words(litres, 0)} ran in: take that much out, if the level says so too."


def _alkalinity_now(tank: Tank) -> str:
    value, band = tank.water.get(ALKALINITY), tank.band(ALKALINITY)
    if value is None:
        return "Not measured yet."
    limit = f"; its band ends at {tank.show(ALKALINITY, band.high)}" if band else ""
    return f"{tank.show(ALKALINITY, value)} at the last test{limit}."


def _alkalinity_back(tank: Tank) -> str:
    value, band, salt = tank.water.get(ALKALINITY), tank.band(ALKALINITY), tank.means.salt
    if value is None or band is None:
        return "Test alkalinity first: the amount follows from it."
    if value <= band.high:
        return "It is not above its band: no change is needed."
    new = mixed_water(salt, usual_salinity(tank.system)).get(ALKALINITY) if salt else None
    if new is None or new >= band.high:
        return "New water of your usual salt would not lower it enough: let it be used up."
    times, share = even_changes((band.high - new) / (value - new), tank.system.methods.largest_fraction)
    often = "once" if times == 1 else f"{counted(times, 'time')}, hours apart"
    return (
        f"Change {show_number(share * 100, 0)} % ({tank.mixed(tank.system.litres_of(share))}) {often}: that brings it "
        f"to {tank.show(ALKALINITY, band.high)}."
    )


def _largest_l(tank: Tank) -> float:
    return tank.system.litres_of(tank.system.methods.largest_fraction)


def _lime(tank: Tank) -> str:
    taken = {p: tank.water.get(p, usual) for p, usual in ((ALKALINITY, 2.8), (Parameter.PH, 8.1), *ASSUMED_LIME)}
    flood = lime_flood(
        taken[ALKALINITY], tank.system.volume_l, LIME_L, taken[Parameter.PH], taken[SALINITY], taken[TEMPERATURE]
    )
    ph = "beyond what can be worked out" if flood.ph_nbs is None else f"to {tank.show(Parameter.PH, flood.ph_nbs)}"
    rise = tank.differs(ALKALINITY, float(flood.alkalinity_meq_l) - taken[ALKALINITY])
    return (
        f"{litres_words(LIME_L, 0)} of saturated limewater at once would raise alkalinity by {rise} here and pH {ph}."
    )


ASSUMED_LIME = ((SALINITY, ASSUMED[SALINITY]), (TEMPERATURE, ASSUMED[TEMPERATURE]))


def _per_cm(tank: Tank) -> str:
    return f"A centimetre of the display is {litres_words(tank.system.geometry.footprint_cm2 / 1000)}."


def _lost(tank: Tank) -> str:
    return f"For each {litres_words(FLOOD_L, 0)} of tank water lost: {tank.mixed(FLOOD_L)}."


def _carbon(tank: Tank) -> str:
    return f"{grams_words(tank.system.volume_l * CARBON_G_L)} of activated carbon"


def _air_time(tank: Tank) -> str:
    minutes, whose = air_bound(tank.system.animals)
    return f"{show_number(minutes, 0)} minutes ({whose})"


def _change_l(tank: Tank) -> str:
    toxic = toxic_in(tank.water)
    change = ammonia_change(tank.system.volume_l, toxic) if toxic is not None else None
    return litres_words(change.litres) if change else ""


def _swapped(tank: Tank, up: bool) -> str:
    value, half = tank.water.get(SALINITY), _half_way(tank)
    if value is None or half is None or (half > value) != up or _inside(tank):
        return ""
    return litres_words(float(salinity_exchange_l(tank.system.volume_l, value, half, MAX_SALINITY if up else 0.0)))


def _swap_l(tank: Tank) -> str:
    return _swapped(tank, True)


def _fresh_l(tank: Tank) -> str:
    return _swapped(tank, False)


def _largest_words(tank: Tank) -> str:
    return litres_words(_largest_l(tank))


def _at(celsius: float) -> Callable[[Tank], str]:
    return lambda tank: tank.show(TEMPERATURE, celsius)


def _by(degrees: float) -> Callable[[Tank], str]:
    return lambda tank: tank.differs(TEMPERATURE, degrees)


TEMPERATURES: Mapping[str, Callable[[Tank], str]] = {
    **{f"c{celsius}": _at(float(celsius)) for celsius in (18, 20, 21, 28, 29, 31, 33, 45)},
    "degree": _by(1.0),
    "half_degree": _by(0.5),
}
"""Temperatures that texts name, in the keeper's unit."""
AMOUNTS: Mapping[str, Callable[[Tank], str]] = {
    **TEMPERATURES,
    "ready": _ready,
    "largest": _largest,
    "ammonia_now": _ammonia_now,
    "ammonia_change": _ammonia_change,
    "ammonia_retest": _ammonia_retest,
    "heat_now": _heat_now,
    "ice": _ice,
    "bottle": _bottle,
    "watts": _watts,
    "salinity_now": _salinity_now,
    "salt_back": _salt_back,
    "fresh_back": _fresh_back,
    "flood": _flood,
    "surplus": _surplus,
    "alkalinity_now": _alkalinity_now,
    "alkalinity_back": _alkalinity_back,
    "lime": _lime,
    "per_cm": _per_cm,
    "lost": _lost,
    "carbon": _carbon,
    "air_time": _air_time,
    "change_l": _change_l,
    "swap_l": _swap_l,
    "fresh_l": _fresh_l,
    "largest_l": _largest_words,
}
"""The amounts that emergencies name in braces; litres alone are empty where they are not known."""
