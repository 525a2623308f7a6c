"""The four systems of the household as they are set up."""

from __future__ import annotations

from salttide.core.catalogue import presets
from salttide.core.parameters import Parameter, Span
from salttide.core.system import Geometry, Limits, PanelMaterial, SandMethod, Schools, Stage, System
from salttide.core.units import DKH_PER_MEQ_L

BEACON = System(
    0, "Beacon", "large-polyp and soft corals, six fish", Stage.RUNNING, PanelMaterial.GLASS,
    Geometry(117.6, 57.6, 44, 22, 58),
    Schools(SandMethod.SIPHONED, 0.12, 7, 0.25, "12 % weekly, two-part by pump"),
    presets()["large_polyp"].bands, Limits(),
    ("dosing_pump", "heater", "powerhead", "return_pump", "skimmer", "top_off"), 15, "2023-05-06",
)  # fmt: skip
EELGRASS = System(
    0, "Eelgrass", "seagrass and pipefish", Stage.RUNNING, PanelMaterial.ACRYLIC,
    Geometry(88.4, 43.4, 40, 28, 0),
    Schools(SandMethod.DEEP, 0.15, 14, 0.25, "15 % fortnightly, stored natural seawater"),
    {**presets()["macroalgae_lagoon"].bands, Parameter.ALKALINITY: Span(6.0 / DKH_PER_MEQ_L, 9.0 / DKH_PER_MEQ_L)},
    Limits(),
    ("heater", "powerhead", "top_off"), 10, "2024-03-16",
)  # fmt: skip
SKIFF = System(
    0, "Skiff", "one anemone and its clownfish", Stage.RUNNING, PanelMaterial.GLASS,
    Geometry(43.4, 43.4, 41, 6, 0),
    Schools(SandMethod.BARE, 0.20, 14, 0.25, "20 % fortnightly, top-off by hand"),
    presets()["soft_corals"].bands, Limits(alkalinity_meq_l=0.5 / DKH_PER_MEQ_L),
    ("heater", "powerhead", "skimmer"), 10, "2025-01-11",
)  # fmt: skip
SLIPWAY = System(
    0, "Slipway", "nothing yet: ammonia dosed", Stage.BREAKING_IN, PanelMaterial.GLASS,
    Geometry(147.6, 47.6, 34, 14, 55),
    Schools(SandMethod.SIPHONED, 0.10, 7, 0.25, "breaking in since 7 November"),
    presets()["breaking_in"].bands, Limits(),
    ("heater", "powerhead", "return_pump", "top_off"), 15, "2026-11-07",
)  # fmt: skip
SYSTEMS = (BEACON, EELGRASS, SKIFF, SLIPWAY)
