"""What-if of a system: what every way of keeping the water starts from, and the proposed plans as ways to compare."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, replace

from salttide.core.estimate.evaporation import evaporation_l
from salttide.core.ledger.entries import Moving
from salttide.core.ledger.plan import Plan
from salttide.core.overview.state import SystemState
from salttide.core.planning.variant import Dosing, Variant, WhatIfContext
from salttide.core.planning.variant_choice import StartCorrection, start_doses
from salttide.core.remedy.cause import Cause
from salttide.core.remedy.effect import events_of, with_food
from salttide.core.remedy.remedy import Remedy
from salttide.core.system.system import System
from salttide.core.upkeep.due import minutes_of
from salttide.core.upkeep.rota import WATER_CHANGE

from .household import Household
from .remedy import cause_of, choose


@dataclass(frozen=True)
class Start:
    """A way of keeping the water as it starts: from what, the way itself, and what moves the water at the start."""

    setting: WhatIfContext
    variant: Variant
    events: Sequence[Moving]


def setting_of(household: Household, system: System, days: int) -> WhatIfContext:
    """What all variants of a system start from, over so many days."""
    view, now = household.waters(system), household.now
    minutes = minutes_of(household.rules(system), WATER_CHANGE)
    evaporation = evaporation_l(view.ledger, now)
    return WhatIfContext(
        system, view.ledger, view.rates(), Plan(daily=view.daily), now, days, minutes, evaporation
    )  # fmt: skip


def started(
    household: Household, setting: WhatIfContext, variant: Variant, corrections: Sequence[StartCorrection], plan: str
) -> Start:
    """A variant with its own corrections, with the doses and water that are on the rota, and with the plan proposed for
    a cause (its name; empty: none). Raises NotFoundError where that cause does not stand any more."""
    ahead = household.ahead(setting.system)
    events: list[Moving] = [
        *start_doses(setting, corrections), *ahead.events(household.now, household.keeper.zone, changes=False)
    ]  # fmt: skip
    if not plan:
        return Start(setting, variant, events)
    view = household.outlook(setting.system)
    remedy = proposed(view, cause_of(view, plan))
    if remedy is None:
        return Start(setting, variant, events)
    daily = setting.plan.daily if remedy.daily is None else remedy.daily
    fed = with_food(variant, remedy)
    setting = replace(setting, plan=replace(setting.plan, daily=daily))
    return Start(setting, fed, [*events, *events_of(remedy, view.basis.situation)])


def proposed(view: SystemState, cause: Cause) -> Remedy | None:
    """The remedy that is proposed for a cause, where it has steps and no plan is followed for it already."""
    followed = {one.case.key for one in view.cases if one.standing.live}
    return cause.first if cause.first and cause.first.steps and cause.key not in followed else None


def proposals(view: SystemState) -> list[tuple[Cause, Remedy]]:
    """The plans that can be compared: those that are proposed and move what is forecast."""
    found = [(cause, proposed(view, cause)) for cause in view.causes]
    forecast = view.basis.situation.rates
    return [(cause, one) for cause, one in found if one and (one.parameter in forecast or one.daily is not None)]


def follow(
    household: Household, connection: sqlite3.Connection, system: System, cause: str, variant: Variant, by: str
) -> str:
    """Choose the plan that was compared with a variant; the variant's own dosing counts before the plan's. Returns what
    was done in words. Raises NotFoundError, ConflictError."""
    found = cause_of(household.outlook(system), cause)
    key = found.first.key if found.first else ""
    return choose(household, connection, system, cause, key, by, daily=variant.dosing == Dosing.AS_NOW)
