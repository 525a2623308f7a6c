"""Oxygen in still water: what the water can hold, what animals and films use, and how long that lasts."""

from __future__ import annotations

from math import log
from typing import Any

from ..basics.errors import check_range
from ..basics.lazy import LazyModule
from ..basics.working import Formula, FormulaInput, Result
from .seawater import absolute_salinity, density_kg_l

gsw: Any = LazyModule("gsw")

OXYGEN_G_MOL = 31.998
WATER_USE_MG_L_H = 0.4
"""Oxygen that rock, sand and water use up by themselves, mg/L an hour (judgement)."""
FISH_USE_MG_G_H = 0.3
"""Oxygen that a gram of small fish at rest uses an hour, at 25 °C (judgement, from usual metabolic rates)."""
Q10 = 2.0
"""Respiration doubles for each ten degrees."""
STILL_CM_H = 2.0
"""How fast oxygen passes a still surface (judgement)."""
STIRRED_CM_H = 10.0
"""And a surface that an air stone or a small pump breaks (judgement)."""
LOW_MG_L = 4.0
"""Oxygen at which fish begin to suffer (judgement)."""
FIRST_SHARE = 0.9
"""How full of oxygen the water is when the flow stops (judgement: nights are below saturation)."""

HELD = Formula("O_s", "oxygen the water holds", "o * ρ * M / 1000", "mg/L", "Garcia & Gordon 1992, by TEOS-10")
USED = Formula(
    "R", "oxygen used up", "(b + m * r / V) * q**((t - 25) / 10)", "mg/L an hour", "films and fish, by temperature",
)  # fmt: skip
SETTLES = Formula("O_e", "where it settles", "max(0, O_s - R * V / (v * A * 10))", "mg/L", "what is used comes in")
LASTS = Formula(
    "t", "hours until it is low", "V / (v * A * 10) * ln((O_0 - O_s + x) / (O_1 - O_s + x))", "h",
    "gas exchange with use at a steady rate", {"ln": log},
)  # fmt: skip
MISSING = Formula("x", "drop that would balance the use", "R * V / (v * A * 10)", "mg/L", "gas exchange at a surface")


def oxygen_saturation_mg_l(salinity: float, temperature_c: float) -> Result:
    """Oxygen (mg/L) that water in equilibrium with the air holds: salinity 0 to 45, 0 to 40 °C.

    Source: Garcia & Gordon 1992 (Limnology and Oceanography 37, 1307), as in TEOS-10.

    >>> round(oxygen_saturation_mg_l(35.0, 25.0), 2)
    6.77
    """
    check_range("salinity", salinity, "ppt", 0, 45)
    check_range("temperature", temperature_c, "°C", 0, 40)
    umol_kg = float(gsw.O2sol_SP_pt(salinity, temperature_c))
    return HELD.result(
        o=FormulaInput(umol_kg, "µmol/kg", f"at {absolute_salinity(salinity):.2f} g/kg"),
        ρ=FormulaInput(density_kg_l(salinity, temperature_c), "kg/L", "density"),
        M=FormulaInput(OXYGEN_G_MOL, "g/mol", "O2"),
    )


def oxygen_use_mg_l_h(volume_l: float, fish_g: float, temperature_c: float) -> Result:
    """Oxygen (mg/L an hour) used up in so many litres (1 to 10 000) with so many grams of fish (0 to 20 000).

    >>> round(oxygen_use_mg_l_h(334.0, 90.0, 25.0), 3)
    0.481
    """
    return USED.result(
        b=FormulaInput(WATER_USE_MG_L_H, "mg/L an hour", "rock, sand, water"),
        m=FormulaInput(check_range("fish", fish_g, "g", 0, 20_000), "g", "fish"),
        r=FormulaInput(FISH_USE_MG_G_H, "mg/g an hour", "of fish at rest"),
        V=FormulaInput(check_range("volume", volume_l, "L", 1, 10_000), "L", "water"),
        q=FormulaInput(Q10, "", "for ten degrees"),
        t=FormulaInput(check_range("temperature", temperature_c, "°C", 0, 40), "°C", "water"),
    )


def oxygen_h(
    volume_l: float,
    surface_m2: float,
    fish_g: float,
    salinity: float = 35.0,
    temperature_c: float = 25.0,
    exchange_cm_h: float = STILL_CM_H,
    low_mg_l: float = LOW_MG_L,
) -> Result | None:
    """Hours until oxygen falls to `low_mg_l` once the flow has stopped; None where the surface brings in enough. An
    estimate. surface_m2: 0.01 to 20 · exchange_cm_h: 0.1 to 100, how fast oxygen passes the surface.

    >>> round(oxygen_h(334.0, 0.677, 90.0, 35.0, 25.3), 1)
    4.9
    >>> oxygen_h(334.0, 0.677, 90.0, exchange_cm_h=60.0) is None
    True
    """
    check_range("surface", surface_m2, "m²", 0.01, 20)
    check_range("exchange", exchange_cm_h, "cm an hour", 0.1, 100)
    held, used = oxygen_saturation_mg_l(salinity, temperature_c), oxygen_use_mg_l_h(volume_l, fish_g, temperature_c)
    per_l = {
        "V": FormulaInput(volume_l, "L", "water"),
        "v": FormulaInput(exchange_cm_h, "cm an hour", "through the surface"),
        "A": FormulaInput(surface_m2, "m²", "surface"),
    }
    drop = MISSING.result(used, R=used.given(), **per_l)
    if held - drop >= low_mg_l:
        return None
    return LASTS.result(
        held,
        drop,
        **per_l,
        O_0=FormulaInput(FIRST_SHARE * held, "mg/L", "as the flow stops"),
        O_s=held.given(),
        O_1=FormulaInput(low_mg_l, "mg/L", "low"),
        x=drop.given(),
    )
