"""What is ahead of a system: planned steps and routine changes, as events that will move the water."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, tzinfo

from .additives import AlkalinitySource
from .job import Job, planned_events, routine_change
from .ledger import Change, Dose, Ledger
from .mix import SaltMix
from .plan import DailyDose, Plan, daily_as_recorded
from .rota import WATER_CHANGE, Occurrence, Planned
from .system import System

WORKING_HOUR = time(18, 0)
"""When work of a day is expected, local time (judgement)."""


@dataclass(frozen=True)
class Ahead:
    """What is ahead: planned steps as the rota sees them, their jobs by day; the usual salt of routine changes,
    what this keeper raises alkalinity with, and the daily doses (None: they go on as they are recorded)."""

    planned: Sequence[Planned] = ()
    jobs: Sequence[tuple[date, Job]] = ()
    salt: SaltMix | None = None
    source: AlkalinitySource = AlkalinitySource.SODA_ASH
    daily: tuple[DailyDose, ...] | None = None

    def plan(
        self, system: System, ledger: Ledger, occurrences: Sequence[Occurrence], now: datetime, zone: tzinfo
    ) -> Plan:
        """The plan as it stands: single events, and the daily doses."""
        daily = daily_as_recorded(ledger, now) if self.daily is None else self.daily
        return Plan(self.events(system, occurrences, now, zone), daily)

    def events(
        self, system: System, occurrences: Sequence[Occurrence], now: datetime, zone: tzinfo
    ) -> list[Change | Dose]:
        """What the plan as it stands will do: the planned steps, and the routine changes after them."""

        def evening(day: date) -> datetime:
            return max(now, datetime.combine(day, WORKING_HOUR, zone))

        steps = [event for day, job in self.jobs for event in planned_events(job, evening(day))]
        if self.salt is None:
            return steps
        routine = [item for item in occurrences if item.task == WATER_CHANGE and item.step_id is None]
        return steps + [routine_change(system, self.salt, evening(item.day)) for item in routine]
