"""Opening the database, its migrations, and the one way to write."""

from __future__ import annotations

import json
import sqlite3
import threading
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime
from importlib import resources
from pathlib import Path
from typing import Any
from urllib.parse import quote

from salttide.core.errors import DataError

Row = sqlite3.Row
PATIENCE_S = 5.0
"""How long a writer waits for another one."""


def connect(path: Path) -> sqlite3.Connection:
    """A connection to the database at `path`, which is made if it is not there; no migration is run."""
    connection = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
    connection.row_factory = sqlite3.Row
    # WAL: readers never wait for the writer, and a killed process leaves the last commit intact.
    connection.execute("PRAGMA journal_mode = WAL")
    # FULL: a commit is on the disk before it is confirmed to the keeper, also when the power fails.
    connection.execute("PRAGMA synchronous = FULL")
    # SQLite checks references only where asked to.
    connection.execute("PRAGMA foreign_keys = ON")
    # A second writer waits its turn instead of failing at once.
    connection.execute(f"PRAGMA busy_timeout = {int(PATIENCE_S * 1000)}")
    return connection


def migrations() -> list[tuple[int, str]]:
    """The numbered migrations, in order."""
    folder = resources.files("salttide.store") / "migrations"
    files = sorted((entry.name, entry) for entry in folder.iterdir() if entry.name.endswith(".sql"))
    return [(int(name.removesuffix(".sql")), entry.read_text("utf-8")) for name, entry in files]


def migrate(connection: sqlite3.Connection, path: Path) -> None:
    """Bring the database up to date, each migration in one transaction with its number.

    Before an existing one is migrated a copy is made. References are not followed while tables are rebuilt, and
    checked as a whole before each commit.
    """
    known = migrations()
    version = int(connection.execute("PRAGMA user_version").fetchone()[0])
    due = [(number, script) for number, script in known if number > version]
    if due and version:
        with closing(sqlite3.connect(path.with_name(f"{path.name}.before-{due[-1][0]}"))) as copy:
            connection.backup(copy)
    connection.execute("PRAGMA foreign_keys = OFF")
    for number, script in due:
        try:
            connection.executescript(f"BEGIN IMMEDIATE; {script} PRAGMA user_version = {number};")
            if connection.execute("PRAGMA foreign_key_check").fetchone():
                raise DataError(f"migration {number} would leave rows without what they belong to: nothing was changed")
            connection.execute("COMMIT")
        except (sqlite3.Error, DataError):
            if connection.in_transaction:
                connection.execute("ROLLBACK")
            raise
    connection.execute("PRAGMA foreign_keys = ON")


def refuse_newer(path: Path) -> None:
    """Raise DataError for a database that a newer program has made, before anything in it is touched."""
    if not path.exists():
        return
    with closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True)) as connection:
        version = int(connection.execute("PRAGMA user_version").fetchone()[0])
    newest = migrations()[-1][0]
    if version > newest:
        raise DataError(f"this database is of version {version}, newer than this program ({newest}): update Salt Tide")


class Database:
    """One database file; a connection for each thread that asks."""

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        refuse_newer(path)
        self.path = path
        self._local = threading.local()
        self._all: list[sqlite3.Connection] = []
        migrate(self.connection, path)

    @property
    def connection(self) -> sqlite3.Connection:
        """This thread's connection."""
        if not hasattr(self._local, "connection"):
            self._local.connection = connect(self.path)
            self._all.append(self._local.connection)
        connection: sqlite3.Connection = self._local.connection
        return connection

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction, taken for writing at once: all of it is kept, or nothing."""
        connection = self.connection
        _begin(connection)
        try:
            yield connection
        except BaseException:
            connection.execute("ROLLBACK")
            raise
        connection.execute("COMMIT")

    @contextmanager
    def hurried(self) -> Iterator[None]:
        """Commits of this thread do not wait for the disk one by one; the first one after it waits for all of them.

        For rows that do not count yet: what a power failure takes was not confirmed to anybody.
        """
        self.connection.execute("PRAGMA synchronous = NORMAL")
        try:
            yield
        finally:
            self.connection.execute("PRAGMA synchronous = FULL")

    def close(self) -> None:
        """Close every connection."""
        for connection in self._all:
            connection.close()
        self._all.clear()
        self._local = threading.local()


def _begin(connection: sqlite3.Connection) -> None:
    """Begin to write, waiting for another writer in steps of a millisecond: SQLite's own grow so long that a writer of
    many small transactions is always back before them."""
    connection.execute("PRAGMA busy_timeout = 0")
    until = time.monotonic() + PATIENCE_S
    while True:
        try:
            connection.execute("BEGIN IMMEDIATE")
            break
        except sqlite3.OperationalError as error:
            if "locked" not in str(error) or time.monotonic() > until:
                raise
            time.sleep(0.001)
    connection.execute(f"PRAGMA busy_timeout = {int(PATIENCE_S * 1000)}")


def to_text(at: datetime) -> str:
    """A moment as stored: ISO 8601 in UTC, which sorts as text."""
    return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def to_moment(text: str) -> datetime:
    """A stored moment."""
    return datetime.fromisoformat(text)


def dump(value: Any) -> str:
    """JSON as stored."""
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"))


def command_done(connection: sqlite3.Connection, key: str) -> Any | None:
    """The answer given to an earlier request with this key, or None."""
    row = connection.execute("SELECT answer FROM command WHERE key = ?", (key,)).fetchone()
    return json.loads(row["answer"]) if row else None


def remember_command(connection: sqlite3.Connection, key: str, answer: Any, at: datetime) -> None:
    """Keep the answer to a request, so that its repetition records nothing."""
    connection.execute("INSERT INTO command VALUES (?, ?, ?)", (key, to_text(at), dump(answer)))
