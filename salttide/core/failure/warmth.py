"""Heat and power that fail: a heater on or off, the lamp's timer, a heatwave, no power at all."""

from __future__ import annotations

from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.working import Formula, FormulaInput
from ..science.heat_balance import falls_to_h, fastest_k_h, holding_w, removing_w, rises_to_h, settles_at_c
from ..science.parameters import Parameter
from ..science.units import unit_of
from ..system.endurance import air_after_h, battery_h, cold_after_h
from ..system.heating import LAMP_SHARE
from .installation import Installation
from .outcome import Effect, Outcome, hours_words, soonest, unknown, worst
from .usual import CHILL_C, SUFFER_C, Harm

TEMPERATURE, SALINITY = Parameter.TEMPERATURE, Parameter.SALINITY


def heater_on(at: Installation) -> Outcome | None:
    """One heater sticks on, the largest; the others stay off."""
    heating = at.heating
    if not at.has("heater"):
        return None
    if not heating.heaters_w:
        return unknown("heaters_w")
    now, watts = at.now(TEMPERATURE), max(heating.heaters_w)
    gains = heating.gains_w + watts
    settles, held = settles_at_c(at.balance, heating.room_c, gains), _held(at)
    if settles <= held:
        warms = f"{show_number(watts, 0)} W on all day do not warm it past {at.shown(TEMPERATURE, held)}"
        room = f"in a room of {at.shown(TEMPERATURE, heating.room_c)}"
        return Outcome(f"{warms} {room}.", (_degrees(at, "settles", settles),))
    speed = fastest_k_h(at.balance, now, heating.room_c, gains)
    hours = rises_to_h(at.balance, heating.room_c, gains, now, SUFFER_C)
    words = f"{show_number(watts, 0)} W warm it by {at.differs(TEMPERATURE, float(speed))} an hour at first"
    words += f", to {at.shown(TEMPERATURE, float(settles))} in a room of {at.shown(TEMPERATURE, heating.room_c)}"
    if hours is None:
        words += ": it never gets dangerous."
    else:
        words += f"; {at.shown(TEMPERATURE, SUFFER_C)} after {hours_words(float(hours))}."
    effects = [_degrees(at, "settles", settles)]
    if hours is not None:
        effects.append(Effect("hot", float(hours), hours_words(float(hours)), hours.working))
    harm = worst(("warm_c", settles), alive=at.alive)
    return Outcome(words, tuple(effects), harm, float(hours) if hours is not None else None)


def heater_off(at: Installation) -> Outcome | None:
    """One heater fails, the largest, in the coldest room."""
    heating = at.heating
    if not at.has("heater"):
        return None
    if not heating.heaters_w:
        return unknown("heaters_w")
    held = _held(at)
    need = holding_w(at.balance, held, heating.cold_c, heating.gains_w)
    rest = heating.heat_w - max(heating.heaters_w)
    room = at.shown(TEMPERATURE, heating.cold_c)
    need_words = f"{show_number(float(need), 0)} W hold {at.shown(TEMPERATURE, held)} in a room of {room}"
    needs = Effect("need", float(need), f"{show_number(float(need), 0)} W", need.working)
    if rest >= need:
        return Outcome(f"{need_words}; what is left has {show_number(rest, 0)} W: it holds.", (needs,))
    settles = settles_at_c(at.balance, heating.cold_c, heating.gains_w + rest)
    hours = falls_to_h(at.balance, heating.cold_c, heating.gains_w + rest, at.now(TEMPERATURE), CHILL_C)
    words = f"{need_words}, {show_number(rest, 0)} W are left: it falls to {at.shown(TEMPERATURE, float(settles))}"
    words += f", {at.shown(TEMPERATURE, CHILL_C)} after {hours_words(float(hours))}." if hours is not None else "."
    harm = worst(("cold_c", settles), alive=at.alive)
    return Outcome(words, (needs, _degrees(at, "settles", settles)), harm, float(hours) if hours is not None else None)


def lamp_timer(at: Installation) -> Outcome | None:
    """The lamps stay on, or stay off."""
    heating = at.heating
    if not heating.lamps_w:
        return None
    more = heating.lamps_w * LAMP_SHARE * (1 - heating.lamp_h / 24)
    rise = float(settles_at_c(at.balance, heating.room_c, heating.gains_w + more)) - float(
        settles_at_c(at.balance, heating.room_c, heating.gains_w)
    )
    warmer = at.differs(TEMPERATURE, rise)
    words = (
        f"Left on, they warm it by another {warmer}, and algae take over within days; left off, corals cope for a few."
    )
    effects = (Effect("warmer", rise, warmer, at.balance.dry.working),)
    return Outcome(
        words, effects, max(Harm.NUISANCE, worst(("warm_c", at.now(TEMPERATURE) + rise), alive=at.alive)), 24.0
    )


def heatwave(at: Installation) -> Outcome:
    """The room is shut in a heatwave."""
    heating, now = at.heating, at.now(TEMPERATURE)
    helped = heating.gains_w - heating.fan_w - heating.chiller_w
    settles = settles_at_c(at.balance, heating.hot_c, helped)
    hours = rises_to_h(at.balance, heating.hot_c, helped, now, SUFFER_C)
    room, held = at.shown(TEMPERATURE, heating.hot_c), _held(at)
    if settles <= held:
        return Outcome(f"In a room of {room} it is held at {at.shown(TEMPERATURE, held)}.")
    words = f"In a room of {room} it goes to {at.shown(TEMPERATURE, float(settles))}"
    words += f", {at.shown(TEMPERATURE, SUFFER_C)} after {hours_words(float(hours))}" if hours is not None else ""
    need = removing_w(at.balance, held, heating.hot_c, heating.gains_w)
    words += f". {show_number(float(need), 0)} W to take out hold {at.shown(TEMPERATURE, held)}"
    if heating.fan_l_day:
        words += f"; the fan takes {show_number(heating.fan_w, 0)} W by {litres_words(heating.fan_l_day)} a day"
    effects = (_degrees(at, "settles", settles), _watts("cooling", need))
    harm = worst(("warm_c", settles), alive=at.alive)
    return Outcome(f"{words}.", effects, harm, float(hours) if hours is not None else None)


def power(at: Installation) -> Outcome:
    """No power: what the animals breathe goes first, then warmth."""
    now = at.now(TEMPERATURE)
    settles = settles_at_c(at.balance, at.heating.cold_c, 0.0)
    cold, air = cold_after_h(at.system, now), air_after_h(at.system, at.now(SALINITY), now)
    words, effects, harms = [], [], [Harm.NONE]
    if at.alive and air is not None:
        words.append(f"Oxygen is low after about {hours_words(float(air))} in still water")
        effects.append(Effect("air", float(air), hours_words(float(air)), air.working))
        harms.append(Harm.GRAVE if at.fish_g else Harm.SERIOUS)
    if cold is not None:
        words.append(f"{at.shown(TEMPERATURE, CHILL_C)} after {hours_words(float(cold))}")
        effects.append(Effect("cold", float(cold), hours_words(float(cold)), cold.working))
        harms.append(worst(("cold_c", settles), alive=at.alive))
    bridged = battery_h(at.system)
    if bridged:
        words.append(f"the battery keeps the water moving for {hours_words(bridged)}")
        effects.append(Effect("battery", bridged, hours_words(bridged)))
    said = "; ".join(words) or "Nothing in it needs power within a day"
    first = soonest([float(air) if air is not None and at.alive else None, float(cold) if cold is not None else None])
    return Outcome(f"{said}.", tuple(effects), max(harms), first)


def _held(at: Installation) -> float:
    """The temperature it is held at."""
    return at.system.aim(TEMPERATURE) or at.now(TEMPERATURE)


MONTH_H = 730.5
MONTH = Formula(
    "E", "energy of a month", "(P_h + P_p + P_l * h / 24) * t / 1000", "kWh", "heating, pumps and lamps over the hours"
)
COST = Formula("c", "cost of a month", "E * p", "", "energy · price")


def heat_facts(at: Installation) -> list[Effect]:
    """What it takes to hold the temperature: loss for each degree, heat for the coldest room, cooling for a heatwave,
    energy of a month in the usual room, and its cost where the price is known."""
    heating, held = at.heating, _held(at)
    need = holding_w(at.balance, held, heating.cold_c, heating.gains_w)
    cooling = removing_w(at.balance, held, heating.hot_c, heating.gains_w)
    usual = holding_w(at.balance, held, heating.room_c, heating.gains_w)
    month = MONTH.result(
        usual,
        P_h=usual.given("to hold it in the usual room"),
        P_p=FormulaInput(heating.pumps_w, "W", "pumps"),
        P_l=FormulaInput(heating.lamps_w, "W", "lamps"),
        h=FormulaInput(heating.lamp_h, "h", "a day"),
        t=FormulaInput(MONTH_H, "h", "a month"),
    )
    found = [
        Effect("loss", float(at.balance.dry), _per_degree(at), at.balance.dry.working),
        _watts("need", need),
        _watts("cooling", cooling),
        Effect("month", float(month), f"{show_number(float(month), 0)} kWh", month.working),
    ]
    if heating.kwh_price:
        cost = COST.result(month, E=month.given(), p=FormulaInput(heating.kwh_price, "a kWh", "price"))
        found.append(Effect("cost", float(cost), show_number(float(cost), 2), cost.working))
    return found


def _per_degree(at: Installation) -> str:
    """The loss for each degree of the keeper's own."""
    degree = unit_of(TEMPERATURE, at.units)
    size = degree.from_canonical(1.0) - degree.from_canonical(0.0)
    return f"{show_number(float(at.balance.dry) / size, 1)} W per {degree.label}"


def _degrees(at: Installation, key: str, result: float) -> Effect:
    return Effect(key, float(result), at.shown(TEMPERATURE, float(result)), getattr(result, "working", ()))


def _watts(key: str, result: float) -> Effect:
    return Effect(key, float(result), f"{show_number(float(result), 0)} W", getattr(result, "working", ()))
