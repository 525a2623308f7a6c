"""The failures of the board, played in the fish room: litres on the floor, salinity, degrees and hours as told, and as
they come. `python -m tests.failure_trial` prints the table.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace
from random import Random

from salttide.core.estimate.evaporation import Evaporated
from salttide.core.failure.board import WORKED
from salttide.core.failure.installation import Installation
from salttide.core.failure.outcome import Outcome
from salttide.core.science.parameters import Parameter
from salttide.core.system.heating import Heating
from salttide.core.system.livestock import Animal
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.system import System
from salttide.core.system.topoff import TopOffSetup
from salttide.core.system.volume import Geometry, Sump
from salttide.demo.systems import BEACON
from salttide.fishroom.basins import Basins, Flooding, by_lot, evaporation_l_day, temperature_after

SALINITY = Parameter.SALINITY


@dataclass(frozen=True)
class Pair:
    """A size as it was told and as it came, with how far they may be apart beside 15 %."""

    failure: str
    what: str
    told: float
    came: float
    slack: float

    @property
    def near(self) -> bool:
        """Whether they agree within 15 %, or the slack where the size is small."""
        return abs(self.told - self.came) <= max(0.15 * abs(self.came), self.slack)


def installed(built: Basins) -> Installation:
    """The tank as its keeper enters it: measured levels, what evaporates, and one logged cooling."""
    width = (built.display / 2) ** 0.5
    sump_width = (built.sump / 2) ** 0.5
    evaporates = evaporation_l_day(built, built.water_c, built.room_c)
    cooled = temperature_after(built, 6, 0.0, 16.0, built.water_c)
    system: System = replace(
        BEACON,
        geometry=Geometry(2 * width, width, built.depth, 0.0, sump=Sump(2 * sump_width, sump_width, built.sump_depth)),
        animals=(Animal(1, "clownfish", count=4, portions=2.0),),
        plumbing=Plumbing(
            fall_cm=max(built.fall, built.hole or built.outlet),
            outlet_cm=built.outlet,
            break_cm=built.hole,
            freeboard_cm=built.rim,
            rim_cm=built.sump_depth + built.sump_rim,
            chamber_cm=built.chamber / sump_width,
            pump_cm=built.sump_depth - built.reserve,
            return_l_h=built.flow,
        ),
        top_off=TopOffSetup(built.reservoir_l, built.top_off_l_h, limit_min=built.limit_min),
        heating=Heating(
            room_c=built.room_c, cold_c=16.0, hot_c=32.0, heaters_w=(built.heater_w,), pumps_w=built.pumps_w,
            cooled_from_c=cooled[0], cooled_to_c=cooled[-1], cooled_h=6.0, cooled_room_c=16.0,
            evaporates_l_day=evaporates,
        ),
        own_aims={},
    )  # fmt: skip
    water = {SALINITY: built.salinity, Parameter.TEMPERATURE: built.water_c}
    return Installation(system, water, Evaporated(evaporates, evaporates, evaporates, 9))


def told(at: Installation, key: str) -> Outcome:
    """What the board tells of one failure."""
    found = WORKED[key](at)
    assert isinstance(found, Outcome), key
    return found


def size(outcome: Outcome, key: str) -> float:
    """One size of it; 0 where it is none."""
    return next((each.value for each in outcome.effects if each.key == key), 0.0)


def water_pairs(built: Basins) -> list[Pair]:
    """What water does."""
    at = installed(built)
    found: list[Pair] = []

    def played(key: str, seconds: float, salt: bool = False, **how: object) -> Flooding:
        tank, said = Flooding(built), told(at, key)
        tank.live(seconds, **how)  # type: ignore[arg-type]
        found.append(Pair(key, "floor_l", size(said, "floor"), tank.floor_l, 0.6))
        if salt:
            fell, came = built.salinity - size(said, "salinity"), built.salinity - tank.salinity
            found.append(Pair(key, "salinity", fell, came, 0.15))
        return tank

    emptied = built.reservoir_l / built.top_off_l_h * 3600 + 900
    played("return_stops", 900, pump=False)
    played("siphon_holds", 900, pump=False, siphon=False)
    played("overflow_blocked", emptied, salt=True, weir=False)
    played("top_off_open", emptied, salt=True, top_off="open")
    played("hose_off", emptied, hose=False)
    return found


def heat_pairs(built: Basins) -> list[Pair]:
    """What heat does: where it settles, and hours until it is too warm or too cold."""
    at = installed(built)
    heating = at.heating
    plays = (
        ("heater_on", heating.room_c, built.pumps_w + built.heater_w, 28.0, True),
        ("heatwave", heating.hot_c, built.pumps_w, 28.0, True),
        ("power", heating.cold_c, 0.0, 22.0, False),
    )
    found = []
    for key, room, gains, line, up in plays:
        said, way = told(at, key), temperature_after(built, 240, gains, room, built.water_c)
        if key != "power":
            found.append(Pair(key, "degrees", size(said, "settles") - room, way[-1] - room, 0.5))
        hours = next((minute / 60 for minute, now in enumerate(way) if (now >= line if up else now <= line)), None)
        clear = abs(way[-1] - line) > 1.0
        name = {"heater_on": "hot", "heatwave": "", "power": "cold"}[key]
        if hours is not None and name and clear:
            found.append(Pair(key, "hours", size(said, name), hours, 0.3))
    return found


def harms(built: Basins) -> list[tuple[float, float]]:
    """Litres on the floor by failure, as told and as they came, for the order of harm."""
    return [(each.told, each.came) for each in water_pairs(built) if each.what == "floor_l"]


def trial(tanks: int = 40) -> list[Pair]:
    """All pairs of so many tanks."""
    built = [by_lot(Random(seed)) for seed in range(tanks)]
    return [pair for one in built for pair in (*water_pairs(one), *heat_pairs(one))]


def main() -> None:
    """Print how near they come, by failure."""
    by: dict[tuple[str, str], list[Pair]] = defaultdict(list)
    for pair in trial():
        by[(pair.failure, pair.what)].append(pair)
    for (failure, what), pairs in by.items():
        off = max(pairs, key=lambda one: abs(one.told - one.came) - max(0.15 * abs(one.came), one.slack))
        near = sum(one.near for one in pairs)
        print(
            f"{failure:18} {what:9} {near} of {len(pairs)} within 15 %; worst {off.told:.2f} told, {off.came:.2f} came"
        )


if __name__ == "__main__":
    main()
