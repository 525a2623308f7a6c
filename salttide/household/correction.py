"""Corrections of a system: what is asked for as the core takes it, the plan, and its limits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import listed
from salttide.core.basics.refused import refused
from salttide.core.estimate.supplementation import day_amount
from salttide.core.planning.correction import Aim, Correction, largest_safe_rise, plan_correction
from salttide.core.planning.correction_work import NUTRIENTS, check_target
from salttide.core.planning.ramp import refuse_zero
from salttide.core.science.amount import dose_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import show_difference
from salttide.core.system.shelf import Additive

from .uptake import UptakeContext


@dataclass(frozen=True)
class AimRequest:
    """A parameter to correct, its target (canonical), and the additive by its number."""

    parameter: Parameter
    target: float
    additive_id: int


def aims_of(uptake: UptakeContext, requests: Sequence[AimRequest]) -> list[Aim]:
    """What is asked for as the core takes it. Raises InputError at its field."""
    shelved = {item.id: item for item in uptake.household.stored.additives}
    return [_aim(uptake, one, place, shelved.get(one.additive_id)) for place, one in enumerate(requests)]


def _aim(uptake: UptakeContext, one: AimRequest, place: int, additive: Additive | None) -> Aim:
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
    net = -uptake.view.net([parameter]).get(parameter, 0.0)
    return Aim(parameter, known.value, one.target, additive, net, situation.limit(parameter))


def planned_correction(uptake: UptakeContext, aims: Sequence[Aim], hours: int) -> Correction:
    """The plan of some aims, around planned changes. Errors name the field of their aim."""
    steps = uptake.household.ahead(uptake.system).steps
    ahead = [(work.day - uptake.household.today).days for work, _ in steps if work.is_change]
    try:
        busy = [day for day in ahead if day >= 1]
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
