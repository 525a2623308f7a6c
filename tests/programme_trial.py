"""Programmes in the fish room: tanks drawn by lot with half their surface overgrown, and a keeper who follows a
programme and forgets one act in ten, against one big change and a week of darkness."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, time, timedelta
from random import Random

from salttide.core.programme.course import ProgrammeCourse, ProgrammeRecord, Review, course_of, coverage_of
from salttide.core.programme.file import PhaseKind, Programme, programmes
from salttide.core.programme.wants import ProgrammeFacts, Wants, counted_tasks, floors, not_for, wants_of
from salttide.core.science.parameters import Parameter
from salttide.core.system.light import Light
from salttide.core.system.livestock import Animal
from salttide.core.system.system import Routine
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.demo.livestock import LIGHTS
from salttide.demo.systems import BEACON
from salttide.fishroom.growth import GrowthKind, Surface, drawn

NITRATE, PHOSPHATE = Parameter.NITRATE, Parameter.PHOSPHATE
FIRST, FORGETS, DAYS = date(2026, 1, 5), 0.1, 26 * 7
FISH = (Animal(1, "cardinalfish", count=4, portions=2), Animal(2, "goby", count=2, portions=1))
SYSTEM = replace(BEACON, animals=FISH)
LEAST = 3.0
"""What its two species need a day in all, portions."""
KINDS: Mapping[str, GrowthKind] = {
    "cyanobacteria": GrowthKind.FILM,
    "cyanobacteria_bacteria": GrowthKind.FILM,
    "hair_algae": GrowthKind.HAIR,
    "hair_algae_export": GrowthKind.HAIR,
    "dinoflagellates_steriliser": GrowthKind.STRANDS,
    "dinoflagellates_sand": GrowthKind.STRANDS,
}


@dataclass
class Fought:
    """How one tank went. cover: by day, from the first on · stripped: acts beyond the routine's that took nutrients out
    while they were at the floor by the last test · least_fed: portions a day · light_h: at the end."""

    cover: list[float] = field(default_factory=list)
    stripped: int = 0
    least_fed: float = 99.0
    light_h: float = 0.0
    course: ProgrammeCourse | None = None

    def under(self, weeks: int, share: float = 0.05) -> bool:
        """Whether less than a share of the surface is covered after so many weeks."""
        return self.cover[weeks * 7 - 1] < share


def _fed_less(tank: Surface) -> None:
    tank.fed = max(LEAST, 0.75 * tank.fed)


def _aimed(tank: Surface) -> None:
    tank.still *= 0.5


def _cleaned(share: float) -> Callable[[Surface], None]:
    def act(tank: Surface) -> None:
        tank.muck *= 1 - share

    return act


def _crowd(tank: Surface) -> None:
    tank.others = min(1.0, tank.others + 0.05)


ACTS: Mapping[str, Callable[[Surface], None]] = {
    "lift_film": lambda tank: tank.lift(),
    "pull_algae": lambda tank: tank.lift(),
    "siphon_strands": lambda tank: tank.lift(drained=False),
    "aim_flow": _aimed,
    "feed_portions": _fed_less,
    "rock_check": _cleaned(0.15),
    "filter_sock": _cleaned(0.08),
    "skimmer_cup": _cleaned(0.05),
    "add_grazers": lambda tank: setattr(tank, "grazers", 0.03),
    "live_bacteria": _crowd,
    "run_steriliser": lambda tank: setattr(tank, "steriliser", True),
    "macroalgae": lambda tank: tank.take_out(0.08),
    "media_phosphate": lambda tank: setattr(tank, "phosphate", tank.phosphate * 0.85),
    "dark_days": lambda tank: setattr(tank, "dark_days", 3),
}
"""What the acts do in the model; those that only tell something do nothing."""


class Keeper:
    """Somebody who does what the programme asks, but for one act in ten."""

    def __init__(self, programme: Programme, tank: Surface, chance: Random, forgets: float = FORGETS) -> None:
        self.forgets = forgets
        self.programme, self.tank, self.chance, self.fought = programme, tank, chance, Fought()
        lamps = LIGHTS["Beacon"][-1]
        self.before = self.lamps = replace(lamps, since=FIRST, off=_off(lamps, tank.light_h))
        self.reviews: list[Review] = []
        self.done: dict[str, list[date]] = {}
        self.tried: dict[str, date] = {}
        self.turns: list[tuple[date, str]] = []
        self.tested: dict[Parameter, float] = {}
        self.changed = FIRST

    def day(self, today: date) -> None:
        """One day: a test a week, what is due, the water change, and life."""
        if (today - FIRST).days % 7 == 0:
            self.tested = {
                NITRATE: max(0.0, self.tank.nitrate + self.chance.gauss(0, 0.3)),
                PHOSPHATE: max(0.0, self.tank.phosphate + self.chance.gauss(0, 0.004)),
            }
        facts = ProgrammeFacts(self.before, self.lamps, self.tested)
        course = self.course(facts, today)
        wants = wants_of(course, SYSTEM, facts, today)
        self.decide(course, today)
        for one in wants.asked:
            self.task(one.ask.task, one.ask.every_days, wants, today)
        self.water(wants, today)
        if course.programme.sign == "brown_strands" and course.stage.phase.kind != PhaseKind.FIND:
            self.raise_nutrients()
        self.tank.live()
        self.fought.cover.append(self.tank.cover)
        self.fought.least_fed = min(self.fought.least_fed, self.tank.fed)
        self.fought.light_h, self.fought.course = self.tank.light_h, course

    def course(self, facts: ProgrammeFacts, today: date) -> ProgrammeCourse:
        known = {task: self.done.get(task, []) for task in counted_tasks(self.programme, SYSTEM, facts)}
        before = coverage_of(0.5)
        return course_of(self.programme, ProgrammeRecord(FIRST, before, self.reviews, known, self.turns))

    def decide(self, course: ProgrammeCourse, today: date) -> None:
        """Nothing changed for two looks: the next stronger phase that the animals bear."""
        phases = list(course.programme.phases)
        later = [p for p in course.programme.stronger if phases.index(p) > phases.index(course.stage.phase)]
        later = [p for p in later if not not_for(p, SYSTEM.animals)]
        if course.stuck and later and (not self.turns or (today - self.turns[-1][0]).days >= 14):
            self.turns.append((today, later[0].key))

    def task(self, task: str, every: int | None, wants: Wants, today: date) -> None:
        if task == WATER_CHANGE or (every and task in self.tried and (today - self.tried[task]).days < every):
            return
        self.tried[task] = today
        if self.chance.random() < self.forgets:
            return
        self.done.setdefault(task, []).append(today)
        if task == self.programme.review:
            seen = coverage_of(self.tank.overgrown(self.chance) if self.tank.cover > 0.01 else 0.0)
            self.reviews.append(Review(today, seen, len(self.reviews)))
        elif task == "light_hours" and wants.light:
            self.lamps = wants.light
            self.tank.light_h = wants.light.hours
        elif task in ACTS:
            if task in ("macroalgae", "media_phosphate") and floors(SYSTEM, self.tested):
                self.fought.stripped += 1
            ACTS[task](self.tank)

    def water(self, wants: Wants, today: date) -> None:
        routine = wants.routine or Routine(SYSTEM.methods.change_fraction, SYSTEM.methods.change_every_days)
        if routine.held or (today - self.changed).days < routine.every_days:
            return
        self.changed = today
        if self.chance.random() < self.forgets:
            return
        self.tank.take_out(routine.fraction)
        self.fought.stripped += bool(
            floors(SYSTEM, self.tested) and routine.fraction > SYSTEM.methods.change_fraction + 1e-9
        )

    def raise_nutrients(self) -> None:
        """The plan for a nutrient under its floor: a small dose a day up to the aim."""
        for parameter, step in ((NITRATE, 0.5), (PHOSPHATE, 0.005)):
            aim = SYSTEM.aim(parameter)
            if aim and self.tested.get(parameter, aim) < 0.8 * aim and self.chance.random() >= self.forgets:
                self.tank.dose(*((step, 0.0) if parameter == NITRATE else (0.0, step)))


def _off(lamps: Light, hours: float) -> time:
    """The hour at which lamps go off that burn so long."""
    minutes = lamps.on.hour * 60 + lamps.on.minute + round(hours * 60)
    return lamps.off.replace(hour=minutes // 60, minute=minutes % 60)


def followed(key: str, seed: int, days: int = DAYS, forgets: float = FORGETS) -> Fought:
    """A tank whose keeper follows a programme."""
    chance = Random(f"{key} {seed}")
    keeper = Keeper(programmes()[key], drawn(KINDS[key], chance), chance, forgets)
    for number in range(days):
        keeper.day(FIRST + timedelta(days=number))
    return keeper.fought


def the_usual_way(key: str, seed: int, days: int = DAYS) -> Fought:
    """The same tank: half the water changed, a week of darkness, and then as before."""
    chance = Random(f"{key} {seed}")
    tank, fought = drawn(KINDS[key], chance), Fought()
    tank.take_out(0.5)
    tank.dark_days = 7
    for number in range(days):
        if number and number % SYSTEM.methods.change_every_days == 0:
            tank.take_out(SYSTEM.methods.change_fraction)
        tank.live()
        fought.cover.append(tank.cover)
    return fought


def table(runs: int = 60) -> str:
    """What became of each kind, programme against the usual way."""
    lines = ["programme | weeks | under 5 % by then | the usual way | under 5 % after half a year | acts at the floor"]
    for key in KINDS:
        weeks = programmes()[key].weeks
        mine = [followed(key, seed) for seed in range(runs)]
        other = [the_usual_way(key, seed) for seed in range(runs)]
        share = [100 * sum(one.under(weeks) for one in found) / runs for found in (mine, other)]
        late = 100 * sum(one.under(26) for one in mine) / runs
        acts = sum(one.stripped for one in mine)
        lines.append(f"{key} | {weeks} | {share[0]:.0f} % | {share[1]:.0f} % | {late:.0f} % | {acts}")
    return "\n".join(lines)


if __name__ == "__main__":
    print(table())
