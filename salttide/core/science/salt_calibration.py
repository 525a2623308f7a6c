"""What measured batches show of a salt: its real strength, and values the label leaves out or has wrong."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import inf

from ..basics.errors import InputError, check_range
from .mix import LABEL_SALINITY, SaltMix, StrengthBasis
from .parameters import FACTS, Parameter, Span
from .salts import Learned, strength_from_batches


@dataclass(frozen=True)
class MeasuredBatch:
    """A measured batch: salinity, values (canonical), and g and L where weighed and measured."""

    salinity: float
    holds: Mapping[Parameter, float] = field(default_factory=dict)
    mass_g: float | None = None
    volume_l: float | None = None
    id: int = 0


def check_batch(batch: MeasuredBatch) -> MeasuredBatch:
    """Refuse an impossible batch at its field: salinity 20 to 42 ppt, mass and volume together or not at all."""
    check_range("salinity", batch.salinity, "ppt", 20, 42, field="salinity")
    if (batch.mass_g is None) != (batch.volume_l is None):
        missing = "volume_l" if batch.volume_l is None else "mass_g"
        raise InputError("mass and volume go together", field=missing, accepted="both, or neither")
    if batch.mass_g is not None and batch.volume_l is not None:
        check_range("volume", batch.volume_l, "L", 0.5, 10_000, field="volume_l")
        check_range("salt", batch.mass_g, "g", 15 * batch.volume_l, 60 * batch.volume_l, field="mass_g")
    for parameter, value in batch.holds.items():
        possible = FACTS[parameter].possible
        check_range(FACTS[parameter].name, value, "", possible.low, possible.high, field=f"holds.{parameter.value}")
    return batch


def values_from_batches(batches: Sequence[MeasuredBatch]) -> dict[Parameter, Span]:
    """What batches of one salt hold at 35 ppt: the mean of each parameter, give or take scatter over the root of count.

    >>> batches = [MeasuredBatch(35.0, {Parameter.CALCIUM: 370.0}), MeasuredBatch(33.6, {Parameter.CALCIUM: 359.0})]
    >>> span = values_from_batches(batches)[Parameter.CALCIUM]
    >>> round(span.middle), round(span.width, 1)
    (372, 11.3)
    """
    found: dict[Parameter, list[float]] = {}
    for batch in batches:
        for parameter, value in batch.holds.items():
            found.setdefault(parameter, []).append(value * LABEL_SALINITY / batch.salinity)
    return {parameter: _around(parameter, values) for parameter, values in found.items()}


def _around(parameter: Parameter, values: Sequence[float]) -> Span:
    mean = sum(values) / len(values)
    give = FACTS[parameter].sd / len(values) ** 0.5
    return Span(max(0.0, mean - give), mean + give)


def strength_learned(batches: Sequence[MeasuredBatch]) -> Learned | None:
    """The bucket's strength from the batches that were weighed; None where none was."""
    weighed = [(b.mass_g, b.volume_l, b.salinity) for b in batches if b.mass_g is not None and b.volume_l is not None]
    return strength_from_batches(weighed) if weighed else None


def learned_salt(label: SaltMix, batches: Sequence[MeasuredBatch]) -> SaltMix:
    """The salt for plans: values of its own batches before the label's, and their strength once it clearly differs from
    the label's. `values_from` says so.

    >>> label = SaltMix(1, "basic", 35.4, StrengthBasis.FINISHED_WATER, {})
    >>> learned_salt(label, [MeasuredBatch(35.0, {Parameter.CALCIUM: 372.0})]).values_from
    '1 own batch'
    """
    measured, strength = values_from_batches(batches), strength_learned(batches)
    if not batches:
        return label
    own = "1 own batch" if len(batches) == 1 else f"{len(batches)} own batches"
    words = own if measured else label.values_from
    salt = replace(label, values={**label.values, **measured}, values_from=words)
    stated = label.strength_g_l if label.basis == StrengthBasis.FINISHED_WATER else None
    if strength is None or (stated is not None and not strength.differs_from(stated)):
        return salt
    return replace(salt, strength_g_l=strength.strength_g_l, basis=StrengthBasis.FINISHED_WATER)


def bounded(salt: SaltMix) -> SaltMix:
    """The salt without values known only as a lower bound: no single value may be made of these."""
    return replace(salt, values={p: span for p, span in salt.values.items() if span.high < inf})


def mixed_water(salt: SaltMix, salinity: float) -> dict[Parameter, float]:
    """What new water of a salt holds at a salinity, as single values; a mix from purified water has no nutrients."""
    scale = salinity / LABEL_SALINITY
    held = {parameter: span.middle * scale for parameter, span in bounded(salt).values.items()}
    return {**held, Parameter.SALINITY: salinity, Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0}
