"""Doubts about a result, before anything is done about it."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Mapping, Sequence
from datetime import timedelta

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import capital, counted, day_words
from salttide.core.judgement.situation import Situation, real
from salttide.core.ledger.entries import UNNAMED, Reading
from salttide.core.ledger.verdict import EXPECTED_SDS, joint_sd, mean
from salttide.core.science.parameters import Parameter, spoken
from salttide.core.system.finding import Certainty, Finding

FASTEST_A_DAY: Mapping[Parameter, tuple[float, float]] = {
    Parameter.SALINITY: (0.7, 0.3),
    Parameter.ALKALINITY: (0.1, 0.7),
    Parameter.CALCIUM: (5.0, 25.0),
    Parameter.MAGNESIUM: (5.0, 20.0),
    Parameter.NITRATE: (5.0, 5.0),
    Parameter.PHOSPHATE: (0.1, 0.1),
}
"""The most a stocked system moves by itself in a day, up and down, without dose or change (judgement)."""
RESTS_ON_IT: Mapping[Parameter, tuple[Parameter, ...]] = {
    Parameter.SALINITY: (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM),
    Parameter.MAGNESIUM: (Parameter.ALKALINITY, Parameter.CALCIUM),
}
"""Parameters that cannot be judged while this result is in doubt."""
DOUBT_SDS = 3.0
FRESH_DAYS = 7.0
"""An older result is no longer doubted: the next test is due."""
OVERLAP = timedelta(hours=24)
SIDE_BY_SIDE = timedelta(minutes=90)
"""Instruments long used side by side, as a probe and a kit, are compared only on readings this close in time."""
OVERLAP_DAYS = 60.0
NEW_READINGS, OTHER_DAYS = 3, 30.0
"""For how many readings an instrument is new, and for how many days the other one is remembered (judgement)."""
EXPLAINED_BY = 3
"""An event that affects a parameter this strongly explains even a jump."""


def impossible_jump(s: Situation) -> Iterator[Finding]:
    """A result further from the last one than the system can move in the time."""
    for parameter, (up, down) in FASTEST_A_DAY.items():
        pair = s.pair(parameter)
        if pair is None or s.days_ago(pair[1].at) > FRESH_DAYS or _explained(s, parameter, *pair):
            continue
        before, last = pair
        left = s.unexplained(parameter, before, last)
        days = max((last.at - before.at) / timedelta(days=1), 0.0)
        most = (up if left > 0 else down) * days
        if abs(left) <= most + DOUBT_SDS * joint_sd(before, last):
            continue
        way = "rise" if left > 0 else "fall"
        name = spoken(parameter)
        yield Finding(
            f"Repeat the {name} test",
            f"{s.show(parameter, before.value)} on {s.when(before.at)}, {s.show(parameter, last.value)} on "
            f"{s.when(last.at)}: the {way} by itself is {s.difference(parameter, left)}, more than a system moves in "
            f"{counted(max(1, round(days)), 'day')} ({s.difference(parameter, most)}, and the error of both tests).",
            f"Test {name} once more, rinsed and with fresh water from mid-depth, before anything is done about it.",
            "A second result that agrees with the last one, or something that happened and is not recorded yet.",
            (_reading(s, before), _reading(s, last)),
            Certainty.LIKELY,
            (parameter, *RESTS_ON_IT.get(parameter, ())),
        )


def _explained(s: Situation, parameter: Parameter, before: Reading, last: Reading) -> bool:
    return any(
        h.kind.affects.get(parameter, 0) >= EXPLAINED_BY and before.at <= h.at <= last.at for h in s.ledger.happenings
    )


def _reading(s: Situation, reading: Reading) -> str:
    shown = s.show(reading.parameter, reading.value)
    return f"{spoken(reading.parameter)} {shown}, {s.when(reading.at)}, {reading.instrument}"


def too_near_to_tell(s: Situation) -> Iterator[Finding]:
    """A result out of its band by less than the instrument's own scatter."""
    for parameter, known in s.present.items():
        gap = s.gap(parameter)
        if not gap or not known.measured or abs(gap) >= known.sd or s.days_ago(known.reading.at) > FRESH_DAYS:
            continue
        name, side = spoken(parameter), "under" if gap < 0 else "over"
        yield Finding(
            f"{capital(name)} is {side} its band by less than the test can resolve",
            f"{s.show(parameter, known.value)} is {s.difference(parameter, gap)} {side} the band; the instrument's "
            f"own scatter is {s.difference(parameter, known.sd)}.",
            f"Leave it, and test {name} again before correcting anything.",
            "A second result on the same side.",
            (s.evidence(parameter),),
            Certainty.CERTAIN,
            (parameter,),
        )


def unrecorded(s: Situation) -> Iterator[Finding]:
    """Something that moved a parameter between two tests and is not in the record."""
    for parameter, asked in s.questions.items():
        name, size = spoken(parameter), s.difference(parameter, asked.size)
        rose = asked.size > 0
        yield Finding(
            f"Something {'raised' if rose else 'lowered'} {name} by {size} about {s.when(asked.at)}, and it is not "
            "recorded",
            f"Between {s.when(asked.since.at)} and {s.when(asked.until.at)} it {'rose' if rose else 'fell'} by {size} "
            f"(± {s.difference(parameter, EXPECTED_SDS * asked.sd)}) more than the doses, the changes and the system's "
            "own rate explain, and the tests since then agree.",
            "Was it a dose, a water change, another hand at the test? Say so here, or record the change on its day: "
            "the rate is worked out with it.",
            f"A test on {s.when(asked.since.at)} or {s.when(asked.until.at)} that was written down wrongly.",
            (
                _reading(s, asked.since), _reading(s, asked.until),
                f"{show_number(100 * asked.share, 0)} % likely by all readings together",
            ),
            Certainty.LIKELY,
            (parameter,),
        )  # fmt: skip


def other_instrument(s: Situation) -> Iterator[Finding]:
    """The instrument of a parameter changed, and no day has both: a difference says nothing yet."""
    for parameter, (last, old, pairs) in _exchanged(s).items():
        if pairs:
            continue
        name = spoken(parameter)
        yield Finding(
            f"Another instrument measures {name}",
            f"{capital(last)} took over from {old}, and no day has both: a difference says nothing yet.",
            f"Measure {name} with both today.",
            "One pair of results on the same day.",
            (f"{name} by {old} before, by {last} since",),
            Certainty.CERTAIN,
            (parameter,),
        )


def instruments_differ(s: Situation) -> Iterator[Finding]:
    """Two instruments measured on the same days: their difference, by which the older results count as shifted."""
    for parameter, (last, old, pairs) in _exchanged(s).items():
        if not pairs:
            continue
        offset = mean(one.value - other.value for one, other in pairs)
        enough = real(*pairs[-1], offset)
        way = "above" if offset > 0 else "below"
        yield Finding(
            f"{capital(last)} and {old} differ" if enough else f"{capital(last)} agrees with {old}",
            f"On {counted(len(pairs), 'day')} with both, {last} reads {s.difference(parameter, offset)} {way} "
            f"{old}{'' if enough else ', within their error'}: older results count as shifted by that much.",
            "Check the one you keep against a standard, and stay with it.",
            "A check against a standard.",
            tuple(
                f"{s.when(one.at)}: {s.show(parameter, other.value)} and {s.show(parameter, one.value)}"
                for one, other in pairs
            ),
            Certainty.LIKELY if len(pairs) > 1 else Certainty.POSSIBLE,
            (parameter,),
        )


def _exchanged(s: Situation) -> dict[Parameter, tuple[str, str, list[tuple[Reading, Reading]]]]:
    """Parameters with a new instrument: the new one, the old one, and pairs of readings within a day. Two long used
    side by side count only where they really differ."""
    found = {}
    recent = s.now - timedelta(days=OVERLAP_DAYS)
    for parameter in s.present:
        known = s.ledger.of(parameter)
        if len({reading.instrument for reading in known}) == 1:
            continue
        readings = [r for r in known if r.at >= recent and r.instrument != UNNAMED]
        last = readings[-1].instrument if readings else ""
        since = [r for r in readings if r.instrument == last]
        others = [r for r in readings if r.instrument != last]
        if (
            not others
            or known[-1].instrument == UNNAMED
            or (len(since) > NEW_READINGS and s.days_ago(others[-1].at) > OTHER_DAYS)
        ):
            continue
        old = [r for r in others if r.instrument == others[-1].instrument]
        beside = len(since) > NEW_READINGS and s.days_ago(since[0].at) > OTHER_DAYS
        near = SIDE_BY_SIDE if beside else OVERLAP
        pairs = _pairs(since, old, near)
        if beside and not (pairs and real(*pairs[-1], mean(one.value - other.value for one, other in pairs))):
            continue
        found[parameter] = (last, old[-1].instrument, pairs)
    return found


def _pairs(ours: Sequence[Reading], others: Sequence[Reading], near: timedelta) -> list[tuple[Reading, Reading]]:
    """Readings of two instruments that lie so near to each other; both oldest first."""
    times = [other.at for other in others]
    return [
        (one, other)
        for one in ours
        for other in others[bisect_left(times, one.at - near) : bisect_right(times, one.at + near)]
    ]


def reagent_expired(s: Situation) -> Iterator[Finding]:
    """A latest result measured with an expired reagent."""
    for (instrument, parameter), until in s.expired.items():
        last = s.ledger.last(parameter)
        if last is None or last.instrument != instrument or last.at.astimezone(s.zone).date() <= until:
            continue
        yield Finding(
            f"The reagent for {spoken(parameter)} is past its day",
            f"{instrument} was used on {s.when(last.at)} with a reagent that was good until {day_words(until)}. Old "
            "reagents mostly read too high or change colour late.",
            "Measure a standard of known value with it, or the same sample with a fresh reagent, before acting on it.",
            "A standard that reads right.",
            (s.evidence(parameter),),
            Certainty.POSSIBLE,
            (parameter,),
        )
