"""What is coming up in a system: planned steps and routine changes, as events that will move the water."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta, tzinfo

from ..estimate.evaporation import evaporation_l
from ..estimate.supplementation import Changes
from ..ledger.entries import Change, Dose, Ledger, Moving
from ..ledger.plan import DailyDose, DailyPlan, Plan, daily_as_recorded
from ..planning.container import Container
from ..planning.correction_work import CORRECTABLE, meant_for
from ..planning.delivery import Diagnosis, diagnosis
from ..planning.work_order import (
    WORKING_HOUR,
    ChangeWorkOrder,
    DoseWorkOrder,
    Work,
    planned_events,
    routine_change,
)
from ..programme.underway import Underway
from ..remedy.case import Case, CaseProgress
from ..remedy.remedy import InstrumentCheck, Means
from ..science.additives import AlkalinitySource
from ..science.mix import SaltMix
from ..science.parameters import Parameter
from ..system.shelf import Additive
from ..system.system import System
from ..upkeep.care import Availability, on_their_days
from ..upkeep.due import Rule
from ..upkeep.rota import WATER_CHANGE, Book, Occurrence, Planned, occurrences
from .pressing import Pressing


@dataclass(frozen=True)
class Ahead:
    """What is coming up: planned steps with their work orders; the usual salt of routine changes, the compound this
    keeper raises alkalinity with, and the daily doses (None: they continue as recorded). mixed: steps with a batch at
    hand · containers: those of the dosing pumps · hand: the daily doses by hand ·
    additives: those on the shelf · preferred: the kind of remedy the keeper chose, by rule · checked: when an
    instrument was last checked, by its name · cases: the latest cases with how far their steps are ·
    pressing: emergencies under way and alarms · programmes: under way and ended."""

    steps: Sequence[tuple[Planned, Work]] = ()
    salt: SaltMix | None = None
    source: AlkalinitySource = AlkalinitySource.SODA_ASH
    daily: tuple[DailyDose, ...] | None = None
    mixed: Collection[int] = ()
    containers: Sequence[Container] = ()
    hand: DailyPlan | None = None
    additives: Sequence[Additive] = ()
    preferred: Mapping[str, str] = field(default_factory=dict)
    checked: Mapping[str, InstrumentCheck] = field(default_factory=dict)
    cases: Sequence[tuple[Case, CaseProgress]] = ()
    pressing: tuple[Pressing, ...] = ()
    programmes: tuple[Underway, ...] = ()

    @property
    def answered(self) -> frozenset[str]:
        """The rules whose findings programmes answer, and which let others be acted on meanwhile."""
        return frozenset(rule for one in self.programmes for rule in one.lets_go_on)

    @property
    def named(self) -> frozenset[str]:
        """The signs of growths that programmes have found out."""
        return frozenset(one.programme.sign for one in self.programmes if one.named)

    def to_mix(self, today: date) -> list[tuple[Planned, ChangeWorkOrder]]:
        """Planned changes of today and tomorrow whose new water has yet to be mixed."""
        soon = today + timedelta(days=1)
        return [
            (step, work)
            for step, work in self.steps
            if isinstance(work, ChangeWorkOrder)
            and work.salt
            and work.litres
            and step.day <= soon
            and step.step_id not in self.mixed
        ]

    def doses_a_day(self, ledger: Ledger, now: datetime) -> tuple[DailyDose, ...]:
        """The daily doses: by pump or plan, else as recently recorded."""
        return daily_as_recorded(ledger, now) if self.daily is None else self.daily

    def changes(self, system: System, now: datetime) -> Changes | None:
        """The routine of changes with the usual salt; None where there is no salt or no routine."""
        routine = system.routine
        if self.salt is None or not routine.fraction or routine.held:
            return None
        incoming = routine_change(system, self.salt, now).incoming
        return Changes(routine.fraction, routine.every_days, incoming)

    def means(
        self, system: System, ledger: Ledger, now: datetime, zone: tzinfo, rules: Sequence[Rule],
        changes: Sequence[Occurrence], faults: Mapping[Parameter, Diagnosis],
    ) -> Means:  # fmt: skip
        """What there is to act with. changes: the water changes to come, by day · faults: of pumps, by what they
        dose."""
        today = now.astimezone(zone).date()
        return Means(
            self.additives,
            self.salt,
            self.changes(system, now),
            rules,
            min((item.day for item in changes if item.task == WATER_CHANGE), default=None),
            evaporation_l(ledger, now),
            self.busy(today),
            self.preferred,
            self.checked,
            faults,
        )

    def diagnoses(self, now: datetime, zone: tzinfo) -> list[tuple[Container, Diagnosis]]:
        """The containers whose pump, tube or level is not as it should be."""
        found = [(one, diagnosis(one, self.containers, now, zone)) for one in self.containers]
        return [(one, fault) for one, fault in found if fault]

    def faults(self, now: datetime, zone: tzinfo) -> dict[Parameter, Diagnosis]:
        """Faulty pumps, by what they dose."""
        wrong = self.diagnoses(now, zone)
        return {p: fault for one, fault in wrong for p in CORRECTABLE if meant_for(one.additive, p)}

    def busy(self, today: date) -> tuple[int, ...]:
        """The days from today on (1: tomorrow) on which a planned change moves the water."""
        days = [(step.day - today).days for step, _ in self.steps if step.is_change]
        return tuple(day for day in days if day >= 1)

    @property
    def doses(self) -> list[DoseWorkOrder]:
        """The planned doses of corrections."""
        return [work for _, work in self.steps if isinstance(work, DoseWorkOrder)]

    @property
    def planned(self) -> list[Planned]:
        """The planned steps, for the rota."""
        return [step for step, _ in self.steps]

    def plan(
        self, system: System, ledger: Ledger, occurrences: Sequence[Occurrence], now: datetime, zone: tzinfo
    ) -> Plan:
        """The current plan: planned steps, routine changes after them, and daily doses."""
        events = self.events(now, zone)
        if self.salt is not None:
            routine = [item for item in occurrences if item.task == WATER_CHANGE and item.step_id is None]
            events += [routine_change(system, self.salt, _evening(item.day, now, zone)) for item in routine]
        return Plan(events, self.doses_a_day(ledger, now))

    def events(self, now: datetime, zone: tzinfo, changes: bool = True) -> list[Moving]:
        """What the planned steps do to the water, with or without the water changes among them."""
        return [
            event
            for step, work in self.steps
            if changes or not step.is_change
            for event in planned_events(work, _evening(step.day, now, zone))
        ]


def _evening(day: date, now: datetime, zone: tzinfo) -> datetime:
    return max(now, datetime.combine(day, WORKING_HOUR, zone))


Ref = tuple[str, date, int | None]
"""Which occurrence is meant: its task, its due day, and its step where it is planned."""


@dataclass(frozen=True)
class Edit:
    """A trial edit of a plan: occurrences moved to another day or left out, and work added on a day."""

    moved: Mapping[Ref, date] = field(default_factory=dict)
    gone: Collection[Ref] = ()
    added: Sequence[tuple[Planned, Change | Dose]] = ()
    daily: tuple[DailyDose, ...] | None = None

    def of(
        self, ahead: Ahead, book: Book, system_id: int, keeping: Availability, today: date, until: date, zone: tzinfo
    ) -> tuple[Ahead, list[Occurrence]]:
        """The edited plan, and the occurrences that follow from it."""
        by_step = {ref[2]: day for ref, day in self.moved.items() if ref[2] is not None}
        out = {ref[2] for ref in self.gone if ref[2] is not None}
        steps = [
            (replace(step, day=by_step.get(step.step_id, step.day)), work)
            for step, work in ahead.steps
            if step.step_id not in out
        ]
        edited = replace(ahead, steps=steps, daily=ahead.daily if self.daily is None else self.daily)
        moved = {**book.moves, **{(task, due): day for (task, due, step), day in self.moved.items() if step is None}}
        planned = [*edited.planned, *(step for step, _ in self.added)]
        found = occurrences(replace(book, moves=moved, planned=planned), today, until, zone, early=True)
        found = [item for item in on_their_days(system_id, found, keeping, today) if item.day <= until]
        return edited, [item for item in found if (item.task, item.due, item.step_id) not in self.gone]
