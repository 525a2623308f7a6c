"""The daily dose that replaces what is used: whether the present one still fits, and what takes its place."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from ..estimate.dose_review import Fit, Review, review_dose
from ..estimate.rate import Rate
from ..estimate.supplementation import Changes, brought_by_changes
from ..ledger.plan import DailyDose, per_day_of
from ..science.amount import dose_text
from ..science.parameters import Parameter
from ..system.additive_amount import rises
from ..system.shelf import Additive
from ..system.system import System


@dataclass(frozen=True)
class DailySupply:
    """What a system gets and uses a day: rates, daily doses, the routine of changes, aims (canonical), net volume in
    L, whether doses without a container are given by hand, the strength of solutions (g/L) by name, and
    the parameters whose pump does not deliver what it is set to."""

    rates: Mapping[Parameter, Rate | None]
    daily: Sequence[DailyDose]
    changes: Changes | None
    aims: Mapping[Parameter, float]
    volume_l: float
    by_hand: bool = True
    strengths: Mapping[str, float] = field(default_factory=dict)
    faulty: Collection[Parameter] = ()

    def review(self, parameter: Parameter) -> Review:
        """Whether what comes in a day, by doses and changes, replaces what is used."""
        by_changes = brought_by_changes(self.changes, parameter, self.aims.get(parameter))
        return review_dose(self.rates.get(parameter), per_day_of(self.daily, parameter, self.volume_l), by_changes)


def supply_of(
    system: System, rates: Mapping[Parameter, Rate | None], daily: Sequence[DailyDose], changes: Changes | None,
    additives: Iterable[Additive], faulty: Collection[Parameter],
) -> DailySupply:  # fmt: skip
    """What a system gets and uses a day, with what is on the shelf."""
    strengths = {one.name: one.strength_g_l for one in additives if one.strength_g_l}
    by_hand = "dosing_pump" not in system.gear
    return DailySupply(rates, daily, changes, system.aims, system.volume_l, by_hand, strengths, faulty)


@dataclass(frozen=True)
class DailyFit:
    """A daily dose that fits: the dose before (None: there was none) and after, all daily doses with it, and the level
    lost or gained a day with them, changes left out (canonical)."""

    before: DailyDose | None
    after: DailyDose
    daily: tuple[DailyDose, ...]
    net_use: float

    @property
    def words(self) -> str:
        """The dose and what it was, in a few words.

        >>> soda = DailyDose("soda stock", 1.0, {}, ml=20.0)
        >>> DailyFit(soda, replace(soda, ml=25.0), (), 0.0).words
        '25.0 mL soda stock a day instead of 20.0 mL'
        """
        size = f"{_size(self.after)} {self.after.additive} a day"
        return f"{size} instead of {_size(self.before)}" if self.before else size


def _size(dose: DailyDose) -> str:
    return dose_text(dose.mass_g, dose.ml or None, "")


def fitting_daily(supply: DailySupply, parameter: Parameter, additive: Additive | None) -> DailyFit | None:
    """The daily dose that replaces what is used of a parameter; None where the present one fits, or is not known, and
    where its pump fails: that is repaired, a larger setting would hide it.

    The dose that raises the parameter most is made larger or smaller; where there is none, `additive` is dosed from
    now on. What has no mass of its own, such as a reactor, is left alone.
    """
    found = supply.review(parameter)
    if found.fit not in (Fit.SHORT, Fit.OVER) or parameter in supply.faulty:
        return None
    raising = [dose for dose in supply.daily if dose.amounts.get(parameter, 0.0) > 0]
    wanted = found.proposed * supply.volume_l
    rest = sum(dose.amounts[parameter] for dose in raising)
    net_use = found.uptake - found.proposed
    if not raising:
        after = _new(additive, parameter, wanted, supply) if additive else None
        return DailyFit(None, after, (*supply.daily, after), net_use) if after else None
    largest = max(raising, key=lambda dose: dose.amounts[parameter])
    strength = supply.strengths.get(largest.additive)
    before = replace(largest, ml=largest.mass_g / strength * 1000) if strength else largest
    others = rest - before.amounts[parameter]
    if not before.mass_g or wanted <= others:
        return None
    after = _scaled(before, (wanted - others) / before.amounts[parameter])
    return DailyFit(before, after, tuple(after if dose is largest else dose for dose in supply.daily), net_use)


def _scaled(dose: DailyDose, share: float) -> DailyDose:
    amounts = {parameter: amount * share for parameter, amount in dose.amounts.items()}
    return replace(dose, mass_g=dose.mass_g * share, ml=dose.ml * share, amounts=amounts)


def _new(additive: Additive, parameter: Parameter, wanted: float, supply: DailySupply) -> DailyDose | None:
    """A daily dose of an additive that brings an amount (meq or mg) of a parameter; None where it needs nothing."""
    per_gram = rises(additive, 1.0, supply.volume_l).get(parameter, 0.0) * supply.volume_l
    if wanted <= 0 or per_gram <= 0:
        return None
    mass_g = wanted / per_gram
    ml = mass_g / additive.strength_g_l * 1000 if additive.strength_g_l else 0.0
    amounts = {p: rise * supply.volume_l for p, rise in rises(additive, mass_g, supply.volume_l).items()}
    return DailyDose(additive.name, mass_g, amounts, supply.by_hand, ml)
