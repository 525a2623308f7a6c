"""What is on the household's shelf: salts by their labels and batches, additives, foods."""

from __future__ import annotations

from dataclasses import replace

from salttide.core.science.food import Food
from salttide.core.science.mix import SaltMix, StrengthBasis
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salt_calibration import MeasuredBatch
from salttide.core.science.salts import label_range
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.catalogue import food_kinds
from salttide.core.system.shelf import Additive
from salttide.store.shelf import Label

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
"""As plans take them: what the label says, or what the household's own batches measured."""

LABELS = (
    Label(
        SALTS[0],
        {
            Parameter.ALKALINITY: "2.95 ± 0.15 meq/L",
            Parameter.CALCIUM: "428 ± 12 mg/L",
            Parameter.MAGNESIUM: "1315 ± 35 mg/L",
        },
        35.0,
        1.15,
    ),
    Label(
        SALTS[1],
        {
            Parameter.ALKALINITY: "9.6–10.4 dKH",
            Parameter.CALCIUM: "405–425 mg/L",
            Parameter.MAGNESIUM: "1290–1350 mg/L",
        },
        35.0,
        None,
    ),
    Label(
        replace(SALTS[2], values={Parameter.CALCIUM: label_range(360.0)}, values_from="label"),
        {Parameter.CALCIUM: "at least 360 mg/L"},
        35.0,
        1.05,
    ),
)
BUCKETS = ((0, "2026-09-12", 20.0, "K-0912"), (2, "2026-08-03", 10.0, ""))
"""Which salt, opened when, kg, lot."""
BATCHES = tuple(
    (
        2,
        day,
        MeasuredBatch(
            salinity,
            {
                Parameter.ALKALINITY: alkalinity / DKH_PER_MEQ_L,
                Parameter.CALCIUM: calcium,
                Parameter.MAGNESIUM: magnesium,
            },
        ),
    )
    for day, salinity, alkalinity, calcium, magnesium in (
        ("2026-08-04", 35.0, 6.8, 372.0, 1190.0),
        ("2026-09-01", 34.6, 6.7, 369.0, 1175.0),
    )
)
"""Which salt, when, and what the batch came out as."""
ADDITIVES = (
    Additive(0, "soda ash", "Na2CO3", bulk_density_g_ml=1.05),
    Additive(0, "soda stock", "Na2CO3", strength_g_l=100.0),
    Additive(0, "baking soda", "NaHCO3", bulk_density_g_ml=1.0),
    Additive(0, "calcium chloride dihydrate", "CaCl2·2H2O", purity=0.98),
    Additive(0, "calcium stock", "CaCl2·2H2O", strength_g_l=140.0),
    Additive(0, "magnesium chloride hexahydrate", "MgCl2·6H2O"),
    Additive(0, "potassium nitrate", "KNO3"),
    Additive(0, "bicarbonate stock", "NaHCO3", strength_g_l=80.0),
)


def _food(name: str, kind: str, portion_g: float, expires_on: str) -> Food:
    usual = food_kinds()[kind]
    return Food(0, name, kind, usual.dry_share, usual.nitrogen_share, usual.phosphorus_share, portion_g, expires_on)


FOODS = (
    _food("frozen mysids", "frozen", 1.2, "2027-05-01"),
    _food("dry granules", "granules", 0.15, "2026-10-31"),
    _food("live copepods", "live", 0.5, ""),
)
REAGENTS = (
    ("titration kit T1", Parameter.ALKALINITY, "2026-06-02", "2027-06-01", "T1-26"),
    ("titration kit T2", Parameter.CALCIUM, "2026-03-15", "2027-03-01", ""),
    ("titration kit T3", Parameter.MAGNESIUM, "2025-10-20", "2026-12-31", ""),
)
