"""Trends: what leaves its band soon, and what changed course and why."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta

from salttide.core.basics.phrasing import capital, listed
from salttide.core.estimate.forecast import Crossing, Point, crossing, value_at
from salttide.core.estimate.rate import BUSY, Rate
from salttide.core.estimate.turn import Turn, turn_of
from salttide.core.judgement.situation import Situation
from salttide.core.science.additives import dose_mass_g
from salttide.core.science.parameters import FACTS, Parameter, Span, spoken
from salttide.core.system.catalogue import event_kinds
from salttide.core.system.finding import Advice, Certainty, Finding
from salttide.core.system.inspection import Event

from ...basics.measures import grams_words
from .ions import RAISED_BY

AHEAD = timedelta(days=14)
OPEN_SHARE = 0.25
"""Where readings leave more than this share of the band open for the level itself, nothing is said of its way out
(judgement): the next test comes first."""
BUILT_OF = (Parameter.ALKALINITY, Parameter.CALCIUM)
SHIFTED_SHARE = 0.5
"""From this probability that something unrecorded came since, it is not called a turn (judgement)."""
BEFORE_TURN, AFTER_TURN = timedelta(days=21), timedelta(days=4)


def leaving(s: Situation) -> Iterator[Finding]:
    """In its band, but on its way out within two weeks by moving as it really does."""
    for parameter, found in s.rates.items():
        band = s.band(parameter)
        if found is None or band is None or not s.moves(parameter) or s.low(parameter) or s.high(parameter):
            continue
        leaves = _leaves(s.courses[parameter].points, band, s.now, found.until)
        if leaves is None and s.gap(parameter) * s.net(parameter) > 0:
            # Over the edge by less than a test can tell, and going on.
            leaves = Crossing(s.now, band.nearest(s.present[parameter].value))
        if leaves is None or leaves.at > s.now + AHEAD or found.level_sd > OPEN_SHARE * (band.high - band.low):
            continue
        yield _leaving(s, parameter, found, leaves)


def _leaves(points: Sequence[Point], band: Span, now: datetime, measured: datetime) -> Crossing | None:
    """When it leaves its band: from now on, or since it was measured, where it is expected to be outside already."""
    present = value_at(points, now)
    return crossing(points, band, now if present is None or band.holds(present.value) else measured)


def _leaving(s: Situation, parameter: Parameter, found: Rate, leaves: Crossing) -> Finding:
    name, net = spoken(parameter), s.net(parameter)
    falls = net < 0
    return Finding(
        f"{capital(name)} {'falls' if falls else 'rises'} out of its band about {s.when(leaves.at)}",
        f"It {'falls' if falls else 'rises'} by {s.difference(parameter, net)} a day (± "
        f"{s.difference(parameter, (found.high - found.low) / 2)}), from {found.count} readings, and reaches "
        f"{s.show(parameter, leaves.value)} about {s.when(leaves.at)} under the current plan.",
        _keep_inside(s, parameter, net),
        "A next result that lies off this line.",
        (s.evidence(parameter), f"{found.count} readings since {s.when(found.since)}"),
        Certainty.LIKELY,
        (parameter,),
        move=_move(parameter, net),
    )


def _move(parameter: Parameter, net: float) -> Advice:
    """The kind of step that keeps a parameter inside."""
    if parameter in RAISED_BY and net < 0:
        return Advice.DOSE
    if parameter == Parameter.SALINITY:
        return Advice.LOOK
    return Advice.EXPORT if net > 0 else Advice.FEED


def _keep_inside(s: Situation, parameter: Parameter, net: float) -> str:
    formula = RAISED_BY.get(parameter)
    if formula and net < 0:
        grams = float(dose_mass_g(formula, parameter, -net, s.system.volume_l))
        more = f"{grams_words(grams, 2)} {formula}, or the same in your solution"
        return f"Raise the daily dose by {more}; test in 4 days."
    if parameter == Parameter.SALINITY:
        return (
            "Top off what has evaporated with fresh water, every day or by a reservoir."
            if net > 0
            else "Look for salt that leaves: wet skimmer, leaks, creep; and for too much top-off."
        )
    if net > 0:
        return "A little less food, or the next change a little larger; not both at once."
    return "Feed a little more or ease export off; not both at once."


def turned(s: Situation) -> Iterator[Finding]:
    """A change of slope, with the events shortly before it, likeliest first, and the one test that would confirm the
    cause."""
    for parameter, found in s.rates.items():
        turn = turn_of(s.ledger, parameter, s.now) if parameter in BUSY else None
        if turn is None or _shifted(found, turn):
            continue
        causes = likely_causes(s, parameter, turn.at)
        name = spoken(parameter)
        if not causes and parameter in BUILT_OF and turn.after < min(0.0, turn.before) and s.net(parameter) < 0:
            yield _grown(s, parameter, turn)
            continue
        yield Finding(
            f"{capital(name)} turned about {s.when(turn.at)}",
            f"Before, it moved by itself by {_speed(s, parameter, turn.before)} a day, and since then by "
            f"{_speed(s, parameter, turn.after)}. " + _causes_words(s, causes, parameter),
            causes[0].kind.confirm_by
            if causes
            else f"Write down what changed around {s.when(turn.at)}, then test {name} again.",
            "The same slope as before at the next two tests.",
            (
                _readings_words(turn, name),
                *(f"{cause.words}, {s.when(cause.at)}" for cause in causes),
            ),
            Certainty.LIKELY if causes else Certainty.POSSIBLE,
            (parameter,),
        )


def _shifted(found: Rate | None, turn: Turn) -> bool:
    """Whether something that came all at once may be what looks like a turn."""
    came = found.account.unrecorded if found and found.account else None
    return came is not None and came.share > SHIFTED_SHARE and came.until.at >= turn.at


def _readings_words(turn: Turn, name: str) -> str:
    before, after = turn.counts
    return f"{before} {name} tests before and {after} since"


def _grown(s: Situation, parameter: Parameter, turn: Turn) -> Finding:
    """A steeper fall of what skeletons are built of, with no event recorded: growth has outpaced the dose."""
    name = spoken(parameter)
    return Finding(
        f"{capital(name)} is used faster than it is replaced",
        f"Until about {s.when(turn.at)} it moved by itself by {_speed(s, parameter, turn.before)} a day, since then by "
        f"{_speed(s, parameter, turn.after)}, and nothing that happened explains it: growth takes more than is given.",
        _keep_inside(s, parameter, s.net(parameter)),
        f"Something that happened about {s.when(turn.at)} and is not recorded.",
        (s.evidence(parameter), _readings_words(turn, name)),
        Certainty.LIKELY,
        (parameter,),
        move=Advice.DOSE,
    )


def _speed(s: Situation, parameter: Parameter, per_day: float) -> str:
    sign = "−" if per_day < 0 else "+"
    return f"{sign}{s.difference(parameter, per_day)}"


def _causes_words(s: Situation, causes: list[Event], parameter: Parameter) -> str:
    if not causes:
        usual = sorted(event_kinds().values(), key=lambda kind: -kind.affects.get(parameter, 0))[:3]
        return (
            f"Nothing is recorded around then; with {FACTS[parameter].name.lower()} it is most often "
            f"{listed([kind.name for kind in usual])}."
        )
    first, *others = causes
    text = f"Shortly before: {first.words} ({s.when(first.at)})"
    return text + (f"; less likely {listed([other.words for other in others])}." if others else ".")


def likely_causes(s: Situation, parameter: Parameter, at: datetime) -> list[Event]:
    """What happened shortly before a turn (in days: 21 before to 4 after), likeliest first: what affects the
    parameter most, and of these what lies nearest."""
    near = [
        h
        for h in s.ledger.happenings
        if at - BEFORE_TURN <= h.at <= at + AFTER_TURN and h.kind.affects.get(parameter, 0) > 0
    ]
    return sorted(near, key=lambda h: (-h.kind.affects[parameter], abs(h.at - at)))
