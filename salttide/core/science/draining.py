"""At the tank: mark on the glass, buckets, zones, drain-back, tube, minutes to drain and fill, exposed gear."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import ceil, pi, sqrt

from ..basics.errors import DomainError, check_range
from ..basics.working import Formula, FormulaInput, Result

MATHS = {"sqrt": sqrt}


def _whole(number: float) -> float:
    """Rounded up; a hair over a whole number is that number."""
    return ceil(number - 1e-9)


SURFACE = Formula(
    "A", "surface of the water that falls", "F - R * 1000 / d", "cm²", "an estimate: rock spread evenly over the depth"
)
INTO_SAND = Formula(
    "h", "drop of the level", "t + (v - A * t / 1000) * 1000 / (A - G * 1000 / b)", "cm",
    "water over the sand first, then between its grains",
)  # fmt: skip
DROP = Formula("h", "drop of the level", "v * 1000 / A", "cm", "footprint of what falls")
ROOM = Formula("v", "room in the sump", "A * (r - h) / 1000", "L", "footprint · height left")
FILL = Formula("t", "time to fill", "v / Q * 60", "min", "volume over flow")
SPEED = Formula("u", "speed in the hose", "sqrt(2 * g * h / (k + f * l / d))", "m/s", "Torricelli with losses", MATHS)
FLOW = Formula("Q", "flow of the hose", "u * π * d**2 / 4 * 60000", "L/min", "speed · bore")
DRAIN = Formula("t", "time to drain", "v / ((Q_0 + Q_1) / 2)", "min", "flow goes with the root of the falling head")
BUCKETS = Formula("n", "buckets", "ceil(v / b)", "", "volume over what one holds", {"ceil": _whole})
BACK = Formula("v", "what runs back", "A * d / 1000", "L", "footprint · fall of the display")
GRAVITY_M_S2 = 9.80665
VISCOSITY = 0.95e-6
"""Kinematic viscosity of seawater at 25 °C, m²/s."""
ENTRY_AND_EXIT = 1.5
"""Velocity heads lost at the ends of a hose: about 0.5 going in, 1 coming out."""
SHORTEST_TUBE_CM, LONGEST_TUBE_CM = 30.0, 60.0


def level_drop_cm(volume_l: float, footprint_cm2: float) -> Result:
    """Centimetres the level falls when `volume_l` (0 to 1e5 L) is drained, from the level with the pumps off.

    `footprint_cm2` (10 to 1e6) is of the chamber that falls: the display alone while the pumps are off.

    >>> round(level_drop_cm(40.0, 117.6 * 57.6), 1)
    5.9
    """
    check_range("volume", volume_l, "L", 0, 1e5)
    check_range("footprint", footprint_cm2, "cm²", 10, 1e6)
    return DROP.result(v=FormulaInput(volume_l, "L", "drained"), A=FormulaInput(footprint_cm2, "cm²", "footprint"))


@dataclass(frozen=True)
class Chamber:
    """What falls when water is taken out: its footprint (cm²) and the depth of its water (cm).

    rock_l: litres that rock displaces, taken as spread evenly over that depth · sand_cm, sand_l: a bed on the floor and
    the litres that its grains displace, which count only below its own height.
    """

    footprint_cm2: float
    depth_cm: float
    rock_l: float = 0.0
    sand_cm: float = 0.0
    sand_l: float = 0.0

    @property
    def surface(self) -> Result:
        """The surface (cm²) that falls, above the sand."""
        return SURFACE.result(
            F=FormulaInput(self.footprint_cm2, "cm²", "footprint"),
            R=FormulaInput(self.rock_l, "L", "rock displaces"),
            d=FormulaInput(self.depth_cm, "cm", "depth of the water"),
        )

    @property
    def holds_l(self) -> float:
        """Litres of water that it holds."""
        return self.footprint_cm2 * self.depth_cm / 1000 - self.rock_l - self.sand_l


def fall_cm(chamber: Chamber, volume_l: float) -> Result:
    """Centimetres the level of a chamber falls when `volume_l` is drained, from the level with the pumps off.

    An estimate where rock stands in it. Raises DomainError for more than the chamber holds: no mark is lower than it.

    >>> cube = Chamber(1600.0, 40.0, 9.0)
    >>> round(fall_cm(cube, 52.25), 2)
    38.0
    >>> round(fall_cm(Chamber(1600.0, 40.0, 0.0, 10.0, 9.6), 51.2), 2)
    35.0
    """
    check_range("volume", volume_l, "L", 0, round(chamber.holds_l, 1), field="litres")
    above_cm, surface = chamber.depth_cm - chamber.sand_cm, chamber.surface
    drained = FormulaInput(volume_l, "L", "drained")
    if volume_l <= surface * above_cm / 1000 or not chamber.sand_l:
        before = (surface,) if chamber.rock_l else ()
        return DROP.result(*before, v=drained, A=surface.given() if before else surface.working[-1].inputs[0][1])
    return INTO_SAND.result(
        surface,
        t=FormulaInput(above_cm, "cm", "water over the sand"),
        v=drained,
        A=surface.given(),
        G=FormulaInput(chamber.sand_l, "L", "grains displace"),
        b=FormulaInput(chamber.sand_cm, "cm", "sand bed"),
    )


def bucket_count(volume_l: float, bucket_l: float) -> int:
    """Buckets that `volume_l` (0 to 1e5) fills, the last one maybe in part; a bucket holds 0.5 to 200 L.

    >>> bucket_count(40.0, 15.0)
    3
    """
    check_range("volume", volume_l, "L", 0, 1e5)
    return int(BUCKETS.value(v=volume_l, b=check_range("bucket", bucket_l, "L", 0.5, 200)))


def zone_volumes_l(volume_l: float, shares: Sequence[float]) -> tuple[float, ...]:
    """Litres to drain at each zone or side, in proportion to `shares` (each 0 or more, not all 0).

    >>> zone_volumes_l(40.0, [2, 1, 1])
    (20.0, 10.0, 10.0)
    """
    check_range("volume", volume_l, "L", 0, 1e5)
    for share in shares:
        check_range("share", share, "", 0, 1e6)
    whole = check_range("all shares together", sum(shares), "", 1e-9, 1e9)
    return tuple(volume_l * share / whole for share in shares)


def drain_back_l(footprint_cm2: float, fall_cm: float) -> Result:
    """Litres that run back into the sump when the return stops and the display falls by `fall_cm` (0 to 100).

    For a failed siphon break `fall_cm` is the depth of the return's outlet below the running level.

    >>> round(drain_back_l(117.6 * 57.6, 1.5), 1)
    10.2
    """
    check_range("footprint", footprint_cm2, "cm²", 10, 1e6)
    check_range("fall", fall_cm, "cm", 0, 100)
    return BACK.result(
        A=FormulaInput(footprint_cm2, "cm²", "footprint of the display"), d=FormulaInput(fall_cm, "cm", "fall")
    )


def sump_room_l(sump_footprint_cm2: float, rim_cm: float, running_cm: float) -> Result:
    """Litres that the sump still holds above its running level up to the rim (cm from its floor).

    >>> float(sump_room_l(4000.0, 40.0, 25.0))
    60.0
    """
    check_range("footprint", sump_footprint_cm2, "cm²", 10, 1e6)
    check_range("rim", rim_cm, "cm", 1, 200)
    check_range("running level", running_cm, "cm", 0, rim_cm)
    return ROOM.result(
        A=FormulaInput(sump_footprint_cm2, "cm²", "footprint"),
        r=FormulaInput(rim_cm, "cm", "rim"),
        h=FormulaInput(running_cm, "cm", "level"),
    )


def sump_holds(drain_back: float, room_l: float) -> bool:
    """Whether what runs back (L) fits into the sump's room (L, 0 or more).

    >>> sump_holds(10.2, 60.0)
    True
    """
    return check_range("what runs back", drain_back, "L", 0, 1e5) <= check_range("room", room_l, "L", 0, 1e5)


def siphon_tube_cm(water_depth_cm: float) -> float:
    """Length of the rigid tube of a gravel siphon: the water's depth (5 to 300 cm), between 30 and 60 cm (judgement).

    Long enough that the hand stays near the surface, short enough to be led; deeper water takes a stick on it.

    >>> siphon_tube_cm(44.0)
    44.0
    """
    return min(max(check_range("water depth", water_depth_cm, "cm", 5, 300), SHORTEST_TUBE_CM), LONGEST_TUBE_CM)


def hose_flow_l_min(bore_mm: float, head_cm: float, length_m: float) -> Result:
    """Flow of a full hose in L/min, from bore (4 to 60 mm), head (1 to 400 cm) and length (0.1 to 50 m). An estimate.

    Torricelli with losses: g·h = v²/2·(ends + f·L/D); f by Blasius for a smooth hose, 64/Re where
    that is more (slow, thin); solved by repetition. Kinks, gravel and bends slow it.

    >>> round(hose_flow_l_min(16.0, 80.0, 3.0), 1)
    19.3
    """
    bore = check_range("bore", bore_mm, "mm", 4, 60) / 1000
    head = check_range("head", head_cm, "cm", 1, 400) / 100
    length = check_range("hose", length_m, "m", 0.1, 50)
    speed, friction = sqrt(2 * GRAVITY_M_S2 * head), 0.0
    for _ in range(60):
        reynolds = speed * bore / VISCOSITY
        friction = max(64 / reynolds, 0.316 / reynolds**0.25)
        there = SPEED.value(g=GRAVITY_M_S2, h=head, k=ENTRY_AND_EXIT, f=friction, l=length, d=bore)
        speed = (speed + there) / 2
    final = SPEED.result(
        g=FormulaInput(GRAVITY_M_S2, "m/s²"),
        h=FormulaInput(head, "m", "head"),
        k=FormulaInput(ENTRY_AND_EXIT, "", "losses at the ends"),
        f=FormulaInput(friction, "", "wall friction at this speed"),
        l=FormulaInput(length, "m", "hose"),
        d=FormulaInput(bore, "m", "bore"),
    )
    return FLOW.result(final, u=final.given(), π=FormulaInput(pi, ""), d=FormulaInput(bore, "m", "bore"))


def drain_minutes(volume_l: float, bore_mm: float, head_cm: float, length_m: float, footprint_cm2: float) -> Result:
    """Minutes to drain `volume_l` by siphon, an estimate: the head (surface to outlet) falls with the level.

    Flow goes nearly with the root of the head, so that the mean of first and last flow is the mean over the time.
    Raises DomainError where the level would fall to the outlet.

    >>> round(drain_minutes(40.0, 16.0, 80.0, 3.0, 117.6 * 57.6), 1)
    2.1
    """
    drop = level_drop_cm(volume_l, footprint_cm2)
    if drop > head_cm - 1:
        most = max(0.0, (head_cm - 1) * footprint_cm2 / 1000)
        raise DomainError("volume to drain", volume_l, "L", 0, round(most, 1), field="volume_l")
    first, last = (hose_flow_l_min(bore_mm, head, length_m) for head in (head_cm, head_cm - drop))
    return DRAIN.result(
        drop,
        first,
        v=FormulaInput(volume_l, "L", "to drain"),
        Q_0=first.given("flow at first"),
        Q_1=last.given("flow at the end"),
    )


def fill_minutes(volume_l: float, pump_l_h: float) -> Result:
    """Minutes to fill `volume_l` by a pump of a real flow in L/h (1 to 20 000).

    >>> float(fill_minutes(40.0, 600.0))
    4.0
    """
    check_range("volume", volume_l, "L", 0, 1e5)
    check_range("flow", pump_l_h, "L/h", 1, 20_000)
    return FILL.result(v=FormulaInput(volume_l, "L"), Q=FormulaInput(pump_l_h, "L/h", "real flow of the pump"))


@dataclass(frozen=True)
class Exposed:
    """A piece of gear that the falling level uncovers, and the litres after which it does."""

    name: str
    after_l: float


def exposed_gear(gear_depth_cm: Mapping[str, float], volume_l: float, footprint_cm2: float) -> tuple[Exposed, ...]:
    """Gear whose top lies `gear_depth_cm` below the level with pumps off, and is bare after draining; soonest first.

    >>> [item.name for item in exposed_gear({"heater": 4.0, "powerhead": 12.0}, 40.0, 117.6 * 57.6)]
    ['heater']
    """
    drop = level_drop_cm(volume_l, footprint_cm2)
    for name, depth in gear_depth_cm.items():
        check_range(name, depth, "cm", 0, 300)
    bare = [Exposed(name, depth * footprint_cm2 / 1000) for name, depth in gear_depth_cm.items() if depth < drop]
    return tuple(sorted(bare, key=lambda item: item.after_l))
