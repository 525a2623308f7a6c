"""What presses at this moment, before all other work: emergencies under way, and alarms that are not over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import tzinfo

from ..alarm.alarm import BY_HAND, Alarm, title_of, words_of
from ..runbook.steps import Runbook
from ..science.units import UnitChoice


@dataclass(frozen=True)
class Pressing:
    """Something that comes before all else. emergency: the key of the one under way, empty for an alarm."""

    title: str
    reason: str
    minutes: float
    urgent: bool
    emergency: str = ""


def pressing_in(
    emergencies: Sequence[Runbook], alarms: Sequence[Alarm], units: UnitChoice, zone: tzinfo
) -> tuple[Pressing, ...]:
    """Emergencies first, then alarms. What a test by hand raised is left out: its finding says what to do about it."""
    reason = "It is under way: go on with its steps, and end it when it is over. Routine work waits meanwhile."
    under_way = [Pressing(f"Emergency: {book.name}", reason, 15, True, book.key) for book in emergencies]
    told = [
        Pressing(f"Alarm: {title_of(one, units)}", words_of(one, units, zone), 5, one.wakes and not one.seen)
        for one in alarms
        if one.sensor != BY_HAND
    ]
    return (*under_way, *told)
