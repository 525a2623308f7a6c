"""The kit list of a visit: from the day's plan, its tasks, and the system's make-up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..basics.measures import length_words, litres_words, weight_words
from ..basics.phrasing import counted, listed
from ..planning.work_order import ChangeWorkOrder, DoseWorkOrder, Water, WaterWorkOrder, Work
from ..science.additives import COMPOUNDS
from ..science.amount import dose_text, mass_text
from ..science.draining import siphon_tube_cm
from ..system.catalogue import kit_items
from ..system.system import PanelMaterial, System
from ..upkeep.task import TaskKind
from .context import setting_of
from .file import runbook
from .steps import steps_of

ALWAYS = ("towels", "gloves", "torch")
"""Kit for every visit (judgement)."""


@dataclass(frozen=True)
class KitLine:
    """Something to pack: how much or which, what it is for, and the work that needs it."""

    key: str
    name: str
    amount: str = ""
    why: str = ""
    asked_by: tuple[str, ...] = ()


def kit_list(
    system: System, work: Sequence[tuple[str, Work]], tasks: Sequence[TaskKind], tests: bool = False
) -> tuple[KitLine, ...]:
    """What to pack for one visit: planned work by name, the care tasks of the day, and whether something is tested.

    Each item once, with all work that needs it; what is weighed and poured comes last with its amounts.
    """
    lines: dict[str, KitLine] = {}
    for name, job in work:
        if isinstance(job, ChangeWorkOrder):
            for key in _needs(job):
                _add(lines, system, key, name, job)
    for kind in tasks:
        for key in kind.kit_for(system.panel):
            _add(lines, system, key, kind.name, None)
    if tests:
        for key in ("salinity_meter", "thermometer", "test_kits"):
            _add(lines, system, key, "tests", None)
    if lines:
        for key in ALWAYS:
            _add(lines, system, key, "every visit", None)
    poured = [line for name, job in work for line in _poured(name, job)]
    return (*lines.values(), *poured)


def _needs(job: ChangeWorkOrder) -> list[str]:
    """The kit of a change's runbook, for the steps this change has."""
    book = runbook("near_total" if job.near_total else "water_change")
    needed = [key for step in steps_of(book, setting_of(book, job)) for key in step.needs]
    if job.straight:
        needed = [key for key in needed if key != "bucket"]
    if job.siphon:
        needed.append("siphon_tube")
    if job.fill_min:
        needed.append("pump")
    return needed


def _add(lines: dict[str, KitLine], system: System, key: str, asked_by: str, job: ChangeWorkOrder | None) -> None:
    item = kit_items()[key]
    known = lines.get(key) or KitLine(key, item.name, "", item.why)
    amount = known.amount or _amount(system, key, job)
    names = known.asked_by if asked_by in known.asked_by else (*known.asked_by, asked_by)
    lines[key] = replace(known, amount=amount, asked_by=names)


def _amount(system: System, key: str, job: ChangeWorkOrder | None) -> str:
    """How many, how long, or which, by the system or the work."""
    if key == "bucket" and job is not None:
        return f"{job.buckets} of {litres_words(job.bucket_l, 0)}"
    if key == "siphon_tube":
        return length_words(siphon_tube_cm(system.geometry.depth_cm), 0)
    if key == "tub" and job is not None and job.keep_l:
        return f"for {litres_words(job.keep_l, 0)}"
    if key == "pad":
        return "safe on acrylic" if system.panel == PanelMaterial.ACRYLIC else "for glass"
    return ""


def _poured(name: str, job: Work) -> list[KitLine]:
    """What to weigh and pour: new water or its salt, and the doses."""
    if isinstance(job, DoseWorkOrder):
        return [
            KitLine("dose", job.additive, dose_text(job.mass_g, job.ml or None, job.formula), "as planned", (name,))
        ]
    if isinstance(job, WaterWorkOrder):
        return [KitLine("new_water", job.water, litres_words(job.in_l), "measured on the day", (name,))]
    if not isinstance(job, ChangeWorkOrder):
        return []
    lines = []
    if job.litres and job.salt and job.water == Water.MIX:
        grams = weight_words(job.mass_g)
        lines.append(
            KitLine("salt", job.salt.name, grams, "for the batch, or the batch itself if it is mixed", (name,))
        )
    elif job.litres:
        litres = litres_words(job.litres)
        lines.append(KitLine("new_water", job.water_name or "new water", litres, "measured on the day", (name,)))
    doses = [(job.batch_dose_g, "into the batch"), (job.system_dose_g, "into the system")]
    weighed_out = [f"{mass_text(mass)} {where}" for mass, where in doses if mass]
    if weighed_out:
        lines.append(
            KitLine("additive", COMPOUNDS[job.source].name, listed(weighed_out), "weighed into labelled cups", (name,))
        )
    return lines


def kit_words(lines: Sequence[KitLine], packed: frozenset[str]) -> str:
    """How far the packing is.

    >>> kit_words([KitLine("a", "towels"), KitLine("b", "hose")], frozenset({"a"}))
    '1 thing to pack'
    """
    left = sum(line.key not in packed for line in lines)
    return f"{counted(left, 'thing')} to pack" if left else "all packed"
