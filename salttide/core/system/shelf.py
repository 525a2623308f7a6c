"""Additives on the shelf."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Additive:
    """An additive on the shelf: a compound of a purity (0..1), or with a strength (g/L) a solution of it."""

    id: int
    name: str
    formula: str
    purity: float = 1.0
    strength_g_l: float | None = None
    bulk_density_g_ml: float | None = None
    expires_on: str = ""
