"""How a system is installed: its plumbing, its top-off and its heating, one document each."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import asdict, replace
from typing import Any

from salttide.core.system.heating import NO_HEATING, Heating, Lid
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.system import System
from salttide.core.system.topoff import NO_TOP_OFF, CutOff, Senses, TopOffSetup, TopOffStop

from .database import dump


def save(connection: sqlite3.Connection, system: System) -> None:
    """Store the plumbing, heating and top-off of a system, without what its record shows of them."""
    plumbing, heating = replace(system.plumbing, rise_cm=None), replace(system.heating, evaporates_l_day=None)
    row = (dump(asdict(plumbing)), dump(asdict(heating)), dump(asdict(system.top_off)))
    connection.execute("UPDATE system SET service = ?, heating = ?, top_off = ? WHERE id = ?", (*row, system.id))


def restore(connection: sqlite3.Connection, system_id: int, setup: Mapping[str, Any]) -> None:
    """Put them back as a remembered set-up has them."""
    row = tuple(setup.get(name) or "{}" for name in ("service", "heating", "top_off"))
    connection.execute("UPDATE system SET service = ?, heating = ?, top_off = ? WHERE id = ?", (*row, system_id))


def plumbing(text: str | None) -> Plumbing:
    """The plumbing from its document."""
    return Plumbing(**json.loads(text or "{}"))


def heating(text: str | None) -> Heating:
    """The heating from its document."""
    row: Mapping[str, Any] = json.loads(text or "{}")
    if not row:
        return NO_HEATING
    return Heating(**{**row, "lid": Lid(row["lid"]), "heaters_w": tuple(row["heaters_w"])})


def top_off(text: str | None) -> TopOffSetup:
    """The top-off from its document."""
    row: Mapping[str, Any] = json.loads(text or "{}")
    if not row:
        return NO_TOP_OFF
    stops = tuple(TopOffStop(Senses(one["senses"]), CutOff(one["cut_off"])) for one in row["stops"])
    return TopOffSetup(**{**row, "stops": stops})
