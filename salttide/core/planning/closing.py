"""Which planned work an act carries out, and which occurrence of the rota it was, by whatever door it was entered."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from ..basics.dates import later
from ..ledger.entries import Change, Dose, Entry, Reading, TopOff
from ..science.parameters import Parameter
from ..system.inspection import VisualCheck
from ..upkeep.rota import Occurrence, Planned
from .work_order import ChangeWorkOrder, DoseWorkOrder, VisualCheckOrder, WaterWorkOrder, Work

CARRIED_OUT = 0.5
"""The least share of its planned size at which an act counts as the planned step (judgement): what is smaller was
something else, or only a part."""
EARLY = timedelta(days=1)
"""How early a planned step may be carried out (judgement): what is given the evening before must not be given again."""


def step_done(entry: Entry, day: date, steps: Sequence[tuple[Planned, Work]]) -> Planned | None:
    """The planned step that an entry of a day carries out: the first of its kind planned for up to the day after it;
    None where there is none. A dose counts by what it raises, whatever it was made of; a daily dose carries out no step
    of a correction.

    >>> from datetime import datetime
    >>> from salttide.core.science.parameters import Parameter
    >>> order = DoseWorkOrder("soda", 10.0, {Parameter.ALKALINITY: 189.0})
    >>> planned = [(Planned(n, date(2026, 11, n), "dose", 5.0, "dose"), order) for n in (25, 26)]
    >>> def done(meq):
    ...     dose = Dose(datetime(2026, 11, 24, 12), "bicarbonate", 1.0, {Parameter.ALKALINITY: meq})
    ...     found = step_done(dose, date(2026, 11, 24), planned)
    ...     return found and found.step_id
    >>> done(170.0), done(40.0)
    (25, None)
    """
    due = sorted((pair for pair in steps if pair[0].day <= day + EARLY), key=lambda pair: pair[0].day)
    return next((step for step, work in due if _carries_out(entry, work)), None)


def _carries_out(entry: Entry, work: Work) -> bool:
    if isinstance(work, WaterWorkOrder):
        return _pours(entry, work)
    if isinstance(entry, Change):
        return isinstance(work, ChangeWorkOrder) and entry.out_l >= max(CARRIED_OUT * work.litres, 0.1)
    if isinstance(entry, Dose):
        if not isinstance(work, DoseWorkOrder) or entry.routine or not work.amounts:
            return False
        return all(entry.amounts.get(p, 0.0) >= CARRIED_OUT * amount for p, amount in work.amounts.items())
    if not isinstance(work, VisualCheckOrder):
        return False
    if work.tests:
        return isinstance(entry, Reading) and entry.parameter == work.tests
    return isinstance(entry, VisualCheck)


NEAR_PPT = 5.0
"""Water within this salinity of what was planned counts as that water (judgement)."""


def _pours(entry: Entry, work: WaterWorkOrder) -> bool:
    """Whether an entry pours the planned water: at least half of it, fresh where it should be fresh."""
    if isinstance(entry, Change) and work.out_l:
        holds, least, litres = entry.incoming, CARRIED_OUT * work.out_l, entry.out_l
    elif isinstance(entry, TopOff) and not work.out_l:
        holds, least, litres = entry.holds, CARRIED_OUT * work.in_l, entry.litres
    else:
        return False
    salinity, wanted = holds.get(Parameter.SALINITY, 0.0), work.holds.get(Parameter.SALINITY, 0.0)
    return litres >= least and abs(salinity - wanted) <= NEAR_PPT


def occurrence_done(day: date, open_work: Sequence[Occurrence]) -> Occurrence | None:
    """The occurrence that doing its task on a day was, of those that are open: the next one, from the first day of its
    window or from half its interval on; None before that, where it was done in between."""
    mine = [item for item in open_work if item.step_id is None]
    first = min(mine, key=lambda item: item.due, default=None)
    if first is None:
        return None
    return first if min(first.earliest, later(first.due, -first.every_days // 2)) <= day else None
