"""Spreading doses over 24 hours: the spread that keeps pH flattest within the limits, with calcium kept apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ..basics.errors import PlanError, check_range
from ..basics.lazy import LazyModule
from ..science.dosing import PH_LIMIT_OF_A_DOSE
from ..science.ph_effect import largest_dose_by_ph
from .gas_exchange import (
    HOURS,
    NUDGE,
    PARTS,
    STEPS,
    DayDoses,
    GasExchange,
    PhDay,
    alkalinity_over_day,
    carbon_over_day,
    day_matrix,
    even_doses,
    held_over_day,
    ph_over_day,
)

np: Any = LazyModule("numpy")
ROUNDS = 3
EVENNESS = 0.02
"""How much swing to give up for smaller single doses (judgement): pH per meq/L of the largest hour."""


DOUBT_QUARTERS = (-4, 0, 4)
"""The system's rhythm may be an hour earlier or later than estimated: the spread has to hold for all of these
(judgement, from trials of the fish room)."""


@dataclass(frozen=True)
class Spread:
    """Doses of the day by additive, the pH day they lead to, and the most a single hour may take (meq/L) by
    additive."""

    doses: tuple[DayDoses, ...]
    day: PhDay
    most: tuple[float, ...]


def flattest(
    gas_exchange: GasExchange,
    formulas: Sequence[str],
    total_meq_l: float,
    swing_limit_meq_l: float,
    least_meq_l: float = 0.0,
) -> Spread:
    """The hours and additives by which a day's alkalinity (meq/L) keeps pH most even.

    No hour moves pH by more than a single dose may, and alkalinity stays within `swing_limit_meq_l` over the day. Hours
    with less than `least_meq_l` are left out: a pump cannot give them. Source: linear programming on the predicted day,
    made linear again around each answer.
    """
    check_range("alkalinity a day", total_meq_l, "meq/L", 0, 3)
    most = tuple(_most_an_hour(gas_exchange, formula) for formula in formulas)
    if total_meq_l > HOURS * max(most):
        raise PlanError("More alkalinity than single doses within the pH limit can bring in a day.", field="total")
    doses = tuple(even_doses(formula, total_meq_l / len(formulas)) for formula in formulas)
    best = Spread(doses, gas_exchange.day(doses), most)
    for _ in range(ROUNDS):
        solved = _solved(gas_exchange, best, total_meq_l, swing_limit_meq_l)
        if solved is None:
            break
        doses = tuple(_without_crumbs(one, least_meq_l) for one in solved)
        day = gas_exchange.day(doses)
        if day.swing >= best.day.swing - 1e-6:
            break
        best = Spread(doses, day, most)
    return best


def _most_an_hour(gas_exchange: GasExchange, formula: str) -> float:
    """The largest hourly dose by the pH limit of a single dose, at the water's mean."""
    water = gas_exchange.water
    ph = gas_exchange.day([even_doses(formula, water.uptake_meq_l)]).highest
    return largest_dose_by_ph(
        formula, ph, water.alkalinity_meq_l, water.salinity, water.temperature_c, PH_LIMIT_OF_A_DOSE
    )


def _solved(gas_exchange: GasExchange, around: Spread, total: float, swing_limit: float) -> tuple[DayDoses, ...] | None:
    """The linear programme: least swing over hours of all parts, in variables of the doses, the ends of pH and of
    alkalinity, and the largest hour."""
    from scipy.optimize import linprog

    ph_by, alkalinity_by = responses(gas_exchange, around.doses)
    now = np.concatenate([one.meq_l for one in around.doses])
    ph0, alkalinity0 = np.array(around.day.ph), np.array(around.day.alkalinity)
    count = len(now)
    rows, bounds = [], []

    def under(columns: Any, extra: tuple[float, ...], bound: Any) -> None:
        rows.append(np.column_stack([columns, np.tile(np.array(extra), (len(columns), 1))]))
        bounds.append(bound)

    # Variables: doses, highest and lowest pH, highest and lowest alkalinity, largest hour.
    for shift in DOUBT_QUARTERS:
        undosed = np.roll(ph0 - ph_by @ now, shift)
        under(ph_by, (-1, 0, 0, 0, 0), -undosed)
        under(-ph_by, (0, 1, 0, 0, 0), undosed)
    under(alkalinity_by, (0, 0, -1, 0, 0), alkalinity_by @ now - alkalinity0)
    under(-alkalinity_by, (0, 0, 0, 1, 0), alkalinity0 - alkalinity_by @ now)
    under(np.zeros((1, count)), (0, 0, 1, -1, 0), np.array([max(swing_limit, 1e-3)]))
    under(np.eye(count), (0, 0, 0, 0, -1), np.zeros(count))
    found = linprog(
        np.concatenate([np.zeros(count), [1, -1, 0, 0, EVENNESS]]),
        A_ub=np.vstack(rows),
        b_ub=np.concatenate(bounds),
        A_eq=np.concatenate([np.ones(count), np.zeros(5)])[None, :],
        b_eq=[total],
        bounds=[(0, most) for most in around.most for _ in range(HOURS)] + [(None, None)] * 4 + [(0, None)],
        method="highs",
    )
    if found.status != 0:
        return None
    hours = found.x[:count].reshape(len(around.doses), HOURS)
    return tuple(DayDoses(one.formula, tuple(row.tolist())) for one, row in zip(around.doses, hours, strict=True))


def responses(gas_exchange: GasExchange, doses: Sequence[DayDoses]) -> tuple[Any, Any]:
    """How pH and alkalinity of every quarter of an hour respond to each hour's dose of each additive."""
    water = gas_exchange.water
    alkalinity = alkalinity_over_day(water, doses)
    carbon = carbon_over_day(gas_exchange, doses, alkalinity)
    held, ph = held_over_day(water, carbon, alkalinity), ph_over_day(water, carbon, alkalinity)
    held_c = (held_over_day(water, carbon + NUDGE, alkalinity) - held) / NUDGE
    held_a = (held_over_day(water, carbon, alkalinity + NUDGE) - held) / NUDGE
    ph_c = (ph_over_day(water, carbon + NUDGE, alkalinity) - ph) / NUDGE
    ph_a = (ph_over_day(water, carbon, alkalinity + NUDGE) - ph) / NUDGE
    into = np.kron(np.eye(HOURS), np.full((PARTS, 1), 1 / PARTS))
    each = into - 1 / STEPS
    risen = np.cumsum(each, axis=0) - each / 2
    risen = risen - risen.mean(axis=0)
    out = gas_exchange.exchange / PARTS
    by_alkalinity = held_a[:, None] * risen
    lost = out * (by_alkalinity + np.roll(by_alkalinity, -1, axis=0)) / 2
    answers = []
    for one in doses:
        moved = np.linalg.solve(day_matrix(held_c * out / 2), into * one.carbon_share - lost)
        answers.append(ph_c[:, None] * moved + ph_a[:, None] * risen)
    return np.hstack(answers), np.hstack([risen] * len(doses))


def _without_crumbs(one: DayDoses, least: float) -> DayDoses:
    """The spread without doses too small for a pump; their share goes to the other hours in proportion."""
    kept = [meq if meq >= max(least, 1e-6) else 0.0 for meq in one.meq_l]
    if not sum(kept):
        return one if not one.total else DayDoses(one.formula, _all_in_largest(one.meq_l))
    return DayDoses(one.formula, tuple(meq * one.total / sum(kept) for meq in kept))


def _all_in_largest(hours: Sequence[float]) -> tuple[float, ...]:
    place = max(range(len(hours)), key=hours.__getitem__)
    return tuple(sum(hours) if hour == place else 0.0 for hour in range(len(hours)))
