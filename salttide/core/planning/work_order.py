"""Work orders: one planned step, frozen when put on the rota, and its expected effect on the water."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time
from enum import StrEnum

from ..basics.measures import kilograms_words, litres_words, weight_words
from ..ledger.entries import Change, Dose, Moving, TopOff
from ..science.additives import COMPOUNDS, AlkalinitySource, alkalinity_meq
from ..science.amount import dose_text, mass_text
from ..science.mix import LABEL_SALINITY, SaltMix
from ..science.parameters import Parameter, spoken
from ..science.salt_calibration import mixed_water
from ..science.units import UnitChoice, show
from ..system.system import Limits, System


class Water(StrEnum):
    """Where the new water of a change comes from."""

    MIX = "mix"
    NATURAL = "natural"
    STORED = "stored"
    SYSTEM = "system"


@dataclass(frozen=True)
class ChangeWorkOrder:
    """Everything one planned change needs at the tank, frozen when planned (canonical units).

    `before` and `incoming` are the system's and the new water's planned values; `gear` maps gear keys to names, in the
    order of switching off · salt: what the new water is mixed from, None where it is not mixed · batch_id, source_id:
    the batch or the other system that it is taken from, 0 for none; batch_share: of a batch, the rest is fresh water ·
    near_total: by the runbook for those · straight: to the mark, not by buckets · litres_per_cm: of what falls ·
    keep_l: drained water kept back for rock · zones: litres of each zone or side · air_min, air_for: how long animals
    tolerate air, and which of them set that.
    """

    system_id: int
    volume_l: float
    litres: float
    buckets: int
    bucket_l: float
    mark_cm: float
    temperature_c: float
    least_temperature_c: float
    salt: SaltMix | None
    mass_g: float
    source: AlkalinitySource
    batch_dose_g: float
    system_dose_g: float
    before: Mapping[Parameter, float]
    incoming: Mapping[Parameter, float]
    limits: Limits
    gear: Mapping[str, str]
    siphon: bool
    close: bool
    units: UnitChoice
    water: Water = Water.MIX
    water_name: str = ""
    batch_id: int = 0
    source_id: int = 0
    near_total: bool = False
    straight: bool = False
    sump_falls: bool = False
    litres_per_cm: float = 0.0
    rough_mark: bool = False
    keep_l: float = 0.0
    zones: tuple[tuple[str, float], ...] = ()
    heater_w: float = 0.0
    tool: str = ""
    air_min: float = 20.0
    air_for: str = "corals"
    drain_min: float = 0.0
    fill_min: float = 0.0
    batch_share: float = 1.0

    def from_batch_l(self, poured_l: float, left_l: float) -> float:
        """Litres a pour takes from the batch, no more than are left in it."""
        return min(poured_l * self.batch_share, left_l)

    @property
    def fraction(self) -> float:
        """Planned share of the net volume."""
        return self.litres / self.volume_l


@dataclass(frozen=True)
class DoseWorkOrder:
    """A planned dose: the additive, its mass in g, and its effect in amount (meq or mg) per parameter.

    Of a correction also: before, what the plan expects before it (canonical) · made_at: when it was planned (ISO 8601)
    · step: how far it moves · ml: where it is a solution · formula: of a dry additive, for what no scale weighs.
    """

    additive: str
    mass_g: float
    amounts: Mapping[Parameter, float]
    siphon: bool = False
    before: Mapping[Parameter, float] = field(default_factory=dict)
    made_at: str = ""
    step: float = 0.0
    ml: float = 0.0
    formula: str = ""


@dataclass(frozen=True)
class WaterWorkOrder:
    """Water poured in by hand to move salinity: in place of tank water (`out_l`), or in place of fresh top-off water.

    out_l, in_l: litres · holds: its content per litre · salt, mass_g: what it is mixed from, nothing for fresh water ·
    before, made_at, step: as of a dose.
    """

    out_l: float
    in_l: float
    holds: Mapping[Parameter, float]
    water: str
    salt: str = ""
    mass_g: float = 0.0
    before: Mapping[Parameter, float] = field(default_factory=dict)
    made_at: str = ""
    step: float = 0.0
    siphon: bool = False


@dataclass(frozen=True)
class VisualCheckOrder:
    """A visual check to come back for: its moment (ISO 8601, UTC), and why. tests: the parameter, where it is a test to
    come back for."""

    due_at: str
    why: str
    siphon: bool = False
    task: str = "look"
    tests: str = ""


Work = ChangeWorkOrder | DoseWorkOrder | WaterWorkOrder | VisualCheckOrder
DOSE, WATER, VISUAL_CHECK = "dose", "water", "look"
"""Kinds of planned work beside changes."""


@dataclass(frozen=True)
class PlannedWork:
    """One day's work of a plan, as put on the rota: its kind, name, minutes, and work order."""

    day: date
    kind: str
    name: str
    minutes: float
    order: Work


def job_words(job: Work) -> str:
    """A work order in a few words with its numbers."""
    if isinstance(job, VisualCheckOrder):
        return job.why
    if isinstance(job, DoseWorkOrder):
        return f"{dose_text(job.mass_g, job.ml or None, job.formula)} {job.additive}"
    if isinstance(job, WaterWorkOrder):
        return f"{litres_words(job.in_l)} of {job.water}" + (
            f", {weight_words(job.mass_g)} {job.salt}" if job.salt else ""
        )
    parts = []
    if job.litres:
        salinity = show(Parameter.SALINITY, job.incoming[Parameter.SALINITY], job.units)
        if job.salt:
            parts.append(f"mix {kilograms_words(job.mass_g)} {job.salt.name} to {salinity}")
        else:
            parts.append(f"{job.water_name}, {salinity}")
    for mass, where in ((job.batch_dose_g, "into the batch"), (job.system_dose_g, "into the system")):
        if mass:
            parts.append(f"{mass_text(mass)} {COMPOUNDS[job.source].name} {where}")
    return ", ".join(parts)


def dose_event(job: ChangeWorkOrder | DoseWorkOrder, at: datetime) -> Dose:
    """The dose to the system as a ledger entry; its amount follows from the mass."""
    if isinstance(job, DoseWorkOrder):
        return Dose(at, job.additive, job.mass_g, job.amounts)
    compound = COMPOUNDS[job.source]
    amounts = {Parameter.ALKALINITY: alkalinity_meq(job.source, job.system_dose_g)}
    return Dose(at, compound.name, job.system_dose_g, amounts)


def water_event(job: WaterWorkOrder, at: datetime) -> Change | TopOff:
    """The water poured in as a ledger entry."""
    if job.out_l:
        return Change(at, job.out_l, job.in_l, job.holds)
    return TopOff(at, job.in_l, holds=job.holds)


def planned_events(job: Work, at: datetime) -> list[Moving]:
    """The effect of a work order if it goes as planned."""
    if isinstance(job, VisualCheckOrder):
        return []
    if isinstance(job, DoseWorkOrder):
        return [dose_event(job, at)]
    if isinstance(job, WaterWorkOrder):
        return [water_event(job, at)]
    events: list[Moving] = [Change(at, job.litres, job.litres, job.incoming)] if job.litres else []
    if job.system_dose_g:
        events.append(dose_event(job, at))
    return events


WORKING_HOUR = time(18, 0)
"""The local hour at which a day's work is expected (judgement)."""
DOSE_MINUTES = VISUAL_CHECK_MINUTES = 5.0
"""Of a dose given by hand: measured, dissolved, poured; and of coming back to something (judgement)."""


def planned_test(parameter: Parameter, at: datetime, why: str) -> PlannedWork:
    """A test to come back for at a moment, and what it is for."""
    order = VisualCheckOrder(at.astimezone(UTC).isoformat(timespec="seconds"), why, tests=parameter.value)
    return PlannedWork(at.date(), VISUAL_CHECK, f"Test {spoken(parameter)}", VISUAL_CHECK_MINUTES, order)


def usual_salinity(system: System) -> float:
    """The default salinity of new water: the system's aim, else a label's 35 ppt."""
    goal = system.aim(Parameter.SALINITY)
    return LABEL_SALINITY if goal is None else goal


def routine_change(system: System, salt: SaltMix, at: datetime, fraction: float | None = None) -> Change:
    """A routine change as expected: the usual size, or another share of the net volume (0..1), with the usual salt,
    mixed to the aim of salinity."""
    litres = system.change_l if fraction is None else system.litres_of(fraction)
    return Change(at, litres, litres, mixed_water(salt, usual_salinity(system)))
