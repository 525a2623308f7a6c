"""Stock solutions by recipe, with their label; phosphate media and carbon dosing stepped up slowly."""

from datetime import timedelta
from typing import Literal

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import GateError, InputError, check_range
from salttide.core.basics.number_text import fraction, percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words, day_words, moment_words
from salttide.core.estimate.supplementation import ALKALINITY, CALCIUM
from salttide.core.ledger.entries import Reading
from salttide.core.planning.ramp import (
    MAX_CARBON,
    CarbonSource,
    NextAmount,
    Trend,
    carbon_gate,
    carbon_ml,
    next_carbon,
    next_media_g,
)
from salttide.core.science.additives import COMPOUNDS, brought_per_mole
from salttide.core.science.amount import mass_text
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.recipe import (
    KEEPS_DAYS,
    SHOWN_ML,
    Recipe,
    cautions_of,
    matched_calcium_g_l,
    name_of_formula,
    stock_recipe,
)
from salttide.core.science.solutions import largest_strength_g_l
from salttide.core.science.units import show_difference
from salttide.core.system.additive_amount import LEFT_OUT
from salttide.core.system.system import Stage
from salttide.household.uptake import UptakeContext
from salttide.store import container as container_store
from salttide.store.container import RampEntry

from .context import Context, In, Key
from .models import Caution, Choice, Id, Model, Recorded, RequestModel, WorkingStep, caution_shown, working_shown
from .refused import refused
from .uptake import uptake_of

router = APIRouter(prefix="/api", tags=["stock"])
USUAL_FLOOR_MG_L = 0.02
"""The floor of phosphate where a system has no band for it."""


class StockBody(RequestModel):
    """A stock solution: the compound, its purity in percent, strength in g/L and litres."""

    formula: str = Field(max_length=40)
    purity_percent: float = 100.0
    strength_g_l: float
    volume_l: float


class StockLine(Model):
    """A line of a label to print."""

    name: str
    value: str


class StockAnswer(Model):
    """The recipe with its label."""

    name: str
    formula: str
    mass: str
    raises: list[str]
    solubility: str
    matched: str
    steps: list[str]
    label: list[StockLine]
    cautions: list[Caution]
    working: list[WorkingStep]


class StockOffer(Model):
    """The compounds a stock can be made of, and a first recipe."""

    compounds: list[Choice]
    body: StockBody


@router.get("/stock")
def options(ctx: In) -> StockOffer:
    """Compounds whose solubility is known."""
    compounds = [
        Choice(key=one.formula, name=one.name, remark=phrase("stock.up_to_g_l", strength=one.solubility_g_l))
        for one in COMPOUNDS.values()
    ]
    return StockOffer(compounds=compounds, body=StockBody(formula="Na2CO3", strength_g_l=100.0, volume_l=2.0))


@router.post("/stock/preview")
def preview(body: StockBody, ctx: In) -> StockAnswer:
    """The recipe of a stock solution, without effect."""
    check_range("purity", body.purity_percent, "%", 1, 100, field="purity_percent")
    found = stock_recipe(body.formula, body.strength_g_l, body.volume_l, fraction(body.purity_percent))
    units = ctx.keeper.units
    raises = [
        f"{FACTS[p].name} +{show_difference(p, rise, max(FACTS[p].likely.middle, rise), units)}"
        for p, rise in found.raises_by(SHOWN_ML).items()
        if p not in LEFT_OUT and rise > 0
    ]
    largest = largest_strength_g_l(found.formula)
    return StockAnswer(
        name=name_of_formula(found.formula),
        formula=found.formula,
        mass=mass_text(found.mass_g),
        raises=raises,
        solubility=phrase(
            "stock.of_the_g_l_that_dissolve", percent=show_number(percent(found.of_saturation), 0), largest=largest
        ),
        matched=_matched(found),
        steps=list(found.steps),
        label=_label(ctx, found, raises),
        cautions=[caution_shown(key) for key in cautions_of(found.formula)],
        working=working_shown(found.mass_g.working),
    )


def _matched(found: Recipe) -> str:
    """The other part of the set, matched so that equal amounts of both are used."""
    if not brought_per_mole(found.formula).get(ALKALINITY) or CALCIUM in brought_per_mole(found.formula):
        return ""
    try:
        strength = matched_calcium_g_l(found.formula, found.strength_g_l, "CaCl2·2H2O")
    except InputError:
        return phrase("stock.no_calcium_chloride_is_strong")
    return phrase("stock.calcium_chloride_dihydrate_of_g_l", strength=show_number(strength, 0))


def _label(ctx: Context, found: Recipe, raises: list[str]) -> list[StockLine]:
    spoils = ctx.today + timedelta(days=KEEPS_DAYS)
    return [
        StockLine(name="Holds", value=f"{name_of_formula(found.formula)}, {found.formula}"),
        StockLine(name="Strength", value=f"{found.strength_g_l:g} g/L"),
        StockLine(name=phrase("stock.ml_in_l", ml=SHOWN_ML), value=", ".join(raises)),
        StockLine(name="Made", value=date_words(ctx.today)),
        StockLine(name=phrase("stock.use_by"), value=date_words(spoils)),
    ]


class RampRow(Model):
    """Media or carbon: the amount in use, the next and why, and what is missing for it."""

    kind: Literal["media", "carbon"]
    name: str
    amount_now: str
    next: str
    why: str
    test: str
    missing: list[str]
    amount: float
    source: str
    full_g: float | None


class RampAnswer(Model):
    """Amounts that are stepped up slowly in a system."""

    rows: list[RampRow]
    cautions: list[Caution]


class RampBody(RequestModel):
    """The next amount to use. full_g: of media, the full amount by its product sheet."""

    kind: Literal["media", "carbon"]
    full_g: float | None = None
    source: CarbonSource = CarbonSource.ETHANOL
    cloudy: bool = False


@router.post("/systems/{system_id}/ramp/preview")
def ramp_preview(system_id: Id, body: RampBody, ctx: In) -> RampRow:
    """The next amount of media or carbon by the last two tests, without effect."""
    uptake = uptake_of(ctx, system_id)
    return _row(uptake, body)[0]


@router.get("/systems/{system_id}/ramp")
def ramp(system_id: Id, ctx: In) -> RampAnswer:
    """Media and carbon as they are now."""
    uptake = uptake_of(ctx, system_id)
    rows = []
    for kind in ("media", "carbon"):
        last = _last(uptake, kind)
        source = CarbonSource(last.source) if last and last.source else CarbonSource.ETHANOL
        body = RampBody(kind=kind, full_g=last.full_g if last else None, source=source, cloudy=False)
        rows.append(_row(uptake, body)[0])
    return RampAnswer(rows=rows, cautions=[caution_shown(key) for key in ("media_strips", "carbon_dosing")])


def _last(uptake: UptakeContext, kind: str) -> RampEntry | None:
    known = container_store.ramp(uptake.household.stored.reading(), uptake.system.id, kind)
    return known[-1] if known else None


def _row(uptake: UptakeContext, body: RampBody) -> tuple[RampRow, NextAmount | None]:
    parameter = Parameter.PHOSPHATE if body.kind == "media" else Parameter.NITRATE
    last, zone = _last(uptake, body.kind), uptake.household.keeper.zone
    now = last.amount if last else 0.0
    missing, trend = _missing(uptake, body, parameter)
    found = _next(uptake, body, now, trend) if trend and not missing else None
    since = phrase("stock.since", at=moment_words(last.at, zone)) if last and last.amount else ""
    due = day_words(uptake.household.today + timedelta(days=found.test_in_days)) if found else ""
    row = RampRow(
        kind=body.kind,
        name=phrase("stock.phosphate_media") if body.kind == "media" else phrase("stock.carbon_dosing"),
        amount_now=phrase("stock.in_use", amount=_amount(uptake, body, now), since=since)
        if now
        else phrase("stock.none_in_use"),
        next=_amount(uptake, body, found.amount) if found else "",
        why=found.why if found else "",
        test=phrase("stock.test_by", name=FACTS[parameter].name.lower(), due=due) if due else "",
        missing=missing,
        amount=found.amount if found else 0.0,
        source=body.source,
        full_g=body.full_g,
    )
    return row, found


def _amount(uptake: UptakeContext, body: RampBody, amount: float) -> str:
    if not amount:
        return "none"
    if body.kind == "media":
        return f"{show_number(amount, 0)} g"
    ml = carbon_ml(body.source, min(amount, MAX_CARBON), uptake.system.volume_l)
    name = phrase("stock.ethanol") if body.source == CarbonSource.ETHANOL else phrase("stock.acetic_acid")
    return phrase("stock.ml_a_day", ml=show_number(ml, 2), name=name)


def _missing(uptake: UptakeContext, body: RampBody, parameter: Parameter) -> tuple[list[str], Trend | None]:
    """What is missing first, and the last two tests."""
    missing = []
    if uptake.system.stage == Stage.BREAKING_IN:
        missing.append(phrase("stock.a_system_that_has_finished"))
    if uptake.system.bands.get(parameter) is None:
        missing.append(phrase("stock.a_target_band_for", name=FACTS[parameter].name.lower()))
    readings = uptake.view.ledger.of(parameter)
    if len(readings) < 2:
        missing.append(phrase("stock.two_tests_of", name=FACTS[parameter].name.lower()))
    if body.kind == "media" and body.full_g is None:
        missing.append(phrase("stock.the_amount_the_product_instructions"))
    if body.kind == "carbon":
        started = uptake.household.today - uptake.household.today.fromisoformat(uptake.system.started_on)
        chosen = uptake.system.methods.answers.get("nitrate_high") == "carbon"
        missing += carbon_gate(started.days, any("skimmer" in gear for gear in uptake.system.gear), chosen)
    return missing, _trend(readings) if len(readings) > 1 else None


def _trend(readings: list[Reading]) -> Trend | None:
    """The last test and the one before it, half a day or more apart."""
    last = readings[-1]
    before = next((r for r in reversed(readings) if last.at - r.at >= timedelta(hours=12)), None)
    if before is None:
        return None
    days = min(90.0, (last.at - before.at) / timedelta(days=1))
    return Trend(before.value, last.value, days, last.sd)


def _next(uptake: UptakeContext, body: RampBody, now: float, trend: Trend) -> NextAmount:
    bands = uptake.system.bands
    if body.kind == "media":
        assert body.full_g is not None
        return next_media_g(body.full_g, min(now, body.full_g), trend, bands[Parameter.PHOSPHATE])
    floor = bands[Parameter.PHOSPHATE].low if Parameter.PHOSPHATE in bands else USUAL_FLOOR_MG_L
    phosphate = uptake.view.water.get(Parameter.PHOSPHATE)
    if phosphate is None:
        raise refused("stock.test_phosphate_first_carbon_dosing", "kind", "stock.a_test_of_phosphate")
    return next_carbon(now, trend, bands[Parameter.NITRATE], phosphate, floor, body.cloudy)


@router.post("/systems/{system_id}/ramp", status_code=201)
def ramp_up(system_id: Id, body: RampBody, ctx: In, key: Key) -> Recorded:
    """Start the next amount; it is recorded with its day."""
    uptake = uptake_of(ctx, system_id)
    row, found = _row(uptake, body)
    if found is None:
        raise GateError(phrase("stock.something_is_still_missing", name=row.name), tuple(row.missing), field="kind")
    item = RampEntry(ctx.now, body.kind, found.amount, body.full_g if body.kind == "media" else None, body.source)

    return ctx.record_as(key, f"{row.name}: {row.next}", lambda c: container_store.add_ramp(c, system_id, item, key))
