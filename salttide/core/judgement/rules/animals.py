"""What harms animals now: toxic ammonia, visible distress, losses; and nitrite, which does not."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import inf

from salttide.core.basics.number_text import short, show_number
from salttide.core.basics.phrasing import capital, listed
from salttide.core.judgement.situation import Situation
from salttide.core.science.ammonia import (
    ACT_MG_L,
    CAUTION_MG_L,
    EMERGENCY_MG_L,
    Danger,
    ammonia_danger,
    unionised_ammonia_mg_l,
)
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.system.finding import Certainty, Finding

AMMONIA, NITRITE, NITRATE = Parameter.AMMONIA, Parameter.NITRITE, Parameter.NITRATE
PH, SALINITY, TEMPERATURE = Parameter.PH, Parameter.SALINITY, Parameter.TEMPERATURE
ASSUMED = {PH: 8.2, SALINITY: 35.0, TEMPERATURE: 25.0}
"""Assumed where not measured, and stated: a usual reef, with pH at the less favourable end of the day."""
FIRST_TESTS = (TEMPERATURE, SALINITY, AMMONIA, PH)
FRESH_DAYS = 3.0
MUCH_NITRITE = 0.5


def toxic_in(water: Mapping[Parameter, float]) -> float | None:
    """Un-ionised NH3 (mg/L) in a water of these values (canonical): pH, salinity and temperature taken as usual where
    they were not measured; None without an ammonia test. Raises DomainError."""
    total = water.get(AMMONIA)
    if total is None:
        return None
    ph, salinity, warm = (water.get(p, assumed) for p, assumed in ASSUMED.items())
    return float(unionised_ammonia_mg_l(total, ph, salinity, warm))


def toxic_ammonia(s: Situation) -> float | None:
    """Un-ionised NH3 (mg/L) in the water, where animals are inside and it matters; else None."""
    toxic = toxic_in({p: known.value for p, known in s.present.items()}) if s.animals_inside else None
    return None if toxic is None or ammonia_danger(toxic) == Danger.NONE else toxic


def ammonia_toxic(s: Situation) -> Iterator[Finding]:
    """Un-ionised ammonia with animals inside: judged by the toxic part, not by the total."""
    toxic = toxic_ammonia(s)
    if toxic is None:
        return
    total, ph = s.present[AMMONIA].value, s.value(PH) if s.value(PH) is not None else ASSUMED[PH]
    guessed = [spoken(p) for p in ASSUMED if s.value(p) is None]
    words, advice = _DANGERS[ammonia_danger(toxic)]
    yield Finding(
        words,
        f"Of {s.show(AMMONIA, total)} total ammonia {show_number(toxic, 3)} mg/L is the toxic NH3 at pH "
        f"{s.show(PH, float(ph or 0.0))} (from {short(CAUTION_MG_L)} caution, {short(ACT_MG_L)} act, "
        f"{short(EMERGENCY_MG_L)} emergency)."
        + (f" {capital(listed(guessed))} taken as usual, not measured." if guessed else ""),
        advice,
        "A test by another method: binding products and some reagents read total ammonia too high.",
        (s.evidence(AMMONIA), *(s.evidence(p) for p in ASSUMED if p in s.present)),
        Certainty.LIKELY if s.present[AMMONIA].measured and not guessed else Certainty.POSSIBLE,
        (AMMONIA, PH, Parameter.ALKALINITY),
        ("ammonia",),
    )


_DANGERS = {
    Danger.CAUTION: (
        "Ammonia: watch it",
        "Feed nothing today, look for something dead, and test again tomorrow. Do not raise pH meanwhile.",
    ),
    Danger.ACT: (
        "Ammonia: act now",
        "Stop feeding, take out what is dead, more air; change water matched in temperature, salinity and pH; test "
        "again in some hours. Nothing that raises pH.",
    ),
    Danger.EMERGENCY: (
        "Ammonia: emergency",
        "Change as much matched water as you have, now, or move the animals; more air, no food; a binding product "
        "if you have one. Nothing that raises pH. Test again in two hours.",
    ),
}


def animal_bears(s: Situation) -> Iterator[Finding]:
    """A value outside what one of the animals tolerates, though the system's own band may allow it."""
    for animal in s.system.animals:
        for parameter, span in animal.tolerances.items():
            value = s.value(parameter)
            if value is None or not animal.count or abs(value - span.nearest(value)) < s.sd(parameter):
                continue
            above = value > span.high
            move = s.limit(parameter).down if above else s.limit(parameter).up
            rate = f" by at most {s.difference(parameter, move)} a day" if move < inf else ""
            yield Finding(
                f"{capital(spoken(parameter))} is {'over' if above else 'under'} what the {animal.name} tolerates",
                f"{s.show(parameter, value)}; for {animal.name} {s.show(parameter, span.low)} to "
                f"{s.show(parameter, span.high)} is set.",
                f"Bring it back{rate}, and set the system's band so that it holds for this animal too.",
                "A second instrument that says otherwise, or another tolerance in Livestock.",
                (s.evidence(parameter), f"{animal.name}: {animal.count} in the system"),
                Certainty.LIKELY,
                (parameter,),
            )


def nitrite_calm(s: Situation) -> Iterator[Finding]:
    """Nitrite in a stocked system: no emergency in seawater, but a sign, and it disturbs the nitrate test."""
    value = s.value(NITRITE)
    if value is None or value < MUCH_NITRITE or not s.animals_inside:
        return
    yield Finding(
        "Nitrite is a sign here, not an emergency",
        f"{s.show(NITRITE, value)} nitrite: the chloride of seawater keeps it from harming fish as it does in fresh "
        "water. It means that the bacteria are behind, and it makes nitrate tests read too high.",
        "Test ammonia, which matters; feed less for a week; no change for nitrite's sake.",
        "Ammonia that rises too.",
        (s.evidence(NITRITE), *([s.evidence(AMMONIA)] if s.value(AMMONIA) is not None else [])),
        Certainty.CERTAIN,
        (NITRITE, NITRATE),
    )


def animals_suffer(s: Situation) -> Iterator[Finding]:
    """Animals in visible distress: which tests first, and air where they gasp."""
    grave = s.seen("grave")
    if not grave or s.look is None or s.days_ago(s.look.at) > FRESH_DAYS:
        return
    air = "More air and surface movement at once. " if s.seen("oxygen") else ""
    missing = [spoken(p) for p in _missing(s, s.days_ago(s.look.at))]
    asks = (
        f"Test {listed(missing)} before anything is poured in."
        if missing
        else "All four were tested since: now look at flow, air, what is in the water, and who harries whom."
    )
    yield Finding(
        f"{capital(listed([sign.kind.name for sign in grave]))}: test now",
        f"Seen {s.when(s.look.at)}. Most causes that kill quickly show in four tests.",
        air + asks,
        "Animals that are well again at the next look.",
        (*s.saw("grave"), *(s.evidence(p) for p in FIRST_TESTS if p in s.present)),
        Certainty.CERTAIN,
        FIRST_TESTS,
    )


def losses(s: Situation) -> Iterator[Finding]:
    """An animal lost: find what is left of it, and test what kills first."""
    lost = s.happened("stock_lost", FRESH_DAYS)
    if lost is None:
        return
    missing = _missing(s, s.days_ago(lost.at))
    if missing == ():
        return
    yield Finding(
        "After the loss, test first",
        f"{capital(lost.words)}, {s.when(lost.at)}; not tested since: {listed([spoken(p) for p in missing])}.",
        f"Take out what is left of it. Test {listed([spoken(p) for p in missing])}; count the others.",
        "A cause that was seen: caught in a pump, jumped, eaten.",
        (f"{lost.words}, {s.when(lost.at)}",),
        Certainty.CERTAIN,
        missing,
    )


def _missing(s: Situation, days: float) -> tuple[Parameter, ...]:
    """The first tests not made in the last `days`."""
    return tuple(p for p in FIRST_TESTS if p not in s.present or s.days_ago(s.present[p].reading.at) > days)
