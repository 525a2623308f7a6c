"""The household: every system at one moment, from what is stored and what the core computes from it."""

from __future__ import annotations

import sqlite3
from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import cached_property
from typing import TypeVar

from salttide.core.basics.errors import DamagedError
from salttide.core.estimate.rate import Rate
from salttide.core.failure.installation import as_recorded
from salttide.core.jot.answer import JotContext
from salttide.core.jot.recording import RecordContext
from salttide.core.ledger.entries import Ledger
from salttide.core.ledger.plan import DailyDose, DailyPlan, daily_as_recorded
from salttide.core.overview.pressing import Pressing, pressing_in
from salttide.core.overview.state import AHEAD_DAYS, MEMORY, SystemState, Waters, outlook, waters, work_of
from salttide.core.overview.upcoming import Ahead
from salttide.core.planning.container import Container
from salttide.core.planning.delivery import daily_dose, with_pumps
from salttide.core.planning.hand_dose import by_hand
from salttide.core.planning.missed_steps import PlanPart, replanned
from salttide.core.planning.work_order import VISUAL_CHECK, VisualCheckOrder, Work
from salttide.core.programme.underway import Underway, is_programme
from salttide.core.programme.wants import Wants, bent
from salttide.core.remedy.case import Case, CaseProgress
from salttide.core.runbook.file import runbook
from salttide.core.runbook.finish import rehearsed
from salttide.core.runbook.steps import Runbook
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System
from salttide.core.upkeep.care import PLACED_DAYS, Availability, Upkeep, moved_to, placing_of, rules_of
from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence, Planned
from salttide.core.upkeep.scheduling_model import Days, Schedule
from salttide.faults import fault_number
from salttide.store import instrument as instrument_store
from salttide.store import rota as rota_store
from salttide.store import shelf
from salttide.store.change import StoredStep
from salttide.store.runbook import Run

from .ledgers import Ledgers, complete, recorded
from .states import States, minute_of
from .stored import Stored
from .underway import underway_in

Told = TypeVar("Told")


@dataclass(frozen=True)
class Broken:
    """A system that cannot be computed, and the number of the fault in the log."""

    system: System
    reference: str


class Household:
    """All systems at one moment. broken: systems found not to be computable so far."""

    broken: dict[int, Broken]

    def __init__(
        self,
        stored: Stored,
        ledgers: Ledgers,
        states: States,
        now: datetime,
        shown: Sequence[rota_store.Placed] | None = None,
    ) -> None:
        self.stored, self.ledgers, self.states, self.now, self.shown = stored, ledgers, states, now, shown
        self.broken = {}
        self._programmes: dict[int, Sequence[Underway]] = {}

    @cached_property
    def stood(self) -> Sequence[rota_store.Placed]:
        """Where work stood that is no longer placed."""
        live, before = self.stored.placings
        here = {(one.system_id, one.task, one.due) for one in self.placed}
        return [one for one in (*before, *live) if (one.system_id, one.task, one.due) not in here]

    @property
    def placed(self) -> Sequence[rota_store.Placed]:
        """Where work stands: as last shown, or else as stored."""
        return self.stored.placings[0] if self.shown is None else self.shown

    def each(self, tell: Callable[[System], Told]) -> dict[int, Told]:
        """What `tell` returns for every system. One that cannot be computed is set aside in `broken`; the others
        stand."""
        found = {}
        for system in self.systems:
            if system.id in self.broken:
                continue
            try:
                found[system.id] = tell(system)
            except (sqlite3.Error, DamagedError):
                raise
            except Exception as error:
                reference = fault_number(error, f"system {system.id}, {system.name}")
                self.broken[system.id] = Broken(system, reference)
        return found

    def system(self, system_id: int) -> System:
        """One system, with the water changes that a programme asks for now. Raises NotFoundError."""
        return self._for_now(self.stored.system(system_id))

    @cached_property
    def systems(self) -> Sequence[System]:
        """The systems in use, with the water changes that programmes ask for now."""
        return [self._for_now(one) for one in self.stored.systems]

    def _for_now(self, system: System) -> System:
        """The system as it is now: with the changes that programmes ask for, and what its record shows of it."""
        system = as_recorded(system, self.ledger(system), self.now, system.id in self.stored.watched)
        asked = [one.routine(system) for one in self.programmes(system) if one.live]
        routine = next((one for one in asked if one), None)
        return replace(system, for_now=routine) if routine else system

    def programmes(self, system: System) -> Sequence[Underway]:
        """The programmes of a system, oldest first, under way and ended."""
        if system.id not in self._programmes:
            cases = [case for case, _ in self.stored.cases[system.id] if is_programme(case)]
            lights = self.stored.lights[system.id] if cases else ()
            found = underway_in(system, cases, self.ledger(system), lights, self.keeper.zone) if cases else []
            self._programmes[system.id] = found
        return self._programmes[system.id]

    @property
    def today(self) -> date:
        """The keeper's date."""
        return self.day_of(self.now)

    def day_of(self, at: datetime | str) -> date:
        """The keeper's date of a moment."""
        moment = datetime.fromisoformat(at) if isinstance(at, str) else at
        return moment.astimezone(self.keeper.zone).date()

    @property
    def keeper(self) -> shelf.Keeper:
        """The keeper's settings."""
        return self.stored.keeper

    @cached_property
    def views(self) -> Mapping[int, SystemState]:
        """The state of each system as far ahead as work is scheduled, before scheduling."""
        return self.each(lambda system: self._assembled(system, self._kept(system.id), PLACED_DAYS))

    @cached_property
    def schedule(self) -> tuple[Schedule, Days]:
        """The schedule of all systems' work, within the keeper's minutes."""
        return self._scheduled(self.views)

    def outlook(self, system: System, ahead_days: int = AHEAD_DAYS) -> SystemState:
        """The state of a system from the readings that still count, with its work as scheduled."""
        if system.id not in self.views or ahead_days > PLACED_DAYS:
            return self._assembled(system, self.keeping(system.id), ahead_days)
        view, until = self.views[system.id], self.today + timedelta(days=ahead_days)
        work = moved_to(system.id, view.occurrences, self.schedule[0].days)
        return view.with_work([item for item in work if item.day <= until])

    def _assembled(self, system: System, keeping: Availability, ahead_days: int) -> SystemState:
        """Everything the state depends on is in `rest`: within a minute the same inputs give the same state."""
        ledger, upkeep, ahead = self.ledger(system), self._upkeep(system, keeping), self.ahead(system)
        off, expired, left = self.stored.rules_off[system.id], self.expired, self.stored.changes_left
        rest = (system, upkeep, ahead, minute_of(self.now), self.keeper, off, expired, left)

        def assemble() -> SystemState:
            zone, units, until = self.keeper.zone, self.keeper.units, self.today + timedelta(days=ahead_days)
            return outlook(system, ledger, upkeep, ahead, self.now, zone, units, until, off, expired, left)

        return self.states.of(system.id, ahead_days, ledger, rest, assemble)

    def rules(self, system: System) -> list[Rule]:
        """The rules of a system's care, as programmes bend them for now."""
        wants = self.wants(system)
        return bent(self._rules(system, [one.ask.task for each in wants for one in each.asked]), system, wants)

    def wants(self, system: System) -> list[Wants]:
        """What the programmes under way ask of a system today."""
        return [one.wants(system, self.today) for one in self.programmes(system) if one.live]

    def own_rules(self, system: System) -> list[Rule]:
        """The rules of a system's care as the keeper has them."""
        return self._rules(system)

    def _rules(self, system: System, asked: Collection[str] = ()) -> list[Rule]:
        choices = self.stored.care_choices[system.id]
        own = self.stored.own_tasks[system.id]
        home = system.id == min((one.id for one in self.stored.systems), default=system.id)
        parts = self.stored.parts_kept[system.id]
        since = self.day_of(system.entered_at) if system.entered_at else None
        return rules_of(system, choices, own, self.ledger(system).care, home, parts, since, asked)

    def upkeep(self, system: System) -> Upkeep:
        """What the rota of a system rests on."""
        return self._upkeep(system, self.keeping(system.id))

    def _upkeep(self, system: System, keeping: Availability) -> Upkeep:
        moves = self.stored.care_moves[system.id]
        splits = self.stored.care_splits[system.id]
        held = self.held(system.id)
        rules = [rule for rule in self.rules(system) if rule.kind.key not in held]
        return Upkeep(rules, moves, keeping, splits, self.answered(system))

    def answered(self, system: System) -> frozenset[str]:
        """The signs and rules that programmes under way answer in a system."""
        return frozenset(key for one in self.programmes(system) for key in one.answers)

    def held(self, system_id: int) -> frozenset[str]:
        """The care tasks that wait until the emergencies under way in a system are over."""
        books = (book.emergency for book in self.emergencies(system_id) if book.emergency)
        return frozenset(task for book in books for task in book.holds)

    def emergencies(self, system_id: int) -> list[Runbook]:
        """The runbooks of the emergencies under way in a system."""
        return [runbook(run.runbook) for run in self.emergency_runs(system_id)]

    def pressing(self, system_id: int) -> tuple[Pressing, ...]:
        """What comes before all other work in a system: emergencies under way, and alarms."""
        alarms = [one for one in self.stored.open_alarms if one.system_id == system_id]
        return pressing_in(self.emergencies(system_id), alarms, self.keeper.units, self.keeper.zone)

    def emergency_runs(self, system_id: int) -> list[Run]:
        """The work on emergencies under way in a system; a drill is none."""
        runs = [(run, runbook(run.runbook)) for run in self.stored.open_runs if run.system_id == system_id]
        return [run for run, book in runs if book.emergency and not rehearsed(book, run.work)]

    def keeping(self, system_id: int) -> Availability:
        """The keeper's availability, with the work as scheduled."""
        days = self.schedule[0].days
        mine = {(task, due): day for (number, task, due, step), day in days.items() if number == system_id and not step}
        return replace(self._kept(system_id), placed=mine)

    def _kept(self, system_id: int) -> Availability:
        """The keeper's availability, with the work where it stood so far."""
        live, stood = (
            {(each.task, each.due): each.day for each in kept if each.system_id == system_id}
            for kept in (self.placed, self.stood)
        )
        others = rota_store.by_day(each for each in self.placed if each.system_id != system_id)
        return Availability(self.stored.week_minutes, self.stored.day_minutes, self._away_days, live, stood, others)

    @cached_property
    def _away_days(self) -> frozenset[date]:
        return rota_store.away_days(self.stored.reading(), self.today)

    @cached_property
    def expired(self) -> dict[tuple[str, Parameter], date]:
        """The day an instrument's reagent expired, where it has, by instrument and parameter."""
        return instrument_store.expired(self.stored.reading(), self.today)

    def ahead(self, system: System) -> Ahead:
        """What is coming up in a system: its open steps, its usual salt, and daily doses by pump or plan."""
        steps = self.open_steps(system.id)
        daily = self.stored.daily_plans[system.id]
        found = self.stored.containers(system.id)
        return Ahead(
            steps,
            self.stored.usual_salt,
            self.keeper.additive,
            self._daily(system, found, daily[-1].doses if daily else None),
            self.stored.mixed_for if steps else (),
            found,
            self.by_hand(system),
            self.stored.additives,
            self.stored.remedies_preferred[system.id],
            self.stored.instruments_checked,
            self.cases(system.id),
            self.pressing(system.id),
            tuple(self.programmes(system)),
        )

    def cases(self, system_id: int) -> list[tuple[Case, CaseProgress]]:
        """The cases of a system, oldest first, with how far their steps are."""
        steps = {one.id: one for one in self.stored.open_steps[system_id]}
        found = [(one, steps[one.step_id]) for one, _ in self.open_steps(system_id) if one.step_id in steps]
        late: dict[str, int] = {}
        for planned, step in found:
            late.setdefault(step.plan, max(0, (planned.day - step.day).days))
        left = Counter(step.plan for _, step in found if not isinstance(step.work, VisualCheckOrder))
        return [
            (case, CaseProgress(done, left[case.plan], late.get(case.plan, 0)))
            for case, done in self.stored.cases[system_id]
        ]

    def by_hand(self, system: System) -> DailyPlan | None:
        """The daily doses that are given by hand; none while an emergency holds water changes back."""
        if WATER_CHANGE in self.held(system.id):
            return None
        plans = self.stored.daily_plans[system.id]
        pumped = [one.additive.name for one in self.stored.containers(system.id) if one.pump]
        return by_hand(plans[-1] if plans else None, pumped)

    def open_steps(self, system_id: int) -> list[tuple[Planned, Work]]:
        """The open steps of a system's plans, missed ones moved on within the daily limits. While an emergency holds
        water changes back, planned doses wait with them: only tests and looks are left."""
        steps = self.stored.open_steps[system_id]
        if WATER_CHANGE in self.held(system_id):
            steps = [one for one in steps if one.kind == VISUAL_CHECK]
        if not steps:
            return []
        purposes = {case.plan: case.step_note for case, _ in self.stored.cases[system_id]}
        parts = [PlanPart(one.plan, _with_purpose(one, purposes.get(one.plan, "")), one.work) for one in steps]
        given = self.stored.given_of_plans
        late = {plan: (self.day_of(one.at) - one.planned).days for plan, one in given.items()}
        return replanned(parts, late, self.today)

    def _daily(
        self, system: System, containers: Sequence[Container], planned: tuple[DailyDose, ...] | None
    ) -> tuple[DailyDose, ...] | None:
        """The daily doses that continue: those of pumps as really delivered, else as planned; None: as recorded."""
        pumped = [dose for one in containers if (dose := daily_dose(one, self.now))]
        if not pumped:
            return planned
        others = daily_as_recorded(self.ledger(system), self.now) if planned is None else planned
        return with_pumps(pumped, others)

    def waters(self, system: System) -> Waters:
        """The water of a system alone, which is quicker than its outlook."""
        return waters(system, self.ledger(system), self.ahead(system), self.now)

    def rates_by_parameter(self, parameters: Collection[Parameter]) -> dict[Parameter, list[Rate]]:
        """The rates of some parameters in every system."""
        found: dict[Parameter, list[Rate]] = {}
        for rates in self.each(lambda system: self.waters(system).rates(parameters)).values():
            for parameter, rate in rates.items():
                if rate:
                    found.setdefault(parameter, []).append(rate)
        return found

    def ledger(self, system: System) -> Ledger:
        """The entries of a system that still count for its water."""
        return self.ledgers.recent(self.stored, system, self.now, MEMORY.days).complete

    def recorded(self, system: System, since: datetime | None = None) -> Ledger:
        """The entries of a system, from a moment on or all; without what its pumps delivered."""
        if since is None:
            return recorded(self.stored, system)
        return self.ledgers.since(self.stored, system, self.now, MEMORY.days, since)

    def history(self, system: System, since: datetime) -> Ledger:
        """The entries of a system and what its pumps delivered, from a moment on."""
        return complete(self.stored, system, recorded(self.stored, system, since), since, self.now)

    def work(self, system: System, until: date) -> list[Occurrence]:
        """The work of a system until a day, without what its judgement may trigger."""
        upkeep, ahead = self.upkeep(system), self.ahead(system)
        return work_of(system, self.ledger(system), upkeep, ahead, self.now, until, self.keeper.zone)

    def _scheduled(
        self, views: Mapping[int, SystemState], from_scratch: bool = False, relieve: bool = False
    ) -> tuple[Schedule, Days]:
        """All work scheduled together. relieve: take work off overfull days · from_scratch: regardless of where it
        stood."""
        keepings = {system_id: self._kept(system_id) for system_id in views}
        works = {system_id: view.occurrences for system_id, view in views.items()}
        return placing_of(works, keepings, self.today, from_scratch, relieve)

    def replan(
        self, connection: sqlite3.Connection, from_scratch: bool = False, relieve: bool = False
    ) -> tuple[int, int]:
        """Schedule what has no day, or may not stand where it stood, and store it; relieve: also what stands on an
        overfull day · from_scratch: everything. Returns how many occurrences moved, and how many there are."""
        before = {(each.system_id, each.task, each.due): each.day for each in self.placed}
        placed = self.placings_of(self._scheduled(self.views, from_scratch, relieve)[0])
        rota_store.save_placings(connection, placed, self.today)
        return sum(before.get((e.system_id, e.task, e.due), e.day) != e.day for e in placed), len(placed)

    def as_shown(self) -> list[rota_store.Placed] | None:
        """The placings its pages have shown; None where none did, or they are stored."""
        if "schedule" not in self.__dict__:
            return None
        placed = self.placings_of(self.schedule[0])
        return None if {*placed} == {*self.placed} else placed

    def placings_of(self, placing: Schedule) -> list[rota_store.Placed]:
        """Placings to store, without those whose day the keeper chose. Those of a broken system stay as they were."""
        placed = [
            rota_store.Placed(*ref[:3], day, placing.of(ref).minutes)
            for ref, day in placing.days.items()
            if ref[3] is None and placing.of(ref).fixed is None
        ]
        return [*placed, *(each for each in self.placed if each.system_id in self.broken)]

    def jot_context(self, system_id: int | None = None) -> JotContext:
        """What a sum is read with; the default salt comes first, `system_id` is the system on the screen. The only
        system there is need not be named."""
        usual, systems = self.stored.usual_salt, self.systems
        return JotContext(
            self.keeper.habits,
            self.keeper.units,
            tuple(systems),
            tuple(sorted(self.stored.salts, key=lambda salt: salt != usual)),
            {system.id: self.waters(system).water for system in systems},
            next((one for one in systems if one.id == system_id), systems[0] if len(systems) == 1 else None),
            self.keeper.additive,
        )

    def record_context(self, system_id: int | None = None) -> RecordContext:
        """What a line that records is read with."""
        jot = self.jot_context(system_id)
        return RecordContext(
            jot,
            self.now,
            self.keeper.zone,
            {system.id: self.ledger(system) for system in jot.systems},
            tuple(self.stored.instruments),
            tuple(self.stored.additives),
            tuple(shelf.foods(self.stored.reading())),
        )


def _with_purpose(step: StoredStep, purpose: str) -> Planned:
    """A step as the rota sees it, with what its case is for; a change says what has to be mixed for it."""
    return replace(step.planned, note=purpose) if purpose and not step.planned.is_change else step.planned
