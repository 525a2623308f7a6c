"""A system: its methods, target bands, limits and gear."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from enum import StrEnum

from ..basics.errors import check_range
from ..science.dosing import DAILY_LIMITS
from ..science.parameters import Parameter, Span
from ..science.sizing import NO_LIMIT, DayLimit
from ..science.units import DKH_PER_MEQ_L
from .aim import OwnAim, usual_aim
from .heating import NO_HEATING, Heating
from .livestock import Animal
from .plumbing import NO_PLUMBING, Plumbing
from .topoff import NO_TOP_OFF, TopOffSetup
from .volume import Geometry, net_volume


class PanelMaterial(StrEnum):
    """The material of the panels; it decides the scraping tool."""

    GLASS = "glass"
    ACRYLIC = "acrylic"


class SandMethod(StrEnum):
    """How the sand bed is kept."""

    BARE = "bare"
    SIPHONED = "siphoned"
    STIRRED = "stirred"
    DEEP = "deep"


class Panel(StrEnum):
    """A panel of the display: kept clean, or left to coralline algae."""

    FRONT = "front"
    LEFT = "left"
    RIGHT = "right"
    BACK = "back"


class SourceWater(StrEnum):
    """The source of fresh water for mixing and top-off."""

    PURIFIED = "purified"
    MEMBRANE = "membrane"
    DISTILLED = "distilled"
    TAP = "tap"


class GearPlace(StrEnum):
    """Where a piece of gear sits: the display's falling level exposes only what is in the display."""

    DISPLAY = "display"
    SUMP = "sump"
    OUTSIDE = "outside"


class Stage(StrEnum):
    """Where the system stands in its life."""

    BREAKING_IN = "breaking_in"
    RUNNING = "running"


@dataclass(frozen=True)
class Limits:
    """The most a parameter may move in any 24 hours, canonical units. Defaults are a judgement."""

    salinity: float = 1.0
    alkalinity_meq_l: float = 1.0 / DKH_PER_MEQ_L
    temperature_c: float = 1.0

    def narrowed(self, animals: Iterable[Animal]) -> Limits:
        """These limits, or the tightest that an animal asks for.

        >>> from .livestock import Animal, Demand
        >>> Limits().narrowed([Animal(1, "pipefish", Demand.DEMANDING, limits={Parameter.SALINITY: 0.4})]).salinity
        0.4
        """
        asked = {parameter: setter[1] for parameter, setter in limit_setters(self, animals).items()}
        return replace(self, **{_LIMIT_FIELDS[parameter]: limit for parameter, limit in asked.items()})


_LIMIT_FIELDS: Mapping[Parameter, str] = {
    Parameter.SALINITY: "salinity",
    Parameter.ALKALINITY: "alkalinity_meq_l",
    Parameter.TEMPERATURE: "temperature_c",
}


def limit_setters(limits: Limits, animals: Iterable[Animal]) -> dict[Parameter, tuple[str, float]]:
    """The animal that sets a tighter daily limit than the system's own, by parameter."""
    found: dict[Parameter, tuple[str, float]] = {}
    for animal in animals:
        for parameter, limit in animal.limits.items():
            kept = found[parameter][1] if parameter in found else getattr(limits, _LIMIT_FIELDS[parameter])
            if animal.count and limit < kept:
                found[parameter] = (animal.name, limit)
    return found


@dataclass(frozen=True)
class Methods:
    """A keeper's methods for a system. Fractions are of the net volume, 0..1; answers: choice by question of method."""

    sand: SandMethod
    change_fraction: float
    change_every_days: int
    largest_fraction: float = 0.25
    note: str = ""
    answers: Mapping[str, str] = field(default_factory=dict)

    @property
    def natural_seawater(self) -> bool:
        """Whether its new water is natural seawater, not mixed."""
        return self.answers.get("new_water", "").startswith("natural")

    @property
    def siphons(self) -> bool:
        """Whether its sand is siphoned at a change."""
        return self.sand in (SandMethod.BARE, SandMethod.SIPHONED)


@dataclass(frozen=True)
class Routine:
    """The water changes of now: their share of the net volume (0..1), every so many days. because: why they are not
    those of the methods, empty where they are · held: none are done for now."""

    fraction: float
    every_days: int
    because: str = ""
    held: bool = False


@dataclass(frozen=True)
class Placed:
    """Where a piece of gear sits, and how many cm of water stand over its top with the pumps off (None: not known)."""

    where: GearPlace = GearPlace.DISPLAY
    cover_cm: float | None = None


@dataclass(frozen=True)
class System:
    """One reef system. `bands` are target bands in canonical units; `gear` are keys of the gear data file.

    own_limits: as the keeper set them; `limits` also heeds the animals · entered_at: when it was entered here, maybe
    long after it was started; None where that is not known · own_aims: aims that the keeper chose · for_now: water
    changes that a programme asks for in place of the methods' own · heating, top_off, plumbing: as
    they are built.
    """

    id: int
    name: str
    stock: str
    stage: Stage
    panel: PanelMaterial
    geometry: Geometry
    methods: Methods
    bands: Mapping[Parameter, Span]
    own_limits: Limits
    gear: tuple[str, ...]
    bucket_l: float
    started_on: str
    clean_panels: tuple[Panel, ...] = (Panel.FRONT,)
    source_water: SourceWater = SourceWater.PURIFIED
    placed: Mapping[str, Placed] = field(default_factory=dict)
    animals: tuple[Animal, ...] = ()
    archived: bool = False
    entered_at: datetime | None = None
    own_aims: Mapping[Parameter, OwnAim] = field(default_factory=dict)
    for_now: Routine | None = None
    heating: Heating = NO_HEATING
    top_off: TopOffSetup = NO_TOP_OFF
    plumbing: Plumbing = NO_PLUMBING

    @property
    def routine(self) -> Routine:
        """Its water changes of now."""
        return self.for_now or Routine(self.methods.change_fraction, self.methods.change_every_days)

    @property
    def limits(self) -> Limits:
        """The daily limits, the slowest animal included."""
        return self.own_limits.narrowed(self.animals)

    def aim(self, parameter: Parameter) -> float | None:
        """The one level (canonical) that every plan brings a parameter to: the keeper's own, or the usual one of its
        band. None without a band: nothing says where to go."""
        band, own = self.bands.get(parameter), self.own_aims.get(parameter)
        if band is None:
            return None
        return own.level if own and band.holds(own.level) else usual_aim(parameter, band)

    @property
    def aims(self) -> dict[Parameter, float]:
        """The aim of every parameter with a band (canonical)."""
        found = {parameter: self.aim(parameter) for parameter in self.bands}
        return {parameter: level for parameter, level in found.items() if level is not None}

    def limit(self, parameter: Parameter) -> DayLimit:
        """The most a parameter may move in a day: the system's own limit where it has one, else the usual one."""
        if parameter in _LIMIT_FIELDS:
            own = getattr(self.limits, _LIMIT_FIELDS[parameter])
            return DayLimit(own, own)
        return DAILY_LIMITS.get(parameter, NO_LIMIT)

    def slowest(self, parameter: Parameter) -> str:
        """The animal that sets the daily limit of a parameter, empty where the system itself does."""
        return limit_setters(self.own_limits, self.animals).get(parameter, ("", 0.0))[0]

    @property
    def volume_l(self) -> float:
        """Net volume in L."""
        return net_volume(self.geometry)[-1].value

    def share_of(self, litres: float) -> float:
        """A volume (L) as a share of the net volume."""
        return litres / self.volume_l

    def litres_of(self, fraction: float) -> float:
        """Litres of a share (0..1) of the net volume."""
        return fraction * self.volume_l

    @property
    def change_l(self) -> float:
        """Litres of its routine change."""
        return self.litres_of(self.routine.fraction)


def check_methods(methods: Methods) -> None:
    """Fractions 1 to 100 %, every 1 to 90 days, the routine no larger than the largest. Errors name the field."""
    check_range("largest change", methods.largest_fraction * 100, "%", 1, 100, field="largest_fraction")
    check_range(
        "routine change", methods.change_fraction * 100, "%", 1, methods.largest_fraction * 100, field="change_fraction"
    )
    check_range("days between changes", methods.change_every_days, "days", 1, 90, field="change_every_days")
