"""Kinds of care tasks: when each is due, how it is done and which systems need it; one data file each, validated when
loaded."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cache
from typing import Any

from ..basics.errors import InputError
from ..system.catalogue import cautions, data_folder, gear_kinds, kit_items, reading_data
from ..system.observations import found_kinds
from ..system.system import Panel, PanelMaterial, SandMethod, System

RARE_DAYS = 60
"""Tasks with at least this interval, in days, are rare: the year shows them (judgement)."""


class RoundPart(StrEnum):
    """The working order of a round."""

    LOOK = "look"
    TEST = "test"
    PREPARE = "prepare"
    CREEP = "creep"
    SCRAPE = "scrape"
    ROCK = "rock"
    STIR = "stir"
    DRAIN = "drain"
    SKIMMER = "skimmer"
    GEAR = "gear"
    REFILL = "refill"
    FILTER = "filter"
    TOOLS = "tools"
    DESK = "desk"


class Measure(StrEnum):
    """How an observation makes a task due.

    FILLS: found each time it is done, since the last time; due when as much has come together again. REACHES: due once
    the last finding is at the limit. ADDS_UP: due once the findings since it was last done come to the limit. FALLS:
    due once the last finding lies that many percent under the flow found after it was last done.
    """

    FILLS = "fills"
    REACHES = "reaches"
    ADDS_UP = "adds_up"
    FALLS = "falls"


@dataclass(frozen=True)
class Measured:
    """Due by an observation: its key, the task that records it, and the limit in its unit."""

    how: Measure
    finding: str
    task: str
    limit: float | None = None


@dataclass(frozen=True)
class Uses:
    """Due after another task was done a number of times."""

    task: str
    most: int


@dataclass(frozen=True)
class Trigger:
    """What makes it due more often (`every_days`), or at once where seen since it was last done (None). on: rules of
    judgement and signs, by key."""

    on: frozenset[str]
    why: str
    every_days: int | None = None


class Missed(StrEnum):
    """What it means when a task is left undone: a danger to animals or floor; owed, and done as soon as there is time;
    or nothing that cannot wait until its next time."""

    DANGER = "danger"
    OWED = "owed"
    WAIT = "wait"


@dataclass(frozen=True)
class TaskKind:
    """A kind of care task.

    every_days: default interval · early_days, late_days: how much earlier or later is fine · minutes: hands on, waits:
    left alone after that · off: gear that is off meanwhile · cautions: by key · goes_with: tasks whose day it shares
    where it can, follows: those that it comes after even where it is not due yet · never_with: tasks that must not
    share its day · zones: parts done in turn, whole_below_cm: a bed thinner than that is done whole · records: what is
    found · runbook: its steps at the tank · by: what tells its days instead of an interval · each: the task whose
    interval it has · missed: what it means when it is left undone · carer: how a visiting carer does it, empty where
    they do not · household: once for all systems together · asked: only where a programme asks for it · needs: what
    must be found each time.
    """

    key: str
    name: str
    short: str
    phase: RoundPart
    every_days: int
    early_days: int
    late_days: int
    minutes: float
    why: str
    waits: float = 0.0
    aliases: tuple[str, ...] = ()
    tools: Mapping[str, str] = field(default_factory=dict)
    kit: tuple[str, ...] = ()
    kit_by_panel: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    off: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    sand: tuple[SandMethod, ...] = ()
    gear: tuple[str, ...] = ()
    panels: tuple[Panel, ...] = ()
    material: tuple[PanelMaterial, ...] = ()
    household: bool = False
    method: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    breaking_in: bool = True
    goes_with: tuple[str, ...] = ()
    follows: tuple[str, ...] = ()
    never_with: tuple[str, ...] = ()
    zones: tuple[str, ...] = ()
    whole_below_cm: float = 0.0
    uses: Uses | None = None
    measured: Measured | None = None
    stirred: tuple[Trigger, ...] = ()
    records: tuple[str, ...] = ()
    runbook: str = ""
    by: str = ""
    each: str = ""
    carer: str = ""
    missed: Missed = Missed.OWED
    asked: bool = False
    needs: tuple[str, ...] = ()

    @property
    def rare(self) -> bool:
        """Whether the year shows it."""
        return self.every_days >= RARE_DAYS

    @property
    def joins(self) -> tuple[str, ...]:
        """The tasks whose day it shares where it can."""
        return (*self.follows, *self.goes_with)

    def kit_for(self, panel: PanelMaterial) -> tuple[str, ...]:
        """What to have at hand for it, by key of the kit; the tool by the panel's material."""
        return (*self.kit, *self.kit_by_panel.get(panel.value, ()))

    def tool(self, panel: PanelMaterial) -> str:
        """The tool for this panel material; empty where it does not matter."""
        return self.tools.get(panel.value, "")

    def suits(self, system: System) -> bool:
        """Whether a system needs the task at all: by its sand, gear, panels, methods and stage."""
        answers = system.methods.answers
        return (
            (not self.sand or system.methods.sand in self.sand)
            and (not self.gear or not set(self.gear).isdisjoint(system.gear))
            and (not self.material or system.panel in self.material)
            and (not self.panels or not set(self.panels).isdisjoint(system.clean_panels))
            and all(answers.get(question) in choices for question, choices in self.method.items())
            and (self.breaking_in or system.stage != "breaking_in")
        )

    def zones_for(self, system: System) -> tuple[str, ...]:
        """The zones done in turn; none where a thin bed is done whole."""
        thin = self.whole_below_cm and system.geometry.sand_bed_cm < self.whole_below_cm
        return () if thin else self.zones


PART = ":part"
"""Suffix of the key a first part is recorded under: it does not count as the task done."""


def part_of(task: str) -> str:
    """The key that a first part of a task is recorded under.

    >>> part_of("powerheads"), task_words(part_of("powerheads"))
    ('powerheads:part', 'Strip the powerheads, in part')
    """
    return task + PART


def task_words(task: str, own: Mapping[str, str] | None = None) -> str:
    """The name of a task by its key; own: names of the keeper's own tasks. Work without a kind of task, such as a
    follow-up check, goes by its key.

    >>> task_words("look"), task_words("own_3", {"own_3": "Polish the lid"})
    ('look', 'Polish the lid')
    """
    key = task.removesuffix(PART)
    other = (own or {}).get(key, "a task of your own") if key.startswith(OWN) else key.replace("_", " ")
    name = tasks()[key].name if key in tasks() else other
    return name if key == task else f"{name}, in part"


OWN = "own_"
"""Prefix of the keys of the keeper's own tasks."""


def own_kind(
    number: int, name: str, every_days: int, minutes: float, note: str = "", phase: RoundPart = RoundPart.TOOLS
) -> TaskKind:
    """A task of the keeper's own: every 1 to 730 days, 1 to 600 minutes. Raises InputError at its field.

    >>> own_kind(3, "Polish the lid", 14, 5).late_days
    3
    """
    if not 2 <= len(name.strip()) <= 40:
        raise InputError("give it a name of 2 to 40 characters", field="name", accepted="2 to 40 characters")
    if not 1 <= every_days <= 730:
        raise InputError("how often it comes round: 1 to 730 days", field="every_days", accepted="1 to 730 days")
    if not 1 <= minutes <= 600:
        raise InputError("how long it takes: 1 to 600 min", field="minutes", accepted="1 to 600 min")
    early, late = every_days // 6, every_days // 4
    why = note.strip() or "A task of your own."
    return TaskKind(f"{OWN}{number}", name.strip(), name.strip(), phase, every_days, early, late, minutes, why)


@cache
def tasks() -> dict[str, TaskKind]:
    """All packaged task kinds by key, in the order of a round."""
    kinds = [_task(key, table) for key, table in data_folder("tasks")]
    order = list(RoundPart)
    kinds.sort(key=lambda kind: (order.index(kind.phase), kind.every_days, kind.key))
    found = {kind.key: kind for kind in kinds}
    for kind in kinds:
        with reading_data(f"tasks/{kind.key}"):
            others = {*kind.joins, *kind.never_with, *([kind.uses.task] if kind.uses else [])}
            others |= {kind.measured.task} if kind.measured else set()
            others |= {kind.each} if kind.each else set()
            _known(sorted(others), found, "a task")
    return found


_LISTS = (
    "aliases", "kit", "off", "cautions", "goes_with", "follows", "never_with", "zones", "records", "gear", "needs",
)  # fmt: skip
_PLAIN = ("waits", "breaking_in", "household", "whole_below_cm", "runbook", "by", "each", "carer", "tools", "asked")
_NEEDED = ("name", "short", "phase", "every_days", "early_days", "late_days", "minutes", "why")
_OTHERS = ("missed", "kit_by_panel", "sand", "panels", "material", "method", "uses", "measured", "stirred")


def _task(key: str, table: Mapping[str, Any]) -> TaskKind:
    with reading_data(f"tasks/{key}"):
        _known(table, (*_NEEDED, *_LISTS, *_PLAIN, *_OTHERS), "a field of a task")
        lists = {name: tuple(table.get(name, ())) for name in _LISTS}
        by_panel = {panel: tuple(keys) for panel, keys in table.get("kit_by_panel", {}).items()}
        _known([*lists["kit"], *(item for keys in by_panel.values() for item in keys)], kit_items(), "in the kit")
        _known(lists["cautions"], cautions(), "a caution")
        _known([*lists["off"], *lists["gear"]], gear_kinds(), "a kind of gear")
        _known(lists["records"], found_kinds(), "something that is found")
        _known(lists["needs"], lists["records"], "recorded by it")
        plain: dict[str, Any] = {name: table[name] for name in (*_NEEDED, *_PLAIN) if name in table}
        plain |= {
            **lists,
            "phase": RoundPart(table["phase"]),
            "key": key,
            "kit_by_panel": by_panel,
            **_rules_of(key, table),
        }
        return TaskKind(**plain)


def _rules_of(key: str, table: Mapping[str, Any]) -> dict[str, Any]:
    """Which systems need it, and what makes it due besides its interval."""
    measured = table.get("measured")
    return {
        "missed": Missed(table.get("missed", Missed.OWED)),
        "sand": tuple(SandMethod(name) for name in table.get("sand", ())),
        "material": tuple(PanelMaterial(name) for name in table.get("material", ())),
        "panels": tuple(Panel(name) for name in table.get("panels", ())),
        "method": {question: tuple(choices) for question, choices in table.get("method", {}).items()},
        "uses": Uses(**table["uses"]) if "uses" in table else None,
        "measured": Measured(**{"task": key, **measured, "how": Measure(measured["how"])}) if measured else None,
        "stirred": tuple(Trigger(**{**one, "on": frozenset(one["on"])}) for one in table.get("stirred", ())),
    }


def _known(keys: Collection[str], known: Collection[str], what: str) -> None:
    unknown = [key for key in keys if key not in known]
    if unknown:
        raise ValueError(f"“{unknown[0]}” is not {what}")
