"""Probe readings: stored raw, rolled up as they are written, and read at the resolution needed."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import pairwise

from salttide.core.ledger.dense import STRETCH_S
from salttide.core.ledger.entries import Reading
from salttide.core.science.parameters import FACTS, Parameter

HOUR, DAY = 3600, 86400
SPANS = (HOUR, 6 * HOUR, DAY, 7 * DAY, 28 * DAY)
"""Seconds that one rolled-up row stands for; each is a multiple of the one before."""


@dataclass(frozen=True)
class ProbeSeries:
    """What one probe wrote of one parameter of a system; every_s: seconds between its readings, about · sd: its own
    scatter where it is on the shelf, else the usual one."""

    id: int
    parameter: Parameter
    instrument: str
    every_s: float
    sd: float

    def named(self, parameter: Parameter, instrument: str) -> bool:
        """Whether it is the series of this instrument."""
        return (self.parameter, self.instrument) == (parameter, instrument)


@dataclass(frozen=True)
class Stretch:
    """Part of a series in columns: seconds since 1970, lowest, mean and highest value; span_s: what a row stands for,
    0 where they are single readings."""

    span_s: int
    at: Sequence[int]
    low: Sequence[float]
    mean: Sequence[float]
    high: Sequence[float]


def probe_series(connection: sqlite3.Connection, system_id: int) -> list[ProbeSeries]:
    """All series of a system."""
    rows = connection.execute(
        "SELECT probe_series.*, sd FROM probe_series LEFT JOIN instrument ON instrument.name = probe_series.instrument"
        " AND instrument.parameter = probe_series.parameter WHERE system_id = ? ORDER BY id",
        (system_id,),
    )
    return [_series(row) for row in rows]


def _series(row: sqlite3.Row) -> ProbeSeries:
    parameter = Parameter(row["parameter"])
    sd = FACTS[parameter].sd if row["sd"] is None else row["sd"]
    return ProbeSeries(row["id"], parameter, row["instrument"], row["every_s"], sd)


def add_probe_rows(
    connection: sqlite3.Connection,
    system_id: int,
    parameter: Parameter,
    instrument: str,
    rows: Sequence[tuple[int, float]],
) -> int:
    """Keep readings (seconds since 1970, canonical value) and roll them up; one that is there already stays as it is.

    Returns how many were new. Must run inside a transaction.
    """
    if not rows:
        return 0
    added = write_rows(connection, system_id, parameter, instrument, rows)
    series = next(one for one in probe_series(connection, system_id) if one.named(parameter, instrument))
    roll_up(connection, series.id, min(at for at, _ in rows), max(at for at, _ in rows))
    return added


def write_rows(
    connection: sqlite3.Connection,
    system_id: int,
    parameter: Parameter,
    instrument: str,
    rows: Sequence[tuple[int, float]],
    number: int = 0,
) -> int:
    """Keep readings without rolling them up, for an import of that number. Returns how many were new."""
    first, last = min(at for at, _ in rows), max(at for at, _ in rows)
    series_id = _series_id(
        connection, system_id, parameter, instrument, max(1.0, (last - first) / max(1, len(rows) - 1))
    )
    before = connection.total_changes
    connection.executemany(
        "INSERT OR IGNORE INTO probe VALUES (?, ?, ?, ?)", [(series_id, at, number, value) for at, value in rows]
    )
    return connection.total_changes - before


def there_already(
    connection: sqlite3.Connection, system_id: int, parameter: Parameter, instrument: str, first: int, last: int
) -> set[tuple[int, float]]:
    """Which readings of a series between two moments count already."""
    rows = connection.execute(
        "SELECT at, value FROM probe JOIN probe_series ON probe_series.id = probe.series_id WHERE system_id = ?"
        f" AND parameter = ? AND instrument = ? AND at BETWEEN ? AND ? AND {LIVE}",
        (system_id, parameter.value, instrument, first, last),
    )
    return {(row[0], row[1]) for row in rows}


LIVE = "import_number NOT IN (SELECT number FROM import WHERE state <> 'done')"
"""Rows of an import count while it is done."""


def _series_id(
    connection: sqlite3.Connection, system_id: int, parameter: Parameter, instrument: str, every_s: float
) -> int:
    row = connection.execute(
        "INSERT INTO probe_series (system_id, parameter, instrument, every_s) VALUES (?, ?, ?, ?)"
        " ON CONFLICT (system_id, parameter, instrument) DO UPDATE SET every_s = min(every_s, excluded.every_s)"
        " RETURNING id",
        (system_id, parameter.value, instrument, every_s),
    ).fetchone()
    return int(row[0])


def roll_up(connection: sqlite3.Connection, series_id: int, first: int, last: int) -> None:
    """Roll up again what lies between two moments, each span from the one below it."""
    for span in SPANS:
        values = {"series": series_id, "span": span, **_whole(span, first, last)}
        connection.execute(_CLEAR, values)
    connection.execute(_FROM_RAW, {"series": series_id, "span": HOUR, **_whole(HOUR, first, last)})
    for below, span in pairwise(SPANS):
        values = {"series": series_id, "span": span, "below": below, **_whole(span, first, last)}
        connection.execute(_FROM_BELOW, values)


def _whole(span: int, first: int, last: int) -> dict[str, int]:
    return {"first": first - first % span, "end": last - last % span + span}


_CLEAR = "DELETE FROM probe_roll WHERE series_id = :series AND span_s = :span AND at >= :first AND at < :end"
_FROM_RAW = (
    "INSERT OR REPLACE INTO probe_roll SELECT series_id, :span, at - at % :span, count(*), min(value), avg(value),"
    " max(value) FROM probe WHERE series_id = :series AND at >= :first AND at < :end"
    f" AND {LIVE} GROUP BY at - at % :span"
)
_FROM_BELOW = (
    "INSERT OR REPLACE INTO probe_roll SELECT series_id, :span, at - at % :span, sum(count), min(low),"
    " sum(mean * count) / sum(count), max(high) FROM probe_roll"
    " WHERE series_id = :series AND span_s = :below AND at >= :first AND at < :end GROUP BY at - at % :span"
)


def stretch(connection: sqlite3.Connection, series: ProbeSeries, start: int, end: int, points: int) -> Stretch:
    """A series between two moments (seconds since 1970) in about so many points: raw where they fit, else rolled up.

    However long the time, no more rows are read than a few times the points.
    """
    if (end - start) / series.every_s <= points:
        rows = connection.execute(
            "SELECT at, value, value, value FROM probe WHERE series_id = ? AND at BETWEEN ? AND ?"
            f" AND {LIVE} ORDER BY at LIMIT ?",
            (series.id, start, end, 4 * points),
        ).fetchall()
        return _columns(0, rows)
    span = next((span for span in SPANS if (end - start) / span <= 1.5 * points), SPANS[-1])
    rows = connection.execute(
        "SELECT at, low, mean, high FROM probe_roll WHERE series_id = ? AND span_s = ? AND at BETWEEN ? AND ?",
        (series.id, span, start - span, end),
    ).fetchall()
    return _columns(span, rows)


HOURLY = "mean of an hour"
"""How a reading of a probe came about."""


def probe_readings(connection: sqlite3.Connection, system_id: int, since: datetime | None) -> list[Reading]:
    """What probes wrote, as a judgement takes it: the mean of every third hour, and of the latest hour."""
    start = int(since.timestamp()) if since else 0
    found = []
    for series in probe_series(connection, system_id):
        rows = connection.execute(
            "SELECT at, mean FROM probe_roll WHERE series_id = :series AND span_s = :hour AND at >= :start"
            " AND (at % :third = 0 OR at = (SELECT max(at) FROM probe_roll WHERE series_id = :series"
            " AND span_s = :hour)) ORDER BY at",
            {"series": series.id, "hour": HOUR, "start": start, "third": STRETCH_S},
        )
        found += [
            Reading(
                datetime.fromtimestamp(row["at"], UTC), series.parameter, row["mean"], series.sd, series.instrument,
                how=HOURLY,
            )
            for row in rows
        ]  # fmt: skip
    return found


def rows_out(
    connection: sqlite3.Connection, system_id: int | None, parameter: str, first: str, last: str
) -> Iterator[sqlite3.Row]:
    """Readings of probes that count, one at a time, as the log gives readings out: series by series, oldest first."""
    yield from connection.execute(
        "SELECT system.name, strftime('%Y-%m-%dT%H:%M:%SZ', at, 'unixepoch') AS at, '' AS note,"
        " probe_series.parameter, value, coalesce(instrument.sd, 0) AS sd, probe_series.instrument"
        f"{_WRITTEN} ORDER BY probe.series_id, probe.at",
        {"system": system_id, "parameter": parameter, "first": first, "last": last},
    )


def rows_out_count(connection: sqlite3.Connection, system_id: int | None, parameter: str, first: str, last: str) -> int:
    """Their number."""
    named = {"system": system_id, "parameter": parameter, "first": first, "last": last}
    return int(connection.execute(f"SELECT count(*){_WRITTEN}", named).fetchone()[0])


_WRITTEN = (
    " FROM probe JOIN probe_series ON probe_series.id = probe.series_id"
    " JOIN system ON system.id = probe_series.system_id LEFT JOIN instrument"
    " ON instrument.name = probe_series.instrument AND instrument.parameter = probe_series.parameter"
    " WHERE (:system IS NULL OR system_id = :system) AND (:parameter = '' OR probe_series.parameter = :parameter)"
    " AND (:first = '' OR at >= unixepoch(:first)) AND (:last = '' OR at <= unixepoch(:last))"
    f" AND {LIVE}"
)


PROBE_COUNT = (
    f"(SELECT sum(count) FROM probe_series CROSS JOIN probe_roll ON series_id = id AND span_s = {SPANS[-1]}"
    " WHERE probe_series.system_id = system.id)"
)
"""How many readings probes have written of a system. Asked for with every request: by series, through the key."""


def _columns(span: int, rows: Sequence[Sequence[float]]) -> Stretch:
    at, low, mean, high = zip(*rows, strict=True) if rows else ((), (), (), ())
    return Stretch(span, [int(each) for each in at], low, mean, high)


def latest_row(connection: sqlite3.Connection, system_id: int, parameter: Parameter, instrument: str) -> int | None:
    """When a series was last kept, in seconds since 1970."""
    row = connection.execute(
        "SELECT max(at) FROM probe WHERE series_id = (SELECT id FROM probe_series WHERE system_id = ?"
        " AND parameter = ? AND instrument = ?)",
        (system_id, parameter.value, instrument),
    ).fetchone()
    return None if row[0] is None else int(row[0])


def raw_rows(connection: sqlite3.Connection, series: ProbeSeries, start: int, most: int) -> list[tuple[int, float]]:
    """The latest single readings of a series from a moment on, oldest first, no more than `most`."""
    rows = connection.execute(
        f"SELECT at, value FROM probe WHERE series_id = ? AND at >= ? AND {LIVE} ORDER BY at DESC LIMIT ?",
        (series.id, start, most),
    ).fetchall()
    return [(row[0], row[1]) for row in reversed(rows)]


def hourly_rows(connection: sqlite3.Connection, series: ProbeSeries, start: int) -> list[tuple[int, float, float]]:
    """Hours of a series from a moment on, oldest first, each with its lowest and highest value."""
    rows = connection.execute(
        "SELECT at, low, high FROM probe_roll WHERE series_id = ? AND span_s = ? AND at >= ? ORDER BY at",
        (series.id, HOUR, start),
    )
    return [(row["at"], row["low"], row["high"]) for row in rows]
