"""Shelf: salts, additives and foods."""

from collections.abc import Mapping

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import typed_day
from salttide.core.basics.errors import at_field, check_range
from salttide.core.basics.measures import grams_words, litres_words
from salttide.core.basics.number_text import fraction, percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words
from salttide.core.basics.refused import refused
from salttide.core.science.additives import COMPOUNDS, effects
from salttide.core.science.food import Food, brought, check_food
from salttide.core.science.label import PRINTED
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.solutions import check_stock
from salttide.core.science.units import show_difference, unit_of
from salttide.core.system.additive_amount import SAMPLE_VOLUME_L, sample_rises, sample_size
from salttide.core.system.catalogue import food_kinds
from salttide.core.system.shelf import Additive
from salttide.household.purchases import Purchase, PurchaseKind, purchases
from salttide.household.start import add_starters
from salttide.store import shelf
from salttide.store.shelf import Shelved

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel
from .salt import SaltShown, salt_shown

router = APIRouter(prefix="/api", tags=["shelf"])


class AdditiveBody(RequestModel):
    """An additive: a formula and its purity; with a strength, a solution."""

    name: str = Field(min_length=1, max_length=60)
    formula: str = Field(min_length=1, max_length=40)
    purity_percent: float = 100
    strength_g_l: float | None = None
    bulk_density_g_ml: float | None = None
    expires_on: str = ""


class AdditiveShown(AdditiveBody):
    """An additive, and its effect on 100 L."""

    id: int
    words: str
    expired: bool


class PurchaseShown(Model):
    """Something to buy: what, why, by when, and what it is for. system_id: 0 where it is for all."""

    kind: PurchaseKind
    words: str
    reason: str
    by: str
    urgent: bool
    system_id: int
    key: str


class FoodBody(RequestModel):
    """A food: percentages as fed and of the dry weight; what is left out follows its kind."""

    name: str = Field(min_length=1, max_length=60)
    kind: str
    dry_percent: float | None = None
    nitrogen_percent: float | None = None
    phosphorus_percent: float | None = None
    portion_g: float | None = None
    expires_on: str = ""


class FoodShown(Model):
    """A food, and what a portion adds."""

    id: int
    name: str
    kind: str
    dry_percent: float
    nitrogen_percent: float
    phosphorus_percent: float
    portion_g: float
    expires_on: str
    expired: bool
    words: str


class FoodKindShown(Model):
    """A kind of food with its usual content."""

    key: str
    name: str
    dry_percent: float
    nitrogen_percent: float
    phosphorus_percent: float
    portion_g: float


class ShelfAnswer(Model):
    """What is on the shelf apart from instruments, and what could be added."""

    salts: list[SaltShown]
    additives: list[AdditiveShown]
    foods: list[FoodShown]
    printed: list[Choice]
    compounds: list[Choice]
    food_kinds: list[FoodKindShown]


@router.get("/shelf")
def shelf_shown(ctx: In) -> ShelfAnswer:
    """What is on the shelf apart from instruments."""
    units = ctx.keeper.units
    return ShelfAnswer(
        salts=[salt_shown(ctx, label) for label in shelf.labels(ctx.connection)],
        additives=[_additive_shown(ctx, item) for item in ctx.stored.additives],
        foods=[_food_shown(ctx, item) for item in shelf.foods(ctx.connection)],
        printed=[Choice(key=p, name=FACTS[p].name, remark=unit_of(p, units).label) for p in PRINTED],
        compounds=[Choice(key=one.formula, name=one.name) for one in COMPOUNDS.values()],
        food_kinds=[
            FoodKindShown(
                key=kind.key,
                name=kind.name,
                dry_percent=round(percent(kind.dry_share), 2),
                nitrogen_percent=round(percent(kind.nitrogen_share), 2),
                phosphorus_percent=round(percent(kind.phosphorus_share), 2),
                portion_g=kind.portion_g,
            )
            for kind in food_kinds().values()
        ],
    )


@router.get("/shelf/purchases")
def to_buy(ctx: In) -> list[PurchaseShown]:
    """What there is to buy for all systems, what is needed first at the top."""
    return [_purchase_shown(ctx, one) for one in purchases(ctx.household)]


def _purchase_shown(ctx: Context, one: Purchase) -> PurchaseShown:
    urgent = one.by is None or one.by <= ctx.today
    by = phrase("purchase.now") if one.by is None or urgent else phrase("purchase.by", day=day_words(one.by))
    return PurchaseShown(
        kind=one.kind, words=one.words, reason=one.reason, by=by, urgent=urgent, system_id=one.system_id, key=one.key
    )


@router.post("/additives", status_code=201)
def add_additive(body: AdditiveBody, ctx: In, key: Key) -> Recorded:
    """Put an additive on the shelf."""
    return _put(ctx, key, _read_additive(ctx, body, 0))


@router.post("/additives/starters", status_code=201)
def add_starter_additives(ctx: In, key: Key) -> Recorded:
    """Put the common additives on the shelf, as far as they are not there."""
    return ctx.record_as(key, phrase("shelf.common_additives_added"), lambda c: add_starters(ctx.household, c))


@router.put("/additives/{item_id}")
def change_additive(item_id: Id, body: AdditiveBody, ctx: In, key: Key) -> Recorded:
    """Store what is known of an additive."""
    return _put(ctx, key, _read_additive(ctx, body, item_id))


@router.post("/foods", status_code=201)
def add_food(body: FoodBody, ctx: In, key: Key) -> Recorded:
    """Put a food on the shelf."""
    return _put(ctx, key, _read_food(ctx, body, 0))


@router.put("/foods/{item_id}")
def change_food(item_id: Id, body: FoodBody, ctx: In, key: Key) -> Recorded:
    """Store what is known of a food."""
    return _put(ctx, key, _read_food(ctx, body, item_id))


@router.post("/shelf/{table}/{item_id}/archive")
def archive(table: Shelved, item_id: Id, ctx: In, key: Key) -> Recorded:
    """Take something off the shelf; its past uses stay in the record."""
    ctx.command(key, lambda connection: shelf.set_archived(connection, table, item_id, True))
    return Recorded(command=key, words=phrase("shelf.off_the_shelf"))


@router.post("/shelf/{table}/{item_id}/restore")
def restore(table: Shelved, item_id: Id, ctx: In, key: Key) -> Recorded:
    """Put something back on the shelf."""
    ctx.command(key, lambda connection: shelf.set_archived(connection, table, item_id, False))
    return Recorded(command=key, words=phrase("shelf.back_on_the_shelf"))


def _put(ctx: Context, key: str, item: Additive | Food) -> Recorded:
    return ctx.record_as(key, phrase("common.name_is_on_the_shelf", name=item.name), lambda c: shelf.save_item(c, item))


def _read_additive(ctx: Context, body: AdditiveBody, item_id: int) -> Additive:
    if not body.name.strip():
        raise refused("shelf.enter_a_name_for_the_additive", "name", "common.to_characters")
    formula = body.formula.strip().replace("*", "·").replace(".", "·")
    at_field("formula", lambda: effects(formula, 1.0, 100.0))
    check_range("purity", body.purity_percent, "%", 1, 100, field="purity_percent")
    if body.strength_g_l is not None:
        check_stock(formula, body.strength_g_l)
    if body.bulk_density_g_ml is not None:
        check_range(phrase("common.bulk_density"), body.bulk_density_g_ml, "g/mL", 0.2, 3, field="bulk_density_g_ml")
    return Additive(
        item_id, body.name.strip(), formula, fraction(body.purity_percent), body.strength_g_l, body.bulk_density_g_ml,
        _day(body.expires_on),
    )  # fmt: skip


def _read_food(ctx: Context, body: FoodBody, item_id: int) -> Food:
    kind = food_kinds().get(body.kind)
    if kind is None:
        raise refused("shelf.is_not_a_kind_of_food", "kind", takes=", ".join(food_kinds()), kind=body.kind)

    def share(percent: float | None, usual: float) -> float:
        return usual if percent is None else fraction(percent)

    return check_food(
        Food(
            item_id, body.name.strip(), kind.key, share(body.dry_percent, kind.dry_share),
            share(body.nitrogen_percent, kind.nitrogen_share), share(body.phosphorus_percent, kind.phosphorus_share),
            kind.portion_g if body.portion_g is None else body.portion_g, _day(body.expires_on),
        )
    )  # fmt: skip


def _day(text: str) -> str:
    return typed_day(text, "expires_on").isoformat() if text else ""


def _additive_shown(ctx: Context, item: Additive) -> AdditiveShown:
    return AdditiveShown(
        id=item.id,
        name=item.name,
        formula=item.formula,
        purity_percent=round(percent(item.purity), 4),
        strength_g_l=item.strength_g_l,
        bulk_density_g_ml=item.bulk_density_g_ml,
        expires_on=item.expires_on,
        words=_effect_words(ctx, item),
        expired=_expired(ctx, item.expires_on),
    )


def _effect_words(ctx: Context, item: Additive) -> str:
    """What ten grams or ten millilitres raise 100 L by, largest effect first."""
    shown = [f"{FACTS[p].name} {_signed(ctx, p, rise)}" for p, rise in sample_rises(item).items()]
    return (
        phrase(
            "shelf.in_l", sample=sample_size(item), litres=litres_words(SAMPLE_VOLUME_L, 0), effects=", ".join(shown)
        )
        if shown
        else ""
    )


def _signed(ctx: Context, parameter: Parameter, rise: float) -> str:
    around = max(FACTS[parameter].likely.middle, abs(rise))
    return f"{'+' if rise >= 0 else ''}{show_difference(parameter, rise, around, ctx.keeper.units)}"


def _food_shown(ctx: Context, item: Food) -> FoodShown:
    grams: Mapping[Parameter, float] = brought(item, 1)
    parts = [f"{show_number(mg, 1)} mg {FACTS[p].name.lower()}" for p, mg in grams.items()]
    return FoodShown(
        id=item.id,
        name=item.name,
        kind=item.kind,
        dry_percent=round(percent(item.dry_share), 4),
        nitrogen_percent=round(percent(item.nitrogen_share), 4),
        phosphorus_percent=round(percent(item.phosphorus_share), 4),
        portion_g=item.portion_g,
        expires_on=item.expires_on,
        expired=_expired(ctx, item.expires_on),
        words=phrase("shelf.a_portion_of_g_brings", grams=grams_words(item.portion_g, 1), parts=" and ".join(parts)),
    )


def _expired(ctx: Context, day: str) -> bool:
    return bool(day) and day < ctx.today.isoformat()
