"""Frozen work as stored: the jobs of planned steps, of batches and of runs, as JSON."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from salttide.core.additives import AlkalinitySource
from salttide.core.batch import BatchJob
from salttide.core.job import DoseJob, Job, LookJob, Water
from salttide.core.mix import SaltMix, StrengthBasis
from salttide.core.parameters import Parameter, Span
from salttide.core.setting import TankJob
from salttide.core.system import Limits

from .database import dump

Stored = Job | DoseJob | LookJob | BatchJob | TankJob


def work_text(work: Stored) -> str:
    """Work as stored."""
    table = asdict(work)
    if isinstance(work, TankJob):
        table["flags"] = sorted(work.flags)
    return dump(table)


def work_of(text: str) -> Stored:
    """Stored work; what it is follows from what it has."""
    data: dict[str, Any] = json.loads(text)
    if "additive" in data:
        data["amounts"], data["before"] = (_by_parameter(data.get(name, {})) for name in ("amounts", "before"))
        return DoseJob(**data)
    if "due_at" in data:
        return LookJob(data["due_at"], data["why"])
    if "slots" in data:
        bands = {Parameter(key): (low, high) for key, (low, high) in data["bands"].items()}
        return TankJob(
            **{**data, "bands": bands, "flags": frozenset(data["flags"]), "units": _by_parameter(data["units"])}
        )
    for name in ("before", "incoming", "units"):
        if name in data:
            data[name] = _by_parameter(data[name])
    data["source"] = AlkalinitySource(data["source"])
    data["salt"] = _salt(data["salt"]) if data["salt"] else None
    return BatchJob(**data) if "container_l" in data else _job(data)


def _job(data: dict[str, Any]) -> Job:
    data["limits"] = Limits(**data["limits"])
    data["water"] = Water(data.get("water", Water.MIX))
    data["zones"] = tuple((name, litres) for name, litres in data.get("zones", ()))
    return Job(**data)


def _salt(salt: Mapping[str, Any]) -> SaltMix:
    return SaltMix(
        salt["id"],
        salt["name"],
        salt["strength_g_l"],
        StrengthBasis(salt["basis"]),
        {Parameter(name): Span(**span) for name, span in salt["values"].items()},
        salt["values_from"],
    )


def _by_parameter(table: Mapping[str, Any]) -> dict[Parameter, Any]:
    return {Parameter(key): value for key, value in table.items()}
