"""Mixing a batch of new water from a salt mix."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from .errors import check_range
from .parameters import Parameter, Span
from .seawater import density_kg_l
from .working import Formula, Given, Step, Working

MIXING_C = 25.0
LABEL_SALINITY = 35.0


class StrengthBasis(StrEnum):
    """What a product's grams per litre are counted on."""

    FINISHED_WATER = "finished_water"
    FRESH_WATER = "fresh_water"


@dataclass(frozen=True)
class SaltMix:
    """A salt mix on the shelf. `values` are what a batch at 35 ppt holds (canonical), as far as known."""

    id: int
    name: str
    strength_g_l: float
    basis: StrengthBasis
    values: Mapping[Parameter, Span]
    values_from: str = "label"


@dataclass(frozen=True)
class Batch:
    """New water: finished volume (L), salinity, salt mass (g), fresh water (L), and what it holds as intervals."""

    volume_l: float
    salinity: float
    mass_g: float
    fresh_water_l: float
    holds: Mapping[Parameter, Span]
    working: Working


DENSITY = Formula("ρ", "density of the water", "density(S, t)", "kg/L", "TEOS-10 (2010)", {"density": density_kg_l})
SALT_SHARE = Formula("S_R", "dissolved salt", "35.16504 / 35 * S", "g/kg", "Millero et al. 2008, reference composition")
YIELD_FINISHED = Formula(
    "y", "sea salt per gram of product", "ρ * S_R / g", "g/g", "the label: grams per litre of finished water at 35 ppt"
)
YIELD_FRESH = Formula(
    "y",
    "sea salt per gram of product",
    "S_R * (1000 * ρ_w + g) / (1000 * g)",
    "g/g",
    "the label: grams per litre of fresh water to reach 35 ppt",
)
SALT_MASS = Formula("m", "salt mass", "ρ * V * S_R / y", "g", "mass balance: dissolved salt over yield")
FRESH_WATER = Formula("F", "fresh water", "(ρ * V - m / 1000) / ρ_w", "L", "mass balance: water is what is not salt")


def product_yield(salt: SaltMix) -> Working:
    """Grams of sea salt (reference composition) that one gram of the product brings, from its label.

    Below 1 where the product holds water, slightly above 1 for some labels. Strength 20 to 60 g/L.

    >>> salt = SaltMix(1, "example", 37.1, StrengthBasis.FINISHED_WATER, {})
    >>> round(product_yield(salt)[-1].value, 3)
    0.97
    """
    check_range("salt strength", salt.strength_g_l, "g/L", 20, 60, field="strength_g_l")
    label = {"S": Given(LABEL_SALINITY, "ppt", "the label's salinity"), "t": Given(MIXING_C, "°C")}
    share = SALT_SHARE.compute(S=label["S"])
    strength = Given(salt.strength_g_l, "g/L", f"label of {salt.name}")
    if salt.basis == StrengthBasis.FINISHED_WATER:
        density = DENSITY.compute(**label)
        return density, share, YIELD_FINISHED.compute(ρ=density.given(), S_R=share.given(), g=strength)
    water = _fresh_density()
    return share, water, YIELD_FRESH.compute(S_R=share.given(), ρ_w=water.given(), g=strength)


def mix_batch(salt: SaltMix, volume_l: float, salinity: float) -> Batch:
    """Salt and fresh water for `volume_l` of finished water (0.1 to 10000 L) at `salinity` (1 to 42 ppt), at 25 °C.

    At 35 ppt the mass is exactly the label's. What the batch holds scales with its salinity.

    >>> salt = SaltMix(1, "example", 37.1, StrengthBasis.FINISHED_WATER, {})
    >>> round(mix_batch(salt, 45.0, 35.0).mass_g, 1)
    1669.5
    """
    check_range("batch volume", volume_l, "L", 0.1, 10_000, field="volume_l")
    check_range("batch salinity", salinity, "ppt", 1, 42, field="salinity")
    yields = product_yield(salt)
    volume, target = Given(volume_l, "L", "finished volume"), Given(salinity, "ppt", "batch salinity")
    density = DENSITY.compute(S=target, t=Given(MIXING_C, "°C", "mixing temperature"))
    share = SALT_SHARE.compute(S=target)
    mass = SALT_MASS.compute(ρ=density.given(), V=volume, S_R=share.given(), y=yields[-1].given())
    water = _fresh_density()
    fresh = FRESH_WATER.compute(ρ=density.given(), V=volume, m=mass.given(), ρ_w=water.given())
    scale = salinity / LABEL_SALINITY
    holds = {parameter: Span(span.low * scale, span.high * scale) for parameter, span in salt.values.items()}
    return Batch(volume_l, salinity, mass.value, fresh.value, holds, (*yields, density, share, mass, water, fresh))


def _fresh_density() -> Step:
    step = DENSITY.compute(S=Given(0.0, "ppt", "fresh water"), t=Given(MIXING_C, "°C"))
    return Step("ρ_w", "density of fresh water", step.formula, step.inputs, step.value, step.unit, step.source)


STRENGTHEN = Formula(
    "m",
    "salt to add",
    "ρ * V * 1000 * (S_to - S_from) / (1000 * y - S_to)",
    "g",
    "mass balance: (ρ·V·S_from + y·m/1000) / (ρ·V + m/1000) = S_to, solved for m",
)


def salt_to_strengthen(salt: SaltMix, volume_l: float, salinity_from: float, salinity_to: float) -> Step:
    """Grams of salt that raise a batch of `volume_l` from one salinity to a higher one, by the exact balance."""
    return STRENGTHEN.compute(
        ρ=DENSITY.compute(S=Given(salinity_from, "ppt"), t=Given(MIXING_C, "°C")).given(),
        V=Given(volume_l, "L", "batch as it is"),
        S_from=SALT_SHARE.compute(S=Given(salinity_from, "ppt", "as measured")).given(),
        S_to=SALT_SHARE.compute(S=Given(salinity_to, "ppt", "as planned")).given(),
        y=product_yield(salt)[-1].given(),
    )


WEAKEN = Formula(
    "x", "batch to take out and replace by fresh water", "V * (S_from - S_to) / S_from", "L", "dilution: S·(V−x) = S'·V"
)


def water_to_weaken(volume_l: float, salinity_from: float, salinity_to: float) -> Step:
    """Litres of batch to take out and fill up with fresh water, to bring its salinity down at the same volume.

    >>> round(water_to_weaken(45.0, 36.0, 35.0).value, 2)
    1.25
    """
    return WEAKEN.compute(
        V=Given(volume_l, "L", "batch as it is"),
        S_from=Given(salinity_from, "ppt", "as measured"),
        S_to=Given(salinity_to, "ppt", "as planned"),
    )
