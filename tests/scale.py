"""Ten years of eight systems with probes every five minutes: how long any part of a sheet takes to open."""

from __future__ import annotations

import json
import shutil
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from functools import partial
from pathlib import Path
from typing import Any

from salttide.api.context import Context
from salttide.api.probe import stretches
from salttide.clock import PinnedClock
from salttide.core.science.parameters import Parameter
from salttide.demo.household import NOW
from salttide.household.memo import Memo
from salttide.store import probe as probe_store
from salttide.store.database import Database
from tests.stage import demo_database

YEARS, EVERY_S, SYSTEMS = 10, 300, 8
PROBED = (Parameter.TEMPERATURE, Parameter.PH, Parameter.SALINITY)
YEAR_S = 365 * 86400
POINTS = 360


@dataclass(frozen=True)
class Opened:
    """A range of the sheet: its name, rows read, seconds of plain SQL for as many rolled-up rows, and ours."""

    name: str
    rows: int
    plain: float
    ours: float


def grown(folder: Path) -> tuple[Path, int, float, float]:
    """A household of that size: its file, readings, bytes of a million of them with their roll-ups, and seconds."""
    path = folder / "scale.db"
    shutil.copyfile(demo_database(), path)
    begun, size = time.perf_counter(), path.stat().st_size
    database = Database(path)
    end = int(NOW.timestamp())
    first = end - YEARS * YEAR_S
    connection = database.connection
    with database.write() as writing:
        for number in range(5, SYSTEMS + 1):
            writing.execute(f"INSERT INTO system SELECT {_columns(writing, number)} FROM system WHERE id = 1")
        for system_id in range(1, SYSTEMS + 1):
            for parameter in PROBED:
                probe_store.add_probe_rows(writing, system_id, parameter, "probe S", [(end, 8.0)])
                series_id = writing.execute("SELECT max(id) FROM probe_series").fetchone()[0]
                writing.execute(_MANY, {"series": series_id, "first": first, "end": end, "every": EVERY_S})
                writing.execute("UPDATE probe_series SET every_s = ? WHERE id = ?", (EVERY_S, series_id))
                probe_store.roll_up(writing, series_id, first, end)
    count = connection.execute("SELECT count(*) FROM probe").fetchone()[0]
    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    database.close()
    return path, count, (path.stat().st_size - size) / count * 1e6, time.perf_counter() - begun


def _columns(connection: Any, number: int) -> str:
    names = [row[1] for row in connection.execute("PRAGMA table_info(system)")]
    given = {"id": str(number), "name": f"'System {number}'"}
    return ", ".join(given.get(name, name) for name in names)


_MANY = (
    "WITH RECURSIVE moment (at) AS (SELECT :first UNION ALL SELECT at + :every FROM moment WHERE at + :every < :end)"
    " INSERT INTO probe SELECT :series, at, 0, 8.0 + (at / 300 * 7919 % 997) / 2000.0 FROM moment"
)
RANGES = {
    "two hours": 7200,
    "a day": 86400,
    "a week": 7 * 86400,
    "a month": 30 * 86400,
    "a year": YEAR_S,
    "ten years": YEARS * YEAR_S,
}


def opened(path: Path, rounds: int = 40) -> list[Opened]:
    """Each range of one system, from the database to the bytes of the answer; and plain SQL over as many rolled-up
    rows."""
    database = Database(path)
    context = Context(Memo(database), PinnedClock(NOW))
    found = []
    for name, length in RANGES.items():
        ask = partial(stretches, 1, context, NOW - timedelta(seconds=length), NOW, POINTS)
        rows = sum(len(one["at"]) for one in json.loads(bytes(ask().body)))
        ours = min(_clocked(ask) for _ in range(rounds))
        plain = min(_clocked(partial(_plain, database, rows)) for _ in range(rounds))
        found.append(Opened(name, rows, plain, ours))
    database.close()
    return found


def _plain(database: Database, rows: int) -> None:
    """As many rolled-up rows, in one go, of one series."""
    sql = "SELECT at, low, mean, high FROM probe_roll WHERE series_id = 3 AND span_s = 3600 LIMIT ?"
    assert len(database.connection.execute(sql, (rows,)).fetchall()) == rows


def _clocked(act: Callable[[], Any]) -> float:
    begun = time.perf_counter()
    act()
    return time.perf_counter() - begun
