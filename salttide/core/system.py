"""A system: its geometry, schools, target bands and limits."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from .errors import DomainError, check_range
from .parameters import Parameter, Span
from .units import DKH_PER_MEQ_L
from .working import Formula, Given, Working


class PanelMaterial(StrEnum):
    """What the panels are made of; decides the scraping tool."""

    GLASS = "glass"
    ACRYLIC = "acrylic"


class SandMethod(StrEnum):
    """How the floor is kept."""

    BARE = "bare"
    SIPHONED = "siphoned"
    STIRRED = "stirred"
    DEEP = "deep"


class Stage(StrEnum):
    """Where the system stands in its life."""

    BREAKING_IN = "breaking_in"
    RUNNING = "running"


@dataclass(frozen=True)
class Geometry:
    """Inside measures in cm, water depth with the return running; displaced and sump volumes in L."""

    length_cm: float
    width_cm: float
    depth_cm: float
    displaced_l: float = 0.0
    sump_l: float = 0.0

    @property
    def footprint_cm2(self) -> float:
        """Floor area of the display, which falls when water is drained."""
        return self.length_cm * self.width_cm


NET_VOLUME = Formula(
    "V", "net volume", "L * W * H / 1000 - D + P", "L", "box volume, less rock and sand, plus the sump"
)


def net_volume(geometry: Geometry) -> Working:
    """Net volume in L as its working; the last step is the result.

    Sides 1 to 1000 cm, displaced and sump 0 to 10000 L. Raises DomainError at the field that is wrong, or at
    `displaced_l` when nothing would be left.

    >>> round(net_volume(Geometry(117.6, 57.6, 44, 22, 58))[-1].value)
    334
    """
    for field in ("length_cm", "width_cm", "depth_cm"):
        check_range(field.removesuffix("_cm"), getattr(geometry, field), "cm", 1, 1000, field=field)
    check_range("displaced volume", geometry.displaced_l, "L", 0, 10_000, field="displaced_l")
    check_range("sump volume", geometry.sump_l, "L", 0, 10_000, field="sump_l")
    step = NET_VOLUME.compute(
        L=Given(geometry.length_cm, "cm", "inside length"),
        W=Given(geometry.width_cm, "cm", "inside width"),
        H=Given(geometry.depth_cm, "cm", "water depth, return running"),
        D=Given(geometry.displaced_l, "L", "displaced by rock and sand"),
        P=Given(geometry.sump_l, "L", "sump while running"),
    )
    if step.value < 1:
        box = geometry.footprint_cm2 * geometry.depth_cm / 1000
        raise DomainError("displaced volume", geometry.displaced_l, "L", 0, round(box - 1, 1), field="displaced_l")
    return (step,)


@dataclass(frozen=True)
class Limits:
    """The most a parameter may move in any 24 hours, canonical units. Defaults are a judgement."""

    salinity: float = 1.0
    alkalinity_meq_l: float = 1.0 / DKH_PER_MEQ_L
    temperature_c: float = 1.0


@dataclass(frozen=True)
class Schools:
    """How this keeper does it. Fractions are of the net volume, 0..1."""

    sand: SandMethod
    change_fraction: float
    change_every_days: int
    largest_fraction: float = 0.25
    note: str = ""


@dataclass(frozen=True)
class System:
    """One reef system. `bands` are target bands in canonical units; `gear` are keys of the gear data file."""

    id: int
    name: str
    stock: str
    stage: Stage
    panel: PanelMaterial
    geometry: Geometry
    schools: Schools
    bands: Mapping[Parameter, Span]
    limits: Limits
    gear: tuple[str, ...]
    bucket_l: float
    started_on: str

    @property
    def volume_l(self) -> float:
        """Net volume in L."""
        return net_volume(self.geometry)[-1].value


def check_schools(schools: Schools) -> None:
    """Fractions 1 to 100 %, every 1 to 90 days, the routine no larger than the largest. Errors name the field."""
    check_range("largest change", schools.largest_fraction * 100, "%", 1, 100, field="largest_fraction")
    check_range(
        "routine change", schools.change_fraction * 100, "%", 1, schools.largest_fraction * 100, field="change_fraction"
    )
    check_range("days between changes", schools.change_every_days, "days", 1, 90, field="change_every_days")
