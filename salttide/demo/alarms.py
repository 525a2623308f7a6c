"""What is watched in the demo household, who is told, and the alarms that followed from what Beacon's probe wrote."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime, time, timedelta

from salttide.core.alarm.alarm import LIMIT, Alarm, Ended
from salttide.core.alarm.follow import INSIDE, Sample, Side, follow
from salttide.core.alarm.signals import AlarmLimit
from salttide.core.alarm.telling import AlarmSetup, Contact, Told, messages_due
from salttide.store import alarm as alarm_store
from salttide.store import probe as probe_store

from .probes import DENSE_S, LAST, PROBE_NAME, ZONE

SETUP = AlarmSetup(
    (
        Contact("Kitchen bell", 1, webhook="http://bell.home.test/tide", quiet_from=time(22), quiet_to=time(7)),
        Contact("Next door", 2, webhook="http://bell.home.test/next-door"),
    )
)
LIMITS: Mapping[str, Sequence[AlarmLimit]] = {
    "Beacon": (
        AlarmLimit("temperature", 24.0, 27.0, back=0.3, hold_min=10),
        AlarmLimit("ph", 7.9, 8.5, back=0.05, hold_min=30, wakes=False),
    ),
    "Skiff": (AlarmLimit("temperature", 23.5, 27.5, back=0.3, hold_min=10),),
}
SINCE = timedelta(days=5)
"""For how long Beacon's limits have been set."""


def watch(connection: sqlite3.Connection, system_id: int, name: str) -> None:
    """Set the limits of a system, and follow what its probe wrote since."""
    alarm_store.save_limits(connection, system_id, LIMITS.get(name, ()))
    for limit in LIMITS.get(name, ()):
        for series in probe_store.probe_series(connection, system_id):
            if series.parameter == limit.kind.parameter:
                _follow(connection, system_id, limit, series)


def _follow(connection: sqlite3.Connection, system_id: int, limit: AlarmLimit, series: probe_store.ProbeSeries) -> None:
    rows = probe_store.raw_rows(connection, series, int((LAST - SINCE).timestamp()), 10_000)
    samples = [Sample(datetime.fromtimestamp(at, UTC), value) for at, value in rows]
    stands, turns = follow(limit, INSIDE, samples)
    for begun, over in zip(turns[::2], turns[1::2], strict=False):
        passed = limit.low if begun.side == Side.LOW else limit.high
        one = Alarm(
            system_id, limit.signal, PROBE_NAME, LIMIT, begun.began, begun.at, begun.side, passed or 0.0, begun.value,
            over.worst, limit.wakes,
        )  # fmt: skip
        alarm_store.raise_alarm(connection, one)
        raised = alarm_store.open_alarms(connection)[0]
        alarm_store.end_alarm(connection, raised.id, over.at, Ended.BACK)
        _told(connection, raised.id, Told(begun.at, limit.wakes, over=over.at))
    alarm_store.save_sensor(connection, alarm_store.Sensor(system_id, limit.signal, PROBE_NAME, float(DENSE_S), stands))


def _told(connection: sqlite3.Connection, alarm_id: int, told: Told) -> None:
    """Messages as they were due, and arrived."""
    made = messages_due(replace(told, over=None), SETUP, [], (told.over or LAST) - timedelta(seconds=1), ZONE)
    made += messages_due(told, SETUP, made, LAST, ZONE)
    for one in made:
        alarm_store.add_messages(connection, alarm_id, [one], one.due)
        for waiting in alarm_store.waiting(connection, one.due):
            alarm_store.tried(connection, waiting, one.due, "", None)
