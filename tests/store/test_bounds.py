"""The database's own bounds: no number and no day beyond them can be stored, by whatever way."""

from __future__ import annotations

import re
import shutil
import sqlite3
import tempfile
import unittest
from pathlib import Path

from tests.stage import demo_database

COMPUTED = {"probe_roll", "probe_series", "import", "import_mapping"}
"""Written by the program from what is bounded already."""
DAYS = {"at", "since", "day", "due", "first", "last", "opened_on", "expires_on", "started_on", "made_at"}


class Bounds(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-bounds-"))
        self.addCleanup(shutil.rmtree, folder)
        path = folder / "test.db"
        shutil.copyfile(demo_database(), path)
        self.connection = sqlite3.connect(path)
        self.addCleanup(self.connection.close)
        self.tables = dict(
            self.connection.execute("SELECT name, sql FROM sqlite_master WHERE type = 'table' AND sql LIKE '%STRICT%'")
        )
        self.triggers = dict(
            self.connection.execute(
                "SELECT tbl_name, sql FROM sqlite_master WHERE type = 'trigger' AND name LIKE '%_bounds_update'"
            )
        )

    def test_every_number_and_day_has_its_bounds(self) -> None:
        missing = []
        for table, sql in self.tables.items():
            if table in COMPUTED:
                continue
            for _, column, kind, *_ in self.connection.execute(f"PRAGMA table_info({table})"):
                bounded = f"NEW.{column} " in self.triggers.get(table, "")
                checked = re.search(rf"CHECK \([^)]*\b{column}\b", sql) or re.search(rf"\b{column}\b[^,]*CHECK", sql)
                if (kind == "REAL" or (kind == "TEXT" and column in DAYS)) and not (bounded or checked):
                    missing.append(f"{table}.{column}")
        self.assertEqual(missing, [])

    def test_what_lies_beyond_is_refused_wherever_there_are_rows(self) -> None:
        tried = 0
        for table, sql in self.triggers.items():
            if not self.connection.execute(f"SELECT 1 FROM {table}").fetchone():
                continue
            days = re.findall(r"NEW\.(\w+) <> ''", sql)
            numbers = [name for name in re.findall(r"NEW\.(\w+) NOT BETWEEN [-\d]", sql) if name not in days]
            for column, values in [(name, (1e30, -1e30, float("inf"))) for name in numbers] + [
                (name, ("0001-01-01", "9999-12-31")) for name in days
            ]:
                for value in values:
                    whole = value == float("inf") or isinstance(value, str)
                    with self.subTest(table=table, column=column, value=value):
                        tried += 1
                        with self.assertRaises(sqlite3.Error) as refused:
                            self.connection.execute(f"UPDATE {table} SET {column} = ?", (value,))
                        if not whole:
                            self.assertRegex(str(refused.exception), "CHECK constraint failed|cannot store")
        self.assertGreater(tried, 100)
