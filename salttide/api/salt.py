"""Salts on the shelf: labels as printed, buckets, and measured batches that show a bucket's real strength."""

from dataclasses import replace
from datetime import date

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import DomainError, at_field, check_range
from salttide.core.basics.measures import kilograms_words
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words
from salttide.core.basics.refused import refused
from salttide.core.science.amount import grams
from salttide.core.science.label import read_label, read_printed_at, with_unit
from salttide.core.science.mix import SaltMix, StrengthBasis, sea_salt_share
from salttide.core.science.parameters import FACTS, Parameter, Span
from salttide.core.science.salt_calibration import MeasuredBatch, check_batch, strength_learned
from salttide.core.science.units import parse_measurement, show, show_difference, unit_of
from salttide.store import shelf
from salttide.store.shelf import Label

from .context import Context, In, Key
from .mix_answer import stock_words
from .models import Id, Model, Recorded, RequestModel

router = APIRouter(prefix="/api/salts", tags=["shelf"])


class SaltBody(RequestModel):
    """A salt by its label, as printed: "2.95 ± 0.15 meq/L", "9.6–10.4 dKH", "at least 360"; what it does not say is
    left out. printed_at: the salinity or specific gravity at which the label states its values; the strength is that
    for 35 ppt.
    """

    name: str = Field(min_length=1, max_length=60)
    strength_g_l: float
    basis: StrengthBasis
    printed: dict[Parameter, str] = Field(default_factory=dict)
    printed_at: str = Field(default="35", max_length=20)
    bulk_density_g_ml: float | None = None


class SaltAnswer(Model):
    """The salt on the shelf."""

    id: int
    name: str


class SaltShown(SaltBody):
    """A salt with what plans take it for: label and own batches together."""

    id: int
    usual: bool
    holds: list[str]
    holds_from: str
    strength: str
    bucket: str
    batches: int


class BucketBody(RequestModel):
    """A newly opened bucket; the one before counts as empty."""

    mass_kg: float
    lot: str = Field(default="", max_length=40)


class BatchBody(RequestModel):
    """A measured batch, in the keeper's units; grams and litres where it was weighed and measured."""

    salinity: str
    holds: dict[Parameter, str] = Field(default_factory=dict)
    mass_g: float | None = None
    volume_l: float | None = None


def salt_shown(ctx: Context, label: Label) -> SaltShown:
    salt = shelf.salt(ctx.connection, label.salt.id)
    batches = shelf.batches(ctx.connection, salt.id)
    return SaltShown(
        id=salt.id,
        name=salt.name,
        strength_g_l=label.salt.strength_g_l,
        basis=label.salt.basis,
        printed=dict(label.printed),
        printed_at=show_number(label.printed_at, 1),
        bulk_density_g_ml=label.bulk_density_g_ml,
        usual=salt.id == ctx.keeper.salt_id,
        holds=[_holds_words(ctx, parameter, span) for parameter, span in salt.values.items()],
        holds_from=salt.values_from,
        strength=_strength_words(label.salt, batches),
        bucket=_bucket_words(ctx, salt),
        batches=len(batches),
    )


def _holds_words(ctx: Context, parameter: Parameter, span: Span) -> str:
    units = ctx.keeper.units
    if span.high == float("inf"):
        return phrase("salt.at_least", name=FACTS[parameter].name, low=show(parameter, span.low, units))
    if span.width == 0:
        return f"{FACTS[parameter].name} {show(parameter, span.low, units)}"
    give = show_difference(parameter, span.half, span.middle, units)
    return f"{FACTS[parameter].name} {show(parameter, span.middle, units)} ± {give}"


def _strength_words(label: SaltMix, batches: list[MeasuredBatch]) -> str:
    """How weighed batches compare with the label's strength; empty where none was weighed."""
    found = strength_learned(batches)
    if found is None:
        return ""
    by = phrase("salt.batch") if found.count == 1 else phrase("salt.batches", count=found.count)
    measured = phrase(
        "salt.g_l_from", strength=show_number(found.strength_g_l, 1), sd=show_number(found.sd, 1), batches=by
    )
    differs = label.basis != StrengthBasis.FINISHED_WATER or found.differs_from(label.strength_g_l)
    return phrase("salt.used_in_plans" if differs else "salt.as_the_label_says", measured=measured)


def _bucket_words(ctx: Context, salt: SaltMix) -> str:
    opened = shelf.buckets(ctx.connection, salt.id)
    if not opened:
        return ""
    lot = phrase("common.lot_lot", lot=opened[0].lot) if opened[0].lot else ""
    day = date_words(date.fromisoformat(opened[0].opened_on))
    return phrase(
        "salt.bucket_opened", mass=kilograms_words(opened[0].mass_g, 1), day=day, lot=lot, left=stock_words(ctx, salt)
    )


@router.post("", status_code=201)
def add_salt(body: SaltBody, ctx: In, key: Key) -> SaltAnswer:
    """Put a salt on the shelf."""
    label = _read_salt(ctx, body, 0)
    return SaltAnswer(id=ctx.command(key, lambda connection: shelf.add_label(connection, label)), name=label.salt.name)


@router.put("/{salt_id}")
def change_salt(salt_id: Id, body: SaltBody, ctx: In) -> SaltAnswer:
    """Store an edited label. Water already mixed keeps the values it was mixed by."""
    shelf.label(ctx.connection, salt_id)
    label = _read_salt(ctx, body, salt_id)
    with ctx.write() as connection:
        shelf.change_label(connection, label)
    return SaltAnswer(id=salt_id, name=label.salt.name)


@router.post("/{salt_id}/usual")
def usual_salt(salt_id: Id, ctx: In, key: Key) -> Recorded:
    """Make this salt the default of plans."""
    name = shelf.label(ctx.connection, salt_id).salt.name
    ctx.command(key, lambda connection: shelf.save_keeper(connection, replace(ctx.keeper, salt_id=salt_id)))
    return Recorded(command=key, words=phrase("salt.is_now_the_usual_salt", name=name))


def _read_salt(ctx: Context, body: SaltBody, salt_id: int) -> Label:
    """The label in canonical units; every text is checked at its field."""
    if not body.name.strip():
        raise refused("salt.enter_the_name_on_the_bucket", "name")
    sign = ctx.keeper.habits.sign
    printed_at = at_field("printed_at", lambda: read_printed_at(body.printed_at, sign))
    typed = {parameter: text for parameter, text in body.printed.items() if text.strip()}
    values = {parameter: _read_value(ctx, parameter, text, printed_at) for parameter, text in typed.items()}
    printed = {p: with_unit(p, text, unit_of(p, ctx.keeper.units)) for p, text in typed.items()}
    sea_salt_share(body.strength_g_l, body.basis)
    if body.bulk_density_g_ml is not None:
        check_range(phrase("common.bulk_density"), body.bulk_density_g_ml, "g/mL", 0.2, 3, field="bulk_density_g_ml")
    name = body.name.strip()
    others = [one.salt.name.casefold() for one in shelf.labels(ctx.connection) if one.salt.id != salt_id]
    if name.casefold() in others:
        raise refused("salt.this_salt_is_already_on_the", "name", "common.another_name")
    return Label(
        SaltMix(salt_id, name, body.strength_g_l, body.basis, values), printed, printed_at, body.bulk_density_g_ml
    )


def _read_value(ctx: Context, parameter: Parameter, text: str, printed_at: float) -> Span:
    field, unit = f"printed.{parameter.value}", unit_of(parameter, ctx.keeper.units)
    span = at_field(field, lambda: read_label(parameter, text, unit, printed_at, ctx.keeper.habits.sign))
    facts = FACTS[parameter]
    if span.low > facts.possible.high:
        low, high = (
            round(unit.from_canonical(end), unit.decimals) for end in (facts.possible.low, facts.possible.high)
        )
        raise DomainError(facts.name, unit.from_canonical(span.low), unit.label, low, high, field=field)
    return span


@router.post("/{salt_id}/buckets", status_code=201)
def open_bucket(salt_id: Id, body: BucketBody, ctx: In, key: Key) -> Recorded:
    """Open a bucket. Its strength is learned anew from its own batches."""
    name = shelf.label(ctx.connection, salt_id).salt.name
    mass_g = grams(check_range("bucket", body.mass_kg, "kg", 0.1, 1500, field="mass_kg"))

    return ctx.record_as(
        key,
        phrase("salt.kg_bucket_of_opened", mass=kilograms_words(mass_g, 1), name=name),
        lambda c: shelf.open_bucket(c, salt_id, ctx.today, mass_g, body.lot.strip(), key),
    )


@router.post("/{salt_id}/batches", status_code=201)
def measured_batch(salt_id: Id, body: BatchBody, ctx: In, key: Key) -> Recorded:
    """Save a measured batch."""
    name = shelf.label(ctx.connection, salt_id).salt.name
    holds = {
        parameter: _measured(ctx, parameter, text, f"holds.{parameter.value}")
        for parameter, text in body.holds.items()
        if text.strip()
    }
    salinity = _measured(ctx, Parameter.SALINITY, body.salinity, "salinity")
    batch = check_batch(MeasuredBatch(salinity, holds, body.mass_g, body.volume_l))

    return ctx.record_as(
        key, phrase("salt.batch_of_saved", name=name), lambda c: shelf.add_batch(c, salt_id, ctx.today, batch, key)
    )


def _measured(ctx: Context, parameter: Parameter, text: str, field: str) -> float:
    unit = unit_of(parameter, ctx.keeper.units).key
    return at_field(field, lambda: parse_measurement(parameter, text, unit, ctx.keeper.habits.sign))
