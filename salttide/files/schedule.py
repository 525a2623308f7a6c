"""The schedule of dosing pumps as an open file, JSON or CSV: what a pump, or a script that drives one, can read.

Times are local clock times of the system; mL as set, before any correction for what a pump really delivers.
"""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Sequence
from dataclasses import dataclass

from salttide.core.estimate.dose_times import Slot

FORMAT, VERSION = "dosing-schedule", 1


@dataclass(frozen=True)
class PumpSchedule:
    """One head: the container it draws from, what is in it, its flow (mL/min, None where it was never calibrated)."""

    container: str
    pump: str
    holds: str
    flow_ml_min: float | None
    slots: Sequence[Slot]


def clock(minute: int) -> str:
    """Minutes after midnight as HH:MM."""
    return f"{minute // 60:02d}:{minute % 60:02d}"


def _seconds(one: PumpSchedule, ml: float) -> float | None:
    return round(ml / one.flow_ml_min * 60, 1) if one.flow_ml_min else None


def schedule_json(system: str, zone: str, pumps: Sequence[PumpSchedule]) -> str:
    """The whole schedule as JSON."""
    return json.dumps(
        {
            "format": FORMAT,
            "version": VERSION,
            "system": system,
            "time_zone": zone,
            "pumps": [
                {
                    "container": one.container,
                    "pump": one.pump,
                    "holds": one.holds,
                    "flow_ml_min": one.flow_ml_min,
                    "doses": [
                        {"time": clock(slot.minute), "ml": slot.ml, "seconds": _seconds(one, slot.ml)}
                        for slot in one.slots
                    ],
                }
                for one in pumps
            ],
        },
        indent=2,
        ensure_ascii=False,
    )


COLUMNS = ("container", "pump", "holds", "time", "ml", "seconds")


def schedule_csv(pumps: Sequence[PumpSchedule]) -> str:
    """The same as CSV, a row for each dose, by time."""
    file = io.StringIO()
    writer = csv.writer(file)
    writer.writerow(COLUMNS)
    rows = [(slot.minute, one, slot.ml) for one in pumps for slot in one.slots]
    for minute, one, ml in sorted(rows, key=lambda row: row[0]):
        seconds = _seconds(one, ml)
        writer.writerow(
            (one.container, one.pump, one.holds, clock(minute), f"{ml:g}", "" if seconds is None else f"{seconds:g}")
        )
    return file.getvalue()
