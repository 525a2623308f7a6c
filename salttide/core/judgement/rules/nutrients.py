"""Nitrate, phosphate and nuisance growth: zero is not clean, and growth that takes them up hides them."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.phrasing import capital, counted, listed
from salttide.core.judgement.situation import LOOK_DAYS, Situation, real
from salttide.core.ledger.balance import effect_in
from salttide.core.ledger.entries import Reading
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.science.sizing import size_changes
from salttide.core.system.finding import Certainty, Finding
from salttide.core.system.inspection import Amount
from salttide.core.system.system import Stage

from ...basics.measures import litres_words

NITRATE, PHOSPHATE, SILICATE = Parameter.NITRATE, Parameter.PHOSPHATE, Parameter.SILICATE
NUTRIENTS = (NITRATE, PHOSPHATE)
HISTORY_DAYS = 70.0
RISE = timedelta(days=14)
AROUND_CHANGE = timedelta(days=5)
CHANGES_LOOKED_AT = 3


def eaten(s: Situation) -> Iterator[Finding]:
    """Nutrients that read zero with green growth visible: taken up, not absent."""
    bare = _bare(s)
    if not bare or not _grows(s):
        return
    names = listed([sign.kind.name for sign in s.seen("eats")])
    yield Finding(
        f"{_names(bare)} {_be('reads', bare)} zero because growth eats {'it' if len(bare) == 1 else 'them'}",
        f"{_values(s, bare)}, with {names} in sight: growth takes them up before a test finds them. Zero is not "
        "clean here.",
        "Do not dose nutrients. Take the growth out by hand, and ease light and feeding a little; keep changes and "
        "export as they are, with the floor in mind once the growth dies back.",
        "Growth that stays away for three weeks while the readings stay at zero.",
        (*(s.evidence(p) for p in bare), *s.saw("eats")),
        Certainty.LIKELY,
        bare,
    )


def _bare(s: Situation) -> tuple[Parameter, ...]:
    """Nutrients the instrument cannot tell from zero."""
    return tuple(p for p in NUTRIENTS if (value := s.value(p)) is not None and value <= s.sd(p))


def _grows(s: Situation) -> bool:
    """Whether green growth counts: any kind that is a trouble by itself, or more than a trace of film."""
    return any("trouble" in sign.kind.marks or sign.amount != Amount.TRACE for sign in s.seen("eats"))


def _names(parameters: tuple[Parameter, ...]) -> str:
    text = listed([spoken(p) for p in parameters])
    return capital(text)


def _be(verb: str, parameters: tuple[Parameter, ...]) -> str:
    """The verb in the number of its subject."""
    return verb if len(parameters) == 1 else {"is": "are", "reads": "read"}[verb]


def _values(s: Situation, parameters: tuple[Parameter, ...]) -> str:
    return capital(listed([f"{spoken(p)} {s.show(p, s.present[p].value)}" for p in parameters]))


def unsure_growth(s: Situation) -> Iterator[Finding]:
    """Brown strands or film that is not surely algae: identify it before anything is done against it."""
    seen = s.seen("unsure")
    if not seen:
        return
    low = tuple(p for p in NUTRIENTS if s.gap(p) < 0) or _bare(s)
    strands = any("trouble" in sign.kind.marks for sign in seen)
    if s.system.stage == Stage.BREAKING_IN and not strands:
        return  # brown dust comes with every new system, and goes
    floor = (
        f" {_values(s, low)}: at the floor such growth has the water to itself, and exporting harder feeds it."
        if low
        else ""
    )
    yield Finding(
        f"Find out what grows: {seen[0].kind.name}",
        f"{capital(listed([sign.words for sign in seen]))}. It may be algae, diatoms or dinoflagellates, and what "
        f"helps against one feeds the other.{floor}",
        "Look at it through a microscope, and note whether it is gone from the surfaces an hour after lights out. "
        "Until then: no changes or export for nutrients' sake, animals fed as before."
        + (" Gloves and eye protection: some make strong toxins." if strands else ""),
        "A clear picture of what it is.",
        (*s.saw("unsure"), *(s.evidence(p) for p in NUTRIENTS if p in s.present)),
        Certainty.LIKELY if strands else Certainty.POSSIBLE,
        low or NUTRIENTS,
        ("unknown_growth",) if strands else (),
    )


def red_film(s: Situation) -> Iterator[Finding]:
    """Red or dark film: fed by still corners, detritus, or nutrients out of their band either way."""
    seen = s.seen("red")
    if not seen:
        return
    low = tuple(p for p in NUTRIENTS if s.gap(p) < 0)
    high = tuple(p for p in NUTRIENTS if s.high(p))
    level = ""
    if low:
        level = f" {_values(s, low)}: under the floor. Raise gently, do not strip further."
    elif high:
        level = f" {_values(s, high)}: high. Bring down gently."
    yield Finding(
        "Red film: find what feeds it",
        f"{capital(listed([sign.words for sign in seen]))}.{level} It settles where the water stands and detritus "
        "gathers.",
        "Lift it out by hand or with the siphon, aim a powerhead at the corner, and repeat every few days before "
        "trying anything stronger.",
        "Film that comes back within days in strong flow.",
        (*s.saw("red", "still"), *(s.evidence(p) for p in NUTRIENTS if p in s.present)),
        Certainty.LIKELY,
        low or high or NUTRIENTS,
    )


def floor(s: Situation) -> Iterator[Finding]:
    """A nutrient under its floor with no growth to explain it: raise it slowly, ease off export."""
    under = tuple(p for p in NUTRIENTS if s.gap(p) < 0)
    unsure = s.seen("unsure")
    if not under or (s.seen("eats") and _grows(s)) or any(sign.kind.key not in s.named for sign in unsure):
        return
    grows = "no growth in sight that would explain it"
    if unsure:
        grows = f"{unsure[0].kind.name} have the water to themselves there"
    beaten = s.faded("eats") or s.faded("trouble")
    why = f" The {beaten} that ate it is gone, and what took it up still runs." if beaten else ""
    blind = "" if s.look else " Nobody has looked for growth lately: look first."
    yield Finding(
        f"{_names(under)} {_be('is', under)} under the floor",
        f"{_values(s, under)}, and {grows}.{why}{blind} Corals starve and films settle at zero.",
        "Look for growth first, in the corners and behind the rock."
        if s.look is None
        else f"Ease media and export off, and feed a little more; at most {_upward(s, under)} a day.",
        "Algae or film found on a closer look: then it is eaten, not absent.",
        (*(s.evidence(p) for p in under), *s.saw("eats", "unsure", "red")),
        Certainty.LIKELY if s.look else Certainty.POSSIBLE,
        under,
        ("nutrient_dose",) if s.look else (),
    )


def _upward(s: Situation, parameters: tuple[Parameter, ...]) -> str:
    return listed([f"{s.difference(p, s.limit(p).up)} of {spoken(p)}" for p in parameters])


def hidden_growth(s: Situation) -> Iterator[Finding]:
    """Nutrients that rose for weeks and then fell without export: something grows that is not seen yet."""
    if s.seen("eats") or s.seen("unsure"):
        return
    for parameter in NUTRIENTS:
        found = s.readings(parameter, HISTORY_DAYS)
        if len(found) < 4:
            continue
        top = max(found[1:-1], key=lambda reading: reading.value)
        first, last = found[0], found[-1]
        rose = top.value - first.value
        fell = s.unexplained(parameter, top, last)
        if top.at - first.at < RISE or not real(first, top, rose) or fell >= 0 or not real(top, last, fell):
            continue
        if any(h.kind.key in ("media", "food") and top.at <= h.at <= last.at for h in s.ledger.happenings):
            continue
        name = spoken(parameter)
        yield Finding(
            f"{capital(name)} rose, then fell by itself: something grows",
            f"From {s.show(parameter, first.value)} on {s.when(first.at)} to {s.show(parameter, top.value)} on "
            f"{s.when(top.at)}, then down by {s.difference(parameter, fell)} more than the changes took out.",
            "Look for it before it shows: back panel, overflow, under the rock, the refugium.",
            "Media, food or a change that is not recorded.",
            tuple(f"{name} {s.show(parameter, r.value)}, {s.when(r.at)}" for r in (first, top, last)),
            Certainty.LIKELY if s.look else Certainty.POSSIBLE,
            (parameter,),
        )


def source_water(s: Situation) -> Iterator[Finding]:
    """Phosphate or silicate that returns after every change: it comes with the new water."""
    for parameter in (PHOSPHATE, SILICATE):
        back = [pair for pair in _around_changes(s, parameter) if _came_back(s, parameter, *pair)]
        looked = len(_around_changes(s, parameter))
        if len(back) < 2 or len(back) < looked - 1:
            continue
        name = spoken(parameter)
        yield Finding(
            f"Test the source water for {name}",
            f"After {len(back)} of the last {counted(looked, 'change')} {name} was not lower but higher than before.",
            f"Test {name} in the purified water and in a fresh batch, before the next change.",
            "Source water and batch that both read zero.",
            tuple(
                f"{name} {s.show(parameter, before.value)} before, {s.show(parameter, after.value)} after, "
                f"{s.when(after.at)}"
                for before, after in back
            ),
            Certainty.LIKELY,
            (parameter,),
        )


def _around_changes(s: Situation, parameter: Parameter) -> list[tuple[Reading, Reading]]:
    """The last reading before and the first after each of the latest changes, where both are near it."""
    found = s.readings(parameter, HISTORY_DAYS)
    pairs = []
    for change in [c for c in s.ledger.changes if c.in_l > 0][-CHANGES_LOOKED_AT:]:
        before = [r for r in found if change.at - AROUND_CHANGE <= r.at < change.at]
        after = [r for r in found if change.at < r.at <= change.at + AROUND_CHANGE]
        if before and after:
            pairs.append((before[-1], after[0]))
    return pairs


def _came_back(s: Situation, parameter: Parameter, before: Reading, after: Reading) -> bool:
    """Whether it stands higher after a change than clean new water would have left it, by more than the scatter."""
    value = before.value
    for event in s.between(parameter, before, after):
        value = effect_in(s.ledger, parameter, event).on(value)
    return after.value > before.value and real(before, after, after.value - value)


def nutrients_high(s: Situation) -> Iterator[Finding]:
    """Nitrate or phosphate over its band: which of the two, and the smallest step that brings it down."""
    high = tuple(p for p in NUTRIENTS if s.high(p))
    if not high:
        return
    growth = (s.seen("eats") and " Growth is in sight too: take it out by hand, it carries nutrients with it.") or ""
    yield Finding(
        f"{_names(high)} {_be('is', high)} high",
        f"{_values(s, high)}, over the band of "
        + listed([f"{s.show(p, band.high)}" for p in high if (band := s.band(p))])
        + f".{growth}",
        _way_down(s, high),
        "A test of the new water that shows where it comes from.",
        (*(s.evidence(p) for p in high), *s.saw("eats")),
        Certainty.LIKELY,
        high,
    )


_PHOSPHATE_BY = {
    "media": "less or rinsed food, then adsorbing media a little at a time",
    "feeding": "less or rinsed food by measured portions, never below what an animal needs; media only if weeks of it "
    "do not help",
    "changes": "less or rinsed food, then changes with new water that tests free of phosphate; rock gives some back",
}
_NITRATE_BY = {
    "macroalgae": "let the macroalgae grow: longer light for it, and a harvest once it fills its space; test weekly",
    "anaerobic": "check the denitrifier first: flow, effluent and redox; raise its flow only while its effluent reads "
    "next to nothing",
    "carbon": "raise the carbon source by no more than a tenth a week, skimmer running and oxygen watched at night; "
    "stop at the first cloud in the water",
}
"""Ways to lower them by the keeper's method; changes, the usual way, are sized."""


def _way_down(s: Situation, high: tuple[Parameter, ...]) -> str:
    if high == (PHOSPHATE,):
        third = min(s.limit(PHOSPHATE).down, s.present[PHOSPHATE].value / 3)
        return (
            f"Phosphate alone: {_PHOSPHATE_BY[s.method('phosphate_high') or 'media']}, down by at most "
            f"{s.difference(PHOSPHATE, third)} a day and never below its floor."
        )
    if high == (NITRATE,) and s.method("nitrate_high") in _NITRATE_BY:
        return f"Nitrate alone: {_NITRATE_BY[s.method('nitrate_high')]}."
    start = "Both: rinse food and clean socks first. Then a" if len(high) == 2 else "Nitrate alone: a"
    band = s.band(NITRATE)
    assert band is not None
    new = {NITRATE: 0.0, PHOSPHATE: 0.0}
    methods = s.system.methods
    try:
        plan = size_changes(
            NITRATE, {NITRATE: s.present[NITRATE].value}, band.high, new, s.system.volume_l, methods.largest_fraction
        )
    except SaltTideError:
        return f"{start} smaller portion and more export; changes alone would not do it."
    litres = [litres_words(change.litres, 0) for change in plan.changes]
    apart = f", {plan.changes[1].after_days} days apart," if len(litres) > 1 else ""
    sizes = " then ".join(litres) if len(litres) <= 3 else f"{len(litres)} times up to {litres[0]}"
    return f"{start} change of {sizes}{apart} with new water free of nitrate reaches {s.show(NITRATE, band.high)}."


def not_looked(s: Situation) -> Iterator[Finding]:
    """No visual check for two weeks: numbers alone mislead."""
    if s.look is not None or not s.animals_inside:
        return
    last = s.ledger.looks[-1].at if s.ledger.looks else None
    yield Finding(
        "Look before you judge",
        f"The last visual check was {s.when(last)}." if last else "No visual check is recorded yet.",
        "Two minutes in front of the panels: animals, films, corners, skimmer cup.",
        f"A visual check within {LOOK_DAYS} days.",
        (f"last visual check {s.when(last)}",) if last else ("no visual check",),
        Certainty.CERTAIN,
    )
