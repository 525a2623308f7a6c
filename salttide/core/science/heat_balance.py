"""The heat balance of a system: panels and surface lose heat with the degrees, evaporation takes its own with the damp
of the air; pumps, lamps and heaters bring it.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, sqrt

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result
from .heat import EVAPORATION_KJ_L, HEAT_KJ_L_K, HOUR_S, PANEL_W_M2_K, evaporating_w

DRY_W_M2_K = 10.0
"""Heat that an open surface gives off without its evaporation: still air and radiation (judgement, from usual values of
building physics)."""
COVERED_W_M2_K = 5.0
"""And under a lid (judgement)."""
HUMIDITY = 0.5
"""Relative humidity of a lived-in room (judgement)."""
STEPS = 400
COLDEST_C, HOTTEST_C = -5.0, 90.0

VAPOUR = Formula(
    "p", "vapour pressure", "610.94 * exp(17.625 * t / (t + 243.04))", "Pa", "Alduchov & Eskridge 1996", {"exp": exp}
)
DRY = Formula(
    "UA", "heat lost per degree, dry", "U_p * (4 * sqrt(A) * d) + U_s * A", "W/K", "panels and surface", {"sqrt": sqrt}
)
EVAPORATES = Formula(
    "E", "evaporates then", "max(0, E_0 * (p - φ * p_r) / (p_0 - φ * p_u))", "L a day",
    "Dalton: in proportion to the vapour pressure that the air still takes",
)  # fmt: skip
LATENT = Formula("P_e", "heat that evaporation takes", "E * H * 1000 / 86400", "W", "2442 kJ/kg at 25 °C, steam tables")
SETTLES = Formula("t_e", "temperature it settles at", "t_r + (P - P_e) / UA", "°C", "heat gained equals heat lost")
HOLDING = Formula("P_h", "heat to hold it", "max(0, UA * (t - t_r) + P_e - P)", "W", "heat lost less heat gained")
REMOVING = Formula("P_c", "heat to take out", "max(0, P - UA * (t - t_r) - P_e)", "W", "heat gained less heat lost")
FASTEST = Formula(
    "r", "degrees an hour at first", "(P - P_e - UA * (t - t_r)) * 3600 / (V * c)", "K/h", "heat capacity"
)
DRIFT = Formula("t", "hours until it is there", "V * c * I / 3600", "h", "heat balance summed over the way")
DRY_BY_DUTY = Formula(
    "UA", "heat lost per degree, dry, by the heaters' duty", "max(0.1, (d * P_h + P - P_e) / (t - t_r))", "W/K",
    "what heaters and pumps bring is what is lost",
)  # fmt: skip
DRY_BY_COOLING = Formula(
    "UA", "heat lost per degree, dry, by a logged cooling", "u", "W/K", "balance that fits the log"
)
_HEAT = FormulaInput(HEAT_KJ_L_K * 1000, "J/LK", "heat of seawater")


def vapour_pressure_pa(temperature_c: float) -> float:
    """Vapour pressure (Pa) of water at -40 to 90 °C. Source: Alduchov & Eskridge 1996, the improved Magnus form.

    >>> round(vapour_pressure_pa(25.0))
    3162
    """
    return VAPOUR.value(t=check_range("temperature", temperature_c, "°C", -40, 90))


@dataclass(frozen=True)
class HeatBalance:
    """volume_l: 1 to 10 000 · dry: W lost per degree without evaporation, with its working · evaporates_l_day: at usual
    temperatures of the water and of the room."""

    volume_l: float
    dry: Result
    evaporates_l_day: float
    water_c: float = 25.0
    room_c: float = 21.0

    def evaporation(self, water_c: float, room_c: float) -> Result:
        """Litres that evaporate a day at other temperatures, the room as damp as ever."""
        return EVAPORATES.result(
            E_0=FormulaInput(self.evaporates_l_day, "L a day", "usually"),
            p=FormulaInput(vapour_pressure_pa(water_c), "Pa", f"over water at {water_c:.1f} °C"),
            p_r=FormulaInput(vapour_pressure_pa(room_c), "Pa", f"in air at {room_c:.1f} °C, if full"),
            p_0=FormulaInput(vapour_pressure_pa(self.water_c), "Pa", f"over water at {self.water_c:.1f} °C"),
            p_u=FormulaInput(vapour_pressure_pa(self.room_c), "Pa", f"in air at {self.room_c:.1f} °C, if full"),
            φ=FormulaInput(HUMIDITY, "", "damp of the room"),
        )

    def latent(self, water_c: float, room_c: float) -> Result:
        """Watts that evaporation then takes."""
        litres = self.evaporation(water_c, room_c)
        return LATENT.result(litres, E=litres.given(), H=FormulaInput(EVAPORATION_KJ_L, "kJ/L", "to evaporate"))

    def out_w(self, water_c: float, room_c: float) -> float:
        """Watts lost to a room."""
        drying = vapour_pressure_pa(self.water_c) - HUMIDITY * vapour_pressure_pa(self.room_c)
        wet = max(0.0, (vapour_pressure_pa(water_c) - HUMIDITY * vapour_pressure_pa(room_c)) / drying)
        return float(self.dry) * (water_c - room_c) + evaporating_w(self.evaporates_l_day * wet)


def dry_loss_w_k(footprint_m2: float, depth_m: float, surface_w_m2_k: float = DRY_W_M2_K) -> Result:
    """Watts that a display loses for each degree through panels and surface, evaporation left out. An estimate.

    Footprint 0.01 to 20 m², depth 0.05 to 3 m; taken as square; its surface loses 0 to 60 W/m²K. Raises DomainError.

    >>> round(dry_loss_w_k(0.677, 0.44), 1)
    14.7
    """
    return DRY.result(
        U_p=FormulaInput(PANEL_W_M2_K, "W/m²K", "panel"),
        A=FormulaInput(check_range("footprint", footprint_m2, "m²", 0.01, 20), "m²", "footprint"),
        d=FormulaInput(check_range("depth", depth_m, "m", 0.05, 3), "m", "water depth"),
        U_s=FormulaInput(check_range("loss of the surface", surface_w_m2_k, "W/m²K", 0, 60), "W/m²K", "surface"),
    )


def dry_by_duty_w_k(balance: HeatBalance, heater_w: float, duty: float, gains_w: float) -> Result:
    """The dry loss learned from how much of the time (0.01 to 1) the heaters (1 to 10 000 W) are on while the water is
    held at its usual temperature in its usual room, at least half a degree colder.

    >>> tank = HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0)
    >>> round(dry_by_duty_w_k(tank, 200.0, 0.5, 69.0), 1)
    19.6
    """
    wet = balance.latent(balance.water_c, balance.room_c)
    check_range("temperature", balance.water_c, "°C", balance.room_c + 0.5, 45)
    return DRY_BY_DUTY.result(
        wet,
        d=FormulaInput(check_range("share of the time", duty, "", 0.01, 1), "", "share of the time they are on"),
        P_h=FormulaInput(check_range("heaters", heater_w, "W", 1, 10_000), "W", "heaters"),
        P=_gains(gains_w),
        P_e=wet.given(),
        t=FormulaInput(balance.water_c, "°C", "held"),
        t_r=FormulaInput(balance.room_c, "°C", "room"),
    )


def dry_by_cooling_w_k(balance: HeatBalance, from_c: float, to_c: float, hours: float, room_c: float) -> Result:
    """The dry loss with which the balance cools without heat as it was logged: from one temperature to another (above
    the room by 0.2 K and more) within some hours (0.1 to 200). The least, 0.1 W/K, where evaporation alone is quicker.

    >>> tank = HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0)
    >>> taken = falls_to_h(tank, 18.0, 0.0, 25.3, 22.0)
    >>> round(dry_by_cooling_w_k(tank, 25.3, 22.0, taken, 18.0), 1)
    14.7
    """
    check_range("hours", hours, "h", 0.1, 200)
    check_range("temperature at the end", to_c, "°C", room_c + 0.2, from_c - 0.1)
    low, high = 0.1, 2000.0
    for _ in range(60):
        middle = sqrt(low * high)
        quicker = _way_h(_with_dry(balance, middle), room_c, 0.0, from_c, to_c) < hours
        low, high = (low, middle) if quicker else (middle, high)
    return DRY_BY_COOLING.result(
        u=FormulaInput(sqrt(low * high), "W/K", f"{from_c:.1f} to {to_c:.1f} °C in {hours:.1f} h")
    )


def _with_dry(balance: HeatBalance, dry_w_k: float) -> HeatBalance:
    fits = DRY_BY_COOLING.result(u=FormulaInput(dry_w_k, "W/K"))
    return HeatBalance(balance.volume_l, fits, balance.evaporates_l_day, balance.water_c, balance.room_c)


def _gains(watts: float) -> FormulaInput:
    return FormulaInput(
        check_range("heat gained", watts, "W", -10_000, 10_000), "W", "pumps, lamps, what heats or cools"
    )


def settles_at_c(balance: HeatBalance, room_c: float, gains_w: float) -> Result:
    """The temperature (°C) at which what comes in (W, less what cools) is lost to a room (-20 to 50 °C).

    >>> round(settles_at_c(HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0), 21.0, 169.0), 1)
    26.2
    """
    check_range("temperature of the room", room_c, "°C", -20, 50)
    low, high = COLDEST_C, HOTTEST_C
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if balance.out_w(middle, room_c) < gains_w else (low, middle)
    there = (low + high) / 2
    wet = balance.latent(there, room_c)
    return SETTLES.result(
        balance.dry,
        wet,
        t_r=FormulaInput(room_c, "°C", "room"),
        P=_gains(gains_w),
        P_e=wet.given(),
        UA=balance.dry.given(),
    )


def falls_to_h(balance: HeatBalance, room_c: float, gains_w: float, from_c: float, to_c: float) -> Result | None:
    """Hours until the water has cooled to a temperature; 0 where it is as cold already, None where it never gets there.

    >>> tank = HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0)
    >>> round(falls_to_h(tank, 18.0, 0.0, 25.3, 22.0), 1), falls_to_h(tank, 21.0, 148.0, 25.3, 22.0) is None
    (7.8, True)
    """
    if from_c > to_c and settles_at_c(balance, room_c, gains_w) >= to_c:
        return None
    return _drift(balance, room_c, gains_w, max(from_c, to_c), to_c)


def rises_to_h(balance: HeatBalance, room_c: float, gains_w: float, from_c: float, to_c: float) -> Result | None:
    """Hours until the water has warmed to a temperature; 0 where it is as warm already, None where it never gets there.

    >>> tank = HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0)
    >>> rises_to_h(tank, 21.0, 69.0, 25.3, 28.0) is None, float(rises_to_h(tank, 21.0, 400.0, 28.5, 28.0))
    (True, 0.0)
    """
    if from_c < to_c and settles_at_c(balance, room_c, gains_w) <= to_c:
        return None
    return _drift(balance, room_c, gains_w, min(from_c, to_c), to_c)


def _drift(balance: HeatBalance, room_c: float, gains_w: float, begins: float, to_c: float) -> Result:
    summed = _way_h(balance, room_c, gains_w, begins, to_c) * HOUR_S / (balance.volume_l * HEAT_KJ_L_K * 1000)
    wet = balance.latent(begins, room_c)
    return DRIFT.result(
        balance.dry,
        wet,
        V=FormulaInput(balance.volume_l, "L", "water"),
        c=_HEAT,
        I=FormulaInput(summed, "K/W", f"degrees over watts, from {begins:.1f} to {to_c:.1f} °C in {STEPS} steps"),
    )


def _way_h(balance: HeatBalance, room_c: float, gains_w: float, from_c: float, to_c: float) -> float:
    """Hours from one temperature to another, by the midpoint rule; they never lie beyond where it settles."""
    step = (to_c - from_c) / STEPS
    heat = balance.volume_l * HEAT_KJ_L_K * 1000 * step
    middles = (from_c + (number + 0.5) * step for number in range(STEPS))
    return sum(heat / (gains_w - balance.out_w(at, room_c)) for at in middles) / HOUR_S if step else 0.0


def holding_w(balance: HeatBalance, water_c: float, room_c: float, gains_w: float = 0.0) -> Result:
    """Watts that hold a temperature (0 to 45 °C) in a room (-20 to 50 °C), beside what is gained anyway; 0 where none
    are needed.

    >>> round(holding_w(HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0), 25.5, 18.0, 69.0))
    137
    """
    return _held(HOLDING, balance, water_c, room_c, gains_w)


def removing_w(balance: HeatBalance, water_c: float, room_c: float, gains_w: float = 0.0) -> Result:
    """Watts that have to be taken out to hold a temperature in a warmer room; 0 where nothing has to.

    >>> round(removing_w(HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0), 25.5, 32.0, 69.0))
    127
    """
    return _held(REMOVING, balance, water_c, room_c, gains_w)


def _held(formula: Formula, balance: HeatBalance, water_c: float, room_c: float, gains_w: float) -> Result:
    check_range("temperature", water_c, "°C", 0, 45)
    check_range("temperature of the room", room_c, "°C", -20, 50)
    wet = balance.latent(water_c, room_c)
    return formula.result(
        balance.dry,
        wet,
        UA=balance.dry.given(),
        t=FormulaInput(water_c, "°C", "held"),
        t_r=FormulaInput(room_c, "°C", "room"),
        P_e=wet.given(),
        P=_gains(gains_w),
    )


def fastest_k_h(balance: HeatBalance, water_c: float, room_c: float, gains_w: float) -> Result:
    """Degrees an hour at which the temperature begins to move, negative where it falls.

    >>> round(fastest_k_h(HeatBalance(334.0, dry_loss_w_k(0.677, 0.44), 3.0, 25.3, 21.0), 25.3, 21.0, 269.0), 2)
    0.32
    """
    check_range("temperature", water_c, "°C", 0, 45)
    wet = balance.latent(water_c, room_c)
    return FASTEST.result(
        balance.dry,
        wet,
        P=_gains(gains_w),
        P_e=wet.given(),
        UA=balance.dry.given(),
        t=FormulaInput(water_c, "°C", "now"),
        t_r=FormulaInput(room_c, "°C", "room"),
        V=FormulaInput(balance.volume_l, "L", "water"),
        c=_HEAT,
    )
