"""A system's uptake and what replaces it, for every part of Dosing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from salttide.core.estimate.budget import speed_words
from salttide.core.estimate.dose_review import Review
from salttide.core.estimate.evaporation import evaporation_l
from salttide.core.estimate.provisional import ProvisionalRate, provisional_rate
from salttide.core.estimate.rate import Rate
from salttide.core.estimate.supplementation import ALKALINITY, USED, Changes, held_at
from salttide.core.judgement.situation import Situation
from salttide.core.ledger.plan import Plan, per_day_of
from salttide.core.overview.state import Waters
from salttide.core.planning.correction import WaterNow, water_now
from salttide.core.planning.daily_fit import DailySupply, supply_of
from salttide.core.planning.dosing_words import DosedSystem
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System

from .household import Household


@dataclass
class UptakeContext:
    """A system's uptake at one moment."""

    household: Household
    system: System

    @cached_property
    def view(self) -> Waters:
        """Its water."""
        return self.household.waters(self.system)

    @cached_property
    def rates(self) -> Mapping[Parameter, Rate | None]:
        """Rates of what corals use."""
        return {p: self.view.rates([p]).get(p) for p in USED}

    def provisional(self, parameter: Parameter) -> ProvisionalRate | None:
        """A first figure from two tests, where there are too few for an estimate."""
        return provisional_rate(self.view.ledger, parameter, self.household.now)

    @cached_property
    def changes(self) -> Changes | None:
        """The routine of changes with the usual salt; None where there is no salt or no routine."""
        return self.household.ahead(self.system).changes(self.system, self.household.now)

    @property
    def targets(self) -> dict[Parameter, float]:
        """The level each is held at."""
        return held_at(self.system.aims, self.view.water)

    @property
    def dosed(self) -> float:
        """Alkalinity dosed daily, meq/L."""
        return per_day_of(self.view.daily, ALKALINITY, self.system.volume_l)

    @cached_property
    def evaporation_l(self) -> float:
        """L a day."""
        return evaporation_l(self.view.ledger, self.household.now)

    @property
    def supply(self) -> DailySupply:
        """What it gets and uses a day."""
        household = self.household
        faulty = household.ahead(self.system).faults(household.now, household.keeper.zone)
        additives = household.stored.additives
        return supply_of(self.system, self.situation.rates, self.view.daily, self.changes, additives, faulty)

    @property
    def review(self) -> Review:
        """Whether what comes in a day still replaces what is used."""
        return self.supply.review(ALKALINITY)

    @cached_property
    def situation(self) -> Situation:
        """The situation for the rules of judgement."""
        keeper = self.household.keeper
        plan = Plan(daily=self.view.daily)
        return Situation(self.system, self.view.ledger, self.household.now, keeper.zone, keeper.units, plan)

    @property
    def water_now(self) -> WaterNow:
        """The water that doses go into."""
        return water_now(self.view.water)

    @property
    def dosed_system(self) -> DosedSystem:
        """The system as needed for remarks on a dosing routine."""
        units, limit = self.household.keeper.units, self.situation.limit
        return DosedSystem(self.system, self.targets, self.rates, self.water_now, limit, units)

    @property
    def pumped(self) -> frozenset[str]:
        """Additives that a pump gives."""
        return frozenset(one.additive.name for one in self.household.stored.containers(self.system.id) if one.pump)

    def speed(self, parameter: Parameter, per_day: float, unit: bool = True) -> str:
        """A rate in the keeper's unit, with one digit more than a result."""
        return speed_words(parameter, per_day, self.household.keeper.units, unit)
