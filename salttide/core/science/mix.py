"""Mixing a batch of new water from a salt mix."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from ..basics.errors import check_choice, check_range
from ..basics.working import Formula, FormulaInput, Result, Step, Working
from .parameters import Parameter, Span
from .seawater import density_kg_l

MIXING_C = 25.0
LABEL_SALINITY = 35.0
MAX_SALINITY = 42.0
MIN_SALINITY = 5.0
"""Below it no animal of the sea is kept; a smaller number is most likely a specific gravity."""


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

    @property
    def sea_salt(self) -> float:
        """Grams of sea salt in a gram of the product."""
        return float(sea_salt_share(self.strength_g_l, self.basis, self.name))


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
BY_RULE = Formula("m", "salt mass by the rule", "V * g * S / 35", "g", "in proportion to salinity")
DISSOLVED = Formula("S", "salinity of the batch", "m * y / (ρ_w * F + m / 1000) * 35 / 35.16504", "ppt", "mass balance")
INTO_FRESH = Formula(
    "m", "salt mass", "1000 * ρ_w * F * S_R / (1000 * y - S_R)", "g", "mass balance: m·y = (M_w + m)·S_R"
)
FRESH_WATER = Formula("F", "fresh water", "(ρ * V - m / 1000) / ρ_w", "L", "mass balance: water is what is not salt")


def sea_salt_share(
    strength_g_l: float, basis: StrengthBasis = StrengthBasis.FINISHED_WATER, name: str = "the product"
) -> Result:
    """Grams of sea salt (reference composition) that one gram of a product brings, from its label (20 to 60 g/L).

    The label counts on finished water, or on the fresh water the salt goes into, at 35 ppt. Below 1 where the product
    holds water, slightly above 1 for some labels. Raises DomainError.

    >>> round(sea_salt_share(37.1), 3), round(sea_salt_share(39.2, StrengthBasis.FRESH_WATER), 3)
    (0.97, 0.93)
    """
    check_range("salt strength", strength_g_l, "g/L", 20, 60, field="strength_g_l")
    label = {"S": FormulaInput(LABEL_SALINITY, "ppt", "the label's salinity"), "t": FormulaInput(MIXING_C, "°C")}
    share = SALT_SHARE.compute(S=label["S"])
    strength = FormulaInput(strength_g_l, "g/L", f"label of {name}")
    if check_choice(StrengthBasis, basis) == StrengthBasis.FINISHED_WATER:
        density = DENSITY.compute(**label)
        return YIELD_FINISHED.result(density, share, ρ=density.given(), S_R=share.given(), g=strength)
    water = _fresh_density()
    return YIELD_FRESH.result(share, water, S_R=share.given(), ρ_w=water.given(), g=strength)


def salt_mass_g(
    volume_l: float,
    salinity: float,
    strength_g_l: float,
    basis: StrengthBasis = StrengthBasis.FINISHED_WATER,
    temperature_c: float = MIXING_C,
) -> Result:
    """Grams of salt for `volume_l` of finished water (0.1 to 10 000 L) at a salinity (5 to 42 ppt), by exact balance.

    At 35 ppt and 25 °C exactly the label's grams per litre of finished water. `strength_g_l` 20 to 60 at 35 ppt, on
    finished or on fresh water. Raises DomainError.

    >>> round(salt_mass_g(45.0, 35.0, 37.1), 1), round(salt_mass_g(1.0, 35.0, 39.2, StrengthBasis.FRESH_WATER), 2)
    (1669.5, 38.71)
    """
    return _mass(sea_salt_share(strength_g_l, basis), volume_l, salinity, temperature_c)


def _mass(share: Result, volume_l: float, salinity: float, temperature_c: float = MIXING_C) -> Result:
    check_range("batch volume", volume_l, "L", 0.1, 10_000, field="volume_l")
    check_range("batch salinity", salinity, "ppt", MIN_SALINITY, MAX_SALINITY, field="salinity")
    target = FormulaInput(salinity, "ppt", "batch salinity")
    density = DENSITY.compute(S=target, t=FormulaInput(temperature_c, "°C", "mixing temperature"))
    dissolved = SALT_SHARE.compute(S=target)
    volume = FormulaInput(volume_l, "L", "finished volume")
    return SALT_MASS.result(
        share, density, dissolved, ρ=density.given(), V=volume, S_R=dissolved.given(), y=share.given()
    )


def fresh_water_l(volume_l: float, salinity: float, mass_g: float) -> Result:
    """Litres of fresh water that with `mass_g` of salt make `volume_l` of finished water of a salinity, at 25 °C.

    >>> round(fresh_water_l(1.0, 35.0, 38.71), 4)
    0.9875
    """
    check_range("volume", volume_l, "L", 0, 1e6, field="volume_l")
    check_range("salinity", salinity, "ppt", 0, 100, field="salinity")
    density = DENSITY.compute(
        S=FormulaInput(salinity, "ppt", "batch"), t=FormulaInput(MIXING_C, "°C", "mixing temperature")
    )
    water = _fresh_density()
    return FRESH_WATER.result(
        density,
        water,
        ρ=density.given(),
        V=FormulaInput(volume_l, "L", "finished volume"),
        m=FormulaInput(check_range("salt", mass_g, "g", 0, 1e6), "g", "salt"),
        ρ_w=water.given(),
    )


def salt_for_fresh_water_g(fresh_l: float, salinity: float, sea_salt: float, temperature_c: float = MIXING_C) -> Result:
    """Grams of salt into `fresh_l` of fresh water (0.1 to 10 000 L) for a salinity: m = M_w·S_R/(1000·y − S_R).

    `sea_salt` is the sea salt in a gram of product, 1 less its water share (0.5 to 1.1).

    >>> round(salt_for_fresh_water_g(1.0, 35.0, 0.93), 1)
    39.2
    """
    check_range("fresh water", fresh_l, "L", 0.1, 10_000)
    check_range("batch salinity", salinity, "ppt", MIN_SALINITY, MAX_SALINITY, field="salinity")
    check_range("sea salt share", sea_salt, "(a fraction)", 0.5, 1.1)
    dissolved = SALT_SHARE.compute(S=FormulaInput(salinity, "ppt", "batch salinity"))
    return INTO_FRESH.result(
        dissolved,
        ρ_w=FormulaInput(density_kg_l(0.0, temperature_c), "kg/L", "fresh water"),
        F=FormulaInput(fresh_l, "L", "fresh water"),
        S_R=dissolved.given(),
        y=FormulaInput(sea_salt, "", "sea salt per gram of product"),
    )


def salinity_of_mix(mass_g: float, fresh_l: float, sea_salt: float) -> Result:
    """Salinity (ppt) of `mass_g` of salt dissolved in `fresh_l` of fresh water at 25 °C; the inverse of the above.

    >>> round(salinity_of_mix(39.2, 1.0, 0.93), 1)
    35.0
    """
    check_range("salt", mass_g, "g", 0, 1e6)
    check_range("fresh water", fresh_l, "L", 0.1, 10_000)
    check_range("sea salt share", sea_salt, "(a fraction)", 0.5, 1.1)
    found = DISSOLVED.result(
        m=FormulaInput(mass_g, "g", "salt"),
        y=FormulaInput(sea_salt, "", "sea salt per gram of product"),
        ρ_w=FormulaInput(density_kg_l(0.0, MIXING_C), "kg/L", "fresh water"),
        F=FormulaInput(fresh_l, "L", "fresh water"),
    )
    check_range("salinity of the batch", found, "ppt", 0, 45)
    return found


def salt_mass_by_rule_g(volume_l: float, salinity: float, strength_g_l: float) -> Result:
    """The rule of thumb: volume · grams per litre · salinity/35. Within 0.3 % of the exact mass between 30 and 40 ppt.

    >>> round(salt_mass_by_rule_g(60.0, 33.0, 37.1), 1)
    2098.8
    """
    check_range("batch volume", volume_l, "L", 0.1, 10_000, field="volume_l")
    check_range("batch salinity", salinity, "ppt", MIN_SALINITY, MAX_SALINITY, field="salinity")
    check_range("salt strength", strength_g_l, "g/L", 20, 60, field="strength_g_l")
    return BY_RULE.result(
        V=FormulaInput(volume_l, "L", "finished volume"),
        g=FormulaInput(strength_g_l, "g/L", "label"),
        S=FormulaInput(salinity, "ppt"),
    )


def mix_batch(salt: SaltMix, volume_l: float, salinity: float) -> Batch:
    """Salt and fresh water for `volume_l` of finished water (0.1 to 10000 L) at `salinity` (5 to 42 ppt), at 25 °C.

    What the batch holds scales with its salinity, as the ranges that the label has.

    >>> salt = SaltMix(1, "example", 37.1, StrengthBasis.FINISHED_WATER, {})
    >>> round(mix_batch(salt, 45.0, 35.0).mass_g, 1)
    1669.5
    """
    mass = _mass(sea_salt_share(salt.strength_g_l, salt.basis, salt.name), volume_l, salinity)
    fresh = fresh_water_l(volume_l, salinity, float(mass))
    scale = salinity / LABEL_SALINITY
    holds = {parameter: Span(span.low * scale, span.high * scale) for parameter, span in salt.values.items()}
    working = (*mass.working, *(step for step in fresh.working if step not in mass.working))
    return Batch(volume_l, salinity, float(mass), float(fresh), holds, working)


def _fresh_density() -> Step:
    step = DENSITY.compute(S=FormulaInput(0.0, "ppt", "fresh water"), t=FormulaInput(MIXING_C, "°C"))
    return Step("ρ_w", "density of fresh water", step.formula, step.inputs, step.value, step.unit, step.source)


NOT_IN_SALT = (Parameter.NITRATE, Parameter.PHOSPHATE, Parameter.AMMONIA, Parameter.NITRITE)
"""What a mix from purified water is without."""


def scaled_with_salt(value: float, share: float, dosed: float = 0.0) -> float:
    """What a batch holds once its salinity is `share` (0 to 1e6) of what it was, in one unit of concentration.

    What the salt brought scales; what doses brought, `dosed`, stays, and counts for no more than is there.

    >>> round(scaled_with_salt(2.9, 35 / 32, 0.3), 4)
    3.1437
    """
    by_dose = min(value, dosed)
    return (value - by_dose) * check_range("share of the salinity", share, "(a fraction)", 0, 1e6) + by_dose


STRENGTHEN = Formula(
    "m",
    "salt to add",
    "ρ * V * 1000 * (S_to - S_from) / (1000 * y - S_to)",
    "g",
    "mass balance: (ρ·V·S_from + y·m/1000) / (ρ·V + m/1000) = S_to, solved for m",
)


def salt_to_strengthen_g(volume_l: float, salinity_from: float, salinity_to: float, sea_salt: float) -> Result:
    """Grams of salt that raise a batch of `volume_l` (0.1 to 10 000 L) to a higher salinity, by the exact balance.

    Salinities 0 to 42, `sea_salt` the sea salt in a gram of product (0.5 to 1.1). The rule volume · g/L · ΔS/35 falls
    3 to 4 % short. Raises DomainError, also for a lower target.

    >>> round(salt_to_strengthen_g(40.0, 33.0, 35.0, 0.96995), 2)
    87.86
    """
    check_range("batch volume", volume_l, "L", 0.1, 10_000, field="volume_l")
    check_range("salinity of the batch", salinity_from, "ppt", 0, 42)
    check_range("target salinity", salinity_to, "ppt", salinity_from, 42, field="salinity")
    check_range("sea salt share", sea_salt, "(a fraction)", 0.5, 1.1)
    return STRENGTHEN.result(
        ρ=DENSITY.compute(S=FormulaInput(salinity_from, "ppt"), t=FormulaInput(MIXING_C, "°C")).given(),
        V=FormulaInput(volume_l, "L", "batch as it is"),
        S_from=SALT_SHARE.compute(S=FormulaInput(salinity_from, "ppt", "as measured")).given(),
        S_to=SALT_SHARE.compute(S=FormulaInput(salinity_to, "ppt", "as planned")).given(),
        y=FormulaInput(sea_salt, "g/g", "sea salt per gram of product"),
    )


WEAKEN = Formula(
    "x", "batch to take out and replace by fresh water", "V * (S_from - S_to) / S_from", "L", "dilution: S·(V−x) = S'·V"
)


def water_to_weaken_l(volume_l: float, salinity_from: float, salinity_to: float) -> Result:
    """Litres of batch to take out and fill up with fresh water, to bring its salinity down at the same volume.

    Salinities 0 to 45; raises DomainError for a higher target.

    >>> round(water_to_weaken_l(45.0, 36.0, 35.0), 2)
    1.25
    """
    check_range("batch volume", volume_l, "L", 0.1, 10_000, field="volume_l")
    check_range("salinity of the batch", salinity_from, "ppt", 0.1, 45)
    check_range("target salinity", salinity_to, "ppt", 0, salinity_from, field="salinity")
    return WEAKEN.result(
        V=FormulaInput(volume_l, "L", "batch as it is"),
        S_from=FormulaInput(salinity_from, "ppt", "as measured"),
        S_to=FormulaInput(salinity_to, "ppt", "as planned"),
    )


@dataclass(frozen=True)
class BatchCorrection:
    """What brings a batch to its salinity: first take out (L), then salt (g) or fresh water (L); and the end volume."""

    take_out_l: float
    salt_g: float
    fresh_l: float
    volume_l: float


def correct_batch(
    volume_l: float, container_l: float, salinity_from: float, salinity_to: float, sea_salt: float = 1.0
) -> BatchCorrection:
    """The correction of a batch that came out weak or strong, within what its container (L) holds.

    Nothing is taken out while there is headroom; else so much first that the corrected batch just fills the container.
    Raises DomainError for a container smaller than the batch.

    >>> correct_batch(45.0, 60.0, 36.0, 35.0).take_out_l, round(correct_batch(45.0, 60.0, 36.0, 35.0).fresh_l, 3)
    (0.0, 1.286)
    >>> round(correct_batch(45.0, 45.0, 36.0, 35.0).take_out_l, 2)
    1.25
    """
    check_range("batch volume", volume_l, "L", 0.1, 10_000, field="volume_l")
    check_range("container", container_l, "L", volume_l, 10_000, field="container_l")
    if salinity_to < salinity_from:
        water_to_weaken_l(volume_l, salinity_from, salinity_to)
        check_range("target salinity", salinity_to, "ppt", 1, salinity_from, field="salinity")
        grows = salinity_from / salinity_to
        kept = min(volume_l, container_l / grows)
        return BatchCorrection(volume_l - kept, 0.0, kept * (grows - 1), kept * grows)
    mass = float(salt_to_strengthen_g(volume_l, salinity_from, salinity_to, sea_salt))
    before_kg = volume_l * density_kg_l(salinity_from, MIXING_C)
    grows = (before_kg + mass / 1000) / density_kg_l(salinity_to, MIXING_C) / volume_l
    kept = min(volume_l, container_l / grows)
    return BatchCorrection(volume_l - kept, mass * kept / volume_l, 0.0, kept * grows)
