"""What a laboratory reports besides the usual tests: what natural seawater holds of it, and when it is mentioned."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from ..science.parameters import Parameter
from ..science.seawater import density_kg_l
from ..system.catalogue import data_file, reading_data

FULL_PPT, ROOM_C = 35.0, 25.0


@dataclass(frozen=True)
class Element:
    """natural: mg per kg at 35 ppt, 0 where there is only a most · low, high: shares of it between which nothing is
    said · most: mg/L · low_do, high_do: the smallest sufficient step."""

    parameter: Parameter
    high_do: str
    natural: float = 0.0
    low: float = 0.0
    high: float = 0.0
    most: float = 0.0
    low_do: str = ""

    def natural_mg_l(self, salinity: float) -> float:
        """mg/L in natural seawater of a salinity (5 to 42 ppt)."""
        return self.natural * density_kg_l(salinity, ROOM_C) * salinity / FULL_PPT

    def limits_mg_l(self, salinity: float) -> tuple[float, float]:
        """Between these nothing is said."""
        natural = self.natural_mg_l(salinity)
        return self.low * natural, self.most or self.high * natural


@cache
def elements() -> Mapping[Parameter, Element]:
    """All of them."""
    with reading_data("elements"):
        found = {Parameter(key): Element(Parameter(key), **row) for key, row in data_file("elements").items()}
        for one in found.values():
            if not (one.most or 0 < one.low < 1 < one.high):
                raise ValueError(f"{one.parameter}: a most, or low below 1 and high above it")
        return found
