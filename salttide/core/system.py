"""A system: its geometry, schools, target bands and limits."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from .errors import DomainError, check_range
from .geometry import box_volume_l, net_volume_l
from .parameters import Parameter, Span
from .units import DKH_PER_MEQ_L
from .working import Working


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


@lru_cache
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
    box = box_volume_l(geometry.length_cm, geometry.width_cm, geometry.depth_cm)
    if box + geometry.sump_l - geometry.displaced_l < 1:
        most = round(box + geometry.sump_l - 1, 1)
        raise DomainError("displaced volume", geometry.displaced_l, "L", 0, most, field="displaced_l")
    return (*box.working, *net_volume_l(box, geometry.displaced_l, geometry.sump_l).working)


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
