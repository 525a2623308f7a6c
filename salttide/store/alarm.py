"""Alarms: limits, sensors, what was raised, what was sent, and the controllers that readings come from."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Collection, Sequence
from dataclasses import asdict, dataclass
from datetime import UTC, datetime, time

from salttide.core.alarm.alarm import Alarm, Ended
from salttide.core.alarm.follow import Followed, Sample, Side
from salttide.core.alarm.signals import AlarmLimit
from salttide.core.alarm.telling import AlarmSetup, Channel, Contact, MailSecurity, Message, Occasion

from .database import dump, to_moment, to_text


@dataclass(frozen=True)
class Sensor:
    """A sensor that was heard: how it stands against its limit, and how often it sends."""

    system_id: int
    signal: str
    name: str
    every_s: float
    stands: Followed


@dataclass(frozen=True)
class Controller:
    """Where a system's readings come from. url: asked · token: what it sends under · heard: when it last gave
    readings · fault: why the last time did not work."""

    system_id: int
    url: str = ""
    token: str = ""
    asked: datetime | None = None
    heard: datetime | None = None
    fault: str = ""


@dataclass(frozen=True)
class Waiting:
    """A message to deliver, of an alarm."""

    alarm_id: int
    message: Message
    tries: int


def limits(connection: sqlite3.Connection, system_id: int) -> dict[str, AlarmLimit]:
    """What is watched of a system, by signal."""
    rows = connection.execute("SELECT * FROM alarm_limit WHERE system_id = ?", (system_id,))
    return {
        row["signal"]: AlarmLimit(
            row["signal"], row["low"], row["high"], row["back"], row["hold_min"], bool(row["wakes"])
        )
        for row in rows
    }


@dataclass(frozen=True)
class Watched:
    """A signal that is watched, with a sensor that was heard of it, if any. told: whether anybody away from the screen
    is told."""

    signal: str
    sensor: Sensor | None
    told: bool


def watched(connection: sqlite3.Connection) -> dict[int, list[Watched]]:
    """What is watched of each system, once for every sensor that was heard."""
    rows = connection.execute(
        "SELECT alarm_sensor.*, alarm_limit.system_id AS id, alarm_limit.signal AS limited,"
        " (SELECT json_array_length(setup, '$.contacts') FROM alarm_setup) AS people"
        " FROM alarm_limit LEFT JOIN alarm_sensor USING (system_id, signal)"
    )
    found: dict[int, list[Watched]] = {}
    for row in rows:
        sensor = _sensor(row) if row["sensor"] is not None else None
        found.setdefault(row["id"], []).append(Watched(row["limited"], sensor, bool(row["people"])))
    return found


def save_limits(connection: sqlite3.Connection, system_id: int, wanted: Sequence[AlarmLimit]) -> None:
    """Store what is watched, in place of what was."""
    connection.execute("DELETE FROM alarm_limit WHERE system_id = ?", (system_id,))
    connection.executemany(
        "INSERT INTO alarm_limit VALUES (?, ?, ?, ?, ?, ?, ?)",
        [(system_id, one.signal, one.low, one.high, one.back, one.hold_min, one.wakes) for one in wanted],
    )


def setup(connection: sqlite3.Connection) -> AlarmSetup:
    """Who is told, and how."""
    row = connection.execute("SELECT setup FROM alarm_setup WHERE id = 1").fetchone()
    if row is None:
        return AlarmSetup()
    kept = json.loads(row["setup"])
    contacts = tuple(_contact(one) for one in kept.pop("contacts"))
    return AlarmSetup(**{**kept, "mail_security": MailSecurity(kept["mail_security"]), "contacts": contacts})


def _contact(row: dict[str, str]) -> Contact:
    times = {name: time.fromisoformat(row[name]) if row[name] else None for name in ("quiet_from", "quiet_to")}
    return Contact(row["name"], int(row["turn"]), row["webhook"], row["email"], **times)


def save_setup(connection: sqlite3.Connection, wanted: AlarmSetup) -> None:
    """Store it."""
    kept = asdict(wanted)
    for contact in kept["contacts"]:
        for name in ("quiet_from", "quiet_to"):
            contact[name] = f"{contact[name]:%H:%M}" if contact[name] else ""
    connection.execute(
        "INSERT INTO alarm_setup VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET setup = excluded.setup", (dump(kept),)
    )


def sensors(connection: sqlite3.Connection, system_id: int | None = None) -> list[Sensor]:
    """The sensors that were heard, of one system or of all."""
    rows = connection.execute(
        "SELECT * FROM alarm_sensor WHERE :system IS NULL OR system_id = :system ORDER BY system_id, signal, sensor",
        {"system": system_id},
    )
    return [_sensor(row) for row in rows]


def _sensor(row: sqlite3.Row) -> Sensor:
    since = None if row["since"] is None else _moment(row["since"])
    last = Sample(_moment(row["at"]), row["value"])
    stands = Followed(since, Side(row["side"]), row["worst"], bool(row["counts"]), last)
    return Sensor(row["system_id"], row["signal"], row["sensor"], row["every_s"], stands)


def _moment(seconds: int) -> datetime:
    return datetime.fromtimestamp(seconds, UTC)


def save_sensor(connection: sqlite3.Connection, one: Sensor) -> None:
    """Store how a sensor stands."""
    stands = one.stands
    assert stands.last is not None
    since = None if stands.since is None else int(stands.since.timestamp())
    connection.execute(
        "INSERT OR REPLACE INTO alarm_sensor VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            one.system_id, one.signal, one.name, int(stands.last.at.timestamp()), stands.last.value, one.every_s,
            since, stands.side.value, stands.worst, stands.counts,
        ),
    )  # fmt: skip


def forget_sensor(connection: sqlite3.Connection, system_id: int, signal: str, name: str) -> None:
    """A sensor that is no longer there."""
    connection.execute(
        "DELETE FROM alarm_sensor WHERE system_id = ? AND signal = ? AND sensor = ?", (system_id, signal, name)
    )


def stand_inside(connection: sqlite3.Connection, system_id: int, signals: Collection[str]) -> None:
    """Sensors of these signals stand inside their limits until they are heard again."""
    connection.executemany(
        "UPDATE alarm_sensor SET since = NULL, counts = 0 WHERE system_id = ? AND signal = ?",
        [(system_id, signal) for signal in signals],
    )


def open_alarms(connection: sqlite3.Connection) -> list[Alarm]:
    """Alarms that are not over, latest first."""
    return _alarms(connection, "over_at IS NULL", {})


def past_alarms(connection: sqlite3.Connection, count: int) -> list[Alarm]:
    """The latest alarms that are over, latest first."""
    return _alarms(connection, "over_at IS NOT NULL", {"count": count})


def alarm(connection: sqlite3.Connection, alarm_id: int) -> Alarm | None:
    """One alarm."""
    return next(iter(_alarms(connection, "id = :id", {"id": alarm_id})), None)


def untold(connection: sqlite3.Connection, since: datetime) -> list[Alarm]:
    """Alarms of which somebody may still have to be told."""
    return _alarms(connection, "over_at IS NULL OR over_at >= :since", {"since": to_text(since)})


def _alarms(connection: sqlite3.Connection, which: str, named: dict[str, object]) -> list[Alarm]:
    sql = f"SELECT * FROM alarm WHERE {which} ORDER BY raised_at DESC, id DESC LIMIT :count"
    return [_alarm(row) for row in connection.execute(sql, {"count": -1, **named})]


def _alarm(row: sqlite3.Row) -> Alarm:
    over, seen = (to_moment(row[name]) if row[name] else None for name in ("over_at", "seen_at"))
    return Alarm(
        row["system_id"], row["signal"], row["sensor"], row["kind"], to_moment(row["began_at"]),
        to_moment(row["raised_at"]), Side(row["side"]), row["passed"], row["value"], row["worst"], bool(row["wakes"]),
        row["id"], over, Ended(row["ended"]) if row["ended"] else None, seen, row["seen_by"],
    )  # fmt: skip


def raise_alarm(connection: sqlite3.Connection, one: Alarm) -> None:
    """Store a new alarm; one of the same kind that is open already stays as it is."""
    connection.execute(
        "INSERT OR IGNORE INTO alarm (system_id, signal, sensor, kind, began_at, raised_at, side, passed, value, worst,"
        " wakes) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            one.system_id, one.signal, one.sensor, one.kind, to_text(one.began), to_text(one.raised), one.side.value,
            one.limit, one.value, one.worst, one.wakes,
        ),
    )  # fmt: skip


def worsen(connection: sqlite3.Connection, system_id: int, signal: str, sensor: str, worst: float) -> None:
    """Keep how far an open alarm has gone."""
    connection.execute(
        "UPDATE alarm SET worst = ? WHERE system_id = ? AND signal = ? AND sensor = ? AND kind = 'limit'"
        " AND over_at IS NULL AND worst <> ?",
        (worst, system_id, signal, sensor, worst),
    )


def end_alarm(connection: sqlite3.Connection, alarm_id: int, at: datetime, why: Ended) -> None:
    """Store that an alarm is over."""
    connection.execute(
        "UPDATE alarm SET over_at = ?, ended = ? WHERE id = ? AND over_at IS NULL", (to_text(at), why.value, alarm_id)
    )


def see_alarm(connection: sqlite3.Connection, alarm_id: int, at: datetime | None, by: str) -> None:
    """Store who looked at an alarm; None: nobody, after all."""
    connection.execute(
        "UPDATE alarm SET seen_at = ?, seen_by = ? WHERE id = ?", (to_text(at) if at else None, by, alarm_id)
    )


def messages(connection: sqlite3.Connection, alarm_id: int) -> list[sqlite3.Row]:
    """Everything sent or waiting of an alarm."""
    sql = "SELECT * FROM alarm_message WHERE alarm_id = ? ORDER BY due_at, contact"
    return connection.execute(sql, (alarm_id,)).fetchall()


def sent(connection: sqlite3.Connection, alarm_id: int) -> list[Message]:
    """The messages made of an alarm."""
    return [_message(row) for row in messages(connection, alarm_id)]


def _message(row: sqlite3.Row) -> Message:
    return Message(
        row["contact"], Channel(row["channel"]), Occasion(row["occasion"]), row["round"], to_moment(row["due_at"])
    )


def add_messages(connection: sqlite3.Connection, alarm_id: int, made: Sequence[Message], now: datetime) -> None:
    """Put messages among those to deliver."""
    connection.executemany(
        "INSERT OR IGNORE INTO alarm_message (alarm_id, contact, channel, occasion, round, due_at, next_at)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)",
        [
            (alarm_id, one.contact, one.channel.value, one.occasion.value, one.round, to_text(one.due), to_text(now))
            for one in made
        ],
    )


def waiting(connection: sqlite3.Connection, now: datetime) -> list[Waiting]:
    """Messages to deliver now, oldest first."""
    rows = connection.execute(
        "SELECT * FROM alarm_message WHERE next_at <= ? ORDER BY due_at, alarm_id LIMIT 50", (to_text(now),)
    )
    return [Waiting(row["alarm_id"], _message(row), row["tries"]) for row in rows]


def tried(connection: sqlite3.Connection, one: Waiting, now: datetime, fault: str, again: datetime | None) -> None:
    """Store how a delivery went. fault: empty where it arrived · again: when it is tried again, None: given up."""
    message = one.message
    connection.execute(
        "UPDATE alarm_message SET tries = tries + 1, fault = ?, next_at = ?, sent_at = ? WHERE alarm_id = ?"
        " AND contact = ? AND channel = ? AND occasion = ? AND round = ?",
        (
            fault, to_text(again) if again else None, None if fault else to_text(now), one.alarm_id, message.contact,
            message.channel.value, message.occasion.value, message.round,
        ),
    )  # fmt: skip


def controllers(connection: sqlite3.Connection) -> list[Controller]:
    """All controllers."""
    return [_controller(row) for row in connection.execute("SELECT * FROM controller ORDER BY system_id")]


def controller(connection: sqlite3.Connection, system_id: int) -> Controller:
    """The controller of a system."""
    row = connection.execute("SELECT * FROM controller WHERE system_id = ?", (system_id,)).fetchone()
    return Controller(system_id) if row is None else _controller(row)


def controller_by(connection: sqlite3.Connection, token: str) -> Controller | None:
    """The controller that sends under a token."""
    row = connection.execute("SELECT * FROM controller WHERE token = ? AND token <> ''", (token,)).fetchone()
    return None if row is None else _controller(row)


def _controller(row: sqlite3.Row) -> Controller:
    asked, heard = (to_moment(row[name]) if row[name] else None for name in ("asked_at", "heard_at"))
    return Controller(row["system_id"], row["url"], row["token"], asked, heard, row["fault"])


def save_controller(connection: sqlite3.Connection, one: Controller) -> None:
    """Store it."""
    asked, heard = (to_text(at) if at else None for at in (one.asked, one.heard))
    connection.execute(
        "INSERT OR REPLACE INTO controller VALUES (?, ?, ?, ?, ?, ?)",
        (one.system_id, one.url, one.token, asked, heard, one.fault),
    )
