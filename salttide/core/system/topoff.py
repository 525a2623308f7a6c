"""The top-off as it is built: reservoir, pump, line, limewater, and what stops it when it should not run."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from ..basics.errors import InputError, check_range
from ..science.topoff import independent_safeguards


class Senses(StrEnum):
    """What notices that there is water enough."""

    FLOAT = "float"
    FLOAT_2 = "float_2"
    OPTICAL = "optical"
    PRESSURE = "pressure"
    CLOCK = "clock"
    LEAK = "leak"
    SALINITY = "salinity"


class CutOff(StrEnum):
    """What then stops the water."""

    PUMP = "pump"
    SECOND_PLUG = "second_plug"
    FLOAT_VALVE = "float_valve"
    ELECTRIC_VALVE = "electric_valve"
    LEAK_VALVE = "leak_valve"


SENSES: Mapping[Senses, str] = {
    Senses.FLOAT: "float switch",
    Senses.FLOAT_2: "second float switch",
    Senses.OPTICAL: "optical sensor",
    Senses.PRESSURE: "pressure sensor",
    Senses.CLOCK: "run-time limit",
    Senses.LEAK: "leak sensor",
    Senses.SALINITY: "salinity probe",
}
CUT_OFFS: Mapping[CutOff, str] = {
    CutOff.PUMP: "the pump's own switch",
    CutOff.SECOND_PLUG: "a second switch in the pump's supply",
    CutOff.FLOAT_VALVE: "a float valve in the line",
    CutOff.ELECTRIC_VALVE: "an electric valve",
    CutOff.LEAK_VALVE: "a shut-off that closes by a spring",
}
MAX_STOPS = 6


@dataclass(frozen=True)
class TopOffStop:
    """A chain that stops the top-off: what notices, and what it stops the water with."""

    senses: Senses
    cut_off: CutOff

    @property
    def words(self) -> str:
        """It in words.

        >>> TopOffStop(Senses.FLOAT, CutOff.PUMP).words
        "float switch, by the pump's own switch"
        """
        return f"{SENSES[self.senses]}, by {CUT_OFFS[self.cut_off]}"


@dataclass(frozen=True)
class TopOffSetup:
    """reservoir_l: usable litres, 0 by hand · pump_l_h: of the top-off pump · refill_l: litres it runs in at a time, 0
    to hold the level all day · limit_min: longest run before it gives up, 0 for none · line_l_h: of a line from the
    RO/DI unit or the mains that fills reservoir or sump by itself, 0 for none · limewater: whether the reservoir holds
    it."""

    reservoir_l: float = 0.0
    pump_l_h: float = 0.0
    refill_l: float = 0.0
    limit_min: float = 0.0
    line_l_h: float = 0.0
    limewater: bool = False
    stops: tuple[TopOffStop, ...] = ()

    @property
    def run_l(self) -> float:
        """Litres that one run can bring at most: the reservoir's, or what the longest run pumps."""
        if self.limit_min and self.pump_l_h:
            return min(self.reservoir_l, self.pump_l_h * self.limit_min / 60)
        return self.reservoir_l


NO_TOP_OFF = TopOffSetup()


def check_top_off(one: TopOffSetup) -> TopOffSetup:
    """Refuse impossible values at their field: reservoir 0 to 2000 L, pump and line 0 to 2000 L/h, refills no larger
    than the reservoir, runs up to 24 h, up to six stops, none twice."""
    check_range("reservoir", one.reservoir_l, "L", 0, 2000, field="reservoir_l")
    check_range("pump", one.pump_l_h, "L/h", 0, 2000, field="pump_l_h")
    check_range("line", one.line_l_h, "L/h", 0, 2000, field="line_l_h")
    check_range("refill", one.refill_l, "L", 0, one.reservoir_l, field="refill_l")
    check_range("longest run", one.limit_min, "min", 0, 1440, field="limit_min")
    if len(one.stops) > MAX_STOPS:
        accepted = f"0 to {MAX_STOPS} stops"
        raise InputError("too many stops", field="stops", accepted=accepted)
    if len({*one.stops}) < len(one.stops):
        raise InputError("one stop stands there twice", field="stops", accepted="each of them once")
    return one


def independent(stops: Sequence[TopOffStop]) -> int:
    """How many of the stops share no part. An electric valve never counts alone: without power or with a grain of
    sand in it, it stays as it is.

    >>> independent([TopOffStop(Senses.FLOAT, CutOff.ELECTRIC_VALVE)])
    0
    >>> independent([TopOffStop(Senses.FLOAT, CutOff.PUMP), TopOffStop(Senses.CLOCK, CutOff.SECOND_PLUG)])
    2
    """
    count = independent_safeguards([(one.senses.value, one.cut_off.value) for one in stops])
    only_valves = all(one.cut_off == CutOff.ELECTRIC_VALVE for one in stops)
    return max(0, count - 1) if stops and only_valves else count


def shared(stops: Sequence[TopOffStop]) -> list[str]:
    """What two or more stops share, in words: it makes one of them.

    >>> shared([TopOffStop(Senses.FLOAT, CutOff.PUMP), TopOffStop(Senses.OPTICAL, CutOff.PUMP)])
    ["the pump's own switch"]
    """
    found = [CUT_OFFS[part] for part in CutOff if sum(one.cut_off == part for one in stops) > 1]
    return found + [SENSES[part] for part in Senses if sum(one.senses == part for one in stops) > 1]
