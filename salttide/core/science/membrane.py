"""The RO/DI unit: flow of a membrane by pressure and temperature, what it keeps back, what wears resin and carbon."""

from __future__ import annotations

from math import exp

from ..basics.errors import check_range
from ..basics.working import Formula, FormulaInput, Result

RATED_C = 25.0
"""Membranes are rated at this temperature."""
COLD_K, WARM_K = 3020.0, 2640.0
"""How strongly flow follows temperature, K: below and above 25 °C (usual in the tables of membrane makers)."""
OSMOTIC_BAR = 0.0007
"""Osmotic pressure of 1 mg/L of dissolved solids, bar (0.7 bar for 1000 mg/L, rule of membrane engineering)."""
SALT_G_MOL, CARBON_DIOXIDE_G_MOL = 58.44, 44.01
CHLORAMINE_SHARE = 0.25
"""What a carbon block treats of chloramine, as a share of its litres for chlorine (judgement: it reacts slower)."""

WARMTH = Formula("f", "share of the rated flow at this temperature", "exp(K * (1 / 298.15 - 1 / (273.15 + t)))", "",
                 "temperature correction of membrane makers", {"exp": exp})  # fmt: skip
FLOW = Formula("Q", "flow of the membrane", "Q_r / 24 * (p - o) / (p_r - o) * f", "L/h", "net pressure · temperature")
OSMOSIS = Formula("o", "osmotic pressure", "k * s", "bar", "0.7 bar for 1000 mg/L")
REJECTION = Formula("R", "kept back by the membrane", "100 * (1 - s_m / s)", "%", "solids before and after")
LOAD = Formula("q", "what wears the resin", "s_m / M + c / M_c", "meq/L", "salts, and carbon dioxide as bicarbonate")
RESIN = Formula("v", "litres the resin lasts", "r * e * 1000 / q", "L", "capacity over load")
CARBON = Formula("v", "litres the carbon lasts", "n * C * f", "L", "rated litres; fewer with chloramine")


def temperature_factor(temperature_c: float) -> Result:
    """The share of its rated flow that a membrane gives at 1 to 45 °C; rated at 25 °C.

    >>> round(temperature_factor(10.0), 2), float(temperature_factor(25.0))
    (0.58, 1.0)
    """
    check_range("temperature", temperature_c, "°C", 1, 45)
    k = COLD_K if temperature_c < RATED_C else WARM_K
    return WARMTH.result(K=FormulaInput(k, "K"), t=FormulaInput(temperature_c, "°C", "feed water"))


def membrane_flow_l_h(
    rated_l_day: float, rated_bar: float, pressure_bar: float, temperature_c: float, solids_mg_l: float = 0.0
) -> Result:
    """Purified litres an hour of a membrane rated 10 to 5000 L a day at 1 to 20 bar, at a pressure (0.5 to 20 bar), a
    temperature (1 to 45 °C) and dissolved solids (0 to 3000 mg/L) of its feed water.

    >>> round(membrane_flow_l_h(284.0, 4.1, 4.1, 25.0), 2), round(membrane_flow_l_h(284.0, 4.1, 3.0, 12.0, 320.0), 2)
    (11.83, 5.34)
    """
    check_range("rated flow", rated_l_day, "L a day", 10, 5000)
    warmth = temperature_factor(temperature_c)
    osmosis = OSMOSIS.result(
        k=FormulaInput(OSMOTIC_BAR, "bar L/mg"),
        s=FormulaInput(check_range("solids", solids_mg_l, "mg/L", 0, 3000), "mg/L", "in the feed water"),
    )
    check_range("rated pressure", rated_bar, "bar", max(1.0, osmosis + 0.1), 20)
    check_range("pressure", pressure_bar, "bar", max(0.5, osmosis + 0.1), 20)
    return FLOW.result(
        warmth,
        osmosis,
        Q_r=FormulaInput(rated_l_day, "L a day", "rated"),
        p=FormulaInput(pressure_bar, "bar", "pressure"),
        p_r=FormulaInput(rated_bar, "bar", "rated pressure"),
        o=osmosis.given(),
        f=warmth.given(),
    )


def rejection_percent(solids_in_mg_l: float, solids_after_mg_l: float) -> Result:
    """Percent of the dissolved solids (1 to 3000 mg/L before, 0 to that after) that a membrane keeps back.

    >>> round(rejection_percent(320.0, 8.0), 1)
    97.5
    """
    check_range("solids before", solids_in_mg_l, "mg/L", 1, 3000)
    check_range("solids after", solids_after_mg_l, "mg/L", 0, solids_in_mg_l)
    return REJECTION.result(
        s_m=FormulaInput(solids_after_mg_l, "mg/L", "after the membrane"),
        s=FormulaInput(solids_in_mg_l, "mg/L", "before it"),
    )


def resin_load_meq_l(solids_after_mg_l: float, carbon_dioxide_mg_l: float) -> Result:
    """What a litre of water after the membrane takes of a resin, meq: its salts (0 to 1000 mg/L, counted as sodium
    chloride) and its carbon dioxide (0 to 100 mg/L), which no membrane keeps back.

    >>> round(resin_load_meq_l(8.0, 10.0), 3)
    0.364
    """
    return LOAD.result(
        s_m=FormulaInput(check_range("solids", solids_after_mg_l, "mg/L", 0, 1000), "mg/L", "after the membrane"),
        M=FormulaInput(SALT_G_MOL, "mg/meq", "as sodium chloride"),
        c=FormulaInput(check_range("carbon dioxide", carbon_dioxide_mg_l, "mg/L", 0, 100), "mg/L", "carbon dioxide"),
        M_c=FormulaInput(CARBON_DIOXIDE_G_MOL, "mg/meq", "carbon dioxide"),
    )


def resin_litres(resin_l: float, capacity_eq_l: float, load: Result) -> Result:
    """Litres of water that a resin (0.1 to 50 L of it, 0.1 to 2 eq for each) takes, at a load above 0.

    >>> round(resin_litres(0.75, 0.55, resin_load_meq_l(8.0, 10.0)))
    1133
    """
    check_range("load", load, "meq/L", 1e-4, 100)
    return RESIN.result(
        load,
        r=FormulaInput(check_range("resin", resin_l, "L", 0.1, 50), "L", "resin"),
        e=FormulaInput(check_range("capacity", capacity_eq_l, "eq/L", 0.1, 2), "eq/L", "capacity"),
        q=load.given(),
    )


def carbon_litres(rated_l: float, blocks: int, chloramine: bool) -> Result:
    """Litres of feed water that 1 to 4 carbon blocks of so many rated litres each (100 to 1e6, for chlorine) treat.

    >>> float(carbon_litres(20_000.0, 1, False)), float(carbon_litres(20_000.0, 2, True))
    (20000.0, 10000.0)
    """
    return CARBON.result(
        n=FormulaInput(check_range("blocks", blocks, "", 1, 4), "", "blocks"),
        C=FormulaInput(check_range("rated litres", rated_l, "L", 100, 1e6), "L", "rated, each, for chlorine"),
        f=FormulaInput(CHLORAMINE_SHARE if chloramine else 1.0, "", "chloramine" if chloramine else "chlorine"),
    )
