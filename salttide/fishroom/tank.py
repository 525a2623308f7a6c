"""A simulated tank with a hidden truth. Its physics is its own and shares nothing with the core's book-keeping.

The tank keeps amounts, not concentrations: grams of salt, milliequivalents of alkalinity, milligrams of ions. Time
passes in steps of a day or less; what lives in it uses and produces; water evaporates and leaves the amounts behind.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field


@dataclass
class Habits:
    """What the inhabitants and the room do, per litre and day unless stated otherwise."""

    alkalinity_use_meq: float = 0.0
    nitrate_made_mg: float = 0.0
    phosphate_made_mg: float = 0.0
    nutrient_eaten_share: float = 0.0
    evaporation_share: float = 0.008
    salt_lost_share: float = 0.0
    room_air_ph: float = 0.0


@dataclass
class NewWater:
    """New water as it really is, whatever its label says."""

    salinity: float
    alkalinity_meq: float
    calcium_mg: float
    magnesium_mg: float
    nitrate_mg: float = 0.0
    phosphate_mg: float = 0.0
    temperature_c: float = 25.0


@dataclass
class Tank:
    """The truth. `full_l` is the volume at the level mark, `water_l` what is in it now; the rest are amounts."""

    full_l: float
    salinity: float
    alkalinity_meq: float
    calcium_mg: float
    magnesium_mg: float
    nitrate_mg: float
    phosphate_mg: float
    temperature_c: float = 25.3
    ammonia_mg: float = 0.0
    nitrite_mg: float = 0.0
    habits: Habits = field(default_factory=Habits)
    ammonia_eaters: float = 1e9
    nitrite_eaters: float = 1e9

    def __post_init__(self) -> None:
        self.water_l = self.full_l
        self.amounts = {
            "salinity": self.salinity,
            "alkalinity": self.alkalinity_meq,
            "calcium": self.calcium_mg,
            "magnesium": self.magnesium_mg,
            "nitrate": self.nitrate_mg,
            "phosphate": self.phosphate_mg,
            "ammonia": self.ammonia_mg,
            "nitrite": self.nitrite_mg,
        }
        self.amounts = {name: value * self.full_l for name, value in self.amounts.items()}

    def level(self, name: str) -> float:
        """The true concentration of something in the water as it is now."""
        return self.amounts[name] / self.water_l

    def live(self, days: float) -> None:
        """Let time pass: growth, waste, appetite of algae, evaporation."""
        habits, litres = self.habits, self.full_l
        used = habits.alkalinity_use_meq * litres * days
        self._add("alkalinity", -used)
        self._add("calcium", -used * 20.04)
        self._add("magnesium", -used * 1.6)
        self._add("nitrate", habits.nitrate_made_mg * litres * days)
        self._add("phosphate", habits.phosphate_made_mg * litres * days)
        left = math.exp(-habits.nutrient_eaten_share * days)
        self.amounts["nitrate"] *= left
        self.amounts["phosphate"] *= left
        self.amounts["salinity"] *= 1 - habits.salt_lost_share * days
        self.water_l -= habits.evaporation_share * litres * days

    def break_in(self, days: float) -> None:
        """Two guilds of bacteria, each doubling while it is fed: ammonia to nitrite, nitrite to nitrate."""
        steps = max(1, round(days * 24))
        hours = days * 24 / steps
        for _ in range(steps):
            eaten = min(self.level("ammonia"), 0.010 * self.ammonia_eaters * hours * self._fed("ammonia"))
            oxidised = min(self.level("nitrite"), 0.010 * self.nitrite_eaters * hours * self._fed("nitrite"))
            self._add("ammonia", -eaten * self.water_l)
            self._add("nitrite", (eaten * 46 / 17 - oxidised) * self.water_l)
            self._add("nitrate", oxidised * 62 / 46 * self.water_l)
            self._add("alkalinity", -eaten / 17 * 2 * self.water_l)
            self.ammonia_eaters *= 1 + 0.020 * hours * self._fed("ammonia")
            self.nitrite_eaters *= 1 + 0.014 * hours * self._fed("nitrite")

    def _fed(self, name: str) -> float:
        return self.level(name) / (self.level(name) + 0.3)

    def top_off(self) -> None:
        """Fill up to the mark with fresh water."""
        self.top_off_to(self.full_l)

    def top_off_to(self, level_l: float) -> None:
        """Fill up with fresh water to a volume, where it is below."""
        self.water_l = max(self.water_l, level_l)

    def change(self, litres: float, water: NewWater) -> None:
        """Take out `litres` and put in as much of `water`."""
        kept = 1 - litres / self.water_l
        self.amounts = {name: amount * kept for name, amount in self.amounts.items()}
        self._add("salinity", water.salinity * litres)
        self._add("alkalinity", water.alkalinity_meq * litres)
        self._add("calcium", water.calcium_mg * litres)
        self._add("magnesium", water.magnesium_mg * litres)
        self._add("nitrate", water.nitrate_mg * litres)
        self._add("phosphate", water.phosphate_mg * litres)

    def dose(self, name: str, amount: float) -> None:
        """Add an amount (meq or mg) of something."""
        self._add(name, amount)

    def _add(self, name: str, amount: float) -> None:
        self.amounts[name] = max(0.0, self.amounts[name] + amount)

    def ph(self, hour: float) -> float:
        """pH at an hour of the day: highest in the evening of the light, pulled down by stale room air."""
        rhythm = 0.09 * math.sin((hour - 11) / 24 * 2 * math.pi)
        return 8.16 + 0.35 * math.log10(self.level("alkalinity") / 2.8) + rhythm - self.habits.room_air_ph

    def temperature(self, hour: float) -> float:
        """Temperature at an hour: lamps warm the water a little."""
        return self.temperature_c + 0.15 * math.sin((hour - 10) / 24 * 2 * math.pi)
