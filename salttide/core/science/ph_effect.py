"""The pH effect of a dose: at once, and once the water is back in equilibrium with the room's air."""

from __future__ import annotations

from dataclasses import dataclass

from ..basics.errors import InputError, check_range
from .additives import brought_per_mole, carbon_per_mole
from .carbonate import PhNbs, carbonate_from_dic, carbonate_from_pco2, carbonate_from_ph_nbs
from .parameters import Parameter


@dataclass(frozen=True)
class PhEffect:
    """pH (NBS) before a dose, at once after it, and in equilibrium with the air, with its alkalinity in meq/L."""

    before: PhNbs
    at_once: PhNbs
    settled: PhNbs
    alkalinity_meq_l: float

    @property
    def jump(self) -> float:
        """Immediate change of pH."""
        return self.at_once - self.before


def ph_effect_of_dose(
    formula: str,
    rise_meq_l: float,
    ph_nbs: float,
    alkalinity_meq_l: float,
    salinity: float = 35.0,
    temperature_c: float = 25.0,
    room_pco2_uatm: float | None = None,
    calcium_mg_l: float | None = None,
) -> PhEffect:
    """What a dose of an alkalinity additive (rise 0 to 3 meq/L) does to a meter's pH, well mixed.

    At once: the dose's own alkalinity and carbon, no exchange with the air; soda ash and hydroxide raise pH,
    bicarbonate lowers it slightly. Settled: in equilibrium with `room_pco2_uatm`, or with the pCO2 the water had
    before where None. Raises InputError for what brings no alkalinity, DomainError outside the ranges.

    >>> round(ph_effect_of_dose("Na2CO3", 0.3567, 8.1, 2.5).jump, 2)
    0.21
    >>> round(ph_effect_of_dose("NaHCO3", 0.3567, 8.1, 2.5).jump, 2)
    -0.04
    """
    equivalents = brought_per_mole(formula).get(Parameter.ALKALINITY, 0.0)
    if equivalents <= 0:
        raise InputError(f"{formula} brings no alkalinity", field="formula")
    check_range("alkalinity rise", rise_meq_l, "meq/L", 0, 3)
    before = carbonate_from_ph_nbs(ph_nbs, alkalinity_meq_l, salinity, temperature_c, calcium_mg_l)
    alkalinity = alkalinity_meq_l + rise_meq_l
    carbon = before.dic_mmol_l + rise_meq_l / equivalents * carbon_per_mole(formula)
    after = carbonate_from_dic(carbon, alkalinity, salinity, temperature_c, calcium_mg_l)
    air = before.pco2_uatm if room_pco2_uatm is None else check_range("pCO2", room_pco2_uatm, "µatm", 150, 10_000)
    settled = carbonate_from_pco2(air, alkalinity, salinity, temperature_c, calcium_mg_l)
    return PhEffect(before.ph_nbs, after.ph_nbs, settled.ph_nbs, alkalinity)


def largest_dose_by_ph(
    formula: str,
    ph_nbs: float,
    alkalinity_meq_l: float,
    salinity: float = 35.0,
    temperature_c: float = 25.0,
    most_jump: float = 0.15,
) -> float:
    """The largest rise of alkalinity (meq/L, at most 3) whose immediate pH effect stays within `most_jump` (0.01 to 1).

    >>> round(largest_dose_by_ph("Na2CO3", 8.1, 2.5), 2)
    0.24
    """
    check_range("pH limit", most_jump, "", 0.01, 1)
    low, high = 0.0, min(3.0, 6.5 - alkalinity_meq_l)

    def jump(rise: float) -> float:
        return abs(ph_effect_of_dose(formula, rise, ph_nbs, alkalinity_meq_l, salinity, temperature_c).jump)

    if jump(high) <= most_jump:
        return high
    while high - low > 1e-6:
        middle = (low + high) / 2
        low, high = (middle, high) if jump(middle) <= most_jump else (low, middle)
    return low
