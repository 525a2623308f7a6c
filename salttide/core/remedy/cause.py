"""Causes: each finding that stands, with the findings it explains and the remedies for it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from ..basics.phrasing import day_words, listed
from ..estimate.dose_review import Fit
from ..judgement.findings import Judgement, Waiting
from ..judgement.rules.ions import crust_likely
from ..judgement.situation import Situation
from ..planning.daily_fit import fitting_daily
from ..planning.work_order import ChangeWorkOrder
from ..science.parameters import Parameter, spoken
from ..system.catalogue import rule_kinds
from ..system.finding import Advice, Certainty, Finding
from .air import after_alkalinity, calming_ph, lowering_ph, raising_ph
from .ammonia import lowering_ammonia
from .ions import RE_TEST_DAYS, at_the_edge, holding, raising, supply
from .nutrients import lowering
from .remedy import Means, Remedy, RemedyKind
from .salinity import moving_salinity
from .temperature import moving_temperature


@dataclass(frozen=True)
class Cause:
    """A finding that stands, what it explains, and the remedies for it, best first."""

    finding: Finding
    explained: tuple[Finding, ...]
    remedies: tuple[Remedy, ...]

    @property
    def key(self) -> str:
        """Its name: the rule, and the parameter it is about where there is one."""
        return cause_key(self.finding)

    @property
    def parameter(self) -> Parameter | None:
        """The parameter it is about first."""
        return self.finding.about[0] if self.finding.about else None

    @property
    def first(self) -> Remedy | None:
        """The remedy that is proposed; None where nothing has to be done."""
        return next((one for one in self.remedies if one.fits), None)


def cause_key(finding: Finding) -> str:
    """The name of a finding's cause.

    >>> cause_key(Finding("", "", "", "", (), Certainty.LIKELY, (Parameter.CALCIUM,), rule="ion_low"))
    'ion_low.calcium'
    """
    return f"{finding.rule}.{finding.about[0].value}" if finding.about else finding.rule


def causes_of(judgement: Judgement, s: Situation, means: Means) -> tuple[Cause, ...]:
    """Every finding that is not explained by another, in the order of the judgement, with its remedies; the finding
    itself advises the first of them."""
    found = []
    for finding in judgement.findings:
        remedies = _preferred(remedies_for(finding, s, means), means.preferred.get(finding.rule, ""))
        explained = tuple(w.finding for w in judgement.explained if w.first == finding)
        found.append(Cause(_advised(finding, remedies), explained, remedies))
    return tuple(found)


def headed(cause: Cause, remedies: tuple[Remedy, ...]) -> Cause:
    """A cause with other remedies; its finding advises the first of them."""
    return replace(cause, finding=_advised(cause.finding, remedies), remedies=remedies)


def advised(judgement: Judgement, causes: Sequence[Cause]) -> Judgement:
    """The judgement with what each cause advises."""
    findings = {cause_key(one.finding): one.finding for one in causes}

    def waits(one: Waiting) -> Waiting:
        return replace(one, first=findings.get(cause_key(one.first), one.first))

    return replace(
        judgement,
        findings=tuple(one.finding for one in causes),
        waiting=tuple(waits(one) for one in judgement.waiting),
        explained=tuple(waits(one) for one in judgement.explained),
    )


def _preferred(remedies: Sequence[Remedy], kind: str) -> tuple[Remedy, ...]:
    """The kind of remedy that the keeper chose before comes first, where it is enough."""
    return tuple(sorted(remedies, key=lambda one: (not one.fits, one.kind != kind)))


def _advised(finding: Finding, remedies: Sequence[Remedy]) -> Finding:
    first = next((one for one in remedies if one.fits), None)
    if first is None or first.key == PLAIN:
        return finding
    return replace(finding, advice=f"{first.title}. {first.how}".rstrip(), to_do=first.title)


PLAIN = "plain"
"""The remedy that is a finding's own advice."""


def remedies_for(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    """The remedies for a finding, by its rule; where there is none of its own, what the finding itself advises."""
    ways = _WAYS.get(finding.rule)
    found = ways(finding, s, means) if ways else []
    if not s.animals_inside:
        # No water is changed while a system cycles.
        found = [one for one in found if one.kind != RemedyKind.CHANGE]
    return [_unless_held(one, s) for one in found] or [_plain(finding)]


def _unless_held(remedy: Remedy, s: Situation) -> Remedy:
    """No water is changed for nutrients' sake while routine changes are held back."""
    routine = s.system.routine
    changes = any(isinstance(one.order, ChangeWorkOrder) for one in remedy.work) or remedy.kind == RemedyKind.CHANGE
    if not routine.held or not changes or remedy.parameter not in (Parameter.NITRATE, Parameter.PHOSPHATE):
        return remedy
    return replace(remedy, fits=False, why=routine.because, work=(), supplies=())


def _plain(finding: Finding) -> Remedy:
    kind = RemedyKind.WAIT if finding.step == Advice.LEAVE else RemedyKind.ACT
    parameter = finding.about[0] if finding.about else None
    return Remedy(PLAIN, kind, finding.to_do or finding.words, finding.advice, "", True, parameter)


def _salinity(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    return moving_salinity(s, means)


def _low(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    return raising(s, means, finding.about[0])


def _floor(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    """A nutrient under its floor: raised gently, once somebody has looked that nothing eats it."""
    ways = [way for parameter in finding.about for way in raising(s, means, parameter)]
    if s.look is not None:
        return sorted(ways, key=lambda one: not one.fits)
    why = "Look for growth first: where algae grows, nothing is missing, and a dose would feed it."
    return [_plain(finding), *(replace(way, fits=False, why=why, work=(), daily=None) for way in ways)]


def _too_rich(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    """Nutrients over their band: the smallest step for each of them."""
    ways = [way for parameter in finding.about for way in lowering(s, means, parameter, finding.advice)]
    return sorted(ways, key=lambda one: not one.fits)


def _leaving(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    """On its way out of its band: the daily dose where one is given or needed, less food where a nutrient rises, and
    salinity once it is near its edge; else the finding's own advice."""
    parameter = finding.about[0]
    if finding.step == Advice.DOSE:
        return _held(finding, s, means)
    if parameter in (Parameter.NITRATE, Parameter.PHOSPHATE) and s.net(parameter) > 0:
        food = [one for one in lowering(s, means, parameter, "") if one.kind == RemedyKind.FOOD and one.fits]
        return [*food, replace(_plain(finding), fits=not food, why="" if not food else "It keeps rising meanwhile.")]
    if parameter == Parameter.SALINITY and finding.rule == "leaving" and at_the_edge(s, parameter, 1.0):
        return moving_salinity(s, means)
    return []


def _growth(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    """Used up by growth: the daily dose; a crust or a doubtful test has its own advice."""
    doubtful = finding.certainty == Certainty.POSSIBLE or crust_likely(s)
    return [] if doubtful else _held(finding, s, means)


def _held(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    parameter = finding.about[0]
    ways = holding(s, means, parameter)
    test = s.now.astimezone(s.zone).date() + timedelta(days=RE_TEST_DAYS)
    wait = Remedy(
        "wait", RemedyKind.WAIT, f"Leave it, and test {spoken(parameter)} again on {day_words(test)}", "",
        "It keeps falling meanwhile." if ways else "It is in its band: another test says more than a guess.",
        not ways, parameter,
    )  # fmt: skip
    return [*ways, wait]


def _high(finding: Finding, s: Situation, means: Means) -> list[Remedy]:
    """Over its band: no dose lowers it, so less is given until it is used up."""
    parameter = finding.about[0]
    goal, value, name = s.system.aim(parameter), s.value(parameter), spoken(parameter)
    raising_it = [dose for dose in s.plan.daily if dose.amounts.get(parameter, 0.0) > 0]
    if goal is None or value is None or not raising_it:
        return []
    rate = s.rates.get(parameter)
    days = (value - goal) / -rate.per_day if rate and rate.per_day < 0 else None
    names = listed([dose.additive for dose in raising_it])
    back = f": about {max(1, round(days))} days at what is used now" if days and days < 60 else ""
    fit = fitting_daily(supply(s, means), parameter, None)
    over = supply(s, means).review(parameter).fit == Fit.OVER
    resume = fit.words if fit else f"the dose as it is now, {names}"
    stop = Remedy(
        "stop", RemedyKind.DAILY, f"Stop {names} until {name} tests {s.show(parameter, goal)}{back}",
        f"Test {name} twice a week. Then go on with {resume}.",
        "More is given than is used, and no dose lowers it." if over else "Only use and water changes lower it.",
        True, parameter, goal, daily=tuple(dose for dose in s.plan.daily if dose not in raising_it),
        risk="Start again when it is there, or it falls out of its band.",
    )  # fmt: skip
    return [stop]


_WAYS: Mapping[str, Callable[[Finding, Situation, Means], list[Remedy]]] = {
    "salinity_first": _salinity,
    "ion_low": _low,
    "magnesium_first": _low,
    "salt_short": _low,
    "floor": _floor,
    "ion_high": _high,
    "leaving": _leaving,
    "turned": _leaving,
    "alkalinity_alone": _growth,
    "falling_together": _growth,
    "nutrients_high": _too_rich,
    "ammonia_toxic": lambda _, s, means: lowering_ammonia(s),
    "temperature_off": lambda _, s, means: moving_temperature(s),
    "room_air": lambda _, s, means: raising_ph(s, means),
    "air_closed": lambda _, s, means: raising_ph(s, means),
    "ph_low_with_alkalinity": lambda _, s, means: after_alkalinity(s),
    "ph_high": lambda _, s, means: lowering_ph(s),
    "ph_swings": lambda _, s, means: calming_ph(s),
}
assert {*_WAYS} <= {*rule_kinds()}
