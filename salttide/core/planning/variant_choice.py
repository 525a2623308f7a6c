"""Ways of keeping the water to compare, what a month of one costs, and the methods after adopting one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta

from ..basics.errors import InputError
from ..basics.number_text import short, show_number
from ..ledger.entries import Dose
from ..science.additives import COMPOUNDS
from ..science.mix import SaltMix
from ..science.recipe import name_of_formula
from ..system.additive_amount import rises, too_much
from ..system.shelf import Additive
from ..system.system import Methods, System
from .dose_order import dose_order, dose_work
from .variant import CORRECTED, Variant, WhatIfContext, WhatIfOutcome, try_variant
from .work_order import DoseWorkOrder, PlannedWork, dose_event

CONTINUOUS = "continuous"
"""The answer to the question of method for continuous small changes."""
WEEK_DAYS = 7
MAX_EVERY_DAYS = 90


@dataclass(frozen=True)
class Prices:
    """What a kilogram costs in the keeper's money: salts by number, additives by formula; names of additives by
    formula, for what the record has by name."""

    salts: Mapping[int, float] = field(default_factory=dict)
    additives: Mapping[str, float] = field(default_factory=dict)
    formulas: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class StartCorrection:
    """A correction at the start: grams of a compound (by formula) on each of several days."""

    formula: str
    grams: float
    days: int


def prices_of(additives: Iterable[Additive], salts: Mapping[int, float], by_additive: Mapping[int, float]) -> Prices:
    """Prices as the shelf has them, by number, as a month's cost is calculated with them."""
    known = list(additives)
    names = {compound.name: compound.formula for compound in COMPOUNDS.values()}
    return Prices(
        salts,
        {one.formula: by_additive[one.id] for one in known if one.id in by_additive},
        names | {one.name: one.formula for one in known},
    )


def starting_variants(system: System, salt: SaltMix) -> tuple[tuple[str, Variant], ...]:
    """Where a comparison starts: as it is, larger and rarer, and a little every day; each with its name."""
    methods = system.methods
    every, share = methods.change_every_days, methods.change_fraction
    continuous = methods.answers.get("water_changes") == CONTINUOUS
    now = Variant(share / every, 1, salt, True) if continuous else Variant(share, every, salt)
    rarer = Variant(min(2 * share, methods.largest_fraction), min(MAX_EVERY_DAYS, 2 * every), salt)
    return (
        ("as it stands", now),
        ("larger and rarer", rarer),
        ("a little every day", Variant(share / every, 1, salt, True)),
    )


def how_often(variant: Variant) -> str:
    """How often its changes are, in words.

    >>> how_often(Variant(0.1, 7, None)), how_often(Variant(0.01, 1, None, True))
    ('every 7 days', 'every day, by a pump pair')
    """
    return "every day, by a pump pair" if variant.continuous else f"every {variant.every_days} days"


def month_cost(variant: Variant, outcome: WhatIfOutcome, prices: Prices) -> str:
    """The cost of a month in words; things without a price are named."""
    used = {name: (g, prices.additives.get(prices.formulas.get(name, name))) for name, g in outcome.compounds_g.items()}
    if outcome.salt_g:
        used[variant.salt.name] = (outcome.salt_g, prices.salts.get(variant.salt.id))
    missing = [name_of_formula(name) for name, (g, price) in used.items() if g and price is None]
    if missing:
        return f"no price for {', '.join(missing)}"
    return show_number(sum(g / 1000 * price for g, price in used.values() if price is not None), 2)


def adopted_methods(methods: Methods, variant: Variant) -> Methods:
    """The methods with the routine of a variant; continuous changes are stored as their share of a week. Raises
    InputError at `percent` for a variant without changes."""
    if not variant.fraction:
        message = "the routine is a change of some size: skip it on the Rota instead"
        raise InputError(message, field="percent", accepted="above 0 %")
    answers = {key: answer for key, answer in methods.answers.items() if key != "water_changes" or answer != CONTINUOUS}
    if not variant.continuous:
        return replace(methods, change_fraction=variant.fraction, change_every_days=variant.every_days, answers=answers)
    share = min(variant.fraction * WEEK_DAYS, methods.largest_fraction)
    answers["water_changes"] = CONTINUOUS
    return replace(methods, change_fraction=share, change_every_days=WEEK_DAYS, answers=answers)


def adopted_words(variant: Variant) -> str:
    """That a variant is the routine from now on."""
    return f"{short(variant.fraction * 100)} % {how_often(variant)} from now on"


def correction_order(system: System, one: StartCorrection) -> DoseWorkOrder:
    """A day's part of a correction, within the daily limit. Raises InputError at `correction`."""
    if one.formula not in CORRECTED.values():
        raise InputError("no correction is made with this", field="correction", accepted=", ".join(CORRECTED.values()))
    additive = Additive(0, name_of_formula(one.formula), one.formula)
    if doubts := too_much(system, rises(additive, one.grams, system.volume_l), {}):
        raise InputError(doubts[0], field="correction", accepted="less a day, on more days")
    return dose_order(system, additive, one.grams)


def start_doses(setting: WhatIfContext, corrections: Sequence[StartCorrection]) -> list[Dose]:
    """Corrections at the start as doses, one a day from tomorrow on."""
    days = _by_day(setting.system, corrections)
    return [dose_event(order, setting.now + timedelta(days=day)) for order, day in days]


def sure_until(setting: WhatIfContext, variant: Variant, corrections: Sequence[StartCorrection], at: datetime) -> float:
    """The probability (0..1) that with a plan every parameter with a band is inside it at a moment, each by its own
    forecast."""
    outcome, sure = try_variant(setting, variant, start_doses(setting, corrections)), 1.0
    for parameter, band in setting.system.bands.items():
        point = outcome.courses[parameter].at(at) if parameter in outcome.courses else None
        sure *= point.chance(band) if point else 1.0
    return sure


def start_work(system: System, today: date, corrections: Sequence[StartCorrection]) -> list[PlannedWork]:
    """Start doses as work for the rota."""
    return [dose_work(today + timedelta(days=day), order) for order, day in _by_day(system, corrections)]


def _by_day(system: System, corrections: Sequence[StartCorrection]) -> Iterable[tuple[DoseWorkOrder, int]]:
    for one in corrections:
        order = correction_order(system, one)
        yield from ((order, day) for day in range(1, one.days + 1))
