"""Scheduling by the solver: a mixed-integer programme of which bundle goes on which day. Small ones are solved
directly. For large ones the relaxation is solved first; what it places whole stays, and only the small rest is solved
in integers. Where that fails or takes too long, the search takes over.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from math import inf
from typing import Any

from .scheduling_model import Bundle, Days, clashing
from .scheduling_search import OVER_COSTS, Board, search, settled

PEAK_COST = 1.0
"""The cost of a minute of the fullest day, on days of the usual minutes (judgement)."""
SMALL = 400
"""Up to this many choices the programme is solved directly."""
TIME_S = 5.0
WHOLE = 1 - 1e-6


@dataclass
class Programme:
    """The programme: choices, one for each bundle and day; then the minutes over on each day, by what they cost; then
    the fullest day. most: of each column."""

    choices: list[tuple[int, date]]
    cost: Any
    most: Any
    matrix: Any
    low: Any
    high: Any


def solve(bundles: Sequence[Bundle], days: Days) -> tuple[dict[int, date], bool]:
    """The day of each bundle, and whether the solver found it."""
    open_ones = [i for i, bundle in enumerate(bundles) if len(bundle.days) > 1]
    if not open_ones:
        return {i: next(iter(bundle.days)) for i, bundle in enumerate(bundles)}, True
    found = _solved(bundles, days)
    if found is None:
        return search(bundles, days)
    board = Board(bundles, days)
    for i, day in found.items():
        board.put(i, day)
    return settled(board), True


def _solved(bundles: Sequence[Bundle], days: Days) -> dict[int, date] | None:
    """Whole numbers at once where it is small, else after its relaxation; None where that fails."""
    if sum(len(bundle.days) for bundle in bundles) > SMALL:
        relaxed = run(programme(bundles, days), whole=False)
        if relaxed is None:
            return None
        bundles = _narrowed(bundles, relaxed)
    found = run(programme(bundles, days), whole=True)
    return None if found is None else {i: max(shares, key=lambda day: shares[day]) for i, shares in found.items()}


def _narrowed(bundles: Sequence[Bundle], shares: Mapping[int, Mapping[date, float]]) -> list[Bundle]:
    """Each bundle with the days that the relaxation gave it a share of; all of them where these are not enough."""
    narrowed = []
    for i, bundle in enumerate(bundles):
        whole = [day for day, share in shares[i].items() if share >= WHOLE]
        kept = {whole[0]: bundle.days[whole[0]]} if whole else bundle.days
        narrowed.append(Bundle(bundle.work, kept))
    return narrowed


class _Rows:
    """The rows of a programme as they are written down, one after the other."""

    def __init__(self) -> None:
        self.entries: list[tuple[int, int, float]] = []
        self.low: list[float] = []
        self.high: list[float] = []

    def add(self, row: Sequence[tuple[int, float]], least: float, most: float) -> None:
        """A row: the sum of its columns by their weights lies between two bounds."""
        self.entries += [(len(self.low), column, weight) for column, weight in row]
        self.low.append(least)
        self.high.append(most)


def programme(bundles: Sequence[Bundle], days: Days) -> Programme:
    """Write the programme down. The fullest day is measured by what the keeper has on it."""
    import numpy as np
    from scipy.sparse import coo_array

    choices = [(i, day) for i, bundle in enumerate(bundles) for day in bundle.days]
    at = {choice: place for place, choice in enumerate(choices)}
    on: dict[date, list[int]] = {}
    for i, day in choices:
        on.setdefault(day, []).append(i)
    room = {day: days.room(day) if days.has(day) else 0.0 for day in sorted(on)}
    usual, tiers = days.usual, len(OVER_COSTS)
    peak_at, rows = len(choices) + tiers * len(room), _Rows()
    for i, bundle in enumerate(bundles):
        rows.add([(at[i, day], 1.0) for day in bundle.days], 1.0, 1.0)
    for place, (day, minutes) in enumerate(room.items()):
        over_at = len(choices) + tiers * place
        over = [(over_at + tier, -1.0) for tier in range(tiers)]
        within = [*((at[i, day], bundles[i].minutes) for i in on[day]), *over]
        rows.add(within, -inf, minutes)
        if minutes:
            rows.add([*within, (peak_at, -minutes / usual)], -inf, 0.0)
    for i, j, gap in clashing(bundles):
        # Within any span of so many days, at most one of the two.
        both = [(i, day) for day in bundles[i].days] + [(j, day) for day in bundles[j].days]
        for first in sorted({day for _, day in both}):
            within = [(at[choice], 1.0) for choice in both if 0 <= (choice[1] - first).days < gap]
            rows.add(within, -inf, 1.0)
    preferences = [bundles[i].days[day] for i, day in choices]
    cost = np.array(
        [*preferences, *[a_minute + PEAK_COST * usual for _, a_minute in OVER_COSTS] * len(room), PEAK_COST]
    )
    most = np.array([*[1.0] * len(choices), *[share * usual for share, _ in OVER_COSTS] * len(room), inf])
    line, column, weight = zip(*rows.entries, strict=True)
    matrix = coo_array((weight, (line, column)), shape=(len(rows.low), len(cost))).tocsr()
    return Programme(choices, cost, most, matrix, np.array(rows.low), np.array(rows.high))


def run(programme: Programme, whole: bool) -> dict[int, dict[date, float]] | None:
    """Solve it: the share of each bundle on each of its days; None without an answer in time."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp

    count = len(programme.choices)
    kinds = np.zeros(len(programme.cost))
    kinds[:count] = 1 if whole else 0
    answer = milp(
        programme.cost, integrality=kinds, bounds=Bounds(np.zeros(len(programme.cost)), programme.most),
        constraints=LinearConstraint(programme.matrix, programme.low, programme.high),
        options={"time_limit": TIME_S, "mip_rel_gap": 1e-3},
    )  # fmt: skip
    if answer.x is None:
        return None
    shares: dict[int, dict[date, float]] = {}
    for (i, day), share in zip(programme.choices, answer.x[:count], strict=True):
        shares.setdefault(i, {})[day] = float(share)
    return shares


def least_peak(bundles: Sequence[Bundle], days: Days) -> float:
    """The fullest day of the relaxation, minutes, where all fits into the days: no placing can do better."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp

    written = programme(bundles, days)
    count = len(written.choices)
    written.cost = np.zeros(len(written.cost))
    written.cost[-1] = 1.0
    most = np.zeros(len(written.cost))
    most[:count], most[-1] = 1.0, np.inf
    answer = milp(
        written.cost, bounds=Bounds(np.zeros(len(written.cost)), most),
        constraints=LinearConstraint(written.matrix, written.low, written.high),
    )  # fmt: skip
    return float(answer.x[-1])
