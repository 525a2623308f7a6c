"""Alkalinity, calcium, magnesium, potassium: what falls together, what to correct first, how much to dose."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from salttide.core.basics.errors import InputError
from salttide.core.basics.number_text import short, show_number
from salttide.core.basics.phrasing import capital, counted, listed
from salttide.core.judgement.situation import Situation
from salttide.core.ledger.entries import Change
from salttide.core.science.additives import COMPOUNDS, dose_mass_g
from salttide.core.science.carbonate import aragonite_saturation
from salttide.core.science.dosing import correction_days
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.salts import natural_seawater
from salttide.core.science.solutions import calcium_per_meq_mg
from salttide.core.system.finding import Certainty, Finding

from ...basics.measures import grams_words

ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM
SALINITY, PH, TEMPERATURE = Parameter.SALINITY, Parameter.PH, Parameter.TEMPERATURE
RAISED_BY: Mapping[Parameter, str] = {
    ALKALINITY: "Na2CO3",
    CALCIUM: "CaCl2·2H2O",
    MAGNESIUM: "MgCl2·6H2O",
    Parameter.POTASSIUM: "KCl",
}
CAUTION_OF = {ALKALINITY: ("caustic", "alkalinity_dose"), CALCIUM: ("heats",), MAGNESIUM: ("heats",)}
ALIKE = 0.04
SHORT_SHARE = 0.94
CRUST_SATURATION = 8.0
"""Aragonite saturation from which crusts on heater and pumps are to be expected (judgement)."""
HIGH_PH, CALM_PH = 8.5, 8.4


def magnesium_first(s: Situation) -> Iterator[Finding]:
    """Magnesium low while alkalinity or calcium will not hold: magnesium is corrected first."""
    if not s.low(MAGNESIUM):
        return
    weak = [p for p in (ALKALINITY, CALCIUM) if s.low(p) or _falls(s, p)]
    if not weak:
        return
    yield Finding(
        "Magnesium first",
        f"Magnesium is {s.show(MAGNESIUM, s.present[MAGNESIUM].value)}, {s.difference(MAGNESIUM, s.gap(MAGNESIUM))} "
        f"under its band, and {listed([spoken(p) for p in weak])} will not hold: with little magnesium both drop out "
        "as carbonate.",
        _dose(s, MAGNESIUM) + f" Then look at {listed([spoken(p) for p in weak])} again.",
        "Alkalinity and calcium that hold by themselves, or a second magnesium test in its band.",
        (s.evidence(MAGNESIUM), *(s.evidence(p) for p in weak)),
        Certainty.LIKELY,
        (MAGNESIUM, *weak),
        CAUTION_OF[MAGNESIUM],
        to_do=_to_do(s, MAGNESIUM),
    )


def _falls(s: Situation, parameter: Parameter) -> bool:
    return s.moves(parameter) and s.net(parameter) < 0


def low_alike(s: Situation) -> Iterator[Finding]:
    """Calcium and magnesium low by the same share with salinity in its band: the scale, or a weak batch."""
    if s.value(SALINITY) is None or s.gap(SALINITY):
        return
    sea = natural_seawater(s.present[SALINITY].value)
    shares = {p: s.present[p].value / sea[p] for p in (CALCIUM, MAGNESIUM, Parameter.POTASSIUM) if p in s.present}
    if len(shares) < 2 or not (s.low(CALCIUM) and s.low(MAGNESIUM)):
        return
    if max(shares.values()) - min(shares.values()) > ALIKE or max(shares.values()) > SHORT_SHARE:
        return
    percent = round(100 * sum(shares.values()) / len(shares))
    yield Finding(
        "Everything is low by the same share",
        f"{capital(listed([spoken(p) for p in shares]))} all stand near {percent} % of what this seawater should "
        "hold. One cause is likelier than several: a salinity that is not what the instrument says, or a weak batch "
        "of salt.",
        "Check the salinity instrument against a 35 ppt standard, then test a fresh batch.",
        "A standard that reads right, and a fresh batch that tests as its label says.",
        (s.evidence(SALINITY), *(s.evidence(p) for p in shares)),
        Certainty.LIKELY,
        (*shares, ALKALINITY),
    )


def salt_short(s: Situation) -> Iterator[Finding]:
    """One element low, and the new water low in it too: the salt, not the animals."""
    change = _last_change(s)
    if change is None:
        return
    salinity = change.incoming.get(SALINITY, 35.0)
    for parameter in (CALCIUM, MAGNESIUM, Parameter.POTASSIUM, ALKALINITY):
        band, new = s.band(parameter), change.incoming.get(parameter)
        if new is None or band is None or not s.low(parameter) or salinity <= 0 or new * 35 / salinity >= band.low:
            continue
        name = spoken(parameter)
        yield Finding(
            f"The salt is short of {name}",
            f"{capital(name)} is {s.show(parameter, s.present[parameter].value)}, and the new water of "
            f"{s.when(change.at)} had {s.show(parameter, new)}: every change brings it down.",
            f"Raise {name} in each batch before it goes in, or use another salt. {_dose(s, parameter)}",
            "A fresh batch that tests inside the band.",
            (s.evidence(parameter), f"new water {s.when(change.at)}: {name} {s.show(parameter, new)}"),
            Certainty.LIKELY,
            (parameter,),
            CAUTION_OF.get(parameter, ()),
        )


def _last_change(s: Situation) -> Change | None:
    changes = [change for change in s.ledger.changes if change.in_l > 0 and s.days_ago(change.at) <= 60]
    return changes[-1] if changes else None


def alkalinity_alone(s: Situation) -> Iterator[Finding]:
    """Alkalinity falls while calcium seems to hold: usually growth, as calcium moves little; else look for a crust."""
    calcium = s.rates.get(CALCIUM)
    if calcium is None or s.low(ALKALINITY) or not _falls(s, ALKALINITY) or _falls(s, CALCIUM):
        return
    expected = calcium_per_meq_mg() * s.net(ALKALINITY)
    off = abs(s.net(CALCIUM) - expected) > 2 * calcium.sd
    speed, goes = s.difference(ALKALINITY, s.net(ALKALINITY)), s.difference(CALCIUM, abs(expected))
    seen = (s.evidence(ALKALINITY), s.evidence(CALCIUM))
    if not off:
        yield Finding(
            "Alkalinity falls and calcium seems to hold: growth",
            f"Alkalinity falls {speed} a day. The calcium that goes with it is only {goes} a day, less than "
            f"this test can tell from {counted(calcium.count, 'reading')}.",
            "Replace what is used; nothing is wrong with calcium.",
            "Calcium that stays put over many more weeks of falling alkalinity.",
            seen,
            Certainty.LIKELY,
            (ALKALINITY, CALCIUM),
        )
        return
    yield Finding(
        "Alkalinity falls without its calcium",
        f"Alkalinity falls {speed} a day; {goes} of calcium a day should go with it, and the readings exclude "
        "that. Either a test is off, or alkalinity goes another way: acid from nitrification, or calcium dosed "
        "alone.",
        "Repeat both tests on one sample; look for crust on the heater, a cloud after dosing, and pH above "
        f"{short(HIGH_PH)}.",
        "A second calcium result that has fallen after all.",
        (*seen, *s.saw("precipitation")),
        Certainty.POSSIBLE,
        (ALKALINITY, CALCIUM),
    )


def falling_together(s: Situation) -> Iterator[Finding]:
    """Alkalinity and calcium fall in the proportion of carbonate: growth or precipitation, told apart by pH and
    signs."""
    if not (_falls(s, ALKALINITY) and _falls(s, CALCIUM)):
        return
    alkalinity, calcium = s.net(ALKALINITY), s.net(CALCIUM)
    ratio = calcium / alkalinity
    if not 0.5 * calcium_per_meq_mg() <= ratio <= 1.5 * calcium_per_meq_mg():
        return
    ph, crust = s.value(PH), crust_likely(s)
    yield Finding(
        "Alkalinity and calcium fall together: " + ("a crust is likely" if crust else "growth"),
        f"Alkalinity falls {s.difference(ALKALINITY, alkalinity)} a day and calcium "
        f"{s.difference(CALCIUM, calcium)}: {show_number(ratio, 1)} mg per meq, as carbonate takes them "
        f"({show_number(calcium_per_meq_mg(), 1)}).",
        "Look at heater and pumps for scale, and dose more slowly, at other places, further apart."
        if crust
        else "Raise the daily dose of both by what is used; no hurry.",
        f"Scale, a cloud after dosing or pH above {short(HIGH_PH)}."
        if not crust
        else f"Clean heater and pumps and pH below {short(CALM_PH)}.",
        (s.evidence(ALKALINITY), s.evidence(CALCIUM), *([s.evidence(PH)] if ph else []), *s.saw("precipitation")),
        Certainty.LIKELY,
        (ALKALINITY, CALCIUM),
    )


def crust_likely(s: Situation) -> bool:
    """Whether what falls may drop out as a crust rather than be used: scale or snow in sight, or a high pH."""
    ph = s.value(PH)
    return bool(s.seen("precipitation")) or (ph is not None and ph > HIGH_PH)


def crusting(s: Situation) -> Iterator[Finding]:
    """Carbonate precipitates, or is about to: seen as snow or scale, or by computed saturation."""
    needed = (PH, ALKALINITY, SALINITY, TEMPERATURE)
    saturation = None
    if all(p in s.present for p in needed):
        try:
            ph, alkalinity, salinity, warm = (s.present[p].value for p in needed)
            saturation = float(aragonite_saturation(ph, alkalinity, salinity, warm, s.value(CALCIUM)))
        except InputError:
            saturation = None
    high = saturation is not None and saturation >= CRUST_SATURATION
    if not (high or s.seen("precipitation")):
        return
    saturated = f" Aragonite is at {show_number(saturation, 1)} times saturation." if saturation is not None else ""
    yield Finding(
        "Carbonate drops out of the water" if s.seen("precipitation") else "The water is close to dropping carbonate",
        ("White cloud or scale was seen." if s.seen("precipitation") else "Nothing is seen of it yet.") + saturated,
        "Give no alkalinity or calcium today; then in smaller portions, apart, into strong flow. Let pH come below "
        f"{short(CALM_PH)}.",
        "Tests of alkalinity, calcium and pH that are all lower.",
        (*(s.evidence(p) for p in (*needed, CALCIUM) if p in s.present), *s.saw("precipitation")),
        Certainty.CERTAIN if s.seen("precipitation") else Certainty.POSSIBLE,
        (ALKALINITY, CALCIUM),
    )


def ion_low(s: Situation) -> Iterator[Finding]:
    """An ion under its band: the dose that brings it to its aim, over as many days as its limit needs."""
    for parameter in RAISED_BY:
        if not s.low(parameter):
            continue
        name = FACTS[parameter].name
        speed = -s.net(parameter) if _falls(s, parameter) else 0.0
        more = float(dose_mass_g(_compound(s, parameter), parameter, speed, s.system.volume_l)) if speed else 0.0
        yield Finding(
            f"{name} is low",
            f"{s.show(parameter, s.present[parameter].value)} is {s.difference(parameter, s.gap(parameter))} under "
            "the band."
            + (f" It falls by {s.difference(parameter, speed)} a day: more is used than is given." if speed else ""),
            _dose(s, parameter) + _from_then_on(s, parameter, more),
            "A second result inside the band.",
            (s.evidence(parameter),),
            Certainty.LIKELY,
            (parameter,),
            CAUTION_OF.get(parameter, ()),
            to_do=_to_do(s, parameter),
        )


def _to_do(s: Situation, parameter: Parameter) -> str:
    goal = s.system.aim(parameter)
    return "" if goal is None else f"Raise {spoken(parameter)} to {s.show(parameter, goal)}"


def _compound(s: Situation, parameter: Parameter) -> str:
    """The compound that raises it: for alkalinity, the one this keeper uses."""
    return COMPOUNDS[s.source].formula if parameter == ALKALINITY else RAISED_BY[parameter]


def _from_then_on(s: Situation, parameter: Parameter, grams: float) -> str:
    """How to keep it from sagging again, by this keeper's method."""
    if not grams:
        return ""
    if s.method("replacing") == "changes_alone":
        return (
            " It sags again between changes: larger or more frequent ones, or "
            f"{grams_words(grams, 2)} {_compound(s, parameter)} a day from then on."
        )
    how = _HOW.get(s.method("replacing"), "")
    return f" From then on {grams_words(grams, 2)} a day more than now{how}, or it sags again."


_HOW = {
    "two_part": ", by the two-part pumps",
    "limewater": ", as far as the top-off takes it up",
    "reactor": ", by the reactor's flow",
    "by_hand": ", by hand",
}


def _dose(s: Situation, parameter: Parameter) -> str:
    """How much of which compound on how many days, on top of the uptake meanwhile."""
    goal, value = s.system.aim(parameter), s.present[parameter].value
    assert goal is not None
    days = correction_days(parameter, value, goal, s.net_use(parameter), s.limit(parameter))
    formula = _compound(s, parameter)
    grams = float(dose_mass_g(formula, parameter, days[0].rise, s.system.volume_l))
    test = f", and test on day {next((day.day for day in days if day.test), len(days))}" if len(days) > 1 else ""
    return (
        f"Raise it to {s.show(parameter, days[-1].after)}: {grams_words(grams, 1)} {formula} a day for "
        f"{counted(len(days), 'day')}{test}."
    )


def ion_high(s: Situation) -> Iterator[Finding]:
    """An ion over its band: no dose lowers it."""
    for parameter in RAISED_BY:
        if not s.high(parameter):
            continue
        yield Finding(
            f"{FACTS[parameter].name} is high",
            f"{s.show(parameter, s.present[parameter].value)} is {s.difference(parameter, s.gap(parameter))} over "
            "the band.",
            "Stop dosing it and let it be used up; the routine changes bring it down too.",
            "New water that holds as much, so that water changes maintain it.",
            (s.evidence(parameter),),
            Certainty.LIKELY,
            (parameter,),
        )
