"""What lives in the household's systems, and how they are lit."""

from __future__ import annotations

from datetime import date, time

from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.light import Light, Par
from salttide.core.system.livestock import Animal, Demand

DKH_7_TO_10 = Span(7 / DKH_PER_MEQ_L, 10 / DKH_PER_MEQ_L)
ANIMALS: dict[str, tuple[Animal, ...]] = {
    "Beacon": (
        Animal(0, "torch coral", Demand.MODERATE, 3, {Parameter.ALKALINITY: DKH_7_TO_10}),
        Animal(0, "mushroom coral", Demand.HARDY, 14),
        Animal(0, "cardinalfish", Demand.HARDY, 4, portions=1),
        Animal(0, "goby", Demand.HARDY, 2, portions=1),
    ),
    "Eelgrass": (
        Animal(
            0, "pipefish", Demand.DEMANDING, 6, {Parameter.TEMPERATURE: Span(21, 25.5)}, {Parameter.SALINITY: 0.5}, 2
        ),
        Animal(0, "seagrass shoots", Demand.MODERATE, 60),
    ),
    "Skiff": (
        Animal(0, "anemone", Demand.MODERATE, 1, {Parameter.SALINITY: Span(33, 37)}),
        Animal(0, "clownfish", Demand.HARDY, 2, portions=1),
    ),
}  # fmt: skip
LIGHTS: dict[str, tuple[Light, ...]] = {
    "Beacon": (
        Light(date(2025, 9, 24), time(10, 30), time(21), 60, "more blue than white"),
        Light(date(2026, 5, 1), time(11), time(21), 60, "more blue than white"),
    ),
    "Eelgrass": (Light(date(2025, 9, 24), time(9), time(19), 30, "white, like noon"),),
    "Skiff": (Light(date(2025, 9, 24), time(12), time(21, 30), 45, "half blue, half white"),),
}
PARS: dict[str, tuple[Par, ...]] = {
    "Beacon": (
        Par(date(2026, 5, 2), "torch ledge", 165), Par(date(2026, 5, 2), "sand, front left", 90),
        Par(date(2025, 10, 4), "torch ledge", 190),
    ),
}  # fmt: skip
