"""The aim of a parameter: the one level inside its band that every plan leads to, usual or the keeper's own."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

from ..science.parameters import Parameter, Span

SEAWATER = 35.0
"""The usual aim of salinity, where the band holds it: natural seawater, at which all ions are stated."""
SPANNING = (Parameter.NITRATE, Parameter.PHOSPHATE)
"""Parameters whose bands span a decade: their middle is counted in ratios, not in differences (judgement)."""
MAX_REASON = 200


@dataclass(frozen=True)
class OwnAim:
    """An aim that the keeper chose, canonical, and why."""

    level: float
    reason: str = ""


def usual_aim(parameter: Parameter, band: Span) -> float:
    """The aim of a parameter where the keeper chose none (canonical): natural seawater's salinity; of a nutrient, as
    many times the lower end as the upper end is times it; else the middle of the band, where swings to either side have
    most room.

    >>> usual_aim(Parameter.SALINITY, Span(34.0, 35.5)), usual_aim(Parameter.SALINITY, Span(30.0, 34.0))
    (35.0, 32.0)
    >>> usual_aim(Parameter.NITRATE, Span(2.0, 18.0)), usual_aim(Parameter.CALCIUM, Span(400.0, 450.0))
    (6.0, 425.0)
    """
    if parameter == Parameter.SALINITY and band.holds(SEAWATER):
        return SEAWATER
    if parameter in SPANNING and band.low > 0:
        return sqrt(band.low * band.high)
    return band.middle
