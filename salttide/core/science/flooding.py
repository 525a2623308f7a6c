"""Water where it should not be: what a vessel does not hold, what is on the floor, and what the rest then is."""

from __future__ import annotations

from dataclasses import replace
from math import exp

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result, Step

SPILT = Formula("v", "on the floor", "max(0, F - r)", "L", "what runs in less the room for it")
FLOODED = Formula(
    "c", "after the flood", "c_i + (c_0 - c_i) * V / (V + r) * exp(-(F - r) / (V + r))", "",
    "fills up first, then runs over as fast as it runs in, well mixed", {"exp": exp},
)  # fmt: skip
RUNS_OVER = Formula("t", "minutes until it runs over", "r / Q * 60", "min", "room over flow")
CHAMBER = Formula("v", "water the return pump can take", "l * w * (h - p) / 1000", "L", "return chamber above the pump")
FREEBOARD = Formula("v", "room in the display", "A * f / 1000", "L", "footprint · rim above the running level")


def spilt_l(flood_l: float, room_l: float) -> Result:
    """Litres on the floor when `flood_l` (0 to 1e5) runs into a room of so many litres (0 to 1e5).

    >>> float(spilt_l(45.0, 30.0)), float(spilt_l(10.0, 30.0))
    (15.0, 0.0)
    """
    return SPILT.result(
        F=FormulaInput(check_range("flood", flood_l, "L", 0, 1e5), "L", "runs in"),
        r=FormulaInput(check_range("room", room_l, "L", 0, 1e5), "L", "room"),
    )


def concentration_after_flood(
    before: float, incoming: float, volume_l: float, flood_l: float, room_l: float, unit: str = "ppt"
) -> Result:
    """What a dissolved thing is at after `flood_l` ran into `volume_l` with so much room above: the room fills first,
    then water runs over as fast as it runs in. Source: mass balance of a stirred vessel.

    >>> round(concentration_after_flood(35.0, 0.0, 334.0, 45.0, 100.0), 2)
    30.84
    >>> round(concentration_after_flood(35.0, 0.0, 100.0, 100.0, 0.0), 2)
    12.88
    """
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    check_range("flood", flood_l, "L", 0, 1e6)
    found = FLOODED.result(
        c_i=FormulaInput(incoming, unit, "of what runs in"),
        c_0=FormulaInput(before, unit, "before"),
        V=FormulaInput(volume_l, "L", "water"),
        F=FormulaInput(flood_l, "L", "runs in"),
        r=FormulaInput(min(flood_l, check_range("room", room_l, "L", 0, 1e6)), "L", "of it stays"),
    )
    return Result((*found.working[:-1], _in_unit(found, unit)))


def _in_unit(found: Result, unit: str) -> Step:
    return replace(found.working[-1], unit=unit)


def minutes_to_overflow(room_l: float, flow_l_h: float) -> Result:
    """Minutes until a pump (1 to 50 000 L/h) has filled a room (0 to 1e5 L).

    >>> float(minutes_to_overflow(20.0, 2400.0))
    0.5
    """
    return RUNS_OVER.result(
        r=FormulaInput(check_range("room", room_l, "L", 0, 1e5), "L", "room"),
        Q=FormulaInput(check_range("flow", flow_l_h, "L/h", 1, 50_000), "L/h", "flow"),
    )


def chamber_l(length_cm: float, width_cm: float, running_cm: float, pump_cm: float) -> Result:
    """Litres that the return pump can take out of its chamber before it draws air: inside length and width (1 to 1000
    cm), running level (1 to 200 cm) and the level at which it draws air (0 to the running level).

    >>> float(chamber_l(30.0, 40.0, 20.0, 8.0))
    14.4
    """
    check_range("running level", running_cm, "cm", 1, 200)
    return CHAMBER.result(
        l=FormulaInput(check_range("return chamber", length_cm, "cm", 1, 1000), "cm", "length of the chamber"),
        w=FormulaInput(check_range("width of the sump", width_cm, "cm", 1, 1000), "cm", "width of the sump"),
        h=FormulaInput(running_cm, "cm", "running level"),
        p=FormulaInput(check_range("level of the pump", pump_cm, "cm", 0, running_cm), "cm", "draws air below"),
    )


def freeboard_l(footprint_cm2: float, freeboard_cm: float) -> Result:
    """Litres that a display still holds above its running level (rim 0 to 50 cm above it).

    >>> float(freeboard_l(6000.0, 3.0))
    18.0
    """
    return FREEBOARD.result(
        A=FormulaInput(check_range("footprint", footprint_cm2, "cm²", 10, 1e6), "cm²", "footprint of the display"),
        f=FormulaInput(check_range("rim", freeboard_cm, "cm", 0, 50), "cm", "rim above the running level"),
    )
