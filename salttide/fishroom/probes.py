"""Instruments of the fish room: what a keeper would read, with scatter, offset and resolution."""

from __future__ import annotations

from dataclasses import dataclass
from random import Random


@dataclass(frozen=True)
class Probe:
    """An instrument for one parameter: scatter (one standard deviation), a constant offset, and its resolution."""

    name: str
    parameter: str
    sd: float
    step: float
    offset: float = 0.0

    def read(self, truth: float, chance: Random) -> float:
        """One reading of a true value, never below zero, on the instrument's scale."""
        value = chance.gauss(truth + self.offset, self.sd)
        return max(0.0, round(value / self.step) * self.step)
