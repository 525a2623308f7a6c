"""Steps of planned changes: put on the rota, moved, withdrawn, done."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime

from salttide.core.basics.errors import ConflictError, DataError, NotFoundError
from salttide.core.ledger.plan import DailyDose, DailyPlan
from salttide.core.planning.work_order import (
    ChangeWorkOrder,
    DoseWorkOrder,
    PlannedWork,
    VisualCheckOrder,
    WaterWorkOrder,
    Work,
    job_words,
)
from salttide.core.science.parameters import Parameter
from salttide.core.upkeep.rota import WATER_CHANGE, Planned

from .by_system import BySystem
from .database import to_moment
from .work import work_of, work_text


@dataclass(frozen=True)
class StoredStep:
    """A step on the rota with its frozen work order."""

    id: int
    system_id: int
    plan: str
    day: date
    kind: str
    name: str
    minutes: float
    work: Work
    withdrawn: bool
    done_command: str | None

    @property
    def job(self) -> ChangeWorkOrder:
        """The work order of a planned change. Raises ConflictError for a dose or a visual check, which need no
        runbook."""
        if not isinstance(self.work, ChangeWorkOrder):
            raise ConflictError("a planned dose or look has no runbook: it is ticked off")
        return self.work

    @property
    def planned(self) -> Planned:
        """The step as the rota sees it."""
        task = WATER_CHANGE if self.kind == "change" else self.kind
        return Planned(self.id, self.day, self.name, self.minutes, task, self.work.siphon, job_words(self.work))


def add_work(connection: sqlite3.Connection, system_id: int, plan: str, work: Iterable[PlannedWork]) -> list[int]:
    """Put the work of a plan on the rota. Returns the numbers of its steps."""
    sql = "INSERT INTO plan_step (system_id, plan, day, kind, name, minutes, job) VALUES (?, ?, ?, ?, ?, ?, ?)"
    return [
        connection.execute(
            sql, (system_id, plan, one.day.isoformat(), one.kind, one.name, one.minutes, work_text(one.order))
        ).lastrowid
        or 0
        for one in work
    ]


_GOING_ON = (
    "SELECT plan FROM remedy_case WHERE void = 0 AND coalesce((SELECT kind FROM case_turn"
    " WHERE case_id = remedy_case.id AND void = 0 AND kind <> 'handed' ORDER BY id DESC LIMIT 1), 'resumed')"
    " = 'resumed'"
)
"""Plans of cases that are worked on: no turn yet, or resumed."""


def open_steps(connection: sqlite3.Connection) -> BySystem[list[StoredStep]]:
    """Steps that are neither done nor withdrawn, by system, in the order of their days; without those whose cases are
    all paused or closed."""
    return BySystem(
        connection.execute(
            "SELECT * FROM plan_step WHERE withdrawn_by IS NULL AND done_command IS NULL"
            f" AND (plan NOT IN (SELECT plan FROM remedy_case WHERE void = 0) OR plan IN ({_GOING_ON}))"
            " ORDER BY day, id"
        ),
        lambda rows: [_step(row) for row in rows],
    )


def steps_of_plan(connection: sqlite3.Connection, plan: str) -> list[StoredStep]:
    """The steps of one plan that were not withdrawn, done or not."""
    rows = connection.execute(
        "SELECT * FROM plan_step WHERE plan = ? AND withdrawn_by IS NULL ORDER BY day, id", (plan,)
    )
    return [_step(row) for row in rows]


@dataclass(frozen=True)
class GivenStep:
    """The last dose or change of a plan that was done: the day it was planned for, and the moment it was done."""

    planned: date
    at: datetime


def given_of_plans(connection: sqlite3.Connection) -> dict[str, GivenStep]:
    """The last done step of each plan that still has open steps."""
    rows = connection.execute(
        "SELECT done.plan, done.day, max(entry.at) AS at FROM plan_step AS done"
        " JOIN entry ON entry.command = done.done_command AND entry.system_id = done.system_id"
        " AND entry.kind IN ('dose', 'change')"
        " WHERE done.withdrawn_by IS NULL AND done.plan IN (SELECT plan FROM plan_step"
        " WHERE withdrawn_by IS NULL AND done_command IS NULL)"
        " GROUP BY done.id ORDER BY at"
    )
    return {row["plan"]: GivenStep(date.fromisoformat(row["day"]), to_moment(row["at"])) for row in rows}


def step(connection: sqlite3.Connection, step_id: int) -> StoredStep:
    """One step. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM plan_step WHERE id = ?", (step_id,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no planned step {step_id}")
    return _step(row)


def open_step(connection: sqlite3.Connection, step_id: int) -> StoredStep:
    """A step that can still be done. Raises ConflictError where it is done or withdrawn."""
    found = step(connection, step_id)
    if found.done_command:
        raise ConflictError("this step is done already")
    if found.withdrawn:
        raise ConflictError("this step was removed from the rota")
    return found


def _step(row: sqlite3.Row) -> StoredStep:
    return StoredStep(
        row["id"], row["system_id"], row["plan"], date.fromisoformat(row["day"]), row["kind"], row["name"],
        row["minutes"], _work(row["job"]), row["withdrawn_by"] is not None, row["done_command"],
    )  # fmt: skip


def _work(text: str) -> Work:
    work = work_of(text)
    if not isinstance(work, ChangeWorkOrder | DoseWorkOrder | WaterWorkOrder | VisualCheckOrder):
        raise DataError("a planned step holds other work")
    return work


def move_step(connection: sqlite3.Connection, step_id: int, day: date) -> None:
    """Move a step to another day."""
    connection.execute("UPDATE plan_step SET day = ? WHERE id = ?", (day.isoformat(), step_id))


def withdraw_open(connection: sqlite3.Connection, system_id: int, by: str) -> int:
    """Withdraw every open change and dose of a system, for the plan of command `by`. Returns how many."""
    cursor = connection.execute(
        "UPDATE plan_step SET withdrawn_by = ? WHERE system_id = ? AND withdrawn_by IS NULL AND done_command IS NULL"
        " AND kind <> 'look'",
        (by, system_id),
    )
    return cursor.rowcount


def withdraw_doses(connection: sqlite3.Connection, system_id: int, by: str) -> None:
    """Withdraw the open doses of corrections with the tests that check them, for those of command `by`."""
    connection.execute(
        "UPDATE plan_step SET withdrawn_by = ? WHERE system_id = ? AND withdrawn_by IS NULL AND done_command IS NULL"
        " AND plan IN (SELECT plan FROM plan_step WHERE kind = 'dose'"
        " AND coalesce(json_extract(job, '$.work.made_at'), json_extract(job, '$.made_at')) > '')"
        " AND kind IN ('dose', 'look')",
        (by, system_id),
    )


def last_planned(connection: sqlite3.Connection, system_id: int, limit: int) -> list[sqlite3.Row]:
    """The latest open plans of a system: day and name of their first step, without the work order."""
    return connection.execute(
        "SELECT plan, min(day) AS day, name FROM plan_step WHERE system_id = ? AND withdrawn_by IS NULL"
        " AND done_command IS NULL GROUP BY plan ORDER BY max(id) DESC LIMIT ?",
        (system_id, limit),
    ).fetchall()


def undo_plan(connection: sqlite3.Connection, plan: str, by: str) -> int:
    """Withdraw the open steps of one plan, and restore those it had replaced. Returns how many changed."""
    back = restore_replaced(connection, plan)
    gone = connection.execute(
        "UPDATE plan_step SET withdrawn_by = ? WHERE plan = ? AND withdrawn_by IS NULL AND done_command IS NULL",
        (by, plan),
    )
    return gone.rowcount or back


def withdraw_step(connection: sqlite3.Connection, step_id: int, by: str) -> None:
    """Withdraw one open step."""
    connection.execute("UPDATE plan_step SET withdrawn_by = ? WHERE id = ?", (by, step_id))


def restore_replaced(connection: sqlite3.Connection, by: str) -> int:
    """Restore the open steps withdrawn by command `by`. Returns how many."""
    return connection.execute("UPDATE plan_step SET withdrawn_by = NULL WHERE withdrawn_by = ?", (by,)).rowcount


def set_daily(connection: sqlite3.Connection, system_id: int, since: date, doses: Sequence[DailyDose], by: str) -> None:
    """Plan the daily doses from a day on; none where `doses` is empty."""
    connection.execute(
        "INSERT INTO daily_plan (system_id, since, doses, command) VALUES (?, ?, ?, ?)",
        (system_id, since.isoformat(), json.dumps([asdict(dose) for dose in doses]), by),
    )


def daily_plans(connection: sqlite3.Connection) -> BySystem[list[DailyPlan]]:
    """Planned daily doses by system, oldest first; the last is in force."""
    return BySystem(
        connection.execute("SELECT system_id, since, doses FROM daily_plan WHERE void = 0 ORDER BY id"),
        lambda rows: [DailyPlan(date.fromisoformat(row["since"]), _daily(row["doses"])) for row in rows],
    )


def _daily(text: str) -> tuple[DailyDose, ...]:
    return tuple(
        DailyDose(**{**one, "amounts": {Parameter(key): value for key, value in one["amounts"].items()}})
        for one in json.loads(text)
    )


def finish_step(connection: sqlite3.Connection, step_id: int, command: str) -> None:
    """Mark a step as done by the command that recorded it."""
    connection.execute("UPDATE plan_step SET done_command = ? WHERE id = ?", (command, step_id))
