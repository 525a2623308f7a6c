"""Sixty days of dosing in the fish room: a tank that grows, kits that scatter, a pump that loses a fifth, and a keeper
who does what the program says, or leaves everything as it was."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from random import Random

from salttide.core.estimate.dose_review import Fit, ease_back, is_off, review_dose
from salttide.core.estimate.dose_times import slots_of
from salttide.core.estimate.rate import Rate, rate_of
from salttide.core.estimate.supplementation import (
    ALKALINITY,
    CALCIUM,
    Changes,
    changes_bring,
    day_amount,
    need_from_uptake,
)
from salttide.core.ledger.entries import Change, Entry, Ledger, Reading, ledger_of
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind
from salttide.core.planning.delivery import Fault, delivered_doses, delivery_of
from salttide.core.science.parameters import Parameter
from salttide.core.science.sizing import DayLimit
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.shelf import Additive
from salttide.files.schedule import PumpSchedule, schedule_json
from salttide.fishroom.pump import DosingPump
from salttide.fishroom.tank import Habits, NewWater, Tank

START = datetime(2026, 1, 1, 0, tzinfo=UTC)
LITRES, BEFORE, DAYS = 300.0, 28, 60
ALKALINITY_SD, CALCIUM_SD, LEVEL_SD_ML = 0.12 / DKH_PER_MEQ_L, 8.0, 3.0
TARGET = {ALKALINITY: 8.3 / DKH_PER_MEQ_L, CALCIUM: 420.0}
LIMIT = {ALKALINITY: DayLimit(1 / DKH_PER_MEQ_L, 1 / DKH_PER_MEQ_L), CALCIUM: DayLimit(20.0, 20.0)}
NEW_WATER = {ALKALINITY: 8.2 / DKH_PER_MEQ_L, CALCIUM: 425.0}
CAPACITY_ML, FIFTH = 1200.0, 0.2
SOLUTIONS = {
    ALKALINITY: Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0),
    CALCIUM: Additive(2, "calcium stock", "CaCl2·2H2O", strength_g_l=140.0),
}
ROUTINE = Changes(0.1, 7, NEW_WATER)


@dataclass
class Trial:
    """One run: alkalinity (dKH) and calcium on each of the sixty days, when the loss began and was named, and alarms
    without a loss."""

    alkalinity: list[float] = field(default_factory=list)
    calcium: list[float] = field(default_factory=list)
    lost_on: float | None = None
    named_on: float | None = None
    false_alarms: int = 0

    @property
    def within(self) -> tuple[float, float]:
        """Share of days with alkalinity within 0.5 dKH and with calcium within 20 mg/L of target."""
        target = TARGET[ALKALINITY] * DKH_PER_MEQ_L
        alkalinity = sum(abs(value - target) <= 0.5 for value in self.alkalinity) / len(self.alkalinity)
        return alkalinity, sum(abs(value - TARGET[CALCIUM]) <= 20 for value in self.calcium) / len(self.calcium)


@dataclass
class Keeper:
    """What the keeper has: the record, two containers with their pump, and how much is dosed a day (canonical)."""

    entries: list[Entry]
    containers: dict[Parameter, Container]
    dosed: dict[Parameter, float]
    eased_until: dict[Parameter, datetime] = field(default_factory=dict)

    def ledger(self, now: datetime) -> Ledger:
        """The record with what the pumps delivered."""
        given = [dose for one in self.containers.values() for dose in delivered_doses(one, START, now, UTC)]
        return ledger_of(LITRES, [*self.entries, *given])

    def add(self, parameter: Parameter, event: ContainerEvent) -> None:
        """Write an event of a container down."""
        one = self.containers[parameter]
        self.containers[parameter] = replace(one, events=(*one.events, event))


class Run:
    """The tank, its pump and its keeper, day by day."""

    def __init__(self, seed: int, loss: bool, advised: bool) -> None:
        self.chance, self.advised = Random(f"dosing {seed}"), advised
        self.base = self.chance.uniform(0.25, 0.6) / DKH_PER_MEQ_L
        self.growth = self.chance.uniform(0.002, 0.008)
        self.tank = Tank(LITRES, 35.0, TARGET[ALKALINITY], TARGET[CALCIUM], 1320.0, 8.0, 0.05)
        self.trial = Trial(lost_on=self.chance.uniform(8, 40) if loss else None)
        self.loser = self.chance.choice((ALKALINITY, CALCIUM))
        self.keeper = Keeper([], {}, {})
        self.pump = self._pump(seed)

    def _pump(self, seed: int) -> DosingPump:
        for parameter, additive in SOLUTIONS.items():
            self.keeper.containers[parameter] = Container(
                additive.id, additive.name, additive, CAPACITY_ML, LEVEL_SD_ML, additive.name, "two-part"
            )
            self.keeper.add(parameter, ContainerEvent(START, ContainerKind.FILLED, CAPACITY_ML))
        self._by_feel(-BEFORE - 1, START)
        contents = {one.name: CAPACITY_ML for one in self.keeper.containers.values()}
        pump = DosingPump.from_json(self._schedule(START), contents, seed)
        for head in pump.heads.values():
            head.flow, head.drift = self.chance.gauss(1, 0.01), self.chance.uniform(0, 0.0005)
        return pump

    def _uptake(self, day: float) -> float:
        """The truth, meq/L a day."""
        return self.base * (1 + self.growth * (day + BEFORE))

    def _by_feel(self, day: int, now: datetime) -> None:
        """Before the sixty days a keeper with a good feel sets the pumps, each week near the truth."""
        need = need_from_uptake(self._uptake(day + 4) * self.chance.gauss(1, 0.03))
        for parameter in SOLUTIONS:
            by_changes = float(changes_bring(ROUTINE, parameter, TARGET[parameter]))
            self._set(parameter, need.of(parameter) - by_changes, now)

    def _schedule(self, now: datetime) -> str:
        made = [
            PumpSchedule(one.name, one.pump, one.additive.name, None, setting.slots)
            for one in self.keeper.containers.values()
            if (setting := one.setting_at(now))
        ]
        return schedule_json("fish room", "UTC", made)

    def _set(self, parameter: Parameter, rise: float, now: datetime) -> None:
        """Set a pump to what raises the system by so much a day."""
        ml = day_amount(SOLUTIONS[parameter], parameter, rise, LITRES).ml or 0.0
        slots = slots_of([1.0] * 24, ml, 0 if parameter == ALKALINITY else 30, 0.1)
        self.keeper.dosed[parameter] = rise
        total = sum(slot.ml for slot in slots)
        self.keeper.add(parameter, ContainerEvent(now, ContainerKind.SET, total, slots=slots))

    def day(self, day: int) -> None:
        """A day: the tank lives and is dosed, in the evening it is tested and, once a week, looked after."""
        self.tank.habits = Habits(alkalinity_use_meq=self._uptake(day))
        came = self.pump.run_day()
        self.tank.live(1.0)
        self.tank.top_off()
        for parameter, additive in SOLUTIONS.items():
            one = day_amount(additive, parameter, 1.0, 1.0)
            assert one.ml
            self.tank.dose(parameter.value, came[additive.name] / one.ml)
        now = START + timedelta(days=BEFORE + day + 1)
        if self.trial.lost_on is not None and day <= self.trial.lost_on < day + 1:
            self.pump.clog(SOLUTIONS[self.loser].name, FIFTH)
        if day >= 0:
            self.trial.alkalinity.append(self.tank.level("alkalinity") * DKH_PER_MEQ_L)
            self.trial.calcium.append(self.tank.level("calcium"))
        self._evening(day, now)

    def _evening(self, day: int, now: datetime) -> None:
        number = len(self.keeper.entries) + 1
        if day % 3 == 0:
            self._test(ALKALINITY, ALKALINITY_SD, now, number)
            self._follow(day, now)
        if day % 7 == 5:
            self._test(CALCIUM, CALCIUM_SD, now, number + 1)
        if day % 7 != 6:
            return
        self.tank.change(30.0, NewWater(35.0, NEW_WATER[ALKALINITY], NEW_WATER[CALCIUM], 1320.0))
        self.keeper.entries.append(Change(now, 30.0, 30.0, NEW_WATER, number + 2))
        self._levels(day, now)
        if day < 0:
            self._by_feel(day, now)
            self._load(now)
        self._follow(day, now)

    def _follow(self, day: int, now: datetime) -> None:
        if day >= 0 and self.advised:
            self._advice(now)
            self._load(now)

    def _test(self, parameter: Parameter, sd: float, now: datetime, number: int) -> None:
        value = max(0.0, self.chance.gauss(self.tank.level(parameter.value), sd))
        self.keeper.entries.append(Reading(now, parameter, value, sd, f"kit {parameter}", number))

    def _levels(self, day: int, now: datetime) -> None:
        """Read both levels; fill what will not last two weeks; calibrate a pump that is called off."""
        for parameter, additive in SOLUTIONS.items():
            level = self.pump.level_ml(additive.name, LEVEL_SD_ML)
            self.keeper.add(parameter, ContainerEvent(now, ContainerKind.LEVEL, level))
            if day >= 0 and self.advised:
                self._check(parameter, day, now)
            if level < 14 * self.keeper.containers[parameter].set_at(now) + 100:
                self.pump.refill(additive.name, CAPACITY_ML)
                self.keeper.add(parameter, ContainerEvent(now, ContainerKind.FILLED, CAPACITY_ML, level))

    def _check(self, parameter: Parameter, day: int, now: datetime) -> None:
        told = delivery_of(self.keeper.containers[parameter], now)
        if told is None or told.fault is None:
            return
        begun = self.trial.lost_on is not None and self.trial.lost_on < day + 1
        if begun and parameter == self.loser and told.fault == Fault.SHORT:
            self.trial.named_on = self.trial.named_on or day + 1.0
        else:
            self.trial.false_alarms += 1
        self.pump.calibrate(SOLUTIONS[parameter].name)
        self.keeper.add(parameter, ContainerEvent(now, ContainerKind.CALIBRATED, 50.0))

    def _advice(self, now: datetime) -> None:
        """The program's review, followed: another dose where it does not fit, eased back where the level is off."""
        book = self.keeper.ledger(now)
        uptake = 0.0
        for parameter in (ALKALINITY, CALCIUM):
            rate = rate_of(book, parameter, now)
            by_changes = float(changes_bring(ROUTINE, parameter, TARGET[parameter]))
            if parameter == ALKALINITY:
                found = review_dose(rate, self.keeper.dosed[ALKALINITY], by_changes)
                eased = self.keeper.eased_until.get(ALKALINITY, START) > START
                dose = found.proposed if found.fit in (Fit.SHORT, Fit.OVER) or eased else self.keeper.dosed[ALKALINITY]
                dose = max(0.0, found.uptake - by_changes) if eased else dose
                uptake = found.uptake
            else:
                dose = max(0.0, need_from_uptake(max(0.0, uptake)).calcium - by_changes)
            self._ease(parameter, dose, rate, now)

    def _ease(self, parameter: Parameter, dose: float, rate: Rate | None, now: datetime) -> None:
        self.keeper.eased_until.pop(parameter, None)
        if rate:
            level, sd = rate.level, rate.level_sd
            if is_off(level, sd, TARGET[parameter]):
                ease = ease_back(level, TARGET[parameter], dose, LIMIT[parameter])
                self.keeper.eased_until[parameter] = now + timedelta(days=ease.days)
                dose = ease.dose
        if abs(dose - self.keeper.dosed[parameter]) > 1e-9:
            self._set(parameter, dose, now)

    def _load(self, now: datetime) -> None:
        """The pump is given the new schedule file."""
        kept = dict(self.pump.heads)
        contents = {name: head.content_ml for name, head in kept.items()}
        fresh = DosingPump.from_json(self._schedule(now), contents, 0)
        for name, head in fresh.heads.items():
            kept[name].doses = head.doses


def run(seed: int, loss: bool = True, advised: bool = True) -> Trial:
    """One run of sixty days, after four weeks in which the record begins."""
    going = Run(seed, loss, advised)
    for day in range(-BEFORE, DAYS):
        going.day(day)
    return going.trial


@dataclass(frozen=True)
class Kept:
    """Of many runs: the share of days within 0.5 dKH and 20 mg/L, the worst run's, how many losses were named within
    two weeks, and in how many runs a sound pump was accused."""

    runs: int
    alkalinity: float
    worst: float
    calcium: float
    named: int
    slowest: float
    accused: int


def kept(count: int, loss: bool, advised: bool) -> Kept:
    """So many seeds."""
    found = [run(seed, loss, advised) for seed in range(count)]
    within = [one.within for one in found]
    late = [one.named_on - one.lost_on for one in found if one.named_on and one.lost_on]
    return Kept(
        count,
        sum(alkalinity for alkalinity, _ in within) / count,
        min(alkalinity for alkalinity, _ in within),
        sum(calcium for _, calcium in within) / count,
        sum(days <= 14 for days in late),
        max(late, default=0.0),
        sum(one.false_alarms > 0 for one in found),
    )


if __name__ == "__main__":
    for loss in (True, False):
        for advised in (True, False):
            print(loss, advised, kept(20, loss, advised))
