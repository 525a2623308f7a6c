"""The state of one system: its water, verdicts, due work, and what to do next."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta, tzinfo
from functools import cached_property

from ..estimate.budget import speed_words
from ..estimate.dose_review import Fit, dose_words, review_dose
from ..estimate.forecast import Course, Crossing, crossing, expect
from ..estimate.rate import Rate, rate_of
from ..estimate.supplementation import brought_by_changes
from ..judgement.cycling import BreakingIn, breaking_in
from ..judgement.findings import Judgement, judge_situation
from ..judgement.retest import Retest, retests
from ..judgement.situation import FORESIGHT_DAYS, Situation
from ..ledger.balance import Present, present_water
from ..ledger.entries import Care, Ledger
from ..ledger.plan import DailyDose, Plan
from ..ledger.verdict import Verdict, judge, judge_expected, series
from ..planning.correction import off_course
from ..planning.delivery import Diagnosis, refills
from ..planning.done_change import without_litres
from ..planning.hand_dose import hand_doses
from ..planning.work_order import ChangeWorkOrder
from ..programme.proposed import with_programmes
from ..programme.underway import Underway, is_programme
from ..remedy.case import Case, CaseProgress, ExpectedValue, FollowedCase, standing
from ..remedy.cause import Cause, advised, causes_of
from ..remedy.remedy import Means
from ..science.parameters import FACTS, Parameter
from ..science.units import UnitChoice
from ..system.finding import Finding
from ..system.system import Stage, System
from ..upkeep.care import Upkeep, going_on, on_their_days
from ..upkeep.rota import WATER_CHANGE, Book, Occurrence, Planned, occurrences
from .next_up import DosingState, NextItem, Standing, Summary, next_up, summary, urgent
from .pressing import Pressing
from .upcoming import Ahead

AHEAD_DAYS = 14
MEMORY = timedelta(days=90)
"""Readings older than this no longer count: the parameter is treated as not measured (judgement)."""


@dataclass(frozen=True)
class Waters:
    """A system's water at one moment. daily: the daily doses that continue."""

    system: System
    ledger: Ledger
    now: datetime
    present: Mapping[Parameter, Present]
    daily: Sequence[DailyDose]

    @property
    def water(self) -> dict[Parameter, float]:
        """Present values, canonical."""
        return {parameter: known.value for parameter, known in self.present.items()}

    def rates(self, parameters: Iterable[Parameter] = Parameter) -> dict[Parameter, Rate | None]:
        """The rate of each dissolved parameter that was measured; None where there are too few readings."""
        return {p: rate_of(self.ledger, p, self.now) for p in parameters if p in self.present and FACTS[p].dissolved}

    def net(self, parameters: Iterable[Parameter] = Parameter) -> dict[Parameter, float]:
        """The daily rate of each, with the daily doses that continue, where it really moves."""
        plan = Plan(daily=self.daily)
        known = {p: found for p, found in self.rates(parameters).items() if found}
        dosed = {p: plan.per_day(p) / self.ledger.volume_l for p in known}
        return {p: found.per_day + dosed[p] for p, found in known.items() if found.moves_with(dosed[p])}


@dataclass(frozen=True)
class SystemState(Waters):
    """Everything the screens show of one system at one moment."""

    verdicts: tuple[Verdict, ...]
    tests: tuple[Retest, ...]
    occurrences: tuple[Occurrence, ...]
    plan: Plan
    leaving: Mapping[Parameter, Crossing]
    basis: Basis

    @property
    def judgement(self) -> Judgement:
        """What the rules find, each finding with the remedy that is proposed for it."""
        return self.basis.judgement

    @property
    def causes(self) -> tuple[Cause, ...]:
        """The findings that stand, with what they explain and the remedies for them."""
        return self.basis.causes

    @property
    def cases(self) -> tuple[FollowedCase, ...]:
        """The cases of the system with how they stand, oldest first."""
        return self.basis.cases

    def course_of_case(self, parameter: Parameter) -> tuple[ExpectedValue, ...]:
        """What the case that is followed for a parameter expected when it was chosen; nothing without one."""
        live = self.followed(parameter)
        return live[0].case.chosen.course if live else ()

    def followed(self, parameter: Parameter) -> list[FollowedCase]:
        """The cases that are followed for a parameter, the latest first."""
        return [one for one in reversed(self.cases) if one.standing.live and one.case.parameter == parameter]

    def is_urgent(self, finding: Finding) -> bool:
        """Whether a finding is for today."""
        return urgent(finding)

    @cached_property
    def next(self) -> tuple[NextItem, ...]:
        """What to do now, in order."""
        s, basis = self.basis.situation, self.basis
        return tuple(
            next_up(
                self.system, self.ledger, self.tests, self.causes, self.occurrences, self.now, s.zone, basis.to_mix,
                basis.dosing, basis.cycle, basis.bare, self.cases, basis.pressing,
            )
        )  # fmt: skip

    @cached_property
    def summary(self) -> Summary:
        """The state of the system in a few words; while cycling, its phase."""
        if self.system.stage != Stage.BREAKING_IN:
            fought = [one.standing.words for one in self.cases if is_programme(one.case) and one.standing.live]
            return summary(self.verdicts, self.judgement, self.occurrences, fought, self.basis.pressing)
        return Summary(Standing.WAIT, f"{breaking_in(self.basis.situation).words}. No water change meanwhile.")

    def courses(self, end: datetime) -> Mapping[Parameter, Course]:
        """The forecast of each dissolved parameter under the plan, to a moment or beyond: the one that judgement rests
        on, as far as it reaches."""
        s = self.basis.situation
        if end <= s.now + timedelta(days=FORESIGHT_DAYS):
            return s.courses
        return expect(s.ledger, s.rates, s.plan, s.now, end)

    def with_work(self, work: Sequence[Occurrence]) -> SystemState:
        """The same state with its work on other days."""
        return replace(self, occurrences=tuple(work))


@dataclass(frozen=True)
class Basis:
    """What a state rests on besides the water: the situation, what the rules found, what there is to act with, the
    containers, a new system's cycling, changes without litres, and planned steps that need a batch."""

    situation: Situation
    judged: Judgement
    means: Means
    dosing: DosingState
    cycle: BreakingIn | None
    bare: Sequence[Care]
    to_mix: Sequence[tuple[Planned, ChangeWorkOrder]]
    opened: Sequence[tuple[Case, CaseProgress]] = ()
    pressing: Sequence[Pressing] = ()
    programmes: Sequence[Underway] = ()

    @cached_property
    def cases(self) -> tuple[FollowedCase, ...]:
        """The cases with how they stand by the latest tests; programmes, by their reviews."""
        causes = {one.key: one for one in self.causes}
        today, zone = self.situation.today, self.situation.zone
        reviewed = {one.case.id: one.standing(today, zone) for one in self.programmes}
        return tuple(
            FollowedCase(
                case,
                reviewed.get(case.id) or standing(case, self.situation, progress, causes.get(case.key)),
                _urgent(causes.get(case.key)),
                progress.late_days,
            )
            for case, progress in self.opened
        )

    @cached_property
    def causes(self) -> tuple[Cause, ...]:
        """The causes with their remedies, programmes against what grows first."""
        found = causes_of(self.judged, self.situation, self.means)
        return with_programmes(found, self.situation, self.programmes)

    @cached_property
    def judgement(self) -> Judgement:
        """The judgement with what each cause advises."""
        return advised(self.judged, self.causes)


def _urgent(cause: Cause | None) -> bool:
    return cause is not None and urgent(cause.finding)


def waters(system: System, ledger: Ledger, ahead: Ahead, now: datetime) -> Waters:
    """The water alone, for plans: without judgement or scheduling."""
    return Waters(system, ledger, now, present_water(ledger), ahead.doses_a_day(ledger, now))


def outlook(
    system: System,
    ledger: Ledger,
    upkeep: Upkeep,
    ahead: Ahead,
    now: datetime,
    zone: tzinfo,
    units: UnitChoice,
    until: date | None = None,
    off: Collection[str] = (),
    expired: Mapping[tuple[str, Parameter], date] | None = None,
    left: Collection[int] = (),
) -> SystemState:
    """The state of a system; occurrences reach to `until`, by default two weeks from today. off: rules switched off ·
    expired: expiry dates of expired reagents · left: done water changes whose litres the keeper left out.
    """
    today = now.astimezone(zone).date()
    water = present_water(ledger)
    verdicts = verdicts_of(system, ledger, water, now, zone, units)
    until = until or today + timedelta(days=AHEAD_DAYS)
    changes = replace(upkeep, rules=[rule for rule in upkeep.rules if rule.kind.key == WATER_CHANGE])
    routine = work_of(system, ledger, changes, ahead, now, until, zone)
    plan = ahead.plan(system, ledger, routine, now, zone)
    situation = Situation(system, ledger, now, zone, units, plan, ahead.source, expired or {}, ahead.named)
    judgement = judge_situation(situation, off, ahead.answered)
    found = work_of(system, ledger, upkeep, ahead, now, until, zone, judgement.findings)
    bare = without_litres(ledger, now - MEMORY, zone, left)
    cycle = breaking_in(situation) if system.stage == Stage.BREAKING_IN else None
    wrong = ahead.diagnoses(now, zone)
    means = ahead.means(system, ledger, now, zone, upkeep.rules, routine, ahead.faults(now, zone))
    dosing, to_mix = _dosing(situation, ahead, [fault for _, fault in wrong]), ahead.to_mix(today)
    basis = Basis(
        situation, judgement, means, dosing, cycle, bare, to_mix, ahead.cases, ahead.pressing, ahead.programmes
    )
    tests = retests(situation, judgement.findings)
    return SystemState(
        system, ledger, now, water, plan.daily, tuple(verdicts), tuple(tests), tuple(found), plan,
        _leaving(situation), basis,
    )  # fmt: skip


def work_of(
    system: System,
    ledger: Ledger,
    upkeep: Upkeep,
    ahead: Ahead,
    now: datetime,
    until: date,
    zone: tzinfo,
    findings: Sequence[Finding] = (),
) -> list[Occurrence]:
    """Care tasks, planned steps, refills and daily doses by hand on their days, by day."""
    today = now.astimezone(zone).date()
    stirs = going_on(ledger.sightings, findings, now, zone, upkeep.answered)
    book = Book(upkeep.rules, ledger.care, upkeep.moves, ahead.planned, stirs, upkeep.splits)
    found = occurrences(book, today, until, zone, early=True)
    placed = [item for item in on_their_days(system.id, found, upkeep.keeping, today) if item.day <= until]
    filled = refills(ahead.containers, now, until, zone)
    given = hand_doses(ahead.hand, system, ledger, now, until, zone, bool(ahead.doses))
    return sorted([*given, *filled, *placed], key=lambda item: item.day)


def _dosing(s: Situation, ahead: Ahead, wrong: Sequence[Diagnosis]) -> DosingState:
    """Pumps by their containers, a correction by its tests, and the daily dose by the uptake."""
    dosed = s.plan.per_day(Parameter.ALKALINITY) / s.ledger.volume_l
    unfit = ""
    if dosed:
        changes = ahead.changes(s.system, s.now)
        by_changes = brought_by_changes(changes, Parameter.ALKALINITY, s.system.aim(Parameter.ALKALINITY))
        found = review_dose(s.rates.get(Parameter.ALKALINITY), dosed, by_changes)
        if found.fit in (Fit.SHORT, Fit.OVER):
            unfit = dose_words(found, lambda amount: speed_words(Parameter.ALKALINITY, amount, s.units))
    return DosingState(wrong, off_course(ahead.doses, s.ledger), unfit)


def _leaving(situation: Situation) -> dict[Parameter, Crossing]:
    """Parameters that really move and leave their band under the current plan, and when."""
    found = {}
    for parameter in situation.rates:
        band = situation.band(parameter)
        if band and situation.moves(parameter):
            leaves = crossing(situation.courses[parameter].points, band, situation.now)
            if leaves:
                found[parameter] = leaves
    return found


def verdicts_of(
    system: System, ledger: Ledger, water: Mapping[Parameter, Present], now: datetime, zone: tzinfo, units: UnitChoice
) -> list[Verdict]:
    """The verdict on each parameter, in the order of testing: on its latest reading, or on the value carried forward
    from it."""
    verdicts = []
    for parameter, known in water.items():
        band, pair = system.bands.get(parameter), series(ledger.of(parameter), now)
        if known.measured and pair:
            verdicts.append(judge(*pair, band, units, zone))
        else:
            verdicts.append(judge_expected(known.reading, known.value, band, units, zone))
    return verdicts
