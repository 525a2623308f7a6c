"""Stock solutions by recipe, with their label; phosphate media and carbon dosing stepped up slowly."""

from datetime import timedelta

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import check_range
from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import fraction, percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words, day_words, moment_words
from salttide.core.planning.ramp import CarbonSource
from salttide.core.planning.ramp_state import (
    RampEntry,
    RampKind,
    RampRequest,
    RampState,
    first_request,
    ramp_state,
)
from salttide.core.science.additives import COMPOUNDS
from salttide.core.science.amount import mass_text
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.recipe import (
    KEEPS_DAYS,
    SHOWN_ML,
    Recipe,
    cautions_of,
    matched_words,
    name_of_formula,
    stock_recipe,
)
from salttide.core.science.solutions import largest_strength_g_l
from salttide.core.science.units import show_difference
from salttide.core.system.additive_amount import LEFT_OUT
from salttide.store import container as container_store

from .context import Context, In, Key
from .models import (
    Caution,
    Choice,
    Id,
    LabelLine,
    Model,
    Recorded,
    RequestModel,
    WorkingStep,
    caution_shown,
    working_shown,
)

router = APIRouter(prefix="/api", tags=["stock"])


class StockBody(RequestModel):
    """A stock solution: the compound, its purity in percent, strength in g/L and litres."""

    formula: str = Field(max_length=40)
    purity_percent: float = 100.0
    strength_g_l: float
    volume_l: float


class StockAnswer(Model):
    """The recipe with its label."""

    name: str
    formula: str
    mass: str
    raises: list[str]
    solubility: str
    matched: str
    steps: list[str]
    label: list[LabelLine]
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
        matched=matched_words(found),
        steps=list(found.steps),
        label=_label(ctx, found, raises),
        cautions=[caution_shown(key) for key in cautions_of(found.formula)],
        working=working_shown(found.mass_g.working),
    )


def _label(ctx: Context, found: Recipe, raises: list[str]) -> list[LabelLine]:
    spoils = ctx.today + timedelta(days=KEEPS_DAYS)
    return [
        LabelLine(name="Holds", value=f"{name_of_formula(found.formula)}, {found.formula}"),
        LabelLine(name="Strength", value=f"{found.strength_g_l:g} g/L"),
        LabelLine(name=phrase("stock.ml_in_l", ml=SHOWN_ML, water=litres_words(100, 0)), value=", ".join(raises)),
        LabelLine(name="Made", value=date_words(ctx.today)),
        LabelLine(name=phrase("stock.use_by"), value=date_words(spoils)),
    ]


class RampRow(Model):
    """Media or carbon: the amount in use, the next and why, and what is missing for it."""

    kind: RampKind
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

    kind: RampKind
    full_g: float | None = None
    source: CarbonSource = CarbonSource.ETHANOL
    cloudy: bool = False


@router.post("/systems/{system_id}/ramp/preview")
def ramp_preview(system_id: Id, body: RampBody, ctx: In) -> RampRow:
    """The next amount of media or carbon by the last two tests, without effect."""
    return _row(ctx, system_id, _state(ctx, system_id, RampRequest(**dict(body))))


@router.get("/systems/{system_id}/ramp")
def ramp(system_id: Id, ctx: In) -> RampAnswer:
    """Media and carbon as they are now."""
    rows = [
        _row(ctx, system_id, _state(ctx, system_id, first_request(kind, _last(ctx, system_id, kind))))
        for kind in RampKind
    ]
    return RampAnswer(rows=rows, cautions=[caution_shown(key) for key in ("media_strips", "carbon_dosing")])


def _last(ctx: Context, system_id: int, kind: RampKind) -> RampEntry | None:
    return next(reversed(container_store.ramp(ctx.connection, system_id, kind)), None)


def _state(ctx: Context, system_id: int, request: RampRequest) -> RampState:
    view = ctx.household.waters(ctx.household.system(system_id))
    phosphate, last = view.water.get(Parameter.PHOSPHATE), _last(ctx, system_id, request.kind)
    return ramp_state(view.system, view.ledger, phosphate, last, request, ctx.today)


def _row(ctx: Context, system_id: int, state: RampState) -> RampRow:
    found, last, request = state.next, state.last, state.request
    since = phrase("stock.since", at=moment_words(last.at, ctx.keeper.zone)) if last else ""
    due = day_words(ctx.today + timedelta(days=found.test_in_days)) if found else ""
    used, amount = (
        request.amount_text(each, ctx.household.system(system_id).volume_l)
        for each in (state.amount, found.amount if found else 0.0)
    )
    return RampRow(
        kind=request.kind,
        name=request.kind.label,
        amount_now=phrase("stock.in_use", amount=used, since=since) if state.amount else phrase("stock.none_in_use"),
        next=amount if found else "",
        why=found.why if found else "",
        test=phrase("stock.test_by", name=spoken(request.kind.lowers), due=due) if due else "",
        missing=list(state.missing),
        amount=found.amount if found else 0.0,
        source=request.source,
        full_g=request.full_g,
    )


@router.post("/systems/{system_id}/ramp", status_code=201)
def ramp_up(system_id: Id, body: RampBody, ctx: In, key: Key) -> Recorded:
    """Start the next amount; it is recorded with its day."""
    state = _state(ctx, system_id, RampRequest(**dict(body)))
    row, item = _row(ctx, system_id, state), state.begun(ctx.now)
    return ctx.record_as(key, f"{row.name}: {row.next}", lambda c: container_store.add_ramp(c, system_id, item, key))
