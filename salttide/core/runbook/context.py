"""The context a runbook is worked in: for a change, a batch, or other work on a system."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from string import Formatter

from ..basics.measures import length_words, litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import counted, listed
from ..planning.batch import BatchWorkOrder
from ..planning.batch_match import batch_gate
from ..planning.batch_plan import batch_slots
from ..planning.match_gate import GateKind, GateLine, match_gate
from ..planning.work_order import ChangeWorkOrder
from ..science.additives import COMPOUNDS, dissolving_water_l
from ..science.amount import dose_text, mass_text
from ..science.parameters import Parameter
from ..science.units import UnitChoice, show
from ..system.catalogue import gear_kinds, kit_items, power_on
from .steps import CountAim, Counted, Runbook, RunbookContext, RunbookStep, TickItem


@dataclass(frozen=True)
class TankWorkOrder:
    """Work on a system: gear by key, bands, and the slots of its runbook's texts, frozen at the start. task: the care
    task it is done for, if any.
    """

    system_id: int
    gear: Mapping[str, str]
    bands: Mapping[Parameter, tuple[float, float]]
    slots: Mapping[str, str]
    flags: frozenset[str]
    air_min: float
    air_for: str
    units: UnitChoice = field(default_factory=dict)
    task: str = ""


RunWork = ChangeWorkOrder | BatchWorkOrder | TankWorkOrder
"""The subjects a runbook can be worked on."""


def setting_of(book: Runbook, work: RunWork) -> RunbookContext:
    """The context a runbook is worked in."""
    if isinstance(work, TankWorkOrder):
        return _tank(work)
    found = _change(work) if isinstance(work, ChangeWorkOrder) else _batch(work)
    return replace(found, lists={**found.lists, "kit": _kit(book, found)})


def filled(text: str, slots: Mapping[str, str]) -> str:
    """A text of a runbook with its slots; one that is empty leaves no gap.

    >>> filled("Return off. {back} Lift the hoses.", {"back": ""})
    'Return off. Lift the hoses.'
    """
    return " ".join(text.format(**slots).split())


def entry_of(setting: RunbookContext, step: RunbookStep) -> str:
    """The quick entry that records a step; empty while its amount is not known."""
    named = [slot for _, slot, _, _ in Formatter().parse(step.entry) if slot]
    return filled(step.entry, setting.slots) if all(setting.slots.get(slot) for slot in named) else ""


def gate_of(work: RunWork, kind: GateKind, measured: Mapping[Parameter, float]) -> tuple[GateLine, ...]:
    """The lines of a gate for what was measured."""
    if isinstance(work, ChangeWorkOrder):
        return match_gate(work, measured, kind)
    return batch_gate(work, measured) if isinstance(work, BatchWorkOrder) else ()


def power_lists(gear: Mapping[str, str]) -> dict[str, dict[str, TickItem]]:
    """The gear to switch off, and on again, each in order."""
    kinds = gear_kinds()
    switched = [key for key in gear if kinds[key].off_why]
    off = {key: TickItem(gear[key], kinds[key].off_why) for key in switched}
    on = {key: TickItem(gear[key], kinds[key].on_check) for key in power_on(switched)}
    return {"off": off, "on": on}


def power_on_words(gear: Mapping[str, str]) -> str:
    """The order of switching on, piece by piece.

    >>> power_on_words({"heater": "heater", "top_off": "top-off", "return_pump": "return pump"})
    'return pump, then top-off, and last heater, once water covers it'
    """
    names = [gear[key] for key in power_on(gear) if key != "heater"]
    first = ", then ".join(names)
    if "heater" not in gear:
        return first
    return f"{first}, and last {gear['heater']}, once water covers it" if first else "the heater, once water covers it"


def _kit(book: Runbook, setting: RunbookContext) -> dict[str, TickItem]:
    """The kit the existing steps need."""
    known = kit_items()
    needed = dict.fromkeys(key for step in book.steps if setting.holds(step.when) for key in step.needs)
    return {key: TickItem(known[key].name, known[key].why) for key in needed}


def _change(job: ChangeWorkOrder) -> RunbookContext:
    flags = {
        "dose": bool(job.system_dose_g), "siphon": job.siphon, "keep": job.keep_l > 0, "heater": "heater" in job.gear,
        "skimmer": "skimmer" in job.gear, "zones": len(job.zones) > 1, "straight": job.straight,
        "buckets": not job.straight, "sump_falls": job.sump_falls, "hose": job.drain_min > 0,
    }  # fmt: skip
    siphon = {"siphon": TickItem("sand siphoned", "by zones, while the water runs; pinch the hose when sand rises")}
    aim = CountAim(job.litres, job.bucket_l, job.mark_cm, job.litres_per_cm, job.volume_l)
    return RunbookContext(
        _change_slots(job),
        frozenset(name for name, holds in flags.items() if holds),
        {**power_lists(job.gear), **({"siphon": siphon} if job.siphon else {})},
        {Counted.OUT: aim, Counted.IN: aim},
        {},
        {"air": (job.air_min, job.air_for)},
        {},
        job.gear,
    )


_GATED = (Parameter.SALINITY, Parameter.ALKALINITY)


def _change_slots(job: ChangeWorkOrder) -> dict[str, str]:
    """The slots for the texts of a change."""
    planned = {p: show(p, job.incoming[p], job.units) for p in _GATED if p in job.incoming}
    millilitres = dissolving_water_l(job.source, job.system_dose_g) * 1000
    buckets = counted(job.buckets, "bucket")
    zones = listed([f"{name} {litres_words(litres)}" for name, litres in job.zones])
    falls = "sump" if job.sump_falls else "display"
    drain = f", about {show_number(job.drain_min, 0)} min" if job.drain_min else ""
    how = f"straight to the drain{drain}" if job.straight else buckets
    return {
        "litres": litres_words(job.litres),
        "mark": f"{'roughly ' if job.rough_mark else ''}{length_words(job.mark_cm, 0 if job.rough_mark else 1)}",
        "falls": falls,
        "how": how,
        "zones": zones or "all in one go",
        "keep": litres_words(job.keep_l),
        "water": job.water_name or "new water",
        "temperature": show(Parameter.TEMPERATURE, job.temperature_c, job.units),
        "salinity": planned.get(Parameter.SALINITY, "not known"),
        "alkalinity": planned.get(Parameter.ALKALINITY, "not known"),
        "ph": show(Parameter.PH, job.before[Parameter.PH], job.units) if Parameter.PH in job.before else "not known",
        "dose": mass_text(job.system_dose_g),
        "source": COMPOUNDS[job.source].name,
        "dissolve": f"{show_number(max(50, round(millilitres / 10) * 10), 0)} mL",
        "on_order": power_on_words(job.gear),
        "tool": job.tool or "A pad that is safe on this panel.",
        "fill": f"about {show_number(job.fill_min, 0)} min by the pump"
        if job.fill_min
        else "no faster than it went out",
    }


def _batch(job: BatchWorkOrder) -> RunbookContext:
    doses = {
        formula: TickItem(
            f"{dose_text(mass, formula=formula)} {formula}", "dissolved on its own first, stirred in before the next"
        )
        for formula, mass in job.doses.items()
    }
    return RunbookContext(
        batch_slots(job),
        frozenset({"doses"} if doses else ()) | frozenset({"heater"} if job.heated else ()),
        {"doses": doses},
        {Counted.FRESH: CountAim(job.fresh_l, job.by_l, most_l=job.container_l)},
        {"mixing": job.mixing_min},
    )


def _tank(job: TankWorkOrder) -> RunbookContext:
    return RunbookContext(
        job.slots,
        job.flags,
        power_lists(job.gear),
        {},
        {},
        {"air": (job.air_min, job.air_for)},
        job.bands,
        job.gear,
    )
