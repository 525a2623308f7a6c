"""What only a laboratory measures, against natural seawater of the same salinity."""

from __future__ import annotations

from collections.abc import Iterator

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import capital
from salttide.core.judgement.elements import Element, elements
from salttide.core.judgement.rules.ions import RAISED_BY
from salttide.core.judgement.situation import Situation
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.system.finding import Certainty, Finding

SALINITY = Parameter.SALINITY
MIN_PPT, MAX_PPT = 5.0, 42.0


def off_natural(s: Situation) -> Iterator[Finding]:
    """An element outside the keeper's band or, without one, far from what natural seawater of this salinity holds."""
    salinity = s.value(SALINITY)
    if salinity is None or not MIN_PPT <= salinity <= MAX_PPT:
        return
    for parameter, element in elements().items():
        if parameter in s.present and not (parameter in s.system.bands and parameter in RAISED_BY):
            yield from _against(s, element, salinity)


def _against(s: Situation, element: Element, salinity: float) -> Iterator[Finding]:
    known = s.present[element.parameter]
    band = s.system.bands.get(element.parameter)
    low, high = (band.low, band.high) if band else element.limits_mg_l(salinity)
    beyond = known.value - high if known.value > high else known.value - low if known.value < low else 0.0
    if abs(beyond) <= known.sd:
        return
    name, shown = spoken(element.parameter), s.show(element.parameter, known.value)
    water = s.show(SALINITY, salinity)
    if element.natural:
        natural = element.natural_mg_l(salinity)
        share = show_number(100 * known.value / natural, 0)
        reason = f"{shown} is {share} % of the {s.show(element.parameter, natural)} in natural seawater of {water}."
    else:
        reason = f"{shown}; natural seawater rarely holds more than {s.show(element.parameter, element.most)}."
    if band:
        reason += f" Your band is {s.show(element.parameter, low)} to {s.show(element.parameter, high)}."
    yield Finding(
        f"{capital(name)} is {'high' if beyond > 0 else 'low'} for {'your band' if band else 'natural seawater'}",
        reason,
        element.high_do if beyond > 0 else element.low_do,
        "A second report, or a sample of the new salt water that reads the same.",
        (s.evidence(element.parameter), s.evidence(SALINITY)),
        Certainty.POSSIBLE,
        (element.parameter,),
    )
