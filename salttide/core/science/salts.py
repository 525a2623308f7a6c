"""Salts on the shelf: what labels say, natural seawater, ranking, blends, and what measured batches teach."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import inf, sqrt

from ..basics.errors import PlanError, check_range
from ..basics.number_text import short
from ..basics.working import Formula, FormulaInput, Result
from .additives import dose_mass_g
from .mix import LABEL_SALINITY, MIXING_C, SaltMix
from .parameters import FACTS, Parameter, Span, spoken
from .seawater import absolute_salinity, density_kg_l

NATURAL_MG_KG: dict[Parameter, float] = {
    Parameter.CALCIUM: 412.0,
    Parameter.MAGNESIUM: 1284.0,
    Parameter.POTASSIUM: 399.0,
    Parameter.STRONTIUM: 7.9,
    Parameter.SODIUM: 10_780.0,
    Parameter.CHLORIDE: 19_350.0,
    Parameter.SULFATE: 2_712.0,
}
"""Natural seawater at 35 ppt, mg per kg (Millero et al. 2008)."""
NATURAL_ALKALINITY_MEQ_KG = 2.3
"""Per kg, as the ions: the density makes it 2.354 meq/L at 35 ppt and 25 °C."""

RAISED_BY: dict[Parameter, str] = {
    Parameter.ALKALINITY: "NaHCO3",
    Parameter.CALCIUM: "CaCl2·2H2O",
    Parameter.MAGNESIUM: "MgCl2·6H2O",
    Parameter.POTASSIUM: "KCl",
    Parameter.STRONTIUM: "SrCl2·6H2O",
}
"""The compound that makes up a batch's shortfall, the gentlest for each parameter."""

BLEND = Formula("x", "share of the first water", "(T - B) / (A - B)", "", "mass balance: x·A + (1−x)·B = T")


def label_span(value: float, tolerance: float = 0.0, stated_salinity: float = LABEL_SALINITY) -> Span:
    """A label's single value with its tolerance (in its unit), brought to 35 ppt from the salinity it is stated at.

    >>> label_span(2.95, 0.15)
    Span(low=2.8000000000000003, high=3.1)
    """
    check_range("label's value", value, "", 0, 1e5)
    check_range("tolerance", tolerance, "", 0, value)
    return label_range(value - tolerance, value + tolerance, stated_salinity)


def label_range(low: float, high: float = inf, stated_salinity: float = LABEL_SALINITY) -> Span:
    """A label's range, or a lower bound where no upper end is printed, brought to 35 ppt.

    >>> label_range(405.0, 425.0), label_range(360.0).high
    (Span(low=405.0, high=425.0), inf)
    """
    check_range("label's salinity", stated_salinity, "ppt", 25, 42)
    scale = LABEL_SALINITY / stated_salinity
    return Span(check_range("label's value", low, "", 0, high) * scale, high * scale)


def natural_seawater(salinity: float = LABEL_SALINITY, temperature_c: float = MIXING_C) -> dict[Parameter, float]:
    """What natural seawater of a salinity (5 to 42) holds: mg/L, alkalinity in meq/L. River mouths differ: test it.

    >>> water = natural_seawater()
    >>> round(water[Parameter.CALCIUM]), round(water[Parameter.ALKALINITY], 3)
    (422, 2.354)
    """
    check_range("salinity", salinity, "ppt", 5, 42)
    scale = salinity / LABEL_SALINITY
    density = density_kg_l(salinity, temperature_c)
    per_kg = {Parameter.ALKALINITY: NATURAL_ALKALINITY_MEQ_KG, **NATURAL_MG_KG}
    return {**{p: amount * density * scale for p, amount in per_kg.items()}, Parameter.SALINITY: salinity}


def blend_share(target: float, first: float, second: float) -> Result:
    """Share (0..1) of a first water that with a second makes the target, in any one unit.

    Raises PlanError where the target is not between the two.

    >>> float(blend_share(34.0, 36.0, 32.0))
    0.5
    """
    for name, value in (("target", target), ("first water", first), ("second water", second)):
        check_range(name, value, "", 0, 1e5)
    if first == second or not min(first, second) <= target <= max(first, second):
        raise PlanError(f"No blend of {short(first)} and {short(second)} makes {short(target)}.", field="target")
    return BLEND.result(
        T=FormulaInput(target, "", "target"), A=FormulaInput(first, "", "first"), B=FormulaInput(second, "", "second")
    )


@dataclass(frozen=True)
class Ranked:
    """A salt for a system: grams to add to 100 L, by compound, at a salinity; what is above it, and unknown."""

    salt: SaltMix
    additions_g: Mapping[str, float]
    above: tuple[Parameter, ...]
    unknown: tuple[Parameter, ...]

    @property
    def total_g(self) -> float:
        """All that has to be added to 100 L."""
        return sum(self.additions_g.values())


def rank_salts(salts: Sequence[SaltMix], targets: Mapping[Parameter, Span], salinity: float) -> tuple[Ranked, ...]:
    """Salts by how little has to be added to 100 L of each at a salinity (25 to 42) to reach the nearest of each band.

    What is above its band cannot be taken out: such salts come after those without, those with unknown values last.

    >>> from salttide.core.science.mix import StrengthBasis
    >>> weak = SaltMix(1, "weak", 36.0, StrengthBasis.FINISHED_WATER, {Parameter.CALCIUM: Span(380, 380)})
    >>> good = SaltMix(2, "good", 36.0, StrengthBasis.FINISHED_WATER, {Parameter.CALCIUM: Span(420, 420)})
    >>> [item.salt.name for item in rank_salts([weak, good], {Parameter.CALCIUM: Span(400, 450)}, 35.0)]
    ['good', 'weak']
    """
    check_range("salinity", salinity, "ppt", 25, 42)
    ranked = [_ranked(salt, targets, salinity / LABEL_SALINITY) for salt in salts]
    return tuple(sorted(ranked, key=lambda item: (len(item.unknown), len(item.above), item.total_g)))


def _ranked(salt: SaltMix, targets: Mapping[Parameter, Span], scale: float) -> Ranked:
    additions, above, unknown = dict[str, float](), [], []
    for parameter, band in targets.items():
        if parameter not in RAISED_BY:
            continue
        span = salt.values.get(parameter)
        if span is None or span.high == inf:
            unknown.append(parameter)
            continue
        value = span.middle * scale
        if value < band.low:
            additions[RAISED_BY[parameter]] = float(
                dose_mass_g(RAISED_BY[parameter], parameter, band.low - value, 100.0)
            )
        elif value > band.high:
            above.append(parameter)
    return Ranked(salt, additions, tuple(above), tuple(unknown))


def batch_doses(
    holds: Mapping[Parameter, float], targets: Mapping[Parameter, float], volume_l: float
) -> dict[str, float]:
    """Grams of each compound that raise a batch to its targets (canonical), in the order they go in.

    Magnesium, calcium, then alkalinity. What is at or above target gets nothing. Each is dissolved on its own and
    stirred in before the next.

    >>> doses = batch_doses({Parameter.CALCIUM: 372.0}, {Parameter.CALCIUM: 420.0}, 60.0)
    >>> round(doses["CaCl2·2H2O"], 1)
    10.6
    """
    check_range("batch volume", volume_l, "L", 0.1, 10_000)
    order = (Parameter.MAGNESIUM, Parameter.POTASSIUM, Parameter.STRONTIUM, Parameter.CALCIUM, Parameter.ALKALINITY)
    doses = {}
    for parameter in (each for each in order if each in targets):
        if parameter not in holds:
            raise PlanError(f"Test the batch's {spoken(parameter)} first.", field=parameter.value)
        lacking = targets[parameter] - holds[parameter]
        if lacking > 0:
            doses[RAISED_BY[parameter]] = float(dose_mass_g(RAISED_BY[parameter], parameter, lacking, volume_l))
    return doses


def blend_of_salts(first: SaltMix, second: SaltMix, targets: Mapping[Parameter, float]) -> tuple[float, float]:
    """Shares (0..1, together 1) of the finished water to be mixed from two salts, nearest to the targets at 35 ppt.

    Non-negative least squares over the parameters that both labels and the targets know, each relative to its target.
    Raises PlanError where they know none in common.

    >>> from salttide.core.science.mix import StrengthBasis
    >>> low = SaltMix(1, "low", 36.0, StrengthBasis.FINISHED_WATER, {Parameter.CALCIUM: Span(380, 380)})
    >>> high = SaltMix(2, "high", 36.0, StrengthBasis.FINISHED_WATER, {Parameter.CALCIUM: Span(460, 460)})
    >>> [round(share, 3) for share in blend_of_salts(low, high, {Parameter.CALCIUM: 420.0})]
    [0.5, 0.5]
    """
    import numpy as np
    from scipy.optimize import nnls

    known = [p for p in targets if all(p in salt.values and salt.values[p].high < inf for salt in (first, second))]
    if not known:
        raise PlanError("The two labels and the targets have no parameter in common.")
    for parameter in known:
        check_range(f"target {spoken(parameter)}", targets[parameter], "", 1e-6, FACTS[parameter].possible.high)
    together = 1e4
    rows = [[salt.values[p].middle / targets[p] for salt in (first, second)] for p in known] + [[together, together]]
    shares, _ = nnls(np.array(rows), np.array([1.0] * len(known) + [together]))
    return float(shares[0] / shares.sum()), float(shares[1] / shares.sum())


@dataclass(frozen=True)
class Learned:
    """What measured batches say of a bucket: g per litre of finished water at 35 ppt, its standard deviation, count."""

    strength_g_l: float
    sd: float
    count: int

    def differs_from(self, label_g_l: float) -> bool:
        """Whether the label (g/L of finished water) is more than twice the deviation away."""
        return abs(self.strength_g_l - label_g_l) > 2 * self.sd


def strength_from_batches(batches: Sequence[tuple[float, float, float]], reading_sd: float = 0.3) -> Learned:
    """A bucket's real strength from its measured batches: (salt in g, finished volume in L, measured salinity).

    Each batch's grams per litre are brought to 35 ppt by the dissolved salt; the mean counts. The deviation is that of
    the mean, from the batches' own spread or the instrument's scatter (ppt), whichever is larger. Raises PlanError
    without a batch.

    >>> learned = strength_from_batches([(2226.0, 60.0, 34.3), (2226.0, 60.0, 34.5)])
    >>> round(learned.strength_g_l, 1), learned.count
    (37.8, 2)
    """
    if not batches:
        raise PlanError("No batch of this bucket was measured yet.")
    strengths = [_strength_at_35(*batch) for batch in batches]
    mean = sum(strengths) / len(strengths)
    spread = sqrt(sum((each - mean) ** 2 for each in strengths) / max(1, len(strengths) - 1))
    scatter = mean * check_range("scatter", reading_sd, "ppt", 0.01, 3) / LABEL_SALINITY
    return Learned(mean, max(spread, scatter) / sqrt(len(strengths)), len(strengths))


def _strength_at_35(mass_g: float, volume_l: float, salinity: float) -> float:
    check_range("salt", mass_g, "g", 1, 1e6)
    check_range("batch volume", volume_l, "L", 0.1, 10_000)
    check_range("measured salinity", salinity, "ppt", 10, 45)
    dissolved = density_kg_l(salinity, MIXING_C) * absolute_salinity(salinity)
    label = density_kg_l(LABEL_SALINITY, MIXING_C) * absolute_salinity(LABEL_SALINITY)
    return mass_g / volume_l * label / dissolved
