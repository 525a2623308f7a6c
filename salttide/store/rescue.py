"""Rescue of a damaged database: every table, row by row, as CSV."""

from __future__ import annotations

import csv
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

from salttide.core.basics.errors import DataError
from salttide.core.basics.phrasing import counted

from .database import reading_only


def rescue_tables(database: Path, folder: Path) -> Iterator[str]:
    """Write each table of the database to a CSV file of the folder, and tell of each what became of it.

    Rows on damaged pages are passed over. Raises DataError where nothing can be read, or nothing be written.
    """
    if not database.exists():
        raise DataError(f"there is no database at {database}")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with closing(reading_only(database)) as connection:
            names = [row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
            for name in names:
                yield _table(connection, name, folder / f"{name}.csv")
    except (OSError, sqlite3.DatabaseError) as error:
        raise DataError(f"{database}: {error}") from error


def _table(connection: sqlite3.Connection, name: str, path: Path) -> str:
    """One table into its file: as it is, and behind a damaged page by the numbers of its rows."""
    columns = [row["name"] for row in connection.execute(f'PRAGMA table_info("{name}")')]
    rows: dict[Any, tuple[Any, ...]] = {}
    broken = [*_read(connection, f'SELECT * FROM "{name}"', rows)]
    if broken:
        broken += _read(connection, f'SELECT * FROM "{name}" ORDER BY 1 DESC', rows)
    with path.open("w", encoding="utf-8", newline="") as file:
        writer = csv.writer(file)
        writer.writerow(columns)
        writer.writerows(rows.values())
    words = f"{name}: {counted(len(rows), 'row')}"
    return f"{words}, and then {broken[0]}" if broken else words


def _read(connection: sqlite3.Connection, sql: str, rows: dict[Any, tuple[Any, ...]]) -> Iterator[str]:
    """Read rows until one cannot be read; returns what stopped it."""
    try:
        for row in connection.execute(sql):
            rows.setdefault(tuple(row), tuple(row))
    except sqlite3.DatabaseError as error:
        yield str(error)
