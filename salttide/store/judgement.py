"""Which rules of judgement the keeper has switched off, per system."""

from __future__ import annotations

import sqlite3

from .by_system import BySystem


def rules_off(connection: sqlite3.Connection) -> BySystem[frozenset[str]]:
    """The keys of the rules that stay silent, by system."""
    return BySystem(
        connection.execute("SELECT system_id, rule FROM rule_off"), lambda rows: frozenset(row["rule"] for row in rows)
    )


def switch_rule(connection: sqlite3.Connection, system_id: int, rule: str, on: bool) -> None:
    """Switch a rule on or off; doing it twice changes nothing."""
    if on:
        connection.execute("DELETE FROM rule_off WHERE system_id = ? AND rule = ?", (system_id, rule))
    else:
        connection.execute("INSERT OR IGNORE INTO rule_off VALUES (?, ?)", (system_id, rule))
