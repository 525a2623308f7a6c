"""Display, sump, weir, return pipe, reservoir and heater as water and heat that run by themselves, second by second:
what a failure really does. Its physics is its own: weir and orifice, two vessels that mix, evaporation from vapour
pressures.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import exp, log, sqrt
from random import Random

GRAVITY_CM_S2 = 981.0
PIPE_CM2 = 3.0
SEA_J_L_K = 4085.0
LATENT_J_L = 2.43e6


@dataclass(frozen=True)
class Basins:
    """How a tank is built. Lengths in cm, areas in cm², flows in L/h, powers in W.

    fall: how far its overflow's crest lies under the running level · outlet: the return's outlet under it · hole: of
    the siphon break, None for none · rim, sump_rim: rims, above the running levels · chamber: area of the return
    chamber · reserve: how far its level may fall before the pump draws air · limit_min: longest run of the top-off, 0
    for none.
    """

    display: float
    depth: float
    fall: float
    outlet: float
    hole: float | None
    rim: float
    sump: float
    sump_depth: float
    sump_rim: float
    chamber: float
    reserve: float
    flow: float
    reservoir_l: float
    top_off_l_h: float
    limit_min: float
    heater_w: float
    pumps_w: float
    room_c: float = 21.0
    water_c: float = 25.0
    damp: float = 0.5
    salinity: float = 35.0
    air_speed: float = 1.0

    @property
    def litres(self) -> float:
        """All water at its running levels."""
        return (self.display * self.depth + self.sump * self.sump_depth) / 1000


def by_lot(chance: Random) -> Basins:
    """A tank as keepers build them."""
    length, width, depth = chance.uniform(60, 150), chance.uniform(40, 65), chance.uniform(35, 60)
    display, sump_depth = length * width, chance.uniform(15, 24)
    sump_length, sump_width = length * chance.uniform(0.5, 0.8), width * chance.uniform(0.6, 0.9)
    fall = chance.uniform(0.8, 2.5)
    outlet = chance.uniform(2.5, 12)
    return Basins(
        display, depth, fall, outlet, chance.choice([None, chance.uniform(0.3, fall)]), chance.uniform(1.5, 5),
        sump_length * sump_width, sump_depth, chance.uniform(4, 18),
        sump_length * chance.uniform(0.2, 0.45) * sump_width,
        chance.uniform(4, 12), chance.uniform(1500, 4000), chance.uniform(8, 60), chance.uniform(40, 200),
        chance.choice([0.0, 10.0, 20.0]), chance.uniform(80, 400), chance.uniform(15, 60),
        chance.uniform(18, 23), chance.uniform(24.5, 26.0), 0.5, 35.0, chance.uniform(0.7, 1.3),
    )  # fmt: skip


@dataclass
class Flooding:
    """The water of a tank while something fails. y: the display's level against the running one, cm · more_l: what is
    in the sump beyond its running level, negative where the return chamber has fallen · salt in grams."""

    built: Basins
    y: float = 0.0
    more_l: float = 0.0
    floor_l: float = 0.0
    floor_g: float = 0.0
    dry_s: float | None = None
    over_s: float | None = None
    left_l: float = field(init=False)
    up_g: float = field(init=False)
    down_g: float = field(init=False)
    run_s: float = 0.0
    given_up: bool = False
    seconds: float = 0.0

    def __post_init__(self) -> None:
        built = self.built
        self.left_l = built.reservoir_l
        self.up_g = built.salinity * built.display * built.depth / 1000
        self.down_g = built.salinity * built.sump * built.sump_depth / 1000

    @property
    def up_l(self) -> float:
        """Litres in the display."""
        return self.built.display * (self.built.depth + self.y) / 1000

    @property
    def z(self) -> float:
        """The level of the return chamber against the running one, cm: with the whole sump above it, alone below."""
        return self.more_l * 1000 / (self.built.sump if self.more_l > 0 else self.built.chamber)

    @property
    def down_l(self) -> float:
        """Litres in the sump."""
        return self.built.sump * self.built.sump_depth / 1000 + self.more_l

    @property
    def salinity(self) -> float:
        """Of all that is left in the tank."""
        return (self.up_g + self.down_g) / (self.up_l + self.down_l)

    def live(
        self, seconds: float, step: float = 1.0, pump: bool = True, weir: bool = True, siphon: bool = True,
        top_off: str = "works", evaporates_l_day: float = 0.0, skims_l_h: float = 0.0, hose: bool = True,
    ) -> None:  # fmt: skip
        """So many seconds. siphon: whether the break works · top_off: works, open or shut · hose: whether it holds."""
        built = self.built
        for _ in range(round(seconds / step)):
            self.seconds += step
            lifted = built.flow / 3600 * step if pump and self.z > -built.reserve else 0.0
            if pump and lifted == 0.0 and self.dry_s is None:
                self.dry_s = self.seconds
            self._fall(step, weir)
            self._lift(lifted, hose)
            if not pump or not hose:
                self._siphon(step, siphon, hose)
            self._top_off(step, top_off)
            self.more_l -= evaporates_l_day / 86400 * step
            self._skim(skims_l_h / 3600 * step)
            self._run_over()

    def _lift(self, litres: float, hose: bool) -> None:
        grams = litres * self.down_g / self.down_l
        self.more_l -= litres
        self.down_g -= grams
        if hose:
            self.y += litres * 1000 / self.built.display
            self.up_g += grams
        else:
            self.floor_l += litres
            self.floor_g += grams

    def _fall(self, step: float, weir: bool) -> None:
        """Over the weir: by the three halves power of the head, which at the running level carries the pump's flow."""
        head = self.y + self.built.fall
        if weir and head > 0:
            self._down(
                min(self.built.flow / 3600 * (head / self.built.fall) ** 1.5 * step, head * self.built.display / 1e3)
            )

    def _siphon(self, step: float, breaks: bool, hose: bool) -> None:
        """Back through the return pipe until air comes in, at the hole or at the outlet: onto the floor where its hose
        is off."""
        hole = self.built.hole
        head = self.y + (hole if breaks and hole is not None else self.built.outlet)
        if head <= 0:
            return
        speed = 0.6 * PIPE_CM2 * sqrt(2 * GRAVITY_CM_S2 * (head + 1.0))
        litres = min(speed * step / 1000, head * self.built.display / 1000)
        if hose:
            self._down(litres)
            return
        grams = litres * self.up_g / self.up_l
        self.y -= litres * 1000 / self.built.display
        self.up_g -= grams
        self._spill(litres, grams)

    def _down(self, litres: float) -> None:
        grams = litres * self.up_g / self.up_l
        self.y -= litres * 1000 / self.built.display
        self.up_g -= grams
        self.down_g += grams
        self.more_l += litres

    def _top_off(self, step: float, how: str) -> None:
        built = self.built
        calls = how == "open" or (how == "works" and self.z < -0.3 and not self.given_up)
        if not calls or self.left_l <= 0:
            self.run_s = 0.0
            return
        self.run_s += step
        if how == "works" and built.limit_min and self.run_s > built.limit_min * 60:
            self.given_up = True
            return
        litres = min(built.top_off_l_h / 3600 * step, self.left_l)
        self.left_l -= litres
        self.more_l += litres

    def _skim(self, litres: float) -> None:
        if litres and self.z > -self.built.reserve:
            grams = litres * self.down_g / self.down_l
            self.more_l -= litres
            self.down_g -= grams
            self.floor_l += litres
            self.floor_g += grams

    def _run_over(self) -> None:
        built = self.built
        if self.y > built.rim:
            self.over_s = self.over_s or self.seconds
            litres = (self.y - built.rim) * built.display / 1000
            grams = litres * self.up_g / self.up_l
            self.y, self.up_g = built.rim, self.up_g - grams
            self._spill(litres, grams)
        if self.z > built.sump_rim:
            self.over_s = self.over_s or self.seconds
            litres = (self.z - built.sump_rim) * built.sump / 1000
            grams = litres * self.down_g / self.down_l
            self.more_l = built.sump_rim * built.sump / 1000
            self.down_g -= grams
            self._spill(litres, grams)

    def _spill(self, litres: float, grams: float) -> None:
        self.floor_l += litres
        self.floor_g += grams


def _vapour_kpa(celsius: float) -> float:
    """Antoine's equation for water, 1 to 100 °C."""
    return exp(log(10) * (8.07131 - 1730.63 / (233.426 + celsius))) * 0.133322


def evaporation_l_day(built: Basins, water_c: float, room_c: float) -> float:
    """Litres that the surface loses to the room."""
    pull = _vapour_kpa(water_c) - built.damp * _vapour_kpa(room_c)
    return max(0.0, 2.9 * built.air_speed * built.display / 1e4 * pull)


def heat_out_w(built: Basins, water_c: float, room_c: float) -> float:
    """Watts that panels, surface and evaporation carry away: convection by a quarter power, radiation by the fourth."""
    apart, kelvin = water_c - room_c, 273.15
    panels = 4 * sqrt(built.display / 1e4) * built.depth / 100 * 5.2
    surface = built.display / 1e4
    air = 1.9 * surface * sqrt(sqrt(abs(apart))) * apart
    glow = 5.67e-8 * 0.95 * surface * ((water_c + kelvin) ** 4 - (room_c + kelvin) ** 4)
    wet = evaporation_l_day(built, water_c, room_c) * LATENT_J_L / 86400
    return panels * apart + air + glow + wet


def temperature_after(built: Basins, hours: float, gains_w: float, room_c: float, start_c: float) -> list[float]:
    """The temperature at each minute of so many hours."""
    now, found = start_c, [start_c]
    for _ in range(round(hours * 60)):
        now += (gains_w - heat_out_w(built, now, room_c)) * 60 / (built.litres * SEA_J_L_K)
        found.append(now)
    return found


def oxygen_after(
    litres: float, surface_m2: float, held: float, use_mg_l_h: float, exchange_cm_h: float, hours: float
) -> float:
    """Oxygen (mg/L) after so many hours in still water that begins a tenth short of what it holds."""
    rate = exchange_cm_h / 100 * surface_m2 * 1000 / litres
    balance = held - use_mg_l_h / rate
    return balance + (0.9 * held - balance) * exp(-rate * hours)
