"""The four systems of the household as they are set up."""

from __future__ import annotations

from salttide.core.planning.fresh_water import RoUnit, Supply
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.catalogue import presets
from salttide.core.system.heating import Heating, Lid
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.system import (
    GearPlace,
    Limits,
    Methods,
    Panel,
    PanelMaterial,
    Placed,
    SandMethod,
    Stage,
    System,
)
from salttide.core.system.topoff import CutOff, Senses, TopOffSetup, TopOffStop
from salttide.core.system.volume import Geometry

IN_SUMP, OUTSIDE = Placed(GearPlace.SUMP), Placed(GearPlace.OUTSIDE)

BEACON = System(
    0, "Beacon", "large-polyp and soft corals, six fish", Stage.RUNNING, PanelMaterial.GLASS,
    Geometry(117.6, 57.6, 44, 22, 58, sand_bed_cm=3),
    Methods(SandMethod.SIPHONED, 0.12, 7, 0.25, "12 % weekly, two-part by pump", {
        "age": "steady", "water_changes": "small_weekly", "nutrients": "moderate", "nitrate_high": "changes",
        "phosphate_high": "feeding", "alkalinity_level": "elevated", "replacing": "two_part", "new_water": "dry_salt",
        "top_off": "reservoir", "salinity_by": "refractometer",
    }),
    presets()["large_polyp"].bands, Limits(),
    (
        "dosing_pump", "heater", "ph_probe", "powerhead", "purifier", "refugium", "return_pump", "skimmer", "sock",
        "steriliser", "top_off",
    ), 15, "2023-05-06",
    placed={
        "dosing_pump": OUTSIDE, "heater": IN_SUMP, "powerhead": Placed(GearPlace.DISPLAY, 9), "return_pump": IN_SUMP,
        "skimmer": IN_SUMP, "top_off": IN_SUMP, "steriliser": OUTSIDE, "refugium": IN_SUMP, "sock": IN_SUMP,
        "purifier": OUTSIDE, "ph_probe": IN_SUMP,
    },
    plumbing=Plumbing(
        fall_cm=1.5, outlet_cm=6, break_cm=1.2, freeboard_cm=2.5, rim_cm=38, chamber_cm=24, pump_cm=9,
        return_l_h=2900, sump_length_cm=72.5, sump_width_cm=40, sump_depth_cm=20, cup_l=1.5,
    ),
    top_off=TopOffSetup(
        45, 120, limit_min=10,
        stops=(TopOffStop(Senses.OPTICAL, CutOff.PUMP), TopOffStop(Senses.CLOCK, CutOff.PUMP)),
    ),
    heating=Heating(heaters_w=(150, 150), pumps_w=45, lamps_w=160, lamp_h=9, kwh_price=0.34),
)  # fmt: skip
EELGRASS = System(
    0, "Eelgrass", "seagrass and pipefish", Stage.RUNNING, PanelMaterial.ACRYLIC,
    Geometry(88.4, 43.4, 40, 28, 0, sand_bed_cm=12),
    Methods(SandMethod.DEEP, 0.15, 14, 0.25, "15 % fortnightly, stored natural seawater", {
        "water_changes": "large_fortnightly", "nutrients": "moderate", "nitrate_high": "macroalgae",
        "new_water": "natural_collected", "top_off": "reservoir", "salinity_by": "refractometer",
    }),
    {**presets()["macroalgae_lagoon"].bands, Parameter.ALKALINITY: Span(6.0 / DKH_PER_MEQ_L, 9.0 / DKH_PER_MEQ_L)},
    Limits(),
    ("heater", "powerhead", "top_off"), 10, "2024-03-16", (Panel.FRONT, Panel.LEFT, Panel.RIGHT, Panel.BACK),
    placed={"heater": Placed(GearPlace.DISPLAY, 4), "powerhead": Placed(GearPlace.DISPLAY, 12), "top_off": OUTSIDE},
    plumbing=Plumbing(freeboard_cm=3),
    top_off=TopOffSetup(15, 60, stops=(TopOffStop(Senses.FLOAT, CutOff.PUMP),)),
    heating=Heating(heaters_w=(150,), pumps_w=12, lamps_w=90, lamp_h=10, lid=Lid.HALF),
)  # fmt: skip
SKIFF = System(
    0, "Skiff", "one anemone and its clownfish", Stage.RUNNING, PanelMaterial.GLASS,
    Geometry(43.4, 43.4, 41, 6, 0),
    Methods(SandMethod.BARE, 0.20, 14, 0.25, "20 % fortnightly, top-off by hand", {
        "water_changes": "large_fortnightly", "replacing": "changes_alone", "new_water": "dry_salt",
        "top_off": "by_hand",
    }),
    presets()["soft_corals"].bands, Limits(alkalinity_meq_l=0.5 / DKH_PER_MEQ_L),
    ("heater", "powerhead", "skimmer"), 10, "2025-01-11", (Panel.FRONT, Panel.LEFT, Panel.RIGHT),
    placed={"heater": Placed(GearPlace.DISPLAY, 5), "powerhead": Placed(GearPlace.DISPLAY, 14), "skimmer": OUTSIDE},
    plumbing=Plumbing(freeboard_cm=2, cup_l=0.5),
    heating=Heating(heaters_w=(100,), pumps_w=8, lamps_w=45, lamp_h=9),
)  # fmt: skip
SLIPWAY = System(
    0, "Slipway", "nothing yet: ammonia dosed", Stage.BREAKING_IN, PanelMaterial.GLASS,
    Geometry(147.6, 47.6, 34, 14, 55, sand_bed_cm=3),
    Methods(SandMethod.SIPHONED, 0.10, 7, 0.25, "cycling since 7 November"),
    presets()["breaking_in"].bands, Limits(),
    ("heater", "powerhead", "return_pump", "top_off"), 15, "2026-11-07",
    placed={
        "heater": IN_SUMP, "powerhead": Placed(GearPlace.DISPLAY, 10), "return_pump": IN_SUMP, "top_off": IN_SUMP,
    },
    plumbing=Plumbing(
        fall_cm=2, outlet_cm=3, freeboard_cm=4, rim_cm=36, chamber_cm=22, pump_cm=10, return_l_h=2400,
        sump_length_cm=68.75, sump_width_cm=40, sump_depth_cm=20, second_drain=True,
    ),
    top_off=TopOffSetup(
        25, 90, stops=(TopOffStop(Senses.FLOAT, CutOff.PUMP), TopOffStop(Senses.OPTICAL, CutOff.SECOND_PLUG)),
    ),
    heating=Heating(heaters_w=(200, 200), cutoff=True, pumps_w=30, lamps_w=120, lamp_h=8),
)  # fmt: skip
SYSTEMS = (BEACON, EELGRASS, SKIFF, SLIPWAY)
RO_UNIT = RoUnit(
    284, 4.1, 3.6, 11.0, supply=Supply.CHLORINE, sediment_l=10_000, carbon_l=20_000, resin_l=0.75,
    carbon_dioxide_mg_l=6.0, store_l=60, stored_l=20, sediment_price=6, carbon_price=14, membrane_price=60,
    resin_price=18, water_price=4.2,
)  # fmt: skip
"""The household's RO/DI unit."""
