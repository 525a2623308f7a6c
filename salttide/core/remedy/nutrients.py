"""Remedies for nitrate and phosphate over their bands: less food, water changes, and export by the keeper's method."""

from __future__ import annotations

from dataclasses import replace
from math import log

from ..basics.number_text import show_number
from ..basics.phrasing import counted
from ..estimate.settling import settling
from ..estimate.supplementation import Changes
from ..judgement.situation import Situation
from ..science.parameters import Parameter, Span, spoken
from .by_change import changes_to, inside_band, plan_changes
from .remedy import Means, Remedy, RemedyKind

LEAST_FOOD = 0.5
"""No plan goes below this share of the present food (judgement); each species' own least portion comes first."""
SOON_WEEKS = 5.0
"""Less food counts as enough where the level is in its band within so many weeks (judgement)."""


def lowering(s: Situation, means: Means, parameter: Parameter, advice: str) -> list[Remedy]:
    """Every way to lower a nutrient, the smallest step first. advice: what the keeper's method does about it."""
    goal, value = s.system.aim(parameter), s.value(parameter)
    if goal is None or value is None:
        return []
    food = _less_food(s, means, parameter, goal, value)
    ways = [food, *changes_to(s, means, parameter, goal), _export(parameter, advice)]
    return sorted([way for way in ways if way], key=lambda one: not one.fits)


def _less_food(s: Situation, means: Means, parameter: Parameter, goal: float, value: float) -> Remedy | None:
    """The share of the present food with which the routine of changes settles the level at its aim."""
    rate, changes, name = s.rates.get(parameter), means.changes, spoken(parameter)
    if rate is None or changes is None or rate.per_day <= 0:
        return None
    now = settling(rate.per_day, changes, parameter)
    clean = changes.incoming.get(parameter, 0.0)
    if now is None or now.level <= clean:
        return None
    share = max(0.0, min(1.0, (goal - clean) / (now.level - clean)))
    kept = max(share, LEAST_FOOD)
    there = settling(rate.per_day * kept, changes, parameter)
    assert there is not None
    weeks = _weeks_into_band(value, there.level, s.band(parameter), changes)
    less, level = show_number((1 - kept) * 100, 0), s.show(parameter, there.level)
    if share >= 1.0 or weeks is None:
        why = f"At this rate it settles at {s.show(parameter, now.level)} by itself: less food is not the point."
        why = why if share >= 1.0 else f"Half the food would still settle at {level}."
        return _fed(parameter, goal, f"Feed {less} % less", why, 1.0)
    settles = f"settles near {level}"
    if weeks <= SOON_WEEKS:
        why = "Less goes in, so less has to come out; nothing is stripped, and it costs nothing."
        soon = f"is in its band in {counted(max(1, round(weeks)), 'week')} and {settles}"
        if not weeks:
            soon = f"{settles}, not {s.show(parameter, now.level)}"
        return _fed(parameter, goal, f"Feed {less} % less: {name} {soon}", why, kept)
    slow = f"Less food alone takes {counted(round(weeks), 'week')} to bring it into its band; it then {settles}."
    return _fed_and_changed(s, means, parameter, goal, kept, slow)


def _fed_and_changed(
    s: Situation, means: Means, parameter: Parameter, goal: float, kept: float, slow: str
) -> Remedy | None:
    """Less food, and the changes that bring it into its band meanwhile."""
    level = inside_band(s, parameter)
    found = plan_changes(s, means, parameter, level) if level is not None else ""
    less = show_number((1 - kept) * 100, 0)
    if isinstance(found, str) or not found.enough:
        return _fed(parameter, goal, f"Feed {less} % less", slow, 1.0)
    title = f"Feed {less} % less, and {found.words}: {spoken(parameter)} into its band"
    one = _fed(parameter, goal, title, slow, kept)
    return replace(one, key=f"{one.key}-changes", how=f"{one.how} {found.span}.", work=found.work,
                   supplies=found.supplies)  # fmt: skip


def _fed(parameter: Parameter, goal: float, title: str, why: str, kept: float) -> Remedy:
    how = "By portions, never below what each animal needs. Rinse frozen food. Test weekly."
    return Remedy(
        f"food-{parameter.value}", RemedyKind.FOOD, title, how, why, kept < 1.0, parameter, goal, food_share=kept,
        risk="Fish that need several small meals suffer first: watch their backs and bellies.",
    )  # fmt: skip


def _weeks_into_band(value: float, settled: float, band: Span | None, changes: Changes) -> float | None:
    """Weeks until a level that goes to where it settles is inside its band; None where it never is.

    Each change leaves 1 - f of the way: (high - settled) = (value - settled) (1 - f)^k.

    >>> round(_weeks_into_band(25.0, 5.5, Span(2.0, 15.0), Changes(0.12, 7, {})), 1)
    5.6
    """
    if band is None or not band.holds(settled):
        return None
    if value <= band.high:
        return 0.0
    return log((band.high - settled) / (value - settled)) / log(1 - changes.fraction) * changes.every_days / 7


def _export(parameter: Parameter, advice: str) -> Remedy:
    """What the keeper's method does about it."""
    return Remedy(
        f"export-{parameter.value}", RemedyKind.ACT, f"Raise the export of {spoken(parameter)} by your method", advice,
        "It works on the cause slowly, and goes on by itself; it can overshoot to the floor.", True, parameter,
    )  # fmt: skip
