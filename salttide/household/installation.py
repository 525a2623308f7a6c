"""How a system is installed, with what its drills measured; and the failure board that follows from it."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from salttide.core.estimate.evaporation import WINDOW, YEAR, Evaporated, evaporated, evaporated_a_year_ago
from salttide.core.failure.board import Failure, board
from salttide.core.failure.installation import Dosed, Installation
from salttide.core.planning.container import Container
from salttide.core.planning.delivery import contents
from salttide.core.system.system import System

from .alarm import watched
from .household import Household


def installation_of(household: Household, system: System) -> Installation:
    """Everything the failure board of a system goes by, at this moment."""
    ledger, waters = household.ledger(system), household.waters(system)
    return Installation(
        system,
        waters.water,
        evaporated(ledger, household.now),
        [_dosed(household, one) for one in household.stored.containers(system.id) if one.pump],
        _tested(household, system),
        household.keeper.units,
        watched(household, system),
    )


def _dosed(household: Household, container: Container) -> Dosed:
    left = contents(container, household.now)
    return Dosed(container, left.ml if left else container.capacity_ml, container.set_at(household.now))


def _tested(household: Household, system: System) -> Mapping[str, date]:
    """The day on which each care task was last done."""
    done = (entry for entry in household.ledger(system).care if not entry.skipped)
    return {entry.task: household.day_of(entry.at) for entry in done}


def year_ago(household: Household, system: System) -> Evaporated | None:
    """What evaporated a day in these weeks a year ago, where it was recorded."""
    since = household.now - YEAR - WINDOW
    return evaporated_a_year_ago(household.recorded(system, since), household.now)


def board_of(household: Household, system: System) -> list[Failure]:
    """The failure board of a system."""
    return board(installation_of(household, system))
