"""Acts: what was done, recorded in one way from whichever door it comes, with everything that follows from it."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date, datetime, time, timedelta

from salttide.core.basics.phrasing import listed
from salttide.core.basics.refused import refused
from salttide.core.jot.past import read_past
from salttide.core.jot.recording import OLDEST
from salttide.core.ledger.entries import Care, Dose, Entry
from salttide.core.planning.closing import occurrence_done, step_done
from salttide.core.planning.hand_dose import as_daily
from salttide.core.programme.wants import LIGHT_HOURS
from salttide.core.system.observations import found_kinds
from salttide.core.system.system import System
from salttide.core.upkeep.due import Rule, minutes_of
from salttide.core.upkeep.rota import WATER_CHANGE, Occurrence, Piece
from salttide.core.upkeep.task import part_of, tasks
from salttide.store import change as change_store
from salttide.store import ledger as ledger_store
from salttide.store import rota as rota_store

from .household import Household
from .light import set_light

NOON = time(12)
OPEN_DAYS = 60
"""An occurrence is looked for that many days ahead."""


def when_done(household: Household, text: str, field: str = "when", oldest: timedelta = OLDEST) -> datetime:
    """The moment that something was done, as typed in plain words; empty: now. Raises InputError at `field`, also for
    what is longer ago than `oldest`."""
    if not text.strip():
        return household.now
    return read_past(text, household.now, household.keeper.zone, household.keeper.habits, field, oldest)


def record_last(
    household: Household,
    connection: sqlite3.Connection,
    system_id: int,
    last: Iterable[tuple[str, float, date]],
    key: str,
) -> None:
    """Record when tasks were last done, as remembered: tasks with their usual minutes, and the day. The litres of a
    water change are not asked for: it only says when the next one is due."""
    done = [Care(_noon(household, day), task, minutes) for task, minutes, day in last]
    ids = ledger_store.record(connection, system_id, done, key, household.now)
    changes = [entry for entry, care in zip(ids, done, strict=True) if care.task == WATER_CHANGE]
    rota_store.leave_changes(connection, changes, key)


def _noon(household: Household, day: date) -> datetime:
    """Noon of a day, or now where that is still to come."""
    return min(datetime.combine(day, NOON, household.keeper.zone), household.now)


def record(
    household: Household,
    connection: sqlite3.Connection,
    system_id: int,
    entries: Sequence[Entry],
    key: str,
    item: Occurrence | None = None,
) -> list[int]:
    """Record what was done to a system: its entries, the occurrence of the rota that it was, and the planned steps it
    carries out. item: the occurrence, where the door says which. Returns the numbers of the entries."""
    system = household.system(system_id)
    for entry in entries:
        _complete(entry)
        _set_lamps(household, connection, system, entry, key)
    if item is not None:
        entries = [_as_piece(entry, item) if isinstance(entry, Care) else entry for entry in entries]
        _settle(connection, system_id, item, key)
        return ledger_store.record(connection, system_id, entries, key, household.now)
    entries = [_recorded(household, connection, system, entry, key) for entry in entries]
    return ledger_store.record(connection, system_id, entries, key, household.now)


def _complete(entry: Entry) -> None:
    """Refuse a task that says nothing without what is found. Raises InputError at its field."""
    if not isinstance(entry, Care) or entry.skipped or entry.task not in tasks():
        return
    for name in tasks()[entry.task].needs:
        if name not in entry.found:
            asked = found_kinds()[name]
            raise refused(
                "rota.say_what_was_found", f"found.{name}", takes=listed(asked.choices), name=asked.name.lower()
            )


def _set_lamps(
    household: Household, connection: sqlite3.Connection, system: System, entry: Entry, key: str
) -> None:  # fmt: skip
    """Setting the lamps as a programme asks is the lamps' setting from that day on."""
    if not isinstance(entry, Care) or entry.task != LIGHT_HOURS or entry.skipped:
        return
    wanted = next((one.light for one in household.wants(system) if one.light), None)
    if wanted is not None:
        set_light(household, connection, system.id, replace(wanted, since=household.day_of(entry.at)), key)


def _recorded(household: Household, connection: sqlite3.Connection, system: System, entry: Entry, key: str) -> Entry:
    """An entry with what the rota knows of it; the occurrence or the step that it was is closed."""
    day = household.day_of(entry.at)
    steps = change_store.open_steps(connection)[system.id]
    step = step_done(entry, day, [(one.planned, one.work) for one in steps])
    if step:
        change_store.finish_step(connection, step.step_id, key)
    elif isinstance(entry, Dose) and not entry.routine:
        daily = as_daily(household.by_hand(system), household.ledger(system), entry, household.keeper.zone)
        twice = daily and ledger_store.daily_given(connection, system.id, key, entry.additive)
        return replace(entry, routine=daily and not twice)
    if not isinstance(entry, Care):
        return entry
    mine = [one for one in household.outlook(system, OPEN_DAYS).occurrences if one.task == entry.task]
    if (done := occurrence_done(day, mine)) is not None:
        rota_store.use_move(connection, system.id, entry.task, done.due, key)
        rota_store.end_split(connection, system.id, entry.task, done.due, key)
    return _as_the_rota_has_it(entry, household.rules(system), mine)


def _as_the_rota_has_it(care: Care, rules: Sequence[Rule], open_work: Sequence[Occurrence]) -> Care:
    """A task with the minutes that it usually takes and the part whose turn it is, where nothing else was said."""
    known = any(rule.kind.key == care.task for rule in rules)
    minutes = minutes_of(rules, care.task) if known and care.minutes and not care.timed else care.minutes
    return replace(care, minutes=minutes, zone=care.zone or (open_work[0].zone if open_work else ""))


def _as_piece(care: Care, item: Occurrence) -> Care:
    """A first part does not count as the task done, and no part's minutes count for the whole."""
    if item.piece is None:
        return care
    return replace(care, task=part_of(care.task) if item.piece == Piece.FIRST else care.task, timed=False)


def _settle(connection: sqlite3.Connection, system_id: int, item: Occurrence, key: str) -> None:
    if item.step_id is not None:
        change_store.open_step(connection, item.step_id)
        change_store.finish_step(connection, item.step_id, key)
        return
    if item.piece:
        rota_store.do_piece(connection, system_id, item, key)
    if item.piece != Piece.FIRST:
        rota_store.use_move(connection, system_id, item.task, item.due, key)
