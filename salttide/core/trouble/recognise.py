"""Which trouble it is likely to be: belief by the stated table, the reasons for and against, and what would tell the
first two apart."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import exp, log

from .table import FACTS, Question, TroubleKind, questions, troubles

MOST = 0.95
"""No answer is ever certain: no more than this is claimed (judgement)."""
SHOWN = 0.02
"""Causes with less belief than this are not shown."""
SPEAKS = 1.6
"""An answer is a reason for or against where it is so many times as likely as with the others (judgement)."""
ENOUGH, FEW = 0.8, 3
"""With the first at this share after so many questions, no more is asked (judgement)."""
LOOK = "look"
TELLS_APART = 0.3
"""A closer look is proposed from this distance of its answers on (total variation, 0..1)."""


@dataclass(frozen=True)
class Likely:
    """A trouble with its share of belief (0..1), and what speaks for and against it, in words."""

    kind: TroubleKind
    share: float
    speaks_for: tuple[str, ...]
    against: tuple[str, ...]


@dataclass(frozen=True)
class Recognised:
    """The likely troubles, best first; the next question (None: enough is known), and the closer look that would best
    tell the first two apart."""

    likely: tuple[Likely, ...]
    ask: Question | None
    apart: Question | None


def recognise(answers: Mapping[str, str], facts: Mapping[str, bool], skipped: Iterable[str] = ()) -> Recognised:
    """Rank the troubles by answers (question: answer), what the record shows, and questions that were left out.

    >>> recognise({"look": "film", "colour": "red", "hold": "sheets"}, {}).likely[0].kind.key
    'cyanobacteria'
    """
    beliefs = belief(answers, facts)
    ranked = sorted(troubles().values(), key=lambda kind: -beliefs[kind.key])
    shown = [kind for kind in ranked if beliefs[kind.key] >= SHOWN][:6] or ranked[:1]
    likely = tuple(
        Likely(kind, min(MOST, beliefs[kind.key]), *_reasons(kind, answers, facts, beliefs)) for kind in shown
    )
    left = [one for one in questions().values() if one.key not in answers and one.key not in {*skipped}]
    ask = _next(left, beliefs, ranked)
    return Recognised(likely, ask, _apart([one for one in left if one is not ask], ranked))


def belief(answers: Mapping[str, str], facts: Mapping[str, bool]) -> dict[str, float]:
    """The share of belief of each trouble, by Bayes' rule: how often it is met, times how often each answer and each
    fact goes with it, as if these were independent; all shares sum to 1."""
    logs = {
        kind.key: log(kind.prior)
        + sum(log(share_of(kind, name, answer)) for name, answer in answers.items())
        + sum(log(fact_of(kind, name, holds)) for name, holds in facts.items())
        for kind in troubles().values()
    }
    most = max(logs.values())
    weights = {key: exp(value - most) for key, value in logs.items()}
    whole = sum(weights.values())
    return {key: weight / whole for key, weight in weights.items()}


def share_of(kind: TroubleKind, question: str, answer: str) -> float:
    """How often an answer goes with a trouble; even among all answers where its table does not name the question."""
    known = kind.answers.get(question)
    return known[answer] if known else 1 / len(questions()[question].answers)


def fact_of(kind: TroubleKind, fact: str, holds: bool) -> float:
    """How often the record shows a fact, or shows that it does not hold, with a trouble."""
    often = kind.facts.get(fact, FACTS[fact].usual)
    return often if holds else 1 - often


def _reasons(
    kind: TroubleKind, answers: Mapping[str, str], facts: Mapping[str, bool], beliefs: Mapping[str, float]
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What speaks for a trouble and against it, the strongest first: each compared with all others, by their belief
    before any answer."""
    others = [one for one in troubles().values() if one is not kind]
    whole = sum(one.prior for one in others)

    def among(shares: Iterable[tuple[float, float]]) -> float:
        return sum(share * prior for share, prior in shares) / whole

    ratios = [
        (share_of(kind, name, answer) / among((share_of(one, name, answer), one.prior) for one in others),
         questions()[name].answers[answer])
        for name, answer in answers.items()
    ] + [
        (fact_of(kind, name, holds) / among((fact_of(one, name, holds), one.prior) for one in others),
         FACTS[name].holds if holds else FACTS[name].fails)
        for name, holds in facts.items()
    ]  # fmt: skip
    speaks = sorted((pair for pair in ratios if pair[0] >= SPEAKS), reverse=True)
    against = sorted(pair for pair in ratios if pair[0] <= 1 / SPEAKS)
    return tuple(words for _, words in speaks), tuple(words for _, words in against)


def _next(left: Sequence[Question], beliefs: Mapping[str, float], ranked: Sequence[TroubleKind]) -> Question | None:
    """The question that tells most, by what is believed now; what it looks like always first."""
    asked = [one for one in left if one.asks]
    if asked and asked[0].key == LOOK:
        return asked[0]
    if not asked or (beliefs[ranked[0].key] >= ENOUGH and len(asked) < len(_asking()) - FEW):
        return None
    return max(asked, key=lambda one: tells(one, beliefs))


def _asking() -> list[Question]:
    return [one for one in questions().values() if one.asks]


def tells(question: Question, beliefs: Mapping[str, float]) -> float:
    """How much an answer to a question is expected to tell, in nats: the mutual information of answer and trouble."""
    kinds = troubles()
    told = 0.0
    for answer in question.answers:
        shares = {key: share_of(kinds[key], question.key, answer) for key in beliefs}
        whole = sum(share * beliefs[key] for key, share in shares.items())
        told += sum(beliefs[key] * share * log(share / whole) for key, share in shares.items() if beliefs[key] > 0)
    return told


def _apart(left: Sequence[Question], ranked: Sequence[TroubleKind]) -> Question | None:
    """What would best tell the first two apart; a closer look only where both have a table for it."""
    first, second = ranked[:2]
    found = [
        (sum(abs(share_of(first, one.key, a) - share_of(second, one.key, a)) for a in one.answers) / 2, one)
        for one in left
        if one.key in first.answers and (one.key in second.answers or not one.asks)
    ]
    best = max(found, key=lambda pair: (pair[0], not pair[1].asks), default=None)
    return best[1] if best and best[0] >= TELLS_APART else None
