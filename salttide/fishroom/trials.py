"""Trials of estimation: tanks with a known uptake (or, for nutrients, a known production), tested by keepers with kits,
and the mishaps of everyday. Values in dKH or mg/L, as such a keeper reads them. Nothing here is shared with the program
under trial.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from math import exp, hypot, sin, sqrt
from random import Random

MEQ_PER_DKH = 1 / 2.8039
LITRES = 200.0
KIT_SD = 0.15
DAYS_AHEAD = 7


@dataclass(frozen=True)
class Kit:
    """What a kit does to a level: scatter, a share of the level, and the step to which it shows; stated: what its
    leaflet says of its scatter."""

    name: str
    sd: float
    stated: float
    share: float = 0.0
    step: float = 0.0

    def shows(self, level: float, chance: Random) -> float:
        shown = level + chance.gauss(0, hypot(self.sd, self.share * level))
        return round(shown / self.step) * self.step if self.step else shown

    def scatter(self, level: float) -> float:
        """The standard deviation of what it shows."""
        return hypot(self.sd, self.share * level, self.step / sqrt(12))


@dataclass(frozen=True)
class Water:
    """One parameter of such a tank: unit of the record per unit here, levels at first, levels of new water, what goes
    (or comes, below zero) for an uptake of 1 dKH a day, and whether it is dosed."""

    parameter: str
    recorded: float
    first: tuple[float, float]
    new: tuple[float, float]
    per_uptake: float
    dosed: bool
    kit: Kit


ALKALINITY = Water("alkalinity", MEQ_PER_DKH, (7.8, 8.6), (7.5, 9.0), 1.0, True, Kit("kit", KIT_SD, KIT_SD))
CALCIUM = Water("calcium", 1.0, (400, 440), (380, 450), 7.15, True, Kit("kit", 7.0, 8.0))
NITRATE = Water("nitrate", 1.0, (4, 12), (0, 0), -2.0, False, Kit("card", 0.5, 1.5, 0.1))
PHOSPHATE = Water("phosphate", 1.0, (0.03, 0.08), (0, 0), -0.02, False, Kit("photometer", 0.01, 0.01))
DROPS = Kit("drops", 0.1, 0.2, step=0.4)


@dataclass
class Trial:
    """What the keeper knows: readings (day, value, kit), doses (day, amount of the record), changes (day, litres, value
    of the new water), and the doses planned for the week ahead.

    And what is hidden: the uptake on the last day that explains the record as it was written, the level then, and the
    level a week later, as the last kit has it on average; for each reading how it answers to the start, the last
    uptake, and what else is unknown, with its true scatter, None where it was a blunder; the last uptake as a share of
    the base; and how the uptake wandered (share, days).
    """

    water: Water
    readings: list[tuple[float, float, Kit]] = field(default_factory=list)
    doses: list[tuple[float, float]] = field(default_factory=list)
    changes: list[tuple[float, float, float]] = field(default_factory=list)
    planned: list[tuple[float, float]] = field(default_factory=list)
    uptake: float = 0.0
    level: float = 0.0
    week_later: float = 0.0
    answers: list[tuple[float, ...]] = field(default_factory=list)
    scatters: list[float | None] = field(default_factory=list)
    last: float = 1.0
    wander: tuple[float, float] = (0.0, 1.0)


def _steady(day: float) -> float:
    return 1.0


def _growing(day: float) -> float:
    return 1 + 0.008 * day


def _seasonal(day: float) -> float:
    return 1 + 0.15 * sin(2 * 3.14159265 * day / 365)


@dataclass(frozen=True)
class TrialPlan:
    """The plan of a trial: uptake by day as a share of the base, test days, and the mishaps.

    cut, after: from which day the uptake is how many times the base · wander: the share by which it wanders, in some
    three weeks · by_level: the share more that goes for each unit of level · missed: share of doses not given (nor
    written) · blunders: readings far off · swapped: digits of one reading swapped · by_other: another hand reads so
    much higher every third time, under the same name · newer: from the last third on another kit that shows so much
    more · unwritten: a dose of so much that is not in the record · poured: a change that is not · slip: the share of a
    dose that a pump delivers from day 14 on · weak: what new water lacks · volume: true litres over recorded · held: no
    water is changed, and the daily dose is what goes at first.
    """

    test_days: Callable[[Random], list[float]]
    uptake_on: Callable[[float], float] = _steady
    cut: float = 0.0
    after: float = 1.0
    wander: float = 0.0
    by_level: float = 0.0
    water: Water = ALKALINITY
    kit: Kit | None = None
    missed: float = 0.0
    blunders: int = 0
    swapped: bool = False
    by_other: float = 0.0
    newer: float = 0.0
    unwritten: float = 0.0
    poured: bool = False
    slip: float = 1.0
    weak: float = 0.0
    volume: float = 1.0
    held: bool = False


def _weekly(_: Random) -> list[float]:
    return [7.0 * week for week in range(6)]


def _irregular(chance: Random) -> list[float]:
    days = [0.0]
    while len(days) < 6:
        days.append(days[-1] + chance.choice((3, 4, 5, 7, 9, 11)) + chance.uniform(-0.3, 0.3))
    return days


def _longer(_: Random) -> list[float]:
    return [7.0 * week for week in range(9)]


def _often(_: Random) -> list[float]:
    return [4.0 * number for number in range(15)]


def _watched(_: Random) -> list[float]:
    return [4.0 * number for number in range(31)]


def _few(_: Random) -> list[float]:
    return [0.0, 9.0, 20.0, 30.0]


COARSE = Kit("drops", 0.1, 0.2, step=0.2)
SCENARIOS: Mapping[str, TrialPlan] = {
    "steady": TrialPlan(_weekly),
    "growing": TrialPlan(_weekly, _growing),
    "step": TrialPlan(_longer, cut=35, after=1.6),
    "kit scatter": TrialPlan(_weekly, kit=Kit("kit", KIT_SD, KIT_SD, step=0.2)),
    "missed doses": TrialPlan(_weekly, missed=0.25),
    "one outlier": TrialPlan(_weekly, blunders=1),
    "irregular days": TrialPlan(_irregular),
}
"""What is tried at every uptake, against plain bars."""

MISHAPS: Mapping[str, TrialPlan] = {
    "steady, often": TrialPlan(_often),
    "few readings": TrialPlan(_few),
    "wandering": TrialPlan(_often, wander=0.15),
    "seasonal": TrialPlan(_often, _seasonal),
    "by level": TrialPlan(_often, by_level=0.12),
    "step by a third": TrialPlan(_often, cut=35, after=1.33),
    "drops of 0.4": TrialPlan(_often, kit=DROPS),
    "three blunders": TrialPlan(_often, blunders=3),
    "digits swapped": TrialPlan(_often, swapped=True),
    "another hand": TrialPlan(_often, by_other=0.3),
    "a new kit": TrialPlan(_often, newer=0.3),
    "unwritten dose": TrialPlan(_often, unwritten=0.8),
    "unwritten change": TrialPlan(_often, poured=True),
    "slipping pump": TrialPlan(_often, slip=0.8),
    "weak batches": TrialPlan(_often, weak=0.6),
    "wrong volume": TrialPlan(_often, volume=0.85),
    "calcium": TrialPlan(_often, water=CALCIUM),
    "nitrate": TrialPlan(_often, water=NITRATE),
    "phosphate": TrialPlan(_often, water=PHOSPHATE),
}
"""Everyday: other waters and kits, and what goes wrong; tried at a middling uptake, against what readings can tell."""

WATCHED: Mapping[str, TrialPlan] = {
    "watched, nothing moves": TrialPlan(_watched, held=True),
    "watched, a step": TrialPlan(_watched, cut=60, after=1.33, held=True),
}
"""Followed from test to test: what is told when, and what is told for nothing."""

UPTAKES = (0.05, 0.2, 0.5)
MIDDLING = 0.2

DOSED_AT, CHANGED_AT = 0.4, 0.75
"""Hours of the day for doses and changes: apart from each other and from the tests, so that the order is clear."""
WANDER_DAYS, SLIP_FROM, POURED_ON = 20.0, 14.0, 23


def _comes(share: float, day: float, step: float) -> bool:
    """Whether this share of a day is reached within the step."""
    return int(day + step - share) > int(day - share) if day >= share else day + step >= share


def _wandered(share: float, days: int, chance: Random) -> list[float]:
    """A factor for each day that comes back to one in some three weeks."""
    keeps = exp(-1 / WANDER_DAYS)
    path = [chance.gauss(0, share)]
    while len(path) < days:
        path.append(path[-1] * keeps + chance.gauss(0, share * sqrt(1 - keeps**2)))
    return [1 + off for off in path]


class _Tank:
    """A tank: its level, and how that answers to the start, the uptake since and before a cut, and the unwritten."""

    def __init__(self, plan: TrialPlan, base: float, chance: Random, days: int) -> None:
        self.plan, self.base = plan, base * plan.water.per_uptake
        self.level = chance.uniform(*plan.water.first)
        self.middle = sum(plan.water.first) / 2
        self.path = _wandered(plan.wander, days + 1, chance)
        self.cut = plan.cut or (SLIP_FROM if plan.slip < 1 else 0.0)
        self.answers = [1.0, 0.0, 0.0, 0.0]

    def share_on(self, day: float) -> float:
        """The uptake as a share of the base, at the usual level."""
        known = self.plan.after if self.plan.cut and day >= self.plan.cut else self.plan.uptake_on(day)
        return known * self.path[int(day)]

    def uptake(self, day: float) -> float:
        return self.base * self.share_on(day) * (1 + self.plan.by_level * (self.level - self.middle))

    def live(self, day: float, step: float) -> None:
        self.level -= self.uptake(day) * step
        self.answers[2 if day < self.cut else 1] -= step * self.plan.uptake_on(day)

    def dose(self, amount: float) -> None:
        self.level += amount

    def change(self, value: float) -> None:
        self.level = self.level * 0.9 + value * 0.1
        self.answers = [0.9 * each for each in self.answers]


def run(name: str, base: float, seed: int) -> Trial:
    """One trial of a scenario: daily doses near the uptake, a tenth changed weekly, a kit that scatters."""
    plan, chance = {**SCENARIOS, **MISHAPS, **WATCHED}[name], Random(f"{name} {base} {seed}")
    trial, days = Trial(plan.water, wander=(plan.wander, WANDER_DAYS)), plan.test_days(chance)
    tank = _Tank(plan, base, chance, int(days[-1]) + DAYS_AHEAD + 1)
    new_water = chance.uniform(*plan.water.new)
    dose = tank.base * (1.0 if plan.held else chance.uniform(0.1, 0.95)) if plan.water.dosed else 0.0
    wrong = chance.sample(range(1, len(days) - 1), plan.blunders) if plan.blunders else []
    swapped = chance.randrange(1, len(days) - 1) if plan.swapped else -1
    unwritten = chance.uniform(0.3, 0.8) * days[-1] if plan.unwritten else -1.0
    newer_from = days[2 * len(days) // 3]
    day, hour, pending = 0.0, 1 / 24, list(days)
    while pending or day < days[-1] + DAYS_AHEAD:
        if pending and day >= pending[0] - 1e-9:
            number = len(trial.readings)
            _read(trial, tank, plan, day, chance, number in wrong, number == swapped, day >= newer_from)
            pending.pop(0)
            if not pending:
                trial.level, trial.last = tank.level, plan.uptake_on(day)
                trial.uptake = tank.uptake(day) + dose * (1 - _given(plan, day)) + 0.1 * plan.weak / 7
        step = min(hour, pending[0] - day) if pending and pending[0] > day else hour
        known = bool(pending)
        tank.live(day, step)
        if dose and _comes(DOSED_AT, day, step):
            _dose(trial, tank, day, day + step, dose, known, chance)
        if known and day <= unwritten < day + step:
            tank.dose(plan.unwritten)
            tank.answers[3] += 1.0
        if known and not plan.held and _comes(CHANGED_AT, day, step):
            _change(trial, tank, day, day + step, new_water)
        day += step
    trial.week_later = tank.level + plan.newer
    return trial


def _dose(trial: Trial, tank: _Tank, day: float, at: float, dose: float, known: bool, chance: Random) -> None:
    """The daily dose: written down where it is given, and planned for the week ahead."""
    written = (at, dose * trial.water.recorded * LITRES)
    if known and chance.random() < tank.plan.missed:
        return
    (trial.doses if known else trial.planned).append(written)
    tank.dose(dose * _given(tank.plan, day))


def _change(trial: Trial, tank: _Tank, day: float, at: float, new_water: float) -> None:
    """The weekly change; and once, where one is not written down, three in a row."""
    if int(day) % 7 == 3:
        tank.change(new_water - tank.plan.weak)
        trial.changes.append((at, 0.1 * LITRES, new_water))
    if tank.plan.poured and int(day) == POURED_ON:
        for _ in range(3):
            tank.change(new_water)
        tank.answers[3] += 1.0


def _given(plan: TrialPlan, day: float) -> float:
    """What a dose really brings, as a share of what the record says."""
    return (plan.slip if day >= SLIP_FROM else 1.0) / plan.volume


def _read(
    trial: Trial, tank: _Tank, plan: TrialPlan, day: float, chance: Random, wrong: bool, swapped: bool, newer: bool
) -> None:
    """One test, written down."""
    kit = plan.kit or plan.water.kit
    number = len(trial.readings)
    level = tank.level + (plan.by_other if number % 3 == 1 else 0.0)
    if newer and plan.newer:
        kit, level = Kit("newer", kit.sd, kit.stated, kit.share, kit.step), level + plan.newer
    shown = kit.shows(level, chance)
    if wrong:
        shown += chance.choice((-1, 1)) * kit.stated / KIT_SD * chance.uniform(0.8, 1.6)
    if swapped:
        shown = _swapped(shown)
    trial.readings.append((day, shown, kit))
    trial.answers.append((*tank.answers, 1.0 if kit.name == "newer" else 0.0))
    trial.scatters.append(None if wrong or swapped else hypot(kit.scatter(level), plan.by_other / 2))


def _swapped(shown: float) -> float:
    """Its first two digits the other way round: 8.2 becomes 2.8."""
    tens, ones = divmod(round(shown * 10), 10)
    return (10 * ones + tens) / 10
