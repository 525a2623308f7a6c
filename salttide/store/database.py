"""Opening the database, its migrations, and the one way to write."""

from __future__ import annotations

import json
import os
import re
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

from salttide.core.basics.errors import ConflictError, DamagedError, DataError

Row = sqlite3.Row
PATIENCE_S = 5.0
"""Seconds a writer waits for another one."""


def connect(path: Path) -> sqlite3.Connection:
    """A connection to the database at `path`, created if missing; no migration is run."""
    connection = sqlite3.connect(path, PATIENCE_S, isolation_level=None, check_same_thread=False)
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


def reading_only(path: Path) -> sqlite3.Connection:
    """A read-only connection, for a damaged database."""
    connection = sqlite3.connect(
        f"file:{quote(str(path))}?mode=ro", uri=True, isolation_level=None, check_same_thread=False
    )
    connection.row_factory = sqlite3.Row
    return connection


DAMAGED_WORDS = (
    "The database is damaged and is opened for reading only. Put back a copy of it, or take out what can be read: "
    "salttide rescue"
)


def migrations() -> list[tuple[int, str]]:
    """The numbered migrations, in order."""
    folder = resources.files("salttide.store") / "migrations"
    files = sorted((entry.name, entry) for entry in folder.iterdir() if entry.name.endswith(".sql"))
    return [(int(name.removesuffix(".sql")), entry.read_text("utf-8")) for name, entry in files]


def migrate(connection: sqlite3.Connection, path: Path) -> None:
    """Bring the database up to date, each migration in one transaction with its number. An existing database is copied
    first. Foreign keys are off while tables are rebuilt, and all checked before each commit.
    """
    known = migrations()
    if _version(connection) == known[-1][0]:
        return
    connection.execute(f"PRAGMA busy_timeout = {int(START_PATIENCE_S * 1000)}")
    connection.execute("PRAGMA foreign_keys = OFF")
    for number, script in known:
        _migrate_one(connection, path, number, script, known[-1][0])
    connection.execute("PRAGMA foreign_keys = ON")
    connection.execute(f"PRAGMA busy_timeout = {int(PATIENCE_S * 1000)}")


START_PATIENCE_S = 120.0
"""Seconds a start waits for another one that is migrating the same database."""


def _version(connection: sqlite3.Connection) -> int:
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def _migrate_one(connection: sqlite3.Connection, path: Path, number: int, script: str, newest: int) -> None:
    """Run one migration in a transaction, unless another start has done it meanwhile."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        version = _version(connection)
        if version >= number:
            connection.execute("COMMIT")
            return
        copy = path.with_name(f"{path.name}.before-{newest}")
        if version and not copy.exists():
            with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(copy)) as target:
                source.backup(target)
        for statement in _statements(script):
            connection.execute(statement)
        connection.execute(f"PRAGMA user_version = {number}")
        if connection.execute("PRAGMA foreign_key_check").fetchone():
            raise DataError(f"migration {number} would leave rows without what they belong to: nothing was changed")
        connection.execute("COMMIT")
    except BaseException:
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise


def _statements(script: str) -> Iterator[str]:
    """The statements of a script, one by one: to run it as a whole would end the transaction."""
    statement = ""
    for piece in re.split(r"(?<=;)", script):
        statement += piece
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""


def damage_of(path: Path) -> str:
    """What is wrong with the database at `path`, in words; empty where it is sound or missing.

    Raises DataError, before anything in it is touched, for a file that is no database of this program or of a newer
    one, and for one that cannot be opened or written to.
    """
    if not path.exists() or not path.stat().st_size:
        return ""
    if not os.access(path, os.R_OK | os.W_OK):
        raise DataError(f"{path} cannot be written to: give this user the right to, or name another database")
    try:
        with closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True)) as connection:
            version = _version(connection)
            tables = {row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            found = str(connection.execute("PRAGMA quick_check(1)").fetchone()[0])
    except sqlite3.DatabaseError as error:
        if "malformed" in str(error):
            return str(error)
        raise DataError(f"{path} is not a database of Salt Tide, or is damaged beyond reading: {error}") from error
    newest = migrations()[-1][0]
    if version > newest:
        raise DataError(f"this database is of version {version}, newer than this program ({newest}): update Salt Tide")
    if tables and not tables >= OWN_TABLES:
        raise DataError(f"{path} is a database of another program: name another one")
    return "" if found == "ok" else found


OWN_TABLES = frozenset({"system", "entry", "command"})
"""Tables that every version of the database has."""


class Database:
    """One database file, with a connection for each thread."""

    def __init__(self, path: Path) -> None:
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise DataError(f"{path.parent} cannot be made: {error.strerror}") from error
        self.path = path
        self.damaged = damage_of(path)
        self._local = threading.local()
        self._all: list[sqlite3.Connection] = []
        self._watching = threading.Lock()
        self._watcher: sqlite3.Connection | None = None
        if not self.damaged:
            self._brought_up()

    def _brought_up(self) -> None:
        try:
            migrate(self.connection, self.path)
            # Make sure it can be written to before anything is confirmed to the keeper.
            with self.write():
                pass
        except sqlite3.OperationalError as error:
            self.close()
            raise DataError(f"{self.path} cannot be opened for writing: {error}") from error

    @property
    def connection(self) -> sqlite3.Connection:
        """This thread's connection."""
        if not hasattr(self._local, "connection"):
            self._local.connection = reading_only(self.path) if self.damaged else connect(self.path)
            self._all.append(self._local.connection)
        connection: sqlite3.Connection = self._local.connection
        return connection

    def version(self) -> int:
        """A number that changes after every commit by any thread or program, read on a connection that never writes."""
        with self._watching:
            if self._watcher is None:
                self._watcher = reading_only(self.path) if self.damaged else connect(self.path)
                self._all.append(self._watcher)
            return int(self._watcher.execute("PRAGMA data_version").fetchone()[0])

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction, locked for writing at once: all of it is stored, or nothing."""
        if self.damaged:
            raise DamagedError(DAMAGED_WORDS)
        connection = self.connection
        _begin(connection)
        try:
            yield connection
        except BaseException:
            connection.execute("ROLLBACK")
            raise
        connection.execute("COMMIT")

    @contextmanager
    def relaxed_durability(self) -> Iterator[None]:
        """Within it, commits of this thread do not wait for the disk; the first one afterwards waits for all. For rows
        that do not count yet: what a power failure takes was never confirmed.
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
        self._local, self._watcher = threading.local(), None


def _begin(connection: sqlite3.Connection) -> None:
    """Begin to write, waiting for another writer in steps of a millisecond: SQLite's own back-off grows so long that a
    writer of many small transactions always wins."""
    connection.execute("PRAGMA busy_timeout = 0")
    until = time.monotonic() + PATIENCE_S
    try:
        while True:
            try:
                connection.execute("BEGIN IMMEDIATE")
                return
            except sqlite3.OperationalError as error:
                if "locked" not in str(error) or time.monotonic() > until:
                    raise
                time.sleep(0.001)
    finally:
        connection.execute(f"PRAGMA busy_timeout = {int(PATIENCE_S * 1000)}")


def to_text(at: datetime) -> str:
    """A moment as stored: ISO 8601 in UTC, which sorts as text; unconverted at the ends of the calendar."""
    try:
        at = at.astimezone(UTC)
    except OverflowError:
        at = at.replace(tzinfo=UTC)
    return at.isoformat(timespec="seconds")[:19] + "Z"


def to_moment(text: str) -> datetime:
    """A stored moment."""
    return datetime.fromisoformat(text)


def dump(value: Any) -> str:
    """JSON as stored."""
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"))


def command_done(connection: sqlite3.Connection, key: str, asked: str = "") -> Any | None:
    """The answer to an earlier request with this key, or None. asked: the fingerprint of the request. Raises
    ConflictError where the key was used for something else.
    """
    row = connection.execute("SELECT answer, asked FROM command WHERE key = ?", (key,)).fetchone()
    if row is None:
        return None
    if asked and row["asked"] and asked != row["asked"]:
        raise ConflictError("this key was used for another request: nothing was recorded", field="Idempotency-Key")
    return json.loads(row["answer"])


def remember_command(connection: sqlite3.Connection, key: str, answer: Any, at: datetime, asked: str = "") -> None:
    """Store the answer to a request, so that repeating it records nothing."""
    connection.execute(
        "INSERT INTO command (key, done_at, answer, asked) VALUES (?, ?, ?, ?)", (key, to_text(at), dump(answer), asked)
    )
