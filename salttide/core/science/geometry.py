"""Volumes from measures: shapes of display tanks, displacement, sump, and net volume by a measured salt addition.

Inside measures in cm, volumes in L; water depth with the return running.
"""

from __future__ import annotations

from math import asin, pi, sin, sqrt

from ..basics.errors import DomainError, check_range
from ..basics.working import Formula, FormulaInput, Result
from .seawater import absolute_salinity, density_kg_l

MATHS = {"sqrt": sqrt, "asin": lambda share: asin(min(1.0, share)), "sin": sin}
"""A half circle's share is 1, give or take the last digit."""
BOX = Formula("V", "box", "L * W * H / 1000", "L", "length · width · depth")
CYLINDER = Formula("V", "cylinder", "π * d**2 / 4 * H / 1000", "L", "circle · depth")
QUARTER = Formula("V", "quarter round", "π * r**2 / 4 * H / 1000", "L", "quarter of a circle · depth")
BOW_RADIUS = Formula("R", "radius of the bow", "(L**2 / 4 + b**2) / (2 * b)", "cm", "chord and height of an arc")
BOW = Formula(
    "V", "bow front", "(L * W + R**2 / 2 * (2 * a - sin(2 * a))) * H / 1000", "L", "box and segment of a circle", MATHS
)
BOW_ANGLE = Formula("a", "half angle of the bow", "asin(L / (2 * R))", "rad", "chord of a circle", MATHS)
HEXAGON = Formula("V", "hexagon", "3 * sqrt(3) / 2 * s**2 * H / 1000", "L", "six equal triangles · depth", MATHS)
NET = Formula("V", "net volume", "G - D + P", "L", "display, less rock and sand, plus the sump")
SAND = Formula("D", "displaced by sand", "A * h * (1 - p) / 1000", "L", "grains without the water between them")
ROCK = Formula("D", "displaced by rock", "m / ρ", "L", "mass over density with sealed pores")
BY_SALT = Formula(
    "V", "net volume by salt", "m * (1000 * y - S_to) / (1000 * ρ * (S_to - S_from))", "L",
    "mass balance of the salt added",
)  # fmt: skip


def _measure(name: str, value: float) -> FormulaInput:
    return FormulaInput(check_range(name, value, "cm", 1, 1000), "cm", name)


def box_volume_l(length_cm: float, width_cm: float, depth_cm: float) -> Result:
    """Litres in a box; each measure 1 to 1000 cm. Raises DomainError.

    >>> round(box_volume_l(117.6, 57.6, 44.0), 1)
    298.0
    """
    return BOX.result(L=_measure("length", length_cm), W=_measure("width", width_cm), H=_measure("depth", depth_cm))


def cylinder_volume_l(diameter_cm: float, depth_cm: float) -> Result:
    """Litres in an upright cylinder of an inside diameter.

    >>> round(cylinder_volume_l(60.0, 50.0), 1)
    141.4
    """
    return CYLINDER.result(π=FormulaInput(pi, ""), d=_measure("diameter", diameter_cm), H=_measure("depth", depth_cm))


def quarter_round_volume_l(radius_cm: float, depth_cm: float) -> Result:
    """Litres in a corner tank whose front is a quarter of a circle.

    >>> round(quarter_round_volume_l(60.0, 50.0), 1)
    141.4
    """
    return QUARTER.result(π=FormulaInput(pi, ""), r=_measure("radius", radius_cm), H=_measure("depth", depth_cm))


def bow_front_volume_l(length_cm: float, side_width_cm: float, bow_cm: float, depth_cm: float) -> Result:
    """Litres in a box whose front bulges out by `bow_cm` in the middle, as an arc over the whole length.

    `side_width_cm` is front to back at the ends. The bow is at most half of the length: DomainError.

    >>> round(bow_front_volume_l(100.0, 40.0, 10.0, 50.0), 1)
    233.6
    """
    length = _measure("length", length_cm)
    bow = FormulaInput(check_range("bow", bow_cm, "cm", 0.1, length_cm / 2), "cm", "bow")
    radius = BOW_RADIUS.result(L=length, b=bow)
    angle = BOW_ANGLE.result(radius, L=length, R=radius.given())
    return BOW.result(
        angle,
        L=length,
        W=_measure("width at the sides", side_width_cm),
        R=radius.given(),
        a=angle.given(),
        H=_measure("depth", depth_cm),
    )


def hexagon_volume_l(side_cm: float, depth_cm: float) -> Result:
    """Litres in a tank with six equal sides.

    >>> round(hexagon_volume_l(30.0, 50.0), 1)
    116.9
    """
    return HEXAGON.result(s=_measure("side", side_cm), H=_measure("depth", depth_cm))


def sand_displacement_l(floor_cm2: float, bed_cm: float, porosity: float = 0.4) -> Result:
    """Litres displaced by a sand bed (0 to 50 cm) on a floor of 1 to 1e6 cm².

    Its grains alone: about 0.4 of a bed is water (0.2 to 0.7).

    >>> round(sand_displacement_l(88.4 * 43.4, 12.0), 1)
    27.6
    """
    return SAND.result(
        A=FormulaInput(check_range("floor", floor_cm2, "cm²", 1, 1e6), "cm²", "floor of the display"),
        h=FormulaInput(check_range("sand bed", bed_cm, "cm", 0, 50), "cm", "depth of the bed"),
        p=FormulaInput(check_range("porosity", porosity, "(a fraction)", 0.2, 0.7), "", "water between the grains"),
    )


def rock_displacement_l(mass_kg: float, density_kg_l: float = 2.0) -> Result:
    """Litres displaced by rock: dry mass (0 to 2000 kg) over its density.

    The density counts sealed pores: 1 to 3 kg/L, 2.0 by judgement.

    >>> float(rock_displacement_l(30.0))
    15.0
    """
    check_range("rock", mass_kg, "kg", 0, 2000)
    check_range("density", density_kg_l, "kg/L", 1, 3)
    return ROCK.result(
        m=FormulaInput(mass_kg, "kg", "dry rock"), ρ=FormulaInput(density_kg_l, "kg/L", "rock, sealed pores counted")
    )


def net_volume_l(gross_l: float, displaced_l: float = 0.0, sump_l: float = 0.0) -> Result:
    """Net volume: display less what rock and sand displace, plus the sump at its running level. All L, 0 to 1e5.

    Raises DomainError where less than 1 L would be left.

    >>> float(net_volume_l(298.0, 22.0, 58.0))
    334.0
    """
    check_range("display volume", gross_l, "L", 0.1, 1e5)
    check_range("sump volume", sump_l, "L", 0, 1e5)
    if check_range("displaced volume", displaced_l, "L", 0, 1e5) > gross_l + sump_l - 1:
        raise DomainError("displaced volume", displaced_l, "L", 0, gross_l + sump_l - 1, field="displaced_l")
    return NET.result(
        G=FormulaInput(gross_l, "L", "display"),
        D=FormulaInput(displaced_l, "L", "rock and sand"),
        P=FormulaInput(sump_l, "L", "sump, running"),
    )


def net_volume_by_salt(
    mass_g: float,
    salinity_before: float,
    salinity_after: float,
    sea_salt_share: float = 1.0,
    temperature_c: float = 25.0,
) -> Result:
    """Net volume in L from a measured mass of salt (g) that raised salinity from before to after, well mixed.

    `sea_salt_share` is the grams of sea salt in a gram of product (0.5 to 1.1). A rise below 0.3 ppt says too little:
    DomainError. In a system with animals: dissolved first, spread over days, within the daily limit.

    >>> round(net_volume_by_salt(110.0, 34.0, 35.0), 1)
    103.3
    """
    check_range("salt", mass_g, "g", 0.1, 1e6)
    check_range("salinity before", salinity_before, "ppt", 0, 44)
    check_range("salinity after", salinity_after, "ppt", salinity_before + 0.3, 45)
    check_range("sea salt share", sea_salt_share, "(a fraction)", 0.5, 1.1)
    return BY_SALT.result(
        m=FormulaInput(mass_g, "g", "salt added"),
        y=FormulaInput(sea_salt_share, "", "sea salt in it"),
        S_to=FormulaInput(absolute_salinity(salinity_after), "g/kg", "after"),
        ρ=FormulaInput(density_kg_l(salinity_before, temperature_c), "kg/L", "density before"),
        S_from=FormulaInput(absolute_salinity(salinity_before), "g/kg", "before"),
    )
