"""What a keeper starts with: a salt whose strength nobody has measured yet, and the common additives by formula."""

from __future__ import annotations

from ..science.mix import LABEL_SALINITY, MIXING_C, SaltMix, StrengthBasis
from ..science.seawater import density_kg_l
from .shelf import Additive

UNMEASURED_G_KG = 35.0
"""Grams of a salt in a kilogram of seawater until a batch was measured: those of sea salt itself. Mixes hold some water
of their own, so that the first batch comes out a little low."""

STARTER_ADDITIVES = (
    Additive(0, "soda ash", "Na2CO3"),
    Additive(0, "baking soda", "NaHCO3"),
    Additive(0, "calcium chloride dihydrate", "CaCl2·2H2O"),
    Additive(0, "magnesium chloride hexahydrate", "MgCl2·6H2O"),
)


def unmeasured_salt(name: str, strength_g_l: float | None = None) -> SaltMix:
    """A salt by its label's grams per litre of finished water at 35 ppt; without one, as sea salt itself.

    >>> round(unmeasured_salt("my salt").strength_g_l, 1)
    35.8
    """
    strength = strength_g_l or UNMEASURED_G_KG * density_kg_l(LABEL_SALINITY, MIXING_C)
    return SaltMix(0, name, strength, StrengthBasis.FINISHED_WATER, {})
