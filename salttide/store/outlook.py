"""Every system as it stands at one moment: what is stored, and what the core makes of it."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cached_property
from typing import TypeVar

from salttide.core.basics.errors import DamagedError
from salttide.core.ledger.entries import Ledger
from salttide.core.ledger.plan import DailyDose, daily_as_recorded
from salttide.core.overview.state import MEMORY, SystemState, Waters, outlook, waters, work_of
from salttide.core.overview.upcoming import Ahead
from salttide.core.planning.container import Container
from salttide.core.planning.delivery import daily_dose, with_pumps
from salttide.core.planning.done_change import usual_salt
from salttide.core.planning.missed import PlanPart, replanned
from salttide.core.planning.work_order import Work
from salttide.core.science.mix import SaltMix
from salttide.core.system.system import System
from salttide.core.upkeep.care import PLACED_DAYS, Availability, Upkeep, placing_of, rules_of
from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.rota import Occurrence, Planned
from salttide.core.upkeep.scheduling_model import Days, Schedule
from salttide.faults import fault_number

from . import batch as batch_store
from . import change as change_store
from . import container as container_store
from . import gear as gear_store
from . import instrument as instrument_store
from . import judgement as judgement_store
from . import rota as rota_store
from . import shelf
from .database import Database
from .ledger import Ledgers
from .system import all_systems

Told = TypeVar("Told")


@dataclass(frozen=True)
class Broken:
    """A system that cannot be told, and the number of the fault in the log."""

    system: System
    reference: str


class Outlooks:
    """All systems at one moment. broken: those that could not be told so far."""

    broken: dict[int, Broken]

    def __init__(self, database: Database, moment: Callable[[], datetime], ledgers: Ledgers) -> None:
        self.database, self.moment, self.ledgers = database, moment, ledgers
        self.broken = {}

    def each(self, tell: Callable[[System], Told]) -> dict[int, Told]:
        """What `tell` says of every system. One that cannot be told is set aside in `broken`: the others stand."""
        found = {}
        for system in all_systems(self.connection):
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

    @cached_property
    def connection(self) -> sqlite3.Connection:
        """For reading, by the thread that asks first."""
        return self.database.connection

    @cached_property
    def now(self) -> datetime:
        """The moment that everything is told for."""
        return self.moment()

    @property
    def today(self) -> date:
        """The keeper's date."""
        return self.day_of(self.now)

    def day_of(self, at: datetime | str) -> date:
        """The keeper's date of a moment."""
        moment = datetime.fromisoformat(at) if isinstance(at, str) else at
        return moment.astimezone(self.keeper.zone).date()

    @cached_property
    def keeper(self) -> shelf.Keeper:
        """The keeper's settings."""
        return shelf.keeper(self.connection)

    @cached_property
    def usual_salt(self) -> SaltMix | None:
        """The salt that is taken where none is named."""
        return usual_salt(shelf.salts(self.connection), self.keeper.salt_id)

    def outlook(self, system: System, ahead_days: int | None = None) -> SystemState:
        """The outlook of a system, from the readings that still say something."""
        zone = self.keeper.zone
        until = self.today + timedelta(days=ahead_days) if ahead_days else None
        return outlook(
            system,
            self.ledger(system),
            self.upkeep(system),
            self.ahead(system),
            self.now,
            zone,
            self.keeper.units,
            until,
            judgement_store.rules_off(self.connection, system.id),
            instrument_store.expired(self.connection, self.today),
            rota_store.changes_left(self.connection, system.id),
        )

    def rules(self, system: System) -> list[Rule]:
        """The rules of a system's care."""
        choices = rota_store.care_choices(self.connection, system.id)
        own = rota_store.own_tasks(self.connection, system.id)
        home = system.id == min((one.id for one in all_systems(self.connection)), default=system.id)
        parts = gear_store.parts_kept(self.connection, system.id)
        return rules_of(system, choices, own, self.ledger(system).care, home, parts)

    def upkeep(self, system: System) -> Upkeep:
        """What the rota of a system follows from."""
        moves = rota_store.care_moves(self.connection, system.id)
        splits = rota_store.care_splits(self.connection, system.id)
        return Upkeep(self.rules(system), moves, self.keeping(system.id), splits=splits)

    def keeping(self, system_id: int) -> Availability:
        """The keeper's minutes and absences, and where the work is placed so far."""
        week, single, away = self._days_kept
        live, stood = (
            {(each.task, each.due): each.day for each in kept if each.system_id == system_id} for kept in self._placings
        )
        others = rota_store.by_day(each for each in self._placings[0] if each.system_id != system_id)
        return Availability(week, single, away, live, stood, others)

    @cached_property
    def _days_kept(self) -> tuple[Sequence[float], Mapping[date, float], frozenset[date]]:
        connection = self.connection
        return (
            rota_store.week_minutes(connection),
            rota_store.day_minutes(connection),
            rota_store.away_days(connection, self.today),
        )

    @cached_property
    def _placings(self) -> tuple[list[rota_store.Placed], list[rota_store.Placed]]:
        return rota_store.placings(self.connection), rota_store.placings(self.connection, live=False)

    def ahead(self, system: System) -> Ahead:
        """What is ahead of a system: its open steps, its usual salt, and what is dosed daily by pump or by plan."""
        steps = self.open_steps(system.id)
        daily = change_store.daily_plans(self.connection, system.id)
        found = container_store.containers(self.connection, system.id)
        return Ahead(
            steps,
            self.usual_salt,
            self.keeper.additive,
            self._daily(system, found, daily[-1].doses if daily else None),
            batch_store.mixed_for(self.connection) if steps else (),
            found,
        )

    def open_steps(self, system_id: int) -> list[tuple[Planned, Work]]:
        """The open steps of a system's plans, what was missed moved on within the daily limits."""
        parts = [
            PlanPart(one.plan, one.planned, one.work) for one in change_store.open_steps(self.connection, system_id)
        ]
        if not parts:
            return []
        given = change_store.given_of_plans(self.connection, system_id)
        late = {plan: (self.day_of(one.at) - one.planned).days for plan, one in given.items()}
        return replanned(parts, late, self.today)

    def _daily(
        self, system: System, containers: Sequence[Container], planned: tuple[DailyDose, ...] | None
    ) -> tuple[DailyDose, ...] | None:
        """The daily doses that go on: of pumps what they really give, else as planned; None: as recorded."""
        pumped = [dose for one in containers if (dose := daily_dose(one, self.now))]
        if not pumped:
            return planned
        others = daily_as_recorded(self.ledger(system), self.now) if planned is None else planned
        return with_pumps(pumped, others)

    def waters(self, system: System) -> Waters:
        """The water of a system alone: quicker than its outlook."""
        return waters(system, self.ledger(system), self.now)

    def ledger(self, system: System) -> Ledger:
        """The entries of a system that still say what its water is."""
        return self.ledgers.recent(self.connection, system, self.now, MEMORY.days)

    def work(self, system: System, until: date) -> list[Occurrence]:
        """The work of a system until a day, without what its judgement may stir."""
        upkeep, ahead = self.upkeep(system), self.ahead(system)
        return work_of(system, self.ledger(system), upkeep, ahead, self.now, until, self.keeper.zone)

    def placing(self, anew: bool = False, ease: bool = False) -> tuple[dict[int, SystemState], Schedule, Days]:
        """The work of all systems placed together, with the outlook of each; `ease`: take work off overfull days."""
        views = self.each(lambda system: self.outlook(system, PLACED_DAYS))
        keepings = {system_id: self.keeping(system_id) for system_id in views}
        placing, days = placing_of({i: view.occurrences for i, view in views.items()}, keepings, self.today, anew, ease)
        return views, placing, days

    def replan(self, connection: sqlite3.Connection, anew: bool = False) -> tuple[int, int]:
        """Place everything that moves and keep it. Returns how much of it moved, and how much there is."""
        before = {(each.system_id, each.task, each.due): each.day for each in self._placings[0]}
        placed = self.placings_of(self.placing(anew, ease=True)[1])
        rota_store.keep_placings(connection, placed, self.today)
        return sum(before.get((e.system_id, e.task, e.due), e.day) != e.day for e in placed), len(placed)

    def placings_of(self, placing: Schedule) -> list[rota_store.Placed]:
        """A placing as it is stored; what the keeper chose the day of is not. Of a broken system it stays as it was."""
        placed = [
            rota_store.Placed(*ref[:3], day, placing.of(ref).minutes)
            for ref, day in placing.days.items()
            if ref[3] is None
        ]
        return [*placed, *(each for each in self._placings[0] if each.system_id in self.broken)]
