"""Frozen work as stored: work orders of planned steps, batches and runs, as JSON with kind and version. Every version
ever written is readable: missing fields get their defaults, unknown ones are ignored.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import asdict, fields
from typing import Any, TypeVar

from salttide.core.basics.errors import DataError
from salttide.core.planning.batch import BatchWorkOrder
from salttide.core.planning.work_order import (
    ChangeWorkOrder,
    DoseWorkOrder,
    VisualCheckOrder,
    Water,
    WaterWorkOrder,
)
from salttide.core.runbook.context import TankWorkOrder
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.mix import SaltMix, StrengthBasis
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.system import Limits

from .database import dump

Stored = ChangeWorkOrder | DoseWorkOrder | WaterWorkOrder | VisualCheckOrder | BatchWorkOrder | TankWorkOrder
T = TypeVar("T")
VERSION = 2
"""1: the work alone, its kind told by what it has · 2: kind and version beside it."""
KINDS: Mapping[type, str] = {
    ChangeWorkOrder: "change",
    DoseWorkOrder: "dose",
    WaterWorkOrder: "water",
    VisualCheckOrder: "look",
    BatchWorkOrder: "batch",
    TankWorkOrder: "tank",
}


def work_text(work: Stored) -> str:
    """Work as stored."""
    table = asdict(work)
    if isinstance(work, TankWorkOrder):
        table["flags"] = sorted(work.flags)
    return dump({"kind": KINDS[type(work)], "version": VERSION, "work": table})


def work_of(text: str) -> Stored:
    """Stored work of any version. Raises DataError for anything else."""
    data: dict[str, Any] = json.loads(text)
    kind, table = (data["kind"], data["work"]) if "version" in data else (_kind_of_first(data), data)
    if data.get("version", 1) > VERSION:
        raise DataError("this work order was saved by a newer version of Salt Tide: start that one")
    if kind not in _READ:
        raise DataError(f"there is frozen work of an unknown kind: “{kind}”")
    try:
        return _READ[kind](table)
    except (KeyError, TypeError, ValueError) as error:
        raise DataError(f"frozen work of the kind “{kind}” cannot be read: {error}") from error


def _kind_of_first(data: Mapping[str, Any]) -> str:
    """The kind of work of the first version, by what only it has."""
    of = {"additive": "dose", "due_at": "look", "slots": "tank", "container_l": "batch"}
    return next((kind for key, kind in of.items() if key in data), "change")


def _made(kind: Callable[..., T], table: Mapping[str, Any], **read: Any) -> T:
    """One of a kind from its table: what has a form of its own as it was read, unknown fields left out."""
    known = {field.name for field in fields(kind)}  # type: ignore[arg-type]
    return kind(**{**{key: value for key, value in table.items() if key in known}, **read})


def _change(table: Mapping[str, Any]) -> ChangeWorkOrder:
    return _made(
        ChangeWorkOrder,
        table,
        **_by_parameters(table, "before", "incoming", "units"),
        source=AlkalinitySource(table["source"]),
        salt=_salt(table["salt"]),
        limits=Limits(**table["limits"]),
        water=Water(table.get("water", Water.MIX)),
        zones=tuple((name, litres) for name, litres in table.get("zones", ())),
    )


def _batch(table: Mapping[str, Any]) -> BatchWorkOrder:
    salt = _salt(table["salt"])
    if salt is None:
        raise DataError("a batch without its salt")
    read = _by_parameters(table, "incoming", "units")
    return _made(BatchWorkOrder, table, **read, source=AlkalinitySource(table["source"]), salt=salt)


def _tank(table: Mapping[str, Any]) -> TankWorkOrder:
    bands = {Parameter(key): (low, high) for key, (low, high) in table["bands"].items()}
    return _made(TankWorkOrder, table, bands=bands, flags=frozenset(table["flags"]), **_by_parameters(table, "units"))


_READ: Mapping[str, Callable[[Mapping[str, Any]], Stored]] = {
    "change": _change,
    "dose": lambda table: _made(DoseWorkOrder, table, **_by_parameters(table, "amounts", "before")),
    "water": lambda table: _made(WaterWorkOrder, table, **_by_parameters(table, "holds", "before")),
    "look": lambda table: _made(VisualCheckOrder, table),
    "batch": _batch,
    "tank": _tank,
}


def _salt(salt: Mapping[str, Any] | None) -> SaltMix | None:
    if not salt:
        return None
    return SaltMix(
        salt["id"],
        salt["name"],
        salt["strength_g_l"],
        StrengthBasis(salt["basis"]),
        {Parameter(name): Span(**span) for name, span in salt["values"].items()},
        salt["values_from"],
    )


def _by_parameters(table: Mapping[str, Any], *names: str) -> dict[str, dict[Parameter, Any]]:
    """Tables by parameter, as far as they are there."""
    return {name: {Parameter(key): value for key, value in table[name].items()} for name in names if name in table}
