"""Where nothing was measured: usual values. And the lines from which a failure counts as harm."""

from __future__ import annotations

from collections.abc import Mapping
from enum import IntEnum

from ..science.parameters import Parameter

USUAL: Mapping[Parameter, float] = {
    Parameter.SALINITY: 35.0,
    Parameter.TEMPERATURE: 25.0,
    Parameter.ALKALINITY: 2.8,
    Parameter.PH: 8.1,
    Parameter.CALCIUM: 420.0,
    Parameter.MAGNESIUM: 1300.0,
}
"""Taken where a system has neither a value nor an aim."""
NIGHT_H = 8.0
"""Hours that something runs until somebody looks (judgement)."""


class Harm(IntEnum):
    """How bad it is: nothing; a nuisance; animals suffer, or a floor is wet; animals die, or the room is flooded."""

    NONE = 0
    NUISANCE = 1
    SERIOUS = 2
    GRAVE = 3


HARMS: Mapping[str, tuple[float, float, float]] = {
    "floor_l": (0.05, 5.0, 30.0),
    "salinity": (1.0, 2.0, 4.0),
    "warm_c": (28.0, 30.0, 32.0),
    "cold_c": (22.0, 20.0, 18.0),
    "alkalinity": (0.36, 0.72, 1.43),
    "calcium": (20.0, 60.0, 120.0),
    "magnesium": (50.0, 150.0, 300.0),
    "ph": (8.6, 8.8, 9.0),
}
"""From where each counts as nuisance, serious, grave (judgement): litres on the floor, a move of salinity, °C it
settles at, meq/L of alkalinity and mg/L of calcium and magnesium at once, pH."""
SUFFER_C, CHILL_C = HARMS["warm_c"][0], HARMS["cold_c"][0]


def harm_of(kind: str, size: float) -> Harm:
    """How bad a size is.

    >>> harm_of("floor_l", 12.0).name, harm_of("cold_c", 19.0).name, harm_of("warm_c", 27.0).name
    ('SERIOUS', 'SERIOUS', 'NONE')
    """
    lines = HARMS[kind]
    if lines[0] > lines[-1]:
        return Harm(sum(size <= line for line in lines))
    return Harm(sum(size >= line for line in lines))
