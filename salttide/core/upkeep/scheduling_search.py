"""Scheduling without a solver: bundles placed one after the other, then moved to better days as long as something
improves. Costs in minutes: minutes over what the keeper has, an uneven week, a further round on a system's day, and
what the day of each piece of work costs by itself.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date
from math import inf

from .scheduling_model import LATE_COST, Bundle, Days, clashing

OVER_COSTS = ((0.25, 60.0), (0.75, 120.0), (inf, 240.0))
"""The cost of a minute beyond the keeper's own, more than any preferred day; for the first quarter over the usual
minutes of a day, for the next three, and for the rest: one day far too full is worse than some a little (judgement)."""
UNEVEN_COST = 1.0
"""The cost of one more minute on a day exactly full; half of it on one half full (judgement)."""
ROUND_COST = 4.0
"""Fetching, laying out and clearing away for a round on one system (judgement)."""
EASED_COST = 20.0
"""The most that a move to ease the fullest day may cost (judgement)."""
PASSES, LEVELLED = 12, 2000
"""The number of passes, and of moves off the fullest days."""


def over_cost(over: float, usual: float) -> float:
    """The cost of so many minutes beyond the keeper's own, where a day usually has `usual`.

    >>> over_cost(10.0, 40.0), over_cost(20.0, 40.0), over_cost(60.0, 40.0)
    (600.0, 1800.0, 9000.0)
    """
    cost = 0.0
    for share, a_minute in OVER_COSTS:
        part = min(over, share * usual)
        cost, over = cost + a_minute * part, over - part
    return cost


class Board:
    """The days with what stands on them so far. most: minutes that no day shall be raised above."""

    def __init__(self, bundles: Sequence[Bundle], days: Days, most: float = inf) -> None:
        self.bundles, self.most = bundles, most
        self.minutes = [bundle.minutes for bundle in bundles]
        self.room = {day: days.room(day) for bundle in bundles for day in bundle.days if days.has(day)}
        self.usual = days.usual
        self.load: dict[date, float] = dict.fromkeys(self.room, 0.0)
        self.rounds: Counter[tuple[int, date]] = Counter()
        self.stands: dict[int, date] = {}
        self.against: dict[int, list[tuple[int, int]]] = {}
        for i, j, gap in clashing(bundles):
            self.against.setdefault(i, []).append((j, gap))
            self.against.setdefault(j, []).append((i, gap))

    def put(self, i: int, day: date) -> None:
        """Put a bundle on a day."""
        self.stands[i] = day
        self.load[day] = self.load.get(day, 0.0) + self.minutes[i]
        self.rounds[self.bundles[i].system, day] += 1

    def take(self, i: int) -> date:
        """Take a bundle off its day."""
        day = self.stands.pop(i)
        self.load[day] -= self.minutes[i]
        self.rounds[self.bundles[i].system, day] -= 1
        return day

    def free(self, i: int, day: date) -> bool:
        """Whether nothing that stands there keeps it away."""
        stands = self.stands
        return not any(j in stands and abs((stands[j] - day).days) < gap for j, gap in self.against.get(i, ()))

    def over(self, day: date, more: float = 0.0) -> float:
        """Minutes beyond what the keeper has."""
        return max(0.0, self.load.get(day, 0.0) + more - self.room.get(day, 0.0))

    def over_price(self, day: date, more: float) -> float:
        """What so many minutes more, or less, on a day cost for being beyond what the keeper has."""
        return over_cost(self.over(day, more), self.usual) - over_cost(self.over(day), self.usual)

    def fullness(self, day: date, more: float = 0.0) -> float:
        """Minutes of a day, by what the keeper has on it."""
        room = self.room.get(day, 0.0)
        return (self.load.get(day, 0.0) + more) / room if room else 0.0

    def price(self, i: int, day: date) -> float:
        """The cost of putting a bundle on a day as things stand."""
        minutes, load, room = self.minutes[i], self.load.get(day, 0.0), self.room.get(day, 0.0)
        uneven = UNEVEN_COST * (min(load + minutes, room) ** 2 - min(load, room) ** 2) / 2 / room if room else 0.0
        round_of_its_own = 0.0 if self.rounds[self.bundles[i].system, day] else ROUND_COST
        return self.over_price(day, minutes) + uneven + round_of_its_own + self.bundles[i].days[day]

    def best(self, i: int) -> date:
        """The cheapest day that nothing keeps it away from; if all are kept, the cheapest of all."""
        open_days = [day for day in self.bundles[i].days if self.free(i, day)] or list(self.bundles[i].days)
        low = [day for day in open_days if self.load.get(day, 0.0) + self.minutes[i] <= self.most] or open_days
        return min(low, key=lambda day: (self.price(i, day), day))


def search(bundles: Sequence[Bundle], days: Days) -> tuple[dict[int, date], bool]:
    """Place all bundles: those with the fewest days first, and of these the longest."""
    board = Board(bundles, days)
    choice = [sum(cost < LATE_COST for cost in bundle.days.values()) for bundle in bundles]
    for i in sorted(range(len(bundles)), key=lambda i: (choice[i], -board.minutes[i])):
        board.put(i, board.best(i))
    return settled(board), False


def settled(board: Board) -> dict[int, date]:
    """The fullest days eased first, then each piece of work on a better day, without a fuller one."""
    level(board)
    board.most = max(board.load.values(), default=inf)
    return improved(board)


def level(board: Board) -> None:
    """Take work off the fullest day, as measured by what the keeper has, onto a day that stays less full by it."""
    for _ in range(LEVELLED):
        fullest = max(board.load, key=board.fullness, default=None)
        if fullest is None or not _eased(board, fullest):
            return


def _eased(board: Board, fullest: date) -> bool:
    """Move what costs least; whether anything could be moved."""
    moves = []
    for i in [i for i, day in board.stands.items() if day == fullest and len(board.bundles[i].days) > 1]:
        minutes, held = board.minutes[i], board.bundles[i].days[fullest]
        saved = -board.over_price(fullest, -minutes)
        for day, cost in board.bundles[i].days.items():
            less = board.fullness(day, minutes) < board.fullness(fullest) - 1e-6
            less = less and board.over_price(day, minutes) <= saved
            if day != fullest and less and cost - held < EASED_COST and board.free(i, day):
                moves.append((cost - held + board.load[day] / 10, i, day))
    if not moves:
        return False
    _, i, day = min(moves)
    board.take(i)
    board.put(i, day)
    return True


def improved(board: Board) -> dict[int, date]:
    """Move each to a better day until nothing gets better, or it has been tried often enough."""
    movable = [i for i, bundle in enumerate(board.bundles) if len(bundle.days) > 1]
    for _ in range(PASSES):
        moved = False
        for i in movable:
            day = board.take(i)
            best = board.best(i)
            if not (board.free(i, day) and board.price(i, day) <= board.price(i, best) + 1e-9):
                moved, day = moved or best != day, best
            board.put(i, day)
        if not moved:
            break
    return dict(board.stands)


def peak(bundles: Sequence[Bundle], stands: Mapping[int, date]) -> float:
    """The minutes of the fullest day."""
    load: Counter[date] = Counter()
    for i, day in stands.items():
        load[day] += bundles[i].minutes  # type: ignore[assignment]
    return max(load.values(), default=0.0)
