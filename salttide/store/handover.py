"""Hand-overs of absences to a carer, and the reports of their visits."""

from __future__ import annotations

import json
import secrets
import sqlite3
from dataclasses import asdict, dataclass
from datetime import date, datetime

from salttide.core.basics.errors import NotFoundError
from salttide.core.overview.handover import HandOverRequest, VisitWork

from .database import dump, to_moment, to_text
from .rota import Away, absences


@dataclass(frozen=True)
class HandOverKept:
    """An absence with its hand-over; token: of the carer's page, None while there is none."""

    away: Away
    request: HandOverRequest
    token: str | None


def absence(connection: sqlite3.Connection, number: int) -> Away:
    """An absence by its number. Raises NotFoundError."""
    found = next((one for one in absences(connection) if one.id == number), None)
    if found is None:
        raise NotFoundError(f"there is no absence {number}")
    return found


def hand_over_kept(connection: sqlite3.Connection, number: int) -> HandOverKept | None:
    """The hand-over of an absence; None where not set up yet. Raises NotFoundError for the absence."""
    away = absence(connection, number)
    row = connection.execute("SELECT * FROM hand_over WHERE away_id = ?", (number,)).fetchone()
    return _kept(away, row) if row else None


def hand_over_of(connection: sqlite3.Connection, token: str) -> HandOverKept:
    """The hand-over of a carer's page. Raises NotFoundError."""
    for row in connection.execute("SELECT * FROM hand_over WHERE token IS NOT NULL"):
        if secrets.compare_digest(row["token"].encode(), token.encode()):
            return _kept(absence(connection, row["away_id"]), row)
    raise NotFoundError("there is no hand-over under this address")


def _kept(away: Away, row: sqlite3.Row) -> HandOverKept:
    notes = {int(key): text for key, text in json.loads(row["notes"]).items()}
    request = HandOverRequest(row["every_days"], row["carer"], row["phone"], row["other_phone"], row["note"], notes)
    return HandOverKept(away, request, row["token"])


def save_hand_over(connection: sqlite3.Connection, number: int, request: HandOverRequest) -> None:
    """Save the hand-over of an absence."""
    absence(connection, number)
    notes = dump({str(key): text for key, text in request.notes.items()})
    connection.execute(
        "INSERT INTO hand_over (away_id, every_days, carer, phone, other_phone, note, notes)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)"
        " ON CONFLICT (away_id) DO UPDATE SET every_days = excluded.every_days, carer = excluded.carer,"
        " phone = excluded.phone, other_phone = excluded.other_phone, note = excluded.note, notes = excluded.notes",
        (number, request.every_days, request.carer, request.phone, request.other_phone, request.note, notes),
    )


def new_link(connection: sqlite3.Connection, number: int) -> None:
    """A new secret for the carer's page; the old one stops working. Raises NotFoundError."""
    token = secrets.token_urlsafe(18)
    if not connection.execute("UPDATE hand_over SET token = ? WHERE away_id = ?", (token, number)).rowcount:
        raise NotFoundError("say first who is to be called")


def no_link(connection: sqlite3.Connection, number: int) -> None:
    """Remove the carer's page."""
    connection.execute("UPDATE hand_over SET token = NULL WHERE away_id = ?", (number,))


@dataclass(frozen=True)
class Report:
    """A carer's report of a visit. measured: canonical values by parameter · pictures: by number · taken: accepted into
    the record, aside: set aside."""

    id: int
    away_id: int
    system_id: int
    at: datetime
    done: tuple[VisitWork, ...]
    measured: dict[str, float]
    found: str = ""
    used: str = ""
    advised: str = ""
    pictures: tuple[int, ...] = ()
    taken: bool = False
    aside: bool = False


def add_report(connection: sqlite3.Connection, item: Report, command: str) -> None:
    """Store a report."""
    connection.execute(
        "INSERT INTO visit_report (away_id, system_id, at, done, measured, found, used, advised, pictures, command)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            item.away_id, item.system_id, to_text(item.at), dump([asdict(work) for work in item.done]),
            dump(item.measured), item.found, item.used, item.advised, dump(list(item.pictures)), command,
        ),
    )  # fmt: skip


def reports(connection: sqlite3.Connection, number: int) -> list[Report]:
    """The reports of an absence, oldest first."""
    rows = connection.execute("SELECT * FROM visit_report WHERE away_id = ? ORDER BY at, id", (number,))
    return [_report(row) for row in rows]


def report(connection: sqlite3.Connection, number: int) -> Report:
    """A report by its number. Raises NotFoundError."""
    row = connection.execute("SELECT * FROM visit_report WHERE id = ?", (number,)).fetchone()
    if row is None:
        raise NotFoundError(f"there is no report {number}")
    return _report(row)


def _report(row: sqlite3.Row) -> Report:
    done = tuple(VisitWork(**work) for work in json.loads(row["done"]))
    return Report(
        row["id"], row["away_id"], row["system_id"], to_moment(row["at"]), done, json.loads(row["measured"]),
        row["found"], row["used"], row["advised"], tuple(json.loads(row["pictures"])), row["taken_by"] is not None,
        bool(row["aside"]),
    )  # fmt: skip


def accept_report(connection: sqlite3.Connection, number: int, command: str) -> None:
    """Mark a report as accepted by a command."""
    connection.execute("UPDATE visit_report SET taken_by = ?, aside = 0 WHERE id = ?", (command, number))


def dismiss_report(connection: sqlite3.Connection, number: int, aside: bool) -> None:
    """Set a report aside, or bring it back."""
    connection.execute("UPDATE visit_report SET aside = ? WHERE id = ?", (int(aside), number))


def report_untaken(connection: sqlite3.Connection, command: str) -> None:
    """Reopen the report whose acceptance by a command was undone."""
    connection.execute("UPDATE visit_report SET taken_by = NULL WHERE taken_by = ?", (command,))


def visit_pictures(connection: sqlite3.Connection, since: date) -> int:
    """The number of pictures carers have sent since a day."""
    row = connection.execute(
        "SELECT count(*) FROM picture WHERE subject = 'visit' AND void = 0 AND at >= ?", (since.isoformat(),)
    ).fetchone()
    return int(row[0])
