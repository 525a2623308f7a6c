"""A system as it is installed: all that the failure board goes by, and the litres and watts that follow from it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime

from ..basics.working import Result
from ..estimate.evaporation import Evaporated, evaporated
from ..ledger.entries import Ledger
from ..planning.container import Container
from ..planning.plumbing import as_drilled, runs_back, runs_down, sump_of, sump_room
from ..science.flooding import chamber_l, freeboard_l
from ..science.heat_balance import HeatBalance
from ..science.parameters import Parameter
from ..science.units import UnitChoice, show, show_difference
from ..system.endurance import fish_g, heat_balance
from ..system.heating import Heating
from ..system.plumbing import Plumbing
from ..system.system import System
from ..system.topoff import TopOffSetup
from .usual import USUAL

ALARMS = "controller"
"""The kind of gear that stands for alarms."""


def as_recorded(system: System, ledger: Ledger, now: datetime, alarmed: bool = False) -> System:
    """The system with what its record shows of its installation: what evaporates, how far the sump rose at the last
    drill, and, where limits are set, that it has alarms to test."""
    heating = replace(system.heating, evaporates_l_day=evaporated(ledger, now).per_day_l)
    gear = (*system.gear, ALARMS) if alarmed and ALARMS not in system.gear else system.gear
    return replace(system, heating=heating, plumbing=as_drilled(system.plumbing, ledger), gear=gear)


@dataclass(frozen=True)
class Dosed:
    """A dosing container with what is in it (mL) and what its pump gives a day (mL)."""

    container: Container
    ml: float
    ml_day: float


@dataclass(frozen=True)
class Installation:
    """water: latest values, canonical · dosed: containers with a pump · tested: the day each care task was last done,
    skips left out · watched: the safeguards that alarms are."""

    system: System
    water: Mapping[Parameter, float]
    evaporated: Evaporated
    dosed: Sequence[Dosed] = ()
    tested: Mapping[str, date] = field(default_factory=dict)
    units: UnitChoice = field(default_factory=dict)
    watched: frozenset[str] = frozenset()

    @property
    def plumbing(self) -> Plumbing:
        """Its hoses, pumps and levels."""
        return self.system.plumbing

    @property
    def heating(self) -> Heating:
        """What warms and cools it."""
        return self.system.heating

    @property
    def top_off(self) -> TopOffSetup:
        """The top-off as it is built."""
        return self.system.top_off

    def has(self, *gear: str) -> bool:
        """Whether it has one of these kinds of gear."""
        return not set(gear).isdisjoint(self.system.gear)

    @property
    def tops_off(self) -> bool:
        """Whether a pump tops it off: by its gear, or by what was entered of it."""
        return self.has("top_off") or bool(self.top_off.reservoir_l and self.top_off.pump_l_h)

    @property
    def overflows(self) -> bool:
        """Whether a return pump lifts water from a sump into the display."""
        return self.has("return_pump") and self.system.geometry.has_sump

    @property
    def alive(self) -> bool:
        """Whether animals live in it."""
        return any(one.count for one in self.system.animals)

    def now(self, parameter: Parameter) -> float:
        """The latest value; the aim where it was not measured, a usual one where there is none either."""
        value = self.water.get(parameter)
        return value if value is not None else (self.system.aim(parameter) or USUAL[parameter])

    def shown(self, parameter: Parameter, value: float) -> str:
        """A value as the keeper reads it."""
        return show(parameter, value, self.units)

    def differs(self, parameter: Parameter, size: float) -> str:
        """The size of a difference as the keeper reads it."""
        return show_difference(parameter, abs(size), self.now(parameter), self.units)

    @property
    def balance(self) -> HeatBalance:
        """Its heat balance."""
        return heat_balance(self.system)

    @property
    def fish_g(self) -> float:
        """The weight of all fish."""
        return fish_g(self.system)

    @property
    def back(self) -> Result | None:
        """Litres that run back when the return stops."""
        return runs_back(self.system, self.plumbing)

    @property
    def down(self) -> Result | None:
        """Litres that run down where the siphon does not break."""
        return runs_down(self.system, self.plumbing)

    @property
    def sump_room(self) -> Result | None:
        """Litres that the sump still holds."""
        return sump_room(self.system, self.plumbing)

    @property
    def display_room(self) -> Result | None:
        """Litres that the display still holds above its running level."""
        rim = self.plumbing.freeboard_cm
        return None if rim is None else freeboard_l(self.system.geometry.footprint_cm2, rim)

    @property
    def pumpable(self) -> Result | None:
        """Litres that the return pump can take out of its chamber."""
        service = self.plumbing
        sump = sump_of(self.system, service)
        if sump is None or service.chamber_cm is None or service.pump_cm is None:
            return None
        return chamber_l(service.chamber_cm, sump.width_cm, sump.depth_cm, service.pump_cm)

    @property
    def added_l(self) -> float:
        """Litres that the top-off brings while it finds the level low, at most."""
        return self.top_off.run_l if self.tops_off and self.top_off.pump_l_h else 0.0
