"""Shelf: a salt put on it as its label has it."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from salttide.core.errors import InputError
from salttide.core.mix import SaltMix, StrengthBasis, sea_salt_share
from salttide.core.parameters import Parameter, Span
from salttide.core.units import to_canonical, unit_of
from salttide.store import shelf

from .context import Context, In, Key
from .models import Strict

router = APIRouter(prefix="/api", tags=["shelf"])


class LabelBody(Strict):
    """A printed value, single or as a range, in the keeper's unit."""

    low: float
    high: float


class SaltBody(Strict):
    """A salt by its label; what the label does not say is left out."""

    name: str = Field(min_length=1, max_length=60)
    strength_g_l: float
    basis: StrengthBasis
    values: dict[Parameter, LabelBody] = Field(default_factory=dict)


class SaltAnswer(BaseModel):
    """The salt on the shelf."""

    id: int
    name: str


@router.post("/salts", status_code=201)
def add_salt(body: SaltBody, ctx: In, key: Key) -> SaltAnswer:
    """Put a salt on the shelf."""
    if not body.name.strip():
        raise InputError("name the salt as its bucket does", field="name")
    values = {parameter: _label(ctx, parameter, label) for parameter, label in body.values.items()}
    item = SaltMix(0, body.name.strip(), body.strength_g_l, body.basis, values)
    sea_salt_share(item.strength_g_l, item.basis)
    if any(salt.name.casefold() == item.name.casefold() for salt in shelf.salts(ctx.connection)):
        raise InputError("this salt is on the shelf already", field="name", accepted="another name")
    return SaltAnswer(id=ctx.command(key, lambda connection: shelf.add_salt(connection, item)), name=item.name)


def _label(ctx: Context, parameter: Parameter, label: LabelBody) -> Span:
    unit = unit_of(parameter, ctx.keeper.units)
    try:
        span = Span(to_canonical(parameter, label.low, unit), to_canonical(parameter, label.high, unit))
    except InputError as error:
        error.field = f"values.{parameter.value}"
        raise
    if span.low > span.high:
        raise InputError("the lower value comes first", field=f"values.{parameter.value}")
    return span
