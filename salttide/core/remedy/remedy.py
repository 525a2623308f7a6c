"""A remedy: one way to deal with a cause, with its work, its daily doses, what it needs, and why it stands where it
stands."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum

from ..estimate.supplementation import Changes
from ..ledger.plan import DailyDose
from ..planning.delivery import Diagnosis
from ..planning.variant_choice import Prices
from ..planning.work_order import PlannedWork
from ..science.mix import SaltMix
from ..science.parameters import Parameter
from ..system.shelf import Additive
from ..upkeep.due import Rule


class RemedyKind(StrEnum):
    """What a remedy consists of."""

    DOSE = "dose"
    DAILY = "daily"
    CHANGE = "change"
    FRESH = "fresh"
    TOP_OFF = "top_off"
    FOOD = "food"
    ACT = "act"
    WAIT = "wait"


@dataclass(frozen=True)
class Supply:
    """Something a remedy uses up: its name, the amount in words, and whether it is on the shelf. mass_g: its grams, of
    a compound by its formula or of a salt by its number, for what it costs."""

    name: str
    amount: str
    on_shelf: bool = True
    mass_g: float = 0.0
    formula: str = ""
    salt_id: int = 0


@dataclass(frozen=True)
class Remedy:
    """One way to deal with a cause.

    key: its name among the remedies of one cause · title: what to do, with its numbers · how: the rest of the
    directions · why: one sentence why it stands where it stands · fits: whether it is enough and allowed · aim: the
    level (canonical) it leads to · daily: all daily doses from now on, None where they stay · food_share: the share of
    the present food, 1 where that stays · risk: what would go wrong.
    """

    key: str
    kind: RemedyKind
    title: str
    how: str
    why: str
    fits: bool = True
    parameter: Parameter | None = None
    aim: float | None = None
    work: tuple[PlannedWork, ...] = ()
    daily: tuple[DailyDose, ...] | None = None
    supplies: tuple[Supply, ...] = ()
    risk: str = ""
    food_share: float = 1.0
    additive_id: int = 0

    @property
    def purpose(self) -> str:
        """What it is for, in a few words."""
        return purpose_of(self.title)

    @property
    def minutes(self) -> float:
        """Minutes of work in all."""
        return sum(one.minutes for one in self.work)

    @property
    def last_day(self) -> date | None:
        """The day of its last step; None where it has none."""
        return max((one.day for one in self.work), default=None)

    @property
    def steps(self) -> bool:
        """Whether it changes anything that can be followed: work on the rota, the daily dose, or the food."""
        return bool(self.work) or self.daily is not None or self.food_share != 1.0


def purpose_of(title: str) -> str:
    """What a remedy is for, from its title.

    >>> purpose_of("Raise calcium to 425 mg/L: 3 g")
    'raise calcium to 425 mg/L'
    """
    return title[:1].lower() + title[1:].partition(":")[0]


def cost_of(remedy: Remedy, prices: Prices) -> float | None:
    """What a remedy costs in the keeper's money; None where it takes nothing that is bought, or a price is not known.

    >>> salt = Supply("salt", "2 kg", mass_g=2000.0, salt_id=1)
    >>> cost_of(Remedy("x", RemedyKind.CHANGE, "", "", "", supplies=(salt,)), Prices(salts={1: 4.0}))
    8.0
    """
    bought = [one for one in remedy.supplies if one.mass_g]
    known = [prices.salts.get(o.salt_id) if o.salt_id else prices.additives.get(o.formula) for o in bought]
    if not bought or None in known:
        return None
    return sum(one.mass_g / 1000 * (price or 0.0) for one, price in zip(bought, known, strict=True))


@dataclass(frozen=True)
class InstrumentCheck:
    """The last check of an instrument against a standard: its day, and how far it read off (canonical)."""

    day: date
    off: float


@dataclass(frozen=True)
class Means:
    """What there is to act with: additives on the shelf, the usual salt, the routine of changes (None: not known), the
    rules of care, the day of the next change (None: none is due), litres that evaporate a day, the days from today on
    which a planned change moves the water, and the kinds of remedy the keeper prefers, by rule.

    checked: the last check of an
    instrument against a standard, by its name · faults: of the pumps that dose a parameter.
    """

    additives: Sequence[Additive] = ()
    salt: SaltMix | None = None
    changes: Changes | None = None
    rules: Sequence[Rule] = ()
    change_day: date | None = None
    evaporation_l: float = 0.0
    busy: tuple[int, ...] = ()
    preferred: Mapping[str, str] = field(default_factory=dict)
    checked: Mapping[str, InstrumentCheck] = field(default_factory=dict)
    faults: Mapping[Parameter, Diagnosis] = field(default_factory=dict)
