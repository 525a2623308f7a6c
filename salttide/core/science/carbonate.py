"""The carbonate system of seawater: alkalinity, pH, carbon dioxide, dissolved inorganic carbon, saturation.

Minor bases (phosphate, silicate) are left out: in a reef system they carry less than 0.2 % of the alkalinity. The
functions take plain numbers or NumPy arrays; the two pH scales are two types, and each function names its own.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from ..basics.errors import ScaleError, check_range, check_ranges
from ..basics.lazy import LazyModule
from ..basics.working import Formula, FormulaInput, Result, Step, Working
from .carbonate_constants import (
    CALCIUM,
    HYDROGEN_ACTIVITY,
    LN_K0,
    LN_KB,
    LN_KW,
    PK1,
    PK2,
    ZERO_C_K,
    Constants,
    constants,
)

if TYPE_CHECKING:
    import numpy as np
else:
    np = LazyModule("numpy")

CALCIUM_G_MOL = 40.078

BICARBONATE = Formula("HCO3", "bicarbonate", "A_C * H / (H + 2 * K2)", "mol/kg", "A_C = HCO3 + 2·CO3")
CARBON_ALKALINITY = Formula("A_C", "alkalinity of carbon", "A - others", "mol/kg", "what the other bases leave")
CARBONATE = Formula("CO3", "carbonate", "HCO3 * K2 / H", "mol/kg", "definition of K2")
CARBON_DIOXIDE = Formula("CO2", "dissolved carbon dioxide", "HCO3 * H / K1", "mol/kg", "definition of K1")
PCO2 = Formula("pCO2", "partial pressure of carbon dioxide", "CO2 / K0 / φ * 1000000", "µatm", "Henry's law")
SATURATION = Formula("Ω", "saturation", "Ca * CO3 / K", "", "ion product over solubility product")


class PhNbs(float):
    """pH on the NBS scale: what a meter shows that was set with hobby buffers."""


class PhTotal(float):
    """pH on the total hydrogen-ion scale of oceanography; about 0.137 below NBS at 35 ppt and 25 °C."""


@dataclass(frozen=True)
class Carbonate:
    """The carbonate system of a water; each a number or an array. Amounts per litre.

    pCO2 in µatm; dissolved inorganic carbon, bicarbonate, carbonate and dissolved carbon dioxide in mmol/L; saturation
    of aragonite and calcite without unit (above 1: they can precipitate).
    """

    alkalinity_meq_l: Any
    salinity: Any
    temperature_c: Any
    ph_nbs: Any
    ph_total: Any
    pco2_uatm: Any
    dic_mmol_l: Any
    bicarbonate_mmol_l: Any
    carbonate_mmol_l: Any
    carbon_dioxide_mmol_l: Any
    aragonite_saturation: Any
    calcite_saturation: Any


def carbonate_from_ph_nbs(
    ph_nbs: Any, alkalinity_meq_l: Any, salinity: Any, temperature_c: Any, calcium_mg_l: Any = None
) -> Carbonate:
    """The carbonate system from a meter's pH (NBS, 6 to 10) and alkalinity (0.2 to 6.5 meq/L).

    Salinity 5 to 45, temperature 0 to 45 °C, calcium in mg/L (0 to 1000; of natural seawater where None). Raises
    ScaleError for a PhTotal, DomainError outside the ranges or where the pH needs no carbon at that alkalinity.

    >>> water = carbonate_from_ph_nbs(8.2, 2.5, 35.0, 25.0)
    >>> round(water.pco2_uatm), round(water.aragonite_saturation, 2)
    (403, 3.72)
    """
    _scale(ph_nbs, PhTotal, "NBS")
    check_ranges("pH (NBS)", ph_nbs, "", 6, 10)
    water = constants(salinity, temperature_c)
    return _state(water, alkalinity_meq_l, salinity, temperature_c, ph_nbs - water.nbs, calcium_mg_l)


def carbonate_from_ph_total(
    ph_total: Any, alkalinity_meq_l: Any, salinity: Any, temperature_c: Any, calcium_mg_l: Any = None
) -> Carbonate:
    """As `carbonate_from_ph_nbs`, from a pH on the total scale (5.8 to 9.9). Raises ScaleError for a PhNbs.

    >>> round(carbonate_from_ph_total(8.063, 2.5, 35.0, 25.0).ph_nbs, 2)
    8.2
    """
    _scale(ph_total, PhNbs, "total")
    check_ranges("pH (total)", ph_total, "", 5.8, 9.9)
    water = constants(salinity, temperature_c)
    return _state(water, alkalinity_meq_l, salinity, temperature_c, ph_total, calcium_mg_l)


def carbonate_from_pco2(
    pco2_uatm: Any, alkalinity_meq_l: Any, salinity: Any, temperature_c: Any, calcium_mg_l: Any = None
) -> Carbonate:
    """The carbonate system in equilibrium with carbon dioxide of a partial pressure (20 to 20 000 µatm).

    Alkalinity 0.2 to 6.5 meq/L, the rest as in `carbonate_from_ph_nbs`.

    >>> round(carbonate_from_pco2(420.0, 2.5, 35.0, 25.0).ph_nbs, 2)
    8.19
    """
    check_ranges("pCO2", pco2_uatm, "µatm", 20, 20_000)
    water, alkalinity = _water(alkalinity_meq_l, salinity, temperature_c)
    dissolved = pco2_uatm * 1e-6 * water.fugacity * water.k0

    def excess(h: Any) -> tuple[Any, Any]:
        """Alkalinity of carbon at this hydrogen, and its slope in ln(H)."""
        bicarbonate = dissolved * water.k1 / h
        carbonate = bicarbonate * water.k2 / h
        return bicarbonate + 2 * carbonate, -bicarbonate - 4 * carbonate

    return _state(water, alkalinity_meq_l, salinity, temperature_c, _solve(water, alkalinity, excess), calcium_mg_l)


def carbonate_from_dic(
    dic_mmol_l: Any, alkalinity_meq_l: Any, salinity: Any, temperature_c: Any, calcium_mg_l: Any = None
) -> Carbonate:
    """The carbonate system from dissolved inorganic carbon (0.05 to 8 mmol/L) and alkalinity (0.2 to 6.5 meq/L).

    >>> round(carbonate_from_dic(2.16864, 2.5, 35.0, 25.0).ph_nbs, 2)
    8.2
    """
    check_ranges("dissolved inorganic carbon", dic_mmol_l, "mmol/L", 0.05, 8)
    water, alkalinity = _water(alkalinity_meq_l, salinity, temperature_c)
    carbon = dic_mmol_l / 1000 / water.density_kg_l

    def excess(h: Any) -> tuple[Any, Any]:
        """Alkalinity of carbon at this hydrogen, and its slope in ln(H)."""
        parts = h * h + water.k1 * h + water.k1 * water.k2
        bicarbonate, carbonate = carbon * water.k1 * h / parts, carbon * water.k1 * water.k2 / parts
        mean = (2 * h * h + water.k1 * h) / parts
        return bicarbonate + 2 * carbonate, bicarbonate * (1 - mean) - 2 * carbonate * mean

    return _state(water, alkalinity_meq_l, salinity, temperature_c, _solve(water, alkalinity, excess), calcium_mg_l)


def _scale(ph: Any, wrong: type, wanted: str) -> None:
    if isinstance(ph, wrong):
        raise ScaleError(f"this pH is not on the {wanted} scale: convert it first", field="ph", accepted=f"{wanted} pH")


def _water(alkalinity_meq_l: Any, salinity: Any, temperature_c: Any) -> tuple[Constants, Any]:
    """The constants, and the alkalinity in mol/kg."""
    check_ranges("alkalinity", alkalinity_meq_l, "meq/L", 0.2, 6.5)
    water = constants(salinity, temperature_c)
    return water, alkalinity_meq_l / 1000 / water.density_kg_l


def _other_bases(water: Constants, h: Any) -> tuple[Any, Any]:
    """Alkalinity of borate, hydroxide and hydrogen's own (mol/kg) at H on the total scale, and its slope in ln(H)."""
    free = h / (1 + water.sulfate / water.ks)
    borate = water.borate * water.kb / (water.kb + h)
    hydroxide = water.kw / h
    bisulfate = water.sulfate * free / (water.ks + free)
    fluoride = water.fluoride * free / (water.kf + free)
    return (
        borate + hydroxide - free - bisulfate - fluoride,
        -borate * h / (water.kb + h) - hydroxide - free - bisulfate - fluoride,
    )


def _solve(water: Constants, alkalinity: Any, carbon: Callable[[Any], tuple[Any, Any]]) -> Any:
    """pH (total) at which all bases together make the alkalinity: Newton in ln(H), from pH 8, steps up to 1 pH.

    Alkalinity falls steadily with H, so that there is one answer; a step below 1e-9 ends it.
    """
    log_h = np.full(np.broadcast(alkalinity, water.k1).shape, np.log(1e-8))
    for _ in range(60):
        h = np.exp(log_h)
        of_carbon, carbon_slope = carbon(h)
        others, others_slope = _other_bases(water, h)
        step = (of_carbon + others - alkalinity) / (carbon_slope + others_slope)
        step = np.clip(step, -2.3, 2.3)
        log_h = log_h - step
        if np.max(np.abs(step)) < 1e-9:
            break
    return -log_h / np.log(10)


def _state(
    water: Constants, alkalinity_meq_l: Any, salinity: Any, temperature_c: Any, ph_total: Any, calcium_mg_l: Any
) -> Carbonate:
    """All of the system from its pH; the amounts of carbon follow from what alkalinity the other bases leave."""
    check_ranges("alkalinity", alkalinity_meq_l, "meq/L", 0.2, 6.5)
    h = 10**-ph_total
    others, _ = _other_bases(water, h)
    mol_kg = alkalinity_meq_l / 1000 / water.density_kg_l
    of_carbon = CARBON_ALKALINITY.array(A=mol_kg, others=others)
    bicarbonate = BICARBONATE.array(A_C=of_carbon, H=h, K2=water.k2)
    check_ranges("alkalinity left to carbon at this pH", bicarbonate * 1000, "meq/kg", 1e-6, 10)
    carbonate = CARBONATE.array(HCO3=bicarbonate, K2=water.k2, H=h)
    dissolved = CARBON_DIOXIDE.array(HCO3=bicarbonate, H=h, K1=water.k1)
    calcium = CALCIUM.array(S=salinity)
    if calcium_mg_l is not None:
        check_ranges("calcium", calcium_mg_l, "mg/L", 0, 1000)
        calcium = calcium_mg_l / 1000 / CALCIUM_G_MOL / water.density_kg_l
    litre = 1000 * water.density_kg_l
    whole = bool(np.ndim(h))

    def plain(value: Any, kind: type = float) -> Any:
        return value if whole else kind(value)

    return Carbonate(
        alkalinity_meq_l=alkalinity_meq_l,
        salinity=salinity,
        temperature_c=temperature_c,
        ph_nbs=plain(ph_total + water.nbs, PhNbs),
        ph_total=plain(ph_total, PhTotal),
        pco2_uatm=plain(PCO2.array(CO2=dissolved, K0=water.k0, φ=water.fugacity)),
        dic_mmol_l=plain((bicarbonate + carbonate + dissolved) * litre),
        bicarbonate_mmol_l=plain(bicarbonate * litre),
        carbonate_mmol_l=plain(carbonate * litre),
        carbon_dioxide_mmol_l=plain(dissolved * litre),
        aragonite_saturation=plain(SATURATION.array(Ca=calcium, CO3=carbonate, K=water.aragonite)),
        calcite_saturation=plain(SATURATION.array(Ca=calcium, CO3=carbonate, K=water.calcite)),
    )


def ph_total_from_nbs(ph_nbs: float, salinity: float, temperature_c: float) -> PhTotal:
    """A meter's pH (NBS) on the total scale, at a salinity (5 to 45) and temperature (0 to 45 °C).

    >>> round(ph_total_from_nbs(8.2, 35.0, 25.0), 3)
    8.063
    """
    _scale(ph_nbs, PhTotal, "NBS")
    check_ranges("pH (NBS)", ph_nbs, "", 5, 10.5)
    return PhTotal(ph_nbs - constants(salinity, temperature_c).nbs)


def ph_nbs_from_total(ph_total: float, salinity: float, temperature_c: float) -> PhNbs:
    """A pH on the total scale as a meter shows it (NBS).

    >>> round(ph_nbs_from_total(8.063, 35.0, 25.0), 3)
    8.2
    """
    _scale(ph_total, PhNbs, "total")
    check_ranges("pH (total)", ph_total, "", 4.8, 10.4)
    return PhNbs(ph_total + constants(salinity, temperature_c).nbs)


def carbonate_working(state: Carbonate) -> Working:
    """How one water's carbonate system was found, from its pH on: constants, other bases, carbon, pCO2, saturation.

    >>> carbonate_working(carbonate_from_ph_nbs(8.2, 2.5, 35.0, 25.0))[-2].symbol
    'pCO2'
    """
    for name, value in vars(state).items():
        check_range(name, value, "", -2, 1e6)
    water = constants(state.salinity, state.temperature_c)
    h = float(10 ** -float(state.ph_total))
    others = float(_other_bases(water, h)[0])
    at = {"S": FormulaInput(state.salinity, "ppt"), "T": FormulaInput(state.temperature_c + ZERO_C_K, "K")}
    k1, k2, k0 = (
        FormulaInput(float(k), unit) for k, unit in ((water.k1, "mol/kg"), (water.k2, "mol/kg"), (water.k0, ""))
    )
    hydrogen = FormulaInput(h, "mol/kg", "hydrogen, total scale: 10^−(pH NBS − NBS offset)")
    mol_kg = FormulaInput(
        state.alkalinity_meq_l / 1000 / float(water.density_kg_l), "mol/kg", "alkalinity over density"
    )
    carbon = CARBON_ALKALINITY.compute(A=mol_kg, others=FormulaInput(others, "mol/kg", "borate + hydroxide − hydrogen"))
    bicarbonate = BICARBONATE.compute(A_C=carbon.given(), H=hydrogen, K2=k2)
    carbonate = CARBONATE.compute(HCO3=bicarbonate.given(), K2=k2, H=hydrogen)
    dissolved = CARBON_DIOXIDE.compute(HCO3=bicarbonate.given(), H=hydrogen, K1=k1)
    first: tuple[Step, ...] = tuple(formula.compute(**at) for formula in (PK1, PK2, LN_K0, LN_KB, LN_KW))
    return (
        *first,
        HYDROGEN_ACTIVITY.compute(**at),
        carbon,
        bicarbonate,
        carbonate,
        dissolved,
        PCO2.compute(CO2=dissolved.given(), K0=k0, φ=FormulaInput(float(water.fugacity), "", "fugacity over pressure")),
        SATURATION.compute(
            Ca=FormulaInput(state.aragonite_saturation * float(water.aragonite) / carbonate.value, "mol/kg", "calcium"),
            CO3=carbonate.given(),
            K=FormulaInput(float(water.aragonite), "", "solubility product of aragonite"),
        ),
    )


def pco2_uatm_from_ph_nbs(ph_nbs: float, alkalinity_meq_l: float, salinity: float, temperature_c: float) -> Result:
    """pCO2 in µatm from a meter's pH (NBS) and alkalinity in meq/L, with the working; ranges of the systems above.

    >>> round(pco2_uatm_from_ph_nbs(8.2, 2.5, 35.0, 25.0))
    403
    """
    return Result(carbonate_working(carbonate_from_ph_nbs(ph_nbs, alkalinity_meq_l, salinity, temperature_c))[:-1])


def ph_nbs_from_pco2(pco2_uatm: float, alkalinity_meq_l: float, salinity: float, temperature_c: float) -> PhNbs:
    """The pH a meter shows (NBS) once the water is in equilibrium with air of this pCO2 (µatm).

    >>> round(ph_nbs_from_pco2(1000.0, 2.5, 35.0, 25.0), 2)
    7.86
    """
    return PhNbs(carbonate_from_pco2(pco2_uatm, alkalinity_meq_l, salinity, temperature_c).ph_nbs)


def aragonite_saturation(
    ph_nbs: float, alkalinity_meq_l: float, salinity: float, temperature_c: float, calcium_mg_l: float | None = None
) -> Result:
    """Saturation of aragonite from a meter's pH (NBS), alkalinity in meq/L and calcium in mg/L, with the working.

    >>> round(aragonite_saturation(8.2, 2.5, 35.0, 25.0, 420.0), 2)
    3.7
    """
    state = carbonate_from_ph_nbs(ph_nbs, alkalinity_meq_l, salinity, temperature_c, calcium_mg_l)
    return Result(carbonate_working(state))
