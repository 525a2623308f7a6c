"""Stock solutions by recipe, with their label; phosphate media and carbon in small steps."""

import sqlite3
from datetime import timedelta
from typing import Any, Literal

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import GateError, InputError, check_range
from salttide.core.basics.number_text import show_number
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
from salttide.core.science.parameters import FACTS, Parameter, Span
from salttide.core.science.recipe import Recipe, cautions_of, matched_calcium_g_l, name_of_formula, stock_recipe
from salttide.core.science.solutions import largest_strength_g_l
from salttide.core.science.units import show_difference
from salttide.core.system.system import Stage
from salttide.store import container as container_store
from salttide.store.container import Stepped

from .context import Context, In, Key
from .dosing_told import Told, told_of
from .models import Caution, Choice, Id, Model, Recorded, RequestModel, WorkingStep, caution_shown, working_shown

router = APIRouter(prefix="/api", tags=["stock"])
KEEPS_MONTHS = 6


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
    """What a stock can be made of, and where to start."""

    compounds: list[Choice]
    body: StockBody


@router.get("/stock")
def offer(ctx: In) -> StockOffer:
    """Compounds whose solubility is known."""
    compounds = [
        Choice(key=one.formula, name=one.name, remark=f"up to {one.solubility_g_l:g} g/L") for one in COMPOUNDS.values()
    ]
    return StockOffer(compounds=compounds, body=StockBody(formula="Na2CO3", strength_g_l=100.0, volume_l=2.0))


@router.post("/stock/preview")
def preview(body: StockBody, ctx: In) -> StockAnswer:
    """The recipe of a stock solution, without effect."""
    check_range("purity", body.purity_percent, "%", 1, 100, field="purity_percent")
    found = stock_recipe(body.formula, body.strength_g_l, body.volume_l, body.purity_percent / 100)
    units = ctx.keeper.units
    raises = [
        f"{FACTS[p].name} +{show_difference(p, rise * 10, max(FACTS[p].likely.middle, rise), units)}"
        for p, rise in found.raises.items()
        if p not in (Parameter.SODIUM, Parameter.CHLORIDE) and rise > 0
    ]
    largest = largest_strength_g_l(found.formula)
    return StockAnswer(
        name=name_of_formula(found.formula),
        formula=found.formula,
        mass=mass_text(found.mass_g),
        raises=raises,
        solubility=f"{show_number(100 * found.of_saturation, 0)} % of the {largest:g} g/L that dissolve at 20 °C",
        matched=_matched(found),
        steps=list(found.steps),
        label=_label(ctx, found, raises),
        cautions=[caution_shown(key) for key in cautions_of(found.formula)],
        working=working_shown(found.mass_g.working),
    )


def _matched(found: Recipe) -> str:
    """The other part of the set, so that both are used alike."""
    if not brought_per_mole(found.formula).get(ALKALINITY) or CALCIUM in brought_per_mole(found.formula):
        return ""
    try:
        strength = matched_calcium_g_l(found.formula, found.strength_g_l, "CaCl2·2H2O")
    except InputError:
        return "No calcium chloride is strong enough to match it: make it weaker."
    return f"Calcium chloride dihydrate of {show_number(strength, 0)} g/L goes with it, mL for mL."


def _label(ctx: Context, found: Recipe, raises: list[str]) -> list[StockLine]:
    spoils = ctx.today + timedelta(days=round(KEEPS_MONTHS * 30.4))
    return [
        StockLine(name="Holds", value=f"{name_of_formula(found.formula)}, {found.formula}"),
        StockLine(name="Strength", value=f"{found.strength_g_l:g} g/L"),
        StockLine(name="10 mL in 100 L", value=", ".join(raises)),
        StockLine(name="Made", value=date_words(ctx.today)),
        StockLine(name="Use by", value=date_words(spoils)),
    ]


class SteppedRow(Model):
    """Media or carbon: what is in use, what comes next and why, and what bars it."""

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


class SteppedAnswer(Model):
    """What is stepped up slowly in a system."""

    rows: list[SteppedRow]
    cautions: list[Caution]


class SteppedBody(RequestModel):
    """The next amount is taken up. full_g: of media, what its own sheet asks for in this system."""

    kind: Literal["media", "carbon"]
    full_g: float | None = None
    source: CarbonSource = CarbonSource.ETHANOL
    cloudy: bool = False


@router.post("/systems/{system_id}/stepped/preview")
def stepped(system_id: Id, body: SteppedBody, ctx: In) -> SteppedRow:
    """What comes next of media or carbon, by the last two tests, without effect."""
    told = told_of(ctx, system_id)
    return _row(told, body)[0]


@router.get("/systems/{system_id}/stepped")
def stepped_answer(system_id: Id, ctx: In) -> SteppedAnswer:
    """Media and carbon as they stand."""
    told = told_of(ctx, system_id)
    rows = []
    for kind in ("media", "carbon"):
        last = _last(told, kind)
        source = CarbonSource(last.source) if last and last.source else CarbonSource.ETHANOL
        body = SteppedBody(kind=kind, full_g=last.full_g if last else None, source=source, cloudy=False)
        rows.append(_row(told, body)[0])
    return SteppedAnswer(rows=rows, cautions=[caution_shown(key) for key in ("media_strips", "carbon_dosing")])


def _last(told: Told, kind: str) -> Stepped | None:
    known = container_store.stepped(told.ctx.connection, told.system.id, kind)
    return known[-1] if known else None


def _row(told: Told, body: SteppedBody) -> tuple[SteppedRow, NextAmount | None]:
    parameter = Parameter.PHOSPHATE if body.kind == "media" else Parameter.NITRATE
    last, zone = _last(told, body.kind), told.ctx.keeper.zone
    now = last.amount if last else 0.0
    missing, trend = _missing(told, body, parameter)
    found = _next(told, body, now, trend) if trend and not missing else None
    since = f" since {moment_words(last.at, zone)}" if last and last.amount else ""
    due = day_words(told.ctx.today + timedelta(days=found.test_in_days)) if found else ""
    row = SteppedRow(
        kind=body.kind,
        name="Phosphate media" if body.kind == "media" else "Carbon dosing",
        amount_now=f"in use: {_amount(told, body, now)}{since}" if now else "none in use",
        next=_amount(told, body, found.amount) if found else "",
        why=found.why if found else "",
        test=f"Test {FACTS[parameter].name.lower()} by {due}" if due else "",
        missing=missing,
        amount=found.amount if found else 0.0,
        source=body.source,
        full_g=body.full_g,
    )
    return row, found


def _amount(told: Told, body: SteppedBody, amount: float) -> str:
    if not amount:
        return "none"
    if body.kind == "media":
        return f"{show_number(amount, 0)} g"
    ml = carbon_ml(body.source, min(amount, MAX_CARBON), told.system.volume_l)
    name = "ethanol of 40 %" if body.source == CarbonSource.ETHANOL else "acetic acid of 5 %"
    return f"{show_number(ml, 2)} mL {name} a day"


def _missing(told: Told, body: SteppedBody, parameter: Parameter) -> tuple[list[str], Trend | None]:
    """What has to be there first, and the last two tests."""
    missing = []
    if told.system.stage == Stage.BREAKING_IN:
        missing.append("a system that has broken in")
    if told.system.bands.get(parameter) is None:
        missing.append(f"a target band for {FACTS[parameter].name.lower()}")
    readings = told.view.ledger.of(parameter)
    if len(readings) < 2:
        missing.append(f"two tests of {FACTS[parameter].name.lower()}")
    if body.kind == "media" and body.full_g is None:
        missing.append("the amount that the product's sheet asks for in this system")
    if body.kind == "carbon":
        started = told.ctx.today - told.ctx.today.fromisoformat(told.system.started_on)
        chosen = told.system.schools.answers.get("nitrate_high") == "carbon"
        missing += carbon_gate(started.days, any("skimmer" in gear for gear in told.system.gear), chosen)
    return missing, _trend(readings) if len(readings) > 1 else None


def _trend(readings: list[Reading]) -> Trend | None:
    """The last test and the one before it, half a day or more apart."""
    last = readings[-1]
    before = next((r for r in reversed(readings) if last.at - r.at >= timedelta(hours=12)), None)
    if before is None:
        return None
    days = min(90.0, (last.at - before.at) / timedelta(days=1))
    return Trend(before.value, last.value, days, last.sd)


def _next(told: Told, body: SteppedBody, now: float, trend: Trend) -> NextAmount:
    bands = told.system.bands
    if body.kind == "media":
        assert body.full_g is not None
        return next_media_g(body.full_g, min(now, body.full_g), trend, bands[Parameter.PHOSPHATE])
    floor = bands.get(Parameter.PHOSPHATE, Span(0.02, 0.1)).low
    phosphate = told.view.water.get(Parameter.PHOSPHATE)
    if phosphate is None:
        raise InputError("test phosphate first: carbon takes it down too", field="kind", accepted="a test of phosphate")
    return next_carbon(now, trend, bands[Parameter.NITRATE], phosphate, floor, body.cloudy)


@router.post("/systems/{system_id}/stepped", status_code=201)
def step(system_id: Id, body: SteppedBody, ctx: In, key: Key) -> Recorded:
    """Take the next amount up; it is kept with its day."""
    told = told_of(ctx, system_id)
    row, found = _row(told, body)
    if found is None:
        raise GateError(f"{row.name}: something is missing first.", tuple(row.missing), field="kind")
    item = Stepped(ctx.now, body.kind, found.amount, body.full_g if body.kind == "media" else None, body.source)

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        container_store.add_stepped(connection, system_id, item, key)
        return {"command": key, "words": f"{row.name}: {row.next}"}

    return Recorded(**ctx.command(key, act))
