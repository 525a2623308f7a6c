"""The daily budget of a system, estimated from its record: what it uses, makes and loses, each with its interval, in
words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta, tzinfo

from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import moment_words
from ..ledger.entries import Feed, Harvest, Ledger
from ..ledger.plan import Plan
from ..science.parameters import Parameter, spoken
from ..science.units import UnitChoice, difference_shown, show, unit_of
from .evaporation import evaporation_estimate
from .rate import SURE_OF_A_STEP, Rate
from .settling import settling
from .supplementation import Changes
from .uptake import Companion, companions

USED = (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM)
MADE = (Parameter.NITRATE, Parameter.PHOSPHATE)
TOO_FEW = "too few readings: it takes four over six days"


@dataclass(frozen=True)
class BudgetLine:
    """One line of the budget: what it is, how much with its interval, and a remark."""

    name: str
    amount: str
    remarks: tuple[str, ...] = ()


def budget(
    ledger: Ledger, rates: Mapping[Parameter, Rate | None], plan: Plan, now: datetime, zone: tzinfo, units: UnitChoice,
    changes: Changes | None = None,
) -> list[BudgetLine]:  # fmt: skip
    """Uptake of alkalinity with its calcium and magnesium, production of nutrients against food and the routine of
    changes, and evaporation.

    Doses, changes and top-offs are all counted. Only measured parameters get a line.

    >>> from datetime import UTC
    >>> noon = datetime(2026, 11, 24, 12, tzinfo=UTC)
    >>> budget(Ledger(100.0), {Parameter.NITRATE: None}, Plan(), noon, UTC, {})[0].amount
    'too few readings: it takes four over six days'
    """
    lines = [_used(ledger, p, rates, plan, zone, units) for p in USED if p in rates]
    lines += [_made(ledger, p, rates[p], now, zone, units, changes) for p in MADE if p in rates]
    evaporated = evaporation_estimate(ledger, now)
    if evaporated:
        low, high = litres_words(evaporated.low_l, 2), litres_words(evaporated.high_l, 2)
        amount = f"{litres_words(evaporated.per_day_l, 2)} a day ({low} to {high})"
        lines.append(BudgetLine("Evaporation", amount, (f"from {evaporated.count} top-offs",)))
    elif ledger.top_offs:
        lines.append(BudgetLine("Evaporation", "too few top-offs: it takes five in ten weeks"))
    return lines


def speed_words(parameter: Parameter, per_day: float, units: UnitChoice, unit: bool = True) -> str:
    """An amount a day in the keeper's unit, with one digit more than a result: it is a mean of many."""
    known = unit_of(parameter, units)
    size = difference_shown(parameter, per_day, units)
    return f"{show_number(size, known.decimals + 1)} {known.label if unit else ''}".strip()


def rate_words(parameter: Parameter, found: Rate | None, dosed: float, units: UnitChoice) -> str:
    """A parameter's own daily rate, and the rate with the daily doses (canonical a day), in words."""
    if found is None:
        return "too few readings to estimate its rate"
    count = f"from {found.count} readings"
    if not found.real and not dosed:
        return f"steady by itself, {count}"
    way = "falls" if found.per_day < 0 else "rises"
    size, wide = (speed_words(parameter, abs(each), units) for each in (found.per_day, (found.high - found.low) / 2))
    words = f"{way} by itself {size} a day (± {wide})"
    return f"{words}, dosed {speed_words(parameter, dosed, units)}, {count}" if dosed else f"{words}, {count}"


def _interval(parameter: Parameter, low: float, value: float, high: float, units: UnitChoice) -> str:
    between = f"{speed_words(parameter, low, units, False)} to {speed_words(parameter, high, units, False)}"
    return f"{speed_words(parameter, value, units)} a day ({between})"


def _used(
    ledger: Ledger, parameter: Parameter, rates: Mapping[Parameter, Rate | None], plan: Plan, zone: tzinfo,
    units: UnitChoice,
) -> BudgetLine:  # fmt: skip
    name, found = f"Uptake of {spoken(parameter)}", rates[parameter]
    if found is None:
        return BudgetLine(name, TOO_FEW)
    remarks = [f"from {found.count} readings since {moment_words(found.since, zone)}"]
    dosed = plan.per_day(parameter) / ledger.volume_l
    if dosed:
        remarks.append(f"dosed {speed_words(parameter, dosed, units)} a day")
    remarks += _step(found, zone)
    beside = _beside_alkalinity(parameter, rates)
    if beside is None:
        return BudgetLine(name, _interval(parameter, -found.high, -found.per_day, -found.low, units), tuple(remarks))
    goes = f"{expected_words(beside, units)} a day"
    if beside.untold:
        return BudgetLine(name, goes, ("what goes with the alkalinity", beside.words, *remarks))
    remarks.append(f"{goes} goes with the alkalinity: {beside.words}")
    return BudgetLine(name, _interval(parameter, -found.high, -found.per_day, -found.low, units), tuple(remarks))


def _step(found: Rate, zone: tzinfo) -> list[str]:
    if found.step < SURE_OF_A_STEP or found.stepped_at is None:
        return []
    return [f"took a step about {moment_words(found.stepped_at, zone)}"]


def _beside_alkalinity(parameter: Parameter, rates: Mapping[Parameter, Rate | None]) -> Companion | None:
    """Calcium or magnesium beside the alkalinity used, where that is known."""
    alkalinity = rates.get(Parameter.ALKALINITY)
    if alkalinity is None or not alkalinity.real or parameter == Parameter.ALKALINITY:
        return None
    both = companions(-alkalinity.per_day, rates.get(Parameter.CALCIUM), rates.get(Parameter.MAGNESIUM))
    return next(one for one in both if one.parameter == parameter)


def expected_words(beside: Companion, units: UnitChoice) -> str:
    """What should go with the alkalinity, as an amount or between two."""
    parameter, ends = beside.parameter, (beside.expected_low, beside.expected_high)
    low, high = (speed_words(parameter, end, units, False) for end in ends)
    label = unit_of(parameter, units).label
    return f"{high} {label}" if low == high else f"{low} to {high} {label}"


def _made(
    ledger: Ledger, parameter: Parameter, found: Rate | None, now: datetime, zone: tzinfo, units: UnitChoice,
    changes: Changes | None,
) -> BudgetLine:  # fmt: skip
    name = f"Production of {spoken(parameter)}"
    if found is None:
        return BudgetLine(name, TOO_FEW)
    days = max(1.0, (now - found.since) / timedelta(days=1))
    remarks = [f"from {found.count} readings since {moment_words(found.since, zone)}", *_step(found, zone)]
    brought = _a_day(ledger, parameter, [f for f in ledger.feeds if f.at >= found.since], days)
    if brought:
        share = found.per_day / brought
        remarks.append(f"food brings {speed_words(parameter, brought, units)} a day")
        if 0 < share <= 1:
            less = speed_words(parameter, found.per_day / 10, units)
            remarks.append(
                f"{show_number(100 * share, 0)} % of it is found in the water; a tenth less food makes {less} less"
            )
        elif share <= 0:
            remarks.append("all of it is eaten, skimmed or taken up")
    if changes and found.real:
        remarks += _settles(parameter, found.per_day, changes, bool(brought), units)
    taken = _a_day(ledger, parameter, [h for h in ledger.harvests if h.at >= found.since], days)
    if taken:
        remarks.append(f"harvests took {speed_words(parameter, taken, units)} a day")
    return BudgetLine(name, _interval(parameter, found.low, found.per_day, found.high, units), tuple(remarks))


def _settles(parameter: Parameter, per_day: float, changes: Changes, fed: bool, units: UnitChoice) -> list[str]:
    """Where it comes to with the routine of changes, as it is fed and with half the food."""
    whole, half = (settling(share * per_day, changes, parameter) for share in (1.0, 0.5))
    if whole is None or half is None:
        return []
    now, then = (show(parameter, one.level, units) for one in (whole, half))
    said = f"with these changes it settles near {now} in {show_number(whole.weeks, 0)} weeks"
    with_half = f", with half the food near {then} if the same share of it is eaten"
    return [said + with_half if fed and per_day > 0 else said]


def _a_day(ledger: Ledger, parameter: Parameter, entries: Sequence[Feed | Harvest], days: float) -> float:
    """What entries added, in mg per litre and day."""
    held = sum((e.brought if isinstance(e, Feed) else e.bound).get(parameter, 0.0) for e in entries)
    return held / ledger.volume_l / days
