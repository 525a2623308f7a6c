"""What is told of a system's uptake and of what replaces it, shared by the parts of Dosing."""

from dataclasses import dataclass
from functools import cached_property
from typing import Any

from salttide.core.estimate.budget import speed_words
from salttide.core.estimate.evaporation import evaporation_l
from salttide.core.estimate.supplementation import ALKALINITY, USED, Changes
from salttide.core.ledger.plan import DailyDose, daily_as_recorded
from salttide.core.overview.state import Waters
from salttide.core.planning.correction import WaterNow
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System

from .context import Context


@dataclass
class Told:
    """What is known of a system's uptake at this request."""

    ctx: Context
    system: System
    view: Waters

    @cached_property
    def paces(self) -> dict[Parameter, Any]:
        """Paces of what corals use."""
        return {p: self.view.paces([p]).get(p) for p in USED}

    @cached_property
    def changes(self) -> Changes | None:
        """The routine of changes with the usual salt; None where there is no salt or no routine."""
        return self.ctx.household.ahead(self.system).changes(self.system, self.ctx.now)

    @property
    def targets(self) -> dict[Parameter, float]:
        """Where each is held: the middle of its band, else what it is now."""
        held = {p: band.middle for p in USED if (band := self.system.bands.get(p))}
        return {**{p: self.view.water[p] for p in USED if p in self.view.water}, **held}

    @property
    def dosed(self) -> float:
        """Alkalinity dosed daily, meq/L."""
        daily = self.ctx.household.ahead(self.system).daily
        doses = self.recorded if daily is None else daily
        return sum(dose.amounts.get(ALKALINITY, 0.0) for dose in doses) / self.system.volume_l

    @property
    def recorded(self) -> tuple[DailyDose, ...]:
        """The daily doses of late."""
        return daily_as_recorded(self.view.ledger, self.ctx.now)

    @cached_property
    def evaporation_l(self) -> float:
        """L a day."""
        return evaporation_l(self.view.ledger, self.ctx.now)

    def speed(self, parameter: Parameter, per_day: float, unit: bool = True) -> str:
        """A rate in the keeper's unit, a digit more than a result has."""
        return speed_words(parameter, per_day, self.ctx.keeper.units, unit)


def told_of(ctx: Context, system_id: int) -> Told:
    """What is known of a system."""
    system = ctx.stored.system(system_id)
    return Told(ctx, system, ctx.household.waters(system))


def water_of(told: Told) -> WaterNow:
    """The water that doses go into."""
    water = told.view.water
    usual = WaterNow()
    return WaterNow(
        water.get(Parameter.PH, usual.ph_nbs),
        water.get(Parameter.SALINITY, usual.salinity),
        water.get(Parameter.TEMPERATURE, usual.temperature_c),
        water.get(Parameter.ALKALINITY, usual.alkalinity_meq_l),
        water.get(Parameter.CALCIUM, usual.calcium_mg_l),
    )
