"""What a pump really delivers, estimated from its container: the delivered share, what is left, and the likely fault.
What is missing between two known levels was delivered, whatever the pump was set to.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta, tzinfo
from enum import StrEnum
from math import inf, sqrt

from ..basics.dates import later
from ..basics.number_text import show_number
from ..basics.phrasing import capital, moment_words
from ..ledger.daily import DOSED_AT
from ..ledger.entries import Dose
from ..ledger.plan import DailyDose
from ..system.additive_amount import grams_in, rises
from ..system.shelf import Additive
from ..upkeep.rota import Occurrence
from .container import TUBE_DAYS, Container, ContainerKind, tube_days

PUMP_WAVER = 0.03
"""A sound pump delivers within this share of its setting (judgement)."""
MIN_LOSS = 0.08
SURE_SDS = 3.0
"""A delivery counts as off beyond this share, and beyond this many standard deviations of the levels."""
USUAL_SD = 0.10
"""The prior scatter of the delivered share around the setting (judgement)."""


@dataclass(frozen=True)
class ConsumedInterval:
    """What left a container between two known levels, and what was set, mL; sd of what left."""

    first: datetime
    last: datetime
    fell_ml: float
    set_ml: float
    sd_ml: float

    @property
    def days(self) -> float:
        return (self.last - self.first) / timedelta(days=1)


def falls(container: Container) -> list[ConsumedInterval]:
    """The intervals between known levels, oldest first; unknown where it was filled without reading the level first."""
    found: list[ConsumedInterval] = []
    known: tuple[datetime, float] | None = None
    sd = container.level_sd_ml * sqrt(2)
    for event in container.of(ContainerKind.FILLED, ContainerKind.LEVEL):
        before = event.ml if event.kind == ContainerKind.LEVEL else event.before_ml
        if known and before is not None and event.at > known[0]:
            set_ml = container.set_between(known[0], event.at)
            found.append(ConsumedInterval(known[0], event.at, known[1] - before, set_ml, sd))
        known = (event.at, event.ml)
    return found


def _joined(parts: Sequence[ConsumedInterval], container: Container) -> ConsumedInterval:
    """Several intervals as one: errors of levels in between cancel out."""
    filled = sum(parts[0].first < event.at < parts[-1].last for event in container.of(ContainerKind.FILLED))
    sd = container.level_sd_ml * sqrt(2 + 2 * filled)
    return ConsumedInterval(
        parts[0].first, parts[-1].last, sum(p.fell_ml for p in parts), sum(p.set_ml for p in parts), sd
    )


def _resets(container: Container) -> list[datetime]:
    """When the pump was calibrated or got a new tube, which ends an earlier fault."""
    return [event.at for event in container.of(ContainerKind.CALIBRATED, ContainerKind.TUBE)]


class Fault(StrEnum):
    """What a container's level says of its pump."""

    SHORT = "short"
    OVER = "over"


@dataclass(frozen=True)
class Delivery:
    """The delivered share of the setting since a day, with its standard deviation; fault: None where the container
    falls as it should."""

    share: float
    sd: float
    since: datetime
    fault: Fault | None

    @property
    def lost_percent(self) -> float:
        """The shortfall against the setting, %."""
        return 100 * (1 - self.share)


def delivery_of(container: Container, now: datetime) -> Delivery | None:
    """Whether the pump delivers what it is set to, by the levels since it was last calibrated; None where none is.

    Every moment it may have gone wrong is tried and the most certain taken: good months before do not excuse a pump
    that lost a fifth last week.

    >>> from .container import ContainerEvent
    >>> from datetime import UTC
    >>> noon = datetime(2026, 11, 24, 12, tzinfo=UTC)
    >>> events = [ContainerEvent(noon, ContainerKind.FILLED, 1000.0), ContainerEvent(noon, ContainerKind.SET, 20.0)]
    >>> events.append(ContainerEvent(noon + timedelta(days=14), ContainerKind.LEVEL, 776.0))
    >>> soda = Additive(1, "soda stock", "Na2CO3", strength_g_l=100.0)
    >>> found = delivery_of(Container(1, "soda", soda, 1000.0, 3.0, events=events), noon + timedelta(days=14))
    >>> round(found.share, 2), found.fault
    (0.8, <Fault.SHORT: 'short'>)
    """
    since = max((at for at in _resets(container) if at <= now), default=None)
    return _delivered_between(container, falls(container), since, now)


def _delivered_between(
    container: Container, fell: Sequence[ConsumedInterval], since: datetime | None, now: datetime
) -> Delivery | None:
    """The delivery by the levels between two moments."""
    known = [fall for fall in fell if fall.last <= now and (since is None or fall.first >= since)]
    stretches = [fall for fall in known if fall.set_ml > 0]
    if not stretches:
        return None
    tried = [_joined(stretches[place:], container) for place in range(len(stretches))]
    worst = max(tried, key=_surely)
    share, sd = worst.fell_ml / worst.set_ml, _sd(worst) / worst.set_ml
    off = abs(1 - share) >= MIN_LOSS and _surely(worst) >= SURE_SDS
    if not off:
        share, sd = _shrunk(tried[0])
        return Delivery(share, sd, tried[0].first, None)
    return Delivery(max(0.0, share), sd, worst.first, Fault.SHORT if share < 1 else Fault.OVER)


def _sd(fall: ConsumedInterval) -> float:
    return sqrt(fall.sd_ml**2 + (PUMP_WAVER * fall.set_ml) ** 2)


def _surely(fall: ConsumedInterval) -> float:
    return abs(fall.set_ml - fall.fell_ml) / _sd(fall)


def _shrunk(fall: ConsumedInterval) -> tuple[float, float]:
    """The delivered share, weighing what was read against what was set by their certainty."""
    read, sd = fall.fell_ml / fall.set_ml, fall.sd_ml / fall.set_ml
    weight = USUAL_SD**2 / (USUAL_SD**2 + sd**2)
    return max(0.0, 1 + weight * (read - 1)), sd * sqrt(weight)


class DeliveredShares:
    """The delivered share of a container's setting at any moment, by the levels known `now`."""

    def __init__(self, container: Container, now: datetime) -> None:
        self.container, self.now = container, now
        self.fell = [fall for fall in falls(container) if fall.last <= now]
        self.resets = [each for each in _resets(container) if each <= now]
        self.estimates: dict[datetime | None, Delivery | None] = {}

    def at(self, at: datetime) -> float:
        """The share at a moment: what the levels of one pump and tube say of it, else of the interval it lies in."""
        estimate = self._estimate(at)
        if estimate and estimate.fault and at >= estimate.since:
            return estimate.share
        within = (fall for fall in self.fell if fall.first <= at < fall.last and fall.set_ml > 0)
        fall = next(within, None)
        return _shrunk(fall)[0] if fall else 1.0

    def _estimate(self, at: datetime) -> Delivery | None:
        """The delivery between the resets before and after a moment."""
        begun = max((each for each in self.resets if each <= at), default=None)
        if begun not in self.estimates:
            ended = min((each for each in self.resets if each > at), default=self.now)
            self.estimates[begun] = _delivered_between(self.container, self.fell, begun, ended)
        return self.estimates[begun]


def delivered_doses(container: Container, since: datetime, now: datetime, zone: tzinfo) -> list[Dose]:
    """What was delivered on each of the keeper's days, as entries of the ledger: the setting times the delivered share.
    Nothing counts before its pump was first set, and nothing beyond what the last known level held.
    """
    turns, known = container.of(ContainerKind.SET), container.of(ContainerKind.FILLED, ContainerKind.LEVEL)
    if not turns:
        return []
    day, shares = max(since, turns[0].at).astimezone(zone).date(), DeliveredShares(container, now)
    of_one_ml = dose_of(container.additive, 1.0, now)
    found, left, read_at = [], *((known[-1].ml, known[-1].at) if known else (inf, now))
    while (noon := datetime.combine(day, DOSED_AT, zone)) <= now:
        begin, end = (datetime.combine(each, time(), zone) for each in (day, day + timedelta(days=1)))
        share = shares.at(noon)
        since_read = min(left, container.set_between(max(begin, read_at), end) * share) if end > read_at else 0.0
        left -= since_read
        ml = since_read + (container.set_between(begin, min(end, read_at)) * share if begin < read_at else 0.0)
        if ml > 0:
            found.append(_as_much(of_one_ml, ml, noon))
        day += timedelta(days=1)
    return found


def _as_much(of_one_ml: Dose, ml: float, at: datetime) -> Dose:
    amounts = {parameter: amount * ml for parameter, amount in of_one_ml.amounts.items()}
    return replace(of_one_ml, at=at, mass_g=of_one_ml.mass_g * ml, amounts=amounts)


def dose_of(additive: Additive, ml: float, at: datetime) -> Dose:
    """A volume (mL) of a solution as a daily dose."""
    mass_g = grams_in(additive, ml / 1000, True)
    return Dose(at, additive.name, mass_g, rises(additive, mass_g, 1.0), True)


def daily_dose(container: Container, now: datetime) -> DailyDose | None:
    """What the pump will deliver a day if it carries on as now; None where nothing is set, or it ran dry."""
    ml = container.set_at(now) * DeliveredShares(container, now).at(now)
    found = contents(container, now)
    if not ml or (found and not found.ml):
        return None
    dose = dose_of(container.additive, ml, now)
    return DailyDose(dose.additive, dose.mass_g, dose.amounts, ml=ml)


def with_pumps(pumped: Sequence[DailyDose], others: Sequence[DailyDose]) -> tuple[DailyDose, ...]:
    """The daily doses: those of pumps, and of the others those that raise something else."""
    raised = {parameter for dose in pumped for parameter in dose.amounts}
    return (*pumped, *(dose for dose in others if not raised & {*dose.amounts}))


@dataclass(frozen=True)
class Contents:
    """What is in a container now, mL with its standard deviation, and how long it lasts; days: None where nothing is
    drawn. expected_ml: what would be left if the pump had delivered its setting."""

    ml: float
    sd_ml: float
    expected_ml: float
    days: float | None
    read_at: datetime

    def empty_on(self, today: date) -> date | None:
        """The day on which it runs dry."""
        return None if self.days is None else later(today, self.days)


RESERVE_SHARE = 0.1
"""The share of a container below which it is refilled: a pump that draws air loses its prime (judgement)."""


def contents(container: Container, now: datetime) -> Contents | None:
    """What is left, by the last known level and the delivery since; None where it was never filled."""
    known = container.of(ContainerKind.FILLED, ContainerKind.LEVEL)
    if not known:
        return None
    last = known[-1]
    estimate = delivery_of(container, now)
    share = DeliveredShares(container, now).at(now)
    out = container.set_between(last.at, now)
    begins = [e for e in known if e.kind == ContainerKind.FILLED] or known[:1]
    whole = container.set_between(begins[-1].at, now)
    left = max(0.0, last.ml - out * share)
    a_day = container.set_at(now) * share
    sd = sqrt(container.level_sd_ml**2 + (out * (estimate.sd if estimate else PUMP_WAVER)) ** 2)
    return Contents(left, sd, max(0.0, begins[-1].ml - whole), left / a_day if a_day else None, last.at)


def refill_days(container: Container, now: datetime) -> float | None:
    """Days until only the reserve is left, 0 where below it; None where nothing is drawn or it was never filled."""
    found = contents(container, now)
    if found is None or found.days is None:
        return None
    spare = found.ml - RESERVE_SHARE * container.capacity_ml
    return max(0.0, spare) / found.ml * found.days if found.ml else 0.0


REFILL, REFILL_MINUTES, REFILL_WINDOW = "container_refill", 10.0, timedelta(days=3)


def refills(containers: Sequence[Container], now: datetime, until: date, zone: tzinfo) -> list[Occurrence]:
    """When to refill each container, as work on the rota, if before `until`."""
    today = now.astimezone(zone).date()
    found = []
    for one in containers:
        days = refill_days(one, now)
        if days is None:
            continue
        due = later(today, days)
        if due <= until:
            left = contents(one, now)
            assert left
            why = f"about {show_number(left.ml, 0)} mL left, {show_number(one.set_at(now), 1)} mL a day"
            earliest = max(today, due - REFILL_WINDOW)
            name = f"Refill {one.name}"
            found.append(Occurrence(REFILL, name, due, due, earliest, due, REFILL_MINUTES, why))
    return found


@dataclass(frozen=True)
class Diagnosis:
    """A likely fault, why, and what to do first."""

    title: str
    reason: str
    steps: tuple[str, ...]


def diagnosis(container: Container, others: Sequence[Container], now: datetime, zone: tzinfo) -> Diagnosis | None:
    """The likely fault (pump, tube or leak), by how this container falls compared with the others of its set; None
    where all is well."""
    estimate = delivery_of(container, now)
    if estimate is None or estimate.fault is None:
        return None
    partners = [one for one in others if one.id != container.id and one.set_name and one.set_name == container.set_name]
    alike = [one for one in partners if (other := delivery_of(one, now)) and other.fault == estimate.fault]
    sound = [one for one in partners if (other := delivery_of(one, now)) and other.fault is None]
    since = moment_words(estimate.since, zone)
    percent = show_number(100 * estimate.share, 0)
    reason = f"It delivered {percent} % of what it was set to since {since}, worked out from its levels."
    if estimate.fault == Fault.OVER:
        return Diagnosis(
            f"{capital(container.name)} empties too fast",
            reason + (f" {capital(sound[0].name)} falls as set." if sound else ""),
            (
                "Feel under the container and along the tube for wet: a leak.",
                "See whether it drips with the pump off: then it siphons. Lift the tube's end over the water.",
                "Then catch a timed volume and calibrate.",
            ),
        )
    if alike:
        return Diagnosis(
            f"{capital(container.name)} and {alike[0].name} both fall too slowly",
            f"{reason} The other part of the set does the same: look for one cause.",
            ("See whether the pump's clock and power were off.", "Then catch a timed volume of each and calibrate."),
        )
    old = tube_days(container, now)
    tube = f"Its tube is {show_number(old / 30.4, 0)} months old: replace it. " if old and old > TUBE_DAYS else ""
    return Diagnosis(
        f"The pump of {container.name} loses {show_number(estimate.lost_percent, 0)} %",
        reason + (f" {capital(sound[0].name)} falls as set: it is this pump or its tube." if sound else ""),
        (
            f"{tube}Look for air, a kink, or a crust at the tube's end.",
            "Catch a timed volume and calibrate; until then what really came is counted.",
            "Do not pour in at once what is missing: the correction spreads it over days.",
        ),
    )
