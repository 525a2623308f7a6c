"""A system's geometry and its net volume: from the measures of display and sump, or by a measured salt addition."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from ..basics.errors import DomainError, check_range
from ..basics.working import Formula, FormulaInput, Result, Working
from ..science.draining import Chamber
from ..science.geometry import (
    bow_front_volume_l,
    box_volume_l,
    cylinder_volume_l,
    hexagon_volume_l,
    net_volume_by_salt,
    net_volume_l,
    quarter_round_volume_l,
    rock_displacement_l,
    sand_displacement_l,
)


class Shape(StrEnum):
    """The shape of a display."""

    BOX = "box"
    BOW_FRONT = "bow_front"
    CYLINDER = "cylinder"
    QUARTER_ROUND = "quarter_round"
    HEXAGON = "hexagon"
    LITRES = "litres"


MEASURES: Mapping[Shape, Mapping[str, str]] = {
    Shape.BOX: {"length_cm": "Inside length", "width_cm": "Inside width"},
    Shape.BOW_FRONT: {"length_cm": "Inside length", "width_cm": "Width at the sides", "bow_cm": "Bow beyond that"},
    Shape.CYLINDER: {"length_cm": "Inside diameter"},
    Shape.QUARTER_ROUND: {"length_cm": "Radius, inside"},
    Shape.HEXAGON: {"length_cm": "One side, inside"},
    Shape.LITRES: {"stated_l": "Litres, as the tank is sold"},
}
"""What is measured of each shape beside the water depth: the field of `Geometry` and its name. Of a tank that is known
by its litres alone nothing is measured, the depth included."""
WATER_SHARE = 0.85
"""What a tank holds of the litres it is sold by: glass, the gap at the rim, rock and sand take the rest (judgement)."""
TYPICAL_LENGTH = 2.0
"""The length of a typical display in its widths, which are its depths (judgement)."""
STATED = Formula(
    "V", "water in a tank of so many litres", "s * L", "L", "judgement: a usual share of what it is sold by"
)


@dataclass(frozen=True)
class SaltTest:
    """A measured salt addition: grams, salinity before and after it was well mixed, g of sea salt in a g of it."""

    mass_g: float
    salinity_before: float
    salinity_after: float
    sea_salt_share: float = 1.0


@dataclass(frozen=True)
class Sump:
    """Inside measures of a sump in cm, at its running level."""

    length_cm: float
    width_cm: float
    depth_cm: float


@dataclass(frozen=True)
class Geometry:
    """Inside measures in cm, water depth with the return running; volumes in L, rock in kg.

    displaced_l: what rock and sand displace; None: calculated from `rock_kg` and `sand_bed_cm` · sump_l: all water
    outside the display at its running level, refugium and chambers too; `sump` has a box of it added · salt_test: where
    the volume was measured, it counts and the measures serve the marks on the glass alone · stated_l: litres that a
    tank known by nothing else is sold by; its measures are then those of a typical one (`of_litres`).
    """

    length_cm: float
    width_cm: float
    depth_cm: float
    displaced_l: float | None = 0.0
    sump_l: float = 0.0
    shape: Shape = Shape.BOX
    bow_cm: float = 0.0
    sand_bed_cm: float = 0.0
    rock_kg: float = 0.0
    sump: Sump | None = None
    salt_test: SaltTest | None = None
    stated_l: float = 0.0

    @property
    def measured(self) -> bool:
        """Whether its display was measured: the marks on the glass of any other are rough."""
        return self.shape != Shape.LITRES

    @property
    def has_sump(self) -> bool:
        """Whether there is water outside the display."""
        return self.sump is not None or self.sump_l > 0

    @property
    def footprint_cm2(self) -> float:
        """Floor area of the display, which falls when water is drained."""
        return display_volume(self) * 1000 / self.depth_cm


_VOLUME: Mapping[Shape, Callable[[Geometry], Result]] = {
    Shape.BOX: lambda g: box_volume_l(g.length_cm, g.width_cm, g.depth_cm),
    Shape.BOW_FRONT: lambda g: bow_front_volume_l(g.length_cm, g.width_cm, g.bow_cm, g.depth_cm),
    Shape.CYLINDER: lambda g: cylinder_volume_l(g.length_cm, g.depth_cm),
    Shape.QUARTER_ROUND: lambda g: quarter_round_volume_l(g.length_cm, g.depth_cm),
    Shape.HEXAGON: lambda g: hexagon_volume_l(g.length_cm, g.depth_cm),
    Shape.LITRES: lambda g: _stated(g.stated_l),
}


def _stated(litres: float) -> Result:
    check_range("litres", litres, "L", 5, 20_000, field="stated_l")
    share = FormulaInput(WATER_SHARE, "", "share that is water")
    return STATED.result(s=share, L=FormulaInput(litres, "L", "as the tank is sold"))


def of_litres(stated_l: float, sump_l: float = 0.0, sand_bed_cm: float = 0.0) -> Geometry:
    """The geometry of a tank known by its litres alone (5 to 20000 L), with the measures of a typical one. Raises
    DomainError at `stated_l`.

    >>> tank = of_litres(200)
    >>> round(net_volume(tank)[-1].value), round(tank.length_cm), round(tank.depth_cm)
    (170, 88, 44)
    """
    width = (float(_stated(stated_l)) * 1000 / TYPICAL_LENGTH) ** (1 / 3)
    return Geometry(
        TYPICAL_LENGTH * width, width, width, 0.0, sump_l, Shape.LITRES, sand_bed_cm=sand_bed_cm, stated_l=stated_l
    )


@lru_cache
def display_volume(geometry: Geometry) -> Result:
    """Litres in the display by its shape, rock and sand not yet taken off. DomainError at the measure that is wrong.

    >>> round(display_volume(Geometry(60, 60, 50, shape=Shape.CYLINDER)), 1)
    141.4
    """
    for field in (*MEASURES[geometry.shape], "depth_cm") if geometry.measured else ():
        high = geometry.length_cm / 2 if field == "bow_cm" else 1000.0
        low = 0.1 if field == "bow_cm" else 1.0
        check_range(field.removesuffix("_cm"), getattr(geometry, field), "cm", low, high, field=field)
    check_range("bow", geometry.bow_cm, "cm", 0, 1000, field="bow_cm")
    return _VOLUME[geometry.shape](geometry)


def displacement(geometry: Geometry) -> tuple[float, Working]:
    """Litres that rock and sand displace, with the working where it is calculated.

    >>> round(displacement(Geometry(88.4, 43.4, 40, None, sand_bed_cm=12))[0], 1)
    27.6
    """
    check_range("sand bed", geometry.sand_bed_cm, "cm", 0, 50, field="sand_bed_cm")
    check_range("rock", geometry.rock_kg, "kg", 0, 2000, field="rock_kg")
    if geometry.displaced_l is not None:
        return check_range("displaced volume", geometry.displaced_l, "L", 0, 10_000, field="displaced_l"), ()
    litres: float = 0.0
    working: Working = ()
    if geometry.sand_bed_cm:
        sand = sand_displacement_l(geometry.footprint_cm2, geometry.sand_bed_cm)
        litres, working = litres + sand, (*working, *sand.working)
    if geometry.rock_kg:
        rock = rock_displacement_l(geometry.rock_kg)
        litres, working = litres + rock, (*working, *rock.working)
    return litres, working


MAX_ROCK = 0.9
"""No display is rock to a larger share: what is beyond that sits elsewhere."""


def display_chamber(geometry: Geometry) -> Chamber:
    """The display as what falls when water is drained, its rock and sand told apart.

    Where the volume was measured and nothing says what is displaced, the measures less that volume is.

    >>> beacon = display_chamber(Geometry(117.6, 57.6, 44, 22, 58, sand_bed_cm=3))
    >>> round(beacon.sand_l, 2), round(beacon.rock_l, 2)
    (12.19, 9.81)
    """
    display, displaced = float(display_volume(geometry)), displacement(geometry)[0]
    if not displaced and geometry.salt_test is not None:
        displaced = max(0.0, display + _sump(geometry)[0] - net_volume(geometry)[-1].value)
    bed = min(geometry.sand_bed_cm, geometry.depth_cm)
    grains = float(sand_displacement_l(geometry.footprint_cm2, bed)) if bed else 0.0
    sand = min(displaced, grains)
    rock = min(displaced - sand, MAX_ROCK * (display - sand))
    return Chamber(geometry.footprint_cm2, geometry.depth_cm, rock, bed if sand else 0.0, sand)


def _sump(geometry: Geometry) -> tuple[float, Working]:
    litres = check_range("sump volume", geometry.sump_l, "L", 0, 10_000, field="sump_l")
    if geometry.sump is None:
        return litres, ()
    for field in ("length_cm", "width_cm", "depth_cm"):
        name = f"sump {field.removesuffix('_cm')}"
        check_range(name, getattr(geometry.sump, field), "cm", 1, 1000, field=f"sump.{field}")
    box = box_volume_l(geometry.sump.length_cm, geometry.sump.width_cm, geometry.sump.depth_cm)
    return litres + box, box.working


@lru_cache
def net_volume(geometry: Geometry) -> Working:
    """Net volume in L as its working; the last step is the result.

    Sides 1 to 1000 cm, displaced and sump 0 to 10000 L. Raises DomainError at the field that is wrong, or at
    `displaced_l` when nothing would be left.

    >>> round(net_volume(Geometry(117.6, 57.6, 44, 22, 58))[-1].value)
    334
    """
    display, (displaced, off), (sump, beside) = display_volume(geometry), displacement(geometry), _sump(geometry)
    if geometry.salt_test is not None:
        return _by_salt(geometry.salt_test)
    if display + sump - displaced < 1:
        most = round(display + sump - 1, 1)
        wrong = "displaced_l" if geometry.displaced_l is not None else "rock_kg"
        raise DomainError("displaced volume", displaced, "L", 0, most, field=wrong)
    return (*display.working, *off, *beside, *net_volume_l(display, displaced, sump).working)


def _by_salt(test: SaltTest) -> Working:
    """The measured volume; errors name the field inside `salt_test`."""
    ranges = {
        "mass_g": (0.1, 1e6, "g"), "salinity_before": (0.0, 44.0, "ppt"),
        "salinity_after": (test.salinity_before + 0.3, 45.0, "ppt"), "sea_salt_share": (0.5, 1.1, "(a fraction)"),
    }  # fmt: skip
    for field, (low, high, unit) in ranges.items():
        check_range(field.replace("_", " "), getattr(test, field), unit, low, high, field=f"salt_test.{field}")
    return net_volume_by_salt(test.mass_g, test.salinity_before, test.salinity_after, test.sea_salt_share).working
