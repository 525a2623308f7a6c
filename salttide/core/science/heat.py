"""Heat of the water: what a tank loses to its room, how long it stays warm, and what ice and evaporation take away."""

from __future__ import annotations

from math import log, sqrt

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result

HEAT_KJ_L_K = 4.09
"""Heat to warm a litre of seawater by one degree: 3.993 kJ/(kg K) at 35 and 25 °C (TEOS-10) times 1.0233 kg/L."""
PANEL_W_M2_K = 5.5
"""Heat lost through a panel between still water and still air (judgement, from usual values of building physics)."""
SURFACE_W_M2_K = 20.0
"""Heat lost from an open surface with its evaporation (judgement, from usual values of building physics)."""
ROOM_C = 18.0
"""A room whose heating has failed too (judgement)."""
COLD_C = 22.0
EVAPORATION_KJ_L = 2440.0
"""Heat that a litre of water takes along when it evaporates at 25 °C (2442 kJ/kg, steam tables)."""
FREEZER_C = -18.0
MELTING_KJ_KG, ICE_KJ_KG_K, FRESH_KJ_KG_K = 334.0, 2.1, 4.18
"""Heat that ice takes to melt, to warm up to that, and its water to warm up after (steam tables)."""
HOUR_S, DAY_S = 3600.0, 86_400.0

LOSS = Formula(
    "UA", "heat lost per degree", "U_p * (4 * sqrt(A) * d) + U_s * A", "W/K", "panels and surface", {"sqrt": sqrt}
)
COOLING = Formula(
    "t", "hours until it is cold", "V * c / UA * ln((t_0 - t_r) / (t_1 - t_r)) / 3600", "h", "Newton's law of cooling",
    {"ln": log},
)  # fmt: skip
WARMING = Formula("P", "power to warm it", "V * c * dt / (h * 3600)", "W", "heat capacity")
MELTED = Formula(
    "dt", "cooled by a kilogram of ice", "(c_i * (0 - t_f) + L + c_w * t) / (V * c)", "K", "heat of ice and its water"
)
BOTTLED = Formula("dt", "warmed by a litre bottle", "c_w * (t_b - t) / (V * c + c_w)", "K", "heat shared by both")


def heat_loss_w_k(footprint_m2: float, depth_m: float) -> Result:
    """Watts that an open display loses for each degree it is warmer than its room: a rule of thumb with a usual
    evaporation in it. Where the evaporation is known, `heat_balance` is nearer.

    Footprint 0.01 to 20 m², depth 0.05 to 3 m; the display is assumed to be square. Raises DomainError.

    >>> round(heat_loss_w_k(0.677, 0.44), 1)
    21.5
    """
    check_range("footprint", footprint_m2, "m²", 0.01, 20)
    check_range("depth", depth_m, "m", 0.05, 3)
    return LOSS.result(
        U_p=FormulaInput(PANEL_W_M2_K, "W/m²K", "panel"),
        A=FormulaInput(footprint_m2, "m²", "footprint"),
        d=FormulaInput(depth_m, "m", "water depth"),
        U_s=FormulaInput(SURFACE_W_M2_K, "W/m²K", "open surface"),
    )


def cooling_h(
    volume_l: float, footprint_m2: float, depth_m: float, water_c: float, room_c: float = ROOM_C, cold_c: float = COLD_C
) -> Result:
    """Hours in which a system without heat cools to `cold_c` (below the water, above the room). An estimate.

    Volume 1 to 10 000 L, footprint and depth as in `heat_loss_w_k`, temperatures in °C. Raises DomainError.

    >>> round(cooling_h(334.0, 0.677, 0.44, 25.3), 1)
    10.6
    """
    check_range("volume", volume_l, "L", 1, 10_000)
    loss = heat_loss_w_k(footprint_m2, depth_m)
    check_range("temperature of the water", water_c, "°C", cold_c + 0.1, 40)
    check_range("temperature of the room", room_c, "°C", -20, cold_c - 0.1)
    return COOLING.result(
        loss,
        V=FormulaInput(volume_l, "L", "water"),
        c=FormulaInput(HEAT_KJ_L_K * 1000, "J/LK", "heat of seawater"),
        UA=loss.given(),
        t_0=FormulaInput(water_c, "°C", "now"),
        t_r=FormulaInput(room_c, "°C", "room"),
        t_1=FormulaInput(cold_c, "°C", "cold"),
    )


def warming_w(volume_l: float, degrees_k: float, hours: float) -> Result:
    """Watts that warm, or cool, so many litres (1 to 10 000) by so many degrees (0 to 40) within some hours (0.1 to
    1000), losses left out.

    >>> round(warming_w(334.0, 1.0, 24.0), 1)
    15.8
    """
    return WARMING.result(
        V=FormulaInput(check_range("volume", volume_l, "L", 1, 10_000), "L", "water"),
        c=FormulaInput(HEAT_KJ_L_K * 1000, "J/LK", "heat of seawater"),
        dt=FormulaInput(check_range("degrees", degrees_k, "K", 0, 40), "K", "by"),
        h=FormulaInput(check_range("hours", hours, "h", 0.1, 1000), "h", "within"),
    )


def evaporating_w(litres_day: float) -> float:
    """Watts that the evaporation of so many litres a day takes away.

    >>> round(evaporating_w(1.0), 2)
    28.24
    """
    return litres_day * EVAPORATION_KJ_L * 1000 / DAY_S


def evaporating_l_day(watts: float) -> float:
    """Litres of water a day whose evaporation takes so many watts away.

    >>> round(evaporating_l_day(28.24), 2)
    1.0
    """
    return watts * DAY_S / 1000 / EVAPORATION_KJ_L


def warmed_by_bottle_k(volume_l: float, water_c: float, bottle_c: float) -> Result:
    """Degrees by which a closed litre bottle of hot water (up to 90 °C) warms so many litres (1 to 10 000) of water of
    a temperature (0 °C to that of the bottle), until both are alike.

    >>> round(warmed_by_bottle_k(334.0, 21.0, 45.0), 3)
    0.073
    """
    check_range("temperature of the bottle", bottle_c, "°C", 0, 90)
    return BOTTLED.result(
        c_w=FormulaInput(FRESH_KJ_KG_K, "kJ/kgK", "its water"),
        t_b=FormulaInput(bottle_c, "°C", "bottle"),
        t=FormulaInput(check_range("temperature", water_c, "°C", 0, bottle_c), "°C", "water"),
        V=FormulaInput(check_range("volume", volume_l, "L", 1, 10_000), "L", "water"),
        c=FormulaInput(HEAT_KJ_L_K, "kJ/LK", "heat of seawater"),
    )


def cooled_by_ice_k(volume_l: float, water_c: float) -> Result:
    """Degrees by which a kilogram of ice out of the freezer, closed up in a bottle, cools so many litres (1 to 10 000)
    of water of a temperature (0 to 45 °C).

    >>> round(cooled_by_ice_k(334.0, 27.0), 2)
    0.35
    """
    return MELTED.result(
        c_i=FormulaInput(ICE_KJ_KG_K, "kJ/kgK", "ice"),
        t_f=FormulaInput(FREEZER_C, "°C", "freezer"),
        L=FormulaInput(MELTING_KJ_KG, "kJ/kg", "melting"),
        c_w=FormulaInput(FRESH_KJ_KG_K, "kJ/kgK", "its water"),
        t=FormulaInput(check_range("temperature", water_c, "°C", 0, 45), "°C", "water"),
        V=FormulaInput(check_range("volume", volume_l, "L", 1, 10_000), "L", "water"),
        c=FormulaInput(HEAT_KJ_L_K, "kJ/LK", "heat of seawater"),
    )
