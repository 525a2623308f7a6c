"""What is stored of the household, each table read once for all systems, on first use."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Mapping, Sequence
from datetime import date, datetime
from functools import cached_property

from salttide.core.alarm.alarm import Alarm
from salttide.core.basics.errors import NotFoundError
from salttide.core.ledger.bench_row import Instrument
from salttide.core.ledger.plan import DailyPlan
from salttide.core.planning.container import Container
from salttide.core.planning.done_change import usual_salt
from salttide.core.remedy.case import Case
from salttide.core.remedy.remedy import InstrumentCheck
from salttide.core.science.mix import SaltMix
from salttide.core.system.light import Light
from salttide.core.system.shelf import Additive
from salttide.core.system.system import System
from salttide.core.upkeep.care import CareChoice
from salttide.core.upkeep.gear import PartKept
from salttide.core.upkeep.rota import Split
from salttide.core.upkeep.task import TaskKind
from salttide.store import alarm as alarm_store
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import container as container_store
from salttide.store import gear as gear_store
from salttide.store import instrument as instrument_store
from salttide.store import judgement as judgement_store
from salttide.store import ledger as ledger_store
from salttide.store import light as light_store
from salttide.store import remedy as remedy_store
from salttide.store import rota as rota_store
from salttide.store import runbook as run_store
from salttide.store import shelf
from salttide.store import system as system_store
from salttide.store.alarm import Watched


class Stored:
    """The stored household at one version of the database. reading: this thread's connection."""

    def __init__(self, reading: Callable[[], sqlite3.Connection]) -> None:
        self.reading = reading

    @cached_property
    def keeper(self) -> shelf.Keeper:
        """The keeper's settings."""
        return shelf.keeper(self.reading())

    @cached_property
    def open_alarms(self) -> Sequence[Alarm]:
        """The alarms that are not over, latest first."""
        return alarm_store.open_alarms(self.reading())

    @cached_property
    def watched(self) -> Mapping[int, Sequence[Watched]]:
        """What is watched of each system, with each sensor that was heard of it."""
        return alarm_store.watched(self.reading())

    @cached_property
    def every_system(self) -> Mapping[int, System]:
        """All systems by number, archived ones too, in the order in which they were set up."""
        return {one.id: one for one in system_store.all_systems(self.reading(), archived=True)}

    @cached_property
    def systems(self) -> Sequence[System]:
        """The systems in use."""
        return [one for one in self.every_system.values() if not one.archived]

    def system(self, system_id: int) -> System:
        """One system as it was set up. Raises NotFoundError."""
        if system_id not in self.every_system:
            raise NotFoundError(f"there is no system {system_id}")
        return self.every_system[system_id]

    @cached_property
    def earlier_volumes(self) -> Mapping[int, tuple[tuple[datetime, float], ...]]:
        """Earlier volumes and until when each applied, by system."""
        return system_store.earlier_volumes(self.reading())

    @cached_property
    def salts(self) -> Sequence[SaltMix]:
        """The salts on the shelf as plans take them."""
        return shelf.salts(self.reading())

    @cached_property
    def open_runs(self) -> Sequence[run_store.Run]:
        """Work at the tank that was started and not ended."""
        return run_store.open_runs(self.reading())

    @cached_property
    def usual_salt(self) -> SaltMix | None:
        """The salt used where none is named."""
        return usual_salt(self.salts, self.keeper.salt_id)

    @cached_property
    def additives(self) -> Sequence[Additive]:
        """The additives on the shelf."""
        return shelf.additives(self.reading())

    @cached_property
    def instruments(self) -> Sequence[Instrument]:
        """The instruments on the shelf."""
        return instrument_store.instruments(self.reading())

    @cached_property
    def every_container(self) -> Mapping[int, Sequence[container_store.StoredContainer]]:
        """All containers by system, archived ones too."""
        return container_store.all_containers(self.reading())

    def containers(self, system_id: int) -> list[Container]:
        """The containers in use of a system."""
        return [one.container for one in self.every_container[system_id] if one.away_at is None]

    @cached_property
    def daily_plans(self) -> Mapping[int, Sequence[DailyPlan]]:
        """Planned daily doses, by system."""
        return change_store.daily_plans(self.reading())

    @cached_property
    def open_steps(self) -> Mapping[int, Sequence[change_store.StoredStep]]:
        """The open steps of plans, by system."""
        return change_store.open_steps(self.reading())

    @cached_property
    def given_of_plans(self) -> Mapping[str, change_store.GivenStep]:
        """The last done step of each plan with open steps."""
        return change_store.given_of_plans(self.reading())

    @cached_property
    def mixed_for(self) -> frozenset[int]:
        """The planned steps a batch at hand was mixed for."""
        return batch_store.mixed_for(self.reading())

    @cached_property
    def care_choices(self) -> Mapping[int, Mapping[str, CareChoice]]:
        """The keeper's choices for tasks, by system."""
        return rota_store.care_choices(self.reading())

    @cached_property
    def own_tasks(self) -> Mapping[int, Sequence[TaskKind]]:
        """The keeper's own tasks, by system."""
        return rota_store.own_tasks(self.reading())

    @cached_property
    def care_moves(self) -> Mapping[int, Mapping[tuple[str, date], date]]:
        """Where the keeper moved work to, by system."""
        return rota_store.care_moves(self.reading())

    @cached_property
    def care_splits(self) -> Mapping[int, Mapping[tuple[str, date], Split]]:
        """Work that was split over two days, by system."""
        return rota_store.care_splits(self.reading())

    @cached_property
    def parts_kept(self) -> Mapping[int, Mapping[str, PartKept]]:
        """The keeper's data on parts of gear, by system."""
        return gear_store.parts_kept(self.reading())

    @cached_property
    def changes_left(self) -> frozenset[int]:
        """Done changes without litres that the keeper left as they are."""
        return rota_store.changes_left(self.reading())

    @cached_property
    def rules_off(self) -> Mapping[int, frozenset[str]]:
        """The rules switched off, by system."""
        return judgement_store.rules_off(self.reading())

    @cached_property
    def cases(self) -> Mapping[int, Sequence[tuple[Case, int]]]:
        """All cases by system, oldest first, with how many of their steps were done."""
        return remedy_store.cases(self.reading())

    @cached_property
    def lights(self) -> Mapping[int, Sequence[Light]]:
        """The settings of the lamps by system, oldest first."""
        return light_store.all_lights(self.reading())

    @cached_property
    def remedies_preferred(self) -> Mapping[int, Mapping[str, str]]:
        """The kind of remedy that is preferred for a rule, by system."""
        return remedy_store.preferred(self.reading())

    @cached_property
    def instruments_checked(self) -> Mapping[str, InstrumentCheck]:
        """The last check of each instrument against a standard."""
        return instrument_store.last_checks(self.reading())

    @cached_property
    def placings(self) -> tuple[list[rota_store.Placed], list[rota_store.Placed]]:
        """The placings of all work, and earlier ones before something was done, skipped or moved."""
        return rota_store.placings(self.reading())

    @cached_property
    def week_minutes(self) -> Sequence[float]:
        """Minutes by weekday."""
        return rota_store.week_minutes(self.reading())

    @cached_property
    def day_minutes(self) -> Mapping[date, float]:
        """Single days with minutes of their own."""
        return rota_store.day_minutes(self.reading())

    @cached_property
    def entries_until(self) -> Mapping[int, tuple[object, ...]]:
        """A stamp of each system's entries that changes whenever one is added or undone."""
        return ledger_store.stamps(self.reading())
