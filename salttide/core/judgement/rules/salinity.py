"""Salinity and temperature: corrected first, as everything else is judged at 35 ppt and at the animals' temperature."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta
from math import ceil

from salttide.core.basics.measures import litres_words
from salttide.core.basics.phrasing import counted, listed
from salttide.core.judgement.situation import Situation, real
from salttide.core.ledger.entries import Reading
from salttide.core.science.dilution import salinity_steps_l
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.system.finding import Certainty, Finding

from .swing import swings

SALINITY, TEMPERATURE = Parameter.SALINITY, Parameter.TEMPERATURE
STATED, SALTIEST = 35.0, 45.0
SCALED = (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM)
SUDDEN_DAYS = 2.0
SWING_C = 1.0


def salinity_first(s: Situation) -> Iterator[Finding]:
    """Salinity out of its band: the ions are judged as they would be at 35 ppt, and salinity is corrected first."""
    value = s.value(SALINITY)
    if value is None or not (s.low(SALINITY) or s.high(SALINITY)):
        return
    down = s.high(SALINITY)
    yield Finding(
        f"Salinity is {'high' if down else 'low'}: correct it first",
        f"{s.show(SALINITY, value)} is {s.difference(SALINITY, s.gap(SALINITY))} {'over' if down else 'under'} "
        "its band." + _scaled(s, value),
        _way_down(s, value) if down else _way_up(s, value),
        "A check of the instrument against a 35 ppt standard that shows it off by as much.",
        (s.evidence(SALINITY), *(s.evidence(ion) for ion in SCALED if s.value(ion) is not None)),
        Certainty.LIKELY,
        (SALINITY, *SCALED),
        to_do=f"{'Lower' if down else 'Raise'} salinity to {s.show(SALINITY, s.system.aim(SALINITY) or value)}",
    )


def _way_down(s: Situation, value: float) -> str:
    """Tank water out and fresh water in, in equal daily steps; an instrument may show more than water can hold."""
    goal, limit = s.system.aim(SALINITY), s.system.limits.salinity
    assert goal is not None
    steps = salinity_steps_l(s.system.volume_l, min(value, SALTIEST), goal, 0.0, limit)
    litres = sum(step.litres for step in steps)
    over = f"over {counted(len(steps), 'day')}, {litres_words(litres / len(steps))} a day" if steps[1:] else "in a day"
    return (
        f"Take out {litres_words(litres)} of tank water and put fresh water in its place, {over}: to "
        f"{s.show(SALINITY, goal)}, at most {s.difference(SALINITY, limit)} a day. Then find the missed top-offs."
    )


def _way_up(s: Situation, value: float) -> str:
    """Salt water in place of fresh in the top-off: the gentlest way, as it needs no change."""
    goal, limit = s.system.aim(SALINITY), s.system.limits.salinity
    assert goal is not None
    litres = s.system.volume_l * (goal - value) / STATED
    days = ceil((goal - value) / limit - 1e-9)
    return (
        f"Top off with {litres_words(litres)} of salt water at {s.show(SALINITY, STATED)} in place of fresh, "
        f"{litres_words(litres / days)} a day at most: to {s.show(SALINITY, goal)}, at most "
        f"{s.difference(SALINITY, limit)} a day. Or plan a change with saltier water."
    )


def _scaled(s: Situation, salinity: float) -> str:
    """The ions as they would be at 35 ppt."""
    parts: list[str] = []
    well: list[str] = []
    off: list[str] = []
    for ion in SCALED:
        value, band = s.value(ion), s.band(ion)
        if value is None or band is None or salinity <= 0:
            continue
        at_35 = value * STATED / salinity
        parts.append(f"{spoken(ion)} {s.show(ion, at_35)}")
        if s.gap(ion):
            (well if band.holds(at_35) else off).append(spoken(ion))
    if not parts:
        return ""
    at = s.show(SALINITY, STATED)
    text = f" At {at} this water has {listed(parts)}."
    if well:
        text += f" So {listed(well)} will come right with salinity."
    if off:
        text += f" What is off at {at} too ({listed(off)}) comes after."
    return text


def salinity_sudden(s: Situation) -> Iterator[Finding]:
    """Salinity moved further within hours than a day allows: acute is not chronic."""
    pair = s.pair(SALINITY)
    if pair is None:
        return
    before, last = pair
    moved = last.value - before.value
    hours = (last.at - before.at) / timedelta(hours=1)
    fresh = s.days_ago(last.at) <= SUDDEN_DAYS and hours <= 24 * SUDDEN_DAYS
    if not fresh or abs(moved) <= s.system.limits.salinity or not real(before, last, moved):
        return
    half = before.value + moved / 2
    yield Finding(
        f"Salinity {'rose' if moved > 0 else 'fell'} by {s.difference(SALINITY, moved)} within two days",
        f"From {s.show(SALINITY, before.value)} on {s.when(before.at)} to {s.show(SALINITY, last.value)} on "
        f"{s.when(last.at)}. What came within hours may be brought part of the way back within a day; what has stood "
        "for days may not.",
        f"Stop the cause (top-off, drain, spill), then bring it half-way back, to about {s.show(SALINITY, half)}, "
        "over the day; the rest at the daily limit.",
        "A second instrument that shows no such move.",
        (_reading_words(s, before), _reading_words(s, last)),
        Certainty.LIKELY if s.happened("spill", SUDDEN_DAYS + 1) else Certainty.POSSIBLE,
        (SALINITY, *SCALED),
    )


def _reading_words(s: Situation, reading: Reading) -> str:
    return f"salinity {s.show(SALINITY, reading.value)}, {s.when(reading.at)}, {reading.instrument}"


def temperature_off(s: Situation) -> Iterator[Finding]:
    """Temperature out of its band: heater, thermostat, fan or chiller, and the thermometer itself."""
    if not (s.low(TEMPERATURE) or s.high(TEMPERATURE)):
        return
    value, warm = s.present[TEMPERATURE].value, s.high(TEMPERATURE)
    gear = "the heater (stuck on?), lamps and room; more surface movement, a fan" if warm else "heater and thermostat"
    yield Finding(
        f"The water is too {'warm' if warm else 'cold'}",
        f"{s.show(TEMPERATURE, value)} is {s.difference(TEMPERATURE, s.gap(TEMPERATURE))} "
        f"{'over' if warm else 'under'} the band.",
        f"Check with a second thermometer, then look at {gear}. Back by at most "
        f"{s.difference(TEMPERATURE, s.system.limits.temperature_c)} a day.",
        "A second thermometer that says otherwise.",
        (s.evidence(TEMPERATURE),),
        Certainty.LIKELY,
        (TEMPERATURE,),
    )


def temperature_swings(s: Situation) -> Iterator[Finding]:
    """Temperature moves within a day by more than animals are used to."""
    return swings(
        s,
        TEMPERATURE,
        SWING_C,
        "Temperature swings within a day",
        f"Between {{low}} and {{high}} within a day around {{day}}: more than {s.difference(TEMPERATURE, SWING_C)}.",
        "Look at the heater's size and place, the thermostat's gap, and the lamps' heat.",
        "Two readings at the same hours that lie closer together.",
    )
