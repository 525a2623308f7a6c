"""Additives on the shelf."""

from __future__ import annotations

from dataclasses import dataclass

from ..science.additives import brought_per_mole
from ..science.parameters import FACTS, Parameter


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

    @property
    def raises(self) -> tuple[Parameter, ...]:
        """The dissolved parameters that it raises.

        >>> [parameter.value for parameter in Additive(1, "soda", "Na2CO3").raises]
        ['sodium', 'alkalinity']
        """
        brought = brought_per_mole(self.formula)
        return tuple(p for p, amount in brought.items() if amount > 0 and FACTS[p].dissolved)
