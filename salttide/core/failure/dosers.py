"""A dosing pump that sticks on, or a container that siphons into the system: all of it at once."""

from __future__ import annotations

from collections.abc import Sequence

from ..basics.errors import SaltTideError
from ..basics.phrasing import listed
from ..science.additives import brought_per_mole
from ..science.amount import contents_text
from ..science.parameters import Parameter, spoken
from ..science.ph_effect import ph_effect_of_dose
from ..science.solutions import solution_dose_ml, solution_rise
from .installation import Dosed, Installation
from .outcome import Effect, Outcome, worst

WATCHED = (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM)
ALKALINITY, PH = Parameter.ALKALINITY, Parameter.PH


def doser_stuck(at: Installation) -> Sequence[Outcome]:
    """Each container with a pump, all of it in the system."""
    return [_emptied(at, one).about(one.container.name) for one in at.dosed]


def _emptied(at: Installation, dosed: Dosed) -> Outcome:
    additive, volume = dosed.container.additive, at.system.volume_l
    strength = additive.strength_g_l or 0.0
    brings = [one for one in WATCHED if brought_per_mole(additive.formula).get(one, 0.0) > 0]
    words, effects, sizes = [], [], []
    safe: list[float] = []
    for parameter in brings:
        rise = solution_rise(additive.formula, parameter, dosed.ml, volume, strength, additive.purity)
        level = at.now(parameter) + float(rise)
        words.append(f"{spoken(parameter)} {at.shown(parameter, level)} (up {at.differs(parameter, float(rise))})")
        effects.append(Effect(parameter.value, level, at.shown(parameter, level), rise.working))
        sizes.append((parameter.value, float(rise)))
        most = at.system.limit(parameter).up
        safe.append(float(solution_dose_ml(additive.formula, parameter, most, volume, strength, additive.purity)))
        if parameter == ALKALINITY:
            ph = _ph(at, additive.formula, float(rise))
            if ph is not None:
                words.append(f"pH {at.shown(PH, ph)} at once")
                effects.append(Effect(PH.value, ph, at.shown(PH, ph)))
            sizes.append(("ph", ph if ph is not None else 9.5))
    said = f"{contents_text(dosed.ml)} at once: {listed(words)}." if words else f"{contents_text(dosed.ml)} at once."
    if safe:
        least = min(safe)
        said += f" Up to {contents_text(least)} stays within the daily limit."
        effects.append(Effect("safe_ml", least, contents_text(least)))
    return Outcome(said, tuple(effects), worst(*sizes, alive=at.alive), 0.0)


def _ph(at: Installation, formula: str, rise: float) -> float | None:
    """The pH right after the dose; None beyond what can be computed."""
    water = (at.now(PH), at.now(ALKALINITY), at.now(Parameter.SALINITY), at.now(Parameter.TEMPERATURE))
    try:
        return float(ph_effect_of_dose(formula, rise, *water).at_once)
    except SaltTideError:
        return None
