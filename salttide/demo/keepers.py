"""How the household keeps each system: one evening at a time, the tank lives on and the diary is written."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from random import Random

from salttide.core.ledger.entries import Care, Change, Dose, Feed, Reading
from salttide.core.science.additives import COMPOUNDS, AlkalinitySource, alkalinity_meq, dose_mass_g
from salttide.core.science.food import Food, brought
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.catalogue import event_kind, sign
from salttide.core.system.inspection import Event, VisualCheck, check_signs
from salttide.fishroom.probes import Probe
from salttide.fishroom.tank import Habits, NewWater, Tank

from .containers import LOST, SINCE, WORN_SINCE
from .shelf import FOODS, SALTS

Entered = Reading | Change | Dose | Care | VisualCheck | Event | Feed
SAND = ("left third", "middle third", "right third")
FED_SINCE = 340
"""From this day on Beacon's keeper writes down what is fed."""
TESTED = {
    "temperature": "thermometer W1",
    "salinity": "refractometer R1",
    "alkalinity": "titration kit T1",
    "calcium": "titration kit T2",
    "magnesium": "titration kit T3",
    "nitrate": "photometer F1",
    "phosphate": "photometer F1",
    "ammonia": "photometer F1",
    "nitrite": "photometer F1",
    "ph": "pH meter N1",
}


@dataclass
class Diary:
    """One system's diary, its tank, and the chance that scatters the readings."""

    volume_l: float
    probes: dict[tuple[str, str], Probe]
    chance: Random
    tank: Tank | None = None
    day: int = -1
    pages: list[tuple[datetime, list[Entered]]] = field(default_factory=list)
    last: dict[str, int] = field(default_factory=dict)
    alkalinity: dict[date, float] = field(default_factory=dict)
    turns: dict[str, int] = field(default_factory=dict)

    def sessions(self) -> Iterator[tuple[datetime, list[Entered]]]:
        """What was written, in order."""
        yield from self.pages

    def every(self, task: str, days: int, phase: int = 0, lapse: float = 0.0) -> bool:
        """Whether a habit of every so many days falls on today; a lapse puts it off till tomorrow."""
        due = self.day - self.last.get(task, phase - days) >= days
        if due and self.chance.random() >= lapse:
            self.last[task] = self.day
            return True
        return False

    def test(self, at: datetime, *names: str, with_: dict[str, str] | None = None) -> None:
        """Measure and write down, as one session."""
        assert self.tank
        hour = at.hour + at.minute / 60 + 1
        at = at + timedelta(minutes=self.chance.randrange(0, 50))
        readings: list[Entered] = []
        for name in names:
            probe = self.probes[(with_ or {}).get(name, TESTED[name]), name]
            truths = {"temperature": self.tank.temperature, "ph": self.tank.ph}
            truth = truths[name](hour) if name in truths else self.tank.level(name)
            stated = (probe.sd**2 + probe.step**2 / 12) ** 0.5
            value = round(probe.read(truth, self.chance), 4)
            readings.append(Reading(at, Parameter(name), value, round(stated, 4), probe.name))
        self.pages.append((at, readings))

    def look(self, at: datetime, *words: str, note: str = "") -> None:
        """Write down a visual check."""
        at = at + timedelta(minutes=5)
        self.pages.append((at, [VisualCheck(at, check_signs([sign(*text.split()) for text in words]), note)]))

    def happens(self, at: datetime, key: str, note: str) -> None:
        """Write down what happened."""
        at = at + timedelta(minutes=3)
        self.pages.append((at, [Event(at, event_kind(key), note)]))

    def care(self, at: datetime, task: str, minutes: float, zones: tuple[str, ...] = ()) -> None:
        """Write down a task done, with its part where it is done in turn."""
        at, self.turns[task] = at + timedelta(minutes=55), self.turns.get(task, 0) + 1
        part = zones[self.turns[task] % len(zones)] if zones else ""
        found: dict[str, float | str] = {}
        if task == "skimmer_cup":
            found = {"cup_level": 60.0 + 5 * (self.day * 7 % 5), "cup_colour": "tea-coloured"}
        self.pages.append((at, [Care(at, task, minutes, zone=part, found=found)]))

    def fed(self, at: datetime, food: Food, portions: float) -> None:
        """Write down what was fed."""
        held = {parameter: round(float(mg), 2) for parameter, mg in brought(food, portions).items()}
        at = at + timedelta(minutes=2)
        self.pages.append((at, [Feed(at, food.name, portions, portions * food.portion_g, held)]))

    def change(self, at: datetime, share: float, real: NewWater, stated: dict[Parameter, float]) -> None:
        """Change water: the tank gets what the water really is, the diary what the keeper believes it to be."""
        assert self.tank
        litres = round(share * self.volume_l * self.chance.uniform(0.97, 1.03), 1)
        self.tank.change(litres, real)
        done = at + timedelta(minutes=60)
        minutes = float(self.chance.randrange(42, 62))
        self.pages.append((done, [Change(done, litres, litres, stated), Care(done, "water_change", minutes)]))


def mixed(chance: Random, index: int = 0, salinity: float = 35.0) -> tuple[NewWater, dict[Parameter, float]]:
    """A batch of a salt on the shelf: as it really comes out, and as its label and the refractometer have it."""
    values = {parameter: span.middle * salinity / 35 for parameter, span in SALTS[index].values.items()}
    real = NewWater(
        salinity + chance.gauss(0, 0.15),
        values[Parameter.ALKALINITY] + chance.gauss(0, 0.04),
        values[Parameter.CALCIUM] + chance.gauss(0, 4),
        values[Parameter.MAGNESIUM] + chance.gauss(0, 10),
    )
    return real, {Parameter.SALINITY: salinity, **values, Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0}


def two_part(diary: Diary, at: datetime, soda_g: float) -> None:
    """A day's two-part doses, by pump: soda ash, and the calcium that goes with it."""
    assert diary.tank
    amount = alkalinity_meq(AlkalinitySource.SODA_ASH, soda_g)
    diary.tank.dose("alkalinity", amount)
    diary.tank.dose("calcium", amount * 20.04 * (1 - LOST * (at.date() >= WORN_SINCE)))
    if at.date() >= SINCE:
        return  # the containers tell what was given
    name = COMPOUNDS[AlkalinitySource.SODA_ASH].name
    chloride_g = round(float(dose_mass_g("CaCl2·2H2O", Parameter.CALCIUM, amount * 20.04, 1.0)), 2)
    doses: list[Entered] = [
        Dose(at, name, soda_g, {Parameter.ALKALINITY: round(amount, 2)}, routine=True),
        Dose(at, "calcium chloride dihydrate", chloride_g, {Parameter.CALCIUM: round(amount * 20.04, 1)}, routine=True),
    ]
    diary.pages.append((at, doses))


def beacon(diary: Diary, at: datetime) -> None:
    """Growth has outpaced the daily dose; the windows are shut since October."""
    diary.day += 1
    if diary.tank is None:
        diary.tank = Tank(diary.volume_l, 34.8, 8.3 / DKH_PER_MEQ_L, 425, 1310, 8.0, 0.05)
    tank, day = diary.tank, diary.day
    tank.habits = Habits(
        alkalinity_use_meq=(0.105 + 0.085 * (max(0, day - 200) / 227) ** 2.2) / DKH_PER_MEQ_L,
        nitrate_made_mg=0.15 + 0.06 * day / 427,
        phosphate_made_mg=0.0010 + 0.0003 * day / 427,
        evaporation_share=0.009,
        salt_lost_share=0.0004,
        room_air_ph=0.16 if day > 375 else 0.02,
    )
    tank.live(1.0)
    tank.top_off()
    two_part(diary, at, 0.66 if day < 180 else 0.88)
    diary.alkalinity[at.date()] = tank.level("alkalinity")
    if day >= FED_SINCE:
        diary.fed(at, FOODS[0], 2.0)
    if diary.every("test", 3, phase=1, lapse=0.15):
        diary.test(at, "temperature", "salinity", "alkalinity")
    if diary.every("nutrients", 7, phase=4):
        diary.test(at, "nitrate", "phosphate", "ph")
    if diary.every("ions", 14, phase=7):
        diary.test(at, "calcium", "magnesium")
    if diary.every("water_change", 7, phase=3):
        diary.change(at, 0.12, *mixed(diary.chance))
        diary.care(at, "siphon", 12, SAND)
    if diary.every("scrape", 6, phase=2, lapse=0.1):
        diary.care(at, "scrape_front", 10)
    if diary.every("skimmer", 4, phase=1, lapse=0.2):
        diary.care(at, "skimmer_cup", 5)
    if day == 376:
        diary.happens(at, "windows_shut", "heating season")
    if day % 7 == 6:
        diary.look(at, "open", "coralline patches panels", *(["dead_spot trace sand"] if day > 405 else []))


def eelgrass(diary: Diary, at: datetime) -> None:
    """Stored natural seawater; nutrients at the floor for months."""
    diary.day += 1
    if diary.tank is None:
        diary.tank = Tank(diary.volume_l, 34.6, 7.6 / DKH_PER_MEQ_L, 410, 1290, 4.0, 0.05, temperature_c=24.4)
    tank, day = diary.tank, diary.day
    tank.habits = Habits(
        alkalinity_use_meq=0.0004,
        nitrate_made_mg=0.5,
        phosphate_made_mg=0.006,
        nutrient_eaten_share=0.12 if day < 300 else 0.9,
        evaporation_share=0.007,
    )
    tank.live(1.0)
    tank.top_off()
    if diary.every("test", 3, phase=0, lapse=0.2):
        diary.test(at, "temperature", "salinity")
    if diary.every("alkalinity", 7, phase=5):
        diary.test(at, "alkalinity", "nitrate", "phosphate", "ph")
    if diary.every("ions", 28, phase=12):
        diary.test(at, "calcium", "magnesium")
    if diary.every("water_change", 14, phase=10):
        stated = {
            Parameter.SALINITY: 34.8, Parameter.ALKALINITY: 2.35, Parameter.CALCIUM: 412.0,
            Parameter.MAGNESIUM: 1285.0, Parameter.NITRATE: 0.2, Parameter.PHOSPHATE: 0.01,
        }  # fmt: skip
        real = NewWater(34.8 + diary.chance.gauss(0, 0.2), 2.35, 412, 1285, 0.2, 0.01)
        diary.change(at, 0.15, real, stated)
    if diary.every("scrape", 6, phase=3, lapse=0.15):
        diary.care(at, "scrape_front", 8)
    if day % 7 == 2:
        strands = "" if day < 392 else f"brown_strands {'trace' if day < 406 else 'patches'} animals"
        diary.look(at, "open", "macroalgae patches sand", *([strands] if strands else []))


def skiff(diary: Diary, at: datetime) -> None:
    """Topped off by hand and forgotten now and then; in autumn the refractometer took over from the swing-arm."""
    diary.day += 1
    if diary.tank is None:
        diary.tank = Tank(diary.volume_l, 34.6, 8.2 / DKH_PER_MEQ_L, 415, 1300, 6.0, 0.06, temperature_c=25.2)
    tank, day = diary.tank, diary.day
    tank.habits = Habits(
        alkalinity_use_meq=0.004, nitrate_made_mg=0.11, phosphate_made_mg=0.0009, evaporation_share=0.011
    )
    tank.live(1.0)
    if day == 405:
        # A helper dosed what was meant for another system, and wrote nothing down.
        tank.dose("alkalinity", 1.1 / DKH_PER_MEQ_L * diary.volume_l)
    missed_l = 3.4 * max(0, day - 370) / 57
    if diary.chance.random() > 0.15:
        tank.top_off_to(diary.volume_l - missed_l)
    if diary.every("test", 4, phase=2, lapse=0.2):
        instrument = "swing-arm hydrometer H1" if day < 390 else "refractometer R1"
        diary.test(at, "temperature", "salinity", with_={"salinity": instrument})
        if 384 <= day < 405:
            other = "refractometer R1" if day < 390 else "swing-arm hydrometer H1"
            diary.test(at - timedelta(minutes=70), "salinity", with_={"salinity": other})
            diary.pages.sort(key=lambda page: page[0])
    if diary.every("alkalinity", 7, phase=6):
        diary.test(at, "alkalinity", "nitrate", "phosphate", "ph")
    if diary.every("ions", 28, phase=9):
        diary.test(at, "calcium", "magnesium")
    if diary.every("water_change", 14, phase=13):
        diary.change(at, 0.20, *mixed(diary.chance))
        diary.care(at, "siphon", 8)
    if diary.every("scrape", 6, phase=5, lapse=0.2):
        diary.care(at, "scrape_front", 5)
    if diary.every("skimmer", 4, phase=3, lapse=0.25):
        diary.care(at, "skimmer_cup", 4)
    if day == 390:
        diary.happens(at, "instrument", "refractometer R1 instead of the swing-arm")
    if day % 10 == 7:
        film = ["red_film much rock"] if day > 396 else []
        diary.look(at, "open", "green_film trace panels", *film)


def slipway(diary: Diary, at: datetime) -> None:
    """Cycling: ammonia dosed on the first day, two guilds of bacteria growing."""
    diary.day += 1
    if diary.tank is None:
        diary.tank = Tank(
            diary.volume_l, 35.0, 8.3 / DKH_PER_MEQ_L, 425, 1310, 0.0, 0.0, temperature_c=25.6,
            ammonia_eaters=0.14, nitrite_eaters=0.009,
        )  # fmt: skip
    tank, day = diary.tank, diary.day
    if day == 0:
        tank.dose("ammonia", 2.0 * diary.volume_l)
        grams = round(float(dose_mass_g("NH4Cl", Parameter.AMMONIA, 2.0, diary.volume_l)), 2)
        brought = {Parameter.AMMONIA: round(2.0 * diary.volume_l, 1)}
        diary.pages.append((at, [Dose(at, "ammonium chloride", grams, brought)]))
    tank.live(1.0)
    tank.top_off()
    tank.break_in(1.0)
    if day % 2 == 1:
        diary.test(at, "ammonia", "nitrite", "nitrate")
    if day % 4 == 1:
        diary.test(at, "temperature", "salinity", "alkalinity", "ph")
    if diary.every("scrape", 8, phase=9):
        diary.care(at, "scrape_front", 10)
    if day % 6 == 4:
        diary.look(at, *(["brown_film trace sand"] if day > 9 else []))
