"""Corrections of a system: what is asked for as the core takes it, the plan, and its limits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import listed
from salttide.core.basics.refused import refused
from salttide.core.estimate.supplementation import day_amount
from salttide.core.planning.correction import Aim, Correction, largest_safe_rise, plan_correction
from salttide.core.planning.correction_work import NUTRIENTS, check_target
from salttide.core.planning.daily_fit import DailyFit, DailySupply, fitting_daily
from salttide.core.planning.ramp import refuse_zero
from salttide.core.remedy.ions import aim_of
from salttide.core.science.amount import dose_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import show_difference
from salttide.core.system.shelf import Additive

from .uptake import UptakeContext


@dataclass(frozen=True)
class AimRequest:
    """A parameter to correct, its target (canonical), and the additive by its number. adjust: fit the daily dose to
    what is used as well."""

    parameter: Parameter
    target: float
    additive_id: int
    adjust: bool = False


@dataclass(frozen=True)
class AdjustedAim:
    """A parameter to correct as the core takes it, and the daily dose that fits from then on; None: it stays."""

    aim: Aim
    fit: DailyFit | None


def aims_of(uptake: UptakeContext, requests: Sequence[AimRequest]) -> list[AdjustedAim]:
    """What is asked for as the core takes it. Raises InputError at its field."""
    shelved = {item.id: item for item in uptake.household.stored.additives}
    found, supply = list[AdjustedAim](), uptake.supply
    for place, one in enumerate(requests):
        found.append(_aim(uptake, supply, one, place, shelved.get(one.additive_id)))
        fit = found[-1].fit
        supply = replace(supply, daily=fit.daily) if fit else supply
    return found


def _aim(
    uptake: UptakeContext, supply: DailySupply, one: AimRequest, place: int, additive: Additive | None
) -> AdjustedAim:
    parameter, known, situation = one.parameter, uptake.view.present.get(one.parameter), uptake.situation
    if known is None:
        raise refused("correction.test_it_first", f"aims.{place}.target", "correction.a_reading_on_the_bench")
    if additive is None:
        raise refused("common.this_additive_is_not_on_the", f"aims.{place}.additive_id", takes="another")
    try:
        check_target(parameter, one.target, uptake.household.keeper.units)
        if parameter in NUTRIENTS:
            eaten = [sign.kind.name for sign in situation.seen("eats") + situation.seen("unsure")]
            refuse_zero(known.value, listed(eaten), FACTS[parameter].name)
    except SaltTideError as error:
        error.field = f"aims.{place}.target"
        raise
    fit = fitting_daily(supply, parameter, additive) if one.adjust else None
    return AdjustedAim(aim_of(situation, parameter, one.target, additive, fit), fit)


def planned_correction(uptake: UptakeContext, aims: Sequence[Aim], hours: int) -> Correction:
    """The plan of some aims, around planned changes. Errors name the field of their aim."""
    busy = uptake.household.ahead(uptake.system).busy(uptake.household.today)
    try:
        return plan_correction(aims, uptake.water_now, uptake.system.volume_l, hours, busy)
    except SaltTideError as error:
        names = [aim.parameter.value for aim in aims]
        error.field = f"aims.{names.index(error.field)}.target" if error.field in names else "aims"
        raise


def largest_dose_words(uptake: UptakeContext, aims: Sequence[Aim]) -> str:
    """The largest safe single doses: more at once would move pH too far, precipitate, or exceed the daily limit."""
    found = [(aim, largest_safe_rise(aim.additive.formula, aim.parameter, uptake.water_now, aim.limit)) for aim in aims]
    parts = [_dose_words(uptake, aim, rise) for aim, rise in found if rise < FACTS[aim.parameter].possible.high]
    return phrase("correction.largest_single_dose_ph_precipitation", parts=listed(parts)) if parts else ""


def _dose_words(uptake: UptakeContext, aim: Aim, rise: float) -> str:
    more = show_difference(aim.parameter, rise, 0.0, uptake.household.keeper.units)
    amount = day_amount(aim.additive, aim.parameter, rise, uptake.system.volume_l)
    size = dose_text(amount.mass_g, amount.ml, aim.additive.formula)
    return f"{size} {aim.additive.name} ({spoken(aim.parameter)} +{more})"
