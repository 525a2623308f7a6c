"""Judgement: all rules run on one situation, in order, one cause at a time."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from ..system.catalogue import rule_kinds
from ..system.finding import Finding, RuleKind
from .rules import animals, doubtful_results, ions, laboratory, nutrients, ph, salinity, trends
from .situation import Situation

Rule = Callable[[Situation], Iterator[Finding]]
RULES: Mapping[str, Rule] = {
    rule.__name__: rule
    for rule in (
        animals.ammonia_toxic,
        animals.animals_suffer,
        animals.losses,
        animals.animal_bears,
        animals.nitrite_calm,
        doubtful_results.impossible_jump,
        doubtful_results.too_near_to_tell,
        doubtful_results.other_instrument,
        doubtful_results.instruments_differ,
        doubtful_results.reagent_expired,
        salinity.salinity_sudden,
        salinity.salinity_first,
        salinity.temperature_off,
        salinity.temperature_swings,
        ions.low_alike,
        ions.salt_short,
        ions.magnesium_first,
        ions.crusting,
        ions.alkalinity_alone,
        ions.falling_together,
        ions.ion_low,
        ions.ion_high,
        laboratory.off_natural,
        nutrients.unsure_growth,
        nutrients.eaten,
        nutrients.red_film,
        nutrients.floor,
        nutrients.hidden_growth,
        nutrients.source_water,
        nutrients.nutrients_high,
        nutrients.not_looked,
        ph.ph_low_with_alkalinity,
        ph.room_air,
        ph.air_closed,
        ph.ph_high,
        ph.ph_swings,
        doubtful_results.unrecorded,
        trends.turned,
        trends.leaving,
    )
}


@dataclass(frozen=True)
class Waiting:
    """A finding held back, and the finding that comes first."""

    finding: Finding
    first: Finding


@dataclass(frozen=True)
class Judgement:
    """The findings in the order to act on them, those that wait, and those that another one explains."""

    findings: tuple[Finding, ...]
    waiting: tuple[Waiting, ...]
    explained: tuple[Waiting, ...] = ()

    @property
    def first(self) -> Finding | None:
        """The one thing to do first."""
        return self.findings[0] if self.findings else None


def judge_situation(situation: Situation, off: Collection[str] = (), answered: Collection[str] = ()) -> Judgement:
    """Run every rule that is not switched off (`off`: keys of rules). A finding waits while a rule that its own rule
    waits for has a finding on one of the same parameters, unless something is being done about that already
    (`answered`: keys of rules).

    >>> from salttide.core.judgement.scenario import situation_described
    >>> judge_situation(situation_described([("salinity", 33.0, 1), ("calcium", 385.0, 1)], {1: ["open"]})).first.rule
    'salinity_first'
    """
    standing: list[Finding] = []
    waiting: list[Waiting] = []
    for kind in rule_kinds().values():
        if kind.key in off:
            continue
        for found in RULES[kind.key](situation):
            finding = replace(found, rule=kind.key, move=found.move or kind.move)
            before = [other for other in standing if other.rule not in answered]
            first = next((other for other in before if _waits(kind, finding, other)), None)
            if first:
                waiting.append(Waiting(finding, first))
            else:
                standing.append(finding)
    heads = [(finding, _head(finding, standing)) for finding in standing]
    explained = tuple(Waiting(finding, head) for finding, head in heads if head)
    return Judgement(tuple(finding for finding, head in heads if head is None), tuple(waiting), explained)


def _head(finding: Finding, standing: Sequence[Finding]) -> Finding | None:
    """The finding that explains one: its rule names it, and it is about the same parameter."""
    return next((other for other in standing if _explains(other, finding)), None)


def _explains(other: Finding, finding: Finding) -> bool:
    named = finding.rule in rule_kinds()[other.rule].explains
    return named and bool(finding.about) and finding.about[0] in other.about[:1]


def _waits(kind: RuleKind, finding: Finding, other: Finding) -> bool:
    return other.rule in kind.waits_for and bool(set(finding.about) & set(other.about))
