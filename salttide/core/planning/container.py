"""Dosing containers with their pumps, and their events. A container's state follows from its events alone: filled,
level read, daily amount set, pump calibrated, new tube. What that says of the pump is in `delivery`.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import pairwise

from ..basics.errors import InputError, check_range
from ..basics.working import Formula, FormulaInput, Result
from ..estimate.dose_times import Slot
from ..system.shelf import Additive

FLOW = Formula("q", "flow of the pump", "v / t * 60", "mL/min", "timed volume")
TUBE_DAYS = 365
"""A pump tube is renewed yearly (judgement)."""
MIN_CAPACITY_ML, MAX_CAPACITY_ML = 50.0, 60_000.0
"""The smallest and the largest dosing container, mL."""
MIN_SETTING_ML = 0.05
"""A drop, in mL: no pump doses less in a day."""


class ContainerKind(StrEnum):
    """What happened to a container or its pump."""

    FILLED = "filled"
    LEVEL = "level"
    SET = "set"
    CALIBRATED = "calibrated"
    TUBE = "tube"


@dataclass(frozen=True)
class ContainerEvent:
    """ml: of `filled` and `level` the contents after it, of `set` the mL a day from now on, of `calibrated` the flow in
    mL/min · before_ml: the level just before it was filled, None where it was not read · slots: how the mL of `set` lie
    over the day, empty where they are given by hand at no set time."""

    at: datetime
    kind: ContainerKind
    ml: float = 0.0
    before_ml: float | None = None
    slots: tuple[Slot, ...] = ()
    id: int = 0
    note: str = ""


@dataclass(frozen=True)
class Container:
    """A container with its additive, frozen when it was set up. level_sd_ml: how precisely its level can be read ·
    pump: its name, empty where dosed by hand · set_name: parts of one set are used together and should fall alike."""

    id: int
    name: str
    additive: Additive
    capacity_ml: float
    level_sd_ml: float
    pump: str = ""
    set_name: str = ""
    step_ml: float = 0.1
    least_ml: float = 0.5
    events: Sequence[ContainerEvent] = field(default_factory=tuple)

    def until(self, moment: datetime) -> Container:
        """The container as it was at a moment, for what is entered later."""
        return replace(self, events=[event for event in self.events if event.at <= moment])

    def after(self, event: ContainerEvent) -> Container:
        """The container with one more event, which may lie before others."""
        return replace(self, events=sorted([*self.events, event], key=lambda one: one.at))

    def of(self, *kinds: ContainerKind) -> list[ContainerEvent]:
        """Events of some kinds, oldest first."""
        return [event for event in self.events if event.kind in kinds]

    def setting_at(self, at: datetime) -> ContainerEvent | None:
        """The pump's setting at a moment."""
        known = [event for event in self.of(ContainerKind.SET) if event.at <= at]
        return known[-1] if known else None

    def set_at(self, at: datetime) -> float:
        """mL a day set at a moment."""
        setting = self.setting_at(at)
        return setting.ml if setting else 0.0

    def filled(self, ml: float) -> float:
        """The share of it (0..1) that a volume (mL) fills."""
        return min(1.0, ml / self.capacity_ml)

    def set_between(self, first: datetime, last: datetime) -> float:
        """mL that the settings asked for between two moments."""
        turns = [event.at for event in self.of(ContainerKind.SET) if first < event.at < last]
        edges = [first, *turns, last]
        return sum(self.set_at(begin) * ((end - begin) / timedelta(days=1)) for begin, end in pairwise(edges))


def check_container(container: Container) -> Container:
    """Refuse an impossible container at its field: no name, no strength, too large."""
    if not container.name.strip():
        raise InputError("name the container", field="name", accepted="1 to 60 characters")
    if container.additive.strength_g_l is None:
        raise InputError(
            f"{container.additive.name} is dry: a container holds a solution",
            field="additive_id",
            accepted="an additive with a strength in g/L",
        )
    check_range("container", container.capacity_ml, "mL", MIN_CAPACITY_ML, MAX_CAPACITY_ML, field="capacity_ml")
    check_range(
        "scatter of the level", container.level_sd_ml, "mL", 0.1, container.capacity_ml / 5, field="level_sd_ml"
    )
    check_range("step of the pump", container.step_ml, "mL", 0.001, 50, field="step_ml")
    check_range("least dose", container.least_ml, "mL", 0, 500, field="least_ml")
    return container


def usual_level_sd_ml(capacity_ml: float) -> float:
    """The default precision of a level reading: a hundredth of the container (judgement)."""
    return max(0.1, capacity_ml / 100)


LEVEL_SDS = 4.0
"""A level this many times its scatter above the last one means that something was poured in (judgement)."""


def above_last(container: Container, ml: float) -> ContainerEvent | None:
    """The last known level, where a new one lies above it by more than reading error: a typing slip, or a refill."""
    known = container.of(ContainerKind.FILLED, ContainerKind.LEVEL)
    return known[-1] if known and ml > known[-1].ml + LEVEL_SDS * container.level_sd_ml else None


def check_setting(container: Container, ml: float) -> float:
    """Check a setting in mL a day: zero, or from the least a pump can dose to what the container holds."""
    if ml == 0:
        return ml
    return check_range("amount a day", ml, "mL", MIN_SETTING_ML, container.capacity_ml, field="ml")


def flow_ml_min(delivered_ml: float, seconds: float) -> Result:
    """Flow of a pump (mL/min) that delivered `delivered_ml` (0.1 to 5000) in some seconds (5 to 3600).

    >>> float(flow_ml_min(25.0, 30.0))
    50.0
    """
    check_range("volume", delivered_ml, "mL", 0.1, 5000, field="ml")
    check_range("time", seconds, "s", 5, 3600, field="seconds")
    return FLOW.result(v=FormulaInput(delivered_ml, "mL", "caught"), t=FormulaInput(seconds, "s", "run"))


def flow_drift_percent(container: Container) -> float | None:
    """Drift of the flow between the last two calibrations of one tube, % in 90 days."""
    tubes = container.of(ContainerKind.TUBE)
    since = tubes[-1].at if tubes else None
    known = [e for e in container.of(ContainerKind.CALIBRATED) if since is None or e.at >= since]
    if len(known) < 2 or known[-1].at - known[-2].at < timedelta(days=1):
        return None
    one, other = known[-2:]
    return (other.ml / one.ml - 1) * 100 * 90 / ((other.at - one.at) / timedelta(days=1))


def tube_days(container: Container, now: datetime) -> float | None:
    """Age of the pump's tube in days; None where none is recorded."""
    tubes = container.of(ContainerKind.TUBE)
    return (now - tubes[-1].at) / timedelta(days=1) if tubes else None


CALIBRATION_DAYS = 90
"""A pump is calibrated every quarter (judgement)."""


def calibration_late_days(container: Container, now: datetime) -> int:
    """Whole days by which the pump's calibration is overdue; 0 where it is not due, or none was ever done."""
    known = container.of(ContainerKind.CALIBRATED)
    return max(0, (now - known[-1].at).days - CALIBRATION_DAYS) if known else 0
