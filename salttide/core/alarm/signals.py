"""What an alarm can go by: a parameter of the water, or a contact that is on or off; and the limits of each."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from ..basics.errors import DataError, InputError, check_range
from ..failure.file import safeguards
from ..runbook.file import runbook_keys
from ..science.parameters import FACTS, Parameter
from ..system.catalogue import data_file, reading_data
from ..system.system import System

ON = 0.5
"""A contact reads 0 or 1: above this it is on."""
MAX_HOLD_MIN = 720.0


@dataclass(frozen=True)
class Signal:
    """Something to watch. parameter: None for a contact · beyond: how far past its band the usual limit lies ·
    back: how far inside the limit it is over · hold_min: how long it has to last · low, high: what it is then called ·
    wakes: told in quiet hours too · guards: the safeguard that it is."""

    key: str
    name: str
    hold_min: float
    wakes: bool
    high: str
    low: str = ""
    parameter: Parameter | None = None
    beyond: float = 0.0
    back: float = 0.0
    low_sheet: str = ""
    high_sheet: str = ""
    guards: str = ""

    @property
    def contact(self) -> bool:
        """Whether it is on or off, not measured."""
        return self.parameter is None


@cache
def signals() -> Mapping[str, Signal]:
    """Everything that can be watched, by key."""
    with reading_data("signals"):
        found = {}
        for key, row in data_file("signals").items():
            parameter = Parameter(row["parameter"]) if "parameter" in row else None
            one = Signal(key, **{**row, "parameter": parameter})
            if one.guards and one.guards not in safeguards():
                raise ValueError(f"{key}: “{one.guards}” is not a safeguard")
            if unknown := {one.low_sheet, one.high_sheet} - {"", *runbook_keys()}:
                raise ValueError(f"{key}: {sorted(unknown)} are not sheets")
            found[key] = one
        return found


@dataclass(frozen=True)
class AlarmLimit:
    """What is watched of one system, canonical. low, high: None where that side is not watched · back: how far inside a
    limit it is over · hold_min: minutes it has to last before it counts · wakes: told in quiet hours too."""

    signal: str
    low: float | None = None
    high: float | None = None
    back: float = 0.0
    hold_min: float = 0.0
    wakes: bool = True

    @property
    def kind(self) -> Signal:
        """What it watches."""
        return signals()[self.signal]


def usual_limit(signal: Signal, system: System) -> AlarmLimit:
    """The limit suggested for a system: a little beyond its band, and a contact when it is on."""
    parameter = signal.parameter
    if parameter is None:
        return AlarmLimit(signal.key, None, ON, 0.0, signal.hold_min, signal.wakes)
    band, possible = system.bands.get(parameter), FACTS[parameter].possible
    span = FACTS[parameter].likely if band is None else band
    beyond = 0.0 if band is None else signal.beyond
    low, high = (possible.nearest(end) for end in (span.low - beyond, span.high + beyond))
    return AlarmLimit(signal.key, low, high, signal.back, signal.hold_min, signal.wakes)


def check_limit(limit: AlarmLimit) -> AlarmLimit:
    """Refuse at its field what cannot work: no side at all, sides that cross, a way back wider than the room between
    them, and more than half a day of waiting."""
    parameter = limit.kind.parameter
    check_range("minutes", limit.hold_min, "min", 0, MAX_HOLD_MIN, field="hold_min")
    if parameter is None:
        return AlarmLimit(limit.signal, None, ON, 0.0, limit.hold_min, limit.wakes)
    possible = FACTS[parameter].possible
    for side in ("low", "high"):
        value = getattr(limit, side)
        if value is not None:
            check_range(f"{side} limit", value, "", possible.low, possible.high, field=side)
    if limit.low is None and limit.high is None:
        raise InputError("an alarm needs a limit", field="low", accepted="a low limit, a high limit, or both")
    if limit.low is not None and limit.high is not None and limit.low >= limit.high:
        raise InputError(
            "the low limit is not below the high one", field="low", accepted="a value below the high limit"
        )
    width = possible.width if limit.low is None or limit.high is None else limit.high - limit.low
    if not 0 <= limit.back <= width / 2:
        accepted = "0 up to half of what lies between the limits"
        raise InputError("it would never be over", field="back", accepted=accepted)
    return limit


def signal_of(key: str) -> Signal:
    """A signal by its key. Raises DataError."""
    found = signals().get(key)
    if found is None:
        raise DataError(f"there is no signal “{key}”")
    return found
