"""Rows of all systems, read at once and parsed system by system: an unreadable one does not affect the others."""

from __future__ import annotations

import sqlite3
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import TypeVar

Kept = TypeVar("Kept")
Rows = list[sqlite3.Row]


class BySystem(Mapping[int, Kept]):
    """Values parsed from rows, by system number; a system without rows has the value of no rows."""

    def __init__(self, rows: Iterable[sqlite3.Row], of: Callable[[Rows], Kept]) -> None:
        self._of = of
        self._rows: dict[int, Rows] = defaultdict(list)
        self._read: dict[int, Kept] = {}
        for row in rows:
            self._rows[row["system_id"]].append(row)

    def __getitem__(self, system_id: int) -> Kept:
        if system_id not in self._read:
            self._read[system_id] = self._of(self._rows.get(system_id, []))
        return self._read[system_id]

    def __contains__(self, system_id: object) -> bool:
        return system_id in self._rows

    def __iter__(self) -> Iterator[int]:
        return iter(self._rows)

    def __len__(self) -> int:
        return len(self._rows)
