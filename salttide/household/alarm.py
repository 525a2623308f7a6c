"""Alarms of the household: what sensors send is followed and kept, sensors are doubted, and messages are made."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from salttide.core.alarm.alarm import BY_HAND, LIMIT, Alarm, Ended
from salttide.core.alarm.follow import INSIDE, Followed, Sample, Turn, follow, lasted
from salttide.core.alarm.report import Heard
from salttide.core.alarm.sensor_faults import (
    LOOK_BACK_H,
    SensorFault,
    Span,
    drift_of,
    out_of_water_at,
    silent_since,
    stuck_since,
)
from salttide.core.alarm.signals import AlarmLimit, signal_of, signals
from salttide.core.alarm.telling import Told, messages_due
from salttide.core.ledger.entries import Reading
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System
from salttide.store import alarm as alarm_store
from salttide.store import probe as probe_store
from salttide.store.alarm import Sensor

from .household import Household

LIVE_TIME = timedelta(days=1)
"""What a sensor sends later than this is its history, and raises nothing."""
KEPT_EVERY_S = 300
"""Of what a controller gives each minute, one reading is kept in such a time; all of it is followed."""
FIRST_EVERY_S, MAX_EVERY_S = 300.0, 3600.0
HAND_DAYS, HAND_MEMORY_DAYS = 7, 30
"""A test by hand raises an alarm while it is no older, and is remembered so long."""
WATER_TIME, MOST_ROWS = timedelta(hours=6), 2000
TOLD_TIME = timedelta(days=2)


def take_in(household: Household, connection: sqlite3.Connection, system_id: int, heard: Sequence[Heard]) -> int:
    """Keep and follow what a controller said, and raise what passed its limit. Returns how many readings were new.
    Must run inside a transaction."""
    fresh = 0
    for (signal, sensor), samples in _by_sensor(heard).items():
        known = _sensor(connection, system_id, signal, sensor)
        new = [one for one in samples if known is None or known.stands.last is None or _later(one, known.stands.last)]
        if not new:
            continue
        fresh += len(new)
        _keep(connection, system_id, signal, sensor, new)
        follow_sensor(household, connection, system_id, signal, sensor, new)
    make_messages(household, connection)
    return fresh


def _later(one: Sample, last: Sample) -> bool:
    return int(one.at.timestamp()) > int(last.at.timestamp())


def _by_sensor(heard: Sequence[Heard]) -> Mapping[tuple[str, str], list[Sample]]:
    found: dict[tuple[str, str], list[Sample]] = {}
    for one in sorted(heard, key=lambda each: each.sample.at):
        found.setdefault((one.signal, one.sensor), []).append(one.sample)
    return found


def _sensor(connection: sqlite3.Connection, system_id: int, signal: str, name: str) -> Sensor | None:
    known = alarm_store.sensors(connection, system_id)
    return next((one for one in known if (one.signal, one.name) == (signal, name)), None)


def _keep(connection: sqlite3.Connection, system_id: int, signal: str, sensor: str, samples: Sequence[Sample]) -> None:
    """Keep a measured series, thinned."""
    parameter = signal_of(signal).parameter
    if parameter is None:
        return
    last = probe_store.latest_row(connection, system_id, parameter, sensor)
    rows = []
    for sample in samples:
        at = int(sample.at.timestamp())
        if last is None or at // KEPT_EVERY_S != last // KEPT_EVERY_S:
            rows.append((at, sample.value))
            last = at
    probe_store.add_probe_rows(connection, system_id, parameter, sensor, rows)


def follow_sensor(
    household: Household,
    connection: sqlite3.Connection,
    system_id: int,
    signal: str,
    name: str,
    samples: Sequence[Sample],
) -> None:
    """Follow samples of one sensor against its limit, oldest first, and store how it stands. What is a day old and more
    is not followed: it is history."""
    live = [one for one in samples if household.now - one.at <= LIVE_TIME]
    if not live:
        return
    known = _sensor(connection, system_id, signal, name) or Sensor(system_id, signal, name, FIRST_EVERY_S, INSIDE)
    limit = alarm_store.limits(connection, system_id).get(signal)
    stands, turns = follow(limit, known.stands, live) if limit else (Followed(last=live[-1]), [])
    if stands.last is None:
        return
    every_s = _every_s(known, live)
    alarm_store.save_sensor(connection, replace(known, every_s=every_s, stands=stands))
    if limit:
        _turned(household, connection, known, limit, turns)
        if stands.counts:
            alarm_store.worsen(connection, system_id, signal, name, stands.worst)


def follow_rows(
    household: Household,
    connection: sqlite3.Connection,
    system_id: int,
    parameter: Parameter,
    name: str,
    rows: Sequence[tuple[int, float]],
) -> None:
    """Follow readings that were kept already: seconds since 1970 and canonical values."""
    signal = next((one.key for one in signals().values() if one.parameter == parameter), None)
    if signal is None:
        return
    samples = [Sample(datetime.fromtimestamp(at, UTC), value) for at, value in sorted(rows)]
    follow_sensor(household, connection, system_id, signal, name, samples)
    make_messages(household, connection)


def _every_s(known: Sensor, samples: Sequence[Sample]) -> float:
    """Seconds between readings, as they come."""
    every, last = known.every_s, known.stands.last
    for sample in samples:
        if last is not None and sample.at > last.at:
            gap = min((sample.at - last.at).total_seconds(), MAX_EVERY_S)
            every = 0.7 * every + 0.3 * gap
        last = sample
    return every


def _turned(
    household: Household, connection: sqlite3.Connection, sensor: Sensor, limit: AlarmLimit, turns: Sequence[Turn]
) -> None:
    """Store what began to count and what was over."""
    for turn in turns:
        if not turn.over:
            raised = _raised(sensor, limit, turn, household.now)
            alarm_store.raise_alarm(connection, raised)
            continue
        for one in _open(connection, sensor.system_id, sensor.signal, sensor.name, LIMIT):
            alarm_store.end_alarm(connection, one.id, turn.at, Ended.BACK)


def _raised(sensor: Sensor, limit: AlarmLimit, turn: Turn, now: datetime) -> Alarm:
    passed = limit.low if turn.side == turn.side.LOW else limit.high
    return Alarm(
        sensor.system_id, sensor.signal, sensor.name, LIMIT, turn.began, now, turn.side, passed or 0.0,
        turn.value, turn.worst, limit.wakes,
    )  # fmt: skip


def _open(connection: sqlite3.Connection, system_id: int, signal: str, sensor: str, kind: str) -> list[Alarm]:
    wanted = (system_id, signal, sensor, kind)
    found = alarm_store.open_alarms(connection)
    return [one for one in found if (one.system_id, one.signal, one.sensor, one.kind) == wanted]


def look(household: Household, connection: sqlite3.Connection, deep: bool = True) -> None:
    """What does not come from a new reading: silence, contacts that have lasted long enough, and, where it is `deep`,
    which takes the whole record, tests by hand and sensors that cannot be believed. Must run inside a transaction."""
    for system in household.stored.systems:
        limits = alarm_store.limits(connection, system.id)
        for sensor in alarm_store.sensors(connection, system.id):
            if sensor.signal in limits:
                _look_at(household, connection, sensor, limits[sensor.signal])
                _faults(household, connection, system, sensor, deep)
        for limit in limits.values() if deep else ():
            _by_hand(household, connection, system, limit)
    make_messages(household, connection)


def _look_at(household: Household, connection: sqlite3.Connection, sensor: Sensor, limit: AlarmLimit) -> None:
    if not limit.kind.contact:
        return
    turns: list[Turn] = []
    stands = lasted(limit, sensor.stands, household.now, turns)
    if turns:
        alarm_store.save_sensor(connection, replace(sensor, stands=stands))
        _turned(household, connection, sensor, limit, turns)


def _faults(household: Household, connection: sqlite3.Connection, system: System, sensor: Sensor, deep: bool) -> None:
    last = sensor.stands.last
    if last is None:
        return
    silent = silent_since(last.at, sensor.every_s, household.now)
    _stands(household, connection, sensor, SensorFault.SILENT, silent)
    parameter = signal_of(sensor.signal).parameter
    series = probe_store.probe_series(connection, system.id) if parameter and deep else []
    for one in series:
        if parameter is not None and one.named(parameter, sensor.name):
            _deep_faults(household, connection, system, sensor, one)


def _deep_faults(
    household: Household,
    connection: sqlite3.Connection,
    system: System,
    sensor: Sensor,
    series: probe_store.ProbeSeries,
) -> None:
    now = household.now
    hours = probe_store.hourly_rows(connection, series, int((now - timedelta(hours=LOOK_BACK_H)).timestamp()))
    spans = [Span(datetime.fromtimestamp(at, UTC), low, high) for at, low, high in hours]
    _stands(household, connection, sensor, SensorFault.STUCK, stuck_since(spans))
    out = _open(connection, system.id, sensor.signal, sensor.name, SensorFault.OUT_OF_WATER)
    start = min([now - WATER_TIME, *(one.began - timedelta(hours=1) for one in out)])
    rows = probe_store.raw_rows(connection, series, int(start.timestamp()), MOST_ROWS)
    samples = [Sample(datetime.fromtimestamp(at, UTC), value) for at, value in rows]
    left = out_of_water_at(series.parameter, samples, series.sd, household.system(system.id))
    _stands(household, connection, sensor, SensorFault.OUT_OF_WATER, left)
    ours, others = _readings(household, system, series.parameter, sensor.name)
    gap = drift_of(ours, others, now)
    _stands(household, connection, sensor, SensorFault.DRIFTING, now if gap is not None else None, gap or 0.0)


def _readings(
    household: Household, system: System, parameter: Parameter, sensor: str
) -> tuple[list[Reading], list[Reading]]:
    known = household.ledger(system).of(parameter)
    ours = [one for one in known if one.instrument == sensor and one.how == probe_store.HOURLY]
    return ours, [one for one in known if one.how != probe_store.HOURLY]


def _stands(
    household: Household,
    connection: sqlite3.Connection,
    sensor: Sensor,
    fault: SensorFault,
    since: datetime | None,
    size: float = 0.0,
) -> None:
    """Raise a fault that stands and is not raised, and end one that is gone."""
    raised = _open(connection, sensor.system_id, sensor.signal, sensor.name, fault)
    if since is None:
        for one in raised:
            alarm_store.end_alarm(connection, one.id, household.now, Ended.BACK)
    elif not raised and sensor.stands.last is not None:
        value = sensor.stands.last.value
        wakes = fault == SensorFault.SILENT and signal_of(sensor.signal).wakes
        alarm = Alarm(
            sensor.system_id, sensor.signal, sensor.name, fault, since, household.now, value=value, worst=size,
            wakes=wakes,
        )  # fmt: skip
        alarm_store.raise_alarm(connection, alarm)


def _by_hand(household: Household, connection: sqlite3.Connection, system: System, limit: AlarmLimit) -> None:
    """Tests by hand against a limit: each counts at once, and follows what is corrected."""
    parameter = limit.kind.parameter
    if parameter is None:
        return
    since = household.now - timedelta(days=HAND_MEMORY_DAYS)
    tests = [one for one in _readings(household, system, parameter, "")[1] if since <= one.at <= household.now]
    stands, turns = follow(replace(limit, hold_min=0.0), INSIDE, [Sample(one.at, one.value) for one in tests])
    raised = _open(connection, system.id, limit.signal, BY_HAND, LIMIT)
    if not stands.counts:
        for one in raised:
            later = [test.at for test in tests if test.at > one.began]
            why = Ended.BACK if later else Ended.CORRECTED
            alarm_store.end_alarm(connection, one.id, later[-1] if later else household.now, why)
    elif not raised and household.now - tests[-1].at <= timedelta(days=HAND_DAYS):
        sensor = Sensor(system.id, limit.signal, BY_HAND, FIRST_EVERY_S, stands)
        alarm_store.raise_alarm(connection, _raised(sensor, limit, turns[-1], household.now))
    elif raised:
        alarm_store.worsen(connection, system.id, limit.signal, BY_HAND, stands.worst)


def make_messages(household: Household, connection: sqlite3.Connection) -> None:
    """Put what has to be told among what is delivered."""
    setup = alarm_store.setup(connection)
    if not setup.contacts:
        return
    for one in alarm_store.untold(connection, household.now - TOLD_TIME):
        made = messages_due(
            _told(one), setup, alarm_store.sent(connection, one.id), household.now, household.keeper.zone
        )
        alarm_store.add_messages(connection, one.id, made, household.now)


def _told(one: Alarm) -> Told:
    return Told(one.raised, one.wakes, one.seen, one.over)


def save_limits(
    household: Household, connection: sqlite3.Connection, system_id: int, wanted: Sequence[AlarmLimit]
) -> None:
    """Store what is watched. Alarms of limits that changed are over: their sensors are followed anew."""
    before = alarm_store.limits(connection, system_id)
    after = {one.signal: one for one in wanted}
    changed = {key for key in {*before, *after} if before.get(key) != after.get(key)}
    alarm_store.save_limits(connection, system_id, wanted)
    alarm_store.stand_inside(connection, system_id, changed)
    for one in alarm_store.open_alarms(connection):
        if one.system_id == system_id and one.signal in changed:
            alarm_store.end_alarm(connection, one.id, household.now, Ended.LIMIT_CHANGED)


def forget_sensor(household: Household, connection: sqlite3.Connection, system_id: int, signal: str, name: str) -> None:
    """A sensor that is no longer there; its alarms are over."""
    alarm_store.forget_sensor(connection, system_id, signal, name)
    for one in alarm_store.open_alarms(connection):
        if (one.system_id, one.signal, one.sensor) == (system_id, signal, name):
            alarm_store.end_alarm(connection, one.id, household.now, Ended.LIMIT_CHANGED)


def watched(household: Household, system: System) -> frozenset[str]:
    """The safeguards that alarms are: a limit is set, a sensor is heard, and somebody away from the screen is told."""
    told = [one for one in household.stored.watched.get(system.id, ()) if one.told]
    heard = [one.signal for one in told if one.sensor is not None and not _silent(household, one.sensor)]
    return frozenset(signals()[signal].guards for signal in heard) - {""}


def _silent(household: Household, sensor: Sensor) -> bool:
    last = sensor.stands.last
    return last is None or silent_since(last.at, sensor.every_s, household.now) is not None
