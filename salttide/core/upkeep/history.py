"""The history of a task: how regularly it was done, how long it really took, and the trend of its observations."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import tzinfo
from itertools import pairwise
from statistics import median

from ..basics.measures import part_words
from ..basics.number_text import show_number
from ..basics.phrasing import counted
from ..ledger.entries import Care
from ..system.observations import InputType, found_kinds, number_found
from .task import TaskKind

LOST_FLOW = 0.15
"""Share of a flow that is lost and worth mentioning (judgement)."""


@dataclass(frozen=True)
class History:
    """How often it was timed; the days between, in words; the trend of its observations."""

    timed: int
    gaps: str
    trend: str


def history_of(kind: TaskKind, care: Sequence[Care], zone: tzinfo) -> History:
    """The history of one task by its record, oldest entry first."""
    done = [entry for entry in care if not entry.skipped]
    return History(sum(entry.timed for entry in done), _gaps(done, zone, len(care) - len(done)), _trend(kind, done))


def _gaps(done: Sequence[Care], zone: tzinfo, skipped: int) -> str:
    days = [entry.at.astimezone(zone).date() for entry in done]
    gaps = [(later - earlier).days for earlier, later in pairwise(days) if later > earlier]
    if not gaps:
        return "done once so far" if done else "not recorded yet"
    words = f"done {counted(len(done), 'time')}, {show_number(median(gaps), 0)} days between as a rule"
    words += f", {max(gaps)} at most" if max(gaps) > 1.5 * median(gaps) else ""
    return words + (f"; skipped {counted(skipped, 'time')}" if skipped else "")


def _trend(kind: TaskKind, done: Sequence[Care]) -> str:
    """The loss of a flow since new, or the last number against the ones before."""
    if "flow_before" in kind.records:
        return _flow(done)
    for key in kind.records:
        if found_kinds()[key].input_type == InputType.NUMBER:
            values = _numbers(done, key)
            if len(values) >= 2:
                return _last_of(key, values)
    return ""


def _flow(done: Sequence[Care]) -> str:
    """How much flow a service restores, and how much was lost before the last one."""
    after, before = _numbers(done, "flow_after"), _numbers(done, "flow_before")
    if not before or not after:
        return ""
    lost = 1 - before[-1] / max(after)
    words = f"It had lost {show_number(100 * lost, 0)} % of its best flow at the last service"
    words += f" ({part_words(before[-1], max(after), 'L/h', 0)})"
    return words + (": strip it more often." if lost > LOST_FLOW else ".")


def _numbers(done: Sequence[Care], key: str) -> list[float]:
    return [value for entry in done if (value := number_found(entry.found, key)) is not None]


def _last_of(key: str, values: Sequence[float]) -> str:
    kind = found_kinds()[key]
    usual = median(values[:-1])
    last, before = (f"{show_number(value, kind.digits)} {kind.unit}".strip() for value in (values[-1], usual))
    return f"{kind.name}: {last} at last, {before} as a rule before."
