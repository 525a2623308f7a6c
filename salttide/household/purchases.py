"""What there is to buy for all systems: worn parts without a spare, salt that runs out, reagents past their day, and
what the plans need that is not on the shelf."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, day_words
from salttide.core.science.parameters import spoken
from salttide.core.system.system import System
from salttide.core.upkeep.care import going_on
from salttide.core.upkeep.gear import Part, parts_of

from .household import Household
from .mix import bucket_left

AHEAD_DAYS = 30
"""Salt that has to be bought within so many days is on the list."""


class PurchaseKind(StrEnum):
    """What something is bought for."""

    PART = "part"
    SALT = "salt"
    REAGENT = "reagent"
    PLAN = "plan"


@dataclass(frozen=True)
class Purchase:
    """Something to buy: what, why, by when (None: at once), and for which system (0: for all) and part or cause."""

    kind: PurchaseKind
    words: str
    reason: str
    by: date | None
    system_id: int = 0
    key: str = ""


def worn_parts(household: Household, system: System) -> list[Part]:
    """The wearing parts of a system."""
    ledger, zone = household.ledger(system), household.keeper.zone
    placed: dict[str, date] = {}
    for item in household.placed:
        if item.system_id == system.id and item.day >= household.today:
            placed[item.task] = min(item.day, placed.get(item.task, item.day))
    stirs = going_on(ledger.sightings, (), household.now, zone, household.answered(system))
    kept = household.stored.parts_kept[system.id]
    return parts_of(system, household.rules(system), ledger.care, kept, placed, stirs, household.today, zone)


def purchases(household: Household) -> list[Purchase]:
    """Everything there is to buy, what is needed first at the top."""
    found = [*_salts(household), *_reagents(household)]
    for mine in household.each(lambda system: [*_parts(household, system), *_plans(household, system)]).values():
        found += mine
    return sorted(found, key=lambda one: (one.by or household.today, one.words))


def _parts(household: Household, system: System) -> Iterator[Purchase]:
    for part in worn_parts(household, system):
        on = part.changes_on
        if part.to_buy(household.today) and on is not None:
            words = phrase("purchase.part", kind=part.kind.name, system=system.name)
            changed = (
                phrase("purchase.part_is_due")
                if on <= household.today
                else phrase("purchase.part_on", day=day_words(on))
            )
            yield Purchase(PurchaseKind.PART, capital(words), changed, on, system.id, part.kind.key)


def _salts(household: Household) -> Iterator[Purchase]:
    for salt in household.stored.salts:
        left = bucket_left(household, salt)
        if left and left.buy_on and left.buy_on <= household.today + timedelta(days=AHEAD_DAYS):
            yield Purchase(PurchaseKind.SALT, salt.name, capital(left.words), left.buy_on, key=str(salt.id))


def _reagents(household: Household) -> Iterator[Purchase]:
    for (instrument, parameter), day in household.expired.items():
        words = phrase("purchase.reagent", parameter=spoken(parameter), instrument=instrument)
        yield Purchase(PurchaseKind.REAGENT, words, phrase("purchase.expired", day=day_words(day)), None)


def _plans(household: Household, system: System) -> Iterator[Purchase]:
    """What the plans that are followed need, as they were chosen, and the shelf still does not have."""
    here = {one.formula for one in household.stored.additives}
    for followed in household.outlook(system).cases:
        if not followed.standing.live:
            continue
        reason = phrase("purchase.for_plan", system=system.name, plan=followed.case.purpose)
        for supply in followed.case.chosen.to_buy:
            if supply.formula not in here:
                words = phrase("purchase.supply", name=supply.name, amount=supply.amount)
                yield Purchase(PurchaseKind.PLAN, capital(words), reason, None, system.id, followed.case.key)
