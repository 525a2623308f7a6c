"""The calendar: the keeper's settings, the private address, and the entries last given out."""

from __future__ import annotations

import json
import secrets
import sqlite3
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from datetime import datetime, time
from zoneinfo import ZoneInfo

from salttide.core.upkeep.calendar import CalendarSettings, Entry, EntryState, EntryType, Issued

from .database import dump, to_moment, to_text


@dataclass(frozen=True)
class CalendarKept:
    """The stored calendar. token: the secret in its address, None while there is none."""

    home: str
    settings: CalendarSettings
    token: str | None
    asked_at: datetime | None


def calendar(connection: sqlite3.Connection) -> CalendarKept | None:
    """The stored calendar; None before it was first used."""
    row = connection.execute("SELECT * FROM calendar").fetchone()
    if row is None:
        return None
    settings = CalendarSettings(EntryType(row["entry_type"]), time.fromisoformat(row["begins"]), row["alarm_minutes"])
    return CalendarKept(row["home"], settings, row["token"], to_moment(row["asked_at"]) if row["asked_at"] else None)


def save_settings(connection: sqlite3.Connection, settings: CalendarSettings) -> None:
    """Store the calendar settings; the household gets its identity with the first ones."""
    connection.execute(
        "INSERT INTO calendar (only, home, entry_type, begins, alarm_minutes) VALUES (1, ?, ?, ?, ?)"
        " ON CONFLICT (only) DO UPDATE SET entry_type = excluded.entry_type, begins = excluded.begins,"
        " alarm_minutes = excluded.alarm_minutes",
        (secrets.token_hex(8), settings.entry_type.value, settings.begins.isoformat("minutes"), settings.alarm_minutes),
    )


def new_address(connection: sqlite3.Connection) -> str:
    """A new secret for the address; the old one stops working."""
    token = secrets.token_urlsafe(24)
    connection.execute("UPDATE calendar SET token = ?, asked_at = NULL", (token,))
    return token


def no_address(connection: sqlite3.Connection) -> None:
    """Remove the address."""
    connection.execute("UPDATE calendar SET token = NULL, asked_at = NULL")


def asked(connection: sqlite3.Connection, at: datetime) -> None:
    """Remember that a calendar program asked."""
    connection.execute("UPDATE calendar SET asked_at = ?", (to_text(at),))


def issued_entries(connection: sqlite3.Connection, zone: ZoneInfo) -> dict[str, Issued]:
    """The entries last given out, by identity."""
    rows = connection.execute("SELECT * FROM calendar_entry")
    return {
        row["uid"]: Issued(_entry(json.loads(row["entry"]), zone), row["sequence"], to_moment(row["changed"]))
        for row in rows
    }


def _entry(values: dict[str, str | float | bool], zone: ZoneInfo) -> Entry:
    starts = to_moment(str(values["starts"])).astimezone(zone)
    return Entry(**{**values, "starts": starts, "state": EntryState(values["state"])})  # type: ignore[arg-type]


def save_issued(connection: sqlite3.Connection, issued: Iterable[Issued]) -> None:
    """Store what is given out now, in place of what was."""
    connection.execute("DELETE FROM calendar_entry")
    connection.executemany(
        "INSERT INTO calendar_entry VALUES (?, ?, ?, ?)",
        [
            (
                each.entry.uid,
                dump({**asdict(each.entry), "starts": to_text(each.entry.starts)}),
                each.sequence,
                to_text(each.changed),
            )
            for each in issued
        ],
    )


def care_counts(connection: sqlite3.Connection, system_id: int) -> dict[str, int]:
    """How often each task of a system was done or skipped in all."""
    rows = connection.execute(
        "SELECT care.task, count(*) AS times FROM effective JOIN care ON care.entry_id = effective.id"
        " WHERE effective.system_id = ? AND effective.kind = 'care' GROUP BY care.task",
        (system_id,),
    )
    return {row["task"]: row["times"] for row in rows}
