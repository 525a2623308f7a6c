"""Water that runs where it should not, or stays away: overflow, siphon, top-off, skimmer, hoses, panels."""

from __future__ import annotations

from dataclasses import replace

from ..basics.measures import litres_words, weight_words
from ..basics.working import Result
from ..science.flooding import concentration_after_flood, minutes_to_overflow, spilt_l
from ..science.parameters import Parameter
from ..science.topoff import lime_flood, salinity_after_evaporation
from ..system.volume import display_chamber
from .installation import Installation
from .outcome import Effect, Outcome, hours_words, needed, unknown, worst
from .usual import HARMS, NIGHT_H, Harm

SALINITY, ALKALINITY, PH = Parameter.SALINITY, Parameter.ALKALINITY, Parameter.PH
CALCIUM = Parameter.CALCIUM
DAY_H = 24.0
WET_L = HARMS["floor_l"][0]


def return_stops(at: Installation) -> Outcome | None:
    """The return pump stops: what stands above the weir runs back into the sump."""
    if not at.overflows:
        return None
    back, room = at.back, at.sump_room
    if back is None or room is None:
        return unknown(*needed(fall_cm=back, rim_cm=room))
    runs = f"{litres_words(float(back))} run back into the sump, which has room for {litres_words(float(room))}"
    outcome = _into_sump("back", back, room, runs)
    if at.has("powerhead"):
        return outcome
    still = "Nothing else moves the water: oxygen falls as in a power failure."
    return replace(outcome, words=f"{outcome.words} {still}")


def siphon_holds(at: Installation) -> Outcome | None:
    """The siphon does not break: the display drains down to the return's outlet."""
    if not at.overflows:
        return None
    down, room = at.down, at.sump_room
    if down is None or room is None:
        return unknown(*needed(outlet_cm=down, rim_cm=room))
    runs = f"The display drains down to the outlet: {litres_words(float(down))}, with room for"
    return _into_sump("down", down, room, f"{runs} {litres_words(float(room))} in the sump")


def _into_sump(key: str, litres: Result, room: Result, runs: str) -> Outcome:
    """Water that runs into the sump: it holds, or the rest is on the floor at once."""
    floor = spilt_l(float(litres), float(room))
    wet = floor > WET_L
    words = f"{runs}: {litres_words(float(floor))} end up on the floor." if wet else f"{runs}: it holds."
    effects = (_litres(key, litres), _litres("floor", floor))
    return Outcome(words, effects, worst(("floor_l", floor)), 0.0 if wet else None)


def overflow_blocked(at: Installation) -> Outcome | None:
    """A snail or a leaf shuts the overflow: the return pump empties its chamber into the display, and the top-off helps
    it as long as it finds the sump low."""
    if not at.overflows:
        return None
    pumped, room = at.pumpable, at.display_room
    if pumped is None or room is None:
        return unknown(*needed(chamber_cm=at.plumbing.chamber_cm, pump_cm=at.plumbing.pump_cm, freeboard_cm=room))
    added = at.added_l
    floor = spilt_l(float(pumped) + added, float(room))
    before = at.now(SALINITY)
    first = max(0.0, float(pumped) - float(room))
    left = max(0.0, float(room) - float(pumped))
    after = concentration_after_flood(before, 0.0, at.system.volume_l - first, added, left)
    words = f"The pump lifts {litres_words(float(pumped))} out of its chamber"
    if added:
        words += f", and the top-off follows with up to {litres_words(added)} of fresh water"
    words += f"; above the running level the display has room for {litres_words(float(room))}"
    words += f". {litres_words(float(floor))} on the floor" if floor > WET_L else ": it holds"
    flow = at.plumbing.return_l_h
    minutes = minutes_to_overflow(float(room), flow) if flow and floor > WET_L else None
    if minutes is not None:
        words += f", from {hours_words(float(minutes) / 60)} on"
    words += "."
    effects = [_litres("floor", floor)]
    if minutes is not None:
        effects.append(Effect("minutes", float(minutes), hours_words(float(minutes) / 60), minutes.working))
    if added:
        effects.append(_value(at, SALINITY, after))
        words += f" Salinity {at.shown(SALINITY, float(after))}."
    harm = worst(("floor_l", floor), ("salinity", before - float(after)), alive=at.alive)
    return Outcome(words, tuple(effects), harm, float(minutes) / 60 if minutes is not None else None)


def top_off_open(at: Installation) -> Outcome | None:
    """The top-off sticks on: the whole reservoir runs in at once."""
    setup = at.top_off
    if not at.tops_off or not setup.reservoir_l:
        return unknown("reservoir_l") if at.tops_off else None
    return _run_in(at, setup.reservoir_l, setup.pump_l_h, setup.limewater)


def line_open(at: Installation) -> Outcome | None:
    """A line from the RO/DI unit or the mains stays open for a night."""
    if not at.top_off.line_l_h:
        return None
    return _run_in(at, at.top_off.line_l_h * NIGHT_H, at.top_off.line_l_h, False)


def _run_in(at: Installation, litres: float, l_h: float, limewater: bool) -> Outcome:
    room = at.sump_room if at.overflows else at.display_room
    if room is None:
        return unknown("rim_cm" if at.overflows else "freeboard_cm")
    before, volume = at.now(SALINITY), at.system.volume_l
    floor = spilt_l(litres, float(room))
    after = concentration_after_flood(before, 0.0, volume, litres, float(room))
    words = f"{litres_words(litres)} run in"
    if l_h:
        words += f" within {hours_words(litres / l_h)}"
    words += f": salinity {at.shown(SALINITY, float(after))}"
    effects = [_value(at, SALINITY, after), _litres("floor", floor)]
    sizes = [("salinity", before - float(after)), ("floor_l", float(floor))]
    if limewater:
        lime = lime_flood(
            at.now(ALKALINITY), volume, litres, at.now(PH), before, at.now(Parameter.TEMPERATURE), at.now(CALCIUM)
        )
        rise = float(lime.alkalinity_meq_l) - at.now(ALKALINITY)
        words += f", alkalinity {at.shown(ALKALINITY, float(lime.alkalinity_meq_l))} with limewater in it"
        effects.append(_value(at, ALKALINITY, lime.alkalinity_meq_l))
        sizes.append(("alkalinity", rise))
        if lime.ph_nbs is not None:
            words += f", pH {at.shown(PH, lime.ph_nbs)}"
            effects.append(Effect(PH.value, lime.ph_nbs, at.shown(PH, lime.ph_nbs)))
        if lime.runs_away:
            words += ", so high that calcium carbonate falls out and takes alkalinity below where it was"
        sizes.append(("ph", lime.ph_nbs if lime.ph_nbs is not None else 9.5))
    words += f", and {litres_words(float(floor))} over the rim onto the floor" if floor > WET_L else ""
    if floor > WET_L:
        salt = (before * volume - float(after) * (volume + float(room))) if litres > room else 0.0
        words += f" with {weight_words(salt)} of salt in it" if salt >= 1 else ""
    harm = worst(*sizes, alive=at.alive)
    first = volume / (before - 1.0) if before > 2 else None
    after_h = None if not harm or not l_h or first is None else min(first, litres) / l_h
    return Outcome(f"{words}.", tuple(effects), harm, after_h)


def runs_dry(at: Installation) -> Outcome | None:
    """No top-off comes: the return chamber falls until its pump draws air; without one, salinity climbs."""
    per_h, before, volume = at.evaporated.per_day_l / DAY_H, at.now(SALINITY), at.system.volume_l
    if per_h <= 0:
        return None
    if at.overflows:
        pumped = at.pumpable
        if pumped is None:
            return unknown(*needed(chamber_cm=at.plumbing.chamber_cm, pump_cm=at.plumbing.pump_cm))
        lost = min(float(pumped), volume / 2)
        what = f"The return pump draws air after {hours_words(lost / per_h)}"
    else:
        lost = volume * 1.0 / (before + 1.0)
        what = f"After {hours_words(lost / per_h)} salinity has risen by {at.differs(SALINITY, 1.0)}"
    after = salinity_after_evaporation(before, volume, lost)
    words = f"{what}: {litres_words(lost)} evaporated at {litres_words(at.evaporated.per_day_l, 1)} a day"
    words += f", salinity {at.shown(SALINITY, float(after))}." if at.overflows else "."
    effects = (_hours("dry", lost / per_h), _value(at, SALINITY, after))
    harm = worst(("salinity", float(after) - before), alive=at.alive)
    if at.overflows:
        harm = max(harm, Harm.SERIOUS if at.alive else Harm.NUISANCE)
    return Outcome(words, effects, harm, lost / per_h)


def reservoir_empty(at: Installation) -> Outcome | None:
    """The reservoir runs empty while nobody looks."""
    if not at.top_off.reservoir_l or at.evaporated.per_day_l <= 0:
        return None
    days = at.top_off.reservoir_l / at.evaporated.per_day_l
    dry = runs_dry(at)
    if dry is None or dry.missing:
        return dry
    later = days * DAY_H + (dry.after_h or 0.0)
    words = f"Full, it lasts {hours_words(days * DAY_H)}. {dry.words}"
    effects = (_hours("lasts", days * DAY_H), *dry.effects)
    return Outcome(words, effects, dry.harm, later)


def skimmer_overflows(at: Installation) -> Outcome | None:
    """Foam runs over for a night: tank water leaves, fresh water takes its place."""
    if not at.has("skimmer"):
        return None
    pumped = at.pumpable
    limit = float(pumped) + at.added_l if pumped is not None else None
    if at.overflows and limit is None:
        return unknown(*needed(chamber_cm=at.plumbing.chamber_cm, pump_cm=at.plumbing.pump_cm))
    litres = min(WET_L_H * NIGHT_H, limit if limit is not None else WET_L_H * NIGHT_H)
    floor = spilt_l(litres, at.plumbing.cup_l)
    fresh = min(at.added_l, litres)
    before = at.now(SALINITY)
    after = concentration_after_flood(before, 0.0, at.system.volume_l, fresh, 0.0)
    words = f"{litres_words(litres)} in a night, {litres_words(float(floor))} of it on the floor"
    effects = [_litres("floor", floor)]
    if fresh:
        words += f"; the top-off replaces it with fresh water: salinity {at.shown(SALINITY, float(after))}"
        effects.append(_value(at, SALINITY, after))
    harm = worst(("floor_l", floor), ("salinity", before - float(after)), alive=at.alive)
    return Outcome(f"{words}.", tuple(effects), harm, at.plumbing.cup_l / WET_L_H if harm else None)


WET_L_H = 3.0
"""Litres an hour that a skimmer throws out when its foam has gone wild (judgement)."""


def hose_off(at: Installation) -> Outcome | None:
    """The hose of the return comes off: everything the pump can take goes on the floor, with what runs back."""
    if not at.overflows:
        return None
    pumped, back = at.pumpable, at.back
    if pumped is None or back is None:
        return unknown(*needed(chamber_cm=at.plumbing.chamber_cm, pump_cm=at.plumbing.pump_cm, fall_cm=back))
    litres = spilt_l(float(pumped) + float(back) + at.added_l, 0.0)
    words = f"The pump empties its chamber onto the floor, with what runs back and is topped off: {_said(litres)}."
    effects = [_litres("floor", litres)]
    flow, minutes = at.plumbing.return_l_h, None
    if flow:
        minutes = float(pumped) / flow * 60
        words += f" The first {litres_words(float(pumped))} within {hours_words(minutes / 60)}."
    return Outcome(words, tuple(effects), worst(("floor_l", litres)), 0.0)


def panel_leaks(at: Installation) -> Outcome:
    """A panel or a seam of the display gives way."""
    held = display_chamber(at.system.geometry).holds_l
    pumped = at.pumpable
    litres = spilt_l(held + (float(pumped) if pumped is not None else 0.0) + at.added_l, 0.0)
    words = f"Down to the crack everything runs out, at most {_said(litres)}."
    return Outcome(words, (_litres("floor", litres),), worst(("floor_l", litres)), 0.0)


def _said(litres: float) -> str:
    return litres_words(float(litres), 0)


def _litres(key: str, result: float) -> Effect:
    return Effect(key, float(result), litres_words(float(result)), getattr(result, "working", ()))


def _hours(key: str, hours: float) -> Effect:
    return Effect(key, hours, hours_words(hours))


def _value(at: Installation, parameter: Parameter, result: float) -> Effect:
    return Effect(parameter.value, float(result), at.shown(parameter, float(result)), getattr(result, "working", ()))
