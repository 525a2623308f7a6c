"""Reading a file into the ledger: once to check it, once to keep it; in chunks, so that the app goes on meanwhile."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime, timedelta
from itertools import count, islice
from pathlib import Path
from typing import Any

from salttide.core.basics.errors import NotFoundError, SaltTideError
from salttide.core.basics.number_text import DecimalSign
from salttide.store import importing as store
from salttide.store import instrument as instrument_store
from salttide.store import shelf
from salttide.store import system as system_store
from salttide.store.database import Database

from .readings import ColumnMap, Known, RejectedRow, Row, rows_of
from .table import Line, TableShape, lines_of, shape_of

CHUNK, TOLD_EVERY = 250, 8
"""Rows of one transaction: a keeper who writes meanwhile waits for no more than that."""
DENSE, CLOSE_S = 2000, 1800
"""From so many readings of one instrument on, no further apart than this on average, they are a probe's."""
BAD_SHOWN, FIRST_SHOWN = 200, 8


def read_map(mapping: dict[str, Any]) -> ColumnMap:
    """A mapping as it is kept."""
    return ColumnMap(**{**mapping, "decimal": DecimalSign(mapping.get("decimal", "."))})


def kept_map(columns: ColumnMap) -> dict[str, Any]:
    """A mapping to be kept."""
    return asdict(columns)


def known_to(database: Database, now: datetime) -> Known:
    """What the rows of a table refer to."""
    connection = database.connection
    return Known(
        {system.name: system.id for system in system_store.all_systems(connection)},
        {(item.name, item.parameter): item.sd for item in instrument_store.instruments(connection)},
        shelf.keeper(connection).zone,
        now,
    )


def run(database: Database, command: str, now: datetime, keep: bool) -> None:
    """Check an import, or keep it. Its state and progress stand in the database; stopping it is a turn of its state."""
    item = store.one_import(database.connection, command)
    try:
        if not Path(item.path).exists():
            raise NotFoundError("the file is not there any more: bring it again")
        shape = shape_of(Path(item.path))
        with database.relaxed_durability():
            outcome = _read(database, item, shape, now, keep)
        if outcome:
            with database.write() as connection:
                store.update_progress(
                    connection, command, 1.0, outcome.counts, bad_rows=outcome.bad_rows, first_rows=outcome.first_rows
                )
                if not keep:
                    store.update_progress(connection, command, 1.0, outcome.counts, dense=outcome.dense())
                store.turn(connection, command, "done" if keep else "checked", only_from=("checking", "keeping"))
                if keep:
                    store.settle(connection, command)
            if keep:
                Path(item.path).unlink(missing_ok=True)
    except SaltTideError as error:
        _turn(database, command, "failed", error.message)
    except BaseException:
        _turn(database, command, "failed", "the import broke off; nothing of it counts")
        raise


def _turn(database: Database, command: str, state: str, said: str = "") -> None:
    with database.write() as connection:
        if store.one_import(connection, command).state in ("checking", "keeping"):
            store.turn(connection, command, state, only_from=("checking", "keeping"), said=said)


@dataclass
class _Outcome:
    """What has been found so far."""

    good: int = 0
    twice: int = 0
    bad: int = 0
    bad_rows: list[tuple[int, str]] = field(default_factory=list)
    first_rows: list[dict[str, Any]] = field(default_factory=list)
    series: dict[tuple[int, str, str], list[Any]] = field(default_factory=dict)

    def dense(self) -> list[tuple[int, str, str, int, int]]:
        """The series that are a probe's: very many readings, and close to each other."""
        found = []
        for names, (known, first, last) in self.series.items():
            start, end = store.unix(first), store.unix(last)
            if known >= DENSE and end - start <= CLOSE_S * known:
                found.append((*names, start, end))
        return found

    @property
    def counts(self) -> tuple[int, int, int]:
        """Good rows, rows there already, bad rows."""
        return self.good, self.twice, self.bad

    def add(self, fresh: list[Row], twice: int, wrong: list[RejectedRow]) -> None:
        """Count a chunk, and keep the first rows of it that are to be shown."""
        self.good += len(fresh)
        self.twice += twice
        self.bad += len(wrong)
        for row in fresh:
            known = self.series.setdefault((row.system_id, row.parameter, row.instrument), [0, row.at, row.at])
            known[0] += 1
            known[1], known[2] = min(known[1], row.at), max(known[2], row.at)
        self.bad_rows += [(row.line, row.reason) for row in wrong[: BAD_SHOWN - len(self.bad_rows)]]
        self.first_rows += [row._asdict() for row in fresh[: FIRST_SHOWN - len(self.first_rows)]]


def _read(database: Database, item: store.Import, shape: TableShape, now: datetime, keep: bool) -> _Outcome | None:
    """Read the whole file in chunks, each in a transaction of its own; None where it was stopped."""
    progress = _Progress(Path(item.path), shape)
    found = rows_of(progress.lines(), shape.header, read_map(item.mapping), known_to(database, now))
    recorded_at = now.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    outcome, before, number = _Outcome(), set[store.Key](), count()
    dense = {(one.system_id, one.parameter, one.instrument) for one in item.dense} if keep else set()
    while chunk := list(islice(found, CHUNK)):
        rows = [row for row in chunk if type(row) is Row]
        keys = [(r.system_id, r.at, r.parameter, round(r.value, store.KEY_DIGITS), r.instrument) for r in rows]
        fresh = _new(rows, keys, _there(database, keys) | before)
        outcome.add(fresh, len(rows) - len(fresh), [row for row in chunk if type(row) is RejectedRow])
        if keep and fresh:
            written = [row for row in fresh if (row.system_id, row.parameter, row.instrument) in dense]
            by_hand = [row for row in fresh if (row.system_id, row.parameter, row.instrument) not in dense]
            with database.write() as connection:
                store.append_readings(connection, item.command, recorded_at, by_hand)
                store.append_probe(connection, item.number, written)
        if next(number) % TOLD_EVERY == 0:
            with database.write() as connection:
                if not store.update_progress(connection, item.command, progress.share, outcome.counts):
                    return None
        before = set() if keep else set(keys)
    return outcome


def _there(database: Database, keys: list[store.Key]) -> set[store.Key]:
    """Which readings are there already, as entries or as a probe's."""
    return store.there_already(database.connection, keys) | store.probes_there(database.connection, keys)


def _new(rows: list[Row], keys: list[store.Key], there: set[store.Key]) -> list[Row]:
    """Rows that are neither in the ledger nor earlier in the file."""
    fresh = []
    for row, key in zip(rows, keys, strict=True):
        if key not in there:
            there.add(key)
            fresh.append(row)
    return fresh


class _Progress:
    """The lines of a file, and how much of it was read."""

    def __init__(self, path: Path, shape: TableShape) -> None:
        self.path, self.shape = path, shape
        self.size = max(1, path.stat().st_size)
        self.read = 0

    def lines(self) -> Iterator[Line]:
        """The lines."""
        return lines_of(self.path, self.shape, self._report)

    def _report(self, read: int) -> None:
        self.read = read

    @property
    def share(self) -> float:
        """How much is read, 0..1."""
        return min(0.99, self.read / self.size)


KEPT = timedelta(days=1)
"""A file that was checked and not kept is held for so long."""


def sweep(database: Database, now: datetime) -> int:
    """Remove files that nobody waits for any more: of imports that are over, or older than a day. How many."""
    folder = database.path.parent / "imports"
    waiting = {Path(item.path).resolve() for item in store.waiting(database.connection, now - KEPT)}
    old = [path for path in folder.glob("*.part") if path.resolve() not in waiting] if folder.is_dir() else []
    for path in old:
        path.unlink(missing_ok=True)
    return len(old)
