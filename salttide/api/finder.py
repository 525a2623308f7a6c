"""The plan finder: the cheapest way of keeping every parameter in band, or the nearest one with what stands in the
way."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.measures import grams_words, litres_words
from salttide.core.basics.number_text import percent, short
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import moment_words
from salttide.core.planning.variant import CORRECTED, Dosing, Variant, WhatIfContext
from salttide.core.planning.variant_choice import StartCorrection, sure_until
from salttide.core.science.amount import mass_text
from salttide.core.science.parameters import Parameter
from salttide.core.science.recipe import name_of_formula
from salttide.core.science.units import show_difference, unit_of
from salttide.household.what_if import setting_of
from salttide.store import shelf

from .context import Context, In
from .models import Id, Model, RequestModel, name_of
from .whatif import CorrectionBody, VariantBody

if TYPE_CHECKING:
    from salttide.core.planning import finder

router = APIRouter(prefix="/api/systems/{system_id}/finder", tags=["finder"])


class FindBody(RequestModel):
    """The limits of a search: minutes a month, ways of dosing, and whether a pump pair may change a little every
    day."""

    minutes: float = Field(400, ge=0, le=6000)
    two_part: bool = True
    limewater: bool = False
    continuous: bool = False


class CorrectionShown(CorrectionBody):
    """The correction at the start, in words."""

    words: str


class FoundPlan(Model):
    """The cheapest plan, or the nearest one with what rules out a better."""

    variant: VariantBody
    words: list[str]
    correction: list[CorrectionShown]
    in_the_way: list[str]


@router.post("")
def find(system_id: Id, body: FindBody, ctx: In) -> FoundPlan:
    """The cheapest plan that keeps every parameter in its band for eight weeks."""
    from salttide.core.planning import finder  # loaded with its solver only when first needed

    setting = setting_of(ctx.household, ctx.household.system(system_id), 56)
    dosings = [Dosing.NONE] + [Dosing.TWO_PART] * body.two_part + [Dosing.LIMEWATER] * body.limewater
    prices = shelf.prices(ctx.connection, shelf.Shelved.ADDITIVE)
    compounds = {one.formula: prices[one.id] for one in ctx.stored.additives if one.id in prices}
    usual = ctx.stored.usual_salt
    salts = sorted(ctx.stored.salts, key=lambda salt: salt != usual)
    wanted = finder.Asked(
        salts, dosings, body.continuous, body.minutes, shelf.prices(ctx.connection, shelf.Shelved.SALT), compounds
    )
    found = finder.find_plan(setting, wanted)
    return FoundPlan(
        variant=_body(ctx, found),
        words=[*_found_words(ctx, setting, found), _test_words(ctx, setting, found)],
        correction=[_correction(formula, grams, days) for formula, grams, days in found.correction],
        in_the_way=[_way(ctx, setting, one) for one in found.in_the_way],
    )


def _body(ctx: Context, found: finder.FoundPlan) -> VariantBody:
    variant: Variant = found.variant
    unit, dosed = unit_of(Parameter.ALKALINITY, ctx.keeper.units), variant.alkalinity_meq_l
    return VariantBody(
        name="found",
        percent=round(percent(variant.fraction), 2),
        every_days=variant.every_days,
        continuous=variant.continuous,
        salt_id=variant.salt.id,
        dosing=variant.dosing,
        alkalinity=None if dosed is None else round(unit.from_canonical(dosed), unit.decimals + 2),
        correction=[CorrectionBody(formula=one, grams=round(g, 2), days=days) for one, g, days in found.correction],
    )


def _found_words(ctx: Context, setting: WhatIfContext, found: finder.FoundPlan) -> list[str]:
    """The plan in sentences."""
    variant = found.variant
    often = (
        phrase("finder.every_day_by_a_pump_pair")
        if variant.continuous
        else phrase("finder.every_days", days=variant.every_days)
    )
    litres = setting.system.litres_of(variant.fraction)
    words = [
        phrase(
            "finder.change_l_with",
            percent=short(percent(variant.fraction)),
            litres=litres_words(litres),
            often=often,
            salt=variant.salt.name,
        )
        if variant.fraction
        else phrase("finder.these_bands_need_no_water_change")
    ]
    words += [
        phrase("finder.dose_a_day", mass=mass_text(dose.mass_g), additive=name_of_formula(dose.additive))
        for dose in found.daily
    ]
    return [*words, phrase("finder.about_minutes_a_month", minutes=round(found.minutes))]


def _test_words(ctx: Context, setting: WhatIfContext, found: finder.FoundPlan) -> str:
    """The day to test again, and how sure it is that everything is in its band until then."""
    at = ctx.now + timedelta(days=found.test_after)
    share = sure_until(setting, found.variant, [StartCorrection(*one) for one in found.correction], at)
    return phrase("finder.test_again", day=moment_words(at, ctx.keeper.zone), share=short(round(percent(share))))


def _correction(formula: str, grams: float, days: int) -> CorrectionShown:
    words = phrase(
        "finder.g_a_day_on_the_first", grams=grams_words(grams, 1), formula=name_of_formula(formula), days=days
    )
    return CorrectionShown(formula=formula, grams=grams, days=days, words=words)


def _way(ctx: Context, setting: WhatIfContext, one: finder.BindingLimit) -> str:
    if one.parameter is None:
        return phrase("finder.time_this_plan_takes_minutes_a", minutes=round(one.missed))
    side = "above" if one.above else "below"
    around = setting.system.bands[one.parameter].middle
    by = show_difference(one.parameter, one.missed, around, ctx.keeper.units)
    more = "" if one.parameter in CORRECTED or one.above else phrase("finder.nothing_on_the_shelf_raises_it")
    return phrase("finder.stays_up_to_its_band", parameter=name_of(one.parameter), by=by, side=side, more=more)
