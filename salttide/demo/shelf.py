"""The salts on the household's shelf, as their labels have them."""

from __future__ import annotations

from salttide.core.mix import SaltMix, StrengthBasis
from salttide.core.parameters import Parameter, Span
from salttide.core.units import DKH_PER_MEQ_L

SALTS = (
    SaltMix(
        0,
        "Kittiwake Standard",
        37.1,
        StrengthBasis.FINISHED_WATER,
        {
            Parameter.ALKALINITY: Span(2.80, 3.10),
            Parameter.CALCIUM: Span(416, 440),
            Parameter.MAGNESIUM: Span(1280, 1350),
        },
    ),
    SaltMix(
        0,
        "Gannet Ground",
        39.2,
        StrengthBasis.FRESH_WATER,
        {
            Parameter.ALKALINITY: Span(9.6 / DKH_PER_MEQ_L, 10.4 / DKH_PER_MEQ_L),
            Parameter.CALCIUM: Span(405, 425),
            Parameter.MAGNESIUM: Span(1290, 1350),
        },
    ),
    SaltMix(
        0,
        "Plainmark Basic",
        35.4,
        StrengthBasis.FINISHED_WATER,
        {
            Parameter.ALKALINITY: Span(6.8 / DKH_PER_MEQ_L, 6.8 / DKH_PER_MEQ_L),
            Parameter.CALCIUM: Span(372, 372),
            Parameter.MAGNESIUM: Span(1190, 1190),
        },
        "own batches",
    ),
)
