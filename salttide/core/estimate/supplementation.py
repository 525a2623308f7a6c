"""What replaces the daily uptake: water changes, limewater, a calcium reactor, and doses for the rest. Each is counted
by what it adds of alkalinity, calcium and magnesium, and by what a year of it leaves behind (sodium, chloride, sulfate,
potassium, salinity).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from ..basics.errors import InputError, PlanError, check_range
from ..basics.measures import litres_words
from ..basics.working import Formula, FormulaInput, Result
from ..ledger.plan import DailyDose
from ..science.additives import TYPICAL_DENSITY_KG_L, amount_per_gram, brought_per_mole, dose_mass_g
from ..science.limewater import limewater_most_meq_l
from ..science.parameters import Parameter, spoken
from ..science.solutions import calcium_per_meq_mg, check_stock
from ..system.shelf import Additive
from .rate import Rate

ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM
USED = (ALKALINITY, CALCIUM, MAGNESIUM)
WATER_CHANGES = "water changes"
LEFT_BEHIND = (Parameter.SODIUM, Parameter.CHLORIDE, Parameter.SULFATE, Parameter.POTASSIUM)
"""Ions that animals hardly take up: what is dosed of them stays until a change removes it."""
MAGNESIUM_SHARE = (0.05, 2.0)
"""mg of magnesium that goes with 20 mg of calcium: coral aragonite to coralline algae."""
L_DAY_PER_ML_MIN = 1.44

BY_CHANGES = Formula("c", "what changes bring", "f * (C_in - C) / T", "a day", "mass balance, averaged over days")
CARRIED = Formula("u", "most uptake that changes carry", "f * (C_in - C_low) / T", "a day", "C_low = C_in - u·T/f")
REACTOR = Formula("r", "what the reactor brings", "q * (A_e - A) / V", "meq/L a day", "mass balance of its effluent")
REACTOR_FLOW = Formula("q", "flow of the reactor", "u * V / (A_e - A)", "L a day", "mass balance of its effluent")
A_YEAR = Formula("Δ", "rise in a year without changes", "p * 365", "mg/L", "nothing takes it out")
SETTLES = Formula("Δ", "rise at which it settles", "p * T / f", "mg/L", "what a change takes out is what comes in")


@dataclass(frozen=True)
class Changes:
    """The routine of changes: fraction, days between, and what the new water holds (canonical)."""

    fraction: float
    every_days: int
    incoming: Mapping[Parameter, float]


@dataclass(frozen=True)
class Reactor:
    """A calcium reactor by its tests: alkalinity of its effluent (meq/L) and its flow (mL/min)."""

    effluent_meq_l: float
    flow_ml_min: float


@dataclass(frozen=True)
class Means:
    """How the uptake is replaced: limewater in some litres of top-off a day, a reactor, and additives for the rest.

    share: of what is left to doses, for each additive of alkalinity (they add up to 1).
    """

    alkalinity: tuple[tuple[Additive, float], ...] = ()
    calcium: Additive | None = None
    magnesium: Additive | None = None
    lime_l: float = 0.0
    lime_temperature_c: float = 25.0
    reactor: Reactor | None = None


@dataclass(frozen=True)
class Need:
    """Daily uptake, mg/L or meq/L."""

    alkalinity: float
    calcium: float
    magnesium: float = 0.0

    def of(self, parameter: Parameter) -> float:
        """By parameter."""
        return {ALKALINITY: self.alkalinity, CALCIUM: self.calcium, MAGNESIUM: self.magnesium}[parameter]


def need_from_uptake(uptake_meq_l: float, magnesium_mg_l: float = 0.0) -> Need:
    """The daily need with an uptake of alkalinity (meq/L, 0 to 3): calcium as in CaCO3, magnesium as estimated.

    >>> round(need_from_uptake(0.2).calcium, 2)
    4.01
    """
    check_range("uptake", uptake_meq_l, "meq/L a day", 0, 3, field="uptake")
    check_range("uptake of magnesium", magnesium_mg_l, "mg/L a day", 0, 50)
    return Need(uptake_meq_l, uptake_meq_l * calcium_per_meq_mg(), magnesium_mg_l)


@dataclass(frozen=True)
class Brought:
    """What one method adds a day, by parameter, with its working."""

    name: str
    amounts: Mapping[Parameter, float]
    working: Sequence[Result] = ()


@dataclass(frozen=True)
class DayAmount:
    """A day's amount of one additive: grams of the compound, mL where it is a solution, and what it raises."""

    additive: Additive
    parameter: Parameter
    mass_g: float
    ml: float | None
    rise: float
    working: Result


@dataclass(frozen=True)
class ResidualSalt:
    """What accumulates of one ion: a day, in a year without changes, and where it settles with the routine of
    changes."""

    parameter: Parameter
    per_day: float
    a_year: Result
    settles: Result | None


@dataclass(frozen=True)
class DailySupplements:
    """A day's routine: what each method adds, the doses, what is left uncovered, and what accumulates."""

    brought: tuple[Brought, ...]
    amounts: tuple[DayAmount, ...]
    left: Mapping[Parameter, float]
    behind: tuple[ResidualSalt, ...]
    notes: tuple[str, ...] = field(default_factory=tuple)


def changes_bring(changes: Changes, parameter: Parameter, level: float) -> Result:
    """What the routine of changes adds a day of a parameter held at `level`; below 0 where it removes.

    >>> changes = Changes(0.1, 7, {Parameter.ALKALINITY: 3.2})
    >>> round(changes_bring(changes, Parameter.ALKALINITY, 2.5), 3)
    0.01
    """
    return BY_CHANGES.result(C=FormulaInput(level, "", "level held"), **_of_changes(changes, parameter))


def held_at(aims: Mapping[Parameter, float], water: Mapping[Parameter, float]) -> dict[Parameter, float]:
    """The level at which what corals use is held: its aim, else the present value (canonical)."""
    now = {p: water[p] for p in USED if p in water}
    return now | {p: aims[p] for p in USED if p in aims}


def need_of_rates(rates: Mapping[Parameter, Rate | None], alkalinity_meq_l: float | None = None) -> Need:
    """The daily need: alkalinity as typed (meq/L), else as estimated from readings, which must exist; magnesium where
    it really falls."""
    rate, magnesium = rates[ALKALINITY], rates.get(MAGNESIUM)
    used = alkalinity_meq_l if alkalinity_meq_l is not None else max(0.0, -rate.per_day) if rate else 0.0
    falls = magnesium is not None and magnesium.real and magnesium.per_day < 0
    return need_from_uptake(used, -magnesium.per_day if magnesium and falls else 0.0)


def brought_by_changes(changes: Changes | None, parameter: Parameter, level: float | None) -> float:
    """As `changes_bring`, 0 where the routine, its water or the level is not known."""
    if changes is None or level is None or parameter not in changes.incoming:
        return 0.0
    return float(changes_bring(changes, parameter, level))


def changes_carry(changes: Changes, parameter: Parameter, lowest: float) -> Result:
    """The largest daily uptake that changes alone can replace, the level just before a change being still `lowest`.

    >>> changes = Changes(0.2, 7, {Parameter.ALKALINITY: 3.2})
    >>> round(changes_carry(changes, Parameter.ALKALINITY, 2.5), 3)
    0.02
    """
    return CARRIED.result(
        C_low=FormulaInput(lowest, "", "lowest that is meant to be"), **_of_changes(changes, parameter)
    )


def _of_changes(changes: Changes, parameter: Parameter) -> dict[str, FormulaInput]:
    """The terms that both of these need from the routine of changes."""
    check_range("fraction", changes.fraction, "", 0, 1)
    check_range("days between changes", changes.every_days, "days", 1, 365)
    return {
        "f": FormulaInput(changes.fraction, "", "share of the system"),
        "C_in": FormulaInput(changes.incoming[parameter], "", "new water"),
        "T": FormulaInput(changes.every_days, "days", "between changes"),
    }


def reactor_brings(reactor: Reactor, alkalinity_meq_l: float, volume_l: float) -> Result:
    """Alkalinity (meq/L a day) that a calcium reactor brings, by the test of its effluent and its flow.

    Effluent 1 to 40 meq/L, flow 0 to 500 mL/min.

    >>> round(reactor_brings(Reactor(10.0, 20.0), 2.8, 334.0), 3)
    0.621
    """
    check_range("alkalinity of the effluent", reactor.effluent_meq_l, "meq/L", 1, 40, field="effluent")
    check_range("flow of the reactor", reactor.flow_ml_min, "mL/min", 0, 500, field="flow_ml_min")
    if reactor.effluent_meq_l <= alkalinity_meq_l:
        raise PlanError("The effluent holds no more alkalinity than the system: test it again.", field="effluent")
    return REACTOR.result(
        q=FormulaInput(reactor.flow_ml_min * L_DAY_PER_ML_MIN, "L a day", f"{reactor.flow_ml_min:g} mL/min"),
        A_e=FormulaInput(reactor.effluent_meq_l, "meq/L", "effluent"),
        A=FormulaInput(alkalinity_meq_l, "meq/L", "system"),
        V=FormulaInput(check_range("volume", volume_l, "L", 1e-9, 1e6), "L", "net volume"),
    )


def reactor_flow_ml_min(uptake_meq_l: float, effluent_meq_l: float, alkalinity_meq_l: float, volume_l: float) -> float:
    """Flow (mL/min) at which a reactor brings an uptake (meq/L a day, 0 to 3) with an effluent of 1 to 40 meq/L.

    >>> round(reactor_flow_ml_min(0.621, 10.0, 2.8, 334.0), 1)
    20.0
    """
    check_range("uptake", uptake_meq_l, "meq/L a day", 0, 3)
    check_range("alkalinity of the effluent", effluent_meq_l, "meq/L", 1, 40)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    if effluent_meq_l <= alkalinity_meq_l:
        raise PlanError("The effluent holds no more alkalinity than the system: test it again.", field="effluent")
    litres = REACTOR_FLOW.value(u=uptake_meq_l, V=volume_l, A_e=effluent_meq_l, A=alkalinity_meq_l)
    return litres / L_DAY_PER_ML_MIN


def plan_routine(
    need: Need,
    water: Mapping[Parameter, float],
    volume_l: float,
    means: Means,
    changes: Changes | None = None,
    evaporation_l: float = 0.0,
) -> DailySupplements:
    """A day's routine that replaces `need` in water held at `water`: changes first, then limewater and the reactor as
    far as they go, then doses for the rest.

    Litres of limewater are bounded by evaporation. Raises PlanError or DomainError at the field.

    >>> soda = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
    >>> water = {Parameter.ALKALINITY: 2.8, Parameter.CALCIUM: 420.0}
    >>> routine = plan_routine(need_from_uptake(0.2), water, 334.0, Means(((soda, 1.0),)))
    >>> round(routine.amounts[0].ml, 1)
    35.4
    """
    left = {parameter: need.of(parameter) for parameter in USED}
    brought, notes = list[Brought](), list[str]()
    if changes is not None:
        _take(brought, left, _by_changes(changes, water))
    if means.lime_l:
        _take(brought, left, _by_limewater(means, evaporation_l, volume_l, left[ALKALINITY], notes))
    if means.reactor:
        risen = reactor_brings(means.reactor, water[ALKALINITY], volume_l)
        made = {ALKALINITY: risen, CALCIUM: risen * calcium_per_meq_mg()}
        _take(brought, left, Brought("calcium reactor", made, (risen,)))
    amounts = _doses(means, left, volume_l)
    for one in amounts:
        left[one.parameter] -= one.rise
    over = [spoken(p) for p in USED if left[p] < -0.05 * max(need.of(p), 1e-9) and need.of(p)]
    if over:
        notes.append(f"More {' and '.join(over)} comes in than is used: it rises.")
    kept = {p: rest for p, rest in left.items() if rest > 1e-9}
    return DailySupplements(tuple(brought), tuple(amounts), kept, _behind(amounts, volume_l, changes), tuple(notes))


def _take(brought: list[Brought], left: dict[Parameter, float], one: Brought) -> None:
    """Take what a method adds off the remaining need."""
    brought.append(one)
    for parameter, amount in one.amounts.items():
        left[parameter] -= amount


def _by_changes(changes: Changes, water: Mapping[Parameter, float]) -> Brought:
    found = {p: changes_bring(changes, p, water[p]) for p in USED if p in water and p in changes.incoming}
    return Brought(WATER_CHANGES, found, tuple(found.values()))


def _by_limewater(means: Means, evaporation_l: float, volume_l: float, left: float, notes: list[str]) -> Brought:
    """As much limewater as needed, at most what evaporates, and no stronger than the rest of the need requires."""
    check_range("limewater", means.lime_l, "L a day", 0, 1000, field="lime_l")
    litres = min(means.lime_l, evaporation_l)
    if means.lime_l > evaporation_l:
        notes.append(f"Only {litres_words(evaporation_l)} evaporate a day: more limewater would dilute the system.")
    most = limewater_most_meq_l(litres, volume_l, means.lime_temperature_c)
    meq = max(0.0, min(float(most), left))
    if meq < most:
        notes.append("The limewater is mixed weaker than saturated: it would bring more than is used.")
    return Brought("limewater", {ALKALINITY: meq, CALCIUM: meq * calcium_per_meq_mg()}, (most,))


def _doses(means: Means, left: Mapping[Parameter, float], volume_l: float) -> list[DayAmount]:
    amounts = []
    if means.alkalinity and abs(sum(share for _, share in means.alkalinity) - 1) > 1e-6:
        raise InputError("the parts of alkalinity do not add up", field="alkalinity", accepted="shares of 1 in all")
    for additive, share in means.alkalinity:
        if left[ALKALINITY] * share > 1e-9:
            amounts.append(day_amount(additive, ALKALINITY, left[ALKALINITY] * share, volume_l))
    for parameter, chosen in ((CALCIUM, means.calcium), (MAGNESIUM, means.magnesium)):
        if chosen and left[parameter] > 1e-9:
            amounts.append(day_amount(chosen, parameter, left[parameter], volume_l))
    return amounts


def day_amount(additive: Additive, parameter: Parameter, rise: float, volume_l: float) -> DayAmount:
    """Grams, and mL of a solution, that raise the system by `rise` (mg/L; alkalinity in meq/L).

    >>> found = day_amount(Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0), Parameter.ALKALINITY, 0.2, 334.0)
    >>> round(found.mass_g, 2), round(found.ml, 1)
    (3.54, 35.4)
    """
    mass = dose_mass_g(additive.formula, parameter, rise, volume_l, additive.purity)
    if additive.strength_g_l is None:
        return DayAmount(additive, parameter, float(mass), None, rise, mass)
    check_stock(additive.formula, additive.strength_g_l)
    return DayAmount(additive, parameter, float(mass), float(mass) / additive.strength_g_l * 1000, rise, mass)


def left_behind(additives: Sequence[tuple[Additive, float]], volume_l: float) -> dict[Parameter, float]:
    """What daily additives (g) leave in the water of ions that nothing takes up, mg/L a day.

    >>> grams = [(Additive(1, "soda", "Na2CO3"), 10.6)]
    >>> round(left_behind(grams, 100.0)[Parameter.SODIUM], 1)
    46.0
    """
    check_range("volume", volume_l, "L", 1e-6, 1e6, field="volume_l")
    found: dict[Parameter, float] = {}
    for additive, mass_g in additives:
        for ion in LEFT_BEHIND:
            if brought_per_mole(additive.formula).get(ion):
                brings = mass_g * amount_per_gram(additive.formula, ion, additive.purity) / volume_l
                found[ion] = found.get(ion, 0.0) + brings
    return found


def _behind(amounts: Sequence[DayAmount], volume_l: float, changes: Changes | None) -> tuple[ResidualSalt, ...]:
    ions = left_behind([(one.additive, one.mass_g) for one in amounts], volume_l)
    if not ions:
        return ()
    # Salt counts as sodium, chloride, sulfate and potassium together: what corals take out of the doses is not salt.
    salinity = sum(ions.values()) / 1000 / TYPICAL_DENSITY_KG_L * 35 / 35.16504
    rows = [(Parameter.SALINITY, salinity), *((ion, ions[ion]) for ion in LEFT_BEHIND if ion in ions)]
    return tuple(ResidualSalt(p, rate, _a_year(p, rate), _settles(p, rate, changes)) for p, rate in rows)


def _rate(parameter: Parameter, rate: float) -> FormulaInput:
    return FormulaInput(rate, "ppt a day" if parameter == Parameter.SALINITY else "mg/L a day", "left behind")


def _a_year(parameter: Parameter, rate: float) -> Result:
    return A_YEAR.result(p=_rate(parameter, rate))


def _settles(parameter: Parameter, rate: float, changes: Changes | None) -> Result | None:
    if changes is None or not changes.fraction:
        return None
    return SETTLES.result(
        p=_rate(parameter, rate),
        T=FormulaInput(changes.every_days, "days"),
        f=FormulaInput(changes.fraction, "", "share changed"),
    )


def magnesium_plausible(magnesium_mg_l: float, calcium_mg_l: float) -> bool:
    """Whether magnesium is used in proportion to calcium as skeletons take it: 0.05 to 2 mg with 20 mg of calcium (both
    a day).

    >>> magnesium_plausible(0.4, 5.0), magnesium_plausible(3.0, 5.0)
    (True, False)
    """
    check_range("uptake of calcium", calcium_mg_l, "mg/L a day", 1e-9, 1000)
    low, high = (share * calcium_mg_l / 20 for share in MAGNESIUM_SHARE)
    return low <= magnesium_mg_l <= high


def daily_doses(routine: DailySupplements, volume_l: float) -> list[DailyDose]:
    """The daily doses of a routine, for the plan; what water changes add is planned as changes."""
    doses = [_daily(one, volume_l) for one in routine.amounts]
    means = [one for one in routine.brought if one.name != WATER_CHANGES]
    return doses + [DailyDose(one.name, 0.0, {p: rise * volume_l for p, rise in one.amounts.items()}) for one in means]


def _daily(one: DayAmount, volume_l: float) -> DailyDose:
    raised = {p: amount for p, amount in brought_per_mole(one.additive.formula).items() if amount > 0}
    per_rise = {p: amount / raised[one.parameter] for p, amount in raised.items() if p in USED}
    amounts = {p: one.rise * volume_l * each for p, each in per_rise.items()}
    return DailyDose(one.additive.name, one.mass_g, amounts, ml=one.ml or 0.0)
