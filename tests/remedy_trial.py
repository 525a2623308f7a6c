"""Half a year in the fish room: tanks with a hidden truth, and a keeper who follows the first remedy literally and
forgets one act in ten, against one who corrects each symptom by hand the usual way."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from random import Random

from salttide.core.judgement.scenario import situation_described
from salttide.core.ledger.entries import Change, Dose, Entry, Reading, TopOff, ledger_of
from salttide.core.ledger.plan import DailyDose
from salttide.core.overview.state import SystemState, outlook
from salttide.core.overview.upcoming import Ahead
from salttide.core.planning.work_order import (
    ChangeWorkOrder,
    DoseWorkOrder,
    PlannedWork,
    WaterWorkOrder,
    planned_events,
)
from salttide.core.remedy.case import Case, CaseProgress, CaseState, chosen_from
from salttide.core.science.additives import dose_mass_g
from salttide.core.science.mix import SaltMix, StrengthBasis
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salt_calibration import mixed_water
from salttide.core.system.shelf import Additive
from salttide.core.system.system import System
from salttide.core.upkeep.care import Upkeep
from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.rota import WATER_CHANGE, Planned
from salttide.core.upkeep.task import tasks
from salttide.fishroom.tank import Habits, NewWater, Tank

SALINITY, ALKALINITY, CALCIUM = Parameter.SALINITY, Parameter.ALKALINITY, Parameter.CALCIUM
MAGNESIUM, NITRATE, PHOSPHATE = Parameter.MAGNESIUM, Parameter.NITRATE, Parameter.PHOSPHATE
WATCHED = (SALINITY, ALKALINITY, CALCIUM, MAGNESIUM, NITRATE)
"""What a remedy exists for and the trial's tanks move."""
START = datetime(2026, 1, 5, 18, tzinfo=UTC)
SETTLING, FORGETS, TEST_MINUTES = 28, 0.1, 3.0
SD = {SALINITY: 0.2, ALKALINITY: 0.05, CALCIUM: 8.0, MAGNESIUM: 20.0, NITRATE: 0.8, PHOSPHATE: 0.01}
SALT = SaltMix(
    1, "trial salt", 37.0, StrengthBasis.FINISHED_WATER,
    {ALKALINITY: Span(2.7, 2.9), CALCIUM: Span(410, 430), MAGNESIUM: Span(1290, 1330)}, "label",
)  # fmt: skip
SHELF = (
    Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0),
    Additive(2, "calcium stock", "CaCl2·2H2O", strength_g_l=200.0),
    Additive(3, "magnesium chloride", "MgCl2·6H2O"),
    Additive(4, "potassium nitrate", "KNO3"),
)
USUAL_EVERY = {SALINITY: 3, ALKALINITY: 3, CALCIUM: 14, MAGNESIUM: 14, NITRATE: 7, PHOSPHATE: 7}
"""How often the usual keeper tests, in days: the default intervals of the domain, always the same."""


@dataclass
class Outcome:
    """One tank's half year: days counted and days out of band by parameter, limits broken, acts, minutes, and what was
    used: litres of water and grams of additives."""

    days: int = 0
    out: dict[Parameter, int] = field(default_factory=lambda: dict.fromkeys(WATCHED, 0))
    broken: list[str] = field(default_factory=list)
    acts: int = 0
    minutes: float = 0.0
    litres: float = 0.0
    grams: float = 0.0

    @property
    def out_days(self) -> int:
        """Days on which any of them was out, summed over the parameters."""
        return sum(self.out.values())

    @property
    def within(self) -> float:
        """Share of parameter-days in band."""
        return 1 - self.out_days / (self.days * len(WATCHED))


@dataclass
class Followed:
    """A case with its open steps, how many were done, and how many days late they run."""

    case: Case
    steps: list[PlannedWork]
    done: int = 0
    late: int = 0

    @property
    def progress(self) -> CaseProgress:
        """As the app counts it."""
        return CaseProgress(self.done, sum(one.kind != "look" for one in self.steps), self.late)


@dataclass
class Room:
    """The tank and its hidden habits, the keeper's record and what is planned."""

    seed: int
    system: System
    tank: Tank
    chance: Random
    entries: list[Entry] = field(default_factory=list)
    plans: list[Followed] = field(default_factory=list)
    daily: tuple[DailyDose, ...] = ()
    food: float = 1.0
    tested: dict[Parameter, int] = field(default_factory=dict)
    outcome: Outcome = field(default_factory=Outcome)


def room_of(seed: int) -> Room:
    """A household's tank: its size, what it uses and makes, what is wrong with it at first."""
    chance = Random(f"remedy {seed}")
    litres = chance.choice((80.0, 150.0, 300.0, 450.0))
    system = replace(
        situation_described([], volume_l=litres, bands="large_polyp").system, gear=("dosing_pump", "top_off")
    )
    wrong = chance.choice((ALKALINITY, SALINITY, CALCIUM, NITRATE, ALKALINITY))
    first = {SALINITY: 34.9, ALKALINITY: 2.95, CALCIUM: 420.0, MAGNESIUM: 1320.0, NITRATE: 8.0, PHOSPHATE: 0.06}
    first[wrong] = {ALKALINITY: 2.5, SALINITY: chance.choice((33.2, 36.4)), CALCIUM: 375.0, NITRATE: 26.0}[wrong]
    tank = Tank(litres, *(first[p] for p in (*WATCHED, PHOSPHATE)))
    tank.habits = Habits(
        alkalinity_use_meq=chance.uniform(0.03, 0.14), nitrate_made_mg=chance.uniform(0.15, 0.35),
        phosphate_made_mg=0.002, salt_lost_share=chance.choice((0.0, 0.0, 0.0006)),
    )  # fmt: skip
    use = tank.habits.alkalinity_use_meq * chance.uniform(0.75, 1.1)
    room = Room(seed, system, tank, chance)
    room.daily = (_daily(SHELF[0], ALKALINITY, use, litres), _daily(SHELF[1], CALCIUM, use * 20.04, litres))
    return room


def _daily(additive: Additive, parameter: Parameter, rise: float, litres: float) -> DailyDose:
    grams = float(dose_mass_g(additive.formula, parameter, rise, litres))
    return DailyDose(additive.name, grams, {parameter: rise * litres}, ml=grams / (additive.strength_g_l or 1) * 1000)


def run(seed: int, advised: bool, days: int = 182) -> Outcome:
    """One tank for some days, by the first remedies or the usual way."""
    room = room_of(seed)
    growth, made = room.chance.uniform(0.0, 0.004), room.tank.habits.nitrate_made_mg
    use = room.tank.habits.alkalinity_use_meq
    for day in range(days):
        now = START + timedelta(days=day)
        before = {p: room.tank.level(p.value) for p in WATCHED}
        room.tank.habits = replace(
            room.tank.habits, alkalinity_use_meq=use * (1 + growth * day), nitrate_made_mg=made * room.food
        )
        room.tank.live(1.0)
        if room.chance.random() > FORGETS:
            room.tank.top_off()
        _dose_daily(room, now)
        (_advised if advised else _usual)(room, day, now)
        if day % 7 == 6:
            _routine_change(room, now)
        _judge(room, day, before)
    return room.outcome


def _dose_daily(room: Room, now: datetime) -> None:
    for one in room.daily:
        for parameter, amount in one.amounts.items():
            room.tank.dose(parameter.value, amount)
        room.entries.append(Dose(now - timedelta(hours=6), one.additive, one.mass_g, one.amounts, True, _id(room)))


def _id(room: Room) -> int:
    return len(room.entries) + 1


def _routine_change(room: Room, now: datetime) -> None:
    if room.chance.random() < FORGETS:
        return
    _change(room, room.system.change_l, mixed_water(SALT, 35.0), now + timedelta(minutes=30))
    room.outcome.minutes += 50


def _change(room: Room, litres: float, holds: dict[Parameter, float], at: datetime) -> None:
    held = {SALINITY: 0.0, ALKALINITY: 0.0, CALCIUM: 0.0, MAGNESIUM: 0.0, NITRATE: 0.0, PHOSPHATE: 0.0} | holds
    room.tank.change(litres, NewWater(*(held[p] for p in (SALINITY, ALKALINITY, CALCIUM, MAGNESIUM))))
    room.entries.append(Change(at, litres, litres, held, _id(room)))
    room.outcome.litres += litres


def _judge(room: Room, day: int, before: dict[Parameter, float]) -> None:
    """Count the day, by the truth."""
    for parameter in WATCHED:
        level = room.tank.level(parameter.value)
        limit, moved = room.system.limit(parameter), level - before[parameter]
        # The strength of a kit's reading is its scatter: a limit is broken where the truth passes it by more.
        if moved > limit.up + 2 * SD[parameter] or -moved > limit.down + 2 * SD[parameter]:
            room.outcome.broken.append(f"{room.seed}: {parameter.value} by {moved:.2f} on day {day}")
        if day >= SETTLING:
            room.outcome.out[parameter] += not room.system.bands[parameter].holds(level)
    room.outcome.days += day >= SETTLING


def _test(room: Room, parameter: Parameter, now: datetime) -> float:
    shown = max(0.0, room.chance.gauss(room.tank.level(parameter.value), SD[parameter]))
    room.entries.append(Reading(now, parameter, shown, SD[parameter], "kit", _id(room)))
    room.outcome.minutes += TEST_MINUTES
    return shown


# By the first remedy.


def _state(room: Room, now: datetime) -> SystemState:
    ledger = ledger_of(room.system.volume_l, room.entries)
    steps = [one for plan in room.plans for one in plan.steps]
    planned = [(Planned(n + 1, one.day, one.name, one.minutes, one.kind), one.order) for n, one in enumerate(steps)]
    cases = [(plan.case, plan.progress) for plan in room.plans]
    ahead = Ahead(planned, SALT, daily=room.daily, additives=SHELF, cases=cases)
    upkeep = Upkeep((Rule(tasks()[WATER_CHANGE], room.system.methods.change_every_days, 50),))
    return outlook(room.system, ledger, upkeep, ahead, now, UTC, {})


def _advised(room: Room, day: int, now: datetime) -> None:
    """An evening: what is due is done, what is due is tested, and the first remedy is followed."""
    for plan in room.plans:
        _do_steps(room, plan, now)
    due = [test.parameter for test in _state(room, now).tests if test.due <= now.date() and test.parameter in SD]
    if due and room.chance.random() > FORGETS:
        for parameter in due:
            _test(room, parameter, now)
    state = _state(room, now)
    live = {one.case.id: one.standing for one in state.cases}
    # What a test finds ahead, or going the wrong way, is stopped; what is done is closed.
    over = (CaseState.AHEAD, CaseState.CONTRADICTS, CaseState.REACHED)
    room.plans = [plan for plan in room.plans if live[plan.case.id].state not in over]
    _choose(room, _state(room, now), now)


def _do_steps(room: Room, plan: Followed, now: datetime) -> None:
    """What is due today; a step that is forgotten moves on with all that follow."""
    today = [one for one in plan.steps if one.day <= now.date()]
    if not today:
        return
    if room.chance.random() < FORGETS:
        plan.steps = [replace(one, day=max(one.day, now.date()) + timedelta(days=1)) for one in plan.steps]
        plan.late += 1
        return
    for one in today:
        plan.steps.remove(one)
        room.outcome.acts += 1
        room.outcome.minutes += one.minutes
        if one.kind == "look":
            for parameter in (p for p in SD if p.value in one.name.lower()):
                _test(room, parameter, now)
            continue
        _carry_out(room, one, now - timedelta(hours=1))
        plan.done += 1


def _carry_out(room: Room, one: PlannedWork, at: datetime) -> None:
    order = one.order
    if isinstance(order, DoseWorkOrder):
        for parameter, amount in order.amounts.items():
            if parameter.value in room.tank.amounts:
                room.tank.dose(parameter.value, amount)
        room.outcome.grams += order.mass_g
    elif isinstance(order, ChangeWorkOrder):
        _change(room, order.litres, dict(order.incoming), at)
        return
    elif isinstance(order, WaterWorkOrder) and order.out_l:
        _change(room, order.out_l, {SALINITY: 0.0}, at)
        return
    elif isinstance(order, WaterWorkOrder):
        room.tank.water_l -= order.in_l
        for parameter, level in order.holds.items():
            if parameter.value in room.tank.amounts:
                room.tank.dose(parameter.value, level * order.in_l)
        room.tank.water_l += order.in_l
        room.outcome.litres += order.in_l
    for event in planned_events(order, at):
        if isinstance(event, Dose | TopOff):
            room.entries.append(replace(event, id=_id(room)))


def _choose(room: Room, state: SystemState, now: datetime) -> None:
    """The first cause that nothing is done about yet, as Next has it."""
    followed = {plan.case.key for plan in room.plans}
    cause = next((one for one in state.causes if one.key not in followed and one.first and one.first.steps), None)
    if cause is None or cause.first is None:
        return
    first, number = cause.first, 1 + max((plan.case.id for plan in room.plans), default=0)
    room.food = max(0.5, room.food * first.food_share)
    if first.daily is not None:
        room.daily = first.daily
        room.outcome.acts += 1
        room.outcome.minutes += 5
    chosen = chosen_from(first, state.basis.situation)
    case = Case(number, room.system.id, cause.finding.rule, first.parameter, f"plan {number}", now, chosen)
    room.plans.append(Followed(case, list(first.work)))


# The usual way.


def _usual(room: Room, day: int, now: datetime) -> None:
    """Tests on fixed days; what is out of its band is put right by hand, to the middle, that evening."""
    for parameter, every in USUAL_EVERY.items():
        if day - room.tested.get(parameter, -every) < every or room.chance.random() < FORGETS:
            continue
        room.tested[parameter] = day
        level, band = _test(room, parameter, now), room.system.bands[parameter]
        if parameter in WATCHED and not band.holds(level):
            _put_right(room, parameter, level, band, now)


def _put_right(room: Room, parameter: Parameter, level: float, band: Span, now: datetime) -> None:
    room.outcome.acts += 1
    room.outcome.minutes += 10
    litres, gap = room.system.volume_l, band.middle - level
    if parameter == SALINITY and gap < 0:
        _change(room, litres * -gap / level, {}, now)
    elif parameter == SALINITY:
        _change(room, 0.2 * litres, mixed_water(SALT, min(42.0, level + gap / 0.2)), now)
    elif parameter == NITRATE and gap < 0:
        _change(room, 0.25 * litres, mixed_water(SALT, 35.0), now)
        room.outcome.minutes += 40
    elif gap > 0:
        additive = {ALKALINITY: SHELF[0], CALCIUM: SHELF[1], MAGNESIUM: SHELF[2], NITRATE: SHELF[3]}[parameter]
        room.tank.dose(parameter.value, gap * litres)
        room.outcome.grams += float(dose_mass_g(additive.formula, parameter, gap, litres))
        room.daily = tuple(_larger(one, 1.1) if one.amounts.get(parameter) else one for one in room.daily)
    else:
        room.daily = tuple(_larger(one, 0.9) if one.amounts.get(parameter) else one for one in room.daily)


def _larger(dose: DailyDose, share: float) -> DailyDose:
    return replace(dose, mass_g=dose.mass_g * share, amounts={p: a * share for p, a in dose.amounts.items()})
