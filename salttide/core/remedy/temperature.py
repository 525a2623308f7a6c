"""Remedies for temperature: the heater, the fan, the chiller, ice, and the room, each with the watts of this tank."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from math import ceil

from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import counted
from ..judgement.situation import Situation
from ..planning.correction_work import TEST_HOUR
from ..planning.work_order import PlannedWork, planned_test
from ..science.heat import cooled_by_ice_k, evaporating_l_day, warming_w
from ..science.heat_balance import holding_w
from ..science.parameters import Parameter
from ..system.endurance import heat_balance
from ..system.heating import SURFACES
from .remedy import Remedy, RemedyKind, Supply

TEMPERATURE = Parameter.TEMPERATURE
FAN_CARRIES_W = 60.0
"""What a small fan over the surface carries away (judgement): more takes a chiller or a cooler room."""
ICE_BOTTLES = 4
"""More bottles of ice a day than this are more than a keeper can float (judgement)."""
MAX_TESTS = 7
HEATER_MARGIN = 1.5
"""A heater runs two thirds of the time in the coldest room it is chosen for (judgement)."""


def moving_temperature(s: Situation) -> list[Remedy]:
    """Every way to bring temperature to its aim, the mildest sufficient first."""
    goal, value = s.system.aim(TEMPERATURE), s.value(TEMPERATURE)
    if goal is None or value is None or value == goal:
        return []
    days = max(1, ceil(abs(value - goal) / s.system.limits.temperature_c - 1e-9))
    ways = _cooling(s, value, goal, days) if value > goal else _warming(s, value, goal, days)
    return sorted(ways, key=lambda one: not one.fits)


def _tests(s: Situation, days: int, goal: float) -> tuple[PlannedWork, ...]:
    """A test on each day until it is there."""
    evening = datetime.combine(s.now.astimezone(s.zone).date(), time(TEST_HOUR), s.zone)
    why = f"{s.show(TEMPERATURE, goal)} after {counted(days, 'day')}; if not, think again"
    return tuple(planned_test(TEMPERATURE, evening + timedelta(days=n + 1), why) for n in range(min(days, MAX_TESTS)))


def _pace(s: Situation) -> str:
    return f"At most {s.difference(TEMPERATURE, s.system.limits.temperature_c)} a day."


def _way(
    s: Situation, key: str, title: str, how: str, why: str, goal: float, days: int, fits: bool = True, risk: str = "",
    supplies: tuple[Supply, ...] = (),
) -> Remedy:  # fmt: skip
    return Remedy(
        key, RemedyKind.ACT, title, how, why, fits, TEMPERATURE, goal, _tests(s, days, goal) if fits else (),
        supplies=supplies, risk=risk,
    )  # fmt: skip


def _cooling(s: Situation, value: float, goal: float, days: int) -> list[Remedy]:
    """The heater off first: it may be what warms the water; then the fan, the chiller, and ice."""
    gear, there, over = {*s.system.gear}, s.show(TEMPERATURE, goal), value - goal
    air = "More surface movement meanwhile: warm water holds less oxygen."
    balance, room = heat_balance(s.system), s.system.heating.room_c
    carried = balance.out_w(value, room) - balance.out_w(goal, room)
    ways = []
    if "heater" in gear:
        ways.append(_way(
            s, "heater", f"Unplug the heater until the water is back at {there}",
            f"Check with a second thermometer first. {_pace(s)} {air} Plug it in again only when you stand by it.",
            "A thermostat that sticks closed is the fault that cooks a tank, and a heater is not needed now.", goal,
            days, risk="Forgotten, the water goes on cooling: stay with the tests.",
        ))  # fmt: skip
    if "chiller" in gear:
        ways.append(_way(
            s, "chiller", f"See to the chiller: dust, flow, and its set point of {there}",
            f"Vacuum its grille, and check that water runs through it. {_pace(s)} {air}",
            f"Holding {s.difference(TEMPERATURE, over)} less takes about {show_number(carried, 0)} W away, all day.",
            goal, days,
        ))  # fmt: skip
    return [*ways, _fan(s, gear, goal, over, days, carried), _ice(s, value, goal, days)]


def _fan(s: Situation, gear: set[str], goal: float, over: float, days: int, carried_w: float) -> Remedy:
    """A fan over the surface, with what it evaporates."""
    more, enough = litres_words(evaporating_l_day(carried_w)), carried_w <= FAN_CARRIES_W
    why = f"It takes about {show_number(carried_w, 0)} W away to hold {s.difference(TEMPERATURE, over)} less"
    why += f": {more} more evaporate a day." if enough else ": more than a small fan does."
    return _way(
        s, "fan", "Blow a fan across the water surface, lid off",
        f"Top off {more} a day more, with fresh water. {_pace(s)} Shade the room and shorten the light too.", why, goal,
        days, enough, "Nets over what jumps; an empty top-off reservoir raises salinity.",
        () if "fan" in gear else (Supply("fan", "1", False),),
    )  # fmt: skip


def _ice(s: Situation, value: float, goal: float, days: int) -> Remedy:
    """Bottles of ice, closed: how many of a litre make a day's step."""
    each = float(cooled_by_ice_k(s.system.volume_l, value))
    step = (value - goal) / days
    bottles = ceil(step / each - 1e-9)
    enough = bottles <= ICE_BOTTLES
    why = f"Each litre of ice cools this tank by {s.difference(TEMPERATURE, each)}"
    why += ", for as long as the heat lasts." if enough else f": it would take {bottles} a day."
    return _way(
        s, "ice", f"Float {counted(bottles, 'closed bottle')} of ice a day, of a litre each",
        f"One at a time, in the sump or in strong flow. {_pace(s)}", why, goal, days, enough,
        "Never loose ice: it is fresh water. Too many at once shock what sits beside them.",
    )  # fmt: skip


def _warming(s: Situation, value: float, goal: float, days: int) -> list[Remedy]:
    """The heater first, with the watts it needs; then the lid and the room."""
    balance = heat_balance(s.system)
    heating = s.system.heating
    room = s.show(TEMPERATURE, heating.cold_c)
    hold = float(holding_w(balance, goal, heating.cold_c, heating.gains_w))
    raise_w = float(warming_w(s.system.volume_l, min((goal - value) / days, 40.0), 24.0))
    watts = show_number(hold + raise_w, 0)
    needed = (
        f"Holding {s.show(TEMPERATURE, goal)} in a room of {room} takes about {show_number(hold, 0)} W, and the "
        f"way there {show_number(raise_w, 0)} W more."
    )
    has = "heater" in s.system.gear
    title = "Check the heater: plugged in, covered by water, set to " if has else "Put in a heater, set to "
    size = show_number(ceil(HEATER_MARGIN * hold / 25.0) * 25.0, 0)
    heater = _way(
        s, "heater", f"{title}{s.show(TEMPERATURE, goal)}",
        f"Check with a second thermometer first. It has to give {watts} W here: one of {size} W is right. {_pace(s)}",
        needed, goal, days, supplies=() if has else (Supply("heater", f"{size} W", False),),
        risk="One that ran dry may be cracked: unplug it before your hand goes in.",
    )  # fmt: skip
    loses = balance.out_w(goal, heating.cold_c)
    dry_surface = s.system.geometry.footprint_cm2 / 1e4 * SURFACES[heating.lid]
    panels = (float(balance.dry) - dry_surface) * (goal - heating.cold_c)
    surface = min(max(1 - panels / loses, 0.0), 1.0) if loses > 0 else 0.0
    saved = loses - balance.out_w(goal, heating.cold_c + 1)
    lid = _way(
        s, "lid", "Cover part of the surface overnight, and warm the room",
        f"Leave a gap for the air. {_pace(s)}",
        f"The open surface loses {show_number(surface * 100, 0)} % of the heat, and each degree of the room saves "
        f"{show_number(saved, 0)} W. It slows the fall and does not replace a heater.", goal, days,
        value >= goal - s.system.limits.temperature_c,
    )  # fmt: skip
    return [heater, lid]
